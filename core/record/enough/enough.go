// Package enough tells whether what is at hand reaches the end of a coat while it is poured: the area laid against the
// pails opened, the film that this makes, how thin the rest may be spread, and by when another kit must be there. It
// knows issued plans and what was logged, and changes neither.
package enough

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/record"
)

// Verdict says whether a coat reaches its end.
type Verdict string

// The verdicts.
const (
	AsPlanned Verdict = "as-planned" // nobody told yet how far a film reaches
	Enough    Verdict = "enough"
	Stretch   Verdict = "stretch" // the rest reaches, spread thinner
	Short     Verdict = "short"   // another kit is needed
	Thin      Verdict = "thin"    // what lies is under the least film of its sheet
)

// Values returns all values, in the order in which they are shown.
func (Verdict) Values() []Verdict { return []Verdict{AsPlanned, Enough, Stretch, Short, Thin} }

// Reach holds how far the pails of a coat reach.
type Reach struct {
	Coat    string       `json:"coat" doc:"Id of the coat"`
	Verdict Verdict      `json:"verdict"`
	Opened  int          `json:"opened" doc:"Pails begun, lost ones counted"`
	Pails   int          `json:"pails" doc:"Pails planned"`
	After   int          `json:"after,omitempty" doc:"The pail whose reach was told last; none when left out"`
	Laid    measure.Area `json:"laid" doc:"m² laid by the pails poured, those after the last told one at the same rate"`
	Planned measure.Area `json:"planned" doc:"m² planned for these"`
	Bare    measure.Area `json:"bare" doc:"m² still to be laid"`
	Film    measure.Film `json:"film" doc:"m wet so far"`
	Wanted  measure.Film `json:"wanted" doc:"m wet as planned"`
	Rest    measure.Film `json:"rest,omitempty" doc:"m wet to lay from here; left out where it is as planned"`
	Misses  measure.Area `json:"misses,omitempty" doc:"m² that the pails still to come leave bare even so"`
	More    measure.Mass `json:"more,omitempty" doc:"kg that is needed beside the planned pails, for them or, where the rest gets much thinner, for the planned film"`
	Over    measure.Mass `json:"over,omitempty" doc:"kg of the planned pails that stays over"`
	Spare   measure.Mass `json:"spare,omitempty" doc:"kg at hand beside all planned pails, as bought or in stock; not known when left out"`
	By      *time.Time   `json:"by,omitempty" doc:"When the mixing of another pail must start"`
	Ends    []End        `json:"ends,omitempty" doc:"Where the next sections end instead of at their tape"`
	Text    string       `json:"text" doc:"What was laid"`
	Do      string       `json:"do,omitempty" doc:"What to do about it"`
}

// End holds where a section ends instead of where it was taped.
type End struct {
	Batch int                 `json:"batch"`
	Area  measure.Area        `json:"area" doc:"m² that its pail covers"`
	Shift measure.Length      `json:"shift" doc:"m past its tape; below zero before it"`
	Line  [][2]geometry.Point `json:"line" doc:"Where its film ends, m on the plan, in stretches"`
}

// The figures below are common practice, no source.
const (
	near    = 0.03 // share by which a pail may reach less or more without being told
	slight  = 0.01 // share of the area to go that a roller takes from its neighbourhood
	thinner = 0.8  // of the film planned: the least to spread where the sheet names none
	// What is told makes of the planned reach; beyond these it was told in error.
	least, most = 0.3, 3
	// The least by which a tape is put elsewhere, m.
	leastShift measure.Length = 0.1
)

// Of returns how far the pails of the coats of a day reach that are begun and not done.
func Of(i *record.Issue, day *record.Day, units measure.System) []Reach {
	all := []Reach{}
	for n := range day.Coats {
		d := &day.Coats[n]
		if c := i.Coat(d.ID); c != nil && d.Begun != nil && d.Done == nil && laidAsFilm(c) {
			r := reckoner{coat: c, day: d, units: units, zone: i.Zone}
			if reach := r.reach(spare(i, day, c)); reach.After > 0 || reach.Bare > 0 {
				all = append(all, reach)
			}
		}
	}
	return all
}

// laidAsFilm reports whether a coat is laid with a known film, each batch of it on some area.
func laidAsFilm(c *record.Coat) bool {
	return c.Wet > 0 && !slices.ContainsFunc(c.Batches, func(b record.Batch) bool { return !(b.Card.Area > 0) })
}

