package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/google/uuid"
)

// RunState names how far a run has come.
type RunState string

// The states of a run.
const (
	RunWaiting RunState = "waiting"
	RunRunning RunState = "running"
	RunDone    RunState = "done"
	RunStopped RunState = "stopped"
)

// Run is a plan of a company that was asked for.
type Run struct {
	ID       uuid.UUID       `db:"id"`
	Company  uuid.UUID       `db:"company_id"`
	Person   uuid.UUID       `db:"person_id"`
	Question json.RawMessage `db:"question"`
	State    RunState        `db:"state"`
	Progress []byte          `db:"progress"` // nil while nothing is known
	Answer   []byte          `db:"answer"`   // nil before it is done
	Untaken  bool            `db:"untaken"`  // it waits, and nobody works at any run
}

// How many runs of a company may wait, how long an answer is kept, and after how long without
// a sign a run is taken up again.
const (
	MostWaiting = 20
	keptRuns    = "1 day"
	lostAfter   = "6 seconds"
)

// ErrManyWait means that as many runs of a company wait as may.
var ErrManyWait = errors.New("as many plans are waited for as may be")

// AddRun asks for a plan; what was asked for long ago is forgotten.
func (s *Store) AddRun(ctx context.Context, company, person uuid.UUID, question json.RawMessage) (uuid.UUID, error) {
	id, err := newID()
	if err != nil {
		return id, err
	}
	if _, err := s.db.ExecContext(ctx, `delete from roster_runs where company_id = $1
		and made_at < now() - interval '`+keptRuns+`'`, company); err != nil {
		return id, fmt.Errorf("forget old plans: %w", err)
	}
	done, err := s.db.ExecContext(ctx, `
		insert into roster_runs (id, company_id, person_id, question) select $1, $2, $3, $4
		where (select count(*) from roster_runs where company_id = $2 and state in ('waiting',
		'running')) < $5`, id, company, person, []byte(question), MostWaiting)
	if err != nil {
		return id, fmt.Errorf("ask for a plan: %w", err)
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return id, ErrManyWait
	}
	return id, nil
}

// Run reads a run of a company.
func (s *Store) Run(ctx context.Context, company, run uuid.UUID) (Run, error) {
	var r Run
	err := found(s.db.GetContext(ctx, &r, `select id, company_id, person_id, question, state, progress, answer,
			state = 'waiting' and made_at < clock_timestamp() - interval '`+lostAfter+`' and not exists (select 1 from roster_runs
				where state = 'running' and beat >= clock_timestamp() - interval '`+lostAfter+`') as untaken
		from roster_runs where company_id = $1 and id = $2`, company, run), "read a plan")
	return r, err
}

// TakeRun takes up the oldest run that waits, or that whoever worked at it left, of a company
// for which nobody works at another. It fails with ErrNotFound where there is none.
func (s *Store) TakeRun(ctx context.Context) (Run, error) {
	var r Run
	err := found(s.db.GetContext(ctx, &r, `
		update roster_runs set state = 'running', beat = clock_timestamp(), progress = null where id = (
			select id from roster_runs r
			where (state = 'waiting' or state = 'running' and beat < clock_timestamp() - interval '`+lostAfter+`')
				and not exists (select 1 from roster_runs o where o.company_id = r.company_id and o.id <> r.id and o.state = 'running' and o.beat >= clock_timestamp() - interval '`+lostAfter+`')
			order by made_at, id limit 1 for update skip locked)
		returning id, company_id, person_id, question, state, progress, answer`), "take up a plan")
	return r, err
}

// Beat says that somebody still works at a run, and how far it is. False means that it was
// stopped, or taken up by somebody else.
func (s *Store) Beat(ctx context.Context, run uuid.UUID, progress []byte) (bool, error) {
	done, err := s.db.ExecContext(ctx, `update roster_runs set beat = clock_timestamp(), progress = $2 where id = $1
		and state = 'running'`, run, progress)
	if err != nil {
		return false, fmt.Errorf("tell of a plan: %w", err)
	}
	n, err := done.RowsAffected()
	if err != nil {
		return false, fmt.Errorf("tell of a plan: %w", err)
	}
	return n > 0, nil
}

// EndRun keeps the answer of a run, unless it was stopped meanwhile.
func (s *Store) EndRun(ctx context.Context, run uuid.UUID, answer []byte) error {
	if _, err := s.db.ExecContext(ctx, `update roster_runs set state = 'done', answer = $2, beat = clock_timestamp()
		where id = $1 and state = 'running'`, run, answer); err != nil {
		return fmt.Errorf("keep a plan: %w", err)
	}
	return nil
}

// StopRun stops a run of a company, wherever somebody works at it.
func (s *Store) StopRun(ctx context.Context, company, run uuid.UUID) error {
	done, err := s.db.ExecContext(ctx, `update roster_runs set state = 'stopped' where company_id = $1 and id = $2
		and state in ('waiting', 'running')`, company, run)
	if err != nil {
		return fmt.Errorf("stop a plan: %w", err)
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return ErrNotFound
	}
	return nil
}

// Values returns all values, in the order in which they are shown.
func (RunState) Values() []RunState {
	return []RunState{RunWaiting, RunRunning, RunDone, RunStopped}
}
