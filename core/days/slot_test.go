package days

import (
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/climate"
	"nephelon/core/job"
	"nephelon/core/plan"
	"nephelon/core/plan/stage"
	"nephelon/core/roster"
	"nephelon/core/work"
)

// week is an empty calendar of one week from a Monday on, in slots of half an hour: slot 14 is Monday at
// 07:00, slot 62 Tuesday at 07:00.
func week() *Calendar {
	from := midnight(monday, time.UTC)
	return &Calendar{slot: 30 * time.Minute, From: from, Until: from.AddDate(0, 0, 7), now: from, zone: time.UTC,
		Problem: roster.Problem{Horizon: 7 * 48}, index: map[string]int{}, byJob: map[string]Job{},
		release: map[string]release{}, ways: map[[2]string]time.Duration{}, few: map[work.Machine]bool{},
		causes: map[string][]cause{}}
}

func clock(day, hour, minute int) time.Time {
	return time.Date(2026, 11, 30+day, hour, minute, 0, 0, time.UTC)
}

func windows(all ...roster.Slot) []roster.Window {
	var out []roster.Window
	for n := 0; n < len(all); n += 2 {
		out = append(out, roster.Window{From: all[n], Until: all[n+1]})
	}
	return out
}

// A time inside a slot is rounded outwards by floor and ceil; a length to whole slots, upwards.
func TestSlotsOfTimes(t *testing.T) {
	c := week()
	for _, k := range []struct {
		at          time.Time
		floor, ceil roster.Slot
	}{{clock(0, 7, 0), 14, 14}, {clock(0, 7, 1), 14, 15}, {clock(0, 7, 29), 14, 15}, {clock(1, 0, 0), 48, 48},
		{clock(0, 0, 0).Add(-time.Minute), -1, 0}} {
		if floor, ceil := c.floor(k.at), c.ceil(k.at); floor != k.floor || ceil != k.ceil {
			t.Errorf("%v: %d to %d, want %d to %d", k.at, floor, ceil, k.floor, k.ceil)
		}
	}
	if !c.time(62).Equal(clock(1, 7, 0)) || c.length(time.Minute) != 1 || c.length(time.Hour) != 2 || c.length(0) != 0 ||
		duration(1.5) != 1500*time.Millisecond {
		t.Error("slots and lengths do not agree")
	}
}

// The hours of a site are whole slots inside them, those of the night before as well; a site that is never
// open leaves the last slot alone, so that what fits nowhere is told.
func TestHoursOfASite(t *testing.T) {
	days := []job.Weekday{job.Monday, job.Wednesday}
	for _, k := range []struct {
		name  string
		hours job.Hours
		want  []roster.Window
	}{
		{"half hours", job.Hours{Days: days, From: "09:10", Until: "15:20"}, windows(19, 30, 115, 126)},
		{"over midnight", job.Hours{Days: []job.Weekday{job.Sunday}, From: "22:00", Until: "02:00"}, windows(0, 4, 332, 336)},
		{"less than a slot", job.Hours{Days: days, From: "09:10", Until: "09:40"}, windows(335, 336)},
	} {
		if got := week().site(k.hours, time.UTC); !reflect.DeepEqual(got, k.want) {
			t.Errorf("%s: %v, want %v", k.name, got, k.want)
		}
	}
}

// Quiet hours from 12:10 to 12:50 touch two slots, and only loud machines; those over midnight last until
// the morning.
func TestQuietHours(t *testing.T) {
	for m, want := range map[work.Machine]bool{work.Grinder: true, work.Blaster: true, work.Screener: true,
		work.Sander: true, work.Vacuum: true, work.WetVacuum: true, work.MixerDrill: false} {
		if loud(m) != want {
			t.Errorf("%s is loud: %v", m, !want)
		}
	}
	quiet := func(from, until job.Clock, machine work.Machine) []roster.Window {
		c, b := week(), &block{}
		c.Problem.Horizon = 48
		b.Needs.Machines = []work.Machine{machine}
		return c.hushed(Job{File: job.File{Job: job.Job{Zone: "UTC", Quiet: []job.Break{{From: from, Until: until}}}}}, b)
	}
	if got := quiet("12:10", "12:50", work.Grinder); !reflect.DeepEqual(got, windows(0, 24, 26, 48)) {
		t.Errorf("%v", got)
	}
	if got := quiet("12:00", "13:00", work.Grinder); !reflect.DeepEqual(got, windows(0, 24, 26, 48)) {
		t.Errorf("whole slots: %v", got)
	}
	if got := quiet("20:00", "06:00", work.Sander); !reflect.DeepEqual(got, windows(12, 40)) {
		t.Errorf("over midnight: %v", got)
	}
	if got := quiet("12:00", "13:00", work.MixerDrill); got != nil {
		t.Errorf("a drill is told to be quiet: %v", got)
	}
}

