package record

import (
	"math"
	"strings"
	"testing"

	"nephelon/core/measure"
)

// Used, by hand: batch 1 was weighed with 6.6 kg where its card has 6, batch 2 was not weighed, batch 3 was
// lost once and not poured. 12.6 kg of 5.5 L to 6 kg are 11.55 L; over 10 and 10 m², 330 and 300 µm, they
// make 315 µm.
func TestUsedOfACoat(t *testing.T) {
	j := tablet("aaaa")
	j.log(minutes(-6), Weighed, batch(1), Body{Masses: []measure.Mass{4.4, 2.2}})
	j.log(minutes(0), Poured, batch(1), Body{})
	j.log(minutes(10), Poured, batch(2), Body{})
	j.log(minutes(12), Meets, batch(3), Body{})
	j.log(minutes(14), Lost, batch(3), Body{Text: "was spilt"})
	left := measure.Mass(0.7)
	j.log(minutes(15), Left, "coat/c", Body{Mass: &left})
	u := tell(issued(), j.all, minutes(16)).Coats[0].Used
	if math.Abs(float64(u.Mass)-12.6) > 1e-9 || math.Abs(float64(u.Volume)-0.01155) > 1e-12 || u.Lost != 6 ||
		u.Left != left ||
		math.Abs(float64(u.Film)-315e-6) > 1e-12 {
		t.Errorf("%+v", u)
	}
	if none := tell(issued(), nil, minutes(16)).Coats[0].Used; none != (Amount{}) {
		t.Errorf("nothing was poured, and %+v", none)
	}
}

// What a crew is told of a batch changes with it: stirred and not mixed where it is one part, once more
// after a lost pail, its film's working time once it is out of the pail.
func TestSentencesOfABatch(t *testing.T) {
	step := func(change func(*Issue), touches ...Kind) Say {
		i, j := issued(), tablet("aaaa")
		if change != nil {
			change(i)
		}
		for n, k := range touches {
			j.log(minutes(float64(n)-4), k, batch(1), Body{Text: "was spilt"})
		}
		day := tell(i, j.all, minutes(0))
		for _, all := range [][]Say{day.Coats[0].Now, day.Coats[0].Next} {
			for _, s := range all {
				if s.Batch == 1 {
					return s
				}
			}
		}
		return Say{}
	}
	single := func(i *Issue) { i.Coats[0].Batches[0].Card.Parts = i.Coats[0].Batches[0].Card.Parts[:1] }
	drawn := func(i *Issue) { i.Coats[0].Batches[0].Passage.Empty = i.Coats[0].Batches[0].Passage.Laid }
	stands := func(i *Issue) { i.Coats[0].Batches[0].Card.Induction = 10 * 60 }
	top := func(i *Issue) { i.Surfaces[0].Kind = "top" }
	dipped := func(i *Issue) { i.Coats[0].Method = "dip" }
	joins := func(i *Issue) { i.Coats[0].Batches[0].Beside = []int{2} }
	for _, c := range []struct {
		name string
		got  Say
		do   string
		text string
		of   float64
	}{
		{"two parts", step(nil), "meet", "start mixing A + B", 1800},
		{"one part", step(single), "meet", "open and stir", 1800},
		{"after a lost pail", step(nil, Meets, Lost), "meet", "mixing A + B, once more", 1800},
		{"mixed long enough", step(nil, Meets, Meets, Meets, Mixed), "pour", "all of it", 1800},
		{"mixed for one minute", step(nil, Meets, Mixed), "pour", "all of it", 1800}, // its 3 min are over by now
		{"out of the pail", step(nil, Meets, Mixed, Mixed, Poured), "spread", "spread it", 2400},
		{"drawn from the pail", step(drawn, Meets, Mixed, Mixed, Poured), "spread", "spread it", 1800},
		{"spread, and meets no edge", step(nil, Meets, Mixed, Poured, Spread), "roll", "roll it", 1800},
		{"spread, and meets one", step(joins, Meets, Mixed, Poured, Spread), "roll", "past the line into the one", 2400},
		{"of a top", step(top, Meets, Mixed, Mixed, Poured), "spread", "spread it to the edges", 2400},
		{"from trays", step(dipped, Meets, Meets, Meets, Mixed), "pour", "into the trays", 1800},
		{"has to stand", step(stands, Meets, Mixed, Mixed, Mixed), "stand", "let it stand", 600},
	} {
		if c.got.Do != c.do || !strings.Contains(c.got.Text, c.text) || c.got.Of != c.of {
			t.Errorf("%s: %+v, want %s “%s” of %v", c.name, c.got, c.do, c.text, c.of)
		}
	}
}

