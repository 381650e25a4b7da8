package store_test

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"
	"net/url"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/days"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/store"
	"nephelon/store/storetest"
)

// records is the scratch database, set by TestMain before any test.
var records *store.Store

func TestMain(m *testing.M) { storetest.Main(m, func(s *store.Store) { records = s }) }

// company makes one of its own with an owner, so that tests do not meet.
func company(t *testing.T) (company, person uuid.UUID) {
	t.Helper()
	company, err := records.AddCompany(t.Context(), t.Name())
	if err != nil {
		t.Fatal(err)
	}
	person, err = records.AddPerson(t.Context(), store.Person{
		CompanyID: company, Name: "Owner of " + t.Name(), Email: uuid.NewString() + "@test.example", Role: store.Owner,
		PasswordHash: "x", Units: measure.Metric,
	})
	if err != nil {
		t.Fatal(err)
	}
	return company, person
}

func file(name string) job.File {
	return job.File{Format: job.Format, Version: job.Version,
		Job: job.Job{Name: name, Client: "Client of " + name, Currency: "EUR", Surfaces: []job.Surface{}}}
}

// rowsOfBackup returns the rows of each table of a backup, sorted: PostgreSQL keeps them in no order.
func rowsOfBackup(t *testing.T, backup []byte) map[string][]string {
	t.Helper()
	plain, err := gzip.NewReader(bytes.NewReader(backup))
	if err != nil {
		t.Fatal(err)
	}
	all := make(map[string][]string)
	for archive := tar.NewReader(plain); ; {
		header, err := archive.Next()
		if errors.Is(err, io.EOF) {
			return all
		}
		if err != nil {
			t.Fatal(err)
		}
		text, err := io.ReadAll(archive)
		if err != nil {
			t.Fatal(err)
		}
		rows := strings.Split(string(text), "\n")
		slices.Sort(rows)
		all[strings.TrimSuffix(header.Name, ".copy")] = rows
	}
}

func addJob(t *testing.T, company, person uuid.UUID, name string) uuid.UUID {
	t.Helper()
	id, err := records.AddJob(t.Context(), company, person, file(name), nil)
	if err != nil {
		t.Fatal(err)
	}
	return id
}

func TestAStaleSaveOverwritesNothing(t *testing.T) {
	c, p := company(t)
	id := addJob(t, c, p, "first")
	save := func(base int64, name string) (int64, error) {
		kept, err := records.SaveJob(t.Context(), c, p, store.Save{Job: id, Base: base, ID: uuid.New(), File: file(name)})
		return kept.Revision, err
	}
	if revision, err := save(1, "second"); err != nil || revision != 2 {
		t.Fatalf("revision %d, %v", revision, err)
	}
	_, err := save(1, "third")
	var stale *store.Stale
	if !errors.As(err, &stale) {
		t.Fatalf("a stale save gave %v", err)
	}
	if stale.Base.Job.Name != "first" || stale.Theirs.File.Job.Name != "second" || stale.Theirs.Revision != 2 ||
		stale.Theirs.ChangedBy == "" {
		t.Errorf("told %+v", stale)
	}
	if j, err := records.Job(t.Context(), c, id); err != nil || j.File.Job.Name != "second" {
		t.Errorf("now %v, %v", j.File.Job.Name, err)
	}
}

func TestASaveSentTwiceIsKeptOnce(t *testing.T) {
	c, p := company(t)
	id := addJob(t, c, p, "first")
	save := store.Save{Job: id, Base: 1, ID: uuid.New(), File: file("second")}
	for range 3 {
		if kept, err := records.SaveJob(t.Context(), c, p, save); err != nil || kept.Revision != 2 || kept.At.IsZero() ||
			kept.Shelf < 1 {
			t.Fatalf("%+v, %v", kept, err)
		}
	}
}

