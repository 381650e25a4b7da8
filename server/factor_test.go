package server_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"

	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/server/api"
	"nephelon/server/sessions"
)

// A second factor is asked for once it is set; a code is taken once; a recovery code too; who
// owns the company can want one of everybody, and take one away whose device is lost. Codes are
// those of RFC 6238, made here by a library of its own.
func TestASecondFactor(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	owner, lead := signedIn(t, web, "owner@"+domain), signedIn(t, web, "lead@"+domain)
	if status, _ := owner.send(http.MethodPut, "/api/company/factor", map[string]bool{"wanted": true}); status !=
		http.StatusForbidden {
		t.Errorf("wanted of everybody without the password: %d", status)
	}
	owner.confirm()
	if status, text := owner.send(http.MethodPut, "/api/company/factor", map[string]bool{"wanted": true}); status !=
		http.StatusConflict {
		t.Errorf("wanted of everybody before one's own: %d %s", status, text)
	}
	if status, text := owner.send(http.MethodPost, "/api/me/factor", map[string]string{"password": "not this"}); status !=
		http.StatusUnprocessableEntity || !strings.Contains(text, "body.password") {
		t.Errorf("begun with a wrong password: %d %s", status, text)
	}
	begun := got[sessions.FactorBegun](t, owner, http.MethodPost, "/api/me/factor",
		map[string]string{"password": password})
	if !strings.HasPrefix(begun.Address, "otpauth://totp/Nephelon:") {
		t.Errorf("address %q", begun.Address)
	}
	code := func(secret string, away time.Duration) string {
		text, err := totp.GenerateCode(secret, time.Now().Add(away))
		if err != nil {
			t.Fatal(err)
		}
		return text
	}
	if status, _ := owner.send(http.MethodPut, "/api/me/factor",
		map[string]string{"code": code(begun.Secret, time.Hour)}); status != http.StatusUnprocessableEntity {
		t.Errorf("a code of another hour is taken: %d", status)
	}
	first := code(begun.Secret, 0)
	set := got[sessions.FactorSet](t, owner, http.MethodPut, "/api/me/factor", map[string]string{"code": first})
	enter := func(code string) (int, string) {
		return newClient(t, web).send(http.MethodPost, "/api/session",
			map[string]string{"email": "owner@" + domain, "password": password, "code": code})
	}
	if status, text := enter(""); status != http.StatusUnauthorized || !strings.Contains(text, "body.code") {
		t.Errorf("without a code: %d %s", status, text)
	}
	if status, _ := enter(first); status != http.StatusUnauthorized {
		t.Errorf("the code that set it up signs in: %d", status)
	}
	next := code(begun.Secret, 30*time.Second)
	if status, text := enter(next); status != http.StatusOK {
		t.Errorf("with a code: %d %s", status, text)
	}
	if status, _ := enter(next); status != http.StatusUnauthorized {
		t.Errorf("a code is taken twice: %d", status)
	}
	if status, text := enter(strings.ToLower(set.Recovery[3])); status != http.StatusOK {
		t.Errorf("with a recovery code: %d %s", status, text)
	}
	if status, _ := enter(set.Recovery[3]); status != http.StatusUnauthorized {
		t.Errorf("a recovery code is taken twice: %d", status)
	}
	if stands := got[sessions.FactorState](t, owner, http.MethodGet, "/api/me/factor", nil); !stands.Set ||
		stands.Recovery != len(set.Recovery)-1 {
		t.Errorf("%+v", stands)
	}
	// Wanted of everybody: who has none can set one up, and nothing else.
	got[struct{}](t, owner, http.MethodPut, "/api/company/factor", map[string]bool{"wanted": true})
	if me := got[sessions.Me](t, lead, http.MethodGet, "/api/me", nil); !me.FactorDue {
		t.Error("it is not told that a factor is due")
	}
	if status, text := lead.send(http.MethodGet, "/api/jobs", nil); status != http.StatusForbidden ||
		!strings.Contains(text, "second factor") {
		t.Errorf("who lacks a factor reads jobs: %d %s", status, text)
	}
	theirs := got[sessions.FactorBegun](t, lead, http.MethodPost, "/api/me/factor",
		map[string]string{"password": password})
	got[sessions.FactorSet](t, lead, http.MethodPut, "/api/me/factor", map[string]string{"code": code(theirs.Secret, 0)})
	if status, _ := lead.send(http.MethodGet, "/api/jobs", nil); status != http.StatusOK {
		t.Errorf("with a factor: %d", status)
	}
	if status, _ := lead.send(http.MethodPost, "/api/me/factor/removed",
		map[string]string{"password": password}); status != http.StatusConflict {
		t.Errorf("one that the company wants is removed: %d", status)
	}
	id := got[sessions.Me](t, lead, http.MethodGet, "/api/me", nil).ID.String()
	got[struct{}](t, owner, http.MethodPut, "/api/people/"+id+"/factor-removed", nil)
	if status, _ := lead.send(http.MethodGet, "/api/me", nil); status != http.StatusUnauthorized {
		t.Errorf("a session outlives the loss of its factor: %d", status)
	}
}

// Whoever changes what somebody else changed meanwhile is told so, and writes over nothing; a
// change sent twice, because its answer was lost, is kept once.
func TestNobodyWritesOverWhatTheyHaveNotSeen(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	c := signedIn(t, web, "owner@"+domain)
	sheet := demoJob(t).Products[0]
	people := got[[]sessions.Colleague](t, c, http.MethodGet, "/api/people", nil)
	hand := people[len(people)-1]
	for _, p := range people {
		if p.Role == "hand" {
			hand = p
		}
	}
	box := func(lot string) kit.Container {
		one := container(sheet.ID)
		one.Lot = lot
		return one
	}
	hour := func(v float64) job.House { return job.House{HourCost: &v} }
	for path, of := range map[string]struct{ one, other any }{
		"/api/house":       {hour(31), hour(47)},
		"/api/systems/two": {system("one"), system("other")},
		"/api/stock/tin":   {box("first"), box("second")},
		"/api/people/" + hand.ID.String(): {map[string]any{"role": "lead", "active": true},
			map[string]any{"role": "estimator", "active": true}},
	} {
		base := "?base=0"
		if path == "/api/house" || strings.Contains(path, "people") {
			base = "?base=1"
		}
		first := got[api.Stands](t, c, http.MethodPut, path+base, of.one)
		if again := got[api.Stands](t, c, http.MethodPut, path+base, of.one); again != first {
			t.Errorf("%s: sent twice it stands at %d and %d", path, first.Revision, again.Revision)
		}
		status, text := c.send(http.MethodPut, path+base, of.other)
		var refused struct{ Detail string }
		_ = json.Unmarshal([]byte(text), &refused)
		if status != http.StatusConflict || !strings.Contains(refused.Detail, "Somebody else changed this") {
			t.Errorf("%s: written over: %d %s", path, status, text)
		}
	}
	if status, _ := c.send(http.MethodDelete, "/api/stock/tin?base=7", nil); status != http.StatusConflict {
		t.Errorf("taken out as it is not: %d", status)
	}
	if status, text := c.send(http.MethodPut, "/api/house", hour(1)); status != http.StatusUnprocessableEntity ||
		!strings.Contains(text, "base") {
		t.Errorf("without its base: %d %s", status, text)
	}
}
