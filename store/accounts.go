package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
)

// AddPasswordLink keeps a link by which a person of a company sets a password, until a time.
// Earlier ones of theirs end.
func (s *Store) AddPasswordLink(ctx context.Context, company, person, by uuid.UUID, secret string,
	until time.Time) error {
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		var there bool
		if err := found(tx.GetContext(ctx, &there, `select true from people where company_id = $1 and id = $2
			and active`, company, person), "find a person"); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `update password_links set used_at = now() where company_id = $1 and person_id = $2
			and used_at is null`, company, person); err != nil {
			return fmt.Errorf("end earlier links: %w", err)
		}
		hash := sha256.Sum256([]byte(secret))
		if _, err := tx.ExecContext(ctx, `insert into password_links (secret, company_id, person_id, made_by, until)
			values ($1, $2, $3, $4, $5)`, hash[:], company, person, by, until); err != nil {
			return fmt.Errorf("keep a link: %w", err)
		}
		return nil
	})
}

// PasswordLinkHolds fails with ErrNotFound unless a link can be used.
func (s *Store) PasswordLinkHolds(ctx context.Context, secret string) error {
	sum := sha256.Sum256([]byte(secret))
	var there bool
	return found(s.db.GetContext(ctx, &there, `select true from password_links where secret = $1 and used_at is null
		and until > now()`, sum[:]), "look for a link")
}

// UsePasswordLink sets the password of whoever a link was made for, ends the link and all of
// their sessions, and tells who it is. It fails with ErrNotFound where the link is none, was
// used, or has ended.
func (s *Store) UsePasswordLink(ctx context.Context, secret, hash string) (Person, error) {
	var p Person
	err := s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		sum := sha256.Sum256([]byte(secret))
		var of struct {
			Company uuid.UUID `db:"company_id"`
			Person  uuid.UUID `db:"person_id"`
		}
		err := tx.GetContext(ctx, &of, `update password_links set used_at = now() where secret = $1 and used_at is null
			and until > now() returning company_id, person_id`, sum[:])
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNotFound
		}
		if err != nil {
			return fmt.Errorf("use a link: %w", err)
		}
		if err := setPassword(ctx, tx, of.Company, of.Person, hash, ""); err != nil {
			return err
		}
		return found(tx.GetContext(ctx, &p, selectPerson+`where p.company_id = $1 and p.id = $2 and p.active`, of.Company,
			of.Person), "find a person")
	})
	return p, err
}

// SetPassword sets the password of a person, and ends all their sessions but one.
func (s *Store) SetPassword(ctx context.Context, company, person uuid.UUID, hash, but string) error {
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error { return setPassword(ctx, tx, company, person, hash, but) })
}

func setPassword(ctx context.Context, tx *sqlx.Tx, company, person uuid.UUID, hash, but string) error {
	if _, err := tx.ExecContext(ctx, `update people set password_hash = $3 where company_id = $1
		and id = $2`, company, person, hash); err != nil {
		return fmt.Errorf("set a password: %w", err)
	}
	if _, err := tx.ExecContext(ctx, `delete from sessions where company_id = $1 and person_id = $2
		and token <> $3`, company, person, but); err != nil {
		return fmt.Errorf("end sessions: %w", err)
	}
	return nil
}

// Audited is something that was done with accounts, rights or data.
type Audited struct {
	At    time.Time `db:"at"`
	Name  string    `db:"name"` // of who did it; empty where nobody was signed in
	What  string    `db:"what"`
	About string    `db:"about"`
}

// Audit keeps that something was done; the database lets nobody change it.
func (s *Store) Audit(ctx context.Context, company uuid.UUID, person uuid.NullUUID, what, about string) error {
	if _, err := s.db.ExecContext(ctx, `insert into audit (company_id, person_id, what, about)
		values ($1, $2, $3, $4)`, company, person, what, about); err != nil {
		return fmt.Errorf("keep what was done: %w", err)
	}
	return nil
}

// mostAudited limits how many lines of the log are read at once.
const mostAudited = 1000

// AuditLog returns what was done in a company, newest first, at most 1000 lines.
func (s *Store) AuditLog(ctx context.Context, company uuid.UUID) ([]Audited, error) {
	all := []Audited{}
	if err := s.db.SelectContext(ctx, &all, `
		select a.at, coalesce(p.name, '') as name, a.what, a.about from audit a
		left join people p on p.company_id = a.company_id and p.id = a.person_id
		where a.company_id = $1 order by a.id desc limit $2`, company, mostAudited); err != nil {
		return nil, fmt.Errorf("read what was done: %w", err)
	}
	return all, nil
}

// ForgetPerson takes the name and the address of someone who left out of a company's people;
// what they did stays under a role and a number.
func (s *Store) ForgetPerson(ctx context.Context, company, person uuid.UUID) error {
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if err := changeOne(ctx, tx, "forget a person", `
			update people set name = initcap(role) || ' ' || upper(left(id::text, 4)), email = id::text || '@gone.invalid',
			password_hash = '', factor = ''
			where company_id = $1 and id = $2 and not active`, company, person); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `delete from addresses where company_id = $1
			and person_id = $2`, company, person); err != nil {
			return fmt.Errorf("forget an address: %w", err)
		}
		return nil
	})
}

// Attempt notes that somebody tries to sign in, before anything is checked, and tells how
// often it was tried under the key within a time, this one counted. Attempts that come
// together are counted one after the other: each has a number of its own.
func (s *Store) Attempt(ctx context.Context, key string, within time.Duration) (int, error) {
	var count int
	err := s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `select pg_advisory_xact_lock(hashtextextended($1, 0))`, key); err != nil {
			return fmt.Errorf("wait to count sign-ins: %w", err)
		}
		if _, err := tx.ExecContext(ctx, `insert into sign_in_failures (key) values ($1)`, key); err != nil {
			return fmt.Errorf("note a sign-in: %w", err)
		}
		if err := tx.GetContext(ctx, &count, `select count(*) from sign_in_failures where key = $1
			and at > now() - $2 * interval '1 second'`, key, within.Seconds()); err != nil {
			return fmt.Errorf("count sign-ins: %w", err)
		}
		return nil
	})
	return count, err
}
