package kit

import (
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// By hand: 22 L out of kits of 10 L, at most 7 L at once. Four batches are the fewest. Two
// thirds and halves of a kit come out more than 8 % above the need, thirds take seven batches,
// half as many again and one more: so they are measured. Of 21 L halves are 5 × 5 L, too
// much by a fifth; of 24 L they are 4 % too much, and taken.
func TestFractionsTakeNotManyMoreBatches(t *testing.T) {
	for need, want := range map[measure.Volume]struct {
		batches int
		each    float64
		share   string
	}{0.022: {4, 0.0055, MeasuredShare}, 0.021: {3, 0.007, MeasuredShare}, 0.024: {5, 0.005, "½ × 10 L"}} {
		d, err := Divide(need, bounded(0.007),
			NewAtHand(bought(float64(need), Item{Kit: "10 L", Volume: 0.010, Count: 3})), false)
		if err != nil || len(d.Batches) != want.batches || !near(float64(d.Batches[0].Volume), want.each, 1e-12) ||
			d.Batches[0].Share != want.share {
			t.Errorf("%v: %d of %v, %s, %v", need, len(d.Batches), d.Batches[0].Volume, d.Batches[0].Share, err)
		}
	}
	// Four hundred batches are as many as can be.
	many := bought(0.4, Item{Kit: "1 L", Volume: 0.001, Count: 500})
	if d, err := Divide(0.4, bounded(0.001), NewAtHand(many), true); err != nil || len(d.Batches) != 400 {
		t.Errorf("%d, %v", len(d.Batches), err)
	}
	if _, err := Divide(0.4001, bounded(0.001), NewAtHand(many), true); err == nil ||
		!strings.Contains(err.Error(), "400") {
		t.Errorf("%v", err)
	}
}

// What lies between joins that stay is divided into as few equal batches as the limit allows.
func TestBetweenPinnedJoins(t *testing.T) {
	for _, c := range []struct {
		need, limit measure.Volume
		pinned      []float64
		want        []float64
	}{
		{12, 3, []float64{0.5}, []float64{0.25, 0.25, 0.25, 0.25}},
		{12, 2.99, []float64{0.25}, []float64{0.125, 0.125, 0.1875, 0.1875, 0.1875, 0.1875}},
		{12, 20, []float64{0.25, 0.5}, []float64{0.25, 0.25, 0.5}},
		{4, 1, []float64{0.001, 0.002}, []float64{0.001, 0.001, 0.2495, 0.2495, 0.2495, 0.2495}},
		{1, 0, []float64{0.5}, nil}, {1, -1, []float64{0.5}, nil}, {401, 1, []float64{0.5}, nil},
	} {
		got, err := Between(c.need, c.limit, c.pinned)
		if !slices.EqualFunc(got, c.want, func(a, b float64) bool { return near(a, b, 1e-12) }) ||
			(err != nil) != (c.want == nil) {
			t.Errorf("%v in %v at %v: %v, %v", c.need, c.limit, c.pinned, got, err)
		}
	}
	if most, err := Between(400, 1, []float64{0.5}); err != nil || len(most) != 400 {
		t.Errorf("%d, %v", len(most), err)
	}
}

// bought is one purchase of kits of a size each.
func bought(need float64, lines ...Item) Purchase {
	p := Purchase{Need: measure.Volume(need), Lines: lines}
	for _, l := range lines {
		p.Bought += l.Volume * measure.Volume(l.Count)
	}
	return p
}

func bounded(v float64) []Limit { return []Limit{{Kind: ByBucket, Volume: measure.Volume(v)}} }

// Where somebody placed the joins, batches follow the shares and pass the limit where
// they must; what is left at hand is taken down all the same.
func TestBatchesByTheirShares(t *testing.T) {
	hand := NewAtHand(bought(0.012, Item{Kit: "12 L", Volume: 0.012, Count: 1}))
	d, over := DivideAs(0.012, []float64{1, 2, 3}, bounded(0.004), hand)
	want := []float64{0.002, 0.004, 0.006}
	for i, b := range d.Batches {
		if !near(float64(b.Volume), want[i], 1e-12) || b.Number != i+1 || b.Share != MeasuredShare {
			t.Errorf("%+v, want %v", b, want[i])
		}
	}
	if !slices.Equal(over, []int{3}) || len(d.Batches) != 3 || d.Mixed != 0.012 || d.Excess != 0 || d.Reason == "" ||
		d.Equal() != 0 {
		t.Errorf("%+v, over %v", d, over)
	}
	if !near(float64(hand.mixed), 0.012, 1e-12) || hand.later != 0 {
		t.Errorf("%v mixed, %v later", hand.mixed, hand.later)
	}
}

// Kits of two sizes, one to a batch, by hand: 10 L and 3 L for 12 L are 8 % over.
func TestWholeKitsAsBought(t *testing.T) {
	divide := func(need, limit float64, p Purchase) Division {
		t.Helper()
		d, err := Divide(measure.Volume(need), bounded(limit), NewAtHand(p), false)
		if err != nil {
			t.Fatal(err)
		}
		return d
	}
	small, large := Item{Kit: "3 L", Volume: 0.003, Count: 1}, Item{Kit: "10 L", Volume: 0.010, Count: 1}
	d := divide(0.012, 0.010, bought(0.012, small, large))
	if len(d.Batches) != 2 || d.Batches[0].Share != "1 × 10 L" || d.Batches[1].Share != "1 × 3 L" ||
		!near(float64(d.Excess), 0.001, 1e-9) || !strings.Contains(d.Reason, "the sizes differ") {
		t.Errorf("%+v", d)
	}
	// The larger passes the limit: measured, all equal, as few as the limit allows.
	d = divide(0.012, 0.0099, bought(0.012, small, large))
	if d.Equal() != 2 || d.Batches[0].Share == "1 × 10 L" {
		t.Errorf("%+v", d)
	}
	// 15 % more than the need may be mixed to keep to whole kits, and no more.
	if d := divide(0.01131, 0.010, bought(0.01131, small, large)); d.Batches[0].Share != "1 × 10 L" {
		t.Errorf("15 %% over: %+v", d)
	}
	if d := divide(0.01129, 0.010, bought(0.01129, small, large)); d.Batches[0].Share == "1 × 10 L" {
		t.Errorf("more than 15 %% over: %+v", d)
	}
	// Where another coat draws on them, too, they are not all this one's.
	shared := bought(0.020, small, large, Item{Kit: "7 L", Volume: 0.007, Count: 1})
	if d, err := Divide(0.012, bounded(0.010), NewAtHand(shared), false); err != nil || d.Batches[0].Share == "1 × 10 L" {
		t.Errorf("%+v, %v", d, err)
	}
	// Nothing at all, or too many batches to mix.
	if _, err := Divide(0.012, bounded(0), NewAtHand(bought(0.012, large)), false); err == nil {
		t.Error("batches of nothing")
	}
	if d, err := Divide(0.4, bounded(0.001), NewAtHand(bought(0.4)), true); err != nil || len(d.Batches) != 400 {
		t.Errorf("400 batches: %d, %v", len(d.Batches), err)
	}
	if _, err := Divide(0.401, bounded(0.001), NewAtHand(bought(0.401)), true); err == nil {
		t.Error("401 batches")
	}
	if largest := NewAtHand(bought(0.012, small, large)).Largest(); largest != 0.010 {
		t.Errorf("the largest is %v", largest)
	}
}

// The largest batch that two people spread in the life it has left, by hand: at 0.4 mm
// and 30 m²/h each they spread 24 L an hour, 0.4 L a minute; 30 minutes of life less 3
// of mixing, 2 of standing and 1 of carrying leave 24 minutes, 9.6 L.
func TestWhatCanBeSpread(t *testing.T) {
	p := twoPack(2, 1)
	p.Mixing, p.Induction = &measure.Sourced[measure.Span]{Value: 180}, &measure.Sourced[measure.Span]{Value: 120}
	s := Spreading{Spreaders: 2, Pace: 30.0 / measure.Hour, PerArea: 0.0004, Density: 1100, Carry: 60,
		Mixing: MixingOf(&p, false, false), Life: lasting(1800)}
	if v := s.Spreadable(&p, 1); !near(float64(v), 0.0096, 1e-5) {
		t.Errorf("%v m³", v)
	}
	if v := s.Spreadable(&p, 0.005); !near(float64(v), 0.005, 1e-9) {
		t.Errorf("looked for up to 5 L, yet %v m³", v)
	}
	s.Life = lasting(360)
	if v := s.Spreadable(&p, 1); v != 0 {
		t.Errorf("no time is left, yet %v m³", v)
	}
	if _, err := Limits(&p, Bucket{Volume: 0.02}, s, measure.Metric); err == nil ||
		!strings.Contains(err.Error(), "6 min") {
		t.Errorf("%v", err)
	}
	// What else bounds a batch, in words; thinner takes its room in the bucket.
	s.Life, s.Thinner, s.Kit, s.KitShare, s.Wanted = nil, 0.25, 0.009, 1, 0.006
	p.MixMax = &measure.Sourced[measure.Mass]{Value: 5.5}
	limits, err := Limits(&p, Bucket{Volume: 0.02, Headroom: 0.5}, s, measure.Metric)
	if err != nil {
		t.Fatal(err)
	}
	for i, want := range []struct {
		kind   LimitKind
		volume float64
		says   string
	}{
		{BySheet, 0.005, "at most 5.5 kg mixed at once"}, {ByChoice, 0.006, "at most 6 L in a batch"},
		{ByBucket, 0.008, "With 25% of thinner that is 8 L"}, {ByPolicy, 0.009, "You mix one kit of 9 L"},
	} {
		if l := limits[i]; l.Kind != want.kind || !near(float64(l.Volume), want.volume, 1e-9) ||
			!strings.Contains(l.Text, want.says) {
			t.Errorf("%+v, want %+v", l, want)
		}
	}
	s.KitShare = 0.5
	if limits, _ = Limits(&p, Bucket{Volume: 0.02}, s, measure.Metric); limits[0].Kind != ByPolicy ||
		!strings.Contains(limits[0].Text, "at most 50% of a kit") || !near(float64(limits[0].Volume), 0.0045, 1e-9) {
		t.Errorf("%+v", limits[0])
	}
	if people(1) != "By one person it" || people(3) != "By 3 people it" {
		t.Error(people(3))
	}
}

func TestPumpsThatCannotServe(t *testing.T) {
	p := twoPack(2, 1)
	for _, c := range []struct {
		name, says string
		pumps      material.Pumps
		mix        material.Mix
		batch      measure.Volume
	}{
		{"three parts", "for two parts, and Glaze has 3", material.Pumps{A: 1e-5, B: 1e-5},
			material.Mix{Shares: make([]material.Share, 3)}, 0.001},
		{"a stroke of nothing", "must be more than 0", material.Pumps{A: 1e-5}, p.Mix(), 0.001},
		{"no A", "must be more than 0", material.Pumps{B: 1e-5}, p.Mix(), 0.001},
		{"too many strokes", "more than 20000 strokes", material.Pumps{A: 2e-7, B: 1e-7}, p.Mix(), 0.0020001},
		{"built for another ratio", "one stroke of each gives 1.95 : 1, and Glaze needs 2 : 1",
			material.Pumps{Built: "ratio", A: 1.95e-5, B: 1e-5}, p.Mix(), 0.001},
		{"too small a batch", "come no closer than 25%", material.Pumps{Built: "equal", A: 3e-5, B: 1e-5}, p.Mix(), 0.00003},
	} {
		if _, err := Pumped(c.pumps, "Glaze", c.mix, c.batch, measure.Metric); err == nil ||
			!strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v", c.name, err)
		}
	}
	if s, err := Pumped(material.Pumps{A: 2e-7, B: 1e-7, Built: "ratio"}, "Glaze", p.Mix(), 0.002, measure.Metric); err !=
		nil || s.A != 6667 {
		t.Errorf("%+v, %v", s, err)
	}
	if s, err := Pumped(material.Pumps{Built: "ratio", A: 1.961e-5, B: 1e-5, Priming: 3}, "Glaze", p.Mix(), 0.002961,
		measure.Metric); err != nil || s.A != 100 || s.B != 100 || s.Priming != 3 || !near(float64(s.Off), -0.0195, 1e-9) ||
		!near(float64(s.Volume), 0.002961, 1e-12) {
		t.Errorf("%+v, %v", s, err)
	}
}

