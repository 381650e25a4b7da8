package instruct

import (
	"fmt"
	"math"
	"time"

	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/school"
)

// Staging holds what it takes to make the pails of a coat ready on the working day before.
type Staging struct {
	Pails  int          `json:"pails" doc:"Pails that are brought, turned and, where they hold A, stirred"`
	Effort measure.Span `json:"effort" doc:"Person-seconds, the list of tools left out"`
	Warmed *Warmed      `json:"warmed,omitempty" doc:"How the parts come to what their sheet allows; absent where they come within it"`
}

// Warmed holds how the part furthest from what its sheet allows is warmed, or cooled, to the nearest that it allows.
type Warmed struct {
	Part string              `json:"part"`
	From measure.Temperature `json:"from" doc:"°C as it comes"`
	To   measure.Temperature `json:"to" doc:"°C"`
	Mass measure.Mass        `json:"mass" doc:"kg of it in the largest kit"`
	Bath measure.Span        `json:"bath" doc:"s in warm water, or in ice water"`
	Room measure.Span        `json:"room" doc:"s in a room 5 K warmer than that, or cooler"`
}

// beyond holds how much warmer or cooler than the parts shall be a room is in which they come to it, K: common
// practice, no source.
const beyond measure.Temperature = 5

// Verb names what is done to the part.
func (w *Warmed) Verb() string {
	if w.To < w.From {
		return "cool"
	}
	return "warm"
}

// warmedOf returns how the parts of a coat come to what its sheet allows; nil where they come within it.
func warmedOf(l input.ResolvedCoat, kitVolume measure.Volume) *Warmed {
	p, n := l.Sheet.Product, 0
	far := func(b input.Brought) measure.Temperature { return max(b.To-b.From, b.From-b.To) }
	for k, b := range l.Sheet.Brought {
		if far(b) > far(l.Sheet.Brought[n]) {
			n = k
		}
	}
	share, b := l.Sheet.Mix.Shares[n], l.Sheet.Brought[n]
	w := Warmed{Part: share.Name, From: b.From, To: b.To}
	bath, room := cure.WarmBath, beyond
	switch {
	case w.To == w.From:
		return nil
	case w.To < w.From:
		bath, room = cure.IceBath, -beyond
	}
	w.Mass = share.Density.Value.Of(measure.Volume(share.Volume) * kitVolume)
	takes := func(put cure.Surrounding) measure.Span {
		c := cure.Conditioning{Mass: w.Mass, Density: share.Density.Value, From: w.From, To: w.To, Put: put,
			Place: w.To + room}
		if len(p.Viscosity) > 0 {
			c.Viscosity, c.Flowed = p.Viscosity[0].Value, p.Viscosity[0].At
		}
		span, err := c.Takes()
		if err != nil {
			return 0
		}
		return span
	}
	w.Bath, w.Room = takes(bath), takes(cure.Place)
	return &w
}

// What making ready takes: common practice, no source.
const (
	carrying = 3 * measure.Minute // a pail: brought, turned over and back
	stirring = 3 * measure.Minute // A to the bottom
	pairing  = 1 * measure.Minute // A beside its own B
	bathing  = 5 * measure.Minute // a pail into its bath and out, wiped dry
)

// Ahead is the time that pails stand where they are mixed before the first is opened, s: common
// practice (12 to 18 h), no source.
const Ahead = 12 * measure.Span(measure.Hour)

// AtReady is the most people who make pails ready: common practice, no source.
const AtReady = 2

// Counting holds how long ticking off the list of tools takes, s, once a day: common practice, no source.
const Counting = 10 * measure.Span(measure.Minute)

