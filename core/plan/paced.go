package plan

import (
	"nephelon/core/facts"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/school"
)

// Place names a coat by its number on a surface of a file, both from 0.
type Place struct{ Surface, Coat int }

// CoatsOf returns where a file lays a product in one way on one kind of surface.
func CoatsOf(f job.File, product string, method school.Laying, on material.SurfaceKind) []Place {
	in, _ := input.Read(f, facts.Facts{}, measure.Metric)
	var all []Place
	for i := range in.Layers {
		for c, l := range in.Layers[i] {
			if l.Coat.Product == product && l.Laying == method && in.File.Job.Surfaces[i].Kind() == on {
				all = append(all, Place{i, c})
			}
		}
	}
	return all
}

// Doubts returns how many warnings and refusals a plan has.
func (p *Plan) Doubts() int {
	count := 0
	for _, f := range p.Findings {
		if f.Level == finding.Refused || f.Level == finding.Warning {
			count++
		}
	}
	return count
}
