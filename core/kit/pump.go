package kit

import (
	"fmt"
	"math"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Strokes are the doses of a batch as pumps give them.
type Strokes struct {
	A       int              `json:"a"`
	B       int              `json:"b"`
	Priming int              `json:"priming,omitempty" doc:"Strokes of each pump, put aside before the first dose of the day"`
	Volume  measure.Volume   `json:"volume" doc:"m³ that these strokes give together"`
	Off     measure.Fraction `json:"off" doc:"How far their ratio is from right; above zero is too much of A"`
	Text    string           `json:"text"`
}

// morePumped is the share above a batch that may be pumped to come close to the
// ratio with whole strokes: common practice, no source.
const morePumped = 0.06

// mostStrokes is more than anyone pumps for a batch.
const mostStrokes = 20_000

// Pumped counts whole strokes of pumps for a batch of two parts. It fails, with what
// would help, where no such strokes keep the ratio within tolerance.
func Pumped(p material.Pumps, name string, mix material.Mix, batch measure.Volume,
	units measure.System) (Strokes, error) {
	s := Strokes{Priming: p.Priming}
	if len(mix.Shares) != 2 {
		return s, fmt.Errorf("pumps are for two parts, and %s has %d", name, len(mix.Shares))
	}
	a, b := p.Gives(mix.Shares[0].Density.Value, mix.Shares[1].Density.Value)
	if a <= 0 || b <= 0 {
		return s, fmt.Errorf("the volume per stroke must be more than 0; weigh ten strokes and enter their mass")
	}
	if count := float64(batch) / float64(min(a, b)); !(count <= mostStrokes) {
		return s,
			fmt.Errorf("more than %d strokes would be needed; enter what a stroke gives in millilitres, or measure by scale",
				mostStrokes)
	}
	right := mix.Shares[0].Volume / mix.Shares[1].Volume
	off := func(nA, nB int) float64 { return float64(nA) * float64(a) / (float64(nB) * float64(b)) / right }
	if p.Built == "ratio" {
		s.A = int(math.Ceil(float64(batch/(a+b)) * (1 - slack)))
		s.B = s.A
		if o := off(1, 1) - 1; math.Abs(o) > goodOff {
			return s,
				fmt.Errorf("one stroke of each gives %.3g : 1, and %s needs %.3g : 1; use pumps built for it, or measure "+
					"by scale", float64(a/b), name, right)
		}
		s.Text = "Metered pumps: as many strokes of each. Never pump in the ratio, they do that themselves."
	} else {
		least := int(math.Ceil(float64(batch) * mix.Shares[1].Volume / float64(b) * (1 - slack)))
		most := int(math.Ceil(float64(least) * (1 + morePumped)))
		best := math.Inf(1)
		for nB := max(1, least); nB <= max(1, most); nB++ {
			nA := max(1, int(math.Round(float64(nB)*float64(b)*right/float64(a))))
			if o := math.Abs(off(nA, nB) - 1); o < best-slack {
				best, s.A, s.B = o, nA, nB
			}
		}
		if best > goodOff {
			return s,
				fmt.Errorf("whole strokes come no closer than %s to its ratio on so small a batch; mix more at once, or measure "+
					"by scale", units.Fraction(measure.Fraction(best)))
		}
		s.Text = "Plain pumps: every stroke gives the same, so the strokes follow the ratio."
	}
	s.Off = measure.Fraction(off(s.A, s.B) - 1)
	s.Volume = measure.Volume(s.A)*a + measure.Volume(s.B)*b
	s.Text += " Never swap pumps or caps between A and B."
	return s, nil
}
