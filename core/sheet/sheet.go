// Package sheet reads a maker's data sheet: text in, a draft out, each value with the line it was
// read from. Nothing is invented: what the sheet does not state stays empty and is listed.
package sheet

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
	"sync"
)

// State says how sure a value is.
type State string

// The states of a value.
const (
	Read     State = "read"
	Derived  State = "derived"  // from other values, as its reason says
	Doubtful State = "doubtful" // a person has to look at it
)

// Values lists the states of a value.
func (State) Values() []State { return []State{Read, Derived, Doubtful} }

// Value is one value of a draft.
type Value struct {
	Path  string   `json:"path" doc:"Place in the shelf's data sheet, such as recoatFrom"`
	Value any      `json:"value" doc:"Value in the shelf's form, SI"`
	At    *float64 `json:"at,omitempty" doc:"°C it holds at"`
	As    string   `json:"as" doc:"As the sheet writes it"`
	Line  int      `json:"line" doc:"Number of the line, from 1"`
	Text  string   `json:"text" doc:"The line"`
	State State    `json:"state"`
	Why   string   `json:"why,omitempty" doc:"Why it is doubtful, or what it was derived from"`
}

// Draft holds what was read from a sheet.
type Draft struct {
	Format  string         `json:"format"`
	Version int            `json:"version"`
	Values  []Value        `json:"values" doc:"Values in the order of the sheet"`
	Missing []string       `json:"missing" doc:"Fields of which the sheet says nothing"`
	Product map[string]any `json:"product" doc:"The values in the shape of the shelf; what is not stated is left out"`
}

// Format and Version name the form of a draft.
const (
	Format  = "nephelon-draft"
	Version = 1
)

// shelfFile names the form of a shelf file, as package exchange reads it.
const shelfFile = "nephelon-shelf"

// Shelf returns what was read as a shelf file. What the shelf cannot do without and the sheet does not
// state is missing in it: it has to be entered before it is taken.
func (d Draft) Shelf() map[string]any {
	product := map[string]any{"id": slug(d.Product["name"]), "color": "#8fa3a0"}
	for name, value := range d.Product {
		product[name] = value
	}
	return map[string]any{"format": shelfFile, "version": 1, "products": []any{product}, "media": []any{}}
}

// slug returns a name as an id of the shelf.
func slug(name any) string {
	text, _ := name.(string)
	words := regexp.MustCompile(`[a-z0-9]+`).FindAllString(strings.ToLower(text), -1)
	const longest = 60
	id := strings.Join(words, "-")
	return cmp.Or(id[:min(len(id), longest)], "sheet")
}

// Line is a line of a sheet, divided where it has tabs or wide gaps.
type Line struct {
	Text  string
	Cells []string
}

// Lines divides a text into lines and their cells.
func Lines(text string) []Line {
	gap := regexp.MustCompile(`\t|\s{2,}`)
	var all []Line
	for _, l := range strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n") {
		l = strings.ReplaceAll(strings.ReplaceAll(l, "\u00a0", " "), "\u202f", " ")
		cells := gap.Split(strings.TrimRight(l, " \t"), -1)
		all = append(all, Line{strings.Join(strings.Fields(l), " "), cells})
	}
	return all
}

// tables holds what every reading needs: it is compiled once.
type tables struct {
	grammar
	fields []field
	words  []wordField
}

var compiled = sync.OnceValue(func() tables { return tables{newGrammar(), fields(), wordFields()} })

// reader holds what is known while the lines of a sheet are read.
type reader struct {
	tables
	lines   []Line
	draft   Draft
	section *float64  // °C of the lines below a heading
	columns []float64 // °C of the columns of a table
	overall *float64  // °C of all data, where the sheet says so
}

// From reads a sheet.
func From(lines []Line) Draft {
	r := reader{tables: compiled(), lines: lines, draft: Draft{Format: Format, Version: Version,
		Values: []Value{}, Missing: []string{}}}
	r.head()
	for n := range lines {
		r.line(n)
	}
	r.settle()
	for _, f := range r.fields {
		for _, path := range f.paths {
			if !slices.Contains(r.draft.Missing, path) && !slices.ContainsFunc(r.draft.Values,
				func(v Value) bool { return v.Path == path }) {
				r.draft.Missing = append(r.draft.Missing, path)
			}
		}
	}
	r.draft.Product = r.product()
	return r.draft
}

func (r *reader) add(n int, v Value) {
	v.Line, v.Text = n+1, r.lines[n].Text
	v.State = cmp.Or(v.State, Read)
	r.draft.Values = append(r.draft.Values, v)
}

// line reads one line: a heading with a temperature, the head of a table, or labels with values.
func (r *reader) line(n int) {
	l := r.lines[n]
	if l.Text == "" {
		if r.columns != nil && !r.goesOn(n) {
			r.columns = nil
		}
		r.section = nil
		return
	}
	for _, w := range r.words {
		if m := w.found.FindStringSubmatch(l.Text); m != nil && (w.not == nil || !w.not.MatchString(l.Text)) {
			r.add(n, Value{Path: w.path, Value: w.value(m), As: m[0]})
		}
	}
	if r.heading(l) {
		return
	}
	label, rest := split(l)
	for _, f := range r.fields {
		m := f.label.FindStringIndex(label)
		if m == nil || f.not != nil && f.not.MatchString(label) {
			continue
		}
		if rest == "" {
			rest = strings.TrimLeft(label[m[1]:], " :=,")
		}
		f.read(r, n, f, label, rest)
		return
	}
}

// goesOn reports whether the next line with text is one more row of the table above an empty line.
func (r *reader) goesOn(n int) bool {
	for _, l := range r.lines[n:] {
		if l.Text != "" {
			return len(l.Cells) == len(r.columns)+1
		}
	}
	return false
}

var (
	overallAt  = regexp.MustCompile(`(?i)\b(all|data|values|times|figures)\b.*\b(at|bei)\b`)
	colonAfter = regexp.MustCompile(`^([^:]{2,60}?)\s*:\s+(.*)$`)
)

// heading reports whether a line is a heading: it has temperatures and no other quantity.
func (r *reader) heading(l Line) bool {
	all := r.find(l.Text)
	warm := of(all, temperature)
	if len(warm) == 0 || len(warm) != len(all) {
		return false
	}
	var columns []float64
	for _, cell := range l.Cells {
		if own := r.find(cell); len(own) == 1 && own[0].of == temperature && !own[0].ranged &&
			strings.TrimSpace(cell) == strings.TrimSpace(own[0].text) {
			columns = append(columns, own[0].low)
		}
	}
	if len(columns) > 1 {
		r.columns = columns
		return true
	}
	if len(warm) > 1 || warm[0].ranged || colonAfter.MatchString(l.Text) {
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
	return true
}

// split divides a line into its label and what stands after it.
func split(l Line) (label, rest string) {
	celled := len(l.Cells) > 1 && strings.TrimSpace(l.Cells[0]) != ""
	if m := colonAfter.FindStringSubmatch(l.Text); m != nil && !(celled && !strings.Contains(l.Cells[0], ":")) {
		return m[1], m[2]
	}
	if celled {
		return strings.TrimSpace(l.Cells[0]), strings.Join(l.Cells[1:], "  ")
	}
	return l.Text, ""
}
