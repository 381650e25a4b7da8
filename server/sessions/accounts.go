package sessions

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/csv"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/trustelem/zxcvbn"

	"nephelon/exchange"
	"nephelon/store"
)

// PasswordLink is a link by which somebody sets a password, once.
type PasswordLink struct {
	Path  string    `json:"path" doc:"Path on this server; the secret is behind the # and is never sent to the server"`
	Until time.Time `json:"until"`
	Sent  bool      `json:"sent" doc:"Whether it went to their address as a message, too"`
}

// SessionLine is somewhere a person is signed in.
type SessionLine struct {
	Agent  string    `json:"agent" doc:"The browser, as it calls itself"`
	SeenAt time.Time `json:"seenAt"`
	Until  time.Time `json:"until"`
}

// AuditLine is something that was done with accounts, rights or data.
type AuditLine struct {
	At    time.Time `json:"at"`
	Name  string    `json:"name" doc:"Name of who did it; empty where nobody was signed in"`
	What  string    `json:"what"`
	About string    `json:"about"`
}

const (
	linkLasts = 3 * 24 * time.Hour
	// leastScore is the least strength of a password, of 0 to 4 by zxcvbn (Wheeler 2016), whose
	// lists hold the common ones.
	leastScore = 3
	// Of a password no more is judged: the time grows with the square of its length.
	judgedBytes = 72
)

// notify returns a person of a change to their account, where there is a mail server. That a
// message does not leave fails nothing else.
func (s *Service) notify(ctx context.Context, p store.Person, what string) {
	if s.post == nil {
		return
	}
	text := fmt.Sprintf("At %s %s, for Nephelon at %s.\n\nIf that was not you, tell an owner of %s at once.\n",
		time.Now().UTC().Format("2 January 15:04 MST"), what, s.origin, p.Company)
	if err := s.post.send(ctx, p.Email, "Your account of Nephelon was changed", text); err != nil {
		s.Log.WarnContext(ctx, "tell of a change", "error", err)
	}
}

// Weak returns why a password is refused; empty where it is not.
func Weak(password string, own ...string) string {
	if len(password) > judgedBytes { // what makes it hard to guess stands in its beginning as well
		password = strings.ToValidUTF8(password[:judgedBytes], "")
	}
	if zxcvbn.PasswordStrength(password, own).Score >= leastScore {
		return ""
	}
	return "This password is easy to guess. Take four or five words that do not belong together, " +
		"or let a password manager make one."
}

