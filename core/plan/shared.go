package plan

import (
	"slices"
	"strings"

	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// SharedOther holds a medium or a material of preparation in all the jobs of a purchase.
type SharedOther struct {
	Name  string         `json:"name"`
	Kind  measure.Kind   `json:"kind" enum:"length,area,volume,mass,count"`
	Value float64        `json:"value" doc:"SI"`
	Stock float64        `json:"stock,omitempty" doc:"SI in stock, used first; a container that two jobs reserved counts once"`
	Jobs  []string       `json:"jobs" doc:"Names of the jobs that take it"`
	Lines []kit.PackLine `json:"lines"`
	Cost  *float64       `json:"cost,omitempty" doc:"Absent where no pack has a price"`
	Apart *float64       `json:"apart,omitempty" doc:"What it costs where each job buys its own"`

	medium string // of the job that adds to it
	packs  []material.Pack
}

// addOthers adds what a job takes beside its kits, with the packs that its file knows; stock is what it reserved and no
// job before it.
func (t *Together) addOthers(f job.File, p Plan, stock []kit.Container) {
	add := func(own SharedOther, cost *float64) {
		at := slices.IndexFunc(t.Others, func(o SharedOther) bool {
			return o.Kind == own.Kind && strings.EqualFold(o.Name, own.Name)
		})
		if at < 0 {
			at = len(t.Others)
			t.Others = append(t.Others, SharedOther{Name: own.Name, Kind: own.Kind, Jobs: []string{}, Apart: new(float64)})
		}
		all := &t.Others[at]
		all.Value += own.Value
		if all.Jobs = append(all.Jobs, f.Job.Name); len(own.packs) > 0 {
			all.packs = own.packs
		}
		if cost == nil || all.Apart == nil {
			all.Apart = nil
		} else {
			*all.Apart += *cost
		}
		for _, c := range stock {
			if own.medium != "" && c.Sheet == own.medium && c.Part == "medium" && !c.TouchUp && own.Kind == measure.KindMass {
				all.Stock += float64(c.Mass)
			}
		}
	}
	for _, m := range p.Media {
		own := SharedOther{Name: m.Name, Kind: measure.KindMass, Value: float64(m.Mass), medium: m.Medium}
		if m.Mass == 0 {
			own.Kind, own.Value = measure.KindVolume, float64(m.Volume)
		}
		if at := slices.IndexFunc(f.Media, func(x material.Medium) bool { return x.ID == m.Medium }); at >= 0 {
			own.packs = f.Media[at].Packs
		}
		add(own, m.Cost)
	}
	for _, s := range p.Supplies {
		packs, medium := supplyPacks(f.Media, s.Name, s.Kind)
		add(SharedOther{Name: s.Name, Kind: s.Kind, Value: s.Value, medium: medium, packs: packs}, s.Cost)
	}
}

// buyOthers chooses the packs of all that is beside the kits, in order of name.
func (t *Together) buyOthers() {
	slices.SortFunc(t.Others, func(a, b SharedOther) int { return strings.Compare(a.Name, b.Name) })
	for n := range t.Others {
		o := &t.Others[n]
		o.Lines, o.Cost = kit.Packs(max(0, o.Value-o.Stock), o.packs)
	}
}
