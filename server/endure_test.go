package server_test

import (
	"context"
	"io"
	"log/slog"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/cookiejar"
	"os"
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

// Devices log while two servers and their database are killed in turn: whatever was acknowledged
// is in the record, once, and every journal is whole. By hand, for example:
//
// NEPHELON_DEVICES=200 NEPHELON_KILLS=100 NEPHELON_PAUSE=1000 NEPHELON_ROUNDS=20 go test -run
// TestNothingAcknowledgedIsLost -v -timeout 30m ./server
func TestNothingAcknowledgedIsLost(t *testing.T) {
	devices, kills, pause := often("NEPHELON_DEVICES", 6), often("NEPHELON_KILLS", 4),
		time.Duration(often("NEPHELON_PAUSE", 40))*time.Millisecond
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
	servers := []*victim{{t: t, url: cluster.URL, address: "127.0.0.1:0"},
		{t: t, url: cluster.URL, address: "127.0.0.1:0"}}
	for _, v := range servers {
		v.live()
		defer v.kill()
	}
	v := servers[0]
	ctx := t.Context()
	company, err := v.records.AddCompany(ctx, "Endurance")
	if err != nil {
		t.Fatal(err)
	}
	hash, err := sessions.HashPassword(password)
	if err != nil {
		t.Fatal(err)
	}
	person, err := v.records.AddPerson(ctx, store.Person{CompanyID: company, Name: "Tess", Email: "tess@endurance.example",
		Role: store.Lead, PasswordHash: hash, Units: measure.Metric})
	if err != nil {
		t.Fatal(err)
	}
	jobs := make([]uuid.UUID, 4)
	for n := range jobs {
		if jobs[n], err = v.records.AddJob(ctx, company, person, demoJob(t), nil); err != nil {
			t.Fatal(err)
		}
		if _, err := v.records.IssuePlan(ctx, company, person, jobs[n], uuid.New(),
			record.Issue{At: time.Now(), To: "crew"}); err != nil {
			t.Fatal(err)
		}
	}
	jar, _ := cookiejar.New(nil)
	web := &http.Client{Jar: jar, Timeout: 5 * time.Second, Transport: &http.Transport{MaxIdleConnsPerHost: devices}}
	post := func(at int, path string, body any) (int, string, error) {
		answer, err := web.Post("http://"+servers[at%len(servers)].address+path, "application/json",
			strings.NewReader(jsonOf(body)))
		if err != nil {
			return 0, "", err
		}
		defer answer.Body.Close()
		text, err := io.ReadAll(answer.Body)
		return answer.StatusCode, string(text), err
	}
	if status, text, err := post(0, "/api/session",
		map[string]string{"email": "tess@endurance.example", "password": password}); err != nil || status != http.StatusOK {
		t.Fatalf("%d %s %v", status, text, err)
	}
	over := make(chan struct{})
	var mutex sync.Mutex
	acknowledged := make(map[uuid.UUID][]string)
	var took []time.Duration
	taken := make(chan struct{}, devices)
	var busy sync.WaitGroup
	for n := range devices {
		busy.Go(func() {
			job := jobs[n%len(jobs)]
			d := &tablet{me: sessions.Me{ID: person, Name: "Tess"}, device: uuid.NewString()}
			for {
				select {
				case <-over:
					return
				case <-time.After(time.Duration(float64(pause) * (0.5 + rand.Float64()))):
				}
				e := d.event(record.Noted, "", record.Body{Text: "x"})
				for sent, at := false, n; !sent; at++ {
					begun := time.Now()
					status, text, err := post(at, "/api/jobs/"+job.String()+"/events", logging{[]record.Event{e}})
					sent = err == nil && status == http.StatusOK && strings.Contains(text, `"taken":["`+e.ID)
					if sent {
						mutex.Lock()
						acknowledged[job] = append(acknowledged[job], e.ID)
						took = append(took, time.Since(begun))
						mutex.Unlock()
						select {
						case taken <- struct{}{}:
						case <-over:
							return
						}
						continue
					}
					select {
					case <-over:
						return
					case <-time.After(30 * time.Millisecond):
					}
				}
			}
		})
	}
	// Between two kills as many events are taken as there are devices.
	some := func() {
		for range devices {
			<-taken
		}
	}
	for n := range kills {
		some()
		if which := n % (len(servers) + 1); which < len(servers) {
			servers[which].kill()
			servers[which].live()
			continue
		}
		if err := cluster.Crash(ctx); err != nil {
			t.Fatal(err)
		}
		if _, err := cluster.Revive(ctx); err != nil {
			t.Fatal(err)
		}
	}
	for range often("NEPHELON_ROUNDS", 1) {
		some()
	}
	close(over)
	busy.Wait()
	total := 0
	for job, ids := range acknowledged {
		total += len(ids)
		logged, err := v.records.Events(ctx, company, job, 0)
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
	if total < devices {
		t.Errorf("only %d events were taken", total)
	}
	slices.Sort(took)
	t.Logf("%d devices, %d kills: %d events acknowledged; half within %v, 99 %% within %v", devices, kills, total,
		took[len(took)/2], took[len(took)*99/100])
}