// Of many saves from one base exactly one lands; none is lost silently.
func TestOneOfManySavesLands(t *testing.T) {
	c, p := company(t)
	id := addJob(t, c, p, "first")
	const writers = 8
	var group sync.WaitGroup
	results := make([]error, writers)
	for i := range writers {
		group.Go(func() {
			_, results[i] = records.SaveJob(context.Background(), c, p,
				store.Save{Job: id, Base: 1, ID: uuid.New(), File: file(fmt.Sprint(i))})
		})
	}
	group.Wait()
	landed := 0
	for _, err := range results {
		var stale *store.Stale
		switch {
		case err == nil:
			landed++
		case !errors.As(err, &stale):
			t.Errorf("a save gave %v", err)
		}
	}
	if landed != 1 {
		t.Errorf("%d saves landed", landed)
	}
}

func TestAnotherCompanySeesNothing(t *testing.T) {
	c, p := company(t)
	id := addJob(t, c, p, "hidden")
	other, err := records.AddCompany(t.Context(), "other")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := records.Job(t.Context(), other, id); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("reading gave %v", err)
	}
	if _, err := records.SaveJob(t.Context(), other, p,
		store.Save{Job: id, Base: 1, ID: uuid.New(), File: file("stolen")}); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("saving gave %v", err)
	}
	if err := records.ArchiveJob(t.Context(), other, id, true); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("archiving gave %v", err)
	}
	if lines, err := records.Jobs(t.Context(), other, "", false); err != nil || len(lines) != 0 {
		t.Errorf("listing gave %v, %v", lines, err)
	}
	if _, err := records.ChangePerson(t.Context(), other, p, 1, store.Hand, true); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("changing a person gave %v", err)
	}
}

func TestJobsAreSearchedAndPutAway(t *testing.T) {
	c, p := company(t)
	id := addJob(t, c, p, "Weighbridge % deck")
	addJob(t, c, p, "Chapel steps")
	for words, want := range map[string]int{"": 2, "weigh": 1, "CLIENT of": 2, "%": 1, "nothing": 0} {
		if lines, err := records.Jobs(t.Context(), c, words, false); err != nil || len(lines) != want {
			t.Errorf("%q finds %d, want %d (%v)", words, len(lines), want, err)
		}
	}
	if err := records.ArchiveJob(t.Context(), c, id, true); err != nil {
		t.Fatal(err)
	}
	kept, _ := records.Jobs(t.Context(), c, "", false)
	away, _ := records.Jobs(t.Context(), c, "", true)
	if len(kept) != 1 || len(away) != 1 || away[0].ID != id {
		t.Errorf("kept %v, away %v", kept, away)
	}
}

func TestTheLastOwnerStays(t *testing.T) {
	c, p := company(t)
	if _, err := records.ChangePerson(t.Context(), c, p, 1, store.Hand, true); !errors.Is(err, store.ErrLastOwner) {
		t.Errorf("got %v", err)
	}
	if still, err := records.Person(t.Context(), c, p); err != nil || still.Role != store.Owner {
		t.Errorf("now %v, %v", still.Role, err)
	}
	if _, err := records.AddPerson(t.Context(), store.Person{CompanyID: c, Name: "twin", Email: "Twin@test.example",
		Role: store.Hand, Units: measure.US}); err != nil {
		t.Fatal(err)
	}
	if _, err := records.AddPerson(t.Context(), store.Person{CompanyID: c, Name: "twin", Email: "twin@test.example",
		Role: store.Hand, Units: measure.US}); !errors.Is(err, store.ErrEmailTaken) {
		t.Errorf("a second of the same address gave %v", err)
	}
}

func TestSavesAreToldToListeners(t *testing.T) {
	c, p := company(t)
	id := addJob(t, c, p, "watched")
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
	defer cancel()
	heard := make(chan store.Change, 64)
	go func() { _ = records.Listen(ctx, func() {}, func(change store.Change) { heard <- change }) }()
	// The listener may come up after a save, so saving goes on until one is
	// heard.
	for base := int64(1); ; base++ {
		if _, err := records.SaveJob(ctx, c, p,
			store.Save{Job: id, Base: base, ID: uuid.New(), File: file("watched")}); err != nil {
			t.Fatal(err)
		}
		select {
		case change := <-heard:
			if change.ID != id || change.Revision < 2 {
				t.Errorf("heard %v", change)
			}
			return
		case <-time.After(50 * time.Millisecond):
		}
	}
}

