// Package sessions offers people, their accounts and their sessions: signing in with one or
// two factors, passwords and the links that set them, who may sign in, and the audit log.
package sessions

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"sync/atomic"
	"time"

	"nephelon/server/api"

	"github.com/alexedwards/argon2id"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/measure"
	"nephelon/store"
)

// Options holds how sessions are kept and messages sent.
type Options struct {
	Secure bool   // cookies only over TLS
	Mail   string // address of a mail server, see newPostbox; none when empty
	Origin string // where people reach this, https://…, for links in messages
}

// Service answers what is asked about people and sessions.
type Service struct {
	api.Base
	store    Store
	sessions *scs.SessionManager
	post     *postbox // none where no mail server is named
	origin   string
	hashing  chan struct{} // holds whoever computes a hash
	waiting  atomic.Int32  // for it
}

const (
	sessionDays = 14
	idleDays    = 3
)

// New returns the service, or an error where the address of the mail server cannot be read.
func New(base api.Base, in Store, o Options) (*Service, error) {
	s := &Service{Base: base, store: in, sessions: scs.New(), origin: o.Origin, hashing: make(chan struct{}, hashesAtOnce)}
	var err error
	if o.Mail != "" {
		if s.post, err = newPostbox(o.Mail); err != nil {
			return nil, err
		}
	}
	s.sessions.Lifetime = sessionDays * 24 * time.Hour
	s.sessions.IdleTimeout = idleDays * 24 * time.Hour
	s.sessions.Codec = sessionCodec{}
	s.sessions.ErrorFunc = s.unavailable
	s.sessions.Cookie.Name = "nephelon"
	if o.Secure {
		s.sessions.Cookie.Name = "__Host-nephelon"
	}
	s.sessions.Cookie.HttpOnly = true
	s.sessions.Cookie.SameSite = http.SameSiteStrictMode
	s.sessions.Cookie.Secure = o.Secure
	if s.sessions.Store, err = newSessionStore(in); err != nil {
		return nil, err
	}
	return s, nil
}

// Routes adds the operations.
func (s *Service) Routes() {
	s.sessionRoutes()
	s.peopleRoutes()
	s.accountRoutes()
	s.factorRoutes()
}

// foundKey is the key under which a context holds the person who was read with the session.
type foundKey struct{}

// Loaded returns a handler that loads the session of a request before next and keeps it after.
func (s *Service) Loaded(next http.Handler) http.Handler {
	load := s.sessions.LoadAndSave(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		load.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), foundKey{}, new(store.Person))))
	})
}

// Token returns the secret of the session of a request.
func (s *Service) Token(ctx context.Context) string { return s.sessions.Token(ctx) }

// SignedIn reports whether a request comes with the session of somebody who is signed in.
func (s *Service) SignedIn(ctx context.Context) bool {
	return s.sessions.GetString(ctx, personKey) != ""
}

// Who returns the person whose session a request comes with: ErrSignedOut where nobody is signed
// in, store.ErrNotFound where the account is closed.
func (s *Service) Who(ctx context.Context) (store.Person, error) {
	id, err := uuid.Parse(s.sessions.GetString(ctx, personKey))
	company, also := uuid.Parse(s.sessions.GetString(ctx, companyKey))
	if err != nil || also != nil {
		return store.Person{}, ErrSignedOut
	}
	if p, is := ctx.Value(foundKey{}).(*store.Person); is && p.CompanyID == company && p.ID == id {
		return *p, nil
	}
	return s.store.Person(ctx, company, id)
}

// ErrSignedOut is returned where a request comes with no session of anybody.
var ErrSignedOut = errors.New("nobody is signed in")

// longestAgent limits the bytes of a User-Agent that are kept.
const longestAgent = 200

// WithClient returns a context for a request that comes from a host with a browser that names
// itself.
func WithClient(ctx context.Context, host, agent string) context.Context {
	return context.WithValue(context.WithValue(ctx, hostKey{}, host), agentContext{},
		agent[:min(len(agent), longestAgent)])
}

