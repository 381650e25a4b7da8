package pricelist_test

import (
	"slices"
	"strings"
	"testing"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pricelist"
)

func volume(v measure.Volume) *measure.Volume { return &v }

func priced(p float64) *float64 { return &p }

func fourColumns() pricelist.PriceColumns {
	return pricelist.PriceColumns{Code: 1, Name: 2, Size: 3, Price: 4}
}

// shelf is two products whose names begin alike, one with a fast hardener of its own kits, and two media.
func shelf() ([]material.Product, []material.Medium) {
	density := &measure.Sourced[measure.Density]{Value: 1200, Source: measure.Sheet}
	parts := []material.Component{{Name: "A", Parts: 2, Density: density}, {Name: "B", Parts: 1, Density: density}}
	solids := measure.Sourced[measure.Fraction]{Value: 1, Source: measure.Sheet}
	mass := measure.Mass(24)
	return []material.Product{
			{ID: "tern", Name: "Tern 40", Version: 3, Components: parts, Ratio: material.Ratio{Basis: material.ByVolume},
				VolumeSolids: solids,
				Kits: []material.Kit{{Name: "set S", Volume: volume(0.006), Price: priced(80), Code: "T40-6"},
					{Name: "set L", Mass: &mass, Price: priced(190)},
					{Name: "old set", Volume: volume(0.006), Gone: true}},
				Hardeners: []material.Hardener{{ID: "fast", Name: "fast", Ratio: material.Ratio{Basis: material.ByVolume}, A: 2,
					B: 1, Kits: []material.Kit{{Name: "set F", Volume: volume(0.006), Price: priced(95)}}}}},
			{ID: "tern-clear", Name: "Tern 40 Clear", Version: 1, Components: parts, VolumeSolids: solids,
				Ratio: material.Ratio{Basis: material.ByVolume},
				Kits:  []material.Kit{{Name: "4 L", Volume: volume(0.004)}}},
		}, []material.Medium{
			{ID: "grit", Name: "Quay grit", Kind: "grit", Version: 2, Packs: []material.Pack{{Name: "bag", Amount: 25}}},
			{ID: "roller", Name: "Roller 25 cm", Kind: "tool", Packs: []material.Pack{{Name: "box", Amount: 10}}},
		}
}

