package plan

import (
	"context"
	"encoding/json"
	"errors"
	"math"
	"strings"
	"testing"
	"time"

	"nephelon/core/facts"
	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/record"
)

// What is issued is the plan, to the figure: each batch with its card, section and way, each
// coat with its start, film, crew and limits, and no price.
func TestWhatIsIssuedIsThePlan(t *testing.T) {
	f := demo(t, "baggage-hall")
	now := time.Date(2026, 12, 1, 8, 0, 0, 0, time.UTC)
	p := NewPlanner()
	made := p.Make(f, measure.Metric, now)
	issue, err := p.Issue(context.Background(), f, facts.At(now), measure.Metric, "")
	if err != nil {
		t.Fatal(err)
	}
	coats := 0
	for _, s := range made.Surfaces {
		for c, want := range s.Coats {
			got := issue.Coat(want.ID)
			if want.Train == nil {
				continue
			}
			coats++
			if got == nil || len(got.Batches) != len(want.Cards) || got.Wet != want.Mixed ||
				!got.Start.Equal(*want.Times.Start) || got.Last != (c == len(s.Coats)-1) || len(got.Crew) != len(want.Crew) {
				t.Fatalf("coat %s: %+v", want.ID, got)
			}
			for k, b := range got.Batches {
				if b.Card.Mass != want.Cards[k].Mass || b.Passage != want.Train.Passages[k] || b.Life != want.Cards[k].PotLife ||
					b.ID != want.Division.Batches[k].ID || b.Section != want.Sections[k].ID || b.Number != k+1 {
					t.Errorf("coat %s, batch %d is not that of the plan", want.ID, k+1)
				}
			}
			if got.Limits.DewMargin < 3 || got.Limits.SlabMin >= got.Limits.SlabMax {
				t.Errorf("coat %s: limits %+v", want.ID, got.Limits)
			}
		}
	}
	if coats == 0 || len(issue.Coats) != coats {
		t.Errorf("%d coats issued of %d", len(issue.Coats), coats)
	}
	if text, _ := json.Marshal(issue); strings.Contains(string(text), `"price"`) {
		t.Error("an issued plan tells prices")
	}
	if made.Surfaces[0].Coats[0].Price == nil {
		t.Error("the plan has no prices to hide")
	}
	// Told with nothing logged an hour before its first start, the day is the plan.
	first := issue.Coats[0]
	day := record.NewTeller().Tell(&issue, nil, first.Start.Add(-time.Hour), measure.Metric)
	for k, b := range day.Coats[0].Batches {
		want := first.Start.Add(time.Duration(float64(first.Batches[k].Passage.Done) * float64(time.Second)))
		if off := b.Due.Done.Sub(want).Seconds(); math.Abs(off) > 1 {
			t.Errorf("batch %d is done %.0f s off the plan", k+1, off)
		}
	}
}

// A day of a plan has the coats that begin on it by the clock of the site, and none begins on
// most days; a job of which nothing can be poured is not issued.
func TestADayOfAPlanIsIssued(t *testing.T) {
	f := demo(t, "baggage-hall")
	now := time.Date(2026, 12, 1, 8, 0, 0, 0, time.UTC)
	p := NewPlanner()
	whole, err := p.Issue(context.Background(), f, facts.At(now), measure.Metric, "")
	if err != nil {
		t.Fatal(err)
	}
	days := make(map[string]int)
	for _, c := range whole.Coats {
		days[c.Start.Format(time.DateOnly)]++
	}
	if len(days) < 2 {
		t.Fatalf("all begin on one day: %v", days)
	}
	for day, want := range days {
		got, err := p.Issue(context.Background(), f, facts.At(now), measure.Metric, day)
		if err != nil || len(got.Coats) != want || got.Day != day {
			t.Errorf("%s: %d coats, want %d: %v", day, len(got.Coats), want, err)
		}
	}
	if _, err := p.Issue(context.Background(), f, facts.At(now), measure.Metric, "1999-01-01"); !errors.Is(err,
		ErrNothingToIssue) {
		t.Errorf("a day with nothing: %v", err)
	}
	f.Job.Surfaces[0].Coats, f.Job.Surfaces[1].Coats = nil, nil
	if _, err := p.Issue(context.Background(), f, facts.At(now), measure.Metric, ""); !errors.Is(err, ErrNothingToIssue) {
		t.Errorf("no coats: %v", err)
	}
}

// A top is drawn to its crew: each piece with what is cut out, and what each batch covers of it.
func TestATopIsIssuedWithItsPieces(t *testing.T) {
	f, now := demo(t, "oyster-bar"), time.Date(2026, 12, 1, 8, 0, 0, 0, time.UTC)
	issue, err := NewPlanner().Issue(context.Background(), f, facts.At(now), measure.Metric, "")
	if err != nil {
		t.Fatal(err)
	}
	tops := 0
	for _, s := range f.Job.Surfaces {
		if s.Top == nil {
			continue
		}
		tops++
		rings := 0
		for _, p := range s.Top.Pieces {
			rings += 1 + len(p.Cutouts)
		}
		if got := len(issue.Surface(s.ID).Outline); got != rings {
			t.Errorf("%s: %d outlines, want %d", s.Name, got, rings)
		}
		for _, c := range issue.Coats {
			for _, b := range c.Batches {
				if c.Surface == s.ID && (len(b.Rings) == 0 || b.Label == (geometry.Point{})) {
					t.Errorf("%s, coat %d, batch %d is not drawn", s.Name, c.Number, b.Number)
				}
			}
		}
	}
	if tops == 0 {
		t.Error("no top")
	}
}
