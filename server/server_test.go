package server_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"slices"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"

	"nephelon/core/bench"
	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/days"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/exchange"
	"nephelon/server"
	"nephelon/server/daylog"
	"nephelon/server/jobs"
	"nephelon/server/photos"
	"nephelon/server/rosters"
	"nephelon/server/sessions"
	"nephelon/store"
	"nephelon/store/storetest"
)

// records is the scratch database, set by TestMain before any test.
var records *store.Store

func TestMain(m *testing.M) { storetest.Main(m, func(s *store.Store) { records = s }) }

const password = "correct horse"

func newServer(t testing.TB) *httptest.Server {
	t.Helper()
	pages := fstest.MapFS{
		"index.html":      {Data: []byte(`<meta name="csp-nonce" content="__NONCE__">`)},
		"assets/app.js":   {Data: []byte(`1`)},
		"assets/app2.css": {Data: []byte(`a{}`)},
		"assets/day.wasm": {Data: []byte(`whole`)}, "assets/day.wasm.br": {Data: []byte(`packed`)},
	}
	s, err := server.New(server.Options{Store: records, Pages: pages, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	if err != nil {
		t.Fatal(err)
	}
	web := httptest.NewServer(s)
	t.Cleanup(web.Close)
	return web
}

// addCompany makes a company with one person of each role, whose addresses are
// role@domain.
func addCompany(t testing.TB) (domain string) {
	t.Helper()
	domain = uuid.NewString() + ".example"
	company, err := records.AddCompany(t.Context(), domain)
	if err != nil {
		t.Fatal(err)
	}
	hash, err := sessions.HashPassword(password)
	if err != nil {
		t.Fatal(err)
	}
	for _, role := range []store.Role{store.Owner, store.Estimator, store.Lead, store.Hand} {
		if _, err := records.AddPerson(t.Context(), store.Person{
			CompanyID: company, Name: string(role), Email: string(role) + "@" + domain, Role: role, PasswordHash: hash,
			Units: measure.Metric,
		}); err != nil {
			t.Fatal(err)
		}
	}
	return domain
}

// client is one person's browser.
type client struct {
	t    testing.TB
	base string
	http *http.Client
}

func newClient(t testing.TB, web *httptest.Server) *client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	if err != nil {
		t.Fatal(err)
	}
	return &client{t, web.URL, &http.Client{Jar: jar}}
}

func signedIn(t testing.TB, web *httptest.Server, email string) *client {
	t.Helper()
	c := newClient(t, web)
	if status, text := c.send(http.MethodPost, "/api/session",
		map[string]string{"email": email, "password": password}); status != http.StatusOK {
		t.Fatalf("sign in: %d %s", status, text)
	}
	return c
}

func (c *client) send(method, path string, content any, headers ...string) (int, string) {
	c.t.Helper()
	var body io.Reader
	kind := "application/json"
	switch v := content.(type) {
	case nil:
	case string:
		body = strings.NewReader(v)
		if !strings.HasPrefix(strings.TrimSpace(v), "{") && !strings.HasPrefix(v, "[") {
			kind = "application/octet-stream"
		}
	default:
		text, err := json.Marshal(v)
		if err != nil {
			c.t.Fatal(err)
		}
		body = bytes.NewReader(text)
	}
	request, err := http.NewRequestWithContext(c.t.Context(), method, c.base+path, body)
	if err != nil {
		c.t.Fatal(err)
	}
	request.Header.Set("Content-Type", kind)
	for i := 0; i+1 < len(headers); i += 2 {
		request.Header.Set(headers[i], headers[i+1])
	}
	answer, err := c.http.Do(request)
	if err != nil {
		c.t.Fatal(err)
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err != nil {
		c.t.Fatal(err)
	}
	return answer.StatusCode, string(text)
}

func demoJob(t testing.TB) job.File {
	t.Helper()
	text, err := os.ReadFile("../demo/jobs/lamp-room.nephelon.json")
	if err != nil {
		t.Fatal(err)
	}
	var f job.File
	if err := json.Unmarshal(text, &f); err != nil {
		t.Fatal(err)
	}
	return f
}

// confirm gives the password once more, for what wants that.
func (c *client) confirm() {
	c.t.Helper()
	if status, text := c.send(http.MethodPost, "/api/me/confirmation", map[string]string{"password": password}); status !=
		http.StatusNoContent {
		c.t.Fatalf("%d %s", status, text)
	}
}

func (c *client) addJob(f job.File) jobs.JobState {
	c.t.Helper()
	status, text := c.send(http.MethodPost, "/api/jobs", f)
	var j jobs.JobState
	if err := json.Unmarshal([]byte(text), &j); err != nil || status != http.StatusOK {
		c.t.Fatalf("add job: %d %s", status, text)
	}
	return j
}

type save struct {
	Base   int64               `json:"base"`
	SaveID uuid.UUID           `json:"saveId"`
	Tag    string              `json:"tag,omitempty"`
	Patch  []exchange.EditStep `json:"patch"`
}

// edit is the save that makes one file of another.
func edit(t testing.TB, base int64, from, to job.File) save {
	t.Helper()
	before, err := json.Marshal(from)
	if err != nil {
		t.Fatal(err)
	}
	after, err := json.Marshal(to)
	if err != nil {
		t.Fatal(err)
	}
	steps := exchange.Diff("", before, after)
	if steps == nil {
		steps = []exchange.EditStep{}
	}
	return save{Base: base, SaveID: uuid.New(), Patch: steps}
}

func TestSigningIn(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	c := newClient(t, web)
	cases := []struct {
		name, email, password string
		want                  int
	}{
		{"unknown address", "nobody@" + domain, password, http.StatusUnauthorized},
		{"wrong password", "owner@" + domain, "wrong", http.StatusUnauthorized},
		{"address in capitals", strings.ToUpper("owner@" + domain), password, http.StatusOK},
	}
	for _, k := range cases {
		if status, text := c.send(http.MethodPost, "/api/session",
			map[string]string{"email": k.email, "password": k.password}); status != k.want {
			t.Errorf("%s: %d %s", k.name, status, text)
		}
	}
	if status, _ := c.send(http.MethodGet, "/api/me", nil); status != http.StatusOK {
		t.Errorf("signed in, but /api/me says %d", status)
	}
	if status, _ := c.send(http.MethodDelete, "/api/session", nil); status >= 300 {
		t.Errorf("signing out gave %d", status)
	}
	if status, _ := c.send(http.MethodGet, "/api/me", nil); status != http.StatusUnauthorized {
		t.Errorf("signed out, but /api/me says %d", status)
	}
}

func TestSigningInIsThrottled(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	c := newClient(t, web)
	try := func(password string) int {
		status, _ := c.send(http.MethodPost, "/api/session",
			map[string]string{"email": "lead@" + domain, "password": password})
		return status
	}
	for range 8 {
		if status := try("guess"); status != http.StatusUnauthorized {
			t.Fatalf("a wrong guess gave %d", status)
		}
	}
	if status := try(password); status != http.StatusTooManyRequests {
		t.Errorf("after eight wrong guesses the right password gave %d", status)
	}
	signedIn(t, web, "owner@"+domain) // another address is not held up
}

func TestHeadersAndOrigins(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	answer, err := http.Post(web.URL+"/api/session", "application/json",
		strings.NewReader(fmt.Sprintf(`{"email":"owner@%s","password":%q}`, domain, password)))
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	cookie := answer.Cookies()[0]
	if !cookie.HttpOnly || cookie.SameSite != http.SameSiteStrictMode {
		t.Errorf("cookie %+v", cookie)
	}
	page, err := http.Get(web.URL + "/jobs/anything")
	if err != nil {
		t.Fatal(err)
	}
	defer page.Body.Close()
	text, _ := io.ReadAll(page.Body)
	policy := page.Header.Get("Content-Security-Policy")
	_, nonce, _ := strings.Cut(policy, "'nonce-")
	nonce, _, _ = strings.Cut(nonce, "'")
	if strings.Contains(policy, "'unsafe") || !strings.Contains(policy, "script-src 'self' 'wasm-unsafe-eval';") ||
		nonce == "" || !strings.Contains(string(text), nonce) {
		t.Errorf("policy %q for %s", policy, text)
	}
	c := signedIn(t, web, "owner@"+domain)
	for _, headers := range [][]string{{"Sec-Fetch-Site", "cross-site"}, {"Origin", "http://elsewhere.example"}} {
		if status, _ := c.send(http.MethodPost, "/api/jobs", demoJob(t), headers...); status != http.StatusForbidden {
			t.Errorf("a change with %v gave %d", headers, status)
		}
	}
	if status, _ := c.send(http.MethodPost, "/api/jobs/import", strings.Repeat(" ", 18<<20)); status !=
		http.StatusRequestEntityTooLarge {
		t.Errorf("an 18 MB body gave %d", status)
	}
	if status, text := c.send(http.MethodGet, "/assets/gone.js", nil); status != http.StatusNotFound {
		t.Errorf("a missing asset gave %d %s", status, text)
	}
	if status, _ := c.send(http.MethodGet, "/api/nothing", nil); status != http.StatusNotFound {
		t.Errorf("an unknown address gave %d", status)
	}
}

// The program of the day travels as it was compressed with the interface, to browsers that take it.
func TestTheProgramTravelsCompressed(t *testing.T) {
	web := newServer(t)
	for accept, want := range map[string][2]string{"gzip, deflate, br": {"packed", "br"}, "identity": {"whole", ""}} {
		request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, web.URL+"/assets/day.wasm", nil)
		if err != nil {
			t.Fatal(err)
		}
		request.Header.Set("Accept-Encoding", accept)
		answer, err := http.DefaultClient.Do(request)
		if err != nil {
			t.Fatal(err)
		}
		text, err := io.ReadAll(answer.Body)
		if err := errors.Join(err, answer.Body.Close()); err != nil {
			t.Fatal(err)
		}
		h := answer.Header
		if string(text) != want[0] || h.Get("Content-Encoding") != want[1] || h.Get("Content-Type") != "application/wasm" ||
			!strings.Contains(h.Get("Vary"), "Accept-Encoding") || !strings.Contains(h.Get("Cache-Control"), "immutable") {
			t.Errorf("%s: %q, %v", accept, text, h)
		}
	}
}

type operation struct {
	method, path, id string
}

// operations reads every operation from the published description.
func operations(t testing.TB, c *client) []operation {
	t.Helper()
	_, text := c.send(http.MethodGet, "/api/openapi.json", nil)
	var description struct {
		Paths map[string]map[string]struct {
			ID string `json:"operationId"`
		} `json:"paths"`
	}
	if err := json.Unmarshal([]byte(text), &description); err != nil {
		t.Fatal(err)
	}
	var all []operation
	for path, methods := range description.Paths {
		for method, told := range methods {
			all = append(all, operation{strings.ToUpper(method), path, told.ID})
		}
	}
	if len(all) < 15 {
		t.Fatalf("only %d operations described", len(all))
	}
	return all
}

// bodyFor is a good body for an operation that takes one.
func bodyFor(o operation, f job.File) any {
	switch {
	case o.method == http.MethodGet || o.method == http.MethodDelete:
		return nil
	case strings.HasSuffix(o.path, "/archived"):
		return map[string]bool{"archived": true}
	case strings.HasSuffix(o.path, "/removed"):
		return map[string]bool{"removed": true}
	case strings.HasSuffix(o.path, "/caption"):
		return map[string]string{"caption": "not theirs"}
	case o.path == "/api/learnt/effects":
		return jobs.PaceProposal{Product: "x", Method: "roller", Surface: "floor", Pace: 0.005}
	case strings.HasSuffix(o.path, "/log/check"):
		return map[string]string{"heads": ""}
	case strings.HasSuffix(o.path, "/copies"):
		return map[string]uuid.UUID{"to": uuid.New()}
	case o.path == "/api/cup":
		return material.CupTest{Empty: 0.01, Full: 0.15, Volume: 1e-4, At: 20}
	case o.path == "/api/bench/{id}":
		return bench.PailQuestion{Mass: 1, Film: 1e-3}
	case o.path == "/api/bench/{id}/ratio":
		return kit.Weighed{Masses: []measure.Mass{2, 1}, Bucket: 0.01}
	case o.path == "/api/bench/{id}/spread":
		return bench.SpreadQuestion{Amount: buildup.Amount{Basis: buildup.WetFilm, Value: 2e-4}, Area: 1,
			Loss: measure.Sourced[measure.Fraction]{Source: measure.OwnTest}}
	case o.path == "/api/bench/{id}/parts":
		return bench.PartsQuestion{Mass: 4, From: 24, To: 16, Put: cure.IceBath, Batch: 4}
	case o.path == "/api/bench/{id}/pump":
		return bench.PumpQuestion{Pumps: material.Pumps{Built: "equal", A: 3e-5, B: 3e-5}, Volume: 0.001}
	case strings.HasSuffix(o.path, "/pour") || strings.HasSuffix(o.path, "/pour/ways") ||
		strings.HasSuffix(o.path, "/pour/starts"), strings.HasSuffix(o.path, "/pour/hours"):
		return jobs.PourQuestion{Coat: f.Job.Surfaces[0].Coats[0].ID}
	case o.path == "/api/jobs/{job}/ways":
		return jobs.BesideQuestion{Ways: [][]exchange.EditStep{{}}}
	case strings.HasSuffix(o.path, "/pour/odds"):
		return jobs.OddsQuestion{PourQuestion: jobs.PourQuestion{Coat: f.Job.Surfaces[0].Coats[0].ID}, Runs: 10}
	case strings.HasSuffix(o.path, "/issues"):
		return daylog.NewIssue{SaveID: uuid.New(), To: "Crew"}
	case strings.HasSuffix(o.path, "/other-product"):
		return daylog.OtherProduct{SaveID: uuid.New(), Coat: "x", Product: "x", Reason: "x"}
	case strings.HasSuffix(o.path, "/events"):
		return logging{[]record.Event{record.Sealed(record.Event{
			ID: uuid.NewString(), Issue: 1, Kind: record.Noted, At: time.Now(), Device: "a-device", Number: 1, Person: "x",
			Name: "x", Body: record.Body{Text: "x"},
		}, "")}}
	case o.path == "/api/people/{person}":
		return map[string]any{"role": "hand", "active": true}
	case o.path == "/api/jobs/{job}":
		return save{Base: 1, SaveID: uuid.New(), Patch: []exchange.EditStep{}}
	}
	return map[string]string{}
}

func medium() material.Medium {
	return material.Medium{ID: "their-sheet", Name: "Coarse chip", Kind: "flake", Packs: []material.Pack{}}
}

func system(product string) buildup.System {
	return buildup.System{ID: "their-sheet", Name: "Two coats", For: "floor",
		Coats: []buildup.Coat{{ID: "c1", Product: product, Amount: buildup.Amount{Basis: buildup.WetFilm, Value: 2e-4}}}}
}

func container(product string) kit.Container {
	return kit.Container{ID: "their-sheet", Sheet: product, Part: "kit", Volume: 0.004}
}

func TestAnotherCompanysRecordsAreNotThere(t *testing.T) {
	web := newServer(t)
	theirs := signedIn(t, web, "owner@"+addCompany(t))
	job := theirs.addJob(demoJob(t))
	sheet := demoJob(t).Products[0]
	sheet.Version = 0
	for path, body := range map[string]any{
		"/api/shelf/their-sheet": sheet, "/api/media/their-sheet": medium(), "/api/systems/their-sheet": system(sheet.ID),
		"/api/stock/their-sheet": container(sheet.ID),
	} {
		if status, text := theirs.send(http.MethodPut, path+"?base=0", body); status >= 300 {
			t.Fatalf("PUT %s: %d %s", path, status, text)
		}
	}
	_, text := theirs.send(http.MethodPost, "/api/jobs/"+job.ID.String()+"/surfaces/s/photos", string(phonePicture(t)))
	var photos []photos.PhotoLine
	if err := json.Unmarshal([]byte(text), &photos); err != nil {
		t.Fatal(err)
	}
	_, text = theirs.send(http.MethodPost, "/api/calendar-addresses", map[string]string{})
	var address rosters.CalendarAddress
	if err := json.Unmarshal([]byte(text), &address); err != nil {
		t.Fatal(err)
	}
	_, text = theirs.send(http.MethodPost, "/api/roster/runs",
		rosters.RosterQuestion{Bookings: []days.Booked{}, Seconds: 1})
	var run rosters.RosterRun
	if err := json.Unmarshal([]byte(text), &run); err != nil {
		t.Fatal(err)
	}
	_, text = theirs.send(http.MethodGet, "/api/me", nil)
	var them sessions.Me
	if err := json.Unmarshal([]byte(text), &them); err != nil {
		t.Fatal(err)
	}
	_, text = theirs.send(http.MethodPost, "/api/originals?name=tern.txt", "Tern 5 of the other company")
	var original material.Original
	if err := json.Unmarshal([]byte(text), &original); err != nil {
		t.Fatal(err)
	}
	mine := signedIn(t, web, "owner@"+addCompany(t))
	tried := 0
	for _, o := range operations(t, mine) {
		// instruments belong to the site, a secret to whoever has it
		if !strings.Contains(o.path, "{") || strings.Contains(o.path, "{instrument}") ||
			strings.Contains(o.path, "{secret}") {
			continue
		}
		tried++
		path := strings.NewReplacer("{job}", job.ID.String(), "{person}", them.ID.String(), "{address}", address.ID.String(),
			"{run}", run.ID.String(), "{hash}", original.Hash,
			"{photo}", photos[0].ID.String(), "{surface}", job.File.Job.Surfaces[0].ID, "{coat}",
			job.File.Job.Surfaces[0].Coats[0].ID, "{id}", "their-sheet", "{number}", "1").Replace(o.path)
		if strings.Contains(path, "{") {
			t.Errorf("%s %s names something this test does not know", o.method, o.path)
		}
		if o.method == http.MethodPut && strings.HasSuffix(o.path, "/{id}") {
			continue // makes a record of one's own, under an id that others may have too
		}
		if status, text := mine.send(o.method, path+"?base=1", bodyFor(o, demoJob(t))); status != http.StatusNotFound {
			t.Errorf("%s %s: %d %s", o.method, o.path, status, text)
		}
	}
	if tried < 5 {
		t.Errorf("only %d routes tried", tried)
	}
	if status, text := theirs.send(http.MethodGet, "/api/jobs/"+job.ID.String(), nil); status != http.StatusOK ||
		!strings.Contains(text, `"revision":1`) {
		t.Errorf("the job was touched: %d", status)
	}
	if _, text := mine.send(http.MethodGet, "/api/jobs", nil); strings.Contains(text, job.ID.String()) {
		t.Error("the list shows another company's job")
	}
	for _, list := range []string{"/api/shelf?media=true", "/api/systems", "/api/stock", "/api/shelf-file"} {
		if _, text := mine.send(http.MethodGet, list, nil); strings.Contains(text, "their-sheet") {
			t.Errorf("%s shows another company's record", list)
		}
	}
	// The same id in another company is another record.
	if status, text := mine.send(http.MethodPut, "/api/systems/their-sheet?base=0", system("mine")); status >= 300 {
		t.Errorf("a system of one's own: %d %s", status, text)
	}
	if _, text := theirs.send(http.MethodGet, "/api/systems", nil); !strings.Contains(text, sheet.ID) ||
		strings.Contains(text, `"mine"`) {
		t.Errorf("another company's system was overwritten: %s", text)
	}
}

func TestNothingIsOpenToStrangers(t *testing.T) {
	web := newServer(t)
	stranger := newClient(t, web)
	for _, o := range operations(t, stranger) {
		// whoever has the secret may
		if o.path == "/api/session" || o.path == "/api/password-link" || strings.Contains(o.path, "{secret}") {
			continue
		}
		path := strings.NewReplacer("{job}", uuid.NewString(), "{person}", uuid.NewString()).Replace(o.path)
		if status, _ := stranger.send(o.method, path, bodyFor(o, demoJob(t))); status != http.StatusUnauthorized {
			t.Errorf("%s %s: %d", o.method, o.path, status)
		}
	}
}

func TestRolesBoundWhatOneMayDo(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	owner, hand, lead := signedIn(t, web, "owner@"+domain), signedIn(t, web, "hand@"+domain),
		signedIn(t, web, "lead@"+domain)
	job := owner.addJob(demoJob(t))
	path := "/api/jobs/" + job.ID.String()
	if status, _ := hand.send(http.MethodGet, path, nil); status != http.StatusOK {
		t.Errorf("a hand reading gave %d", status)
	}
	if status, text := hand.send(http.MethodPatch, path, edit(t, 1, job.File, job.File)); status != http.StatusForbidden ||
		!strings.Contains(text, "ask an owner") {
		t.Errorf("a hand saving gave %d %s", status, text)
	}
	if status, _ := lead.send(http.MethodPatch, path, edit(t, 1, job.File, job.File)); status != http.StatusOK {
		t.Errorf("a lead saving gave %d", status)
	}
}

func TestAStaleSaveShowsBoth(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	first, second := signedIn(t, web, "owner@"+domain), signedIn(t, web, "estimator@"+domain)
	job := first.addJob(demoJob(t))
	path := "/api/jobs/" + job.ID.String()
	theirs, mine := demoJob(t), demoJob(t)
	theirs.Job.Client = "Orrin Parish"
	theirs.Job.Surfaces[0].Coats[0].Amount.Value = 7600
	mine.Job.Surfaces[0].Name = "Lantern room"
	if status, text := second.send(http.MethodPatch, path, edit(t, 1, demoJob(t), theirs)); status != http.StatusOK {
		t.Fatalf("%d %s", status, text)
	}
	status, text := first.send(http.MethodPatch, path, edit(t, 1, demoJob(t), mine))
	var stale jobs.StaleSave
	if err := json.Unmarshal([]byte(text), &stale); err != nil || status != http.StatusConflict {
		t.Fatalf("%d %s", status, text)
	}
	if stale.Theirs.ChangedBy != "estimator" || !strings.Contains(stale.Detail, "estimator saved this job") {
		t.Errorf("told %q", stale.Detail)
	}
	if stale.Combined.Job.Client != "Orrin Parish" || stale.Combined.Job.Surfaces[0].Name != "Lantern room" ||
		len(stale.Differences) != 3 ||
		stale.Combined.Job.Surfaces[0].Coats[0].Amount.Value != 7600 ||
		stale.Theirs.File.Job.Surfaces[0].Coats[0].Amount.Value != 7600 {
		t.Errorf("combined %+v, differences %v", stale.Combined.Job, stale.Differences)
	}
}

func TestImportAndExportAreTheSameFile(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	c := signedIn(t, web, "estimator@"+domain)
	good, err := os.ReadFile("../demo/jobs/baggage-hall.nephelon.json")
	if err != nil {
		t.Fatal(err)
	}
	status, text := c.send(http.MethodPost, "/api/jobs/import", string(good))
	var stored jobs.JobState
	if err := json.Unmarshal([]byte(text), &stored); err != nil || status != http.StatusOK {
		t.Fatalf("%d %s", status, text)
	}
	_, out := c.send(http.MethodGet, "/api/jobs/"+stored.ID.String()+"/file", nil)
	var before, after job.File
	if err := json.Unmarshal(good, &before); err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal([]byte(out), &after); err != nil {
		t.Fatal(err)
	}
	a, _ := json.Marshal(before)
	b, _ := json.Marshal(after)
	if !bytes.Equal(a, b) {
		t.Error("the file changed on its way in and out")
	}
	bad := strings.Replace(string(good), `"site"`, `"sight"`, 1)
	status, text = c.send(http.MethodPost, "/api/jobs/import", bad)
	if status != http.StatusUnprocessableEntity || !strings.Contains(text, "/job/sight") {
		t.Errorf("an unknown field gave %d %s", status, text)
	}
	if _, list := c.send(http.MethodGet, "/api/jobs", nil); strings.Count(list, `"id"`) != 1 {
		t.Errorf("a refused file left a job behind: %s", list)
	}
}

func TestBadValuesNameTheirField(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	c := signedIn(t, web, "estimator@"+domain)
	job := c.addJob(demoJob(t))
	f := demoJob(t)
	f.Job.Surfaces[0].Coats[1].Amount.Value = -1
	status, text := c.send(http.MethodPatch, "/api/jobs/"+job.ID.String(), edit(t, 1, demoJob(t), f))
	if status != http.StatusUnprocessableEntity || !strings.Contains(text, "/job/surfaces/0/coats/1/amount/value") {
		t.Errorf("%d %s", status, text)
	}
	if status, text := c.send(http.MethodPost, "/api/read",
		map[string]string{"kind": "length", "text": "12 parsecs"}); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "Write it like") {
		t.Errorf("%d %s", status, text)
	}
	if status, text := c.send(http.MethodPost, "/api/read",
		map[string]string{"kind": "length", "text": `14' 3 1/2"`}); status != http.StatusOK ||
		!strings.Contains(text, "4.356 m") {
		t.Errorf("%d %s", status, text)
	}
}

