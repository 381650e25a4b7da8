// Package jobs offers jobs with the plans that follow from them: reading and saving them with
// revisions, what-if of a pour, buying together, and plan files.
package jobs

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"strings"
	"time"

	"nephelon/server/api"
	"nephelon/server/live"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"

	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/exchange"
	"nephelon/store"
)

// Service answers what is asked about jobs.
type Service struct {
	api.Base
	store   Store
	files   *exchange.Reader
	plans   *plans
	lists   *lru.Cache[listKey, listed] // a cache and nothing more
	planner *plan.Planner
	live    *live.Hub
	quota   api.Quota
}

// New returns the service.
func New(base api.Base, in Store, files *exchange.Reader, planner *plan.Planner, hub *live.Hub,
	quota api.Quota) (*Service, error) {
	known, err := newPlans()
	if err != nil {
		return nil, err
	}
	lists, err := lru.New[listKey, listed](mostLists)
	if err != nil {
		return nil, fmt.Errorf("make the cache of lists: %w", err)
	}
	return &Service{Base: base, store: in, files: files, plans: known, lists: lists, planner: planner, live: hub,
		quota: quota}, nil
}

// Routes adds the operations.
func (s *Service) Routes() {
	s.jobRoutes()
	s.pourRoutes()
	s.besideRoute()
	s.effectRoute()
}

// JobLine is a job as it stands in a list.
type JobLine struct {
	ID        uuid.UUID    `json:"id" format:"uuid"`
	Name      string       `json:"name"`
	Client    string       `json:"client"`
	Site      string       `json:"site"`
	Surfaces  int          `json:"surfaces"`
	ChangedBy string       `json:"changedBy"`
	ChangedAt time.Time    `json:"changedAt"`
	Archived  bool         `json:"archived"`
	Summary   plan.Summary `json:"summary"`
}

// JobState is a job with the plan that follows from it.
type JobState struct {
	JobHead
	File job.File  `json:"file"`
	Plan plan.Plan `json:"plan"`
}

// JobHead holds what there is to say of a job beside its file and its plan.
type JobHead struct {
	ID        uuid.UUID    `json:"id" format:"uuid"`
	Tag       string       `json:"tag" doc:"Tag of the state that was planned; an edit names it, so that only what it moved comes back"`
	Revision  int64        `json:"revision"`
	Version   int64        `json:"version" doc:"Saves of the job and changes of its bookings, counted; what its stream of changes tells"`
	ChangedBy string       `json:"changedBy"`
	ChangedAt time.Time    `json:"changedAt"`
	Newer     []NewerSheet `json:"newer" doc:"Sheets on the shelf that are newer than those the job was planned with"`
}

// NewerSheet is a sheet that changed since a job was planned with it.
type NewerSheet struct {
	Held    int                `json:"held" doc:"The version in the job"`
	Sheet   material.Product   `json:"sheet" doc:"The newest"`
	Changes []material.Revised `json:"changes"`
}

