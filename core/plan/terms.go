package plan

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/cure"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/pour"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// terms are what every stage reads and none changes: the job, its sheets as its
// coats name them, and the units in which sentences speak.
type terms struct {
	file    job.File
	units   measure.System
	now     time.Time
	slab    measure.Temperature
	methods school.Methods // every question answered
	rules   map[string]survey.Rule
	sheets  map[material.SheetKey]*sheet
	media   map[string]*material.Medium
	faulty  map[string]bool // media that cannot be planned with, which is told
	layers  [][]layer       // by surface, bottom to top
	follows []int           // by surface, the one that people walk on before work here begins; −1 where there is none
	start   *time.Time
	hours   job.Hours
	weather weather
	known   *cure.Known
	floors  *pour.Memory
	trains  *sim.Memory
	ctx     context.Context
}

// gone tells whether nobody waits for the plan any more.
func (t terms) gone() bool { return t.ctx.Err() != nil }

// sheet is a data sheet as it reads with one of its hardeners.
type sheet struct {
	key     material.SheetKey
	product *material.Product
	mix     material.Mix
	window  buildup.Window // at the slab planned for
	path    string         // of its product
}

// layer is a coat of the job with its sheet.
type layer struct {
	coat   buildup.Coat
	sheet  *sheet // nil where the file has none
	sound  bool   // nothing of it is refused
	number int
	path   string

	overSeal bool // the coat below seals wood or board: what it raised is sanded
}

// refused is a finding for something that cannot be.
func refused(step finding.Step, path, way, text string, args ...any) finding.Finding {
	return finding.Finding{Level: finding.Refused, Step: step, Path: path, Text: fmt.Sprintf(text, args...), WayOut: way}
}

func surfacePath(i int) string { return fmt.Sprintf("/job/surfaces/%d", i) }

// read looks at what spans the whole file: identities, references and values
// that contradict each other.
func read(f job.File, units measure.System, now time.Time) (terms, []finding.Finding) {
	t := terms{file: f, units: units, now: now, slab: material.AssumedSlab, methods: f.Job.Methods.Filled(), rules: survey.Rules(f.Job.Rules), known: cure.NewKnown(), ctx: context.Background()}
	found := t.checkTemperatures()
	found = append(found, t.readSheets()...)
	held := make(map[string]bool, len(f.Job.Stock))
	for i, c := range f.Job.Stock {
		if held[c.ID] {
			found = append(found, refused(finding.Kits, fmt.Sprintf("/job/stock/%d/id", i), "Reserve each container once.", "Two containers of the stock have the id “%s”.", c.ID))
		}
		held[c.ID] = true
		for _, fault := range c.Faults() {
			found = append(found, refused(finding.Kits, fmt.Sprintf("/job/stock/%d%s", i, fault.Field), fault.Way, "Stock of %s: %s", c.Sheet, fault.Text))
		}
	}
	found = append(found, t.checkCrew()...)
	found = append(found, t.readHours()...)
	found = append(found, t.checkIdentities()...)
	found = append(found, t.readLayers()...)
	found = append(found, t.readOrder()...)
	var told []finding.Finding
	t.weather, told = newWeather(f.Job.Forecast)
	return t, append(found, told...)
}

// readOrder reads which surfaces wait for others. One that waits for nobody there is, or
// in a ring, waits for none, which is told.
func (t *terms) readOrder() []finding.Finding {
	surfaces := t.file.Job.Surfaces
	t.follows = make([]int, len(surfaces))
	for i, s := range surfaces {
		t.follows[i] = slices.IndexFunc(surfaces, func(o job.Surface) bool { return s.After != "" && o.ID == s.After })
	}
	var found []finding.Finding
	for i, s := range surfaces {
		if s.After == "" {
			continue
		}
		text := s.Name + " waits for a surface that is not in the job."
		if t.follows[i] >= 0 {
			at, steps := t.follows[i], 0
			for ; at >= 0 && steps < len(surfaces); steps++ {
				at = t.follows[at]
			}
			if at < 0 {
				continue
			}
			text = s.Name + " waits for a surface that waits for it."
		}
		t.follows[i] = -1
		path := surfacePath(i) + "/after"
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Pour, Path: path, Text: text, WayOut: "Let it wait for another, or for none.",
			Fix: &finding.Fix{Label: "Let it wait for none", Patch: []finding.PatchStep{{Op: "remove", Path: path}}},
		})
	}
	return found
}

