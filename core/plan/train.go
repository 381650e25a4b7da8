package plan

import (
	"fmt"
	"math"
	"slices"
	"time"

	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/work"
)

// drawn tells whether a pail is emptied while it is spread, not at once.
func drawn(l school.Laying) bool { return l != school.PourAndSpread && l != school.Trowel }

// What stands in for times of a pour that nobody entered: common practice, no source.
const (
	lapReach   = 1.0 // m that a section is worked on in one strip
	looksAhead = 8   // people on the floor that a way out asks for at most
	moreBeside = 4   // of them beside a second mixer
)

// sectionLoad is what of a section a train asks.
type sectionLoad struct {
	area   float64
	carry  float64 // m from the mixing place
	walls  float64 // m to cut in along
	beside []int
	lap    float64
}

// grounds are the sections of a coat as its train takes them.
func sectionLoads(in *inputs, l resolvedCoat, laid laidCoat) []sectionLoad {
	all := make([]sectionLoad, len(laid.sections))
	joined := in.methods.Session == school.WholeFloor
	for k, s := range laid.sections {
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
		for _, c := range laid.cuts {
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
	}
	return all
}

// train is the pour of a coat with what is known of it: its batches over its sections,
// by its crew. Edge tells how long a film laid at a time can be worked.
func trainOf(in *inputs, l resolvedCoat, d *kit.Division, grounds []sectionLoad, area measure.Area, life *lives, edge func(measure.Span) measure.Span, shift, light measure.Span) sim.Train {
	crew := l.crew
	out := sim.Train{
		Batches: make([]sim.Batch, len(d.Batches)), People: crew.Members(), Drills: l.drills,
		Drawn: drawn(l.laying), Edge: edge, Shift: shift, Light: light,
	}
	share := l.divides
	whole, walls := 0.0, 0.0
	for _, g := range grounds {
		whole += g.area
		walls += g.walls
	}
	if walls == 0 {
		share.Spread, share.CutIn = share.Spread+share.CutIn, 0
	}
	laying := float64(area) / float64(crew.Pace.Value) // person-seconds in all
	mixing := l.mixing
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
		cast := 0.0
		if l.thrown {
			cast = float64(area) * part / oneCasts
		}
		batch := sim.Batch{
			Open: l.opens(d), Mix: mixing.Hands(), Stand: mixing.Stand, Carry: l.carry + measure.Span(g.carry/l.walking), Beside: g.beside, Lap: g.lap,
			Works: sim.Works(measure.Span(work*share.Pour), measure.Span(cut), measure.Span(work*share.Spread), measure.Span(work*share.Roll), measure.Span(cast)),
		}
		crossRoll(l, &batch, len(g.beside) > 0)
		if life != nil {
			batch.Life = kit.CardLife(l.sheet.product, life.of(b.Mass))
		}
		out.Batches[k] = batch
	}
	return out
}

// oneCasts is the pace of one person who broadcasts, m²/s.
const oneCasts = work.Casting

// shiftFor is what is left of the shift when a coat is begun; a whole shift where nobody
// works then or no start is planned, and none where it may be laid in parts.
func shiftLeft(in *inputs, at time.Time) measure.Span {
	if in.methods.Session != school.WholeFloor {
		return 0
	}
	if in.start != nil {
		if until, open := in.hours.Closes(at); open {
			return measure.Span(until.Sub(at).Seconds())
		}
	}
	return in.hours.Work()
}

// second sets aside of the rolling of a section that is joined what goes over its join a
// second time.
func crossRoll(l resolvedCoat, b *sim.Batch, joined bool) {
	if laying := l.laying; !joined || laying != school.PourAndSpread && laying != school.DipAndRoll {
		return
	}
	b.CrossRolled()
}

// lightFor is how long there is light enough when a coat is begun; 0 where lamps light
// the place or no start is planned.
func lightLeft(in *inputs, at time.Time) measure.Span {
	if in.start == nil || in.file.Job.Light == "" {
		return 0
	}
	return max(1, measure.Span(onDay(at, in.file.Job.Light).Sub(at).Seconds())) // begun in the dark, it is too dark at once
}

