package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"

	"nephelon/demo"
)

// touch presses one of the large buttons of a day.
func (p *page) touch(act string) {
	p.t.Helper()
	p.click(fmt.Sprintf("[data-act=%s]", act))
}

// sent waits until nothing waits on this device.
func (p *page) sent() {
	p.t.Helper()
	p.until(`document.querySelector('[data-test=sent]')?.innerText === 'Sent'`)
}

// batchIs waits until a batch of the day is so far.
func (p *page) batchIs(number int, state string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`document.querySelector('[data-batch="%d"]')?.dataset.state === %q`, number, state))
}

// opensTheDay issues the plan of a job and closes all gates of its day.
func (p *page) opensTheDay() {
	p.t.Helper()
	p.click("[data-test=issue-plan]")
	p.sees("[data-test=issue]", "Plan 1")
	p.button("Job day")
	p.closesGates()
}

// closesGates types readings and closes all gates of the coat at hand.
func (p *page) closesGates() {
	p.t.Helper()
	p.typed("Slab", "17 C")
	p.typed("Air", "19 C")
	p.typed("Humidity", "55 %")
	p.until(`document.querySelectorAll('[data-gate]').length > 0`)
	gates := `document.querySelectorAll('[data-gate]').length`
	for n := value[int](p, gates); n > 0; n = value[int](p, gates) {
		p.click("[data-gate]")
		p.until(fmt.Sprintf(`%s < %d`, gates, n))
	}
}

