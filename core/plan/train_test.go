package plan

import (
	"context"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nephelon/core/facts"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/whatif"
	"nephelon/core/pour"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// workable makes a film of a product workable for so many minutes at 20 °C.
func workable(p *material.Product, minutes float64) {
	span := measure.Span(minutes) * measure.Minute
	p.Working = []material.TimeAt{{At: 20, After: span, Source: measure.OwnTest}}
}

// slowHall is 40 m² of a body coat by people who each lay 20 m² an hour.
func slowHall(t *testing.T, spreaders int) job.File {
	t.Helper()
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900))
	f.Job.Crew.Spreaders = spreaders
	f.Job.Crew.Pace.Value = 20.0 / measure.Hour
	return f
}

func pourOf(t *testing.T, f job.File) whatif.PourPlan {
	t.Helper()
	p, err := NewPlanner().Pour(context.Background(), f, facts.At(noon()), measure.Metric,
		f.Job.Surfaces[0].Coats[0].ID, 0)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// One mixer who takes longer for a pail than the floor takes to lay it sets the pace: by
// hand, n pails each with a minute to open, 15 min of mixing and a minute in the second
// bucket come 17 min apart, and the last is laid in its share of 40 m² at 6 × 45 m²/h.
func TestTheMixersPaceIsOnTheClock(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900))
	f.Job.Crew.Spreaders = 6
	f.Products[0].Mixing = &measure.Sourced[measure.Span]{Value: 15 * measure.Minute, Source: measure.OwnTest}
	starting(&f, noon())
	c := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]
	n := len(c.Cards)
	if n < 3 {
		t.Fatalf("%d batches", n)
	}
	for k := 1; k < n; k++ {
		if apart := c.Cards[k].Meets.Sub(*c.Cards[k-1].Meets).Minutes(); math.Abs(apart-17) > 1e-6 {
			t.Errorf("batches %d and %d meet %v min apart", k, k+1, apart)
		}
	}
	last := float64(c.Division.Batches[n-1].Volume/c.Division.Mixed) * 40 / (6 * 45) * 60
	if took := c.Times.End.Sub(*c.Times.Start).Minutes(); math.Abs(took-17*float64(n-1)-last) > 0.15*last {
		t.Errorf("it takes %v min, want about %v", took, 17*float64(n-1)+last)
	}
	if c.Train.Busy[0] < 0.9 {
		t.Errorf("the mixer is busy %v of the time", c.Train.Busy[0])
	}
}

// A film that closes soon makes batches smaller, so that this crew works each section
// into the one before; the train of what comes out makes it, and a third pair of hands
// would allow more.
func TestAClosingEdgeBoundsBatches(t *testing.T) {
	f := slowHall(t, 2)
	before := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Division
	workable(&f.Products[0], 20)
	p := Make(f, measure.Metric, noon())
	c := p.Surfaces[0].Coats[0]
	if c.Train == nil {
		t.Fatal(texts(p.Findings))
	}
	if c.Division.Limits[0].Kind != kit.ByEdge || len(c.Division.Batches) <= len(before.Batches) || !c.Train.Makes {
		t.Fatalf("%+v, %d batches before, %d now, makes it %v (%+v)", c.Division.Limits[0], len(before.Batches),
			len(c.Division.Batches), c.Train.Makes, c.Train.Moments)
	}
	if len(c.Division.Relax) != 1 || !strings.Contains(c.Division.Relax[0], "One more person") {
		t.Errorf("%v", c.Division.Relax)
	}
	f.Job.Methods.Session = school.TapeLines
	if c := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]; c.Division.Limits[0].Kind == kit.ByEdge {
		t.Error("clean tape lines have no edge to keep open")
	}
}

