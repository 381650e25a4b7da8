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
		if all[0].ranged {
			r.add(n, Value{Path: "filmMin", Value: all[0].low, As: all[0].text}.besides(all[0]))
		}
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
func humidity(r *reader, n int, _ field, label, rest string) {
	if bound := ends("humidity", share); !bound(r, n, label, rest) {
		if all := of(r.find(rest), share); len(all) == 1 {
			r.add(n, Value{Path: "humidityMax", Value: all[0].low, As: all[0].text})
		}
	}
}

// What says that a figure is the least or the greatest; what says so of a sentence that allows, and the contrary of one
// that forbids.
var (
	notMore = words(`\b(not|no|never|nicht|kein\w*)( be| rise| go| to)? (above|over|more|exceed\w*|higher|greater|über|höher|mehr)\b|` +
		`no (superior|más)`)
	notLess = words(`\b(not|no|never|nicht)( be| fall| drop| go)? (below|under|less|lower|fewer|unter|weniger)\b|no (inferior|menos)`)
	least   = words(`\b(min\.?|minimum|minimal|at least|mind\.?|mindestens|ab)(\W|$)|mínim|≥`)
	most    = words(`\b(max\.?|maximum|maximal|at most|up to|höchstens|bis( zu)?|hasta)(\W|$)|máxim|≤`)
	upwards = words(`^\s*(or|and|oder|und) (above|up|higher|more|warmer|höher|mehr)`)
	down    = words(`^\s*(or|and|oder|und) (below|lower|less|cooler|weniger)`)
	over    = words(`\b(above|over|more than|higher than|wärmer als|warmer than|greater than|exceed\w*|über|sobre|superior)\b|>`)
	under   = words(`\b(below|under|less than|lower than|cooler than|unter|inferior|bajo|menos)\b|<`)
	forbids = words(`\b(do not|don['’]t|never|nor|avoid|not (be )?(appl|us|coat|lay|work|install)\w*|` +
		`nicht (verarbeiten|anwenden|auftragen|beschichten|verlegen)|no (aplicar|usar|aplique))\b`)
)

// bound returns whether the words about a figure make it the least or the greatest; neither where they do not say.
func bound(sentence, before, after string) (isLeast, isMost bool) {
	switch {
	case upwards.MatchString(after):
		return true, false
	case down.MatchString(after):
		return false, true
	}
	forbidden := forbids.MatchString(notMore.ReplaceAllString(notLess.ReplaceAllString(sentence, ""), ""))
	for _, text := range []string{before, after} {
		high, low := over.MatchString(text), under.MatchString(text)
		switch {
		case notMore.MatchString(text):
			return false, true
		case notLess.MatchString(text):
			return true, false
		case least.MatchString(text):
			return true, false
		case most.MatchString(text):
			return false, true
		case high != low:
			return high != forbidden, low != forbidden
		}
	}
	return false, false
}

var comma = regexp.MustCompile(`.*[,;]\s`)

// ends reads the least and the greatest of a quantity, and tells whether it found one of them.
func ends(what string, want kind) func(r *reader, n int, label, rest string) bool {
	return func(r *reader, n int, label, rest string) bool {
		said := label + "  " + rest
		all := of(r.find(said), want)
		from, found := 0, false
		for k, a := range all {
			until := len(said)
			if k+1 < len(all) {
				until = all[k+1].from
			}
			before, after := comma.ReplaceAllString(said[from:a.from], ""), said[a.to:until]
			if k+1 < len(all) {
				after, _, _ = strings.Cut(after, ",")
			}
			if k == 0 {
				before = said[:a.from]
			}
			from = a.to
			if a.ranged {
				r.add(n, Value{Path: what + "Min", Value: a.low, As: a.text}.besides(a))
				r.add(n, Value{Path: what + "Max", Value: a.high, As: a.text}.besides(a))
				return true
			}
			isLeast, isMost := bound(said[:a.from], before, after)
			if isLeast {
				r.add(n, Value{Path: what + "Min", Value: a.low, As: a.text}.besides(a))
			}
			if isMost {
				r.add(n, Value{Path: what + "Max", Value: a.low, As: a.text}.besides(a))
			}
			found = found || isLeast || isMost
		}
		return found
	}
}

// limits reads the least and the greatest temperature.
func limits(what string) reading {
	read := ends(what, temperature)
	return func(r *reader, n int, _ field, label, rest string) { read(r, n, label, rest) }
}

var kelvins = regexp.MustCompile(`(` + number + `)\s?(?:°?\s?([CF])\b|K\b)`)

var inBrackets = regexp.MustCompile(`\(([^)]*)\)`)

