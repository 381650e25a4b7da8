package sheet

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
)

// field holds what a label of a sheet stands for.
type field struct {
	paths []string
	label *regexp.Regexp // at the beginning of a label
	not   *regexp.Regexp // words that forbid it
	// What a clause in running text has to say to be read as this field; nil where only a label is.
	clause *regexp.Regexp
	read   func(r *reader, n int, f field, label, rest string)
}

// fields returns what labels stand for, in the order in which they are tried.
func fields() []field { return slices.Concat(mixFields(), timeFields(), placeFields(), packFields()) }

// mixFields returns those of what is mixed.
func mixFields() []field {
	part := words(`\b(part|component|komponente|komp\.?|comp\.?)\s*[ABC]\b|` +
		`\b(resin|base|hardener|härter|resina|endurecedor)\b`)
	is, _ := vocabulary()
	return []field{
		{[]string{"ratio"}, is("ratio"), nil, nil, ratio},
		{[]string{"density:A", "density:B", "density:C"}, is("density of a part"), words(`a ?\+ ?b|mix|` +
			`gemischt|misch`), nil,
			partDensity},
		{[]string{"density"}, is("density of the mix"), nil, nil, one("density", density)},
		{[]string{"density"}, is("density"), part, nil, wholeDensity},
		{[]string{"volumeSolids", "massSolids"}, is("solids"), nil, nil, solids},
		{[]string{"voc"}, is("voc"), words(`reduced|thinned|limit\b|\bmax`), nil, one("voc", density)},
		{[]string{"viscosity"}, is("viscosity"), part, nil, viscosityAt},
		{[]string{"mixing"}, is("mixing"), nil, nil, one("mixing", span)},
		{[]string{"induction"}, is("induction"), nil, nil, one("induction", span)},
	}
}

// timeFields returns those of what happens when.
func timeFields() []field {
	is, any := vocabulary()
	end := func(which string) *regexp.Regexp {
		return begins(any("next coat") + `\b[^,]*?[ ,]*\(?` + any("next coat "+which) + `|` +
			any(map[string]string{"until": "recoatUntil", "from": "recoatFrom"}[which]))
	}
	return []field{
		{[]string{"potLife"}, is("potLife"), words(`reduced|thinned|limit`), nil, potLife},
		{[]string{"working"}, is("working"), nil, nil, timeAt("working", true)},
		{[]string{"tackFree"}, is("tackFree"), nil, nil, timeAt("tackFree", false)},
		{[]string{"recoatUntil"}, end("until"), nil, nil, recoat("recoatUntil", true)},
		{[]string{"recoatFrom"}, end("from"), nil, nil, recoat("recoatFrom", false)},
		{[]string{}, begins(any("next coat") + `\b`), nil, nil, window},
		{[]string{"foot"}, is("foot"), words(`heavy`), nil, timeAt("foot", false)},
		{[]string{"vehicle"}, is("vehicle"), nil, nil, timeAt("vehicle", false)},
		{[]string{"furniture"}, is("furniture"), nil, nil, timeAt("furniture", false)},
		{[]string{"water"}, is("water"), nil, nil, timeAt("water", false)},
		{[]string{"full"}, is("full"), nil, nil, timeAt("full", false)},
	}
}

// placeFields returns those of the film and of where it may be laid.
func placeFields() []field {
	is, any := vocabulary()
	return []field{
		{[]string{"filmMax"}, is("depth"), nil, nil, poured},
		{[]string{"filmMin", "filmMax"}, is("film"), words(`dry|dft|trocken`), nil, films},
		{[]string{"printed"}, is("printed"), words(`primer|scratch|grundierung|broadcast`), nil, printed},
		{[]string{"carbideMax", "slabHumidityMax", "emissionMax"}, is("moisture of the slab"), words(`\bair|ambient`),
			words(`moisture.*(CM\b|carbide|by weight)|%.*\bmoisture|(floor|slab|substrate|concrete)s?\b.*% ?R\.?H\b`),
			slabMoisture},
		{[]string{"dewMargin"}, is("dew"), nil, words(any("dew")), dew},
		{[]string{"materialMin", "materialMax"}, is("material"), nil, nil, limits("material")},
		{[]string{"slabMin", "slabMax", "airMin", "airMax"}, is("air and slab"), nil, nil, both},
		{[]string{"slabMin", "slabMax"}, is("slab"), words(any("dew")),
			words(`\b(substrate|floor|surface|slab|untergrund|soporte)\b.*[0-9].*°`), limits("slab")},
		{[]string{"airMin", "airMax"}, is("air"), nil, words(`^(air|ambient|luft|` +
			`umgebung)\b.*[0-9].*°`), limits("air")},
		{[]string{}, is("use"), nil, words(`^(use|apply|apply only|work) (at|between|from)\b`), where},
		{[]string{"humidityMax", "humidityMin"}, is("humidity"),
			words(`slab|substrate|concrete|moisture|floors?\b|\bcur(e|ing)\b|schedule|values`),
			words(`humidity\b|luftfeuchte|^[^(]*% ?R\.?H\b`), humidity},
	}
}

