package exchange_test

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"strings"
	"testing"
	"time"

	"nephelon/exchange"
)

func calendarOf(events ...string) []byte {
	text := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//test//\r\n"
	for n, e := range events {
		text += fmt.Sprintf("BEGIN:VEVENT\r\nUID:%d\r\nDTSTAMP:20261101T000000Z\r\n%sEND:VEVENT\r\n", n,
			strings.ReplaceAll(e, "\n", "\r\n"))
	}
	return []byte(text + "END:VCALENDAR\r\n")
}

// Times of a calendar, by hand, by the clock of a place an hour before Greenwich: a time
// with a zone, one in UTC, one of the clock alone, a whole day, one each week; what is
// cancelled, free, over or beyond is left out.
func TestBusyTimesOfACalendar(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Oslo")
	if err != nil {
		t.Fatal(err)
	}
	from, until := time.Date(2026, 12, 1, 0, 0, 0, 0, time.UTC), time.Date(2027, 1, 1, 0, 0, 0, 0, time.UTC)
	read, err := exchange.ReadBusy(calendarOf(
		"SUMMARY:Toolbox talk\nDTSTART;TZID=Europe/Oslo:20261202T080000\nDTEND;TZID=Europe/Oslo:20261202T100000\n",
		"SUMMARY:Ferry\nDTSTART:20261203T080000Z\nDURATION:PT90M\n",
		"SUMMARY:By the clock\nDTSTART:20261204T080000\nDTEND:20261204T090000\n",
		"SUMMARY:Course\nDTSTART;VALUE=DATE:20261207\nDTEND;VALUE=DATE:20261209\n",
		"SUMMARY:Yard\nDTSTART:20261125T120000Z\nDTEND:20261125T130000Z\nRRULE:FREQ=WEEKLY;UNTIL=20261217T000000Z\n",
		"SUMMARY:Cancelled\nSTATUS:CANCELLED\nDTSTART:20261203T080000Z\nDTEND:20261203T090000Z\n",
		"SUMMARY:Reminder\nTRANSP:TRANSPARENT\nDTSTART:20261203T080000Z\nDTEND:20261203T090000Z\n",
		"SUMMARY:Over\nDTSTART:20261101T080000Z\nDTEND:20261101T090000Z\n",
		"SUMMARY:Beyond\nDTSTART:20270101T000000Z\nDTEND:20270101T090000Z\n",
	), zone, from, until)
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, b := range read {
		got = append(got, fmt.Sprintf("%s %s %s", b.From.Format("02T15:04"), b.Until.Format("02T15:04"), b.Why))
	}
	want := "02T07:00 02T09:00 Toolbox talk, 02T12:00 02T13:00 Yard, 03T08:00 03T09:30 Ferry, 04T07:00 04T08:00 By the " +
		"clock, 06T23:00 08T23:00 Course, 09T12:00 09T13:00 Yard, 16T12:00 16T13:00 Yard"
	if strings.Join(got, ", ") != want {
		t.Errorf("%s", strings.Join(got, ", "))
	}
}

// Rubbish, too much, and what never ends are refused in a sentence, at once.
func TestCalendarsThatCannotBeRead(t *testing.T) {
	from, until := time.Date(2026, 12, 1, 0, 0, 0, 0, time.UTC), time.Date(2027, 12, 1, 0, 0, 0, 0, time.UTC)
	for name, c := range map[string]struct {
		text []byte
		says string
	}{
		"nothing":   {nil, "not a calendar"},
		"rubbish":   {[]byte("\x00\x01 %PDF-1.7 nothing of it"), "not a calendar"},
		"cut short": {[]byte("BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\n"), "not a calendar"},
		"a million": {bytes.Repeat([]byte("BEGIN:VEVENT\r\nEND:VEVENT\r\n"), 1_000_000), "has 1000000 events"},
		"too many": {calendarOf("SUMMARY:Pump\nDTSTART:20261202T080000Z\nDTEND:20261202T080100Z\nRRULE:FREQ=HOURLY\n"),
			"more than 2000 times"},
		"each second": {calendarOf("SUMMARY:Tick\nDTSTART:19700101T000000Z\nDTEND:19700101T000001Z\nRRULE:FREQ=SECONDLY\n"),
			"comes again more than 20000 times"},
		"no start": {calendarOf("SUMMARY:Sometime\n"), "does not say when it begins"},
		"backward": {calendarOf("SUMMARY:Back\nDTSTART:20261202T080000Z\nDTEND:20261201T080000Z\n"),
			"ends before it begins"},
		"no rule": {calendarOf("SUMMARY:Odd\nDTSTART:20261202T080000Z\nDTEND:20261202T090000Z\nRRULE:FREQ=NEVER\n"),
			"cannot be read"},
	} {
		begun := time.Now()
		_, err := exchange.ReadBusy(c.text, time.UTC, from, until)
		if refused, ok := errors.AsType[*exchange.CalendarError](err); !ok || !strings.Contains(refused.Text, c.says) {
			t.Errorf("%s: %v", name, err)
		}
		if took := time.Since(begun); took > 20*time.Second {
			t.Errorf("%s takes %v", name, took)
		}
	}
}

// A workbook's parts, read without the library that wrote it: times are numbers of days
// since 1899-12-30, as the clock of the place shows them, and nothing is a formula.
func TestTheRosterAsAWorkbook(t *testing.T) {
	zone := time.FixedZone("site", 3600)
	var out bytes.Buffer
	line := exchange.RosterLine{Job: "=SUM(A1)", Surface: "Quay", Task: "Coat 1", Crew: "Skerry crew",
		From: time.Date(2026, 12, 1, 5, 0, 0, 0, time.UTC), Until: time.Date(2026, 12, 1, 11, 0, 0, 0, time.UTC)}
	if err := exchange.WriteRosterBook(&out, []exchange.RosterLine{line}, zone); err != nil {
		t.Fatal(err)
	}
	files, err := zip.NewReader(bytes.NewReader(out.Bytes()), int64(out.Len()))
	if err != nil {
		t.Fatal(err)
	}
	read := func(name string) string {
		f, err := files.Open(name)
		if err != nil {
			t.Fatal(err)
		}
		defer f.Close()
		text, err := io.ReadAll(f)
		if err != nil {
			t.Fatal(err)
		}
		return string(text)
	}
	sheet, words := read("xl/worksheets/sheet1.xml"), read("xl/sharedStrings.xml")
	for _, w := range []string{"=SUM(A1)", "Quay", "Coat 1", "Skerry crew", "From"} {
		if !strings.Contains(words, ">"+w+"<") {
			t.Errorf("%q is not among the words", w)
		}
	}
	// 2026-12-01 is day 46357; 06:00 a quarter and 12:00 a half of it.
	if strings.Contains(sheet, "<f>") || !strings.Contains(sheet, "<v>46357.25</v>") ||
		!strings.Contains(sheet, "<v>46357.5</v>") {
		t.Error(sheet)
	}
}
