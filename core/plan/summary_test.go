package plan

import (
	"testing"

	"nephelon/core/measure"
)

// A sentence with figures is shown to who reads their system alone; one without them to everybody.
func TestASummaryIsReadInOneSystem(t *testing.T) {
	figures := Summary{Needs: "12 L at hand for a need of 14 L.", Warnings: 1, Reads: measure.Metric}
	plain := Summary{Needs: "The hall is not measured yet.", Reads: measure.Metric}
	us := measure.US
	if got := figures.For(measure.Metric); got.Needs != figures.Needs {
		t.Errorf("the same reader gets %q", got.Needs)
	}
	if got := figures.For(us); got.Needs != "" || got.Warnings != 1 {
		t.Errorf("another reader gets %+v", got)
	}
	if got := plain.For(us); got.Needs != plain.Needs {
		t.Errorf("without figures another reader gets %q", got.Needs)
	}
}