// onDay is a time of day, HH:MM, on the day of another.
func onDay(day time.Time, clock string) time.Time {
	at, err := time.Parse("15:04", clock)
	if err != nil {
		return day // refused by the schema
	}
	return time.Date(day.Year(), day.Month(), day.Day(), at.Hour(), at.Minute(), 0, 0, day.Location())
}

// shut says that the door at which a pour ends is shut before it does.
func doorShut(in *inputs, i int, l resolvedCoat, course *pour.Course, until time.Time) []finding.Finding {
	if course == nil {
		return nil
	}
	_, shuts := course.Exit()
	if shuts == "" || !until.After(onDay(until, shuts)) {
		return nil
	}
	return []finding.Finding{{
		Level: finding.Warning, Step: finding.Pour, Path: surfacePath(i) + "/layout/closes",
		Text: fmt.Sprintf("%s, coat %d: its door is shut at %s, and its last section is done only at %s: nobody comes out that way.",
			in.file.Job.Surfaces[i].Name, l.number, shuts, until.Format("15:04")),
		WayOut: "Start earlier, keep the door open, or mark another exit.",
	}}
}

// pressed says where a pour comes too late for something, and what would mend it.
func tooLate(in *inputs, runner *sim.Runner, i int, l resolvedCoat, train sim.Train, run sim.Run, laid laidCoat) []finding.Finding {
	name := fmt.Sprintf("%s, coat %d", in.file.Job.Surfaces[i].Name, l.number)
	var found []finding.Finding
	for _, m := range run.Moments {
		if m.Slack >= 0 {
			break
		}
		found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Pour, Path: l.path, Text: fmt.Sprintf("%s: %s", name, missedLimit(in, run, m))})
		if m.Limit == sim.OfShift {
			found[len(found)-1].Text += breakOff(in, train, run, laid)
		}
	}
	if len(found) == 0 {
		return nil
	}
	way, fix := leastCrew(in, runner, l, train)
	for n := range found {
		found[n].WayOut, found[n].Fix = way, fix
	}
	return found
}

// missed tells what comes too late, in a sentence.
func missedLimit(in *inputs, run sim.Run, m sim.Pinch) string {
	p, late := run.Passages[m.Batch-1], in.units.Span(-m.Slack)
	switch m.Limit {
	case sim.OfPail:
		return fmt.Sprintf("batch %d is empty %s after A met B, %s after its pot life of %s.", m.Batch, in.units.Span(p.Empty-p.Meets), late, in.units.Span(p.Empty-p.Meets+m.Slack))
	case sim.OfFilm:
		return fmt.Sprintf("section %d is finished %s after its film can no longer be worked.", m.Batch, late)
	case sim.OfJoin:
		return fmt.Sprintf("section %d reaches the edge of the one before %s after that has closed: a lap line shows.", m.Batch, late)
	}
	if m.Limit == sim.OfLight {
		return fmt.Sprintf("it is done %s after the light falls at %s: hair, puddles and thin spots are no longer seen.", late, in.file.Job.Light)
	}
	return fmt.Sprintf("it takes %s, and the shift ends %s before it is done.", in.units.Span(run.Ends), late)
}

// breaking tells after which section a pour can be broken off when the shift ends.
func breakOff(in *inputs, train sim.Train, run sim.Run, laid laidCoat) string {
	last := 0
	for _, p := range run.Passages {
		if p.Done <= train.Shift {
			last = p.Batch
		}
	}
	if last == 0 {
		return " Not even its first section is done by then."
	}
	for _, c := range laid.cuts {
		if c.After == last {
			return fmt.Sprintf(" It can be broken off after section %d, along its join of %s: a clean tape line there, and on the next day it is abraded along it and overlapped.", last, in.units.Length(c.Wet))
		}
	}
	return fmt.Sprintf(" Section %d is the last that is done by then.", last)
}

