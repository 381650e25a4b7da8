package material

import (
	"fmt"
	"slices"

	"nephelon/core/measure"
)

// Fault is a value of a sheet that cannot be.
type Fault struct {
	Field string `json:"field" doc:"JSON Pointer inside the sheet"`
	Text  string `json:"text"`
	Way   string `json:"way"`
}

// leastPart is the smallest share of a mix that a component may have: common practice, no
// source; catalysts are dosed from about 0.5 %.
const leastPart = 0.001

// faultList collects what is refused of a sheet.
type faultList []Fault

func (l *faultList) refuse(bad bool, field, text, way string) {
	if bad {
		*l = append(*l, Fault{field, text, way})
	}
}

// Faults names every value of the sheet that contradicts another or cannot be.
// The schema has checked what a single value can be.
func (p Product) Faults() []Fault {
	found := faultList{}
	refuse := found.refuse
	refuse(len(p.Components) == 0, "/components", "It has no parts.", "Enter A and B, or the paint alone.")
	refuse(len(p.Components) > 1 && p.Ratio.Source == measure.Assumed, "/ratio",
		"The mixing ratio is assumed: a wrong one never cures.",
		"Read it off the label of the kit, and choose where it is from.")
	refuse(len(p.Kits) == 0, "/kits", "No size is entered that it is sold in.", "Enter one size at least.")
	refuse(!within(p.VolumeSolids.Value, 0, 1), "/volumeSolids",
		fmt.Sprintf("Volume solids of %.4g are not a share between 0 and 1.", p.VolumeSolids.Value), "Write 40 % as 0.4.")
	found = append(found, p.filmFaults()...)
	refuse(p.Loss != nil && (p.Loss.Value < 0 || p.Loss.Value >= 0.9), "/loss", "The loss must be between 0 and 90 %.",
		"Write 5 % as 0.05.")
	refuse(p.VOC != nil && (p.VOC.Value < 0 || p.VOC.Value > 1000), "/voc",
		"Volatile compounds (VOC) must be between 0 and 1000 g/L.", "Read the sheet again.")
	refuse(p.Mixing != nil && p.Mixing.Value < 0, "/mixing", "Mixing time cannot be negative.",
		"Leave it out when unknown.")
	refuse(p.MixingMax != nil && (p.MixingMax.Value <= 0 || p.Mixing != nil && p.MixingMax.Value < p.Mixing.Value),
		"/mixingMax", "The longest mixing is shorter than the mixing time.",
		"Enter the time after which the sheet forbids more mixing.")
	refuse(p.MixingAgain != nil && p.MixingAgain.Value < 0, "/mixingAgain", "The second mixing cannot be negative.",
		"Enter 0 where the sheet requires none; leave it out when unknown.")
	refuse(p.Induction != nil && p.Induction.Value < 0, "/induction", "Induction cannot be negative.",
		"Leave it out when there is none.")
	refuse(p.ShelfLife != nil && p.ShelfLife.Value <= 0, "/shelfLife", "A shelf life must be above zero.",
		"Leave it out when unknown.")
	refuse(p.Abrade != nil && (p.Abrade.Value < 16 || p.Abrade.Value > 2000), "/abrade",
		"The grit must be between 16 and 2000.", "Read the sheet again.")
	refuse(p.DewMargin != nil && (p.DewMargin.Value < 0 || p.DewMargin.Value > 20), "/dewMargin",
		"The margin above the dew point must be between 0 and 20 K.", "3 K is usual.")
	found = append(found, p.Limits.faults()...)
	refuse(p.PigmentMax.impossible(), "/pigmentMax", tooMuch, sayOfWhat)
	refuse(p.SolidsMax.impossible(), "/solidsMax", tooMuch, sayOfWhat)
	refuse(p.ThinnerMax.impossible(), "/thinnerMax", tooMuch, sayOfWhat)
	refuse(p.Density != nil && !plausible(p.Density.Value), "/density", implausible(p.Density),
		"Densities are in kg/m³: 1.1 kg/L is 1100.")
	found = append(found, p.partFaults()...)
	found = append(found, p.stateFaults()...)
	if p.mixes() {
		if text := p.contradiction(); text != "" {
			found = append(found, Fault{"/ratio", text,
				"Read both ratios and both densities again; one of them is not this product's."})
		}
	}
	found = append(found, p.Curing.faults()...)
	found = append(found, kitFaults("/kits", p.Kits)...)
	found = append(found, p.hardenerFaults()...)
	return found
}

// filmFaults names films that cannot be.
func (p Product) filmFaults() []Fault {
	found := faultList{}
	refuse := found.refuse
	refuse(p.FilmMin != nil && p.FilmMin.Value <= 0, "/filmMin", "The minimum film must be above zero.",
		"Leave it out when unknown.")
	refuse(p.FilmMax != nil && p.FilmMax.Value <= 0, "/filmMax", "The maximum film must be above zero.",
		"Leave it out when unknown.")
	refuse(p.FilmMin != nil && p.FilmMax != nil && p.FilmMin.Value > p.FilmMax.Value, "/filmMax",
		"The maximum film is thinner than the minimum.", "Exchange the two, or read the sheet again.")
	refuse(p.FilmMaxVertical != nil && p.FilmMaxVertical.Value <= 0, "/filmMaxVertical",
		"The maximum film on a wall must be above zero.", "Leave it out when unknown.")
	refuse(p.Hides != nil && p.Hides.Value <= 0, "/hides", "The minimum hiding film must be above zero.",
		"Leave it out when unknown.")
	return found
}

