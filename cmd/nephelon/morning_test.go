//go:build morning

package main

import (
	"archive/zip"
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/work"
	"nephelon/demo"
	"nephelon/exchange"
	"nephelon/server/photos"
	"nephelon/server/sessions"
	"nephelon/store"
	"nephelon/store/localdb"
)

// A morning of many companies: ten people of each open the day between 6:30 and 7:30, 40 devices log,
// somebody of each saves a job once a minute, 5 rosters are planned. It is played as it is, then
// faster and faster, until an answer of a hundred takes more than a second. By hand:
//
// NEPHELON_COMPANIES=100 go test -tags morning -run TestAMorning -v -timeout 60m ./cmd/nephelon
func TestAMorning(t *testing.T) {
	m := manyCompanies(t, number("NEPHELON_COMPANIES", 100))
	m.serve()
	m.signIn()
	const devices, hour = 40, 3600.0
	opened, logged, saved := float64(10*len(m.companies))/hour, devices/10.0, float64(len(m.companies))/60
	for speed := 1.0; ; speed *= 2 {
		m.plan(5)
		took := m.play(20*time.Second, map[string]float64{"open": speed * opened, "log": speed * logged,
			"save": speed * saved})
		if took > time.Second || speed > 500 {
			return
		}
	}
}

// Saves while four rosters are planned: by nobody, in the process that serves, and in one of its own.
func TestSavesBesideRosters(t *testing.T) {
	m := manyCompanies(t, 10)
	for _, c := range []struct {
		name string
		here bool
		own  bool
	}{{"no roster", false, false}, {"four rosters where saves are answered", true, false},
		{"four rosters in a process of their own", false, true}} {
		t.Log(c.name)
		end := m.serve("-work=" + strconv.FormatBool(c.here))
		if m.companies[0].web == nil {
			m.signIn()
		}
		endWork := func() {}
		if c.own {
			endWork = m.start("nice", "-n", "10", m.program, "work", "-db", m.database.URL, "-most", "4")
		}
		endPlans := func() {}
		if c.here || c.own {
			endPlans = m.keepPlanning(4)
		}
		m.play(40*time.Second, map[string]float64{"save": 10})
		endPlans()
		endWork()
		end()
	}
}

func number(name string, otherwise int) int {
	if n, err := strconv.Atoi(os.Getenv(name)); err == nil {
		return n
	}
	return otherwise
}

// company holds a company of the load, and who asks for it.
type company struct {
	email string
	from  net.IP // the host its people come from
	web   *http.Client
	jobs  []*openJob
}

// openJob is a job that people of a company work at.
type openJob struct {
	mutex    sync.Mutex
	id       string
	revision int64
	issued   bool
	device   string
	person   string
	number   int64
	before   string
}

// morning is a database with many companies and the program that serves it.
type morning struct {
	t         *testing.T
	program   string
	database  *localdb.Cluster
	folder    string
	records   *store.Store
	companies []*company
	address   string
	served    int // process
}

func manyCompanies(t *testing.T, companies int) *morning {
	t.Helper()
	folder, err := os.MkdirTemp("", "nephelon-morning-")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = os.RemoveAll(folder) })
	m := &morning{t: t, folder: folder, program: filepath.Join(folder, "nephelon")}
	if said, err := exec.Command("go", "build", "-o", m.program, ".").CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, said)
	}
	if err := os.Chmod(folder, 0o755); err != nil {
		t.Fatal(err)
	}
	ctx := t.Context()
	if m.database, err = localdb.Start(ctx, filepath.Join(folder, "database"), localdb.Kept); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = m.database.Stop(context.Background()) })
	if m.records, err = store.Open(ctx, m.database.URL); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = m.records.Close() })
	if err := demo.LoadOnce(ctx, m.records); err != nil {
		t.Fatal(err)
	}
	first, err := m.records.CompanyOf(ctx, demo.People()[0].Email)
	if err != nil {
		t.Fatal(err)
	}
	var archive bytes.Buffer
	if err := m.records.Export(ctx, first, &archive); err != nil {
		t.Fatal(err)
	}
	hash, err := sessions.HashPassword(demo.Password)
	if err != nil {
		t.Fatal(err)
	}
	reader, err := exchange.NewReader()
	if err != nil {
		t.Fatal(err)
	}
	begun := time.Now()
	for n := range companies {
		c := &company{email: fmt.Sprintf("owner@company%d.example", n),
			from: net.IPv4(127, 1, byte(n/250), byte(1+n%250))}
		id, err := m.records.AddCompany(ctx, fmt.Sprintf("Company %d", n))
		if err != nil {
			t.Fatal(err)
		}
		if _, err := m.records.AddPerson(ctx, store.Person{CompanyID: id, Name: "Owner", Email: c.email,
			Role: store.Owner, PasswordHash: hash, Units: measure.Metric}); err != nil {
			t.Fatal(err)
		}
		z, err := zip.NewReader(bytes.NewReader(archive.Bytes()), int64(archive.Len()))
		if err != nil {
			t.Fatal(err)
		}
		if _, err := m.records.Import(ctx, id, z, store.Checks{Plan: reader.Today, Photo: photos.Kept}); err != nil {
			t.Fatal(err)
		}
		m.companies = append(m.companies, c)
	}
	t.Logf("%d companies like the demo, made in %v", companies, time.Since(begun).Round(time.Second))
	return m
}

