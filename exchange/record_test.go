package exchange

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/xuri/excelize/v2"

	"nephelon/core/geometry"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour/sim"
	"nephelon/core/record"
	"nephelon/core/record/ledger"
	"nephelon/core/work"
	"nephelon/docs"
)

// finished is a floor of one batch with its record; invented.
func finished() (record.Issue, []record.Event, record.Day) {
	start := time.Date(2031, 3, 4, 8, 0, 0, 0, time.UTC)
	p := material.Product{ID: "x", Name: "Example", Kind: "body", Color: "#405060", Chemistry: "epoxy",
		VolumeSolids: measure.Sourced[measure.Fraction]{Value: 1, Source: measure.Sheet},
		Kits:         []material.Kit{{Name: "kit", Mass: new(measure.Mass(4)), Source: measure.Sheet}}}
	p.Ratio = material.Ratio{Basis: material.ByMass, Source: measure.Sheet}
	for _, name := range []string{"A", "B"} {
		p.Components = append(p.Components, material.Component{Name: name, Parts: 1,
			Density: &measure.Sourced[measure.Density]{Value: 1000, Source: measure.Sheet}})
	}
	p.Foot = []material.TimeAt{{At: 20, After: 24 * 3600, Source: measure.Sheet}}
	batch := record.Batch{ID: work.BatchID("c", 1), Section: work.SectionID("c", 1), Number: 1,
		Passage: sim.Passage{Batch: 1, Laid: 600, Done: 700}}
	batch.Card = kit.Card{Batch: 1, Of: 1, Section: 1, Mass: 4, Area: 10, RatioParts: []float64{},
		Ratio: material.ByMass,
		Parts: []kit.Dose{}, Steps: []kit.CardStep{}, Floor: []kit.CardStep{}, Cautions: []string{}}
	i := record.Issue{
		Number: 3, Job: "job", Name: "Smoke house", Site: "Pier 3", Zone: "UTC", At: start, By: "O", To: "crew",
		Surfaces: []record.Surface{{ID: "s", Name: "Hall", Area: 10}},
		Coats: []record.Coat{{
			ID: "c", Surface: "s", Number: 1, Last: true, Product: p, Name: "Example", Wet: 300e-6, Start: &start, Slab: 20,
			Crew: []work.Person{}, Ahead: []string{}, Batches: []record.Batch{batch},
			Stages: []record.Promise{{Stage: material.StageFoot, Name: "light foot traffic"}},
		}},
		Tasks: []work.Task{},
	}
	film, slab := measure.Film(290e-6), measure.Temperature(20)
	var events []record.Event
	before := ""
	log := func(minute float64, kind record.Kind, task string, body record.Body) {
		e := record.Sealed(record.Event{
			ID: fmt.Sprintf("00000000-0000-0000-0000-%012d", len(events)), Issue: 3, Task: work.ID(task), Kind: kind,
			At:     start.Add(time.Duration(minute * float64(time.Minute))),
			Device: "a-device", Number: int64(len(events)) + 1, Person: "p", Name: "Tess", Body: body,
		}, before)
		before = e.Hash
		events = append(events, e)
	}
	log(-9, record.Read, "coat/c", record.Body{Slab: &slab})
	log(-5, record.Lot, batch.ID, record.Body{Lots: []string{"=LOT-7", "B-9"}})
	log(-4, record.Weighed, batch.ID, record.Body{Masses: []measure.Mass{2, 2.2}})
	log(-3, record.Meets, batch.ID, record.Body{})
	log(0, record.Poured, batch.ID, record.Body{})
	log(10, record.Spread, batch.ID, record.Body{})
	log(11, record.Film, batch.ID, record.Body{Film: &film})
	log(12, record.Rolled, batch.ID, record.Body{})
	log(90, record.Signed, "coat/c", record.Body{Text: "A. Wharfinger", Ink: "M10 10L900 250L20 200"})
	return i, events, record.NewTeller().Tell(&i, events, start.Add(48*time.Hour), measure.Metric)
}

