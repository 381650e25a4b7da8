package sheet

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// settle marks what contradicts itself: a value that stands twice with different figures.
func (r *reader) settle() {
	whole := slices.ContainsFunc(r.draft.Values, func(v Value) bool {
		return v.Path == "volumeSolids" && v.Value == 1.0 || v.Path == "carrier" && v.Value == "none"
	})
	var again []int // what a line says once more
	first := make(map[string]int)
	for n := range r.draft.Values {
		v := &r.draft.Values[n]
		if v.Why == mixOrPart && r.single {
			v.State, v.Why = Read, ""
		}
		if v.Why == wetOrDry && whole { // nothing leaves: both are the same
			v.State, v.Why = Read, ""
		}
		if v.Path == "amounts" || v.Path == "kits" || v.Path == "hazards" || v.Path == "cautions" {
			continue // there may be several
		}
		key := v.Path
		if of, is := v.Value.(map[string]any); is { // of another basis it is said in another way
			key = fmt.Sprint(key, of["basis"], of["figure"], of["mass"])
		}
		if v.At != nil {
			key = fmt.Sprintf("%s at %g", key, *v.At)
		}
		was, twice := first[key]
		if !twice {
			first[key] = n
			continue
		}
		o := &r.draft.Values[was]
		if a, is := o.Value.(float64); is {
			const rounded = 0.02 // the same in another unit
			b, is := v.Value.(float64)
			if is && a != b && math.Abs(a-b) <= rounded*math.Abs(a) && strings.HasPrefix(v.Path, "film") {
				again = append(again, n)
				continue
			}
		}
		if fmt.Sprint(o.Value) != fmt.Sprint(v.Value) {
			why := fmt.Sprintf("line %d says %s, line %d says %s", o.Line, o.As, v.Line, v.As)
			o.State, o.Why, v.State, v.Why = Doubtful, why, Doubtful, why
		}
	}
	for _, n := range slices.Backward(again) {
		r.draft.Values = slices.Delete(r.draft.Values, n, n+1)
	}
}

// list adds a value to those of its path, each once and no more than the shelf takes.
func list(p map[string]any, v Value) {
	const most = 12
	if all, _ := p[v.Path].([]any); len(all) < most && !slices.Contains(all, v.Value) {
		p[v.Path] = append(all, v.Value)
	}
}

// productOf puts values into the shape of the shelf: of what stands twice the first.
func productOf(values []Value) map[string]any {
	p := make(map[string]any)
	densities, lives := make(map[string]any), make(map[string]any)
	sourced := func(v any) map[string]any { return map[string]any{"value": v, "source": "sheet"} }
	var parts, others []float64
	for _, v := range values {
		switch v.Path {
		case "name", "kind", "chemistry", "carrier", "edition", "sun", "over", "printed":
			if p[v.Path] == nil {
				p[v.Path] = v.Value
			}
		case "hazards", "cautions":
			list(p, v)
		case "ratio":
			of, is := v.Value.(map[string]any)
			if first, _ := p["ratio"].(map[string]any); is && first == nil {
				p["ratio"] = map[string]any{"basis": of["basis"], "source": "sheet"}
				parts, _ = of["parts"].([]float64)
			} else if is && first["basis"] != of["basis"] && others == nil {
				others, _ = of["parts"].([]float64)
			}
		case "density:A", "density:B", "density:C":
			if name := v.Path[len("density:"):]; densities[name] == nil {
				densities[name] = sourced(v.Value)
			}
		case "shelfLife:A", "shelfLife:B", "shelfLife:C":
			if name := v.Path[len("shelfLife:"):]; lives[name] == nil {
				lives[name] = sourced(v.Value)
			}
		case "filmMax":
			if v.At == nil {
				if p[v.Path] == nil {
					p[v.Path] = sourced(v.Value)
				}
				continue
			}
			list, _ := p["filmMaxAt"].([]any)
			p["filmMaxAt"] = append(list, map[string]any{"at": *v.At, "film": v.Value, "source": "sheet"})
		case "amounts":
			const most = 12
			if all, _ := p[v.Path].([]any); len(all) < most {
				p[v.Path] = append(all, v.Value)
			}
		case "kits", "potLife":
			of, is := v.Value.(map[string]any)
			if !is || v.Path == "potLife" && v.At == nil {
				continue
			}
			one := map[string]any{"source": "sheet"}
			for name, value := range of {
				one[name] = value
			}
			if v.At != nil {
				one["at"] = *v.At
			}
			list, _ := p[v.Path].([]any)
			p[v.Path] = append(list, one)
		case "thinnerMax":
			if of, is := v.Value.(map[string]any); is && p[v.Path] == nil {
				p[v.Path] = map[string]any{"value": of["value"], "of": of["of"], "source": "sheet"}
			}
		case "viscosity", "tackFree", "recoatFrom", "recoatUntil", "foot", "furniture", "vehicle", "water", "full",
			"working":
			if v.At == nil {
				continue // the shelf wants to know at which temperature
			}
			name := map[bool]string{true: "value", false: "after"}[v.Path == "viscosity"]
			list, _ := p[v.Path].([]any)
			p[v.Path] = append(list, map[string]any{"at": *v.At, name: v.Value, "source": "sheet"})
		default:
			if p[v.Path] == nil {
				p[v.Path] = sourced(v.Value)
			}
		}
	}
	if components := componentsOf(parts, others, densities, lives); components != nil {
		p["components"] = components
	}
	return p
}

// componentsOf returns the parts of a mix with what the sheet says of each.
func componentsOf(parts, others []float64, densities, lives map[string]any) []any {
	var components []any
	for n, count := range parts {
		name := string(rune('A' + n))
		c := map[string]any{"name": name, "parts": count}
		if len(others) == len(parts) {
			c["other"] = others[n] // by the other basis
		}
		if densities[name] != nil {
			c["density"] = densities[name]
		}
		if lives[name] != nil {
			c["shelfLife"] = lives[name]
		}
		components = append(components, c)
	}
	return components
}
