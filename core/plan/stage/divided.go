package stage

import (
	"context"
	"fmt"
	"math"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// Divided is every coat cut into batches.
type Divided struct {
	Coats [][]DividedCoat
	Lives map[*input.Sheet]*Lives
}

// DividedCoat is one coat cut into batches.
type DividedCoat struct {
	Life     *Lives        // of its sheet; nil where it was not asked for
	Bad      error         // why it cannot be divided
	Over     []int         // batches that placed joins make too large
	Division *kit.Division // nil where the coat cannot be divided
	Price    *float64      // of 1 m²
	Reached  measure.Film  // if all that is bought is used
	Mixed    measure.Film  // if all that is mixed is spread
}

// divider cuts coats into batches, taking down what was bought. It works out each pot life and
// each set of limits once.
type divider struct {
	in       *input.Inputs
	measured Measured
	bought   Bought
	fits     *cure.Known
	hand     map[material.SheetKey]*kit.AtHand
	lives    memo[*input.Sheet, *Lives]
	tables   memo[mixedAt, tabled]
	limits   memo[limited, bounds]
	runner   sim.Runner
}

// DivideAll cuts every coat into batches.
func DivideAll(ctx context.Context, in *input.Inputs, fits *cure.Known, m Measured, b Built, p Bought) Divided {
	d := &divider{in: in, measured: m, bought: p, fits: fits, hand: make(map[material.SheetKey]*kit.AtHand, len(p.By))}
	d.lives, d.tables, d.limits = newMemo(d.life), newMemo(d.table), newMemo(d.bounds)
	for key, bought := range p.By {
		d.hand[key] = kit.NewAtHand(*bought)
	}
	out := Divided{Coats: make([][]DividedCoat, len(in.Layers))}
	for i, layers := range in.Layers {
		out.Coats[i] = make([]DividedCoat, len(layers))
		for c, l := range layers {
			if made := b.Coats[i][c]; made != nil && ctx.Err() == nil {
				out.Coats[i][c] = d.coat(l, *made, groundOf(l, m.Surfaces[i].Takeoff))
			}
		}
	}
	out.Lives = d.lives.known
	return out
}

// ground holds what a coat goes on.
type ground struct {
	area   measure.Area
	around measure.Length // that is cut in along; 0 where that is not known
}

func groundOf(l input.ResolvedCoat, off *takeoff.Takeoff) ground {
	return ground{l.Covers(off), off.Perimeter}
}

// coat divides one coat.
func (d *divider) coat(l input.ResolvedCoat, b buildup.Build, on ground) DividedCoat {
	var out DividedCoat
	area := on.area
	crew := l.Crew
	if crew.Pace.Value <= 0 || crew.Spreaders < 1 {
		return out // told when the file was read
	}
	key := l.Sheet.Key
	hand := d.hand[key]
	if hand == nil || !(b.Need > 0) {
		return out // told when the kits were bought
	}
	life := d.lives.get(l.Sheet)
	out.Life = life
	how := kit.Spreading{
		Spreaders: crew.Spreaders, Pace: crew.Pace.Value, PerArea: b.Need / measure.Volume(area), Density: b.Density.Value,
		Carry: l.Carry, Kit: hand.Largest(),
		Mixing: l.Mixing, Stones: l.Stones(), Thinner: float64(b.Thinner / b.Need),
		KitShare: l.Methods.KitShare(), Wanted: l.Wanted,
	}
	if life.Table != nil {
		how.Life = life.Table
	}
	division, over, bad := d.divide(l, b, on, d.limits.get(limited{l.Sheet, l.Bucket, how}), hand)
	if bad != nil {
		out.Bad = bad
		return out
	}
	for n := range division.Batches {
		batch := &division.Batches[n]
		batch.ID, batch.Mass = work.BatchID(l.Coat.ID, batch.Number), b.Density.Value.Of(batch.Volume)
	}
	out.Division, out.Over = &division, over
	bought := d.bought.By[key]
	if bought.Cost != nil {
		price := *bought.Cost * float64(b.Need/bought.Need) / float64(area)
		out.Price = &price
	}
	out.Reached = b.FilmOf(measure.Volume(float64(b.Need) * float64(bought.Bought) / float64(bought.Need)))
	out.Mixed = b.FilmOf(division.Mixed)
	return out
}

// divide divides a coat within its limits and what its crew ties in while the edge before is open. Measuring
// the parts of a batch takes longer than opening a kit, so batches that come out measured are sized by that.
func (d *divider) divide(l input.ResolvedCoat, b buildup.Build, on ground, bounds bounds,
	hand *kit.AtHand) (division kit.Division, over []int, bad error) {
	if bounds.bad != nil {
		return division, nil, bounds.bad
	}
	own := l.Coat.Own
	placed := own != nil && len(own.Shares)+len(own.Pinned) > 0
	for measured := placed || l.Methods.Kits == school.Measured; ; measured = true {
		limits, relax := bounds.limits, bounds.relax
		if edge, ways := d.joined(l, b, on, limits[0].Volume, measured); edge != nil {
			limits, relax = append([]kit.Limit{*edge}, limits...), ways
		}
		supply := hand.Copy()
		switch {
		case placed && len(own.Shares) > 0:
			division, over = kit.DivideAs(b.Need, own.Shares, limits, supply)
		case placed:
			var between []float64
			if between, bad = kit.Between(b.Need, limits[0].Volume, own.Pinned); bad == nil {
				division, _ = kit.DivideAs(b.Need, between, limits, supply)
			}
		default:
			division, bad = kit.Divide(b.Need, limits, supply, l.Methods.Kits == school.Measured)
		}
		if bad != nil {
			return division, nil, bad
		}
		if measured || division.Batches[0].Share != kit.MeasuredShare {
			*hand, division.Relax = *supply, relax
			return division, over, nil
		}
	}
}

// bounds are the limits of a coat's batches, with what would relax them.
type bounds struct {
	limits []kit.Limit
	relax  []string
	bad    error
}

// limited holds all that the limits of a coat's batches depend on beside the job.
type limited struct {
	sheet  *input.Sheet
	bucket kit.Bucket
	how    kit.Spreading
}

// bounds returns the limits of batches. It fails where a sheet gives a pot life that cannot be
// followed: a batch sized without it would trust the bucket alone.
func (d *divider) bounds(at limited) bounds {
	b := bounds{}
	if known := d.tables.get(mixedAt{at.sheet, at.sheet.Parts}); known.bad != nil {
		b.bad = fmt.Errorf("its pot life cannot be worked out (%w)", known.bad)
	} else if b.limits, b.bad = kit.Limits(at.sheet.Product, at.bucket, at.how, d.in.Units); b.bad == nil {
		b.relax = d.relax(at.sheet, b.limits, at.how)
	}
	return b
}

// worth is the least gain in batch size for which a way is named: common
// practice, no source.
const worth = 1.08

// Cooler is the reduction of part temperature that is tried, K.
const Cooler measure.Temperature = 6

// relax says what would allow larger batches: first what lifts the limit that
// decides, up to the one behind it.
func (d *divider) relax(s *input.Sheet, limits []kit.Limit, how kit.Spreading) []string {
	if len(limits) < 2 {
		return nil
	}
	decides, next := limits[0], limits[1]
	var ways []string
	tell := func(what string, v measure.Volume) {
		if v = min(v, next.Volume); v > decides.Volume*worth {
			ways = append(ways, fmt.Sprintf("%s: %s instead of %s.", what, d.in.Units.Volume(v),
				d.in.Units.Volume(decides.Volume)))
		}
	}
	switch decides.Kind {
	case kit.ByBucket:
		tell("A larger bucket", next.Volume)
	case kit.ByDrum:
		tell("A larger mixer", next.Volume)
	case kit.ByPolicy:
		if whole := how.Kit * measure.Volume(math.Floor(float64(next.Volume/how.Kit)*(1+1e-9))); whole > 0 {
			tell("Whole kits", whole)
		}
	case kit.ByPotLife:
		hands := how
		hands.Spreaders++
		tell("One more person", hands.Spreadable(s.Product, next.Volume))
		start := s.Parts
		if cold := d.tables.get(mixedAt{s, start - Cooler}); cold.table != nil {
			cool := how
			cool.Life = cold.table
			tell(fmt.Sprintf("Parts at %s", d.in.Units.Temperature(start-Cooler)), cool.Spreadable(s.Product, next.Volume))
		}
		for _, other := range d.in.File.Products {
			if other.ID != s.Key.Product {
				continue
			}
			for _, h := range other.Hardeners {
				slow := d.in.Sheets[material.SheetKey{Product: other.ID, Hardener: h.ID}]
				if slow == nil || slow.Key == s.Key {
					continue
				}
				if its := d.tables.get(mixedAt{slow, start}); its.table != nil {
					slower := how
					slower.Life = its.table
					tell("The "+h.Name, slower.Spreadable(slow.Product, next.Volume))
				}
			}
		}
	}
	return ways
}
