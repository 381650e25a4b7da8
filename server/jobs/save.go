package jobs

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/job"
	"nephelon/core/plan"
	"nephelon/exchange"
	"nephelon/store"
)

// Saved is the answer to a save: what it moved in the plan, and what else there is to know.
type Saved struct {
	Revision int64               `json:"revision"`
	Version  int64               `json:"version" doc:"As of the job"`
	Tag      string              `json:"tag" doc:"Tag of the state that was planned"`
	Moved    []exchange.EditStep `json:"moved,omitempty" doc:"JSON Patch (RFC 6902) from the plan that was named to the new one"`
	Plan     *plan.Plan          `json:"plan,omitempty" doc:"The whole, where the one that was named is not known here"`
	Tidied   []exchange.EditStep `json:"tidied,omitempty" doc:"JSON Patch from the file as it was edited to the one that is kept: without sheets and media that no coat names any more, and without empty lists"`
	Newer    []NewerSheet        `json:"newer"`
}

// StaleSave is the answer to a save from a revision that no longer stands: what stands now, both
// edits together, and where they differ.
type StaleSave struct {
	Title       string           `json:"title"`
	Status      int              `json:"status"`
	Detail      string           `json:"detail"`
	SaveID      uuid.UUID        `json:"saveId" format:"uuid" doc:"Id of the save that is current"`
	Theirs      JobState         `json:"theirs" doc:"What stands now"`
	Combined    job.File         `json:"combined" doc:"Both edits together; where both changed the same place, yours"`
	Differences []job.Difference `json:"differences"`
}

// Error returns what happened and what to do.
func (e *StaleSave) Error() string { return e.Detail }

// GetStatus returns the HTTP status, 409.
func (e *StaleSave) GetStatus() int { return e.Status }

// staleResponse describes a StaleSave for the API.
func (s *Service) staleResponse() *huma.Response {
	schema := s.API.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[StaleSave](), true, "StaleSave")
	return &huma.Response{Description: "Someone else saved first",
		Content: map[string]*huma.MediaType{"application/problem+json": {Schema: schema}}}
}

// repriced returns why a person may not save a file: a lead cannot change prices. It returns an
// empty text where they may.
func repriced(who store.Person, document []byte, file job.File) string {
	if who.Role != store.Lead {
		return ""
	}
	var before job.File
	if err := json.Unmarshal(document, &before); err != nil {
		return "" // it was read before; what is wrong with it is told elsewhere
	}
	now := file.Prices()
	for size, price := range before.Prices() {
		if other, there := now[size]; there && other != price {
			return "As lead you cannot change prices; ask an estimator or an owner."
		}
	}
	return ""
}

// saveJob keeps an edit of a job and returns what it moved. The edit is planned before it is kept,
// so that nothing is kept that cannot be planned.
func (s *Service) saveJob(ctx context.Context, in *struct {
	api.JobPath
	Body struct {
		Base   int64               `json:"base" minimum:"1" doc:"The revision the edit was made from"`
		SaveID uuid.UUID           `json:"saveId" format:"uuid" doc:"Made by the client; a save sent twice is kept once"`
		Tag    string              `json:"tag,omitempty" maxLength:"200" doc:"Tag of the plan that the client holds"`
		Patch  []exchange.EditStep `json:"patch" maxItems:"5000" doc:"JSON Patch (RFC 6902) of the plan file at that revision"`
	}
}) (*api.Body[Saved], error) {
	who := api.Person(ctx)
	held := s.plans.get(in.Body.Tag)
	if held != nil && (held.job.ID != in.Job || held.job.Company != who.CompanyID) {
		held = nil
	}
	document, err := s.documentAt(ctx, who, in.Job, in.Body.Base, held)
	if err != nil {
		return nil, s.Fail(ctx, "read the edited job", err)
	}
	file, text, tidied, err := s.patched(document, in.Body.Patch)
	if err != nil {
		return nil, s.unfit(ctx, err)
	}
	if text := repriced(who, document, file); text != "" {
		return nil, huma.Error403Forbidden(text)
	}
	// Planned before it is kept, so that nothing is kept that cannot be planned.
	world, err := s.store.Facts(ctx, who.CompanyID, in.Job, time.Now())
	if err != nil {
		return nil, s.Fail(ctx, "read the bookings", err)
	}
	made, err := s.plan(ctx, who, world, file)
	if err != nil {
		return nil, s.Fail(ctx, "plan job", err)
	}
	kept, err := s.store.SaveJob(ctx, who.CompanyID, who.ID,
		store.Save{Job: in.Job, Base: in.Body.Base, ID: in.Body.SaveID, File: file, Summary: made.Summary(file)})
	if stale, ok := errors.AsType[*store.Stale](err); ok {
		return nil, s.stale(ctx, who, in.Job, stale, file)
	}
	if err != nil {
		return nil, s.Fail(ctx, "save job", err)
	}
	j := store.Job{ID: in.Job, Company: who.CompanyID, File: file, Revision: kept.Revision, ChangedBy: who.Name,
		ChangedAt: kept.At}
	now, err := s.workOut(ctx, who, j, stateOf(who, in.Job, kept.Stamp, time.Now()), &made, text, held)
	if err != nil {
		return nil, s.Fail(ctx, "plan job", err)
	}
	out := Saved{Revision: kept.Revision, Version: kept.Version(), Tag: now.tag, Tidied: tidied, Newer: now.newer}
	if held == nil {
		out.Plan = &now.text.plan
	} else {
		out.Moved = now.text.since(held.text)
	}
	return api.Answer(out), nil
}

// documentAt returns the plan file of a job at a revision as JSON: of the plan that is held, where
// that is of it, else from the database.
func (s *Service) documentAt(ctx context.Context, who store.Person, id uuid.UUID, revision int64,
	held *planned) ([]byte, error) {
	if held != nil && held.job.Revision == revision {
		return held.document, nil
	}
	file, err := s.store.JobAt(ctx, who.CompanyID, id, revision)
	if err != nil {
		return nil, err
	}
	text, err := json.Marshal(file)
	if err != nil {
		return nil, fmt.Errorf("encode job: %w", err)
	}
	return text, nil
}

// unfit returns the refusal of an edit that does not fit the file it was made from.
func (s *Service) unfit(ctx context.Context, err error) error {
	if bad, ok := errors.AsType[*exchange.PatchError](err); ok {
		s.Log.WarnContext(ctx, "an edit that does not fit", "error", bad.Unwrap())
		return huma.Error422UnprocessableEntity(bad.Error() + " Load the job again; your edit is kept here until then.")
	}
	return api.Unreadable("This edit cannot be taken. Nothing was changed.", err)
}

// stale returns the answer to a save that came too late, with both edits combined.
func (s *Service) stale(ctx context.Context, who store.Person, id uuid.UUID, stale *store.Stale, mine job.File) error {
	combined, differences, err := job.Merge(stale.Base, mine, stale.Theirs.File)
	if err != nil {
		return s.Fail(ctx, "compare edits", err)
	}
	theirs, err := s.planned(ctx, who, id)
	if err != nil {
		return s.Fail(ctx, "plan job", err)
	}
	return &StaleSave{
		Title: "Changed by someone else", Status: http.StatusConflict,
		Detail: fmt.Sprintf("%s saved this job while you were editing it. Neither edit is lost: choose which version "+
			"to keep.", stale.Theirs.ChangedBy),
		SaveID: stale.SaveID, Theirs: theirs.state(), Combined: combined, Differences: differences,
	}
}
