package material

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"nephelon/core/measure"
)

// A sheet that says nothing but its names becomes one without faults or doubts when all that is typical is taken;
// everything taken is marked as assumed, and what can spoil a floor is on the careful side of its range.
func TestTypicalValuesFitEachOther(t *testing.T) {
	offered := 0
	for _, chemistry := range Chemistry("").Values() {
		for _, kind := range []Kind{"moisture-barrier", "primer", "body", "metallic", "flood", "clear", "paint", "urethane", "polyaspartic", "binder"} {
			for _, carrier := range append(Carrier("").Values(), "") {
				volume := measure.Volume(0.01)
				p := Product{ID: "x", Name: "X", Kind: kind, Chemistry: chemistry, Carrier: carrier, Color: "#000000",
					Ratio:        Ratio{Basis: ByVolume, Source: measure.Sheet},
					Components:   []Component{{Name: "A", Parts: 3}, {Name: "B", Parts: 1}},
					VolumeSolids: measure.Sourced[measure.Fraction]{Value: 1, Source: measure.Assumed},
					Kits:         []Kit{{Name: "10 L", Volume: &volume, Source: measure.Sheet}}}
				if chemistry == "alkyd" {
					p.Components = p.Components[:1]
				}
				name := fmt.Sprintf("%s %s by %q", chemistry, kind, carrier)
				for _, g := range p.Gaps(measure.Metric) {
					if g.Typical == nil {
						continue
					}
					offered++
					take(t, &p, g)
				}
				solids := typicalSolids(p).known()
				for _, f := range p.Faults() {
					t.Errorf("%s: %s %s", name, f.Field, f.Text)
				}
				for _, d := range p.Doubts(measure.Metric) {
					if solids {
						t.Errorf("%s: %s %s", name, d.Field, d.Text)
					}
				}
				for _, f := range p.Facts() {
					if f.Source == measure.Sheet && f.Name != "mixing ratio" && f.Name != "kit 10 L" {
						t.Errorf("%s: %s is said to be from the sheet", name, f.Name)
					}
				}
			}
		}
		of := typicalTimesOf(chemistry)
		careful := map[string]struct {
			s     spread
			early bool
		}{"pot life": {of.life, true}, "recoat from": {of.from, false}, "recoat until": {of.until, true},
			"foot traffic": {of.foot, false}, "full cure": {of.full, false}}
		for name, c := range careful {
			half := (c.s.least + c.s.most) / 2
			if c.s.usual < c.s.least || c.s.usual > c.s.most || c.s.known() && c.early && c.s.usual > half ||
				c.s.known() && !c.early && c.s.usual < 0.8*half {
				t.Errorf("%s, %s: %v lies on the careless side of %v to %v", chemistry, name, c.s.usual, c.s.least, c.s.most)
			}
		}
	}
	if offered < 1000 {
		t.Errorf("only %d values are offered", offered)
	}
}

// take puts what is typical into a sheet as the form does: at its field, as JSON.
func take(t *testing.T, p *Product, g Gap) {
	t.Helper()
	text, err := json.Marshal(g.Typical.Value)
	if err != nil {
		t.Fatal(err)
	}
	field := strings.Split(strings.TrimPrefix(g.Field, "/"), "/")
	if len(field) == 3 {
		part := &p.Components[field[1][0]-'0']
		if err := json.Unmarshal(text, &part.Density); err != nil {
			t.Fatal(err)
		}
		return
	}
	if err := json.Unmarshal([]byte(fmt.Sprintf(`{%q:%s}`, field[0], text)), p); err != nil {
		t.Fatalf("%s: %v", g.Field, err)
	}
	if !strings.Contains(string(text), `"assumed"`) {
		t.Errorf("%s is not marked as assumed: %s", g.Field, text)
	}
}
