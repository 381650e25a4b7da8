package record

import "testing"

// Three batches of 5.5 L: the first is logged from A meeting B on, of the second only that it was poured; a batch that
// was lost and mixed again was drawn twice, one that was struck not at all.
func TestWhatWasDrawn(t *testing.T) {
	i := issued()
	i.Coats[0].Hardener = "slow"
	j := tablet("aaaa")
	j.log(minutes(0), Meets, batch(1), Body{})
	j.log(minutes(4), Mixed, batch(1), Body{})
	j.log(minutes(5), Poured, batch(1), Body{})
	j.log(minutes(20), Poured, batch(2), Body{})
	wrong := j.log(minutes(21), Meets, batch(3), Body{})
	j.log(minutes(22), Struck, "", Body{Struck: wrong.ID})
	drawn := DrawnBy(i, j.all)
	if len(drawn) != 2 || !drawn[0].At.Equal(minutes(0)) || !drawn[1].At.Equal(minutes(20)) {
		t.Fatalf("%+v", drawn)
	}
	for _, d := range drawn {
		if d.Volume != 0.0055 || d.Product != "x" || d.Hardener != "slow" {
			t.Errorf("%+v", d)
		}
	}
	j.log(minutes(25), Lost, batch(2), Body{})
	j.log(minutes(30), Meets, batch(2), Body{})
	if drawn := DrawnBy(i, j.all); len(drawn) != 3 || !drawn[2].At.Equal(minutes(30)) {
		t.Errorf("%+v", drawn)
	}
}
