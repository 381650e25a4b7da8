package plan

import (
	"fmt"
	"math"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// lives is what a sheet's times come to at the temperatures planned for.
type lives struct {
	window buildup.Window
	asked  bool
	table  *cure.Table         // pot life over mass; nil where there is none
	model  *cure.Life          // calibrated, once it was asked
	start  measure.Temperature // of the mix
}

// of is the pot life of a mass, 0 where there is none.
func (l *lives) of(mass measure.Mass) measure.Span {
	if l.table == nil {
		return 0
	}
	return l.table.Life(mass)
}

// bounds are the limits of a coat's batches, with what would relax them.
type bounds struct {
	limits []kit.Limit
	relax  []string
	bad    error
}

// pace is what bounds depend on beside the job: coats that share it share them.
type pace struct {
	key       string
	spreaders int
	pace      measure.Pace
	perArea   int64 // nL/m²
	more      measure.Span
}

// bounded bounds the batches of a coat.
func (m *maker) bounded(key string, p *material.Product, s kit.Spreading) *bounds {
	at := pace{key, s.Spreaders, s.Pace, int64(math.Round(float64(s.PerArea) * 1e12)), s.More}
	if known := m.limited[at]; known != nil {
		return known
	}
	s.Life, s.Kit, s.KitShare = m.life(key, p), m.supplies[key].Largest(), m.file.Job.Methods.kitShare()
	if carry := m.file.Job.Mixing.Carry; carry != nil {
		s.Carry = *carry
	}
	b := &bounds{}
	if b.limits, b.bad = kit.Limits(p, m.file.Job.Bucket, s, m.units); b.bad == nil {
		b.relax = m.relax(p, key, b.limits, s)
	}
	if m.limited == nil {
		m.limited = make(map[pace]*bounds)
	}
	m.limited[at] = b
	return b
}

// The masses over which a pot life is worked out: from a cup to a full bucket,
// beyond which it is taken to stay.
const leastMass measure.Mass = 0.2

// life works out, once for a sheet, how long a mass of it lives in the pail; nil
// where it has no pot life.
func (m *maker) life(key string, p *material.Product) func(measure.Mass) measure.Span {
	l := m.lives[key]
	if !l.asked {
		l.asked = true
		l.start = m.partsAt(m.mixes[key])
		l.table = m.table(key, l.start)
		m.extremes(l, p)
	}
	if l.table == nil {
		return nil
	}
	return l.table.Life
}

// partsAt is the temperature at which the parts of a mix have met.
func (m *maker) partsAt(mix material.Mix) measure.Temperature {
	a, b := m.slab, m.slab
	if t := m.file.Job.Mixing.A; t != nil {
		a, b = t.Value, t.Value
	}
	if t := m.file.Job.Mixing.B; t != nil {
		b = t.Value
	}
	parts := make([]cure.Part, len(mix.Shares))
	for i, s := range mix.Shares {
		parts[i] = cure.Part{Mass: s.Density.Value.Of(measure.Volume(s.Volume)), At: b}
		if i == 0 {
			parts[i].At = a
		}
	}
	return cure.Mixed(parts...)
}

// warmth is a sheet whose parts met at a temperature.
type warmth struct {
	key   string
	start measure.Temperature
}

// table is the pot life over mass of parts that met at a temperature; nil where
// there is none. Each is worked out once.
func (m *maker) table(key string, start measure.Temperature) *cure.Table {
	at := warmth{key, start}
	if table, known := m.tables[at]; known {
		return table
	}
	table := m.tabulate(key, start)
	if m.tables == nil {
		m.tables = make(map[warmth]*cure.Table)
	}
	m.tables[at] = table
	return table
}

func (m *maker) tabulate(key string, start measure.Temperature) *cure.Table {
	l, p, mix := m.lives[key], m.products[key], m.mixes[key]
	points, mass := p.PotPoints()
	if len(p.Components) < 2 || len(points) == 0 {
		return nil
	}
	if l.model == nil {
		model, err := cure.NewLife(cure.Sheet{Points: points, Mass: mass, Density: mix.Density.Value, Kinetics: p.Reacts()})
		if err != nil {
			return nil // refused by Faults
		}
		l.model = &model
	}
	air := m.slab
	if t := m.file.Job.Mixing.Air; t != nil {
		air = t.Value
	}
	most := max(mix.Density.Value.Of(m.file.Job.Bucket.Usable()), 2*leastMass)
	table, err := l.model.Over(leastMass, most, start, air, m.file.Job.Mixing.Standing)
	if err != nil {
		return nil
	}
	return &table
}

// extremes says where a mix is outside what its sheet speaks of.
func (m *maker) extremes(l *lives, p *material.Product) {
	if l.table == nil {
		return
	}
	path := "/job/mixing"
	_, mass := p.PotPoints()
	switch _, _, outside := p.Lives(l.start); {
	case p.MaterialMin != nil && l.start < p.MaterialMin.Value, p.MaterialMax != nil && l.start > p.MaterialMax.Value:
		m.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: path,
			Text:   fmt.Sprintf("%s is mixed at %s; its sheet allows its parts %s.", p.Name, m.units.Temperature(l.start), m.between(p.MaterialMin, p.MaterialMax)),
			WayOut: "Store the parts at the working temperature for 12 to 18 h before.",
		})
	case outside:
		m.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: path,
			Text:   fmt.Sprintf("The pot life of %s at %s lies outside the temperatures of its sheet and is extrapolated.", p.Name, m.units.Temperature(l.start)),
			WayOut: "Try a small batch first, with a clock.",
		})
	}
	if mass == 0 {
		m.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: m.productPath(p.ID) + "/potLife",
			Text:   fmt.Sprintf("The sheet of %s does not say on which mass its pot life was measured; %s was assumed, and how much shorter a bucket lives rests on that.", p.Name, m.units.Mass(cure.AssumedMass)),
			WayOut: "Ask the maker, or time a batch and enter it as your own test.",
		})
	}
}

