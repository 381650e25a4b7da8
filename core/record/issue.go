package record

import (
	"time"

	"nephelon/core/cure"
	"nephelon/core/geometry"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour/sim"
	"nephelon/core/record/fact"
	"nephelon/core/work"
)

// Issue is a plan as it was given to a crew: frozen, with a number. It holds all that a day needs without a network.
type Issue struct {
	Number   int                 `json:"number" doc:"Number in its job, from 1"`
	Hash     string              `json:"hash,omitempty" doc:"Hex SHA-256 over the RFC 8785 form of the plan without hash and by"`
	Job      string              `json:"job" doc:"Id of the job"`
	Name     string              `json:"name" doc:"Name of the job"`
	Site     string              `json:"site,omitempty"`
	Revision int64               `json:"revision" doc:"Revision of the job that it was made from"`
	At       time.Time           `json:"at"`
	By       string              `json:"by"`
	To       string              `json:"to" doc:"The crew it is given to"`
	Day      string              `json:"day,omitempty" doc:"The day it is for, such as 2031-03-04; the whole job when left out"`
	Note     string              `json:"note,omitempty"`
	Zone     string              `json:"zone,omitempty" doc:"IANA time zone"`
	Standing cure.Standing       `json:"standing,omitempty"`
	Bucket   measure.Volume      `json:"bucket" doc:"m³ to the brim"`
	Pace     measure.Pace        `json:"pace,omitempty" doc:"m²/s that one person was planned to lay"`
	Air      measure.Temperature `json:"air" doc:"°C planned at the mixing place"`
	Surfaces []Surface           `json:"surfaces"`
	Coats    []Coat              `json:"coats" doc:"Coats in the order in which they are laid"`
	Tasks    []work.Task         `json:"tasks"`
	Guides   []Guide             `json:"guides,omitempty" doc:"How each task of preparation and each test is done"`
	Supplies []Supply            `json:"supplies,omitempty" doc:"Mix at hand when the plan was issued, by product, bought for it or in stock"`
}

// Guide holds how a task of preparation or a test is done.
type Guide struct {
	Task     work.ID  `json:"task"`
	How      string   `json:"how"`
	Bucket   string   `json:"bucket,omitempty" doc:"What goes into one bucket, and the area that it does"`
	Cautions []string `json:"cautions"`
	Asks     *Ask     `json:"asks,omitempty" doc:"Limits of the reading that a test goes by; left out where it is looked at only"`
}

// Ask holds what is read in a test, and what it has to be.
type Ask struct {
	What  string       `json:"what" doc:"What is read"`
	Kind  measure.Kind `json:"kind"`
	Least *float64     `json:"least,omitempty" doc:"Least that fits, in the SI unit of the kind"`
	Most  *float64     `json:"most,omitempty" doc:"Most that fits, in the SI unit of the kind"`
	From  string       `json:"from" doc:"Sheet, standard or practice that the limits are of"`
}

// Supply is the mix that is at hand of a product.
type Supply struct {
	Product  string       `json:"product" doc:"Id of the product"`
	Hardener string       `json:"hardener,omitempty" doc:"The id of its hardener, where it has a choice"`
	Mass     measure.Mass `json:"mass" doc:"kg of mix"`
}

// Surface is a surface as it is drawn.
type Surface struct {
	ID       string                `json:"id"`
	Name     string                `json:"name"`
	Kind     material.SurfaceKind  `json:"kind,omitempty" doc:"What it is; a floor or a pool when left out"`
	Area     measure.Area          `json:"area" doc:"m²"`
	Outdoors bool                  `json:"outdoors,omitempty" doc:"Leaves, rain and dew reach it"`
	Profile  int                   `json:"profile,omitempty" doc:"Concrete surface profile that its survey found, ICRI 310.2R; not known when left out"`
	Outline  []geometry.Ring       `json:"outline,omitempty" doc:"Rings of a floor, or of each piece of a top: its outline, then its holes"`
	From     *time.Time            `json:"from,omitempty" doc:"First hour of the forecast below; absent where there is none"`
	Forecast []measure.Temperature `json:"forecast,omitempty" doc:"°C of its slab hour by hour, as it was planned with"`
	Signs    []Sign                `json:"signs,omitempty" doc:"What its survey told when the plan was issued"`
}

// Sign holds what the survey of a surface told of the ground.
type Sign struct {
	Key  fact.Key `json:"key"`
	So   bool     `json:"so" doc:"It was so; else the survey showed that it was not"`
	By   float64  `json:"by,omitempty" doc:"How far, as for facts"`
	Text string   `json:"text"`
}

