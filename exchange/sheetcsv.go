package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"nephelon/core/material"
)

// WriteCSV writes data sheets as CSV (RFC 4180, UTF-8), one to a row.
func WriteCSV(to io.Writer, products []material.Product) error {
	w := csv.NewWriter(to)
	all := columns()
	row := make([]string, len(all))
	for i, c := range all {
		row[i] = c.head
	}
	if err := w.Write(row); err != nil {
		return fmt.Errorf("write the head: %w", err)
	}
	for _, p := range products {
		for i, c := range all {
			row[i] = c.write(p)
		}
		if err := w.Write(row); err != nil {
			return fmt.Errorf("write %s: %w", p.Name, err)
		}
	}
	w.Flush()
	if err := w.Error(); err != nil {
		return fmt.Errorf("write the sheets: %w", err)
	}
	return nil
}

// mostCells is the most cells in a file of data sheets.
const mostCells = 500_000

// ReadCSV reads data sheets from CSV with commas. Rows that are wrong are
// refused one by one with their line; the good ones are given all the same. What
// stands on the shelf under the same id keeps what the file has no column for.
func (r *Reader) ReadCSV(text []byte, shelf map[string]material.Product) ShelfReading {
	var reading ShelfReading
	whole := func(text, way string) ShelfReading {
		return ShelfReading{Refused: []Refused{{Line: 1, Text: text, Way: way}}}
	}
	text = bytes.TrimPrefix(text, []byte("\xef\xbb\xbf"))
	first, _, _ := bytes.Cut(text, []byte("\n"))
	if !bytes.ContainsRune(first, ',') {
		for separator, name := range map[string]string{";": "semicolons", "\t": "tabs"} {
			if bytes.Contains(first, []byte(separator)) {
				return whole("The columns are separated by "+name+".", "Save the file as CSV with commas, and with decimal points.")
			}
		}
	}
	if bytes.Count(text, []byte(",")) > mostCells {
		return whole(fmt.Sprintf("The file has more than %d cells; no shelf has so many.", mostCells),
			"Remove what is no data sheet, or cut the file into several.")
	}
	reader := csv.NewReader(bytes.NewReader(text))
	reader.FieldsPerRecord = -1
	head, err := reader.Read()
	if err != nil {
		return whole("There is no first line with the names of the columns.", "Export the shelf as CSV to see them.")
	}
	all := columns()
	chosen := make([]*column, len(head))
	for i, name := range head {
		name = strings.TrimSpace(name)
		at := slices.IndexFunc(all, func(c column) bool { return strings.EqualFold(c.head, name) })
		if at < 0 && len(head) == 1 {
			return whole(fmt.Sprintf("The first line, “%s”, names no columns.", name),
				"Read a maker’s data sheet with Shelf, Read a data sheet. Export the shelf as CSV to see the columns of a table.")
		}
		if at < 0 {
			return whole(fmt.Sprintf("There is no column “%s”.", name),
				"Export the shelf as CSV to see the columns and their units.")
		}
		if slices.Contains(chosen[:i], &all[at]) {
			return whole(fmt.Sprintf("Two columns are called “%s”.", name), "Remove one of the two.")
		}
		chosen[i] = &all[at]
	}
	if !slices.Contains(chosen, &all[0]) {
		return whole("The column “id” is missing.",
			"Give each sheet an id of small letters, figures and dashes, such as harbour-primer.")
	}
	for {
		if len(reading.Refused) > mostRefused {
			return reading.cut()
		}
		row, err := reader.Read()
		if errors.Is(err, io.EOF) {
			return reading
		}
		var broken *csv.ParseError
		if errors.As(err, &broken) {
			reading.Refused = append(reading.Refused,
				Refused{Line: broken.StartLine, Text: "This row cannot be read: " + broken.Err.Error() + ".",
					Way: "Look for a quotation mark that is not closed."})
			return reading
		}
		line, _ := reader.FieldPos(0)
		r.row(&reading, line, row, chosen, shelf)
	}
}

// row reads one sheet.
func (r *Reader) row(reading *ShelfReading, line int, row []string, chosen []*column,
	shelf map[string]material.Product) {
	name := ""
	refuse := func(field, text, way string) {
		reading.Refused = append(reading.Refused, Refused{line, name, field, text, way})
	}
	if len(row) != len(chosen) {
		refuse("", fmt.Sprintf("This row has %d columns, the first line %d.", len(row), len(chosen)),
			"A decimal comma splits a number in two: write decimals with a point, and put words with commas in quotation marks.")
		return
	}
	p := material.Product{Color: "#8a9a94", Ratio: material.Ratio{Basis: material.ByVolume}}
	for i, c := range chosen {
		if c.head == "id" {
			if known, ok := shelf[strings.TrimSpace(row[i])]; ok {
				p = known
				p.Components = slices.Clone(known.Components)
			}
		}
		if c.head == "name" {
			name = strings.TrimSpace(row[i])
		}
	}
	// The ratio comes before the densities of its parts, whatever the order.
	order := slices.Clone(chosen)
	cell := make(map[*column]string, len(row))
	for i, c := range chosen {
		cell[c] = strings.TrimSpace(row[i])
	}
	slices.SortStableFunc(order, func(a, b *column) int {
		if (a.head == "ratio") == (b.head == "ratio") {
			return 0
		}
		if a.head == "ratio" {
			return -1
		}
		return 1
	})
	bad := false
	for _, c := range order {
		if cell[c] == "" {
			continue
		}
		if err := c.read(&p, cell[c]); err != nil {
			refuse(c.field, "Column “"+c.head+"”: "+err.Error()+".", "Correct this cell and import the file again.")
			bad = true
		}
	}
	for _, need := range []struct {
		head    string
		missing bool
	}{{"name", p.Name == ""}, {"kind", p.Kind == ""}, {"chemistry", p.Chemistry == ""}, {"ratio", len(p.Components) == 0},
		{"volume solids %", p.VolumeSolids.Source == ""}, {"kits", len(p.Kits) == 0}} {
		if need.missing && !bad {
			refuse("", "Column “"+need.head+"” is missing or empty, and a new sheet needs it.",
				"Export the shelf as CSV to see how it is written.")
			bad = true
		}
	}
	if bad {
		return
	}
	document, err := asDocument(p)
	if err == nil {
		err = validated(r.sheet, document)
	}
	if err != nil {
		reading.refuse(line, name, err)
		return
	}
	reading.judge(line, p)
}
