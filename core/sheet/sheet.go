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
	framed := regexp.MustCompile(`^\s*\|\s*|\s*\|\s*$`)
	leader := regexp.MustCompile(`\s?(?:\.{3,}|…+|_{3,})\s?|\s\|\s`)
	for _, l := range short(strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n")) {
		l = strings.ReplaceAll(strings.ReplaceAll(l, "\u00a0", " "), "\u202f", " ")
		cells := gap.Split(leader.ReplaceAllString(framed.ReplaceAllString(strings.TrimRight(l, " \t"), ""), "\t"), -1)
		if len(cells) > 1 && numbered.MatchString(cells[0]) { // the number of a chapter
			cells = cells[1:]
			l = strings.Join(cells, "  ")
		}
		all = append(all, Line{strings.Join(strings.Fields(l), " "), cells})
	}
	return all
}

// short divides lines that are longer than any of a sheet, after a sentence where there is one.
func short(lines []string) []string {
	const longest = 1200 // bytes
	var all []string
	for _, l := range lines {
		for len(l) > longest {
			at := strings.LastIndex(l[:longest], ". ") + 1
			if at <= 0 {
				at = strings.LastIndex(l[:longest], " ")
			}
			if at <= 0 {
				at = longest
			}
			all, l = append(all, l[:at]), l[at:]
		}
		all = append(all, l)
	}
	return all
}

var numbered = regexp.MustCompile(`^\s*[0-9]{1,2}(\.[0-9]{1,2})*\.?$`)

// Corrected returns lines with those that a person wrote anew, by their numbers from 1.
func Corrected(lines []Line, anew map[int]string) []Line {
	out := slices.Clone(lines)
	for n, text := range anew {
		if n >= 1 && n <= len(out) {
			out[n-1] = Lines(strings.ReplaceAll(text, "\n", " "))[0]
		}
	}
	return out
}

// tables holds what every reading needs: it is compiled once.
type tables struct {
	grammar
	fields     []field
	wordFields []wordField
}

var compiled = sync.OnceValue(func() tables { return tables{newGrammar(), fields(), wordFields()} })

// reader holds what is known while the lines of a sheet are read.
type reader struct {
	tables
	lines   []Line
	draft   Draft
	pending string            // the label above, for what continues it
	alone   bool              // nothing stood beside it: it is for all lines below
	heads   []string          // labels of the columns of a table whose rows are temperatures
	section *float64          // °C of the lines below a heading
	columns []float64         // °C of the columns of a table
	overall *float64          // °C of all data, where the sheet says so
	places  []string          // paths of the columns of a table whose rows are least and most
	uses    []forUse          // amounts for certain uses
	single  bool              // it has one part
	walked  bool              // the sheet says when it is walked on
	packed  map[string]packed // what a kit holds of each part
	warns   bool              // the lines below a heading say what can hurt
}

// From reads a sheet.
func From(lines []Line) Draft {
	r := reader{tables: compiled(), lines: lines, draft: Draft{Format: Format, Version: Version,
		Values: []Value{}, Missing: []string{}}}
	r.comma = continental(lines)
	r.single = slices.ContainsFunc(lines, func(l Line) bool { return onePart.MatchString(l.Text) })
	r.walked = slices.ContainsFunc(lines, func(l Line) bool { return words(`\b(foot|pedestrian|walk)`).MatchString(l.Text) })
	r.head()
	for n := range lines {
		r.line(n)
	}
	r.ratioOfPacks()
	r.settleUses()
	r.settle()
	for _, f := range r.fields {
		for _, path := range f.paths {
			if !slices.Contains(r.draft.Missing, path) && !slices.ContainsFunc(r.draft.Values,
				func(v Value) bool { return v.Path == path }) {
				r.draft.Missing = append(r.draft.Missing, path)
			}
		}
	}
	r.draft.Product = productOf(r.draft.Values)
	return r.draft
}

var (
	decimalComma = regexp.MustCompile(`[0-9],[0-9]{1,2}\s?(?:kg|g|[lL]|m²|mm|%|h|°)`)
	decimalPoint = regexp.MustCompile(`[0-9]\.[0-9]{1,2}\s?(?:kg|g|[lL]|m²|mm|%|h|°)`)
)