// Sizing and judging agree: over floors of any shape of rectangle and any crew, where the edge decides the
// batches no section reaches a closed edge in the train that judges them, the last with its far wall neither.
func TestBatchesBoundByTheEdgeAreJoined(t *testing.T) {
	random, planner := rand.New(rand.NewPCG(26, 1)), NewPlanner()
	bound := 0
	for range 120 {
		f := slowHall(t, 1+random.IntN(4))
		long, wide := 5+15*random.Float64(), 3+5*random.Float64()
		f.Job.Surfaces[0].Floor.Outline = geometry.Ring{{X: 0, Y: 0}, {X: long, Y: 0}, {X: long, Y: wide}, {X: 0, Y: wide}}
		if random.IntN(2) == 0 {
			f.Job.Methods.Kits = school.Measured
		}
		workable(&f.Products[0], 12+40*random.Float64())
		c := planner.Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]
		if c.Division == nil || c.Division.Limits[0].Kind != kit.ByEdge {
			continue
		}
		bound++
		for _, m := range c.Train.Moments {
			if m.Limit == sim.OfJoin && m.Slack < 0 {
				t.Errorf("%.3g × %.3g m by %d, %v s workable, in %d batches: %+v", long, wide, f.Job.Crew.Spreaders,
					f.Products[0].Working[0].After, len(c.Division.Batches), m)
			}
		}
	}
	if bound < 40 {
		t.Errorf("the edge decides %d times", bound)
	}
}

// Where no batch is small enough, what comes too late is told in a sentence, with the
// least crew that makes it; that crew makes it, and one fewer does not.
func TestTheLeastCrewLeadsOut(t *testing.T) {
	f := slowHall(t, 1)
	f.Job.Methods.Kits = school.WholeKits
	workable(&f.Products[0], 15)
	p := Make(f, measure.Metric, noon())
	told := saying(p, "can no longer be worked")
	if told == nil {
		told = saying(p, "after that has closed: a lap line shows")
	}
	if told == nil || told.Fix == nil || !strings.HasPrefix(told.WayOut, "Bring ") {
		t.Fatalf("%v, %+v", texts(p.Findings), p.Surfaces[0].Coats[0].Train.Moments)
	}
	made := patched(t, f, *told.Fix)
	if c := Make(made, measure.Metric, noon()).Surfaces[0].Coats[0]; !c.Train.Makes {
		t.Errorf("with %d it comes to %+v", made.Job.Crew.Spreaders, c.Train.Moments)
	}
}

// For each hour of the shift it is told whether the pour is made: two hours of work are
// until 14:00, and no later.
func TestTheLatestStart(t *testing.T) {
	f := slowHall(t, 1)
	f.Job.Zone, f.Job.Start = "UTC", "2026-12-07T14:30"
	begun, err := NewPlanner().Starts(context.Background(), f, facts.At(noon()), measure.Metric,
		f.Job.Surfaces[0].Coats[0].ID)
	if err != nil || len(begun) != 9 || begun[0].Start != "2026-12-07T07:00" {
		t.Fatalf("%+v, %v", begun, err)
	}
	takes := pourOf(t, f).Run.Ends
	for n, b := range begun {
		if left := measure.Span(9-n)*measure.Hour - takes; b.Makes != (left >= 0) {
			t.Errorf("%s: made %v with %v s left of the shift", b.Start, b.Makes, left)
		}
	}
	f.Job.Start = ""
	if begun, err := NewPlanner().Starts(context.Background(), f, facts.At(noon()), measure.Metric,
		f.Job.Surfaces[0].Coats[0].ID); err != nil || len(begun) != 0 {
		t.Errorf("without a start %+v, %v", begun, err)
	}
}

// whatif.Begun at 14:30, two hours of work are done after the light falls at 15:00; before noon
// they are not, and without a light nothing is said.
func TestTheLightFallsOnAPour(t *testing.T) {
	said := func(start job.Local, light string) bool {
		f := slowHall(t, 1)
		f.Job.Zone, f.Job.Start, f.Job.Light = "UTC", start, light
		return saying(Make(f, measure.Metric, noon()), "after daylight ends at 15:00") != nil
	}
	if !said("2026-12-07T14:30", "15:00") || said("2026-12-07T09:30", "15:00") || said("2026-12-07T14:30", "") ||
		!said("2026-12-07T15:10", "15:00") {
		t.Error("the light is not told as it falls")
	}
}

