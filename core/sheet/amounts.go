package sheet

import (
	"regexp"
	"slices"
	"strings"

	"nephelon/core/draft"
	"nephelon/core/sheet/lexicon"
)

// poured reads the greatest depth of a casting.
func poured(r *reader, n int, _ field, _, rest string) {
	if r.byWarmth(n, rest) {
		return
	}
	if all := of(r.find(rest), film); len(all) > 0 {
		if all[0].ranged {
			r.add(n, besides(draft.Value{Path: "filmMin", Value: all[0].low, As: all[0].text}, all[0]))
		}
		r.add(n, besides(draft.Value{Path: "filmMax", Value: all[0].high, As: all[0].text}, all[0]))
	}
}

// byWarmth reads thickest films that hold at temperatures; false where there are not two of them.
func (r *reader) byWarmth(n int, rest string) bool {
	all := r.find(rest)
	if films := of(all, film); len(films) == len(r.columns) && len(films) > 1 {
		for k, a := range films {
			r.add(n, draft.Value{Path: "filmMax", Value: a.high, As: a.text, At: &r.columns[k]})
		}
		return true
	}
	var at []draft.Value
	for k, a := range all {
		if a.of == film && !a.ranged && k+1 < len(all) && all[k+1].of == temperature && !all[k+1].ranged {
			warm := all[k+1].low
			at = append(at, draft.Value{Path: "filmMax", Value: a.low, As: a.text, At: &warm})
		}
	}
	if len(at) < 2 {
		return false
	}
	for _, v := range at {
		r.add(n, v)
	}
	return true
}

// placesIn are the words for what is as warm as a sheet says, by the beginning of its paths.
var placesIn = [][2]string{{"air", `\b(?:air|ambient|room|luft\p{L}*|umgebung\p{L}*|ambiente)\b`},
	{"slab", `\b(?:surface|substrate|floor|slab|concrete|untergrund|boden|objekt|soporte)s?\b`},
	{"material", `\b(?:material|product|resin|parts|components)\b`}}

// twoOf returns an expression that has words for two places.
func twoOf(all [][2]string) string {
	var ways []string
	for _, a := range all {
		for _, b := range all {
			if a != b {
				ways = append(ways, a[1]+".*"+b[1])
			}
		}
	}
	return strings.Join(ways, "|")
}

// places reads temperatures of all the places that the line names.
func places(r *reader, n int, f field, label, rest string) {
	for _, p := range placesIn {
		if words(p[1]).MatchString(label + " " + rest) {
			limits(p[0])(r, n, f, label, rest)
		}
	}
}

// where reads temperatures whose label need not say what is as warm.
func where(r *reader, n int, f field, label, rest string) {
	before := len(r.draft.Values)
	said := label
	if all := r.find(rest); len(all) > 0 {
		after, _, _ := strings.Cut(rest[all[0].to:], ",")
		said += " " + rest[:all[0].from] + " " + after
	}
	if slices.ContainsFunc(placesIn, func(p [2]string) bool { return words(p[1]).MatchString(said) }) {
		places(r, n, f, label, rest)
		return
	}
	limits("air")(r, n, f, label, rest)
	for k := before; k < len(r.draft.Values); k++ {
		r.draft.Values[k].State, r.draft.Values[k].Why = draft.Doubtful, "the sheet does not say whether of air or slab"
	}
}

// humidity reads the limits of the humidity of the air.
func humidity(r *reader, n int, _ field, label, rest string) {
	if bound := ends("humidity", share); !bound(r, n, label, rest) {
		// At 50 % humidity is how something was tested.
		if all := of(r.find(rest), share); len(all) == 1 && words(lexicon.Labels().Any("humidity")).MatchString(label) {
			r.add(n, draft.Value{Path: "humidityMax", Value: all[0].low, As: all[0].text})
		}
	}
}

