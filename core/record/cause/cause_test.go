package cause

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"nephelon/core/record"
)

// day is a made-up day's facts: everything clean but for what is planted.
func day(planted ...record.Fact) []record.Fact {
	clean := []record.FactKey{
		record.OffRatio, record.MuchHardener, record.UnderMixed, record.PouredLate, record.ColdSlab, record.NearDew,
		record.Damp, record.Warming, record.JoinedLate,
		record.SlowSection, record.ThinFilm, record.ThickFilm, record.UnevenFilm, record.MissedWindow, record.TooEarly,
		record.OpenSurface, record.OpenDust, record.OpenWater,
		record.OpenForecast, record.Ambers, record.Stood,
	}
	facts := slices.Clone(planted)
	for _, key := range clean {
		if !slices.ContainsFunc(planted, func(f record.Fact) bool { return f.Key == key }) {
			facts = append(facts, record.Fact{Key: key, Coat: "c", Text: fmt.Sprintf("%s was not so.", key)})
		}
	}
	return facts
}

func so(key record.FactKey, batch int, by float64) record.Fact {
	return record.Fact{Key: key, Coat: "c", Batch: batch, So: true, By: by, Text: fmt.Sprintf("%s was so.", key)}
}

// Of made-up days with one planted cause each, the planted one ranks first; invented cases.
func TestThePlantedCauseRanksFirst(t *testing.T) {
	days := []struct {
		seen, cause string
		facts       []record.Fact
		yes, no     []string
	}{
		{"soft", "ratio", []record.Fact{so(record.OffRatio, 3, 2.5)}, nil, nil},
		{"soft", "mixing", []record.Fact{so(record.UnderMixed, 3, 0.8)}, nil, nil},
		{"soft", "cold", []record.Fact{so(record.ColdSlab, 0, 0.7)}, nil, nil},
		{"soft", "residue", nil, []string{"residue"}, nil},
		{"soft", "pair", nil, []string{"pair"}, []string{"residue"}},
		{"bubbles", "outgassing", []record.Fact{so(record.Warming, 0, 3)}, nil, nil},
		{"bubbles", "porous", nil, []string{"porous"}, nil},
		{"bubbles", "air", nil, []string{"air"}, []string{"porous"}},
		{"bubbles", "damp", []record.Fact{so(record.OpenSurface, 0, 1), so(record.Damp, 0, 0.2)}, nil, []string{"porous"}},
		{"hot", "stood", []record.Fact{so(record.Stood, 3, 0.5)}, nil, nil},
		{"hot", "warm", nil, []string{"warm"}, nil},
		{"hot", "hardener", []record.Fact{so(record.MuchHardener, 3, 2), so(record.OffRatio, 3, 2)}, nil, nil},
		{"lap", "late", []record.Fact{so(record.JoinedLate, 3, 0.3)}, nil, nil},
		{"lap", "slow", []record.Fact{so(record.SlowSection, 3, 0.9)}, nil, nil},
		{"lap", "aged", []record.Fact{so(record.PouredLate, 3, 0.2), so(record.Stood, 3, 0.4)}, nil, nil},
		{"bands", "uneven", []record.Fact{so(record.UnevenFilm, 0, 0.5)}, nil, nil},
		{"bands", "stirred", nil, []string{"stirred"}, nil},
		{"peeling", "window", []record.Fact{so(record.MissedWindow, 0, 5)}, nil, nil},
		{"peeling", "surface", []record.Fact{so(record.OpenSurface, 0, 1)}, nil, nil},
		{"haze", "dew", []record.Fact{so(record.NearDew, 0, 0.6)}, nil, nil},
		{"haze", "water", []record.Fact{so(record.OpenWater, 0, 1)}, nil, nil},
		{"haze", "humid", []record.Fact{so(record.Damp, 0, 0.1)}, nil, nil},
		{"specks", "dust", []record.Fact{so(record.OpenDust, 0, 1)}, nil, nil},
		{"specks", "roller", nil, []string{"roller"}, nil},
		{"runs", "thick", []record.Fact{so(record.ThickFilm, 3, 1.4)}, nil, nil},
		{"bare", "thin", []record.Fact{so(record.ThinFilm, 3, 1.4)}, nil, nil},
		{"amber", "sun", []record.Fact{so(record.Ambers, 0, 1)}, nil, nil},
		{"undried", "ratio", []record.Fact{so(record.OffRatio, 3, 1)}, nil, nil},
	}
	missed := 0
	for _, d := range days {
		trouble := record.Trouble{Seen: d.seen, Coat: "c", Batch: 3}
		for _, key := range d.yes {
			trouble.Answers = append(trouble.Answers, record.Answer{Question: key, Yes: true, By: "Tess"})
		}
		for _, key := range d.no {
			trouble.Answers = append(trouble.Answers, record.Answer{Question: key, By: "Tess"})
		}
		got, err := Judge(trouble, day(d.facts...), nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		if got.Ranked[0].Key != d.cause || !got.Ranked[0].Asserted {
			missed++
			t.Logf("%s: planted %s, ranked %s first", d.seen, d.cause, got.Ranked[0].Key)
		}
	}
	// Nine of ten are wanted.
	if 10*missed > len(days) {
		t.Errorf("%d of %d planted causes do not rank first", missed, len(days))
	}
}

// Where the record knows nothing, nothing is asserted, whatever is seen, and one question is
// asked; where all that it knows was well, neither.
func TestNothingIsAssertedFromNothing(t *testing.T) {
	for _, s := range Symptoms() {
		for _, facts := range [][]record.Fact{nil, day()} {
			got, err := Judge(record.Trouble{Seen: s.Key, Coat: "c", Batch: 3}, facts, nil, nil)
			if err != nil {
				t.Fatal(err)
			}
			asks := slices.ContainsFunc(s.Causes, func(c Cause) bool { return c.Ask != "" })
			for _, r := range got.Ranked {
				if r.Asserted {
					t.Errorf("%s: %s is asserted from %d facts", s.Key, r.Key, len(facts))
				}
			}
			if (got.Question != nil) != asks {
				t.Errorf("%s: asks %v", s.Key, got.Question)
			}
		}
	}
	if _, err := Judge(record.Trouble{Seen: "sulky"}, nil, nil, nil); err == nil ||
		!strings.HasPrefix(err.Error(), "seen:") {
		t.Errorf("%v", err)
	}
}

// Facts of another coat or another batch say nothing of this one.
func TestOnlyItsOwnFactsCount(t *testing.T) {
	other := so(record.OffRatio, 3, 3)
	other.Coat = "d"
	for _, f := range []record.Fact{other, so(record.OffRatio, 2, 3)} {
		got, err := Judge(record.Trouble{Seen: "soft", Coat: "c", Batch: 3}, []record.Fact{f}, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		if got.Ranked[0].Asserted {
			t.Errorf("%+v speaks for %s", f, got.Ranked[0].Key)
		}
	}
}

// What faults turned out to be corrects the order, and says so.
func TestPastFaultsCorrectThePriors(t *testing.T) {
	trouble := record.Trouble{Seen: "soft", Coat: "c", Batch: 3}
	before, err := Judge(trouble, nil, nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	after, err := Judge(trouble, nil, slices.Repeat([]Past{{"soft", "pair"}}, 6), nil)
	if err != nil {
		t.Fatal(err)
	}
	if before.Ranked[0].Key == "pair" || after.Ranked[0].Key != "pair" {
		t.Errorf("first is %s, after six of a wrong pair %s", before.Ranked[0].Key, after.Ranked[0].Key)
	}
	if text := after.Ranked[0].PriorText; !strings.Contains(text, "6 of 6") {
		t.Errorf("“%s”", text)
	}
	// Cases of other symptoms change nothing.
	if same, _ := Judge(trouble, nil, []Past{{"lap", "late"}}, nil); same.Ranked[0].Score != before.Ranked[0].Score {
		t.Error("a lap line changes what is thought of soft spots")
	}
}

// The score is the prior and all evidence added up: 1.1 + 3·(0.6 + 0.4·0.5) = 3.5 for a ratio
// that is half as much again off as is allowed; by hand.
func TestTheScoreAddsUp(t *testing.T) {
	got, err := Judge(record.Trouble{Seen: "soft", Coat: "c", Batch: 3},
		[]record.Fact{so(record.OffRatio, 3, 0.5), {Key: record.UnderMixed, Coat: "c", Batch: 3}}, nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	want := map[string]float64{"ratio": 3.5, "mixing": 1.0 - 1.25, "residue": 1.2}
	for _, r := range got.Ranked {
		if w, known := want[r.Key]; known && (r.Score-w > 1e-9 || w-r.Score > 1e-9) {
			t.Errorf("%s scores %v, want %v", r.Key, r.Score, w)
		}
	}
}

// A house puts its own prior and weights in place of common practice, for the cause that it
// names alone, and they are told as its own.
func TestOwnWeights(t *testing.T) {
	trouble := record.Trouble{Seen: "soft", Coat: "c", Batch: 3}
	own := []Own{{"soft", "ratio", record.OffRatio, 1}, {"soft", "mixing", "", 4}, {"lap", "late", record.JoinedLate, 9}}
	got, err := Judge(trouble, []record.Fact{so(record.OffRatio, 3, 1)}, nil, own)
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range got.Ranked {
		want := map[string]float64{"ratio": 1.1 + 1, "mixing": 4, "residue": 1.2}
		if w, known := want[r.Key]; known && (r.Score-w > 1e-9 || w-r.Score > 1e-9) {
			t.Errorf("%s scores %v, want %v", r.Key, r.Score, w)
		}
		if r.Key == "mixing" && !strings.Contains(r.PriorText, "this house") {
			t.Errorf("“%s”", r.PriorText)
		}
	}
	if Symptoms()[0].Causes[2].Prior == 4 {
		t.Error("the table of common practice was changed")
	}
}

// The prior after one case of each cause, by hand: of priors ln 3 and 0 practice expects shares of 3/4
// and 1/4, which count for four cases; then b has (4/4 + 1)/(4 + 2) = 1/3, and ln(4/3) keeps the scale.
func TestLearntPrior(t *testing.T) {
	s := Symptom{Key: "x", Causes: []Cause{{Key: "a", Prior: math.Log(3)}, {Key: "b"}}}
	past := []Past{{"x", "a"}, {"x", "b"}, {"y", "b"}}
	for k, want := range []float64{math.Log(4 * 2.0 / 3), math.Log(4.0 / 3)} {
		got, text := learnt(s, s.Causes[k], past)
		if math.Abs(got-want) > 1e-12 || !strings.Contains(text, "1 of 2") {
			t.Errorf("%s: %v (%s), want %v", s.Causes[k].Key, got, text, want)
		}
	}
}

// What a sign of weight 2 adds, by hand: 2 × (0.6 + 0.4 × by) where it is so, by from 0 to 1, and −1 where
// it is not. Of several the strongest that is so counts.
func TestWeightOfEvidence(t *testing.T) {
	c := Cause{Key: "a", Ask: "Was it?", Shows: []Shows{{Fact: record.OffRatio, Weight: 2}}}
	is := func(by float64) record.Fact { return so(record.OffRatio, 3, by) }
	not := record.Fact{Key: record.OffRatio, Coat: "c", Batch: 3}
	whole, other := is(0.5), is(1)
	whole.Batch, other.Batch = 0, 2
	for _, k := range []struct {
		name    string
		facts   []record.Fact
		batch   int
		answers []record.Answer
		adds    float64
		so      bool
	}{
		{"half", []record.Fact{is(0.5)}, 3, nil, 1.6, true},
		{"more than all", []record.Fact{is(7)}, 3, nil, 2, true},
		{"less than nothing", []record.Fact{is(-3)}, 3, nil, 1.2, true},
		{"not so", []record.Fact{not}, 3, nil, -1, false},
		{"the strongest", []record.Fact{not, is(0.25), is(0.75), is(0.5), not}, 3, nil, 1.8, true},
		{"of the whole coat", []record.Fact{whole}, 3, nil, 1.6, true},
		{"of another batch", []record.Fact{other}, 3, nil, 0, false},
		{"a fault of the whole coat", []record.Fact{other}, 0, nil, 2, true},
		{"yes", nil, 3, []record.Answer{{Question: "a", Yes: true}}, 2, true},
		{"no", nil, 3, []record.Answer{{Question: "a"}}, -2, false},
		{"an answer to something else", nil, 3, []record.Answer{{Question: "b", Yes: true}}, 0, false},
	} {
		got := rank(c, record.Trouble{Coat: "c", Batch: k.batch, Answers: k.answers}, k.facts, 1, "")
		if math.Abs(got.Score-1-k.adds) > 1e-12 || got.Asserted != k.so {
			t.Errorf("%s: %v, asserted %v", k.name, got.Score-1, got.Asserted)
		}
	}
	// The evidence that weighs most comes first, for or against.
	c.Shows = append(c.Shows, Shows{Fact: record.UnderMixed, Weight: 6})
	e := rank(c, record.Trouble{Coat: "c"}, []record.Fact{is(0), {Key: record.UnderMixed, Coat: "c"}}, 0, "").Evidence
	if len(e) != 2 || e[0].Weight != -3 || math.Abs(e[1].Weight-1.2) > 1e-12 {
		t.Errorf("%+v", e)
	}
}

// The question is that of the cause nearest to the first, and of the first itself where its next is near;
// one that was answered is not asked again.
func TestQuestionThatTellsMost(t *testing.T) {
	of := func(key string, score float64, ask string) Ranked {
		return Ranked{Cause: Cause{Key: key, Ask: ask}, Score: score}
	}
	answered := record.Trouble{Answers: []record.Answer{{Question: "a"}}}
	for _, c := range []struct {
		name    string
		ranked  []Ranked
		trouble record.Trouble
		want    string
	}{
		{"the first", []Ranked{of("a", 5, "?"), of("b", 4.5, "?")}, record.Trouble{}, "a"},
		{"the first has none", []Ranked{of("a", 5, ""), of("b", 1, "?"), of("c", 2, "?")}, record.Trouble{}, "c"},
		{"the first was answered", []Ranked{of("a", 5, "?"), of("b", 4, "?")}, answered, "b"},
		{"alone", []Ranked{of("a", 5, "?")}, record.Trouble{}, "a"},
		{"one far behind", []Ranked{of("a", 5, "?"), of("b", -5, ""), of("c", 4, "?")}, record.Trouble{}, "c"},
		{"nothing left", []Ranked{of("a", 5, "?")}, answered, ""},
	} {
		got := ""
		if q := ask(c.ranked, c.trouble); q != nil {
			got = q.Key
		}
		if got != c.want {
			t.Errorf("%s: asks %q, want %q", c.name, got, c.want)
		}
	}
}
