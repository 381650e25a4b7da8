package advice

import (
	"cmp"
	"fmt"
	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/pour"
	"nephelon/core/pour/sim"
	"nephelon/core/work"
	"slices"
	"strings"
	"time"
)

// laid says what is awkward about the sections of each surface.
func laid(in *input.Inputs, all stage.Laid) []finding.Finding {
	var found []finding.Finding
	for i := range in.Layers {
		s, path := in.File.Job.Surfaces[i], input.SurfacePath(i)
		if course := all.Courses[i]; course != nil {
			if s.Layout.Exit == nil && all.Most[i] > 1 {
				found = append(found, finding.Finding{
					Level: finding.Note, Step: finding.Pour, Path: path + "/layout/exit",
					Text:   s.Name + " has no exit marked, so the sections may not end at the door.",
					WayOut: "Mark the door by which the crew leaves.",
				})
			}
			found = append(found, misplacedExits(in, i)...)
			if all.Unmixed[i] {
				found = append(found, misplacedMixing(s, path))
			}
		}
		for c, coat := range all.Coats[i] {
			switch {
			case coat.Laying != nil:
				found = append(found, coat.Laying.Findings(path, c+1, in.Units)...)
				if coat.Shares == nil {
					continue
				}
				if told, ok := offerSeams(in, i, c, *all.Courses[i], s.Floor.Polygon(), coat.Shares); ok {
					found = append(found, told)
				}
			case len(coat.Panels) > 0 && s.Top != nil && in.Layers[i][c].Coat.On != input.OnUpright:
				found = append(found, pour.Joins(coat.Panels, coat.Sections, path, c+1)...)
			}
		}
	}
	return found
}

// misplacedMixing says that a mixing place is not on its floor.
func misplacedMixing(s job.Surface, path string) finding.Finding {
	fix := &finding.Fix{Label: "Take the mark off",
		Patch: []finding.PatchStep{{Op: "remove", Path: path + "/layout/mixing"}}}
	if exit := s.Layout.Exit; exit != nil {
		fix = &finding.Fix{Label: "Mix at the exit",
			Patch: []finding.PatchStep{{Op: "replace", Path: path + "/layout/mixing", Value: *exit}}}
	}
	return finding.Finding{
		Level: finding.Warning, Step: finding.Pour, Path: path + "/layout/mixing", Fix: fix,
		Text:   s.Name + ": the mixing place is not marked on the floor, so how far batches are carried is not counted.",
		WayOut: "Mark it on the floor or at its edge; add what is beyond to the carry time.",
	}
}

// farExit is the greatest distance of a door from the floor, m: the thickness of a wall, common
// practice, no source.
const farExit = 1.0

// misplacedExits finds doors by which nobody can leave: on a column, or away from the floor.
func misplacedExits(in *input.Inputs, i int) []finding.Finding {
	s, path := in.File.Job.Surfaces[i], input.SurfacePath(i)
	var found []finding.Finding
	look := func(at geometry.Point, path string) {
		side, _, wall := s.Floor.Outline.Nearest(at)
		where := ""
		for n, h := range s.Floor.Holes {
			if _, _, edge := h.Outline.Nearest(at); h.Outline.Holds(at) || edge.Distance(at) <= geometry.Tolerance &&
				wall.Distance(at) > geometry.Tolerance {
				where = fmt.Sprintf("on %s, around which the floor goes", cmp.Or(h.Name, fmt.Sprintf("hole %d", n+1)))
			}
		}
		if off := wall.Distance(at); where == "" && !s.Floor.Outline.Holds(at) && off > farExit {
			where = in.Units.Length(measure.Length(off)) + " off the floor"
		}
		if where == "" {
			return
		}
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Pour, Path: path,
			Text:   fmt.Sprintf("%s: an exit is marked %s; nobody leaves there.", s.Name, where),
			WayOut: "Mark the door by which the crew leaves.",
			Fix: &finding.Fix{Label: fmt.Sprintf("Mark it on wall %d, where that is nearest", side+1),
				Patch: []finding.PatchStep{{Op: "replace", Path: path, Value: wall}}},
		})
	}
	if s.Layout.Exit != nil {
		look(*s.Layout.Exit, path+"/layout/exit")
	}
	for n, e := range s.Layout.Others {
		look(e.At, fmt.Sprintf("%s/layout/others/%d/at", path, n))
	}
	return found
}

