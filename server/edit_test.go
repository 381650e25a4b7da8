package server_test

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"nephelon/core/buildup"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/takeoff"
	"nephelon/exchange"
	"nephelon/server/jobs"
	"nephelon/server/shelf"
)

func (c *client) patch(id uuid.UUID, s save) (int, jobs.Saved, string) {
	c.t.Helper()
	status, text := c.send(http.MethodPatch, "/api/jobs/"+id.String(), s)
	var saved jobs.Saved
	if status == http.StatusOK {
		if err := json.Unmarshal([]byte(text), &saved); err != nil {
			c.t.Fatal(err)
		}
	}
	return status, saved, text
}

func parsed(t testing.TB, text []byte) (tree any) {
	t.Helper()
	if err := json.Unmarshal(text, &tree); err != nil {
		t.Fatal(err)
	}
	return tree
}

// planOf is the plan of a job as a tree, read whole.
func (c *client) planOf(id uuid.UUID) []byte {
	c.t.Helper()
	_, text := c.send(http.MethodGet, "/api/jobs/"+id.String(), nil)
	var state struct {
		Plan json.RawMessage `json:"plan"`
	}
	if err := json.Unmarshal([]byte(text), &state); err != nil {
		c.t.Fatalf("%v: %.300s", err, text)
	}
	return state.Plan
}

// An edit comes back with what it moved: applied to the plan held before, that
// gives the plan as it is read whole. Whatever kind of edit it is.
func TestAnEditComesBackWithWhatItMoved(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	j := c.addJob(demoJob(t))
	file, held, tag := j.File, c.planOf(j.ID), j.Tag
	edits := []func(*job.File){
		func(f *job.File) { f.Job.Surfaces[0].Coats[0].Amount.Value *= 1.1 },
		func(f *job.File) { f.Job.Surfaces[0].Floor.Outline[1].X += 0.5 },
		func(f *job.File) { f.Job.Notes = "Key under the anchor" },
		func(f *job.File) {
			f.Job.Surfaces = append(f.Job.Surfaces,
				job.Surface{ID: "two", Name: "Landing",
					Shape: takeoff.Shape{Floor: takeoff.Floor{Outline: geometry.Ring{}, Holes: []takeoff.Hole{}}},
					Coats: []buildup.Coat{}})
		},
		func(f *job.File) {
			s := &f.Job.Surfaces[0]
			s.Coats = append(slices.Clone(s.Coats),
				buildup.Coat{ID: "more", Product: s.Coats[0].Product, Amount: s.Coats[0].Amount})
		},
		func(f *job.File) { f.Job.Surfaces = f.Job.Surfaces[:1] },
		func(f *job.File) { f.Job.Surfaces[0].Floor.Outline = geometry.Ring{} },
	}
	for i, change := range edits {
		var next job.File
		text, _ := json.Marshal(file)
		_ = json.Unmarshal(text, &next)
		change(&next)
		s := edit(t, int64(i+1), file, next)
		s.Tag = tag
		status, saved, answer := c.patch(j.ID, s)
		if status != http.StatusOK || saved.Plan != nil {
			t.Fatalf("edit %d: %d %.300s", i, status, answer)
		}
		moved, err := exchange.Patch(held, saved.Moved)
		if err != nil {
			t.Fatal(err)
		}
		whole := c.planOf(j.ID)
		if !reflect.DeepEqual(parsed(t, moved), parsed(t, whole)) {
			t.Fatalf("edit %d: what moved does not lead to the plan", i)
		}
		file, held, tag = next, whole, saved.Tag
	}
}