func (s *Service) jobRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "jobs", Summary: "List jobs", Method: http.MethodGet,
		Path:      "/api/jobs",
		Responses: s.response(reflect.TypeFor[[]JobLine](), "Jobs", "OK")}, s.listJobs)
	api.Register(s.API, huma.Operation{OperationID: "addJob", Summary: "Create a job", Method: http.MethodPost,
		Path:         "/api/jobs",
		MaxBodyBytes: api.BodyLimit, Responses: s.response(reflect.TypeFor[JobState](), "JobState", "The job with its plan")},
		func(ctx context.Context, in *api.Body[job.File]) (*jobAnswer, error) { return s.addJob(ctx, in.Body) })
	api.Register(s.API, huma.Operation{OperationID: "importJob", Summary: "Import a plan file as a job",
		Method: http.MethodPost, Path: "/api/jobs/import",
		MaxBodyBytes: api.BodyLimit, Responses: s.response(reflect.TypeFor[JobState](), "JobState", "The job with its plan")},
		s.importJob)
	api.Register(s.API, huma.Operation{OperationID: "job", Summary: "Get a job with its plan", Method: http.MethodGet,
		Path:      "/api/jobs/{job}",
		Responses: s.response(reflect.TypeFor[JobState](), "JobState", "The job with its plan")}, s.readJob)
	api.Register(s.API, huma.Operation{OperationID: "saveJob", Summary: "Save an edit of a job", Method: http.MethodPatch,
		Path:         "/api/jobs/{job}",
		MaxBodyBytes: api.BodyLimit,
		Description:  "Keeps an edit, told as a JSON Patch (RFC 6902) of the plan file at a revision",
		Responses:    map[string]*huma.Response{"409": s.staleResponse()}}, s.saveJob)
	api.Register(s.API, huma.Operation{OperationID: "archiveJob", Summary: "Archive or restore a job",
		Method: http.MethodPut,
		Path:   "/api/jobs/{job}/archived"},
		func(ctx context.Context, in *struct {
			api.JobPath
			Body struct {
				Archived bool `json:"archived"`
			}
		}) (*struct{}, error) {
			if err := s.store.ArchiveJob(ctx, api.Person(ctx).CompanyID, in.Job, in.Body.Archived); err != nil {
				return nil, s.Fail(ctx, "archive job", err)
			}
			return nil, nil
		})
	api.Register(s.API, huma.Operation{OperationID: "buyTogether", Summary: "Combine the purchases of jobs",
		Method: http.MethodGet, Path: "/api/purchase"},
		s.buyTogether)
	api.Register(s.API, huma.Operation{OperationID: "copySurface", Summary: "Copy a surface to another job",
		Method:      http.MethodPost,
		Path:        "/api/jobs/{job}/surfaces/{surface}/copies",
		Description: "Adds a surface, with its coats and their data sheets, to another job"}, s.copySurface)
	api.Register(s.API, huma.Operation{OperationID: "exportJob", Summary: "Export a job as a plan file",
		Method: http.MethodGet, Path: "/api/jobs/{job}/file"},
		s.exportJob)
	api.Register(s.API, huma.Operation{OperationID: "jobChanges", Summary: "Stream versions of a job",
		Method: http.MethodGet, Path: "/api/jobs/{job}/changes",
		Responses: map[string]*huma.Response{"200": {
			Description: "Server-sent events: the version at every save and every change of its bookings",
			Content:     map[string]*huma.MediaType{"text/event-stream": {}}}}}, s.jobChanges)
}

// response describes an answer of JSON that is written as it was kept.
func (s *Service) response(of reflect.Type, name, says string) map[string]*huma.Response {
	schema := s.API.OpenAPI().Components.Schemas.Schema(of, true, name)
	return map[string]*huma.Response{"200": {Description: says,
		Content: map[string]*huma.MediaType{"application/json": {Schema: schema}}}}
}

// jobAnswer is a job, or a list of them, as it was written once.
type jobAnswer struct {
	Status       int
	ContentType  string `header:"Content-Type"`
	Encoding     string `header:"Content-Encoding"`
	ETag         string `header:"ETag"`
	CacheControl string `header:"Cache-Control"`
	Vary         string `header:"Vary"`
	Body         []byte
}

// listKey holds what a list of jobs depends on.
type listKey struct {
	company  uuid.UUID
	revision int64
	words    string
	archived bool
	reads    measure.System
	redacted bool // for hands: without prices, and without the client
}

// listed is a list of jobs as JSON.
type listed struct{ whole, zipped []byte }

// mostLists limits how many lists are kept, for people who look at one again.
const mostLists = 200

func (s *Service) listJobs(ctx context.Context, in *struct {
	Words    string `query:"q" maxLength:"100"`
	Archived bool   `query:"archived"`
	Accept   string `header:"Accept-Encoding"`
}) (*jobAnswer, error) {
	who := api.Person(ctx)
	key := listKey{who.CompanyID, who.ListRevision, strings.TrimSpace(in.Words), in.Archived, who.Units,
		who.Role == store.Hand}
	list, known := s.lists.Get(key)
	if !known {
		lines, err := s.listOf(ctx, who, key)
		if err != nil {
			return nil, err
		}
		if list.whole, err = json.Marshal(lines); err == nil {
			list.zipped, err = compressed(list.whole)
		}
		if err != nil {
			return nil, s.Fail(ctx, "write the list of jobs", err)
		}
		s.lists.Add(key, list)
	}
	out := &jobAnswer{Status: http.StatusOK, ContentType: "application/json", CacheControl: "no-store",
		Vary: "Accept-Encoding", Body: list.whole}
	if strings.Contains(in.Accept, "gzip") {
		out.Encoding, out.Body = "gzip", list.zipped
	}
	return out, nil
}

