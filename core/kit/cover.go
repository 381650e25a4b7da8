package kit

import (
	"math"
	"math/bits"
	"slices"

	"nephelon/core/measure"
)

// unit is the step, m³, in which sizes without a common measure are counted, rounded down.
const unit = 1e-6 // 1 mL

// mostWork bounds the search, in units times sizes: some tens of milliseconds. What
// would take more is counted in coarser units, sizes rounded down.
const mostWork = 30_000_000

// Front is every way to cover the need that no other betters, from the least left
// over to the least cost: whoever leaves less pays more. Each counts the sizes in
// their order. It is exact, for sizes in whole multiples of a common measure, else to
// the millilitre: the least cost of every volume follows from those below it; and
// once all volumes within a largest size cost what those one size of the least cost
// per litre below cost more, that size fills up all that is larger (the turnpike of
// the unbounded knapsack, Gilmore and Gomory 1966, from memory).
func Front(need measure.Volume, sizes []Size) [][]int {
	g := common(sizes)
	front, settled := search(need, sizes, g)
	for !settled {
		g = math.Max(2*g, float64(need)*float64(2*len(sizes))/mostWork)
		front, settled = search(need, sizes, g)
	}
	return front
}

// common is the measure of which all sizes are whole multiples, or a millilitre.
func common(sizes []Size) float64 {
	g := 0.0
	for _, z := range sizes {
		g = shared(float64(z.Volume), g)
	}
	if g < unit {
		return unit
	}
	return g
}

// shared is the greatest measure of two volumes, by Euclid; what is left below a
// thousandth of a millilitre counts as nothing.
func shared(a, b float64) float64 {
	const nothing = unit / 1000
	for b > nothing {
		rest := math.Mod(a, b)
		if b-rest < nothing {
			rest = 0
		}
		a, b = b, rest
	}
	return a
}

// dear is the cost of a volume that no kits make up.
const dear = math.MaxInt64 / 2

// search looks for the front in units of a measure; unsettled where more units
// would have to be looked at than are worth it.
func search(need measure.Volume, sizes []Size, g float64) ([][]int, bool) {
	units, largest := make([]int, len(sizes)), 1
	for i, z := range sizes {
		units[i] = max(1, int(math.Floor(float64(z.Volume)/g+1e-6)))
		largest = max(largest, units[i])
	}
	wanted := int(math.Ceil(float64(need) / g * (1 - slack)))
	if wanted <= 0 || len(sizes) == 0 {
		return [][]int{make([]int, len(sizes))}, true
	}
	// The largest first: of ways that cost the same it takes the fewer kits.
	order := make([]int, len(sizes))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(i, j int) int { return units[j] - units[i] })
	best := order[0]
	for _, i := range order {
		if cheaper(sizes[i].Cost, units[i], sizes[best].Cost, units[best]) {
			best = i
		}
	}
	f := fill{sizes: sizes, units: units, largest: largest, best: best}
	if !f.all(order, wanted) {
		return nil, false
	}
	return f.front(wanted), true
}

// fill is the least cost of each volume in units, up to where only the size that is cheapest by
// volume is added any more.
type fill struct {
	sizes         []Size
	units         []int
	largest, best int
	cost          []int64 // of the last volumes, in a ring
	last          []uint8 // the size added last, by volume
	top           int     // the greatest volume looked at
}

// all looks at every volume up to the wanted one and a largest kit more; false where that is
// more than is worth it.
func (f *fill) all(order []int, wanted int) bool {
	sizes, units, largest, best := f.sizes, f.units, f.largest, f.best
	// The costs of the last volumes stand in a ring, of a power of two for speed.
	ring := 1 << bits.Len(uint(largest))
	mask := ring - 1
	cost := make([]int64, ring)
	type step struct {
		units int
		cost  int64
		size  uint8
	}
	steps := make([]step, len(order))
	for k, i := range order {
		steps[k] = step{units[i], sizes[i].Cost, uint8(i)}
	}
	last := make([]uint8, 1, 4096)
	same, top := 0, 0
	for v := 1; v < wanted+largest; v++ {
		if v < wanted && same >= largest {
			break
		}
		if v*len(sizes) > mostWork {
			return false
		}
		least, by := int64(dear), uint8(0)
		from := steps
		for len(from) > 0 && from[0].units > v {
			from = from[1:]
		}
		for k := range from {
			if c := cost[(v-from[k].units)&mask] + from[k].cost; c < least {
				least, by = c, from[k].size
			}
		}
		if v >= units[best] && least == min(dear, cost[(v-units[best])&mask]+sizes[best].Cost) {
			same++
		} else {
			same = 0
		}
		cost[v&mask], top = least, v
		last = append(last, by)
	}
	f.cost, f.last, f.top = cost, last, top
	return true
}

// front lists the ways that cost less than all that leave less over, from the least over.
func (f *fill) front(wanted int) [][]int {
	sizes, units, largest, best, top := f.sizes, f.units, f.largest, f.best, f.top
	cost, last, mask := f.cost, f.last, len(f.cost)-1
	var paths [][]int
	cheapest := int64(math.MaxInt64)
	for v := wanted; v < wanted+largest; v++ {
		filled, base := 0, v
		if v > top {
			filled = (v - top + units[best] - 1) / units[best]
			base -= filled * units[best]
		}
		total := cost[base&mask]
		if total >= dear {
			continue
		}
		// What no number of money can hold costs as much as can be said.
		if float64(total)+float64(filled)*float64(sizes[best].Cost) > dear {
			total = dear
		} else {
			total += int64(filled) * sizes[best].Cost
		}
		if total >= cheapest {
			continue
		}
		cheapest = total
		counts := make([]int, len(sizes))
		counts[best] = filled
		for base > 0 {
			i := int(last[base])
			counts[i]++
			base -= units[i]
		}
		paths = append(paths, counts)
	}
	return paths
}

// cheaper compares costs per unit, exactly; of equal ones the smaller size fills up
// sooner.
func cheaper(costA int64, unitsA int, costB int64, unitsB int) bool {
	a, b := float64(costA)/float64(unitsA), float64(costB)/float64(unitsB)
	return a < b || a == b && unitsA < unitsB
}
