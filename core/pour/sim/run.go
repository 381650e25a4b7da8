package sim

import (
	"math"

	"nephelon/core/measure"
	"nephelon/core/work"
)

// moment is the least stretch that somebody who is free has, s.
const moment = 1e-3

// How closely works on a section follow each other: the roller sets out when this
// share is spread, and has as much to do once all is. Common practice, no source.
const behind = 0.3

// order is what a mixer who also works on the floor does first.
type order int

const (
	finishFirst order = iota // the section in hand, then the next batch
	mixFirst                 // the next batch, so that it arrives as the last runs out
)

// cue is when a mixer begins a batch: so long after another batch is poured.
type cue struct {
	base  int // batch, from 0; −1 counts from the beginning
	after measure.Span
}

// varied are the factors by which a run departs from the plan; nil departs in
// nothing.
type varied struct {
	mix, floor func() float64
	life       float64
}

// engine runs trains. It keeps its memory from run to run, and may not be shared.
type engine struct {
	train    Train
	people   []calendar
	drills   []calendar
	teams    [works]team
	members  [works][]int // of a team, by their place among the people
	mixers   []int
	runners  []int
	passages []Passage
	open     []measure.Span // when each is opened
	joined   []measure.Span // when the edges that each meets are worked in
	parts    []Part
	record   bool
	edge     func(measure.Span) measure.Span
	vary     *varied
}

// newEngine readies a train for its first people; nil where they leave a part
// unplayed.
func newEngine(t Train, count int) *engine {
	e := &engine{train: t, people: make([]calendar, count), drills: make([]calendar, max(1, t.Drills))}
	e.edge = t.Edge
	const stretches = 8 // of a batch, about, that somebody is busy
	for i := range e.people {
		e.people[i].busy = make([]stretch, 0, stretches*len(t.Batches))
	}
	needs := Floor{}
	for _, b := range t.Batches {
		for w := range works {
			needs[w] += b.Works[w]
		}
	}
	for i, p := range t.People[:count] {
		if p.Plays(work.Mixer) {
			e.mixers = append(e.mixers, i)
		}
		if p.Plays(work.Runner) {
			e.runners = append(e.runners, i)
		}
		for w := range works {
			if p.Plays(roleOf(w)) {
				e.teams[w] = append(e.teams[w], &e.people[i])
				e.members[w] = append(e.members[w], i)
			}
		}
	}
	for w := range works {
		if needs[w] > 0 && len(e.teams[w]) == 0 {
			return nil
		}
	}
	if len(e.mixers) == 0 {
		return nil
	}
	e.passages, e.open, e.joined = make([]Passage, len(t.Batches)), make([]measure.Span, len(t.Batches)), make([]measure.Span, len(t.Batches))
	return e
}

// run runs the train. Without cues each mixer looks ahead: a batch is begun so that it
// arrives as the one before runs out, or as soon after as can be. With cues it is begun
// when its cue comes.
func (e *engine) run(o order, cues []cue) {
	for i := range e.people {
		e.people[i].busy = e.people[i].busy[:0]
	}
	for i := range e.drills {
		e.drills[i].busy = e.drills[i].busy[:0]
	}
	e.parts = e.parts[:0]
	carried := -1 // who carried the batch before
	wanted := measure.Span(math.Inf(-1))
	for k := range e.train.Batches {
		if k > 0 && o == finishFirst {
			wanted = e.wanted(k)
		}
		mixed := e.mix(k, wanted, carried, cues)
		if k > 0 && o == mixFirst {
			e.finish(k - 1)
		}
		carried = e.bring(k, mixed)
		e.lay(k)
		if o == finishFirst {
			e.finish(k)
		} else {
			wanted = e.passages[k].Laid
		}
	}
	if last := len(e.train.Batches) - 1; o == mixFirst {
		e.finish(last)
	}
}

// wanted is when the floor takes the next batch: the one before is spread, and somebody
// is free to pour.
func (e *engine) wanted(k int) measure.Span {
	laid, first := e.passages[k-1].Laid, measure.Span(math.Inf(1))
	for _, c := range e.teams[pouring] {
		first = min(first, c.gap(laid, moment))
	}
	if math.IsInf(float64(first), 1) { // nothing is poured
		return laid
	}
	return first
}

func (e *engine) factor(of func(*varied) func() float64) measure.Span {
	if e.vary == nil {
		return 1
	}
	return measure.Span(of(e.vary)())
}

func mixing(v *varied) func() float64   { return v.mix }
func flooring(v *varied) func() float64 { return v.floor }

// tell books a stretch of somebody's time.
func (e *engine) tell(person, batch int, act Act, from, to measure.Span) {
	if e.record && to-from > tiny {
		e.parts = append(e.parts, Part{Person: person, Batch: batch + 1, Act: act, From: from, To: to})
	}
}

