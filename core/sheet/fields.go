package sheet

import (
	"regexp"
	"slices"
	"strings"

	"nephelon/core/draft"
	"nephelon/core/sheet/lexicon"
)

// reading reads the quantities of a field from what stands behind its label.
type reading func(r *reader, n int, f field, label, rest string)

// field holds what a label of a sheet stands for.
type field struct {
	paths  []string
	label  *regexp.Regexp // at the beginning of a label
	inside *regexp.Regexp // the same words anywhere in a clause
	not    *regexp.Regexp // words that forbid it
	// What a clause in running text has to say to be read as this field, nil where only a label is; and one of which
	// quantities it must hold.
	clause *regexp.Regexp
	wants  []kind
	read   reading
	only   kind // of its quantities one is of this kind, where not all are welcome
}

// of names the kind of quantity that a label of several meanings has behind it.
func (f field) of(k kind) field {
	f.only = k
	return f
}

// labels are the words for fields.
type labels struct{ lexicon.Lexicon }

// field returns the field that words of the lexicon name.
func (x labels) field(name string, read reading, paths ...string) field {
	return field{paths: paths, label: begins(x.Any(name)), inside: words(`(?:^|[^\p{L}])` + x.Any(name)), read: read}
}

// but names words that forbid a field.
func (f field) but(forbidding string) field {
	f.not = words(forbidding)
	return f
}

// said lets a field be read from running text that has its words and a quantity.
func (f field) said(wants ...kind) field { return f.when(f.inside, wants...) }

// when lets a field be read from running text that has some words and a quantity.
func (f field) when(says *regexp.Regexp, wants ...kind) field {
	f.clause, f.wants = says, wants
	return f
}

// fields returns what labels stand for, in the order in which they are tried.
func fields() []field {
	x := labels{lexicon.Labels()}
	return slices.Concat(mixFields(x), timeFields(x), placeFields(x), packFields(x))
}

// mixFields returns those of what is mixed.
func mixFields(x labels) []field {
	const part = `\b(part|side|component|komponente|komp\.?|comp\.?)\s*[ABC]\b|` +
		`\b(resin|base|hardener|activator|härter|resina|endurecedor)\b`
	return []field{
		x.field("ratio", ratio, "ratio").when(words(`\b` + number + `\s?:\s?` + number +
			`\b.*(by (volume|weight|mass)|gewichts|volumen|en (peso|volumen))`)),
		x.field("density of a part", partDensity, "density:A", "density:B", "density:C").
			but(`a ?\+ ?b|mix|gemischt|misch`),
		x.field("density of the mix", wholeDensity, "density"),
		x.field("density", wholeDensity, "density").but(part).said(density),
		x.field("solids", solids, "volumeSolids", "massSolids").said(share),
		x.field("voc", vocs, "voc", "vocThinned").but(`limit\b|\bmax`).said(density),
		x.field("viscosity", viscosityAt, "viscosity").but(part).said(viscosity),
		x.field("mixing", one("mixing", span), "mixing"),
		x.field("induction", one("induction", span), "induction").
			when(words(`\b(let|leave|allow)\b.*\b(stand|rest)\b|\bstand(ing)? for\b|reifen|stehen lassen|reposar`), span),
	}
}

// timeFields returns those of what happens when.
func timeFields(x labels) []field {
	end := func(which, path string, runsOut bool) field {
		return field{paths: []string{path}, read: recoat(path, runsOut), label: begins(x.Any("next coat") +
			`\b[^,]*?[ ,]*\(?` + x.Any("next coat "+which) + `|` + x.Any(path)), not: inOrder}
	}
	return []field{
		x.field("potLife", potLife, "potLife").but(`reduced|thinned|limit`).
			when(words(`(?:^|[^\p{L}])`+x.Any("potLife")+`|\bonce mixed\b|\busable for\b|\bworkable for\b`), span),
		x.field("working", timeAt("working", true), "working").
			when(words(`(?:^|[^\p{L}])`+x.Any("working")+`|\bcan be worked\b`), span),
		x.field("tackFree", timeAt("tackFree", false), "tackFree").said(span),
		end("until", "recoatUntil", true),
		end("from", "recoatFrom", false),
		x.field("next coat", window).said(span).of(span),
		x.field("foot", timeAt("foot", false), "foot").but(`heavy`).said(span),
		x.field("vehicle", timeAt("vehicle", false), "vehicle").said(span),
		x.field("furniture", timeAt("furniture", false), "furniture").said(span),
		x.field("water", timeAt("water", false), "water").said(span),
		x.field("full", timeAt("full", false), "full").said(span),
	}
}

