package buildup

import (
	"slices"
	"testing"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

func told(on Bed, coats []Coat, sheets ...material.Product) []finding.Finding {
	return Neighbours(laidOver(coats, sheets...), on, measure.Metric)
}

func share(value measure.Fraction, of string) *material.Portion {
	return &material.Portion{Value: value, Of: of, Source: measure.Sheet}
}

func TestThinnerAgainstTheSheet(t *testing.T) {
	a := named("a", "epoxy")
	a.Components = append(a.Components, material.Component{Name: "B", Parts: 1})
	thin := func(p *material.Portion) []Coat { return []Coat{{Thinner: p}} }
	const path = "/surfaces/0/coats/0/thinner"
	// Without solvent and with a silent sheet: never. So, too, where the sheet says 0.
	f := one(t, told(bed(), thin(share(0.02, material.OfAB)), a), path, "thinned by 2%", "it is never thinned",
		"no flame or spark")
	patch(t, f.Fix, finding.PatchStep{Op: "remove", Path: path})
	none(t, told(bed(), thin(share(0, material.OfAB)), a))
	a.Carrier = material.Solvent
	none(t, told(bed(), thin(share(0.3, material.OfAB)), a))
	a.ThinnerMax = share(0, material.OfAB)
	one(t, told(bed(), thin(share(0.02, material.OfAB)), a), path, "it is never thinned")
	// 10 % of A is 5 % of A and B here, and no more.
	a.ThinnerMax = share(0.1, material.OfA)
	none(t, told(bed(), thin(share(0.05, material.OfAB)), a))
	f = one(t, told(bed(), thin(share(0.051, material.OfAB)), a), path, "thinned by 5.1%", "allows 10% of A",
		"no flame or spark")
	patch(t, f.Fix, finding.PatchStep{Op: "replace", Path: path, Value: *share(0.1, material.OfA)})
}

func TestPigmentAgainstTheSheet(t *testing.T) {
	a := named("a", "epoxy")
	a.PigmentMax = share(0.04, material.OfAB)
	tint := func(v measure.Fraction) []Coat { return []Coat{{Pigment: &Tint{Portion: *share(v, material.OfAB)}}} }
	none(t, told(bed(), tint(0.04), a))
	f := one(t, told(bed(), tint(0.041), a), "/surfaces/0/coats/0/pigment", "4.1% of pigment",
		"more than The a allows, 4%")
	patch(t, f.Fix, finding.PatchStep{Op: "replace", Path: "/surfaces/0/coats/0/pigment/portion",
		Value: *share(0.04, material.OfAB)})
	cups := []Coat{{Colours: &Colouring{Way: "shares", Colours: []Colour{
		{Name: "Sand", Share: 0.5}, {Name: "Slate", Share: 0.5, Portion: share(0.05, material.OfAB)},
	}}}}
	f = one(t, told(bed(), cups, a), "/surfaces/0/coats/0/colours/colours/1", "5% of pigment in Slate")
	patch(t, f.Fix, finding.PatchStep{Op: "replace", Path: "/surfaces/0/coats/0/colours/colours/1/portion",
		Value: *share(0.04, material.OfAB)})
	a.PigmentMax = nil
	none(t, told(bed(), tint(0.4), a))
}

func TestWhatIsScattered(t *testing.T) {
	a := named("a", "epoxy")
	a.Broadcast = []string{"flake"}
	on := bed()
	on.Media["q"] = &material.Medium{ID: "q", Name: "Grey quartz", Kind: "quartz", Full: sheet(measure.Coverage(3))}
	on.Media["f"] = &material.Medium{ID: "f", Name: "Blue flake", Kind: "flake", Full: sheet(measure.Coverage(0.5))}
	on.Media["s"] = &material.Medium{ID: "s", Name: "Pebbles", Kind: "pebble", Full: sheet(measure.Coverage(16))}
	on.Media["g"] = &material.Medium{ID: "g", Name: "Sharp grit", Kind: "flake"}
	scatter := func(medium, degree string) Coat { return Coat{Scatter: &Scatter{Medium: medium, Degree: degree}} }
	none(t, told(on, []Coat{scatter("f", "light")}, a))
	// No amount to rejection and none of its own: a missing figure, not 0 kg.
	one(t, told(on, []Coat{scatter("g", "light")}, a), "/surfaces/0/coats/0/scatter",
		"nothing says how much Sharp grit goes onto it", "Enter what stays in coat 1")
	own := scatter("g", "light")
	own.Scatter.Mass = sheet(measure.Coverage(0.1))
	none(t, told(on, []Coat{own}, a))
	none(t, told(on, []Coat{scatter("gone", "full")}, a))
	f := one(t, told(on, []Coat{scatter("q", "even")}, a), "/surfaces/0/coats/0/scatter",
		"Grey quartz is broadcast into The a, whose sheet allows flake")
	patch(t, f.Fix, finding.PatchStep{Op: "remove", Path: "/surfaces/0/coats/0/scatter"})
	a.Broadcast = nil
	none(t, told(on, []Coat{scatter("q", "even")}, a))
	// To rejection with nothing over it.
	f = one(t, told(on, []Coat{scatter("q", "full")}, a), "/surfaces/0/coats/0/scatter", "nothing seals it")
	if !slices.Equal(f.Seek.Kinds, []material.Kind{"grout", "clear", "polyaspartic", "urethane"}) {
		t.Errorf("looks among %v", f.Seek.Kinds)
	}
	seal := named("s", "polyaspartic")
	seal.Look = "clear"
	for kind, fits := range map[material.Kind]bool{"grout": true, "clear": true, "polyaspartic": true, "urethane": true,
		"body": false} {
		q := seal
		q.Kind = kind
		if f.Seek.Fits(q) != fits {
			t.Errorf("%s seals: %v", kind, !fits)
		}
	}
	seal.Kind, seal.Look = "clear", "light"
	if f.Seek.Fits(seal) {
		t.Error("what is not clear hides the grains")
	}
	seal.Look, seal.Over = "clear", []string{"alkyd"}
	if f.Seek.Fits(seal) {
		t.Error("what does not take to it seals it")
	}
	patch(t, f.Seek.Fix(seal), finding.PatchStep{Op: "add", Path: "/surfaces/0/coats/1",
		Value: Coat{ID: "s-seal-2", Product: "s", Amount: Amount{Basis: WetFilm, Value: 200e-6}}})
	none(t, told(on, []Coat{scatter("q", "full"), {}}, a, named("b", "epoxy")))
	none(t, told(on, []Coat{scatter("s", "full")}, a)) // pebbles are meant to be open
}

// By hand: a dry film of 100 µm holds grains to 150 µm.
func TestGrainsAgainstTheirFilm(t *testing.T) {
	a := named("a", "epoxy")
	a.VolumeSolids = *sheet(measure.Fraction(0.5))
	on := bed()
	grain := func(id string, kind material.MediumKind, size float64) {
		on.Media[id] = &material.Medium{ID: id, Name: "The " + id, Kind: kind, Grain: sheet(measure.Film(size))}
	}
	grain("fits", "grit", 150e-6)
	grain("large", "grit", 180e-6)
	on.Media["dust"] = &material.Medium{ID: "dust", Name: "Dust", Kind: "grit"}
	grit := func(id string) []Coat {
		return []Coat{{Amount: Amount{Basis: WetFilm, Value: 200e-6},
			Grit: &Grit{Medium: id, Dose: *sheet(measure.Content(60))}}}
	}
	none(t, told(on, grit("fits"), a))
	none(t, told(on, grit("dust"), a))
	none(t, told(on, grit("gone"), a))
	const path = "/surfaces/0/coats/0/grit"
	// 180 µm want 120 µm dry, 240 µm wet.
	a.FilmMax = sheet(measure.Film(240.001e-6))
	f := one(t, told(on, grit("large"), a), path, "The large of 180 µm",
		"dry film of 100 µm, which holds grains up to 150 µm", "at least 120 µm dry")
	step := f.Fix.Patch[0]
	if amount := step.Value.(Amount); step.Path != "/surfaces/0/coats/0/amount" || amount.Basis != WetFilm ||
		!near(amount.Value, 240e-6, 1e-6) || amount.Value <= 240e-6 || f.Fix.Label != "Lay 240 µm wet" {
		t.Errorf("%s: %+v", f.Fix.Label, step)
	}
	a.FilmMax = nil
	if f := one(t, told(on, grit("large"), a), path); f.Fix.Patch[0].Path != step.Path {
		t.Errorf("without a maximum film: %s", f.Fix.Label)
	}
	// Where that film is too thick, the largest grit that fits is taken, the first by its id.
	a.FilmMax = sheet(measure.Film(239e-6))
	grain("small", "bead", 90e-6)
	grain("also", "bead", 150e-6)
	grain("stone", "pebble", 140e-6)
	f = one(t, told(on, grit("large"), a), path)
	patch(t, f.Fix, finding.PatchStep{Op: "replace", Path: path + "/medium", Value: "also"})
	for _, id := range []string{"fits", "small", "also"} {
		delete(on.Media, id)
	}
	f = one(t, told(on, grit("large"), a), path)
	patch(t, f.Fix, finding.PatchStep{Op: "remove", Path: path})
}

func TestFillingsShowThrough(t *testing.T) {
	a, b := named("a", "epoxy"), named("b", "epoxy")
	b.Look, b.Hides = "light", sheet(measure.Film(400e-6))
	on := bed()
	on.Fills = true
	thick := func(film float64) []Coat { return []Coat{{}, {Amount: Amount{Basis: WetFilm, Value: film}}} }
	const path = "/surfaces/0/coats/1/product"
	none(t, told(on, thick(400e-6), a, b))
	f := one(t, told(on, thick(390e-6), a, b), path, "show through 390 µm of The b; it hides from 400 µm")
	tint := Tint{Dark: true, Portion: material.Portion{Value: 0.03, Of: material.OfAB, Source: measure.RuleOfThumb}}
	patch(t, f.Fix, finding.PatchStep{Op: "add", Path: "/surfaces/0/coats/0/pigment", Value: tint})
	even := bed()
	none(t, told(even, thick(390e-6), a, b))
	b.Hides = nil
	one(t, told(on, thick(9e-4), a, b), path, "its sheet does not say from which film it hides")
	metallic := b
	metallic.Look, metallic.Kind = "mixed", "metallic"
	one(t, told(on, thick(9e-4), a, metallic), path)
	plain := b
	plain.Look = "clear"
	none(t, told(on, thick(9e-4), a, plain))
	// The dark pigment with the first id, no more of it than the sheet takes.
	on.Media["z"] = &material.Medium{ID: "z", Kind: "pigment", Color: "#101010"}
	on.Media["y"] = &material.Medium{ID: "y", Kind: "pigment", Color: "#303030"}
	on.Media["x"] = &material.Medium{ID: "x", Kind: "pigment", Color: "#c0c0c0"}
	on.Media["w"] = &material.Medium{ID: "w", Kind: "flake", Color: "#000000", Full: sheet(measure.Coverage(0.5))}
	tint.Medium = "y"
	f = one(t, told(on, thick(9e-4), a, b), path)
	patch(t, f.Fix, finding.PatchStep{Op: "add", Path: "/surfaces/0/coats/0/pigment", Value: tint})
	a.PigmentMax, tint.Portion.Value = share(0.02, material.OfAB), 0.02
	f = one(t, told(on, thick(9e-4), a, b), path)
	patch(t, f.Fix, finding.PatchStep{Op: "add", Path: "/surfaces/0/coats/0/pigment", Value: tint})
	// Anything dark, tinted dark or broadcast full below hides them; so does one coat's own tint.
	dark := a
	dark.Look = "dark"
	none(t, told(on, thick(3e-4), dark, b))
	none(t, told(on, []Coat{{Pigment: &Tint{Dark: true, Portion: *share(0.01, material.OfAB)}}, {}}, a, b))
	none(t, told(on, []Coat{{}, {Pigment: &Tint{Dark: true, Portion: *share(0.01, material.OfAB)}}}, a, b))
	none(t, told(on, []Coat{{Scatter: &Scatter{Medium: "w", Degree: "full"}}, {}}, a, b))
	one(t, told(on, []Coat{{Scatter: &Scatter{Medium: "w", Degree: "even"}}, {}}, a, b), path)
	// The first of several is not judged: what comes over it is. A single coat is.
	one(t, told(on, []Coat{{}}, b), "/surfaces/0/coats/0/product")
	none(t, told(on, []Coat{{}, {}}, b, a))
}

func TestDarkColours(t *testing.T) {
	for color, want := range map[string]bool{
		"#000000": true, "#4f4f4f": true, "#515151": false, "#ffffff": false, "": false, "#12": false,
		// A full red, green or blue: weights of ITU-R BT.709, 54, 182 and 18 of 255.
		"#ff0000": true, "#00ff00": false, "#0000ff": true, "#ff2400": true, "#ff2500": false, "#ff24ff": false,
	} {
		if dark(color) != want {
			t.Errorf("%s is dark: %v", color, !want)
		}
	}
}

// By hand: 100 g/L with a tenth of thinner at 870 g/L, all of it volatile, hold
// (100 + 87) ÷ 1.1 = 170 g/L.
func TestVolatileCompounds(t *testing.T) {
	a := named("a", "polyurethane")
	a.Carrier, a.VOC = material.Solvent, sheet(measure.Content(100))
	on := bed()
	thin := []Coat{{Thinner: share(0.1, material.OfAB)}}
	none(t, told(on, thin, a))
	on.VOCMax = 170
	none(t, told(on, thin, a))
	on.VOCMax = 169.9
	f := one(t, told(on, thin, a), "/surfaces/0/coats/0/thinner", "holds 170 g/L", "limit is 170 g/L",
		"unthinned it holds 100 g/L")
	patch(t, f.Fix, finding.PatchStep{Op: "remove", Path: "/surfaces/0/coats/0/thinner"})
	on.VOCMax = 100
	none(t, told(on, []Coat{{}}, a))
	one(t, told(on, thin, a), "/surfaces/0/coats/0/thinner")
	on.VOCMax = 99
	b := named("b", "epoxy")
	b.Over, a.Over = []string{"polyurethane"}, []string{"epoxy"}
	c := named("c", "epoxy")
	c.Under = []material.Chemistry{"polyurethane"}
	wait := measure.Span(3600)
	f = one(t, told(on, []Coat{{}, {Wait: &wait, Abraded: true}, {}}, c, a, b), "/surfaces/0/coats/1/product",
		"holds 100 g/L", "limit is 99 g/L")
	other := named("o", "polyurethane")
	other.Kind, other.VOC = a.Kind, sheet(measure.Content(99))
	if !f.Seek.Fits(other) || !slices.Equal(f.Seek.Kinds, []material.Kind{a.Kind}) {
		t.Error("one with less does not fit")
	}
	for name, change := range map[string]func(*material.Product){
		"of another kind":          func(q *material.Product) { q.Kind = "primer" },
		"silent":                   func(q *material.Product) { q.VOC = nil },
		"with as much":             func(q *material.Product) { q.VOC = sheet(measure.Content(99.1)) },
		"not over the coat below":  func(q *material.Product) { q.Over = []string{"tile"} },
		"not under the coat above": func(q *material.Product) { q.Under = []material.Chemistry{"acrylic"} },
		"that nothing goes over":   func(q *material.Product) { q.Chemistry = "acrylic" },
	} {
		q := other
		change(&q)
		if f.Seek.Fits(q) {
			t.Errorf("%s: fits", name)
		}
	}
	patch(t, f.Seek.Fix(other), finding.PatchStep{Op: "replace", Path: "/surfaces/0/coats/1",
		Value: Coat{ID: "c2", Product: "o", Amount: Amount{Basis: WetFilm, Value: 200e-6}, Wait: &wait, Abraded: true}})
	if f.Seek.Fix(other).Label != "Take The o for coat 2" {
		t.Error(f.Seek.Fix(other).Label)
	}
	a.VOC = nil
	none(t, told(on, thin, a))
}

func TestDaylight(t *testing.T) {
	a := named("a", "epoxy")
	on := bed()
	on.Sun = true
	const path = "/surfaces/0/coats/0/product"
	one(t, told(on, []Coat{{}}, a), path, "its sheet does not say that it is stable in daylight")
	a.Sun = "ambers"
	f := one(t, told(on, []Coat{{}}, a), path, "it ambers in daylight", "Coat 1 of The a is the last one")
	q := named("q", "polyaspartic")
	q.Sun, q.Look, q.Over = "stable", "light", []string{"epoxy"}
	if !f.Seek.Fits(q) {
		t.Error("over what hides, a light one does")
	}
	patch(t, f.Seek.Fix(q), finding.PatchStep{Op: "add", Path: "/surfaces/0/coats/1",
		Value: Coat{ID: "q-sun-2", Product: "q", Amount: Amount{Basis: WetFilm, Value: 200e-6}}})
	for name, change := range map[string]func(*material.Product){
		"ambers too":  func(q *material.Product) { q.Sun = "ambers" },
		"silent":      func(q *material.Product) { q.Over = nil },
		"not over it": func(q *material.Product) { q.Over = []string{"tile"} },
	} {
		other := q
		change(&other)
		if f.Seek.Fits(other) {
			t.Errorf("%s: fits", name)
		}
	}
	a.Look = "clear"
	f = one(t, told(on, []Coat{{}}, a), path)
	if f.Seek.Fits(q) {
		t.Error("a light one over a clear one hides what was to be seen")
	}
	q.Look = "clear"
	if !f.Seek.Fits(q) {
		t.Error("a clear one fits over a clear one")
	}
	q.Sun = "stable"
	none(t, told(on, []Coat{{}, {}}, a, q))
	none(t, told(bed(), []Coat{{}}, a))
}

func TestContact(t *testing.T) {
	a := named("a", "epoxy")
	on := bed()
	on.Contact, on.Substrate = "potable", "concrete"
	f := one(t, told(on, []Coat{{}}, a), "/surfaces/0/coats/0/product", "touches drinking water", "no certificate")
	q := named("q", "epoxy")
	q.Certified = []material.Contact{"food", "potable"}
	if !f.Seek.Fits(q) {
		t.Error("a certified one does not fit")
	}
	for name, change := range map[string]func(*material.Product){
		"for something else": func(q *material.Product) { q.Certified = []material.Contact{"food"} },
		"of another kind":    func(q *material.Product) { q.Kind = "clear" },
		"on another ground":  func(q *material.Product) { q.Over = []string{"tile"} },
	} {
		other := q
		change(&other)
		if f.Seek.Fits(other) {
			t.Errorf("%s: fits", name)
		}
	}
	a.Certified = []material.Contact{"potable"}
	none(t, told(on, []Coat{{}}, a))
	on.Contact = "food"
	one(t, told(on, []Coat{{}}, a), "/surfaces/0/coats/0/product", "touches food")
}

// By hand: grains of 400 µm below 100 µm of dry film stand out by 300 µm, which is
// what R12 wants here; 1 µm more film is too much.
func TestSlip(t *testing.T) {
	a, b := named("a", "epoxy"), named("b", "epoxy")
	on := bed()
	on.Slip = "R12"
	on.Media["q"] = &material.Medium{ID: "q", Name: "Quartz", Kind: "quartz", Grain: sheet(measure.Film(400e-6)),
		Full: sheet(measure.Coverage(3))}
	on.Media["f"] = &material.Medium{ID: "f", Name: "Flake", Kind: "flake", Grain: sheet(measure.Film(3000e-6)),
		Full: sheet(measure.Coverage(0.5))}
	scattered := func(medium, degree string, over float64) []Coat {
		return []Coat{{Scatter: &Scatter{Medium: medium, Degree: degree}}, {Amount: Amount{Basis: WetFilm, Value: over}}}
	}
	const path = "/surfaces/0/coats/1/grit"
	none(t, told(on, scattered("q", "even", 100e-6), a, b))
	one(t, told(on, scattered("q", "even", 101e-6), a, b), path, "R12 needs grains of about 300 µm",
		"its grains stand out by 299 µm", "ANSI A326.3")
	one(t, told(on, scattered("q", "light", 100e-6), a, b), path, "nothing stands out of it")
	one(t, told(on, scattered("f", "full", 100e-6), a, b), path, "nothing stands out of it") // flakes lie flat
	one(t, told(on, scattered("gone", "full", 100e-6), a, b), path)
	// Grit stands in its own coat.
	own := []Coat{{}, {Amount: Amount{Basis: WetFilm, Value: 300e-6},
		Grit: &Grit{Medium: "q", Dose: *sheet(measure.Content(60))}}}
	none(t, told(on, own, a, b))
	f := one(t, told(on, []Coat{{}, {}}, a, b), path, "Stir a grit of at least 300 µm")
	for _, c := range []struct {
		kind  material.MediumKind
		grain *measure.Sourced[measure.Film]
		fits  bool
	}{
		{"grit", sheet(measure.Film(300e-6)), true}, {"bead", sheet(measure.Film(899e-6)), true},
		{"grit", sheet(measure.Film(299e-6)), false}, {"grit", sheet(measure.Film(900e-6)), false},
		{"quartz", sheet(measure.Film(400e-6)), false}, {"grit", nil, false},
	} {
		if m := (material.Medium{ID: "g", Kind: c.kind, Grain: c.grain}); f.Seek.FitsMedium(m) != c.fits {
			t.Errorf("%+v fits: %v", m, !c.fits)
		}
	}
	patch(t, f.Seek.FixMedium(material.Medium{ID: "g", Name: "Grit"}), finding.PatchStep{Op: "add", Path: path,
		Value: Grit{Medium: "g", Dose: measure.Sourced[measure.Content]{Value: 60, Source: measure.RuleOfThumb}}})
	for class, grain := range map[string]string{"R10": "60 µm", "R11": "150 µm", "R13": "600 µm"} {
		on.Slip = class
		one(t, told(on, []Coat{{}}, a), "/surfaces/0/coats/0/grit", class+" needs grains of about "+grain)
	}
	on.Slip = "R9"
	none(t, told(on, []Coat{{}}, a))
}