// What each use counts, over floors, tops and pools of one job.
func TestWhatToolsAreCountedBy(t *testing.T) {
	w := Work{People: 4, Sites: []Site{
		{Place: "floor", Area: 100, Ground: 80, Perimeter: 40, Doors: 3,
			Coats: []CoatWork{{Kind: "primer", Area: 100, Batches: 2}, {Kind: "body", Area: 90, Batches: 5}}},
		{Place: "top", Area: 5, Ground: 1, Perimeter: 12, Coats: []CoatWork{{Kind: "flood", Area: 5, Batches: 1}}},
	}}
	for _, c := range []struct {
		use  material.ToolUse
		want float64
		kind measure.Kind
	}{
		{material.ToolUse{Per: "area"}, 105, measure.KindArea},
		{material.ToolUse{Per: "area", On: []material.SurfaceKind{"top"}}, 5, measure.KindArea},
		{material.ToolUse{Per: "ground-area"}, 81, measure.KindArea},
		{material.ToolUse{Per: "coat-area"}, 195, measure.KindArea},
		{material.ToolUse{Per: "coat-area", Kinds: []material.Kind{"primer", "flood"}}, 105, measure.KindArea},
		{material.ToolUse{Per: "perimeter"}, 52, measure.KindLength}, {material.ToolUse{Per: "doors"}, 3, measure.KindLength},
		{material.ToolUse{Per: "person"}, 4, measure.KindCount},
		{material.ToolUse{Per: "person", On: []material.SurfaceKind{"pool"}}, 0,
			measure.KindCount},
		{material.ToolUse{Per: "batch"}, 8, measure.KindCount},
		{material.ToolUse{Per: "batch", Kinds: []material.Kind{"body"}}, 5, measure.KindCount},
		{material.ToolUse{Per: "coat"}, 3, measure.KindCount},
		{material.ToolUse{Per: "coat", On: []material.SurfaceKind{"floor"}, Kinds: []material.Kind{"flood"}}, 0,
			measure.KindCount},
		{material.ToolUse{Per: "job"}, 1, measure.KindCount},
		{material.ToolUse{Per: "job", On: []material.SurfaceKind{"pool"}}, 0, measure.KindCount},
	} {
		if got, kind, what := w.counted("", c.use); got != c.want || kind != c.kind || what == "" {
			t.Errorf("%+v counts %v %s", c.use, got, what)
		}
	}
	price := 4.0
	box := material.Medium{ID: "own-rags", Name: "Rags", Kind: "tool",
		Use:   &material.ToolUse{Per: "coat-area", Amount: 0.1},
		Packs: []material.Pack{{Name: "bale", Amount: 100}, {Name: "bag", Amount: 5, Price: &price}}}
	tools := Tools(Work{People: 4, Sites: w.Sites, Heater: "torch", Mist: true},
		[]material.Medium{box, {ID: "flake", Kind: "flake"}, {ID: "unused", Kind: "tool"}}, measure.Metric)
	find := func(id string) Tool {
		for _, t := range tools {
			if t.ID == id {
				return t
			}
		}
		return Tool{}
	}
	// The smallest pack serves: 19.5 are four bags of five.
	if r := find("own-rags"); r.Pack != "bag" || r.Packs != 4 || !near(r.Need, 19.5, 1e-12) || *r.Cost != 16 ||
		r.Why != "1 for 10 m², over 195 m² of coats" {
		t.Errorf("%+v", r)
	}
	if r := find("tool-torch"); r.Need != 1 || r.Pack != "piece" || r.Why != "1 for each, over 1 job" {
		t.Errorf("%+v", r)
	}
	if r := find("tool-mist"); !near(r.Need, 1.95, 1e-12) || r.Packs != 2 {
		t.Errorf("%+v", r)
	}
	if r := find("tool-tape"); r.Why != "1.1 times 52 m of walls" {
		t.Errorf("%+v", r)
	}
	if find("unused").ID != "" || find("flake").ID != "" {
		t.Error("what is no tool is counted")
	}
}

