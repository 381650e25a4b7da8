package record

import (
	"encoding/json"
	"math"
	"strings"
	"testing"
	"time"

	"nephelon/core/measure"
)

// What lies outside what a field allows is named with its limits, on the device and on the
// server alike.
func TestCheckBounds(t *testing.T) {
	at := func(v measure.Temperature) *measure.Temperature { return &v }
	share := func(v measure.Fraction) *measure.Fraction { return &v }
	film := func(v measure.Film) *measure.Film { return &v }
	for _, c := range []struct {
		kind Kind
		task string
		body Body
		says string
	}{
		{Read, "", Body{Slab: at(18), Humidity: share(0)}, "body.humidity: 0"},
		{Read, "", Body{Humidity: share(55)}, "is outside 1"},
		{Read, "", Body{Slab: at(91)}, "body.slab: 91"},
		{Read, "", Body{Slab: at(90), Humidity: share(0.01)}, ""},
		{Meets, string(batch(1)), Body{A: at(-21)}, "body.a: "},
		{Film, string(batch(1)), Body{Film: film(0.2)}, "body.film: "},
		{Noted, "", Body{Text: strings.Repeat("x", 601)}, "body.text: 601 characters are too many; shorten it to 600"},
		{Noted, "", Body{Text: "a\x00b"}, "body.text: it holds a character"},
		{Signed, "", Body{Text: "Ann", Ink: "M1 2 L3"}, "body.ink: its format is not valid"},
		{Lot, string(batch(1)), Body{Lots: []string{"1", "2", "3", "4"}}, "body.lots: 4 entries are too many"},
	} {
		j := tablet("aaaa")
		e := j.log(start, c.kind, "coat/c", c.body)
		if c.task != "" {
			e = j.log(start, c.kind, batch(1), c.body)
		}
		if got := Check(&e, start); c.says == "" && got != "" || !strings.Contains(got, c.says) {
			t.Errorf("%s: %q, want %q", c.kind, got, c.says)
		}
	}
	e := tablet("aaaa").log(start, Read, "", Body{Slab: at(18)})
	e.Behind = 4e8
	e = Sealed(e, "")
	if got := Check(&e, start.Add(20*365*24*time.Hour)); !strings.HasPrefix(got, "behind: ") {
		t.Errorf("a clock thirteen years off: %q", got)
	}
}

// A clock that is right is 0 behind, never −0.
func TestSealedNeverWritesMinusZero(t *testing.T) {
	e := Sealed(Event{ID: "x", At: start, Behind: measure.Span(math.Copysign(0, -1))}, "")
	text, err := json.Marshal(e)
	if err != nil || strings.Contains(string(text), "-0,") {
		t.Errorf("%s, %v", text, err)
	}
}

// Two devices log mixing start of one batch: the first rules, whichever comes first to the
// server, and the contradiction is told.
func TestTellFirstMixingStartCounts(t *testing.T) {
	i := issued()
	one, two := tablet("aaaa"), tablet("bbbb")
	a, b := measure.Temperature(20), measure.Temperature(23)
	first := one.log(minutes(-4), Meets, batch(1), Body{A: &a, B: &a})
	second := two.log(minutes(8), Meets, batch(1), Body{A: &b})
	for _, events := range [][]Event{{first, second}, {second, first}} {
		d := tell(i, events, minutes(9))
		got := d.Coats[0].Batches[0]
		if !got.Meets.Equal(minutes(-4)) || *got.A != 20 {
			t.Errorf("mixing start %v, A at %v", got.Meets, *got.A)
		}
		if len(d.Doubts) != 2 || !strings.Contains(d.Doubts[0], "logged at 07:56 and again at 08:08") ||
			!strings.Contains(d.Doubts[1], "part A") {
			t.Errorf("%q", d.Doubts)
		}
	}
	// Struck, the second is the only one that stands.
	events := append([]Event{first, second}, one.log(minutes(10), Struck, "", Body{Struck: first.ID}))
	if d := tell(i, events, minutes(11)); len(d.Doubts) != 0 || !d.Coats[0].Batches[0].Meets.Equal(minutes(8)) {
		t.Errorf("%q, %v", d.Doubts, d.Coats[0].Batches[0].Meets)
	}
	// A second touch within a minute is no contradiction.
	twice := tablet("cccc")
	events = []Event{twice.log(minutes(0), Meets, batch(1), Body{}), twice.log(minutes(0.9), Meets, batch(1), Body{})}
	if d := tell(i, events, minutes(1)); len(d.Doubts) != 0 {
		t.Errorf("%q", d.Doubts)
	}
}