// listOf returns the lines of a list of jobs.
func (s *Service) listOf(ctx context.Context, who store.Person, key listKey) ([]JobLine, error) {
	found, err := s.store.Jobs(ctx, key.company, key.words, key.archived)
	if err != nil {
		return nil, s.Fail(ctx, "list jobs", err)
	}
	lines := make([]JobLine, len(found))
	for i, l := range found {
		lines[i] = JobLine{ID: l.ID, Name: l.Name, Client: l.Client, Site: l.Site, Surfaces: l.Surfaces,
			ChangedBy: l.ChangedBy, ChangedAt: l.ChangedAt, Archived: l.Archived != nil}
		if lines[i].Summary, err = s.summary(ctx, who, l); err != nil {
			return nil, s.Fail(ctx, "sum up a job", err)
		}
		lines[i].Summary = lines[i].Summary.For(key.reads)
		if key.redacted {
			lines[i].Client, lines[i].Summary.Cost = "", nil
		}
	}
	return lines, nil
}

// summary returns what a list shows of a job. One that was stored before summaries were
// kept is planned now, once.
func (s *Service) summary(ctx context.Context, who store.Person, l store.JobLine) (plan.Summary, error) {
	var told plan.Summary
	if l.Summary != nil {
		if err := json.Unmarshal(l.Summary, &told); err != nil {
			return told, fmt.Errorf("decode summary: %w", err)
		}
		if told.Standing != "" {
			return told, nil
		}
	}
	j, err := s.store.Job(ctx, who.CompanyID, l.ID)
	if err != nil {
		return told, err
	}
	world, err := s.store.Facts(ctx, who.CompanyID, l.ID, time.Now())
	if err != nil {
		return told, err
	}
	made, err := s.planner.MakeFor(ctx, j.File, world, who.Units)
	if err != nil {
		return told, err
	}
	told = made.Summary(j.File)
	return told, s.store.KeepSummary(ctx, who.CompanyID, l.ID, l.ChangedAt, told)
}

func (s *Service) addJob(ctx context.Context, file job.File) (*jobAnswer, error) {
	who := api.Person(ctx)
	world, err := s.store.Facts(ctx, who.CompanyID, uuid.Nil, time.Now()) // nothing is booked of it yet
	if err != nil {
		return nil, s.Fail(ctx, "read the facts", err)
	}
	made, err := s.plan(ctx, who, world, file)
	if err != nil {
		return nil, s.Fail(ctx, "plan job", err)
	}
	if err := s.quota.Room(ctx, 0); err != nil {
		return nil, err
	}
	id, err := s.store.AddJob(ctx, who.CompanyID, who.ID, file, made.Summary(file))
	if err != nil {
		return nil, s.Fail(ctx, "add job", err)
	}
	j, err := s.store.Job(ctx, who.CompanyID, id)
	if err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	stamp, err := s.store.Stamp(ctx, who.CompanyID, id)
	if err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	if _, err := s.workOut(ctx, who, j, stateOf(who, id, stamp, time.Now()), &made, nil, nil); err != nil {
		return nil, s.Fail(ctx, "plan job", err)
	}
	return s.answerJob(ctx, id, "", "")
}

func (s *Service) importJob(ctx context.Context, in *struct{ RawBody []byte }) (*jobAnswer, error) {
	file, err := s.files.Read(bytes.NewReader(in.RawBody))
	if err != nil {
		return nil, api.Unreadable("This file cannot be read as a Nephelon plan file. Nothing was added.", err)
	}
	return s.addJob(ctx, file)
}

func (s *Service) readJob(ctx context.Context, in *struct {
	api.JobPath
	Known  string `header:"If-None-Match"`
	Accept string `header:"Accept-Encoding"`
}) (*jobAnswer, error) {
	return s.answerJob(ctx, in.Job, in.Known, in.Accept)
}

