package rosters

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/days"
	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/plan/stage"
	"nephelon/core/roster"
	"nephelon/core/roster/search"
	"nephelon/server/api"
	"nephelon/store"
)

// booking refuses bookings that cannot be.
func booking(all []days.Booked) error {
	at, text := days.Fault(all)
	if text == "" {
		return nil
	}
	return huma.Error422UnprocessableEntity("A booking cannot be.",
		&huma.ErrorDetail{Location: fmt.Sprintf("body.bookings[%d]", at), Message: text, Value: all[at].Title})
}

// calendar makes the calendar of a company with bookings, those that stand where none are
// given, and only some of its crews where these are named.
func (s *Service) calendar(ctx context.Context, bookings []days.Booked, only *[]string) (store.Roster, job.House,
	*days.Calendar, error) {
	stands, house, build, err := s.calendars(ctx, bookings, only)
	if err != nil {
		return stands, house, nil, err
	}
	c, err := build(days.Try{})
	if err != nil {
		return stands, house, nil, s.Fail(ctx, "make the calendar", err)
	}
	return stands, house, c, nil
}

// calendars is the same for a company and its jobs as they are and as they might be.
func (s *Service) calendars(ctx context.Context, bookings []days.Booked, only *[]string) (store.Roster, job.House,
	func(days.Try) (*days.Calendar, error), error) {
	who := api.Person(ctx)
	none := func(err error) (store.Roster, job.House, func(days.Try) (*days.Calendar, error), error) {
		return store.Roster{}, job.House{}, nil, s.Fail(ctx, "make the calendar", err)
	}
	stands, err := s.store.Roster(ctx, who.CompanyID)
	if err != nil {
		return none(err)
	}
	if bookings == nil {
		bookings = stands.Bookings
	}
	house, err := s.house(ctx, who.CompanyID)
	if err != nil {
		return none(err)
	}
	if only != nil {
		crews := []job.StandingCrew{}
		for _, c := range job.CrewsOf(house) {
			for _, id := range *only {
				if id == c.ID {
					crews = append(crews, c)
				}
			}
		}
		if house.Crews = crews; len(crews) == 0 {
			return store.Roster{}, house, nil, huma.Error422UnprocessableEntity(
				"None of these crews is on the roster. Name one that is.")
		}
	}
	open, count, err := s.store.Open(ctx, who.CompanyID, mostOpen)
	if err != nil {
		return none(err)
	}
	for n := range open {
		open[n].File = open[n].File.In(house.Zone)
	}
	var left []days.Unplanned
	if count > len(open) {
		left = append(left, days.Unplanned{
			Name: fmt.Sprintf("%d more jobs", count-len(open)),
			Text: fmt.Sprintf("Only the %d oldest open jobs are looked at.", mostOpen),
			Way:  "Mark jobs as done, or archive them.",
		})
	}
	within := ctx
	ctx, cancel := context.WithTimeout(ctx, rosterTime)
	defer cancel()
	now := time.Now()
	wetted := days.Wetted(stands.Bookings, now)
	jobs, slow, err := s.known(ctx, within, open, wetted, now)
	if err != nil {
		return none(err)
	}
	left = append(left, slow...)
	return stands, house, func(t days.Try) (*days.Calendar, error) {
		tried, err := t.Jobs(jobs, func(id string, f job.File) (days.Job, error) {
			at := slices.IndexFunc(open, func(j store.Job) bool { return j.ID.String() == id })
			return s.remake(within, open[at], f, wetted[id], now)
		})
		if err != nil {
			return nil, err
		}
		c := days.Build(t.House(house), tried, bookings, now, rosterWeeks)
		c.Stood(stands.Bookings)
		c.Left, c.Reads = append(c.Left, left...), api.Person(within).Units
		return c, nil
	}, nil
}

