package plan

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan/stage"
	"nephelon/core/pour"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// passable is the quay parted along its long wall, 1.5 m wide, begun on a Monday at 08:00.
func passable(t *testing.T) job.File {
	t.Helper()
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900), coat("keelbody-100", 900))
	f.Job.Zone, f.Job.Start = "UTC", "2026-12-07T08:00"
	parted, err := f.Job.Surfaces[0].Parted(1, 1.5)
	if err != nil {
		t.Fatal(err)
	}
	f.Job.Surfaces = []job.Surface{parted.Strip, parted.Open} // in the file it stands first
	return f
}

func begun() time.Time { return time.Date(2026, 12, 7, 8, 0, 0, 0, time.UTC) }

// The strip that stays passable is begun only when people can walk on all coats of the
// rest, on the clock and in the tasks; both are laid in the end.
func TestTheStripWaitsForTheRest(t *testing.T) {
	f := passable(t)
	p := Make(f, measure.Metric, noon())
	strip, open := p.Surfaces[0].Coats, p.Surfaces[1].Coats
	last := open[1].Times
	walked := last.End.Add(time.Duration(float64(last.Walkable()) * float64(time.Second)))
	if last.Walkable() <= 0 || strip[0].Times.Start.Before(walked) || !open[0].Times.Start.Equal(begun()) {
		t.Errorf("the strip is begun at %v, the rest at %v can be walked on at %v", strip[0].Times.Start,
			open[0].Times.Start, walked)
	}
	if strip[0].Times.Start.Sub(walked) > 72*time.Hour {
		t.Errorf("it waits from %v to %v", walked, strip[0].Times.Start)
	}
	// With no order between them the strip comes first, as it stands in the file.
	f.Job.Surfaces[0].After = ""
	if free := Make(f, measure.Metric, noon()); !free.Surfaces[0].Coats[0].Times.Start.Equal(begun()) {
		t.Errorf("begun at %v", free.Surfaces[0].Coats[0].Times.Start)
	}
	waits := false
	for _, task := range p.Tasks {
		if task.Surface != f.Job.Surfaces[0].ID {
			continue
		}
		for _, a := range task.After {
			if a.Task == work.PourID(open[1].ID) && a.Least != nil && a.Least.About == last.Walkable() {
				waits = true
			}
		}
		if !waits {
			t.Errorf("%s waits for nothing of the rest: %+v", task.ID, task.After)
		}
		break // everything else comes after the first
	}
}

// Whoever waits in a ring, or for nobody there, waits for none, and that is told with a way
// out.
func TestWhoWaitsForNobody(t *testing.T) {
	f := passable(t)
	for name, after := range map[string][2]string{"gone": {"gone", ""},
		"a ring": {f.Job.Surfaces[1].ID, f.Job.Surfaces[0].ID}, "itself": {"", f.Job.Surfaces[1].ID}} {
		f.Job.Surfaces[0].After, f.Job.Surfaces[1].After = after[0], after[1]
		p := Make(f, measure.Metric, noon())
		told := saying(p, "waits for a surface that")
		if told == nil || told.Fix == nil || p.Surfaces[0].Coats[0].Times == nil || p.Surfaces[1].Coats[0].Times == nil {
			t.Errorf("%s: %v", name, texts(p.Findings))
			continue
		}
		if made := Make(patched(t, f, *told.Fix), measure.Metric, noon()); slices.Contains(texts(made.Findings), told.Text) {
			t.Errorf("%s: told again after its way out was taken", name)
		}
	}
}

// Of two doors the one that is never shut is taken, and where there is only one that is,
// what comes after it is told.
func TestADoorThatIsShut(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900))
	f.Job.Zone, f.Job.Start = "UTC", "2026-12-07T08:00"
	near, far := geometry.Point{X: 0, Y: 2}, geometry.Point{X: 8, Y: 2}
	layout := &f.Job.Surfaces[0].Layout
	layout.Exit, layout.Closes = &near, "08:10"
	ends := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Times.End
	if told := saying(Make(f, measure.Metric, noon()), "its door is shut at 08:10"); told == nil ||
		!ends.After(stage.OnDay(*ends, "08:10")) {
		t.Errorf("done at %v, and nothing is told", ends)
	}
	layout.Closes = ends.Add(time.Minute).Format("15:04")
	if told := saying(Make(f, measure.Metric, noon()), "its door is shut"); told != nil {
		t.Errorf("shut at %s, done at %v: %s", layout.Closes, ends, told.Text)
	}
	layout.Closes, layout.Others = "08:10", []pour.Exit{{At: far}}
	p := Make(f, measure.Metric, noon())
	if told := saying(p, "its door is shut"); told != nil {
		t.Error(told.Text)
	}
	sections := p.Surfaces[0].Coats[0].Sections
	if first, last := sections[0].Label, sections[len(sections)-1].Label; last.Distance(far) >= first.Distance(far) {
		t.Errorf("the work goes from %v to %v, away from the open door", first, last)
	}
}

// A floor with a flight of steps: the first batches come down the steps, and every section
// covers as much as its batch is for.
func TestBatchesComeDownTheSteps(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900))
	f.Job.Surfaces[0].Floor.Parts = []takeoff.Part{
		{ID: "s", Kind: takeoff.Stairs, Count: 9, Width: 1.4, Tread: 0.3, Riser: 0.17, Nosing: 0.02},
		{ID: "c", Kind: takeoff.Cove, Height: 0.08},
	}
	p := Make(f, measure.Metric, noon())
	c, off := p.Surfaces[0].Coats[0], p.Surfaces[0].Takeoff
	steps, sum := 0, measure.Area(0)
	for n, s := range c.Sections {
		share := off.Area * measure.Area(c.Division.Batches[n].Volume/c.Division.Mixed)
		if math.Abs(float64(s.Area+s.Parts-share)) > 1e-6 || s.Area <= 0 || s.Parts <= 0 {
			t.Errorf("section %d has %v and %v m² of %v", s.Number, s.Area, s.Parts, share)
		}
		for _, flight := range s.Steps {
			if flight.From != steps+1 {
				t.Errorf("section %d goes on with step %d after %d", s.Number, flight.From, steps)
			}
			steps, sum = flight.To, sum+flight.Area
		}
	}
	if steps != 9 || math.Abs(float64(sum)-9*1.4*0.49) > 1e-9 || len(c.Sections[0].Steps) != 1 {
		t.Errorf("%d steps, %v m²", steps, sum)
	}
	said := false
	for _, s := range c.Cards[0].Floor {
		said = said || strings.Contains(s.Text, "Stairs first, from the top down: steps 1 to")
	}
	if !said {
		t.Errorf("%+v", c.Cards[0].Floor)
	}
}
