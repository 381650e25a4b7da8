package kit

import (
	"slices"
	"time"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Drawn is mix of a product that a job took at a time.
type Drawn struct {
	Product  string
	Hardener string
	At       time.Time
	Volume   measure.Volume // m³ of mix
}

// Reserved is a container that a job reserved, with when somebody last said how much is in it: what was drawn before is
// not in that any more.
type Reserved struct {
	Container Container
	Since     time.Time
}

// LeftOf returns what is left in containers that a job reserved, m³ by their ids, once the mix was drawn: of whole kits
// first, of those that expire first, then of loose parts by their share in the mix.
func LeftOf(p material.Product, mix material.Mix, hardener string, reserved []Reserved,
	drawn []Drawn) map[string]measure.Volume {
	reserved = slices.DeleteFunc(slices.Clone(reserved), func(r Reserved) bool {
		c := r.Container
		return c.Sheet != p.ID || c.Hardener != hardener && c.Part != "A" || c.Part == "medium" || c.TouchUp
	})
	slices.SortStableFunc(reserved, func(a, b Reserved) int { return soonest(a.Container, b.Container) })
	left := make(map[string]measure.Volume, len(reserved))
	for _, r := range reserved {
		left[r.Container.ID] = r.Container.Volume
	}
	// take draws from the containers of a part that were last measured before, and returns what they do not hold.
	take := func(part string, volume measure.Volume, at time.Time) measure.Volume {
		for _, r := range reserved {
			if r.Container.Part != part || volume <= 0 {
				continue
			}
			took := min(volume, left[r.Container.ID])
			if !at.Before(r.Since) {
				left[r.Container.ID] -= took
			}
			volume -= took
		}
		return volume
	}
	for _, d := range drawn {
		if d.Product != p.ID || d.Hardener != hardener {
			continue
		}
		rest := take("kit", d.Volume, d.At)
		for i, part := range []string{"A", "B", "C"}[:len(mix.Shares)] {
			take(part, rest*measure.Volume(mix.Shares[i].Volume), d.At)
		}
	}
	return left
}