// asLogged returns bookings of a company, those whose pours were begun when they were. What was laid is
// told once for each state of a job's record.
func (s *Service) asLogged(ctx context.Context, company uuid.UUID, booked []days.Booked, open []store.OpenSite,
	now time.Time) ([]days.Booked, error) {
	has := make(map[string]bool)
	for _, b := range booked {
		has[b.Job] = true
	}
	laid := make(map[string][]facts.Laid)
	for _, j := range open {
		id := j.ID.String()
		if j.Logged == 0 || !has[id] {
			continue
		}
		key := laidKey{company, j.ID, j.Logged}
		was, kept := s.laid.Get(key)
		if !kept {
			known, err := s.store.Facts(ctx, company, j.ID, now)
			if err != nil {
				return nil, err
			}
			was = known.Logged
			s.laid.Add(key, was)
		}
		laid[id] = was
	}
	return days.AsLogged(booked, laid, now), nil
}

// remake plans a job with a file for the roster: with what was read and laid, but not with what is
// booked, which is what the roster decides, but for wet work that is over.
func (s *Service) remake(ctx context.Context, j store.Job, f job.File, wetted []facts.Booking,
	now time.Time) (days.Job, error) {
	who, world := api.Person(ctx), facts.Facts{Now: now, Bookings: wetted}
	if j.Logged > 0 {
		known, err := s.store.Facts(ctx, who.CompanyID, j.ID, now)
		if err != nil {
			return days.Job{}, err
		}
		world.Logged, world.Readings, world.Steps = known.Logged, known.Readings, known.Steps
	}
	made, err := s.planner.MakeFor(ctx, f, world, who.Units)
	return days.Job{ID: j.ID.String(), File: f, Plan: made, Films: stage.FilmsOf(f, world, who.Units, 0),
		Cool: stage.FilmsOf(f, world, who.Units, days.Cooler), Laid: world.Logged, Steps: world.Steps}, err
}

// known returns jobs as the roster needs them, those planned before as they were, and the ones
// that take too long to be planned in the time of ctx. Within is what the caller waits for.
func (s *Service) known(ctx, within context.Context, open []store.Job, wetted map[string][]facts.Booking,
	now time.Time) (jobs []days.Job, left []days.Unplanned, err error) {
	who := api.Person(ctx)
	jobs = make([]days.Job, 0, len(open))
	for _, j := range open {
		known := jobKey{company: who.CompanyID, job: j.ID, revision: j.Revision, logged: j.Logged,
			wetted: fmt.Sprint(wetted[j.ID.String()]), units: who.Units, zone: j.File.Job.Zone,
			hour: now.Unix() / int64(time.Hour/time.Second)}
		one, kept := s.jobs.Get(known)
		if !kept && ctx.Err() == nil {
			alone, cancel := context.WithTimeout(ctx, jobTime)
			one, err = s.remake(alone, j, j.File, wetted[j.ID.String()], now)
			took := alone.Err()
			cancel()
			switch {
			case err == nil:
				s.jobs.Add(known, one)
			case ctx.Err() == nil && errors.Is(took, context.DeadlineExceeded):
				s.jobs.Add(known, days.Job{}) // not tried again until it changes
			case within.Err() != nil || ctx.Err() == nil:
				return nil, nil, err
			}
		}
		if one.ID == "" {
			left = append(left, days.Unplanned{
				Job: j.ID.String(), Name: j.File.Job.Name, Text: "It takes too long to plan together with all others.",
				Way: "Load the roster again; if it stays so, divide the job into several.",
			})
			continue
		}
		jobs = append(jobs, one)
	}
	return jobs, left, nil
}

// oneTry is the time for which a plan is looked for with each change that is tried.
const oneTry = 400 * time.Millisecond

