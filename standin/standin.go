// Package standin simulates the instruments and the weather service of a site,
// speaking plain JSON over HTTP, so that a real bridge can take its place. Its
// contract is in docs/instruments.md.
package standin

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"net/http"
	"strconv"
	"sync"
	"time"

	"nephelon/core/climate"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// Instrument is a simulated instrument.
type Instrument struct {
	ID      string               `json:"id"`
	Name    string               `json:"name"`
	Reads   []survey.ReadingKind `json:"reads"`
	Battery float64              `json:"battery"` // share left
	Fault   string               `json:"fault"`   // "", "battery" or "contact"
}

// Value is one number that an instrument read, in the units of survey.Reading.
type Value struct {
	Kind  survey.ReadingKind `json:"kind"`
	Value float64            `json:"value"`
	Scale string             `json:"scale,omitempty"`
}

// Taken is a reading as an instrument gives it.
type Taken struct {
	Instrument string    `json:"instrument"`
	At         time.Time `json:"at"`
	Values     []Value   `json:"values"`
}

// Site is a set of instruments in one place, and its weather.
type Site struct {
	now func() time.Time

	mutex       sync.Mutex
	random      *rand.Rand
	started     time.Time
	climate     string
	instruments []Instrument
	scale       scale
}

// New makes a site. The same seed and times give the same readings.
func New(seed uint64, now func() time.Time) *Site {
	return &Site{
		now: now, random: rand.New(rand.NewPCG(seed, 1)), started: now(), climate: "estuary",
		instruments: []Instrument{
			{ID: "ir-gun", Name: "Infrared thermometer", Reads: []survey.ReadingKind{survey.SlabTemperature}, Battery: 0.83},
			{ID: "hygrometer", Name: "Thermo-hygrometer", Reads: []survey.ReadingKind{survey.AirTemperature, survey.AirHumidity},
				Battery: 0.61},
			{ID: "slab-probe", Name: "Slab probe", Reads: []survey.ReadingKind{survey.SlabHumidity}, Battery: 0.74},
			{ID: "moisture-meter", Name: "Moisture meter", Reads: []survey.ReadingKind{survey.Meter}, Battery: 0.35},
		},
	}
}

// Handler serves the site.
func (s *Site) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /instruments", func(w http.ResponseWriter, _ *http.Request) { answer(w, http.StatusOK, s.list()) })
	mux.HandleFunc("GET /instruments/{id}/reading", s.read)
	mux.HandleFunc("PUT /instruments/{id}/fault", s.fault)
	mux.HandleFunc("GET /scale", s.weigh)
	mux.HandleFunc("PUT /scale/tare", s.tare)
	mux.HandleFunc("PUT /scale/load", s.put)
	mux.HandleFunc("GET /weather", s.weather)
	return mux
}

func answer(w http.ResponseWriter, status int, content any) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(content) // the other side hung up: nobody is left to tell
}

func refuse(w http.ResponseWriter, status int, text string, args ...any) {
	answer(w, status, map[string]string{"error": fmt.Sprintf(text, args...)})
}

func (s *Site) list() []Instrument {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	return append([]Instrument{}, s.instruments...)
}

func (s *Site) find(id string) *Instrument {
	for i := range s.instruments {
		if s.instruments[i].ID == id {
			return &s.instruments[i]
		}
	}
	return nil
}

// drift is the most that an instrument drifts in a day, in its own units.
const drift = 0.3

func (s *Site) read(w http.ResponseWriter, r *http.Request) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	i := s.find(r.PathValue("id"))
	switch {
	case i == nil:
		refuse(w, http.StatusNotFound, "There is no instrument “%s” here.", r.PathValue("id"))
		return
	case i.Fault == "battery" || i.Battery <= 0:
		refuse(w, http.StatusServiceUnavailable, "The battery of the %s is flat.", i.Name)
		return
	case i.Fault == "contact":
		refuse(w, http.StatusGatewayTimeout, "The %s stopped in the middle of a reading: contact was lost.", i.Name)
		return
	}
	i.Battery = math.Max(0, i.Battery-0.002)
	now := s.now()
	hour := Forecast(s.climate, now.Truncate(time.Hour), 1)[0]
	slab := climate.Slab(Forecast(s.climate, now.Truncate(time.Hour).Add(-30*time.Hour), 31), climate.Place{})
	wander := drift * math.Sin(now.Sub(s.started).Hours()/24)
	noise := func(size float64) float64 { return size * s.random.NormFloat64() }
	taken := Taken{Instrument: i.Name, At: now.UTC(), Values: []Value{}}
	for _, kind := range i.Reads {
		v := Value{Kind: kind}
		switch kind {
		case survey.SlabTemperature:
			v.Value = tenth(float64(slab[30]) + wander + noise(0.3))
		case survey.AirTemperature:
			v.Value = tenth(float64(hour.Air) + wander + noise(0.2))
		case survey.AirHumidity:
			v.Value = math.Round(1000*math.Min(0.99, math.Max(0.05, float64(hour.Humidity)+noise(0.01)))) / 1000
		case survey.SlabHumidity:
			v.Value = math.Round(1000*math.Min(0.99, 0.87+0.004*wander+noise(0.004))) / 1000
		case survey.Meter:
			v.Value, v.Scale = tenth(4.6+noise(0.3)), "wood scale, %"
		}
		taken.Values = append(taken.Values, v)
	}
	answer(w, http.StatusOK, taken)
}

