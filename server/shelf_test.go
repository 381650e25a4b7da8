package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/draft"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pricelist"
	"nephelon/core/school"
	"nephelon/exchange"
	"nephelon/server/api"
	"nephelon/server/jobs"
	"nephelon/server/sessions"
	"nephelon/server/shelf"
)

func got[T any](t testing.TB, c *client, method, path string, content any) T {
	t.Helper()
	var v T
	status, text := c.send(method, path, content)
	if status >= http.StatusMultipleChoices {
		t.Fatalf("%s %s: %d %s", method, path, status, text)
	}
	if text != "" {
		if err := json.Unmarshal([]byte(text), &v); err != nil {
			t.Fatal(err)
		}
	}
	return v
}

func sheet(id, name string) material.Product {
	litres := measure.Volume(0.005)
	return material.Product{
		ID: id, Name: name, Kind: "primer", Chemistry: "epoxy", Color: "#808080", Use: "Grips bare floors",
		Ratio:        material.Ratio{Basis: material.ByVolume, Source: measure.Sheet},
		Components:   []material.Component{{Name: "A", Parts: 2}, {Name: "B", Parts: 1}},
		VolumeSolids: measure.Sourced[measure.Fraction]{Value: 1, Source: measure.Sheet},
		Kits:         []material.Kit{{Name: "5 L", Volume: &litres, Source: measure.Sheet}},
	}
}

// A job keeps the edition it was planned with and is told of a newer one.
func TestAJobKeepsItsEdition(t *testing.T) {
	c := signedIn(t, newServer(t), "estimator@"+addCompany(t))
	first := got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/cove-primer", sheet("cove-primer", "Cove primer"))
	if first.Sheet.Version != 1 || len(first.Gaps) == 0 || len(first.Editions) != 1 {
		t.Fatalf("%+v", first)
	}
	f := demoJob(t)
	f.Products = append(f.Products, first.Sheet)
	job := c.addJob(f)
	if len(job.Newer) > 0 {
		t.Errorf("told of %v", job.Newer)
	}
	changed := first.Sheet
	changed.Loss = &measure.Sourced[measure.Fraction]{Value: 0.08, Source: measure.OwnTest}
	second := got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/cove-primer", changed)
	if second.Sheet.Version != 2 || len(second.Editions) != 2 || len(second.Editions[0].Changes) != 1 ||
		second.Editions[0].Changes[0].Is != "8%" {
		t.Fatalf("%+v", second.Editions)
	}
	// Whoever still edits the first edition is told, and overwrites nothing.
	changed.Loss.Value = 0.11
	if status, text := c.send(http.MethodPut, "/api/shelf/cove-primer", changed); status != http.StatusConflict ||
		!strings.Contains(text, "cove-primer") {
		t.Errorf("a stale sheet: %d %s", status, text)
	}
	state := got[jobs.JobState](t, c, http.MethodGet, "/api/jobs/"+job.ID.String(), nil)
	if len(state.Newer) != 1 || state.Newer[0].Held != 1 || state.Newer[0].Sheet.Version != 2 ||
		state.Newer[0].Changes[0].Name != "usual loss" {
		t.Errorf("the job is told %+v", state.Newer)
	}
	if held := state.File.Products[len(state.File.Products)-1]; held.Version != 1 || held.Loss != nil {
		t.Errorf("the job's own sheet changed: %+v", held)
	}
}

