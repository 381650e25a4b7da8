package input

import (
	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// Sheet is a data sheet as coats use it. Two coats share one only if their product reads the
// same, so a pointer to it identifies everything that depends on the product and the job alone.
type Sheet struct {
	Key     material.SheetKey // what is bought for it
	Product *material.Product
	Mix     material.Mix
	Window  buildup.Window      // at the slab planned for
	Brought []Brought           // its parts, as the shares of its mix
	Parts   measure.Temperature // °C at which they meet
	Path    string              // of its product in the file
}

// ResolvedCoat is a coat of the job with everything that it is planned with: its own choices
// over those of the job. It is made once, by inputs.resolve; no stage asks the job again.
type ResolvedCoat struct {
	Coat   buildup.Coat
	Number int // from 1, bottom to top
	Path   string
	Sheet  *Sheet // nil where the file has none
	Sound  bool   // nothing of it is refused

	Slows float64 // how many times as long its film takes to dry, as it was read on the floor; 1 where it was not

	OverSeal bool // the coat below seals wood or board: what it raised is sanded
	Abrades  bool // what is below is abraded before it

	Crew    job.Crew
	Drills  int
	Methods school.Methods
	Laying  school.Laying
	Divides work.Divides
	Walking float64 // m/s with a full pail

	Bucket  kit.Bucket
	Wanted  measure.Volume // in one batch at most; 0 where nothing is asked for
	open    *measure.Span  // to put the parts of a batch together; nil where nobody entered it
	Mixing  kit.Mixing
	Drum    kit.Drum        // in which its stones are wetted
	Pumps   *material.Pumps // nil where none draw its parts
	Carry   measure.Span    // from the mixing place to the floor
	Scatter *material.Medium
	Undosed bool // its grit is stated in packs or kits that there are not
}

// resolve returns the coat c of surface s as it is planned.
func (in Inputs) resolve(s job.Surface, i, c int) ResolvedCoat {
	l := in.withOwn(s.Coats[c], c+1)
	l.Path = coatPath(i, c)
	l.OverSeal = c > 0 && s.Coats[c-1].Seal && s.Survey != nil &&
		(s.Survey.Substrate == survey.Timber || s.Survey.Substrate == survey.Board)
	l.Abrades = c > 0 && !l.Coat.OverWet && (l.Coat.Abraded || l.OverSeal || in.Methods.Between == school.SandEvery)
	l.Slows = 1
	if laid, is := in.logged[l.Coat.ID]; is && l.Sheet != nil && l.Sheet.Product.Dries() {
		l.Slows = cure.Drying(laid.Thick)
	}
	return l
}

// withOwn resolves what a coat chooses itself, and what the job says where it does not.
func (in Inputs) withOwn(c buildup.Coat, number int) ResolvedCoat {
	mixing := in.File.Job.Mixing
	own := buildup.OwnWay{}
	if c.Own != nil {
		own = *c.Own
	}
	l := ResolvedCoat{
		Coat: c, Number: number, Sheet: in.Sheets[material.SheetKey{Product: c.Product, Hardener: c.Hardener}],
		Crew: in.File.Job.Crew.Counted(), Drills: max(1, mixing.Drills), Methods: in.Methods, Laying: in.Methods.Laying,
		Bucket: in.File.Job.Bucket, Wanted: own.Batch, Drum: kit.UsualDrum(), open: mixing.Open, Pumps: mixing.Pumps,
	}
	if c.Pace != nil {
		l.Crew.Pace = *c.Pace
	}
	if c.Wets() {
		if l.Laying = school.Trowel; c.Pace == nil {
			l.Crew.Pace = measure.Sourced[measure.Pace]{Value: trowelled, Source: measure.RuleOfThumb}
		}
	}
	if own.Spreaders > 0 {
		l.Crew.Spreaders, l.Crew.Team = own.Spreaders, nil
	}
	if own.Laying != "" {
		l.Laying = own.Laying
	}
	if own.Kits != "" {
		l.Methods.Kits = own.Kits
	}
	if own.Bucket > 0 {
		l.Bucket.Volume = own.Bucket
	}
	if own.Pumps != nil {
		l.Pumps = own.Pumps
	}
	if mixing.Drum != nil {
		l.Drum = *mixing.Drum
	}
	if mixing.Carry != nil {
		l.Carry = *mixing.Carry
	}
	l.Divides = dividesOf(c, l.Crew, l.Laying)
	l.Walking = usualWalk
	if l.Crew.Walking > 0 {
		l.Walking = l.Crew.Walking
	}
	if c.Scatter != nil {
		l.Scatter = in.Media[c.Scatter.Medium]
	}
	if l.Sheet != nil && c.Grit != nil {
		dosed, known := c.Grit.Dosed(in.Media[c.Grit.Medium], l.Sheet.Product, l.Sheet.Mix.Density.Value)
		l.Coat.Grit, l.Undosed = &dosed, !known
	}
	if l.Sheet != nil {
		l.Mixing = mixingOf(l.Sheet.Product, c, in.Methods, in.File.Job.Crew.People())
	}
	return l
}

// mixingOf returns how long a batch of a coat is worked on before it may be poured.
func mixingOf(p *material.Product, c buildup.Coat, methods school.Methods, people int) kit.Mixing {
	m := kit.MixingOf(p, methods.Residue.Second(), methods.Residue == school.SecondLong)
	if len(p.Components) > 1 && c.Colours != nil && methods.Tinting != school.TintBefore {
		m.Colours = c.Colours.Takes(people)
	}
	if c.Wets() {
		m.Turned = kit.Turning
	}
	return m
}

// trowelled is the pace of one person who lays wetted stones, m²/s: common practice, no source.
const trowelled measure.Pace = 5.0 / 3600

// dividesOf returns how the work of laying a coat divides among pouring, cutting in, spreading
// and rolling: the crew's own shares, or else common practice, no source. A crew's pace is of
// all of it together.
func dividesOf(c buildup.Coat, crew job.Crew, laying school.Laying) work.Divides {
	if c.On == OnUpright {
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
	OpenWhole    measure.Span = measure.Minute     // of opening a kit's pails
	openMeasured measure.Span = 3 * measure.Minute // of weighing or measuring the parts
	usualWalk                 = 1.0                // m/s with a full pail
)

// Opens returns how long the parts of a batch take to be put together before A meets B.
func (l ResolvedCoat) Opens(d *kit.Division) measure.Span {
	switch {
	case len(l.Sheet.Product.Components) < 2:
		return 0
	case l.open != nil:
		return *l.open
	case d != nil && d.Batches[0].Share == kit.MeasuredShare:
		return openMeasured
	}
	return OpenWhole
}

// Stones returns what is wetted in the mix; none of a coat that wets nothing.
func (l ResolvedCoat) Stones() kit.Stones {
	if !l.Coat.Wets() || l.Scatter == nil {
		return kit.Stones{}
	}
	s := kit.Stones{PerArea: l.Coat.Scatter.Mass.Value, Drum: l.Drum}
	if l.Scatter.Density != nil {
		s.Grain = l.Scatter.Density.Value
	}
	return s
}

// Casting returns the person-seconds of broadcasting on a square metre that takes so much of the mix; 0 where
// nothing is thrown.
func (l ResolvedCoat) Casting(perArea measure.Film) measure.Span {
	all := measure.Span(0)
	if l.Scatter != nil && !l.Coat.Wets() {
		all += l.Coat.Scatter.Casting(l.Scatter)
	}
	if l.Coat.Grit != nil && l.Methods.Texture == school.Scattered {
		all += l.Coat.Grit.Casting(perArea)
	}
	return all
}

// Covers returns what of a surface a coat goes on.
func (l ResolvedCoat) Covers(off *takeoff.Takeoff) measure.Area {
	switch l.Coat.On {
	case OnUpright:
		return off.Facing.Vertical
	case OnLevel:
		return off.Facing.Level + off.Facing.Steep
	}
	return off.Area
}

// The parts of a surface that a coat may be for alone.
const (
	OnUpright = "upright"
	OnLevel   = "level"
)

// sealGrit is the paper that takes off what a seal coat raises on wood and board: common
// practice, no source.
const sealGrit = 220

// Grit returns the paper by which the coat is abraded before the next one; 0 where its sheet
// names none.
func (l ResolvedCoat) Grit() int {
	switch {
	case l.Coat.Seal:
		return sealGrit
	case l.Sheet != nil && l.Sheet.Product.Abrade != nil:
		return int(l.Sheet.Product.Abrade.Value)
	}
	return 0
}

// LargestBucket returns what any coat is mixed in at most.
func LargestBucket(job kit.Bucket, coats [][]ResolvedCoat) measure.Volume {
	most := job.Usable()
	for _, layers := range coats {
		for _, l := range layers {
			most = max(most, l.Bucket.Usable())
		}
	}
	return most
}
