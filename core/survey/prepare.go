package survey

import (
	"fmt"
	"math"
	"slices"

	"nephelon/core/measure"
)

// Methods are the contractor's schools of preparation.
type Methods struct {
	Opening    string `json:"opening,omitempty" enum:"grind,shot-blast,screen,etch" doc:"How a surface is opened; grind when left out"`
	Acid       string `json:"acid,omitempty" enum:"muriatic,citric" doc:"What is etched with; muriatic when left out"`
	AcidInPool bool   `json:"acidInPool,omitempty" doc:"Etching in pools and on plaster is allowed; refused when left out"`
	Filler     string `json:"filler,omitempty" enum:"body,epoxy,putty" doc:"Polyester body filler, thickened epoxy, or a putty that is coated wet; epoxy when left out"`
	Between    string `json:"between,omitempty" enum:"sand,tacky" doc:"Sand every coat, or recoat while it is tacky; sand when left out"`
	OldPaint   string `json:"oldPaint,omitempty" enum:"remove,over" doc:"Whether sound old paint stays; remove when left out"`
}

func (m Methods) filled() Methods {
	for _, f := range []struct {
		field *string
		usual string
	}{{&m.Opening, "grind"}, {&m.Acid, "muriatic"}, {&m.Filler, "epoxy"}, {&m.Between, "sand"}, {&m.OldPaint, "remove"}} {
		if *f.field == "" {
			*f.field = f.usual
		}
	}
	return m
}

// Ground is what of the take-off bears on preparation.
type Ground struct {
	Area      measure.Area
	Upright   measure.Area
	Perimeter measure.Length
	Doors     measure.Length
	Filler    measure.Volume // of cracks and joints to fill
	Pool      bool
	Top       bool
	Coats     int
	People    int
}

// Supply is a material or tool that a task takes.
type Supply struct {
	Name  string       `json:"name"`
	Kind  measure.Kind `json:"kind" enum:"length,area,volume,mass,count"`
	Value float64      `json:"value"`
}

// Task is one piece of preparation.
type Task struct {
	ID       string       `json:"id"`
	Name     string       `json:"name"`
	How      string       `json:"how" doc:"Machine, grit, passes"`
	Items    []Supply     `json:"items"`
	Work     measure.Span `json:"work" doc:"Person-seconds"`
	Drying   measure.Span `json:"drying" doc:"s before the next task"`
	Wet      bool         `json:"wet,omitempty" doc:"It brings water onto the surface"`
	Check    string       `json:"check" doc:"What closes it"`
	Cautions []string     `json:"cautions"`
}

// Preparation is what is to be done to a surface before its coats, in order.
type Preparation struct {
	Tasks   []Task       `json:"tasks"`
	Work    measure.Span `json:"work" doc:"Person-seconds"`
	Drying  measure.Span `json:"drying"`
	Days    float64      `json:"days" doc:"Working days of 8 h with this crew, nights for drying"`
	Refused string       `json:"refused,omitempty" doc:"A school that this surface does not allow, and what stands in"`
	Others  []Other      `json:"others" doc:"The same with another school"`
}

// Other is a preparation by another school, to compare.
type Other struct {
	School string       `json:"school"`
	Choice string       `json:"choice"`
	Words  string       `json:"words"`
	Work   measure.Span `json:"work"`
	Drying measure.Span `json:"drying"`
	Days   float64      `json:"days"`
	Items  []Supply     `json:"items"`
	Risk   string       `json:"risk"`
}

// Cautions stand beside the tasks that can hurt; they defer to data sheets and
// local rules.
const (
	cautionDust  = "Silica dust: shroud and HEPA vacuum, respirator; 50 µg/m³ as an 8 h mean is the limit of OSHA 29 CFR 1926.1153 (from memory)."
	cautionAcid  = "Acid into water, never water into acid. Eyes, skin and lungs covered; never with bleach; run-off by local rules; the safety data sheet comes first."
	cautionMix   = "Never mix acid with ammonia or bleach: rinse between them."
	cautionWet   = "Wet floor: slips, and mains leads kept out of it behind a residual-current device."
	cautionPool  = "Empty pool: falls, access, air and uplift by ground water; a permit or an engineer may be required, and confined-space rules where they apply (29 CFR 1926 Subpart AA, from memory)."
	cautionSolve = "Solvent vapour: no flame, heater, pilot light or grinder sparks near."
	cautionSkin  = "Resin and hardener sensitise the skin: gloves, sleeves, eyes covered."
)

