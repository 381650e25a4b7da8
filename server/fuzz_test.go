package server_test

import (
	"bytes"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/server"
)

// FuzzRoutes sends anything to every route as an owner: none fails inside, each ends in time,
// and every refusal is one problem document.
func FuzzRoutes(f *testing.F) {
	s, err := server.New(server.Options{Store: records, Plans: 0.1, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	if err != nil {
		f.Fatal(err)
	}
	web := httptest.NewServer(s)
	f.Cleanup(web.Close)
	domain := addCompany(f)
	c := signedIn(f, web, "owner@"+domain)
	job := c.addJob(demoJob(f))
	all := slices.DeleteFunc(operations(f, c), func(o operation) bool {
		// Those that end the session that tries, and streams, which do not end.
		return slices.Contains([]string{"signOut", "endSessions", "setPassword", "changePerson", "wantFactor", "dropFactor",
			"startRun"}, o.id) || strings.HasSuffix(o.path, "/changes")
	})
	slices.SortFunc(all, func(a, b operation) int { return strings.Compare(a.id, b.id) })
	for n, o := range all {
		body, err := json.Marshal(bodyFor(o, demoJob(f)))
		if err != nil {
			f.Fatal(err)
		}
		f.Add(uint8(n), "one", "base=1", body)
	}
	f.Add(uint8(0), "%00", "as=pdf&since=-1", []byte(`{"a":1e999}`))
	f.Add(uint8(1), "../..", "q=%25", []byte("\xff\xfe"))
	f.Fuzz(func(t *testing.T, n uint8, id, query string, content []byte) {
		o := all[int(n)%len(all)]
		id = strings.Map(func(r rune) rune {
			if r <= ' ' || strings.ContainsRune(`/?#%`, r) || r > '~' {
				return 'x'
			}
			return r
		}, id)
		if id == "" || strings.Trim(id, ".") == "" {
			id = "one"
		}
		path := strings.NewReplacer("{job}", job.ID.String(), "{surface}", job.File.Job.Surfaces[0].ID, "{coat}",
			job.File.Job.Surfaces[0].Coats[0].ID, "{person}", id, "{photo}", id,
			"{address}", id, "{run}", id, "{id}", id, "{number}", "1", "{instrument}", id, "{secret}", id).Replace(o.path)
		request, err := http.NewRequestWithContext(t.Context(), o.method,
			web.URL+path+"?"+strings.NewReplacer(" ", "+", "\n", "", "\r", "").Replace(query), bytes.NewReader(content))
		if err != nil {
			return // an address that no client sends
		}
		request.Header.Set("Content-Type", "application/json")
		begun := time.Now()
		answer, err := c.http.Do(request)
		if err != nil {
			return
		}
		defer answer.Body.Close()
		text, err := io.ReadAll(answer.Body)
		if err != nil {
			t.Fatal(err)
		}
		const patience = 10 * time.Second
		if took := time.Since(begun); took > patience {
			t.Errorf("%s %s took %v", o.method, path, took)
		}
		switch {
		case answer.StatusCode == http.StatusInternalServerError || answer.StatusCode == http.StatusServiceUnavailable:
			t.Errorf("%s %s?%s with %q: %d %s", o.method, path, query, content, answer.StatusCode, text)
		case answer.StatusCode >= http.StatusBadRequest && !json.Valid(text) && o.method != http.MethodHead:
			t.Errorf("%s %s: %d is no problem document: %.100s", o.method, path, answer.StatusCode, text)
		}
	})
}
