package sheet

import (
	"math"
	"regexp"
	"slices"
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
	emission    kind = "emission" // kg/(m²·s)
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
	inch   = foot / 12
	minute = 60.0
	hour   = 60 * minute
	day    = 24 * hour
	year   = 365 * day
)

// units returns the units that sheets are written in, longer forms before those they begin with.
func units() []unit {
	return []unit{
		{`lbs?\.?\s?(?:/|per)\s?1[, ]?000\s?(?:sq\.? ?ft\.?|ft²|ft2)\s?(?:(?:/|per|in)\s?24\s?(?:hours?|hrs?|h)\b)?`,
			emission,
			pound / (1000 * foot * foot) / day, 0},
		{`(?:sq\.? ?ft\.?|ft²|ft2)\s?(?:/|per)\s?(?:US |mixed )?gal(?:lon)?\b`, spread, foot * foot / gallon, 0},
		{`(?:m²|m2|sq\.? ?m)\s?(?:/|per)\s?(?:mixed )?(?:[lL](?:itre|iter)?)\b`, spread, 1000, 0},
		{`kg\s?/\s?(?:m²|m2)`, perArea, 1, 0}, {`g\s?/\s?(?:m²|m2)`, perArea, 0.001, 0},
		{`(?:ml|mL)\s?/\s?(?:m²|m2)`, film, 1e-6, 0}, {`[lL]\s?/\s?(?:m²|m2)`, film, 0.001, 0},
		{`lbs?\.?\s?(?:/|per)\s?(?:US )?gal(?:lon)?\b`, density, pound / gallon, 0},
		{`kg\s?(?:/|per)\s?[lL](?:it(?:er|re)s?|tr)?\b|kg\s?/\s?(?:dm³|dm3)|g\s?(?:/|per)\s?(?:cm³|(?:cm3|ml|mL|cc)\b)`,
			density, 1000, 0},
		{`kg\s?/\s?(?:m³|m3)|g(?:rams)?\s?(?:/|per)\s?[lL](?:it(?:er|re)s?|tr)?\b`, density, 1, 0},
		{`mPa\s?[·.*]?\s?s\b|cps?\b|cP\b|centipoise\b`, viscosity, 0.001, 0}, {`Pa\s?[·.*]?\s?s\b`, viscosity, 1, 0},
		{`°\s?C\b|deg(?:rees?|\.)? ?C(?:elsius)?\b|C\b`, temperature, 1, 0},
		{`°\s?F\b|deg(?:rees?|\.)? ?F(?:ahrenheit)?\b|F\b`, temperature, 5.0 / 9, -32},
		{`(?:minutes?|mins?|Minuten?|minutos?|Min)\b\.?`, span, minute, 0},
		{`['’′](?:\s|[,;)]|$)`, span, minute, 0},
		{`(?:hours?|hrs?|Stunden?|Std|horas?|h)\b\.?`, span, hour, 0}, {`(?:seconds?|secs?|s)\b`, span, 1, 0},
		{`(?:days?|Tag(?:en?)?|días?|d)\b`, span, day, 0}, {`(?:weeks?|Wochen?|semanas?)\b`, span, 7 * day, 0},
		{`(?:months?|mos?\.?|Monat(?:en?)?|mes(?:es)?)\b`, span, year / 12, 0}, {`(?:years?|yrs?|Jahre?|años?)\b`, span, year, 0},
		{`(?:µm|μm|um|microns?|micrometres?|micras?)\b`, film, 1e-6, 0}, {`mils?\b`, film, 25.4e-6, 0}, {`mm\b`, film, 0.001, 0},
		{`kg\b`, mass, 1, 0}, {`lbs?\b\.?`, mass, pound, 0}, {`oz\b`, mass, pound / 16, 0}, {`g\b`, mass, 0.001, 0},
		{`(?:US )?(?:gallons?|gal)\b\.?`, volume, gallon, 0}, {`(?:quarts?|qt)\b`, volume, gallon / 4, 0},
		{`(?:pints?|pt)\b`, volume, gallon / 8, 0}, {`(?:millilit(?:er|re)s?|ml|mL)\b`, volume, 1e-6, 0},
		{`(?:lit(?:er|re)s?|[lL])\b`, volume, 0.001, 0}, {`(?i:(?:(?:vol|gew|wt|m|cm|w|v)\.?[- ]?)?%|percent\b|prozent\b|por ciento\b)`, share, 0.01, 0},
		{`(?:inch(?:es)?\b|in\b\.?|[″”"])`, film, inch, 0},
	}
}

// amount is a quantity in a text: one value, or a range.
type amount struct {
	of        kind
	low, high float64
	ranged    bool
	from, to  int // where in the text it stands
	text      string
	unit      int    // number of its unit
	twin      string // the same in another unit beside it, where that does not agree
}

const number = `[0-9]+(?:[.,][0-9]+)?(?:/[0-9]+)?`

// anyNumber is a number in figures or as a word.
var anyNumber = number + `|(?i:\b(?:` + strings.Join(counts(), "|") + `)\b)`