// What is delivered on Tuesday is there on Wednesday; of several the last counts, and only what the block
// itself takes.
func TestDeliveries(t *testing.T) {
	b :=
		&block{
			parts: []work.Task{{Needs: work.Needs{Materials: []work.Material{{Product: "a"}, {Product: "b", Hardener: "slow"},
				{Medium: "sand"}}}}}}
	for _, k := range []struct {
		name string
		all  []job.Delivery
		from roster.Slot // 0 where it waits for nothing
	}{
		{"a product", []job.Delivery{{Product: "a", On: "2026-12-01"}}, 96},
		{"the last of two", []job.Delivery{{Product: "a", On: "2026-12-02"}, {Medium: "sand", On: "2026-12-01"}}, 144},
		{"another hardener", []job.Delivery{{Product: "b", On: "2026-12-01"}}, 0},
		{"its hardener", []job.Delivery{{Product: "b", Hardener: "slow", On: "2026-12-01"}}, 96},
		{"something else", []job.Delivery{{Product: "c", On: "2026-12-01"}, {Medium: "flake", On: "2026-12-01"}}, 0},
		{"no day", []job.Delivery{{Product: "a", On: "soon"}}, 0},
		{"there already", []job.Delivery{{Product: "a", On: "2026-11-28"}}, 0},
	} {
		got := week().awaited(Job{File: job.File{Job: job.Job{Zone: "UTC", Awaited: k.all}}}, b)
		if want := windows(k.from, 336); k.from == 0 && got != nil || k.from > 0 && !reflect.DeepEqual(got, want) {
			t.Errorf("%s: %v, want from %d", k.name, got, k.from)
		}
	}
}

// Windows are joined where they meet, and cut where something does not hold.
func TestWindowsThatMeet(t *testing.T) {
	c := week()
	even := func(s roster.Slot) bool { return s%4 != 3 }
	if got := c.meeting(windows(0, 4, 4, 6, 10, 11), even); !reflect.DeepEqual(got, windows(0, 3, 4, 6, 10, 11)) {
		t.Errorf("%v", got)
	}
	if got := c.meeting(windows(0, 4), func(roster.Slot) bool { return false }); !reflect.DeepEqual(got,
		windows(335, 336)) {
		t.Errorf("nothing holds: %v", got)
	}
	if got := since(10, 336, windows(0, 5, 5, 12, 20, 24)); !reflect.DeepEqual(got, windows(10, 12, 20, 24)) {
		t.Errorf("%v", got)
	}
	if got := since(30, 336, windows(0, 30)); !reflect.DeepEqual(got, windows(335, 336)) {
		t.Errorf("over before it begins: %v", got)
	}
	if !holds(windows(3, 5), 3) || holds(windows(3, 5), 5) || holds(windows(3, 5), 2) {
		t.Error("a window holds from its first slot to before its end")
	}
}

