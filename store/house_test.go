package store_test

import (
	"archive/zip"
	"bytes"
	"context"
	"errors"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/days"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/record"
	"nephelon/store"
)

// What a company keeps once is changed by one person at a time: who has an older revision is told,
// and nothing is overwritten.
func TestHouseSystemsAndStockAreRevised(t *testing.T) {
	ctx := t.Context()
	company, _ := company(t)
	house, err := records.House(ctx, company)
	if err != nil {
		t.Fatal(err)
	}
	first, err := records.SaveHouse(ctx, company, house.Revision,
		job.House{Crews: []job.StandingCrew{{ID: "north", Name: "North", People: 2}}})
	if err != nil || first <= house.Revision {
		t.Fatalf("%d after %d: %v", first, house.Revision, err)
	}
	if _, err := records.SaveHouse(ctx, company, house.Revision, job.House{}); !errors.Is(err, store.ErrChanged) {
		t.Errorf("over a newer one: %v", err)
	}
	if house, err = records.House(ctx, company); err != nil || len(house.Of.Crews) != 1 || house.Revision != first {
		t.Errorf("%+v, %v", house, err)
	}

	system := buildup.System{ID: "quay", Name: "Quay", For: "floor"}
	one, err := records.SaveSystem(ctx, company, 0, system)
	if err != nil {
		t.Fatal(err)
	}
	system.Name = "Quay deck"
	two, err := records.SaveSystem(ctx, company, one, system)
	if err != nil || two <= one {
		t.Errorf("%d after %d: %v", two, one, err)
	}
	if err := records.DeleteSystem(ctx, company, one, "quay"); !errors.Is(err, store.ErrChanged) {
		t.Errorf("an older one is deleted: %v", err)
	}
	if all, err := records.Systems(ctx, company); err != nil || len(all) != 1 || all[0].Of.Name != "Quay deck" {
		t.Errorf("%+v, %v", all, err)
	}
	if err := records.DeleteSystem(ctx, company, two, "quay"); err != nil {
		t.Error(err)
	}
	if err := records.DeleteSystem(ctx, company, two, "quay"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("deleted twice: %v", err)
	}

	tin := kit.Container{ID: "tin-7", Sheet: "tide", Part: "kit", Lot: "T7"}
	base, err := records.SaveContainer(ctx, company, 0, tin)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := records.SaveContainer(ctx, company, base+3, tin); err != nil { // as it is: kept already
		t.Error(err)
	}
	if err := records.TakeOutContainer(ctx, company, base, "tin-7"); err != nil {
		t.Error(err)
	}
	if stock, err := records.Stock(ctx, company); err != nil || len(stock) != 0 {
		t.Errorf("%+v, %v", stock, err)
	}
}

// A sheet is kept edition by edition; where it is used is told, and it is put away and back.
func TestSheetsHaveEditions(t *testing.T) {
	ctx := t.Context()
	company, person := company(t)
	sheet := func(name string) material.Product { return material.Product{ID: "tide", Name: name, Kind: "primer"} }
	save := func(base int, name string) error {
		return records.SaveSheets(ctx, company, &person, store.NewSheet{Shelf: store.ProductShelf, ID: "tide", Base: base,
			Version: base + 1, Doc: sheet(name)})
	}
	if err := errors.Join(save(0, "Tide 40"), save(1, "Tide 40 HS")); err != nil {
		t.Fatal(err)
	}
	if err := save(1, "Tide 41"); !errors.Is(err, store.ErrSheetChanged) {
		t.Errorf("over a newer edition: %v", err)
	}
	if all, err := records.SheetVersions(ctx, company, store.ProductShelf, "tide"); err != nil || len(all) != 2 ||
		all[0].Version != 2 {
		t.Errorf("%+v, %v", all, err)
	}
	if v, err := records.SheetVersion(ctx, company, store.ProductShelf, []string{"tide", "ebb"}); err != nil ||
		v["tide"] != 2 || len(v) != 1 {
		t.Errorf("%v, %v", v, err)
	}
	f := file("Quay")
	f.Products = []material.Product{sheet("Tide 40 HS")}
	if _, err := records.AddJob(ctx, company, person, f, nil); err != nil {
		t.Fatal(err)
	}
	if users, err := records.Users(ctx, company, store.ProductShelf, "tide"); err != nil || len(users) != 1 ||
		users[0].Name != "Quay" {
		t.Errorf("%+v, %v", users, err)
	}
	if found, n, err := records.Sheets(ctx, company, store.ProductShelf,
		store.SheetQuery{Words: "tid hs", Kinds: []string{"primer"}}); err != nil || n != 1 || len(found) != 1 {
		t.Errorf("%d, %v", n, err)
	}
	if err := records.ArchiveSheet(ctx, company, store.ProductShelf, "tide", true); err != nil {
		t.Error(err)
	}
	if _, n, err := records.Sheets(ctx, company, store.ProductShelf, store.SheetQuery{}); err != nil || n != 0 {
		t.Errorf("%d sheets are shown, %v", n, err)
	}
	if row, err := records.Sheet(ctx, company, store.ProductShelf, "tide"); err != nil || !row.Archived {
		t.Errorf("%+v, %v", row, err)
	}
	if _, err := records.Sheet(ctx, company, store.ProductShelf, "ebb"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a sheet that is not there: %v", err)
	}
	if id, err := records.MostUsedSheet(ctx, company); err != nil || id != "" {
		t.Errorf("%q is used most, %v", id, err)
	}
}