// Plans that are asked for: one at a time for a company, the others wait; whoever works at
// one says so, and one that nobody works at is taken up again; what is stopped stays so.
func TestRunsAreTakenUpAgain(t *testing.T) {
	s, ctx := records, t.Context()
	company, person := company(t)
	add := func() uuid.UUID {
		t.Helper()
		id, err := s.AddRun(ctx, company, person, []byte(`{"seconds":1}`))
		if err != nil {
			t.Fatal(err)
		}
		return id
	}
	// Runs of other tests are none of this one's.
	take := func() uuid.UUID {
		t.Helper()
		for {
			r, err := s.TakeRun(ctx)
			if errors.Is(err, store.ErrNotFound) {
				return uuid.Nil
			}
			if err != nil {
				t.Fatal(err)
			}
			if r.Company == company {
				return r.ID
			}
		}
	}
	first, second := add(), add()
	untaken := func() bool {
		t.Helper()
		r, err := s.Run(ctx, company, second)
		if err != nil {
			t.Fatal(err)
		}
		return r.Untaken
	}
	if untaken() {
		t.Error("a plan that was just asked for is not left by everybody yet")
	}
	if _, err := s.DB().ExecContext(ctx, `update roster_runs set made_at = made_at - interval '1 minute',
		beat = beat - interval '1 minute'`); err != nil {
		t.Fatal(err)
	}
	if !untaken() {
		t.Error("it waits for a minute, and nobody works at any")
	}
	if got := take(); got != first {
		t.Fatalf("took %v, want the oldest, %v", got, first)
	}
	if untaken() {
		t.Error("it waits for another that is worked at")
	}
	if got := take(); got != uuid.Nil {
		t.Errorf("took %v while another is worked at", got)
	}
	if goes, err := s.Beat(ctx, first, []byte(`{"seconds":0.5}`)); err != nil || !goes {
		t.Errorf("%v, %v", goes, err)
	}
	// Its server is gone: nobody said anything for long.
	if _, err := s.DB().ExecContext(ctx, `update roster_runs set beat = now() - interval '1 minute'
		where id = $1`, first); err != nil {
		t.Fatal(err)
	}
	if got := take(); got != first {
		t.Errorf("took %v, want the one that was left, %v", got, first)
	}
	if r, err := s.Run(ctx, company, first); err != nil || r.State != store.RunRunning || r.Progress != nil {
		t.Errorf("%+v, %v", r, err)
	}
	if err := s.EndRun(ctx, first, []byte(`{"trouble":"none"}`)); err != nil {
		t.Fatal(err)
	}
	if r, err := s.Run(ctx, company, first); err != nil || r.State != store.RunDone || len(r.Answer) == 0 {
		t.Errorf("%+v, %v", r, err)
	}
	if got := take(); got != second {
		t.Errorf("took %v, want the next, %v", got, second)
	}
	if err := s.StopRun(ctx, uuid.New(), second); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("another company stopped it: %v", err)
	}
	if err := s.StopRun(ctx, company, second); err != nil {
		t.Fatal(err)
	}
	if goes, err := s.Beat(ctx, second, nil); err != nil || goes {
		t.Errorf("it goes on after it was stopped: %v, %v", goes, err)
	}
	if err := s.EndRun(ctx, second, []byte(`{}`)); err != nil {
		t.Fatal(err)
	}
	if r, err := s.Run(ctx, company, second); err != nil || r.State != store.RunStopped || r.Answer != nil {
		t.Errorf("%+v, %v", r, err)
	}
	if _, err := s.Run(ctx, uuid.New(), first); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("another company reads it: %v", err)
	}
	for range store.MostWaiting {
		add()
	}
	if _, err := s.AddRun(ctx, company, person, []byte(`{}`)); !errors.Is(err, store.ErrManyWait) {
		t.Errorf("one more than may wait: %v", err)
	}
}