// What is in use is put away with the places that use it; what is not is
// deleted. What was put away comes out again.
func TestASheetInUseIsPutAway(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	for _, id := range []string{"used", "unused", "by-system", "by-stock"} {
		got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/"+id, sheet(id, "Sheet "+id))
	}
	f := demoJob(t)
	f.Products = append(f.Products, sheet("used", "Sheet used"))
	c.addJob(f)
	got[struct{}](t, c, http.MethodPut, "/api/systems/two?base=0", system("by-system"))
	got[struct{}](t, c, http.MethodPut, "/api/stock/one?base=0", container("by-stock"))
	for id, place := range map[string]string{"used": "job", "by-system": "system", "by-stock": "stock"} {
		if removed := got[shelf.Removed](t, c, http.MethodDelete, "/api/shelf/"+id, nil); !removed.Archived ||
			len(removed.Users) != 1 || removed.Users[0].What != place {
			t.Errorf("%s: %+v", id, removed)
		}
	}
	if removed := got[shelf.Removed](t, c, http.MethodDelete, "/api/shelf/unused", nil); removed.Archived {
		t.Errorf("%+v", removed)
	}
	if page := got[shelf.ShelfPage](t, c, http.MethodGet, "/api/shelf", nil); page.Total != 0 {
		t.Errorf("still on the shelf: %+v", page.Sheets)
	}
	if page := got[shelf.ShelfPage](t, c, http.MethodGet, "/api/shelf?archived=true", nil); page.Total != 3 {
		t.Errorf("put away: %+v", page)
	}
	got[struct{}](t, c, http.MethodPost, "/api/shelf/used/restored", nil)
	if page := got[shelf.ShelfPage](t, c, http.MethodGet, "/api/shelf", nil); page.Total != 1 ||
		page.Sheets[0].Sheet.ID != "used" {
		t.Errorf("taken out again: %+v", page)
	}
}

// A search goes by the beginnings of words, and the filters narrow it.
func TestTheShelfIsSearched(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	urethane := sheet("tern", "Tern & Gull topcoat")
	urethane.Kind, urethane.Chemistry = "urethane", "polyurethane"
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/tern", urethane)
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/cove", sheet("cove", "Cove primer"))
	for query, want := range map[string]int{
		"": 2, "q=gul": 1, "q=prim": 1, "q=grips+bare": 2, "q=zzz": 0, "q=%27%3B--": 2, "q=tern+urethane": 1,
		"kind=primer": 1, "kind=primer&kind=urethane": 2, "chemistry=polyurethane": 1, "id=tern": 1, "q=ull": 0,
		"limit=1": 2,
	} {
		if page := got[shelf.ShelfPage](t, c, http.MethodGet, "/api/shelf?"+query, nil); page.Total != want {
			t.Errorf("%q: %d found, want %d", query, page.Total, want)
		}
	}
}

// A file is read without keeping anything; the good rows are then kept together
// or not at all.
func TestAFileOfSheets(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/cove", sheet("cove", "Cove primer"))
	_, text := c.send(http.MethodGet, "/api/shelf-file?form=csv", nil)
	lines := strings.Split(strings.TrimSpace(text), "\n")
	second := strings.Replace(lines[1], "cove,Cove", "quay,Quay", 1)
	bad := strings.Replace(strings.Replace(lines[1], "cove,Cove", "bad,Bad", 1), ",100,", ",-5,", 1)
	changed := strings.Replace(lines[1], ",100,", ",95,", 1)
	reading := got[shelf.ShelfImport](t, c, http.MethodPost, "/api/shelf-file/reading",
		strings.Join([]string{lines[0], changed, bad, second}, "\n"))
	if len(reading.Lines) != 2 || len(reading.Refused) != 1 || reading.Refused[0].Line != 3 {
		t.Fatalf("%+v, refused %+v", reading.Lines, reading.Refused)
	}
	if l := reading.Lines[0]; l.New || len(l.Changes) != 1 || l.Changes[0].Is != "95%" || !reading.Lines[1].New {
		t.Errorf("%+v", reading.Lines)
	}
	if page := got[shelf.ShelfPage](t, c, http.MethodGet, "/api/shelf", nil); page.Total != 1 ||
		page.Sheets[0].Sheet.Version != 1 {
		t.Errorf("reading kept something: %+v", page)
	}
	type kept struct {
		Products []material.Product `json:"products"`
		Media    []material.Medium  `json:"media"`
	}
	stale := reading.Lines[1].Sheet
	stale.ID, stale.Version = "cove", 0 // the id is taken
	if status, _ := c.send(http.MethodPost, "/api/shelf-file/kept",
		kept{[]material.Product{reading.Lines[1].Sheet, stale}, []material.Medium{}}); status != http.StatusConflict {
		t.Errorf("a taken id: %d", status)
	}
	if page := got[shelf.ShelfPage](t, c, http.MethodGet, "/api/shelf", nil); page.Total != 1 {
		t.Errorf("half of it was kept: %d", page.Total)
	}
	got[struct{}](t, c, http.MethodPost, "/api/shelf-file/kept",
		kept{[]material.Product{reading.Lines[0].Sheet, reading.Lines[1].Sheet}, []material.Medium{medium()}})
	page := got[shelf.ShelfPage](t, c, http.MethodGet, "/api/shelf?media=true", nil)
	if page.Total != 2 || len(page.Media) != 1 || page.Sheets[0].Sheet.Version != 2 ||
		page.Sheets[0].Sheet.VolumeSolids.Value != 0.95 {
		t.Errorf("%+v", page)
	}
	var file exchange.ShelfFile
	if _, text := c.send(http.MethodGet, "/api/shelf-file", nil); json.Unmarshal([]byte(text), &file) != nil ||
		len(file.Products) != 2 || len(file.Media) != 1 {
		t.Errorf("written: %s", text)
	}
}