// resting says that a break falls into a pour, which cannot be paused.
func breakInPour(in *inputs, i int, l resolvedCoat, from, until time.Time) []finding.Finding {
	var found []finding.Finding
	for _, b := range in.hours.Rests(from) {
		if !b[0].Before(until) || !b[1].After(from) {
			continue
		}
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Pour, Path: l.path,
			Text:   fmt.Sprintf("%s, coat %d: the break from %s falls into its pour, which cannot be paused.", in.file.Job.Surfaces[i].Name, l.number, b[0].Format("15:04")),
			WayOut: "Rest before or after it, or one by one.",
		})
	}
	return found
}

// hands is the least crew that makes a pour with the batches it has, as a way out with its
// change to the job: more on the floor, or else another mixer with a drill of their own
// besides.
func leastCrew(in *inputs, runner *sim.Runner, l resolvedCoat, train sim.Train) (string, *finding.Fix) {
	const otherwise = "a slower hardener or cooler parts, another size of batch, or sections with clean tape lines; the page of the pour tells what each would do."
	crew := l.crew
	makes := func(people []work.Person, drills int) bool {
		train.People, train.Drills = people, drills
		makes, _, err := runner.Judge(train)
		return err == nil && makes
	}
	drills := train.Drills
	if len(crew.Team) == 0 {
		for n := crew.Spreaders + 1; n <= max(looksAhead, crew.Spreaders+1); n++ {
			more := crew
			more.Spreaders = n
			if !makes(more.Members(), drills) {
				continue
			}
			path := "/job/crew/spreaders"
			if own := l.coat.Own; own != nil && own.Spreaders > 0 {
				path = l.path + "/own/spreaders"
			}
			return fmt.Sprintf("Bring %d to spread. Or take %s", n, otherwise), &finding.Fix{
				Label: fmt.Sprintf("Plan with %d spreading", n), Patch: []finding.PatchStep{{Op: "replace", Path: path, Value: n}},
			}
		}
	}
	for more := range moreBeside {
		team := crew.Members()
		second := work.Person{Name: "Second mixer", Roles: []work.Role{work.Mixer}}
		team = append(slices.Clone(team), second)
		for n := range more {
			team = append(team, work.Person{Name: fmt.Sprintf("Hand %d", n+1), Roles: onFloor()})
		}
		if makes(team, drills+1) {
			mixing := in.file.Job.Mixing
			mixing.Drills = drills + 1
			return fmt.Sprintf("Bring a second mixer with a drill, %d people in all. Or take %s", len(team), otherwise), &finding.Fix{
				Label: fmt.Sprintf("Plan with two mixers, %d people in all", len(team)),
				Patch: []finding.PatchStep{{Op: "add", Path: "/job/crew/team", Value: team}, {Op: "add", Path: "/job/mixing", Value: mixing}},
			}
		}
	}
	return "More hands alone do not mend it with batches of this size. Take " + otherwise, nil
}

// onFloor is every part on the floor.
func onFloor() []work.Role { return job.Crew{Spreaders: 1}.Members()[1].Roles }

// unmanned says that a pour needs a part that nobody of the team plays, with the change
// that has the first of them play all.
func missingRole(in *inputs, l resolvedCoat) finding.Finding {
	f := refused(finding.Pour, "/job/crew/team", "Give each part to somebody: mixing, pouring, spreading, and rolling or broadcasting where the coat is rolled or broadcast.",
		"Coat %d of %s cannot be poured: nobody of the crew plays a part that it needs.", l.number, l.sheet.product.Name)
	if team := in.file.Job.Crew.Team; len(team) > 0 {
		first := work.Person{Name: team[0].Name, Roles: []work.Role{work.Mixer, work.Runner, work.Pourer, work.CutterIn, work.Spreader, work.Roller, work.Caster}}
		f.Fix = &finding.Fix{Label: first.Name + " does whatever nobody does", Patch: []finding.PatchStep{{Op: "replace", Path: "/job/crew/team/0", Value: first}}}
	}
	return f
}