// Paces and amounts that stand in until a contractor's log has better: common
// practice, no source, but where one is named.
const (
	grindPace   = 11.0                                        // m²/h one person, floors, two passes at right angles
	wallPace    = 4.0                                         // m²/h one person, walls
	blastPace   = 28.0                                        // m²/h
	screenPace  = 40.0                                        // m²/h
	scrubPace   = 25.0                                        // m²/h one etching pass with its rinses
	vacuumPace  = 90.0                                        // m²/h
	edgePace    = 20.0                                        // m/h of edge ground by hand
	maskPace    = 30.0                                        // m/h of tape and caulk
	fillPace    = 0.0012                                      // m³/h of cracks cut, filled and struck off
	sandPace    = 35.0                                        // m²/h between coats
	acidPerArea = measure.Gallon / 2 / (500 * measure.SqFoot) // m: half a gallon on 500 ft² a pass (handbooks of the trade)
	waterToAcid = 4.0                                         // parts of water to one of acid, up to 1 : 1 on stubborn floors
	rinse       = 0.0015                                      // m: 1.5 L/m² each time
	neutral     = 0.0003                                      // m of 1 : 20 ammonia water
	citricPerL  = measure.Pound / (2 * measure.Gallon)        // kg/m³: 1 lb in 2 US gal
	citricFilm  = measure.Gallon / (100 * measure.SqFoot)     // m of the solution
	overnight   = 16 * measure.Hour
)

// Prepare orders the preparation of a surface from its survey and the
// contractor's schools.
func Prepare(s Survey, g Ground, m Methods, verdicts []Verdict) Preparation {
	p := prepare(s, g, m.filled(), verdicts)
	for _, school := range schools() {
		for _, choice := range school.choices {
			other := m.filled()
			if *school.field(&other) == choice.id {
				continue
			}
			*school.field(&other) = choice.id
			alternative := prepare(s, g, other, verdicts)
			if alternative.Refused != "" && p.Refused == "" {
				continue
			}
			if slices.EqualFunc(alternative.Tasks, p.Tasks, func(a, b Task) bool { return a.ID == b.ID && a.Work == b.Work && a.How == b.How }) {
				continue
			}
			p.Others = append(p.Others, Other{
				School: school.name, Choice: choice.id, Words: choice.words, Risk: choice.risk,
				Work: alternative.Work, Drying: alternative.Drying, Days: alternative.Days, Items: alternative.items(),
			})
		}
	}
	return p
}

type choice struct{ id, words, risk string }

type school struct {
	name    string
	field   func(*Methods) *string
	choices []choice
}

func schools() []school {
	return []school{
		{"opening", func(m *Methods) *string { return &m.Opening }, []choice{
			{"grind", "Grind", "Dust; a closed or painted surface is opened for certain."},
			{"shot-blast", "Shot-blast", "Leaves tracks that a thin coat shows; does not reach edges."},
			{"screen", "Screen with 60 to 80 grit", "Opens little: only for sound, clean, already open floors."},
			{"etch", "Etch with acid", "Does not work through sealer or paint, brings water, and must be neutralised."},
		}},
		{"filler", func(m *Methods) *string { return &m.Filler }, []choice{
			{"body", "Polyester body filler", "Set in half an hour and cheap; shows through light colours."},
			{"epoxy", "Thickened epoxy", "Strongest; costs a night."},
			{"putty", "Putty coated while wet", "No waiting; must be of the coats' own maker."},
		}},
		{"between", func(m *Methods) *string { return &m.Between }, []choice{
			{"sand", "Sand every coat", "A night and a day's dust for each coat; holds for certain."},
			{"tacky", "Recoat while it is tacky", "No sanding, but the window must be kept."},
		}},
		{"old paint", func(m *Methods) *string { return &m.OldPaint }, []choice{
			{"remove", "Remove old paint", "Slow and dusty; nothing unknown stays below."},
			{"over", "Coat over sound old paint", "The new coat holds no better than the old one."},
		}},
	}
}

func (p Preparation) items() []Supply {
	all := []Supply{}
	for _, t := range p.Tasks {
		all = append(all, t.Items...)
	}
	return all
}

// planner gathers the tasks in their order.
type planner struct {
	Survey
	ground  Ground
	methods Methods
	closed  map[string]bool
	out     Preparation
}

