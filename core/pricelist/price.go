package pricelist

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"nephelon/core/material"
	"nephelon/core/measure"
)

var fraction = regexp.MustCompile(`([.,])(\d{1,2}|\d{4,})\D*$`)

var bare = regexp.MustCompile(`[.,]\s*[-–—]+`)

// decimalOf returns how a column of prices writes fractions: by whatever mark is followed by one, two or more than
// three figures at the end. It is unknown where a column has both.
func decimalOf(rows [][]string, c PriceColumns) Decimal {
	point, comma := false, false
	for n, row := range rows {
		if n < c.Head {
			continue
		}
		if found := fraction.FindStringSubmatch(cell(row, c.Price)); found != nil {
			point, comma = point || found[1] == ".", comma || found[1] == ","
		}
	}
	switch {
	case point && !comma:
		return Point
	case comma && !point:
		return Comma
	}
	return AsWritten
}

// priceOf reads a price; the sentence says why it cannot.
func priceOf(written string, decimal Decimal) (float64, string) {
	fail := func(why string) (float64, string) {
		return 0, fmt.Sprintf("“%s” is no price: %s", written, why)
	}
	if written == "" {
		return 0, "The row has no price."
	}
	whole := bare.ReplaceAllString(written, "") // 80,- is 80
	if strings.ContainsAny(whole, "-−(") && strings.ContainsAny(whole, "0123456789") {
		return fail("a price is not negative and no range.")
	}
	digits := strings.Map(func(r rune) rune {
		if unicode.IsDigit(r) || r == '.' || r == ',' {
			return r
		}
		return -1
	}, whole)
	digits = strings.Trim(digits, ".,")
	switch points, commas := strings.Count(digits, "."), strings.Count(digits, ","); {
	case digits == "":
		return fail("it has no figure.")
	case decimal == Comma:
		digits = strings.Replace(strings.ReplaceAll(digits, ".", ""), ",", ".", 1)
	case decimal == Point:
		digits = strings.ReplaceAll(digits, ",", "")
	case points+commas == 0:
	default:
		return fail("the list does not say whether fractions follow a point or a comma; choose which.")
	}
	price, err := strconv.ParseFloat(digits, 64)
	const highest = 1e6
	if err != nil || price > highest {
		return fail("the figure cannot be read.")
	}
	return price, ""
}

// headings are the words by which a column is known, in English, German and Spanish. What stands first counts more.
func headings() map[string][]string {
	return map[string][]string{
		"price": {"net price", "your price", "unit price", "price per pack", "price", "nettopreis", "preis", "precio neto",
			"precio", "cost"},
		"name": {"product name", "product", "description", "item name", "material", "item", "bezeichnung", "artikel",
			"produkt", "descripción", "producto"},
		"size": {"pack size", "kit size", "size", "pack", "kit", "content", "gebinde", "inhalt", "envase", "contenido"},
		"code": {"article number", "article no", "item number", "item no", "part no", "sku", "gtin", "ean", "barcode",
			"code", "artikelnummer", "artikelnr", "art nr", "referencia", "código"},
	}
}

// Guess proposes the columns of a list by its headings.
func Guess(rows [][]string) PriceColumns {
	const looked = 25
	best, most := PriceColumns{}, 0
	for n, row := range rows[:min(len(rows), looked)] {
		c, found := guessRow(row)
		if found > most && c.Price > 0 {
			best, most = c, found
			best.Head = n + 1
		}
	}
	if most < 2 {
		return PriceColumns{}
	}
	return best
}

func guessRow(row []string) (c PriceColumns, found int) {
	taken := make(map[int]bool)
	// “Item number” is a number before “item” is a name.
	for _, what := range []string{"code", "price", "size", "name"} {
		at := column(row, headings()[what], taken)
		if at == 0 {
			continue
		}
		taken[at] = true
		found++
		switch what {
		case "price":
			c.Price = at
		case "name":
			c.Name = at
		case "size":
			c.Size = at
		case "code":
			c.Code = at
		}
	}
	return c, found
}

func column(row, names []string, taken map[int]bool) int {
	for _, name := range names {
		for i, text := range row {
			words := strings.Join(wordsOf(text), " ")
			if !taken[i+1] && (words == name || strings.HasPrefix(words, name+" ") || strings.HasSuffix(words, " "+name)) {
				return i + 1
			}
		}
	}
	return 0
}

// symbols are the currencies that a list may show by a sign of their own.
func symbols() map[string]string { return map[string]string{"€": "EUR", "£": "GBP", "¥": "JPY"} }

// currencies are codes that a list may name. A dollar sign alone may be any of several.
func currencies() []string {
	return []string{"EUR", "USD", "GBP", "CHF", "SEK", "NOK", "DKK", "CAD", "AUD", "NZD", "MXN", "PLN", "CZK", "JPY"}
}

// Currency returns the currency that a list names in the column of its prices or above it, else an empty text.
func Currency(rows [][]string, c PriceColumns) string {
	for _, row := range rows {
		text := cell(row, c.Price)
		for symbol, code := range symbols() {
			if strings.Contains(text, symbol) {
				return code
			}
		}
		for _, word := range wordsOf(text) {
			if code := strings.ToUpper(word); slices.Contains(currencies(), code) {
				return code
			}
		}
	}
	return ""
}

// Priced returns a product with the offers for its packs.
func Priced(p material.Product, offers []PriceOffer) (material.Product, error) {
	p.Kits = slices.Clone(p.Kits)
	p.Hardeners = slices.Clone(p.Hardeners)
	for i := range p.Hardeners {
		p.Hardeners[i].Kits = slices.Clone(p.Hardeners[i].Kits)
	}
	for _, o := range offers {
		kits := &p.Kits
		if o.Hardener != "" {
			h := slices.IndexFunc(p.Hardeners, func(h material.Hardener) bool { return h.ID == o.Hardener })
			if h < 0 {
				return p, fmt.Errorf("%s has no hardener %s", p.Name, o.Hardener)
			}
			kits = &p.Hardeners[h].Kits
		}
		at := slices.IndexFunc(*kits, func(k material.Kit) bool { return k.Name == o.Name })
		if at < 0 {
			if !o.Added {
				return p, fmt.Errorf("%s has no pack “%s”", p.Name, o.Name)
			}
			*kits = append(*kits, material.Kit{Name: o.Name, Volume: o.Volume, Mass: o.Mass, Source: measure.Sheet})
			at = len(*kits) - 1
		}
		(*kits)[at].Price = &o.Price
		if o.Code != "" {
			(*kits)[at].Code = o.Code
		}
	}
	return p, nil
}

// PricedMedium returns a medium with the offers for its packs.
func PricedMedium(m material.Medium, offers []PriceOffer) (material.Medium, error) {
	m.Packs = slices.Clone(m.Packs)
	for _, o := range offers {
		at := slices.IndexFunc(m.Packs, func(k material.Pack) bool { return k.Name == o.Name })
		if at < 0 {
			if !o.Added {
				return m, fmt.Errorf("%s has no pack “%s”", m.Name, o.Name)
			}
			added := material.Pack{Name: o.Name}
			switch {
			case o.Volume != nil:
				added.Amount = float64(*o.Volume)
			case o.Mass != nil:
				added.Amount = float64(*o.Mass)
			}
			m.Packs = append(m.Packs, added)
			at = len(m.Packs) - 1
		}
		m.Packs[at].Price = &o.Price
		if o.Code != "" {
			m.Packs[at].Code = o.Code
		}
	}
	return m, nil
}
