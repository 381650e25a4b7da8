// Package sim runs the pour of a coat ahead of time: the train of batches from the
// mixing place over the floor, each with the people who mix, carry, pour, cut in,
// spread, roll and broadcast it. Times are exact, in seconds from when the first
// batch is poured; mixing it lies before zero.
package sim

import (
	"nephelon/core/cure"
	"nephelon/core/measure"
	"nephelon/core/work"
)

// Act names what is done to a batch.
type Act string

// The acts, in the order in which a batch goes through them.
const (
	Fetch  Act = "fetch" // walk back to the mixing place for the next
	Open   Act = "open"  // pails opened, parts put together or weighed
	Mix    Act = "mix"   // from A meeting B: mixed, mixed again, coloured
	Carry  Act = "carry"
	Pours  Act = "pour"
	CutIn  Act = "cut-in"
	Spread Act = "spread"
	Roll   Act = "roll"
	Cross  Act = "cross-roll" // over the join with what was laid before
	Cast   Act = "broadcast"
)

// Floor is the works on a batch's section, in person-seconds, by the index of their
// role below.
type Floor [5]measure.Span

// The works on the floor.
const (
	pouring = iota
	cutting
	spreading
	rolling
	casting
	works
)

var _ = [1]int{}[works-len(Floor{})]

// actOf returns the act that a work on the floor is.
func actOf(w int) Act { return [works]Act{Pours, CutIn, Spread, Roll, Cast}[w] }

// roleOf returns the role of who does a work on the floor.
func roleOf(w int) work.Role {
	return [works]work.Role{work.Pourer, work.CutterIn, work.Spreader, work.Roller, work.Caster}[w]
}

// Works are the works on a section.
func Works(pour, cutIn, spread, roll, cast measure.Span) Floor {
	return Floor{pour, cutIn, spread, roll, cast}
}

// Batch is one batch of the train with its section.
type Batch struct {
	Open   measure.Span // hands-on, before A meets B
	Mix    measure.Span // hands-on, from A meeting B
	Stand  measure.Span // waits by itself before it may be poured
	Carry  measure.Span // one way from the mixing place to its section
	Life   measure.Span // from A meeting B; 0 where it has no pot life
	Ages   cure.Aging   // in the pail
	Works  Floor
	Far    measure.Span // of its cutting in, along the walls that its section comes to last
	Cross  measure.Span // person-seconds of rolling over the join with what was laid before, a second pass
	Beside []int        // earlier batches, from 0, whose edges its section meets
	// depth of a strip that is worked at a time, as a share of the section; its first one works those
	// edges in
	Lap float64
}

// CutsIn gives a batch its cutting in, and how much of that is along the walls that its section comes to last.
func (b *Batch) CutsIn(all, far measure.Span) { b.Works[cutting], b.Far = all, far }

// CrossRolled sets aside of the rolling what goes over the join of the section a second
// time: a strip as deep as its lap. A crew's pace is of all of it together.
func (b *Batch) CrossRolled() {
	b.Cross = b.Works[rolling] * measure.Span(b.Lap/(1+b.Lap))
	b.Works[rolling] -= b.Cross
}

// Train is everything that a pour is run from.
type Train struct {
	Batches []Batch
	People  []work.Person
	Drills  int                             // that mix at the same time
	Drawn   bool                            // the pail cannot but be emptied as it is spread
	Edge    func(measure.Span) measure.Span // how long a film laid at a time can be worked; nil where nobody knows
	Dries   bool                            // its films harden as they dry, so that they are as old as they are spread
	Shift   measure.Span                    // from zero to the end of the shift; 0 where none is planned
	Light   measure.Span                    // from zero to when it is too dark to see the film; 0 where that never is
}

// Stint is a stretch of one person's time.
type Stint struct {
	Person int          `json:"person" doc:"Index into the list of people, from 0"`
	Batch  int          `json:"batch" doc:"From 1"`
	Act    Act          `json:"act"`
	From   measure.Span `json:"from" doc:"s from when the first batch is poured"`
	To     measure.Span `json:"to"`
}

