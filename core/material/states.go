package material

import (
	"cmp"
	"fmt"
	"slices"

	"nephelon/core/measure"
)

// FilmAt is the thickest film of one coat at a temperature.
type FilmAt struct {
	At     measure.Temperature `json:"at" minimum:"-30" maximum:"80" doc:"°C of the slab"`
	Film   measure.Film        `json:"film" exclusiveMinimum:"0" maximum:"1" doc:"Thickest wet film of one coat, m"`
	Source measure.Source      `json:"source"`
}

// ForUse is an amount that a sheet prints for one use or one ground.
type ForUse struct {
	For string `json:"for" minLength:"1" maxLength:"80" pattern:"^[^\\r\\n]*$" doc:"The use or ground, as the sheet says it"`
	Printed
}

// On returns the sheet as it reads on a slab of a temperature: its thickest film lies between those printed for two
// temperatures in proportion, and beyond them is the nearest.
func (p Product) On(slab measure.Temperature) Product {
	if len(p.FilmMaxAt) == 0 {
		return p
	}
	points := slices.SortedFunc(slices.Values(p.FilmMaxAt), func(a, b FilmAt) int { return cmp.Compare(a.At, b.At) })
	k := slices.IndexFunc(points, func(f FilmAt) bool { return f.At >= slab })
	switch {
	case k == 0:
		p.FilmMax = &measure.Sourced[measure.Film]{Value: points[0].Film, Source: points[0].Source}
	case k < 0:
		last := points[len(points)-1]
		p.FilmMax = &measure.Sourced[measure.Film]{Value: last.Film, Source: last.Source}
	default:
		low, high := points[k-1], points[k]
		share := measure.Film((slab - low.At) / (high.At - low.At))
		p.FilmMax = &measure.Sourced[measure.Film]{Value: low.Film + share*(high.Film-low.Film), Source: low.Source}
	}
	return p
}

// Keeps returns how long a part keeps unopened, or a kit as long as its shortest part; nil where no sheet says so.
func (p Product) Keeps(part string) *measure.Sourced[measure.Span] {
	life := p.ShelfLife
	for n, c := range p.Components {
		own := part == string(rune('A'+n))
		if c.ShelfLife == nil || !own && part != "kit" {
			continue
		}
		if own || life == nil || c.ShelfLife.Value < life.Value {
			life = c.ShelfLife
		}
	}
	return life
}

// usualThinner stands in for the solvent that is stirred in, all of it volatile: that of xylene, from memory.
const usualThinner measure.Density = 870

// Thinned returns the volatile compounds of the mix with a share of thinner by volume, 0.1 for 10 %: by what the sheet
// states for its most, else as if all that is added were solvent. Water adds none.
func (p Product) Thinned(share float64) measure.Content {
	own := float64(p.VOC.Value)
	if share <= 0 || p.Carrier == Water {
		return p.VOC.Value
	}
	thinner := float64(usualThinner)
	if stated, most := p.VOCThinned, p.ThinnerMax; stated != nil && most != nil && most.Value > 0 {
		t := float64(most.Value)
		if len(p.Components) > 1 {
			t = most.OfParts(p.Mix().Shares[0].Volume)
		}
		thinner = (float64(stated.Value)*(1+t) - own) / t
	}
	return measure.Content((own + share*thinner) / (1 + share))
}

// stateFaults names values by temperature, part or use that cannot be.
func (p Product) stateFaults() []Fault {
	found := faultList{}
	refuse := found.refuse
	for n, f := range p.FilmMaxAt {
		path := fmt.Sprintf("/filmMaxAt/%d", n)
		refuse(f.Film <= 0, path, "A maximum film must be above zero.", "Leave out the temperatures that are unknown.")
		refuse(slices.ContainsFunc(p.FilmMaxAt[:n], func(o FilmAt) bool { return o.At == f.At }), path,
			fmt.Sprintf("Two maximum films are given at %g °C.", float64(f.At)), "Leave one of them out.")
	}
	for n, a := range p.Amounts {
		path := fmt.Sprintf("/amounts/%d", n)
		refuse(a.For == "", path+"/for", "An amount does not say what it is for.", "Name its use or its ground.")
		refuse(a.Value <= 0, path, "An amount must be above zero.", "Read the sheet again.")
	}
	for n, c := range p.Components {
		refuse(c.ShelfLife != nil && c.ShelfLife.Value <= 0, fmt.Sprintf("/components/%d/shelfLife", n),
			"A shelf life must be above zero.", "Leave it out when unknown.")
	}
	refuse(p.VOCThinned != nil && (p.VOCThinned.Value < 0 || p.VOCThinned.Value > 1000), "/vocThinned",
		"Volatile compounds (VOC) must be between 0 and 1000 g/L.", "Read the sheet again.")
	return found
}
