package sessions

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"sync"
	"time"

	"nephelon/store"

	"github.com/google/uuid"
	"github.com/hashicorp/golang-lru/v2/simplelru"
)

// sessionStore keeps sessions in the database. One that nothing changed is not written again only
// because it was used: its end of idleness moves in steps. One that was ended while a
// request was under way stays ended.
type sessionStore struct {
	store   Store
	mutex   sync.Mutex
	written *simplelru.LRU[string, writtenSession]
}

type writtenSession struct {
	data  []byte
	until time.Time
}

// The step by which idleness is counted, and for how many sessions the last
// writing is remembered.
const (
	idleStep        = 10 * time.Minute
	sessionsWritten = 8192
)

func newSessionStore(in Store) (*sessionStore, error) {
	written, err := simplelru.NewLRU[string, writtenSession](sessionsWritten, nil)
	if err != nil {
		return nil, fmt.Errorf("remember sessions: %w", err)
	}
	return &sessionStore{store: in, written: written}, nil
}

// FindCtx reads a session.
func (s *sessionStore) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	data, person, there, err := s.store.FindSignedIn(ctx, token)
	if there {
		if found, is := ctx.Value(foundKey{}).(*store.Person); is {
			*found = person
		}
	} else if err == nil {
		data, there, err = s.store.FindSession(ctx, token)
	}
	if err != nil || !there {
		return nil, false, err
	}
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if !s.written.Contains(token) {
		s.written.Add(token, writtenSession{data: data})
	}
	return data, true, nil
}

// CommitCtx begins a session, or writes one that is there unless it was written like that a
// moment ago.
func (s *sessionStore) CommitCtx(ctx context.Context, token string, data []byte, until time.Time) error {
	s.mutex.Lock()
	last, known := s.written.Get(token)
	s.mutex.Unlock()
	if known && bytes.Equal(last.data, data) && until.Sub(last.until) < idleStep {
		return nil
	}
	deadline, values, err := sessionCodec{}.Decode(data)
	if err != nil {
		return err
	}
	// What was read from the database says so itself: it is updated and never inserted, so
	// that a session that was ended meanwhile stays ended, whatever is remembered here.
	if kept, _ := values[keptKey].(bool); kept {
		if err := s.store.KeepSession(ctx, token, data, until); err != nil {
			return err
		}
	} else {
		values[keptKey] = true
		if data, err = (sessionCodec{}).Encode(deadline, values); err != nil {
			return err
		}
		agent, _ := values[agentKey].(string)
		id := func(key string) uuid.NullUUID {
			text, _ := values[key].(string)
			of, err := uuid.Parse(text)
			return uuid.NullUUID{UUID: of, Valid: err == nil}
		}
		if err := s.store.BeginSession(ctx, token, data, until, id(companyKey), id(personKey), agent); err != nil {
			return err
		}
	}
	s.mutex.Lock()
	defer s.mutex.Unlock()
	s.written.Add(token, writtenSession{bytes.Clone(data), until})
	return nil
}

// DeleteCtx ends a session.
func (s *sessionStore) DeleteCtx(ctx context.Context, token string) error {
	return s.store.EndSession(ctx, token)
}

// Find, Commit and Delete are asked for by the session library, which calls those with a
// context where they are there.
func (s *sessionStore) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit is CommitCtx.
func (s *sessionStore) Commit(token string, data []byte, until time.Time) error {
	return s.CommitCtx(context.Background(), token, data, until)
}

// Delete is DeleteCtx.
func (s *sessionStore) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }

// sessionCodec writes sessions as JSON: what they hold are strings, and reading
// them back is a part of every request.
type sessionCodec struct{}

type sessionData struct {
	Until  time.Time      `json:"until"`
	Values map[string]any `json:"values"`
}

// Encode writes a session.
func (sessionCodec) Encode(until time.Time, values map[string]any) ([]byte, error) {
	text, err := json.Marshal(sessionData{until, values})
	if err != nil {
		return nil, fmt.Errorf("write session: %w", err)
	}
	return text, nil
}

// Decode reads a session.
func (sessionCodec) Decode(text []byte) (time.Time, map[string]any, error) {
	var data sessionData
	if err := json.Unmarshal(text, &data); err != nil {
		return data.Until, nil, fmt.Errorf("read session: %w", err)
	}
	return data.Until, data.Values, nil
}
