// Package bench answers questions about one product away from any job: how long a
// pail of it can be used, what an amount comes to, how its pumps are pressed.
package bench

import (
	"fmt"
	"math"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// PailQuestion is a pail of one product, asked about away from any job.
type PailQuestion struct {
	Hardener string              `json:"hardener,omitempty" maxLength:"60" doc:"The id of one of its other hardeners"`
	Mass     measure.Mass        `json:"mass" exclusiveMinimum:"0" maximum:"500" doc:"kg in the pail"`
	A        measure.Temperature `json:"a" minimum:"-10" maximum:"60" doc:"°C of A when it meets B"`
	B        measure.Temperature `json:"b" minimum:"-10" maximum:"60" doc:"°C of B"`
	Air      measure.Temperature `json:"air" minimum:"-20" maximum:"60" doc:"°C"`
	Standing cure.Standing       `json:"standing,omitempty" doc:"Where the pail stands; in the air when left out"`
	Slab     measure.Temperature `json:"slab" minimum:"-10" maximum:"60" doc:"°C below the film"`
	Film     measure.Film        `json:"film" exclusiveMinimum:"0" maximum:"0.1" doc:"m of wet film"`
	Needed   measure.Span        `json:"needed,omitempty" minimum:"0" maximum:"86400" doc:"s the crew needs after mixing, for the choice of a hardener"`
	Stands   measure.Span        `json:"stands,omitempty" minimum:"0" maximum:"86400" doc:"s that a mix is asked to stand without smoking; half an hour when left out"`
}

// PailAnswer holds what becomes of it in the pail and on the floor.
type PailAnswer struct {
	Mixed     measure.Temperature `json:"mixed" doc:"°C of the parts together"`
	Life      measure.Span        `json:"life" doc:"s until the pail can no longer be used, with nothing counted for cooling it"`
	Bath      measure.Span        `json:"bath" doc:"s that it could be used where it stands: what a bath would do, never to be counted on"`
	Left      measure.Span        `json:"left" doc:"s of it after mixing and standing; below zero where nothing is left"`
	Beyond    bool                `json:"beyond" doc:"The temperatures of the sheet"`
	MayStand  measure.Mass        `json:"mayStand" doc:"kg at most that may be left standing for as long as asked without smoking, at most 60; 0 where even 20 g smoke"`
	Deepest   measure.Film        `json:"deepest" doc:"m of the deepest pour that stays under 60 °C on the slab (common practice, no source), at most 0.1"`
	DeepestBy *measure.Film       `json:"deepestBySheet,omitempty" doc:"m that its sheet allows"`
	Fit       Fitted              `json:"fit"`
	Pail      cure.History        `json:"pail"`
	Spread    cure.History        `json:"spread" doc:"The same mix as a film on the slab"`
	Surface   LifeSurface         `json:"surface"`
	Hardeners []HardenerLife      `json:"hardeners" doc:"The sheet's own first"`
	Stages    []StageTime         `json:"stages" doc:"When the film reaches what its sheet names, at the slab's temperature"`
	Notes     []string            `json:"notes"`
	Workings  []measure.Working   `json:"workings"`
}

// LifeSurface is the pot life over mass and temperature.
type LifeSurface struct {
	Masses       []measure.Mass        `json:"masses" doc:"kg, rising"`
	Temperatures []measure.Temperature `json:"temperatures" doc:"°C, rising; the air as warm as the mix"`
	Lives        [][]measure.Span      `json:"lives" doc:"s, a row for each temperature"`
}

// HardenerLife is one hardener in this pail.
type HardenerLife struct {
	ID      string       `json:"id,omitempty" doc:"Empty for the one of the sheet"`
	Name    string       `json:"name"`
	Ratio   string       `json:"ratio"`
	Life    measure.Span `json:"life"`
	Suffice bool         `json:"suffice" doc:"It leaves the time that is needed"`
	Allowed bool         `json:"allowed" doc:"The slab is within its limits"`
}

// StageTime is a time of a film.
type StageTime struct {
	Name    string       `json:"name"`
	After   measure.Span `json:"after"`
	Outside bool         `json:"outside"`
}

// The masses and temperatures that the surface is drawn over.
const (
	surfaceMasses       = 36
	surfaceTemperatures = 24
	coldestDrawn        = 5.0
	warmestDrawn        = 38.0
)

// Pail works out a pail. It fails, with a sentence, where the sheet has no pot
// life or no such hardener.
func Pail(p material.Product, q PailQuestion) (PailAnswer, error) {
	a := PailAnswer{Hardeners: []HardenerLife{}, Stages: []StageTime{}, Notes: []string{}}
	sheet, err := p.With(q.Hardener)
	if err != nil {
		return a, fmt.Errorf("choose one of its hardeners: %w", err)
	}
	sheet = sheet.On(q.Slab)
	mix := sheet.Mix()
	model, err := lifeOf(sheet, mix)
	if err != nil {
		return a, err
	}
	a.Mixed = mixedOf(mix, q)
	if a.Life, a.Beyond, err = model.Of(model.Promised(q.Mass, a.Mixed, q.Air, q.Standing)); err != nil {
		return a, err
	}
	stands := model.Pail(q.Mass, a.Mixed, q.Air, q.Standing)
	if a.Bath, _, err = model.Of(stands); err != nil {
		return a, err
	}
	a.Left = a.Life
	if sheet.Mixing != nil {
		a.Left -= sheet.Mixing.Value
	}
	if sheet.Induction != nil {
		a.Left -= sheet.Induction.Value
	}
	horizon := max(3*a.Life, measure.Hour)
	if a.Pail, err = model.History(stands, horizon); err != nil {
		return a, err
	}
	if a.Spread, err = model.History(model.Spread(q.Film, a.Mixed, q.Slab), horizon); err != nil {
		return a, err
	}
	a.Pail.Moments, a.Spread.Moments = thinned(a.Pail.Moments), thinned(a.Spread.Moments)
	if a.Surface, err = lifeSurface(model, q.Mass); err != nil {
		return a, err
	}
	stand := q.Stands
	if stand == 0 {
		stand = usualStand
	}
	if a.MayStand, err = model.MayStand(stand, a.Mixed, mostStanding); err != nil {
		return a, err
	}
	if a.Deepest, err = model.DeepestPour(a.Mixed, q.Slab, tooHotToPour, deepestAsked); err != nil {
		return a, err
	}
	if sheet.FilmMax != nil {
		a.DeepestBy = &sheet.FilmMax.Value
	}
	a.Fit = fitted(model)
	a.Hardeners = hardeners(p, q)
	for _, s := range sheet.Stages() {
		if after, outside := s.Reach(q.Slab); after > 0 {
			a.Stages = append(a.Stages, StageTime{s.Name, after, outside})
		}
	}
	printed, sheetMass := sheet.Lives(a.Mixed)
	if sheetMass == 0 {
		sheetMass = cure.AssumedMass
		a.Notes = append(a.Notes,
			fmt.Sprintf("The sheet does not say on which mass its pot life was measured; %.1f kg was assumed.",
				float64(cure.AssumedMass)))
	}
	a.Workings = []measure.Working{lifeWorking(q, printed, sheetMass, a)}
	if sheet.Kinetics == nil {
		a.Notes = append(a.Notes, "Its cure kinetics are typical of its chemistry, from memory, fitted to its known "+
			"pot life.")
	}
	if q.Standing != cure.InAir {
		a.Notes = append(a.Notes, "Mix cards count no cooling after mixing start: the middle of a pail hardly cools. Cool "+
			"the parts beforehand.")
	}
	return a, nil
}

// The bounds of what is asked about: common practice, no source, but for the
// deepest pour that a page of this kind is asked about.
const (
	usualStand                       = measure.Hour / 2
	mostStanding                     = 60  // kg
	tooHotToPour measure.Temperature = 60  // °C
	deepestAsked measure.Film        = 0.1 // m
)

// mixedOf is the temperature of the parts together.
func mixedOf(mix material.Mix, q PailQuestion) measure.Temperature {
	parts := make([]cure.Part, len(mix.Shares))
	for i, s := range mix.Shares {
		parts[i] = cure.Part{Mass: s.Density.Value.Of(measure.Volume(s.Volume)), At: q.B}
		if i == 0 {
			parts[i].At = q.A
		}
	}
	return cure.Mixed(parts...)
}

// Fitted holds how well the model agrees with what was timed.
type Fitted struct {
	Assumed bool    `json:"assumed" doc:"One figure only: how it changes with mass and heat is from memory"`
	Spread  float64 `json:"spread" doc:"Root of the mean square of the misses, as a share"`
	Usable  float64 `json:"usable" doc:"Share reacted when it can no longer be used"`
	Gel     float64 `json:"gel" doc:"Share reacted at gel"`
	Misses  []Miss  `json:"misses"`
}

// Miss holds what was timed beside what the model makes of it.
type Miss struct {
	At     measure.Temperature `json:"at" doc:"°C"`
	Mass   measure.Mass        `json:"mass,omitempty" doc:"kg in a pail"`
	Film   measure.Film        `json:"film,omitempty" doc:"m spread"`
	Lasts  measure.Span        `json:"lasts" doc:"s as timed"`
	Model  measure.Span        `json:"model" doc:"s by the model alone"`
	Source measure.Source      `json:"source"`
}

func fitted(l cure.Life) Fitted {
	k := l.Kinetics()
	f := Fitted{Assumed: l.Fit.Assumed, Spread: l.Fit.Spread, Usable: k.Ends(), Gel: k.Gel,
		Misses: make([]Miss, len(l.Misses))}
	for i, m := range l.Misses {
		f.Misses[i] = Miss{m.At, m.Mass, m.Film, m.Lasts, m.Model, m.Source}
	}
	return f
}

func lifeOf(sheet material.Product, mix material.Mix) (cure.Life, error) {
	if len(sheet.Components) < 2 || len(sheet.PotLife) == 0 {
		return cure.Life{},
			fmt.Errorf("%s has no pot life on its sheet: a single-pack paint has none, and for a two-pack it has to be entered",
				sheet.Name)
	}
	return cure.NewLife(sheet.Sheet(mix))
}

func lifeSurface(model cure.Life, mass measure.Mass) (LifeSurface, error) {
	s := LifeSurface{Masses: make([]measure.Mass, surfaceMasses),
		Temperatures: make([]measure.Temperature, surfaceTemperatures)}
	least, most := 0.1, math.Max(30, 1.5*float64(mass))
	for i := range s.Masses {
		s.Masses[i] = measure.Mass(least * math.Pow(most/least, float64(i)/(surfaceMasses-1)))
	}
	for i := range s.Temperatures {
		s.Temperatures[i] = measure.Temperature(coldestDrawn + (warmestDrawn-coldestDrawn)*float64(i)/(surfaceTemperatures-1))
	}
	var err error
	s.Lives, err = model.Surface(s.Masses, s.Temperatures)
	return s, err
}

func hardeners(p material.Product, q PailQuestion) []HardenerLife {
	all := []HardenerLife{}
	ids := []string{""}
	for _, h := range p.Hardeners {
		ids = append(ids, h.ID)
	}
	for _, id := range ids {
		sheet, err := p.With(id)
		if err != nil {
			continue
		}
		mix := sheet.Mix()
		model, err := lifeOf(sheet, mix)
		if err != nil {
			continue
		}
		life, _, err := model.Of(model.Promised(q.Mass, mixedOf(mix, q), q.Air, q.Standing))
		if err != nil {
			continue
		}
		left := life
		if sheet.Mixing != nil {
			left -= sheet.Mixing.Value
		}
		h := HardenerLife{ID: id, Name: sheet.Name, Life: life, Suffice: left >= q.Needed, Allowed: true}
		if id != "" {
			h.Name = sheet.Name[len(p.Name)+2:]
		} else {
			h.Name = "of the sheet"
		}
		h.Ratio = fmt.Sprintf("%g : %g by %s", sheet.Components[0].Parts, sheet.Components[1].Parts, sheet.Ratio.Basis)
		if sheet.SlabMin != nil && q.Slab < sheet.SlabMin.Value || sheet.SlabMax != nil && q.Slab > sheet.SlabMax.Value {
			h.Allowed = false
		}
		all = append(all, h)
	}
	return all
}

// thinned keeps enough moments for a drawing.
func thinned(all []cure.Moment) []cure.Moment {
	const most = 160
	if len(all) <= most {
		return all
	}
	kept := make([]cure.Moment, 0, most+1)
	for i := range most {
		kept = append(kept, all[i*len(all)/most])
	}
	return append(kept, all[len(all)-1])
}

// Usual returns where the bench starts with a product.
func Usual(p material.Product) PailQuestion {
	mass := p.Massed()
	if mass == 0 {
		mass = cure.AssumedMass
	}
	mix := p.Mix()
	return PailQuestion{Mass: mass, A: material.AssumedSlab, B: material.AssumedSlab, Air: material.AssumedSlab,
		Slab: material.AssumedSlab, Film: buildup.WetFor(buildup.Usual(p), p.VolumeSolids.Value, mix.Density.Value, 0)}
}
