package plan

import (
	"slices"

	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
)

// Seeks reports whether a way out of this plan needs a product or a medium that
// Offer could bring.
func (p Plan) Seeks() bool {
	return slices.ContainsFunc(p.Findings, func(f finding.Finding) bool { return f.Seek != nil })
}

// SeeksKinds are the kinds of product among which a way out is sought.
func (p Plan) SeeksKinds() []string {
	var kinds []string
	for _, f := range p.Findings {
		if f.Seek == nil {
			continue
		}
		for _, k := range f.Seek.Kinds {
			if !slices.Contains(kinds, string(k)) {
				kinds = append(kinds, string(k))
			}
		}
	}
	return kinds
}

// Offered is the plan with the ways out that need a product or a medium: from the
// file first, then from those that the shelf offers, in their order. What is not
// in the file yet comes with the fix.
func (p Plan) Offered(f job.File, products []material.Product, media []material.Medium) Plan {
	p.Findings = slices.Clone(p.Findings)
	for i := range p.Findings {
		found := &p.Findings[i]
		if found.Seek == nil {
			continue
		}
		if fits := found.Seek.Fits; fits != nil {
			if q, add := choose(f.Products, products, fits, func(q material.Product) string { return q.ID }); q != nil {
				found.Fix = found.Seek.Fix(*q)
				if add {
					found.Fix.Patch = append([]finding.PatchStep{{Op: "add", Path: "/products/-", Value: *q}}, found.Fix.Patch...)
				}
			}
		}
		if fits := found.Seek.FitsMedium; fits != nil {
			if q, add := choose(f.Media, media, fits, func(q material.Medium) string { return q.ID }); q != nil {
				found.Fix = found.Seek.FixMedium(*q)
				if add {
					bring := finding.PatchStep{Op: "add", Path: "/media/-", Value: *q}
					if len(f.Media) == 0 {
						bring = finding.PatchStep{Op: "add", Path: "/media", Value: []material.Medium{*q}}
					}
					found.Fix.Patch = append([]finding.PatchStep{bring}, found.Fix.Patch...)
				}
			}
		}
	}
	return p
}

// choose takes the first that fits, what is in the file before what is offered.
func choose[T any](own, offered []T, fits func(T) bool, id func(T) string) (chosen *T, add bool) {
	for i := range own {
		if fits(own[i]) {
			return &own[i], false
		}
	}
	for i := range offered {
		there := slices.ContainsFunc(own, func(o T) bool { return id(o) == id(offered[i]) })
		if !there && fits(offered[i]) {
			return &offered[i], true
		}
	}
	return nil, false
}
