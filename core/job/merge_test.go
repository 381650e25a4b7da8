package job

import (
	"reflect"
	"slices"
	"testing"

	"nephelon/core/buildup"
)

func TestMergeKeepsBothPeoplesWork(t *testing.T) {
	base, mine, theirs := demo(t, "baggage-hall"), demo(t, "baggage-hall"), demo(t, "baggage-hall")
	mine.Job.Surfaces[0].Coats[1].Amount.Value = 0.0011
	mine.Job.Surfaces[0].Coats = append(mine.Job.Surfaces[0].Coats,
		buildup.Coat{ID: "new", Product: "gullwing-ur", Amount: buildup.Amount{Basis: buildup.DryFilm, Value: 5e-5}})
	theirs.Job.Client = "Skerrow Harbour Board"
	theirs.Job.Surfaces = slices.Delete(theirs.Job.Surfaces, 1, 2)
	theirs.Job.Bucket.Volume = 0.03
	combined, differences, err := Merge(base, mine, theirs)
	if err != nil {
		t.Fatal(err)
	}
	hall := combined.Job.Surfaces[0]
	if len(combined.Job.Surfaces) != 1 || len(hall.Coats) != 4 || hall.Coats[1].Amount.Value != 0.0011 ||
		combined.Job.Client != "Skerrow Harbour Board" || combined.Job.Bucket.Volume != 0.03 {
		t.Errorf("combined into %+v", combined.Job)
	}
	for _, d := range differences {
		if d.By == Both {
			t.Errorf("%s (%s) was changed by one only", d.Place, d.Path)
		}
	}
}

func TestMergeTellsWhereBothChanged(t *testing.T) {
	base, mine, theirs := demo(t, "lamp-room"), demo(t, "lamp-room"), demo(t, "lamp-room")
	mine.Job.Surfaces[0].Coats[1].Amount.Value = 1.5e-4
	theirs.Job.Surfaces[0].Coats[1].Amount.Value = 1.6e-4
	combined, differences, err := Merge(base, mine, theirs)
	if err != nil {
		t.Fatal(err)
	}
	want := []Difference{{"/job/surfaces/0/coats/1/amount/value", "Lamp room › coat › 2 › amount › value", Both}}
	if !slices.Equal(differences, want) {
		t.Errorf("got %v, want %v", differences, want)
	}
	if combined.Job.Surfaces[0].Coats[1].Amount.Value != 1.5e-4 {
		t.Error("mine should stand where both changed")
	}
}

func TestMergeOfNothingIsNothing(t *testing.T) {
	f := demo(t, "settling-basin")
	combined, differences, err := Merge(f, f, f)
	if err != nil || len(differences) != 0 || !reflect.DeepEqual(combined, f) {
		t.Errorf("%v, %v", differences, err)
	}
}
