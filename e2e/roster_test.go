package e2e

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"nephelon/core/measure"
	"nephelon/demo"
	"nephelon/server/sessions"
	"nephelon/standin"
	"nephelon/store"
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
	p.click("[data-test=moves] button")
	p.sees("[data-test=moves]", "Skerry crew does not work")
	p.look("roster-proposal")
	p.click("[data-test=by-job]")
	p.sees(".names", "Ice wharf office")
	p.look("roster-by-job")
	p.click("[data-test=by-machine]")
	p.sees(".names", "Grinder")
	p.look("roster-by-machine")
	p.click("[data-test=by-place]")
	p.until(`document.querySelectorAll('.names strong').length > 1`)
	p.click("[data-test=by-crew]")
	p.click("[data-test=keep-roster]")
	p.until(`!document.querySelector('[data-test=proposal]') && !document.querySelector('[data-test=broken]')`)

	// A coat that is held over another hour says what becomes of it there before it is let go.
	// The page moves while it takes the booked roster in: the coat is grasped once it stands still under the hand.
	p.until(`(() => {
		for (const coat of document.querySelectorAll('.ribbon.movable')) {
			if (!/ coat [12],/.test(coat.ariaLabel)) continue;
			coat.scrollIntoView({ block: 'center', inline: 'center', behavior: 'instant' });
			const r = coat.getBoundingClientRect();
			const at = [r.x + r.width / 2, r.y + r.height / 2];
			if (document.elementFromPoint(...at)?.closest('.ribbon') !== coat) continue; // another lies over it
			const still = window.graspAt?.join() === at.join();
			window.graspAt = at;
			return still;
		}
		return false;
	})()`)
	at := value[[]float64](p, `window.graspAt`)
	p.do(chromedp.MouseEvent(chromedp.MousePressed, at[0], at[1], chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseMoved, at[0]+20, at[1], chromedp.ButtonLeft))
	p.sees("[data-test=preview]", "First kit")
	p.sees("[data-test=preview]", "of the runs")
	p.look("roster-held")
	p.do(chromedp.MouseEvent(chromedp.MouseMoved, at[0], at[1], chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseReleased, at[0], at[1], chromedp.ButtonLeft))
	p.until(`!document.querySelector('[data-test=preview]')`)

	// A coat that begins with the shift is moved a step later by the keyboard, and
	// stays there; one whose window or shift does not let it says why, and the next is tried.
	const coats = `[...document.querySelectorAll('.ribbon')].filter((r) => / coat [23],.* 07:00 to/.test(r.ariaLabel))`
	const booked = `document.querySelector('[data-test=booked-at]').textContent`
	moved := false
	for n := value[int](p, coats+`.length`) - 1; n >= 0 && !moved; n-- {
		press := func(key string) {
			value[bool](p, fmt.Sprintf(`(%s[%d].dispatchEvent(new KeyboardEvent('keydown', { key: %q, bubbles: true })), true)`,
				coats, n, key))
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
	p.click("[data-test=to-crews]")
	p.click("[data-test=add-crew]")
	p.sees("[data-test=crews]", "Day off of Crew 3")
	p.day("Day off of Crew 3", "2031-03-04")
	p.until(
		`!![...document.querySelectorAll('[data-test=crews] button')].findLast((b) => b.innerText === 'Add the day' && !b.disabled)`)
	value[bool](p,
		`([...document.querySelectorAll('[data-test=crews] button')].findLast((b) => b.innerText === 'Add the day').click(), true)`)
	p.sees("[data-test=crews]", "Off Tue")
	value[bool](p, `(document.querySelector('[data-test=crews]').scrollIntoView({ behavior: 'instant' }), true)`)
	p.look("roster-crews")
	for range 2 {
		p.click("[data-test=undo-crews]")
	}
	p.until(`!document.querySelector('[data-test=crews]').innerText.includes('Crew 3')`)

	// The grinder breaks for some days, and is back.
	p.choose("Machine that is out of use", "Grinders")
	p.day("Out of use from", "2031-03-04")
	p.click("[data-test=machine-out]")
	p.sees("[data-test=crews]", "Grinders out of use Tue, Mar 4")
	p.look("roster-machines")
	p.button("Back in use: Grinders, Tue, Mar 4")
	p.until(`!document.querySelector('[data-test=crews]').innerText.includes('out of use Tue')`)

	// A calendar is read, and one's own can be read elsewhere until that is revoked.
	p.upload("[data-test=busy-0]", busyCalendar(t))
	p.sees("[data-test=crews]", "1 busy period imported")
	p.click("[data-test=undo-crews]")
	p.click("[href='/people/calendars']")
	p.click("[data-test=make-address]")
	p.sees("[data-test=made-address]", "/calendar/")
	p.look("roster-links")
	p.button("Revoke the address of Everybody")
	p.until(`!document.querySelector('[data-test=made-address]')`)

	p.goTo("/jobs")
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
		p.until(`document.documentElement.scrollWidth <= 390`)
		p.look("roster-phone" + strings.ReplaceAll(path, "/", "-"))
	}
	// Everybody's own list, by name.
	p.choose("List for", "Ylva Stranne")
	p.sees("[data-test=day-list]", "Coat")
	p.until(`[...document.querySelectorAll('h2')].some((h) => h.innerText === 'Ylva Stranne')`)
	p.until(`document.querySelector('[data-test=roster-files] a').href.includes('person=Ylva')`)
	p.look("roster-phone-person")
	p.do(chromedp.EmulateViewport(1280, 800))
}

