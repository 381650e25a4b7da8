// Package material describes coating products and the media that go into them
// as their data sheets do.
package material

import (
	"nephelon/core/measure"
)

// Kind names what a product is for.
type Kind string

// Chemistry names what a product is made of.
type Chemistry string

// Carrier names what keeps a product liquid beside its own resins.
type Carrier string

// The carriers.
const (
	NoCarrier Carrier = "none" // 100 % solids
	Water     Carrier = "water"
	Solvent   Carrier = "solvent"
)

// Values lists the chemistries.
func (Chemistry) Values() []Chemistry {
	return []Chemistry{"epoxy", "novolac", "polyurethane", "polyaspartic", "acrylic", "polyester", "alkyd"}
}

// Contact names what touches a finished surface.
type Contact string

// Values lists the contacts that a certificate may cover.
func (Contact) Values() []Contact { return []Contact{"food", "potable"} }

// SurfaceKind names what is coated.
type SurfaceKind string

// Values lists the kinds of surfaces.
func (SurfaceKind) Values() []SurfaceKind { return []SurfaceKind{"floor", "top", "pool"} }

// Basis says whether a mixing ratio counts volumes or masses.
type Basis string

// The two bases of a ratio.
const (
	ByVolume Basis = "volume"
	ByMass   Basis = "mass"
)

// AssumedSlab is the temperature that coats are planned for where nobody said:
// common practice of data sheets, which print their times for it.
const AssumedSlab measure.Temperature = 20

// AssumedDensity stands in where a sheet gives none: common practice, no
// source. Whoever uses it must say so.
const AssumedDensity measure.Density = 1100