// packFields returns those of how it is sold, kept and thinned.
func packFields() []field {
	is, _ := vocabulary()
	return []field{
		{[]string{"kits"}, is("kits"), nil, nil, kits},
		{[]string{"shelfLife", "storeMin", "storeMax"}, is("storage"), nil,
			words(`^(keeps?|store|shelf life|use (by|within)|between .* °)`), storage},
		{[]string{"thinnerMax"}, is("thinner"), nil, nil, thinning},
	}
}

// one reads the only quantity of a kind; of a range it takes none without a doubt.
func one(path string, want kind) func(*reader, int, field, string, string) {
	return func(r *reader, n int, _ field, _, rest string) {
		all := of(r.find(rest), want)
		if len(all) == 0 {
			return
		}
		v := Value{Path: path, Value: all[0].low, As: all[0].text}
		if all[0].ranged {
			v.Value, v.State, v.Why = all[0].high, Doubtful, "the sheet gives a range; the larger is taken"
		}
		r.add(n, v.besides(all[0]))
	}
}

// besides marks a value that the sheet says again in another unit, and otherwise.
func (v Value) besides(a amount) Value {
	if a.twin != "" {
		v.State, v.Why = Doubtful, "the sheet says "+a.text+" and "+a.twin
	}
	return v
}

// wholeDensity reads a density that names no part: that of the mix where it says so beside it, of parts where
// those are named there.
func wholeDensity(r *reader, n int, f field, label, rest string) {
	all := of(r.find(rest), density)
	if len(all) > 1 || letter.MatchString(degrees.ReplaceAllString(rest, "")) && !mixed.MatchString(rest) {
		for _, clause := range parted.Split(rest, -1) {
			if own := of(r.find(clause), density); len(own) == 1 && mixed.MatchString(clause) {
				r.add(n, Value{Path: "density", Value: own[0].low, As: own[0].text}.besides(own[0]))
				continue
			}
			partDensity(r, n, f, clause, clause)
		}
		return
	}
	if len(all) != 1 {
		return
	}
	v := Value{Path: "density", Value: all[0].low, As: all[0].text}
	if !mixed.MatchString(label + " " + rest) {
		v.State, v.Why = Doubtful, "the sheet does not say whether of the mix or of a part"
	}
	r.add(n, v.besides(all[0]))
}

var parted = regexp.MustCompile(`[;,]\s+|\s{2,}`)

var mixed = words(`\bmix(ed|ture)?\b|a ?\+ ?b|gemischt|mischung|mezcla`)

// solids reads the share of solids by volume and by weight, as the words beside each say.
func solids(r *reader, n int, _ field, label, rest string) {
	all := of(r.find(rest), share)
	for k, a := range all {
		until := len(rest)
		if k+1 < len(all) {
			until = all[k+1].from
		}
		beside := rest[a.from:until]
		byVolume, byMass := words(`vol`), words(`weight|mass|gew|peso|w/w`)
		path := ""
		switch {
		case byVolume.MatchString(label) && byMass.MatchString(label): // which of them is not said
		case byVolume.MatchString(beside) && !byMass.MatchString(beside), len(all) == 1 &&
			byVolume.MatchString(label+rest[:a.from]) &&
			!byMass.MatchString(label):
			path = "volumeSolids"
		case byMass.MatchString(beside), len(all) == 1 && byMass.MatchString(label+rest[:a.from]):
			path = "massSolids"
		}
		v := Value{Path: path, Value: a.low, As: a.text}
		if path == "" && len(all) == 1 && a.low == 1 && !byVolume.MatchString(label) {
			v.Path, v.State, v.Why = "volumeSolids", Derived, "all of it is solids, by volume and by weight"
		}
		if v.Path == "" {
			continue
		}
		if a.ranged {
			v.State, v.Why = Doubtful, "the sheet gives a range; the smaller is taken"
		}
		r.add(n, v)
	}
}

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

