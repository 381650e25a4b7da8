package demo

import (
	"context"
	"fmt"
	"slices"
	"time"

	"nephelon/core/facts"

	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/days"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/plan/stage"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
	"nephelon/core/work"
	"nephelon/store"
)

// Zone is the time zone of the demo company.
const Zone = "Europe/Oslo"

// house returns how the demo company works: two crews and one grinder.
func house() job.House {
	return job.House{
		Zone: Zone, Currency: "EUR",
		Crews: []job.StandingCrew{
			{ID: "skerry", Name: "Skerry crew", People: 4, Members: []string{"Tess Arnaud", "Bo Hallin", "Ketil Orre",
				"Ylva Stranne"}, Skills: []work.Skill{work.Grinding, work.Acids, work.Mixing, work.Spreads},
				Overtime: &job.Hours{Days: []job.Weekday{job.Saturday}, From: "07:00", Until: "13:00"}},
			{ID: "sound", Name: "Sound crew", People: 2, Members: []string{"Eskil Vannes", "Marit Loddra"},
				Skills: []work.Skill{work.Mixing, work.Spreads}},
		},
		Machines: []job.Machinery{{Machine: work.Grinder, Count: 1}, {Machine: work.Blaster, Count: 1}},
	}
}

// later is a job of the weeks to come: a surface of another, of another size.
type later struct {
	name, client, from, surface string
	size                        float64
	begins, due                 int // days from now
}

func laterJobs() []later {
	return []later{
		{"Pilot station mess", "Holmvik Pilots", "baggage-hall", "corridor", 1.45, 4, 14},
		{"Kelp drying loft", "Grimsund Trawling", "lamp-room", "lamp", 1.6, 9, 19},
		{"Buoy store", "Fairway Authority West", "baggage-hall", "hall", 0.7, 12, 26},
		{"Light tender’s galley", "Holmvik Pilots", "lamp-room", "lamp", 1.3, 18, 27},
		{"Salt house", "Grimsund Trawling", "baggage-hall", "hall", 0.85, 24, 38},
		{"Ice wharf office", "Fairway Authority West", "baggage-hall", "corridor", 1.8, 30, 41},
	}
}

// unfinished is a job that is not planned whole, or not wanted any more.
type unfinished struct {
	name, client, from string
	measured, archived bool
}

func unplanned() []unfinished {
	return []unfinished{
		{"Kittiwake tea room", "Holmvik Pilots", "lamp-room", false, false},
		{"Cutter slip shelter", "Fairway Authority West", "lamp-room", true, false},
		{"Old ice house", "Grimsund Trawling", "lamp-room", true, true},
	}
}

// of makes the job from the file of another, without coats, and without a plan where it is not
// measured yet.
func (u unfinished) of(f job.File) job.File {
	f.Job.Name, f.Job.Client, f.Job.Site, f.Job.Notes = u.name, u.client, "", ""
	f.Job.Zone, f.Job.Stock, f.Job.Forecast, f.Job.Start, f.Job.Due = Zone, nil, nil, "", ""
	s := f.Job.Surfaces[0]
	s.Name, s.Coats, s.Survey = u.name, []buildup.Coat{}, nil
	if !u.measured {
		s.Floor, s.Layout = takeoff.Floor{Outline: geometry.Ring{}, Holes: []takeoff.Hole{}}, pour.Layout{}
	}
	f.Job.Surfaces, f.Products = []job.Surface{s}, []material.Product{}
	return f
}

// of makes the job from the file of another.
func (l later) of(f job.File, now time.Time) job.File {
	f.Job.Name, f.Job.Client, f.Job.Site, f.Job.Notes = l.name, l.client, "", ""
	f.Job.Zone, f.Job.Stock, f.Job.Forecast = Zone, nil, nil
	day := now.AddDate(0, 0, l.begins)
	f.Job.Start = job.Local(day.Format(time.DateOnly) + "T07:00")
	f.Job.Due = now.AddDate(0, 0, l.due).Format(time.DateOnly)
	at := slices.IndexFunc(f.Job.Surfaces, func(s job.Surface) bool { return s.ID == l.surface })
	s := f.Job.Surfaces[at]
	s.Name = l.name
	s.Floor.Outline = scaled(s.Floor.Outline, l.size)
	s.Floor.Holes = slices.Clone(s.Floor.Holes)
	for i := range s.Floor.Holes {
		s.Floor.Holes[i].Outline = scaled(s.Floor.Holes[i].Outline, l.size)
	}
	if exit := s.Layout.Exit; exit != nil {
		s.Layout.Exit = &geometry.Point{X: exit.X * l.size, Y: exit.Y * l.size}
	}
	s.Coats = slices.Clone(s.Coats)
	f.Job.Surfaces = []job.Surface{s}
	return f
}

func scaled(ring geometry.Ring, by float64) geometry.Ring {
	out := make(geometry.Ring, len(ring))
	for i, p := range ring {
		out[i] = geometry.Point{X: p.X * by, Y: p.Y * by}
	}
	return out
}

// mostJobs is more than the demo has.
const mostJobs = 100

// rounds is the number of rosters tried for the demo's.
const rounds = 150

// fillRoster books the demo's jobs into its crews' days, and then has a crew miss a day,
// so that one coat's window closes badly.
func fillRoster(ctx context.Context, s *store.Store, company, person uuid.UUID, now time.Time) error {
	open, _, err := s.Open(ctx, company, mostJobs)
	if err != nil {
		return err
	}
	planner := plan.NewPlanner()
	var jobs []days.Job
	for _, j := range open {
		made, err := planner.MakeFor(ctx, j.File, facts.At(now), measure.Metric)
		if err != nil {
			return fmt.Errorf("plan a demo job: %w", err)
		}
		jobs = append(jobs, days.Job{ID: j.ID.String(), File: j.File, Plan: made,
			Films: stage.FilmsOf(j.File, facts.At(now), measure.Metric, 0),
			Cool:  stage.FilmsOf(j.File, facts.At(now), measure.Metric, days.Cooler)})
	}
	h := house()
	const weeks = 7
	c := days.Build(h, jobs, nil, now, weeks)
	o := c.Options()
	o.Rounds = rounds
	made, err := c.Plan(ctx, o)
	if err != nil {
		return fmt.Errorf("plan the demo's roster: %w", err)
	}
	booked := c.Booked(made, nil)
	if _, err := s.Book(ctx, company, person, 0, c.Parted(booked)); err != nil {
		return err
	}
	windows := c.Allowed(booked)
	soon := now.AddDate(0, 0, 2)
	for _, b := range booked { // the first coat over another, two days from now at the earliest
		if w := windows[b.Job+"/"+b.Task]; w.Closes == nil || b.From.Before(soon) {
			continue
		}
		day := b.From.In(job.ZoneOf(h)).Format(time.DateOnly)
		for i := range h.Crews {
			if h.Crews[i].ID == b.Crew {
				h.Crews[i].Off = []job.Leave{{From: day, Until: day, Why: "off sick"}}
			}
		}
		break
	}
	_, err = s.SaveHouse(ctx, company, 1, h)
	return err
}