// start runs a program until it is ended.
func (m *morning) start(program string, arguments ...string) (end func()) {
	m.t.Helper()
	c := exec.Command(program, arguments...)
	out, err := c.StdoutPipe()
	if err != nil {
		m.t.Fatal(err)
	}
	c.Env = append(os.Environ(), "NEPHELON_KEY="+filepath.Join(m.folder, "key"))
	if err := c.Start(); err != nil {
		m.t.Fatal(err)
	}
	end = sync.OnceFunc(func() {
		_ = c.Process.Signal(syscall.SIGTERM)
		_ = c.Wait()
	})
	m.t.Cleanup(end)
	m.served = cmp.Or(m.served, c.Process.Pid)
	if slices.Contains(arguments, "serve") {
		m.served = c.Process.Pid
		said := make([]byte, 200)
		n, err := out.Read(said)
		at := regexp.MustCompile(`http://(\S+)`).FindSubmatch(said[:n])
		if err != nil || at == nil {
			m.t.Fatalf("%v: %s", err, said[:n])
		}
		m.address = string(at[1])
	}
	go func() { _, _ = io.Copy(io.Discard, out) }()
	return end
}

func (m *morning) serve(more ...string) (end func()) {
	m.t.Helper()
	return m.start(m.program, append([]string{"serve", "-db", m.database.URL, "-log", "ERROR", "-listen",
		cmp.Or(m.address, anyAddress)}, more...)...)
}

// signIn signs somebody of each company in, from a host of their own, and looks up their jobs.
func (m *morning) signIn() {
	m.t.Helper()
	for _, c := range m.companies {
		jar, err := cookiejar.New(nil)
		if err != nil {
			m.t.Fatal(err)
		}
		dialer := &net.Dialer{LocalAddr: &net.TCPAddr{IP: c.from}}
		c.web = &http.Client{Jar: jar, Timeout: 30 * time.Second,
			Transport: &http.Transport{DialContext: dialer.DialContext, MaxIdleConnsPerHost: 10}}
		var me sessions.Me
		if err := m.ask(c, http.MethodPost, "/api/session",
			map[string]string{"email": c.email, "password": demo.Password}, &me); err != nil {
			m.t.Fatal(err)
		}
		var jobs []struct{ ID string }
		if err := m.ask(c, http.MethodGet, "/api/jobs", nil, &jobs); err != nil {
			m.t.Fatal(err)
		}
		for _, j := range jobs {
			var state struct{ Revision int64 }
			if err := m.ask(c, http.MethodGet, "/api/jobs/"+j.ID, nil, &state); err != nil {
				m.t.Fatal(err)
			}
			c.jobs = append(c.jobs, &openJob{id: j.ID, revision: state.Revision, device: uuid.NewString(),
				person: me.ID.String(),
				issued: m.ask(c, http.MethodGet, "/api/jobs/"+j.ID+"/issues/0", nil, nil) == nil})
		}
	}
}

