package plan

import (
	"strings"
	"time"

	"nephelon/core/facts"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/measure"
)

// Standing names where a job stands.
type Standing string

// The standings, in the order of the work.
const (
	Measuring Standing = "measuring" // something is not measured yet
	Planning  Standing = "planning"  // something is refused, or has no coats
	Ready     Standing = "ready"     // planned whole
	OnSite    Standing = "site"      // begun, not done
	Finished  Standing = "done"
)

// Summary is a job in a few figures, as a list of jobs shows it.
type Summary struct {
	Standing Standing     `json:"standing"`
	Area     measure.Area `json:"area"`
	Systems  []Bands      `json:"systems" doc:"Systems of its surfaces, as far as they have coats"`
	Needs    string       `json:"needs,omitempty" doc:"What it still needs first, in a sentence"`
	Refused  int          `json:"refused"`
	Warnings int          `json:"warnings"`
	Kits     int          `json:"kits"`
	Cost     *float64     `json:"cost,omitempty"`
	Currency string       `json:"currency"`
	Start    *time.Time   `json:"start,omitempty"`
	Ready    *time.Time   `json:"ready,omitempty"`
	Zone     string       `json:"zone,omitempty" doc:"IANA time zone of the site"`

	Reads measure.System `json:"reads,omitempty" doc:"The system in which the sentence is written"`
}

// For returns the summary for a reader: without a sentence whose figures are in another system
// than theirs, since a missing one is better than one that contradicts the job's own.
func (s Summary) For(reads measure.System) Summary {
	if s.Reads != reads && strings.ContainsAny(s.Needs, "0123456789") {
		s.Needs = ""
	}
	s.Reads = ""
	return s
}

// Bands are the colours of a build-up, bottom to top.
type Bands struct {
	Surface string   `json:"surface"`
	Colors  []string `json:"colors"`
}

// mostBands bounds the surfaces whose colours are shown.
const mostBands = 6

// Summary sums a plan up for a list of jobs.
func (p Plan) Summary(f job.File) Summary {
	s := Summary{Standing: Ready, Area: p.Area, Systems: []Bands{}, Kits: p.Line.Kits, Cost: p.Cost,
		Currency: f.Job.Currency, Ready: p.Line.Ready, Zone: p.Zone,
		Reads: p.Units}
	unmeasured, bare, begun := 0, 0, false
	for _, surface := range p.Surfaces {
		if surface.Takeoff == nil {
			unmeasured++
		}
		if len(surface.Coats) == 0 {
			bare++
			continue
		}
		if len(s.Systems) < mostBands {
			bands := Bands{Surface: surface.Name, Colors: make([]string, len(surface.Coats))}
			for i, c := range surface.Coats {
				bands.Colors[i] = c.Color
			}
			s.Systems = append(s.Systems, bands)
		}
		for _, c := range surface.Coats {
			begun = begun || c.Times != nil && c.Times.Basis == facts.Logged
		}
		if first := surface.Coats[0].Times; first != nil && first.Start != nil &&
			(s.Start == nil || first.Start.Before(*s.Start)) {
			s.Start = first.Start
		}
	}
	for _, found := range p.Findings {
		switch found.Level {
		case finding.Refused:
			s.Refused++
		case finding.Warning:
			s.Warnings++
		}
	}
	s.Needs = p.needs()
	switch {
	case f.Job.Done != "":
		s.Standing, s.Needs = Finished, ""
	case begun:
		s.Standing = OnSite
	case unmeasured > 0 || len(p.Surfaces) == 0:
		s.Standing = Measuring
	case bare > 0 || s.Refused > 0:
		s.Standing = Planning
	}
	return s
}

// needs returns what a plan still needs first: what is refused, then what is missing,
// then the first warning.
func (p Plan) needs() string {
	say := func(f finding.Finding) string {
		if f.WayOut == "" {
			return f.Text
		}
		return f.Text + " " + f.WayOut
	}
	for _, f := range p.Findings {
		if f.Level == finding.Refused {
			return say(f)
		}
	}
	for _, s := range p.Surfaces {
		switch {
		case s.Takeoff == nil:
			return s.Name + " is not measured yet."
		case len(s.Coats) == 0:
			return s.Name + " has no coats yet."
		}
	}
	for _, f := range p.Findings {
		if f.Level == finding.Warning {
			return say(f)
		}
	}
	return ""
}

// Values returns all values, in the order in which they are shown.
func (Standing) Values() []Standing {
	return []Standing{Measuring, Planning, Ready, OnSite, Finished}
}
