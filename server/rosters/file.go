package rosters

import (
	"bytes"
	"context"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/days"
	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/exchange"
)

// RosterFile names what of the roster is written, and as what.
type RosterFile struct {
	Crew   string `query:"crew" maxLength:"60" doc:"Only this crew's"`
	Person string `query:"person" maxLength:"60" doc:"Only what this person's crew does"`
	As     string `query:"as" enum:"ics,csv,xlsx" default:"ics"`
}

// rosterFile writes what is booked as a calendar or as a table.
func (s *Service) rosterFile(ctx context.Context, in *RosterFile) (*api.Download, error) {
	stands, house, c, err := s.calendar(ctx, nil, nil)
	if err != nil {
		return nil, err
	}
	lines, name := []exchange.RosterLine{}, "Roster"
	crews := make(map[string]string)
	for _, crew := range job.CrewsOf(house) {
		crews[crew.ID] = crew.Name
		if crew.ID == in.Crew {
			name = crew.Name
		}
	}
	if in.Person != "" {
		crew, there := house.CrewOf(in.Person)
		if !there {
			return nil, huma.Error422UnprocessableEntity(in.Person + " is in no crew. Name somebody who is on the roster.")
		}
		in.Crew, name = crew.ID, in.Person
	}
	tasks := make(map[string]days.Bookable)
	for _, t := range c.Tasks {
		tasks[t.Job+"/"+t.ID] = t
	}
	jobs := make(map[string]job.Job)
	laid := make(map[string][]facts.Laid)
	for _, j := range c.Jobs() {
		jobs[j.ID], laid[j.ID] = j.File.Job, j.Laid
	}
	promised := make(map[string]time.Time)
	for _, p := range c.Promises(stands.Bookings) {
		promised[p.Job+"/"+string(p.Task)] = p.At
	}
	for _, b := range days.WithReady(days.AsLogged(stands.Bookings, laid, time.Now())) {
		task, readies := b.Readies()
		t, there := tasks[b.Job+"/"+task]
		if readies {
			t.Name = b.Title
		}
		if !there || in.Crew != "" && b.Crew != in.Crew || t.Passing && in.Crew != "" {
			continue
		}
		if at, known := promised[b.Job+"/"+b.Task]; known && t.Passing {
			b.From, b.Until = at, at
		}
		lines = append(lines, exchange.RosterLine{
			ID: b.Job + "/" + b.Task, Job: jobs[b.Job].Name, Surface: t.Surface, Task: t.Name, Crew: crews[b.Crew],
			Place: jobs[b.Job].Site, From: b.From, Until: b.Until, Pinned: b.Pinned, Version: b.Changed,
		})
	}
	var text bytes.Buffer
	switch in.As {
	case "xlsx":
		if err := exchange.WriteRosterBook(&text, lines, job.ZoneOf(house)); err != nil {
			return nil, s.Fail(ctx, "write the roster", err)
		}
		return api.Attached("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", name+".xlsx",
			text.Bytes()), nil
	case "csv":
		if err := exchange.WriteRosterTable(&text, lines, job.ZoneOf(house)); err != nil {
			return nil, s.Fail(ctx, "write the roster", err)
		}
		return api.Attached("text/csv; charset=utf-8", name+".csv", text.Bytes()), nil
	}
	if err := exchange.WriteCalendar(&text, name, lines, stands.ChangedAt); err != nil {
		return nil, s.Fail(ctx, "write the roster", err)
	}
	return api.Attached("text/calendar; charset=utf-8", name+".ics", text.Bytes()), nil
}
