package server_test

import (
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/record"
	"nephelon/core/record/ledger"
	"nephelon/exchange"
	"nephelon/server/api"
	"nephelon/server/daylog"
	"nephelon/server/proof"
)

// An event that names its job and plan is taken on them alone, and none that is dated before its
// job was made. Each reading of the day carries the head of the log, which goes on from the one
// that the device kept. The exported record is whole against the log in it, and not once changed.
func TestEventsAreBoundToJobAndPlan(t *testing.T) {
	web := newServer(t)
	owner := signedIn(t, web, "owner@"+addCompany(t))
	job, second := owner.addJob(demoJob(t)).ID.String(), owner.addJob(demoJob(t)).ID.String()
	_, plan := owner.issue(job, uuid.New())
	owner.issue(second, uuid.New())
	if plan.Hash == "" {
		t.Fatal("the issued plan has no hash")
	}
	d, before := owner.tablet(), ""
	named := func(change func(*record.Event)) record.Event {
		e := d.event(record.Noted, "", record.Body{Text: "dry"})
		e.Job, e.Plan = job, plan.Hash
		if change != nil {
			d.number-- // it is refused
			change(&e)
			return record.Sealed(e, before)
		}
		e = record.Sealed(e, before)
		before = e.Hash
		return e
	}
	for want, e := range map[string]record.Event{
		"job: it was logged on another job": named(func(e *record.Event) { e.Job = second }),
		"plan: this device has another":     named(func(e *record.Event) { e.Plan = strings.Repeat("0", 64) }),
		"at: it is before this job":         named(func(e *record.Event) { e.At = e.At.Add(-time.Hour) }),
	} {
		if answer := owner.log(job, e); len(answer.Refused) != 1 || !strings.Contains(answer.Refused[0].Text, want) {
			t.Errorf("%q: %+v", want, answer)
		}
	}
	first := got[daylog.Logged](t, owner, http.MethodGet, "/api/jobs/"+job+"/events?since=0", nil)
	older, err := ledger.Read(first.Head)
	if err != nil {
		t.Fatal(err)
	}
	for range 5 {
		if answer := owner.log(job, named(nil)); len(answer.Taken) != 1 {
			t.Fatalf("%+v", answer)
		}
	}
	now := got[daylog.Logged](t, owner, http.MethodGet, "/api/jobs/"+job+"/events?since=0&head="+
		strings.Split(first.Head, "\n")[1], nil)
	newer, err := ledger.Read(now.Head)
	if err != nil || newer.Size != older.Size+5 {
		t.Fatalf("%+v after %+v, %v", newer, older, err)
	}
	if err := ledger.Follows(older, newer, now.Proof); err != nil {
		t.Error(err)
	}
	if now.Events[0].Received == nil {
		t.Error("it does not say when it came")
	}
	_, text := owner.send(http.MethodGet, "/api/jobs/"+job+"/record-file?as=json", nil)
	said, log, _ := strings.Cut(text, `"log": {`)
	for _, c := range []struct {
		text   string
		faults string
		script string
	}{
		{text, "", ""},
		{strings.Replace(text, `"text": "dry"`, `"text": "damp"`, 1), "was changed after it was logged",
			"was changed after it was logged"},
		{strings.Replace(text, `"site": "`, `"site": "New `, 1), "Plan 1 was changed", "Plan 1 was changed"},
		{said + `"log": {` + strings.Replace(log, `"number": 5,`, `"number": 9,`, 1), "Entry 9 of the log", "Entry 9 of the log"},
		{said + `"log": {` + strings.Replace(log, ` 6\n\n`, ` 8\n\n`, 1), "changed after it was signed",
			"The head is not signed"},
	} {
		e, err := exchange.RecordEvidence([]byte(c.text))
		if err != nil {
			t.Fatal(err)
		}
		file := filepath.Join(t.TempDir(), "record.json")
		if err := os.WriteFile(file, []byte(c.text), 0o600); err != nil {
			t.Fatal(err)
		}
		// A stranger with a script that shares nothing with this program finds the same.
		said, err := exec.CommandContext(t.Context(), "node", "../docs/verify-record.mjs", file).CombinedOutput()
		if (err == nil) != (c.faults == "") || err != nil && !strings.Contains(string(said), c.script) {
			t.Errorf("the script, want %q: %s", c.script, said)
		}
		r := ledger.Check(e, nil, []string{first.Head})
		found, _ := json.Marshal(r.Faults)
		if (len(r.Faults) == 0) != (c.faults == "") || !strings.Contains(string(found), c.faults) || r.Events != 5 {
			t.Errorf("want %q: %s of %d events, %d entries", c.faults, found, r.Events, r.Entries)
		}
	}
}

