package jobs

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"time"

	"nephelon/core/facts"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan/whatif"
	"nephelon/core/pour/sim"
	"nephelon/exchange"
	"nephelon/exchange/drawing"
	"nephelon/store"
)

// PourQuestion asks about the pour of a coat, as the job stands or with a change tried.
type PourQuestion struct {
	Coat  string              `json:"coat" minLength:"1" maxLength:"60" doc:"Id of the coat"`
	Patch []exchange.EditStep `json:"patch,omitempty" maxItems:"40" doc:"A change of the plan file to try; nothing of it is kept"`
	First measure.Span        `json:"first,omitempty" minimum:"0" maximum:"86400" doc:"s that the first section took, from being poured until it was done; the rest goes at the pace that this tells"`
}

// OddsQuestion asks for the odds of it.
type OddsQuestion struct {
	PourQuestion
	Runs    int          `json:"runs" minimum:"1" maximum:"20000"`
	Seed    uint64       `json:"seed" maximum:"9007199254740991"`
	Spreads *sim.Spreads `json:"spreads,omitempty" doc:"The crew's when left out"`
}

// HourQuestion asks what becomes of a coat at the hours at which it may be poured.
type HourQuestion struct {
	Coat string     `json:"coat" minLength:"1" maxLength:"60" doc:"Id of the coat"`
	At   *time.Time `json:"at,omitempty" doc:"Only when its first kit is opened then"`
}

// oddsTime is the time that odds may take: far above 20,000 runs of a large coat.
const oddsTime = 20 * time.Second

func (s *Service) pourRoutes() {
	s.hourRoutes()
	api.Register(s.API, huma.Operation{OperationID: "sections", Summary: "Export the sections of a coat as a drawing",
		Method:      http.MethodGet,
		Path:        "/api/jobs/{job}/coats/{coat}/sections",
		Description: "The sections of a coat with their tape marks, as a drawing in layers"}, s.sections)
	api.Register(s.API, huma.Operation{OperationID: "pour", Summary: "Simulate the pour of a coat",
		Method: http.MethodPost, Path: "/api/jobs/{job}/pour",
		MaxBodyBytes: api.BodyLimit, Description: "Who does what when in the pour of a coat; stores nothing"},
		func(ctx context.Context, in *struct {
			api.JobPath
			Body PourQuestion
		}) (*api.Body[whatif.PourPlan], error) {
			return poured(ctx, s, in.JobPath, in.Body, planTime,
				func(ctx context.Context, f job.File, world facts.Facts) (whatif.PourPlan, error) {
					p, err := s.planner.Pour(ctx, f, world, api.Person(ctx).Units, in.Body.Coat, in.Body.First)
					if api.Person(ctx).Role == store.Hand {
						p.Cost = nil
					}
					return p, err
				})
		})
	api.Register(s.API, huma.Operation{OperationID: "pourWays", Summary: "List what would help a pour",
		Method: http.MethodPost, Path: "/api/jobs/{job}/pour/ways",
		MaxBodyBytes: api.BodyLimit, Description: "What would help the pour of a coat; stores nothing"},
		func(ctx context.Context, in *struct {
			api.JobPath
			Body PourQuestion
		}) (*api.Body[[]whatif.Way], error) {
			return poured(ctx, s, in.JobPath, in.Body, planTime,
				func(ctx context.Context, f job.File, world facts.Facts) ([]whatif.Way, error) {
					ways, err := s.planner.Ways(ctx, f, world, api.Person(ctx).Units, in.Body.Coat)
					for n := range ways {
						if api.Person(ctx).Role == store.Hand {
							ways[n].Cost = nil
						}
					}
					return ways, err
				})
		})
	api.Register(s.API, huma.Operation{OperationID: "pourOdds", Summary: "Compute the odds of a pour",
		Method: http.MethodPost, Path: "/api/jobs/{job}/pour/odds",
		MaxBodyBytes: api.BodyLimit, Description: "What may happen to the pour of a coat, tried many times; stores nothing"},
		func(ctx context.Context, in *struct {
			api.JobPath
			Body OddsQuestion
		}) (*api.Body[sim.Chance], error) {
			return poured(ctx, s, in.JobPath, in.Body.PourQuestion, oddsTime,
				func(ctx context.Context, f job.File, world facts.Facts) (sim.Chance, error) {
					spreads := f.Job.Crew.SpreadsOf()
					if in.Body.Spreads != nil {
						spreads = *in.Body.Spreads
					}
					return s.planner.Odds(ctx, f, world, in.Body.Coat, in.Body.First, spreads, in.Body.Runs,
						in.Body.Seed, nil)
				})
		})
}

