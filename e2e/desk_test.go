package e2e

import (
	"encoding/json"
	"fmt"
	"os"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/demo"
	"nephelon/server/sessions"
	"nephelon/store"
)

// The job's line shows what an edit moved and by how much, until the next edit; a
// click on a figure goes to where it is worked out.
func TestTheLineShowsWhatAnEditMoved(t *testing.T) {
	t.Parallel()
	p := begin(t, "Slipway shed")
	p.rectangle("6 m", "5 m")
	p.sees("[data-test=line-area]", "30 m²")
	p.at("build-up")
	p.choose("Add a coat of", "Undertow")
	p.sees("[data-test=line-film]", "1 coat")
	p.fill("Amount of coat 1", "200 µm")
	p.sees("[data-test=line-mix]", "6.38 L") // 30 m² × 200 µm ÷ (1 − 6 %)
	p.saved()
	p.fill("Loss of coat 1", "5 %")
	p.sees("[data-test=line-mix]", "6.32 L")
	p.saved()
	p.fill("Amount of coat 1", "300 µm")
	p.sees("[data-test=line-mix]", "9.47 L")
	p.sees("[data-test=line-mix] [data-test=moved]", "+3.16 L")
	if value[bool](p, `!!document.querySelector('[data-test=line-area] [data-test=moved]')`) {
		t.Error("the area is said to have moved")
	}
	p.click("[data-test=line-area]")
	p.sees("[data-test=area]", "30 m²")
	p.fill("Wall 1, from corner 1", "7 m")
	p.sees("[data-test=line-area] [data-test=moved]", "+5 m²")
	p.click("[data-test=undo]")
	p.sees("[data-test=line-area] [data-test=moved]", "−5 m²")
	p.saved()
	p.do(chromedp.Reload())
	p.sees("[data-test=line-area]", "30 m²")
	p.until(`!document.querySelector('[data-test=moved]')`)
}

// Without a mouse from the first step to the last, and round the things that need
// a decision.
func TestTheKeyboardGoesThroughAJob(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.openJob("Settling basin")
	p.sees("[data-test=area]", "m²")
	value[bool](p, `(document.activeElement.blur(), true)`)
	for _, step := range []string{"survey", "build-up", "kits", "batches", "pour"} {
		p.keys("]")
		p.until(fmt.Sprintf(`!!document.getElementById(%q)`, step))
	}
	p.keys("[")
	p.until(`!!document.getElementById("batches")`)
	p.keys("1")
	p.until(`!!document.getElementById("measure")`)
	p.keys(".")
	p.until(`document.activeElement?.matches('.findings .warning, .findings .refused')`)
	p.keys("?")
	p.sees("[role=dialog]", "The next finding that needs a decision")
	// The focus goes back where it was, and from a page to the heading of the next.
	p.keys(kb.Escape)
	p.until(`document.activeElement?.matches('.findings .warning, .findings .refused')`)
	palette := func(words, found string) {
		t.Helper()
		p.do(chromedp.KeyEvent("k", chromedp.KeyModifiers(kb.ModifierCtrl)))
		p.until(`document.activeElement?.matches('[data-test=palette] input')`)
		p.keys(words)
		p.sees("[data-test=palette] li[aria-selected=true]", found)
		p.keys(kb.Enter)
	}
	palette("baggage", "Baggage hall, north pier")
	p.until(`document.querySelector('.name input')?.value === 'Baggage hall, north pier'`)
	palette("undertow", "Undertow")
	p.until(`document.activeElement?.matches('h1') && document.activeElement.innerText.includes('Undertow')`)
	// The title is drawn before a page is mounted, and the focus is on the heading that stays.
	value[bool](p, `(new MutationObserver(() => {
		window.early ??= document.querySelector('main h1.early')?.innerText;
	}).observe(document.getElementById('main'), { subtree: true, childList: true }), true)`)
	palette("stock", "Stock")
	p.until(`location.pathname === '/stock' && document.activeElement?.matches('h1:not(.early)') && window.early === 'Stock'`)
	// The face of the clock is the person's: the page and the server's sentences tell by the same.
	palette("12-hour", "12-hour clock")
	palette("baggage", "Baggage hall, north pier")
	p.until(`/\d:\d\d\s[AP]M/.test(document.querySelector('[data-test=line]')?.innerText)`)
	p.click("[data-step=pour]")
	p.until(`/by \w+ \d+:\d\d [AP]M|\d:\d\d [AP]M/.test(document.querySelector('#pour')?.innerText)`)
	palette("24-hour", "24-hour clock")
	p.until(`/\d\d:\d\d(?!\s[AP]M)/.test(document.querySelector('[data-test=line]')?.innerText)`)
}

