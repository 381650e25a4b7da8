package pour

import (
	"fmt"
	"strings"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// comb returns an outline of a spine 1 m deep with teeth 0.8 m wide, each 0.4 m from the
// next and rooted a little deeper than the one before: four corners a tooth.
func comb(teeth int) geometry.Ring {
	ring := geometry.Ring{{X: 0, Y: 0}, {X: 1.2*float64(teeth) - 0.4, Y: 0}}
	for i := teeth - 1; i >= 0; i-- {
		x, root := 1.2*float64(i), 1+0.002*float64(i)
		ring = append(ring, geometry.Point{X: x + 0.8, Y: 7}, geometry.Point{X: x, Y: 7})
		if i > 0 {
			ring = append(ring, geometry.Point{X: x, Y: root}, geometry.Point{X: x - 0.4, Y: root})
		}
	}
	return ring
}

func combed(teeth int) Laying {
	p := geometry.Polygon{Outline: comb(teeth)}
	exit := geometry.Point{X: 0.6 * float64(teeth), Y: 0}
	return Plot(p, Layout{Exit: &exit}, geometry.Doorways(p, 2.5), equal(24), nil).Lay(p, equal(24))
}

// The search for pieces is bounded, and the bound is told; of a floor as it is built
// nothing is left out.
func TestLayTellsWhatWasNotTried(t *testing.T) {
	for teeth, partial := range map[int]bool{12: false, 500: true} {
		told := false
		for _, f := range combed(teeth).Findings("/s", 1, measure.Metric) {
			told = told || strings.Contains(f.Text, "not every way to divide it was tried")
		}
		if told != partial {
			t.Errorf("%d teeth: told %t", teeth, told)
		}
	}
}

func BenchmarkPlotComb(b *testing.B) {
	for _, teeth := range []int{150, 250, 1250} {
		b.Run(fmt.Sprint(4*teeth), func(b *testing.B) {
			for b.Loop() {
				combed(teeth)
			}
		})
	}
}
