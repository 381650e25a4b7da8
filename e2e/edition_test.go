package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
)

// A sheet gets a new edition while a job holds the old one: the job keeps its
// own, is told what changed, and takes the new one when asked; undo goes back.
func TestAJobIsToldOfANewerSheet(t *testing.T) {
	p := begin(t, "Weigh house")
	p.at("measure")
	p.rectangle("6 m", "5 m")
	p.at("build-up")
	p.choose("Add a coat of", "Skerry")
	p.at("batches")
	p.until(`!!document.querySelector('[data-test=batches-1]')`)
	p.saved()
	p.at("build-up")
	// What was typed last is kept, however long the server takes to read it; what it cannot
	// read is not left out in silence.
	p.beforeAnyScript(`(() => {
		const send = window.fetch
		window.fetch = async (request, ...rest) => {
			if (request.url?.endsWith('/api/read')) await new Promise(on => setTimeout(on, 400))
			return send(request, ...rest)
		}
	})()`)
	p.open("/shelf/p/skerry-grout/edit")
	p.part("film")
	p.typed("Usual loss", "a lot")
	p.click("[data-test=save-sheet]")
	p.sees("[role=alert]", "Usual loss: this entry is not read")
	p.typed("Usual loss", "11 %")
	p.click("[data-test=save-sheet]")
	p.sees("main", "edition 2")

	p.openJob("Weigh house")
	p.at("build-up")
	p.sees("[data-test=newer]", "This job uses edition 1 until you change it to edition 2")
	p.sees("[data-test=newer]", "→ 11%")
	p.button("Change to edition 2")
	p.until(`!document.querySelector('[data-test=newer]')`)
	p.saved()
	p.click("[data-test=undo]")
	p.sees("[data-test=newer]", "This job uses edition 1")
	p.saved()
}

// Two sheets stand side by side, and what differs is marked.
func TestSheetsAreCompared(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.open("/shelf")
	p.click("[data-test=sheet-undertow-mb2] input")
	// The table is sorted by the keyboard; what is ticked stays while the shelf is searched.
	p.tabTo(`e.matches('th[tabindex]') && e.innerText.includes('Wet film')`)
	p.keys(kb.Enter)
	p.until(`document.querySelector('th[aria-sort=ascending]')?.innerText.includes('Wet film')`)
	p.typed("Search name, kind, film, window or colour", "hardtack")
	p.click("[data-test=sheet-hardtack-clear] input")
	p.click("[data-test=compare]")
	p.sees("main", "Side by side")
	p.sees("main table", "Undertow MB-2")
	p.sees("main table", "Hardtack Clear")
	p.until(`document.querySelectorAll('main tr').length > 10`)
	p.sees("main tr.differs", "density of A")
}

// A medium is entered with its packs, found in the list, and removed again.
func TestAMediumIsEntered(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.open("/shelf/media")
	p.click("[data-test=new-medium]")
	p.fill("Name of the medium", "Dune sand 0.8")
	p.choose("Kind", "quartz")
	p.fill("Largest grain", "0.8 mm")
	p.fill("Rate at rejection", "2.1 kg/m²")
	p.click("[data-test=keep-medium]")
	p.sees("main", "Dune sand 0.8")
	p.sees("main", "grain to 800 µm")
	p.button("Dune sand 0.8")
	p.button("Remove")
	p.until(`!document.querySelector('main').innerText.includes('Dune sand')`)
}
