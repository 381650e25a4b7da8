package cure

import (
	"fmt"
	"math"

	"nephelon/core/measure"
)

// AssumedMass stands in where a sheet does not print the mass of its pot life:
// from memory of how sheets test, and a plan that rests on it says so.
const AssumedMass measure.Mass = 0.5

// usualLoss is the heat that a pail standing in still air gives off, W/(m²·K):
// from memory, no source. Stirred water takes several times as much.
const (
	usualLoss = 9.0
	waterLoss = 60.0
)

// Standing is where a pail stands while it waits.
type Standing string

// The ways to stand a pail: in the air of the place, out of the sun (cooler by
// 4 K, common practice), in ice water, in warm water.
const (
	InAir   Standing = ""
	InShade Standing = "shade"
	InIce   Standing = "ice"
	InWarm  Standing = "warm"
)

// around is the temperature and the heat loss of what surrounds a pail.
func (s Standing) around(air measure.Temperature) (measure.Temperature, float64) {
	switch s {
	case InShade:
		return air - 4, usualLoss
	case InIce:
		return 1, waterLoss
	case InWarm:
		return 38, waterLoss
	}
	return air, usualLoss
}

// Usual is how the mixes of a chemistry react: all from memory, to be calibrated
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

// Sheet is what a data sheet says of the life of a mix in the pail.
type Sheet struct {
	Points   []Point // all on one mass
	Mass     measure.Mass
	Density  measure.Density
	Kinetics Kinetics // of its chemistry, not yet calibrated
}

// Life tells how long a mix can be used, whatever the mass and the temperature.
type Life struct {
	rate     Rate
	kinetics Kinetics
	sheet    Vessel
}

// NewLife calibrates the kinetics so that the sheet's own pot life comes out at
// its mass and the middle of its temperatures.
func NewLife(s Sheet) (Life, error) {
	rate, err := FitRate(s.Points)
	if err != nil {
		return Life{}, err
	}
	if s.Mass <= 0 {
		s.Mass = AssumedMass
	}
	middle := s.Points[len(s.Points)/2]
	l := Life{rate: rate, sheet: Vessel{Mass: s.Mass, Density: s.Density, Loss: usualLoss, Start: middle.At, Air: middle.At}}
	l.kinetics, err = calibrate(s.Kinetics, l.sheet, middle.Time, quick)
	return l, err
}

// Kinetics are the calibrated ones.
func (l Life) Kinetics() Kinetics { return l.kinetics }

// Of is how long a mix can be used in a vessel: the sheet's time at the mix's
// temperature, times how much sooner or later this mass in this air gels than
// the sheet's mass does at that temperature. At the sheet's mass it is the
// sheet's own time.
func (l Life) Of(v Vessel) (life measure.Span, outside bool, err error) {
	printed, outside := l.rate.Time(v.Start)
	tested := l.sheet
	tested.Start, tested.Air = v.Start, v.Start
	reference, err := l.gel(tested, printed)
	if err != nil {
		return 0, outside, err
	}
	here, err := l.gel(v, printed)
	if err != nil {
		return 0, outside, err
	}
	return printed * here / reference, outside, nil
}

// quick bounds the error of each step where thousands of lives are asked for: a
// gel within about 1 %.
const quick = 3e-4

// gel of a vessel, looked for up to twenty times the printed life.
func (l Life) gel(v Vessel, printed measure.Span) (measure.Span, error) {
	if err := l.kinetics.check(v); err != nil {
		return 0, err
	}
	h, err := run(l.kinetics, v, 20*printed, true, quick)
	if err != nil {
		return 0, err
	}
	if h.Gel == nil {
		return 20 * printed, nil // it hardly warms; longer than anyone waits
	}
	return *h.Gel, nil
}

// Pail is a mass of the mix in a bucket that stands somewhere.
func (l Life) Pail(mass measure.Mass, start, air measure.Temperature, standing Standing) Vessel {
	around, loss := standing.around(air)
	return Vessel{Mass: mass, Density: l.sheet.Density, Loss: loss, Start: start, Air: around}
}