func (s *Service) accountRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "setPassword", Summary: "Change the password", Method: http.MethodPut,
		Path:        "/api/me/password",
		Description: "Ends all other sessions"}, s.setPassword)
	api.Register(s.API, huma.Operation{OperationID: "sessions", Summary: "List sessions", Method: http.MethodGet,
		Path: "/api/me/sessions"},
		func(ctx context.Context, _ *struct{}) (*api.Body[[]SessionLine], error) {
			all, err := s.store.Sessions(ctx, api.Person(ctx).CompanyID, api.Person(ctx).ID)
			if err != nil {
				return nil, s.Fail(ctx, "list sessions", err)
			}
			lines := make([]SessionLine, len(all))
			for i, one := range all {
				lines[i] = SessionLine(one)
			}
			return api.Answer(lines), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "endSessions", Summary: "Sign out everywhere else",
		Method: http.MethodDelete, Path: "/api/me/sessions",
		Description: "Signs out everywhere but here"},
		func(ctx context.Context, _ *struct{}) (*struct{}, error) {
			if err := s.store.EndSessions(ctx, api.Person(ctx).CompanyID, api.Person(ctx).ID,
				s.sessions.Token(ctx)); err != nil {
				return nil, s.Fail(ctx, "end sessions", err)
			}
			s.Audit(ctx, api.Person(ctx), "signed out everywhere else", "")
			return nil, nil
		})
	api.Register(s.API, huma.Operation{OperationID: "makePasswordLink", Summary: "Create a password link",
		Method:      http.MethodPost,
		Path:        "/api/people/{person}/password-link",
		Description: "A link by which they set a password, once, within three days; earlier ones end"}, s.makeLink)
	api.Register(s.API, huma.Operation{OperationID: "usePasswordLink", Summary: "Set a password by link",
		Method: http.MethodPost,
		Path:   "/api/password-link"}, s.useLink)
	api.Register(s.API, huma.Operation{OperationID: "forgetPerson", Summary: "Erase a person's name and address",
		Method:      http.MethodPut,
		Path:        "/api/people/{person}/forgotten",
		Description: "Removes name and address of someone who left; their entries stay under a role and a number"},
		func(ctx context.Context, in *PersonPath) (*struct{}, error) {
			p := api.Person(ctx)
			if err := s.store.ForgetPerson(ctx, p.CompanyID, in.Person); err != nil {
				if errors.Is(err, store.ErrNotFound) {
					return nil,
						huma.Error404NotFound("There is no such person who has left your company. Who can still sign in is " +
							"stopped first.")
				}
				return nil, s.Fail(ctx, "forget a person", err)
			}
			s.Audit(ctx, p, "personal data removed", in.Person.String())
			return nil, nil
		})
	api.Register(s.API, huma.Operation{OperationID: "audit", Summary: "List the audit log", Method: http.MethodGet,
		Path:        "/api/audit",
		Description: "What was done with accounts, rights and data, newest first, at most 1000 lines"},
		func(ctx context.Context, _ *struct{}) (*api.Body[[]AuditLine], error) {
			lines, err := s.audited(ctx)
			return api.Answer(lines), err
		})
	api.Register(s.API, huma.Operation{OperationID: "auditFile", Summary: "Export the audit log as CSV",
		Method: http.MethodGet, Path: "/api/audit-file",
		Description: "The same as CSV"}, s.auditFile)
}

// PersonPath is the person an operation is about.
type PersonPath struct {
	Person uuid.UUID `path:"person"`
}

func (s *Service) setPassword(ctx context.Context, in *api.Body[struct {
	Old string `json:"old" minLength:"1" maxLength:"200"`
	New string `json:"new" minLength:"12" maxLength:"200"`
}]) (*struct{}, error) {
	p := api.Person(ctx)
	if err := s.own(ctx, p, "body.old", in.Body.Old); err != nil {
		return nil, err
	}
	if text := Weak(in.Body.New, p.Name, p.Email, p.Company); text != "" {
		return nil, api.RefusedField("body.new", text)
	}
	hash, err := inTurn(ctx, s, func() (string, error) { return HashPassword(in.Body.New) })
	if err != nil {
		return nil, err
	}
	if err := s.store.SetPassword(ctx, p.CompanyID, p.ID, hash, s.sessions.Token(ctx)); err != nil {
		return nil, s.Fail(ctx, "set a password", err)
	}
	s.Audit(ctx, p, "password changed", "")
	s.notify(ctx, p, "your password was changed")
	return nil, nil
}

func (s *Service) makeLink(ctx context.Context, in *PersonPath) (*api.Body[PasswordLink], error) {
	if in.Person == api.Person(ctx).ID {
		return nil,
			huma.Error409Conflict("This is your own account. Change your password under your name, with the one that you " +
				"have now.")
	}
	p, err := s.store.Colleague(ctx, api.Person(ctx).CompanyID, in.Person)
	if err != nil {
		return nil, s.Fail(ctx, "find a person", err)
	}
	link, err := s.link(ctx, in.Person, p.Email)
	if err != nil {
		return nil, err
	}
	return api.Answer(link), nil
}