// A degree of a meridian is 6371.0088 km × π/180 = 111.195 km, and so is one of the equator; at 60° north a
// degree of longitude is half of it (55.597 by the haversine). By road and at 50 km/h a degree takes
// 111.195 × 1.3 ÷ 50 = 2.8911 h.
func TestDrivesBetweenPlaces(t *testing.T) {
	at := func(lat, lon float64) *job.Whereabouts { return &job.Whereabouts{Latitude: lat, Longitude: lon} }
	for _, k := range []struct {
		a, b *job.Whereabouts
		km   float64
	}{{at(10, 20), at(11, 20), 111.195}, {at(0, 20), at(0, 21), 111.195}, {at(60, 20), at(60, 21), 55.597},
		{at(-5, 3), at(-5, 3), 0}, {at(90, 0), at(-90, 0), 20015.115}} {
		if got := apart(*k.a, *k.b); math.Abs(got-k.km) > 2e-3 {
			t.Errorf("%v to %v: %v km, want %v", k.a, k.b, got, k.km)
		}
	}
	near, far := job.Job{Where: at(10, 20), Drive: 600}, job.Job{Where: at(11, 20)}
	if got := drive(near, far).Hours(); math.Abs(got-2.8911) > 1e-4 {
		t.Errorf("by coordinates %v h", got)
	}
	if got := drive(job.Job{Drive: 600}, job.Job{Drive: 900}); got != 25*time.Minute {
		t.Errorf("by way of the yard %v", got)
	}
	for _, k := range [][2]job.Job{{{Drive: 600}, {}}, {{}, {Drive: 600}}, {{Where: at(1, 1)}, {Drive: 600}}, {{}, {}}} {
		if got := drive(k[0], k[1]); got != 0 {
			t.Errorf("nobody knows, and it takes %v", got)
		}
	}
}

// Ways are closed under way of others: a to c takes 60 min by way of b, 90 straight; to d there is none.
func TestWaysByWayOfOthers(t *testing.T) {
	c := week()
	add := func(a, b string, minutes int) {
		way := time.Duration(minutes) * time.Minute
		c.ways[[2]string{a, b}], c.ways[[2]string{b, a}] = way, way
	}
	add("a", "b", 20)
	add("b", "c", 40)
	add("a", "c", 90)
	add("c", "e", 10)
	c.wayThrough([]string{"a", "b", "c", "d", "e"})
	for pair, want := range map[[2]string]int{{"a", "c"}: 60, {"c", "a"}: 60, {"a", "e"}: 70, {"a", "b"}: 20,
		{"a", "d"}: 0,
		{"a", "a"}: 0} {
		if got := c.between(pair[0], pair[1]); got != time.Duration(want)*time.Minute {
			t.Errorf("%v: %v, want %d min", pair, got, want)
		}
	}
}

// Why nobody can ever do a task: the first of skills, people, hours and length that lacks.
func TestWhatNobodyCanDo(t *testing.T) {
	crew := func(skills string, shifts ...roster.Window) roster.Crew {
		out := roster.Crew{Skills: strings.Fields(skills)}
		for _, w := range shifts {
			out.Shifts = append(out.Shifts, roster.Shift{Window: w})
		}
		return out
	}
	two := hands(2)
	grind := roster.Task{Name: "Grind", Duration: 16, Skills: []string{"grind", two}}
	breaks := grind
	breaks.Breakable = true
	cures := grind
	cures.Unattended = true
	able := crew("grind", windows(14, 30)[0])
	able.Skills = append(able.Skills, two)
	idle, short, alone := able, able, crew("grind", windows(14, 30)[0])
	idle.Shifts = nil
	short.Shifts = []roster.Shift{{Window: windows(14, 20)[0]}, {Window: windows(62, 77)[0]}}
	for _, k := range []struct {
		name  string
		task  roster.Task
		crews []roster.Crew
		text  string
	}{
		{"it can", grind, []roster.Crew{alone, able}, ""},
		{"too few people", grind, []roster.Crew{alone}, "planned for 2 people, and no crew"},
		{"no skill", grind, []roster.Crew{crew("coat")}, "takes grind, and no crew"},
		{"no hours", grind, []roster.Crew{idle}, "has working hours"},
		{"a shift a slot too short", grind, []roster.Crew{short},
			"takes 8 h in one go with setting up and cleaning, and the longest shift is 7.5 h"},
		{"it may break off", breaks, []roster.Crew{short}, ""},
		{"nobody works at it", cures, nil, ""},
	} {
		c := week()
		c.Problem.Crews = k.crews
		text, way := c.never(k.task, Bookable{Surface: "Hall", People: 2})
		if (text == "") != (k.text == "") || !strings.Contains(text, k.text) || (way == "") != (text == "") {
			t.Errorf("%s: “%s” “%s”", k.name, text, way)
		}
	}
}

