package sheet

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
)

// hardener is one of several that a sheet gives values for.
type hardener struct {
	name  string
	marks []string // words and codes that stand for it, in small letters
}

const (
	hardenerWord = `(?:hardeners?|activators?|curing agents?|catalysts?|h[äa]rter|endurecedor(?:es)?)`
	hardenerPace = `(?:(?:extra|very|super|sehr|muy)[- ])?(?:fast|slow|standard|regular|medium|rapid|normal|tropical|summer|winter|` +
		`schnell|langsam|mittel|sommer|winter|rápido|lento|estándar)`
	hardenerCode = `(?:[A-Z]{1,4}[- ]?[0-9]{1,4}[A-Z]?|[0-9]{3}[A-Z]?|[D-Z])`
)

var (
	// namedHardener is a hardener as text names it: fast hardener, hardener F20, Härter langsam.
	namedHardener = words(`\b(` + hardenerPace + `)[- ]` + hardenerWord + `(?: \(?(?-i:(` + hardenerCode + `))\b\)?)?|` +
		hardenerWord + `[ :]\s?\(?(?:(` + hardenerPace + `)\b|(?-i:(` + hardenerCode + `))\b(?:[ ,]+\(?(` + hardenerPace + `)\b)?)`)
	// onlyHardener is a cell that holds the name of a hardener and nothing else.
	onlyHardener = words(`^(?:(?:with|mit|con) )?(?:(?:` + hardenerWord + ` )?\(?(` + hardenerPace + `)\)?(?: ` + hardenerWord + `)?|` +
		`(?:` + hardenerWord + ` )?(?-i:(` + hardenerCode + `))(?:[ ,]+\(?(` + hardenerPace + `)\)?)?(?: ` + hardenerWord + `)?)$`)
	saysHardener = words(hardenerWord)
	// afterCode matches what follows a number that is no code.
	afterCode = words(`^\s*(?:[.,:/-]\s?[0-9]|:|(?:kg|g|lbs?|l|ml|gal|parts?|%|°|min|h|to|by)\b|%|°)`)
)

// hardenerOf returns the hardener that a cell names and holds nothing beside.
func hardenerOf(cell string) (hardener, bool) {
	m := onlyHardener.FindStringSubmatch(strings.Trim(cell, " :*"))
	if m == nil {
		return hardener{}, false
	}
	return newHardener(m[2], cmp.Or(m[1], m[3])), true
}

// newHardener returns a hardener by its code and its pace, one of which may be missing.
func newHardener(code, pace string) hardener {
	h := hardener{name: code}
	if code != "" {
		h.marks = append(h.marks, strings.ToLower(code))
	}
	if pace != "" {
		h.marks = append(h.marks, strings.ToLower(pace))
		switch spoken := strings.ToUpper(pace[:1]) + strings.ToLower(pace[1:]); code {
		case "":
			h.name = spoken
		default:
			h.name += " " + strings.ToLower(pace)
		}
	}
	return h
}

// hardenersOf returns the hardeners that a sheet gives values for; none where it has one alone.
func hardenersOf(lines []Line) []hardener {
	var all []hardener
	note := func(h hardener) {
		for k, known := range all {
			if slices.ContainsFunc(h.marks, func(m string) bool { return slices.Contains(known.marks, m) }) {
				if len(h.marks) > len(known.marks) {
					all[k] = h
				}
				return
			}
		}
		all = append(all, h)
	}
	for n, l := range lines {
		for _, h := range hardenerHeads(l) {
			note(h)
		}
		for _, m := range namedHardener.FindAllStringSubmatchIndex(l.Text, -1) {
			group := func(k int) string {
				if m[2*k] < 0 {
					return ""
				}
				return l.Text[m[2*k]:m[2*k+1]]
			}
			code := cmp.Or(group(2), group(4))
			if code != "" && afterCode.MatchString(l.Text[m[1]:]) {
				continue
			}
			note(newHardener(code, cmp.Or(group(1), group(3), group(5))))
		}
		if len(l.Cells) > 1 && saysHardener.MatchString(l.Cells[0]) && len(strings.Fields(l.Cells[0])) <= 2 {
			for _, row := range lines[n+1:] {
				if h, is := hardenerOf(firstOf(row.Cells)); is && len(row.Cells) == len(l.Cells) {
					note(h)
				} else {
					break
				}
			}
		}
	}
	if len(all) < 2 {
		return nil
	}
	return all
}

func firstOf(cells []string) string {
	if len(cells) == 0 {
		return ""
	}
	return strings.TrimSpace(cells[0])
}

// hardenerHeads returns the hardeners that the columns of a table hold, where a line is the head of such a one.
func hardenerHeads(l Line) []hardener {
	if len(l.Cells) < 2 {
		return nil
	}
	cells := l.Cells
	if _, is := hardenerOf(cells[0]); !is {
		cells = cells[1:]
	}
	var all []hardener
	for _, cell := range cells {
		h, is := hardenerOf(cell)
		if !is {
			return nil
		}
		all = append(all, h)
	}
	onlyCodes := !slices.ContainsFunc(all, func(h hardener) bool { return words(hardenerPace).MatchString(h.name) })
	if len(all) < 2 || onlyCodes && !saysHardener.MatchString(l.Text) {
		return nil
	}
	return all
}

// known returns the name that a hardener of the sheet goes by.
func (r *reader) known(h hardener) string {
	for _, known := range r.hardeners {
		if slices.ContainsFunc(h.marks, func(m string) bool { return slices.Contains(known.marks, m) }) {
			return known.name
		}
	}
	return ""
}

