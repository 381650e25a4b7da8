package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
)

// Session is somewhere a person is signed in.
type Session struct {
	Agent  string    `db:"agent"` // the browser, as it calls itself
	SeenAt time.Time `db:"seen_at"`
	Until  time.Time `db:"expiry"`
}

// FindSession reads a session that has not ended; false where there is none.
func (s *Store) FindSession(ctx context.Context, token string) ([]byte, bool, error) {
	var data []byte
	err := s.db.GetContext(ctx, &data, `select data from sessions where token = $1 and expiry > now()`, token)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, false, nil
	}
	if err != nil {
		return nil, false, fmt.Errorf("read a session: %w", err)
	}
	return data, true, nil
}

// FindSignedIn reads the session of an active person, with the person. It reports false where
// there is none: FindSession finds those of people who have not signed in yet.
func (s *Store) FindSignedIn(ctx context.Context, token string) ([]byte, Person, bool, error) {
	var row struct {
		Data []byte `db:"data"`
		Person
	}
	err := s.db.GetContext(ctx, &row, `
		select s.data, `+personColumns+` from sessions s
		join people p on p.company_id = s.company_id and p.id = s.person_id and p.active
		join companies c on c.id = p.company_id
		where s.token = $1 and s.expiry > now()`, token)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, Person{}, false, nil
	}
	if err != nil {
		return nil, Person{}, false, fmt.Errorf("read a session: %w", err)
	}
	return row.Data, row.Person, true, nil
}

// BeginSession keeps a new session, and forgets those that have ended.
func (s *Store) BeginSession(ctx context.Context, token string, data []byte, until time.Time, company,
	person uuid.NullUUID, agent string) error {
	if _, err := s.db.ExecContext(ctx, `delete from sessions where expiry < now()`); err != nil {
		return fmt.Errorf("forget old sessions: %w", err)
	}
	if _, err := s.db.ExecContext(ctx, `
		insert into sessions (token, data, expiry, company_id, person_id, agent) values ($1, $2, $3, $4, $5, $6)
		on conflict (token) do update set data = $2, expiry = $3, company_id = $4,
		person_id = $5`, token, data, until, company, person, agent); err != nil {
		return fmt.Errorf("begin a session: %w", err)
	}
	return nil
}

// KeepSession writes a session that is there. One that was ended meanwhile stays ended.
func (s *Store) KeepSession(ctx context.Context, token string, data []byte, until time.Time) error {
	if _, err := s.db.ExecContext(ctx, `update sessions set data = $2, expiry = $3, seen_at = now()
		where token = $1`, token, data, until); err != nil {
		return fmt.Errorf("keep a session: %w", err)
	}
	return nil
}

// EndSession ends a session.
func (s *Store) EndSession(ctx context.Context, token string) error {
	if _, err := s.db.ExecContext(ctx, `delete from sessions where token = $1`, token); err != nil {
		return fmt.Errorf("end a session: %w", err)
	}
	return nil
}

// EndSessions ends all sessions of a person but one.
func (s *Store) EndSessions(ctx context.Context, company, person uuid.UUID, but string) error {
	return s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `delete from sessions where company_id = $1 and person_id = $2
			and token <> $3`, company, person, but); err != nil {
			return fmt.Errorf("end sessions: %w", err)
		}
		return tellOfPerson(ctx, tx, person)
	})
}

// Sessions returns where a person is signed in, used last first.
func (s *Store) Sessions(ctx context.Context, company, person uuid.UUID) ([]Session, error) {
	all := []Session{}
	if err := s.db.SelectContext(ctx, &all, `select agent, seen_at, expiry from sessions where company_id = $1
		and person_id = $2 and expiry > now() order by seen_at desc`, company, person); err != nil {
		return nil, fmt.Errorf("list sessions: %w", err)
	}
	return all, nil
}