// unavailable answers a request whose session cannot be looked up.
func (s *Service) unavailable(w http.ResponseWriter, r *http.Request, err error) {
	s.Log.ErrorContext(r.Context(), "look up a session", "error", err)
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(http.StatusServiceUnavailable)
	problem := huma.ErrorModel{Status: http.StatusServiceUnavailable,
		Title:  http.StatusText(http.StatusServiceUnavailable),
		Detail: "The database is not available. Your entries are kept on this device; try again."}
	_ = json.NewEncoder(w).Encode(problem) // the one who asked is gone when this fails
}

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
	// nobodysHash is the hash of no password that anybody has.
	nobodysHash = "$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$0000000000000000000000000000000000000000000"
)

type hostKey struct{}

type agentContext struct{}

// Me is the person signed in.
type Me struct {
	ID      uuid.UUID      `json:"id" format:"uuid"`
	Name    string         `json:"name"`
	Email   string         `json:"email"`
	Company string         `json:"company"`
	Role    store.Role     `json:"role"`
	Units   measure.System `json:"units"`
	Clock   measure.Clock  `json:"clock" doc:"How the person reads times, in hours on the clock's face"`

	FactorDue bool `json:"factorDue" doc:"The company wants a second factor, and this person has none yet"`
}

func meOf(p store.Person) Me {
	return Me{p.ID, p.Name, p.Email, p.Company, p.Role, p.Units.Units(), p.Units.Clock(),
		p.FactorWanted && p.Factor == ""}
}

// HashPassword makes the argon2id hash that is stored.
func HashPassword(password string) (string, error) {
	hash, err := argon2id.CreateHash(password, &argon2id.Params{Memory: 19 << 10, Iterations: 2, Parallelism: 1,
		SaltLength: 16, KeyLength: 32})
	if err != nil {
		return "", fmt.Errorf("hash the password: %w", err)
	}
	return hash, nil
}

func (s *Service) sessionRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "signIn", Summary: "Sign in", Method: http.MethodPost,
		Path: "/api/session"},
		func(ctx context.Context, in *api.Body[struct {
			Email    string `json:"email" minLength:"3" maxLength:"200"`
			Password string `json:"password" minLength:"1" maxLength:"200"`
			Code     string `json:"code,omitempty" maxLength:"40" doc:"Code of the second factor, where there is one"`
		}]) (*api.Body[Me], error) {
			return s.signIn(ctx, strings.ToLower(strings.TrimSpace(in.Body.Email)), in.Body.Password, in.Body.Code)
		})
	api.Register(s.API, huma.Operation{OperationID: "signOut", Summary: "Sign out", Method: http.MethodDelete,
		Path: "/api/session"},
		func(ctx context.Context, _ *struct{}) (*struct{}, error) {
			if err := s.sessions.Destroy(ctx); err != nil {
				return nil, s.Fail(ctx, "sign out", err)
			}
			return nil, nil
		})
	api.Register(s.API, huma.Operation{OperationID: "me", Summary: "Get the person signed in", Method: http.MethodGet,
		Path: "/api/me"},
		func(ctx context.Context, _ *struct{}) (*api.Body[Me], error) {
			return api.Answer(meOf(api.Person(ctx))), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "setUnits", Summary: "Set units and clock", Method: http.MethodPut,
		Path: "/api/me/units", Description: "Whichever is left out stays"},
		func(ctx context.Context, in *api.Body[struct {
			Units measure.System `json:"units,omitempty"`
			Clock measure.Clock  `json:"clock,omitempty"`
		}]) (*api.Body[Me], error) {
			p := api.Person(ctx)
			p.Units = cmp.Or(in.Body.Units, p.Units.Units()).With(cmp.Or(in.Body.Clock, p.Units.Clock()))
			if err := s.store.SetUnits(ctx, p.CompanyID, p.ID, p.Units); err != nil {
				return nil, s.Fail(ctx, "set units", err)
			}
			return api.Answer(meOf(p)), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "confirmPassword", Summary: "Confirm the password",
		Method:      http.MethodPost,
		Path:        "/api/me/confirmation",
		Description: "Confirms one's own password, for the operations that require it, for ten minutes"},
		func(ctx context.Context, in *api.Body[struct {
			Password string `json:"password" minLength:"1" maxLength:"200"`
		}]) (*struct{}, error) {
			if err := s.own(ctx, api.Person(ctx), "body.password", in.Body.Password); err != nil {
				return nil, err
			}
			s.sessions.Put(ctx, confirmedKey, time.Now().UTC().Format(time.RFC3339))
			return nil, nil
		})
}

