package wait

import (
	"time"

	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/enough"
	"nephelon/core/record/prep"
	"nephelon/core/record/tint"
	"nephelon/core/work"
)

// Board is a day with what it waits for and how far its pails reach.
type Board struct {
	record.Day
	Waits  []Wait         `json:"waits" doc:"What comes due, what is due first before the rest"`
	Steps  []prep.Step    `json:"steps" doc:"Preparation of the surfaces, in the order of the work"`
	Enough []enough.Reach `json:"enough" doc:"How far the pails reach, of each coat that is under way"`
	Cups   []tint.Cups    `json:"cups" doc:"Cups of colour that are not poured"`
}

// BoardOf returns a day of an issued plan with what it waits for at a time and how far its pails reach.
func BoardOf(i *record.Issue, day record.Day, now time.Time, units measure.System) Board {
	for n := range day.Coats {
		d := &day.Coats[n]
		for _, says := range [][]record.Say{d.Now, d.Next} {
			for k := range says {
				says[k].For = does(says[k].Do)
			}
		}
	}
	return Board{day, Of(i, &day, now), prep.Of(i, &day, now), enough.Of(i, &day, units),
		tint.Of(i, &day)}
}

// does returns the parts that do what a sentence says; none where everybody has to know.
func does(do string) []work.Role {
	switch do {
	case "meet", "mix", "stand":
		return []work.Role{work.Mixer}
	case "pour":
		return []work.Role{work.Pourer, work.Runner}
	case "spread":
		return []work.Role{work.Spreader, work.CutterIn, work.Caster}
	case "roll":
		return []work.Role{work.Roller}
	}
	return nil
}
