package plan

import (
	"fmt"
	"slices"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// MediumNeed is what a job takes of one medium.
type MediumNeed struct {
	Medium string         `json:"medium,omitempty" doc:"The id of one of the file's media; none where only its kind is known"`
	Name   string         `json:"name"`
	Mass   measure.Mass   `json:"mass,omitempty" doc:"kg, the spare included"`
	Volume measure.Volume `json:"volume,omitempty" doc:"m³"`
	Spare  measure.Mass   `json:"spare,omitempty" doc:"kg of it that are stored for repair, or bounce off"`
	Stock  measure.Mass   `json:"stock,omitempty" doc:"kg in stock, used first"`
	Lines  []kit.PackLine `json:"lines"`
	Cost   *float64       `json:"cost,omitempty"`
}

// strangers names a medium of a coat that is not in the file, or nil.
func (m *maker) strangers(c buildup.Coat, path string) *finding.Finding {
	ask := func(field, medium string) *finding.Finding {
		if medium == "" || m.media[medium] != nil {
			return nil
		}
		f := refused(finding.BuildUp, path+field, "Choose one from the shelf.", "it names a medium “%s” that is not in the file.", medium)
		return &f
	}
	if c.Scatter != nil {
		if f := ask("/scatter/medium", c.Scatter.Medium); f != nil {
			return f
		}
	}
	if c.Grit != nil {
		if f := ask("/grit/medium", c.Grit.Medium); f != nil {
			return f
		}
	}
	if c.Colours != nil {
		for i, colour := range c.Colours.Colours {
			if f := ask(fmt.Sprintf("/colours/colours/%d/medium", i), colour.Medium); f != nil {
				return f
			}
		}
	}
	if c.Pigment != nil {
		return ask("/pigment/medium", c.Pigment.Medium)
	}
	return nil
}

// neighbours checks the coats of a surface against each other.
func (m *maker) neighbours(i int) {
	s, out := m.file.Job.Surfaces[i], m.plan.Surfaces[i]
	var layers []buildup.Layer
	for c, coat := range out.Coats {
		if coat.product == nil {
			return // the gap is told already
		}
		window := m.lives[sheetKey(coat.Product, coat.Hardener)].window
		if coat.Window != nil {
			window = *coat.Window
		}
		layers = append(layers, buildup.Layer{Coat: s.Coats[c], Sheet: coat.product, Window: window, Mix: coat.mix, Build: coat.Build, Path: coat.path})
	}
	bed := buildup.Bed{
		Name: s.Name, Path: surfacePath(i), Temperature: m.slab, Media: m.media, Service: s.Service,
		Sands: m.file.Job.Methods.Between == "sand", DampMost: measure.Fraction(m.rules["slab-humidity"].Value),
	}
	if v := m.file.Job.VOCMax; v != nil {
		bed.VOCMax = v.Value
	}
	if t := out.Takeoff; t != nil {
		bed.Fills = t.Filler > 0
	}
	if s.Survey != nil {
		bed.Ground = ground(s.Survey.Substrate)
		for _, r := range s.Survey.Readings {
			if r.Kind == survey.SlabHumidity {
				bed.Damp = max(bed.Damp, measure.Fraction(r.Value))
			}
		}
	}
	for _, told := range buildup.Neighbours(layers, bed, m.units) {
		if told.Seek != nil {
			if m.plan.seeks == nil {
				m.plan.seeks = make(map[int]*buildup.Seek)
			}
			m.plan.seeks[len(m.plan.Findings)] = told.Seek
		}
		m.find(told.Finding)
	}
}

// ground is a substrate in the words in which sheets say what they go over.
func ground(s survey.Substrate) string {
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

// Seeks tells whether a way out of this plan needs a product or a medium that
// Offer could bring.
func (p Plan) Seeks() bool { return len(p.seeks) > 0 }

// SeeksKinds are the kinds of product among which a way out is sought.
func (p Plan) SeeksKinds() []string {
	var kinds []string
	for _, seek := range p.seeks {
		for _, k := range seek.Kinds {
			if !slices.Contains(kinds, string(k)) {
				kinds = append(kinds, string(k))
			}
		}
	}
	return kinds
}

// Offer completes the ways out that need a product or a medium: from the file
// first, then from those that the shelf offers, in their order. What is not in
// the file yet comes with the fix.
func (p *Plan) Offer(f File, products []material.Product, media []material.Medium) {
	p.Findings = slices.Clone(p.Findings)
	for at, seek := range p.seeks {
		found := &p.Findings[at]
		if seek.Fits != nil {
			if q, add := choose(f.Products, products, seek.Fits, func(q material.Product) string { return q.ID }); q != nil {
				found.Fix = seek.Fix(*q)
				if add {
					found.Fix.Patch = append([]finding.PatchStep{{Op: "add", Path: "/products/-", Value: *q}}, found.Fix.Patch...)
				}
			}
		}
		if seek.FitsMedium != nil {
			if q, add := choose(f.Media, media, seek.FitsMedium, func(q material.Medium) string { return q.ID }); q != nil {
				found.Fix = seek.FixMedium(*q)
				if add {
					bring := finding.PatchStep{Op: "add", Path: "/media/-", Value: *q}
					if len(f.Media) == 0 {
						bring = finding.PatchStep{Op: "add", Path: "/media", Value: []material.Medium{*q}}
					}
					found.Fix.Patch = append([]finding.PatchStep{bring}, found.Fix.Patch...)
				}
			}
		}
	}
}

// choose takes the first that fits, what is in the file before what is offered.
func choose[T any](own, offered []T, fits func(T) bool, id func(T) string) (chosen *T, add bool) {
	for i := range own {
		if fits(own[i]) {
			return &own[i], false
		}
	}
	for i := range offered {
		there := slices.ContainsFunc(own, func(o T) bool { return id(o) == id(offered[i]) })
		if !there && fits(offered[i]) {
			return &offered[i], true
		}
	}
	return nil, false
}

// stockFindings says what of the stock cannot be used as it stands.
func (m *maker) stockFindings(name string, s kit.Stock) {
	for _, text := range s.Lone {
		m.find(finding.Finding{Level: finding.Warning, Step: finding.Kits, Path: "/job/stock", Text: text, WayOut: "Reserve its partner too, or free it for another job."})
	}
	for _, c := range s.Expired {
		text, way := "is left out", "Free it, or choose the school that a sealed pail is still good."
		if m.file.Job.Methods.Shelf == "sealed" && !c.Opened {
			text, way = "counts all the same, by your rule for sealed pails", "Try a cup of it first."
		}
		m.find(finding.Finding{
			Level: finding.Warning, Step: finding.Kits, Path: "/job/stock",
			Text: fmt.Sprintf("%s, lot %s, expired on %s and %s.", name, c.Lot, c.Expires, text), WayOut: way,
		})
	}
	if len(s.Lots) > 1 {
		m.find(finding.Finding{
			Level: finding.Note, Step: finding.Kits, Path: "/job/stock",
			Text: fmt.Sprintf("%s is in stock in %d lots (%s); one visible floor wants one lot.", name, len(s.Lots), list(s.Lots)), WayOut: "Lay each lot on a floor of its own, or mix the lots together before the first batch.",
		})
	}
}

// supply counts the media and the tools of the whole job.
func (m *maker) supply() {
	m.plan.Media = []MediumNeed{}
	work := kit.Work{Area: m.plan.Area, People: m.file.Job.Crew.Spreaders + 1}
	at := make(map[string]int)
	for _, s := range m.plan.Surfaces {
		if s.Takeoff != nil {
			work.Perimeter += s.Takeoff.Perimeter
			work.Doors += s.Takeoff.Openings
		}
		for _, c := range s.Coats {
			if c.Build == nil {
				continue
			}
			coat := kit.CoatWork{Kind: c.product.Kind, Area: s.Takeoff.Area}
			if c.Division != nil {
				coat.Batches = len(c.Division.Batches)
			}
			work.Coats = append(work.Coats, coat)
			for _, a := range c.Build.Additions {
				key := a.Medium + "\x00" + a.Name
				n, seen := at[key]
				if !seen {
					n = len(m.plan.Media)
					at[key] = n
					m.plan.Media = append(m.plan.Media, MediumNeed{Medium: a.Medium, Name: a.Name})
				}
				m.plan.Media[n].Mass += a.Mass
				m.plan.Media[n].Volume += a.Volume
			}
		}
	}
	for i := range m.plan.Media {
		m.packs(&m.plan.Media[i])
	}
	m.plan.Tools = []kit.Tool{}
	if len(work.Coats) > 0 {
		m.plan.Tools = kit.Tools(work, m.file.Media, m.units)
	}
}

// packs adds the spare of a medium, takes off its stock and chooses its packs.
func (m *maker) packs(n *MediumNeed) {
	n.Lines = []kit.PackLine{}
	medium := m.media[n.Medium]
	if medium == nil {
		return
	}
	if medium.Spare != nil {
		n.Spare = n.Mass * measure.Mass(medium.Spare.Value)
		n.Mass += n.Spare
	}
	for _, c := range m.file.Job.Stock {
		if c.Sheet == medium.ID && c.Part == "medium" && !c.TouchUp {
			n.Stock += c.Mass
		}
	}
	need := float64(max(0, n.Mass-n.Stock))
	if medium.Kind == "thinner" {
		need = float64(n.Volume)
	}
	n.Lines, n.Cost = kit.Packs(need, medium.Packs)
}
