package enough

import (
	"math"
	"strings"
	"testing"
	"time"

	"nephelon/core/geometry"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/pour/sim"
	"nephelon/core/record"
	"nephelon/core/work"
)

var begins = time.Date(2031, 3, 4, 8, 0, 0, 0, time.UTC)

// hall is a floor of 12 by 5 m whose coat of 400 µm is laid in four strips of 3 by 5 m, 7.5 kg each, toward the right,
// a pail every 20 min. Its sheet wants at least 300 µm; 45 kg are at hand, 15 of them beside the plan.
func hall() *record.Issue {
	start := begins
	c := record.Coat{ID: "c", Surface: "s", Number: 1, Name: "Example", Wet: 400e-6, Start: &start}
	c.Product.ID = "p"
	c.Product.FilmMin = &measure.Sourced[measure.Film]{Value: 300e-6, Source: measure.Sheet}

	for k := range 4 {
		x, at := float64(3*k), measure.Span(1200*k)
		b := record.Batch{ID: work.BatchID("c", k+1), Number: k + 1,
			Card:    kit.Card{Batch: k + 1, Section: k + 1, Mass: 7.5, Area: 15},
			Passage: sim.Passage{Meets: at - 300, Pour: at, Empty: at + 120, Laid: at + 900, Done: at + 1100},
			Rings:   []geometry.Ring{{{X: x}, {X: x + 3}, {X: x + 3, Y: 5}, {X: x, Y: 5}}}}
		if k > 0 {
			b.Beside = []int{k}
		}
		c.Batches = append(c.Batches, b)
	}
	return &record.Issue{Zone: "UTC", Surfaces: []record.Surface{{ID: "s", Name: "Hall", Area: 60}},
		Coats: []record.Coat{c}, Supplies: []record.Supply{{Product: "p", Mass: 45}}}
}

// at returns the reach after some pails were poured in time, with what was told of the last.
func at(i *record.Issue, poured int, end func(b *record.BatchDay)) (Reach, bool) {
	c := &i.Coats[0]
	begun := begins
	d := record.CoatDay{ID: c.ID, Number: 1, Begun: &begun}
	for k := range c.Batches {
		p := &c.Batches[k].Passage
		b := record.BatchDay{Number: k + 1, Due: record.Course{Meets: p.Meets.After(begins), Laid: p.Laid.After(begins)}}
		if k < poured {
			pour := p.Pour.After(begins)
			b.Began, b.Meets = &pour, &b.Due.Meets
		}
		if k == poured-1 {
			end(&b)
		}
		d.Batches = append(d.Batches, b)
	}
	all := Of(i, &record.Day{Coats: []record.CoatDay{d}}, measure.Metric)
	if len(all) == 0 {
		return Reach{}, false
	}
	return all[0], true
}

func covered(area measure.Area) func(*record.BatchDay) {
	return func(b *record.BatchDay) { b.Covered = &area }
}

func about(a, b float64) bool { return math.Abs(a-b) <= 0.01*math.Max(1, math.Abs(b)) }

// Worked by hand. Two pails were planned for 30 of 60 m². They went as far as 27.5 m² (5.5 m): 436 µm; the two left go
// 27.5 m² of 32.5, 5 m² stay bare; at 400 · 30/32.5 = 369 µm they reach. Pail 3 then covers 15 · 400/369 = 16.25 m²,
// ends at 43.75 m², 1.25 m² before the tape at 45, over 5 m of edge 25 cm.
func TestTheRestIsStretched(t *testing.T) {
	got, _ := at(hall(), 2, covered(27.5))
	if got.Verdict != Stretch || !about(float64(got.Laid), 27.5) || !about(float64(got.Film)*1e6, 436) ||
		!about(float64(got.Rest)*1e6, 369) || got.Opened != 2 || got.Pails != 4 || got.After != 2 {
		t.Errorf("%+v", got)
	}
	if len(got.Ends) != 1 || got.Ends[0].Batch != 3 || !about(float64(got.Ends[0].Area), 16.25) ||
		math.Abs(float64(got.Ends[0].Shift)+0.25) > 0.01 {
		t.Errorf("ends %+v", got.Ends)
	}
	// Its tape lies at 9 m across the hall.
	if line := got.Ends[0].Line; len(line) != 1 || !about(line[0][0].X, 8.75) || !about(line[0][1].X, 8.75) ||
		!about(math.Abs(line[0][0].Y-line[0][1].Y), 5) {
		t.Errorf("its film ends along %v", line)
	}
	if !about(float64(got.Spare), 15) || !strings.Contains(got.Do, "Spread the rest at 369") {
		t.Errorf("spare %v: %s", got.Spare, got.Do)
	}
}

