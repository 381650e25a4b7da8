// Package job is what people decided: the plan file and its parts, how a company
// works, and what can be done with a file as a whole.
package job

import (
	"strconv"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/climate"
	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// Format and Version name the plan file.
const (
	Format  = "nephelon-job"
	Version = 3
)

// File is a job with the data sheets it was planned with: all a plan depends
// on. Every number is in the SI unit of its kind (m, m², m³, kg, s, kg/m³) but
// for temperatures in °C, angles in degrees and prices in the job's currency.
type File struct {
	Format   string             `json:"format" enum:"nephelon-job"`
	Version  int                `json:"version" minimum:"3" maximum:"3"`
	Job      Job                `json:"job"`
	Products []material.Product `json:"products" maxItems:"200" doc:"The data sheets its coats name"`
	Media    []material.Medium  `json:"media,omitempty" maxItems:"200" doc:"The media its coats name, and the contractor's own tools"`
}

// Job holds what people decided about one piece of work.
type Job struct {
	Name     string                                `json:"name" minLength:"1" maxLength:"160" pattern:"^[^\\r\\n]*$"`
	Client   string                                `json:"client,omitempty" maxLength:"160" pattern:"^[^\\r\\n]*$"`
	Site     string                                `json:"site,omitempty" maxLength:"300" pattern:"^[^\\r\\n]*$"`
	Notes    string                                `json:"notes,omitempty" maxLength:"4000"`
	Currency string                                `json:"currency" pattern:"^[A-Z]{3}$" doc:"ISO 4217 code"`
	Crew     Crew                                  `json:"crew"`
	Mixing   Mixing                                `json:"mixing,omitzero" doc:"How warm the parts come, and where the pail stands"`
	Bucket   kit.Bucket                            `json:"bucket"`
	Methods  school.Methods                        `json:"methods,omitzero" doc:"The contractor's schools"`
	Rules    []survey.Own                          `json:"rules,omitempty" maxItems:"40" doc:"The contractor's own thresholds"`
	Slab     *measure.Sourced[measure.Temperature] `json:"slab,omitempty" doc:"°C of the slab that coats are planned for; 20 °C, assumed, when left out"`
	Margin   measure.Temperature                   `json:"margin,omitempty" minimum:"0" maximum:"3" doc:"K by which slabs may come cooler than told while proposals and bookings still find each film ready for the next coat"`
	VOCMax   *measure.Sourced[measure.Content]     `json:"vocMax,omitempty" doc:"Most volatile compounds allowed in any coat, kg/m³ (g/L)"`
	HourCost *float64                              `json:"hourCost,omitempty" minimum:"0" maximum:"10000" doc:"Cost of a person-hour, in the job's currency; work has no price when left out"`
	Stock    []kit.Container                       `json:"stock,omitempty" maxItems:"400" doc:"Reserved for this job"`
	Buying   []kit.Wish                            `json:"buying,omitempty" maxItems:"200" doc:"How the kits of products are chosen; at least cost where nothing is said"`
	Forecast *Forecast                             `json:"forecast,omitempty"`
	Zone     string                                `json:"zone,omitempty" maxLength:"60" doc:"IANA time zone of the site, such as Europe/Oslo; UTC when left out"`
	Hours    *Hours                                `json:"hours,omitempty" doc:"When people may work on site; the usual week on the job's own clock, and at any time on the roster, when left out"`
	Quiet    []Break                               `json:"quiet,omitempty" maxItems:"6" doc:"Hours of the day in which nothing loud may be done: no grinding, blasting, sanding or vacuuming"`
	Earliest string                                `json:"earliest,omitempty" format:"date" doc:"The day before which the client lets nobody begin"`
	Awaited  []Delivery                            `json:"awaited,omitempty" maxItems:"200" doc:"Materials that are not there yet; all others are taken to be"`
	Where    *Whereabouts                          `json:"where,omitempty" doc:"Coordinates of the site, for the way between jobs"`
	Drive    measure.Span                          `json:"drive,omitempty" minimum:"0" maximum:"86400" doc:"s from the yard to the site, where no coordinates tell"`
	Start    Local                                 `json:"start,omitempty" pattern:"^[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}(:[0-9]{2}([.][0-9]+)?)?(Z|[+-][0-9]{2}:[0-9]{2})?$" doc:"When the first section of the first coat is begun, by the clock on site"`
	Light    string                                `json:"light,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"Until when there is light enough to see hair and thin spots, by the clock on site; left out where lamps light the place"`
	Due      string                                `json:"due,omitempty" format:"date" doc:"The day by which people want to walk on it"`
	Done     string                                `json:"done,omitempty" format:"date" doc:"The day on which the work was finished"`
	Surfaces []Surface                             `json:"surfaces" maxItems:"200"`
}

// Delivery holds when a material comes.
type Delivery struct {
	Product  string `json:"product,omitempty" maxLength:"60" doc:"The id of one of the file's products"`
	Hardener string `json:"hardener,omitempty" maxLength:"60"`
	Medium   string `json:"medium,omitempty" maxLength:"60" doc:"Or of one of its media"`
	On       string `json:"on" format:"date" doc:"It is there in the morning of the next day"`
}

// Whereabouts are coordinates on the earth.
type Whereabouts struct {
	Latitude  float64 `json:"latitude" minimum:"-90" maximum:"90" doc:"°, north is above zero"`
	Longitude float64 `json:"longitude" minimum:"-180" maximum:"180" doc:"°, east is above zero"`
}

// Forecast is the weather to come as it was told at a time.
type Forecast struct {
	Place string         `json:"place" maxLength:"120"`
	Told  time.Time      `json:"told"`
	Hours []climate.Hour `json:"hours" maxItems:"400" doc:"Hour after hour"`
}

// Mixing holds what a batch meets at the mixing place.
type Mixing struct {
	A        *measure.Sourced[measure.Temperature] `json:"a,omitempty" doc:"°C of A when it meets B; the slab's when left out"`
	B        *measure.Sourced[measure.Temperature] `json:"b,omitempty" doc:"°C of B; A's when left out"`
	Air      *measure.Sourced[measure.Temperature] `json:"air,omitempty" doc:"°C; the slab's when left out"`
	Standing cure.Standing                         `json:"standing,omitempty" doc:"Where the pail stands; in the air of the place when left out"`
	Scale    measure.Mass                          `json:"scale,omitempty" minimum:"0" maximum:"1" doc:"kg, the smallest step of the scale"`
	Pumps    *material.Pumps                       `json:"pumps,omitempty" doc:"Where the parts are drawn by pump"`
	Carry    *measure.Span                         `json:"carry,omitempty" minimum:"0" maximum:"36000" doc:"s from the mixing place to the floor"`
	Open     *measure.Span                         `json:"open,omitempty" minimum:"0" maximum:"36000" doc:"s that opening the pails and putting a batch's parts together takes, before A meets B; a minute for whole kits and three where parts are measured, when left out"`
	Drum     *kit.Drum                             `json:"drum,omitempty" doc:"The forced-action mixer in which stones are wetted; 80 L and 120 kg when left out"`
	Drills   int                                   `json:"drills,omitempty" minimum:"0" maximum:"20" doc:"Number of drills that mix at the same time; one when left out"`
}

// Crew holds who spreads the coats.
type Crew struct {
	Spreaders int                           `json:"spreaders" minimum:"1" maximum:"50" doc:"People spreading at the same time, the mixer not counted"`
	Pace      measure.Sourced[measure.Pace] `json:"pace" doc:"m²/s one person spreads"`
	Alone     bool                          `json:"alone,omitempty" doc:"Nobody but them mixes: they mix and spread in turn"`
	Divides   *work.Divides                 `json:"divides,omitempty" doc:"How the work of laying a coat divides, of every coat; by how it is laid when left out"`
	Walking   float64                       `json:"walking,omitempty" minimum:"0" maximum:"5" doc:"m/s with a full pail; 1 when left out"`
	Spreads   *sim.Spreads                  `json:"spreads,omitempty" doc:"How far things depart from the plan; the usual when left out"`
	Team      []work.Person                 `json:"team,omitempty" maxItems:"50" doc:"Everyone there with the parts they play, the ones first that are needed most; rules over spreaders and alone. When left out one mixes, and the spreaders do all on the floor"`
}

// People returns how many are there.
func (c Crew) People() int {
	switch {
	case len(c.Team) > 0:
		return len(c.Team)
	case c.Alone:
		return c.Spreaders
	}
	return c.Spreaders + 1
}

// Counted is the crew with those of its team who spread counted, and whether nobody
// but them mixes.
func (c Crew) Counted() Crew {
	if len(c.Team) == 0 {
		return c
	}
	c.Spreaders, c.Alone = 0, true
	for _, p := range c.Team {
		if p.Plays(work.Spreader) {
			c.Spreaders++
		} else if p.Plays(work.Mixer) {
			c.Alone = false
		}
	}
	return c
}

// SpreadsOf returns how far things depart from the plan: its own, or the usual.
func (c Crew) SpreadsOf() sim.Spreads {
	if c.Spreads != nil {
		return *c.Spreads
	}
	return sim.UsualSpreads()
}

// Members are everyone there with their parts.
func (c Crew) Members() []work.Person {
	if len(c.Team) > 0 {
		return c.Team
	}
	onFloor := []work.Role{work.Pourer, work.CutterIn, work.Spreader, work.Roller, work.Caster}
	name, parts := "Spreader ", onFloor
	if c.Alone {
		name, parts = "Person ", append([]work.Role{work.Mixer}, onFloor...)
	}
	all := make([]work.Person, 0, c.Spreaders+1)
	if !c.Alone {
		all = append(all, work.Person{Name: "Mixer", Roles: []work.Role{work.Mixer}})
	}
	for n := range c.Spreaders {
		all = append(all, work.Person{Name: name + strconv.Itoa(n+1), Roles: parts})
	}
	return all
}

// Kind returns what is coated.
func (s Surface) Kind() material.SurfaceKind {
	switch {
	case s.Top != nil:
		return "top"
	case s.Pool != nil:
		return "pool"
	}
	return "floor"
}

// Surface is one area to be coated, with its build-up.
type Surface struct {
	ID   string `json:"id" minLength:"1" maxLength:"60"`
	Name string `json:"name" minLength:"1" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	takeoff.Shape
	Survey  *survey.Survey  `json:"survey,omitempty"`
	Service buildup.Service `json:"service,omitzero" doc:"What it must bear in use"`
	Layout  pour.Layout     `json:"layout"`
	Coats   []buildup.Coat  `json:"coats" maxItems:"40" doc:"Bottom to top"`
	After   string          `json:"after,omitempty" maxLength:"60" doc:"The id of another surface: work here begins once people can walk on that one; until then this one stays passable"`
}