// continental reports whether a sheet writes decimals after a comma and never after a point.
func continental(lines []Line) bool {
	comma := false
	for _, l := range lines {
		if decimalPoint.MatchString(l.Text) {
			return false
		}
		comma = comma || decimalComma.MatchString(l.Text)
	}
	return comma
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
		r.section, r.pending, r.alone, r.heads, r.places, r.warns = nil, "", false, nil, nil, false
		return
	}
	for _, part := range sentences(l) {
		r.words(n, part.Text)
	}
	if r.cautioned(n, l) {
		return
	}
	if r.heading(l) || r.tabled(l) || r.row(n, l) || r.limited(n, l) {
		return
	}
	for _, part := range sentences(l) {
		r.part(n, part)
	}
}

// words reads what stands in words anywhere in a sentence.
func (r *reader) words(n int, text string) {
	for _, w := range r.wordFields {
		m := w.found.FindStringSubmatch(text)
		if m == nil || w.not != nil && w.not.MatchString(text) {
			continue
		}
		v := Value{Path: w.path, Value: w.value(m), As: m[0]}
		if w.doubt != nil {
			v.Why = w.doubt(m)
		}
		if v.Why != "" {
			v.State = Doubtful
		}
		r.add(n, v)
	}
}

// part reads a line, or a sentence of one: by its label, by that of the line above, or clause by clause.
func (r *reader) part(n int, l Line) {
	indented := len(l.Cells) > 1 && strings.TrimSpace(l.Cells[0]) == ""
	if indented {
		l.Cells = l.Cells[1:]
	}
	pending, alone := r.pending, r.alone
	label, rest := split(l)
	if r.heavier(label) {
		return
	}
	if r.labelled(n, label, rest) {
		if indented && alone {
			r.pending, r.alone = pending, alone // goes on for the lines below
		}
		return
	}
	if indented && pending != "" && r.labelled(n, pending+" "+label, rest) {
		r.pending, r.alone = pending, alone
		return
	}
	if all := r.find(rest); len(l.Cells) > 1 && useOf(label) != "" && len(of(all, spread))+len(of(all, perArea)) > 0 {
		printed(r, n, field{}, label, rest)
		r.pending, r.alone = pending, alone
		return
	}
	if r.prose(n, l.Text) {
		return
	}
	if asks.MatchString(l.Text) && len(r.find(l.Text)) == 0 {
		for _, f := range r.fields {
			if f.inside != nil && f.inside.MatchString(l.Text) {
				r.pending, r.alone = strings.TrimLeft(f.inside.FindString(l.Text), " "), true
				return
			}
		}
	}
	if alone && len(r.find(l.Text)) > 0 && r.labelled(n, pending+" "+label, cmp.Or(rest, label)) {
		r.pending, r.alone = pending, alone // a heading is for all lines below it
	}
}

// prose reads running text by its clauses: one that names no field belongs to the one before it, and a temperature
// before all of them holds for each. False where it names no field.
func (r *reader) prose(n int, text string) bool {
	found := false
	said := "" // what the part before it says when
	for _, sentence := range parts.Split(text, -1) {
		if f := r.mentioned(sentence); f != nil {
			said = f.clause.FindString(sentence)
		} else if goesOn.MatchString(sentence) && warmFirst(r.find(sentence)) {
			sentence = said + " " + sentence
		}
		found = r.sentence(n, sentence) || found
	}
	return found
}

// sentence reads a part of running text by its clauses. The one temperature that it has is that of all its times, and
// what it forbids it forbids in each clause.
func (r *reader) sentence(n int, text string) bool {
	var said []string
	var of []*field
	lead := ""
	forbidden := false
	for _, clause := range apart(text) {
		if forbidden && orElse.MatchString(clause) {
			clause = "do not apply, " + clause
		}
		forbidden = forbidden || forbids.MatchString(clause)
		f := r.mentioned(clause)
		if f == nil {
			_, after, labelled := strings.Cut(clause, ": ")
			if f = r.mentioned(after); labelled && f != nil {
				clause = after
			}
		}
		switch {
		case f != nil:
			said, of = append(said, clause), append(of, f)
		case len(said) == 0:
			lead = clause
		case goesWith(of[len(of)-1], r.find(clause), clause):
			said[len(said)-1] += ", " + clause
		}
	}
	was := r.section
	if warm := temperatures(r.find(text)); len(warm) == 1 && !warm[0].ranged {
		r.section = &warm[0].low
	}
	for k, clause := range said {
		label, rest := clause, clause
		if all := r.find(clause); len(all) > 0 {
			at := len(ranging.ReplaceAllString(clause[:all[0].from], ""))
			label, rest = strings.TrimSpace(clause[:at]), clause[at:]
		}
		of[k].read(r, n, *of[k], label, rest)
	}
	if len(said) > 0 && lead != "" && r.alone && len(r.find(lead)) > 0 && r.section == was {
		pending := r.pending
		r.labelled(n, pending+" "+lead, lead)
		r.pending, r.alone = pending, true
	}
	r.section = was
	return len(said) > 0
}

