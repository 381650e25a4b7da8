package plan

import (
	"context"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/facts"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// A slab read at 29 °C and planned for at 20 °C is told, with a fix that plans with the
// reading; the newest reading counts, and 2 K are within what a gauge is worth.
func TestMakeTellsASlabThatIsNotPlannedFor(t *testing.T) {
	read := func(value float64, ago time.Duration) survey.Reading {
		return survey.Reading{ID: ago.String(), Kind: survey.SlabTemperature, Value: value, At: noon().Add(-ago)}
	}
	entered := &measure.Sourced[measure.Temperature]{Value: 27, Source: measure.OwnTest}
	for name, c := range map[string]struct {
		slab     *measure.Sourced[measure.Temperature]
		readings []survey.Reading
		says     string
	}{
		"nothing read":         {nil, nil, ""},
		"hot, nothing entered": {nil, []survey.Reading{read(29, time.Hour)}, ""}, // planned with as read
		"hot, read long ago":   {nil, []survey.Reading{read(29, 49*time.Hour)}, "read at 29"},
		"as assumed":           {nil, []survey.Reading{read(22, 49*time.Hour)}, ""},
		"just beyond":          {nil, []survey.Reading{read(22.1, 49*time.Hour)}, "read at 22.1"},
		"near what is entered": {entered, []survey.Reading{read(29, time.Hour)}, ""},
		"cold, below 27":       {entered, []survey.Reading{read(8, time.Hour)}, "read at 8"},
		"the newest counts": {nil, []survey.Reading{read(29, 5*time.Hour), read(21, time.Hour),
			read(33, 9*time.Hour)}, ""},
	} {
		f := laidJob(t, demoShelf(t), coat("shoalbody-f", 400))
		f.Job.Slab = c.slab
		f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete, Readings: c.readings}
		p := Make(f, measure.Metric, noon())
		at := slices.IndexFunc(p.Findings, func(f finding.Finding) bool { return f.Path == "/job/slab" })
		if (at >= 0) != (c.says != "") {
			t.Errorf("%s: %v", name, texts(p.Findings))
			continue
		}
		if at < 0 {
			continue
		}
		told := p.Findings[at]
		if !strings.Contains(told.Text, c.says) || told.Fix == nil {
			t.Errorf("%s: %+v", name, told)
			continue
		}
		value, ok := told.Fix.Patch[0].Value.(measure.Sourced[measure.Temperature])
		if !ok {
			t.Fatalf("%s: %+v", name, told.Fix)
		}
		f.Job.Slab = &value
		after := Make(f, measure.Metric, noon())
		if slices.ContainsFunc(after.Findings, func(f finding.Finding) bool { return f.Path == "/job/slab" }) {
			t.Errorf("%s: the fix does not mend it", name)
		}
		hot := float64(value.Value) > float64(p.Surfaces[0].Coats[0].Times.Slab)
		if shorter := after.Surfaces[0].Coats[0].Cards[0].PotLife < p.Surfaces[0].Coats[0].Cards[0].PotLife; hot &&
			!shorter && value.Value > 25 {
			t.Errorf("%s: the pot life does not follow", name)
		}
	}
}

