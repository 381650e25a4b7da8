package material

import (
	"fmt"
	"math"
	"slices"

	"nephelon/core/measure"
)

// Doubt is a value of a sheet that can be but is unusual for its chemistry.
type Doubt struct {
	Field string `json:"field" doc:"JSON Pointer inside the sheet"`
	Text  string `json:"text"`
}

// Gap is a figure that a sheet does not give, and what that costs.
type Gap struct {
	Field string `json:"field" doc:"JSON Pointer inside the sheet"`
	Name  string `json:"name"`
	Costs string `json:"costs" doc:"What cannot be told, or only roughly, without it"`

	Typical *Typical `json:"typical,omitempty" doc:"What is usual; absent where something is given, or sheets differ too much"`
}

// usual are the ranges in which sheets of a chemistry lie: from memory of common
// sheets, no source. They only raise a question.
type usual struct {
	density  [2]measure.Density
	solids   [2]measure.Fraction
	potLife  [2]measure.Span // near 20 °C
	tackFree [2]measure.Span
}

func usualOf(c Chemistry) (usual, bool) {
	const minute, hour = measure.Minute, measure.Hour
	u, known := map[Chemistry]usual{
		"epoxy": {[2]measure.Density{980, 1750}, [2]measure.Fraction{0.4, 1}, [2]measure.Span{8 * minute, 8 * hour},
			[2]measure.Span{2 * hour, 36 * hour}},
		"novolac": {[2]measure.Density{1050, 1800}, [2]measure.Fraction{0.6, 1}, [2]measure.Span{10 * minute, 2 * hour},
			[2]measure.Span{2 * hour, 24 * hour}},
		"polyurethane": {[2]measure.Density{950, 1600}, [2]measure.Fraction{0.3, 1}, [2]measure.Span{10 * minute, 8 * hour},
			[2]measure.Span{1 * hour, 16 * hour}},
		"polyaspartic": {[2]measure.Density{980, 1500}, [2]measure.Fraction{0.6, 1}, [2]measure.Span{4 * minute, 60 * minute},
			[2]measure.Span{20 * minute, 6 * hour}},
		"acrylic": {[2]measure.Density{900, 1500}, [2]measure.Fraction{0.15, 0.7},
			[2]measure.Span{10 * minute, 24 * hour}, [2]measure.Span{15 * minute, 8 * hour}},
		"polyester": {[2]measure.Density{1050, 2000}, [2]measure.Fraction{0.5, 1},
			[2]measure.Span{4 * minute, 60 * minute}, [2]measure.Span{15 * minute, 6 * hour}},
		"alkyd": {[2]measure.Density{850, 1500}, [2]measure.Fraction{0.35, 0.75}, [2]measure.Span{1 * hour, 24 * hour},
			[2]measure.Span{2 * hour, 24 * hour}},
	}[c]
	return u, known
}

// Doubts returns what a careful reader of the sheet would look up again.
func (p Product) Doubts(units measure.System) []Doubt {
	doubts := doubtList{}
	u, known := usualOf(p.Chemistry)
	if !known || !p.mixes() {
		return doubts
	}
	p.doubtUsual(&doubts, u, units)
	p.doubtCarrier(&doubts, units)
	p.doubtOrder(&doubts, units)
	p.doubtFit(&doubts, units)
	return doubts
}

// agreed bounds how far two figures of a sheet may lie apart, as a share, before rounding does not explain it.
const agreed = 0.03

// doubtFit asks about figures of the sheet that deny each other.
func (p Product) doubtFit(doubts *doubtList, units measure.System) {
	parted := !slices.ContainsFunc(p.Components, func(c Component) bool { return c.Density == nil })
	if p.Density != nil && parted {
		made := p.Mix().Density.Value
		if off := made/p.Density.Value - 1; math.Abs(float64(off)) > agreed {
			doubts.ask("/density", "Its parts make a mix of %s, but the mix is entered with %s.", units.Density(made),
				units.Density(p.Density.Value))
		}
	}
	if s := p.MassSolids; s != nil && p.VolumeSolids.Source != measure.Assumed && p.VolumeSolids.Value > s.Value+0.01 {
		doubts.ask("/massSolids", "Solids of %s by mass are less than %s by volume. Are they exchanged?",
			units.Fraction(s.Value), units.Fraction(p.VolumeSolids.Value))
	}
	if s := p.MassSolids; s != nil && p.VOC != nil {
		density := float64(p.Mix().Density.Value)
		if leaves := density * float64(1-s.Value); float64(p.VOC.Value) > leaves+agreed*density {
			doubts.ask("/voc", "%s of volatile compounds are more than the %s that do not stay, by density and solids by mass.",
				units.Format(measure.KindContent, float64(p.VOC.Value)), units.Format(measure.KindContent, leaves))
		}
	}
	if f := p.Printed; f != nil && f.Basis == "spread" && f.Figure == Theoretical && p.FilmMin != nil && p.FilmMax != nil {
		film := measure.Film(1 / f.Value)
		if float64(film) < (1-agreed)*float64(p.FilmMin.Value) || float64(film) > (1+agreed)*float64(p.FilmMax.Value) {
			doubts.ask("/printed", "The printed spread makes a film of %s, outside the %s to %s of one coat.",
				units.Film(film), units.Film(p.FilmMin.Value), units.Film(p.FilmMax.Value))
		}
	}
	for _, a := range p.PotLife {
		for _, b := range p.PotLife {
			if a.At == b.At && a.Mass > 0 && b.Mass > a.Mass && b.Lasts > a.Lasts {
				doubts.ask("/potLife", "At %s a mass of %s is said to live longer than one of %s: a larger mass heats itself.",
					units.Temperature(a.At), units.Mass(b.Mass), units.Mass(a.Mass))
			}
		}
	}
}

