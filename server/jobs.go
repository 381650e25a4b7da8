package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/plan"
	"nephelon/exchange"
	"nephelon/store"
)

// JobLine is a job as it stands in a list.
type JobLine struct {
	ID        uuid.UUID `json:"id" format:"uuid"`
	Name      string    `json:"name"`
	Client    string    `json:"client"`
	Site      string    `json:"site"`
	Surfaces  int       `json:"surfaces"`
	ChangedBy string    `json:"changedBy"`
	ChangedAt time.Time `json:"changedAt"`
}

// JobState is a job with the plan that follows from it.
type JobState struct {
	ID        uuid.UUID    `json:"id" format:"uuid"`
	Revision  int64        `json:"revision"`
	ChangedBy string       `json:"changedBy"`
	ChangedAt time.Time    `json:"changedAt"`
	File      job.File     `json:"file"`
	Plan      plan.Plan    `json:"plan"`
	Newer     []NewerSheet `json:"newer" doc:"Sheets on the shelf that are newer than those the job was planned with"`
}

// NewerSheet is a sheet that changed since a job was planned with it.
type NewerSheet struct {
	Held    int                `json:"held" doc:"The version in the job"`
	Sheet   material.Product   `json:"sheet" doc:"The newest"`
	Changes []material.Revised `json:"changes"`
}

// Saved is the answer to a save that was kept.
type Saved struct {
	Revision int64     `json:"revision"`
	Plan     plan.Plan `json:"plan"`
}

// StaleSave is the answer to a save made from a revision that is no longer the
// newest: both are here, and nothing was overwritten.
type StaleSave struct {
	Title       string           `json:"title"`
	Status      int              `json:"status"`
	Detail      string           `json:"detail"`
	SaveID      uuid.UUID        `json:"saveId" format:"uuid" doc:"Of the save that stands now"`
	Theirs      JobState         `json:"theirs" doc:"What stands now"`
	Combined    job.File         `json:"combined" doc:"Both edits together; where both changed the same place, yours"`
	Differences []job.Difference `json:"differences"`
}

func (e *StaleSave) Error() string { return e.Detail }

// GetStatus is the HTTP status.
func (e *StaleSave) GetStatus() int { return e.Status }

// JobPath is the job an operation is about.
type JobPath struct {
	Job uuid.UUID `path:"job"`
}

func editors() map[string]any {
	return map[string]any{roleFor: []store.Role{store.Owner, store.Estimator, store.Lead}}
}

func (s *Server) jobRoutes() {
	huma.Register(s.api, huma.Operation{OperationID: "jobs", Method: http.MethodGet, Path: "/api/jobs"}, s.listJobs)
	huma.Register(s.api, huma.Operation{OperationID: "addJob", Method: http.MethodPost, Path: "/api/jobs", Metadata: editors(), MaxBodyBytes: bodyLimit},
		func(ctx context.Context, in *body[job.File]) (*body[JobState], error) { return s.addJob(ctx, in.Body) })
	huma.Register(s.api, huma.Operation{OperationID: "importJob", Method: http.MethodPost, Path: "/api/jobs/import", Metadata: editors(), MaxBodyBytes: bodyLimit}, s.importJob)
	huma.Register(s.api, huma.Operation{OperationID: "job", Method: http.MethodGet, Path: "/api/jobs/{job}"},
		func(ctx context.Context, in *JobPath) (*body[JobState], error) { return s.readJob(ctx, in.Job) })
	huma.Register(s.api, huma.Operation{OperationID: "saveJob", Method: http.MethodPut, Path: "/api/jobs/{job}", Metadata: editors(), MaxBodyBytes: bodyLimit,
		Responses: map[string]*huma.Response{"409": s.staleResponse()}}, s.saveJob)
	huma.Register(s.api, huma.Operation{OperationID: "archiveJob", Method: http.MethodPut, Path: "/api/jobs/{job}/archived", Metadata: editors()},
		func(ctx context.Context, in *struct {
			JobPath
			Body struct {
				Archived bool `json:"archived"`
			}
		}) (*struct{}, error) {
			if err := s.store.ArchiveJob(ctx, person(ctx).CompanyID, in.Job, in.Body.Archived); err != nil {
				return nil, s.trouble("archive job", err)
			}
			return nil, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "buyTogether", Method: http.MethodGet, Path: "/api/purchase"}, s.buyTogether)
	huma.Register(s.api, huma.Operation{OperationID: "copySurface", Method: http.MethodPost, Path: "/api/jobs/{job}/surfaces/{surface}/copies", Metadata: editors(),
		Description: "Adds a surface, with its coats and their data sheets, to another job"}, s.copySurface)
	huma.Register(s.api, huma.Operation{OperationID: "exportJob", Method: http.MethodGet, Path: "/api/jobs/{job}/file"}, s.exportJob)
	huma.Register(s.api, huma.Operation{OperationID: "jobChanges", Method: http.MethodGet, Path: "/api/jobs/{job}/changes",
		Responses: map[string]*huma.Response{"200": {Description: "Server-sent events: the revision of every save", Content: map[string]*huma.MediaType{"text/event-stream": {}}}}}, s.jobChanges)
}

