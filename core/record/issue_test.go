package record

import (
	"strings"
	"testing"

	"nephelon/core/measure"
)

// of makes a plan with some coats, each with a film by which it is known again.
func of(number int, day string, wet measure.Film, coats ...string) Issue {
	i := *issued()
	i.Number, i.Day = number, day
	like := i.Coats[0]
	i.Coats = nil
	for n, id := range coats {
		c := like
		c.ID, c.Number, c.Wet = id, n+1, wet
		i.Coats = append(i.Coats, c)
	}
	return i
}

// A plan for a day leaves all other coats as they were issued, one for the whole job takes the
// place of all; a coat that was begun stays by the plan it was begun on, whatever comes.
func TestWhichPlanStands(t *testing.T) {
	whole, other := of(1, "", 100e-6, "c", "d"), of(2, "", 200e-6, "d", "e")
	daily := of(2, "2031-03-05", 200e-6, "d")
	begun := tablet("aaaa")
	begun.log(minutes(0), Meets, batch(1), Body{}) // of coat c, on plan 1
	back := tablet("bbbb")
	back.log(minutes(1), Struck, "", Body{Struck: back.log(minutes(0), Meets, batch(1), Body{}).ID})
	for _, c := range []struct {
		name   string
		issues []Issue
		events []Event
		want   map[string]int // plan of each coat
	}{
		{"one plan", []Issue{whole}, nil, map[string]int{"c": 1, "d": 1}},
		{"a plan for a day", []Issue{daily, whole}, nil, map[string]int{"c": 1, "d": 2}},
		{"a plan for the job", []Issue{other, whole}, nil, map[string]int{"d": 2, "e": 2}},
		{"one with a coat begun", []Issue{other, whole}, begun.all, map[string]int{"c": 1, "d": 2, "e": 2}},
		{"one with a coat begun and taken back", []Issue{other, whole}, back.all, map[string]int{"d": 2, "e": 2}},
		{"two for days over one", []Issue{of(3, "2031-03-06", 300e-6, "e"), daily, whole}, nil,
			map[string]int{"c": 1, "d": 2, "e": 3}},
	} {
		got := Stands(c.issues, c.events)
		if got.Number != c.issues[0].Number || len(got.Coats) != len(c.want) {
			t.Errorf("%s: plan %d with %d coats", c.name, got.Number, len(got.Coats))
		}
		for _, coat := range got.Coats {
			if by := int(coat.Wet*1e4 + 0.5); by != c.want[coat.ID] {
				t.Errorf("%s: coat %s is of plan %d, want %d", c.name, coat.ID, by, c.want[coat.ID])
			}
			if at := coat.Issue; at != 0 && at != c.want[coat.ID] || at == 0 && c.want[coat.ID] != got.Number {
				t.Errorf("%s: coat %s says plan %d", c.name, coat.ID, at)
			}
		}
	}
	if len(whole.Coats) != 2 || whole.Coats[0].Issue != 0 {
		t.Error("a plan was changed")
	}
}

// plain has a usual space between a figure and its unit.
func plain(text string) string {
	return strings.NewReplacer("\u202f", " ", "\u00a0", " ").Replace(text)
}