// The third pail is mixed as a half before anybody told how far a film reaches: 22.5 m² are left for 30, 300 µm, which
// its sheet just allows; for the planned film 7.5 m² more take 3.75 kg. The half covers 10 m² then and ends 1 m before
// its tape at 9 m.
func TestASmallerPailIsTold(t *testing.T) {
	i, bare := hall(), measure.Area(15)
	b := &i.Coats[0].Batches[2]
	b.Bare, b.Card.Area, b.Card.Mass = &bare, 7.5, 3.75
	got, _ := at(i, 2, func(*record.BatchDay) {})
	if got.Verdict != Stretch || !about(float64(got.Bare), 30) || !about(float64(got.Rest)*1e6, 300) ||
		!about(float64(got.More), 3.75) || got.After != 0 {
		t.Errorf("%+v", got)
	}
	if len(got.Ends) != 1 || !about(float64(got.Ends[0].Area), 10) || len(got.Ends[0].Line) != 1 ||
		!about(got.Ends[0].Line[0][0].X, 8) {
		t.Errorf("ends %+v", got.Ends)
	}
}

// Two pails went 22 of 30 m²: 30 m² are left for 38, 316 µm. That is a fifth thinner and more: at 400 µm the 8
// m² between
// take 4 kg more, begun at 09:15.
func TestMuchThinnerIsTold(t *testing.T) {
	got, _ := at(hall(), 2, covered(22))
	if got.Verdict != Stretch || !about(float64(got.More), 4) ||
		!strings.Contains(got.Do, "4 kg more, mixed by 09:15") {
		t.Errorf("%+v", got)
	}
}

// The same area, typed for a wall that has no plan, tells the same, but for the tape.
func TestAnAreaIsToldInWords(t *testing.T) {
	i := hall()
	for k := range i.Coats[0].Batches {
		i.Coats[0].Batches[k].Rings = nil
	}
	got, _ := at(i, 2, covered(27.5))
	if got.Verdict != Stretch || !about(float64(got.Rest)*1e6, 369) || len(got.Ends) != 0 {
		t.Errorf("%+v", got)
	}
}

// Three pails went 31.5 of 45 m²: one pail is left for 28.5 m². At 300 µm it goes 20: 8.5 m² or 4.25 kg are missing,
// and one more pail would be begun 20 min after the last, at 08:55 + 20 min = 09:15.
func TestAnotherKitMustCome(t *testing.T) {
	got, _ := at(hall(), 3, covered(31.5))
	if got.Verdict != Short || !about(float64(got.Misses), 8.5) || !about(float64(got.More), 4.25) ||
		!about(float64(got.Rest)*1e6, 300) {
		t.Errorf("%+v", got)
	}
	if want := begins.Add(75 * time.Minute); got.By == nil || !got.By.Equal(want) {
		t.Errorf("by %v, want %v", got.By, want)
	}
	if !strings.Contains(got.Do, "left over at hand, at 09:15") {
		t.Error(got.Do)
	}
	i := hall()
	i.Supplies[0].Mass = 32 // 2 beside the plan
	if got, _ = at(i, 3, covered(31.5)); !strings.Contains(got.Do, "Only 2") {
		t.Error(got.Do)
	}
	i.Supplies = nil
	if got, _ = at(i, 3, covered(31.5)); !strings.Contains(got.Do, "must be here by 09:15, or stop") {
		t.Error(got.Do)
	}
	i.Coats[0].Product.FilmMin = nil // then no less than 320 µm: 18.75 m², 9.75 missing
	if got, _ = at(i, 3, covered(31.5)); !about(float64(got.Misses), 9.75) {
		t.Errorf("without a least film: %+v", got)
	}
}

// All four pails are poured and 4 m² stay bare: nothing is left to stretch.
func TestTheLastPailIsPoured(t *testing.T) {
	got, _ := at(hall(), 4, covered(56))
	if got.Verdict != Short || got.Rest != 0 || !about(float64(got.More), 2) ||
		!strings.HasPrefix(got.Do, "4 m² stays bare") {
		t.Errorf("%+v", got)
	}
}

// Two pails went 33 m²: 364 µm, thinner than planned. The two left cover the 27 m² at 400 µm with a tenth over: 1.5 kg.
func TestMixStaysOver(t *testing.T) {
	got, _ := at(hall(), 2, covered(33))
	if got.Verdict != Enough || !about(float64(got.Film)*1e6, 364) || !about(float64(got.Rest)*1e6, 400) ||
		!about(float64(got.Over), 1.5) {
		t.Errorf("%+v", got)
	}
	// 42 m² is 286 µm, under the least of 300.
	got, _ = at(hall(), 2, covered(42))
	if got.Verdict != Thin || !about(float64(got.Rest)*1e6, 400) || !strings.Contains(got.Do, "bring mix back") {
		t.Errorf("%+v", got)
	}
}

// Within 1 % it is as planned, and no tape moves.
func TestWhatIsNearIsEnough(t *testing.T) {
	got, _ := at(hall(), 2, covered(29.9))
	if got.Verdict != Enough || got.Rest != 0 || len(got.Ends) != 0 {
		t.Errorf("%+v", got)
	}
}

