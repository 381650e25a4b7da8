package measure

import (
	"math"
	"strconv"
	"strings"
	"time"
)

// System is the way in which a person reads and writes: a family of units and, where it is
// the one of twelve hours, the face of a clock.
type System string

// The two systems.
const (
	US     System = "us"
	Metric System = "metric"
)

// twelve follows the units of somebody whose clock has twelve hours.
const twelve = "+12h"

// Clock is the face of the clock that times are told by.
type Clock string

// The two faces.
const (
	Clock24 Clock = "24"
	Clock12 Clock = "12"
)

// With returns the system with a face of the clock.
func (s System) With(c Clock) System {
	if c == Clock12 {
		return s.Units() + twelve
	}
	return s.Units()
}

// Units returns the family of units alone.
func (s System) Units() System { return System(strings.TrimSuffix(string(s), twelve)) }

// Clock returns the face of the clock.
func (s System) Clock() Clock {
	if strings.HasSuffix(string(s), twelve) {
		return Clock12
	}
	return Clock24
}

// Time returns a time in a layout of package time that names its hours as 15:04, by the
// clock of whoever reads it.
func (s System) Time(t time.Time, layout string) string {
	if s.Clock() == Clock12 {
		layout = strings.Replace(layout, "15:04", "3:04 PM", 1)
	}
	return t.Format(layout)
}

func (s System) us() bool { return s.Units() == US }

// Kind names what a number measures.
type Kind string

// The kinds of quantity.
const (
	KindLength      Kind = "length"
	KindArea        Kind = "area"
	KindFilm        Kind = "film"
	KindVolume      Kind = "volume"
	KindMass        Kind = "mass"
	KindDensity     Kind = "density"
	KindSpread      Kind = "spread"
	KindCoverage    Kind = "coverage"
	KindPace        Kind = "pace"
	KindMassRate    Kind = "mass-rate"
	KindSpan        Kind = "span"
	KindFraction    Kind = "fraction"
	KindAngle       Kind = "angle"
	KindTemperature Kind = "temperature"
	KindEmission    Kind = "emission"
	KindPressure    Kind = "pressure"
	KindNumber      Kind = "number"
	KindCount       Kind = "count"
	KindContent     Kind = "content"
	KindViscosity   Kind = "viscosity"
	KindScale       Kind = "scale" // a mass as a scale shows it, to the gram where that counts
	KindMark        Kind = "mark"  // a height in a pail as a ruler shows it
	KindRatio       Kind = "ratio" // one side of a mixing ratio
)

// SI values of the US customary units (NIST Handbook 44, Appendix C: the inch
// is 25.4 mm exactly, the US gallon 231 in³, the avoirdupois pound
// 0.45359237 kg exactly).
const (
	Inch   = 0.0254
	Foot   = 12 * Inch
	Mil    = Inch / 1000
	Gallon = 231 * Inch * Inch * Inch
	Quart  = Gallon / 4
	FlOz   = Gallon / 128
	Pound  = 0.45359237
	Ounce  = Pound / 16
	Litre  = 0.001
	SqFoot = Foot * Foot
	Minute = 60
	Hour   = 3600
	Micron = 1e-6
)

// Step is the unit used from a size upward.
type Step struct {
	From     float64 `json:"from"`   // smallest absolute SI value shown so
	Symbol   string  `json:"symbol"` // as printed
	SI       float64 `json:"si"`     // SI value of one unit
	Offset   float64 `json:"offset"` // SI value of zero
	Decimals int     `json:"decimals"`
	FeetInch bool    `json:"feetInch,omitempty"` // printed as feet, inches and sixteenths
}

// Display returns the units in which a kind is printed in this system,
// largest first. Its last step starts at zero.
func (s System) Display(k Kind) []Step {
	all, n := s.steps(k)
	return all[:n]
}

// one is the steps of a kind with one unit.
func one(symbol string, si float64, decimals int) [4]Step {
	return [4]Step{{Symbol: symbol, SI: si, Decimals: decimals}}
}

