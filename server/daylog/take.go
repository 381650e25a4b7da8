package daylog

import (
	"context"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/record"
	"nephelon/server/api"
	"nephelon/store"
)

// mostEvents is the most events that are taken in one request.
const mostEvents = 500

// take takes events of the one who is signed in.
func (s *Service) take(ctx context.Context, in *struct {
	api.JobPath
	Body struct {
		Events []record.Event `json:"events" minItems:"1" maxItems:"500"`
	}
}) (*api.Body[LogAnswer], error) {
	p, now := api.Person(ctx), time.Now().UTC()
	if n := len(in.Body.Events); n == 0 || n > mostEvents {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("events: send 1 to %d events at once", mostEvents))
	}
	plans, err := s.store.IssueSums(ctx, p.CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "read issued plans", err)
	}
	out := LogAnswer{Taken: []string{}, Refused: []EventRefused{}, Time: now}
	struck, err := s.store.EventsByID(ctx, p.CompanyID, in.Job, struckBy(in.Body.Events))
	if err != nil {
		return nil, s.Fail(ctx, "read the record", err)
	}
	for _, e := range in.Body.Events {
		if e.Kind == record.Struck {
			continue
		}
		struck[e.ID] = e
	}
	takes := make([]record.Event, 0, len(in.Body.Events))
	taking := taking{who: p, job: in.Job, plans: plans, struck: struck, now: now}
	for _, e := range in.Body.Events {
		text := taking.refuses(&e)
		if text != "" {
			out.Refused = append(out.Refused, EventRefused{e.ID, text})
			continue
		}
		takes = append(takes, e)
	}
	others, err := s.store.Log(ctx, p.CompanyID, p.ID, in.Job, takes, now)
	if err != nil {
		return nil, s.Fail(ctx, "log events", err)
	}
	s.count(len(takes))
	for _, e := range takes {
		if e.Kind == record.Gated && e.Body.Reason != "" {
			s.Audit(ctx, p, "gate overridden", in.Job.String()+" "+string(e.Task))
		}
	}
	isOther := make(map[string]bool)
	for _, id := range others {
		isOther[id] = true
		out.Refused = append(out.Refused, EventRefused{id, "id: another event has this id already; log it again"})
	}
	for _, e := range takes {
		if !isOther[e.ID] {
			out.Taken = append(out.Taken, e.ID)
		}
	}
	return api.Answer(out), nil
}

// taking holds what events that arrive are held against.
type taking struct {
	who    store.Person
	job    uuid.UUID
	plans  map[int]string // the hash of each issued plan
	struck map[string]record.Event
	now    time.Time
}

// refuses returns why an event is not taken; an empty text where it is.
func (t *taking) refuses(e *record.Event) string {
	if text := record.Check(e, t.now); text != "" {
		return text
	}
	other, known := t.struck[e.Body.Struck]
	sum, issued := t.plans[e.Issue]
	switch {
	case e.Person != t.who.ID.String():
		return "person: somebody else logged this on the same device; it is sent when they sign in"
	case !issued:
		return fmt.Sprintf("issue: no plan with the number %d was issued for this job", e.Issue)
	case e.Job != "" && e.Job != t.job.String():
		return "job: it was logged on another job; it belongs to the record of that one"
	case e.Plan != "" && sum != "" && e.Plan != sum:
		return fmt.Sprintf("plan: this device has another plan %d than was issued; open the day again with a network",
			e.Issue)
	case before(t.job, e):
		return record.FieldAt + ": it is before this job was made; set the clock of this device, then send it again"
	case e.Kind == record.Struck && !known:
		return "body.struck: this job's record has no such event"
	case t.who.Role == store.Hand && record.ForLeads(e, &other):
		return "kind: who leads the day does this; ask them, on their own device or yours"
	}
	return ""
}

// before reports whether an event is dated before its job was made, by more than clocks differ.
func before(job uuid.UUID, e *record.Event) bool {
	const timed, apart = 7, 2 * time.Minute // the version of ids that hold the time
	if job.Version() != timed {
		return false
	}
	sec, nsec := job.Time().UnixTime()
	return e.Logged().Before(time.Unix(sec, nsec).Add(-apart))
}

func struckBy(events []record.Event) []string {
	var ids []string
	for _, e := range events {
		if e.Kind == record.Struck {
			ids = append(ids, e.Body.Struck)
		}
	}
	return ids
}