// busyCalendar is a calendar with one event, next month.
func busyCalendar(t *testing.T) string {
	t.Helper()
	at := time.Now().AddDate(0, 1, 0).UTC().Format("20060102")
	text := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//t//\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTAMP:" + at +
		"T000000Z\r\nSUMMARY:Harbour day\r\nDTSTART:" + at + "T080000Z\r\nDTEND:" + at +
		"T120000Z\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
	path := filepath.Join(t.TempDir(), "busy.ics")
	if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

// A client's date is asked for and kept: a job that is due sooner than it can be done is told
// late, with what would help and what that costs; by a date that can be kept it is promised.
func TestAClientsDateIsPromised(t *testing.T) {
	p := begin(t, "Tide gate house")
	p.rectangle("11 m", "7 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.at("survey")
	p.click("[data-test=begin-survey]")
	p.part("weather")
	p.click("[data-test=fetch-forecast]")
	p.until(`!!document.querySelector('[data-test=forecast] :is(.go, .wait, .stop)')`)
	p.saved()
	p.click("[data-step=days]")
	p.until(`!!document.querySelector('.due input')`)
	day := func(label string, days int) {
		p.day(label, time.Now().AddDate(0, 0, days).Format(time.DateOnly))
		p.saved()
	}
	day("First use by", 0)
	p.click("[data-test=try-days]")
	p.sees("[data-test=proposal]", "late")
	p.click("[data-test=what-helps]")
	p.until(`/would not help|Try it/.test(document.querySelector('[data-test=ways-out-of-it]')?.innerText)`)
	p.look("days-late")
	day("First use by", 45)
	p.click("[data-test=try-days]")
	p.sees("[data-test=promises]", "at the latest")
	p.until(`!document.querySelector('.answer').innerText.includes('is due')`)
	p.look("days-promised")
	p.click("[data-test=site-terms] [aria-expanded]")
	p.look("site-terms")

	// The client lets nobody begin before it is due: to be let in sooner is tried, and made so.
	day("Earliest start", 50)
	p.open("/roster")
	p.sees("[data-test=roster-chart]", "°C") // the forecast stands above its days
	p.click("[data-test=plan-roster]")
	p.sees("[data-test=proposal]", "late")
	p.click("[data-test=what-helps]")
	p.sees("[data-test=ways-out-of-it]", "Tide gate house starts before its earliest day")
	p.look("roster-ways")
	value[bool](p,
		`([...document.querySelectorAll('[data-test=ways-out-of-it] li')].find((l) => l.innerText.includes('Tide gate house starts')).querySelector('button').click(), true)`)
	p.sees("[data-test=proposal]", "Trial, not booked. Tide gate house starts before its earliest day")
	p.click("[data-test=change-job]")
	p.sees("[data-test=proposal]", "A proposal, not booked yet")
	p.until(`![...document.querySelectorAll('.answer p')].some((l) => /Tide gate house.* is due/.test(l.innerText))`)
	p.click("[data-test=discard]")
}

// The forecast of a booked job turns into a heat wave: what it does is told on the roster, a
// proposal mends it, and it is booked. The company has this job alone, so that nothing else
// decides when it is done.
func TestAHeatWaveIsMended(t *testing.T) {
	t.Parallel()
	ctx := t.Context()
	hash, err := sessions.HashPassword(demo.Password)
	if err != nil {
		t.Fatal(err)
	}
	const saga = "saga@spindrift.example"
	company, err := theStage.records.Found(ctx, "Spindrift Floors",
		store.Person{Name: "Saga Lind", Email: saga, Role: store.Owner, PasswordHash: hash, Units: measure.Metric})
	if err != nil {
		t.Fatal(err)
	}
	if err := demo.FillShelf(ctx, theStage.records, company); err != nil {
		t.Fatal(err)
	}
	air := measure.Temperature(12)
	weather := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		hours := standin.Forecast("estuary", time.Now().UTC().Truncate(time.Hour).Add(-6*time.Hour), 78)
		for i := range hours {
			hours[i].Air, hours[i].Humidity, hours[i].Rain = air, 0.4, 0
		}
		_ = json.NewEncoder(w).Encode(map[string]any{"place": "estuary", "hours": hours})
	}))
	defer weather.Close()
	if err := theStage.records.SetCompany(ctx, saga, &weather.URL, nil); err != nil {
		t.Fatal(err)
	}
	p := newPage(t, theStage.address)
	p.signIn(saga)
	p.newJob("Ebb vault")
	p.rectangle("9 m", "6 m")
	p.at("build-up")
	p.choose("Add a coat of", "Undertow")
	p.choose("Add a coat of", "Keelbody")
	p.at("survey")
	p.click("[data-test=begin-survey]")
	p.part("weather")
	p.click("[data-test=fetch-forecast]")
	p.until(`!!document.querySelector('[data-test=forecast] :is(.go, .wait, .stop)')`)
	p.saved()
	survey := value[string](p, `location.pathname`)
	p.open("/roster")
	p.click("[data-test=plan-roster]")
	p.sees("[data-test=proposal]", "A proposal, not booked yet")
	p.click("[data-test=keep-roster]")
	p.until(`!document.querySelector('[data-test=proposal]') && !document.querySelector('[data-test=broken]')`)
	air = 37
	p.open(survey)
	p.part("weather")
	p.click("[data-test=fetch-forecast]")
	p.until(
		`fetch('/api/jobs/' + location.pathname.split('/')[2]).then(r => r.text()).then(text => text.includes('"air":37'))`)
	p.open("/roster")
	p.sees("[data-test=broken]", "Ebb vault")
	p.look("heat-broken")
	p.click("[data-test=plan-roster]")
	p.sees("[data-test=proposal]", "A proposal, not booked yet")
	p.until(`!document.querySelector('[data-test=broken]')`)
	p.look("heat-mended")
	p.click("[data-test=keep-roster]")
	p.until(`!document.querySelector('[data-test=proposal]') && !document.querySelector('[data-test=broken]')`)

	// The days go by, and nobody logs anything: one task was done, another was not and is to be booked again.
	value[bool](p, `(async () => {
		const roster = await (await fetch('/api/roster')).json();
		const bookings = roster.bookings.map(b => ({ ...b, from: new Date(Date.parse(b.from) - 12 * 864e5).toISOString(),
			until: new Date(Date.parse(b.until) - 12 * 864e5).toISOString() }));
		const kept = await fetch('/api/roster', { method: 'PUT', headers: { 'Content-Type': 'application/json' },
			body: JSON.stringify({ revision: roster.revision, bookings }) });
		return kept.ok;
	})()`)
	p.open("/roster")
	p.sees("[data-test=asked]", "nothing was logged")
	first := func(what string) string {
		return value[string](p, fmt.Sprintf(`document.querySelector('[data-test=asked] button[aria-label^="%s"]').ariaLabel`, what))
	}
	settled := func(label string) {
		t.Helper()
		p.until(fmt.Sprintf(`![...document.querySelectorAll('[data-test=asked] button')].some(b => b.ariaLabel === %q)`, label))
	}
	done := first("Done as booked")
	p.button(done)
	settled(done)
	gone := first("Not done")
	p.button(gone)
	settled(gone)
	p.sees("[data-test=plan-roster]", "Plan 1 task")
	p.until(`(() => {
		const told = [...document.querySelectorAll('.v-snackbar')].find(e => e.innerText.includes('Taken off the roster'));
		const back = [...told?.querySelectorAll('button') ?? []].find(b => b.innerText === 'Undo');
		back?.click();
		return !!back;
	})()`)
	p.sees("[data-test=plan-roster]", "Re-plan")
	p.click("[data-test=all-done]")
	p.until(`!document.querySelector('[data-test=asked]')`)
	p.runsLate()
}

