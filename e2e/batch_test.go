package e2e

import (
	"fmt"
	"os"
	"testing"
)

// look takes a picture while a person works on the interface: only where a folder
// for them is named.
func (p *page) look(name string) {
	p.t.Helper()
	if folder := os.Getenv("NEPHELON_LOOK"); folder != "" {
		p.picture(folder + "/" + name + ".png")
	}
}

// A bar top of two pieces: a seal coat, then a flood coat in five colours. The base gets its amount, the rest
// is even; the card tells each cup, what every piece gets of it and when, its mists and its drips.
func TestABarTop(t *testing.T) {
	t.Parallel()
	p := begin(t, "Tasting room")
	p.at("measure")
	p.click("[data-test=add-top]")
	p.button("Add a piece")
	p.fill("Length of Piece 1", "2.6 m")
	p.fill("Front to back of Piece 1", "700 mm")
	p.button("Add a piece")
	p.fill("Length of Piece 2", "1.4 m")
	p.fill("Front to back of Piece 2", "550 mm")
	p.sees("[data-test=area]", "2.59 m²") // 1.82 and 0.77
	p.at("build-up")
	p.choose("Add a coat of", "Meniscus")
	p.fill("Amount of coat 1", "250 µm")
	p.click("[data-test=extras-1] [aria-expanded]")
	p.click("[aria-label='Coat 1 is a seal coat']")
	p.choose("Add a coat of", "Meniscus")
	p.fill("Amount of coat 2", "3 mm")
	p.click("[data-test=colours-2] [aria-expanded]")
	for range 4 {
		p.click("[data-test=add-colour-2]")
	}
	p.choose("Pigment of colour 1", "Foam white")
	p.choose("Pigment of colour 2", "Ash pearl")
	p.choose("Pigment of colour 3", "Copper pearl")
	p.choose("Pigment of colour 4", "Pitch black")
	p.sees("[data-test=colours-2] [aria-expanded]",
		"Foam white paste, Ash pearl, Copper pearl, Pitch black paste, Colour 5")
	p.sees("[data-test=colours-2]", "Together 100%")
	p.choose("Divided", "so much for the base")
	p.fill("For the base", "5 L")
	p.choose("Alcohol mist as an accent", "two")
	p.fill("Where colour 3 goes", "veins, corner to corner")
	p.fill("Pigment in colour 4", "40 %")
	p.sees("#build-up .warning", "of pigment in Pitch black paste (of A + B) is more than Meniscus")
	p.look("colours")
	p.click("[data-test=fix]")
	p.until(`!document.querySelector('#build-up .findings .warning')`)
	p.at("kits")
	p.sees("[data-test=media]", "Copper pearl")
	p.saved()
	p.at("pour")
	p.click("[data-test=to-cards]")
	p.sees("[data-test=on-the-floor]", "so thin a film hangs in no drips")
	p.until(`document.querySelector('[data-test=cups]') || document.querySelector('[data-test=card-next]').click()`)
	p.sees("[data-test=on-the-floor]", "A second, other mist about 5 min after the first")
	p.sees("[data-test=on-the-floor]", "Scrape the drips again after 10 min")
	p.sees("[data-test=cups]", "Foam white paste")
	p.sees("[data-test=cups]", "veins, corner to corner")
	p.sees("[data-test=cups] thead", "Piece 2")
	p.sees("[data-test=mix-card] .steps", "Divide it into 5 cups, and colour each; the base first.")
	p.sees(".turns", "After mixing start")
	// What the cups hold together is the batch.
	if off := value[float64](p, `(() => {
		const litres = t => parseFloat(t) * (t.includes('mL') ? 0.001 : 1);
		const card = document.querySelector('[data-test=mix-card]');
		const cups = [...card.querySelectorAll('[data-test=cups] tbody tr td:nth-child(2) b')].map(e => litres(e.innerText));
		return Math.abs(cups.reduce((a, b) => a + b, 0) / litres(card.querySelector('.total b').innerText) - 1);
	})()`); off > 0.01 {
		t.Errorf("the cups are off the batch by %v", off)
	}
	p.look("cups")
	// Of each coat one sheet tells the sections, one is the card.
	if pages := p.printedPages(); pages != 4 {
		t.Errorf("printed on %d pages", pages)
	}
	// On the day the cups are told one by one, in their order.
	p.openJob("Tasting room")
	p.click("[data-step=days]")
	p.opensTheDay()
	p.choose("Coat of the day", "Countertop 1, coat 2")
	p.closesGates()
	for _, act := range []string{"meets", "mixed", "poured"} {
		p.touch(act)
	}
	p.sees("[data-test=now]", "Batch 1: cup 1 of 5, Foam white paste")
	p.touch("cup")
	p.sees("[data-test=now]", "cup 2 of 5")
	p.touch("cup")
	p.sees("[data-test=now]", "cup 3 of 5, Copper pearl: veins, corner to corner")
	p.sees("[data-test=now] [data-test=cups]", "Pitch black paste")
	p.look("day-cups")
	// The clear cup is made another colour: 964 mL of it as the copper beside it.
	p.click("[data-test=change-plan]")
	p.button("The client wants it so")
	p.click("[data-topic=colour]")
	p.sees("[data-test=change] [data-cup='5']", "Copper pearl, 20.7 g")
	p.look("day-colour")
	p.click("[data-cup='5'] button:nth-of-type(3)")
	p.until(`!document.querySelector('[data-test=change]')`)
	p.until(`document.querySelectorAll('[data-test=now] [data-test=cups] tbody tr')[4].innerText.includes('20.7')`)
	p.scroll("[data-test=day-floor]")
	p.look("day-top-floor")
}

