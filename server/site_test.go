package server_test

import (
	"context"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"nephelon/core/survey"
	"nephelon/server"
)

// What a bridge does wrong is told in a sentence, and nothing else breaks.
func TestABridgeThatFails(t *testing.T) {
	domain := addCompany(t)
	answers := map[string]func(http.ResponseWriter){
		"no such thing": func(w http.ResponseWriter) { http.Error(w, "oops", http.StatusTeapot) },
		"no JSON":       func(w http.ResponseWriter) { _, _ = io.WriteString(w, "<html>") },
		"its own words": func(w http.ResponseWriter) {
			w.WriteHeader(503)
			_, _ = io.WriteString(w, `{"error":"The battery is flat."}`)
		},
		"a whole reading": func(w http.ResponseWriter) {
			_, _ = io.WriteString(w, `{"instrument":"Gauge","at":"2031-05-06T12:00:00Z","values":[{"kind":"ph","value":7.2}]}`)
		},
	}
	says := map[string]string{"no such thing": "not understood", "no JSON": "not understood",
		"its own words": "The battery is flat. Nothing was entered", "a whole reading": `"value":7.2`}
	for name, answer := range answers {
		bridge := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { answer(w) }))
		if err := records.SetCompany(context.Background(), "lead@"+domain, &bridge.URL, nil); err != nil {
			t.Fatal(err)
		}
		s, err := server.New(server.Options{Store: records, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
		if err != nil {
			t.Fatal(err)
		}
		web := httptest.NewServer(s)
		c := signedIn(t, web, "lead@"+domain)
		if _, text := c.send(http.MethodPost, "/api/instruments/gauge/reading", nil); !strings.Contains(text, says[name]) {
			t.Errorf("%s: %s", name, text)
		}
		bridge.Close()
		if status, text := c.send(http.MethodPost, "/api/instruments/gauge/reading", nil); status != http.StatusBadGateway ||
			!strings.Contains(text, "do not answer") {
			t.Errorf("a bridge that is gone: %d %s", status, text)
		}
		web.Close()
	}
	// It belongs to the company: another one has none.
	alone := signedIn(t, newServer(t), "lead@"+addCompany(t))
	if status, text := alone.send(http.MethodGet, "/api/forecast", nil); status != http.StatusNotFound ||
		!strings.Contains(text, "Type the reading instead") {
		t.Errorf("without a bridge: %d %s", status, text)
	}
	if status, text := alone.send(http.MethodGet, "/api/instruments", nil); status != http.StatusOK ||
		strings.TrimSpace(text) != "[]" {
		t.Errorf("without a bridge: %d %s", status, text)
	}
	if _, text := alone.send(http.MethodGet, "/api/rules", nil); !strings.Contains(text, "ASTM F2170") ||
		strings.Count(text, `"id"`) != len(survey.RuleID("").Values()) {
		t.Errorf("rules: %s", text)
	}
}
