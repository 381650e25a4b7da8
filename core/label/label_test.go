package label_test

import (
	"strings"
	"testing"
	"time"

	"nephelon/core/label"
)

// Labels by the GS1 General Specifications: elements, check digits (section 7.9) and dates (section 7.12). The item
// number is the one of their examples, from memory.
func TestLabelsAreRead(t *testing.T) {
	now := time.Date(2031, 5, 6, 9, 0, 0, 0, time.UTC)
	const item, gs = "09506000134352", "\x1d"
	for name, c := range map[string]struct {
		text string
		want label.Scan
		says string
	}{
		"in brackets": {"(01)" + item + "(10)L-77a(17)321130",
			label.Scan{Code: item, Lot: "L-77a", Expires: "2032-11-30"}, ""},
		"as sent": {"]C101" + item + "17321130" + "10L-77a",
			label.Scan{Code: item, Lot: "L-77a", Expires: "2032-11-30"}, ""},
		"lot before the date": {"]d201" + item + "10L-77a" + gs + "11310400",
			label.Scan{Code: item, Lot: "L-77a", Made: "2031-04-30"}, ""},
		"no mark, a separator":     {gs + "01" + item + "2112" + gs + "10B", label.Scan{Code: item, Lot: "B"}, ""},
		"no mark and no separator": {"01" + item + "10B9", label.Scan{Code: item, Lot: "B9"}, ""},
		"a net mass is passed":     {"]C101" + item + "310300125010B", label.Scan{Code: item, Lot: "B"}, ""},
		"thirteen digits":          {"9506000134352", label.Scan{Code: item}, ""},
		"an article number":        {" KB-17 ", label.Scan{Code: "KB-17"}, ""},
		"digits of no item":        {"9506000134353", label.Scan{Code: "9506000134353"}, ""},
		"a leap day":               {"(01)" + item + "(17)320229", label.Scan{Code: item, Expires: "2032-02-29"}, ""},
		"the last century":         {"(01)" + item + "(11)850101", label.Scan{Code: item, Made: "1985-01-01"}, ""},
		"the next fifty years":     {"(01)" + item + "(17)800101", label.Scan{Code: item, Expires: "2080-01-01"}, ""},
		"nothing":                  {"  ", label.Scan{}, "scan or type"},
		"a wrong check digit":      {"]C10109506000134353", label.Scan{}, "check digit"},
		"no such day":              {"(01)" + item + "(17)310229", label.Scan{}, "no date"},
		"no such month":            {"(01)" + item + "(17)311301", label.Scan{}, "no date"},
		"broken off":               {"]C101" + item + "173111", label.Scan{}, "ends within"},
		"an unknown element":       {"]C101" + item + "99x", label.Scan{}, "not known"},
		"a lot without an end":     {"]C101" + item + "10" + strings.Repeat("x", 30), label.Scan{}, "not 1 to 20"},
		"no product":               {"(10)L-77a", label.Scan{}, "names no product"},
	} {
		got, err := label.Read(c.text, now)
		if c.says == "" && (err != nil || got != c.want) ||
			c.says != "" && (err == nil || !strings.Contains(err.Error(), c.says)) {
			t.Errorf("%s: %+v, %v", name, got, err)
		}
	}
}

// FuzzRead reads anything as a label: no crash, and what is read is a lot and dates that stock can keep.
func FuzzRead(f *testing.F) {
	for _, seed := range []string{"]C10109506000134352173211301012", "(01)09506000134352(10)L-77a", "9506000134352",
		"KB-17"} {
		f.Add(seed)
	}
	now := time.Date(2031, 5, 6, 9, 0, 0, 0, time.UTC)
	f.Fuzz(func(t *testing.T, text string) {
		s, err := label.Read(text, now)
		if err != nil {
			return
		}
		if s.Code == "" {
			t.Fatalf("%q names nothing", text)
		}
		for _, day := range []string{s.Made, s.Expires} {
			if _, err := time.Parse(time.DateOnly, day); day != "" && err != nil {
				t.Fatalf("%q: %v", text, err)
			}
		}
	})
}
