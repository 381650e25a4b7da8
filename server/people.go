package server

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/measure"
	"nephelon/store"
)

// Colleague is a person of the company as others see them.
type Colleague struct {
	ID     uuid.UUID  `json:"id" format:"uuid"`
	Name   string     `json:"name"`
	Email  string     `json:"email"`
	Role   store.Role `json:"role"`
	Active bool       `json:"active"`

	Revision int64 `json:"revision"`
	Factor   bool  `json:"factor" doc:"Whether they sign in with a second factor, too"`
}

// NewColleague is somebody who was added, with the link by which they set a password.
type NewColleague struct {
	Colleague
	Link PasswordLink `json:"link"`
}

func (s *Server) peopleRoutes() {
	register(s.api, huma.Operation{OperationID: "people", Method: http.MethodGet, Path: "/api/people"},
		func(ctx context.Context, _ *struct{}) (*body[[]Colleague], error) {
			people, err := s.store.People(ctx, person(ctx).CompanyID)
			if err != nil {
				return nil, s.trouble(ctx, "list people", err)
			}
			colleagues := make([]Colleague, len(people))
			for i, p := range people {
				colleagues[i] = Colleague{p.ID, p.Name, p.Email, p.Role, p.Active, p.Revision, p.Factor != ""}
			}
			return &body[[]Colleague]{colleagues}, nil
		})
	register(s.api, huma.Operation{OperationID: "addPerson", Method: http.MethodPost, Path: "/api/people"},
		func(ctx context.Context, in *body[struct {
			Name  string     `json:"name" minLength:"1" maxLength:"120" pattern:"^[^\\r\\n]*$"`
			Email string     `json:"email" format:"email" maxLength:"200"`
			Role  store.Role `json:"role"`
		}]) (*body[NewColleague], error) {
			var err error
			c := Colleague{Name: in.Body.Name, Email: strings.ToLower(in.Body.Email), Role: in.Body.Role, Active: true,
				Revision: 1}
			c.ID, err = s.store.AddPerson(ctx, store.Person{
				CompanyID: person(ctx).CompanyID, Name: c.Name, Email: c.Email, Role: c.Role, Units: measure.Metric,
			})
			if errors.Is(err, store.ErrEmailTaken) {
				return nil, huma.Error409Conflict("This address cannot be taken. Use another.")
			}
			if err != nil {
				return nil, s.trouble(ctx, "add person", err)
			}
			s.audit(ctx, person(ctx), "person added", c.ID.String()+" as "+string(c.Role))
			link, err := s.link(ctx, c.ID, c.Email)
			if err != nil {
				return nil, err
			}
			return &body[NewColleague]{NewColleague{c, link}}, nil
		})
	register(s.api, huma.Operation{OperationID: "changePerson", Method: http.MethodPut, Path: "/api/people/{person}"},
		func(ctx context.Context, in *struct {
			PersonPath
			Based
			Body struct {
				Role   store.Role `json:"role"`
				Active bool       `json:"active"`
			}
		}) (*body[Stands], error) {
			revision, err := s.store.ChangePerson(ctx, person(ctx).CompanyID, in.Person, in.Base, in.Body.Role, in.Body.Active)
			if errors.Is(err, store.ErrLastOwner) {
				return nil, huma.Error409Conflict("A company needs at least one owner. Make someone else owner first.")
			}
			if errors.Is(err, store.ErrEmailTaken) {
				return nil, huma.Error409Conflict("Their address cannot be taken. Add them anew under another one.")
			}
			if err != nil {
				return s.revised(ctx, "change person", 0, err)
			}
			state := map[bool]string{true: "may sign in", false: "may not sign in"}[in.Body.Active]
			s.audit(ctx, person(ctx), "rights changed", in.Person.String()+" is "+string(in.Body.Role)+", "+state)
			return s.revised(ctx, "change person", revision, nil)
		})
}