// Passage is a batch on its way. Times are s from when the first batch is poured.
type Passage struct {
	Batch   int           `json:"batch" doc:"From 1"`
	Meets   measure.Span  `json:"meets" doc:"A meets B"`
	Ready   measure.Span  `json:"ready" doc:"Mixed and stood as long as it must"`
	Arrives measure.Span  `json:"arrives" doc:"At its section"`
	Pour    measure.Span  `json:"pour" doc:"It is begun to be poured"`
	Empty   measure.Span  `json:"empty" doc:"Nothing is left in the pail"`
	Spread  measure.Span  `json:"spread" doc:"It is begun to be spread"`
	Laid    measure.Span  `json:"laid" doc:"All of it is spread"`
	Roll    measure.Span  `json:"roll" doc:"It is begun to be rolled"`
	Joined  *measure.Span `json:"joined,omitempty" doc:"When the edge with what was laid before is worked in, s"`
	Done    measure.Span  `json:"done" doc:"Nobody touches it again"`
	Waits   measure.Span  `json:"waits" doc:"s it stands at its section before it is poured"`
	Pail    *measure.Span `json:"pail,omitempty" doc:"s of its pot life left when the pail is empty"`
	Film    *measure.Span `json:"film,omitempty" doc:"s of its film's working time left when it is done"`
	Join    *measure.Span `json:"join,omitempty" doc:"s left of the oldest edge that it meets when that is worked in"`
}

// Limit names what a pour can run against.
type Limit string

// The limits.
const (
	OfPail  Limit = "pail"  // the pot life of a mix
	OfFilm  Limit = "film"  // the working time of what is spread
	OfJoin  Limit = "join"  // a neighbour's edge
	OfShift Limit = "shift" // the end of the shift
	OfLight Limit = "light" // the light that falls
)

// Pinch holds how close a pour comes to a limit.
type Pinch struct {
	Limit Limit        `json:"limit"`
	Batch int          `json:"batch" doc:"From 1"`
	At    measure.Span `json:"at" doc:"s from when the first batch is poured"`
	Slack measure.Span `json:"slack" doc:"s left; below zero it comes too late"`
}

// Run is a train as it runs.
type Run struct {
	Passages []Passage    `json:"passages,omitempty" doc:"Each batch on its way"`
	Parts    []Stint      `json:"parts,omitempty" doc:"Who does what and when: person by person, each in order of time"`
	Moments  []Pinch      `json:"moments" doc:"The tightest of each limit, tightest first"`
	Makes    bool         `json:"makes" doc:"Nothing comes too late"`
	Drawn    bool         `json:"drawn,omitempty" doc:"Each pail is emptied as it is spread; else at once"`
	Known    bool         `json:"known" doc:"The sheet tells how long the film can be worked, so that joins can be judged"`
	Begins   measure.Span `json:"begins" doc:"The first batch is opened: zero or before"`
	Ends     measure.Span `json:"ends" doc:"The last is done"`
	Busy     []Share      `json:"busy" doc:"Share of the time that each person works"`
	Effort   measure.Span `json:"-"` // what everybody works, broadcasting apart, in person-seconds
	Idle     int          `json:"idle,omitempty" doc:"People that only stand in the way here; the last of the list"`
}

// Share is a share of the time.
type Share float64

// Tight is the tightest moment; zero where there is none.
func (r Run) Tight() Pinch {
	if len(r.Moments) == 0 {
		return Pinch{}
	}
	return r.Moments[0]
}

// Values returns all values, in the order in which they are shown.
func (Act) Values() []Act {
	return []Act{Fetch, Open, Mix, Carry, Pours, CutIn, Spread, Roll, Cross, Cast}
}

// Values returns all values, in the order in which they are shown.
func (Limit) Values() []Limit {
	return []Limit{OfPail, OfFilm, OfJoin, OfShift, OfLight}
}
