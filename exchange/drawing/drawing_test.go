package drawing

import (
	"fmt"
	"math"
	"os"
	"strings"
	"testing"

	"nephelon/core/geometry"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"
	"github.com/paulmach/orb/planar"
)

// The file in testdata was written by ezdxf 1.0 (Debian's python3-ezdxf): in
// millimetres, an L-shaped floor of 8 m × 6 m less 3 m × 2 m with a half-round
// bay of 1.5 m radius, a round column of 0.25 m radius, a square one of loose
// lines, and things that are no outlines.
func TestDXFWrittenByAnotherLibrary(t *testing.T) {
	content, err := os.ReadFile("testdata/floor-ezdxf.dxf")
	if err != nil {
		t.Fatal(err)
	}
	d, err := Read(content)
	if err != nil {
		t.Fatal(err)
	}
	if d.Format != "DXF" || d.Unit != "mm" || d.Scale != 0.001 || len(d.Shapes) != 3 {
		t.Fatalf("%s in %q, scale %v, %d shapes", d.Format, d.Unit, d.Scale, len(d.Shapes))
	}
	wants := []struct {
		layer, kind string
		area        float64 // m²
	}{
		{"FLOOR", "polyline", 8*6 - 3*2 + math.Pi*1.5*1.5/2},
		{"COLUMNS", "joined lines", 0.6 * 0.4},
		{"COLUMNS", "circle", math.Pi * 0.25 * 0.25},
	}
	for i, want := range wants {
		s := d.Shapes[i]
		area := s.Area * d.Scale * d.Scale
		// Arcs are cut into chords of a degree.
		if s.Layer != want.layer || s.Kind != want.kind || math.Abs(area-want.area) > 2e-4*want.area {
			t.Errorf("shape %d: %s %s of %v m², want %+v", i, s.Layer, s.Kind, area, want)
		}
		if fault := (geometry.Polygon{Outline: s.Outline}).Check(); fault != nil {
			t.Errorf("shape %d: %v", i, fault)
		}
	}
	told := fmt.Sprint(d.LeftOut)
	for _, words := range []string{"{block 1 is inserted", "{line 1 does not close", "{polyline 1 is not closed",
		"{text 1 is not an outline"} {
		if !strings.Contains(told, words) {
			t.Errorf("left out %s, want it to say %q", told, words)
		}
	}
}

// RFC 7946, appendix A.3: a polygon of one degree with a hole. It is far too
// large for a floor in degrees, so it counts as a plane.
const rfcPolygon = `{"type":"Polygon","coordinates":[
	[[100.0,0.0],[101.0,0.0],[101.0,1.0],[100.0,1.0],[100.0,0.0]],
	[[100.8,0.8],[100.8,0.2],[100.2,0.2],[100.2,0.8],[100.8,0.8]]]}`

func TestGeoJSON(t *testing.T) {
	d, err := Read([]byte(rfcPolygon))
	if err != nil || len(d.Shapes) != 2 || d.Scale != 0 {
		t.Fatalf("%+v, %v", d, err)
	}
	if math.Abs(d.Shapes[0].Area-1) > 1e-9 || math.Abs(d.Shapes[1].Area-0.36) > 1e-9 || d.Shapes[1].Kind != "hole" {
		t.Errorf("areas %v and %v", d.Shapes[0].Area, d.Shapes[1].Area)
	}
	// 0.0001° square on the equator: 11.1195 m each way on a sphere of the
	// Earth's mean radius (6371.0088 km × π / 180 × 0.0001).
	d, err =
		Read(
			[]byte(
				`{"type":"Feature","properties":{"name":"Quay"},"geometry":{"type":"Polygon","coordinates":[[[10,0],[10.0001,0],[10.0001,0.0001],[10,0.0001],[10,0]]]}}`))
	if err != nil || d.Scale != 1 || d.Shapes[0].Layer != "Quay" || math.Abs(d.Shapes[0].Area-11.1195*11.1195) > 0.01 {
		t.Errorf("%+v, %v", d, err)
	}
}