// The newest slab that was read within two days beats what was assumed, on the survey or on a job day; what was
// entered rules. A hot slab shortens the pot life of parts that nobody read; a cold one does not lengthen it.
func TestTheNewestReadingIsPlannedWith(t *testing.T) {
	read := func(value float64, ago time.Duration) survey.Reading {
		return survey.Reading{ID: ago.String(), Kind: survey.SlabTemperature, Value: value, At: noon().Add(-ago)}
	}
	logged := func(value measure.Temperature, ago time.Duration) facts.Reading {
		return facts.Reading{At: noon().Add(-ago), Slab: value}
	}
	own := func(value measure.Temperature, source measure.Source) *measure.Sourced[measure.Temperature] {
		return &measure.Sourced[measure.Temperature]{Value: value, Source: source}
	}
	var assumed measure.Span // pot life of the first card
	for _, c := range []struct {
		name     string
		entered  *measure.Sourced[measure.Temperature]
		surveyed []survey.Reading
		logged   []facts.Reading
		slab     measure.Temperature
		basis    input.SlabBasis
		on       string
		life     int // of the pot: shorter, as long, longer
	}{
		{"nothing read", nil, nil, nil, 20, input.SlabAssumed, "", 0},
		{"surveyed", nil, []survey.Reading{read(26, time.Hour)}, nil, 26, input.SlabIsRead, "Loading quay", -1},
		{"on the job day, later", nil, []survey.Reading{read(26, 20*time.Hour)}, []facts.Reading{logged(27, time.Hour)}, 27,
			input.SlabIsRead, "", -1},
		{"surveyed later", nil, []survey.Reading{read(24, time.Hour)}, []facts.Reading{logged(27, 20*time.Hour)}, 24,
			input.SlabIsRead, "Loading quay", -1},
		{"cold", nil, nil, []facts.Reading{logged(12, time.Hour)}, 12, input.SlabIsRead, "", 0},
		{"long ago", nil, nil, []facts.Reading{logged(27, 49*time.Hour)}, 20, input.SlabAssumed, "", 0},
		{"after now", nil, nil, []facts.Reading{logged(27, -time.Hour)}, 20, input.SlabAssumed, "", 0},
		{"entered", own(22, measure.OwnTest), nil, []facts.Reading{logged(23, time.Hour)}, 22, input.SlabEntered, "", -1},
		{"entered as assumed", own(18, measure.Assumed), nil, []facts.Reading{logged(23, time.Hour)}, 23,
			input.SlabIsRead, "", -1},
	} {
		f := laidJob(t, demoShelf(t), coat("shoalbody-f", 400))
		f.Job.Slab = c.entered
		f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete, Readings: c.surveyed}
		p, err := NewPlanner().MakeFor(context.Background(), f, facts.Facts{Now: noon(), Readings: c.logged}, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		life := p.Surfaces[0].Coats[0].Cards[0].PotLife
		if assumed == 0 {
			assumed = life
		}
		if p.Slab.Slab != c.slab || p.Slab.Basis != c.basis || p.Slab.On != c.on ||
			p.Surfaces[0].Coats[0].Times.Slab != c.slab || (p.Slab.At != nil) != (c.basis == input.SlabIsRead) {
			t.Errorf("%s: planned for %+v, the coat for %v", c.name, p.Slab, p.Surfaces[0].Coats[0].Times.Slab)
		}
		if c.life == 0 && life != assumed || c.life < 0 && life >= assumed {
			t.Errorf("%s: the pot life is %v s, %v at what is assumed", c.name, life, assumed)
		}
	}
}

// A top of wood: the seal coat that the warning asks for silences it, is not scolded for its
// thin film, soaks in by 0.05 L/m², and what it raised is sanded with P220 before the next.
func TestASealCoat(t *testing.T) {
	f := fiveColours(t)
	f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Timber}
	flood := f.Job.Surfaces[0].Coats[0]
	seal := coat("meniscus-flood", 120)
	seal.ID, flood.ID = "seal", "flood"
	told := func(says string, coats ...int) bool {
		f.Job.Surfaces[0].Coats = f.Job.Surfaces[0].Coats[:0]
		for range coats {
			f.Job.Surfaces[0].Coats = append(f.Job.Surfaces[0].Coats, seal)
		}
		f.Job.Surfaces[0].Coats = append(f.Job.Surfaces[0].Coats, flood)
		return slices.ContainsFunc(texts(Make(f, measure.Metric, noon()).Findings),
			func(text string) bool { return strings.Contains(text, says) })
	}
	if !told("goes on without a seal") || !told("goes on without a seal", 1) || !told("under its minimum film", 1) {
		t.Error("without a seal coat nothing is told")
	}
	seal.Seal = true
	if told("goes on without a seal", 1) || told("under its minimum film", 1) {
		t.Error("the seal coat is still asked for, or scolded")
	}
	p := Make(f, measure.Metric, noon())
	area := float64(p.Surfaces[0].Takeoff.Area)
	built := p.Surfaces[0].Coats[0].Build
	if !near(float64(built.Extra), 0.05e-3*area, 1e-9) {
		t.Errorf("%v m³ soak into %v m²", built.Extra, area)
	}
	sanded := slices.IndexFunc(p.Surfaces[0].Survey.Preparation.Tasks,
		func(k survey.PreparationTask) bool { return k.ID == survey.BetweenCoats })
	if sanded < 0 || !strings.Contains(p.Surfaces[0].Survey.Preparation.Tasks[sanded].How, "P220") {
		t.Errorf("%+v", p.Surfaces[0].Survey.Preparation.Tasks)
	}
	if !slices.ContainsFunc(p.Tasks, func(k work.Task) bool { return k.Name == "Abrade coat 1" }) {
		t.Error("nobody sands what the seal coat raised")
	}
}

