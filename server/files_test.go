package server_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/climate"
	"nephelon/core/days"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/server/rosters"
)

// The record of a day leaves as each of its formats, with what the day told.
func TestTheRecordLeavesAsFiles(t *testing.T) {
	web := newServer(t)
	owner := signedIn(t, web, "owner@"+addCompany(t))
	j := owner.addJob(demoJob(t))
	status, issue := owner.issue(j.ID.String(), uuid.New())
	if status != http.StatusOK {
		t.Fatal(status)
	}
	coat := issue.Coats[0]
	d := owner.tablet()
	owner.log(j.ID.String(), d.event(record.Meets, coat.Batches[0].ID, record.Body{}),
		d.event(record.Poured, coat.Batches[0].ID, record.Body{}),
		d.event(record.Noted, "", record.Body{Text: "gulls inside"}))
	path := "/api/jobs/" + j.ID.String() + "/record-file"
	for as, words := range map[string][]string{
		"json": {`"gulls inside"`, `"hash"`}, "csv": {"batches.csv", "entries.csv", "deviations.csv"},
		"xlsx": {"PK"}, "pdf": {"%PDF-"},
		"ics": {"BEGIN:VCALENDAR"},
	} {
		status, text := owner.send(http.MethodGet, path+"?as="+as+"&kept=Two+tins+in+the+store", nil)
		if status != http.StatusOK {
			t.Errorf("%s: %d %.200s", as, status, text)
		}
		for _, w := range words {
			if !strings.Contains(text, w) {
				t.Errorf("%s does not hold %q: %.120q", as, w, text)
			}
		}
	}
	// Once it is signed, the same record gives the same file.
	owner.log(j.ID.String(), d.event(record.Signed, "", record.Body{Text: "A. Wharfinger"}))
	for _, as := range []string{"?as=pdf", "?as=pdf&short=true&letter=true&roles=true", "?as=json"} {
		_, first := owner.send(http.MethodGet, path+as, nil)
		if _, again := owner.send(http.MethodGet, path+as, nil); first != again || len(first) < 1000 {
			t.Errorf("%s: %d and %d bytes that differ", as, len(first), len(again))
		}
	}
	// A photograph that is not of this job is in no hand-over.
	if status, text := owner.send(http.MethodGet, path+"?as=pdf&photos="+uuid.NewString(), nil); status == http.StatusOK &&
		!strings.HasPrefix(text, "%PDF-") {
		t.Errorf("%d %.100s", status, text)
	}
	none := owner.addJob(demoJob(t))
	if status, text := owner.send(http.MethodGet, "/api/jobs/"+none.ID.String()+"/record-file", nil); status !=
		http.StatusNotFound || !strings.Contains(text, "No plan of this job was issued yet") {
		t.Errorf("%d %.200s", status, text)
	}
}

