package server_test

import (
	"encoding/json"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/work"
	"nephelon/server/daylog"
	"nephelon/server/rosters"
	"nephelon/server/sessions"
	"nephelon/server/shelf"
)

// logging is what a device sends.
type logging struct {
	Events []record.Event `json:"events"`
}

// tablet makes events on a device of somebody.
type tablet struct {
	me     sessions.Me
	device string
	number int64
	before string
}

func (c client) tablet() *tablet {
	c.t.Helper()
	_, text := c.send(http.MethodGet, "/api/me", nil)
	d := &tablet{device: uuid.NewString()}
	if err := json.Unmarshal([]byte(text), &d.me); err != nil {
		c.t.Fatal(err)
	}
	return d
}

func (d *tablet) event(kind record.Kind, task string, body record.Body) record.Event {
	d.number++
	e := record.Sealed(record.Event{
		ID: uuid.NewString(), Issue: 1, Task: work.ID(task), Kind: kind, At: time.Now(), Device: d.device, Number: d.number,
		Person: d.me.ID.String(), Name: d.me.Name, Body: body,
	}, d.before)
	d.before = e.Hash
	return e
}

func (c client) log(job string, events ...record.Event) daylog.LogAnswer {
	c.t.Helper()
	status, text := c.send(http.MethodPost, "/api/jobs/"+job+"/events", logging{events})
	var answer daylog.LogAnswer
	if err := json.Unmarshal([]byte(text), &answer); err != nil || status != http.StatusOK {
		c.t.Fatalf("%d %s", status, text)
	}
	return answer
}

func (c client) issue(job string, save uuid.UUID) (int, record.Issue) {
	c.t.Helper()
	status, text := c.send(http.MethodPost, "/api/jobs/"+job+"/issues", daylog.NewIssue{SaveID: save, To: "Sound crew"})
	var made record.Issue
	if status == http.StatusOK {
		if err := json.Unmarshal([]byte(text), &made); err != nil {
			c.t.Fatal(err)
		}
	}
	return status, made
}

// Whoever leads a day lays a coat that is not begun with another product: told first, then kept as a new plan for the
// same crew. A film that is begun is finished with its own.
func TestAnotherProductOnTheDay(t *testing.T) {
	web := newServer(t)
	domain := addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	j := owner.addJob(demoJob(t))
	job, path := j.ID.String(), "/api/jobs/"+j.ID.String()+"/other-product"
	_, first := owner.issue(job, uuid.New())
	coat := first.Coats[0]
	other := demoJob(t).Products[slices.IndexFunc(demoJob(t).Products,
		func(p material.Product) bool { return p.ID == coat.Product.ID })]
	other.ID, other.Name, other.Version = "curlew-base", "Curlew Base", 0
	got[shelf.SheetState](t, owner, http.MethodPut, "/api/shelf/"+other.ID, other)
	ask := daylog.OtherProduct{SaveID: uuid.New(), Coat: coat.ID, Product: other.ID, Reason: "Lead: the pails froze"}
	if status, _ := signedIn(t, web, "hand@"+domain).send(http.MethodPost, path, ask); status != http.StatusForbidden {
		t.Errorf("a hand changes the product: %d", status)
	}
	lead := signedIn(t, web, "lead@"+domain)
	told := got[daylog.OtherPlan](t, lead, http.MethodPost, path, ask)
	if len(told.Changes) == 0 || !strings.Contains(told.Changes[0].Text, "is Curlew Base") || told.Number != 0 ||
		!strings.Contains(told.Supply, "none of it is in stock") {
		t.Errorf("told first: %+v", told)
	}
	standing := func() record.Issue {
		return got[record.Issue](t, owner, http.MethodGet, "/api/jobs/"+job+"/issues/0", nil)
	}
	if i := standing(); i.Number != 1 || i.Coat(coat.ID).Product.ID != coat.Product.ID {
		t.Errorf("what was only asked changed plan %d", i.Number)
	}
	ask.Keep = true
	for range 2 { // asked again after a lost answer
		if kept := got[daylog.OtherPlan](t, lead, http.MethodPost, path, ask); kept.Number != 2 {
			t.Errorf("kept as plan %d", kept.Number)
		}
	}
	i := standing()
	if i.Number != 2 || i.To != first.To || i.Coat(coat.ID).Product.ID != other.ID ||
		!strings.Contains(i.Note, ask.Reason) ||
		i.Coat(coat.ID).Batches[0].Card.Mass != coat.Batches[0].Card.Mass {
		t.Errorf("%d, %s, %s", i.Number, i.To, i.Note)
	}
	lead.log(job, lead.tablet().event(record.Meets, i.Coats[0].Batches[0].ID, record.Body{}))
	// A coat that is begun stays as it is, whatever the new plan says of it: nothing is told of it.
	if len(i.Coats) > 1 {
		later := ask
		later.SaveID, later.Coat, later.Keep = uuid.New(), i.Coats[1].ID, false
		for _, c := range got[daylog.OtherPlan](t, lead, http.MethodPost, path, later).Changes {
			if c.Coat == i.Coats[0].ID {
				t.Errorf("told of the coat that is begun: %s", c.Text)
			}
		}
	}
	ask.SaveID, ask.Coat, ask.Product = uuid.New(), i.Coats[0].ID, coat.Product.ID
	if status, text := lead.send(http.MethodPost, path, ask); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "is begun") {
		t.Errorf("a film that is begun: %d %s", status, text)
	}
	ask.Coat, ask.Product = i.Coats[len(i.Coats)-1].ID, "nothing"
	if status, text := lead.send(http.MethodPost, path, ask); status != http.StatusNotFound ||
		!strings.Contains(text, "not on the shelf") {
		t.Errorf("no such product: %d %s", status, text)
	}
	ask.Coat = "gone"
	if status, text := lead.send(http.MethodPost, path, ask); status != http.StatusNotFound {
		t.Errorf("no such coat: %d %s", status, text)
	}
}