// placeFields returns those of the film and of where it may be laid.
func placeFields(x labels) []field {
	return []field{
		x.field("depth", poured, "filmMin", "filmMax").when(words(`\b(thicker|deeper) than\b`), film),
		x.field("printed", printed, "printed").but(`\bsand|quar[tz]|aggregate`).
			when(words(`.`), perArea, spread),
		x.field("printed", printed, "printed").when(covers),
		x.field("film", films, "filmMin", "filmMax").but(`dry|dft|trocken`).when(words(`\b(wet|nass)|\binstall(ed)? at\b`), film),
		x.field("moisture of the slab", slabMoisture, "carbideMax", "slabHumidityMax", "emissionMax").
			but(`\bair|ambient|contact|consult`).when(words(`moisture.*(CM\b|carbide|by weight)|%.*\bmoisture|`+
			`(floor|slab|substrate|concrete)s?\b.*% ?R\.?H\b|(floor|slab|substrate|concrete) R\.?H\b|CM-? ?%|\bmver\b|`+
			`F ?2170|F ?1869`), share, emission, mass),
		x.field("dew", dew, "dewMargin").when(words(`[0-9].*` + x.Any("dew") + `|` + x.Any("dew") + `.*[0-9]`)),
		x.field("material", limits("material"), "materialMin", "materialMax"),
		x.field("air and slab", places, "slabMin", "slabMax", "airMin", "airMax"),
		x.field("air and slab", places).when(words(twoOf(placesIn)), temperature),
		x.field("slab", limits("slab"), "slabMin", "slabMax").but(x.Any("dew")).
			when(words(`\b(substrate|floor|surface|slab|untergrund|(fuß)?boden|soporte)s?\b`), temperature),
		x.field("air", limits("air"), "airMin", "airMax").
			when(words(`^(air|ambient|room|luft|umgebung)\b`), temperature),
		x.field("use", where).when(words(`\b(use|apply|lay|work|verarbeiten|aplicar)\b`), temperature),
		x.field("humidity", humidity, "humidityMax", "humidityMin").
			but(`slab|substrate|concrete|moisture|floors?\b|\bcur(e|ing)\b|\bdrying|schedule|values`).
			when(words(`humidity\b|luftfeuchte|humedad|(max|min|below|under|above|over|than|between|exceed|-|–|to)[^(]*% ?R\.?H\b|`+
				`R\.?H\b.*(max|min|below|under|above|over|than|between|exceed)`), share),
	}
}

// packFields returns those of how it is sold, kept and thinned.
func packFields(x labels) []field {
	return []field{
		x.field("kits", kits, "kits").when(words(`\b(supplied|available|sold|packed|comes) (in|as)\b|geliefert in`),
			mass, volume),
		x.field("storage", storage, "shelfLife", "storeMin", "storeMax").but(x.Any("dew") + `|surface|floor|humidity`).
			when(words(`^(keeps?|good for|store|shelf life|use (by|within)|between .* °)`)),
		x.field("pigment", portion("pigmentMax"), "pigmentMax").
			when(words(`\b(pigment|colou?r|tint)\p{L}* ?(paste|pack|concentrate)?\b.*\bup to\b|\b(up to|max\p{L}*)\b.*\b(pigment|colou?r|tint)`), share),
		x.field("filler", portion("solidsMax"), "solidsMax").
			when(words(`\b(filled|extended|füllbar|gefüllt|rellen)\p{L}*\b.*\b(sand|quar[tz]|filler|aggregate|silica|füllst|arena)`), share),
		x.field("thinner", thinning, "thinnerMax").
			when(words(`\b(add|with|by)\b.*\b(water|thinner)\b|\bthinned\b|verdünnen|diluid`), share),
	}
}

// one reads the only quantity of a kind; of a range it takes none without a doubt.
func one(path string, want kind) func(*reader, int, field, string, string) {
	return func(r *reader, n int, _ field, _, rest string) {
		all := of(r.find(rest), want)
		if len(all) == 0 {
			return
		}
		v := draft.Value{Path: path, Value: all[0].low, As: all[0].text}
		if all[0].ranged {
			v.Value, v.State, v.Why = all[0].high, draft.Doubtful, "the sheet gives a range; the larger is taken"
		}
		r.add(n, besides(v, all[0]))
	}
}

// besides marks a value that the sheet says again in another unit, and otherwise.
func besides(v draft.Value, a amount) draft.Value {
	if a.twin != "" {
		v.State, v.Why = draft.Doubtful, "the sheet says "+a.text+" and "+a.twin
	}
	return v
}

