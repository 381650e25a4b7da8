package days

import (
	"cmp"
	"slices"
	"time"

	"nephelon/core/roster"
)

// Move is a booking that a plan puts elsewhere than where it stood, and why it could not stay there.
type Move struct {
	Job  string    `json:"job"`
	Task string    `json:"task"`
	From time.Time `json:"from" doc:"When it began before"`
	Crew string    `json:"crew,omitempty" doc:"Crew that it had before"`
	Text string    `json:"text"`
}

// weightOf returns how much it weighs that a booking is moved that begins after so long: the sooner, the more
// people have settled for it. Common practice, no source.
func weightOf(begins time.Duration) int {
	const day = 24 * time.Hour
	switch {
	case begins <= 36*time.Hour:
		return 8
	case begins <= 3*day:
		return 5
	case begins <= 7*day:
		return 3
	case begins <= 14*day:
		return 2
	}
	return 1
}

// Stood sets the bookings that a plan is to move as little as it must, the nearest least.
func (c *Calendar) Stood(booked []Booked) {
	c.Problem.Before, c.stood = nil, booked
	for _, b := range booked {
		if _, there := c.index[b.key()]; !there {
			continue
		}
		c.Problem.Before = append(c.Problem.Before, roster.Booking{Job: b.Job, Task: b.Task, Crew: b.Crew,
			Start: c.floor(b.From), End: c.ceil(b.Until), Weight: weightOf(b.From.Sub(c.now))})
	}
}

// Moves returns the bookings that stood elsewhere before, each with what speaks against its old place as
// all else is booked now.
func (c *Calendar) Moves(before, after []Booked) []Move {
	held := byTask(before)
	all := []Move{}
	for n, b := range after {
		was, there := held[b.key()]
		if !there || was.From.Equal(b.From) && was.Crew == b.Crew {
			continue
		}
		own := Move{Job: b.Job, Task: b.Task, From: was.From, Crew: was.Crew}
		others := slices.Delete(slices.Clone(after), n, n+1)
		// What moves it by itself comes before what other bookings do to it.
		if at, there := c.index[b.key()]; there && was.Crew != "" {
			own.Text = sentence(c.outside(at, was.Crew, was.From, c.time(c.floor(was.From)+c.task(at).Duration)))
		}
		if own.Text == "" {
			own.Text = c.Why(others, b.Job, b.Task, was.Crew, was.From)
		}
		if own.Text == "" {
			own.Text = cmp.Or(c.behind(after, n, was), "Its old place is free; other work fits better so.")
		}
		all = append(all, own)
	}
	return all
}

// behind returns what of a job would no longer hold if one of its bookings went back to where it was; empty where
// all would.
func (c *Calendar) behind(after []Booked, n int, was Booked) string {
	broken := make(map[string]bool)
	for _, b := range c.Check(after) {
		broken[b.Text] = true
	}
	back := slices.Clone(after)
	back[n].From, back[n].Until, back[n].Crew = was.From, was.Until, was.Crew
	for _, b := range c.Check(back) {
		if b.Job == was.Job && !broken[b.Text] {
			return "Else: " + b.Text
		}
	}
	return ""
}
