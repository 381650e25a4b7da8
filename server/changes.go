package server

import (
	"context"
	"fmt"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/store"
)

// changes passes the saves that PostgreSQL tells of on to the pages that have
// the job open.
type changes struct {
	mutex     sync.Mutex
	listeners map[uuid.UUID]map[chan int64]bool
	closed    chan struct{}
	once      sync.Once
}

func newChanges() *changes {
	return &changes{listeners: make(map[uuid.UUID]map[chan int64]bool), closed: make(chan struct{})}
}

func (c *changes) close() { c.once.Do(func() { close(c.closed) }) }

func (c *changes) listen(job uuid.UUID) (heard chan int64, stop func()) {
	heard = make(chan int64, 1)
	c.mutex.Lock()
	defer c.mutex.Unlock()
	if c.listeners[job] == nil {
		c.listeners[job] = make(map[chan int64]bool)
	}
	c.listeners[job][heard] = true
	return heard, func() {
		c.mutex.Lock()
		defer c.mutex.Unlock()
		delete(c.listeners[job], heard)
		if len(c.listeners[job]) == 0 {
			delete(c.listeners, job)
		}
	}
}

// count is how many listen to one.
func (c *changes) count(of uuid.UUID) int {
	c.mutex.Lock()
	defer c.mutex.Unlock()
	return len(c.listeners[of])
}

func (c *changes) tell(change store.Change) {
	c.mutex.Lock()
	defer c.mutex.Unlock()
	for heard := range c.listeners[change.ID] {
		put(heard, change.Revision)
	}
}

// unknown stands in for the number of a change that was perhaps missed.
const unknown = -1

// lookAgain has all who listen look for themselves.
func (c *changes) lookAgain() {
	c.mutex.Lock()
	defer c.mutex.Unlock()
	for _, all := range c.listeners {
		for heard := range all {
			put(heard, unknown)
		}
	}
}

// put leaves a number to be heard. Only the newest counts: one that is not yet heard is taken back.
func put(heard chan int64, number int64) {
	select {
	case <-heard:
	default:
	}
	heard <- number
}

// mostStreams is how many live streams one person may have open at a server.
const mostStreams = 24

const (
	relisten  = 2 * time.Second
	heartbeat = 20 * time.Second
)

// follow listens for saves until the context ends, again after a break.
func (s *Server) follow(ctx context.Context) {
	for ctx.Err() == nil {
		// What was not heard while it was cut off is looked for by everyone who listens.
		begun := func() {
			for _, of := range []*changes{s.changes, s.logged, s.people} {
				of.lookAgain()
			}
		}
		if err := s.store.Listen(ctx, begun, s.hear); err != nil && ctx.Err() == nil {
			s.log.Warn("live updates are interrupted", "error", err)
		}
		select {
		case <-ctx.Done():
		case <-time.After(relisten):
		}
	}
}

// hear passes a change on to those who follow what changed.
func (s *Server) hear(change store.Change) {
	switch change.Of {
	case store.OfRecord:
		s.logged.tell(change)
	case store.OfPerson:
		s.people.tell(change)
	case store.OfJob:
		s.changes.tell(change)
	}
}

// jobChanges streams the revision of every save of a job as server-sent events.
func (s *Server) jobChanges(ctx context.Context, in *JobPath) (*huma.StreamResponse, error) {
	return s.stream(ctx, s.changes, in.Job, func() (int64, error) {
		j, err := s.store.Job(ctx, person(ctx).CompanyID, in.Job)
		return j.Revision, err
	})
}

// stream sends a number as a server-sent event now, and each greater one that is heard of
// a job.
func (s *Server) stream(ctx context.Context, of *changes, job uuid.UUID,
	now func() (int64, error)) (*huma.StreamResponse, error) {
	// Listened to before it is read: no change falls between.
	heard, stop := of.listen(job)
	me, token := person(ctx), s.sessions.Token(ctx)
	who := me.ID
	changed, ignore := s.people.listen(who)
	if s.people.count(who) > mostStreams {
		stop()
		ignore()
		return nil,
			huma.Error429TooManyRequests(fmt.Sprintf("%d live pages are open already. Close some, then open this one again.",
				mostStreams))
	}
	newest, err := now()
	if err != nil {
		stop()
		ignore()
		return nil, s.trouble(ctx, "read job", err)
	}
	return &huma.StreamResponse{Body: func(out huma.Context) {
		defer stop()
		defer ignore()
		out.SetHeader("Content-Type", "text/event-stream")
		out.SetStatus(http.StatusOK)
		w := out.BodyWriter()
		flusher, _ := w.(http.Flusher)
		say := func(text string) bool {
			_, err := fmt.Fprint(w, text)
			if flusher != nil {
				flusher.Flush()
			}
			return err == nil
		}
		beat := time.NewTicker(heartbeat)
		defer beat.Stop()
		for alive := say(fmt.Sprintf("data: %d\n\n", newest)); alive; {
			select {
			case number := <-heard:
				if number == unknown {
					if number, err = now(); err != nil {
						return // whoever listens begins anew, and reads it then
					}
				}
				if number > newest {
					newest = number
					alive = say(fmt.Sprintf("data: %d\n\n", newest))
				}
			case <-changed: // of who listens
				if _, err := s.store.Person(out.Context(), me.CompanyID, who); err != nil {
					return
				}
				if _, there, err := s.store.FindSession(out.Context(), token); err != nil || !there {
					return // signed out elsewhere
				}
			case <-beat.C:
				alive = say(":\n\n")
			case <-out.Context().Done():
				return
			case <-of.closed:
				return
			}
		}
	}}, nil
}