// ask sends a request and reads the answer into a value, where one is wanted.
func (m *morning) ask(c *company, method, path string, body, into any) error {
	var content io.Reader
	if body != nil {
		text, err := json.Marshal(body)
		if err != nil {
			return err
		}
		content = bytes.NewReader(text)
	}
	request, err := http.NewRequest(method, "http://"+m.address+path, content)
	if err != nil {
		return err
	}
	request.Header.Set("Content-Type", "application/json")
	answer, err := c.web.Do(request)
	if err != nil {
		return err
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err != nil {
		return err
	}
	if answer.StatusCode >= 300 {
		return fmt.Errorf("%s %s: %d %.200s", method, path, answer.StatusCode, text)
	}
	if into == nil {
		return nil
	}
	return json.Unmarshal(text, into)
}

// twentySeconds is a question for a roster around nothing.
func twentySeconds() any { return map[string]any{"bookings": []any{}, "seconds": 20} }

// plan asks for rosters of as many companies, each worked at for 20 s.
func (m *morning) plan(rosters int) {
	m.t.Helper()
	for _, c := range m.companies[:min(rosters, len(m.companies))] {
		if err := m.ask(c, http.MethodPost, "/api/roster/runs", twentySeconds(), nil); err != nil {
			m.t.Fatal(err)
		}
	}
}

// keepPlanning plans the rosters of as many companies again and again, until it is ended.
func (m *morning) keepPlanning(rosters int) (end func()) {
	over := make(chan struct{})
	var busy sync.WaitGroup
	for _, c := range m.companies[:rosters] {
		busy.Go(func() {
			run := struct{ ID, State string }{State: "done"}
			for {
				var err error
				if run.State == "done" {
					err = m.ask(c, http.MethodPost, "/api/roster/runs", twentySeconds(), &run)
				} else {
					err = m.ask(c, http.MethodGet, "/api/roster/runs/"+run.ID, nil, &run)
				}
				if err != nil {
					m.t.Error(err)
					return
				}
				select {
				case <-over:
					return
				case <-time.After(300 * time.Millisecond):
				}
			}
		})
	}
	return func() {
		close(over)
		busy.Wait()
	}
}

// act does one thing as somebody of a company.
func (m *morning) act(kind string, c *company) error {
	of := func(right func(*openJob) bool) *openJob {
		at := rand.IntN(len(c.jobs))
		for n := range c.jobs {
			if j := c.jobs[(at+n)%len(c.jobs)]; right(j) {
				return j
			}
		}
		return nil
	}
	switch kind {
	case "open": // home, then the day of a job
		j := of(func(j *openJob) bool { return j.issued })
		for _, path := range []string{"/api/me", "/api/jobs", "/api/roster/today", "/api/waits", "/api/company/storage",
			"/api/jobs/" + j.id + "/issues/0", "/api/jobs/" + j.id + "/events"} {
			if err := m.ask(c, http.MethodGet, path, nil, nil); err != nil {
				return err
			}
		}
		return nil
	case "log":
		j := of(func(j *openJob) bool { return j.issued })
		j.mutex.Lock()
		defer j.mutex.Unlock()
		j.number++
		e := record.Sealed(record.Event{ID: uuid.NewString(), Issue: 1, Task: work.ID(""), Kind: record.Noted,
			At: time.Now(), Device: j.device, Number: j.number, Person: j.person, Name: "Owner",
			Body: record.Body{Text: "x"}}, j.before)
		j.before = e.Hash
		return m.ask(c, http.MethodPost, "/api/jobs/"+j.id+"/events", map[string]any{"events": []record.Event{e}}, nil)
	case "save":
		j := of(func(*openJob) bool { return true })
		j.mutex.Lock()
		defer j.mutex.Unlock()
		var kept struct{ Revision int64 }
		err := m.ask(c, http.MethodPatch, "/api/jobs/"+j.id, map[string]any{
			"base": j.revision, "saveId": uuid.NewString(),
			"patch": []map[string]any{{"op": "replace", "path": "/job/name", "value": uuid.NewString()}}}, &kept)
		if err == nil {
			j.revision = kept.Revision
		}
		return err
	}
	return errors.New("no such act: " + kind)
}

// play does things at rates a second, logs how long they took and which processors were busy, and
// returns the longest of 99 in 100 of the slowest kind.
func (m *morning) play(while time.Duration, rates map[string]float64) (slowest time.Duration) {
	var mutex sync.Mutex
	var busy sync.WaitGroup
	took, faults := make(map[string][]time.Duration), make(map[string]int)
	begun, before := time.Now(), m.processors()
	over := time.After(while)
	ctx, end := context.WithCancel(m.t.Context())
	for kind, rate := range rates {
		busy.Go(func() {
			for {
				select {
				case <-ctx.Done():
					return
				case <-time.After(time.Duration(rand.ExpFloat64() / rate * float64(time.Second))):
				}
				busy.Go(func() {
					at := time.Now()
					err := m.act(kind, m.companies[rand.IntN(len(m.companies))])
					mutex.Lock()
					defer mutex.Unlock()
					took[kind] = append(took[kind], time.Since(at))
					if err != nil {
						faults[kind]++
						if faults[kind] == 1 {
							m.t.Error(err)
						}
					}
				})
			}
		})
	}
	<-over
	end()
	busy.Wait()
	seconds := time.Since(begun).Seconds()
	var told []string
	for kind, times := range took {
		slices.Sort(times)
		p99 := times[len(times)*99/100]
		slowest = max(slowest, p99)
		told = append(told, fmt.Sprintf("%s %.1f/s half %d ms p99 %d ms", kind, float64(len(times))/seconds,
			times[len(times)/2].Milliseconds(), p99.Milliseconds()))
	}
	slices.Sort(told)
	after := m.processors()
	m.t.Logf("%s · processors: server %.2f, database %.2f, this test %.2f", strings.Join(told, "; "),
		(after[0]-before[0])/seconds, (after[1]-before[1])/seconds, (after[2]-before[2])/seconds)
	return slowest
}

// processors returns the seconds of processor that the server, the databases of this machine and
// this test have used.
func (m *morning) processors() (used [3]float64) {
	stats, err := filepath.Glob("/proc/[0-9]*/stat")
	if err != nil {
		m.t.Fatal(err)
	}
	for _, file := range stats {
		text, err := os.ReadFile(file)
		if err != nil {
			continue // it has ended
		}
		rest := string(text[bytes.LastIndexByte(text, ')')+2:])
		fields := strings.Fields(rest)
		ticks := 0.0
		for _, n := range []int{11, 12} {
			one, _ := strconv.ParseFloat(fields[n], 64)
			ticks += one / 100
		}
		id, _ := strconv.Atoi(strings.Split(file, "/")[2])
		switch {
		case id == m.served:
			used[0] += ticks
		case bytes.Contains(text, []byte("(postgres)")):
			used[1] += ticks
		case id == os.Getpid():
			used[2] += ticks
		}
	}
	return used
}
