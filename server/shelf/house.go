package shelf

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/climate"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/label"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/store"
)

// HouseState holds how the company works, with what it chose from.
type HouseState struct {
	Revision int64             `json:"revision"`
	House    job.House         `json:"house"`
	Schools  []school.Question `json:"schools"`
}

// SystemLine is a build-up with the sheets it names.
type SystemLine struct {
	Revision int64              `json:"revision"`
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
	Lone     []string       `json:"lone" doc:"Containers without their matching part"`
	Lines    []StockLine    `json:"lines" doc:"First-expiring first"`
}

// StockLine is one container.
type StockLine struct {
	Look       string              `json:"look,omitempty" doc:"What to look at before it is used"`
	Revision   int64               `json:"revision"`
	Container  kit.Container       `json:"container"`
	Expired    bool                `json:"expired"`
	ReservedBy []store.Reservation `json:"reservedBy"`
}

func (s *Service) houseRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "house", Summary: "Get company standards", Method: http.MethodGet,
		Path: "/api/house"},
		func(ctx context.Context, _ *struct{}) (*api.Body[HouseState], error) {
			kept, err := s.store.House(ctx, api.Person(ctx).CompanyID)
			if err != nil {
				return nil, s.Fail(ctx, "read company standards", err)
			}
			if api.Person(ctx).Role == store.Hand {
				kept.Of.HourCost, kept.Of.OvertimeMore = nil, nil
			}
			return api.Answer(HouseState{kept.Revision, kept.Of, school.Questions()}), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "saveHouse", Summary: "Save company standards", Method: http.MethodPut,
		Path: "/api/house"},
		func(ctx context.Context, in *struct {
			api.Based
			Body job.House
		}) (*api.Body[api.Stands], error) {
			if path, text := in.Body.Fault(); text != "" {
				return nil, huma.Error422UnprocessableEntity(text, &huma.ErrorDetail{Location: "body." + path, Message: text})
			}
			revision, err := s.store.SaveHouse(ctx, api.Person(ctx).CompanyID, in.Base, in.Body)
			return s.Revised(ctx, "save company standards", revision, err)
		})
	api.Register(s.API, huma.Operation{OperationID: "systems", Summary: "List systems", Method: http.MethodGet,
		Path: "/api/systems"},
		s.listSystems)
	api.Register(s.API, huma.Operation{OperationID: "saveSystem", Summary: "Save a system", Method: http.MethodPut,
		Path: "/api/systems/{id}"},
		func(ctx context.Context, in *struct {
			api.SheetPath
			api.Based
			Body buildup.System
		}) (*api.Body[api.Stands], error) {
			in.Body.ID = in.ID
			revision, err := s.store.SaveSystem(ctx, api.Person(ctx).CompanyID, in.Base, in.Body)
			return s.Revised(ctx, "save system", revision, err)
		})
	api.Register(s.API, huma.Operation{OperationID: "deleteSystem", Summary: "Delete a system", Method: http.MethodDelete,
		Path: "/api/systems/{id}"},
		func(ctx context.Context, in *struct {
			api.SheetPath
			api.Based
		}) (*api.Body[api.Stands], error) {
			return s.Revised(ctx, "delete system", 0, s.store.DeleteSystem(ctx, api.Person(ctx).CompanyID, in.Base, in.ID))
		})
	s.stockRoutes()
}

func (s *Service) stockRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "stock", Summary: "List stock", Method: http.MethodGet,
		Path: "/api/stock"}, s.listStock)
	api.Register(s.API, huma.Operation{OperationID: "saveContainer", Summary: "Save a container", Method: http.MethodPut,
		Path: "/api/stock/{id}"},
		func(ctx context.Context, in *struct {
			api.SheetPath
			api.Based
			Body kit.Container
		}) (*api.Body[api.Stands], error) {
			in.Body.ID = in.ID
			dated, err := s.dated(ctx, in.Body)
			if err != nil {
				return nil, s.Fail(ctx, "read sheet", err)
			}
			in.Body = dated
			if faults := in.Body.Faults(); len(faults) > 0 {
				return nil, api.Faulty(faults)
			}
			revision, err := s.store.SaveContainer(ctx, api.Person(ctx).CompanyID, in.Base, in.Body)
			return s.Revised(ctx, "save container", revision, err)
		})
	api.Register(s.API, huma.Operation{OperationID: "judgeStore", Summary: "Judge the store room by a forecast",
		Method: http.MethodPost, Path: "/api/stock-store",
		Description: "What in stock will be colder or warmer than its sheet allows, with the standards' store room; " +
			"stores nothing"}, s.judgeStore)
	api.Register(s.API, huma.Operation{OperationID: "readLabel", Summary: "Read the label of a pack",
		Method: http.MethodPost, Path: "/api/stock-label",
		Description: "Reads a barcode (GS1 elements, trade item number) or an article number, and returns the pack of " +
			"the shelf that has it; stores nothing"}, s.readLabel)
	api.Register(s.API, huma.Operation{OperationID: "takeOutContainer", Summary: "Remove a container from stock",
		Method: http.MethodDelete,
		Path:   "/api/stock/{id}"},
		func(ctx context.Context, in *struct {
			api.SheetPath
			api.Based
		}) (*api.Body[api.Stands], error) {
			return s.Revised(ctx, "take out container", in.Base+1,
				s.store.TakeOutContainer(ctx, api.Person(ctx).CompanyID, in.Base, in.ID))
		})
}