// spare returns what is at hand of a product beside all that is planned of it and what was lost; false where the plan
// does not tell what was bought.
func spare(i *record.Issue, day *record.Day, c *record.Coat) (left measure.Mass, known bool) {
	for _, s := range i.Supplies {
		if s.Product == c.Product.ID && s.Hardener == c.Hardener {
			left, known = s.Mass, true
		}
	}
	if !known {
		return 0, false
	}
	for n := range i.Coats {
		o := &i.Coats[n]
		if o.Product.ID != c.Product.ID || o.Hardener != c.Hardener {
			continue
		}
		for k := range o.Batches {
			pails := 1
			for d := range day.Coats {
				if b := &day.Coats[d]; b.ID == o.ID {
					pails += len(b.Batches[k].Lost)
					if b.Batches[k].Out != nil {
						pails--
					}
				}
			}
			left -= measure.Mass(pails) * o.Batches[k].Card.Mass
		}
	}
	return max(0, left), true
}

// reckoner reckons one coat.
type reckoner struct {
	coat  *record.Coat
	day   *record.CoatDay
	units measure.System
	zone  string
}

// pail returns the area that a pail was planned to cover, by what was weighed into it.
func (r *reckoner) pail(k int) measure.Area {
	card, weighed := &r.coat.Batches[k].Card, measure.Mass(0)
	for _, m := range r.day.Batches[k].Masses {
		weighed += m
	}
	if weighed > 0 && card.Mass > 0 {
		return card.Area * measure.Area(weighed/card.Mass)
	}
	return card.Area
}

// rate returns how far the pails reach as shares of what was planned, and the number of the pail whose reach was
// told last; 1 and 0 where none was.
func (r *reckoner) rate() (rate float64, after int) {
	for k := len(r.day.Batches) - 1; k >= 0; k-- {
		b := &r.day.Batches[k]
		if b.Covered == nil || b.Began == nil {
			continue
		}
		planned := measure.Area(0)
		for j := range k + 1 {
			if r.day.Batches[j].Began != nil {
				planned += r.pail(j)
			}
		}
		if rate := float64(*b.Covered / planned); rate >= least && rate <= most {
			return rate, k + 1
		}
	}
	return 1, 0
}

// reach reckons how far the pails reach, with what is at hand beside them.
func (r *reckoner) reach(spare measure.Mass, known bool) Reach {
	rate, after := r.rate()
	out := Reach{Coat: r.coat.ID, Verdict: AsPlanned, Pails: len(r.coat.Batches), After: after, Wanted: r.coat.Wet,
		Film: r.coat.Wet / measure.Film(rate)}
	if known {
		out.Spare = spare
	}
	whole, rest, kilos := measure.Area(0), measure.Area(0), measure.Mass(0)
	for k := range r.day.Batches {
		b := &r.day.Batches[k]
		if b.Out != nil {
			out.Pails--
			continue
		}
		whole += r.coat.Batches[k].SectionArea()
		out.Opened += len(b.Lost)
		if b.Meets != nil || b.Began != nil {
			out.Opened++
		}
		if b.Began != nil {
			out.Planned += r.pail(k)
			continue
		}
		rest += r.pail(k)
		kilos += r.coat.Batches[k].Card.Mass
	}
	out.Laid = min(whole, out.Planned*measure.Area(rate))
	out.Bare = whole - out.Laid
	out.Text = fmt.Sprintf("%s laid, %s to go, if the pails go as far as planned.", r.units.Area(out.Laid),
		r.units.Area(out.Bare))
	if after == 0 && rest >= out.Bare*(1-slight) {
		out.Do = "Mark how far the film reaches, or type the area laid: then this tells whether the rest is enough."
		return out
	}
	if after > 0 {
		out.Text = fmt.Sprintf("After pail %d: %s laid, %s to go. The film is %s wet, planned %s.", after,
			r.units.Area(out.Laid), r.units.Area(out.Bare), r.units.Film(out.Film), r.units.Film(out.Wanted))
	}
	r.judge(&out, rest, kilos, rate)
	r.moves(&out)
	return out
}

// leastFilm returns the least film to spread, and whether the sheet names it.
func (r *reckoner) leastFilm() (film measure.Film, named bool) {
	if m := r.coat.Product.FilmMin; m != nil {
		return min(m.Value, r.coat.Wet), true
	}
	return thinner * r.coat.Wet, false
}

