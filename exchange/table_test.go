package exchange_test

import (
	"bytes"
	"slices"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pricelist"
	"nephelon/exchange"
)

// A list says the same as text of any kind and as a workbook.
func TestATableIsReadFromEachForm(t *testing.T) {
	book := excelize.NewFile()
	if _, err := book.NewSheet("Prices"); err != nil {
		t.Fatal(err)
	}
	for cell, value := range map[string]any{"A1": "No.", "B1": "Product", "C1": "Price",
		"A2": 4012345678901, "B2": "Größe 6 L", "C2": 84.5, "A3": "007", "B3": "Quay, grit", "C3": 1234.0} {
		if err := book.SetCellValue("Prices", cell, value); err != nil {
			t.Fatal(err)
		}
	}
	var packed bytes.Buffer
	if err := book.Write(&packed); err != nil {
		t.Fatal(err)
	}
	want := [][]string{{"No.", "Product", "Price"}, {"4012345678901", "Größe 6 L", "84.5000"},
		{"007", "Quay, grit", "1234"}}
	same := func(a, b []string) bool { return slices.Equal(a, b) }
	for name, file := range map[string][]byte{
		"workbook":   packed.Bytes(),
		"commas":     []byte("No.,Product,Price\n4012345678901,Größe 6 L,84.5000\n007,\"Quay, grit\",1234,,\n"),
		"semicolons": []byte("No.;Product;Price\r\n4012345678901;Größe 6 L;84.5000\r\n007;Quay, grit;1234\r\n"),
		"tabs, BOM":  []byte("\xef\xbb\xbfNo.\tProduct\tPrice\n4012345678901\tGröße 6 L\t84.5000\n007\tQuay, grit\t1234"),
		"old text":   []byte("No.;Product;Price\n4012345678901;Gr\xf6\xdfe 6 L;84.5000\n007;Quay, grit;1234\n"),
	} {
		rows, err := exchange.ReadTable(file)
		if err != nil || !slices.EqualFunc(rows, want, same) {
			t.Errorf("%s: %q, %v", name, rows, err)
		}
	}
	for says, file := range map[string]string{"old form": "\xd0\xcf\x11\xe0", "PDF": "%PDF-1.7", "neither": "a\x00b",
		"no rows": "", "cannot be opened": "PK\x03\x04 nothing", "over": strings.Repeat("x,", 70) + "y"} {
		if rows, err := exchange.ReadTable([]byte(file)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %q, %v", says, rows, err)
		}
	}
}

// FuzzTable reads anything as a price list and matches it to a shelf: no crash, and no price that is none.
func FuzzTable(f *testing.F) {
	volume, book := measure.Volume(0.006), excelize.NewFile()
	if err := book.SetCellValue("Sheet1", "A1", 84.5); err != nil {
		f.Fatal(err)
	}
	var packed bytes.Buffer
	if err := book.Write(&packed); err != nil {
		f.Fatal(err)
	}
	for _, seed := range []string{"Item no.;Product;Size;Price\nT1;Tern 40;6 L;84,50\n", "a\tb\n\"", "x,1.234\ny,1,5",
		packed.String()} {
		f.Add([]byte(seed))
	}
	products := []material.Product{{ID: "tern", Name: "Tern 40", Components: []material.Component{{Name: "A", Parts: 1}},
		Kits: []material.Kit{{Name: "6 L", Volume: &volume, Code: "T1"}}}}
	f.Fuzz(func(t *testing.T, file []byte) {
		rows, err := exchange.ReadTable(file)
		if err != nil {
			return
		}
		columns := pricelist.Guess(rows)
		if columns.Usable() != "" {
			columns = pricelist.PriceColumns{Code: 1, Name: 2, Size: 3, Price: 4}
		}
		for _, l := range pricelist.Read(rows, columns, products, nil) {
			if l.Offer != nil && !(l.Offer.Price >= 0 && l.Offer.Price <= 1e6) || l.Offer == nil && l.Trouble == "" {
				t.Fatalf("%+v", l)
			}
		}
	})
}
