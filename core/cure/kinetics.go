package cure

import (
	"fmt"
	"math"

	"nephelon/core/measure"
)

// Kinetics holds how a mix reacts: dα/dt = (k₁ + k₂·αᵐ)·(1 − α)ⁿ with
// kᵢ = Aᵢ·exp(−Eᵢ/RT), after Kamal and Sourour 1973, α being the share that has
// reacted.
type Kinetics struct {
	A1     float64 `json:"a1" minimum:"0" doc:"1/s"`
	E1     float64 `json:"e1" minimum:"0" maximum:"300000" doc:"J/mol"`
	A2     float64 `json:"a2" minimum:"0" doc:"1/s"`
	E2     float64 `json:"e2" minimum:"0" maximum:"300000" doc:"J/mol"`
	M      float64 `json:"m" minimum:"0" maximum:"5"`
	N      float64 `json:"n" minimum:"0" maximum:"5"`
	Heat   float64 `json:"heat" minimum:"0" maximum:"2000000" doc:"J/kg of mix"`
	Cp     float64 `json:"cp" minimum:"200" maximum:"10000" doc:"J/(kg·K)"`
	Usable float64 `json:"usable,omitempty" minimum:"0" exclusiveMaximum:"1" doc:"Share reacted at which it can no longer be used, below gel; 0.35 of gel, assumed, when left out"`
	Gel    float64 `json:"gel" exclusiveMinimum:"0" exclusiveMaximum:"1" doc:"Share reacted at which it is a jelly"`

	Source measure.Source `json:"source,omitempty" doc:"From memory when left out"`
}

// usableShare is the part of gel that has reacted when a mix can no longer be spread:
// assumed, from where its viscosity has about doubled by the law of Castro and
// Macosko 1980. Sheets end a pot life by viscosity or by feel, well before gel.
const usableShare = 0.35

// Ends is the share reacted at which the mix can no longer be used.
func (k Kinetics) Ends() float64 {
	if k.Usable > 0 {
		return k.Usable
	}
	return usableShare * k.Gel
}

// Epoxy is a room-temperature epoxy and amine, from memory, to be calibrated by
// the sheet's own pot life.
func Epoxy() Kinetics {
	return Kinetics{A1: 2e4, E1: 56000, A2: 2e5, E2: 53000, M: 0.8, N: 1.7, Heat: 380e3, Cp: 1800, Gel: 0.6}
}

// Usual returns how the mixes of a chemistry react: all from memory, to be calibrated
// by the sheet's own pot life. Unknown chemistries take the epoxy's. Less than
// all of a solvent- or water-borne mix reacts, so its heat is that of its solids.
func Usual(chemistry string, solids measure.Fraction) Kinetics {
	k := Epoxy()
	k.Heat = 300e3 // diluents and fillers react less than neat resin
	switch chemistry {
	case "polyurethane":
		k.Heat, k.E1, k.E2, k.M, k.N, k.Gel = 240e3, 50000, 48000, 0.5, 1.6, 0.6
	case "polyaspartic":
		k.Heat, k.E1, k.E2, k.M, k.N, k.Gel = 260e3, 44000, 42000, 0.5, 1.6, 0.6
	case "polyester", "acrylic":
		k.Heat, k.E1, k.E2, k.M, k.N, k.Gel = 300e3, 62000, 58000, 0.9, 1.4, 0.35
	}
	k.Heat *= float64(solids)
	return k
}

func sound(numbers ...float64) bool {
	for _, n := range numbers {
		if math.IsNaN(n) || math.IsInf(n, 0) || n < 0 {
			return false
		}
	}
	return true
}

// Check says which parameter cannot be, and what would be right.
func (k Kinetics) Check() error {
	switch {
	case !sound(k.A1, k.E1, k.A2, k.E2, k.M, k.N, k.Heat, k.Cp, k.Usable):
		return fmt.Errorf("every parameter of the kinetics is a number of zero or more")
	case k.A1 == 0:
		return fmt.Errorf("a1: the initial rate must be more than zero, or the reaction never starts")
	case k.E1 > 300e3 || k.E2 > 300e3:
		return fmt.Errorf("e1, e2: enter at most 300 kJ/mol; resins have 40 to 90")
	case k.M > 5 || k.N > 5:
		return fmt.Errorf("m, n: enter exponents from 0 to 5")
	case k.Heat > 2e6:
		return fmt.Errorf("heat: enter at most 2,000 kJ/kg; neat resins release about 400")
	case k.Cp < 200 || k.Cp > 10e3:
		return fmt.Errorf("cp: the heat capacity must be between 200 and 10,000 J/(kg·K), such as 1800")
	case !(k.Gel > 0 && k.Gel < 1):
		return fmt.Errorf("gel: the degree of cure at gel must be between 0 and 1, such as 0.6")
	case k.Usable >= k.Gel:
		return fmt.Errorf("usable: a mix can no longer be used before it gels; enter less than gel, such as %.2g",
			usableShare*k.Gel)
	}
	return nil
}

// scaled is the same reaction, faster by a factor.
func (k Kinetics) scaled(by float64) Kinetics {
	k.A1, k.A2 = k.A1*by, k.A2*by
	return k
}

// TimeTo returns how long the reaction takes to a degree of cure at a temperature that stays, as in a thin
// film: the integral of dα over the rate, by Simpson's rule. The degree must be in [0, 1).
func (k Kinetics) TimeTo(alpha float64, at measure.Temperature) measure.Span {
	const steps = 64 // even
	width, sum := alpha/steps, 0.0
	for n := 0; n <= steps; n++ {
		f, _, _ := k.rate(float64(n)*width, float64(at)+kelvin)
		weight := 2.0 + 2*float64(n%2)
		if n == 0 || n == steps {
			weight = 1
		}
		sum += weight / f
	}
	return measure.Span(sum * width / 3)
}

// spent is the distance from the end, as a share, at which an order below one is bent to one, so that the
// share reacted comes to 1 and never passes it.
const spent = 1e-4

// rate is dα/dt at a temperature in K, with its derivatives by α and T.
func (k *Kinetics) rate(alpha, kelvins float64) (f, byAlpha, byT float64) {
	alpha = math.Min(1, math.Max(0, alpha))
	over := 1 / (gasConstant * kelvins)
	k1, k2 := k.A1*math.Exp(-k.E1*over), k.A2*math.Exp(-k.E2*over)
	power, slope := 1.0, 0.0
	if k.M > 0 {
		power = math.Pow(alpha, k.M)
		slope = k.M * power / math.Max(alpha, 1e-6)
	}
	rest := 1 - alpha
	left, fall := 1.0, 0.0
	switch {
	case k.N < 1 && rest < spent:
		fall = math.Pow(spent, k.N-1)
		left = fall * rest
	case k.N > 0:
		left = math.Pow(rest, k.N)
		fall = k.N * left / math.Max(rest, 1e-12)
	}
	sum := k1 + k2*power
	f = sum * left
	byAlpha = k2*slope*left - sum*fall
	byT = (k1*k.E1 + k2*power*k.E2) * over / kelvins * left
	return f, byAlpha, byT
}
