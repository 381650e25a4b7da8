// Package plan is the whole of the trade in one call: from a job as people
// decided it to its plan.
package plan

import (
	"fmt"
	"math"

	"time"

	"nephelon/core/buildup"
	"nephelon/core/climate"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/survey"
	"nephelon/core/takeoff"
)

// Format and Version name the plan file.
const (
	Format  = "nephelon-job"
	Version = 1
)

// File is a job with the data sheets it was planned with: all a plan depends
// on. Every number is in the SI unit of its kind (m, m², m³, kg, s, kg/m³) but
// for temperatures in °C, angles in degrees and prices in the job's currency.
type File struct {
	Format   string             `json:"format" enum:"nephelon-job"`
	Version  int                `json:"version" minimum:"1" maximum:"1"`
	Job      Job                `json:"job"`
	Products []material.Product `json:"products" maxItems:"200" doc:"The data sheets its coats name"`
	Media    []material.Medium  `json:"media,omitempty" maxItems:"200" doc:"The media its coats name, and the contractor's own tools"`
}

// Job is what people decided about one piece of work.
type Job struct {
	Name     string                                `json:"name" minLength:"1" maxLength:"160"`
	Client   string                                `json:"client,omitempty" maxLength:"160"`
	Site     string                                `json:"site,omitempty" maxLength:"300"`
	Notes    string                                `json:"notes,omitempty" maxLength:"4000"`
	Currency string                                `json:"currency" pattern:"^[A-Z]{3}$" doc:"ISO 4217 code"`
	Crew     Crew                                  `json:"crew"`
	Mixing   Mixing                                `json:"mixing,omitzero" doc:"How warm the parts come, and where the pail stands"`
	Bucket   kit.Bucket                            `json:"bucket"`
	Methods  Schools                               `json:"methods,omitzero" doc:"The contractor's schools"`
	Rules    []survey.Own                          `json:"rules,omitempty" maxItems:"40" doc:"The contractor's own thresholds"`
	Slab     *measure.Sourced[measure.Temperature] `json:"slab,omitempty" doc:"°C of the slab that coats are planned for; 20 °C, assumed, when left out"`
	VOCMax   *measure.Sourced[measure.Content]     `json:"vocMax,omitempty" doc:"Most volatile compounds allowed in any coat, kg/m³ (g/L)"`
	Stock    []kit.Container                       `json:"stock,omitempty" maxItems:"400" doc:"Reserved for this job"`
	Buying   []kit.Wish                            `json:"buying,omitempty" maxItems:"200" doc:"How the kits of products are chosen; at least cost where nothing is said"`
	Forecast *Forecast                             `json:"forecast,omitempty"`
	Start    *time.Time                            `json:"start,omitempty" doc:"When the first section of the first coat is begun"`
	Surfaces []Surface                             `json:"surfaces" maxItems:"200"`
}

// Forecast is the weather to come as it was told at a time.
type Forecast struct {
	Place string         `json:"place" maxLength:"120"`
	Told  time.Time      `json:"told"`
	Hours []climate.Hour `json:"hours" maxItems:"400" doc:"Hour after hour"`
}

// Mixing is what a batch meets at the mixing place.
type Mixing struct {
	A        *measure.Sourced[measure.Temperature] `json:"a,omitempty" doc:"°C of A when it meets B; the slab's when left out"`
	B        *measure.Sourced[measure.Temperature] `json:"b,omitempty" doc:"°C of B; A's when left out"`
	Air      *measure.Sourced[measure.Temperature] `json:"air,omitempty" doc:"°C; the slab's when left out"`
	Standing cure.Standing                         `json:"standing,omitempty" enum:"shade,ice,warm" doc:"Where the pail stands; in the air of the place when left out"`
	Scale    measure.Mass                          `json:"scale,omitempty" minimum:"0" maximum:"1" doc:"kg, the smallest step of the scale"`
	Pumps    *kit.Pumps                            `json:"pumps,omitempty" doc:"Where the parts are drawn by pump"`
	Carry    *measure.Span                         `json:"carry,omitempty" minimum:"0" maximum:"36000" doc:"s from the mixing place to the floor"`
}

// Crew is who spreads the coats.
type Crew struct {
	Spreaders int                           `json:"spreaders" minimum:"1" maximum:"50" doc:"People spreading at the same time, the mixer not counted"`
	Pace      measure.Sourced[measure.Pace] `json:"pace" doc:"m²/s one person spreads"`
}