func TestSVG(t *testing.T) {
	d, err := Read([]byte(`<svg xmlns="http://www.w3.org/2000/svg">
		<rect id="hall" x="10" y="10" width="40" height="30"/>
		<path id="bay" d="M0 0h10v5h-10z"/>
		<path d="M0 0 C 1 1 2 2 3 3 Z"/>
		<g transform="scale(2)"><polygon points="0,0 4,0 0,4"/></g>
		<polygon points="0,0 4,0 0,4"/>
		<text>Plan</text></svg>`))
	if err != nil || len(d.Shapes) != 3 || d.Scale != 0 {
		t.Fatalf("%+v, %v", d, err)
	}
	for i, area := range []float64{1200, 50, 8} {
		if math.Abs(d.Shapes[i].Area-area) > 1e-9 {
			t.Errorf("shape %d has %v, want %v", i, d.Shapes[i].Area, area)
		}
	}
	if told := fmt.Sprint(d.LeftOut); !strings.Contains(told, "has curves") ||
		!strings.Contains(told, "has a transform") || !strings.Contains(told, "text") {
		t.Errorf("left out %s", told)
	}
}

func TestReadRefusesInOneSentence(t *testing.T) {
	dxf := func(body string) string { return "0\nSECTION\n2\nENTITIES\n" + body + "0\nENDSEC\n0\nEOF\n" }
	cases := []struct{ name, content, says string }{
		{"nothing", "", "empty"},
		{"a letter", "Dear sirs", "neither DXF, GeoJSON nor SVG"},
		{"binary DXF", "AutoCAD Binary DXF\r\n\x1a\x00", "binary DXF"},
		{"a DXF cut off", "0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nA\n", "breaks off before its end"},
		{"a DXF cut in an entry", "0\nSECTION\n2\nENTITIES\n0\nLINE\n8", "middle of an entry"},
		{"a DXF of words", "0\nSECTION\nfloor\nplan\n", "where a group code belongs"},
		{"a DXF of nothing", dxf(""), "holds nothing at all"},
		{"a DXF of one line", dxf("0\nLINE\n8\nA\n10\n0\n20\n0\n11\n1\n21\n1\n"),
			"no closed outline: 1 × line does not close with others"},
		{"a DXF of very many", dxf(strings.Repeat("0\nPOINT\n", maxEntities+1)), "more than 100000 entities"},
		{"broken JSON", `{"type":"Polygon","coordinates":[[`, "GeoJSON is broken"},
		{"other JSON", `{"type":"Invoice"}`, "“Invoice”"},
		{"a broken SVG", "<svg><rect", "SVG is broken"},
		{"too large", strings.Repeat(" ", MaxBytes+1), "larger than 12 MB"},
	}
	for _, c := range cases {
		_, err := Read([]byte(c.content))
		if err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: got %v, want %q", c.name, err, c.says)
		}
	}
}

// An arc of bulge b from a to b' has the closed area of its segment:
// r²/2 · (θ − sin θ).
func TestArcsKeepTheirArea(t *testing.T) {
	for _, bulge := range []float64{0.1, 0.5, 1, -0.7} {
		a, b := geometry.Point{X: 1, Y: 2}, geometry.Point{X: 4, Y: 6}
		ring := append(geometry.Ring{a}, arc(a, b, bulge)...)
		theta := 4 * math.Atan(math.Abs(bulge))
		r := 5 / (2 * math.Sin(theta/2))
		want := r * r / 2 * (theta - math.Sin(theta))
		if got := ring.SignedArea(); math.Abs(math.Abs(got)-want) > 5e-3*want || (got > 0) != (bulge > 0) {
			t.Errorf("bulge %v: segment of %v, want %v", bulge, got, want)
		}
	}
}