// Table is the life of a mix over its mass, at one temperature.
type Table struct {
	masses []float64 // ln kg, rising
	lives  []float64 // ln s
}

// Over works out the life over masses from the least to the most, at the
// temperature of the mix and the place it stands.
func (l Life) Over(least, most measure.Mass, start, air measure.Temperature, standing Standing) (Table, error) {
	if least <= 0 || most <= least {
		return Table{}, fmt.Errorf("a table of lives needs two masses above zero, the smaller first")
	}
	printed, _ := l.rate.Time(start)
	tested := l.sheet
	tested.Start, tested.Air = start, start
	reference, err := l.gel(tested, printed)
	if err != nil {
		return Table{}, err
	}
	const points = 5
	t := Table{make([]float64, points), make([]float64, points)}
	for i := range points {
		at := math.Log(float64(least)) + math.Log(float64(most/least))*float64(i)/(points-1)
		here, err := l.gel(l.Pail(measure.Mass(math.Exp(at)), start, air, standing), printed)
		if err != nil {
			return Table{}, err
		}
		t.masses[i], t.lives[i] = at, math.Log(float64(printed*here/reference))
	}
	return t, nil
}

// Life of a mass; beyond the ends of the table it is that of the end.
func (t Table) Life(mass measure.Mass) measure.Span {
	x := math.Log(float64(mass))
	last := len(t.masses) - 1
	switch {
	case x <= t.masses[0]:
		return measure.Span(math.Exp(t.lives[0]))
	case x >= t.masses[last]:
		return measure.Span(math.Exp(t.lives[last]))
	}
	i := 1
	for x > t.masses[i] {
		i++
	}
	share := (x - t.masses[i-1]) / (t.masses[i] - t.masses[i-1])
	return measure.Span(math.Exp(t.lives[i-1] + share*(t.lives[i]-t.lives[i-1])))
}

// Part is a component as it comes to the mixing place.
type Part struct {
	Mass measure.Mass
	At   measure.Temperature
}

// Mixed is the temperature of parts poured together, their heat capacities taken
// as equal.
func Mixed(parts ...Part) measure.Temperature {
	mass, heat := 0.0, 0.0
	for _, p := range parts {
		mass += float64(p.Mass)
		heat += float64(p.Mass) * float64(p.At)
	}
	if mass == 0 {
		return 0
	}
	return measure.Temperature(heat / mass)
}

// Surface is the life of a mix over masses and temperatures, for a drawing: one
// row for each temperature. The air is as warm as the mix.
func (l Life) Surface(masses []measure.Mass, temperatures []measure.Temperature) ([][]measure.Span, error) {
	rows := make([][]measure.Span, len(temperatures))
	for i, at := range temperatures {
		printed, _ := l.rate.Time(at)
		tested := l.sheet
		tested.Start, tested.Air = at, at
		reference, err := l.gel(tested, printed)
		if err != nil {
			return nil, err
		}
		rows[i] = make([]measure.Span, len(masses))
		for j, mass := range masses {
			here, err := l.gel(Vessel{Mass: mass, Density: l.sheet.Density, Loss: usualLoss, Start: at, Air: at}, printed)
			if err != nil {
				return nil, err
			}
			rows[i][j] = printed * here / reference
		}
	}
	return rows, nil
}

// Stand is what becomes of a mass that is left in its pail, in air as warm as
// the mix.
func (l Life) Stand(mass measure.Mass, start measure.Temperature) (History, error) {
	v := Vessel{Mass: mass, Density: l.sheet.Density, Loss: usualLoss, Start: start, Air: start}
	printed, _ := l.rate.Time(start)
	if err := l.kinetics.check(v); err != nil {
		return History{}, err
	}
	return run(l.kinetics, v, 6*printed, false, quick)
}
