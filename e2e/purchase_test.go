package e2e

import (
	"strings"
	"testing"
)

// A purchase is weighed, cost against what is left over; more margin is taken
// and undone; and two jobs that buy together pay no more than apart.
func TestCostAgainstLeftoverAndBuyingTogether(t *testing.T) {
	t.Parallel()
	p := begin(t, "Rope store")
	p.at("measure")
	p.rectangle("6 m", "5 m")
	p.at("build-up")
	p.choose("Add a coat of", "Undertow")
	p.at("kits")
	p.sees("[data-test=kit-undertow-mb2]", "L set")
	p.click("[data-test=choices-undertow-mb2] [aria-expanded]")
	p.sees("[data-test=choices-undertow-mb2] tr.chosen", "least cost")
	dear := value[string](p, `document.querySelector('[data-test=total-cost]').innerText`)
	p.button("Buy this")
	p.until(`document.querySelector('[data-test=total-cost]').innerText !== ` + `'` + dear + `'`)
	p.saved()
	p.look("choices")
	p.click("[data-test=undo]")
	p.until(`document.querySelector('[data-test=total-cost]').innerText === ` + `'` + dear + `'`)
	p.saved()

	p.newJob("Buoy shed")
	p.at("measure")
	p.rectangle("5 m", "4 m")
	p.at("build-up")
	p.choose("Add a coat of", "Undertow")
	p.at("kits")
	p.sees("[data-test=kit-undertow-mb2]", "L set")
	p.saved()
	p.open("/jobs")
	p.click(`[aria-label="Choose Buoy shed for a purchase"]`)
	p.sees("main", "Choose another job for a combined purchase")
	p.click(`[aria-label="Choose Rope store for a purchase"]`)
	p.click("[data-test=together]")
	p.sees("[data-test=together]", "saved")
	p.sees("main table", "Rope store")
	p.sees("main table", "Buoy shed")
	p.look("together")
	if text := value[string](p, `document.querySelector('[data-test=together]').innerText`); strings.Contains(text, "-") ||
		strings.Contains(text, "−") {
		t.Errorf("buying together costs more: %s", text)
	}
}