// FuzzRead: whatever the bytes, reading ends with outlines that measure or with
// a sentence, and never with a panic.
func FuzzRead(f *testing.F) {
	content, err := os.ReadFile("testdata/floor-ezdxf.dxf")
	if err != nil {
		f.Fatal(err)
	}
	f.Add(content)
	f.Add([]byte(rfcPolygon))
	f.Add([]byte(`<svg><path d="M0 0 L1e-3-4 5,6h2v-3z m1,1l2,2,3,-3Z"/><polygon points="1 2 3"/></svg>`))
	f.Add([]byte("0\nSECTION\n2\nENTITIES\n0\nPOLYLINE\n70\n1\n0\nVERTEX\n10\n1e300\n42\nnan\n0\nEOF\n"))
	f.Fuzz(func(t *testing.T, content []byte) {
		d, err := Read(content)
		if err != nil {
			if err.Error() == "" {
				t.Error("refused without a word")
			}
			return
		}
		for _, s := range d.Shapes {
			if len(s.Outline) < 3 || !(s.Area > 0) || math.IsInf(s.Area, 0) {
				t.Errorf("an outline of %d corners and %v", len(s.Outline), s.Area)
			}
		}
	})
}

// large is a DXF of about five megabytes: rooms as closed polylines, and walls
// as single lines that have to be joined.
func large() []byte {
	var text strings.Builder
	text.WriteString("0\nSECTION\n2\nENTITIES\n")
	for i := 0; text.Len() < 5<<20; i++ {
		x, y := float64(i%100)*12, float64(i/100)*9
		corners := [][2]float64{{x, y}, {x + 10, y}, {x + 10, y + 7}, {x + 4.125, y + 7.25}, {x, y + 7}}
		if i%2 == 0 {
			fmt.Fprintf(&text, "0\nLWPOLYLINE\n5\n%X\n8\nROOMS\n90\n%d\n70\n1\n", i, len(corners))
			for _, c := range corners {
				fmt.Fprintf(&text, "10\n%.6f\n20\n%.6f\n", c[0], c[1])
			}
			continue
		}
		for k, c := range corners {
			d := corners[(k+1)%len(corners)]
			fmt.Fprintf(&text, "0\nLINE\n8\nWALLS\n10\n%.6f\n20\n%.6f\n11\n%.6f\n21\n%.6f\n", c[0], c[1], d[0], d[1])
		}
	}
	text.WriteString("0\nENDSEC\n0\nEOF\n")
	return []byte(text.String())
}

func BenchmarkReadFiveMegabytesOfDXF(b *testing.B) {
	content := large()
	b.SetBytes(int64(len(content)))
	for b.Loop() {
		d, err := Read(content)
		if err != nil || len(d.Shapes) != maxShapes {
			b.Fatalf("%d shapes, %v", len(d.Shapes), err)
		}
	}
}

// A drawing written by another library (github.com/paulmach/orb), which measures
// it, too: its planar area of a ring with a bay and of the hole in it.
func TestGeoJSONWrittenByAnotherLibrary(t *testing.T) {
	outline := orb.Ring{{100, 200}, {112.5, 200}, {112.5, 206.25}, {108, 206.25}, {108, 209.75}, {103.5, 211},
		{100, 209}, {100, 200}}
	island := orb.Ring{{102, 202}, {102, 204.5}, {105.25, 204.5}, {105.25, 202}, {102, 202}}
	feature := geojson.NewFeature(orb.Polygon{outline, island})
	feature.Properties["name"] = "Quay house"
	text, err := geojson.NewFeatureCollection().Append(feature).MarshalJSON()
	if err != nil {
		t.Fatal(err)
	}
	d, err := Read(text)
	if err != nil || len(d.Shapes) != 2 || d.Shapes[0].Layer != "Quay house" {
		t.Fatalf("%+v, %v", d, err)
	}
	for i, ring := range []orb.Ring{outline, island} {
		if want := math.Abs(planar.Area(ring)); math.Abs(d.Shapes[i].Area/want-1) > 1e-9 {
			t.Errorf("shape %d has %v, the library says %v", i, d.Shapes[i].Area, want)
		}
		got := geometry.Polygon{Outline: d.Shapes[i].Outline}.Area()
		if math.Abs(got/d.Shapes[i].Area-1) > 1e-9 {
			t.Errorf("shape %d measures %v, told as %v", i, got, d.Shapes[i].Area)
		}
	}
}
