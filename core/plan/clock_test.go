package plan

import (
	"encoding/json"
	"regexp"
	"testing"

	"nephelon/core/measure"
)

// Whoever has a clock of twelve hours reads no other in a plan: times that machines read have
// a date before them.
func TestAPlanIsToldByOneClock(t *testing.T) {
	spoken := regexp.MustCompile(`[^T0-9:.+-]([01][0-9]|2[0-3]):[0-5][0-9][^:0-9][^"]{0,40}`)
	halves := regexp.MustCompile(`[0-9]:[0-5][0-9] [AP]M`)
	told := 0
	for _, name := range []string{"baggage-hall", "lamp-room", "oyster-bar", "seal-nursery", "settling-basin"} {
		f := demo(t, name)
		f.Job.Start = "2031-06-03T06:10"
		text, err := json.Marshal(Make(f, measure.Metric.With(measure.Clock12), noon()))
		if err != nil {
			t.Fatal(err)
		}
		for _, found := range spoken.FindAllString(string(text), -1) {
			if !halves.MatchString(found) {
				t.Errorf("%s tells %q", name, found)
			}
		}
		told += len(halves.FindAll(text, -1))
	}
	if told < 10 {
		t.Errorf("only %d times are told", told)
	}
}
