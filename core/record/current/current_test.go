package current

import (
	"fmt"
	"math"
	"testing"
	"time"

	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/pour/sim"
	"nephelon/core/record"
	"nephelon/core/work"
)

var start = time.Date(2031, 3, 4, 8, 0, 0, 0, time.UTC)

func batch(n int) work.ID { return work.ID(work.BatchID("c", n)) }

var coat = work.PourID("c")

// logged makes an event of the first plan, at a minute by which it is known.
func logged(minute int, kind record.Kind, task work.ID, body record.Body) record.Event {
	return record.Event{ID: fmt.Sprintf("%s-%s-%d", kind, task, minute), Issue: 1, Kind: kind, Task: task, Body: body,
		At: start.Add(time.Duration(minute) * time.Minute), Device: "device-a", Number: int64(minute)}
}

// hall is a coat of three pails of 8 kg over 20 m² each, laid by a mixer and three more: a pail is mixed for 5 min,
// poured every 15 min, spread in 12 and rolled 3 min later. A half holds 4 kg, which live longer.
func hall() record.Issue {
	c := record.Coat{ID: "c", Surface: "s", Number: 1, Start: &start, Wet: 380e-6, Crew: []work.Person{
		{Name: "Ada", Roles: []work.Role{work.Mixer}}, {Name: "Bo", Roles: []work.Role{work.Pourer, work.Spreader}},
		{Name: "Cy", Roles: []work.Role{work.Spreader}}, {Name: "Di", Roles: []work.Role{work.Roller}}}}
	for k := range 3 {
		at := measure.Span(900 * k)
		c.Batches = append(c.Batches, record.Batch{ID: work.BatchID("c", k+1), Section: work.SectionID("c", k+1),
			Number: k + 1, Life: 1500, Card: kit.Card{Batch: k + 1, Of: 3,
				Section: k + 1, Mass: 8, Volume: 0.0076, Area: 20, PotLife: 1500,
				Floor: []kit.CardStep{{Text: "roll it"}}},
			Passage: sim.Passage{Batch: k + 1, Meets: at - 300, Ready: at, Arrives: at, Pour: at, Empty: at + 60,
				Spread: at + 60, Laid: at + 720, Done: at + 900}})
	}
	c.Spares = []record.Spare{{Share: 0.5, Card: kit.Card{Mass: 4, Volume: 0.0038, Area: 10, PotLife: 2100}},
		{Share: 1, Card: kit.Card{Mass: 8, Volume: 0.0076, Area: 20, PotLife: 1500}}}
	return record.Issue{Number: 1, Coats: []record.Coat{c}, Surfaces: []record.Surface{{ID: "s", Area: 60}}}
}

// of makes a plan with some coats, each with a film by which it is known again.
func of(number int, day string, wet measure.Film, coats ...string) record.Issue {
	i := hall()
	i.Number, i.Day = number, day
	like := i.Coats[0]
	i.Coats = nil
	for n, id := range coats {
		c := like
		c.ID, c.Number, c.Wet = id, n+1, wet
		i.Coats = append(i.Coats, c)
	}
	return i
}

