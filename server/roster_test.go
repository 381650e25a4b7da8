package server_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/days"
	"nephelon/core/job"
	"nephelon/core/record"
	"nephelon/core/work"
	"nephelon/server"
	"nephelon/server/rosters"
)

// rosterOf asks for the roster, or what a request about it answers.
func rosterOf(t *testing.T, c *client, method, path string, body any) rosters.RosterView {
	t.Helper()
	status, text := c.send(method, path, body)
	var v rosters.RosterView
	if err := json.Unmarshal([]byte(text), &v); err != nil || status != http.StatusOK {
		t.Fatalf("%s %s: %d %s", method, path, status, text)
	}
	return v
}

// Two people plan the same company: what one booked is not overwritten by the other. A
// pinned task stays, a crew that is left out is not booked, and another company sees
// nothing of it.
func TestTwoPlanTheSameRoster(t *testing.T) {
	web := newServer(t)
	who := "owner@" + addCompany(t)
	one, two := signedIn(t, web, who), signedIn(t, web, who)
	f := demoJob(t)
	f.Job.Start, f.Job.Forecast = "", nil
	kept := one.addJob(f)

	empty := rosterOf(t, one, http.MethodGet, "/api/roster", nil)
	if empty.Revision != 0 || len(empty.Bookings) != 0 || len(empty.Tasks) == 0 || len(empty.Crews) != 1 {
		t.Fatalf("%d bookings of %d tasks by %d", len(empty.Bookings), len(empty.Tasks), len(empty.Crews))
	}
	ask := func(bookings []days.Booked) rosters.RosterQuestion {
		return rosters.RosterQuestion{Bookings: bookings, Seconds: 0.3}
	}
	first := rosterOf(t, one, http.MethodPost, "/api/roster/plan", ask([]days.Booked{}))
	if first.Conflict != nil || len(first.Bookings) != len(first.Tasks) || len(first.Broken) != 0 ||
		len(first.Promises) == 0 {
		t.Fatalf("%+v %+v", first.Conflict, first.Broken)
	}
	backward := []days.Booked{first.Bookings[0]}
	backward[0].Until = backward[0].From.Add(-1)
	for method, path := range map[string]string{http.MethodPut: "/api/roster", http.MethodPost: "/api/roster/plan"} {
		var body any = rosters.RosterKeep{Bookings: backward}
		if method == http.MethodPost {
			body = ask(backward)
		}
		if status, text := one.send(method, path, body); status != http.StatusUnprocessableEntity ||
			!strings.Contains(text, "body.bookings[0]") {
			t.Errorf("%s of a booking that ends before it begins: %d %s", method, status, text)
		}
	}
	stands := rosterOf(t, one, http.MethodPut, "/api/roster", rosters.RosterKeep{Revision: 0, Bookings: first.Bookings})
	if stands.Revision != 1 || len(stands.Bookings) != len(first.Bookings) || stands.Jobs[0].ID != kept.ID.String() {
		t.Fatalf("%+v", stands.Revision)
	}
	if status, text := two.send(http.MethodPut, "/api/roster",
		rosters.RosterKeep{Revision: 0, Bookings: []days.Booked{}}); status != http.StatusConflict {
		t.Errorf("an older roster took the place of a newer one: %d %s", status, text)
	}
	// The last pour is put two days later and pinned: it stays there, and nothing breaks.
	moved := append([]days.Booked{}, stands.Bookings...)
	at := -1
	for i, b := range moved {
		if b.Crew != "" && !b.From.Before(stands.Now) {
			at = i
		}
	}
	places := func(from bool) rosters.PlaceAnswer {
		q := rosters.PlaceQuestion{Bookings: moved, Job: moved[at].Job, Task: moved[at].Task}
		if from {
			night := moved[at].From.AddDate(0, 0, 1).Truncate(24 * 60 * 60 * 1e9)
			q.Crew, q.From = moved[at].Crew, &night
		}
		_, text := two.send(http.MethodPost, "/api/roster/places", q)
		var a rosters.PlaceAnswer
		if err := json.Unmarshal([]byte(text), &a); err != nil {
			t.Fatal(text)
		}
		return a
	}
	legal := places(false).Places
	if len(legal) < 2 || places(true).Why == "" {
		t.Fatalf("%v places, and midnight %q", legal, places(true).Why)
	}
	to := legal[len(legal)/2].From
	moved[at].From, moved[at].Until, moved[at].Pinned = to, to.Add(moved[at].Until.Sub(moved[at].From)), true
	again := rosterOf(t, two, http.MethodPost, "/api/roster/plan", ask(moved))
	if again.Conflict != nil || len(again.Moves) == 0 || len(again.Broken) != 0 {
		t.Fatalf("%+v %d %+v", again.Conflict, len(again.Moves), again.Broken)
	}
	found := false
	for _, b := range again.Bookings {
		found = found || b.Task == moved[at].Task && b.From.Equal(to) && b.Pinned
	}
	if !found {
		t.Error("what was pinned moved")
	}
	nobody := ask([]days.Booked{})
	nobody.Crews = &[]string{"gone"}
	if status, text := two.send(http.MethodPost, "/api/roster/plan", nobody); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "crews") {
		t.Errorf("planned with nobody: %d %s", status, text)
	}
	for as, begins := range map[string]string{"ics": "BEGIN:VCALENDAR", "csv": "Job,Surface"} {
		if status, text := two.send(http.MethodGet, "/api/roster-file?as="+as, nil); status != http.StatusOK ||
			!strings.HasPrefix(text, begins) || strings.Count(text, "\n") < len(stands.Bookings) {
			t.Errorf("%s: %d %.80s", as, status, text)
		}
	}
	stranger := signedIn(t, web, "owner@"+addCompany(t))
	if v := rosterOf(t, stranger, http.MethodGet, "/api/roster", nil); len(v.Tasks)+len(v.Bookings)+len(v.Jobs) != 0 {
		t.Errorf("another company's roster: %+v", v)
	}
}

