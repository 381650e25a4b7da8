package record

import (
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour/sim"
	"nephelon/core/record/fact"
	"nephelon/core/work"
)

func sourced[T ~float64](v T) *measure.Sourced[T] {
	return &measure.Sourced[T]{Value: v, Source: measure.Sheet}
}

var start = time.Date(2031, 3, 4, 8, 0, 0, 0, time.UTC)

// issued is a plan of one coat in three batches over three sections, each beside the one
// before: mixed for 3 min from a minute's walk away, poured in 1 min, spread in 9 more,
// rolled 2 min later; every batch meets 4 min before the one ahead of it is spread.
func issued() *Issue {
	p := material.Product{ID: "x", Name: "Example", Chemistry: "epoxy"}
	p.Components = []material.Component{{Name: "A", Parts: 2, Density: sourced[measure.Density](1100)},
		{Name: "B", Parts: 1, Density: sourced[measure.Density](1000)}}
	p.VolumeSolids = *sourced[measure.Fraction](1)
	p.Ratio = material.Ratio{Basis: material.ByMass, Source: measure.Sheet}
	p.PotLife = []material.PotLife{{At: 20, Mass: 5, Lasts: 30 * 60, Source: measure.Sheet}}
	i := &Issue{
		Number: 1, Job: "job", Name: "A floor", Bucket: 0.02, Air: 20, Zone: "UTC",
		Surfaces: []Surface{{ID: "s", Name: "Hall", Area: 30}},
	}
	zero := start
	c := Coat{
		ID: "c", Surface: "s", Number: 1, Last: true, Product: p, Name: "Example", Wet: 300e-6, Start: &zero, Slab: 20,
		Working: 40 * 60,
		Limits:  Limits{DewMargin: 3, SlabMin: 10, SlabMax: 30, HumidityMax: 0.85}, Stages: []Promise{},
	}
	for k := range 3 {
		begin := measure.Span(k * 600)
		b := Batch{
			ID: work.BatchID("c", k+1), Section: work.SectionID("c", k+1), Number: k + 1, Life: 1800,
			Passage: sim.Passage{Batch: k + 1, Meets: begin - 240, Ready: begin - 60, Arrives: begin, Pour: begin,
				Empty: begin + 60, Spread: begin + 60, Laid: begin + 600, Done: begin + 720},
			Card: kit.Card{Batch: k + 1, Of: 3, Section: k + 1, Mass: 6, Volume: 0.0055, Area: 10, Mixing: 180, PotLife: 1800,
				Parts: []kit.Dose{{Name: "A"}, {Name: "B"}}},
		}
		if k > 0 {
			b.Beside = []int{k}
		}
		c.Batches = append(c.Batches, b)
	}
	i.Coats = []Coat{c}
	return i
}

// journal makes events of one device in the order given.
type journal struct {
	device, before string
	person         string
	number         int64
	behind         measure.Span
	all            []Event
}

func (j *journal) log(at time.Time, kind Kind, task work.ID, body Body) Event {
	j.number++
	e := Sealed(Event{
		ID: fmt.Sprintf("00000000-0000-0000-%s-%012d", j.device[:4], j.number), Issue: 1, Task: task, Kind: kind, At: at,
		Behind: j.behind,
		Device: j.device, Number: j.number, Person: j.person, Name: j.person, Body: body,
	}, j.before)
	j.before = e.Hash
	j.all = append(j.all, e)
	return e
}

func tablet(name string) *journal { return &journal{device: name + "-device", person: "Tess"} }

func batch(n int) work.ID { return work.ID(work.BatchID("c", n)) }

func minutes(m float64) time.Time { return start.Add(time.Duration(m * float64(time.Minute))) }

func tell(i *Issue, events []Event, now time.Time) Day {
	return NewTeller().Tell(i, events, now, measure.Metric)
}

