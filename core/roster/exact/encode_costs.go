package exact

import (
	"nephelon/core/roster"
	"nephelon/core/roster/lcg"
)

// costs are the parts of what a schedule costs; false where they are too great to count.
func (e *Encoded) costs(known *roster.Cost) bool {
	s := e.S
	total := func(part int, most int64, of []lcg.Part) {
		if known != nil {
			most = known[part]
			for p := range part {
				if known[p] > 0 {
					most = MostCost // it may cost more where what is weightier costs less
				}
			}
		}
		e.Parts[part] = s.Number(0, int32(min(most, MostCost)))
		if len(of) > 0 {
			s.Sum(e.Parts[part], of)
		}
	}
	late := make([]lcg.Part, 0, len(e.Jobs))
	worst := int64(0)
	tardy := make([]lcg.Term, len(e.Jobs))
	for j, job := range e.Jobs {
		if job.Due != nil {
			most := max(0, e.Horizon-*job.Due)
			tardy[j] = s.Number(0, int32(most))
			late = append(late, lcg.Part{Term: tardy[j], Times: int32(e.Weights[j])})
			worst += int64(most) * e.Weights[j]
		}
	}
	for i := range e.Tasks {
		job := e.Tasks[i].Job
		if due := e.Jobs[job].Due; due != nil {
			s.Apart(lcg.True(), e.end[i].Plus(-int32(*due)), tardy[job])
		}
	}
	if worst > MostCost && (known == nil || known[roster.Late] > MostCost) {
		return false
	}
	total(roster.Late, worst, late)
	var buys, over []lcg.Part
	one := func(a lcg.Atom) lcg.Part { return lcg.Part{Term: e.count(a), Times: 1} }
	for _, a := range e.bought {
		buys = append(buys, one(a))
	}
	total(roster.Bought, int64(len(buys)), buys)
	for i := range e.Tasks {
		for n, w := range e.ways[i] {
			if w.over > 0 {
				over = append(over, lcg.Part{Term: e.count(e.done[i][n]), Times: int32(w.over)})
			}
		}
	}
	total(roster.Overtime, MostCost, over)
	ways, ok := e.travels()
	if !ok {
		return false
	}
	moved, most := e.moves()
	total(roster.Moves, most, moved)
	total(roster.Moving, MostCost, ways)
	if len(e.perCrew) > 0 {
		s.Sum(e.Parts[roster.Moving], e.perCrew)
	}
	return true
}

// moves bounds the end of the schedule, and returns the tasks that are booked otherwise than before, and what all of
// them would cost.
func (e *Encoded) moves() (moved []lcg.Part, most int64) {
	s := e.S
	e.Parts[roster.Finish] = s.Number(0, int32(e.Horizon))
	for i := range e.Tasks {
		s.Apart(lcg.True(), e.end[i], e.Parts[roster.Finish])
		if e.Tasks[i].Was < 0 {
			continue
		}
		was := e.Problem.Before[e.Tasks[i].Was]
		stays := s.Choice()
		s.Clause(stays.Not(), e.start[i].AtLeast(int32(was.Start)))
		s.Clause(stays.Not(), e.start[i].AtMost(int32(was.Start)))
		if !e.Tasks[i].Unattended {
			by := lcg.True().Not()
			if own := e.Tasks[i].WasBy; own >= 0 {
				by = e.by[i][own]
			}
			s.Clause(stays.Not(), by)
		}
		cling := e.Tasks[i].Cling
		moved, most = append(moved, lcg.Part{Term: e.count(stays.Not()), Times: int32(cling)}), most+cling
		s.Prefer(stays)
	}
	return moved, most
}

// Sooner counts when each job is done, which decides between schedules that cost the same.
func (e *Encoded) Sooner() {
	ends := make([]lcg.Part, len(e.Jobs))
	for j := range ends {
		ends[j] = lcg.Part{Term: e.S.Number(0, int32(e.Horizon)), Times: 1}
	}
	for i := range e.Tasks {
		e.S.Apart(lcg.True(), e.end[i], ends[e.Tasks[i].Job].Term)
	}
	e.Parts[roster.Early] = e.S.Number(0, int32(e.Horizon)*int32(len(e.Jobs)))
	e.S.Sum(e.Parts[roster.Early], ends)
}

// count is a term that is one where an atom holds, else zero; of the atom of a number
// that is zero or one.
func (*Encoded) count(a lcg.Atom) lcg.Term {
	return lcg.Term{B: a.B, Off: 1 - a.V}
}
