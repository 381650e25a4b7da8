package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
)

// CalendarLink is a private address at which days are read.
type CalendarLink struct {
	ID      uuid.UUID `db:"id"`
	Company uuid.UUID `db:"company_id"`
	Crew    string    `db:"crew"`   // empty: everybody's
	Member  string    `db:"member"` // of whichever crew; empty where it is a crew's
	MadeBy  string    `db:"made_by"`
	MadeAt  time.Time `db:"made_at"`
}

// MaxCalendarLinks limits how many addresses a company can have.
const MaxCalendarLinks = 100

// ErrTooManyLinks means that a company has as many addresses as it can.
var ErrTooManyLinks = errors.New("a company has at most 100 calendar addresses")

// AddCalendarLink makes an address of a company for a crew or one of its members; of its
// secret the hash is kept.
func (s *Store) AddCalendarLink(ctx context.Context, company uuid.UUID, of CalendarLink, person uuid.UUID,
	secret []byte) (uuid.UUID, error) {
	id, err := newID()
	if err != nil {
		return id, err
	}
	held, err := s.CalendarLinks(ctx, company)
	if err != nil {
		return id, err
	}
	if len(held) >= MaxCalendarLinks {
		return id, ErrTooManyLinks
	}
	if _, err := s.db.ExecContext(ctx, `insert into calendar_links (id, company_id, crew, member, secret, made_by)
		values ($1, $2, $3, $4, $5, $6)`, id, company, of.Crew, of.Member, secret, person); err != nil {
		return id, fmt.Errorf("keep a calendar address: %w", err)
	}
	return id, nil
}

// CalendarLinks lists the addresses of a company, oldest first.
func (s *Store) CalendarLinks(ctx context.Context, company uuid.UUID) ([]CalendarLink, error) {
	links := []CalendarLink{}
	if err := s.db.SelectContext(ctx, &links, `
		select l.id, l.company_id, l.crew, l.member, p.name as made_by, l.made_at
		from calendar_links l join people p on p.company_id = l.company_id and p.id = l.made_by where l.company_id = $1
		order by l.made_at, l.id`, company); err != nil {
		return nil, fmt.Errorf("list calendar addresses: %w", err)
	}
	return links, nil
}

// CalendarLink finds the address with the hash of a secret.
func (s *Store) CalendarLink(ctx context.Context, secret []byte) (CalendarLink, error) {
	var link CalendarLink
	err := found(s.db.GetContext(ctx, &link, `
		select l.id, l.company_id, l.crew, l.member, p.name as made_by, l.made_at
		from calendar_links l join people p on p.company_id = l.company_id and p.id = l.made_by
		where l.secret = $1`, secret), "read a calendar address")
	return link, err
}

// RevokeCalendarLink ends an address of a company.
func (s *Store) RevokeCalendarLink(ctx context.Context, company, link uuid.UUID) error {
	done, err := s.db.ExecContext(ctx, `delete from calendar_links where company_id = $1 and id = $2`, company, link)
	if err != nil {
		return fmt.Errorf("revoke a calendar address: %w", err)
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return ErrNotFound
	}
	return nil
}