// A plan is issued by whoever may, once however often it is asked; the next supersedes and
// erases nothing; how today's plan differs is told in sentences; prices stay at the desk.
func TestPlansAreIssued(t *testing.T) {
	web := newServer(t)
	domain := addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	j := owner.addJob(demoJob(t))
	job := j.ID.String()
	for role, want := range map[string]int{"hand": http.StatusForbidden, "lead": http.StatusForbidden} {
		if status, _ := signedIn(t, web, role+"@"+domain).issue(job, uuid.New()); status != want {
			t.Errorf("a %s issues a plan: %d", role, status)
		}
	}
	save := uuid.New()
	_, first := signedIn(t, web, "estimator@"+domain).issue(job, save)
	if _, again := owner.issue(job, save); first.Number != 1 || again.Number != 1 {
		t.Errorf("issued as %d, asked again %d", first.Number, again.Number)
	}
	if text, _ := json.Marshal(first); strings.Contains(string(text), `"price"`) {
		t.Error("an issued plan tells prices")
	}
	next := j.File
	next.Job.Surfaces[0].Coats[0].Amount.Value *= 1.3
	if status, _, text := owner.patch(j.ID, edit(t, 1, demoJob(t), next)); status != http.StatusOK {
		t.Fatalf("%d %s", status, text)
	}
	read := func() daylog.Issues {
		_, text := owner.send(http.MethodGet, "/api/jobs/"+job+"/issues", nil)
		var all daylog.Issues
		if err := json.Unmarshal([]byte(text), &all); err != nil {
			t.Fatal(err)
		}
		return all
	}
	if all := read(); len(all.Changes) == 0 || !strings.Contains(all.Changes[0].Text, "instead of") {
		t.Errorf("%+v", all.Changes)
	}
	_, second := owner.issue(job, uuid.New())
	if all := read(); second.Number != 2 || len(all.Lines) != 2 || len(all.Changes) != 0 {
		t.Errorf("issued as %d: %+v", second.Number, all)
	}
	// A coat that is begun hours after its plan was made for it is no change of that plan; the job's own plan follows.
	poured := owner.tablet().event(record.Poured, second.Coats[0].Batches[0].ID, record.Body{})
	owner.log(job, record.Sealed(poured, ""))
	if all := read(); len(all.Changes) != 0 {
		t.Errorf("what was done is told as a change: %+v", all.Changes)
	}
	_, text := owner.send(http.MethodGet, "/api/jobs/"+job, nil)
	if !strings.Contains(text, `"basis":"logged"`) {
		t.Error("the plan does not follow what was logged")
	}
	if _, text := owner.send(http.MethodGet, "/api/jobs/"+job+"/issues/1", nil); !strings.Contains(text, `"number":1`) {
		t.Errorf("the first is gone: %.200s", text)
	}
	if status, text := owner.send(http.MethodPost, "/api/jobs/"+job+"/issues",
		daylog.NewIssue{SaveID: uuid.New(), To: "x", Day: "1999-01-01"}); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "Choose another day") {
		t.Errorf("%d %s", status, text)
	}
}