// wholeDensity reads a density that names no part: that of the mix where it says so beside it, of parts where
// those are named there.
func wholeDensity(r *reader, n int, f field, label, rest string) {
	if len(of(r.find(rest), density)) == 1 && len(gravity.FindAllString(rest, -1)) > 1 {
		label += " (specific gravity)" // the last has the unit of all
	}
	all := r.densities(label, rest)
	if len(all) > 1 || letter.MatchString(degrees.ReplaceAllString(rest, "")) && !mixed.MatchString(rest) {
		for _, clause := range parted.Split(rest, -1) {
			if own := r.densities(label, clause); len(own) == 1 && mixed.MatchString(clause) {
				r.add(n, besides(draft.Value{Path: "density", Value: own[0].low, As: own[0].text}, own[0]))
				continue
			}
			if own, part := r.densities(label, clause), partOf(clause); len(own) == 1 && part != "" {
				r.add(n, besides(draft.Value{Path: "density:" + part, Value: own[0].low, As: own[0].text}, own[0]))
			}
		}
		return
	}
	if len(all) != 1 {
		return
	}
	v := draft.Value{Path: "density", Value: all[0].low, As: all[0].text}
	if !mixed.MatchString(label + " " + rest) {
		v.State, v.Why = draft.Doubtful, draft.MixOrPart
	}
	r.add(n, besides(v, all[0]))
}

var parted = regexp.MustCompile(`[;,]\s+|\s{2,}`)

var mixed = words(`\bmix(ed|ture)?\b|a ?\+ ?b|gemisch|mischung|mezcla`)

// solids reads the share of solids by volume and by weight, as the words beside each say.
func solids(r *reader, n int, _ field, label, rest string) {
	all := of(r.find(rest), share)
	for k, a := range all {
		until := len(rest)
		if k+1 < len(all) {
			until = all[k+1].from
		}
		beside := rest[a.from:until]
		byVolume, byMass := words(`vol`), words(`weight|mass|gew|peso|w/w|\bwt\b`)
		path := ""
		switch {
		case byVolume.MatchString(beside) && byMass.MatchString(beside):
			r.add(n, draft.Value{Path: "massSolids", Value: a.low, As: a.text})
			path = "volumeSolids"
		case byVolume.MatchString(label) && byMass.MatchString(label): // which of them is not said
		case byVolume.MatchString(beside) && !byMass.MatchString(beside), len(all) == 1 &&
			byVolume.MatchString(label+rest[:a.from]) &&
			!byMass.MatchString(label):
			path = "volumeSolids"
		case byMass.MatchString(beside), len(all) == 1 && byMass.MatchString(label+rest[:a.from]):
			path = "massSolids"
		}
		v := draft.Value{Path: path, Value: a.low, As: a.text}
		if path == "" && len(all) == 1 && a.low == 1 && !byVolume.MatchString(label) {
			v.Path, v.State, v.Why = "volumeSolids", draft.Derived, "all of it is solids, by volume and by weight"
		}
		if v.Path == "" {
			continue
		}
		if a.ranged {
			v.State, v.Why = draft.Doubtful, "the sheet gives a range; the smaller is taken"
		}
		r.add(n, v)
	}
}

// vocs reads the volatile content, as supplied or as thinned.
func vocs(r *reader, n int, f field, label, rest string) {
	if none.MatchString(rest) {
		r.add(n, draft.Value{Path: "voc", Value: 0.0, As: rest})
		return
	}
	from := 0
	all := of(r.find(rest), density)
	for k, a := range all {
		until := len(rest)
		if k+1 < len(all) {
			until = all[k+1].from
		}
		path := "voc"
		if thinned.MatchString(rest[from:a.from]) || thinned.MatchString(rest[a.to:until]) && k == len(all)-1 ||
			k == 0 && thinned.MatchString(label) {
			path = "vocThinned"
		}
		limit := vocLimit.MatchString(rest[from:a.from])
		from = a.to
		if limit || k > 0 && path == "voc" {
			continue
		}
		r.add(n, besides(draft.Value{Path: path, Value: a.high, As: a.text}, a))
	}
}

var (
	thinned  = words(`reduced|thinned|diluted|verdünnt|diluid`)
	vocLimit = words(`limit`)
)

var none = words(`^\s*(nil|none|zero|0)\s*$`)

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
	v := draft.Value{Path: "viscosity", Value: thick[0].low, As: thick[0].text}
	if thick[0].ranged {
		v.Value, v.State, v.Why = thick[0].high, draft.Doubtful, "the sheet gives a range; the thicker is taken"
	}
	switch {
	case len(warm) == 1:
		v.At = &warm[0].low
	case r.section != nil:
		v.At = r.section
	case r.overall != nil:
		v.At = r.overall
	default:
		v.State, v.Why = draft.Doubtful, "the sheet does not say at which temperature"
	}
	r.add(n, v)
}

