package exchange

import (
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"

	"github.com/ledongthuc/pdf"

	"nephelon/core/sheet"
)

// Bounds of a PDF that is read.
const (
	MostPDFBytes = 20 << 20
	mostPDFPages = 60
	mostLetters  = 400_000
)

// ErrPicture means that a PDF has no text.
var ErrPicture = errors.New("this PDF is only a picture: its text cannot be read. Paste the text of the sheet instead")

// PDFLines reads the text of a PDF as lines with their cells, page by page from the top. It may take
// long and much memory for a file that was made to: whoever calls it bounds both.
func PDFLines(file []byte) (lines []sheet.Line, err error) {
	if len(file) > MostPDFBytes {
		return nil, fmt.Errorf("the PDF has %d MB; at most %d are read. Paste the text of the sheet instead",
			len(file)>>20, MostPDFBytes>>20)
	}
	defer func() { // the library panics on what is damaged
		if cause := recover(); cause != nil {
			lines, err = nil, errors.New("this PDF is damaged or not a PDF; open it and save it again, or paste its text")
		}
	}()
	document, err := pdf.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		return nil, fmt.Errorf("this PDF cannot be read: %w", err)
	}
	if n := document.NumPage(); n > mostPDFPages {
		return nil, fmt.Errorf("the PDF has %d pages; at most %d are read. Paste the text of the sheet instead", n,
			mostPDFPages)
	}
	letters := 0
	var pages [][]sheet.Line
	for n := 1; n <= document.NumPage(); n++ {
		page := document.Page(n)
		if page.V.IsNull() {
			continue
		}
		texts := page.Content().Text
		if letters += len(texts); letters > mostLetters {
			return nil, errors.New("the PDF holds more text than a data sheet; paste the part that matters")
		}
		pages = append(pages, laid(texts))
	}
	if letters == 0 {
		return nil, ErrPicture
	}
	for _, page := range withoutRunning(pages) {
		lines = append(append(lines, page...), sheet.Line{})
	}
	return lines, nil
}

// running bounds the lines at the top and at the bottom of a page that may run through all pages.
const running = 3

var pageNumber = regexp.MustCompile(`(?i)\b(page|seite|página)\s*[0-9]+|^[0-9]+\s*(/|of|von|de)\s*[0-9]+$`)

// withoutRunning returns pages without their numbers, without the head lines that the first page has, too, and
// without the foot lines that the next page has, too: a table goes on over the edge of a page, and nothing is read
// twice.
func withoutRunning(pages [][]sheet.Line) [][]sheet.Line {
	same := func(a, b sheet.Line) bool { return a.Text != "" && a.Text == b.Text }
	edges := func(page []sheet.Line) (top, bottom []sheet.Line) {
		return page[:min(running, len(page))], page[max(0, len(page)-running):]
	}
	var all [][]sheet.Line
	for n, page := range pages {
		from, until := 0, len(page)
		if len(pages) > 1 {
			top, _ := edges(pages[0])
			var bottom []sheet.Line
			if n+1 < len(pages) {
				_, bottom = edges(pages[n+1])
			}
			for n > 0 && from < min(running, len(page)) &&
				slices.ContainsFunc(top, func(l sheet.Line) bool { return same(l, page[from]) }) {
				from++
			}
			for until > max(from, len(page)-running) &&
				(pageNumber.MatchString(page[until-1].Text) ||
					slices.ContainsFunc(bottom, func(l sheet.Line) bool { return same(l, page[until-1]) })) {
				until--
			}
		}
		all = append(all, page[from:until])
	}
	return all
}

// run is letters that were written one after the other.
type run struct {
	text      string
	from, end float64 // points from the left
	size      float64
}

// near bounds the points within which letters stand on one line.
const near = 2.0

// runsOf joins letters in the order in which they were written, by the height of their line. Fonts of
// which no widths are known have all letters of a piece at one place.
func runsOf(texts []pdf.Text) map[int][]run {
	rows := make(map[int][]run)
	lastRow := math.MinInt
	lastX := 0.0
	for _, t := range texts {
		if t.S == "" || t.S == "\n" {
			continue
		}
		size := t.FontSize
		if size <= 0 {
			size = 10
		}
		row := int(math.Round(t.Y / near))
		all := rows[row]
		wide := t.W
		if wide <= 0 {
			wide = broad(t.S) * size
		}
		known := len(all) - 1
		follows := row == lastRow && known >= 0 && t.X >= lastX-0.5*size &&
			(t.W > 0 && t.X-all[known].end < 0.18*size || t.W <= 0 && t.X-lastX < 0.4*size)
		if follows {
			all[known].text += t.S
			all[known].end = max(all[known].end, t.X+wide)
			if t.W <= 0 {
				all[known].end = all[known].from + broad(all[known].text)*size
			}
		} else {
			all = append(all, run{t.S, t.X, t.X + wide, size})
		}
		rows[row], lastRow, lastX = all, row, t.X
	}
	return rows
}

