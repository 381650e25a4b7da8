package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"

	"nephelon/core/material"
)

// Format and version of the shelf file.
const (
	ShelfFormat  = "nephelon-shelf"
	ShelfVersion = 1
)

// ShelfFile is data sheets on their way between shelves.
type ShelfFile struct {
	Format   string             `json:"format" enum:"nephelon-shelf"`
	Version  int                `json:"version" minimum:"1" maximum:"1"`
	Products []material.Product `json:"products" maxItems:"10000"`
	Media    []material.Medium  `json:"media,omitempty" maxItems:"10000"`
}

// Line is a sheet that was read, and where it stands in its file: the line of a
// CSV file, the place from 1 in a list of JSON.
type Line struct {
	Line  int
	Sheet material.Product
}

// Refused is a row that was not read.
type Refused struct {
	Line  int    `json:"line" doc:"Line of a CSV file; the place from 1 in a list of JSON; 0 for the file as a whole"`
	Name  string `json:"name,omitempty"`
	Field string `json:"field,omitempty"`
	Text  string `json:"text"`
	Way   string `json:"way,omitempty"`
}

// ShelfReading holds what a file of data sheets holds: the good and the refused.
type ShelfReading struct {
	Lines   []Line
	Media   []material.Medium
	Refused []Refused
	lines   map[string]int // by the id of their sheet
}

// ReadShelf reads a shelf file. Sheets that are wrong are refused one by one;
// the good ones are given all the same.
func (r *Reader) ReadShelf(from io.Reader) ShelfReading {
	var reading ShelfReading
	text, document, err := parsed(from, "shelf file")
	if err != nil {
		reading.Refused = append(reading.Refused,
			Refused{Text: err.Error(), Way: "Choose a shelf file or a CSV file of data sheets."})
		return reading
	}
	root, _ := document.(map[string]any)
	if root["format"] != ShelfFormat || root["version"] != json.Number("1") {
		reading.Refused = append(reading.Refused,
			Refused{Text: "This is not a shelf file of version 1.",
				Way: `It begins with "format": "nephelon-shelf", "version": 1.`})
		return reading
	}
	var raw struct {
		Products []json.RawMessage `json:"products"`
		Media    []material.Medium `json:"media"`
	}
	if err := json.Unmarshal(text, &raw); err != nil {
		reading.Refused = append(reading.Refused, Refused{Text: "The file cannot be read: " + err.Error() + ".",
			Way: "Compare it with docs/shelf-file.schema.json."})
		return reading
	}
	products, _ := root["products"].([]any)
	for i, one := range products {
		if len(reading.Refused) > mostRefused {
			return reading.cut()
		}
		name := ""
		if fields, ok := one.(map[string]any); ok {
			name, _ = fields["name"].(string)
		}
		var p material.Product
		err := validated(r.sheet, one)
		if err == nil {
			err = json.Unmarshal(raw.Products[i], &p)
		}
		if err != nil {
			reading.refuse(i+1, name, err)
			continue
		}
		reading.judge(i+1, p)
	}
	for i, m := range raw.Media {
		if faults := m.Faults(); len(faults) > 0 {
			reading.Refused = append(reading.Refused, Refused{i + 1, m.Name, faults[0].Field, faults[0].Text, faults[0].Way})
			continue
		}
		reading.Media = append(reading.Media, m)
	}
	return reading
}

// mostRefused limits how many refusals of a file are listed: whoever reads them mends the first
// and reads the file again.
const mostRefused = 300

// cut ends a reading that refused too much.
func (s ShelfReading) cut() ShelfReading {
	s.Refused = append(s.Refused[:mostRefused],
		Refused{Text: "There is more that is wrong.", Way: "Correct these first, then import the file again."})
	return s
}

func (s *ShelfReading) refuse(line int, name string, err error) {
	causes := []error{err}
	if many, ok := err.(interface{ Unwrap() []error }); ok {
		causes = many.Unwrap()
	}
	for _, cause := range causes {
		row := Refused{Line: line, Name: name, Text: cause.Error(), Way: "Compare it with docs/shelf-file.schema.json."}
		if refusal, ok := cause.(*Refusal); ok {
			row.Field, row.Text = refusal.Path, refusal.Text
		}
		s.Refused = append(s.Refused, row)
	}
}

// judge takes a sheet in, unless it cannot be or stands in the file already.
func (s *ShelfReading) judge(line int, p material.Product) {
	if s.lines == nil {
		s.lines = make(map[string]int)
	}
	if before, there := s.lines[p.ID]; there {
		s.Refused = append(s.Refused, Refused{line, p.Name, "/id",
			fmt.Sprintf("Line %d has the id “%s” already.", before, p.ID),
			"Remove one of the two, or give it an id of its own."})
		return
	}
	if faults := p.Faults(); len(faults) > 0 {
		for _, f := range faults {
			s.Refused = append(s.Refused, Refused{line, p.Name, f.Field, f.Text, f.Way})
		}
		return
	}
	s.lines[p.ID] = line
	s.Lines = append(s.Lines, Line{line, p})
}

// WriteShelf writes data sheets for another shelf.
func WriteShelf(to io.Writer, products []material.Product, media []material.Medium) error {
	encoder := json.NewEncoder(to)
	encoder.SetIndent("", "  ")
	if err := encoder.Encode(ShelfFile{ShelfFormat, ShelfVersion, products, media}); err != nil {
		return fmt.Errorf("write the shelf file: %w", err)
	}
	return nil
}

// IsJSON returns a shelf file from a CSV file by its first sign.
func IsJSON(text []byte) bool {
	text = bytes.TrimLeft(bytes.TrimPrefix(text, []byte("\xef\xbb\xbf")), " \t\r\n")
	return len(text) > 0 && (text[0] == '{' || text[0] == '[')
}

// asDocument is a sheet as the schema sees it.
func asDocument(p material.Product) (any, error) {
	text, err := json.Marshal(p)
	if err != nil {
		return nil, fmt.Errorf("encode a sheet: %w", err)
	}
	_, document, err := parsed(bytes.NewReader(text), "sheet")
	return document, err
}
