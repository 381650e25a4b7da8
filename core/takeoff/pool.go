package takeoff

import (
	"fmt"
	"math"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// PoolForm is the outline of a pool on plan.
type PoolForm string

// The forms. A round and an oval pool, a rectangle and an L have a floor whose
// depth changes along the length alone, or a hopper; a freeform one has depths
// at points.
const (
	Rectangular PoolForm = "rectangle"
	LShaped     PoolForm = "l"
	Round       PoolForm = "round"
	Oval        PoolForm = "oval"
	Freeform    PoolForm = "freeform"
)

// Pool is a shell to be coated. All depths are measured down from the top edge
// of the wall, as a tape hangs in the empty pool.
type Pool struct {
	Form     PoolForm       `json:"form"`
	Length   measure.Length `json:"length,omitempty" minimum:"0" maximum:"1000" doc:"m from the shallow end to the deep end; of a round pool its diameter"`
	Width    measure.Length `json:"width,omitempty" minimum:"0" maximum:"1000" doc:"m"`
	Shallow  measure.Length `json:"shallow,omitempty" minimum:"0" maximum:"50" doc:"m of depth at the shallow end"`
	Break    measure.Length `json:"break,omitempty" minimum:"0" maximum:"50" doc:"m of depth where the slope begins; as at the shallow end when left out"`
	Deep     measure.Length `json:"deep,omitempty" minimum:"0" maximum:"50" doc:"m of depth at the deep end; as at the break when left out"`
	FlatRun  measure.Length `json:"flatRun,omitempty" minimum:"0" maximum:"1000" doc:"m on plan of the shallow floor"`
	SlopeRun measure.Length `json:"slopeRun,omitempty" minimum:"0" maximum:"1000" doc:"m on plan of the slope; as far as the deep end when left out. A hopper sets its own"`
	Hopper   *Hopper        `json:"hopper,omitempty" doc:"Hopper of a rectangle or an L"`
	Arm      *Arm           `json:"arm,omitempty" doc:"Second arm of an L"`
	Outline  geometry.Ring  `json:"outline,omitempty" maxItems:"500" doc:"Outline of a freeform pool"`
	Depths   []Depth        `json:"depths,omitempty" maxItems:"300" doc:"Depths of a freeform pool"`
	Water    measure.Length `json:"water,omitempty" minimum:"0" maximum:"10" doc:"m from the top edge down to the water"`
	Band     measure.Length `json:"band,omitempty" minimum:"0" maximum:"10" doc:"m of the wall below the top edge left bare, such as a tiled waterline band"`
	Coping   measure.Length `json:"coping,omitempty" minimum:"0" maximum:"5" doc:"m of width coated on the coping"`
	Parts    []PoolPart     `json:"parts,omitempty" maxItems:"60" doc:"Steps, benches and swim-outs"`
}

// leastRun is the shortest stretch of a floor that a tape reads.
const leastRun measure.Length = 0.005

// Hopper is a pad in the deep end with slopes down to it from every side. The
// walls around it are as deep as at the break.
type Hopper struct {
	Length  measure.Length `json:"length" minimum:"0" maximum:"1000" doc:"m of the pad along the pool"`
	Width   measure.Length `json:"width" minimum:"0" maximum:"1000" doc:"m of the pad across, midway between the walls"`
	FromEnd measure.Length `json:"fromEnd" minimum:"0" maximum:"1000" doc:"m on plan from the pad to the deep end wall"`
}

// Arm is the short arm of an L, square to a long wall. Its floor goes on at the
// depth that the pool has beside it.
type Arm struct {
	At       measure.Length `json:"at" minimum:"0" maximum:"1000" doc:"m from the shallow end to its near side"`
	Width    measure.Length `json:"width" minimum:"0" maximum:"1000" doc:"m along the long wall"`
	Out      measure.Length `json:"out" minimum:"0" maximum:"1000" doc:"m that it reaches out"`
	Mirrored bool           `json:"mirrored,omitempty" doc:"Whether the arm is on the other side"`
}

// Depth is a depth measured at a place of a freeform pool.
type Depth struct {
	ID    string         `json:"id" minLength:"1" maxLength:"60"`
	At    geometry.Point `json:"at"`
	Depth measure.Length `json:"depth" minimum:"0" maximum:"50" doc:"m"`
}

func (p Pool) measured() bool {
	switch p.Form {
	case Freeform:
		return len(p.Outline) > 0
	case Round:
		return p.Length > 0
	}
	return p.Length > 0 && p.Width > 0
}

// measurePool gives the wetted area of a pool: its floor on the true slope and
// its walls, less what is left bare, and the water it holds.
func measurePool(p Pool, path string, units measure.System) (*Takeoff, []geometry.Point, []finding.Finding) {
	var (
		t     Takeoff
		bed   bed
		at    []geometry.Point
		found []finding.Finding
	)
	if p.Form == Freeform {
		at, found = p.freeform(&t, &bed, path, units)
	} else {
		if found = p.check(path, units); len(found) == 0 {
			p.shaped(&t, &bed)
		}
	}
	if len(found) > 0 {
		return nil, at, found
	}
	t.Perimeter = measure.Length(bed.around)
	t.Sides = []measure.Length{}
	t.Water = measure.Volume(math.Max(0, bed.water))
	if p.Band > 0 {
		if deepest := measure.Length(bed.least); p.Band > deepest {
			return nil, nil, refused(path+"/band", "Enter how much of the wall below the top edge stays bare.",
				"the bare band of %s is higher than the lowest wall, %s.", units.Length(p.Band), units.Length(deepest))
		}
		var in inputs
		area := in.length("Around the shell", t.Perimeter) * in.length("Height of the band", p.Band)
		t.lessen("Bare waterline band", Vertical, measure.Area(area),
			measure.Working{Formula: "length around × height", Inputs: in.values})
	}
	if p.Coping > 0 {
		var in inputs
		area := in.length("Around the shell", t.Perimeter) * in.length("Width on the coping", p.Coping)
		t.add(Panel{Name: "Coping return", Facing: Level, Area: measure.Area(area), Run: t.Perimeter, Start: p.Coping,
			End: p.Coping, Group: len(t.Panels)},
			measure.Working{Formula: "length around × width", Inputs: in.values})
	}
	for i, part := range p.Parts {
		if found := t.addPoolPart(part, fmt.Sprintf("%s/parts/%d", path, i), bed.most, float64(p.Water),
			units); len(found) > 0 {
			return nil, nil, found
		}
	}
	if t.Facing.Vertical < 0 || t.Area <= 0 {
		return nil, nil, refused(path+"/parts", "Check the widths and heights of the steps and benches.",
			"the steps and benches hide more wall than the pool has.")
	}
	t.sum("Wetted area")
	return &t, nil, nil
}

// bed holds what the parts of a shell add up to.
type bed struct {
	around      float64 // length of the top edge
	water       float64 // volume below the water line
	least, most float64 // depths along the wall, and anywhere
}

const noSuchRun = "Leave it out where there is none, or check its unit."

// check names the first measure of a shaped pool that cannot be.
func (p Pool) check(path string, units measure.System) []finding.Finding {
	broken, deep := p.depths()
	length, width := p.plan()
	say := units.Length
	switch {
	case length <= 0 || width <= 0:
		return refused(path+"/length", "Enter the length and the width of the shell.", "the pool has no size yet.")
	case p.Shallow <= 0:
		return refused(path+"/shallow", "Hang the tape from the top edge of the wall at the shallow end.",
			"the pool has no depth at the shallow end yet.")
	case p.FlatRun > length:
		return refused(path+"/flatRun", fmt.Sprintf("Enter at most %s.", say(length)),
			"the shallow floor of %s is longer than the pool, %s.", say(p.FlatRun), say(length))
	case p.FlatRun+p.SlopeRun > length*(1+1e-9) && p.Hopper == nil:
		return refused(path+"/slopeRun", fmt.Sprintf("The slope can be %s on plan at most.", say(length-p.FlatRun)),
			"the shallow floor and the slope, %s together, are longer than the pool, %s.", say(p.FlatRun+p.SlopeRun),
			say(length))
	case p.FlatRun > 0 && p.FlatRun < leastRun:
		return refused(path+"/flatRun", noSuchRun, "a part of the floor %s long is too short to be measured.",
			say(p.FlatRun))
	case p.SlopeRun > 0 && p.SlopeRun < leastRun && p.Hopper == nil:
		return refused(path+"/slopeRun", noSuchRun, "a part of the floor %s long is too short to be measured.",
			say(p.SlopeRun))
	case p.Water >= max(p.Shallow, broken, deep):
		return refused(path+"/water", "Enter the distance from the top edge down to the water line.",
			"the water would stand %s below the top edge, under the deepest floor.", say(p.Water))
	case p.FlatRun == length && p.Hopper == nil && deep != broken:
		return refused(path+"/flatRun", "Shorten the shallow floor, or make both ends as deep.",
			"the shallow floor takes the whole length, so nothing is left to slope down to %s.", say(deep))
	}
	if h := p.Hopper; h != nil {
		switch {
		case p.Form != Rectangular && p.Form != LShaped:
			return refused(path+"/hopper", "Draw the pool freeform with depths at points, or leave the hopper out.",
				"only a rectangle or an L can have a hopper here.")
		case h.Length <= 0 || h.Width <= 0:
			return refused(path+"/hopper/length", "Enter the length and the width of the pad at the bottom.",
				"the hopper has no pad yet.")
		case h.Width > width:
			return refused(path+"/hopper/width", fmt.Sprintf("Enter at most %s.", say(width)),
				"the pad of the hopper, %s wide, is wider than the pool, %s.", say(h.Width), say(width))
		case h.Length+h.FromEnd > length-p.FlatRun:
			return refused(path+"/hopper/length", fmt.Sprintf("Behind the shallow floor there are %s.", say(length-p.FlatRun)),
				"the pad of the hopper and its slope to the end wall take %s of the pool's length.", say(h.Length+h.FromEnd))
		case deep <= broken:
			return refused(path+"/deep", fmt.Sprintf("Enter more than %s.", say(broken)),
				"the hopper is no deeper than the floor around it, %s.", say(broken))
		}
	}
	return p.checkArm(path, units)
}

func (p Pool) checkArm(path string, units measure.System) []finding.Finding {
	l, say := p.Arm, units.Length
	switch {
	case p.Form != LShaped:
		return nil
	case l == nil || l.Width <= 0 || l.Out <= 0:
		return refused(path+"/arm", "Enter how wide the arm is and how far it reaches out.",
			"the arm of the L has no size yet.")
	case l.At+l.Width > p.Length*(1+1e-9):
		return refused(path+"/arm/at", fmt.Sprintf("It must end within %s of the shallow end.", say(p.Length)),
			"the arm ends %s from the shallow end, beyond the pool.", say(l.At+l.Width))
	case p.Hopper != nil && l.At+l.Width > p.FlatRun*(1+1e-9):
		return refused(path+"/arm/at", "Move it to the shallow floor, or draw the pool freeform.",
			"the arm opens into the hopper, where the walls slope.")
	}
	return nil
}

// depths are the depth at the break and at the deep end, with what stands in.
func (p Pool) depths() (broken, deep measure.Length) {
	broken, deep = p.Break, p.Deep
	if broken == 0 {
		broken = p.Shallow
	}
	if deep == 0 {
		deep = broken
	}
	return broken, deep
}

// plan is the size of the shell on plan.
func (p Pool) plan() (length, width measure.Length) {
	if p.Form == Round {
		return p.Length, p.Length
	}
	return p.Length, p.Width
}

// reach is a stretch of the floor along the pool, falling evenly.
type reach struct {
	name     string
	from, to float64 // m from the shallow end
	at, then float64 // depths
}

func (r reach) slope() float64 { return (r.then - r.at) / (r.to - r.from) }

// depth at a distance from the shallow end.
func (r reach) depth(x float64) float64 { return r.at + r.slope()*(x-r.from) }

// kind returns how the picture shows it.
func (r reach) kind() string {
	if r.at != r.then {
		return "slope"
	}
	return "floor"
}

// facing of a plane that falls by the slope.
func facing(slope float64) Facing {
	switch degrees := math.Atan(math.Abs(slope)) * 180 / math.Pi; {
	case degrees <= steepFrom:
		return Level
	case degrees <= verticalFrom:
		return Steep
	}
	return Vertical
}

// reaches are the stretches of the floor, shallow end first. A hopper begins
// behind the first.
func (p Pool) reaches() []reach {
	broken, deep := p.depths()
	length, flat, slope := float64(p.Length), float64(p.FlatRun), float64(p.SlopeRun)
	var all []reach
	add := func(name string, from, to, at, then float64) {
		if to-from > geometry.Tolerance {
			all = append(all, reach{name, from, to, at, then})
		}
	}
	if p.Hopper != nil {
		add("shallow floor", 0, flat, float64(p.Shallow), float64(broken))
		return all
	}
	if slope == 0 || flat+slope > length {
		slope = length - flat
	}
	if broken == deep && p.Shallow == broken {
		add("floor", 0, length, float64(broken), float64(broken))
		return all
	}
	add("shallow floor", 0, flat, float64(p.Shallow), float64(broken))
	from := float64(broken)
	if flat <= geometry.Tolerance {
		from = float64(p.Shallow)
	}
	add("slope", flat, flat+slope, from, float64(deep))
	add("deep floor", flat+slope, length, float64(deep), float64(deep))
	return all
}

// Values returns all values, in the order in which they are shown.
func (PoolForm) Values() []PoolForm {
	return []PoolForm{Rectangular, LShaped, Round, Oval, Freeform}
}
