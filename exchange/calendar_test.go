package exchange

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"strings"
	"testing"
	"time"
	"unicode/utf8"

	"github.com/emersion/go-ical"
)

// The calendar is read back by another library: the same events under the same ids, at the
// same instants on both sides of the night in which the clock is put back, and text with
// every sign that the format uses itself.
func TestCalendarIsReadByAnother(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Oslo")
	if err != nil {
		t.Fatal(err)
	}
	lines := []RosterLine{
		{ID: "job/coat/a/pour", Job: "Dye; house", Surface: "Vat, lower", Task: "Coat 1\nwet", Crew: "Skerry crew",
			Place: "Pier 3, north; gate \\ B", From: time.Date(2026, 10, 23, 7, 0, 0, 0, zone),
			Until: time.Date(2026, 10, 23, 10, 30, 0, 0, zone)},
		{ID: "job/coat/b/pour", Job: "Æøå, a name that is so long that it has to be folded before it comes to seventy-five " +
			"octets, twice at the least, and still reads the same", Surface: "Vat", Task: "Coat 2",
			From: time.Date(2026, 10, 26, 7, 0, 0, 0, zone), Until: time.Date(2026, 10, 26, 9, 0, 0, 0, zone)},
	}
	lines[0].Job, lines[0].Version, lines[1].Version = "Dye; house\rby the quay\r\nnorth", 2, 7
	lines = append(lines, RosterLine{ID: "job/surface/s/return/foot", Job: "Dye house", Task: "Light foot traffic",
		From: lines[1].Until, Until: lines[1].Until, Alarm: true})
	var text bytes.Buffer
	if err := WriteCalendar(&text, "Skerry crew", lines, time.Date(2026, 10, 1, 12, 0, 0, 0, time.UTC)); err != nil {
		t.Fatal(err)
	}
	if plain := strings.ReplaceAll(text.String(), "\r\n", ""); strings.ContainsAny(plain, "\r\n") {
		t.Error("a line ends with something other than CR LF")
	}
	if !strings.Contains(text.String(), "\r\nX-WR-CALNAME:Skerry crew\r\n") {
		t.Error("the calendar has no name")
	}
	for _, line := range strings.Split(text.String(), "\r\n") {
		if len(line) > 75 || !utf8.ValidString(line) {
			t.Errorf("a line of %d octets: %q", len(line), line)
		}
	}
	read, err := ical.NewDecoder(&text).Decode()
	if err != nil {
		t.Fatal(err)
	}
	got := read.Events()
	if len(got) != len(lines) {
		t.Fatalf("%d events", len(got))
	}
	for i, e := range got {
		if alarm := len(e.Children) == 1 && e.Children[0].Name == ical.CompAlarm; alarm != lines[i].Alarm {
			t.Errorf("event %d has %d alarms", i, len(e.Children))
		}
		id, _ := e.Props.Text(ical.PropUID)
		title, _ := e.Props.Text(ical.PropSummary)
		place, _ := e.Props.Text(ical.PropLocation)
		notes, _ := e.Props.Text(ical.PropDescription)
		from, errFrom := e.DateTimeStart(time.UTC)
		until, errUntil := e.DateTimeEnd(time.UTC)
		want := lines[i]
		want.Job = strings.ReplaceAll(strings.ReplaceAll(want.Job, "\r\n", "\n"), "\r", "\n")
		if want.Until.Equal(want.From) {
			want.Until = want.From.Add(15 * time.Minute)
		}
		if sequence := e.Props.Get(ical.PropSequence); sequence == nil || sequence.Value != fmt.Sprint(want.Version) {
			t.Errorf("%s: sequence %v, want %d", id, sequence, want.Version)
		}
		if errFrom != nil || errUntil != nil || id != want.ID+"@nephelon" || !strings.HasPrefix(title, want.Task) ||
			place != want.Place || notes != want.Job+". "+want.Crew || !from.Equal(want.From) || !until.Equal(want.Until) {
			t.Errorf("%q %q %q %q %v to %v", id, title, place, notes, from, until)
		}
	}
}

// A calendar with nothing in it is one all the same, for those who follow it.
func TestAnEmptyCalendar(t *testing.T) {
	var text bytes.Buffer
	if err := WriteCalendar(&text, "Skerry crew; north", nil, time.Time{}); err != nil {
		t.Fatal(err)
	}
	read, err := ical.NewDecoder(&text).Decode()
	if err != nil || len(read.Events()) != 0 {
		t.Fatalf("%v, %v", read, err)
	}
	if name, _ := read.Props.Text("X-WR-CALNAME"); name != "Skerry crew; north" {
		t.Errorf("%q", name)
	}
}

// No cell of a table is taken for a formula.
func TestRosterTableHasNoFormulas(t *testing.T) {
	var text bytes.Buffer
	if err := WriteRosterTable(&text, []RosterLine{{Job: "=1+1", Surface: "-2", Task: "Coat, 1", Crew: "@x"}},
		time.UTC); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(&text).ReadAll()
	if err != nil || len(rows) != 2 || rows[1][0] != "'=1+1" || rows[1][1] != "'-2" || rows[1][2] != "Coat, 1" ||
		rows[1][3] != "'@x" {
		t.Errorf("%v %v", rows, err)
	}
}
