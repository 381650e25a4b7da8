package record

import "nephelon/core/kit"

// DrawnBy returns the mix that was made of each batch of a plan, once A met B, or once it was mixed or poured where
// nobody logged that, in order of time. What was lost was drawn, too, and once more where its section got another.
func DrawnBy(plan *Issue, events []Event) []kit.Drawn {
	batches := make(map[string]kit.Drawn)
	for _, c := range plan.Coats {
		for _, b := range c.Batches {
			batches[b.ID] = kit.Drawn{Product: c.Product.ID, Hardener: c.Hardener, Volume: b.Card.Volume}
		}
	}
	all := []kit.Drawn{}
	made := make(map[string]bool)
	for _, e := range Standing(events) {
		id := string(e.Task)
		d, planned := batches[id]
		switch e.Kind {
		case Lost:
			delete(made, id)
		case Meets, Mixed, Poured:
			if planned && !made[id] {
				made[id], d.At = true, e.When()
				all = append(all, d)
			}
		}
	}
	return all
}
