package plan

import (
	"maps"
	"slices"
	"strings"

	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
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

// SupplyNeed holds what preparation takes of one material, over the whole job.
type SupplyNeed struct {
	Name   string         `json:"name"`
	Medium string         `json:"medium,omitempty" doc:"The id of the medium or tool whose packs it is bought in"`
	Kind   measure.Kind   `json:"kind" enum:"length,area,volume,mass,count"`
	Value  float64        `json:"value" doc:"SI"`
	Stock  float64        `json:"stock,omitempty" doc:"SI in stock, used first"`
	Steps  []string       `json:"steps" doc:"Names of the steps that take it"`
	Lines  []kit.PackLine `json:"lines"`
	Cost   *float64       `json:"cost,omitempty"`
}

// asTools returns which tool stands for a material of preparation, by its name: counted by the preparation where there
// is one, and by the area or the walls where there is none.
func asTools() map[string]string {
	return map[string]string{survey.Tape: "tool-tape", survey.Caulk: "tool-caulk", survey.DoorStrip: "tool-dam",
		survey.Discs: "tool-disc", survey.Pads: "tool-pad"}
}

// countedBy lists the tools that the preparation of a surface counts; none where nothing was surveyed.
func countedBy(s *stage.SurveyPlan) []string {
	if s == nil || s.Preparation == nil {
		return nil
	}
	return slices.Sorted(maps.Values(asTools()))
}

// prepared sums what the preparation of all surfaces takes, and chooses its packs. Water is not bought.
func prepared(in *input.Inputs, surfaces []SurfacePlan) []SupplyNeed {
	all := []SupplyNeed{}
	for _, s := range surfaces {
		if s.Survey == nil || s.Survey.Preparation == nil {
			continue
		}
		for _, t := range s.Survey.Preparation.Tasks {
			for _, item := range t.Items {
				if strings.HasPrefix(item.Name, "Water") || item.Value <= 0 {
					continue
				}
				at := slices.IndexFunc(all, func(n SupplyNeed) bool { return n.Name == item.Name && n.Kind == item.Kind })
				if at < 0 {
					at, all = len(all), append(all, SupplyNeed{Name: item.Name, Kind: item.Kind, Steps: []string{}})
				}
				all[at].Value += item.Value
				if !slices.Contains(all[at].Steps, t.Name) {
					all[at].Steps = append(all[at].Steps, t.Name)
				}
			}
		}
	}
	for n := range all {
		packSupply(in, &all[n])
	}
	return all
}

// packSupply takes what is in stock off a material of preparation and chooses its packs: of the medium of its name, of
// the tool that it stands for, or single pieces.
func packSupply(in *input.Inputs, n *SupplyNeed) {
	var packs []material.Pack
	packs, n.Medium = supplyPacks(in.File.Media, n.Name, n.Kind)
	for _, c := range in.File.Job.Stock {
		if c.Sheet == n.Medium && n.Medium != "" && c.Part == "medium" && !c.TouchUp && n.Kind == measure.KindMass {
			n.Stock += float64(c.Mass)
		}
	}
	n.Lines, n.Cost = kit.Packs(max(0, n.Value-n.Stock), packs)
}

// supplyPacks returns the packs of a material of preparation, and the medium of a file that they are of.
func supplyPacks(media []material.Medium, name string, kind measure.Kind) (packs []material.Pack, medium string) {
	tool := asTools()[name]
	if kind == measure.KindCount {
		packs = append(packs, material.Pack{Name: "piece", Amount: 1})
	}
	usual := kit.UsualTools()
	for k, m := range append(usual, media...) {
		named := m.Kind == "supply" && strings.EqualFold(m.Name, name) && m.Counted() == kind
		if (named || tool != "" && m.ID == tool) && len(m.Packs) > 0 {
			if packs = m.Packs; k >= len(usual) {
				medium = m.ID
			}
		}
	}
	return packs, medium
}

// materialsCost sums what everything beside the kits costs, and counts what has no price.
func materialsCost(p Plan) (cost float64, unpriced int) {
	add := func(bought bool, price *float64) {
		switch {
		case price != nil:
			cost += *price
		case bought:
			unpriced++
		}
	}
	for _, m := range p.Media {
		add(m.Mass > m.Stock || m.Volume > 0, m.Cost)
	}
	for _, s := range p.Supplies {
		add(s.Value > s.Stock, s.Cost)
	}
	for _, t := range p.Tools {
		add(t.Packs > 0, t.Cost)
	}
	return cost, unpriced
}

// suppliesOf counts the media and the tools of the whole job.
func suppliesOf(in *input.Inputs, p Plan) ([]MediumNeed, []kit.Tool) {
	media := []MediumNeed{}
	work, coats := kit.Work{People: in.File.Job.Crew.People(), Mist: in.Methods.Bubbles == school.Alcohol,
		Second: in.Methods.Residue.Second(), Reused: in.Methods.Vessels == school.ReusedVessels}, 0
	if in.Methods.Bubbles.Heats() {
		work.Heater = string(in.Methods.Bubbles)
	}
	type named struct{ medium, name string }
	at := make(map[named]int)
	for i, s := range p.Surfaces {
		site := kit.Site{Place: in.File.Job.Surfaces[i].Kind()}
		if s.Takeoff != nil {
			site.Area, site.Perimeter, site.Doors = s.Takeoff.Area, s.Takeoff.Perimeter, s.Takeoff.Openings
			site.Ground, site.Counted = groundArea(in, s, site), countedBy(s.Survey)
		}
		for c, coat := range s.Coats {
			if coat.Build == nil {
				continue
			}
			done := kit.CoatWork{Kind: in.Layers[i][c].Sheet.Product.Kind, Area: s.Takeoff.Area,
				Stones: in.Layers[i][c].Coat.Wets(), Mixed: len(in.Layers[i][c].Sheet.Product.Components) > 1}
			if coat.Division != nil {
				done.Batches = len(coat.Division.Batches)
				for _, card := range coat.Cards {
					done.Cups += len(card.Cups)
				}
			}
			work.Mist = work.Mist || in.Layers[i][c].Coat.Colours != nil && in.Layers[i][c].Coat.Colours.Mists > 0
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
