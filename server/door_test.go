package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/gif"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"
	"testing/fstest"
	"testing/iotest"
	"time"

	"github.com/google/uuid"

	"nephelon/core/days"
	"nephelon/core/record"
	"nephelon/exchange"
	"nephelon/server"
	"nephelon/server/rosters"
	"nephelon/server/sessions"
)

// A patch that copies a list into itself twenty times is refused before anything is copied.
func TestPatchesTakeNoCopies(t *testing.T) {
	web := newServer(t)
	c := signedIn(t, web, "owner@"+addCompany(t))
	j := c.addJob(demoJob(t))
	type step struct {
		Op   string `json:"op"`
		Path string `json:"path"`
		From string `json:"from"`
	}
	var steps []step
	for range 20 {
		steps = append(steps, step{"copy", "/job/surfaces/-", "/job/surfaces"})
	}
	for _, op := range []string{"copy", "move"} {
		steps[0].Op = op
		status, text := c.send(http.MethodPatch, "/api/jobs/"+j.ID.String(),
			map[string]any{"base": 1, "saveId": uuid.New(), "patch": steps})
		if status != http.StatusUnprocessableEntity {
			t.Errorf("%s: %d %.200s", op, status, text)
		}
	}
	if _, err := exchange.Patch([]byte(`{"a":[1]}`), []exchange.EditStep{{Op: "copy", Path: "/a/-"}}); err == nil {
		t.Error("a copy is taken")
	}
}

