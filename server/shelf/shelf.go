// Package shelf offers what a company has and how it works: data sheets of products and media,
// files of them, build-up systems, stock and company standards.
package shelf

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"slices"
	"strings"
	"time"

	"nephelon/exchange"
	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/store"
)

// Service answers what is asked about the shelf.
type Service struct {
	api.Base
	store Store
	files *exchange.Reader
	pdf   PDFReader
	quota api.Quota
}

// New returns the service, which reads PDFs with pdf, or in its own process where none is given.
func New(base api.Base, in Store, files *exchange.Reader, pdf PDFReader, quota api.Quota) *Service {
	if pdf == nil {
		pdf = plainly
	}
	return &Service{Base: base, store: in, files: files, pdf: pdf, quota: quota}
}

// Routes adds the operations.
func (s *Service) Routes() {
	s.shelfRoutes()
	s.shelfFileRoutes()
	s.readRoutes()
	s.priceRoutes()
	s.originalRoutes()
	s.houseRoutes()
	s.sampleRoutes()
}

// Sheets finds data sheets.
type Sheets interface {
	Sheets(ctx context.Context, company uuid.UUID, shelf store.Shelf, q store.SheetQuery) ([]store.SheetRow, int, error)
}

// ShelfPage holds what a search of the shelf found.
type ShelfPage struct {
	Sheets []ShelfLine       `json:"sheets" doc:"Data sheets, by name"`
	Total  int               `json:"total" doc:"How many match"`
	Media  []material.Medium `json:"media"`
}

// ShelfLine is a product on the shelf.
type ShelfLine struct {
	Sheet    material.Product `json:"sheet"`
	Usual    buildup.Amount   `json:"usual" doc:"What a coat of it starts with"`
	Archived bool             `json:"archived"`
	Stock    measure.Volume   `json:"stock,omitempty" doc:"Mix at hand, free and in date, m³; told where it was asked for"`
}

// SheetState is one data sheet with all there is to say about it.
type SheetState struct {
	Sheet     material.Product `json:"sheet"`
	Archived  bool             `json:"archived"`
	ChangedBy string           `json:"changedBy"`
	ChangedAt time.Time        `json:"changedAt"`
	SheetJudged
	Users    []store.User `json:"users" doc:"Jobs, systems and stock that name it"`
	Editions []Edition    `json:"editions" doc:"Newest first"`
}

// SheetJudged holds what can be said of a sheet from itself.
type SheetJudged struct {
	Facts  []material.Fact  `json:"facts"`
	Faults []material.Fault `json:"faults" doc:"What keeps it from being saved"`
	Doubts []material.Doubt `json:"doubts" doc:"What is unusual for its chemistry"`
	Gaps   []material.Gap   `json:"gaps" doc:"What it does not give, and what that costs"`
	Reacts cure.Kinetics    `json:"reacts" doc:"How it reacts: its own kinetics, else its chemistry's from memory"`
}

// Edition is one version of a sheet.
type Edition struct {
	Version   int                `json:"version"`
	ChangedBy string             `json:"changedBy"`
	ChangedAt time.Time          `json:"changedAt"`
	Changes   []material.Revised `json:"changes" doc:"Against the one before"`
}

// Removed says what became of a sheet that was to be deleted.
type Removed struct {
	Archived bool         `json:"archived" doc:"It is in use, so it was archived instead"`
	Users    []store.User `json:"users"`
}

