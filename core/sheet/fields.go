package sheet

import (
	"regexp"
	"slices"
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
