package wait

import (
	"fmt"
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
		if c := i.Coat(d.ID); c != nil {
			d.Now = append(d.Now, cleaning(c, d, now)...)
		}
		for _, says := range [][]record.Say{d.Now, d.Next} {
			for k := range says {
				says[k].For = does(says[k].Do)
			}
		}
	}
	return Board{day, Of(i, &day, now), prep.Of(i, &day, now), enough.Of(i, &day, units),
		tint.Of(i, &day)}
}

// cleanFor is the time after a pail was poured for which its mixer is told to close the parts and clean the tools:
// common practice, no source.
const cleanFor = 3 * time.Minute

// cleaning returns what is closed and cleaned once a pail is out of the mixer's hands.
func cleaning(c *record.Coat, d *record.CoatDay, now time.Time) []record.Say {
	all := []record.Say{}
	for k := range d.Batches {
		b := &d.Batches[k]
		if b.State != record.Pouring || b.Began == nil || now.Sub(*b.Began) > cleanFor || k >= len(c.Batches) {
			continue
		}
		text := "caps back on A and B, each its own"
		if len(c.Batches[k].Card.Parts) < 2 {
			text = "lid back on"
		}
		all = append(all, record.Say{Do: "clean", Batch: b.Number, Text: fmt.Sprintf(
			"Batch %d: %s; paddle and tools into alcohol, or what the sheet names, while they are wet", b.Number, text)})
	}
	return all
}

// does returns the parts that do what a sentence says; none where everybody has to know.
func does(do string) []work.Role {
	switch do {
	case "meet", "mix", "stand", "clean":
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