// mix has a batch mixed, by whoever is soonest done with it, and returns by whom.
func (e *engine) mix(k int, wanted measure.Span, carried int, cues []cue) int {
	b := &e.train.Batches[k]
	f := e.factor(mixing)
	open, stir := b.Open*f, b.Mix*f
	at := wanted - b.Carry - b.Stand - stir - open
	switch {
	case k == 0:
		at = 0
	case cues != nil:
		at = cues[k].after
		if base := cues[k].base; base >= 0 {
			at += e.passages[base].Pour
		}
	default:
		at = max(at, 0)
	}
	who, drill, begin := -1, -1, measure.Span(math.Inf(1))
	for _, m := range e.mixers {
		back := measure.Span(0)
		if m == carried {
			back = e.train.Batches[k-1].Carry
		}
		for d := range e.drills {
			from := at - back
			if from < 0 {
				from = 0
			}
			for { // both the person and the drill must be free
				from = e.people[m].gap(from, back+open+stir)
				if free := e.drills[d].gap(from+back+open, stir); free > from+back+open+tiny {
					from = free - back - open
					continue
				}
				break
			}
			if from+back < begin-tiny {
				who, drill, begin = m, d, from+back
			}
		}
	}
	if who == carried && k > 0 {
		back := e.train.Batches[k-1].Carry
		e.people[who].book(begin-back, begin)
		e.tell(who, k, Fetch, begin-back, begin)
	}
	p := &e.passages[k]
	*p = Passage{Batch: k + 1}
	e.open[k] = begin
	p.Meets = begin + open
	e.people[who].book(begin, p.Meets+stir)
	e.drills[drill].book(p.Meets, p.Meets+stir)
	e.tell(who, k, Open, begin, p.Meets)
	e.tell(who, k, Mix, p.Meets, p.Meets+stir)
	p.Ready = p.Meets + stir + b.Stand
	return who
}

// bring carries a batch to its section, by a runner or by who mixed it, and returns by
// whom.
func (e *engine) bring(k, mixed int) int {
	b, p := &e.train.Batches[k], &e.passages[k]
	who, from := mixed, e.people[mixed].gap(p.Ready, b.Carry)
	for i, r := range e.runners {
		if free := e.people[r].gap(p.Ready, b.Carry); i == 0 || free < from {
			who, from = r, free
		}
	}
	p.Arrives = from + b.Carry
	e.people[who].book(from, p.Arrives)
	e.tell(who, k, Carry, from, p.Arrives)
	return who
}

// work has a work on the floor done and returns when it was begun and done.
func (e *engine) work(k, w int, from, needed measure.Span) (begin, end measure.Span) {
	amount := e.train.Batches[k].Works[w]
	if amount <= 0 {
		return from, max(from, needed)
	}
	amount *= e.factor(flooring)
	begin, end = e.teams[w].share(from, amount)
	for range 3 { // who follows others sets out later rather than waiting at their heels
		late := needed - end
		if late <= tiny {
			break
		}
		begin, end = e.teams[w].share(begin+late, amount)
	}
	e.teams[w].pieces(begin, end, func(n int, from, to measure.Span) { e.tell(e.members[w][n], k, actOf(w), from, to) })
	return begin, max(end, needed)
}

// lay pours a batch and spreads it.
func (e *engine) lay(k int) {
	p := &e.passages[k]
	from := p.Arrives
	if k > 0 {
		from = max(from, e.passages[k-1].Laid)
	}
	begin, poured := e.work(k, pouring, from, 0)
	p.Pour, p.Empty = begin, poured
	p.Waits = begin - p.Arrives
	p.Spread, p.Laid = e.work(k, spreading, poured, 0)
	if e.train.Drawn {
		p.Empty = p.Laid
	}
}

// finish cuts in, rolls and broadcasts a section.
func (e *engine) finish(k int) {
	b, p := &e.train.Batches[k], &e.passages[k]
	_, cut := e.work(k, cutting, p.Empty, 0)
	took := p.Laid - p.Spread
	team := measure.Span(max(1, len(e.teams[rolling])))
	rolls := b.Works[rolling] > 0
	var end measure.Span
	if rolls {
		p.Roll, end = e.work(k, rolling, max(cut, p.Spread+behind*took), p.Laid+behind*b.Works[rolling]/team)
	} else {
		p.Roll, end = p.Laid, max(cut, p.Laid)
	}
	if len(b.Beside) > 0 {
		at := p.Roll + measure.Span(b.Lap)*(end-p.Roll)
		if !rolls {
			at = p.Spread + measure.Span(b.Lap)*took
		}
		e.joined[k] = at
	}
	_, p.Done = e.work(k, casting, end, 0)
}
