package geometry

import (
	"math"
	"math/rand/v2"
	"testing"
)

// The grid must find what comparing every side with every other finds, on
// outlines small and large, flat, far from the origin, and clustered.
func TestMeetingAgainstComparingAll(t *testing.T) {
	random := rand.New(rand.NewPCG(34, 55))
	crossed := 0
	for round := range 600 {
		n := 4 + random.IntN(60)
		stretch := math.Pow(10, 3*random.Float64()-1)
		ring := star(random, n)
		for i := range ring {
			ring[i].X, ring[i].Y = 5000+ring[i].X*stretch, ring[i].Y-700
			if random.IntN(4*n) == 0 { // a corner gone astray
				ring[i].X += 30 * (random.Float64() - 0.5) * stretch
			}
		}
		if round%3 == 0 { // one long spike
			ring[0] = Point{5000 + 400*stretch, -650}
		}
		want := false
		for i := range ring {
			for j := i + 1; j < n && !want; j++ {
				if !neighbours(i, j, n) {
					_, want = touching(ring[i], ring[(i+1)%n], ring[j], ring[(j+1)%n])
				}
			}
		}
		i, j, at, found := meeting(ring, nil)
		if found != want {
			t.Fatalf("round %d: found %v, comparing all %v: %v", round, found, want, ring)
		}
		if !found {
			continue
		}
		crossed++
		if where, touch := touching(ring[i], ring[(i+1)%n], ring[j], ring[(j+1)%n]); !touch ||
			where.Distance(at) > 1e-6*stretch || neighbours(i, j, n) {
			t.Fatalf("round %d: sides %d and %d do not meet at %v", round, i, j, at)
		}
	}
	if crossed < 30 || crossed > 570 {
		t.Errorf("only %d of 600 cross: the test tries too little", crossed)
	}
}
