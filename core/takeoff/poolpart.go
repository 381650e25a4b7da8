package takeoff

import (
	"math"

	"nephelon/core/finding"
	"nephelon/core/measure"
)

// PoolPartKind is something built into or onto a shell.
type PoolPartKind string

// The kinds of part. A bench and a swim-out are one high step.
const (
	PoolSteps PoolPartKind = "steps"
	Bench     PoolPartKind = "bench"
	SwimOut   PoolPartKind = "swim-out"
)

// PoolPart is a flight of steps, a bench or a swim-out. Its back stands against
// a wall.
type PoolPart struct {
	ID      string         `json:"id" minLength:"1" maxLength:"60"`
	Name    string         `json:"name" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Kind    PoolPartKind   `json:"kind"`
	Width   measure.Length `json:"width,omitempty" minimum:"0" maximum:"200" doc:"m along the wall"`
	Tread   measure.Length `json:"tread,omitempty" minimum:"0" maximum:"20" doc:"m out from the wall, of one step"`
	Riser   measure.Length `json:"riser,omitempty" minimum:"0" maximum:"20" doc:"m of height of one step"`
	Count   int            `json:"count,omitempty" minimum:"0" maximum:"40" doc:"Treads; one when left out"`
	Walled  int            `json:"walled,omitempty" minimum:"0" maximum:"2" doc:"Ends that stand against a wall, too"`
	Outside bool           `json:"outside,omitempty" doc:"Set into the wall, outside the shell's outline"`
	Depth   measure.Length `json:"depth,omitempty" minimum:"0" maximum:"50" doc:"m from the top edge to the floor in front; for one set into the wall"`
}

func (p PoolPart) title() string {
	switch {
	case p.Name != "":
		return p.Name
	case p.Kind == Bench:
		return "Bench"
	case p.Kind == SwimOut:
		return "Swim-out"
	}
	return "Steps"
}

// addPoolPart counts what a part adds to the shell: inside, its treads take the
// place of floor that is wet already and its back hides as much wall as its
// risers show, so that only its ends count, those in the open more, those
// against a wall less; set into the wall, its treads and its two cheeks.
func (t *Takeoff) addPoolPart(p PoolPart, path string, deepest, line float64, units measure.System) []finding.Finding {
	steps := max(1, p.Count)
	switch {
	case p.Width <= 0 || p.Tread <= 0 || p.Riser <= 0:
		return refused(path, "It needs a width, a tread and a riser.", "%s has no size yet.", p.title())
	case !p.Outside && float64(p.Width) > float64(t.Perimeter)/2:
		return refused(path+"/width", "Enter how far it runs along its wall.",
			"%s is %s wide, more than half the way around the pool.", p.title(), units.Length(p.Width))
	case !p.Outside && float64(steps)*float64(p.Tread) > float64(t.Perimeter)/2:
		return refused(path+"/tread", "Measure one tread; the count multiplies it.",
			"%s would reach %s out from its wall, more than half the way around the pool.", p.title(),
			units.Length(p.Tread*measure.Length(steps)))
	case float64(steps)*float64(p.Riser) > deepest:
		return refused(path+"/riser", "Measure one riser; the count multiplies it.",
			"%s would be %s high, more than the pool is deep, %s.", p.title(), units.Length(p.Riser*measure.Length(steps)),
			units.Length(measure.Length(deepest)))
	case p.Outside && p.Depth < p.Riser*measure.Length(steps):
		return refused(path+"/depth", "Measure from the top edge to the floor in front of it.",
			"%s is set into the wall, but the depth of %s in front of it is less than its height.", p.title(),
			units.Length(p.Depth))
	}
	var in inputs
	n, tread, riser := in.count("Treads", steps), in.length("Tread", p.Tread), in.length("Riser", p.Riser)
	profile := tread * riser * n * (n + 1) / 2
	if p.Outside {
		width := in.length("Width", p.Width)
		above := in.length("Depth over the top tread", p.Depth-p.Riser*measure.Length(steps))
		cheek := n*tread*above + tread*riser*n*(n-1)/2
		t.add(Panel{Name: p.title() + ", treads", Facing: Level, Area: measure.Area(n * tread * width), Run: p.Width,
			Start: measure.Length(n * tread), End: measure.Length(n * tread), Group: len(t.Panels)},
			measure.Working{Formula: "treads × tread × width; the risers and the wall behind stand in for the wall left open",
				Inputs: in.values})
		t.add(Panel{Name: p.title() + ", cheeks", Facing: Vertical, Area: measure.Area(2 * cheek), Group: len(t.Panels) - 1},
			measure.Working{Formula: "2 × (treads × tread × depth over the top tread + tread × riser × treads × (treads − " +
				"1) ÷ 2)", Inputs: in.values})
		t.Water += measure.Volume(math.Max(0, cheek-n*tread*line) * width)
		return nil
	}
	open := 2 - p.Walled
	ends := in.count("Ends in the open", open) - in.count("Ends against a wall", p.Walled)
	t.Water = measure.Volume(math.Max(0, float64(t.Water)-profile*float64(p.Width)))
	w := measure.Working{Formula: "(open ends − walled ends) × tread × riser × treads × (treads + 1) ÷ 2; treads " +
		"replace floor, risers the wall behind", Inputs: in.values}
	switch {
	case ends > 0:
		t.add(Panel{Name: p.title() + ", ends", Facing: Vertical, Area: measure.Area(ends * profile),
			Group: len(t.Panels)}, w)
	case ends < 0:
		t.lessen(p.title()+", wall hidden at its ends", Vertical, measure.Area(-ends*profile), w)
	default:
		t.Pieces = append(t.Pieces, Piece{Name: p.title() + ", as much as it hides"})
	}
	return nil
}

// Values returns all values, in the order in which they are shown.
func (PoolPartKind) Values() []PoolPartKind {
	return []PoolPartKind{PoolSteps, Bench, SwimOut}
}
