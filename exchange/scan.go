package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// Bounds of what is looked at in a file before anything is made of it: far above
// what any job or shelf holds.
const (
	mostDepth  = 40
	mostItems  = 20_000 // of one list
	mostFields = 500    // of one object
	mostTokens = 3_000_000
	mostDigits = 60 // of one number
)

// scanned reads through JSON once, a token at a time, and refuses what no reader
// should be given: numbers beyond all measure, lists and objects without end, a field
// that stands twice, what follows after the end.
func scanned(text []byte) error {
	s := scanner{text: text, decoder: json.NewDecoder(bytes.NewReader(text))}
	s.decoder.UseNumber()
	if err := s.value(); err != nil {
		return err
	}
	if _, err := s.decoder.Token(); err != io.EOF {
		return &Refusal{Text: "Something follows after the end of the file's one object; remove it."}
	}
	return nil
}

type scanner struct {
	text    []byte
	decoder *json.Decoder
	tokens  int
	path    []segment // from the root to what is looked at
}

// segment is a field's name, or the place in a list where the name is empty.
type segment struct {
	name  string
	index int
	list  bool
}

// refuse returns of what is looked at. Its path is written only then.
func (s *scanner) refuse(text string) error {
	var path strings.Builder
	for _, at := range s.path {
		path.WriteByte('/')
		if at.list {
			path.WriteString(strconv.Itoa(at.index))
		} else {
			path.WriteString(pointed(at.name))
		}
	}
	return &Refusal{path.String(), text}
}

func (s *scanner) next() (json.Token, error) {
	if s.tokens++; s.tokens > mostTokens {
		return nil, &Refusal{Text: "The file is too large for one job; split it into several."}
	}
	return s.decoder.Token()
}

func (s *scanner) value() error {
	token, err := s.next()
	var syntax *json.SyntaxError
	if errors.As(err, &syntax) && len(s.path) > 0 {
		if word := s.word(); word != "" {
			return s.refuse(word + " is no number in JSON; enter a number, or leave the field out.")
		}
	}
	if err != nil {
		return err
	}
	switch t := token.(type) {
	case string:
		if strings.ContainsRune(t, 0) {
			return s.refuse("A text holds a character that ends texts (U+0000); remove it.")
		}
	case json.Number:
		if text := beyond(t.String()); text != "" {
			return s.refuse(text)
		}
	case json.Delim:
		if len(s.path) > mostDepth {
			return s.refuse("This is nested deeper than anything in such a file; remove it.")
		}
		if t == '{' {
			return s.object()
		}
		return s.list()
	}
	return nil
}

// word returns the bare word, such as NaN or -Infinity, that stands where the next value
// should; empty where something else does.
func (s *scanner) word() string {
	rest := bytes.TrimLeft(s.text[min(int(s.decoder.InputOffset()), len(s.text)):], " \t\r\n:,")
	end := bytes.IndexFunc(rest, func(r rune) bool { return r != '-' && r != '+' && !unicode.IsLetter(r) })
	if end < 0 {
		end = len(rest)
	}
	switch word := string(rest[:end]); strings.ToLower(strings.TrimLeft(word, "+-")) {
	case "nan", "inf", "infinity":
		return word
	}
	return ""
}

func (s *scanner) object() error {
	s.path = append(s.path, segment{})
	last := len(s.path) - 1
	var seen []string
	for s.decoder.More() {
		token, err := s.next()
		if err != nil {
			return err
		}
		name, ok := token.(string)
		if !ok {
			return s.refuse("A field has no name.")
		}
		s.path[last].name = name
		if strings.ContainsRune(name, 0) {
			return s.refuse("The name of a field holds a character that ends texts (U+0000); remove it.")
		}
		if slices.Contains(seen, name) {
			return s.refuse("This field is there twice; remove one of the two.")
		}
		if seen = append(seen, name); len(seen) > mostFields {
			s.path = s.path[:last]
			return s.refuse(fmt.Sprintf("More than %d fields stand here; none of this file has so many. Remove what is not "+
				"its own.", mostFields))
		}
		if err := s.value(); err != nil {
			return err
		}
	}
	s.path = s.path[:last]
	_, err := s.next()
	return err
}

func (s *scanner) list() error {
	s.path = append(s.path, segment{list: true})
	last := len(s.path) - 1
	for i := 0; s.decoder.More(); i++ {
		if i == mostItems {
			s.path = s.path[:last]
			return s.refuse(fmt.Sprintf("This list has more than %d entries; split it into several.", mostItems))
		}
		s.path[last].index = i
		if err := s.value(); err != nil {
			return err
		}
	}
	s.path = s.path[:last]
	_, err := s.next()
	return err
}

// beyond refuses numbers that no measure comes to, before anything computes with all
// of their digits.
func beyond(number string) string {
	v, err := strconv.ParseFloat(number, 64)
	_, exponent, _ := strings.Cut(strings.ToLower(number), "e")
	if err == nil && len(number) <= mostDigits && len(exponent) <= 4 && v <= 1e300 && v >= -1e300 {
		return ""
	}
	if len(number) > 30 {
		number = number[:30] + "…"
	}
	return number + " is too large; check the number and its unit."
}

// pointed is a name as a JSON Pointer writes it, what cannot be seen escaped.
func pointed(name string) string {
	name = strings.NewReplacer("~", "~0", "/", "~1").Replace(name)
	if quoted := strconv.Quote(name); quoted[1:len(quoted)-1] != name {
		name = quoted[1 : len(quoted)-1]
	}
	const longest = 80
	if len(name) > longest {
		name = name[:longest] + "…"
	}
	return name
}
