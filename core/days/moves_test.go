package days

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/job"
)

// A delivery comes five days late: what waits for it moves, with what follows it, and nothing of another
// client; each move has its reason. A plan of nothing new moves nothing.
func TestALateDeliveryMovesWhatWaitsForIt(t *testing.T) {
	house := job.House{Crews: []job.StandingCrew{
		{ID: "a", Name: "Skerry crew", People: 6, Skills: job.CrewsOf(job.House{})[0].Skills},
		{ID: "b", Name: "Sound crew", People: 6, Skills: job.CrewsOf(job.House{})[0].Skills}}}
	one, other := demo(t, "baggage-hall", monday, nil), demo(t, "baggage-hall", monday, nil)
	other.ID = "other"
	first := Build(house, []Job{one, other}, nil, monday, 6)
	booked := solvedAll(t, first, nil)
	same := Build(house, []Job{one, other}, booked, monday, 6)
	if moves := same.Moves(booked, solvedAll(t, same, booked)); len(moves) != 0 {
		t.Errorf("nothing is new, and it moves %+v", moves)
	}
	at := slices.IndexFunc(booked, func(b Booked) bool { return b.Job == one.ID && b.Task == "coat/hall-2/pour" })
	late := booked[at].From.AddDate(0, 0, 5)
	one = demo(t, "baggage-hall", monday, func(j *job.Job) {
		j.Awaited = []job.Delivery{{Product: j.Surfaces[0].Coats[1].Product, On: late.Format(time.DateOnly)}}
	})
	c := Build(house, []Job{one, other}, booked, monday, 6)
	after := solvedAll(t, c, booked)
	moves := c.Moves(booked, after)
	if !slices.ContainsFunc(moves, func(m Move) bool {
		return m.Task == "coat/hall-2/pour" && strings.Contains(m.Text, "material is not delivered")
	}) {
		t.Errorf("the coat stays before its material: %+v", moves)
	}
	for _, m := range moves {
		if m.Job == other.ID || strings.HasPrefix(m.Task, "coat/cor") || strings.Contains(m.Task, "corridor") {
			t.Errorf("%s of %s moves: %s", m.Task, m.Job, m.Text)
		}
		if m.Text == "" || !strings.HasSuffix(m.Text, ".") {
			t.Errorf("%s: %q", m.Task, m.Text)
		}
	}
}

// What is booked soon weighs more than what is booked later.
func TestNearBookingsWeighMore(t *testing.T) {
	j := demo(t, "lamp-room", monday, nil)
	c := Build(job.House{}, []Job{j}, nil, monday, 6)
	task := c.Tasks[0].ID
	last := 100
	for _, hours := range []time.Duration{1, 30, 48, 144, 240, 480} {
		in := hours * time.Hour
		c.Stood([]Booked{{Job: j.ID, Task: task, Crew: "crew", From: monday.Add(in), Until: monday.Add(in + time.Hour)}})
		got := c.Problem.Before[0].Weight
		if got < 1 || got > last || in > 36*time.Hour && got == last {
			t.Errorf("in %v it weighs %d, nearer %d", in, got, last)
		}
		last = got
	}
}
