package exchange

import (
	"fmt"
	"html/template"
	"math"
	"slices"
	"strings"
	"sync"
	"time"

	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"

	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/record"
)

// Text in a drawing of an archivable PDF is drawn by the outlines of its letters: its fonts are not
// embedded otherwise.

// lettersOf reads the font of drawings, once.
var lettersOf = sync.OnceValues(func() (*sfnt.Font, error) { return sfnt.Parse(goregular.TTF) })

// lettered returns a text as an SVG path with its baseline at a point, centred there or beginning there.
func lettered(text string, size, x, y float64, centred bool) string {
	letters, err := lettersOf()
	if err != nil {
		return ""
	}
	var buffer sfnt.Buffer
	ppem := fixed.Int26_6(size * 64)
	wide := 0.0
	type glyph struct {
		at       float64
		segments sfnt.Segments
	}
	var all []glyph
	for _, r := range text {
		index, err := letters.GlyphIndex(&buffer, r)
		if err != nil {
			continue
		}
		segments, err := letters.LoadGlyph(&buffer, index, ppem, nil)
		if err != nil {
			continue
		}
		all = append(all, glyph{wide, append(sfnt.Segments(nil), segments...)})
		if advance, err := letters.GlyphAdvance(&buffer, index, ppem, font.HintingNone); err == nil {
			wide += float64(advance) / 64
		}
	}
	if centred {
		x -= wide / 2
	}
	var path strings.Builder
	for _, g := range all {
		for n, s := range g.segments {
			names := map[sfnt.SegmentOp]string{sfnt.SegmentOpMoveTo: "M", sfnt.SegmentOpLineTo: "L",
				sfnt.SegmentOpQuadTo: "Q",
				sfnt.SegmentOpCubeTo: "C"}
			counts := map[sfnt.SegmentOp]int{sfnt.SegmentOpMoveTo: 1, sfnt.SegmentOpLineTo: 1, sfnt.SegmentOpQuadTo: 2,
				sfnt.SegmentOpCubeTo: 3}
			if s.Op == sfnt.SegmentOpMoveTo && n > 0 {
				path.WriteString("Z")
			}
			path.WriteString(names[s.Op])
			for k := range counts[s.Op] {
				fmt.Fprintf(&path, "%.2f %.2f ", x+g.at+float64(s.Args[k].X)/64, y+float64(s.Args[k].Y)/64)
			}
		}
		if len(g.segments) > 0 {
			path.WriteString("Z")
		}
	}
	return fmt.Sprintf(`<path d="%s" fill="#14212b"/>`, path.String())
}

// The size of drawings on the page, points.
const (
	drawingWide = 440.0
	drawingHigh = 190.0
)

// drawn returns a surface with its sections as SVG, where pails of a coat ended and where defects are, and what it
// shows in words; nothing where it has no outline.
func drawn(s *record.Surface, last *record.Coat, day *record.CoatDay, faults []record.Trouble) (drawing template.HTML,
	caption string) {
	if len(s.Outline) == 0 || len(s.Outline[0]) == 0 {
		return "", ""
	}
	low, high := s.Outline[0][0], s.Outline[0][0]
	for _, p := range slices.Concat(s.Outline...) {
		low.X, low.Y = min(low.X, p.X), min(low.Y, p.Y)
		high.X, high.Y = max(high.X, p.X), max(high.Y, p.Y)
	}
	const edge = 6.0
	wide, tall := float64(high.X-low.X), float64(high.Y-low.Y)
	if wide <= 0 || tall <= 0 {
		return "", ""
	}
	scale := min((drawingWide-2*edge)/wide, (drawingHigh-2*edge)/tall)
	at := func(p geometry.Point) (x, y float64) {
		return edge + float64(p.X-low.X)*scale, edge + float64(high.Y-p.Y)*scale
	}
	rings := func(all []geometry.Ring, style string) string {
		var path strings.Builder
		for _, ring := range all {
			for n, p := range ring {
				x, y := at(p)
				fmt.Fprintf(&path, "%c%.1f %.1f", map[bool]rune{true: 'M', false: 'L'}[n == 0], x, y)
			}
			path.WriteString("Z")
		}
		return fmt.Sprintf(`<path d="%s" fill-rule="evenodd" %s/>`, path.String(), style)
	}
	var out strings.Builder
	fmt.Fprintf(&out, `<svg width="%.0f" height="%.0f" viewBox="0 0 %.0f %.0f">`, wide*scale+2*edge, tall*scale+2*edge,
		wide*scale+2*edge, tall*scale+2*edge)
	out.WriteString(rings(s.Outline, `fill="#eef2f1" stroke="#14212b" stroke-width="1.2"`))
	caption = fmt.Sprintf("Plan of %s.", s.Name)
	if last != nil {
		for _, b := range last.Batches {
			out.WriteString(rings(b.Rings, `fill="none" stroke="#0e5a4f" stroke-width="0.6"`))
			if len(b.Rings) > 0 {
				x, y := at(b.Label)
				out.WriteString(lettered(fmt.Sprint(b.Number), 8, x, y+3, true))
			}
		}
		caption = fmt.Sprintf("Plan of %s with the sections of coat %d, numbered by their batches.", s.Name, last.Number)
		marked := [2]bool{}
		for _, b := range day.Batches {
			if b.Spot != nil {
				x, y := at(geometry.Point{X: b.Spot[0], Y: b.Spot[1]})
				fmt.Fprintf(&out, `<circle cx="%.1f" cy="%.1f" r="3" fill="none" stroke="#14212b" stroke-width="1"/>`, x, y)
				marked[0] = true
			}
		}
		for _, f := range faults {
			if f.Place != nil && slices.ContainsFunc(f.Over, func(l record.Laid) bool { return l.Coat == last.ID }) {
				x, y := at(geometry.Point{X: f.Place[0], Y: f.Place[1]})
				fmt.Fprintf(&out, `<path d="M%.1f %.1fl5 5l-5 5l-5 -5Z" fill="#a3282d"/>`, x, y-5)
				marked[1] = true
			}
		}
		if marked[0] {
			caption += " Rings: where pails ended."
		}
		if marked[1] {
			caption += " Diamonds: defects."
		}
	}
	out.WriteString("</svg>")
	return template.HTML(out.String()), caption
}

