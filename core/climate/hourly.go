package climate

import (
	"fmt"
	"slices"
	"time"

	"nephelon/core/measure"
)

// HourFault is an entry of a forecast that cannot be used as it is.
type HourFault struct {
	Index int // in the forecast as given
	Text  string
}

// widestGap is the longest gap between two hours of a forecast that is filled in:
// common practice, no source.
const widestGap = 6 * time.Hour

// Hourly returns a forecast as hours that follow each other an hour apart, in order of
// time. Entries less than an hour after the one before are left out, gaps of up to six
// hours are filled in along a straight line, and what lies behind a longer gap is left out;
// faults name the first entry of each kind.
func Hourly(given []Hour) (hours []Hour, faults []HourFault) {
	order := make([]int, len(given))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return given[a].At.Compare(given[b].At) })
	told := make(map[string]bool)
	tell := func(kind string, index int, format string, args ...any) {
		if !told[kind] {
			told[kind] = true
			faults = append(faults, HourFault{index, fmt.Sprintf(format, args...)})
		}
	}
	for n, i := range order {
		if i != n {
			tell("order", i, "its hours are not in order of time; they are sorted.")
		}
		h := given[i]
		if n == 0 {
			hours = append(hours, h)
			continue
		}
		last := hours[len(hours)-1]
		gap := h.At.Sub(last.At)
		switch {
		case gap < time.Hour:
			tell("double", i, "%s is less than an hour after the entry before; it is left out.",
				h.At.Format("2 Jan 2006, 15:04"))
		case gap > widestGap:
			tell("gap", i, "there are no hours from %s to %s; what comes after is left out.",
				last.At.Format("2 Jan 2006, 15:04"),
				h.At.Format("2 Jan 2006, 15:04"))
			return hours, faults
		case gap > time.Hour:
			tell("gap", i, "hours are missing before %s; they are filled in along a straight line.",
				h.At.Format("2 Jan 2006, 15:04"))
			for at := last.At.Add(time.Hour); at.Before(h.At); at = at.Add(time.Hour) {
				hours = append(hours, between(last, h, at))
			}
			if h.At.Sub(hours[len(hours)-1].At) == time.Hour {
				hours = append(hours, h)
			}
		default:
			hours = append(hours, h)
		}
	}
	return hours, faults
}

// between returns the weather at a time between two hours, along a straight line.
func between(a, b Hour, at time.Time) Hour {
	share := float64(at.Sub(a.At)) / float64(b.At.Sub(a.At))
	mix := func(x, y float64) float64 { return x + share*(y-x) }
	return Hour{
		At: at, Air: measure.Temperature(mix(float64(a.Air), float64(b.Air))),
		Humidity: measure.Fraction(mix(float64(a.Humidity), float64(b.Humidity))),
		Rain:     mix(a.Rain, b.Rain), Wind: mix(a.Wind, b.Wind),
		Cloud: measure.Fraction(mix(float64(a.Cloud), float64(b.Cloud))), Sun: mix(a.Sun, b.Sun),
	}
}