// Packs at least cost where all have a price, else with the least left over.
func TestPacksOfAMedium(t *testing.T) {
	price := func(v float64) *float64 { return &v }
	packs := []material.Pack{{Name: "25 kg", Amount: 25, Price: price(40)}, {Name: "5 kg", Amount: 5, Price: price(15)}}
	lines, cost := Packs(31, packs)
	if !reflect.DeepEqual(lines, []PackLine{{"25 kg", 1}, {"5 kg", 2}}) || *cost != 70 {
		t.Errorf("%+v for %v", lines, cost)
	}
	packs[0].Price = price(14) // cheaper than a small one
	if lines, cost = Packs(31, packs); !reflect.DeepEqual(lines, []PackLine{{"25 kg", 2}}) || *cost != 28 {
		t.Errorf("%+v for %v", lines, *cost)
	}
	packs[1].Price = nil
	if lines, cost = Packs(31, packs); !reflect.DeepEqual(lines, []PackLine{{"25 kg", 1}, {"5 kg", 2}}) || cost != nil {
		t.Errorf("%+v for %v", lines, cost)
	}
	for _, c := range []struct {
		need  float64
		packs []material.Pack
	}{{0, packs}, {-1, packs}, {3, nil}} {
		if lines, cost := Packs(c.need, c.packs); len(lines) != 0 || lines == nil || cost != nil {
			t.Errorf("%+v: %+v", c, lines)
		}
	}
}

