package days

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/core/roster"
	"nephelon/core/work"
)

// What is booked by hand is held against all that a plan holds, and the places that are
// offered, and why a place is not, say the same.
func TestCheckBookingsByHand(t *testing.T) {
	everything := job.CrewsOf(job.House{})[0].Skills
	house := job.House{
		Crews: []job.StandingCrew{{ID: "north", Name: "North", People: 4, Skills: everything},
			{ID: "south", Name: "South", People: 4, Skills: everything}},
		Machines: []job.Machinery{{Machine: work.Grinder, Count: 1,
			Off: []job.Leave{{From: "2026-12-10", Until: "2026-12-11"}}}},
	}
	near := demo(t, "baggage-hall", monday, func(j *job.Job) { j.Where = &job.Whereabouts{Latitude: 58, Longitude: 10} })
	far := demo(t, "baggage-hall", monday, func(j *job.Job) {
		j.Name, j.Where, j.Zone, j.Earliest = "Far pier", &job.Whereabouts{Latitude: 59, Longitude: 10}, "UTC", "2026-12-02"
	})
	far.ID = "far"
	c := Build(house, []Job{near, far}, nil, monday, 4)
	grinds := c.Tasks[slices.IndexFunc(c.Tasks,
		func(t Bookable) bool { return slices.Contains(t.Machines, work.Grinder) })].ID
	at := func(day, hour, minute int) time.Time { return time.Date(2026, 12, day, hour, minute, 0, 0, time.UTC) }
	long := time.Duration(c.task(c.index["baggage-hall/"+grinds]).Duration) * c.slot
	grind := func(j, crew string, from time.Time, takes time.Duration) Booked {
		return Booked{Job: j, Task: grinds, Crew: crew, From: from, Until: from.Add(takes)}
	}
	whole := func(j, crew string, from time.Time) Booked {
		k := slices.IndexFunc(c.Problem.Crews, func(o roster.Crew) bool { return o.ID == crew })
		s := c.floor(from)
		return grind(j, crew, from, c.time(c.stay(c.index[j+"/"+grinds], c.Problem.Crews[k]).ends(s,
			c.task(c.index[j+"/"+grinds]).Duration)).Sub(from))
	}
	for name, b := range map[string]struct {
		booked []Booked
		says   string
	}{
		"as it may be": {[]Booked{whole("baggage-hall", "north", at(3, 7, 0))}, ""},
		"two on the only grinder": {[]Booked{whole("baggage-hall", "north", at(3, 7, 0)),
			whole("far", "south", at(3, 8, 0))}, "the grinder is booked for something else"},
		"111 km in half an hour": {[]Booked{whole("baggage-hall", "north", at(3, 7, 0)),
			whole("far", "north", whole("baggage-hall", "north", at(3, 7, 0)).Until.Add(30*time.Minute))},
			"the way from Baggage hall"},
		"an hour for all of it": {[]Booked{grind("baggage-hall", "north", at(3, 7, 0), time.Hour)},
			"it takes " + worded(long)},
		"a grinder in repair":       {[]Booked{whole("baggage-hall", "north", at(10, 7, 0))}, "the grinder is out of use"},
		"before the client's first": {[]Booked{whole("far", "north", at(1, 7, 0))}, "the client allows no start before"},
		"on the client's first":     {[]Booked{whole("far", "north", at(2, 7, 0))}, ""},
		"a crew at two places": {[]Booked{whole("baggage-hall", "north", at(3, 7, 0)),
			whole("far", "north", at(3, 7, 30))}, "North is booked for something else"},
		"the grinder when it is free": {[]Booked{whole("baggage-hall", "north", at(3, 7, 0)),
			whole("far", "south", whole("baggage-hall", "north", at(3, 7, 0)).Until)}, ""},
	} {
		broken := c.Check(b.booked)
		if b.says == "" && len(broken) > 0 || b.says != "" &&
			!slices.ContainsFunc(broken, func(x Broken) bool { return strings.Contains(x.Text, b.says) }) {
			t.Errorf("%s: %+v", name, broken)
		}
		// Where it may not be it is not offered, and the reason is told.
		last := b.booked[len(b.booked)-1]
		others := b.booked[:len(b.booked)-1]
		offered := slices.ContainsFunc(c.Places(others, last.Job, last.Task), func(o Opening) bool {
			return o.Crew == last.Crew && !last.From.Before(o.From) && !last.From.After(o.Until)
		})
		why := c.Why(others, last.Job, last.Task, last.Crew, last.From)
		if short := strings.HasPrefix(b.says, "it takes"); !short && (offered != (b.says == "") || (why == "") != offered) {
			t.Errorf("%s: offered %t, %q", name, offered, why)
		}
	}
}

