package measure

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// ReadError says why a typed quantity could not be understood.
type ReadError struct {
	Text   string // what was typed
	What   string // what is wrong with it
	Remedy string // what would be right
}

func (e *ReadError) Error() string {
	return fmt.Sprintf("“%s”: %s. %s", e.Text, e.What, e.Remedy)
}

// units lists, by kind, what people write behind a number and its SI value.
func units(k Kind) map[string]float64 {
	switch k {
	case KindLength:
		return map[string]float64{
			"m": 1, "metre": 1, "metres": 1, "meter": 1, "meters": 1,
			"cm": 0.01, "mm": 0.001,
			"ft": Foot, "foot": Foot, "feet": Foot, "'": Foot,
			"in": Inch, "inch": Inch, "inches": Inch, `"`: Inch,
			"yd": 3 * Foot, "yard": 3 * Foot, "yards": 3 * Foot,
		}
	case KindArea:
		return map[string]float64{"m2": 1, "sqm": 1, "ft2": SqFoot, "sqft": SqFoot, "sf": SqFoot}
	case KindFilm:
		return map[string]float64{
			"mm": 0.001, "um": Micron, "micron": Micron, "microns": Micron,
			"mil": Mil, "mils": Mil, "thou": Mil, "in": Inch, `"`: Inch,
		}
	case KindVolume:
		return map[string]float64{
			"l": Litre, "litre": Litre, "litres": Litre, "liter": Litre, "liters": Litre,
			"ml": Litre / 1000, "m3": 1,
			"gal": Gallon, "gallon": Gallon, "gallons": Gallon,
			"qt": Quart, "floz": FlOz, "oz": FlOz,
		}
	case KindMass:
		return map[string]float64{"kg": 1, "g": 0.001, "lb": Pound, "lbs": Pound, "oz": Ounce}
	case KindDensity:
		return map[string]float64{
			"kg/l": 1000, "g/ml": 1000, "g/cm3": 1000, "kg/m3": 1,
			"lb/gal": Pound / Gallon, "lbs/gal": Pound / Gallon,
		}
	case KindSpread:
		return map[string]float64{
			"m2/l": 1 / Litre, "sqm/l": 1 / Litre,
			"ft2/gal": SqFoot / Gallon, "sqft/gal": SqFoot / Gallon, "sf/gal": SqFoot / Gallon,
		}
	case KindCoverage:
		return map[string]float64{
			"kg/m2": 1, "kg/sqm": 1, "g/m2": 0.001, "g/sqm": 0.001,
			"lb/ft2": Pound / SqFoot, "lb/sqft": Pound / SqFoot, "oz/ft2": Ounce / SqFoot,
		}
	case KindPace:
		return map[string]float64{
			"m2/h": 1.0 / Hour, "sqm/h": 1.0 / Hour, "m2/hr": 1.0 / Hour,
			"ft2/h": SqFoot / Hour, "sqft/h": SqFoot / Hour, "ft2/hr": SqFoot / Hour, "sqft/hr": SqFoot / Hour,
		}
	case KindMassRate:
		return map[string]float64{
			"kg/min": 1.0 / Minute, "kg/h": 1.0 / Hour, "g/s": 0.001, "lb/min": Pound / Minute, "lbs/min": Pound / Minute,
		}
	case KindSpan:
		return map[string]float64{
			"s": 1, "sec": 1, "seconds": 1, "min": Minute, "mins": Minute, "minutes": Minute, "m": Minute,
			"h": Hour, "hr": Hour, "hrs": Hour, "hours": Hour, "hour": Hour, "d": 24 * Hour, "days": 24 * Hour,
		}
	case KindFraction:
		return map[string]float64{"%": 0.01, "percent": 0.01}
	case KindAngle:
		return map[string]float64{"°": 1, "deg": 1, "degrees": 1}
	case KindEmission:
		return map[string]float64{"g": 0.001 / (24 * Hour), "lb": Pound / (1000 * SqFoot) / (24 * Hour),
			"lbs": Pound / (1000 * SqFoot) / (24 * Hour)}
	case KindPressure:
		return map[string]float64{"mpa": 1e6, "n/mm2": 1e6, "kpa": 1000, "psi": Pound * gravity / (Inch * Inch)}
	case KindContent:
		return map[string]float64{"g/l": 1, "kg/m3": 1, "lb/gal": Pound / Gallon, "lbs/gal": Pound / Gallon,
			"oz/gal": Ounce / Gallon, "oz/qt": Ounce / Quart, "g/gal": 0.001 / Gallon}
	case KindViscosity:
		return map[string]float64{"mpas": 0.001, "mpa·s": 0.001, "cp": 0.001, "cps": 0.001, "pas": 1, "pa·s": 1}
	default:
		return nil
	}
}

