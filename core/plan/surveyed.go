package plan

import (
	"fmt"
	"math"
	"slices"
	"time"

	"nephelon/core/climate"
	"nephelon/core/finding"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// SurveyPlan is what a survey came to.
type SurveyPlan struct {
	Fit         survey.Fit          `json:"fit" enum:"fit,unknown,after,unfit"`
	Verdicts    []survey.Verdict    `json:"verdicts"`
	Preparation *survey.Preparation `json:"preparation,omitempty" doc:"Absent while the surface is not measured"`
	Hours       []climate.Judged    `json:"hours" doc:"Of the forecast"`
}

// surveyed is what the survey of each surface came to.
type surveyed struct {
	surfaces []*SurveyPlan // nil while nothing was surveyed
	found    []finding.Finding
}

// surveyAll judges every surface and orders its preparation.
func surveyAll(in *inputs, m measured) surveyed {
	out := surveyed{surfaces: make([]*SurveyPlan, len(in.layers))}
	for i := range in.layers {
		plan, found := surveySurface(in, i, m.surfaces[i])
		out.surfaces[i] = plan
		out.found = append(out.found, found...)
	}
	if f := unplannedReading(in); f != nil {
		out.found = append(out.found, *f)
	}
	return out
}

// readOff is the most K by which a slab that was read may differ from the one planned for.
const readOff measure.Temperature = 2

// unread warns where the newest slab temperature that was read on any surface is not the one
// that coats are planned for; nil where they agree or none was read.
func unplannedReading(in *inputs) *finding.Finding {
	var newest *survey.Reading
	var on string
	for i, s := range in.file.Job.Surfaces {
		if s.Survey == nil || len(in.layers[i]) == 0 {
			continue
		}
		for n := range s.Survey.Readings {
			r := &s.Survey.Readings[n]
			if r.Kind == survey.SlabTemperature && r.Check(in.now, in.units) == nil && (newest == nil || r.At.After(newest.At)) {
				newest, on = r, s.Name
			}
		}
	}
	if newest == nil {
		return nil
	}
	read := measure.Temperature(newest.Value)
	if off := read - in.slab; off >= -readOff && off <= readOff {
		return nil
	}
	planned := "assumed"
	if in.file.Job.Slab != nil {
		planned = "entered"
	}
	what := "pot life, batches and recoat windows"
	if len(in.weather.hours) > 0 {
		what = "pot life and batches" // films follow the forecast as corrected by what was read
	}
	zone, err := in.file.Job.Place()
	if err != nil {
		zone = time.UTC // told when the file was read
	}
	words := in.units.Temperature(read)
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Survey, Path: "/job/slab",
		Text: fmt.Sprintf("The slab of %s was read at %s on %s, but %s are planned for %s, as %s.",
			on, words, newest.At.In(zone).Format("2 Jan, 15:04"), what, in.units.Temperature(in.slab), planned),
		WayOut: "Plan with the slab as read, or read it again at the hour of the work.",
		Fix: &finding.Fix{Label: "Plan with " + words + " as read", Patch: []finding.PatchStep{
			{Op: "add", Path: "/job/slab", Value: measure.Sourced[measure.Temperature]{Value: read, Source: measure.OwnTest}},
		}},
	}
}

