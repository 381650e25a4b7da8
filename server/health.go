package server

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"
	"time"

	"nephelon/server/company"
)

// times are within which requests end, however the network and the database are: what streams
// apart.
type times struct {
	request time.Duration // from when a request is whole until its answer is written
	pause   time.Duration // in which a request or its body may make no progress
	upload  time.Duration // of one that brings much, from a phone in a basement
	drain   time.Duration // for what is under way when the server ends
}

func usual() times {
	return times{request: 25 * time.Second, pause: 20 * time.Second, upload: 30 * time.Minute, drain: 5 * time.Second}
}

const readyTime = 2 * time.Second

// lasting reads a body for as long as it makes progress, and no longer than an upload may take.
type lasting struct {
	io.ReadCloser
	control *http.ResponseController
	pause   time.Duration
	until   time.Time
}

// Read reads what has arrived, and waits at most pause for more.
func (l *lasting) Read(into []byte) (int, error) {
	until := time.Now().Add(l.pause)
	if until.After(l.until) {
		until = l.until
	}
	_ = l.control.SetReadDeadline(until) // not to be had where there is no connection: a test's
	n, err := l.ReadCloser.Read(into)
	if errors.Is(err, io.EOF) {
		_ = l.control.SetReadDeadline(time.Time{}) // it is whole: nothing more is waited for
	}
	if err != nil && !errors.Is(err, io.EOF) {
		return n, fmt.Errorf("read what is sent: %w", err)
	}
	return n, err
}

// watched answers whether the server is alive and whether it is ready, before anything that
// needs the database.
func (s *Server) watched(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch r.URL.Path {
		case "/healthz":
			plainly(w, http.StatusOK, "alive")
		case "/readyz":
			ctx, cancel := context.WithTimeout(r.Context(), readyTime)
			defer cancel()
			if s.store == nil || s.store.Ready(ctx) != nil {
				plainly(w, http.StatusServiceUnavailable, "the database does not answer")
				return
			}
			plainly(w, http.StatusOK, "ready")
		default:
			s.open.Add(1)
			s.gauges.open.Inc()
			defer s.gauges.open.Dec()
			defer s.open.Add(-1)
			if r.Body != nil && r.Body != http.NoBody {
				r.Body = &lasting{r.Body, http.NewResponseController(w), s.times.pause, time.Now().Add(s.times.upload)}
			}
			next.ServeHTTP(w, r)
		}
	})
}

// uploads reports whether a request brings a file, which its operation reads while it arrives.
func uploads(r *http.Request) bool {
	return r.Method == http.MethodPost && !strings.HasPrefix(r.Header.Get("Content-Type"), "application/json") &&
		r.ContentLength != 0
}

// streams reports whether an address is of live news.
func streams(path string) bool { return strings.HasSuffix(path, "/changes") }

func plainly(w http.ResponseWriter, status int, text string) {
	w.Header().Set("Content-Type", "text/plain; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	_, _ = w.Write([]byte(text + "\n")) // whoever asked is gone when this fails
}

// ended ends what a request asks of the database in time. What the interface is made of asks
// nothing of it, and no session.
func (s *Server) ended(next, pages http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		within := s.times.request
		if streams(r.URL.Path) {
			next.ServeHTTP(w, r)
			return
		}
		if uploads(r) || r.URL.Path == company.ArchivePath {
			within = s.times.upload
		}
		// Who does not read the answer is let go; its last words may take as long again.
		_ = http.NewResponseController(w).SetWriteDeadline(time.Now().Add(2 * within))
		if !strings.HasPrefix(r.URL.Path, "/api/") {
			pages.ServeHTTP(w, r)
			return
		}
		ctx, cancel := context.WithTimeout(r.Context(), within)
		defer cancel()
		next.ServeHTTP(w, r.WithContext(ctx))
	})
}
