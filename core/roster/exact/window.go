package exact

import (
	"nephelon/core/roster"
	"nephelon/core/roster/model"
)

// Window is the part of a plan that is open: some tasks, which stay between two slots.
type Window struct {
	At          []model.Placed
	Open        []bool
	From, Until roster.Slot
}

// meets reports whether a task lies in the stretch that is open.
func (w *Window) meets(i int) bool { return w.At[i].End > w.From && w.At[i].Start < w.Until }
