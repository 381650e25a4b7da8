package store_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/buildup"
	jobfile "nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record/learn"
	"nephelon/store"
)

// written are rows as a program of each version of the tables wrote them.
func written() map[int64]string {
	return map[int64]string{
		1: `insert into companies values ('11111111-0000-0000-0000-000000000001', 'Slipway Floors');
			insert into people (id, company_id, name, email, role, password_hash)
			values ('22222222-0000-0000-0000-000000000001', '11111111-0000-0000-0000-000000000001', 'Ida',
			'ida@slipway.example', 'owner', 'x');
			insert into products values ('11111111-0000-0000-0000-000000000001', 'tide',
			'{"id": "tide", "name": "Tide 40", "kind": "coating", "potLife": {"value": 1500, "source": "data-sheet"}, "potLifeAt": {"value": 23, "source": "data-sheet"}}');
			insert into jobs (id, company_id, doc, revision, changed_by) values ('33333333-0000-0000-0000-000000000001',
			'11111111-0000-0000-0000-000000000001', $job$%s$job$, 1, '22222222-0000-0000-0000-000000000001');
			insert into job_revisions select id, 1, '44444444-0000-0000-0000-000000000001', doc, changed_by, now() from jobs`,
		2: `insert into photos (id, company_id, job_id, surface_id, image, thumb, added_by)
			values ('55555555-0000-0000-0000-000000000001', '11111111-0000-0000-0000-000000000001',
			'33333333-0000-0000-0000-000000000001', 's', 'i', 't', '22222222-0000-0000-0000-000000000001')`,
		3: `insert into systems (company_id, id, doc) values ('11111111-0000-0000-0000-000000000001', 'two',
			'{"id": "two", "name": "Two coats", "for": "floor", "coats": []}');
			insert into stock (company_id, id, doc) values ('11111111-0000-0000-0000-000000000001', 'tin',
			'{"id": "tin", "sheet": "tide", "part": "kit", "volume": 0.004}');
			update companies set house = '{"hourCost": 38}'`,
		4: `update jobs set summary = '{}'`,
		5: `insert into rosters values ('11111111-0000-0000-0000-000000000001', 3, '[]',
			'22222222-0000-0000-0000-000000000001')`,
		6: `insert into calendar_links values ('66666666-0000-0000-0000-000000000001',
			'11111111-0000-0000-0000-000000000001', 'crew', '', 'secret', '22222222-0000-0000-0000-000000000001')`,
		7: `insert into roster_runs (id, company_id, person_id, question) values ('77777777-0000-0000-0000-000000000001',
			'11111111-0000-0000-0000-000000000001', '22222222-0000-0000-0000-000000000001', '{}')`,
		8: `insert into issues values ('11111111-0000-0000-0000-000000000001', '33333333-0000-0000-0000-000000000001', 1,
			'88888888-0000-0000-0000-000000000001', '{"number": 1}', '22222222-0000-0000-0000-000000000001');
			insert into events (company_id, job_id, id, device, number, doc, person_id)
			values ('11111111-0000-0000-0000-000000000001', '33333333-0000-0000-0000-000000000001',
			'99999999-0000-0000-0000-000000000001', 'd', 1, '{"number": 1}', '22222222-0000-0000-0000-000000000001')`,
		9: `insert into audit (what) values ('sign-in refused'); insert into audit (company_id, person_id, what)
			values ('11111111-0000-0000-0000-000000000001', '22222222-0000-0000-0000-000000000001', 'signed in')`,
		11: `insert into events (company_id, job_id, id, device, number, doc, person_id)
			values ('11111111-0000-0000-0000-000000000001', '33333333-0000-0000-0000-000000000001',
			'99999999-0000-0000-0000-000000000002', 'd', 2,
			'{"number": 2, "kind": "note", "at": "2026-11-03T07:15:00.5Z", "behind": 1.5, "body": {"text": "streak"}}',
			'22222222-0000-0000-0000-000000000001')`,
		10: `insert into recovery_codes values ('11111111-0000-0000-0000-000000000001',
			'22222222-0000-0000-0000-000000000001', 'code', null)`,
		12: `update jobs set revision = revision + 1; update people set units = 'us'`,
		13: `insert into systems (company_id, id, doc) values ('11111111-0000-0000-0000-000000000001', 'rate',
			'{"id": "rate", "name": "By rate", "for": "floor", "coats": [{"id": "a", "product": "tide",
			"amount": {"value": 30, "basis": "area-per-kit"}}, {"id": "b", "product": "tide",
			"amount": {"value": 0.0003, "basis": "wet-film"}}]}')`,
		14: `update rosters set bookings = '[{"job": "33333333-0000-0000-0000-000000000001", "task": "coat/a/pour",
			"from": "2026-11-03T07:00:00Z", "until": "2026-11-03T09:00:00Z"}]'`,
		15: `update jobs set booked = 1`,
		16: `update people set clock = '24'`,
		17: `insert into log_entries (company_id, number, entry) values ('11111111-0000-0000-0000-000000000001', 0,
			'{"number": 0, "kind": "begun", "item": "a", "at": "2026-11-03T07:15:00Z"}');
			insert into log_hashes values ('11111111-0000-0000-0000-000000000001', 0, 'x');
			insert into log_heads values ('11111111-0000-0000-0000-000000000001', 1, 'x');
			update jobs set cases = '[]'`,
		19: `insert into originals values ('11111111-0000-0000-0000-000000000001', 'hash', 'tide.pdf', 'application/pdf', 'x',
			'22222222-0000-0000-0000-000000000001')`,
		18: `update jobs set cases = '{"version": 1, "cases": []}'`,
	}
}

