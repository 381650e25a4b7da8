// Package pricelist reads the price list of a supplier: a table whose columns a person has named once. Each row
// is matched to a pack of the shelf, by its article number or by name and size. What fits no pack, or more than
// one, is told and changes nothing.
package pricelist

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Decimal names how a list writes fractions.
type Decimal string

// The ways of writing fractions.
const (
	AsWritten Decimal = ""      // told from the whole column
	Point     Decimal = "point" // 1,234.50
	Comma     Decimal = "comma" // 1.234,50
)

// Values returns all values, in the order in which they are shown.
func (Decimal) Values() []Decimal { return []Decimal{AsWritten, Point, Comma} }

// PriceColumns holds where a list has what, counted from 1; 0 is nowhere.
type PriceColumns struct {
	Head    int     `json:"head" minimum:"0" maximum:"50" doc:"Row of the headings; 0 where there is none"`
	Name    int     `json:"name" minimum:"0" maximum:"60" doc:"Column of the product's name"`
	Size    int     `json:"size" minimum:"0" maximum:"60" doc:"Column of the pack's size; the name's when 0"`
	Code    int     `json:"code" minimum:"0" maximum:"60" doc:"Column of article numbers or barcodes"`
	Price   int     `json:"price" minimum:"0" maximum:"60" doc:"Column of the price of a pack"`
	Decimal Decimal `json:"decimal,omitempty" doc:"How fractions are written; told from the column when left out"`
}

// Usable returns a sentence where rows cannot be read by the columns, else an empty text.
func (c PriceColumns) Usable() string {
	switch {
	case c.Price == 0:
		return "Choose the column of the price."
	case c.Name == 0 && c.Code == 0:
		return "Choose the column of the product's name, or that of its article number."
	case c.Price == c.Name || c.Price == c.Code:
		return "One column cannot be both the price and what it is the price of."
	}
	return ""
}

// PackName names a pack of the shelf.
type PackName struct {
	Sheet    string `json:"sheet" maxLength:"60" doc:"Id of its product or medium"`
	Hardener string `json:"hardener,omitempty" maxLength:"60" doc:"Id of the hardener whose kits hold it, where these are its own"`
	Medium   bool   `json:"medium,omitempty"`
	Name     string `json:"name" minLength:"1" maxLength:"60" pattern:"^[^\\r\\n]*$"`
}

// PriceOffer is a price that a list states for a pack.
type PriceOffer struct {
	PackName
	Version int             `json:"version" doc:"Edition of the sheet that it was read against"`
	Price   float64         `json:"price" minimum:"0" maximum:"1000000"`
	Code    string          `json:"code,omitempty" maxLength:"60" pattern:"^[^\\r\\n]*$"`
	Added   bool            `json:"added,omitempty" doc:"The shelf has no such pack yet"`
	Volume  *measure.Volume `json:"volume,omitempty" minimum:"0.000001" maximum:"10" doc:"m³ of a pack that is added"`
	Mass    *measure.Mass   `json:"mass,omitempty" minimum:"0.001" maximum:"10000" doc:"kg of a pack that is added"`
}

// Match names how a row found its pack.
type Match string

// The ways of matching a row, and that none was found.
const (
	ByCode Match = "code"
	ByName Match = "name"
	ByHand Match = "hand"
	None   Match = "none"
)

// Values returns all values, in the order in which they are shown.
func (Match) Values() []Match { return []Match{ByCode, ByName, ByHand, None} }

// PriceLine is one row of a list.
type PriceLine struct {
	Row     int         `json:"row" doc:"From 1"`
	Text    string      `json:"text" doc:"Name and size as the list writes them"`
	Code    string      `json:"code,omitempty"`
	Price   *float64    `json:"price,omitempty" doc:"Absent where it cannot be read"`
	Match   Match       `json:"match"`
	Offer   *PriceOffer `json:"offer,omitempty" doc:"Absent where no pack fits"`
	Name    string      `json:"name,omitempty" doc:"Name of the product or medium"`
	Was     *float64    `json:"was,omitempty" doc:"Price on the shelf"`
	Same    bool        `json:"same,omitempty" doc:"The shelf holds this price and number already"`
	Trouble string      `json:"trouble,omitempty" doc:"Why no pack fits, or what to check"`
}

// suspicious is the factor by which a price may change before it is asked about: common practice, no source.
const suspicious = 1.5

