package compare

import (
	"strings"
	"testing"
	"time"

	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/record"
)

var begins = time.Date(2031, 3, 4, 8, 0, 0, 0, time.UTC)

// issued is a plan of one coat of 300 µm in three batches of 6 kg on 10 m² each.
func issued() *record.Issue {
	at := begins
	c := record.Coat{ID: "c", Surface: "s", Number: 1, Name: "Example", Wet: 300e-6, Start: &at}
	for k := range 3 {
		c.Batches = append(c.Batches, record.Batch{Card: kit.Card{Batch: k + 1, Section: k + 1, Mass: 6, Area: 10}})
	}
	return &record.Issue{Zone: "UTC", Surfaces: []record.Surface{{ID: "s", Name: "Hall"}}, Coats: []record.Coat{c}}
}

// plain has a usual space between a figure and its unit.
func plain(text string) string {
	return strings.NewReplacer("\u202f", " ", "\u00a0", " ").Replace(text)
}

// What differs is told in sentences with figures; what is the same to a crew is not.
func TestPlansAreCompared(t *testing.T) {
	old, same := issued(), issued()
	if all := Plans(old, same, measure.Metric); len(all) != 0 {
		t.Errorf("the same plan: %v", all)
	}
	now := issued()
	c := &now.Coats[0]
	later := begins.Add(90 * time.Minute)
	c.Start, c.Wet, c.Abrade, c.Batches[1].Card.Mass, c.Batches[2].Card.Area = &later, 330e-6, true, 7, 12
	want := []string{
		"Hall, coat 1 lies 330 µm wet instead of 300 µm.", "Hall, coat 1, batch 2: 7 kg instead of 6 kg.",
		"Hall, coat 1, section 3: 12 m² instead of 10 m².", "Hall, coat 1 starts Tue 4 Mar 09:30 instead of Tue 4 Mar 08:00.",
		"Hall, coat 1: the coat below is abraded before it now.",
	}
	check := func(want ...string) {
		t.Helper()
		all := Plans(old, now, measure.Metric)
		for n, w := range want {
			if n >= len(all) || plain(all[n].Text) != w {
				t.Fatalf("%q, want %q", all, w)
			}
		}
		if len(all) != len(want) {
			t.Errorf("%q", all)
		}
	}
	check(want...)
	c.Batches = c.Batches[:2]
	check(want[0], "Hall, coat 1 takes 2 batches instead of 3.", want[3], want[4])
	now.Coats = nil
	check("Hall, coat 1 (Example) is no longer poured.")
	now.Coats = append(issued().Coats, record.Coat{ID: "top", Surface: "s", Number: 2, Name: "Glaze"})
	now.Coats[0].Name, now.Coats[0].Start = "Other", nil
	check("Hall, coat 1 is Other instead of Example.", "Hall, coat 1 has no start any more.",
		"Hall, coat 2 (Glaze) is poured, too.")
}

// Two amounts differ from half a percent of the larger on.
func TestDiffer(t *testing.T) {
	for _, c := range []struct {
		a, b float64
		want bool
	}{{100, 100.4, false}, {100, 101, true}, {-100, 100, true}, {0, 0, false}, {101, 100, true}, {100.4, 100, false}} {
		if differ(c.a, c.b) != c.want {
			t.Errorf("%v and %v: %v", c.a, c.b, !c.want)
		}
	}
}

// A time is said by the clock of its site, or as it is where the zone is not known.
func TestTimesOfTheSite(t *testing.T) {
	noon := time.Date(2031, 3, 4, 12, 0, 0, 0, time.UTC)
	for zone, want := range map[string]string{"Europe/Oslo": "Tue 4 Mar 13:00", "": "Tue 4 Mar 12:00",
		"Nowhere/Atall": "Tue 4 Mar 12:00"} {
		if got := spoken(noon, zone, measure.Metric); got != want {
			t.Errorf("%q: %q, want %q", zone, got, want)
		}
	}
}
