package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
)

// Bounds of a table: far above what any price list holds.
const (
	mostRows     = 20_000
	mostColumns  = 60
	mostTable    = 5 << 20
	mostUnpacked = 64 << 20
)

// ReadTable reads the rows of a table: the first sheet with rows of a workbook (XLSX), or text whose columns are
// apart by commas, semicolons or tabs. Figures of a workbook are written with a decimal point, and with none or at
// least four places, so that they are not taken for thousands.
func ReadTable(file []byte) ([][]string, error) {
	switch {
	case len(file) > mostTable:
		return nil, &Refusal{Text: fmt.Sprintf("The file is over %d MB. Remove what is no price list.", mostTable>>20)}
	case bytes.HasPrefix(file, []byte("PK\x03\x04")):
		return workbook(file)
	case bytes.HasPrefix(file, []byte("\xd0\xcf\x11\xe0")):
		return nil, &Refusal{Text: "This is a workbook of the old form (XLS). Save it as XLSX or CSV."}
	case bytes.HasPrefix(file, []byte("%PDF")):
		return nil, &Refusal{Text: "This is a PDF. Ask the supplier for the list as XLSX or CSV."}
	case bytes.IndexByte(file, 0) >= 0:
		return nil, &Refusal{Text: "This is neither a workbook (XLSX) nor text (CSV)."}
	}
	return separated(file)
}

// separated reads text in columns. Text that is no UTF-8 is Windows-1252.
func separated(file []byte) ([][]string, error) {
	file = bytes.TrimPrefix(file, []byte("\xef\xbb\xbf"))
	if !utf8.Valid(file) {
		decoded, err := charmap.Windows1252.NewDecoder().Bytes(file)
		if err != nil {
			return nil, fmt.Errorf("decode the text: %w", err)
		}
		file = decoded
	}
	reader := csv.NewReader(bytes.NewReader(file))
	reader.Comma = separator(file)
	reader.FieldsPerRecord = -1
	reader.LazyQuotes = true
	var rows [][]string
	for {
		row, err := reader.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, &Refusal{Text: fmt.Sprintf("Line %d cannot be read as columns.", len(rows)+1)}
		}
		if rows, err = addRow(rows, row); err != nil {
			return nil, err
		}
	}
	if len(rows) == 0 {
		return nil, &Refusal{Text: "The file has no rows."}
	}
	return rows, nil
}

// separator returns what the most lines at the beginning hold, and the most of.
func separator(file []byte) rune {
	const looked = 30
	best, most := ',', 0
	for _, mark := range []rune{';', '\t', ','} {
		count := 0
		for n, line := range bytes.Split(file, []byte("\n")) {
			if n == looked {
				break
			}
			count += bytes.Count(line, []byte(string(mark)))
		}
		if count > most {
			best, most = mark, count
		}
		// Commas stand in prices, too: other marks on every line rule.
		if mark != ',' && count > 0 && count >= bytes.Count(file, []byte("\n")) {
			return mark
		}
	}
	return best
}

// addRow adds a row, without what is empty at its end.
func addRow(rows [][]string, row []string) ([][]string, error) {
	for len(row) > 0 && strings.TrimSpace(row[len(row)-1]) == "" {
		row = row[:len(row)-1]
	}
	if len(rows) == mostRows || len(row) > mostColumns {
		return nil, &Refusal{Text: fmt.Sprintf("The table has over %d rows or %d columns. Keep those with prices.", mostRows,
			mostColumns)}
	}
	return append(rows, slices.Clone(row)), nil
}

func workbook(file []byte) (rows [][]string, err error) {
	book, err := excelize.OpenReader(bytes.NewReader(file),
		excelize.Options{RawCellValue: true, UnzipSizeLimit: mostUnpacked, UnzipXMLSizeLimit: mostUnpacked})
	if err != nil {
		return nil, &Refusal{Text: "This workbook cannot be opened. Save it again as XLSX, without a password."}
	}
	defer func() { err = errors.Join(err, book.Close()) }()
	for _, sheet := range book.GetSheetList() {
		rows, err := sheetRows(book, sheet)
		if err != nil {
			return nil, err
		}
		if len(rows) > 0 {
			return rows, nil
		}
	}
	return nil, &Refusal{Text: "The workbook has no rows."}
}

func sheetRows(book *excelize.File, sheet string) ([][]string, error) {
	cursor, err := book.Rows(sheet)
	if err != nil {
		return nil, fmt.Errorf("read sheet %s: %w", sheet, err)
	}
	var rows [][]string
	filled := false
	for n := 1; cursor.Next(); n++ {
		row, err := cursor.Columns()
		if err != nil {
			return nil, &Refusal{Text: fmt.Sprintf("Row %d of the workbook cannot be read.", n)}
		}
		for i, text := range row {
			if row[i], err = cellText(book, sheet, i+1, n, text); err != nil {
				return nil, err
			}
			filled = filled || row[i] != ""
		}
		if rows, err = addRow(rows, row); err != nil {
			return nil, err
		}
	}
	if err := errors.Join(cursor.Error(), cursor.Close()); err != nil {
		return nil, fmt.Errorf("read sheet %s: %w", sheet, err)
	}
	if !filled {
		return nil, nil
	}
	return rows, nil
}

// cellText writes a number of a workbook so that its fraction cannot be taken for thousands; text stays.
func cellText(book *excelize.File, sheet string, column, row int, text string) (string, error) {
	number, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return text, nil
	}
	name, err := excelize.CoordinatesToCellName(column, row)
	if err != nil {
		return "", fmt.Errorf("name a cell: %w", err)
	}
	of, err := book.GetCellType(sheet, name)
	if err != nil {
		return "", fmt.Errorf("read cell %s: %w", name, err)
	}
	if of != excelize.CellTypeUnset && of != excelize.CellTypeNumber && of != excelize.CellTypeFormula {
		return text, nil
	}
	if number == float64(int64(number)) {
		return strconv.FormatInt(int64(number), 10), nil
	}
	return strconv.FormatFloat(number, 'f', 4, 64), nil
}