// staleResponse puts the answer to a stale save into the description.
func (s *Server) staleResponse() *huma.Response {
	schema := s.api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[StaleSave](), true, "StaleSave")
	return &huma.Response{Description: "Someone else saved first", Content: map[string]*huma.MediaType{"application/problem+json": {Schema: schema}}}
}

func (s *Server) listJobs(ctx context.Context, in *struct {
	Words    string `query:"q" maxLength:"100"`
	Archived bool   `query:"archived"`
}) (*body[[]JobLine], error) {
	found, err := s.store.Jobs(ctx, person(ctx).CompanyID, strings.TrimSpace(in.Words), in.Archived)
	if err != nil {
		return nil, s.trouble("list jobs", err)
	}
	lines := make([]JobLine, len(found))
	for i, l := range found {
		lines[i] = JobLine(l)
	}
	return &body[[]JobLine]{lines}, nil
}

func (s *Server) addJob(ctx context.Context, file job.File) (*body[JobState], error) {
	p := person(ctx)
	id, err := s.store.AddJob(ctx, p.CompanyID, p.ID, file)
	if err != nil {
		return nil, s.trouble("add job", err)
	}
	return s.readJob(ctx, id)
}

func (s *Server) importJob(ctx context.Context, in *struct{ RawBody []byte }) (*body[JobState], error) {
	file, err := s.files.Read(bytes.NewReader(in.RawBody))
	if err != nil {
		problem := huma.Error422UnprocessableEntity("This file cannot be read as a Nephelon plan file. Nothing was added.")
		var many interface{ Unwrap() []error }
		causes := []error{err}
		if errors.As(err, &many) {
			causes = many.Unwrap()
		}
		var model *huma.ErrorModel
		if errors.As(problem, &model) {
			for _, cause := range causes {
				detail := &huma.ErrorDetail{Message: cause.Error()}
				var refusal *exchange.Refusal
				if errors.As(cause, &refusal) {
					detail = &huma.ErrorDetail{Message: refusal.Text, Location: refusal.Path}
				}
				model.Errors = append(model.Errors, detail)
			}
		}
		return nil, problem
	}
	return s.addJob(ctx, file)
}

func (s *Server) readJob(ctx context.Context, id uuid.UUID) (*body[JobState], error) {
	p := person(ctx)
	j, err := s.store.Job(ctx, p.CompanyID, id)
	if err != nil {
		return nil, s.trouble("read job", err)
	}
	state, err := s.planned(ctx, j)
	if err != nil {
		return nil, s.trouble("plan job", err)
	}
	return &body[JobState]{state}, nil
}

// planned is a job with its plan, and with what changed on the shelf since.
func (s *Server) planned(ctx context.Context, j store.Job) (JobState, error) {
	p := person(ctx)
	state := JobState{ID: j.ID, Revision: j.Revision, ChangedBy: j.ChangedBy, ChangedAt: j.ChangedAt, File: j.File, Newer: []NewerSheet{}}
	var err error
	if state.Plan, err = s.plan(ctx, j.File); err != nil {
		return state, err
	}
	ids := make([]string, len(j.File.Products))
	for i, sheet := range j.File.Products {
		ids[i] = sheet.ID
	}
	shelf, err := sheetsByID[material.Product](ctx, s, store.ProductShelf, ids)
	if err != nil {
		return state, err
	}
	for _, held := range j.File.Products {
		now, there := shelf[held.ID]
		if !there || now.Version <= held.Version {
			continue
		}
		if changes := now.Changes(held, p.Units); len(changes) > 0 {
			state.Newer = append(state.Newer, NewerSheet{held.Version, now, changes})
		}
	}
	return state, nil
}

// mostOffered bounds the sheets that ways out are sought among.
const mostOffered = 60

// plan plans a job, with ways out from the company's shelf.
func (s *Server) plan(ctx context.Context, file job.File) (plan.Plan, error) {
	p := person(ctx)
	made := plan.Make(file, p.Units, time.Now())
	if !made.Seeks() {
		return made, nil
	}
	rows, _, err := s.store.Sheets(ctx, p.CompanyID, store.ProductShelf, store.SheetQuery{Kinds: made.SeeksKinds(), Limit: mostOffered})
	if err != nil {
		return made, err
	}
	products := make([]material.Product, len(rows))
	for i, row := range rows {
		if products[i], err = sheetOf[material.Product](row); err != nil {
			return made, fmt.Errorf("decode sheet %s: %w", row.ID, err)
		}
	}
	media, err := s.media(ctx, p.CompanyID, store.SheetQuery{Kinds: []string{"grit", "bead"}, Limit: mostOffered})
	if err != nil {
		return made, err
	}
	return made.Offered(file, products, media), nil
}

