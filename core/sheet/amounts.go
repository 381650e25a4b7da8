package sheet

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
)

// poured reads the greatest depth of a casting.
func poured(r *reader, n int, _ field, _, rest string) {
	if all := of(r.find(rest), film); len(all) > 0 {
		r.add(n, Value{Path: "filmMax", Value: all[0].high, As: all[0].text}.besides(all[0]))
	}
}

// both reads temperatures of air and slab at once.
func both(r *reader, n int, f field, label, rest string) {
	limits("air")(r, n, f, label, rest)
	limits("slab")(r, n, f, label, rest)
}

// where reads temperatures of which the sheet does not say what is as warm.
func where(r *reader, n int, f field, label, rest string) {
	before := len(r.draft.Values)
	limits("air")(r, n, f, label, rest)
	for k := before; k < len(r.draft.Values); k++ {
		r.draft.Values[k].State, r.draft.Values[k].Why = Doubtful, "the sheet does not say whether of air or slab"
	}
}

// humidity reads the limits of the humidity of the air.
func humidity(r *reader, n int, _ field, _, rest string) {
	all := of(r.find(rest), share)
	switch {
	case len(all) == 0:
	case all[0].ranged:
		r.add(n, Value{Path: "humidityMin", Value: all[0].low, As: all[0].text})
		r.add(n, Value{Path: "humidityMax", Value: all[0].high, As: all[0].text})
	case least.MatchString(rest):
		r.add(n, Value{Path: "humidityMin", Value: all[0].low, As: all[0].text})
	default:
		r.add(n, Value{Path: "humidityMax", Value: all[0].low, As: all[0].text})
	}
}

var (
	least = words(`\b(above|min\.?|minimum|at least|not (below|under|less)|no less|mind|mindestens|` +
		`nicht unter|mínimo|no menos)\b|≥|>`)
	most = words(`\b(max\.?|maximum|at most|up to|not (above|over|more)|below|under|höchstens|unter|` +
		`nicht über)\b|máx|≤|<`)
)

// limits reads the least and the greatest temperature.
func limits(of2 string) func(*reader, int, field, string, string) {
	return func(r *reader, n int, _ field, label, rest string) {
		all := of(r.find(rest), temperature)
		if len(all) == 0 {
			return
		}
		from := 0
		for _, a := range all {
			before := rest[from:a.from]
			from = a.to
			switch {
			case a.ranged:
				r.add(n, Value{Path: of2 + "Min", Value: a.low, As: a.text}.besides(a))
				r.add(n, Value{Path: of2 + "Max", Value: a.high, As: a.text}.besides(a))
				return
			case least.MatchString(before) || len(all) == 1 && least.MatchString(label+rest[a.to:]):
				r.add(n, Value{Path: of2 + "Min", Value: a.low, As: a.text}.besides(a))
			case most.MatchString(before) || len(all) == 1 && most.MatchString(label+rest[a.to:]):
				r.add(n, Value{Path: of2 + "Max", Value: a.low, As: a.text}.besides(a))
			}
		}
	}
}

var inBrackets = regexp.MustCompile(`\(([^)]*)\)`)

var (
	dryFilm   = words(`dry|dft|trocken`)
	dryBeside = words(`\((dry|dft|trocken)[^)]*\)`)
)

func films(r *reader, n int, _ field, label, rest string) {
	rest = dryBeside.ReplaceAllString(rest, "")
	all := of(r.find(rest), film)
	if len(all) == 0 || dryFilm.MatchString(rest) {
		return
	}
	state, why := Read, ""
	if !words(`wet|wft|nass`).MatchString(label + " " + rest) {
		state, why = Doubtful, "the sheet does not say whether wet or dry"
	}
	switch {
	case all[0].ranged:
		r.add(n, Value{Path: "filmMin", Value: all[0].low, As: all[0].text, State: state, Why: why})
		r.add(n, Value{Path: "filmMax", Value: all[0].high, As: all[0].text, State: state, Why: why})
	case most.MatchString(rest):
		r.add(n, Value{Path: "filmMax", Value: all[0].low, As: all[0].text, State: state, Why: why})
	case least.MatchString(rest):
		r.add(n, Value{Path: "filmMin", Value: all[0].low, As: all[0].text, State: state, Why: why})
	}
}

