package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
)

// The hour of a pour is gone through before the first bucket: a crew that does not make
// it is told so, the hour is played and stepped to its tight moment, another crew is
// tried and taken over, and the running sheet prints on one page.
func TestThePourIsPlayedAndMended(t *testing.T) {
	t.Parallel()
	p := begin(t, "Eel house")
	p.rectangle("11 m", "7 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.setting()
	p.fill("People spreading (not the mixer)", "1")
	p.fill("Pace of one person", "8 m²/h")
	p.saved()
	p.at("pour")
	p.sees("[data-test=answer-now]", "2 people are not enough")
	p.sees("[data-test=answer-now]", "too late")
	p.sees("[data-test=odds]", "On time in")
	p.sees("[data-test=ways]", "One more spreader")
	p.sees("[data-test=ways]", "of the runs, ") // each with its odds and hands
	p.click("[data-test=best-hours] button")
	p.sees("[data-test=best-hours]", "Something speaks against every hour")
	p.look("pour-late")
	before := value[string](p, `document.querySelector('[data-test=hour-at]').textContent`)
	p.choose("Speed", "120")
	p.click("[data-test=play]")
	p.until(`document.querySelector('[data-test=hour-at]').textContent !== ` + "`" + before + "`" +
		` && !!document.querySelector('[data-test=pour-floor] .laying')`)
	p.click("[data-test=play]")
	p.look("pour-playing")
	p.click("[data-test=next-tight]")
	// Another crew is tried beside the present one, and taken over.
	p.fill("People on the floor", "4")
	p.sees("[data-test=answer-tried]", "5 people are enough")
	p.sees("[data-test=answer-now]", "2 people are not enough")
	p.look("pour-tried")
	p.click("[data-test=take-over]")
	p.until(`!document.querySelector('[data-test=answer-tried]')`)
	p.sees("[data-test=answer-now]", "5 people are enough")
	p.saved()
	p.click("[data-test=undo]")
	p.sees("[data-test=answer-now]", "2 people are not enough")
	// Another order of the sections is tried.
	p.choose("Order of sections", "turned by 90°")
	p.sees("[data-test=answer-tried]", "2 people")
	p.sees("[data-test=answer-tried] [data-test=odds]", "On time in") // nothing moves any more
	p.look("pour-turned")
	p.click("[data-test=put-back]")
	p.until(`!document.querySelector('[data-test=answer-tried]')`)
	// On the day the first section goes faster than planned; the rest follows it. What the field
	// asked while it was typed in may be answered after what was entered.
	value[bool](p, `(() => {
		const honest = window.fetch;
		let late = true;
		window.fetch = async (...asked) => {
			const held = late && (asked[0].url ?? String(asked[0])).endsWith('/api/read');
			if (held) { late = false; window.asked = true; await new Promise(go => { window.answer = go }) }
			const answer = await honest(...asked);
			if (held) setTimeout(() => { window.answered = true }, 0);
			return answer;
		};
		return true;
	})()`)
	p.typed("Time of the first section", "30 min")
	p.until(`!!window.asked`)
	p.keys("\r")
	p.sees("[data-test=answer-tried]", "2 people")
	p.sees(".whatif", "m²/h each")
	p.until(`(window.answer(), !!window.answered)`)
	p.until(`document.fonts.status === 'loaded'`)
	p.sees(".whatif", "m²/h each")
	p.sees("[data-test=answer-tried] [data-test=odds]", "On time in")
	p.look("pour-corrected")
	p.click("[data-test=put-back]")
	p.until(`!document.querySelector('[data-test=answer-tried]')`)
	p.click("[data-test=to-running]")
	p.sees("[data-test=running]", "1")
	p.sees("[data-test=running-sheet]", "Have ready")
	p.look("running")
	if pages := p.printedPages(); pages != 1 {
		t.Errorf("the running sheet takes %d pages", pages)
	}
	p.do(chromedp.NavigateBack())
}

// A join is dragged: tape, sections and batches follow the hand, and one step undoes it.
func TestAJoinIsDragged(t *testing.T) {
	t.Parallel()
	p := begin(t, "Oar store")
	p.rectangle("12 m", "6 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.saved()
	p.at("pour")
	p.sees("[data-test=answer-now]", "are enough")
	p.part("tape")
	p.until(`!!document.querySelector('[data-test=section-plan]')`)
	value[bool](p,
		`(document.querySelector('[data-test=section-plan]').scrollIntoView({ block: 'center', behavior: 'instant' }), true)`)
	tape := value[string](p, `document.querySelector('[data-test=tape-marks]').innerText`)
	p.drags("[data-test=join-1]", "[data-test=tape-marks]")
	p.sees("[data-test=placed]", "You placed the joints")
	p.saved()
	p.look("dragged")
	p.click("[data-test=undo]")
	p.until(`!document.querySelector('[data-test=placed]')`)
	p.until(fmt.Sprintf(`document.querySelector('[data-test=tape-marks]').innerText === %q`, tape))
	// One that is pinned stays while the rest is divided anew.
	first := `document.querySelector('[data-test=tape-marks] tbody').innerText.replace(/Lock(ed)?/, '')`
	row := value[string](p, first)
	p.click("[data-test=pin-1]")
	p.sees("[data-test=pinned]", "A joint is locked")
	p.saved()
	p.sees("[data-test=pin-1]", "Locked")
	p.until(fmt.Sprintf(`%s === %q`, first, row))
	p.look("pinned")
	p.click("[data-test=free-joins]")
	p.until(`!document.querySelector('[data-test=pinned]')`)
}

// A hall in which people must get past keeps one side passable: what lies along a wall waits
// until the rest can be walked on. Of two doors the one that is never shut is taken.
func TestASideStaysPassable(t *testing.T) {
	t.Parallel()
	p := begin(t, "Ferry passage")
	p.rectangle("14 m", "6 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.saved()
	p.at("measure")
	p.choose("Wall with the exit", "wall 4")
	p.click("[data-test=ways-out] [aria-expanded]")
	p.fill("Closed at", "09:30")
	p.choose("Put on the plan", "Another exit")
	p.clickOn("[data-test=outline]", 150, 0)
	p.sees("[data-test=ways-out]", "Exit 2")
	p.fill("Width kept passable", "1.5 m")
	p.look("ways-out")
	p.click("[data-test=passable]")
	p.until(`[...document.querySelectorAll("[role=tab]")].some((t) => t.innerText.includes("along wall 1"))`)
	p.sees(".totals", "63 m²") // 14 m × 4.5 m
	p.saved()
	p.surface("Floor 1, along wall 1")
	p.sees(".totals", "21 m²")
	p.until(
		`document.querySelector('[data-test=after] select').selectedOptions[0].textContent.includes('Floor 1 can be walked on')`)
	p.look("passable")
	p.click("[data-test=undo]")
	p.sees(".totals", "84 m²")
}

// One person alone lays an L with a column and one door by half kits, works around the
// column towards the door, and sees the hour as a list on a phone.
func TestAloneOverAnL(t *testing.T) {
	t.Parallel()
	p := begin(t, "Smoke house")
	p.at("measure")
	p.outlining()
	p.wall("right", "9 m")
	p.wall("up", "4 m")
	p.wall("left", "5 m")
	p.wall("up", "4 m")
	p.wall("left", "4 m")
	p.button("Close the outline")
	p.choose("Wall with the exit", "wall 5")
	p.click("[data-test=draw-hole]")
	p.scroll("[data-test=outline]")
	for _, at := range [][2]float64{{-60, 60}, {-30, 60}, {-30, 90}, {-60, 90}} {
		p.clickOn("[data-test=outline]", at[0], at[1])
	}
	p.button("Close the outline")
	p.sees(".totals", "Around columns")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.setting()
	p.fill("People spreading (not the mixer)", "1")
	p.click("[aria-label='Spreaders also mix']")
	p.sees("#batches", "People, mixing and spreading")
	p.saved()
	p.at("pour")
	p.sees("[data-test=answer-now]", "1 person")
	p.choose("Batch size", "half kits")
	p.sees("[data-test=answer-tried]", "1 person is enough")
	p.click("[data-test=take-over]")
	p.until(`!document.querySelector('[data-test=answer-tried]')`)
	p.saved()
	p.part("tape")
	// The work begins in the leg that lies farther from the door and ends at it.
	p.until(`(() => {
		const y = n => [...document.querySelectorAll('[data-test=section-plan] .label')].find(g => g.querySelector('.number').textContent.trim() === String(n))?.getBoundingClientRect();
		const all = document.querySelectorAll('[data-test=section-plan] .label').length;
		return all > 1 && y(1).left > y(all).left && y(all).top < y(1).top;
	})()`)
	p.part("hour")
	p.do(chromedp.EmulateViewport(390, 844))
	p.until(`document.querySelector('[data-test=running]')?.offsetParent`)
	p.do(chromedp.EmulateViewport(1280, 800))
}
