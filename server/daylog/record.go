// Package daylog offers the plans that were issued to a crew, the events of job days, and what
// they tell: the record of a job, faults with their likely causes, and what was learnt.
package daylog

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"time"

	"nephelon/core/cure"
	"nephelon/server/api"
	"nephelon/server/live"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/plan"
	"nephelon/core/record"
	"nephelon/core/record/cause"
	"nephelon/core/record/compare"
	"nephelon/core/record/current"
	"nephelon/core/record/learn"
	"nephelon/core/record/ledger"
	"nephelon/core/record/wait"
	"nephelon/store"
)

// Service answers what is asked about records.
type Service struct {
	api.Base
	store   Store
	live    *live.Hub
	planner *plan.Planner
	lives   *cure.Known
	count   func(events int) // of those taken
}

// New returns the service, which calls count with how many events it took.
func New(base api.Base, in Store, planner *plan.Planner, hub *live.Hub, count func(events int)) *Service {
	return &Service{Base: base, store: in, planner: planner, lives: cure.NewKnown(), live: hub, count: count}
}

// IssueLine is an issued plan in a list.
type IssueLine struct {
	Number   int       `json:"number"`
	At       time.Time `json:"at"`
	By       string    `json:"by"`
	To       string    `json:"to"`
	Day      string    `json:"day,omitempty"`
	Note     string    `json:"note,omitempty"`
	Revision int64     `json:"revision" doc:"Revision of the job that it was made from"`
	Coats    int       `json:"coats"`
	Batches  int       `json:"batches"`
}

// Issues are the plans of a job that were issued.
type Issues struct {
	Lines    []IssueLine      `json:"lines" doc:"Newest first"`
	Revision int64            `json:"revision" doc:"Revision of the job now"`
	Changes  []compare.Change `json:"changes" doc:"How today's plan differs from the newest that was issued"`
}

// NewIssue asks for a plan to be given to a crew.
type NewIssue struct {
	SaveID uuid.UUID `json:"saveId" format:"uuid" doc:"Made by the client, so that it can be asked again safely"`
	To     string    `json:"to" minLength:"1" maxLength:"60" doc:"The crew it is given to"`
	Day    string    `json:"day,omitempty" maxLength:"10" pattern:"^([0-9]{4}-[0-9]{2}-[0-9]{2})?$" doc:"Only the coats that begin on this day of the site; all of them when left out"`
	Note   string    `json:"note,omitempty" maxLength:"600"`
}

// Logged holds what the record of a job holds since a mark.
type Logged struct {
	Events []record.Event `json:"events"`
	Mark   int64          `json:"mark" doc:"Where to read on; some of the events may come again"`
	Issue  int            `json:"issue" doc:"The number of the newest issued plan; 0 where none was"`
	Time   time.Time      `json:"time" doc:"Time, on the clock of the server"`
	Head   string         `json:"head,omitempty" doc:"Newest signed head of the company's log"`
	Proof  []string       `json:"proof" doc:"Proof that it goes on from the head of the size that was asked for (RFC 6962, 2.1.2), base64"`
}

// LogAnswer says what became of events that were sent.
type LogAnswer struct {
	Taken   []string       `json:"taken" doc:"The ids that the record holds now"`
	Refused []EventRefused `json:"refused"`
	Time    time.Time      `json:"time" doc:"Time, on the clock of the server"`
}

// EventRefused is an event that the record does not take.
type EventRefused struct {
	ID   string `json:"id"`
	Text string `json:"text" doc:"Why, and what to do"`
}