// A sheet that contradicts itself is refused with every fault and its field.
func TestASheetThatCannotBe(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	bad := sheet("bad", "Bad")
	bad.RecoatFrom = []material.TimeAt{{At: 20, After: 3600, Source: measure.Sheet}}
	bad.RecoatUntil = []material.TimeAt{{At: 20, After: 1800, Source: measure.Sheet}}
	bad.VolumeSolids.Value = -0.2
	status, text := c.send(http.MethodPut, "/api/shelf/bad", bad)
	if status != http.StatusUnprocessableEntity || !strings.Contains(text, "/recoatUntil/0") ||
		!strings.Contains(text, "/volumeSolids") {
		t.Errorf("%d %s", status, text)
	}
	hand := signedIn(t, newServer(t), strings.Replace(c.email(), "owner@", "hand@", 1))
	if status, _ := hand.send(http.MethodPut, "/api/shelf/mine", sheet("mine",
		"Mine")); status != http.StatusForbidden {
		t.Errorf("a hand keeps sheets: %d", status)
	}
}

func (c *client) email() string {
	_, text := c.send(http.MethodGet, "/api/me", nil)
	var me sessions.Me
	if err := json.Unmarshal([]byte(text), &me); err != nil {
		c.t.Fatal(err)
	}
	return me.Email
}

// Stock tells what pairs, what expired and which job reserves it.
func TestStockTellsPairsAndReservations(t *testing.T) {
	c := signedIn(t, newServer(t), "lead@"+addCompany(t))
	owner := signedIn(t, newServer(t), strings.Replace(c.email(), "lead@", "owner@", 1))
	got[shelf.SheetState](t, owner, http.MethodPut, "/api/shelf/cove", sheet("cove", "Cove primer"))
	for _, one := range []struct{ id, part, expires string }{{"a", "A", ""}, {"k", "kit", "2020-01-01"},
		{"r", "kit", "2999-01-01"}} {
		box := container("cove")
		box.Part, box.Expires = one.part, one.expires
		got[struct{}](t, c, http.MethodPut, "/api/stock/"+one.id+"?base=0", box)
	}
	f := demoJob(t)
	reserved := container("cove")
	reserved.ID = "r"
	f.Job.Stock = append(f.Job.Stock, reserved)
	c.addJob(f)
	groups := got[[]shelf.StockGroup](t, c, http.MethodGet, "/api/stock", nil)
	if len(groups) != 1 || groups[0].Name != "Cove primer" || len(groups[0].Lone) != 1 || groups[0].Mix != 0 {
		t.Fatalf("%+v", groups)
	}
	lines := groups[0].Lines
	if len(lines) != 3 || lines[0].Container.ID != "k" || !lines[0].Expired || len(lines[1].ReservedBy) != 1 ||
		lines[2].Container.ID != "a" {
		t.Errorf("%+v", lines)
	}
	got[struct{}](t, c, http.MethodDelete, "/api/stock/k?base=1", nil)
	if groups := got[[]shelf.StockGroup](t, c, http.MethodGet, "/api/stock", nil); len(groups[0].Lines) != 2 {
		t.Errorf("taken out, yet there: %+v", groups)
	}
	broken := container("cove")
	broken.Volume = 0
	if status, text := c.send(http.MethodPut, "/api/stock/b?base=0",
		broken); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "/volume") {
		t.Errorf("an empty container: %d %s", status, text)
	}
}

