package sim

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"nephelon/core/cure"
	"nephelon/core/measure"
	"nephelon/core/work"
)

// wholeBatch is opened in 30 s, mixed in 180, stands 60, is carried 20, lives 1000; its
// section takes 40 person-seconds of pouring, 50 of cutting in, 100 of spreading, 60 of
// rolling and 70 of broadcasting.
func wholeBatch() Batch {
	return Batch{Open: 30, Mix: 180, Stand: 60, Carry: 20, Life: 1000, Works: Works(40, 50, 100, 60, 70)}
}

// Worked by hand on paper: one mixes and carries, one does everything on the floor. The first
// is opened at 0, arrives at 290, which becomes zero; the floor is free of it at 610, so the
// second arrives at 610, and is begun 290 before. All times below are less 290.
func TestAWholeTrainByHand(t *testing.T) {
	train := Train{Batches: equal(2, wholeBatch()), People: crew(1), Edge: steady(900), Shift: 2000, Light: 1500}
	r := best(t, train)
	for k, want := range [][8]measure.Span{
		{-260, -20, 0, 0, 40, 90, 190, 320},
		{60, 300, 320, 320, 360, 410, 510, 640},
	} {
		p := r.Passages[k]
		got := [8]measure.Span{p.Meets, p.Ready, p.Arrives, p.Pour, p.Empty, p.Spread, p.Laid, p.Done}
		for n := range want {
			if !same(got[n], want[n]) {
				t.Errorf("batch %d: meets, ready, arrives, pour, empty, spread, laid, done are %v, want %v", k+1, got, want)
				break
			}
		}
		if p.Batch != k+1 || !same(p.Waits, 0) || !same(p.Roll, p.Laid) {
			t.Errorf("batch %d: %+v", k+1, p)
		}
		// Out of the pail 300 s after A met B. Poured 260 s after that, the film can be worked for 640 s more, and
		// is broadcast to the end at 320.
		if !same(*p.Pail, 700) || !same(*p.Film, 320) {
			t.Errorf("batch %d: pail %v, film %v", k+1, *p.Pail, *p.Film)
		}
	}
	if first, second := r.Passages[0], r.Passages[1]; first.Join != nil || first.Joined != nil ||
		!same(*second.Joined, 570) || !same(*second.Join, 70) {
		t.Errorf("joins %+v, %+v", first, second)
	}
	wanted := []Pinch{{OfJoin, 2, 570, 70}, {OfFilm, 1, 320, 320}, {OfPail, 1, 40, 700}, {OfLight, 2, 640, 860},
		{OfShift, 2, 640, 1360}}
	if len(r.Moments) != len(wanted) {
		t.Fatalf("%+v", r.Moments)
	}
	for n, w := range wanted {
		if m := r.Moments[n]; m.Limit != w.Limit || m.Batch != w.Batch || !same(m.At, w.At) || !same(m.Slack, w.Slack) {
			t.Errorf("%+v, want %+v", m, w)
		}
	}
	if !r.Makes || !r.Known || r.Drawn || !same(r.Begins, -290) || !same(r.Ends, 640) || !same(r.Effort, 480+640-140) {
		t.Errorf("%+v", r)
	}
	if !same(measure.Span(r.Busy[0]), 480.0/930) || !same(measure.Span(r.Busy[1]), 640.0/930) {
		t.Errorf("busy %v", r.Busy)
	}
	stints := []Stint{
		{0, 1, Open, -290, -260}, {0, 1, Mix, -260, -80}, {0, 1, Carry, -20, 0}, {0, 2, Fetch, 10, 30}, {0, 2, Open, 30, 60},
		{0, 2, Mix, 60, 240}, {0, 2, Carry, 300, 320},
		{1, 1, Pours, 0, 40}, {1, 1, CutIn, 40, 90}, {1, 1, Spread, 90, 190}, {1, 1, Roll, 190, 250}, {1, 1, Cast, 250, 320},
		{1, 2, Pours, 320, 360}, {1, 2, CutIn, 360, 410}, {1, 2, Spread, 410, 510}, {1, 2, Roll, 510, 570},
		{1, 2, Cast, 570, 640},
	}
	if len(r.Parts) != len(stints) {
		t.Fatalf("%d stints: %+v", len(r.Parts), r.Parts)
	}
	for n, w := range stints {
		if s := r.Parts[n]; s.Person != w.Person || s.Batch != w.Batch || s.Act != w.Act || !same(s.From, w.From) ||
			!same(s.To, w.To) {
			t.Errorf("%+v, want %+v", s, w)
		}
	}
	makes, tight, err := new(Runner).Judge(train)
	if err != nil || !makes || tight.Limit != OfJoin || !same(tight.Slack, 70) || !same(tight.At, 570) {
		t.Errorf("judged %v %+v %v", makes, tight, err)
	}
}

