package server_test

import (
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/days"
	"nephelon/core/record"
	"nephelon/core/survey"
	"nephelon/core/work"
	"nephelon/server/rosters"
)

// A step of preparation that is booked in the past is asked about until the tablet closes it, and again once a test
// shows that it was not enough.
func TestTheRosterFollowsPreparation(t *testing.T) {
	web := newServer(t)
	owner := signedIn(t, web, "owner@"+addCompany(t))
	f := demoJob(t)
	f.Job.Start, f.Job.Forecast = "", nil
	f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete}
	job := owner.addJob(f).ID.String()
	_, issue := owner.issue(job, uuid.New())
	named := func(end string) int {
		return slices.IndexFunc(issue.Tasks, func(t work.Task) bool { return strings.HasSuffix(string(t.ID), end) })
	}
	grind, profile := named("/prepare/grind"), named("/retest/profile")
	if grind < 0 || profile < 0 || len(issue.Guides) == 0 {
		t.Fatalf("%d guides of %+v", len(issue.Guides), issue.Tasks)
	}
	step := string(issue.Tasks[grind].ID)
	stands := rosterOf(t, owner, http.MethodGet, "/api/roster", nil)
	stands = rosterOf(t, owner, http.MethodPut, "/api/roster", rosters.RosterKeep{Revision: stands.Revision,
		Bookings: []days.Booked{{Job: job, Task: step, Crew: stands.Crews[0].ID, From: time.Now().Add(-6 * time.Hour),
			Until: time.Now().Add(-2 * time.Hour)}}})
	asks := func() string {
		var texts []string
		for _, b := range rosterOf(t, owner, http.MethodGet, "/api/roster", nil).Asked {
			texts = append(texts, b.Text)
		}
		return strings.Join(texts, " ")
	}
	if text := asks(); !strings.Contains(text, "nothing was logged") || len(stands.Asked) != 1 {
		t.Fatalf("asked: %s", text)
	}
	device := owner.tablet()
	owner.log(job, device.event(record.Completed, step, record.Body{Saw: "open everywhere"}))
	if text := asks(); text != "" {
		t.Errorf("closed, and asked: %s", text)
	}
	no := false
	owner.log(job, device.event(record.Completed, string(issue.Tasks[profile].ID), record.Body{Saw: "smooth", Yes: &no}))
	if text := asks(); !strings.Contains(text, "to be done again: the profile is too smooth") {
		t.Errorf("a test failed: %s", text)
	}
}