// Read matches the rows of a list to the packs of a shelf. Rows without a price and without a number are headings
// between groups and are passed over.
func Read(rows [][]string, c PriceColumns, products []material.Product, media []material.Medium) []PriceLine {
	packs := packsOf(products, media)
	decimal := c.Decimal
	if decimal == AsWritten {
		decimal = decimalOf(rows, c)
	}
	lines := []PriceLine{}
	for n, row := range rows {
		if n < c.Head || blank(row) {
			continue
		}
		written := cell(row, c.Price)
		text := strings.TrimSpace(cell(row, c.Name))
		size := text
		if c.Size > 0 && c.Size != c.Name {
			size = cell(row, c.Size)
			text = strings.TrimSpace(text + " " + size)
		}
		line := PriceLine{Row: n + 1, Text: text, Code: cell(row, c.Code), Match: None}
		if text == "" && line.Code == "" || written == "" && line.Code == "" {
			continue
		}
		price, trouble := priceOf(written, decimal)
		if trouble != "" {
			line.Trouble = trouble
		} else {
			line.Price = &price
			line.find(packs, cell(row, c.Name), size)
		}
		lines = append(lines, line)
	}
	once(lines)
	return lines
}

// once keeps the first of rows that give one pack, and tells the others.
func once(lines []PriceLine) {
	first := make(map[PackName]int)
	for i := range lines {
		l := &lines[i]
		if l.Offer == nil {
			continue
		}
		if at, there := first[l.Offer.PackName]; there {
			l.Trouble = fmt.Sprintf("Row %d gives a price for the same pack, %s.", lines[at].Row, l.Offer.Name)
			l.Offer, l.Match = nil, None
			continue
		}
		first[l.Offer.PackName] = i
	}
}

func cell(row []string, at int) string {
	if at < 1 || at > len(row) {
		return ""
	}
	return strings.TrimSpace(row[at-1])
}

func blank(row []string) bool {
	return !slices.ContainsFunc(row, func(c string) bool { return strings.TrimSpace(c) != "" })
}

// take makes an offer of a pack.
func (l *PriceLine) take(p pack, how Match) {
	l.Match, l.Name, l.Was, l.Trouble = how, p.sheetName, p.price, ""
	l.Offer = &PriceOffer{PackName: p.PackName, Version: p.version, Price: *l.Price, Code: l.Code}
	l.Same = p.price != nil && *p.price == *l.Price && (l.Code == "" || l.Code == p.code)
	if was := p.price; was != nil && *was > 0 && *l.Price > 0 {
		if change := *l.Price / *was; math.Max(change, 1/change) > suspicious {
			l.Trouble = fmt.Sprintf("The price changes by %+.0f%%: check that it is for one pack of this size, and "+
				"without the same taxes.", (change-1)*100)
		}
	}
}

// find looks for the pack of a row.
func (l *PriceLine) find(packs []pack, name, size string) {
	if l.Code != "" {
		coded := slices.DeleteFunc(slices.Clone(packs), func(p pack) bool { return !strings.EqualFold(p.code, l.Code) })
		if len(coded) == 1 {
			l.take(coded[0], ByCode)
			return
		}
	}
	named, sheets := bestNamed(packs, wordsOf(name))
	switch {
	case len(sheets) == 0:
		l.Trouble = "The shelf has no product of this name."
		return
	case len(sheets) > 1:
		l.Trouble = fmt.Sprintf("The name fits %s: choose one.", strings.Join(sheets, " and "))
		return
	}
	l.Name = sheets[0]
	said, unclear := amountOf(size)
	if unclear != "" {
		l.Trouble = unclear
		return
	}
	fits := named
	if said.known() {
		fits = slices.DeleteFunc(slices.Clone(named), func(p pack) bool { return !p.holds(said) })
	}
	switch {
	case len(fits) == 1:
		l.take(fits[0], ByName)
	case !said.known():
		l.Trouble = fmt.Sprintf("The row names no size, and %s has several.", sheets[0])
	case len(fits) > 1:
		l.Trouble = fmt.Sprintf("%s has %d packs of this size: choose one.", sheets[0], len(fits))
	default:
		l.add(named[0], said)
	}
}

// add offers a size that the shelf has not yet.
func (l *PriceLine) add(like pack, said amount) {
	if said.pieces > 0 || like.Medium && !like.takes(said) {
		l.Trouble = fmt.Sprintf("%s has no pack of this size, and it is not sold by such a measure.", l.Name)
		return
	}
	l.Match = ByName
	l.Offer = &PriceOffer{PackName: like.PackName, Version: like.version, Price: *l.Price, Code: l.Code, Added: true}
	l.Offer.Name = said.text()
	if said.volume > 0 {
		l.Offer.Volume = &said.volume
	} else {
		l.Offer.Mass = &said.mass
	}
	l.Trouble = "A size that the shelf has not: it is added. For kits of several parts the whole mix must be meant."
}
