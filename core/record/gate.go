package record

import (
	"fmt"
	"time"

	"nephelon/core/climate"
	"nephelon/core/measure"
)

// Gate holds what must hold before the first pail of a coat is mixed.
type Gate struct {
	Key   string `json:"key"`
	Title string `json:"title"`
	Ask   string `json:"ask" doc:"What is looked at"`
	Saw   string `json:"saw" doc:"What is usually seen when it is well, to take with one touch"`
	Reads bool   `json:"reads,omitempty" doc:"It is closed with readings of slab, air and humidity"`
}

// GateReadings is the key of the gate that is closed with readings.
const GateReadings = "readings"

// Gates are the gates before a coat, in the order in which a crew goes through them:
// common practice, no source, but for the limits, which are the sheet's.
func Gates(i *Issue, c *Coat) []Gate {
	surface := Gate{Key: "surface", Title: "Surface",
		Ask: "The checks of the surface are closed: profile, moisture, pH, no water, no oil.",
		Saw: "Checks closed, surface dry and sound"}
	if i.below(c) != nil {
		surface.Ask = fmt.Sprintf("Coat %d below is hard, dry and clean, and inside its window or abraded everywhere.",
			c.Number-1)
		surface.Saw = "Hard, dry, clean, inside its window"
		if c.Abrade {
			surface.Saw = "Abraded everywhere, no gloss left, vacuumed"
		}
	}
	pairs := fmt.Sprintf("Each A of %s is staged with its own B, counted, apart from every other product.", c.Name)
	if len(c.Product.Components) < 2 {
		pairs = fmt.Sprintf("The pails of %s stand counted, apart from every other product.", c.Name)
	}
	wear := "Gloves (several pairs), eye protection, sleeves, and the respirator that the safety data sheet names, at " +
		"every place."
	if i.Surface(c.Surface).Kind == "top" {
		return topGates(c, surface, pairs, wear)
	}
	dust := Gate{Key: "dust", Title: "Dust",
		Ask: "Last look for dust against the light, walls and pipes too; tack cloth over it.", Saw: "Clean against the light"}
	if i.Surface(c.Surface).Outdoors {
		dust = Gate{Key: "dust", Title: "Leaves and dust",
			Ask: "Leaves, insects, dew and rain water are off the surface, edges and drains too; last look for dust against " +
				"the light, tack cloth over it.",
			Saw: "Dry, no leaves, clean against the light"}
	}
	return []Gate{
		{Key: GateReadings, Title: "Readings", Ask: "Slab, air and humidity, read on this surface now.", Reads: true},
		surface,
		{Key: "pairs", Title: "Pairs", Ask: pairs, Saw: staged(len(c.Batches))},
		{Key: "tools", Title: "Tools", Ask: "Drills, paddles, scale, squeegees, rollers, spikes, gauge, clock, clean pails " +
			"and rags.", Saw: "All laid out, drill tried"},
		{Key: "protection", Title: "Protection", Ask: wear, Saw: "Everybody wears it"},
		dust,
		{Key: "exits", Title: "Exits", Ask: "The way out stays free, doors are closed or marked, nobody can walk in.",
			Saw: "Way out free, doors marked"},
		{Key: "water", Title: "Water", Ask: "Water and sprinklers are off for 24 h; no drips from above.",
			Saw: "Off, nothing drips"},
		{Key: "forecast", Title: "Forecast", Ask: "The forecast until the film is hard: no rain on it, no damp night.",
			Saw: "As planned"},
	}
}

// topGates are the gates before a coat of a top: nobody walks in on it, and no rain falls on it.
func topGates(c *Coat, surface Gate, pairs, wear string) []Gate {
	if c.Number == 1 {
		surface.Ask = "The checks of the surface are closed: sound, dry, no oil or wax; wood dust wiped off."
	}
	surface.Ask += " Level, tape and covers below it tight. Last look for dust against the light; tack cloth over it."
	surface.Saw += ", clean against the light"
	return []Gate{
		{Key: GateReadings, Title: "Readings", Ask: "Surface, air and humidity, read on this top now.", Reads: true},
		surface,
		{Key: "pairs", Title: "Pairs and tools",
			Ask: pairs + " Scale, cups, sticks, spreaders, gauge, clock, clean pails and rags.",
			Saw: staged(len(c.Batches)) + ", all laid out"},
		{Key: "protection", Title: "Protection", Ask: wear, Saw: "Everybody wears it"},
	}
}