// A task that has begun keeps its machine, so that nobody else is given the only one.
func TestWhatIsUnderWayKeepsItsMachine(t *testing.T) {
	everything := job.CrewsOf(job.House{})[0].Skills
	house := job.House{
		Crews: []job.StandingCrew{{ID: "north", Name: "North", People: 4, Skills: everything},
			{ID: "south", Name: "South", People: 4, Skills: everything}},
		Machines: []job.Machinery{{Machine: work.Grinder, Count: 1}},
	}
	one, two := demo(t, "baggage-hall", monday, nil), demo(t, "baggage-hall", monday, nil)
	two.ID = "two"
	c := Build(house, []Job{one, two}, nil, monday, 4)
	grinds := c.Tasks[slices.IndexFunc(c.Tasks,
		func(t Bookable) bool { return slices.Contains(t.Machines, work.Grinder) })].ID
	begun := Booked{Job: one.ID, Task: grinds, Crew: "north", From: monday.Add(time.Hour),
		Until: monday.Add(30 * time.Hour)}
	now := monday.Add(2 * time.Hour)
	c = Build(house, []Job{one, two}, []Booked{begun}, now, 4)
	for _, b := range solvedAll(t, c, []Booked{begun}) {
		if at := c.index[b.key()]; slices.Contains(c.Tasks[at].Machines, work.Grinder) && b.key() != begun.key() &&
			b.From.Before(begun.Until) {
			t.Errorf("%s of %s at %v, while the grinder is in use until %v", b.Task, b.Job, b.From, begun.Until)
		}
	}
	// That two have begun on the only one is so, and what comes is planned all the same.
	other := Booked{Job: two.ID, Task: grinds, Crew: "south", From: monday.Add(time.Hour),
		Until: monday.Add(28 * time.Hour)}
	c = Build(house, []Job{one, two}, []Booked{begun, other}, now, 4)
	solvedAll(t, c, []Booked{begun, other})
}

// At the latest: three coats over each other on a slab that comes 3 K cooler all the way. By
// the sheets each film is ready later, so that the next coat moves by whole shifts; a promise
// from the last film alone would be too early.
func TestPromisesAtTheLatestMoveTheBookings(t *testing.T) {
	cold := func(j *job.Job) { j.Slab = &measure.Sourced[measure.Temperature]{Value: 12} }
	j := demo(t, "baggage-hall", monday, cold)
	c := Build(job.House{}, []Job{j}, nil, monday, 6)
	by := solved(t, c, nil)
	booked := list(by)
	// The truth by another way: the whole planned anew with cooler films, nothing earlier than booked.
	cooler := demo(t, "baggage-hall", monday,
		func(f *job.Job) { f.Slab = &measure.Sourced[measure.Temperature]{Value: 12 - Cooler} })
	k := Build(job.House{}, []Job{cooler}, nil, monday, 6)
	moved := c.cooled(booked)
	later := false
	for _, b := range booked {
		own := moved[b.key()]
		if own.From.Before(b.From) {
			t.Errorf("%s moves to earlier", b.Task)
		}
		later = later || own.From.After(b.From)
	}
	if !later {
		t.Fatal("nothing moves")
	}
	after := make([]Booked, 0, len(moved))
	for _, b := range moved {
		after = append(after, b)
	}
	for _, x := range k.Check(after) {
		if !strings.Contains(x.Text, "its window closes") {
			t.Errorf("as cooled: %+v", x)
		}
	}
	for _, p := range c.Promises(booked) {
		last := j.Plan.Surfaces[slices.IndexFunc(j.Plan.Surfaces,
			func(s plan.SurfacePlan) bool { return s.Name == p.Surface })]
		coat := last.Coats[len(last.Coats)-1].ID
		pour := by[string(work.PourID(coat))]
		if took, known := j.Cool.After(coat, p.Stage, pour.Until); known &&
			p.Latest.Before(pour.Until.Add(duration(took)-time.Hour)) {
			t.Errorf("%s, %s: %v, the last film alone %v", p.Surface, p.Stage, p.Latest, pour.Until.Add(duration(took)))
		}
		if own := moved[pour.key()]; p.Latest.Before(own.Until) {
			t.Errorf("%s is promised for %v and laid until %v", p.Surface, p.Latest, own.Until)
		}
	}
}

// A way that nobody knows is told, not taken for none.
func TestUnknownWaysAreTold(t *testing.T) {
	a, b := demo(t, "baggage-hall", monday, func(j *job.Job) { j.Drive = 600 }),
		demo(t, "baggage-hall", monday, func(j *job.Job) { j.Name = "Net loft" })
	b.ID = "b"
	if c := Build(job.House{}, []Job{a, b}, nil, monday, 4); !slices.Equal(c.Unknown,
		[]string{a.File.Job.Name, "Net loft"}) {
		t.Errorf("%q", c.Unknown)
	}
	b.File.Job.Drive = 1200
	if c := Build(job.House{}, []Job{a, b}, nil, monday, 4); len(c.Unknown) != 0 {
		t.Errorf("%q", c.Unknown)
	}
	if c := Build(job.House{}, []Job{a}, nil, monday, 4); len(c.Unknown) != 0 {
		t.Errorf("of one job: %q", c.Unknown)
	}
}

// Work is booked in the steps that a company chose, ten minutes where it chose none: each task takes
// the least number of them that holds it.
func TestStepsOfBookings(t *testing.T) {
	table := demo(t, "oyster-bar", monday, nil)
	for minutes, want := range map[int]time.Duration{0: 10 * time.Minute, 5: 5 * time.Minute, 30: 30 * time.Minute} {
		c := Build(job.House{BookingStep: minutes}, []Job{table}, nil, monday, 6)
		if c.Problem.SlotMinutes != int(want/time.Minute) {
			t.Errorf("%d: slots of %d min", minutes, c.Problem.SlotMinutes)
		}
		for _, b := range list(solved(t, c, nil)) {
			task := c.Tasks[c.index[b.key()]]
			if b.Crew == "" || !task.Whole {
				continue
			}
			took := b.Until.Sub(b.From)
			needs := time.Duration(task.Minutes * float64(time.Minute))
			if took < needs || took-needs >= want || b.From.Sub(c.From)%want != 0 {
				t.Errorf("steps of %v: %s takes %v, is booked for %v", want, task.Name, needs, took)
			}
		}
	}
}