func printed(r *reader, n int, _ field, label, rest string) {
	said := label + "  " + rest
	var all []amount
	for _, a := range r.find(said) {
		if !perThickness.MatchString(said[a.to:]) {
			all = append(all, a)
		}
	}
	thick := of(all, film)
	wet := words(`\bwet\b`).MatchString(said)
	figure := map[bool]string{true: "theoretical"}[words(`theoret`).MatchString(label)]
	if words(`practical`).MatchString(label) {
		figure = "practical"
	}
	make := func(basis string, a amount, si float64) {
		p := map[string]any{"basis": basis, "value": si}
		if figure != "" && basis != "wet-film" {
			p["figure"] = figure
		}
		v := Value{Path: "printed", Value: p, As: a.text}
		if a.ranged {
			v.State, v.Why = Doubtful, "the sheet gives a range; the amount that needs more material is taken"
		}
		r.add(n, v)
	}
	switch weight, area := of(all, perArea), of(all, spread); {
	case len(thick) == 1 && wet && len(area) == 1:
		make("wet-film", thick[0], thick[0].high)
	case len(weight) > 0:
		make("mass-per-area", weight[0], weight[0].high)
	case len(area) > 0:
		least := slices.MinFunc(area, func(a, b amount) int { return cmp.Compare(a.low, b.low) })
		least.ranged = least.ranged || len(area) > 1
		make("spread", least, least.low)
	case len(thick) > 0 && wet:
		make("wet-film", thick[0], thick[0].high)
	}
}

// perThickness follows an amount that is not of an area but of an area and a thickness.
var perThickness = words(`^\s?(per|je|por|/|and|und) ?(1 ?)?(mm|mil)\b`)

// slabMoisture reads what a slab may hold, by the method that is named beside it.
func slabMoisture(r *reader, n int, _ field, label, rest string) {
	all, said := r.find(rest), label+" "+rest
	if out := of(all, emission); len(out) > 0 {
		r.add(n, Value{Path: "emissionMax", Value: out[0].high, As: out[0].text}.besides(out[0]))
	}
	wet := of(all, share)
	if len(wet) != 1 {
		return
	}
	switch a := wet[0]; {
	case words(`\bCM\b|carbide|by weight|mass|gew|CM-%`).MatchString(said):
		r.add(n, Value{Path: "carbideMax", Value: a.high, As: a.text})
	case words(`relative|\bR\.?H|in[- ]situ|F ?2170`).MatchString(said):
		r.add(n, Value{Path: "slabHumidityMax", Value: a.high, As: a.text})
	}
}

func dew(r *reader, n int, _ field, _, rest string) {
	m := regexp.MustCompile(`(` + number + `)\s?(?:°\s?([CF])|K\b)`).FindStringSubmatch(rest)
	if m == nil {
		return
	}
	k := value(m[1])
	if m[2] == "F" {
		k *= 5.0 / 9
	}
	r.add(n, Value{Path: "dewMargin", Value: k, As: strings.TrimSpace(m[0])})
}

var kitParts = words(`\b[ABC]\b`)

func kits(r *reader, n int, _ field, _, rest string) {
	// What stands in brackets or after a colon are the parts of the kit before it.
	whole := inBrackets.ReplaceAllString(rest, "")
	whole, _, _ = strings.Cut(whole, ":")
	from := 0
	for _, a := range r.find(whole) {
		before := whole[from:a.from]
		from = a.to
		parts := kitParts.MatchString(before) && !together.MatchString(before) || partAfter.MatchString(whole[a.to:])
		if a.of != volume && a.of != mass || a.ranged || parts {
			continue
		}
		kit := map[string]any{"name": a.text, string(a.of): a.low}
		r.add(n, Value{Path: "kits", Value: kit, As: a.text})
	}
}

var (
	together  = words(`\b[ABC](\s?\+\s?[ABC])+\b`)
	partAfter = words(`^\s*(of )?(part |component )?[ABC]\b`)
)

func storage(r *reader, n int, _ field, label, rest string) {
	all := r.find(rest)
	for _, a := range of(all, span) {
		const opened = 20 * day // what keeps shorter is an opened pail
		if a.low >= opened {
			v := Value{Path: "shelfLife", Value: a.low, As: a.text}
			if a.ranged {
				v.State, v.Why = Doubtful, "the sheet gives a range; the shorter is taken"
			}
			r.add(n, v)
			break
		}
	}
	limits("store")(r, n, field{}, label, rest)
}

func thinning(r *reader, n int, _ field, _, rest string) {
	all := of(r.find(rest), share)
	if len(all) != 1 || !words(`vol`).MatchString(rest) && words(`weight|mass`).MatchString(rest) {
		return
	}
	r.add(n, Value{Path: "thinnerMax", Value: map[string]any{"value": all[0].high, "of": "a+b"}, As: all[0].text})
}
