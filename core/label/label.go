// Package label reads what stands on the label of a pack: barcodes by the GS1 General Specifications, trade item
// numbers and article numbers.
package label

import (
	"errors"
	"fmt"
	"regexp"
	"strings"
	"time"
)

// Scan holds what the label of a pack says: a barcode, or an article number as it is typed.
type Scan struct {
	Code    string `json:"code" doc:"Article number, or a trade item number (GTIN) with 14 digits"`
	Lot     string `json:"lot,omitempty"`
	Made    string `json:"made,omitempty" format:"date"`
	Expires string `json:"expires,omitempty" format:"date"`
}

// element is an element of a barcode by the GS1 General Specifications, section 3: its identifier, and how long its
// value is; others than those of fixed length end with a separator.
type element struct {
	id    string
	least int
	most  int
}

// elements are those that labels of coatings carry. Values that say nothing here are passed over.
func elements() []element {
	return []element{{"01", 14, 14}, {"02", 14, 14}, {"11", 6, 6}, {"13", 6, 6}, {"15", 6, 6}, {"17", 6, 6},
		{"10", 1, 20}, {"21", 1, 20}, {"37", 1, 8}, {"240", 1, 30}, {"241", 1, 30}, {"310", 7, 7}, {"315", 7, 7}}
}

// separator stands after a value of no fixed length (FNC1).
const separator = "\x1d"

var (
	symbology = regexp.MustCompile(`^\][A-Za-z]\d`)
	bracketed = regexp.MustCompile(`\((\d{2,4})\)([^(]*)`)
	digits    = regexp.MustCompile(`^\d+$`)
)

// Read returns what a label says: a GS1 barcode with its elements, in brackets or as a scanner sends it; a trade item
// number of 8, 12, 13 or 14 digits; else an article number. The error says what is wrong with a barcode.
func Read(text string, now time.Time) (Scan, error) {
	text = strings.TrimSpace(text)
	marked := symbology.MatchString(text)
	text = symbology.ReplaceAllString(text, "")
	switch {
	case text == "":
		return Scan{}, errors.New("scan or type the code of the pack")
	case strings.HasPrefix(text, "("):
		var s Scan
		for _, found := range bracketed.FindAllStringSubmatch(text, -1) {
			if err := s.take(found[1], strings.TrimSpace(found[2]), now); err != nil {
				return s, err
			}
		}
		return s.whole()
	case marked && strings.HasPrefix(text, "01"), strings.Contains(text, separator),
		len(text) > 16 && strings.HasPrefix(text, "01") && itemNumber(text[2:16]):
		return readElements(strings.TrimPrefix(text, separator), now)
	case digits.MatchString(text) && itemNumber(text):
		return Scan{Code: fourteen(text)}, nil
	}
	return Scan{Code: text}, nil
}

// readElements reads elements one after the other.
func readElements(text string, now time.Time) (Scan, error) {
	var s Scan
	for text != "" {
		var of *element
		for _, e := range elements() {
			if strings.HasPrefix(text, e.id) {
				of = &e
				break
			}
		}
		if of == nil {
			return s, fmt.Errorf("the barcode has an element that is not known, at “%s”; type the lot by hand", text)
		}
		value, rest := text[len(of.id):], ""
		if of.least == of.most {
			if len(value) < of.most {
				return s, fmt.Errorf("the barcode ends within its element %s; scan it again", of.id)
			}
			value, rest = value[:of.most], strings.TrimPrefix(value[of.most:], separator)
		} else {
			value, rest, _ = strings.Cut(value, separator)
		}
		if len(value) < of.least || len(value) > of.most {
			return s, fmt.Errorf("element %s of the barcode has %d characters, not %d to %d; scan it again", of.id,
				len(value), of.least, of.most)
		}
		if err := s.take(of.id, value, now); err != nil {
			return s, err
		}
		text = rest
	}
	return s.whole()
}

func (s Scan) whole() (Scan, error) {
	if s.Code == "" {
		return s, errors.New("the barcode names no product; type the article number")
	}
	return s, nil
}

// take puts an element where it belongs.
func (s *Scan) take(id, value string, now time.Time) error {
	switch id {
	case "01", "02":
		if len(value) != 14 || !itemNumber(value) {
			return fmt.Errorf("the item number %s has a wrong check digit; scan it again", value)
		}
		s.Code = value
	case "10":
		s.Lot = value
	case "11", "13", "15", "17":
		day, err := dayOf(value, now)
		if err != nil {
			return err
		}
		if id == "11" || id == "13" {
			s.Made = day
		} else {
			s.Expires = day
		}
	}
	return nil
}

// dayOf reads a date of six digits. A day of 00 is the last of its month; the century is the one that is nearest, by
// section 7.12 of the GS1 General Specifications.
func dayOf(value string, now time.Time) (string, error) {
	wrong := fmt.Errorf("“%s” in the barcode is no date; scan it again", value)
	if len(value) != 6 || !digits.MatchString(value) {
		return "", wrong
	}
	number := func(at int) int { return int(value[at]-'0')*10 + int(value[at+1]-'0') }
	year, month, day := now.Year()/100*100+number(0), number(2), number(4)
	const half = 50
	switch off := year - now.Year(); {
	case off > half:
		year -= 100
	case off < -half+1:
		year += 100
	}
	if month < 1 || month > 12 {
		return "", wrong
	}
	last := time.Date(year, time.Month(month)+1, 0, 0, 0, 0, 0, time.UTC).Day()
	if day == 0 {
		day = last
	}
	if day > last {
		return "", wrong
	}
	return time.Date(year, time.Month(month), day, 0, 0, 0, 0, time.UTC).Format(time.DateOnly), nil
}

// itemNumber reports whether digits are a trade item number: of a known length, and with the right check digit.
func itemNumber(text string) bool {
	switch len(text) {
	case 8, 12, 13, 14:
	default:
		return false
	}
	sum := 0
	for i := range len(text) {
		c := text[len(text)-1-i]
		if c < '0' || c > '9' {
			return false
		}
		weight := 1
		if i%2 == 1 {
			weight = 3
		}
		sum += weight * int(c-'0')
	}
	return sum%10 == 0
}

func fourteen(number string) string { return strings.Repeat("0", 14-len(number)) + number }

// Names reports whether a label is that of a pack with a code.
func (s Scan) Names(code string) bool {
	if digits.MatchString(code) && itemNumber(code) {
		code = fourteen(code)
	}
	return code != "" && strings.EqualFold(s.Code, code)
}
