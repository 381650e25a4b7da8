package plan

import (
	"fmt"

	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
)

// pour divides each coat of a surface into batches and the surface into their
// sections.
func (m *maker) pour(i int) {
	s, out := m.file.Job.Surfaces[i], &m.plan.Surfaces[i]
	most := 0
	for c := range out.Coats {
		coat := &out.Coats[c]
		if coat.Build == nil {
			continue
		}
		m.batches(i, c)
		if coat.Division != nil && (most == 0 || len(coat.Division.Batches) > len(out.Coats[most-1].Division.Batches)) {
			most = c + 1
		}
	}
	if most == 0 {
		return
	}
	if len(s.Floor.Outline) == 0 {
		m.share(i)
		return
	}
	polygon, path := s.Floor.Polygon(), surfacePath(i)
	course := pour.Plot(polygon, s.Layout, shares(out.Coats[most-1].Division))
	out.Course = &course
	if s.Layout.Exit == nil && len(out.Coats[most-1].Division.Batches) > 1 {
		m.find(finding.Finding{
			Level: finding.Note, Step: finding.Sections, Path: path + "/layout/exit",
			Text: s.Name + " has no exit marked, so the sections may not end at the door.", WayOut: "Mark the door by which the crew leaves.",
		})
	}
	laid := make(map[int]pour.Laying) // coats of as many equal batches share their sections
	for c := range out.Coats {
		coat := &out.Coats[c]
		if coat.Division == nil {
			continue
		}
		laying, known := laid[coat.Division.Equal()]
		if !known {
			laying = course.Lay(polygon, shares(coat.Division))
			if n := coat.Division.Equal(); n > 0 {
				laid[n] = laying
			}
		}
		coat.Sections, coat.Cuts = laying.Sections, laying.Cuts
		m.find(laying.Findings(path, coat.Number)...)
		m.card(i, c)
	}
}

// share divides a surface that has no drawing by area alone.
func (m *maker) share(i int) {
	out := &m.plan.Surfaces[i]
	panels := out.Takeoff.Panels
	if len(panels) == 0 {
		panels = []takeoff.Panel{{Name: "Area", Area: out.Takeoff.Flat}}
	}
	for c := range out.Coats {
		coat := &out.Coats[c]
		if coat.Division == nil {
			continue
		}
		coat.Sections = pour.Share(panels, shares(coat.Division))
		if m.file.Job.Surfaces[i].Top != nil {
			m.find(pour.Joins(panels, coat.Sections, surfacePath(i), coat.Number)...)
		}
		coat.Cuts = []pour.Cut{}
		m.card(i, c)
	}
}

func shares(d *kit.Division) []float64 {
	all := make([]float64, len(d.Batches))
	for i, b := range d.Batches {
		all[i] = float64(b.Volume)
	}
	return all
}

// crew is who spreads a coat, at the pace that holds for it.
func (m *maker) crew(i, c int) Crew {
	crew := m.file.Job.Crew
	if pace := m.file.Job.Surfaces[i].Coats[c].Pace; pace != nil {
		crew.Pace = *pace
	}
	return crew
}

// batches divides one coat.
func (m *maker) batches(i, c int) {
	s, coat := m.file.Job.Surfaces[i], &m.plan.Surfaces[i].Coats[c]
	p, b := coat.product, coat.Build
	crew := m.crew(i, c)
	if crew.Pace.Value <= 0 || crew.Spreaders < 1 {
		return // told by check
	}
	key := sheetKey(p.ID, coat.Hardener)
	if m.supplies[key] == nil {
		return // told by buy
	}
	bounds := m.bounded(key, p, kit.Spreading{
		Spreaders: crew.Spreaders, Pace: crew.Pace.Value, PerArea: b.Need / measure.Volume(m.plan.Surfaces[i].Takeoff.Area), Density: b.Density.Value,
		More: m.mixesMore(s.Coats[c], p),
	})
	bad := bounds.bad
	if bad == nil {
		var d kit.Division
		if d, bad = kit.Divide(b.Need, bounds.limits, m.supplies[key], m.file.Job.Methods.Kits == "measured"); bad == nil {
			for n := range d.Batches {
				d.Batches[n].Mass = b.Density.Value.Of(d.Batches[n].Volume)
			}
			d.Relax = bounds.relax
			coat.Division = &d
		}
	}
	if bad != nil {
		m.find(refused(finding.Batches, coat.path, m.wayToBatches(p), "%s, coat %d of %s cannot be divided into batches: %s.", s.Name, c+1, p.Name, bad.Error()))
		return
	}
	bought := m.bought[key]
	if bought.Cost != nil {
		price := *bought.Cost * float64(b.Need/bought.Need) / float64(m.plan.Surfaces[i].Takeoff.Area)
		coat.Price = &price
	}
	coat.Reached = b.FilmOf(measure.Volume(float64(b.Need) * float64(bought.Bought) / float64(bought.Need)))
	coat.Mixed = b.FilmOf(coat.Division.Mixed)
	if p.FilmMax != nil && coat.Mixed > p.FilmMax.Value && b.Wet <= p.FilmMax.Value {
		m.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: coat.path,
			Text: fmt.Sprintf("Coat %d: spreading all %s that is mixed lays %s, over the greatest film of %s.",
				c+1, m.units.Volume(coat.Division.Mixed), m.units.Film(coat.Mixed), m.units.Film(p.FilmMax.Value)),
			WayOut: fmt.Sprintf("Keep %s back for touch-up.", m.units.Volume(coat.Division.Excess)),
		})
	}
	if last := coat.Division.Batches[len(coat.Division.Batches)-1]; last.Volume < coat.Division.Batches[0].Volume*shortBatch {
		m.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: coat.path,
			Text: fmt.Sprintf("Coat %d: the last batch is %s against %s for the first; on a coloured coat a short batch can show.",
				c+1, m.units.Volume(last.Volume), m.units.Volume(coat.Division.Batches[0].Volume)),
			WayOut: "Lay it where it is least seen, or buy the larger size throughout.",
		})
	}
}