// The database itself refuses to change or take away what was recorded.
func TestTheRecordCannotBeChanged(t *testing.T) {
	c, p := company(t)
	id := addJob(t, c, p, "recorded")
	if _, err := records.IssuePlan(t.Context(), c, p, id, uuid.New(),
		record.Issue{To: "crew", At: time.Now()}); err != nil {
		t.Fatal(err)
	}
	e := record.Sealed(record.Event{ID: uuid.NewString(), Kind: record.Noted, Body: record.Body{Text: "x"}}, "")
	if _, err := records.Log(t.Context(), c, p, id, []record.Event{e}, time.Now()); err != nil {
		t.Fatal(err)
	}
	for _, table := range []string{"events", "issues"} {
		for _, change := range []string{"update " + table + " set doc = '{}'", "delete from " + table, "truncate " + table} {
			if _, err := records.DB().ExecContext(t.Context(), change); err == nil ||
				!strings.Contains(err.Error(), "never changed") {
				t.Errorf("%s: %v", change, err)
			}
		}
	}
	// Of a job of somebody else nothing is logged.
	other, person := company(t)
	if _, err := records.Log(t.Context(), other, person, id, []record.Event{e}, time.Now()); !errors.Is(err,
		store.ErrNotFound) {
		t.Errorf("%v", err)
	}
}

// database makes an empty database beside the others, and tells its address.
func database(t testing.TB) string {
	t.Helper()
	name := "t" + strings.ReplaceAll(uuid.NewString(), "-", "")
	if _, err := records.DB().ExecContext(t.Context(), "create database "+name); err != nil {
		t.Fatal(err)
	}
	address, err := url.Parse(records.URL())
	if err != nil {
		t.Fatal(err)
	}
	address.Path = "/" + name
	return address.String()
}

// Servers that start together on an empty database all come up.
func TestServersStartTogether(t *testing.T) {
	address := database(t)
	var all sync.WaitGroup
	for range 6 {
		all.Go(func() {
			s, err := store.Open(t.Context(), address)
			if err != nil {
				t.Error(err)
				return
			}
			if err := s.Close(); err != nil {
				t.Error(err)
			}
		})
	}
	all.Wait()
}

// A program refuses tables that a newer one has made, and says so.
func TestANewerSchemaIsRefused(t *testing.T) {
	address := database(t)
	s, err := store.Open(t.Context(), address)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.DB().ExecContext(t.Context(), `insert into goose_db_version (version_id, is_applied)
		values (99999, true)`); err != nil {
		t.Fatal(err)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	if _, err := store.Open(t.Context(), address); !errors.Is(err, store.ErrNewerSchema) ||
		!strings.Contains(err.Error(), "version 99999") {
		t.Errorf("%v", err)
	}
}

// Two owners who take each other's role at once leave one.
func TestTwoOwnersLeaveOne(t *testing.T) {
	for range 20 {
		c, one := company(t)
		two, err := records.AddPerson(t.Context(),
			store.Person{CompanyID: c, Name: "Other", Email: uuid.NewString() + "@test.example", Role: store.Owner,
				PasswordHash: "x", Units: measure.Metric})
		if err != nil {
			t.Fatal(err)
		}
		var both sync.WaitGroup
		errs := make([]error, 2)
		for n, id := range []uuid.UUID{one, two} {
			both.Go(func() { _, errs[n] = records.ChangePerson(t.Context(), c, id, 1, store.Hand, true) })
		}
		both.Wait()
		if (errs[0] == nil) == (errs[1] == nil) {
			t.Fatalf("both ended with %v and %v", errs[0], errs[1])
		}
	}
}

// Of someone who left a role and a number stay; of who is still there nothing is taken.
func TestAPersonIsForgotten(t *testing.T) {
	c, owner := company(t)
	id, err := records.AddPerson(t.Context(),
		store.Person{CompanyID: c, Name: "Nils Holm", Email: uuid.NewString() + "@test.example", Role: store.Hand,
			PasswordHash: "x", Units: measure.Metric})
	if err != nil {
		t.Fatal(err)
	}
	if err := records.ForgetPerson(t.Context(), c, id); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("somebody active is forgotten: %v", err)
	}
	// What they logged and issued stays, and says a role and a number.
	job := addJob(t, c, owner, "Salt cellar")
	if _, err := records.IssuePlan(t.Context(), c, id, job, uuid.New(),
		record.Issue{At: time.Now(), By: "Nils Holm"}); err != nil {
		t.Fatal(err)
	}
	e := record.Sealed(record.Event{ID: uuid.NewString(), Kind: record.Noted, Issue: 1, At: time.Now(),
		Device: "their-tablet", Number: 1, Person: id.String(), Name: "Nils Holm", Body: record.Body{Text: "x"}}, "")
	if _, err := records.Log(t.Context(), c, id, job, []record.Event{e}, time.Now()); err != nil {
		t.Fatal(err)
	}
	_, err = records.ChangePerson(t.Context(), c, id, 1, store.Hand, false)
	if err := errors.Join(err, records.ForgetPerson(t.Context(), c, id)); err != nil {
		t.Fatal(err)
	}
	people, err := records.People(t.Context(), c)
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range people {
		if p.ID == id {
			told, err := records.Events(t.Context(), c, job, 0)
			if err != nil || len(told.Events) != 1 || told.Events[0].Name != p.Name || len(record.Breaks(told.Events)) > 0 {
				t.Errorf("the record says %+v, %v", told.Events, err)
			}
			if issues, err := records.Issues(t.Context(), c, job); err != nil || issues[0].By != p.Name {
				t.Errorf("the plan is by %q, %v", issues[0].By, err)
			}
			var left int
			if err := records.DB().QueryRowContext(t.Context(), `select (select count(*) from events
				where doc::text like '%Nils Holm%') + (select count(*) from issues
				where doc::text like '%Nils Holm%') + (select count(*) from people
				where name like '%Nils%')`).Scan(&left); err != nil || left > 0 {
				t.Errorf("%d rows still name them, %v", left, err)
			}
		}
		if p.ID != owner && (!strings.HasPrefix(p.Name, "Hand ") || strings.Contains(p.Email, "test.example")) {
			t.Errorf("%+v", p)
		}
	}
}