func TestSavesAreHeardLive(t *testing.T) {
	s, err := server.New(server.Options{Store: records, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	web := httptest.NewUnstartedServer(s)
	ctx := t.Context()
	go func() { _ = s.Serve(ctx, web.Config, func() error { return web.Config.Serve(web.Listener) }) }()
	web.URL = "http://" + web.Listener.Addr().String()
	c := signedIn(t, web, "owner@"+addCompany(t))
	job := c.addJob(demoJob(t))
	path := "/api/jobs/" + job.ID.String()
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, web.URL+path+"/changes", nil)
	if err != nil {
		t.Fatal(err)
	}
	answer, err := c.http.Do(request)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	lines := bufio.NewScanner(answer.Body)
	heard := make(chan string, 64)
	go func() {
		for lines.Scan() {
			heard <- lines.Text()
		}
	}()
	deadline := time.After(20 * time.Second)
	wait := func(within time.Duration, wanted ...string) bool {
		over := time.After(within)
		for {
			select {
			case line := <-heard:
				if slices.Contains(wanted, line) {
					return true
				}
			case <-over:
				return false
			case <-deadline:
				t.Fatal("no save was heard")
			}
		}
	}
	base := int64(1)
	for heard := false; !heard; base++ {
		if status, text := c.send(http.MethodPatch, path, edit(t, base, job.File, job.File)); status != http.StatusOK {
			t.Fatalf("%d %s", status, text)
		}
		heard = wait(100*time.Millisecond, "data: 2", "data: 3", "data: 4", "data: 5")
	}
	// One that is saved while the listener is cut off is heard of once it listens again.
	if _, err := records.DB().ExecContext(ctx,
		`select pg_terminate_backend(pid) from pg_stat_activity where query ilike 'listen%'`); err != nil {
		t.Fatal(err)
	}
	if status, text := c.send(http.MethodPatch, path, edit(t, base, job.File, job.File)); status != http.StatusOK {
		t.Fatalf("%d %s", status, text)
	}
	if want := fmt.Sprintf("data: %d", base+1); !wait(15*time.Second, want) {
		t.Errorf("a save that was missed is not told: %s", want)
	}
}
