package store

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"nephelon/core/record/learn"
)

// mostLearnt is from how many of the newest jobs is learnt.
const mostLearnt = 1000

const selectCases = `select j.id, j.cases from jobs j join (select job_id, max(at) as at from issues where company_id = $1
	group by job_id order by 2 desc limit $2) i on i.job_id = j.id where j.company_id = $1`

// keptCases are cases as they are kept, with the version of what worked them out.
type keptCases struct {
	Version int          `json:"version"`
	Cases   []learn.Case `json:"cases"`
}

// Cases returns what the records of a company's jobs show, as work makes it of a job's record. What
// was worked out before and is still true is read.
func (s *Store) Cases(ctx context.Context, company uuid.UUID, work func(JobRecord) []learn.Case) ([]learn.Case, error) {
	var rows []struct {
		ID    string `db:"id"`
		Cases []byte `db:"cases"`
	}
	if err := s.db.SelectContext(ctx, &rows, selectCases, company, mostLearnt); err != nil {
		return nil, fmt.Errorf("read what records show: %w", err)
	}
	all, missing := []learn.Case{}, []string{}
	for _, r := range rows {
		if r.Cases == nil {
			missing = append(missing, r.ID)
			continue
		}
		var kept keptCases
		if err := json.Unmarshal(r.Cases, &kept); err != nil {
			return nil, fmt.Errorf("decode what a record shows: %w", err)
		}
		if kept.Version != learn.Version {
			missing = append(missing, r.ID)
			continue
		}
		all = append(all, kept.Cases...)
	}
	const together = 60
	for some := range slices.Chunk(missing, together) {
		records, err := s.recorded(ctx, company, some)
		if err != nil {
			return nil, err
		}
		for n, id := range some {
			cases := work(records[n])
			all = append(all, cases...)
			if err := s.keepCases(ctx, company, id, len(records[n].Events)+len(records[n].Issues), cases); err != nil {
				return nil, err
			}
		}
	}
	return all, nil
}

// keepCases keeps what a job's record shows, unless something was logged or issued since it was read.
func (s *Store) keepCases(ctx context.Context, company uuid.UUID, job string, read int, cases []learn.Case) error {
	doc, err := json.Marshal(keptCases{learn.Version, cases})
	if err != nil {
		return fmt.Errorf("encode what a record shows: %w", err)
	}
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `select from jobs where company_id = $1 and id = $2 for update`, company,
			job); err != nil {
			return fmt.Errorf("hold a job: %w", err)
		}
		if _, err := tx.ExecContext(ctx, `update jobs set cases = $3 where company_id = $1 and id = $2
			and (select count(*) from events where company_id = $1 and job_id = $2)
			+ (select count(*) from issues where company_id = $1 and job_id = $2) = $4`,
			company, job, doc, read); err != nil {
			return fmt.Errorf("keep what a record shows: %w", err)
		}
		return nil
	})
}
