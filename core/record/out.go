package record

import (
	"fmt"
	"time"
)

// Out holds that the section of a batch is not laid, as somebody decided.
type Out struct {
	At    time.Time `json:"at"`
	By    string    `json:"by"`
	Why   string    `json:"why" doc:"Who decided, and why"`
	Later bool      `json:"later,omitempty" doc:"It is laid another day"`
}

// sized returns the sentence about a pail whose size was decided on the day.
func sized(i *Issue, e *Event) string {
	coat, n, _ := BatchOf(e.Task)
	c := i.Coat(coat)
	if c == nil || n > len(c.Batches) {
		return fmt.Sprintf("Pail %d is not in this plan.", n)
	}
	b := &c.Batches[n-1]
	if b.Bare != nil && *b.Bare == 0 {
		return fmt.Sprintf("Pail %d is one more than planned, over section %d.", n, b.Card.Section)
	}
	return fmt.Sprintf("Pail %d is mixed in another size, %.0f%% of a whole one.", n, 100*float64(*e.Body.Share))
}

// later reports whether a section that is left out is laid another day, or whoever left came back.
func later(e *Event) bool { return e.Body.Yes != nil && !*e.Body.Yes }

// leave takes a section out that was not begun; a later touch of its batch brings it back.
func (d *BatchDay) leave(e *Event) {
	if d.Meets == nil && d.proven() == nil {
		d.Out, d.State = &Out{At: e.When(), By: e.Name, Why: e.Body.Reason, Later: later(e)}, NotLaid
		d.Events[LeftOut] = e.ID
	}
}

// passes puts a section that is left out on the clock: no time passes at it. It reports whether it is.
func (d *CoatDay) passes(k int, zero time.Time) bool {
	if d.Batches[k].Out == nil {
		return false
	}
	at := zero
	if k > 0 {
		at = d.Batches[k-1].Due.Laid
	}
	d.Batches[k].Due = Course{at, at, at, at, at}
	return true
}

// stops returns what is done where sections are left for another day; without text where the coat goes on.
func (d *CoatDay) stops(c *Coat) Say {
	last := 0
	for k := range d.Batches {
		switch b := &d.Batches[k]; {
		case b.Out != nil && b.Out.Later:
		case b.State != Finished && b.Out == nil:
			return Say{}
		case b.Out == nil:
			last = c.Batches[k].Card.Section
		}
	}
	if last == 0 || d.Done != nil {
		return Say{}
	}
	return Say{Do: "done", Text: fmt.Sprintf("Stopped after section %d. Straighten its edge along a tape and pull the "+
		"tape while the film is soft. The next day: abrade a hand's width of the edge, tape it, and go on from there. "+
		"Close the day.", last)}
}