func prepare(s Survey, g Ground, m Methods, verdicts []Verdict) Preparation {
	p := planner{Survey: s, ground: g, methods: m, closed: make(map[string]bool), out: Preparation{Tasks: []Task{}, Others: []Other{}}}
	for _, v := range verdicts {
		p.closed[v.ID] = v.Fit == FitAfter || v.Fit == Unfit
	}
	p.allowed()
	p.water()
	p.clean()
	p.open()
	p.fill()
	p.mask()
	p.between()
	for _, t := range p.out.Tasks {
		p.out.Work += t.Work
		p.out.Drying += t.Drying
	}
	p.out.Days = float64(p.out.Work)/float64(max(1, g.People))/(8*measure.Hour) + math.Ceil(float64(p.out.Drying)/float64(overnight)*0.999)*2/3
	return p.out
}

// allowed refuses a school that the surface does not bear.
func (p *planner) allowed() {
	if p.methods.Opening != "etch" {
		return
	}
	mineral := judge{Survey: p.Survey}
	why := ""
	switch {
	case (p.ground.Pool || p.Substrate == Plaster) && !p.methods.AcidInPool:
		why = "Your rule refuses acid in pools and on plaster: it soaks in, must be neutralised completely, and stains the paint"
	case p.Substrate != "" && !mineral.mineral():
		why = "Acid opens mineral surfaces only"
	case slices.Contains(p.Contamination, "sealer"), slices.Contains(p.Contamination, "curing-compound"), p.Substrate == OldCoating:
		why = "Etching does not work through sealer, curing compound or paint"
	default:
		return
	}
	p.methods.Opening = "grind"
	p.out.Refused = why + ". Grinding is planned instead."
}

func (p *planner) add(t Task) {
	if t.Items == nil {
		t.Items = []Supply{}
	}
	if t.Cautions == nil {
		t.Cautions = []string{}
	}
	if p.ground.Pool {
		t.Cautions = append(t.Cautions, cautionPool)
	}
	p.out.Tasks = append(p.out.Tasks, t)
}

func hours(amount, pace float64) measure.Span { return measure.Span(amount / pace * measure.Hour) }

func volume(name string, v float64) Supply { return Supply{name, measure.KindVolume, v} }
func pieces(name string, n float64) Supply {
	return Supply{name, measure.KindCount, math.Max(1, math.Ceil(n-1e-9))}
}

// water is relieved, and what is near is protected.
func (p *planner) water() {
	if p.closed["behind"] {
		p.add(Task{ID: "relieve", Name: "Relieve and drain the water behind", How: "Find its way; drain or drill relief holes, and plug them after the work", Drying: 3 * overnight,
			Check: "Dry behind, and dry under a sheet after 16 h", Cautions: []string{"A drained shell can float: an engineer decides."}})
	}
	p.add(Task{ID: "protect", Name: "Protect what is near", How: "Cover fittings, drains and what stands close; keep people and pets out; take doors off where they drag",
		Items: []Supply{{"Cover sheet", measure.KindArea, 2 * float64(p.ground.Perimeter)}}, Work: hours(float64(p.ground.Perimeter), 60), Check: "Nothing within two metres lies open"})
	if p.Outdoors {
		p.add(Task{ID: "outdoors", Name: "Keep water and leaves off", How: "Sprinklers off for a day before and after, wind-break and cover ready", Work: measure.Hour,
			Check: "No rain in the forecast until a day after the last coat"})
	}
}

// clean takes off what keeps a coat from holding.
func (p *planner) clean() {
	area := float64(p.ground.Area)
	for _, c := range p.Contamination {
		switch c {
		case "oil", "wax":
			p.add(Task{ID: "degrease", Name: "Degrease", How: "Degreaser, scrub, rinse twice, vacuum wet", Wet: true, Drying: overnight,
				Items: []Supply{volume("Degreaser", 0.0001*area), volume("Water", 2*rinse*area)}, Work: hours(area, scrubPace),
				Check: "A drop of water soaks in", Cautions: []string{cautionWet}})
		case "loose-paint":
			p.add(Task{ID: "scrape", Name: "Remove loose paint", How: "Scrape to a sound edge, feather it", Work: hours(area, 15), Check: "A taped cross-cut holds", Cautions: []string{cautionDust}})
		case "salts":
			p.add(Task{ID: "brush", Name: "Brush off salts", How: "Dry brush and vacuum; no water", Work: hours(area, 40), Check: "None come back in a week"})
		}
	}
	p.add(Task{ID: "walls", Name: "Clean walls and ceilings first", How: "Vacuum what could fall onto the wet film", Work: hours(float64(p.ground.Perimeter), 60), Check: "A dark cloth stays clean"})
}

