package record

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"nephelon/core/measure"
	"nephelon/core/record/says"
)

// The most and the least that a crew is slower or faster than planned; what was logged as
// quicker or slower was logged afterwards, and tells nothing of its pace.
const (
	slowest = 10.0
	fastest = 0.1
)

// coat reads a coat and times what is still to come.
func (t *Teller) coat(i *Issue, c *Coat, below *CoatDay, events byBatch, now time.Time, units measure.System) CoatDay {
	d := CoatDay{
		ID: c.ID, Surface: i.Surface(c.Surface).Name, Number: c.Number, Name: c.Name, Color: c.Color,
		Gates:   gated(i, c, events.of[batchKey{c.ID, 0}], units),
		Batches: make([]BatchDay, len(c.Batches)), Now: []Say{}, Next: []Say{}, Watch: []Say{},
		words: says.Of(c.Method, i.Surface(c.Surface).Kind == "top", c.Throws > 0),
	}
	for _, g := range d.Gates {
		if !g.Closed {
			d.Open++
		}
	}
	for n := range c.Batches {
		d.Batches[n] = t.batch(i, c, &c.Batches[n], events, units)
	}
	for _, e := range events.of[batchKey{c.ID, 0}] {
		switch e.Kind {
		case Abraded:
			at := e.When()
			d.Abraded = &at
		case Left:
			d.Used.Left += *e.Body.Mass
		case Gone:
			d.Away = slices.DeleteFunc(d.Away, func(name string) bool { return name == e.Body.Text })
			if !later(e) {
				d.Away = append(d.Away, e.Body.Text)
			}
		}
	}
	d.infer(c)
	d.Pace, d.Paced = pace(c, d.Batches)
	if d.Paced == 0 && below != nil && below.Paced > 0 {
		// The best guess is what the last coat on this very surface took.
		d.Pace, d.Guess = below.Pace, below.Number
	}
	d.time(c, now)
	d.used(c)
	d.tell(c, now, units)
	return d
}

// pace returns how many times as long as planned the sections took that are done, from being
// begun to be poured until nobody touched them again.
func pace(c *Coat, batches []BatchDay) (float64, int) {
	took, planned, n := measure.Span(0), measure.Span(0), 0
	for k := range batches {
		if one, known := Times(&c.Batches[k], &batches[k]); known {
			wanted := c.Batches[k].Passage.Done - c.Batches[k].Passage.Pour
			took += measure.Span(one) * wanted
			planned += wanted
			n++
		}
	}
	if n == 0 || !(planned > 0) {
		return 1, 0
	}
	return float64(took / planned), n
}

// Times returns how many times as long as planned a section took; false while it is not done, or
// where that cannot be true.
func Times(plan *Batch, b *BatchDay) (float64, bool) {
	wanted := plan.Passage.Done - plan.Passage.Pour
	if b.Poured == nil || b.Rolled == nil || !b.Rolled.After(*b.Poured) || !(wanted > 0) {
		return 1, false
	}
	took := float64(between(*b.Poured, *b.Rolled) / wanted)
	return took, took >= fastest && took <= slowest
}

