package standin

import (
	"encoding/json"
	"math"
	"net/http"
	"time"
)

// Weight holds what the scale shows.
type Weight struct {
	At     time.Time `json:"at"`
	Mass   float64   `json:"mass"`   // kg since it was last tared
	Stable bool      `json:"stable"` // false while something is still being poured
}

// scale is a simulated platform scale with a pail on it. After each taring
// somebody pours the next part; PUT /scale/load settles what stands on it.
type scale struct {
	load, tare float64 // kg
	pouring    float64 // kg that the pour under way ends at, above the tare
	since      time.Time
	tares      int
}

const (
	pourRate  = 0.4   // kg/s
	graduated = 0.005 // kg
)

// on returns what stands on the scale above its tare, and whether a pour is over.
func (c *scale) on(now time.Time) (float64, bool) {
	if c.since.IsZero() {
		return c.load - c.tare, true
	}
	poured := pourRate * now.Sub(c.since).Seconds()
	return c.load - c.tare + math.Min(poured, c.pouring), poured >= c.pouring
}

func (s *Site) weigh(w http.ResponseWriter, _ *http.Request) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	now := s.now()
	mass, stable := s.scale.on(now)
	answer(w, http.StatusOK, Weight{At: now.UTC(), Mass: math.Round(mass/graduated) * graduated, Stable: stable})
}

// tare sets the scale to zero with what stands on it, and the next part is
// poured: A of a batch, then a B that may be off.
func (s *Site) tare(w http.ResponseWriter, _ *http.Request) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	now := s.now()
	mass, _ := s.scale.on(now)
	s.scale.load = s.scale.tare + mass
	s.scale.tare = s.scale.load
	s.scale.tares++
	s.scale.pouring = 6 + 3*s.random.Float64()
	if s.scale.tares%2 == 0 {
		s.scale.pouring = 2 + 1.5*s.random.Float64()
	}
	s.scale.since = now
	answer(w, http.StatusOK, map[string]bool{"tared": true})
}

// put settles what stands on the scale above its tare.
func (s *Site) put(w http.ResponseWriter, r *http.Request) {
	var load struct {
		Mass float64 `json:"mass"`
	}
	if err := json.NewDecoder(r.Body).Decode(&load); err != nil || load.Mass < 0 || load.Mass > 200 {
		refuse(w, http.StatusBadRequest, "The scale bears 0 to 200 kg.")
		return
	}
	s.mutex.Lock()
	defer s.mutex.Unlock()
	s.scale.load, s.scale.since = s.scale.tare+load.Mass, time.Time{}
	answer(w, http.StatusOK, load)
}