// A plan for a day leaves all other coats as they were issued, one for the whole job takes the
// place of all; a coat that was begun stays by the plan it was begun on, whatever comes.
func TestWhichPlanStands(t *testing.T) {
	whole, other := of(1, "", 100e-6, "c", "d"), of(2, "", 200e-6, "d", "e")
	daily := of(2, "2031-03-05", 200e-6, "d")
	met := logged(0, record.Meets, batch(1), record.Body{}) // of coat c, on plan 1
	begun := []record.Event{met}
	back := []record.Event{met, logged(1, record.Struck, "", record.Body{Struck: met.ID})}
	for _, c := range []struct {
		name   string
		issues []record.Issue
		events []record.Event
		want   map[string]int // plan of each coat
	}{
		{"one plan", []record.Issue{whole}, nil, map[string]int{"c": 1, "d": 1}},
		{"a plan for a day", []record.Issue{daily, whole}, nil, map[string]int{"c": 1, "d": 2}},
		{"a plan for the job", []record.Issue{other, whole}, nil, map[string]int{"d": 2, "e": 2}},
		{"one with a coat begun", []record.Issue{other, whole}, begun, map[string]int{"c": 1, "d": 2, "e": 2}},
		{"one with a coat begun and taken back", []record.Issue{other, whole}, back, map[string]int{"d": 2, "e": 2}},
		{"two for days over one", []record.Issue{of(3, "2031-03-06", 300e-6, "e"), daily, whole}, nil,
			map[string]int{"c": 1, "d": 2, "e": 3}},
	} {
		got := Plan(c.issues, c.events)
		if got.Number != c.issues[0].Number || len(got.Coats) != len(c.want) {
			t.Errorf("%s: plan %d with %d coats", c.name, got.Number, len(got.Coats))
		}
		for _, coat := range got.Coats {
			if by := int(coat.Wet*1e4 + 0.5); by != c.want[coat.ID] {
				t.Errorf("%s: coat %s is of plan %d, want %d", c.name, coat.ID, by, c.want[coat.ID])
			}
			if at := coat.Issue; at != 0 && at != c.want[coat.ID] || at == 0 && c.want[coat.ID] != got.Number {
				t.Errorf("%s: coat %s says plan %d", c.name, coat.ID, at)
			}
		}
	}
	if len(whole.Coats) != 2 || whole.Coats[0].Issue != 0 {
		t.Error("a plan was changed")
	}
}

func sized(minute, n int, share measure.Fraction, over *int) record.Event {
	return logged(minute, record.Sized, batch(n), record.Body{Share: &share, Over: over, Reason: "Tess: too warm"})
}

// The second pail mixed as a half: its own figures, half its section, and the third comes half a section's time
// earlier. By hand: 12 min of spreading become 1 + 11/2 = 6.5 min where emptying scales, too: 720 s become 360.
func TestAPailOfAnotherSize(t *testing.T) {
	i := hall()
	got := Changed(i, []record.Event{sized(5, 2, 0.5, nil)}).Coats[0]
	b := got.Batches[1]
	if b.Card.Mass != 4 || b.Life != 2100 || b.Card.Area != 10 || b.SectionArea() != 20 || b.Card.Batch != 2 ||
		b.Card.Section != 2 || b.Card.Of != 3 || len(b.Card.Floor) != 1 || b.ID != work.BatchID("c", 2) {
		t.Errorf("the half is %+v", b)
	}
	if p := b.Passage; p.Pour != 900 || p.Laid != 900+360 || p.Done != 900+450 {
		t.Errorf("it is laid as %+v", p)
	}
	if p := got.Batches[2].Passage; p.Pour != 1800-360 || p.Meets != 1500-360 {
		t.Errorf("the next is laid as %+v", p)
	}
	if i.Coats[0].Batches[1].Card.Mass != 8 {
		t.Error("the plan as it was issued was changed")
	}
	again := Changed(i, []record.Event{sized(5, 2, 0.5, nil), sized(6, 2, 1, nil)}).Coats[0].Batches[1]
	if again.Card.Mass != 8 || again.Card.Area != 20 || again.SectionArea() != 20 {
		t.Errorf("back at its size it is %+v", again)
	}
	unknown := Changed(i, []record.Event{sized(5, 2, 0.3, nil), sized(5, 2000, 0.5, nil)}).Coats[0]
	if len(unknown.Batches) != 3 || unknown.Batches[1].Card.Mass != 8 {
		t.Error("a size that the plan does not have, or a pail far beyond it, changed the plan")
	}
}