// open gives the profile.
func (p *planner) open() {
	if p.ground.Top || p.Substrate == Timber || p.Substrate == Board || p.Substrate == Laminate || p.Substrate == Metal {
		area := float64(p.ground.Area)
		p.add(Task{ID: "sand", Name: "Sand the surface", How: "120 grit, with the grain where there is one; then wipe", Items: []Supply{pieces("Sanding discs, 120", area/4)}, Work: hours(area, 8),
			Check: "No gloss left anywhere, edges included", Cautions: []string{cautionDust, cautionSolve}})
		return
	}
	if p.Substrate == OldCoating && p.methods.OldPaint == "over" {
		area := float64(p.ground.Area)
		p.add(Task{ID: "abrade", Name: "Break the gloss of the old coating", How: "60 grit, two passes at right angles", Items: []Supply{pieces("Screens, 60", area/40)}, Work: hours(area, screenPace),
			Check: "No gloss left; a taped cross-cut holds", Cautions: []string{cautionDust}})
		p.vacuum("vacuum")
		return
	}
	upright := float64(p.ground.Upright)
	flat := math.Max(0, float64(p.ground.Area)-upright)
	grind := func() {
		p.add(Task{ID: "grind", Name: "Grind", How: "Diamond cups, 30 to 40 grit (P16-class discs in a pool), two passes at right angles; edges by hand",
			Items: []Supply{pieces("Diamond cups", (flat+2*upright)/250)}, Work: hours(flat, grindPace) + hours(upright, wallPace) + hours(float64(p.ground.Perimeter), edgePace),
			Check: "The wanted profile against the chips, edges included, and a drop of water soaks in", Cautions: []string{cautionDust}})
	}
	switch p.methods.Opening {
	case "etch":
		p.etch(flat + upright)
		return
	case "shot-blast":
		p.add(Task{ID: "shot-blast", Name: "Shot-blast", How: "One pass, overlapping; edges ground by hand", Items: []Supply{{"Shot", measure.KindMass, 0.15 * flat}, pieces("Diamond cups", float64(p.ground.Perimeter)/400)},
			Work: hours(flat, blastPace) + hours(upright, wallPace) + hours(float64(p.ground.Perimeter), edgePace), Check: "The wanted profile against the chips, no tracks", Cautions: []string{cautionDust}})
	case "screen":
		p.add(Task{ID: "screen", Name: "Screen", How: "60 to 80 grit, two passes at right angles", Items: []Supply{pieces("Screens, 60 to 80", flat/40)},
			Work: hours(flat, screenPace) + hours(upright, wallPace), Check: "A drop of water soaks in everywhere", Cautions: []string{cautionDust}})
	default:
		grind()
	}
	p.vacuum("vacuum")
}

func (p *planner) vacuum(id string) {
	p.add(Task{ID: id, Name: "Vacuum", How: "HEPA vacuum, edges by hand; no blowing", Items: []Supply{pieces("Vacuum bags", float64(p.ground.Area)/120)}, Work: hours(float64(p.ground.Area), vacuumPace), Check: "A dark cloth stays clean"})
}

// etch goes through its steps in safe order.
func (p *planner) etch(area float64) {
	p.add(Task{ID: "wet", Name: "Wet the floor", How: "Damp all over, no puddles; keep it wet until it is rinsed", Wet: true, Items: []Supply{volume("Water", rinse/3*area)}, Work: hours(area, 200), Check: "Evenly dark", Cautions: []string{cautionWet}})
	etch := Task{ID: "etch", Name: "Etch", Wet: true, Work: hours(area, scrubPace), Check: "It fizzes everywhere, then no more", Cautions: []string{cautionAcid, cautionWet}}
	if p.methods.Acid == "citric" {
		water := citricFilm * area
		etch.How = "Water into the bucket first, then the citric acid; pour in circles, scrub, keep it wet"
		etch.Items = []Supply{volume("Water, first into the bucket", water), {"Citric acid", measure.KindMass, citricPerL * water}}
	} else {
		acid := acidPerArea * area
		etch.How = fmt.Sprintf("%.0f parts of water into the bucket first, then 1 of muriatic acid; pour in circles, scrub, keep it wet; a second pass where it did not fizz", waterToAcid)
		etch.Items = []Supply{volume("Water, first into the bucket", waterToAcid*acid), volume("Muriatic acid, into the water", acid)}
	}
	p.add(etch)
	p.add(Task{ID: "rinse", Name: "Rinse", How: "Flood and vacuum wet", Wet: true, Items: []Supply{volume("Water", rinse*area)}, Work: hours(area, 60), Check: "The rinse runs clear", Cautions: []string{cautionWet}})
	p.add(Task{ID: "neutralise", Name: "Neutralise", How: "1 part of household ammonia in 20 of water (1 in 10 by a cautious school), scrub", Wet: true,
		Items: []Supply{volume("Ammonia", neutral*area/21), volume("Water", neutral*area*20/21)}, Work: hours(area, 80), Check: "No fizzing left", Cautions: []string{cautionMix}})
	p.add(Task{ID: "rinse-again", Name: "Rinse again and dry", How: "Flood, vacuum wet, then leave it with the doors open", Wet: true, Items: []Supply{volume("Water", rinse*area)}, Work: hours(area, 60), Drying: overnight,
		Check: "pH in range (ASTM D4262), it feels like coarse-to-medium paper, and the moisture test is passed again", Cautions: []string{cautionWet}})
}

