package sheet

import (
	"cmp"
	"regexp"
	"slices"
	"strings"

	"nephelon/core/draft"
)

// wordField is a value that stands in words anywhere.
type wordField struct {
	path       string
	found, not *regexp.Regexp
	value      func(m []string) any
	doubt      func(m []string) string // why it has to be looked at; empty where it need not
}

// warned is a line that says what can hurt, in one sentence or several.
var warned = words(`^(?:caution|warning|danger|vorsicht|warnung|precaución)s? ?[:!.] ?(.{12,400})$`)

func wordFields() []wordField {
	constant := func(v any) func([]string) any { return func([]string) any { return v } }
	return []wordField{
		{"thinnerMax", words(`do not thin\b|must not be thinned|never thin\b|nicht verdünnen|no diluir`),
			words(`unless|except`),
			constant(map[string]any{"value": 0.0, "of": "a"}), nil},
		{"voc", words(`\b(?:zero|no) voc\b|\bvoc[- ]?free\b`), nil, constant(0.0), nil},
		{"abrade", words(`\b(?:abrade|sand)\b[^.]*?\b([0-9]{2,3})[ -]?grit`), nil,
			func(m []string) any { return value(m[1]) }, nil},
		{"mixing", words(`\b(?:mix|stir|blend)\b[^.;:]{0,60}?\b(?:for|another) (?:about |approx\.? |(?:a )?minimum (?:of )?|` +
			`not less than |at least )?([0-9]+)(?:\s?(?:to|-|–)\s?([0-9]+))? ?min|` +
			`\b([0-9]+)(?:\s?(?:bis|-|–)\s?([0-9]+))? ?min(?:uten|\.)?(?: lang)?(?: \w+)? (?:mischen|rühren|verrühren)|` +
			`\b(?:mezclar|mezcle|mézclese)\b[^.;:]{0,60}?([0-9]+)(?:\s?(?:a|-|–)\s?([0-9]+))? ?min`),
			words(`do not mix|part [AB] (?:alone|for|only)|\b(?:the|of) mix\b|mix is\b|\b(?:mix|stir)(?: it)? again for|^[^0-9]*nochmals|komponente [AB] [^.]*aufrühren$`),
			func(m []string) any { return minute * value(cmp.Or(m[2], m[1], m[4], m[3], m[6], m[5])) },
			func(m []string) string {
				if cmp.Or(m[2], m[4], m[6]) != "" {
					return "the sheet gives a range; the larger is taken"
				}
				return ""
			}},
		{"mixingAgain", words(`\b(?:mix|stir)(?: it)? again for (?:another )?([0-9]+) ?min|\bnochmals ([0-9]+) ?min\p{L}* ` +
			`(?:mischen|rühren)`), nil,
			func(m []string) any { return minute * value(cmp.Or(m[1], m[2])) }, nil},
		{"ratio", words(`\b(` + anyNumber + `) parts? (?:of )?(?:the )?(?:resin|base|part A|component A|` +
			`A)\b[^.;]{0,12}?(?:to|and|with|:) (` + anyNumber + `) parts? [^.;]{0,30}?by (volume|weight|mass)`), nil,
			func(m []string) any {
				basis := map[bool]string{true: "volume", false: "mass"}[strings.EqualFold(m[3], "volume")]
				return map[string]any{"basis": basis, "parts": []float64{value(m[1]), value(m[2])}}
			}, nil},
		{"hazards", words(`\b(?:di|poly)?isocyanates?\b|\bEUH ?204\b|\bisocyanate\b|\bisocianatos?\b`),
			words(`isocyanate[- ]?free|free (of|from) isocyanate|\bno isocyanate|isocyanatfrei`), constant("isocyanate"), nil},
		{"hazards", words(`\bH317\b|\bskin sensiti[sz]\w+|\bsensiti[sz]es? (?:the )?skin|` +
			`\ballergic skin reactions?\b|\bcause sensiti[sz]ation|\ballergische hautreaktion|\bhautsensibilisierend|\bsensibilización|\breacción alérgica`), words(`\bnot? (a )?(skin )?sensiti`),
			constant("skin-sensitiser"), nil},
		{"hazards", words(`\bH314\b|\bcorrosive\b|\bcauses (?:severe )?(?:skin )?burns\b|(?:^|\s)ätzend|\bcorrosiv[oa]\b`),
			words(`non[- ]?corrosive|not corrosive|corrosive (environment|conditions|chemical)`), constant("corrosive"), nil},
		{"hazards", words(`\bH22[456]\b|\bflammable\b|\bentzündbar|\bentzündlich|\binflamable`),
			words(`non[- ]?flammable|not flammable|flammable (liquids? (stor|area)|materials? (near|away))`), constant("flammable"),
			nil},
		{"cautions", warned, nil,
			func(m []string) any { return strings.TrimSpace(m[1]) }, nil},
		{"sun", words(`\b(?:not (?:uv|light)[- ]?(?:stable|resistant)|(?:may|will) (?:yellow|amber)|` +
			`yellows|ambers)\b`), nil,
			constant("ambers"), nil},
		{"sun", words(`\b(?:uv|light)[- ]?(?:stable|resistant|fast)\b|non[- ]yellowing\b|lichtecht|` +
			`(?:licht|uv-?)beständig|vergilbungsfrei|estable a (?:la luz|los rayos)`), words(`\bnot (uv|light)|nicht (licht|uv)`),
			constant("stable"), nil},
	}
}