// Each row of a list finds its pack, or says why it finds none.
func TestRowsFindTheirPacks(t *testing.T) {
	products, media := shelf()
	read := func(decimal pricelist.Decimal, rows ...[]string) []pricelist.PriceLine {
		c := fourColumns()
		c.Decimal = decimal
		return pricelist.Read(rows, c, products, media)
	}
	for name, c := range map[string]struct {
		row   []string
		sheet string // and the pack; empty where none fits
		match pricelist.Match
		price float64
		says  string
	}{
		"by number":              {[]string{"t40-6", "anything", "", "84.50"}, "tern/set S", pricelist.ByCode, 84.5, ""},
		"by name and litres":     {[]string{"", "TERN-40", "6 L", "81"}, "tern/set S", pricelist.ByName, 81, ""},
		"by name and quarts":     {[]string{"", "Tern 40", "6.34 qt", "81"}, "tern/set S", pricelist.ByName, 81, ""},
		"a mass kit by litres":   {[]string{"", "Tern 40", "20 L", "199"}, "tern/set L", pricelist.ByName, 199, ""},
		"a litre kit by pounds":  {[]string{"", "Tern 40", "15.9 lb", "80"}, "tern/set S", pricelist.ByName, 80, ""},
		"parts that add up":      {[]string{"", "Tern 40", "A 4 L + B 2 L", "88"}, "tern/set S", pricelist.ByName, 88, ""},
		"a count of cans":        {[]string{"", "Tern 40", "2 x 3 L", "88"}, "tern/set S", pricelist.ByName, 88, ""},
		"the longer name":        {[]string{"", "Tern 40 clear", "4 L", "70"}, "tern-clear/4 L", pricelist.ByName, 70, ""},
		"its only size":          {[]string{"", "Tern 40 Clear coat", "", "70"}, "tern-clear/4 L", pricelist.ByName, 70, ""},
		"a hardener's own":       {[]string{"", "Tern 40 fast", "6 L", "99"}, "tern/set F", pricelist.ByName, 99, ""},
		"a medium by mass":       {[]string{"", "Quay grit 0.4-0.8", "25 kg", "19"}, "grit/bag", pricelist.ByName, 19, ""},
		"a tool by pieces":       {[]string{"", "Roller 25 cm", "10 pcs", "31"}, "roller/box", pricelist.ByName, 31, ""},
		"a new size":             {[]string{"", "Tern 40", "12 L", "150"}, "tern/12 L", pricelist.ByName, 150, "added"},
		"far from what it was":   {[]string{"", "Tern 40", "6 L", "8.4"}, "tern/set S", pricelist.ByName, 8.4, "-90%"},
		"no such product":        {[]string{"", "Gannet 7", "6 L", "80"}, "", pricelist.None, 80, "no product of this name"},
		"a size is missing":      {[]string{"", "Tern 40", "", "80"}, "", pricelist.None, 80, "names no size"},
		"a name that is shorter": {[]string{"", "Tern", "6 L", "80"}, "", pricelist.None, 80, "no product"},
		"two sizes":              {[]string{"", "Tern 40", "6 L / 20 L", "80"}, "", pricelist.None, 80, "two sizes"},
		"a tool in an odd unit":  {[]string{"", "Roller 25 cm", "3 kg", "31"}, "", pricelist.None, 31, "not sold by"},
		"on request":             {[]string{"", "Tern 40", "6 L", "on request"}, "", pricelist.None, 0, "no figure"},
		"below zero":             {[]string{"", "Tern 40", "6 L", "-80"}, "", pricelist.None, 0, "negative"},
		"a price is missing":     {[]string{"T40-6", "Tern 40", "6 L", ""}, "", pricelist.None, 0, "no price"},
	} {
		lines := read(pricelist.Point, c.row)
		slices.Reverse(products) // the order of the shelf does not matter
		if again := read(pricelist.Point, c.row); len(again) != 1 || again[0].Match != lines[0].Match {
			t.Errorf("%s: another order gives %+v", name, again)
		}
		slices.Reverse(products)
		if len(lines) != 1 {
			t.Errorf("%s: %d lines", name, len(lines))
			continue
		}
		l, got := lines[0], ""
		if l.Offer != nil {
			got = l.Offer.Sheet + "/" + l.Offer.Name
		}
		if got != c.sheet || l.Match != c.match || c.price > 0 && (l.Price == nil || *l.Price != c.price) ||
			!strings.Contains(l.Trouble, c.says) || c.says == "" && l.Trouble != "" {
			t.Errorf("%s: %q by %s for %v, %q", name, got, l.Match, l.Price, l.Trouble)
		}
	}
	// A heading between groups is passed over; the second row of one pack is told.
	lines := read(pricelist.Point, []string{"", "FLOORS", "", ""}, []string{"", "Tern 40", "6 L", "81"},
		[]string{"", "Tern 40", "6 litres", "82"})
	if len(lines) != 2 || lines[0].Row != 2 || lines[1].Offer != nil || !strings.Contains(lines[1].Trouble, "Row 2") {
		t.Errorf("%+v", lines)
	}
}

// Fractions are told from the whole column, and a list that does not say is not guessed at.
func TestPricesAreReadAsTheListWritesThem(t *testing.T) {
	products, media := shelf()
	for name, c := range map[string]struct {
		decimal pricelist.Decimal
		prices  []string
		want    []float64 // -1 where it is not read
	}{
		"points":           {"", []string{"1,234.50", "80", "2,000"}, []float64{1234.5, 80, 2000}},
		"commas":           {"", []string{"1.234,50 €", "80,-", "2.000"}, []float64{1234.5, 80, 2000}},
		"apart by spaces":  {"", []string{"1 234,5", "80"}, []float64{1234.5, 80}},
		"only whole":       {"", []string{"$80", "USD 95"}, []float64{80, 95}},
		"not said":         {"", []string{"1.234", "80"}, []float64{-1, 80}},
		"both":             {"", []string{"12.50", "12,50"}, []float64{-1, -1}},
		"chosen":           {"comma", []string{"1.234"}, []float64{1234}},
		"four after it":    {"", []string{"12.1250"}, []float64{12.125}},
		"beyond all price": {"", []string{"99999999"}, []float64{-1}},
	} {
		for i, written := range c.prices {
			rows := [][]string{{"", written}}
			for k, other := range c.prices {
				if k != i {
					rows = append(rows, []string{"", other})
				}
			}
			rows[0][0] = "Tern 40 clear"
			got := pricelist.Read(rows, pricelist.PriceColumns{Name: 1, Price: 2, Decimal: c.decimal}, products, media)
			if read := got[0].Price; (read == nil) != (c.want[i] < 0) || read != nil && *read != c.want[i] {
				t.Errorf("%s: %q is read as %v: %s", name, written, read, got[0].Trouble)
			}
		}
	}
}

