package record

import (
	"math"
	"strings"
	"testing"
	"time"

	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/record/fact"
)

// weights returns the facts that f has found, by key: positive where the fact is so. A fact that is
// found twice fails the test.
func weights(t *testing.T, f finder) map[fact.Key]fact.Fact {
	t.Helper()
	out := make(map[fact.Key]fact.Fact)
	for _, one := range f.out {
		if _, twice := out[one.Key]; twice {
			t.Fatalf("%s is found twice: %+v", one.Key, f.out)
		}
		out[one.Key] = one
	}
	return out
}

func at(m float64) *time.Time { t := minutes(m); return &t }

// finding returns a finder of the one coat of issued, with day as its day.
func finding(i *Issue, day *CoatDay, readings ...Reading) finder {
	return finder{issue: i, plan: &i.Coats[0], day: day, whole: &Day{Readings: readings}, units: measure.Metric}
}

// The weight of each fact of a batch, by hand, at its limit and on both sides of it. The plan: pot
// life 1,800 s, mixing 180 s, a section of 720 s from pour to last stroke, 300 µm wet.
func TestWeightsOfABatch(t *testing.T) {
	due := Course{Empty: minutes(25)}
	for _, c := range []struct {
		name string
		b    BatchDay
		key  fact.Key
		so   bool
		by   float64
	}{
		{"6 % too much hardener", BatchDay{Ratio: &kit.RatioCheck{Off: -0.06}}, fact.OffRatio, true, 2},
		{"6 % too much hardener, its side", BatchDay{Ratio: &kit.RatioCheck{Off: -0.06}}, fact.MuchHardener, true, 2},
		{"6 % too little hardener", BatchDay{Ratio: &kit.RatioCheck{Off: 0.06}}, fact.MuchHardener, false, 2},
		{"off by the limit", BatchDay{Ratio: &kit.RatioCheck{Off: 0.02}}, fact.OffRatio, false, 0},
		{"off by the limit, its side", BatchDay{Ratio: &kit.RatioCheck{Off: -0.02}}, fact.MuchHardener, false, 0},
		{"mixed for 2 of 3 min", BatchDay{Meets: at(0), Mixed: at(2)}, fact.UnderMixed, true, 0.5},
		{"mixed for nine tenths", BatchDay{Meets: at(0), Mixed: at(2.7)}, fact.UnderMixed, false, 1/0.9 - 1},
		{"out 3 min late", BatchDay{UseBy: at(22), Poured: at(24), Due: due, Life: 1800}, fact.PouredLate, true, 0.1},
		{"out as its life ends", BatchDay{UseBy: at(25), Poured: at(24), Due: due, Life: 1800}, fact.PouredLate, false, 0},
		{"stood 9 min", BatchDay{Mixed: at(0), Poured: at(9), Life: 1800}, fact.Stood, true, 0.3},
		{"stood a quarter", BatchDay{Mixed: at(0), Poured: at(7.5), Life: 1800}, fact.Stood, false, 0.25},
		{"21 min for 12", BatchDay{Poured: at(0), Rolled: at(21)}, fact.SlowSection, true, 0.75},
		{"18 min for 12", BatchDay{Poured: at(0), Rolled: at(18)}, fact.SlowSection, false, 0.5},
		{"210 for 300 µm", BatchDay{Films: []FilmRead{{Film: 210e-6}}}, fact.ThinFilm, true, 1.5},
		{"210 for 300 µm, not thick", BatchDay{Films: []FilmRead{{Film: 210e-6}}}, fact.ThickFilm, false, -1.5},
		{"390 for 300 µm", BatchDay{Films: []FilmRead{{Film: 390e-6}}}, fact.ThickFilm, true, 1.5},
		{"expired the day before", BatchDay{Expires: "2031-03-03"}, fact.ExpiredLot, true, 1},
		{"expires on the day", BatchDay{Expires: "2031-03-04"}, fact.ExpiredLot, false, 1},
		{"two lost pails", BatchDay{Lost: []Remark{{}, {}}}, fact.HotBucket, true, 2},
	} {
		c.b.Number, c.b.Began = 1, at(0)
		f := finding(issued(), &CoatDay{Batches: []BatchDay{c.b}})
		f.batch(0)
		got, there := weights(t, f)[c.key]
		if !there || got.So != c.so || math.Abs(got.By-c.by) > 1e-9 {
			t.Errorf("%s: %s is %v by %v, want %v by %v", c.name, c.key, got.So, got.By, c.so, c.by)
		}
	}
	// A batch that was not poured has no facts but its lost pails.
	f := finding(issued(), &CoatDay{Batches: []BatchDay{{Number: 1, Ratio: &kit.RatioCheck{Off: -0.06}}}})
	if f.batch(0); len(f.out) != 0 {
		t.Errorf("not poured: %+v", f.out)
	}
}

