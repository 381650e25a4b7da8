package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/emersion/go-ical"
	"github.com/xuri/excelize/v2"
)

// RosterLine is a booking on its way out.
type RosterLine struct {
	ID                       string // stays with it whenever it is moved
	Job, Surface, Task, Crew string
	Place                    string
	From, Until              time.Time
	Pinned                   bool
	Version                  int64 // grows when the booking changes
	Alarm                    bool  // readers call it out when it begins
	Note                     string
}

// leastEvent is the length that an event of none is shown with, since readers drop those that have
// none.
const leastEvent = 15 * time.Minute

// WriteCalendar writes bookings as iCalendar (RFC 5545), in UTC, so that every reader
// shows them by its own clock. Told is when they were booked.
func WriteCalendar(to io.Writer, name string, lines []RosterLine, told time.Time) error {
	calendar := ical.NewCalendar()
	calendar.Props.SetText(ical.PropVersion, "2.0")
	calendar.Props.SetText(ical.PropProductID, "-//Nephelon//Nephelon//EN")
	calendar.Props.SetText(ical.PropMethod, "PUBLISH")
	title := ical.NewProp("X-WR-CALNAME")
	title.SetText(lined(name))
	delete(title.Params, ical.ParamValue) // readers look for the name alone
	calendar.Props.Set(title)
	for _, e := range lines {
		event := ical.NewEvent()
		event.Props.SetText(ical.PropUID, e.ID+"@nephelon")
		event.Props.SetDateTime(ical.PropDateTimeStamp, told.UTC())
		sequence := ical.NewProp(ical.PropSequence)
		sequence.Value = strconv.FormatInt(e.Version, 10)
		event.Props.Set(sequence)
		event.Props.SetDateTime(ical.PropDateTimeStart, e.From.UTC())
		event.Props.SetDateTime(ical.PropDateTimeEnd, later(e.Until, e.From.Add(leastEvent)).UTC())
		summary := e.Task
		if e.Surface != "" {
			summary += ", " + e.Surface
		}
		event.Props.SetText(ical.PropSummary, lined(summary))
		if e.Place != "" {
			event.Props.SetText(ical.PropLocation, lined(e.Place))
		}
		note := e.Job + ". " + e.Crew
		if e.Note != "" {
			note = e.Job + ". " + e.Note
		}
		event.Props.SetText(ical.PropDescription, lined(note))
		if e.Alarm {
			event.Children = append(event.Children, alarm(summary))
		}
		calendar.Children = append(calendar.Children, event.Component)
	}
	var text bytes.Buffer
	if len(lines) == 0 { // the encoder wants an event; a calendar that is followed has none at times
		fmt.Fprintf(&text, "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:%s\r\nMETHOD:PUBLISH\r\nX-WR-CALNAME:%s\r\n"+
			"END:VCALENDAR\r\n", calendar.Props.Get(ical.PropProductID).Value, title.Value)
	} else if err := ical.NewEncoder(&text).Encode(calendar); err != nil {
		return fmt.Errorf("write the calendar: %w", err)
	}
	if _, err := to.Write(folded(text.Bytes())); err != nil {
		return fmt.Errorf("write the calendar: %w", err)
	}
	return nil
}

// alarm calls an event out when it begins.
func alarm(summary string) *ical.Component {
	c := ical.NewComponent(ical.CompAlarm)
	c.Props.SetText(ical.PropAction, "DISPLAY")
	trigger := ical.NewProp(ical.PropTrigger)
	trigger.Value = "PT0S"
	c.Props.Set(trigger)
	c.Props.SetText(ical.PropDescription, lined(summary))
	return c
}

// folded breaks lines of more than 75 octets, between characters, as RFC 5545 (3.1) asks.
func folded(text []byte) []byte {
	const most = 75
	out := make([]byte, 0, len(text)+len(text)/most*3)
	length := 0
	for len(text) > 0 {
		_, size := utf8.DecodeRune(text)
		if text[0] == '\r' || text[0] == '\n' {
			length = 0
		} else if length += size; length > most {
			out = append(out, "\r\n "...)
			length = 1 + size
		}
		out, text = append(out, text[:size]...), text[size:]
	}
	return out
}

