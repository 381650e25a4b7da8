package rosters

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"sync/atomic"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/roster"
	"nephelon/store"
)

// How a server works at runs: how long it waits between looks for one, and how often it says
// that it still works at one.
const (
	runPause = 400 * time.Millisecond
	runBeat  = time.Second
)

// RosterRun is a plan that was asked for.
type RosterRun struct {
	ID       uuid.UUID      `json:"id" format:"uuid"`
	State    store.RunState `json:"state"`
	Untaken  bool           `json:"untaken,omitempty" doc:"Whether it waits though nothing plans anything: no process does"`
	Progress *RunProgress   `json:"progress,omitempty"`
	View     *RosterView    `json:"view,omitempty" doc:"When it is done"`
	Trouble  string         `json:"trouble,omitempty" doc:"Why there is none though it is done"`
}

// RunProgress holds how far a run has come.
type RunProgress struct {
	Seconds   float64           `json:"seconds" doc:"Seconds of work so far"`
	Of        float64           `json:"of" doc:"At most"`
	Objective []roster.PartCost `json:"objective,omitempty" doc:"Objective of the best plan so far"`
}

// runAnswer holds what is kept of a run.
type runAnswer struct {
	View    *RosterView `json:"view,omitempty"`
	Trouble string      `json:"trouble,omitempty"`
}

func (s *Service) runRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "startRun", Summary: "Start planning the roster in the background",
		Method: http.MethodPost, Path: "/api/roster/runs",
		MaxBodyBytes: api.BodyLimit, Description: "Asks for a plan of all open jobs around what is pinned; one at a " +
			"time for a " +
			"company, the others wait. It goes on when this server ends"},
		func(ctx context.Context, in *api.Body[RosterQuestion]) (*api.Body[RosterRun], error) {
			if err := booking(in.Body.Bookings); err != nil {
				return nil, err
			}
			question, err := json.Marshal(in.Body)
			if err != nil {
				return nil, s.Fail(ctx, "ask for a plan", err)
			}
			who := api.Person(ctx)
			id, err := s.store.AddRun(ctx, who.CompanyID, who.ID, question)
			if errors.Is(err, store.ErrManyWait) {
				return nil,
					huma.Error429TooManyRequests("Too many roster plans are waiting. Stop one, or wait until the first is done.")
			}
			if err != nil {
				return nil, s.Fail(ctx, "ask for a plan", err)
			}
			return api.Answer(RosterRun{ID: id, State: store.RunWaiting}), nil
		})
	type named struct {
		Run uuid.UUID `path:"run" format:"uuid"`
	}
	api.Register(s.API, huma.Operation{OperationID: "lookAtRun", Summary: "Get progress or result of planning",
		Method: http.MethodGet, Path: "/api/roster/runs/{run}",
		Description: "How far a plan has come, and the plan when it is done"},
		func(ctx context.Context, in *named) (*api.Body[RosterRun], error) {
			r, err := s.store.Run(ctx, api.Person(ctx).CompanyID, in.Run)
			if errors.Is(err, store.ErrNotFound) {
				return nil, huma.Error404NotFound("This plan is no longer stored. Start planning again.")
			}
			if err != nil {
				return nil, s.Fail(ctx, "read a plan", err)
			}
			out := RosterRun{ID: r.ID, State: r.State, Untaken: r.Untaken}
			if r.Progress != nil {
				if err := json.Unmarshal(r.Progress, &out.Progress); err != nil {
					return nil, s.Fail(ctx, "read a plan", err)
				}
			}
			if r.Answer != nil {
				var a runAnswer
				if err := json.Unmarshal(r.Answer, &a); err != nil {
					return nil, s.Fail(ctx, "read a plan", err)
				}
				out.View, out.Trouble = a.View, a.Trouble
			}
			return api.Answer(out), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "stopRun", Summary: "Stop planning", Method: http.MethodDelete,
		Path:        "/api/roster/runs/{run}",
		Description: "Stops it, wherever it is worked at"},
		func(ctx context.Context, in *named) (*struct{}, error) {
			err := s.store.StopRun(ctx, api.Person(ctx).CompanyID, in.Run)
			if errors.Is(err, store.ErrNotFound) {
				return nil, huma.Error404NotFound("This planning has ended already.")
			}
			if err != nil {
				return nil, s.Fail(ctx, "stop a plan", err)
			}
			return nil, nil
		})
}

// Work takes up runs, one after the other, until the context ends. That the database is away
// is told once.
func (s *Service) Work(ctx context.Context) {
	away := false
	for ctx.Err() == nil {
		run, err := s.store.TakeRun(ctx)
		if err == nil {
			s.workAt(ctx, run)
			continue
		}
		none := errors.Is(err, store.ErrNotFound)
		if !none && !away && ctx.Err() == nil {
			s.Log.Error("look for a plan to work out", "error", err)
		}
		away = !none
		select {
		case <-ctx.Done():
		case <-time.After(runPause):
		}
	}
}

// workAt works a run out, says so meanwhile, and stops where it was stopped. Where this server
// ends first, another takes it up.
func (s *Service) workAt(ctx context.Context, run store.Run) {
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	var question RosterQuestion
	if err := json.Unmarshal(run.Question, &question); err != nil {
		s.end(ctx, run, runAnswer{Trouble: "The request cannot be read any more. Start planning again."})
		return
	}
	var best atomic.Pointer[[]roster.PartCost]
	begun := time.Now()
	told := make(chan struct{})
	go func() {
		defer close(told)
		tick := time.NewTicker(runBeat)
		defer tick.Stop()
		for {
			select {
			case <-ctx.Done():
				return
			case <-tick.C:
			}
			progress := RunProgress{Seconds: time.Since(begun).Seconds(), Of: s.within(question.Seconds)}
			if parts := best.Load(); parts != nil {
				progress.Objective = *parts
			}
			text, err := json.Marshal(progress)
			if err != nil {
				return
			}
			if goes, err := s.store.Beat(ctx, run.ID, text); err == nil && !goes {
				stop()
				return
			}
		}
	}()
	who, err := s.store.Person(ctx, run.Company, run.Person)
	var answer runAnswer
	if err == nil {
		var out *api.Body[RosterView]
		out, err = s.planFor(api.WithPerson(ctx, who), question, func(p roster.Plan) {
			parts := p.Told().Objective
			best.Store(&parts)
		})
		if err == nil {
			answer.View = &out.Body
		}
	}
	if ctx.Err() != nil {
		<-told
		return // stopped, or this server ends
	}
	if err != nil {
		answer.Trouble = "The plan could not be calculated. Try again."
		var refused huma.StatusError
		if errors.As(err, &refused) {
			answer.Trouble = refused.Error()
		}
	}
	s.end(ctx, run, answer)
	stop()
	<-told
}

// end keeps the answer of a run.
func (s *Service) end(ctx context.Context, run store.Run, answer runAnswer) {
	text, err := json.Marshal(answer)
	if err == nil {
		err = s.store.EndRun(ctx, run.ID, text)
	}
	if err != nil {
		s.Log.Error("keep a plan that was worked out", "error", err)
	}
}
