package server_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"net/url"
	"slices"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/server"
	"nephelon/server/jobs"
	"nephelon/server/sessions"
	"nephelon/server/shelf"
	"nephelon/store"
)

// Every route is tried by every role: it is refused exactly where the table of rights refuses
// it, and a route that is not in the table is refused to all.
func TestEveryRouteByEveryRole(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	_, text := owner.send(http.MethodGet, "/api/rights", nil)
	var lines []server.RightsLine
	if err := json.Unmarshal([]byte(text), &lines); err != nil {
		t.Fatal(err)
	}
	may := make(map[string]server.RightsLine)
	for _, l := range lines {
		may[l.Operation] = l
	}
	all := operations(t, owner)
	for _, o := range all {
		if _, there := may[o.id]; !there {
			t.Errorf("%s (%s %s) is not in the table of rights: nobody may", o.id, o.method, o.path)
		}
	}
	if len(may) != len(all) {
		t.Errorf("%d operations, %d in the table of rights", len(all), len(may))
	}
	for _, role := range []store.Role{store.Owner, store.Estimator, store.Lead, store.Hand} {
		c := signedIn(t, web, string(role)+"@"+domain)
		c.confirm()
		for _, o := range all {
			if may[o.id].Anyone || o.id == "endSessions" {
				continue
			}
			path := strings.NewReplacer("{job}", uuid.NewString(), "{person}", uuid.NewString(), "{photo}", uuid.NewString(),
				"{address}", uuid.NewString(), "{run}", uuid.NewString(),
				"{surface}", "s", "{coat}", "c", "{id}", "none", "{number}", "1", "{instrument}", "none").Replace(o.path)
			status, _ := c.send(o.method, path, map[string]string{})
			if refused := !slices.Contains(may[o.id].Roles, role); refused != (status == http.StatusForbidden) ||
				status == http.StatusUnauthorized {
				t.Errorf("%s: %s %s gives %d, refused is %v", role, o.method, o.path, status, refused)
			}
		}
	}
}

// A hand sees no price and no client; a lead changes none and removes only their own pictures.
func TestWhatRolesDoNotSee(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	owner, hand, lead := signedIn(t, web, "owner@"+domain), signedIn(t, web, "hand@"+domain),
		signedIn(t, web, "lead@"+domain)
	file := demoJob(t)
	file.Job.Client = "Hidden Harbour Trust"
	// Large kits cost least, small ones leave least: whoever plans without prices buys others.
	price, large, litres := 900.0, 1.25, measure.Volume(0.02)
	kits := file.Products[0].Kits
	kits[0].Price = &price
	file.Products[0].Kits = append(kits[:1:1], material.Kit{Name: "Large", Volume: &litres, Price: &large,
		Source: measure.Sheet})
	j := owner.addJob(file)
	path := "/api/jobs/" + j.ID.String()
	dearer := file.Products[0]
	dearer.Version, dearer.Loss = 0, &measure.Sourced[measure.Fraction]{Value: 0.11, Source: measure.OwnTest}
	bench := "/api/bench/" + dearer.ID
	for range 2 { // the second is newer than the job's
		got[shelf.SheetState](t, owner, http.MethodPut, "/api/shelf/"+dearer.ID, dearer)
		dearer.Version++
	}
	lines := func(of jobs.JobState) (all []string) {
		for _, b := range of.Plan.Purchases {
			for _, l := range b.Lines {
				all = append(all, fmt.Sprint(l.Count, " ", l.Kit))
			}
		}
		return all
	}
	if leads, hands := lines(got[jobs.JobState](t, lead, http.MethodGet, path, nil)),
		lines(got[jobs.JobState](t, hand, http.MethodGet, path, nil)); len(leads) == 0 || !slices.Equal(leads, hands) {
		t.Errorf("a hand is told to buy %v, a lead %v", hands, leads)
	}
	spread := map[string]any{"amount": buildup.Amount{Basis: buildup.WetFilm, Value: 2e-4}, "area": 40,
		"loss": measure.Sourced[measure.Fraction]{Source: measure.OwnTest}}
	for _, there := range []string{path, "/api/jobs", bench, bench + "/spread"} {
		method, content := http.MethodGet, any(nil)
		if strings.HasSuffix(there, "spread") {
			method, content = http.MethodPost, spread
		}
		status, seen := hand.send(method, there, content)
		if status != http.StatusOK {
			t.Errorf("%s: %d %.200s", there, status, seen)
		}
		for _, word := range []string{"Hidden Harbour", `"price"`, `"cost"`} {
			if strings.Contains(seen, word) {
				t.Errorf("a hand sees %s at %s", word, there)
			}
		}
		if _, seen := lead.send(method, there, content); !strings.Contains(there, "bench") &&
			!strings.Contains(seen, "Hidden Harbour") {
			t.Errorf("a lead sees no client at %s", there)
		}
	}
	var next job.File
	text, _ := json.Marshal(file)
	_ = json.Unmarshal(text, &next)
	*next.Products[0].Kits[0].Price = 1
	if status, text := lead.send(http.MethodPatch, path, edit(t, 1, file, next)); status != http.StatusForbidden ||
		!strings.Contains(text, "prices") {
		t.Errorf("a lead changes a price: %d %.200s", status, text)
	}
	if status, text := owner.send(http.MethodPatch, path, edit(t, 1, file, next)); status != http.StatusOK {
		t.Errorf("an owner changes a price: %d %.200s", status, text)
	}
	for who, c := range map[string]*client{"owner": owner, "lead": lead} {
		id := uuid.NewString()
		c.send(http.MethodPost, path+"/surfaces/s1/photos?id="+id, string(phonePicture(t)))
		want := map[string]int{"owner": http.StatusNotFound, "lead": http.StatusNoContent}[who]
		if status, _ := lead.send(http.MethodPut, "/api/photos/"+id+"/removed",
			map[string]bool{"removed": true}); status != want {
			t.Errorf("a lead removes a picture of the %s: %d", who, status)
		}
	}
}

