package measure

import (
	"math"
	"time"
)

// After returns the time a span after t, to the millisecond: seconds worked out in
// floating point would otherwise end a hair before the minute they mean.
func (s Span) After(t time.Time) time.Time {
	return t.Add(time.Duration(math.Round(float64(s)*1000)) * time.Millisecond)
}
