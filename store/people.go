package store

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jmoiron/sqlx"

	"nephelon/core/measure"
)

// Role names what a person may do.
type Role string

// The roles, most trusted first. A hand reads; the others also edit jobs; an
// owner also manages people.
const (
	Owner     Role = "owner"
	Estimator Role = "estimator"
	Lead      Role = "lead"
	Hand      Role = "hand"
)

// Person is someone who signs in.
type Person struct {
	ID           uuid.UUID      `db:"id"`
	CompanyID    uuid.UUID      `db:"company_id"`
	Company      string         `db:"company"`
	Name         string         `db:"name"`
	Email        string         `db:"email"`
	Role         Role           `db:"role"`
	PasswordHash string         `db:"password_hash"`
	Units        measure.System `db:"units"`
	Active       bool           `db:"active"`
	Revision     int64          `db:"revision"`
	Factor       string         `db:"factor"`        // the secret of codes by time; none when empty
	FactorWanted bool           `db:"factor_wanted"` // by the company, of everybody
	ListRevision int64          `db:"list_revision"` // grows with every change of what the company's list of jobs shows
}

// ErrEmailTaken means that someone already signs in with that address.
var ErrEmailTaken = errors.New("someone already signs in with this address")

// ErrLastOwner means that a company would be left without an owner.
var ErrLastOwner = errors.New("a company needs at least one owner")

const personColumns = `p.id, p.company_id, c.name as company, p.name, p.email, p.role, p.password_hash,
	p.units || case p.clock when '12' then '+12h' else '' end as units,
	p.active, p.revision, p.factor, c.factor_wanted, c.list_revision`

const selectPerson = `select ` + personColumns + ` from people p join companies c on c.id = p.company_id `

// AddCompany makes a company and returns its id.
func (s *Store) AddCompany(ctx context.Context, name string) (uuid.UUID, error) {
	id, err := newID()
	if err != nil {
		return id, err
	}
	if _, err := s.db.ExecContext(ctx, `insert into companies (id, name) values ($1, $2)`, id, name); err != nil {
		return id, fmt.Errorf("add company: %w", err)
	}
	return id, nil
}

// HasCompany reports whether any company exists.
func (s *Store) HasCompany(ctx context.Context) (bool, error) {
	var any bool
	if err := s.db.GetContext(ctx, &any, `select exists (select from companies)`); err != nil {
		return false, fmt.Errorf("look for a company: %w", err)
	}
	return any, nil
}

// Found makes a company with its owner, or neither.
func (s *Store) Found(ctx context.Context, name string, owner Person) (company uuid.UUID, err error) {
	if company, err = newID(); err != nil {
		return company, err
	}
	err = s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `insert into companies (id, name) values ($1, $2)`, company, name); err != nil {
			return fmt.Errorf("add company: %w", err)
		}
		owner.CompanyID = company
		_, err := addPerson(ctx, tx, owner)
		return err
	})
	return company, err
}

// AddPerson adds someone to the company p.CompanyID and returns the id.
func (s *Store) AddPerson(ctx context.Context, p Person) (uuid.UUID, error) {
	var id uuid.UUID
	err := s.inTransaction(ctx, func(tx *sqlx.Tx) (err error) {
		id, err = addPerson(ctx, tx, p)
		return err
	})
	return id, err
}

func addPerson(ctx context.Context, in *sqlx.Tx, p Person) (uuid.UUID, error) {
	id, err := newID()
	if err != nil {
		return id, err
	}
	if _, err := in.ExecContext(ctx, `insert into people (id, company_id, name, email, role, password_hash, units, clock)
		values ($1, $2, $3, $4, $5, $6, $7, $8)`,
		id, p.CompanyID, p.Name, strings.ToLower(p.Email), p.Role, p.PasswordHash, p.Units.Units(),
		p.Units.Clock()); err != nil {
		return id, fmt.Errorf("add person: %w", err)
	}
	_, err = in.ExecContext(ctx, `insert into addresses (email, company_id, person_id)
		values ($1, $2, $3)`, strings.ToLower(p.Email), p.CompanyID, id)
	var violated *pgconn.PgError
	const uniqueViolation = "23505"
	if errors.As(err, &violated) && violated.Code == uniqueViolation {
		return id, ErrEmailTaken
	}
	if err != nil {
		return id, fmt.Errorf("add person: %w", err)
	}
	return id, nil
}

// PersonByEmail finds an active person by address, of whatever company.
func (s *Store) PersonByEmail(ctx context.Context, email string) (Person, error) {
	var p Person
	err := s.db.GetContext(ctx, &p,
		selectPerson+`join addresses a on a.company_id = p.company_id and a.person_id = p.id where a.email = lower($1) and p.active`, email)
	return p, found(err, "find person by address")
}

// Person finds an active person of a company.
func (s *Store) Person(ctx context.Context, company, id uuid.UUID) (Person, error) {
	var p Person
	err := s.db.GetContext(ctx, &p, selectPerson+`where p.company_id = $1 and p.id = $2 and p.active`, company, id)
	return p, found(err, "find person")
}