// A device without room keeps nothing over a reload, and says so; what is edited
// is sent all the same.
func TestAFullDeviceLosesNothing(t *testing.T) {
	t.Parallel()
	p := begin(t, "Ballast store")
	p.rectangle("4 m", "3 m")
	p.saved()
	value[bool](p, `(() => {
		IDBObjectStore.prototype.put = () => { throw new DOMException('full', 'QuotaExceededError') }
		const send = window.fetch
		window.held = true
		window.fetch = async (request, ...rest) => {
			if (window.held && request.method === 'PATCH') throw new TypeError('no signal')
			return send(request, ...rest)
		}
		return true
	})()`)
	p.fill("Wall 1, from corner 1", "5 m")
	p.sees("[data-test=unkept]", "no room left to keep unsent edits")
	p.sees("[role=alert]", "kept in this page")
	value[bool](p, `(window.held = false, true)`)
	p.saved()
	p.until(`!document.querySelector('[data-test=unkept]')`)
	p.do(chromedp.Reload())
	p.sees("[data-test=area]", "15 m²")
}

// keeps waits until the device holds so many unsent edits.
func (p *page) keeps(edits int) {
	p.t.Helper()
	p.until(
		fmt.Sprintf(
			`new Promise(done => { const ask = indexedDB.open('nephelon'); ask.onsuccess = () => { const all = ask.result.transaction('edits').objectStore('edits').count(); all.onsuccess = () => { ask.result.close(); done(all.result === %d) } } })`, edits))
}

// Unsent edits outlive a reload.
func TestUnsentEditsOutliveAReload(t *testing.T) {
	t.Parallel()
	p := begin(t, "Chart room")
	p.rectangle("4 m", "3 m")
	p.saved()
	p.blocks("*://*:*/api/jobs/*")
	p.fill("Name of this surface", "Chart floor")
	p.until(`document.querySelector('[data-test=save-state]').dataset.state === 'away'`)
	p.keeps(1)
	p.do(chromedp.Reload())
	p.sees("main", "The server does not answer")
	p.blocks("*://*:*/nowhere")
	p.saved()
	p.sees("[role=tab]", "Chart floor")
}

// An edit that was left on the device though the server had kept it, and that others
// followed, never hides what they did.
func TestAnEditLeftBehindHidesNothing(t *testing.T) {
	t.Parallel()
	p := begin(t, "Hemp house")
	p.rectangle("4 m", "3 m")
	p.saved()
	p.until(`window.left ??= (async () => {
		const id = location.pathname.split('/')[2]
		const read = async () => (await fetch('/api/jobs/' + id)).json()
		const save = (job, saveId, value) => fetch('/api/jobs/' + id, {
			method: 'PATCH', headers: { 'Content-Type': 'application/json' },
			body: JSON.stringify({ base: job.revision, saveId, patch: [{ op: 'replace', path: '/job/surfaces/0/name', value }] }),
		})
		const before = await read(), left = crypto.randomUUID()
		await save(before, left, 'Rope floor')
		const mine = await read()
		await save(mine, crypto.randomUUID(), 'Hemp floor')
		const me = await (await fetch('/api/me')).json()
		await new Promise((done, fail) => {
			const ask = indexedDB.open('nephelon')
			ask.onsuccess = () => {
				const change = ask.result.transaction('edits', 'readwrite')
				change.objectStore('edits').put({ base: before.revision, saveId: left, from: JSON.stringify(before.file), file: JSON.stringify(mine.file) }, me.id + '/' + id)
				change.oncomplete = () => { ask.result.close(); done() }
				change.onerror = fail
			}
		})
		return true
	})()`)
	p.keeps(1)
	p.do(chromedp.Reload())
	p.keeps(0)
	p.saved()
	p.sees("[role=tab]", "Hemp floor")
}

