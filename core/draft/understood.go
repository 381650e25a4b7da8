package draft

import (
	"fmt"
	"strconv"
	"strings"

	"nephelon/core/measure"
)

// kindsOf are the quantities that the paths of the shelf hold.
func kindsOf() map[string]measure.Kind {
	all := make(map[string]measure.Kind)
	for kind, paths := range map[measure.Kind][]string{
		measure.KindSpan: {"mixing", "mixingAgain", "induction", "working", "tackFree", "recoatFrom", "recoatUntil", "foot",
			"furniture", "vehicle", "water", "full", "shelfLife"},
		measure.KindTemperature: {"slabMin", "slabMax", "airMin", "airMax", "materialMin", "materialMax", "storeMin",
			"storeMax"},
		measure.KindFraction: {"volumeSolids", "massSolids", "humidityMin", "humidityMax", "slabHumidityMax", "carbideMax"},
		measure.KindFilm:     {"filmMin", "filmMax"}, measure.KindDensity: {"density"},
		measure.KindContent: {"voc", "vocThinned"}, measure.KindViscosity: {"viscosity"},
		measure.KindEmission: {"emissionMax"},
	} {
		for _, path := range paths {
			all[path] = kind
		}
	}
	return all
}

// In returns the draft with each value in words and in the units of a reader.
func (d Draft) In(units measure.System) Draft {
	kinds, values := kindsOf(), make([]Value, len(d.Values))
	for n, v := range d.Values {
		v.Understood = v.inWords(units, kinds)
		values[n] = v
	}
	d.Values = values
	return d
}

// inWords returns a value in words.
func (v Value) inWords(units measure.System, kinds map[string]measure.Kind) string {
	switch of := v.Value.(type) {
	case float64:
		path, _, _ := strings.Cut(v.Path, ":")
		if kind, is := kinds[path]; is {
			return units.Format(kind, of)
		}
		if path == "dewMargin" {
			return strconv.FormatFloat(of, 'g', 3, 64) + " K"
		}
		return strconv.FormatFloat(of, 'g', 6, 64)
	case map[string]any:
		return composite(v.Path, of, units)
	case []string:
		return strings.Join(of, ", ")
	}
	return strings.ReplaceAll(fmt.Sprint(v.Value), "-", " ")
}

// composite returns in words what consists of several values.
func composite(path string, of map[string]any, units measure.System) string {
	number := func(name string) float64 {
		v, _ := of[name].(float64)
		return v
	}
	switch path {
	case "ratio":
		parts, _ := of["parts"].([]float64)
		all := make([]string, len(parts))
		for n, p := range parts {
			all[n] = strconv.FormatFloat(p, 'g', 6, 64)
		}
		return fmt.Sprintf("%s by %s", strings.Join(all, " : "), of["basis"])
	case "potLife":
		lasts := units.Format(measure.KindSpan, number("lasts"))
		if of["mass"] == nil {
			return lasts
		}
		return lasts + " of " + units.Format(measure.KindMass, number("mass"))
	case "kits":
		if of["mass"] != nil {
			return units.Format(measure.KindMass, number("mass"))
		}
		return units.Format(measure.KindVolume, number("volume"))
	case "thinnerMax", "pigmentMax", "solidsMax":
		return fmt.Sprintf("%s of %s", units.Format(measure.KindFraction, number("value")),
			strings.ToUpper(fmt.Sprint(of["of"])))
	case "printed", "amounts":
		kind := map[any]measure.Kind{"wet-film": measure.KindFilm, "dry-film": measure.KindFilm,
			"spread": measure.KindSpread, "mass-per-area": measure.KindCoverage}[of["basis"]]
		amount := units.Format(kind, number("value"))
		for _, name := range []string{"basis", "figure", "for"} {
			if words, is := of[name].(string); is && words != "" {
				amount += ", " + strings.ReplaceAll(words, "-", " ")
			}
		}
		return amount
	}
	return fmt.Sprint(of)
}