// offerSeams offers to put joins of a coat on the lines near them.
func offerSeams(in *input.Inputs, i, c int, course pour.Course, polygon geometry.Polygon,
	shares []float64) (finding.Finding, bool) {
	offers, areas := course.Offered(polygon, shares)
	if len(offers) == 0 {
		return finding.Finding{}, false
	}
	coat := in.Layers[i][c].Coat
	own := buildup.OwnWay{}
	if coat.Own != nil {
		own = *coat.Own
	}
	own.Shares, own.Pinned = areas, nil
	words := make([]string, len(offers))
	for k, o := range offers {
		words[k] = fmt.Sprintf("%s lies %s from the joint after section %d", o.Name, in.Units.Length(o.By), o.After)
	}
	return finding.Finding{
		Level: finding.Note, Step: finding.Pour, Path: in.Layers[i][c].Path + "/own/shares",
		Text:   fmt.Sprintf("Coat %d: %s; a joint shows least there.", c+1, strings.Join(words, ", ")),
		WayOut: "Move the joint there; the batches follow.",
		Fix: &finding.Fix{Label: "Move the joints there",
			Patch: []finding.PatchStep{{Op: "add", Path: in.Layers[i][c].Path + "/own", Value: own}}},
	}, true
}

// timed says, in the order in which the crew lays the coats, what of each comes too late or on a
// slab that its sheet refuses.
func timed(in *input.Inputs, l stage.Laid, all stage.Timed) []finding.Finding {
	var found []finding.Finding
	runner := new(sim.Runner)
	for _, at := range all.Order {
		i, n := at.Surface, at.Coat
		coat, layer := all.Coats[i][n], in.Layers[i][n]
		if coat.Run == nil {
			found = append(found, missingRole(in, layer))
		} else {
			if start := coat.Times.Start; start != nil {
				ends := coat.Run.Ends.After(*start)
				found = append(found, breakInPour(in, i, layer, *start, ends)...)
				found = append(found, doorShut(in, i, layer, l.Courses[i], ends)...)
			}
			found = append(found, TooLate(in, runner, i, layer, *coat.Train, *coat.Run, l.Coats[i][n])...)
		}
		told := []*finding.Finding{offSlab(in, layer, coat.Times), outOfBooking(in, i, layer, coat),
			bookedTooSoon(in, i, layer, coat.Times), unsuited(in, i, layer, coat.Times), unforeseen(in, i, layer),
			brokenOff(in, i, layer, coat.Times), driesSlowly(in, i, layer), wasItDone(in, i, layer, coat.Times)}
		if n > 0 && all.Coats[i][n-1].Times != nil && coat.Times.Start != nil {
			below, start := all.Coats[i][n-1].Times, *coat.Times.Start
			told = append(told, windowClosed(in, i, n, below, start), noLongerFlows(in, i, n, below, start),
				noLongerTacky(in, i, n, below, start))
		}
		for _, f := range told {
			if f != nil {
				found = append(found, *f)
			}
		}
	}
	return found
}

// hour returns a time by the clock on site, such as "Mon 07:30".
func hour(in *input.Inputs, t time.Time) string { return in.Units.Time(t, "Mon 15:04") }

// windowClosed says where the crew comes to a coat only after the window of the one
// below has closed. A wait of the contractor's own is judged between neighbours.
func windowClosed(in *input.Inputs, i, n int, below *stage.CoatTimes, start time.Time) *finding.Finding {
	l := in.Layers[i][n]
	until := below.Stage(material.StageRecoatUntil)
	if until.At == nil || !start.After(*until.At) || l.Abrades || l.Coat.OverWet || l.Coat.Wait != nil {
		return nil
	}
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.Path,
		Text: fmt.Sprintf("%s: the crew comes to coat %d at %s, but the window of coat %d closed at %s.",
			in.File.Job.Surfaces[i].Name, l.Number, hour(in, start), n, hour(in, *until.At)),
		WayOut: "Abrade it before, finish one surface before the next is begun, or bring more people.",
		Fix: &finding.Fix{Label: fmt.Sprintf("Abrade coat %d before it", n), Patch: []finding.PatchStep{
			{Op: "add", Path: l.Path + "/abraded", Value: true},
		}},
	}
}