// On a phone no page of a job scrolls sideways, and the head is at most 56 px; paper cuts nothing
// of the cards off.
func TestAJobFitsAPhoneAndPaper(t *testing.T) {
	t.Parallel()
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.do(chromedp.EmulateViewport(390, 844))
	touch := emulation.SetTouchEmulationEnabledParams{Enabled: true}
	if _, err := chromedp.Call(p.ctx, emulation.SetTouchEmulationEnabled, touch); err != nil {
		t.Fatal(err)
	}
	fits := func(where string) {
		t.Helper()
		// 44 px for a finger (WCAG 2.2, 2.5.5 as it is for the enhanced level).
		if small := value[[]string](p, `[...document.querySelectorAll('main button, main a, main input, main select')]
			.filter(e => e.offsetParent && !e.closest('svg, p, .jobs, .day-list, .chart, .working'))
			.map(e => [e, e.closest('.v-selection-control, label, .v-field') ?? e])
			.filter(([, held]) => held.getBoundingClientRect().height < 43.5)
			.map(([e]) => e.tagName + '.' + e.className + ' ' + e.innerText)`); len(small) > 0 {
			t.Errorf("%s: too small for a finger: %q", where, small)
		}
		if wide := value[float64](p, `document.documentElement.scrollWidth`); wide > 390 {
			t.Errorf("%s is %v px wide: %v", where, wide,
				value[[]string](p,
					`[...document.querySelectorAll('main *')].filter(e => e.getBoundingClientRect().right > 391 && !e.closest('.scroll, svg')).slice(0, 6).map(e => e.tagName + '.' + e.className)`))
		}
		// Letters are at least 13 px high, in drawings as well, and on cards made smaller. A drawing
		// that has just come takes its width when its frame is laid out.
		if small := value[[]string](p, `(async () => {
			const small = () => [...document.querySelectorAll('main *')]
			.filter(e => e.checkVisibility() && [...e.childNodes].some(n => n.nodeType === 3 && n.textContent.trim()))
			.filter(e => {
				const drawn = e instanceof SVGElement && e.getScreenCTM?.();
				const scale = drawn ? Math.hypot(drawn.a, drawn.b) : e.currentCSSZoom ?? 1;
				return parseFloat(getComputedStyle(e).fontSize) * scale < 12.9;
			}).map(e => e.tagName + ' ' + e.textContent.trim().slice(0, 20));
			for (const until = performance.now() + 8000; small().length > 0 && performance.now() < until;)
				await new Promise(requestAnimationFrame);
			return small();
		})()`); len(small) > 0 {
			t.Errorf("%s: letters too small: %q", where, small)
		}
		if head := value[float64](p, `document.querySelector('header').getBoundingClientRect().height`); head > 56 {
			t.Errorf("%s: the head is %v px high", where, head)
		}
	}
	p.sees("[data-test=today]", "")
	p.sees("[data-test=due]", "")
	fits("home")
	for _, name := range []string{"Baggage hall", "Oyster bar", "Seal nursery"} {
		p.openJob(name)
		for _, step := range []string{"measure", "survey", "build-up", "kits", "batches", "pour"} {
			p.at(step)
			p.until(`document.fonts.status === 'loaded'`)
			fits(name + ", " + step)
		}
	}
	p.click("[data-step=days]")
	p.sees("main", "When could it be done")
	fits("days")
	p.goTo("/records")
	p.typed("Search job, person, lot or words", demo.Finished) // what other journeys log comes before it
	p.sees("[data-test=entries]", demo.Finished)
	fits("records")
	p.button(demo.Finished)
	p.sees("[data-test=coat-summary]", "Keelbody")
	fits("record")
	for _, part := range []string{"coats", "handover", "defects"} {
		p.part(part)
		p.sees("[role=tab][aria-selected=true]", map[string]string{"coats": "Coats", "handover": "Hand-over",
			"defects": "Defects"}[part])
		fits(part + " of the record")
	}
	p.goTo("/roster")
	p.sees("main", "The next three weeks")
	fits("roster")
	for _, at := range []string{"/shelf", "/shelf/p/undertow-mb2", "/shelf/systems", "/shelf/media", "/stock", "/bench",
		"/house",
		"/people", "/people/crews", "/people/calendars", "/account", "/start"} {
		p.goTo(at)
		p.until(`!!document.querySelector('main h1') && !document.querySelector('main .v-skeleton-loader') &&
			!/Reading .*…/.test(document.querySelector('main').innerText)`)
		if at == "/bench" {
			p.until(`document.querySelectorAll('main svg text').length > 20`) // its charts are worked out first
		}
		fits(at)
	}
	p.do(chromedp.EmulateViewport(1055, 726)) // A4 across, less its margins
	p.openJob("Baggage hall")
	p.at("pour")
	p.click("[data-test=to-cards]")
	p.sees("[data-test=mix-card]", "Undertow")
	if _, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia,
		emulation.SetEmulatedMediaParams{Media: "print"}); err != nil {
		t.Fatal(err)
	}
	if cut := value[[]string](p,
		`[...document.querySelectorAll('main *')].filter(e => e.getBoundingClientRect().right > innerWidth + 1).slice(0, 6).map(e => e.tagName + '.' + e.className)`); len(cut) > 0 {
		t.Errorf("cut off on paper: %v", cut)
	}
}

