package sheet

import (
	"cmp"
	"slices"
	"strings"

	"nephelon/core/draft"
	"nephelon/core/sheet/lexicon"
)

// printed reads an amount as the sheet prints it, or several for their uses or grounds.
func printed(r *reader, n int, _ field, label, rest string) {
	said := label + "  " + rest
	var all []amount
	for _, a := range r.find(said) {
		after := said[a.to:]
		if !perThickness.MatchString(after) && !atOne.MatchString(after) && !ofSand.MatchString(after) {
			all = append(all, a)
		}
	}
	thick, weight, area := of(all, film), of(all, perArea), of(all, spread)
	wet := words(`\bwet\b`).MatchString(said)
	if len(thick) == 1 && wet && len(area) == 1 || len(weight)+len(area) == 0 && len(thick) > 0 && wet {
		r.prints(n, "", said, "wet-film", thick[0], thick[0].high)
		return
	}
	basis, list := "mass-per-area", weight
	if len(weight) == 0 {
		basis, list = "spread", area
	}
	if len(list) == 0 {
		r.covering(n, said)
		return
	}
	si := func(a amount) float64 { // what needs more material
		if basis == "spread" {
			return a.low
		}
		return a.high
	}
	if use := useOf(label); use != "" && len(list) == 1 {
		r.prints(n, use, said, basis, list[0], si(list[0]))
		return
	}
	named := 0
	for k, a := range list {
		until := len(said)
		if k+1 < len(list) {
			until = list[k+1].from
		}
		if m := onGround.FindStringSubmatch(said[a.to:until]); m != nil && used.MatchString(m[1]) {
			r.prints(n, lastWord.ReplaceAllString(strings.TrimSpace(m[1]), ""), said, basis, a, si(a))
			named++
		}
	}
	if named > 1 || named == len(list) {
		return
	}
	a := list[0]
	for _, other := range list[1:] {
		if (si(other) < si(a)) == (basis == "spread") {
			a = other
		}
	}
	a.ranged = a.ranged || len(list) > 1
	r.prints(n, "", said, basis, a, si(a))
}

// prints notes an amount, for a use where the sheet names one.
func (r *reader) prints(n int, use, said, basis string, a amount, si float64) {
	p := map[string]any{"basis": basis, "value": si}
	switch {
	case basis == "wet-film":
	case words(`practical|praktisch|práctic`).MatchString(said):
		p["figure"] = "practical"
	case words(`theoret|teóric`).MatchString(said):
		p["figure"] = "theoretical"
	}
	v := draft.Value{Path: "printed", Value: p, As: a.text}
	if a.ranged {
		v.State, v.Why = draft.Doubtful, "the sheet gives a range; the amount that needs more material is taken"
	}
	if use == "" && words(`recommended`).MatchString(said) { // what it recommends counts before what it gives for a film
		r.draft.Values = slices.DeleteFunc(r.draft.Values, func(v draft.Value) bool { return v.Path == "printed" })
	}
	if use == "" {
		r.add(n, v)
		return
	}
	r.uses = append(r.uses, forUse{v, use, n})
}

// forUse holds an amount for one use.
type forUse struct {
	draft.Value
	use  string
	line int
}

// settleUses adds the amounts for their uses: one alone is the amount of the sheet; of several the one that needs the
// most material is taken where the sheet has no other, as doubtful.
func (r *reader) settleUses() {
	if len(r.uses) == 0 {
		return
	}
	of := func(u forUse) (string, float64) {
		p, _ := u.Value.Value.(map[string]any)
		basis, _ := p["basis"].(string)
		si, _ := p["value"].(float64)
		return basis, si
	}
	most := r.uses[0]
	has := slices.ContainsFunc(r.draft.Values, func(v draft.Value) bool {
		p, _ := v.Value.(map[string]any)
		basis, _ := of(most)
		return v.Path == "printed" && p["basis"] == basis
	})
	if len(r.uses) == 1 { // one alone is the amount of the sheet, unless it is of the coat below
		if !has && !below.MatchString(most.use) {
			r.add(most.line, most.Value)
		}
		return
	}
	for _, u := range r.uses {
		basis, si := of(u)
		if first, greatest := of(most); basis == first && (si > greatest) != (basis == "spread") {
			most = u
		}
		p := map[string]any{"for": u.use}
		for name, value := range u.Value.Value.(map[string]any) {
			p[name] = value
		}
		r.add(u.line, draft.Value{Path: "amounts", Value: p, As: u.As, State: u.State, Why: u.Why})
	}
	if !has {
		most.State, most.Why = draft.Doubtful, "the sheet gives several, for "+most.use+" the most"
		r.add(most.line, most.Value)
	}
}