// The crew's scale, pail and pumps are told once, and every card follows; the
// start of the work gives each batch its clock and each film its hours.
func TestACardWithPumpsAndAClock(t *testing.T) {
	t.Parallel()
	p := begin(t, "Tar house")
	p.at("measure")
	p.rectangle("7 m", "5 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.choose("Add a coat of", "Hardtack")
	p.setting()
	p.until(`!!document.querySelector('[data-test=batches-2]')`)
	p.part("times")
	p.sees("[data-test=film-times]", "Enter when the first pail is poured")
	p.sees("[data-test=film-1]", "recoat from")
	p.click("[data-test=pail] [aria-expanded]")
	p.fill("Empty pail weight", "900 g")
	p.fill("Smallest step of the scale", "10 g")
	p.choose("Pumps", "plain")
	p.fill("Ten strokes of A weighed", "0.33 kg")
	p.sees("[data-test=pail] [aria-expanded]", "pail of 900 g, scale in 10 g, plain pumps")
	p.saved()
	p.day("First pail poured, not before", "2031-06-03T07:00")
	p.sees("[data-test=film-times]", "If the crew works without a break")
	p.sees("[data-test=film-1]", "first pail opened Tue 06:53, proposed") // and poured at 07:00
	// A week later the weekday alone would name two days.
	p.sees("[data-test=film-1]", "Jun 10")
	p.saved()
	value[bool](p,
		`(document.querySelector('[data-test=film-times]').scrollIntoView({ block: 'center', behavior: 'instant' }), true)`)
	p.look("times")
	p.at("pour")
	p.click("[data-test=to-cards]")
	p.sees("[data-test=strokes]", "strokes of A")
	p.sees("[data-test=strokes]", "the strokes follow the ratio")
	p.sees("[data-test=mix-card] th", "scale with pail (900 g)")
	p.sees("[data-test=mix-card] .steps", "Into a second clean bucket")
	p.sees("[data-test=use-by]", ":")
	p.click("[data-test=meet]")
	p.sees("[data-test=left]", "left")
	p.look("card")
	// Each card and each map of sections prints on one sheet; what is not ticked does not.
	wanted := value[int](p, `document.querySelectorAll('[data-sheet]').length`)
	if pages := p.printedPages(); pages != wanted {
		t.Errorf("%d cards and maps print on %d pages", wanted, pages)
	}
	p.click("[data-test=card-index] [data-coat='2'] input")
	first := value[int](p, `document.querySelectorAll('[data-coat="1"] [data-sheet]').length`)
	p.sees("[data-test=print]", fmt.Sprintf("Print %d sheets", first))
	if pages := p.printedPages(); pages != first {
		t.Errorf("%d cards and maps were ticked, %d pages print", first, pages)
	}
	// What is read at arm's length has 12 points (common practice, no source): 16 CSS pixels.
	if size := p.printedSize("[data-test=mix-card] .steps"); size < 16 {
		t.Errorf("the steps of a card print at %.1f px", size)
	}
	// The clock of a batch outlives a reload of the page.
	p.open(value[string](p, "location.pathname"))
	p.sees("[data-test=left]", "left")
}

// A bond coat alone with three cans: 162 m² at 55 m² a kit are 2.95 kits, and nothing is added to a practical amount.
// One person mixes, spreads and shakes the grit on by walking; each can is one batch.
func TestABondCoatAloneWithThreeCans(t *testing.T) {
	t.Parallel()
	p := begin(t, "Ferry ramp store")
	p.at("measure")
	p.rectangle("13.5 m", "12 m")
	p.at("build-up")
	p.choose("Add a coat of", "Causeway")
	p.choose("Basis of coat 1", "area per kit")
	p.fill("Amount of coat 1", "55 m²")
	p.sees("[data-test=added]", "nothing is added")
	p.choose("Broadcast into coat 1", "Fused grit 180")
	p.choose("Broadcast rate of coat 1", "light")
	p.sees("#build-up .warning", "nothing says how much Fused grit 180 µm goes onto it")
	p.fill("Stays in coat 1", "60 g/m²")
	p.until(`!document.querySelector('#build-up').innerText.includes('nothing says how much')`)
	p.setting()
	p.fill("People spreading (not the mixer)", "1")
	p.click("[aria-label='Spreaders also mix']")
	p.choose("Batch size", "One kit at a time")
	p.sees("[data-test=line]", "1 person")
	p.sees("[data-test=batches-1]", "A larger bucket: 20 L instead of 16 L") // the can does not fit the pail
	p.fill("Bucket, to the brim", "26 L")
	p.sees("[data-test=batches-1]", "3 batches")
	p.sees("[data-test=batches-1]", "1 × 20 L set")
	p.at("kits")
	p.sees("#kits", "3 × 20 L set")
	p.sees("#kits", "9.72 kg") // of grit: 162 m² at 60 g/m²
	p.look("bond-kits")
	p.at("pour")
	p.click("[data-test=to-cards]")
	p.sees("main", "Causeway")
	p.look("bond-card")
}

// A stone deck begins with its system. By hand: 6.2 m × 4.1 m = 25.42 m²; 24 kg/m² of stones are 610 kg, so six lots of
// at most 120 kg and their 36 kg of resin, which fifths of a drum of 20 kg come to in nine; a mixer that turns 60 kg
// takes eleven of a sixth. Their card tells the trowel.
func TestAStoneDeck(t *testing.T) {
	t.Parallel()
	p := begin(t, "Heron hide")
	p.at("measure")
	p.rectangle("6.2 m", "4.1 m")
	p.sees("[data-test=area]", "25.42 m²")
	p.at("build-up")
	p.click("[data-test=systems]")
	p.click("[data-test=begin-pebble-deck]")
	p.sees("[data-test=coat-2]", "Shingle Bind")
	p.at("batches")
	p.sees("[data-test=batches-2]", "9 batches")
	p.sees("[data-test=batches-2]", "The mixer turns 120 kg of stones at once, full by mass, which cover 5 m²")
	p.setting()
	p.look("stone-setting")
	p.fill("Stones the mixer turns, mass", "60 kg")
	p.sees("[data-test=batches-2]", "11 batches")
	p.saved()
	p.at("kits")
	p.unfold()
	p.sees("#kits", "Forced-action mixers")
	p.at("pour")
	p.click("[data-test=to-cards]")
	p.sees("[data-test=mix-card]", "Shingle")
	p.button("Next ›")
	p.button("Next ›")
	p.sees("[data-test=mix-card]", "until every stone is glossy")
	p.sees("[data-test=mix-card]", "clean steel trowel")
	p.look("stone-card")
}
