package buildup

import (
	"reflect"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// By hand: a coat of 4 L with 1 L of base and three colours, in two batches; the
// smaller one, 1.2 L of it, takes 0.3 L of base and 0.45 L of each other.
func TestCupsOfABatch(t *testing.T) {
	c := Colouring{Way: "base", Base: 0.001, Colours: make([]Colour, 3)}
	expect := func(got []measure.Volume, want ...float64) {
		t.Helper()
		for i := range want {
			if len(got) != len(want) || !near(float64(got[i]), want[i], 1e-12) {
				t.Fatalf("%v, want %v", got, want)
			}
		}
	}
	expect(c.Volumes(0.004, 1), 0.001, 0.0015, 0.0015)
	expect(c.Volumes(0.0012, 0.3), 0.0003, 0.00045, 0.00045)
	expect(c.Volumes(0.0005, 1), 0.0005, 0, 0) // no more base than there is
	c.Colours = c.Colours[:1]
	expect(c.Volumes(0.004, 1), 0.004)
	shares := Colouring{Way: "shares", Colours: []Colour{{Share: 0.6}, {Share: 0.25}, {Share: 0.15}}}
	expect(shares.Volumes(0.004, 0.5), 0.0024, 0.001, 0.0006)
}

func TestWhatACupTakes(t *testing.T) {
	c := Colouring{Colours: make([]Colour, 5)}
	if c.Cling() != 5e-6 || c.Smallest() != 60e-6 || c.Minutes() != measure.Minute {
		t.Errorf("%v %v %v stand in", c.Cling(), c.Smallest(), c.Minutes())
	}
	for hands, want := range map[int]measure.Span{0: 300, 1: 300, 2: 180, 4: 120, 5: 60, 9: 60} {
		if got := c.Takes(hands); got != want {
			t.Errorf("%d hands colour five cups in %v s, want %v", hands, got, want)
		}
	}
	c.Left, c.Least, c.Each = 1e-6, 2e-6, 30
	if c.Cling() != 1e-6 || c.Smallest() != 2e-6 || c.Minutes() != 30 || c.Takes(2) != 90 {
		t.Errorf("%v %v %v as said", c.Cling(), c.Smallest(), c.Minutes())
	}
	// What clings to five cups is mixed on top.
	p := product(1, 1100)
	coat := Coat{Amount: Amount{Basis: WetFilm, Value: 3e-4}, Loss: sheet(measure.Fraction(0)),
		Colours: &Colouring{Way: "base", Base: 0.001, Colours: make([]Colour, 5)}}
	if b := coat.Build(&p, p.Mix(), Under{Area: 10}); !near(float64(b.Need), 0.003025, 1e-12) ||
		!near(float64(b.Extra), 25e-6, 1e-9) {
		t.Errorf("%v mixed, %v of it extra", b.Need, b.Extra)
	}
}

func TestColoursThatCannotBe(t *testing.T) {
	tint := func(v measure.Fraction) *material.Portion { return &material.Portion{Value: v, Of: material.OfAB} }
	for name, c := range map[string]struct {
		colouring Colouring
		path      string
	}{
		"all of it":    {Colouring{Way: "shares", Colours: []Colour{{Share: 0.7}, {Share: 0.3}}}, ""},
		"rounded up":   {Colouring{Way: "shares", Colours: []Colour{{Share: 0.7}, {Share: 0.3059}}}, ""},
		"too much":     {Colouring{Way: "shares", Colours: []Colour{{Share: 0.7}, {Share: 0.3061}}}, "/c/colours"},
		"too little":   {Colouring{Way: "shares", Colours: []Colour{{Share: 0.7}, {Share: 0.2939}}}, "/c/colours"},
		"base":         {Colouring{Way: "base", Base: 1e-6, Colours: []Colour{{}, {}}}, ""},
		"no base":      {Colouring{Way: "base", Colours: []Colour{{}, {}}}, "/c/base"},
		"most pigment": {Colouring{Way: "base", Base: 1, Colours: []Colour{{}, {Portion: tint(0.5)}}}, ""},
		"more pigment": {Colouring{Way: "base", Base: 1, Colours: []Colour{{}, {Portion: tint(0.51)}}},
			"/c/colours/1/portion"},
		"pigment in a share": {Colouring{Way: "shares", Colours: []Colour{{Share: 1, Portion: tint(0.51)}}},
			"/c/colours/0/portion"},
	} {
		switch f := c.colouring.check("/c"); {
		case f == nil && c.path != "":
			t.Errorf("%s is taken", name)
		case f != nil && f.Path != c.path:
			t.Errorf("%s: %+v", name, f)
		}
	}
}

// Cups hold their share of the coat, each with its own pigment.
func TestPigmentInCups(t *testing.T) {
	p := product(1, 1000)
	media := map[string]*material.Medium{"r": {ID: "r", Name: "Rust"}, "g": {ID: "g", Name: "Granite"},
		"th": {ID: "th", Name: "Slow thinner"}}
	c := Coat{Amount: Amount{Basis: WetFilm, Value: 1e-3}, Loss: sheet(measure.Fraction(0)), ThinWith: "th",
		Thinner: &material.Portion{Value: 0.1, Of: material.OfAB},
		Colours: &Colouring{Way: "shares", Left: 1e-12, Colours: []Colour{
			{Name: "Clear", Share: 0.5},
			{Name: "Rust", Share: 0.3, Medium: "r", Portion: &material.Portion{Value: 0.02, Of: material.OfAB}},
			{Name: "Granite", Share: 0.2, Medium: "g", Portion: &material.Portion{Value: 0.05, Of: material.OfAB}},
			{Name: "Gone", Share: 0, Medium: "gone", Portion: &material.Portion{Value: 0.05, Of: material.OfAB}},
		}}}
	b := c.Build(&p, p.Mix(), Under{Area: 11, Media: media})
	// 11 L on the floor are 10 L of product and 1 L of thinner.
	want := []Addition{
		{Medium: "th", Name: "Slow thinner", How: IntoMix, Volume: 0.001},
		{Medium: "r", Name: "Rust", How: IntoCups, Mass: 0.06},
		{Medium: "g", Name: "Granite", How: IntoCups, Mass: 0.1},
	}
	if len(b.Additions) != len(want) {
		t.Fatalf("%+v", b.Additions)
	}
	for i, w := range want {
		got := b.Additions[i]
		if got.Medium != w.Medium || got.Name != w.Name || got.How != w.How || !got.Mixed() ||
			!near(float64(got.Mass), float64(w.Mass), 1e-6) || !near(float64(got.Volume), float64(w.Volume), 1e-6) {
			t.Errorf("%+v, want %+v", got, w)
		}
	}
}

// Stones wetted in the mix, by hand: 6 % of 12 kg/m² at 1.2 kg/L are 0.6 mm of resin;
// they bind nothing more and are laid with it. By degree: 15, 50 and 100 % of a full
// broadcast, or as much as is said.
func TestStonesAndGrains(t *testing.T) {
	stones := &material.Medium{ID: "s", Name: "Stones", Kind: "pebble", Full: sheet(measure.Coverage(14)),
		Bind: sheet(measure.Film(1e-3)), Voids: sheet(measure.Film(4e-4))}
	media := map[string]*material.Medium{"s": stones}
	p := product(1, 1200)
	c := Coat{Amount: Amount{Basis: ByStone, Value: 0.06}, Loss: sheet(measure.Fraction(0)),
		Scatter: &Scatter{Medium: "s", Degree: "full", Mass: sheet(measure.Coverage(12))}}
	b := c.Build(&p, p.Mix(), Under{Area: 10, Media: media})
	if !c.Wets() || !near(float64(b.Wet), 0.6e-3, 1e-12) || !near(float64(b.Need), 0.006, 1e-12) {
		t.Errorf("%v wet, %v of it", b.Wet, b.Need)
	}
	if a := b.Additions[0]; a.How != WithMix || !near(float64(a.Mass), 120, 1e-12) || a.Mixed() {
		t.Errorf("%+v", a)
	}
	for degree, mass := range map[string]float64{"light": 21, "even": 70, "full": 140} {
		c := Coat{Amount: Amount{Basis: WetFilm, Value: 1e-3}, Scatter: &Scatter{Medium: "s", Degree: degree}}
		how := map[string]string{"light": "scattered lightly", "even": "scattered evenly",
			"full": "broadcast to rejection"}[degree]
		if a := c.Build(&p, p.Mix(), Under{Area: 10, Media: media}).Additions[0]; !near(float64(a.Mass), mass, 1e-12) ||
			a.How != how {
			t.Errorf("%s: %+v", degree, a)
		}
		if g := c.Leaves(media); g.Name != "Stones" || !near(float64(g.Voids.Value), 4e-4*mass/140, 1e-12) {
			t.Errorf("%s leaves %+v", degree, g)
		}
	}
	if stones.Voids.Value != 4e-4 {
		t.Errorf("the medium itself was changed: %v", stones.Voids.Value)
	}
	if (Coat{}).Leaves(media) != nil || (Coat{Scatter: &Scatter{Medium: "x"}}).Leaves(media) != nil {
		t.Error("nothing scattered leaves nothing")
	}
	stones.Voids = nil
	if c.Leaves(media) != nil {
		t.Error("a medium that leaves no voids leaves nothing")
	}
	// Grit is tossed onto the film where it is not stirred in.
	tossed := Coat{Amount: Amount{Basis: WetFilm, Value: 1e-3},
		Grit: &Grit{Medium: "s", Dose: *sheet(measure.Content(60))}}
	if a := tossed.Build(&p, p.Mix(), Under{Area: 10, Media: media, Tossed: true}).Additions[0]; a.How !=
		"scattered evenly onto the wet film" || a.Mixed() {
		t.Errorf("%+v", a)
	}
}

// A coat names its media in the order in which it is worked, and a system names each
// product and medium once.
func TestNames(t *testing.T) {
	full := Coat{Product: "a", Scatter: &Scatter{Medium: "m1"}, Grit: &Grit{Medium: "m2"}, ThinWith: "m5",
		Colours: &Colouring{Colours: []Colour{{Medium: "m3"}, {}, {Medium: "m3"}}}, Pigment: &Tint{Medium: "m4"}}
	want := []Naming{{"/scatter/medium", "m1"}, {"/grit/medium", "m2"}, {"/colours/colours/0/medium", "m3"},
		{"/colours/colours/2/medium", "m3"}, {"/pigment/medium", "m4"}, {"/thinWith", "m5"}}
	if got := full.Media(); !reflect.DeepEqual(got, want) {
		t.Errorf("%+v", got)
	}
	products, media := System{Coats: []Coat{full, {Product: "b"}, {Product: "a", Pigment: &Tint{Medium: "m1"}},
		{}}}.Names()
	if !reflect.DeepEqual(products, []string{"a", "b"}) ||
		!reflect.DeepEqual(media, []string{"m1", "m2", "m3", "m4", "m5"}) {
		t.Errorf("%v, %v", products, media)
	}
}

// The workings show the figures they rest on, by the way the amount was stated.
func TestWorkings(t *testing.T) {
	p := product(0.5, 1200)
	volume := measure.Volume(0.012)
	p.Kits = []material.Kit{{Volume: &volume}, {Volume: new(measure.Volume(0.02)), Gone: true},
		{Mass: new(measure.Mass(12))}}
	media := map[string]*material.Medium{"s": {ID: "s", Name: "Stones"}}
	for basis, c := range map[Stated]struct {
		value   float64
		formula string
		inputs  []float64
		wet     float64
	}{
		WetFilm:     {3e-4, "as entered", []float64{3e-4}, 3e-4},
		DryFilm:     {1e-4, "dry film ÷ volume solids", []float64{1e-4, 0.5}, 2e-4},
		SpreadRate:  {5000, "1 ÷ spread rate", []float64{5000}, 2e-4},
		MassPerArea: {0.6, "mass per area ÷ density of the mix", []float64{0.6, 1200}, 5e-4},
		Notch:       {1e-3, "depth of the notch ÷ 2 (common practice)", []float64{1e-3}, 5e-4},
		AreaPerKit:  {40, "largest kit ÷ area per kit", []float64{40}, 3e-4},
		ByStone: {0.05, "mix to a mass of stone × stones on an area ÷ density of the mix",
			[]float64{0.05, 12, 1200}, 5e-4},
	} {
		coat := Coat{Amount: Amount{Basis: basis, Value: c.value},
			Scatter: &Scatter{Medium: "s", Degree: "full", Mass: sheet(measure.Coverage(12))}}
		for _, thinner := range []float64{0, 0.1} {
			coat.Thinner = nil
			if thinner > 0 {
				coat.Thinner = &material.Portion{Value: 0.1, Of: material.OfAB}
			}
			b := coat.Build(&p, p.Mix(), Under{Area: 10, Media: media})
			formula, inputs, wet := c.formula, c.inputs, c.wet
			if thinner > 0 && basis != WetFilm && basis != Notch {
				formula, inputs, wet = formula+" × (1 + thinner)", append(inputs[:len(inputs):len(inputs)], 0.1), wet*1.1
			}
			film, got := b.Workings[0], []float64{}
			for _, v := range film.Inputs {
				got = append(got, v.SI)
			}
			if film.Formula != formula || !reflect.DeepEqual(got, inputs) || !near(film.Result.SI, wet, 1e-12) ||
				!near(float64(b.Wet), wet, 1e-12) {
				t.Errorf("%s: %s of %v = %v; want %s of %v = %v", basis, film.Formula, got, film.Result.SI, formula, inputs, wet)
			}
		}
	}
}

// What is shown is what was added up: the inputs of the volume, put into its formula,
// end in its result.
func TestWorkingsOfTheVolume(t *testing.T) {
	p := product(1, 1200)
	c := Coat{Amount: Amount{Basis: WetFilm, Value: 4e-4}, Loss: sheet(measure.Fraction(0.1)),
		Soak:    sheet(measure.Film(30e-6)),
		Thinner: &material.Portion{Value: 0.1, Of: material.OfAB}}
	u := Under{Area: 20, Upright: 4, RunOff: 1}
	for _, faces := range []bool{false, true} {
		for _, run := range []measure.Area{0, 1} {
			u.RunOff = run
			formula, area := "area × wet film ÷ (1 − loss)", 20.0
			film := (20 + float64(run)) * 4e-4
			if run > 0 {
				formula = "(area + run-off) × wet film ÷ (1 − loss)"
			}
			c.Faces = nil
			if faces {
				c.Faces = sheet(measure.Film(1e-4))
				formula, area = "(area × wet film + area of faces × film there) ÷ (1 − loss)", 16
				film = (16+float64(run))*4e-4 + 4*1e-4
				if run > 0 {
					formula = "((area + run-off) × wet film + area of faces × film there) ÷ (1 − loss)"
				}
			}
			b := c.Build(&p, p.Mix(), u)
			w := b.Workings[1]
			want := (film/0.9 + 30e-6*20) / 1.1
			if w.Formula != formula+" + soaked in − thinner" || w.Inputs[0].SI != area || !near(w.Result.SI, want, 1e-12) ||
				!near(float64(b.Need), want, 1e-12) {
				t.Errorf("%s of %v is %v; want %s, %v", w.Formula, w.Inputs[0].SI, w.Result.SI, formula, want)
			}
			of := map[string]float64{}
			for _, v := range w.Inputs {
				of[v.Name] = v.SI
			}
			if !near(of["Soaked in"], 6e-4, 1e-12) || !near(of["Thinner"], want*0.1, 1e-9) || of["Loss"] != 0.1 ||
				of["Wet film"] != 4e-4 {
				t.Errorf("%+v", w.Inputs)
			}
			if faces && (of["Area of edges and upright faces"] != 4 || of["Wet film there"] != 1e-4) || run > 0 &&
				of["Run-off over the edges, as area"] != 1 {
				t.Errorf("%+v", w.Inputs)
			}
			if m := b.Workings[2]; !near(m.Result.SI, want*1200, 1e-12) || len(m.Inputs) != 2 {
				t.Errorf("%+v", m)
			}
		}
	}
	// A film of its own only on what has faces, and only on the whole surface.
	if c.apart(Under{Area: 1}) || (Coat{Faces: c.Faces, On: "level"}).apart(u) {
		t.Error("nothing stands apart there")
	}
}

// A profile's fill, from CSP 1 to 6, beyond which nothing more is known.
func TestProfiles(t *testing.T) {
	for profile, want := range map[int]float64{-1: 0, 0: 0, 1: 20e-6, 2: 50e-6, 3: 100e-6, 4: 200e-6, 5: 350e-6, 6: 500e-6,
		9: 500e-6} {
		if got := ProfileFill(profile); !near(float64(got), want, 1e-12) {
			t.Errorf("CSP %d takes %v", profile, got)
		}
	}
}

// A loss is the coat's own, or the sheet's, or what is usual.
func TestWhoseLoss(t *testing.T) {
	p := product(1, 1100)
	c := Coat{Amount: Amount{Basis: WetFilm, Value: 3e-4}}
	if l := c.loss(&p); l.Value != 0.05 || l.Source != measure.RuleOfThumb {
		t.Errorf("%+v", l)
	}
	p.Loss = sheet(measure.Fraction(0.08))
	if l := c.loss(&p); l.Value != 0.08 {
		t.Errorf("%+v", l)
	}
	c.Loss = sheet(measure.Fraction(0.02))
	if l := c.loss(&p); l.Value != 0.02 {
		t.Errorf("%+v", l)
	}
}
