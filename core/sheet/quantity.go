package sheet

import (
	"regexp"
	"strconv"
	"strings"
)

// kind names what a unit measures.
type kind string

const (
	temperature kind = "temperature" // °C
	span        kind = "time"        // s
	mass        kind = "mass"        // kg
	volume      kind = "volume"      // m³
	density     kind = "density"     // kg/m³, of contents too
	viscosity   kind = "viscosity"   // Pa·s
	film        kind = "film"        // m
	spread      kind = "spread"      // m²/m³
	perArea     kind = "perArea"     // kg/m²
	share       kind = "share"
)

// unit holds how a unit is written, what it measures, and its size in SI.
type unit struct {
	written string // a regular expression
	of      kind
	si      float64
	offset  float64 // added before si, for °F
}

const (
	gallon = 0.003785411784
	pound  = 0.45359237
	foot   = 0.3048
	minute = 60.0
	hour   = 60 * minute
	day    = 24 * hour
	year   = 365 * day
)

// units returns the units that sheets are written in, longer forms before those they begin with.
func units() []unit {
	return []unit{
		{`(?:sq\.? ?ft\.?|ft²|ft2)\s?(?:/|per)\s?(?:US )?gal(?:lon)?\b`, spread, foot * foot / gallon, 0},
		{`(?:m²|m2|sq\.? ?m)\s?(?:/|per)\s?(?:l(?:itre|iter)?)\b`, spread, 1000, 0},
		{`kg\s?/\s?(?:m²|m2)`, perArea, 1, 0}, {`g\s?/\s?(?:m²|m2)`, perArea, 0.001, 0},
		{`(?:ml|mL)\s?/\s?(?:m²|m2)`, film, 1e-6, 0}, {`[lL]\s?/\s?(?:m²|m2)`, film, 0.001, 0},
		{`lbs?\.?\s?(?:/|per)\s?(?:US )?gal(?:lon)?\b`, density, pound / gallon, 0},
		{`kg\s?/\s?[lL]\b|kg\s?/\s?(?:dm³|dm3)|g\s?/\s?(?:cm³|cm3|ml|mL|cc)\b`, density, 1000, 0},
		{`kg\s?/\s?(?:m³|m3)|g\s?/\s?[lL]\b`, density, 1, 0},
		{`mPa\s?[·.*]?\s?s\b|cps?\b|cP\b|centipoise\b`, viscosity, 0.001, 0}, {`Pa\s?[·.*]?\s?s\b`, viscosity, 1, 0},
		{`°\s?C\b|degrees? C(?:elsius)?\b|C\b`, temperature, 1, 0},
		{`°\s?F\b|degrees? F(?:ahrenheit)?\b|F\b`, temperature, 5.0 / 9, -32},
		{`(?:minutes?|mins?|Minuten|minutos|Min)\b\.?`, span, minute, 0},
		{`(?:hours?|hrs?|Stunden|Std|horas|h)\b\.?`, span, hour, 0}, {`(?:seconds?|secs?|s)\b`, span, 1, 0},
		{`(?:days?|Tagen?|días|d)\b`, span, day, 0}, {`(?:weeks?|Wochen|semanas)\b`, span, 7 * day, 0},
		{`(?:months?|Monate|meses)\b`, span, year / 12, 0}, {`(?:years?|Jahre?|años?)\b`, span, year, 0},
		{`(?:µm|μm|um|microns?|micrometres?)\b`, film, 1e-6, 0}, {`mils?\b`, film, 25.4e-6, 0}, {`mm\b`, film, 0.001, 0},
		{`kg\b`, mass, 1, 0}, {`lbs?\b\.?`, mass, pound, 0}, {`oz\b`, mass, pound / 16, 0}, {`g\b`, mass, 0.001, 0},
		{`(?:US )?(?:gallons?|gal)\b\.?`, volume, gallon, 0}, {`(?:quarts?|qt)\b`, volume, gallon / 4, 0},
		{`(?:pints?|pt)\b`, volume, gallon / 8, 0}, {`(?:millilit(?:er|re)s?|ml|mL)\b`, volume, 1e-6, 0},
		{`(?:lit(?:er|re)s?|[lL])\b`, volume, 0.001, 0}, {`%`, share, 0.01, 0},
	}
}

// amount is a quantity in a text: one value, or a range.
type amount struct {
	of        kind
	low, high float64
	ranged    bool
	from, to  int // where in the text it stands
	text      string
}

const number = `[0-9]+(?:[.,][0-9]+)?(?:/[0-9]+)?`

// grammar finds quantities.
type grammar struct {
	whole *regexp.Regexp
	units []unit
}

func newGrammar() grammar {
	all := units()
	written := make([]string, len(all))
	for n, u := range all {
		written[n] = "(" + u.written + ")"
	}
	// A range may have a unit at its first number too: 10 °C to 30 °C.
	some := strings.Join(written, "|")
	plain := regexp.MustCompile(`\((?:[^?])`).ReplaceAllStringFunc(some, func(s string) string { return "(?:" + s[1:] })
	return grammar{regexp.MustCompile(`(` + number + `)\s?(?:(?:` + plain +
		`)?\s?(?:–|—|-|to|bis|until|hasta)\s?(` + number +
		`))?\s?(?:` + some + `)`), all}
}

// value reads a number as sheets write it: 2,5 and 2.5, 1,000, 1/8.
func value(text string) float64 {
	top, bottom, divided := strings.Cut(text, "/")
	if divided {
		return value(top) / value(bottom)
	}
	if whole, part, comma := strings.Cut(text, ","); comma {
		if len(part) == 3 && whole != "0" {
			text = whole + part // thousands
		} else {
			text = whole + "." + part
		}
	}
	v, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return 0
	}
	return v
}

// find returns the quantities of a text in their order.
func (g grammar) find(text string) []amount {
	var all []amount
	for _, at := range g.whole.FindAllStringSubmatchIndex(text, -1) {
		if at[0] > 0 && isWord(text[at[0]-1]) {
			continue // the end of a name or a larger number
		}
		a := amount{from: at[0], to: at[1], text: text[at[0]:at[1]]}
		for n, u := range g.units {
			if at[6+2*n] < 0 {
				continue
			}
			si := func(from, to int) float64 { return (value(text[from:to]) + u.offset) * u.si }
			a.of, a.low = u.of, si(at[2], at[3])
			a.high = a.low
			if at[4] >= 0 {
				a.ranged, a.high = true, si(at[4], at[5])
			}
		}
		all = append(all, a)
	}
	return all
}

func isWord(c byte) bool {
	return c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '.' || c == ','
}

// of returns the quantities of one kind.
func of(all []amount, want kind) []amount {
	var out []amount
	for _, a := range all {
		if a.of == want {
			out = append(out, a)
		}
	}
	return out
}