// bare returns how a number without a unit is read.
func (s System) bare(k Kind, number float64, whole bool) float64 {
	us := s.us()
	switch k {
	case KindLength:
		// A tape in millimetres gives whole numbers of three and more
		// figures; nobody walks a wall of 3810 ft.
		switch {
		case whole && (number >= 1000 || !us && number >= 100):
			return number / 1000
		case us:
			return number * Foot
		}
		return number
	case KindFilm:
		if us {
			return number * Mil
		}
		return number * Micron
	case KindVolume:
		if us {
			return number * Gallon
		}
		return number * Litre
	case KindSpan:
		return number * Minute
	case KindViscosity:
		return number / 1000
	}
	steps := s.Display(k)
	return number * steps[0].SI
}

var numberAndUnit = regexp.MustCompile(`^([+-]?)(\d+\s+\d+/\d+|\d+/\d+|\d+(?:\.\d+)?|\.\d+)\s*(.*)$`)

// Read understands a typed quantity of a kind, for example 12' 6 1/2", 12.5ft,
// 3.81 m, 3810, 8 mil or 7 m²/L, and gives its SI amount. A number without a
// unit is read in the units of the person's system; a bare whole length of
// three (in US units four) figures or more is read as millimetres.
func (s System) Read(k Kind, text string) (float64, error) {
	given := strings.TrimSpace(text)
	fail := func(what, remedy string) (float64, error) {
		return 0, &ReadError{Text: given, What: what, Remedy: remedy}
	}
	if given == "" {
		return fail("nothing is typed", s.example(k))
	}
	if len(given) > 60 {
		return fail("this is too long for one measure", s.example(k))
	}
	tidy, err := decimalPoint(tidyMarks(given))
	if err != nil {
		return fail(err.Error(), "Write it with a decimal point and no thousands mark.")
	}
	if k == KindContent {
		tidy = dosed(tidy)
	}
	if k == KindEmission {
		tidy = emission.ReplaceAllString(tidy, "$1")
	}
	if k == KindTemperature {
		degrees, what, remedy := s.temperature(tidy)
		if what != "" {
			return fail(what, remedy)
		}
		return degrees, nil
	}
	total, what := s.sum(k, tidy)
	if what != "" {
		return fail(what, s.example(k))
	}
	if math.IsInf(total, 0) || math.IsNaN(total) || total > 1e9 {
		return fail("the number is too large to be real", s.example(k))
	}
	return total, nil
}

// sum adds up the numbers with units of a text. What is wrong with it is told; empty where nothing
// is.
func (s System) sum(k Kind, text string) (total float64, what string) {
	parts := 0
	lastUnit := math.Inf(1)
	for rest := text; rest != ""; parts++ {
		m := numberAndUnit.FindStringSubmatch(rest)
		if m == nil {
			return 0, fmt.Sprintf("“%s” is not a number with a unit", rest)
		}
		if m[1] == "-" {
			return 0, "a measure cannot be negative"
		}
		if m[1] == "+" && parts > 0 {
			return 0, "only one measure can be given"
		}
		number, whole, err := numeral(m[2])
		if err != nil {
			return 0, err.Error()
		}
		name, after := splitUnit(m[3])
		rest = after
		if name == "" {
			if parts > 0 && lastUnit == Foot && k == KindLength {
				name = `"` // 12' 6 is twelve feet six inches
			} else if parts > 0 || rest != "" {
				return 0, "a unit is missing between the numbers"
			} else {
				total = s.bare(k, number, whole)
				continue
			}
		}
		si, known := units(k)[name]
		if !known {
			return 0, fmt.Sprintf("“%s” is not a unit of %s", name, k)
		}
		if parts > 0 && (k != KindLength && k != KindSpan || si >= lastUnit) {
			return 0, "only one measure can be given"
		}
		if parts > 0 && si == Inch && number >= 12 {
			return 0, "inches after feet stay under 12"
		}
		total += number * si
		lastUnit = si
	}
	return total, ""
}

