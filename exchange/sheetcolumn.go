package exchange

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// column is one column of the CSV form of a data sheet: its head, which names
// the unit, and how it is written and read. An empty cell leaves what is known.
type column struct {
	head  string
	field string // JSON Pointer of what it holds
	write func(material.Product) string
	read  func(*material.Product, string) error
}

// columns are all of them in their order. What CSV has no column for, such as
// further hardeners, stays as it is on the shelf.
func columns() []column {
	all := []column{
		{"id", "/id", func(p material.Product) string { return p.ID },
			func(p *material.Product, v string) error { p.ID = v; return nil }},
		{"name", "/name", func(p material.Product) string { return p.Name },
			func(p *material.Product, v string) error { p.Name = v; return nil }},
		choice("kind", "/kind", func(p *material.Product) *material.Kind { return &p.Kind }),
		choice("chemistry", "/chemistry", func(p *material.Product) *material.Chemistry { return &p.Chemistry }),
		choice("carrier", "/carrier", func(p *material.Product) *material.Carrier { return &p.Carrier }),
		choice("color", "/color", func(p *material.Product) *string { return &p.Color }),
		choice("look", "/look", func(p *material.Product) *string { return &p.Look }),
		choice("use", "/use", func(p *material.Product) *string { return &p.Use }),
		{"ratio", "/components", writeRatio, readRatio},
		choice("ratio by", "/ratio", func(p *material.Product) *material.Basis { return &p.Ratio.Basis }),
	}
	for i, name := range []string{"A", "B", "C"} {
		all = append(all, column{
			"density " + name + " kg/L", fmt.Sprintf("/components/%d/density", i),
			func(p material.Product) string {
				if i < len(p.Components) {
					return decimal(p.Components[i].Density, 1000)
				}
				return ""
			},
			func(p *material.Product, v string) error {
				if i >= len(p.Components) {
					return fmt.Errorf("there is no component %s in the ratio", name)
				}
				return number(&p.Components[i].Density, v, 1000)
			},
		})
	}
	all = append(all,
		quantity("density mix kg/L", "/density", 1000,
			func(p *material.Product) **measure.Sourced[measure.Density] { return &p.Density }),
		column{"volume solids %", "/volumeSolids",
			func(p material.Product) string { return decimal(&p.VolumeSolids, 0.01) },
			func(p *material.Product, v string) error {
				solids := &p.VolumeSolids
				err := number(&solids, v, 0.01)
				p.VolumeSolids = *solids
				return err
			}},
		quantity("VOC g/L", "/voc", 1, func(p *material.Product) **measure.Sourced[measure.Content] { return &p.VOC }),
		quantity("film min µm", "/filmMin", 1e-6,
			func(p *material.Product) **measure.Sourced[measure.Film] { return &p.FilmMin }),
		quantity("film max µm", "/filmMax", 1e-6,
			func(p *material.Product) **measure.Sourced[measure.Film] { return &p.FilmMax }),
		quantity("film max wall µm", "/filmMaxVertical", 1e-6,
			func(p *material.Product) **measure.Sourced[measure.Film] { return &p.FilmMaxVertical }),
		quantity("hides from µm", "/hides", 1e-6,
			func(p *material.Product) **measure.Sourced[measure.Film] { return &p.Hides }),
		quantity("loss %", "/loss", 0.01, func(p *material.Product) **measure.Sourced[measure.Fraction] { return &p.Loss }),
		quantity("mixing min", "/mixing", 60, func(p *material.Product) **measure.Sourced[measure.Span] { return &p.Mixing }),
		quantity("second mixing min", "/mixingAgain", 60,
			func(p *material.Product) **measure.Sourced[measure.Span] { return &p.MixingAgain }),
		quantity("induction min", "/induction", 60,
			func(p *material.Product) **measure.Sourced[measure.Span] { return &p.Induction }),
		quantity("mix max kg", "/mixMax", 1, func(p *material.Product) **measure.Sourced[measure.Mass] { return &p.MixMax }),
		column{"pot life °C:kg:min", "/potLife", writePotLife, readPotLife},
	)
	for _, t := range []struct {
		name, field string
		of          func(*material.Product) *[]material.TimeAt
	}{
		{"working", "/working", func(p *material.Product) *[]material.TimeAt { return &p.Working }},
		{"tack-free", "/tackFree", func(p *material.Product) *[]material.TimeAt { return &p.TackFree }},
		{"recoat from", "/recoatFrom", func(p *material.Product) *[]material.TimeAt { return &p.RecoatFrom }},
		{"recoat until", "/recoatUntil", func(p *material.Product) *[]material.TimeAt { return &p.RecoatUntil }},
		{"foot", "/foot", func(p *material.Product) *[]material.TimeAt { return &p.Foot }},
		{"furniture", "/furniture", func(p *material.Product) *[]material.TimeAt { return &p.Furniture }},
		{"vehicle", "/vehicle", func(p *material.Product) *[]material.TimeAt { return &p.Vehicle }},
		{"water", "/water", func(p *material.Product) *[]material.TimeAt { return &p.Water }},
		{"full cure", "/full", func(p *material.Product) *[]material.TimeAt { return &p.Full }},
	} {
		all = append(all, times(t.name+" °C:h", t.field, t.of))
	}
	return append(all, limitColumns()...)
}

