package material

import (
	"fmt"
	"slices"

	"nephelon/core/measure"
)

// Hardener is another B for the same resin, with its own ratio and times.
type Hardener struct {
	ID      string                            `json:"id" minLength:"1" maxLength:"60"`
	Name    string                            `json:"name" minLength:"1" maxLength:"60" pattern:"^[^\\r\\n]*$" doc:"Such as fast, slow or special clear"`
	Ratio   Ratio                             `json:"ratio"`
	A       float64                           `json:"a" exclusiveMinimum:"0" maximum:"1000" doc:"Parts of A"`
	B       float64                           `json:"b" exclusiveMinimum:"0" maximum:"1000" doc:"Parts of B"`
	Density *measure.Sourced[measure.Density] `json:"density,omitempty" doc:"kg/m³"`
	Curing
	SlabMin *measure.Sourced[measure.Temperature] `json:"slabMin,omitempty" doc:"Coldest slab, °C; the resin's when left out"`
	SlabMax *measure.Sourced[measure.Temperature] `json:"slabMax,omitempty" doc:"Warmest slab, °C; the resin's when left out"`
	Kits    []Kit                                 `json:"kits,omitempty" maxItems:"12" doc:"The resin's sizes when left out"`
}

// SheetKey names a sheet as it reads with one of its hardeners; with its own B
// where the hardener is empty.
type SheetKey struct{ Product, Hardener string }

// With is the sheet as it reads with one of its hardeners; the one among the
// components where the id is empty.
func (p Product) With(hardener string) (Product, error) {
	if hardener == "" {
		return p, nil
	}
	for _, h := range p.Hardeners {
		if h.ID != hardener {
			continue
		}
		p.Name += ", " + h.Name
		p.Ratio, p.Curing, p.Hardeners = h.Ratio, h.Curing, nil
		p.Components = slices.Clone(p.Components)
		p.Components[0].Parts, p.Components[0].Other = h.A, 0
		p.Components[1] = Component{Name: p.Components[1].Name, Parts: h.B, Density: h.Density}
		if len(h.Kits) > 0 {
			p.Kits = h.Kits
		}
		if h.SlabMin != nil {
			p.SlabMin = h.SlabMin
		}
		if h.SlabMax != nil {
			p.SlabMax = h.SlabMax
		}
		return p, nil
	}
	return p, fmt.Errorf("%s has no hardener “%s”", p.Name, hardener)
}
