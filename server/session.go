package server

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/netip"
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
	companyKey       = "company"
	agentKey         = "agent"
	keptKey          = "kept"      // the session is in the database
	confirmedKey     = "confirmed" // when the password was given once more
	attemptWindow    = 15 * time.Minute
	attemptsPerEmail = 8 // from one host
	attemptsPerHost  = 40
	attemptsAtOnce   = 20 // to one account, before each waits
	slowStep         = 200 * time.Millisecond
	slowMost         = 5 * time.Second
	hashesAtOnce     = 2
	hashesWaiting    = 64
	// nobodysHash is that of no password anybody has.
	nobodysHash = "$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$0000000000000000000000000000000000000000000"
)

type contextKey struct{}

type hostKey struct{}

type agentContext struct{}

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
	Role    store.Role     `json:"role"`
	Units   measure.System `json:"units"`

	FactorDue bool `json:"factorDue" doc:"The company wants a second factor, and this person has none yet"`
}

func meOf(p store.Person) Me {
	return Me{p.ID, p.Name, p.Email, p.Company, p.Role, p.Units, p.FactorWanted && p.Factor == ""}
}

type body[T any] struct{ Body T }

// HashPassword makes the argon2id hash that is stored.
func HashPassword(password string) (string, error) {
	hash, err := argon2id.CreateHash(password, &argon2id.Params{Memory: 19 << 10, Iterations: 2, Parallelism: 1,
		SaltLength: 16, KeyLength: 32})
	if err != nil {
		return "", fmt.Errorf("hash the password: %w", err)
	}
	return hash, nil
}

// authenticate lets through who may call an operation.
func (s *Server) authenticate(ctx huma.Context, next func(huma.Context)) {
	refuse := func(status int, text string) {
		if err := huma.WriteErr(s.api, ctx, status, text); err != nil {
			s.log.ErrorContext(ctx.Context(), "write an error", "error", err)
		}
	}
	op := ctx.Operation()
	if s.rights[op.OperationID] == anyone {
		agent := ctx.Header("User-Agent")
		next(huma.WithValue(huma.WithValue(ctx, hostKey{}, s.hostOf(ctx)), agentContext{},
			agent[:min(len(agent), longestAgent)]))
		return
	}
	id, err := uuid.Parse(s.sessions.GetString(ctx.Context(), personKey))
	company, also := uuid.Parse(s.sessions.GetString(ctx.Context(), companyKey))
	if err != nil || also != nil {
		refuse(http.StatusUnauthorized, "Sign in first.")
		return
	}
	p, err := s.store.Person(ctx.Context(), company, id)
	if errors.Is(err, store.ErrNotFound) {
		refuse(http.StatusUnauthorized, "Sign in again; this account is closed.")
		return
	}
	if err != nil {
		s.log.ErrorContext(ctx.Context(), "find who is signed in", "error", err)
		refuse(http.StatusServiceUnavailable, "The database is not available. Try again.")
		return
	}
	if !s.rights[op.OperationID].may(p.Role) {
		refuse(http.StatusForbidden, fmt.Sprintf("As %s you cannot do this; ask an owner of %s.", p.Role, p.Company))
		return
	}
	if lacksFactor(p, op.OperationID) {
		refuse(http.StatusForbidden,
			fmt.Sprintf("%s wants a second factor of everybody. Set one up under your name first.", p.Company))
		return
	}
	for turns, operations := range map[*turns][]string{s.turns: costly(), s.planning: planning()} {
		if !slices.Contains(operations, op.OperationID) {
			continue
		}
		if !turns.take(p.ID) {
			ctx.SetHeader("Connection", "close") // what is still on its way is not waited for
			refuse(http.StatusTooManyRequests,
				fmt.Sprintf("%d things that take long are under way for you already. Wait until one is done.", turns.most))
			return
		}
		defer turns.give(p.ID)
	}
	next(huma.WithValue(ctx, contextKey{}, p))
	if what, is := audited()[op.OperationID]; is && ctx.Status() < http.StatusBadRequest {
		s.audit(ctx.Context(), p, what, ctx.URL().Path)
	}
}

// longestAgent is how much of a browser's own words is kept.
const longestAgent = 200

// hostOf is where a request comes from: as the proxy tells that the operator named, or else
// whoever is connected.
func (s *Server) hostOf(ctx huma.Context) string {
	host, _, err := net.SplitHostPort(ctx.RemoteAddr())
	if err != nil {
		host = ctx.RemoteAddr()
	}
	if s.proxy != "" && host == s.proxy {
		// Of several lines the last is the proxy's own, and so is its last entry.
		last := ""
		ctx.EachHeader(func(name, value string) {
			if strings.EqualFold(name, "X-Forwarded-For") {
				last = value[strings.LastIndexByte(value, ',')+1:]
			}
		})
		if address, err := netip.ParseAddr(strings.TrimSpace(last)); err == nil {
			return counted(address)
		}
	}
	if address, err := netip.ParseAddr(host); err == nil {
		return counted(address)
	}
	return host
}