// doubtList collects what is doubtful of a sheet.
type doubtList []Doubt

func (l *doubtList) ask(field, format string, args ...any) {
	*l = append(*l, Doubt{field, fmt.Sprintf(format, args...)})
}

// doubtUsual asks about what is unusual for the chemistry.
func (p Product) doubtUsual(doubts *doubtList, u usual, units measure.System) {
	if d := p.Mix().Density; !d.Source.Weak() && (d.Value < u.density[0] || d.Value > u.density[1]) {
		doubts.ask("/components", "The mix weighs %s; sheets of %s usually say %s to %s.", units.Density(d.Value),
			p.Chemistry, units.Density(u.density[0]), units.Density(u.density[1]))
	}
	if v := p.VolumeSolids.Value; v < u.solids[0] || v > u.solids[1] {
		doubts.ask("/volumeSolids", "Volume solids of %s are unusual for %s (%s to %s). Is it solids by weight?",
			units.Fraction(v), p.Chemistry, units.Fraction(u.solids[0]), units.Fraction(u.solids[1]))
	}
	if life, _ := p.Lives(20); len(p.Components) > 1 && life > 0 && (life < u.potLife[0] || life > u.potLife[1]) {
		doubts.ask("/potLife", "A pot life of %s at %s is unusual for %s (%s to %s). Check its unit.", units.Span(life),
			units.Temperature(20), p.Chemistry, units.Span(u.potLife[0]), units.Span(u.potLife[1]))
	}
	if t, _ := p.Reach(StageTackFree, 20); t > 0 && (t < u.tackFree[0] || t > u.tackFree[1]) {
		doubts.ask("/tackFree", "Tack-free after %s at %s is unusual for %s (%s to %s).", units.Span(t),
			units.Temperature(20), p.Chemistry, units.Span(u.tackFree[0]), units.Span(u.tackFree[1]))
	}
}

// doubtCarrier asks about what does not fit what carries the product, and about its ratio.
func (p Product) doubtCarrier(doubts *doubtList, units measure.System) {
	if p.Carrier == NoCarrier && p.VolumeSolids.Value < 0.95 {
		doubts.ask("/carrier", "It is entered as 100 %% solids, but its volume solids are %s.",
			units.Fraction(p.VolumeSolids.Value))
	}
	if p.Carrier == Solvent && p.VOC != nil && p.VOC.Value < 20 {
		doubts.ask("/voc", "%s of volatile compounds are few for a solvent-borne product.",
			units.Format(measure.KindContent, float64(p.VOC.Value)))
	}
	if p.Carrier == NoCarrier && p.ThinnerMax != nil && p.ThinnerMax.Value > 0 {
		doubts.ask("/thinnerMax", "A 100 %% solids product is normally never thinned (common practice).")
	}
	if len(p.Components) > 1 && p.Ratio.Basis == ByVolume && p.Mix().Shares[1].Volume > 0.6 {
		doubts.ask("/components", "B is more than half of the mix. Are A and B exchanged?")
	}
}

// doubtOrder asks about stages that come before earlier ones.
func (p Product) doubtOrder(doubts *doubtList, units measure.System) {
	var last TimeAt
	lastName := ""
	for _, s := range p.Stages() {
		if s.Key.Ends() || s.Key == StageWater {
			continue // need not lie between their neighbours
		}
		at := TimeAt{At: 20}
		at.After, _ = s.Reach(20)
		if at.After > 0 && at.After < last.After {
			doubts.ask(s.Key.Field(), "At %s it reaches “%s” after %s, before “%s” after %s.", units.Temperature(20), s.Name,
				units.Span(at.After), lastName, units.Span(last.After))
		}
		if at.After > 0 {
			last, lastName = at, s.Name
		}
	}
}

