package advice

import (
	"fmt"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
)

// offSlab says where a coat is laid on a slab that its sheet does not allow.
func offSlab(in *input.Inputs, l input.ResolvedCoat, c *stage.CoatTimes) *finding.Finding {
	p := l.Sheet.Product
	if (p.SlabMin == nil || c.Slab >= p.SlabMin.Value) && (p.SlabMax == nil || c.Slab <= p.SlabMax.Value) {
		return nil
	}
	when, way := "", "Plan for another slab, warm or shade the place, or take a product for this one."
	if c.Start != nil {
		when = " at " + hour(in, *c.Start)
		way = "Start at another hour, warm or shade the place, or take a product for this slab."
	}
	out := finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.Path,
		Text: fmt.Sprintf("Coat %d of %s goes on a slab of %s%s; its sheet refuses all but %s.", l.Number, p.Name,
			in.Units.Temperature(c.Slab), when, rangeOf(in, p.SlabMin, p.SlabMax)),
		WayOut: way,
	}
	fits := func(q *material.Product) bool {
		return q.SlabMin != nil && c.Slab >= q.SlabMin.Value && (q.SlabMax == nil || c.Slab <= q.SlabMax.Value)
	}
	for _, h := range sheetOf(in, l).Hardeners {
		if with, err := sheetOf(in, l).With(h.ID); err == nil && h.ID != l.Coat.Hardener && fits(&with) {
			out.Fix = &finding.Fix{Label: "Take the hardener " + h.Name,
				Patch: []finding.PatchStep{{Op: "add", Path: l.Path + "/hardener", Value: h.ID}}}
			return &out
		}
	}
	out.Seek = &finding.Seek{Kinds: []material.Kind{p.Kind}, Fits: func(q material.Product) bool {
		return q.ID != p.ID && q.Chemistry == p.Chemistry && q.Look == p.Look && fits(&q)
	}, Fix: func(q material.Product) *finding.Fix {
		other := l.Coat
		other.Product, other.Hardener, other.Amount = q.ID, "", buildup.Usual(q)
		return &finding.Fix{Label: fmt.Sprintf("Take %s for coat %d", q.Name, l.Number),
			Patch: []finding.PatchStep{{Op: "replace", Path: l.Path, Value: other}}}
	}}
	return &out
}

// sheetOf returns the sheet of a coat with all of its hardeners.
func sheetOf(in *input.Inputs, l input.ResolvedCoat) *material.Product {
	return in.Sheets[material.SheetKey{Product: l.Coat.Product}].Product
}
