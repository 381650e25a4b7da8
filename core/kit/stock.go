package kit

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Container is one thing on the contractor's own shelf: a whole kit, a component
// of one, or a medium.
type Container struct {
	ID       string         `json:"id" minLength:"1" maxLength:"60"`
	Sheet    string         `json:"sheet" minLength:"1" maxLength:"60" doc:"The id of its product or medium"`
	Hardener string         `json:"hardener,omitempty" maxLength:"60" doc:"The id of the hardener of a kit or a B"`
	Part     string         `json:"part" enum:"kit,A,B,C,medium"`
	Volume   measure.Volume `json:"volume,omitempty" minimum:"0" maximum:"10" doc:"m³ left in it; of a kit, of its mix"`
	Mass     measure.Mass   `json:"mass,omitempty" minimum:"0" maximum:"10000" doc:"kg left of a medium"`
	Lot      string         `json:"lot,omitempty" maxLength:"60"`
	Received string         `json:"received,omitempty" format:"date"`
	Made     string         `json:"made,omitempty" format:"date" doc:"The day on which it was made, as its label says"`
	Expires  string         `json:"expires,omitempty" format:"date"`
	Derived  bool           `json:"derived,omitempty" doc:"Expiry follows from the day it was made and the shelf life of its sheet, since its label says none"`
	Opened   bool           `json:"opened,omitempty"`
	OpenedOn string         `json:"openedOn,omitempty" format:"date"`
	Place    string         `json:"place,omitempty" maxLength:"120"`
	Note     string         `json:"note,omitempty" maxLength:"300"`
	TouchUp  bool           `json:"touchUp,omitempty" doc:"Kept to match a finished floor, not to be used up"`
	From     string         `json:"from,omitempty" maxLength:"160" doc:"The job it came back from"`
}

// Expired reports whether its date has passed.
func (c Container) Expired(now time.Time) bool {
	return c.Expires != "" && c.Expires < now.Format(time.DateOnly)
}

// Dated returns the container with the expiry that follows from the day it was made and the shelf life of its sheet,
// where its label says none.
func (c Container) Dated(p material.Product) Container {
	if c.Expires != "" && !c.Derived || c.Part == "medium" {
		c.Derived = false
		return c
	}
	c.Expires, c.Derived = "", false
	made, err := time.Parse(time.DateOnly, c.Made)
	keeps := p.Keeps(c.Part)
	if err != nil || keeps == nil {
		return c
	}
	life := time.Duration(float64(keeps.Value) * float64(time.Second))
	c.Expires, c.Derived = made.Add(life).Format(time.DateOnly), true
	return c
}

// mostOpen bounds how long an opened part that takes up moisture is used without a look: common practice, no source.
const mostOpen = 30 * 24 * time.Hour

// Look returns what to look at before a container is used, in a sentence; empty where there is nothing.
func (c Container) Look(p material.Product, now time.Time) string {
	opened, err := time.Parse(time.DateOnly, c.OpenedOn)
	wet := p.Chemistry == "polyurethane" || p.Chemistry == "polyaspartic" || slices.Contains(p.Hazards, "isocyanate")
	if !c.Opened || err != nil || !wet || c.Part == "A" || now.Sub(opened) < mostOpen {
		return ""
	}
	return fmt.Sprintf("Opened %d days ago: an isocyanate hardener takes up moisture. Look for skin, gel or pressure "+
		"before it is used.", int(now.Sub(opened).Hours()/24))
}

// Faults says what cannot be of a container.
func (c Container) Faults() []material.Fault {
	found := []material.Fault{}
	switch {
	case c.Part == "medium" && c.Mass <= 0:
		found = append(found, material.Fault{Field: "/mass", Text: "The mass of a medium in stock must be more than 0.",
			Way: "Weigh it, or remove it from stock when it is used up."})
	case c.Part != "medium" && c.Volume <= 0:
		found = append(found, material.Fault{Field: "/volume",
			Text: "The content of a container in stock must be more than 0.",
			Way:  "Enter the litres left, or remove it from stock when it is empty."})
	}
	for _, date := range []struct{ field, value string }{{"/received", c.Received}, {"/expires", c.Expires},
		{"/made", c.Made}, {"/openedOn", c.OpenedOn}} {
		if date.value == "" {
			continue
		}
		if _, err := time.Parse(time.DateOnly, date.value); err != nil {
			found = append(found, material.Fault{Field: date.field, Text: fmt.Sprintf("“%s” is not a date.", date.value),
				Way: "Write it as 2027-03-31."})
		}
	}
	if c.Received != "" && c.Expires != "" && c.Expires <= c.Received {
		found = append(found, material.Fault{Field: "/expires", Text: "It expires before it was received.",
			Way: "Exchange the two dates, or read the label again."})
	}
	if c.Made != "" && c.Expires != "" && c.Expires <= c.Made {
		found = append(found, material.Fault{Field: "/made", Text: "It expires before it was made.",
			Way: "Exchange the two dates, or read the label again."})
	}
	return found
}

