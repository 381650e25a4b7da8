package material

import (
	"fmt"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"nephelon/core/measure"
)

// Fact is one line of a sheet as people read and compare it.
type Fact struct {
	Group  string         `json:"group"`
	Name   string         `json:"name"`
	Of     string         `json:"of,omitempty" doc:"The name without the temperature, where it is given by temperature"`
	At     float64        `json:"at,omitempty" doc:"The temperature that it is given at, °C, where of is given"`
	Kind   measure.Kind   `json:"kind,omitempty"`
	SI     float64        `json:"si,omitempty" doc:"Where it is a quantity"`
	Words  string         `json:"words,omitempty" doc:"Where it is not, or what stands behind the quantity"`
	Source measure.Source `json:"source,omitempty"`
}

// Told prints a fact in a person's units.
func (f Fact) Told(units measure.System) string {
	switch {
	case f.Kind == "":
		return f.Words
	case f.Words == "":
		return units.Format(f.Kind, f.SI)
	}
	return units.Format(f.Kind, f.SI) + " " + f.Words
}

type lister struct {
	group string
	all   []Fact
}

func (l *lister) quantity(name string, kind measure.Kind, si float64, source measure.Source, words string) {
	l.all = append(l.all, Fact{Group: l.group, Name: name, Kind: kind, SI: si, Words: words, Source: source})
}

// at lists a quantity at a temperature, named in °C on every sheet, so that the same lines of two sheets stand beside
// each other.
func (l *lister) at(
	name string, t measure.Temperature, kind measure.Kind, si float64, source measure.Source, words string,
) {
	l.quantity(fmt.Sprintf("%s at %g °C", name, float64(t)), kind, si, source, words)
	fact := &l.all[len(l.all)-1]
	fact.Of, fact.At = name, float64(t)
}

func (l *lister) words(name, words string, source measure.Source) {
	if words != "" {
		l.all = append(l.all, Fact{Group: l.group, Name: name, Words: words, Source: source})
	}
}

func add[T ~float64](l *lister, name string, kind measure.Kind, v *measure.Sourced[T]) {
	if v != nil {
		l.quantity(name, kind, float64(v.Value), v.Source, "")
	}
}

// Facts are the lines of the sheet in the order in which it is read.
func (p Product) Facts() []Fact {
	l := &lister{}
	l.mix(p)
	l.film(p)
	l.group = "Times"
	l.curing(p.Curing, p.Dries())
	for _, h := range p.Hardeners {
		l.group = h.title()
		l.words("mixing ratio", fmt.Sprintf("%g : %g by %s", h.A, h.B, h.Ratio.Basis), h.Ratio.Source)
		l.curing(h.Curing, p.Dries())
	}
	l.conditions(p)
	l.company(p)
	l.sold(p)
	return l.all
}

// title returns the heading of a hardener's lines.
func (h Hardener) title() string {
	if strings.HasSuffix(strings.ToLower(h.Name), "hardener") {
		first, size := utf8.DecodeRuneInString(h.Name)
		return string(unicode.ToUpper(first)) + h.Name[size:]
	}
	return "Hardener " + h.Name
}

