package survey

import "nephelon/core/measure"

// RuleID names a threshold.
type RuleID string

// Values lists the thresholds.
func (RuleID) Values() []RuleID {
	return []RuleID{
		"concrete-age", "slab-humidity", "barrier-humidity", "carbide", "emission", "dew-margin", "air-humidity",
		"slab-least", "slab-most", "ph-least", "ph-most", "pull-off", "stale", "wind", "rain-free", "acid-water",
		"neutraliser-water",
	}
}

// Rule is a threshold with where it comes from.
type Rule struct {
	ID     RuleID         `json:"id"`
	Name   string         `json:"name"`
	Kind   measure.Kind   `json:"kind" enum:"span,fraction,emission,temperature,number,pressure"`
	Value  float64        `json:"value" doc:"SI; differences of temperature in K"`
	Source measure.Source `json:"source"`
	From   string         `json:"from" doc:"The standard or practice"`
}

// Own is the contractor's own value of a rule.
type Own struct {
	ID     RuleID         `json:"id"`
	Value  float64        `json:"value" minimum:"0" maximum:"100000000"`
	Source measure.Source `json:"source"`
	From   string         `json:"from,omitempty" maxLength:"200"`
}

const day = 24 * measure.Hour

// Rules are the thresholds in force: the defaults, with the contractor's own in
// their place. Numbers of standards are from memory.
func Rules(own []Own) map[RuleID]Rule {
	poundEmission := measure.Pound / (1000 * measure.SqFoot) / day
	rules := []Rule{
		{"concrete-age", "Age of concrete, at least", measure.KindSpan, 28 * day, measure.RuleOfThumb, "common practice"},
		{"slab-humidity", "In-situ RH, at most", measure.KindFraction, 0.75, measure.Standard,
			"method ASTM F2170; 75 to 85 % by system is common practice"},
		{"barrier-humidity", "In-situ RH under a moisture barrier, at most", measure.KindFraction, 0.95, measure.RuleOfThumb,
			"common practice; the barrier's sheet rules"},
		{"carbide", "Moisture by the carbide method, at most", measure.KindFraction, 0.04, measure.RuleOfThumb,
			"common practice for concrete; the sheet rules"},
		{"emission", "MVER, at most", measure.KindEmission, 3 * poundEmission, measure.Standard,
			"ASTM F1869, the classic limit"},
		{"dew-margin", "Slab above the dew point, K, at least", measure.KindNumber, 3, measure.Standard,
			"guidance of ISO 8502-4 and common practice"},
		{"air-humidity", "Humidity of the air, at most", measure.KindFraction, 0.85, measure.RuleOfThumb, "common practice"},
		{"slab-least", "Slab temperature, at least", measure.KindTemperature, 10, measure.RuleOfThumb,
			"common practice; the sheet rules"},
		{"slab-most", "Slab temperature, at most", measure.KindTemperature, 32, measure.RuleOfThumb,
			"common practice; the sheet rules"},
		{"ph-least", "pH after rinsing, at least", measure.KindNumber, 6, measure.RuleOfThumb,
			"method ASTM D4262; the range is common practice"},
		{"ph-most", "pH after rinsing, at most", measure.KindNumber, 9, measure.RuleOfThumb,
			"method ASTM D4262; the range is common practice"},
		{"pull-off", "Pull-off strength, at least", measure.KindPressure, 1.5e6, measure.RuleOfThumb,
			"method ASTM D7234; 1.5 MPa is common practice"},
		{"stale", "A reading counts for", measure.KindSpan, day, measure.RuleOfThumb, "common practice"},
		{"acid-water", "Parts of water to one of muriatic acid", measure.KindNumber, 4, measure.RuleOfThumb,
			"common practice; down to 1 on stubborn floors"},
		{"neutraliser-water", "Parts of water to one of ammonia", measure.KindNumber, 20, measure.RuleOfThumb,
			"common practice; 10 by a cautious school"},
		{"wind", "Wind outdoors, m/s, at most", measure.KindNumber, 8, measure.RuleOfThumb, "common practice"},
		{"rain-free", "Without rain after coating, at least", measure.KindSpan, day, measure.RuleOfThumb, "common practice"},
	}
	all := make(map[RuleID]Rule, len(rules))
	for _, r := range rules {
		all[r.ID] = r
	}
	for _, o := range own {
		r := all[o.ID]
		r.Value, r.Source, r.From = o.Value, o.Source, o.From
		if r.From == "" {
			r.From = "your own rule"
		}
		all[o.ID] = r
	}
	return all
}
