package store_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/record"
	"nephelon/core/record/ledger"
	"nephelon/store"
)

// logged is a company with two jobs, events of three devices, a plan for each job and photographs.
type logged struct {
	company, person, other uuid.UUID
	jobs                   [2]uuid.UUID
	photo                  uuid.UUID
	outside                string   // the newest head, as somebody keeps it
	heads                  []string // one after each event
}

func newLogged(t *testing.T) *logged {
	t.Helper()
	ctx := t.Context()
	l := &logged{}
	l.company, l.person = company(t)
	var err error
	if l.other, err = records.AddPerson(ctx, store.Person{CompanyID: l.company, Name: "Another", Role: store.Lead,
		Email: uuid.NewString() + "@test.example", PasswordHash: "x", Units: "metric"}); err != nil {
		t.Fatal(err)
	}
	for n := range l.jobs {
		l.jobs[n] = l.job(t)
	}
	photo, err := records.AddPhoto(ctx, l.company, l.person, l.jobs[0], uuid.New(), "s", []byte("picture"),
		[]byte("small"))
	if err != nil {
		t.Fatal(err)
	}
	l.photo = photo
	l.log(t, 0, "tablet-north", 1, 12, "")
	l.log(t, 0, "tablet-south", 1, 9, "")
	l.log(t, 1, "tablet-quay", 1, 5, "")
	e := record.Sealed(record.Event{ID: uuid.NewString(), Job: l.jobs[0].String(), Plan: l.sum(t, 0), Issue: 1,
		Kind: record.Pictured, At: time.Now(), Device: "tablet-photo", Number: 1, Person: l.person.String(),
		Body: record.Body{Photo: photo.String()}}, "")
	if _, err := records.Log(ctx, l.company, l.person, l.jobs[0], []record.Event{e}, time.Now()); err != nil {
		t.Fatal(err)
	}
	if l.outside, _, err = records.Head(ctx, l.company, 0); err != nil || l.outside == "" {
		t.Fatalf("no head: %v", err)
	}
	return l
}

// job adds a job with an issued plan.
func (l *logged) job(t *testing.T) uuid.UUID {
	t.Helper()
	id := addJob(t, l.company, l.person, "Quay")
	if _, err := records.IssuePlan(t.Context(), l.company, l.person, id, uuid.New(),
		record.Issue{Name: "Quay", At: time.Now().UTC().Truncate(time.Millisecond)}); err != nil {
		t.Fatal(err)
	}
	return id
}

func (l *logged) sum(t *testing.T, job int) string {
	t.Helper()
	sums, err := records.IssueSums(t.Context(), l.company, l.jobs[job])
	if err != nil || sums[1] == "" {
		t.Fatalf("%v, %v", sums, err)
	}
	return sums[1]
}

// log logs events of a device, each sent on its own, and returns the hash of the last.
func (l *logged) log(t *testing.T, job int, device string, from, until int64, before string) string {
	t.Helper()
	for n := from; n <= until; n++ {
		e := record.Sealed(record.Event{ID: uuid.NewString(), Job: l.jobs[job].String(), Plan: l.sum(t, job), Issue: 1,
			Kind: record.Noted, At: time.Now(), Device: device, Number: n, Person: l.person.String(),
			Body: record.Body{Text: fmt.Sprintf("note %d", n)}}, before)
		before = e.Hash
		if _, err := records.Log(t.Context(), l.company, l.person, l.jobs[job], []record.Event{e}, time.Now()); err != nil {
			t.Fatal(err)
		}
		head, _, err := records.Head(t.Context(), l.company, 0)
		if err != nil {
			t.Fatal(err)
		}
		l.heads = append(l.heads, head)
	}
	return before
}

