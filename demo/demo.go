// Package demo holds an invented company with its shelf and jobs.
package demo

import (
	"bytes"
	"context"
	"embed"
	"encoding/json"
	"fmt"
	"io/fs"
	"time"

	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/exchange"
	"nephelon/server/sessions"
	"nephelon/store"
)

//go:embed shelf.json systems.json stock.json jobs/*.nephelon.json
var files embed.FS

// Password signs in every demo person.
const Password = "tidewater-demo"

// Company is the demo company's name.
const Company = "Brakkwater Resin Works"

// SignIn is a demo person as the start command prints it.
type SignIn struct {
	Name, Email string
	Role        store.Role
	Units       measure.System
}

// People are those of the demo company.
func People() []SignIn {
	return []SignIn{
		{"Runa Vell", "runa@brakkwater.example", store.Owner, measure.Metric},
		{"Oskar Pym", "oskar@brakkwater.example", store.Estimator, measure.Metric},
		{"Tess Arnaud", "tess@brakkwater.example", store.Lead, measure.US},
		{"Bo Hallin", "bo@brakkwater.example", store.Hand, measure.Metric},
	}
}

// Shelf is the demo company's data sheets: invented products and media.
func Shelf() (exchange.ShelfReading, error) {
	text, err := files.ReadFile("shelf.json")
	if err != nil {
		return exchange.ShelfReading{}, fmt.Errorf("read the demo shelf: %w", err)
	}
	reader, err := exchange.NewReader()
	if err != nil {
		return exchange.ShelfReading{}, err
	}
	reading := reader.ReadShelf(bytes.NewReader(text))
	if len(reading.Refused) > 0 {
		r := reading.Refused[0]
		return reading, fmt.Errorf("the demo shelf, sheet %d, %s%s: %s", r.Line, r.Name, r.Field, r.Text)
	}
	return reading, nil
}

// Systems are the demo company's build-ups to begin with.
func Systems() ([]buildup.System, error) { return listed[buildup.System]("systems.json") }

// listed reads a list of the demo's own files.
func listed[T any](name string) ([]T, error) {
	text, err := files.ReadFile(name)
	if err != nil {
		return nil, fmt.Errorf("read the demo: %w", err)
	}
	var all []T
	if err := json.Unmarshal(text, &all); err != nil {
		return nil, fmt.Errorf("decode %s: %w", name, err)
	}
	return all, nil
}

// FillShelf puts the demo shelf, its systems and its stock into a company.
func FillShelf(ctx context.Context, s *store.Store, company uuid.UUID) error {
	shelf, err := Shelf()
	if err != nil {
		return err
	}
	var sheets []store.NewSheet
	for _, l := range shelf.Lines {
		sheets = append(sheets, store.NewSheet{Shelf: store.ProductShelf, ID: l.Sheet.ID, Version: l.Sheet.Version,
			Doc: l.Sheet})
	}
	for _, m := range shelf.Media {
		sheets = append(sheets, store.NewSheet{Shelf: store.MediumShelf, ID: m.ID, Version: m.Version, Doc: m})
	}
	if err := s.SaveSheets(ctx, company, nil, sheets...); err != nil {
		return err
	}
	systems, err := Systems()
	if err != nil {
		return err
	}
	for _, system := range systems {
		if _, err := s.SaveSystem(ctx, company, 0, system); err != nil {
			return err
		}
	}
	stock, err := listed[kit.Container]("stock.json")
	if err != nil {
		return err
	}
	for _, c := range stock {
		if _, err := s.SaveContainer(ctx, company, 0, c); err != nil {
			return err
		}
	}
	return nil
}

// LoadOnce fills an empty database with the demo company. One that already has
// a company is left as it is.
func LoadOnce(ctx context.Context, s *store.Store) error {
	there, err := s.HasCompany(ctx)
	if err != nil || there {
		return err
	}
	company, err := s.AddCompany(ctx, Company)
	if err != nil {
		return err
	}
	people, err := addPeople(ctx, s, company)
	if err != nil {
		return err
	}
	if err := FillShelf(ctx, s, company); err != nil {
		return err
	}
	now, estimator := time.Now(), people["Oskar Pym"]
	if err := addJobs(ctx, s, company, estimator, now); err != nil {
		return err
	}
	if err := fillRoster(ctx, s, company, estimator, now); err != nil {
		return err
	}
	return fillRecord(ctx, s, company, people, now)
}

// addPeople adds the demo's people and tells the id of each by name.
func addPeople(ctx context.Context, s *store.Store, company uuid.UUID) (map[string]uuid.UUID, error) {
	ids := make(map[string]uuid.UUID)
	hash, err := sessions.HashPassword(Password)
	if err != nil {
		return nil, err
	}
	for _, p := range People() {
		id, err := s.AddPerson(ctx, store.Person{CompanyID: company, Name: p.Name, Email: p.Email, Role: p.Role,
			PasswordHash: hash, Units: p.Units})
		if err != nil {
			return nil, err
		}
		ids[p.Name] = id
	}
	return ids, nil
}

// readJob reads one of the demo's own jobs.
func readJob(name string) (job.File, error) {
	reader, err := exchange.NewReader()
	if err != nil {
		return job.File{}, err
	}
	text, err := files.ReadFile(name)
	if err != nil {
		return job.File{}, fmt.Errorf("read a demo job: %w", err)
	}
	file, err := reader.Read(bytes.NewReader(text))
	if err != nil {
		return file, fmt.Errorf("%s: %w", name, err)
	}
	return file, nil
}

func addJobs(ctx context.Context, s *store.Store, company, person uuid.UUID, now time.Time) error {
	names, err := fs.Glob(files, "jobs/*.nephelon.json")
	if err != nil {
		return fmt.Errorf("list the demo jobs: %w", err)
	}
	for _, l := range laterJobs() {
		file, err := readJob("jobs/" + l.from + ".nephelon.json")
		if err != nil {
			return err
		}
		if _, err := s.AddJob(ctx, company, person, l.of(file, now), nil); err != nil {
			return err
		}
	}
	for _, u := range unplanned() {
		file, err := readJob("jobs/" + u.from + ".nephelon.json")
		if err != nil {
			return err
		}
		id, err := s.AddJob(ctx, company, person, u.of(file), nil)
		if err != nil {
			return err
		}
		if u.archived {
			if err := s.ArchiveJob(ctx, company, id, true); err != nil {
				return err
			}
		}
	}
	for i := len(names) - 1; i >= 0; i-- {
		file, err := readJob(names[i])
		if err != nil {
			return err
		}
		if _, err := s.AddJob(ctx, company, person, file, nil); err != nil {
			return err
		}
	}
	return nil
}