// A backup made while others save comes back into an empty database, row for row; one that is
// damaged or breaks off brings nothing, and one is not brought over records.
func TestABackupComesBack(t *testing.T) {
	var tables []string
	rows, err := records.DB().QueryContext(t.Context(), `select tablename from pg_tables where schemaname = 'public'`)
	if err != nil {
		t.Fatal(err)
	}
	defer rows.Close()
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			t.Fatal(err)
		}
		tables = append(tables, name)
	}
	if err := rows.Err(); err != nil {
		t.Fatal(err)
	}
	known := store.BackupTables(t)
	for _, name := range tables {
		if !slices.Contains(known, name) {
			t.Errorf("a backup does not know the table %s", name)
		}
	}
	c, p := company(t)
	id := addJob(t, c, p, "kept in a backup")
	if _, err := records.IssuePlan(t.Context(), c, p, id, uuid.New(),
		record.Issue{To: "crew", At: time.Now()}); err != nil {
		t.Fatal(err)
	}
	e := record.Sealed(record.Event{ID: uuid.NewString(), Kind: record.Noted,
		Body: record.Body{Text: "x\twith\n signs \\ and ü"}}, "")
	if _, err := records.Log(t.Context(), c, p, id, []record.Event{e}, time.Now()); err != nil {
		t.Fatal(err)
	}
	over := make(chan struct{})
	var busy sync.WaitGroup
	busy.Go(func() {
		for n := 0; ; n++ {
			select {
			case <-over:
				return
			default:
				addJob(t, c, p, fmt.Sprintf("meanwhile %d", n))
			}
		}
	})
	var file bytes.Buffer
	made, err := records.Backup(t.Context(), &file)
	close(over)
	busy.Wait()
	if err != nil {
		t.Fatal(err)
	}
	// What is given up leaves free space, and rows that fill it lie in another order: a database
	// of its own for what is restored whole and compared.
	fresh := func() *store.Store {
		s, err := store.Open(t.Context(), database(t))
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { _ = s.Close() })
		return s
	}
	spoilt, empty, whole := fresh(), fresh(), file.Bytes()
	plain, err := gzip.NewReader(bytes.NewReader(whole))
	if err != nil {
		t.Fatal(err)
	}
	content, err := io.ReadAll(plain)
	if err != nil {
		t.Fatal(err)
	}
	var changed bytes.Buffer
	zip := gzip.NewWriter(&changed)
	if _, err := zip.Write(bytes.ReplaceAll(content, []byte("kept in a backup"), []byte("kept on a backup"))); err != nil {
		t.Fatal(err)
	}
	if err := zip.Close(); err != nil {
		t.Fatal(err)
	}
	for name, damaged := range map[string]struct {
		content []byte
		told    string
	}{
		"breaks off":        {whole[:len(whole)*2/3], ""},
		"is something else": {[]byte("hello"), "no backup"},
		"was changed":       {changed.Bytes(), "checksum mismatch"},
	} {
		if _, err := spoilt.Restore(t.Context(), bytes.NewReader(damaged.content)); err == nil ||
			!strings.Contains(err.Error(), damaged.told) {
			t.Errorf("a backup that %s: %v", name, err)
		}
		if there, _ := spoilt.HasCompany(t.Context()); there {
			t.Fatalf("a backup that %s leaves something", name)
		}
	}
	if _, err := empty.Restore(t.Context(), bytes.NewReader(whole)); err != nil {
		t.Fatal(err)
	}
	var again bytes.Buffer
	back, err := empty.Backup(t.Context(), &again)
	if err != nil {
		t.Fatal(err)
	}
	before, after := rowsOfBackup(t, whole), rowsOfBackup(t, again.Bytes())
	for n, one := range made.Tables {
		if got := back.Tables[n]; got.Rows != one.Rows || !slices.Equal(before[one.Name], after[one.Name]) {
			t.Errorf("%s: %d rows came back as %d others", one.Name, one.Rows, got.Rows)
		}
	}
	logged, err := empty.Events(t.Context(), c, id, 0)
	if err != nil || len(logged.Events) != 1 || record.Sum(logged.Events[0]) != e.Hash {
		t.Errorf("%+v %v", logged, err)
	}
	if _, err := empty.Restore(t.Context(), bytes.NewReader(whole)); !errors.Is(err, store.ErrNotEmpty) {
		t.Errorf("brought over records: %v", err)
	}
}