// waves are the surfaces in the order in which they can be worked: those that wait for
// none, then those that wait for them, and so on.
func (t terms) waves() [][]int {
	done, left := make([]bool, len(t.follows)), len(t.follows)
	var waves [][]int
	for left > 0 {
		var wave []int
		for i, after := range t.follows {
			if !done[i] && (after < 0 || done[after]) {
				wave = append(wave, i)
			}
		}
		for _, i := range wave {
			done[i] = true
		}
		waves, left = append(waves, wave), left-len(wave)
	}
	return waves
}

// readSheets makes the sheets that coats can name, with and without hardeners.
func (t *terms) readSheets() []finding.Finding {
	var found []finding.Finding
	t.sheets = make(map[material.SheetKey]*sheet, len(t.file.Products))
	t.media = make(map[string]*material.Medium, len(t.file.Media))
	t.faulty = make(map[string]bool)
	add := func(hardener string, p *material.Product, path string) {
		key := material.SheetKey{Product: p.ID, Hardener: hardener}
		p = t.rested(p)
		t.sheets[key] = &sheet{key: key, product: p, mix: p.Mix(), window: buildup.WindowOf(p, t.slab), path: path}
	}
	for i := range t.file.Products {
		p := &t.file.Products[i]
		path := fmt.Sprintf("/products/%d", i)
		if t.sheets[material.SheetKey{Product: p.ID}] != nil {
			found = append(found, refused(finding.BuildUp, path+"/id", "Give each product its own id.", "Two products have the id “%s”.", p.ID))
			continue
		}
		if faults := p.Faults(); len(faults) > 0 {
			for _, fault := range faults {
				found = append(found, refused(finding.BuildUp, path+fault.Field, fault.Way, "%s: %s", p.Name, fault.Text))
			}
			continue
		}
		add("", p, path)
		for _, h := range p.Hardeners {
			if with, err := p.With(h.ID); err == nil {
				add(h.ID, &with, path)
			}
		}
	}
	for i := range t.file.Media {
		m := &t.file.Media[i]
		path := fmt.Sprintf("/media/%d", i)
		if t.media[m.ID] != nil {
			found = append(found, refused(finding.BuildUp, path+"/id", "Give each medium its own id.", "Two media have the id “%s”.", m.ID))
			continue
		}
		t.media[m.ID] = m
		faults := m.Faults()
		for _, fault := range faults {
			found = append(found, refused(finding.BuildUp, path+fault.Field, fault.Way, "%s: %s", m.Name, fault.Text))
		}
		if len(faults) > 0 {
			t.faulty[m.ID] = true
		}
	}
	return found
}

// pailOff is how far the measures of a pail may be from what it is said to hold:
// common practice, no source.
const pailOff = 0.05

// checkCrew looks at who spreads and what is mixed in.
func (t *terms) checkCrew() []finding.Finding {
	var found []finding.Finding
	if team := t.file.Job.Crew.Team; len(team) > 0 && t.file.Job.Crew.Counted().Spreaders < 1 {
		f := refused(finding.Batches, "/job/crew/team", "Let somebody of the team spread.", "Nobody of the team spreads.")
		last := len(team) - 1
		f.Fix = &finding.Fix{Label: team[last].Name + " spreads", Patch: []finding.PatchStep{{Op: "add", Path: fmt.Sprintf("/job/crew/team/%d/roles/-", last), Value: work.Spreader}}}
		found = append(found, f)
	}
	if t.file.Job.Crew.Spreaders < 1 {
		found = append(found, refused(finding.Batches, "/job/crew/spreaders", "Enter one person at least.", "Nobody is there to spread."))
	}
	if pace := t.file.Job.Crew.Pace.Value; !buildup.AnyPace(pace) {
		found = append(found, refused(finding.Batches, "/job/crew/pace", "Enter the area one person spreads in an hour.", "The pace is not one a person can spread at."))
	}
	if own := t.file.Job.Crew.Divides; own != nil && !(own.Sum() > 0) {
		f := refused(finding.Pour, "/job/crew/divides", "Give at least one part of the work a share.", "No part of the work on the floor has a share.")
		f.Fix = &finding.Fix{Label: "Divide it as usual", Patch: []finding.PatchStep{{Op: "remove", Path: "/job/crew/divides"}}}
		found = append(found, f)
	}
	if b := t.file.Job.Bucket; b.Pail != nil {
		if holds := b.Pail.Holds(b.Pail.Height); math.Abs(float64(holds/b.Volume)-1) > pailOff {
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.Batches, Path: "/job/bucket/pail",
				Text:   fmt.Sprintf("The pail as measured holds %s, but the bucket is entered with %s; marks by height rest on the measures.", t.units.Volume(holds), t.units.Volume(b.Volume)),
				WayOut: "Measure the inside again, or enter what it holds.",
			})
		}
	}
	return found
}