// Routes adds the operations.
func (s *Service) Routes() {
	api.Register(s.API, huma.Operation{OperationID: "issues", Summary: "List issued plans", Method: http.MethodGet,
		Path: "/api/jobs/{job}/issues"},
		s.listIssues)
	api.Register(s.API, huma.Operation{OperationID: "issuePlan", Summary: "Issue the plan to a crew",
		Method: http.MethodPost, Path: "/api/jobs/{job}/issues",
		Description: "Freezes the current plan, gives it a number and hands it to a crew"}, s.issuePlan)
	api.Register(s.API, huma.Operation{OperationID: "issue", Summary: "Get an issued plan", Method: http.MethodGet,
		Path:        "/api/jobs/{job}/issues/{number}",
		Description: "A plan as it was issued"},
		func(ctx context.Context, in *struct {
			api.JobPath
			Number int `path:"number" minimum:"0" doc:"0 for the plan in force as it was issued: the newest, with those coats of earlier ones that it does not replace"`
		}) (*api.Body[record.Issue], error) {
			if in.Number == 0 {
				issues, events, err := s.logged(ctx, in.Job)
				if err != nil {
					return nil, err
				}
				return api.Answer(current.Issued(issues, events)), nil
			}
			all, err := s.store.Issues(ctx, api.Person(ctx).CompanyID, in.Job)
			if err != nil {
				return nil, s.Fail(ctx, "read issued plans", err)
			}
			at := slices.IndexFunc(all, func(i record.Issue) bool { return i.Number == in.Number })
			if at < 0 {
				return nil, huma.Error404NotFound(fmt.Sprintf("No plan with the number %d was issued of this job.", in.Number))
			}
			return api.Answer(all[at]), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "events", Summary: "List events of a job", Method: http.MethodGet,
		Path: "/api/jobs/{job}/events"},
		s.readEvents)
	api.Register(s.API, huma.Operation{OperationID: "log", Summary: "Log events", Method: http.MethodPost,
		Path:         "/api/jobs/{job}/events",
		MaxBodyBytes: api.BodyLimit,
		// Each event is checked by itself: one that is wrong holds up no other.
		SkipValidateBody: true, Description: "Adds events to the record; an event sent again is stored once. Rejected " +
			"events are listed one by one"}, s.take)
	api.Register(s.API, huma.Operation{OperationID: "eventChanges", Summary: "Stream changes of a job's record",
		Method: http.MethodGet,
		Path:   "/api/jobs/{job}/events/changes", Description: "A server-sent event for whatever is logged or issued"},
		s.recordChanges)
	s.tellRoutes()
	s.productRoutes()
}

// tellRoutes offer what events tell: of a day, of faults, and of all jobs.
func (s *Service) tellRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "record", Summary: "Get the record of a job", Method: http.MethodGet,
		Path:        "/api/jobs/{job}/record",
		Description: "The state of the newest issued plan by the events logged so far"},
		func(ctx context.Context, in *api.JobPath) (*api.Body[wait.Board], error) {
			issue, _, day, err := s.recorded(ctx, in.Job)
			if err != nil {
				return nil, err
			}
			return api.Answer(wait.BoardOf(&issue, day, time.Now(), api.Person(ctx).Units)), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "symptoms", Summary: "List symptoms with their causes",
		Method: http.MethodGet, Path: "/api/faults",
		Description: "What may be seen on a floor, with what may cause it and the weights of that"},
		func(context.Context, *struct{}) (*api.Body[[]cause.Symptom], error) {
			return api.Answer(cause.Symptoms()), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "opinions", Summary: "Judge the faults of a job",
		Method: http.MethodGet, Path: "/api/jobs/{job}/faults",
		Description: "What may have caused each fault of a job, by its record"}, s.opinions)
	api.Register(s.API, huma.Operation{OperationID: "recordFile", Summary: "Export the record of a job",
		Method:      http.MethodGet,
		Path:        "/api/jobs/{job}/record-file",
		Description: "The record as JSON, as tables, or as the hand-over for the client"}, s.recordFile)
	api.Register(s.API, huma.Operation{OperationID: "entries", Summary: "Search log entries", Method: http.MethodGet,
		Path:        "/api/record-entries",
		Description: "What was logged on any job, newest first, at most 200"}, s.entries)
	api.Register(s.API, huma.Operation{OperationID: "learnt", Summary: "Get figures learnt from past jobs",
		Method: http.MethodGet, Path: "/api/learnt",
		Description: "Actual against planned times of past jobs; nothing is changed"}, s.learnt)
	api.Register(s.API, huma.Operation{OperationID: "waits", Summary: "List what comes due on all jobs",
		Method: http.MethodGet, Path: "/api/waits",
		Description: "Tape, drips, next coats and first use of all jobs with entries of the last three weeks, what is due " +
			"first before the rest: from a day ago to a week ahead"}, s.waits)
	api.Register(s.API, huma.Operation{OperationID: "time", Summary: "Get the server's clock", Method: http.MethodGet,
		Path:        "/api/time",
		Description: "The time of the server, by which devices correct theirs"},
		func(context.Context, *struct{}) (*api.Body[struct {
			Time time.Time `json:"time"`
		}], error) {
			out := &api.Body[struct {
				Time time.Time `json:"time"`
			}]{}
			out.Body.Time = time.Now().UTC()
			return out, nil
		})
}

