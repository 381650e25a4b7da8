package sheet

import (
	"encoding/json"
	"testing"

	"nephelon/core/draft"
)

// A newer sheet takes the place of what it states alone: prices, contents and names of the shelf stay, a pack that is
// new is added, and what was left out is as if the sheet did not state it. By hand.
func TestANewerSheetOverAKeptOne(t *testing.T) {
	d := From(Lines("Tern 5\nEpoxy primer\n\nMixing ratio: 3:1 by volume\nDensity A: 1.2 kg/L\nVOC: 40 g/L\n" +
		"Pot life: 25 min at 20 °C\nKits: 4 L and 20 L\nMixing time: 2-3 min\n"))
	left := -1
	for n, v := range d.Values {
		if v.Path == "mixing" && v.State == draft.Doubtful {
			left = n
		}
	}
	d = d.Without([]int{left})
	text, err := d.Over([]byte(`{"id": "tern-5", "name": "Tern 5 primer", "kind": "moisture-barrier", "color": "#123456",
		"components": [{"name": "Base", "parts": 2, "density": {"value": 1150, "source": "sheet"}},
			{"name": "Hardener", "parts": 1, "density": {"value": 1010, "source": "own-test"}}],
		"potLife": [{"at": 20, "lasts": 1800, "source": "sheet"}, {"at": 30, "lasts": 900, "source": "sheet"}],
		"mixing": {"value": 150, "source": "sheet"}, "voc": {"value": 60, "source": "sheet"},
		"kits": [{"name": "Set 4", "volume": 0.004, "price": 88, "contents": ["roller"], "source": "sheet"}]}`))
	if err != nil {
		t.Fatal(err)
	}
	var got, want any
	if err := json.Unmarshal(text, &got); err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal([]byte(`{"id": "tern-5", "name": "Tern 5 primer", "kind": "moisture-barrier",
		"color": "#123456", "ratio": {"basis": "volume", "source": "sheet"},
		"components": [{"name": "Base", "parts": 3, "density": {"value": 1200, "source": "sheet"}},
			{"name": "Hardener", "parts": 1, "density": {"value": 1010, "source": "own-test"}}],
		"potLife": [{"at": 20, "lasts": 1500, "source": "sheet"}],
		"mixing": {"value": 150, "source": "sheet"}, "voc": {"value": 40, "source": "sheet"},
		"kits": [{"name": "Set 4", "volume": 0.004, "price": 88, "contents": ["roller"], "source": "sheet"},
			{"name": "20 L", "volume": 0.02, "source": "sheet"}]}`), &want); err != nil {
		t.Fatal(err)
	}
	if !draft.Same(got, want) {
		t.Errorf("%s", text)
	}
	if len(d.Product["kits"].([]any)) != 2 || d.Product["mixing"] != nil {
		t.Errorf("%v", d.Product)
	}
	if text, err := From(Lines("Tern 5\nEpoxy primer\n\nDensity A: 1.2 kg/L\nMixing ratio: 4:1:9 by weight\n")).Over(
		[]byte(`{"components": [{"name": "one", "parts": 1}]}`)); err != nil ||
		string(text) != `{"components":[{"density":{"source":"sheet","value":1200},"name":"A","parts":4},`+
			`{"name":"B","parts":1},{"name":"C","parts":9}],"ratio":{"basis":"mass","source":"sheet"}}` {
		t.Errorf("%s, %v", text, err)
	}
	if _, err := d.Over([]byte("no sheet")); err == nil {
		t.Error("what is no sheet is taken")
	}
}
