package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"nephelon/core/days"
	"nephelon/core/facts"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/current"
	"nephelon/core/record/enough"
	"nephelon/core/record/prep"
)

// Roster holds what a company has booked.
type Roster struct {
	Revision  int64 // 0 where nothing was booked yet
	Bookings  []days.Booked
	ChangedBy string
	ChangedAt time.Time
}

// ErrRosterMoved means that somebody else booked since.
var ErrRosterMoved = errors.New("the roster was changed since")

// Roster reads what a company has booked.
func (s *Store) Roster(ctx context.Context, company uuid.UUID) (Roster, error) {
	var row struct {
		Revision  int64     `db:"revision"`
		Bookings  []byte    `db:"bookings"`
		ChangedBy string    `db:"changed_by"`
		ChangedAt time.Time `db:"changed_at"`
	}
	err := s.db.GetContext(ctx, &row, `
		select r.revision, r.bookings, p.name as changed_by, r.changed_at
		from rosters r join people p on p.company_id = r.company_id and p.id = r.changed_by where r.company_id = $1`, company)
	if errors.Is(err, sql.ErrNoRows) {
		return Roster{Bookings: []days.Booked{}}, nil
	}
	if err != nil {
		return Roster{}, fmt.Errorf("read the roster: %w", err)
	}
	r := Roster{Revision: row.Revision, ChangedBy: row.ChangedBy, ChangedAt: row.ChangedAt}
	if err := json.Unmarshal(row.Bookings, &r.Bookings); err != nil {
		return Roster{}, fmt.Errorf("decode the roster: %w", err)
	}
	return r, nil
}

// Book keeps bookings in place of those of a revision, and returns the new one. It fails
// with ErrRosterMoved, and changes nothing, where that is not the newest.
func (s *Store) Book(ctx context.Context, company, person uuid.UUID, base int64,
	bookings []days.Booked) (int64, error) {
	stands, err := s.Roster(ctx, company)
	if err != nil {
		return 0, err
	}
	if stands.Revision != base {
		return 0, ErrRosterMoved
	}
	doc, err := json.Marshal(days.Stamp(bookings, stands.Bookings, base+1))
	if err != nil {
		return 0, fmt.Errorf("encode the roster: %w", err)
	}
	var revision int64
	err = s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		err := tx.GetContext(ctx, &revision, `
			insert into rosters (company_id, revision, bookings, changed_by) select $1, 1, $3, $4 where $2 = 0
			on conflict do nothing returning revision`, company, base, doc, person)
		if errors.Is(err, sql.ErrNoRows) {
			err = tx.GetContext(ctx, &revision, `
				update rosters set revision = revision + 1, bookings = $3, changed_by = $4, changed_at = now()
				where company_id = $1 and revision = $2 returning revision`, company, base, doc, person)
		}
		if errors.Is(err, sql.ErrNoRows) {
			return ErrRosterMoved
		}
		if err != nil {
			return fmt.Errorf("keep the roster: %w", err)
		}
		return rebooked(ctx, tx, company, days.Rebooked(stands.Bookings, bookings))
	})
	return revision, err
}

// rebooked counts and tells that the bookings of jobs changed; what lists show of them is worked out anew.
func rebooked(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, jobs []string) error {
	if len(jobs) == 0 {
		return nil
	}
	var told []string
	if err := tx.SelectContext(ctx, &told, `
		update jobs j set booked = booked + 1, summary = null where company_id = $1 and id::text = any($2)
		returning id || ' ' || revision + booked + `+counted, company, jobs); err != nil {
		return fmt.Errorf("count the bookings of jobs: %w", err)
	}
	for _, change := range told {
		if _, err := tx.ExecContext(ctx, `select pg_notify($1, $2)`, changedChannel, change); err != nil {
			return fmt.Errorf("tell of bookings: %w", err)
		}
	}
	return nil
}

// Facts reads what is known at a time of the world beside the file of a job.
func (s *Store) Facts(ctx context.Context, company, id uuid.UUID, now time.Time) (facts.Facts, error) {
	var docs [][]byte
	err := s.db.SelectContext(ctx, &docs, `
		select b from rosters, jsonb_path_query(bookings, '$[*]') b where company_id = $1 and b ->> 'job' = $2`,
		company, id.String())
	if err != nil {
		return facts.Facts{}, fmt.Errorf("read the bookings of a job: %w", err)
	}
	booked := make([]days.Booked, len(docs))
	for n, doc := range docs {
		if err := json.Unmarshal(doc, &booked[n]); err != nil {
			return facts.Facts{}, fmt.Errorf("decode a booking: %w", err)
		}
	}
	house, err := s.House(ctx, company)
	if err != nil {
		return facts.Facts{}, err
	}
	world := facts.Facts{Now: now, Zone: house.Of.Zone}
	if len(booked) > 0 {
		world.Bookings = days.Facts(booked, house.Of)
	}
	err = s.logged(ctx, company, id, now, &world)
	return world, err
}