// Nobody touched "poured" of any batch, and all three were rolled: the coat was laid. Begun
// is what the first later touch proves, at the latest.
func TestTellACoatWithoutPouredTouches(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	for k := range 3 {
		j.log(minutes(float64(10*k-4)), Meets, batch(k+1), Body{})
		j.log(minutes(float64(10*k+12)), Rolled, batch(k+1), Body{})
	}
	d := tell(i, j.all, minutes(40))
	c := d.Coats[0]
	if c.Begun == nil || c.Done == nil || c.Begun.After(minutes(12)) || c.Begun.Before(minutes(-4)) {
		t.Fatalf("begun %v, done %v", c.Begun, c.Done)
	}
	if c.Used.Mass != 18 || len(d.Facts) == 0 {
		t.Errorf("%v used, %d facts", c.Used.Mass, len(d.Facts))
	}
	for _, b := range c.Batches {
		if b.Poured != nil || b.Began == nil || b.Began.After(*b.Rolled) {
			t.Errorf("batch %d: poured %v, began %v, rolled %v", b.Number, b.Poured, b.Began, b.Rolled)
		}
	}
	// The first batch alone may lack it.
	j = tablet("aaaa")
	j.log(minutes(5), Spread, batch(1), Body{})
	j.log(minutes(6), Poured, batch(2), Body{})
	if c := tell(i, j.all, minutes(7)).Coats[0]; c.Begun == nil || c.Begun.After(minutes(5)) {
		t.Errorf("begun %v", c.Begun)
	}
}

// A batch of 3 min of mixing and 10 min of standing: the end of mixing counts down while it
// is mixed, "mixed" after 40 s is not taken without a word, and it is not to be poured
// before it stood.
func TestTellWhatAMixedBatchWaitsFor(t *testing.T) {
	i := issued()
	for k := range i.Coats[0].Batches {
		i.Coats[0].Batches[k].Card.Induction = 600
	}
	j := tablet("aaaa")
	for _, g := range Gates(i, &i.Coats[0]) {
		j.log(start.Add(-time.Hour), Gated, "coat/c", Body{Gate: g.Key, Reason: "no need"})
	}
	say := func(now time.Time) Say {
		t.Helper()
		d := tell(i, j.all, now)
		if len(d.Coats[0].Now) == 0 {
			t.Fatalf("nothing is to do at %v", now)
		}
		return d.Coats[0].Now[0]
	}
	j.log(minutes(0), Meets, batch(1), Body{})
	card := &i.Coats[0].Batches[0].Card // 3 min, then 1 in a second bucket and 2 of colouring
	card.Again, card.Colouring = 60, 120
	for _, phase := range []struct {
		at, until, of float64
		says          string
	}{{1, 1.5, 90, "mix slowly"}, {1.5, 3, 90, "scrape wall and bottom"}, {3.9, 4, 60, "into a second clean bucket"},
		{4, 6, 120, "divide it into cups"}, {6, 30, 1800, "mixed long enough"}} {
		if s := say(minutes(phase.at)); s.Do != "mix" || !s.Until.Equal(minutes(phase.until)) || s.Of != phase.of ||
			!strings.Contains(s.Text, phase.says) {
			t.Errorf("%v min after mixing start: %+v", phase.at, s)
		}
	}
	card.Again, card.Colouring = 0, 0
	j.log(minutes(2.0/3), Mixed, batch(1), Body{})
	if s := say(minutes(1)); s.Do != "mix" || !s.Late || !strings.Contains(s.Text, "only 0.7 min of 3 min") ||
		!s.Until.Equal(minutes(3)) {
		t.Errorf("mixed too soon: %+v", s)
	}
	j.log(minutes(3), Mixed, batch(1), Body{})
	if s := say(minutes(3.5)); s.Do != "stand" || !s.Until.Equal(minutes(13)) ||
		!strings.Contains(s.Text, "do not pour it yet") {
		t.Errorf("while it stands: %+v", s)
	}
	if s := say(minutes(13)); s.Do != "pour" {
		t.Errorf("once it stood: %+v", s)
	}
	if due := tell(i, j.all, minutes(5)).Coats[0].Batches[0].Due.Pour; due.Before(minutes(13)) {
		t.Errorf("due to be poured at %v", due)
	}
}
