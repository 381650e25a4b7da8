package demo

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"nephelon/core/facts"
	"nephelon/core/geometry"

	"github.com/google/uuid"

	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/record"
	"nephelon/core/work"
	"nephelon/store"
)

// The demo's job that is under way today, the one that was finished last week, and one of last month.
const (
	Today    = "Ferry office lobby"
	Finished = "Net dyeing shed"
	Older    = "Roe packing hall"
)

// fillRecord adds a job whose first coat is being poured now, one that was finished last week with
// something wrong, and one of last month, each with its issued plan and what the crew logged.
func fillRecord(ctx context.Context, s *store.Store, company uuid.UUID, people map[string]uuid.UUID,
	now time.Time) error {
	file, err := readJob("jobs/baggage-hall.nephelon.json")
	if err != nil {
		return err
	}
	now = now.UTC().Truncate(time.Minute)
	const ran = 34 * time.Minute // since the first batch was poured
	today := later{name: Today, client: "Holmvik Pilots", surface: "hall", size: 1.15}.of(file, now)
	today.Job.Start, today.Job.Due = local(now.Add(-ran)), now.AddDate(0, 0, 9).Format(time.DateOnly)
	if err := addRecord(ctx, s, company, people, today, now.Add(-20*time.Hour),
		logger{until: now, pace: 1.08}); err != nil {
		return fmt.Errorf("the job under way: %w", err)
	}
	begun := now.Add(-9 * 24 * time.Hour).Truncate(24 * time.Hour).Add(8 * time.Hour)
	past := later{name: Finished, client: "Grimsund Trawling", surface: "hall", size: 0.8}.of(file, now)
	past.Job.Start, past.Job.Due, past.Job.Done = local(begun), now.AddDate(0, 0, -3).Format(time.DateOnly),
		now.AddDate(0, 0, -5).Format(time.DateOnly)
	if err := addRecord(ctx, s, company, people, past, begun.Add(-26*time.Hour),
		logger{until: now, pace: 0.96, spoils: true}); err != nil {
		return fmt.Errorf("the finished job: %w", err)
	}
	begun = begun.AddDate(0, 0, -28)
	older := later{name: Older, client: "Holmvik Roe", surface: "hall", size: 0.6}.of(file, now)
	older.Job.Start, older.Job.Due = local(begun), begun.AddDate(0, 0, 6).Format(time.DateOnly)
	older.Job.Done = begun.AddDate(0, 0, 4).Format(time.DateOnly)
	if err := addRecord(ctx, s, company, people, older, begun.Add(-26*time.Hour),
		logger{until: now, pace: 1.14}); err != nil {
		return fmt.Errorf("the job of last month: %w", err)
	}
	return nil
}

// local is a time by the clock of the demo's jobs.
func local(t time.Time) job.Local {
	return job.Local(t.In(job.ZoneOf(job.House{Zone: Zone})).Format("2006-01-02T15:04"))
}

// addRecord adds a job, issues its plan, and logs it.
func addRecord(ctx context.Context, s *store.Store, company uuid.UUID, people map[string]uuid.UUID, f job.File,
	issued time.Time, l logger) error {
	id, err := s.AddJob(ctx, company, people["Oskar Pym"], f, nil)
	if err != nil {
		return err
	}
	made, err := plan.NewPlanner().Issue(ctx, f, facts.At(issued), measure.Metric, "")
	if err != nil {
		return fmt.Errorf("issue: %w", err)
	}
	made.Job, made.Revision, made.At, made.By, made.To = id.String(), 1, issued, "Oskar Pym", "Skerry crew"
	save, err := uuid.NewV7()
	if err != nil {
		return fmt.Errorf("make an id: %w", err)
	}
	if made, err = s.IssuePlan(ctx, company, people["Oskar Pym"], id, save, made); err != nil {
		return err
	}
	l.issue, l.name, l.person = &made, "Tess Arnaud", people["Tess Arnaud"].String()
	if err := l.days(); err != nil {
		return err
	}
	// The tablet sends what it has every hour.
	for from := 0; from < len(l.events); {
		until := from + 1
		for until < len(l.events) && l.events[until].At.Sub(l.events[from].At) < time.Hour-time.Minute {
			until++
		}
		came := l.events[until-1].At.Add(time.Second)
		if _, err := s.Log(ctx, company, people["Tess Arnaud"], id, l.events[from:until], came); err != nil {
			return err
		}
		from = until
	}
	return nil
}

// logger logs the days of an issued plan as a crew would that works at a pace.
type logger struct {
	issue        *record.Issue
	name, person string
	until        time.Time
	pace         float64
	spoils       bool // a bucket of the second coat is weighed wrong and poured late
	events       []record.Event
	before       string
}

func (l *logger) log(at time.Time, kind record.Kind, task string, body record.Body) error {
	if at.After(l.until) {
		return nil
	}
	id, err := uuid.NewV7()
	if err != nil {
		return fmt.Errorf("make an id: %w", err)
	}
	l.events = append(l.events, record.Event{
		ID: id.String(), Issue: l.issue.Number, Task: work.ID(task), Kind: kind, At: at, Device: "demo-tablet",
		Person: l.person, Name: l.name, Body: body,
	})
	return nil
}