// Colleague finds a person of a company, active or not.
func (s *Store) Colleague(ctx context.Context, company, id uuid.UUID) (Person, error) {
	var p Person
	err := s.db.GetContext(ctx, &p, selectPerson+`where p.company_id = $1 and p.id = $2`, company, id)
	return p, found(err, "find person")
}

// People lists a company's people by name.
func (s *Store) People(ctx context.Context, company uuid.UUID) ([]Person, error) {
	people := []Person{}
	if err := s.db.SelectContext(ctx, &people, selectPerson+`where p.company_id = $1 order by p.active desc, p.name`,
		company); err != nil {
		return nil, fmt.Errorf("list people: %w", err)
	}
	return people, nil
}

// SetUnits keeps how a person reads: their units and the face of their clock.
func (s *Store) SetUnits(ctx context.Context, company, person uuid.UUID, units measure.System) error {
	if _, err := s.db.ExecContext(ctx, `update people set units = $3, clock = $4 where company_id = $1
		and id = $2`, company, person, units.Units(), units.Clock()); err != nil {
		return fmt.Errorf("set units: %w", err)
	}
	return nil
}

// ChangePerson sets the role of a company's person and whether they may sign
// in. The last active owner stays one.
func (s *Store) ChangePerson(ctx context.Context, company, person uuid.UUID, base int64, role Role,
	active bool) (revision int64, err error) {
	err = s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		// Two owners who change each other at once come one after the other.
		if _, err := tx.ExecContext(ctx, `select 1 from companies where id = $1 for update`, company); err != nil {
			return fmt.Errorf("lock the company: %w", err)
		}
		var stands struct {
			Revision int64 `db:"revision"`
			Same     bool  `db:"same"`
		}
		if err := found(tx.GetContext(ctx, &stands, `select revision, role = $3 and active = $4 as same from people
			where company_id = $1 and id = $2`, company, person, role, active), "find person"); err != nil {
			return err
		}
		if revision = stands.Revision; stands.Same {
			return nil // its answer was lost on the way, or nothing is changed
		}
		if stands.Revision != base {
			return ErrChanged
		}
		if err := tx.GetContext(ctx, &revision, `update people set role = $3, active = $4, revision = revision + 1
			where company_id = $1 and id = $2 returning revision`, company, person, role, active); err != nil {
			return fmt.Errorf("change person: %w", err)
		}
		if active {
			// Somebody who came with an archive has no address to sign in with yet.
			var mine bool
			if err := tx.GetContext(ctx, &mine, `
				insert into addresses (email, company_id, person_id) select email, company_id, id from people where company_id = $1
				and id = $2
				on conflict (email) do update set email = excluded.email returning company_id = $1
				and person_id = $2`, company, person); err != nil {
				return fmt.Errorf("take an address: %w", err)
			}
			if !mine {
				return ErrEmailTaken
			}
		}
		var owners int
		if err := tx.GetContext(ctx, &owners, `select count(*) from people where company_id = $1 and role = 'owner'
			and active`, company); err != nil {
			return fmt.Errorf("count owners: %w", err)
		}
		if owners == 0 {
			return ErrLastOwner
		}
		if !active {
			if _, err := tx.ExecContext(ctx, `delete from sessions where company_id = $1
				and person_id = $2`, company, person); err != nil {
				return fmt.Errorf("end sessions: %w", err)
			}
		}
		return tellOfPerson(ctx, tx, person)
	})
	return revision, err
}

// tellOfPerson notifies every server that a person's rights or sessions changed.
func tellOfPerson(ctx context.Context, tx *sqlx.Tx, person uuid.UUID) error {
	if _, err := tx.ExecContext(ctx, `select pg_notify($1,
		$2 || ' ' || pg_current_xact_id()::text)`, personChannel, person.String()); err != nil {
		return fmt.Errorf("tell of a person: %w", err)
	}
	return nil
}

// ForgetAttempt takes the newest attempt of a key back.
func (s *Store) ForgetAttempt(ctx context.Context, key string) error {
	if _, err := s.db.ExecContext(ctx, `delete from sign_in_failures where ctid = (select ctid from sign_in_failures
		where key = $1 order by at desc limit 1)`, key); err != nil {
		return fmt.Errorf("forget an attempt: %w", err)
	}
	return nil
}

// ForgetAttempts clears a key after a good sign-in, and all that are older than a time.
func (s *Store) ForgetAttempts(ctx context.Context, key string, within time.Duration) error {
	if _, err := s.db.ExecContext(ctx, `delete from sign_in_failures where key = $1
		or at < now() - $2 * interval '1 second'`, key, within.Seconds()); err != nil {
		return fmt.Errorf("forget failed sign-ins: %w", err)
	}
	return nil
}

// Values returns all values, in the order in which they are shown.
func (Role) Values() []Role {
	return []Role{Owner, Estimator, Lead, Hand}
}
