package material

import (
	"fmt"
	"slices"

	"nephelon/core/cure"
	"nephelon/core/measure"
)

// PotLife holds how long a mass of fresh mix can be used.
type PotLife struct {
	At     measure.Temperature `json:"at" minimum:"-30" maximum:"80" doc:"°C"`
	Mass   measure.Mass        `json:"mass,omitempty" minimum:"0" maximum:"1000" doc:"kg it was measured on; unknown when left out"`
	Lasts  measure.Span        `json:"lasts" exclusiveMinimum:"0" maximum:"31536000" doc:"s"`
	Source measure.Source      `json:"source"`
}

// TimeAt is a time that a sheet gives for a temperature.
type TimeAt struct {
	At     measure.Temperature `json:"at" minimum:"-30" maximum:"80" doc:"°C"`
	After  measure.Span        `json:"after" exclusiveMinimum:"0" maximum:"31536000" doc:"s"`
	Source measure.Source      `json:"source"`
}

// Flow is a viscosity at a temperature.
type Flow struct {
	At     measure.Temperature `json:"at" minimum:"-30" maximum:"80" doc:"°C"`
	Value  measure.Viscosity   `json:"value" exclusiveMinimum:"0" maximum:"10000" doc:"Pa·s"`
	Source measure.Source      `json:"source"`
}

// Curing holds how a product goes from a liquid to a floor.
type Curing struct {
	PotLife     []PotLife                      `json:"potLife,omitempty" maxItems:"12" doc:"From A meeting B to where the bucket can no longer be used"`
	Induction   *measure.Sourced[measure.Span] `json:"induction,omitempty" doc:"s of standing after mixing"`
	Mixing      *measure.Sourced[measure.Span] `json:"mixing,omitempty" doc:"s of mixing"`
	MixingAgain *measure.Sourced[measure.Span] `json:"mixingAgain,omitempty" doc:"s of mixing again in a second vessel; as the contractor does it when left out"`
	MixingMax   *measure.Sourced[measure.Span] `json:"mixingMax,omitempty" doc:"s of mixing at most: longer mixing whips in air and uses up pot life"`
	MixMax      *measure.Sourced[measure.Mass] `json:"mixMax,omitempty" doc:"kg mixed at once at most, for the heat"`
	Working     []TimeAt                       `json:"working,omitempty" maxItems:"12" doc:"While the spread film can be worked: of what dries from when it is spread, of what reacts from when it leaves the pail, less what it aged there"`
	TackFree    []TimeAt                       `json:"tackFree,omitempty" maxItems:"12"`
	RecoatFrom  []TimeAt                       `json:"recoatFrom,omitempty" maxItems:"12"`
	RecoatUntil []TimeAt                       `json:"recoatUntil,omitempty" maxItems:"12"`
	Foot        []TimeAt                       `json:"foot,omitempty" maxItems:"12" doc:"Light foot traffic"`
	Furniture   []TimeAt                       `json:"furniture,omitempty" maxItems:"12" doc:"Furniture may be put on it"`
	Vehicle     []TimeAt                       `json:"vehicle,omitempty" maxItems:"12"`
	Water       []TimeAt                       `json:"water,omitempty" maxItems:"12" doc:"Water may stand on it"`
	Full        []TimeAt                       `json:"full,omitempty" maxItems:"12" doc:"Cured through"`
	Kinetics    *cure.Kinetics                 `json:"kinetics,omitempty" doc:"Own kinetics; those of the chemistry when left out"`
}

// StageKey names what a film comes to.
type StageKey string

// The stages of a film, in the order in which it passes them.
const (
	StageWorking     StageKey = "working"
	StageTackFree    StageKey = "tackFree"
	StageRecoatFrom  StageKey = "recoatFrom"
	StageRecoatUntil StageKey = "recoatUntil"
	StageFoot        StageKey = "foot"
	StageFurniture   StageKey = "furniture"
	StageVehicle     StageKey = "vehicle"
	StageWater       StageKey = "water"
	StageFull        StageKey = "full"
)

// Ends reports whether the stage is the end of something, which the first section
// comes to first; everything else is reached when the last section is there.
func (k StageKey) Ends() bool { return k == StageWorking || k == StageRecoatUntil }

// Field returns where a sheet gives the stage's times, as a JSON Pointer inside it.
func (k StageKey) Field() string { return "/" + string(k) }

// Stage is one kind of time of a sheet.
type Stage struct {
	Key   StageKey
	Name  string
	Times []TimeAt
}