// A whole coat is logged with one touch a pail, and one for the last section: what nobody touched is taken from that,
// and the record says so.
func TestAPourByOneTouchAPail(t *testing.T) {
	t.Parallel()
	p := begin(t, "Reed loft")
	p.at("measure")
	p.rectangle("7 m", "5 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.saved()
	p.click("[data-step=days]")
	// On a slow line the rules come last: what was typed and touched before them counts.
	value[bool](p, `(() => {
		const loads = window.fetch;
		const touched = new Promise((done) => document.addEventListener('click',
			(click) => click.target.closest('[data-gate]') && done(), { capture: true }));
		window.fetch = async (what, ...how) => {
			if (String(what.url ?? what).endsWith('.wasm')) await touched;
			return loads(what, ...how);
		};
		return true;
	})()`)
	// A camera with a lamp stands in for the device's own.
	value[bool](p, `(() => {
		const camera = { readyState: 'live', stop: () => (window.released = true),
			applyConstraints: async (c) => { if (c.advanced[0].torch) window.flashed = (window.flashed ?? 0) + 1; } };
		navigator.mediaDevices.getSupportedConstraints = () => ({ torch: true });
		navigator.mediaDevices.getUserMedia = async () => ({ getVideoTracks: () => [camera] });
		return true;
	})()`)
	p.opensTheDay()
	p.button("Lamp off")
	p.until(`window.flashed === 3 && window.released && localStorage['nephelon.day.lamp'] === 'true'`)
	pails := value[int](p, `document.querySelectorAll('[data-batch]').length`)
	if pails < 2 {
		t.Fatalf("%d pails", pails)
	}
	for n := 1; n <= pails; n++ {
		p.touch("meets")
		p.batchIs(n, "mixing")
		if n > 1 {
			p.batchIs(n-1, "poured")
		}
	}
	p.sees("[data-test=now]", "mix slowly")
	// Locked, a touch does nothing until the lock is held for a second.
	p.click("[data-test=lock]")
	p.click("[data-test=day-lock] button")
	p.batchIs(pails, "mixing")
	p.until(`document.elementFromPoint(...(r => [r.x + 9, r.y + 9])(document.querySelector('[data-act=rolled]').` +
		`getBoundingClientRect())) === document.querySelector('[data-test=day-lock]')`)
	p.look("day-locked")
	p.until(`document.querySelector('[data-test=day-lock] button').dispatchEvent(new PointerEvent('pointerdown'))`)
	p.until(`!document.querySelector('[data-test=day-lock]')`)
	p.click("[data-test=hand]")
	p.until(`(now => now.x > document.querySelector('[data-test=next]').getBoundingClientRect().x)` +
		`(document.querySelector('[data-test=now]').getBoundingClientRect())`)
	p.click("[data-test=hand]")
	// The pails went less far than planned: the last one is spread thinner, or another kit must come.
	p.sees("[data-test=enough]", "Not told yet")
	p.click("[data-test=type-area]")
	p.typed("Laid so far, by all pails", "12 m²")
	p.until(`document.querySelector('[data-test=enough] form').requestSubmit() ?? true`)
	p.sees("[data-test=enough]", "more, mixed by")
	p.click("[data-test=spot-film]")
	p.click("[data-test=day-floor] path.section.chosen")
	p.sees("[data-test=enough]", "After pail 2: 17")
	p.look("day-enough")
	p.do(chromedp.EmulateViewport(390, 844))
	p.look("day-enough-phone")
	p.do(chromedp.EmulateViewport(1280, 800))
	p.touch("rolled")
	p.batchIs(1, "rolled")
	p.sees("[data-test=now]", "is laid")
	p.sees("[data-test=waits]", "light foot traffic")
	// A barcode that is on none of the product's packs is called out.
	p.button("Lots")
	p.fill("Lot of A", "00012345678905")
	p.sees("[data-test=lots-said]", "The shelf has no pack of Keelbody 100 with this code")
	p.until(`document.querySelector('[data-test=entries]').innerText.includes('all the same')`)
	p.fill("Lot of A", "KQ 4471")
	p.sees("[data-test=lots-said]", "Logged")
	p.look("day-wrong-pack")
	// Where the last pail ended is marked on the plan, and stays with its section.
	p.click("[data-test=spot-pail]")
	p.click("[data-test=day-floor] path.section.chosen")
	p.until(`document.querySelectorAll('[data-test=spot]').length === 1`)
	p.sent()
	p.look("day-one-touch")
	p.button("‹ Record")
	p.part("coats")
	p.sees("[data-test=coat-summary]", fmt.Sprintf("%d of %d", pails, pails))
	p.sees("[data-test=shown]", "not logged")
}

// Rain comes after the first pail: the rest is left for another day with who decided and why, the day says how the edge
// is left, and the sections wait again once that is voided.
func TestARainyDayIsStopped(t *testing.T) {
	t.Parallel()
	p := begin(t, "Keel yard")
	p.at("measure")
	p.rectangle("7 m", "5 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.saved()
	p.click("[data-step=days]")
	p.opensTheDay()
	for _, act := range []string{"meets", "mixed", "poured"} {
		p.touch(act)
	}
	p.batchIs(1, "poured")
	// Before the rain: the second pail as a half, one more over the first section, and somebody leaves.
	pails := value[int](p, `document.querySelectorAll('[data-batch]').length`)
	last := value[string](p, `document.querySelector('[data-test=next]').innerText`)
	change := func(topic, button string) {
		p.click("[data-test=change-plan]")
		p.button("One person is gone")
		p.click("[data-topic=" + topic + "]")
		p.click(button)
		p.until(`!document.querySelector('[data-test=change]')`)
	}
	change("size", "[data-test=other-size] button:nth-child(2)")
	p.until(fmt.Sprintf(`document.querySelector('[data-test=next]').innerText !== %q`, last))
	p.sees("[data-test=enough]", "stays bare. Spread the rest at")
	p.until(`!!document.querySelector('[data-test=day-floor] [data-test=film-end] path')`)
	// Two pails of 26.96 kg in all are still to come: of 40 kg unopened, 13.04 are beside them.
	p.click("[data-test=count-packs]")
	p.typed("Unopened, all parts together", "40 kg")
	p.until(`document.querySelector('[data-test=enough] form').requestSubmit() ?? true`)
	p.sees("[data-test=enough]", "13.04 kg at hand beside these")
	p.look("day-end")
	change("more", "[data-test=one-more] button:nth-child(2)")
	p.batchIs(pails+1, "waiting")
	change("leaves", "[data-test=leaves] button:nth-child(2)")
	p.look("day-fewer")
	// The last section is laid as the next one, by the number of that.
	places := `[...document.querySelectorAll('[data-test=day-floor] text')].map(t => t.textContent + Math.round(t.getBoundingClientRect().x)).join()`
	before := value[string](p, places)
	change("order", "[data-test=lay-next] button")
	p.until(fmt.Sprintf(`%s !== %q`, places, before))
	p.look("day-order")
	p.click("[data-test=change-plan]")
	p.click("[data-topic=leaves]")
	p.sees("[data-test=leaves]", "is back")
	p.button("Rain is coming")
	p.click("[data-topic=leave-out]")
	p.look("day-change")
	p.click("[data-test=stop-here]")
	p.batchIs(2, "left-out")
	p.batchIs(3, "left-out")
	for _, act := range []string{"spread", "rolled"} {
		p.touch(act)
	}
	p.sees("[data-test=now]", "Stopped after section 1. Straighten its edge")
	p.look("day-stopped")
	p.click("[data-batch='3']")
	p.button("Correct")
	p.until(`(b => (b?.click(), !!b))([...document.querySelectorAll('[data-test=entries] button')]` +
		`.find(b => b.innerText.includes('Section left out')))`)
	p.batchIs(3, "waiting")
	p.sent()
	p.button("‹ Record")
	p.sees("main", "Section 2 is not laid today. (decided: Oskar Pym: Rain is coming)")
	p.sees("main", "Pail 2 is mixed in another size, 50% of a whole one. (decided: Oskar Pym: One person is gone)")
	p.sees("main", "Section 3, as it was numbered then, is laid as the next one. (decided: Oskar Pym: One person is gone)")
	p.sees("main", fmt.Sprintf("Pail %d is one more than planned, over section 1.", pails+1))
}

// A hall is ground: each step of its preparation is closed on the tablet with what was seen; a test that fails has
// it ground again, and what was closed in error is opened.
func TestPreparationOnTheTablet(t *testing.T) {
	t.Parallel()
	p := begin(t, "Winch hall")
	p.at("measure")
	p.rectangle("7 m", "5 m")
	p.at("survey")
	p.click("[data-test=begin-survey]")
	p.choose("Substrate", "Concrete")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.saved()
	p.click("[data-step=days]")
	p.click("[data-test=issue-plan]")
	p.sees("[data-test=issue]", "Plan 1")
	p.button("Job day")
	p.sees("[data-test=preparation]", "Preparation: 0 of")
	p.sees("[data-step$=protect]", "Cover fittings")
	p.until(`!document.querySelector('[data-test=gates]')`)
	closes := func(step, act string) {
		p.click(fmt.Sprintf("[data-step$=%q] [data-act=%s]", step, act))
		p.until(fmt.Sprintf(`!document.querySelector('[data-step$=%q]')`, step))
	}
	for _, step := range []string{"/protect", "/walls"} {
		closes(step, "closes")
	}
	p.sees("[data-step$='/grind']", "Silica dust")
	p.look("day-preparation")
	p.do(chromedp.EmulateViewport(390, 844))
	p.look("day-preparation-phone")
	p.do(chromedp.EmulateViewport(1280, 800))
	p.click("[data-step$='/grind'] .touch")
	p.sees("[data-step$='/grind']", "At it: Oskar Pym")
	for _, step := range []string{"/grind", "/vacuum"} {
		closes(step, "closes")
	}
	// The reading of a test is judged at once.
	p.typed("Worst reading: profile, CSP", "4")
	p.sees("[data-step$=profile] [data-test=verdict]", "It passes. profile, CSP: 4; 4 to 6")
	p.typed("Worst reading: profile, CSP", "2")
	p.sees("[data-step$=profile] [data-test=verdict]", "It fails. profile, CSP: 2; 4 to 6")
	p.look("day-preparation-verdict")
	p.click("[data-step$=profile] [data-act=reads]")
	p.sees("[data-step$='/grind']", "Once more: the profile is too smooth")
	p.look("day-preparation-again")
	closes("/grind", "closes")
	p.click("[data-test=take-back]")
	p.sees("[data-step$='/grind']", "Once more")
	p.click("[data-phase=coats]")
	p.sees("[data-test=gates]", "open")
	// Before anything is mixed, the coat is laid with another product.
	p.click("[data-test=change-plan]")
	p.click("[data-topic=product]")
	p.sees("[data-test=other-product]", "another product of its kind")
	p.typed("In own words", "the pails froze")
	p.click("[data-test=other-product] .day-line button")
	p.sees("[data-test=other-told]", "instead of Keelbody")
	p.look("day-other-product")
	p.do(chromedp.EmulateViewport(390, 844))
	p.look("day-other-product-phone")
	p.do(chromedp.EmulateViewport(1280, 800))
	p.click("[data-test=take-product]")
	p.until(`!document.querySelector('[data-test=change]') && !document.querySelector('main').innerText.includes('Keelbody')`)
	p.look("day-other-taken")
	p.sent()
	p.button("‹ Record")
	p.sees("main", "(decided: Oskar Pym: the pails froze)")
	p.sees("[data-test=closings]", "Compare the profile with the chips, failed: profile, CSP: 2; 4 to 6")
}

// A plan is issued, its gates are closed, and a batch is run to its end with no server at
// all, over a reload; nothing is lost, and another device, whose clock is seven minutes
// late, is level with it once there is one again.
func TestADayWithoutANetwork(t *testing.T) {
	h, err := startHost("127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	p := newPage(t, h.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.newJob("Fog signal room")
	p.rectangle("9 m", "6 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.saved()
	p.click("[data-step=days]")
	p.sees("[data-test=issue]", "Nothing was issued yet")
	p.click("[data-test=issue-plan]")
	p.sees("[data-test=issue]", "Plan 1")
	day := value[string](p, `location.pathname.replace('/days', '/day')`)
	p.button("Job day")
	p.sees("[data-test=gates]", "9 of 9 open")
	p.typed("Slab", "17 C")
	p.typed("Air", "19 C")
	// What cannot be, or cannot be read, is told where it is entered, and holds up nothing.
	for entered, told := range map[string]string{"0 %": "outside 1", "damp": "cannot be read"} {
		p.typed("Humidity", entered)
		p.click("[data-gate=readings]")
		p.sees("[data-test=day-trouble]", told)
	}
	p.sent()
	p.typed("Humidity", "55 %")
	for _, gate := range []string{"readings", "surface", "pairs", "tools", "protection", "dust", "exits", "water",
		"forecast"} {
		p.click(fmt.Sprintf("[data-gate=%s]", gate))
		p.until(fmt.Sprintf(`!document.querySelector('[data-gate=%s]')`, gate))
	}
	p.sent()
	p.until(`document.querySelector('[data-test=plan]').dataset.kept === 'true'`)
	p.look("day-ready")
	h.stop()
	for _, act := range []string{"meets", "mixed", "poured"} {
		p.touch(act)
	}
	p.sees("[data-test=sent]", "No network: 3 entries wait")
	p.look("day-away")
	p.open(day) // a dead battery, a closed tab
	p.batchIs(1, "poured")
	for _, act := range []string{"spread", "rolled"} {
		p.touch(act)
	}
	p.batchIs(1, "rolled")
	p.click("[data-test=take-back]")
	p.batchIs(1, "spread")
	p.touch("rolled")
	p.sees("[data-test=sent]", "7 entries wait")
	h, err = startHost(h.address)
	if err != nil {
		t.Fatal(err)
	}
	defer h.stop()
	p.sent()
	// Another device joins, its clock seven minutes late: it is measured, told and corrected.
	other := newPage(t, h.address)
	other.beforeAnyScript(`{
		const late = 7 * 60 * 1000, Now = Date, now = Date.now;
		Date.now = () => now() - late;
		globalThis.Date = new Proxy(Now, { construct: (of, args) => args.length ? new of(...args) : new of(Date.now()) });
	}`)
	other.signIn("tess@brakkwater.example")
	other.open(day)
	other.sees("[data-test=skew]", "7 min behind")
	other.batchIs(1, "rolled")
	p.batchIs(2, "waiting")
	p.touch("meets")
	other.batchIs(2, "mixing")
	other.touch("mixed")
	p.batchIs(2, "mixed")
	other.do(chromedp.EmulateViewport(390, 844))
	other.look("day-phone")
	// A bucket is lost: asked twice, and mixed once more.
	other.button("Bucket lost")
	other.button("Yes, it went hot")
	p.batchIs(2, "waiting")
	p.sees("[data-batch=\"2\"]", "pail 2")
	// That A met B of the third was forgotten: it is told later, and the record says so.
	p.click("[data-batch=\"3\"]")
	p.button("Correct")
	p.look("day-correct")
	p.click("[data-late=meets]")
	p.batchIs(3, "mixing")
	// The clock of the device is set while the page is open, a quarter of an hour ahead: what
	// is refused for that is corrected and sent.
	value[bool](p, `(() => {
		const ahead = 15 * 60 * 1000, Now = Date, now = Date.now;
		Date.now = () => now() + ahead;
		globalThis.Date = new Proxy(Now, { construct: (of, args) => args.length ? new of(...args) : new of(Date.now()) });
		document.querySelector('[data-act=mixed]').click();
		return true;
	})()`)
	other.batchIs(3, "mixed")
	p.sent()
	p.button("‹ Record")
	p.part("coats")
	p.sees("[data-test=day-ribbons]", "Batch 2")
	p.sees("[data-test=told-later]", "5 min after it happened")
}

// The record of a finished job answers for its floor: what was off ranks first, a question
// is answered, and what it turned out to be is kept.
func TestTheRecordAnswersForAFloor(t *testing.T) {
	t.Parallel()
	p := newPage(t, theStage.address)
	p.signIn("tess@brakkwater.example")
	p.openJob(demo.Finished)
	p.click("[data-step=days]")
	p.button("Record")
	p.sees("[data-test=coat-summary]", "Keelbody")
	p.part("defects")
	p.sees("[data-test=faults]", "off its ratio")
	p.sees("[data-test=question]", "Was a pail turned over")
	p.button("No")
	p.sees("[data-fault=soft]", "No, says Tess Arnaud")
	p.button("Confirm this cause: The batch was off its ratio")
	p.sees("[data-fault=soft]", "Confirmed cause: The batch was off its ratio")
	p.scroll("[data-test=faults]")
	p.look("record-faults")
	p.click("[data-test=mark-fault]")
	p.click("[data-defect=lap]")
	p.choose("Coat", "2: Keelbody")
	p.click("[data-test=faults] path.section:nth-of-type(2)")
	p.until(`document.querySelector('[data-test=faults]').innerText.includes('here')`)
	p.button("Save the defect")
	p.sees("[data-fault=lap]", "Against: Section 2: joined when the edge was")
	p.look("record-marked")
	// Evidence is a way to the batch that it speaks of.
	p.click("[data-fault=soft] li.for a")
	p.sees("[role=tab][aria-selected=true][data-part]", "Coats")
	// On the plan the defect lies over its pail, with its lots, its hour and its people.
	p.choose("Show on the plan", "Lots")
	p.click("[data-test=pail-map] path.section:nth-of-type(2)")
	p.sees("[data-test=pail-told]", "Defect: Sticky or soft spots")
	p.sees("[data-test=pail-told]", "Tess Arnaud")
	p.look("record-pails")
	// The client signs, and what was logged is found from all jobs; what the floors show is offered.
	p.part("handover")
	p.typed("Accepted by", "Aud Wharfinger")
	p.click("[data-test=sign-pad]")
	p.click("[data-test=sign]")
	p.sees("[data-test=handover]", "Accepted by Aud Wharfinger")
	p.until(
		`fetch(document.querySelector('[data-test=handover-pdf]').href).then(r => r.ok && r.headers.get('content-type') === 'application/pdf')`)
	p.look("record-handover")
	// What is logged afterwards stands apart, until it is signed once more.
	p.part("coats")
	p.click("[data-test^=release-foot]")
	p.part("handover")
	p.sees("[data-test=added]", "1 entry came after it was signed")
	p.part("summary")
	p.sees("[data-test=late]", "added after the hand-over was signed")
	p.look("record-late")
	p.part("handover")
	p.typed("Accepted by", "Aud Wharfinger")
	p.click("[data-test=sign]")
	p.until(`!document.querySelector('[data-test=added]')`)
	p.open("/records")
	p.typed("Search job, person, lot or words", "set down to move")
	p.sees("[data-test=entries]", demo.Finished)
	p.sees("[data-test=learnt]", "× as planned")
	p.look("records")
	p.openJob(demo.Finished)
	p.click("[data-step=days]")
	p.button("Record")
	p.part("defects")
	// What mends it becomes a job of its own, which the roster can plan.
	p.button("Create a repair job: Lap lines, cold joints")
	p.until(`location.pathname.endsWith('/days')`)
	p.until(
		`[...document.querySelectorAll('input, h1, header')].some(e => (e.value ?? e.innerText)?.includes('Repair: '))`)
}

// The owner looks at what own floors show: from three jobs on a pace is offered, what it would change
// in the open jobs is looked at, and it is taken for one of them. The records are whole against their
// log, and its head can be kept.
func TestWhatOwnFloorsTeach(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("runa@brakkwater.example")
	p.open("/records")
	p.click("[data-part=learnt]")
	p.click("[data-test=try-pace]")
	p.sees("[data-test=pace-effects]", "Work: ")
	p.look("own-floors")
	p.click("tr[data-job='Salt house'] input")
	p.click("[data-test=take-pace]")
	p.sees("[data-test=pace-effects]", "Salt house: Planned with it now")
	p.button("Close")
	p.openJob("Salt house")
	p.at("batches")
	p.setting()
	p.until(`!!document.querySelector('[aria-label="Crew default for coat 1"]')`)
	p.open("/people")
	p.button("Record log")
	p.sees("[data-test=log-verdict]", "The records are whole.")
	p.sees("[data-test=log-head]", "nephelon/")
}