// What is left of a film is the least over its first and its last place, when the roller gets
// there and when whoever broadcasts does. Drawn from the pail nothing lies in lines. By hand:
// spread from 380 to 480, after A met B at 30. A film that dries has 500 s from when it is spread.
// One that reacts has 1000 s less what it aged in the pail, which is longest for its last place.
func TestWhatIsLeftOfAFilmByHand(t *testing.T) {
	wet := measure.Span(500)
	for _, c := range []struct {
		name       string
		works      Floor
		dries      bool
		edge       measure.Span
		ages       float64
		used       measure.Span
		film, pail measure.Span
	}{
		{"dries, rolled at once: from the first, 380 + 500 − 480", Works(40, 50, 100, 60, 0), true, wet, 0, 0, 400, 550},
		{"dries, rolled slowly: at the last, 480 + 500 − 780", Works(40, 50, 100, 300, 0), true, wet, 0, 0, 200, 550},
		{"dries, broadcast: from the first, 380 + 500 − 540", Works(40, 50, 100, 60, 70), true, wet, 0, 0, 340, 550},
		{"dries, broadcast slowly: at the last, 480 + 500 − 940", Works(40, 50, 100, 60, 400), true, wet, 0, 0, 40, 550},
		{"as fast in the pail: 30 + 1000 − 540", Works(40, 50, 100, 60, 0), false, 1000, 0, 0, 490, 550},
		{"twice as fast in the pail: 480 + 1000 − 2 × 450 − 540", Works(40, 50, 100, 60, 0), false, 1000, 2, 0, 40, 550},
		{"heats itself: 480 + 1000 − 2 × 450 − (3000 − 2000) × 0.45⁴ − 540", Works(40, 50, 100, 60, 0), false, 1000, 2, 3000,
			-1.00625, 550},
		{"half as fast in the pail: 380 + 1000 − 0.5 × 350 − 480, or 480 + 1000 − 0.5 × 450 − 540",
			Works(40, 50, 100, 60, 0), false, 1000, 0.5, 0, 715, 550},
	} {
		b := wholeBatch()
		b.Works, b.Ages = c.works, cure.Aging{Times: c.ages, Used: c.used}
		p := best(t, Train{Batches: []Batch{b}, People: crew(1), Drawn: true, Dries: c.dries,
			Edge: steady(c.edge)}).Passages[0]
		if !same(*p.Film, c.film) || !same(*p.Pail, c.pail) || !same(p.Empty, p.Laid) {
			t.Errorf("%s: film %v, pail %v, empty %v of %v", c.name, *p.Film, *p.Pail, p.Empty, p.Laid)
		}
	}
}

// Poured at once the batch is as old as when it left the pail, wherever it is spread: poured at 290, 260 s
// after A met B. Of 1000 s, 740 are left then, until 1030, and 490 when it is rolled at 540. With the pail twice
// as fast until 770, and of what lies in lines 290 are left at 480; the roller ends at 540 with 230.
func TestAPuddleAgesAsItLies(t *testing.T) {
	for ages, left := range map[float64]measure.Span{1: 490, 2: 230} {
		b := wholeBatch()
		b.Works, b.Ages.Times = Works(40, 50, 100, 60, 0), ages
		if p := best(t, Train{Batches: []Batch{b}, People: crew(1), Edge: steady(1000)}).Passages[0]; !same(*p.Film, left) {
			t.Errorf("ages %v times as fast: %v s are left, want %v", ages, *p.Film, left)
		}
	}
}