// logged adds when the coats of a job were laid, as they were logged against the plan that stands, how far its
// preparation is and how warm its slabs were read.
func (s *Store) logged(ctx context.Context, company, id uuid.UUID, now time.Time, world *facts.Facts) error {
	var begun bool
	if err := s.db.GetContext(ctx, &begun, `
		select exists (select 1 from events where company_id = $1 and job_id = $2)`, company, id); err != nil || !begun {
		return err
	}
	issues, err := s.Issues(ctx, company, id)
	if err != nil || len(issues) == 0 {
		return err
	}
	log, err := s.Events(ctx, company, id, 0)
	if err != nil {
		return err
	}
	stands := current.Plan(issues, log.Events)
	day := record.TellerWith(s.lives).Tell(&stands, log.Events, now, measure.Metric)
	for _, c := range day.Coats {
		if c.Begun == nil {
			continue
		}
		laid := facts.Laid{Coat: c.ID, From: *c.Begun, Until: c.Done}
		if of := stands.Coat(c.ID); of != nil && of.Product.Dries() {
			if thick := c.Thick(of); thick > 1 {
				laid.Thick = thick
			}
		}
		if at, share, broken := enough.BrokenOff(&stands, &day, &c); broken {
			laid.Broken, laid.Share = &at, share
		}
		world.Logged = append(world.Logged, laid)
	}
	for _, step := range prep.Of(&stands, &day, now) {
		if closed := step.State == prep.Closed; closed || step.Again != "" {
			world.Steps = append(world.Steps, facts.Step{Task: string(step.Task), Closed: closed, Again: step.Again})
		}
	}
	for _, r := range day.Readings {
		if r.Slab != nil {
			world.Readings = append(world.Readings, facts.Reading{At: r.At, Slab: *r.Slab})
		}
	}
	return nil
}

// Alone does something for a company while no other server does anything so for it; others
// wait. The lock goes with its connection, so that it outlives no server; that connection is
// none of those that requests share.
func (s *Store) Alone(ctx context.Context, company uuid.UUID, do func(context.Context) error) (err error) {
	tx, err := s.locks.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("begin: %w", err)
	}
	defer func() {
		if bad := tx.Rollback(); bad != nil && !errors.Is(bad, sql.ErrTxDone) {
			err = errors.Join(err, bad)
		}
	}()
	if _, err := tx.ExecContext(ctx, `select pg_advisory_xact_lock(hashtextextended($1,
		0))`, "roster "+company.String()); err != nil {
		return fmt.Errorf("wait for others who plan: %w", err)
	}
	return do(ctx)
}

// Open lists the jobs of a company that are neither archived nor done, oldest first, at
// most so many of them, and how many there are in all.
func (s *Store) Open(ctx context.Context, company uuid.UUID, most int) (jobs []Job, count int, err error) {
	var rows []struct {
		ID       uuid.UUID `db:"id"`
		Doc      []byte    `db:"doc"`
		Revision int64     `db:"revision"`
		Logged   int64     `db:"logged"`
	}
	const open = `from jobs j where company_id = $1 and archived_at is null and done = '' `
	if err := s.db.SelectContext(ctx, &rows, `select id, doc,
		revision, `+counted+` as logged `+open+`order by id limit $2`, company, most); err != nil {
		return nil, 0, fmt.Errorf("list open jobs: %w", err)
	}
	if count = len(rows); count == most {
		if err := s.db.GetContext(ctx, &count, `select count(*) `+open, company); err != nil {
			return nil, 0, fmt.Errorf("count open jobs: %w", err)
		}
	}
	all := make([]Job, len(rows))
	for i, row := range rows {
		all[i] = Job{ID: row.ID, Company: company, Revision: row.Revision, Logged: row.Logged}
		if err := json.Unmarshal(row.Doc, &all[i].File); err != nil {
			return nil, 0, fmt.Errorf("decode job: %w", err)
		}
	}
	return all, count, nil
}

// OpenSite is an open job by its name and site.
type OpenSite struct {
	ID   uuid.UUID `db:"id"`
	Name string    `db:"name"`
	Site string    `db:"site"`

	Logged int64 `db:"logged"` // how many events its record holds
}

// OpenSites lists the names of all jobs of a company that are neither archived nor done.
func (s *Store) OpenSites(ctx context.Context, company uuid.UUID) ([]OpenSite, error) {
	all := []OpenSite{}
	if err := s.db.SelectContext(ctx, &all, `
		select id, name, site, `+counted+` as logged from jobs j
		where company_id = $1 and archived_at is null and done = ''`, company); err != nil {
		return nil, fmt.Errorf("list open sites: %w", err)
	}
	return all, nil
}