// Held is stock that a purchase counts on.
type Held struct {
	Container string         `json:"container"`
	Lot       string         `json:"lot,omitempty"`
	Place     string         `json:"place,omitempty"`
	Expires   string         `json:"expires,omitempty" format:"date"`
	Volume    measure.Volume `json:"volume" doc:"m³ of mix that it makes"`
	Opened    bool           `json:"opened,omitempty"`
}

// Stock holds what containers of one product come to.
type Stock struct {
	Held    []Held         // usable, first-expiring first
	Mix     measure.Volume // that can be made of them
	Lone    []string       // what has no partner, in sentences
	Expired []Container    // left out, or counted in spite of their date
	Lots    []string
}

// OnHand pairs what is in stock of a product: whole kits, and A with its B. A
// component without its partner is told, not counted. Containers kept for
// touch-up are left alone; expired ones count only when the contractor's school
// is that a sealed pail is still good.
func OnHand(p material.Product, mix material.Mix, hardener string, containers []Container, now time.Time,
	sealedIsGood bool, units measure.System) Stock {
	var s Stock
	byPart := make(map[string][]Container)
	for _, c := range containers {
		mine := c.Sheet == p.ID && (c.Hardener == hardener || c.Part == "A") && !c.TouchUp && c.Volume > 0
		if !mine {
			continue
		}
		if c.Expired(now) {
			s.Expired = append(s.Expired, c)
			if !sealedIsGood || c.Opened {
				continue
			}
		}
		byPart[c.Part] = append(byPart[c.Part], c)
	}
	for part := range byPart {
		slices.SortStableFunc(byPart[part], soonest)
	}
	for _, c := range byPart["kit"] {
		s.hold(c, c.Volume)
	}
	if len(mix.Shares) > 1 {
		s.pair(p, mix, byPart, units)
	}
	slices.SortStableFunc(s.Held, func(a, b Held) int { return bySoonest(a.Expires, b.Expires) })
	for _, h := range s.Held {
		s.Mix += h.Volume
	}
	return s
}

func soonest(a, b Container) int { return bySoonest(a.Expires, b.Expires) }

// bySoonest puts what has no date last.
func bySoonest(a, b string) int {
	if (a == "") != (b == "") {
		return cmp.Compare(b, a)
	}
	return cmp.Compare(a, b)
}

func (s *Stock) hold(c Container, makes measure.Volume) {
	s.Held = append(s.Held, Held{c.ID, c.Lot, c.Place, c.Expires, makes, c.Opened})
	if c.Lot != "" && !slices.Contains(s.Lots, c.Lot) {
		s.Lots = append(s.Lots, c.Lot)
	}
}

// pair makes mix of loose components: as much as the scarcest allows.
func (s *Stock) pair(p material.Product, mix material.Mix, byPart map[string][]Container, units measure.System) {
	parts := []string{"A", "B", "C"}[:len(mix.Shares)]
	makes := measure.Volume(-1)
	totals := make([]measure.Volume, len(parts))
	for i, part := range parts {
		for _, c := range byPart[part] {
			totals[i] += c.Volume
		}
		if m := totals[i] / measure.Volume(mix.Shares[i].Volume); makes < 0 || m < makes {
			makes = m
		}
	}
	for i, part := range parts {
		left := totals[i] - makes*measure.Volume(mix.Shares[i].Volume)
		if left > totals[i]*slack && left > 0 {
			s.Lone = append(s.Lone, fmt.Sprintf("%s of %s has no matching part and cannot be used.", units.Volume(left),
				p.Name+" "+part))
		}
	}
	rest := makes
	for _, c := range byPart["A"] {
		if m := min(rest, c.Volume/measure.Volume(mix.Shares[0].Volume)); m > makes*slack {
			s.hold(c, m)
			rest -= m
		}
	}
}