// An edge lives as the place does by then, counted from when the first batch is poured. Dried, the edge of
// section 1, laid 190 s after that, lives 500 − 19 s. Reacting, the edge of section 2, poured at 320 and aged
// by 260, lives 900 − 32 − 260 from then, and is joined at 890.
func TestAnEdgeLivesByWhenItIsLaid(t *testing.T) {
	train := Train{Batches: equal(2, wholeBatch()), People: crew(1), Dries: true,
		Edge: func(s measure.Span) measure.Span { return 500 - s/10 }}
	if join := *best(t, train).Passages[1].Join; !same(join, 190+481-570) {
		t.Errorf("%v s are left of the edge, want 101", join)
	}
	train = Train{Batches: equal(3, wholeBatch()), People: crew(1),
		Edge: func(s measure.Span) measure.Span { return 900 - s/10 }}
	if join := *best(t, train).Passages[2].Join; !same(join, 320+900-32-260-890) {
		t.Errorf("%v s are left of the edge, want 38", join)
	}
}

// A batch whose life is shorter than planned ages by the same factor faster: twice as fast here, with half of
// the pot life and of the working time. It aged 2 × 260 + 1000 × (260 ÷ 500)⁴ ÷ 2 by when it is poured.
func TestAgesByTheLifeOfTheDay(t *testing.T) {
	b := wholeBatch()
	b.Works, b.Ages = Works(40, 50, 100, 60, 0), cure.Aging{Times: 2, Used: 3000}
	e := new(engine)
	if !e.ready(Train{Batches: []Batch{b}, People: crew(1), Edge: steady(2000)}, 2) {
		t.Fatal("they can")
	}
	e.vary = &varied{mix: func() float64 { return 1 }, floor: func() float64 { return 1 }, life: 0.5}
	e.run(way{}, nil)
	if want := measure.Span(290 + 1000 - 520 - 36.55808 - 540); !same(e.film[0], want) {
		t.Errorf("%v s are left of the film, want %v", e.film[0], want)
	}
}

// Two mix, and there is one drill: the second is opened so that it is on the drill when the
// first comes off, at 110; with a drill of its own when the floor wants it.
func TestADrillIsWaitedFor(t *testing.T) {
	b := Batch{Open: 10, Mix: 100, Works: Works(5, 0, 5, 0, 0)}
	people := []work.Person{who(work.Mixer), who(work.Mixer), who(onFloor...)}
	for drills, meets := range map[int]measure.Span{1: 110, 2: 20} {
		r := best(t, Train{Batches: equal(2, b), People: people, Drills: drills})
		if got := r.Passages[1].Meets - r.Begins; !same(got, meets) {
			t.Errorf("%d drills: the second meets %v s after the first is opened, want %v", drills, got, meets)
		}
		if second := slices.IndexFunc(r.Parts,
			func(s Stint) bool { return s.Batch == 2 && s.Act == Mix }); r.Parts[second].Person != 1 {
			t.Errorf("%d drills: person %d mixes the second", drills, r.Parts[second].Person)
		}
	}
}

// A runner carries, so that whoever mixes goes on mixing; of two the one who is free.
func TestRunnersCarry(t *testing.T) {
	b := Batch{Open: 10, Mix: 50, Carry: 200, Works: Works(5, 0, 5, 0, 0)}
	for runners, carries := range map[int][]int{1: {2, 2, 2}, 2: {2, 3, 2}} {
		people := []work.Person{who(work.Mixer), who(onFloor...)}
		for range runners {
			people = append(people, who(work.Runner))
		}
		r := best(t, Train{Batches: equal(3, b), People: people})
		for _, s := range r.Parts {
			if s.Act == Carry && s.Person != carries[s.Batch-1] {
				t.Errorf("%d runners: person %d carries batch %d, want %d", runners, s.Person, s.Batch, carries[s.Batch-1])
			}
			if s.Act == Fetch {
				t.Errorf("%d runners: person %d walks back for batch %d", runners, s.Person, s.Batch)
			}
		}
	}
}

