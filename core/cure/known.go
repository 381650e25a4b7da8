package cure

import (
	"fmt"
	"sync"

	"nephelon/core/measure"
)

// Known remembers what was worked out, since a fit is dear and a plan asks for the
// same one at every stroke of a key. What it remembers depends on nothing but what
// it was asked. It may be shared.
type Known struct {
	mu    sync.Mutex
	lives map[string]*Remembered
}

// Remembered is a life with what was asked of it.
type Remembered struct {
	Life
	mu     sync.Mutex
	tables map[tableKey]Table
	left   map[leftKey]Left
	ages   map[agesKey]Aging
}

type agesKey struct{ parts, slab measure.Temperature }

type tableKey struct {
	least, most measure.Mass
	start, air  measure.Temperature
	standing    Standing
}

type leftKey struct {
	mass        measure.Mass
	film        measure.Film
	start, slab measure.Temperature
}

// Left holds what becomes of a mass that is left in its pail.
type Left struct {
	Usable *measure.Span
	Smokes *measure.Span
	Peak   Moment
}

// most limits how many lives, and how many answers of each, are remembered before all
// are forgotten.
const most = 256

// NewKnown remembers nothing yet.
func NewKnown() *Known { return &Known{lives: make(map[string]*Remembered)} }

// Life returns the life of a sheet.
func (k *Known) Life(s Sheet) (*Remembered, error) {
	key := fmt.Sprint(s)
	k.mu.Lock()
	known := k.lives[key]
	k.mu.Unlock()
	if known != nil {
		return known, nil
	}
	life, err := NewLife(s)
	if err != nil {
		return nil, err
	}
	known = &Remembered{Life: life, tables: make(map[tableKey]Table), left: make(map[leftKey]Left),
		ages: make(map[agesKey]Aging)}
	k.mu.Lock()
	defer k.mu.Unlock()
	if len(k.lives) >= most {
		clear(k.lives)
	}
	k.lives[key] = known
	return known, nil
}

// Over is a table of lives.
func (r *Remembered) Over(least, most measure.Mass, start, air measure.Temperature, standing Standing) (Table, error) {
	return remember(&r.mu, r.tables, tableKey{least, most, start, air, standing}, func() (Table, error) {
		return r.Life.Over(least, most, start, air, standing)
	})
}

// Ages returns how a mix ages in its pail.
func (r *Remembered) Ages(parts, slab measure.Temperature) Aging {
	aging, _ := remember(&r.mu, r.ages, agesKey{parts, slab}, func() (Aging, error) {
		return r.Life.Ages(parts, slab), nil
	})
	return aging
}

// Left returns what becomes of a mass that is left in its pail.
func (r *Remembered) Left(mass measure.Mass, start measure.Temperature) (Left, error) {
	return remember(&r.mu, r.left, leftKey{mass: mass, start: start}, func() (Left, error) {
		h, err := r.Life.Left(mass, start)
		return Left{h.Usable, h.Smokes, h.Peak}, err
	})
}

// Poured is the peak of a film on a slab.
func (r *Remembered) Poured(film measure.Film, start, slab measure.Temperature) (measure.Temperature, error) {
	left, err := remember(&r.mu, r.left, leftKey{film: film, start: start, slab: slab}, func() (Left, error) {
		h, err := run(r.Fit.Kinetics, r.Spread(film, start, slab), r.horizon(), atTime, quick)
		return Left{Peak: h.Peak}, err
	})
	return left.Peak.Temperature, err
}

func remember[K comparable, V any](mu *sync.Mutex, all map[K]V, key K, make func() (V, error)) (V, error) {
	mu.Lock()
	known, ok := all[key]
	mu.Unlock()
	if ok {
		return known, nil
	}
	made, err := make()
	if err != nil {
		return made, err
	}
	mu.Lock()
	defer mu.Unlock()
	if len(all) >= most {
		clear(all)
	}
	all[key] = made
	return made, nil
}
