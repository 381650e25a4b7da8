package draft

import (
	"maps"
	"regexp"
	"slices"
	"strings"
)

// Times returns the times of a film and of its mix that a sheet gives by temperature.
func Times() []string {
	return []string{"potLife", "working", "tackFree", "recoatFrom", "recoatUntil", "foot", "vehicle", "water", "full"}
}

// standard names a hardener that a sheet means where it names none.
var standard = regexp.MustCompile(`(?i)standard|regular|normal|medium|estándar|mittel`)

// ProductOf returns values in the shape of the shelf: of what stands twice the first. Of several hardeners the
// standard one is that among the components, or the first.
func ProductOf(values []Value) map[string]any {
	var names []string
	for _, v := range values {
		if v.Hardener != "" && !slices.Contains(names, v.Hardener) {
			names = append(names, v.Hardener)
		}
	}
	if len(names) == 0 {
		return shaped(values)
	}
	own := max(0, slices.IndexFunc(names, standard.MatchString))
	product := shaped(with(values, names[own]))
	if parts, _ := product["components"].([]any); len(parts) > 1 {
		parts[1].(map[string]any)["name"] = "B, " + names[own]
	}
	var others []any
	for k, name := range names {
		if k == own {
			continue
		}
		p := shaped(with(values, name))
		h := map[string]any{"id": slug(name), "name": name}
		if parts, _ := p["components"].([]any); len(parts) > 1 {
			b, _ := parts[1].(map[string]any)
			h["ratio"], h["a"], h["b"] = p["ratio"], parts[0].(map[string]any)["parts"], b["parts"]
			if b["density"] != nil {
				h["density"] = b["density"]
			}
		}
		for _, path := range slices.Concat(Times(), []string{"mixing", "mixingAgain", "induction", "furniture"}) {
			if p[path] != nil {
				h[path] = p[path]
			}
		}
		for _, v := range values {
			if v.Hardener == name && slices.Contains([]string{"kits", "slabMin", "slabMax"}, v.Path) {
				h[v.Path] = p[v.Path]
			}
		}
		others = append(others, h)
	}
	product["hardeners"] = others
	return product
}

// with returns the values that hold with a hardener: its own, and of what it has none those that name no hardener.
func with(values []Value, name string) []Value {
	var all []Value
	for _, v := range values {
		own := slices.ContainsFunc(values, func(o Value) bool { return o.Path == v.Path && o.Hardener == name })
		if v.Hardener == name || v.Hardener == "" && !own {
			all = append(all, v)
		}
	}
	return all
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

// shaped puts values into the shape of the shelf: of what stands twice the first.
func shaped(values []Value) map[string]any {
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
	case "hazards", "cautions", "broadcast":
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
	case "thinnerMax", "pigmentMax", "solidsMax":
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
