package server_test

import (
	"context"
	"encoding/json"
	"io"
	"log/slog"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"

	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/server"
	"nephelon/server/sessions"
	"nephelon/store"
	"nephelon/store/localdb"
)

// often is a number of the environment, or else a small one.
func often(name string, otherwise int) int {
	if n, err := strconv.Atoi(os.Getenv(name)); err == nil {
		return n
	}
	return otherwise
}

// victim is a server that is killed and comes back at its address.
type victim struct {
	t       *testing.T
	url     string
	address string
	web     *http.Server
	records *store.Store
	stop    context.CancelFunc
}

func (v *victim) live() {
	v.t.Helper()
	var err error
	if v.records, err = store.Open(v.t.Context(), v.url); err != nil {
		v.t.Fatal(err)
	}
	s, err := server.New(server.Options{Store: v.records, Pages: fstest.MapFS{"index.html": {}},
		Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	if err != nil {
		v.t.Fatal(err)
	}
	l, err := net.Listen("tcp", v.address)
	if err != nil {
		v.t.Fatal(err)
	}
	v.address = l.Addr().String()
	ctx, stop := context.WithCancel(context.Background())
	v.stop, v.web = stop, &http.Server{}
	go func() { _ = s.Serve(ctx, v.web, func() error { return v.web.Serve(l) }) }()
}

// kill cuts every connection in the middle of what it does.
func (v *victim) kill() {
	_ = v.web.Close()
	v.stop()
	_ = v.records.Close()
}

// Devices log and people save while two servers and their database are killed in turn: whatever was
// acknowledged is kept, once, and every journal is whole. By hand, for example:
//
// NEPHELON_DEVICES=200 NEPHELON_KILLS=100 NEPHELON_PAUSE=1000 NEPHELON_ROUNDS=20 go test -run
// TestNothingAcknowledgedIsLost -v -timeout 30m ./server
func TestNothingAcknowledgedIsLost(t *testing.T) {
	folder, err := os.MkdirTemp("", "nephelon-endure-")
	if err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(folder)
	cluster, err := localdb.Start(t.Context(), folder, localdb.Kept)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = cluster.Stop(context.Background()) }()
	e := endure(t, cluster.URL, often("NEPHELON_DEVICES", 6), often("NEPHELON_PEOPLE", 2))
	for n := range often("NEPHELON_KILLS", 4) {
		e.some()
		if which := n % (len(e.servers) + 1); which < len(e.servers) {
			e.servers[which].kill()
			e.servers[which].live()
			continue
		}
		if err := cluster.Crash(t.Context()); err != nil {
			t.Fatal(err)
		}
		if _, err := cluster.Revive(t.Context()); err != nil {
			t.Fatal(err)
		}
	}
	e.settle()
}

// The database that is written to is lost for good, and its synchronous standby takes its place: whoever
// names both goes on, with nothing acknowledged lost. TestFailOverLosesNothing does it again and again.
func TestAStandbyTakesOver(t *testing.T) {
	folder, err := os.MkdirTemp("", "nephelon-standby-")
	if err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(folder)
	if err := os.Chmod(folder, 0o755); err != nil {
		t.Fatal(err)
	}
	first, err := localdb.Start(t.Context(), filepath.Join(folder, "first"), localdb.Kept)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = first.Stop(context.Background()) }()
	second, err := first.Standby(t.Context(), filepath.Join(folder, "second"))
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = second.Stop(context.Background()) }()
	here, err := url.Parse(first.URL)
	if err != nil {
		t.Fatal(err)
	}
	there, err := url.Parse(second.URL)
	if err != nil {
		t.Fatal(err)
	}
	both := strings.Replace(first.URL, here.Host, there.Host+","+here.Host, 1)
	e := endure(t, both, 4, 2)
	e.some()
	if err := first.Crash(t.Context()); err != nil {
		t.Fatal(err)
	}
	if err := second.Promote(t.Context()); err != nil {
		t.Fatal(err)
	}
	e.some()
	e.settle()
}