// Who mixes ahead goes by what is left of the section and how many do it: poured from 60 to
// 65 by two, 400 person-seconds of spreading then take 200 s, so that the next is to arrive
// at 265 and is mixed from 205. Meanwhile the other spreads alone until 265, then both until
// 295, when whoever mixed has a hand free to carry it.
func TestMixingAheadByHand(t *testing.T) {
	b := Batch{Mix: 60, Works: Works(10, 0, 400, 0, 0)}
	e := new(engine)
	if !e.ready(Train{Batches: equal(2, b), People: []work.Person{who(allParts...), who(onFloor...)}}, 2) {
		t.Fatal("they can")
	}
	e.run(way{mixesFirst: true}, nil)
	first, second := e.passages[0], e.passages[1]
	for _, c := range []struct {
		name      string
		got, want measure.Span
	}{
		{"first poured", first.Pour, 60}, {"first empty", first.Empty, 65}, {"first spread", first.Laid, 295},
		{"second meets", second.Meets, 205}, {"second arrives", second.Arrives, 295}, {"second poured", second.Pour, 295},
		{"second spread", second.Laid, 500},
	} {
		if !same(c.got, c.want) {
			t.Errorf("%s at %v, want %v", c.name, c.got, c.want)
		}
	}
}

// Begun on its cues, and with nothing varied, a train runs as it was planned, whoever does
// it, and however: so every cue says when its batch was begun.
func TestCuesTellTheTrainAgain(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 1))
	span := func(most float64) measure.Span { return measure.Span(most * random.Float64()) }
	crews := [][]work.Person{crew(1), crew(3), {who(allParts...)}, {who(allParts...), who(onFloor...)},
		{who(work.Mixer), who(work.Mixer), who(work.Runner), who(onFloor...)}}
	for n := range 200 {
		train := Train{People: crews[n%len(crews)], Drills: 1 + n%2, Edge: steady(900), Drawn: n%7 == 0}
		train.Batches = equal(1+random.IntN(6), Batch{Open: span(60), Mix: 1 + span(200), Stand: span(100), Carry: span(60),
			Life: 1500, Works: Works(span(60), span(60), 1+span(300), span(200), span(100)), Lap: random.Float64()})
		for _, as := range []way{{}, {mixesFirst: true}, {drawn: true}} {
			e := new(engine)
			if !e.ready(train, len(train.People)) {
				t.Fatal("they can")
			}
			if as.mixesFirst && !e.torn {
				continue
			}
			e.run(as, nil)
			planned := slices.Clone(e.passages)
			cues := e.cues(as)
			for k, c := range cues[1:] {
				if c.base >= k+1 || c.base >= 0 && planned[c.base].Pour > e.open[k+1]+1e-6 {
					t.Fatalf("the cue of batch %d is batch %d, which is not poured by then", k+2, c.base+1)
				}
				if later := c.base + 1; c.base >= 0 && later < k+1 && planned[later].Pour < e.open[k+1]-1e-6 {
					t.Fatalf("the cue of batch %d is batch %d, and %d is poured by then, too", k+2, c.base+1, later+1)
				}
				if sees := c.share >= 0; sees && as.mixesFirst && c.base == k {
					t.Fatal("who mixes ahead cannot have seen how the section in hand ends")
				} else if !sees && c.base >= 0 && !as.mixesFirst && planned[c.base].Laid > planned[c.base].Pour {
					t.Fatalf("the cue of batch %d goes by the time where something is seen", k+2)
				}
			}
			e.run(as, cues)
			for k := range planned {
				if got, want := e.passages[k], planned[k]; !same(got.Meets, want.Meets) || !same(got.Done, want.Done) ||
					!same(got.Pour, want.Pour) {
					t.Fatalf("train %d, %+v: batch %d of %d meets at %v and is done at %v; planned %v and %v", n, as, k+1,
						len(planned), got.Meets, got.Done, want.Meets, want.Done)
				}
			}
		}
	}
}