// What comes due is listed over all jobs of a company, for whoever works there, and for nobody else; a job that is
// archived waits for nothing.
func TestWhatComesDueOnAllJobs(t *testing.T) {
	web := newServer(t)
	owner, other := signedIn(t, web, "owner@"+addCompany(t)), signedIn(t, web, "owner@"+addCompany(t))
	waits := func(c *client) []daylog.JobWait {
		t.Helper()
		status, text := c.send(http.MethodGet, "/api/waits", nil)
		var all []daylog.JobWait
		if err := json.Unmarshal([]byte(text), &all); err != nil || status != http.StatusOK {
			t.Fatalf("%d %s", status, text)
		}
		return all
	}
	jobs := make([]string, 2)
	for n := range jobs {
		f := demoJob(t)
		f.Job.Name = []string{"Ice house", "Rope store"}[n]
		jobs[n] = owner.addJob(f).ID.String()
		_, issue := owner.issue(jobs[n], uuid.New())
		if all := waits(owner); len(all) > 0 && all[0].Name == f.Job.Name {
			t.Errorf("before anything was laid: %+v", all)
		}
		device := owner.tablet()
		var events []record.Event
		for _, b := range issue.Coats[0].Batches {
			events = append(events, device.event(record.Poured, b.ID, record.Body{}),
				device.event(record.Spread, b.ID, record.Body{}), device.event(record.Rolled, b.ID, record.Body{}))
		}
		if answer := owner.log(jobs[n], events...); len(answer.Refused) > 0 {
			t.Fatalf("%+v", answer.Refused)
		}
	}
	all := waits(owner)
	if len(all) < 2 || all[0].Name != "Ice house" || !slices.IsSortedFunc(all, func(a, b daylog.JobWait) int {
		return a.Due.Compare(b.Due)
	}) || !slices.ContainsFunc(all, func(w daylog.JobWait) bool { return w.Name == "Rope store" }) {
		t.Errorf("%+v", all)
	}
	for _, w := range all {
		if w.Due.After(time.Now().AddDate(0, 0, 7)) || w.Text == "" || w.Place == "" {
			t.Errorf("%+v", w)
		}
	}
	// The calendar that people follow calls each out; a crew that is booked on neither job is told of none.
	followed := func(crew map[string]string) string {
		var made rosters.CalendarAddress
		if status, text := owner.send(http.MethodPost, "/api/calendar-addresses", crew); status != http.StatusOK ||
			json.Unmarshal([]byte(text), &made) != nil {
			t.Fatalf("%d %s", status, text)
		}
		_, text := owner.send(http.MethodGet, made.Path, nil)
		return text
	}
	if text := followed(map[string]string{}); strings.Count(text, "BEGIN:VALARM") != len(all) ||
		!strings.Contains(text, "Rope store") {
		t.Errorf("%d due, and the calendar has %s", len(all), text)
	}
	if text := followed(map[string]string{"crew": "crew"}); strings.Contains(text, "BEGIN:VALARM") {
		t.Errorf("a crew that is not booked: %s", text)
	}
	if all := waits(other); len(all) != 0 {
		t.Errorf("another company's: %+v", all)
	}
	owner.send(http.MethodPut, "/api/jobs/"+jobs[0]+"/archived", map[string]bool{"archived": true})
	if all := waits(owner); slices.ContainsFunc(all, func(w daylog.JobWait) bool { return w.Name == "Ice house" }) {
		t.Errorf("an archived job waits: %+v", all)
	}
}

