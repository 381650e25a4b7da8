package sheet

import (
	"fmt"
	"maps"
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

// shape is a sheet of the shelf while values are put into it.
type shape struct {
	p             map[string]any
	parts, others []float64 // the ratio by the basis of the sheet, and by the other one
	densities     map[string]any
	lives         map[string]any
}

// productOf puts values into the shape of the shelf: of what stands twice the first.
func productOf(values []Value) map[string]any {
	s := shape{p: make(map[string]any), densities: make(map[string]any), lives: make(map[string]any)}
	for _, v := range values {
		if !s.ofParts(v) && !s.listed(v) {
			s.single(v)
		}
	}
	if components := s.components(); components != nil {
		s.p["components"] = components
	}
	return s.p
}

func sourced(v any) map[string]any { return map[string]any{"value": v, "source": "sheet"} }

// ofParts puts what is said of the parts of a mix; false where a value says nothing of them.
func (s *shape) ofParts(v Value) bool {
	field, part, named := strings.Cut(v.Path, ":")
	if named {
		held := map[string]map[string]any{"density": s.densities, "shelfLife": s.lives}[field]
		if held[part] == nil {
			held[part] = sourced(v.Value)
		}
		return true
	}
	if v.Path != "ratio" {
		return false
	}
	of, _ := v.Value.(map[string]any)
	parts, _ := of["parts"].([]float64)
	if first, _ := s.p["ratio"].(map[string]any); first == nil {
		s.p["ratio"], s.parts = map[string]any{"basis": of["basis"], "source": "sheet"}, parts
	} else if first["basis"] != of["basis"] && s.others == nil {
		s.others = parts
	}
	return true
}

// listed puts what the shelf keeps as a list; false where it keeps a value alone.
func (s *shape) listed(v Value) bool {
	of, _ := v.Value.(map[string]any)
	push := func(path string, one any) {
		all, _ := s.p[path].([]any)
		s.p[path] = append(all, one)
	}
	switch v.Path {
	case "hazards", "cautions":
		list(s.p, v)
	case "amounts":
		const most = 12
		if all, _ := s.p[v.Path].([]any); len(all) < most {
			push(v.Path, v.Value)
		}
	case "filmMax":
		if v.At == nil {
			return false
		}
		push("filmMaxAt", map[string]any{"at": *v.At, "film": v.Value, "source": "sheet"})
	case "kits", "potLife":
		if of == nil || v.Path == "potLife" && v.At == nil {
			return true // the shelf wants to know at which temperature
		}
		one := map[string]any{"source": "sheet"}
		maps.Copy(one, of)
		if v.At != nil {
			one["at"] = *v.At
		}
		push(v.Path, one)
	case "viscosity", "tackFree", "recoatFrom", "recoatUntil", "foot", "furniture", "vehicle", "water", "full", "working":
		if v.At != nil {
			name := map[bool]string{true: "value", false: "after"}[v.Path == "viscosity"]
			push(v.Path, map[string]any{"at": *v.At, name: v.Value, "source": "sheet"})
		}
	default:
		return false
	}
	return true
}

// single puts a value that stands alone.
func (s *shape) single(v Value) {
	if s.p[v.Path] != nil {
		return
	}
	switch v.Path {
	case "name", "kind", "chemistry", "carrier", "edition", "sun", "over", "printed":
		s.p[v.Path] = v.Value
	case "thinnerMax":
		if of, is := v.Value.(map[string]any); is {
			s.p[v.Path] = map[string]any{"value": of["value"], "of": of["of"], "source": "sheet"}
		}
	default:
		s.p[v.Path] = sourced(v.Value)
	}
}

// components returns the parts of a mix with what the sheet says of each.
func (s *shape) components() []any {
	var components []any
	for n, count := range s.parts {
		name := string(rune('A' + n))
		c := map[string]any{"name": name, "parts": count}
		if len(s.others) == len(s.parts) {
			c["other"] = s.others[n]
		}
		if s.densities[name] != nil {
			c["density"] = s.densities[name]
		}
		if s.lives[name] != nil {
			c["shelfLife"] = s.lives[name]
		}
		components = append(components, c)
	}
	return components
}
