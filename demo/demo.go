// Package demo holds an invented company with its shelf and jobs.
package demo

import (
	"bytes"
	"context"
	"embed"
	"encoding/json"
	"fmt"
	"io/fs"

	"github.com/google/uuid"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/exchange"
	"nephelon/server"
	"nephelon/store"
)

//go:embed shelf.json jobs/*.nephelon.json
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

// Shelf is the demo company's data sheets.
func Shelf() ([]material.Product, error) {
	text, err := files.ReadFile("shelf.json")
	if err != nil {
		return nil, fmt.Errorf("read the demo shelf: %w", err)
	}
	var products []material.Product
	if err := json.Unmarshal(text, &products); err != nil {
		return nil, fmt.Errorf("decode the demo shelf: %w", err)
	}
	return products, nil
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
	estimator, err := addPeople(ctx, s, company)
	if err != nil {
		return err
	}
	shelf, err := Shelf()
	if err != nil {
		return err
	}
	for _, p := range shelf {
		if err := s.AddProduct(ctx, company, p); err != nil {
			return err
		}
	}
	return addJobs(ctx, s, company, estimator)
}

func addPeople(ctx context.Context, s *store.Store, company uuid.UUID) (estimator uuid.UUID, err error) {
	hash, err := server.HashPassword(Password)
	if err != nil {
		return estimator, err
	}
	for _, p := range People() {
		id, err := s.AddPerson(ctx, store.Person{CompanyID: company, Name: p.Name, Email: p.Email, Role: p.Role, PasswordHash: hash, Units: p.Units})
		if err != nil {
			return estimator, err
		}
		if p.Role == store.Estimator {
			estimator = id
		}
	}
	return estimator, nil
}

func addJobs(ctx context.Context, s *store.Store, company, person uuid.UUID) error {
	reader, err := exchange.NewReader()
	if err != nil {
		return err
	}
	names, err := fs.Glob(files, "jobs/*.nephelon.json")
	if err != nil {
		return fmt.Errorf("list the demo jobs: %w", err)
	}
	for i := len(names) - 1; i >= 0; i-- {
		text, err := files.ReadFile(names[i])
		if err != nil {
			return fmt.Errorf("read a demo job: %w", err)
		}
		file, err := reader.Read(bytes.NewReader(text))
		if err != nil {
			return fmt.Errorf("%s: %w", names[i], err)
		}
		if _, err := s.AddJob(ctx, company, person, file); err != nil {
			return err
		}
	}
	return nil
}
