package e2e

import (
	"github.com/chromedp/chromedp"
	"testing"

	"nephelon/demo"
)

// A day runs on a tablet: the plan that was issued is open with what was logged, and a touch
// is on screen and sent.
func TestTheDayRunsOnTheFloor(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("tess@brakkwater.example")
	p.openJob(demo.Today)
	p.click("[data-step=days]")
	p.sees("[data-test=issue]", "Plan 1")
	p.look("issue")
	p.button("Job day")
	p.sees("[data-test=now]", "Now")
	p.until(`document.querySelector('[data-test=sent]').innerText === 'Sent'`)
	p.look("day")
	p.button("‹ Record")
	p.sees("[data-test=day-ribbons]", "Batch 1")
	p.look("record")
	p.openJob(demo.Finished)
	p.click("[data-step=days]")
	p.button("Record")
	p.sees("[data-test=faults]", "off its ratio")
	p.do(chromedp.ScrollIntoView(chromedp.CSS("[data-test=faults]")))
	p.look("record-finished")
}
