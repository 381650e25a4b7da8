package exchange_test

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"
	"time"

	"nephelon/core/facts"

	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/exchange"
)

// Plan files that earlier builds wrote still open and are planned; a pot life of one figure is
// the point that it was.
func TestEarlierPlanFilesOpen(t *testing.T) {
	reader, err := exchange.NewReader()
	if err != nil {
		t.Fatal(err)
	}
	names, err := filepath.Glob("testdata/earlier/*.json")
	if err != nil || len(names) < 8 {
		t.Fatalf("%d files, %v", len(names), err)
	}
	points, theoretical := 0, 0
	for _, name := range names {
		text, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		var before struct {
			Products []struct {
				PotLife     json.RawMessage
				PotLifeAt   *struct{ Value float64 }
				PotLifeMass struct{ Value float64 }
			}
		}
		if err := json.Unmarshal(text, &before); err != nil {
			t.Fatal(err)
		}
		file, err := reader.Read(bytes.NewReader(text))
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if file.Version != job.Version {
			t.Errorf("%s is of version %d", name, file.Version)
		}
		for i, p := range before.Products {
			var one struct{ Value float64 }
			if json.Unmarshal(p.PotLife, &one) != nil {
				continue // points, or none
			}
			points++
			at := 20.0 // what was meant where nothing was said
			if p.PotLifeAt != nil {
				at = p.PotLifeAt.Value
			}
			if now := file.Products[i].PotLife; len(now) != 1 || float64(now[0].Lasts) != one.Value ||
				float64(now[0].At) != at || p.PotLifeMass.Value != 0 && float64(now[0].Mass) != p.PotLifeMass.Value {
				t.Errorf("%s: %+v was %s", name, now, p.PotLife)
			}
		}
		// What was a spread or an area per kit was theoretical, and stays so.
		for _, s := range file.Job.Surfaces {
			for _, c := range s.Coats {
				if c.Amount.Practical() {
					t.Errorf("%s: coat %s became practical", name, c.ID)
				}
				if c.Amount.Figure == material.Theoretical {
					theoretical++
				}
			}
		}
		if _, err := plan.NewPlanner().MakeFor(t.Context(), file, facts.At(time.Now()), measure.Metric); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
	if points < 5 {
		t.Errorf("only %d pot lives of one figure were tried", points)
	}
	if theoretical < 5 {
		t.Errorf("only %d spreads and areas per kit were tried", theoretical)
	}
}