func (s *Service) listIssues(ctx context.Context, in *api.JobPath) (*api.Body[Issues], error) {
	p := api.Person(ctx)
	all, err := s.store.Issues(ctx, p.CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read issued plans", err)
	}
	j, err := s.store.Job(ctx, p.CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	out := Issues{Lines: make([]IssueLine, len(all)), Revision: j.Revision, Changes: []compare.Change{}}
	for n, i := range all {
		line := IssueLine{Number: i.Number, At: i.At, By: i.By, To: i.To, Day: i.Day, Note: i.Note, Revision: i.Revision,
			Coats: len(i.Coats)}
		for _, c := range i.Coats {
			line.Batches += len(c.Batches)
		}
		out.Lines[n] = line
	}
	if len(all) > 0 {
		world, err := s.store.Facts(ctx, p.CompanyID, in.Job, time.Now())
		if err != nil {
			return nil, s.Fail(ctx, "read the bookings", err)
		}
		world.Logged = nil // what was done is no change of the plan
		now, err := s.planner.Issue(ctx, j.File, world, p.Units, all[0].Day)
		if err != nil && !errors.Is(err, plan.ErrNothingToIssue) {
			return nil, s.Fail(ctx, "plan the job", err)
		}
		out.Changes = compare.Plans(&all[0], &now, p.Units)
	}
	return api.Answer(out), nil
}

// mostLots limits how many lots of a product go with an issued plan.
const mostLots = 40

func (s *Service) issuePlan(ctx context.Context, in *struct {
	api.JobPath
	Body NewIssue
}) (*api.Body[record.Issue], error) {
	p := api.Person(ctx)
	j, err := s.store.Job(ctx, p.CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read job", err)
	}
	made, err := s.freeze(ctx, j, in.Body)
	if errors.Is(err, plan.ErrNothingToIssue) {
		text := "Nothing can be issued: " + plan.ErrNothingToIssue.Error() + "."
		if in.Body.Day != "" {
			text = fmt.Sprintf("No coat of this job begins on %s. Choose another day, or issue the whole job.", in.Body.Day)
		}
		return nil, huma.Error422UnprocessableEntity(text)
	}
	if err != nil {
		return nil, err
	}
	made, err = s.store.IssuePlan(ctx, p.CompanyID, p.ID, in.Job, in.Body.SaveID, made)
	if err != nil {
		return nil, s.Fail(ctx, "issue the plan", err)
	}
	return api.Answer(made), nil
}

// freeze plans a job as it is given to a crew, with the lots in stock. It fails with plan.ErrNothingToIssue where no
// coat is left.
func (s *Service) freeze(ctx context.Context, j store.Job, asked NewIssue) (record.Issue, error) {
	p := api.Person(ctx)
	now := time.Now().UTC().Truncate(time.Millisecond)
	world, err := s.store.Facts(ctx, p.CompanyID, j.ID, now)
	if err != nil {
		return record.Issue{}, s.Fail(ctx, "read the bookings", err)
	}
	made, err := s.planner.Issue(ctx, j.File, world, p.Units, asked.Day)
	if errors.Is(err, plan.ErrNothingToIssue) {
		return record.Issue{}, err
	}
	if err != nil {
		return record.Issue{}, s.Fail(ctx, "plan the job", err)
	}
	stock, err := s.store.Stock(ctx, p.CompanyID)
	if err != nil {
		return record.Issue{}, s.Fail(ctx, "list stock", err)
	}
	for n := range made.Coats {
		c := &made.Coats[n]
		for _, kept := range stock {
			held := kept.Of
			if held.Sheet == c.Product.ID && held.Lot != "" && (held.Hardener == c.Hardener || held.Hardener == "") &&
				len(c.Lots) < mostLots {
				c.Lots = append(c.Lots, record.StockLot{Part: held.Part, Lot: held.Lot, Expires: held.Expires})
			}
		}
	}
	made.Job, made.Revision, made.At, made.By, made.To, made.Note = j.ID.String(), j.Revision, now, p.Name, asked.To,
		asked.Note
	return made, nil
}

func (s *Service) readEvents(ctx context.Context, in *struct {
	api.JobPath
	Since int64 `query:"since" minimum:"0"`
	Head  int64 `query:"head" minimum:"0" doc:"Size of the head of the company's log that the device keeps; 0 for none"`
}) (*api.Body[Logged], error) {
	p := api.Person(ctx)
	issues, err := s.store.IssueNumber(ctx, p.CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read issued plans", err)
	}
	logged, err := s.store.Events(ctx, p.CompanyID, in.Job, in.Since)
	if err != nil {
		return nil, s.Fail(ctx, "read the record", err)
	}
	head, proof, err := s.store.Head(ctx, p.CompanyID, in.Head)
	if err != nil {
		return nil, s.Fail(ctx, "read the head of the log", err)
	}
	return api.Answer(Logged{logged.Events, logged.Mark, issues, time.Now().UTC(), head, ledger.Texts(proof)}), nil
}

// logged returns the plans that were issued of a job, newest first and at least one, and the events of its record.
func (s *Service) logged(ctx context.Context, job uuid.UUID) ([]record.Issue, []record.Event, error) {
	company := api.Person(ctx).CompanyID
	issues, err := s.store.Issues(ctx, company, job)
	if err != nil {
		return nil, nil, s.Fail(ctx, "read issued plans", err)
	}
	if len(issues) == 0 {
		return nil, nil,
			huma.Error404NotFound("No plan of this job was issued yet. An estimator or owner issues it from the page Days.")
	}
	logged, err := s.store.Events(ctx, company, job, 0)
	if err != nil {
		return nil, nil, s.Fail(ctx, "read the record", err)
	}
	return issues, logged.Events, nil
}

// recorded returns the plan of a job that stands, the events of its record, and what they tell.
func (s *Service) recorded(ctx context.Context, job uuid.UUID) (record.Issue, []record.Event, record.Day, error) {
	issues, events, err := s.logged(ctx, job)
	if err != nil {
		return record.Issue{}, nil, record.Day{}, err
	}
	stands := current.Plan(issues, events)
	return stands, events, record.TellerWith(s.lives).Tell(&stands, events, time.Now(), api.Person(ctx).Units), nil
}

// opinions judges every fault of a job.
func (s *Service) opinions(ctx context.Context, in *api.JobPath) (*api.Body[[]cause.Opinion], error) {
	_, _, day, err := s.recorded(ctx, in.Job)
	if err != nil {
		return nil, err
	}
	past, err := s.store.PastCauses(ctx, api.Person(ctx).CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read past faults", err)
	}
	house, err := s.store.House(ctx, api.Person(ctx).CompanyID)
	if err != nil {
		return nil, s.Fail(ctx, "read the house", err)
	}
	out := []cause.Opinion{}
	for _, fault := range day.Faults {
		if opinion, err := cause.Judge(fault, day.Facts, past, house.Of.Causes); err == nil {
			out = append(out, opinion)
		}
	}
	return api.Answer(out), nil
}

// EntryLine is something logged on any job.
type EntryLine struct {
	Job   uuid.UUID    `json:"job" format:"uuid"`
	Name  string       `json:"name" doc:"Name of the job"`
	Zone  string       `json:"zone,omitempty" doc:"IANA time zone of its site"`
	Event record.Event `json:"event"`
}

func (s *Service) entries(ctx context.Context, in *struct {
	Words string `query:"words" maxLength:"120" doc:"Words in the entry, in the name of who logged it, or in that of the job"`
	Kind  string `query:"kind" maxLength:"20"`
}) (*api.Body[[]EntryLine], error) {
	found, err := s.store.Search(ctx, api.Person(ctx).CompanyID, in.Words, in.Kind)
	if err != nil {
		return nil, s.Fail(ctx, "search the records", err)
	}
	lines := make([]EntryLine, len(found))
	for i, e := range found {
		lines[i] = EntryLine(e)
	}
	return api.Answer(lines), nil
}

func (s *Service) learnt(ctx context.Context, _ *struct{}) (*api.Body[[]learn.Learnt], error) {
	p, now := api.Person(ctx), time.Now()
	cases, err := s.store.Cases(ctx, p.CompanyID, func(r store.JobRecord) []learn.Case {
		return learn.OfRecord(r.Issues, r.Events, now, p.Units)
	})
	if err != nil {
		return nil, s.Fail(ctx, "read what records show", err)
	}
	return api.Answer(learn.Learn(cases)), nil
}

// JobWait is one thing that comes due on a job.
type JobWait struct {
	Job  uuid.UUID `json:"job" format:"uuid"`
	Name string    `json:"name" doc:"Name of the job"`
	Zone string    `json:"zone,omitempty" doc:"IANA time zone of its site"`
	wait.Wait
}

// waits lists what comes due on all jobs of a company.
func (s *Service) waits(ctx context.Context, _ *struct{}) (*api.Body[[]JobWait], error) {
	p, now := api.Person(ctx), time.Now()
	jobs, err := s.store.Underway(ctx, p.CompanyID, now.Add(-wait.Lately))
	if err != nil {
		return nil, s.Fail(ctx, "read the jobs under way", err)
	}
	out := []JobWait{}
	for _, j := range jobs {
		if ctx.Err() != nil {
			return nil, s.Fail(ctx, "list what comes due", ctx.Err())
		}
		for _, w := range wait.OfJob(j.Issues, j.Events, now, s.lives) {
			out = append(out, JobWait{j.Job, j.Name, j.Zone, w})
		}
	}
	slices.SortStableFunc(out, func(a, b JobWait) int { return a.Due.Compare(b.Due) })
	return api.Answer(out), nil
}

// recordChanges streams a mark for whatever is logged or issued.
func (s *Service) recordChanges(ctx context.Context, in *api.JobPath) (*huma.StreamResponse, error) {
	return s.live.Stream(ctx, s.live.Records, in.Job, func() (int64, error) {
		_, err := s.store.IssueNumber(ctx, api.Person(ctx).CompanyID, in.Job)
		return 0, err
	})
}