// covering reads what a pack covers.
func (r *reader) covering(n int, said string) {
	m := covers.FindStringSubmatch(said)
	const depth = 0.002 // m
	fills := slices.ContainsFunc(of(r.find(said), film), func(a amount) bool { return a.high >= depth })
	if m == nil || fills { // what fills a depth is no amount of a coat
		return
	}
	area := value(m[3]) * map[bool]float64{true: 1, false: foot * foot}[strings.HasPrefix(strings.ToLower(m[4]), "m")]
	one := r.find(cmp.Or(m[1], "1") + " " + m[2])
	if len(one) == 1 && one[0].of == volume {
		r.prints(n, "", said, "spread", amount{text: m[0]}, area/one[0].low)
	} else if len(one) == 1 && one[0].of == mass {
		r.prints(n, "", said, "mass-per-area", amount{text: m[0]}, one[0].low/area)
	}
}

// useOf returns the use that a label names, or nothing.
func useOf(label string) string {
	text := strings.Trim(amountLabel.ReplaceAllString(label, ""), " :,.-–|")
	const longest = 60
	if !used.MatchString(text) || len(text) > longest {
		return ""
	}
	return text
}

var (
	below       = words(`\bprim|scratch|grundier|kratz|imprima`)
	lastWord    = words(`\s+(and|or|und|oder|y|o)$`)
	amountLabel = words(`^` + lexicon.Labels().Any("printed") + `[^\p{L}]*|\b(approx|ca|per coat|je auftrag)\b\.?`)
	used        = words(`\b(prim(e|er|ing)|scratch|broadcast|grout|seal(er|ing)?|top ?coat|body|base ?coat|finish|first|second|` +
		`third|smooth|rough|porous|dense|concrete|screed|steel|bare|painted|plaster|wood|tile|vertical|walls?|floors?|grundier\p{L}*|kratz\p{L}*|` +
		`einstreu\p{L}*|deck\p{L}*|\p{L}*verlauf\p{L}*|versiegel\p{L}*|glatt\p{L}*|rau\p{L}*|beton|imprimación|primera|` +
		`segunda|hormigón|acero)(\P{L}|$)`)
	onGround = words(`^\s*(?:per coat |je auftrag |por capa )?(?:on|for|over|as|auf|für|als|sobre|para|en) ([^,;.()]{3,60})`)
	// What follows an amount that is not one: of an area and a thickness, of what the solids give, or of sand.
	perThickness = words(`^\s?(per|je|por|/|and|und) ?(1 ?)?(mm|mil)\b`)
	atOne        = words(`^ ?(at|@|bei|per) 1 ?mil\b`)
	ofSand       = words(`^\s*(of )?(the )?(dry |kiln[- ]dried )?(quar[tz]|sand|aggregate|[a-zäöü]*sand\b|árido|arena|flakes|` +
		`chips)`)
	covers = words(`\b(` + anyNumber + `|an?)[ -](gallon|lit(?:er|re)s?|l|kg|gal)(?:[ -](?:kit|pack|set|unit))? ` +
		`(?:covers|is enough for)(?: about| approx\.?)? (` + number + `) ?(sq\.? ?ft|ft²|m²|m2)(?:\.|,|;|\s|$)`)
)
