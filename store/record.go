package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"nephelon/core/record"
	"nephelon/core/record/cause"
	"nephelon/core/record/ledger"
)

const recordedChannel = "job_recorded"

// IssuePlan keeps a plan as it is given to a crew, with the next number of its job, and
// returns it with that. Asked for twice with the same save it is given once.
func (s *Store) IssuePlan(ctx context.Context, company, person, job, save uuid.UUID,
	plan record.Issue) (record.Issue, error) {
	err := s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `select pg_advisory_xact_lock(hashtextextended($1,
			0))`, "issue "+job.String()); err != nil {
			return fmt.Errorf("wait for others who issue: %w", err)
		}
		var row signedRow
		err := tx.GetContext(ctx, &row, selectIssues+`and i.save_id = $3`, company, job, save)
		if err == nil {
			plan, err = row.issue()
			return err
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return fmt.Errorf("read issued plans: %w", err)
		}
		if err := tx.GetContext(ctx, &plan.Number, `select coalesce(max(number), 0) + 1 from issues where company_id = $1
			and job_id = $2`, company, job); err != nil {
			return fmt.Errorf("number a plan: %w", err)
		}
		frozen := plan
		frozen.By = "" // told by who they are
		doc, err := json.Marshal(frozen)
		if err != nil {
			return fmt.Errorf("encode a plan: %w", err)
		}
		if plan.Hash, err = record.PlanSum(doc); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `insert into issues (company_id, job_id, number, save_id, doc, person_id, at,
			hash) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
			company, job, plan.Number, save, doc, person, plan.At, plan.Hash); err != nil {
			return fmt.Errorf("issue a plan: %w", err)
		}
		if err := s.enter(ctx, tx, company, ledger.Entry{Kind: ledger.Plan, Job: job.String(),
			Item: strconv.Itoa(plan.Number), Person: person.String(), Hash: plan.Hash, At: plan.At}); err != nil {
			return err
		}
		return tell(ctx, tx, job)
	})
	return plan, err
}

const selectIssues = `
	select i.doc, i.hash, p.name as signer from issues i join people p on p.company_id = i.company_id
	and p.id = i.person_id where i.company_id = $1 and i.job_id = $2 `

// tell returns every server that something of a job's record is new. What lists show of the job follows it.
func tell(ctx context.Context, tx *sqlx.Tx, job uuid.UUID) error {
	if _, err := tx.ExecContext(ctx, `update jobs set summary = null, cases = null where id = $1
		and (summary is not null or cases is not null)`, job); err != nil {
		return fmt.Errorf("forget the summary of a job: %w", err)
	}
	if _, err := tx.ExecContext(ctx, `select pg_notify($1,
		$2 || ' ' || pg_current_xact_id()::text)`, recordedChannel, job.String()); err != nil {
		return fmt.Errorf("tell of the record: %w", err)
	}
	return nil
}

// Issues are the plans of a job that were issued, newest first.
func (s *Store) Issues(ctx context.Context, company, job uuid.UUID) ([]record.Issue, error) {
	var there bool
	if err := found(s.db.GetContext(ctx, &there, `select true from jobs where company_id = $1
		and id = $2`, company, job), "read job"); err != nil {
		return nil, err
	}
	var rows []signedRow
	if err := s.db.SelectContext(ctx, &rows, selectIssues+`order by i.number desc`, company, job); err != nil {
		return nil, fmt.Errorf("list issued plans: %w", err)
	}
	all := make([]record.Issue, len(rows))
	for n, row := range rows {
		var err error
		if all[n], err = row.issue(); err != nil {
			return nil, err
		}
	}
	return all, nil
}

// Logged holds what a job's record holds since a mark.
type Logged struct {
	Events []record.Event
	Mark   int64 // where to read on; some of the events may come again
}

// Events are the events of a job since a mark; all of them since 0.
func (s *Store) Events(ctx context.Context, company, job uuid.UUID, since int64) (Logged, error) {
	out := Logged{Events: []record.Event{}}
	// The mark is taken before the events are read: what comes between is read twice.
	if err := s.db.GetContext(ctx, &out.Mark, `select pg_snapshot_xmin(pg_current_snapshot())::text::bigint`); err != nil {
		return out, fmt.Errorf("mark the record: %w", err)
	}
	var rows []signedRow
	if err := s.db.SelectContext(ctx, &rows,
		selectEvents+`and e.xact >= ($3::text)::xid8 order by e.received_at, e.device, e.number`,
		company, job, fmt.Sprint(since)); err != nil {
		return out, fmt.Errorf("read the record: %w", err)
	}
	for _, row := range rows {
		e, err := row.event()
		if err != nil {
			return out, err
		}
		out.Events = append(out.Events, e)
	}
	return out, nil
}

// signedRow is a document with the name of who it is by. Names are not kept in what nobody
// can change: those of people who left are forgotten.
type signedRow struct {
	Doc      []byte         `db:"doc"`
	Signer   string         `db:"signer"`
	Hash     sql.NullString `db:"hash"`        // of an issued plan; none for those of earlier builds
	Received sql.NullTime   `db:"received_at"` // of an event
}

const selectEvents = `
	select e.doc, e.received_at, p.name as signer from events e join people p on p.company_id = e.company_id
	and p.id = e.person_id where e.company_id = $1 and e.job_id = $2 `

func (r signedRow) event() (record.Event, error) {
	var e record.Event
	if err := json.Unmarshal(r.Doc, &e); err != nil {
		return e, fmt.Errorf("decode an event: %w", err)
	}
	if e.Name == "" { // those of earlier builds are sealed with it
		e.Name = r.Signer
	}
	if r.Received.Valid {
		at := r.Received.Time.UTC()
		e.Received = &at
	}
	return e, nil
}

func (r signedRow) issue() (record.Issue, error) {
	var i record.Issue
	if err := json.Unmarshal(r.Doc, &i); err != nil {
		return i, fmt.Errorf("decode an issued plan: %w", err)
	}
	i.By, i.Hash = r.Signer, r.Hash.String
	if !r.Hash.Valid {
		var err error
		if i.Hash, err = record.PlanSum(r.Doc); err != nil {
			return i, err
		}
	}
	return i, nil
}

// Log adds events to the record of a job and to the log, each once however often it is sent. It fails as a
// whole or not at all, and tells of those whose id stands for another event already.
func (s *Store) Log(ctx context.Context, company, person, job uuid.UUID, events []record.Event,
	now time.Time) (other []string, err error) {
	now = now.UTC().Truncate(time.Millisecond)
	ids, devices, docs, numbers := make([]string, len(events)), make([]string, len(events)), make([]string, len(events)),
		make([]int64, len(events))
	for i, e := range events {
		e.Name, e.Received = "", nil // told by who they are and when it came, not by what was sent
		doc, err := json.Marshal(e)
		if err != nil {
			return nil, fmt.Errorf("encode an event: %w", err)
		}
		ids[i], devices[i], docs[i], numbers[i] = e.ID, e.Device, string(doc), e.Number
	}
	err = s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		var there bool
		if err := found(tx.GetContext(ctx, &there, `select true from jobs where company_id = $1
			and id = $2`, company, job), "read job"); err != nil {
			return err
		}
		var fresh []string
		if err := tx.SelectContext(ctx, &fresh, `
			insert into events (company_id, job_id, id, device, number, doc, person_id, received_at)
			select $1, $2, i::uuid, d, n, j::jsonb, $3, $4 from unnest($5::text[], $6::text[], $7::bigint[], $8::text[]) t (i,
			d, n, j)
			on conflict do nothing returning id`, company, job, person, now, ids, devices, numbers, docs); err != nil {
			return fmt.Errorf("log events: %w", err)
		}
		if len(fresh) < len(events) {
			if err := tx.SelectContext(ctx, &other, `
				select e.id from events e join unnest($3::text[], $4::text[]) t (i, h) on e.id = t.i::uuid
				where e.company_id = $1 and e.job_id = $2
				and e.doc ->> 'hash' <> t.h`, company, job, ids, hashes(events)); err != nil {
				return fmt.Errorf("compare events: %w", err)
			}
		}
		if len(fresh) == 0 {
			return nil
		}
		entries := make([]ledger.Entry, 0, len(fresh))
		for _, e := range events {
			if slices.Contains(fresh, e.ID) {
				entries = append(entries, ledger.Entry{Kind: ledger.Event, Job: job.String(), Item: e.ID, Person: e.Person,
					Hash: e.Hash, At: now})
			}
		}
		if err := s.enter(ctx, tx, company, entries...); err != nil {
			return err
		}
		return tell(ctx, tx, job)
	})
	return other, err
}

func hashes(events []record.Event) []string {
	all := make([]string, len(events))
	for i, e := range events {
		all[i] = e.Hash
	}
	return all
}

// IssueSums returns the hash of each issued plan of a job by its number; empty for those of earlier builds.
func (s *Store) IssueSums(ctx context.Context, company, job uuid.UUID) (map[int]string, error) {
	var rows []struct {
		Number sql.NullInt64 `db:"number"`
		Hash   string        `db:"hash"`
	}
	if err := s.db.SelectContext(ctx, &rows, `select i.number, coalesce(i.hash, '') as hash from jobs j
		left join issues i on i.company_id = j.company_id and i.job_id = j.id
		where j.company_id = $1 and j.id = $2`, company, job); err != nil {
		return nil, fmt.Errorf("read the hashes of issued plans: %w", err)
	}
	if len(rows) == 0 {
		return nil, ErrNotFound
	}
	sums := make(map[int]string, len(rows))
	for _, r := range rows {
		if r.Number.Valid {
			sums[int(r.Number.Int64)] = r.Hash
		}
	}
	return sums, nil
}

// IssueNumber is the number of the plan of a job that was issued last; 0 where none was.
func (s *Store) IssueNumber(ctx context.Context, company, job uuid.UUID) (int, error) {
	var number int
	err := s.db.GetContext(ctx, &number, `
		select coalesce((select max(number) from issues i where i.company_id = j.company_id and i.job_id = j.id), 0)
		from jobs j where j.company_id = $1 and j.id = $2`, company, job)
	return number, found(err, "read the number of a plan")
}

// EventsByID finds events of a job; those that it does not have are left out.
func (s *Store) EventsByID(ctx context.Context, company, job uuid.UUID, ids []string) (map[string]record.Event, error) {
	out := make(map[string]record.Event)
	if len(ids) == 0 {
		return out, nil
	}
	var rows []signedRow
	if err := s.db.SelectContext(ctx, &rows, selectEvents+`and e.id::text = any($3)`, company, job, ids); err != nil {
		return nil, fmt.Errorf("find events: %w", err)
	}
	for _, row := range rows {
		e, err := row.event()
		if err != nil {
			return nil, err
		}
		out[e.ID] = e
	}
	return out, nil
}

const selectCauses = `
	select f.doc -> 'body' ->> 'seen' as symptom, e.doc -> 'body' ->> 'cause' as cause
	from events e join events f on f.company_id = e.company_id and f.job_id = e.job_id and f.id::text = e.doc ->> 'task'
	where e.company_id = $1 and e.job_id <> $2 and e.kind = 'found' and f.company_id = $1 and f.kind = 'fault'
	and not exists (select 1 from events s where s.company_id = e.company_id and s.job_id = e.job_id
	and s.struck in (e.id::text, f.id::text))`

// PastCauses are the faults of a company's other jobs that were found out.
func (s *Store) PastCauses(ctx context.Context, company, but uuid.UUID) ([]cause.Past, error) {
	past := []cause.Past{}
	if err := s.db.SelectContext(ctx, &past, selectCauses, company, but); err != nil {
		return nil, fmt.Errorf("read past faults: %w", err)
	}
	return past, nil
}

// Entry is something logged on any job.
type Entry struct {
	Job   uuid.UUID
	Name  string // of the job
	Zone  string // of its site
	Event record.Event
}

// mostEntries limits how many entries are found at once.
const mostEntries = 200

// Entries of all kinds, of one kind, and with words in them. Jobs and people whose names hold the
// words are found first: as alternatives to the words of an entry, each has an index of its own.
const (
	selectEntries = `
	select e.job_id, j.name, j.zone, e.doc, e.received_at, p.name as signer from events e
	join jobs j on j.company_id = e.company_id and j.id = e.job_id
	join people p on p.company_id = e.company_id and p.id = e.person_id
	where e.company_id = $1 and not exists (select 1 from events x where x.company_id = e.company_id
	and x.job_id = e.job_id and x.struck = e.id::text)`
	ofKind        = ` and e.kind = $3`
	withWords     = ` and (e.words ilike '%' || $4 || '%' or e.job_id = any($5::uuid[]) or e.person_id = any($6::uuid[]))`
	newestEntries = ` order by e.happened desc nulls last, e.number desc limit $2`

	jobsNamed   = `select id::text from jobs where company_id = $1 and name ilike '%' || $2 || '%'`
	peopleNamed = `select id::text from people where company_id = $1 and name ilike '%' || $2 || '%'`
)

// entriesQuery returns the statement and the arguments of a search for entries.
func entriesQuery(company uuid.UUID, words, kind string, jobs, people []string) (string, []any) {
	query, args := selectEntries, []any{company, mostEntries}
	if kind != "" || words != "" {
		args = append(args, kind)
		if kind != "" {
			query += ofKind
		} else {
			query += ` and $3 = ''`
		}
	}
	if words != "" {
		query, args = query+withWords, append(args, words, list(jobs), list(people))
	}
	return query + newestEntries, args
}

// Search finds what was logged on a company's jobs, what happened last first: of a kind, and with words
// in it or in the name of its job or of who logged it; each is left out where it is empty.
func (s *Store) Search(ctx context.Context, company uuid.UUID, words, kind string) ([]Entry, error) {
	words = likely(words)
	var jobs, people []string
	if words != "" {
		if err := s.db.SelectContext(ctx, &jobs, jobsNamed, company, words); err != nil {
			return nil, fmt.Errorf("search the records: jobs: %w", err)
		}
		if err := s.db.SelectContext(ctx, &people, peopleNamed, company, words); err != nil {
			return nil, fmt.Errorf("search the records: people: %w", err)
		}
	}
	var rows []struct {
		Job  uuid.UUID `db:"job_id"`
		Name string    `db:"name"`
		Zone string    `db:"zone"`
		signedRow
	}
	query, args := entriesQuery(company, words, kind, jobs, people)
	if err := s.db.SelectContext(ctx, &rows, query, args...); err != nil {
		return nil, fmt.Errorf("search the records: %w", err)
	}
	all := make([]Entry, len(rows))
	for i, row := range rows {
		e, err := row.event()
		if err != nil {
			return nil, err
		}
		all[i] = Entry{Job: row.Job, Name: row.Name, Zone: row.Zone, Event: e}
	}
	return all, nil
}

// likely takes the signs of a pattern for themselves.
func likely(words string) string {
	return strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(words)
}

// recorded reads the records of jobs.
func (s *Store) recorded(ctx context.Context, company uuid.UUID, ids []string) ([]JobRecord, error) {
	at := make(map[string]int, len(ids))
	all := make([]JobRecord, len(ids))
	for n, id := range ids {
		at[id] = n
	}
	type ofJob struct {
		Job string `db:"job_id"`
		signedRow
	}
	var issues, events []ofJob
	if err := s.db.SelectContext(ctx, &issues, selectIssuesOf, company, list(ids)); err != nil {
		return nil, fmt.Errorf("read issued plans of jobs: %w", err)
	}
	if err := s.db.SelectContext(ctx, &events, selectEventsOf, company, list(ids)); err != nil {
		return nil, fmt.Errorf("read events of jobs: %w", err)
	}
	for _, row := range issues {
		issue, err := row.issue()
		if err != nil {
			return nil, err
		}
		all[at[row.Job]].Issues = append(all[at[row.Job]].Issues, issue)
	}
	for _, row := range events {
		e, err := row.event()
		if err != nil {
			return nil, err
		}
		all[at[row.Job]].Events = append(all[at[row.Job]].Events, e)
	}
	return all, nil
}

// mostUnderway limits how many jobs are looked at together.
const mostUnderway = 40

const selectUnderway = `
	select j.id, j.name, j.zone from jobs j join (select distinct e.job_id from events e
	where e.company_id = $1 and e.happened > $2) recent on recent.job_id = j.id
	where j.company_id = $1 and j.archived_at is null order by j.name, j.id limit $3`

// Underway holds the record of a job on which something was logged lately.
type Underway struct {
	Job  uuid.UUID `db:"id"`
	Name string
	Zone string // of its site
	JobRecord
}

// Underway returns the records of a company's jobs on which something was logged since a time, without those that are
// archived.
func (s *Store) Underway(ctx context.Context, company uuid.UUID, since time.Time) ([]Underway, error) {
	var jobs []Underway
	if err := s.db.SelectContext(ctx, &jobs, selectUnderway, company, since, mostUnderway); err != nil {
		return nil, fmt.Errorf("find the jobs under way: %w", err)
	}
	ids := make([]string, len(jobs))
	for n, j := range jobs {
		ids[n] = j.Job.String()
	}
	records, err := s.recorded(ctx, company, ids)
	if err != nil {
		return nil, err
	}
	for n := range jobs {
		jobs[n].JobRecord = records[n]
	}
	return jobs, nil
}

// JobRecord holds the issued plans and the events of a job.
type JobRecord struct {
	Issues []record.Issue // the newest first
	Events []record.Event
}

const (
	selectIssuesOf = `
	select i.job_id, i.doc, i.hash, p.name as signer from issues i join people p on p.company_id = i.company_id
	and p.id = i.person_id
	where i.company_id = $1 and i.job_id = any($2::uuid[]) order by i.job_id, i.number desc`
	selectEventsOf = `
	select e.job_id, e.doc, e.received_at, p.name as signer from events e join people p on p.company_id = e.company_id
	and p.id = e.person_id
	where e.company_id = $1 and e.job_id = any($2::uuid[]) order by e.job_id, e.received_at, e.device, e.number`
)