func surveySurface(in *inputs, i int, m measuredSurface) (*SurveyPlan, []finding.Finding) {
	var found []finding.Finding
	s, path := in.file.Job.Surfaces[i], surfacePath(i)+"/survey"
	if s.Survey == nil {
		return nil, append(found, finding.Finding{
			Level: finding.Note, Step: finding.Survey, Path: path,
			Text: s.Name + " has not been surveyed.", WayOut: "Look at it, read it, and enter what you find.",
		})
	}
	coats := surveyCoats(in, i, m)
	own := surveyRules(in, i)
	told := SurveyPlan{Hours: judgeHours(in, *s.Survey, coats, survey.Rules(own))}
	told.Verdicts = survey.Judge(*s.Survey, coats, own, survey.Scene{Now: in.now, Hours: told.Hours, Units: in.units})
	told.Fit = survey.Overall(told.Verdicts)
	for r, reading := range s.Survey.Readings {
		if fault := reading.Check(in.now, in.units); fault != nil {
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
			found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Survey, Path: path, Text: s.Name + ": " + v.Text, WayOut: v.WayOut})
		}
	}
	if off := m.takeoff; off != nil {
		extent := survey.Extent{
			Area: off.Area, Upright: off.Facing.Vertical, Perimeter: off.Perimeter, Doors: off.Openings, Filler: off.Filler,
			Pool: s.Pool != nil, Top: s.Top != nil, Coats: len(s.Coats), People: in.file.Job.Crew.People(), Rules: in.rules,
		}
		for c, coat := range s.Coats {
			if !in.layers[i][c].abrades {
				continue
			}
			if coat.Abraded || in.layers[i][c].overSeal {
				extent.Abraded++
			}
			if grit := in.layers[i][c-1].grit(); grit > 0 && !slices.Contains(extent.Grits, grit) {
				extent.Grits = append(extent.Grits, grit)
			}
		}
		p := survey.Prepare(*s.Survey, extent, in.file.Job.Methods, told.Verdicts)
		told.Preparation = &p
		if p.Refused != "" {
			found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Survey, Path: "/job/methods", Text: s.Name + ": " + p.Refused, WayOut: "Keep to grinding, or change your rule."})
		}
	}
	return &told, found
}

// ruled are the contractor's own thresholds, with the first coat's sheet where
// it is stricter: the sheet always rules.
func surveyRules(in *inputs, i int) []survey.Own {
	own := in.file.Job.Rules
	if len(in.layers[i]) == 0 || in.layers[i][0].sheet == nil {
		return own
	}
	p := in.layers[i][0].sheet.product
	rule := func(id string, value float64, source measure.Source) {
		own = append(slices.DeleteFunc(slices.Clone(own), func(o survey.Own) bool { return o.ID == id }),
			survey.Own{ID: id, Value: value, Source: source, From: "sheet of " + p.Name})
	}
	if d := p.DewMargin; d != nil && float64(d.Value) > in.rules["dew-margin"].Value {
		rule("dew-margin", float64(d.Value), d.Source)
	}
	if h := p.HumidityMax; h != nil && float64(h.Value) < in.rules["air-humidity"].Value {
		rule("air-humidity", float64(h.Value), h.Source)
	}
	return own
}

// surveyCoats is what the survey needs to know of what goes on the surface.
func surveyCoats(in *inputs, i int, m measuredSurface) survey.Coats {
	var c survey.Coats
	for n, l := range in.layers[i] {
		if l.sheet == nil {
			continue
		}
		p := l.sheet.product
		if n == 0 {
			c.First = p.Name
			c.Barrier = p.Kind == "moisture-barrier"
			c.Seals = c.Barrier || p.Kind == "primer" || l.coat.Seal
			c.HumidityMax, c.SlabMin, c.SlabMax = p.SlabHumidityMax, p.SlabMin, p.SlabMax
		}
		if l.sound && m.takeoff != nil && !l.coat.Seal {
			c.Film += l.coat.Dry(p, l.sheet.mix)
			c.Broadcast = c.Broadcast || l.coat.Scatter != nil && l.coat.Scatter.Degree == "full"
		}
	}
	return c
}

// judgeHours judges the forecast for a surface.
func judgeHours(in *inputs, s survey.Survey, coats survey.Coats, rules map[string]survey.Rule) []climate.Judged {
	place, read := placed(&s)
	slab := in.weather.slab(place)
	if len(slab) == 0 {
		return []climate.Judged{}
	}
	hours := in.weather.hours
	low, high, _ := survey.Bounds(coats, rules)
	return climate.Judge(hours, climate.Correct(slab, hours, read), climate.Limits{
		DewMargin: measure.Temperature(rules["dew-margin"].Value), HumidityMax: measure.Fraction(rules["air-humidity"].Value),
		SlabMin: low, SlabMax: high, Open: s.Outdoors, WindMax: rules["wind"].Value,
		DryAfter: int(math.Ceil(rules["rain-free"].Value / measure.Hour)),
		Falling:  s.WaterDrop == "soaks" && coats.First != "" && !coats.Seals,
	}, in.units)
}