// How the company works is kept, and only those who keep it may change it.
func TestHouseMethods(t *testing.T) {
	owner := signedIn(t, newServer(t), "owner@"+addCompany(t))
	house := job.House{Methods: school.Methods{Kits: "half", First: "b"}, Currency: "NOK"}
	got[struct{}](t, owner, http.MethodPut, "/api/house?base=1", house)
	state := got[shelf.HouseState](t, owner, http.MethodGet, "/api/house", nil)
	if state.House.Methods != house.Methods || state.House.Currency != "NOK" || len(state.Schools) < 14 {
		t.Errorf("%+v", state.House)
	}
	for _, s := range state.Schools {
		for _, choice := range s.Choices {
			if choice.Reason == "" || choice.Consequence == "" {
				t.Errorf("%s, %s: without reason or consequence", s.Title, choice.Name)
			}
		}
	}
	lead := signedIn(t, newServer(t), strings.Replace(owner.email(), "owner@", "lead@", 1))
	if status, _ := lead.send(http.MethodPut, "/api/house?base=1", house); status != http.StatusForbidden {
		t.Errorf("a lead changes the house: %d", status)
	}
}

// A way out that needs a product brings one from the shelf.
func TestTheShelfOffersWaysOut(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	clear := sheet("sun", "Sunfast")
	clear.Kind, clear.Chemistry, clear.Sun, clear.Look, clear.Over = "urethane", "polyurethane", "stable", "clear",
		[]string{"epoxy"}
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/sun", clear)
	f := demoJob(t)
	f.Job.Surfaces[0].Coats = f.Job.Surfaces[0].Coats[:1]
	f.Products = slices.DeleteFunc(f.Products,
		func(p material.Product) bool { return p.ID != f.Job.Surfaces[0].Coats[0].Product })
	f.Job.Surfaces[0].Service.Sun = true
	job := c.addJob(f)
	for _, found := range job.Plan.Findings {
		if strings.Contains(found.Text, "daylight") {
			if found.Fix == nil || found.Fix.Label != "Put Sunfast in as coat 2" || len(found.Fix.Patch) != 2 {
				t.Errorf("%+v", found.Fix)
			}
			return
		}
	}
	t.Error("nothing says that the last coat ambers")
}

// BenchmarkSearchOfFiveThousand measures a search of a shelf of 5,000 sheets as
// the interface asks for it, over loopback. The aim is 30 ms.
func BenchmarkSearchOfFiveThousand(b *testing.B) {
	c := signedIn(b, newServer(b), "owner@"+addCompany(b))
	text, err := os.ReadFile("../demo/shelf.json")
	if err != nil {
		b.Fatal(err)
	}
	var file exchange.ShelfFile
	if err := json.Unmarshal(text, &file); err != nil {
		b.Fatal(err)
	}
	const count, each = 5000, 500
	for from := 0; from < count; from += each {
		many := make([]material.Product, each)
		for i := range many {
			n := from + i
			many[i] = file.Products[n%len(file.Products)]
			many[i].ID, many[i].Name, many[i].Version = fmt.Sprintf("sheet-%d", n),
				fmt.Sprintf("Batchname%d %s", n%97, many[i].Name), 0
		}
		got[struct{}](b, c, http.MethodPost, "/api/shelf-file/kept",
			map[string]any{"products": many, "media": []material.Medium{}})
	}
	var times []time.Duration
	for b.Loop() {
		begun := time.Now()
		if page := got[shelf.ShelfPage](b, c, http.MethodGet, "/api/shelf?q=batchname4+epoxy&kind=body&limit=20",
			nil); page.Total < 20 {
			b.Fatalf("%d found", page.Total)
		}
		times = append(times, time.Since(begun))
	}
	slices.Sort(times)
	b.ReportMetric(float64(times[len(times)/2].Microseconds())/1000, "median-ms")
}