// Second factors, recovery codes, password links, sessions and attempts count once each.
func TestTheDoorCountsOnce(t *testing.T) {
	ctx := t.Context()
	company, id := company(t)
	if err := records.SetFactor(ctx, company, id, "secret", 5, []string{"one", "two"}); err != nil {
		t.Fatal(err)
	}
	who, err := records.Person(ctx, company, id)
	if err != nil {
		t.Fatal(err)
	}
	if err := errors.Join(records.TakeStep(ctx, who, 6), records.TakeRecoveryCode(ctx, who, "one"),
		records.WantFactor(ctx, company, true)); err != nil {
		t.Error(err)
	}
	for name, again := range map[string]error{"a code": records.TakeStep(ctx, who, 6),
		"a recovery code": records.TakeRecoveryCode(ctx, who, "one"),
		"no code":         records.TakeRecoveryCode(ctx, who, "three")} {
		if !errors.Is(again, store.ErrNotFound) {
			t.Errorf("%s is taken again: %v", name, again)
		}
	}
	if left, err := records.RecoveryLeft(ctx, who); err != nil || left != 1 {
		t.Errorf("%d are left, %v", left, err)
	}
	if err := records.AddPasswordLink(ctx, company, id, id, "link", time.Now().Add(time.Hour)); err != nil {
		t.Fatal(err)
	}
	if err := records.PasswordLinkHolds(ctx, "link"); err != nil {
		t.Error(err)
	}
	if used, err := records.UsePasswordLink(ctx, "link", "hash"); err != nil || used.ID != id {
		t.Errorf("%v", err)
	}
	if _, err := records.UsePasswordLink(ctx, "link", "hash"); err == nil {
		t.Error("a link is used twice")
	}
	owner, of := uuid.NullUUID{UUID: id, Valid: true}, uuid.NullUUID{UUID: company, Valid: true}
	for _, token := range []string{"here", "there"} {
		if err := records.BeginSession(ctx, token+id.String(), []byte(token), time.Now().Add(time.Hour), of, owner,
			"a browser"); err != nil {
			t.Fatal(err)
		}
	}
	if err := records.EndSessions(ctx, company, id, "here"+id.String()); err != nil {
		t.Error(err)
	}
	if _, there, err := records.FindSession(ctx, "there"+id.String()); err != nil || there {
		t.Errorf("the other session is there: %v", err)
	}
	if all, err := records.Sessions(ctx, company, id); err != nil || len(all) != 1 {
		t.Errorf("%d sessions, %v", len(all), err)
	}
	key := "host " + id.String()
	for want := 1; want <= 3; want++ {
		if n, err := records.Attempt(ctx, key, time.Hour); err != nil || n != want {
			t.Errorf("attempt %d is counted as %d, %v", want, n, err)
		}
	}
	if err := errors.Join(records.ForgetAttempt(ctx, key), records.ForgetAttempts(ctx, key, time.Hour)); err != nil {
		t.Error(err)
	}
	if n, err := records.Attempt(ctx, key, time.Hour); err != nil || n != 1 {
		t.Errorf("%d attempts after they were forgotten, %v", n, err)
	}
}

