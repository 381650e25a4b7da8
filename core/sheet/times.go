package sheet

import (
	"cmp"
	"slices"
	"strings"

	"nephelon/core/draft"
)

// timeAt reads times with the temperature that they hold at. What runs out takes the shorter of a
// range, what is waited for the longer.
func timeAt(path string, runsOut bool) func(*reader, int, field, string, string) {
	return func(r *reader, n int, _ field, label, rest string) {
		for _, t := range r.times(n, label, rest) {
			v := draft.Value{Path: path, Value: t.high, As: t.text, At: t.at}
			if runsOut {
				v.Value = t.low
			}
			if t.ranged {
				v.State, v.Why = draft.Doubtful, "the sheet gives a range; the careful end is taken"
			}
			if t.at == nil {
				v.State, v.Why = draft.Doubtful, "the sheet does not say at which temperature"
			}
			r.add(n, besides(v, t.amount))
		}
	}
}

// recoat reads one end of a recoat window, or both where the line has both.
func recoat(path string, runsOut bool) func(*reader, int, field, string, string) {
	return func(r *reader, n int, f field, label, rest string) {
		said := rest
		if len(of(r.find(label), span)) > 0 {
			said = label // there is no label, but a sentence
		}
		if all := of(r.find(said), span); r.columns == nil && len(all) == 1 && all[0].ranged && runsOut &&
			words(`\b(within|zwischen|entre)\b[^0-9]*$`).MatchString(strings.TrimSuffix(label, said)+" "+said[:all[0].from]) {
			window(r, n, f, strings.TrimSuffix(label, said), said) // within 4 to 10 h is from the one until the other
			return
		}
		if r.columns == nil && len(of(r.find(said), span)) > 1 && len(of(r.find(said), temperature)) < 2 {
			window(r, n, f, strings.TrimSuffix(label, said), said)
			return
		}
		timeAt(path, runsOut)(r, n, f, label, rest)
	}
}

// timed is a time with the temperature it holds at.
type timed struct {
	amount
	at *float64
}

// times returns the times of a line, each with its temperature: beside it, of its column, of the
// heading above, or of all data.
func (r *reader) times(n int, label, rest string) []timed {
	found := spansAt(r.find(rest))
	if len(found) == 0 {
		return nil
	}
	if len(r.columns) == len(found) {
		for k := range found {
			found[k].at = &r.columns[k]
		}
		return found
	}
	if len(found) > 1 && (found[0].at == nil || found[1].at == nil) {
		return nil // which of them holds where is not said
	}
	own := of(r.find(label+" "+rest), temperature)
	for k := range found {
		switch {
		case found[k].at != nil:
		case len(own) == 1 && !own[0].ranged:
			found[k].at = &own[0].low
		case r.section != nil:
			found[k].at = r.section
		case r.overall != nil:
			found[k].at = r.overall
		}
	}
	if len(found) > 1 && found[0].at != nil && found[1].at != nil && *found[0].at == *found[1].at {
		found = found[:1] // the second is said of something else
	}
	return found
}

// spansAt returns times with the temperature beside each.
func spansAt(all []amount) []timed {
	var found []timed
	leads := warmFirst(all)
	for k, a := range all {
		if a.of != span {
			continue
		}
		t := timed{a, nil}
		switch {
		case leads:
			t.at = &all[k-1].low
		case k+1 < len(all) && all[k+1].of == temperature:
			t.at = &all[k+1].low
		case k > 0 && all[k-1].of == temperature && (k < 2 || all[k-2].of != span):
			t.at = &all[k-1].low
		}
		found = append(found, t)
	}
	return found
}

// warmFirst reports whether each time stands behind the temperature that it holds at: 10 °C: 60 min, 20 °C: 30 min.
func warmFirst(all []amount) bool {
	for k, a := range all {
		if k%2 == 0 && (a.of != temperature || a.ranged) || k%2 == 1 && a.of != span {
			return false
		}
	}
	return len(all) > 0 && len(all)%2 == 0
}

// weighBulks gives pot lives of a volume their mass, where the sheet states the density of the mix: the shelf keeps
// them by mass.
func (r *reader) weighBulks() {
	heavy := 0.0
	for _, v := range r.draft.Values {
		if v.Path == "density" && v.State == draft.Read && heavy == 0 {
			heavy, _ = v.Value.(float64)
		}
	}
	for n := range r.draft.Values {
		v := &r.draft.Values[n]
		life, _ := v.Value.(map[string]any)
		bulk, is := life[bulkOf].(amount)
		if v.Path != "potLife" || !is {
			continue
		}
		delete(life, bulkOf)
		if heavy == 0 {
			continue
		}
		life["mass"] = bulk.low * heavy
		if v.State == draft.Read {
			v.State, v.Why = draft.Derived, "the mass of "+bulk.text+" by the density of the mix"
		}
	}
}

