package server_test

import (
	"encoding/json"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"runtime"
	"runtime/debug"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/job"
	"nephelon/exchange"
	"nephelon/server"
	"nephelon/server/jobs"
)

// People each read and save jobs of their own, one request after the other: every save is
// taken, and memory comes back after it. By hand, for example:
//
//	NEPHELON_PEOPLE=50 NEPHELON_TURNS=60 NEPHELON_PAUSE=500 go test -run TestManyPeople -v -timeout 20m ./server
func TestManyPeople(t *testing.T) {
	people, turns, pause := often("NEPHELON_PEOPLE", 6), often("NEPHELON_TURNS", 4),
		time.Duration(often("NEPHELON_PAUSE", 0))*time.Millisecond
	s, err := server.New(server.Options{Store: records, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	web, domain := httptest.NewServer(s), addCompany(t)
	defer web.Close()
	file := demoFile(t, "baggage-hall")
	usual := file.Job.Surfaces[0].Coats[1].Amount.Value
	clients, open := make([]*client, people), make([]jobs.JobState, people)
	for n := range people {
		clients[n] = signedIn(t, web, "estimator@"+domain)
		open[n] = clients[n].addJob(file)
	}
	held := func() uint64 {
		web.CloseClientConnections()
		s.Forget()
		debug.FreeOSMemory()
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		return m.HeapInuse
	}
	before := held()
	var mutex sync.Mutex
	took := make(map[string][]time.Duration)
	timed := func(what string, do func()) {
		begun := time.Now()
		do()
		mutex.Lock()
		took[what] = append(took[what], time.Since(begun))
		mutex.Unlock()
		<-time.After(pause) // somebody thinks
	}
	var all sync.WaitGroup
	for n, c := range clients {
		all.Go(func() {
			<-time.After(time.Duration(rand.Float64() * float64(turns) / 2 * float64(pause))) // they do not all begin at once
			path, tag := "/api/jobs/"+open[n].ID.String(), open[n].Tag
			for turn := range turns {
				timed("list", func() { c.send(http.MethodGet, "/api/jobs", nil) })
				timed("read", func() { c.send(http.MethodGet, path, nil) })
				timed("save", func() {
					s := save{Base: int64(turn + 1), SaveID: uuid.New(), Tag: tag, Patch: []exchange.EditStep{
						{Op: "replace", Path: "/job/surfaces/0/coats/1/amount/value",
							Value: json.RawMessage(fmt.Sprint(usual * (1 + 0.002*float64(turn+n*turns))))},
					}}
					status, saved, text := c.patch(open[n].ID, s)
					if tag = saved.Tag; status != http.StatusOK {
						t.Errorf("a save: %d %.200s", status, text)
					}
				})
			}
		})
	}
	all.Wait()
	for n, j := range open {
		if stands := got[struct {
			Revision int64    `json:"revision"`
			File     job.File `json:"file"`
		}](t, clients[n], http.MethodGet, "/api/jobs/"+j.ID.String(), nil); stands.Revision != int64(turns+1) {
			t.Errorf("%d saves stand at revision %d", turns, stands.Revision)
		}
	}
	for what, times := range took {
		slices.Sort(times)
		t.Logf("%d people, %s: half within %v, 99 %% within %v", people, what, times[len(times)/2], times[len(times)*99/100])
	}
	const grown = 1.3
	after := held()
	t.Logf("heap in use %d MB before, %d MB after", before>>20, after>>20)
	if float64(after) > grown*float64(before) {
		t.Errorf("memory does not come back: %d MB before, %d MB after", before>>20, after>>20)
	}
}
