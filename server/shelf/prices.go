package shelf

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/material"
	"nephelon/core/pricelist"
	"nephelon/exchange"
	"nephelon/server/api"
	"nephelon/store"
)

// PriceList holds what a supplier's list says of the packs of the shelf, before anything is kept.
type PriceList struct {
	Columns  pricelist.PriceColumns `json:"columns" doc:"Columns it was read by"`
	Proposed bool                   `json:"proposed" doc:"The columns were told from the headings and not chosen"`
	Rows     [][]string             `json:"rows" doc:"First rows of the list"`
	Width    int                    `json:"width" doc:"Number of its columns"`
	Trouble  string                 `json:"trouble,omitempty" doc:"Why its rows were not read"`
	Lines    []pricelist.PriceLine  `json:"lines" doc:"Rows of the list with what they change"`
}

// shownRows are the first rows of a list, by which its columns are chosen.
const shownRows = 12

func (s *Service) priceRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "readPrices", Summary: "Read a supplier's price list",
		Method: http.MethodPost, Path: "/api/price-list/reading", MaxBodyBytes: api.BodyLimit,
		Description: "Reads a price list (XLSX, CSV) by the columns given, by those kept of the supplier, or by its " +
			"headings; stores nothing"}, s.readPrices)
	api.Register(s.API, huma.Operation{OperationID: "keepPrices", Summary: "Save prices of a supplier's list",
		Method: http.MethodPost, Path: "/api/price-list/kept", MaxBodyBytes: api.BodyLimit,
		Description: "Saves prices and packs as new editions of their sheets, all or none, and how the supplier's lists " +
			"are read"}, s.keepPrices)
}

func (s *Service) readPrices(ctx context.Context, in *struct {
	Supplier string `query:"supplier" maxLength:"120"`
	Columns  string `query:"columns" maxLength:"400" doc:"Columns as JSON"`
	RawBody  []byte
}) (*api.Body[PriceList], error) {
	company := api.Person(ctx).CompanyID
	rows, err := exchange.ReadTable(in.RawBody)
	if err != nil {
		return nil, api.Unreadable("This price list cannot be read.", err)
	}
	house, err := s.store.House(ctx, company)
	if err != nil {
		return nil, s.Fail(ctx, "read company standards", err)
	}
	out := PriceList{Rows: rows[:min(len(rows), shownRows)], Lines: []pricelist.PriceLine{}}
	for _, row := range out.Rows {
		out.Width = max(out.Width, len(row))
	}
	at := slices.IndexFunc(house.Of.Suppliers, func(k pricelist.Supplier) bool { return k.Name == in.Supplier })
	switch {
	case in.Columns != "":
		if err := json.Unmarshal([]byte(in.Columns), &out.Columns); err != nil {
			return nil, huma.Error422UnprocessableEntity("The columns are no JSON of the form {\"name\":1,\"price\":4}.")
		}
	case at >= 0:
		out.Columns = house.Of.Suppliers[at].Columns
	default:
		out.Columns, out.Proposed = pricelist.Guess(rows), true
	}
	if out.Trouble = out.Columns.Usable(); out.Trouble != "" {
		return api.Answer(out), nil
	}
	if named := pricelist.Currency(rows, out.Columns); named != "" && house.Of.Currency != "" &&
		named != house.Of.Currency {
		out.Trouble = fmt.Sprintf("The list is in %s, and the company reckons in %s: its prices cannot be taken as they "+
			"stand.", named, house.Of.Currency)
		return api.Answer(out), nil
	}
	products, media, err := s.priced(ctx)
	if err != nil {
		return nil, s.Fail(ctx, "read shelf", err)
	}
	out.Lines = pricelist.Read(rows, out.Columns, products, media)
	return api.Answer(out), nil
}

