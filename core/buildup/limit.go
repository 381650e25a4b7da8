package buildup

import (
	"fmt"
	"strings"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// Findings says what is wrong with a coat as built. Upright is the share of the
// surface that stands vertical; the path is the coat's JSON Pointer.
func (c Coat) Findings(p *material.Product, b Build, upright measure.Area, number int, path string,
	units measure.System) []finding.Finding {
	var found []finding.Finding
	warn := func(field, way string, fix *finding.Fix, text string, args ...any) {
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.BuildUp, Path: path + field, Text: fmt.Sprintf(text, args...),
			WayOut: way, Fix: fix,
		})
	}
	const slack = 1e-9
	if p.FilmMin != nil && !c.Seal && b.Wet < p.FilmMin.Value*(1-slack) {
		way := "or choose a thinner product."
		if number == 1 {
			way = "choose a thinner product, or mark it as the seal coat."
		}
		warn("/amount", fmt.Sprintf("Put on at least %s wet, %s", units.Film(p.FilmMin.Value), way),
			c.laid(b, p.FilmMin.Value, path, units),
			"Coat %d: %s wet of %s is under its minimum film of %s (%s); it may not level or hide.",
			number, units.Film(b.Wet), p.Name, units.Film(p.FilmMin.Value), p.FilmMin.Source.Words())
	}
	if p.FilmMax != nil && b.Wet > p.FilmMax.Value*(1+slack) {
		lifts := int(float64(b.Wet)/float64(p.FilmMax.Value)*(1-slack)) + 1
		warn("/amount", fmt.Sprintf("Split it into %d coats of %s, or choose a product for thicker films.", lifts,
			units.Film(b.Wet/measure.Film(lifts))),
			c.split(b, lifts, number, path, units),
			"Coat %d: %s wet of %s is over its maximum film of %s in one coat (%s).",
			number, units.Film(b.Wet), p.Name, units.Film(p.FilmMax.Value), p.FilmMax.Source.Words())
	}
	if told := c.unused(b, number, path); told != nil {
		found = append(found, *told)
	}
	found = append(found, c.sags(p, b, upright, number, path, units)...)
	if b.Density.Source == measure.Assumed {
		if c.Amount.Basis == MassPerArea || p.Ratio.Basis == material.ByMass || soldByMass(p) {
			warn("/amount", "Weigh a known volume of the mix and enter its density on the sheet.", nil,
				"Coat %d: the sheet of %s gives no density, so %s was assumed to turn kilograms into litres. If the true density "+
					"is a tenth higher, the same kilograms fill a tenth less.",
				number, p.Name, units.Density(b.Density.Value))
		} else {
			warn("/product", "Enter the density, or measure this product by volume only.", nil,
				"Coat %d: the sheet of %s gives no density, so its masses on the mix cards rest on an assumed %s.",
				number, p.Name, units.Density(b.Density.Value))
		}
	}
	return found
}

// unused says which entries of the coat are not added because its amount is practical; nil where none is.
func (c Coat) unused(b Build, number int, path string) *finding.Finding {
	var names []string
	drop := finding.Fix{Label: "Remove these entries"}
	for _, e := range []struct {
		there       bool
		name, field string
	}{{c.Loss != nil, "loss", "/loss"}, {c.Fill != nil, "profile fill", "/fill"}, {c.Soak != nil, "absorption", "/soak"},
		{c.Residue != nil, "residue", "/residue"}} {
		if e.there {
			names = append(names, e.name)
			drop.Patch = append(drop.Patch, finding.PatchStep{Op: "remove", Path: path + e.field})
		}
	}
	if !b.Practical || len(names) == 0 {
		return nil
	}
	return &finding.Finding{
		Level: finding.Note, Step: finding.BuildUp, Path: path + "/amount",
		Text: fmt.Sprintf("Coat %d: its amount is practical, so what was entered for it as %s is not added.", number,
			strings.Join(names, ", ")),
		WayOut: "Plan the amount as theoretical if they come on top of it, or remove these entries.",
		Fix: &finding.Fix{Label: "Plan it as theoretical", Patch: []finding.PatchStep{
			{Op: "add", Path: path + "/amount/figure", Value: material.Theoretical}}},
		Others: []finding.Fix{drop},
	}
}