// Strangers send little, and what broke off is told as that.
func TestWhatStrangersMaySend(t *testing.T) {
	web := newServer(t)
	big := `{"email":"` + strings.Repeat("a", 100<<10) + `","password":"x"}`
	if status, text := newClient(t, web).send(http.MethodPost, "/api/session", big); status !=
		http.StatusRequestEntityTooLarge || !strings.Contains(text, "not signed in") {
		t.Errorf("100 kB by a stranger: %d %.200s", status, text)
	}
	c := signedIn(t, web, "owner@"+addCompany(t))
	job := demoJob(t)
	job.Job.Notes = strings.Repeat("n", 3900)
	for range 20 {
		job.Job.Surfaces = append(job.Job.Surfaces, job.Job.Surfaces[0])
	}
	if status, _ := c.send(http.MethodPost, "/api/jobs", job); status == http.StatusRequestEntityTooLarge {
		t.Error("somebody who is signed in may not send 100 kB")
	}
	// What cannot be read to its end is not told as too large.
	s, err := server.New(server.Options{Store: records, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	if err != nil {
		t.Fatal(err)
	}
	r := httptest.NewRequest(http.MethodPost, "/api/session", iotest.ErrReader(errors.New("cut off")))
	r.Header.Set("Content-Type", "application/json")
	answer := httptest.NewRecorder()
	s.ServeHTTP(answer, r)
	if answer.Code != http.StatusRequestTimeout || !strings.Contains(answer.Body.String(), "was interrupted") {
		t.Errorf("cut off: %d %s", answer.Code, answer.Body)
	}
}

// Text that shows the escape of a character, and does not hold the character, is taken.
func TestABackslashIsNoEscape(t *testing.T) {
	web := newServer(t)
	c := signedIn(t, web, "owner@"+addCompany(t))
	job := c.addJob(demoJob(t)).ID.String()
	c.issue(job, uuid.New())
	d := c.tablet()
	if answer := c.log(job, d.event(record.Noted, "", record.Body{Text: `C:\u0000 is how it is written`})); len(
		answer.Taken) != 1 {
		t.Errorf("%+v", answer)
	}
	for text, refused := range map[string]bool{`{"text":"a\\\u0000b"}`: true, `{"text":"a\\u0000b"}`: false,
		`{"text":"\u0000"}`: true, `{"text":"u0000"}`: false} {
		if status, answer := c.send(http.MethodPost, "/api/read", text); strings.Contains(answer,
			"cannot be stored") != refused {
			t.Errorf("%s: %d %s", text, status, answer)
		}
	}
}

// The interface's files are served, and no list of them.
func TestFilesAreNotListed(t *testing.T) {
	pages := fstest.MapFS{"index.html": {Data: []byte("<p>page</p>")}, "assets/index-a.js": {Data: []byte("export {}")}}
	s, err := server.New(server.Options{Pages: pages, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	if err != nil {
		t.Fatal(err)
	}
	for path, want := range map[string]int{"/assets/": http.StatusNotFound, "/assets": http.StatusNotFound,
		"/assets/index-a.js": http.StatusOK, "/assets/gone.js": http.StatusNotFound} {
		answer := httptest.NewRecorder()
		s.ServeHTTP(answer, httptest.NewRequest(http.MethodGet, path, nil))
		if listed := strings.Contains(answer.Body.String(), "href"); listed || answer.Code != want {
			t.Errorf("%s: %d, listed %t", path, answer.Code, listed)
		}
	}
}

// Pictures of other kinds, and those whose points take more memory than there is for them,
// are refused by name.
func TestWhichPicturesAreTaken(t *testing.T) {
	web := newServer(t)
	c := signedIn(t, web, "owner@"+addCompany(t))
	path := "/api/jobs/" + c.addJob(demoJob(t)).ID.String() + "/surfaces/s/photos"
	var moving bytes.Buffer
	if err := gif.Encode(&moving, image.NewGray(image.Rect(0, 0, 4, 4)), nil); err != nil {
		t.Fatal(err)
	}
	const bits, channels = 16, 6                   // four of them
	deep := picture(7680, 7680, bits, channels, 8) // 59 million points
	for says, picture := range map[string]string{"GIF picture": moving.String(), "too large to read": deep} {
		if status, text := c.send(http.MethodPost, path, picture); status != http.StatusUnprocessableEntity ||
			!strings.Contains(text, says) {
			t.Errorf("%s: %d %.200s", says, status, text)
		}
	}
}

// An open session does not take the account over: no link for oneself, and no second factor
// taken from oneself, without the password.
func TestAnOpenSessionIsNotTheAccount(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	me := got[sessions.Me](t, owner, http.MethodGet, "/api/me", nil)
	for method, path := range map[string]string{http.MethodPost: "/password-link", http.MethodPut: "/factor-removed"} {
		if status, text := owner.send(method, "/api/people/"+me.ID.String()+path, nil); status != http.StatusConflict ||
			!strings.Contains(text, "your own account") {
			t.Errorf("%s: %d %s", path, status, text)
		}
	}
	if status, text := owner.send(http.MethodGet, "/api/company/archive", nil); status != http.StatusForbidden ||
		!strings.Contains(text, "password once more") {
		t.Errorf("all data without the password: %d %.200s", status, text)
	}
}

// Guesses are counted by the network of an address, as the proxy's own line tells it; nobody
// is locked out by guesses from elsewhere, however many.
func TestGuessesByNetworkAndAccount(t *testing.T) {
	web, domain := serving(t, server.Options{Proxy: "127.0.0.1"}), addCompany(t)
	id := uuid.New()
	network := fmt.Sprintf("2001:db8:%x%02x:%x%02x", id[0], id[1], id[2], id[3])
	guess := func(email string, from ...string) int {
		headers := []string{}
		for _, line := range from {
			headers = append(headers, "X-Forwarded-For", line)
		}
		status, _ := newClient(t, web).send(http.MethodPost, "/api/session",
			map[string]string{"email": email, "password": "guess"}, headers...)
		return status
	}
	for n := range 8 {
		// The first line is the guesser's own invention.
		if status := guess("lead@"+domain, fmt.Sprintf("10.9.%d.1", n),
			fmt.Sprintf("10.8.%d.1, %s::%x", n, network, n+1)); status != http.StatusUnauthorized {
			t.Fatalf("guess %d: %d", n+1, status)
		}
	}
	if status := guess("lead@"+domain, network+"::99"); status != http.StatusTooManyRequests {
		t.Errorf("the ninth from one network: %d", status)
	}
	for n := range 24 {
		if status := guess("owner@"+domain, fmt.Sprintf("10.%d.%d.%d", 100+n, id[4], id[5])); status !=
			http.StatusUnauthorized {
			t.Fatalf("guess %d from elsewhere: %d", n+1, status)
		}
	}
	status, text := newClient(t, web).send(http.MethodPost, "/api/session",
		map[string]string{"email": "owner@" + domain, "password": password}, "X-Forwarded-For",
		fmt.Sprintf("10.3.%d.%d", id[6], id[7]))
	if status != http.StatusOK {
		t.Errorf("the owner is locked out: %d %s", status, text)
	}
}

// Who is signed out everywhere hears nothing more, either.
func TestStreamsEndWithTheirSession(t *testing.T) {
	web, domain := serving(t, server.Options{}), addCompany(t)
	here, there := signedIn(t, web, "lead@"+domain), signedIn(t, web, "lead@"+domain)
	job := signedIn(t, web, "owner@"+domain).addJob(demoJob(t)).ID.String()
	stream, err := there.http.Get(web.URL + "/api/jobs/" + job + "/changes")
	if err != nil {
		t.Fatal(err)
	}
	defer stream.Body.Close()
	if _, err := stream.Body.Read(make([]byte, 16)); err != nil {
		t.Fatal(err)
	}
	if status, text := here.send(http.MethodDelete, "/api/me/sessions", nil); status != http.StatusNoContent {
		t.Fatalf("%d %s", status, text)
	}
	ended := make(chan struct{})
	go func() {
		_, _ = io.Copy(io.Discard, stream.Body)
		close(ended)
	}()
	ctx, cancel := context.WithTimeout(t.Context(), 30*time.Second)
	defer cancel()
	select {
	case <-ended:
	case <-ctx.Done():
		t.Error("the stream goes on")
	}
}

// Names in the description of the API are words.
func TestSchemaNamesAreWords(t *testing.T) {
	web := newServer(t)
	_, text := signedIn(t, web, "owner@"+addCompany(t)).send(http.MethodGet, "/api/openapi.json", nil)
	var described struct {
		Components struct{ Schemas map[string]json.RawMessage }
	}
	if err := json.Unmarshal([]byte(text), &described); err != nil || len(described.Components.Schemas) == 0 {
		t.Fatal(err, len(described.Components.Schemas))
	}
	word := regexp.MustCompile(`^[A-Za-z][A-Za-z0-9]*$`)
	for name := range described.Components.Schemas {
		if !word.MatchString(name) {
			t.Errorf("%q", name)
		}
	}
}

// What works longer than the library waits for a body is answered all the same.
func TestLongWorkIsAnswered(t *testing.T) {
	web := serving(t, server.Options{})
	c := signedIn(t, web, "owner@"+addCompany(t))
	f := demoJob(t)
	f.Job.Start, f.Job.Forecast = "", nil
	const jobs, seconds = 24, 6
	for n := range jobs {
		f.Job.Name = fmt.Sprintf("Hall %d", n)
		c.addJob(f)
	}
	began := time.Now()
	v := rosterOf(t, c, http.MethodPost, "/api/roster/plan",
		rosters.RosterQuestion{Bookings: []days.Booked{}, Seconds: seconds})
	if took := time.Since(began); took < 5*time.Second || len(v.Bookings) == 0 {
		t.Errorf("%d bookings after %v: too short to try anything", len(v.Bookings), took)
	}
}