// With nothing late and the plan's pace the day is the plan, to the second, at any moment
// before it and at every touch of it.
func TestADayAsPlannedIsThePlan(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	check := func(now time.Time) {
		t.Helper()
		d := tell(i, j.all, now).Coats[0]
		for k, b := range d.Batches {
			if b.Planned == nil || b.Due != *b.Planned {
				t.Errorf("at %s batch %d: due %v, planned %v", now.Format("15:04:05"), k+1, b.Due, b.Planned)
			}
		}
		if d.Pace != 1 {
			t.Errorf("pace %v", d.Pace)
		}
	}
	check(start.Add(-time.Hour))
	type touch struct {
		at    measure.Span
		kind  Kind
		batch int
	}
	var all []touch
	for _, b := range i.Coats[0].Batches {
		p := b.Passage
		all = append(all, touch{p.Meets, Meets, b.Number}, touch{p.Ready, Mixed, b.Number}, touch{p.Pour, Poured, b.Number},
			touch{p.Laid, Spread, b.Number}, touch{p.Done, Rolled, b.Number})
	}
	slices.SortStableFunc(all, func(a, b touch) int { return int(a.at - b.at) })
	for _, e := range all {
		at := e.at.After(start)
		j.log(at, e.kind, batch(e.batch), Body{})
		if e.kind != Spread && e.kind != Poured { // of two touches at one moment the day stands between
			check(at)
		}
	}
	d := tell(i, j.all, minutes(60)).Coats[0]
	if d.Done == nil || !d.Done.Equal(minutes(32)) {
		t.Errorf("done %v, want %v: the third is poured at 20 min and takes 12", d.Done, minutes(32))
	}
}

// Worked by hand: batch 1 is poured 5 min late and its section takes 18 min instead of 12,
// spread after 15 instead of 10. The pace is 1.5. Batch 2 meets 4 min before batch 1 is
// spread: at 5 + 15 − 4 = 16 min, is poured at 20, spread at 20 + 15 = 35, done at
// 35 + 3 = 38; batch 3 meets at 31, is poured at 35 and done at 35 + 18 = 53.
func TestALateFirstSectionTimesAllLaterCues(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	j.log(minutes(1), Meets, batch(1), Body{})
	j.log(minutes(4), Mixed, batch(1), Body{})
	j.log(minutes(5), Poured, batch(1), Body{})
	j.log(minutes(20), Spread, batch(1), Body{})
	j.log(minutes(23), Rolled, batch(1), Body{})
	// Batch 2 met and was poured when it should.
	j.log(minutes(16), Meets, batch(2), Body{})
	j.log(minutes(20), Poured, batch(2), Body{})
	d := tell(i, j.all, minutes(23)).Coats[0]
	if math.Abs(d.Pace-1.5) > 1e-9 || d.Paced != 1 {
		t.Fatalf("pace %v of %d sections, want 1.5 of 1", d.Pace, d.Paced)
	}
	two, three := d.Batches[1].Due, d.Batches[2].Due
	for _, c := range []struct {
		name      string
		got, want time.Time
	}{
		{"batch 2 spread", two.Laid, minutes(35)}, {"batch 2 done", two.Done, minutes(38)},
		{"batch 3 meets", three.Meets, minutes(31)}, {"batch 3 poured", three.Pour, minutes(35)},
		{"batch 3 done", three.Done, minutes(53)},
		{"the coat", d.Ends, minutes(53)},
	} {
		if c.got.Sub(c.want).Abs() > time.Millisecond {
			t.Errorf("%s: %s, want %s", c.name, c.got.Format("15:04:05"), c.want.Format("15:04:05"))
		}
	}
	if len(d.Next) != 1 || d.Next[0].Do != "meet" || d.Next[0].Batch != 3 || !d.Next[0].At.Equal(minutes(31)) {
		t.Errorf("next: %+v, want batch 3 at 31 min", d.Next)
	}
	if len(d.Now) != 1 || d.Now[0].Do != "spread" || d.Now[0].Batch != 2 {
		t.Errorf("now: %+v, want to spread section 2", d.Now)
	}
}