// What would help a roster is tried and told with what it costs; nothing of it is kept. The
// forecast of a job shows day by day.
func TestWaysOutOfARoster(t *testing.T) {
	web := newServer(t)
	owner := signedIn(t, web, "owner@"+addCompany(t))
	f := demoJob(t)
	told := time.Now().UTC().Truncate(time.Hour)
	f.Job.Forecast = &job.Forecast{Place: "Skerry", Told: told}
	for n := range 60 {
		f.Job.Forecast.Hours = append(f.Job.Forecast.Hours, climate.Hour{At: told.Add(time.Duration(n) * time.Hour),
			Air: measure.Temperature(12 + n%7), Humidity: 0.6})
	}
	f.Job.Due = "2026-12-01"
	owner.addJob(f)
	first := rosterOf(t, owner, http.MethodPost, "/api/roster/plan",
		rosters.RosterQuestion{Bookings: []days.Booked{}, Seconds: 0.3})
	if len(first.Weather) == 0 {
		t.Error("no weather")
	}
	for _, d := range first.Weather {
		if d.Low > d.High {
			t.Errorf("%+v", d)
		}
	}
	ways := got[[]days.WayOut](t, owner, http.MethodPost, "/api/roster/ways", map[string]any{"bookings": first.Bookings})
	for _, w := range ways {
		if w.Text == "" {
			t.Errorf("%+v", w)
		}
	}
	if stands := rosterOf(t, owner, http.MethodGet, "/api/roster", nil); stands.Revision != 0 {
		t.Errorf("it is kept as revision %d", stands.Revision)
	}
	book, _ := owner.send(http.MethodGet, "/api/roster-file?as=xlsx", nil)
	if book != http.StatusOK {
		t.Errorf("%d", book)
	}
	backward := []days.Booked{{Job: "j", Task: "t", Crew: "c", From: first.From, Until: first.From.Add(-1)}}
	for path, ask := range map[string]any{"/api/roster/ways": map[string]any{"bookings": backward},
		"/api/roster/runs": rosters.RosterQuestion{Bookings: backward, Seconds: 1}} {
		if status, text := owner.send(http.MethodPost, path, ask); status != http.StatusUnprocessableEntity ||
			!strings.Contains(text, "body.bookings[0]") {
			t.Errorf("%s: %d %.200s", path, status, text)
		}
	}
}

// What is typed and drawn is read, and what cannot be is refused with the remedy.
func TestReadersWhileTyping(t *testing.T) {
	web := newServer(t)
	c := signedIn(t, web, "owner@"+addCompany(t))
	square := map[string]any{"outline": []map[string]float64{{"x": 0, "y": 0}, {"x": 4, "y": 0}, {"x": 4, "y": 3},
		{"x": 0, "y": 3}}, "holes": []any{}}
	surface := demoJob(t).Job.Surfaces[0]
	for _, ask := range []struct {
		path   string
		body   any
		status int
		words  string
	}{
		{"/api/read", map[string]string{"kind": "length", "text": `12'6"`}, http.StatusOK, `"si":3.81`},
		{"/api/measure", square, http.StatusOK, `"area":12`},
		{"/api/measure", map[string]any{"outline": []map[string]float64{{"x": 0, "y": 0}, {"x": 1, "y": 0}},
			"holes": []any{}}, http.StatusOK, `"fault":"`},
		{"/api/walk/read", map[string]any{"text": "3 m, right, 4 m", "heading": 0}, http.StatusOK, `"length":3`},
		{"/api/walk/read", map[string]any{"text": "three", "heading": 0}, http.StatusUnprocessableEntity, "three"},
		{"/api/walk/read", map[string]any{"text": "", "heading": 0}, http.StatusUnprocessableEntity, "Nothing is typed"},
		{"/api/walk/check", map[string]any{"corners": square["outline"]}, http.StatusOK, `"`},
		{"/api/reshape", map[string]any{"surface": surface, "change": map[string]any{"op": "push", "wall": 1, "length": 0}},
			http.StatusUnprocessableEntity, "longer than 0"},
		{"/api/reshape", map[string]any{"surface": surface, "change": map[string]any{"op": "push", "wall": 1,
			"length": 9}}, http.StatusOK, `"floor"`},
		{"/api/part", map[string]any{"surface": surface, "wall": 1, "width": 900}, http.StatusUnprocessableEntity,
			"No part of the floor is that far"},
		{"/api/part", map[string]any{"surface": surface, "wall": 1, "width": 1}, http.StatusOK, `"`},
	} {
		if status, text := c.send(http.MethodPost, ask.path, ask.body); status != ask.status ||
			!strings.Contains(text, ask.words) {
			t.Errorf("%s %v: %d %.300s, want %d with %q", ask.path, ask.body, status, text, ask.status, ask.words)
		}
	}
	if status, text := c.send(http.MethodPost, "/api/drawing", strings.Repeat("x", 40)); status !=
		http.StatusUnprocessableEntity {
		t.Errorf("a drawing that is none: %d %.200s", status, text)
	}
}
