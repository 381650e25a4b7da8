package draft

import (
	"encoding/json"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Wanted is a value as a careful reader takes it from a sheet.
type Wanted struct {
	Path  string
	At    *float64 // °C
	Value any
	With  string // hardener, where the sheet has several
	Doubt bool   // it has to be looked at
}

var wantedLine = regexp.MustCompile(`^([^\s@[]+)(?:\[([^\]]*)\])?(?:@(\S+))? (.*)$`)

// ReadWanted reads what a careful reader takes from a sheet, a line each: the path, with a hardener in brackets where
// it holds with that one,
// with @ and °C where it holds at a temperature, the value as JSON, and a question mark where it has to be looked at.
func ReadWanted(text string) ([]Wanted, error) {
	var all []Wanted
	for n, line := range strings.Split(strings.TrimSpace(text), "\n") {
		m := wantedLine.FindStringSubmatch(line)
		if m == nil {
			return nil, fmt.Errorf("line %d is no path with a value", n+1)
		}
		value, doubt := strings.CutSuffix(m[4], " ?")
		w := Wanted{Path: m[1], With: m[2], Doubt: doubt}
		if at := m[3]; at != "" {
			degrees, err := strconv.ParseFloat(at, 64)
			if err != nil {
				return nil, fmt.Errorf("line %d: the temperature %q is no number", n+1, at)
			}
			w.At = &degrees
		}
		if err := json.Unmarshal([]byte(value), &w.Value); err != nil {
			return nil, fmt.Errorf("line %d: the value %q is no JSON: %w", n+1, value, err)
		}
		all = append(all, w)
	}
	return all, nil
}

// Score holds how well a draft fits what a careful reader takes.
type Score struct {
	Stated   int      // values that the sheet states
	Found    int      // of them
	Wrong    []string // values of stated fields that are not those stated, in words
	Invented []string // values of fields that the sheet does not state
	Missed   []string
	Needless []string // flagged, though a careful reader sees no doubt
	Silent   []string // not flagged, though a careful reader has to look
}

// Words returns a score in lines.
func (s Score) Words() string {
	var out strings.Builder
	fmt.Fprintf(&out, "%d of %d found, %d wrong, %d invented, %d missed, %d flagged needlessly, %d not flagged\n",
		s.Found,
		s.Stated, len(s.Wrong), len(s.Invented), len(s.Missed), len(s.Needless), len(s.Silent))
	for _, part := range []struct {
		name string
		all  []string
	}{{"wrong", s.Wrong}, {"invented", s.Invented}, {"missed", s.Missed}, {"flagged needlessly", s.Needless},
		{"not flagged", s.Silent}} {
		for _, text := range part.all {
			fmt.Fprintf(&out, "%s: %s\n", part.name, text)
		}
	}
	return out.String()
}

// Score compares a draft with what a careful reader takes.
func (d Draft) Score(wanted []Wanted) (Score, error) {
	s := Score{Stated: len(wanted)}
	used := make([]bool, len(wanted))
	for _, v := range d.Values {
		text, err := json.Marshal(v.Value)
		if err != nil {
			return s, fmt.Errorf("write %s: %w", v.Path, err)
		}
		var plain any
		if err := json.Unmarshal(text, &plain); err != nil {
			return s, fmt.Errorf("read %s: %w", v.Path, err)
		}
		words := fmt.Sprintf("%s %s (%s) from line %d", v.Path, text, v.As, v.Line)
		if v.At != nil {
			words = fmt.Sprintf("%s %s at %.4g °C (%s) from line %d", v.Path, text, *v.At, v.As, v.Line)
		}
		k := slices.IndexFunc(wanted, func(w Wanted) bool {
			return w.Path == v.Path && w.With == v.Hardener && (w.At == nil) == (v.At == nil) &&
				(w.At == nil || math.Abs(*w.At-*v.At) < 0.3) && Same(plain, w.Value)
		})
		switch {
		case k >= 0:
			used[k] = true
			if v.State == Doubtful && !wanted[k].Doubt {
				s.Needless = append(s.Needless, words+": "+v.Why)
			}
			if v.State != Doubtful && wanted[k].Doubt {
				s.Silent = append(s.Silent, words)
			}
		case slices.ContainsFunc(wanted, func(w Wanted) bool { return w.Path == v.Path }):
			s.Wrong = append(s.Wrong, words)
		default:
			s.Invented = append(s.Invented, words)
		}
	}
	for k, w := range wanted {
		if used[k] {
			s.Found++
		} else {
			s.Missed = append(s.Missed, fmt.Sprintf("%s %v", w.Path, w.Value))
		}
	}
	return s, nil
}

// Same reports whether two values agree to what a sheet prints.
func Same(a, b any) bool {
	switch a := a.(type) {
	case float64:
		b, is := b.(float64)
		return is && math.Abs(a-b) <= 1e-4*math.Max(1e-9, math.Abs(b))
	case []any:
		b, is := b.([]any)
		return is && slices.EqualFunc(a, b, Same)
	case map[string]any:
		b, is := b.(map[string]any)
		if !is || len(a) != len(b) {
			return false
		}
		for name := range a {
			if !Same(a[name], b[name]) {
				return false
			}
		}
		return true
	}
	return a == b
}
