package sheet

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nephelon/core/draft"
)

// scored returns how well a sheet of a folder is read; each value must stand in its line.
func scored(t *testing.T, file string) draft.Score {
	t.Helper()
	text, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	lines := strings.Split(string(text), "\n")
	d := From(Lines(string(text)))
	for _, v := range d.Values {
		if strings.Join(strings.Fields(lines[v.Line-1]), " ") != v.Text || !strings.Contains(v.Text, v.As) {
			t.Errorf("%s: %s is said to stand as %q in line %d", file, v.Path, v.As, v.Line)
		}
	}
	want, err := os.ReadFile(strings.TrimSuffix(file, ".txt") + ".want")
	if err != nil {
		t.Fatal(err)
	}
	all, err := draft.ReadWanted(string(want))
	if err != nil {
		t.Fatalf("%s: %v", file, err)
	}
	s, err := d.Score(all)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// Invented sheets of invented makers, in the layouts and languages of the trade: all that they state is found with its
// line, nothing else is, and nothing is flagged needlessly. How they were read at first sight, before the reader learnt
// from them, is said in docs/sheet-draft.md.
func TestReadingSheets(t *testing.T) {
	files, err := filepath.Glob("testdata/*.txt")
	if err != nil {
		t.Fatal(err)
	}
	held, err := filepath.Glob("testdata/held/*.txt")
	if err != nil {
		t.Fatal(err)
	}
	const least = 36
	if files = append(files, held...); len(files) < least {
		t.Fatalf("%d sheets", len(files))
	}
	for _, file := range files {
		s := scored(t, file)
		if s.Found < s.Stated || len(s.Wrong)+len(s.Invented)+len(s.Needless)+len(s.Silent) > 0 {
			t.Errorf("%s: %s", file, s.Words())
		}
	}
}

// Lines of a PDF may hold nothing at all.
func TestLinesWithoutCells(t *testing.T) {
	d := From([]Line{{}, {"Tern 5", []string{"Tern 5"}}, {}, {}, {"VOC 5 g/L", []string{"VOC", "5 g/L"}}, {}})
	if len(d.Values) != 2 || d.Values[0].Path != "name" || d.Values[1].Path != "voc" {
		t.Errorf("%+v", d.Values)
	}
}

// What bounds a temperature, by hand: in a sentence that forbids, below is the least and above the most.
func TestWhatIsLeastAndWhatIsMost(t *testing.T) {
	for text, want := range map[string][2]float64{ // least and most, 0 where neither
		"Substrate: above 10 °C and below 30 °C":                    {10, 30},
		"Do not apply below 10 °C or above 30 °C (substrate)":       {10, 30},
		"Not for use on substrates below 8 °C":                      {8, 0},
		"Stop work on floors above 33 °C":                           {0, 33},
		"The substrate must not be below 9 °C":                      {9, 0},
		"Substrate temperature must not exceed 32 °C":               {0, 32},
		"Substrate temperature 12 °C minimum, 28 °C maximum":        {12, 28},
		"Substrate temperature: at least 7 °C, at most 26 °C":       {7, 26},
		"Substrate temperature: 10 °C or above":                     {10, 0},
		"Substrate temperature: 10 °C or above, 30 °C or below":     {10, 30},
		"Untergrundtemperatur: mind. +10 °C, max. +30 °C":           {10, 30},
		"Temperatura del soporte: mínimo 10 °C, máximo 30 °C":       {10, 30},
		"Surface temperature between 11 and 29 °C":                  {11, 29},
		"Never lay it on floors under 6 °C, and below 31 °C always": {6, 0},
	} {
		var got [2]float64
		for _, v := range From(Lines("Tern 5\n\n" + text + "\n")).Values {
			switch at, _ := v.Value.(float64); v.Path {
			case "slabMin":
				got[0] = at
			case "slabMax":
				got[1] = at
			}
		}
		if got != want && (want[1] != 0 || got[0] != want[0]) {
			t.Errorf("%s: %v, want %v", text, got, want)
		}
	}
}

// The temperature at which a product is laid is not that of its times.
func TestTemperaturesOfTimesAndOfPlaces(t *testing.T) {
	for text, want := range map[string]float64{
		"It is applied to floors above 15 °C, tack free after 4 h.":   math.NaN(),
		"It is tack free after 4 h, walked on after 12 h at 18 °C.":   18,
		"At 22 °C it is tack free after 4 h, walked on after 9 hours": 22,
	} {
		found := false
		for _, v := range From(Lines("Tern 5\n\n" + text)).Values {
			if v.Path != "tackFree" {
				continue
			}
			found = true
			if (v.At == nil) != math.IsNaN(want) || v.At != nil && *v.At != want {
				t.Errorf("%s: %+v", text, v)
			}
		}
		if !found {
			t.Errorf("%s: nothing is read", text)
		}
	}
}

// What a sheet says of parts, uses and temperatures goes where the shelf keeps it.
func TestTheShapeOfTheShelf(t *testing.T) {
	d := From(Lines("Tern 5\nEpoxy floor coating\n\nMix ratio: 2:1 by volume, 100:43 by weight\n" +
		"VOC: 90 g/L; thinned 5 %: 120 g/L\nMaximum thickness: 2 mm at 20 °C, 1.5 mm at 30 °C\n" +
		"Shelf life: part A 18 months, part B 9 months\n"))
	told, err := json.Marshal(d.Product)
	if err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{`"other":100,"parts":2`, `"other":43,"parts":1`, `"vocThinned":{"source":"sheet","value":120}`,
		`"filmMaxAt":[{"at":20,"film":0.002,"source":"sheet"},{"at":30,"film":0.0015,"source":"sheet"}]`,
		`"shelfLife":{"source":"sheet","value":23652000}`, `"shelfLife":{"source":"sheet","value":47304000}`} {
		if !strings.Contains(string(told), want) {
			t.Errorf("%s is missing in %s", want, told)
		}
	}
}

// Quantities as sheets write them, by hand.
func TestQuantities(t *testing.T) {
	g := newGrammar()
	for text, want := range map[string]amount{
		"2,5 kg": {of: mass, low: 2.5, high: 2.5}, "1,200 mPa·s": {of: viscosity, low: 1.2, high: 1.2},
		"1/8 in": {of: film, low: 0.003175, high: 0.003175}, "5 in all": {}, "46 ± 2 %": {of: share, low: 0.46,
			high: 0.46},
		"−5 °C":                  {of: temperature, low: -5, high: -5},
		"3 lbs/1000 sq ft/24 hr": {of: emission, low: 1.69527e-7, high: 1.69527e-7}, "6 lb/gal": {of: density,
			low: 718.95847, high: 718.95847},
		"0,3 kg/m²": {of: perArea, low: 0.3, high: 0.3},
		"12–14 h":   {of: span, low: 43200, high: 50400, ranged: true}, "10 °C to 30 °C": {of: temperature, low: 10,
			high:   30,
			ranged: true}, "55 to 85 °F": {of: temperature, low: 12.777778, high: 29.444444, ranged: true},
		"4 mils": {of: film, low: 101.6e-6, high: 101.6e-6}, "400 ft²/gal": {of: spread, low: 9816.954, high: 9816.954},
		"200 mL/m²": {of: film, low: 2e-4, high: 2e-4}, "30–75%": {of: share, low: 0.3, high: 0.75, ranged: true},
		"HX40 h": {},
	} {
		all := g.find(text)
		if want.of == "" {
			if len(all) > 0 {
				t.Errorf("%q: %+v", text, all)
			}
			continue
		}
		if len(all) != 1 || all[0].of != want.of || !draft.Same(all[0].low, want.low) ||
			!draft.Same(all[0].high, want.high) || all[0].ranged != want.ranged || all[0].text != text {
			t.Errorf("%q: %+v, want %+v", text, all, want)
		}
	}
}

// What is said again in another unit counts once, and is remembered where it is another amount; “between” makes a
// range of two amounts, and thousands stand after a point where decimals stand after a comma. By hand.
func TestAmountsBesideEachOther(t *testing.T) {
	g := newGrammar()
	for text, want := range map[string]amount{
		"50 °F (10 °C)": {low: 10, high: 10}, "50 °F / 14 °C": {low: 10, high: 10, twin: "14 °C"},
		"between 10 and 30 °C": {low: 10, high: 30, ranged: true}, "between 5 °C and 25 °C": {low: 5, high: 25,
			ranged: true},
		"85% +/- 2%": {low: 0.85, high: 0.85}, "50–90 °F (10–32 °C)": {low: 10, high: 32.222222, ranged: true},
	} {
		if all := g.find(text); len(all) != 1 || !draft.Same(all[0].low, want.low) ||
			!draft.Same(all[0].high, want.high) || all[0].ranged != want.ranged || all[0].twin != want.twin {
			t.Errorf("%q: %+v", text, all)
		}
	}
	if all := g.find("10 kg and 25 kg"); len(all) != 2 {
		t.Errorf("two packs are %+v", all)
	}
	g.comma = true
	if all := g.find("2.200 mPa·s, 1,55 kg/l"); len(all) != 2 || !draft.Same(all[0].low, 2.2) ||
		!draft.Same(all[1].low, 1550.0) {
		t.Errorf("%+v", all)
	}
	d := From(Lines("Tern 9\nEpoxy primer\n\n" +
		"Maximum slab temperature: 86 °F (25 °C)\nAir temperature: max. 86 °F (25 °C)\n"))
	if last := d.Values[len(d.Values)-1]; last.State != draft.Doubtful || last.Why != "the sheet says 86 °F and 25 °C" {
		t.Errorf("%+v", last)
	}
}

// A sheet that says one thing in two ways is contradictory with both lines; one that says nothing gives
// nothing, and lists what it lacks.
func TestContradictionsAndSilence(t *testing.T) {
	d := From(Lines("Tern 5\nEpoxy primer\n\nVolume solids: 62 %\nSolids by volume: 60 %\n"))
	doubts := 0
	for _, v := range d.Values {
		if v.Path == "volumeSolids" && v.State == draft.Doubtful && v.Why == "line 4 says 62 %, line 5 says 60 %" {
			doubts++
		}
	}
	if doubts != 2 {
		t.Errorf("%+v", d.Values)
	}
	d = From(Lines("Tern 5\nEpoxy primer\n\nMix ratio: 2:1 by volume\n" +
		"Kits: 4 gal (2 gal A + 2 gal B)\nKits: 10 gal (4 gal A + 2 gal B)\n"))
	for path, why := range map[string]string{"ratio": "line 4 says 2:1, the kit of line 5 holds other parts",
		"kits": "its parts, 4 gal A + 2 gal B, do not add up to it"} {
		if !slices.ContainsFunc(d.Values, func(v draft.Value) bool {
			return v.Path == path && v.State == draft.Doubtful && v.Why == why
		}) {
			t.Errorf("%s: %+v", path, d.Values)
		}
	}
	fits := From(Lines("Tern 5\nEpoxy primer\n\nMix ratio: 2:1 by volume\nKits: 3 gal (2 gal A + 1 gal B)\n"))
	if slices.ContainsFunc(fits.Values, func(v draft.Value) bool { return v.State == draft.Doubtful }) {
		t.Errorf("%+v", fits.Values)
	}
	if d := From(Lines("We are open from 8 to 16.\n")); len(d.Values) != 1 || !slices.Contains(d.Missing, "potLife") {
		t.Errorf("%+v", d.Values)
	}
	shelf := d.Shelf()["products"].([]any)[0].(map[string]any)
	if shelf["id"] != "tern-5" || shelf["chemistry"] != "epoxy" || shelf["potLife"] != nil {
		t.Errorf("%v", shelf)
	}
}

func FuzzRead(f *testing.F) {
	files, err := filepath.Glob("testdata/*.txt")
	if err != nil {
		f.Fatal(err)
	}
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(string(text))
	}
	f.Fuzz(func(t *testing.T, text string) {
		const most = 20_000 // bytes: longer ones take the time of many
		d := From(Lines(text[:min(len(text), most)]))
		if _, err := json.Marshal(d); err != nil {
			t.Error(err)
		}
	})
}