// time puts every batch on the clock: what happened when it did, and what is to come as the plan has it after what it
// follows, work on the floor at the pace of this crew. What is due and has not happened is taken to happen now. With
// nothing late and the pace of the plan it is the plan.
func (d *CoatDay) time(c *Coat, now time.Time) {
	if len(c.Batches) == 0 {
		d.Ends = now
		return
	}
	zero := now
	if c.Start != nil {
		zero = *c.Start
	}
	for k := range d.Batches {
		b, plan := &d.Batches[k], &c.Batches[k].Passage
		if c.Start != nil {
			b.Planned = &Course{plan.Meets.After(zero), plan.Pour.After(zero), plan.Empty.After(zero), plan.Laid.After(zero),
				plan.Done.After(zero)}
		}
		due := &b.Due
		if d.passes(k, zero) {
			continue
		}
		if k == 0 {
			due.Meets = plan.Meets.After(zero)
			if c.Start == nil {
				due.Meets = now
			}
		} else {
			before, was := &d.Batches[k-1].Due, &c.Batches[k-1].Passage
			if plan.Meets >= was.Done { // whoever mixes works on the floor until then
				due.Meets = (plan.Meets - was.Done).After(before.Done)
			} else {
				due.Meets = (plan.Meets - was.Laid).After(before.Laid)
			}
			// A batch is not mixed before the one ahead of it.
			due.Meets = latest(due.Meets, min(plan.Meets-was.Meets, plan.Ready-plan.Meets).After(before.Meets))
		}
		due.Meets = happened(b.Meets, due.Meets, now)
		due.Pour = (plan.Arrives - plan.Meets).After(due.Meets)
		if k > 0 {
			due.Pour = latest(due.Pour, d.Batches[k-1].Due.Laid)
		} else {
			due.Pour = (plan.Pour - plan.Meets).After(due.Meets)
		}
		if b.Mixed != nil && b.Poured == nil {
			due.Pour = latest(due.Pour, c.Batches[k].Card.Stirred().Stand.After(*b.Mixed))
		}
		due.Pour = happened(b.When(Poured), due.Pour, now)
		if proven := b.proven(); b.Poured == nil && proven != nil {
			due.Meets, due.Pour = earliest(due.Meets, *proven), earliest(due.Pour, *proven)
			b.Began = &due.Pour
		} else {
			b.Began = b.When(Poured)
		}
		paced := func(from, to measure.Span) measure.Span { return measure.Span(d.Pace) * (to - from) }
		due.Empty = paced(plan.Pour, plan.Empty).After(due.Pour)
		due.Laid = happened(b.When(Spread), paced(plan.Pour, plan.Laid).After(due.Pour), now)
		if b.When(Spread) != nil {
			due.Empty = earliest(due.Empty, due.Laid)
		} else if b.When(Poured) == nil {
			due.Empty = latest(due.Empty, now)
		}
		due.Done = happened(b.When(Rolled), paced(plan.Laid, plan.Done).After(due.Laid), now)
	}
	for k := range d.Batches {
		if began := d.Batches[k].Began; began != nil && (d.Begun == nil || began.Before(*d.Begun)) {
			d.Begun = began
		}
	}
	last, all := time.Time{}, true
	for k := range d.Batches {
		d.Ends = latest(d.Ends, d.Batches[k].Due.Done)
		all = all && (d.Batches[k].When(Rolled) != nil || d.Batches[k].Out != nil && !d.Batches[k].Out.Later)
		last = latest(last, d.Batches[k].Due.Done)
	}
	if all {
		d.Done = &last
	}
}

// proven returns the earliest touch that shows that the batch was poured; nil where there is none.
func (b *BatchDay) proven() *time.Time {
	var at *time.Time
	for _, touch := range []*time.Time{b.Poured, b.Spread, b.Joined, b.Rolled} {
		if touch != nil && (at == nil || touch.Before(*at)) {
			at = touch
		}
	}
	return at
}

// happened returns when something did, or else when it is due, and that is not in the past.
func happened(did *time.Time, due, now time.Time) time.Time {
	if did != nil {
		return *did
	}
	return latest(due, now)
}

func earliest(a, b time.Time) time.Time {
	if b.Before(a) {
		return b
	}
	return a
}

// used adds up what was poured.
func (d *CoatDay) used(c *Coat) {
	area, film := measure.Area(0), 0.0
	for k := range d.Batches {
		b, card := &d.Batches[k], &c.Batches[k].Card
		d.Used.Lost += measure.Mass(len(b.Lost)) * card.Mass
		if b.Began == nil {
			continue
		}
		mass := b.mass(&c.Batches[k])
		d.Used.Mass += mass
		area += c.Batches[k].SectionArea()
		if b.Covered != nil { // by all pails so far, as told
			area = *b.Covered
		}
		if card.Mass > 0 { // of what is in the pail as much is lost as was planned
			d.Used.Volume += card.Volume * measure.Volume(mass/card.Mass)
			film += float64(c.Wet) * float64(card.Area) * float64(mass/card.Mass)
		}
	}
	if area > 0 {
		d.Used.Film = measure.Film(film / float64(area))
	}
}