// runsLate books and issues a job, opens its first kit two hours after it was booked, and sees that the next
// coat counts from that, for whoever comes the next day.
func (p *page) runsLate() {
	p.t.Helper()
	p.newJob("Ebb sluice")
	p.rectangle("6 m", "5 m")
	p.at("build-up")
	p.choose("Add a coat of", "Undertow")
	p.choose("Add a coat of", "Keelbody")
	p.saved()
	p.click("[data-step=days]")
	p.click("[data-test=try-days]")
	p.click("[data-test=book-days]")
	p.until(`!document.querySelector('[data-test=book-days]')`)
	value[bool](p, `(async () => {
		const job = location.pathname.split('/')[2];
		const roster = await (await fetch('/api/roster')).json();
		const first = roster.bookings.filter(b => b.job === job && b.pours).sort((a, b) => Date.parse(a.from) - Date.parse(b.from))[0];
		const by = Date.now() - 3 * 36e5 - Date.parse(first.from);
		const moved = at => new Date(Math.round((Date.parse(at) + by) / 6e5) * 6e5).toISOString();
		const bookings = roster.bookings.map(b => b.job === job ? { ...b, from: moved(b.from), until: moved(b.until), pours: undefined } : b);
		const kept = await fetch('/api/roster', { method: 'PUT', headers: { 'Content-Type': 'application/json' },
			body: JSON.stringify({ revision: roster.revision, bookings }) });
		return kept.ok;
	})()`)
	days := value[string](p, `location.pathname`)
	p.open(days)
	p.sees("[data-test=issue]", "Nothing was issued yet")
	p.day("For the day", "") // the whole job: at night its coats begin on two days
	p.opensTheDay()
	for _, act := range []string{"meets", "mixed", "poured"} {
		p.touch(act)
	}
	p.batchIs(1, "poured")
	p.sent()
	p.open("/roster")
	const coat = `[...document.querySelectorAll('.ribbon')].find(r => r.ariaLabel.startsWith('2 ') && r.ariaLabel.includes('Ebb sluice'))`
	p.until(`!!` + coat)
	value[bool](p, `(`+coat+`.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true })), true)`)
	p.sees("[data-test=follows-here]", "its window counts from what was logged")
	p.look("late-next-day")
	p.open(days)
	p.sees(".panel", "logged")
}

