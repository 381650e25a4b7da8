package job

import (
	"slices"
	"testing"
	"time"

	"nephelon/core/material"
	"nephelon/core/pour/sim"
	"nephelon/core/work"
)

func TestCrewCountsItsPeople(t *testing.T) {
	team := []work.Person{{Name: "Odd", Roles: []work.Role{work.Mixer}},
		{Name: "Tuva", Roles: []work.Role{work.Spreader, work.Roller}}, {Name: "Per", Roles: []work.Role{work.Roller}}}
	for name, c := range map[string]struct {
		crew              Crew
		people, spreaders int
		alone             bool
	}{
		"a mixer and three":       {Crew{Spreaders: 3}, 4, 3, false},
		"two who mix themselves":  {Crew{Spreaders: 2, Alone: true}, 2, 2, true},
		"a team":                  {Crew{Spreaders: 9, Alone: true, Team: team}, 3, 1, false},
		"a team without a mixer":  {Crew{Team: team[1:]}, 2, 1, true},
		"one who does everything": {Crew{Team: []work.Person{{Roles: []work.Role{work.Spreader, work.Mixer}}}}, 1, 1, true},
	} {
		counted := c.crew.Counted()
		if c.crew.People() != c.people || counted.Spreaders != c.spreaders || counted.Alone != c.alone {
			t.Errorf("%s: %d people, %d spread, alone %v", name, c.crew.People(), counted.Spreaders, counted.Alone)
		}
		members := c.crew.Members()
		if len(members) != c.people {
			t.Errorf("%s: %+v", name, members)
		}
		if !slices.ContainsFunc(members, func(p work.Person) bool { return p.Plays(work.Mixer) }) &&
			name != "a team without a mixer" {
			t.Errorf("%s: nobody mixes", name)
		}
	}
	if (Crew{}).SpreadsOf() != sim.UsualSpreads() {
		t.Error("the usual spreads are others")
	}
	own := sim.UsualSpreads()
	own.Pace *= 2
	if (Crew{Spreads: &own}).SpreadsOf() != own {
		t.Error("its own spreads do not count")
	}
}

// What a hand reads has no price and no client, and the file it was made of keeps both.
func TestBlindFile(t *testing.T) {
	price := 120.0
	f := File{Job: Job{Name: "Lens store", Client: "Skerry Lights", Notes: "gate code"},
		Products: []material.Product{{ID: "p", Kits: []material.Kit{{Name: "9 L", Price: &price}, {Name: "3 L"}}}},
		Media:    []material.Medium{{ID: "m", Packs: []material.Pack{{Name: "25 kg", Price: &price}}}}}
	if got := f.Prices(); len(got) != 2 || got["p/9 L"] != price || got["m/25 kg"] != price {
		t.Errorf("prices %v", got)
	}
	blind := f.Blind()
	if len(blind.Prices()) != 0 || blind.Job.Client != "" || blind.Job.Notes != "" || blind.Job.Name != "Lens store" {
		t.Errorf("%+v", blind)
	}
	if len(f.Prices()) != 2 || f.Job.Client == "" {
		t.Error("the file lost what the other has not")
	}
}

// A shift from 22:00 to 06:00 with a break over midnight: what lies when.
func TestNightShift(t *testing.T) {
	zone := in(t, "Europe/Oslo")
	h := Hours{Days: []Weekday{Monday}, From: "22:00", Until: "06:00", Breaks: []Break{{"23:45", "00:30"}}}
	at := func(date, hour, minute int) time.Time { return time.Date(2026, 3, date, hour, minute, 0, 0, zone) }
	if !h.Overnight() || UsualHours().Overnight() || h.Check() != nil {
		t.Errorf("%v, %v", h.Overnight(), h.Check())
	}
	// Monday is 2 March.
	if next := h.Next(at(1, 12, 0)); !next.Equal(at(2, 22, 0)) {
		t.Errorf("next %v", next)
	}
	if next := h.Next(at(3, 5, 0)); !next.Equal(at(3, 5, 0)) {
		t.Errorf("in the shift: next %v", next)
	}
	if begins := h.Begins(at(3, 5, 0)); !begins.Equal(at(9, 22, 0)) {
		t.Errorf("begins %v", begins)
	}
	rests := h.Rests(at(3, 1, 0))
	if len(rests) != 1 || !rests[0][0].Equal(at(2, 23, 45)) || !rests[0][1].Equal(at(3, 0, 30)) {
		t.Errorf("rests %v", rests)
	}
	if h.Rests(at(3, 12, 0)) != nil {
		t.Error("a break while nobody works")
	}
	from, until := h.Breaks[0].On(at(2, 12, 0))
	if !from.Equal(at(2, 23, 45)) || !until.Equal(at(3, 0, 30)) {
		t.Errorf("%v to %v", from, until)
	}
	for text, bad := range map[string]Hours{
		"The shift has no start or no end. Write them like 07:00 and 16:00.": {Until: "16:00"},
		"The breaks leave no time to work. Shorten them, or take one out.": {From: "07:00", Until: "08:00",
			Breaks: []Break{{"07:00", "08:00"}}},
	} {
		if err := bad.Check(); err == nil || err.Error() != text {
			t.Errorf("%v, want %q", err, text)
		}
	}
	if CheckYear(at(1, 0, 0)) != nil || CheckYear(at(1, 0, 0).AddDate(500, 0, 0)) == nil {
		t.Error("which years can be planned")
	}
}