func (s *Server) saveJob(ctx context.Context, in *struct {
	JobPath
	Body struct {
		Base   int64     `json:"base" minimum:"1" doc:"The revision the edit was made from"`
		SaveID uuid.UUID `json:"saveId" format:"uuid" doc:"Made by the client; a save sent twice is kept once"`
		File   job.File  `json:"file"`
	}
}) (*body[Saved], error) {
	p := person(ctx)
	revision, err := s.store.SaveJob(ctx, p.CompanyID, p.ID, store.Save{Job: in.Job, Base: in.Body.Base, ID: in.Body.SaveID, File: in.Body.File})
	var stale *store.Stale
	switch {
	case errors.As(err, &stale):
		combined, differences, err := job.Merge(stale.Base, in.Body.File, stale.Theirs.File)
		if err != nil {
			return nil, s.trouble("compare edits", err)
		}
		theirs, err := s.planned(ctx, stale.Theirs)
		if err != nil {
			return nil, s.trouble("plan job", err)
		}
		return nil, &StaleSave{
			Title: "Changed by someone else", Status: http.StatusConflict,
			Detail: fmt.Sprintf("%s saved this job while you were editing it. Neither edit is lost: choose what stands.", stale.Theirs.ChangedBy),
			SaveID: stale.SaveID, Theirs: theirs,
			Combined: combined, Differences: differences,
		}
	case err != nil:
		return nil, s.trouble("save job", err)
	}
	made, err := s.plan(ctx, in.Body.File)
	if err != nil {
		return nil, s.trouble("plan job", err)
	}
	return &body[Saved]{Saved{revision, made}}, nil
}

func (s *Server) buyTogether(ctx context.Context, in *struct {
	Jobs []string `query:"job,explode" required:"true" minItems:"1" maxItems:"40" format:"uuid" doc:"The ids of the jobs that buy together"`
}) (*body[plan.Together], error) {
	p := person(ctx)
	files := make([]job.File, len(in.Jobs))
	for i, text := range in.Jobs {
		id, err := uuid.Parse(text)
		if err != nil {
			return nil, huma.Error422UnprocessableEntity("One of these is not the id of a job. Choose them on the list of jobs.")
		}
		j, err := s.store.Job(ctx, p.CompanyID, id)
		if err != nil {
			return nil, s.trouble("read job", err)
		}
		files[i] = j.File
	}
	t, err := plan.BuyTogether(files, p.Units, time.Now())
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	return &body[plan.Together]{t}, nil
}

func (s *Server) copySurface(ctx context.Context, in *struct {
	JobPath
	Surface string `path:"surface" maxLength:"60"`
	Body    struct {
		To uuid.UUID `json:"to" format:"uuid" doc:"The job that gets it"`
	}
}) (*struct{}, error) {
	p := person(ctx)
	from, err := s.store.Job(ctx, p.CompanyID, in.Job)
	if err != nil {
		return nil, s.trouble("read job", err)
	}
	to, err := s.store.Job(ctx, p.CompanyID, in.Body.To)
	if err != nil {
		return nil, s.trouble("read job", err)
	}
	if err := job.CopySurface(from.File, in.Surface, &to.File, uuid.NewString); err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	if _, err := s.store.SaveJob(ctx, p.CompanyID, p.ID, store.Save{Job: to.ID, Base: to.Revision, ID: uuid.New(), File: to.File}); err != nil {
		var stale *store.Stale
		if errors.As(err, &stale) {
			return nil, huma.Error409Conflict(fmt.Sprintf("%s saved the other job at this very moment. Copy again.", stale.Theirs.ChangedBy))
		}
		return nil, s.trouble("save job", err)
	}
	return nil, nil
}

func (s *Server) exportJob(ctx context.Context, in *JobPath) (*download, error) {
	j, err := s.store.Job(ctx, person(ctx).CompanyID, in.Job)
	if err != nil {
		return nil, s.trouble("read job", err)
	}
	var text bytes.Buffer
	if err := exchange.Write(&text, j.File); err != nil {
		return nil, s.trouble("write file", err)
	}
	return attached("application/json", fileName(j.File.Job.Name), text.Bytes()), nil
}

// fileName keeps what every file system takes.
func fileName(job string) string {
	kept := strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			return r
		}
		return '-'
	}, strings.ToLower(job))
	for strings.Contains(kept, "--") {
		kept = strings.ReplaceAll(kept, "--", "-")
	}
	if kept = strings.Trim(kept, "-"); kept == "" {
		kept = "job"
	}
	return kept + ".nephelon.json"
}
