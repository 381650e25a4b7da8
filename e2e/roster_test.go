package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// The company's days: a sick day has broken a booking, a proposal mends it and is booked;
// a coat is moved by hand, and where it may not go the reason is told.
func TestTheRosterIsMendedAndMoved(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.open("/roster")
	p.sees("[data-test=broken]", "no longer hold")
	p.sees("[data-test=broken]", "does not work")
	p.look("roster-broken")
	p.click("[data-test=plan-roster]")
	p.sees("[data-test=proposal]", "A proposal, not booked yet")
	p.until(`!document.querySelector('[data-test=broken]')`)
	p.look("roster-proposal")
	p.click("[data-test=by-job]")
	p.sees(".names", "Ice wharf office")
	p.look("roster-by-job")
	p.button("By crew")
	p.click("[data-test=keep-roster]")
	p.until(`!document.querySelector('[data-test=proposal]') && !document.querySelector('[data-test=broken]')`)

	// A coat that begins with the shift is moved half an hour later by the keyboard, and
	// stays there; one whose window or shift does not let it says why, and the next is tried.
	const coats = `[...document.querySelectorAll('.ribbon')].filter((r) => / coat [23],.* 07:00 AM to/.test(r.ariaLabel))`
	const booked = `document.querySelector('[data-test=booked-at]').textContent`
	moved := false
	for n := value[int](p, coats+`.length`) - 1; n >= 0 && !moved; n-- {
		press := func(key string) {
			value[bool](p, fmt.Sprintf(`(%s[%d].dispatchEvent(new KeyboardEvent('keydown', { key: %q, bubbles: true })), true)`, coats, n, key))
		}
		press("Enter")
		p.sees("[data-test=booking]", "Ready")
		p.look("roster-chosen")
		before := value[string](p, booked)
		press("ArrowRight")
		p.until(fmt.Sprintf(`%s !== %q || !!document.querySelector('[data-test=refused]')`, booked, before))
		moved = value[bool](p, fmt.Sprintf(`%s !== %q`, booked, before))
	}
	if !moved {
		t.Fatal("no coat could be moved by half an hour")
	}
	p.sees("[data-test=pin]", "Unpin")
	// In the night nobody works.
	value[bool](p, `(() => {
		const begins = document.querySelector('[data-test=booking] input[type=datetime-local]');
		begins.value = '2026-01-05T03:00';
		begins.dispatchEvent(new Event('change', { bubbles: true }));
		return true;
	})()`)
	p.sees("[data-test=refused]", "past")
	p.click("[data-test=discard]")
	p.until(`!document.querySelector('[data-test=proposal]')`)

	// Another crew is added, gets a day off, and both are taken back.
	p.click("[data-test=add-crew]")
	p.sees("[data-test=crews]", "Day off of Crew 3")
	value[bool](p, `(() => {
		const day = [...document.querySelectorAll('[data-test=crews] input[type=date]')].at(-1);
		day.value = '2031-03-04';
		day.dispatchEvent(new Event('input', { bubbles: true }));
		return true;
	})()`)
	p.until(`!![...document.querySelectorAll('[data-test=crews] button')].findLast((b) => b.innerText === 'Add the day' && !b.disabled)`)
	value[bool](p, `([...document.querySelectorAll('[data-test=crews] button')].findLast((b) => b.innerText === 'Add the day').click(), true)`)
	p.sees("[data-test=crews]", "Off Tue")
	value[bool](p, `(document.querySelector('[data-test=crews]').scrollIntoView({ behavior: 'instant' }), true)`)
	p.look("roster-crews")
	for range 2 {
		p.click("[data-test=undo-crews]")
	}
	p.until(`!document.querySelector('[data-test=crews]').innerText.includes('Crew 3')`)

	p.open("/jobs")
	p.sees("[data-test=today]", "crew")
	p.look("home-today")

	// The days of one job, with the dates that can be promised.
	p.openJob("Kelp drying loft")
	p.click("[data-step=days]")
	p.sees("[data-test=promises]", "Kelp drying loft")
	p.look("roster-days")

	// On a phone nothing scrolls sideways, and the days are a list.
	p.do(chromedp.EmulateViewport(390, 844))
	for _, path := range []string{"", "/roster"} {
		if path != "" {
			p.open(path)
		}
		p.sees("[data-test=day-list]", "Coat")
		if wide := value[float64](p, `document.documentElement.scrollWidth`); wide > 390 {
			t.Errorf("%s is %v px wide on a phone", path, wide)
		}
		p.look("roster-phone" + strings.ReplaceAll(path, "/", "-"))
	}
	p.do(chromedp.EmulateViewport(1280, 800))
}