// GateState is a gate and how it was closed.
type GateState struct {
	Gate
	Closed bool       `json:"closed"`
	Over   bool       `json:"overridden,omitempty"`
	By     string     `json:"by,omitempty"`
	At     *time.Time `json:"at,omitempty"`
	What   string     `json:"what,omitempty" doc:"What was seen, or why it was overridden"`
	Bad    string     `json:"bad,omitempty" doc:"Why it cannot be closed as it stands"`
	Event  string     `json:"event,omitempty"`
}

// Reading is a reading of the air and the slab.
type Reading struct {
	At       time.Time            `json:"at"`
	Slab     *measure.Temperature `json:"slab,omitempty" doc:"°C"`
	Air      *measure.Temperature `json:"air,omitempty" doc:"°C"`
	Humidity *measure.Fraction    `json:"humidity,omitempty"`
	Dew      *measure.Temperature `json:"dew,omitempty" doc:"°C; only where air and humidity were read"`
	Margin   *measure.Temperature `json:"margin,omitempty" doc:"K of the slab above it"`
	By       string               `json:"by"`
	Event    string               `json:"event"`
	Coat     string               `json:"coat,omitempty" doc:"The id of the coat it was read for: it is of that one's surface"`
}

func readingOf(e *Event) Reading {
	r := Reading{At: e.When(), Slab: e.Body.Slab, Air: e.Body.Air, Humidity: e.Body.Humidity, By: e.Name, Event: e.ID}
	r.Coat, _ = CoatOf(e.Task)
	if r.Air != nil && r.Humidity != nil && *r.Humidity > 0 {
		dew := climate.DewPoint(*r.Air, *r.Humidity)
		r.Dew = &dew
		if r.Slab != nil {
			margin := *r.Slab - dew
			r.Margin = &margin
		}
	}
	return r
}

// against returns why a coat may not be laid under a reading; empty where it may.
func (r Reading) against(l Limits, units measure.System) string {
	switch {
	case r.Margin != nil && *r.Margin < l.DewMargin:
		return fmt.Sprintf("The surface is %s above the dew point; %s are needed. Warm the room or dry the air, and "+
			"read again.", climate.Difference(*r.Margin, units), climate.Difference(l.DewMargin, units))
	case r.Slab != nil && *r.Slab < l.SlabMin:
		return fmt.Sprintf("The surface is at %s; at least %s is needed. Warm it, and read again.",
			units.Temperature(*r.Slab), units.Temperature(l.SlabMin))
	case r.Slab != nil && *r.Slab > l.SlabMax:
		return fmt.Sprintf("The surface is at %s; at most %s is allowed. Wait for the evening, or shade it.",
			units.Temperature(*r.Slab), units.Temperature(l.SlabMax))
	case r.Humidity != nil && *r.Humidity > l.HumidityMax:
		return fmt.Sprintf("The air holds %s; at most %s is allowed. Dry it, and read again.", units.Fraction(*r.Humidity),
			units.Fraction(l.HumidityMax))
	case r.Humidity != nil && *r.Humidity < l.HumidityMin:
		return fmt.Sprintf("The air holds %s; at least %s is needed for it to cure. Damp the air, and read again.",
			units.Fraction(*r.Humidity), units.Fraction(l.HumidityMin))
	}
	return ""
}

// gated returns how the gates of a coat stand.
func gated(i *Issue, c *Coat, events []*Event, units measure.System) []GateState {
	states := make([]GateState, 0, 9)
	for _, g := range Gates(i, c) {
		s := GateState{Gate: g}
		for _, e := range events {
			if e.Kind != Gated || e.Body.Gate != g.Key {
				continue
			}
			at := e.When()
			s = GateState{Gate: g, Closed: true, By: e.Name, At: &at, What: e.Body.Saw, Event: e.ID}
			if e.Body.Reason != "" {
				s.Over, s.What = true, e.Body.Reason
			}
			if g.Reads && !s.Over {
				r := readingOf(e)
				if r.Slab == nil || r.Margin == nil {
					s.Closed, s.Bad = false, "Surface, air and humidity are all needed to know the dew point."
				} else if s.Bad = r.against(c.Limits, units); s.Bad != "" {
					s.Closed = false
				}
			}
		}
		states = append(states, s)
	}
	return states
}

// staged returns the sentence about the batches of a coat that stand ready.
func staged(batches int) string {
	if batches == 1 {
		return "1 batch staged, pairs together"
	}
	return fmt.Sprintf("%d batches staged, pairs together", batches)
}
