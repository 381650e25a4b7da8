// Package live passes on what PostgreSQL tells of changes to the pages that are open.
package live

import (
	"context"
	"fmt"
	"net/http"
	"sync"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/store"
)

// Hub passes changes on to those who follow what changed.
type Hub struct {
	api.Base
	store   Store
	token   func(context.Context) string // of the session of a request
	Jobs    *Feed                        // of saves of jobs, by their revisions
	Records *Feed                        // of records
	People  *Feed                        // of who may do what
}

// New returns a hub. It asks token for the secret of a request's session.
func New(base api.Base, in Store, token func(context.Context) string) *Hub {
	return &Hub{Base: base, store: in, token: token, Jobs: newFeed(), Records: newFeed(), People: newFeed()}
}

// Close ends all streams.
func (h *Hub) Close() {
	for _, f := range []*Feed{h.Jobs, h.Records, h.People} {
		f.once.Do(func() { close(f.closed) })
	}
}

// Feed passes changes of one sort on to those who listen for one id each.
type Feed struct {
	mutex     sync.Mutex
	listeners map[uuid.UUID]map[chan int64]bool
	closed    chan struct{}
	once      sync.Once
}

func newFeed() *Feed {
	return &Feed{listeners: make(map[uuid.UUID]map[chan int64]bool), closed: make(chan struct{})}
}

// listen returns a channel of the newest number told of an id, and how to end it.
func (f *Feed) listen(job uuid.UUID) (heard chan int64, stop func()) {
	heard = make(chan int64, 1)
	f.mutex.Lock()
	defer f.mutex.Unlock()
	if f.listeners[job] == nil {
		f.listeners[job] = make(map[chan int64]bool)
	}
	f.listeners[job][heard] = true
	return heard, func() {
		f.mutex.Lock()
		defer f.mutex.Unlock()
		delete(f.listeners[job], heard)
		if len(f.listeners[job]) == 0 {
			delete(f.listeners, job)
		}
	}
}

// count returns how many listen to one.
func (f *Feed) count(of uuid.UUID) int {
	f.mutex.Lock()
	defer f.mutex.Unlock()
	return len(f.listeners[of])
}

// tell passes a change on to those who listen for what changed.
func (f *Feed) tell(change store.Change) {
	f.mutex.Lock()
	defer f.mutex.Unlock()
	for heard := range f.listeners[change.ID] {
		put(heard, change.Revision)
	}
}

// unknown stands in for the number of a change that was perhaps missed.
const unknown = -1

// lookAgain has all who listen look for themselves.
func (f *Feed) lookAgain() {
	f.mutex.Lock()
	defer f.mutex.Unlock()
	for _, all := range f.listeners {
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

// mostStreams limits how many live streams one person may have open at a server.
const mostStreams = 24

const (
	relisten  = 2 * time.Second
	heartbeat = 20 * time.Second
)

// Follow listens for saves until the context ends, again after a break.
func (h *Hub) Follow(ctx context.Context) {
	for ctx.Err() == nil {
		// What was not heard while it was cut off is looked for by everyone who listens.
		begun := func() {
			for _, of := range []*Feed{h.Jobs, h.Records, h.People} {
				of.lookAgain()
			}
		}
		if err := h.store.Listen(ctx, begun, h.hear); err != nil && ctx.Err() == nil {
			h.Log.Warn("live updates are interrupted", "error", err)
		}
		select {
		case <-ctx.Done():
		case <-time.After(relisten):
		}
	}
}

// hear passes a change on to those who follow what changed.
func (h *Hub) hear(change store.Change) {
	switch change.Of {
	case store.OfRecord:
		h.Records.tell(change)
		h.Jobs.tell(store.Change{ID: change.ID, Revision: unknown}) // its plan follows what was logged
	case store.OfPerson:
		h.People.tell(change)
	case store.OfJob:
		h.Jobs.tell(change)
	}
}

// Stream sends a number as a server-sent event now, and each greater one that is heard of
// a job.
func (h *Hub) Stream(ctx context.Context, of *Feed, job uuid.UUID,
	now func() (int64, error)) (*huma.StreamResponse, error) {
	// Listened to before it is read: no change falls between.
	heard, stop := of.listen(job)
	me, token := api.Person(ctx), h.token(ctx)
	who := me.ID
	changed, ignore := h.People.listen(who)
	if h.People.count(who) > mostStreams {
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
		return nil, h.Fail(ctx, "read job", err)
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
				if _, err := h.store.Person(out.Context(), me.CompanyID, who); err != nil {
					return
				}
				if _, there, err := h.store.FindSession(out.Context(), token); err != nil || !there {
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