// sags says whether a coat would run on what stands vertical.
func (c Coat) sags(p *material.Product, b Build, upright measure.Area, number int, path string,
	units measure.System) []finding.Finding {
	const slack = 1e-9
	switch limit := p.FilmMaxVertical; {
	case upright <= 0:
		return nil
	case limit != nil && c.Faces != nil:
		if c.Faces.Value <= limit.Value*(1+slack) {
			return nil
		}
		return []finding.Finding{{
			Level: finding.Warning, Step: finding.BuildUp, Path: path + "/faces",
			Text: fmt.Sprintf("Coat %d: %s of %s on edges and upright faces runs; they hold %s of it in one coat (%s).",
				number, units.Film(c.Faces.Value), p.Name, units.Film(limit.Value), limit.Source.Words()),
			WayOut: "Lay a thinner film there.",
			Fix: &finding.Fix{Label: "Lay " + units.Film(limit.Value) + " there", Patch: []finding.PatchStep{
				{Op: "replace", Path: path + "/faces/value", Value: limit.Value},
			}},
		}}
	case limit != nil && b.Wet > limit.Value*(1+slack):
		lifts := int(float64(b.Wet)/float64(limit.Value)*(1-slack)) + 1
		return []finding.Finding{{
			Level: finding.Warning, Step: finding.BuildUp, Path: path + "/amount",
			Text: fmt.Sprintf("Coat %d: %s of %s runs on upright faces, which hold %s of it in one coat (%s); %s of this "+
				"surface is upright.",
				number, units.Film(b.Wet), p.Name, units.Film(limit.Value), limit.Source.Words(),
				units.Fraction(measure.Fraction(upright))),
			WayOut: fmt.Sprintf("Put it on in %d coats of %s.", lifts, units.Film(b.Wet/measure.Film(lifts))),
			Fix:    c.split(b, lifts, number, path, units),
		}}
	case limit == nil && upright > mostlyUpright:
		return []finding.Finding{{
			Level: finding.Note, Step: finding.BuildUp, Path: path + "/amount",
			Text: fmt.Sprintf("Coat %d: %s of this surface is upright, and the sheet of %s states no maximum film on walls.",
				number, units.Fraction(measure.Fraction(upright)), p.Name),
			WayOut: "Ask the maker, or try it on a wall.",
		}}
	}
	return nil
}

// mostlyUpright is the share of upright faces from which a missing limit is
// told: common practice, no source.
const mostlyUpright = 0.2

func soldByMass(p *material.Product) bool {
	for _, k := range p.Kits {
		if k.Mass != nil {
			return true
		}
	}
	return false
}

// laid is the fix that gives a coat another wet film.
func (c Coat) laid(b Build, wet measure.Film, path string, units measure.System) *finding.Fix {
	return &finding.Fix{
		Label: "Lay " + units.Film(wet),
		Patch: []finding.PatchStep{{Op: "replace", Path: path + "/amount", Value: c.Amount.Scaled(float64(wet / b.Wet))}},
	}
}

// split is the fix that lays a coat in equal lifts.
func (c Coat) split(b Build, lifts, number int, path string, units measure.System) *finding.Fix {
	amount := c.Amount.Scaled(1 / float64(lifts))
	fix := &finding.Fix{
		Label: fmt.Sprintf("Split into %d coats of %s", lifts, units.Film(b.Wet/measure.Film(lifts))),
		Patch: []finding.PatchStep{{Op: "replace", Path: path + "/amount", Value: amount}},
	}
	if c.Faces != nil {
		faces := *c.Faces
		faces.Value /= measure.Film(lifts)
		c.Faces = &faces
		fix.Patch = append(fix.Patch, finding.PatchStep{Op: "replace", Path: path + "/faces", Value: faces})
	}
	for n := 2; n <= min(lifts, 10); n++ {
		lift := c
		lift.ID = fmt.Sprintf("%.40s-%d-%d", c.ID, int(float64(b.Wet)*1e6), n)
		lift.Amount, lift.Fill, lift.Soak, lift.OverWet = amount, nil, nil, false
		fix.Patch = append(fix.Patch, finding.PatchStep{Op: "add", Path: fmt.Sprintf("%s/%d", coatsOf(path), number+n-2),
			Value: lift})
	}
	return fix
}

// coatsOf is the list that a coat's path is in.
func coatsOf(path string) string { return path[:strings.LastIndexByte(path, '/')] }

// Scaled is the same basis for a film so many times as thick.
func (a Amount) Scaled(by float64) Amount {
	if a.Basis == SpreadRate || a.Basis == AreaPerKit {
		a.Value /= by
	} else {
		a.Value *= by
	}
	return a
}
