package stage

import (
	"math"
	"slices"
	"strings"

	"nephelon/core/climate"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// SurveyPlan holds the verdicts and the preparation of a survey.
type SurveyPlan struct {
	Fit         survey.Fit          `json:"fit"`
	Verdicts    []survey.Verdict    `json:"verdicts"`
	Preparation *survey.Preparation `json:"preparation,omitempty" doc:"Absent while the surface is not measured"`
	Hours       []climate.Judged    `json:"hours" doc:"Hours of the forecast"`
}

// Surveyed holds the judged survey of each surface.
type Surveyed struct {
	Surfaces []*SurveyPlan // nil while nothing was surveyed
}

// SurveyAll judges every surface and orders its preparation.
func SurveyAll(in *input.Inputs, m Measured) Surveyed {
	out := Surveyed{Surfaces: make([]*SurveyPlan, len(in.Layers))}
	for i := range in.Layers {
		out.Surfaces[i] = surveySurface(in, i, m.Surfaces[i])
	}
	return out
}

func surveySurface(in *input.Inputs, i int, m MeasuredSurface) *SurveyPlan {
	s := in.File.Job.Surfaces[i]
	if s.Survey == nil {
		return nil
	}
	coats := surveyCoats(in, i, m)
	own := SurveyRules(in, i)
	told := SurveyPlan{Hours: judgeHours(in, *s.Survey, coats, survey.Rules(own))}
	told.Verdicts = survey.Judge(*s.Survey, coats, own, survey.Scene{Now: in.Now, Hours: told.Hours, Units: in.Units,
		Wetted: wetted(in, s.ID), Outline: s.Floor.Outline})
	told.Fit = survey.Overall(told.Verdicts)
	if off := m.Takeoff; off != nil {
		extent := survey.Extent{
			Area: off.Area, Upright: off.Facing.Vertical, Perimeter: off.Perimeter, Doors: off.Openings, Filler: off.Filler,
			Hollows: off.Hollows, Deepest: off.Deepest,
			Pool: s.Pool != nil, Top: s.Top != nil, Coats: len(s.Coats), People: in.File.Job.Crew.People(), Rules: in.Rules,
		}
		for c, coat := range s.Coats {
			if !in.Layers[i][c].Abrades {
				continue
			}
			if coat.Abraded || in.Layers[i][c].OverSeal {
				extent.Abraded++
			}
			if grit := in.Layers[i][c-1].Grit(); grit > 0 && !slices.Contains(extent.Grits, grit) {
				extent.Grits = append(extent.Grits, grit)
			}
		}
		p := survey.Prepare(*s.Survey, extent, in.File.Job.Methods, told.Verdicts)
		told.Preparation = &p
	}
	return &told
}

// wetted returns the last wet work on a surface whose booking is over; nil where none is.
func wetted(in *input.Inputs, surface string) *survey.Wetted {
	var last *survey.Wetted
	prefix := string(work.PrepareID(surface, ""))
	for _, b := range in.Bookings() {
		step, own := strings.CutPrefix(b.Task, prefix)
		if own && survey.Wets(step) && !b.Until.After(in.Now) && (last == nil || b.Until.After(last.Until)) {
			last = &survey.Wetted{Step: step, Until: b.Until}
		}
	}
	return last
}

// SurveyRules returns the contractor's own thresholds, with the first coat's sheet where
// it is stricter: the sheet always rules.
func SurveyRules(in *input.Inputs, i int) []survey.Own {
	own := in.File.Job.Rules
	if len(in.Layers[i]) == 0 || in.Layers[i][0].Sheet == nil {
		return own
	}
	p := in.Layers[i][0].Sheet.Product
	rule := func(id survey.RuleID, value float64, source measure.Source) {
		own = append(slices.DeleteFunc(slices.Clone(own), func(o survey.Own) bool { return o.ID == id }),
			survey.Own{ID: id, Value: value, Source: source, From: "sheet of " + p.Name})
	}
	if d := p.DewMargin; d != nil && float64(d.Value) > in.Rules["dew-margin"].Value {
		rule("dew-margin", float64(d.Value), d.Source)
	}
	if h := p.HumidityMax; h != nil && float64(h.Value) < in.Rules["air-humidity"].Value {
		rule("air-humidity", float64(h.Value), h.Source)
	}
	return own
}

// surveyCoats returns what the survey needs to know of the coats.
func surveyCoats(in *input.Inputs, i int, m MeasuredSurface) survey.Coats {
	var c survey.Coats
	for n, l := range in.Layers[i] {
		if l.Sheet == nil {
			continue
		}
		p := l.Sheet.Product
		if n == 0 {
			c.First = p.Name
			c.Barrier = p.Kind == "moisture-barrier"
			c.Seals = c.Barrier || p.Kind == "primer" || l.Coat.Seal
			c.HumidityMax, c.SlabMin, c.SlabMax = p.SlabHumidityMax, p.SlabMin, p.SlabMax
			c.CarbideMax, c.EmissionMax = p.CarbideMax, p.EmissionMax
		}
		if l.Sound && m.Takeoff != nil && !l.Coat.Seal {
			c.Film += l.Coat.Dry(p, l.Sheet.Mix)
			if wet := l.Coat.Wet(p, l.Sheet.Mix); wet >= survey.LevelsFrom && p.Kind != "binder" {
				c.Levels = max(c.Levels, wet)
			}
			c.Broadcast = c.Broadcast || l.Coat.Scatter != nil && l.Coat.Scatter.Degree == "full"
		}
	}
	return c
}

// judgeHours judges the forecast for a surface.
func judgeHours(in *input.Inputs, s survey.Survey, coats survey.Coats,
	rules map[survey.RuleID]survey.Rule) []climate.Judged {
	place, read := in.Placed(&s)
	slab := in.Weather.Slab(place)
	if len(slab) == 0 {
		return []climate.Judged{}
	}
	hours := in.Weather.Hours
	low, high, _ := survey.Bounds(coats, rules)
	return climate.Judge(hours, climate.Correct(slab, hours, read), climate.Limits{
		DewMargin: measure.Temperature(rules["dew-margin"].Value), HumidityMax: measure.Fraction(rules["air-humidity"].Value),
		SlabMin: low, SlabMax: high, Open: s.Outdoors, WindMax: rules["wind"].Value,
		DryAfter: int(math.Ceil(rules["rain-free"].Value / measure.Hour)),
		Falling:  s.WaterDrop == "soaks" && coats.First != "" && !coats.Seals,
	}, in.Units)
}
