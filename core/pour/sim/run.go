package sim

import (
	"math"
	"slices"

	"nephelon/core/measure"
	"nephelon/core/work"
)

// moment is the least stretch that somebody who is free has, s.
const moment = 1e-3

// mostStrips bounds into how many strips a section is worked.
const mostStrips = 8

// strip returns what share of a section is worked in one strip, as deep as its lap: people who spread and roll
// go strip by strip, and who only rolls follows a strip behind. The last has what is left.
func (b *Batch) strip() float64 {
	if !(b.Lap > 0) {
		return 1
	}
	return math.Min(1, math.Max(b.Lap, 1.0/mostStrips))
}

// way holds how a crew goes about a train.
type way struct {
	// who mixes and works on the floor mixes the next batch so that it arrives as the last runs out,
	// and finishes the section in hand around that; else the other way round
	mixesFirst bool
	drawn      bool // a pail is emptied as it is spread, not at once
}

// cue holds when a mixer begins a batch: when so much of another is spread, as can be seen;
// else so long after that is poured, or after the beginning.
type cue struct {
	base  int // batch, from 0; −1 counts from the beginning
	after measure.Span
	share float64 // of the way from its pour to its last strip; below zero goes by the time
}

// varied are the factors by which a run departs from the plan; nil departs in
// nothing.
type varied struct {
	mix, floor func() float64
	life       float64
}

// engine runs trains. It keeps its memory from train to train, and may not be shared.
type engine struct {
	train    Train
	people   []calendar
	drills   []calendar
	teams    [works]team
	members  [works][]int // of a team, by their place among the people
	mixers   []int
	torn     bool // somebody mixes who works on the floor, too
	runners  []int
	passages []Passage
	open     []measure.Span // when each is opened
	joined   []measure.Span // when the edges that each meets are worked in
	film     []measure.Span // what each has left of its film
	counts   []int          // of each person's stints
	busy     []measure.Span // what each person works
	cast     measure.Span   // of all of it, what is broadcast
	stints   [][]Stint      // of each person; nil records none
	drawn    bool
	edge     func(measure.Span) measure.Span
	vary     *varied
}

// ready readies the engine for a train by its first people; it cannot be run where they
// leave a part unplayed.
func (e *engine) ready(t Train, count int) bool {
	e.train, e.edge, e.vary, e.torn, e.stints = t, t.Edge, nil, false, nil
	e.people, e.drills = resized(e.people, count), resized(e.drills, max(1, t.Drills))
	e.counts, e.busy = resized(e.counts, count), resized(e.busy, count)
	e.mixers, e.runners = e.mixers[:0], e.runners[:0]
	n := len(t.Batches)
	e.passages, e.open, e.joined, e.film = resized(e.passages, n), resized(e.open, n), resized(e.joined, n),
		resized(e.film, n)
	needs := Floor{}
	for k := range t.Batches {
		for w := range works {
			needs[w] += t.Batches[k].Works[w]
		}
		needs[rolling] += t.Batches[k].Cross
	}
	for w := range works {
		e.teams[w], e.members[w] = e.teams[w][:0], e.members[w][:0]
	}
	for i := range t.People[:count] {
		p := &t.People[i]
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
			return false
		}
		e.torn = e.torn || slices.ContainsFunc(e.members[w], func(i int) bool { return t.People[i].Plays(work.Mixer) })
	}
	if len(e.mixers) == 0 && !t.mixes() {
		for i := range count {
			e.mixers = append(e.mixers, i) // whoever is free brings the next pail
		}
	}
	return len(e.mixers) > 0
}

// resized is a slice of so many, in the memory that was there if it has room.
func resized[T any](s []T, n int) []T {
	if cap(s) < n {
		return append(s[:cap(s)], make([]T, n-cap(s))...)
	}
	return s[:n]
}

// mixes reports whether anything of the train is opened and mixed.
func (t Train) mixes() bool {
	return slices.ContainsFunc(t.Batches, func(b Batch) bool { return b.Open+b.Mix > 0 })
}

// run runs the train. Without cues each mixer looks ahead: a batch is begun so that it
// arrives as the one before runs out, or as soon after as can be. With cues it is begun
// when its cue comes.
func (e *engine) run(w way, cues []cue) {
	e.drawn = w.drawn || e.train.Drawn
	for i := range e.people {
		e.people[i].busy = e.people[i].busy[:0]
	}
	for i := range e.drills {
		e.drills[i].busy = e.drills[i].busy[:0]
	}
	e.cast = 0
	clear(e.busy)
	clear(e.counts)
	carried := -1 // who carried the batch before
	for k := range e.train.Batches {
		wanted := measure.Span(math.Inf(-1))
		if k > 0 {
			wanted = e.wanted(k, w)
		}
		mixed := e.mix(k, wanted, carried, cues)
		if k > 0 && w.mixesFirst {
			e.lay(k - 1)
		}
		carried = e.bring(k, mixed)
		e.pour(k)
		if !w.mixesFirst {
			e.lay(k)
		}
	}
	if w.mixesFirst {
		e.lay(len(e.train.Batches) - 1)
	}
}