// Who may log what: a hand works and logs, a lead overrides and closes; each only in their
// own name, and each strikes what they logged themselves.
func TestWhoLogsWhat(t *testing.T) {
	web := newServer(t)
	domain := addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	j := owner.addJob(demoJob(t))
	job := j.ID.String()
	_, plan := owner.issue(job, uuid.New())
	coat := "coat/" + plan.Coats[0].ID
	batch := plan.Coats[0].Batches[0].ID
	others := owner.tablet().event(record.Noted, batch, record.Body{Text: "from the office"})
	owner.log(job, record.Sealed(others, ""))
	yes := true
	hands := map[string]bool{"hand": false, "lead": true, "estimator": true, "owner": true}
	for role, leads := range hands {
		c := signedIn(t, web, role+"@"+domain)
		d := c.tablet()
		own := d.event(record.Meets, batch, record.Body{})
		for _, e := range []struct {
			event record.Event
			ok    bool
		}{
			{own, true},
			{d.event(record.Gated, coat, record.Body{Gate: "dust", Saw: "clean"}), true},
			{d.event(record.Gated, coat, record.Body{Gate: "dust", Reason: "late"}), leads},
			{d.event(record.Struck, "", record.Body{Struck: own.ID}), true},
			{d.event(record.Struck, "", record.Body{Struck: others.ID}), leads},
			{d.event(record.Fault, batch, record.Body{Seen: "soft"}), true},
			{d.event(record.Answered, own.ID, record.Body{Question: "residue", Yes: &yes}), true},
			{d.event(record.Found, own.ID, record.Body{Cause: "residue"}), leads},
			{d.event(record.Closed, coat, record.Body{Text: "done"}), leads},
			{d.event(record.Signed, coat, record.Body{Text: "A. Client"}), leads},
		} {
			answer := c.log(job, e.event)
			if (len(answer.Taken) == 1) != e.ok {
				t.Errorf("a %s logs %s %+v: %+v", role, e.event.Kind, e.event.Body, answer.Refused)
			}
		}
	}
	// In the name of somebody else nobody logs.
	hand := signedIn(t, web, "hand@"+domain)
	if answer := hand.log(job, owner.tablet().event(record.Noted, batch, record.Body{Text: "x"})); len(answer.Refused) !=
		1 || !strings.Contains(answer.Refused[0].Text, "somebody else") {
		t.Errorf("%+v", answer)
	}
}

