package kit

import (
	"fmt"
	"slices"

	"nephelon/core/label"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// Found holds what a label is the label of.
type Found struct {
	Scan      label.Scan `json:"scan"`
	Container Container  `json:"container" doc:"A full pack of it as stock keeps it, with its lot and dates"`
	Name      string     `json:"name" doc:"Product and pack"`
}

// FindPack returns the pack of the shelf that a label is of; false where there is none. What the label does not say of
// its expiry follows from the day on which it was made and the shelf life of the sheet.
func FindPack(s label.Scan, products []material.Product, media []material.Medium) (Found, bool) {
	out := Found{Scan: s, Container: Container{Lot: s.Lot, Made: s.Made, Expires: s.Expires}}
	for _, p := range products {
		for _, k := range p.Kits {
			if s.Names(k.Code) {
				return out.kit(p, "", k), true
			}
		}
		for _, h := range p.Hardeners {
			for _, k := range h.Kits {
				if with, err := p.With(h.ID); err == nil && s.Names(k.Code) {
					return out.kit(with, h.ID, k), true
				}
			}
		}
	}
	for _, m := range media {
		for _, k := range m.Packs {
			if s.Names(k.Code) {
				out.Container.Sheet, out.Container.Part, out.Name = m.ID, "medium", m.Name+", "+k.Name
				if m.Kind != "tool" && m.Kind != "supply" && m.Kind != "thinner" {
					out.Container.Mass = measure.Mass(k.Amount)
				}
				return out, true
			}
		}
	}
	return out, false
}

func (f Found) kit(p material.Product, hardener string, k material.Kit) Found {
	c := &f.Container
	c.Sheet, c.Hardener, c.Part, f.Name = p.ID, hardener, "kit", p.Name+", "+k.Name
	switch density := p.Mix().Density.Value; {
	case k.Volume != nil:
		c.Volume = *k.Volume
	case k.Mass != nil && density > 0:
		c.Volume = measure.Volume(float64(*k.Mass) / float64(density))
	}
	*c = c.Dated(p)
	return f
}

// WrongPack returns why a pack is not one of a product, in a sentence, by its label and the other products of the job;
// empty where nothing tells against it.
func WrongPack(s label.Scan, own material.Product, others []material.Product) string {
	if ofProduct(s, own) {
		return ""
	}
	for _, o := range others {
		if ofProduct(s, o) {
			return fmt.Sprintf("This pack is of %s. The batch is of %s: do not mix it in.", o.Name, own.Name)
		}
	}
	const item = 14 // digits of a trade item number
	known := len(own.Kits) > 0 && !slices.ContainsFunc(own.Kits, func(k material.Kit) bool { return k.Code == "" })
	if len(s.Code) != item || !known {
		return ""
	}
	return fmt.Sprintf("The shelf has no pack of %s with this code. Read the name on the label before you open it.",
		own.Name)
}

// ofProduct reports whether a label is that of a pack of a product.
func ofProduct(s label.Scan, p material.Product) bool {
	return slices.ContainsFunc(p.Kits, func(k material.Kit) bool { return s.Names(k.Code) })
}