// endurance is two servers on one database, with devices that log and people who save at them
// until all of it is settled.
type endurance struct {
	t       *testing.T
	servers []*victim
	web     *http.Client
	company uuid.UUID
	person  uuid.UUID
	jobs    []uuid.UUID // that devices log to, then one for each person
	clients int

	over  chan struct{}
	taken chan struct{}
	busy  sync.WaitGroup

	mutex  sync.Mutex
	logged map[uuid.UUID][]string         // ids of events acknowledged, by job
	saved  map[uuid.UUID]map[int64]string // names of the job acknowledged, by revision
	took   []time.Duration
}

// jobsLogged counts the jobs that the devices share.
const jobsLogged = 4

func endure(t *testing.T, database string, devices, people int) *endurance {
	t.Helper()
	e := &endurance{
		t: t, servers: []*victim{
			{t: t, url: database, address: "127.0.0.1:0"}, {t: t, url: database, address: "127.0.0.1:0"},
		},
		clients: devices + people, over: make(chan struct{}), taken: make(chan struct{}, devices+people),
		logged: make(map[uuid.UUID][]string), saved: make(map[uuid.UUID]map[int64]string),
	}
	for _, v := range e.servers {
		v.live()
		t.Cleanup(v.kill)
	}
	v, ctx := e.servers[0], t.Context()
	company, err := v.records.AddCompany(ctx, "Endurance")
	if err != nil {
		t.Fatal(err)
	}
	hash, err := sessions.HashPassword(password)
	if err != nil {
		t.Fatal(err)
	}
	e.person, err = v.records.AddPerson(ctx, store.Person{CompanyID: company, Name: "Tess",
		Email: "tess@endurance.example", Role: store.Lead, PasswordHash: hash, Units: measure.Metric})
	if err != nil {
		t.Fatal(err)
	}
	e.company = company
	for range jobsLogged + people {
		job, err := v.records.AddJob(ctx, company, e.person, demoJob(t), nil)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := v.records.IssuePlan(ctx, company, e.person, job, uuid.New(),
			record.Issue{At: time.Now(), To: "crew"}); err != nil {
			t.Fatal(err)
		}
		e.jobs = append(e.jobs, job)
	}
	jar, _ := cookiejar.New(nil)
	e.web = &http.Client{Jar: jar, Timeout: 5 * time.Second, Transport: &http.Transport{MaxIdleConnsPerHost: e.clients}}
	if status, text, err := e.send(0, http.MethodPost, "/api/session",
		map[string]string{"email": "tess@endurance.example", "password": password}); err != nil || status != http.StatusOK {
		t.Fatalf("%d %s %v", status, text, err)
	}
	pause := time.Duration(often("NEPHELON_PAUSE", 40)) * time.Millisecond
	for n := range e.clients {
		act := e.logs(e.jobs[n%jobsLogged])
		if n >= devices {
			act = e.saves(e.jobs[jobsLogged+n-devices])
		}
		e.busy.Go(func() {
			for e.waits(time.Duration(float64(pause) * (0.5 + rand.Float64()))) {
				if !e.until(act(), n) {
					return
				}
			}
		})
	}
	return e
}

