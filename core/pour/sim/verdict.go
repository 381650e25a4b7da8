package sim

import (
	"cmp"
	"errors"
	"math"
	"slices"

	"nephelon/core/measure"
)

// ErrUnmanned is returned where nobody plays a part that the train needs.
var ErrUnmanned = errors.New("nobody has a role that this pour needs")

// ErrEndless is returned where something of a train takes no time that there is, or
// longer than anybody works.
var ErrEndless = errors.New("the work of this pour never ends")

// longest is more than anything of a pour takes, s.
const longest = 1e8

// finite reports whether a train can be run at all.
func (t Train) finite() bool {
	for k := range t.Batches {
		b := &t.Batches[k]
		for _, s := range [...]measure.Span{b.Works[0], b.Works[1], b.Works[2], b.Works[3], b.Works[4], b.Cross, b.Far,
			b.Open, b.Mix, b.Stand, b.Carry, b.Life} {
			if !(s >= 0 && s < longest) {
				return false
			}
		}
	}
	return len(t.Batches) > 0
}

// Best runs a train as well as its people can: with the mixer finishing the section in
// hand first or mixing ahead, each pail emptied at once or as it is spread, and, where not
// all of the people make it, with as many of them, in their order, as do best; who only
// stands in the way stays out. So another person at the end of the list never makes it
// worse. First comes what is least too late, then what ends first, a second of slack below ten minutes being
// worth one at the end. It costs a run or two, and people × 4 where it is not made.
func Best(t Train) (Run, error) { return new(Runner).Best(t) }

// Runner runs one train after the other in the same memory. It may not be shared.
type Runner struct{ engine engine }

// Best is Best.
func (r *Runner) Best(t Train) (Run, error) {
	as, err := r.engine.settle(t)
	if err != nil {
		return Run{}, err
	}
	e := &r.engine
	all := 0
	for _, n := range e.counts {
		all += n
	}
	parts := make([]Stint, all)
	e.stints = make([][]Stint, len(e.people))
	at := 0
	for i, n := range e.counts {
		e.stints[i] = parts[at : at : at+n]
		at += n
	}
	e.run(as, nil)
	return e.told(parts), nil
}

// Judge returns of a train, run as well as its people can, whether it makes it and its
// tightest moment: what Best says, without who does what and when.
func (r *Runner) Judge(t Train) (makes bool, tight Pinch, err error) {
	if _, err := r.engine.settle(t); err != nil {
		return false, Pinch{}, err
	}
	tight.Slack = measure.Span(math.Inf(1))
	least := r.engine.tightest(func(m Pinch) {
		if m.Slack < tight.Slack {
			tight = m
		}
	})
	if math.IsInf(float64(least), 1) {
		tight = Pinch{}
	}
	return least >= 0, tight, nil
}

// comfortable holds how much slack is enough; more is worth nothing. Common practice, no source.
const comfortable = 10 * measure.Minute

// settle finds how a train is run best, and leaves the engine as after that run.
func (e *engine) settle(t Train) (way, error) {
	type chosen struct {
		people int
		way    way
	}
	var best, last chosen
	if !t.finite() {
		return way{}, ErrEndless
	}
	late, costs := measure.Span(math.Inf(-1)), measure.Span(0)
	for count := len(t.People); count > 0 && late < 0; count-- {
		if !e.ready(t, count) {
			last = chosen{} // the engine stands ready for nobody
			break           // nor do fewer
		}
		for _, w := range [...]way{{}, {mixesFirst: true}, {drawn: true}, {mixesFirst: true, drawn: true}} {
			if late >= 0 && w.drawn {
				break // each pail emptied at once makes it, in the better order
			}
			if w.mixesFirst && !e.torn || w.drawn && t.Drawn {
				continue // that changes nothing
			}
			e.run(w, nil)
			last = chosen{count, w}
			left := e.tightest(nil)
			slack, cost := min(0, left), e.ends()-min(max(left, 0), comfortable)
			if slack > late+tiny || slack > late-tiny && cost < costs-tiny {
				best, late, costs = last, slack, cost
			}
		}
	}
	if best.people == 0 {
		return way{}, ErrUnmanned
	}
	if best != last {
		e.ready(t, best.people)
		e.run(best.way, nil)
	}
	return best.way, nil
}

// ends returns when the last batch is done, from when the first is poured.
func (e *engine) ends() measure.Span {
	end := measure.Span(0)
	for _, p := range e.passages {
		end = max(end, p.Done)
	}
	return end - e.passages[0].Pour
}

// lives returns how long a film laid at a time can be worked, and whether anybody knows.
func (e *engine) lives(at measure.Span) (measure.Span, bool) {
	if e.edge == nil {
		return 0, false
	}
	life := e.edge(at - e.passages[0].Pour)
	if e.vary != nil {
		life *= measure.Span(e.vary.life)
	}
	return life, true
}

