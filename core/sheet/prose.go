package sheet

import (
	"regexp"
	"slices"
	"strings"
)

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
	var fields []*field
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
			said, fields = append(said, clause), append(fields, f)
		case len(said) == 0:
			lead = clause
		case goesWith(fields[len(fields)-1], r.find(clause), clause):
			said[len(said)-1] += ", " + clause
		}
	}
	was := r.section
	timed := lead // what has the temperature of the times, and not of where it is laid
	for k, clause := range said {
		if slices.Contains(fields[k].wants, span) {
			timed += "; " + clause
		}
	}
	if warm := of(r.find(timed), temperature); len(warm) == 1 && !warm[0].ranged {
		r.section = &warm[0].low
	}
	for k, clause := range said {
		label, rest := clause, clause
		if all := r.find(clause); len(all) > 0 {
			at := len(ranging.ReplaceAllString(clause[:all[0].from], ""))
			label, rest = strings.TrimSpace(clause[:at]), clause[at:]
		}
		fields[k].read(r, n, *fields[k], label, rest)
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

// apart divides a text into clauses.
func apart(text string) []string {
	text = andThe.ReplaceAllString(text, "$1, ")
	text = dewBeside.ReplaceAllString(shortened.ReplaceAllString(text, "$1 "), ", $2")
	const unsplit = "\x00"
	text = thenDone.ReplaceAllString(text, ", $1")
	for _, unit := range []string{"sq. ft", "ft. per"} { // their full stops end no sentence
		text = strings.ReplaceAll(text, unit, strings.ReplaceAll(unit, " ", unsplit))
	}
	all := clauses.Split(text, -1)
	for n := range all {
		all[n] = strings.ReplaceAll(all[n], unsplit, " ")
	}
	return all
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