// What helps a pour is tried by planning the job with it: taken over as a patch, it does
// what was promised. First comes what makes it, by odds, by hands, by what it costs.
func TestWaysDoWhatTheyPromise(t *testing.T) {
	bond := coat("keelbody-100", 900)
	bond.Scatter = &buildup.Scatter{Medium: "quartz-dune", Degree: "full"}
	f := laidJob(t, demoShelf(t), bond)
	f.Job.Crew.Spreaders, f.Job.Crew.Pace.Value = 1, 20.0/measure.Hour
	workable(&f.Products[0], 15)
	id := f.Job.Surfaces[0].Coats[0].ID
	ways, err := NewPlanner().Ways(context.Background(), f, facts.At(noon()), measure.Metric, id)
	if err != nil || len(ways) < 2 {
		t.Fatalf("%v, %v", ways, err)
	}
	before := pourOf(t, f)
	for i, w := range ways {
		after := pourOf(t, patched(t, f, finding.Fix{Label: w.Label, Patch: w.Patch}))
		odds, err := NewPlanner().Odds(context.Background(), patched(t, f, finding.Fix{Label: w.Label, Patch: w.Patch}),
			facts.At(noon()), id, 0, sim.UsualSpreads(), 400, 1, nil)
		if err != nil || odds.Makes != w.Odds {
			t.Errorf("%s: on time in %+v, came %+v, %v", w.Label, w.Odds, odds.Makes, err)
		}
		if w.Cost == nil || math.Abs(*after.Cost-*before.Cost-*w.Cost) > 1e-9 {
			t.Errorf("%s costs %v more, promised %v", w.Label, *after.Cost-*before.Cost, w.Cost)
		}
		if after.Run.Makes != w.Makes || after.Run.Tight() != w.Tight || after.Run.Ends != w.Ends ||
			len(after.Batches) != w.Batches || len(after.Crew) != w.People {
			t.Errorf("%s: promised %+v, came %+v", w.Label, w, after.Run.Tight())
		}
		if after.Run.Tight().Slack <= before.Run.Tight().Slack {
			t.Errorf("%s does not help", w.Label)
		}
		if i == 0 {
			continue
		}
		tenths := func(w whatif.Way) float64 { return math.Round(10 * w.Odds.Of) }
		if ahead := ways[i-1]; w.Makes && !ahead.Makes || w.Makes == ahead.Makes && (tenths(w) > tenths(ahead) ||
			tenths(w) == tenths(ahead) && w.People < ahead.People) {
			t.Errorf("%s stands behind %s: %+v, %+v", w.Label, ahead.Label, w, ahead)
		}
	}
	for _, label := range []string{"A helper who broadcasts behind", "Broadcast by blower", "One more spreader"} {
		if !slices.ContainsFunc(ways, func(w whatif.Way) bool { return w.Label == label }) {
			t.Errorf("%s is not tried, or does not help", label)
		}
	}
	if _, err := NewPlanner().Ways(context.Background(), f, facts.At(noon()), measure.Metric,
		"no such coat"); !errors.Is(err,
		whatif.ErrNoPour) {
		t.Errorf("%v", err)
	}
}

