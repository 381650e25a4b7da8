package exchange

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"slices"
	"time"

	"github.com/emersion/go-ical"

	"nephelon/core/job"
)

// Bounds of a calendar that is read.
const (
	mostEvents = 20_000 // in the file
	mostBusy   = 2_000  // times between the two ends
	mostTimes  = 20_000 // of events that come again, looked at
)

// CalendarError says why a calendar cannot be read, with what would help.
type CalendarError struct{ Text string }

func (e *CalendarError) Error() string { return e.Text }

// ReadBusy reads the times at which somebody is taken from iCalendar (RFC 5545), between two
// ends: events that come again each time, without those that are cancelled or leave the time
// free. What is told by no zone of its own is read by the clock of a place. It fails with a
// *CalendarError, and reads nothing, where the text is no calendar or has too much in it.
func ReadBusy(text []byte, zone *time.Location, from, until time.Time) ([]job.Busy, error) {
	if n := bytes.Count(bytes.ToUpper(text), []byte("BEGIN:VEVENT")); n > mostEvents {
		return nil, &CalendarError{fmt.Sprintf("The calendar has %d events, more than %d. Export a shorter time.", n,
			mostEvents)}
	}
	all := []job.Busy{}
	decoder, any := ical.NewDecoder(bytes.NewReader(text)), false
	for {
		calendar, err := decoder.Decode()
		if errors.Is(err, io.EOF) && any {
			break
		}
		if err != nil {
			return nil,
				&CalendarError{"This is not a calendar in the iCalendar format (.ics). Export it again from the program that " +
					"has it."}
		}
		any = true
		for _, event := range calendar.Events() {
			times, err := busy(event, zone, from, until)
			if err != nil {
				return nil, err
			}
			if all = append(all, times...); len(all) > mostBusy {
				return nil,
					&CalendarError{fmt.Sprintf("It holds more than %d times until %s. Export only what keeps this crew away.",
						mostBusy, until.In(zone).Format("2 January"))}
			}
		}
	}
	slices.SortFunc(all, func(a, b job.Busy) int { return a.From.Compare(b.From) })
	return all, nil
}

// busy are the times of one event.
func busy(event ical.Event, zone *time.Location, from, until time.Time) ([]job.Busy, error) {
	name, _ := event.Props.Text(ical.PropSummary)
	if status, _ := event.Props.Text(ical.PropStatus); status == "CANCELLED" {
		return nil, nil
	}
	if shown, _ := event.Props.Text(ical.PropTransparency); shown == "TRANSPARENT" {
		return nil, nil
	}
	start, err := event.DateTimeStart(zone)
	if err != nil || start.IsZero() {
		return nil,
			&CalendarError{fmt.Sprintf("The event “%.60s” does not say when it begins. Correct or remove it, and export again.",
				name)}
	}
	end, err := event.DateTimeEnd(zone)
	if err != nil || end.Before(start) {
		return nil,
			&CalendarError{fmt.Sprintf("The event “%.60s” ends before it begins, or does not say when. Correct or remove "+
				"it, and "+
				"export again.", name)}
	}
	length := end.Sub(start)
	if length == 0 {
		return nil, nil
	}
	begins := []time.Time{start}
	again, err := event.RecurrenceSet(zone)
	if err != nil {
		return nil,
			&CalendarError{fmt.Sprintf("How often the event “%.60s” comes again cannot be read. Correct or remove it, and "+
				"export again.", name)}
	}
	if again != nil {
		begins = begins[:0]
		next, looked := again.Iterator(), 0
		for at, more := next(); more && at.Before(until); at, more = next() {
			if looked++; looked > mostTimes {
				return nil, &CalendarError{fmt.Sprintf("The event “%.60s” comes again more than %d times. Export a shorter time.",
					name, mostTimes)}
			}
			if at.Add(length).After(from) {
				begins = append(begins, at)
			}
			if len(begins) > mostBusy {
				break
			}
		}
	}
	var all []job.Busy
	for _, at := range begins {
		if at.Before(until) && at.Add(length).After(from) {
			all = append(all, job.Busy{From: at.UTC(), Until: at.Add(length).UTC(), Why: cut(name)})
		}
	}
	return all, nil
}

// cut keeps a name to what a house has room for.
func cut(name string) string {
	const most = 120
	if r := []rune(name); len(r) > most {
		return string(r[:most])
	}
	return name
}
