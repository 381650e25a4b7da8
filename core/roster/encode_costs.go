package roster

import (
	"nephelon/core/roster/lcg"
)

// costs are the parts of what a schedule costs; false where they are too great to count.
func (e *encoded) costs(known *Cost) bool {
	s := e.s
	total := func(part int, most int64, of []lcg.Part) {
		if known != nil {
			most = known[part]
			for p := range part {
				if known[p] > 0 {
					most = mostCost // it may cost more where what is weightier costs less
				}
			}
		}
		e.parts[part] = s.Number(0, int32(min(most, mostCost)))
		if len(of) > 0 {
			s.Sum(e.parts[part], of)
		}
	}
	late := make([]lcg.Part, 0, len(e.jobs))
	worst := int64(0)
	tardy := make([]lcg.Term, len(e.jobs))
	for j, job := range e.jobs {
		if job.Due != nil {
			most := max(0, e.horizon-*job.Due)
			tardy[j] = s.Number(0, int32(most))
			late = append(late, lcg.Part{Term: tardy[j], Times: int32(e.weights[j])})
			worst += int64(most) * e.weights[j]
		}
	}
	for i := range e.tasks {
		job := e.tasks[i].job
		if due := e.jobs[job].Due; due != nil {
			s.Apart(lcg.True(), e.end[i].Plus(-int32(*due)), tardy[job])
		}
	}
	if worst > mostCost && (known == nil || known[Late] > mostCost) {
		return false
	}
	total(Late, worst, late)
	var buys, over []lcg.Part
	one := func(a lcg.Atom) lcg.Part { return lcg.Part{Term: e.count(a), Times: 1} }
	for _, a := range e.bought {
		buys = append(buys, one(a))
	}
	total(Bought, int64(len(buys)), buys)
	for i := range e.tasks {
		for n, w := range e.ways[i] {
			if w.over > 0 {
				over = append(over, lcg.Part{Term: e.count(e.done[i][n]), Times: int32(w.over)})
			}
		}
	}
	total(Overtime, mostCost, over)
	ways, ok := e.travels()
	if !ok {
		return false
	}
	total(Moving, mostCost, ways)
	if len(e.perCrew) > 0 {
		s.Sum(e.parts[Moving], e.perCrew)
	}
	moved := e.moves(one)
	total(Moves, int64(len(moved)), moved)
	return true
}

// moves bounds the end of the schedule, and returns the tasks that are booked otherwise than before.
func (e *encoded) moves(one func(lcg.Atom) lcg.Part) (moved []lcg.Part) {
	s := e.s
	e.parts[Finish] = s.Number(0, int32(e.horizon))
	for i := range e.tasks {
		s.Apart(lcg.True(), e.end[i], e.parts[Finish])
		if e.tasks[i].was < 0 {
			continue
		}
		was := e.problem.Before[e.tasks[i].was]
		stays := s.Choice()
		s.Clause(stays.Not(), e.start[i].AtLeast(int32(was.Start)))
		s.Clause(stays.Not(), e.start[i].AtMost(int32(was.Start)))
		if !e.tasks[i].unattended {
			by := lcg.True().Not()
			for c, crew := range e.problem.Crews {
				if crew.ID == was.Crew {
					by = e.by[i][c]
				}
			}
			s.Clause(stays.Not(), by)
		}
		moved = append(moved, one(stays.Not()))
		s.Prefer(stays)
	}
	return moved
}

// sooner counts when each job is done, which decides between schedules that cost the same.
func (e *encoded) sooner() {
	ends := make([]lcg.Part, len(e.jobs))
	for j := range ends {
		ends[j] = lcg.Part{Term: e.s.Number(0, int32(e.horizon)), Times: 1}
	}
	for i := range e.tasks {
		e.s.Apart(lcg.True(), e.end[i], ends[e.tasks[i].job].Term)
	}
	e.parts[early] = e.s.Number(0, int32(e.horizon)*int32(len(e.jobs)))
	e.s.Sum(e.parts[early], ends)
}

// count is a term that is one where an atom holds, else zero; of the atom of a number
// that is zero or one.
func (*encoded) count(a lcg.Atom) lcg.Term {
	return lcg.Term{B: a.B, Off: 1 - a.V}
}