// A cup that was weighed gives a density and a pot life; what cannot be is named by its field.
func TestACupIsWeighed(t *testing.T) {
	c := signedIn(t, newServer(t), "lead@"+addCompany(t))
	cup := material.CupTest{Empty: 0.01, Full: 0.13, Volume: 1e-4, At: 20, Lasts: 1500}
	if g := got[material.CupGives](t, c, http.MethodPost, "/api/cup", cup); g.Density == nil || g.PotLife == nil ||
		g.Density.Value < 1199.9 || g.Density.Value > 1200.1 {
		t.Errorf("%+v", g)
	}
	cup.Spread = 1
	if g := got[material.CupGives](t, c, http.MethodPost, "/api/cup", cup); len(g.Faults) != 1 ||
		g.Faults[0].Field != "/area" {
		t.Errorf("%+v", g)
	}
}

// A maker's sheet is read from its text: each value with its line, nothing that it does not state; what is no
// PDF although it says so is refused with what to do.
func TestAMakersSheetIsRead(t *testing.T) {
	web := newServer(t)
	owner := signedIn(t, web, "owner@"+addCompany(t))
	status, text := owner.send(http.MethodPost, "/api/shelf-file/sheet",
		"Tern 5\nEpoxy primer\n\nVolume solids: 62 %\n")
	var d draft.Draft
	if err := json.Unmarshal([]byte(text), &d); err != nil || status != http.StatusOK {
		t.Fatalf("%d %s", status, text)
	}
	if len(d.Values) != 4 || d.Values[3].Path != "volumeSolids" || d.Values[3].Line != 4 || d.Product["ratio"] != nil ||
		!slices.Contains(d.Missing, "ratio") {
		t.Errorf("%+v", d)
	}
	var denied struct{ Conflicts []draft.Conflict }
	status, text = owner.send(http.MethodPost, "/api/shelf-file/sheet", "Tern 5\nEpoxy primer\n\n"+
		"Mix ratio: 2:1 by volume (100:40 by weight)\nDensity: part A 1.1 kg/L, part B 1.0 kg/L\nWet film: 200 - 300 µm\n")
	if err := json.Unmarshal([]byte(text), &denied); err != nil || status != http.StatusOK || len(denied.Conflicts) != 1 {
		t.Fatalf("a ratio against its densities: %d %s", status, text)
	}
	if c := denied.Conflicts[0]; !strings.Contains(c.Text, "2.5 : 1 of A to B by mass") || len(c.Lines) != 2 ||
		c.Lines[0].Line != 4 || c.Lines[1].Line != 5 {
		t.Errorf("%+v", c)
	}
	if status, text := owner.send(http.MethodPost, "/api/shelf-file/sheet", "%PDF-1.4 garbage"); status !=
		http.StatusUnprocessableEntity || !strings.Contains(text, "PDF") {
		t.Errorf("%d %s", status, text)
	}
	status, text = owner.send(http.MethodPost, "/api/shelf-file/sheet?lines="+url.QueryEscape(`{"4":"Volume solids: 58 %"}`),
		"Tern 5\nEpoxy primer\n\nVolume solids: 6Z %\n")
	if err := json.Unmarshal([]byte(text), &d); err != nil || status != http.StatusOK || len(d.Values) != 4 ||
		d.Values[3].As != "58 %" {
		t.Errorf("a corrected line: %d %s", status, text)
	}
	if status, text := owner.send(http.MethodPost, "/api/shelf-file/sheet?lines=4", "Tern 5"); status !=
		http.StatusUnprocessableEntity || !strings.Contains(text, "corrected lines") {
		t.Errorf("%d %s", status, text)
	}
	kept := got[material.Original](t, owner, http.MethodPost, "/api/originals?name=tern.txt", "Tern 5, and more")
	if status, text := owner.send(http.MethodGet, "/api/originals/"+kept.Hash, nil); status != http.StatusOK ||
		text != "Tern 5, and more" {
		t.Errorf("the document: %d %s", status, text)
	}
	stranger := signedIn(t, web, "owner@"+addCompany(t))
	if status, _ := stranger.send(http.MethodGet, "/api/originals/"+kept.Hash, nil); status != http.StatusNotFound {
		t.Errorf("another company reads it: %d", status)
	}
	for _, bad := range []string{"", "a\x00b"} {
		if status, text := owner.send(http.MethodPost, "/api/originals?name=x", bad); status < 400 {
			t.Errorf("%q is kept: %s", bad, text)
		}
	}
}