// dose is a mass to a volume as people say it: 4 oz to a gallon, 60 g a litre.
var dose = regexp.MustCompile(`^(.*?\S)(?:\s+(?:to\s+)?(?:a|one|the|each)\s+|\s*/)(gal|quart|qt|l)[a-z]*$`)

// dosed writes such a dose with a stroke.
func dosed(text string) string {
	m := dose.FindStringSubmatch(text)
	if m == nil {
		return text
	}
	volume := m[2]
	if volume == "quart" {
		volume = "qt"
	}
	return m[1] + "/" + volume
}

// emission keeps the mass of "15 g/m²/24h"; its area and time are always the same.
var emission = regexp.MustCompile(`^([\d.]+\s*(?:g|lbs?)?).*$`)

var degrees = regexp.MustCompile(`^([+-]?(?:\d+(?:\.\d+)?|\.\d+))\s*(?:°|deg|degrees)?\s*(c|f)?$`)

// temperature reads degrees. A bare number that is far likelier in the other
// scale is asked about, not guessed.
func (s System) temperature(text string) (celsius float64, what, remedy string) {
	m := degrees.FindStringSubmatch(strings.ReplaceAll(text, "−", "-"))
	if m == nil {
		return 0, "this is not a temperature", s.example(KindTemperature)
	}
	number, err := strconv.ParseFloat(m[1], 64)
	if err != nil {
		return 0, "this is not a temperature", s.example(KindTemperature)
	}
	fahrenheit := func(f float64) float64 { return (f - 32) * 5 / 9 }
	switch {
	case m[2] == "c":
		celsius = number
	case m[2] == "f":
		celsius = fahrenheit(number)
	case !s.us() && number > 45, s.us() && number < 35:
		return 0, fmt.Sprintf("%s without its scale may mean °C or °F", m[1]),
			fmt.Sprintf("Write it as %s °C or %s °F.", m[1], m[1])
	case s.us():
		celsius = fahrenheit(number)
	default:
		celsius = number
	}
	if celsius < -60 || celsius > 120 {
		return 0, "no slab, air or material is that hot or cold", s.example(KindTemperature)
	}
	return celsius, "", ""
}

// tidyMarks folds the many ways of writing the same sign into one.
func tidyMarks(text string) string {
	return strings.NewReplacer(
		"’", "'", "‘", "'", "′", "'", "''", `"`, "”", `"`, "“", `"`, "″", `"`,
		"²", "2", "³", "3", "µ", "u", "μ", "u", "\u00a0", " ", "\u202f", " ",
		"½", " 1/2", "¼", " 1/4", "¾", " 3/4", "⅛", " 1/8", "⅜", " 3/8", "⅝", " 5/8", "⅞", " 7/8",
		"sq ft", "sqft", "sq. ft.", "sqft", "sq m", "sqm", "fl oz", "floz", "fl. oz.", "floz",
		" per ", "/", " / ", "/", "ft.", "ft", "in.", "in",
	).Replace(strings.ToLower(text))
}

var groupedComma = regexp.MustCompile(`^\d{1,3}(,\d{3})+$`)