// later returns until, or least where an event has no length.
func later(until, least time.Time) time.Time {
	if until.Before(least) && !until.After(least.Add(-leastEvent)) {
		return least
	}
	return until
}

// lined ends lines as the format escapes them: a carriage return is no sign of a text there.
func lined(text string) string {
	return strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n")
}

// WriteRosterTable writes bookings as CSV, by the clock of a place.
func WriteRosterTable(to io.Writer, lines []RosterLine, zone *time.Location) error {
	table := csv.NewWriter(to)
	rows := [][]string{rosterHead()}
	for _, l := range lines {
		row := l.words()
		for i := range row {
			row[i] = Unformed(row[i])
		}
		rows = append(rows, append(row, l.From.In(zone).Format(tableTime), l.Until.In(zone).Format(tableTime)))
	}
	if err := table.WriteAll(rows); err != nil {
		return fmt.Errorf("write the roster: %w", err)
	}
	return nil
}

func rosterHead() []string {
	return []string{"Job", "Surface", "Task", "Crew", "Place", "Pinned", "From", "Until"}
}

// words returns what of a line is no time.
func (l RosterLine) words() []string {
	pinned := ""
	if l.Pinned {
		pinned = "yes"
	}
	return []string{l.Job, l.Surface, l.Task, l.Crew, l.Place, pinned}
}

// WriteRosterBook writes bookings as a workbook (Office Open XML), its times as times by the
// clock of a place.
func WriteRosterBook(to io.Writer, lines []RosterLine, zone *time.Location) error {
	book := excelize.NewFile()
	defer book.Close()
	const sheet = "Roster"
	if err := errors.Join(book.SetSheetName("Sheet1", sheet), fill(book, sheet, lines, zone), book.Write(to)); err != nil {
		return fmt.Errorf("write the roster: %w", err)
	}
	return nil
}

func fill(book *excelize.File, sheet string, lines []RosterLine, zone *time.Location) error {
	format := "yyyy-mm-dd hh:mm"
	told, err := book.NewStyle(&excelize.Style{CustomNumFmt: &format})
	if err != nil {
		return fmt.Errorf("style: %w", err)
	}
	bold, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return fmt.Errorf("style: %w", err)
	}
	head := rosterHead()
	if err := book.SetSheetRow(sheet, "A1", &head); err != nil {
		return fmt.Errorf("head: %w", err)
	}
	// A workbook knows no zones: times are written as the clock shows them.
	clock := func(t time.Time) time.Time {
		t = t.In(zone)
		return time.Date(t.Year(), t.Month(), t.Day(), t.Hour(), t.Minute(), 0, 0, time.UTC)
	}
	for n, l := range lines {
		row := make([]any, 0, len(head))
		for _, w := range l.words() {
			row = append(row, w)
		}
		row = append(row, clock(l.From), clock(l.Until))
		if err := book.SetSheetRow(sheet, fmt.Sprintf("A%d", n+2), &row); err != nil {
			return fmt.Errorf("row %d: %w", n+2, err)
		}
	}
	return errors.Join(
		book.SetCellStyle(sheet, "G2", fmt.Sprintf("H%d", len(lines)+2), told), book.SetCellStyle(sheet, "A1", "H1", bold),
		book.SetColWidth(sheet, "A", "C", 30), book.SetColWidth(sheet, "D", "H", 17),
		book.SetPanes(sheet, &excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}),
	)
}

// tableTime is the layout of times in a table.
const tableTime = "2006-01-02 15:04"

// Unformed keeps a cell from being taken for a formula.
func Unformed(cell string) string {
	if strings.HasPrefix(strings.TrimLeft(cell, " \t"), "=") || len(cell) > 0 &&
		strings.ContainsRune("+-@\t\r", rune(cell[0])) {
		return "'" + cell
	}
	return cell
}