// Whoever is late pushes what follows: a batch that is due and was not mixed is due now.
func TestWhatIsDueAndHasNotHappenedIsDueNow(t *testing.T) {
	d := tell(issued(), nil, minutes(10)).Coats[0]
	if got := d.Batches[0].Due.Meets; !got.Equal(minutes(10)) {
		t.Errorf("batch 1 is due %s, want now", got.Format("15:04"))
	}
	if got := d.Batches[2].Due.Done; !got.Equal(minutes(46)) {
		t.Errorf("the last is done %s; 14 min late of 32 is 46 min", got.Format("15:04"))
	}
}

// Whoever mixes and works on the floor begins the next when the section is done.
func TestOnePersonMixesOnceTheSectionIsDone(t *testing.T) {
	i := issued()
	for k := range i.Coats[0].Batches {
		begin := measure.Span(k) * (720 + 240)
		p := &i.Coats[0].Batches[k].Passage
		p.Meets, p.Ready, p.Arrives, p.Pour, p.Empty, p.Laid, p.Done = begin-240, begin-60, begin, begin, begin+60,
			begin+600, begin+720
	}
	j := tablet("aaaa")
	j.log(minutes(-4), Meets, batch(1), Body{})
	j.log(minutes(0), Poured, batch(1), Body{})
	j.log(minutes(20), Spread, batch(1), Body{})
	j.log(minutes(24), Rolled, batch(1), Body{}) // twice the planned time
	d := tell(i, j.all, minutes(24)).Coats[0]
	if got := d.Batches[1].Due.Meets; !got.Equal(minutes(24)) {
		t.Errorf("batch 2 meets %s, want 24 min: when section 1 is done", got.Format("15:04"))
	}
	if got := d.Batches[2].Due.Meets; !got.Equal(minutes(24 + 4 + 24)) {
		t.Errorf("batch 3 meets %s, want 52 min", got.Format("15:04"))
	}
}

// A lost bucket begins its batch anew, and what follows waits for it.
func TestALostBucketIsMixedOnceMore(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	j.log(minutes(-4), Meets, batch(1), Body{})
	j.log(minutes(3), Lost, batch(1), Body{Text: "went hot"})
	d := tell(i, j.all, minutes(3)).Coats[0]
	b := d.Batches[0]
	if b.State != Waiting || b.Attempt != 2 || b.Meets != nil || len(b.Lost) != 1 {
		t.Fatalf("%+v", b)
	}
	if got := d.Batches[1].Due.Pour; !got.Equal(minutes(17)) {
		t.Errorf("batch 2 is poured %s, want 17 min: batch 1 meets at 3, is poured at 7 and spread at 17",
			got.Format("15:04"))
	}
	if d.Used.Lost != 6 || d.Used.Mass != 0 {
		t.Errorf("lost %v kg, used %v kg", d.Used.Lost, d.Used.Mass)
	}
	if len(d.Now) == 0 || !strings.Contains(d.Now[0].Text, "once more") {
		t.Errorf("%+v", d.Now)
	}
}

// The life of a pail rests on its parts as they were: warm parts shorten it, and use-by
// counts from A meeting B.
func TestUseByRestsOnThePartsAsTheyWere(t *testing.T) {
	temperature := func(v measure.Temperature) *measure.Temperature { return &v }
	sheet := measure.Span(1800)
	life := func(a *measure.Temperature, masses ...measure.Mass) measure.Span {
		i := issued()
		i.Coats[0].Product.PotLife[0].Lasts = sheet
		j := tablet("aaaa")
		if masses != nil {
			j.log(minutes(-5), Weighed, batch(1), Body{Masses: masses})
		}
		j.log(minutes(-4), Meets, batch(1), Body{A: a})
		b := tell(i, j.all, minutes(0)).Coats[0].Batches[0]
		if want := b.Life.After(minutes(-4)); b.UseBy == nil || !b.UseBy.Equal(want) {
			t.Errorf("use by %v, want %v", b.UseBy, want)
		}
		return b.Life
	}
	planned, same, warm, cold := life(nil), life(temperature(20)), life(temperature(28)), life(temperature(14))
	if planned != 1800 {
		t.Errorf("without temperatures it is as planned: %v s", planned)
	}
	// Colder than the sheet knows no longer life is promised.
	if !(warm < 0.75*same && cold <= same && same <= planned) {
		t.Errorf("14 °C %v s, 20 °C %v s, 28 °C %v s", cold, same, warm)
	}
	// Of a slow resin a cup lives longer than a pail: for four hours about 2 : 1 from 100 g to
	// 10 kg, as the heat balance has it.
	sheet = 4 * 3600
	if light, heavy := life(temperature(20), 0.2, 0.1), life(temperature(20), 8, 4); !(light > 1.3*heavy) {
		t.Errorf("0.3 kg live %v s, 12 kg %v s", light, heavy)
	}
}

