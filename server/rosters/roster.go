// Package rosters offers the roster of a company: what is booked, plans of it, files and
// calendars to subscribe to.
package rosters

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"time"

	"nephelon/core/cure"
	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"

	"nephelon/core/days"
	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/roster"
	"nephelon/core/work"
	"nephelon/store"
)

// Service answers what is asked about the roster.
type Service struct {
	api.Base
	store   Store
	planner *plan.Planner
	lives   *cure.Known
	jobs    *lru.Cache[jobKey, days.Job] // a cache and nothing more
	laid    *lru.Cache[laidKey, []facts.Laid]
	seconds float64 // that a plan may take at most; as asked when zero
}

// jobKey holds what a job on the roster depends on.
type jobKey struct {
	company, job uuid.UUID
	revision     int64
	logged       int64
	wetted       string // the wet work that is over
	units        measure.System
	zone         string
	hour         int64
}

// laidKey holds what the hours at which a job was laid depend on.
type laidKey struct {
	company, job uuid.UUID
	logged       int64
}

// New returns the service. A plan takes at most so many seconds, or as many as are asked for
// where that is 0.
func New(base api.Base, in Store, planner *plan.Planner, seconds float64) (*Service, error) {
	jobs, err := lru.New[jobKey, days.Job](mostDayJobs)
	if err != nil {
		return nil, fmt.Errorf("make the cache of the roster's jobs: %w", err)
	}
	laid, err := lru.New[laidKey, []facts.Laid](mostDayJobs)
	if err != nil {
		return nil, fmt.Errorf("make the cache of what was laid: %w", err)
	}
	return &Service{Base: base, store: in, planner: planner, lives: cure.NewKnown(), jobs: jobs, laid: laid,
		seconds: seconds}, nil
}

// Routes adds the operations.
func (s *Service) Routes() {
	s.rosterRoutes()
	s.calendarRoutes()
	s.runRoutes()
}

// house returns how a company works.
func (s *Service) house(ctx context.Context, company uuid.UUID) (job.House, error) {
	kept, err := s.store.House(ctx, company)
	return kept.Of, err
}

// rosterWeeks is the number of weeks that a company plans ahead.
const rosterWeeks = 8

// mostDayJobs limits how many jobs are kept with their plans, for the next look at a roster.
const mostDayJobs = mostOpen + 400

// Bounds of the jobs on a roster: how many are looked at, how long all of them and each of
// them may take to be worked out where they are not known yet. What is left out is told.
const (
	mostOpen   = 1000
	rosterTime = 8 * time.Second
	jobTime    = 3 * time.Second
)

// RosterCrew is a crew with when it works.
type RosterCrew struct {
	ID      string       `json:"id"`
	Name    string       `json:"name"`
	People  int          `json:"people" doc:"0: as many as it takes"`
	Members []string     `json:"members,omitempty" doc:"Those of them who are named"`
	Skills  []work.Skill `json:"skills"`
	Shifts  []job.Shift  `json:"shifts"`
}

// RosterJob is a job on the roster.
type RosterJob struct {
	ID   string     `json:"id"`
	Name string     `json:"name"`
	Site string     `json:"site,omitempty"`
	Due  string     `json:"due,omitempty" doc:"The day by which people want to walk on it"`
	Done *time.Time `json:"done,omitempty" doc:"When its last task is done, as booked"`
	Late bool       `json:"late,omitempty"`
}

// RosterWindow holds when a task may begin, with what lies before it as booked.
type RosterWindow struct {
	Job  string `json:"job"`
	Task string `json:"task"`
	days.Allowed
}

