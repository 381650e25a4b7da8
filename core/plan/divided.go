package plan

import (
	"context"
	"fmt"
	"math"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/work"
)

// divided is every coat cut into batches.
type divided struct {
	coats [][]dividedCoat
	lives map[*sheet]*lives
	found []finding.Finding
}

type dividedCoat struct {
	division *kit.Division // nil where the coat cannot be divided
	price    *float64      // of 1 m²
	reached  measure.Film  // if all that is bought is used
	mixed    measure.Film  // if all that is mixed is spread
}

// shortBatch is the share of the first batch under which the last is called
// short: common practice, no source.
const shortBatch = 0.75

// divider cuts coats into batches, taking down what was bought. It works out each pot life and
// each set of limits once.
type divider struct {
	in       *inputs
	measured measured
	bought   bought
	fits     *cure.Known
	hand     map[material.SheetKey]*kit.AtHand
	lives    memo[*sheet, *lives]
	tables   memo[mixedAt, tabled]
	limits   memo[limited, bounds]
	told     map[*sheet]bool // what is outside its sheet is told
	runner   sim.Runner
	found    []finding.Finding
}

func (d *divider) find(f finding.Finding) { d.found = append(d.found, f) }

// divideAll cuts every coat into batches.
func divideAll(ctx context.Context, in *inputs, fits *cure.Known, m measured, b built, p bought) divided {
	d := &divider{in: in, measured: m, bought: p, fits: fits, hand: make(map[material.SheetKey]*kit.AtHand, len(p.by)), told: make(map[*sheet]bool)}
	d.lives, d.tables, d.limits = newMemo(d.life), newMemo(d.table), newMemo(d.bounds)
	for key, bought := range p.by {
		d.hand[key] = kit.NewAtHand(*bought)
	}
	out := divided{coats: make([][]dividedCoat, len(in.layers))}
	for i, layers := range in.layers {
		out.coats[i] = make([]dividedCoat, len(layers))
		for c, l := range layers {
			if made := b.coats[i][c]; made != nil && ctx.Err() == nil {
				out.coats[i][c] = d.coat(in.file.Job.Surfaces[i], l, *made, l.covers(m.surfaces[i].takeoff))
			}
		}
	}
	out.lives, out.found = d.lives.known, d.found
	return out
}

// coat divides one coat.
func (d *divider) coat(s job.Surface, l resolvedCoat, b buildup.Build, area measure.Area) dividedCoat {
	var out dividedCoat
	crew := l.crew
	if crew.Pace.Value <= 0 || crew.Spreaders < 1 {
		return out // told when the file was read
	}
	p, key := l.sheet.product, l.sheet.key
	hand := d.hand[key]
	if hand == nil || !(b.Need > 0) {
		return out // told when the kits were bought
	}
	life := d.lives.get(l.sheet)
	d.extremes(l.sheet, life)
	how := kit.Spreading{
		Spreaders: crew.Spreaders, Pace: crew.Pace.Value, PerArea: b.Need / measure.Volume(area), Density: b.Density.Value, Carry: l.carry, Kit: hand.Largest(),
		Mixing: l.mixing, Thinner: float64(b.Thinner / b.Need), KitShare: l.methods.KitShare(), Wanted: l.wanted,
	}
	if life.table != nil {
		how.Life = life.table
	}
	bounds := d.limits.get(limited{l.sheet, l.bucket, how})
	division, bad := kit.Division{}, bounds.bad
	limits, relax := bounds.limits, bounds.relax
	if bad == nil {
		if edge, ways := d.joined(l, b, area, limits[0].Volume); edge != nil {
			limits, relax = append([]kit.Limit{*edge}, limits...), ways
		}
		if own := l.coat.Own; own != nil && len(own.Shares) > 0 {
			division = d.drawn(s, l, b, own.Shares, limits, hand)
		} else if own != nil && len(own.Pinned) > 0 {
			var between []float64
			if between, bad = kit.Between(b.Need, limits[0].Volume, own.Pinned); bad == nil {
				division, _ = kit.DivideAs(b.Need, between, limits, hand)
			}
		} else {
			division, bad = kit.Divide(b.Need, limits, hand, l.methods.Kits == school.Measured)
		}
	}
	if bad != nil {
		d.find(refused(finding.Batches, l.path, wayToBatches(p), "%s, coat %d of %s cannot be divided into batches: %s.", s.Name, l.number, p.Name, bad.Error()))
		return out
	}
	for n := range division.Batches {
		batch := &division.Batches[n]
		batch.ID, batch.Mass = work.BatchID(l.coat.ID, batch.Number), b.Density.Value.Of(batch.Volume)
	}
	division.Relax = relax
	out.division = &division
	bought := d.bought.by[key]
	if bought.Cost != nil {
		price := *bought.Cost * float64(b.Need/bought.Need) / float64(area)
		out.price = &price
	}
	out.reached = b.FilmOf(measure.Volume(float64(b.Need) * float64(bought.Bought) / float64(bought.Need)))
	out.mixed = b.FilmOf(division.Mixed)
	d.judge(l, b, out)
	return out
}