// Limits are called out before they are reached, with what to do, most urgent first.
func TestLimitsAreCalledOutBefore(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	j.log(minutes(-4), Meets, batch(1), Body{})
	j.log(minutes(-1), Mixed, batch(1), Body{})
	watch := func(now time.Time) []Say { return tell(i, j.all, now).Coats[0].Watch }
	if w := watch(minutes(18)); len(w) != 0 {
		t.Errorf("8 min before its end nothing is near: %+v", w)
	}
	if w := watch(minutes(20)); len(w) != 1 || w[0].Batch != 1 || w[0].Late || !w[0].Until.Equal(minutes(26)) {
		t.Errorf("a quarter of 30 min before its end it is called out: %+v", w)
	}
	// Past its life nothing but carrying it out is offered for it, before all else.
	if now := tell(i, j.all, minutes(27)).Coats[0].Now; len(now) == 0 || now[0].Do != "lost" || !now[0].Late ||
		!strings.Contains(now[0].Text, "never add water") {
		t.Errorf("past its life: %+v", now)
	}
	for _, s := range tell(i, j.all, minutes(27)).Coats[0].Now[1:] {
		if s.Batch == 1 {
			t.Errorf("past its life it is still worked at: %+v", s)
		}
	}
	// Poured at 0 and spread at 10, the edge of section 1 can be joined until 50 min.
	j.log(minutes(0), Poured, batch(1), Body{})
	j.log(minutes(10), Spread, batch(1), Body{})
	j.log(minutes(12), Rolled, batch(1), Body{})
	for _, c := range []struct {
		at    float64
		wants string
	}{{13, ""}, {45, "roll into the edge"}, {47, "too late for the edge"}, {51, "has set"}} {
		text := ""
		for _, w := range watch(minutes(c.at)) {
			if w.Batch == 2 {
				text = w.Text
			}
		}
		if (text == "") != (c.wants == "") || !strings.Contains(text, c.wants) {
			t.Errorf("at %v min: “%s”, want “%s”", c.at, text, c.wants)
		}
	}
}

// What was forgotten is told later, with when it happened: the life of the pail runs from when
// A met B, not from when somebody found a free hand, and the record says how much later it was.
func TestAForgottenTouchCountsFromWhenItHappened(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	then := func(m float64) Body { at := minutes(m); return Body{Noticed: &at} }
	j.log(minutes(2), Meets, batch(1), then(-4))
	b := tell(i, j.all, minutes(3)).Coats[0].Batches[0]
	if !b.UseBy.Equal(minutes(26)) || b.Told[Meets] != 6*60 {
		t.Errorf("use by %v, told %v s later; A met B at −4, its life is 30 min", b.UseBy, b.Told[Meets])
	}
	// At 27 min it seems past its life; it was poured at 1 min, and only not logged.
	j.log(minutes(27), Poured, batch(1), then(1))
	d := tell(i, j.all, minutes(27)).Coats[0]
	if b = d.Batches[0]; b.State != Pouring || !b.Poured.Equal(minutes(1)) || len(d.Now) == 0 || d.Now[0].Do == "lost" {
		t.Errorf("%+v; now %+v", b, d.Now)
	}
	j.log(minutes(27), Spread, batch(1), then(11))
	// What is logged as it happens is not.
	j.log(minutes(28), Rolled, batch(1), Body{})
	if b = tell(i, j.all, minutes(29)).Coats[0].Batches[0]; len(b.Told) != 3 || b.Told[Rolled] != 0 {
		t.Errorf("told later: %v", b.Told)
	}
	late := j.log(minutes(30), Joined, batch(2), then(33))
	if text := Check(&late, minutes(30)); !strings.HasPrefix(text, "body.noticed: ") {
		t.Errorf("happened after it was logged: “%s”", text)
	}
}

