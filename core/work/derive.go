package work

import (
	"fmt"
	"math"

	"nephelon/core/buildup"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// Surface holds what of a planned surface makes work.
type Surface struct {
	ID          string
	Name        string
	Kind        material.SurfaceKind
	Area        measure.Area
	Outdoors    bool
	Verdicts    []survey.Verdict
	Preparation []survey.PreparationTask
	Coats       []Coat
	Follows     []After      // what of other surfaces its work waits for
	Runs        measure.Span // s until the run of the last coat down its tape has slowed; 0 where none runs down
}

// Coat holds what of a planned coat makes work.
type Coat struct {
	ID        string
	Number    int
	Wait      *measure.Span // planned after the coat below
	Abraded   bool          // the coat below is abraded before this one
	OverWet   bool          // it is poured over the coat below while that flows
	When      buildup.Moment
	Product   *material.Product
	Hardener  string // its id, where it is not the sheet's own
	Slab      measure.Temperature
	Build     *buildup.Build // nil while it cannot be worked out
	Division  *kit.Division
	Spreaders int
	Alone     bool         // they mix, too, in turn
	Lead      measure.Span // s from opening its first kit until that is poured
	Spread    measure.Span // s from its first batch poured to its last section done
	Effort    measure.Span // person-seconds of all at it, broadcasting left out
	Mixing    measure.Span // s of a batch until it may be poured
	Life      func(measure.Mass) measure.Span
	Casting   measure.Span // person-seconds of broadcasting in all
	Full      bool         // broadcast to rejection, so that something is swept up
}

// Paces and times that stand in until a contractor's log has better: common
// practice, no source.
const (
	sweeping    = 90.0 / measure.Hour  // m²/s one person sweeps and vacuums
	looking     = 300.0 / measure.Hour // m²/s one person looks a surface over
	oneTest     = 15 * measure.Minute  // of one test
	leastLook   = 10 * measure.Minute
	stillClean  = measure.Hour      // a surface looked over stays free of dust
	underSheet  = 16 * measure.Hour // ASTM D4263, from memory
	inTheSlab   = 24 * measure.Hour // ASTM F2170 as of 2018, from memory
	withCalcium = 60 * measure.Hour // ASTM F1869, 60 to 72 h, from memory
	calciumEnds = 72 * measure.Hour
	oneReading  = 10 * measure.Minute // of a test that was set before
)

// deriver gathers the tasks of one surface.
type deriver struct {
	Surface
	tasks []Task
}

// Derive lists the tasks of a surface in the order of the work.
func Derive(s Surface) []Task {
	d := deriver{Surface: s, tasks: make([]Task, 0, len(s.Preparation)+len(s.Verdicts)+4*len(s.Coats)+6)}
	before := d.prepare()
	for i := range s.Coats {
		if s.Coats[i].Build == nil || s.Coats[i].Division == nil {
			return d.tasks // what comes above cannot be told yet
		}
		before = d.coat(i, before)
	}
	if len(s.Coats) > 0 {
		d.finish(s.Coats[len(s.Coats)-1], before)
	}
	return d.tasks
}

func (d *deriver) add(t Task) ID {
	t.Surface = d.ID
	if t.Needs.Roles == nil {
		t.Needs.Roles = []Hands{}
	}
	if t.Needs.Skills == nil {
		t.Needs.Skills = []Skill{}
	}
	if t.Needs.Machines == nil {
		t.Needs.Machines = []Machine{}
	}
	if t.Needs.Materials == nil {
		t.Needs.Materials = []Material{}
	}
	if t.After == nil {
		t.After = []After{}
	}
	d.tasks = append(d.tasks, t)
	return t.ID
}

// until is the gap until the film that a coat lays comes to a stage; nil where
// its sheet does not give it.
func (c Coat) until(key material.StageKey) *Lag {
	for _, s := range c.Product.Stages() {
		if s.Key != key {
			continue
		}
		about, _ := s.Reach(c.Slab)
		if about <= 0 {
			return nil
		}
		g := &Lag{From: FromEnd, Stage: key, About: about}
		if key.Ends() {
			g.From = FromStart
		}
		return g
	}
	return nil
}

// ready is the gap until the next coat may be laid on the film of a coat. Where
// its sheet gives no time there is a gap all the same, of unknown length.
func (c Coat) ready() *Lag {
	if g := c.until(material.StageRecoatFrom); g != nil {
		return g
	}
	return &Lag{From: FromEnd, Stage: material.StageRecoatFrom}
}

// tacky is the gap until the film of a coat no longer flows; none where its sheet does not
// say.
func (c Coat) tacky() *Lag {
	g := c.until(material.StageWorking)
	if g != nil {
		g.From = FromEnd // the last section flows longest
	}
	return g
}

// hard is the gap until people can walk on the film of a coat, or else lay the
// next one on it.
func (c Coat) hard() *Lag {
	if g := c.until(material.StageFoot); g != nil {
		return g
	}
	return c.ready()
}

// Walked returns what waits until people can walk on the film of a coat.
func (c Coat) Walked() After { return After{Task: PourID(c.ID), Least: c.hard()} }

// PourID is the id of the pour of a coat.
func PourID(coat string) ID { return idOf("coat", coat, string(Pour)) }

// ReturnID is the identity of the task by which a surface comes to a stage of service.
func ReturnID(surface string, key material.StageKey) ID {
	return idOf("surface", surface, string(Return), string(key))
}

// PrepareID returns the id of a step of a surface's preparation.
func PrepareID(surface, step string) ID { return idOf("surface", surface, string(Prepare), step) }

// AbradeID returns the id of the task in which the coat below one is abraded.
func AbradeID(coat string) ID { return idOf("coat", coat, string(Abrade)) }

// coat adds the tasks of one coat, and returns what the next one waits for beside
// its film.
func (d *deriver) coat(i int, before []After) []After {
	c := d.Coats[i]
	pour := Task{
		ID: PourID(c.ID), Kind: Pour, Name: fmt.Sprintf("Coat %d, %s", c.Number, c.Product.Name), Coat: c.ID,
		Split: Whole, Gate: CoatingWeather, Closes: "No thin spot, hair, puddle or open joint",
	}
	if i > 0 {
		below := d.Coats[i-1]
		film := After{Task: PourID(below.ID), Least: below.ready()}
		if c.Wait != nil {
			film.Least = fixed(*c.Wait)
		}
		if c.OverWet {
			film.Least = nil
		}
		if c.When == buildup.OnTacky {
			film.Least = below.tacky()
		}
		if c.When == buildup.NextMorning {
			next := Lag{From: FromEnd, Later: true}
			if film.Least != nil {
				next = *film.Least
				next.Later = true
			}
			film.Least = &next
		}
		if c.Abraded {
			id := d.add(Task{
				ID: AbradeID(c.ID), Kind: Abrade, Name: fmt.Sprintf("Abrade coat %d", c.Number-1), Coat: c.ID,
				Effort: measure.Span(float64(d.Area) / survey.SandPace * measure.Hour), Split: Free,
				Closes: "No gloss anywhere: mark on the plan what is done",
				After:  append([]After{{Task: film.Task, Least: below.hard()}}, before...),
				Needs:  Needs{Roles: []Hands{{Preparer, 1}}, Machines: []Machine{Sander, Vacuum}},
			})
			before = []After{{Task: id}}
		} else if c.OverWet {
			film.Most = below.until(material.StageWorking)
		} else if c.When == buildup.OnTacky {
			if film.Most = below.until(material.StageTackFree); film.Most != nil {
				film.Most.From = FromStart // the first section is no longer tacky before the last
			}
		} else {
			film.Most = below.until(material.StageRecoatUntil)
		}
		pour.After = append(pour.After, film)
	}
	if c.OverWet && i > 0 { // nothing is looked over and swept while it flows
		pour.After = append(pour.After, before...)
		d.pour(c, &pour)
		d.add(pour)
		return d.scatter(c)
	}
	check := Task{
		ID: idOf("coat", c.ID, string(Check)), Kind: Check, Name: fmt.Sprintf("Inspect the surface before coat %d",
			c.Number), Coat: c.ID,
		Effort: measure.Span(math.Max(leastLook, float64(d.Area)/looking)), Split: Whole, After: before,
		Closes: "Free of dust; surface, air and dew point read; pairs of A and B staged",
		Needs:  Needs{Roles: []Hands{{Tester, 1}}},
	}
	if i > 0 {
		check.After = append([]After{{Task: PourID(d.Coats[i-1].ID), Least: pour.After[0].Least}}, before...)
	}
	pour.After = append(pour.After, After{Task: d.add(check), Most: fixed(stillClean)})
	d.pour(c, &pour)
	d.add(pour)
	return d.scatter(c)
}

// pour fills in the people, batches and materials of a pour.
func (d *deriver) pour(c Coat, t *Task) {
	t.Takes = c.Lead + c.Spread
	t.Effort = c.Effort
	t.Needs.Roles = []Hands{{Spreader, c.Spreaders}}
	t.Needs.Skills = []Skill{Spreads}
	t.Needs.Materials = append(make([]Material, 0, 1+len(c.Build.Additions)),
		Material{Product: c.Product.ID, Hardener: c.Hardener, Name: c.Product.Name, Kind: measure.KindVolume,
			Value: float64(c.Division.Mixed)})
	for _, a := range c.Build.Additions {
		a = a.AsMixed(c.Division.Mixed, c.Build.Need)
		m := Material{Medium: a.Medium, Name: a.Name, Kind: measure.KindMass, Value: float64(a.Mass)}
		if a.Mass == 0 {
			m.Kind, m.Value = measure.KindVolume, float64(a.Volume)
		}
		if m.Value > 0 { // else nothing says how much of it
			t.Needs.Materials = append(t.Needs.Materials, m)
		}
	}
	if len(c.Product.Components) > 1 {
		if !c.Alone {
			t.Needs.Roles = append([]Hands{{Mixer, 1}}, t.Needs.Roles...)
		}
		t.Needs.Skills = append([]Skill{Mixing}, t.Needs.Skills...)
		t.Needs.Machines = []Machine{MixerDrill}
	}
	t.Batches = make([]Mix, 0, len(c.Division.Batches))
	for _, b := range c.Division.Batches {
		mix := Mix{ID: ID(b.ID), Section: ID(SectionID(c.ID, b.Number)), Volume: b.Volume, Mass: b.Mass, Mixing: c.Mixing}
		if c.Life != nil {
			mix.Life = c.Life(b.Mass)
		}
		t.Batches = append(t.Batches, mix)
	}
}

// scatter adds what is thrown into the wet film and what is swept up of it.
func (d *deriver) scatter(c Coat) []After {
	var thrown *buildup.Addition
	for i, a := range c.Build.Additions {
		if !a.Mixed() && a.How != buildup.WithMix {
			thrown = &c.Build.Additions[i]
		}
	}
	if thrown == nil {
		return nil
	}
	var takes []Material
	if thrown.Mass > 0 { // else nothing says how much of it
		takes = []Material{{Medium: thrown.Medium, Name: thrown.Name, Kind: measure.KindMass, Value: float64(thrown.Mass)}}
	}
	id := d.add(Task{
		ID: idOf("coat", c.ID, string(Broadcast)), Kind: Broadcast,
		Name: fmt.Sprintf("Broadcast %s", thrown.Name), Coat: c.ID,
		Effort: c.Casting, Split: Whole, Closes: "Even under a low light",
		After: []After{{Task: PourID(c.ID), Least: &Lag{From: FromStart}, Most: c.until(material.StageWorking)}},
		Needs: Needs{Roles: []Hands{{Caster, 1}}, Materials: takes},
	})
	if !c.Full {
		return []After{{Task: id}}
	}
	swept := d.add(Task{
		ID: idOf("coat", c.ID, string(SweepUp)), Kind: SweepUp, Name: "Sweep up what did not stick", Coat: c.ID,
		Effort: measure.Span(float64(d.Area) / sweeping), Split: Free, Closes: "Nothing loose under the hand",
		After: []After{{Task: PourID(c.ID), Least: c.hard()}, {Task: id}},
		Needs: Needs{Roles: []Hands{{Preparer, 1}}, Machines: []Machine{Vacuum}},
	})
	return []After{{Task: swept}}
}

// pulling is the share of the masking's effort that it takes to pull it: common practice, no source.
const pulling = 0.25

// unmask pulls the tape while the last film is soft: at once on floors, when the run has slowed on edges that it runs
// over.
func (d *deriver) unmask(last Coat) []After {
	effort := measure.Span(0)
	for _, p := range d.Preparation {
		if p.Kind() == "mask" {
			effort += pulling * p.Work
		}
	}
	if effort == 0 {
		return nil
	}
	id := d.add(Task{
		ID: idOf("surface", d.ID, string(Unmask)), Kind: Unmask, Name: "Pull the tape of " + d.Name, Effort: effort,
		Split: Whole, Closes: "A clean edge; drips scraped, and what ran under it",
		After: []After{{Task: PourID(last.ID), Least: fixed(d.Runs), Most: last.until(material.StageFoot)}},
		Needs: Needs{Roles: []Hands{{Preparer, 1}}},
	})
	return []After{{Task: id}}
}

// finish adds pulling the tape, the last look and the stages of return to service.
func (d *deriver) finish(last Coat, before []After) {
	before = append(before, d.unmask(last)...)
	d.add(Task{
		ID: idOf("surface", d.ID, string(Inspect)), Kind: Inspect, Name: "Inspect " + d.Name,
		Effort: measure.Span(math.Max(leastLook, float64(d.Area)/looking)), Split: Free,
		Closes: "Film, gloss, texture and joints as agreed",
		After:  append([]After{{Task: PourID(last.ID), Least: last.hard()}}, before...),
		Needs:  Needs{Roles: []Hands{{Tester, 1}}},
	})
	for _, key := range material.Returns() {
		gap := last.until(key)
		service := key.Service(d.Kind)
		if gap == nil || service == "" {
			continue
		}
		d.add(Task{
			ID: ReturnID(d.ID, key), Kind: Return, Name: d.Name + ": " + service,
			Stage: key, Split: Passing,
			After: []After{{Task: PourID(last.ID), Least: gap}},
		})
	}
}
