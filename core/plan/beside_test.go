package plan

import (
	"context"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// Two ways of the same floor: ground or etched, with one coat or two. Each is the plan of its own file;
// an etched floor dries overnight, and each way tells what only it risks.
func TestTwoWaysSideBySide(t *testing.T) {
	hour := 40.0
	way := func(m school.Methods, coats ...float64) job.File {
		all := []buildup.Coat{coat("keelbody-100", 900)}
		for _, film := range coats {
			all = append(all, coat("gullwing-ur", film))
		}
		f := laidJob(t, demoShelf(t), all...)
		for n := range f.Job.Surfaces[0].Coats {
			f.Job.Surfaces[0].Coats[n].ID = string(rune('a' + n))
		}
		f.Job.HourCost, f.Job.Methods, f.Job.Zone = &hour, m, "UTC"
		f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete}
		return f
	}
	beside := func(files ...job.File) []Side {
		sides, err := NewPlanner().Beside(context.Background(), files, facts.At(noon()), measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		return sides
	}
	etch, grind := way(school.Methods{Opening: school.Etch}), way(school.Methods{})
	sides := beside(grind, etch)
	for n, s := range sides {
		f := []job.File{grind, etch}[n]
		alone := Make(f, measure.Metric, noon())
		if s.Line.Kits != alone.Line.Kits || math.Abs(float64(s.Line.Effort-alone.Line.Effort)) > 1 {
			t.Errorf("way %d: %d kits and %v s, alone %d and %v", n, s.Line.Kits, s.Line.Effort, alone.Line.Kits,
				alone.Line.Effort)
		}
		if total := *s.Line.Cost + s.Line.Others + *s.Line.Labour; s.Total == nil || math.Abs(*s.Total-total) > 1e-9 {
			t.Errorf("way %d costs %v in all, by hand %g", n, s.Total, total)
		}
		if s.Odds == nil || s.Hardest == "" || !s.Begins.Equal(noon().Add(19*time.Hour)) || s.Nights == nil {
			t.Fatalf("way %d: %+v", n, s)
		}
	}
	// The etched floor dries overnight before its coat.
	if *sides[1].Nights <= *sides[0].Nights {
		t.Errorf("etched in %d nights, ground in %d", *sides[1].Nights, *sides[0].Nights)
	}
	told := func(s Side, words string) bool {
		return slices.ContainsFunc(s.Risks, func(r string) bool { return strings.Contains(r, words) })
	}
	if !told(sides[1], "Acid into water") || told(sides[0], "Acid into water") || !told(sides[0], "Silica") ||
		told(sides[0], "Amine") || told(sides[0], "Whole kits") {
		t.Errorf("ground: %v\netched: %v", sides[0].Risks, sides[1].Risks)
	}
	// What is booked changes nothing of it.
	booked := facts.At(noon())
	booked.Bookings = []facts.Booking{{Task: string(work.PourID("a")), From: noon().AddDate(0, 2, 0),
		Until: noon().AddDate(0, 2, 0).Add(5 * time.Hour)}}
	if s, err := NewPlanner().Beside(context.Background(), []job.File{grind}, booked, measure.Metric); err != nil ||
		!s[0].Line.Ready.Equal(*sides[0].Line.Ready) {
		t.Errorf("booked: %v, %+v", err, s)
	}
	// One more coat costs more and takes longer; its odds are those of the coat that most often fails.
	long := beside(grind, way(school.Methods{}, 100))
	if *long[1].Total <= *long[0].Total || *long[1].Nights <= *long[0].Nights || len(long[1].Steps) <= len(long[0].Steps) {
		t.Errorf("%+v and %+v", long[0], long[1])
	}
	slow := way(school.Methods{}, 100)
	slow.Job.Surfaces[0].Coats[1].Pace = &measure.Sourced[measure.Pace]{Value: 12.0 / 3600, Source: measure.OwnTest}
	if s := beside(slow)[0]; s.Hardest != "Loading quay, coat 2" && s.Odds.Of > long[0].Odds.Of || s.Odds.Of > 0.99 {
		t.Errorf("%v of %s", s.Odds, s.Hardest)
	}
	// Where the job has a start, the work begins in the shift of that hour, on a Monday, or in the one after it.
	fixed := grind
	for start, day := range map[job.Local]int{"2031-06-02T07:00:00": 2, "2031-06-01T18:00:00": 2,
		"2031-05-01T07:00:00": 7} {
		fixed.Job.Start = start
		if s := beside(fixed)[0]; s.Begins.Day() != day || s.Begins.Hour() != 7 {
			t.Errorf("from %s: begins %v", start, s.Begins)
		}
	}
}
