package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
)

// The hour of a pour is gone through before the first bucket: a crew that does not make
// it is told so, the hour is played and stepped to its tight moment, another crew is
// tried and taken over, and the running sheet prints on one page.
func TestThePourIsPlayedAndMended(t *testing.T) {
	p := begin(t, "Eel house")
	p.rectangle("11 m", "7 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.at("batches")
	p.fill("People spreading (not the mixer)", "1")
	p.fill("Pace of one person", "8 m²/h")
	p.saved()
	p.at("pour")
	p.sees("[data-test=answer-now]", "2 people do not make it")
	p.sees("[data-test=answer-now]", "too late")
	p.sees("[data-test=odds]", "Made in")
	p.sees("[data-test=ways]", "Another on the floor")
	p.look("pour-late")
	before := value[string](p, `document.querySelector('[data-test=hour-at]').textContent`)
	p.choose("Speed", "120")
	p.click("[data-test=play]")
	p.until(`document.querySelector('[data-test=hour-at]').textContent !== ` + "`" + before + "`" + ` && !!document.querySelector('[data-test=pour-floor] .laying')`)
	p.click("[data-test=play]")
	p.look("pour-playing")
	p.click("[data-test=next-tight]")
	// Another crew is tried beside the present one, and taken over.
	p.fill("People on the floor", "4")
	p.sees("[data-test=answer-tried]", "5 people make it")
	p.sees("[data-test=answer-now]", "2 people do not make it")
	p.look("pour-tried")
	p.click("[data-test=take-over]")
	p.until(`!document.querySelector('[data-test=answer-tried]')`)
	p.sees("[data-test=answer-now]", "5 people make it")
	p.saved()
	p.click("[data-test=undo]")
	p.sees("[data-test=answer-now]", "2 people do not make it")
	p.click("[data-test=to-running]")
	p.sees("[data-test=running]", "1")
	p.sees("[data-test=running-sheet]", "Have ready")
	p.look("running")
	if pages := p.printedPages(); pages != 1 {
		t.Errorf("the running sheet takes %d pages", pages)
	}
	p.do(chromedp.NavigateBack())
}
