// Package api holds what the subjects of the server share: how an operation is added and who
// calls it, the shapes that more than one of them takes or returns, and how a failure is
// answered. It knows no subject.
package api

import (
	"context"
	"errors"
	"log/slog"
	"mime"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/material"
	"nephelon/exchange"
	"nephelon/store"
)

// BodyLimit is the largest body of an operation that takes a plan file or part of one, in bytes.
const BodyLimit = exchange.MaxFile + 1<<20

// Body is a JSON body, of a request or of an answer.
type Body[T any] struct{ Body T }

// Answer returns an answer with a JSON body.
func Answer[T any](value T) *Body[T] { return &Body[T]{value} }

// Register adds an operation. The library's deadline on reading a body stays on its
// connection once the body is read and would end whatever works longer; the server ends slow
// bodies itself.
func Register[I, O any](to huma.API, op huma.Operation, handler func(context.Context, *I) (*O, error)) {
	op.BodyReadTimeout = -1
	huma.Register(to, op, handler)
}

type personKey struct{}

// WithPerson returns a context for what a person asks.
func WithPerson(ctx context.Context, p store.Person) context.Context {
	return context.WithValue(ctx, personKey{}, p)
}

// Person returns who makes the request; the zero Person where nobody is signed in.
func Person(ctx context.Context) store.Person {
	p, _ := ctx.Value(personKey{}).(store.Person)
	return p
}

// JobPath is the job an operation is about.
type JobPath struct {
	Job uuid.UUID `path:"job"`
}

// SheetPath is the data sheet an operation is about.
type SheetPath struct {
	ID string `path:"id" maxLength:"60"`
}

// Based is the revision that a change was made from.
type Based struct {
	Base int64 `query:"base" required:"true" minimum:"0" doc:"The revision that the change was made from; 0 for what is new"`
}

// Stands is the revision that a change left.
type Stands struct {
	Revision int64 `json:"revision"`
}

// Download is a file for the person to keep.
type Download struct {
	Type        string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

// Attached returns a download of a media type under a file name.
func Attached(kind, name string, text []byte) *Download {
	return &Download{Type: kind, Disposition: mime.FormatMediaType("attachment", map[string]string{"filename": name}),
		Body: text}
}

// FileName returns the name of a job as every file system takes it: letters a to z, digits
// and hyphens.
func FileName(job string) string {
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
	return kept
}

// RefusedField returns a refusal that names its field.
func RefusedField(field, text string) error {
	return huma.Error422UnprocessableEntity("validation failed", &huma.ErrorDetail{Location: field, Message: text})
}

// Unreadable returns a refusal that names every field which keeps a file from being read.
func Unreadable(what string, err error) error {
	problem := &huma.ErrorModel{Status: http.StatusUnprocessableEntity,
		Title: http.StatusText(http.StatusUnprocessableEntity), Detail: what}
	causes := []error{err}
	if many, ok := errors.AsType[interface {
		error
		Unwrap() []error
	}](err); ok {
		causes = many.Unwrap()
	}
	for _, cause := range causes {
		detail := &huma.ErrorDetail{Message: cause.Error()}
		if refusal, ok := errors.AsType[*exchange.Refusal](cause); ok {
			detail = &huma.ErrorDetail{Message: refusal.Text, Location: refusal.Path}
		}
		problem.Errors = append(problem.Errors, detail)
	}
	return problem
}

// Faulty returns the refusal of a sheet that cannot be: every fault with its field.
func Faulty(faults []material.Fault) error {
	problem := &huma.ErrorModel{Status: http.StatusUnprocessableEntity,
		Title: http.StatusText(http.StatusUnprocessableEntity), Detail: "This sheet contradicts itself. Nothing was saved."}
	for _, f := range faults {
		problem.Errors = append(problem.Errors, &huma.ErrorDetail{Location: f.Field, Message: f.Text + " " + f.Way})
	}
	return problem
}

// SlowPlanError is returned where something takes longer to plan than is allowed.
type SlowPlanError struct{}

func (SlowPlanError) Error() string {
	return "Planning this takes too long; nothing was saved. Give the surfaces fewer corners, or divide the job into " +
		"several."
}

// Auditor keeps that something was done.
type Auditor interface {
	Audit(ctx context.Context, company uuid.UUID, person uuid.NullUUID, what, about string) error
}

// Base holds what each subject of the API works with.
type Base struct {
	API   huma.API
	Log   *slog.Logger
	Trail Auditor
}

// Audit keeps that a person did something. That this fails is logged and fails nothing else.
func (b Base) Audit(ctx context.Context, p store.Person, what, about string) {
	if err := b.Trail.Audit(ctx, p.CompanyID, uuid.NullUUID{UUID: p.ID, Valid: p.ID != uuid.Nil}, what,
		about); err != nil {
		b.Log.ErrorContext(ctx, "keep what was done", "error", err)
	}
}

// Revised answers a change that was kept, or not because somebody else made one meanwhile.
func (b Base) Revised(ctx context.Context, doing string, revision int64, err error) (*Body[Stands], error) {
	if errors.Is(err, store.ErrChanged) {
		return nil,
			huma.Error409Conflict("Somebody else changed this meanwhile. Their change was saved and yours was not. Look " +
				"at it, " +
				"and make your change again.")
	}
	if err != nil {
		return nil, b.Fail(ctx, doing, err)
	}
	return Answer(Stands{revision}), nil
}

// Fail logs an error and returns what the caller is told of it: 404 where there is no such
// record, 422 where a plan takes too long, 503 where the database does not answer, else 500
// without the cause. A caller who left before the answer is logged as such.
func (b Base) Fail(ctx context.Context, doing string, err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return huma.Error404NotFound("There is no such record in your company.")
	}
	if tooSlow, is := errors.AsType[SlowPlanError](err); is {
		return huma.Error422UnprocessableEntity(tooSlow.Error())
	}
	if errors.Is(err, context.Canceled) && ctx.Err() != nil { // else something here gave up
		b.Log.DebugContext(ctx, doing, "left by its caller", err)
	} else {
		b.Log.ErrorContext(ctx, doing, "error", err)
	}
	if store.Away(err) {
		return huma.Error503ServiceUnavailable(
			"The database is not available. If you were saving, reload the page later to see whether the change was stored.")
	}
	return huma.Error500InternalServerError(
		"An internal error occurred. If you were saving, reload the page to see whether the change was stored.")
}

// Quota refuses, with an error for the caller, what would not fit into what a company may keep.
type Quota interface {
	Room(ctx context.Context, more int) error
}