// Lengths in words, from minutes to hours at the hour.
func TestWorded(t *testing.T) {
	for d, want := range map[time.Duration]string{59 * time.Minute: "59 min", time.Hour: "1 h",
		90 * time.Minute: "1.5 h"} {
		if got := worded(d); got != want {
			t.Errorf("%v: %q", d, got)
		}
	}
}

// Nothing of a job begins before its release, and what says so is told.
func TestTooEarly(t *testing.T) {
	c := week()
	c.release["a"] = release{clock(2, 7, 0), "the job is planned to begin"}
	if got := c.early("a", clock(2, 6, 59)); got != "the job is planned to begin Wed 2 Dec 07:00." {
		t.Errorf("%q", got)
	}
	if c.early("a", clock(2, 7, 0)) != "" || c.early("b", clock(0, 0, 0)) != "" {
		t.Error("it may begin, and is told not to")
	}
}

// The dates of a job: nothing before the later of its start and the client's day, all done by the end of
// its due day.
func TestDatesOfAJob(t *testing.T) {
	begin := clock(1, 6, 10)
	dated := func(change func(*job.Job)) (roster.Job, release) {
		c := week()
		j := Job{ID: "a", File: job.File{Job: job.Job{Zone: "UTC"}}, Plan: plan.Plan{Surfaces: []plan.SurfacePlan{{}, {}}}}
		change(&j.File.Job)
		j.Plan.Surfaces[1].Begin = &begin
		return c.dated(j), c.release["a"]
	}
	for _, k := range []struct {
		name, start, earliest, due string
		from                       roster.Slot
		why                        string
		until                      roster.Slot
	}{
		{"none", "", "", "", 0, "", 0},
		{"its preparation begins before its start", "2026-12-02T07:00", "", "", 61, "planned to begin", 0},
		{"the start alone", "2026-12-01T05:00", "", "", 58, "planned to begin", 0},
		{"the client's day is later", "2026-12-01T05:00", "2026-12-03", "2026-12-04", 144, "the client allows", 240},
		{"the client's day is earlier", "2026-12-02T07:00", "2026-11-30", "", 61, "planned to begin", 0},
		{"only the client's", "", "2026-12-01", "2026-11-30", 48, "the client allows", 48},
	} {
		got, why := dated(func(j *job.Job) { j.Start, j.Earliest, j.Due = job.Local(k.start), k.earliest, k.due })
		if got.Release != k.from || !strings.Contains(why.why, k.why) || (why.why == "") != (k.why == "") ||
			(got.Due == nil) != (k.until == 0) || got.Due != nil && *got.Due != k.until {
			t.Errorf("%s: from %d (%s), due %v", k.name, got.Release, why.why, got.Due)
		}
	}
}

// Foul hours of a forecast are cut out, an hour at a time; what it does not reach counts as fair.
func TestFairSlots(t *testing.T) {
	hour := func(at time.Time, state climate.State) climate.Judged {
		return climate.Judged{At: at, State: state}
	}
	for _, k := range []struct {
		name  string
		hours []climate.Judged
		want  []roster.Window
	}{
		{"all fair", []climate.Judged{hour(clock(0, 0, 0), climate.Go)}, nil},
		{"two foul hours", []climate.Judged{hour(clock(0, 1, 0), climate.Stop), hour(clock(0, 3, 0), climate.Wait)},
			windows(0, 2, 4, 6, 8, 48)},
		{"from before the calendar on", []climate.Judged{hour(clock(0, 0, -30), climate.Stop)}, windows(1, 48)},
		{"the last hour", []climate.Judged{hour(clock(0, 23, 0), climate.Stop)}, windows(0, 46)},
	} {
		c := week()
		c.Problem.Horizon = 48
		if got := c.fair(&stage.SurveyPlan{Hours: k.hours}); !reflect.DeepEqual(got, k.want) {
			t.Errorf("%s: %v, want %v", k.name, got, k.want)
		}
	}
	if week().fair(nil) != nil {
		t.Error("without a survey there is weather")
	}
}

