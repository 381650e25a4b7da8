package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"sync"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/hashicorp/golang-lru/v2/simplelru"
)

// calm is a session store that does not write a session again that nothing
// changed, only because it was used: its end of idleness moves in steps.
type calm struct {
	scs.Store
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

func newCalm(in scs.Store) (*calm, error) {
	written, err := simplelru.NewLRU[string, writtenSession](sessionsWritten, nil)
	if err != nil {
		return nil, fmt.Errorf("remember sessions: %w", err)
	}
	return &calm{Store: in, written: written}, nil
}

// Commit writes a session unless it was written like that a moment ago.
func (c *calm) Commit(token string, data []byte, until time.Time) error {
	c.mutex.Lock()
	last, known := c.written.Get(token)
	c.mutex.Unlock()
	if known && bytes.Equal(last.data, data) && until.Sub(last.until) < idleStep {
		return nil
	}
	if err := c.Store.Commit(token, data, until); err != nil {
		return fmt.Errorf("keep session: %w", err)
	}
	c.mutex.Lock()
	defer c.mutex.Unlock()
	c.written.Add(token, writtenSession{bytes.Clone(data), until})
	return nil
}

// Delete ends a session.
func (c *calm) Delete(token string) error {
	c.mutex.Lock()
	c.written.Remove(token)
	c.mutex.Unlock()
	if err := c.Store.Delete(token); err != nil {
		return fmt.Errorf("end session: %w", err)
	}
	return nil
}

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