// A pour lists its additions as its cards dose them, where more is mixed than needed.
func TestThePourListsWhatItsCardsDose(t *testing.T) {
	tinted := laidJob(t, demoShelf(t), coat("keelbody-100", 700))
	tinted.Media = demoShelf(t).Media
	tinted.Job.Surfaces[0].Coats[0].Pigment = &buildup.Tint{Medium: "pigment-pitch",
		Portion: material.Portion{Value: 0.03, Of: material.OfAB, Source: measure.OwnTest}}
	files := map[string]job.File{"tinted": tinted}
	for _, name := range []string{"baggage-hall", "settling-basin", "oyster-bar", "seal-nursery", "lamp-room"} {
		files[name] = demo(t, name)
	}
	more := false
	for _, f := range files {
		p := Make(f, measure.Metric, noon())
		for _, s := range p.Surfaces {
			for _, c := range s.Coats {
				dosed := make(map[string]float64)
				for _, card := range c.Cards {
					for _, a := range card.Additions {
						dosed[a.Name] += float64(a.Mass) + 1000*float64(a.Volume)
					}
				}
				for _, k := range p.Tasks {
					if k.ID != work.PourID(c.ID) {
						continue
					}
					for _, m := range k.Needs.Materials {
						value := m.Value
						if m.Kind == measure.KindVolume {
							value *= 1000
						}
						if want := dosed[m.Name]; want > 0 && !near(value, want, 1e-9) {
							t.Errorf("%s, coat %d: %s %v, by the cards %v", s.Name, c.Number, m.Name, value, want)
						}
						more = more || dosed[m.Name] > 0 && c.Division.Mixed > c.Build.Need*1.01
					}
				}
			}
		}
	}
	if !more {
		t.Error("none of these jobs mixes more than it needs")
	}
}