// Every night each company is checked once: what is found is told to its owner, and the head goes
// to a file, to an address and by mail, where the operator says so.
func TestRecordsAreCheckedEveryNight(t *testing.T) {
	web := newServer(t)
	owner := signedIn(t, web, "owner@"+addCompany(t))
	owner.issue(owner.addJob(demoJob(t)).ID.String(), uuid.New())
	state := got[proof.LogState](t, owner, http.MethodPost, "/api/company/log/check", map[string]string{})
	if state.Head == "" || len(state.Keys) != 1 || len(state.Report.Faults) > 0 || state.Report.Plans != 1 {
		t.Fatalf("%+v", state)
	}
	bad := got[proof.LogState](t, owner, http.MethodPost, "/api/company/log/check",
		map[string]string{"heads": strings.Replace(state.Head, "at 20", "at 19", 1)})
	if len(bad.Report.Faults) != 1 {
		t.Errorf("a changed head: %+v", bad.Report)
	}
	posted := make(chan string, 1000)
	outside := httptest.NewServer(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) {
		text := make([]byte, r.ContentLength)
		_, _ = r.Body.Read(text)
		posted <- string(text)
	}))
	defer outside.Close()
	file := filepath.Join(t.TempDir(), "heads")
	mailed := 0
	mail := func(_ context.Context, to, _, text string) error {
		if to == "auditor@example.org" && strings.HasPrefix(text, "nephelon/") {
			mailed++
		}
		return nil
	}
	rounds := 0
	for _, place := range []string{file, outside.URL, "mailto:auditor@example.org"} {
		send, err := proof.Sender(place, mail)
		if err != nil {
			t.Fatal(err)
		}
		p := proof.New(api.Base{Log: slog.New(slog.DiscardHandler)}, records, func(int) { rounds++ }, send)
		// Far ahead, so that nobody was checked within a night.
		if err := p.Round(t.Context(), time.Now().Add(48*time.Hour)); err != nil {
			t.Fatal(err)
		}
	}
	text, err := os.ReadFile(file)
	unmoved, _, _ := strings.Cut(state.Head, "at ") // the time is that of each head
	if err != nil || !strings.Contains(string(text), unmoved) || len(posted) == 0 || mailed == 0 || rounds != 3 {
		t.Errorf("%d bytes in the file, %d posted, %d mailed, %d rounds, %v", len(text), len(posted), mailed, rounds, err)
	}
	if notes := ledger.Notes(string(text)); len(notes) != len(posted) {
		t.Errorf("%d heads in the file, %d posted", len(notes), len(posted))
	}
	if _, err := proof.Sender("mailto:auditor@example.org", nil); err == nil {
		t.Error("mail is promised with no mail server")
	}
	p := proof.New(api.Base{Log: slog.New(slog.DiscardHandler)}, records, func(int) { rounds++ }, nil)
	if err := p.Round(t.Context(), time.Now()); err != nil || rounds != 3 {
		t.Errorf("checked again within a night: %d rounds, %v", rounds, err)
	}
	_, log := owner.send(http.MethodGet, "/api/audit", nil)
	if !strings.Contains(log, "records checked") || !strings.Contains(log, "Whole: 0 events, 1 plans") {
		t.Errorf("%.400s", log)
	}
}
