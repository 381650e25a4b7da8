package plan

import (
	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/takeoff"
)

// crew is who spreads a coat, at the pace that holds for it.
func (t terms) crew(l layer) job.Crew {
	crew := t.file.Job.Crew.Counted()
	if l.coat.Pace != nil {
		crew.Pace = *l.coat.Pace
	}
	if own := l.coat.Own; own != nil && own.Spreaders > 0 {
		crew.Spreaders, crew.Team = own.Spreaders, nil
	}
	return crew
}

// laying is how a coat is laid.
func (t terms) laying(l layer) school.Laying {
	if own := l.coat.Own; own != nil && own.Laying != "" {
		return own.Laying
	}
	return t.methods.Laying
}

// mixed is how much of a kit of a coat is mixed at once, and in what.
func (t terms) mixed(l layer) (school.Methods, kit.Bucket, measure.Volume) {
	methods, bucket := t.methods, t.file.Job.Bucket
	own := l.coat.Own
	if own == nil {
		return methods, bucket, 0
	}
	if own.Kits != "" {
		methods.Kits = own.Kits
	}
	if own.Bucket > 0 {
		bucket.Volume = own.Bucket
	}
	return methods, bucket, own.Batch
}

// pumps are what draws the parts of a coat; nil where none do.
func (t terms) pumps(l layer) *material.Pumps {
	if own := l.coat.Own; own != nil && own.Pumps != nil {
		return own.Pumps
	}
	return t.file.Job.Mixing.Pumps
}

// largestBucket is what any coat is mixed in at most.
func (t terms) largestBucket() measure.Volume {
	most := t.file.Job.Bucket.Usable()
	for _, layers := range t.layers {
		for _, l := range layers {
			_, bucket, _ := t.mixed(l)
			most = max(most, bucket.Usable())
		}
	}
	return most
}

// covers is what of a surface a coat goes on.
func covers(c buildup.Coat, off *takeoff.Takeoff) measure.Area {
	switch c.On {
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

// abrades tells whether what is below a coat is abraded before it.
func (t terms) abrades(l layer) bool {
	return l.number > 1 && !l.coat.OverWet && (l.coat.Abraded || l.overSeal || t.methods.Between == school.SandEvery)
}

// sealGrit is the paper that takes off what a seal coat raises on wood and board: common
// practice, no source.
const sealGrit = 220

// grit returns the paper by which the coat is abraded before the next one; 0 where its sheet
// names none.
func (l layer) grit() int {
	switch {
	case l.coat.Seal:
		return sealGrit
	case l.sheet != nil && l.sheet.product.Abrade != nil:
		return int(l.sheet.product.Abrade.Value)
	}
	return 0
}

// carry is the time from the mixing place to the floor.
func (t terms) carry() measure.Span {
	if own := t.file.Job.Mixing.Carry; own != nil {
		return *own
	}
	return 0
}

// mixing returns how long a batch of a coat is worked on before it may be poured.
func (t terms) mixing(l layer) kit.Mixing {
	m := kit.MixingOf(l.sheet.product, t.methods.Residue.Second(), t.methods.Residue == school.SecondLong)
	if len(l.sheet.product.Components) > 1 && l.coat.Colours != nil && t.methods.Tinting != school.TintBefore {
		m.Colours = l.coat.Colours.Takes(t.file.Job.Crew.People())
	}
	return m
}