// hourRoutes tell what becomes of a coat at other hours.
func (s *Service) hourRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "pourStarts", Summary: "Compare start hours of a pour",
		Method:       http.MethodPost,
		Path:         "/api/jobs/{job}/pour/starts",
		MaxBodyBytes: api.BodyLimit, Description: "The pour of a coat for each hour that the work may start at; stores " +
			"nothing"},
		func(ctx context.Context, in *struct {
			api.JobPath
			Body PourQuestion
		}) (*api.Body[[]whatif.Begun], error) {
			return poured(ctx, s, in.JobPath, in.Body, planTime,
				func(ctx context.Context, f job.File, world facts.Facts) ([]whatif.Begun, error) {
					return s.planner.Starts(ctx, f, world, api.Person(ctx).Units, in.Body.Coat)
				})
		})
	api.Register(s.API, huma.Operation{OperationID: "pourHours", Summary: "Find the best hour for a coat",
		Method: http.MethodPost, Path: "/api/jobs/{job}/pour/hours",
		MaxBodyBytes: api.BodyLimit, Description: "What becomes of a coat at the hours of its shifts, or at one hour, with " +
			"what speaks for and against each; stores nothing"},
		func(ctx context.Context, in *struct {
			api.JobPath
			Body HourQuestion
		}) (*api.Body[[]whatif.PourHour], error) {
			return poured(ctx, s, in.JobPath, PourQuestion{Coat: in.Body.Coat}, planTime,
				func(ctx context.Context, f job.File, world facts.Facts) ([]whatif.PourHour, error) {
					return s.planner.Hours(ctx, f, world, api.Person(ctx).Units, in.Body.Coat, in.Body.At)
				})
		})
}

// SectionsPath names the sections of a coat, and what they are drawn as.
type SectionsPath struct {
	api.JobPath
	Coat string         `path:"coat" maxLength:"60"`
	As   drawing.Format `query:"as" enum:"dxf,svg,geojson"`
}

// sections draws the sections of a coat with their tape marks.
func (s *Service) sections(ctx context.Context, in *SectionsPath) (*api.Download, error) {
	j, err := s.store.Job(ctx, api.Person(ctx).CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	world, err := s.store.Facts(ctx, api.Person(ctx).CompanyID, in.Job, time.Now())
	if err != nil {
		return nil, s.Fail(ctx, "read the bookings", err)
	}
	limited, cancel := context.WithTimeout(ctx, planTime)
	defer cancel()
	made, err := s.planner.MakeFor(limited, j.File, world, api.Person(ctx).Units)
	if err != nil {
		return nil, s.Fail(ctx, "plan job", slow(ctx, limited, err))
	}
	for i, surface := range made.Surfaces {
		for _, c := range surface.Coats {
			if c.ID != in.Coat || len(c.Sections) == 0 || surface.Course == nil {
				continue
			}
			from := j.File.Job.Surfaces[i]
			laid := drawing.Laid{Name: fmt.Sprintf("%s: %s, coat %d", j.File.Job.Name, surface.Name, c.Number),
				Floor: from.Floor.Polygon(), Sections: c.Sections, Cuts: c.Cuts, Exit: from.Layout.Exit}
			var text bytes.Buffer
			if err := drawing.Write(&text, in.As, laid); err != nil {
				return nil, s.Fail(ctx, "draw the sections", err)
			}
			return api.Attached(in.As.Media(), drawingName(laid.Name, in.As), text.Bytes()), nil
		}
	}
	return nil, huma.Error404NotFound("This coat has no sections on a drawn floor.")
}

// drawingName is the name of a file for a drawing.
func drawingName(of string, f drawing.Format) string {
	return api.FileName(of) + "." + string(f)
}

// poured answers about a pour of a job with a change tried on it.
func poured[A any](ctx context.Context, s *Service, at api.JobPath, q PourQuestion, most time.Duration,
	answer func(context.Context, job.File, facts.Facts) (A, error)) (*api.Body[A], error) {
	j, err := s.store.Job(ctx, api.Person(ctx).CompanyID, at.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	file := j.File
	if len(q.Patch) > 0 {
		document, err := json.Marshal(file)
		if err != nil {
			return nil, s.Fail(ctx, "encode job", err)
		}
		if file, _, _, err = s.patched(document, q.Patch); err != nil {
			return nil, s.unfit(ctx, err)
		}
	}
	world, err := s.store.Facts(ctx, api.Person(ctx).CompanyID, at.Job, time.Now())
	if err != nil {
		return nil, s.Fail(ctx, "read the bookings", err)
	}
	limited, cancel := context.WithTimeout(ctx, most)
	defer cancel()
	made, err := answer(limited, file, world)
	if errors.Is(err, whatif.ErrNoPour) {
		return nil, huma.Error422UnprocessableEntity(
			"This coat cannot be poured as it is planned; the job says what is missing.")
	}
	if errors.Is(err, sim.ErrPace) {
		return nil, huma.Error422UnprocessableEntity(
			"No realistic pace makes the first section take that long. Enter the time from the start of its pour until it was " +
				"rolled.")
	}
	if err != nil {
		return nil, s.Fail(ctx, "plan the pour", slow(ctx, limited, err))
	}
	return api.Answer(made), nil
}