// theoretical reports whether what is stated as a spread or an area per kit stayed theoretical, and there is any.
func theoretical(coats []buildup.Coat) bool {
	found := false
	for _, c := range coats {
		if c.Amount.Practical() || c.Amount.Figure != "" && !c.Amount.Either() {
			return false
		}
		found = found || c.Amount.Figure == material.Theoretical
	}
	return found
}

// From every earlier version of the tables, with rows in them, a program comes up to today's,
// and reads what was there.
func TestEveryEarlierSchemaComesUp(t *testing.T) {
	text, err := os.ReadFile("../exchange/testdata/earlier/0002-lamp-room.nephelon.json")
	if err != nil {
		t.Fatal(err)
	}
	company, job, person := uuid.MustParse("11111111-0000-0000-0000-000000000001"),
		uuid.MustParse("33333333-0000-0000-0000-000000000001"), uuid.MustParse("22222222-0000-0000-0000-000000000001")
	newest := store.Newest(t)
	for from := int64(1); from < newest; from++ {
		t.Run(fmt.Sprint(from), func(t *testing.T) {
			address := database(t)
			for version := int64(1); version <= from; version++ {
				s := store.OpenAt(t, address, version)
				rows, is := written()[version]
				if !is {
					t.Fatalf("no rows of version %d are tried", version)
				}
				if version == 1 {
					rows = fmt.Sprintf(rows, text)
				}
				if _, err := s.DB().ExecContext(t.Context(), rows); err != nil {
					t.Fatalf("rows of version %d: %v", version, err)
				}
				if err := s.Close(); err != nil {
					t.Fatal(err)
				}
			}
			s, err := store.Open(t.Context(), address)
			if err != nil {
				t.Fatal(err)
			}
			defer s.Close()
			worked := 0
			if _, err := s.Cases(t.Context(), company, func(store.JobRecord) []learn.Case {
				worked++
				return nil
			}); err != nil || from >= 8 && worked != 1 {
				t.Errorf("what records show was worked out %d times: %v", worked, err)
			}
			j, err := s.Job(t.Context(), company, job)
			if err != nil || len(j.File.Job.Surfaces) == 0 || len(j.File.Products[0].PotLife) != 1 ||
				j.File.Version != jobfile.Version || !theoretical(j.File.Job.Surfaces[0].Coats) {
				t.Errorf("the job: %v", err)
			}
			if before, err := s.JobAt(t.Context(), company, job, 1); err != nil || before.Version != jobfile.Version ||
				!theoretical(before.Job.Surfaces[0].Coats) {
				t.Errorf("its revision: %v", err)
			}
			if systems, err := s.Systems(t.Context(), company); err != nil || from >= 13 &&
				(len(systems) != 2 || !theoretical(systems[0].Of.Coats)) {
				t.Errorf("the systems: %+v, %v", systems, err)
			}
			if p, err := s.PersonByEmail(t.Context(), "ida@slipway.example"); err != nil || p.ID != person ||
				p.Units.Clock() != measure.Clock24 {
				t.Errorf("the person: %v", err)
			}
			if sheets, _, err := s.Sheets(t.Context(), company, store.ProductShelf, store.SheetQuery{}); err != nil ||
				len(sheets) != 1 || !strings.Contains(string(sheets[0].Doc), `"lasts": 1500`) {
				t.Errorf("the shelf: %v", err)
			}
			stock, err := s.Stock(t.Context(), company)
			if err != nil || from >= 3 && (len(stock) != 1 || stock[0].Revision != 1) {
				t.Errorf("the stock: %v, %v", stock, err)
			}
			if photos, err := s.Photos(t.Context(), company, job); err != nil || from >= 2 && len(photos) != 1 {
				t.Errorf("the photographs: %v", err)
			}
			if log, err := s.Events(t.Context(), company, job, 0); err != nil || from >= 8 && len(log.Events) != 1+int(from/11) {
				t.Errorf("the record: %v", err)
			}
			if world, err := s.Facts(t.Context(), company, job, time.Now()); err != nil || from >= 14 &&
				len(world.Bookings) != 1 {
				t.Errorf("the bookings: %+v, %v", world, err)
			}
			if log, err := s.AuditLog(t.Context(), company); err != nil || from >= 9 && len(log) != 1 {
				t.Errorf("the log: %v", err)
			}
		})
	}
}

