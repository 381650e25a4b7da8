package days

import (
	"testing"
	"time"

	"nephelon/core/facts"
	"nephelon/core/job"
)

// A booking of a pour holds setting up, the look over the surface and cleaning up: its plan begins with its first kit
// after the first two, and is done before the last. Bookings of earlier days leave half an hour at each end.
func TestFactsOfBookings(t *testing.T) {
	day := time.Date(2031, 3, 4, 7, 0, 0, 0, time.UTC)
	at := func(minutes int) time.Time { return day.Add(time.Duration(minutes) * time.Minute) }
	house := job.House{Crews: []job.StandingCrew{{ID: "n", Name: "North", People: 3}}}
	for _, c := range []struct {
		name   string
		booked Booked
		want   []facts.Booking
	}{
		{"a pour in its block", Booked{Task: "coat/a/pour", From: at(0), Until: at(240), Crew: "n",
			Pours: []BookedPour{{Task: "coat/a/pour", From: at(42), Until: at(200)}}},
			[]facts.Booking{{Task: "coat/a/pour", From: at(42), Until: at(200), Crew: "North"}}},
		{"two poured wet on wet", Booked{Task: "coat/a/pour", From: at(0), Until: at(240),
			Pours: []BookedPour{{Task: "coat/a/pour", From: at(42), Until: at(120)},
				{Task: "coat/b/pour", From: at(120), Until: at(200)}}},
			[]facts.Booking{{Task: "coat/a/pour", From: at(42), Until: at(120)}, {Task: "coat/b/pour", From: at(120),
				Until: at(200)}}},
		{"a pour booked before pours were kept", Booked{Task: "coat/a/pour", From: at(0), Until: at(240)},
			[]facts.Booking{{Task: "coat/a/pour", From: at(30), Until: at(210)}}},
		{"a short one", Booked{Task: "coat/a/pour", From: at(0), Until: at(60)},
			[]facts.Booking{{Task: "coat/a/pour", From: at(0), Until: at(60)}}},
		{"another task", Booked{Task: "coat/b/abrade", From: at(0), Until: at(240)},
			[]facts.Booking{{Task: "coat/b/abrade", From: at(0), Until: at(240)}}},
	} {
		got := Facts([]Booked{c.booked}, house)
		if len(got) != len(c.want) {
			t.Fatalf("%s: %+v", c.name, got)
		}
		for n, w := range c.want {
			g := got[n]
			if g.Task != w.Task || !g.From.Equal(w.From) || !g.Until.Equal(w.Until) || g.Crew != w.Crew ||
				(g.Comes != nil) != w.From.After(c.booked.From) || g.Comes != nil && !g.Comes.Equal(c.booked.From) {
				t.Errorf("%s: %+v, want %+v", c.name, g, w)
			}
		}
	}
}

// Jobs whose bookings differ are told, in order; a pin alone, or the order, is no difference.
func TestRebooked(t *testing.T) {
	day := time.Date(2031, 3, 4, 7, 0, 0, 0, time.UTC)
	one := func(job, task string, hours int, crew string) Booked {
		return Booked{Job: job, Task: task, From: day.Add(time.Duration(hours) * time.Hour),
			Until: day.Add(time.Duration(hours+2) * time.Hour), Crew: crew}
	}
	before := []Booked{one("a", "x", 0, "n"), one("b", "x", 3, "n"), one("c", "x", 6, "n"), one("d", "x", 9, "n")}
	pinned := one("c", "x", 6, "n")
	pinned.Pinned = true
	after := []Booked{one("d", "x", 9, "s"), pinned, one("a", "x", 1, "n"), one("e", "x", 12, "n")}
	got := Rebooked(before, after)
	if want := []string{"a", "b", "d", "e"}; len(got) != 4 || got[0] != want[0] || got[1] != want[1] ||
		got[2] != want[2] ||
		got[3] != want[3] {
		t.Errorf("%v, want %v", got, want)
	}
	if same := Rebooked(before, before); len(same) != 0 {
		t.Errorf("%v of the same bookings", same)
	}
}