// confirmedFor is the time for which a password given once more counts.
const confirmedFor = 10 * time.Minute

// Confirmed refuses what an open session alone must not do, unless the password was given
// once more a moment ago.
func (s *Service) Confirmed(ctx context.Context) error {
	at, err := time.Parse(time.RFC3339, s.sessions.GetString(ctx, confirmedKey))
	if err != nil || time.Since(at) > confirmedFor {
		return huma.Error403Forbidden("Enter your password once more, then do this again within ten minutes.")
	}
	return nil
}

func (s *Service) signIn(ctx context.Context, email, password, code string) (*api.Body[Me], error) {
	host, _ := ctx.Value(hostKey{}).(string)
	// It is counted before it is checked, so that many at once are not all checked. Who guesses
	// from elsewhere locks nobody out who has the right password.
	byBoth, byHost := "email:"+email+" host:"+host, "host:"+host
	for key, most := range map[string]int{byBoth: attemptsPerEmail, byHost: attemptsPerHost} {
		count, err := s.store.Attempt(ctx, key, attemptWindow)
		if err != nil {
			return nil, s.Fail(ctx, "count sign-ins", err)
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
		return nil, s.Fail(ctx, "find person", err)
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
		s.Audit(ctx, p, "sign-in refused", about)
		return nil,
			huma.Error401Unauthorized("The address or the password is wrong. Check both, or ask an owner of your " +
				"company for a link that sets a new password.")
	}
	if err := s.second(ctx, p, code); err != nil {
		return nil, err
	}
	// What else was tried from that host stays counted.
	for _, key := range []string{byBoth, "email:" + email} {
		if err := s.store.ForgetAttempts(ctx, key, attemptWindow); err != nil {
			return nil, s.Fail(ctx, "forget sign-ins", err)
		}
	}
	if err := s.store.ForgetAttempt(ctx, byHost); err != nil {
		return nil, s.Fail(ctx, "forget sign-ins", err)
	}
	return s.begin(ctx, p)
}

// slowed counts sign-ins to an account from wherever they come, and lets each wait the longer
// the more there were. It locks nobody out.
func (s *Service) slowed(ctx context.Context, key string) error {
	count, err := s.store.Attempt(ctx, key, attemptWindow)
	if err != nil {
		return s.Fail(ctx, "count sign-ins", err)
	}
	wait := min(time.Duration(max(0, count-attemptsAtOnce))*slowStep, slowMost)
	if wait == 0 {
		return nil
	}
	select {
	case <-time.After(wait):
		return nil
	case <-ctx.Done():
		return s.Fail(ctx, "wait before a sign-in", ctx.Err())
	}
}

// begin begins a session.
func (s *Service) begin(ctx context.Context, p store.Person) (*api.Body[Me], error) {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, s.Fail(ctx, "begin a session", err)
	}
	s.sessions.Remove(ctx, keptKey) // the session is a new one, under a new token
	s.sessions.Remove(ctx, confirmedKey)
	s.sessions.Put(ctx, personKey, p.ID.String())
	s.sessions.Put(ctx, companyKey, p.CompanyID.String())
	agent, _ := ctx.Value(agentContext{}).(string)
	s.sessions.Put(ctx, agentKey, agent)
	s.Audit(ctx, p, "signed in", agent)
	return api.Answer(meOf(p)), nil
}

// inTurn computes something with a hash, a few at once and some waiting: each takes 19 MB.
func inTurn[T any](ctx context.Context, s *Service, compute func() (T, error)) (T, error) {
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
		return none, s.Fail(ctx, "compute a hash", err)
	}
	return out, nil
}

func (s *Service) matches(ctx context.Context, password, hash string) (bool, error) {
	return inTurn(ctx, s, func() (bool, error) { return argon2id.ComparePasswordAndHash(password, hash) })
}
