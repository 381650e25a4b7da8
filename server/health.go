package server

import (
	"context"
	"encoding/json"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
)

// Within these times every request ends, however the database is: what streams apart.
const (
	requestTime = 25 * time.Second
	uploadTime  = 30 * time.Minute // of a photograph or a drawing, from a phone in a basement
	readyTime   = 2 * time.Second
)

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
			if uploads(r) {
				// Not to be had where the connection is none: then the usual time holds.
				_ = http.NewResponseController(w).SetReadDeadline(time.Now().Add(uploadTime))
			}
			next.ServeHTTP(w, r)
		}
	})
}

// uploads tells whether a request brings a file that may take long to arrive.
func uploads(r *http.Request) bool {
	return r.Method == http.MethodPost && (strings.HasSuffix(r.URL.Path, "/photos") || r.URL.Path == "/api/drawing")
}

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
		within := requestTime
		switch {
		case !strings.HasPrefix(r.URL.Path, "/api/"):
			pages.ServeHTTP(w, r)
			return
		case strings.HasSuffix(r.URL.Path, "/changes"):
			next.ServeHTTP(w, r)
			return
		case uploads(r):
			within = uploadTime
		}
		ctx, cancel := context.WithTimeout(r.Context(), within)
		defer cancel()
		next.ServeHTTP(w, r.WithContext(ctx))
	})
}

// away answers a request whose session cannot be looked up.
func (s *Server) away(w http.ResponseWriter, _ *http.Request, err error) {
	s.log.Error("look up a session", "error", err)
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(http.StatusServiceUnavailable)
	problem := huma.ErrorModel{Status: http.StatusServiceUnavailable, Title: http.StatusText(http.StatusServiceUnavailable), Detail: "The records cannot be reached just now; what you entered is kept on your side. Try again."}
	_ = json.NewEncoder(w).Encode(problem) // the one who asked is gone when this fails
}
