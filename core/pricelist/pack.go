package pricelist

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// pack is a pack of the shelf as rows are matched to it.
type pack struct {
	PackName
	sheetName string
	words     []string // of the sheet's name, and of its hardener's
	version   int
	price     *float64
	code      string
	volume    measure.Volume // 0 where it is not known
	mass      measure.Mass
	counts    float64      // what a medium's pack holds, SI
	kind      measure.Kind // of that
}

// same bounds how far two sizes may lie apart, as a share: labels round.
const same = 0.02

func near(a, b float64) bool { return a > 0 && b > 0 && math.Abs(a-b) <= same*math.Max(a, b) }

// holds reports whether a pack is of a size.
func (p pack) holds(said amount) bool {
	if p.Medium {
		return p.takes(said) && near(p.counts, said.of(p.kind))
	}
	return near(float64(p.volume), float64(said.volume)) || near(float64(p.mass), float64(said.mass))
}

// takes reports whether a medium is counted in what a size states.
func (p pack) takes(said amount) bool { return said.of(p.kind) > 0 }

// packsOf returns the packs of a shelf.
func packsOf(products []material.Product, media []material.Medium) []pack {
	var all []pack
	for _, p := range products {
		all = append(all, kitsOf(p, p.Kits, "", nil)...)
		for _, h := range p.Hardeners {
			if with, err := p.With(h.ID); err == nil && len(h.Kits) > 0 {
				with.Name = p.Name
				all = append(all, kitsOf(with, h.Kits, h.ID, wordsOf(h.Name))...)
			}
		}
	}
	for _, m := range media {
		kind := countedIn(m)
		for _, k := range m.Packs {
			all = append(all, pack{PackName: PackName{Sheet: m.ID, Medium: true, Name: k.Name}, sheetName: m.Name,
				words: wordsOf(m.Name), version: m.Version, price: k.Price, code: k.Code, counts: k.Amount, kind: kind})
		}
	}
	return all
}

// countedIn returns what the packs of a medium hold.
func countedIn(m material.Medium) measure.Kind {
	switch m.Kind {
	case "supply", "tool":
		return m.Counted()
	case "thinner":
		return measure.KindVolume
	}
	return measure.KindMass
}

func kitsOf(p material.Product, kits []material.Kit, hardener string, more []string) (all []pack) {
	density := p.Mix().Density.Value
	for _, k := range kits {
		if k.Gone {
			continue
		}
		made := pack{PackName: PackName{Sheet: p.ID, Hardener: hardener, Name: k.Name}, sheetName: p.Name,
			words: append(wordsOf(p.Name), more...), version: p.Version, price: k.Price, code: k.Code}
		if k.Volume != nil {
			made.volume, made.mass = *k.Volume, measure.Mass(float64(*k.Volume)*float64(density))
		}
		if k.Mass != nil {
			made.mass = *k.Mass
			if density > 0 {
				made.volume = measure.Volume(float64(*k.Mass) / float64(density))
			}
		}
		all = append(all, made)
	}
	return all
}

// wordsOf returns the words of a name, small and without marks.
func wordsOf(name string) []string {
	return strings.FieldsFunc(strings.ToLower(name),
		func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
}

// bestNamed returns the packs of the sheets all of whose words a row has: those with the most words, and the names
// of their sheets.
func bestNamed(packs []pack, words []string) (best []pack, sheets []string) {
	most := 0
	for _, p := range packs {
		if len(p.words) == 0 || len(p.words) < most ||
			slices.ContainsFunc(p.words, func(w string) bool { return !slices.Contains(words, w) }) {
			continue
		}
		if len(p.words) > most {
			most, best, sheets = len(p.words), nil, nil
		}
		best = append(best, p)
		if !slices.Contains(sheets, p.sheetName) {
			sheets = append(sheets, p.sheetName)
		}
	}
	return best, sheets
}

// amount is the size of a pack as a row writes it: one of the three.
type amount struct {
	volume measure.Volume
	mass   measure.Mass
	pieces float64
}

func (a amount) known() bool { return a.volume > 0 || a.mass > 0 || a.pieces > 0 }

// of returns the size as a kind of quantity, SI; 0 where it is another.
func (a amount) of(kind measure.Kind) float64 {
	switch kind {
	case measure.KindVolume:
		return float64(a.volume)
	case measure.KindMass:
		return float64(a.mass)
	case measure.KindCount:
		return a.pieces
	}
	return 0
}

func (a amount) text() string {
	if a.volume > 0 {
		return strconv.FormatFloat(float64(a.volume)*1000, 'g', 4, 64) + " L"
	}
	return strconv.FormatFloat(float64(a.mass), 'g', 4, 64) + " kg"
}

var sized = regexp.MustCompile(`(?i)(?:(\d+)\s*[x×]\s*)?(\d+(?:[.,]\d+)?)[\s-]*` +
	`(kg|g|litres?|liters?|liter|litros?|ltr?|ml|l|gal(?:lons?)?|qts?|quarts?|fl\.?\s*oz|lbs?|pcs|pieces|stk|stück|uds?)\b`)

// amountOf reads the size of a pack. Parts joined by a plus add up; other sizes beside each other must be one size in
// two units, else the sentence says that they disagree.
func amountOf(text string) (amount, string) {
	var all []amount
	for _, found := range sized.FindAllStringSubmatch(text, -1) {
		value, err := strconv.ParseFloat(strings.Replace(found[2], ",", ".", 1), 64)
		if err != nil {
			continue
		}
		if times, err := strconv.ParseFloat(found[1], 64); err == nil {
			value *= times
		}
		all = append(all, inUnit(value, strings.ToLower(found[3])))
	}
	if len(all) == 0 {
		return amount{}, ""
	}
	sum := all[0]
	if strings.Contains(text, "+") {
		for _, a := range all[1:] {
			sum.volume, sum.mass, sum.pieces = sum.volume+a.volume, sum.mass+a.mass, sum.pieces+a.pieces
		}
		if sum.volume > 0 && sum.mass > 0 {
			return amount{}, fmt.Sprintf("The parts of “%s” are given by volume and by mass; choose the pack.", text)
		}
		return sum, ""
	}
	for _, a := range all[1:] {
		// A mass beside a volume may be the same pack, or only one part of it: the first is the size.
		for _, pair := range [][2]float64{{float64(sum.volume), float64(a.volume)}, {float64(sum.mass), float64(a.mass)}} {
			if pair[0] > 0 && pair[1] > 0 && !near(pair[0], pair[1]) {
				return amount{}, fmt.Sprintf("“%s” gives two sizes; choose the pack.", text)
			}
		}
	}
	return sum, ""
}

func inUnit(value float64, unit string) amount {
	volume := func(litres float64) amount { return amount{volume: measure.Volume(value * litres)} }
	switch {
	case unit == "kg":
		return amount{mass: measure.Mass(value)}
	case unit == "g":
		return amount{mass: measure.Mass(value / 1000)}
	case strings.HasPrefix(unit, "lb"):
		return amount{mass: measure.Mass(value * measure.Pound)}
	case unit == "ml":
		return volume(1e-6)
	case strings.HasPrefix(unit, "gal"):
		return volume(measure.Gallon)
	case strings.HasPrefix(unit, "q"):
		return volume(measure.Quart)
	case strings.HasPrefix(unit, "fl"):
		return volume(measure.FlOz)
	case strings.HasPrefix(unit, "l"):
		return volume(measure.Litre)
	}
	return amount{pieces: value}
}