// All of a company goes out in one archive and comes back into an empty one: plans, shelf, stock,
// record and photographs, without secrets. Into one that holds something, nothing comes.
func TestACompanyGoesOutAndComesBack(t *testing.T) {
	ctx := t.Context()
	from, person := company(t)
	at := addJob(t, from, person, "Quay")
	if _, err := records.SaveContainer(ctx, from, 0, kit.Container{ID: "tin", Sheet: "tide", Part: "kit"}); err != nil {
		t.Fatal(err)
	}
	if err := records.SaveSheets(ctx, from, &person, store.NewSheet{Shelf: store.ProductShelf, ID: "tide", Version: 1,
		Doc: material.Product{ID: "tide", Name: "Tide 40"}}); err != nil {
		t.Fatal(err)
	}
	if err := records.SaveSheets(ctx, from, &person, store.NewSheet{Shelf: store.MediumShelf, ID: "sand", Version: 1,
		Doc: material.Medium{ID: "sand", Name: "Sand"}}); err != nil {
		t.Fatal(err)
	}
	if _, err := records.SaveSystem(ctx, from, 0,
		buildup.System{ID: "quay", Name: "Quay", For: "floor", Coats: []buildup.Coat{{ID: "c", Product: "tide"}}}); err !=
		nil {
		t.Fatal(err)
	}
	before, err := records.House(ctx, from)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := records.SaveHouse(ctx, from, before.Revision,
		job.House{Crews: []job.StandingCrew{{ID: "north", Name: "North", People: 2}}}); err != nil {
		t.Fatal(err)
	}
	if _, err := records.Book(ctx, from, person, 0,
		[]days.Booked{{Job: at.String(), Task: "coat/c/pour", Crew: "north", From: time.Now(),
			Until: time.Now().Add(time.Hour)}}); err != nil {
		t.Fatal(err)
	}
	if err := records.Audit(ctx, from, uuid.NullUUID{UUID: person, Valid: true}, "changed a role", "Ida"); err != nil {
		t.Fatal(err)
	}
	if _, err := records.IssuePlan(ctx, from, person, at, uuid.New(), record.Issue{Name: "Quay"}); err != nil {
		t.Fatal(err)
	}
	e := record.Sealed(record.Event{ID: uuid.NewString(), Issue: 1, Kind: record.Noted, At: time.Now(), Device: "a-tablet",
		Number: 1, Person: person.String(), Body: record.Body{Text: "dry"}}, "")
	if _, err := records.Log(ctx, from, person, at, []record.Event{e}, time.Now()); err != nil {
		t.Fatal(err)
	}
	photo, err := records.AddPhoto(ctx, from, person, at, uuid.New(), "s", []byte("picture"), []byte("small"))
	if err != nil {
		t.Fatal(err)
	}
	if err := records.CaptionPhoto(ctx, from, photo, "the north wall"); err != nil {
		t.Fatal(err)
	}
	hash, err := records.KeepOriginal(ctx, from, person, "tern.txt", "text/plain", []byte("Tern 5"))
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	if err := records.Export(ctx, from, &out); err != nil {
		t.Fatal(err)
	}
	if bytes.Contains(out.Bytes(), []byte("password_hash")) {
		t.Error("it holds hashes of passwords")
	}
	archive, err := zip.NewReader(bytes.NewReader(out.Bytes()), int64(out.Len()))
	if err != nil {
		t.Fatal(err)
	}
	as := store.Checks{
		Plan:  func(text []byte) ([]byte, error) { return text, nil },
		Photo: func(picture []byte) (full, thumb []byte, err error) { return picture, picture[:1], nil },
	}
	if _, err := records.Import(ctx, from, archive, as); !errors.Is(err, store.ErrNotEmpty) {
		t.Errorf("into a company that holds something: %v", err)
	}
	into, err := records.AddCompany(ctx, "Other floors")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := records.Import(ctx, into, archive, as); err != nil {
		// The people of an archive sign in by their addresses, which are taken here.
		var bad *store.BadArchive
		if !errors.As(err, &bad) {
			t.Fatal(err)
		}
	}
	// Into another database it comes whole.
	other, err := store.Open(ctx, database(t))
	if err != nil {
		t.Fatal(err)
	}
	defer other.Close()
	if into, err = other.AddCompany(ctx, "Other floors"); err != nil {
		t.Fatal(err)
	}
	if report, err := other.Import(ctx, into, archive, as); err != nil || len(report.Faults) > 0 || report.Events != 1 ||
		report.Photos != 1 || report.Head == nil {
		t.Fatalf("%+v, %v", report, err)
	}
	if o, err := other.Original(ctx, into, hash); err != nil || string(o.Content) != "Tern 5" || o.Name != "tern.txt" {
		t.Errorf("the document %+v, %v", o, err)
	}
	jobs, err := other.Jobs(ctx, into, "quay", false)
	if err != nil || len(jobs) != 1 {
		t.Fatalf("%d jobs, %v", len(jobs), err)
	}
	if logged, err := other.Events(ctx, into, jobs[0].ID, 0); err != nil || len(logged.Events) != 1 ||
		logged.Events[0].Hash != e.Hash {
		t.Errorf("the record: %+v, %v", logged.Events, err)
	}
	photos, err := other.Photos(ctx, into, jobs[0].ID)
	if err != nil || len(photos) != 1 || photos[0].Caption != "the north wall" {
		t.Fatalf("the photographs: %+v, %v", photos, err)
	}
	if image, err := other.PhotoImage(ctx, into, photos[0].ID, false); err != nil || string(image) != "picture" {
		t.Errorf("%q, %v", image, err)
	}
	if err := other.RemovePhoto(ctx, into, photos[0].ID, true, uuid.NullUUID{}); err != nil {
		t.Error(err)
	}
	if _, err := other.PhotoImage(ctx, into, photos[0].ID, true); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("it was taken out of its job: %v", err)
	}
	if roster, err := other.Roster(ctx, into); err != nil || len(roster.Bookings) != 1 {
		t.Errorf("the roster: %+v, %v", roster, err)
	}
	if systems, err := other.Systems(ctx, into); err != nil || len(systems) != 1 {
		t.Errorf("the systems: %+v, %v", systems, err)
	}
	if house, err := other.House(ctx, into); err != nil || len(house.Of.Crews) != 1 {
		t.Errorf("the house: %+v, %v", house, err)
	}
	if stock, err := other.Stock(ctx, into); err != nil || len(stock) != 1 {
		t.Errorf("%d containers, %v", len(stock), err)
	}
}

