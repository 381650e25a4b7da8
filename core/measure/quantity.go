// Package measure holds the quantities of the coating trade and reads them as
// people write them. Every quantity is stored in the SI base unit of its kind;
// units of display are chosen at the edges.
package measure

// Length in metres.
type Length float64

// Area in square metres.
type Area float64

// Film is the thickness of a coat, wet or dry, in metres.
type Film float64

// Volume in cubic metres.
type Volume float64

// Mass in kilograms.
type Mass float64

// Density in kilograms per cubic metre.
type Density float64

// Spread is the area that a volume covers, in square metres per cubic metre.
type Spread float64

// Coverage is mass on an area, in kilograms per square metre.
type Coverage float64

// Pace is the area one person spreads in a time, in square metres per second.
type Pace float64

// Emission is the mass of water that a slab gives off from an area in a time, in kg/(m²·s).
type Emission float64

// MassRate is the mass that one person throws in a time, in kilograms per second.
type MassRate float64

// Span is a length of time in seconds.
type Span float64

// Fraction is a share of one: 0.05 is five per cent.
type Fraction float64

// Angle in degrees, counter-clockwise from the x axis of the plan.
type Angle float64

// Temperature in degrees Celsius, the one kind that is not an SI base unit:
// data sheets and instruments of the trade speak it.
type Temperature float64

// Content holds what a volume holds of something, in kilograms per cubic metre,
// which are grams per litre.
type Content float64

// Viscosity in pascal seconds.
type Viscosity float64

// Number is a quantity without a unit, such as the grit of a paper.
type Number float64

// Times is the area of a strip of this length and a width in metres.
func (l Length) Times(width float64) Area { return Area(float64(l) * width) }

// Over is the volume of a film on an area: 1 m² × 1 mm = 1 L.
func (f Film) Over(a Area) Volume { return Volume(float64(f) * float64(a)) }

// Of is the mass of a volume at this density.
func (d Density) Of(v Volume) Mass { return Mass(float64(d) * float64(v)) }

// Volume is the volume of a mass at this density.
func (d Density) Volume(m Mass) Volume { return Volume(float64(m) / float64(d)) }

// Source says where a value came from.
type Source string

// The sources a value can have, strongest first.
const (
	Sheet       Source = "sheet"
	OwnTest     Source = "own-test"
	Standard    Source = "standard"
	RuleOfThumb Source = "rule-of-thumb"
	Colleague   Source = "colleague"
	Assumed     Source = "assumed"
)

// Weak reports whether a plan that rests on this source should say so.
func (s Source) Weak() bool {
	return s == RuleOfThumb || s == Colleague || s == Assumed
}

// Words is the source as a person would say it.
func (s Source) Words() string {
	switch s {
	case Sheet:
		return "data sheet"
	case OwnTest:
		return "own test"
	case Standard:
		return "standard"
	case RuleOfThumb:
		return "rule of thumb"
	case Colleague:
		return "a colleague"
	default:
		return "assumed"
	}
}

// Sourced is a value with where it came from.
type Sourced[T ~float64] struct {
	Value  T      `json:"value" doc:"The value in the SI unit of its kind"`
	Source Source `json:"source" doc:"Where the value came from"`
}

// Value is one number of a working: its name, kind, SI amount and source.
type Value struct {
	Name   string  `json:"name"`
	Kind   Kind    `json:"kind"`
	SI     float64 `json:"si"`
	Source Source  `json:"source,omitempty"`
}

// Working shows how a figure came about, so that another person can check it.
type Working struct {
	Title   string  `json:"title"`
	Formula string  `json:"formula"`
	Inputs  []Value `json:"inputs"`
	Result  Value   `json:"result"`
	Source  string  `json:"source" doc:"Where the formula comes from"`
}

// Values returns all values, in the order in which they are shown.
func (Source) Values() []Source {
	return []Source{Sheet, OwnTest, Standard, RuleOfThumb, Colleague, Assumed}
}
