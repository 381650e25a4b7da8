package advice

import (
	"fmt"
	"math"
	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/school"
	"nephelon/core/survey"
	"slices"
	"strings"
)

// Neighbours checks the coats of a surface against each other.
func Neighbours(in *input.Inputs, i int, s stage.Stages) []finding.Finding {
	from := in.File.Job.Surfaces[i]
	layers := make([]buildup.Layer, 0, len(in.Layers[i]))
	for c, l := range in.Layers[i] {
		if l.Sheet == nil {
			return nil // the gap is told already
		}
		window := l.Sheet.Window
		if own := s.Timed.Coats[i][c].Window; own != nil {
			window = *own
		}
		coat := l.Coat
		coat.Abraded = coat.Abraded || l.OverSeal
		layers = append(layers, buildup.Layer{Coat: coat, Sheet: l.Sheet.Product, Window: window, Mix: l.Sheet.Mix,
			Build: s.Built.Coats[i][c], Path: l.Path})
	}
	bed := buildup.Bed{
		Name: from.Name, Path: input.SurfacePath(i), Temperature: in.Slab, Media: in.Media, Service: from.Service,
		Sands: in.Methods.Between == school.SandEvery, DampMost: measure.Fraction(in.Rules["slab-humidity"].Value),
	}
	if v := in.File.Job.VOCMax; v != nil {
		bed.VOCMax = v.Value
	}
	if off := s.Measured.Surfaces[i].Takeoff; off != nil {
		bed.Fills = off.Filler > 0
	}
	if from.Survey != nil {
		bed.Substrate = substrate(from.Survey.Substrate)
		for _, r := range from.Survey.Readings {
			if r.Kind == survey.SlabHumidity {
				bed.Damp = max(bed.Damp, measure.Fraction(r.Value))
			}
		}
	}
	return buildup.Neighbours(layers, bed, in.Units)
}

// substrate returns the word by which data sheets name a substrate.
func substrate(s survey.Substrate) string {
	switch s {
	case survey.Trowelled:
		return string(survey.Concrete)
	case survey.Timber, survey.Board:
		return "wood"
	case survey.OldCoating:
		return "old-paint"
	}
	return string(s)
}

// Doses warns of grit that is stated in packs to a kit of which one is gone.
func Doses(in *input.Inputs) []finding.Finding {
	var found []finding.Finding
	for i, layers := range in.Layers {
		for _, l := range layers {
			if !l.Undosed {
				continue
			}
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.BuildUp, Path: l.Path + "/grit",
				Text: fmt.Sprintf("%s, coat %d: %.3g × %s to one %s, but one of the two is not sold any more; planned with %s.",
					in.File.Job.Surfaces[i].Name, l.Number, l.Coat.Grit.Packs.Count, l.Coat.Grit.Packs.Pack, l.Coat.Grit.Packs.Kit,
					in.Units.Format(measure.KindContent, float64(l.Coat.Grit.Dose.Value))),
				WayOut: "Enter the dose again.",
			})
		}
	}
	return found
}

// Samples warns of sheets that are no products.
func Samples(in *input.Inputs) []finding.Finding {
	var names []string
	path := ""
	for _, layers := range in.Layers {
		for _, l := range layers {
			if l.Sheet == nil || !l.Sheet.Product.Sample || slices.Contains(names, l.Sheet.Product.Name) {
				continue
			}
			if path == "" {
				path = l.Path
			}
			names = append(names, l.Sheet.Product.Name)
		}
	}
	if len(names) == 0 {
		return nil
	}
	return []finding.Finding{{
		Level: finding.Warning, Step: finding.Kits, Path: path,
		Text: fmt.Sprintf("Planned with sample sheets, which nobody sells: %s. Amounts and prices are typical, not real.",
			strings.Join(names, ", ")),
		WayOut: "Choose your own products in the build-up before you buy or mix anything.",
	}}
}

