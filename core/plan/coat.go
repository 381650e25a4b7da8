package plan

import (
	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// sheet is a data sheet as coats use it. Two coats share one only if their product reads the
// same, so a pointer to it identifies everything that depends on the product and the job alone.
type sheet struct {
	key     material.SheetKey // what is bought for it
	product *material.Product
	mix     material.Mix
	window  buildup.Window      // at the slab planned for
	parts   measure.Temperature // °C at which its parts meet
	path    string              // of its product in the file
}

// resolvedCoat is a coat of the job with everything that it is planned with: its own choices
// over those of the job. It is made once, by inputs.resolve; no stage asks the job again.
type resolvedCoat struct {
	coat   buildup.Coat
	number int // from 1, bottom to top
	path   string
	sheet  *sheet // nil where the file has none
	sound  bool   // nothing of it is refused

	overSeal bool // the coat below seals wood or board: what it raised is sanded
	abrades  bool // what is below is abraded before it

	crew    job.Crew
	drills  int
	methods school.Methods
	laying  school.Laying
	divides work.Divides
	walking float64 // m/s with a full pail

	bucket  kit.Bucket
	wanted  measure.Volume // in one batch at most; 0 where nothing is asked for
	open    *measure.Span  // to put the parts of a batch together; nil where nobody entered it
	mixing  kit.Mixing
	pumps   *material.Pumps // nil where none draw its parts
	carry   measure.Span    // from the mixing place to the floor
	scatter *material.Medium
	thrown  bool // something is broadcast by a person of its own
}

// resolve returns the coat c of surface s as it is planned.
func (in inputs) resolve(s job.Surface, i, c int) resolvedCoat {
	l := in.withOwn(s.Coats[c], c+1)
	l.path = coatPath(i, c)
	l.overSeal = c > 0 && s.Coats[c-1].Seal && s.Survey != nil && (s.Survey.Substrate == survey.Timber || s.Survey.Substrate == survey.Board)
	l.abrades = c > 0 && !l.coat.OverWet && (l.coat.Abraded || l.overSeal || in.methods.Between == school.SandEvery)
	return l
}

// withOwn resolves what a coat chooses itself, and what the job says where it does not.
func (in inputs) withOwn(c buildup.Coat, number int) resolvedCoat {
	mixing := in.file.Job.Mixing
	own := buildup.OwnWay{}
	if c.Own != nil {
		own = *c.Own
	}
	l := resolvedCoat{
		coat: c, number: number, sheet: in.sheets[material.SheetKey{Product: c.Product, Hardener: c.Hardener}],
		crew: in.file.Job.Crew.Counted(), drills: max(1, mixing.Drills), methods: in.methods, laying: in.methods.Laying,
		bucket: in.file.Job.Bucket, wanted: own.Batch, open: mixing.Open, pumps: mixing.Pumps,
	}
	if c.Pace != nil {
		l.crew.Pace = *c.Pace
	}
	if own.Spreaders > 0 {
		l.crew.Spreaders, l.crew.Team = own.Spreaders, nil
	}
	if own.Laying != "" {
		l.laying = own.Laying
	}
	if own.Kits != "" {
		l.methods.Kits = own.Kits
	}
	if own.Bucket > 0 {
		l.bucket.Volume = own.Bucket
	}
	if own.Pumps != nil {
		l.pumps = own.Pumps
	}
	if mixing.Carry != nil {
		l.carry = *mixing.Carry
	}
	l.divides = dividesOf(c, l.crew, l.laying)
	l.walking = usualWalk
	if l.crew.Walking > 0 {
		l.walking = l.crew.Walking
	}
	if c.Scatter != nil {
		l.scatter = in.media[c.Scatter.Medium]
	}
	l.thrown = l.scatter != nil && !c.Wets() || c.Grit != nil && l.methods.Texture == school.Scattered
	if l.sheet != nil {
		l.mixing = mixingOf(l.sheet.product, c, in.methods, in.file.Job.Crew.People())
	}
	return l
}

// mixingOf returns how long a batch of a coat is worked on before it may be poured.
func mixingOf(p *material.Product, c buildup.Coat, methods school.Methods, people int) kit.Mixing {
	m := kit.MixingOf(p, methods.Residue.Second(), methods.Residue == school.SecondLong)
	if len(p.Components) > 1 && c.Colours != nil && methods.Tinting != school.TintBefore {
		m.Colours = c.Colours.Takes(people)
	}
	return m
}

// dividesOf returns how the work of laying a coat divides among pouring, cutting in, spreading
// and rolling: the crew's own shares, or else common practice, no source. A crew's pace is of
// all of it together.
func dividesOf(c buildup.Coat, crew job.Crew, laying school.Laying) work.Divides {
	if c.On == onUpright {
		return work.Divides{Spread: 1}
	}
	if own := crew.Divides; own != nil && own.Sum() > 0 {
		sum := own.Sum()
		return work.Divides{Pour: own.Pour / sum, CutIn: own.CutIn / sum, Spread: own.Spread / sum, Roll: own.Roll / sum}
	}
	switch laying {
	case school.DipAndRoll:
		return work.Divides{Pour: 0.05, CutIn: 0.20, Spread: 0.55, Roll: 0.20}
	case school.Trowel:
		return work.Divides{Pour: 0.10, CutIn: 0.05, Spread: 0.85}
	case school.Brush, school.Spray:
		return work.Divides{Spread: 1}
	}
	return work.Divides{Pour: 0.10, CutIn: 0.10, Spread: 0.45, Roll: 0.35}
}

// What stands in for times of a pour that nobody entered: common practice, no source.
const (
	openWhole    measure.Span = measure.Minute     // of opening a kit's pails
	openMeasured measure.Span = 3 * measure.Minute // of weighing or measuring the parts
	usualWalk                 = 1.0                // m/s with a full pail
)

// opens returns how long the parts of a batch take to be put together before A meets B.
func (l resolvedCoat) opens(d *kit.Division) measure.Span {
	switch {
	case len(l.sheet.product.Components) < 2:
		return 0
	case l.open != nil:
		return *l.open
	case d != nil && d.Batches[0].Share == kit.MeasuredShare:
		return openMeasured
	}
	return openWhole
}

// covers returns what of a surface a coat goes on.
func (l resolvedCoat) covers(off *takeoff.Takeoff) measure.Area {
	switch l.coat.On {
	case onUpright:
		return off.Facing.Vertical
	case onLevel:
		return off.Facing.Level + off.Facing.Steep
	}
	return off.Area
}

// The parts of a surface that a coat may be for alone.
const (
	onUpright = "upright"
	onLevel   = "level"
)

// sealGrit is the paper that takes off what a seal coat raises on wood and board: common
// practice, no source.
const sealGrit = 220

// grit returns the paper by which the coat is abraded before the next one; 0 where its sheet
// names none.
func (l resolvedCoat) grit() int {
	switch {
	case l.coat.Seal:
		return sealGrit
	case l.sheet != nil && l.sheet.product.Abrade != nil:
		return int(l.sheet.product.Abrade.Value)
	}
	return 0
}

// largestBucket returns what any coat is mixed in at most.
func largestBucket(job kit.Bucket, coats [][]resolvedCoat) measure.Volume {
	most := job.Usable()
	for _, layers := range coats {
		for _, l := range layers {
			most = max(most, l.bucket.Usable())
		}
	}
	return most
}