// counted returns steps with how many of them there are.
func counted(list [4]Step) ([4]Step, int) {
	for n := 1; n < len(list); n++ {
		if list[n].Symbol == "" {
			return list, n
		}
	}
	return list, len(list)
}

// pick returns the steps of a system, with how many there are.
func (s System) pick(metric, customary [4]Step) ([4]Step, int) {
	if s.us() {
		return counted(customary)
	}
	return counted(metric)
}

// steps are the same without a list made for each number that is printed.
func (s System) steps(k Kind) (all [4]Step, n int) {
	switch k {
	case KindLength:
		return s.pick([4]Step{{From: 0.0995, Symbol: "m", SI: 1, Decimals: 3}, {Symbol: "mm", SI: 0.001, Decimals: 1}},
			[4]Step{{Symbol: "ft", SI: Foot, Decimals: 2, FeetInch: true}})
	case KindArea:
		return s.pick(one("m²", 1, 2), one("ft²", SqFoot, 1))
	case KindFilm:
		return s.pick(
			[4]Step{{From: 0.001, Symbol: "mm", SI: 0.001, Decimals: 2}, {Symbol: "µm", SI: Micron}},
			one("mil", Mil, 1))
	case KindVolume:
		return s.pick(
			[4]Step{{From: 2, Symbol: "m³", SI: 1, Decimals: 2}, {From: 0.9995 * Litre, Symbol: "L", SI: Litre, Decimals: 2},
				{From: 0.0995 * Litre, Symbol: "mL", SI: Litre / 1000}, {Symbol: "mL", SI: Litre / 1000, Decimals: 1}},
			[4]Step{{From: 999.5 * Gallon, Symbol: "gal", SI: Gallon},
				{From: 0.9995 * Gallon, Symbol: "gal", SI: Gallon, Decimals: 2},
				{From: 9.95 * FlOz, Symbol: "fl oz", SI: FlOz, Decimals: 1}, {Symbol: "fl oz", SI: FlOz, Decimals: 2}})
	case KindMass:
		return s.pick(
			[4]Step{{From: 0.9995, Symbol: "kg", SI: 1, Decimals: 2}, {From: 0.0995, Symbol: "g", SI: 0.001},
				{Symbol: "g", SI: 0.001, Decimals: 1}},
			[4]Step{{From: 0.9995 * Pound, Symbol: "lb", SI: Pound, Decimals: 2},
				{From: 4 * Ounce, Symbol: "oz", SI: Ounce, Decimals: 1}, {Symbol: "oz", SI: Ounce, Decimals: 2}})
	case KindScale:
		return s.pick(
			[4]Step{{From: 9.9995, Symbol: "kg", SI: 1, Decimals: 2}, {From: 0.9995, Symbol: "kg", SI: 1, Decimals: 3},
				{From: 0.0995, Symbol: "g", SI: 0.001}, {Symbol: "g", SI: 0.001, Decimals: 1}},
			[4]Step{{From: 0.9995 * Pound, Symbol: "lb", SI: Pound, Decimals: 2},
				{From: 4 * Ounce, Symbol: "oz", SI: Ounce, Decimals: 1}, {Symbol: "oz", SI: Ounce, Decimals: 2}})
	case KindMark:
		return s.pick(one("cm", 0.01, 1), [4]Step{{Symbol: "ft", SI: Foot, Decimals: 2, FeetInch: true}})
	case KindRatio:
		return counted(one("", 1, 2))
	case KindDensity:
		return s.pick(one("kg/L", 1000, 3), one("lb/gal", Pound/Gallon, 2))
	case KindSpread:
		return s.pick(one("m²/L", 1/Litre, 2), one("ft²/gal", SqFoot/Gallon, 0))
	case KindCoverage:
		return s.pick(
			[4]Step{{From: 0.9995, Symbol: "kg/m²", SI: 1, Decimals: 2}, {Symbol: "g/m²", SI: 0.001}},
			one("lb/ft²", Pound/SqFoot, 3))
	case KindPace:
		return s.pick(one("m²/h", 1.0/Hour, 1), one("ft²/h", SqFoot/Hour, 0))
	case KindMassRate:
		return s.pick(one("kg/min", 1.0/Minute, 1), one("lb/min", Pound/Minute, 1))
	case KindSpan:
		return counted([4]Step{{From: 72 * Hour, Symbol: "days", SI: 24 * Hour, Decimals: 1},
			{From: 2 * Hour, Symbol: "h", SI: Hour, Decimals: 1}, {Symbol: "min", SI: Minute, Decimals: 1}})
	case KindFraction:
		return counted(one("%", 0.01, 1))
	case KindAngle:
		return counted(one("°", 1, 1))
	case KindTemperature:
		return s.pick(one("°C", 1, 1), [4]Step{{Symbol: "°F", SI: 5.0 / 9, Offset: -32 * 5.0 / 9, Decimals: 0}})
	case KindEmission:
		return s.pick(one("g/m²/24h", 0.001/(24*Hour), 1), one("lb/1000ft²/24h", Pound/(1000*SqFoot)/(24*Hour), 1))
	case KindPressure:
		return s.pick(one("MPa", 1e6, 2), one("psi", Pound*gravity/(Inch*Inch), 0))
	case KindContent:
		return s.pick(one("g/L", 1, 0), one("lb/gal", Pound/Gallon, 2))
	case KindViscosity:
		return counted([4]Step{{From: 10, Symbol: "Pa·s", SI: 1, Decimals: 1}, {Symbol: "mPa·s", SI: 0.001}})
	case KindNumber:
		return counted(one("", 1, 1))
	default:
		return counted(one("", 1, 0))
	}
}