// send asks one of the servers.
func (e *endurance) send(at int, method, path string, body any) (int, string, error) {
	request, err := http.NewRequest(method, "http://"+e.servers[at%len(e.servers)].address+path,
		strings.NewReader(jsonOf(body)))
	if err != nil {
		return 0, "", err
	}
	request.Header.Set("Content-Type", "application/json")
	answer, err := e.web.Do(request)
	if err != nil {
		return 0, "", err
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	return answer.StatusCode, string(text), err
}

// waits reports whether clients go on after a while.
func (e *endurance) waits(while time.Duration) bool {
	select {
	case <-e.over:
		return false
	case <-time.After(while):
		return true
	}
}

// until sends one thing to the servers in turn until it is acknowledged, and reports whether
// clients go on.
func (e *endurance) until(acknowledged func(at int) bool, at int) bool {
	begun := time.Now()
	for ; !acknowledged(at); at++ {
		if !e.waits(30 * time.Millisecond) {
			return false
		}
	}
	e.mutex.Lock()
	e.took = append(e.took, time.Since(begun))
	e.mutex.Unlock()
	select {
	case e.taken <- struct{}{}:
		return true
	case <-e.over:
		return false
	}
}

// logs returns a device at a job: each act logs one event.
func (e *endurance) logs(job uuid.UUID) func() func(at int) bool {
	d := &tablet{me: sessions.Me{ID: e.person, Name: "Tess"}, device: uuid.NewString()}
	return func() func(at int) bool {
		event := d.event(record.Noted, "", record.Body{Text: "x"})
		return func(at int) bool {
			status, text, err := e.send(at, http.MethodPost, "/api/jobs/"+job.String()+"/events",
				logging{[]record.Event{event}})
			if err != nil || status != http.StatusOK || !strings.Contains(text, `"taken":["`+event.ID) {
				return false
			}
			e.mutex.Lock()
			defer e.mutex.Unlock()
			e.logged[job] = append(e.logged[job], event.ID)
			return true
		}
	}
}

// saves returns a person at a job: each act gives it another name.
func (e *endurance) saves(job uuid.UUID) func() func(at int) bool {
	revision := int64(1)
	e.mutex.Lock()
	defer e.mutex.Unlock()
	e.saved[job] = make(map[int64]string)
	return func() func(at int) bool {
		id := uuid.NewString()
		edit := map[string]any{"base": revision, "saveId": id,
			"patch": []map[string]any{{"op": "replace", "path": "/job/name", "value": id}}}
		return func(at int) bool {
			status, text, err := e.send(at, http.MethodPatch, "/api/jobs/"+job.String(), edit)
			var kept struct{ Revision int64 }
			if err != nil || status != http.StatusOK || json.Unmarshal([]byte(text), &kept) != nil {
				return false
			}
			e.mutex.Lock()
			defer e.mutex.Unlock()
			revision = kept.Revision
			e.saved[job][revision] = id
			return true
		}
	}
}

// some waits until as many acts are acknowledged as there are clients.
func (e *endurance) some() {
	for range e.clients {
		<-e.taken
	}
}

// acknowledged returns how many acts were.
func (e *endurance) acknowledged() int {
	e.mutex.Lock()
	defer e.mutex.Unlock()
	return len(e.took)
}

// settle ends the work and compares what was acknowledged with what is kept.
func (e *endurance) settle() {
	t, ctx, records := e.t, e.t.Context(), e.servers[0].records
	t.Helper()
	for range often("NEPHELON_ROUNDS", 1) {
		e.some()
	}
	close(e.over)
	e.busy.Wait()
	for job, ids := range e.logged {
		logged, err := records.Events(ctx, e.company, job, 0)
		if err != nil {
			t.Fatal(err)
		}
		held := make(map[string]int)
		for _, e := range logged.Events {
			held[e.ID]++
		}
		for _, id := range ids {
			if held[id] != 1 {
				t.Errorf("%s was acknowledged and is there %d times", id, held[id])
			}
		}
		for _, b := range record.Breaks(logged.Events) {
			t.Error(b.Text)
		}
	}
	for job, names := range e.saved {
		for revision, name := range names {
			file, err := records.JobAt(ctx, e.company, job, revision)
			if err != nil {
				t.Fatal(err)
			}
			if file.Job.Name != name {
				t.Errorf("revision %d of a job is named %q, acknowledged was %q", revision, file.Job.Name, name)
			}
		}
	}
	if e.acknowledged() < e.clients {
		t.Errorf("only %d acts were acknowledged", len(e.took))
	}
	slices.Sort(e.took)
	t.Logf("%d devices and people: %d acts acknowledged; half within %v, 99 %% within %v, all within %v", e.clients,
		len(e.took), e.took[len(e.took)/2], e.took[len(e.took)*99/100], e.took[len(e.took)-1])
}