// timeAt reads times with the temperature that they hold at. What runs out takes the shorter of a
// range, what is waited for the longer.
func timeAt(path string, runsOut bool) func(*reader, int, field, string, string) {
	return func(r *reader, n int, _ field, label, rest string) {
		for _, t := range r.times(n, label, rest) {
			v := Value{Path: path, Value: t.high, As: t.text, At: t.at}
			if runsOut {
				v.Value = t.low
			}
			if t.ranged {
				v.State, v.Why = Doubtful, "the sheet gives a range; the careful end is taken"
			}
			if t.at == nil {
				v.State, v.Why = Doubtful, "the sheet does not say at which temperature"
			}
			r.add(n, v.besides(t.amount))
		}
	}
}

// recoat reads one end of a recoat window, or both where the line has both.
func recoat(path string, runsOut bool) func(*reader, int, field, string, string) {
	return func(r *reader, n int, f field, label, rest string) {
		said := rest
		if len(of(r.find(label), span)) > 0 {
			said = label // there is no label, but a sentence
		}
		if r.columns == nil && len(of(r.find(said), span)) > 1 && len(of(r.find(said), temperature)) < 2 {
			window(r, n, f, strings.TrimSuffix(label, said), said)
			return
		}
		timeAt(path, runsOut)(r, n, f, label, rest)
	}
}

// timed is a time with the temperature it holds at.
type timed struct {
	amount
	at *float64
}

// times returns the times of a line, each with its temperature: beside it, of its column, of the
// heading above, or of all data.
func (r *reader) times(n int, label, rest string) []timed {
	all := r.find(rest)
	var found []timed
	for k, a := range all {
		if a.of != span {
			continue
		}
		t := timed{a, nil}
		if k+1 < len(all) && all[k+1].of == temperature {
			at := all[k+1].low
			t.at = &at
		} else if k > 0 && all[k-1].of == temperature && (k < 2 || all[k-2].of != span) {
			at := all[k-1].low
			t.at = &at
		}
		found = append(found, t)
	}
	if len(found) == 0 {
		return nil
	}
	if len(r.columns) == len(found) {
		for k := range found {
			found[k].at = &r.columns[k]
		}
		return found
	}
	if len(found) > 1 && (found[0].at == nil || found[1].at == nil) {
		return nil // which of them holds where is not said
	}
	own := of(r.find(label+" "+rest), temperature)
	for k := range found {
		switch {
		case found[k].at != nil:
		case len(own) == 1 && !own[0].ranged:
			found[k].at = &own[0].low
		case r.section != nil:
			found[k].at = r.section
		case r.overall != nil:
			found[k].at = r.overall
		}
	}
	if len(found) > 1 && found[0].at != nil && found[1].at != nil && *found[0].at == *found[1].at {
		found = found[:1] // the second is said of something else
	}
	return found
}

var inBrackets = regexp.MustCompile(`\(([^)]*)\)`)

func potLife(r *reader, n int, _ field, label, rest string) {
	batch := of(r.find(label+" "+rest), mass)
	for _, t := range r.times(n, label, rest) {
		v := Value{Path: "potLife", Value: map[string]any{"lasts": t.low}, As: t.text, At: t.at}
		if len(batch) == 1 {
			v.Value.(map[string]any)["mass"] = batch[0].low
		}
		if t.ranged {
			v.State, v.Why = Doubtful, "the sheet gives a range; the shorter is taken"
		}
		if t.at == nil {
			v.State, v.Why = Doubtful, "the sheet does not say at which temperature"
		}
		r.add(n, v)
	}
}

var (
	soonest = words(`\b(after|from|min(imum|\.)?|earliest|nach|ab|frühestens|not before|desde|mínimo)\b[^0-9]*$`)
	latest  = words(`(\b(until|within|before|max(imum|\.)?|(at the )?latest|no later( than)?|up to|bis|` +
		`spätestens( nach)?|hasta)\b|máximo)[^0-9]*$`)
)