// gravity is the standard acceleration, m/s² (NIST Special Publication 811).
const gravity = 9.80665

// Format prints an SI amount of a kind with its unit, rounded for display only.
func (s System) Format(k Kind, si float64) string {
	steps, n := s.steps(k)
	step := steps[n-1]
	for _, candidate := range steps[:n] {
		if math.Abs(si) >= candidate.From {
			step = candidate
			break
		}
	}
	if step.FeetInch {
		return feetInches(si)
	}
	number := group(Rounded((si-step.Offset)/step.SI, step.Decimals))
	switch step.Symbol {
	case "":
		return number
	case "%", "°":
		return number + step.Symbol
	}
	return number + " " + step.Symbol
}

// Rounded prints a number with at most so many decimals. It rounds the shortest
// decimal that stands for the number, halves away from zero, as a person would
// and as ECMA-402's Intl.NumberFormat does with its rounding mode halfExpand:
// whoever prints figures elsewhere must come to the same digits.
func Rounded(v float64, decimals int) string {
	text := strconv.FormatFloat(v, 'f', -1, 64)
	whole, fraction, _ := strings.Cut(text, ".")
	if len(fraction) <= decimals {
		return text
	}
	digits := []byte(whole + fraction[:decimals])
	if fraction[decimals] >= '5' {
		at := len(digits) - 1
		for ; at >= 0 && digits[at] == '9'; at-- {
			digits[at] = '0'
		}
		switch {
		case at < 0:
			digits = append([]byte{'1'}, digits...)
		case digits[at] == '-':
			digits = append([]byte{'-', '1'}, digits[1:]...)
		default:
			digits[at]++
		}
	}
	if decimals == 0 {
		return string(digits)
	}
	point := len(digits) - decimals
	return string(digits[:point]) + "." + string(digits[point:])
}