// RosterView is the roster of a company: what can be booked, what is, and what follows.
type RosterView struct {
	Revision  int64             `json:"revision" doc:"0 where nothing was booked yet"`
	By        string            `json:"by,omitempty" doc:"Who booked last"`
	From      time.Time         `json:"from"`
	Until     time.Time         `json:"until"`
	Now       time.Time         `json:"now"`
	Zone      string            `json:"zone"`
	Step      int               `json:"step" doc:"Minutes of the steps in which work is booked"`
	Currency  string            `json:"currency,omitempty"`
	Crews     []RosterCrew      `json:"crews"`
	Jobs      []RosterJob       `json:"jobs"`
	Tasks     []days.Bookable   `json:"tasks"`
	Bookings  []days.Booked     `json:"bookings"`
	Windows   []RosterWindow    `json:"windows"`
	Promises  []days.Promise    `json:"promises"`
	Weather   []RosterDay       `json:"weather" doc:"Weather of the jobs that have a forecast, day by day"`
	Left      []days.Unplanned  `json:"left" doc:"Jobs that are not on the calendar"`
	Broken    []days.Broken     `json:"broken" doc:"Bookings that no longer hold"`
	Lain      []days.Lain       `json:"lain" doc:"Pours that were begun, as they were logged"`
	Follows   []days.Follow     `json:"follows" doc:"Bookings whose windows count from a pour that was logged"`
	Asked     []days.Broken     `json:"asked" doc:"Booked pours that are over, of which nothing tells that they were done"`
	Unknown   []string          `json:"unknown" doc:"Names of jobs to which no way is known: crews are planned to be there at once"`
	Objective []roster.PartCost `json:"objective,omitempty" doc:"Cost of a proposal, in steps of the roster"`
	Optimal   bool              `json:"optimal,omitempty"`
	Moves     []days.Move       `json:"moves" doc:"Bookings that a proposal puts elsewhere than they stand, with why"`
	Conflict  *RosterConflict   `json:"conflict,omitempty" doc:"Why nothing fits; then the bookings are those that were asked with"`
}

// RosterDay is the weather of a day at a job.
type RosterDay struct {
	Job  string              `json:"job"`
	From time.Time           `json:"from" doc:"Midnight of the day at the site"`
	Low  measure.Temperature `json:"low" doc:"°C of the air"`
	High measure.Temperature `json:"high"`
	Rain bool                `json:"rain,omitempty"`
}

// weatherOf is the forecast of a job, day by day.
func weatherOf(id string, f job.Job) []RosterDay {
	zone, err := f.Place()
	if f.Forecast == nil || err != nil {
		return nil
	}
	var all []RosterDay
	for _, h := range f.Forecast.Hours {
		at := h.At.In(zone)
		day := time.Date(at.Year(), at.Month(), at.Day(), 0, 0, 0, 0, zone)
		if n := len(all); n == 0 || !all[n-1].From.Equal(day) {
			all = append(all, RosterDay{Job: id, From: day, Low: h.Air, High: h.Air})
		}
		last := &all[len(all)-1]
		last.Low, last.High, last.Rain = min(last.Low, h.Air), max(last.High, h.Air), last.Rain || h.Rain > 0
	}
	return all
}

// RosterConflict says why nothing fits.
type RosterConflict struct {
	Text string   `json:"text"`
	Ways []string `json:"ways"`
}

// RosterToday holds what is booked on the next day on which anything is.
type RosterToday struct {
	Zone  string            `json:"zone"`
	Lines []days.Booked     `json:"lines"`
	Crews map[string]string `json:"crews" doc:"Names, by id"`
}

// RosterQuestion asks for a plan around bookings.
type RosterQuestion struct {
	Bookings []days.Booked `json:"bookings" maxItems:"20000" doc:"What is pinned stays; all else may move, as little as it must"`
	Crews    *[]string     `json:"crews,omitempty" maxItems:"40" doc:"Only with these crews, to try"`
	Try      *days.Try     `json:"try,omitempty" doc:"Change of the company to try; it is not kept"`
	Seconds  float64       `json:"seconds" minimum:"0.1" maximum:"20" doc:"How long to look for a better plan at most"`
}

// PlaceQuestion asks where a task may be put.
type PlaceQuestion struct {
	Bookings []days.Booked `json:"bookings" maxItems:"20000"`
	Job      string        `json:"job" maxLength:"60"`
	Task     string        `json:"task" maxLength:"250"`
	Crew     string        `json:"crew,omitempty" maxLength:"60" doc:"Crew; together with from, the answer says why it may not begin there"`
	From     *time.Time    `json:"from,omitempty"`
}

