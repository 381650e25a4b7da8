package exchange

import (
	"bytes"
	"encoding/binary"
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
	"unicode/utf16"

	"github.com/emersion/go-ical"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/xuri/excelize/v2"

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
	batch.Card = kit.Card{Batch: 1, Of: 1, Section: 1, Mass: 4, Area: 10, RatioParts: []float64{}, Ratio: material.ByMass,
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
	i, _, day := finished()
	var text, book bytes.Buffer
	if err := WriteRecordTable(&text, i, day, time.UTC); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(&text).ReadAll()
	if err != nil || len(rows) != 2 {
		t.Fatalf("%v %v", rows, err)
	}
	want := map[string]string{"Surface": "Hall", "Batch": "1", "Mixing started": "2031-03-04 07:57",
		"Poured": "2031-03-04 08:00", "Mass kg": "4.2", "Ratio off %": "-9.1", "Wet film µm": "290", "Lots": "'=LOT-7 B-9"}
	for c, name := range rows[0] {
		if w, known := want[name]; known && rows[1][c] != w {
			t.Errorf("%s is %q, want %q", name, rows[1][c], w)
		}
	}
	if err := WriteRecordBook(&book, i, day, time.UTC); err != nil {
		t.Fatal(err)
	}
	read, err := excelize.OpenReader(&book)
	if err != nil {
		t.Fatal(err)
	}
	defer read.Close()
	if got := read.GetSheetList(); len(got) != 6 {
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

// The hand-over tells what was laid where, from when it may be used, how it is cared for and
// who took it over: the texts stand in the file as UTF-16, as PDF has them.
func TestTheHandoverTellsTheFloor(t *testing.T) {
	i, _, day := finished()
	var file bytes.Buffer
	if err := WriteHandover(&file, Handover{Company: "Works", Client: "Ørsund Quay", Issue: i, Day: day,
		Kept: "1 kg, boiler room", Units: measure.Metric, Zone: time.UTC}); err != nil {
		t.Fatal(err)
	}
	for _, text := range []string{"Smoke house", "Ørsund Quay", "=LOT-7", "290 µm", "Wed 5 Mar 2031 08:12", "No bleach",
		"boiler room", "A. Wharfinger"} {
		if !printed(file.String(), text) {
			t.Errorf("“%s” is not in it", text)
		}
	}
	if printed(file.String(), "not finished") {
		t.Error("a finished floor is told as not finished")
	}
	if !bytes.HasPrefix(file.Bytes(), []byte("%PDF-1.")) || bytes.Count(file.Bytes(), []byte(" l S")) < 2 {
		t.Error("no PDF, or the signature is not drawn")
	}
}

// printed reports whether a PDF without compression holds a text.
func printed(pdf, text string) bool {
	var coded []byte
	for _, u := range utf16.Encode([]rune(text)) {
		coded = binary.BigEndian.AppendUint16(coded, u)
	}
	return strings.Contains(strings.NewReplacer(`\\`, `\`, `\(`, `(`, `\)`, `)`, `\r`, "\r").Replace(pdf), string(coded))
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
		var file bytes.Buffer
		if err := WriteHandover(&file, Handover{Issue: i, Day: day, Units: measure.Metric, Zone: time.UTC}); err != nil {
			t.Fatal(err)
		}
		return file.String()
	}
	if pdf := write(i); !printed(pdf, "not finished") || printed(pdf, promised.Format("Mon 2 Jan 2006 15:04")) {
		t.Error("dates of use are told, or nothing says that the floor is not finished")
	}
	i.Coats = slices.Clone(i.Coats)
	for c := range i.Coats {
		i.Coats[c].Last = false
	}
	if !printed(write(i), "not finished") {
		t.Error("a plan of its lower coats alone is not told as not finished")
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
