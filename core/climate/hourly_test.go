package climate

import (
	"strings"
	"testing"
	"time"

	"nephelon/core/measure"
)

func TestHourly(t *testing.T) {
	from := time.Date(2031, 3, 4, 6, 0, 0, 0, time.UTC)
	at := func(hours float64, air measure.Temperature) Hour {
		return Hour{At: from.Add(time.Duration(hours * float64(time.Hour))), Air: air}
	}
	for name, c := range map[string]struct {
		given []Hour
		want  []measure.Temperature // an hour apart from the first on
		says  []string
	}{
		"in order": {[]Hour{at(0, 8), at(1, 9), at(2, 10)}, []measure.Temperature{8, 9, 10}, nil},
		"out of order": {[]Hour{at(1, 9), at(0, 8), at(2, 10)}, []measure.Temperature{8, 9, 10},
			[]string{"order of time"}},
		"doubled": {[]Hour{at(0, 8), at(1, 9), at(1, 30), at(1.5, 31), at(2, 10)},
			[]measure.Temperature{8, 9, 10}, []string{"less than an hour"}},
		"three hours missing": {[]Hour{at(0, 8), at(4, 16)}, []measure.Temperature{8, 10, 12, 14, 16},
			[]string{"filled in"}},
		"years apart": {[]Hour{at(0, 8), at(1, 9), at(26280, 10)}, []measure.Temperature{8, 9},
			[]string{"there are no hours from"}},
		"six hours, the bound": {[]Hour{at(0, 0), at(6, 12)}, []measure.Temperature{0, 2, 4, 6, 8, 10, 12},
			[]string{"filled in"}},
		"a minute longer": {[]Hour{at(0, 0), at(6.02, 12)}, []measure.Temperature{0}, []string{"left out"}},
	} {
		hours, faults := Hourly(c.given)
		if len(hours) != len(c.want) || len(faults) != len(c.says) {
			t.Errorf("%s: %d hours, %v", name, len(hours), faults)
			continue
		}
		for i, h := range hours {
			if !h.At.Equal(from.Add(time.Duration(i)*time.Hour)) || h.Air != c.want[i] {
				t.Errorf("%s: hour %d is %v", name, i, h)
			}
		}
		for i, f := range faults {
			if !strings.Contains(f.Text, c.says[i]) {
				t.Errorf("%s: %q", name, f.Text)
			}
		}
	}
}
