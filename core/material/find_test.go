package material

import (
	"testing"

	"nephelon/core/measure"
)

func sheetOf(name, color string, least, most measure.Film, from, until measure.Span) Product {
	p := Product{Name: name, Color: color}
	if most > 0 {
		p.FilmMin, p.FilmMax = &measure.Sourced[measure.Film]{Value: least}, &measure.Sourced[measure.Film]{Value: most}
	}
	if from > 0 {
		p.RecoatFrom = []TimeAt{{At: 10, After: 3 * from}, {At: 21, After: from}}
	}
	if until > 0 {
		p.RecoatUntil = []TimeAt{{At: 20, After: until}}
	}
	return p
}

// A search names films, waits and colours among its words, in any order and either system.
func TestASearchAsksForFiguresAndColours(t *testing.T) {
	const hour = measure.Span(measure.Hour)
	body := sheetOf("Tidal body", "#4a6b7c", 0.0005, 0.003, 8*hour, 24*hour)
	for _, c := range []struct {
		text  string
		units measure.System
		words string
		fits  bool
	}{
		{"tidal", measure.Metric, "tidal", true},
		{"tidal 900 µm", measure.Metric, "tidal", true},
		{"300 um tidal", measure.Metric, "tidal", false},
		{"epoxy 40 mils", measure.US, "epoxy", true},
		{"4 mm", measure.Metric, "", false},
		{"12 h", measure.Metric, "", true},
		{"12 hours blue", measure.US, "", true},
		{"6 h", measure.Metric, "", false},
		{"2 days", measure.Metric, "", false},
		{"blue body", measure.Metric, "body", true},
		{"gray body", measure.Metric, "body", false},
		{"MB-2 2:1", measure.Metric, "MB-2 2:1", true},
		{"line 100", measure.Metric, "line 100", true}, // a number without a unit is a name
	} {
		words, w := Search(c.text, c.units)
		if words != c.words || w.Fits(body) != c.fits {
			t.Errorf("%q: words %q, fits %v", c.text, words, w.Fits(body))
		}
		if w.Nothing() != (c.text == c.words) {
			t.Errorf("%q asks for nothing: %v", c.text, w.Nothing())
		}
	}
	if _, w := Search("300 µm", measure.Metric); w.Fits(sheetOf("Unknown", "", 0, 0, 0, 0)) {
		t.Error("a sheet that states no film fits one")
	}
	if _, w := Search("grey", measure.Metric); !w.Fits(sheetOf("Grey gull", "#aa2222", 0, 0, 0, 0)) {
		t.Error("the colour in a name is not found")
	}
}

// Names of colours as people say them; the limits are common practice, no source.
func TestColoursHaveNames(t *testing.T) {
	for hex, want := range map[string]string{"#ffffff": "white", "#f2f2ee": "white", "#7b7f86": "grey", "#c7cdd6": "grey",
		"#1d1f22": "black", "#c0392b": "red", "#d9a441": "yellow", "#e67e22": "orange", "#8a5a44": "brown",
		"#e3d9bd": "beige", "#3f7d4e": "green", "#3f8fb0": "blue", "#6b4fa0": "violet", "blue": "", "": ""} {
		if got := ColourName(hex); got != want {
			t.Errorf("%s is %q, want %q", hex, got, want)
		}
	}
}
