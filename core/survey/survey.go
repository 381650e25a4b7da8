// Package survey decides from what was seen and read whether a surface is fit to
// coat, and what must be done to it first.
package survey

import (
	"fmt"
	"time"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/school"
)

// Substrate names what is to be coated.
type Substrate string

// The substrates.
const (
	Concrete   Substrate = "concrete"
	Trowelled  Substrate = "trowelled-hard" // concrete closed by a power trowel
	Screed     Substrate = "screed"
	Plaster    Substrate = "plaster"
	Timber     Substrate = "timber"
	Board      Substrate = "board"
	Stone      Substrate = "stone"
	Metal      Substrate = "metal"
	Tile       Substrate = "tile"
	Laminate   Substrate = "laminate"
	OldCoating Substrate = "old-coating"
)

// Survey holds what is known of a surface before it is coated.
type Survey struct {
	Substrate     Substrate        `json:"substrate,omitempty"`
	Laid          string           `json:"laid,omitempty" pattern:"^\\d{4}-\\d{2}-\\d{2}$" doc:"The day it was poured or laid, where that is known"`
	Use           string           `json:"use,omitempty" maxLength:"300"`
	Outdoors      bool             `json:"outdoors,omitempty"`
	Heated        bool             `json:"heated,omitempty"`
	Immersed      bool             `json:"immersed,omitempty"`
	KeepSealed    bool             `json:"keepSealed,omitempty" doc:"A closed surface stays closed on purpose: it is abraded, not opened"`
	Washer        bool             `json:"washer,omitempty" doc:"Wet work is rinsed by pressure washer, not flooded"`
	Shut          bool             `json:"shut,omitempty" doc:"Doors and air of its room are shut: no dust of other surfaces of the job comes in, and none of its own goes out"`
	Contamination []string         `json:"contamination,omitempty" maxItems:"8" enum:"oil,dust,sealer,curing-compound,laitance,salts,loose-paint,wax"`
	WaterDrop     string           `json:"waterDrop,omitempty" enum:"soaks,beads" doc:"What a drop of water does"`
	Soundness     string           `json:"soundness,omitempty" enum:"sound,scratches,crumbles"`
	Behind        string           `json:"behind,omitempty" enum:"dry,damp,weeping" doc:"What is behind a wall or floor in the ground"`
	Profile       int              `json:"profile,omitempty" minimum:"0" maximum:"10" doc:"Concrete surface profile found, ICRI 310.2R"`
	Wanted        int              `json:"wanted,omitempty" minimum:"0" maximum:"10" doc:"Profile wanted; that of the coats when left out"`
	Readings      []Reading        `json:"readings,omitempty" maxItems:"1000"`
	Overrides     []Override       `json:"overrides,omitempty" maxItems:"60"`
	Also          []school.Opening `json:"also,omitempty" maxItems:"3" doc:"How it is opened before the contractor's own way, such as screened before it is etched"`
	Steps         []StepChange     `json:"steps,omitempty" maxItems:"60" doc:"What is changed of the preparation that follows from all this"`
}

// ReadingKind names what was measured.
type ReadingKind string

// The kinds of reading.
const (
	SlabTemperature     ReadingKind = "slab-temperature"
	AirTemperature      ReadingKind = "air-temperature"
	MaterialTemperature ReadingKind = "material-temperature"
	AirHumidity         ReadingKind = "air-humidity"
	SlabHumidity        ReadingKind = "slab-humidity" // in-situ relative humidity
	Carbide             ReadingKind = "carbide"       // moisture as a share of mass
	Emission            ReadingKind = "emission"      // calcium chloride
	Sheet               ReadingKind = "plastic-sheet" // 1 condensation or darkening, 0 dry
	Meter               ReadingKind = "moisture-meter"
	Acidity             ReadingKind = "ph"
	PullOff             ReadingKind = "pull-off"
	Flatness            ReadingKind = "flatness" // the widest gap under a straightedge of 2 m
)

// Reading is one measurement with where, when, who and by what.
type Reading struct {
	ID         string          `json:"id" minLength:"1" maxLength:"60"`
	Kind       ReadingKind     `json:"kind"`
	Value      float64         `json:"value" minimum:"-1000" maximum:"100000000" doc:"°C for temperatures, 1 is 100 % for humidities, kg/(m²·s) for emission, Pa for pull-off, m for flatness, 1 or 0 for a plastic sheet"`
	At         time.Time       `json:"at"`
	Place      *geometry.Point `json:"place,omitempty"`
	By         string          `json:"by,omitempty" maxLength:"120"`
	Instrument string          `json:"instrument,omitempty" maxLength:"120"`
	Scale      string          `json:"scale,omitempty" maxLength:"60" doc:"Scale of a hand meter: a bare number is no reading"`
	Note       string          `json:"note,omitempty" maxLength:"300"`
}

