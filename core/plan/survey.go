package plan

import (
	"fmt"
	"math"
	"slices"

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

// survey judges a surface and orders its preparation.
func (m *maker) survey(i int) {
	s, out, path := m.file.Job.Surfaces[i], &m.plan.Surfaces[i], surfacePath(i)+"/survey"
	if s.Survey == nil {
		m.find(finding.Finding{
			Level: finding.Note, Step: finding.Survey, Path: path,
			Text: s.Name + " has not been surveyed.", WayOut: "Look at it, read it, and enter what you find.",
		})
		return
	}
	coats := m.coats(i)
	own := m.ruled(i)
	told := SurveyPlan{Hours: m.hours(*s.Survey, coats, survey.Rules(own))}
	told.Verdicts = survey.Judge(*s.Survey, coats, own, survey.Scene{Now: m.now, Hours: told.Hours, Units: m.units})
	told.Fit = survey.Overall(told.Verdicts)
	for r, reading := range s.Survey.Readings {
		if fault := reading.Check(m.now, m.units); fault != nil {
			fault.Path = fmt.Sprintf("%s/readings/%d", path, r)
			fault.Text = s.Name + ": " + fault.Text
			m.find(*fault)
		}
	}
	for _, v := range told.Verdicts {
		switch {
		case v.Override != nil:
			m.find(finding.Finding{
				Level: finding.Note, Step: finding.Survey, Path: path,
				Text: fmt.Sprintf("%s: %s %s goes on in spite of it: %s", s.Name, v.Text, v.Override.By, v.Override.Reason),
			})
		case v.Closed():
			m.find(finding.Finding{Level: finding.Warning, Step: finding.Survey, Path: path, Text: s.Name + ": " + v.Text, WayOut: v.WayOut})
		}
	}
	if t := out.Takeoff; t != nil {
		p := survey.Prepare(*s.Survey, survey.Ground{
			Area: t.Area, Upright: t.Facing.Vertical, Perimeter: t.Perimeter, Doors: t.Openings, Filler: t.Filler,
			Pool: s.Pool != nil, Top: s.Top != nil, Coats: len(s.Coats), People: m.file.Job.Crew.Spreaders + 1,
		}, m.file.Job.Methods.Methods, told.Verdicts)
		told.Preparation = &p
		if p.Refused != "" {
			m.find(finding.Finding{Level: finding.Warning, Step: finding.Survey, Path: "/job/methods", Text: s.Name + ": " + p.Refused, WayOut: "Keep to grinding, or change your rule."})
		}
	}
	out.Survey = &told
}

// ruled are the contractor's own thresholds, with the first coat's sheet where
// it is stricter: the sheet always rules.
func (m *maker) ruled(i int) []survey.Own {
	own := m.file.Job.Rules
	if len(m.plan.Surfaces[i].Coats) == 0 || m.plan.Surfaces[i].Coats[0].product == nil {
		return own
	}
	p := m.plan.Surfaces[i].Coats[0].product
	rule := func(id string, value float64, source measure.Source) {
		own = append(slices.DeleteFunc(slices.Clone(own), func(o survey.Own) bool { return o.ID == id }),
			survey.Own{ID: id, Value: value, Source: source, From: "sheet of " + p.Name})
	}
	if d := p.DewMargin; d != nil && float64(d.Value) > m.rules["dew-margin"].Value {
		rule("dew-margin", float64(d.Value), d.Source)
	}
	if h := p.HumidityMax; h != nil && float64(h.Value) < m.rules["air-humidity"].Value {
		rule("air-humidity", float64(h.Value), h.Source)
	}
	return own
}

// coats is what the survey needs to know of what goes on the surface.
func (m *maker) coats(i int) survey.Coats {
	var c survey.Coats
	for n, coat := range m.plan.Surfaces[i].Coats {
		p := m.products[sheetKey(coat.Product, coat.Hardener)]
		if p == nil {
			continue
		}
		if n == 0 {
			c.First = p.Name
			c.Barrier = p.Kind == "moisture-barrier"
			c.Seals = c.Barrier || p.Kind == "primer"
			c.HumidityMax, c.SlabMin, c.SlabMax = p.SlabHumidityMax, p.SlabMin, p.SlabMax
		}
		if coat.Build != nil {
			c.Film += coat.Build.Wet
		}
	}
	return c
}

// hours judges the forecast for a surface.
func (m *maker) hours(s survey.Survey, coats survey.Coats, rules map[string]survey.Rule) []climate.Judged {
	place, read := placed(s)
	hours, slab := m.forecast(place)
	if len(hours) == 0 {
		return []climate.Judged{}
	}
	low, high, _ := survey.Bounds(coats, rules)
	return climate.Judge(hours, climate.Correct(slab, hours, read), climate.Limits{
		DewMargin: measure.Temperature(rules["dew-margin"].Value), HumidityMax: measure.Fraction(rules["air-humidity"].Value),
		SlabMin: low, SlabMax: high, Open: s.Outdoors, WindMax: rules["wind"].Value,
		DryAfter: int(math.Ceil(rules["rain-free"].Value / measure.Hour)),
		Falling:  s.WaterDrop == "soaks" && coats.First != "" && !coats.Seals,
	}, m.units)
}

// placed is where a surveyed slab lies, with the temperatures read on it.
func placed(s survey.Survey) (climate.Place, []climate.Reading) {
	var read []climate.Reading
	for _, r := range s.Readings {
		if r.Kind == survey.SlabTemperature {
			read = append(read, climate.Reading{At: r.At, Value: measure.Temperature(r.Value)})
		}
	}
	return climate.Place{Outdoors: s.Outdoors, Heated: s.Heated}, read
}

// forecast is the job's, in order of time, with the slab it makes at a place;
// empty where there is none.
func (m *maker) forecast(place climate.Place) ([]climate.Hour, []measure.Temperature) {
	if m.file.Job.Forecast == nil || len(m.file.Job.Forecast.Hours) == 0 {
		return nil, nil
	}
	if m.hoursToCome == nil {
		m.hoursToCome = slices.SortedFunc(slices.Values(m.file.Job.Forecast.Hours), func(a, b climate.Hour) int { return a.At.Compare(b.At) })
		m.slabs = make(map[climate.Place][]measure.Temperature)
	}
	if m.slabs[place] == nil {
		m.slabs[place] = climate.Slab(m.hoursToCome, place)
	}
	return m.hoursToCome, m.slabs[place]
}
