package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
)

// A tape walk with one wrong reading, found and corrected: 8.35 m was written
// down for a wall of 8.53 m. The room is 8.53 m × 4.1 m = 34.97 m².
func TestATapeWalkFindsItsWrongReading(t *testing.T) {
	t.Parallel()
	p := begin(t, "Gauge house")
	p.at("measure")
	p.outlining()
	p.typed("Length of the wall", "8.35 m, left, 4100")
	p.sees(".field-told", "= 8.35 m, = 4.1 m")
	p.fill("Length of the wall", "8.35 m, left, 4100, left, 8.53 m, left, 4.1 m")
	p.until(`document.querySelectorAll('.walls li').length === 4`)
	p.button("Back at the start")
	p.sees("[data-test=closure]", "The walk ends 0.18 m from its start: 0.18 m too far left.")
	p.sees("[data-test=closure] .likely", "Wall 1 would be 8.53 m instead of 8.35 m: two figures changed places.")
	p.button("Use this")
	p.until(`!document.querySelector('[data-test=closure]')`)
	p.sees("[data-test=so-far]", "34.97 m²")
	p.button("Close the outline")
	p.sees("[data-test=area]", "34.97 m²")

	// Nonsense in a walk is refused in one sentence and stays where it was typed.
	p.outlining()
	p.fill("Length of the wall", "5 m, left 270, 3 m")
	p.sees(".v-messages, .field-told", "a turn must be between 0° and 180°")
	if kept := value[string](p, `document.querySelector('[data-field]').value`); kept != "5 m, left 270, 3 m" {
		t.Errorf("what was typed became %q", kept)
	}
	// A corner that is not square, pinned by its diagonal: 3, 4 and 5 make a
	// right angle.
	p.fill("Length of the wall", "3 m, 4 m diagonal 5 m left, left, 3 m")
	p.until(`document.querySelectorAll('.walls li').length === 3`)
	p.button("Close the outline")
	p.sees("[data-test=area]", "12 m²")
	// The next wall is turned by an arrow key, or a letter where no field takes it.
	p.outlining()
	p.fill("Length of the wall", "6 m")
	p.until(`document.querySelector('[data-test=walk] input').value === ''`)
	p.keys(kb.ArrowUp)
	p.fill("Length of the wall", "2 m")
	p.until(`document.querySelectorAll('.walls li').length === 2`)
	value[bool](p, `(document.activeElement.blur(), true)`)
	p.keys("l")
	p.fill("Length of the wall", "6 m")
	p.until(`document.querySelectorAll('.walls li').length === 3`)
	p.button("Close the outline")
	p.sees("[data-test=area]", "12 m²")
	p.sees("[data-test=perimeter]", "16 m")
	p.saved()
}