// scattered are the names that the shelf has for what is scattered into a film.
var scattered = [][2]string{{"flake", `(?:vinyl |colou?r |decorative )?(?:flakes?|chips)\b|\p{L}*chips\b|flocken|escamas`},
	{"quartz", `quar[tz]z?[- ]?sand\b|quartz\b|quarzsand|(?:silica|(?:kiln|oven|fire)[- ]dried|dry|blasting) sand\b|\bsand \(?[0-9]|arena de (?:cuarzo|sílice)|cuarzo`},
	{"grit", `alumini?um oxide|carborundum|emery|silicon carbide|anti-?slip grit|korund`},
	{"bead", `glass beads?|glasperlen|microesferas`}, {"pebble", `pebbles?\b|kiesel`}}

var (
	scatters = words(`\b(?:broadcast|scatter|sprinkl|seeded|(?:ein|ab|be)ge?streu|(?:ein|ab|be)zustreuen|(?:ein|ab|be)streu|espolvor)\p{L}*`)
	takesNo  = words(`\b(?:not|never|no|nicht|kein\p{L}*|without|if|only)\b`)
)

// broadcast reads what may be scattered into a film, each once. A sentence with a condition or a denial says nothing.
func (r *reader) broadcast(n int, text string) {
	if !scatters.MatchString(text) || takesNo.MatchString(text) {
		return
	}
	for _, s := range scattered {
		m := words(`(?:^|[^\p{L}])(` + s[1] + `)`).FindStringSubmatch(text)
		known := func(v draft.Value) bool { return v.Path == "broadcast" && v.Value == s[0] }
		if m != nil && !slices.ContainsFunc(r.draft.Values, known) {
			r.add(n, draft.Value{Path: "broadcast", Value: s[0], As: m[1]})
		}
	}
}

var cautions = words(`^(?:cautions?|precautions|warnings?|safety|safety (?:precautions|instructions)|health and safety|` +
	`vorsicht|sicherheitshinweise|precauciones|advertencias):?$`)

// cautioned reads the sentences below a heading that says what can hurt, until an empty line.
func (r *reader) cautioned(n int, l Line) bool {
	if cautions.MatchString(l.Text) {
		r.warns = true
		return true
	}
	const least = 4 // words of a sentence
	if !r.warns || len(strings.Fields(l.Text)) < least || strings.Contains(l.Text, ":") {
		r.warns = false
		return false
	}
	r.add(n, draft.Value{Path: "cautions", Value: l.Text, As: l.Text})
	return true
}

// ground are the names that the shelf has for what a product goes over.
func ground() map[string]string {
	return map[string]string{"concrete": "concrete", "screed": "screed", "screeds": "screed", "plaster": "plaster",
		"wood": "wood", "timber": "wood", "metal": "metal", "steel": "metal", "tile": "tile", "tiles": "tile",
		"stone":    "stone",
		"laminate": "laminate", "render": "plaster", "beton": "concrete", "estrich": "screed", "holz": "wood",
		"fliesen": "tile", "putz": "plaster", "metall": "metal", "stahl": "metal", "hormigón": "concrete",
		"madera": "wood", "mortero": "screed"}
}