// One clock: the plan of every job of the demo begins each coat when the roster has it, and the list of jobs,
// the strip of the job and what is promised name the same times.
func TestEveryPageTellsWhatIsBooked(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	value[bool](p, `((async () => {
		const read = async (path) => (await fetch(path)).json()
		const roster = await read('/api/roster')
		const told = { seen: 0, wrong: [], names: [] }
		for (const line of await read('/api/jobs')) {
			const job = await read('/api/jobs/' + line.id)
			const wrong = (what, a, b) => { if (a !== b) told.wrong.push(line.name + ': ' + what + ' ' + a + ', ' + b) }
			const at = (time) => (time ? new Date(time).toISOString() : '')
			for (const s of job.plan.surfaces)
				for (const c of s.coats) {
					const b = roster.bookings.filter((b) => b.job === line.id).flatMap((b) => b.pours ?? [])
						.find((b) => b.task === 'coat/' + c.id + '/pour')
					if (!b || !c.times) continue
					told.seen++
					if (c.times.basis === 'logged') continue // by another journey
					told.names.push(line.name)
					wrong('coat ' + c.number + ' begins', at(c.times.begins), at(b.from))
					wrong('coat ' + c.number + ' rests on', c.times.basis, 'booked')
					if (new Date(c.times.end) < new Date(b.until)) wrong('coat ' + c.number + ' ends', at(c.times.end), at(b.until))
				}
			wrong('ready', at(line.summary.ready), at(job.plan.line.ready))
			wrong('clock', job.plan.zone, roster.zone)
			const next = roster.bookings.filter((b) => b.job === line.id && new Date(b.until) > new Date())
				.map((b) => b.from).sort()[0]
			wrong('next', at(job.plan.line.next?.at), at(next))
			// Each surface is promised by itself; the line tells the last.
			const walked = roster.promises.filter((x) => x.job === line.id && x.stage === 'foot').map((x) => at(x.at)).sort()
			if (walked.length && job.plan.line.basis === 'booked') wrong('walked on', at(job.plan.line.ready), walked.at(-1))
		}
		window.told = told
	})(), true)`)
	p.until(`!!window.told`)
	for _, wrong := range value[[]string](p, `window.told.wrong`) {
		t.Error(wrong)
	}
	names := value[[]string](p, `window.told.names`)
	if len(names) < 8 {
		t.Fatalf("%d coats are booked", len(names))
	}
	p.openJob("Kelp drying loft")
	p.until(`document.querySelector('[data-test=next-work]')?.innerText.includes(', ')`) // a day
	p.at("batches")
	p.part("times")
	p.sees("[data-test=film-1]", "booked")
	p.openJob(demo.Today) // its first coat is being poured
	p.at("batches")
	p.part("times")
	p.sees("[data-test=film-1]", "logged")
}