func TestContainersThatCannotBe(t *testing.T) {
	for _, c := range []struct {
		name      string
		container Container
		fields    []string
	}{
		{"a kit", Container{Part: "kit", Volume: 0.001}, nil},
		{"an empty kit", Container{Part: "kit", Mass: 1}, []string{"/volume"}},
		{"a medium", Container{Part: "medium", Mass: 0.1}, nil},
		{"an empty one", Container{Part: "medium", Volume: 1}, []string{"/mass"}},
		{"dates", Container{Part: "A", Volume: 1, Received: "2031-02-01", Expires: "2031-02-02"}, nil},
		{"no dates", Container{Part: "A", Volume: 1, Received: "soon", Expires: "tomorrow"},
			[]string{"/received", "/expires"}},
		{"the same day", Container{Part: "A", Volume: 1, Received: "2031-02-01", Expires: "2031-02-01"},
			[]string{"/expires"}},
		{"one date", Container{Part: "A", Volume: 1, Expires: "2031-02-01"}, nil},
	} {
		var got []string
		for _, f := range c.container.Faults() {
			if got = append(got, f.Field); f.Text == "" || f.Way == "" {
				t.Errorf("%s: %+v", c.name, f)
			}
		}
		if !slices.Equal(got, c.fields) {
			t.Errorf("%s: %v, want %v", c.name, got, c.fields)
		}
	}
	// Good through the day that is printed on it.
	c := Container{Expires: "2031-02-01"}
	if c.Expired(time.Date(2031, 2, 1, 23, 0, 0, 0, time.UTC)) ||
		!c.Expired(time.Date(2031, 2, 2, 1, 0, 0, 0, time.UTC)) || (Container{}).Expired(time.Now()) {
		t.Error("an expiry is off by a day")
	}
}