// A machine that is off on Tuesday and Wednesday is closed for both whole days; a day off that ends before
// it begins is one day, one that cannot be read none.
func TestMachinesOutOfUse(t *testing.T) {
	c := week()
	c.machine(job.Machinery{Machine: work.Grinder, Count: 2, Off: []job.Leave{{From: "2026-12-01", Until: "2026-12-02"},
		{From: "2026-12-04", Until: "2026-12-03"}, {From: "tomorrow", Until: "2026-12-05"},
		{From: "2026-11-01", Until: "2026-11-02"}, {From: "2026-12-06", Until: "2026-12-20"}}})
	want := roster.Machine{ID: "grinder", Capacity: 2, Closed: windows(48, 144, 192, 240, 288, 336)}
	if got := c.Problem.Machines; len(got) != 1 || !reflect.DeepEqual(got[0], want) || !c.few[work.Grinder] {
		t.Errorf("%+v, want %+v", got, want)
	}
}

// A crew on the calendar: its shifts in whole slots, its breaks of a slot or more, nothing until what it
// has begun is over.
func TestACrewOnTheCalendar(t *testing.T) {
	c := week()
	c.now, c.Until = clock(0, 9, 0), c.From.AddDate(0, 0, 1)
	c.Problem.Horizon = 48
	hours := job.Hours{Days: []job.Weekday{job.Monday}, From: "07:10", Until: "15:50",
		Breaks: []job.Break{{From: "10:00", Until: "10:20"}, {From: "12:00", Until: "13:00"}}}
	crew := job.StandingCrew{ID: "a", Name: "A", People: 2, Skills: []work.Skill{"grind"}, Hours: &hours}
	held := []Booked{{Crew: "a", From: clock(0, 7, 10), Until: clock(0, 10, 40)},
		{Crew: "a", From: clock(0, 7, 0), Until: clock(0, 9, 0)},
		{Crew: "b", From: clock(0, 7, 0), Until: clock(0, 14, 0)}, {Crew: "a", From: clock(0, 9, 0), Until: clock(0, 15, 0)}}
	c.crew(job.House{}, crew, held)
	got := c.Problem.Crews[0]
	want := roster.Crew{ID: "a", Name: "A", Skills: []string{"grind", "one person", "2 people"},
		Shifts: []roster.Shift{{Window: windows(22, 31)[0]}}, Rests: windows(24, 26)}
	if !reflect.DeepEqual(got, want) {
		t.Errorf("%+v, want %+v", got, want)
	}
}

// under is a calendar with one task of job a on one crew: grinding for 4 slots, in shifts from 14 to 30
// with a break from 24 to 26, and from 62 to 78.
func under(breakable bool) *Calendar {
	c := week()
	c.Tasks = []Bookable{{Job: "a", ID: "grind", Machines: []work.Machine{work.Grinder}}, {Job: "b", ID: "coat"}}
	c.index = map[string]int{"a/grind": 0, "b/coat": 1}
	c.few[work.Grinder] = true
	c.byJob = map[string]Job{"a": {File: job.File{Job: job.Job{Name: "Anchor hall"}}},
		"b": {File: job.File{Job: job.Job{Name: "Buoy store"}}}}
	c.Problem.Machines = []roster.Machine{{ID: "grinder", Capacity: 1, Closed: windows(70, 72)}}
	c.Problem.Crews = []roster.Crew{{ID: "x", Name: "Crew X", Shifts: []roster.Shift{{Window: windows(14, 30)[0]},
		{Window: windows(62, 78)[0]}}, Rests: windows(24, 26)}}
	c.Problem.Jobs = []roster.Job{{ID: "a", Tasks: []roster.Task{{ID: "grind", Duration: 4, Breakable: breakable,
		After: []roster.After{{}, {Buy: &roster.Buy{Slots: 3}}}}}},
		{ID: "b", Tasks: []roster.Task{{ID: "coat", Duration: 2}}}}
	c.ways[[2]string{"a", "b"}], c.ways[[2]string{"b", "a"}] = time.Hour, time.Hour
	return c
}