// noLongerFlows says where a coat that is poured over the one below comes when that no longer
// flows. Its first section is the oldest, and the first to be poured over.
func noLongerFlows(in *input.Inputs, i, n int, below *stage.CoatTimes, start time.Time) *finding.Finding {
	l := in.Layers[i][n]
	works := below.Stage(material.StageWorking)
	if !l.Coat.OverWet || works.At == nil || !start.After(*works.At) {
		return nil
	}
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.Path,
		Text: fmt.Sprintf("%s: coat %d is poured over coat %d while that flows, but that flows only until %s, and the crew "+
			"comes to it at %s.",
			in.File.Job.Surfaces[i].Name, l.Number, n, hour(in, *works.At), hour(in, start)),
		WayOut: "Bring more people, take a slower hardener below, or let it harden and abrade it.",
		Fix: &finding.Fix{Label: fmt.Sprintf("Let coat %d harden and abrade it", n), Patch: []finding.PatchStep{
			{Op: "remove", Path: l.Path + "/overWet"}, {Op: "add", Path: l.Path + "/abraded", Value: true},
		}},
	}
}

// noLongerTacky says where the crew comes to a coat that is laid on a tacky film only after that is
// tack-free, or where nobody knows when it is.
func noLongerTacky(in *input.Inputs, i, n int, below *stage.CoatTimes, start time.Time) *finding.Finding {
	l := in.Layers[i][n]
	if l.Coat.When != buildup.OnTacky {
		return nil
	}
	free := below.Stage(material.StageTackFree)
	f := finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.Path + "/when",
		WayOut: "Bring more people, or lay it as its sheet has it.",
		Fix: &finding.Fix{Label: "Lay it as soon as possible",
			Patch: []finding.PatchStep{{Op: "remove", Path: l.Path + "/when"}}},
	}
	name := in.File.Job.Surfaces[i].Name
	switch {
	case free.After == 0:
		f.Text = fmt.Sprintf("%s: coat %d is laid on coat %d while that is tacky, but its sheet does not say when it is "+
			"tack-free.", name, l.Number, n)
		f.WayOut = "Enter that time on its data sheet, or lay it as its sheet has it."
	case start.After(free.After.After(*below.Start)):
		f.Text = fmt.Sprintf("%s: coat %d is laid on coat %d while that is tacky, but its first section is tack-free at "+
			"%s, and the crew comes to it at %s.",
			name, l.Number, n, hour(in, free.After.After(*below.Start)), hour(in, start))
	default:
		return nil
	}
	return &f
}

// doorShut says that the door at which a pour ends is shut before it does.
func doorShut(in *input.Inputs, i int, l input.ResolvedCoat, course *pour.Course, until time.Time) []finding.Finding {
	if course == nil {
		return nil
	}
	_, shuts := course.Exit()
	if shuts == "" || !until.After(stage.OnDay(until, shuts)) {
		return nil
	}
	return []finding.Finding{{
		Level: finding.Warning, Step: finding.Pour, Path: input.SurfacePath(i) + "/layout/closes",
		Text: fmt.Sprintf("%s, coat %d: its door is shut at %s, and its last section is done only at %s: nobody comes out "+
			"that way.",
			in.File.Job.Surfaces[i].Name, l.Number, job.Clock(shuts).In(in.Units), in.Units.Time(until, "15:04")),
		WayOut: "Start earlier, keep the door open, or mark another exit.",
	}}
}

// TooLate says where a pour comes too late for something, and what would mend it.
func TooLate(in *input.Inputs, runner *sim.Runner, i int, l input.ResolvedCoat, train sim.Train, run sim.Run,
	laid stage.LaidCoat) []finding.Finding {
	name := fmt.Sprintf("%s, coat %d", in.File.Job.Surfaces[i].Name, l.Number)
	var found []finding.Finding
	for _, m := range run.Moments {
		if m.Slack >= 0 {
			break
		}
		found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Pour, Path: l.Path,
			Text: fmt.Sprintf("%s: %s", name, missedLimit(in, run, m))})
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

// missedLimit returns a sentence about the limit that is missed.
func missedLimit(in *input.Inputs, run sim.Run, m sim.Pinch) string {
	p, late := run.Passages[m.Batch-1], in.Units.Span(-m.Slack)
	switch m.Limit {
	case sim.OfPail:
		return fmt.Sprintf("batch %d is empty %s after mixing start, %s after its pot life of %s.", m.Batch,
			in.Units.Span(p.Empty-p.Meets), late, in.Units.Span(p.Empty-p.Meets+m.Slack))
	case sim.OfFilm:
		return fmt.Sprintf("section %d is finished %s after its film can no longer be worked.", m.Batch, late)
	case sim.OfJoin:
		return fmt.Sprintf("section %d reaches the edge of the one before %s after that has closed: a lap line shows.",
			m.Batch, late)
	}
	if m.Limit == sim.OfLight {
		return fmt.Sprintf("it ends %s after daylight ends at %s: hair, puddles and thin spots cannot be seen.",
			late, in.File.Job.Light)
	}
	return fmt.Sprintf("it takes %s, and the shift ends %s before it is done.", in.Units.Span(run.Ends), late)
}

