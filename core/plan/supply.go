package plan

import (
	"nephelon/core/kit"
	"nephelon/core/measure"
)

// MediumNeed is what a job takes of one medium.
type MediumNeed struct {
	Medium string         `json:"medium,omitempty" doc:"The id of one of the file's media; none where only its kind is known"`
	Name   string         `json:"name"`
	Mass   measure.Mass   `json:"mass,omitempty" doc:"kg, the spare included"`
	Volume measure.Volume `json:"volume,omitempty" doc:"m³"`
	Spare  measure.Mass   `json:"spare,omitempty" doc:"kg of it that are stored for repair, or bounce off"`
	Stock  measure.Mass   `json:"stock,omitempty" doc:"kg in stock, used first"`
	Lines  []kit.PackLine `json:"lines"`
	Cost   *float64       `json:"cost,omitempty"`
}

// supply counts the media and the tools of the whole job.
func (t terms) supply(p Plan) ([]MediumNeed, []kit.Tool) {
	media := []MediumNeed{}
	work := kit.Work{Area: p.Area, People: t.file.Job.Crew.Spreaders + 1}
	type named struct{ medium, name string }
	at := make(map[named]int)
	for i, s := range p.Surfaces {
		if s.Takeoff != nil {
			work.Perimeter += s.Takeoff.Perimeter
			work.Doors += s.Takeoff.Openings
		}
		for c, coat := range s.Coats {
			if coat.Build == nil {
				continue
			}
			done := kit.CoatWork{Kind: t.layers[i][c].sheet.product.Kind, Area: s.Takeoff.Area}
			if coat.Division != nil {
				done.Batches = len(coat.Division.Batches)
			}
			work.Coats = append(work.Coats, done)
			for _, a := range coat.Build.Additions {
				key := named{a.Medium, a.Name}
				n, seen := at[key]
				if !seen {
					n = len(media)
					at[key] = n
					media = append(media, MediumNeed{Medium: a.Medium, Name: a.Name})
				}
				media[n].Mass += a.Mass
				media[n].Volume += a.Volume
			}
		}
	}
	for i := range media {
		media[i] = t.packed(media[i])
	}
	if len(work.Coats) == 0 {
		return media, []kit.Tool{}
	}
	return media, kit.Tools(work, t.file.Media, t.units)
}

// packed adds the spare of a medium, takes off its stock and chooses its packs.
func (t terms) packed(n MediumNeed) MediumNeed {
	n.Lines = []kit.PackLine{}
	medium := t.media[n.Medium]
	if medium == nil {
		return n
	}
	if medium.Spare != nil {
		n.Spare = n.Mass * measure.Mass(medium.Spare.Value)
		n.Mass += n.Spare
	}
	for _, c := range t.file.Job.Stock {
		if c.Sheet == medium.ID && c.Part == "medium" && !c.TouchUp {
			n.Stock += c.Mass
		}
	}
	need := float64(max(0, n.Mass-n.Stock))
	if medium.Kind == "thinner" {
		need = float64(n.Volume)
	}
	n.Lines, n.Cost = kit.Packs(need, medium.Packs)
	return n
}
