package survey

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"nephelon/core/measure"
	"nephelon/core/school"
)

// Hours, drying and materials of every task by hand, for a floor of 120 m² of which 20
// stand upright, with 60 m of walls, 3 m of doors and 2.4 L of cracks: level 100 m².
// Paces are the house's usual, common practice without source: 11 m²/h of grinding, 4 of
// walls, 20 m/h of edges, 90 m²/h of vacuum, 25 of scrubbing, 30 m/h of masking, 1.2 L/h
// of filling.
func TestHoursAndMaterialsByHand(t *testing.T) {
	g := Extent{Area: 120, Upright: 20, Perimeter: 60, Doors: 3, Filler: 0.0024, Coats: 3, People: 3}
	concrete := Survey{Substrate: Concrete}
	holed := g
	holed.Filler, holed.Hollows, holed.Deepest = 0.0104, 0.008, 0.02
	dished, filleted := holed, holed
	dished.Deepest, filleted.Deepest = 0.003, 0
	const night = 16 * measure.Hour
	type want struct {
		hours, drying float64 // h
		items         map[string]float64
	}
	for name, c := range map[string]struct {
		survey  Survey
		extent  Extent
		methods school.Methods
		closed  []Verdict
		tasks   map[string]want
	}{
		"ground": {concrete, g, school.Methods{}, nil, map[string]want{
			"protect":      {1, 0, map[string]float64{"Cover sheet": 120}},
			"walls":        {1, 0, nil},
			"grind":        {100.0/11 + 20.0/4 + 60.0/20, 0, map[string]float64{"Diamond cups": 1}}, // (100 + 40) ÷ 250
			"vacuum":       {120.0 / 90, 0, map[string]float64{"Vacuum bags": 1}},
			"fill":         {2, 16, map[string]float64{"Epoxy resin and hardener": 0.00264, "Fumed silica": 60 * 0.00264}},
			"sand-fills":   {1, 0, map[string]float64{"Sanding discs, 40 to 60": 2}}, // 2.4 ÷ 1.5, rounded up
			"vacuum-fills": {120.0 / 90, 0, nil},
			"mask": {2, 0, map[string]float64{"Masking tape": 66, "Caulk, cartridges of 12 m": 5,
				"Release strip": 3}},
		}},
		"shot-blasted": {concrete, g, school.Methods{Opening: school.ShotBlast, Filler: school.BodyFiller}, nil,
			map[string]want{
				"shot-blast": {100.0/28 + 5 + 3, 0, map[string]float64{"Shot": 15, "Diamond cups": 1}},
				"fill":       {2, 0.5, map[string]float64{"Body filler": 0.00264}},
			}},
		// 2.4 L of 10.4 L are cracks at 1.2 L an hour, 8 L are hollows at 8 L an hour.
		"holed": {concrete, holed, school.Methods{Filler: school.BodyFiller}, nil, map[string]want{
			"fill":       {3, 0.5, map[string]float64{"Body filler": 0.01144}},
			"sand-fills": {1.5, 0, map[string]float64{"Sanding discs, 40 to 60": 7}},
		}},
		// The 8 L of hollows with a mortar: 8.8 L mixed, a quarter of it resin, 1.7 kg/L of sand.
		"mortared": {concrete, holed, school.Methods{Filler: school.BodyFiller, Levelling: school.ResinMortar}, nil,
			map[string]want{
				"level":      {1, 16, map[string]float64{"Epoxy resin and hardener": 0.0022, "Dry graded sand": 14.96}},
				"fill":       {2, 0.5, map[string]float64{"Body filler": 0.00264}},
				"sand-fills": {1, 0, map[string]float64{"Sanding discs, 40 to 60": 2}},
			}},
		// A dish of 3 mm is shallower than three grains of the sand: the filler of the cracks takes it.
		"too thin for mortar": {concrete, dished, school.Methods{Filler: school.BodyFiller, Levelling: school.ResinMortar},
			nil,
			map[string]want{"fill": {3, 0.5, map[string]float64{"Body filler": 0.01144}}}},
		// Fillets alone have no depth, and are run with the mortar.
		"filleted": {concrete, filleted, school.Methods{Filler: school.BodyFiller, Levelling: school.ResinMortar}, nil,
			map[string]want{
				"level": {1, 16, map[string]float64{"Epoxy resin and hardener": 0.0022, "Dry graded sand": 14.96}},
			}},
		"screened": {concrete, g, school.Methods{Opening: school.Screen, Filler: school.WetPutty}, nil, map[string]want{
			"screen": {100.0/40 + 5, 0, map[string]float64{"Screens, 60 to 80": 3}},
			"fill":   {2, 0, map[string]float64{"Two-part putty": 0.00264}},
		}},
		"etched": {concrete, g, school.Methods{Opening: school.Etch}, nil, map[string]want{
			"wet":         {120.0 / 200, 0, map[string]float64{"Water": 0.06}},
			"etch":        {120.0 / 25, 0, nil},
			"rinse":       {2, 0, map[string]float64{"Water": 0.18}},
			"neutralise":  {1.5, 0, map[string]float64{"Ammonia": 0.036 / 21, "Water": 0.036 * 20 / 21}},
			"rinse-again": {2, 16, map[string]float64{"Water": 0.18}},
		}},
		"dirty, outdoors, wet behind": {Survey{Substrate: Concrete, Outdoors: true,
			Contamination: []string{"oil", "loose-paint", "salts"}}, g, school.Methods{}, []Verdict{{ID: "behind", Fit: Unfit}},
			map[string]want{
				"relieve":  {0, 48, nil},
				"outdoors": {1, 0, nil},
				"degrease": {120.0 / 25, 16, map[string]float64{"Degreaser": 0.012, "Water": 0.36}},
				"scrape":   {8, 0, nil},
				"brush":    {3, 0, nil},
			}},
		// 120 m²/h and 4 L/m² by pressure washer are 8 L a minute.
		"etched and washed by a jet": {Survey{Substrate: Concrete, Washer: true}, g, school.Methods{Opening: school.Etch},
			nil, map[string]want{
				"rinse":       {1, 0, map[string]float64{"Water": 0.48}},
				"rinse-again": {1, 16, map[string]float64{"Water": 0.48}},
			}},
		"an old coating stripped": {Survey{Substrate: OldCoating}, g, school.Methods{OldPaint: school.StripGel}, nil,
			map[string]want{
				"strip": {20, 16, map[string]float64{"Gel stripper": 0.06, "Water": 0.18}},
				"grind": {100.0/11 + 20.0/4 + 60.0/20, 0, map[string]float64{"Diamond cups": 1}},
			}},
		"a sealed floor kept so": {Survey{Substrate: Concrete, WaterDrop: "beads", KeepSealed: true}, g,
			school.Methods{Opening: school.Etch}, nil, map[string]want{
				"abrade": {3, 0, map[string]float64{"Screens, 60": 3}},
				"panel":  {1, 32, nil},
			}},
		"an old coating kept": {Survey{Substrate: OldCoating}, g,
			school.Methods{OldPaint: school.CoatOver, Between: school.SandEvery}, nil, map[string]want{
				"abrade":  {3, 0, map[string]float64{"Screens, 60": 3}},
				"between": {2 * 120.0 / 35, 32, map[string]float64{"Discs or pads": 8}},
			}},
		"a table": {Survey{Substrate: Timber}, Extent{Area: 6, Perimeter: 12, Coats: 2, Abraded: 1, Top: true, People: 2},
			school.Methods{}, nil, map[string]want{
				"sand":    {6.0 / 8, 0, map[string]float64{"Sanding discs, 120": 2}},
				"mask":    {0.4, 0, map[string]float64{"Masking tape": 13.2, "Sheet below, against drips": 12}},
				"between": {6.0 / 35, 16, map[string]float64{"Discs or pads": 1}},
			}},
	} {
		p := Prepare(c.survey, c.extent, c.methods, c.closed)
		work, drying := 0.0, 0.0
		for _, task := range p.Tasks {
			work += float64(task.Work)
			drying += float64(task.Drying)
		}
		if math.Abs(work-float64(p.Work)) > 1e-6 || math.Abs(drying-float64(p.Drying)) > 1e-6 {
			t.Errorf("%s: %v s of work told as %v, %v of drying as %v", name, work, p.Work, drying, p.Drying)
		}
		// Days of eight hours by this crew, and two thirds of a day for each night.
		if days := work/float64(c.extent.People)/(8*measure.Hour) +
			math.Ceil(drying/night-1e-3)*2/3; math.Abs(days-p.Days) > 1e-9 {
			t.Errorf("%s: %v days, want %v", name, p.Days, days)
		}
		for id, w := range c.tasks {
			at := slices.IndexFunc(p.Tasks, func(task PreparationTask) bool { return task.ID == id })
			if at < 0 {
				t.Errorf("%s: no %s in %v", name, id, ids(p))
				continue
			}
			task := p.Tasks[at]
			if math.Abs(float64(task.Work)/measure.Hour-w.hours) > 1e-9 ||
				math.Abs(float64(task.Drying)/measure.Hour-w.drying) > 1e-9 {
				t.Errorf("%s, %s: %v h and %v h of drying, want %v and %v", name, id, task.Work/measure.Hour,
					task.Drying/measure.Hour, w.hours, w.drying)
			}
			for item, amount := range w.items {
				k := slices.IndexFunc(task.Items, func(s Supply) bool { return s.Name == item })
				if k < 0 || math.Abs(task.Items[k].Value-amount) > 1e-9 {
					t.Errorf("%s, %s: %s of %v, want %v", name, id, item, fmt.Sprint(task.Items), amount)
				}
			}
		}
	}
}
