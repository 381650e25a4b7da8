package jobs

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/school"
	"nephelon/exchange"
)

// PaceProposal asks what it would change to plan the coats of a product with another pace.
type PaceProposal struct {
	Product string               `json:"product" minLength:"1" maxLength:"60" doc:"Id of the product"`
	Method  school.Laying        `json:"method" doc:"How it is laid"`
	Surface material.SurfaceKind `json:"surface" doc:"What it is laid on"`
	Pace    measure.Pace         `json:"pace" minimum:"0.0001" maximum:"1" doc:"m²/s that one person lays"`
}

// PaceEffect holds what it would change in a job.
type PaceEffect struct {
	Job      uuid.UUID           `json:"job" format:"uuid"`
	Name     string              `json:"name"`
	Revision int64               `json:"revision" doc:"Revision that the changes are made from"`
	Coats    []string            `json:"coats" doc:"Names of the coats with their surfaces"`
	Patch    []exchange.EditStep `json:"patch" doc:"Changes of the plan file that take the proposal"`
	Before   plan.Figures        `json:"before"`
	After    plan.Figures        `json:"after"`
	Warnings int                 `json:"warnings" doc:"Warnings and refusals more than before; fewer below 0"`
}

// effectTime is the time that the effects of a proposal may take: two plans of each open job.
const effectTime = 20 * time.Second

// mostAffected limits how many open jobs a proposal is tried on.
const mostAffected = 200

func (s *Service) effectRoute() {
	api.Register(s.API, huma.Operation{OperationID: "paceEffects", Summary: "Show what a pace would change",
		Method: http.MethodPost, Path: "/api/learnt/effects",
		Description: "What another pace for the coats of a product would change in every open job; stores nothing"},
		func(ctx context.Context, in *struct{ Body PaceProposal }) (*api.Body[[]PaceEffect], error) {
			who := api.Person(ctx)
			open, _, err := s.store.Open(ctx, who.CompanyID, mostAffected)
			if err != nil {
				return nil, s.Fail(ctx, "list open jobs", err)
			}
			limited, cancel := context.WithTimeout(ctx, effectTime)
			defer cancel()
			out := []PaceEffect{}
			for _, j := range open {
				effect := PaceEffect{Job: j.ID, Name: j.File.Job.Name, Revision: j.Revision, Coats: []string{},
					Patch: []exchange.EditStep{}}
				places := plan.CoatsOf(j.File, in.Body.Product, in.Body.Method, in.Body.Surface)
				if len(places) == 0 {
					continue
				}
				value, err := json.Marshal(measure.Sourced[measure.Pace]{Value: in.Body.Pace, Source: measure.OwnTest})
				if err != nil {
					return nil, s.Fail(ctx, "encode a pace", err)
				}
				for _, at := range places {
					surface := &j.File.Job.Surfaces[at.Surface]
					effect.Coats = append(effect.Coats, fmt.Sprintf("%s, coat %d", surface.Name, at.Coat+1))
					effect.Patch = append(effect.Patch, exchange.EditStep{Op: "add",
						Path: fmt.Sprintf("/job/surfaces/%d/coats/%d/pace", at.Surface, at.Coat), Value: value})
				}
				world, err := s.store.Facts(limited, who.CompanyID, j.ID, time.Now())
				if err != nil {
					return nil, s.Fail(ctx, "read the bookings", slow(ctx, limited, err))
				}
				document, err := json.Marshal(j.File)
				if err != nil {
					return nil, s.Fail(ctx, "encode job", err)
				}
				changed, _, _, err := s.patched(document, effect.Patch)
				if err != nil {
					return nil, s.unfit(ctx, err)
				}
				before, err := s.planner.MakeFor(limited, j.File, world, who.Units)
				if err != nil {
					return nil, s.Fail(ctx, "plan the job", slow(ctx, limited, err))
				}
				after, err := s.planner.MakeFor(limited, changed, world, who.Units)
				if err != nil {
					return nil, s.Fail(ctx, "plan the job", slow(ctx, limited, err))
				}
				effect.Before, effect.After = before.Line, after.Line
				effect.Warnings = after.Doubts() - before.Doubts()
				out = append(out, effect)
			}
			return api.Answer(out), nil
		})
}
