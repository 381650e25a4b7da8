package server_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"runtime"
	"runtime/debug"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/days"
	"nephelon/core/geometry"
	"nephelon/core/record"
	"nephelon/core/takeoff"
	"nephelon/server/rosters"
)

// peak returns the most memory in use while something is done, in bytes over what was in use
// before, and how long it took.
func peak(do func()) (most uint64, took time.Duration) {
	defer debug.SetGCPercent(debug.SetGCPercent(25)) // what nobody uses any more hardly counts
	runtime.GC()
	var now runtime.MemStats
	runtime.ReadMemStats(&now)
	before := now.HeapAlloc
	var stop atomic.Bool
	ended := make(chan uint64)
	go func() {
		highest := uint64(0)
		for !stop.Load() {
			var now runtime.MemStats
			runtime.ReadMemStats(&now)
			highest = max(highest, now.HeapAlloc)
			<-time.After(5 * time.Millisecond)
		}
		ended <- highest
	}()
	began := time.Now()
	do()
	took = time.Since(began)
	stop.Store(true)
	return max(<-ended, before) - before, took
}

// zigzag is an outline of so many corners that does not cross itself.
func zigzag(corners int) geometry.Ring {
	half := corners / 2
	ring := make(geometry.Ring, 0, corners)
	for i := range half {
		ring = append(ring, geometry.Point{X: 0.1 * float64(i), Y: 0.05 * float64(i%2)})
	}
	for i := half - 1; i >= 0; i-- {
		ring = append(ring, geometry.Point{X: 0.1 * float64(i), Y: 8 + 0.05*float64(i%2)})
	}
	return ring
}

// No single request takes more than 256 MB or 25 s: the worst of each kind that could be
// thought of, one after the other. Archives are files, with bounds of their own.
func TestTheWorstRequests(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	j := owner.addJob(demoJob(t))
	job := j.ID.String()
	owner.issue(job, uuid.New())
	tablet := owner.tablet()

	heavy := demoJob(t)
	one := heavy.Job.Surfaces[0]
	coats := one.Coats
	const bays = 25 // what a busy machine still plans within the time for a plan
	one.Floor = takeoff.Floor{Outline: zigzag(1000), Holes: []takeoff.Hole{}}
	heavy.Job.Surfaces = nil
	for n := range bays {
		s := one
		s.ID, s.Name, s.Survey = fmt.Sprintf("s%d", n), fmt.Sprintf("Bay %d", n), nil
		s.Coats = nil
		for k := range 10 {
			coat := coats[k%len(coats)]
			coat.ID = fmt.Sprintf("s%d-c%d", n, k)
			s.Coats = append(s.Coats, coat)
		}
		heavy.Job.Surfaces = append(heavy.Job.Surfaces, s)
	}
	text := func(v any) string {
		out, err := json.Marshal(v)
		if err != nil {
			t.Fatal(err)
		}
		return string(out)
	}
	var people bytes.Buffer
	z := zip.NewWriter(&people)
	for name, content := range map[string]string{
		"company.json": `{"format":"nephelon-company","version":1,"house":{},"bookings":[]}`,
		"people.json":  "[" + strings.Repeat("{},", 10_000_000) + "{}]",
	} {
		w, err := z.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := w.Write([]byte(content)); err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	notes := make([]record.Event, 500)
	for n := range notes {
		notes[n] = tablet.event(record.Noted, "", record.Body{Text: strings.Repeat("ø", 600)})
	}
	booked := make([]days.Booked, 20_000)
	for n := range booked {
		from := time.Now().Add(time.Duration(n) * time.Minute)
		booked[n] = days.Booked{Job: job, Task: fmt.Sprint(n), Crew: "crew", From: from, Until: from.Add(time.Hour)}
	}
	patch := make([]map[string]any, 5000)
	for n := range patch {
		patch[n] = map[string]any{"op": "add", "path": "/job/surfaces/0/coats/-",
			"value": buildup.Coat{ID: fmt.Sprint(n), Product: coats[0].Product, Amount: coats[0].Amount}}
	}
	points := make([]string, 190_000)
	for n := range points {
		points[n] = `{"x":1,"y":2}`
	}
	stranger := newClient(t, web)
	for _, c := range []struct {
		name, method, path string
		content            any
		by                 *client
	}{
		{"bays of a thousand corners under ten coats", http.MethodPost, "/api/jobs/import", text(heavy), owner},
		{"a roster with them", http.MethodGet, "/api/roster", nil, owner},
		{"five thousand coats in one edit", http.MethodPatch, "/api/jobs/" + job,
			map[string]any{"base": 1, "saveId": uuid.New(), "patch": patch}, owner},
		{"a table of commas", http.MethodPost, "/api/shelf-file/reading", strings.Repeat(",", 16<<20), owner},
		{"a list of empty sheets", http.MethodPost, "/api/shelf-file/reading",
			`{"format":"nephelon-shelf","version":1,"products":[` + strings.Repeat("{},", 399_000) + "{}]}", owner},
		{"people without end", http.MethodPost, "/api/company/archive", people.String(),
			signedIn(t, web, "owner@"+addCompany(t))},
		{"the largest picture that is read", http.MethodPost, "/api/jobs/" + job + "/surfaces/s/photos",
			picture(4600, 4600, 16, 6, 8), owner},
		{"five hundred notes at once", http.MethodPost, "/api/jobs/" + job + "/events", logging{notes}, owner},
		{"a roster of twenty thousand bookings", http.MethodPost, "/api/roster/plan",
			rosters.RosterQuestion{Bookings: booked, Seconds: 1}, owner},
		{"a hundred and ninety thousand points", http.MethodPost, "/api/measure", `{"outline":[` + strings.Join(points, ",") +
			`],"holes":[]}`, owner},
		{"as many corners of a walk", http.MethodPost, "/api/walk/check", `{"corners":[` + strings.Join(points, ",") +
			`]}`, owner},
		{"nothing but brackets", http.MethodPost, "/api/jobs/import", strings.Repeat("[", 16<<20), owner},
		{"a stranger", http.MethodPost, "/api/session", `{"email":"` + strings.Repeat("a", 16<<20) + `"}`, stranger},
	} {
		status := 0
		most, took := peak(func() { status, _ = c.by.send(c.method, c.path, c.content) })
		t.Logf("%-50s %3d %4d MB %6.2f s ", c.name, status, most>>20, took.Seconds())
		if most > 256<<20 || took > 25*time.Second || status >= http.StatusInternalServerError {
			t.Errorf("%s: %d, %d MB, %.1f s", c.name, status, most>>20, took.Seconds())
		}
	}
}