// mix lists what is mixed, and how.
func (l *lister) mix(p Product) {
	l.group = "Mix"
	ratio := make([]string, len(p.Components))
	for i, c := range p.Components {
		ratio[i] = strconv.FormatFloat(c.Parts, 'g', 6, 64)
	}
	if len(p.Components) > 1 {
		l.words("mixing ratio", strings.Join(ratio, " : ")+" by "+string(p.Ratio.Basis), p.Ratio.Source)
		if other, basis := p.OtherRatio(); other != "" {
			l.words("the same by densities", other+" by "+string(basis), p.Mix().Density.Source)
		}
	}
	for _, c := range p.Components {
		add(l, "density of "+c.Name, measure.KindDensity, c.Density)
	}
	add(l, "density", measure.KindDensity, p.Density)
	add(l, "volume solids", measure.KindFraction, &p.VolumeSolids)
	add(l, "solids by mass", measure.KindFraction, p.MassSolids)
	l.words("carrier", map[Carrier]string{NoCarrier: "none, 100 % solids", Water: "water",
		Solvent: "solvent"}[p.Carrier], "")
	add(l, "volatile compounds", measure.KindContent, p.VOC)
	add(l, "volatile compounds, thinned", measure.KindContent, p.VOCThinned)
	for _, f := range p.Viscosity {
		l.at("viscosity", f.At, measure.KindViscosity, float64(f.Value), f.Source, "")
	}
	add(l, "mixing", measure.KindSpan, p.Mixing)
	add(l, "mixing at most", measure.KindSpan, p.MixingMax)
	add(l, "induction time", measure.KindSpan, p.Induction)
	add(l, "most mixed at once", measure.KindMass, p.MixMax)
}

// film lists how much of it is laid.
func (l *lister) film(p Product) {
	l.group = "Film"
	if p.Printed != nil {
		l.printed("amount as printed", *p.Printed)
	}
	for _, a := range p.Amounts {
		l.printed("amount for "+a.For, a.Printed)
	}
	add(l, "minimum film", measure.KindFilm, p.FilmMin)
	add(l, "maximum film", measure.KindFilm, p.FilmMax)
	for _, f := range p.FilmMaxAt {
		l.at("maximum film", f.At, measure.KindFilm, float64(f.Film), f.Source, "")
	}
	add(l, "maximum film on a wall", measure.KindFilm, p.FilmMaxVertical)
	add(l, "minimum hiding film", measure.KindFilm, p.Hides)
	add(l, "usual loss", measure.KindFraction, p.Loss)
}

// printed lists an amount as a sheet prints it.
func (l *lister) printed(name string, p Printed) {
	kind := map[string]measure.Kind{"wet-film": measure.KindFilm, "dry-film": measure.KindFilm,
		"spread": measure.KindSpread, "mass-per-area": measure.KindCoverage}[p.Basis]
	l.quantity(name, kind, p.Value, measure.Sheet,
		map[string]string{"wet-film": "wet", "dry-film": "dry"}[p.Basis]+string(p.Figure))
}

// conditions lists what air, slab and parts have to be like.
func (l *lister) conditions(p Product) {
	l.group = "Conditions"
	add(l, "minimum air temperature", measure.KindTemperature, p.AirMin)
	add(l, "maximum air temperature", measure.KindTemperature, p.AirMax)
	add(l, "minimum slab temperature", measure.KindTemperature, p.SlabMin)
	add(l, "maximum slab temperature", measure.KindTemperature, p.SlabMax)
	add(l, "minimum temperature of the parts", measure.KindTemperature, p.MaterialMin)
	add(l, "maximum temperature of the parts", measure.KindTemperature, p.MaterialMax)
	add(l, "maximum humidity of the air", measure.KindFraction, p.HumidityMax)
	add(l, "minimum humidity of the air", measure.KindFraction, p.HumidityMin)
	if p.DewMargin != nil {
		l.quantity("margin above the dew point", measure.KindNumber, float64(p.DewMargin.Value), p.DewMargin.Source, "K")
	}
	add(l, "maximum humidity of the slab", measure.KindFraction, p.SlabHumidityMax)
	add(l, "maximum moisture by the carbide method", measure.KindFraction, p.CarbideMax)
	add(l, "maximum moisture emission", measure.KindEmission, p.EmissionMax)
	l.words("damp", map[string]string{"bears": "tolerates it", "harms": "damaged by it"}[p.Damp], "")
}