// Calendar addresses are found by their secret and revoked; the log tells who did what; the room
// that a company takes is counted.
func TestLinksLogAndRoom(t *testing.T) {
	ctx := t.Context()
	company, person := company(t)
	link, err := records.AddCalendarLink(ctx, company, store.CalendarLink{Crew: "north"}, person, []byte(person.String()))
	if err != nil {
		t.Fatal(err)
	}
	if found, err := records.CalendarLink(ctx, []byte(person.String())); err != nil || found.ID != link ||
		found.Crew != "north" {
		t.Errorf("%+v, %v", found, err)
	}
	if err := records.RevokeCalendarLink(ctx, company, link); err != nil {
		t.Error(err)
	}
	if _, err := records.CalendarLink(ctx, []byte(person.String())); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("after it was revoked: %v", err)
	}
	if err := records.Audit(ctx, company, uuid.NullUUID{UUID: person, Valid: true}, "changed a role", "Ida"); err != nil {
		t.Fatal(err)
	}
	if log, err := records.AuditLog(ctx, company); err != nil || len(log) != 1 || log[0].What != "changed a role" {
		t.Errorf("%+v, %v", log, err)
	}
	addJob(t, company, person, "Quay")
	if room, err := records.Storage(ctx, company); err != nil || room.Plans <= 0 {
		t.Errorf("%+v, %v", room, err)
	}
	if err := records.SetUnits(ctx, company, person, "us"); err != nil {
		t.Error(err)
	}
	people, err := records.People(ctx, company)
	if err != nil || len(people) != 1 || people[0].Units != "us" {
		t.Errorf("%+v, %v", people, err)
	}
	if sites, err := records.OpenSites(ctx, company); err != nil || len(sites) != 1 || sites[0].Name != "Quay" {
		t.Errorf("%+v, %v", sites, err)
	}
	if open, count, err := records.Open(ctx, company, 10); err != nil || count != 1 || len(open) != 1 {
		t.Errorf("%d, %v", count, err)
	}
	done := 0
	if err := records.Alone(ctx, company, func(context.Context) error { done++; return nil }); err != nil || done != 1 {
		t.Errorf("done %d times, %v", done, err)
	}
}