// A team with its parts: two mixers with a drill each; and one that leaves a part
// unplayed is refused, with a change that fills it.
func TestATeamOfItsOwn(t *testing.T) {
	f := slowHall(t, 2)
	f.Job.Crew.Team = []work.Person{
		{Name: "Mixer", Roles: []work.Role{work.Mixer, work.Runner}},
		{Name: "Squeegee", Roles: []work.Role{work.Pourer, work.Spreader}},
		{Name: "Roller", Roles: []work.Role{work.Roller, work.CutterIn}},
	}
	p := pourOf(t, f)
	for _, part := range p.Run.Parts {
		if part.Act == sim.Roll && p.Crew[part.Person].Name != "Roller" || part.Act == sim.Spread &&
			p.Crew[part.Person].Name != "Squeegee" {
			t.Fatalf("%s by %s", part.Act, p.Crew[part.Person].Name)
		}
	}
	if whole := Make(f, measure.Metric, noon()); whole.Line.People != 3 {
		t.Errorf("%d people", whole.Line.People)
	}
	f.Job.Crew.Team = []work.Person{{Name: "Mixer", Roles: []work.Role{work.Mixer}},
		{Name: "Roller", Roles: []work.Role{work.Pourer, work.Roller, work.CutterIn}}}
	lost := saying(Make(f, measure.Metric, noon()), "Nobody of the team spreads")
	if lost == nil || lost.Fix == nil {
		t.Fatal("a team without a spreader is not told")
	}
	f = patched(t, f, *lost.Fix)
	if p := pourOf(t, f); len(p.Crew) != 2 || !p.Crew[1].Plays(work.Spreader) {
		t.Errorf("%+v", p.Crew)
	}
	f.Job.Crew.Team = f.Job.Crew.Team[1:]
	told := saying(Make(f, measure.Metric, noon()), "nobody in the crew has a role")
	if told == nil || told.Fix == nil || told.Path != "/job/crew/team" {
		t.Fatalf("%+v", told)
	}
	if after := Make(patched(t, f, *told.Fix), measure.Metric, noon()); saying(after, "nobody of the crew") != nil ||
		after.Surfaces[0].Coats[0].Train == nil {
		t.Error("its way out does not lead out")
	}
}

// A pour that is begun too late in the day runs into the end of the shift; begun in the
// morning it does not. 40 m² at 20 m²/h by one take two hours.
func TestAPourAgainstTheShift(t *testing.T) {
	f := slowHall(t, 1)
	f.Job.Zone, f.Job.Start = "UTC", "2026-12-07T14:30"
	p := Make(f, measure.Metric, noon())
	told := saying(p, "and the shift ends")
	if told == nil || !strings.Contains(told.Text, "before it is done") {
		t.Fatalf("%v", texts(p.Findings))
	}
	f.Job.Start = "2026-12-07T08:30"
	if told := saying(Make(f, measure.Metric, noon()), "and the shift ends"); told != nil {
		t.Errorf("%s", told.Text)
	}
}

// The brief plan has every verdict and nobody's time.
func TestABriefPlan(t *testing.T) {
	p := Make(slowHall(t, 2), measure.Metric, noon())
	brief := p.Brief()
	a, b := p.Surfaces[0].Coats[0].Train, brief.Surfaces[0].Coats[0].Train
	if len(a.Parts) == 0 || len(b.Parts) != 0 || len(b.Passages) != 0 || !reflect.DeepEqual(a.Moments, b.Moments) {
		t.Errorf("%d and %d parts", len(a.Parts), len(b.Parts))
	}
}

// Batches are carried through the floor from where they are mixed: on 12 × 5 m, worked
// from the far wall to a door at the other, the first section lies farthest from a mixing
// place at the door; a metre a second, to some centimetres of the cells it is measured on.
func TestBatchesAreCarriedThroughTheFloor(t *testing.T) {
	f := slowHall(t, 2)
	s := &f.Job.Surfaces[0]
	s.Floor.Outline = geometry.Ring{{X: 0, Y: 0}, {X: 12, Y: 0}, {X: 12, Y: 5}, {X: 0, Y: 5}}
	door := geometry.Point{X: 0, Y: 2.5}
	s.Layout.Exit, s.Layout.Mixing = &door, &door
	p := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]
	for k, batch := range p.Train.Passages {
		if walked, want := float64(batch.Arrives-batch.Ready),
			p.Sections[k].Label.Distance(door); math.Abs(walked-want) > 0.4 {
			t.Errorf("batch %d is carried for %v s over %v m", k+1, walked, want)
		}
	}
	away := geometry.Point{X: -9, Y: 2}
	s.Layout.Mixing = &away
	told := saying(Make(f, measure.Metric, noon()), "the mixing place is not marked on the floor")
	if told == nil || told.Fix == nil {
		t.Fatal("a mixing place off the floor is not told")
	}
	if after := Make(patched(t, f, *told.Fix), measure.Metric, noon()); saying(after, "the mixing place") != nil {
		t.Error("its way out does not lead out")
	}
}