// counted returns the key by which attempts from an address are counted: itself, or the
// network of 64 bits that one line is given of IPv6.
func counted(address netip.Addr) string {
	address = address.Unmap().WithZone("")
	if address.Is4() {
		return address.String()
	}
	const line = 64
	network, err := address.Prefix(line)
	if err != nil {
		return address.String()
	}
	return network.String()
}

func (s *Server) sessionRoutes() {
	register(s.api, huma.Operation{OperationID: "signIn", Method: http.MethodPost, Path: "/api/session"},
		func(ctx context.Context, in *body[struct {
			Email    string `json:"email" minLength:"3" maxLength:"200"`
			Password string `json:"password" minLength:"1" maxLength:"200"`
			Code     string `json:"code,omitempty" maxLength:"40" doc:"Of the second factor, where there is one"`
		}]) (*body[Me], error) {
			return s.signIn(ctx, strings.ToLower(strings.TrimSpace(in.Body.Email)), in.Body.Password, in.Body.Code)
		})
	register(s.api, huma.Operation{OperationID: "signOut", Method: http.MethodDelete, Path: "/api/session"},
		func(ctx context.Context, _ *struct{}) (*struct{}, error) {
			if err := s.sessions.Destroy(ctx); err != nil {
				return nil, s.trouble(ctx, "sign out", err)
			}
			return nil, nil
		})
	register(s.api, huma.Operation{OperationID: "me", Method: http.MethodGet, Path: "/api/me"},
		func(ctx context.Context, _ *struct{}) (*body[Me], error) {
			return &body[Me]{meOf(person(ctx))}, nil
		})
	register(s.api, huma.Operation{OperationID: "setUnits", Method: http.MethodPut, Path: "/api/me/units"},
		func(ctx context.Context, in *body[struct {
			Units measure.System `json:"units"`
		}]) (*body[Me], error) {
			p := person(ctx)
			if err := s.store.SetUnits(ctx, p.CompanyID, p.ID, in.Body.Units); err != nil {
				return nil, s.trouble(ctx, "set units", err)
			}
			p.Units = in.Body.Units
			return &body[Me]{meOf(p)}, nil
		})
	register(s.api, huma.Operation{OperationID: "confirmPassword", Method: http.MethodPost, Path: "/api/me/confirmation",
		Description: "Gives one's own password once more, for what wants that, for ten minutes"},
		func(ctx context.Context, in *body[struct {
			Password string `json:"password" minLength:"1" maxLength:"200"`
		}]) (*struct{}, error) {
			if err := s.own(ctx, person(ctx), "body.password", in.Body.Password); err != nil {
				return nil, err
			}
			s.sessions.Put(ctx, confirmedKey, time.Now().UTC().Format(time.RFC3339))
			return nil, nil
		})
}

// confirmedFor is the time for which a password given once more counts.
const confirmedFor = 10 * time.Minute

// confirmed refuses what an open session alone must not do, unless the password was given
// once more a moment ago.
func (s *Server) confirmed(ctx context.Context) error {
	at, err := time.Parse(time.RFC3339, s.sessions.GetString(ctx, confirmedKey))
	if err != nil || time.Since(at) > confirmedFor {
		return huma.Error403Forbidden("Enter your password once more, then do this again within ten minutes.")
	}
	return nil
}

func (s *Server) signIn(ctx context.Context, email, password, code string) (*body[Me], error) {
	host, _ := ctx.Value(hostKey{}).(string)
	// It is counted before it is checked, so that many at once are not all checked. Who guesses
	// from elsewhere locks nobody out who has the right password.
	byBoth, byHost := "email:"+email+" host:"+host, "host:"+host
	for key, most := range map[string]int{byBoth: attemptsPerEmail, byHost: attemptsPerHost} {
		count, err := s.store.Attempt(ctx, key, attemptWindow)
		if err != nil {
			return nil, s.trouble(ctx, "count sign-ins", err)
		}
		if count > most {
			return nil,
				huma.Error429TooManyRequests(fmt.Sprintf("Too many failed sign-ins from here. Wait %d minutes and try again.",
					int(attemptWindow.Minutes())))
		}
	}
	if err := s.slowed(ctx, "email:"+email); err != nil {
		return nil, err
	}
	p, err := s.store.PersonByEmail(ctx, email)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, s.trouble(ctx, "find person", err)
	}
	hash := p.PasswordHash
	if hash == "" {
		hash = nobodysHash // the same time for an unknown address as for a known one
	}
	match, err := s.matches(ctx, password, hash)
	if err != nil {
		return nil, err
	}
	if !match || p.PasswordHash == "" {
		about := "" // never the address: what is kept here cannot be forgotten
		if p.PasswordHash == "" {
			about = "an address that nobody signs in with"
		}
		s.audit(ctx, p, "sign-in refused", about)
		return nil,
			huma.Error401Unauthorized("That address and password do not belong together. Check both, or ask an owner of your " +
				"company for a link that sets a new password.")
	}
	if err := s.second(ctx, p, code); err != nil {
		return nil, err
	}
	// What else was tried from that host stays counted.
	for _, key := range []string{byBoth, "email:" + email} {
		if err := s.store.ForgetAttempts(ctx, key, attemptWindow); err != nil {
			return nil, s.trouble(ctx, "forget sign-ins", err)
		}
	}
	if err := s.store.ForgetAttempt(ctx, byHost); err != nil {
		return nil, s.trouble(ctx, "forget sign-ins", err)
	}
	return s.begin(ctx, p)
}

