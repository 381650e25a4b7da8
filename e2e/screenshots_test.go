//go:build screenshots

package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"

	"nephelon/demo"
)

// TestScreenshots renews the pictures of docs/screenshots from the demo data;
// `make screenshots` asks for it by naming the folder.
func TestScreenshots(t *testing.T) {
	folder := os.Getenv("NEPHELON_SCREENSHOTS")
	p := newPage(t, theStage.address)
	take := func(name string) {
		t.Helper()
		p.until(`document.fonts.status === 'loaded' && !document.querySelector('[class*=transition-enter]')`)
		p.picture(filepath.Join(folder, name+".png"))
	}
	p.open("/sign-in")
	p.sees("h1", "From the tape")
	value[bool](p, `(localStorage.setItem('nephelon.theme', 'daylight'), true)`)
	p.open("/sign-in")
	p.sees("h1", "From the tape")
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.sees("a.job", "m²")
	take("home")
	p.openJob("Baggage hall")
	p.sees("[data-test=area]", "109.08 m²")
	take("measure")
	p.at("survey")
	p.sees("[data-test=fit]", "")
	p.part("weather")
	p.choose("Climate of the forecast", "plateau")
	p.click("[data-test=fetch-forecast]")
	p.until(`!!document.querySelector('[data-test=forecast] :is(.go, .wait, .stop)')`)
	p.part("preparation")
	p.sees("[data-test=preparation]", "")
	take("preparation")
	p.click("[data-test=undo]")
	p.saved()
	for _, step := range []string{"build-up", "kits", "batches"} {
		p.at(step)
		take(step)
	}
	for name, job := range map[string]string{"day": demo.Today, "record": demo.Finished} {
		p.openJob(job)
		p.click("[data-step=days]")
		p.button(map[string]string{"day": "Job day", "record": "Record"}[name])
		p.sees(map[string]string{"day": "[data-test=now]", "record": "[data-test=coat-summary]"}[name],
			map[string]string{"day": "Now", "record": "Keelbody"}[name])
		take(name)
	}
	p.openJob("Baggage hall")
	p.at("pour")
	p.sees("[data-test=answer-now]", "enough")
	p.sees("[data-test=odds]", "On time in")
	p.sees("[data-test=ways]", "of the runs")
	value[bool](p, `(() => {
		const scrub = document.querySelector('[data-test=scrub]');
		scrub.value = String((+scrub.min + +scrub.max) * 0.55);
		scrub.dispatchEvent(new Event('input', { bubbles: true }));
		return true;
	})()`)
	take("pour")
	p.click("[data-test=to-cards]")
	p.sees("[data-test=mix-card]", "Undertow")
	take("mix-card")
	p.do(chromedp.EmulateViewport(390, 844))
	value[bool](p, `(document.querySelector('[data-test=mix-card]').scrollIntoView(), true)`)
	take("mix-card-phone")
	p.do(chromedp.EmulateViewport(1280, 800))
	p.openJob("Seal nursery")
	p.until(`!!document.querySelector('[data-test=shape]')`)
	take("pool")
	p.openJob("Oyster bar")
	p.until(`!!document.querySelector('[data-test=strip]')`)
	take("top")
	p.open("/shelf")
	p.sees("td", "Undertow")
	take("shelf")
	p.open("/shelf/p/shoalbody-f")
	p.sees("main", "Winter hardener")
	take("data-sheet")
	p.open("/bench/shoalbody-f")
	p.sees("[data-test=bench-life]", "can be used for")
	p.until(`document.querySelectorAll('main svg text').length > 20`)
	value[bool](p, `(window.scrollTo(0, 0), true)`)
	take("bench")
	p.open("/roster")
	p.sees("[data-test=roster-chart]", "")
	p.choose("Zoom", "Weeks")
	value[bool](p,
		`(document.querySelector('.ribbon[aria-label*="Baggage hall, coat 2"]').dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true })), true)`)
	p.sees("[data-test=booking]", "Closes")
	take("roster")
	p.openJob("Buoy store")
	p.click("[data-step=days]")
	p.sees("[data-test=promises]", "Buoy store")
	take("days")
	p.units("us")
	value[bool](p, `(localStorage.setItem('nephelon.theme', 'night'), true)`)
	p.openJob("Lamp room")
	p.sees("[data-test=area]", "ft²")
	p.at("pour")
	p.part("tape")
	p.until(`!!document.querySelector('[data-test=section-plan]')`)
	take("sections-night-us")
	p.units("metric")
}