// Product is one data sheet. Quantities are in SI units; every value names its
// source. Version counts the editions that the company has kept of it.
type Product struct {
	ID        string    `json:"id" minLength:"1" maxLength:"60" pattern:"^[a-z0-9][a-z0-9-]*$"`
	Version   int       `json:"version,omitempty" minimum:"0" maximum:"100000" doc:"Counted by the shelf"`
	Name      string    `json:"name" minLength:"1" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Kind      Kind      `json:"kind" enum:"moisture-barrier,primer,body,metallic,flood,deep-pour,grout,clear,paint,pool-paint,urethane,polyaspartic,binder"`
	Chemistry Chemistry `json:"chemistry"`
	Carrier   Carrier   `json:"carrier,omitempty" doc:"none is 100 % solids; unknown when left out"`
	Color     string    `json:"color" pattern:"^#[0-9a-f]{6}$" doc:"The colour its coat is drawn in"`
	Look      string    `json:"look,omitempty" enum:"clear,light,dark,mixed" doc:"What it hides with: clear hides nothing, light shows what is below it"`
	Use       string    `json:"use,omitempty" maxLength:"400" doc:"What it is for, in a sentence"`
	Edition   string    `json:"edition,omitempty" maxLength:"60" doc:"Edition of the printed sheet"`
	Original  *Original `json:"original,omitempty" doc:"Maker's document that it was read from; kept beside the shelf"`
	Sample    bool      `json:"sample,omitempty" doc:"Typical figures to try the application with; nobody sells it"`

	Ratio        Ratio                              `json:"ratio"`
	Components   []Component                        `json:"components" minItems:"1" maxItems:"3" doc:"A, B and C; one alone is a single-pack paint"`
	Hardeners    []Hardener                         `json:"hardeners,omitempty" maxItems:"8" doc:"Others than the B among the components"`
	Density      *measure.Sourced[measure.Density]  `json:"density,omitempty" doc:"Density of the mix, kg/m³, where the components' own are unknown"`
	VolumeSolids measure.Sourced[measure.Fraction]  `json:"volumeSolids" doc:"1 is 100 % solids"`
	MassSolids   *measure.Sourced[measure.Fraction] `json:"massSolids,omitempty" doc:"Solids by mass; printed more often than by volume, and no substitute for it"`
	VOC          *measure.Sourced[measure.Content]  `json:"voc,omitempty" doc:"Volatile organic compounds of the mix, kg/m³ (g/L)"`
	VOCThinned   *measure.Sourced[measure.Content]  `json:"vocThinned,omitempty" doc:"The same with as much thinner as the sheet allows, kg/m³ (g/L)"`
	Viscosity    []Flow                             `json:"viscosity,omitempty" maxItems:"12" doc:"Viscosity of the fresh mix"`
	Loss         *measure.Sourced[measure.Fraction] `json:"loss,omitempty" doc:"Usual loss"`
	Printed      *Printed                           `json:"printed,omitempty" doc:"The amount as the sheet prints it"`
	Amounts      []ForUse                           `json:"amounts,omitempty" maxItems:"12" doc:"Amounts that the sheet prints for certain uses or grounds"`

	Curing
	Film
	Limits
	Fellows
	Additions

	Kits      []Kit                                 `json:"kits" minItems:"1" maxItems:"12" doc:"The sizes it is sold in"`
	Hazards   []string                              `json:"hazards,omitempty" maxItems:"8" enum:"skin-sensitiser,isocyanate,corrosive,flammable,dust" doc:"What the safety data sheet warns of"`
	Wear      []string                              `json:"wear,omitempty" maxItems:"8" doc:"Protective equipment that the safety data sheet names"`
	Cautions  []string                              `json:"cautions,omitempty" maxItems:"12" doc:"What can hurt, in sentences"`
	ShelfLife *measure.Sourced[measure.Span]        `json:"shelfLife,omitempty" doc:"s, unopened"`
	StoreMin  *measure.Sourced[measure.Temperature] `json:"storeMin,omitempty" doc:"°C"`
	StoreMax  *measure.Sourced[measure.Temperature] `json:"storeMax,omitempty" doc:"°C"`
}

// Original names a document by its content.
type Original struct {
	Hash string `json:"hash" pattern:"^[0-9a-f]{64}$" doc:"Hex SHA-256 of the document"`
	Name string `json:"name" minLength:"1" maxLength:"200" pattern:"^[^\\r\\n]*$" doc:"Name of its file"`
}

// Printed is an amount as a sheet prints it.
type Printed struct {
	Basis string  `json:"basis" enum:"wet-film,dry-film,spread,mass-per-area"`
	Value float64 `json:"value" exclusiveMinimum:"0" maximum:"1000000" doc:"m for films, m²/m³ for spread, kg/m² for mass per area"`

	Figure Figure `json:"figure,omitempty" doc:"Which of both a spread or mass per area is, as the sheet says"`
}

// Figure says whether an amount is what a floor takes in all, or the film alone.
type Figure string

// The figures.
const (
	Practical   Figure = "practical"   // loss, profile, absorption, residue and edges are in it
	Theoretical Figure = "theoretical" // they come on top
)

// Values returns all values, in the order in which they are shown.
func (Figure) Values() []Figure { return []Figure{Practical, Theoretical} }

// Film holds what one coat may be, wet.
type Film struct {
	FilmMin         *measure.Sourced[measure.Film] `json:"filmMin,omitempty" doc:"Thinnest wet film of one coat, m"`
	FilmMax         *measure.Sourced[measure.Film] `json:"filmMax,omitempty" doc:"Thickest wet film of one coat, m"`
	FilmMaxAt       []FilmAt                       `json:"filmMaxAt,omitempty" maxItems:"12" doc:"Thickest wet film of one coat by the temperature of the slab, where the sheet says so"`
	FilmMaxVertical *measure.Sourced[measure.Film] `json:"filmMaxVertical,omitempty" doc:"Thickest wet film of one coat on a wall, m"`
	Hides           *measure.Sourced[measure.Film] `json:"hides,omitempty" doc:"Wet film from which nothing below shows, m"`
}

// Limits are the conditions that a product is laid in.
type Limits struct {
	AirMin          *measure.Sourced[measure.Temperature] `json:"airMin,omitempty" doc:"°C"`
	AirMax          *measure.Sourced[measure.Temperature] `json:"airMax,omitempty" doc:"°C"`
	SlabMin         *measure.Sourced[measure.Temperature] `json:"slabMin,omitempty" doc:"Coldest slab, °C"`
	SlabMax         *measure.Sourced[measure.Temperature] `json:"slabMax,omitempty" doc:"Warmest slab, °C"`
	MaterialMin     *measure.Sourced[measure.Temperature] `json:"materialMin,omitempty" doc:"Coldest parts, °C"`
	MaterialMax     *measure.Sourced[measure.Temperature] `json:"materialMax,omitempty" doc:"Warmest parts, °C"`
	HumidityMax     *measure.Sourced[measure.Fraction]    `json:"humidityMax,omitempty" doc:"Most relative humidity of the air"`
	HumidityMin     *measure.Sourced[measure.Fraction]    `json:"humidityMin,omitempty" doc:"Least relative humidity of the air"`
	DewMargin       *measure.Sourced[measure.Temperature] `json:"dewMargin,omitempty" doc:"Slab above the dew point, K"`
	SlabHumidityMax *measure.Sourced[measure.Fraction]    `json:"slabHumidityMax,omitempty" doc:"Most in-situ relative humidity of a slab below it"`
	CarbideMax      *measure.Sourced[measure.Fraction]    `json:"carbideMax,omitempty" doc:"Most moisture of a slab below it by the carbide method, share of mass"`
	EmissionMax     *measure.Sourced[measure.Emission]    `json:"emissionMax,omitempty" doc:"Most water that a slab below it gives off, kg/(m²·s)"`
	Damp            string                                `json:"damp,omitempty" enum:"bears,harms" doc:"Whether damp below or in the air harms it"`
}

// Fellows holds what a product goes with.
type Fellows struct {
	Over      []string                         `json:"over,omitempty" maxItems:"16" enum:"concrete,screed,plaster,wood,metal,tile,stone,laminate,old-paint,epoxy,novolac,polyurethane,polyaspartic,acrylic,polyester,alkyd" doc:"What it may go over; not stated when left out"`
	Under     []Chemistry                      `json:"under,omitempty" maxItems:"16" doc:"What may go over it; not stated when left out"`
	Abrade    *measure.Sourced[measure.Number] `json:"abrade,omitempty" doc:"Grit that opens it again after its window"`
	Sun       string                           `json:"sun,omitempty" enum:"stable,ambers" doc:"What daylight does to it; not stated when left out"`
	Certified []Contact                        `json:"certified,omitempty" maxItems:"4" doc:"What contact a certificate of this product covers"`
}

// Additions holds what a product takes.
type Additions struct {
	PigmentMax *Portion `json:"pigmentMax,omitempty" doc:"Most pigment, by mass"`
	SolidsMax  *Portion `json:"solidsMax,omitempty" doc:"Most fillers, by mass"`
	ThinnerMax *Portion `json:"thinnerMax,omitempty" doc:"Most thinner, by volume; 0 is never"`
	Broadcast  []string `json:"broadcast,omitempty" maxItems:"6" enum:"flake,quartz,grit,bead,pebble" doc:"What may be scattered into it"`
}

// Ratio says what the components' parts count.
type Ratio struct {
	Basis  Basis          `json:"basis"`
	Source measure.Source `json:"source"`
}

// Component is one container of the set: A the resin, B the hardener, C a
// powder or additive.
type Component struct {
	Name    string                            `json:"name" minLength:"1" maxLength:"40" pattern:"^[^\\r\\n]*$"`
	Parts   float64                           `json:"parts" exclusiveMinimum:"0" maximum:"1000" doc:"Parts by the ratio's basis"`
	Other   float64                           `json:"other,omitempty" minimum:"0" maximum:"1000" doc:"Parts by the other basis, where the sheet prints both"`
	Density *measure.Sourced[measure.Density] `json:"density,omitempty" doc:"kg/m³"`

	ShelfLife *measure.Sourced[measure.Span] `json:"shelfLife,omitempty" doc:"s, unopened; that of the product when left out"`
}

// Kit is a size the product is sold in: matched containers, bought together.
// It states a volume or a mass.
type Kit struct {
	Name   string          `json:"name" minLength:"1" maxLength:"60" pattern:"^[^\\r\\n]*$"`
	Volume *measure.Volume `json:"volume,omitempty" minimum:"0.000001" maximum:"10" doc:"m³ when mixed"`
	Mass   *measure.Mass   `json:"mass,omitempty" minimum:"0.001" maximum:"10000" doc:"kg when mixed"`
	Price  *float64        `json:"price,omitempty" minimum:"0" maximum:"1000000" doc:"Price, in the job's currency"`
	Gone   bool            `json:"gone,omitempty" doc:"No longer sold"`
	Code   string          `json:"code,omitempty" maxLength:"60" pattern:"^[^\\r\\n]*$" doc:"Article number or barcode of the pack"`
	Source measure.Source  `json:"source"`
}

// Values returns all values, in the order in which they are shown.
func (Basis) Values() []Basis {
	return []Basis{ByVolume, ByMass}
}

// Values returns all values, in the order in which they are shown.
func (Carrier) Values() []Carrier {
	return []Carrier{NoCarrier, Water, Solvent}
}