// A door on a column, or away from the floor, is none; it is offered on the wall that is
// nearest. One in the thickness of a wall, and a hatch in the floor, are doors.
func TestADoorOnAColumn(t *testing.T) {
	f := slowHall(t, 2)
	s := &f.Job.Surfaces[0]
	s.Floor.Holes = []takeoff.Hole{{ID: "h", Name: "Crane foot",
		Outline: geometry.Ring{{X: 6, Y: 2}, {X: 7, Y: 2}, {X: 7, Y: 3}, {X: 6, Y: 3}}},
		{ID: "i", Outline: geometry.Ring{{X: 1, Y: 1}, {X: 2, Y: 1}, {X: 2, Y: 2}, {X: 1, Y: 2}}}}
	for _, c := range []struct {
		door geometry.Point
		says string
		at   geometry.Point
	}{
		{geometry.Point{X: 6.9, Y: 2.5}, "on Crane foot", geometry.Point{X: 8, Y: 2.5}},
		{geometry.Point{X: 6.5, Y: 2}, "on Crane foot", geometry.Point{X: 8, Y: 2}},
		{geometry.Point{X: 1.4, Y: 1.2}, "on hole 2", geometry.Point{X: 1.4, Y: 0}},
		{geometry.Point{X: 3, Y: 6.5}, "1.5 m off the floor", geometry.Point{X: 3, Y: 5}},
		{geometry.Point{X: 3, Y: 6}, "", geometry.Point{}}, {geometry.Point{X: 3, Y: 5}, "", geometry.Point{}},
		{geometry.Point{X: 4, Y: 2.5}, "", geometry.Point{}},
	} {
		s.Layout.Exit, s.Layout.Others = &c.door, nil
		told := saying(Make(f, measure.Metric, noon()), "nobody leaves there")
		if (told == nil) != (c.says == "") || told != nil && !strings.Contains(told.Text, "an exit is marked "+c.says) {
			t.Errorf("%v: %+v", c.door, told)
			continue
		}
		if told == nil {
			continue
		}
		after := patched(t, f, *told.Fix)
		if moved := *after.Job.Surfaces[0].Layout.Exit; moved.Distance(c.at) > 1e-9 ||
			saying(Make(after, measure.Metric, noon()), "nobody leaves there") != nil {
			t.Errorf("%v moves to %v", c.door, moved)
		}
		wall := geometry.Point{X: 0, Y: 2}
		s.Layout.Exit, s.Layout.Others = &wall, []pour.Exit{{At: c.door}}
		if told := saying(Make(f, measure.Metric, noon()), "nobody leaves there"); told == nil ||
			!strings.HasSuffix(told.Path, "/layout/others/0/at") {
			t.Errorf("%v, as another door: %+v", c.door, told)
		}
	}
}

