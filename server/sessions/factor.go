package sessions

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"errors"
	"net/http"
	"strings"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/pquerna/otp/totp"

	"nephelon/store"
)

// FactorBegun is a second factor that is being set up.
type FactorBegun struct {
	Secret  string `json:"secret" doc:"Base32, for typing"`
	Address string `json:"address" doc:"The same as an otpauth address, for a code to be scanned"`
}

// FactorSet holds what to keep once a second factor is set up.
type FactorSet struct {
	Recovery []string `json:"recovery" doc:"Each signs in once, in place of a code; shown only now"`
}

// FactorState holds how a person's second factor stands.
type FactorState struct {
	Set      bool `json:"set"`
	Wanted   bool `json:"wanted" doc:"Whether the company requires it of everybody"`
	Recovery int  `json:"recovery" doc:"Codes that are left"`
}

const (
	factorKey     = "factor" // of a secret that is being set up, in the session
	stepSeconds   = 30       // RFC 6238
	stepsAside    = 1        // that a clock may be wrong by
	recoveryCodes = 10
	recoveryPart  = 4
)

// stepOf finds the step of time that a code is of; false where it is of none near now.
func stepOf(secret, code string, now time.Time) (int64, bool) {
	for aside := -stepsAside; aside <= stepsAside; aside++ {
		at := now.Add(time.Duration(aside*stepSeconds) * time.Second)
		want, err := totp.GenerateCode(secret, at)
		if err == nil && subtle.ConstantTimeCompare([]byte(want), []byte(code)) == 1 {
			return at.Unix() / stepSeconds, true
		}
	}
	return 0, false
}

// second checks the second factor of someone whose password was right.
func (s *Service) second(ctx context.Context, p store.Person, code string) error {
	if p.Factor == "" {
		return nil
	}
	refuse := func(text string) error {
		return huma.Error401Unauthorized(text, &huma.ErrorDetail{Location: "body.code", Message: text})
	}
	code = strings.ToUpper(strings.NewReplacer(" ", "", "-", "").Replace(code))
	if code == "" {
		return refuse("Enter the code that your authenticator shows, or a recovery code.")
	}
	err := store.ErrNotFound
	if step, is := stepOf(p.Factor, code, time.Now()); is {
		err = s.store.TakeStep(ctx, p, step)
	} else if len(code) > recoveryPart*2 {
		if err = s.store.TakeRecoveryCode(ctx, p, code); err == nil {
			s.Audit(ctx, p, "recovery code used", "")
		}
	}
	if errors.Is(err, store.ErrNotFound) {
		s.Audit(ctx, p, "second factor refused", "")
		return refuse("This code is not valid, or was used already. Wait for the next one; if none works, check the clock " +
			"of your device, or use a recovery code.")
	}
	if err != nil {
		return s.Fail(ctx, "check a second factor", err)
	}
	return nil
}

// LacksFactor reports whether somebody has to set up a second factor before anything else.
func LacksFactor(p store.Person, operation string) bool {
	if !p.FactorWanted || p.Factor != "" {
		return false
	}
	switch operation {
	case "me", "confirmPassword", "setUnits", "setPassword", "sessions", "endSessions", "factor", "beginFactor",
		"setFactor":
		return false
	}
	return true
}

func (s *Service) factorRoutes() {
	const mine = "/api/me/factor"
	api.Register(s.API, huma.Operation{OperationID: "factor", Summary: "Get the state of the second factor",
		Method: http.MethodGet, Path: mine},
		func(ctx context.Context, _ *struct{}) (*api.Body[FactorState], error) {
			p := api.Person(ctx)
			left, err := s.store.RecoveryLeft(ctx, p)
			if err != nil {
				return nil, s.Fail(ctx, "look at a second factor", err)
			}
			return api.Answer(FactorState{p.Factor != "", p.FactorWanted, left}), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "beginFactor", Summary: "Begin to set up a second factor",
		Method: http.MethodPost, Path: mine,
		Description: "Makes a secret; it counts once a code of it is given"},
		func(ctx context.Context, in *api.Body[struct {
			Password string `json:"password" minLength:"1" maxLength:"200"`
		}]) (*api.Body[FactorBegun], error) {
			p := api.Person(ctx)
			if err := s.own(ctx, p, "body.password", in.Body.Password); err != nil {
				return nil, err
			}
			key, err := totp.Generate(totp.GenerateOpts{Issuer: "Nephelon", AccountName: p.Email})
			if err != nil {
				return nil, s.Fail(ctx, "make a second factor", err)
			}
			s.sessions.Put(ctx, factorKey, key.Secret())
			return api.Answer(FactorBegun{key.Secret(), key.URL()}), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "setFactor", Summary: "Set up the second factor",
		Method: http.MethodPut, Path: mine}, s.setFactor)
	api.Register(s.API, huma.Operation{OperationID: "removeFactor", Summary: "Remove the second factor",
		Method: http.MethodPost, Path: mine + "/removed"},
		func(ctx context.Context, in *api.Body[struct {
			Password string `json:"password" minLength:"1" maxLength:"200"`
		}]) (*struct{}, error) {
			p := api.Person(ctx)
			if p.FactorWanted {
				return nil,
					huma.Error409Conflict("Your company requires a second factor of everybody. Set up another one in its place " +
						"instead.")
			}
			if err := s.own(ctx, p, "body.password", in.Body.Password); err != nil {
				return nil, err
			}
			if err := s.store.SetFactor(ctx, p.CompanyID, p.ID, "", 0, nil); err != nil {
				return nil, s.Fail(ctx, "take a second factor away", err)
			}
			s.Audit(ctx, p, "second factor removed", "")
			s.notify(ctx, p, "your second factor was removed")
			return nil, nil
		})
	s.factorOfOthersRoutes()
}

