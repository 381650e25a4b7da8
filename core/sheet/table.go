package sheet

import (
	"regexp"
	"slices"
	"strings"

	"nephelon/core/draft"
)

// tabled reports whether a line is the head of a table whose rows are temperatures: its columns have labels of times,
// or say least and most of the label above.
func (r *reader) tabled(l Line) bool {
	cells := l.Cells
	if len(cells) > 0 && strings.TrimSpace(cells[0]) == "" {
		cells = cells[1:]
	}
	if len(cells) > 0 && (len(cells) == len(l.Cells) || words(`temp|°`).MatchString(cells[0])) {
		cells = cells[1:]
	}
	if len(cells) < 2 || len(r.find(l.Text)) > 0 {
		return false
	}
	heads := make([]string, 0, len(cells))
	known := 0
	for _, cell := range cells {
		label := strings.TrimSpace(cell)
		if bareNumbers.MatchString(label) {
			return false
		}
		if f := r.fieldOf(label); f == nil || !slices.ContainsFunc(f.paths, isTime) {
			label = strings.TrimSpace(r.pending + " " + label)
			if f := r.fieldOf(label); f == nil || !slices.ContainsFunc(f.paths, isTime) {
				label = "" // of another field
			}
		}
		if label != "" {
			known++
		}
		heads = append(heads, label)
	}
	if 2*known <= len(heads) {
		return false
	}
	r.heads = heads
	return true
}

// placed is the head of a column that says what is limited: the material, the slab, the humidity or the air.
var placed = words(`^(?:(material|product|resin)|(surface|substrate|floor|slab|concrete|untergrund|soporte)|` +
	`((?:relative )?(?:humidity|rh\b|luftfeucht|humedad))|(ambient|air|luft|aire))`)

// limited reads a table whose columns are what is limited, and whose rows are the least and the most of it.
func (r *reader) limited(n int, l Line) bool {
	cells := l.Cells
	for len(cells) > 0 && strings.TrimSpace(cells[0]) == "" {
		cells = cells[1:]
	}
	if len(r.places) > 0 && len(cells) == len(r.places)+1 {
		end := map[bool]string{true: "Min"}[least.MatchString(cells[0])]
		if most.MatchString(cells[0]) {
			end = "Max"
		}
		for k, what := range r.places {
			want := temperature
			if what == "humidity" {
				want = share
			}
			if all := of(r.find(cells[k+1]), want); what != "" && end != "" && len(all) == 1 && !all[0].ranged {
				r.add(n, besides(draft.Value{Path: what + end, Value: all[0].low, As: all[0].text}, all[0]))
			}
		}
		return true
	}
	if len(cells) < 2 || len(r.find(l.Text)) > 0 {
		return false
	}
	places := make([]string, len(cells))
	known := 0
	for k, cell := range cells {
		for _, m := range placed.FindAllStringSubmatch(strings.TrimSpace(cell), -1) {
			for n, what := range []string{"material", "slab", "humidity", "air"} {
				if m[n+1] != "" {
					places[k] = what
				}
			}
			known++
		}
	}
	if known < 2 {
		return false
	}
	if places[0] == "" { // the first is above what the rows are called
		places = places[1:]
	}
	r.places = places
	return true
}

func isTime(path string) bool { return slices.Contains(draft.Times(), path) }

func (r *reader) fieldOf(label string) *field {
	for n := range r.fields {
		f := &r.fields[n]
		if f.label.MatchString(label) && (f.not == nil || !f.not.MatchString(label)) && !r.heavier(label) {
			return f
		}
	}
	return nil
}

// heavier reports whether a label says light traffic in a sheet that has another word for feet.
func (r *reader) heavier(label string) bool {
	return r.walked && words(`^light traffic`).MatchString(label)
}

// row reads a row of a table whose first cell is a temperature.
func (r *reader) row(n int, l Line) bool {
	cells := l.Cells
	for len(cells) > 0 && strings.TrimSpace(cells[0]) == "" {
		cells = cells[1:]
	}
	if len(cells) < 2 || r.columns != nil {
		return false
	}
	warm := r.find(cells[0])
	if len(warm) == 0 || warm[0].of != temperature || warm[0].ranged || !bare.MatchString(cells[0][:warm[0].from]) {
		return false
	}
	heads := r.heads
	if heads == nil && r.pending != "" && len(cells) == 2 {
		heads = []string{r.pending}
	}
	if len(heads) != len(cells)-1 {
		return false
	}
	was := r.section
	r.section = &warm[0].low
	for k, head := range heads {
		if f := r.fieldOf(head); f != nil {
			f.read(r, n, *f, head, cells[k+1])
		}
	}
	r.section = was
	return true
}

var bare = words(`^\s*(at|bei|a|@)?\s*[+~]?\s*$`)

// goesOn reports whether the next line with text is one more row, of some cells, of the table above an empty line.
func (r *reader) goesOn(n, cells int) bool {
	for _, l := range r.lines[n:] {
		if l.Text != "" {
			return len(l.Cells) == cells
		}
	}
	return false
}

// bounds reports whether a text says that a figure is the least or the most.
func bounds(text string) bool {
	for _, says := range []*regexp.Regexp{least, most, over, under, notMore, notLess} {
		if says.MatchString(text) {
			return true
		}
	}
	return false
}

// heading reports whether a line is a heading: it has temperatures and no other quantity.
func (r *reader) heading(l Line) bool {
	all := r.find(l.Text)
	warm := of(all, temperature)
	if len(warm) == 0 || len(warm)+len(of(all, share)) != len(all) || len(warm) < len(all) &&
		!overallAt.MatchString(l.Text) && !moist.MatchString(l.Text) || dewWords.MatchString(l.Text) {
		return false
	}
	var columns []float64
	for _, cell := range l.Cells {
		if own := r.find(cell); len(own) == 1 && own[0].of == temperature && !own[0].ranged &&
			bare.MatchString(cell[:own[0].from]) && twinned.ReplaceAllString(cell[own[0].to:], "") == "" {
			columns = append(columns, own[0].low)
		}
	}
	if len(columns) > 1 {
		r.columns = columns
		return true
	}
	if len(warm) > 1 || warm[0].ranged || colonAfter.MatchString(l.Text) || bounds(l.Text) {
		return false
	}
	if overallAt.MatchString(l.Text) {
		r.overall = &warm[0].low
		return true
	}
	label, _ := split(l)
	for _, f := range r.fields {
		if f.label.MatchString(label) {
			return false
		}
	}
	r.section = &warm[0].low
	if words(`\p{L}{4,}`).MatchString(l.Text[:warm[0].from] + l.Text[warm[0].to:]) {
		r.pending, r.alone = "", false // of something else than the heading above
	}
	return true
}
