package record

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"nephelon/core/measure"
)

// lateAfter bounds how long after it happened an entry is on time.
const lateAfter = time.Hour

// Late holds what is late about an entry.
type Late struct {
	Event  string    `json:"event"`
	Kind   Kind      `json:"kind"`
	Task   string    `json:"task,omitempty"`
	By     string    `json:"by"`
	At     time.Time `json:"at" doc:"When it happened"`
	Logged time.Time `json:"logged"`
	Text   string    `json:"text" doc:"What is late, in words"`
	Added  bool      `json:"added,omitempty" doc:"After the hand-over was signed: no part of what was signed"`
}

// late returns what is late about entries, in words, and how many came after the hand-over was
// signed. A later signature covers what is new.
func late(events []Event, units measure.System) (of []Late, added int) {
	all := make([]*Event, 0, len(events))
	seen := make(map[string]bool, len(events))
	for n := range events {
		if e := &events[n]; !seen[e.ID] {
			seen[e.ID] = true
			all = append(all, e)
		}
	}
	slices.SortFunc(all, func(a, b *Event) int {
		return cmp.Or(strings.Compare(a.Device, b.Device), cmp.Compare(a.Number, b.Number), strings.Compare(a.ID, b.ID))
	})
	signed, closed := lastOf(all, Signed), lastOf(all, Closed)
	span := func(from, to time.Time) string { return units.Span(between(from, to)) }
	for n, e := range all {
		var words []string
		after := signed != nil && e != signed && !signed.covers(e)
		logged := e.Logged()
		if late := logged.Sub(e.When()); late > lateAfter {
			words = append(words, "logged "+span(e.When(), logged)+" after it happened")
		}
		if e.Received != nil && e.Received.Sub(logged) > lateAfter {
			words = append(words, "reached the server "+span(logged, *e.Received)+" after it was logged")
		}
		if n > 0 && all[n-1].Device == e.Device && logged.Before(all[n-1].Logged().Add(-far)) {
			words = append(words, "dated "+span(logged, all[n-1].Logged())+" before the entry that its device logged before")
		}
		if closed != nil && logged.After(closed.Logged()) && e.When().Before(closed.Logged()) && e.Kind != Signed {
			words = append(words, "logged after the day was closed")
		}
		if after {
			words = append(words, "added after the hand-over was signed")
			added++
		}
		if len(words) > 0 {
			of = append(of, Late{e.ID, e.Kind, string(e.Task), e.Name, e.When(), logged, strings.Join(words, "; "), after})
		}
	}
	slices.SortStableFunc(of, func(a, b Late) int { return a.Logged.Compare(b.Logged) })
	return of, added
}

// lastOf returns the event of a kind that was logged last and not voided; nil where there is none.
func lastOf(events []*Event, kind Kind) *Event {
	struck := make(map[string]bool)
	for _, e := range events {
		if e.Kind == Struck {
			struck[e.Body.Struck] = true
		}
	}
	var last *Event
	for _, e := range events {
		if e.Kind == kind && !struck[e.ID] && (last == nil || e.Logged().After(last.Logged())) {
			last = e
		}
	}
	return last
}

// covers reports whether a signature covers an event: whoever signed had it before them. Those of
// earlier builds do not say; what was logged until then counts.
func (e *Event) covers(other *Event) bool {
	if len(e.Body.Covers) == 0 {
		return !other.Logged().After(e.Logged())
	}
	return slices.ContainsFunc(e.Body.Covers, func(c Covered) bool {
		return c.Device == other.Device && other.Number <= c.Number
	})
}

// Covering returns the last event of each device among events: what a signature covers.
func Covering(events []Event) []Covered {
	last := make(map[string]*Event)
	for n := range events {
		e := &events[n]
		if known := last[e.Device]; known == nil || e.Number > known.Number {
			last[e.Device] = e
		}
	}
	all := make([]Covered, 0, len(last))
	for device, e := range last {
		all = append(all, Covered{device, e.Number, e.Hash})
	}
	slices.SortFunc(all, func(a, b Covered) int { return strings.Compare(a.Device, b.Device) })
	return all
}