// limitColumns are those about slab and air, what it goes with, and how it is sold.
func limitColumns() []column {
	return []column{
		quantity("slab min °C", "/slabMin", 1,
			func(p *material.Product) **measure.Sourced[measure.Temperature] { return &p.SlabMin }),
		quantity("slab max °C", "/slabMax", 1,
			func(p *material.Product) **measure.Sourced[measure.Temperature] { return &p.SlabMax }),
		quantity("air humidity max %", "/humidityMax", 0.01,
			func(p *material.Product) **measure.Sourced[measure.Fraction] { return &p.HumidityMax }),
		quantity("slab humidity max %", "/slabHumidityMax", 0.01,
			func(p *material.Product) **measure.Sourced[measure.Fraction] { return &p.SlabHumidityMax }),
		quantity("solids by mass %", "/massSolids", 0.01,
			func(p *material.Product) **measure.Sourced[measure.Fraction] { return &p.MassSolids }),
		quantity("air humidity min %", "/humidityMin", 0.01,
			func(p *material.Product) **measure.Sourced[measure.Fraction] { return &p.HumidityMin }),
		quantity("slab moisture max CM-%", "/carbideMax", 0.01,
			func(p *material.Product) **measure.Sourced[measure.Fraction] { return &p.CarbideMax }),
		quantity("moisture emission max g/m²/24h", "/emissionMax", 0.001/(24*measure.Hour),
			func(p *material.Product) **measure.Sourced[measure.Emission] { return &p.EmissionMax }),
		choice("damp", "/damp", func(p *material.Product) *string { return &p.Damp }),
		names("goes over", "/over", func(p *material.Product) *[]string { return &p.Over }),
		names("takes over it", "/under", func(p *material.Product) *[]material.Chemistry { return &p.Under }),
		choice("daylight", "/sun", func(p *material.Product) *string { return &p.Sun }),
		quantity("abrade grit", "/abrade", 1, func(p *material.Product) **measure.Sourced[measure.Number] {
			return &p.Abrade
		}),
		{"kits", "/kits", writeKits, readKits},
		quantity("VOC thinned g/L", "/vocThinned", 1,
			func(p *material.Product) **measure.Sourced[measure.Content] { return &p.VOCThinned }),
		quantity("shelf life days", "/shelfLife", 24*measure.Hour,
			func(p *material.Product) **measure.Sourced[measure.Span] { return &p.ShelfLife }),
	}
}

func choice[T ~string](head, field string, of func(*material.Product) *T) column {
	return column{head, field,
		func(p material.Product) string { return string(*of(&p)) },
		func(p *material.Product, v string) error { *of(p) = T(v); return nil },
	}
}

func names[T ~string](head, field string, of func(*material.Product) *[]T) column {
	return column{head, field,
		func(p material.Product) string {
			var words []string
			for _, v := range *of(&p) {
				words = append(words, string(v))
			}
			return strings.Join(words, " ")
		},
		func(p *material.Product, v string) error {
			*of(p) = nil
			for _, word := range strings.Fields(v) {
				*of(p) = append(*of(p), T(word))
			}
			return nil
		},
	}
}

func quantity[T ~float64](head, field string, unit float64, of func(*material.Product) **measure.Sourced[T]) column {
	return column{head, field,
		func(p material.Product) string { return decimal(*of(&p), unit) },
		func(p *material.Product, v string) error { return number(of(p), v, unit) },
	}
}

func times(head, field string, of func(*material.Product) *[]material.TimeAt) column {
	return column{head, field,
		func(p material.Product) string {
			points := make([]string, len(*of(&p)))
			for i, t := range *of(&p) {
				points[i] = trimmed(float64(t.At)) + ":" + trimmed(float64(t.After)/measure.Hour)
			}
			return strings.Join(points, "; ")
		},
		func(p *material.Product, v string) error {
			points, err := split(v, 2, "20:6; 30:3, the temperature before the hours")
			if err != nil {
				return err
			}
			*of(p) = nil
			for _, n := range points {
				*of(p) = append(*of(p), material.TimeAt{At: measure.Temperature(n[0]), After: measure.Span(n[1] * measure.Hour),
					Source: measure.Sheet})
			}
			return nil
		},
	}
}

// trimmed writes a number as short as it can be told apart, 12 figures at most.
func trimmed(v float64) string {
	rounded, err := strconv.ParseFloat(strconv.FormatFloat(v, 'g', 12, 64), 64)
	if err != nil {
		return ""
	}
	return strconv.FormatFloat(rounded, 'f', -1, 64)
}

func decimal[T ~float64](v *measure.Sourced[T], unit float64) string {
	if v == nil {
		return ""
	}
	return trimmed(float64(v.Value) / unit)
}

