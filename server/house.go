package server

import (
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/store"
)

// HouseState is how the company works, with what it chose from.
type HouseState struct {
	House   job.House         `json:"house"`
	Schools []school.Question `json:"schools"`
}

// SystemLine is a build-up with the sheets it names.
type SystemLine struct {
	System   buildup.System     `json:"system"`
	Products []material.Product `json:"products"`
	Media    []material.Medium  `json:"media"`
	Missing  []string           `json:"missing" doc:"Ids that are no longer on the shelf"`
}

// StockGroup is all containers of one product or medium.
type StockGroup struct {
	Sheet    string         `json:"sheet"`
	Hardener string         `json:"hardener,omitempty"`
	Name     string         `json:"name"`
	Color    string         `json:"color,omitempty"`
	Mix      measure.Volume `json:"mix" doc:"m³ of mix that what is free and in date makes"`
	Lone     []string       `json:"lone" doc:"What stands without its partner"`
	Lines    []StockLine    `json:"lines" doc:"First-expiring first"`
}

// StockLine is one container.
type StockLine struct {
	Container  kit.Container       `json:"container"`
	Expired    bool                `json:"expired"`
	ReservedBy []store.Reservation `json:"reservedBy"`
}

func (s *Server) houseRoutes() {
	huma.Register(s.api, huma.Operation{OperationID: "house", Method: http.MethodGet, Path: "/api/house"},
		func(ctx context.Context, _ *struct{}) (*body[HouseState], error) {
			house, err := s.store.House(ctx, person(ctx).CompanyID)
			if err != nil {
				return nil, s.trouble("read house methods", err)
			}
			if person(ctx).Role == store.Hand {
				house.HourCost, house.OvertimeMore = nil, nil
			}
			return &body[HouseState]{HouseState{house, school.Questions()}}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "saveHouse", Method: http.MethodPut, Path: "/api/house"},
		func(ctx context.Context, in *body[job.House]) (*struct{}, error) {
			if path, text := in.Body.Fault(); text != "" {
				return nil, huma.Error422UnprocessableEntity(text, &huma.ErrorDetail{Location: "body." + path, Message: text})
			}
			if err := s.store.SaveHouse(ctx, person(ctx).CompanyID, in.Body); err != nil {
				return nil, s.trouble("save house methods", err)
			}
			return nil, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "systems", Method: http.MethodGet, Path: "/api/systems"}, s.listSystems)
	huma.Register(s.api, huma.Operation{OperationID: "saveSystem", Method: http.MethodPut, Path: "/api/systems/{id}"},
		func(ctx context.Context, in *struct {
			SheetPath
			Body buildup.System
		}) (*struct{}, error) {
			in.Body.ID = in.ID
			if err := s.store.SaveSystem(ctx, person(ctx).CompanyID, in.Body); err != nil {
				return nil, s.trouble("save system", err)
			}
			return nil, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "deleteSystem", Method: http.MethodDelete, Path: "/api/systems/{id}"},
		func(ctx context.Context, in *SheetPath) (*struct{}, error) {
			if err := s.store.DeleteSystem(ctx, person(ctx).CompanyID, in.ID); err != nil {
				return nil, s.trouble("delete system", err)
			}
			return nil, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "stock", Method: http.MethodGet, Path: "/api/stock"}, s.listStock)
	huma.Register(s.api, huma.Operation{OperationID: "saveContainer", Method: http.MethodPut, Path: "/api/stock/{id}"},
		func(ctx context.Context, in *struct {
			SheetPath
			Body kit.Container
		}) (*struct{}, error) {
			in.Body.ID = in.ID
			if faults := in.Body.Faults(); len(faults) > 0 {
				return nil, faulty(faults)
			}
			if err := s.store.SaveContainer(ctx, person(ctx).CompanyID, in.Body); err != nil {
				return nil, s.trouble("save container", err)
			}
			return nil, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "takeOutContainer", Method: http.MethodDelete, Path: "/api/stock/{id}"},
		func(ctx context.Context, in *SheetPath) (*struct{}, error) {
			if err := s.store.TakeOutContainer(ctx, person(ctx).CompanyID, in.ID); err != nil {
				return nil, s.trouble("take out container", err)
			}
			return nil, nil
		})
}