// What is sent again is kept once; what cannot be is refused one by one with a sentence, and
// the rest is taken.
func TestTheRecordTakesWhatItCan(t *testing.T) {
	web := newServer(t)
	c := signedIn(t, web, "owner@"+addCompany(t))
	job := c.addJob(demoJob(t)).ID.String()
	other := c.addJob(demoJob(t)).ID.String()
	d := c.tablet()
	note := func(text string) record.Event { return d.event(record.Noted, "", record.Body{Text: text}) }
	if answer := c.log(job, note("before any plan")); len(answer.Refused) != 1 ||
		!strings.Contains(answer.Refused[0].Text, "no plan") {
		t.Errorf("%+v", answer)
	}
	c.issue(job, uuid.New())
	c.issue(other, uuid.New())
	elsewhere := note("elsewhere")
	c.log(other, elsewhere)
	good, future := note("good"), note("later")
	future.At = time.Now().Add(time.Hour)
	future = record.Sealed(future, future.Before)
	changed := note("as it was")
	changed.Body.Text = "as it was not"
	answer := c.log(job, good, future, changed, d.event(record.Struck, "", record.Body{Struck: elsewhere.ID}))
	if len(answer.Taken) != 1 || answer.Taken[0] != good.ID || len(answer.Refused) != 3 {
		t.Fatalf("%+v", answer)
	}
	for n, part := range []string{"future", "changed", "no such event"} {
		if !strings.Contains(answer.Refused[n].Text, part) {
			t.Errorf("“%s” does not say “%s”", answer.Refused[n].Text, part)
		}
	}
	same := good
	same.Body.Text = "another under the same id"
	same = record.Sealed(same, same.Before)
	if answer := c.log(job, good, good, same); len(answer.Refused) != 1 ||
		!strings.Contains(answer.Refused[0].Text, "another event") {
		t.Errorf("%+v", answer)
	}
	_, text := c.send(http.MethodGet, "/api/jobs/"+job+"/events", nil)
	var logged daylog.Logged
	if err := json.Unmarshal([]byte(text), &logged); err != nil {
		t.Fatal(err)
	}
	if len(logged.Events) != 1 || logged.Events[0].Hash != good.Hash || record.Sum(logged.Events[0]) != good.Hash {
		t.Errorf("%+v", logged.Events)
	}
	// One value out of range holds up nothing: it is named, and all else is taken.
	dry, fine := measure.Fraction(0), measure.Fraction(0.5)
	bad, after := d.event(record.Read, "", record.Body{Humidity: &dry}),
		d.event(record.Read, "", record.Body{Humidity: &fine})
	if answer := c.log(job, bad, after); len(answer.Taken) != 1 || answer.Taken[0] != after.ID ||
		len(answer.Refused) != 1 || !strings.HasPrefix(answer.Refused[0].Text, "body.humidity: 0") {
		t.Errorf("%+v", answer)
	}
	if status, text := c.send(http.MethodPost, "/api/jobs/"+job+"/events", logging{make([]record.Event, 501)}); status !=
		http.StatusUnprocessableEntity || !strings.Contains(text, "1 to 500") {
		t.Errorf("501 events: %d %.200s", status, text)
	}
	// Read on from the mark nothing that comes later is missed.
	late := note("late")
	c.log(job, late)
	if _, text := c.send(http.MethodGet, "/api/jobs/"+job+"/events?since="+jsonOf(logged.Mark),
		nil); !strings.Contains(text, late.ID) {
		t.Errorf("since %d: %.300s", logged.Mark, text)
	}
}

func jsonOf(v any) string {
	text, _ := json.Marshal(v)
	return string(text)
}

// Entries are found by when they happened, whichever device sent first, with the clock of
// their site.
func TestEntriesAreInTheOrderOfTime(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	f := demoJob(t)
	f.Job.Zone = "Asia/Tokyo"
	job := owner.addJob(f).ID.String()
	owner.issue(job, uuid.New())
	told := func(text string, before time.Duration) record.Event {
		e := owner.tablet().event(record.Noted, "", record.Body{Text: text})
		e.At, e.Behind = e.At.Add(-before-time.Hour), 3600
		return record.Sealed(e, "")
	}
	noticed := time.Now().Add(-70 * time.Second).UTC()
	forgotten := owner.tablet().event(record.Noted, "", record.Body{Text: "third", Noticed: &noticed})
	for _, e := range []record.Event{told("first", 10*time.Second), forgotten, told("last", 100*time.Second),
		told("second", 40*time.Second)} {
		if answer := owner.log(job, e); len(answer.Taken) != 1 {
			t.Fatalf("%+v", answer)
		}
	}
	_, text := owner.send(http.MethodGet, "/api/record-entries", nil)
	var found []daylog.EntryLine
	if err := json.Unmarshal([]byte(text), &found); err != nil {
		t.Fatalf("%v: %.200s", err, text)
	}
	order := ""
	for _, e := range found {
		order += e.Event.Body.Text + " " + e.Zone + " "
	}
	const want = "first Asia/Tokyo second Asia/Tokyo third Asia/Tokyo last Asia/Tokyo "
	if order != want {
		t.Errorf("found as %q", order)
	}
}
