// Package sheet reads a maker's data sheet: text in, a draft out, each value with the line it was
// read from. Nothing is invented: what the sheet does not state stays empty and is listed.
package sheet

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
	"sync"

	"nephelon/core/draft"
	"nephelon/core/sheet/lexicon"
)

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
	draft   draft.Draft
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

	hardeners       []hardener // those of the sheet, where it has several
	hardener        string     // the one of the lines below a heading, or of the cell that is read
	hardenerColumns []string   // those of the columns of a table
	hardenerRows    []string   // labels of the columns of a table whose rows are hardeners
}

// From reads a sheet.
func From(lines []Line) draft.Draft {
	r := reader{tables: compiled(), lines: lines, draft: draft.Draft{Format: draft.Format, Version: draft.Version,
		Values: []draft.Value{}, Missing: []string{}}}
	r.comma = continental(lines)
	r.single = slices.ContainsFunc(lines, func(l Line) bool { return onePart.MatchString(l.Text) })
	r.walked = slices.ContainsFunc(lines, func(l Line) bool { return words(`\b(foot|pedestrian|walk)`).MatchString(l.Text) })
	r.hardeners = hardenersOf(lines)
	r.head()
	for n := range lines {
		r.line(n)
	}
	r.weighBulks()
	r.ratioOfPacks()
	r.settleUses()
	r.draft.Values = draft.Settled(r.draft.Values, r.single)
	for _, f := range r.fields {
		for _, path := range f.paths {
			if !slices.Contains(r.draft.Missing, path) && !slices.ContainsFunc(r.draft.Values,
				func(v draft.Value) bool { return v.Path == path }) {
				r.draft.Missing = append(r.draft.Missing, path)
			}
		}
	}
	r.draft.Product = draft.ProductOf(r.draft.Values)
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

func (r *reader) add(n int, v draft.Value) {
	v.Line, v.Text = n+1, r.lines[n].Text
	v.State, v.Hardener = cmp.Or(v.State, draft.Read), r.hardener
	r.draft.Values = append(r.draft.Values, v)
}

// line reads one line: a heading with a temperature, the head of a table, or labels with values.
func (r *reader) line(n int) {
	l := r.lines[n]
	if l.Text == "" {
		if r.columns != nil && !r.goesOn(n, len(r.columns)+1) {
			r.columns = nil
		}
		r.section, r.pending, r.alone, r.heads, r.places, r.warns = nil, "", false, nil, nil, false
		r.hardener, r.hardenerRows = "", nil
		if r.hardenerColumns != nil && !r.goesOn(n, len(r.hardenerColumns)+1) {
			r.hardenerColumns = nil
		}
		return
	}
	for _, part := range sentences(l) {
		r.words(n, part.Text)
		r.broadcast(n, part.Text)
	}
	if r.cautioned(n, l) {
		return
	}
	if r.byHardener(n, l) || r.heading(l) || r.tabled(l) || r.row(n, l) || r.limited(n, l) {
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
		v := draft.Value{Path: w.path, Value: w.value(m), As: m[0]}
		if w.doubt != nil {
			v.Why = w.doubt(m)
		}
		if v.Why != "" {
			v.State = draft.Doubtful
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

// labelled reads what stands behind a label; false where the label is of no field. A label with nothing behind it is
// for the lines below.
func (r *reader) labelled(n int, label, rest string) bool {
	label = strings.TrimSpace(chapter.ReplaceAllString(bullet.ReplaceAllString(label, ""), "$1"))
	for _, f := range r.fields {
		m := f.label.FindStringIndex(label)
		if m == nil || r.heavier(label) || f.not != nil && f.not.MatchString(label) || r.means(f, rest) {
			continue
		}
		sentence := rest == "" && len(r.find(label)) > 0
		if rest == "" {
			rest = strings.TrimLeft(label[m[1]:], " :=,")
		}
		rest = r.besides(n, f, inUnit(label, rest))
		from := len(r.draft.Values)
		if !r.perHardener(n, f, label, rest) {
			f.read(r, n, f, label, rest)
		}
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

// means reports whether what stands behind a label is of another kind than that of its field.
func (r *reader) means(f field, rest string) bool {
	all := r.find(rest)
	return f.only != "" && len(all) > 0 && len(of(all, f.only)) == 0
}

var (
	bullet    = regexp.MustCompile(`^\s*[•·▪–*-]\s+`)
	chapter   = regexp.MustCompile(`^\s*[0-9]{1,2}\.(?:[0-9]+\.?)*\s+(\p{Lu}\p{L})`)
	clauses   = regexp.MustCompile(`[.;,]\s+`)
	sentenced = regexp.MustCompile(`\.\s+[A-ZÄÖÜ]`)
)

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
	thenDone   = words(`\s+(?:and|und|y|then)\s+((?:driven|walked|let|leave|allow|dejar|stir|mix|reaches|is|can|has|may|at|full)\b)`)
	dewBeside  = words(`(,|\s+(?:and|und|y))\s+((?:at least )?[0-9]+(?:[.,][0-9]+)? ?(?:K|deg\.? ?[CF]|°\s?[CF]?)(?: ?\([^)]*\))?[^.;,0-9]*` + lexicon.Labels().Any("dew") + `)`)
	dewWords   = words(lexicon.Labels().Any("dew"))
	overallAt  = regexp.MustCompile(`(?i)\b(all|data|values|times|figures)\b.*\b(at|bei)\b`)
	colonAfter = regexp.MustCompile(`^([^:(]{2,60}?(?:\([^)]*\)[^:(]{0,30}?)?)\s*:\s+(.*)$`)
)

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

// words returns an expression that ignores case.
func words(text string) *regexp.Regexp { return regexp.MustCompile(`(?i)` + text) }

// begins returns an expression that a label begins with.
func begins(text string) *regexp.Regexp { return words(`^(?:` + text + `)`) }