// Stages are a sheet's times in the order in which a film passes them.
func (c Curing) Stages() []Stage {
	return []Stage{
		{StageWorking, "working time", c.Working},
		{StageTackFree, "tack-free", c.TackFree},
		{StageRecoatFrom, "recoat from", c.RecoatFrom},
		{StageRecoatUntil, "recoat until", c.RecoatUntil},
		{StageFoot, "light foot traffic", c.Foot},
		{StageFurniture, "furniture", c.Furniture},
		{StageVehicle, "vehicles", c.Vehicle},
		{StageWater, "water", c.Water},
		{StageFull, "full cure", c.Full},
	}
}

// Returns are the stages at which a surface goes back into service, in their order.
func Returns() []StageKey {
	return []StageKey{StageFoot, StageFurniture, StageVehicle, StageWater, StageFull}
}

// Service names the stage at which a surface goes back into service, by what it is: nobody walks on a top, and no car
// stands on it. Empty where that is nothing to say of such a surface.
func (k StageKey) Service(on SurfaceKind) string {
	if on == "top" {
		return map[StageKey]string{StageFoot: "light use", StageFurniture: "things may stand on it", StageWater: "water",
			StageFull: "full cure: heat, knives and cleaners"}[k]
	}
	for _, s := range (Curing{}).Stages() {
		if s.Key == k {
			return s.Name
		}
	}
	return ""
}

// Reach returns the time a film takes to the stage at a steady temperature, by
// Arrhenius through the sheet's points, and whether that temperature lies outside
// them. Below the coldest point a stage that ends something takes no longer than
// there. The time is 0 where the sheet gives none.
func (c Curing) Reach(key StageKey, at measure.Temperature) (time measure.Span, outside bool) {
	for _, s := range c.Stages() {
		if s.Key == key {
			return s.Reach(at)
		}
	}
	return 0, false
}

// Reach returns the time to the stage at a steady temperature; see [Curing.Reach].
func (s Stage) Reach(at measure.Temperature) (time measure.Span, outside bool) {
	rate, err := s.Rate()
	if err != nil {
		return 0, false // none given, or refused by Faults
	}
	return rate.Time(at)
}

// Rate returns the stage's time against temperature. It fails where the sheet gives
// none, or times that grow with heat; equal times at two temperatures are allowed.
func (s Stage) Rate() (cure.Rate, error) {
	points := make([]cure.Point, len(s.Times))
	for i, t := range s.Times {
		points[i] = cure.Point{At: t.At, Time: t.After}
	}
	rate, err := cure.FitRate(points)
	rate.Ends = s.Key.Ends()
	return rate, err
}

// Timed is all that the sheet and own batches say of how long the mix can be used,
// in a pail and as a film of a thickness.
func (c Curing) Timed(film measure.Film) []cure.Timed {
	var all []cure.Timed
	for _, p := range c.PotLife {
		all = append(all, cure.Timed{At: p.At, Mass: p.Mass, Lasts: p.Lasts, Source: p.Source})
	}
	for _, w := range c.Working {
		if len(all) > 0 && film > 0 {
			all = append(all, cure.Timed{At: w.At, Film: film, Lasts: w.After, Source: w.Source})
		}
	}
	return all
}

// Massed is the mass on which most pot lives were measured, the largest of several,
// 0 where it is not told.
func (c Curing) Massed() (mass measure.Mass) {
	count := make(map[measure.Mass]int, 2)
	for _, p := range c.PotLife {
		count[p.Mass]++
		if n, best := count[p.Mass], count[mass]; n > best || n == best && p.Mass > mass {
			mass = p.Mass
		}
	}
	return mass
}

// Lives is the pot life at a temperature on the mass of most of the sheet's points,
// by Arrhenius through them, with that mass. It is 0 where the sheet gives none.
func (c Curing) Lives(at measure.Temperature) (life measure.Span, mass measure.Mass) {
	mass = c.Massed()
	var points []cure.Point
	for _, p := range c.PotLife {
		if p.Mass == mass {
			points = append(points, cure.Point{At: p.At, Time: p.Lasts})
		}
	}
	rate, err := cure.FitRate(points)
	if err != nil {
		return 0, 0
	}
	life, _ = rate.Time(at)
	return life, mass
}

// Dries reports whether a product hardens as it dries: solvent or water leaves it, or it is one part. Its working
// time counts from when it is spread; that of a mix which only reacts from when it leaves the pail, less what it
// aged there.
func (p Product) Dries() bool {
	return p.Carrier == Water || p.Carrier == Solvent || len(p.Components) < 2
}

// Reacts returns how the mix reacts before it is calibrated: its sheet's own
// kinetics, else its chemistry's from memory.
func (p Product) Reacts() cure.Kinetics {
	if p.Kinetics != nil {
		return *p.Kinetics
	}
	return cure.Usual(string(p.Chemistry), p.VolumeSolids.Value)
}