// below runs statements as whoever may do everything in the database: no trigger hinders them.
func (l *logged) below(t *testing.T, statements ...string) {
	t.Helper()
	conn, err := records.DB().Conn(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	for _, s := range append(append([]string{`set session_replication_role = replica`}, statements...),
		`set session_replication_role = origin`) {
		s = strings.NewReplacer("$company", "'"+l.company.String()+"'", "$job", "'"+l.jobs[0].String()+"'", "$second",
			"'"+l.jobs[1].String()+"'", "$other", "'"+l.other.String()+"'", "$photo",
			"'"+l.photo.String()+"'").Replace(s)
		if _, err := conn.ExecContext(t.Context(), s); err != nil {
			t.Fatalf("%s: %v", s, err)
		}
	}
}

// anew changes events of a device of the first job from a number on, and seals them anew to its end.
func (l *logged) anew(t *testing.T, device string, from int64, change func(*record.Event)) {
	t.Helper()
	all, err := records.Events(t.Context(), l.company, l.jobs[0], 0)
	if err != nil {
		t.Fatal(err)
	}
	before := ""
	for _, e := range all.Events {
		if e.Device != device {
			continue
		}
		e.Name, e.Received = "", nil
		if e.Number >= from {
			change(&e)
			e = record.Sealed(e, before)
			doc, err := json.Marshal(e)
			if err != nil {
				t.Fatal(err)
			}
			l.below(t, fmt.Sprintf(`update events set doc = '%s' where company_id = $company and id = '%s'`, doc, e.ID))
		}
		before = e.Hash
	}
}

// check returns what a check finds, with the heads that are kept outside.
func (l *logged) check(t *testing.T, outside ...string) ledger.Report {
	t.Helper()
	e, err := records.Evidence(t.Context(), l.company)
	if err != nil {
		t.Fatal(err)
	}
	return ledger.Check(e, nil, outside)
}

// rewrite forgets the log and begins it anew with what is kept, as the program itself would.
func (l *logged) rewrite(t *testing.T) {
	t.Helper()
	l.below(t, `delete from log_entries where company_id = $company`, `delete from log_hashes where company_id = $company`,
		`delete from log_heads where company_id = $company`)
	if _, err := records.AddPhoto(t.Context(), l.company, l.person, l.jobs[1], uuid.New(), "s", []byte("x"),
		[]byte("x")); err != nil {
		t.Fatal(err)
	}
}

const (
	lastOfNorth = `(select id from events where company_id = $company and device = 'tablet-north'
		order by number desc limit 1)`
	cutEvents = `delete from events where company_id = $company and id::text in (select entry ->> 'item' from log_entries
		where company_id = $company and number >= (select max(number) - 9 from log_entries where company_id = $company))`
	cutLog = `delete from log_entries where company_id = $company and number >= (select max(number) - 9 from log_entries
		where company_id = $company)`
)

// Whatever somebody with all rights on the database does to a record below the program shows:
// against the log, or, where the log was changed with it, against a head that was kept outside.
func TestTamperingShows(t *testing.T) {
	whole := newLogged(t)
	if r := whole.check(t, whole.outside); len(r.Faults) > 0 || r.Events != 27 || r.Plans != 2 || r.Head == nil ||
		r.Outside != 1 {
		t.Fatalf("a whole record: %+v", r)
	}
	note := func(text string) func(*record.Event) {
		return func(e *record.Event) { e.Body.Text = text }
	}
	for _, c := range []struct {
		name    string
		do      func(t *testing.T, l *logged)
		want    string
		outside bool // only a head from outside shows it
	}{
		{"an event changed", func(t *testing.T, l *logged) {
			l.below(t, `update events set doc = jsonb_set(doc, '{body,text}', '"dry"') where company_id = $company
				and id = `+lastOfNorth)
		}, "was changed after it was logged", false},
		{"the last event sealed anew", func(t *testing.T, l *logged) { l.anew(t, "tablet-north", 12, note("dry")) },
			"was changed after the server took it", false},
		{"the last events gone", func(t *testing.T, l *logged) {
			l.below(t, `delete from events where company_id = $company and device = 'tablet-north' and number > 4`)
		}, "is missing", false},
		{"a device gone", func(t *testing.T, l *logged) {
			l.below(t, `delete from events where company_id = $company and device = 'tablet-south'`)
		}, "is missing", false},
		{"a chain sealed anew to its end", func(t *testing.T, l *logged) { l.anew(t, "tablet-north", 3, note("level")) },
			"was changed after the server took it", false},
		{"an issued plan changed", func(t *testing.T, l *logged) {
			l.below(t, `update issues set doc = jsonb_set(doc, '{name}', '"Pier"') where company_id = $company`)
		}, "Plan 1 was changed after it was issued", false},
		{"a plan and its hash changed", func(t *testing.T, l *logged) {
			l.below(t, `update issues set doc = jsonb_set(doc, '{name}', '"Pier"'), hash = 'x' where company_id = $company`)
		}, "was logged on another plan 1 than is kept", false},
		{"a plan gone", func(t *testing.T, l *logged) {
			l.below(t, `delete from issues where company_id = $company and job_id = $job`)
		}, "The plan 1, taken at", false},
		{"another person's name", func(t *testing.T, l *logged) {
			l.below(t, `update events set person_id = $other where company_id = $company and device = 'tablet-north'`)
		}, "in the name of another person", false},
		{"another person, sealed anew", func(t *testing.T, l *logged) {
			l.anew(t, "tablet-south", 1, func(e *record.Event) { e.Person = l.other.String() })
		}, "was changed after the server took it", false},
		{"events taken into another job", func(t *testing.T, l *logged) {
			l.below(t, `insert into events (company_id, job_id, id, device, number, doc, person_id, received_at)
				select company_id, $second, id, device, number, doc, person_id, received_at from events
				where company_id = $company and device = 'tablet-north'`)
		}, "was taken into the job", false},
		{"a photograph deleted", func(t *testing.T, l *logged) {
			l.below(t, `delete from photos where company_id = $company and id = $photo`)
		}, "taken into the record at", false},
		{"a photograph swapped", func(t *testing.T, l *logged) {
			l.below(t, `update photos set image = 'another' where company_id = $company and id = $photo`)
		}, "another picture than was taken", false},
		{"another time of arrival", func(t *testing.T, l *logged) {
			l.below(t, `update events set received_at = received_at - interval '2 days' where company_id = $company
				and device = 'tablet-north'`)
		}, "received at another time", false},
		{"an event added", func(t *testing.T, l *logged) {
			all, err := records.Events(t.Context(), l.company, l.jobs[0], 0)
			if err != nil {
				t.Fatal(err)
			}
			e := record.Sealed(record.Event{ID: uuid.NewString(), Issue: 1, Kind: record.Noted, At: time.Now(),
				Device: "new-tablet", Number: 1, Person: l.person.String(), Body: record.Body{Text: "dry"}}, "")
			doc, err := json.Marshal(e)
			if err != nil || len(all.Events) == 0 {
				t.Fatal(err)
			}
			l.below(t, fmt.Sprintf(`insert into events (company_id, job_id, id, device, number, doc, person_id)
				values ($company, $job, '%s', 'new-tablet', 1, '%s', '%s')`, e.ID, doc, l.person))
		}, "was added below the program", false},
		{"an entry of the log changed", func(t *testing.T, l *logged) {
			l.below(t, `update log_entries set entry = jsonb_set(entry, '{at}', '"2026-01-01T00:00:00Z"')
				where company_id = $company and number = 1`)
		}, "does not fit the first", false},
		{"an entry of the log gone", func(t *testing.T, l *logged) {
			l.below(t, `delete from log_entries where company_id = $company and number = 9`)
		}, "stands where entry 9 belongs", false},
		{"the end of log and record gone, its heads left", func(t *testing.T, l *logged) {
			l.below(t, cutEvents, cutLog)
		}, "A head that was kept outside", true},
		{"a head changed", func(t *testing.T, l *logged) {
			l.below(t, `update log_heads set note = replace(note, 'at 20', 'at 19') where company_id = $company`)
		}, "changed after it was signed", false},
		{"the end of log, heads and record gone", func(t *testing.T, l *logged) {
			l.below(t, cutEvents, cutLog,
				`delete from log_heads where company_id = $company and size > (select max(number) + 1 from log_entries
				where company_id = $company)`)
		}, "covers 32 entries; 10 of them are missing", true},
		{"event, chain and the whole log written anew", func(t *testing.T, l *logged) {
			l.anew(t, "tablet-north", 3, note("level"))
			l.rewrite(t)
		}, "A head that was kept outside", true},
	} {
		t.Run(c.name, func(t *testing.T) {
			l := newLogged(t)
			c.do(t, l)
			inside, told := l.check(t), l.check(t, l.outside)
			if c.outside && len(inside.Faults) > 0 {
				t.Errorf("it is told without a head from outside: %+v", inside.Faults)
			}
			if !c.outside {
				told = inside
			}
			for _, f := range told.Faults {
				if strings.Contains(f.Text, c.want) {
					return
				}
			}
			t.Errorf("%+v, want %q", told.Faults, c.want)
		})
	}
}

// Archive and backup carry the log: what they hold is checked without a database, and a picture
// swapped in one shows. A proof continues every head from every size.
func TestTheLogTravels(t *testing.T) {
	ctx, l := context.Background(), newLogged(t)
	var archive bytes.Buffer
	if err := records.Export(ctx, l.company, &archive); err != nil {
		t.Fatal(err)
	}
	z, err := zip.NewReader(bytes.NewReader(archive.Bytes()), int64(archive.Len()))
	if err != nil {
		t.Fatal(err)
	}
	e, err := store.ArchiveEvidence(z)
	if err != nil {
		t.Fatal(err)
	}
	if r := ledger.Check(e, nil, []string{l.outside}); len(r.Faults) > 0 || r.Events != 27 || r.Photos != 1 ||
		r.Outside != 1 {
		t.Errorf("the archive: %+v", r)
	}
	e.Photos[0].Hash = "00"
	if r := ledger.Check(e, nil, nil); len(r.Faults) != 1 {
		t.Errorf("a swapped picture: %+v", r.Faults)
	}
	var backup bytes.Buffer
	if _, err := records.Backup(ctx, &backup); err != nil {
		t.Fatal(err)
	}
	all, err := store.BackupEvidence(&backup)
	if err != nil {
		t.Fatal(err)
	}
	if r := ledger.Check(all[l.company.String()], nil, []string{l.outside}); len(r.Faults) > 0 || r.Events != 27 ||
		r.Photos != 1 {
		t.Errorf("the backup: %+v", r)
	}
	newest, err := ledger.Read(l.outside)
	if err != nil {
		t.Fatal(err)
	}
	if len(l.heads) < 20 {
		t.Errorf("%d heads", len(l.heads))
	}
	for _, text := range l.heads {
		h, err := ledger.Read(text)
		if err != nil {
			t.Fatal(err)
		}
		_, proof, err := records.Head(ctx, l.company, h.Size)
		if err != nil {
			t.Fatal(err)
		}
		if err := ledger.Follows(h, newest, ledger.Texts(proof)); err != nil {
			t.Errorf("from %d: %v", h.Size, err)
		}
		h.Root[3] ^= 1
		if err := ledger.Follows(h, newest, ledger.Texts(proof)); err == nil {
			t.Errorf("from %d: another history continues", h.Size)
		}
	}
	d, err := records.Documents(ctx, l.company, l.jobs[0])
	if err != nil || len(d.Events) != 22 || len(d.Plans) != 1 || len(d.Log.Entries) != 24 || len(d.Log.Proofs) != 24 {
		t.Errorf("%d events, %d plans, %d entries, %v", len(d.Events), len(d.Plans), len(d.Log.Entries), err)
	}
}
