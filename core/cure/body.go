package cure

import (
	"fmt"
	"math"

	"nephelon/core/measure"
)

// Vessel holds where a mix stands.
type Vessel struct {
	Mass      measure.Mass        `json:"mass" exclusiveMinimum:"0" maximum:"10000" doc:"kg"`
	Density   measure.Density     `json:"density" minimum:"100" maximum:"10000" doc:"kg/m³"`
	Radius    measure.Length      `json:"radius,omitempty" minimum:"0" maximum:"10" doc:"m inside; as wide as the mix is high when left out"`
	Film      measure.Film        `json:"film,omitempty" minimum:"0" maximum:"1" doc:"m; a spread film, which loses heat from both faces, in place of a bucket"`
	Loss      float64             `json:"loss" minimum:"0" maximum:"10000" doc:"W/(m²·K) from its surface to what is around it"`
	Conducts  float64             `json:"conducts,omitempty" minimum:"0" maximum:"1000" doc:"W/(m·K) of the mix; 0.2 when left out"`
	Viscosity measure.Viscosity   `json:"viscosity,omitempty" minimum:"0" maximum:"100000" doc:"Pa·s of the fresh mix at its start, which lets it stir itself by free convection while it is thin; it only conducts when left out"`
	Start     measure.Temperature `json:"start" minimum:"-20" maximum:"90" doc:"°C of the mix"`
	Air       measure.Temperature `json:"air" minimum:"-40" maximum:"70" doc:"°C of what is around it"`
}

func (v Vessel) check() error {
	switch {
	case !sound(float64(v.Loss), float64(v.Film), float64(v.Radius), v.Conducts, float64(v.Viscosity), float64(v.Mass),
		float64(v.Density)):
		return fmt.Errorf("vessel: every measure is a number of zero or more")
	case v.Mass <= 0 || v.Mass > 10e3:
		return fmt.Errorf("vessel.mass: enter more than zero and at most 10,000 kg")
	case v.Density < 100 || v.Density > 10e3:
		return fmt.Errorf("vessel.density: enter 100 to 10,000 kg/m³, such as 1100")
	case v.Radius > 10 || v.Film > 1:
		return fmt.Errorf("vessel.radius, vessel.film: enter metres, at most 10 across and 1 of film")
	case v.Loss > 10e3 || v.Conducts > 1000 || v.Viscosity > 1e5:
		return fmt.Errorf("vessel.loss, vessel.conducts, vessel.viscosity: enter at most 10,000 W/(m²·K), 1,000 W/(m·K) " +
			"and 100,000 Pa·s")
	case !(v.Start >= -20 && v.Start <= 90):
		return fmt.Errorf("vessel.start: the mix starts between -20 and 90 °C")
	case !(v.Air >= -40 && v.Air <= 70):
		return fmt.Errorf("vessel.air: what is around it is between -40 and 70 °C")
	}
	return nil
}

// conducts is the thermal conductivity of resins, W/(m·K): from memory.
const conducts = 0.2

// shells is into how many layers a body is cut from its middle to its skin, and
// shellsWarm where it is warmed from outside, so that its skin decides. The tests
// hold them against finite differences of a whole cylinder.
const (
	shells     = 5
	shellsWarm = 8
)

// body is a mix as heat sees it: layers from the middle to the skin. A bucket is
// taken as the sphere that has the same surface to its volume, with the
// conductivity that gives it the slowest mode of the cylinder (Carslaw and Jaeger
// 1959, 8.4: (2.4048/R)² + (π/H)²), so that both a slow loss and a fast one come
// out right; a film as a slab that is the same on both faces.
type body struct {
	n      int                 // layers in use
	weight [shellsWarm]float64 // share of the mass
	in     [shellsWarm]float64 // W/(kg·K) from each to the next one out, for the mass of the whole
	half   float64             // kg·K/W from the middle of the skin layer to the skin
	out    float64             // kg·K/W from the skin to what is around it
	around float64             // K

	convects convection
}

// convection is the free convection of a thin mix in a bucket, by Churchill and
// Chu 1975 for a laminar boundary layer on a vertical wall (Incropera, equation
// 9.27): Nu = 0.68 + 0.670·Ra^¼, the Prandtl number of a resin being large.
type convection struct {
	scale float64 // Ra of 1 K at the start's viscosity; 0 where it only conducts
	ratio float64 // conduction's mean Nusselt number on the same height
}

// expands is the thermal expansion of resins, 1/K: from memory.
const expands = 5e-4

func newBody(v Vessel, cp float64) body {
	k := v.Conducts
	if k == 0 {
		k = conducts
	}
	diffuses := k / (float64(v.Density) * cp)
	b := body{n: shells, around: float64(v.Air) + kelvin}
	thinner := 1.0
	if v.Film == 0 && v.Air > v.Start+beyondBy {
		b.n, thinner = shellsWarm, 1.3
	}
	density := float64(v.Density)
	volume := float64(v.Mass) / density
	a, power := float64(v.Film)/2, 1.0 // half the film
	var height float64
	if v.Film == 0 {
		radius := float64(v.Radius)
		if radius == 0 {
			radius = math.Cbrt(volume / (2 * math.Pi))
		}
		height = volume / (math.Pi * radius * radius)
		a, power = 3/(2/radius+2/height), 3
		mode := 2.4048*2.4048/(radius*radius) + math.Pi*math.Pi/(height*height)
		k *= mode * a * a / (math.Pi * math.Pi)
	}
	if v.Loss*a/k < 0.02 {
		b.n = 1 // it is as warm in the middle as at its skin
	}
	heavy := density * math.Pow(a, power) / power // the mass for one unit of solid angle or of face
	// Warmed from outside, the layers grow thinner towards the skin.
	edge := func(i int) float64 { return a * (1 - math.Pow(1-float64(i)/float64(b.n), thinner)) }
	middle := func(i int) float64 { return (edge(i) + edge(i+1)) / 2 }
	for i := range b.n {
		b.weight[i] = (math.Pow(edge(i+1), power) - math.Pow(edge(i), power)) / math.Pow(a, power)
		if i > 0 {
			b.in[i-1] = k * math.Pow(edge(i), power-1) / (middle(i) - middle(i-1)) / heavy
		}
	}
	face := math.Pow(a, power-1) / heavy
	b.half = (a - middle(b.n-1)) / k / face
	b.out = math.Inf(1)
	if v.Loss > 0 {
		b.out = 1 / (v.Loss * face)
	}
	if v.Viscosity > 0 && v.Film == 0 && b.n > 1 {
		b.convects.scale = 9.81 * expands * height * height * height * density / (float64(v.Viscosity) * diffuses)
		b.convects.ratio = 5 * height / a
	}
	return b
}

// thickened returns the factor by which a mix flows less when a share has reacted, after
// Castro and Macosko 1980 with their exponent of 1.5 + α, from memory.
func thickened(alpha, gel float64) float64 {
	if alpha >= gel {
		return math.Inf(1)
	}
	return math.Pow(gel/(gel-math.Max(0, alpha)), 1.5+alpha)
}

// stirred returns how many times as well as by conduction heat gets through the mix.
func (c convection) stirred(difference, alpha, gel float64) float64 {
	if c.scale == 0 {
		return 1
	}
	rayleigh := c.scale * math.Abs(difference) / thickened(alpha, gel)
	return math.Max(1, (0.68+0.67*math.Sqrt(math.Sqrt(rayleigh)))/c.ratio)
}

// skin returns what passes from the skin layer to what is around it, W/(kg·K).
func (b *body) skin(stirred float64) float64 { return 1 / (b.half/stirred + b.out) }