// counts are the numbers that sheets write as words.
func counts() []string {
	return []string{"one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"}
}

// grammar finds quantities.
type grammar struct {
	whole *regexp.Regexp
	units []unit
	comma bool // decimals stand after a comma, thousands after a point
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
	return grammar{regexp.MustCompile(`(` + anyNumber + `)°?\s?(?:±\s?` + number + `\s?)?(?:(?:(?:` + plain +
		`)?\s?(?:–|—|-|to|bis|until|hasta)|\sa)\s?\+?(` + number +
		`))?[\s-]?(?:` + some + `)`), all, false}
}

// value reads a number as sheets write it: 2,5 and 2.5, 1,000, 1/8.
func value(text string) float64 {
	if n := slices.Index(counts(), strings.ToLower(text)); n >= 0 {
		return float64(n + 1)
	}
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
		if preposition.MatchString(text[at[0]:at[1]]) && !measured.MatchString(text[at[1]:]) {
			continue // five in all
		}
		a := amount{from: at[0], to: at[1], text: strings.TrimSpace(text[at[0]:at[1]])}
		for n, u := range g.units {
			if at[6+2*n] < 0 {
				continue
			}
			si := func(from, to int) float64 {
				written := text[from:to]
				if g.comma && thousands.MatchString(written) {
					written = strings.ReplaceAll(written, ".", "")
				}
				return (value(written) + u.offset) * u.si
			}
			a.of, a.low, a.unit = u.of, si(at[2], at[3]), n
			if before := behind(text, at[0]); u.of == temperature && minus.MatchString(before) {
				sign := minus.FindString(before)
				a.from -= len(strings.TrimLeft(sign, " (/,"))
				a.low, a.text = (u.offset-value(text[at[2]:at[3]]))*u.si, text[a.from:at[1]]
			}
			a.high = a.low
			if at[4] >= 0 {
				a.ranged, a.high = true, si(at[4], at[5])
			} else if m := low.FindStringSubmatchIndex(behind(text, a.from)); m != nil {
				start := a.from - len(behind(text, a.from))
				a.ranged, a.low, a.from = true, si(start+m[2], start+m[3]), start+m[2]
				a.text = text[a.from:a.to]
			}
		}
		all = append(all, a)
	}
	return paired(all, text)
}

var (
	thousands   = regexp.MustCompile(`^[0-9]{1,3}(\.[0-9]{3})+$`)
	preposition = regexp.MustCompile(`^[^/]*[0-9] ?in$`)
	measured    = words(`^\s*($|[.,;)(/=–-]|thick|deep|per\b|wet|dry|at\b|to\b|max|of )`)
	plusMinus   = regexp.MustCompile(`^\s?\(?(±|\+/-|\+-)\s?$`)

	minus   = regexp.MustCompile(`(?:^|[\s(/,])[-−]$`)
	between = words(`\b(between|zwischen|entre|from|von|de)\s+\+?$`)
	low     = words(`\b(?:between|zwischen|entre)\s+\+?(` + number + `)°?\s+(?:and|und|y)\s+\+?$`)
	joined  = words(`^ (and|und|y|a) \+?$`)
	again   = regexp.MustCompile(`^\s*(?:\(|/|=)\s*(?:approx\.?|ca\.?|~)?\s*\+?$`)
)

// paired takes two amounts with “between … and …” as one range, and drops what says an amount again in another unit;
// where the two do not agree, the first remembers it.
func paired(all []amount, text string) []amount {
	var out []amount
	for _, a := range all {
		last := len(out) - 1
		if last < 0 || out[last].of != a.of {
			out = append(out, a)
			continue
		}
		b, gap := &out[last], text[out[last].to:a.from]
		switch {
		case plusMinus.MatchString(gap): // how exactly the first holds
		case joined.MatchString(gap) && between.MatchString(behind(text, b.from)) && !a.ranged && !b.ranged:
			b.ranged, b.high, b.to = true, a.low, a.to
			b.text = text[b.from:b.to]
		case gap == " a " && a.unit == b.unit && !a.ranged && !b.ranged && a.of != span: // de 5 °C a 35 °C
			b.ranged, b.high, b.to = true, a.low, a.to
			b.text = text[b.from:b.to]
		case a.unit != b.unit && again.MatchString(gap) && a.ranged == b.ranged:
			if !agree(*b, a) {
				b.twin = a.text
			}
		default:
			out = append(out, a)
		}
	}
	return out
}

// behind returns what stands closely before a place of a text.
func behind(text string, at int) string {
	const close = 40 // bytes
	return text[max(0, at-close):at]
}

// agree reports whether two amounts are the same as far as sheets round.
func agree(a, b amount) bool {
	near := func(x, y float64) bool {
		if a.of == temperature {
			return math.Abs(x-y) <= 1.2
		}
		return math.Abs(x-y) <= 0.06*math.Max(math.Abs(x), math.Abs(y))
	}
	return near(a.low, b.low) && near(a.high, b.high)
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