func (s *Service) listSystems(ctx context.Context, _ *struct{}) (*api.Body[[]SystemLine], error) {
	company := api.Person(ctx).CompanyID
	systems, err := s.store.Systems(ctx, company)
	if err != nil {
		return nil, s.Fail(ctx, "list systems", err)
	}
	var products, media []string
	for _, system := range systems {
		p, m := system.Of.Names()
		products, media = append(products, p...), append(media, m...)
	}
	shelf, err := sheetsByID[material.Product](ctx, s, store.ProductShelf, products)
	if err != nil {
		return nil, s.Fail(ctx, "list systems", err)
	}
	also, err := sheetsByID[material.Medium](ctx, s, store.MediumShelf, media)
	if err != nil {
		return nil, s.Fail(ctx, "list systems", err)
	}
	lines := make([]SystemLine, len(systems))
	for i, system := range systems {
		line := SystemLine{Revision: system.Revision, System: system.Of, Products: []material.Product{},
			Media: []material.Medium{}, Missing: []string{}}
		p, m := system.Of.Names()
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
	return api.Answer(lines), nil
}

func sheetsByID[T any](ctx context.Context, s *Service, shelf store.Shelf, ids []string) (map[string]T, error) {
	all := make(map[string]T, len(ids))
	if len(ids) == 0 {
		return all, nil
	}
	rows, _, err := s.store.Sheets(ctx, api.Person(ctx).CompanyID, shelf,
		store.SheetQuery{IDs: ids, Any: true, Limit: mostSheets})
	if err != nil {
		return nil, err
	}
	for _, row := range rows {
		if all[row.ID], err = Sheet[T](row); err != nil {
			return nil, err
		}
	}
	return all, nil
}

// kept returns what a company has in stock, and which jobs reserved what of it.
func (s *Service) kept(ctx context.Context, company uuid.UUID) ([]store.Revised[kit.Container], []store.Reservation,
	error) {
	containers, err := s.store.Stock(ctx, company)
	if err != nil {
		return nil, nil, err
	}
	reservations, err := s.store.Reservations(ctx, company)
	return containers, reservations, err
}

func (s *Service) listStock(ctx context.Context, _ *struct{}) (*api.Body[[]StockGroup], error) {
	who := api.Person(ctx)
	containers, reservations, err := s.kept(ctx, who.CompanyID)
	if err != nil {
		return nil, s.Fail(ctx, "list stock", err)
	}
	var ids []string
	for _, c := range containers {
		ids = append(ids, c.Of.Sheet)
	}
	products, err := sheetsByID[material.Product](ctx, s, store.ProductShelf, ids)
	if err != nil {
		return nil, s.Fail(ctx, "list stock", err)
	}
	media, err := sheetsByID[material.Medium](ctx, s, store.MediumShelf, ids)
	if err != nil {
		return nil, s.Fail(ctx, "list stock", err)
	}
	groups := []StockGroup{}
	free := make(map[string][]kit.Container)
	for _, kept := range containers {
		c := kept.Of
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
		line := StockLine{Revision: kept.Revision, Container: c, Expired: c.Expired(time.Now()),
			ReservedBy: []store.Reservation{}, Look: c.Look(products[c.Sheet], time.Now())}
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
	return api.Answer(groups), nil
}

// StoreWeather holds the forecast of the store room.
type StoreWeather struct {
	Hours []climate.Hour `json:"hours" minItems:"1" maxItems:"400" doc:"Hour after hour"`
}

// judgeStore reports what in stock the store room will harm.
func (s *Service) judgeStore(ctx context.Context, in *api.Body[StoreWeather]) (*api.Body[[]kit.Misstored], error) {
	who := api.Person(ctx)
	house, err := s.store.House(ctx, who.CompanyID)
	if err != nil {
		return nil, s.Fail(ctx, "read company standards", err)
	}
	containers, err := s.store.Stock(ctx, who.CompanyID)
	if err != nil {
		return nil, s.Fail(ctx, "list stock", err)
	}
	var ids []string
	for _, c := range containers {
		if !slices.Contains(ids, c.Of.Sheet) {
			ids = append(ids, c.Of.Sheet)
		}
	}
	products, err := sheetsByID[material.Product](ctx, s, store.ProductShelf, ids)
	if err != nil {
		return nil, s.Fail(ctx, "read the sheets of the stock", err)
	}
	zone, err := time.LoadLocation(house.Of.Zone)
	if err != nil {
		zone = time.UTC
	}
	room := kit.Room{}
	if house.Of.Store != nil {
		room = *house.Of.Store
	}
	found := []kit.Misstored{}
	for _, id := range ids {
		if p, there := products[id]; there {
			found = append(found, room.Against(p, in.Body.Hours, zone, who.Units)...)
		}
	}
	return api.Answer(found), nil
}

// dated returns a container with the expiry that follows from its sheet, where its label says none.
func (s *Service) dated(ctx context.Context, c kit.Container) (kit.Container, error) {
	row, err := s.store.Sheet(ctx, api.Person(ctx).CompanyID, store.ProductShelf, c.Sheet)
	if errors.Is(err, store.ErrNotFound) {
		return c.Dated(material.Product{}), nil
	}
	if err != nil {
		return c, err
	}
	p, err := Sheet[material.Product](row)
	return c.Dated(p), err
}

func (s *Service) readLabel(ctx context.Context, in *api.Body[struct {
	Text string `json:"text" maxLength:"200" doc:"As the scanner sends it, or as it is typed"`
}]) (*api.Body[kit.Found], error) {
	scan, err := label.Read(in.Body.Text, time.Now())
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error() + ".")
	}
	products, media, err := s.priced(ctx)
	if err != nil {
		return nil, s.Fail(ctx, "read shelf", err)
	}
	found, is := kit.FindPack(scan, products, media)
	if !is {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("No pack of the shelf has the number %s. Enter it at the "+
			"pack's size on its data sheet, or read the supplier's price list.", scan.Code))
	}
	return api.Answer(found), nil
}
