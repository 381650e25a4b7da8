// Package facts holds what the world says beside what people decided in a job's file. A plan is
// made of both, and of nothing else.
package facts

import "time"

// Facts holds what is known of the world when a plan is made. What is booked, read and logged joins
// the time here, so that all stages of a plan see the same.
type Facts struct {
	Now time.Time
}

// At returns the facts of a time of which nothing else is known.
func At(now time.Time) Facts { return Facts{Now: now} }