// A booking that is too short is told, with abrading where that was bought, and without the hours in which
// the crew rests where it may break off.
func TestTooShort(t *testing.T) {
	for _, k := range []struct {
		name        string
		breakable   bool
		from, until roster.Slot
		bought      bool
		want        string
	}{
		{"long enough", false, 14, 18, false, ""},
		{"a slot short", false, 14, 17, false, "it takes 2 h of work, and 1.5 h are booked."},
		{"with abrading", false, 14, 20, true, "it takes 3.5 h of work, and 3 h are booked."},
		{"with abrading, enough", false, 14, 21, true, ""},
		{"over a break", true, 22, 26, false, "it takes 2 h of work, and 1 h are booked."},
		{"over a break, enough", true, 22, 28, false, ""}, {"over a night", true, 28, 64, false, ""},
		{"over a night, a slot short", true, 28, 63, false, "1.5 h are booked"},
	} {
		c := under(k.breakable)
		got := c.short(0, Booked{Job: "a", Task: "grind", Crew: "x", From: c.time(k.from), Until: c.time(k.until),
			Bought: k.bought})
		if (got == "") != (k.want == "") || !strings.Contains(got, k.want) {
			t.Errorf("%s: “%s”", k.name, got)
		}
	}
}

// Why a crew cannot be at a task from 13:00 to 15:00 (slots 26 to 30) on Monday: it is at something else,
// the way takes an hour, or the machine is used up or out of use.
func TestRivals(t *testing.T) {
	coat := func(from, until roster.Slot) []Booked {
		c := week()
		return []Booked{{Job: "b", Task: "coat", Crew: "x", From: c.time(from), Until: c.time(until)}}
	}
	for _, k := range []struct {
		name   string
		booked []Booked
		from   roster.Slot
		want   string
	}{
		{"nothing else", nil, 26, ""}, {"at the same time", coat(28, 32), 26, "Crew X is booked for something else"},
		{"an hour before", coat(20, 24), 26, ""},
		{"half an hour before", coat(20, 25), 26, "the way from Buoy store takes 1 h, and Crew X has 30 min"},
		{"an hour after", coat(32, 34), 26, ""},
		{"half an hour after", coat(31, 34), 26, "the way to Buoy store takes 1 h, and Crew X has 30 min"},
		{"right before", coat(20, 26), 26, "has 0 min for it"},
		{"only the nearest counts", append(coat(10, 12), coat(20, 24)...), 26, ""},
		{"the machine is out of use", nil, 68, "the grinder is out of use Tue 1 Dec 11:00."},
		{"the machine is back", nil, 72, ""}, {"until it goes out of use", nil, 66, ""},
		{"itself", []Booked{{Job: "a", Task: "grind", Crew: "x", From: week().time(26), Until: week().time(30)}}, 26, ""},
	} {
		c := under(false)
		got := c.rivals(k.booked).against(0, "x", c.time(k.from), c.time(k.from+4), every)
		if (got == "") != (k.want == "") || !strings.Contains(got, k.want) {
			t.Errorf("%s: “%s”", k.name, got)
		}
	}
	// Another crew on the one grinder, from 13:30 on; a booking is no rival of those that stand before it.
	c := under(false)
	c.Tasks[1].Machines = c.Tasks[0].Machines
	other := coat(27, 29)
	other[0].Crew = "y"
	r := c.rivals(other)
	if got := r.against(0, "x", c.time(26), c.time(30), every); got !=
		"the grinder is booked for something else Mon 30 Nov 13:30." {
		t.Errorf("“%s”", got)
	}
	if got := r.against(0, "x", c.time(29), c.time(33), every); got != "" {
		t.Errorf("it is free by then: “%s”", got)
	}
	if got := r.against(0, "x", c.time(26), c.time(30), 0); got != "" {
		t.Errorf("what is booked after it counts: “%s”", got)
	}
}