// A break that falls into a pour is told; one that lies before it is not. And a pour that
// the shift cuts off tells after which section it can be broken off.
func TestABreakWithinAPour(t *testing.T) {
	f := slowHall(t, 1)
	f.Job.Zone, f.Job.Start = "UTC", "2026-12-07T11:00"
	p := Make(f, measure.Metric, noon())
	if told := saying(p, "the break from 12:00 falls into its pour"); told == nil {
		t.Errorf("%v", texts(p.Findings))
	}
	f.Job.Start = "2026-12-07T12:30"
	if told := saying(Make(f, measure.Metric, noon()), "falls into its pour"); told != nil {
		t.Error(told.Text)
	}
	f.Job.Start = "2026-12-07T14:50"
	p = Make(f, measure.Metric, noon())
	told := saying(p, "It can be broken off after section")
	if told == nil {
		t.Fatalf("%v", texts(p.Findings))
	}
	c := p.Surfaces[0].Coats[0]
	done := 0
	for _, passage := range c.Train.Passages {
		if passage.Done <= 70*measure.Minute {
			done = passage.Batch
		}
	}
	if !strings.Contains(told.Text, fmt.Sprintf("after section %d, along its joint of %s", done,
		measure.Metric.Length(c.Cuts[done-1].Wet))) {
		t.Errorf("%d sections are done by 16:00: %s", done, told.Text)
	}
}

// Joins that somebody placed: the batches follow their sections, in the proportion of the
// shares, and a batch that gets too large is told, with the way back.
func TestJoinsPlacedByHand(t *testing.T) {
	f := slowHall(t, 2)
	before := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]
	shares := []float64{1, 1.5, 0.5, 1}
	f.Job.Surfaces[0].Coats[0].Own = &buildup.OwnWay{Shares: shares}
	c := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]
	if len(c.Division.Batches) != 4 || c.Division.Mixed != before.Build.Need {
		t.Fatalf("%d batches of %v", len(c.Division.Batches), c.Division.Mixed)
	}
	for i, s := range shares {
		if want := 40 * s / 4; !near(float64(c.Sections[i].Area), want, 1e-9) ||
			!near(float64(c.Division.Batches[i].Volume), float64(before.Build.Need)*s/4, 1e-9) || len(c.Cards) != 4 {
			t.Errorf("section %d of %v m² gets %v", i+1, c.Sections[i].Area, c.Division.Batches[i].Volume)
		}
	}
	f.Job.Surfaces[0].Coats[0].Own.Shares = []float64{9, 1}
	told := saying(Make(f, measure.Metric, noon()), "batch 1 is")
	if told == nil || told.Fix == nil || !strings.Contains(told.Text, "where the joins are placed") {
		t.Fatal("a batch too large is not told")
	}
	if after := Make(patched(t, f, *told.Fix), measure.Metric, noon()).Surfaces[0].Coats[0]; len(after.Division.Batches) !=
		len(before.Division.Batches) {
		t.Errorf("led back to %d batches", len(after.Division.Batches))
	}
	f.Job.Surfaces[0].Coats[0].Own.Shares = []float64{1, 0}
	if refused := Make(f, measure.Metric, noon()).Refused(); len(refused) != 1 ||
		!strings.HasSuffix(refused[0].Path, "/own/shares") {
		t.Errorf("%v", texts(refused))
	}
}

// The first section took twice as long as planned: people work at half the pace, the batches
// stay as they are mixed, and all later times follow. Where the planned time was taken, the
// plan stands.
func TestTheFirstSectionCorrectsTheRest(t *testing.T) {
	f := slowHall(t, 2)
	planned := pourOf(t, f)
	first := planned.Run.Passages[0]
	took := first.Done - first.Pour
	for times, name := range map[measure.Span]string{1: "as planned", 2: "twice as long"} {
		p, err := NewPlanner().Pour(context.Background(), f, facts.At(noon()), measure.Metric,
			f.Job.Surfaces[0].Coats[0].ID, took*times)
		if err != nil || !near(float64(p.Pace), 20.0/measure.Hour/float64(times), 1e-3) ||
			!reflect.DeepEqual(p.Batches, planned.Batches) {
			t.Fatalf("%s: %v m²/s, %v", name, p.Pace, err)
		}
		if ends := p.Run.Ends; times == 1 && !near(float64(ends), float64(planned.Run.Ends), 1e-3) || times == 2 &&
			ends < planned.Run.Ends*1.7 {
			t.Errorf("%s: it ends after %v s, planned were %v", name, ends, planned.Run.Ends)
		}
	}
	if planned.Pace != 0 {
		t.Errorf("a plan tells %v m²/s", planned.Pace)
	}
	if _, err := NewPlanner().Pour(context.Background(), f, facts.At(noon()), measure.Metric,
		f.Job.Surfaces[0].Coats[0].ID,
		50*took); !errors.Is(err, sim.ErrPace) {
		t.Errorf("%v", err)
	}
	odds := func(first measure.Span) float64 {
		c, err := NewPlanner().Odds(context.Background(), f, facts.At(noon()), f.Job.Surfaces[0].Coats[0].ID, first,
			sim.UsualSpreads(),
			200, 1, nil)
		if err != nil {
			t.Fatal(err)
		}
		return float64(c.Ends[1])
	}
	if plain, slow := odds(0), odds(2*took); slow < 1.7*plain {
		t.Errorf("half of the runs end by %v s, and by %v of slower people", plain, slow)
	}
}