func tenth(v float64) float64 { return math.Round(10*v) / 10 }

func (s *Site) fault(w http.ResponseWriter, r *http.Request) {
	var wanted struct {
		Fault string `json:"fault"`
	}
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 1<<10)).Decode(&wanted); err != nil {
		refuse(w, http.StatusBadRequest, "Send {\"fault\": \"battery\"}, \"contact\" or \"\".")
		return
	}
	s.mutex.Lock()
	defer s.mutex.Unlock()
	i := s.find(r.PathValue("id"))
	if i == nil || wanted.Fault != "" && wanted.Fault != "battery" && wanted.Fault != "contact" {
		refuse(w, http.StatusNotFound, "There is no such instrument or fault.")
		return
	}
	i.Fault = wanted.Fault
	answer(w, http.StatusOK, *i)
}

func (s *Site) weather(w http.ResponseWriter, r *http.Request) {
	name := r.URL.Query().Get("climate")
	if name == "" {
		name = s.climate
	}
	if _, known := climates()[name]; !known {
		refuse(w, http.StatusNotFound, "There is no climate “%s”; there are estuary, plateau and foothills.", name)
		return
	}
	hours, err := strconv.Atoi(r.URL.Query().Get("hours"))
	if err != nil || hours < 1 || hours > 240 {
		hours = 72
	}
	answer(w, http.StatusOK, struct {
		Place string         `json:"place"`
		Hours []climate.Hour `json:"hours"`
	}{name, Forecast(name, s.now().UTC().Truncate(time.Hour).Add(-6*time.Hour), hours+6)})
}

// weatherOf are the habits of a climate.
type weatherOf struct {
	mean, season, daily float64 // °C
	damp, wet, wind     float64
}

func climates() map[string]weatherOf {
	return map[string]weatherOf{
		"estuary":   {mean: 11, season: 6, daily: 3.5, damp: 0.8, wet: 0.35, wind: 6},
		"plateau":   {mean: 19, season: 9, daily: 9, damp: 0.4, wet: 0.08, wind: 4},
		"foothills": {mean: 8, season: 10, daily: 7, damp: 0.65, wet: 0.25, wind: 3},
	}
}

// Forecast is the weather of a climate hour by hour. It depends on the climate
// and the time alone.
func Forecast(name string, from time.Time, hours int) []climate.Hour {
	c := climates()[name]
	all := make([]climate.Hour, hours)
	for i := range all {
		at := from.Add(time.Duration(i) * time.Hour)
		t := float64(at.Unix()) / 3600
		noon := math.Cos(2 * math.Pi * (float64(at.Hour()) - 14) / 24)
		year := math.Cos(2 * math.Pi * (float64(at.YearDay()) - 200) / 365)
		front := wave(name, t, 61, 1) + 0.6*wave(name, t, 23, 2)
		cloud := math.Min(1, math.Max(0, 0.45+0.5*front))
		air := c.mean + c.season*year + c.daily*noon*(1-0.5*cloud) - 1.5*front
		high := math.Max(0, math.Cos(2*math.Pi*(float64(at.Hour())-12)/24)) * (0.6 + 0.4*year)
		humidity := math.Min(0.99, math.Max(0.12, c.damp-0.03*c.daily/3*noon+0.18*front))
		rain := 0.0
		if shower := front + c.wet - 0.85; shower > 0 {
			rain = math.Round(10*4*shower) / 10
		}
		all[i] = climate.Hour{
			At: at.UTC(), Air: measure.Temperature(tenth(air)),
			Humidity: measure.Fraction(math.Round(100*humidity) / 100), Rain: rain,
			Wind: tenth(c.wind * (1 + 0.5*wave(name, t, 11, 3))), Cloud: measure.Fraction(math.Round(100*cloud) / 100),
			Sun: math.Round(900 * high * (1 - 0.75*cloud)),
		}
	}
	return all
}

// wave is a slow, irregular swing between about −1 and 1.
func wave(name string, t, period float64, kind int) float64 {
	phase := float64(len(name)*7 + kind*13)
	return 0.6*math.Sin(2*math.Pi*t/period+phase) + 0.4*math.Sin(2*math.Pi*t/(period*2.7)+2*phase)
}
