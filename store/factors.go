package store

import (
	"context"
	"crypto/sha256"
	"fmt"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
)

// SetFactor gives a person a second factor with its recovery codes, in place of earlier ones,
// or takes it away where the secret is empty. A company that wants one of everybody gets
// people to set it up again.
func (s *Store) SetFactor(ctx context.Context, company, person uuid.UUID, secret string, step int64,
	recovery []string) error {
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if err := changeOne(ctx, tx, "set a second factor", `update people set factor = $3, factor_step = $4
			where company_id = $1 and id = $2`, company, person, secret, step); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `delete from recovery_codes where company_id = $1
			and person_id = $2`, company, person); err != nil {
			return fmt.Errorf("forget recovery codes: %w", err)
		}
		for _, code := range recovery {
			hash := sha256.Sum256([]byte(code))
			if _, err := tx.ExecContext(ctx, `insert into recovery_codes (company_id, person_id, code)
				values ($1, $2, $3)`, company, person, hash[:]); err != nil {
				return fmt.Errorf("keep a recovery code: %w", err)
			}
		}
		return nil
	})
}

// TakeStep takes a person's code of a step of time, once. It fails with ErrNotFound where it,
// or a later one, was taken.
func (s *Store) TakeStep(ctx context.Context, person Person, step int64) error {
	return s.changeOne(ctx, "take a code", `update people set factor_step = $3 where company_id = $1 and id = $2
		and factor_step < $3`, person.CompanyID, person.ID, step)
}

// TakeRecoveryCode takes a recovery code, once. It fails with ErrNotFound where it is none.
func (s *Store) TakeRecoveryCode(ctx context.Context, person Person, code string) error {
	hash := sha256.Sum256([]byte(code))
	return s.changeOne(ctx, "take a recovery code", `update recovery_codes set used_at = now() where company_id = $1
		and person_id = $2 and code = $3 and used_at is null`, person.CompanyID, person.ID, hash[:])
}

// RecoveryLeft returns how many recovery codes a person has left.
func (s *Store) RecoveryLeft(ctx context.Context, person Person) (int, error) {
	var left int
	if err := s.db.GetContext(ctx, &left, `select count(*) from recovery_codes where company_id = $1 and person_id = $2
		and used_at is null`, person.CompanyID, person.ID); err != nil {
		return 0, fmt.Errorf("count recovery codes: %w", err)
	}
	return left, nil
}

// WantFactor reports whether a company wants a second factor of everybody.
func (s *Store) WantFactor(ctx context.Context, company uuid.UUID, wanted bool) error {
	return s.changeOne(ctx, "want a second factor", `update companies set factor_wanted = $2
		where id = $1`, company, wanted)
}
