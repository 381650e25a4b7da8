package e2e

import (
	"testing"

	"nephelon/core/measure"
	"nephelon/demo"
	"nephelon/server/sessions"
	"nephelon/store"
)

// From nothing to kits and a price: a new company is led from its units to its first job. Six
// entries are made, of the twelve that such a start may take.
func TestTheFirstHourOfACompany(t *testing.T) {
	company, err := theStage.records.AddCompany(t.Context(), "Skerry Light Floors")
	if err != nil {
		t.Fatal(err)
	}
	hash, err := sessions.HashPassword(demo.Password)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := theStage.records.AddPerson(t.Context(), store.Person{CompanyID: company, Name: "Ove Brandt",
		Email: "ove@skerrylight.example", Role: store.Owner, PasswordHash: hash, Units: measure.Metric}); err != nil {
		t.Fatal(err)
	}
	p := newPage(t, theStage.address)
	p.signIn("ove@skerrylight.example")
	p.click("[data-test=to-start]")
	p.sees("main", "Set up your company")
	p.fill("Currency, three letters", "NOK")
	p.click("[data-test=next]")
	p.sees("main", "People spreading")
	p.click("[data-test=next]")
	p.sees("[data-test=school-kits]", "Batch size")
	p.look("start-standards")
	p.click("[data-test=next]")
	p.sees("[data-test=shelf-state]", "The shelf is empty")
	p.click("[data-test=add-samples]")
	p.sees("[data-test=shelf-state]", "6 products are on the shelf")
	p.look("start-products")
	p.click("[data-test=next]")
	p.fill("Area", "84 m²")
	p.choose("System", "Sample: floor in three coats")
	p.click("[data-test=begin]")
	p.until(`location.pathname.endsWith('/kits')`)
	p.sees("[data-test=line]", "kits")
	p.until(`/NOK|kr/.test(document.querySelector('[data-test=line]').innerText)`)
	// What nobody sells is said where it would be bought.
	p.sees("#kits", "Planned with sample sheets, which nobody sells")
	p.look("start-kits")
	// The steps are found again, and samples are added once.
	p.open("/shelf")
	p.sees("[data-test=sheet-sample-body]", "sample")
	p.open("/start")
	p.part("products")
	p.until(`document.querySelector('[data-test=add-samples]').disabled`)
}