// judge says whether the pails still to come reach the end, and what to do. They were planned for an area and hold
// kilos.
func (r *reckoner) judge(out *Reach, rest measure.Area, kilos measure.Mass, rate float64) {
	floor, named := r.leastFilm()
	goes := rest * measure.Area(rate)
	short := goes < out.Bare*(1-slight)
	switch {
	case named && out.Film < floor*(1-near):
		out.Verdict = Thin
		if out.Bare < rest {
			out.Over = kilos * measure.Mass(1-out.Bare/rest)
		}
		out.Do = fmt.Sprintf("That is under the least film of its sheet, %s: bring mix back while it is wet, and lay the "+
			"rest at %s.", r.units.Film(floor), r.units.Film(r.coat.Wet))
		out.Rest = r.coat.Wet
	case !short:
		out.Verdict = Enough
		if goes > 0 {
			out.Over = kilos * measure.Mass(max(0, 1-out.Bare/goes))
		}
		out.Do = "Enough: go on as now."
		if rate > 1+near && rest > 0 {
			out.Rest = r.coat.Wet * measure.Film(min(1, rest/out.Bare))
			out.Over = kilos * measure.Mass(max(0, 1-out.Bare/rest))
			out.Do = fmt.Sprintf("Enough, and thinner than planned: lay the rest at %s.", r.units.Film(out.Rest))
		}
	case rest > 0 && r.coat.Wet*measure.Film(rest/out.Bare) >= floor:
		out.Verdict, out.Rest = Stretch, r.coat.Wet*measure.Film(rest/out.Bare)
		out.Do = fmt.Sprintf("As it goes, %s stays bare. Spread the rest at %s: then it reaches.",
			r.units.Area(out.Bare-goes), r.units.Film(out.Rest))
		if out.Rest < thinner*r.coat.Wet {
			r.needs(out, out.Bare-rest)
			out.Do += fmt.Sprintf(" For the planned film it takes %s more, mixed by %s.", r.units.Mass(out.More), r.by(out))
		}
	default:
		r.short(out, rest, floor, named)
	}
	if out.Over > 0 && out.Verdict != Thin {
		out.Do += fmt.Sprintf(" About %s stays over.", r.units.Mass(out.Over))
	}
}

// short says what it takes where the pails cannot reach the end, and by when.
func (r *reckoner) short(out *Reach, rest measure.Area, floor measure.Film, named bool) {
	out.Verdict = Short
	out.Misses = out.Bare - rest*measure.Area(r.coat.Wet/floor)
	if rest > 0 {
		out.Rest = floor
	}
	r.needs(out, out.Misses)
	var say strings.Builder
	if rest > 0 {
		fmt.Fprintf(&say, "Even at %s, the least ", r.units.Film(floor))
		if named {
			say.WriteString("of its sheet, ")
		} else {
			say.WriteString("to spread, ")
		}
	}
	fmt.Fprintf(&say, "%s stays bare: it takes %s more. ", r.units.Area(out.Misses), r.units.Mass(out.More))
	when := r.by(out)
	switch {
	case out.Spare >= out.More:
		fmt.Fprintf(&say, "Mix it of the %s left over at hand, at %s.", r.units.Mass(out.Spare), when)
	case out.Spare > 0:
		fmt.Fprintf(&say, "Only %s is at hand: another kit must be here by %s.", r.units.Mass(out.Spare), when)
	default:
		fmt.Fprintf(&say, "Another kit must be here by %s, or stop at a joint or tape.", when)
	}
	text := say.String()
	out.Do = strings.ToUpper(text[:1]) + text[1:]
}

// needs notes what an area takes at the planned film, and by when its mixing must start.
func (r *reckoner) needs(out *Reach, area measure.Area) {
	card := &r.coat.Batches[len(r.coat.Batches)-1].Card
	out.More = card.Mass * measure.Mass(area/card.Area)
	by := r.nextMixing()
	out.By = &by
}

// by returns when the mixing of another pail must start, by the clock of the site.
func (r *reckoner) by(out *Reach) string { return r.units.Time(record.Sited(*out.By, r.zone), "15:04") }

// nextMixing returns when one more pail would have to be begun to follow the last.
func (r *reckoner) nextMixing() time.Time {
	n := len(r.coat.Batches)
	last, plan := r.day.Batches[n-1].Due, &r.coat.Batches[n-1].Passage
	apart := plan.Laid - plan.Meets
	if n > 1 {
		apart = plan.Meets - r.coat.Batches[n-2].Passage.Meets
	}
	return apart.After(last.Meets)
}

// moves says where the sections still to come end instead of at their tape, at the film to lay from here.
func (r *reckoner) moves(out *Reach) {
	film := out.Rest
	if film == 0 {
		film = out.Film
	}
	laid, taped := out.Laid, measure.Area(0)
	for k := range len(r.day.Batches) - 1 {
		if r.day.Batches[k].Out != nil {
			continue
		}
		taped += r.coat.Batches[k].SectionArea()
		if r.day.Batches[k].Began != nil {
			continue
		}
		covers := r.pail(k) * measure.Area(r.coat.Wet/film)
		laid += covers
		edge := edgeAfter(r.coat, k)
		if edge == 0 || laid >= out.Laid+out.Bare {
			continue
		}
		if shift := measure.Length(laid-taped) / edge; measure.Length(math.Abs(float64(shift))) >= leastShift {
			out.Ends = append(out.Ends, End{Batch: k + 1, Area: covers, Shift: shift, Line: lineAfter(r.coat, k, shift)})
		}
	}
}
