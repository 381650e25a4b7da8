package server

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/job"
	"nephelon/core/plan"
	"nephelon/core/pour/sim"
	"nephelon/exchange"
)

// PourQuestion asks about the pour of a coat, as the job stands or with a change tried.
type PourQuestion struct {
	Coat  string              `json:"coat" minLength:"1" maxLength:"60" doc:"Its id"`
	Patch []exchange.EditStep `json:"patch,omitempty" maxItems:"40" doc:"A change of the plan file to try; nothing of it is kept"`
}

// OddsQuestion asks for the odds of it.
type OddsQuestion struct {
	PourQuestion
	Runs    int          `json:"runs" minimum:"1" maximum:"20000"`
	Seed    uint64       `json:"seed" maximum:"9007199254740991"`
	Spreads *sim.Spreads `json:"spreads,omitempty" doc:"The usual ones when left out"`
}

// oddsTime is how long odds may take: far above 20,000 runs of a large coat.
const oddsTime = 20 * time.Second

func (s *Server) pourRoutes() {
	huma.Register(s.api, huma.Operation{OperationID: "pour", Method: http.MethodPost, Path: "/api/jobs/{job}/pour", MaxBodyBytes: bodyLimit, Description: "Who does what when in the pour of a coat; keeps nothing"},
		func(ctx context.Context, in *struct {
			JobPath
			Body PourQuestion
		}) (*body[plan.PourPlan], error) {
			return poured(ctx, s, in.JobPath, in.Body, planTime, func(ctx context.Context, f job.File) (plan.PourPlan, error) {
				return s.planner.Pour(ctx, f, person(ctx).Units, time.Now(), in.Body.Coat)
			})
		})
	huma.Register(s.api, huma.Operation{OperationID: "pourWays", Method: http.MethodPost, Path: "/api/jobs/{job}/pour/ways", MaxBodyBytes: bodyLimit, Description: "What would help the pour of a coat; keeps nothing"},
		func(ctx context.Context, in *struct {
			JobPath
			Body PourQuestion
		}) (*body[[]plan.Way], error) {
			return poured(ctx, s, in.JobPath, in.Body, planTime, func(ctx context.Context, f job.File) ([]plan.Way, error) {
				return s.planner.Ways(ctx, f, person(ctx).Units, time.Now(), in.Body.Coat)
			})
		})
	huma.Register(s.api, huma.Operation{OperationID: "pourOdds", Method: http.MethodPost, Path: "/api/jobs/{job}/pour/odds", MaxBodyBytes: bodyLimit, Description: "What may happen to the pour of a coat, tried many times; keeps nothing"},
		func(ctx context.Context, in *struct {
			JobPath
			Body OddsQuestion
		}) (*body[sim.Chance], error) {
			spreads := sim.UsualSpreads()
			if in.Body.Spreads != nil {
				spreads = *in.Body.Spreads
			}
			return poured(ctx, s, in.JobPath, in.Body.PourQuestion, oddsTime, func(ctx context.Context, f job.File) (sim.Chance, error) {
				return s.planner.Odds(ctx, f, time.Now(), in.Body.Coat, spreads, in.Body.Runs, in.Body.Seed, nil)
			})
		})
}

// poured answers about a pour of a job with a change tried on it.
func poured[A any](ctx context.Context, s *Server, at JobPath, q PourQuestion, most time.Duration, answer func(context.Context, job.File) (A, error)) (*body[A], error) {
	j, err := s.store.Job(ctx, person(ctx).CompanyID, at.Job)
	if err != nil {
		return nil, s.trouble("read job", err)
	}
	file := j.File
	if len(q.Patch) > 0 {
		document, err := json.Marshal(file)
		if err != nil {
			return nil, s.trouble("encode job", err)
		}
		if file, _, _, err = s.patched(document, q.Patch); err != nil {
			return nil, s.unfit(err)
		}
	}
	limited, cancel := context.WithTimeout(ctx, most)
	defer cancel()
	made, err := answer(limited, file)
	if errors.Is(err, plan.ErrNoPour) {
		return nil, huma.Error422UnprocessableEntity("This coat cannot be poured as it is planned; the job says what is missing.")
	}
	if err != nil {
		return nil, s.trouble("plan the pour", err)
	}
	return &body[A]{made}, nil
}