// days logs every coat that has begun, in order of time, and seals the journal.
func (l *logger) days() error {
	for c := range l.issue.Coats {
		if err := l.coat(&l.issue.Coats[c]); err != nil {
			return err
		}
	}
	slices.SortStableFunc(l.events, func(a, b record.Event) int { return a.At.Compare(b.At) })
	for n := range l.events {
		l.events[n].Number = int64(n) + 1
		l.events[n] = record.Sealed(l.events[n], l.before)
		l.before = l.events[n].Hash
	}
	return nil
}

func (l *logger) coat(c *record.Coat) error {
	if c.Start == nil {
		return nil
	}
	zero, task := *c.Start, "coat/"+c.ID
	temperature := func(t measure.Temperature) *measure.Temperature { return &t }
	fraction := func(f measure.Fraction) *measure.Fraction { return &f }
	var all []error
	add := func(at time.Time, kind record.Kind, task string, body record.Body) {
		all = append(all, l.log(at, kind, task, body))
	}
	for n, g := range record.Gates(l.issue, c) {
		body := record.Body{Gate: g.Key, Saw: g.Saw}
		if g.Reads {
			body.Saw, body.Slab, body.Air, body.Humidity = "read at three places", temperature(c.Slab), temperature(c.Slab+1.5),
				fraction(0.52)
		}
		add(zero.Add(time.Duration(n-40)*time.Minute), record.Gated, task, body)
	}
	add(zero.Add(-45*time.Minute), record.Began, task+"/pour", record.Body{})
	late := time.Duration(0)
	end := zero
	for k := range c.Batches {
		b := &c.Batches[k]
		at := func(s measure.Span) time.Time {
			return zero.Add(late + time.Duration(float64(s)*l.pace*float64(time.Second)))
		}
		spoilt := l.spoils && c.Number == 2 && k == 1
		masses := make([]measure.Mass, len(b.Card.Parts))
		for n, part := range b.Card.Parts {
			masses[n] = part.Mass
			if n > 0 && spoilt {
				masses[n] *= 0.89
			}
		}
		add(at(b.Passage.Meets).Add(-2*time.Minute), record.Lot, b.ID,
			record.Body{Lots: []string{fmt.Sprintf("A-%d41", c.Number), fmt.Sprintf("B-%d17", c.Number)}[:min(2, len(masses))]})
		if len(masses) > 1 {
			add(at(b.Passage.Meets).Add(-time.Minute), record.Weighed, b.ID, record.Body{Masses: masses})
		}
		add(at(b.Passage.Meets), record.Meets, b.ID, record.Body{A: temperature(c.Slab), B: temperature(c.Slab)})
		add(at(b.Passage.Ready), record.Mixed, b.ID, record.Body{Saw: "one colour, no streaks"})
		if spoilt {
			late += 9 * time.Minute
			add(at(b.Passage.Pour).Add(-time.Minute), record.Deviated, b.ID,
				record.Body{Text: "Pail set down to move the lamp", Reason: "Tess Arnaud"})
		}
		add(at(b.Passage.Pour), record.Poured, b.ID, record.Body{})
		add(at(b.Passage.Laid), record.Spread, b.ID, record.Body{})
		if len(b.Beside) > 0 {
			add(at((b.Passage.Laid+b.Passage.Done)/2), record.Joined, b.ID, record.Body{})
		}
		add(at(b.Passage.Laid).Add(20*time.Second), record.Emptied, b.ID, record.Body{At: spot(b)})
		for n := range 3 {
			film := c.Wet * measure.Film(0.97+0.04*float64((k+n)%3-1))
			add(at(b.Passage.Laid).Add(time.Duration(n+1)*30*time.Second), record.Film, b.ID, record.Body{Film: &film})
		}
		end = at(b.Passage.Done)
		add(end, record.Rolled, b.ID, record.Body{})
	}
	for h := time.Hour; zero.Add(h).Before(end.Add(2 * time.Hour)); h += time.Hour {
		add(zero.Add(h), record.Read, task, record.Body{Slab: temperature(c.Slab - 0.3), Air: temperature(c.Slab + 1),
			Humidity: fraction(0.55)})
	}
	add(end.Add(12*time.Minute), record.Ended, task+"/pour", record.Body{})
	if l.spoils && c.Number == 2 {
		add(end.Add(40*time.Hour), record.Fault, c.Batches[1].ID,
			record.Body{Seen: "soft", Size: "about 0.4 m across", Text: "A fingernail marks it near the west wall.",
				At: spot(&c.Batches[1])})
	}
	for _, err := range all {
		if err != nil {
			return err
		}
	}
	return nil
}

// spot returns a place in a section, away from its number, m; nil where it has no outline.
func spot(b *record.Batch) *[2]float64 {
	if len(b.Rings) == 0 || len(b.Rings[0]) == 0 {
		return nil
	}
	corner := slices.MaxFunc(b.Rings[0], func(p, q geometry.Point) int {
		return cmp.Compare(b.Label.Distance(p), b.Label.Distance(q))
	})
	at := b.Label
	for _, share := range []float64{0.6, 0.45, 0.75, 0.3} {
		at = geometry.Point{X: b.Label.X + share*(corner.X-b.Label.X), Y: b.Label.Y + share*(corner.Y-b.Label.Y)}
		if !slices.ContainsFunc(b.Rings[1:], func(hole geometry.Ring) bool { return hole.Holds(at) }) {
			break
		}
	}
	return &[2]float64{at.X, at.Y}
}