var forGround = words(`\b(?:for|für|para|over|on) ((?:[\p{L}]+(?:, | and | or | und | oder | y | )?){1,8})`)

var generic = words(`data ?sheet|datenblatt|merkblatt|(ficha|hoja|datos) técnic|^(product|technical) (data|` +
	`information|bulletin)|produktinformation|^tds$|^ref\b|^stand\b|^(effective|issued?|date|rev)\b`)

// model is a short name with a number in it.
var model = regexp.MustCompile(`^\s*(?:[\p{L}][\p{L}&/'-]*\s+){0,4}[\p{L}-]*[0-9]+[\p{L}0-9-]*(?:\s+[\p{L}/&-]+){0,3}\s*$`)

var company = words(`^[^0-9]*\b(coatings|flooring|floors|paints|chemicals|resins|industries|polymers|bodensysteme|farben|harze|lacke|resinas|pinturas|systeme|systems|chemie|co\.?|gmbh|ag|ltd\.?|inc\.?|s\.a\.?)$`)

// months are their names, in the languages that are read.
const months = `jan(?:uary|uar)?|feb(?:ruary|ruar)?|mar(?:ch|zo)?|märz|apr(?:il)?|may|mai|june?|juni|july?|juli|` +
	`aug(?:ust)?|sep(?:t(?:ember)?)?|o[ck]t(?:ober)?|nov(?:ember)?|de[cz](?:ember)?|enero|febrero|abril|mayo|junio|` +
	`julio|agosto|septiembre|octubre|noviembre|diciembre`

// editions are the ways in which a sheet says its edition.
var editions = words(`\b((?:ed(?:ition|\.)|edici[oó]n|fassung|ausgabe) [0-9][0-9/.]*|` +
	`rev(?:ision|\.)? ?(?:[0-9][0-9./]*|[A-Z]\b)|versi[oó]n [0-9][0-9.]*|` +
	`issue (?:[0-9][0-9./]*|[A-Z]\b)|20[0-9]{2}-[01][0-9](?:-[0-3][0-9])?|(?:[0-3]?[0-9][-./]){0,2}20[0-9]{2}|` +
	`(?:[0-3]?[0-9]\.? )?(?:` + months + `)\.? (?:[0-3]?[0-9], )?(?:de )?20[0-9]{2})`)

// head reads what stands in words in the first lines: the name, what it is, and its edition.
func (r *reader) head() {
	const first = 8
	described := false
	for n := 0; n < len(r.lines) && n < first; n++ {
		if r.lines[n].Text == "" {
			continue
		}
		text := r.named(n)
		if m := editions.FindString(text); m != "" && !r.has("edition") {
			r.add(n, draft.Value{Path: "edition", Value: m, As: m})
		}
		if strings.Trim(editions.ReplaceAllString(text, ""), " ,|") != "" {
			described = r.described(n, text, described)
		}
	}
	if v := r.draft.Values; len(v) > 0 && v[0].Path == "name" {
		if !described {
			r.describe(v[0].Line-1, v[0].As)
		}
		r.choose(v[0].Line-1, v[0].As, "kind", kinds)
		below := min(v[0].Line, len(r.lines)-1)
		r.choose(below, r.lines[below].Text, "kind", kinds)
	}
}

func (r *reader) has(path string) bool {
	return slices.ContainsFunc(r.draft.Values, func(v draft.Value) bool { return v.Path == path })
}

// named reads the name of the product where a line of the head has it, and returns what else the line says.
func (r *reader) named(n int) string {
	text, first := r.lines[n].Text, ""
	for _, cell := range r.lines[n].Cells { // what every sheet is called is not its name
		if first = strings.TrimSpace(cell); first != "" && !generic.MatchString(first) {
			break
		}
	}
	// Who makes it stands above its name; so does what has no number above a short line that has one.
	next := ""
	if n+1 < len(r.lines) && len(r.lines[n+1].Cells) > 0 {
		next = r.lines[n+1].Cells[0]
	}
	above := n+1 < len(r.lines) && (company.MatchString(first) || !model.MatchString(first) && model.MatchString(next))
	const longest = 60
	usable := first != "" && len(first) <= longest && !strings.Contains(first, ":") && !generic.MatchString(first)
	if above || !usable || r.has("name") {
		return text
	}
	r.add(n, draft.Value{Path: "name", Value: first, As: first})
	return strings.TrimSpace(strings.TrimPrefix(text, first))
}

