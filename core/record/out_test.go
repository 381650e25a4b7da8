package record

import (
	"math"
	"strings"
	"testing"

	"nephelon/core/kit"
	"nephelon/core/measure"
)

// A section in the middle is left out for good: no time passes at it, the next is mixed as after the one before it, no
// edge of it is waited for, and the coat is done without it. What was begun is not left out, and mixing brings it back.
func TestASectionIsLeftOut(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	j.log(minutes(0), Poured, batch(1), Body{})
	j.log(minutes(1), LeftOut, batch(1), Body{Reason: "Tess: too late for that"})
	j.log(minutes(2), LeftOut, batch(2), Body{Reason: "Tess: the client wants it bare"})
	day := tell(i, j.all, minutes(3))
	d := day.Coats[0]
	if d.Batches[0].Out != nil || d.Batches[0].State != Pouring || d.Batches[1].State != NotLaid {
		t.Fatalf("%+v", d.Batches)
	}
	if out := d.Batches[1].Out; out.Later || out.By != "Tess" || out.Why != "Tess: the client wants it bare" {
		t.Errorf("%+v", out)
	}
	if !d.Batches[1].Due.Done.Equal(d.Batches[0].Due.Laid) {
		t.Errorf("time passes at it: %+v", d.Batches[1].Due)
	}
	if was := tell(i, j.all[:1], minutes(3)).Coats[0]; !d.Batches[2].Due.Meets.Before(was.Batches[2].Due.Meets) {
		t.Errorf("the third is not mixed earlier: %v, %v", d.Batches[2].Due.Meets, was.Batches[2].Due.Meets)
	}
	if len(day.Notes) != 2 || day.Notes[1].Text != "Section 2 is not laid." || day.Notes[1].Who == "" {
		t.Errorf("%+v", day.Notes)
	}
	for _, say := range append(append(d.Now, d.Next...), d.Watch...) {
		if say.Batch == 2 || strings.Contains(say.Text, "Stopped") {
			t.Errorf("%+v", say)
		}
	}
	back := tablet("bbbb")
	back.log(minutes(4), Meets, batch(2), Body{})
	if b := tell(i, append(j.all, back.all...), minutes(5)).Coats[0].Batches[1]; b.Out != nil || b.State != Mixing {
		t.Errorf("it is mixed after all: %+v", b)
	}
	for _, n := range []int{1, 3} {
		j.log(minutes(float64(20*n)), Rolled, batch(n), Body{})
	}
	if d := tell(i, j.all, minutes(70)).Coats[0]; d.Done == nil {
		t.Errorf("it is not done: %+v", d.Now)
	}
}

// A coat is stopped after its first section, since it rains: it is not done, nothing more of it is mixed, and the day
// says how its edge is left and what the next day does.
func TestACoatIsStopped(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	no := false
	j.log(minutes(-5), Meets, batch(1), Body{})
	j.log(minutes(0), Poured, batch(1), Body{})
	for _, n := range []int{2, 3} {
		j.log(minutes(3), LeftOut, batch(n), Body{Reason: "Tess: rain is coming", Yes: &no})
	}
	if d := tell(i, j.all, minutes(4)).Coats[0]; len(d.Now) != 1 || d.Now[0].Do != "spread" || len(d.Next) != 0 {
		t.Errorf("while the first is spread: %+v", d)
	}
	j.log(minutes(15), Rolled, batch(1), Body{})
	day := tell(i, j.all, minutes(16))
	d := day.Coats[0]
	if d.Done != nil || len(d.Now) != 1 || !strings.Contains(d.Now[0].Text, "Stopped after section 1.") {
		t.Errorf("%+v", d.Now)
	}
	if !strings.Contains(day.Notes[0].Text, "not laid today") {
		t.Errorf("%+v", day.Notes)
	}
}

// A pour of three cups is told cup by cup, in their order but for those poured out of it; then it is spread.
func TestCupByCup(t *testing.T) {
	i := issued()
	i.Coats[0].Batches[0].Card.Cups = []kit.Cup{{Name: "Foam"}, {Name: "Ash", Where: "veins"}, {Name: "Pitch"}}
	j := tablet("aaaa")
	j.log(minutes(-5), Meets, batch(1), Body{})
	j.log(minutes(0), Poured, batch(1), Body{})
	for _, c := range []struct {
		poured int
		want   string
	}{{0, "cup 1 of 3, Foam: over all pieces in turn"}, {1, "cup 2 of 3, Ash: veins"}, {3, "cup 2 of 3"},
		{2, "Section 1: spread it"}} {
		if c.poured > 0 {
			j.log(minutes(float64(c.poured)), Cup, batch(1), Body{Cup: &c.poured})
		}
		if now := tell(i, j.all, minutes(4)).Coats[0].Now; len(now) != 1 || !strings.Contains(now[0].Text, c.want) {
			t.Errorf("after cup %d: %+v, want %q", c.poured, now, c.want)
		}
	}
	if cups := tell(i, j.all, minutes(4)).Coats[0].Batches[0].Cups; len(cups) != 3 || cups[2] == "" {
		t.Errorf("%v", cups)
	}
}

// Two pails for 10 m² each at 300 µm were spread over 16 m²: the film that was laid is 375 µm, as the day tells it.
func TestTheFilmIsThatOfTheAreaTold(t *testing.T) {
	i := issued()
	j := tablet("aaaa")
	area := measure.Area(16)
	for n := range 2 {
		j.log(minutes(float64(10*n)), Poured, batch(n+1), Body{})
	}
	j.log(minutes(19), Emptied, batch(2), Body{Area: &area})
	if film := tell(i, j.all, minutes(20)).Coats[0].Used.Film; film < 374.9e-6 || film > 375.1e-6 {
		t.Errorf("%v", film)
	}
}

// A whole pail over 10 m² and a half over 10 more make three quarters of the film: 225 µm of 300.
func TestAHalfMakesAThinnerFilm(t *testing.T) {
	i, bare := issued(), measure.Area(10)
	half := &i.Coats[0].Batches[1]
	half.Bare, half.Card.Mass, half.Card.Volume, half.Card.Area = &bare, 3, 0.00275, 5
	j := tablet("aaaa")
	for n := 1; n <= 2; n++ {
		j.log(minutes(float64(n)), Meets, batch(n), Body{})
		j.log(minutes(float64(n)+4), Poured, batch(n), Body{})
	}
	if used := tell(i, j.all, minutes(10)).Coats[0].Used; math.Abs(float64(used.Film)-225e-6) > 1e-9 || used.Mass != 9 {
		t.Errorf("used %+v", used)
	}
}