// Home holds 500 jobs, by where they stand or in a table, and finds one of them.
func TestHomeWithFiveHundredJobs(t *testing.T) {
	t.Parallel()
	company, err := theStage.records.AddCompany(t.Context(), "Crowded Quay Coatings")
	if err != nil {
		t.Fatal(err)
	}
	hash, err := sessions.HashPassword(demo.Password)
	if err != nil {
		t.Fatal(err)
	}
	person, err := theStage.records.AddPerson(t.Context(),
		store.Person{CompanyID: company, Name: "Wren Oake", Email: "wren@crowded.example", Role: store.Estimator,
			PasswordHash: hash, Units: measure.Metric})
	if err != nil {
		t.Fatal(err)
	}
	text, err := os.ReadFile("../demo/jobs/lamp-room.nephelon.json")
	if err != nil {
		t.Fatal(err)
	}
	const many = 500
	for i := range many {
		var f job.File
		if err := json.Unmarshal(text, &f); err != nil {
			t.Fatal(err)
		}
		f.Job.Name = fmt.Sprintf("Light %03d", i)
		s := plan.Summary{Standing: []plan.Standing{plan.Measuring, plan.Planning, plan.Ready, plan.Finished}[i%4], Area: 38,
			Systems: []plan.Bands{{Surface: "Floor", Colors: []string{"#7f8c5a", "#b9b39a"}}}, Currency: "EUR"}
		if _, err := theStage.records.AddJob(t.Context(), company, person, f, s); err != nil {
			t.Fatal(err)
		}
	}
	p := newPage(t, theStage.address)
	p.signIn("wren@crowded.example")
	for _, group := range []string{"measuring", "planning", "ready", "done"} {
		p.sees("[data-test=group-"+group+"] .count", "125")
	}
	if tiles := value[int](p, `document.querySelectorAll('a.job').length`); tiles < 20 || tiles > 60 {
		t.Errorf("%d jobs are drawn at once", tiles)
	}
	p.typed("Search name, client or site", "Light 347")
	p.until(`document.querySelectorAll('a.job').length === 1`)
	p.sees("[data-test=group-done] a.job", "Light 347")
	// As a table: sorted by the keyboard, and only the rows in view exist.
	p.typed("Search name, client or site", "Light")
	p.button("Table")
	first := func(name string) {
		t.Helper()
		p.until(fmt.Sprintf(`document.querySelector('[data-test=job-table] tbody a')?.innerText === %q`, name))
	}
	p.until(`document.querySelectorAll('[data-test=job-table] tbody a').length > 9`)
	if rows := value[int](p, `document.querySelectorAll('[data-test=job-table] tbody a').length`); rows > 60 {
		t.Errorf("%d rows exist at once", rows)
	}
	p.tabTo(`e.tagName === 'TH' && e.innerText.startsWith('Job')`)
	p.keys("\r")
	first("Light 000")
	p.keys("\r")
	first("Light 499")
	p.button("Tiles")
}