// decimalPoint turns a decimal comma into a point and refuses what could be
// either a decimal comma or a thousands mark.
func decimalPoint(text string) (string, error) {
	at := strings.IndexByte(text, ',')
	if at < 0 {
		return text, nil
	}
	start, end := at, at
	for start > 0 && strings.IndexByte("0123456789,.", text[start-1]) >= 0 {
		start--
	}
	for end < len(text) && strings.IndexByte("0123456789,.", text[end]) >= 0 {
		end++
	}
	number := text[start:end]
	if groupedComma.MatchString(number) && !strings.HasPrefix(number, "0,") {
		return "", fmt.Errorf("%s may mean %s or %s", number,
			strings.Replace(number, ",", ".", 1), strings.ReplaceAll(number, ",", ""))
	}
	if strings.Count(text, ",") > 1 || strings.Contains(number, ".") {
		return "", fmt.Errorf("%s mixes commas and points", number)
	}
	return strings.Replace(text, ",", ".", 1), nil
}

// numeral reads 6, 6.5, 1/2 or 6 1/2, and says whether it is a whole number.
func numeral(text string) (value float64, whole bool, err error) {
	fields := strings.Fields(text)
	last := fields[len(fields)-1]
	top, bottom, fraction := strings.Cut(last, "/")
	if !fraction {
		value, err = strconv.ParseFloat(text, 64)
		return value, !strings.Contains(text, "."), err
	}
	t, _ := strconv.ParseFloat(top, 64)
	b, _ := strconv.ParseFloat(bottom, 64)
	if b == 0 {
		return 0, false, fmt.Errorf("%s divides by zero", last)
	}
	if len(fields) == 2 {
		value, _ = strconv.ParseFloat(fields[0], 64)
	}
	return value + t/b, false, nil
}

// splitUnit takes the unit at the head of the text and gives what follows it.
func splitUnit(text string) (unit, rest string) {
	text = strings.TrimSpace(text)
	if text == "" {
		return "", ""
	}
	if text[0] == '\'' || text[0] == '"' {
		return text[:1], strings.TrimLeft(text[1:], " -")
	}
	end := 0
	for end < len(text) && (text[end] > 0x7f || strings.IndexByte("abcdefghijklmnopqrstuvwxyz%/", text[end]) >= 0 ||
		end > 0 && (text[end] == '2' || text[end] == '3') && text[end-1] != ' ') {
		end++
	}
	return text[:end], strings.TrimSpace(text[end:])
}

// example is the remedy for a measure that was not understood.
func (s System) example(k Kind) string {
	us := s.us()
	pick := func(metric, customary string) string {
		if us {
			return "Write it like " + customary + "."
		}
		return "Write it like " + metric + "."
	}
	switch k {
	case KindLength:
		return pick("4.27 m, 4270 or 14'", `14' 3 1/2", 14.3 ft or 4.36 m`)
	case KindArea:
		return pick("36 m²", "390 ft²")
	case KindFilm:
		return pick("300 µm or 0.3 mm", "12 mil")
	case KindVolume:
		return pick("18 L or 750 mL", "5 gal or 24 fl oz")
	case KindMass:
		return pick("4.2 kg or 350 g", "9.5 lb or 12 oz")
	case KindDensity:
		return pick("1.15 kg/L", "9.6 lb/gal")
	case KindSpread:
		return pick("6 m²/L", "240 ft²/gal")
	case KindContent:
		return pick("60 g/L", "8 oz/gal")
	case KindCoverage:
		return pick("320 g/m²", "0.07 lb/ft²")
	case KindPace:
		return pick("45 m²/h", "480 ft²/h")
	case KindMassRate:
		return pick("4 kg/min", "9 lb/min")
	case KindSpan:
		return "Write it like 25 min or 1.5 h."
	case KindFraction:
		return "Write it like 6 %."
	case KindAngle:
		return "Write it like 45°."
	case KindTemperature:
		return pick("18 °C", "64 °F")
	case KindEmission:
		return pick("15 g/m²/24h", "3 lb/1000ft²/24h")
	case KindPressure:
		return pick("1.5 MPa", "220 psi")
	default:
		return "Write it as a number."
	}
}
