package record

import (
	"strings"
	"testing"

	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record/fact"
	"nephelon/core/work"
)

// What an event of each kind cannot do without is named by its field, and nothing is said once it
// is there.
func TestEachKindNeedsItsFields(t *testing.T) {
	yes, mass, slab, took := true, measure.Mass(1.2), measure.Temperature(18), measure.Span(40)
	film := measure.Film(300e-6)
	for _, c := range []struct {
		kind    Kind
		task    work.ID
		field   string
		without Body
		with    Body
	}{
		{Gated, "coat/c", "body.gate", Body{Saw: "swept"}, Body{Gate: "dust", Saw: "swept"}},
		{Read, "", "body.slab", Body{}, Body{Slab: &slab}},
		{Thrown, batch(1), "body.mass", Body{Mass: &mass}, Body{Mass: &mass, Took: &took}},
		{Emptied, batch(1), "body.at", Body{}, Body{At: &[2]float64{2, 3}}},
		{Weighed, batch(1), "body.masses", Body{}, Body{Masses: []measure.Mass{4, 2}}},
		{Lot, batch(1), "body.lots", Body{}, Body{Lots: []string{"", "L7"}}},
		{Film, batch(1), "body.film", Body{}, Body{Film: &film}},
		{Noted, "", "body.text", Body{}, Body{Text: "a cloud came"}},
		{Deviated, "", "body.text", Body{}, Body{Text: "laid from the door"}},
		{Pictured, "", "body.photo", Body{}, Body{Photo: "p1"}},
		{Left, "", "body.mass", Body{Product: "x"}, Body{Product: "x", Mass: &mass}},
		{Served, "", "body.stage", Body{}, Body{Stage: "foot"}},
		{Fault, "coat/c", "body.seen", Body{}, Body{Seen: "fisheyes"}},
		{Answered, "", "body.yes", Body{Question: "q"}, Body{Question: "q", Yes: &yes}},
		{Found, "", "body.cause", Body{}, Body{Cause: "oil"}},
		{Signed, "", "body.text", Body{}, Body{Text: "Ylva"}},
		{Struck, "", "body.struck", Body{}, Body{Struck: "id"}},
	} {
		bad, good := &Event{Kind: c.kind, Task: c.task, Body: c.without}, &Event{Kind: c.kind, Task: c.task, Body: c.with}
		if got := bad.lacks(); !strings.HasPrefix(got, c.field+":") {
			t.Errorf("%s without: %q, want %s…", c.kind, got, c.field)
		}
		if got := good.lacks(); got != "" {
			t.Errorf("%s with all it needs: %q", c.kind, got)
		}
	}
	for kind, task := range map[Kind]work.ID{Meets: "coat/c", Poured: "", Abraded: "", Began: "",
		Joined: "coat/c/batch/0"} {
		if got := (&Event{Kind: kind, Task: task}).lacks(); !strings.HasPrefix(got, "task:") {
			t.Errorf("%s of %q: %q", kind, task, got)
		}
	}
}

// A batch whose coat has a slash in its id is found again.
func TestBatchOfEscapedCoat(t *testing.T) {
	coat, number, ok := BatchOf(work.ID(work.BatchID("a/b~c", 4)))
	if !ok || coat != "a/b~c" || number != 4 {
		t.Errorf("%q, %d, %v", coat, number, ok)
	}
	for _, id := range []work.ID{"coat/c", "coat/c/batch/x", "coat/c/batch/0", "surface/s/prepare/1", "coat/c/tape/1"} {
		if _, _, ok := BatchOf(id); ok {
			t.Errorf("%s is a batch", id)
		}
	}
}

// What only who leads a day may log.
func TestForLeads(t *testing.T) {
	for kind, want := range map[Kind]bool{Closed: true, Signed: true, Found: true, Meets: false, Noted: false} {
		if ForLeads(&Event{Kind: kind}, nil) != want {
			t.Errorf("%s: %v", kind, !want)
		}
	}
}

// Each limit of a reading has its sentence: 20 °C and 60 % have their dew point at 12 °C.
func TestReadingsAgainstLimits(t *testing.T) {
	limits := Limits{DewMargin: 3, SlabMin: 10, SlabMax: 30, HumidityMax: 0.85, HumidityMin: 0.3}
	value := func(v measure.Temperature) *measure.Temperature { return &v }
	share := func(v measure.Fraction) *measure.Fraction { return &v }
	for _, c := range []struct {
		r    Reading
		text string
	}{
		{Reading{Slab: value(20), Humidity: share(0.5), Margin: value(8)}, ""},
		{Reading{Slab: value(20), Margin: value(2)}, "above the dew point"},
		{Reading{Slab: value(8), Margin: value(4)}, "at least 10"},
		{Reading{Slab: value(33), Margin: value(9)}, "at most 30"},
		{Reading{Slab: value(20), Humidity: share(0.9), Margin: value(4)}, "at most 85"},
		{Reading{Slab: value(20), Humidity: share(0.3), Margin: value(9)}, ""},
		{Reading{Slab: value(20), Humidity: share(0.25), Margin: value(9)}, "at least 30"},
	} {
		if got := plain(c.r.against(limits, measure.Metric)); !strings.Contains(got, c.text) ||
			(c.text == "") != (got == "") {
			t.Errorf("%+v: %q, want “%s”", c.r, got, c.text)
		}
	}
}