// until returns until when what leaves the pail of a batch at a time can be worked: its working time counts
// from then, less what it used up in the pail. A film that dries is as old as it is spread.
func (e *engine) until(k int, out measure.Span) (measure.Span, bool) {
	life, known := e.lives(out)
	if !known || e.train.Dries {
		return out + life, known
	}
	as := measure.Span(1)
	if e.vary != nil {
		as = measure.Span(e.vary.life)
	}
	b := &e.train.Batches[k]
	return out + life - as*b.Ages.After((out-e.passages[k].Meets)/as, b.Life), true
}

// edgeOf returns until when the edge that a section leaves can be worked in: what was spread last.
func (e *engine) edgeOf(k int) (measure.Span, bool) {
	p := &e.passages[k]
	if e.drawn || e.train.Dries {
		return e.until(k, p.Laid)
	}
	return e.until(k, p.Pour)
}

// slacks returns what a batch has left of its pail, its film and its oldest neighbour's
// edge; unlimited where there is nothing to keep, or nobody knows.
func (e *engine) slacks(k int) (pail, film, join measure.Span) {
	forever := measure.Span(math.Inf(1))
	pail, join = forever, forever
	b, p := &e.train.Batches[k], &e.passages[k]
	if b.Life > 0 {
		life := b.Life
		if e.vary != nil {
			life *= measure.Span(e.vary.life)
		}
		pail = p.Meets + life - p.Empty
	}
	film = e.film[k]
	for _, n := range b.Beside {
		if until, known := e.edgeOf(n); known {
			join = min(join, until-e.joined[k])
		}
	}
	return pail, film, join
}

// tightest is the least that is left of anything; tell is called with each.
func (e *engine) tightest(tell func(Pinch)) measure.Span {
	least := measure.Span(math.Inf(1))
	zero := e.passages[0].Pour
	look := func(l Limit, batch int, at, slack measure.Span) {
		if math.IsInf(float64(slack), 1) {
			return
		}
		least = min(least, slack)
		if tell != nil {
			tell(Pinch{l, batch, at - zero, slack})
		}
	}
	for k := range e.passages {
		p := &e.passages[k]
		pail, film, join := e.slacks(k)
		look(OfPail, k+1, p.Empty, pail)
		look(OfFilm, k+1, p.Done, film)
		look(OfJoin, k+1, e.joined[k], join)
	}
	end := e.ends()
	if e.train.Shift > 0 {
		look(OfShift, len(e.passages), end+zero, e.train.Shift-end)
	}
	if e.train.Light > 0 {
		look(OfLight, len(e.passages), end+zero, e.train.Light-end)
	}
	return least
}

// told is the run of an engine, counted from when the first batch is poured, with the
// stints that it recorded.
func (e *engine) told(parts []Stint) Run {
	r := Run{
		Passages: slices.Clone(e.passages), Parts: parts, Known: e.edge != nil,
		Drawn: e.drawn, Ends: e.ends(), Idle: len(e.train.People) - len(e.people), Busy: make([]Share, len(e.train.People)),
		Moments: make([]Pinch, 0, len(limits)),
	}
	least := e.tightest(func(m Pinch) {
		at := slices.IndexFunc(r.Moments, func(o Pinch) bool { return o.Limit == m.Limit })
		if at < 0 {
			r.Moments = append(r.Moments, m)
		} else if m.Slack < r.Moments[at].Slack {
			r.Moments[at] = m
		}
	})
	slices.SortStableFunc(r.Moments, func(a, b Pinch) int { return cmp.Compare(a.Slack, b.Slack) })
	r.Makes = least >= 0
	zero := e.passages[0].Pour
	r.Begins = e.open[0] - zero
	lefts := make([][3]measure.Span, len(r.Passages))
	left := func(s *measure.Span) *measure.Span {
		if math.IsInf(float64(*s), 1) {
			return nil
		}
		return s
	}
	for k := range lefts { // before the times of any of them move
		l := &lefts[k]
		l[0], l[1], l[2] = e.slacks(k)
	}
	for k := range r.Passages {
		p := &r.Passages[k]
		p.Pail, p.Film, p.Join = left(&lefts[k][0]), left(&lefts[k][1]), left(&lefts[k][2])
		for _, at := range []*measure.Span{&p.Meets, &p.Ready, &p.Arrives, &p.Pour, &p.Empty, &p.Spread, &p.Laid,
			&p.Roll, &p.Done} {
			*at -= zero
		}
		if len(e.train.Batches[k].Beside) > 0 {
			joined := e.joined[k] - zero
			p.Joined = &joined
		}
	}
	whole := r.Ends - r.Begins
	for i := range r.Parts {
		part := &r.Parts[i]
		part.From, part.To = part.From-zero, part.To-zero
	}
	for i, busy := range e.busy {
		r.Busy[i] = Share(busy / whole)
		r.Effort += busy
		inOrder(e.stints[i])
	}
	r.Effort -= e.cast
	return r
}

// inOrder sorts the stints of a person, which are nearly in order, by time.
func inOrder(stints []Stint) {
	for i := 1; i < len(stints); i++ {
		moved := stints[i]
		at := i
		for ; at > 0 && stints[at-1].From > moved.From; at-- {
			stints[at] = stints[at-1]
		}
		stints[at] = moved
	}
}
