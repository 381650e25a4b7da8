package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
)

func TestBadInputIsRefusedAndKept(t *testing.T) {
	p := newPage(t, theStage.address)
	p.open("/sign-in")
	p.typed("E-mail address", "oskar@brakkwater.example")
	p.fill("Password", "wrong")
	p.sees("[role=alert]", "is wrong")
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.newJob("Bad weather")

	// Lengths that are none.
	p.at("measure")
	p.outlining()
	for typed, says := range map[string]string{"twelve": "not a number", "0": "longer than 0", "1,250 m": "may mean",
		"-3 m": "negative"} {
		p.typed("Length of the wall", typed)
		p.sees(".v-messages, .field-told", says)
		if kept := value[string](p, `document.querySelector('[data-field]').value`); kept != typed {
			t.Errorf("%q became %q", typed, kept)
		}
	}
	p.button("Cancel")
	p.until(`!document.querySelector('[data-test=wall-entry]')`)

	// An outline that crosses itself: refused with the reason, the drawing kept.
	p.outlining()
	for _, at := range [][2]float64{{-150, -80}, {150, 80}, {150, -80}, {-150, 80}} {
		p.clickOn("[data-test=outline]", at[0], at[1])
	}
	p.button("Close the outline")
	p.sees("#measure .findings .refused", "crosses itself: side 1 meets side 3")
	p.sees("#measure .findings .refused", "Move the corners")
	if corners := value[int](p, `document.querySelectorAll('[data-test=outline] .corner').length`); corners != 4 {
		t.Errorf("%d corners are left of the drawing", corners)
	}
	p.until(`document.querySelector('[data-step=measure]').dataset.state === 'warnings'`)
	p.until(`!!document.querySelector('.fault')`)

	// A hole outside.
	p.rectangle("6 m", "5 m")
	p.sees("[data-test=area]", "30 m²")
	p.click("[data-test=draw-hole]")
	p.wall("left", "2 m")
	p.wall("down", "1 m")
	p.wall("right", "1 m")
	p.button("Close the outline")
	p.sees("#measure .findings .refused", "Column 1")
	p.click("[data-test=undo]")
	p.sees("[data-test=area]", "30 m²")

	// A film outside the product's limits is a warning with numbers.
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.fill("Amount of coat 1", "4 mm")
	p.sees("#build-up .findings .warning", "over its maximum film of 2.6 mm")
	p.sees("#build-up .findings .warning", "Split it into 2 coats of 2 mm")
	p.fill("Amount of coat 1", "5 kg")
	p.sees(".v-messages", "not a unit of film")
	p.saved()

	// A file that is none.
	p.open("/jobs")
	name := filepath.Join(t.TempDir(), "cut-off.json")
	if err := os.WriteFile(name, []byte(`{"format":"nephelon-job","version":1,"jub":{}}`), 0o600); err != nil {
		t.Fatal(err)
	}
	p.until(`!!document.querySelector('input[type=file]')`)
	p.upload("input[type=file]", name)
	p.sees("[role=alert]", "/jub: This field is not known here")
}

func TestTwoPeopleEditingOneJob(t *testing.T) {
	t.Parallel()
	first, second := begin(t, "Sluice house"), newPage(t, theStage.address)
	first.rectangle("5 m", "4 m")
	first.at("measure")
	first.sees("[data-test=area]", "20 m²")
	first.saved()
	second.signIn("runa@brakkwater.example")
	second.blocks("*://*:*/api/jobs/*/changes")
	second.openJob("Sluice house")
	second.at("measure")
	second.sees("[data-test=area]", "20 m²")

	// The second hears nothing of the first's save, so the edits cross.
	first.fill("Name of this surface", "Gate floor")
	first.saved()
	second.fill("Wall 2, from corner 2", "6 m")
	second.sees("[data-test=conflict]", "Changed by Oskar Pym at")
	second.sees("[data-test=conflict]", "You changed")
	second.until(`!!document.activeElement?.closest('.v-overlay')?.querySelector('[data-test=conflict]')`)
	second.button("Merge both")
	second.until(`!document.querySelector('[data-test=conflict]')`)
	second.sees("[data-test=area]", "30 m²")
	second.sees("[role=tab]", "Gate floor")
	second.saved()
	// What one saves the other sees without asking.
	first.sees("[data-test=area]", "30 m²")
}