// checkTemperatures refuses what no site is at, and plans with what is assumed in
// its place.
func (t *terms) checkTemperatures() []finding.Finding {
	var found []finding.Finding
	mixing := &t.file.Job.Mixing
	for _, c := range []struct {
		value     **measure.Sourced[measure.Temperature]
		path      string
		low, high measure.Temperature
		text      string
	}{
		{&t.file.Job.Slab, "/job/slab", -30, 60, "The slab is planned for"},
		{&mixing.A, "/job/mixing/a", -10, 60, "Part A comes at"},
		{&mixing.B, "/job/mixing/b", -10, 60, "Part B comes at"},
		{&mixing.Air, "/job/mixing/air", -30, 60, "The air at the mixing place is at"},
	} {
		at := *c.value
		if at == nil || at.Value >= c.low && at.Value <= c.high {
			continue
		}
		found = append(found, refused(finding.Batches, c.path, fmt.Sprintf("Enter %s to %s.", t.units.Temperature(c.low), t.units.Temperature(c.high)), "%s %s.", c.text, t.units.Temperature(at.Value)))
		*c.value = nil
	}
	t.slab = material.AssumedSlab
	if t.file.Job.Slab != nil {
		t.slab = t.file.Job.Slab.Value
	}
	return found
}

// readHours places the start of the work and the working hours on the site's
// clock.
func (t *terms) readHours() []finding.Finding {
	var found []finding.Finding
	refuse := func(bad error, at string) {
		if e, ok := errors.AsType[*job.TimeError](bad); ok {
			found = append(found, refused(finding.Batches, at+e.Field, e.Way, "%s", e.Text))
		}
	}
	t.hours = job.UsualHours()
	if own := t.file.Job.Hours; own != nil {
		if bad := own.Check(); bad != nil {
			refuse(bad, "/job/hours")
		} else {
			t.hours = *own
			if own.Overnight() {
				found = append(found, finding.Finding{
					Level: finding.Note, Step: finding.Batches, Path: "/job/hours/until",
					Text:   fmt.Sprintf("The shift from %s runs until %s on the next day, %s with its breaks left out.", own.From, own.Until, t.units.Span(own.Work())),
					WayOut: "Exchange the two if a day shift is meant.",
				})
			}
		}
	}
	zone, bad := t.file.Job.Place()
	if bad != nil {
		refuse(bad, "/job")
		return found
	}
	if t.file.Job.Start == "" {
		return found
	}
	start, bad := t.file.Job.Start.In(zone)
	if bad != nil {
		refuse(bad, "/job")
		return found
	}
	t.start = &start.At
	if start.Note != "" {
		found = append(found, finding.Finding{Level: finding.Note, Step: finding.Batches, Path: "/job/start", Text: start.Note, WayOut: "Choose another hour if that is not what you mean."})
	}
	if t.file.Job.Zone != "" && !t.hours.Open(start.At) {
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: "/job/start",
			Text:   fmt.Sprintf("The work begins on %s, outside the working hours (%s).", start.At.Format("Mon 2 Jan, 15:04"), t.hours.Words()),
			WayOut: "Start within them, or change the hours of this job.",
		})
	}
	return found
}

