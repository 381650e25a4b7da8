package buildup

import (
	"fmt"
	"math"
	"slices"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// Service holds what a surface must bear once it is in use.
type Service struct {
	Sun     bool             `json:"sun,omitempty" doc:"Daylight falls on it"`
	Slip    string           `json:"slip,omitempty" enum:"R9,R10,R11,R12,R13" doc:"Class wanted of it, as in DIN 51130"`
	Contact material.Contact `json:"contact,omitempty" doc:"Food or drinking water that touches it"`
}

// Layer is a coat with what it is made of.
type Layer struct {
	Coat
	Sheet  *material.Product
	Window Window // of this coat, for the next one
	Mix    material.Mix
	Build  *Build
	Path   string
}

// Bed holds what the coats of one surface lie on, and what is wanted of them.
type Bed struct {
	Name        string
	Path        string // of the surface
	Substrate   string // in the words of a sheet's Over; empty while unknown
	Damp        measure.Fraction
	DampMost    measure.Fraction // what a coat without a limit of its own bears
	Fills       bool             // cracks or holes were filled
	Temperature measure.Temperature
	Sands       bool // the contractor sands every coat
	VOCMax      measure.Content
	Media       map[string]*material.Medium
	Service
}

type judge struct {
	layers []Layer
	bed    Bed
	units  measure.System
	told   []finding.Finding
}

// Neighbours says what goes wrong between the coats of a surface, with what is
// below them, and with what the surface must bear.
func Neighbours(layers []Layer, bed Bed, units measure.System) []finding.Finding {
	j := judge{layers: layers, bed: bed, units: units}
	if len(layers) == 0 {
		return nil
	}
	j.damp()
	for i := range layers {
		j.chemistry(i)
		if i > 0 && !layers[i].OverWet && layers[i].When != OnTacky {
			j.window(i)
			j.solvent(i)
		}
		j.additions(i)
		j.grains(i)
		j.hiding(i)
		j.volatile(i)
	}
	j.service()
	return j.told
}

func (j *judge) warn(path, way string, fix *finding.Fix, seek *finding.Seek, format string, args ...any) {
	j.told = append(j.told, finding.Finding{
		Level: finding.Warning, Step: finding.BuildUp, Path: path, WayOut: way, Fix: fix, Seek: seek,
		Text: j.bed.Name + ": " + fmt.Sprintf(format, args...),
	})
}

func change(op, path string, value any) finding.PatchStep {
	return finding.PatchStep{Op: op, Path: path, Value: value}
}

// Usual is the amount that a coat of a product starts with: as its sheet prints
// it, or a third of the way from its thinnest to its maximum film.
func Usual(p material.Product) Amount {
	if p.Printed != nil {
		return Amount{Basis: Stated(p.Printed.Basis), Value: p.Printed.Value, Figure: p.Printed.Figure}
	}
	low := measure.Film(200e-6)
	if p.FilmMin != nil {
		low = p.FilmMin.Value
	}
	high := low
	if p.FilmMax != nil {
		high = p.FilmMax.Value
	}
	return Amount{Basis: WetFilm, Value: math.Round(float64(low+(high-low)/3)*1e5) / 1e5}
}

// put is the fix that puts a coat of a product at a place, from 0.
func (j *judge) put(at int, why string) func(material.Product) *finding.Fix {
	return func(p material.Product) *finding.Fix {
		id := fmt.Sprintf("%.30s-%s-%d", p.ID, why, len(j.layers)+1)
		return &finding.Fix{
			Label: fmt.Sprintf("Put %s in as coat %d", p.Name, at+1),
			Patch: []finding.PatchStep{change("add", fmt.Sprintf("%s/coats/%d", j.bed.Path, at),
				Coat{ID: id, Product: p.ID, Amount: Usual(p)})},
		}
	}
}

// swap is the fix that exchanges the product of a coat.
func (j *judge) swap(i int) func(material.Product) *finding.Fix {
	return func(p material.Product) *finding.Fix {
		return &finding.Fix{
			Label: fmt.Sprintf("Take %s for coat %d", p.Name, i+1),
			Patch: []finding.PatchStep{
				change("replace", j.layers[i].Path, Coat{ID: j.layers[i].ID, Product: p.ID, Amount: Usual(p),
					Wait: j.layers[i].Wait, Abraded: j.layers[i].Abraded, Scatter: j.layers[i].Scatter}),
			},
		}
	}
}

// takes reports whether a product may go over something, as far as the sheets say.
func takes(above, below *material.Product) bool {
	over := len(above.Over) == 0 || slices.Contains(above.Over, string(below.Chemistry))
	under := len(below.Under) == 0 || slices.Contains(below.Under, above.Chemistry)
	return over && under
}

func bears(p *material.Product, ground string) bool {
	return ground == "" || len(p.Over) == 0 || slices.Contains(p.Over, ground)
}

// chemistry over chemistry, and the first coat over the ground.
func (j *judge) chemistry(i int) {
	p := j.layers[i].Sheet
	if i == 0 {
		if !bears(p, j.bed.Substrate) {
			j.warn(j.layers[0].Path+"/product", "Begin with a primer for it.",
				nil, &finding.Seek{Kinds: primers(), Fits: func(q material.Product) bool {
					return (q.Kind == "primer" || q.Kind == "moisture-barrier") && len(q.Over) > 0 && bears(&q, j.bed.Substrate) &&
						takes(p, &q)
				}, Fix: j.put(0, "first")},
				"Coat 1: the sheet of %s names %s to go over, not %s.", p.Name, material.Listed(p.Over), j.bed.Substrate)
		}
		return
	}
	below := j.layers[i-1].Sheet
	if takes(p, below) {
		return
	}
	reason := fmt.Sprintf("the sheet of %s names %s to go over, not %s", p.Name, material.Listed(p.Over), below.Chemistry)
	if len(p.Over) == 0 || slices.Contains(p.Over, string(below.Chemistry)) {
		reason = fmt.Sprintf("the sheet of %s allows %s over it, not %s", below.Name, material.Listed(below.Under),
			p.Chemistry)
	}
	j.warn(j.layers[i].Path+"/product", "Put a coat between that both take, or choose another product.",
		nil, &finding.Seek{Kinds: append(primers(), "body", "clear", "grout"), Fits: func(q material.Product) bool {
			return q.ID != p.ID && q.ID != below.ID && len(q.Over) > 0 && len(q.Under) > 0 && takes(&q, below) && takes(p, &q)
		}, Fix: j.put(i, "between")},
		"Coat %d of %s goes over coat %d of %s: %s.", i+1, p.Chemistry, i, below.Chemistry, reason)
}

// Window holds when the next coat may go on a coat.
type Window struct {
	From    measure.Span        `json:"from,omitempty" doc:"s after this coat; absent where the sheet gives none"`
	Until   measure.Span        `json:"until,omitempty" doc:"s after this coat; absent where the sheet gives none"`
	At      measure.Temperature `json:"at" doc:"°C of the slab; of a forecast, when the coat is laid"`
	Outside bool                `json:"outside,omitempty" doc:"The temperature lies outside the sheet's points"`

	Forecast bool `json:"forecast,omitempty" doc:"Through the forecast, not at a steady temperature"`
}

// how says at what temperature a window was worked out.
func (j *judge) how(w Window) string {
	if w.Forecast {
		return "on the slab that the forecast brings"
	}
	return "at " + j.units.Temperature(w.At)
}

// WindowOf reads a sheet's window at a steady slab temperature.
func WindowOf(p *material.Product, at measure.Temperature) Window {
	from, out := p.Reach(material.StageRecoatFrom, at)
	until, outToo := p.Reach(material.StageRecoatUntil, at)
	return Window{From: from, Until: until, At: at, Outside: out || outToo}
}

// justSo is the tolerance, in s, of a time worked out from a sheet's points.
const justSo = 1

// upToTen is a time up to the next ten minutes.
func upToTen(t measure.Span) measure.Span {
	return measure.Span(math.Ceil(float64(t-justSo)/600) * 600)
}

// window: too early traps what must leave, too late finds a closed surface.
func (j *judge) window(i int) {
	coat, below := j.layers[i], j.layers[i-1]
	w := below.Window
	if coat.Wait == nil {
		return
	}
	set := func(wait measure.Span) *finding.Fix {
		return &finding.Fix{
			Label: "Wait " + j.units.Span(wait),
			Patch: []finding.PatchStep{change("replace", coat.Path+"/wait", wait)},
		}
	}
	switch {
	case w.From > 0 && *coat.Wait < w.From-justSo:
		j.warn(coat.Path+"/wait", "Wait longer, or take a faster product below.", set(upToTen(w.From)), nil,
			"Coat %d is planned %s after coat %d, but %s takes the next coat from %s %s: solvent or air would be trapped and "+
				"the film tracked.",
			i+1, j.units.Span(*coat.Wait), i, below.Sheet.Name, j.units.Span(w.From), j.how(w))
	case w.Until > 0 && *coat.Wait > w.Until+justSo && !coat.Abraded && !j.bed.Sands:
		how := "Abrade and clean it"
		if g := below.Sheet.Abrade; g != nil {
			how = fmt.Sprintf("Abrade it with P%.0f and clean it", float64(g.Value))
		}
		j.warn(coat.Path+"/wait", how+", or lay coat "+fmt.Sprint(i+1)+" inside the window.",
			&finding.Fix{Label: "Abrade coat " + fmt.Sprint(i) + " before it",
				Patch: []finding.PatchStep{change("add", coat.Path+"/abraded", true)}}, nil,
			"Coat %d is planned %s after coat %d, but the window of %s closes %s after it %s: the surface has closed and the "+
				"coat may peel.",
			i+1, j.units.Span(*coat.Wait), i, below.Sheet.Name, j.units.Span(w.Until), j.how(w))
	}
}

// solvent softens and lifts a film that is not hard yet: common practice, no
// source. The sheet's own window rules; only where it gives none is hard when the
// film takes light foot traffic. A product over itself goes by its own sheet.
func (j *judge) solvent(i int) {
	coat, below := j.layers[i], j.layers[i-1]
	thinned := coat.Thinner != nil && coat.Thinner.Value > 0
	if coat.Sheet.Carrier != material.Solvent && !thinned || coat.Wait == nil || below.Window.From > 0 ||
		coat.Sheet.ID == below.Sheet.ID {
		return // of what a window says, window tells
	}
	hard, _ := below.Sheet.Reach(material.StageFoot, j.bed.Temperature)
	if hard == 0 || *coat.Wait >= hard-justSo {
		return
	}
	wait := upToTen(hard)
	var fix *finding.Fix
	if until := below.Window.Until; until == 0 || wait <= until {
		fix = &finding.Fix{Label: "Wait " + j.units.Span(wait),
			Patch: []finding.PatchStep{change("replace", coat.Path+"/wait", wait)}}
	}
	j.warn(coat.Path+"/wait", "Wait until it takes light foot traffic, or take a product without solvent.", fix, nil,
		"Coat %d brings solvent %s after coat %d, which is hard only after %s at %s: it can soften and wrinkle what "+
			"is below.",
		i+1, j.units.Span(*coat.Wait), i, j.units.Span(hard), j.units.Temperature(j.bed.Temperature))
}

// damp under a coat that does not bear it, with no barrier below.
func (j *judge) damp() {
	first := j.layers[0].Sheet
	most := j.bed.DampMost
	if first.SlabHumidityMax != nil {
		most = first.SlabHumidityMax.Value
	}
	if first.Damp != "harms" || j.bed.Damp <= most {
		return
	}
	j.warn(j.layers[0].Path+"/product", "Put a moisture barrier below it.",
		nil, &finding.Seek{Kinds: primers(), Fits: func(q material.Product) bool {
			return q.Kind == "moisture-barrier" && q.SlabHumidityMax != nil && q.SlabHumidityMax.Value >= j.bed.Damp &&
				takes(first, &q)
		}, Fix: j.put(0, "barrier")},
		"Coat 1: damp damages %s, and the slab was measured at %s; it tolerates %s.", first.Name,
		j.units.Fraction(j.bed.Damp),
		j.units.Fraction(most))
}

// primers returns what goes between a surface and what does not take to it.
func primers() []material.Kind { return []material.Kind{"primer", "moisture-barrier"} }
