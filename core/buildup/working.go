package buildup

import (
	"strings"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// workings show the film from the amount, the volume from the film, and the
// mass from the volume.
func (c Coat) workings(p *material.Product, b Build, u Under, thinner float64) []measure.Working {
	return []measure.Working{c.filmWorking(p, b, thinner), c.volumeWorking(b, u), {
		Title:   "Mass to mix",
		Formula: "volume × density of the mix",
		Inputs: []measure.Value{
			{Name: "Volume to mix", Kind: measure.KindVolume, SI: float64(b.Need)},
			{Name: "Density of the mix", Kind: measure.KindDensity, SI: float64(b.Density.Value), Source: b.Density.Source},
		},
		Result: measure.Value{Name: "Mass to mix", Kind: measure.KindMass, SI: float64(b.NeedMass)},
		Source: "Definition of density",
	}}
}

// filmWorking shows the film from the amount.
func (c Coat) filmWorking(p *material.Product, b Build, thinner float64) measure.Working {
	film := measure.Working{
		Title:  "Wet film",
		Result: measure.Value{Name: "Wet film", Kind: measure.KindFilm, SI: float64(b.Wet)},
		Source: "Definition of volume solids; 1 m² × 1 mm = 1 L",
	}
	given := func(name string, kind measure.Kind) {
		film.Inputs = append(film.Inputs, measure.Value{Name: name, Kind: kind, SI: c.Amount.Value})
	}
	switch c.Amount.Basis {
	case DryFilm:
		film.Formula = "dry film ÷ volume solids"
		given("Dry film", measure.KindFilm)
		film.Inputs = append(film.Inputs, measure.Value{Name: "Volume solids", Kind: measure.KindFraction,
			SI: float64(p.VolumeSolids.Value), Source: p.VolumeSolids.Source})
	case SpreadRate:
		film.Formula = "1 ÷ spread rate"
		given("Spread rate", measure.KindSpread)
	case MassPerArea:
		film.Formula = "mass per area ÷ density of the mix"
		given("Mass per area", measure.KindCoverage)
		film.Inputs = append(film.Inputs, measure.Value{Name: "Density of the mix", Kind: measure.KindDensity,
			SI: float64(b.Density.Value), Source: b.Density.Source})
	case Notch:
		film.Formula = "depth of the notch ÷ 2 (common practice)"
		given("Depth of the notch", measure.KindFilm)
	case ByStone:
		film.Formula = "mix to a mass of stone × stones on an area ÷ density of the mix"
		given("Mix to a mass of stone", measure.KindFraction)
		film.Inputs = append(film.Inputs,
			measure.Value{Name: "Stones", Kind: measure.KindCoverage, SI: float64(c.Scatter.Mass.Value),
				Source: c.Scatter.Mass.Source},
			measure.Value{Name: "Density of the mix", Kind: measure.KindDensity, SI: float64(b.Density.Value),
				Source: b.Density.Source})
	case AreaPerKit:
		film.Formula = "largest kit ÷ area per kit"
		given("Area per kit", measure.KindArea)
	default:
		film.Formula = "as entered"
		given("Wet film", measure.KindFilm)
	}
	if thinner > 0 && c.Amount.Basis != WetFilm && c.Amount.Basis != Notch {
		film.Formula += " × (1 + thinner)"
		film.Inputs = append(film.Inputs, measure.Value{Name: "Thinner, of A + B", Kind: measure.KindFraction, SI: thinner,
			Source: c.Thinner.Source})
	}
	return film
}

// volumeWorking shows the volume from the film.
func (c Coat) volumeWorking(b Build, u Under) measure.Working {
	volume := measure.Working{
		Title:   "Volume to mix",
		Formula: "area × wet film ÷ (1 − loss)",
		Inputs:  []measure.Value{{Name: "Area", Kind: measure.KindArea, SI: float64(u.Area)}},
		Result:  measure.Value{Name: "Volume to mix", Kind: measure.KindVolume, SI: float64(b.Need)},
		Source:  "1 m² × 1 mm = 1 L; gallon of 231 in³ (NIST Handbook 44)",
	}
	if u.RunOff > 0 && !b.Practical {
		volume.Formula = "(area + run-off) × wet film ÷ (1 − loss)"
		volume.Inputs = append(volume.Inputs, measure.Value{Name: "Run-off over the edges, as area", Kind: measure.KindArea,
			SI: float64(u.RunOff)})
	}
	if c.apart(u) {
		volume.Formula = "(area × wet film + area of faces × film there) ÷ (1 − loss)"
		if u.RunOff > 0 && !b.Practical {
			volume.Formula = "((area + run-off) × wet film + area of faces × film there) ÷ (1 − loss)"
		}
		volume.Inputs[0].SI = float64(u.Area - u.Upright)
		volume.Inputs = append(volume.Inputs,
			measure.Value{Name: "Area of edges and upright faces", Kind: measure.KindArea, SI: float64(u.Upright)},
			measure.Value{Name: "Wet film there", Kind: measure.KindFilm, SI: float64(c.Faces.Value), Source: c.Faces.Source})
	}
	volume.Inputs = append(volume.Inputs, measure.Value{Name: "Wet film", Kind: measure.KindFilm, SI: float64(b.Wet)})
	if b.Practical {
		volume.Formula = strings.TrimSuffix(volume.Formula, " ÷ (1 − loss)")
		volume.Source += "; the amount is practical, so nothing is added"
	} else {
		volume.Inputs = append(volume.Inputs,
			measure.Value{Name: "Loss", Kind: measure.KindFraction, SI: float64(b.Loss.Value), Source: b.Loss.Source})
	}
	for _, share := range b.Shares {
		switch share.Name {
		case "Film on the surface", onLevel, onFaces, "Run-off over the edges", "Loss":
		case "Thinner in it":
			volume.Formula += " − thinner"
			volume.Inputs = append(volume.Inputs, measure.Value{Name: "Thinner", Kind: measure.KindVolume,
				SI: -float64(share.Volume), Source: share.Source})
		default:
			volume.Formula += " + " + strings.ToLower(share.Name)
			volume.Inputs = append(volume.Inputs, measure.Value{Name: share.Name, Kind: measure.KindVolume,
				SI: float64(share.Volume), Source: share.Source})
		}
	}
	return volume
}
