package input

import (
	"fmt"

	"nephelon/core/climate"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// weather is the forecast of a job in order of time, with the slab it makes of
// each kind of place.
type weather struct {
	Hours []climate.Hour
	slabs map[climate.Place][]measure.Temperature // uncorrected by readings
}

func newWeather(f *job.Forecast) (weather, []finding.Finding) {
	if f == nil || len(f.Hours) == 0 {
		return weather{}, nil
	}
	for i, h := range f.Hours {
		if bad := job.CheckYear(h.At); bad != nil {
			return weather{}, []finding.Finding{Refused(finding.Survey, fmt.Sprintf("/job/forecast/hours/%d/at", i),
				"Correct it, or fetch the forecast again.", "The forecast: %v.", bad)}
		}
	}
	hours, faults := climate.Hourly(f.Hours)
	var found []finding.Finding
	for _, fault := range faults {
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Survey, Path: fmt.Sprintf("/job/forecast/hours/%d", fault.Index),
			Text: "The forecast: " + fault.Text, WayOut: "Fetch or import the forecast again.",
		})
	}
	return weather{Hours: hours, slabs: make(map[climate.Place][]measure.Temperature)}, found
}

// Slab is the slab of a place hour by hour; nil without a forecast. Each place is
// worked out once.
func (w weather) Slab(place climate.Place) []measure.Temperature {
	if len(w.Hours) == 0 {
		return nil
	}
	if w.slabs[place] == nil {
		w.slabs[place] = climate.Slab(w.Hours, place)
	}
	return w.slabs[place]
}

// Placed returns the place of a slab, and the temperatures read on it: when it was surveyed, and on
// the days of the job, which do not say of which surface they are.
func (in *Inputs) Placed(s *survey.Survey) (climate.Place, []climate.Reading) {
	var read []climate.Reading
	for _, r := range in.onDays {
		if !r.At.After(in.Now) {
			read = append(read, climate.Reading{At: r.At, Value: r.Slab})
		}
	}
	if s == nil {
		return climate.Place{}, read
	}
	for n := range s.Readings {
		if r := &s.Readings[n]; r.Kind == survey.SlabTemperature && r.Check(in.Now, in.Units) == nil {
			read = append(read, climate.Reading{At: r.At, Value: measure.Temperature(r.Value)})
		}
	}
	return climate.Place{Outdoors: s.Outdoors, Heated: s.Heated}, read
}
