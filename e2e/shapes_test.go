package e2e

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
)

// A top with a sink and two exposed edges, by hand: 2.4 m × 0.65 m less
// 0.8 m × 0.42 m is 1.224 m²; its front of 2.4 m and its right end of 0.65 m,
// 40 mm thick, add 0.122 m². The sink stands 60 mm from the front.
func TestATopWithASinkAndTwoExposedEdges(t *testing.T) {
	t.Parallel()
	p := begin(t, "Ferry galley")
	p.at("measure")
	p.click("[data-test=add-top]")
	p.sees("#measure", "Where two runs meet in a corner")
	p.button("Add a piece")
	p.fill("Length of Piece 1", "2.4 m")
	p.fill("Front to back of Piece 1", "650 mm")
	p.sees("[data-test=area]", "1.56 m²")
	p.button("Add a cut-out")
	p.fill("Length of Sink", "800 mm")
	p.fill("Front to back of Sink", "420 mm")
	p.sees("[data-test=area]", "1.22 m²")
	p.fill("From the front of Sink", "60 mm")
	p.sees("#measure .findings", "the strip between Sink and side 1 is only 60 mm wide over 0.8 m")
	p.sees("#measure .findings", "Pour a bead into it on purpose")
	p.choose("What side 1 of Piece 1 is", "exposed edge")
	p.sees("#measure .findings .warning", "the top has no thickness yet")
	p.fill("Thickness of the edge", "40 mm")
	// The second edge is picked on the drawing.
	p.clickSide(1)
	p.sees("[data-test=exposed]", "3.05 m")
	p.sees("[data-test=area]", "1.35 m²")
	p.sees("[data-test=upright]", "0.12 m²")
	p.click("[data-test=area] .open-figure")
	p.sees(".working", "Sink in Piece 1")
	p.button("Close")
	// A cut-out larger than its top is refused with its place; nothing is lost.
	p.fill("Length of Sink", "4 m")
	p.fill("Front to back of Sink", "2 m")
	p.sees("#measure .findings .refused", "Sink, 8 m², is larger than the piece it is cut from")
	p.click("[data-test=undo]")
	p.click("[data-test=undo]")
	p.sees("[data-test=area]", "1.35 m²")
	p.at("build-up")
	p.choose("Add a coat of", "Meniscus")
	p.at("pour")
	p.part("tape")
	p.sees("[data-test=spans]", "Piece 1")
	p.saved()
	p.at("measure")
	p.click("[data-test=to-sheets]")
	p.sees("[data-test=measuring-sheet]", "only 60 mm between Sink and side 1")
}

// clickSide clicks the middle of a side on the plan, as a hand would.
func (p *page) clickSide(side int) {
	p.t.Helper()
	p.until(`document.querySelectorAll('[data-test=side]').length > 0`)
	value[bool](p, `(document.querySelector('[data-test=outline]').scrollIntoView({ block: 'center' }), true)`)
	at := value[[]float64](p, `(() => {
		const r = document.querySelectorAll('[data-test=side]')[`+string(rune('0'+side))+`].getBoundingClientRect();
		return [r.x + r.width / 2, r.y + r.height / 2];
	})()`)
	p.do(chromedp.MouseClickXY(at[0], at[1]))
}

// A pool with a hopper, worked by hand: a mouth of 6 m × 6 m and a pad of
// 2 m × 2 m, 1.5 m deeper, make a frustum with a slant height of 2.5 m, so 40 m²
// of slopes and 4 m² of pad; 24 m² of shallow floor; 32 m of wall, 1 m deep.
func TestAPoolWithAHopper(t *testing.T) {
	t.Parallel()
	p := begin(t, "Otter sanctuary")
	p.at("measure")
	p.click("[data-test=add-pool]")
	p.sees("#measure", "An empty pool")
	p.fill("Length, shallow to deep end", "10 m")
	p.fill("Width", "6 m")
	p.sees("#measure .findings .refused", "no depth at the shallow end")
	p.fill("Depth at the shallow end", "1 m")
	p.sees("[data-test=area]", "92 m²")
	p.fill("Depth at the deep end", "2.5 m")
	p.fill("Shallow floor, on plan", "4 m")
	p.click("[data-test=hopper]")
	p.sees("#measure .findings .refused", "the hopper has no pad yet")
	p.fill("Pad, along the pool", "2 m")
	p.fill("Pad, across", "2 m")
	p.fill("Pad to the deep end wall", "2 m")
	p.sees("[data-test=area]", "100 m²")
	p.sees("[data-test=level]", "28 m²")
	p.sees("[data-test=steep]", "40 m²")
	p.sees("[data-test=upright]", "32 m²")
	p.sees("[data-test=water]", "86 m³")
	// A negative depth is refused where it is typed.
	p.fill("Depth at the shallow end", "-1 m")
	p.sees(".v-messages", "cannot be negative")
	p.fill("Depth at the shallow end", "1 m")
	p.click("[data-test=pool-parts] [aria-expanded]")
	p.choose("Add steps, a bench or a swim-out", "Bench")
	p.sees("[data-test=area]", "100.45 m²")
	p.at("build-up")
	p.choose("Add a coat of", "Tidepool")
	p.at("pour")
	p.part("tape")
	p.sees("[data-test=spans]", "Deep end wall")
	p.saved()
	p.at("measure")
	p.click("[data-test=to-sheets]")
	p.sees("[data-test=measuring-sheet]", "Slope into the hopper")
	p.sees("[data-test=measuring-sheet]", "(edge + edge) ÷ 2 × √(run² + fall²)")
	if pages := p.printedPages(); pages != 1 {
		t.Errorf("the measuring sheet of one pool prints on %d pages", pages)
	}
}

