package e2e

import "testing"

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
	product := value[string](p, `document.querySelector('[data-test=coat-1] select').value`)

	p.open("/shelf/p/" + product + "/edit")
	p.fill("Usual loss", "11 %")
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
