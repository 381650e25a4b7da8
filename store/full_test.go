package store_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"nephelon/core/record"
	"nephelon/core/record/learn"
	"nephelon/store"
)

// full returns the records of ten companies, each with 150 jobs and 1,500 events, and one of
// the companies with a job of it.
func full(t testing.TB) (s *store.Store, company, job uuid.UUID) {
	t.Helper()
	s, err := store.Open(t.Context(), database(t))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	for n := range 10 {
		fill := []string{
			`insert into companies (id, name) values ($1::uuid, 'Slipway Floors')`,
			`insert into people (id, company_id, name, email, role, password_hash) select $1::uuid, $1::uuid, 'Ida',
				$1::uuid || '@slipway.example', 'owner', 'x'`,
			`insert into jobs (id, company_id, doc, revision, changed_by, changed_at) select gen_random_uuid(), $1::uuid,
				jsonb_build_object('version', 2, 'job', jsonb_build_object(
				'name', 'Hall ' || n, 'site', 'Pier ' || n % 40, 'zone', 'Europe/Oslo', 'surfaces', jsonb_build_array(1, 2),
				'padding', repeat(md5(n::text), 200))), 1, $1::uuid, now() - n * interval '1 hour' from generate_series(1, 150) n`,
			`insert into issues (company_id, job_id, number, save_id, doc, person_id, at) select $1::uuid, id, 1,
				gen_random_uuid(), '{}', $1::uuid, changed_at from jobs where company_id = $1::uuid`,
			`insert into events (company_id, job_id, id, device, number, doc, person_id) select $1::uuid, j.id,
				gen_random_uuid(), 'tablet-1', n, jsonb_build_object('number', n,
				'kind', (array['gate', 'reading', 'meets', 'mixed', 'poured', 'spread', 'rolled', 'film', 'note',
				'deviation'])[1 + n % 10],
				'at', to_char(j.changed_at at time zone 'UTC' + n * interval '1 minute', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'behind', 0,
				'body', jsonb_build_object('text', md5(n::text || j.id::text))), $1::uuid from jobs j, generate_series(1, 10) n
				where j.company_id = $1::uuid`,
			`insert into log_entries (company_id, number, job_id, of_job, entry) select $1::uuid, row_number() over () - 1,
				job_id, row_number() over (partition by job_id), jsonb_build_object('kind', 'event', 'item', id)
				from events where company_id = $1::uuid`,
			`insert into sheets (company_id, shelf, id, version, doc) select $1::uuid, 'product', 'sheet-' || n, 1,
				jsonb_build_object('id', 'sheet-' || n, 'name', 'Sheet ' || n) from generate_series(1, 200) n`,
		}
		id := uuid.New()
		for _, query := range fill {
			if _, err := s.DB().ExecContext(t.Context(), query, id); err != nil {
				t.Fatalf("%.60s: %v", query, err)
			}
		}
		if n == 0 {
			company = id
		}
	}
	if err := sqlx.NewDb(s.DB(), "pgx").GetContext(t.Context(), &job, `select id from jobs where company_id = $1::uuid
		limit 1`, company); err != nil {
		t.Fatal(err)
	}
	if _, err := s.DB().ExecContext(t.Context(), `vacuum analyze`); err != nil {
		t.Fatal(err)
	}
	return s, company, job
}

func TestAFullCompany(t *testing.T) {
	s, company, job := full(t)
	t.Run("every hot query uses an index", func(t *testing.T) { hotQueries(t, s, company, job) })
	t.Run("words are found wherever they stand", func(t *testing.T) { searched(t, s, company, job) })
}

// hotQueries fails where what people wait for in a company with years of records reads a table
// that grows from end to end.
func hotQueries(t *testing.T, s *store.Store, company, job uuid.UUID) {
	small := map[string]bool{"people": true, "companies": true} // by far fewer rows than an index is worth
	for name, q := range store.HotQueries(company, job, []string{"sheet-7", "sheet-8"}) {
		var text []byte
		if err := sqlx.NewDb(s.DB(), "pgx").GetContext(t.Context(), &text, `explain (format json)
			`+q.Text, q.Args...); err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		var plans []struct{ Plan node }
		if err := json.Unmarshal(text, &plans); err != nil {
			t.Fatal(err)
		}
		for _, table := range plans[0].Plan.scanned() {
			if !small[table] {
				t.Errorf("%s reads all of %s: %s", name, table, text)
			}
		}
	}
}

