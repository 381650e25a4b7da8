package input

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"time"

	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/work"
)

// book puts bookings and what was logged on the clock of the site, and begins with the first where the job names
// no start.
func (in *Inputs) book(zone *time.Location) {
	for coat, l := range in.logged {
		l.From = l.From.In(zone)
		for _, at := range []**time.Time{&l.Until, &l.Broken} {
			if *at != nil {
				there := (*at).In(zone)
				*at = &there
			}
		}
		if in.logged[coat] = l; in.Start == nil || l.From.Before(*in.Start) {
			in.Start = &l.From
		}
	}
	for task, b := range in.booked {
		b.From, b.Until = b.From.In(zone), b.Until.In(zone)
		if b.Ready != nil {
			b.Ready = &facts.Window{From: b.Ready.From.In(zone), Until: b.Ready.Until.In(zone)}
		}
		in.booked[task] = b
	}
	for _, s := range in.File.Job.Surfaces {
		for _, c := range s.Coats {
			if b, is := in.Booked(work.PourID(c.ID)); is && (in.Start == nil || b.From.Before(*in.Start)) {
				in.Start = &b.From
			}
		}
	}
	if in.Start == nil {
		in.startAfterPreparation()
	}
}

// startAfterPreparation lets the first coat be laid once what is booked of the preparation is done, where no coat is
// booked.
func (in *Inputs) startAfterPreparation() {
	for _, s := range in.File.Job.Surfaces {
		for task, b := range in.booked {
			if strings.HasPrefix(task, string(work.PrepareID(s.ID, ""))) && (in.Start == nil || b.Until.After(*in.Start)) {
				in.Start = &b.Until
			}
		}
	}
}

// Bookings returns all that is booked, in order of time.
func (in *Inputs) Bookings() []facts.Booking {
	return slices.SortedFunc(maps.Values(in.booked), func(a, b facts.Booking) int {
		return cmp.Or(a.From.Compare(b.From), cmp.Compare(a.Task, b.Task))
	})
}

// Booked returns when a task is booked.
func (in *Inputs) Booked(task work.ID) (facts.Booking, bool) {
	b, is := in.booked[string(task)]
	return b, is
}

// Named returns everyone at the pour of a coat: by the names of the crew that is booked for it, where the job names
// nobody and that crew has as many.
func (in *Inputs) Named(coat string, crew job.Crew) []work.Person {
	all := crew.Members()
	b, booked := in.Booked(work.PourID(coat))
	if !booked || len(crew.Team) > 0 || len(b.People) < len(all) {
		return all
	}
	named := slices.Clone(all)
	for n := range named {
		named[n].Name = b.People[n]
	}
	return named
}

// Logged returns when a coat was laid.
func (in *Inputs) Logged(coat string) (facts.Laid, bool) {
	l, is := in.logged[coat]
	return l, is
}
