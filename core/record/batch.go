package record

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/measure"
)

// mixedAt is a product whose parts met at a temperature.
type mixedAt struct {
	product, hardener string
	start, air        measure.Temperature
	standing          cure.Standing
}

// The masses over which a pot life is worked out: from a cup to more than a bucket.
const (
	leastMass measure.Mass = 0.2
	mostMass  measure.Mass = 60
)

// life returns how long a mass of a mix lives with its parts at temperatures; false where the
// sheet tells too little for it.
func (t *Teller) life(i *Issue, c *Coat, mass measure.Mass, a, b, air measure.Temperature) (life measure.Span, beyond,
	known bool) {
	p := &c.Product
	mix := p.Mix()
	if len(p.Components) < 2 || len(p.PotLife) == 0 || !(mass > 0) {
		return 0, false, false
	}
	parts := make([]cure.Part, len(mix.Shares))
	for n, s := range mix.Shares {
		parts[n] = cure.Part{Mass: s.Density.Value.Of(measure.Volume(s.Volume)), At: b}
		if n == 0 {
			parts[n].At = a
		}
	}
	at := mixedAt{p.ID, c.Name, cure.Mixed(parts...), air, i.Standing}
	table, there := t.tables[at]
	if !there {
		model, err := t.known.Life(p.Sheet(mix))
		if err != nil {
			return 0, false, false
		}
		if table, err = model.Over(leastMass, mostMass, at.start, air, i.Standing); err != nil {
			return 0, false, false
		}
		t.tables[at] = table
	}
	return kit.CardLife(p, table.Life(mass)), table.Beyond, true
}

// untouched is a batch to which nothing happened yet.
func (b *Batch) untouched() BatchDay {
	return BatchDay{Number: b.Number, ID: b.ID, State: Waiting, Attempt: 1, Lost: []Remark{}, Films: []FilmRead{},
		Events: make(map[Kind]string), Told: make(map[Kind]measure.Span), Cups: make(map[int]string), Life: b.Life}
}

// anew is a batch whose bucket was lost.
func (b *Batch) anew(lost BatchDay, e *Event) BatchDay {
	d := b.untouched()
	d.Attempt, d.Hot = lost.Attempt+1, lost.Hot
	if share := lost.lived(e); share > 0 && share < 1 {
		d.Hot = append(d.Hot, share)
	}
	d.Lost = append(lost.Lost, Remark{At: e.When(), By: e.Name, Text: e.Body.Text, Event: e.ID, Task: string(e.Task)})
	return d
}

// batch reads what happened to a batch. A lost bucket begins it anew.
func (t *Teller) batch(i *Issue, c *Coat, b *Batch, events byBatch, units measure.System) BatchDay {
	d := b.untouched()
	told := (*measure.Temperature)(nil) // with A meeting B
	mark := func(e *Event, to **time.Time) {
		at := e.When()
		*to = &at
		d.Events[e.Kind] = e.ID
		if late := between(at, e.Logged()); late > 0 {
			d.Told[e.Kind] = late
		} else {
			delete(d.Told, e.Kind)
		}
	}
	for _, e := range events.of[batchKey{c.ID, b.Number}] {
		if e.Kind.step() && !slices.Contains(d.People, e.Name) {
			d.People = append(d.People, e.Name)
		}
		switch e.Kind {
		case Meets:
			if d.Meets != nil {
				d.again(e, i.Zone, units)
				continue
			}
			mark(e, &d.Meets)
			d.A, d.B, told = e.Body.A, e.Body.B, e.Body.Air
		case Mixed:
			mark(e, &d.Mixed)
			d.Saw = e.Body.Saw
		case Poured:
			mark(e, &d.Poured)
		case Spread:
			mark(e, &d.Spread)
		case Rolled:
			mark(e, &d.Rolled)
		case Joined:
			mark(e, &d.Joined)
		case Thrown:
			d.Thrown = append(d.Thrown, Throw{*e.Body.Mass, *e.Body.Took, e.ID})
		case Cup:
			d.Cups[*e.Body.Cup] = e.ID
		case Emptied:
			d.Spot, d.Covered = cmp.Or(e.Body.At, d.Spot), cmp.Or(e.Body.Area, d.Covered)
			d.Events[Emptied] = e.ID
		case Weighed:
			d.Masses = e.Body.Masses
			d.Events[Weighed] = e.ID
		case Lot:
			d.Lots, d.Expires = e.Body.Lots, e.Body.Expires
			d.Events[Lot] = e.ID
		case Film:
			d.Films = append(d.Films, FilmRead{Film: *e.Body.Film, At: e.When(), By: e.Name,
				Bad: filmAgainst(c, *e.Body.Film, units), Event: e.ID})
		case LeftOut:
			d.leave(e)
		case Lost:
			d = b.anew(d, e)
		}
	}
	for _, reached := range []struct {
		at    *time.Time
		state string
	}{{d.Meets, Mixing}, {d.Mixed, Ready}, {d.Poured, Pouring}, {d.Spread, Spreading}, {d.Rolled, Finished}} {
		if reached.at != nil {
			d.State, d.Out = reached.state, nil
		}
	}
	d.overmixed(&b.Card, units)
	air := events.air(d.Meets, i.Air)
	if told != nil {
		air = *told
	}
	d.lives(t, i, c, b, air, units)
	d.weighs(c, b, i.Bucket, units)
	return d
}

