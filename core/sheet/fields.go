package sheet

import (
	"regexp"
	"strings"
)

// field holds what a label of a sheet stands for.
type field struct {
	paths []string
	label *regexp.Regexp // at the beginning of a label
	not   *regexp.Regexp // words that forbid it
	read  func(r *reader, n int, f field, label, rest string)
}

func words(text string) *regexp.Regexp { return regexp.MustCompile(`(?i)` + text) }

// begins returns an expression that a label begins with.
func begins(text string) *regexp.Regexp { return words(`^(?:` + text + `)`) }

// fields returns what labels stand for, in the order in which they are tried: English, German and
// Spanish words.
func fields() []field {
	part := words(`\b(part|component|komponente|comp\.?)\s*[ABC]\b|\b(resin|hardener|härter|resina|endurecedor)\b`)
	return []field{
		{[]string{"ratio"}, begins(`mix(ing)? ratio|ratio|mischungsverhältnis|relación de mezcla`), nil, ratio},
		{[]string{"density:A", "density:B", "density:C"},
			begins(`(density|specific gravity|dichte|densidad)[ ,]*\(?(of )?(part|component|komponente|comp\.?)?\s*[ABC]\b`), nil,
			partDensity},
		{[]string{"density"},
			begins(`mixed density|density[ ,]*(\(?mixed|of the mix|\(?a ?\+ ?b)|dichte.*(misch|gemischt)|densidad de la mezcla`), nil,
			one("density", density)},
		{[]string{"density"}, begins(`density|dichte|densidad`), part, doubted("density", density,
			"the sheet does not say whether of the mix or of a part")},
		{[]string{"volumeSolids"},
			begins(`(solids|solids content)[ ,]*\(?(by |in )?vol|volume solids|vol(ume|\.)? solids|festkörper.*vol`),
			words(`weight|mass|gewicht`), one("volumeSolids", share)},
		{[]string{"voc"}, begins(`voc\b|volatile organic`), words(`reduced|thinned|limit|\bmax`), one("voc", density)},
		{[]string{"viscosity"}, begins(`viscosity|viskosität|viscosidad`), part, viscosityAt},
		{[]string{"potLife"}, begins(`pot ?life|topfzeit|vida (útil )?de la mezcla`), words(`reduced`), potLife},
		{[]string{"working"}, begins(`working time|open time|offenzeit|offene zeit`), nil, timeAt("working", true)},
		{[]string{"mixing"}, begins(`mix(ing)? time|mischzeit|tiempo de mezcla`), nil, one("mixing", span)},
		{[]string{"induction"}, begins(`induction|sweat[- ]in|stand(ing)? time|reifezeit`), nil, one("induction", span)},
		{[]string{"tackFree"}, begins(`tack[- ]?free|touch[- ]dry|klebfrei|seco al tacto`), nil, timeAt("tackFree",
			false)},
		{[]string{"recoatUntil"},
			begins(`(re|over)coat(ing|able)?( time| window| interval)?[ ,]*\(?(until|within|before|no later|max)|` +
				`max(imum|\.)? (re|over)coat|überarbeitbar bis|latest (re|over)coat`), nil, timeAt("recoatUntil", true)},
		{[]string{"recoatFrom"},
			begins(`(re|over)coat(ing|able)?( time| window| interval)?[ ,]*\(?(from|after|min|earliest)|` +
				`min(imum|\.)? (re|over)coat|überarbeitbar (nach|ab)|earliest (re|over)coat`), nil, timeAt("recoatFrom",
				false)},
		{[]string{}, begins(`(re|over)coat(ing|able)?( time| window| interval)?\b|überarbeitbar`), nil, window},
		{[]string{"foot"}, begins(`(light )?foot traffic|walk[- ]?on|begehbar|tránsito peatonal`), words(`heavy`),
			timeAt("foot", false)},
		{[]string{"vehicle"}, begins(`vehic|wheel(ed)? traffic|heavy traffic|befahrbar`), nil, timeAt("vehicle", false)},
		{[]string{"furniture"}, begins(`furniture`), nil, timeAt("furniture", false)},
		{[]string{"water"}, begins(`water (exposure|immersion|contact)|immersion|wasserbelast|filling with water`), nil,
			timeAt("water", false)},
		{[]string{"full"}, begins(`full(y)? cur|full chemical|(voll|ganz) ausgehärtet|durchgehärtet|curado total|complete cure`),
			nil, timeAt("full", false)},
		{[]string{"filmMin", "filmMax"}, begins(`(wet )?film( thickness)?|wft\b|layer thickness|thickness per coat|schichtdicke`),
			words(`dry|dft|trocken`), films},
		{[]string{"printed"}, begins(`(theoretical |practical )?(coverage|spread(ing)? rate|consumption)|verbrauch|consumo`), nil,
			printed},
		{[]string{"slabHumidityMax"}, begins(`(slab|substrate|concrete|floor) (relative )?(moisture|humidity)|moisture`), nil,
			slabHumidity},
		{[]string{"materialMin", "materialMax"}, begins(`(material|product|resin) temp`), nil, limits("material")},
		{[]string{"slabMin", "slabMax"}, begins(`(substrate|floor|surface|slab) temp|untergrundtemp`), nil,
			limits("slab")},
		{[]string{"airMin", "airMax"}, begins(`(air|ambient|room) temp|lufttemp|temperatura ambiente`), nil,
			limits("air")},
		{[]string{"dewMargin"}, begins(`dew ?point|taupunkt|punto de rocío`), nil, dew},
		{[]string{"humidityMax"}, begins(`(relative |air |ambient )*humidity|r\.?h\.?\b|luftfeuchte|humedad`),
			words(`slab|substrate|concrete|moisture`), highest("humidityMax", share)},
		{[]string{"kits"}, begins(`kits?\b|pack(age|aging|s)?\b|unit sizes?|sizes?\b|gebinde|packung|presentación`),
			nil, kits},
		{[]string{"shelfLife", "storeMin", "storeMax"}, begins(`shelf ?life|storage|store\b|lager|haltbar|almacen`),
			nil, storage},
		{[]string{"thinnerMax"}, begins(`thinn(ing|er)|verdünn`), nil, thinning},
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
		r.add(n, v)
	}
}