// A client whose plan the server does not know gets the whole; a save sent twice
// is kept once; an edit of what is not there names no field but says what to do.
func TestEditsThatAreOdd(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	j := c.addJob(demoJob(t))
	next := demoJob(t)
	next.Job.Client = "Wharf Trust"
	s := edit(t, 1, j.File, next)
	for _, tag := range []string{"", "long forgotten"} {
		s.Tag = tag
		if status, saved, text := c.patch(j.ID, s); status != http.StatusOK || saved.Plan == nil || saved.Revision != 2 {
			t.Fatalf("%d %.300s", status, text)
		}
	}
	other := c.addJob(demoJob(t))
	s = edit(t, 2, next, next)
	s.Tag = other.Tag
	if status, saved, text := c.patch(j.ID, s); status != http.StatusOK || saved.Plan == nil {
		t.Errorf("the plan of another job is taken for this one's: %d %.200s", status, text)
	}
	bad := save{Base: 3, SaveID: uuid.New(),
		Patch: []exchange.EditStep{{Op: "replace", Path: "/job/surfaces/7/name", Value: json.RawMessage(`"x"`)}}}
	if status, _, text := c.patch(j.ID, bad); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "Load the job again") {
		t.Errorf("%d %s", status, text)
	}
	bad.Patch = []exchange.EditStep{{Op: "add", Path: "/job/colour", Value: json.RawMessage(`"x"`)}}
	if status, _, text := c.patch(j.ID, bad); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "/job/colour") {
		t.Errorf("%d %s", status, text)
	}
	if now := got[jobs.JobState](t, c, http.MethodGet, "/api/jobs/"+j.ID.String(), nil); now.Revision != 3 ||
		now.File.Job.Client != "Wharf Trust" {
		t.Errorf("revision %d of %s", now.Revision, now.File.Job.Client)
	}
}

// What is empty is not kept as a list, and the client is told, so that its next
// edit fits.
func TestAnEmptyListIsTidied(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	j := c.addJob(demoJob(t))
	s := save{Base: 1, SaveID: uuid.New(), Tag: j.Tag,
		Patch: []exchange.EditStep{{Op: "add", Path: "/job/surfaces/0/floor/zones", Value: json.RawMessage(`[]`)}}}
	status, saved, text := c.patch(j.ID, s)
	if status != http.StatusOK || len(saved.Tidied) != 1 || saved.Tidied[0].Op != "remove" ||
		saved.Tidied[0].Path != "/job/surfaces/0/floor/zones" {
		t.Fatalf("%d %.300s", status, text)
	}
}

// What no coat names any more leaves the file, and the client is told.
func TestAnEditIsPruned(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	j := c.addJob(demoJob(t))
	next := demoJob(t)
	next.Job.Surfaces[0].Coats = next.Job.Surfaces[0].Coats[:1]
	status, saved, text := c.patch(j.ID, edit(t, 1, j.File, next))
	if status != http.StatusOK || len(saved.Tidied) == 0 {
		t.Fatalf("%d %.300s", status, text)
	}
	edited, _ := json.Marshal(next)
	told, err := exchange.Patch(edited, saved.Tidied)
	if err != nil {
		t.Fatal(err)
	}
	stored, _ := json.Marshal(got[jobs.JobState](t, c, http.MethodGet, "/api/jobs/"+j.ID.String(), nil).File)
	if !reflect.DeepEqual(parsed(t, told), parsed(t, stored)) {
		t.Error("the client is told something else than what is stored")
	}
}

// A job that did not change is answered in a word, and a changed shelf is a change.
func TestAnUnchangedJobIsNotSentAgain(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	path := "/api/jobs/" + c.addJob(demoJob(t)).ID.String()
	ask := func(known string) (int, string) {
		t.Helper()
		request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, c.base+path, nil)
		if err != nil {
			t.Fatal(err)
		}
		request.Header.Set("If-None-Match", known)
		answer, err := c.http.Do(request)
		if err != nil {
			t.Fatal(err)
		}
		defer answer.Body.Close()
		return answer.StatusCode, answer.Header.Get("ETag")
	}
	status, tag := ask("")
	if status != http.StatusOK || tag == "" {
		t.Fatalf("%d %q", status, tag)
	}
	if status, again := ask(tag); status != http.StatusNotModified || again != tag {
		t.Errorf("unchanged: %d %q", status, again)
	}
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/sun", sheet("sun", "Sunfast"))
	if status, changed := ask(tag); status != http.StatusOK || changed == tag {
		t.Errorf("after the shelf changed: %d %q", status, changed)
	}
}