// One more pail goes over a section that is there and follows the last; where the one before it was taken back, its
// number stays.
func TestOneMorePail(t *testing.T) {
	over := 2
	got := Changed(hall(), []record.Event{sized(5, 4, 0.5, &over)}).Coats[0]
	if len(got.Batches) != 4 || got.Batches[0].Card.Of != 4 {
		t.Fatalf("%d pails", len(got.Batches))
	}
	b := got.Batches[3]
	if b.Number != 4 || b.ID != work.BatchID("c", 4) || b.Card.Section != 2 || b.SectionArea() != 0 || b.Card.Area != 10 ||
		b.Card.Mass != 4 || b.Passage.Pour != 2700 || b.Passage.Laid != 2700+360 {
		t.Errorf("one more is %+v", b)
	}
	if two := Changed(hall(), []record.Event{sized(6, 5, 0.5, nil)}).Coats[0]; len(two.Batches) != 5 ||
		two.Batches[4].Card.Mass != 4 {
		t.Errorf("the fifth without a fourth makes %d pails", len(two.Batches))
	}
}

// Two pails of 8 kg were mixed and one of them lost when 20 kg are counted: 8 + 8 + 20 kg were there in all, whatever
// the plan says. A pail begun later was still among what was counted.
func TestWhatIsAtHandIsCounted(t *testing.T) {
	i := hall()
	i.Coats[0].Product.ID = "p"
	i.Supplies = []record.Supply{{Product: "other", Mass: 3}, {Product: "p", Mass: 24}}
	mass := measure.Mass(20)
	count := logged(30, record.Counted, coat, record.Body{Mass: &mass})
	events := []record.Event{logged(1, record.Meets, batch(1), record.Body{}),
		logged(2, record.Poured, batch(1), record.Body{}),
		logged(15, record.Meets, batch(2), record.Body{}), logged(20, record.Lost, batch(2), record.Body{}), count,
		logged(31, record.Meets, batch(2), record.Body{})}
	got := Changed(i, events).Supplies
	if len(got) != 2 || got[0].Mass != 3 || got[1].Product != "p" || got[1].Mass != 36 {
		t.Errorf("supplies %+v", got)
	}
	if i.Supplies[1].Mass != 24 {
		t.Error("the plan as it was issued was changed")
	}
}

// Work on the floor of what is not poured yet: three people need 12 min, two need 18; whoever is alone mixes in turn.
func TestSomebodyLeaves(t *testing.T) {
	gone := func(minute int, back bool) record.Event {
		yes := !back
		return logged(minute, record.Gone, coat, record.Body{Text: "Cy", Yes: &yes})
	}
	poured := logged(1, record.Poured, batch(1), record.Body{})
	for _, c := range []struct {
		name   string
		events []record.Event
		laid   []measure.Span // of each section, s from when it is poured
		third  measure.Span   // A meets B for the third pail
	}{
		{"one", []record.Event{poured, gone(5, false)}, []measure.Span{720, 1080, 1080}, 1500 + 360},
		{"before anything", []record.Event{gone(0, false)}, []measure.Span{1080, 1080, 1080}, 1500 + 720},
		{"one, and back", []record.Event{poured, gone(5, false), gone(6, true)}, []measure.Span{720, 720, 720}, 1500},
		{"the mixer, too", []record.Event{poured, gone(5, false), gone(6, false)}, []measure.Span{720, 2160, 2160},
			1500 + 1440},
		// 3 of 4 gone: the second pail meets at 900, when the first is done, is poured at 1200 and done at 1200 + 2700.
		{"all but one", []record.Event{poured, gone(5, false), gone(6, false), gone(7, false)},
			[]measure.Span{720, 2160, 2160}, 3900},
	} {
		got := Changed(hall(), c.events).Coats[0]
		for k, want := range c.laid {
			if p := got.Batches[k].Passage; math.Abs(float64(p.Laid-p.Pour-want)) > 1e-6 {
				t.Errorf("%s: section %d is laid in %v s, want %v", c.name, k+1, p.Laid-p.Pour, want)
			}
		}
		if at := got.Batches[2].Passage.Meets; math.Abs(float64(at-c.third)) > 1e-6 {
			t.Errorf("%s: the third pail meets at %v, want %v", c.name, at, c.third)
		}
	}
	if nobody := Changed(hall(), []record.Event{gone(1, false), gone(2, false), gone(3, false), gone(4, false)}); !(nobody.
		Coats[0].Batches[0].Passage.Laid > 720) {
		t.Error("the last that leaves undoes the others")
	}
}
