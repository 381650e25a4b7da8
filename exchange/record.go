package exchange

import (
	"archive/zip"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strconv"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"

	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/ledger"
)

// RecordFormat and RecordVersion name the record file.
const (
	RecordFormat  = "nephelon-record"
	RecordVersion = 2
)

// RecordFile is the record of a job: the plans that were issued, everything that was logged,
// what that tells of the newest plan, and the part of the company's log that it can be checked
// with. Numbers are in SI units.
type RecordFile struct {
	Format  string         `json:"format" enum:"nephelon-record"`
	Version int            `json:"version" minimum:"1" maximum:"2" doc:"Files of version 1 have no log"`
	Issues  []record.Issue `json:"issues" doc:"Newest first"`
	Events  []record.Event `json:"events" doc:"Everything that was logged, with what was struck"`
	Day     record.Day     `json:"day" doc:"What it tells"`
	Log     ledger.Part    `json:"log,omitzero"`
}

// recordText is a record file with plans and events word for word as they are kept: their hashes
// are over those.
type recordText struct {
	Format  string            `json:"format"`
	Version int               `json:"version"`
	Issues  []json.RawMessage `json:"issues"`
	Events  []json.RawMessage `json:"events"`
	Day     record.Day        `json:"day"`
	Log     ledger.Part       `json:"log"`
}

// RecordSchema makes the JSON Schema (2020-12) of the record file.
func RecordSchema() ([]byte, error) {
	return schema(reflect.TypeFor[RecordFile](), "Nephelon record",
		"What happened on a job: issued plans, logged events, and what they tell. Numbers are in SI units.")
}

// WriteRecord writes the record of a job as JSON.
func WriteRecord(to io.Writer, issues, events []json.RawMessage, day record.Day, log ledger.Part) error {
	into := json.NewEncoder(to)
	into.SetIndent("", "  ")
	if err := into.Encode(recordText{RecordFormat, RecordVersion, issues, events, day, log}); err != nil {
		return fmt.Errorf("write the record: %w", err)
	}
	return nil
}

// sheetOf is a table of a record.
type sheetOf struct {
	name string
	head []string
	rows [][]any
}

// shown lists the steps of a batch that nobody logged and touches of other batches show.
func shown(b *record.BatchDay, zone *time.Location) string {
	var all []string
	for _, step := range []record.Kind{record.Poured, record.Spread, record.Rolled} {
		if at, is := b.Shown[step]; is {
			all = append(all, fmt.Sprintf("%s about %s", step, at.In(zone).Format("15:04")))
		}
	}
	return strings.Join(all, ", ")
}