// broad returns about how wide a text is in a font of which no widths are known, in its size: between
// Helvetica and Times.
func broad(text string) float64 {
	wide := 0.0
	for _, r := range text {
		switch {
		case strings.ContainsRune("iljI.,:;'|!", r):
			wide += 0.25
		case strings.ContainsRune("ft()[]-/r ", r):
			wide += 0.30
		case strings.ContainsRune("mwMW%@—", r):
			wide += 0.80
		case r >= 'A' && r <= 'Z':
			wide += 0.67
		case r >= '0' && r <= '9':
			wide += 0.53
		default:
			wide += 0.49
		}
	}
	return wide
}

// laid puts the letters of a page into lines from the top, column by column, and lines into cells where they have gaps.
func laid(texts []pdf.Text) []sheet.Line {
	rows := runsOf(texts)
	heights := make([]int, 0, len(rows))
	for y := range rows {
		heights = append(heights, y)
	}
	slices.SortFunc(heights, func(a, b int) int { return cmp.Compare(b, a) })
	for _, row := range rows {
		slices.SortStableFunc(row, func(a, b run) int { return cmp.Compare(a.from, b.from) })
	}
	gutter, columned := gutterOf(rows)
	if !columned {
		return stacked(rows, heights)
	}
	// What runs across the page divides it; between such lines the left column is read before the right.
	var all []sheet.Line
	left, right := make(map[int][]run), make(map[int][]run)
	var part []int
	flush := func() {
		for _, side := range []map[int][]run{left, right} {
			all = append(append(all, stacked(side, part)...), sheet.Line{})
		}
		clear(left)
		clear(right)
		part = nil
	}
	for _, y := range heights {
		l, r, is := parted(rows[y], gutter)
		if !is {
			flush()
			all = append(all, celled(rows[y]))
			continue
		}
		left[y], right[y], part = l, r, append(part, y)
	}
	flush()
	return all
}

// leastColumn are the rows that two columns of text stand beside each other at least, leastLong the letters that half
// of the lines of each have at least: labels with values beside them are shorter.
const leastColumn, leastLong = 8, 28

// parted returns the runs of a row on both sides of a gutter; false where they run across it.
func parted(row []run, gutter float64) (left, right []run, is bool) {
	end, from := math.Inf(-1), math.Inf(1)
	for _, r := range row {
		switch {
		case r.end <= gutter:
			left, end = append(left, r), max(end, r.end)
		case r.from >= gutter:
			right, from = append(right, r), min(from, r.from)
		default:
			return nil, nil, false
		}
	}
	return left, right, from-end > 1.2*row[0].size
}

// gutterOf returns the place between two columns of text, points from the left; false for a page of one column, or of
// tables.
func gutterOf(rows map[int][]run) (float64, bool) {
	from, end := math.Inf(1), math.Inf(-1)
	for _, row := range rows {
		for _, r := range row {
			from, end = min(from, r.from), max(end, r.end)
		}
	}
	best, most := 0.0, 0
	const step = 3
	for at := from + 0.35*(end-from); at < from+0.65*(end-from); at += step {
		beside, across := 0, 0
		var lefts, rights []int
		for _, row := range rows {
			left, right, is := parted(row, at)
			switch {
			case !is:
				across++
			case len(left) > 0 && len(right) > 0:
				beside++
				lefts = append(lefts, len(celled(left).Text))
				rights = append(rights, len(celled(right).Text))
			}
		}
		if beside < leastColumn || across > beside || beside <= most {
			continue
		}
		slices.Sort(lefts)
		slices.Sort(rights)
		if lefts[beside/2] >= leastLong && rights[beside/2] >= leastLong {
			best, most = at, beside
		}
	}
	return best, most > 0
}

// stacked puts rows into lines from the top. A gap of more than a line and a half stands as an empty line.
func stacked(rows map[int][]run, heights []int) []sheet.Line {
	var all []sheet.Line
	last, size := 0, 10.0
	for k, y := range heights {
		row := rows[y]
		if len(row) == 0 {
			continue
		}
		if k > 0 && float64(last-y)*near > 1.9*size {
			all = append(all, sheet.Line{})
		}
		last, size = y, row[0].size
		if line := celled(row); line.Text != "" {
			all = append(all, line)
		}
	}
	return all
}

// celled joins the runs of a line into cells.
func celled(row []run) sheet.Line {
	cells := []string{""}
	end := math.Inf(-1)
	for _, r := range row {
		switch gap := r.from - end; {
		case math.IsInf(gap, 1):
		case gap > 1.2*r.size:
			cells = append(cells, "")
		case gap > 0.12*r.size:
			cells[len(cells)-1] += " "
		}
		cells[len(cells)-1] += r.text
		end = max(end, r.end)
	}
	words := []string{}
	for n := range cells {
		cells[n] = strings.Join(strings.Fields(cells[n]), " ")
		words = append(words, strings.Fields(cells[n])...)
	}
	return sheet.Line{Text: strings.Join(words, " "), Cells: cells}
}