// A share of what is seen is a share of the way: half-way through a section that takes 100 s
// and twice as long today, the next is begun 100 s after it is poured.
func TestACueGoesByWhatIsSeen(t *testing.T) {
	b := Batch{Mix: 50, Works: Works(0, 0, 100, 0, 0)}
	e := new(engine)
	if !e.ready(Train{Batches: equal(2, b), People: crew(1)}, 2) {
		t.Fatal("they can")
	}
	e.run(way{}, nil)
	cues := e.cues(way{})
	if c := cues[1]; c.base != 0 || !same(measure.Span(c.share), 0.5) || !same(c.after, 50) {
		t.Fatalf("%+v", c)
	}
	e.vary = &varied{mix: func() float64 { return 1 }, floor: func() float64 { return 2 }, life: 1}
	e.run(way{}, cues)
	if got := e.passages[1].Meets - e.passages[0].Pour; !same(got, 100) {
		t.Errorf("begun %v s after the first was poured, want 100", got)
	}
	// A cue that goes by the time does not move with the floor.
	cues[1].share = -1
	e.run(way{}, cues)
	if got := e.passages[1].Meets - e.passages[0].Pour; !same(got, 50) {
		t.Errorf("begun %v s after the first was poured, want 50", got)
	}
}

// The batch that most often comes too late is named by its number.
func TestWhichBatchComesTooLate(t *testing.T) {
	batches := equal(3, Batch{Open: 10, Mix: 60, Life: 100000, Works: Works(10, 0, 100, 0, 0)})
	batches[1].Life = 75 // it is out of the pail 70 s after A met B
	c := try(t, Train{Batches: batches, People: crew(2)}, Spreads{Pace: 0.2, Work: 0.05, Mixing: 0.2}, 400, 3)
	if c.Which != 2 {
		t.Errorf("batch %d comes too late most often, want 2", c.Which)
	}
}

// Everybody of a team at a work shares it, each from when they are free; by hand.
func TestATeamShares(t *testing.T) {
	busy := func(stretches ...[2]measure.Span) *calendar {
		c := new(calendar)
		for _, s := range stretches {
			c.book(s[0], s[1])
		}
		return c
	}
	for _, c := range []struct {
		name       string
		team       team
		from, work measure.Span
		begin, end measure.Span
		pieces     int
	}{
		{"one who is free", team{busy()}, 10, 30, 10, 40, 1},
		{"two who are free", team{busy(), busy()}, 10, 30, 10, 25, 2},
		{"one of them from 20", team{busy(), busy([2]measure.Span{0, 20})}, 10, 30, 10, 30, 2},
		{"both later", team{busy([2]measure.Span{0, 15}), busy([2]measure.Span{0, 20})}, 10, 25, 15, 30, 2},
		{"one called away between", team{busy([2]measure.Span{20, 50})}, 10, 30, 10, 70, 2},
	} {
		begin, end := c.team.share(c.from, c.work)
		pieces, sum := 0, measure.Span(0)
		c.team.pieces(begin, end, func(_ int, from, to measure.Span) { pieces++; sum += to - from })
		if !same(begin, c.begin) || !same(end, c.end) {
			t.Errorf("%s: from %v to %v, want %v to %v", c.name, begin, end, c.begin, c.end)
		}
		if pieces != c.pieces || !same(sum, c.work) {
			t.Errorf("%s: %d pieces of %v s in all, want %d of %v", c.name, pieces, sum, c.pieces, c.work)
		}
	}
}

