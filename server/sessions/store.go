package sessions

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nephelon/core/measure"
	"nephelon/store"
)

// Store holds what the package asks of the database.
type Store interface {
	AddPasswordLink(ctx context.Context, company, person, by uuid.UUID, secret string, until time.Time) error
	AddPerson(ctx context.Context, p store.Person) (uuid.UUID, error)
	Attempt(ctx context.Context, key string, within time.Duration) (int, error)
	AuditLog(ctx context.Context, company uuid.UUID) ([]store.Audited, error)
	BeginSession(ctx context.Context, token string, data []byte, until time.Time, company, person uuid.NullUUID,
		agent string) error
	ChangePerson(ctx context.Context, company, person uuid.UUID, base int64, role store.Role,
		active bool) (revision int64, err error)
	Colleague(ctx context.Context, company, id uuid.UUID) (store.Person, error)
	EndSession(ctx context.Context, token string) error
	EndSessions(ctx context.Context, company, person uuid.UUID, but string) error
	FindSignedIn(ctx context.Context, token string) ([]byte, store.Person, bool, error)
	FindSession(ctx context.Context, token string) ([]byte, bool, error)
	ForgetAttempt(ctx context.Context, key string) error
	ForgetAttempts(ctx context.Context, key string, within time.Duration) error
	ForgetPerson(ctx context.Context, company, person uuid.UUID) error
	KeepSession(ctx context.Context, token string, data []byte, until time.Time) error
	PasswordLinkHolds(ctx context.Context, secret string) error
	People(ctx context.Context, company uuid.UUID) ([]store.Person, error)
	Person(ctx context.Context, company, id uuid.UUID) (store.Person, error)
	PersonByEmail(ctx context.Context, email string) (store.Person, error)
	RecoveryLeft(ctx context.Context, person store.Person) (int, error)
	Sessions(ctx context.Context, company, person uuid.UUID) ([]store.Session, error)
	SetFactor(ctx context.Context, company, person uuid.UUID, secret string, step int64, recovery []string) error
	SetPassword(ctx context.Context, company, person uuid.UUID, hash, but string) error
	SetUnits(ctx context.Context, company, person uuid.UUID, units measure.System) error
	TakeRecoveryCode(ctx context.Context, person store.Person, code string) error
	TakeStep(ctx context.Context, person store.Person, step int64) error
	UsePasswordLink(ctx context.Context, secret, hash string) (store.Person, error)
	WantFactor(ctx context.Context, company uuid.UUID, wanted bool) error
}
