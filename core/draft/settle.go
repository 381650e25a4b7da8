package draft

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// Doubts that what else a sheet says may end.
const (
	MixOrPart = "the sheet does not say whether of the mix or of a part"
	WetOrDry  = "the sheet does not say whether wet or dry"
)

// Settled returns values with what contradicts itself marked: a value that stands twice with different figures. A doubt
// ends that the rest of the sheet answers.
func Settled(values []Value, onePart bool) []Value {
	whole := slices.ContainsFunc(values, func(v Value) bool {
		return v.Path == "volumeSolids" && v.Value == 1.0 || v.Path == "carrier" && v.Value == "none"
	})
	var again []int // what a line says once more
	first := make(map[string]int)
	for n := range values {
		v := &values[n]
		if v.Why == MixOrPart && onePart {
			v.State, v.Why = Read, ""
		}
		if v.Why == WetOrDry && whole { // nothing leaves: both are the same
			v.State, v.Why = Read, ""
		}
		if v.Path == "amounts" || v.Path == "kits" || v.Path == "hazards" || v.Path == "cautions" ||
			v.Path == "broadcast" {
			continue // there may be several
		}
		key := v.Hardener + " " + v.Path
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
		o := &values[was]
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
		values = slices.Delete(values, n, n+1)
	}
	return values
}