var (
	bothFilms = words(`wet ?(=|/|and) ?dry`)
	dryFilm   = words(`dry|dft|trocken`)
	dryBeside = words(`\((dry|dft|trocken)[^)]*\)`)
)

// wetOrDry is the doubt about a film; where nothing of it leaves, there is none.
const wetOrDry = "the sheet does not say whether wet or dry"

func films(r *reader, n int, _ field, label, rest string) {
	rest = dryBeside.ReplaceAllString(bothFilms.ReplaceAllString(rest, "wet"), "")
	if dryFilm.MatchString(rest) { // what is said of the dry film stands in clauses of its own
		var wet []string
		for _, clause := range regexp.MustCompile(`[;,/(]`).Split(rest, -1) {
			if !dryFilm.MatchString(clause) {
				wet = append(wet, clause)
			}
		}
		rest = strings.Join(wet, ", ")
	}
	all := of(r.find(rest), film)
	if len(all) == 0 {
		return
	}
	state, why := Read, ""
	const troweled = 0.003 // m: nobody gauges it wet
	if !words(`wet|wft|nass|húmed`).MatchString(label+" "+rest) && all[0].high < troweled {
		state, why = Doubtful, wetOrDry
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
		if !perThickness.MatchString(said[a.to:]) && !atOne.MatchString(said[a.to:]) && !ofSand.MatchString(said[a.to:]) {
			all = append(all, a)
		}
	}
	thick := of(all, film)
	wet := words(`\bwet\b`).MatchString(said)
	figure := map[bool]string{true: "theoretical"}[words(`theoret|teóric`).MatchString(said)]
	if words(`practical|praktisch|práctic`).MatchString(said) {
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
		greatest := slices.MaxFunc(weight, func(a, b amount) int { return cmp.Compare(a.high, b.high) })
		greatest.ranged = greatest.ranged || len(weight) > 1
		make("mass-per-area", greatest, greatest.high)
	case len(area) > 0:
		least := slices.MinFunc(area, func(a, b amount) int { return cmp.Compare(a.low, b.low) })
		least.ranged = least.ranged || len(area) > 1
		make("spread", least, least.low)
	case len(thick) > 0 && wet:
		make("wet-film", thick[0], thick[0].high)
	default:
		if m := covers.FindStringSubmatch(said); m != nil {
			area := value(m[3]) * map[bool]float64{true: 1, false: foot * foot}[strings.HasPrefix(strings.ToLower(m[4]), "m")]
			one := r.find(cmp.Or(m[1], "1") + " " + m[2])
			if len(one) == 1 && one[0].of == volume {
				make("spread", amount{text: m[0]}, area/one[0].low)
			} else if len(one) == 1 && one[0].of == mass {
				make("mass-per-area", amount{text: m[0]}, one[0].low/area)
			}
		}
	}
}

var (
	atOne  = words(`^ ?(at|@|bei|per) 1 ?mil\b`) // what the solids give, not an amount
	covers = words(`\b(` + anyNumber + `|an?)[ -](gallon|lit(?:er|re)s?|l|kg|gal)(?:[ -](?:kit|pack|set|unit))? (?:covers|is enough for)` +
		`(?: about| approx\.?)? (` + number + `) ?(sq\.? ?ft|ft²|m²|m2)(?:\.|,|;|\s|$)`)
	ofSand = words(`^\s*(of )?(the )?(dry |kiln[- ]dried )?(quar[tz]|sand|aggregate|[a-zäöü]*sand\b|árido|arena|flakes|chips)`)
)

// perThickness follows an amount that is not of an area but of an area and a thickness.
var perThickness = words(`^\s?(per|je|por|/|and|und) ?(1 ?)?(mm|mil)\b`)

// slabMoisture reads what a slab may hold, by the method that is named beside it.
func slabMoisture(r *reader, n int, _ field, label, rest string) {
	all, said := r.find(rest), label+" "+rest
	if out := of(all, emission); len(out) > 0 {
		r.add(n, Value{Path: "emissionMax", Value: out[0].high, As: out[0].text}.besides(out[0]))
	} else if out := of(all, mass); len(out) == 1 && words(`mver|emission`).MatchString(said) {
		// Pounds alone are those of 1,000 square feet in 24 hours.
		r.add(n, Value{Path: "emissionMax", Value: out[0].high / (1000 * foot * foot) / day, As: out[0].text})
	}
	wet := of(all, share)
	if len(wet) != 1 {
		return
	}
	switch a := wet[0]; {
	case words(`\bCM\b|carbide|carburo|by weight|mass|gew|CM-%`).MatchString(said):
		r.add(n, Value{Path: "carbideMax", Value: a.high, As: a.text})
	case words(`relative|\bR\.?H|in[- ]situ|F ?2170`).MatchString(said):
		r.add(n, Value{Path: "slabHumidityMax", Value: a.high, As: a.text})
	}
}