// Surface is one area to be coated, with its build-up.
type Surface struct {
	ID   string `json:"id" minLength:"1" maxLength:"60"`
	Name string `json:"name" minLength:"1" maxLength:"120"`
	takeoff.Shape
	Survey  *survey.Survey  `json:"survey,omitempty"`
	Service buildup.Service `json:"service,omitzero" doc:"What it must bear in use"`
	Layout  pour.Layout     `json:"layout"`
	Coats   []buildup.Coat  `json:"coats" maxItems:"40" doc:"Bottom to top"`
}

// refused is a finding for something that cannot be.
func refused(step finding.Step, path, way, text string, args ...any) finding.Finding {
	return finding.Finding{Level: finding.Refused, Step: step, Path: path, Text: fmt.Sprintf(text, args...), WayOut: way}
}

// check looks at what spans the whole file: identities, references and values
// that contradict each other.
func (f File) check(units measure.System) (map[string]*material.Product, []finding.Finding) {
	var found []finding.Finding
	products := make(map[string]*material.Product, len(f.Products))
	for i := range f.Products {
		p := &f.Products[i]
		path := fmt.Sprintf("/products/%d", i)
		if products[p.ID] != nil {
			found = append(found, refused(finding.BuildUp, path+"/id", "Give each product its own id.", "Two products have the id “%s”.", p.ID))
			continue
		}
		if faults := p.Faults(); len(faults) > 0 {
			for _, fault := range faults {
				found = append(found, refused(finding.BuildUp, path+fault.Field, fault.Way, "%s: %s", p.Name, fault.Text))
			}
			continue
		}
		products[p.ID] = p
		for _, h := range p.Hardeners {
			if with, err := p.With(h.ID); err == nil {
				products[sheetKey(p.ID, h.ID)] = &with
			}
		}
	}
	for i, m := range f.Media {
		for _, fault := range m.Faults() {
			found = append(found, refused(finding.BuildUp, fmt.Sprintf("/media/%d%s", i, fault.Field), fault.Way, "%s: %s", m.Name, fault.Text))
		}
	}
	for i, c := range f.Job.Stock {
		for _, fault := range c.Faults() {
			found = append(found, refused(finding.Kits, fmt.Sprintf("/job/stock/%d%s", i, fault.Field), fault.Way, "Stock of %s: %s", c.Sheet, fault.Text))
		}
	}
	if f.Job.Crew.Spreaders < 1 {
		found = append(found, refused(finding.Batches, "/job/crew/spreaders", "Enter one person at least.", "Nobody is there to spread."))
	}
	if pace := f.Job.Crew.Pace.Value; pace <= 0 || pace > buildup.MaxPace {
		found = append(found, refused(finding.Batches, "/job/crew/pace", "Enter the area one person spreads in an hour.", "The pace is not one a person can spread at."))
	}
	if b := f.Job.Bucket; b.Pail != nil {
		if holds := b.Pail.Holds(b.Pail.Height); math.Abs(float64(holds/b.Volume)-1) > pailOff {
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.Batches, Path: "/job/bucket/pail",
				Text:   fmt.Sprintf("The pail as measured holds %s, but the bucket is entered with %s; marks by height rest on the measures.", units.Volume(holds), units.Volume(b.Volume)),
				WayOut: "Measure the inside again, or enter what it holds.",
			})
		}
	}
	ids := make(map[string]bool)
	unique := func(id, path string) {
		if ids[id] {
			found = append(found, refused(finding.Measure, path+"/id", "Give each its own id.", "Two parts of the job have the id “%s”.", id))
		}
		ids[id] = true
	}
	for i, s := range f.Job.Surfaces {
		path := surfacePath(i)
		unique(s.ID, path)
		if s.Top != nil && s.Pool != nil || (s.Top != nil || s.Pool != nil) && len(s.Floor.Outline) > 0 {
			found = append(found, refused(finding.Measure, path, "Make each a surface of its own.", "%s is more than one of floor, top and pool.", s.Name))
		}
		for at, id := range s.Shape.IDs() {
			unique(id, path+at)
		}
		for c, coat := range s.Coats {
			at := fmt.Sprintf("%s/coats/%d", path, c)
			unique(coat.ID, at)
		}
	}
	return products, found
}

// pailOff is how far the measures of a pail may be from what it is said to hold:
// common practice, no source.
const pailOff = 0.05

// sheetKey names a sheet as it reads with one of its hardeners.
func sheetKey(product, hardener string) string {
	if hardener == "" {
		return product
	}
	return product + "/" + hardener
}

func surfacePath(i int) string { return fmt.Sprintf("/job/surfaces/%d", i) }