// Without a told end, and with one that no pail can have, the plan is told; once the coat is done nothing is.
func TestNothingWasTold(t *testing.T) {
	got, _ := at(hall(), 2, func(*record.BatchDay) {})
	if got.Verdict != AsPlanned || got.After != 0 || !about(float64(got.Bare), 30) {
		t.Errorf("%+v", got)
	}
	if got, _ = at(hall(), 1, covered(58)); got.Verdict != AsPlanned {
		t.Errorf("an area told in error: %+v", got)
	}
	for _, spoil := range []func(c *record.Coat){func(c *record.Coat) { c.Wet = 0 },
		func(c *record.Coat) { c.Batches[3].Card.Area = 0 }} {
		i := hall()
		spoil(&i.Coats[0])
		if got, told := at(i, 3, covered(31.5)); told {
			t.Errorf("no film or no area: %+v", got)
		}
	}
	i := hall()
	done := begins
	day := record.Day{Coats: []record.CoatDay{{ID: "c", Begun: &done, Done: &done}}}
	if all := Of(i, &day, measure.Metric); len(all) != 0 {
		t.Errorf("done: %+v", all)
	}
}

// Pails lost count as opened and are taken from what is at hand; what was weighed in goes as far as its mass.
func TestPailsThatDiffer(t *testing.T) {
	got, _ := at(hall(), 2, func(b *record.BatchDay) {
		b.Lost = []record.Remark{{}}
		b.Masses = []measure.Mass{4, 2} // 6 of 7.5 kg: planned for 12 of 15 m²
		area := measure.Area(27)
		b.Covered = &area
	})
	if got.Opened != 3 || !about(float64(got.Spare), 7.5) || !about(float64(got.Planned), 27) ||
		!about(float64(got.Film)*1e6, 400) {
		t.Errorf("%+v", got)
	}
}

// A place within a section counts from the edge that the section joins; the first goes toward the next.
func TestAreaUpToAPlace(t *testing.T) {
	c := &hall().Coats[0]
	d := &record.CoatDay{Batches: make([]record.BatchDay, 4)}
	for _, place := range []struct {
		at   [2]float64
		want float64
	}{{[2]float64{2, 1}, 10}, {[2]float64{4.5, 4}, 22.5}, {[2]float64{11.4, 2}, 57}} {
		if area, known := LaidUpTo(c, d, place.at); !known || math.Abs(float64(area)-place.want) > 0.3 {
			t.Errorf("%v: %v %v, want %v", place.at, area, known, place.want)
		}
	}
	d.Batches[1].Out = &record.Out{}
	if area, known := LaidUpTo(c, d, [2]float64{11.4, 2}); !known || math.Abs(float64(area)-42) > 0.3 {
		t.Errorf("with the second left out: %v", area)
	}
	c.Batches = c.Batches[:1]
	if _, known := LaidUpTo(c, d, [2]float64{40, 40}); known {
		t.Error("a place outside")
	}
	if _, known := LaidUpTo(c, d, [2]float64{2, 1}); known {
		t.Error("nothing shows which way a single section goes")
	}
}

// The last section is left out: the pail after two reaches what is left, at 400 · 15/17.5 = 343 µm.
func TestWhatIsLeftOutIsNotBare(t *testing.T) {
	i := hall()
	c := &i.Coats[0]
	begun := begins
	d := record.CoatDay{ID: c.ID, Begun: &begun, Batches: make([]record.BatchDay, 4)}
	area := measure.Area(27.5)
	for k := range 2 {
		d.Batches[k].Began = &begun
	}
	d.Batches[1].Covered, d.Batches[3].Out = &area, &record.Out{}
	got := Of(i, &record.Day{Coats: []record.CoatDay{d}}, measure.Metric)[0]
	if got.Verdict != Stretch || !about(float64(got.Bare), 17.5) || !about(float64(got.Rest)*1e6, 343) || got.Pails != 3 ||
		!about(float64(got.Spare), 22.5) {
		t.Errorf("%+v", got)
	}
}

// Of four sections two were laid when the day was closed: half of the coat, at what was done last of it. While it is
// not closed, or once a third is begun after all, nothing was broken off.
func TestACoatThatWasBrokenOff(t *testing.T) {
	i := hall()
	after := func(m float64) *time.Time {
		at := begins.Add(time.Duration(m * float64(time.Minute)))
		return &at
	}
	c := record.CoatDay{ID: "c", Begun: after(0), Batches: make([]record.BatchDay, 4)}
	for k := range 2 {
		c.Batches[k] = record.BatchDay{Poured: after(float64(20 * k)), Rolled: after(float64(20*k + 18))}
	}
	day := record.Day{Coats: []record.CoatDay{c}}
	if _, _, is := BrokenOff(i, &day, &day.Coats[0]); is {
		t.Error("broken off before the day is closed")
	}
	day.Closed = &record.Remark{At: *after(45)}
	if at, share, is := BrokenOff(i, &day, &day.Coats[0]); !is || !at.Equal(*after(38)) || share != 0.5 {
		t.Errorf("%v, %v, %v", at, share, is)
	}
	day.Coats[0].Batches[2].Poured = after(50)
	if _, _, is := BrokenOff(i, &day, &day.Coats[0]); is {
		t.Error("broken off while it is laid")
	}
}