// StagingOf returns what making a coat's pails ready takes, for what is mixed of it; nil where
// no kit tells how much is in it.
func StagingOf(l input.ResolvedCoat, division *kit.Division) *Staging {
	p := l.Sheet.Product
	if division == nil || len(division.Batches) == 0 {
		return nil
	}
	first := division.Batches[0]
	sizes, _ := kit.Sizes(*p, measure.Density(float64(first.Mass)/float64(first.Volume)))
	largest := measure.Volume(0)
	for _, s := range sizes {
		largest = max(largest, s.Volume)
	}
	if largest == 0 {
		return nil
	}
	kits := int(math.Ceil(float64(division.Mixed)/float64(largest) - 1e-9))
	out := Staging{Pails: kits * len(p.Components)}
	out.Effort = measure.Span(out.Pails)*carrying + measure.Span(kits)*stirring
	if len(p.Components) > 1 {
		out.Effort += measure.Span(kits) * pairing
	}
	if out.Warmed = warmedOf(l, largest); out.Warmed != nil {
		out.Effort += measure.Span(kits) * bathing
	}
	return &out
}

// DayBefore returns what is done the day before a coat, and in the last minutes: common
// practice, no source. Ready is when its pails are made ready; the zero window where its hour is not known.
func DayBefore(in *input.Inputs, i int, l input.ResolvedCoat, staging *Staging, ready [2]time.Time) []string {
	p := l.Sheet.Product
	var all []string
	say := func(format string, args ...any) { all = append(all, fmt.Sprintf(format, args...)) }
	by := "12 to 18 hours ahead"
	if !ready[0].IsZero() {
		by = in.Units.Time(ready[0], "Mon 15:04") + " to " + in.Units.Time(ready[1], "15:04")
	}
	at, place := in.Units.Temperature(l.Sheet.Parts), "cool and out of the sun"
	var warmed *Warmed
	if staging != nil && staging.Warmed != nil {
		warmed = staging.Warmed
		at = in.Units.Temperature(warmed.To)
		if warmed.To > warmed.From {
			place = "dry and warm"
		}
	}
	switch {
	case in.Methods.Warmth == school.WarmUp && len(p.Components) > 1:
		say("Move %s to where it is mixed %s and warm the parts to %s: bath or blanket, no flame. They flow better and "+
			"live shorter.", p.Name, by, at)
	case len(p.Components) > 1:
		say("Move %s to where it is mixed %s, %s, so that the parts come to %s.", p.Name, by, place, at)
	default:
		say("Move %s to where it is used %s.", p.Name, by)
	}
	if w := warmed; w != nil {
		bath, room, bound := "warm water", w.To+beyond, "at least"
		if w.To < w.From {
			bath, room, bound = "ice water", w.To-beyond, "at most"
		}
		say("%s comes at %s, and the sheet asks for %s %s: %s of it take %s in %s, or %s in a room at %s. Lids shut: no "+
			"water into the pails.", w.Part, in.Units.Temperature(w.From), bound, in.Units.Temperature(w.To),
			in.Units.Mass(w.Mass), in.Units.Span(w.Bath), bath, in.Units.Span(w.Room), in.Units.Temperature(room))
	}
	say("With it: turn the pails over, and stir A to the bottom; what settles there is the part that counts. Cut a hard " +
		"cake loose first, with the pail tilted. Tick off the list of tools.")
	if len(p.Components) > 1 {
		say("Cover the ground of the mixing place, in the shade and by the door the crew leaves by. Stage each A with its " +
			"own B beside it; only one B is opened at a time. Parts of other products stand apart, out of reach.")
	}
	cleaner := "alcohol or its sheet's cleaner"
	if p.Carrier == material.Water {
		cleaner = "water"
	}
	say("Tools go into %s before the last batch sets: have it ready. Skin: soap and water, no solvent.", cleaner)
	if in.Methods.Session == school.TapeLines && len(in.File.Job.Surfaces[i].Floor.Outline) > 0 {
		say("Tape the lines of the sections, at joints, saw cuts and doorways where there are any.")
	}
	if in.File.Job.Surfaces[i].Survey != nil && in.File.Job.Surfaces[i].Survey.Outdoors {
		say("Sprinklers off and the forecast read: no rain for a day.")
	}
	say("Last minute: doors shut, the surface looked over for dust against the light and wiped.")
	return all
}