// What reacts can be worked for 40 min from when it leaves the pail, less what it aged there; by hand. Met at −4
// and poured at 0 it is 4 min old, so until 36, and its edge as long wherever it lies. Twice as fast in the pail
// it is 8 min old, until 32. Drawn from the pail until 10 it ages there as long. What dries counts from when it
// is spread, its edge from 10.
func TestWorkingTimeOfWhatReacts(t *testing.T) {
	for _, c := range []struct {
		name        string
		reacts      bool
		drawn       bool
		times       float64
		until, edge float64 // min
	}{
		{"dries", false, false, 0, 40, 50},
		{"as fast in the pail", true, false, 0, 36, 36},
		{"twice as fast in the pail", true, false, 2, 32, 32},
		{"drawn from the pail", true, true, 0, 26, 36},
		{"drawn, twice as fast in the pail", true, true, 2, 26, 22},
	} {
		i, j := issued(), tablet("aaaa")
		coat := &i.Coats[0]
		coat.Reacts, coat.Batches[0].Ages.Times = c.reacts, c.times
		if c.drawn {
			coat.Batches[0].Passage.Empty = coat.Batches[0].Passage.Laid
		}
		j.log(minutes(-4), Meets, batch(1), Body{})
		j.log(minutes(-1), Mixed, batch(1), Body{})
		j.log(minutes(0), Poured, batch(1), Body{})
		day := tell(i, j.all, minutes(1)).Coats[0]
		if got := day.Now[0].Until; got == nil || !got.Equal(minutes(c.until)) { // of the pail where it is drawn
			t.Errorf("%s: spread it until %v, want %v", c.name, got, minutes(c.until))
		}
		if got, known := day.joins(coat, 1); !known || !got.Equal(minutes(c.edge)) {
			t.Errorf("%s: the edge until %v, want %v", c.name, got, minutes(c.edge))
		}
	}
}

// Mixed too briefly, a batch is not poured before its time is up: at −2 min the touch comes after 1 of 3.
func TestMixedTooBriefly(t *testing.T) {
	j := tablet("aaaa")
	j.log(minutes(-3), Meets, batch(1), Body{})
	j.log(minutes(-2), Mixed, batch(1), Body{})
	now := tell(issued(), j.all, minutes(-1)).Coats[0].Now
	if len(now) < 1 || now[len(now)-1].Do != "mix" ||
		!strings.Contains(plain(now[len(now)-1].Text), "only 1 min of 3 min") ||
		!now[len(now)-1].Until.Equal(minutes(0)) {
		t.Errorf("%+v", now)
	}
}

// Past the longest mixing of its sheet the crew is told to stop, and the record keeps that it was mixed too long.
func TestMixedTooLong(t *testing.T) {
	i, j := issued(), tablet("aaaa")
	i.Coats[0].Batches[0].Card.MixingMax = i.Coats[0].Batches[0].Card.Mixing + 4*60 // 3 min, 7 at most
	j.log(minutes(-9), Meets, batch(1), Body{})
	says := func(at float64) string {
		now := tell(i, j.all, minutes(at)).Coats[0].Now
		return plain(now[len(now)-1].Text)
	}
	if early, late := says(-3), says(-1); strings.Contains(early, "stop mixing") ||
		!strings.Contains(late, "stop mixing, its sheet allows 7 min") {
		t.Errorf("%s; then %s", early, late)
	}
	j.log(minutes(0), Mixed, batch(1), Body{})
	if d := tell(i, j.all, minutes(1)).Doubts; len(d) != 1 || !strings.Contains(plain(d[0]), "mixed for 9 min in all") {
		t.Errorf("%q", d)
	}
}