// joins returns until when the oldest edge that a section meets can be worked in; false where
// it meets none, or nobody knows.
func (d *CoatDay) joins(c *Coat, k int) (until time.Time, known bool) {
	if !(c.Working > 0) || d.Batches[k].Out != nil {
		return until, false
	}
	for _, n := range c.Batches[k].Beside {
		if n < 1 || n > len(d.Batches) || d.Batches[n-1].Out != nil {
			continue
		}
		if end := d.edge(c, n-1); !known || end.Before(until) {
			until, known = end, true
		}
	}
	return until, known
}

// edge returns until when the edge that a section leaves can be worked in: what was spread last.
func (d *CoatDay) edge(c *Coat, k int) time.Time {
	b := &d.Batches[k]
	if p := &c.Batches[k].Passage; c.Reacts && p.Empty < p.Laid { // out of the pail at once
		return d.works(c, k, b.Due.Pour)
	}
	return d.works(c, k, b.Due.Laid)
}

// works returns until when what leaves the pail of a batch at a time can be worked. Its working time counts from
// then; that of a film which reacts is less by what it aged in the pail.
func (d *CoatDay) works(c *Coat, k int, out time.Time) time.Time {
	left := c.Working
	if c.Reacts {
		meets := d.Batches[k].Due.Meets
		left -= c.Batches[k].Ages.After(between(meets, out), c.Batches[k].Life)
	}
	return left.After(out)
}

// The shares of a limit that are left when it is called out, and the least.
const (
	callShare              = 0.25
	callLeast measure.Span = 120 // s
)

// call returns how long before a limit it is called out.
func call(limit measure.Span) measure.Span { return max(callLeast, callShare*limit) }

// tell says what to do now, what next, and what to watch.
func (d *CoatDay) tell(c *Coat, now time.Time, units measure.System) {
	if d.Done != nil {
		d.Now = append(d.Now,
			Say{Do: "done", Text: fmt.Sprintf("Coat %d is laid. Keep everybody and everything off it.", c.Number)})
		d.watch(c, now, units)
		return
	}
	for _, g := range d.Gates {
		if b := &d.Batches[0]; !g.Closed && b.Meets == nil && b.Attempt == 1 {
			d.Now = append(d.Now, Say{Do: "gate", Text: g.Title + ": " + g.Ask})
			break
		}
	}
	if stop := d.stops(c); stop.Text != "" {
		d.Now = append(d.Now, stop)
	}
	for k := range d.Batches {
		b := &d.Batches[k]
		say := d.step(c, k, now, units)
		if say.Text == "" {
			continue
		}
		late := say.At != nil && !say.At.After(now)
		switch {
		case say.Do == "lost": // before all else
			d.Now = slices.Insert(d.Now, 0, say)
		case b.State != Waiting || late && len(d.Now) == 0 || late && d.Open == 0:
			d.Now = append(d.Now, say)
		case len(d.Next) < 2:
			d.Next = append(d.Next, say)
		}
	}
	d.watch(c, now, units)
}