// window reads a recoat window that stands in one line: as a range, or as least and most.
func window(r *reader, n int, f field, label, rest string) {
	all := r.times(n, label, rest)
	if len(all) == 1 && all[0].ranged && all[0].at != nil {
		r.add(n, Value{Path: "recoatFrom", Value: all[0].low, As: all[0].text, At: all[0].at})
		r.add(n, Value{Path: "recoatUntil", Value: all[0].high, As: all[0].text, At: all[0].at})
		return
	}
	warm := of(r.find(label+"  "+rest), temperature)
	at := cmp.Or(r.section, r.overall)
	if len(warm) == 1 && !warm[0].ranged {
		at = &warm[0].low
	}
	from := 0
	for _, a := range of(r.find(rest), span) {
		before := rest[from:a.from]
		from = a.to
		path := ""
		switch {
		case a.ranged || len(warm) > 1:
		case latest.MatchString(before):
			path = "recoatUntil"
		case soonest.MatchString(before):
			path = "recoatFrom"
		}
		if path == "" {
			continue
		}
		v := Value{Path: path, Value: a.low, As: a.text, At: at}
		if at == nil {
			v.State, v.Why = Doubtful, "the sheet does not say at which temperature"
		}
		r.add(n, v)
	}
}

func viscosityAt(r *reader, n int, _ field, label, rest string) {
	all := r.find(rest)
	thick := of(all, viscosity)
	if len(thick) > 1 {
		for _, clause := range parted.Split(rest, -1) {
			if own := of(r.find(clause), viscosity); len(own) == 1 && mixed.MatchString(clause) {
				thick = own
			}
		}
	}
	warm := of(r.find(label+"  "+rest), temperature)
	if len(thick) != 1 {
		return
	}
	v := Value{Path: "viscosity", Value: thick[0].low, As: thick[0].text}
	if thick[0].ranged {
		v.Value, v.State, v.Why = thick[0].high, Doubtful, "the sheet gives a range; the thicker is taken"
	}
	switch {
	case len(warm) == 1:
		v.At = &warm[0].low
	case r.section != nil:
		v.At = r.section
	case r.overall != nil:
		v.At = r.overall
	default:
		v.State, v.Why = Doubtful, "the sheet does not say at which temperature"
	}
	r.add(n, v)
}

var ratioOf = regexp.MustCompile(`(?:[ABC]\s?:\s?[ABC](?:\s?:\s?[ABC])?\s*=?\s*)?(` + number +
	`)\s?A?\s?(?::|to|zu|a)\s?(` +
	number + `)\s?B?(?:\s?(?::|to|zu|a)\s?(` + number + `)\s?C?)?`)

func ratio(r *reader, n int, _ field, label, rest string) {
	m := ratioOf.FindStringSubmatch(rest)
	if m == nil {
		return
	}
	both := label + " " + rest
	byVolume, byMass := words(`vol`).MatchString(both), words(`weight|mass|gewicht|peso`).MatchString(both)
	parts := []float64{value(m[1]), value(m[2])}
	if m[3] != "" {
		parts = append(parts, value(m[3]))
	}
	v := Value{Path: "ratio", Value: map[string]any{"basis": "volume", "parts": parts}, As: m[0]}
	switch {
	case byMass && !byVolume:
		v.Value = map[string]any{"basis": "mass", "parts": parts}
	case byVolume == byMass:
		v.State, v.Why = Doubtful, "the sheet does not say whether by volume or by weight"
	}
	r.add(n, v)
}

var (
	letter  = regexp.MustCompile(`\b([ABC])\b`)
	degrees = regexp.MustCompile(`°\s?[CF]\b`)
)

func partDensity(r *reader, n int, _ field, label, rest string) {
	part := ""
	if m := letter.FindStringSubmatch(degrees.ReplaceAllString(label, "")); m != nil {
		part = m[1]
	} else if words(`hardener|härter|endurecedor`).MatchString(label) {
		part = "B"
	} else if words(`resin|base`).MatchString(label) {
		part = "A"
	}
	if all := of(r.find(rest), density); len(all) == 1 && part != "" {
		r.add(n, Value{Path: "density:" + part, Value: all[0].low, As: all[0].text}.besides(all[0]))
	}
}

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