// Limits stand in the order in which they come: the pail of batch 2 ends at 26 min, the edge of section 1
// at 41, though the edge is called out by an earlier batch of the list.
func TestLimitsInTheirOrder(t *testing.T) {
	i, j := issued(), tablet("aaaa")
	i.Coats[0].Batches[0].Beside = []int{3, 9} // 9 is no section: it is passed over
	// Section 2 comes after 3, so that what is done of 3 does not show that 2 was poured.
	planned := i.Coats[0].Batches
	planned[1].Passage, planned[2].Passage = planned[2].Passage, planned[1].Passage
	i.Coats[0].Working = 20 * 60
	j.log(minutes(-4), Meets, batch(2), Body{})
	j.log(minutes(-1), Mixed, batch(2), Body{})
	j.log(minutes(0), Poured, batch(3), Body{})
	j.log(minutes(6), Spread, batch(3), Body{})
	w := tell(i, j.all, minutes(24)).Coats[0].Watch
	if len(w) < 2 || w[0].Batch != 1 && w[0].Batch != 2 {
		t.Fatalf("%+v", w)
	}
	for n := 1; n < len(w); n++ {
		if w[n].Until.Before(*w[n-1].Until) {
			t.Errorf("%s comes after %s", w[n].Text, w[n-1].Text)
		}
	}
}

// What the gates ask depends on what is below, and on how the product is sold.
func TestWordsOfTheGates(t *testing.T) {
	i := twoCoats()
	gate := func(c *Coat, key string) Gate {
		for _, g := range Gates(i, c) {
			if g.Key == key {
				return g
			}
		}
		return Gate{}
	}
	first, second := &i.Coats[0], &i.Coats[1]
	abraded := *second
	abraded.Abrade = true
	outside := twoCoats()
	for n := range outside.Surfaces {
		outside.Surfaces[n].Outdoors = true
	}
	leaves := func(c *Coat) string {
		for _, g := range Gates(outside, c) {
			if g.Key == "dust" {
				return g.Ask
			}
		}
		return ""
	}
	single := *first
	single.Product.Components = single.Product.Components[:1]
	for _, c := range []struct{ got, want string }{
		{gate(first, "surface").Ask, "profile, moisture"}, {gate(second, "surface").Ask, "Coat 1 below"},
		{gate(second, "surface").Saw, "inside its window"}, {gate(&abraded, "surface").Saw, "no gloss left"},
		{gate(first, "pairs").Ask, "Each A of Example"}, {gate(&single, "pairs").Ask, "The pails of Example"},
		{gate(first, "dust").Ask, "walls and pipes"}, {leaves(&outside.Coats[0]), "rain water are off"},
		{leaves(&outside.Coats[1]), "Leaves"}, // before each coat
		{gate(first, "pairs").Saw, "3 batches staged"}, {gate(second, "pairs").Saw, "1 batch staged"},
	} {
		if !strings.Contains(c.got, c.want) {
			t.Errorf("“%s” does not say “%s”", c.got, c.want)
		}
	}
}

// A top has four gates: nobody walks in on it. The first coat asks after the wood, a later one after the coat below.
func TestATopHasFourGates(t *testing.T) {
	i := twoCoats()
	for n := range i.Surfaces {
		i.Surfaces[n].Kind = "top"
	}
	for n, want := range []string{"wood dust", "Coat 1 below"} {
		gates := Gates(i, &i.Coats[n])
		if len(gates) != 4 || !gates[0].Reads || !strings.Contains(gates[1].Ask, want) ||
			!strings.Contains(gates[2].Ask, "cups") || gates[3].Key != "protection" {
			t.Errorf("coat %d: %+v", n+1, gates)
		}
	}
}