// An address at which a crew's days are read: by whoever has it, without signing in, until
// it is revoked; another company neither sees nor revokes it.
func TestCalendarAddresses(t *testing.T) {
	web := newServer(t)
	mine, theirs, stranger := signedIn(t, web, "owner@"+addCompany(t)), signedIn(t, web, "owner@"+addCompany(t)),
		newClient(t, web)
	f := demoJob(t)
	f.Job.Start, f.Job.Forecast = "", nil
	mine.addJob(f)
	first := rosterOf(t, mine, http.MethodPost, "/api/roster/plan",
		rosters.RosterQuestion{Bookings: []days.Booked{}, Seconds: 0.2})
	rosterOf(t, mine, http.MethodPut, "/api/roster", rosters.RosterKeep{Bookings: first.Bookings})
	var made rosters.CalendarAddress
	if status, text := mine.send(http.MethodPost, "/api/calendar-addresses", map[string]string{"crew": "crew"}); status !=
		http.StatusOK || json.Unmarshal([]byte(text), &made) != nil || made.Path == "" {
		t.Fatalf("%d %s", status, text)
	}
	status, text := stranger.send(http.MethodGet, made.Path, nil)
	if status != http.StatusOK || strings.Count(text, "BEGIN:VEVENT") == 0 || !strings.Contains(text, f.Job.Name) {
		t.Errorf("%d %.200s", status, text)
	}
	if _, list := mine.send(http.MethodGet, "/api/calendar-addresses", nil); strings.Contains(list, "/calendar/") ||
		!strings.Contains(list, made.ID.String()) {
		t.Errorf("the list is %s", list)
	}
	if _, list := theirs.send(http.MethodGet, "/api/calendar-addresses", nil); strings.Contains(list, made.ID.String()) {
		t.Errorf("another company sees %s", list)
	}
	// Unchanged it is not sent again; an event's number grows only where it was moved.
	feed := func(known string) (*http.Response, string) {
		r, err := http.NewRequestWithContext(t.Context(), http.MethodGet, web.URL+made.Path, nil)
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("If-None-Match", known)
		answer, err := web.Client().Do(r)
		if err != nil {
			t.Fatal(err)
		}
		defer answer.Body.Close()
		text, err := io.ReadAll(answer.Body)
		if err != nil {
			t.Fatal(err)
		}
		return answer, string(text)
	}
	answer, before := feed("")
	tag := answer.Header.Get("ETag")
	if _, err := http.ParseTime(answer.Header.Get("Last-Modified")); err != nil || tag == "" {
		t.Errorf("tag %q, changed %q", tag, answer.Header.Get("Last-Modified"))
	}
	if answer, text := feed(`"other", W/` + tag); answer.StatusCode != http.StatusNotModified || text != "" {
		t.Errorf("asked again: %d, %d bytes", answer.StatusCode, len(text))
	}
	stands := rosterOf(t, mine, http.MethodGet, "/api/roster", nil)
	moved := append([]days.Booked{}, stands.Bookings...)
	at := slices.IndexFunc(moved, func(b days.Booked) bool { return b.Crew != "" && len(b.Pours) == 0 })
	moved[at].From, moved[at].Until = moved[at].From.Add(30*time.Minute), moved[at].Until.Add(30*time.Minute)
	rosterOf(t, mine, http.MethodPut, "/api/roster", rosters.RosterKeep{Revision: stands.Revision, Bookings: moved})
	answer, after := feed(tag)
	unmoved, second := fmt.Sprintf("SEQUENCE:%d\r\n", stands.Revision), fmt.Sprintf("SEQUENCE:%d\r\n", stands.Revision+1)
	if answer.StatusCode != http.StatusOK || strings.Count(after, second) != 1 || strings.Count(before, second) != 0 ||
		strings.Count(after, unmoved) != strings.Count(before, unmoved)-1 {
		t.Errorf("%d: %d of %d events are told as changed", answer.StatusCode, strings.Count(after, second),
			strings.Count(after, "BEGIN:VEVENT"))
	}
	for _, path := range []string{made.Path[:len(made.Path)-5] + "x.ics", strings.TrimSuffix(made.Path, ".ics"),
		"/calendar/.ics"} {
		if status, _ := stranger.send(http.MethodGet, path, nil); status != http.StatusNotFound {
			t.Errorf("%s: %d", path, status)
		}
	}
	if status, _ := mine.send(http.MethodPost, "/api/calendar-addresses", map[string]string{"crew": "nobody"}); status !=
		http.StatusUnprocessableEntity {
		t.Errorf("for a crew that is not there: %d", status)
	}
	// A person's address follows them from crew to crew.
	house := job.House{Crews: []job.StandingCrew{{ID: "crew", Name: "Skerry crew", People: 9,
		Skills: job.CrewsOf(job.House{})[0].Skills, Members: []string{"Ylva Stranne"}},
		{ID: "b", Name: "Sound crew", People: 1, Skills: job.CrewsOf(job.House{})[0].Skills,
			Members: []string{"Ketil Orre"}}}}
	if status, text := mine.send(http.MethodPut, "/api/house?base=1", house); status != http.StatusOK {
		t.Fatalf("%d %s", status, text)
	}
	var hers rosters.CalendarAddress
	if status, text := mine.send(http.MethodPost, "/api/calendar-addresses",
		map[string]string{"person": "Ylva Stranne"}); status != http.StatusOK || json.Unmarshal([]byte(text), &hers) != nil ||
		hers.Person != "Ylva Stranne" {
		t.Fatalf("%d %s", status, text)
	}
	for _, who := range []map[string]string{{"person": "Nobody"}, {"person": "Ylva Stranne", "crew": "crew"}} {
		if status, _ := mine.send(http.MethodPost, "/api/calendar-addresses", who); status != http.StatusUnprocessableEntity {
			t.Errorf("%v: %d", who, status)
		}
	}
	events := func() int {
		_, text := stranger.send(http.MethodGet, hers.Path, nil)
		if !strings.Contains(text, "Ylva Stranne") {
			t.Errorf("the calendar is named otherwise: %.200s", text)
		}
		return strings.Count(text, "BEGIN:VEVENT")
	}
	if got := events(); got == 0 {
		t.Error("nothing is read of a person's crew")
	}
	if _, text := mine.send(http.MethodGet, "/api/roster-file?person=Ylva+Stranne", nil); strings.Count(text,
		"BEGIN:VEVENT") != events() {
		t.Errorf("the file has %d events", strings.Count(text, "BEGIN:VEVENT"))
	}
	if status, _ := mine.send(http.MethodGet, "/api/roster-file?person=Nobody", nil); status !=
		http.StatusUnprocessableEntity {
		t.Errorf("a file of nobody: %d", status)
	}
	house.Crews[0].Members, house.Crews[1].Members = nil, []string{"Ylva Stranne"}
	mine.send(http.MethodPut, "/api/house?base=2", house)
	if got := events(); got != 0 {
		t.Errorf("%d events of the crew that was left", got)
	}
	house.Crews[1].Members = nil
	mine.send(http.MethodPut, "/api/house?base=3", house)
	if got := events(); got != 0 {
		t.Errorf("%d events of somebody in no crew", got)
	}
	house.Crews[0].Members, house.Crews[1].Members = []string{"Ylva Stranne"}, []string{"Ylva Stranne"}
	if status, text := mine.send(http.MethodPut, "/api/house?base=4", house); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "in two crews") {
		t.Errorf("in two crews: %d %s", status, text)
	}
	own := "/api/calendar-addresses/" + made.ID.String()
	if status, _ := theirs.send(http.MethodDelete, own, nil); status != http.StatusNotFound {
		t.Errorf("another company revokes it: %d", status)
	}
	if status, _ := stranger.send(http.MethodGet, made.Path, nil); status != http.StatusOK {
		t.Errorf("it is gone: %d", status)
	}
	if status, _ := mine.send(http.MethodDelete, own, nil); status >= 300 {
		t.Errorf("revoked: %d", status)
	}
	if status, _ := stranger.send(http.MethodGet, made.Path, nil); status != http.StatusNotFound {
		t.Errorf("after it was revoked: %d", status)
	}
	if status, text := mine.send(http.MethodPost, "/api/busy", "no calendar"); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "not a calendar") {
		t.Errorf("%d %s", status, text)
	}
}

