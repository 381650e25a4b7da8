package pour

import (
	"cmp"
	"slices"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Layout holds how a crew chooses to work across a surface.
type Layout struct {
	Exit      *geometry.Point `json:"exit,omitempty" doc:"The door by which the crew leaves"`
	Closes    string          `json:"closes,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"When it is shut, by the clock on site; never when left out"`
	Others    []Exit          `json:"others,omitempty" maxItems:"20" doc:"Other doors; the work ends at whichever suits best"`
	Mixing    *geometry.Point `json:"mixing,omitempty" doc:"Where batches are mixed; they are carried from there through the floor"`
	Walkway   *measure.Length `json:"walkway,omitempty" minimum:"0.3" maximum:"5" doc:"m that the way out is wide at least; 0.6 when left out"`
	Direction *measure.Angle  `json:"direction,omitempty" minimum:"-360" maximum:"360" doc:"Degrees from the x axis along which the work moves; the cut lines lie square to it. Chosen by the plan when left out"`
}

// Exit is a door by which a crew can leave.
type Exit struct {
	At     geometry.Point `json:"at"`
	Closes string         `json:"closes,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"When it is shut, by the clock on site; never when left out"`
}

// exits are all doors, those that are never shut before all others.
func (l Layout) exits() []Exit {
	if l.Exit == nil {
		return nil
	}
	all := append([]Exit{{*l.Exit, l.Closes}}, l.Others...)
	slices.SortStableFunc(all, func(a, b Exit) int { return cmp.Compare(min(1, len(a.Closes)), min(1, len(b.Closes))) })
	return all
}

// worth are the doors that the work may end at: those that are never shut, or else all.
func (l Layout) worth() []Exit {
	all := l.exits()
	if shut := slices.IndexFunc(all, func(e Exit) bool { return e.Closes != "" }); shut > 0 {
		return all[:shut]
	}
	return all
}
