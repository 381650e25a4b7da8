package sheet

import (
	"encoding/json"
	"slices"
	"testing"

	"nephelon/core/measure"

	"nephelon/core/draft"
)

// A sheet with several hardeners becomes one product: its standard hardener among the components, the others beside
// it with their ratio and times; what the sheet says for all of them holds with each.
func TestHardenersOfASheet(t *testing.T) {
	d := From(Lines("Tern 40\nEpoxy coating\n\nHardener  Mix ratio by weight  Pot life at 20 °C\n" +
		"Fast  100:50  10 min\nStandard  100:40  30 min\n\nFull cure: 7 days at 20 °C\nDensity, part B: 1.0 kg/L\n" +
		"Pot life: 25 min at 20 °C\n"))
	text, err := json.Marshal(d.Product)
	if err != nil {
		t.Fatal(err)
	}
	var product struct {
		Components []struct {
			Name  string
			Parts float64
		}
		PotLife   []struct{ Lasts float64 }
		Hardeners []struct {
			ID, Name string
			Ratio    struct{ Basis string }
			A, B     float64
			PotLife  []struct{ At, Lasts float64 }
			Full     []struct{ After float64 }
			Density  struct{ Value float64 }
		}
	}
	if err := json.Unmarshal(text, &product); err != nil {
		t.Fatal(err)
	}
	c, own, h := product.Components, product.PotLife, product.Hardeners
	if len(c) != 2 || c[1].Name != "B, Standard" || c[1].Parts != 40 || len(own) != 1 || own[0].Lasts != 1800 {
		t.Errorf("components %+v, pot life %+v", c, own)
	}
	if len(h) != 1 || h[0].ID != "fast" || h[0].Name != "Fast" || h[0].Ratio.Basis != "mass" ||
		h[0].A != 100 || h[0].B != 50 ||
		h[0].Density.Value != 1000 {
		t.Fatalf("hardeners %+v", h)
	}
	p, f := h[0].PotLife, h[0].Full
	if len(p) != 1 || p[0].At != 20 || p[0].Lasts != 600 || len(f) != 1 || f[0].After != 604800 {
		t.Errorf("times %+v %+v", p, f)
	}
}

// What holds with which hardener is read where the sheet says so, and not at all where it does not.
func TestWhichHardener(t *testing.T) {
	const head = "Tern 40\nEpoxy coating with hardener F (fast) or hardener S (slow)\n\n"
	for _, c := range []struct {
		name, text string
		want       []string
	}{
		{"columns", "Property  F  S\nHardener  F  S\nFull cure, 20 °C  3 d  7 d",
			[]string{"full F fast 259200", "full S slow 604800"}},
		{"a cell is missing", "Hardener  F  S  X20\nFull cure, 20 °C  3 d  7 d", nil},
		{"another table below", "Property  Fast  Slow\nFull cure, 20 °C  3 d  7 d\nSlab  10 °C  20 °C\nTack free  9 h  5 h",
			[]string{"full F fast 259200", "full S slow 604800", "tackFree  32400", "tackFree  18000"}},
		{"rows of temperatures", "Tack free  Fast  Slow\n10 °C  4 h  9 h\n20 °C  2 h  5 h",
			[]string{"tackFree F fast 14400", "tackFree S slow 32400", "tackFree F fast 7200", "tackFree S slow 18000"}},
		{"beside each", "Tack free at 20 °C: 2 h (fast), 5 h (slow)",
			[]string{"tackFree F fast 7200", "tackFree S slow 18000"}},
		{"in the label", "Tack free, slow hardener: 5 h at 20 °C", []string{"tackFree S slow 18000"}},
		{"below a heading", "Hardener S\nTack free: 5 h at 20 °C\n\nFull cure: 7 d at 20 °C",
			[]string{"tackFree S slow 18000", "full  604800"}},
		{"of all", "Tack free: 5 h at 20 °C", []string{"tackFree  18000"}},
		{"a letter that is a unit", "Tack free at 68 °F: 5 h", []string{"tackFree  18000"}},
		{"a letter that is a hardener", "Tack free, F: 2 h at 20 °C", []string{"tackFree F fast 7200"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			var got []string
			for _, v := range From(Lines(head + c.text)).Values {
				if seconds, is := v.Value.(float64); is && isTime(v.Path) {
					got = append(got, v.Path+" "+v.Hardener+" "+measure.Rounded(seconds, 0))
				}
			}
			if !slices.Equal(got, c.want) {
				t.Errorf("got %q, want %q", got, c.want)
			}
		})
	}
	for _, alone := range []string{"Resin to hardener 2:1 by volume", "Resin 600 g, hardener 300 g",
		"Hardener 5 kg, resin 10 kg",
		"Part A: resin, part B: hardener B"} {
		if all := hardenersOf(Lines("Tern 40\nEpoxy with a fast hardener\n" + alone)); all != nil {
			t.Errorf("%s: %+v", alone, all)
		}
	}
}

