package record

import (
	"testing"

	"nephelon/core/measure"
)

// A day of 2,000 events told anew, as on every touch.
func BenchmarkTell(b *testing.B) {
	i := issued()
	j := tablet("aaaa")
	kinds := []Kind{Meets, Mixed, Poured, Spread, Rolled, Noted}
	for n := range 2000 {
		j.log(minutes(float64(n)/10), kinds[n%len(kinds)], batch(1+n%3), Body{Text: "x"})
	}
	t := NewTeller()
	t.Tell(i, j.all, minutes(300), measure.Metric)
	b.ReportAllocs()
	for b.Loop() {
		t.Tell(i, j.all, minutes(300), measure.Metric)
	}
}
