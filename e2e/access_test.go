package e2e

import (
	"compress/gzip"
	"fmt"
	"io"
	"net/http"
	"os"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"nephelon/demo"
)

// TestNoSeriousFaultForAnyone runs axe-core over every screen in both colours.
func TestNoSeriousFaultForAnyone(t *testing.T) {
	t.Parallel()
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal(err)
	}
	p := newPage(t, theStage.address)
	run := func(name, rules string) {
		t.Helper()
		if !value[bool](p, `!!window.axe`) {
			value[bool](p, string(axe)+"; true")
		}
		p.do(chromedp.Evaluate[chromedp.Void](
			`window.axeFound = undefined; axe.run(document, { preload: false, resultTypes: ['violations']` + rules +
				` }).then(r => window.axeFound = r.violations.filter(v => ['moderate', 'serious', 'critical'].includes(v.impact)).map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.html.slice(0, 160) + ' ' + document.querySelector(n.target[0])?.innerText.slice(0, 80) + ' — ' + n.failureSummary).join(' | ')))`))
		p.until(`window.axeFound !== undefined`)
		for _, fault := range value[[]string](p, `window.axeFound`) {
			t.Errorf("%s: %s", name, fault)
		}
	}
	// Everything by day, and what night can change, its contrasts, by night on every third.
	views := 0
	check := func(name string) {
		t.Helper()
		// The pointer rests nowhere: what it would open depends on how long the page takes.
		p.do(chromedp.MouseEvent(chromedp.MouseMoved, 1, 1))
		p.until(`!document.querySelector('.v-tooltip.v-overlay--active')`)
		run(name, "")
		if views++; views%3 != 0 {
			return
		}
		turn := `[...document.querySelectorAll('button')].find(b => ['Light or dark colours', 'Day or night'].includes(b.getAttribute('aria-label') ?? b.innerText.trim()))?.click() ?? true`
		if !value[bool](p, `!!document.querySelector('.v-theme--daylight')`) ||
			value[bool](p, `!`+turn[:len(turn)-len("?.click() ?? true")]) {
			return
		}
		value[bool](p, turn)
		p.until(`!!document.querySelector('.v-application.v-theme--night') &&
			!document.getAnimations().some(a => a instanceof CSSTransition)`)
		run(name+", night", `, runOnly: ['color-contrast']`)
		value[bool](p, turn)
		p.until(`!!document.querySelector('.v-application.v-theme--daylight') &&
			!document.getAnimations().some(a => a instanceof CSSTransition)`)
	}
	p.open("/sign-in")
	p.sees("h1", "From the tape")
	value[bool](p, `(localStorage.setItem('nephelon.theme', 'daylight'), true)`)
	p.open("/sign-in")
	p.sees("h1", "From the tape")
	check("sign-in")
	p.signIn("runa@brakkwater.example")
	p.sees("a.job", "Baggage hall")
	p.sees("[data-test=due]", demo.Finished) // its full cure, whatever the hour
	check("jobs")
	p.goTo("/roster")
	p.sees("[data-test=day-list]", "Coat")
	check("roster")
	p.goTo("/jobs")
	p.sees("a.job", "Baggage hall")
	p.click("[data-test=new-job]")
	p.until(`document.activeElement?.tagName === 'INPUT'`)
	p.until(`!document.querySelector('[class*=transition-enter]')`)
	check("new job")
	p.openJob("Settling basin")
	p.at("measure")
	p.sees("[data-test=area]", "m²")
	p.at("pour")
	p.until(`!!document.querySelector('.findings')`)
	check("pour")
	p.part("tape")
	p.sees("[data-test=section-plan]", "")
	check("tape")
	p.part("crew")
	check("crew of the pour")
	p.at("measure")
	p.outlining()
	check("drawing")
	p.at("pour")
	p.click("[data-test=to-cards]")
	p.sees("[data-test=mix-card]", "Drumlin")
	check("cards")
	p.openJob("Seal nursery")
	p.until(`!!document.querySelector('[data-test=shape]')`)
	p.unfold()
	check("pool")
	for _, step := range []string{"survey", "build-up", "kits", "batches"} {
		p.at(step)
		p.unfold()
		check(step)
	}
	p.part("times")
	p.sees("[data-test=film-2]", "recoat from")
	check("curing times")
	p.at("measure")
	p.surface("Wading lagoon")
	p.until(`!!document.querySelector('[data-test=depth]')`)
	check("freeform pool")
	p.openJob("Oyster bar")
	p.at("measure")
	p.until(`!!document.querySelector('[data-test=strip]')`)
	check("top")
	p.openJob("Settling basin")
	p.at("measure")
	p.click("[data-test=to-sheets]")
	p.sees("[data-test=measuring-sheet]", "Drain sump")
	check("measuring sheet")
	for name, job := range map[string]string{"day": demo.Today, "record": demo.Finished} {
		p.openJob(job)
		p.click("[data-step=days]")
		p.sees("[data-test=issue]", "Plan 1")
		check("days of the " + name)
		p.button(map[string]string{"day": "Job day", "record": "Record"}[name])
		p.sees(map[string]string{"day": "[data-test=now]", "record": "[data-test=coat-summary]"}[name],
			map[string]string{"day": "Now", "record": "Keelbody"}[name])
		p.unfold()
		check(name)
		if name == "day" {
			p.click("[data-test=change-plan]")
			p.sees("[data-test=enough]", "pails opened")
			check("change of plan")
			p.until(`document.querySelector('[data-phase=preparation]')?.click() ?? true`)
			p.sees("[data-test=preparation]", "closed")
			check("preparation on the day")
		}
		if name == "record" {
			for _, part := range []string{"coats", "handover", "defects"} {
				p.part(part)
				p.sees(map[string]string{"coats": "[data-test=day-ribbons]", "handover": "[data-test=handover]",
					"defects": "[data-test=faults]"}[part], map[string]string{"coats": "Batch", "handover": "Hand-over",
					"defects": "off its ratio"}[part])
				check(part + " of the record")
			}
		}
	}
	parts := map[string][]string{
		"/shelf/p/keelbody-100/edit": {"film", "times", "conditions", "compatibility", "sold"},
		"/house":                     {"preparation", "mixing"},
		"/bench/keelbody-100":        {"film", "parts", "spread"},
	}
	for _, view := range [][2]string{
		{"/shelf", "Undertow"}, {"/shelf/p/shoalbody-f", "Slow hardener"}, {"/shelf/p/keelbody-100/edit", "Parts of A"},
		{"/shelf/media", "Mudflat"},
		{"/shelf/systems", "Pebble deck"}, {"/shelf/compare?id=gullwing-ur&id=tern-ur-sat", "Tern UR"},
		{"/shelf/read", "Nothing is saved"},
		{"/stock", "UT-2607"}, {"/house", "Time zone"}, {"/bench/keelbody-100", "can be used for"},
		{"/people", "Tess Arnaud"}, {"/people/crews", "Limited equipment"}, {"/people/calendars", "private address"},
		{"/start", "Set up your company"},
		{"/records", "Own floors"}, {"/account", "Active sessions"}, {"/set-password#none", "Set your password"},
		{"/nowhere", "Page not found"},
	} {
		p.goTo(view[0])
		p.sees("main", view[1])
		check(view[0])
		for _, part := range parts[view[0]] {
			p.part(part)
			p.until(fmt.Sprintf(`!!document.querySelector('[data-part=%s][aria-selected=true]')`, part))
			check(part + " of " + view[0])
		}
	}
}

