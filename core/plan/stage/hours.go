package stage

import (
	"fmt"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/climate"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
)

// Bounds of the hours in which a coat is begun.
const (
	// Sunlit is the sunlight from which the sun is on a surface, W/m². WMO-No. 8 counts as sunshine a direct radiation
	// over 120 W/m²; here it is that on the level.
	Sunlit = 120.0
	// coolsBy is how much a slab cools within two hours to be on the fall, K: common practice, no source.
	coolsBy = 0.3
	// morning is how long after the beginning of a shift a coat of the next morning is begun: the first hour of the
	// shift, and another to set up and to look the surface over: common practice, no source.
	morning = 2 * time.Hour
)

// Opening holds in which hours the first kit of a coat is opened: as its coat asks, in the shifts of its job, by the
// forecast over its surface.
type Opening struct {
	asked    buildup.OpeningHours
	morning  bool
	shifts   func(at time.Time) (from time.Time, open bool)
	zone     *time.Location
	units    measure.System
	outdoors bool
	sky      []climate.Hour
	slab     *slabHours
}

// Opening returns the hours of a coat of a surface.
func (w *slabs) Opening(i int, l input.ResolvedCoat) Opening {
	zone, err := w.in.File.Job.Place()
	if err != nil {
		zone = time.UTC // a finding says so
	}
	shifts := func(at time.Time) (time.Time, bool) {
		from, _, open := w.in.Hours.Around(at.In(zone))
		return from, open
	}
	o := Opening{shifts: shifts, zone: zone, units: w.in.Units, sky: w.in.Weather.Hours, slab: w.Under(i)}
	if l.Coat.Hours != nil {
		o.asked = *l.Coat.Hours
	}
	o.morning = l.Coat.When == buildup.NextMorning && o.asked.From == "" && o.asked.Until == ""
	if s := w.in.File.Job.Surfaces[i].Survey; s != nil {
		o.outdoors = s.Outdoors
	}
	return o
}

// Within returns the same for people whose shifts are others: of each instant, when the shift around it began.
func (o Opening) Within(shifts func(at time.Time) (from time.Time, open bool)) Opening {
	o.shifts = shifts
	return o
}

// Any reports whether the coat has hours of its own.
func (o Opening) Any() bool { return o.morning || o.asked.Any() }

// Against returns why the first kit of a pour that ends at a time is not opened at another; empty where it may.
func (o Opening) Against(at, ends time.Time) string {
	at = at.In(o.zone)
	clock := func(c string) string { return job.Clock(c).In(o.units) }
	if asked := o.asked; (asked.From != "" || asked.Until != "") && !o.within(at) {
		switch {
		case asked.From == "":
			return fmt.Sprintf("Its first kit is to be opened by %s.", clock(asked.Until))
		case asked.Until == "":
			return fmt.Sprintf("Its first kit is not to be opened before %s.", clock(asked.From))
		}
		return fmt.Sprintf("Its first kit is to be opened from %s until %s.", clock(asked.From), clock(asked.Until))
	}
	if o.morning {
		if from, open := o.shifts(at); !open || at.After(from.Add(morning)) {
			return "It is to be begun in the first hour of a shift."
		}
	}
	if o.asked.Shade && o.outdoors {
		for _, h := range o.sky {
			if h.At.Add(time.Hour).After(at) && !h.At.After(ends) && h.Sun >= Sunlit {
				return fmt.Sprintf("The sun is on it at %s.", o.units.Time(h.At.In(o.zone), "15:04"))
			}
		}
	}
	if o.asked.Falling {
		if falls, known := o.slab.falls(at); known && !falls {
			return "The slab does not cool then."
		}
	}
	return ""
}

// within reports whether a time lies in the hours by the clock.
func (o Opening) within(at time.Time) bool {
	for _, back := range []int{0, -1} {
		from, until := o.asked.On(at.AddDate(0, 0, back))
		if !at.Before(from) && !at.After(until) {
			return true
		}
	}
	return false
}

// Falls reports whether the slab cools from a time on, by the forecast.
func (o Opening) Falls(at time.Time) bool {
	falls, known := o.slab.falls(at)
	return falls && known
}

// falls reports whether the slab cools in the hour after a time and on; unknown where no forecast reaches so far.
func (w *slabHours) falls(at time.Time) (falls, known bool) {
	k := int(at.Sub(w.From) / time.Hour)
	if w.Steady || k < 0 || k+2 >= len(w.Hourly) {
		return false, false
	}
	return w.Hourly[k+1] <= w.Hourly[k] && w.Hourly[k]-w.Hourly[k+2] >= coolsBy, true
}

// The search for an hour that suits a coat: every quarter of an hour, for two weeks.
const (
	triedEvery = 15 * time.Minute
	triedFor   = 14 * 24 * time.Hour
)

// suited returns when the first section of a coat is laid that is ready at a time: so that its first kit is opened in
// an hour that suits it; as if any did where none of two weeks does.
func (t *timer) suited(i, n int, w *slabHours, at time.Time) time.Time {
	first := t.inShift(i, n, w, at)
	own := t.slabs.Opening(i, t.in.Layers[i][n])
	if !own.Any() {
		return first
	}
	_, run, err := t.ran(i, n, w, first)
	if err != nil {
		return first
	}
	lead := -run.Begins
	last := first.Add(triedFor)
	for section := first; section.Before(last); {
		kit := (-lead).After(section)
		if own.Against(kit, run.Ends.After(section)) == "" && t.inShift(i, n, w, section).Equal(section) {
			return section
		}
		kit = kit.Truncate(triedEvery).Add(triedEvery)
		if !t.in.Hours.Open(kit) {
			kit = t.in.Hours.Begins(kit)
		}
		section = lead.After(kit)
	}
	return first
}