// group trims needless zeros after the point and sets thin spaces between
// thousands.
func group(number string) string {
	if strings.Contains(number, ".") {
		number = strings.TrimRight(strings.TrimRight(number, "0"), ".")
	}
	if strings.Trim(number, "-0") == "" {
		number = "0"
	}
	sign := ""
	if strings.HasPrefix(number, "-") {
		sign, number = "−", number[1:]
	}
	whole, rest, point := strings.Cut(number, ".")
	for at := len(whole) - 3; at > 0; at -= 3 {
		whole = whole[:at] + "\u202f" + whole[at:]
	}
	if point {
		whole += "." + rest
	}
	return sign + whole
}

// feetInches prints metres as feet, inches and sixteenths of an inch.
func feetInches(metres float64) string {
	sign := ""
	if metres < 0 {
		sign, metres = "−", -metres
	}
	sixteenths := int64(math.Round(metres / (Inch / 16)))
	feet, rest := sixteenths/192, sixteenths%192
	inches, part := rest/16, rest%16
	text := sign
	if feet > 0 {
		text += group(strconv.FormatInt(feet, 10)) + "' "
	}
	if feet > 0 || inches > 0 || part == 0 {
		text += strconv.FormatInt(inches, 10)
	}
	if part > 0 {
		whole := int64(16)
		for part%2 == 0 {
			part, whole = part/2, whole/2
		}
		if feet > 0 || inches > 0 {
			text += " "
		}
		text += strconv.FormatInt(part, 10) + "/" + strconv.FormatInt(whole, 10)
	}
	return text + `"`
}

// Length prints a length.
func (s System) Length(l Length) string { return s.Format(KindLength, float64(l)) }

// Area prints an area.
func (s System) Area(a Area) string { return s.Format(KindArea, float64(a)) }

// Film prints a film thickness.
func (s System) Film(f Film) string { return s.Format(KindFilm, float64(f)) }

// Volume prints a volume.
func (s System) Volume(v Volume) string { return s.Format(KindVolume, float64(v)) }

// Mass prints a mass.
func (s System) Mass(m Mass) string { return s.Format(KindMass, float64(m)) }

// Density prints a density.
func (s System) Density(d Density) string { return s.Format(KindDensity, float64(d)) }

// Span prints a length of time.
func (s System) Span(t Span) string { return s.Format(KindSpan, float64(t)) }

// MassRate prints a mass in a time.
func (s System) MassRate(r MassRate) string { return s.Format(KindMassRate, float64(r)) }

// Temperature prints a temperature.
func (s System) Temperature(t Temperature) string { return s.Format(KindTemperature, float64(t)) }

// Fraction prints a share as a percentage.
func (s System) Fraction(f Fraction) string { return s.Format(KindFraction, float64(f)) }

// DisplayTable is the units of every kind in each system, for a reader that
// prints numbers itself.
func DisplayTable() map[System]map[Kind][]Step {
	table := make(map[System]map[Kind][]Step)
	for _, s := range []System{US, Metric} {
		table[s] = make(map[Kind][]Step)
		for _, k := range []Kind{
			KindLength, KindArea, KindFilm, KindVolume, KindMass, KindDensity, KindSpread, KindCoverage,
			KindPace, KindMassRate, KindSpan, KindFraction, KindAngle, KindTemperature, KindEmission, KindPressure,
			KindNumber, KindCount,
			KindContent, KindViscosity, KindScale, KindMark, KindRatio,
		} {
			table[s][k] = s.Display(k)
		}
	}
	return table
}

// Values returns all values, in the order in which they are shown.
func (Kind) Values() []Kind {
	return []Kind{
		KindLength, KindArea, KindFilm, KindVolume, KindMass, KindDensity, KindSpread, KindCoverage,
		KindPace, KindMassRate, KindSpan, KindFraction, KindAngle, KindTemperature, KindEmission, KindPressure,
		KindNumber, KindCount, KindContent, KindViscosity,
	}
}

// Values returns all values, in the order in which they are shown.
func (Clock) Values() []Clock {
	return []Clock{Clock24, Clock12}
}

// Values returns all values, in the order in which they are shown.
func (System) Values() []System {
	return []System{US, Metric}
}
