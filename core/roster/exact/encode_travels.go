package exact

import (
	"slices"

	"nephelon/core/roster"
	"nephelon/core/roster/lcg"
	"nephelon/core/roster/model"
)

// placed are the tasks that somebody works at for some time at a place; false where that
// is not known of one.
func (e *Encoded) placed() (all []int, known bool) {
	for i := range e.Tasks {
		t := &e.Tasks[i]
		if t.Unattended || e.Place[t.Job] < 0 {
			continue
		}
		if t.Duration > 0 {
			all = append(all, i)
		} else if slices.ContainsFunc(t.Before, func(g model.Gap) bool { return g.Index >= 0 }) {
			return nil, false
		}
	}
	return all, true
}

// travels has tasks follow each other on their crews, and returns what the ways between
// them add up to.
func (e *Encoded) travels() ([]lcg.Part, bool) {
	if e.Far == 0 {
		return nil, true
	}
	all, known := e.placed()
	if !known {
		return nil, false
	}
	s := e.S
	first := make(map[int]lcg.Atom)
	into, out := make(map[int][]lcg.Atom), make(map[int][]lcg.Atom)
	var sum []lcg.Part
	after := e.afterThose(all)
	var maybe []int // the first of a crew
	behind := make(map[int]bool)
	for _, o := range after {
		behind[o] = true
	}
	for _, i := range all {
		if !behind[i] { // of what stands, only that which nothing that stands comes before
			first[i] = s.Choice()
			into[i], maybe = append(into[i], first[i]), append(maybe, i)
		}
	}
	for _, i := range all {
		for _, o := range all {
			if i == o || e.stands(i) && e.stands(o) && after[i] != o {
				continue
			}
			way := e.Way(i, o)
			if s.Least(e.end[i])+int32(way) > s.Most(e.start[o]) || !e.mayFollow(o, i, after) {
				continue
			}
			next := s.Choice()
			into[o], out[i] = append(into[o], next), append(out[i], next)
			s.Clause(next.Not(), e.after(i, o, way))
			for c := range e.Problem.Crews {
				s.Clause(next.Not(), e.by[i][c].Not(), e.by[o][c])
				s.Clause(next.Not(), e.by[o][c].Not(), e.by[i][c])
			}
			if way > 0 {
				sum = append(sum, lcg.Part{Term: e.count(next), Times: int32(way)})
			}
		}
	}
	for _, i := range all {
		s.Clause(into[i]...)
		s.AtMostOne(into[i]...)
		s.AtMostOne(out[i]...)
	}
	for n, i := range maybe {
		for _, o := range maybe[:n] {
			for c := range e.Problem.Crews {
				s.Clause(first[i].Not(), first[o].Not(), e.by[i][c].Not(), e.by[o][c].Not())
			}
		}
	}
	e.rounds(all)
	return sum, true
}

// afterThose are the tasks that stand and come next on their crew after those that stand;
// −1 where none does.
func (e *Encoded) afterThose(all []int) map[int]int {
	after := make(map[int]int)
	if e.within == nil {
		return after
	}
	at := e.within.At
	rows := make(map[int][]int)
	for _, i := range all {
		if e.stands(i) {
			rows[at[i].Crew] = append(rows[at[i].Crew], i)
		}
	}
	for _, row := range rows {
		slices.SortFunc(row, func(a, b int) int { return int(at[a].Start - at[b].Start) })
		for n, i := range row {
			if after[i] = -1; n+1 < len(row) {
				after[i] = row[n+1]
			}
		}
	}
	return after
}

// mayFollow reports whether a task may be the next of a crew after another. after are those
// that stand and come next after others that stand; two that stand are such.
func (e *Encoded) mayFollow(o, i int, after map[int]int) bool {
	switch {
	case e.stands(i) && e.stands(o):
		return true // they are those
	case e.stands(i):
		// Not where another that stands lies between them in any case.
		n := after[i]
		return slices.Contains(e.Tasks[o].Crews, e.within.At[i].Crew) &&
			(n < 0 || e.S.Least(e.start[o]) < e.S.Least(e.start[n]))
	case e.stands(o):
		return slices.Contains(e.Tasks[i].Crews, e.within.At[o].Crew)
	}
	return slices.ContainsFunc(e.Tasks[i].Crews, func(c int) bool { return slices.Contains(e.Tasks[o].Crews, c) })
}

// mostPlaces limits how many places a crew is asked about together.
const mostPlaces = 5

// rounds says of each crew that it travels at least the shortest way past the places that
// it comes to, of the first few places of a problem.
func (e *Encoded) rounds(all []int) {
	s, n := e.S, min(len(e.Travel), mostPlaces)
	short := shortest(e.Model)
	var each []lcg.Part
	for c := range e.Problem.Crews {
		comes := make([]lcg.Atom, n)
		for p := range comes {
			comes[p] = s.Choice()
			for _, i := range all {
				if e.Place[e.Tasks[i].Job] == p {
					s.Clause(comes[p], e.by[i][c].Not())
				}
			}
		}
		own := s.Number(0, MostCost)
		each = append(each, lcg.Part{Term: own, Times: 1})
		for set := 1; set < 1<<n; set++ {
			way := shortestPast(short, set, -1)
			if way == 0 {
				continue
			}
			clause := []lcg.Atom{own.AtLeast(int32(way))}
			for p := range n {
				if set>>p&1 == 1 {
					clause = append(clause, comes[p].Not())
				}
			}
			s.Clause(clause...)
		}
	}
	e.perCrew = each
}

// shortest are the shortest ways between all places, over others where that is shorter.
func shortest(m *model.Model) [][]roster.Slot {
	all := make([][]roster.Slot, len(m.Travel))
	for i := range all {
		all[i] = slices.Clone(m.Travel[i])
	}
	for k := range all {
		for i := range all {
			for j := range all {
				all[i][j] = min(all[i][j], all[i][k]+all[k][j])
			}
		}
	}
	return all
}

// shortestPast is the shortest way from a place past all of a set; from any of them where
// it is −1.
func shortestPast(ways [][]roster.Slot, set, from int) roster.Slot {
	best := roster.Slot(-1)
	for p := range ways {
		if set>>p&1 == 0 {
			continue
		}
		way := shortestPast(ways, set&^(1<<p), p)
		if from >= 0 {
			way += ways[from][p]
		}
		if best < 0 || way < best {
			best = way
		}
	}
	return max(0, best)
}