// A pinned join stays where it is to the millimetre while the batches on both sides of it are
// planned anew, as few as the limit allows.
func TestAPinnedJoinStays(t *testing.T) {
	f := slowHall(t, 2)
	from := measure.Angle(0)
	f.Job.Surfaces[0].Layout.Direction = &from
	f.Job.Surfaces[0].Coats[0].Own = &buildup.OwnWay{Pinned: []float64{0.35}}
	joins := func() (at []float64) {
		for _, cut := range Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Cuts {
			at = append(at, math.Round(float64(cut.Marks[0].At.X)*1000)/1000)
		}
		return at
	}
	// 40 m² of 8 m by 5 m, worked along the longer side: 35 % of it end at 2.8 m.
	few := joins()
	f.Job.Surfaces[0].Coats[0].Amount.Value *= 3
	many := joins()
	pin := slices.Index(many, 2.8)
	if len(many) <= len(few) || !slices.Contains(few, 2.8) || pin < 1 || pin > len(many)-2 {
		t.Fatalf("joins at %v, then at %v", few, many)
	}
	for i, at := range many { // on each side all sections are alike
		want := 2.8 * float64(i+1) / float64(pin+1)
		if i > pin {
			want = 2.8 + 5.2*float64(i-pin)/float64(len(many)-pin)
		}
		if math.Abs(at-want) > 2e-3 {
			t.Errorf("join %d at %v m, by hand at %v", i+1, at, want)
		}
	}
}

// What if, as the page of the pour asks it: the whole job planned anew with its train.
func BenchmarkPourOfTheDemoHall(b *testing.B) {
	f, planner := demo(b, "baggage-hall"), NewPlanner()
	for b.Loop() {
		if _, err := planner.Pour(context.Background(), f, facts.At(noon()), measure.Metric, "hall-1", 0); err != nil {
			b.Fatal(err)
		}
	}
}

// The crew's own shares of the work and its walking pace run its train: by hand, 40 m² in
// one section of two people's pace, all of it spread, none rolled, is spread from when the
// pail is empty to the end; twice the walking pace halves the way.
func TestTheCrewsOwnShares(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 800))
	passage := func() sim.Passage {
		return Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Train.Passages[0]
	}
	usual := passage()
	f.Job.Crew.Divides = &work.Divides{Pour: 2, Spread: 8}
	own := passage()
	whole := own.Done - own.Pour
	if !near(float64(own.Empty-own.Pour), 0.2*float64(whole), 1e-6) || !near(float64(own.Laid), float64(own.Done), 1e-6) ||
		near(float64(usual.Laid), float64(usual.Done), 1e-6) {
		t.Errorf("%+v", own)
	}
	f.Job.Crew.Divides = &work.Divides{}
	if p := Make(f, measure.Metric, noon()); saying(p, "has a share") == nil {
		t.Error("nobody does anything, and nothing is said")
	}
	f.Job.Crew.Divides = nil
	f.Job.Surfaces[0].Layout.Mixing = &f.Job.Surfaces[0].Floor.Outline[0]
	carried := passage()
	f.Job.Crew.Walking = 2
	if fast := passage(); !near(float64(fast.Arrives-fast.Ready), float64(carried.Arrives-carried.Ready)/2, 1e-6) {
		t.Errorf("%v, and twice as fast %v", carried.Arrives-carried.Ready, fast.Arrives-fast.Ready)
	}
}

