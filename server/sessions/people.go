package sessions

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"nephelon/server/api"

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

func (s *Service) peopleRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "people", Summary: "List people", Method: http.MethodGet,
		Path: "/api/people"},
		func(ctx context.Context, _ *struct{}) (*api.Body[[]Colleague], error) {
			people, err := s.store.People(ctx, api.Person(ctx).CompanyID)
			if err != nil {
				return nil, s.Fail(ctx, "list people", err)
			}
			colleagues := make([]Colleague, len(people))
			for i, p := range people {
				colleagues[i] = Colleague{p.ID, p.Name, p.Email, p.Role, p.Active, p.Revision, p.Factor != ""}
			}
			return api.Answer(colleagues), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "addPerson", Summary: "Add a person", Method: http.MethodPost,
		Path: "/api/people"},
		func(ctx context.Context, in *api.Body[struct {
			Name  string     `json:"name" minLength:"1" maxLength:"120" pattern:"^[^\\r\\n]*$"`
			Email string     `json:"email" format:"email" maxLength:"200"`
			Role  store.Role `json:"role"`
		}]) (*api.Body[NewColleague], error) {
			var err error
			c := Colleague{Name: in.Body.Name, Email: strings.ToLower(in.Body.Email), Role: in.Body.Role, Active: true,
				Revision: 1}
			c.ID, err = s.store.AddPerson(ctx, store.Person{
				CompanyID: api.Person(ctx).CompanyID, Name: c.Name, Email: c.Email, Role: c.Role, Units: measure.Metric,
			})
			if errors.Is(err, store.ErrEmailTaken) {
				return nil, huma.Error409Conflict("This address cannot be taken. Use another.")
			}
			if err != nil {
				return nil, s.Fail(ctx, "add person", err)
			}
			s.Audit(ctx, api.Person(ctx), "person added", c.ID.String()+" as "+string(c.Role))
			link, err := s.link(ctx, c.ID, c.Email)
			if err != nil {
				return nil, err
			}
			return api.Answer(NewColleague{c, link}), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "changePerson", Summary: "Change a person's role or access",
		Method: http.MethodPut, Path: "/api/people/{person}"},
		func(ctx context.Context, in *struct {
			PersonPath
			api.Based
			Body struct {
				Role   store.Role `json:"role"`
				Active bool       `json:"active"`
			}
		}) (*api.Body[api.Stands], error) {
			revision, err := s.store.ChangePerson(ctx, api.Person(ctx).CompanyID, in.Person, in.Base, in.Body.Role,
				in.Body.Active)
			if errors.Is(err, store.ErrLastOwner) {
				return nil, huma.Error409Conflict("A company needs at least one owner. Make someone else owner first.")
			}
			if errors.Is(err, store.ErrEmailTaken) {
				return nil, huma.Error409Conflict("This address cannot be used. Add the person again with another one.")
			}
			if err != nil {
				return s.Revised(ctx, "change person", 0, err)
			}
			state := map[bool]string{true: "may sign in", false: "may not sign in"}[in.Body.Active]
			s.Audit(ctx, api.Person(ctx), "rights changed", in.Person.String()+" is "+string(in.Body.Role)+", "+state)
			return s.Revised(ctx, "change person", revision, nil)
		})
}
