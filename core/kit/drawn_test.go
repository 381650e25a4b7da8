package kit

import (
	"math"
	"testing"
	"time"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// By hand: a kit of 6 L that expires first, one of 9 L, and 4 L of A with 2 L of B, mixed 2 to 1. Of 18 L drawn the
// kits give 15, and 3 L come of the parts: 2 L of A, 1 L of B. Who weighed the second kit in between has it as they
// said.
func TestWhatIsLeftInContainers(t *testing.T) {
	p := material.Product{ID: "x", Components: []material.Component{{Name: "A", Parts: 2}, {Name: "B", Parts: 1}},
		Ratio: material.Ratio{Basis: material.ByVolume}}
	noon := time.Date(2026, 12, 7, 12, 0, 0, 0, time.UTC)
	held := func(id, part string, litres measure.Volume, expires string) Reserved {
		return Reserved{Container{ID: id, Sheet: "x", Part: part, Volume: litres / 1000, Expires: expires},
			noon.Add(-24 * time.Hour)}
	}
	all := []Reserved{held("late", "kit", 9, "2027-08-01"), held("soon", "kit", 6, "2027-01-01"), held("a", "A", 4, ""),
		held("b", "B", 2, ""), {Container{ID: "other", Sheet: "y", Part: "kit", Volume: 1}, noon}}
	draw := func(litres measure.Volume, at time.Time) Drawn {
		return Drawn{Product: "x", At: at, Volume: litres / 1000}
	}
	check := func(left map[string]measure.Volume, want map[string]float64) {
		t.Helper()
		if len(left) != len(want) {
			t.Errorf("%v, want %v", left, want)
		}
		for id, litres := range want {
			if math.Abs(float64(left[id])*1000-litres) > 1e-9 {
				t.Errorf("%s holds %v, want %v L", id, left[id], litres)
			}
		}
	}
	drawn := []Drawn{draw(10, noon), draw(8, noon.Add(time.Hour)), {Product: "x", Hardener: "slow", Volume: 1}}
	check(LeftOf(p, p.Mix(), "", all, drawn), map[string]float64{"soon": 0, "late": 0, "a": 2, "b": 1})
	check(LeftOf(p, p.Mix(), "", all, drawn[:1]), map[string]float64{"soon": 0, "late": 5, "a": 4, "b": 2})
	weighed := []Reserved{all[0], all[1]}
	weighed[0].Since, weighed[0].Container.Volume = noon.Add(2*time.Hour), 0.003
	check(LeftOf(p, p.Mix(), "", weighed, drawn[:1]), map[string]float64{"soon": 0, "late": 3})
}
