package survey

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// counting returns the readings of a kind that count. Of moisture and flatness each place has its own: there the newest
// counts until that place is read again, for one dry corner does not make a dry slab. Of all else, and of what has no
// place, those of the last day count.
func (s Survey) counting(kind ReadingKind) []Reading {
	newest := s.latest(kind)
	if newest == nil {
		return nil
	}
	var all []Reading
	for _, r := range s.Readings {
		again := func(o Reading) bool { return o.Kind == kind && o.At.After(r.At) && o.besides(r) }
		switch {
		case r.Kind != kind:
		case kind.byPlace() && r.placed():
			if !slices.ContainsFunc(s.Readings, again) {
				all = append(all, r)
			}
		case newest.At.Sub(r.At) < 24*time.Hour:
			all = append(all, r)
		}
	}
	return all
}

// samePlace holds how near two readings are of one place, m.
const samePlace = 0.5

// placed reports whether it is known where a reading was taken: on the plan, or on a wall or piece that is named.
func (r Reading) placed() bool { return r.Place != nil || r.Note != "" }

// besides reports whether two readings are of one place.
func (r Reading) besides(o Reading) bool {
	if r.Place != nil && o.Place != nil {
		return r.Place.Distance(*o.Place) < samePlace
	}
	return r.Place == nil && o.Place == nil && r.Note != "" && r.Note == o.Note
}

func (k ReadingKind) byPlace() bool {
	switch k {
	case SlabHumidity, Carbide, Emission, Sheet, Flatness:
		return true
	}
	return false
}

// worst is the least favourable of the readings of a kind that count.
func (s Survey) worst(kind ReadingKind, worse func(a, b float64) bool) *Reading {
	var worst *Reading
	for _, r := range s.counting(kind) {
		if worst == nil || worse(r.Value, worst.Value) {
			worst = &r
		}
	}
	return worst
}

// spots names the places whose reading fails, among those that were read.
func (j *judge) spots(kind ReadingKind, fails func(v float64) bool) string {
	all := slices.DeleteFunc(j.counting(kind), func(r Reading) bool { return !r.placed() })
	wet := slices.DeleteFunc(slices.Clone(all), func(r Reading) bool { return !fails(r.Value) })
	if len(wet) == 0 || len(all) < 2 {
		return ""
	}
	names := make([]string, len(wet))
	for i, r := range wet {
		names[i] = j.scene.named(r)
	}
	slices.Sort(names)
	return fmt.Sprintf(" So at %d of %d places: %s.", len(wet), len(all), strings.Join(names, ", "))
}

// named says where a reading was taken.
func (s Scene) named(r Reading) string {
	if r.Place == nil {
		return r.Note
	}
	nearest, away := -1, math.Inf(1)
	low, high := *r.Place, *r.Place
	for i, p := range s.Outline {
		if d := p.Distance(*r.Place); d < away {
			nearest, away = i, d
		}
		if i == 0 {
			low, high = p, p
		}
		low = geometry.Point{X: math.Min(low.X, p.X), Y: math.Min(low.Y, p.Y)}
		high = geometry.Point{X: math.Max(high.X, p.X), Y: math.Max(high.Y, p.Y)}
	}
	switch {
	case nearest < 0:
		return fmt.Sprintf("%.1f, %.1f on the plan", r.Place.X, r.Place.Y)
	case away < samePlace:
		return fmt.Sprintf("corner %d", nearest+1)
	case low.Toward(high, 0.5).Distance(*r.Place) < samePlace:
		return "the middle"
	}
	return fmt.Sprintf("%s from corner %d", s.Units.Length(measure.Length(away)), nearest+1)
}