// Every table but those of all companies can be laid out over several databases by company:
// the company is part of every key, and of every pointer to another table.
func TestTablesAreByCompany(t *testing.T) {
	ofAll := []string{"addresses", "sessions", "sign_in_failures", "password_links", "calendar_links", "roster_runs",
		"goose_db_version"}
	looked := 0
	rows, err := records.DB().QueryContext(t.Context(), `
		select c.relname, k.conname, string_agg(a.attname, ' ')
		from pg_constraint k join pg_class c on c.oid = k.conrelid join pg_namespace n on n.oid = c.relnamespace
		cross join unnest(k.conkey) as at (number) join pg_attribute a on a.attrelid = c.oid and a.attnum = at.number
		where n.nspname = 'public' and k.contype in ('p', 'u', 'f') group by 1, 2
		union all
		select c.relname, i.relname, string_agg(a.attname, ' ')
		from pg_index x join pg_class c on c.oid = x.indrelid join pg_class i on i.oid = x.indexrelid
		join pg_namespace n on n.oid = c.relnamespace
		cross join unnest(x.indkey) as at (number) join pg_attribute a on a.attrelid = c.oid and a.attnum = at.number
		where n.nspname = 'public' and x.indisunique group by 1, 2`)
	if err != nil {
		t.Fatal(err)
	}
	defer rows.Close()
	for rows.Next() {
		var table, key, columns string
		if err := rows.Scan(&table, &key, &columns); err != nil {
			t.Fatal(err)
		}
		if looked++; slices.Contains(ofAll, table) || table == "companies" {
			continue
		}
		if !slices.Contains(strings.Fields(columns), "company_id") {
			t.Errorf("%s of %s is over %s: not by company", key, table, columns)
		}
	}
	if err := rows.Err(); err != nil || looked < 20 {
		t.Errorf("%d keys looked at, %v", looked, err)
	}
}