// Coat is a coat of an issued plan.
type Coat struct {
	ID       string              `json:"id"`
	Surface  string              `json:"surface" doc:"Id of the surface"`
	Number   int                 `json:"number" doc:"Number on its surface, from 1"`
	Last     bool                `json:"last,omitempty" doc:"None comes on it"`
	Product  material.Product    `json:"product" doc:"Product, with its hardener"`
	Hardener string              `json:"hardener,omitempty" doc:"The id of its hardener, where it has a choice"`
	Name     string              `json:"name"`
	Color    string              `json:"color"`
	Method   string              `json:"method,omitempty" doc:"How it is laid"`
	Wet      measure.Film        `json:"wet" doc:"Film to lay, m"`
	Start    *time.Time          `json:"start,omitempty" doc:"When its first batch is to be poured"`
	Slab     measure.Temperature `json:"slab" doc:"°C planned"`
	Working  measure.Span        `json:"working,omitempty" doc:"s that its film can be worked; not known when left out"`
	Pace     measure.Pace        `json:"pace,omitempty" doc:"m²/s that one person was planned to lay of it"`
	Extra    *measure.Fraction   `json:"extra,omitempty" doc:"Share of what is mixed that was planned beside film and loss, for profile, pores and pails; left out where the amount is practical"`
	Throws   measure.MassRate    `json:"throws,omitempty" doc:"kg/s that one person was planned to broadcast into it"`
	Tape     measure.Span        `json:"tape,omitempty" doc:"s after pouring until the tape along the edge of a top is pulled; left out where it stays"`
	Drips    bool                `json:"drips,omitempty" doc:"The film runs down the edge and hangs in drips"`
	Reacts   bool                `json:"reacts,omitempty" doc:"Working time counts from when it leaves the pail, less what it aged there; else from when it is spread"`
	From     *time.Time          `json:"from,omitempty" doc:"From when on the next coat may go on it"`
	Until    *time.Time          `json:"until,omitempty" doc:"Until when, without abrading"`
	Abrade   bool                `json:"abrade,omitempty" doc:"The coat below is abraded before it, as planned"`
	Crew     []work.Person       `json:"crew"`
	Ahead    []string            `json:"ahead" doc:"What is done the day before and in the last minutes"`
	Limits   Limits              `json:"limits"`
	Stages   []Promise           `json:"stages" doc:"Stages of service, as planned"`
	Batches  []Batch             `json:"batches"`
	Spares   []Spare             `json:"spares,omitempty" doc:"Pails of other sizes, for what is decided on the day"`
	Issue    int                 `json:"issue,omitempty" doc:"The number of the plan it was issued with, where that is an earlier one"`
	Plan     string              `json:"plan,omitempty" doc:"Hash of that plan"`
	Lots     []StockLot          `json:"lots,omitempty" doc:"Lots in stock when the plan was issued"`
}

// StockLot is a lot of a coat's product that was in stock.
type StockLot struct {
	Part    string `json:"part" enum:"kit,A,B,C"`
	Lot     string `json:"lot"`
	Expires string `json:"expires,omitempty"`
}

// Limits are the conditions that a coat is laid in, with where each is from.
type Limits struct {
	DewMargin   measure.Temperature `json:"dewMargin" doc:"K that the slab stays above the dew point"`
	SlabMin     measure.Temperature `json:"slabMin" doc:"°C"`
	SlabMax     measure.Temperature `json:"slabMax" doc:"°C"`
	HumidityMax measure.Fraction    `json:"humidityMax" doc:"Relative, of the air"`
	HumidityMin measure.Fraction    `json:"humidityMin,omitempty" doc:"Relative, of the air; none when left out"`
	Source      string              `json:"source"`
}

// Promise holds when a stage of service is to be reached.
type Promise struct {
	Stage material.StageKey `json:"stage"`
	Name  string            `json:"name"`
	At    *time.Time        `json:"at,omitempty" doc:"Not planned when left out"`
}

// Batch is a batch with its section, as it was planned.
type Batch struct {
	ID      string          `json:"id"`
	Section string          `json:"section" doc:"The id of its section"`
	Number  int             `json:"number"`
	Card    kit.Card        `json:"card"`
	Passage sim.Passage     `json:"passage" doc:"Times of the batch, s from when the first batch is poured"`
	Life    measure.Span    `json:"life,omitempty" doc:"s from A meeting B with the parts as warm as planned; none where it has no pot life"`
	Ages    cure.Aging      `json:"ages,omitzero" doc:"How it ages in its pail"`
	Rings   []geometry.Ring `json:"rings,omitempty" doc:"Outlines of its section"`
	Label   geometry.Point  `json:"label"`
	Beside  []int           `json:"beside,omitempty" doc:"Numbers of the sections laid before whose edge it meets"`
	Bare    *measure.Area   `json:"bare,omitempty" doc:"m² of its section that no pail before covers, where another size or one more pail was decided; as the card has it when left out"`
}

// SectionArea returns the area of its section that no pail before covers.
func (b *Batch) SectionArea() measure.Area {
	if b.Bare != nil {
		return *b.Bare
	}
	return b.Card.Area
}

// Spare is a pail of another size than the batches of a coat.
type Spare struct {
	Share measure.Fraction `json:"share" doc:"Share of the largest batch planned"`
	Card  kit.Card         `json:"card" doc:"Mix card; the area is what it covers at the film planned"`
}

// HashOf returns the hash of the plan with a number that this one holds coats of; an empty text where it holds none.
func (i *Issue) HashOf(number int) string {
	if number == i.Number {
		return i.Hash
	}
	for c := range i.Coats {
		if i.Coats[c].Issue == number {
			return i.Coats[c].Plan
		}
	}
	return ""
}

// Coat finds a coat; nil where the plan has none with this id.
func (i *Issue) Coat(id string) *Coat {
	for c := range i.Coats {
		if i.Coats[c].ID == id {
			return &i.Coats[c]
		}
	}
	return nil
}

// Surface returns a surface; an empty one where the plan has none with this id.
func (i *Issue) Surface(id string) Surface {
	for _, s := range i.Surfaces {
		if s.ID == id {
			return s
		}
	}
	return Surface{}
}

// below is the coat under another on its surface; nil for the first.
func (i *Issue) below(c *Coat) *Coat {
	var under *Coat
	for n := range i.Coats {
		if o := &i.Coats[n]; o.Surface == c.Surface && o.Number == c.Number-1 {
			under = o
		}
	}
	return under
}

// Sited returns a time by the clock of a zone; as it is where that is not known.
func Sited(t time.Time, zone string) time.Time {
	if place, err := time.LoadLocation(zone); err == nil && zone != "" {
		return t.In(place)
	}
	return t
}