// The induction of a mix is no standing: 9 min in the pail, 4 of them asked for by the sheet.
func TestInductionIsNoStanding(t *testing.T) {
	i := issued()
	i.Coats[0].Batches[0].Card.Induction = 4 * 60
	f := finding(i, &CoatDay{Batches: []BatchDay{{Number: 1, Began: at(0), Mixed: at(0), Poured: at(9), Life: 1800}}})
	f.batch(0)
	if got := weights(t, f)[fact.Stood]; got.So || math.Abs(got.By-5.0/30) > 1e-9 ||
		!strings.Contains(plain(got.Text), "5 min") {
		t.Errorf("%+v", got)
	}
}

// Section 2 meets the edge of section 1, laid at 10 min and workable for 40: joined at 54 min it is
// 4 min late, a tenth of the working time; at 50 min it is in time.
func TestWeightOfALateTieIn(t *testing.T) {
	for _, c := range []struct {
		name           string
		joined, rolled *time.Time
		so, there      bool
		by             float64
	}{
		{"joined at 54 min", at(54), nil, true, true, 0.1}, {"joined at its end", at(50), nil, false, true, 0},
		{"rolled at 58 min, no touch of its own", nil, at(58), true, true, 0.2}, {"not yet", nil, nil, false, false, 0},
	} {
		day := CoatDay{Batches: []BatchDay{{Number: 1, Due: Course{Laid: minutes(10)}},
			{Number: 2, Joined: c.joined, Rolled: c.rolled}}}
		f := finding(issued(), &day)
		f.joined(1)
		got, there := weights(t, f)[fact.JoinedLate]
		if there != c.there || got.So != c.so || math.Abs(got.By-c.by) > 1e-9 {
			t.Errorf("%s: %+v", c.name, got)
		}
	}
}

