package measure

import (
	"testing"
	"time"
)

// A window of 9.5 h opened at midnight closes at 09:30, not at 09:29:59.999999999, however
// its seconds were worked out.
func TestSpanAfter(t *testing.T) {
	midnight := time.Date(2031, 5, 6, 0, 0, 0, 0, time.UTC)
	third := Span(9.5 * Hour / 3.0)
	for _, s := range []Span{9.5 * Hour, third + third + third, Span(9.5*Hour) - 1e-7} {
		if got := s.After(midnight).Format("15:04:05.999999999"); got != "09:30:00" {
			t.Errorf("%v s after midnight is %s", s, got)
		}
	}
	if got := Span(-90).After(midnight); !got.Equal(midnight.Add(-90 * time.Second)) {
		t.Errorf("90 s before midnight is %v", got)
	}
}