func (s *Service) shelfRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "shelf", Summary: "Search data sheets", Method: http.MethodGet,
		Path: "/api/shelf",
		Description: "Searches the shelf by the beginnings of words, by a film (300 µm) that a product can be laid at, a " +
			"time (12 h) after which the next coat may follow, and a colour"}, s.searchShelf)
	api.Register(s.API, huma.Operation{OperationID: "judgeSheet", Summary: "Check a data sheet",
		Method:           http.MethodPost,
		Path:             "/api/shelf/judged",
		SkipValidateBody: true, Description: "Judges a sheet that is still being entered"},
		func(ctx context.Context, in *api.Body[material.Product]) (*api.Body[SheetJudged], error) {
			return api.Answer(judged(in.Body, api.Person(ctx))), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "weighCup", Summary: "Work out what a weighed cup gives",
		Method: http.MethodPost, Path: "/api/cup",
		Description: "Density, pot life and amount of a product without a data sheet, from what was weighed and timed of a " +
			"cup and a trial area; stores nothing"},
		func(_ context.Context, in *api.Body[material.CupTest]) (*api.Body[material.CupGives], error) {
			return api.Answer(in.Body.Gives()), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "sheet", Summary: "Get a data sheet", Method: http.MethodGet,
		Path: "/api/shelf/{id}"}, s.readSheet)
	api.Register(s.API, huma.Operation{OperationID: "saveSheet", Summary: "Save a data sheet", Method: http.MethodPut,
		Path:        "/api/shelf/{id}",
		Description: "Keeps a new edition of a sheet, made from the version it names, or a new sheet where that is 0"},
		s.saveSheet)
	api.Register(s.API, huma.Operation{OperationID: "removeSheet", Summary: "Delete or archive a data sheet",
		Method: http.MethodDelete, Path: "/api/shelf/{id}",
		Description: "Deletes an unused sheet, and archives one that is in use"}, s.removeSheet)
	api.Register(s.API, huma.Operation{OperationID: "restoreSheet", Summary: "Restore an archived data sheet",
		Method: http.MethodPost,
		Path:   "/api/shelf/{id}/restored"},
		func(ctx context.Context, in *api.SheetPath) (*struct{}, error) {
			if err := s.store.ArchiveSheet(ctx, api.Person(ctx).CompanyID, store.ProductShelf, in.ID, false); err != nil {
				return nil, s.Fail(ctx, "restore sheet", err)
			}
			return nil, nil
		})
	api.Register(s.API, huma.Operation{OperationID: "saveMedium", Summary: "Save a medium", Method: http.MethodPut,
		Path: "/api/media/{id}"},
		s.saveMedium)
	api.Register(s.API, huma.Operation{OperationID: "removeMedium", Summary: "Delete or archive a medium",
		Method: http.MethodDelete, Path: "/api/media/{id}"},
		func(ctx context.Context, in *api.SheetPath) (*api.Body[Removed], error) {
			return s.remove(ctx, store.MediumShelf, in.ID)
		})
}

func (s *Service) searchShelf(ctx context.Context, in *struct {
	Words     string   `query:"q" maxLength:"100"`
	Kinds     []string `query:"kind,explode" maxItems:"20"`
	Chemistry string   `query:"chemistry" maxLength:"30"`
	IDs       []string `query:"id,explode" maxItems:"60"`
	Archived  bool     `query:"archived"`
	Limit     int      `query:"limit" minimum:"1" maximum:"300" default:"60"`
	Media     bool     `query:"media" doc:"Whether to list the media whose name or note holds the words"`
	Stock     bool     `query:"stock" doc:"Whether to tell what is at hand of each"`
}) (*api.Body[ShelfPage], error) {
	who := api.Person(ctx)
	company := who.CompanyID
	words, wanted := material.Search(in.Words, who.Units)
	query := store.SheetQuery{Words: words, Kinds: in.Kinds, Chemistry: in.Chemistry, IDs: in.IDs,
		Archived: in.Archived, Any: len(in.IDs) > 0, Limit: in.Limit}
	if !wanted.Nothing() {
		query.Limit = mostSearched
	}
	rows, total, err := s.store.Sheets(ctx, company, store.ProductShelf, query)
	if err != nil {
		return nil, s.Fail(ctx, "search the shelf", err)
	}
	page := ShelfPage{Total: total, Sheets: make([]ShelfLine, 0, len(rows)), Media: []material.Medium{}}
	for _, row := range rows {
		sheet, err := Sheet[material.Product](row)
		if err != nil {
			return nil, s.Fail(ctx, "search the shelf", err)
		}
		if wanted.Fits(sheet) {
			page.Sheets = append(page.Sheets, ShelfLine{Sheet: sheet, Usual: buildup.Usual(sheet), Archived: row.Archived})
		}
	}
	if !wanted.Nothing() {
		page.Total = len(page.Sheets)
		page.Sheets = page.Sheets[:min(len(page.Sheets), in.Limit)]
	}
	if in.Stock {
		if err := s.atHand(ctx, who, page.Sheets); err != nil {
			return nil, s.Fail(ctx, "list stock", err)
		}
	}
	if in.Media {
		if page.Media, err = Media(ctx, s.store, company, store.SheetQuery{Words: in.Words, Archived: in.Archived,
			Limit: in.Limit}); err != nil {
			return nil, s.Fail(ctx, "search the media", err)
		}
	}
	return api.Answer(page), nil
}