// factorOfOthersRoutes are those by which an owner decides about the second factors of others.
func (s *Service) factorOfOthersRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "dropFactor", Summary: "Remove a person's second factor",
		Method:      http.MethodPut,
		Path:        "/api/people/{person}/factor-removed",
		Description: "Removes the second factor of somebody whose device is lost, and ends their sessions"},
		func(ctx context.Context, in *PersonPath) (*struct{}, error) {
			p := api.Person(ctx)
			if in.Person == p.ID {
				return nil,
					huma.Error409Conflict("This is your own account. Remove your second factor under your name, with your password.")
			}
			if err := s.store.SetFactor(ctx, p.CompanyID, in.Person, "", 0, nil); err != nil {
				return nil, s.Fail(ctx, "take a second factor away", err)
			}
			if err := s.store.EndSessions(ctx, p.CompanyID, in.Person, ""); err != nil {
				return nil, s.Fail(ctx, "end sessions", err)
			}
			s.Audit(ctx, p, "second factor removed", in.Person.String())
			if theirs, err := s.store.Colleague(ctx, p.CompanyID, in.Person); err == nil {
				s.notify(ctx, theirs, "your second factor was removed by an owner")
			}
			return nil, nil
		})
	api.Register(s.API, huma.Operation{OperationID: "wantFactor", Summary: "Require a second factor of everybody",
		Method: http.MethodPut, Path: "/api/company/factor",
		Description: "Whether everybody has to have a second factor"},
		func(ctx context.Context, in *api.Body[struct {
			Wanted bool `json:"wanted"`
		}]) (*struct{}, error) {
			p := api.Person(ctx)
			if err := s.Confirmed(ctx); err != nil {
				return nil, err
			}
			if in.Body.Wanted && p.Factor == "" {
				return nil, huma.Error409Conflict("Set up your own second factor first, under your name.")
			}
			if err := s.store.WantFactor(ctx, p.CompanyID, in.Body.Wanted); err != nil {
				return nil, s.Fail(ctx, "want a second factor", err)
			}
			s.Audit(ctx, p, map[bool]string{true: "second factor wanted of everybody",
				false: "second factor left to everybody"}[in.Body.Wanted], "")
			return nil, nil
		})
}

// own checks a person's own password once more, before what matters. It is counted as
// signing in is.
func (s *Service) own(ctx context.Context, p store.Person, field, password string) error {
	count, err := s.store.Attempt(ctx, "own:"+p.ID.String(), attemptWindow)
	if err != nil {
		return s.Fail(ctx, "count attempts", err)
	}
	if count > attemptsPerEmail {
		return huma.Error429TooManyRequests("Too many attempts. Wait a quarter of an hour and try again.")
	}
	match, err := s.matches(ctx, password, p.PasswordHash)
	if err != nil {
		return err
	}
	if !match {
		return api.RefusedField(field, "This is not your current password.")
	}
	return nil
}

func (s *Service) setFactor(ctx context.Context, in *api.Body[struct {
	Code string `json:"code" minLength:"6" maxLength:"12"`
}]) (*api.Body[FactorSet], error) {
	p, secret := api.Person(ctx), s.sessions.GetString(ctx, factorKey)
	step, is := stepOf(secret, strings.ReplaceAll(in.Body.Code, " ", ""), time.Now())
	if secret == "" || !is {
		return nil,
			api.RefusedField("body.code", "This code does not match the secret shown. Wait for the next one, and check the "+
				"clock of your device.")
	}
	set := FactorSet{}
	hashed := make([]string, recoveryCodes)
	for i := range hashed {
		code := rand.Text()[:recoveryPart*4]
		hashed[i] = code
		set.Recovery = append(set.Recovery, strings.Join([]string{code[:4], code[4:8], code[8:12], code[12:]}, "-"))
	}
	if err := s.store.SetFactor(ctx, p.CompanyID, p.ID, secret, step, hashed); err != nil {
		return nil, s.Fail(ctx, "set a second factor", err)
	}
	s.sessions.Remove(ctx, factorKey)
	if err := s.store.EndSessions(ctx, p.CompanyID, p.ID, s.sessions.Token(ctx)); err != nil {
		return nil, s.Fail(ctx, "end sessions", err)
	}
	s.Audit(ctx, p, "second factor set", "")
	s.notify(ctx, p, "a second factor was set")
	return api.Answer(set), nil
}