// drawn divides a coat as somebody placed its joins, and says which batches that makes too
// large.
func (d *divider) drawn(s job.Surface, l resolvedCoat, b buildup.Build, shares []float64, limits []kit.Limit, hand *kit.AtHand) kit.Division {
	division, over := kit.DivideAs(b.Need, shares, limits, hand)
	if len(over) > 0 {
		n := over[0]
		d.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: l.path + "/own/shares",
			Text: fmt.Sprintf("%s, coat %d: batch %d is %s where the joins are placed, and %s is the most. %s", s.Name, l.number, n,
				d.in.units.Volume(division.Batches[n-1].Volume), d.in.units.Volume(limits[0].Volume), limits[0].Text),
			WayOut: "Place the joins closer to each other there, or let the plan divide it.",
			Fix:    &finding.Fix{Label: "Let the plan divide it", Patch: []finding.PatchStep{{Op: "remove", Path: l.path + "/own/shares"}}},
		})
	}
	return division
}

// A film from which the heat of a pour is looked at, and the temperature that it
// should stay under: common practice, no source.
const (
	deepFilm = 2e-3 // m
	hotPour  = 60   // °C
)

// deep warns of a pour that its own heat would spoil.
func (d *divider) deep(l resolvedCoat, wet measure.Film) {
	life := d.lives.get(l.sheet)
	if wet < deepFilm || life.model == nil {
		return
	}
	peak, err := life.model.Poured(wet, life.start, d.in.slab)
	if err != nil || peak <= hotPour {
		return
	}
	deepest, err := life.model.DeepestPour(life.start, d.in.slab, hotPour, wet)
	if err != nil {
		return
	}
	text := fmt.Sprintf("Coat %d: %s of %s in one pour would heat itself to about %s; %s stay under %s.",
		l.number, d.in.units.Film(wet), l.sheet.product.Name, d.in.units.Temperature(measure.Temperature(math.Round(float64(peak)/5)*5)), d.in.units.Film(deepest), d.in.units.Temperature(hotPour))
	if most := l.sheet.product.FilmMax; most != nil {
		text += fmt.Sprintf(" Its sheet allows %s.", d.in.units.Film(most.Value))
	}
	d.find(finding.Finding{Level: finding.Warning, Step: finding.Batches, Path: l.path, Text: text, WayOut: "Pour it in several coats, take a slower hardener, or cool the parts."})
}

// A film too thick to be rolled from a tray, and one too thin to be poured out: common
// practice, no source.
const (
	thickToRoll = 350e-6 // m
	thinToPour  = 130e-6
)

// tool warns where a coat is laid in a way that its film does not take.
func (d *divider) tool(l resolvedCoat, wet measure.Film) {
	laying, text, way := l.laying, "", ""
	switch {
	case laying == school.DipAndRoll && wet > thickToRoll:
		text, way = "%s wet rolled from a tray comes out in thick and thin bands, and the tray heats", "Pour it out and spread it with a rake or a notched squeegee."
	case laying == school.PourAndSpread && wet < thinToPour && d.fast(l):
		text, way = "%s wet poured out puddles and does not cure evenly", "Dip and roll it."
	default:
		return
	}
	d.find(finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.path, WayOut: way,
		Text: fmt.Sprintf("Coat %d of %s: "+text+".", l.number, l.sheet.product.Name, d.in.units.Film(wet)),
	})
}

// fast tells whether a cup of a mix can be used for less than an hour.
func (d *divider) fast(l resolvedCoat) bool {
	life := d.lives.get(l.sheet).of(leastMass)
	return life > 0 && life < measure.Hour
}

