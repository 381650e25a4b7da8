package sheet

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"

	"nephelon/core/draft"
)

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
	parts := []float64{1, b.low / a.low}
	if c.of != "" {
		parts = append(parts, c.low/a.low)
	}
	basis := map[kind]string{mass: "mass", volume: "volume"}[a.of]
	if stated := slices.IndexFunc(r.draft.Values, func(v draft.Value) bool { return v.Path == "ratio" }); stated >= 0 {
		for n := range r.draft.Values {
			r.ratioAgainst(&r.draft.Values[n], basis, parts, a.line)
		}
		return
	}
	r.add(a.line, draft.Value{Path: "ratio", Value: map[string]any{"basis": basis, "parts": parts}, As: a.text,
		State: draft.Derived, Why: "from what a kit holds of each part"})
}

// ratioAgainst marks a ratio that the parts of a kit deny.
func (r *reader) ratioAgainst(v *draft.Value, basis string, parts []float64, line int) {
	of, _ := v.Value.(map[string]any)
	stated, _ := of["parts"].([]float64)
	if v.Path != "ratio" || of["basis"] != basis || len(stated) != len(parts) || v.Hardener != "" {
		return
	}
	for k := range parts {
		if math.Abs(stated[k]/stated[0]-parts[k]) > rounding*parts[k] {
			v.State = draft.Doubtful
			v.Why = fmt.Sprintf("line %d says %s, the kit of line %d holds other parts", v.Line, v.As, line+1)
		}
	}
}

// rounding bounds how far figures of a sheet may lie apart, as a share, before rounding does not explain it.
const rounding = 0.05

// partsOff returns in words what the parts of a kit make, where they stand in brackets behind its size and make
// something else.
func (r *reader) partsOff(a amount, rest string) string {
	_, after, _ := strings.Cut(rest, a.text)
	m := behindSize.FindStringSubmatch(after)
	if m == nil {
		return ""
	}
	inside := of(r.find(m[1]), a.of)
	sum := 0.0
	for _, part := range inside {
		sum += part.low
	}
	if len(inside) < 2 || !together.MatchString(m[1]) && !kitParts.MatchString(m[1]) || math.Abs(sum/a.low-1) <= rounding {
		return ""
	}
	return "its parts, " + strings.TrimSpace(m[1]) + ", do not add up to it"
}

var (
	behindSize = regexp.MustCompile(`^[^(,;]{0,20}\(([^)]*)\)`)
	kitParts   = words(`\b[ABC]\b`)
)

func kits(r *reader, n int, _ field, label, rest string) {
	if several := strings.Split(label, "; "); len(several) > 1 { // a line of kits, each with its parts
		for _, one := range several {
			kits(r, n, field{}, one, one)
		}
		return
	}
	r.partsIn(n, label+": "+rest)
	if notKits.MatchString(label) {
		return
	}
	own := counted.MatchString(label[:min(1, len(label))]) // 3-gallon kit, 15-gallon kit
	all := packsOf.FindAllStringSubmatch(rest, -1)
	if own {
		all = packsOf.FindAllStringSubmatch(label, -1)
	}
	if len(all) > 1 || len(all) > 0 && !strings.HasPrefix(strings.TrimSpace(rest), all[0][0]) {
		for _, m := range all { // A 16 L, B 4 L (20 L pack)
			for _, a := range r.find(m[1]) {
				r.addKit(n, a, rest)
			}
		}
		return
	}
	m := sized.FindStringSubmatch(label)
	if m == nil && partOf(pieces.ReplaceAllString(label, "")) != "" && !together.MatchString(label) {
		return
	}
	if m != nil {
		rest = m[1]
	} else if own {
		rest = label
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
		r.addKit(n, a, rest)
	}
}

// addKit adds a size that the product is sold in, as doubtful where its parts make another.
func (r *reader) addKit(n int, a amount, rest string) {
	kit := map[string]any{"name": strings.ReplaceAll(a.text, "-", " "), string(a.of): a.low}
	v := draft.Value{Path: "kits", Value: kit, As: a.text}
	if v.Why = r.partsOff(a, rest); v.Why != "" {
		v.State = draft.Doubtful
	}
	r.add(n, v)
}

var (
	packsOf   = words(`([0-9][0-9.,/]*[ -]?(?:kg|lb|l|litre|liter|gal|gallon|quart|qt|ml)s?)[ -](?:pack|kit|set|unit)\b`)
	notKits   = words(`aggregate|\bsand\b|\bfiller|quar[tz]|thinner|cleaner|catalyst bag`)
	ofPart    = words(`^\s*(of )?((part|component|side) ?)?([ABC]\b|resin|base|hardener|activator|härter)`)
	pieces    = words(`\([^)]*\)|.*\b(pack(age|aging|s)?|kits?|composition|contents)\b`)
	sized     = words(`(?:^|\b(?:a|an|as|in)\s)([0-9][0-9.,/-]*[ -]?(?:kg|g|lb|l|litre|liter|gal|gallon|quart|qt|ml)s?)\b(?:[^0-9]*$|[^0-9,]*\()`)
	together  = words(`\b[ABC](\s?\+\s?[ABC])+\b`)
	partAfter = words(`^\s*(of )?(part |component )?[ABC]\b`)
)

func storage(r *reader, n int, _ field, label, rest string) {
	all := r.find(rest)
	const opened = 20 * day // what keeps shorter is an opened pail
	kept := slices.DeleteFunc(of(all, span), func(a amount) bool { return a.low < opened })
	if len(kept) > 0 {
		a := kept[0]
		said := label + " " + rest
		first, _, _ := strings.Cut(said, ",")
		whole := partOf(first) == "" && len(of(r.find(first), span)) > 0
		if r.keepsApart(n, said) && !whole { // of several parts the one that keeps shortest
			a = slices.MinFunc(kept, func(a, b amount) int { return cmp.Compare(a.low, b.low) })
		}
		v := draft.Value{Path: "shelfLife", Value: a.low, As: a.text}
		if a.ranged {
			v.State, v.Why = draft.Doubtful, "the sheet gives a range; the shorter is taken"
		}
		r.add(n, v)
	}
	limits("store")(r, n, field{}, label, rest)
}

// keepsApart reads how long each part keeps; false where the sheet says it of the product.
func (r *reader) keepsApart(n int, said string) bool {
	apart := false
	for _, clause := range regexp.MustCompile(`[,;]\s|\s(?:and|und|y)\s`).Split(said, -1) {
		if own, part := of(r.find(clause), span), partOf(clause); len(own) == 1 && part != "" {
			apart = true
			if slices.ContainsFunc(r.draft.Values, func(v draft.Value) bool { return v.Path == "shelfLife:"+part }) {
				continue
			}
			r.add(n, draft.Value{Path: "shelfLife:" + part, Value: own[0].low, As: own[0].text})
		}
	}
	return apart
}