// The list tells where each job stands.
func TestTheListTellsWhereJobsStand(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	ready, bare, unmeasured, finished := demoJob(t), demoJob(t), demoJob(t), demoJob(t)
	ready.Job.Name, bare.Job.Name, unmeasured.Job.Name, finished.Job.Name = "ready", "planning", "measuring", "done"
	bare.Job.Surfaces[0].Coats = []buildup.Coat{}
	unmeasured.Job.Surfaces[0].Floor.Outline = geometry.Ring{}
	unmeasured.Job.Surfaces[0].Layout.Exit = nil
	finished.Job.Done = "2026-10-02"
	for _, f := range []job.File{ready, bare, unmeasured, finished} {
		c.addJob(f)
	}
	for _, l := range got[[]jobs.JobLine](t, c, http.MethodGet, "/api/jobs", nil) {
		s := l.Summary
		if string(s.Standing) != l.Name || (l.Name == "planning") != (len(s.Systems) == 0) ||
			(l.Name != "measuring") != (s.Area > 0) {
			t.Errorf("%s: %+v", l.Name, s)
		}
		if needs := map[string]string{"planning": "has no coats yet",
			"measuring": "is not measured yet"}[l.Name]; !strings.Contains(s.Needs, needs) {
			t.Errorf("%s needs %q", l.Name, s.Needs)
		}
	}
}

// A list that was kept is never shown after a change: each of these shows in the next.
func TestListFollowsEveryChange(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	c := signedIn(t, web, "owner@"+domain)
	hand := signedIn(t, web, "hand@"+domain)
	list := func(of *client) string {
		t.Helper()
		first := strings.Join(names(got[[]jobs.JobLine](t, of, http.MethodGet, "/api/jobs", nil)), ", ")
		if again := strings.Join(names(got[[]jobs.JobLine](t, of, http.MethodGet, "/api/jobs", nil)), ", "); again != first {
			t.Errorf("read twice: %q, then %q", first, again)
		}
		return first
	}
	expect := func(what, want string) {
		t.Helper()
		if got := list(c); got != want {
			t.Errorf("%s: %q, want %q", what, got, want)
		}
	}
	expect("at first", "")
	f := demoFile(t, "lamp-room")
	f.Job.Name, f.Job.Client = "Lens store", "Skerry Lights"
	j := c.addJob(f)
	expect("a job was added", "Lens store for Skerry Lights")
	if got := list(hand); got != "Lens store for " {
		t.Errorf("a hand reads %q", got)
	}
	after := f
	after.Job.Name = "Wick store"
	if status, _, text := c.patch(j.ID, edit(t, 1, f, after)); status != http.StatusOK {
		t.Fatalf("%d %s", status, text)
	}
	expect("it was renamed", "Wick store for Skerry Lights")
	c.send(http.MethodPut, "/api/jobs/"+j.ID.String()+"/archived", map[string]bool{"archived": true})
	expect("it was archived", "")
	c.send(http.MethodPut, "/api/jobs/"+j.ID.String()+"/archived", map[string]bool{"archived": false})
	expect("it came back", "Wick store for Skerry Lights")
}

// names returns the name and the client of each job of a list.
func names(of []jobs.JobLine) []string {
	all := make([]string, len(of))
	for i, l := range of {
		all[i] = l.Name + " for " + l.Client
	}
	return all
}

// large is a job of 20 surfaces with 12 coats each.
func large(b *testing.B) job.File {
	b.Helper()
	f := demoFile(b, "baggage-hall")
	first := f.Job.Surfaces[0]
	f.Job.Surfaces = nil
	for i := range 20 {
		s := first
		s.ID, s.Name, s.Coats = fmt.Sprint("s", i), fmt.Sprint("Bay ", i+1), nil
		for c := range 12 {
			coat := first.Coats[c%len(first.Coats)]
			coat.ID = fmt.Sprintf("s%dc%d", i, c)
			s.Coats = append(s.Coats, coat)
		}
		text, err := json.Marshal(s)
		if err != nil {
			b.Fatal(err)
		}
		var own job.Surface
		if err := json.Unmarshal(bytes.ReplaceAll(text, []byte(`"id":"`), []byte(fmt.Sprintf(`"id":"%d-`, i))),
			&own); err != nil {
			b.Fatal(err)
		}
		f.Job.Surfaces = append(f.Job.Surfaces, own)
	}
	return f
}

func demoFile(b testing.TB, name string) job.File {
	b.Helper()
	text, err := os.ReadFile("../demo/jobs/" + name + ".nephelon.json")
	if err != nil {
		b.Fatal(err)
	}
	var f job.File
	if err := json.Unmarshal(text, &f); err != nil {
		b.Fatal(err)
	}
	return f
}