// A film is judged by the sheet's limits first, else by a fifth of what is to be laid.
func TestFilmsAgainstTheCoat(t *testing.T) {
	c := issued().Coats[0] // 300 µm
	for film, text := range map[measure.Film]string{310e-6: "", 380e-6: "will not reach", 200e-6: "Bring more"} {
		if got := filmAgainst(&c, film, measure.Metric); !strings.Contains(got, text) || (text == "") != (got == "") {
			t.Errorf("%v: %q", film, got)
		}
	}
	c.Product.FilmMin, c.Product.FilmMax = sourced[measure.Film](290e-6), sourced[measure.Film](350e-6)
	for film, text := range map[measure.Film]string{280e-6: "less than the sheet needs",
		360e-6: "more than the sheet allows", 300e-6: ""} {
		if got := filmAgainst(&c, film, measure.Metric); !strings.Contains(got, text) || (text == "") != (got == "") {
			t.Errorf("%v by the sheet: %q", film, got)
		}
	}
}

// twoCoats is the plan with a second coat of one batch over the first.
func twoCoats() *Issue {
	i := issued()
	over := i.Coats[0]
	over.ID, over.Number = "d", 2
	i.Coats[0].Last = false
	i.Coats[0].Product.RecoatFrom = []material.TimeAt{{At: 20, After: 6 * measure.Hour, Source: measure.Sheet}}
	i.Coats[0].Product.RecoatUntil = []material.TimeAt{{At: 20, After: 24 * measure.Hour, Source: measure.Sheet}}
	i.Coats[0].Stages = []Promise{{Stage: material.StageRecoatFrom}, {Stage: material.StageRecoatUntil}}
	over.Batches = []Batch{over.Batches[0]}
	over.Batches[0].ID, over.Batches[0].Section = work.BatchID("d", 1), work.SectionID("d", 1)
	over.Batches[0].Card = kit.Card{Batch: 1, Of: 1, Section: 1, Mass: 6, Volume: 0.0055, Area: 10}
	i.Coats = append(i.Coats, over)
	return i
}

// A coat that goes on before, inside, after the window of the one below, and after it was abraded.
func TestFactsOfTheWindow(t *testing.T) {
	slab := measure.Temperature(20)
	found := func(hours float64, abraded bool, key fact.Key) *fact.Fact {
		j := tablet("aaaa")
		j.log(minutes(-30), Read, "coat/c", Body{Slab: &slab})
		for n := 1; n <= 3; n++ {
			at := float64(10 * n)
			j.log(minutes(at-14), Meets, batch(n), Body{})
			j.log(minutes(at-10), Poured, batch(n), Body{})
			j.log(minutes(at), Spread, batch(n), Body{})
			j.log(minutes(at+2), Rolled, batch(n), Body{})
		}
		begin := 60 * hours
		if abraded {
			j.log(minutes(begin-60), Abraded, "coat/d", Body{})
		}
		j.log(minutes(begin), Meets, work.ID(work.BatchID("d", 1)), Body{})
		j.log(minutes(begin+4), Poured, work.ID(work.BatchID("d", 1)), Body{})
		j.log(minutes(begin+14), Rolled, work.ID(work.BatchID("d", 1)), Body{})
		for _, f := range NewTeller().Tell(twoCoats(), j.all, minutes(begin+600), measure.Metric).Facts {
			if f.Key == key && f.Coat == "d" {
				return &f
			}
		}
		return nil
	}
	for _, c := range []struct {
		hours   float64
		abraded bool
		key     fact.Key
		so      bool
		text    string
	}{
		{3, false, fact.TooEarly, true, "was ready from"}, {10, false, fact.TooEarly, false, "was ready from"},
		{10, false, fact.MissedWindow, false, "inside the window"}, {30, false, fact.MissedWindow, true, "was not abraded"},
		{30, true, fact.MissedWindow, false, "was abraded at"},
	} {
		if f := found(c.hours, c.abraded, c.key); f == nil || f.So != c.so || !strings.Contains(plain(f.Text), c.text) {
			t.Errorf("after %v h, abraded %v: %s is %+v, want %v, “%s”", c.hours, c.abraded, c.key, f, c.so, c.text)
		}
	}
}

// Entries that belong to nothing in the plan are counted and said; answers go to their fault; what
// a lead closed and a client signed stands in the day.
func TestWhatIsOfNoBatch(t *testing.T) {
	yes := true
	j := tablet("aaaa")
	j.log(minutes(0), Meets, work.ID(work.BatchID("gone", 1)), Body{})
	j.log(minutes(1), Meets, batch(9), Body{})
	fault := j.log(minutes(2), Fault, batch(1), Body{Seen: "fisheyes"})
	j.log(minutes(3), Answered, work.ID(fault.ID), Body{Question: "silicone", Yes: &yes})
	j.log(minutes(4), Found, work.ID(fault.ID), Body{Cause: "oil"})
	j.log(minutes(5), Noted, "", Body{Text: "a cloud came"})
	j.log(minutes(6), Closed, "", Body{Text: "all done"})
	j.log(minutes(7), Signed, "coat/c", Body{Text: "Ylva"})
	d := tell(issued(), j.all, minutes(10))
	if d.Strange != 2 || d.Closed == nil || d.Signed == nil || d.Signed.Text != "Ylva" || len(d.Notes) != 1 {
		t.Errorf("%d strange, closed %+v, signed %+v, notes %+v", d.Strange, d.Closed, d.Signed, d.Notes)
	}
	if len(d.Faults) != 1 || d.Faults[0].Cause != "oil" || len(d.Faults[0].Answers) != 1 || d.Faults[0].Coat != "c" ||
		d.Faults[0].Batch != 1 {
		t.Errorf("%+v", d.Faults)
	}
	for n, text := range map[int]string{1: "1 entry belongs", 3: "3 entries belong"} {
		if got := strangers(n); len(got) != 1 || !strings.HasPrefix(got[0], text) {
			t.Errorf("%d: %q", n, got)
		}
	}
}