// The roster is booked from the revision it was read at; the record takes an event once, and says
// whose id stands for another.
func TestTheRosterAndTheRecordTakeThingsOnce(t *testing.T) {
	ctx := t.Context()
	company, person := company(t)
	at := addJob(t, company, person, "Quay")
	first, err := records.Book(ctx, company, person, 0,
		[]days.Booked{{Job: at.String(), Task: "coat/c/pour", From: time.Now(), Until: time.Now().Add(time.Hour)}})
	if err != nil || first == 0 {
		t.Fatalf("%d, %v", first, err)
	}
	if _, err := records.Book(ctx, company, person, 0, nil); !errors.Is(err, store.ErrRosterMoved) {
		t.Errorf("over a newer one: %v", err)
	}
	if roster, err := records.Roster(ctx, company); err != nil || len(roster.Bookings) != 1 || roster.Revision != first {
		t.Errorf("%+v, %v", roster, err)
	}
	if _, err := records.IssuePlan(ctx, company, person, at, uuid.New(), record.Issue{Name: "Quay"}); err != nil {
		t.Fatal(err)
	}
	if n, err := records.IssueNumber(ctx, company, at); err != nil || n != 1 {
		t.Errorf("plan %d, %v", n, err)
	}
	note := func(text string) record.Event {
		return record.Sealed(record.Event{ID: person.String(), Issue: 1, Kind: record.Noted, At: time.Now(),
			Device: "a-tablet", Number: 1, Person: person.String(), Body: record.Body{Text: text}}, "")
	}
	e := note("dry")
	for range 2 {
		if other, err := records.Log(ctx, company, person, at, []record.Event{e}, time.Now()); err != nil || len(other) > 0 {
			t.Errorf("%v, %v", other, err)
		}
	}
	if other, err := records.Log(ctx, company, person, at, []record.Event{note("wet")}, time.Now()); err != nil ||
		len(other) != 1 {
		t.Errorf("another event of the same id: %v, %v", other, err)
	}
	if all, err := records.EventsByID(ctx, company, at, []string{e.ID}); err != nil || all[e.ID].Hash != e.Hash {
		t.Errorf("%+v, %v", all, err)
	}
	if past, err := records.PastCauses(ctx, company, uuid.New()); err != nil || len(past) != 0 {
		t.Errorf("%+v, %v", past, err)
	}
}

