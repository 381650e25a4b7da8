package plan

import (
	"fmt"
	"strings"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/climate"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/survey"
	"nephelon/core/takeoff"
)

// Plan is what follows from a job. It is derived, never edited.
type Plan struct {
	Units     measure.System    `json:"units" enum:"us,metric" doc:"The system its sentences are written in; its numbers are SI"`
	Area      measure.Area      `json:"area" doc:"Of all surfaces, m²"`
	Cost      *float64          `json:"cost,omitempty" doc:"Of all kits, in the job's currency; absent where a size has no price"`
	Surfaces  []SurfacePlan     `json:"surfaces"`
	Purchases []kit.Purchase    `json:"purchases"`
	Media     []MediumNeed      `json:"media" doc:"Broadcast, pigment, grit and thinner to buy"`
	Tools     []kit.Tool        `json:"tools" doc:"Tools and consumables"`
	Steps     []StepState       `json:"steps"`
	Findings  []finding.Finding `json:"findings"`

	seeks map[int]*buildup.Seek // ways out, by finding, that need a product
}

// SurfacePlan is what follows for one surface.
type SurfacePlan struct {
	ID      string           `json:"id"`
	Name    string           `json:"name"`
	Takeoff *takeoff.Takeoff `json:"takeoff,omitempty" doc:"Absent while the outline is not usable"`
	Faults  []geometry.Point `json:"faults,omitempty" doc:"Where the outline is at fault"`
	Survey  *SurveyPlan      `json:"survey,omitempty" doc:"Absent while nothing was surveyed"`
	Course  *pour.Course     `json:"course,omitempty"`
	Exit    *pour.Mark       `json:"exit,omitempty" doc:"The wall on which the exit lies"`
	Coats   []CoatPlan       `json:"coats"`
}

// CoatPlan is what follows for one coat.
type CoatPlan struct {
	ID       string          `json:"id"`
	Number   int             `json:"number" doc:"From 1, bottom to top"`
	Product  string          `json:"product"`
	Hardener string          `json:"hardener,omitempty"`
	Name     string          `json:"name"`
	Color    string          `json:"color"`
	Price    *float64        `json:"price,omitempty" doc:"Of 1 m², in the job's currency, as its kits are bought"`
	Window   *buildup.Window `json:"window,omitempty" doc:"When the next coat may go on it"`
	Times    *CoatTimes      `json:"times,omitempty"`
	Build    *buildup.Build  `json:"build,omitempty" doc:"Absent while the coat or its surface is not usable"`
	Reached  measure.Film    `json:"reached,omitempty" doc:"Wet film if all that is bought is used, m"`
	Mixed    measure.Film    `json:"mixed,omitempty" doc:"Wet film if all that is mixed is spread, m"`
	Division *kit.Division   `json:"division,omitempty"`
	Sections []pour.Section  `json:"sections,omitempty"`
	Cuts     []pour.Cut      `json:"cuts,omitempty"`
	Cards    []kit.Card      `json:"cards,omitempty"`

	product *material.Product
	mix     material.Mix
	path    string
}

// Make works out the plan of a job. It computes all that can be computed; what
// cannot be is told as refused findings, each with the path of its field. The
// units are those in which its sentences speak.
func Make(f File, units measure.System, now time.Time) Plan {
	m := maker{file: f, units: units, now: now, slab: AssumedSlab, rules: survey.Rules(f.Job.Rules), plan: Plan{Units: units}}
	if f.Job.Slab != nil {
		m.slab = f.Job.Slab.Value
	}
	m.products, m.plan.Findings = f.check(units)
	m.media = make(map[string]*material.Medium, len(f.Media))
	for i := range f.Media {
		m.media[f.Media[i].ID] = &f.Media[i]
	}
	m.mixes, m.lives = make(map[string]material.Mix, len(m.products)), make(map[string]*lives, len(m.products))
	for id, p := range m.products {
		m.mixes[id] = p.Mix()
		m.lives[id] = &lives{window: buildup.WindowOf(p, m.slab)}
	}
	m.plan.Surfaces = make([]SurfacePlan, len(f.Job.Surfaces))
	for i := range f.Job.Surfaces {
		m.surface(i)
		m.survey(i)
	}
	m.buy()
	for i := range f.Job.Surfaces {
		m.pour(i)
	}
	m.times()
	for i := range f.Job.Surfaces {
		m.neighbours(i)
	}
	m.supply()
	m.smoke()
	if m.plan.Findings == nil {
		m.plan.Findings = []finding.Finding{}
	}
	m.plan.Steps = steps(m.plan)
	return m.plan
}

