package jobs

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"reflect"
	"testing"
	"time"

	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
)

// A plan written in pieces is the plan as encoding/json writes it, and so it is
// when pieces of an earlier plan are taken over.
func TestAPlanInPiecesIsThePlan(t *testing.T) {
	names, err := filepath.Glob("../../demo/jobs/*.json")
	if err != nil || len(names) < 5 {
		t.Fatal(names, err)
	}
	var before *planText
	for _, name := range names {
		text, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		var f job.File
		if err := json.Unmarshal(text, &f); err != nil {
			t.Fatal(err)
		}
		for _, units := range []measure.System{measure.US, measure.Metric} {
			p := plan.Make(f, units, time.Now())
			made, err := encode(p, before)
			if err != nil {
				t.Fatal(err)
			}
			var whole bytes.Buffer
			made.writeTo(&whole)
			plain, err := json.Marshal(p)
			if err != nil {
				t.Fatal(err)
			}
			var a, b any
			if err := json.Unmarshal(whole.Bytes(), &a); err != nil {
				t.Fatalf("%s: %v", name, err)
			}
			if err := json.Unmarshal(plain, &b); err != nil {
				t.Fatal(err)
			}
			if !reflect.DeepEqual(a, b) {
				t.Errorf("%s in %s is written differently in pieces", name, units)
			}
			before = made
		}
	}
}