// fill closes cracks, joints and holes.
func (p *planner) fill() {
	v := float64(p.ground.Filler)
	if v <= 0 {
		return
	}
	t := Task{ID: "fill", Name: "Fill cracks and joints", Work: hours(v, fillPace), Check: "Level: no ripple in the light along the floor", Cautions: []string{cautionSkin}}
	const waste = 1.1
	switch p.methods.Filler {
	case "body":
		t.How, t.Drying = "Polyester body filler, pressed in, struck off; sandable in 20 to 30 min", measure.Hour/2
		t.Items = []Supply{volume("Body filler", waste*v)}
	case "putty":
		t.How = "Two-part putty of the coats' maker, pressed in, struck off; coated before it is hard"
		t.Items = []Supply{volume("Two-part putty", waste*v)}
	default:
		t.How, t.Drying = "Resin thickened with fumed silica, pressed in, struck off; overnight", overnight
		t.Items = []Supply{volume("Epoxy resin and hardener", waste*v), {"Fumed silica", measure.KindMass, 60 * waste * v}}
	}
	p.add(t)
	if p.methods.Filler != "putty" {
		p.add(Task{ID: "sand-fills", Name: "Sand the fills", How: "40 to 60 grit, flush", Items: []Supply{pieces("Sanding discs, 40 to 60", v/0.0015)}, Work: hours(v, 2*fillPace), Check: "Flush under a straightedge; tint the primer where fills would ghost", Cautions: []string{cautionDust}})
		p.vacuum("vacuum-fills")
	}
}

// mask ends the preparation.
func (p *planner) mask() {
	run := float64(p.ground.Perimeter)
	if run <= 0 {
		return
	}
	items := []Supply{pieces("Tape, rolls of 50 m", run/50)}
	how := "Tape along the edges"
	if !p.ground.Top && !p.ground.Pool {
		items = append(items, pieces("Caulk, cartridges of 12 m", run/12))
		how = "Tape walls, caulk the perimeter so that resin does not run under them; stop line under the closed door"
	}
	if p.ground.Doors > 0 {
		items = append(items, Supply{"Release strip", measure.KindLength, float64(p.ground.Doors)})
		how += "; a release strip as a dam in doorways"
	}
	if p.ground.Top {
		items = append(items, Supply{"Sheet below, against drips", measure.KindArea, 2 * float64(p.ground.Area)})
	}
	p.add(Task{ID: "mask", Name: "Mask and dam", How: how, Items: items, Work: hours(run, maskPace), Check: "No gap that lets light through"})
}

// between is the sanding from coat to coat.
func (p *planner) between() {
	if p.ground.Coats < 2 || p.methods.Between == "tacky" {
		return
	}
	times := float64(p.ground.Coats - 1)
	grit := "100 grit"
	switch {
	case p.ground.Pool:
		grit = "60 grit"
	case p.ground.Top:
		grit = "fine nylon pads, about 220"
	}
	area := float64(p.ground.Area)
	p.add(Task{ID: "between", Name: fmt.Sprintf("Sand between coats, %.0f times", times), How: grit + "; dust off, wipe with solvent only where the product allows",
		Items: []Supply{pieces("Discs or pads", times*area/30)}, Work: hours(times*area, sandPace), Drying: measure.Span(times) * overnight,
		Check: "No gloss anywhere: mark on the plan what is done", Cautions: []string{cautionDust, cautionSolve}})
}
