// Package work holds everything people do on a job as tasks, derived from its
// plan: what each needs, how it may be split, what it waits for. Pours, rosters
// and records speak this language.
package work

import (
	"fmt"
	"slices"
	"strings"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// ID names a task, a batch or a section. It is made of the ids of surface or
// coat, of the kind, and of an ordinal, so that it stays while these stay,
// whatever else of the job is planned anew.
type ID string

// idOf joins the parts of an id; a slash within a part is written ~1, a tilde ~0.
func idOf(parts ...string) ID {
	for i, p := range parts {
		if strings.ContainsAny(p, "~/") {
			parts[i] = strings.ReplaceAll(strings.ReplaceAll(p, "~", "~0"), "/", "~1")
		}
	}
	return ID(strings.Join(parts, "/"))
}

// BatchID is the id of a coat's batch, from 1.
func BatchID(coat string, number int) string {
	return string(idOf("coat", coat, "batch", fmt.Sprint(number)))
}

// SectionID is the id of a coat's section, from 1.
func SectionID(coat string, number int) string {
	return string(idOf("coat", coat, "section", fmt.Sprint(number)))
}

// Kind names what a task is.
type Kind string

// The kinds of task, in the order of the work.
const (
	Prepare   Kind = "prepare"
	Fill      Kind = "fill"
	Retest    Kind = "retest" // of what the survey left open
	Abrade    Kind = "abrade" // of the film below a coat
	Check     Kind = "check"  // of the surface just before a coat
	Pour      Kind = "pour"
	Broadcast Kind = "broadcast"
	SweepUp   Kind = "sweep-up"
	Unmask    Kind = "unmask"  // pulls tape and strips once the last coat is laid
	Inspect   Kind = "inspect" // of the finished surface
	Return    Kind = "return"  // to a stage of service: nobody works, time passes
)

// Role is a part that a person plays in a task.
type Role string

// The roles.
const (
	Preparer Role = "preparer"
	Tester   Role = "tester" // reads instruments and judges the surface
	Mixer    Role = "mixer"
	Runner   Role = "runner" // carries full pails from the mixing place to the floor
	Pourer   Role = "pourer" // empties them in lines
	CutterIn Role = "cutter-in"
	Spreader Role = "spreader"
	Roller   Role = "roller" // back-rolls, cross-rolls and works the joins
	Caster   Role = "caster" // throws what is broadcast
)

// Person is somebody at a pour, with the parts they play in it.
type Person struct {
	Name  string `json:"name" minLength:"1" maxLength:"60" pattern:"^[^\\r\\n]*$"`
	Roles []Role `json:"roles" minItems:"1" maxItems:"7"`
}

// Divides holds how the work of laying a coat divides among those on the floor: shares of it,
// counted against each other.
type Divides struct {
	Pour   float64 `json:"pour" minimum:"0" maximum:"1"`
	CutIn  float64 `json:"cutIn" minimum:"0" maximum:"1"`
	Spread float64 `json:"spread" minimum:"0" maximum:"1"`
	Roll   float64 `json:"roll" minimum:"0" maximum:"1"`
}

// Sum returns what the shares come to; nothing can be divided where it is zero.
func (d Divides) Sum() float64 { return d.Pour + d.CutIn + d.Spread + d.Roll }

// Plays reports whether they play a part.
func (p Person) Plays(r Role) bool { return slices.Contains(p.Roles, r) }

// Skill names what a person must have learnt.
type Skill string

// The skills.
const (
	Grinding Skill = "grinding" // under dust extraction
	Acids    Skill = "acids"
	Mixing   Skill = "mixing" // of two or three parts
	Spreads  Skill = "spreading"
)

// Machine names what there are few of.
type Machine string

// The machines.
const (
	Grinder    Machine = "grinder"
	Blaster    Machine = "shot-blaster"
	Screener   Machine = "screening-machine"
	Sander     Machine = "sander"
	Vacuum     Machine = "vacuum"
	WetVacuum  Machine = "wet-vacuum"
	MixerDrill Machine = "mixer-drill"
)

// Hands holds how many people a role takes.
type Hands struct {
	Role  Role `json:"role" enum:"preparer,tester,mixer,spreader,caster"`
	Count int  `json:"count"`
}

// Material holds what a task uses up.
type Material struct {
	Product  string       `json:"product,omitempty"`
	Hardener string       `json:"hardener,omitempty"`
	Medium   string       `json:"medium,omitempty"`
	Name     string       `json:"name"`
	Kind     measure.Kind `json:"kind" enum:"length,area,volume,mass,count"`
	Value    float64      `json:"value" doc:"SI"`
}

// Needs holds what a task cannot do without.
type Needs struct {
	Roles     []Hands    `json:"roles"`
	Skills    []Skill    `json:"skills"`
	Machines  []Machine  `json:"machines"`
	Materials []Material `json:"materials"`
}

// Split says how a task may be divided over time.
type Split string

// The ways to split a task.
const (
	Free    Split = "free"    // over people, shifts and days
	Whole   Split = "whole"   // inside one shift, without a break
	Passing Split = "passing" // nobody works at it
)

// From is the end of a task that a gap is counted from.
type From string

// The ends of a task.
const (
	FromStart From = "start"
	FromEnd   From = "end"
)

// Lag is a time between two tasks: fixed, or until the film that the earlier one
// lays comes to a stage, so that it depends on when that is begun.
type Lag struct {
	From  From              `json:"from" doc:"The end of the earlier task that it counts from"`
	Fixed measure.Span      `json:"fixed,omitempty" doc:"s, where no stage is named"`
	Stage material.StageKey `json:"stage,omitempty"`
	Later bool              `json:"later,omitempty" doc:"And not on the day on which the earlier task ends"`
	About measure.Span      `json:"about,omitempty" doc:"s that the stage takes at the slab planned for; left out where the sheet does not give it, and then nobody knows"`
}

// After is a task that must come before, with the least and the greatest gap to
// it.
type After struct {
	Task  ID   `json:"task"`
	Least *Lag `json:"least,omitempty" doc:"None is needed where it is left out"`
	Most  *Lag `json:"most,omitempty" doc:"Any time later where it is left out"`
}

// Gate names what must hold when a task begins.
type Gate string

// The gates.
const (
	// slab, dew point, humidity, and outdoors rain and wind, as the survey judges hours
	CoatingWeather Gate = "coating-weather"
	DryWeather     Gate = "dry-weather" // no rain, outdoors
)

// Mix is a batch as the pour of a coat takes it.
type Mix struct {
	ID      ID             `json:"id"`
	Section ID             `json:"section"`
	Volume  measure.Volume `json:"volume" doc:"m³"`
	Mass    measure.Mass   `json:"mass" doc:"kg"`
	Mixing  measure.Span   `json:"mixing" doc:"s until it may be poured: mixing, second mixing and standing"`
	Life    measure.Span   `json:"life,omitempty" doc:"s from A meeting B; none where it has no pot life"`
}

// Task is one piece of work.
type Task struct {
	ID      ID                `json:"id"`
	Kind    Kind              `json:"kind"`
	Name    string            `json:"name"`
	Surface string            `json:"surface" doc:"Id of the surface"`
	Coat    string            `json:"coat,omitempty" doc:"Id of the coat that the task belongs to"`
	Stage   material.StageKey `json:"stage,omitempty" doc:"Stage of service, where time is waited for"`
	Effort  measure.Span      `json:"effort" doc:"Person-seconds"`
	Takes   measure.Span      `json:"takes,omitempty" doc:"s that pass at least, however many people work"`
	Crew    int               `json:"crew,omitempty" doc:"People at it, where a person said so; else as many as the crew has"`
	Split   Split             `json:"split"`
	Gate    Gate              `json:"gate,omitempty"`
	Needs   Needs             `json:"needs"`
	After   []After           `json:"after"`
	Closes  string            `json:"closes,omitempty" doc:"The check that closes it"`
	Batches []Mix             `json:"batches,omitempty" doc:"Batches of a pour, in the order of mixing"`
}

// Values returns all values, in the order in which they are shown.
func (From) Values() []From {
	return []From{FromStart, FromEnd}
}

// Values returns all values, in the order in which they are shown.
func (Gate) Values() []Gate {
	return []Gate{CoatingWeather, DryWeather}
}

// Values returns all values, in the order in which they are shown.
func (Kind) Values() []Kind {
	return []Kind{Prepare, Fill, Retest, Abrade, Check, Pour, Broadcast, SweepUp, Unmask, Inspect, Return}
}

// Values returns all values, in the order in which they are shown.
func (Machine) Values() []Machine {
	return []Machine{Grinder, Blaster, Screener, Sander, Vacuum, WetVacuum, MixerDrill}
}

// Values returns all values, in the order in which they are shown.
func (Role) Values() []Role {
	return []Role{Mixer, Runner, Pourer, CutterIn, Spreader, Roller, Caster}
}

// Values returns all values, in the order in which they are shown.
func (Skill) Values() []Skill {
	return []Skill{Grinding, Acids, Mixing, Spreads}
}

// Values returns all values, in the order in which they are shown.
func (Split) Values() []Split {
	return []Split{Free, Whole, Passing}
}
