// Package tint tells which colours can still be made of the cups of a batch that are not poured, and until when they
// run into what lies. It knows issued plans and what was logged, and changes neither.
package tint

import (
	"slices"
	"time"

	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/record"
)

// Cups holds what is left of a batch that is divided into cups of colour.
type Cups struct {
	Coat  string     `json:"coat" doc:"Id of the coat"`
	Batch int        `json:"batch"`
	Left  []Left     `json:"left" doc:"Cups that are not poured"`
	Open  *time.Time `json:"open,omitempty" doc:"Until when colours run into each other wet on wet; left out before the first is poured"`
}

// Left is a cup that is not poured.
type Left struct {
	Cup   int          `json:"cup" doc:"Number on its card, from 1"`
	Name  string       `json:"name"`
	Mass  measure.Mass `json:"mass" doc:"kg of mix in it"`
	Makes []Make       `json:"makes" doc:"Colours that it can be instead"`
}

// Make is a colour that a cup can be.
type Make struct {
	Name    string       `json:"name"`
	Color   string       `json:"color"`
	Medium  string       `json:"medium"`
	Pigment measure.Mass `json:"pigment" doc:"kg for this cup"`
}

// Makes returns the other colours of its card that a cup can be: any while it is not coloured, none once it is. The
// pigment goes by the mass of the cup as the plan doses that colour.
func Makes(cups []kit.Cup, n int, coloured bool) []Make {
	all := []Make{}
	if coloured && cups[n].Pigment > 0 {
		return all
	}
	for k, c := range cups {
		known := slices.ContainsFunc(all, func(m Make) bool { return m.Medium == c.Medium })
		if k == n || c.Medium == "" || c.Medium == cups[n].Medium || !(c.Mass > 0) || known {
			continue
		}
		all = append(all, Make{Name: c.Name, Color: c.Color, Medium: c.Medium,
			Pigment: c.Pigment * measure.Mass(cups[n].Mass/c.Mass)})
	}
	return all
}

// Of returns the cups that are left of each batch of a day whose mixing is begun and that is not all spread.
func Of(i *record.Issue, day *record.Day) []Cups {
	all := []Cups{}
	for n := range day.Coats {
		d := &day.Coats[n]
		c := i.Coat(d.ID)
		for k := range d.Batches {
			b := &d.Batches[k]
			if c != nil && k < len(c.Batches) && len(c.Batches[k].Card.Cups) > 0 &&
				slices.Contains([]string{record.Mixing, record.Ready, record.Pouring}, b.State) {
				all = append(all, cupsOf(d, b, c.Batches[k].Card.Cups))
			}
		}
	}
	return all
}

// cupsOf reads the cups of one batch.
func cupsOf(d *record.CoatDay, b *record.BatchDay, cups []kit.Cup) Cups {
	out := Cups{Coat: d.ID, Batch: b.Number, Left: []Left{}}
	for n, c := range cups {
		if _, poured := b.Cups[n+1]; !poured {
			out.Left = append(out.Left, Left{Cup: n + 1, Name: c.Name, Mass: c.Mass,
				Makes: Makes(cups, n, b.State != record.Mixing)})
		}
	}
	for _, s := range d.Now {
		if b.State == record.Pouring && s.Do == "spread" && s.Batch == b.Number {
			out.Open = s.Until
		}
	}
	return out
}