// The columns are proposed by their headings, wherever these stand.
func TestColumnsAreProposed(t *testing.T) {
	for _, c := range []struct {
		rows [][]string
		want pricelist.PriceColumns
	}{
		{[][]string{{"Valid from May"}, {"Item no.", "Description", "Pack size", "List price", "Net price (EUR)"}},
			pricelist.PriceColumns{Head: 2, Code: 1, Name: 2, Size: 3, Price: 5}},
		{[][]string{{"Artikel", "Gebinde", "Preis"}}, pricelist.PriceColumns{Head: 1, Name: 1, Size: 2, Price: 3}},
		{[][]string{{"Producto", "Envase", "Precio"}}, pricelist.PriceColumns{Head: 1, Name: 1, Size: 2, Price: 3}},
		{[][]string{{"Tern 40", "6 L", "80"}}, pricelist.PriceColumns{}},
	} {
		if got := pricelist.Guess(c.rows); got != c.want {
			t.Errorf("%v: %+v", c.rows, got)
		}
	}
	if got := pricelist.Currency([][]string{{"Tern", "Net price (EUR)"}}, pricelist.PriceColumns{Price: 2}); got != "EUR" {
		t.Errorf("the currency is %q", got)
	}
	if (pricelist.PriceColumns{Name: 1}).Usable() == "" || (pricelist.PriceColumns{Name: 1, Price: 1}).Usable() == "" ||
		(pricelist.PriceColumns{Price: 1}).Usable() == "" || (pricelist.PriceColumns{Code: 1, Price: 2}).Usable() != "" {
		t.Error("columns that cannot be read are taken, or those that can refused")
	}
}

// Taking offers sets prices and numbers, adds sizes, and leaves the sheet that it was read from alone.
func TestOffersAreTaken(t *testing.T) {
	products, media := shelf()
	rows := [][]string{{"N1", "Tern 40", "6 L", "84"}, {"N2", "Tern 40 fast", "6 L", "99"},
		{"N3", "Tern 40", "12 L", "150"}, {"N4", "Quay grit", "10 kg", "9"}}
	var offers []pricelist.PriceOffer
	for _, l := range pricelist.Read(rows, fourColumns(), products, media) {
		if l.Offer == nil {
			t.Fatalf("row %d: %s", l.Row, l.Trouble)
		}
		offers = append(offers, *l.Offer)
	}
	got, err := pricelist.Priced(products[0], offers[:3])
	if err != nil {
		t.Fatal(err)
	}
	if k := got.Kits; len(k) != 4 || *k[0].Price != 84 || k[0].Code != "N1" || *k[3].Price != 150 ||
		*k[3].Volume != 0.012 ||
		len(got.Faults()) > 0 {
		t.Errorf("%+v, %v", k, got.Faults())
	}
	if k := got.Hardeners[0].Kits[0]; *k.Price != 99 || k.Code != "N2" {
		t.Errorf("%+v", k)
	}
	if *products[0].Kits[0].Price != 80 || len(products[0].Kits) != 3 || *products[0].Hardeners[0].Kits[0].Price != 95 {
		t.Error("the sheet itself changed")
	}
	grit, err := pricelist.PricedMedium(media[0], offers[3:])
	if err != nil || len(grit.Packs) != 2 || grit.Packs[1].Amount != 10 || *grit.Packs[1].Price != 9 {
		t.Errorf("%+v, %v", grit, err)
	}
	if _, err := pricelist.Priced(products[1], offers[:1]); err == nil {
		t.Error("a pack that is not there is priced")
	}
	// The list read once more changes nothing.
	products[0], media[0] = got, grit
	for _, l := range pricelist.Read(rows, fourColumns(), products, media) {
		if !l.Same || l.Match != pricelist.ByCode {
			t.Errorf("row %d is matched by %s, same is %v", l.Row, l.Match, l.Same)
		}
	}
}