// number reads a value that comes from a data sheet.
func number[T ~float64](to **measure.Sourced[T], v string, unit float64) error {
	n, err := plain(v)
	if err != nil {
		return err
	}
	si := n * unit
	if unit < 1 {
		si = n / math.Round(1/unit) // 95 % is 0.95, not a hair above
	}
	value := measure.Sourced[T]{Value: T(si), Source: measure.Sheet}
	if *to != nil && trimmed(float64((*to).Value)/unit) == trimmed(n) {
		value.Source = (*to).Source // unchanged, so still from where it was
	}
	*to = &value
	return nil
}

// plain reads a number with a decimal point.
func plain(v string) (float64, error) {
	if strings.Contains(v, ",") {
		return 0, fmt.Errorf("“%s” has a comma; write decimals with a point, and thousands without a mark", v)
	}
	n, err := strconv.ParseFloat(v, 64)
	if err != nil || n != n || n > 1e9 || n < -1e9 {
		return 0, fmt.Errorf("“%s” is not a number", v)
	}
	return n, nil
}

// split reads points such as "20:6; 30:3".
func split(v string, each int, example string) ([][]float64, error) {
	var points [][]float64
	for part := range strings.SplitSeq(v, ";") {
		fields := strings.Split(strings.TrimSpace(part), ":")
		if len(fields) != each {
			return nil, fmt.Errorf("“%s” is not of the form %s", strings.TrimSpace(part), example)
		}
		point := make([]float64, each)
		for i, f := range fields {
			if f == "" && each == 3 && i == 1 {
				continue // a pot life whose mass is not known
			}
			n, err := plain(f)
			if err != nil {
				return nil, err
			}
			point[i] = n
		}
		points = append(points, point)
	}
	return points, nil
}

func writeRatio(p material.Product) string {
	parts := make([]string, len(p.Components))
	for i, c := range p.Components {
		parts[i] = trimmed(c.Parts)
	}
	return strings.Join(parts, ":")
}

func readRatio(p *material.Product, v string) error {
	parts := strings.Split(v, ":")
	if len(parts) > 3 {
		return fmt.Errorf("“%s” has more than three parts", v)
	}
	was := p.Components
	p.Components = make([]material.Component, len(parts))
	copy(p.Components, was)
	for i, part := range parts {
		n, err := plain(strings.TrimSpace(part))
		if err != nil || n <= 0 {
			return fmt.Errorf("“%s” is not a ratio such as 2:1", v)
		}
		p.Components[i].Parts = n
		if p.Components[i].Name == "" {
			p.Components[i].Name = string(rune('A' + i))
		}
	}
	if p.Ratio.Source == "" {
		p.Ratio.Source = measure.Sheet
	}
	return nil
}

func writePotLife(p material.Product) string {
	points := make([]string, len(p.PotLife))
	for i, l := range p.PotLife {
		mass := ""
		if l.Mass > 0 {
			mass = trimmed(float64(l.Mass))
		}
		points[i] = trimmed(float64(l.At)) + ":" + mass + ":" + trimmed(float64(l.Lasts)/60)
	}
	return strings.Join(points, "; ")
}

func readPotLife(p *material.Product, v string) error {
	points, err := split(v, 3, "20:5:40; 30:5:20, temperature, mass and minutes")
	if err != nil {
		return err
	}
	p.PotLife = nil
	for _, n := range points {
		p.PotLife = append(p.PotLife, material.PotLife{At: measure.Temperature(n[0]), Mass: measure.Mass(n[1]),
			Lasts: measure.Span(n[2] * 60), Source: measure.Sheet})
	}
	return nil
}

func writeKits(p material.Product) string {
	kits := make([]string, len(p.Kits))
	for i, k := range p.Kits {
		size := ""
		if k.Volume != nil {
			size = trimmed(float64(*k.Volume)/measure.Litre) + " L"
		} else if k.Mass != nil {
			size = trimmed(float64(*k.Mass)) + " kg"
		}
		kits[i] = k.Name + " = " + size
		if k.Price != nil {
			kits[i] += " @ " + trimmed(*k.Price)
		}
	}
	return strings.Join(kits, "; ")
}

func readKits(p *material.Product, v string) error {
	const example = "“small = 5 L @ 90; large = 20 kg @ 300”, size before price"
	var kits []material.Kit
	for part := range strings.SplitSeq(v, ";") {
		name, rest, found := strings.Cut(part, "=")
		size, price, priced := strings.Cut(rest, "@")
		fields := strings.Fields(size)
		if !found || len(fields) != 2 || fields[1] != "L" && fields[1] != "kg" {
			return fmt.Errorf("“%s” is not of the form %s", strings.TrimSpace(part), example)
		}
		n, err := plain(fields[0])
		if err != nil || n <= 0 {
			return fmt.Errorf("“%s” is not a size", fields[0])
		}
		k := material.Kit{Name: strings.TrimSpace(name), Source: measure.Sheet}
		if fields[1] == "L" {
			volume := measure.Volume(n * measure.Litre)
			k.Volume = &volume
		} else {
			mass := measure.Mass(n)
			k.Mass = &mass
		}
		if priced {
			cost, err := plain(strings.TrimSpace(price))
			if err != nil {
				return err
			}
			k.Price = &cost
		}
		kits = append(kits, k)
	}
	p.Kits = kits
	return nil
}