func dew(r *reader, n int, _ field, _, rest string) {
	all := kelvins.FindAllStringSubmatchIndex(rest, -1)
	if len(all) == 0 {
		return
	}
	at := all[0]
	if point := dewWords.FindStringIndex(rest); point != nil {
		for _, own := range all { // the last one before the words
			if own[1] <= point[0] && (own[0] == 0 || rest[own[0]-1] != '(') {
				at = own
			}
		}
	}
	m := kelvins.FindStringSubmatch(rest[at[0]:])
	k := value(m[1])
	if m[2] == "F" {
		k *= 5.0 / 9
	}
	r.add(n, Value{Path: "dewMargin", Value: k, As: strings.TrimSpace(m[0])})
}

// packed holds how much of a part a kit has.
type packed struct {
	amount
	line int
}

// partsIn notes how much of each part a kit holds, from a line that says so.
func (r *reader) partsIn(n int, text string) {
	if r.packed == nil {
		r.packed = make(map[string]packed)
	}
	all := r.find(text)
	from := 0
	for k, a := range all {
		until := len(text)
		if k+1 < len(all) {
			until = all[k+1].from
		}
		after := ofPart.FindString(text[a.to:until])
		before := pieces.ReplaceAllString(text[from:a.from], "")
		from = a.to + len(after)
		if a.of != mass && a.of != volume || a.ranged {
			continue
		}
		if comma := strings.LastIndexAny(before, ",+("); comma >= 0 {
			before = before[comma:]
		}
		part := cmp.Or(partOf(after), partOf(before))
		if _, known := r.packed[part]; part != "" && !known {
			r.packed[part] = packed{a, n}
		}
	}
}

// ratioOfPacks derives the mixing ratio from what a kit holds, where the sheet states none.
func (r *reader) ratioOfPacks() {
	a, b, c := r.packed["A"], r.packed["B"], r.packed["C"]
	if a.of == "" || a.of != b.of || c.of != "" && c.of != a.of {
		return
	}
	if slices.ContainsFunc(r.draft.Values, func(v Value) bool { return v.Path == "ratio" }) {
		return
	}
	parts := []float64{1, b.low / a.low}
	if c.of != "" {
		parts = append(parts, c.low/a.low)
	}
	basis := map[kind]string{mass: "mass", volume: "volume"}[a.of]
	r.add(a.line, Value{Path: "ratio", Value: map[string]any{"basis": basis, "parts": parts}, As: a.text,
		State: Derived, Why: "from what a kit holds of each part"})
}

var kitParts = words(`\b[ABC]\b`)

func kits(r *reader, n int, _ field, label, rest string) {
	r.partsIn(n, label+": "+rest)
	if partOf(pieces.ReplaceAllString(label, "")) != "" && !together.MatchString(label) {
		return
	}
	if m := sized.FindStringSubmatch(label); m != nil {
		rest = m[1]
	}
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
	ofPart    = words(`^\s*(of )?((part|component|side) ?)?([ABC]\b|resin|base|hardener|activator|härter)`)
	pieces    = words(`\([^)]*\)|.*\b(pack(age|aging|s)?|kits?|composition|contents)\b`)
	sized     = words(`^([0-9][0-9.,/-]*[ -]?(?:kg|g|lb|l|litre|liter|gal|gallon|quart|qt|ml)s?)\b(?:[^0-9]*$|[^0-9,]*\()`)
	together  = words(`\b[ABC](\s?\+\s?[ABC])+\b`)
	partAfter = words(`^\s*(of )?(part |component )?[ABC]\b`)
)

func storage(r *reader, n int, _ field, label, rest string) {
	all := r.find(rest)
	const opened = 20 * day // what keeps shorter is an opened pail
	kept := slices.DeleteFunc(of(all, span), func(a amount) bool { return a.low < opened })
	if len(kept) > 0 {
		a := kept[0]
		if partOf(rest) != "" { // of several parts the one that keeps shortest
			a = slices.MinFunc(kept, func(a, b amount) int { return cmp.Compare(a.low, b.low) })
		}
		v := Value{Path: "shelfLife", Value: a.low, As: a.text}
		if a.ranged {
			v.State, v.Why = Doubtful, "the sheet gives a range; the shorter is taken"
		}
		r.add(n, v)
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