// overmixed notes that a batch was mixed longer than its sheet allows.
func (d *BatchDay) overmixed(card *kit.Card, units measure.System) {
	most := card.MixedAtMost()
	if most == 0 || d.Meets == nil || d.Mixed == nil {
		return
	}
	if mixed := between(*d.Meets, *d.Mixed); mixed > most+measure.Span(sameTouch.Seconds()) {
		d.Doubts = append(d.Doubts, fmt.Sprintf("Batch %d: mixed for %s in all, its sheet allows %s. Longer mixing whips in "+
			"air and uses up pot life.", d.Number, units.Span(mixed), units.Span(most)))
	}
}

// sameTouch is the most that two touches of one batch lie apart and count as one.
const sameTouch = time.Minute

// again takes a second entry of mixing start. The first counts, since pot life runs from
// there; what contradicts it is told.
func (d *BatchDay) again(e *Event, zone string, units measure.System) {
	if off := e.When().Sub(*d.Meets); off > sameTouch {
		d.Doubts = append(d.Doubts,
			fmt.Sprintf("Batch %d: mixing start was logged at %s and again at %s by %s. The first counts; void the one that "+
				"is wrong.",
				d.Number, units.Time(Sited(*d.Meets, zone), "15:04"), units.Time(Sited(e.When(), zone), "15:04"), e.Name))
	}
	for _, part := range []struct {
		name       string
		kept, told *measure.Temperature
	}{{"A", d.A, e.Body.A}, {"B", d.B, e.Body.B}} {
		if part.kept != nil && part.told != nil && *part.kept != *part.told {
			d.Doubts = append(d.Doubts, fmt.Sprintf("Batch %d: part %s was entered at %s and at %s. The first counts.", d.Number,
				part.name, units.Temperature(*part.kept), units.Temperature(*part.told)))
		}
	}
	if d.A == nil {
		d.A = e.Body.A
	}
	if d.B == nil {
		d.B = e.Body.B
	}
}

// lived returns what share of its life as planned a bucket lived that went hot; 0 where it did not, or nobody knows.
func (d *BatchDay) lived(e *Event) float64 {
	if e.Body.Text != WentHot || d.Meets == nil || !(d.Life > 0) {
		return 0
	}
	return float64(between(*d.Meets, e.When()) / d.Life)
}

// lives works out its life from the parts as warm as they were.
func (d *BatchDay) lives(t *Teller, i *Issue, c *Coat, b *Batch, air measure.Temperature, units measure.System) {
	if b.Life <= 0 {
		return
	}
	d.Basis = "parts as warm as planned"
	d.Beyond = b.Card.Beyond
	if d.A != nil || d.B != nil {
		one, other := d.A, d.B
		if one == nil {
			one = other
		}
		if other == nil {
			other = one
		}
		if life, beyond, known := t.life(i, c, d.mass(b), *one, *other, air); known {
			d.Life, d.Beyond = life, beyond
			d.Basis = fmt.Sprintf("A at %s, B at %s, air at %s, %s in the pail", units.Temperature(*one),
				units.Temperature(*other), units.Temperature(air), units.Mass(d.mass(b)))
		}
	}
	if d.Meets != nil {
		by := d.Life.After(*d.Meets)
		d.UseBy = &by
	}
}

// mass returns what is in its pail, as weighed or else as planned.
func (d *BatchDay) mass(b *Batch) measure.Mass {
	sum := measure.Mass(0)
	for _, m := range d.Masses {
		sum += m
	}
	if sum > 0 {
		return sum
	}
	return b.Card.Mass
}

// weighs judges its ratio.
func (d *BatchDay) weighs(c *Coat, b *Batch, bucket measure.Volume, units measure.System) {
	if len(d.Masses) < 2 {
		return
	}
	w := kit.Weighed{Masses: d.Masses, Life: d.Life, Bucket: bucket}
	if check, err := kit.CheckRatio(&c.Product, w, units); err == nil {
		check.Workings = []measure.Working{}
		d.Ratio = &check
	}
}

// filmOff is the greatest share by which a reading may differ from the film to lay: common practice, no source.
const filmOff = 0.2

// filmAgainst returns what is wrong with a film; empty where nothing is.
func filmAgainst(c *Coat, f measure.Film, units measure.System) string {
	off := float64(f/c.Wet) - 1
	switch {
	case c.Product.FilmMax != nil && f > c.Product.FilmMax.Value:
		return fmt.Sprintf("%s is more than the sheet allows in one coat, %s. Spread it out.", units.Film(f),
			units.Film(c.Product.FilmMax.Value))
	case c.Product.FilmMin != nil && f < c.Product.FilmMin.Value:
		return fmt.Sprintf("%s is less than the sheet needs, %s. Bring more here while it is wet.", units.Film(f),
			units.Film(c.Product.FilmMin.Value))
	case math.Abs(off) <= filmOff:
		return ""
	case off > 0:
		return fmt.Sprintf("%s is %s more than the %s to lay: the batch will not reach. Spread it out.", units.Film(f),
			units.Fraction(measure.Fraction(off)), units.Film(c.Wet))
	}
	return fmt.Sprintf("%s is %s less than the %s to lay. Bring more here while it is wet.", units.Film(f),
		units.Fraction(measure.Fraction(-off)), units.Film(c.Wet))
}

// nextCup returns the sentence about the cup that is poured next; empty where none is left.
func (d *BatchDay) nextCup(plan *Batch) string {
	for n, c := range plan.Card.Cups {
		if _, poured := d.Cups[n+1]; poured {
			continue
		}
		return fmt.Sprintf("Batch %d: cup %d of %d, %s: %s", d.Number, n+1, len(plan.Card.Cups), c.Name,
			cmp.Or(c.Where, "over all pieces in turn"))
	}
	return ""
}
