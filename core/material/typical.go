package material

import (
	"fmt"
	"slices"

	"nephelon/core/measure"
)

// Typical holds what sheets of a chemistry usually say where this one says nothing. It is offered and never taken by
// itself; who takes it has an assumed value.
type Typical struct {
	Value any    `json:"value" doc:"Value in the form of the field, its source assumed"`
	Told  string `json:"told" doc:"The value, and the range in which such sheets lie"`
}

// spread holds a usual value and its range: from memory of common sheets, no source. Where one side of a range can
// spoil a floor, the usual value lies on the other: a pot life is short, a window begins late and ends early.
type spread struct{ usual, least, most float64 }

func (s spread) known() bool { return s.most > 0 }

// typicalTimes holds what sheets of a chemistry say for 20 °C, s.
type typicalTimes struct{ life, tackFree, from, until, foot, full spread }

func hourly(usual, least, most float64) spread {
	return spread{usual * float64(measure.Hour), least * float64(measure.Hour), most * float64(measure.Hour)}
}

func minutely(usual, least, most float64) spread {
	return spread{usual * float64(measure.Minute), least * float64(measure.Minute), most * float64(measure.Minute)}
}

// typicalTimesOf returns the times of a chemistry. Paints of one part have no pot life, and what dries stays open to
// the next coat for longer than sheets agree on.
func typicalTimesOf(c Chemistry) typicalTimes {
	const day = 24
	return map[Chemistry]typicalTimes{
		"epoxy": {minutely(20, 10, 60), hourly(10, 4, 16), hourly(14, 6, 24), hourly(24, 18, 72), hourly(24, 12, 36),
			hourly(7*day, 5*day, 10*day)},
		"novolac": {minutely(18, 10, 45), hourly(8, 4, 14), hourly(12, 6, 20), hourly(24, 16, 48), hourly(20, 10, 30),
			hourly(7*day, 5*day, 10*day)},
		"polyurethane": {minutely(20, 12, 120), hourly(6, 2, 10), hourly(10, 4, 18), hourly(24, 16, 72), hourly(20, 8, 30),
			hourly(7*day, 5*day, 10*day)},
		"polyaspartic": {minutely(10, 5, 25), hourly(2, 0.7, 4), hourly(3, 1.5, 6), hourly(12, 6, 24), hourly(6, 3, 12),
			hourly(5*day, 3*day, 7*day)},
		"acrylic": {hourly(1, 0.5, 8), hourly(1, 0.5, 3), hourly(7, 2, 12), spread{}, hourly(12, 4, 24),
			hourly(8*day, 5*day, 14*day)},
		"polyester": {minutely(10, 6, 25), hourly(1.5, 0.5, 3), hourly(3, 1, 6), hourly(24, 12, 48), hourly(6, 3, 12),
			hourly(4*day, 1*day, 7*day)},
		"alkyd": {spread{}, hourly(8, 4, 14), hourly(20, 12, 24), spread{}, hourly(24, 16, 36),
			hourly(14*day, 7*day, 21*day)},
	}[c]
}

// typicalSolids returns the volume solids of a chemistry by what carries it.
func typicalSolids(p Product) spread {
	none := spread{1, 0.97, 1}
	switch p.Carrier {
	case NoCarrier:
		if p.Chemistry == "acrylic" || p.Chemistry == "alkyd" {
			return spread{} // these dry
		}
		return none
	case Water:
		return map[Chemistry]spread{"epoxy": {0.5, 0.4, 0.65}, "polyurethane": {0.38, 0.28, 0.5},
			"acrylic": {0.36, 0.3, 0.5}, "alkyd": {0.4, 0.32, 0.5}}[p.Chemistry]
	case Solvent:
		return map[Chemistry]spread{"epoxy": {0.58, 0.45, 0.75}, "novolac": {0.7, 0.6, 0.85},
			"polyurethane": {0.5, 0.4, 0.65}, "polyaspartic": {0.75, 0.6, 0.9}, "acrylic": {0.28, 0.18, 0.4},
			"alkyd": {0.48, 0.38, 0.6}}[p.Chemistry]
	}
	if p.Chemistry == "polyester" {
		return none
	}
	return spread{}
}

// filled are the kinds whose resin carries pigment and filler.
func filled(k Kind) bool { return slices.Contains([]Kind{"body", "paint", "pool-paint", "grout"}, k) }

// typicalDensity returns the density of a part, kg/m³.
func typicalDensity(p Product, part int) spread {
	if len(p.Components) == 1 {
		return spread{1250, 1000, 1450}
	}
	if part > 1 {
		return spread{}
	}
	resin := map[Chemistry]spread{"epoxy": {1130, 1080, 1180}, "novolac": {1170, 1120, 1230},
		"polyurethane": {1080, 1000, 1200}, "polyaspartic": {1060, 1030, 1120}, "polyester": {1120, 1080, 1200},
		"acrylic": {1050, 1000, 1200}}[p.Chemistry]
	if part == 0 && filled(p.Kind) && resin.known() {
		return spread{1450, 1250, 1700}
	}
	if part == 0 {
		return resin
	}
	return map[Chemistry]spread{"epoxy": {1000, 950, 1060}, "novolac": {1010, 960, 1070},
		"polyurethane": {1140, 1060, 1230}, "polyaspartic": {1140, 1100, 1180}}[p.Chemistry]
}

