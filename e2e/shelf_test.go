package e2e

import (
	"errors"
	"os"
	"path/filepath"
	"testing"

	"github.com/carlos7ags/folio/document"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// A flake floor begins with a system, is broken in three ways, and each way out
// is taken with one click; undo takes it back.
func TestAFlakeSystemBrokenThreeWays(t *testing.T) {
	t.Parallel()
	p := begin(t, "Fish auction")
	p.at("measure")
	p.rectangle("9 m", "6 m")
	p.at("build-up")
	p.click("[data-test=systems]")
	p.sees("[role=dialog]", "Flake to rejection")
	p.click("[data-test=begin-flake-full]")
	p.sees("[data-test=coat-1]", "Additions and timing: Mudflat flake 6 mm to rejection")
	p.until(`document.querySelectorAll('#build-up .coats > li').length === 3`)
	p.at("kits")
	p.sees("[data-test=media]", "Mudflat flake")
	p.at("build-up")
	p.until(`!document.querySelector('#build-up .findings .warning')`)
	// 54 m² × 0.62 kg/m² are 33.48 kg, and 15 % to store.
	p.at("kits")
	p.sees("[data-test=media]", "38.5 kg")
	p.sees("[data-test=tools]", "Tools and consumables")

	// First: the clear goes on too late.
	p.at("build-up")
	p.click("[data-test=extras-2] [aria-expanded]")
	p.fill("Wait before coat 2", "40 h")
	p.sees("#build-up .warning", "window of Shoalbody F closes 20 h after it at 20 °C")
	p.button("Abrade coat 1 before it")
	p.until(`!document.querySelector('#build-up .findings .warning')`)
	p.sees("[data-test=extras-2]", "abraded before")

	// Second: daylight on a floor that lost its topcoat.
	p.button("Remove coat 3")
	p.click("[data-test=terms] input[type=checkbox]")
	p.sees("#build-up .warning", "Coat 2 of Skerry Grout is the last one, and it ambers in daylight")
	p.click("[data-test=fix]")
	p.until(`!document.querySelector('#build-up .findings .warning')`)
	p.until(`document.querySelectorAll('#build-up .coats > li').length === 3`)
	p.click("[data-test=undo]")
	p.sees("#build-up .warning", "ambers in daylight")
	p.click("[data-test=redo]")
	p.until(`!document.querySelector('#build-up .findings .warning')`)

	// Third: more film than the body coat takes at once.
	p.fill("Amount of coat 1", "2 mm")
	p.sees("#build-up .warning", "over its maximum film of 900 µm")
	p.button("Split into 3 coats of 667 µm")
	p.until(`document.querySelectorAll('#build-up .coats > li').length === 5`)
	p.until(
		`![...document.querySelectorAll('#build-up .findings .warning')].some(e => e.innerText.includes('maximum film'))`)
	p.saved()

	// What came of it is kept as the contractor's own.
	p.click("[data-test=systems]")
	p.fill("Name of the system", "Auction floor")
	p.click("[data-test=keep-system]")
	p.sees("[role=dialog]", "Saved. New surfaces of this kind can start from it.")
	p.until(`!!document.querySelector('[data-test=begin-auction-floor]')`)
	p.button("Close")
	p.open("/shelf/systems")
	p.sees("main", "Auction floor")
	p.button("Remove Auction floor")
	p.sees("main", "“Auction floor” was removed.")
}

// A band dragged in the drawing changes the order of the coats.
func TestABandIsDragged(t *testing.T) {
	t.Parallel()
	p := begin(t, "Net store")
	p.at("measure")
	p.rectangle("5 m", "4 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.choose("Add a coat of", "Hardtack")
	p.until(`document.querySelectorAll('.stack [data-band]').length === 2`)
	p.saved()
	value[bool](p, `(document.querySelector('.stack').scrollIntoView({ block: 'center', behavior: 'instant' }), true)`)
	at := func(i int) (x, y float64) {
		box := value[[]float64](p, `(() => { const r = document.querySelectorAll('.stack [data-band] rect')[`+string(
			rune('0'+i))+`].getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2] })()`)
		return box[0], box[1]
	}
	x, from := at(0)
	_, to := at(1)
	p.do(
		chromedp.MouseEvent(chromedp.MousePressed, x, from, chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseMoved, x, (from+to)/2, chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseMoved, x, to-4, chromedp.ButtonLeft),
		chromedp.MouseEvent(chromedp.MouseReleased, x, to-4, chromedp.ButtonLeft),
	)
	p.at("build-up")
	p.until(`document.querySelector('[data-test=coat-2]').innerText.includes('Keelbody')`)
	p.click("[data-test=undo]")
	p.until(`document.querySelector('[data-test=coat-1]').innerText.includes('Keelbody')`)
	p.saved()
}

// A printed sheet is entered: what contradicts itself is named, what is missing
// has its cost, and a second edition shows its changes.
func TestASheetIsEnteredFromAPrintedOne(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.open("/shelf")
	p.click("[data-test=new-sheet]")
	p.fill("Name of the product", "Pontoon Grip 7")
	p.sees("[data-test=judged]", "Choose the kind of product.") // nothing is chosen for whoever enters it
	p.choose("Kind of product", "primer")
	p.choose("Chemistry", "epoxy")
	p.choose("Carrier", "100 % solids")
	p.fill("Parts of A", "3")
	p.sees("[data-test=judged]", "Enter the mixing ratio")
	p.fill("Parts of B", "1")
	p.fill("Density of A", "1.12")
	p.fill("Density of B", "0.98")
	p.sees("main", "3.43 : 1 by mass")
	p.fill("Parts of A by mass, if printed", "4")
	p.fill("Parts of B by mass, if printed", "1")
	p.sees("[data-test=judged]", "The sheet prints 4 : 1 of A to B by mass, but 3 : 1 by volume and the densities come "+
		"to 3.429 : 1")
	p.fill("Parts of A by mass, if printed", "3.43")
	p.until(`!document.querySelector('[data-test=judged]').innerText.includes('The sheet prints')`)
	p.part("film")
	p.fill("Min. wet film", "120 µm")
	p.fill("Max. wet film", "90 µm")
	p.sees("[data-test=judged]", "The maximum film is thinner than the minimum")
	p.click("[data-test=save-sheet]")
	p.sees("[role=alert]", "Not saved")
	p.fill("Max. wet film", "280 µm")
	p.part("times")
	p.fill("Pot life", "0.5 min")
	p.sees("[data-test=judged]", "A pot life of 0.5 min at 20 °C is unusual for epoxy")
	p.fill("Pot life, point 1", "32")
	p.fill("Pot life of 1", "5 kg")
	p.fill("Recoat from", "8 h")
	p.fill("Recoat until", "6 h")
	p.sees("[data-test=judged]", "ends after 6 h, before it begins after 8 h")
	p.fill("Recoat until, point 1", "30 h")
	p.sees("[data-test=judged]", "pot life at a second temperature: its change with temperature is assumed")
	p.part("sold")
	p.click("[data-test=add-size]")
	p.fill("Name of size 1", "8 L set")
	p.fill("Volume of size 1", "8 L")
	p.fill("Price of size 1", "164")
	p.until(`!document.querySelector('[data-test=judged]').innerText.includes('Cannot be saved')`)
	p.click("[data-test=save-sheet]")
	p.until(`location.pathname === '/shelf/p/pontoon-grip-7'`)
	p.sees("main", "edition 1")
	p.sees("[data-test=gaps]", "usual loss: 5 % is planned")

	p.click("[data-test=edit-sheet]")
	p.part("film")
	p.fill("Usual loss", "7 %")
	p.click("[data-test=add-amount]")
	p.fill("Amount 1 is for", "Porous screed")
	p.fill("Amount 1", "4 m²/L")
	p.fill("Max. wet film by slab temperature", "300 µm")
	p.part("product")
	p.fill("Shelf life of A, if its own", "240 d")
	p.click("[data-test=save-sheet]")
	p.sees("main", "edition 2")
	p.sees("main", "amount for Porous screed")
	p.sees("main", "shelf life of A")
	p.sees("main", "usual loss: not given → 7%")

	// A job takes it from the shelf, and the sheet can then only be archived.
	p.newJob("Slipway")
	p.at("measure")
	p.rectangle("4 m", "3 m")
	p.at("build-up")
	p.choose("Add a coat of", "Pontoon")
	p.choose("Use of coat 1, by its sheet", "Porous screed")
	p.until(`document.querySelector('[data-test=coat-1]').innerText.includes('250 µm')`)
	p.at("kits")
	p.sees("[data-test=kit-pontoon-grip-7]", "8 L set")
	p.saved()
	p.open("/shelf/p/pontoon-grip-7")
	p.sees("main", "Slipway")
	p.button("Archive")
	p.sees("main", "It is in use, so it was archived instead")
	p.click("[data-test=restore]")
	p.until(`!document.querySelector('main').innerText.includes('· archived')`)
}

// A CSV file with two bad rows: they are named by line, the good one is kept.
func TestAFileWithTwoBadRows(t *testing.T) {
	text := "id,name,kind,chemistry,ratio,ratio by,density A kg/L,density B kg/L,volume solids %,recoat from " +
		"°C:h,recoat until °C:h,kits\n" +
		"jetty-one,Jetty One,primer,epoxy,2:1,volume,1.14,1.02,100,20:7,20:26,6 L set = 6 L @ 121\n" +
		"jetty-two,Jetty Two,body,epoxy,2:1,volume,\"1,4\",1.02,100,20:9,20:30,6 L set = 6 L @ 131\n" +
		"jetty-three,Jetty Three,clear,epoxy,2:1,volume,1.1,1.0,100,20:12,20:8,6 L set = 6 L @ 141\n"
	file := filepath.Join(t.TempDir(), "jetty.csv")
	if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.open("/shelf")
	p.click("[data-test=read-file]")
	p.until(`!!document.querySelector('[data-test=shelf-file]')`)
	p.upload("[data-test=shelf-file]", file)
	p.sees("[data-test=refused-rows]", "2 refused")
	p.sees("[data-test=refused-rows]", "Line 3, Jetty Two")
	p.sees("[data-test=refused-rows]", "“1,4” has a comma; write decimals with a point")
	p.sees("[data-test=refused-rows]", "Line 4, Jetty Three")
	p.sees("[data-test=refused-rows]", "At 20 °C the window ends after 8 h, before it begins after 12 h")
	p.sees("[data-test=good-rows]", "Jetty One")
	p.click("[data-test=keep-rows]")
	p.until(`location.pathname === '/shelf'`)
	p.typed("Search name, kind, film, window or colour", "jett")
	p.sees("[data-test=shelf-count]", "1 sheet")
	p.sees("[data-test=sheet-jetty-one]", "Jetty One")
}

// House methods are chosen once, and the next job starts from them; its stock is
// reserved in the job and shown so on the shelf.
func TestHouseMethodsAndStock(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.open("/house")
	p.part("mixing")
	p.click("[data-test=school-kits] .v-radio:nth-of-type(3) input")
	p.sees("[data-test=house-state]", "saved")
	p.newJob("Lock gate")
	p.at("measure")
	p.rectangle("6 m", "5 m")
	p.at("build-up")
	p.choose("Add a coat of", "Undertow")
	p.setting()
	p.sees("[data-test=batches-1]", "½ × 5.4 L set")
	p.saved()
	p.until(`document.querySelector('select[aria-label="Batch size"]').value === 'half'`)
	p.open("/house")
	p.part("mixing")
	p.click("[data-test=school-kits] .v-radio:nth-of-type(1) input")
	p.sees("[data-test=house-state]", "saved")
	p.open("/house")
	p.part("defaults")
	p.fill("Store room heated to at least", "34 °C")
	p.until(`document.querySelector('[data-test=house-state]').innerText === 'saved'`)
	p.open("/stock")
	p.sees("[data-test=store-room]", "the store room is too warm from")
	p.look("store-room")

	p.openJob("Lock gate")
	p.at("kits")
	p.click("[data-test=stock-picks] [aria-expanded]")
	p.sees("[data-test=stock-picks]", "lot UT-2611")
	p.until(
		`(() => { const l = [...document.querySelectorAll('[data-test=stock-picks] .v-checkbox')].find(l => l.innerText.includes('UT-2611')); l?.querySelector('input').setAttribute('data-take', ''); return !!l })()`)
	p.click("[data-take]")
	p.sees("[data-test=kit-undertow-mb2]", "5.4 L from stock, lot UT-2611")
	p.saved()
	p.open("/stock")
	p.sees("[data-test=container-st-undertow-2]", "Lock gate")
	p.sees("main .v-alert", "12 L of Keelbody 100 A has no matching part")
}

// Two ways of a hall side by side: etched instead of ground, and another system. Each is told with its money, hours,
// nights and risks; using one changes the job, and one undo takes it back.
func TestTwoWaysAreLaidSideBySide(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.openJob("Baggage hall")
	p.at("build-up")
	p.click("[data-test=compare-ways]")
	p.choose("What differs", "Mechanical preparation")
	p.choose("The other way", "Etch")
	p.sees("[data-test=ways]", "Nights")
	p.sees("[data-test=ways]", "must be neutralised, rinsed and dried overnight")
	p.sees("[data-test=ways]", "Acid into water")
	p.look("ways-etch")
	p.choose("What differs", "System")
	p.choose("The other way", "Flake")
	p.sees("[data-test=ways]", "Shoalbody")
	p.look("ways-system")
	p.click("[data-test=use-way]")
	p.sees("[data-test=coat-1]", "Shoalbody")
	p.click("[data-test=undo]")
	p.sees("[data-test=coat-1]", "Undertow")
	p.saved()
}

// A maker's sheet is read from its text: what was read is looked through with its lines, by keys where it is
// doubtful, what is not stated is listed, and it begins a sheet of the shelf, which asks for nothing that was read.
// A newer PDF of it is compared with what is kept, and becomes the next edition.
func TestAMakersSheetBeginsAProduct(t *testing.T) {
	text, err := os.ReadFile("../core/sheet/testdata/body-us.txt")
	if err != nil {
		t.Fatal(err)
	}
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.open("/shelf")
	p.click("[data-test=read-sheet]")
	file := filepath.Join(t.TempDir(), "sheet.txt")
	if err := os.WriteFile(file, text, 0o600); err != nil {
		t.Fatal(err)
	}
	p.upload("input[type=file]", file)
	p.sees("[data-test=draft]", "look at it")
	p.sees("[data-test=draft]", "Not stated")
	p.look("sheet-read")
	p.click("[data-test=next-doubt]")
	p.until(`document.activeElement?.dataset.value === 'foot'`)
	p.do(chromedp.KeyEvent("t"))
	p.until(`!document.querySelector('[data-test=next-doubt]')`)
	// A line is corrected, and read again.
	p.do(chromedp.KeyEvent("c"))
	p.until(`document.activeElement?.closest('[data-test=line]')`)
	p.do(chromedp.KeyEvent(kb.End), chromedp.KeyEvent(" "), chromedp.KeyEvent(kb.Enter))
	p.sees("[data-test=draft]", "(corrected)")
	p.look("sheet-corrected")
	p.until(`document.activeElement?.dataset.value === 'foot'`)
	p.do(chromedp.KeyEvent("c"))
	p.until(`document.activeElement?.closest('[data-test=line]')`)
	p.fill("Line 27", "nothing")
	p.sees("[data-test=unread]", "Line 27 gives no value")
	p.button("As the sheet has it")
	p.until(`!document.querySelector('[data-test=unread]') && !!document.querySelector('[data-value=foot]')`)
	p.click("[data-test=begin-sheet]")
	p.until(`location.pathname === '/shelf/new'`)
	p.until(`[...document.querySelectorAll('input')].some(i => i.value === 'HARBOURSTONE 210')`)
	p.button("Save to the shelf")
	p.until(`location.pathname === '/shelf/p/harbourstone-210'`)
	p.sees("main", "HARBOURSTONE 210")
	p.sees("[data-test=original]", "sheet.txt")
	p.look("sheet-original")
	p.button("Each value with its line")
	p.sees("[data-test=draft]", "values read")

	newer := filepath.Join(t.TempDir(), "newer.pdf")
	page := document.NewDocument(document.PageSizeA4)
	if err := errors.Join(page.AddHTML("<p>HARBOURSTONE 210</p><p>Epoxy floor coating</p><p>VOC: 12 g/L</p>"+
		"<p>Pot life: 22 min at 25 °C (1 gal)</p>", nil), page.Save(newer)); err != nil {
		t.Fatal(err)
	}
	p.open("/shelf/sheet")
	p.upload("input[type=file]", newer)
	p.sees("[data-test=kept]", "edition 1")
	p.sees("[data-test=kept]", "volatile compounds")
	p.look("sheet-newer")
	p.click("[data-test=next-edition]")
	p.button("Save as a new edition")
	p.until(`location.pathname === '/shelf/p/harbourstone-210'`)
	p.sees("main", "edition 2")
	p.sees("main", "12 g/L")
}

// A supplier's list is dropped in, its columns are told from the headings, a row is given its pack by hand, and the
// shelf has the new prices.
func TestAPriceListIsRead(t *testing.T) {
	file := filepath.Join(t.TempDir(), "strandholm.csv")
	list := "Strandholm Supply, valid from January;;;\nItem no.;Description;Pack size;Net price EUR\n" +
		"SH-1;Keelbody 100;6.8 L;145,00\nSH-2;Keelbody 100;25 L;452,00\n" +
		"SH-3;Lining brush;;4,20\nSH-4;Topcoat of the gull;3.9 L;201,50\n"
	if err := os.WriteFile(file, []byte(list), 0o600); err != nil {
		t.Fatal(err)
	}
	p := newPage(t, theStage.address)
	p.beforeAnyScript(`window.BarcodeDetector = class {
		async detect(picture) { return picture.width > 0 ? [{ rawValue: 'SH-1' }] : [] }
	}`)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.open("/shelf")
	p.click("[data-test=read-prices]")
	p.typed("Supplier", "Strandholm")
	p.upload("[data-test=price-file]", file)
	p.sees("[data-test=prices]", "2 prices change")
	p.sees("[data-test=price-3]", "Keelbody 100, 6.8 L set")
	p.sees("[data-test=price-4]", "new size")
	p.click("[data-test=unmatched] [aria-expanded]")
	p.choose("Pack of row 6", "Gullwing UR, 3.9 L set")
	p.sees("[data-test=price-6]", "chosen")
	p.look("price-list")
	p.click("[data-test=keep-prices]")
	p.until(`location.pathname === '/shelf'`)
	p.open("/shelf/p/gullwing-ur")
	p.sees("main", "201.5")
	p.open("/shelf/prices")
	p.button("Strandholm")
	p.upload("[data-test=price-file]", file)
	p.sees("[data-test=prices]", "3 stay as they are")
	// A delivery is put into stock by the number of its pack; its expiry follows from its shelf life.
	p.open("/stock")
	p.click("[data-test=new-container]")
	p.fill("Barcode or article number of the pack", "SH-9")
	p.sees("[role=dialog]", "No pack of the shelf has the number SH-9")
	// Where the browser reads codes from pictures, the label is photographed; here a detector stands in for its own.
	picture, err := filepath.Abs("../docs/screenshots/bench.png")
	if err != nil {
		t.Fatal(err)
	}
	p.upload("[role=dialog] input[type=file]", picture)
	p.sees("[role=dialog]", "Keelbody 100, 6.8 L set")
	p.fill("Lot", "KQ 4471")
	value[bool](p, `(() => {
		const made = [...document.querySelectorAll('[role=dialog] input[type=date]')][1]
		made.value = '2031-02-03'
		made.dispatchEvent(new Event('input', { bubbles: true }))
		made.dispatchEvent(new Event('change', { bubbles: true }))
		return true
	})()`)
	p.look("stock-label")
	p.click("[data-test=keep-container]")
	p.typed("Search name, lot or place", "KQ 4471")
	p.sees("[data-test=containers]", "2032-02-03")
	p.look("stock-derived")
}

// A new job is planned by the more careful of sheet and own floors, and says so; undo plans by the sheet again.
func TestAJobIsPlannedByOwnFloors(t *testing.T) {
	t.Parallel()
	p := begin(t, "Customs shed")
	p.rectangle("8 m", "6 m")
	p.at("build-up")
	p.choose("Add a coat of", "Undertow")
	p.saved()
	p.click("[data-test=own-floors]")
	p.sees("[data-test=own-figures]", "coat 1")
	p.sees("[data-test=own-figures]", "own floors")
	p.click("[data-test=use-figures]")
	p.sees("[data-test=coat-1]", "own test")
	p.saved()
	p.look("own-floors")
	p.button("Undo")
	p.sees("[data-test=coat-1]", "data sheet")
}
