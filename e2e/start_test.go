package e2e

import (
	"errors"
	"html"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/carlos7ags/folio/document"

	"nephelon/core/measure"
	"nephelon/demo"
	"nephelon/server/sessions"
	"nephelon/store"
)

// newCompany adds a company and signs its owner in.
func newCompany(t *testing.T, name, email string) *page {
	t.Helper()
	company, err := theStage.records.AddCompany(t.Context(), name)
	if err != nil {
		t.Fatal(err)
	}
	hash, err := sessions.HashPassword(demo.Password)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := theStage.records.AddPerson(t.Context(), store.Person{CompanyID: company, Name: "Ove Brandt",
		Email: email, Role: store.Owner, PasswordHash: hash, Units: measure.Metric}); err != nil {
		t.Fatal(err)
	}
	p := newPage(t, theStage.address)
	p.signIn(email)
	return p
}

// From an empty shelf to the first mix card with one PDF of a maker. Six entries are typed or chosen; all else is a
// click.
func TestFromOneSheetToTheFirstCard(t *testing.T) {
	t.Parallel()
	text, err := os.ReadFile("../core/sheet/testdata/body-us.txt")
	if err != nil {
		t.Fatal(err)
	}
	page := document.NewDocument(document.PageSizeA4)
	var lines strings.Builder
	for line := range strings.Lines(string(text)) {
		lines.WriteString("<p>" + html.EscapeString(strings.TrimSpace(line)) + "</p>")
	}
	file := filepath.Join(t.TempDir(), "harbourstone.pdf")
	if err := errors.Join(page.AddHTML(lines.String(), nil), page.Save(file)); err != nil {
		t.Fatal(err)
	}
	p := newCompany(t, "Lantern Quay Resin", "ove@lanternquay.example")
	p.open("/start")
	p.part("products")
	p.click("[data-test=read-sheet]")
	p.until(`location.pathname === '/shelf/sheet'`)
	p.upload("input[type=file]", file) // 1
	p.sees("[data-test=draft]", "values read")
	p.click("[data-test=begin-sheet]")
	p.until(`location.pathname === '/shelf/new'`)
	p.sees("[data-test=judged]", "Assume all")
	p.look("sheet-typical")
	p.click("[data-test=assume-all]")
	p.until(`!document.querySelector('[data-test=assume-all]')`)
	p.click("[data-test=save-sheet]")
	p.until(`location.pathname === '/shelf/p/harbourstone-210'`)
	p.newJob("Signal house")                  // 2
	p.rectangle("9 m", "6.5 m")               // 3
	p.at("build-up")                          //
	p.choose("Add a coat of", "HARBOURSTONE") // 4
	p.saved()
	p.click("[data-test=assumed] [aria-expanded]")
	p.sees("[data-test=assumed]", "usual loss")
	p.scroll("[data-test=assumed]")
	p.look("assumed")
	p.at("batches")
	p.until(`!!document.querySelector('[data-test=batches-1]')`)
	p.open(value[string](p, `location.pathname.replace(/batches$/, 'cards')`))
	p.sees("main", "HARBOURSTONE 210")
	p.look("first-card")
}

// From nothing to kits and a price: a new company is led from its units to its first job. Six
// entries are made, of the twelve that such a start may take.
func TestTheFirstHourOfACompany(t *testing.T) {
	t.Parallel()
	p := newCompany(t, "Skerry Light Floors", "ove@skerrylight.example")
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
	p.typed("Area", "84 m²") // Enter would begin the job at once
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