// Somebody new sets their password by a link that works once; one that ended does not; common
// passwords are refused; a change ends all other sessions.
func TestPasswords(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	_, text := owner.send(http.MethodPost, "/api/people", map[string]string{"name": "Nils", "email": "nils@" + domain,
		"role": "lead"})
	var made sessions.NewColleague
	if err := json.Unmarshal([]byte(text), &made); err != nil || made.Link.Path == "" {
		t.Fatalf("%s %v", text, err)
	}
	_, secret, _ := strings.Cut(made.Link.Path, "#")
	use := func(secret, password string) (int, string) {
		return newClient(t, web).send(http.MethodPost, "/api/password-link",
			map[string]string{"secret": secret, "password": password})
	}
	for _, common := range []string{"aaaaaaaaaaaaaa", "              ", "password123456", "qwertyuiopas", "tooshort-1"} {
		if status, text := use(secret, common); status != http.StatusUnprocessableEntity ||
			!strings.Contains(text, "body.password") {
			t.Errorf("%q is taken: %d %s", common, status, text)
		}
	}
	const first, second = "gravel otter lantern nine", "copper tide window eleven"
	if status, text := use(secret, first); status != http.StatusNoContent {
		t.Fatalf("%d %s", status, text)
	}
	if status, _ := use(secret, second); status != http.StatusNotFound {
		t.Errorf("a link is used twice: %d", status)
	}
	enter := func(password string) (*client, int) {
		c := newClient(t, web)
		status, _ := c.send(http.MethodPost, "/api/session",
			map[string]string{"email": "nils@" + domain, "password": password})
		return c, status
	}
	one, status := enter(first)
	other, _ := enter(first)
	if status != http.StatusOK {
		t.Fatalf("sign in: %d", status)
	}
	if status, text := one.send(http.MethodPut, "/api/me/password",
		map[string]string{"old": "not this one", "new": second}); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "body.old") {
		t.Errorf("%d %s", status, text)
	}
	if status, text := one.send(http.MethodPut, "/api/me/password",
		map[string]string{"old": first, "new": second}); status != http.StatusNoContent {
		t.Fatalf("%d %s", status, text)
	}
	for name, c := range map[string]struct {
		c    *client
		want int
	}{"here": {one, http.StatusOK}, "elsewhere": {other, http.StatusUnauthorized}} {
		if status, _ := c.c.send(http.MethodGet, "/api/me", nil); status != c.want {
			t.Errorf("%s after the change: %d", name, status)
		}
	}
	// A reset by an owner ends what is open, and the newest link alone works.
	link := func() string {
		_, text := owner.send(http.MethodPost, "/api/people/"+made.ID.String()+"/password-link", nil)
		var l sessions.PasswordLink
		_ = json.Unmarshal([]byte(text), &l)
		_, secret, _ := strings.Cut(l.Path, "#")
		return secret
	}
	older, newer := link(), link()
	if status, _ := use(older, first); status != http.StatusNotFound {
		t.Errorf("an older link works: %d", status)
	}
	if status, _ := use(newer, first); status != http.StatusNoContent {
		t.Errorf("the newest link: %d", status)
	}
	if status, _ := one.send(http.MethodGet, "/api/me", nil); status != http.StatusUnauthorized {
		t.Errorf("a session outlives a reset: %d", status)
	}
	_, log := owner.send(http.MethodGet, "/api/audit", nil)
	for _, what := range []string{"person added", "password link made", "password set by link", "password changed",
		"signed in"} {
		if !strings.Contains(log, what) {
			t.Errorf("the audit log does not tell “%s”", what)
		}
	}
}