var ratioOf = regexp.MustCompile(`(?:[ABC]\s?:\s?[ABC](?:\s?:\s?[ABC])?\s*=?\s*)?(` + number +
	`)\s?A?\s?(?::|to|zu|a)\s?(` +
	number + `)\s?B?(?:\s?(?::|to|zu|a)\s?(` + number + `)\s?C?)?`)

// inParts is a ratio in words.
var inParts = words(`(` + anyNumber + `) parts? (?:[\p{L}]+ ){0,5}(?:to|and|with|:) (` + anyNumber + `) parts?\b`)

func ratio(r *reader, n int, _ field, label, rest string) {
	m := ratioOf.FindStringSubmatch(rest)
	if parts := inParts.FindStringSubmatch(rest); parts != nil {
		m = append(parts, "")
	}
	if m == nil {
		return
	}
	vol, weight := words(`vol`), words(`weight|mass|\bgew|peso`)
	if vol.MatchString(rest) && weight.MatchString(rest) { // one of each, by the word beside it
		for _, clause := range regexp.MustCompile(`[,;(]`).Split(rest, -1) {
			if own := ratioOf.FindStringSubmatch(clause); own != nil && vol.MatchString(clause) != weight.MatchString(clause) {
				r.ratioBy(n, own, vol.MatchString(clause), weight.MatchString(clause))
			}
		}
		return
	}
	both := label + " " + rest
	r.ratioBy(n, m, vol.MatchString(both), weight.MatchString(both))
}

// ratioBy notes a ratio by volume, or by mass; where the sheet does not say by which, as doubtful.
func (r *reader) ratioBy(n int, m []string, byVolume, byMass bool) {
	parts := []float64{value(m[1]), value(m[2])}
	if m[3] != "" {
		parts = append(parts, value(m[3]))
	}
	v := draft.Value{Path: "ratio", Value: map[string]any{"basis": "volume", "parts": parts}, As: strings.TrimSpace(m[0])}
	switch {
	case byMass && !byVolume:
		v.Value = map[string]any{"basis": "mass", "parts": parts}
	case byVolume == byMass:
		v.State, v.Why = draft.Doubtful, "the sheet does not say whether by volume or by weight"
	}
	r.add(n, v)
}

var (
	letter  = regexp.MustCompile(`\b([ABC])\b`)
	degrees = regexp.MustCompile(`°\s?[CF]\b`)
)

func partDensity(r *reader, n int, _ field, label, rest string) {
	if all, part := r.densities(label, rest), partOf(label); len(all) == 1 && part != "" {
		r.add(n, besides(draft.Value{Path: "density:" + part, Value: all[0].low, As: all[0].text}, all[0]))
	}
}

// partOf returns the letter of the part that a text names, or nothing.
func partOf(text string) string {
	if m := letter.FindStringSubmatch(degrees.ReplaceAllString(text, "")); m != nil {
		return m[1]
	}
	switch {
	case words(`hardener|activator|catalyst|curing agent|härter|endurecedor`).MatchString(text):
		return "B"
	case words(`\bresin|\bbase\b|stammkomponente|resina`).MatchString(text):
		return "A"
	}
	return ""
}

// densities returns the densities behind a label: with their unit, as a weight per gallon, or as a specific gravity.
func (r *reader) densities(label, rest string) []amount {
	all := r.find(rest)
	shared := gravity.FindAllString(rest, -1) // of several the last may have the unit of all
	if found := of(all, density); len(found) > 0 && (len(found) > 1 || len(shared) < 2) {
		return found
	}
	if m := perVolume.FindString(label); m != "" {
		found := of(all, mass)
		for k := range found {
			found[k].low /= map[bool]float64{true: gallon, false: 0.001}[strings.Contains(strings.ToLower(m), "gal")]
		}
		return found
	}
	if !words(`specific gravity|relative density`).MatchString(label) && len(shared) < 2 {
		return nil
	}
	var found []amount
	for _, m := range gravity.FindAllStringSubmatchIndex(rest, -1) {
		const water = 1000
		found = append(found, amount{of: density, low: value(rest[m[2]:m[3]]) * water, from: m[2], to: m[3],
			text: rest[m[2]:m[3]]})
	}
	return found
}

var perVolume = words(`per (gallon|litre|liter)|gallon weight`)

// gravity is a density without a unit, as that of water is 1.
var gravity = regexp.MustCompile(`(?:^|[\s:])([0-3][.,][0-9]{1,3})(?:[\s,;)]|$)`)