// blocks keeps the tab from reaching addresses.
func (p *page) blocks(pattern string) {
	p.t.Helper()
	if _, err := chromedp.Call(p.ctx, network.SetBlockedURLs,
		network.SetBlockedURLsParams{URLPatterns: []*network.BlockPattern{{URLPattern: pattern, Block: true}}}); err != nil {
		p.t.Fatal(err)
	}
}

func TestAServerThatGoesAwayLosesNothing(t *testing.T) {
	h, err := startHost("127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	p := newPage(t, h.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.newJob("Storm wall")
	p.at("measure")
	p.rectangle("3 m", "3 m")
	p.sees("[data-test=area]", "9 m²")
	p.saved()
	h.stop()
	p.fill("Name of this surface", "Breakwater walk")
	p.sees("[role=alert]", "cannot be reached")
	p.until(`document.querySelector('[data-test=save-state]').dataset.state === 'away'`)
	again, err := startHost(h.address)
	if err != nil {
		t.Fatal(err)
	}
	defer again.stop()
	p.saved()
	p.do(chromedp.Reload())
	p.sees("[role=tab]", "Breakwater walk")
}

// The database itself is gone for a while: pages still come, what is entered waits and is told
// as waiting, and is sent when it is back.
func TestTheDatabaseGoesWhileSomeoneTypes(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("runa@brakkwater.example")
	p.units("metric")
	p.newJob("Tide gauge hut")
	p.rectangle("3 m", "4 m")
	p.saved()
	job := value[string](p, `location.pathname`)
	p.open("/house")
	p.sees("main", "Cost of a person-hour")
	other := newPage(t, theStage.address)
	other.signIn("runa@brakkwater.example")
	other.open(job)
	other.sees("[data-test=area]", "12 m²")
	if err := theStage.cluster.Crash(t.Context()); err != nil {
		t.Fatal(err)
	}
	p.fill("Cost of a person-hour", "41")
	p.sees("[data-test=away]", "Your change waits")
	p.look("away")
	other.fill("Name of this surface", "Gauge well")
	other.until(`document.querySelector('[data-test=save-state]').dataset.state === 'away'`)
	if _, err := theStage.cluster.Revive(t.Context()); err != nil {
		t.Fatal(err)
	}
	p.until(`!document.querySelector('[data-test=away]')`)
	other.saved()
	p.open("/house")
	p.until(`[...document.querySelectorAll('input')].some(e => e.value === '41')`)
	other.open(job)
	other.sees("[role=tab]", "Gauge well")
}

func TestAHandReadsOnly(t *testing.T) {
	t.Parallel()
	p := newPage(t, theStage.address)
	p.signIn("bo@brakkwater.example")
	p.openJob("Lamp room")
	p.sees(".banner", "You can view this job")
	p.at("measure")
	if value[bool](p, `!!document.querySelector('[data-test=draw], [data-test=undo], [data-test=add-coat]')`) {
		t.Error("a hand is offered what they may not do")
	}
	p.at("pour")
	p.click("[data-test=to-cards]")
	p.click("[data-coat='2'] [data-sheet]:nth-of-type(2)")
	p.sees("[data-test=mix-card]", "Stir, then pour")
}

// A save whose answer is lost on its way back is no one else's change: it is
// sent again without a question.
func TestALostAnswerIsNotAConflict(t *testing.T) {
	t.Parallel()
	p := begin(t, "Ferry slip")
	p.at("measure")
	p.rectangle("4 m", "4 m")
	p.sees("[data-test=area]", "16 m²")
	p.saved()
	// The next save reaches the server, but the page hears only a broken line.
	value[bool](p, `(() => {
		const send = window.fetch
		let lost = false
		window.fetch = async (request, ...rest) => {
			const answer = await send(request, ...rest)
			if (!lost && request.method === 'PATCH') {
				lost = true
				window.answerLost = true
				throw new TypeError('the line broke')
			}
			return answer
		}
		return true
	})()`)
	p.fill("Name of this surface", "Slip floor")
	p.until(`window.answerLost === true`)
	p.fill("Wall 1, from corner 1", "5 m")
	p.sees("[data-test=area]", "20 m²")
	p.saved()
	if value[bool](p, `!!document.querySelector('[data-test=conflict]')`) {
		t.Error("the page took its own save for someone else's")
	}
}

// An edit that a slow device still keeps when the server has taken it and the one after it is not
// brought back: not by what the page reads next, and not by the next visit.
func TestAnEditKeptLateIsNotBroughtBack(t *testing.T) {
	t.Parallel()
	p := begin(t, "Eel weir")
	p.at("measure")
	p.rectangle("4 m", "4 m")
	p.sees("[data-test=area]", "16 m²")
	p.saved()
	// The device's store hangs over the first edit, and the line over its answer, until the second is entered.
	value[bool](p, `(() => {
		const keep = IDBObjectStore.prototype.put
		IDBObjectStore.prototype.put = function (...entry) {
			const done = keep.apply(this, entry)
			if (window.keptLate) return done
			window.keptLate = entry
			const hold = () => { if (!window.storeGoesOn) this.get('nothing').onsuccess = hold }
			hold()
			return done
		}
		const send = window.fetch
		window.fetch = async (request, ...rest) => {
			const answer = await send(request, ...rest)
			while (request.method === 'PATCH' && !window.lineGoesOn) await new Promise(requestAnimationFrame)
			return answer
		}
		return true
	})()`)
	p.fill("Wall 1, from corner 1", "5 m")
	p.until(`window.keptLate && document.querySelector('[data-test=save-state]').dataset.state === 'saving'`)
	p.fill("Wall 1, from corner 1", "6 m")
	value[bool](p, `window.lineGoesOn = true`)
	p.sees("[data-test=area]", "24 m²")
	p.saved()
	value[bool](p, `window.storeGoesOn = true`)
	p.until(`(async () => {
		const db = await new Promise(r => { indexedDB.open('nephelon').onsuccess = e => r(e.target.result) })
		const kept = await new Promise(r => { db.transaction('edits').objectStore('edits').count().onsuccess = e => r(e.target.result) })
		db.close()
		return kept === 0
	})()`)
	// An edit that was left by a browser that was killed then.
	value[bool](p, `(() => {
		indexedDB.open('nephelon').onsuccess = e => {
			const change = e.target.result.transaction('edits', 'readwrite')
			change.objectStore('edits').put(...window.keptLate).onsuccess = () => { window.leftBehind = true }
		}
		return true
	})()`)
	p.until(`window.leftBehind === true`)
	p.do(chromedp.Reload())
	p.saved()
	p.sees("[data-test=area]", "24 m²")
	p.fill("Wall 2, from corner 2", "5 m")
	p.until(`document.querySelector('[data-test=area]').innerText !== '24 m²'`)
	p.saved()
	if value[bool](p, `!!document.querySelector('[data-test=conflict]')`) {
		t.Error("the page took its own save for someone else's")
	}
}

// A server that fails while a job is opened is told as that, not as a job that is not there; the
// job opens once the server can again.
func TestAFaultOnOpeningIsToldAsOne(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.beforeAnyScript(`{
		const send = window.fetch
		window.fetch = async (request, ...rest) =>
			!window.mended && /\/api\/jobs\/[0-9a-f-]{36}$/.test(request.url ?? '')
				? new Response(JSON.stringify({ status: 500, detail: 'An internal error occurred.' }), { status: 500, headers: { 'Content-Type': 'application/problem+json' } })
				: send(request, ...rest)
	}`)
	p.open("/jobs")
	p.until(`!!document.querySelector('a.job')`)
	p.click("a.job")
	p.sees("h1", "This job cannot be opened")
	p.sees("[role=alert]", "An internal error occurred.")
	value[bool](p, `(window.mended = true)`)
	p.until(`!!document.querySelector('[data-test=save-state]')`)
}
