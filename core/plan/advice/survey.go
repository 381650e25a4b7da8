package advice

import (
	"fmt"
	"nephelon/core/finding"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"time"
)

// measured says which surfaces are not measured, and where their measures are at fault.
func measured(in *input.Inputs, m stage.Measured) []finding.Finding {
	var found []finding.Finding
	for i, s := range in.File.Job.Surfaces {
		if !s.Measured() && s.Given == nil {
			at, way := s.Unmeasured()
			found = append(found, finding.Finding{Level: finding.Note, Step: finding.Measure, Path: input.SurfacePath(i) + at,
				Text: s.Name + " is not measured yet.", WayOut: way})
			continue
		}
		for _, f := range m.Surfaces[i].Found {
			f.Text = s.Name + ": " + f.Text
			found = append(found, f)
		}
	}
	return found
}

// surveyed says what keeps surfaces from being coated, and what of their readings is not used.
func surveyed(in *input.Inputs, all stage.Surveyed) []finding.Finding {
	var found []finding.Finding
	for i, s := range in.File.Job.Surfaces {
		path, told := input.SurfacePath(i)+"/survey", all.Surfaces[i]
		if told == nil {
			found = append(found, finding.Finding{
				Level: finding.Note, Step: finding.Survey, Path: path,
				Text: s.Name + " has not been surveyed.", WayOut: "Inspect it, take readings, and enter the results.",
			})
			continue
		}
		for r, reading := range s.Survey.Readings {
			if fault := reading.Check(in.Now, in.Units); fault != nil {
				fault.Path = fmt.Sprintf("%s/readings/%d", path, r)
				fault.Text = s.Name + ": " + fault.Text
				found = append(found, *fault)
			}
		}
		for _, v := range told.Verdicts {
			switch {
			case v.Override != nil:
				found = append(found, finding.Finding{
					Level: finding.Note, Step: finding.Survey, Path: path,
					Text: fmt.Sprintf("%s: %s Overridden by %s: %s", s.Name, v.Text, v.Override.By, v.Override.Reason),
				})
			case v.Closed():
				found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Survey, Path: path,
					Text: s.Name + ": " + v.Text, WayOut: v.WayOut})
			}
		}
		if p := told.Preparation; p != nil && p.Refused != "" {
			found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Survey, Path: "/job/methods",
				Text: s.Name + ": " + p.Refused, WayOut: "Keep to grinding, or change your rule."})
		}
	}
	if f := unplannedReading(in); f != nil {
		found = append(found, *f)
	}
	return append(found, unplannedMixing(in)...)
}

// readOff is the most K by which a slab that was read may differ from the one planned for.
const readOff measure.Temperature = 2

// unplannedMixing warns where the parts or the air at the mixing place were read otherwise than entered.
func unplannedMixing(in *input.Inputs) []finding.Finding {
	mixing := in.File.Job.Mixing
	var found []finding.Finding
	for _, c := range []struct {
		what, field string
		read        *input.SlabRead
		since       *time.Time // nil where the reading is too old to plan with
		own         *measure.Sourced[measure.Temperature]
	}{{"The parts were", "a", in.ReadParts, in.From.PartsAt, mixing.A},
		{"The air at the mixing place was", "air", in.ReadAir, in.From.AirAt, mixing.Air}} {
		if c.since == nil || !input.Entered(c.own) {
			continue
		}
		if off := c.read.Slab - c.own.Value; off >= -readOff && off <= readOff {
			continue
		}
		words := in.Units.Temperature(c.read.Slab)
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: "/job/mixing/" + c.field,
			Text: fmt.Sprintf("%s read at %s %s, but pot life and batches are planned for %s, as entered.", c.what, words,
				hour(in, *c.since), in.Units.Temperature(c.own.Value)),
			WayOut: "Plan with it as read, or read it again at the hour of the work.",
			Fix: &finding.Fix{Label: "Plan with " + words + " as read", Patch: []finding.PatchStep{
				{Op: "add", Path: "/job/mixing/" + c.field,
					Value: measure.Sourced[measure.Temperature]{Value: c.read.Slab, Source: measure.OwnTest}},
			}},
		})
	}
	return found
}

// unplannedReading warns where the newest slab temperature that was read on any surface is not the one
// that coats are planned for; nil where they agree or none was read.
func unplannedReading(in *input.Inputs) *finding.Finding {
	newest := in.Read
	if newest == nil {
		return nil
	}
	read := newest.Slab
	if off := read - in.Slab; off >= -readOff && off <= readOff {
		return nil
	}
	planned := "assumed"
	if in.File.Job.Slab != nil {
		planned = "entered"
	}
	what := "pot life, batches and recoat windows"
	if len(in.Weather.Hours) > 0 {
		what = "pot life and batches" // films follow the forecast as corrected by what was read
	}
	zone, err := in.File.Job.Place()
	if err != nil {
		zone = time.UTC // told when the file was read
	}
	words, on := in.Units.Temperature(read), ""
	if newest.On != "" {
		on = " of " + newest.On
	}
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Survey, Path: "/job/slab",
		Text: fmt.Sprintf("The slab%s was read at %s on %s, but %s are planned for %s, as %s.",
			on, words, in.Units.Time(newest.At.In(zone), "2 Jan, 15:04"), what, in.Units.Temperature(in.Slab), planned),
		WayOut: "Plan with the slab as read, or read it again at the hour of the work.",
		Fix: &finding.Fix{Label: "Plan with " + words + " as read", Patch: []finding.PatchStep{
			{Op: "add", Path: "/job/slab", Value: measure.Sourced[measure.Temperature]{Value: read, Source: measure.OwnTest}},
		}},
	}
}