// writeRecord writes a record as it is exported, without a log.
func writeRecord(t *testing.T, to *bytes.Buffer, i record.Issue, events []record.Event, day record.Day) {
	t.Helper()
	docs := make([]json.RawMessage, len(events))
	for n, e := range events {
		docs[n] = encoded(t, e)
	}
	if err := WriteRecord(to, []json.RawMessage{encoded(t, i)}, docs, day, ledger.Part{Keys: []string{},
		Entries: []ledger.Entry{}, Proofs: [][]string{}}); err != nil {
		t.Fatal(err)
	}
}

func encoded(t *testing.T, what any) json.RawMessage {
	t.Helper()
	text, err := json.Marshal(what)
	if err != nil {
		t.Fatal(err)
	}
	return text
}

// The record file is what its published schema says.
func TestTheRecordFileFitsItsSchema(t *testing.T) {
	i, events, day := finished()
	var text bytes.Buffer
	writeRecord(t, &text, i, events, day)
	described, err := jsonschema.UnmarshalJSON(bytes.NewReader(docs.RecordSchema))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("record.json", described); err != nil {
		t.Fatal(err)
	}
	schema, err := c.Compile("record.json")
	if err != nil {
		t.Fatal(err)
	}
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(text.Bytes()))
	if err != nil {
		t.Fatal(err)
	}
	if err := schema.Validate(document); err != nil {
		t.Error(err)
	}
}

// Numbers are numbers, times are times, and no cell is a formula. The ratio by hand: 2 kg of A
// against 2.2 of B, wanted even, is 9.1 % short of A.
func TestTheTablesOfARecord(t *testing.T) {
	i, events, day := finished()
	var tables, book bytes.Buffer
	if err := WriteRecordTables(&tables, i, events, day, time.UTC); err != nil {
		t.Fatal(err)
	}
	z, err := zip.NewReader(bytes.NewReader(tables.Bytes()), int64(tables.Len()))
	if err != nil {
		t.Fatal(err)
	}
	table := func(name string) [][]string {
		file, err := z.Open(name)
		if err != nil {
			t.Fatal(err)
		}
		defer file.Close()
		rows, err := csv.NewReader(file).ReadAll()
		if err != nil {
			t.Fatal(err)
		}
		return rows
	}
	if all := table("entries.csv"); len(all) != len(events)+1 || all[1][4] != "Readings" || all[2][6] !=
		`{"lots":["=LOT-7","B-9"]}` {
		t.Errorf("%v", all)
	}
	if off := table("deviations.csv"); len(off) < 2 || off[1][0] != "Hall" {
		t.Errorf("%v", off)
	}
	rows := table("batches.csv")
	if len(rows) != 2 {
		t.Fatalf("%v", rows)
	}
	want := map[string]string{"Surface": "Hall", "Batch": "1", "Mixing started": "2031-03-04 07:57",
		"Poured": "2031-03-04 08:00", "Mass kg": "4.2", "Ratio off %": "-9.1", "Wet film µm": "290",
		"Lots": "'=LOT-7 B-9"}
	for c, name := range rows[0] {
		if w, known := want[name]; known && rows[1][c] != w {
			t.Errorf("%s is %q, want %q", name, rows[1][c], w)
		}
	}
	if err := WriteRecordBook(&book, i, events, day, time.UTC); err != nil {
		t.Fatal(err)
	}
	read, err := excelize.OpenReader(&book)
	if err != nil {
		t.Fatal(err)
	}
	defer read.Close()
	if got := read.GetSheetList(); len(got) != 9 {
		t.Errorf("sheets %v", got)
	}
	for cell, w := range map[string]excelize.CellType{"N2": excelize.CellTypeUnset, "H2": excelize.CellTypeUnset,
		"A2": excelize.CellTypeSharedString} {
		if got, err := read.GetCellType("Batches", cell); err != nil || got != w {
			t.Errorf("%s is of type %v, want %v: %v", cell, got, w, err)
		}
	}
	if f, _ := read.GetCellFormula("Batches", "Q2"); f != "" {
		t.Errorf("a lot is the formula %q", f)
	}
}

// printed returns the text of a hand-over, as a program that shares nothing with ours reads it.
func printed(t *testing.T, h Handover) string {
	t.Helper()
	var file bytes.Buffer
	if err := WriteHandover(&file, h); err != nil {
		t.Fatal(err)
	}
	read := exec.CommandContext(t.Context(), "pdftotext", "-layout", "-", "-")
	read.Stdin = &file
	text, err := read.Output()
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}