// PlaceAnswer holds where it may begin.
type PlaceAnswer struct {
	Places []days.Opening `json:"places"`
	Why    string         `json:"why,omitempty" doc:"Why it may not begin where it was asked for"`
}

// RosterKeep is bookings to be kept.
type RosterKeep struct {
	Revision int64         `json:"revision" minimum:"0" doc:"Revision that they were made from"`
	Bookings []days.Booked `json:"bookings" maxItems:"20000"`
}

func (s *Service) rosterRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "roster", Summary: "Get the roster", Method: http.MethodGet,
		Path:        "/api/roster",
		Description: "Crews, tasks and bookings of all open jobs"},
		func(ctx context.Context, _ *struct{}) (*api.Body[RosterView], error) {
			stands, house, c, err := s.calendar(ctx, nil, nil)
			if err != nil {
				return nil, err
			}
			return api.Answer(viewOf(stands, house, c, stands.Bookings)), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "planRoster", Summary: "Plan the roster", Method: http.MethodPost,
		Path:         "/api/roster/plan",
		MaxBodyBytes: api.BodyLimit, Description: "Plans all open jobs around what is pinned; stores nothing"}, s.planRoster)
	api.Register(s.API, huma.Operation{OperationID: "rosterWays", Summary: "List what would help the roster",
		Method: http.MethodPost, Path: "/api/roster/ways",
		MaxBodyBytes: api.BodyLimit, Description: "Tries what would make a plan fit, less late or keep more windows, " +
			"with what " +
			"that costs; stores nothing"}, s.rosterWays)
	api.Register(s.API, huma.Operation{OperationID: "rosterPlaces", Summary: "Find where a task fits",
		Method: http.MethodPost, Path: "/api/roster/places",
		MaxBodyBytes: api.BodyLimit, Description: "Where a task may be put; stores nothing"},
		func(ctx context.Context, in *api.Body[PlaceQuestion]) (*api.Body[PlaceAnswer], error) {
			_, _, c, err := s.calendar(ctx, in.Body.Bookings, nil)
			if err != nil {
				return nil, err
			}
			out := PlaceAnswer{Places: c.Places(in.Body.Bookings, in.Body.Job, in.Body.Task)}
			if in.Body.From != nil {
				out.Why = c.Why(in.Body.Bookings, in.Body.Job, in.Body.Task, in.Body.Crew, *in.Body.From)
			}
			return api.Answer(out), nil
		})
	s.bookingRoutes()
}

// bookingRoutes offer and keep what is booked.
func (s *Service) bookingRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "rosterToday", Summary: "Get the next day's bookings",
		Method: http.MethodGet, Path: "/api/roster/today",
		Description: "What is booked next, without working anything out"},
		func(ctx context.Context, _ *struct{}) (*api.Body[RosterToday], error) {
			company := api.Person(ctx).CompanyID
			stands, err := s.store.Roster(ctx, company)
			if err != nil {
				return nil, s.Fail(ctx, "read the roster", err)
			}
			house, err := s.house(ctx, company)
			if err != nil {
				return nil, s.Fail(ctx, "read the roster", err)
			}
			now := time.Now().In(job.ZoneOf(house))
			open, err := s.store.OpenSites(ctx, company)
			if err != nil {
				return nil, s.Fail(ctx, "read the jobs", err)
			}
			lines, err := s.asLogged(ctx, company, stands.Bookings, open, now)
			if err != nil {
				return nil, s.Fail(ctx, "read what was laid", err)
			}
			out := RosterToday{Zone: now.Location().String(), Lines: days.Next(days.WithReady(lines), now),
				Crews: make(map[string]string)}
			for _, c := range job.CrewsOf(house) {
				out.Crews[c.ID] = c.Name
			}
			return api.Answer(out), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "rosterFile", Summary: "Export the roster", Method: http.MethodGet,
		Path:        "/api/roster-file",
		Description: "What is booked, as iCalendar, CSV or a workbook"}, s.rosterFile)
	api.Register(s.API, huma.Operation{OperationID: "keepRoster", Summary: "Save bookings", Method: http.MethodPut,
		Path:         "/api/roster",
		MaxBodyBytes: api.BodyLimit, Description: "Saves bookings, unless somebody else has booked since"},
		func(ctx context.Context, in *api.Body[RosterKeep]) (*api.Body[RosterView], error) {
			if err := booking(in.Body.Bookings); err != nil {
				return nil, err
			}
			who := api.Person(ctx)
			_, _, planned, err := s.calendar(ctx, in.Body.Bookings, nil)
			if err != nil {
				return nil, err
			}
			_, err = s.store.Book(ctx, who.CompanyID, who.ID, in.Body.Revision, planned.Parted(in.Body.Bookings))
			if errors.Is(err, store.ErrRosterMoved) {
				stands, err := s.store.Roster(ctx, who.CompanyID)
				if err != nil {
					return nil, s.Fail(ctx, "read the roster", err)
				}
				return nil,
					huma.Error409Conflict(fmt.Sprintf("%s changed the roster at %s, while you planned. Nothing of yours was booked: "+
						"load it again and plan around the current bookings.", stands.ChangedBy,
						stands.ChangedAt.UTC().Format("15:04 UTC")))
			}
			if err != nil {
				return nil, s.Fail(ctx, "keep the roster", err)
			}
			stands, house, c, err := s.calendar(ctx, nil, nil)
			if err != nil {
				return nil, err
			}
			return api.Answer(viewOf(stands, house, c, stands.Bookings)), nil
		})
}

