package jobs

import (
	"context"
	"encoding/json"
	"net/http"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/plan"
	"nephelon/core/record/learn"
	"nephelon/exchange"
	"nephelon/store"
)

// BesideQuestion asks what a job comes to in several ways.
type BesideQuestion struct {
	Ways [][]exchange.EditStep `json:"ways" minItems:"1" maxItems:"3" doc:"Changes of the plan file, one list for each way; an empty one is the job as it stands; nothing of it is kept"`
}

// besideTime is the time that a comparison may take: some thirty plans and the odds of all their coats.
const besideTime = 40 * time.Second

func (s *Service) besideRoute() {
	api.Register(s.API, huma.Operation{OperationID: "compareWays", Summary: "Compare ways to do a job",
		Method: http.MethodPost, Path: "/api/jobs/{job}/ways", MaxBodyBytes: api.BodyLimit,
		Description: "Money, hours, nights, kits, odds and risks of a job done in several ways; stores nothing"},
		func(ctx context.Context, in *struct {
			api.JobPath
			Body BesideQuestion
		}) (*api.Body[[]plan.Side], error) {
			who := api.Person(ctx)
			j, world, err := s.stands(ctx, in.Job)
			if err != nil {
				return nil, err
			}
			document, err := json.Marshal(j.File)
			if err != nil {
				return nil, s.Fail(ctx, "encode job", err)
			}
			files := make([]job.File, len(in.Body.Ways))
			for n, patch := range in.Body.Ways {
				if files[n] = j.File; len(patch) == 0 {
					continue
				}
				if files[n], _, _, err = s.patched(document, patch); err != nil {
					return nil, s.unfit(ctx, err)
				}
			}
			limited, cancel := context.WithTimeout(ctx, besideTime)
			defer cancel()
			sides, err := s.planner.Beside(limited, files, world, who.Units)
			if err != nil {
				return nil, s.Fail(ctx, "compare the ways", slow(ctx, limited, err))
			}
			return api.Answer(sides), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "assumptions", Summary: "List what a plan rests on",
		Method: http.MethodGet, Path: "/api/jobs/{job}/assumptions",
		Description: "Values that nobody measured and no sheet states, and what the plan would become with each at the " +
			"ends of its usual range"}, s.assumptions)
	api.Register(s.API, huma.Operation{OperationID: "ownFigures", Summary: "Compare figures with own floors",
		Method: http.MethodGet, Path: "/api/jobs/{job}/own-figures",
		Description: "Paces, losses and spreads of the coats as their sheets give them and as own floors show them, with " +
			"the changes that plan by either"}, s.ownFigures)
}

// stands returns a job as it is saved, with the facts beside it; the error is for the caller.
func (s *Service) stands(ctx context.Context, id uuid.UUID) (store.Job, facts.Facts, error) {
	company := api.Person(ctx).CompanyID
	j, err := s.store.Job(ctx, company, id)
	if err != nil {
		return j, facts.Facts{}, s.Fail(ctx, "read job", err)
	}
	world, err := s.store.Facts(ctx, company, id, time.Now())
	if err != nil {
		return j, world, s.Fail(ctx, "read the bookings", err)
	}
	return j, world, nil
}

func (s *Service) assumptions(ctx context.Context, in *api.JobPath) (*api.Body[[]plan.Assumed], error) {
	who := api.Person(ctx)
	j, world, err := s.stands(ctx, in.Job)
	if err != nil {
		return nil, err
	}
	limited, cancel := context.WithTimeout(ctx, besideTime)
	defer cancel()
	found, err := s.planner.Assumptions(limited, j.File, world, who.Units)
	if err != nil {
		return nil, s.Fail(ctx, "try the assumed values", slow(ctx, limited, err))
	}
	return api.Answer(found), nil
}

func (s *Service) ownFigures(ctx context.Context, in *api.JobPath) (*api.Body[[]plan.OwnFigure], error) {
	who := api.Person(ctx)
	j, world, err := s.stands(ctx, in.Job)
	if err != nil {
		return nil, err
	}
	cases, err := s.store.Cases(ctx, who.CompanyID, func(r store.JobRecord) []learn.Case {
		return learn.OfRecord(r.Issues, r.Events, world.Now, who.Units)
	})
	if err != nil {
		return nil, s.Fail(ctx, "read what records show", err)
	}
	made, err := s.plan(ctx, who, world, j.File)
	if err != nil {
		return nil, s.Fail(ctx, "plan the job", err)
	}
	return api.Answer(plan.OwnFigures(j.File, made, learn.Learn(cases))), nil
}
