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

// A face of the clock changes how times are told, and no figure.
func TestAFaceOfTheClock(t *testing.T) {
	at := time.Date(2031, 6, 3, 14, 5, 0, 0, time.UTC)
	early := time.Date(2031, 6, 3, 0, 30, 0, 0, time.UTC)
	for _, c := range []struct {
		system System
		layout string
		at     time.Time
		want   string
	}{
		{Metric, "Mon 15:04", at, "Tue 14:05"},
		{US, "15:04", early, "00:30"},
		{Metric.With(Clock12), "Mon 15:04", at, "Tue 2:05 PM"},
		{US.With(Clock12), "Mon 2 Jan, 15:04", early, "Tue 3 Jun, 12:30 AM"},
		{US.With(Clock12).With(Clock24), "15:04", at, "14:05"},
	} {
		if got := c.system.Time(c.at, c.layout); got != c.want {
			t.Errorf("%s tells %q, not %q", c.system, got, c.want)
		}
	}
	for _, units := range []System{US, Metric} {
		twelve := units.With(Clock12)
		if twelve.Units() != units || twelve.Clock() != Clock12 || units.Clock() != Clock24 {
			t.Errorf("%s became %s and %s", units, twelve.Units(), twelve.Clock())
		}
		for _, k := range Kind("").Values() {
			if units.Format(k, 12.345) != twelve.Format(k, 12.345) {
				t.Errorf("%s tells a %s otherwise with a clock of twelve hours", units, k)
			}
		}
		if a, err := twelve.Read(KindTemperature, "70 °F"); err != nil || a < 21 || a > 21.2 {
			t.Errorf("%s reads 70 °F as %v: %v", twelve, a, err)
		}
	}
}