// Whether a stay fits is told by the first thing that does not: skills, the shift, its end, what bounds it.
func TestStays(t *testing.T) {
	rain := []cause{{text: "the forecast is not suitable", windows: windows(0, 20, 22, 400)}}
	for _, k := range []struct {
		name       string
		breakable  bool
		causes     []cause
		start, end roster.Slot
		want       string
	}{
		{"in a shift", false, nil, 14, 18, ""}, {"to its end", false, nil, 26, 30, ""},
		{"a slot too long", false, nil, 27, 31,
			"it takes until Mon 30 Nov 15:30, and the shift of Crew X ends Mon 30 Nov 15:00."},
		{"before the shift", false, nil, 13, 17, "Crew X does not work Mon 30 Nov 06:30."},
		{"over the night, breaking off", true, nil, 29, 64, ""},
		{"into rain", false, rain, 18, 22, "the forecast is not suitable Mon 30 Nov 10:00."},
		{"before rain", false, rain, 16, 20, ""}, {"breaking off for rain", true, rain, 18, 24, ""},
		{"beginning in rain", true, rain, 21, 25, "the forecast is not suitable Mon 30 Nov 10:30."},
	} {
		c := under(k.breakable)
		c.causes["a/grind"] = k.causes
		got := ""
		if why := c.stay(0, c.Problem.Crews[0]).fault(k.start, k.end); why != nil {
			got = why()
		}
		if got != k.want {
			t.Errorf("%s: “%s”, want “%s”", k.name, got, k.want)
		}
	}
	c := under(true)
	s := c.stay(0, c.Problem.Crews[0])
	if got := s.ends(22, 4); got != 28 {
		t.Errorf("four slots from 22 with a break from 24 to 26 end at %d", got)
	}
	if got := under(false).stay(0, c.Problem.Crews[0]).ends(22, 4); got != 26 {
		t.Errorf("whole, they end at %d", got)
	}
	if got := s.done(300, 4); got != c.Problem.Horizon {
		t.Errorf("beyond the last shift they end at %d", got)
	}
}

// Of two tasks that have begun with the one machine, the second goes on without it; so does one that uses
// a machine while that is out of use.
func TestMachinesOfWhatHasBegun(t *testing.T) {
	for _, k := range []struct {
		name        string
		from, until roster.Slot // of the second
		now         roster.Slot
		want        []int // how many machines are left to each
	}{
		{"both begun", 40, 44, 42, []int{1, 0}}, {"the second not yet", 43, 47, 42, []int{1, 1}},
		{"out of use", 68, 71, 80, []int{1, 0}}, {"over before it is out of use", 64, 70, 80, []int{1, 0}},
	} {
		c := under(false)
		c.now = c.time(k.now)
		for n := range c.Problem.Jobs {
			c.Problem.Jobs[n].Tasks[0].Machines = []string{"grinder"}
		}
		c.using(map[string]Booked{"a/grind": {From: c.time(30), Until: c.time(41)},
			"b/coat": {From: c.time(k.from), Until: c.time(k.until)}})
		for n, want := range k.want {
			if got := len(c.Problem.Jobs[n].Tasks[0].Machines); got != want {
				t.Errorf("%s: task %d has %d machines, want %d", k.name, n, got, want)
			}
		}
	}
}

// What is booked keeps its place where it has begun, whatever it takes; what is pinned its start and crew;
// all else is free.
func TestWhatIsHeld(t *testing.T) {
	hold := func(b Booked) roster.Task {
		c := week()
		c.now = clock(0, 9, 0)
		task := roster.Task{Duration: 4, Breakable: true, Machines: []string{"grinder"}, After: []roster.After{{}}}
		c.hold(&task, b)
		return task
	}
	begun := hold(Booked{From: clock(0, 8, 10), Until: clock(0, 10, 40), Crew: "x"})
	if begun.Start == nil || *begun.Start != 16 || begun.Duration != 6 || !begun.Unattended || begun.Breakable ||
		begun.After != nil || len(begun.Machines) != 1 {
		t.Errorf("begun: %+v", begun)
	}
	if over := hold(Booked{From: clock(0, 7, 0), Until: clock(0, 9, 0)}); over.Start == nil || over.Machines != nil {
		t.Errorf("over: %+v", over)
	}
	if pinned := hold(Booked{From: clock(0, 9, 0), Until: clock(0, 11, 0), Crew: "x",
		Pinned: true}); pinned.Start == nil ||
		*pinned.Start != 18 || pinned.Crew != "x" || pinned.Unattended || pinned.Duration != 4 {
		t.Errorf("pinned: %+v", pinned)
	}
	for _, free := range []Booked{{From: clock(0, 9, 0), Until: clock(0, 11, 0), Crew: "x"},
		{From: clock(-1, 7, 0), Until: clock(-1, 9, 0), Pinned: true},
		{From: clock(8, 7, 0), Until: clock(8, 9, 0), Pinned: true}} {
		if got := hold(free); got.Start != nil {
			t.Errorf("%v: %+v", free.From, got)
		}
	}
}