// The weather around a pour from 0 to 30 min, against limits of 3 K, 10 °C and 85 %: each fact at its
// limit, past it, and unknown where nobody read overnight.
func TestWeightsOfTheWeather(t *testing.T) {
	humid := func(v float64) *measure.Fraction { f := measure.Fraction(v); return &f }
	for _, c := range []struct {
		name string
		read []Reading
		want map[fact.Key]float64 // the weight; negative ones are not so
	}{
		{"a cold, damp hour", []Reading{{Coat: "c", At: minutes(10), Slab: warm(7), Humidity: humid(0.935),
			Margin: warm(1.5)}},
			map[fact.Key]float64{fact.NearDew: 0.5, fact.ColdSlab: 0.6, fact.Damp: 0.1}},
		{"well, and nobody read overnight", []Reading{{Coat: "c", At: minutes(10), Slab: warm(20), Humidity: humid(0.5),
			Margin: warm(9)}}, map[fact.Key]float64{}},
		{"at the limits, six hours on", []Reading{{Coat: "c", At: minutes(30 + 6*60), Slab: warm(10), Humidity: humid(0.85),
			Margin: warm(3)}}, map[fact.Key]float64{fact.NearDew: 0, fact.ColdSlab: 0, fact.Damp: 0}},
		{"the worst of three counts", []Reading{
			{Coat: "c", At: minutes(-60), Slab: warm(12), Humidity: humid(0.6), Margin: warm(4)},
			{Coat: "c", At: minutes(10), Slab: warm(9), Humidity: humid(0.935), Margin: warm(2.4)},
			{Coat: "c", At: minutes(30 + 24*60), Slab: warm(11), Humidity: humid(0.7), Margin: warm(3.5)}},
			map[fact.Key]float64{fact.NearDew: 0.2, fact.ColdSlab: 0.2, fact.Damp: 0.1, fact.Warming: -3}},
		{"too early, too late, another surface", []Reading{
			{Coat: "c", At: minutes(-61), Slab: warm(2)}, {Coat: "c", At: minutes(31 + 24*60), Slab: warm(2)},
			{Coat: "elsewhere", At: minutes(10), Slab: warm(2)}}, map[fact.Key]float64{}},
		{"half an hour apart, 2 K up", []Reading{{Coat: "c", At: minutes(0), Slab: warm(20)},
			{Coat: "c", At: minutes(30), Slab: warm(22)}}, map[fact.Key]float64{fact.Warming: 1.0 / 3}},
		{"as much as a gauge may be off", []Reading{{Coat: "c", At: minutes(0), Slab: warm(20)},
			{Coat: "c", At: minutes(30), Slab: warm(21.5)}}, map[fact.Key]float64{fact.Warming: 0}},
		{"less than that apart", []Reading{{Coat: "c", At: minutes(0), Slab: warm(20)},
			{Coat: "c", At: minutes(29), Slab: warm(22)}}, map[fact.Key]float64{}},
		{"a later reading tells nothing of the pour", []Reading{{Coat: "c", At: minutes(0), Slab: warm(20)},
			{Coat: "c", At: minutes(91), Slab: warm(25)}}, map[fact.Key]float64{}},
	} {
		f := finding(issued(), &CoatDay{Begun: at(0), Ends: minutes(30)}, c.read...)
		f.weather()
		got := weights(t, f)
		if len(got) != len(c.want) {
			t.Errorf("%s: %+v", c.name, got)
		}
		for key, by := range c.want {
			if one := got[key]; math.Abs(one.By-by) > 1e-9 || one.So != (by > 0) {
				t.Errorf("%s: %s is %v by %v, want %v", c.name, key, one.So, one.By, by)
			}
		}
	}
}

// Films from 200 to 320 µm spread by 60 %, half more than the 40 % that is allowed; one film spreads not.
func TestWeightOfUnevenFilms(t *testing.T) {
	for _, c := range []struct {
		name  string
		films []FilmRead
		by    float64
		there bool
	}{
		{"200 to 320 µm", []FilmRead{{Film: 250e-6}, {Film: 200e-6}, {Film: 320e-6}}, 1.5, true},
		{"at the limit", []FilmRead{{Film: 200e-6}, {Film: 280e-6}}, 1, true},
		{"one", []FilmRead{{Film: 200e-6}}, 0, false},
	} {
		f := finding(issued(), &CoatDay{Begun: at(0), Batches: []BatchDay{{Films: c.films}}})
		f.coat()
		got, there := weights(t, f)[fact.UnevenFilm]
		if there != c.there || math.Abs(got.By-c.by) > 1e-9 || got.So != (c.by > 1+1e-9) {
			t.Errorf("%s: %+v", c.name, got)
		}
	}
}

// Daylight speaks only of a top coat that ambers, or of one that is stable.
func TestFactsOfDaylight(t *testing.T) {
	for _, c := range []struct {
		sun       string
		last      bool
		there, so bool
	}{{"ambers", true, true, true}, {"ambers", false, false, false}, {"stable", true, true, false},
		{"", true, false, false}} {
		i := issued()
		i.Coats[0].Product.Sun, i.Coats[0].Last = c.sun, c.last
		f := finding(i, &CoatDay{Begun: at(0)})
		f.coat()
		if got, there := weights(t, f)[fact.Ambers]; there != c.there || got.So != c.so {
			t.Errorf("%q, last %v: %+v", c.sun, c.last, got)
		}
	}
}