// node is a step of PostgreSQL's plan of a query.
type node struct {
	Type     string `json:"Node Type"`
	Relation string `json:"Relation Name"`
	Plans    []node
}

// scanned returns the tables that a plan reads from end to end.
func (n node) scanned() []string {
	var all []string
	if n.Type == "Seq Scan" {
		all = append(all, n.Relation)
	}
	for _, under := range n.Plans {
		all = append(all, under.scanned()...)
	}
	return all
}

// searched looks for words in an entry, in the name of its job and in that of who logged it; what
// was struck is not found.
func searched(t *testing.T, s *store.Store, company, job uuid.UUID) {
	var event struct {
		ID   string
		Text string
	}
	if err := sqlx.NewDb(s.DB(), "pgx").GetContext(t.Context(), &event, `select id, doc -> 'body' ->> 'text' as text
		from events where company_id = $1::uuid and job_id = $2 and kind = 'note' limit 1`, company, job); err != nil {
		t.Fatal(err)
	}
	count := func(words, kind string) int {
		t.Helper()
		found, err := s.Search(t.Context(), company, words, kind)
		if err != nil {
			t.Fatal(err)
		}
		return len(found)
	}
	if n := count(event.Text[5:25], ""); n != 1 {
		t.Errorf("%d entries with the words", n)
	}
	if n := count(event.Text[5:25], "note"); n != 1 {
		t.Errorf("%d notes with the words", n)
	}
	if n := count(event.Text[5:25], "film"); n != 0 {
		t.Errorf("%d films with the words", n)
	}
	if n := count("hall 137", ""); n != 10 {
		t.Errorf("%d entries of the job", n)
	}
	if n := count("IDA", "deviation"); n != 150 {
		t.Errorf("%d deviations by the person", n)
	}
	if n := count("100%", ""); n != 0 {
		t.Errorf("%d entries with a percent sign", n)
	}
	if _, err := s.DB().ExecContext(t.Context(), `insert into events (company_id, job_id, id, device, number, doc,
		person_id) values ($1::uuid, $2, gen_random_uuid(), 'tablet-1', 99,
		jsonb_build_object('kind', 'struck', 'at', '2031-01-01T00:00:00Z', 'body', jsonb_build_object('struck', $3::text)),
		$1::uuid)`, company, job, event.ID); err != nil {
		t.Fatal(err)
	}
	if n := count(event.Text[5:25], ""); n != 0 {
		t.Errorf("%d entries with the words of what was struck", n)
	}
	// What records show is worked out once, and again for a job on which something is logged.
	worked, events := 0, 0
	work := func(r store.JobRecord) []learn.Case {
		worked++
		events += len(r.Events)
		return []learn.Case{{Job: fmt.Sprint(worked)}}
	}
	found, err := s.Cases(t.Context(), company, work)
	if err != nil || len(found) < 3 || worked != len(found) || events < 10*worked {
		t.Fatalf("%d cases of %d records, %v", len(found), worked, err)
	}
	all := worked
	if again, err := s.Cases(t.Context(), company, work); err != nil || len(again) != all || worked != all {
		t.Errorf("%d cases, %d worked out again, %v", len(again), worked-all, err)
	}
	if _, err := s.IssuePlan(t.Context(), company, company, job, uuid.New(), record.Issue{Name: "Quay"}); err != nil {
		t.Fatal(err)
	}
	if again, err := s.Cases(t.Context(), company, work); err != nil || len(again) != all || worked != all+1 {
		t.Errorf("%d cases, %d worked out after an issue, %v", len(again), worked-all, err)
	}
}

func BenchmarkFullCompany(b *testing.B) {
	s, company, job := full(b)
	for name, do := range map[string]func() error{
		"list":   func() error { _, err := s.Jobs(b.Context(), company, "", false); return err },
		"search": func() error { _, err := s.Search(b.Context(), company, "f3a1", ""); return err },
		"newest": func() error { _, err := s.Search(b.Context(), company, "", ""); return err },
		"causes": func() error { _, err := s.PastCauses(b.Context(), company, job); return err },
		"learnt": func() error {
			_, err := s.Cases(b.Context(), company, func(store.JobRecord) []learn.Case { return nil })
			return err
		},
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if err := do(); err != nil {
					b.Fatal(fmt.Errorf("%s: %w", name, err))
				}
			}
		})
	}
}
