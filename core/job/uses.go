package job

import (
	"slices"

	"nephelon/core/material"
)

// names are the ids of the products and the media that the coats of a surface
// name.
func (s Surface) names() (products, media map[string]bool) {
	products, media = make(map[string]bool), make(map[string]bool)
	for _, c := range s.Coats {
		products[c.Product] = true
		for _, n := range c.Media() {
			media[n.Medium] = true
		}
	}
	return products, media
}

// Pruned is the file without the data sheets and media that no coat names any
// more. Tools and what preparation takes stay: they are the company's own and no coat names them.
func (f File) Pruned() File {
	products, media := make(map[string]bool), make(map[string]bool)
	for _, s := range f.Job.Surfaces {
		p, m := s.names()
		for id := range p {
			products[id] = true
		}
		for id := range m {
			media[id] = true
		}
	}
	idle := func(p material.Product) bool { return !products[p.ID] }
	if slices.ContainsFunc(f.Products, idle) {
		f.Products = slices.DeleteFunc(slices.Clone(f.Products), idle)
	}
	unnamed := func(m material.Medium) bool { return m.Kind != "tool" && m.Kind != "supply" && !media[m.ID] }
	if slices.ContainsFunc(f.Media, unnamed) {
		f.Media = slices.DeleteFunc(slices.Clone(f.Media), unnamed)
	}
	return f
}

// Shut reports whether its room has air of its own.
func (s Surface) Shut() bool { return s.Survey != nil && s.Survey.Shut }
