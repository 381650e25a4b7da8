package buildup

import (
	"slices"

	"nephelon/core/material"
)

// System is a build-up kept to begin with: coats, bottom to top, of products by
// their ids.
type System struct {
	ID    string               `json:"id" minLength:"1" maxLength:"60" pattern:"^[a-z0-9][a-z0-9-]*$"`
	Name  string               `json:"name" minLength:"1" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	For   material.SurfaceKind `json:"for" doc:"What it is laid on"`
	Use   string               `json:"use,omitempty" maxLength:"400" doc:"Where it fits, in a sentence"`
	Coats []Coat               `json:"coats" minItems:"1" maxItems:"40"`
}

// Names are the ids of the products and the media that the coats name, each
// once.
func (s System) Names() (products, media []string) {
	add := func(list []string, id string) []string {
		if id == "" || slices.Contains(list, id) {
			return list
		}
		return append(list, id)
	}
	for _, c := range s.Coats {
		products = add(products, c.Product)
		for _, n := range c.Media() {
			media = add(media, n.Medium)
		}
	}
	return products, media
}