// What says that a figure is the least or the greatest; what says so of a sentence that allows, and the contrary of one
// that forbids.
var (
	notMore = words(`\b(not|no|never|nicht|kein\w*)( be| rise| go| to)? (above|over|more|exceed\w*|higher|greater|über|höher|mehr)\b|` +
		`no (superior|más)`)
	notLess = words(`\b(not|no|never|nicht)( be| fall| drop| go)? (below|under|less|lower|fewer|unter|weniger)\b|no (inferior|menos)`)
	least   = words(`\b(min\.?|minimum|minimal|at least|mind\.?|mindestens|ab)(\W|$)|mindest|mínim|mín\.|≥`)
	most    = words(`\b(max\.?|maximum|maximal|at most|up to|höchstens|bis( zu)?|hasta)(\W|$)|höchst|máxim|máx\.|≤`)
	upwards = words(`^\s*(or|and|oder|und) (above|up|higher|more|warmer|höher|mehr)`)
	ofNext  = words(`\s(or|and|oder|und|y|o) \p{L}+\s*\+?$`) // said of the figure that follows
	down    = words(`^\s*(or|and|oder|und) (below|lower|less|cooler|weniger)`)
	over    = words(`\b(above|over|more than|higher than|wärmer als|warmer than|greater than|exceed\w*|über|sobre|superior)\b|>`)
	under   = words(`\b(below|under|less than|lower than|cooler than|unter|inferior|bajo|menos)\b|<`)
	forbids = words(`\b(do not|don['’]t|never|nor|avoid|unsuitable|stop (work|appl)\w*|` +
		`not( to)?( for)?( be)? (appl|us|coat|lay|work|install|proceed)\w*|` +
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
				after, _, _ = strings.Cut(ofNext.ReplaceAllString(after, ""), ",")
			}
			if k == 0 {
				before = said[:a.from]
			}
			from = a.to
			if a.ranged {
				r.add(n, besides(draft.Value{Path: what + "Min", Value: a.low, As: a.text}, a))
				r.add(n, besides(draft.Value{Path: what + "Max", Value: a.high, As: a.text}, a))
				return true
			}
			isLeast, isMost := bound(said[:a.from], before, after)
			if isLeast {
				r.add(n, besides(draft.Value{Path: what + "Min", Value: a.low, As: a.text}, a))
			}
			if isMost {
				r.add(n, besides(draft.Value{Path: what + "Max", Value: a.low, As: a.text}, a))
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

var kelvins = regexp.MustCompile(`(` + number + `)\s?(?:(?:°|[Dd]eg(?:rees?|\.)?)?\s?([CF])\b|K\b)`)

var inBrackets = regexp.MustCompile(`\(([^)]*)\)`)

var (
	bothFilms = words(`wet ?(=|/|and) ?dry`)
	dryFilm   = words(`dry|dft|trocken`)
	dryBeside = words(`\((dry|dft|trocken)[^)]*\)`)
)

func films(r *reader, n int, _ field, label, rest string) {
	rest = dryBeside.ReplaceAllString(bothFilms.ReplaceAllString(rest, "wet"), "")
	if dryFilm.MatchString(rest) { // what is said of the dry film stands in clauses of its own
		var wet []string
		for _, clause := range regexp.MustCompile(`[;,/(=]`).Split(rest, -1) {
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
	state, why := draft.Read, ""
	const troweled = 0.003 // m: nobody gauges it wet
	if !words(`wet|wft|nass|húmed`).MatchString(label+" "+rest) && all[0].high < troweled {
		state, why = draft.Doubtful, draft.WetOrDry
	}
	switch {
	case all[0].ranged:
		r.add(n, draft.Value{Path: "filmMin", Value: all[0].low, As: all[0].text, State: state, Why: why})
		r.add(n, draft.Value{Path: "filmMax", Value: all[0].high, As: all[0].text, State: state, Why: why})
	case most.MatchString(rest):
		r.add(n, draft.Value{Path: "filmMax", Value: all[0].low, As: all[0].text, State: state, Why: why})
	case least.MatchString(rest):
		r.add(n, draft.Value{Path: "filmMin", Value: all[0].low, As: all[0].text, State: state, Why: why})
	case len(all) == 1 && state == draft.Read && words(`recommended|typical`).MatchString(label) && !r.has("printed"):
		r.prints(n, "", "", "wet-film", all[0], all[0].high)
	}
}

// slabMoisture reads what a slab may hold, by the method that is named beside it.
func slabMoisture(r *reader, n int, _ field, label, rest string) {
	label = strings.TrimSuffix(label, rest) // of a sentence it is the whole
	all, said := r.find(rest), label+" "+rest
	if out := of(all, emission); len(out) > 0 {
		r.add(n, besides(draft.Value{Path: "emissionMax", Value: out[0].high, As: out[0].text}, out[0]))
	} else if out := of(all, mass); len(out) == 1 && words(`mver|emission`).MatchString(said) {
		// Pounds alone are those of 1,000 square feet in 24 hours.
		r.add(n, draft.Value{Path: "emissionMax", Value: out[0].high / (1000 * foot * foot) / day, As: out[0].text})
	}
	wet := of(all, share)
	if len(wet) == 2 { // by both methods
		slabMoisture(r, n, field{}, label, rest[:wet[1].from])
		slabMoisture(r, n, field{}, label, rest[wet[1].from:])
		return
	}
	if len(wet) != 1 {
		return
	}
	switch a := wet[0]; {
	case words(`\bCM\b|carbide|carburo|by weight|mass|gew|CM-%`).MatchString(said):
		r.add(n, draft.Value{Path: "carbideMax", Value: a.high, As: a.text})
	case words(`relative|\bR\.?H|in[- ]situ|F ?2170`).MatchString(said):
		r.add(n, draft.Value{Path: "slabHumidityMax", Value: a.high, As: a.text})
	case a.high <= 0.1: // so little is a share of mass
		r.add(n, draft.Value{Path: "carbideMax", Value: a.high, As: a.text, State: draft.Doubtful,
			Why: "the sheet does not say by which method"})
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
	r.add(n, draft.Value{Path: "dewMargin", Value: k, As: strings.TrimSpace(m[0])})
}

// portion reads how much of an addition the mix takes at most, by weight: as a share, or as parts to one of the mix.
func portion(path string) reading {
	return func(r *reader, n int, _ field, label, rest string) {
		said := label + " " + rest
		v := draft.Value{Path: path}
		byVolume := words(`\bvol`).MatchString(said) && !words(`weight|mass|gew|peso`).MatchString(said)
		amount, base := 0.0, ofShare(said)
		if all := of(r.find(rest), share); len(all) == 1 {
			amount, v.As = all[0].high, all[0].text
		} else if m := toOne.FindStringSubmatch(rest); m != nil && len(all) == 0 {
			amount, v.As = value(m[1]), m[0]
		} else {
			return
		}
		if byVolume {
			v.State, v.Why = draft.Doubtful, "the sheet says it by volume; the shelf keeps it by weight"
		}
		if base == "" {
			base, v.State, v.Why = "a+b", draft.Doubtful, "the sheet does not say of what it is a share"
		}
		v.Value = map[string]any{"value": amount, "of": base}
		r.add(n, v)
	}
}

// toOne is an addition to one part of the mix.
var toOne = regexp.MustCompile(`\b1(?:[.,]0)?\s?:\s?(` + number + `)`)

// ofShare returns of what a text says that a share is: of the resin, or of the parts together; nothing where it says
// neither.
func ofShare(text string) string {
	switch {
	case words(`\b(of|von|to|on|auf|sobre|in) (the )?(resin|base|part A|component A|komp\p{L}*\.? ?A|A\b|resina)`).MatchString(text):
		return "a"
	case words(`\ba ?\+ ?b\b|\bmix(ed|ture)?\b|binder|resin and hardener|gemisch|bindemittel|mezcla|1(?:[.,]0)?\s?:\s?[0-9]`).MatchString(text):
		return "a+b"
	}
	return ""
}

func thinning(r *reader, n int, _ field, _, rest string) {
	all := of(r.find(rest), share)
	if len(all) != 1 || !words(`vol`).MatchString(rest) && words(`weight|mass`).MatchString(rest) {
		return
	}
	r.add(n, draft.Value{Path: "thinnerMax", Value: map[string]any{"value": all[0].high, "of": "a+b"}, As: all[0].text})
}
