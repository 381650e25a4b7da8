// Package proof offers the log of a company's records: its signed head, and whether what is kept
// fits it. Every night it checks each company and tells whoever keeps heads outside.
package proof

import (
	"context"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/record/ledger"
	"nephelon/server/api"
	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	Audit(ctx context.Context, company uuid.UUID, person uuid.NullUUID, what, about string) error
	Evidence(ctx context.Context, company uuid.UUID) (ledger.Evidence, error)
	Head(ctx context.Context, company uuid.UUID, from int64) (text string, proof []ledger.Hash, err error)
	Unchecked(ctx context.Context, since time.Time) ([]uuid.UUID, error)
}

// Service answers what is asked about logs.
type Service struct {
	api.Base
	store Store
	told  func(faults int)                             // of a round of checks
	send  func(ctx context.Context, head string) error // to who keeps heads; nil for nobody
}

// New returns the service. It calls told with the number of faults of each nightly round, and send
// with each company's head.
func New(base api.Base, in Store, told func(int), send func(context.Context, string) error) *Service {
	return &Service{Base: base, store: in, told: told, send: send}
}

// LogState is a company's log as it stands.
type LogState struct {
	Head   string        `json:"head" doc:"Newest signed head; empty where nothing was signed yet"`
	Keys   []string      `json:"keys" doc:"Keys that signed heads, the oldest first"`
	Report ledger.Report `json:"report" doc:"What a check of everything that is kept found just now"`
}

// Routes adds the operations.
func (s *Service) Routes() {
	api.Register(s.API, huma.Operation{OperationID: "checkLog", Summary: "Check the records against the log",
		Method: http.MethodPost, Path: "/api/company/log/check",
		Description: "Compares all records of the company with its log and the log with its signed heads"},
		func(ctx context.Context, in *struct {
			Body struct {
				Heads string `json:"heads,omitempty" maxLength:"60000" doc:"Text with heads that were kept outside, as signed notes"`
			}
		}) (*api.Body[LogState], error) {
			p := api.Person(ctx)
			evidence, err := s.store.Evidence(ctx, p.CompanyID)
			if err != nil {
				return nil, s.Fail(ctx, "read the records", err)
			}
			state := LogState{Keys: []string{}}
			if state.Head, _, err = s.store.Head(ctx, p.CompanyID, 0); err != nil {
				return nil, s.Fail(ctx, "read the head of the log", err)
			}
			state.Report = ledger.Check(evidence, nil, ledger.Notes(in.Body.Heads))
			for _, e := range evidence.Entries {
				if e.Kind == ledger.Key {
					state.Keys = append(state.Keys, e.Item)
				}
			}
			s.Audit(ctx, p, checked, state.Report.Words())
			return api.Answer(state), nil
		})
}

// checked is the line of the audit log that a check leaves.
const checked = store.CheckedRecords

const (
	nightly = 20 * time.Hour // between two checks of a company, so that each night has one
	look    = time.Hour
)

// Work checks every company once a night, until the context ends.
func (s *Service) Work(ctx context.Context) {
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(look):
		}
		if err := s.Round(ctx, time.Now()); err != nil && ctx.Err() == nil {
			s.Log.ErrorContext(ctx, "check the records", "error", err)
		}
	}
}

// Round checks the companies that were not checked within a night, and tells of each. It logs what
// does not fit, and goes on with the next.
func (s *Service) Round(ctx context.Context, now time.Time) error {
	due, err := s.store.Unchecked(ctx, now.Add(-nightly))
	if err != nil || len(due) == 0 {
		return err
	}
	faults := 0
	for _, company := range due {
		evidence, err := s.store.Evidence(ctx, company)
		if err != nil {
			return fmt.Errorf("read the records of a company: %w", err)
		}
		report := ledger.Check(evidence, nil, nil)
		faults += len(report.Faults)
		for _, f := range report.Faults {
			s.Log.ErrorContext(ctx, "a record does not fit the log", "company", company, "job", f.Job, "text", f.Text)
		}
		if err := s.store.Audit(ctx, company, uuid.NullUUID{}, checked, report.Words()); err != nil {
			return err
		}
		if s.send == nil {
			continue
		}
		head, _, err := s.store.Head(ctx, company, 0)
		if err == nil && head != "" {
			err = s.send(ctx, head)
		}
		if err != nil {
			s.Log.ErrorContext(ctx, "send the head of a log", "company", company, "error", err)
		}
	}
	s.told(faults)
	return nil
}
