package e2e

import (
	"os"
	"path/filepath"
	"testing"
)

// A DXF in millimetres, written by ezdxf: 48 m² less 6 m² with a half-round bay
// of 1.5 m radius (3.53 m²), a round column of 0.2 m² and a square one of
// 0.24 m². What is no outline is told, not dropped in silence.
func TestAnImportedDrawing(t *testing.T) {
	t.Parallel()
	p := begin(t, "Customs shed")
	bad := filepath.Join(t.TempDir(), "letter.dxf")
	if err := os.WriteFile(bad, []byte("Dear sirs"), 0o600); err != nil {
		t.Fatal(err)
	}
	good, err := filepath.Abs("../exchange/drawing/testdata/floor-ezdxf.dxf")
	if err != nil {
		t.Fatal(err)
	}
	p.at("measure")
	p.click("[data-test=import]")
	p.until(`!!document.querySelector('[data-test=import-drawing] input[type=file]')`)
	p.upload("[data-test=import-drawing] input[type=file]", bad)
	p.sees("[data-test=import-drawing] [role=alert]", "letter.dxf: This is neither DXF, GeoJSON nor SVG")
	p.upload("[data-test=import-drawing] input[type=file]", good)
	p.sees("[data-test=import-drawing]", "DXF with 3 closed outlines; its unit: mm")
	p.sees("[data-test=import-drawing]", "FLOOR, 45.53 m²")
	p.sees("[data-test=left-out]", "1 × block: is inserted; explode it")
	p.button("Use this outline")
	p.sees("[data-test=area]", "45.1 m²")
	p.saved()

	// A drawing that states no unit is set to scale by one true length.
	svg := filepath.Join(t.TempDir(), "plan.svg")
	if err := os.WriteFile(svg, []byte(`<svg xmlns="http://www.w3.org/2000/svg"><rect width="200" height="100"/></svg>`),
		0o600); err != nil {
		t.Fatal(err)
	}
	p.until(`!document.querySelector('.v-dialog')`)
	p.click("[data-test=import]")
	p.until(`!!document.querySelector('[data-test=import-drawing] input[type=file]')`)
	p.upload("[data-test=import-drawing] input[type=file]", svg)
	p.sees("[data-test=import-drawing]", "states no unit")
	p.fill("True length of that side", "9 m")
	p.sees("[data-test=import-drawing]", "40.5 m²")
	p.button("Use this outline")
	p.sees("[data-test=area]", "40.5 m²")
	p.click("[data-test=undo]")
	p.sees("[data-test=area]", "45.1 m²")
}
