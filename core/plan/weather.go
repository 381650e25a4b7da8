package plan

import (
	"slices"

	"nephelon/core/climate"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// weather is the forecast of a job in order of time, with the slab it makes of
// each kind of place.
type weather struct {
	hours []climate.Hour
	slabs map[climate.Place][]measure.Temperature // uncorrected by readings
}

func newWeather(f *job.Forecast) weather {
	if f == nil || len(f.Hours) == 0 {
		return weather{}
	}
	w := weather{
		hours: slices.SortedFunc(slices.Values(f.Hours), func(a, b climate.Hour) int { return a.At.Compare(b.At) }),
		slabs: make(map[climate.Place][]measure.Temperature),
	}
	return w
}

// slab is the slab of a place hour by hour; nil without a forecast. Each place is
// worked out once.
func (w weather) slab(place climate.Place) []measure.Temperature {
	if len(w.hours) == 0 {
		return nil
	}
	if w.slabs[place] == nil {
		w.slabs[place] = climate.Slab(w.hours, place)
	}
	return w.slabs[place]
}

// placed is where a surveyed slab lies, with the temperatures read on it.
func placed(s *survey.Survey) (climate.Place, []climate.Reading) {
	if s == nil {
		return climate.Place{}, nil
	}
	var read []climate.Reading
	for _, r := range s.Readings {
		if r.Kind == survey.SlabTemperature {
			read = append(read, climate.Reading{At: r.At, Value: measure.Temperature(r.Value)})
		}
	}
	return climate.Place{Outdoors: s.Outdoors, Heated: s.Heated}, read
}
