// Package input reads a job file: it resolves its references, its coats and its clock, and finds
// what contradicts itself. It may know what people decide, nothing that is worked out from it.
package input

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"nephelon/core/facts"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// Inputs is a job file with its references resolved and its contradictions found. Every stage
// reads it and none changes it.
type Inputs struct {
	File  job.File
	Units measure.System // of sentences
	Now   time.Time
	Slab  measure.Temperature // °C planned for where there is no forecast
	From  SlabFrom            // what that rests on
	Read  *SlabRead           // the newest reading of a slab; nil where none was taken

	ReadParts, ReadAir *SlabRead // the newest of the parts and of the air

	onDays  []facts.Reading // slabs as they were read on the job's days
	Methods school.Methods  // every question answered
	Rules   map[survey.RuleID]survey.Rule
	Sheets  map[material.SheetKey]*Sheet
	Media   map[string]*material.Medium
	booked  map[string]facts.Booking // by task
	logged  map[string]facts.Laid    // by coat
	faulty  map[string]bool          // media that cannot be planned with; a finding says so
	Layers  [][]ResolvedCoat         // by surface, bottom to top
	Follows []int                    // by surface, the one walked on before work here begins; −1 where there is none
	Start   *time.Time               // when the work may begin, or does by the first booking; nil while neither is known
	Hours   job.Hours
	Weather weather
}

// Refused is a finding for something that cannot be.
func Refused(step finding.Step, path, way, text string, args ...any) finding.Finding {
	return finding.Finding{Level: finding.Refused, Step: step, Path: path, Text: fmt.Sprintf(text, args...), WayOut: way}
}

// SurfacePath returns the JSON Pointer of a surface.
func SurfacePath(i int) string { return fmt.Sprintf("/job/surfaces/%d", i) }

func coatPath(i, c int) string { return fmt.Sprintf("%s/coats/%d", SurfacePath(i), c) }

// Read looks at what spans the whole file: identities, references and values
// that contradict each other.
func Read(f job.File, world facts.Facts, units measure.System) (*Inputs, []finding.Finding) {
	f = f.In(world.Zone)
	in := &Inputs{File: f, Units: units, Now: world.Now, booked: make(map[string]facts.Booking, len(world.Bookings)),
		logged: make(map[string]facts.Laid, len(world.Logged)),
		Slab:   material.AssumedSlab, Methods: f.Job.Methods.Filled(), Rules: survey.Rules(f.Job.Rules)}
	for _, b := range world.Bookings {
		in.booked[b.Task] = b
	}
	for _, l := range world.Logged {
		in.logged[l.Coat] = l
	}
	in.onDays = world.Readings
	in.Read = in.newest(survey.SlabTemperature, world.Readings)
	in.ReadParts, in.ReadAir = in.newest(survey.MaterialTemperature, nil), in.newest(survey.AirTemperature, nil)
	found := in.checkTemperatures()
	found = append(found, in.readSheets()...)
	held := make(map[string]bool, len(f.Job.Stock))
	for i, c := range f.Job.Stock {
		if held[c.ID] {
			found = append(found, Refused(finding.Kits, fmt.Sprintf("/job/stock/%d/id", i), "Reserve each container once.",
				"Two containers of the stock have the id “%s”.", c.ID))
		}
		held[c.ID] = true
		for _, fault := range c.Faults() {
			found = append(found, Refused(finding.Kits, fmt.Sprintf("/job/stock/%d%s", i, fault.Field), fault.Way,
				"Stock of %s: %s", c.Sheet, fault.Text))
		}
	}
	found = append(found, in.checkCrew()...)
	found = append(found, in.readHours()...)
	found = append(found, in.checkIdentities()...)
	found = append(found, in.readLayers()...)
	found = append(found, in.readOrder()...)
	var told []finding.Finding
	in.Weather, told = newWeather(f.Job.Forecast)
	return in, append(found, told...)
}