// The hand-over tells what was laid where, from when it may be used, how it is cared for and who took it
// over; in full with weights, lots, conditions, gates, decisions and people. A client's has no names
// of people where they are kept back. It is a tagged PDF/A-2a in its language with all fonts in it, and
// the same record gives the same bytes.
func TestTheHandoverTellsTheFloor(t *testing.T) {
	i, _, day := finished()
	i.Surfaces[0].Outline = []geometry.Ring{{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 4, Y: 2.5}, {X: 0, Y: 2.5}}}
	i.Tasks = []work.Task{{ID: "surface/s/prepare/grind", Surface: "s", Name: "Grind, 30 grit"}}
	day.Closings = []record.Closing{{Task: i.Tasks[0].ID, Saw: "deep scratches", Failed: true, By: "Tess"},
		{Task: i.Tasks[0].ID, Saw: "even, like 60 grit", By: "Tess"}}
	day.Hours = []record.Worked{{Person: "Tess", From: day.Signed.At, Span: 5400}}
	laid := &day.Coats[len(day.Coats)-1]
	laid.Batches[0].Spot = &[2]float64{3, 1}
	day.Faults = []record.Trouble{{Seen: "soft", Place: &[2]float64{1, 1}, Over: []record.Laid{{Coat: laid.ID, Batch: 1}}}}
	h := Handover{Company: "Works", Client: "Ørsund Quay", Issue: i, Day: day, Kept: "1 kg, boiler room",
		Units: measure.Metric,
		Zone:  time.UTC, Full: true, At: day.Signed.At, Known: map[string]string{"Tess": "lead 4f1a"},
		Log: ledger.Part{Head: "nephelon/log-1\n7\nroot\nat 2031\n\n— nephelon sig\n", Keys: []string{"nephelon+key"},
			Entries: []ledger.Entry{{Kind: ledger.Plan}}}}
	text := printed(t, h)
	for _, want := range []string{"Smoke house", "Ørsund Quay", "=LOT-7", "290 µm", "Wed 5 Mar 2031 08:12", "No bleach",
		"boiler room", "A. Wharfinger", "2 kg + 2.2 kg, 9.1% off", "ratio 9.1% off as weighed", "lead 4f1a", "1.5",
		"Rings: where pails ended. Diamonds: defects.", "nephelon/log-1", "Key nephelon+key", fingerprint(h.Log),
		"Slab from 20 °C", "Grind, 30 grit", "failed: deep scratches", "even, like 60 grit"} {
		if !strings.Contains(strings.ReplaceAll(text, "\n", " "), want) && !strings.Contains(text, want) {
			t.Errorf("“%s” is not in it:\n%s", want, text)
		}
	}
	for _, lacks := range []string{"not finished", "Tess"} {
		if strings.Contains(text, lacks) {
			t.Errorf("“%s” is in it", lacks)
		}
	}
	h.Full, h.Letter, h.Units = false, true, measure.US
	if text := printed(t, h); strings.Contains(text, "LOT-7") || !strings.Contains(text, "12.4 mil") {
		t.Errorf("the client's:\n%s", text)
	}
	var file, again bytes.Buffer
	if err := errors.Join(WriteHandover(&file, h), WriteHandover(&again, h)); err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(file.Bytes(), again.Bytes()) {
		t.Error("the same record gives other bytes")
	}
	info := exec.CommandContext(t.Context(), "pdfinfo", "-")
	info.Stdin = &file
	said, err := info.Output()
	if err != nil || !strings.Contains(string(said), "Tagged:          yes") || !strings.Contains(string(said),
		"letter") {
		t.Errorf("%s, %v", said, err)
	}
	fonts := exec.CommandContext(t.Context(), "pdffonts", "-")
	fonts.Stdin = &again
	if said, err := fonts.Output(); err != nil || strings.Contains(string(said), " no  ") ||
		!strings.Contains(string(said), " yes ") {
		t.Errorf("%s, %v", said, err)
	}
}

