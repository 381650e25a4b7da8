package server_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"nephelon/core/job"
	"nephelon/core/plan"
	"nephelon/core/plan/whatif"
	"nephelon/core/pour/sim"
	"nephelon/exchange"
	"nephelon/server/jobs"
)

// The pour of a coat over HTTP: as the job stands, with a change tried on it that is not
// kept, what would help, and the odds; and what cannot be asked, in a sentence.
func TestThePourOverHTTP(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	f := demoJob(t)
	added := got[struct {
		ID       string   `json:"id"`
		Revision int64    `json:"revision"`
		File     job.File `json:"file"`
	}](t, c, http.MethodPost, "/api/jobs", f)
	at, ask := "/api/jobs/"+added.ID+"/pour", jobs.PourQuestion{Coat: f.Job.Surfaces[0].Coats[0].ID}
	now := got[whatif.PourPlan](t, c, http.MethodPost, at, ask)
	if len(now.Run.Parts) == 0 || len(now.Batches) != len(now.Run.Passages) || len(now.Crew) != f.Job.Crew.People() {
		t.Fatalf("%d parts of %d batches by %d", len(now.Run.Parts), len(now.Batches), len(now.Crew))
	}
	more := ask
	more.Patch = []exchange.EditStep{{Op: "replace", Path: "/job/crew/spreaders", Value: json.RawMessage("5")}}
	if tried := got[whatif.PourPlan](t, c, http.MethodPost, at, more); len(tried.Crew) != 6 ||
		tried.Run.Ends >= now.Run.Ends {
		t.Errorf("five spread for %v, %v before", tried.Run.Ends, now.Run.Ends)
	}
	if again := got[whatif.PourPlan](t, c, http.MethodPost, at, ask); again.Run.Ends != now.Run.Ends {
		t.Error("what was tried is kept")
	}
	for as, says := range map[string]string{"dxf": "$INSUNITS", "svg": "<svg", "geojson": "FeatureCollection"} {
		if status, text := c.send(http.MethodGet, strings.TrimSuffix(at, "pour")+"coats/"+ask.Coat+"/sections?as="+as,
			nil); status != http.StatusOK || !strings.Contains(text, says) {
			t.Errorf("%s: %d %.200s", as, status, text)
		}
	}
	if status, _ := c.send(http.MethodGet, strings.TrimSuffix(at, "pour")+"coats/nowhere/sections?as=dxf", nil); status !=
		http.StatusNotFound {
		t.Errorf("sections of no coat: %d", status)
	}
	got[[]whatif.Begun](t, c, http.MethodPost, at+"/starts", ask)
	got[[]whatif.Way](t, c, http.MethodPost, at+"/ways", ask)
	odds := jobs.OddsQuestion{PourQuestion: ask, Runs: 300, Seed: 4}
	if a, b := got[sim.Chance](t, c, http.MethodPost, at+"/odds", odds),
		got[sim.Chance](t, c, http.MethodPost, at+"/odds", odds); a.Ends != b.Ends || a.Runs != 300 {
		t.Errorf("%+v and %+v", a, b)
	}
	for says, q := range map[string]any{
		"cannot be poured": jobs.PourQuestion{Coat: "nowhere"},
		"/job/crew": jobs.PourQuestion{Coat: ask.Coat,
			Patch: []exchange.EditStep{{Op: "replace", Path: "/job/crew/spreaders", Value: json.RawMessage(`"many"`)}}},
	} {
		if status, text := c.send(http.MethodPost, at, q); status != http.StatusUnprocessableEntity ||
			!strings.Contains(text, says) {
			t.Errorf("%s: %d %s", says, status, text)
		}
	}
	odds.Runs = 1e6
	if status, text := c.send(http.MethodPost, at+"/odds", odds); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "body.runs") {
		t.Errorf("%d %s", status, text)
	}
}

// Two ways of a job come back in their order; a change that does not fit the file is refused, and a hand sees none.
func TestWaysAreCompared(t *testing.T) {
	web := newServer(t)
	domain := addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	f := demoJob(t)
	added := owner.addJob(f)
	at := "/api/jobs/" + added.ID.String() + "/ways"
	fewer := []exchange.EditStep{{Op: "replace", Path: "/job/crew/spreaders", Value: json.RawMessage("1")}}
	status, text := owner.send(http.MethodPost, at, jobs.BesideQuestion{Ways: [][]exchange.EditStep{{}, fewer}})
	var sides []plan.Side
	if err := json.Unmarshal([]byte(text), &sides); status != http.StatusOK || err != nil || len(sides) != 2 ||
		sides[1].Line.People != sides[0].Line.People-f.Job.Crew.Spreaders+1 || sides[0].Line.Kits == 0 {
		t.Fatalf("%d %s", status, text)
	}
	wrong := []exchange.EditStep{{Op: "replace", Path: "/job/nothing/there", Value: json.RawMessage("1")}}
	if status, text := owner.send(http.MethodPost, at, jobs.BesideQuestion{Ways: [][]exchange.EditStep{wrong}}); status !=
		http.StatusUnprocessableEntity {
		t.Errorf("%d %s", status, text)
	}
	if status, _ := signedIn(t, web, "hand@"+domain).send(http.MethodPost, at,
		jobs.BesideQuestion{Ways: [][]exchange.EditStep{{}}}); status != http.StatusForbidden {
		t.Errorf("a hand gets %d", status)
	}
}

// What the kits cost is told of a pour and its ways to those who see prices, and to no hand.
func TestAPourTellsHandsNoCost(t *testing.T) {
	web := newServer(t)
	domain := addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	f := demoJob(t)
	f.Job.Crew.Spreaders = 1
	added := owner.addJob(f)
	ask := jobs.PourQuestion{Coat: f.Job.Surfaces[0].Coats[0].ID}
	for role, told := range map[string]bool{"owner": true, "hand": false} {
		who := signedIn(t, web, role+"@"+domain)
		for _, path := range []string{"/pour", "/pour/ways"} {
			status, text := who.send(http.MethodPost, "/api/jobs/"+added.ID.String()+path, ask)
			if status != http.StatusOK || strings.Contains(text, `"cost"`) != told {
				t.Errorf("%s, %s: %d, told a cost: %v", role, path, status, !told)
			}
		}
	}
}