// described reads what a line of the head says the product is, and returns whether it has been said by then.
func (r *reader) described(n int, text string, before bool) bool {
	if label, after, labelled := strings.Cut(text, ":"); labelled {
		if words(`\b(uses?|usos?)\b|substrate`).MatchString(label) {
			r.over(n, after)
		}
		return words(`chemistry|type|description`).MatchString(label) && r.describe(n, after) || before
	}
	if !before {
		return r.describe(n, text)
	}
	r.choose(n, text, "carrier", carriers) // a later sentence may say in what it is carried
	if !r.has("over") {
		r.over(n, text)
	}
	return true
}

var carriers = [][2]string{{`water[- ]based|waterborne|water[- ]borne|water[- ](?:dispersed|thinnable|reducible)|water emulsion|wässrige?|wasserbasiert\p{L}*|` +
	`base acuosa|al agua|base agua`, "water"},
	{`solvent[- ]free|100 ?% solids|total solid|lös(?:e|ungs)mittelfrei\p{L}*|sin (?:disolventes|solventes)`,
		"none"},
	{"solvent[- ]based|solvent[- ]?borne|lösemittelhaltige?", "solvent"}}

// kinds are the words for what a product is, those that say more first.
var kinds = [][2]string{{"moisture barrier|vapou?r barrier", "moisture-barrier"},
	{`primer|\p{L}*grundierung|imprimación`, "primer"},
	{"metallic", "metallic"}, {"deep[- ]pour|casting", "deep-pour"},
	{"flood coat|table ?tops?|bar ?tops?|counter ?tops?|bars|counters", "flood"},
	{"grout", "grout"}, {"(?:swimming )?pool (?:paint|coating|enamel)|(?:paint|coating|enamel) for (?:swimming )?pools", "pool-paint"}, {`pol[iy]asp[aá]rt\p{L}*`, "polyaspartic"},
	{"binder", "binder"}, {"clear(?:[- ]?coat\\p{L}*)?|sealer", "clear"},
	{`self[- ](?:levell?|smooth)ing|body coat|floor coating|autonivelante|\p{L}*verlauf\p{L}*|fließbelag|fliessbelag`, "body"},
	{"paint|enamel|pintura|anstrich|farbe", "paint"}, {`polyurethane|urethane|polyurethan\p{L}*|pur`, "urethane"}}

// choose reads a value from the first of some words that a text has, once.
func (r *reader) choose(n int, text, path string, choices [][2]string) bool {
	if r.has(path) {
		return true
	}
	for _, c := range choices {
		if m := words(`(?:^|[^\p{L}])(` + c[0] + `)(?:[^\p{L}]|$)`).FindStringSubmatch(text); m != nil {
			r.add(n, draft.Value{Path: path, Value: c[1], As: m[1]})
			return true
		}
	}
	return false
}

// describe reads chemistry, kind, carrier and ground from a sentence that says what it is.
func (r *reader) describe(n int, text string) bool {
	if !r.choose(n, text, "chemistry", [][2]string{{`pol[iy]asp[aá]rt\p{L}*`, "polyaspartic"}, {"novolac", "novolac"},
		{`epox\w*`, "epoxy"}, {"(?:poly)?urethane|pur?|polyurethan|poliuretano", "polyurethane"}, {"acrylic", "acrylic"},
		{"polyester", "polyester"}, {"alkyd", "alkyd"}}) {
		return false
	}
	r.choose(n, text, "kind", kinds)
	r.choose(n, text, "carrier", carriers)
	r.over(n, text)
	return true
}

// over reads what a product goes over.
func (r *reader) over(n int, text string) {
	if m := forGround.FindStringSubmatch(text); m != nil {
		var over []string
		for _, word := range regexp.MustCompile(`\p{L}+`).FindAllString(strings.ToLower(m[1]), -1) {
			g := ground()[word]
			if strings.HasSuffix(word, "estrich") {
				g = "screed"
			}
			if g != "" && !slices.Contains(over, g) {
				over = append(over, g)
			}
		}
		if len(over) > 0 {
			r.add(n, draft.Value{Path: "over", Value: over, As: m[0]})
		}
	}
}
