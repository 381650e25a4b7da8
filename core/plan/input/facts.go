package input

import (
	"time"

	"nephelon/core/facts"
	"nephelon/core/work"
)

// book puts bookings and what was logged on the clock of the site, and begins with the first where the job names
// no start.
func (in *Inputs) book(zone *time.Location) {
	for coat, l := range in.logged {
		l.From = l.From.In(zone)
		if l.Until != nil {
			until := l.Until.In(zone)
			l.Until = &until
		}
		if in.logged[coat] = l; in.Start == nil || l.From.Before(*in.Start) {
			in.Start = &l.From
		}
	}
	for task, b := range in.booked {
		b.From, b.Until = b.From.In(zone), b.Until.In(zone)
		if in.booked[task] = b; in.Start == nil || b.From.Before(*in.Start) {
			in.Start = &b.From
		}
	}
}

// Booked returns when a task is booked.
func (in *Inputs) Booked(task work.ID) (facts.Booking, bool) {
	b, is := in.booked[string(task)]
	return b, is
}

// Logged returns when a coat was laid.
func (in *Inputs) Logged(coat string) (facts.Laid, bool) {
	l, is := in.logged[coat]
	return l, is
}