// Any order, any repetition, any split over three devices ends in the same record, also where the clock of one
// jumps two hours ahead and back an hour, and the jumps are found.
func TestTheSameEventsTellTheSame(t *testing.T) {
	i := issued()
	one, two, three := tablet("aaaa"), tablet("bbbb"), tablet("cccc")
	two.behind = 420 // its clock is 7 minutes late
	three.behind = -7200
	three.log(minutes(12+120), Meets, batch(2), Body{})
	three.behind = 3600
	three.log(minutes(16-60), Poured, batch(2), Body{})
	three.behind = 0
	three.log(minutes(25), Spread, batch(2), Body{})
	film := measure.Film(310e-6)
	one.log(minutes(-4), Meets, batch(1), Body{})
	one.log(minutes(0), Poured, batch(1), Body{})
	wrong := one.log(minutes(2), Spread, batch(1), Body{})
	one.log(minutes(3), Struck, "", Body{Struck: wrong.ID})
	two.log(minutes(9-7), Spread, batch(1), Body{})
	two.log(minutes(10-7), Film, batch(1), Body{Film: &film})
	fault := two.log(minutes(400-7), Fault, batch(1), Body{Seen: "soft"})
	yes := true
	one.log(minutes(410), Answered, work.ID(fault.ID), Body{Question: "residue", Yes: &yes})
	all := slices.Concat(one.all, two.all, three.all)
	want := tell(i, all, minutes(500))
	if at := want.Coats[0].Batches[0].Spread; at == nil || !at.Equal(minutes(9)) {
		t.Fatalf("spread %v, want 9 min by the clock of the server", at)
	}
	if b := want.Coats[0].Batches[1]; !b.Meets.Equal(minutes(12)) || !b.Poured.Equal(minutes(16)) ||
		!b.Spread.Equal(minutes(25)) || len(want.Breaks)+len(want.Doubts)+len(want.Late) > 0 {
		t.Fatalf("the jumping clock tells %v, %v, %v; %+v", b.Meets, b.Poured, b.Spread, want)
	}
	if len(want.Faults) != 1 || len(want.Faults[0].Answers) != 1 {
		t.Fatalf("%+v", want.Faults)
	}
	random := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		mixed := slices.Clone(all)
		for range random.IntN(6) {
			mixed = append(mixed, all[random.IntN(len(all))])
		}
		random.Shuffle(len(mixed), func(a, b int) { mixed[a], mixed[b] = mixed[b], mixed[a] })
		if got := tell(i, mixed, minutes(500)); !reflect.DeepEqual(got, want) {
			t.Fatalf("told another record by %d events in another order", len(mixed))
		}
	}
}

// Striking twice is striking once, and what was struck can be logged anew.
func TestStriking(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	met := j.log(minutes(-4), Meets, batch(1), Body{})
	j.log(minutes(-3), Struck, "", Body{Struck: met.ID})
	once := tell(i, j.all, minutes(0)).Coats[0].Batches[0]
	j.log(minutes(-2), Struck, "", Body{Struck: met.ID})
	if twice := tell(i, j.all, minutes(0)).Coats[0].Batches[0]; !reflect.DeepEqual(once, twice) || once.Meets != nil {
		t.Errorf("once %+v, twice %+v", once, twice)
	}
	j.log(minutes(-1), Meets, batch(1), Body{})
	if b := tell(i, j.all, minutes(0)).Coats[0].Batches[0]; b.Meets == nil || !b.Meets.Equal(minutes(-1)) {
		t.Errorf("%+v", b.Meets)
	}
}