// sheets are the tables of a record, times by the clock of its site, units in the heads.
func sheets(i record.Issue, events []record.Event, day record.Day, zone *time.Location) []sheetOf {
	clock := func(t *time.Time) any {
		if t == nil {
			return ""
		}
		// A workbook knows no zones: times are written as the clock shows them.
		l := t.In(zone)
		return time.Date(l.Year(), l.Month(), l.Day(), l.Hour(), l.Minute(), l.Second(), 0, time.UTC)
	}
	warm := func(v *measure.Temperature) any {
		if v == nil {
			return ""
		}
		return figure(float64(*v), 1)
	}
	batches := sheetOf{"Batches", []string{"Surface", "Coat", "Product", "Batch", "Pail", "Mixing started", "Mixed",
		"Poured", "Spread", "Joined", "Done", "Use by", "Planned pour", "Mass kg", "Ratio off %", "Wet film µm", "Lots",
		"Part A °C", "Part B °C", "Shown by other entries"}, nil}
	readings := sheetOf{"Readings", []string{"At", "Slab °C", "Air °C", "Humidity %", "Dew point °C",
		"Above it K", "By"}, nil}
	notes := sheetOf{"Notes", []string{"At", "By", "Note", "Decided by"}, nil}
	hours := sheetOf{"Hours", []string{"Person", "Task", "From", "Until", "Hours"}, nil}
	gates := sheetOf{"Gates", []string{"Surface", "Coat", "Gate", "State", "By", "At", "What"}, nil}
	service := sheetOf{"Service", []string{"Surface", "Coat", "Stage", "Promised", "Reached"}, nil}
	for _, c := range day.Coats {
		for k, b := range c.Batches {
			mass, ratio, films := measure.Mass(0), any(""), []string{}
			for _, m := range b.Masses {
				mass += m
			}
			if b.Ratio != nil {
				ratio = figure(float64(b.Ratio.Off)*100, 1)
			}
			for _, f := range b.Films {
				films = append(films, measure.Rounded(float64(f.Film)*1e6, 0))
			}
			var planned *time.Time
			if b.Planned != nil {
				planned = &b.Planned.Pour
			}
			if mass == 0 && b.Began != nil {
				mass = i.Coat(c.ID).Batches[k].Card.Mass
			}
			batches.rows = append(batches.rows, []any{
				c.Surface, c.Number, c.Name, b.Number, b.Attempt, clock(b.Meets), clock(b.Mixed), clock(b.Poured),
				clock(b.Spread),
				clock(b.Joined), clock(b.Rolled), clock(b.UseBy), clock(planned),
				figure(float64(mass), 3), ratio, strings.Join(films, " "), strings.Join(b.Lots, " "), warm(b.A), warm(b.B),
				shown(&b, zone),
			})
		}
		for _, g := range c.Gates {
			state := map[bool]string{true: "closed", false: "open"}[g.Closed]
			if g.Over {
				state = "overridden"
			}
			gates.rows = append(gates.rows, []any{c.Surface, c.Number, g.Title, state, g.By, clock(g.At), g.What})
		}
		for _, s := range c.Stages {
			service.rows = append(service.rows, []any{c.Surface, c.Number, s.Name, clock(s.Promised), clock(s.Comes)})
		}
	}
	for _, r := range day.Readings {
		humidity := any("")
		if r.Humidity != nil {
			humidity = figure(float64(*r.Humidity)*100, 0)
		}
		readings.rows = append(readings.rows, []any{clock(&r.At), warm(r.Slab), warm(r.Air), humidity, warm(r.Dew),
			warm(r.Margin), r.By})
	}
	for _, n := range day.Notes {
		notes.rows = append(notes.rows, []any{clock(&n.At), n.By, n.Text, n.Who})
	}
	for _, h := range day.Hours {
		hours.rows = append(hours.rows, []any{h.Person, h.Task, clock(&h.From), clock(h.To),
			figure(h.Span/measure.Hour, 2)})
	}
	return []sheetOf{batches, readings, preparation(&i, day, clock), gates, notes, hours, service,
		deviations(&i, day), entries(events, day, clock)}
}

// preparation returns the tasks of preparation and the tests that were closed.
func preparation(i *record.Issue, day record.Day, clock func(*time.Time) any) sheetOf {
	all := sheetOf{"Preparation", []string{"Surface", "Task", "Closed", "By", "Seen"}, nil}
	for n := range day.Closings {
		c := &day.Closings[n]
		surface, name := closed(i, c)
		all.rows = append(all.rows, []any{surface, name, clock(&c.At), c.By, sawOf(c)})
	}
	return all
}

// closed returns the surface and the name of a task of preparation or a test that was closed.
func closed(i *record.Issue, c *record.Closing) (surface, name string) {
	for _, t := range i.Tasks {
		if t.ID == c.Task {
			return surfaceName(i, t.Surface), t.Name
		}
	}
	return "", string(c.Task)
}

// sawOf returns what was seen when a task was closed, and that it failed where it did.
func sawOf(c *record.Closing) string {
	if c.Failed {
		return "failed: " + c.Saw
	}
	return c.Saw
}

// deviations returns what was so that the plan did not want.
func deviations(i *record.Issue, day record.Day) sheetOf {
	all := sheetOf{"Deviations", []string{"Surface", "Coat", "Batch", "What"}, nil}
	for _, f := range day.Facts {
		if c := i.Coat(f.Coat); f.Deviates() && c != nil {
			all.rows = append(all.rows, []any{surfaceName(i, c.Surface), c.Number, f.Batch, f.Text})
		}
	}
	return all
}