// step returns what comes next for a batch.
func (d *CoatDay) step(c *Coat, k int, now time.Time, units measure.System) Say {
	b, card := &d.Batches[k], &c.Batches[k].Card
	say := Say{Batch: b.Number}
	switch b.State {
	case Waiting:
		say.Do, say.At = "meet", &b.Due.Meets
		say.Text = fmt.Sprintf("Batch %d: start mixing A + B", b.Number)
		if len(card.Parts) < 2 {
			say.Text = fmt.Sprintf("Batch %d: open and stir", b.Number)
		}
		if b.Attempt > 1 {
			say.Text += ", once more"
		}
	case Mixing, Ready:
		if b.UseBy != nil && !b.UseBy.After(now) {
			say.Do, say.Until, say.Late = "lost", b.UseBy, true
			say.Text = fmt.Sprintf("Batch %d: was it poured? If not, it is past its pot life: do not pour it. Carry it "+
				"outside, leave it, never add water, never seal it", b.Number)
			break
		}
		if b.State == Ready {
			if wait := d.holds(c, k, now, units); wait.Text != "" {
				return wait
			}
			say.Do, say.At, say.Until = "pour", &b.Due.Pour, b.UseBy
			say.Text, say.Act = fmt.Sprintf("Batch %d for section %d: %s", b.Number, card.Section, d.words.Pour), d.words.Pours
			break
		}
		m := card.Stirred()
		mixed, until := m.Hands().After(*b.Meets), *b.Meets
		say.Do, say.At, say.Until = "mix", &mixed, b.UseBy
		for _, phase := range []struct {
			lasts measure.Span
			does  string
		}{{m.First / 2, "mix slowly, the paddle under the surface"}, {m.First / 2, "scrape wall and bottom, and mix on"},
			{m.Second, "into a second clean bucket, and mix again"}, {m.Colours, "divide it into cups and colour each"},
			{m.Turned, "over the stones, and turn until all are glossy"}} {
			if until = phase.lasts.After(until); until.After(now) {
				say.Text, say.Until, say.Of = fmt.Sprintf("Batch %d: %s", b.Number, phase.does), &until, float64(phase.lasts)
				return say
			}
		}
		say.Text = fmt.Sprintf("Batch %d: mixed long enough; if no streak shows, stop", b.Number)
		if most := card.MixedAtMost(); most > 0 && !most.After(*b.Meets).After(now) {
			say.Late = true
			say.Text = fmt.Sprintf("Batch %d: stop mixing, its sheet allows %s: longer whips in air", b.Number, units.Span(most))
		}
	case Pouring:
		say.Do, say.At, say.Until = "spread", &b.Due.Laid, b.UseBy
		say.Text = cmp.Or(b.nextCup(&c.Batches[k]), fmt.Sprintf("Section %d: %s", card.Section, d.words.Spread))
		say.Act = d.words.SpreadOut
		if p := &c.Batches[k].Passage; p.Empty < p.Laid && c.Working > 0 { // out of the pail it lives as a film
			until := d.works(c, k, b.Due.Pour)
			say.Until, say.Of = &until, float64(c.Working)
			return say
		}
	case Spreading:
		say.Do, say.At = "roll", &b.Due.Done
		say.Text, say.Act = fmt.Sprintf("Section %d: %s", card.Section, d.words.Roll), d.words.Rolled
		if len(c.Batches[k].Beside) > 0 {
			say.Text += d.words.Joins
		}
		say.Text += d.words.After
		if until, known := d.joins(c, k); known && b.Joined == nil {
			say.Until, say.Of = &until, float64(c.Working)
			return say
		}
	default:
		return Say{}
	}
	say.Of = float64(b.Life)
	return say
}

// wellMixed is the share of its mixing time after which a batch counts as mixed: common practice, no source.
const wellMixed = 0.9

// stirred returns how long a batch was mixed, and whether that is too short; known is false
// where nobody logged it as it happened.
func (b *BatchDay) stirred(plan *Batch) (took measure.Span, short, known bool) {
	hands := plan.Card.Stirred().Hands()
	if b.Mixed == nil || b.Meets == nil || b.Mixed.Before(*b.Meets) || !(hands > 0) {
		return 0, false, false
	}
	took = between(*b.Meets, *b.Mixed)
	return took, took < wellMixed*hands, true
}