// Cards say from when a film can be worked: of what dries from laying, of what reacts from pouring, less than its
// working time by what it aged in the pail, as long as from A meeting B to the pour where both are as warm. The
// tape of a top is pulled so long after it is poured.
func TestCardsCountFromThePour(t *testing.T) {
	said := make(map[string]int)
	for _, name := range []string{"baggage-hall", "lamp-room", "settling-basin", "seal-nursery", "oyster-bar"} {
		f, units := demo(t, name), measure.Metric
		starting(&f, noon())
		in, _ := input.Read(f, facts.At(noon()), units)
		for i, s := range Make(f, units, noon()).Surfaces {
			for c, coat := range s.Coats {
				for k, card := range coat.Cards {
					p, dries := coat.Train.Passages[k], in.Layers[i][c].Sheet.Product.Dries()
					working := coat.Times.Stage(material.StageWorking).After
					inPail := p.Pour - p.Meets
					aged := coat.ages.After(inPail, card.PotLife)
					if !dries && aged < inPail/2 {
						t.Errorf("%s, %s: %v s in the pail count as %v", name, coat.Name, inPail, aged)
					}
					if !dries {
						working -= aged
					}
					for _, step := range card.Floor {
						switch {
						case strings.Contains(step.Text, "mend them within"):
							want, of := working, "laying"
							if !dries {
								of = "pouring"
							}
							if said[of]++; !strings.Contains(step.Text, "within "+units.Span(want)+" of "+of) {
								t.Errorf("%s, %s: %s; want %s of %s", name, coat.Name, step.Text, units.Span(want), of)
							}
						case strings.Contains(step.Text, "Pull the tape when") && card.Meets != nil:
							poured := inPail.After(*card.Meets)
							pulled := min(working/2, 30*measure.Minute).After(poured).Format("15:04")
							if said["tape"]++; !strings.Contains(step.Text, pulled) {
								t.Errorf("%s, %s: %s; want %s", name, coat.Name, step.Text, pulled)
							}
						}
					}
				}
			}
		}
	}
	if said["laying"] == 0 || said["pouring"] == 0 || said["tape"] == 0 {
		t.Errorf("said %v", said)
	}
}

// A bond coat laid and lightly scattered by one person: scattering is a walk, so that it makes no smaller batches
// of what is otherwise mixed kit by kit. To rejection it takes the time that its mass takes.
func TestLightScatteringIsAWalk(t *testing.T) {
	laid := func(degree string) (CoatPlan, Plan) {
		bond := coat("keelbody-100", 250)
		if degree != "" {
			bond.Scatter = &buildup.Scatter{Medium: "quartz-dune", Degree: degree}
		}
		f := laidJob(t, demoShelf(t), bond)
		f.Job.Crew.Spreaders, f.Job.Crew.Alone = 1, true
		workable(&f.Products[0], 60)
		p := Make(f, measure.Metric, noon())
		return p.Surfaces[0].Coats[0], p
	}
	bare, _ := laid("")
	light, p := laid("light")
	full, _ := laid("full")
	if bare.Division == nil || light.Division == nil || full.Division == nil {
		t.Fatal(texts(p.Findings))
	}
	if len(light.Division.Batches) != len(bare.Division.Batches) {
		t.Errorf("%d batches, and %d scattered lightly", len(bare.Division.Batches), len(light.Division.Batches))
	}
	if light.Train.Ends > bare.Train.Ends*1.5 || full.Train.Ends < light.Train.Ends*1.3 {
		t.Errorf("it takes %v s bare, %v scattered lightly, %v to rejection", bare.Train.Ends, light.Train.Ends,
			full.Train.Ends)
	}
}