// A gap, a change and a fork of a device's journal show; one that is whole shows nothing.
func TestBreaksOfAJournalShow(t *testing.T) {
	j := tablet("aaaa")
	for n := range 4 {
		j.log(minutes(float64(n)), Noted, "", Body{Text: fmt.Sprint(n)})
	}
	if b := Breaks(j.all); len(b) != 0 {
		t.Errorf("whole: %v", b)
	}
	gap := slices.Delete(slices.Clone(j.all), 1, 2)
	if b := Breaks(gap); len(b) != 1 || !strings.Contains(b[0].Text, "missing") || b[0].Number != 3 {
		t.Errorf("gap: %v", b)
	}
	changed := slices.Clone(j.all)
	changed[2].Body.Text = "other"
	if b := Breaks(changed); len(b) != 1 || !strings.Contains(b[0].Text, "changed") || b[0].Number != 3 {
		t.Errorf("changed: %v", b)
	}
	// Changed and sealed anew, the next one gives it away.
	resealed := slices.Clone(j.all)
	resealed[2].Body.Text = "other"
	resealed[2] = Sealed(resealed[2], resealed[2].Before)
	if b := Breaks(resealed); len(b) != 1 || !strings.Contains(b[0].Text, "does not follow") || b[0].Number != 4 {
		t.Errorf("resealed: %v", b)
	}
	fork := append(slices.Clone(j.all), Sealed(Event{ID: "other", Kind: Noted, Device: j.device, Number: 4,
		Body: Body{Text: "x"}, At: minutes(9)}, j.all[2].Hash))
	if b := Breaks(fork); len(b) != 1 || !strings.Contains(b[0].Text, "two events") {
		t.Errorf("fork: %v", b)
	}
}

// What arrives is checked, and the sentence begins with the field.
func TestEventsAreChecked(t *testing.T) {
	j := tablet("aaaa")
	film := measure.Film(0)
	for _, c := range []struct {
		field string
		e     Event
	}{
		{"", j.log(minutes(0), Meets, batch(1), Body{})},
		{"at:", j.log(minutes(30), Meets, batch(1), Body{})},
		{"kind:", j.log(minutes(0), "danced", batch(1), Body{})},
		{"task:", j.log(minutes(0), Poured, "coat/c", Body{})},
		{"body.film:", j.log(minutes(0), Film, batch(1), Body{Film: &film})},
		{"body.saw:", j.log(minutes(0), Gated, "coat/c", Body{Gate: "dust"})},
		{"body.masses:", j.log(minutes(0), Weighed, batch(1), Body{Masses: []measure.Mass{1}})},
		{"body.lots:", j.log(minutes(0), Lot, batch(1), Body{Lots: []string{""}})},
		{"body.struck:", j.log(minutes(0), Struck, "", Body{})},
	} {
		if got := Check(&c.e, minutes(1)); !strings.HasPrefix(got, c.field) || (c.field == "") != (got == "") {
			t.Errorf("%s: “%s”, want %s…", c.e.Kind, got, c.field)
		}
	}
	e := j.all[0]
	e.At = e.At.Add(time.Second)
	if got := Check(&e, minutes(1)); !strings.HasPrefix(got, "hash:") {
		t.Errorf("an event that was changed: “%s”", got)
	}
}

