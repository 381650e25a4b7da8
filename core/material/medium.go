package material

import (
	"fmt"

	"nephelon/core/measure"
)

// MediumKind names what a medium is.
type MediumKind string

// Medium holds what goes into or onto a coat beside its parts, or is used up in
// laying it.
type Medium struct {
	ID      string     `json:"id" minLength:"1" maxLength:"60" pattern:"^[a-z0-9][a-z0-9-]*$"`
	Version int        `json:"version,omitempty" minimum:"0" maximum:"100000" doc:"Counted by the shelf"`
	Name    string     `json:"name" minLength:"1" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Kind    MediumKind `json:"kind" enum:"flake,quartz,grit,bead,pebble,pigment,filler,thinner,tool,supply"`
	Color   string     `json:"color,omitempty" pattern:"^#[0-9a-f]{6}$"`
	Blend   string     `json:"blend,omitempty" maxLength:"120" doc:"The blend by name, which can never be matched later"`
	Note    string     `json:"note,omitempty" maxLength:"400"`

	Grain   *measure.Sourced[measure.Film]     `json:"grain,omitempty" doc:"Largest grain, m"`
	Density *measure.Sourced[measure.Density]  `json:"density,omitempty" doc:"kg/m³ of the grains or the liquid"`
	Full    *measure.Sourced[measure.Coverage] `json:"full,omitempty" doc:"kg/m² that stay at rejection, or one layer of stones"`
	Bind    *measure.Sourced[measure.Film]     `json:"bind,omitempty" doc:"m³/m² more that the coat takes that holds it at rejection"`
	Voids   *measure.Sourced[measure.Film]     `json:"voids,omitempty" doc:"m³/m² that the next coat fills between the grains at rejection"`
	Spare   *measure.Sourced[measure.Fraction] `json:"spare,omitempty" doc:"Bought above the need: what bounces off, and what is stored for repair"`

	Use   *ToolUse     `json:"use,omitempty" doc:"How a tool or consumable is counted"`
	Unit  measure.Kind `json:"unit,omitempty" enum:"length,area,volume,mass,count" doc:"What a preparation material, a supply, is counted in; pieces when left out"`
	Packs []Pack       `json:"packs" maxItems:"8"`

	Cautions []string `json:"cautions,omitempty" maxItems:"8"`
}

// ToolUse holds how much of a consumable a job takes.
type ToolUse struct {
	Per    string         `json:"per" enum:"area,ground-area,coat-area,perimeter,doors,person,batch,coat,job" doc:"What it is counted by"`
	Amount float64        `json:"amount" exclusiveMinimum:"0" maximum:"100000" doc:"Pieces, or m of tape, for each m², m, person, batch, coat or job"`
	Kinds  []Kind         `json:"kinds,omitempty" maxItems:"16" doc:"Only for coats of these kinds"`
	On     []SurfaceKind  `json:"on,omitempty" maxItems:"3" doc:"Only for such surfaces"`
	Source measure.Source `json:"source"`
}

// Pack is a size that a medium is sold in.
type Pack struct {
	Name   string   `json:"name" minLength:"1" maxLength:"60" pattern:"^[^\\r\\n]*$"`
	Amount float64  `json:"amount" exclusiveMinimum:"0" maximum:"1000000" doc:"kg of a medium, m³ of a thinner, pieces or metres of a tool, of a supply in SI what it is counted in"`
	Price  *float64 `json:"price,omitempty" minimum:"0" maximum:"1000000"`
	Code   string   `json:"code,omitempty" maxLength:"60" pattern:"^[^\\r\\n]*$" doc:"Article number or barcode of the pack"`
}

// Faults names what cannot be.
func (m Medium) Faults() []Fault {
	found := []Fault{}
	if m.Grain != nil && (m.Grain.Value <= 0 || m.Grain.Value > 0.05) {
		found = append(found, Fault{"/grain", "The grain size must be above 0 and below 50 mm.",
			"Enter the largest, such as 0.3 mm."})
	}
	if m.Density != nil && !plausible(m.Density.Value) {
		found = append(found, Fault{"/density", implausible(m.Density), "Densities are in kg/m³: 2.6 kg/L is 2600."})
	}
	for _, film := range []struct {
		field string
		v     *measure.Sourced[measure.Film]
	}{{"/bind", m.Bind}, {"/voids", m.Voids}} {
		if film.v != nil && !(film.v.Value >= 0 && film.v.Value <= 0.05) {
			found = append(found, Fault{film.field, "The resin a broadcast absorbs must be between 0 and 50 L/m².",
				"Enter it as a film: 400 µm for 0.4 L/m²."})
		}
	}
	if m.Full != nil && !(m.Full.Value > 0 && m.Full.Value <= 200) {
		found = append(found, Fault{"/full", "The mass at rejection must be above 0 and below 200 kg/m².",
			"Broadcast a square metre, sweep up, and weigh the difference."})
	}
	if m.Spare != nil && (m.Spare.Value < 0 || m.Spare.Value > 2) {
		found = append(found, Fault{"/spare", "The spare must be between 0 and 200 %.", "Write 15 % as 0.15."})
	}
	if m.Unit != "" && m.Kind != "supply" {
		found = append(found, Fault{"/unit", fmt.Sprintf("%s is no preparation material: it has no unit of its own.", m.Name),
			"Leave the unit out."})
	}
	if m.Kind == "tool" && m.Use == nil {
		found = append(found, Fault{"/use", fmt.Sprintf("%s does not say what it is counted by.", m.Name),
			"Enter its use, such as one for each 60 m²."})
	}
	return found
}

// Counted returns what a preparation material is counted in.
func (m Medium) Counted() measure.Kind {
	if m.Unit == "" {
		return measure.KindCount
	}
	return m.Unit
}