// A freeform pool of even depth, drawn and sounded with the mouse: 4 m × 3 m,
// 1.2 m deep everywhere, has 12 m² of floor and 16.8 m² of wall.
func TestAFreeformPoolBySoundings(t *testing.T) {
	t.Parallel()
	p := begin(t, "Eel house")
	p.at("measure")
	p.click("[data-test=add-pool]")
	p.choose("Form of the shell", "Freeform")
	p.rectangle("4 m", "3 m")
	p.sees("#measure .findings .refused", "no depth has been measured yet")
	p.clickOn("[data-test=outline]", 0, 0)
	p.sees("[data-test=area]", "28.8 m²")
	p.button("Depths done")
	p.fill("Depth 1", "1.5 m")
	p.sees("[data-test=area]", "33 m²")
	p.saved()
}

// What stands on a floor's plan: a zone, a drain, a crack drawn from point to
// point with its exact length typed, a rounded bay.
func TestThingsOnThePlan(t *testing.T) {
	t.Parallel()
	p := begin(t, "Net loft")
	p.at("measure")
	p.rectangle("8 m", "5 m")
	p.sees("[data-test=area]", "40 m²")
	p.choose("Put on the plan", "A drain")
	p.clickOn("[data-test=outline]", 0, 0)
	p.fill("Diameter", "1 m")
	p.sees("[data-test=area]", "39.21 m²")
	p.choose("Put on the plan", "A crack")
	p.clickOn("[data-test=outline]", -140, 60)
	p.clickOn("[data-test=outline]", -80, 60)
	value[bool](p, `(document.activeElement?.blur(), true)`)
	p.keys("2")
	p.until(`!!document.querySelector('[data-test=wall-length] input')`)
	p.keys(".5 m\r")
	p.until(`!document.querySelector('[data-test=wall-length]')`)
	p.button("End the line")
	p.sees("[data-test=filler]", "mL")
	p.choose("Put on the plan", "A zone")
	for _, at := range [][2]float64{{-160, -100}, {-60, -100}, {-60, -30}} {
		p.clickOn("[data-test=outline]", at[0], at[1])
	}
	p.button("Close the outline")
	p.sees("[data-test=zone]", "m²")
	// A half circle over a wall of 5 m adds 9.82 m².
	p.choose("Wall to curve", "2")
	p.fill("Rise of the bay", "2.5 m")
	p.button("Make curved")
	p.sees("[data-test=area]", "49.03 m²")
	p.click("[data-test=undo]")
	p.sees("[data-test=area]", "39.21 m²")
	p.saved()
}

// A photograph is attached, shown, captioned, removed and put back; what is no
// picture is refused by name.
func TestPhotographsOfASurface(t *testing.T) {
	t.Parallel()
	p := begin(t, "Slipway")
	folder := t.TempDir()
	picture := image.NewRGBA(image.Rect(0, 0, 640, 480))
	for x := range 640 {
		for y := range 480 {
			picture.Set(x, y, color.RGBA{uint8(x / 3), uint8(y / 2), 120, 255})
		}
	}
	var encoded bytes.Buffer
	if err := png.Encode(&encoded, picture); err != nil {
		t.Fatal(err)
	}
	good, bad := filepath.Join(folder, "north-wall.png"), filepath.Join(folder, "notes.png")
	if err := os.WriteFile(good, encoded.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(bad, []byte("not a picture"), 0o600); err != nil {
		t.Fatal(err)
	}
	add := func(name string) {
		t.Helper()
		p.at("measure")
		p.upload("[data-test=photos] input[type=file]", name)
	}
	add(good)
	p.until(`document.querySelector('[data-test=photos] li img')?.naturalWidth === 320`)
	p.click("[data-test=photos] li button")
	p.until(`document.querySelector('.large img')?.naturalWidth === 640`)
	p.fill("What it shows", "North wall, damp to knee height")
	p.sees("[data-test=photos] li", "damp to knee height")
	p.button("Remove")
	p.sees("[data-test=photos]", "Removed.")
	p.button("Restore it")
	p.sees("[data-test=photos] li", "damp to knee height")
	add(bad)
	p.sees("[data-test=photos] [role=alert]", "notes.png: this file is neither a JPEG nor a PNG picture")
}

// A surface goes to another job with its coats and their data sheets.
func TestASurfaceIsCopiedToAnotherJob(t *testing.T) {
	t.Parallel()
	p := begin(t, "Rope walk")
	p.newJob("Sail loft")
	p.at("measure")
	p.rectangle("6 m", "3 m")
	p.at("build-up")
	p.choose("Add a coat of", "Undertow")
	p.sees("[data-test=coat-1]", "Undertow")
	p.saved()
	p.at("measure")
	p.click("[data-test=copy-to]")
	p.fill("Find a job", "Rope walk")
	p.until(`document.querySelectorAll('[data-test=copy-dialog] li').length === 1`)
	p.click("[data-test=copy-dialog] li button")
	p.sees("[data-test=copy-dialog]", "Copied with its coats")
	p.click("[data-test=copy-dialog] a")
	p.until(`document.querySelector('.name input')?.value === 'Rope walk'`)
	p.surface("Floor 1\n18 m²")
	p.sees("[data-test=area]", "18 m²")
	p.at("build-up")
	p.sees("[data-test=coat-1]", "Undertow")
}