// keys presses keys where the focus is.
func (p *page) keys(text string) {
	p.t.Helper()
	p.do(chromedp.KeyEvent(text))
}

// tabTo presses Tab until the focus is on what a script accepts.
func (p *page) tabTo(accepts string) {
	p.t.Helper()
	for range 120 {
		if value[bool](p, `(() => { const e = document.activeElement; return !!(`+accepts+`) })()`) {
			return
		}
		p.keys(kb.Tab)
	}
	p.t.Fatalf("the keyboard does not reach %s\nthe page reads: %s", accepts, p.glance())
}

func label(text string) string {
	return `(e.getAttribute('aria-label') ?? e.labels?.[0]?.textContent ?? e.innerText)?.trim() === '` + text + `'`
}

// The whole job by keyboard alone, from sign-in to the cards.
func TestByKeyboardAlone(t *testing.T) {
	p := newPage(t, theStage.address)
	p.open("/sign-in")
	p.sees("h1", "From the tape")
	p.tabTo(label("E-mail address"))
	p.keys("oskar@brakkwater.example" + kb.Tab)
	p.keys(demo.Password + kb.Enter)
	p.until(`location.pathname === '/jobs'`)
	p.sees("a.job", "Baggage")
	p.tabTo(label("New job"))
	p.keys(kb.Enter)
	p.until(`document.activeElement?.labels?.[0]?.textContent === 'Name of the job'`)
	p.keys("Ropewalk" + kb.Enter)
	p.until(`!!document.querySelector('[data-test=save-state]')`)
	value[bool](p, `(document.activeElement.blur(), true)`)

	p.keys("d")
	p.at("measure")
	p.until(`!!document.querySelector('[data-test=wall-entry]')`)
	for i, w := range []struct{ way, length string }{{"right", "9 m"}, {"up", "3 m"}, {"left", "9 m"}} {
		p.tabTo(label(w.way))
		p.keys(" ")
		p.tabTo(label("Length of the wall"))
		p.keys(w.length + kb.Enter)
		p.until(`document.querySelectorAll('.walls li').length === ` + string(rune('1'+i)))
		p.do(chromedp.KeyEvent(kb.Tab, chromedp.KeyModifiers(kb.ModifierShift)))
	}
	p.tabTo(label("Close the outline"))
	p.keys(kb.Enter)
	p.sees("[data-test=area]", "27 m²")
	p.at("build-up")
	p.tabTo(label("Add a coat of"))
	p.keys("Keelb")
	p.sees("[role=listbox]", "Keelbody")
	p.until(`document.querySelectorAll('[role=listbox] [data-product]').length === 1`)
	p.keys(kb.Enter)
	p.sees("[data-test=coat-1]", "Keelbody")
	p.saved()
	value[bool](p, `(document.activeElement.blur(), true)`)
	p.keys("?")
	p.sees(".v-dialog", "Keyboard")
	p.until(`!!document.activeElement?.closest('.v-dialog')`)
	p.keys(kb.Escape)
	p.until(`!document.querySelector('.v-dialog.v-overlay--active')`)
	value[bool](p, `(document.activeElement.blur(), true)`)
	p.keys("p")
	p.sees("[data-test=mix-card]", "Keelbody 100")
}