func (m *maker) between(low, high *measure.Sourced[measure.Temperature]) string {
	switch {
	case low == nil:
		return "at most " + m.units.Temperature(high.Value)
	case high == nil:
		return "at least " + m.units.Temperature(low.Value)
	}
	return m.units.Temperature(low.Value) + " to " + m.units.Temperature(high.Value)
}

// worth is how much larger a batch has to become for a way to be told: common
// practice, no source.
const worth = 1.08

// cooler is by how much colder parts are asked about, K.
const cooler measure.Temperature = 6

// relax says what would allow larger batches: first what lifts the limit that
// decides, up to the one behind it.
func (m *maker) relax(p *material.Product, key string, limits []kit.Limit, s kit.Spreading) []string {
	if len(limits) < 2 {
		return nil
	}
	decides, next := limits[0], limits[1]
	var ways []string
	tell := func(what string, v measure.Volume) {
		if v = min(v, next.Volume); v > decides.Volume*worth {
			ways = append(ways, fmt.Sprintf("%s: %s instead of %s.", what, m.units.Volume(v), m.units.Volume(decides.Volume)))
		}
	}
	switch decides.Name {
	case "bucket":
		tell("A larger bucket", next.Volume)
	case "kit policy":
		tell("Whole kits", next.Volume)
	case "pot life":
		hands := s
		hands.Spreaders++
		tell("Another pair of hands", hands.Spreadable(p, next.Volume))
		l := m.lives[key]
		if cold := m.table(key, l.start-cooler); cold != nil {
			cool := s
			cool.Life = cold.Life
			tell(fmt.Sprintf("Parts at %s", m.units.Temperature(l.start-cooler)), cool.Spreadable(p, next.Volume))
		}
		id := p.ID
		for _, other := range m.file.Products {
			if other.ID != id {
				continue
			}
			for _, h := range other.Hardeners {
				slow := m.products[sheetKey(id, h.ID)]
				if sheetKey(id, h.ID) == key || slow == nil {
					continue
				}
				if table := m.table(sheetKey(id, h.ID), l.start); table != nil {
					slower := s
					slower.Life = table.Life
					tell("The "+h.Name, slower.Spreadable(slow, next.Volume))
				}
			}
		}
	}
	return ways
}

// wayToBatches is what helps where a coat cannot be divided at all.
func (m *maker) wayToBatches(p *material.Product) string {
	if len(p.Hardeners) > 0 {
		return "Take a slower hardener, cooler parts, more people or a larger bucket."
	}
	return "Take a larger bucket, cooler parts, more people, or a product with a longer pot life."
}

// smoke warns of the largest batch of a sheet that would smoke if it were left
// standing.
func (m *maker) smoke() {
	largest := make(map[string]kit.Batch)
	var order []string
	for _, s := range m.plan.Surfaces {
		for _, c := range s.Coats {
			if c.Division == nil {
				continue
			}
			key := sheetKey(c.Product, c.Hardener)
			for _, b := range c.Division.Batches {
				if _, seen := largest[key]; !seen {
					order = append(order, key)
				}
				if b.Mass > largest[key].Mass {
					largest[key] = b
				}
			}
		}
	}
	for _, key := range order {
		l, p, b := m.lives[key], m.products[key], largest[key]
		if l.table == nil {
			continue
		}
		h, err := l.model.Stand(b.Mass, l.start)
		if err != nil || !h.Smokes {
			continue
		}
		m.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: m.productPath(p.ID),
			Text: fmt.Sprintf("%s: a batch of %s left standing heats itself to about %s within %s and smokes.",
				p.Name, m.units.Mass(b.Mass), m.units.Temperature(measure.Temperature(math.Round(float64(h.Peak.Temperature)/5)*5)), m.units.Span(h.Peak.Time)),
			WayOut: "Pour it out at once. If one runs hot, carry it outside and leave it; never add water, never seal it.",
		})
	}
}