// A table is planned to ten minutes: its tasks take what they take, not half an hour each, one is moved by a
// step with the keyboard, and what is booked is told to the minute.
func TestATableInStepsOfTenMinutes(t *testing.T) {
	t.Parallel()
	// A company of its own, so that no other job takes the room to move in.
	p := newCompany(t, "Brent Ledge Tops", "ove@brentledge.example")
	p.open("/start")
	p.part("products")
	p.click("[data-test=add-samples]")
	p.sees("[data-test=shelf-state]", "products are on the shelf")
	p.open("/people/crews")
	p.click("[data-test=add-crew]")
	p.fill("People", "4")
	p.until(`!!document.querySelector('[data-test=members-0]')`)
	p.newJob("Galley table")
	p.at("measure")
	p.click("[data-test=add-top]")
	p.button("Add a piece")
	p.fill("Length of Piece 1", "2.4 m")
	p.fill("Front to back of Piece 1", "650 mm")
	p.choose("What side 1 of Piece 1 is", "exposed edge")
	p.fill("Thickness of the edge", "40 mm")
	p.at("build-up")
	p.choose("Add a coat of", "Sample flood")
	p.at("survey")
	p.click("[data-test=begin-survey]")
	p.choose("Substrate", "Timber")
	p.saved()
	job := value[string](p, `location.pathname.split('/')[2]`)
	p.open("/roster")
	p.click("[data-test=plan-roster]")
	p.sees("[data-test=proposal]", "A proposal, not booked yet")
	p.look("table-days")
	p.click("[data-test=keep-roster]")
	p.until(`!document.querySelector('[data-test=proposal]')`)
	p.until(fmt.Sprintf(`(async () => {
		const roster = await (await fetch('/api/roster')).json();
		const minutes = new Map(roster.tasks.map((t) => [t.job + t.id, t.minutes]));
		window.told = roster.bookings.filter((b) => b.job === %q && b.crew).map((b) => ({ at: Date.parse(b.from) / 60000,
			takes: (Date.parse(b.until) - Date.parse(b.from)) / 60000, needs: minutes.get(b.job + b.task) }));
		return true;
	})()`, job))
	if !value[bool](p, `window.told.length > 3 && window.told.every((b) => b.at % 10 === 0 && (b.takes < b.needs + 10 || b.takes >= b.needs + 30))`) ||
		!value[bool](p, `window.told.some((b) => b.takes === 10)`) {
		t.Errorf("%s", value[string](p, `JSON.stringify(window.told)`))
	}
	// Whatever of it has room is moved by one step.
	const ribbons = `[...document.querySelectorAll('.ribbon.movable')]`
	const begins = `(() => { const [h, m] = document.querySelector('[data-test=booked-at]').textContent.match(/(\d+):(\d\d)/).slice(1); return 60 * h + +m })()`
	p.until(ribbons + `.length > 3`)
	press := func(ribbon, key string) {
		value[bool](p, fmt.Sprintf(`(%s.dispatchEvent(new KeyboardEvent('keydown', { key: %q, bubbles: true })), true)`,
			ribbon, key))
	}
	moved := 0
	for n := value[int](p, ribbons+`.length`) - 1; n >= 0 && moved == 0; n-- {
		press(fmt.Sprintf(`%s[%d]`, ribbons, n), "Enter")
		p.until(`!!document.querySelector('.ribbon.on') && !!document.querySelector('[data-test=booked-at]')`)
		before := value[int](p, begins)
		press(`document.querySelector('.ribbon.on')`, "ArrowRight")
		p.until(fmt.Sprintf(`%s !== %d || !!document.querySelector('[data-test=refused]')`, begins, before))
		moved = value[int](p, begins) - before
	}
	if moved != 10 {
		t.Errorf("moved by %d minutes", moved)
	}
	p.click("[data-test=discard]")
	p.until(`!document.querySelector('[data-test=proposal]')`)
}