// Nobody works at what passes by itself; what may break off need not lie in one shift.
func TestHowABlockIsShown(t *testing.T) {
	j := Job{ID: "a", Plan: plan.Plan{Surfaces: []plan.SurfacePlan{{Bare: plan.Bare{ID: "s", Name: "Hall"},
		Coats: []plan.CoatPlan{{ID: "c", Number: 3, Color: "#123456"}}}}}}
	b := &block{Task: work.Task{ID: "x", Surface: "s", Coat: "c", Split: work.Passing}}
	if got := shown(j, b); got.Whole || !got.Passing || got.Number != 0 || got.Surface != "Hall" {
		t.Errorf("%+v", got)
	}
	b.Split, b.parts = "", []work.Task{b.Task}
	if got := shown(j, b); !got.Whole || got.Passing || got.Number != 3 || got.Color != "#123456" {
		t.Errorf("%+v", got)
	}
	if b.breakable = true; shown(j, b).Whole {
		t.Error("what may break off lies whole in a shift")
	}
}

// Which bookings moved, and which were changed: another crew or time is either, another title only changed.
func TestMovedAndStamped(t *testing.T) {
	was := []Booked{{Job: "a", Task: "1", Crew: "x", From: clock(0, 7, 0), Until: clock(0, 9, 0), Title: "Grind",
		Changed: 4},
		{Job: "a", Task: "2", Crew: "x", From: clock(1, 7, 0), Until: clock(1, 9, 0), Changed: 4}}
	for _, k := range []struct {
		name           string
		change         func(*Booked)
		moved          int
		stamp, another int64
	}{
		{"nothing", func(*Booked) {}, 0, 4, 4}, {"begins later", func(b *Booked) { b.From = clock(0, 8, 0) }, 1, 9, 4},
		{"ends later", func(b *Booked) { b.Until = clock(0, 10, 0) }, 0, 9, 4},
		{"another crew", func(b *Booked) { b.Crew = "y" }, 1, 9, 4},
		{"another title", func(b *Booked) { b.Title = "Blast" }, 0, 9, 4},
		{"a new task", func(b *Booked) { b.Task = "3" }, 0, 9, 4},
	} {
		now := slices.Clone(was)
		k.change(&now[0])
		got := Stamp(now, was, 9)
		moves := week().Moves(was, now)
		if len(moves) != k.moved || got[0].Changed != k.stamp || got[1].Changed != k.another || now[0].Changed != 4 {
			t.Errorf("%s: %+v, %+v", k.name, moves, got)
		}
	}
}

// A step of preparation takes the whole crew, or as many as a person says.
func TestPeopleAtAStep(t *testing.T) {
	crew := job.Crew{Spreaders: 3}
	step := work.Task{ID: "s", Kind: work.Prepare, Effort: 2 * 3600, Split: work.Free}
	two := step
	two.ID, two.Crew = "two", 2
	all, _ := blocks(Job{File: job.File{Job: job.Job{Crew: crew}}, Plan: plan.Plan{Tasks: []work.Task{step, two}}})
	people := crew.People()
	if all[0].people != people || all[0].lasts != 2*time.Hour/time.Duration(people) || people == 2 {
		t.Errorf("%d people for %v", all[0].people, all[0].lasts)
	}
	if all[1].people != 2 || all[1].lasts != time.Hour {
		t.Errorf("%d people for %v", all[1].people, all[1].lasts)
	}
}