// The first page stays small, and all of it comes from the host: newPage fails
// on any request that does not.
func TestTheFirstPageIsSmall(t *testing.T) {
	const most = 250 << 10
	p := newPage(t, theStage.address)
	p.open("/sign-in")
	p.sees("h1", "From the tape")
	first := loaded(p)
	p.signIn("oskar@brakkwater.example")
	p.sees("a.job", "Baggage")
	total := 0
	for name := range mergeKeys(first, loaded(p)) {
		size := gzipped(t, name)
		total += size
	}
	t.Logf("sign-in and job list: %d kB gzip of script, fonts and styles", total>>10)
	if total > most {
		t.Errorf("the first page is %d bytes gzip, at most %d", total, most)
	}
}

func loaded(p *page) map[string]bool {
	names := make(map[string]bool)
	for _, name := range value[[]string](p, `performance.getEntriesByType('resource').map(e => e.name)`) {
		if strings.Contains(name, "/assets/") {
			names[name] = true
		}
	}
	return names
}

func mergeKeys(a, b map[string]bool) map[string]bool {
	for name := range b {
		a[name] = true
	}
	return a
}

func gzipped(t *testing.T, address string) int {
	t.Helper()
	answer, err := http.Get(address)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	var count counter
	w := gzip.NewWriter(&count)
	if _, err := io.Copy(w, answer.Body); err != nil {
		t.Fatal(err)
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return int(count)
}

type counter int

func (c *counter) Write(b []byte) (int, error) {
	*c += counter(len(b))
	return len(b), nil
}