// breakOff returns a sentence about the section after which a pour can stop when the shift ends.
func breakOff(in *input.Inputs, train sim.Train, run sim.Run, laid stage.LaidCoat) string {
	last := 0
	for _, p := range run.Passages {
		if p.Done <= train.Shift {
			last = p.Batch
		}
	}
	if last == 0 {
		return " Not even its first section is done by then."
	}
	for _, c := range laid.Cuts {
		if c.After == last {
			return fmt.Sprintf(" It can be broken off after section %d, along its joint of %s: a clean tape line there, and on "+
				"the next day it is abraded along it and overlapped.", last, in.Units.Length(c.Wet))
		}
	}
	return fmt.Sprintf(" Section %d is the last that is done by then.", last)
}

// breakInPour says that a break falls into a pour, which cannot be paused.
func breakInPour(in *input.Inputs, i int, l input.ResolvedCoat, from, until time.Time) []finding.Finding {
	var found []finding.Finding
	for _, b := range in.Hours.Rests(from) {
		if !b[0].Before(until) || !b[1].After(from) {
			continue
		}
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Pour, Path: l.Path,
			Text: fmt.Sprintf("%s, coat %d: the break from %s falls into its pour, which cannot be paused.",
				in.File.Job.Surfaces[i].Name, l.Number, in.Units.Time(b[0], "15:04")),
			WayOut: "Rest before or after it, or one by one.",
		})
	}
	return found
}

// How many people a way out asks for at most: common practice, no source.
const (
	looksAhead = 8 // on the floor
	moreBeside = 4 // of them beside a second mixer
)

// leastCrew returns the least crew that makes a pour with the batches it has, as a way out with its
// change to the job: more on the floor, or else another mixer with a drill of their own
// besides.
func leastCrew(in *input.Inputs, runner *sim.Runner, l input.ResolvedCoat, train sim.Train) (string, *finding.Fix) {
	const otherwise = "a slower hardener or cooler parts, another size of batch, or sections with clean tape lines; the " +
		"page of the pour tells what each would do."
	crew := l.Crew
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
			if own := l.Coat.Own; own != nil && own.Spreaders > 0 {
				path = l.Path + "/own/spreaders"
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
			team = append(team, work.Person{Name: fmt.Sprintf("Hand %d", n+1), Roles: stage.OnFloor()})
		}
		if makes(team, drills+1) {
			mixing := in.File.Job.Mixing
			mixing.Drills = drills + 1
			return fmt.Sprintf("Bring a second mixer with a drill, %d people in all. Or take %s", len(team), otherwise),
				&finding.Fix{
					Label: fmt.Sprintf("Plan with two mixers, %d people in all", len(team)),
					Patch: []finding.PatchStep{{Op: "add", Path: "/job/crew/team", Value: team},
						{Op: "add", Path: "/job/mixing", Value: mixing}},
				}
		}
	}
	return "More people alone do not help with batches of this size. Use " + otherwise, nil
}

// missingRole says that a pour needs a part that nobody of the team plays, with the change
// that has the first of them play all.
func missingRole(in *input.Inputs, l input.ResolvedCoat) finding.Finding {
	f := input.Refused(finding.Pour, "/job/crew/team",
		"Assign each role: mixing, pouring, spreading, and rolling or broadcasting where the coat is rolled or "+
			"broadcast.",
		"Coat %d of %s cannot be poured: nobody in the crew has a role that it needs.", l.Number, l.Sheet.Product.Name)
	if team := in.File.Job.Crew.Team; len(team) > 0 {
		first := work.Person{Name: team[0].Name, Roles: []work.Role{work.Mixer, work.Runner, work.Pourer, work.CutterIn,
			work.Spreader, work.Roller, work.Caster}}
		f.Fix = &finding.Fix{Label: first.Name + " fills every other role",
			Patch: []finding.PatchStep{{Op: "replace", Path: "/job/crew/team/0", Value: first}}}
	}
	return f
}
