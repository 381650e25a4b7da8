package material

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"nephelon/core/measure"
)

// A sheet that says nothing but its names becomes one without faults or doubts when all that is typical is taken;
// everything taken is marked as assumed, and what can spoil a floor is on the careful side of its range.
func TestTypicalValuesFitEachOther(t *testing.T) {
	offered := 0
	for _, chemistry := range Chemistry("").Values() {
		for _, kind := range []Kind{"moisture-barrier", "primer", "body", "metallic", "flood", "clear", "paint", "urethane",
			"polyaspartic", "binder"} {
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

// Assumed parts make the density of the mix that the sheet gives, whichever is taken first. By hand: 3 L of 1.2 kg/L
// weigh 3.6 kg; with 1 L of B at 1.0 the 2 L of A weigh 2.6 kg, 1.3 kg/L. By mass 2 : 1: 3 kg take 2.5 L; 1 kg of B
// takes 1 L, and 2 kg of A 1.5 L, 1.333 kg/L.
func TestAssumedPartsMakeTheMix(t *testing.T) {
	for basis, a := range map[Basis]float64{ByVolume: 1300, ByMass: 4000. / 3} {
		for _, first := range []string{"/components/0/density", "/components/1/density"} {
			p := Product{Kind: "body", Chemistry: "epoxy", Ratio: Ratio{Basis: basis, Source: measure.Sheet},
				Components: []Component{{Name: "A", Parts: 2}, {Name: "B", Parts: 1}},
				Density:    &measure.Sourced[measure.Density]{Value: 1200, Source: measure.Sheet}}
			take(t, &p, Gap{Field: first, Typical: p.typical(first, measure.Metric)})
			for _, g := range p.Gaps(measure.Metric) {
				if strings.HasPrefix(g.Field, "/components") {
					take(t, &p, g)
				}
			}
			got, mix := float64(p.Components[0].Density.Value), float64(p.Mix().Density.Value)
			if math.Abs(got/a-1) > 1e-9 || math.Abs(mix/1200-1) > 1e-9 {
				t.Errorf("%s, %s first: A weighs %v and the mix %v", basis, first, got, mix)
			}
		}
	}
}

// Figures that deny each other are asked about; figures that fit are not.
func TestFiguresThatDenyEachOther(t *testing.T) {
	from := func(v float64) *measure.Sourced[measure.Fraction] {
		return &measure.Sourced[measure.Fraction]{Value: measure.Fraction(v), Source: measure.Sheet}
	}
	density := func(v measure.Density) *measure.Sourced[measure.Density] {
		return &measure.Sourced[measure.Density]{Value: v, Source: measure.Sheet}
	}
	film := func(v measure.Film) *measure.Sourced[measure.Film] {
		return &measure.Sourced[measure.Film]{Value: v, Source: measure.Sheet}
	}
	for name, c := range map[string]struct {
		field  string
		change func(*Product)
	}{
		"all fits":               {"", func(*Product) {}},
		"mix and parts":          {"/density", func(p *Product) { p.Density = density(1500) }},
		"solids exchanged":       {"/massSolids", func(p *Product) { p.MassSolids = from(0.5) }},
		"VOC above what leaves":  {"/voc", func(p *Product) { p.VOC.Value = 420 }},
		"spread outside films":   {"/printed", func(p *Product) { p.Printed.Value = 20_000 }},
		"a larger mass lives on": {"/potLife", func(p *Product) { p.PotLife[1].Lasts = 50 * measure.Minute }},
	} {
		p := Product{Kind: "primer", Chemistry: "epoxy", Carrier: Solvent, VolumeSolids: *from(0.6), MassSolids: from(0.75),
			Ratio: Ratio{Basis: ByVolume, Source: measure.Sheet},
			Components: []Component{{Name: "A", Parts: 2, Density: density(1300)},
				{Name: "B", Parts: 1, Density: density(1000)}},
			Density: density(1200), VOC: &measure.Sourced[measure.Content]{Value: 290, Source: measure.Sheet},
			Film:    Film{FilmMin: film(1e-4), FilmMax: film(3e-4)},
			Printed: &Printed{Basis: "spread", Value: 5000, Figure: Theoretical},
			Curing: Curing{PotLife: []PotLife{{At: 20, Mass: 1, Lasts: 40 * measure.Minute, Source: measure.Sheet},
				{At: 20, Mass: 5, Lasts: 30 * measure.Minute, Source: measure.Sheet}}}}
		c.change(&p)
		doubts := p.Doubts(measure.Metric)
		if c.field == "" && len(doubts) > 0 || c.field != "" && (len(doubts) != 1 || doubts[0].Field != c.field) {
			t.Errorf("%s: %+v", name, doubts)
		}
	}
}

// A ratio that nobody read is refused; a paint of one part has none.
func TestAnAssumedRatioIsRefused(t *testing.T) {
	volume := measure.Volume(0.01)
	p := Product{Ratio: Ratio{Basis: ByVolume, Source: measure.Assumed},
		VolumeSolids: measure.Sourced[measure.Fraction]{Value: 1},
		Components:   []Component{{Name: "A", Parts: 2}, {Name: "B", Parts: 1}}, Kits: []Kit{{Name: "10 L", Volume: &volume}}}
	if faults := p.Faults(); len(faults) != 1 || faults[0].Field != "/ratio" {
		t.Errorf("%+v", faults)
	}
	p.Components = p.Components[:1]
	if faults := p.Faults(); len(faults) > 0 {
		t.Errorf("of one part: %+v", faults)
	}
}
