package kit_test

import (
	"strings"
	"testing"
	"time"

	"nephelon/core/kit"
	"nephelon/core/label"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// A label finds its pack, and its expiry follows from the day it was made where it says none.
func TestALabelFindsItsPack(t *testing.T) {
	litres, weighs := measure.Volume(0.006), measure.Mass(24)
	density := &measure.Sourced[measure.Density]{Value: 1200, Source: measure.Sheet}
	tern := material.Product{ID: "tern", Name: "Tern 40", Ratio: material.Ratio{Basis: material.ByVolume},
		Components: []material.Component{{Name: "A", Parts: 2, Density: density}, {Name: "B", Parts: 1, Density: density}},
		ShelfLife:  &measure.Sourced[measure.Span]{Value: 365 * 24 * measure.Hour, Source: measure.Sheet},
		Kits: []material.Kit{{Name: "6 L", Volume: &litres, Code: "9506000134352"},
			{Name: "24 kg", Mass: &weighs, Code: "T24"}}}
	grit := material.Medium{ID: "grit", Name: "Quay grit", Kind: "grit",
		Packs: []material.Pack{{Name: "bag", Amount: 25, Code: "G"}}}
	find := func(text string) kit.Found {
		t.Helper()
		scan, err := label.Read(text, time.Date(2031, 5, 6, 9, 0, 0, 0, time.UTC))
		if err != nil {
			t.Fatal(err)
		}
		found, is := kit.FindPack(scan, []material.Product{tern}, []material.Medium{grit})
		if !is {
			t.Fatalf("%s is not found", text)
		}
		return found
	}
	if c := find("(01)09506000134352(10)L1(11)310301").Container; c.Sheet != "tern" || c.Part != "kit" ||
		c.Volume != 0.006 || c.Lot != "L1" || c.Expires != "2032-02-29" || !c.Derived {
		t.Errorf("%+v", c)
	}
	if c := find("(01)09506000134352(17)311201(11)310301").Container; c.Expires != "2031-12-01" || c.Derived {
		t.Errorf("the label's own date: %+v", c)
	}
	if f := find("t24"); f.Container.Volume != 0.02 || f.Container.Expires != "" || f.Name != "Tern 40, 24 kg" {
		t.Errorf("%+v", f)
	}
	if c := find("G").Container; c.Part != "medium" || c.Mass != 25 || c.Sheet != "grit" {
		t.Errorf("%+v", c)
	}
	// A corrected day moves what was derived, and never what was read.
	c := find("(01)09506000134352(11)310301").Container
	c.Made = "2031-04-01"
	if got := c.Dated(tern); got.Expires != "2032-03-31" {
		t.Errorf("%+v", got)
	}
	c.Derived = false
	if got := c.Dated(tern); got.Expires != c.Expires || got.Derived {
		t.Errorf("%+v", got)
	}
}

// An opened part that takes up moisture is looked at after a month; others are not.
func TestOpenedPartsAreLookedAt(t *testing.T) {
	now := time.Date(2031, 5, 6, 9, 0, 0, 0, time.UTC)
	for name, c := range map[string]struct {
		chemistry material.Chemistry
		part      string
		opened    string
		look      bool
	}{
		"hardener, long open":  {"polyaspartic", "B", "2031-03-01", true},
		"kit, long open":       {"polyurethane", "kit", "2031-03-01", true},
		"resin alone":          {"polyaspartic", "A", "2031-03-01", false},
		"opened last week":     {"polyaspartic", "B", "2031-05-01", false},
		"takes up no moisture": {"epoxy", "B", "2031-03-01", false},
		"not known when":       {"polyaspartic", "B", "", false},
	} {
		look := kit.Container{Part: c.part, Opened: true, OpenedOn: c.opened}.
			Look(material.Product{Chemistry: c.chemistry}, now)
		if (look != "") != c.look || c.look && !strings.Contains(look, "66 days") {
			t.Errorf("%s: %q", name, look)
		}
	}
}