// goesWith reports whether a clause that names no field goes on with what the one before it says: another time is of
// something else, unless the clause has no more than it.
func goesWith(f *field, all []amount, clause string) bool {
	return len(of(all, span)) == 0 || !slices.Contains(f.wants, span) || slices.Contains(f.paths, "recoatFrom") ||
		len(f.paths) == 0 || goesOn.MatchString(clause)
}

func temperatures(all []amount) []amount { return of(all, temperature) }

// apart divides a text into clauses.
func apart(text string) []string {
	text = andThe.ReplaceAllString(text, "$1, ")
	text = dewBeside.ReplaceAllString(shortened.ReplaceAllString(text, "$1 "), ", $2")
	return clauses.Split(thenDone.ReplaceAllString(text, ", $1"), -1)
}

// mentioned returns the field that a clause names and has a quantity for, or nil.
func (r *reader) mentioned(clause string) *field {
	all := r.find(clause)
	for n := range r.fields {
		f := &r.fields[n]
		if f.clause == nil || !f.clause.MatchString(clause) || r.heavier(clause) ||
			f.not != nil && f.not.MatchString(clause) {
			continue
		}
		if len(f.wants) == 0 || slices.ContainsFunc(all, func(a amount) bool { return slices.Contains(f.wants, a.of) }) {
			return f
		}
	}
	return nil
}

// labelled reads what stands behind a label; false where the label is of no field. A label with nothing behind it is
// for the lines below.
func (r *reader) labelled(n int, label, rest string) bool {
	label = strings.TrimSpace(chapter.ReplaceAllString(bullet.ReplaceAllString(label, ""), "$1"))
	for _, f := range r.fields {
		m := f.label.FindStringIndex(label)
		if m == nil || r.heavier(label) || f.not != nil && f.not.MatchString(label) {
			continue
		}
		sentence := rest == "" && len(r.find(label)) > 0
		if rest == "" {
			rest = strings.TrimLeft(label[m[1]:], " :=,")
		}
		rest = r.besides(n, f, inUnit(label, rest))
		from := len(r.draft.Values)
		f.read(r, n, f, label, rest)
		for k := from; k < len(r.draft.Values); k++ { // the unit stands in the label
			if v := &r.draft.Values[k]; !strings.Contains(v.Text, v.As) {
				v.As = lastWordOf.ReplaceAllString(v.As, "")
			}
		}
		if !sentence || !r.alone { // what stands below a sentence is of the heading above it
			r.pending, r.alone = label, len(r.find(rest)) == 0 || len(of(r.find(rest), mass)) == len(r.find(rest))
		}
		return true
	}
	return false
}

// inUnit returns what stands behind a label with the unit that the label names: Pot life (min)  40  25  15.
func inUnit(label, rest string) string {
	m := unitOf.FindStringSubmatch(label)
	if m == nil || !bareNumbers.MatchString(rest) {
		return rest
	}
	return bareNumber.ReplaceAllString(rest, "$0 "+m[1])
}

var (
	unitOf      = words(`[(\[,] ?(min|minutes|h|hrs?|hours|std|d|days|tage|µm|mils?|°C|°F|%|kg/l|g/l)\.?[)\]]?$`)
	lastWordOf  = regexp.MustCompile(`\s\S+$`)
	bareNumbers = regexp.MustCompile(`^[\s0-9.,–/-]+$`)
	bareNumber  = regexp.MustCompile(`[0-9]+(?:[.,][0-9]+)?(?:\s?[–-]\s?[0-9]+(?:[.,][0-9]+)?)?`)
)

// besides reads the clauses behind a label that name another field, and returns the rest.
func (r *reader) besides(n int, f field, rest string) string {
	if r.columns != nil || f.label.String() == "" {
		return rest
	}
	all := apart(rest)
	own := all[:1]
	for _, clause := range all[1:] {
		other := r.mentioned(clause)
		content := slices.Contains(f.paths, "voc") && len(of(r.find(clause), density)) > 0 // thinned, it holds more
		if other == nil || content || slices.Equal(other.paths, f.paths) || slices.Contains(other.paths, "filmMin") {
			own = append(own, clause)
			continue
		}
		r.prose(n, clause)
	}
	if len(own) == len(all) {
		return rest
	}
	return strings.Join(own, ", ")
}

