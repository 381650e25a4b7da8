package server

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/measure"
	"nephelon/store"
)

const (
	personKey        = "person"
	failureWindow    = 15 * time.Minute
	failuresPerEmail = 8
	failuresPerHost  = 40
)

// Metadata of an operation: who may call it. Without it, anyone signed in.
const (
	openTo  = "open"  // bool: no session needed
	roleFor = "roles" // []store.Role
)

type contextKey struct{}

type hostKey struct{}

// person is who makes the request.
func person(ctx context.Context) store.Person {
	p, _ := ctx.Value(contextKey{}).(store.Person)
	return p
}

// Me is the person signed in.
type Me struct {
	ID      uuid.UUID      `json:"id" format:"uuid"`
	Name    string         `json:"name"`
	Email   string         `json:"email"`
	Company string         `json:"company"`
	Role    store.Role     `json:"role" enum:"owner,estimator,lead,hand"`
	Units   measure.System `json:"units" enum:"us,metric"`
}

func meOf(p store.Person) Me {
	return Me{p.ID, p.Name, p.Email, p.Company, p.Role, p.Units}
}

type body[T any] struct{ Body T }

// HashPassword makes the argon2id hash that is stored.
func HashPassword(password string) (string, error) {
	hash, err := argon2id.CreateHash(password, &argon2id.Params{Memory: 19 << 10, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32})
	if err != nil {
		return "", fmt.Errorf("hash the password: %w", err)
	}
	return hash, nil
}

// authenticate lets through who may call an operation.
func (s *Server) authenticate(ctx huma.Context, next func(huma.Context)) {
	refuse := func(status int, text string) {
		if err := huma.WriteErr(s.api, ctx, status, text); err != nil {
			s.log.Error("write an error", "error", err)
		}
	}
	op := ctx.Operation()
	if open, _ := op.Metadata[openTo].(bool); open {
		host, _, err := net.SplitHostPort(ctx.RemoteAddr())
		if err != nil {
			host = ctx.RemoteAddr()
		}
		next(huma.WithValue(ctx, hostKey{}, host))
		return
	}
	id, err := uuid.Parse(s.sessions.GetString(ctx.Context(), personKey))
	if err != nil {
		refuse(http.StatusUnauthorized, "Sign in first.")
		return
	}
	p, err := s.store.Person(ctx.Context(), id)
	if errors.Is(err, store.ErrNotFound) {
		refuse(http.StatusUnauthorized, "Sign in again; this account is closed.")
		return
	}
	if err != nil {
		s.log.Error("find who is signed in", "error", err)
		refuse(http.StatusServiceUnavailable, "The records cannot be reached just now. Try again.")
		return
	}
	if roles, limited := op.Metadata[roleFor].([]store.Role); limited && !slices.Contains(roles, p.Role) {
		refuse(http.StatusForbidden, fmt.Sprintf("As %s you cannot do this; ask an owner of %s.", p.Role, p.Company))
		return
	}
	next(huma.WithValue(ctx, contextKey{}, p))
}

func (s *Server) sessionRoutes() {
	open := map[string]any{openTo: true}
	huma.Register(s.api, huma.Operation{OperationID: "signIn", Method: http.MethodPost, Path: "/api/session", Metadata: open},
		func(ctx context.Context, in *body[struct {
			Email    string `json:"email" minLength:"3" maxLength:"200"`
			Password string `json:"password" minLength:"1" maxLength:"200"`
		}]) (*body[Me], error) {
			return s.signIn(ctx, strings.ToLower(strings.TrimSpace(in.Body.Email)), in.Body.Password)
		})
	huma.Register(s.api, huma.Operation{OperationID: "signOut", Method: http.MethodDelete, Path: "/api/session", Metadata: open},
		func(ctx context.Context, _ *struct{}) (*struct{}, error) {
			if err := s.sessions.Destroy(ctx); err != nil {
				return nil, s.trouble("sign out", err)
			}
			return nil, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "me", Method: http.MethodGet, Path: "/api/me"},
		func(ctx context.Context, _ *struct{}) (*body[Me], error) {
			return &body[Me]{meOf(person(ctx))}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "setUnits", Method: http.MethodPut, Path: "/api/me/units"},
		func(ctx context.Context, in *body[struct {
			Units measure.System `json:"units" enum:"us,metric"`
		}]) (*body[Me], error) {
			p := person(ctx)
			if err := s.store.SetUnits(ctx, p.ID, in.Body.Units); err != nil {
				return nil, s.trouble("set units", err)
			}
			p.Units = in.Body.Units
			return &body[Me]{meOf(p)}, nil
		})
}

func (s *Server) signIn(ctx context.Context, email, password string) (*body[Me], error) {
	host, _ := ctx.Value(hostKey{}).(string)
	byEmail, byHost := "email:"+email, "host:"+host
	for key, most := range map[string]int{byEmail: failuresPerEmail, byHost: failuresPerHost} {
		count, err := s.store.SignInFailures(ctx, key, failureWindow)
		if err != nil {
			return nil, s.trouble("count failed sign-ins", err)
		}
		if count >= most {
			return nil, huma.Error429TooManyRequests(fmt.Sprintf("Too many failed sign-ins. Wait %d minutes and try again.", int(failureWindow.Minutes())))
		}
	}
	p, err := s.store.PersonByEmail(ctx, email)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, s.trouble("find person", err)
	}
	hash := p.PasswordHash
	if hash == "" {
		// Spend the same time on an unknown address as on a known one.
		if hash, err = HashPassword("nobody"); err != nil {
			return nil, s.trouble("hash", err)
		}
	}
	match, err := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil {
		return nil, s.trouble("compare passwords", err)
	}
	if !match || p.PasswordHash == "" {
		if err := s.store.NoteSignInFailure(ctx, byEmail, byHost); err != nil {
			return nil, s.trouble("note a failed sign-in", err)
		}
		return nil, huma.Error401Unauthorized("That address and password do not belong together. Check both, or ask an owner of your company for a new password.")
	}
	if err := s.store.ForgetSignInFailures(ctx, byEmail); err != nil {
		return nil, s.trouble("forget failed sign-ins", err)
	}
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, s.trouble("begin a session", err)
	}
	s.sessions.Put(ctx, personKey, p.ID.String())
	return &body[Me]{meOf(p)}, nil
}

// trouble logs what went wrong inside and tells the caller only that it did. A
// caller who left before the answer is no trouble.
func (s *Server) trouble(doing string, err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return huma.Error404NotFound("There is no such record in your company.")
	}
	if errors.Is(err, context.Canceled) {
		s.log.Debug(doing, "left by its caller", err)
	} else {
		s.log.Error(doing, "error", err)
	}
	return huma.Error500InternalServerError("Something went wrong here; nothing was changed. Try again.")
}