// A booking counts as a change of the jobs that it is of, and of no other: their versions grow, and what a list shows
// of them is worked out anew. A job's facts are its own bookings.
func TestBookingsChangeTheirJobs(t *testing.T) {
	ctx := t.Context()
	c, p := company(t)
	one, other := addJob(t, c, p, "booked"), addJob(t, c, p, "free")
	versions := func() (int64, int64) {
		a, err := records.Stamp(ctx, c, one)
		b, bad := records.Stamp(ctx, c, other)
		if err != nil || bad != nil {
			t.Fatal(err, bad)
		}
		return a.Version(), b.Version()
	}
	began := time.Date(2031, 3, 4, 7, 0, 0, 0, time.UTC)
	booking := days.Booked{Job: one.String(), Task: "coat/c/pour", From: began, Until: began.Add(time.Hour), Crew: "crew"}
	base := int64(0)
	for n, s := range []struct {
		name     string
		bookings []days.Booked
		grows    int64
	}{
		{"booked", []days.Booked{booking}, 1}, {"pinned, the same hours", []days.Booked{func() days.Booked {
			pinned := booking
			pinned.Pinned = true
			return pinned
		}()}, 0},
		{"an hour later", []days.Booked{{Job: booking.Job, Task: booking.Task, From: began.Add(time.Hour),
			Until: began.Add(2 * time.Hour), Crew: "a"}}, 1},
		{"taken out", nil, 1},
	} {
		before, free := versions()
		revision, err := records.Book(ctx, c, p, base, s.bookings)
		if err != nil {
			t.Fatal(err)
		}
		base = revision
		after, still := versions()
		if after-before != s.grows || still != free {
			t.Errorf("%s: version %d after %d, of the other job %d after %d", s.name, after, before, still, free)
		}
		world, err := records.Facts(ctx, c, one, began)
		if err != nil || !world.Now.Equal(began) || len(world.Bookings) != len(s.bookings) ||
			n == 2 && !world.Bookings[0].From.Equal(began.Add(time.Hour)) {
			t.Errorf("%s: %+v, %v", s.name, world, err)
		}
		if none, err := records.Facts(ctx, c, other, began); err != nil || len(none.Bookings) != 0 {
			t.Errorf("%s: the other job has %+v, %v", s.name, none, err)
		}
	}
}