// Lots of a coat by hand: one lot shows that they do not differ, two say which batches had which; a batch
// that was not poured, or whose lots nobody logged, says nothing. Of mixing: twice the time at most, or
// what the sheet says.
func TestLotsAndMixing(t *testing.T) {
	poured := at(0)
	batch := func(n int, lots ...string) BatchDay { return BatchDay{Number: n, Began: poured, Lots: lots} }
	for _, c := range []struct {
		name    string
		batches []BatchDay
		so, any bool
		text    string
	}{
		{"one lot", []BatchDay{batch(1, "A1", "B1"), batch(2, "A1", "B1")}, false, true, "All batches are of lot A1 + B1."},
		{"two", []BatchDay{batch(1, "A1", "B1"), batch(2, "A1", "B2"), batch(3, "A1", "B1")}, true, true,
			"Lots differ: A1 + B1 in batches 1, 3; A1 + B2 in batches 2."},
		{"one batch", []BatchDay{batch(1, "A1")}, false, false, ""},
		{"not logged, not poured", []BatchDay{batch(1, "A1"), batch(2), {Number: 3, Lots: []string{"A2"}}}, false, false, ""},
	} {
		f := finding(issued(), &CoatDay{Batches: c.batches})
		f.lots()
		if len(f.out) > 0 != c.any || c.any && (f.out[0].So != c.so || f.out[0].Text != c.text ||
			f.out[0].Key != fact.OtherLots) {
			t.Errorf("%s: %+v", c.name, f.out)
		}
	}
	i := issued()
	card := &i.Coats[0].Batches[0].Card
	hands := card.Stirred().Hands()
	for took, most := range map[measure.Span]measure.Span{2 * hands: 0, 2*hands + 30: 0, hands + 60: hands + 30} {
		card.MixingMax = most
		meets, mixed := minutes(-20), minutes(-20).Add(time.Duration(float64(took)*1e9))
		f := finding(i, &CoatDay{Batches: []BatchDay{{Number: 1, Began: poured, Meets: &meets, Mixed: &mixed}}})
		f.batch(0)
		if got := weights(t, f)[fact.OverMixed]; got.So != (took != 2*hands) {
			t.Errorf("%v of %v, at most %v: %+v", took, hands, most, got)
		}
	}
}

// What the survey told of the ground bears on every coat of its surface; a gate that was closed with the
// phrase on its button is weak evidence, one with words of somebody's own is not.
func TestSignsOfTheSurvey(t *testing.T) {
	i := issued()
	i.Surfaces[0].Signs = []Sign{{Key: fact.DampSlab, So: true, By: 0.5, Text: "The slab holds 88% of moisture."},
		{Key: fact.NoProfile, Text: "CSP 3."}}
	gate := Gate{Key: "surface", Title: "Surface", Saw: "Checks closed, surface dry and sound"}
	for what, weak := range map[string]bool{gate.Saw: true, "dry, swept twice, white cloth clean": false} {
		f := finding(i, &CoatDay{Begun: at(0), Ends: minutes(30), Gates: []GateState{{Gate: gate, Closed: true, What: what}}})
		f.coat()
		got := weights(t, f)
		if d := got[fact.DampSlab]; !d.So || d.By != 0.5 || d.Text != "Survey: The slab holds 88% of moisture." {
			t.Errorf("%+v", d)
		}
		if got[fact.NoProfile].So || got[fact.OpenSurface].So || got[fact.OpenSurface].Weak != weak {
			t.Errorf("“%s”: %+v", what, got[fact.OpenSurface])
		}
	}
}
