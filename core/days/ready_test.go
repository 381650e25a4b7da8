package days

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/job"
)

// The pails of a pour are made ready in the last free working time of its crew that ends twelve hours before
// its first kit, once for a product and a day. By hand: the hall and the corridor are primed on Wednesday,
// the hall from 07:30 with its first kit, so the pails stand ready on Tuesday by 16:00, when the shift ends.
func TestPailsAreMadeReadyOnTheDayBefore(t *testing.T) {
	j := demo(t, "baggage-hall", monday, nil)
	day := func(n, hour, minute int) time.Time {
		return midnight(monday, time.UTC).AddDate(0, 0, n).
			Add(time.Duration(hour)*time.Hour + time.Duration(minute)*time.Minute)
	}
	c := Build(job.House{}, []Job{j}, nil, monday, 4)
	hall := c.Tasks[c.index["baggage-hall/coat/hall-1/pour"]]
	pour := func(from time.Time) Booked {
		return Booked{Job: j.ID, Task: hall.ID, Crew: "crew", From: from,
			Until: from.Add(time.Duration(hall.Minutes) * time.Minute)}
	}
	coat := c.coatOf(j.ID, hall.ID)
	taken := func(crew string) []Booked {
		return []Booked{{Job: "x", Task: "y", Crew: crew, From: day(1, 13, 0), Until: day(1, 16, 0)}}
	}
	// What it takes, by hand: 3 min a pail, 3 min of stirring and 1 of pairing a kit, 10 min for the list, two people.
	pails := coat.Staging.Pails
	if pails == 0 || pails%2 != 0 {
		t.Fatalf("%d pails of two parts", pails)
	}
	takes := time.Duration(pails*3+pails/2*4+10) * time.Minute / 2
	for name, k := range map[string]struct {
		begins time.Time
		busy   []Booked
		until  time.Time
	}{
		"the day before":                  {day(2, 7, 0), nil, day(1, 16, 0)},
		"before a weekend":                {day(7, 7, 0), nil, day(4, 16, 0)},
		"in the afternoon, 12 h before":   {day(2, 13, 0), nil, day(1, 16, 0)},
		"the crew is taken until it ends": {day(2, 7, 0), taken("crew"), day(1, 13, 0)},
		"another crew is":                 {day(2, 7, 0), taken("z"), day(1, 16, 0)},
		"no working day is left":          {day(0, 8, 0), nil, day(0, 8, 20)},
	} {
		c.Stood(nil)
		all := c.Parted(append([]Booked{pour(k.begins)}, k.busy...))
		ready := all[0].Pours[0].Ready
		if ready == nil || !ready.Until.Equal(k.until) || ready.People != 2 {
			t.Errorf("%s: %+v, want until %v", name, ready, k.until)
			continue
		}
		if took := ready.Until.Sub(ready.From); took < takes || took-takes >= c.slot {
			t.Errorf("%s: it takes %v, is given %v", name, takes, took)
		}
		lines := WithReady(all)
		at := slices.IndexFunc(lines, func(b Booked) bool { _, is := b.Readies(); return is })
		if at < 0 || !lines[at].From.Equal(ready.From) || !strings.Contains(lines[at].Title, coat.Name) {
			t.Errorf("%s: listed as %+v", name, lines)
		}
		// What was settled stays while its pour does, whatever is booked beside it.
		c.Stood(all)
		later := append(slices.Clone(all), Booked{Job: "x", Task: "late", Crew: "crew", From: ready.From, Until: ready.Until})
		if again := c.Parted(later)[0].Pours[0].Ready; *again != *ready {
			t.Errorf("%s: it moved to %+v", name, again)
		}
	}
	// The same product on the same day is brought once; on another day, or another product, again.
	same := demo(t, "baggage-hall", monday, func(j *job.Job) { j.Surfaces[1].Coats[0].Product = coat.Product })
	for _, k := range []struct {
		of   Job
		on   int
		once bool
	}{{same, 2, true}, {same, 3, false}, {j, 2, false}} {
		both := Build(job.House{}, []Job{k.of}, nil, monday, 4).Parted([]Booked{pour(day(2, 7, 0)),
			{Job: j.ID, Task: "coat/cor-1/pour", Crew: "crew", From: day(k.on, 13, 0), Until: day(k.on, 15, 0)}})
		first, second := both[0].Pours[0].Ready, both[1].Pours[0].Ready
		if second == nil || (second.Name == "") != k.once || k.once && !second.From.Equal(first.From) {
			t.Errorf("of %v on day %d: %+v and %+v", k.once, k.on, first, second)
		}
	}
}

// The crew falls ill on the day on which pails are to be made ready: that is told, and they are made ready on another
// day once it is booked again, though the pour stays.
func TestPailsOnADayOff(t *testing.T) {
	j := demo(t, "baggage-hall", monday, nil)
	from := midnight(monday, time.UTC).AddDate(0, 0, 3).Add(7 * time.Hour)
	well := Build(job.House{}, []Job{j}, nil, monday, 4)
	task := well.Tasks[well.index["baggage-hall/coat/hall-1/pour"]]
	booked := well.Parted([]Booked{{Job: j.ID, Task: task.ID, Crew: "crew", From: from,
		Until: from.Add(time.Duration(task.Minutes) * time.Minute)}})
	was := *booked[0].Pours[0].Ready
	told := func(c *Calendar, all []Booked) bool {
		return slices.ContainsFunc(c.Check(all),
			func(b Broken) bool { return strings.Contains(b.Text, "pails are to be made ready") })
	}
	sick := job.House{Crews: job.CrewsOf(job.House{})}
	sick.Crews[0].People, sick.Crews[0].Off = 6, []job.Leave{{From: was.From.Format(time.DateOnly)}}
	c := Build(sick, []Job{j}, booked, monday, 4)
	if told(well, booked) || !told(c, booked) {
		t.Errorf("well %v, ill %v", told(well, booked), told(c, booked))
	}
	again := c.Parted(booked)
	if now := again[0].Pours[0].Ready; now.From.Day() == was.From.Day() || told(c, again) {
		t.Errorf("made ready %v, on the day off %v", now.From, was.From)
	}
}