// says reports whether a text has a mark of a hardener as a word. A letter behind a number is a unit, not a hardener.
func says(text, mark string) bool {
	if len(mark) == 1 {
		return regexp.MustCompile(`(?:^|[^\p{L}0-9°\s]|[^0-9°]\s)` + strings.ToUpper(mark) + `(?:[^\p{L}0-9]|$)`).MatchString(text)
	}
	return regexp.MustCompile(`(?i)(?:^|[^\p{L}0-9])` + regexp.QuoteMeta(mark) + `(?:[^\p{L}0-9]|$)`).MatchString(text)
}

// mentionedIn returns the name of the only hardener of the sheet that a text names; nothing where it names none, or
// several.
func (r *reader) mentionedIn(text string) string {
	found := ""
	for _, h := range r.hardeners {
		for _, mark := range h.marks {
			if !says(text, mark) {
				continue
			}
			if found != "" && found != h.name {
				return ""
			}
			found = h.name
		}
	}
	return found
}

// byHardener reads a line of a table by hardeners, or a heading that names one; false where the line is neither.
func (r *reader) byHardener(n int, l Line) bool {
	if len(r.hardeners) == 0 {
		return false
	}
	if heads := hardenerHeads(l); heads != nil {
		r.hardenerColumns, r.hardenerRows = nil, nil
		for _, h := range heads {
			r.hardenerColumns = append(r.hardenerColumns, r.known(h))
		}
		if len(heads) < len(l.Cells) && r.fieldOf(firstOf(l.Cells)) != nil {
			r.pending = firstOf(l.Cells)
		}
		return true
	}
	cells := l.Cells
	if len(cells) > 2 && r.fieldOf(firstOf(cells)) == nil && r.warm(cells[1:]) { // the head of another table
		r.hardenerColumns = nil
	}
	if r.hardenerColumns != nil && len(cells) > 2 || len(cells) > 1 && len(cells) == len(r.hardenerColumns)+1 {
		r.acrossHardeners(n, cells)
		return true
	}
	if r.hardenerRows != nil {
		if h, is := hardenerOf(firstOf(cells)); is && r.known(h) != "" {
			if len(cells) == len(r.hardenerRows)+1 {
				r.downHardeners(n, r.known(h), cells[1:])
			}
			return true
		}
		r.hardenerRows = nil
	}
	if len(cells) > 2 && saysHardener.MatchString(cells[0]) && len(strings.Fields(cells[0])) <= 2 {
		r.hardenerRows = cells[1:]
		return true
	}
	if h, is := hardenerOf(l.Text); is && r.known(h) != "" && (len(h.marks) > 1 || saysHardener.MatchString(l.Text)) {
		r.hardener = r.known(h)
		return true
	}
	return false
}

// warm reports whether each of some cells is a temperature.
func (r *reader) warm(cells []string) bool {
	return !slices.ContainsFunc(cells, func(cell string) bool {
		all := r.find(cell)
		return len(all) != 1 || all[0].of != temperature
	})
}

// acrossHardeners reads a row of a table that has a column for each hardener. A row with a cell too few is not read:
// which it is that is missing is not known.
func (r *reader) acrossHardeners(n int, cells []string) {
	if len(cells) != len(r.hardenerColumns)+1 {
		return
	}
	label, was, section := firstOf(cells), r.hardener, r.section
	if warm := r.find(label); len(warm) == 1 && warm[0].of == temperature && bare.MatchString(label[:warm[0].from]) {
		r.section, label = &warm[0].low, r.pending
	}
	pending, alone := r.pending, r.alone
	for k, name := range r.hardenerColumns {
		r.hardener = name
		r.labelled(n, label, strings.TrimSpace(cells[k+1]))
	}
	r.hardener, r.section, r.pending, r.alone = was, section, pending, alone
}

// downHardeners reads a row of a table that has a row for each hardener.
func (r *reader) downHardeners(n int, name string, cells []string) {
	was, pending, alone := r.hardener, r.pending, r.alone
	r.hardener = name
	for k, cell := range cells {
		r.labelled(n, strings.TrimSpace(r.hardenerRows[k]), strings.TrimSpace(cell))
	}
	r.hardener, r.pending, r.alone = was, pending, alone
}

var amongHardeners = regexp.MustCompile(`\s*[;,·/]\s+|\s{2,}|\s+(?:and|und|y)\s+`)

// perHardener reads a label whose values each stand beside the hardener that they hold with; false where they do not.
func (r *reader) perHardener(n int, f field, label, rest string) bool {
	if len(r.hardeners) == 0 || r.hardener != "" {
		return false
	}
	if name := r.mentionedIn(label); name != "" && r.mentionedIn(rest) == "" {
		r.hardener = name
		f.read(r, n, f, label, rest)
		r.hardener = ""
		return true
	}
	var names, texts []string
	for _, clause := range amongHardeners.Split(rest, -1) {
		name := r.mentionedIn(clause)
		switch {
		case name != "":
			names, texts = append(names, name), append(texts, clause)
		case len(texts) > 0:
			texts[len(texts)-1] += "  " + clause
		}
	}
	if len(names) < 2 {
		return false
	}
	for k, name := range names {
		r.hardener = name
		f.read(r, n, f, label, texts[k])
	}
	r.hardener = ""
	return true
}