// A gate is closed by what was seen, with readings that allow it, or overridden with a
// reason; each way is told apart. 20 °C and 60 % have their dew point at 12 °C (Magnus).
func TestGates(t *testing.T) {
	i := issued()
	value := func(v float64) *measure.Temperature { f := measure.Temperature(v); return &f }
	humid := measure.Fraction(0.60)
	gates := func(events []Event) map[string]GateState {
		out := make(map[string]GateState)
		for _, g := range tell(i, events, start).Coats[0].Gates {
			out[g.Key] = g
		}
		return out
	}
	j := tablet("aaaa")
	j.log(minutes(-30), Gated, "coat/c", Body{Gate: GateReadings, Saw: "read", Slab: value(14.5), Air: value(20),
		Humidity: &humid})
	if g := gates(j.all)[GateReadings]; g.Closed || !strings.Contains(g.Bad, "above the dew point") {
		t.Errorf("2.5 K above the dew point: %+v", g)
	}
	j.log(minutes(-29), Gated, "coat/c", Body{Gate: GateReadings, Saw: "read again", Slab: value(15.5), Air: value(20),
		Humidity: &humid})
	if g := gates(j.all)[GateReadings]; !g.Closed || g.Over {
		t.Errorf("3.5 K above the dew point: %+v", g)
	}
	j.log(minutes(-28), Gated, "coat/c", Body{Gate: "dust", Reason: "swept, no lamp here"})
	if g := gates(j.all)["dust"]; !g.Closed || !g.Over || g.What != "swept, no lamp here" {
		t.Errorf("overridden: %+v", g)
	}
	if d := tell(i, j.all, start); d.Coats[0].Open != 7 || len(d.Readings) != 2 {
		t.Errorf("%d open of 9, %d readings", d.Coats[0].Open, len(d.Readings))
	}
	for _, c := range []struct {
		e     Event
		leads bool
	}{{j.all[1], false}, {j.all[2], true}} {
		if ForLeads(&c.e, nil) != c.leads {
			t.Errorf("%+v: only for leads is %v", c.e.Body, !c.leads)
		}
	}
	mine, other := Event{Kind: Struck, Person: "Bo"}, Event{Person: "Tess"}
	if !ForLeads(&mine, &other) || ForLeads(&mine, &Event{Person: "Bo"}) {
		t.Error("a hand takes back what they logged themselves, and nothing else")
	}
}

// Hours are paired by person; who begins elsewhere has ended here.
func TestHours(t *testing.T) {
	one, two := tablet("aaaa"), tablet("bbbb")
	two.person = "Bo"
	one.log(minutes(0), Began, "coat/c/pour", Body{})
	two.log(minutes(10), Began, "coat/c/pour", Body{})
	one.log(minutes(30), Began, "coat/c/check", Body{})
	one.log(minutes(45), Ended, "coat/c/check", Body{})
	hours := tell(issued(), append(one.all, two.all...), minutes(60)).Hours
	want := []float64{30, 50, 15}
	if len(hours) != len(want) {
		t.Fatalf("%+v", hours)
	}
	for n, w := range want {
		if math.Abs(hours[n].Span/60-w) > 1e-9 {
			t.Errorf("%s at %s: %v min, want %v", hours[n].Person, hours[n].Task, hours[n].Span/60, w)
		}
	}
	if hours[1].To != nil {
		t.Error("Bo is still at it")
	}
}

// While a coat has no section of its own done, the pace of the one below it on the same surface
// is taken; its own rules as soon as there is one.
func TestTheCoatBelowTellsThePace(t *testing.T) {
	i := issued()
	on := i.Coats[0]
	on.ID, on.Number = "d", 2
	later := start.Add(24 * time.Hour)
	on.Start = &later
	on.Batches = slices.Clone(on.Batches)
	for k := range on.Batches {
		on.Batches[k].ID = work.BatchID("d", k+1)
	}
	i.Coats = append(i.Coats, on)
	j := tablet("aaaa")
	j.log(minutes(0), Poured, batch(1), Body{})
	j.log(minutes(18), Rolled, batch(1), Body{})
	d := tell(i, j.all, minutes(20)).Coats[1]
	if d.Guess != 1 || math.Abs(d.Pace-1.5) > 1e-9 || d.Paced != 0 {
		t.Fatalf("pace %v by coat %d", d.Pace, d.Guess)
	}
	// Spread in 15 min instead of 10: the second is poured at 15.
	if got, want := d.Batches[1].Due.Pour, later.Add(15*time.Minute); !got.Equal(want) {
		t.Errorf("batch 2 is poured %v, want %v", got, want)
	}
	other := work.ID(work.BatchID("d", 1))
	j.log(later, Poured, other, Body{})
	j.log(later.Add(6*time.Minute), Rolled, other, Body{})
	if d := tell(i, j.all, later.Add(time.Hour)).Coats[1]; d.Guess != 0 || math.Abs(d.Pace-0.5) > 1e-9 {
		t.Errorf("pace %v by coat %d, want its own", d.Pace, d.Guess)
	}
}

