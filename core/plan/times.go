package plan

import (
	"fmt"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/climate"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// CoatTimes is when a coat is laid, if the crew works on without a break, and
// when its film comes to what its sheet names.
type CoatTimes struct {
	Start  *time.Time          `json:"start,omitempty" doc:"Of its first section; absent while the start of the work is not planned"`
	End    *time.Time          `json:"end,omitempty" doc:"Of its last section"`
	Spread measure.Span        `json:"spread" doc:"s that the crew spreads"`
	Slab   measure.Temperature `json:"slab" doc:"°C of the slab when it is laid"`
	Stages []FilmStage         `json:"stages"`
}

// FilmStage is one time of a film. What ends, as the working time and the last
// chance for the next coat, counts from the first section; all else from the last.
type FilmStage struct {
	Key     string       `json:"key" enum:"working,tackFree,recoatFrom,recoatUntil,foot,vehicle,water,full"`
	Name    string       `json:"name"`
	After   measure.Span `json:"after" doc:"s after its section was laid"`
	At      *time.Time   `json:"at,omitempty"`
	Outside bool         `json:"outside,omitempty" doc:"The slab is outside the temperatures of the sheet on the way: extrapolated"`
	Beyond  bool         `json:"beyond,omitempty" doc:"The forecast ends on the way; the mean of its last day stands in"`
}

// Ends tells whether a stage is the end of something.
func (s FilmStage) Ends() bool { return s.Key == "working" || s.Key == "recoatUntil" }

// slabHours is the temperature of a surface's slab hour by hour, from a time on.
type slabHours struct {
	from   time.Time
	hourly []measure.Temperature
	passed map[string]*cure.Passage // by sheet and stage
}

// warmth is the slab of a surface through the forecast, corrected by what was
// read on it; where there is no forecast, the slab planned for.
func (m *maker) warmth(i int) *slabHours {
	place, read := climate.Place{}, []climate.Reading(nil)
	if s := m.file.Job.Surfaces[i].Survey; s != nil {
		place, read = placed(*s)
	}
	hours, slab := m.forecast(place)
	if len(hours) == 0 {
		if m.steady == nil {
			m.steady = &slabHours{hourly: []measure.Temperature{m.slab}, passed: make(map[string]*cure.Passage)}
		}
		return m.steady
	}
	if len(read) == 0 {
		if m.warms[place] == nil {
			if m.warms == nil {
				m.warms = make(map[climate.Place]*slabHours)
			}
			m.warms[place] = &slabHours{hours[0].At, slab, make(map[string]*cure.Passage)}
		}
		return m.warms[place]
	}
	return &slabHours{hours[0].At, climate.Correct(slab, hours, read), make(map[string]*cure.Passage)}
}

// passage of a sheet's film to a stage; nil where its sheet gives none.
func (w *slabHours) passage(key string, s material.Stage) *cure.Passage {
	at := key + s.Field
	p, known := w.passed[at]
	if !known {
		if rate, err := s.Rate(); err == nil {
			p = rate.Along(w.hourly)
		}
		w.passed[at] = p
	}
	return p
}

// after is how long a film laid at a time takes to a stage.
func (m *maker) after(w *slabHours, p *cure.Passage, laid time.Time) (after measure.Span, outside, beyond bool) {
	if w == m.steady {
		after, outside, _ = p.Reach(0)
		return after, outside, false
	}
	return p.Reach(measure.Span(laid.Sub(w.from).Seconds()))
}

func later(t time.Time, s measure.Span) time.Time {
	return t.Add(time.Duration(float64(s) * float64(time.Second)))
}

// times lays the coats one after another, round by round over the surfaces, and
// follows each film.
func (m *maker) times() {
	start := m.file.Job.Start
	laid := start != nil
	free := m.now
	if laid {
		free = *start
	}
	warms := make([]*slabHours, len(m.plan.Surfaces))
	last := make([]*CoatTimes, len(m.plan.Surfaces)) // of the coat below
	for round, more := 0, true; more; round++ {
		more = false
		for i := range m.plan.Surfaces {
			s := &m.plan.Surfaces[i]
			if round >= len(s.Coats) {
				continue
			}
			more = true
			if warms[i] == nil {
				warms[i] = m.warmth(i)
			}
			c := &s.Coats[round]
			if c.Division == nil {
				last[i] = nil
				continue
			}
			at := free
			if below := last[i]; below != nil && laid {
				wait := stage(below, "recoatFrom").After
				if own := m.file.Job.Surfaces[i].Coats[round].Wait; own != nil {
					wait = *own
				}
				if ready := later(*below.End, wait); ready.After(at) {
					at = ready
				}
			}
			t := m.lay(i, round, warms[i], at)
			if laid {
				free = *t.End
				m.clock(i, round, t)
				if last[i] != nil {
					m.late(i, round, last[i], *t.Start)
				}
			}
			c.Times, last[i] = t, t
		}
	}
}

// lay follows the film of a coat that is begun at a time.
func (m *maker) lay(i, n int, w *slabHours, at time.Time) *CoatTimes {
	s, c := &m.plan.Surfaces[i], &m.plan.Surfaces[i].Coats[n]
	crew := m.crew(i, n)
	t := &CoatTimes{Spread: measure.Span(float64(s.Takeoff.Area) / (float64(crew.Pace.Value) * float64(crew.Spreaders))), Slab: m.slab, Stages: []FilmStage{}}
	end := later(at, t.Spread)
	if m.file.Job.Start != nil {
		first, last := at, end
		t.Start, t.End = &first, &last
	}
	key := sheetKey(c.Product, c.Hardener)
	for _, stage := range c.product.Stages() {
		p := w.passage(key, stage)
		if p == nil {
			continue
		}
		if w != m.steady {
			t.Slab = p.At(measure.Span(at.Sub(w.from).Seconds()))
		}
		f := FilmStage{Key: stage.Field[1:], Name: stage.Name}
		from := end
		if f.Ends() {
			from = at
		}
		f.After, f.Outside, f.Beyond = m.after(w, p, from)
		if t.Start != nil {
			when := later(from, f.After)
			f.At = &when
		}
		t.Stages = append(t.Stages, f)
	}
	m.limits(c, t)
	if c.Window != nil && t.Start != nil && w != m.steady {
		// The window as it comes out through the forecast, counted from the end
		// of this coat.
		from, until := stage(t, "recoatFrom"), stage(t, "recoatUntil")
		c.Window = &buildup.Window{From: from.After, At: t.Slab, Outside: from.Outside || until.Outside, Forecast: true}
		if until.After > 0 {
			c.Window.Until = max(until.After-t.Spread, 1)
		}
	}
	return t
}

// stage of a coat, empty where its sheet gives none.
func stage(t *CoatTimes, key string) FilmStage {
	for _, s := range t.Stages {
		if s.Key == key {
			return s
		}
	}
	return FilmStage{}
}

// limits says where a coat is laid on a slab that its sheet does not allow.
func (m *maker) limits(c *CoatPlan, t *CoatTimes) {
	p := c.product
	if (p.SlabMin == nil || t.Slab >= p.SlabMin.Value) && (p.SlabMax == nil || t.Slab <= p.SlabMax.Value) {
		return
	}
	when, way := "", "Plan for another slab, warm or shade the place, or take a product for this one."
	if t.Start != nil {
		when = " at " + m.hour(*t.Start)
		way = "Start at another hour, warm or shade the place, or take a product for this slab."
	}
	m.find(finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: c.path,
		Text:   fmt.Sprintf("Coat %d of %s goes on a slab of %s%s; its sheet refuses all but %s.", c.Number, p.Name, m.units.Temperature(t.Slab), when, m.between(p.SlabMin, p.SlabMax)),
		WayOut: way,
	})
}