// Refused returns the findings that keep a plan from being whole.
func (p Plan) Refused() []finding.Finding {
	var all []finding.Finding
	for _, f := range p.Findings {
		if f.Level == finding.Refused {
			all = append(all, f)
		}
	}
	return all
}

// AssumedSlab is the temperature that coats are planned for where nobody said:
// common practice of data sheets, which print their times for it.
const AssumedSlab measure.Temperature = 20

type maker struct {
	file     File
	units    measure.System
	now      time.Time
	slab     measure.Temperature
	media    map[string]*material.Medium
	rules    map[string]survey.Rule
	products map[string]*material.Product
	mixes    map[string]material.Mix
	lives    map[string]*lives
	tables   map[warmth]*cure.Table
	limited  map[pace]*bounds
	supplies map[string]*kit.Supply
	bought   map[string]*kit.Purchase
	plan     Plan

	hoursToCome []climate.Hour                          // in order of time
	slabs       map[climate.Place][]measure.Temperature // their estimates, uncorrected
	warms       map[climate.Place]*slabHours            // the same, for films
	steady      *slabHours                              // where there is no forecast
}

func (m *maker) find(f ...finding.Finding) { m.plan.Findings = append(m.plan.Findings, f...) }

// surface measures one surface and builds up its coats.
func (m *maker) surface(i int) {
	s, out, path := m.file.Job.Surfaces[i], &m.plan.Surfaces[i], surfacePath(i)
	out.ID, out.Name, out.Coats = s.ID, s.Name, make([]CoatPlan, len(s.Coats))
	if !s.Measured() && s.Given == nil {
		at, way := s.Unmeasured()
		m.find(finding.Finding{Level: finding.Note, Step: finding.Measure, Path: path + at, Text: s.Name + " is not measured yet.", WayOut: way})
	} else {
		m.measure(i, path)
	}
	if len(s.Coats) == 0 {
		m.find(finding.Finding{
			Level: finding.Note, Step: finding.BuildUp, Path: path + "/coats",
			Text: s.Name + " has no coats yet.", WayOut: "Add the first coat of its build-up.",
		})
	}
	for c := range s.Coats {
		m.coat(i, c, fmt.Sprintf("%s/coats/%d", path, c))
	}
}

// measure takes off one surface.
func (m *maker) measure(i int, path string) {
	s, out := m.file.Job.Surfaces[i], &m.plan.Surfaces[i]
	var found []finding.Finding
	out.Takeoff, out.Faults, found = takeoff.Measure(s.Shape, path, m.units)
	for _, f := range found {
		f.Text = s.Name + ": " + f.Text
		m.find(f)
	}
	if out.Takeoff == nil {
		return
	}
	m.plan.Area += out.Takeoff.Area
	if s.Layout.Exit != nil && len(s.Floor.Outline) > 0 {
		side, along, at := s.Floor.Outline.Nearest(*s.Layout.Exit)
		out.Exit = &pour.Mark{Hole: -1, Side: side + 1, Along: measure.Length(along), At: at}
	}
}

// coat builds up one coat.
func (m *maker) coat(i, c int, path string) {
	s, coat, out := m.file.Job.Surfaces[i], m.file.Job.Surfaces[i].Coats[c], &m.plan.Surfaces[i].Coats[c]
	out.ID, out.Number, out.Product, out.Hardener, out.path = coat.ID, c+1, coat.Product, coat.Hardener, path
	p := m.products[sheetKey(coat.Product, coat.Hardener)]
	if p == nil {
		for _, there := range m.file.Products {
			if there.ID != coat.Product {
				continue
			}
			if m.products[coat.Product] != nil {
				m.find(refused(finding.BuildUp, path+"/hardener", "Choose one of its hardeners.", "%s, coat %d: %s has no hardener “%s”.", s.Name, c+1, there.Name, coat.Hardener))
			}
			return // its own fault is told already
		}
		m.find(refused(finding.BuildUp, path+"/product", "Choose a product from the shelf.", "%s, coat %d names a product “%s” that is not in the file.", s.Name, c+1, coat.Product))
		return
	}
	out.Name, out.Color, out.product, out.mix = p.Name, p.Color, p, m.mixes[sheetKey(coat.Product, coat.Hardener)]
	if w := m.lives[sheetKey(coat.Product, coat.Hardener)].window; w.From > 0 || w.Until > 0 {
		out.Window = &w
	}
	bad := coat.Check(path)
	if bad == nil {
		bad = m.strangers(coat, path)
	}
	if bad != nil {
		bad.Text = fmt.Sprintf("%s, coat %d: %s", s.Name, c+1, bad.Text)
		m.find(*bad)
		return
	}
	t := m.plan.Surfaces[i].Takeoff
	if t == nil {
		return
	}
	under := buildup.Under{Area: t.Area, RunOff: t.RunOff, First: c == 0, Media: m.media}
	if c > 0 {
		under.Grains = s.Coats[c-1].Leaves(m.media)
	}
	if s.Survey != nil {
		under.Profile = s.Survey.Profile
	}
	b := coat.Build(p, out.mix, under)
	out.Build = &b
	m.find(coat.Findings(p, b, t.Facing.Vertical/t.Area, c+1, path, m.units)...)
}