// First what expires first; what has no date last; touch-up is left alone.
func TestTheOrderOfStock(t *testing.T) {
	today := time.Date(2031, 5, 6, 12, 0, 0, 0, time.UTC)
	p := twoPack(2, 1)
	p.ID = "p"
	held := []Container{
		{ID: "never", Sheet: "p", Part: "kit", Volume: 0.001, Lot: "L1"},
		{ID: "late", Sheet: "p", Part: "kit", Volume: 0.002, Expires: "2032-01-01", Lot: "L2"},
		{ID: "soon", Sheet: "p", Part: "kit", Volume: 0.003, Expires: "2031-06-01", Lot: "L1"},
		{ID: "kept", Sheet: "p", Part: "kit", Volume: 1, TouchUp: true},
		{ID: "empty", Sheet: "p", Part: "kit"}, {ID: "other", Sheet: "p", Part: "kit", Hardener: "slow", Volume: 1},
		{ID: "old", Sheet: "p", Part: "kit", Volume: 0.004, Expires: "2031-05-05"},
		{ID: "opened", Sheet: "p", Part: "kit", Volume: 0.005, Expires: "2031-05-05", Opened: true},
	}
	order := func(s Stock) string {
		var ids []string
		for _, h := range s.Held {
			ids = append(ids, h.Container)
		}
		return strings.Join(ids, " ")
	}
	s := OnHand(p, p.Mix(), "", held, today, false, measure.Metric)
	if order(s) != "soon late never" || !near(float64(s.Mix), 0.006, 1e-12) || len(s.Expired) != 2 ||
		!slices.Equal(s.Lots, []string{"L1", "L2"}) {
		t.Errorf("%s, %v m³, %d expired, lots %v", order(s), s.Mix, len(s.Expired), s.Lots)
	}
	// Sealed and past its date it may still be good; opened it never is.
	if s := OnHand(p, p.Mix(), "", held, today, true, measure.Metric); order(s) != "old soon late never" ||
		len(s.Expired) != 2 {
		t.Errorf("%s", order(s))
	}
	// A serves any hardener, B only its own: 2 L of A with 0.5 L of the slow B make 1.5 L.
	parts := []Container{{ID: "a1", Sheet: "p", Part: "A", Volume: 0.0015, Expires: "2032-01-01"},
		{ID: "a0", Sheet: "p", Part: "A", Volume: 0.0005, Expires: "2031-07-01"},
		{ID: "b", Sheet: "p", Part: "B", Hardener: "slow", Volume: 0.0005}, {ID: "bx", Sheet: "p", Part: "B", Volume: 1}}
	s = OnHand(p, p.Mix(), "slow", parts, today, false, measure.Metric)
	if order(s) != "a0 a1" || !near(float64(s.Mix), 0.0015, 1e-9) || !near(float64(s.Held[0].Volume), 0.00075, 1e-9) ||
		!near(float64(s.Held[1].Volume), 0.00075, 1e-9) {
		t.Errorf("%s: %+v", order(s), s.Held)
	}
	if len(s.Lone) != 1 || !strings.Contains(s.Lone[0], "1 L of Two-pack A has no matching part") {
		t.Errorf("%v", s.Lone)
	}
}

