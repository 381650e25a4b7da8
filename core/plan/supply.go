package plan

import (
	"slices"

	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/school"
	"nephelon/core/survey"
)

// MediumNeed holds what a job takes of one medium.
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

// suppliesOf counts the media and the tools of the whole job.
func suppliesOf(in *input.Inputs, p Plan) ([]MediumNeed, []kit.Tool) {
	media := []MediumNeed{}
	work, coats := kit.Work{People: in.File.Job.Crew.People(), Torch: in.Methods.Bubbles == school.Torch,
		Mist: in.Methods.Bubbles == school.Alcohol}, 0
	type named struct{ medium, name string }
	at := make(map[named]int)
	for i, s := range p.Surfaces {
		site := kit.Site{Place: "floor"}
		switch from := in.File.Job.Surfaces[i]; {
		case from.Top != nil:
			site.Place = "top"
		case from.Pool != nil:
			site.Place = "pool"
		}
		if s.Takeoff != nil {
			site.Area, site.Perimeter, site.Doors = s.Takeoff.Area, s.Takeoff.Perimeter, s.Takeoff.Openings
			site.Ground = groundArea(in, s, site)
		}
		for c, coat := range s.Coats {
			if coat.Build == nil {
				continue
			}
			done := kit.CoatWork{Kind: in.Layers[i][c].Sheet.Product.Kind, Area: s.Takeoff.Area}
			if coat.Division != nil {
				done.Batches = len(coat.Division.Batches)
			}
			site.Coats, coats = append(site.Coats, done), coats+1
			for _, a := range coat.Build.Additions {
				key := named{a.Medium, a.Name}
				n, seen := at[key]
				if !seen {
					n = len(media)
					at[key] = n
					media = append(media, MediumNeed{Medium: a.Medium, Name: a.Name})
				}
				share := 1.0 // of what is needed; what is stirred in follows what is mixed
				if a.Mixed() && coat.Division != nil {
					share = float64(coat.Division.Mixed / coat.Build.Need)
				}
				media[n].Mass += a.Mass * measure.Mass(share)
				media[n].Volume += a.Volume * measure.Volume(share)
			}
		}
		work.Sites = append(work.Sites, site)
	}
	for i := range media {
		media[i] = packMedium(in, media[i])
	}
	if coats == 0 {
		return media, []kit.Tool{}
	}
	return media, kit.Tools(work, in.File.Media, in.Units)
}

// groundArea returns what of a surface is ground: all of it where its preparation says so,
// or where nothing was surveyed and grinding is how this contractor opens a floor.
func groundArea(in *input.Inputs, s SurfacePlan, site kit.Site) measure.Area {
	if s.Survey != nil && s.Survey.Preparation != nil {
		if slices.ContainsFunc(s.Survey.Preparation.Tasks, func(p survey.PreparationTask) bool { return p.ID == "grind" }) {
			return site.Area
		}
		return 0
	}
	if site.Place == "top" || in.Methods.Opening != school.Grind {
		return 0
	}
	return site.Area
}

// packMedium adds the spare of a medium, takes off its stock and chooses its packs.
func packMedium(in *input.Inputs, n MediumNeed) MediumNeed {
	n.Lines = []kit.PackLine{}
	medium := in.Media[n.Medium]
	if medium == nil {
		return n
	}
	if medium.Spare != nil {
		n.Spare = n.Mass * measure.Mass(medium.Spare.Value)
		n.Mass += n.Spare
	}
	for _, c := range in.File.Job.Stock {
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