// A supplier's list is read by its headings, then by the columns that were kept of the supplier; its prices
// become new editions of their sheets, all or none.
func TestASuppliersPriceList(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/cove", sheet("cove", "Cove primer"))
	grit := medium()
	grit.Packs = []material.Pack{{Name: "bag", Amount: 20}}
	got[material.Medium](t, c, http.MethodPut, "/api/media/"+grit.ID, grit)
	list := "Item no.;Description;Pack size;Net price\nC-5;Cove primer;5 L;118,50\nC-12;Cove primer;12 L;260,00\n" +
		"G-20;Coarse chip;20 kg;31,00\nX;Pier wax;1 L;9,00\n"
	read := func(query, list string) shelf.PriceList {
		return got[shelf.PriceList](t, c, http.MethodPost, "/api/price-list/reading?"+query, list)
	}
	found := read("supplier=Strandholm", list)
	if !found.Proposed || found.Trouble != "" || len(found.Lines) != 4 || found.Lines[3].Offer != nil {
		t.Fatalf("%+v", found)
	}
	kept := struct {
		Supplier pricelist.Supplier     `json:"supplier"`
		Offers   []pricelist.PriceOffer `json:"offers"`
	}{Supplier: pricelist.Supplier{Name: "Strandholm", Columns: found.Columns}}
	for _, l := range found.Lines[:3] {
		kept.Offers = append(kept.Offers, *l.Offer)
	}
	stale := kept
	stale.Offers = slices.Clone(kept.Offers)
	stale.Offers[2].Version = 7
	if status, text := c.send(http.MethodPost, "/api/price-list/kept", stale); status != http.StatusConflict {
		t.Errorf("prices of an edition that is not there: %d %s", status, text)
	}
	if state := got[shelf.SheetState](t, c, http.MethodGet, "/api/shelf/cove", nil); state.Sheet.Version != 1 {
		t.Errorf("half of it was kept: %+v", state.Sheet)
	}
	got[struct{}](t, c, http.MethodPost, "/api/price-list/kept", kept)
	state := got[shelf.SheetState](t, c, http.MethodGet, "/api/shelf/cove", nil)
	if k := state.Sheet.Kits; state.Sheet.Version != 2 || len(k) != 2 || *k[0].Price != 118.5 || k[0].Code != "C-5" ||
		*k[1].Price != 260 {
		t.Errorf("%+v", state.Sheet)
	}
	// Their next list has no headings, and is read by the same columns.
	next := "C-5;x;;120,50\nG-20;y;;31,00\n"
	found = read("supplier=Strandholm", "old heads;;;\n"+next)
	if found.Proposed || len(found.Lines) != 2 || *found.Lines[0].Price != 120.5 || found.Lines[0].Same ||
		!found.Lines[1].Same {
		t.Errorf("%+v", found)
	}
	house := got[shelf.HouseState](t, c, http.MethodGet, "/api/house", nil)
	house.House.Currency = "EUR"
	got[api.Stands](t, c, http.MethodPut, "/api/house?base="+fmt.Sprint(house.Revision), house.House)
	for trouble, query := range map[string]string{
		"reckons in EUR": "columns=" + url.QueryEscape(`{"name":1,"price":2}`),
		"price":          "columns=" + url.QueryEscape(`{"name":1}`),
	} {
		if found := read(query, "Cove primer;USD 80"); !strings.Contains(found.Trouble, trouble) || len(found.Lines) > 0 {
			t.Errorf("%s: %+v", trouble, found)
		}
	}
	if status, text := c.send(http.MethodPost, "/api/price-list/reading?supplier=a", "%PDF-1.4"); status !=
		http.StatusUnprocessableEntity || !strings.Contains(text, "as XLSX or CSV") {
		t.Errorf("a PDF: %d %s", status, text)
	}
}