// readOrder reads which surfaces wait for others. One that waits for nobody there is, or
// in a ring, waits for none, which is told.
func (in *Inputs) readOrder() []finding.Finding {
	surfaces := in.File.Job.Surfaces
	in.Follows = make([]int, len(surfaces))
	for i, s := range surfaces {
		in.Follows[i] = slices.IndexFunc(surfaces, func(o job.Surface) bool { return s.After != "" && o.ID == s.After })
	}
	var found []finding.Finding
	for i, s := range surfaces {
		if s.After == "" {
			continue
		}
		text := s.Name + " waits for a surface that is not in the job."
		if in.Follows[i] >= 0 {
			at, steps := in.Follows[i], 0
			for ; at >= 0 && steps < len(surfaces); steps++ {
				at = in.Follows[at]
			}
			if at < 0 {
				continue
			}
			text = s.Name + " waits for a surface that waits for it."
		}
		in.Follows[i] = -1
		path := SurfacePath(i) + "/after"
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Pour, Path: path, Text: text, WayOut: "Let it wait for another, or for none.",
			Fix: &finding.Fix{Label: "Let it wait for none", Patch: []finding.PatchStep{{Op: "remove", Path: path}}},
		})
	}
	return found
}

// SurfaceWaves returns the surfaces in the order in which they can be worked: those that wait for
// none, then those that wait for them, and so on.
func SurfaceWaves(in *Inputs) [][]int {
	done, left := make([]bool, len(in.Follows)), len(in.Follows)
	var waves [][]int
	for left > 0 {
		var wave []int
		for i, after := range in.Follows {
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
func (in *Inputs) readSheets() []finding.Finding {
	var found []finding.Finding
	in.Sheets = make(map[material.SheetKey]*Sheet, len(in.File.Products))
	in.Media = make(map[string]*material.Medium, len(in.File.Media))
	in.faulty = make(map[string]bool)
	add := func(hardener string, p *material.Product, path string) {
		key := material.SheetKey{Product: p.ID, Hardener: hardener}
		p = withRest(in.Methods, p)
		if len(p.FilmMaxAt) > 0 {
			own := p.On(in.Slab)
			p = &own
		}
		mix := p.Mix()
		s := &Sheet{Key: key, Product: p, Mix: mix, Window: buildup.WindowOf(p, in.Slab), Path: path}
		s.Brought, s.Parts = in.Parts(p, mix)
		in.Sheets[key] = s
	}
	for i := range in.File.Products {
		p := &in.File.Products[i]
		path := fmt.Sprintf("/products/%d", i)
		if in.Sheets[material.SheetKey{Product: p.ID}] != nil {
			found = append(found, Refused(finding.BuildUp, path+"/id", "Give each product its own id.",
				"Two products have the id “%s”.", p.ID))
			continue
		}
		if faults := p.Faults(); len(faults) > 0 {
			for _, fault := range faults {
				found = append(found, Refused(finding.BuildUp, path+fault.Field, fault.Way, "%s: %s", p.Name, fault.Text))
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
	for i := range in.File.Media {
		m := &in.File.Media[i]
		path := fmt.Sprintf("/media/%d", i)
		if in.Media[m.ID] != nil {
			found = append(found, Refused(finding.BuildUp, path+"/id", "Give each medium its own id.",
				"Two media have the id “%s”.", m.ID))
			continue
		}
		in.Media[m.ID] = m
		faults := m.Faults()
		for _, fault := range faults {
			found = append(found, Refused(finding.BuildUp, path+fault.Field, fault.Way, "%s: %s", m.Name, fault.Text))
		}
		if len(faults) > 0 {
			in.faulty[m.ID] = true
		}
	}
	return found
}

// pailOff is the greatest relative difference between the measured and the stated volume of a pail:
// common practice, no source.
const pailOff = 0.05

// checkCrew looks at who spreads and what is mixed in.
func (in *Inputs) checkCrew() []finding.Finding {
	var found []finding.Finding
	if team := in.File.Job.Crew.Team; len(team) > 0 && in.File.Job.Crew.Counted().Spreaders < 1 {
		f := Refused(finding.Batches, "/job/crew/team", "Let somebody of the team spread.", "Nobody of the team spreads.")
		last := len(team) - 1
		f.Fix = &finding.Fix{Label: team[last].Name + " spreads",
			Patch: []finding.PatchStep{{Op: "add", Path: fmt.Sprintf("/job/crew/team/%d/roles/-", last), Value: work.Spreader}}}
		found = append(found, f)
	}
	if in.File.Job.Crew.Spreaders < 1 {
		found = append(found, Refused(finding.Batches, "/job/crew/spreaders", "Enter one person at least.",
			"Nobody is there to spread."))
	}
	if pace := in.File.Job.Crew.Pace.Value; !buildup.AnyPace(pace) {
		found = append(found, Refused(finding.Batches, "/job/crew/pace", "Enter the area one person spreads in an hour.",
			"The pace is not one a person can spread at."))
	}
	if own := in.File.Job.Crew.Divides; own != nil && !(own.Sum() > 0) {
		f := Refused(finding.Pour, "/job/crew/divides", "Give at least one part of the work a share.",
			"No part of the work on the floor has a share.")
		f.Fix = &finding.Fix{Label: "Divide it as usual",
			Patch: []finding.PatchStep{{Op: "remove", Path: "/job/crew/divides"}}}
		found = append(found, f)
	}
	if b := in.File.Job.Bucket; b.Pail != nil {
		if holds := b.Pail.Holds(b.Pail.Height); math.Abs(float64(holds/b.Volume)-1) > pailOff {
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.Batches, Path: "/job/bucket/pail",
				Text: fmt.Sprintf("The pail as measured holds %s, but the bucket is entered with %s; marks by height rest on "+
					"the measures.", in.Units.Volume(holds), in.Units.Volume(b.Volume)),
				WayOut: "Measure the inside again, or enter what it holds.",
			})
		}
	}
	return found
}

// readHours places the start of the work and the working hours on the site's
// clock.
func (in *Inputs) readHours() []finding.Finding {
	var found []finding.Finding
	refuse := func(bad error, at string) {
		if e, ok := errors.AsType[*job.TimeError](bad); ok {
			found = append(found, Refused(finding.Batches, at+e.Field, e.Way, "%s", e.Text))
		}
	}
	in.Hours = job.UsualHours()
	if own := in.File.Job.Hours; own != nil {
		if bad := own.Check(); bad != nil {
			refuse(bad, "/job/hours")
		} else {
			in.Hours = *own
			if own.Overnight() {
				found = append(found, finding.Finding{
					Level: finding.Note, Step: finding.Batches, Path: "/job/hours/until",
					Text: fmt.Sprintf("The shift from %s runs until %s on the next day, %s with its breaks left out.", own.From,
						own.Until, in.Units.Span(own.Work())),
					WayOut: "Exchange the two if a day shift is meant.",
				})
			}
		}
	}
	zone, bad := in.File.Job.Place()
	if bad != nil {
		refuse(bad, "/job")
		return found
	}
	in.book(zone)
	if in.File.Job.Start == "" {
		return found
	}
	start, bad := in.File.Job.Start.In(zone)
	if bad != nil {
		refuse(bad, "/job")
		return found
	}
	in.Start = &start.At
	if start.Note != "" {
		found = append(found, finding.Finding{Level: finding.Note, Step: finding.Batches, Path: "/job/start",
			Text: start.Note, WayOut: "Choose another hour if that is not what you mean."})
	}
	if in.File.Job.Zone != "" && !in.Hours.Open(start.At) {
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Batches, Path: "/job/start",
			Text: fmt.Sprintf("The work begins on %s, outside the working hours (%s).",
				in.Units.Time(start.At, "Mon 2 Jan, 15:04"), in.Hours.Words(in.Units)),
			WayOut: "Start within them, or change the hours of this job.",
		})
	}
	return found
}

// checkIdentities sees that everything with an id has one of its own, and that a
// surface is one thing.
func (in *Inputs) checkIdentities() []finding.Finding {
	var found []finding.Finding
	ids := make(map[string]bool)
	unique := func(id, path string) {
		if ids[id] {
			found = append(found, Refused(finding.Measure, path+"/id", "Give each its own id.",
				"Two parts of the job have the id “%s”.", id))
		}
		ids[id] = true
	}
	for i, s := range in.File.Job.Surfaces {
		path := SurfacePath(i)
		unique(s.ID, path)
		if s.Top != nil && s.Pool != nil || (s.Top != nil || s.Pool != nil) && len(s.Floor.Outline) > 0 {
			found = append(found, Refused(finding.Measure, path, "Make each a surface of its own.",
				"%s is more than one of floor, top and pool.", s.Name))
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
func (in *Inputs) readLayers() []finding.Finding {
	var found []finding.Finding
	in.Layers = make([][]ResolvedCoat, len(in.File.Job.Surfaces))
	for i, s := range in.File.Job.Surfaces {
		in.Layers[i] = make([]ResolvedCoat, len(s.Coats))
		for c, coat := range s.Coats {
			l := &in.Layers[i][c]
			*l = in.resolve(s, i, c)
			if l.Sheet == nil {
				if told := in.sheetless(s.Name, *l); told != nil {
					found = append(found, *told)
				}
				continue
			}
			bad := coat.Check(l.Path)
			if bad == nil {
				bad = in.strangers(*l)
			}
			if bad != nil {
				bad.Text = fmt.Sprintf("%s, coat %d: %s", s.Name, c+1, bad.Text)
				found = append(found, *bad)
				continue
			}
			l.Sound = true
		}
	}
	return found
}

// sheetless says why a coat has no sheet; nil where a fault of the sheet itself
// is told already.
func (in *Inputs) sheetless(surface string, l ResolvedCoat) *finding.Finding {
	for _, there := range in.File.Products {
		if there.ID != l.Coat.Product {
			continue
		}
		if in.Sheets[material.SheetKey{Product: there.ID}] == nil {
			return nil
		}
		f := Refused(finding.BuildUp, l.Path+"/hardener", "Choose one of its hardeners.",
			"%s, coat %d: %s has no hardener “%s”.", surface, l.Number, there.Name, l.Coat.Hardener)
		return &f
	}
	f := Refused(finding.BuildUp, l.Path+"/product", "Choose a product from the shelf.",
		"%s, coat %d names a product “%s” that is not in the file.", surface, l.Number, l.Coat.Product)
	return &f
}

// strangers names a medium of a coat that is not in the file, or nil.
func (in *Inputs) strangers(l ResolvedCoat) *finding.Finding {
	for _, n := range l.Coat.Media() {
		if in.Media[n.Medium] == nil {
			f := Refused(finding.BuildUp, l.Path+n.Field, "Choose one from the shelf.",
				"it names a medium “%s” that is not in the file.", n.Medium)
			return &f
		}
		if in.faulty[n.Medium] {
			f := Refused(finding.BuildUp, l.Path+n.Field, "Correct it on the shelf, or choose another.",
				"it names %s, which cannot be planned with.", in.Media[n.Medium].Name)
			return &f
		}
	}
	return nil
}

// ProductPath is the path of a product of the file.
func ProductPath(in *Inputs, id string) string {
	if s := in.Sheets[material.SheetKey{Product: id}]; s != nil {
		return s.Path
	}
	return "/products"
}

// List joins words as a sentence does.
func List(words []string) string {
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

// rest is the induction of a solvent-borne two-pack whose sheet states none: common practice, no source.
const rest measure.Span = 10 * measure.Minute

// withRest returns a sheet as this contractor lets its mix stand.
func withRest(methods school.Methods, p *material.Product) *material.Product {
	if methods.Resting != school.Rest || p.Induction != nil || p.Carrier != material.Solvent || len(p.Components) < 2 {
		return p
	}
	own := *p
	own.Induction = &measure.Sourced[measure.Span]{Value: rest, Source: measure.RuleOfThumb}
	return &own
}