// answerJob writes a job with its plan; nothing where the client has that state.
func (s *Service) answerJob(ctx context.Context, id uuid.UUID, known, accept string) (*jobAnswer, error) {
	p, err := s.planned(ctx, api.Person(ctx), id)
	if err != nil {
		return nil, s.Fail(ctx, "plan job", err)
	}
	out := &jobAnswer{Status: http.StatusOK, ContentType: "application/json", ETag: `"` + p.tag + `"`,
		CacheControl: "private, no-cache", Vary: "Accept-Encoding"}
	if known == out.ETag || known == "W/"+out.ETag {
		out.Status = http.StatusNotModified
		return out, nil
	}
	whole, zipped, err := s.bodyOf(p)
	if err != nil {
		return nil, s.Fail(ctx, "write job", err)
	}
	out.Body = whole
	if strings.Contains(accept, "gzip") {
		out.Encoding, out.Body = "gzip", zipped
	}
	return out, nil
}

// state is a planned job as a value.
func (p *planned) state() JobState {
	return JobState{
		JobHead: JobHead{ID: p.job.ID, Tag: p.tag, Revision: p.job.Revision, ChangedBy: p.job.ChangedBy,
			ChangedAt: p.job.ChangedAt, Newer: p.newer},
		File: p.job.File, Plan: p.text.plan,
	}
}

func (s *Service) buyTogether(ctx context.Context, in *struct {
	Jobs []string `query:"job,explode" required:"true" minItems:"1" maxItems:"40" format:"uuid" doc:"The ids of the jobs that buy together"`
}) (*api.Body[plan.Together], error) {
	p := api.Person(ctx)
	files := make([]job.File, len(in.Jobs))
	for i, text := range in.Jobs {
		id, err := uuid.Parse(text)
		if err != nil {
			return nil, huma.Error422UnprocessableEntity("One of these is not the id of a job. Choose them on the list of jobs.")
		}
		j, err := s.store.Job(ctx, p.CompanyID, id)
		if err != nil {
			return nil, s.Fail(ctx, "read job", err)
		}
		files[i] = j.File
	}
	t, err := plan.BuyTogether(files, p.Units, time.Now())
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	return api.Answer(t), nil
}

func (s *Service) copySurface(ctx context.Context, in *struct {
	api.JobPath
	Surface string `path:"surface" maxLength:"60"`
	Body    struct {
		To uuid.UUID `json:"to" format:"uuid" doc:"The job that gets it"`
	}
}) (*struct{}, error) {
	p := api.Person(ctx)
	from, err := s.store.Job(ctx, p.CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	to, err := s.store.Job(ctx, p.CompanyID, in.Body.To)
	if err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	if err := job.CopySurface(from.File, in.Surface, &to.File, uuid.NewString); err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	world, err := s.store.Facts(ctx, p.CompanyID, to.ID, time.Now())
	if err != nil {
		return nil, s.Fail(ctx, "read the bookings", err)
	}
	made, err := s.plan(ctx, p, world, to.File)
	if err != nil {
		return nil, s.Fail(ctx, "plan job", err)
	}
	if _, err := s.store.SaveJob(ctx, p.CompanyID, p.ID, store.Save{Job: to.ID, Base: to.Revision, ID: uuid.New(),
		File: to.File, Summary: made.Summary(to.File)}); err != nil {
		var stale *store.Stale
		if errors.As(err, &stale) {
			return nil, huma.Error409Conflict(fmt.Sprintf("%s saved the other job just now. Copy again.",
				stale.Theirs.ChangedBy))
		}
		return nil, s.Fail(ctx, "save job", err)
	}
	return nil, nil
}

func (s *Service) exportJob(ctx context.Context, in *api.JobPath) (*api.Download, error) {
	j, err := s.store.Job(ctx, api.Person(ctx).CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	var text bytes.Buffer
	if err := exchange.Write(&text, j.File); err != nil {
		return nil, s.Fail(ctx, "write file", err)
	}
	return api.Attached("application/json", api.FileName(j.File.Job.Name)+".nephelon.json", text.Bytes()), nil
}

// jobChanges streams the version of a job at every save and booking as server-sent events.
func (s *Service) jobChanges(ctx context.Context, in *api.JobPath) (*huma.StreamResponse, error) {
	return s.live.Stream(ctx, s.live.Jobs, in.Job, func() (int64, error) {
		stamp, err := s.store.Stamp(ctx, api.Person(ctx).CompanyID, in.Job)
		return stamp.Version(), err
	})
}