// Of one batch that lives a standard deviation longer than it needs, as many are lost as lie
// beyond one standard deviation: Φ(−1) = 0.15866, whatever it is that varies; closed form.
func TestEachSpreadByItself(t *testing.T) {
	const off, need = 0.2, 1000.0
	spared := measure.Span(need * math.Exp(off))
	mixed := Batch{Mix: need, Life: spared, Works: Works(0, 0, 0, 1, 0)}
	poured := Batch{Open: 1, Life: spared, Works: Works(need, 0, 0, 1, 0)}
	warmed := poured
	warmed.Life = need * 1.148698354997035 // 2 to the power of 2 K of 10
	for _, c := range []struct {
		name    string
		batch   Batch
		spreads Spreads
	}{
		{"pace", poured, Spreads{Pace: off}}, {"work", poured, Spreads{Work: off}}, {"mixing", mixed, Spreads{Mixing: off}},
		{"life", poured, Spreads{Life: off}}, {"warmth", warmed, Spreads{Warmth: 2}},
	} {
		got := try(t, Train{Batches: []Batch{c.batch}, People: crew(1)}, c.spreads, 20000, 5)
		if math.Abs(got.Pail.Of-0.15866) > 0.01 || math.Abs(got.Makes.Of-0.84134) > 0.01 {
			t.Errorf("%s: %.4f are lost and %.4f made, want 0.1587 and 0.8413", c.name, got.Pail.Of, got.Makes.Of)
		}
	}
}

// The wall that a section comes to last is cut in with its last strip: by hand, of 80 s of cutting 40 are of
// the far wall, and the section is worked in two strips. Each takes 20 s of cutting, 50 of spreading and 30 of
// rolling; poured from 0 to 40, the first is joined at 140, the second cut in from 140 to 160 and along the far
// wall to 200, spread to 250 and rolled to 280. In one strip the far wall is cut in after the roller.
func TestTheFarWallComesLast(t *testing.T) {
	b := Batch{Mix: 100, Works: Works(40, 80, 100, 60, 0), Far: 40, Lap: 0.5}
	for lap, want := range map[float64][2]measure.Span{0.5: {140, 280}, 1: {240, 280}} {
		b.Lap = lap
		p := best(t, Train{Batches: equal(2, b), People: crew(1)}).Passages[1]
		if joined, done := *p.Joined-p.Pour, p.Done-p.Pour; !same(joined, want[0]) || !same(done, want[1]) {
			t.Errorf("lap %v: joined %v s after it is poured and done at %v, want %v", lap, joined, done, want)
		}
	}
}

// Who mix and work on the floor in turn take the better of the orders for their day, though the other makes it,
// too: what ends first, unless it saves less than it leaves of ten minutes' slack.
func TestTheBetterOrderIsTaken(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 3))
	span := func(most float64) measure.Span { return measure.Span(most * random.Float64()) }
	better := 0
	for range 200 {
		train := Train{People: []work.Person{who(allParts...), who(allParts...)}, Edge: steady(3000 + span(3000))}
		train.Batches = equal(2+random.IntN(5), Batch{Open: span(60), Mix: 60 + span(200), Stand: span(60), Carry: span(60),
			Life: 6000, Works: Works(span(60), span(60), 100+span(300), 100+span(200), 0), Lap: 0.3})
		worth := func(as way) (measure.Span, bool) {
			e := new(engine)
			if !e.ready(train, 2) {
				t.Fatal("they can")
			}
			e.run(as, nil)
			left := e.tightest(nil)
			return e.ends() - min(left, comfortable), left >= 0
		}
		finishes, makes := worth(way{})
		ahead, too := worth(way{mixesFirst: true})
		if !makes || !too {
			continue
		}
		if ahead < finishes {
			better++
		}
		r := best(t, train)
		if got := r.Ends - min(r.Tight().Slack, comfortable); !same(got, min(finishes, ahead)) {
			t.Fatalf("finishing first comes to %v, mixing ahead to %v; taken is %v", finishes, ahead, got)
		}
	}
	if better < 20 {
		t.Errorf("mixing ahead is better %d times", better)
	}
}