// viewOf shows a calendar with bookings.
func viewOf(stands store.Roster, house job.House, c *days.Calendar, bookings []days.Booked) RosterView {
	zone := job.ZoneOf(house)
	v := RosterView{
		Revision: stands.Revision, By: stands.ChangedBy, From: c.From, Until: c.Until, Now: time.Now(),
		Zone: zone.String(), Step: int(house.Slot() / time.Minute), Currency: house.Currency,
		Crews: []RosterCrew{}, Jobs: []RosterJob{}, Tasks: c.Tasks,
		Bookings: bookings, Windows: []RosterWindow{}, Weather: []RosterDay{},
		Promises: c.Promises(bookings), Left: c.Left,
		Moves: []days.Move{}, Broken: c.Check(bookings),
		Lain: c.Lain(), Follows: c.Follows(bookings), Asked: c.Asked(bookings),
	}
	if v.Tasks == nil {
		v.Tasks = []days.Bookable{}
	}
	if v.Unknown = c.Unknown; v.Unknown == nil {
		v.Unknown = []string{}
	}
	if v.Left == nil {
		v.Left = []days.Unplanned{}
	}
	for _, crew := range job.CrewsOf(house) {
		own := RosterCrew{ID: crew.ID, Name: crew.Name, People: crew.People, Members: crew.Members, Skills: crew.Skills,
			Shifts: job.ShiftsOf(house, crew, c.From, c.Until, zone)}
		if own.Skills == nil {
			own.Skills = []work.Skill{}
		}
		if own.Shifts == nil {
			own.Shifts = []job.Shift{}
		}
		v.Crews = append(v.Crews, own)
	}
	for _, j := range c.Jobs() {
		f := j.File.Job
		own := RosterJob{ID: j.ID, Name: f.Name, Site: f.Site, Due: f.Due}
		for _, b := range bookings {
			if b.Job == j.ID && (own.Done == nil || b.Until.After(*own.Done)) {
				until := b.Until
				own.Done = &until
			}
		}
		v.Weather = append(v.Weather, weatherOf(j.ID, f)...)
		own.Late = own.Done != nil && f.Due != "" && own.Done.In(zone).Format(time.DateOnly) > f.Due
		v.Jobs = append(v.Jobs, own)
	}
	windows := c.Allowed(bookings)
	for _, t := range c.Tasks {
		if w := windows[t.Job+"/"+t.ID]; w.Opens != nil || w.Closes != nil {
			v.Windows = append(v.Windows, RosterWindow{t.Job, t.ID, w})
		}
	}
	return v
}