// partDensity returns what a part weighs. Where the sheet gives the density of the mix, the part that is left makes it:
// resins differ more than hardeners, so that of two unknown parts A is left. The words say so.
func (p Product) partDensity(part int) (spread, string) {
	usual := typicalDensity(p, part)
	if p.Density == nil || len(p.Components) < 2 || part > 0 && p.Components[0].Density == nil {
		return usual, ""
	}
	// By volume the shares of a mix carry the densities, by mass their inverses.
	carried := func(density float64) float64 { return density }
	if p.Ratio.Basis == ByMass {
		carried = func(density float64) float64 { return 1 / density }
	}
	left := 0.0
	for i, c := range p.Components {
		left += c.Parts * carried(float64(p.Density.Value))
		other := typicalDensity(p, i).usual
		switch {
		case i == part:
			continue
		case c.Density != nil:
			other = float64(c.Density.Value)
		case other == 0:
			return spread{}, ""
		}
		left -= c.Parts * carried(other)
	}
	made := carried(left / p.Components[part].Parts)
	if !plausible(measure.Density(made)) {
		return spread{}, ""
	}
	return spread{made, made, made}, ", which makes the density of the mix"
}

// typicalFilm returns the thinnest and the thickest wet film of a kind, m.
func typicalFilm(k Kind) (thinnest, thickest spread) {
	film := func(usual, least, most float64) spread { return spread{usual * 1e-6, least * 1e-6, most * 1e-6} }
	of := map[Kind][2]spread{
		"primer":           {film(120, 80, 200), film(350, 250, 500)},
		"moisture-barrier": {film(300, 250, 400), film(500, 400, 800)},
		"body":             {film(250, 200, 400), film(2000, 1000, 4000)},
		"metallic":         {film(700, 500, 1000), film(1600, 1200, 2500)},
		"flood":            {film(1500, 1200, 2000), film(3200, 3000, 6000)},
		"clear":            {film(100, 60, 150), film(300, 200, 800)},
		"paint":            {film(80, 60, 120), film(180, 150, 250)},
		"pool-paint":       {film(100, 75, 150), film(200, 150, 300)},
		"urethane":         {film(60, 40, 100), film(130, 100, 200)},
		"polyaspartic":     {film(100, 75, 150), film(300, 200, 400)},
	}[k]
	return of[0], of[1]
}

func assumed[T ~float64](v float64) any {
	return measure.Sourced[T]{Value: T(v), Source: measure.Assumed}
}

// typical returns what is usual for a field of the sheet that says nothing; nil where sheets do not agree enough.
func (p Product) typical(field string, units measure.System) *Typical {
	told := func(kind measure.Kind, s spread, value any, more string) *Typical {
		if !s.known() {
			return nil
		}
		text := units.Format(kind, s.usual) + more
		if s.least != s.most {
			text += fmt.Sprintf(" (%s to %s)", units.Format(kind, s.least), units.Format(kind, s.most))
		}
		return &Typical{value, text}
	}
	times := typicalTimesOf(p.Chemistry)
	at := func(s spread) *Typical {
		return told(measure.KindSpan, s, []TimeAt{{At: roomTemperature, After: measure.Span(s.usual),
			Source: measure.Assumed}}, " at "+units.Temperature(roomTemperature))
	}
	thinnest, thickest := typicalFilm(p.Kind)
	const minute = float64(measure.Minute)
	switch field {
	case "/volumeSolids":
		s := typicalSolids(p)
		return told(measure.KindFraction, s, assumed[measure.Fraction](s.usual), "")
	case "/components/0/density", "/components/1/density":
		s, more := p.partDensity(int(field[len("/components/")] - '0'))
		return told(measure.KindDensity, s, assumed[measure.Density](s.usual), more)
	case "/filmMin":
		return told(measure.KindFilm, thinnest, assumed[measure.Film](thinnest.usual), "")
	case "/filmMax":
		return told(measure.KindFilm, thickest, assumed[measure.Film](thickest.usual), "")
	case "/potLife":
		const kilogram = 1
		return told(measure.KindSpan, times.life, []PotLife{{At: roomTemperature, Mass: kilogram,
			Lasts: measure.Span(times.life.usual), Source: measure.Assumed}},
			fmt.Sprintf(" for %s at %s", units.Mass(kilogram), units.Temperature(roomTemperature)))
	case "/mixing":
		return told(measure.KindSpan, spread{3 * minute, 2 * minute, 5 * minute}, assumed[measure.Span](3*minute), "")
	case "/recoatFrom":
		return at(times.from)
	case "/recoatUntil":
		return at(times.until)
	case "/foot":
		return at(times.foot)
	case "/full":
		return at(times.full)
	case "/shelfLife":
		const month = 30.5 * 24 * float64(measure.Hour)
		return told(measure.KindSpan, spread{12 * month, 6 * month, 24 * month}, assumed[measure.Span](12*month), "")
	}
	return nil
}