func doubted(path string, want kind, why string) func(*reader, int, field, string, string) {
	return func(r *reader, n int, _ field, _, rest string) {
		if all := of(r.find(rest), want); len(all) == 1 {
			r.add(n, Value{Path: path, Value: all[0].low, As: all[0].text, State: Doubtful, Why: why})
		}
	}
}

// highest reads a limit from above: of a range its end.
func highest(path string, want kind) func(*reader, int, field, string, string) {
	return func(r *reader, n int, _ field, _, rest string) {
		if all := of(r.find(rest), want); len(all) > 0 && !least.MatchString(rest) {
			r.add(n, Value{Path: path, Value: all[0].high, As: all[0].text})
		}
	}
}

var (
	least = words(`\b(min\.?|minimum|at least|not (below|under|less)|no less|mindestens|nicht unter|mínimo|no menos)\b|≥|>`)
	most  = words(`\b(max\.?|maximum|at most|up to|not (above|over|more)|below|höchstens|nicht über)\b|máx|≤|<`)
)

// limits reads the least and the greatest temperature.
func limits(of2 string) func(*reader, int, field, string, string) {
	return func(r *reader, n int, _ field, _, rest string) {
		all := of(r.find(rest), temperature)
		if len(all) == 0 {
			return
		}
		low, high, as := all[0].low, all[0].high, all[0].text
		switch {
		case all[0].ranged:
			r.add(n, Value{Path: of2 + "Min", Value: low, As: as})
			r.add(n, Value{Path: of2 + "Max", Value: high, As: as})
		case least.MatchString(rest):
			r.add(n, Value{Path: of2 + "Min", Value: low, As: as})
		case most.MatchString(rest):
			r.add(n, Value{Path: of2 + "Max", Value: high, As: as})
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
			r.add(n, v)
		}
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

// window reads a recoat window that stands in one line.
func window(r *reader, n int, f field, label, rest string) {
	all := r.times(n, label, rest)
	if len(all) == 1 && all[0].ranged && all[0].at != nil {
		r.add(n, Value{Path: "recoatFrom", Value: all[0].low, As: all[0].text, At: all[0].at})
		r.add(n, Value{Path: "recoatUntil", Value: all[0].high, As: all[0].text, At: all[0].at})
	}
}

func viscosityAt(r *reader, n int, _ field, label, rest string) {
	all := r.find(rest)
	thick, warm := of(all, viscosity), of(all, temperature)
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

var ratioOf = regexp.MustCompile(`(?:[ABC]\s?:\s?[ABC](?:\s?:\s?[ABC])?\s*=?\s*)?(` + number + `)\s?(?::|to|zu)\s?(` +
	number + `)(?:\s?(?::|to|zu)\s?(` + number + `))?`)

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

var letter = regexp.MustCompile(`\b([ABC])\b`)

func partDensity(r *reader, n int, _ field, label, rest string) {
	m := letter.FindStringSubmatch(label)
	if all := of(r.find(rest), density); len(all) == 1 && m != nil {
		r.add(n, Value{Path: "density:" + m[1], Value: all[0].low, As: all[0].text})
	}
}

func films(r *reader, n int, _ field, label, rest string) {
	all := of(r.find(rest), film)
	if len(all) == 0 || words(`dry|dft|trocken`).MatchString(rest) {
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
	all := r.find(rest)
	thick := of(all, film)
	wet := words(`\bwet\b`).MatchString(rest)
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
		make("spread", area[0], area[0].low)
	case len(thick) > 0 && wet:
		make("wet-film", thick[0], thick[0].high)
	}
}

func slabHumidity(r *reader, n int, _ field, label, rest string) {
	both := label + " " + rest
	if all := of(r.find(rest), share); len(all) == 1 && words(`relative|\bRH\b|in[- ]situ|F ?2170`).MatchString(both) {
		r.add(n, Value{Path: "slabHumidityMax", Value: all[0].high, As: all[0].text})
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
	r.add(n, Value{Path: "dewMargin", Value: k, As: m[0]})
}

var kitParts = words(`\b[ABC]\b`)

func kits(r *reader, n int, _ field, _, rest string) {
	// What stands in brackets or after a colon are the parts of the kit before it.
	whole := inBrackets.ReplaceAllString(rest, "")
	whole, _, _ = strings.Cut(whole, ":")
	for _, a := range r.find(whole) {
		if a.of != volume && a.of != mass || a.ranged || kitParts.MatchString(whole) {
			continue
		}
		kit := map[string]any{"name": a.text, string(a.of): a.low}
		r.add(n, Value{Path: "kits", Value: kit, As: a.text})
	}
}

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
	if warm := of(all, temperature); len(warm) > 0 {
		limits("store")(r, n, field{}, label, rest)
	}
}

func thinning(r *reader, n int, _ field, _, rest string) {
	all := of(r.find(rest), share)
	if len(all) != 1 || !words(`vol`).MatchString(rest) && words(`weight|mass`).MatchString(rest) {
		return
	}
	r.add(n, Value{Path: "thinnerMax", Value: map[string]any{"value": all[0].high, "of": "a+b"}, As: all[0].text})
}
