package daylog

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/record"
	"nephelon/core/record/compare"
	"nephelon/core/record/current"
	"nephelon/server/api"
	"nephelon/store"
)

// OtherProduct asks for a coat that is not begun to be laid with another product.
type OtherProduct struct {
	SaveID  uuid.UUID `json:"saveId" format:"uuid" doc:"Made by the client, so that it can be asked again safely"`
	Coat    string    `json:"coat" minLength:"1" maxLength:"60" doc:"Id of the coat"`
	Product string    `json:"product" minLength:"1" maxLength:"60" doc:"Id of a product of the shelf"`
	Reason  string    `json:"reason" minLength:"1" maxLength:"300" doc:"Who decided and why"`
	Keep    bool      `json:"keep,omitempty" doc:"Whether the job is saved and the plan issued; left out, it is only worked out"`
}

// OtherPlan is the plan with another product.
type OtherPlan struct {
	Changes []compare.Change `json:"changes" doc:"Differences between the plan that stands and the new one"`
	Warns   []string         `json:"warns" doc:"Findings that the new plan has and the one before had not"`
	Supply  string           `json:"supply" doc:"Mix that it needs, and how much of it is in stock"`
	Number  int              `json:"number,omitempty" doc:"Number of the plan that was issued; left out where it is only worked out"`
}

// swap is a coat that is to be laid with another product.
type swap struct {
	issues []record.Issue
	events []record.Event
	stands record.Issue
	asked  NewIssue
	coat   string
	job    store.Job // with the other product
	before plan.Plan
	made   plan.Plan
	sheet  material.Product
}

// otherProduct plans a coat with another product, and issues that plan to the crew that has the one before.
func (s *Service) otherProduct(ctx context.Context, in *struct {
	api.JobPath
	Body OtherProduct
}) (*api.Body[OtherPlan], error) {
	p := api.Person(ctx)
	w, err := s.swap(ctx, in.Job, in.Body)
	if err != nil {
		return nil, err
	}
	next, err := s.freeze(ctx, w.job, w.asked)
	if errors.Is(err, plan.ErrNothingToIssue) || err == nil && next.Coat(w.coat) == nil {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("With %s this coat cannot be laid as it is planned: %s",
			w.sheet.Name, anew(w.before.Findings, w.made.Findings, "its sheet lacks what a mix card needs.")[0]))
	}
	if err != nil {
		return nil, err
	}
	then := w.after(next)
	out := OtherPlan{Changes: compare.Plans(&w.stands, &then, p.Units), Warns: anew(w.before.Findings, w.made.Findings),
		Supply: supplyOf(&w.made, next.Coat(w.coat), p.Units)}
	if !in.Body.Keep {
		return api.Answer(out), nil
	}
	kept, err := s.store.SaveJob(ctx, p.CompanyID, p.ID, store.Save{Job: in.Job, Base: w.job.Revision, ID: in.Body.SaveID,
		File: w.job.File, Summary: w.made.Summary(w.job.File)})
	if stale, changed := errors.AsType[*store.Stale](err); changed {
		return nil, huma.Error409Conflict(fmt.Sprintf("%s saved the job just now. Ask again.", stale.Theirs.ChangedBy))
	}
	if err != nil {
		return nil, s.Fail(ctx, "save job", err)
	}
	next.Revision = kept.Revision
	if next, err = s.store.IssuePlan(ctx, p.CompanyID, p.ID, in.Job, in.Body.SaveID, next); err != nil {
		return nil, s.Fail(ctx, "issue the plan", err)
	}
	out.Number = next.Number
	return api.Answer(out), nil
}

// after returns the plan that stands once another is issued: coats that are begun, or of other days, stay as they were.
func (w *swap) after(next record.Issue) record.Issue {
	next.Number = w.issues[0].Number + 1
	return current.Plan(append([]record.Issue{next}, w.issues...), w.events)
}