// slowed counts sign-ins to an account from wherever they come, and lets each wait the longer
// the more there were. It locks nobody out.
func (s *Server) slowed(ctx context.Context, key string) error {
	count, err := s.store.Attempt(ctx, key, attemptWindow)
	if err != nil {
		return s.trouble(ctx, "count sign-ins", err)
	}
	wait := min(time.Duration(max(0, count-attemptsAtOnce))*slowStep, slowMost)
	if wait == 0 {
		return nil
	}
	select {
	case <-time.After(wait):
		return nil
	case <-ctx.Done():
		return s.trouble(ctx, "wait before a sign-in", ctx.Err())
	}
}

// begin begins a session.
func (s *Server) begin(ctx context.Context, p store.Person) (*body[Me], error) {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, s.trouble(ctx, "begin a session", err)
	}
	s.sessions.Remove(ctx, keptKey) // the session is a new one, under a new token
	s.sessions.Remove(ctx, confirmedKey)
	s.sessions.Put(ctx, personKey, p.ID.String())
	s.sessions.Put(ctx, companyKey, p.CompanyID.String())
	agent, _ := ctx.Value(agentContext{}).(string)
	s.sessions.Put(ctx, agentKey, agent)
	s.audit(ctx, p, "signed in", agent)
	return &body[Me]{meOf(p)}, nil
}

// inTurn computes something with a hash, a few at once and some waiting: each takes 19 MB.
func inTurn[T any](ctx context.Context, s *Server, compute func() (T, error)) (T, error) {
	var none T
	if s.waiting.Add(1) > hashesWaiting {
		s.waiting.Add(-1)
		return none, huma.Error503ServiceUnavailable(
			"Too many people are signing in at the moment. Try again in a few seconds.")
	}
	defer s.waiting.Add(-1)
	select {
	case s.hashing <- struct{}{}:
		defer func() { <-s.hashing }()
	case <-ctx.Done():
		return none, huma.Error503ServiceUnavailable(
			"Too many people are signing in at the moment. Try again in a few seconds.")
	}
	out, err := compute()
	if err != nil {
		return none, s.trouble(ctx, "compute a hash", err)
	}
	return out, nil
}

func (s *Server) matches(ctx context.Context, password, hash string) (bool, error) {
	return inTurn(ctx, s, func() (bool, error) { return argon2id.ComparePasswordAndHash(password, hash) })
}

// audit keeps that something was done; that this fails fails nothing else.
func (s *Server) audit(ctx context.Context, p store.Person, what, about string) {
	if err := s.store.Audit(ctx, p.CompanyID, uuid.NullUUID{UUID: p.ID, Valid: p.ID != uuid.Nil}, what,
		about); err != nil {
		s.log.ErrorContext(ctx, "keep what was done", "error", err)
	}
}

// trouble logs what went wrong inside and tells the caller only that it did. A
// caller who left before the answer is no trouble.
func (s *Server) trouble(ctx context.Context, doing string, err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return huma.Error404NotFound("There is no such record in your company.")
	}
	if tooSlow, is := errors.AsType[slowPlanError](err); is {
		return huma.Error422UnprocessableEntity(tooSlow.Error())
	}
	if errors.Is(err, context.Canceled) && ctx.Err() != nil { // else something here gave up
		s.log.DebugContext(ctx, doing, "left by its caller", err)
	} else {
		s.log.ErrorContext(ctx, doing, "error", err)
	}
	if store.Away(err) {
		return huma.Error503ServiceUnavailable(
			"The database is not available. If you were saving, reload the page later to see whether the change was stored.")
	}
	return huma.Error500InternalServerError(
		"Something went wrong here. If this was a change, look whether it was taken, and make it again if not.")
}