// judge says what is awkward about the batches of a coat.
func (d *divider) judge(l resolvedCoat, b buildup.Build, c dividedCoat) {
	d.deep(l, b.Wet)
	d.tool(l, b.Wet)
	p := l.sheet.product
	if p.FilmMax != nil && c.mixed > p.FilmMax.Value && b.Wet <= p.FilmMax.Value {
		d.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: l.path,
			Text: fmt.Sprintf("Coat %d: spreading all %s that is mixed lays %s, over the greatest film of %s.",
				l.number, d.in.units.Volume(c.division.Mixed), d.in.units.Film(c.mixed), d.in.units.Film(p.FilmMax.Value)),
			WayOut: fmt.Sprintf("Keep %s back for touch-up.", d.in.units.Volume(c.division.Excess)),
		})
	}
	first, last := c.division.Batches[0], c.division.Batches[len(c.division.Batches)-1]
	if last.Volume < first.Volume*shortBatch {
		d.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: l.path,
			Text: fmt.Sprintf("Coat %d: the last batch is %s against %s for the first; on a coloured coat a short batch can show.",
				l.number, d.in.units.Volume(last.Volume), d.in.units.Volume(first.Volume)),
			WayOut: "Lay it where it is least seen, or buy the larger size throughout.",
		})
	}
}

// bounds are the limits of a coat's batches, with what would relax them.
type bounds struct {
	limits []kit.Limit
	relax  []string
	bad    error
}

// limited is what the limits of a coat's batches depend on beside the job.
type limited struct {
	sheet  *sheet
	bucket kit.Bucket
	how    kit.Spreading
}

// bounds returns the limits of batches. It fails where a sheet gives a pot life that cannot be
// followed: a batch sized without it would trust the bucket alone.
func (d *divider) bounds(at limited) bounds {
	b := bounds{}
	if known := d.tables.get(mixedAt{at.sheet, at.sheet.parts}); known.bad != nil {
		b.bad = fmt.Errorf("its pot life cannot be worked out (%w)", known.bad)
	} else if b.limits, b.bad = kit.Limits(at.sheet.product, at.bucket, at.how, d.in.units); b.bad == nil {
		b.relax = d.relax(at.sheet, b.limits, at.how)
	}
	return b
}

// worth is how much larger a batch has to become for a way to be told: common
// practice, no source.
const worth = 1.08

// cooler is by how much colder parts are asked about, K.
const cooler measure.Temperature = 6

// relax says what would allow larger batches: first what lifts the limit that
// decides, up to the one behind it.
func (d *divider) relax(s *sheet, limits []kit.Limit, how kit.Spreading) []string {
	if len(limits) < 2 {
		return nil
	}
	decides, next := limits[0], limits[1]
	var ways []string
	tell := func(what string, v measure.Volume) {
		if v = min(v, next.Volume); v > decides.Volume*worth {
			ways = append(ways, fmt.Sprintf("%s: %s instead of %s.", what, d.in.units.Volume(v), d.in.units.Volume(decides.Volume)))
		}
	}
	switch decides.Kind {
	case kit.ByBucket:
		tell("A larger bucket", next.Volume)
	case kit.ByPolicy:
		if whole := how.Kit * measure.Volume(math.Floor(float64(next.Volume/how.Kit)*(1+1e-9))); whole > 0 {
			tell("Whole kits", whole)
		}
	case kit.ByPotLife:
		hands := how
		hands.Spreaders++
		tell("Another pair of hands", hands.Spreadable(s.product, next.Volume))
		start := s.parts
		if cold := d.tables.get(mixedAt{s, start - cooler}); cold.table != nil {
			cool := how
			cool.Life = cold.table
			tell(fmt.Sprintf("Parts at %s", d.in.units.Temperature(start-cooler)), cool.Spreadable(s.product, next.Volume))
		}
		for _, other := range d.in.file.Products {
			if other.ID != s.key.Product {
				continue
			}
			for _, h := range other.Hardeners {
				slow := d.in.sheets[material.SheetKey{Product: other.ID, Hardener: h.ID}]
				if slow == nil || slow.key == s.key {
					continue
				}
				if its := d.tables.get(mixedAt{slow, start}); its.table != nil {
					slower := how
					slower.Life = its.table
					tell("The "+h.Name, slower.Spreadable(slow.product, next.Volume))
				}
			}
		}
	}
	return ways
}

// wayToBatches is what helps where a coat cannot be divided at all.
func wayToBatches(p *material.Product) string {
	if len(p.Hardeners) > 0 {
		return "Take a slower hardener, cooler parts, more people or a larger bucket."
	}
	return "Take a larger bucket, cooler parts, more people, or a product with a longer pot life."
}