// swap reads what stands of a coat, and plans the job with another product for it.
func (s *Service) swap(ctx context.Context, id uuid.UUID, asked OtherProduct) (*swap, error) {
	p, now := api.Person(ctx), time.Now()
	issues, events, err := s.logged(ctx, id)
	if err != nil {
		return nil, err
	}
	w := swap{issues: issues, events: events, stands: current.Plan(issues, events), coat: asked.Coat}
	was := w.stands.Coat(asked.Coat)
	if was == nil {
		return nil, huma.Error404NotFound("The plan that stands has no such coat. Load the day again.")
	}
	day := record.TellerWith(s.lives).Tell(&w.stands, events, now, p.Units)
	if slices.ContainsFunc(day.Coats, func(d record.CoatDay) bool { return d.ID == asked.Coat && begun(&d) }) {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("%s is begun: a film is finished with the product it was "+
			"begun with. Leave sections out, or change a coat after it.", was.Name))
	}
	if w.job, err = s.store.Job(ctx, p.CompanyID, id); err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	row, err := s.store.Sheet(ctx, p.CompanyID, store.ProductShelf, asked.Product)
	if errors.Is(err, store.ErrNotFound) {
		return nil, huma.Error404NotFound("This product is not on the shelf any more. Choose another one.")
	}
	if err != nil {
		return nil, s.Fail(ctx, "read the data sheet", err)
	}
	if err := json.Unmarshal(row.Doc, &w.sheet); err != nil {
		return nil, s.Fail(ctx, "read the data sheet", err)
	}
	world, err := s.store.Facts(ctx, p.CompanyID, id, now)
	if err != nil {
		return nil, s.Fail(ctx, "read the bookings", err)
	}
	if w.before, err = s.planner.MakeFor(ctx, w.job.File, world, p.Units); err != nil {
		return nil, s.Fail(ctx, "plan the job", err)
	}
	other, found := w.job.File.WithProduct(asked.Coat, w.sheet)
	if !found {
		return nil, huma.Error422UnprocessableEntity("This coat is no longer in the job; an estimator issues the plan anew.")
	}
	w.job.File = other
	if w.made, err = s.planner.MakeFor(ctx, other, world, p.Units); err != nil {
		return nil, s.Fail(ctx, "plan the job", err)
	}
	w.asked = NewIssue{SaveID: asked.SaveID, To: issues[0].To, Day: dayOf(issues, was),
		Note: fmt.Sprintf("%s instead of %s: %s", w.sheet.Name, was.Name, asked.Reason)}
	return &w, nil
}

// begun reports whether a pail of a coat was begun.
func begun(d *record.CoatDay) bool {
	return slices.ContainsFunc(d.Batches, func(b record.BatchDay) bool { return b.State != record.Waiting })
}

// dayOf returns the day that the plan of a coat was issued for; empty where that was the whole job.
func dayOf(issues []record.Issue, c *record.Coat) string {
	for n := range issues {
		if issues[n].Number == c.Issue {
			return issues[n].Day
		}
	}
	return issues[0].Day
}

// anew returns what findings say that those before did not, worst first; what is said otherwise where nothing is.
func anew(before, now []finding.Finding, otherwise ...string) []string {
	all := []string{}
	for _, level := range []finding.Level{finding.Refused, finding.Warning} {
		for _, f := range now {
			known := slices.ContainsFunc(before, func(o finding.Finding) bool { return o.Text == f.Text })
			if f.Level == level && !known && !slices.Contains(all, f.Text) {
				all = append(all, f.Text)
			}
		}
	}
	if len(all) == 0 {
		return append(all, otherwise...)
	}
	return all
}

// supplyOf says how much mix of the product of a coat the job needs, and how much of it is in stock.
func supplyOf(made *plan.Plan, c *record.Coat, units measure.System) string {
	for _, b := range made.Purchases {
		if b.Product != c.Product.ID || b.Hardener != c.Hardener || !(b.Need > 0) {
			continue
		}
		held := b.NeedMass * measure.Mass(b.InStock/b.Need)
		switch {
		case held <= 0:
			return fmt.Sprintf("It takes %s of mix; none of it is in stock.", units.Mass(b.NeedMass))
		case held < b.NeedMass:
			return fmt.Sprintf("It takes %s of mix; %s of it are in stock, %s are missing.", units.Mass(b.NeedMass),
				units.Mass(held), units.Mass(b.NeedMass-held))
		}
		return fmt.Sprintf("It takes %s of mix; all of it is in stock.", units.Mass(b.NeedMass))
	}
	return ""
}

// productRoutes offer a change of product on the day.
func (s *Service) productRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "otherProduct", Summary: "Lay a coat with another product",
		Method: http.MethodPost, Path: "/api/jobs/{job}/other-product",
		Description: "Plans a coat that is not begun with another product of the shelf, and tells what changes; where it " +
			"is kept, saves the job and issues the plan to the same crew",
	}, s.otherProduct)
}