// charted draws slab, air and dew point over time as SVG, with what it shows in words; nothing under
// two readings.
func charted(readings []record.Reading, units measure.System, zone *time.Location) (chart template.HTML,
	caption string) {
	type series struct {
		name, style string
		of          func(r *record.Reading) *measure.Temperature
	}
	lines := []series{
		{"slab", `stroke="#0e5a4f" stroke-width="1.6"`, func(r *record.Reading) *measure.Temperature { return r.Slab }},
		{"air", `stroke="#9a5b00" stroke-width="1"`, func(r *record.Reading) *measure.Temperature { return r.Air }},
		{"dew point", `stroke="#2b4a8b" stroke-width="1" stroke-dasharray="4 3"`,
			func(r *record.Reading) *measure.Temperature { return r.Dew }},
	}
	least, most := math.Inf(1), math.Inf(-1)
	for n := range readings {
		for _, l := range lines {
			if v := l.of(&readings[n]); v != nil {
				least, most = min(least, float64(*v)), max(most, float64(*v))
			}
		}
	}
	if len(readings) < 2 || math.IsInf(least, 1) {
		return "", ""
	}
	from, until := readings[0].At, readings[len(readings)-1].At
	if !until.After(from) {
		return "", ""
	}
	const left, high, edge = 46.0, 110.0, 12.0
	least, most = math.Floor(least-1), math.Ceil(most+1)
	x := func(t time.Time) float64 {
		return left + t.Sub(from).Seconds()/until.Sub(from).Seconds()*(drawingWide-left-edge)
	}
	y := func(v float64) float64 { return edge + (most-v)/(most-least)*high }
	var out strings.Builder
	fmt.Fprintf(&out, `<svg width="%.0f" height="%.0f" viewBox="0 0 %.0f %.0f">`, drawingWide, high+3*edge, drawingWide,
		high+3*edge)
	for _, v := range []float64{least, (least + most) / 2, most} {
		fmt.Fprintf(&out, `<path d="M%.1f %.1fL%.1f %.1f" fill="none" stroke="#c5cdd0" stroke-width="0.5"/>`, left, y(v),
			drawingWide-edge, y(v))
		out.WriteString(lettered(units.Temperature(measure.Temperature(v)), 7, 2, y(v)+2.5, false))
	}
	for _, t := range []time.Time{from, from.Add(until.Sub(from) / 2), until} {
		out.WriteString(lettered(units.Time(t.In(zone), "Mon 15:04"), 7, min(x(t), drawingWide-30), high+2*edge+6, true))
	}
	for _, l := range lines {
		var path strings.Builder
		for n := range readings {
			if v := l.of(&readings[n]); v != nil {
				fmt.Fprintf(&path, "%c%.1f %.1f", map[bool]rune{true: 'M', false: 'L'}[path.Len() == 0], x(readings[n].At),
					y(float64(*v)))
			}
		}
		if path.Len() > 0 {
			fmt.Fprintf(&out, `<path d="%s" fill="none" %s/>`, path.String(), l.style)
		}
	}
	out.WriteString("</svg>")
	return template.HTML(out.String()), "Slab (thick line), air (thin line) and dew point (dashed) as they were read."
}

// inked draws a signature as SVG; nothing where nobody signed by hand.
func inked(strokes string) template.HTML {
	const scale, wide, high = 0.2, 1000, 300
	var path strings.Builder
	for _, point := range strings.FieldsFunc(strings.NewReplacer("M", "|M", "L", "|L").Replace(strokes),
		func(r rune) bool { return r == '|' }) {
		var x, y float64
		if _, err := fmt.Sscanf(point[1:], "%f %f", &x, &y); err == nil {
			fmt.Fprintf(&path, "%c%.1f %.1f", point[0], x*scale, y*scale)
		}
	}
	if path.Len() == 0 {
		return ""
	}
	return template.HTML(fmt.Sprintf(
		`<svg width="%.0f" height="%.0f" viewBox="0 0 %.0f %.0f"><path d="%s" fill="none" stroke="#14212b" stroke-width="1.2"/></svg>`,
		wide*scale, high*scale, wide*scale, high*scale, path.String()))
}
