package sheet

import (
	"regexp"
	"slices"
	"strings"
)

// Line is a line of a sheet, divided where it has tabs or wide gaps.
type Line struct {
	Text  string
	Cells []string
}

// Lines divides a text into lines and their cells.
func Lines(text string) []Line {
	gap := regexp.MustCompile(`\t|\s{2,}`)
	var all []Line
	framed := regexp.MustCompile(`^\s*\|\s*|\s*\|\s*$`)
	leader := regexp.MustCompile(`\s?(?:\.{3,}|…+|_{3,})\s?|\s\|\s`)
	for _, l := range short(unhyphened(strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n"))) {
		l = strings.ReplaceAll(strings.ReplaceAll(l, "\u00a0", " "), "\u202f", " ")
		cells := gap.Split(leader.ReplaceAllString(framed.ReplaceAllString(strings.TrimRight(l, " \t"), ""), "\t"), -1)
		if len(cells) > 1 && numbered.MatchString(cells[0]) { // the number of a chapter
			cells = cells[1:]
			l = strings.Join(cells, "  ")
		}
		all = append(all, Line{strings.Join(strings.Fields(l), " "), cells})
	}
	return all
}

var (
	cutWord  = regexp.MustCompile(`\p{L}{2,}-\s*$`)
	wordRest = regexp.MustCompile(`^\s*(\p{Ll}{2,}\S*)\s?`)
)

// unhyphened brings a word that is divided at the end of a line together, on the line where it begins.
func unhyphened(lines []string) []string {
	for n := range len(lines) - 1 {
		m := wordRest.FindStringSubmatch(lines[n+1])
		if m == nil || !cutWord.MatchString(lines[n]) {
			continue
		}
		lines[n] = strings.TrimSuffix(strings.TrimRight(lines[n], " \t"), "-") + m[1]
		lines[n+1] = lines[n+1][len(m[0]):]
	}
	return lines
}

// short divides lines that are longer than any of a sheet, after a sentence where there is one.
func short(lines []string) []string {
	const longest = 1200 // bytes
	var all []string
	for _, l := range lines {
		for len(l) > longest {
			at := strings.LastIndex(l[:longest], ". ") + 1
			if at <= 0 {
				at = strings.LastIndex(l[:longest], " ")
			}
			if at <= 0 {
				at = longest
			}
			all, l = append(all, l[:at]), l[at:]
		}
		all = append(all, l)
	}
	return all
}

var numbered = regexp.MustCompile(`^\s*[0-9]{1,2}(\.[0-9]{1,2})*\.?$`)

// Corrected returns lines with those that a person wrote anew, by their numbers from 1.
func Corrected(lines []Line, anew map[int]string) []Line {
	out := slices.Clone(lines)
	for n, text := range anew {
		if n >= 1 && n <= len(out) {
			out[n-1] = Lines(strings.ReplaceAll(text, "\n", " "))[0]
		}
	}
	return out
}

// sentences divides a line of text into its sentences; a line of a table stays as it is.
func sentences(l Line) []Line {
	at := sentenced.FindAllStringIndex(l.Text, -1)
	if len(l.Cells) > 1 || len(at) == 0 || warned.MatchString(l.Text) {
		return []Line{l}
	}
	var all []Line
	from := 0
	for _, m := range append(at, []int{len(l.Text), len(l.Text) + 1}) {
		text := strings.TrimSpace(l.Text[from:min(m[0]+1, len(l.Text))])
		all = append(all, Line{text, []string{text}})
		from = m[1] - 1
	}
	return all
}