// A text without line ends is read in lines of a length that a sheet has, so that its time grows with it alone.
func TestLongLinesAreDivided(t *testing.T) {
	lines := Lines(strings.Repeat("Pot life 20 min at 20 °C. ", 400) + strings.Repeat("x", 5000))
	for n, l := range lines {
		if len(l.Text) > 1200 {
			t.Errorf("line %d has %d bytes", n+1, len(l.Text))
		}
	}
	found := 0
	for _, v := range From(lines).Values {
		if v.Path == "potLife" && v.Value.(map[string]any)["lasts"] == 1200.0 {
			found++
		}
	}
	if found != 400 {
		t.Errorf("%d of 400 pot lives", found)
	}
}

func BenchmarkReading(b *testing.B) {
	text, err := os.ReadFile("testdata/body-us.txt")
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		From(Lines(string(text)))
	}
}

// Hazards are read from words and from the codes of hazard statements (Regulation (EC) 1272/2008, Annex III), and not
// where the sheet denies them; a caution is the sentence that follows its heading.
func TestHazardsAreRead(t *testing.T) {
	read := func(text string) (hazards, cautions []any) {
		d := From(Lines("Gannet 12\nEpoxy body coat\n\n" + text))
		hazards, _ = d.Product["hazards"].([]any)
		cautions, _ = d.Product["cautions"].([]any)
		return hazards, cautions
	}
	for text, want := range map[string][]any{
		"Part B contains isocyanates.":                     {"isocyanate"},
		"H314, H317: wear gloves.":                         {"skin-sensitiser", "corrosive"},
		"May cause an allergic skin reaction. Flammable.":  {"skin-sensitiser", "flammable"},
		"An isocyanate-free system, not flammable.":        nil,
		"Resists corrosive chemicals and non-flammable.":   nil,
		"Härter wirkt ätzend und ist hautsensibilisierend": {"skin-sensitiser", "corrosive"},
		"Isocyanates.\nIsocyanates again.":                 {"isocyanate"},
	} {
		got, _ := read(text)
		same := len(got) == len(want)
		for _, h := range want {
			same = same && slices.Contains(got, h)
		}
		if !same {
			t.Errorf("%q: %v, want %v", text, got, want)
		}
	}
	if _, got := read("PRECAUTIONS\nPart B burns skin and eyes.\nKeep out of reach of children.\n" +
		"Pot life: 20 min at 20 °C\nA pail of it weighs little."); len(got) != 2 ||
		got[1] != "Keep out of reach of children." {
		t.Errorf("cautions below a heading %v", got)
	}
	if _, got := read("CAUTION: A full pail left standing smokes; pour it out.\nCaution marks"); len(got) != 1 ||
		got[0] != "A full pail left standing smokes; pour it out." {
		t.Errorf("cautions %v", got)
	}
}