// A plan that is asked for is worked out by whichever server lives: what one left is taken
// up by the next. What is stopped ends, and is not booked.
func TestAPlanOutlivesItsServer(t *testing.T) {
	web := newServer(t)
	who := signedIn(t, web, "owner@"+addCompany(t))
	f := demoJob(t)
	f.Job.Start, f.Job.Forecast = "", nil
	who.addJob(f)
	ask := func(seconds float64) rosters.RosterRun {
		t.Helper()
		var run rosters.RosterRun
		if status, text := who.send(http.MethodPost, "/api/roster/runs",
			rosters.RosterQuestion{Bookings: []days.Booked{}, Seconds: seconds}); status != http.StatusOK ||
			json.Unmarshal([]byte(text), &run) != nil {
			t.Fatalf("%d %s", status, text)
		}
		return run
	}
	look := func(id string) rosters.RosterRun {
		t.Helper()
		var run rosters.RosterRun
		if status, text := who.send(http.MethodGet, "/api/roster/runs/"+id, nil); status != http.StatusOK ||
			json.Unmarshal([]byte(text), &run) != nil {
			t.Fatalf("%d %s", status, text)
		}
		return run
	}
	until := func(id string, holds func(rosters.RosterRun) bool) rosters.RosterRun {
		t.Helper()
		late, again := time.After(30*time.Second), time.NewTicker(50*time.Millisecond)
		defer again.Stop()
		for {
			run := look(id)
			if holds(run) {
				return run
			}
			select {
			case <-again.C:
			case <-late:
				t.Fatalf("still %s: %+v", run.State, run.Progress)
			}
		}
	}
	live := func(apart bool) context.CancelFunc {
		t.Helper()
		ctx, end := context.WithCancel(t.Context())
		listener, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			t.Fatal(err)
		}
		s, err := server.New(server.Options{Store: records, Apart: apart, Log: slog.New(slog.DiscardHandler)})
		if err != nil {
			t.Fatal(err)
		}
		httpServer, ended := &http.Server{}, make(chan struct{})
		go func() {
			_ = s.Serve(ctx, httpServer, func() error { return httpServer.Serve(listener) })
			close(ended)
		}()
		return func() { end(); <-ended }
	}
	// Asked for while nobody works: it waits. A server takes it up and is killed.
	long := ask(3)
	if look(long.ID.String()).State != "waiting" {
		t.Error("somebody works at it")
	}
	for taken := uuid.Nil; taken != long.ID; { // runs of other tests are none of this one's
		run, err := records.TakeRun(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		taken = run.ID
	}
	if _, err := records.DB().ExecContext(t.Context(),
		`update roster_runs set beat = now() - interval '1 minute' where id = $1`, long.ID); err != nil {
		t.Fatal(err)
	}
	end := live(false)
	done := until(long.ID.String(), func(r rosters.RosterRun) bool { return r.State == "done" })
	if done.Trouble != "" || done.View == nil || len(done.View.Bookings) == 0 || len(done.View.Broken) != 0 {
		t.Errorf("%q, %+v", done.Trouble, done.View)
	}
	// What is stopped ends.
	stopped := ask(20)
	if status, _ := who.send(http.MethodDelete, "/api/roster/runs/"+stopped.ID.String(), nil); status >= 300 {
		t.Errorf("stopping it: %d", status)
	}
	next := ask(0.2)
	until(next.ID.String(), func(r rosters.RosterRun) bool { return r.State == "done" })
	if r := look(stopped.ID.String()); r.State != "stopped" || r.View != nil {
		t.Errorf("%+v", r)
	}
	end()
	// A server that leaves plans to others takes none up; one that serves nothing does.
	defer live(true)()
	left := ask(0.2)
	for range 3 {
		<-time.After(400 * time.Millisecond) // a server looks that often
		if r := look(left.ID.String()); r.State != "waiting" {
			t.Errorf("left to others: %+v", r)
		}
	}
	apart, err := server.New(server.Options{Store: records, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	ctx, stop := context.WithCancel(t.Context())
	ended := make(chan struct{})
	go func() { apart.Work(ctx, 2); close(ended) }()
	until(left.ID.String(), func(r rosters.RosterRun) bool { return r.State == "done" && r.View != nil })
	stop()
	<-ended
}

// toldAsLogged looks at the lists of bookings that are made without a calendar: a pour that was begun
// stands in each where it was.
func (c *client) toldAsLogged(t *testing.T, was days.Lain) {
	t.Helper()
	var next rosters.RosterToday
	if _, text := c.send(http.MethodGet, "/api/roster/today", nil); json.Unmarshal([]byte(text), &next) != nil ||
		!slices.ContainsFunc(next.Lines, func(b days.Booked) bool {
			return b.Task == was.Task && b.From.Equal(was.From) && b.Until.Equal(was.Until)
		}) {
		t.Errorf("next: %+v", next.Lines)
	}
	var address rosters.CalendarAddress
	if _, text := c.send(http.MethodPost, "/api/calendar-addresses", map[string]string{}); json.Unmarshal([]byte(text),
		&address) != nil {
		t.Fatal(text)
	}
	for _, path := range []string{address.Path, "/api/roster-file?as=ics"} {
		if _, text := c.send(http.MethodGet, path, nil); !strings.Contains(text,
			"DTSTART:"+was.From.UTC().Format("20060102T150405Z")) {
			t.Errorf("%s does not begin %v", path, was.From)
		}
	}
}

// A pour that was logged stands on the roster where it was; the next coat's window counts from
// it, and what was to come before it is off. One that is over and was not logged is asked for
// until somebody says that it was done.
func TestTheRosterFollowsTheRecord(t *testing.T) {
	web := newServer(t)
	owner := signedIn(t, web, "owner@"+addCompany(t))
	f := demoJob(t)
	f.Job.Start, f.Job.Forecast = "", nil
	kept := owner.addJob(f).ID.String()
	first := rosterOf(t, owner, http.MethodPost, "/api/roster/plan",
		rosters.RosterQuestion{Bookings: []days.Booked{}, Seconds: 0.3})
	stands := rosterOf(t, owner, http.MethodPut, "/api/roster", rosters.RosterKeep{Bookings: first.Bookings})
	if len(stands.Lain)+len(stands.Follows)+len(stands.Asked) > 0 {
		t.Fatalf("before anything was done: %+v %+v %+v", stands.Lain, stands.Follows, stands.Asked)
	}
	_, issue := owner.issue(kept, uuid.New())
	coat := issue.Coats[0]
	owner.log(kept, owner.tablet().event(record.Poured, coat.Batches[0].ID, record.Body{}))
	pour := "coat/" + coat.ID + "/pour"
	v := rosterOf(t, owner, http.MethodGet, "/api/roster", nil)
	if len(v.Lain) != 1 || v.Lain[0].Task != pour || !v.Lain[0].Open || len(v.Follows) == 0 || v.Follows[0].Opens == nil {
		t.Fatalf("lain %+v, follows %+v", v.Lain, v.Follows)
	}
	for _, task := range v.Tasks {
		if task.Kind == work.Prepare && task.Surface == first.Tasks[0].Surface {
			t.Errorf("%s is still to be done", task.ID)
		}
	}
	owner.toldAsLogged(t, v.Lain[0])
	// Another pour is booked in the past, and nothing tells of it.
	moved := append([]days.Booked{}, v.Bookings...)
	var at int
	for n, b := range moved {
		if b.Task != pour && strings.HasSuffix(b.Task, "/pour") {
			at = n
		}
	}
	took := moved[at].Until.Sub(moved[at].From)
	moved[at].From = time.Now().Add(-took - time.Hour)
	moved[at].Until = moved[at].From.Add(took)
	v = rosterOf(t, owner, http.MethodPut, "/api/roster", rosters.RosterKeep{Revision: v.Revision, Bookings: moved})
	if len(v.Asked) != 1 || v.Asked[0].Task != moved[at].Task {
		t.Fatalf("asked: %+v", v.Asked)
	}
	moved[at].Done = true
	v = rosterOf(t, owner, http.MethodPut, "/api/roster", rosters.RosterKeep{Revision: v.Revision, Bookings: moved})
	if len(v.Asked) != 0 {
		t.Errorf("asked again: %+v", v.Asked)
	}
	if _, text := owner.send(http.MethodGet, "/api/jobs/"+kept, nil); strings.Contains(text, "Was it done?") {
		t.Error("the job asks still")
	}
}
