package store_test

import (
	"math"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/record"
	"nephelon/core/work"
)

// A tin of 6 L that a job reserved holds 4 L once a batch of 2 L was mixed of it; who then says that there are 5 L is
// believed.
func TestStockFallsByWhatWasMixed(t *testing.T) {
	ctx := t.Context()
	company, person := company(t)
	tin := kit.Container{ID: "tin", Sheet: "tide", Part: "kit", Volume: 0.006}
	base, err := records.SaveContainer(ctx, company, 0, tin)
	if err != nil {
		t.Fatal(err)
	}
	f := file("Quay")
	f.Job.Stock = []kit.Container{tin}
	at, err := records.AddJob(ctx, company, person, f, nil)
	if err != nil {
		t.Fatal(err)
	}
	p := material.Product{ID: "tide", Components: []material.Component{{Name: "A", Parts: 2}, {Name: "B", Parts: 1}},
		Ratio: material.Ratio{Basis: material.ByVolume}}
	batch := record.Batch{ID: work.BatchID("c", 1), Number: 1, Card: kit.Card{Volume: 0.002}}
	if _, err := records.IssuePlan(ctx, company, person, at, uuid.New(), record.Issue{Name: "Quay",
		Coats: []record.Coat{{ID: "c", Product: p, Batches: []record.Batch{batch}}}}); err != nil {
		t.Fatal(err)
	}
	holds := func(litres float64) {
		t.Helper()
		all, err := records.Stock(ctx, company)
		if err != nil || len(all) != 1 || math.Abs(float64(all[0].Of.Volume)*1000-litres) > 1e-9 ||
			all[0].Of.Opened != (litres == 4) {
			t.Errorf("%+v, %v; want %v L", all, err, litres)
		}
	}
	holds(6)
	e := record.Sealed(record.Event{ID: uuid.NewString(), Issue: 1, Kind: record.Meets, Task: work.ID(batch.ID),
		At: time.Now(), Device: "a-tablet", Number: 1, Person: person.String()}, "")
	if _, err := records.Log(ctx, company, person, at, []record.Event{e}, time.Now()); err != nil {
		t.Fatal(err)
	}
	holds(4)
	tin.Volume = 0.005
	if _, err := records.SaveContainer(ctx, company, base, tin); err != nil {
		t.Fatal(err)
	}
	holds(5)
}