// priced returns all products and media that are sold, by name.
func (s *Service) priced(ctx context.Context) ([]material.Product, []material.Medium, error) {
	company := api.Person(ctx).CompanyID
	rows, _, err := s.store.Sheets(ctx, company, store.ProductShelf, store.SheetQuery{Limit: mostSheets})
	if err != nil {
		return nil, nil, err
	}
	products := make([]material.Product, len(rows))
	for i, row := range rows {
		if products[i], err = Sheet[material.Product](row); err != nil {
			return nil, nil, err
		}
	}
	media, err := Media(ctx, s.store, company, store.SheetQuery{Limit: mostSheets})
	return products, media, err
}

func (s *Service) keepPrices(ctx context.Context, in *api.Body[struct {
	Supplier pricelist.Supplier     `json:"supplier"`
	Offers   []pricelist.PriceOffer `json:"offers" minItems:"1" maxItems:"10000"`
}]) (*struct{}, error) {
	who := api.Person(ctx)
	products, media, err := s.priced(ctx)
	if err != nil {
		return nil, s.Fail(ctx, "read shelf", err)
	}
	var sheets []store.NewSheet
	for _, offers := range bySheet(in.Body.Offers) {
		edition, err := editionOf(offers, products, media)
		if err != nil {
			return nil, err
		}
		sheets = append(sheets, edition)
	}
	house, err := s.store.House(ctx, who.CompanyID)
	if err != nil {
		return nil, s.Fail(ctx, "read company standards", err)
	}
	if err := s.store.SaveSheets(ctx, who.CompanyID, &who.ID, sheets...); err != nil {
		return nil, s.unsaved(ctx, "keep prices", err)
	}
	suppliers := slices.DeleteFunc(slices.Clone(house.Of.Suppliers),
		func(k pricelist.Supplier) bool { return k.Name == in.Body.Supplier.Name })
	house.Of.Suppliers = append(suppliers, in.Body.Supplier)
	if _, err := s.store.SaveHouse(ctx, who.CompanyID, house.Revision, house.Of); err != nil {
		return nil, s.Fail(ctx, "keep how the supplier's lists are read", err)
	}
	return nil, nil
}

// bySheet returns offers in groups of one product or medium each.
func bySheet(offers []pricelist.PriceOffer) [][]pricelist.PriceOffer {
	var groups [][]pricelist.PriceOffer
	for _, o := range offers {
		at := slices.IndexFunc(groups, func(g []pricelist.PriceOffer) bool {
			return g[0].Sheet == o.Sheet && g[0].Medium == o.Medium
		})
		if at < 0 {
			groups, at = append(groups, nil), len(groups)
		}
		groups[at] = append(groups[at], o)
	}
	return groups
}

// editionOf returns the next edition of a sheet with what is offered of it.
func editionOf(offers []pricelist.PriceOffer, products []material.Product,
	media []material.Medium) (store.NewSheet, error) {
	id, version := offers[0].Sheet, offers[0].Version
	out := store.NewSheet{Shelf: store.ProductShelf, ID: id, Base: version, Version: version + 1}
	missing := huma.Error422UnprocessableEntity(
		fmt.Sprintf("The shelf has no sheet “%s” any more. Read the list again.", id))
	if offers[0].Medium {
		out.Shelf = store.MediumShelf
		at := slices.IndexFunc(media, func(m material.Medium) bool { return m.ID == id })
		if at < 0 {
			return out, missing
		}
		made, err := pricelist.PricedMedium(media[at], offers)
		if err != nil {
			return out, huma.Error422UnprocessableEntity(err.Error() + ". Read the list again.")
		}
		made.Version = out.Version
		out.Doc = made
		if faults := made.Faults(); len(faults) > 0 {
			return out, api.Faulty(faults)
		}
		return out, nil
	}
	at := slices.IndexFunc(products, func(p material.Product) bool { return p.ID == id })
	if at < 0 {
		return out, missing
	}
	made, err := pricelist.Priced(products[at], offers)
	if err != nil {
		return out, huma.Error422UnprocessableEntity(err.Error() + ". Read the list again.")
	}
	made.Version = out.Version
	out.Doc = made
	if faults := made.Faults(); len(faults) > 0 {
		return out, api.Faulty(faults)
	}
	return out, nil
}
