package draft

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
)

// Without returns the draft without some of its values, by their places in it: as if the sheet did not state them.
func (d Draft) Without(places []int) Draft {
	out := d
	out.Values = []Value{}
	for n, v := range d.Values {
		if !slices.Contains(places, n) {
			out.Values = append(out.Values, v)
		}
	}
	out.Product = ProductOf(out.Values)
	return out
}

// Over returns a kept data sheet with what was read in its place, both as JSON of the shelf: what the draft does not
// state stays as it was kept, and so do names, prices and contents of packs and parts.
func (d Draft) Over(kept []byte) ([]byte, error) {
	var sheet, read map[string]any
	if err := json.Unmarshal(kept, &sheet); err != nil {
		return nil, fmt.Errorf("read the kept sheet: %w", err)
	}
	text, err := json.Marshal(d.Product)
	if err != nil {
		return nil, fmt.Errorf("write what was read: %w", err)
	}
	if err := json.Unmarshal(text, &read); err != nil {
		return nil, fmt.Errorf("read what was read: %w", err)
	}
	for name, value := range read {
		switch name {
		case "name", "kind", "chemistry": // the shelf's own words for it
		case "components":
			was, _ := sheet[name].([]any)
			is, _ := value.([]any)
			sheet[name] = partsOver(was, is)
		case "kits":
			was, _ := sheet[name].([]any)
			is, _ := value.([]any)
			sheet[name] = kitsOver(was, is)
		default:
			sheet[name] = value
		}
	}
	out, err := json.Marshal(sheet)
	if err != nil {
		return nil, fmt.Errorf("write the sheet: %w", err)
	}
	return out, nil
}

// partsOver returns parts as they were with their shares and densities as they were read; as read where their number
// is another.
func partsOver(was, is []any) []any {
	if len(was) != len(is) {
		return is
	}
	out := slices.Clone(was)
	for n := range is {
		old, _ := was[n].(map[string]any)
		read, _ := is[n].(map[string]any)
		one := make(map[string]any)
		for name, value := range old {
			one[name] = value
		}
		for _, name := range []string{"parts", "density"} {
			if read[name] != nil {
				one[name] = read[name]
			}
		}
		out[n] = one
	}
	return out
}

// kitsOver returns the packs that were read, each as it was where it was kept.
func kitsOver(was, is []any) []any {
	size := func(kit any) (volume, mass float64) {
		k, _ := kit.(map[string]any)
		volume, _ = k["volume"].(float64)
		mass, _ = k["mass"].(float64)
		return volume, mass
	}
	near := func(a, b float64) bool { return math.Abs(a-b) <= 0.01*math.Max(a, b) }
	out := slices.Clone(was)
	for _, kit := range is {
		volume, mass := size(kit)
		if !slices.ContainsFunc(was, func(old any) bool {
			v, m := size(old)
			return near(v, volume) && near(m, mass)
		}) {
			out = append(out, kit)
		}
	}
	return out
}