// wanted returns when the floor takes the next batch: the one before is spread, and somebody
// is free to pour. Who mixes ahead does not know that yet, and goes by what is left to
// do and how many do it.
func (e *engine) wanted(k int, as way) measure.Span {
	before := &e.passages[k-1]
	if as.mixesFirst {
		work, hands := measure.Span(0), 1
		for w := cutting; w < works; w++ {
			work += e.train.Batches[k-1].Works[w]
			hands = max(hands, len(e.teams[w]))
		}
		return before.Empty + work/measure.Span(hands)
	}
	first := measure.Span(math.Inf(1))
	for _, c := range e.teams[pouring] {
		first = min(first, c.gap(before.Laid, moment))
	}
	if math.IsInf(float64(first), 1) { // nothing is poured
		return before.Laid
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
	if to-from <= tiny {
		return
	}
	e.counts[person]++
	e.busy[person] += to - from
	if act == Cast {
		e.cast += to - from
	}
	if e.stints != nil {
		e.stints[person] = append(e.stints[person], Stint{Person: person, Batch: batch + 1, Act: act, From: from, To: to})
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
		if c := cues[k]; c.base >= 0 {
			seen := &e.passages[c.base]
			at += seen.Pour
			if c.share >= 0 {
				at = seen.Pour + measure.Span(c.share)*(seen.Laid-seen.Pour)
			}
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

// work has a share of a work on the floor done and returns when it was begun and done.
func (e *engine) work(k, w int, from measure.Span, share float64) (begin, end measure.Span) {
	return e.does(k, w, actOf(w), from, e.train.Batches[k].Works[w]*measure.Span(share))
}

// does has an amount of work done by those who play a part on the floor.
func (e *engine) does(k, w int, act Act, from, amount measure.Span) (begin, end measure.Span) {
	if amount <= 0 {
		return from, from
	}
	amount *= e.factor(flooring)
	begin, end = e.teams[w].share(from, amount)
	e.teams[w].pieces(begin, end, func(n int, from, to measure.Span) { e.tell(e.members[w][n], k, act, from, to) })
	return begin, end
}

// pour empties a pail over its section, once the one before is spread.
func (e *engine) pour(k int) {
	p := &e.passages[k]
	from := p.Arrives
	if k > 0 {
		from = max(from, e.passages[k-1].Laid)
	}
	p.Pour, p.Empty = e.work(k, pouring, from, 1)
	p.Waits = p.Pour - p.Arrives
}

// lay cuts a section in, spreads, rolls and broadcasts it, strip by strip: each is cut in
// and spread before it is rolled, and rolled before it is broadcast. The first strip is
// rolled a second time, over its join with what was laid before. The walls that the section comes to last
// are cut in with its last strip, after the join where that is its first. What is left of its
// film is the least of any place when the roller, or whoever comes last, gets there; and
// of what was poured out first, when all is spread.
func (e *engine) lay(k int) {
	b, p := &e.train.Batches[k], &e.passages[k]
	strip := b.strip()
	cut, spread, rolled, cast := p.Empty, p.Empty, p.Empty, p.Empty
	e.film[k] = measure.Span(math.Inf(1))
	for n, left := 0, 1.0; left > tiny; n++ {
		share := math.Min(strip, left)
		if left -= share; left < tiny {
			share, left = share+left, 0
		}
		_, cut = e.does(k, cutting, CutIn, cut, (b.Works[cutting]-b.Far)*measure.Span(share))
		if left == 0 && n > 0 {
			_, cut = e.does(k, cutting, CutIn, cut, b.Far)
		}
		begun, laid := e.work(k, spreading, spread, share)
		spread = laid
		rolls, done := e.work(k, rolling, max(cut, laid, rolled), share)
		rolled = done
		throws, thrown := e.work(k, casting, max(rolled, cast), share)
		cast = thrown
		if n == 0 {
			p.Spread, p.Roll = begun, rolls
			_, rolled = e.does(k, rolling, Cross, rolled, b.Cross)
			e.joined[k] = rolled
		}
		if left == 0 && n == 0 {
			_, cut = e.does(k, cutting, CutIn, max(cut, rolled), b.Far)
			rolled = cut
		}
		first, last := begun, laid // when its first and its last place left the pail, or were spread
		if !e.drawn && !e.train.Dries {
			first, last = p.Pour, p.Pour
		}
		until, known := e.until(k, first)
		if !known {
			continue
		}
		later, _ := e.until(k, last)
		e.film[k] = min(e.film[k], until-rolls, later-rolled)
		if b.Works[casting] > 0 {
			e.film[k] = min(e.film[k], until-throws, later-cast)
		}
	}
	p.Laid, p.Done = spread, max(cast, rolled, cut)
	if e.drawn {
		p.Empty = p.Laid
	} else if until, known := e.until(k, p.Pour); known { // what lies in lines is a film already
		e.film[k] = min(e.film[k], until-p.Laid)
	}
}
