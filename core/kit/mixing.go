package kit

import (
	"nephelon/core/material"
	"nephelon/core/measure"
)

// Mixing is the time from mixing start until a batch may be poured, in its parts. Card,
// train, task, day and record all take it from here.
type Mixing struct {
	First   measure.Span // A with B, as the sheet says
	Second  measure.Span // in a second vessel
	Colours measure.Span // dividing it into cups and colouring them
	Turned  measure.Span // with stones, until all are glossy
	Stand   measure.Span // induction: it waits by itself
}

// Hands returns how long somebody works on the batch.
func (m Mixing) Hands() measure.Span { return m.First + m.Second + m.Colours + m.Turned }

// Ready returns how long after mixing start the batch may be poured.
func (m Mixing) Ready() measure.Span { return m.Hands() + m.Stand }

// secondMixed is the time that a mix is stirred in a second vessel where neither the sheet nor
// the contractor says otherwise: common practice on floors, no source.
const secondMixed = measure.Minute

// MixingOf returns the mixing of a product: second tells whether this contractor mixes a
// second time, long whether as long as the first. The sheet's own second mixing rules over
// both. A product of one part is only stirred.
func MixingOf(p *material.Product, second, long bool) Mixing {
	var m Mixing
	if p.Mixing != nil {
		m.First = p.Mixing.Value
	}
	if p.Induction != nil {
		m.Stand = p.Induction.Value
	}
	if len(p.Components) < 2 {
		return m
	}
	switch {
	case p.MixingAgain != nil:
		m.Second = p.MixingAgain.Value
	case second && long && m.First > 0:
		m.Second = m.First
	case second:
		m.Second = secondMixed
	}
	return m
}

// MixedAtMost returns how long somebody may work on the batch of a card before it is poured; 0 where its sheet sets no
// limit.
func (c *Card) MixedAtMost() measure.Span {
	if c.MixingMax == 0 {
		return 0
	}
	return c.Stirred().Hands() - c.Mixing + c.MixingMax
}

// Stirred returns the mixing of the batch of a card. Cards issued by earlier builds have no
// second mixing and no colouring of their own.
func (c *Card) Stirred() Mixing {
	return Mixing{First: c.Mixing, Second: c.Again, Colours: c.Colouring, Turned: c.Turning, Stand: c.Induction}
}