// company lists what it goes over, under and with.
func (l *lister) company(p Product) {
	l.group = "Compatibility"
	l.words("goes over", Listed(p.Over), "")
	l.words("takes over it", Listed(p.Under), "")
	if p.Abrade != nil {
		l.words("after the window", fmt.Sprintf("abrade with P%.0f", float64(p.Abrade.Value)), p.Abrade.Source)
	}
	l.words("daylight", map[string]string{"stable": "stable", "ambers": "ambers"}[p.Sun], "")
	l.words("certified for", Listed(p.Certified), "")
	l.portion("pigment, at most", p.PigmentMax)
	l.portion("fillers, at most", p.SolidsMax)
	if p.ThinnerMax != nil && p.ThinnerMax.Value == 0 {
		l.words("thinner", "never", p.ThinnerMax.Source)
	} else {
		l.portion("thinner, at most", p.ThinnerMax)
	}
	l.words("broadcast", Listed(p.Broadcast), "")
}

// sold lists its kits, and how it is stored.
func (l *lister) sold(p Product) {
	l.group = "Sold and stored"
	for _, k := range p.Kits {
		price := ""
		if k.Price != nil {
			price = fmt.Sprintf("for %.2f", *k.Price)
		}
		if k.Gone {
			price = strings.TrimSpace(price + " no longer sold")
		}
		if k.Volume != nil {
			l.quantity("kit "+k.Name, measure.KindVolume, float64(*k.Volume), k.Source, price)
		} else if k.Mass != nil {
			l.quantity("kit "+k.Name, measure.KindMass, float64(*k.Mass), k.Source, price)
		}
	}
	add(l, "shelf life", measure.KindSpan, p.ShelfLife)
	for _, c := range p.Components {
		add(l, "shelf life of "+c.Name, measure.KindSpan, c.ShelfLife)
	}
	add(l, "store above", measure.KindTemperature, p.StoreMin)
	add(l, "store below", measure.KindTemperature, p.StoreMax)
	l.words("hazards", strings.ReplaceAll(Listed(p.Hazards), "-", " "), "")
	l.words("wear", Listed(p.Wear), "")
}

func (l *lister) curing(c Curing, dries bool) {
	for _, p := range c.PotLife {
		words := ""
		if p.Mass > 0 {
			words = "on " + measure.Metric.Mass(p.Mass)
		}
		l.at("pot life", p.At, measure.KindSpan, float64(p.Lasts), p.Source, words)
	}
	for _, s := range c.Stages() {
		for _, t := range s.Times {
			words := ""
			if s.Key == StageWorking {
				words = "from when it leaves the pail, less what it aged there"
				if dries {
					words = "from when it is spread"
				}
			}
			l.at(s.Name, t.At, measure.KindSpan, float64(t.After), t.Source, words)
		}
	}
}

func (l *lister) portion(name string, p *Portion) {
	if p != nil {
		l.quantity(name, measure.KindFraction, float64(p.Value), p.Source, p.Words())
	}
}

// Revised is a line in which two editions of a sheet differ.
type Revised struct {
	Name string `json:"name"`
	Was  string `json:"was" doc:"Empty where the older edition has no such line"`
	Is   string `json:"is" doc:"Empty where the newer edition has no such line"`
}

// Changes are the lines in which an edition differs from an older one.
func (p Product) Changes(older Product, units measure.System) []Revised {
	changes := []Revised{}
	key := func(f Fact) string { return f.Group + "\x00" + f.Name }
	was := make(map[string]string)
	for _, f := range older.Facts() {
		was[key(f)] = f.Told(units)
	}
	for _, f := range p.Facts() {
		if told := f.Told(units); was[key(f)] != told {
			changes = append(changes, Revised{f.Name, was[key(f)], told})
		}
		delete(was, key(f))
	}
	for _, f := range older.Facts() {
		if told, gone := was[key(f)]; gone {
			changes = append(changes, Revised{f.Name, told, ""})
			delete(was, key(f))
		}
	}
	return changes
}

// Listed returns the values of a list with commas between.
func Listed[T ~string](values []T) string {
	var words strings.Builder
	for i, v := range values {
		if i > 0 {
			words.WriteString(", ")
		}
		words.WriteString(string(v))
	}
	return words.String()
}