// A company is founded with its owner, found by an address of its people, and set by whoever runs
// the server; a database that answers is ready, and what cannot be reached is told apart.
func TestACompanyIsFoundedAndSet(t *testing.T) {
	ctx := t.Context()
	email := uuid.NewString() + "@test.example"
	company, err := records.Found(ctx, "Slipway Floors", store.Person{Name: "Ida", Email: email, Role: store.Owner,
		PasswordHash: "x", Units: "us"})
	if err != nil {
		t.Fatal(err)
	}
	if found, err := records.CompanyOf(ctx, email); err != nil || found != company {
		t.Errorf("%v, %v", found, err)
	}
	bridge, quota := "http://127.0.0.1:9", int64(1<<30)
	if err := records.SetCompany(ctx, email, &bridge, &quota); err != nil {
		t.Error(err)
	}
	if at, err := records.Bridge(ctx, company); err != nil || at != bridge {
		t.Errorf("%q, %v", at, err)
	}
	owner, err := records.PersonByEmail(ctx, email)
	if err != nil {
		t.Fatal(err)
	}
	if err := records.SetPassword(ctx, company, owner.ID, "new hash", ""); err != nil {
		t.Error(err)
	}
	if p, err := records.Colleague(ctx, company, owner.ID); err != nil || p.Name != "Ida" {
		t.Errorf("%+v, %v", p, err)
	}
	f := file("Quay")
	f.Job.Stock = []kit.Container{{ID: "tin", Sheet: "tide", Part: "kit"}}
	at, err := records.AddJob(ctx, company, owner.ID, f, nil)
	if err != nil {
		t.Fatal(err)
	}
	if all, err := records.Reservations(ctx, company); err != nil || len(all) != 1 || all[0].Container != "tin" {
		t.Errorf("%+v, %v", all, err)
	}
	if stamp, err := records.Stamp(ctx, company, at); err != nil || stamp.Revision != 1 {
		t.Errorf("%+v, %v", stamp, err)
	}
	j, err := records.Job(ctx, company, at)
	if err != nil {
		t.Fatal(err)
	}
	if err := records.KeepSummary(ctx, company, at, j.ChangedAt, map[string]int{"kits": 3}); err != nil {
		t.Error(err)
	}
	if room, err := records.Storage(ctx, company); err != nil || room.Used() <= 0 {
		t.Errorf("%+v, %v", room, err)
	}
	if err := records.SaveSheets(ctx, company, &owner.ID, store.NewSheet{Shelf: store.MediumShelf, ID: "sand", Version: 1,
		Doc: material.Medium{ID: "sand", Name: "Sand"}}); err != nil {
		t.Fatal(err)
	}
	if users, err := records.Users(ctx, company, store.MediumShelf, "sand"); err != nil || len(users) != 0 {
		t.Errorf("%+v, %v", users, err)
	}
	if err := records.DeleteSheet(ctx, company, store.MediumShelf, "sand"); err != nil {
		t.Error(err)
	}
	token := "kept " + owner.ID.String()
	of := uuid.NullUUID{UUID: owner.ID, Valid: true}
	if err := records.BeginSession(ctx, token, []byte("a"), time.Now().Add(time.Hour),
		uuid.NullUUID{UUID: company, Valid: true}, of, "a browser"); err != nil {
		t.Fatal(err)
	}
	if err := records.KeepSession(ctx, token, []byte("b"), time.Now().Add(time.Hour)); err != nil {
		t.Error(err)
	}
	if data, there, err := records.FindSession(ctx, token); err != nil || !there || string(data) != "b" {
		t.Errorf("%q, %v", data, err)
	}
	if err := records.EndSession(ctx, token); err != nil {
		t.Error(err)
	}
	if err := records.Ready(ctx); err != nil || store.Away(store.ErrNotFound) {
		t.Errorf("ready: %v", err)
	}
	gone, err := store.Open(ctx, database(t))
	if err != nil {
		t.Fatal(err)
	}
	if err := gone.Close(); err != nil {
		t.Fatal(err)
	}
	if err := gone.Ready(ctx); err == nil {
		t.Error("a closed database is ready")
	}
}

// A sheet that a system names is used by it, a medium as well as a product; a session is found with
// its person, and without one where nobody signed in yet.
func TestSystemsUseSheetsAndSessionsHavePeople(t *testing.T) {
	ctx := t.Context()
	company, person := company(t)
	grit := "sand"
	system := buildup.System{ID: "two", Name: "Two coats", For: "floor", Coats: []buildup.Coat{{ID: "a", Product: "tide",
		Scatter: &buildup.Scatter{Medium: grit}}}}
	if _, err := records.SaveSystem(ctx, company, 0, system); err != nil {
		t.Fatal(err)
	}
	for shelf, id := range map[store.Shelf]string{store.ProductShelf: "tide", store.MediumShelf: grit} {
		if users, err := records.Users(ctx, company, shelf, id); err != nil || len(users) != 1 || users[0].What != "system" {
			t.Errorf("%s: %+v, %v", id, users, err)
		}
	}
	until := time.Now().Add(time.Hour)
	signed := func(id uuid.UUID) uuid.NullUUID { return uuid.NullUUID{UUID: id, Valid: id != uuid.Nil} }
	for token, who := range map[string]uuid.UUID{"of a person": person, "of nobody": uuid.Nil} {
		if err := records.BeginSession(ctx, token, []byte("{}"), until, signed(company), signed(who), "browser"); err != nil {
			t.Fatal(err)
		}
		data, p, there, err := records.FindSignedIn(ctx, token)
		if err != nil || there != (who != uuid.Nil) || there &&
			(p.ID != who || p.CompanyID != company || string(data) != "{}") {
			t.Errorf("%s: %+v, %v, %v", token, p, there, err)
		}
		if _, there, err := records.FindSession(ctx, token); err != nil || !there {
			t.Errorf("%s: the session itself %v, %v", token, there, err)
		}
	}
	if _, _, there, err := records.FindSignedIn(ctx, "no such"); err != nil || there {
		t.Errorf("%v, %v", there, err)
	}
}