// Parts and air that were read within two days beat what nobody entered; what was entered rules, and is told
// where it is more than 2 K off.
func TestPartsAndAirAsRead(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("shoalbody-f", 400))
	plain := Make(f, measure.Metric, noon())
	life := func(p Plan) measure.Span { return p.Surfaces[0].Coats[0].Cards[0].PotLife }
	read := func(parts, air float64, ago time.Duration) Plan {
		f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete, Readings: []survey.Reading{
			{ID: "parts", Kind: survey.MaterialTemperature, Value: parts, At: noon().Add(-ago)},
			{ID: "air", Kind: survey.AirTemperature, Value: air, At: noon().Add(-ago)}}}
		return Make(f, measure.Metric, noon())
	}
	hot := read(28, 31, time.Hour)
	if hot.Slab.Parts != 28 || hot.Slab.Air != 31 || hot.Slab.PartsAt == nil || life(hot) >= life(plain) {
		t.Errorf("%+v, %v s after %v s", hot.Slab, life(hot), life(plain))
	}
	if old := read(28, 31, 49*time.Hour); old.Slab.Parts != 20 || old.Slab.PartsAt != nil || life(old) != life(plain) {
		t.Errorf("two days and an hour ago: %+v", old.Slab)
	}
	f.Job.Mixing.A = &measure.Sourced[measure.Temperature]{Value: 20, Source: measure.OwnTest}
	entered := read(28, 20, time.Hour)
	told := saying(entered, "The parts were read at 28 °C")
	if life(entered) != life(plain) || told == nil || told.Fix == nil {
		t.Fatalf("%v, %v s", texts(entered.Findings), life(entered))
	}
	if f = patched(t, f, *told.Fix); saying(Make(f, measure.Metric, noon()), "The parts were read") != nil {
		t.Error("told again after its way out was taken")
	}
	f.Job.Mixing.A = &measure.Sourced[measure.Temperature]{Value: 15, Source: measure.Assumed}
	if assumed := Make(f, measure.Metric, noon()); life(assumed) != life(hot) && life(assumed) >= life(plain) {
		t.Errorf("what is assumed stands before what was read: %v s", life(assumed))
	}
}

// Parts that come colder than their sheet allows are warmed the day before, with how long a pail takes: in water much
// shorter than in a room, and not to the cold at which they were read. Where they come within it nothing is said.
func TestColdPartsAreWarmedAhead(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 800))
	f.Products[0].MaterialMin = &measure.Sourced[measure.Temperature]{Value: 18, Source: measure.Sheet}
	at := func(parts measure.Temperature) (CoatPlan, string) {
		f.Job.Mixing.A = &measure.Sourced[measure.Temperature]{Value: parts, Source: measure.OwnTest}
		c := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]
		return c, strings.Join(c.Ahead, " ")
	}
	warm, told := at(20)
	if warm.Staging.Warmed != nil || strings.Contains(told, "the sheet asks for") {
		t.Errorf("%+v: %s", warm.Staging, told)
	}
	cold, told := at(11)
	w := cold.Staging.Warmed
	if w == nil || w.From != 11 || w.To != 18 || w.Bath <= 0 || w.Room < 3*w.Bath || w.Mass < 5 || w.Mass > 40 ||
		cold.Staging.Effort <= warm.Staging.Effort {
		t.Fatalf("%+v", w)
	}
	if !strings.Contains(told, w.Part+" comes at 11 °C, and the sheet asks for at least 18 °C") ||
		!strings.Contains(told, "the parts come to 18 °C") && !strings.Contains(told, "warm the parts to 18 °C") {
		t.Error(told)
	}
	life := func(c CoatPlan) measure.Span { return c.Cards[0].PotLife }
	least, _ := at(18)
	if life(cold) != life(least) || life(cold) <= life(warm) {
		t.Errorf("warmed to 18 °C it lives %v s, come at 18 °C %v s, at 20 °C %v s", life(cold), life(least), life(warm))
	}
	f.Products[0].MaterialMax = &measure.Sourced[measure.Temperature]{Value: 24, Source: measure.Sheet}
	hot, _ := at(31)
	most, _ := at(24)
	if w := hot.Staging.Warmed; w == nil || w.Verb() != "cool" || life(hot) != life(most) {
		t.Errorf("cooled to 24 °C it lives %v s, come at 24 °C %v s", life(hot), life(most))
	}
	f.Job.Mixing.A = nil
	f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete, Readings: []survey.Reading{
		{ID: "parts", Kind: survey.MaterialTemperature, Value: 31, At: noon().Add(-time.Hour)}}}
	made := Make(f, measure.Metric, noon())
	if read := made.Surfaces[0].Coats[0]; read.Staging.Warmed != nil || life(read) >= life(most) ||
		saying(made, "Cool the parts") == nil && saying(made, "its sheet allows its parts") == nil {
		t.Errorf("read at 31 °C it lives %v s and is %+v", life(read), read.Staging.Warmed)
	}
}