// serving runs a server that hears what others change, as it runs for people.
func serving(t *testing.T, o server.Options) *httptest.Server {
	t.Helper()
	o.Store, o.Pages, o.Log = records, fstest.MapFS{"index.html": {}}, slog.New(slog.NewTextHandler(io.Discard, nil))
	s, err := server.New(o)
	if err != nil {
		t.Fatal(err)
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	ctx, stop := context.WithCancel(context.Background())
	ended, web := make(chan error, 1), &http.Server{}
	go func() { ended <- s.Serve(ctx, web, func() error { return web.Serve(l) }) }()
	t.Cleanup(func() {
		stop()
		<-ended
	})
	return &httptest.Server{URL: "http://" + l.Addr().String()}
}

// Guesses are counted before they are checked, a hundred at once too; they lock nobody out who
// comes from elsewhere with the right password.
func TestGuessesAreCountedFirst(t *testing.T) {
	web := serving(t, server.Options{Proxy: "127.0.0.1"})
	domain := addCompany(t)
	id := uuid.New()
	here, there := fmt.Sprintf("10.1.%d.%d", id[0], id[1]), fmt.Sprintf("10.2.%d.%d", id[0], id[1])
	var mutex sync.Mutex
	seen := make(map[int]int)
	var all sync.WaitGroup
	for n := range 100 {
		all.Go(func() {
			c := newClient(t, web)
			status, _ := c.send(http.MethodPost, "/api/session",
				map[string]string{"email": "owner@" + domain, "password": fmt.Sprintf("guess %d", n)}, "X-Forwarded-For", here)
			mutex.Lock()
			seen[status]++
			mutex.Unlock()
		})
	}
	all.Wait()
	if seen[http.StatusUnauthorized] > 8 || seen[http.StatusUnauthorized] == 0 {
		t.Errorf("%d of 100 guesses were checked: %v", seen[http.StatusUnauthorized], seen)
	}
	status, text := newClient(t, web).send(http.MethodPost, "/api/session",
		map[string]string{"email": "owner@" + domain, "password": password}, "X-Forwarded-For", there)
	if status != http.StatusOK {
		t.Errorf("the owner is locked out: %d %s", status, text)
	}
}

// Signing out wins over a request under way: what that writes begins nothing anew. Who is
// disabled is out at once, streams and all.
func TestASessionThatEndedStaysEnded(t *testing.T) {
	web, domain := serving(t, server.Options{}), addCompany(t)
	c := signedIn(t, web, "lead@"+domain)
	owner := signedIn(t, web, "owner@"+domain)
	job := owner.addJob(demoJob(t)).ID.String()
	stream, err := c.http.Get(web.URL + "/api/jobs/" + job + "/changes")
	if err != nil {
		t.Fatal(err)
	}
	defer stream.Body.Close()
	ended := make(chan error, 1)
	go func() {
		buffer := make([]byte, 1024)
		for {
			if _, err := stream.Body.Read(buffer); err != nil {
				ended <- err
				return
			}
		}
	}()
	_, text := owner.send(http.MethodGet, "/api/people", nil)
	var people []sessions.Colleague
	_ = json.Unmarshal([]byte(text), &people)
	at := slices.IndexFunc(people, func(p sessions.Colleague) bool { return p.Role == store.Lead })
	base := 0
	change := func(active bool) {
		base++
		if status, text := owner.send(http.MethodPut, fmt.Sprintf("/api/people/%s?base=%d", people[at].ID, base),
			map[string]any{"role": "lead", "active": active}); status != http.StatusOK {
			t.Fatalf("%d %s", status, text)
		}
	}
	change(false)
	select {
	case <-ended:
	case <-time.After(5 * time.Second):
		t.Error("a stream outlives the right to it")
	}
	if status, _ := c.send(http.MethodGet, "/api/me", nil); status != http.StatusUnauthorized {
		t.Errorf("who is disabled reads on: %d", status)
	}
	change(true)
	if status, _ := c.send(http.MethodGet, "/api/me", nil); status != http.StatusUnauthorized {
		t.Errorf("an old session revives: %d", status)
	}
	// Many requests under way while somebody signs out.
	again := signedIn(t, web, "lead@"+domain)
	var all sync.WaitGroup
	for range 20 {
		all.Go(func() { again.send(http.MethodGet, "/api/jobs", nil) })
	}
	address, err := url.Parse(web.URL)
	if err != nil {
		t.Fatal(err)
	}
	kept := again.http.Jar.Cookies(address)
	again.send(http.MethodDelete, "/api/session", nil)
	all.Wait()
	revived := newClient(t, web)
	revived.http.Jar.SetCookies(address, kept)
	if status, _ := revived.send(http.MethodGet, "/api/me", nil); status != http.StatusUnauthorized {
		t.Errorf("a session revives: %d", status)
	}
}

// A server tells that it lives, and whether its database answers.
func TestHealth(t *testing.T) {
	web := newServer(t)
	for path, want := range map[string]string{"/healthz": "alive\n", "/readyz": "ready\n"} {
		if status, text := newClient(t, web).send(http.MethodGet, path, nil); status != http.StatusOK || text != want {
			t.Errorf("%s: %d %q", path, status, text)
		}
	}
}