// bulkOf names the volume of a pot life until the density of the mix is known.
const bulkOf = "bulk"

func potLife(r *reader, n int, _ field, label, rest string) {
	batch := of(r.find(label+" "+rest), mass)
	for _, t := range r.times(n, label, rest) {
		v := draft.Value{Path: "potLife", Value: map[string]any{"lasts": t.low}, As: t.text, At: t.at}
		if len(batch) == 1 {
			v.Value.(map[string]any)["mass"] = batch[0].low
		} else if bulk := of(r.find(label+" "+rest), volume); len(bulk) == 1 && len(batch) == 0 {
			v.Value.(map[string]any)[bulkOf] = bulk[0]
		}
		if t.ranged {
			v.State, v.Why = draft.Doubtful, "the sheet gives a range; the shorter is taken"
		}
		if t.at == nil {
			v.State, v.Why = draft.Doubtful, "the sheet does not say at which temperature"
		}
		r.add(n, v)
	}
}

// What stands behind a figure and says that it is the least, or the most.
var (
	leastAfter = words(`^\s*\(?(min|mín)`)
	mostAfter  = words(`^\s*\(?(max|máx)`)
)

// inOrder are labels of which the first figure is the least, and the second the most.
var inOrder = words(`min\w*\.?\W+(and |und )?max`)

var (
	soonest = words(`\b(after|from|min(imum|\.)?|earliest|nach|ab|frühestens|not before|desde|mínimo|mín\.)[^0-9\p{L}]*[^0-9]*$`)
	latest  = words(`(\b(until|within|before|max(imum|\.)?|(at the )?latest|not? later( than)?|up to|bis|` +
		`spätestens( nach)?|hasta)\b|máx)[^0-9]*$`)
)

// window reads a recoat window that stands in one line: as a range, or as least and most.
func window(r *reader, n int, f field, label, rest string) {
	all := r.times(n, label, rest)
	if len(all) > 0 && !slices.ContainsFunc(all, func(t timed) bool { return !t.ranged || len(all) > 1 && t.at == nil }) {
		if len(all) == 1 && soonest.MatchString(label+" "+rest[:all[0].from]) { // how long it waits, not until when
			timeAt("recoatFrom", false)(r, n, f, label, rest)
			return
		}
		for _, t := range all {
			from := draft.Value{Path: "recoatFrom", Value: t.low, As: t.text, At: t.at}
			if t.at == nil {
				from.State, from.Why = draft.Doubtful, "the sheet does not say at which temperature"
			}
			until := from
			until.Path, until.Value = "recoatUntil", t.high
			r.add(n, from)
			r.add(n, until)
		}
		return
	}
	said := label + "  " + rest
	warm := of(r.find(said), temperature)
	at := cmp.Or(r.section, r.overall)
	if len(warm) == 1 && !warm[0].ranged {
		at = &warm[0].low
	}
	spans := of(r.find(said), span)
	from := 0
	for k, a := range spans {
		before := said[from:a.from]
		until := len(said)
		if k+1 < len(spans) {
			until = spans[k+1].from
		}
		after := said[a.to:until]
		from = a.to
		v := draft.Value{Value: a.low, As: a.text, At: at}
		switch {
		case a.ranged || len(warm) > 1:
			continue
		case len(spans) == 2 && inOrder.MatchString(label):
			v.Path = []string{"recoatFrom", "recoatUntil"}[k]
		case leastAfter.MatchString(after):
			v.Path = "recoatFrom"
		case mostAfter.MatchString(after):
			v.Path = "recoatUntil"
		case latest.MatchString(before):
			v.Path = "recoatUntil"
		case soonest.MatchString(before), k == 0 && len(spans) == 2: // the other one is named
			v.Path = "recoatFrom"
		case len(spans) == 1:
			v.Path, v.State, v.Why = "recoatFrom", draft.Doubtful, "the sheet does not say whether from or until"
		default:
			continue
		}
		if at == nil {
			v.State, v.Why = draft.Doubtful, "the sheet does not say at which temperature"
		}
		r.add(n, v)
	}
}
