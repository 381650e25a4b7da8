package plan

import (
	"fmt"
	"math"

	"nephelon/core/buildup"
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
	lives map[material.SheetKey]*lives
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

// divider cuts coats into batches, taking down what was bought. It works out
// each pot life and each set of limits once.
type divider struct {
	terms
	measured measured
	bought   bought
	hand     map[material.SheetKey]*kit.AtHand
	lives    map[material.SheetKey]*lives
	tables   map[mixedAt]*tabled
	limited  map[spreading]*bounds
	runner   sim.Runner
	found    []finding.Finding
}

func (d *divider) find(f finding.Finding) { d.found = append(d.found, f) }

// divideAll cuts every coat into batches.
func divideAll(t terms, m measured, b built, p bought) divided {
	d := divider{
		terms: t, measured: m, bought: p,
		hand: make(map[material.SheetKey]*kit.AtHand, len(p.by)), lives: make(map[material.SheetKey]*lives, len(p.by)),
		tables: make(map[mixedAt]*tabled), limited: make(map[spreading]*bounds),
	}
	for key, bought := range p.by {
		d.hand[key] = kit.NewAtHand(*bought)
	}
	out := divided{coats: make([][]dividedCoat, len(t.layers))}
	for i, layers := range t.layers {
		out.coats[i] = make([]dividedCoat, len(layers))
		for c, l := range layers {
			if made := b.coats[i][c]; made != nil && !d.gone() {
				out.coats[i][c] = d.coat(t.file.Job.Surfaces[i], l, *made, covers(l.coat, m.surfaces[i].takeoff))
			}
		}
	}
	out.lives, out.found = d.lives, d.found
	return out
}

// coat divides one coat.
func (d *divider) coat(s job.Surface, l layer, b buildup.Build, area measure.Area) dividedCoat {
	var out dividedCoat
	crew := d.crew(l)
	if crew.Pace.Value <= 0 || crew.Spreaders < 1 {
		return out // told when the file was read
	}
	p, key := l.sheet.product, l.sheet.key
	hand := d.hand[key]
	if hand == nil || !(b.Need > 0) {
		return out // told when the kits were bought
	}
	methods, bucket, wanted := d.mixed(l)
	bounds := d.bounded(l.sheet, hand, bucket, kit.Spreading{
		Spreaders: crew.Spreaders, Pace: crew.Pace.Value, PerArea: b.Need / measure.Volume(area), Density: b.Density.Value,
		Mixing: d.mixing(l), Thinner: float64(b.Thinner / b.Need), KitShare: methods.KitShare(), Wanted: wanted,
	})
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
			division, bad = kit.Divide(b.Need, limits, hand, methods.Kits == school.Measured)
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
func (d *divider) drawn(s job.Surface, l layer, b buildup.Build, shares []float64, limits []kit.Limit, hand *kit.AtHand) kit.Division {
	division, over := kit.DivideAs(b.Need, shares, limits, hand)
	if len(over) > 0 {
		n := over[0]
		d.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: l.path + "/own/shares",
			Text: fmt.Sprintf("%s, coat %d: batch %d is %s where the joins are placed, and %s is the most. %s", s.Name, l.number, n,
				d.units.Volume(division.Batches[n-1].Volume), d.units.Volume(limits[0].Volume), limits[0].Text),
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
func (d *divider) deep(l layer, wet measure.Film) {
	life := d.lives[l.sheet.key]
	if wet < deepFilm || life == nil || life.model == nil {
		return
	}
	peak, err := life.model.Poured(wet, life.start, d.slab)
	if err != nil || peak <= hotPour {
		return
	}
	deepest, err := life.model.DeepestPour(life.start, d.slab, hotPour, wet)
	if err != nil {
		return
	}
	text := fmt.Sprintf("Coat %d: %s of %s in one pour would heat itself to about %s; %s stay under %s.",
		l.number, d.units.Film(wet), l.sheet.product.Name, d.units.Temperature(measure.Temperature(math.Round(float64(peak)/5)*5)), d.units.Film(deepest), d.units.Temperature(hotPour))
	if most := l.sheet.product.FilmMax; most != nil {
		text += fmt.Sprintf(" Its sheet allows %s.", d.units.Film(most.Value))
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
func (d *divider) tool(l layer, wet measure.Film) {
	laying, text, way := d.laying(l), "", ""
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
		Text: fmt.Sprintf("Coat %d of %s: "+text+".", l.number, l.sheet.product.Name, d.units.Film(wet)),
	})
}

// fast tells whether a cup of a mix can be used for less than an hour.
func (d *divider) fast(l layer) bool {
	life := d.lives[l.sheet.key].of(leastMass)
	return life > 0 && life < measure.Hour
}

// judge says what is awkward about the batches of a coat.
func (d *divider) judge(l layer, b buildup.Build, c dividedCoat) {
	d.deep(l, b.Wet)
	d.tool(l, b.Wet)
	p := l.sheet.product
	if p.FilmMax != nil && c.mixed > p.FilmMax.Value && b.Wet <= p.FilmMax.Value {
		d.find(finding.Finding{
			Level: finding.Warning, Step: finding.Batches, Path: l.path,
			Text: fmt.Sprintf("Coat %d: spreading all %s that is mixed lays %s, over the greatest film of %s.",
				l.number, d.units.Volume(c.division.Mixed), d.units.Film(c.mixed), d.units.Film(p.FilmMax.Value)),
			WayOut: fmt.Sprintf("Keep %s back for touch-up.", d.units.Volume(c.division.Excess)),
		})
	}
	first, last := c.division.Batches[0], c.division.Batches[len(c.division.Batches)-1]
	if last.Volume < first.Volume*shortBatch {
		d.find(finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: l.path,
			Text: fmt.Sprintf("Coat %d: the last batch is %s against %s for the first; on a coloured coat a short batch can show.",
				l.number, d.units.Volume(last.Volume), d.units.Volume(first.Volume)),
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

// spreading is what bounds depend on beside the job: coats that share it share
// them.
type spreading struct {
	key       material.SheetKey
	spreaders int
	pace      measure.Pace
	perArea   int64 // nL/m²
	mixing    kit.Mixing
	thinner   float64
	share     float64
	wanted    measure.Volume
	bucket    measure.Volume
}

// bounded bounds the batches of a coat.
func (d *divider) bounded(s *sheet, hand *kit.AtHand, bucket kit.Bucket, how kit.Spreading) *bounds {
	at := spreading{s.key, how.Spreaders, how.Pace, int64(math.Round(float64(how.PerArea) * 1e12)), how.Mixing, how.Thinner, how.KitShare, how.Wanted, bucket.Usable()}
	if known := d.limited[at]; known != nil {
		return known
	}
	how.Kit, how.Carry = hand.Largest(), d.carry()
	b := &bounds{}
	if how.Life, b.bad = d.life(s); b.bad != nil {
		b.bad = fmt.Errorf("its pot life cannot be worked out (%w)", b.bad)
	} else if b.limits, b.bad = kit.Limits(s.product, bucket, how, d.units); b.bad == nil {
		b.relax = d.relax(s, b.limits, how)
	}
	d.limited[at] = b
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
			ways = append(ways, fmt.Sprintf("%s: %s instead of %s.", what, d.units.Volume(v), d.units.Volume(decides.Volume)))
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
		start := d.lives[s.key].start
		if cold := d.table(s, start-cooler); cold.table != nil {
			cool := how
			cool.Life = cold.table.Life
			tell(fmt.Sprintf("Parts at %s", d.units.Temperature(start-cooler)), cool.Spreadable(s.product, next.Volume))
		}
		for _, other := range d.file.Products {
			if other.ID != s.key.Product {
				continue
			}
			for _, h := range other.Hardeners {
				slow := d.sheets[material.SheetKey{Product: other.ID, Hardener: h.ID}]
				if slow == nil || slow.key == s.key {
					continue
				}
				if its := d.table(slow, start); its.table != nil {
					slower := how
					slower.Life = its.table.Life
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