var (
	bullet    = regexp.MustCompile(`^\s*[•·▪–*-]\s+`)
	chapter   = regexp.MustCompile(`^\s*[0-9]{1,2}\.(?:[0-9]+\.?)*\s+(\p{Lu}\p{L})`)
	clauses   = regexp.MustCompile(`[.;,]\s+`)
	sentenced = regexp.MustCompile(`\.\s+[A-ZÄÖÜ]`)
)

// sentences divides a line of text into its sentences; a line of a table stays as it is.
func sentences(l Line) []Line {
	at := sentenced.FindAllStringIndex(l.Text, -1)
	if len(l.Cells) > 1 || len(at) == 0 {
		return []Line{l}
	}
	var all []Line
	from := 0
	for _, m := range append(at, []int{len(l.Text), len(l.Text) + 1}) {
		text := strings.TrimSpace(l.Text[from:min(m[0]+1, len(l.Text))])
		all = append(all, Line{text, []string{text}})
		from = m[1] - 1
	}
	return all
}

// timesOf are the fields that a column of a table may hold, beside temperatures down its side.
var timesOf = []string{"potLife", "working", "tackFree", "recoatFrom", "recoatUntil", "foot", "vehicle",
	"water", "full"}

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
				r.add(n, Value{Path: what + end, Value: all[0].low, As: all[0].text}.besides(all[0]))
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

func isTime(path string) bool { return slices.Contains(timesOf, path) }

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
	moist      = words(`°?\s?[CF]\b.{1,9}[0-9]+ ?% ?(r\.?h\b|r\.? ?f\b|(relative |air )?humidity|luftf|h\.?r\b)`)
	parts      = regexp.MustCompile(`;\s+`)
	orElse     = words(`^(or|nor|and|oder|und|ni|o)\b`)
	ranging    = words(`\b(between|zwischen|entre|from|von|de)\s+\+?$`)
	goesOn     = words(`^(\(?[0-9]|(at|bei|a|about|and|but|before|within|not? later|bis|und|y|ca|approx)\b)`)
	onePart    = words(`\b(single|one)[- ](component|pack)\b|\bsingle[- ]part\b|\b1-?[KC]\b|einkomponent|monocomponente`)
	twinned    = regexp.MustCompile(`^\s*(?:[/(=]\s*[-+]?[0-9.,]+ ?°?\s?[CF]\)?)?\s*$`)
	asks       = regexp.MustCompile(`\?\s*$`)
	shortened  = words(`\b(ca|approx|min|mind|max|temp|rel|std|vol|wt|no|incl)\.\s`)
	andThe     = words(`([0-9°%][^.;,]*)\s+and the\s+`)
	thenDone   = words(`\s+(?:and|und|y|then)\s+((?:let|leave|allow|dejar|stir|mix|reaches|is|can|has|may|at|full)\b)`)
	dewBeside  = words(`\s+(and|und|y)\s+((?:at least )?[0-9]+(?:[.,][0-9]+)? ?(?:K|°\s?[CF]?)(?: ?\([^)]*\))?[^.;,0-9]*` + labels().any("dew") + `)`)
	dewWords   = words(labels().any("dew"))
	overallAt  = regexp.MustCompile(`(?i)\b(all|data|values|times|figures)\b.*\b(at|bei)\b`)
	colonAfter = regexp.MustCompile(`^([^:(]{2,60}?(?:\([^)]*\)[^:(]{0,30}?)?)\s*:\s+(.*)$`)
)

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
	if len(warm) > 1 || warm[0].ranged || colonAfter.MatchString(l.Text) || least.MatchString(l.Text) ||
		most.MatchString(l.Text) {
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

var counted = regexp.MustCompile(`[0-9]\s*$`) // 2 : 1 is a ratio, and no label

// split divides a line into its label and what stands after it.
func split(l Line) (label, rest string) {
	celled := len(l.Cells) > 1 && strings.TrimSpace(l.Cells[0]) != ""
	own := celled && !strings.HasSuffix(strings.TrimSpace(l.Cells[0]), ":") // a cell of its own is the label
	if m := colonAfter.FindStringSubmatch(l.Text); m != nil && !own && !counted.MatchString(m[1]) {
		return m[1], m[2]
	}
	if celled {
		return strings.TrimSpace(l.Cells[0]), strings.Join(l.Cells[1:], "  ")
	}
	return l.Text, ""
}