// mostSearched limits how many sheets are looked through for a figure or a colour.
const mostSearched = 2000

// atHand adds to each product what is at hand of its mix, with the hardener of which there is most.
func (s *Service) atHand(ctx context.Context, who store.Person, lines []ShelfLine) error {
	containers, reservations, err := s.kept(ctx, who.CompanyID)
	if err != nil {
		return err
	}
	free := make(map[string][]kit.Container)
	for _, c := range containers {
		if !slices.ContainsFunc(reservations, func(r store.Reservation) bool { return r.Container == c.Of.ID }) {
			free[c.Of.Sheet] = append(free[c.Of.Sheet], c.Of)
		}
	}
	for n := range lines {
		l := &lines[n]
		hardeners := []string{""}
		for _, h := range l.Sheet.Hardeners {
			hardeners = append(hardeners, h.ID)
		}
		for _, h := range hardeners {
			if with, err := l.Sheet.With(h); err == nil && len(free[l.Sheet.ID]) > 0 {
				l.Stock = max(l.Stock, kit.OnHand(with, with.Mix(), h, free[l.Sheet.ID], time.Now(), false, who.Units).Mix)
			}
		}
	}
	return nil
}

// Sheet decodes a data sheet.
func Sheet[T any](row store.SheetRow) (T, error) {
	var sheet T
	err := json.Unmarshal(row.Doc, &sheet)
	return sheet, err
}

// Media returns the media that a query finds on the shelf of a company.
func Media(ctx context.Context, in Sheets, company uuid.UUID, q store.SheetQuery) ([]material.Medium, error) {
	rows, _, err := in.Sheets(ctx, company, store.MediumShelf, q)
	if err != nil {
		return nil, err
	}
	media := make([]material.Medium, len(rows))
	for i, row := range rows {
		if media[i], err = Sheet[material.Medium](row); err != nil {
			return nil, err
		}
	}
	return media, nil
}

func judged(p material.Product, who store.Person) SheetJudged {
	return SheetJudged{Facts: p.Facts(), Faults: p.Faults(), Doubts: p.Doubts(who.Units), Gaps: p.Gaps(who.Units),
		Reacts: p.Reacts()}
}