// A wish for no more than so much left over takes the cheapest way that keeps it, and
// the least left over where none does.
func TestWithinALeftover(t *testing.T) {
	// 7 L: 10 L for 50 leave 3 L; 3 × 2.5 L for 60 leave 0.5 L; 7 × 1 L for 91 nothing.
	sizes := []Size{{Name: "10 L", Volume: 0.010, Cost: 5000}, {Name: "2.5 L", Volume: 0.0025, Cost: 2000},
		{Name: "1 L", Volume: 0.001, Cost: 1300}}
	for _, c := range []struct {
		wish Wish
		want []int
	}{
		{Wish{Least: "cost"}, []int{1, 0, 0}}, {Wish{Least: "cost", Within: 0.003}, []int{1, 0, 0}},
		{Wish{Least: "cost", Within: 0.0029}, []int{0, 3, 0}},
		{Wish{Least: "cost", Within: 0.0005}, []int{0, 3, 0}}, {Wish{Least: "leftover"}, []int{0, 2, 2}},
		{Wish{Least: "cost", Within: 1e-9}, []int{0, 2, 2}},
		{Wish{Least: "cost", Margin: 0.5}, []int{1, 0, 1}},
	} {
		if got, _ := c.wish.choose(0.007, 0.007, sizes, true); !slices.Equal(got, c.want) {
			t.Errorf("%+v: %v, want %v", c.wish, got, c.want)
		}
	}
	if got, front := (Wish{}).choose(0.007, 0, sizes, true); !slices.Equal(got, []int{0, 0, 0}) || front != nil {
		t.Errorf("nothing is short, yet %v", got)
	}
}

// A purchase just above what fewer kits would hold is a near miss: up to 3 % of what
// is short.
func TestNearMisses(t *testing.T) {
	p := twoPack(2, 1)
	price := 50.0
	p.Kits = []material.Kit{{Name: "3 L", Volume: new(measure.Volume(0.003)), Price: &price}}
	nearly := func(need float64, stock Stock) measure.Volume {
		b, err := Buy(p, "", p.Mix(), measure.Volume(need), stock, nil)
		if err != nil {
			t.Fatal(err)
		}
		return b.Nearly(p, 1100)
	}
	for need, want := range map[float64]float64{0.003: 0, 0.003001: 0.003, 0.003092: 0.003, 0.0031: 0, 0.0061: 0.006} {
		if got := nearly(need, Stock{}); !near(float64(got), want, 1e-9) {
			t.Errorf("%v m³ nearly fit %v, want %v", need, got, want)
		}
	}
	if got := nearly(0.00401, Stock{Mix: 0.001}); !near(float64(got), 0.004, 1e-9) {
		t.Errorf("with stock %v", got)
	}
	if got := nearly(0.001, Stock{Mix: 0.001}); got != 0 {
		t.Errorf("all in stock, yet %v", got)
	}
	p.Kits[0].Price = nil
	if got := nearly(0.00301, Stock{}); !near(float64(got), 0.003, 1e-9) {
		t.Errorf("without a price %v", got)
	}
}

