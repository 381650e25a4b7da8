package stage

import (
	"math"
	"time"

	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/work"
)

// drawn reports whether a pail is emptied while it is spread, not at once.
func drawn(l school.Laying) bool { return l != school.PourAndSpread && l != school.Trowel }

// What stands in for times of a pour that nobody entered: common practice, no source.
const (
	lapReach = 1.0 // m that a section is worked on in one strip
)

// sectionLoad holds what a train needs to know of a section.
type sectionLoad struct {
	area   float64
	carry  float64 // m from the mixing place
	walls  float64 // m to cut in along
	far    float64 // m of them that a joined section comes to last
	beside []int
	lap    float64
}

// sectionLoads returns the sections of a coat as its train takes them.
func sectionLoads(in *input.Inputs, l input.ResolvedCoat, laid LaidCoat) []sectionLoad {
	all := make([]sectionLoad, len(laid.Sections))
	joined := in.Methods.Session == school.WholeFloor
	for k, s := range laid.Sections {
		g := &all[k]
		g.area = float64(s.Area + s.Parts)
		if k < len(laid.carry) {
			g.carry = float64(laid.carry[k])
		}
		for _, r := range s.Rings {
			g.walls += r.Perimeter()
		}
		edge := float64(s.Edge)
		g.walls -= edge
		for _, c := range laid.Cuts {
			if c.After == k+1 {
				g.walls -= float64(c.Wet)
			}
		}
		g.walls = math.Max(0, g.walls)
		switch {
		case !joined || k == 0:
		case len(s.Rings) == 0: // by area alone, one after the other
			g.beside = []int{k - 1}
		default:
			for _, n := range s.Beside {
				g.beside = append(g.beside, n-1)
			}
		}
		if edge == 0 { // nothing is joined, or nobody knows along what
			edge = math.Sqrt(g.area)
		}
		g.lap = math.Min(1, lapReach*edge/math.Max(g.area, lapReach))
		if len(g.beside) > 0 { // what is more than both its sides, as deep as it is
			g.far = math.Max(0, g.walls-2*g.area/edge)
		}
	}
	return all
}

// trainOf returns the pour of a coat with what is known of it: its batches over its sections,
// by its crew. Edge returns the working time of a film laid at a time.
func trainOf(in *input.Inputs, l input.ResolvedCoat, d *kit.Division, grounds []sectionLoad, area measure.Area,
	life *Lives, edge func(measure.Span) measure.Span, shift, light measure.Span) sim.Train {
	crew := l.Crew
	out := sim.Train{
		Batches: make([]sim.Batch, len(d.Batches)), People: in.Named(l.Coat.ID, crew), Drills: l.Drills,
		Drawn: drawn(l.Laying), Edge: edge, Dries: l.Sheet.Product.Dries(), Shift: shift, Light: light,
	}
	ages := life.Ages(in.Slab)
	share := l.Divides
	whole, walls := 0.0, 0.0
	for _, g := range grounds {
		whole += g.area
		walls += g.walls
	}
	if walls == 0 {
		share.Spread, share.CutIn = share.Spread+share.CutIn, 0
	}
	laying := float64(area) / float64(crew.Pace.Value) // person-seconds in all
	mixing := l.Mixing
	casting := l.Casting(measure.Film(float64(d.Mixed)/float64(area))) * measure.Span(area)
	for k, b := range d.Batches {
		g := sectionLoad{area: float64(b.Volume)}
		part := float64(b.Volume / d.Mixed)
		if k < len(grounds) && whole > 0 {
			g = grounds[k]
			part = g.area / whole
		}
		work := laying * part
		cut := 0.0
		if walls > 0 {
			cut = laying * share.CutIn * g.walls / walls
		}
		batch := sim.Batch{
			Open: l.Opens(d), Mix: mixing.Hands(), Stand: mixing.Stand, Carry: l.Carry + measure.Span(g.carry/l.Walking),
			Beside: g.beside, Lap: g.lap,
			Far: measure.Span(cut * g.far / math.Max(g.walls, lapReach)),
			Works: sim.Works(measure.Span(work*share.Pour), measure.Span(cut), measure.Span(work*share.Spread),
				measure.Span(work*share.Roll), casting*measure.Span(part)),
		}
		crossRoll(l, &batch, len(g.beside) > 0)
		if life != nil {
			batch.Life = kit.CardLife(l.Sheet.Product, life.Of(b.Mass))
		}
		batch.Ages = ages
		out.Batches[k] = batch
	}
	return out
}

// shiftLeft returns what is left of the shift when a coat is begun; a whole shift where nobody
// works then or no start is planned, and none where it may be laid in parts.
func shiftLeft(in *input.Inputs, at time.Time) measure.Span {
	if in.Methods.Session != school.WholeFloor {
		return 0
	}
	if in.Start != nil {
		if until, open := in.Hours.Closes(at); open {
			return measure.Span(until.Sub(at).Seconds())
		}
	}
	return in.Hours.Work()
}

// crossRoll sets aside of the rolling of a section that is joined what goes over its join a
// second time.
func crossRoll(l input.ResolvedCoat, b *sim.Batch, joined bool) {
	if laying := l.Laying; !joined || laying != school.PourAndSpread && laying != school.DipAndRoll {
		return
	}
	b.CrossRolled()
}

// lightLeft returns how long there is light enough when a coat is begun; 0 where lamps light
// the place or no start is planned.
func lightLeft(in *input.Inputs, at time.Time) measure.Span {
	if in.Start == nil || in.File.Job.Light == "" {
		return 0
	}
	// begun in the dark, it is too dark at once
	return max(1, measure.Span(OnDay(at, in.File.Job.Light).Sub(at).Seconds()))
}

// OnDay is a time of day, HH:MM, on the day of another.
func OnDay(day time.Time, clock string) time.Time {
	at, err := time.Parse("15:04", clock)
	if err != nil {
		return day // refused by the schema
	}
	return time.Date(day.Year(), day.Month(), day.Day(), at.Hour(), at.Minute(), 0, 0, day.Location())
}

// OnFloor is every part on the floor.
func OnFloor() []work.Role { return job.Crew{Spreaders: 1}.Members()[1].Roles }