// link makes a link for a person, and sends it where there is a mail server.
func (s *Service) link(ctx context.Context, to uuid.UUID, address string) (PasswordLink, error) {
	p, secret, until := api.Person(ctx), rand.Text(), time.Now().Add(linkLasts).UTC().Truncate(time.Second)
	if err := s.store.AddPasswordLink(ctx, p.CompanyID, to, p.ID, secret, until); err != nil {
		return PasswordLink{}, s.Fail(ctx, "make a link", err)
	}
	s.Audit(ctx, p, "password link made", to.String())
	link := PasswordLink{Path: "/set-password#" + secret, Until: until}
	if s.post != nil {
		err := s.post.send(ctx, address, "Set your password for Nephelon",
			fmt.Sprintf("%s of %s made this link for you. It sets your password, once, until %s:\n\n%s%s\n\nIf you did not "+
				"expect it, you need not do anything.\n",
				p.Name, p.Company, until.Format("2 January 15:04 MST"), s.origin, link.Path))
		if link.Sent = err == nil; err != nil {
			s.Log.WarnContext(ctx, "send a link", "error", err)
		}
	}
	return link, nil
}

func (s *Service) useLink(ctx context.Context, in *api.Body[struct {
	Secret   string `json:"secret" minLength:"10" maxLength:"100"`
	Password string `json:"password" minLength:"12" maxLength:"200"`
}]) (*struct{}, error) {
	host, _ := ctx.Value(hostKey{}).(string)
	count, err := s.store.Attempt(ctx, "link host:"+host, attemptWindow)
	if err != nil {
		return nil, s.Fail(ctx, "count attempts", err)
	}
	if count > attemptsPerHost {
		return nil, huma.Error429TooManyRequests("Too many attempts from here. Wait a quarter of an hour and try again.")
	}
	// Looked for first: whoever has no link has nothing judged or hashed.
	if err := s.store.PasswordLinkHolds(ctx, in.Body.Secret); errors.Is(err, store.ErrNotFound) {
		return nil, huma.Error404NotFound(usedLink)
	} else if err != nil {
		return nil, s.Fail(ctx, "look for a link", err)
	}
	if text := Weak(in.Body.Password); text != "" {
		return nil, api.RefusedField("body.password", text)
	}
	hash, err := inTurn(ctx, s, func() (string, error) { return HashPassword(in.Body.Password) })
	if err != nil {
		return nil, err
	}
	p, err := s.store.UsePasswordLink(ctx, in.Body.Secret, hash)
	if errors.Is(err, store.ErrNotFound) {
		return nil, huma.Error404NotFound(usedLink)
	}
	if err != nil {
		return nil, s.Fail(ctx, "use a link", err)
	}
	s.Audit(ctx, p, "password set by link", "")
	s.notify(ctx, p, "your password was set by a link")
	return nil, nil
}

const usedLink = "This link was used, or has ended. Ask an owner of your company for a new one."

func (s *Service) audited(ctx context.Context) ([]AuditLine, error) {
	all, err := s.store.AuditLog(ctx, api.Person(ctx).CompanyID)
	if err != nil {
		return nil, s.Fail(ctx, "read what was done", err)
	}
	lines := make([]AuditLine, len(all))
	for i, a := range all {
		lines[i] = AuditLine(a)
	}
	return lines, nil
}

func (s *Service) auditFile(ctx context.Context, _ *struct{}) (*api.Download, error) {
	lines, err := s.audited(ctx)
	if err != nil {
		return nil, err
	}
	var text bytes.Buffer
	rows := [][]string{{"At", "Who", "What", "About"}}
	for _, l := range lines {
		rows = append(rows, []string{l.At.Format(time.RFC3339), exchange.Unformed(l.Name), exchange.Unformed(l.What),
			exchange.Unformed(l.About)})
	}
	if err := csv.NewWriter(&text).WriteAll(rows); err != nil {
		return nil, s.Fail(ctx, "write what was done", fmt.Errorf("write rows: %w", err))
	}
	s.Audit(ctx, api.Person(ctx), "audit log exported", "")
	return api.Attached("text/csv; charset=utf-8", "audit.csv", text.Bytes()), nil
}
