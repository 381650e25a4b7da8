package exchange

import (
	"encoding/csv"
	"fmt"
	"io"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
)

// RosterLine is a booking on its way out.
type RosterLine struct {
	ID                       string // stays with it whenever it is moved
	Job, Surface, Task, Crew string
	Place                    string
	From, Until              time.Time
	Pinned                   bool
}

// WriteCalendar writes bookings as iCalendar (RFC 5545), in UTC, so that every reader
// shows them by its own clock. Version grows when bookings change; told is when they were
// booked.
func WriteCalendar(to io.Writer, name string, lines []RosterLine, version int64, told time.Time) error {
	calendar := ics.NewCalendarFor("Nephelon")
	calendar.SetMethod(ics.MethodPublish)
	calendar.SetXWRCalName(name)
	for _, e := range lines {
		event := calendar.AddEvent(e.ID + "@nephelon")
		event.SetDtStampTime(told)
		event.SetSequence(int(version))
		event.SetStartAt(e.From)
		event.SetEndAt(e.Until)
		event.SetSummary(e.Task + ", " + e.Surface)
		if e.Place != "" {
			event.SetLocation(e.Place)
		}
		event.SetDescription(e.Job + ". " + e.Crew)
	}
	if err := calendar.SerializeTo(to); err != nil {
		return fmt.Errorf("write the calendar: %w", err)
	}
	return nil
}

// WriteRosterTable writes bookings as CSV, by the clock of a place.
func WriteRosterTable(to io.Writer, lines []RosterLine, zone *time.Location) error {
	table := csv.NewWriter(to)
	rows := [][]string{{"Job", "Surface", "Task", "Crew", "Place", "From", "Until", "Pinned"}}
	for _, l := range lines {
		pinned := ""
		if l.Pinned {
			pinned = "yes"
		}
		rows = append(rows, []string{unformed(l.Job), unformed(l.Surface), unformed(l.Task), unformed(l.Crew), unformed(l.Place), l.From.In(zone).Format(tableTime), l.Until.In(zone).Format(tableTime), pinned})
	}
	if err := table.WriteAll(rows); err != nil {
		return fmt.Errorf("write the roster: %w", err)
	}
	return nil
}

// tableTime is how a table has times.
const tableTime = "2006-01-02 15:04"

// unformed keeps a cell from being taken for a formula.
func unformed(cell string) string {
	if strings.HasPrefix(strings.TrimLeft(cell, " \t"), "=") || len(cell) > 0 && strings.ContainsRune("+-@\t\r", rune(cell[0])) {
		return "'" + cell
	}
	return cell
}