// partFaults names components that cannot be.
func (p Product) partFaults() []Fault {
	found := faultList{}
	refuse := found.refuse
	whole := 0.0
	for _, c := range p.Components {
		whole += c.Parts
	}
	for i, c := range p.Components {
		at := fmt.Sprintf("/components/%d", i)
		refuse(c.Parts <= 0, at+"/parts", fmt.Sprintf("%s has no parts in the ratio.", c.Name),
			"Enter its parts, such as 2 of 2 : 1.")
		refuse(c.Parts > 0 && c.Parts < leastPart*whole, at+"/parts",
			fmt.Sprintf("%s is less than %s of the mix: nobody can measure that.", c.Name, measure.Metric.Fraction(leastPart)),
			"Read the ratio again.")
		refuse(c.Density != nil && !plausible(c.Density.Value), at+"/density", implausible(c.Density),
			"Densities are in kg/m³: 1.1 kg/L is 1100.")
	}
	return found
}

// hardenerFaults names hardeners that cannot be, each by its own path.
func (p Product) hardenerFaults() []Fault {
	found := faultList{}
	refuse := found.refuse
	for i, h := range p.Hardeners {
		at := fmt.Sprintf("/hardeners/%d", i)
		refuse(len(p.Components) < 2, at, "A single-pack paint takes no hardener.", "Enter the B among the components first.")
		refuse(h.ID == "" || slices.ContainsFunc(p.Hardeners[:i], func(o Hardener) bool { return o.ID == h.ID }), at+"/id",
			"Each hardener needs an id of its own.", "Rename one of the two.")
		refuse(h.A <= 0 || h.B <= 0, at+"/b", fmt.Sprintf("%s has no ratio.", h.Name), "Enter its parts of A and B.")
		refuse(h.Density != nil && !plausible(h.Density.Value), at+"/density", implausible(h.Density),
			"Densities are in kg/m³: 1.1 kg/L is 1100.")
		for _, f := range append(h.Curing.faults(), kitFaults("/kits", h.Kits)...) {
			found = append(found, Fault{at + f.Field, h.Name + ": " + f.Text, f.Way})
		}
	}
	return found
}

func (l Limits) faults() []Fault {
	found := []Fault{}
	pair := func(low, high *measure.Sourced[measure.Temperature], field, what string) {
		if low != nil && high != nil && low.Value >= high.Value {
			found = append(found, Fault{field, fmt.Sprintf("The warmest %s is no warmer than the coldest.", what),
				"Exchange the two, or read the sheet again."})
		}
	}
	pair(l.AirMin, l.AirMax, "/airMax", "air")
	pair(l.SlabMin, l.SlabMax, "/slabMax", "slab")
	pair(l.MaterialMin, l.MaterialMax, "/materialMax", "material")
	for _, share := range []struct {
		of          *measure.Sourced[measure.Fraction]
		field, what string
	}{
		{l.HumidityMax, "/humidityMax", "The humidity of the air"},
		{l.HumidityMin, "/humidityMin", "The humidity of the air"},
		{l.SlabHumidityMax, "/slabHumidityMax", "The humidity of a slab"},
		{l.CarbideMax, "/carbideMax", "The moisture of a slab"},
	} {
		if share.of != nil && !within(share.of.Value, 0, 1) {
			found = append(found, Fault{share.field, share.what + " must be between 0 and 100 %.", "Write 85 % as 0.85."})
		}
	}
	if l.HumidityMin != nil && l.HumidityMax != nil && l.HumidityMin.Value >= l.HumidityMax.Value {
		found = append(found, Fault{"/humidityMax", "The dampest air is no damper than the driest.",
			"Exchange the two, or read the sheet again."})
	}
	if l.EmissionMax != nil && !(l.EmissionMax.Value > 0 && l.EmissionMax.Value < 1e-4) {
		found = append(found, Fault{"/emissionMax", "No slab gives off that much.",
			"Enter what the sheet prints, with its unit."})
	}
	return found
}

func kitFaults(field string, kits []Kit) []Fault {
	found := []Fault{}
	for i, k := range kits {
		at := fmt.Sprintf("%s/%d", field, i)
		if (k.Volume == nil) == (k.Mass == nil) {
			found = append(found, Fault{at, fmt.Sprintf("Kit “%s” must state either a volume or a mass.", k.Name),
				"Give the one printed on the pail and leave the other out."})
		}
		if k.Volume != nil && !(*k.Volume >= leastKit && *k.Volume <= 10) || k.Mass != nil &&
			!(*k.Mass >= 1000*leastKit && *k.Mass <= 10e3) {
			found = append(found, Fault{at, fmt.Sprintf("Kit “%s” is no size that anyone sells.", k.Name),
				"Enter what it makes when mixed, from a millilitre or a gram on."})
		}
		if slices.ContainsFunc(kits[:i], func(o Kit) bool { return o.Name == k.Name }) {
			found = append(found, Fault{at + "/name", fmt.Sprintf("Two kits are called “%s”.", k.Name),
				"Name each by its size."})
		}
	}
	return found
}

// leastKit is the smallest kit, m³.
const leastKit = 1e-6

const (
	tooMuch   = "That much cannot be added."
	sayOfWhat = "Write 5 % as 0.05, and say of what."
)

func within(v measure.Fraction, above, most measure.Fraction) bool { return v > above && v <= most }

func plausible(d measure.Density) bool { return d >= 500 && d <= 6000 }

func implausible(d *measure.Sourced[measure.Density]) string {
	if d == nil {
		return ""
	}
	return fmt.Sprintf("A density of %.4g kg/m³ is outside what coatings have (500 to 6000).", float64(d.Value))
}