// checkIdentities sees that everything with an id has one of its own, and that a
// surface is one thing.
func (t *terms) checkIdentities() []finding.Finding {
	var found []finding.Finding
	ids := make(map[string]bool)
	unique := func(id, path string) {
		if ids[id] {
			found = append(found, refused(finding.Measure, path+"/id", "Give each its own id.", "Two parts of the job have the id “%s”.", id))
		}
		ids[id] = true
	}
	for i, s := range t.file.Job.Surfaces {
		path := surfacePath(i)
		unique(s.ID, path)
		if s.Top != nil && s.Pool != nil || (s.Top != nil || s.Pool != nil) && len(s.Floor.Outline) > 0 {
			found = append(found, refused(finding.Measure, path, "Make each a surface of its own.", "%s is more than one of floor, top and pool.", s.Name))
		}
		for at, id := range s.Shape.IDs() {
			unique(id, path+at)
		}
		for c, coat := range s.Coats {
			unique(coat.ID, fmt.Sprintf("%s/coats/%d", path, c))
		}
	}
	return found
}

// readLayers finds the sheet of every coat, and what of a coat cannot be.
func (t *terms) readLayers() []finding.Finding {
	var found []finding.Finding
	t.layers = make([][]layer, len(t.file.Job.Surfaces))
	for i, s := range t.file.Job.Surfaces {
		t.layers[i] = make([]layer, len(s.Coats))
		for c, coat := range s.Coats {
			l := &t.layers[i][c]
			*l = layer{coat: coat, number: c + 1, path: fmt.Sprintf("%s/coats/%d", surfacePath(i), c)}
			l.overSeal = c > 0 && s.Coats[c-1].Seal && s.Survey != nil && (s.Survey.Substrate == survey.Timber || s.Survey.Substrate == survey.Board)
			l.sheet = t.sheets[material.SheetKey{Product: coat.Product, Hardener: coat.Hardener}]
			if l.sheet == nil {
				if told := t.sheetless(s.Name, *l); told != nil {
					found = append(found, *told)
				}
				continue
			}
			bad := coat.Check(l.path)
			if bad == nil {
				bad = t.strangers(*l)
			}
			if bad != nil {
				bad.Text = fmt.Sprintf("%s, coat %d: %s", s.Name, c+1, bad.Text)
				found = append(found, *bad)
				continue
			}
			l.sound = true
		}
	}
	return found
}

// sheetless says why a coat has no sheet; nil where a fault of the sheet itself
// is told already.
func (t *terms) sheetless(surface string, l layer) *finding.Finding {
	for _, there := range t.file.Products {
		if there.ID != l.coat.Product {
			continue
		}
		if t.sheets[material.SheetKey{Product: there.ID}] == nil {
			return nil
		}
		f := refused(finding.BuildUp, l.path+"/hardener", "Choose one of its hardeners.", "%s, coat %d: %s has no hardener “%s”.", surface, l.number, there.Name, l.coat.Hardener)
		return &f
	}
	f := refused(finding.BuildUp, l.path+"/product", "Choose a product from the shelf.", "%s, coat %d names a product “%s” that is not in the file.", surface, l.number, l.coat.Product)
	return &f
}

// strangers names a medium of a coat that is not in the file, or nil.
func (t *terms) strangers(l layer) *finding.Finding {
	for _, n := range l.coat.Media() {
		if t.media[n.Medium] == nil {
			f := refused(finding.BuildUp, l.path+n.Field, "Choose one from the shelf.", "it names a medium “%s” that is not in the file.", n.Medium)
			return &f
		}
		if t.faulty[n.Medium] {
			f := refused(finding.BuildUp, l.path+n.Field, "Correct it on the shelf, or choose another.", "it names %s, which cannot be planned with.", t.media[n.Medium].Name)
			return &f
		}
	}
	return nil
}

// productPath is the path of a product of the file.
func (t terms) productPath(id string) string {
	if s := t.sheets[material.SheetKey{Product: id}]; s != nil {
		return s.path
	}
	return "/products"
}

// list joins words as a sentence does.
func list(words []string) string {
	text := ""
	for i, w := range words {
		switch {
		case i == 0:
		case i == len(words)-1:
			text += " and "
		default:
			text += ", "
		}
		text += w
	}
	return text
}
