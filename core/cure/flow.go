package cure

import (
	"math"

	"nephelon/core/measure"
)

// Flow holds a liquid film that levels by itself, as it comes from the pail.
type Flow struct {
	Viscosity measure.Viscosity // Pa·s of the fresh mix at the temperature of the film
	Density   measure.Density
	Working   measure.Span // while the film can be worked; its viscosity is taken to double in that time
}

// What stands in for what no sheet of a resin gives.
const (
	// surfaceTension of liquid epoxies, N/m: from memory, 0.03 to 0.045.
	surfaceTension = 0.035
	// edgeAngle at which the edge of a pour comes to rest on a clean coat, rad: common practice, no source.
	edgeAngle = math.Pi / 4
	gravity   = 9.81 // m/s²
	// levelled holds the share of a ridge that is left where a film counts as level.
	levelled = 0.05
)

// Rests returns the film below which a pour no longer runs by itself: where gravity and surface tension hold each
// other at its edge (de Gennes, Brochard-Wyart and Quéré, Capillarity and Wetting Phenomena, 2004; from memory).
func (f Flow) Rests() measure.Film {
	return measure.Film(2 * math.Sqrt(surfaceTension/(float64(f.Density)*gravity)) * math.Sin(edgeAngle/2))
}

// Levels returns how long waves of a length on a film take to all but vanish, by gravity and surface tension (S. E.
// Orchard, On surface levelling in viscous liquids and gels, Applied Scientific Research A 11, 1963, 451, with the
// term of gravity; from memory). It is false where the film sets before.
func (f Flow) Levels(film measure.Film, wave measure.Length) (measure.Span, bool) {
	k, h := 2*math.Pi/float64(wave), float64(film)
	rate := h * h * h / (3 * float64(f.Viscosity)) * (float64(f.Density)*gravity*k*k + surfaceTension*k*k*k*k)
	return f.thickened(-math.Log(levelled) / rate)
}

// Joins returns how long beads that lie apart by a distance take to run together to a film, each as a current on a
// plane (H. E. Huppert, The propagation of two-dimensional and axisymmetric viscous gravity currents, Journal of Fluid
// Mechanics 121, 1982, 43, eq. 2.23; from memory). It is false where they set before.
func (f Flow) Joins(film measure.Film, apart measure.Length) (measure.Span, bool) {
	const front = 1.411
	reach, thin := float64(apart)/2, float64(f.Viscosity)/float64(f.Density)
	half := float64(film) * reach // m² of the half of a bead that runs one way
	return f.thickened(math.Pow(reach/front, 5) * 3 * thin / (gravity * half * half * half))
}

// thickened returns how long what would take so long in a fresh mix takes in one whose viscosity doubles in its working
// time; false where it is not done by then.
func (f Flow) thickened(fresh float64) (measure.Span, bool) {
	if f.Working <= 0 {
		return measure.Span(fresh), true
	}
	done := fresh * math.Ln2 / float64(f.Working)
	if done >= 0.5 {
		return 0, false
	}
	return measure.Span(-float64(f.Working) * math.Log2(1-done)), true
}

// ViscosityAt returns a viscosity at another temperature than the one at which it was measured: it doubles for every so
// many kelvin that it is colder. Common practice, no source.
func ViscosityAt(viscosity measure.Viscosity, measured, now measure.Temperature) measure.Viscosity {
	return viscosity * measure.Viscosity(math.Exp2(float64(measured-now)/thickensBy))
}