// late says where the crew comes to a coat only after the window of the one
// below has closed. A wait of the contractor's own is judged between neighbours.
func (m *maker) late(i, n int, below *CoatTimes, start time.Time) {
	coat := m.file.Job.Surfaces[i].Coats[n]
	until := stage(below, "recoatUntil")
	if until.At == nil || !start.After(*until.At) || coat.Abraded || coat.Wait != nil || m.file.Job.Methods.Between == "sand" {
		return
	}
	c := m.plan.Surfaces[i].Coats[n]
	m.find(finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: c.path,
		Text: fmt.Sprintf("%s: the crew comes to coat %d at %s, but the window of coat %d closed at %s.",
			m.plan.Surfaces[i].Name, c.Number, m.hour(start), n, m.hour(*until.At)),
		WayOut: "Abrade it before, finish one surface before the next is begun, or bring more people.",
		Fix: &finding.Fix{Label: fmt.Sprintf("Abrade coat %d before it", n), Patch: []finding.PatchStep{
			{Op: "add", Path: fmt.Sprintf("%s/coats/%d/abraded", surfacePath(i), n), Value: true},
		}},
	})
}

// hour tells a time as the person who planned the start reads the clock.
func (m *maker) hour(t time.Time) string {
	return t.In(m.file.Job.Start.Location()).Format("Mon 15:04")
}

// clock tells when A meets B for each batch, so that it arrives as the one
// before runs out, and until when its pail lives.
func (m *maker) clock(i, n int, t *CoatTimes) {
	c := &m.plan.Surfaces[i].Coats[n]
	arrives := *t.Start
	carry := measure.Span(0)
	if own := m.file.Job.Mixing.Carry; own != nil {
		carry = *own
	}
	for k := range c.Cards {
		card := &c.Cards[k]
		if card.PotLife > 0 {
			meets := later(arrives, -(card.Mixing + m.mixesMore(m.file.Job.Surfaces[i].Coats[n], c.product) + card.Induction + carry))
			useBy := later(meets, card.PotLife)
			card.Meets, card.UseBy = &meets, &useBy
		}
		arrives = later(arrives, t.Spread*measure.Span(card.Volume/c.Division.Mixed))
	}
}
