package input

import (
	"time"

	"nephelon/core/facts"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// SlabBasis names what the temperature of a slab rests on.
type SlabBasis string

// What it may rest on.
const (
	SlabIsRead  SlabBasis = "read"
	SlabEntered SlabBasis = "entered"
	SlabAssumed SlabBasis = "assumed"
)

// Values returns all values, in the order in which they are shown.
func (SlabBasis) Values() []SlabBasis { return []SlabBasis{SlabIsRead, SlabEntered, SlabAssumed} }

// slabFresh holds how long a reading of a slab is planned with in place of what was assumed: common practice,
// no source.
const slabFresh = 48 * time.Hour

// SlabFrom holds the temperature of the slab that a job is planned for, and what it rests on.
type SlabFrom struct {
	Slab  measure.Temperature `json:"slab" doc:"°C; through a forecast, where there is one, only of the parts"`
	Parts measure.Temperature `json:"parts" doc:"°C of parts that nobody entered"`
	Basis SlabBasis           `json:"basis"`
	At    *time.Time          `json:"at,omitempty" doc:"When it was read"`
	On    string              `json:"on,omitempty" doc:"The surface that it was read on"`
}

// SlabRead holds a slab as it was read, and where.
type SlabRead struct {
	Slab measure.Temperature
	At   time.Time
	On   string // the surface; empty where it was read on a job day
}

// newestSlab returns the newest reading of a slab: of a survey, or of a job day; nil where none was taken.
func (in *Inputs) newestSlab(logged []facts.Reading) *SlabRead {
	var newest *SlabRead
	take := func(r SlabRead) {
		if newest == nil || r.At.After(newest.At) {
			newest = &r
		}
	}
	for _, s := range in.File.Job.Surfaces {
		if s.Survey == nil || len(s.Coats) == 0 {
			continue
		}
		for n := range s.Survey.Readings {
			if r := &s.Survey.Readings[n]; r.Kind == survey.SlabTemperature && r.Check(in.Now, in.Units) == nil {
				take(SlabRead{measure.Temperature(r.Value), r.At, s.Name})
			}
		}
	}
	for _, r := range logged {
		if !r.At.After(in.Now) {
			take(SlabRead{r.Slab, r.At, ""})
		}
	}
	return newest
}
