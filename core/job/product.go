package job

import (
	"slices"

	"nephelon/core/material"
)

// WithProduct returns a file in which a coat is of another product, whose sheet it brings; false where the job has no
// such coat. What belonged to the mix of the product before goes: its hardener, thinner and pumps, and joins that were
// placed for its batches.
func (f File) WithProduct(coat string, p material.Product) (File, bool) {
	f.Job.Surfaces = slices.Clone(f.Job.Surfaces)
	for i := range f.Job.Surfaces {
		s := &f.Job.Surfaces[i]
		for c := range s.Coats {
			if s.Coats[c].ID != coat {
				continue
			}
			s.Coats = slices.Clone(s.Coats)
			other := &s.Coats[c]
			if other.Product != p.ID {
				other.Product, other.Hardener, other.Thinner, other.ThinWith = p.ID, "", nil, ""
				if other.Own != nil {
					own := *other.Own
					own.Shares, own.Pumps = nil, nil
					other.Own = &own
				}
			}
			bring(&f.Products, []material.Product{p}, map[string]bool{p.ID: true},
				func(p material.Product) string { return p.ID })
			return f, true
		}
	}
	return f, false
}