// Gaps are the figures that the sheet does not give, with what each will cost.
func (p Product) Gaps(units measure.System) []Gap {
	gaps := []Gap{}
	lack := func(missing bool, field, name, costs string) {
		if missing {
			gaps = append(gaps, Gap{field, name, costs, p.typical(field, units)})
		}
	}
	mixed := len(p.Components) > 1
	noDensity := p.Density == nil
	lack(p.VolumeSolids.Source == measure.Assumed, "/volumeSolids", "volume solids",
		"every dry film, and every amount planned by one, rests on an assumed figure")
	for i, c := range p.Components {
		lack(c.Density == nil, fmt.Sprintf("/components/%d/density", i), "density of "+c.Name,
			"mass and volume are converted with an assumed density: an error of 10 % is common, enough to spoil a ratio "+
				"weighed from volumes")
		noDensity = noDensity && c.Density == nil
	}
	lack(noDensity && !mixed, "/density", "density of the mix", "a purchase by mass can cross a kit size")
	lack(p.FilmMin == nil, "/filmMin", "minimum film", "a film too thin to level or hide is not detected")
	lack(p.FilmMax == nil, "/filmMax", "maximum film", "a pour that heats or wrinkles is not detected")
	lack(p.FilmMaxVertical == nil, "/filmMaxVertical", "maximum film on a wall",
		"runs on walls and steps are not detected")
	if p.Printed != nil && p.Printed.Figure == "" {
		lack(p.Printed.Basis == "spread", "/printed/figure", "whether its spread rate is practical or theoretical",
			"it is planned as practical, with nothing added for loss and profile")
		lack(p.Printed.Basis == "mass-per-area", "/printed/figure", "whether its mass per area is practical or theoretical",
			"it is planned as theoretical, with loss and profile added")
	}
	lack(p.Loss == nil, "/loss", "usual loss", "5 % is planned (common practice), which may be twice or half of yours")
	lack(mixed && len(p.PotLife) == 0, "/potLife", "pot life",
		"batches are limited by the pail size alone: a batch may set in the pail")
	if mixed && len(p.PotLife) > 0 {
		unweighed := true
		temperatures := make(map[measure.Temperature]bool)
		for _, l := range p.PotLife {
			unweighed = unweighed && l.Mass == 0
			temperatures[l.At] = true
		}
		more := func(missing bool, name, costs string) { // what is given is not replaced
			if missing {
				gaps = append(gaps, Gap{Field: "/potLife", Name: name, Costs: costs})
			}
		}
		more(unweighed, "mass of the pot life test",
			"a large batch has a shorter pot life, and how much shorter is assumed")
		more(len(temperatures) == 1, "pot life at a second temperature",
			"its change with temperature is assumed: half for each 10 K")
	}
	lack(mixed && p.Mixing == nil, "/mixing", "mixing time", "no mixing time is taken off the pot life")
	lack(len(p.RecoatFrom) == 0, "/recoatFrom", "recoat from", "the next coat cannot be timed")
	lack(len(p.RecoatUntil) == 0, "/recoatUntil", "recoat until",
		"a missed window is not noticed, and the next coat may peel")
	lack(len(p.Foot) == 0, "/foot", "light foot traffic", "the crew cannot be told when to walk on it")
	lack(len(p.Full) == 0, "/full", "full cure", "the client cannot be told when the floor is ready")
	lack(p.SlabMin == nil, "/slabMin", "minimum slab temperature", "10 °C is used (common practice)")
	lack(p.SlabMax == nil, "/slabMax", "maximum slab temperature", "32 °C is used (common practice)")
	lack(p.VOC == nil, "/voc", "volatile compounds", "a limit on them cannot be checked")
	lack(len(p.Over) == 0, "/over", "what it may go over", "a coat below that it does not stick to is not detected")
	lack(len(p.Under) == 0, "/under", "what may go over it", "a coat above that does not stick to it is not detected")
	lack(p.Sun == "", "/sun", "what daylight does to it", "yellowing is not detected")
	priced := true
	for _, k := range p.Kits {
		priced = priced && k.Price != nil
	}
	lack(!priced, "/kits", "price of every kit", "the kits with least leftover are bought instead of the cheapest")
	lack(p.Keeps("kit") == nil, "/shelfLife", "shelf life", "an expiry has to be read off each pail")
	return gaps
}

// WeakValues names the values of the sheet that rest on a weak source.
func (p Product) WeakValues() []string {
	var weak []string
	for _, f := range p.Facts() {
		if f.Source.Weak() {
			weak = append(weak, f.Name+" ("+f.Source.Words()+")")
		}
	}
	return weak
}
