package roster

// window is the part of a plan that is open: some tasks, which stay between two slots.
type window struct {
	at          []placed
	open        []bool
	from, until Slot
}

// meets tells whether a task lies in the stretch that is open.
func (w *window) meets(i int) bool { return w.at[i].end > w.from && w.at[i].start < w.until }