// MeasureKind is the quantity of a reading.
func (k ReadingKind) MeasureKind() measure.Kind {
	switch k {
	case SlabTemperature, AirTemperature, MaterialTemperature:
		return measure.KindTemperature
	case AirHumidity, SlabHumidity, Carbide:
		return measure.KindFraction
	case Emission:
		return measure.KindEmission
	case PullOff:
		return measure.KindPressure
	case Flatness:
		return measure.KindLength
	}
	return measure.KindNumber
}

// Words is the kind as a person says it.
func (k ReadingKind) Words() string {
	return map[ReadingKind]string{
		SlabTemperature: "slab temperature", AirTemperature: "air temperature", MaterialTemperature: "material temperature",
		AirHumidity: "humidity of the air", SlabHumidity: "humidity in the slab", Emission: "moisture emission",
		Carbide: "moisture by the carbide method",
		Sheet:   "plastic sheet", Meter: "hand meter", Acidity: "pH", PullOff: "pull-off strength",
		Flatness: "gap under the straightedge",
	}[k]
}

// Check names what cannot be about a reading, or is to be asked, or gives nil.
func (r Reading) Check(now time.Time, units measure.System) *finding.Finding {
	refuse := func(way, text string, args ...any) *finding.Finding {
		return &finding.Finding{Level: finding.Refused, Step: finding.Survey, Text: fmt.Sprintf(text, args...), WayOut: way}
	}
	shown := units.Format(r.Kind.MeasureKind(), r.Value)
	switch kind := r.Kind.MeasureKind(); {
	case kind == measure.KindTemperature && (r.Value < -30 || r.Value > 70):
		return refuse("Read it again; mind whether the instrument is set to °C or °F.", "a %s of %s cannot be.",
			r.Kind.Words(), shown)
	case kind == measure.KindFraction && (r.Value < 0 || r.Value > 1):
		return refuse("Humidity must be between 0 and 100 %; read it again.", "a %s of %s cannot be.", r.Kind.Words(), shown)
	case r.Kind == Flatness && r.Value > 0.1:
		return refuse("Enter the gap under the straightedge, not its length.", "a gap of %s under a straightedge cannot be.",
			shown)
	case r.Kind == Acidity && (r.Value < 0 || r.Value > 14):
		return refuse("pH must be between 0 and 14; read it again.", "a pH of %.1f cannot be.", r.Value)
	case r.Kind != Acidity && kind != measure.KindTemperature && r.Value < 0:
		return refuse("Read it again.", "a %s below zero cannot be.", r.Kind.Words())
	case r.At.After(now.Add(time.Hour)):
		return refuse("Check the time of the reading.", "the %s is said to be read at %s, which is still to come.",
			r.Kind.Words(), r.At.Format("2 Jan 15:04"))
	}
	return nil
}

// Override is a person's decision to go on past a gate.
type Override struct {
	ID     string    `json:"id" minLength:"1" maxLength:"60" doc:"Id of the gate"`
	By     string    `json:"by" minLength:"1" maxLength:"120"`
	Reason string    `json:"reason" minLength:"3" maxLength:"400"`
	At     time.Time `json:"at"`
}

// latest is the newest reading of a kind.
func (s Survey) latest(kind ReadingKind) *Reading {
	var newest *Reading
	for i, r := range s.Readings {
		if r.Kind == kind && (newest == nil || r.At.After(newest.At)) {
			newest = &s.Readings[i]
		}
	}
	return newest
}

// Values returns all values, in the order in which they are shown.
func (ReadingKind) Values() []ReadingKind {
	return []ReadingKind{
		SlabTemperature, AirTemperature, MaterialTemperature, AirHumidity, SlabHumidity, Carbide, Emission, Sheet,
		Meter, Acidity, PullOff, Flatness,
	}
}

// Values returns all values, in the order in which they are shown.
func (Substrate) Values() []Substrate {
	return []Substrate{
		Concrete, Trowelled, Screed, Plaster, Timber, Board, Stone, Metal, Tile, Laminate, OldCoating,
	}
}