func (s *Server) listSystems(ctx context.Context, _ *struct{}) (*body[[]SystemLine], error) {
	company := person(ctx).CompanyID
	systems, err := s.store.Systems(ctx, company)
	if err != nil {
		return nil, s.trouble("list systems", err)
	}
	var products, media []string
	for _, system := range systems {
		p, m := system.Names()
		products, media = append(products, p...), append(media, m...)
	}
	shelf, err := sheetsByID[material.Product](ctx, s, store.ProductShelf, products)
	if err != nil {
		return nil, s.trouble("list systems", err)
	}
	also, err := sheetsByID[material.Medium](ctx, s, store.MediumShelf, media)
	if err != nil {
		return nil, s.trouble("list systems", err)
	}
	lines := make([]SystemLine, len(systems))
	for i, system := range systems {
		line := SystemLine{System: system, Products: []material.Product{}, Media: []material.Medium{}, Missing: []string{}}
		p, m := system.Names()
		for _, id := range p {
			if sheet, there := shelf[id]; there {
				line.Products = append(line.Products, sheet)
			} else {
				line.Missing = append(line.Missing, id)
			}
		}
		for _, id := range m {
			if sheet, there := also[id]; there {
				line.Media = append(line.Media, sheet)
			} else {
				line.Missing = append(line.Missing, id)
			}
		}
		lines[i] = line
	}
	return &body[[]SystemLine]{lines}, nil
}

func sheetsByID[T any](ctx context.Context, s *Server, shelf store.Shelf, ids []string) (map[string]T, error) {
	all := make(map[string]T, len(ids))
	if len(ids) == 0 {
		return all, nil
	}
	rows, _, err := s.store.Sheets(ctx, person(ctx).CompanyID, shelf, store.SheetQuery{IDs: ids, Any: true, Limit: mostSheets})
	if err != nil {
		return nil, err
	}
	for _, row := range rows {
		if all[row.ID], err = sheetOf[T](row); err != nil {
			return nil, err
		}
	}
	return all, nil
}

func (s *Server) listStock(ctx context.Context, _ *struct{}) (*body[[]StockGroup], error) {
	who := person(ctx)
	containers, err := s.store.Stock(ctx, who.CompanyID)
	if err != nil {
		return nil, s.trouble("list stock", err)
	}
	reservations, err := s.store.Reservations(ctx, who.CompanyID)
	if err != nil {
		return nil, s.trouble("list stock", err)
	}
	var ids []string
	for _, c := range containers {
		ids = append(ids, c.Sheet)
	}
	products, err := sheetsByID[material.Product](ctx, s, store.ProductShelf, ids)
	if err != nil {
		return nil, s.trouble("list stock", err)
	}
	media, err := sheetsByID[material.Medium](ctx, s, store.MediumShelf, ids)
	if err != nil {
		return nil, s.trouble("list stock", err)
	}
	groups := []StockGroup{}
	free := make(map[string][]kit.Container)
	for _, c := range containers {
		// A resin serves every hardener, so its A stands with the plain sheet.
		at := slices.IndexFunc(groups, func(g StockGroup) bool { return g.Sheet == c.Sheet && g.Hardener == c.Hardener })
		if at < 0 {
			at = len(groups)
			g := StockGroup{Sheet: c.Sheet, Hardener: c.Hardener, Name: c.Sheet, Lone: []string{}, Lines: []StockLine{}}
			if p, there := products[c.Sheet]; there {
				g.Name, g.Color = p.Name, p.Color
				if with, err := p.With(c.Hardener); err == nil {
					g.Name = with.Name
				}
			} else if m, there := media[c.Sheet]; there {
				g.Name, g.Color = m.Name, m.Color
			}
			groups = append(groups, g)
		}
		line := StockLine{Container: c, Expired: c.Expired(time.Now()), ReservedBy: []store.Reservation{}}
		for _, r := range reservations {
			if r.Container == c.ID {
				line.ReservedBy = append(line.ReservedBy, r)
			}
		}
		if len(line.ReservedBy) == 0 {
			free[c.Sheet] = append(free[c.Sheet], c)
		}
		groups[at].Lines = append(groups[at].Lines, line)
	}
	for i := range groups {
		g := &groups[i]
		p, there := products[g.Sheet]
		if !there {
			continue
		}
		if with, err := p.With(g.Hardener); err == nil {
			stock := kit.OnHand(with, with.Mix(), g.Hardener, free[g.Sheet], time.Now(), false, who.Units)
			g.Mix, g.Lone = stock.Mix, append(g.Lone, stock.Lone...)
		}
	}
	return &body[[]StockGroup]{groups}, nil
}