// What may be scattered into a film and mixed into it is read where the sheet allows it.
func TestAdditions(t *testing.T) {
	for _, c := range []struct{ text, path, want string }{
		{"Broadcast with quartz sand 0.4-0.8 mm to rejection.", "broadcast", "quartz"},
		{"Decorative vinyl flakes may be broadcast into the wet film.", "broadcast", "flake"},
		{"Im Überschuss mit Quarzsand abgestreut.", "broadcast", "quartz"},
		{"Do not broadcast quartz into this coat.", "broadcast", ""},
		{"Sand with 120 grit if the window has passed.", "broadcast", ""},
		{"Pigment: max. 5 % by weight of part A", "pigmentMax", "5% of A"},
		{"Filler: up to 1 : 0.8 by weight with quartz sand", "solidsMax", "80% of A+B"},
		{"Filler: 30 % by weight", "solidsMax", "30% of A+B ?"},
		{"Max. tint paste: 4 % by volume of the mix", "pigmentMax", "4% of A+B ?"},
	} {
		got := ""
		for _, v := range From(Lines("Tern 40\nEpoxy coating\n\n" + c.text)).In(measure.Metric).Values {
			if v.Path == c.path {
				got += v.Understood + map[bool]string{true: " ?"}[v.State == draft.Doubtful]
			}
		}
		if got != c.want {
			t.Errorf("%s: %s is %q, want %q", c.text, c.path, got, c.want)
		}
	}
}

// A value is said as it was understood, in the units of whoever reads it.
func TestUnderstood(t *testing.T) {
	d := From(Lines("Tern 40\nEpoxy coating for concrete and screed\n\nMix ratio: 3:1 by volume\n" +
		"Pot life: 25 min at 20 °C, 500 g\nCoverage: 5 m²/L\nWet film: 200 - 400 µm\nDew point: 3 °C above\n" +
		"Substrate temperature: min. 10 °C\nKits: 10 kg\nVOC: 80 g/L\n"))
	want := map[measure.System]map[string]string{
		measure.Metric: {"over": "concrete, screed", "ratio": "3 : 1 by volume", "potLife": "25 min of 500 g",
			"printed": "5 m²/L, spread",
			"filmMin": "200 µm", "dewMargin": "3 K", "slabMin": "10 °C", "kits": "10 kg", "voc": "80 g/L"},
		measure.US: {"slabMin": "50 °F", "kits": "22.05 lb", "filmMax": "15.7 mil", "printed": "204 ft²/gal, spread"},
	}
	for units, all := range want {
		for _, v := range d.In(units).Values {
			if words, is := all[v.Path]; is && words != v.Understood {
				t.Errorf("%s of %s: %q, want %q", v.Path, v.As, v.Understood, words)
			}
			delete(all, v.Path)
		}
		if len(all) > 0 {
			t.Errorf("not read: %v", all)
		}
	}
}

// A pot life of a volume gets its mass by the density of the mix, a word divided at the end of a line stands together,
// a stroke is a minute, and under which humidity something was tested is no limit. By hand: 1 gal at 9.2 lb/gal is
// 4.173 kg.
func TestQuirksOfSheets(t *testing.T) {
	d := From(Lines("Tern 40\nEpoxy coating\n\nPot life: 25 min @ 77 °F (1 gal)¹\nWorking time: 32' at 20 °C\n" +
		"Full cure: N/A\nDensity (mixed): 9.2 lb/gal\nRecoat: after 8 hours, with-\nin 24 hours at 20 °C\n" +
		"¹ At 50 % relative humidity.\n")).In(measure.Metric)
	want := map[string]string{"potLife": "25 min of 4.17 kg", "working": "32 min", "density": "1.102 kg/L"}
	for _, v := range d.Values {
		if words, is := want[v.Path]; is && words != v.Understood {
			t.Errorf("%s: %q, want %q", v.Path, v.Understood, words)
		}
		if delete(want, v.Path); v.Path == "humidityMax" || v.Path == "full" {
			t.Errorf("read from %q: %s", v.Text, v.Path)
		}
	}
	if len(want) > 0 {
		t.Errorf("not read: %v", want)
	}
	// An amount that is read anew moves the values behind it.
	moved := From(Lines("Tern 40\nEpoxy coating\n\nCoverage: 5 m²/L\nPot life: 25 min @ 77 °F (1 gal)\nVOC: 20 g/L\n" +
		"Recommended coverage: 4 m²/L\nDensity (mixed): 9.2 lb/gal\n")).In(measure.Metric)
	for _, v := range moved.Values {
		if v.Path == "potLife" && v.Understood != "25 min of 4.17 kg" || v.Path == "voc" && v.Understood != "20 g/L" {
			t.Errorf("%s: %s", v.Path, v.Understood)
		}
	}
	lines := Lines("with-\nin 24 h\nA-\nB 3")
	if lines[0].Text != "within" || lines[1].Text != "24 h" || lines[2].Text != "A-" {
		t.Errorf("%+v", lines)
	}
}
