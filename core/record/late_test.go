package record

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/measure"
)

// Entries that came late say so in words: told long after, sent long after, dated before the one
// before, into a closed day, after the signature. What is on time says nothing.
func TestLateEntriesAreMarked(t *testing.T) {
	day := time.Date(2031, 3, 4, 7, 0, 0, 0, time.UTC)
	at := func(hour float64) time.Time { return day.Add(time.Duration(hour * float64(time.Hour))) }
	event := func(id, device string, number int64, hour float64, kind Kind, change ...func(*Event)) Event {
		received := at(hour + 0.01)
		e := Event{ID: id, Device: device, Number: number, At: at(hour), Kind: kind, Hash: id, Received: &received}
		for _, c := range change {
			c(&e)
		}
		return e
	}
	noticed := func(hour float64) func(*Event) {
		return func(e *Event) { then := at(hour); e.Body.Noticed = &then }
	}
	sent := func(hour float64) func(*Event) {
		return func(e *Event) { then := at(hour); e.Received = &then }
	}
	events := []Event{
		event("on-time", "tablet", 1, 1, Noted),
		event("told-late", "tablet", 2, 4, Noted, noticed(1.5)),
		event("within-the-hour", "tablet", 3, 5, Noted, noticed(4.1)),
		event("sent-late", "phone", 1, 1, Noted, sent(9)),
		event("dated-back", "phone", 2, 0.5, Noted, sent(0.6)),
		event("closed", "tablet", 4, 8, Closed),
		event("into-the-closed-day", "tablet", 5, 8.5, Noted, noticed(7.8)),
		event("next-day", "tablet", 6, 24, Noted),
	}
	signed := event("signed", "tablet", 7, 25, Signed, func(e *Event) { e.Body.Covers = Covering(events) })
	events = append(events, signed, event("after", "tablet", 8, 26, Noted), event("unknown", "other", 1, 2, Noted))
	want := map[string]string{
		"told-late":           "logged 2.5 h after it happened",
		"sent-late":           "reached the server 8 h after it was logged",
		"dated-back":          "dated 30 min before the entry that its device logged before",
		"into-the-closed-day": "logged after the day was closed",
		"after":               "added after the hand-over was signed",
		"unknown":             "added after the hand-over was signed",
	}
	check := func(events []Event) {
		t.Helper()
		all, added := late(events, measure.Metric)
		if added != 2 {
			t.Errorf("%d were added", added)
		}
		got := make(map[string]string)
		for n, l := range all {
			got[l.Event] = l.Text
			if l.Added != strings.Contains(l.Text, "signed") || n > 0 && l.Logged.Before(all[n-1].Logged) {
				t.Errorf("%+v", l)
			}
		}
		for _, e := range events {
			if got[e.ID] != want[e.ID] {
				t.Errorf("%s: %q, want %q", e.ID, got[e.ID], want[e.ID])
			}
		}
	}
	check(events)
	slices.Reverse(events)
	check(append(events, events...))
	// Signed anew, it covers what was added.
	second := event("signed-anew", "tablet", 9, 27, Signed, func(e *Event) { e.Body.Covers = Covering(events) })
	if _, added := late(append(events, second), measure.Metric); added != 0 {
		t.Errorf("after a second signature %d were added", added)
	}
	// A signature of an earlier build covers what was logged until then.
	old := slices.IndexFunc(events, func(e Event) bool { return e.ID == "signed" })
	events[old].Body.Covers = nil
	if all, added := late(events, measure.Metric); added != 1 ||
		slices.ContainsFunc(all, func(l Late) bool { return l.Event == "unknown" }) {
		t.Errorf("%d were added: %v", added, all)
	}
}
