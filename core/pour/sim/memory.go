package sim

import (
	"nephelon/core/measure"
	"nephelon/core/memo"
	"nephelon/core/work"
)

// Memory keeps trains as they were run best, since an edit of a job changes few of them.
// It may be shared. A nil one keeps nothing. What it returns is shared, too, and may not
// be changed.
type Memory struct {
	runs *memo.Memory[steadyTrain, ran]
}

// steadyTrain is a train whose film can be worked as long wherever it is laid.
type steadyTrain struct {
	batches      []Batch
	people       []work.Person
	drills       int
	drawn, dries bool
	works        *measure.Span // a film can be worked; nil where nobody knows
	shift, light measure.Span
}

type ran struct {
	run Run
	err error
}

// mostStints bounds what a memory keeps, some 20 MB; it is emptied then.
const mostStints = 300_000

// NewMemory keeps nothing yet.
func NewMemory() *Memory {
	return &Memory{memo.New(mostStints, func(r ran) int { return 1 + len(r.run.Parts) }, steadyTrain.best)}
}

func (s steadyTrain) best() ran {
	train := Train{Batches: s.batches, People: s.people, Drills: s.drills, Drawn: s.drawn, Dries: s.dries,
		Shift: s.shift, Light: s.light}
	if s.works != nil {
		train.Edge = func(measure.Span) measure.Span { return *s.works }
	}
	run, err := Best(train)
	return ran{run, err}
}

// Best is Best of a train whose film can be worked as long wherever it is laid.
func (m *Memory) Best(t Train) (Run, error) {
	if m == nil {
		return Best(t)
	}
	s := steadyTrain{batches: t.Batches, people: t.People, drills: t.Drills, drawn: t.Drawn, dries: t.Dries,
		shift: t.Shift, light: t.Light}
	if t.Edge != nil {
		works := t.Edge(0)
		s.works = &works
	}
	known := m.runs.Get(s)
	return known.run, known.err
}
