package record

import "nephelon/core/geometry"

// Laid is the section of a coat that a place on the plan lies in.
type Laid struct {
	Coat  string `json:"coat"`
	Batch int    `json:"batch"`
}

// over returns the sections of all coats of a surface that a place of one of its coats lies in, the lowest coat first.
func (i *Issue) over(coat string, place *[2]float64) []Laid {
	seen := i.Coat(coat)
	if place == nil || seen == nil {
		return nil
	}
	at := geometry.Point{X: place[0], Y: place[1]}
	var all []Laid
	for c := range i.Coats {
		if i.Coats[c].Surface != seen.Surface {
			continue
		}
		for b := range i.Coats[c].Batches {
			batch := &i.Coats[c].Batches[b]
			within := false // odd many rings hold a point of the section, even many one of a hole
			for _, ring := range batch.Rings {
				within = within != ring.Holds(at)
			}
			if within {
				all = append(all, Laid{Coat: i.Coats[c].ID, Batch: batch.Number})
				break
			}
		}
	}
	return all
}