func surfaceName(i *record.Issue, id string) string {
	for _, s := range i.Surfaces {
		if s.ID == id {
			return s.Name
		}
	}
	return id
}

// entries returns everything that was logged, with what was voided.
func entries(events []record.Event, day record.Day, clock func(*time.Time) any) sheetOf {
	late := make(map[string]string)
	for _, l := range day.Late {
		late[l.Event] = l.Text
	}
	all := sheetOf{"Entries", []string{"Happened", "Logged", "Received", "By", "Entry", "Task", "Details", "Late",
		"Device",
		"Number", "Id", "Hash"}, nil}
	for n := range events {
		e := &events[n]
		at, logged := e.When(), e.Logged()
		details, err := json.Marshal(e.Body)
		if err != nil {
			details = nil
		}
		all.rows = append(all.rows, []any{clock(&at), clock(&logged), clock(e.Received), e.Name, record.Words()[e.Kind],
			string(e.Task), string(details), late[e.ID], e.Device, e.Number, e.ID, e.Hash})
	}
	return all
}

// figure is a number rounded as it is shown.
func figure(v float64, decimals int) any {
	text := measure.Rounded(v, decimals)
	if n, err := strconv.ParseFloat(text, 64); err == nil {
		return n
	}
	return text
}

// WriteRecordBook writes what happened as a workbook (Office Open XML), a sheet for each kind.
func WriteRecordBook(to io.Writer, i record.Issue, events []record.Event, day record.Day,
	zone *time.Location) error {
	book := excelize.NewFile()
	defer book.Close()
	format := "yyyy-mm-dd hh:mm:ss"
	told, err := book.NewStyle(&excelize.Style{CustomNumFmt: &format})
	if err != nil {
		return fmt.Errorf("style the record: %w", err)
	}
	for n, s := range sheets(i, events, day, zone) {
		if n == 0 {
			err = book.SetSheetName("Sheet1", s.name)
		} else {
			_, err = book.NewSheet(s.name)
		}
		if err := errors.Join(err, book.SetSheetRow(s.name, "A1", &s.head),
			book.SetColWidth(s.name, "A", "S", 18)); err != nil {
			return fmt.Errorf("write the record: %w", err)
		}
		for r, row := range s.rows {
			for c, cell := range row {
				at, err := excelize.CoordinatesToCellName(c+1, r+2)
				if err == nil {
					err = book.SetCellValue(s.name, at, cell)
				}
				if _, isTime := cell.(time.Time); isTime {
					err = errors.Join(err, book.SetCellStyle(s.name, at, at, told))
				}
				if err != nil {
					return fmt.Errorf("write the record: %w", err)
				}
			}
		}
	}
	if err := book.Write(to); err != nil {
		return fmt.Errorf("write the record: %w", err)
	}
	return nil
}

// WriteRecordTables writes everything of a record as a zip of CSV files, one for each kind.
func WriteRecordTables(to io.Writer, i record.Issue, events []record.Event, day record.Day,
	zone *time.Location) error {
	z := zip.NewWriter(to)
	for _, s := range sheets(i, events, day, zone) {
		file, err := z.CreateHeader(&zip.FileHeader{Name: strings.ToLower(s.name) + ".csv", Method: zip.Deflate})
		if err != nil {
			return fmt.Errorf("write the record: %w", err)
		}
		if err := writeTable(file, s); err != nil {
			return err
		}
	}
	if err := z.Close(); err != nil {
		return fmt.Errorf("write the record: %w", err)
	}
	return nil
}

// writeTable writes a table as CSV.
func writeTable(to io.Writer, s sheetOf) error {
	table := csv.NewWriter(to)
	rows := [][]string{s.head}
	for _, row := range s.rows {
		words := make([]string, len(row))
		for c, cell := range row {
			switch cell := cell.(type) {
			case time.Time:
				words[c] = cell.Format(tableTime)
			case string:
				words[c] = Unformed(cell)
			default:
				words[c] = fmt.Sprint(cell)
			}
		}
		rows = append(rows, words)
	}
	if err := table.WriteAll(rows); err != nil {
		return fmt.Errorf("write the record: %w", err)
	}
	return nil
}
