package job

import (
	"fmt"
	"slices"
	"time"

	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/pricelist"
	"nephelon/core/record/cause"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// House holds how a contractor works: chosen once, and what every new job starts
// from. What is left out is as in a new job.
type House struct {
	Methods     school.Methods                        `json:"methods,omitzero"`
	Rules       []survey.Own                          `json:"rules,omitempty" maxItems:"40"`
	VOCMax      *measure.Sourced[measure.Content]     `json:"vocMax,omitempty" doc:"kg/m³ (g/L)"`
	Slab        *measure.Sourced[measure.Temperature] `json:"slab,omitempty" doc:"°C"`
	Margin      measure.Temperature                   `json:"margin,omitempty" minimum:"0" maximum:"3" doc:"K by which slabs may come cooler than told while films are still ready for the next coat"`
	Crew        *Crew                                 `json:"crew,omitempty"`
	Bucket      *kit.Bucket                           `json:"bucket,omitempty"`
	Zone        string                                `json:"zone,omitempty" maxLength:"60" doc:"IANA time zone where the company works"`
	Hours       *Hours                                `json:"hours,omitempty" doc:"When its people work"`
	BookingStep int                                   `json:"bookingStep,omitempty" enum:"5,10,15,30" doc:"Minutes of the steps in which its work is booked; 10 when left out"`
	Currency    string                                `json:"currency,omitempty" pattern:"^[A-Z]{3}$" doc:"ISO 4217 code"`
	HourCost    *float64                              `json:"hourCost,omitempty" minimum:"0" maximum:"10000" doc:"Hour cost of one person, in its currency"`

	OvertimeMore *measure.Fraction `json:"overtimeMore,omitempty" minimum:"0" maximum:"5" doc:"What an hour of overtime costs more, as a share; half when left out"`

	Crews     []StandingCrew       `json:"crews,omitempty" maxItems:"40" doc:"Who is on the roster; one crew that does everything when left out"`
	Machines  []Machinery          `json:"machines,omitempty" maxItems:"20" doc:"What there are few of; a machine that is not named is never short"`
	Holidays  []Leave              `json:"holidays,omitempty" maxItems:"400" doc:"Days on which nobody works"`
	Store     *kit.Room            `json:"store,omitempty" doc:"Room in which materials are stored"`
	Suppliers []pricelist.Supplier `json:"suppliers,omitempty" maxItems:"60" doc:"How the price lists of suppliers are read"`
	Causes    []cause.Own          `json:"causes,omitempty" maxItems:"400" doc:"How much signs and causes of faults count here, in place of common practice"`
}

// usualSlot is the step in which work is booked where a company sets none.
const usualSlot = 10 * time.Minute

// Slot returns the step in which work is booked.
func (h House) Slot() time.Duration {
	if h.BookingStep == 0 {
		return usualSlot
	}
	return time.Duration(h.BookingStep) * time.Minute
}

// StandingCrew is people who work together from job to job.
type StandingCrew struct {
	ID       string       `json:"id" minLength:"1" maxLength:"60"`
	Name     string       `json:"name" minLength:"1" maxLength:"60" pattern:"^[^\\r\\n]*$"`
	People   int          `json:"people" minimum:"1" maximum:"40"`
	Members  []string     `json:"members,omitempty" maxItems:"40" doc:"Who they are by name, each in one crew"`
	Skills   []work.Skill `json:"skills" maxItems:"10"`
	Hours    *Hours       `json:"hours,omitempty" doc:"The company's when left out"`
	Overtime *Hours       `json:"overtime,omitempty" doc:"Shifts that are worked only where they make something less late, such as Saturdays"`
	Off      []Leave      `json:"off,omitempty" maxItems:"400" doc:"Days on which it does not work"`
	Busy     []Busy       `json:"busy,omitempty" maxItems:"2000" doc:"Times at which it is elsewhere, such as read from a calendar"`
}

// longestName limits the characters of a person's name.
const longestName = 60

// Fault returns what cannot be of a house, and where; empty where nothing is.
func (h House) Fault() (path, text string) {
	in := make(map[string]string)
	for i, c := range h.Crews {
		for n, m := range c.Members {
			path := fmt.Sprintf("crews[%d].members[%d]", i, n)
			switch other, twice := in[m]; {
			case m == "" || len([]rune(m)) > longestName:
				return path,
					fmt.Sprintf("A person of %s has no name, or one of more than %d letters. Give each a name of their own.", c.Name,
						longestName)
			case twice && other == c.ID:
				return path, fmt.Sprintf("%s is named twice in %s. Tell the two apart, or name one of them.", m, c.Name)
			case twice:
				return path, fmt.Sprintf("%s is in two crews, and nobody can be in two places. Take %s out of one of them.", m, m)
			}
			in[m] = c.ID
		}
	}
	return "", ""
}

// CrewOf is the crew of a person.
func (h House) CrewOf(member string) (StandingCrew, bool) {
	at := slices.IndexFunc(h.Crews, func(c StandingCrew) bool { return slices.Contains(c.Members, member) })
	if at < 0 {
		return StandingCrew{}, false
	}
	return h.Crews[at], true
}

// Busy is a stretch of time that is taken.
type Busy struct {
	From  time.Time `json:"from"`
	Until time.Time `json:"until"`
	Why   string    `json:"why,omitempty" maxLength:"120"`
}

// Leave is days off.
type Leave struct {
	From  string `json:"from" format:"date"`
	Until string `json:"until" format:"date" doc:"The last day of it"`
	Why   string `json:"why,omitempty" maxLength:"120"`
}

// Machinery holds how many of a machine there are.
type Machinery struct {
	Machine work.Machine `json:"machine"`
	Count   int          `json:"count" minimum:"1" maximum:"100"`
	Off     []Leave      `json:"off,omitempty" maxItems:"100" doc:"Days on which none of it can be used"`
}