// A floor whose top coat was never laid is handed over without dates of use.
func TestTheHandoverOfAFloorWithoutItsTopCoat(t *testing.T) {
	i, _, day := finished()
	promised := day.Signed.At.AddDate(0, 0, 3)
	for c := range day.Coats {
		day.Coats[c].Done = nil
		for s := range day.Coats[c].Stages {
			day.Coats[c].Stages[s].Promised = &promised
		}
	}
	write := func(i record.Issue) string {
		return printed(t, Handover{Issue: i, Day: day, Units: measure.Metric, Zone: time.UTC})
	}
	if text := write(i); !strings.Contains(text, "not finished") ||
		strings.Contains(text, promised.Format("Mon 2 Jan 2006 15:04")) {
		t.Error("dates of use are told, or nothing says that the floor is not finished")
	}
	i.Coats = slices.Clone(i.Coats)
	for c := range i.Coats {
		i.Coats[c].Last = false
	}
	if !strings.Contains(write(i), "not finished") {
		t.Error("a plan of its lower coats alone is not told as not finished")
	}
}

// What keeps a surface is told by its kind: nothing of floors with tops and pools.
func TestCareByKind(t *testing.T) {
	i, _, day := finished()
	for kind, want := range map[material.SurfaceKind]string{"top": "Care of the tops", "pool": "Care of the pool",
		"floor": "Care of the floor"} {
		i.Surfaces[0].Kind = kind
		text := printed(t, Handover{Issue: i, Day: day, Units: measure.Metric, Zone: time.UTC})
		if !strings.Contains(text, want) || strings.Contains(text, "Care of the floor") != (kind == "floor") {
			t.Errorf("%s: %s", kind, text)
		}
	}
}

// Upkeep is reminded of from the day of the hand-over.
func TestUpkeepIsReminded(t *testing.T) {
	i, _, day := finished()
	var text bytes.Buffer
	if err := WriteUpkeep(&text, i, day.Signed.At); err != nil {
		t.Fatal(err)
	}
	read, err := ical.NewDecoder(&text).Decode()
	if err != nil {
		t.Fatal(err)
	}
	events := read.Events()
	if len(events) != len(Upkeep()) {
		t.Fatalf("%d reminders", len(events))
	}
	if at, err := events[1].DateTimeStart(time.UTC); err != nil || at.Format(time.DateOnly) != "2032-03-04" {
		t.Errorf("the second is on %v: %v", at, err)
	}
}

// A stranger verifies an exported record with the script of the docs, which shares nothing with
// this program: the pinned events of each kind and a finished day fit, and what was changed,
// left out or put in does not. Node writes numbers by ECMAScript, as RFC 8785 asks.
func TestAStrangerVerifiesARecord(t *testing.T) {
	verify := func(t *testing.T, events []record.Event) (string, bool) {
		t.Helper()
		i, _, day := finished()
		var text bytes.Buffer
		writeRecord(t, &text, i, events, day)
		file := filepath.Join(t.TempDir(), "record.json")
		if err := os.WriteFile(file, text.Bytes(), 0o600); err != nil {
			t.Fatal(err)
		}
		said, err := exec.CommandContext(t.Context(), "node", "../docs/verify-record.mjs", file).CombinedOutput()
		if _, failed := errors.AsType[*exec.ExitError](err); err != nil && !failed {
			t.Fatal(err)
		}
		return string(said), err == nil
	}
	text, err := os.ReadFile("../core/record/testdata/events-2.json")
	if err != nil {
		t.Fatal(err)
	}
	var pinned []record.Event
	if err := json.Unmarshal(text, &pinned); err != nil {
		t.Fatal(err)
	}
	_, day, _ := finished()
	for name, events := range map[string][]record.Event{"pinned": pinned, "a day": day} {
		if said, fits := verify(t, events); !fits {
			t.Errorf("%s: %s", name, said)
		}
	}
	for want, change := range map[string]func([]record.Event) []record.Event{
		"was changed":     func(e []record.Event) []record.Event { *e[6].Body.Film *= 1.1; return e },
		"is missing":      func(e []record.Event) []record.Event { return slices.Delete(e, 2, 4) },
		"does not follow": func(e []record.Event) []record.Event { e[4] = record.Sealed(e[4], ""); return e },
	} {
		_, events, _ := finished()
		if said, fits := verify(t, change(events)); fits || !strings.Contains(said, want) {
			t.Errorf("%q: %s", want, said)
		}
	}
}