// BenchmarkEdit measures one edit of one amount as the interface makes it, over
// loopback: how long it takes and how much travels, compressed. The aims: the
// largest demo job 25 ms and 10 kB, 20 surfaces of 12 coats 60 ms and 40 kB.
func BenchmarkEdit(b *testing.B) {
	for name, f := range map[string]job.File{"baggage-hall": demoFile(b, "baggage-hall"), "20x12": large(b)} {
		b.Run(name, func(b *testing.B) {
			c := signedIn(b, newServer(b), "owner@"+addCompany(b))
			j := c.addJob(f)
			tag, usual := j.Tag, f.Job.Surfaces[0].Coats[1].Amount.Value
			var times []time.Duration
			travels := 0
			for base := int64(1); b.Loop(); base++ {
				s := save{Base: base, SaveID: uuid.New(), Tag: tag, Patch: []exchange.EditStep{
					{Op: "replace", Path: "/job/surfaces/0/coats/1/amount/value",
						Value: json.RawMessage(fmt.Sprint(usual * (1 + 0.05*float64(base%5))))},
				}}
				begun := time.Now()
				status, saved, text := c.patch(j.ID, s)
				times = append(times, time.Since(begun))
				if status != http.StatusOK || saved.Plan != nil {
					b.Fatalf("%d %.300s", status, text)
				}
				var small bytes.Buffer
				zip := gzip.NewWriter(&small)
				_, _ = zip.Write([]byte(text))
				_ = zip.Close()
				travels, tag = max(travels, small.Len()), saved.Tag
			}
			slices.Sort(times)
			b.ReportMetric(float64(times[len(times)/2].Microseconds())/1000, "median-ms")
			b.ReportMetric(float64(travels)/1000, "kB-gzip")
		})
	}
}

// BenchmarkRead measures reading a job again and the list of twenty, beside a bare Gin and sqlx
// handler that serves the same bytes from the same database. The aim is half of its rate.
func BenchmarkRead(b *testing.B) {
	web := newServer(b)
	c := signedIn(b, web, "owner@"+addCompany(b))
	j := c.addJob(demoFile(b, "baggage-hall"))
	for range 19 {
		c.addJob(demoFile(b, "lamp-room"))
	}
	db := sqlx.NewDb(records.DB(), "pgx")
	if _, err := db.ExecContext(b.Context(),
		`create table if not exists bare (id uuid primary key, body bytea not null)`); err != nil {
		b.Fatal(err)
	}
	engine := gin.New()
	engine.GET("/bare/:id", func(g *gin.Context) {
		var body []byte
		if err := db.GetContext(g, &body, `select body from bare where id = $1`, g.Param("id")); err != nil {
			g.Status(http.StatusInternalServerError)
			return
		}
		g.Header("Content-Encoding", "gzip")
		g.Data(http.StatusOK, "application/json", body)
	})
	bare := httptest.NewServer(engine)
	b.Cleanup(bare.Close)
	for name, path := range map[string]string{"job": "/api/jobs/" + j.ID.String(), "list": "/api/jobs"} {
		_, whole := c.send(http.MethodGet, path, nil)
		var zipped bytes.Buffer
		zip := gzip.NewWriter(&zipped)
		_, _ = zip.Write([]byte(whole))
		_ = zip.Close()
		id := uuid.New()
		if _, err := db.ExecContext(b.Context(), `insert into bare values ($1, $2)`, id, zipped.Bytes()); err != nil {
			b.Fatal(err)
		}
		run := func(url string) func(*testing.B) {
			return func(b *testing.B) {
				b.RunParallel(func(pb *testing.PB) {
					for pb.Next() {
						request, err := http.NewRequestWithContext(b.Context(), http.MethodGet, url, nil)
						if err != nil {
							b.Error(err)
							return
						}
						request.Header.Set("Accept-Encoding", "gzip")
						answer, err := c.http.Do(request)
						if err != nil {
							b.Error(err)
							return
						}
						var all bytes.Buffer
						_, _ = all.ReadFrom(answer.Body)
						_ = answer.Body.Close()
						if answer.StatusCode != http.StatusOK || all.Len() < zipped.Len()/2 {
							b.Errorf("%d, %d bytes", answer.StatusCode, all.Len())
						}
					}
				})
			}
		}
		b.Run(name+"/nephelon", run(web.URL+path))
		b.Run(name+"/bare", run(bare.URL+"/bare/"+id.String()))
	}
}