// Sheet returns what is known of the life of the mix.
func (p Product) Sheet(mix Mix) cure.Sheet {
	film := p.workedFilm()
	if p.Carrier != NoCarrier {
		film = 0 // what dries as it stands says nothing of how it reacts
	}
	s := cure.Sheet{Timed: p.Timed(film), Density: mix.Density.Value, Kinetics: p.Reacts()}
	if len(p.Viscosity) > 0 {
		s.Viscosity = p.Viscosity[0].Value
	}
	return s
}

// workedFilm is the film on which a working time is taken to be told: the middle of
// what the sheet allows, else half a millimetre, assumed.
func (p Product) workedFilm() measure.Film {
	switch {
	case p.FilmMin != nil && p.FilmMax != nil:
		return (p.FilmMin.Value + p.FilmMax.Value) / 2
	case p.FilmMax != nil:
		return p.FilmMax.Value
	}
	return 0.5e-3
}

// faults of the times: what grows with heat, and ends before it begins.
func (c Curing) faults() []Fault {
	var found []Fault
	byMass := make(map[measure.Mass][]TimeAt)
	if c.MixMax != nil && !(c.MixMax.Value > 0) {
		found = append(found, Fault{"/mixMax", "The greatest mass of a mix must be above zero.",
			"Leave it out when the sheet gives none."})
	}
	for i, p := range c.PotLife {
		if p.Mass < 0 || p.Lasts <= 0 {
			found = append(found, Fault{fmt.Sprintf("/potLife/%d", i), "Pot life and its mass must be above zero.",
				"Leave the mass out when the sheet does not print it."})
		}
		if p.Source != measure.OwnTest { // own batches scatter
			byMass[p.Mass] = append(byMass[p.Mass], TimeAt{At: p.At, After: p.Lasts})
		}
	}
	for _, times := range byMass {
		if text := growing(times); text != "" {
			found = append(found, Fault{"/potLife", "Pot life increases with temperature: " + text + ".",
				"A warm mix has a shorter pot life; exchange the two, or read the sheet again."})
		}
	}
	for _, s := range c.Stages() {
		for i, t := range s.Times {
			if t.After <= 0 {
				found = append(found, Fault{fmt.Sprintf("%s/%d", s.Key.Field(), i), "A time must be above zero.",
					"Leave the line out when the sheet gives none."})
			}
		}
		if text := growing(s.Times); text != "" {
			found = append(found, Fault{s.Key.Field(), "The time of " + s.Name + " increases with temperature: " + text + ".",
				"A warm film is faster; exchange the two, or read the sheet again."})
		}
	}
	if c.Kinetics != nil {
		if err := c.Kinetics.Check(); err != nil {
			found = append(found, Fault{"/kinetics", "The cure kinetics are not valid: " + err.Error() + ".",
				"Correct them, or leave them out: typical kinetics of its chemistry are used then."})
		}
	}
	for i, until := range c.RecoatUntil {
		for _, from := range c.RecoatFrom {
			if from.At == until.At && until.After <= from.After {
				found = append(found, Fault{fmt.Sprintf("/recoatUntil/%d", i),
					fmt.Sprintf("At %s the window ends after %s, before it begins after %s.", measure.Metric.Temperature(until.At),
						measure.Metric.Span(until.After), measure.Metric.Span(from.After)),
					"Exchange “recoat from” and “recoat until”, or read the sheet again."})
			}
		}
	}
	return found
}

// growing names two points of which the warmer takes longer, or is empty.
func growing(times []TimeAt) string {
	sorted := slices.Clone(times)
	slices.SortStableFunc(sorted, func(a, b TimeAt) int {
		if a.At < b.At {
			return -1
		}
		if a.At > b.At {
			return 1
		}
		return 0
	})
	for i := 1; i < len(sorted); i++ {
		cold, warm := sorted[i-1], sorted[i]
		switch {
		case cold.At == warm.At && cold.After != warm.After:
			return fmt.Sprintf("two times at %s", measure.Metric.Temperature(cold.At))
		case cold.At != warm.At && warm.After > cold.After:
			return fmt.Sprintf("%s at %s, %s at %s", measure.Metric.Span(cold.After), measure.Metric.Temperature(cold.At),
				measure.Metric.Span(warm.After), measure.Metric.Temperature(warm.At))
		}
	}
	return ""
}

// Values returns all values, in the order in which they are shown.
func (StageKey) Values() []StageKey {
	return []StageKey{
		StageWorking, StageTackFree, StageRecoatFrom, StageRecoatUntil, StageFoot, StageFurniture,
		StageVehicle, StageWater, StageFull,
	}
}