// holds returns what keeps a batch that was mixed from being poured: it was mixed too
// briefly, or it has to stand; without text where nothing does.
func (d *CoatDay) holds(c *Coat, k int, now time.Time, units measure.System) Say {
	b, plan := &d.Batches[k], &c.Batches[k]
	m := plan.Card.Stirred()
	if took, short, known := b.stirred(plan); known && short && b.Told[Mixed] == 0 {
		if mixed := m.Hands().After(*b.Meets); mixed.After(now) {
			return Say{
				Do: "mix", Batch: b.Number, At: &mixed, Until: &mixed, Of: float64(m.Hands()), Late: true,
				Text: fmt.Sprintf("Batch %d was mixed for only %s of %s: mix on, then touch again", b.Number, units.Span(took),
					units.Span(m.Hands())),
			}
		}
	}
	if stood := m.Stand.After(*b.Mixed); m.Stand > 0 && stood.After(now) {
		return Say{
			Do: "stand", Batch: b.Number, At: &stood, Until: &stood, Of: float64(m.Stand),
			Text: fmt.Sprintf("Batch %d: let it stand; do not pour it yet", b.Number),
		}
	}
	return Say{}
}

// watch calls out limits before they are reached, nearest first.
func (d *CoatDay) watch(c *Coat, now time.Time, units measure.System) {
	add := func(batch int, limit time.Time, of measure.Span, text string) {
		say := Say{Do: "watch", Batch: batch, Text: text, Until: &limit, Of: float64(of), Late: !limit.After(now)}
		at := len(d.Watch)
		for at > 0 && d.Watch[at-1].Until.After(limit) {
			at--
		}
		d.Watch = append(d.Watch[:at], append([]Say{say}, d.Watch[at:]...)...)
	}
	for k := range d.Batches {
		b := &d.Batches[k]
		if b.UseBy != nil && b.Spread == nil && b.Rolled == nil {
			poured := b.When(Poured) != nil
			switch left := between(now, *b.UseBy); {
			case left <= 0: // said above all
			case b.Due.Empty.After(*b.UseBy) && !poured:
				add(b.Number, *b.UseBy, b.Life,
					fmt.Sprintf("Batch %d would be emptied %s after its pot life: pour it out on the floor now.", b.Number,
						units.Span(between(*b.UseBy, b.Due.Empty))))
			case left <= call(b.Life) && !poured:
				add(b.Number, *b.UseBy, b.Life, fmt.Sprintf("Batch %d: get it out of the pail.", b.Number))
			case left <= call(b.Life) && b.Poured == nil && d.logsPours(len(d.Batches)):
				add(b.Number, *b.UseBy, b.Life, fmt.Sprintf("Batch %d is taken as poured, as later ones were: if it still "+
					"stands, get it out of the pail.", b.Number))
			}
		}
		until, known := d.joins(c, k)
		if !known || b.Joined != nil || b.When(Rolled) != nil {
			continue
		}
		edge, joins := c.Working, b.Due.Pour
		if p := &c.Batches[k].Passage; p.Joined != nil {
			joins = latest(now, (measure.Span(d.Pace) * (*p.Joined - p.Pour)).After(joins))
		}
		switch left := between(now, until); {
		case left <= 0:
			add(b.Number, until, edge,
				fmt.Sprintf("The edge before section %d has set: a line will show. Stop at a joint or tape, note who decided.",
					c.Batches[k].Card.Section))
		case joins.After(until):
			add(b.Number, until, edge,
				fmt.Sprintf("Section %d comes too late for the edge it meets, by %s: one more person there, and join "+
					"it first.", c.Batches[k].Card.Section, units.Span(between(until, joins))))
		case left <= call(edge) && (b.State != Waiting || k == 0 || d.Batches[k-1].State != Waiting):
			add(b.Number, until, edge, fmt.Sprintf("Section %d: roll into the edge before it.", c.Batches[k].Card.Section))
		}
	}
}
