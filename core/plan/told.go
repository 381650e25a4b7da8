package plan

import (
	"fmt"
	"math"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
)

// stages are all that was worked out before the plan is told.
type stages struct {
	measured measured
	surveyed surveyed
	built    built
	bought   bought
	divided  divided
	laid     laid
	timed    timed
}

// tell puts the stages together into a plan, with what spans them: cards,
// neighbouring coats, media, tools, tasks, and how far each step is.
func tell(t terms, found []finding.Finding, s stages) Plan {
	p := Plan{
		Overall: Overall{
			Units: t.units, Zone: t.file.Job.Zone, Area: s.measured.area, Cost: s.bought.cost, Purchases: s.bought.purchases,
			Findings: make([]finding.Finding, 0, len(found)+16),
		},
		Surfaces: make([]SurfacePlan, len(t.layers)),
	}
	for _, all := range [][]finding.Finding{found, s.measured.found, s.surveyed.found, s.built.found, s.bought.found, s.divided.found, s.laid.found, s.timed.found} {
		p.Findings = append(p.Findings, all...)
	}
	for i := range t.layers {
		surface, found := t.surface(i, s)
		p.Surfaces[i] = surface
		p.Findings = append(p.Findings, found...)
	}
	for i := range t.layers {
		p.Findings = append(p.Findings, t.neighbours(i, s)...)
	}
	p.Findings = append(p.Findings, t.smoke(s)...)
	p.Media, p.Tools = t.supply(p)
	p.Tasks = t.tasks(s)
	p.Line = line(t, p)
	p.Steps = steps(p)
	return p
}

// surface puts one surface together.
func (t terms) surface(i int, s stages) (SurfacePlan, []finding.Finding) {
	from, m := t.file.Job.Surfaces[i], s.measured.surfaces[i]
	out := SurfacePlan{
		Bare: Bare{
			ID: from.ID, Name: from.Name, Takeoff: m.takeoff, Faults: m.faults, Exit: m.exit,
			Survey: s.surveyed.surfaces[i], Course: s.laid.courses[i],
		},
		Coats: make([]CoatPlan, len(t.layers[i])),
	}
	var found []finding.Finding
	for c, l := range t.layers[i] {
		d, lay, timed := s.divided.coats[i][c], s.laid.coats[i][c], s.timed.coats[i][c]
		coat := CoatPlan{
			ID: l.coat.ID, Number: l.number, Product: l.coat.Product, Hardener: l.coat.Hardener,
			Build: s.built.coats[i][c], Window: timed.window, Times: timed.times,
			Price: d.price, Reached: d.reached, Mixed: d.mixed, Division: d.division, Sections: lay.sections, Cuts: lay.cuts,
		}
		if l.sheet != nil {
			coat.Name, coat.Color = l.sheet.product.Name, l.sheet.product.Color
		}
		if d.division != nil {
			cards, told := t.cards(l, coat.Build, d, lay.sections, timed.clocks, s.divided.lives[l.sheet.key], m.takeoff)
			coat.Cards, found = cards, append(found, told...)
		}
		out.Coats[c] = coat
	}
	return out, found
}

// neighbours checks the coats of a surface against each other.
func (t terms) neighbours(i int, s stages) []finding.Finding {
	from := t.file.Job.Surfaces[i]
	layers := make([]buildup.Layer, 0, len(t.layers[i]))
	for c, l := range t.layers[i] {
		if l.sheet == nil {
			return nil // the gap is told already
		}
		window := l.sheet.window
		if own := s.timed.coats[i][c].window; own != nil {
			window = *own
		}
		layers = append(layers, buildup.Layer{Coat: l.coat, Sheet: l.sheet.product, Window: window, Mix: l.sheet.mix, Build: s.built.coats[i][c], Path: l.path})
	}
	bed := buildup.Bed{
		Name: from.Name, Path: surfacePath(i), Temperature: t.slab, Media: t.media, Service: from.Service,
		Sands: t.methods.Between == school.SandEvery, DampMost: measure.Fraction(t.rules["slab-humidity"].Value),
	}
	if v := t.file.Job.VOCMax; v != nil {
		bed.VOCMax = v.Value
	}
	if off := s.measured.surfaces[i].takeoff; off != nil {
		bed.Fills = off.Filler > 0
	}
	if from.Survey != nil {
		bed.Substrate = substrate(from.Survey.Substrate)
		for _, r := range from.Survey.Readings {
			if r.Kind == survey.SlabHumidity {
				bed.Damp = max(bed.Damp, measure.Fraction(r.Value))
			}
		}
	}
	return buildup.Neighbours(layers, bed, t.units)
}

// substrate is in the words in which sheets say what they go over.
func substrate(s survey.Substrate) string {
	switch s {
	case survey.Trowelled:
		return string(survey.Concrete)
	case survey.Timber, survey.Board:
		return "wood"
	case survey.OldCoating:
		return "old-paint"
	}
	return string(s)
}

// smoke warns of the largest batch of a sheet that would smoke if it were left
// standing.
func (t terms) smoke(s stages) []finding.Finding {
	largest := make(map[material.SheetKey]kit.Batch)
	var order []material.SheetKey
	for i, layers := range t.layers {
		for c, l := range layers {
			division := s.divided.coats[i][c].division
			if division == nil {
				continue
			}
			for _, b := range division.Batches {
				if _, seen := largest[l.sheet.key]; !seen {
					order = append(order, l.sheet.key)
				}
				if b.Mass > largest[l.sheet.key].Mass {
					largest[l.sheet.key] = b
				}
			}
		}
	}
	var found []finding.Finding
	for _, key := range order {
		life, b := s.divided.lives[key], largest[key]
		if life == nil || life.table == nil {
			continue
		}
		h, err := life.model.Stand(b.Mass, life.start)
		if err != nil || !h.Smokes {
			continue
		}
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: t.sheets[key].path,
			Text: fmt.Sprintf("%s: a batch of %s left standing heats itself to about %s within %s and smokes.",
				t.sheets[key].product.Name, t.units.Mass(b.Mass), t.units.Temperature(measure.Temperature(math.Round(float64(h.Peak.Temperature)/5)*5)), t.units.Span(h.Peak.Time)),
			WayOut: "Pour it out at once. If one runs hot, carry it outside and leave it; never add water, never seal it.",
		})
	}
	return found
}