func TestRatiosThatAreNoBatch(t *testing.T) {
	p := twoPack(2, 1)
	paint := p
	paint.Components = p.Components[:1]
	for _, c := range []struct {
		name, says string
		product    material.Product
		masses     []measure.Mass
	}{
		{"one part", "one part only", paint, []measure.Mass{1}},
		{"one mass", "has 2 parts", p, []measure.Mass{1}},
		{"nothing of B", "enter the mass of B", p, []measure.Mass{1, 0}},
		{"too much of A", "above zero and at most", p, []measure.Mass{2001, 1}},
		{"no number", "enter the mass of A", p, []measure.Mass{measure.Mass(math.NaN()), 1}},
	} {
		if _, err := CheckRatio(&c.product, Weighed{Masses: c.masses, Bucket: 1}, measure.Metric); err == nil ||
			!strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v", c.name, err)
		}
	}
}

// Verdicts at their limits: 2 and 5 % off, three tenths of the life, and the bucket.
func TestVerdictsAtTheirLimits(t *testing.T) {
	p := twoPack(2, 1)
	mix := p.Mix()
	b := measure.Mass(float64(mix.Shares[1].Volume) * float64(mix.Shares[1].Density.Value))
	a := measure.Mass(float64(mix.Shares[0].Volume) * float64(mix.Shares[0].Density.Value))
	check := func(off float64, w Weighed) RatioCheck {
		t.Helper()
		w.Masses = []measure.Mass{a * measure.Mass(1+off), b}
		c, err := CheckRatio(&p, w, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		return c
	}
	wide := Weighed{Bucket: 100, Life: 1000, Elapsed: 300}
	for off, want := range map[float64]Verdict{0.0199: Good, 0.0201: Doubtful, 0.0499: Doubtful, 0.0501: Spoilt,
		-0.0199: Good, -0.0201: Doubtful, -0.0499: Doubtful, -0.0501: Spoilt} {
		c := check(off, wide)
		if c.Verdict != want || (len(c.Save) == 0) != (want == Good) {
			t.Errorf("%v off: %s, save %v", off, c.Verdict, c.Save)
		}
		side := "too much resin"
		if off < 0 {
			side = "too much hardener"
		}
		if want != Good && !strings.Contains(c.Text, side) {
			t.Errorf("%v off: %s", off, c.Text)
		}
	}
	late := wide
	late.Elapsed = 301
	if c := check(0.04, late); len(c.Save) != 0 || !strings.Contains(c.Text, "too late") ||
		strings.Contains(c.Text, "never hardens") {
		t.Errorf("%+v", c)
	}
	if c := check(0.2, late); len(c.Save) != 0 || !strings.Contains(c.Text, "never hardens through") {
		t.Errorf("%+v", c)
	}
	late.Life = 0 // nobody knows how long it lives
	if c := check(0.04, late); len(c.Save) != 1 {
		t.Errorf("%+v", c)
	}
	// A tenth too much of A wants a tenth more of B: 1.1 of the mix.
	full := wide
	full.Bucket = measure.Volume(1.1 * 1.0000001)
	if c := check(0.1, full); len(c.Save) != 1 || c.Save[0].Name != "B" ||
		!near(float64(c.Save[0].Mass), float64(b)*0.1, 1e-9) ||
		!near(float64(c.Save[0].Volume), mix.Shares[1].Volume*0.1, 1e-9) {
		t.Errorf("%+v", c)
	}
	full.Bucket = 1.0999
	if c := check(0.1, full); len(c.Save) != 0 || !strings.Contains(c.Text, "more than the bucket") {
		t.Errorf("%+v", c)
	}
}

// Printed lives are rounded down to half a minute; a paint has none.
func TestWhatACardPromises(t *testing.T) {
	p := twoPack(2, 1)
	for life, want := range map[measure.Span]measure.Span{1199.6: 1200, 1199: 1170, 1230: 1230, 1229: 1200, 29: 0} {
		if got := CardLife(&p, life); got != want {
			t.Errorf("%v s are promised as %v", life, got)
		}
	}
	paint := p
	paint.Components = p.Components[:1]
	if CardLife(&paint, 1200) != 0 {
		t.Error("a paint has a pot life")
	}
	if stepped(0.1234, 0) != 0.1234 || !near(float64(stepped(0.1234, 0.005)), 0.125, 1e-12) {
		t.Errorf("%v", stepped(0.1234, 0.005))
	}
}

// lasting is a pot life that is the same for every mass.
type lasting measure.Span

func (l lasting) Life(measure.Mass) measure.Span { return measure.Span(l) }