// Smoke warns of the largest batch of a sheet that would smoke if it were left
// standing.
func Smoke(in *input.Inputs, s stage.Stages) []finding.Finding {
	largest := make(map[*input.Sheet]kit.Batch)
	var order []*input.Sheet
	for i, layers := range in.Layers {
		for c, l := range layers {
			division := s.Divided.Coats[i][c].Division
			if division == nil {
				continue
			}
			for _, b := range division.Batches {
				if _, seen := largest[l.Sheet]; !seen {
					order = append(order, l.Sheet)
				}
				if b.Mass > largest[l.Sheet].Mass {
					largest[l.Sheet] = b
				}
			}
		}
	}
	var told []string
	path := ""
	for _, of := range order {
		life, b := s.Divided.Lives[of], largest[of]
		if life == nil || life.Table == nil {
			continue
		}
		left := life.Left(b.Mass)
		if left.Smokes == nil {
			continue
		}
		if path == "" {
			path = of.Path
		}
		told = append(told, fmt.Sprintf("%s, %s: about %s after, to about %s", of.Product.Name, in.Units.Mass(b.Mass),
			in.Units.Span(stage.SmokesAfter(left)),
			in.Units.Temperature(measure.Temperature(math.Round(float64(left.Peak.Temperature)/5)*5))))
	}
	if len(told) == 0 {
		return nil
	}
	return []finding.Finding{{
		Level: finding.Note, Step: finding.Batches, Path: path,
		Text: "A batch left standing heats itself and smokes soon after it can no longer be used: " +
			strings.Join(told, "; ") + ".",
		WayOut: "Pour it out at once. If one runs hot, carry it outside and leave it; never add water, never seal it.",
	}}
}

// Practice says where a contractor's rule and a coat's sheet part, and where flame
// comes near vapour.
func Practice(in *input.Inputs, i int, l input.ResolvedCoat) []finding.Finding {
	var found []finding.Finding
	p := l.Sheet.Product
	tell := func(level finding.Level, way string, fix *finding.Fix, format string, args ...any) {
		found = append(found, finding.Finding{Level: level, Step: finding.BuildUp, Path: l.Path, WayOut: way, Fix: fix,
			Text: fmt.Sprintf("%s, coat %d: ", in.File.Job.Surfaces[i].Name, l.Number) + fmt.Sprintf(format, args...)})
	}
	thinned := l.Coat.Thinner != nil && l.Coat.Thinner.Value > 0
	tools := map[school.Bubbles]string{school.Torch: "torch", school.HeatGun: "heat gun", school.HairDryer: "hair dryer"}
	if tool := tools[in.Methods.Bubbles]; tool != "" && (p.Carrier == material.Solvent || thinned) {
		tell(finding.Warning, fmt.Sprintf("Leave the %s away from this coat.", tool), nil,
			"bubbles are driven out by %s, and %s contains solvent: its vapour burns.", tool, p.Name)
	} else if c := l.Coat.Colours; tool != "" && c != nil && c.Mists > 0 {
		leave := in.File.Job.Methods
		leave.Bubbles = school.LeaveBubbles
		tell(finding.Refused, "Leave the bubbles alone, or leave the mist out.", &finding.Fix{
			Label: fmt.Sprintf("No %s on this job", tool),
			Patch: []finding.PatchStep{{Op: "add", Path: "/job/methods", Value: leave}},
		}, "alcohol is misted onto it as an accent, and bubbles are driven out by %s: its vapour burns.", tool)
	}
	if in.Methods.Thin == school.ThinFirst && l.Number == 1 && !thinned && p.Carrier == material.Solvent &&
		p.ThinnerMax != nil && p.ThinnerMax.Value > 0 {
		tell(finding.Note, "Thin it within its sheet, or change your rule.", &finding.Fix{
			Label: "Thin coat 1 by " + in.Units.Fraction(p.ThinnerMax.Value) + " " + p.ThinnerMax.Words(),
			Patch: []finding.PatchStep{{Op: "add", Path: l.Path + "/thinner", Value: *p.ThinnerMax}},
		}, "your rule thins a first coat of such a product, and this one is not.")
	}
	if in.Methods.Thin == school.NeverThin && thinned {
		tell(finding.Note, "Leave the thinner out, or change your rule.", nil, "it is thinned, against your rule.")
	}
	if in.Methods.Resting == school.UseAtOnce && p.Induction != nil && p.Induction.Value > 0 {
		tell(finding.Note, "Let it stand as its sheet says; the sheet rules.", nil,
			"you use a mix at once, but %s needs an induction of %s after mixing.", p.Name, in.Units.Span(p.Induction.Value))
	}
	if m := l.Mixing; p.MixingAgain == nil && m.First > 0 && m.First+m.Second > 2*m.First {
		tell(finding.Note, "Mix as its sheet says; scrape the pail in place of a second bucket.", nil,
			"mixed %s in all, more than twice the %s of its sheet: it whips in air and burns pot life.",
			in.Units.Span(m.First+m.Second), in.Units.Span(m.First))
	}
	return found
}