// Touches made one after the other, after the work, tell nothing of a pace.
func TestWhatWasLoggedAfterwardsTellsNoPace(t *testing.T) {
	j := tablet("aaaa")
	j.log(minutes(0), Poured, batch(1), Body{})
	j.log(minutes(0.1), Rolled, batch(1), Body{})
	if d := tell(issued(), j.all, minutes(1)).Coats[0]; d.Pace != 1 || d.Paced != 0 {
		t.Errorf("pace %v from %d sections", d.Pace, d.Paced)
	}
}

// Facts by hand: batch 1 meets at −4 and lives 30 min; poured out from 24 to 25 it is out of
// the pail a minute before its end, from 27 to 28 two after.
func TestFactsOfABatch(t *testing.T) {
	film, slab, warmer := measure.Film(390e-6), measure.Temperature(18), measure.Temperature(20)
	found := func(events []Event, key fact.Key) *fact.Fact {
		for _, f := range tell(issued(), events, minutes(300)).Facts {
			if f.Key == key && f.Batch <= 1 {
				return &f
			}
		}
		return nil
	}
	day := func(poured float64) []Event {
		j := tablet("aaaa")
		j.log(minutes(-20), Read, "coat/c", Body{Slab: &slab})
		j.log(minutes(-6), Weighed, batch(1), Body{Masses: []measure.Mass{4, 1.8}})
		j.log(minutes(-4), Meets, batch(1), Body{})
		j.log(minutes(-2), Mixed, batch(1), Body{})
		j.log(minutes(poured), Poured, batch(1), Body{})
		j.log(minutes(poured+10), Spread, batch(1), Body{})
		j.log(minutes(poured+11), Film, batch(1), Body{Film: &film})
		j.log(minutes(poured+12), Rolled, batch(1), Body{})
		j.log(minutes(poured+30), Read, "coat/c", Body{Slab: &warmer})
		return j.all
	}
	for _, c := range []struct {
		poured float64
		key    fact.Key
		so     bool
		text   string
	}{
		{24, fact.PouredLate, false, "1 min before"}, {27, fact.PouredLate, true, "2 min after"},
		{24, fact.OffRatio, true, "11.1"}, // 2 : 1 wanted, 2.222 : 1 weighed
		{24, fact.MuchHardener, false, "too little hardener"},
		{24, fact.UnderMixed, true, "2 min of 3 min"},
		{24, fact.ThickFilm, true, "390"}, {24, fact.ThinFilm, false, "390"},
		{24, fact.Warming, true, "rose by 2"},
		{24, fact.OpenDust, true, "open"},
		{24, fact.Stood, true, "26 min"}, {1, fact.Stood, false, "3 min"},
		{24, fact.SlowSection, false, "12 min"},
	} {
		f := found(day(c.poured), c.key)
		if f == nil || f.So != c.so || !strings.Contains(plain(f.Text), c.text) {
			t.Errorf("poured at %v: %s is %+v, want %v, “%s”", c.poured, c.key, f, c.so, c.text)
		}
	}
	if f := found(day(24), fact.NearDew); f != nil {
		t.Errorf("no humidity was read, and yet: %+v", f)
	}
}

// The name of who logged is told beside the record: changed, it breaks nothing. Events of
// earlier builds, sealed with it, fit as they are.
func TestNamesAreBesideTheRecord(t *testing.T) {
	e := Sealed(Event{ID: "one", Kind: Noted, Device: "their-tablet", Number: 1, Person: "p", Name: "Nils",
		Body: Body{Text: "x"}, At: minutes(1)}, "")
	e.Name = "Hand 01A2"
	if found := Breaks([]Event{e}); len(found) > 0 {
		t.Error(found)
	}
	e.Name = "Nils"
	e.Version = 0
	e.Hash = sumInOrder(e)
	if found := Breaks([]Event{e}); len(found) > 0 {
		t.Errorf("of an earlier build: %v", found)
	}
	e.Body.Text = "y"
	if found := Breaks([]Event{e}); len(found) != 1 {
		t.Errorf("a change is not found: %v", found)
	}
}

// plain has a usual space between a figure and its unit.
func plain(text string) string {
	return strings.NewReplacer("\u202f", " ", "\u00a0", " ").Replace(text)
}
