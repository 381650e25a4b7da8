package record

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"
)

// With one touch a pail and one when all is laid, a pour that goes as planned, give or take, is a whole record: every
// step has its time, in order, no pail is condemned at any minute, and no pace is learnt from what nobody saw.
func TestOneTouchAPail(t *testing.T) {
	random := rand.New(rand.NewPCG(27, 4))
	for range 60 {
		i, j := issued(), tablet("aaaa")
		plan := i.Coats[0].Batches
		off, late := func() float64 { return random.Float64()*3 - 1 }, random.Float64()*4
		asked := func(from, to float64) {
			for at := from; at < to; at++ {
				c := tell(i, j.all, minutes(at)).Coats[0]
				for _, say := range append(c.Now, c.Watch...) {
					if say.Do == "lost" || strings.Contains(say.Text, "pail") && c.Batches[say.Batch-1].When(Poured) != nil {
						t.Fatalf("at minute %v: %s", at, say.Text)
					}
				}
			}
		}
		meets := make([]float64, len(plan))
		for k := range plan {
			meets[k] = float64(plan[k].Passage.Meets)/60 + late + off()
			j.log(minutes(meets[k]), Meets, batch(k+1), Body{})
		}
		end := float64(plan[2].Passage.Done)/60 + late + 3
		all := slices.Clone(j.all)
		for k := range plan {
			j.all = all[:k+1]
			until := end
			if k+1 < len(plan) {
				until = meets[k+1]
			}
			asked(meets[k], until)
		}
		j.all = all
		j.log(minutes(end), Rolled, batch(3), Body{})
		c := tell(i, j.all, minutes(end+1)).Coats[0]
		if c.Done == nil || c.Paced != 0 {
			t.Fatalf("done %v, paced by %d sections", c.Done, c.Paced)
		}
		for k, b := range c.Batches {
			last := minutes(meets[k])
			for _, step := range []Kind{Poured, Spread, Rolled} {
				at := b.When(step)
				if at == nil || at.Before(last) || at.After(minutes(end)) {
					t.Fatalf("batch %d: %s at %v after %v", b.Number, step, at, last)
				}
				last = *at
			}
			planned := minutes(float64(plan[k].Passage.Pour)/60 + late)
			if off := b.Began.Sub(planned).Abs(); off > 5*time.Minute {
				t.Errorf("batch %d is taken as poured %v from when it was", b.Number, off)
			}
		}
	}
}

// Whoever logs pours may still hold the pail that has no such touch: the next one begun shows nothing then, and the
// next one poured does. A touch that comes later counts before what was taken from others; a lost pail was not poured.
func TestWhatShowsThatAPailWasPoured(t *testing.T) {
	day := func(at float64, touches ...func(*journal)) BatchDay {
		j := tablet("aaaa")
		for _, touch := range touches {
			touch(j)
		}
		return tell(issued(), j.all, minutes(at)).Coats[0].Batches[1]
	}
	did := func(at float64, kind Kind, n int) func(*journal) {
		return func(j *journal) { j.log(minutes(at), kind, batch(n), Body{Text: "was spilt"}) }
	}
	begun := []func(*journal){did(-4, Meets, 1), did(6, Meets, 2), did(16, Meets, 3)}
	if b := day(17, begun...); b.State != Pouring || b.When(Poured) == nil || !b.When(Poured).Equal(minutes(10)) ||
		b.Poured != nil {
		t.Errorf("the third pail begun: %s, %v", b.State, b.Shown)
	}
	held := append(slices.Clone(begun), did(0, Poured, 1))
	if b := day(17, held...); b.State != Mixing || b.When(Poured) != nil {
		t.Errorf("the pour of the first was logged: %s, %v", b.State, b.Shown)
	}
	laid := append(slices.Clone(held), did(20, Poured, 3))
	if b := day(21, laid...); b.State != Spreading || !b.When(Poured).Equal(minutes(10)) ||
		!b.When(Spread).Equal(minutes(20)) {
		t.Errorf("the third poured: %s, %v", b.State, b.Shown)
	}
	j := tablet("aaaa") // its limit is still called out: it may stand aside
	for _, touch := range laid {
		touch(j)
	}
	if w := tell(issued(), j.all, minutes(30)).Coats[0].Watch; !slices.ContainsFunc(w, func(s Say) bool {
		return s.Batch == 2 && strings.Contains(s.Text, "is taken as poured, as later ones were")
	}) {
		t.Errorf("%+v", w)
	}
	touched := append(slices.Clone(laid), did(12, Poured, 2))
	if b := day(21, touched...); !b.When(Poured).Equal(minutes(12)) || len(b.Shown) != 1 {
		t.Errorf("its own touch: %v, %v", b.When(Poured), b.Shown)
	}
	rolled := append(slices.Clone(begun[:2]), did(7, Rolled, 1))
	if b := day(8, rolled...); b.State != Mixing || len(b.Shown) != 0 {
		t.Errorf("the section before it was rolled: %s, %v", b.State, b.Shown)
	}
	spread := append(slices.Clone(begun[:2]), did(19, Spread, 2))
	if b := day(20, spread...); b.State != Spreading || !b.When(Poured).Equal(minutes(9)) || len(b.Shown) != 1 {
		t.Errorf("it was spread, ten minutes after it was poured as planned: %s, %v", b.State, b.Shown)
	}
	lost := append(slices.Clone(begun), did(18, Lost, 2))
	if b := day(19, lost...); b.State != Waiting || len(b.Shown) != 0 {
		t.Errorf("a lost pail: %s, %v", b.State, b.Shown)
	}
}