func (s *Service) readSheet(ctx context.Context, in *api.SheetPath) (*api.Body[SheetState], error) {
	p := api.Person(ctx)
	row, err := s.store.Sheet(ctx, p.CompanyID, store.ProductShelf, in.ID)
	if err != nil {
		return nil, s.Fail(ctx, "read sheet", err)
	}
	sheet, err := Sheet[material.Product](row)
	if err != nil {
		return nil, s.Fail(ctx, "read sheet", err)
	}
	state := SheetState{Sheet: sheet, Archived: row.Archived, ChangedBy: row.ChangedBy, ChangedAt: row.ChangedAt,
		SheetJudged: judged(sheet, p)}
	if state.Users, err = s.store.Users(ctx, p.CompanyID, store.ProductShelf, in.ID); err != nil {
		return nil, s.Fail(ctx, "read sheet", err)
	}
	rows, err := s.store.SheetVersions(ctx, p.CompanyID, store.ProductShelf, in.ID)
	if err != nil {
		return nil, s.Fail(ctx, "read sheet", err)
	}
	state.Editions = make([]Edition, len(rows))
	var newer material.Product
	for i, r := range rows {
		state.Editions[i] = Edition{Version: r.Version, ChangedBy: r.ChangedBy, ChangedAt: r.ChangedAt,
			Changes: []material.Revised{}}
		this, err := Sheet[material.Product](r)
		if err != nil {
			return nil, s.Fail(ctx, "read sheet", err)
		}
		if i > 0 {
			state.Editions[i-1].Changes = newer.Changes(this, p.Units)
		}
		newer = this
	}
	return api.Answer(state), nil
}

func (s *Service) saveSheet(ctx context.Context, in *struct {
	api.SheetPath
	Body material.Product
}) (*api.Body[SheetState], error) {
	p := api.Person(ctx)
	sheet, base := in.Body, in.Body.Version
	sheet.ID, sheet.Version = in.ID, base+1
	if faults := sheet.Faults(); len(faults) > 0 {
		return nil, api.Faulty(faults)
	}
	err := s.store.SaveSheets(ctx, p.CompanyID, &p.ID, store.NewSheet{Shelf: store.ProductShelf, ID: sheet.ID,
		Base:    base,
		Version: sheet.Version, Doc: sheet})
	if err != nil {
		return nil, s.unsaved(ctx, "save sheet", err)
	}
	return s.readSheet(ctx, &in.SheetPath)
}

// unsaved returns why an edition was not kept.
func (s *Service) unsaved(ctx context.Context, doing string, err error) error {
	if errors.Is(err, store.ErrSheetChanged) {
		id, _, _ := strings.Cut(err.Error(), ":")
		return huma.Error409Conflict("“" + id +
			"” was saved by someone else meanwhile, or its id is taken. Open it again and enter your changes there.")
	}
	return s.Fail(ctx, doing, err)
}

func (s *Service) removeSheet(ctx context.Context, in *api.SheetPath) (*api.Body[Removed], error) {
	return s.remove(ctx, store.ProductShelf, in.ID)
}

func (s *Service) remove(ctx context.Context, shelf store.Shelf, id string) (*api.Body[Removed], error) {
	company := api.Person(ctx).CompanyID
	users, err := s.store.Users(ctx, company, shelf, id)
	if err != nil {
		return nil, s.Fail(ctx, "remove sheet", err)
	}
	removed := Removed{Archived: len(users) > 0, Users: users}
	if removed.Archived {
		err = s.store.ArchiveSheet(ctx, company, shelf, id, true)
	} else {
		err = s.store.DeleteSheet(ctx, company, shelf, id)
	}
	if err != nil {
		return nil, s.Fail(ctx, "remove sheet", err)
	}
	return api.Answer(removed), nil
}

func (s *Service) saveMedium(ctx context.Context, in *struct {
	api.SheetPath
	Body material.Medium
}) (*api.Body[material.Medium], error) {
	p := api.Person(ctx)
	medium, base := in.Body, in.Body.Version
	medium.ID, medium.Version = in.ID, base+1
	if faults := medium.Faults(); len(faults) > 0 {
		return nil, api.Faulty(faults)
	}
	if err := s.store.SaveSheets(ctx, p.CompanyID, &p.ID,
		store.NewSheet{Shelf: store.MediumShelf, ID: medium.ID, Base: base, Version: medium.Version,
			Doc: medium}); err != nil {
		return nil, s.unsaved(ctx, "save medium", err)
	}
	return api.Answer(medium), nil
}