// buy sums the need of each product over the whole job and chooses its kits.
func (m *maker) buy() {
	needs := make(map[string]measure.Volume)
	var order []string
	weak := make(map[string]bool)
	for _, s := range m.plan.Surfaces {
		for _, c := range s.Coats {
			if c.Build == nil {
				continue
			}
			key := sheetKey(c.Product, c.Hardener)
			if _, seen := needs[key]; !seen {
				order = append(order, key)
			}
			needs[key] += c.Build.Need
		}
	}
	m.supplies, m.bought = make(map[string]*kit.Supply), make(map[string]*kit.Purchase)
	m.plan.Purchases = make([]kit.Purchase, 0, len(order))
	total, priced := 0.0, true
	for _, id := range order {
		p := m.products[id]
		_, hardener, _ := strings.Cut(id, "/")
		stock := kit.OnHand(*p, m.mixes[id], hardener, m.file.Job.Stock, m.now, m.file.Job.Methods.Shelf == "sealed", m.units)
		m.stockFindings(p.Name, stock)
		b, err := kit.Buy(*p, hardener, m.mixes[id], needs[id], stock, m.file.Job.Buying)
		if err != nil {
			m.find(refused(finding.Kits, m.productPath(p.ID)+"/kits", "Choose another product, or enter the sizes that are sold now.", "%s: %s.", p.Name, err.Error()))
			continue
		}
		m.plan.Purchases = append(m.plan.Purchases, b)
		if b.Cost != nil {
			total += *b.Cost
		} else {
			priced = false
		}
		if values := p.WeakValues(); len(values) > 0 && !weak[id] {
			weak[id] = true
			m.find(finding.Finding{
				Level: finding.Note, Step: finding.BuildUp, Path: m.productPath(p.ID),
				Text:   fmt.Sprintf("The plan rests on weak values of %s: %s.", p.Name, list(values)),
				WayOut: "Replace them with the data sheet's or your own test's.",
			})
		}
	}
	if priced && len(order) > 0 {
		m.plan.Cost = &total
	}
	for i := range m.plan.Purchases {
		b := &m.plan.Purchases[i]
		key := sheetKey(b.Product, b.Hardener)
		m.bought[key], m.supplies[key] = b, kit.NewSupply(*b)
		if b.Margin < tightMargin {
			m.find(finding.Finding{
				Level: finding.Warning, Step: finding.Kits, Path: m.productPath(b.Product),
				Text: fmt.Sprintf("%s: %s at hand for a need of %s leaves a margin of %s, almost none.",
					b.Name, m.units.Volume(b.Bought), m.units.Volume(b.Need), m.units.Fraction(b.Margin)),
				WayOut: "Add a kit, or be sure of the loss you planned with.",
			})
		}
	}
}

// tightMargin is the margin under which a purchase is called tight: common
// practice, no source.
const tightMargin measure.Fraction = 0.02

// shortBatch is the share of the first batch under which the last is called
// short: common practice, no source.
const shortBatch = 0.75

func (m *maker) productPath(id string) string {
	for i, p := range m.file.Products {
		if p.ID == id {
			return fmt.Sprintf("/products/%d", i)
		}
	}
	return "/products"
}

// list joins words as a sentence does.
func list(words []string) string {
	text := ""
	for i, w := range words {
		switch {
		case i == 0:
		case i == len(words)-1:
			text += " and "
		default:
			text += ", "
		}
		text += w
	}
	return text
}