// rosterWays tries what would help a plan around bookings.
func (s *Service) rosterWays(ctx context.Context, in *api.Body[struct {
	Bookings []days.Booked `json:"bookings" maxItems:"20000"`
}]) (*api.Body[[]days.WayOut], error) {
	if err := booking(in.Body.Bookings); err != nil {
		return nil, err
	}
	_, house, build, err := s.calendars(ctx, append([]days.Booked{}, in.Body.Bookings...), nil)
	if err != nil {
		return nil, err
	}
	var ways []days.WayOut
	err = s.store.Alone(ctx, api.Person(ctx).CompanyID, func(ctx context.Context) error {
		planned := func(t days.Try) (*days.Calendar, *roster.Plan, error) {
			c, err := build(t)
			if err != nil {
				return nil, nil, err
			}
			ctx, cancel := context.WithTimeout(ctx, oneTry)
			defer cancel()
			made, err := c.Plan(ctx, c.Options())
			if err != nil {
				return c, nil, err
			}
			return c, &made, nil
		}
		c, now, err := planned(days.Try{})
		var conflict *search.Conflict
		if err != nil && !errors.As(err, &conflict) {
			return err
		}
		ways, err = c.Ways(ctx, house, now, planned)
		return err
	})
	var wrong *roster.Error
	if errors.As(err, &wrong) {
		return nil, huma.Error422UnprocessableEntity(wrong.Text +
			" Change the crews’ skills or hours, or take the job off the roster.")
	}
	if err != nil {
		return nil, s.Fail(ctx, "look for ways out", err)
	}
	return api.Answer(ways), nil
}

// planRoster plans the roster around what is pinned.
func (s *Service) planRoster(ctx context.Context, in *api.Body[RosterQuestion]) (*api.Body[RosterView], error) {
	return s.planFor(ctx, in.Body, nil)
}

// planFor plans for whoever asks; tell, where there is one, hears of each better plan.
func (s *Service) planFor(ctx context.Context, question RosterQuestion,
	tell func(roster.Plan)) (*api.Body[RosterView], error) {
	asked := question.Bookings
	if asked == nil {
		asked = []days.Booked{}
	}
	if err := booking(asked); err != nil {
		return nil, err
	}
	stands, house, build, err := s.calendars(ctx, asked, question.Crews)
	if err != nil {
		return nil, err
	}
	try := days.Try{}
	if question.Try != nil {
		try = *question.Try
	}
	c, err := build(try)
	if errors.Is(err, days.ErrNoCoat) {
		return nil, huma.Error422UnprocessableEntity(
			"The coat that should take another hardener is no longer there. Look for ways out anew.")
	}
	if err != nil {
		return nil, s.Fail(ctx, "plan a job anew", err)
	}
	house = try.House(house)
	var made roster.Plan
	err = s.store.Alone(ctx, api.Person(ctx).CompanyID, func(ctx context.Context) error {
		ctx, cancel := context.WithTimeout(ctx, time.Duration(s.within(question.Seconds)*float64(time.Second)))
		defer cancel()
		options := c.Options()
		if tell != nil {
			options.Tell = func(p roster.Plan, _ int) { tell(p) }
		}
		made, err = c.Plan(ctx, options)
		return err
	})
	var conflict *search.Conflict
	var wrong *roster.Error
	switch {
	case errors.As(err, &conflict):
		v := viewOf(stands, house, c, asked)
		v.Conflict = &RosterConflict{conflict.Text, conflict.Ways}
		return api.Answer(v), nil
	case errors.As(err, &wrong):
		v := viewOf(stands, house, c, asked)
		v.Conflict = &RosterConflict{wrong.Text,
			[]string{"Change the crews’ skills or hours, or take the job off the roster"}}
		return api.Answer(v), nil
	case err != nil:
		return nil, s.Fail(ctx, "plan the roster", err)
	}
	booked := c.Parted(c.Booked(made, asked))
	v := viewOf(stands, house, c, booked)
	told := made.Told()
	v.Objective, v.Optimal = told.Objective, told.Optimal
	v.Moves = c.Moves(stands.Bookings, booked)
	return api.Answer(v), nil
}

// within returns how long a plan is looked for, s: as asked, or as the operator bounds it.
func (s *Service) within(asked float64) float64 {
	if s.seconds > 0 {
		return min(asked, s.seconds)
	}
	return asked
}
