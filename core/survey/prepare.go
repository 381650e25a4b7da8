package survey

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nephelon/core/measure"
	"nephelon/core/school"
)

// Extent holds what of the take-off bears on preparation.
type Extent struct {
	Area      measure.Area
	Upright   measure.Area
	Perimeter measure.Length
	Doors     measure.Length
	Filler    measure.Volume // of cracks, joints and hollows to fill
	Hollows   measure.Volume // of it for holes, low places, falls and fillets
	Deepest   measure.Length // of the hollows
	Pool      bool
	Top       bool
	Coats     int
	Abraded   int   // coats planned to be abraded before the next, whatever the school
	Grits     []int // that the sheets of the coats below name for it
	People    int
	Rules     map[RuleID]Rule // with the strengths that are wanted
}

// strength returns how many parts of water a rule puts to one.
func (e Extent) strength(id RuleID) float64 {
	if own, there := e.Rules[id]; there {
		return math.Max(1, math.Min(100, own.Value))
	}
	return Rules(nil)[id].Value
}

// Cautions stand beside the tasks that can hurt; they defer to data sheets and
// local rules.
const (
	cautionDust = "Silica dust: shroud and HEPA vacuum, respirator; 50 µg/m³ as an 8 h mean is the limit of OSHA 29 " +
		"CFR 1926.1153 (from memory)."
	cautionAcid = "Acid into water, never water into acid. Eyes, skin and lungs covered; never with bleach; run-off by " +
		"local rules; the safety data sheet comes first."
	cautionMix  = "Never mix acid with ammonia or bleach: rinse between them."
	cautionWet  = "Wet floor: slips, and mains leads kept out of it behind a residual-current device."
	cautionPool = "Empty pool: falls, access, air and uplift by ground water; a permit or an engineer may be required, " +
		"and confined-space rules where they apply (29 CFR 1926 Subpart AA, from memory)."
	cautionJet = "A jet of water cuts skin and drives water into walls and joints: never at people, less pressure at " +
		"edges and mains outlets; run-off by local rules."
	cautionStrip = "Strippers burn skin and give off vapour: gloves that resist them, eyes covered, doors open, no " +
		"flame; the label and safety data sheet come first. Test old paint for lead before it is stripped, scraped or " +
		"ground; local rules say who may take it off."
	cautionSolve = "Solvent vapour: no flame, heater, pilot light or grinder sparks near."
	cautionSkin  = "Resin and hardener sensitise the skin: gloves, sleeves, eyes covered."
)

// BetweenCoats is the id of the task that sums up what is sanded between coats.
const BetweenCoats = "between"

// SandPace is the area, m²/h, that one person sands between coats: common practice, no
// source.
const SandPace = 35.0

// Paces and amounts that stand in until a contractor's log has better: common
// practice, no source, but where one is named.
const (
	grindPace  = 11.0   // m²/h one person, floors, two passes at right angles
	wallPace   = 4.0    // m²/h one person, walls
	blastPace  = 28.0   // m²/h
	screenPace = 40.0   // m²/h
	scrubPace  = 25.0   // m²/h one etching pass with its rinses
	vacuumPace = 90.0   // m²/h
	edgePace   = 20.0   // m/h of edge ground by hand
	maskPace   = 30.0   // m/h of tape and caulk
	fillPace   = 0.0012 // m³/h of cracks cut, filled and struck off
	levelPace  = 0.008  // m³/h of holes and low places filled, drawn level and feathered, or of a fillet run
	// m: half a gallon on 500 ft² a pass (handbooks of the trade)
	acidPerArea = measure.Gallon / 2 / (500 * measure.SqFoot)
	rinse       = 0.0015                                  // m: 1.5 L/m² each time
	floodPace   = 60.0                                    // m²/h flooded and vacuumed wet
	jetPace     = 120.0                                   // m²/h by pressure washer, 8 L/min
	jetWater    = 0.004                                   // m: 8 L/min at that pace
	stripPace   = 6.0                                     // m²/h scraped bare
	gelFilm     = 0.0005                                  // m: 2 m²/L
	neutral     = 0.0003                                  // m of 1 : 20 ammonia water
	citricPerL  = measure.Pound / (2 * measure.Gallon)    // kg/m³: 1 lb in 2 US gal
	citricFilm  = measure.Gallon / (100 * measure.SqFoot) // m of the solution
	overnight   = 16 * measure.Hour
)

// compared are the schools whose other answers are shown beside a preparation.
func compared(k school.Key) bool {
	switch k {
	case school.KeyOpening, school.KeyFiller, school.KeyLevelling, school.KeyBetween, school.KeyOldPaint:
		return true
	}
	return false
}

// Prepare orders the preparation of a surface from its survey and the
// contractor's schools.
func Prepare(s Survey, g Extent, m school.Methods, verdicts []Verdict) Preparation {
	questions := school.Questions()
	m = m.FilledFrom(questions)
	p := prepare(s, g, m, verdicts)
	for _, q := range questions {
		if !compared(q.ID) {
			continue
		}
		for _, choice := range q.Choices {
			if q.Chosen(m) == choice.Value {
				continue
			}
			alternative := prepare(s, g, q.With(m, choice.Value), verdicts)
			if alternative.Refused != "" && p.Refused == "" {
				continue
			}
			if slices.EqualFunc(alternative.Tasks, p.Tasks, func(a, b PreparationTask) bool {
				return a.ID == b.ID &&
					a.Work == b.Work && a.How == b.How
			}) {
				continue
			}
			p.Others = append(p.Others, Other{
				School: q.ID, Title: q.Title, Choice: choice,
				Work: alternative.Work, Drying: alternative.Drying, Days: alternative.Days, Items: alternative.items(),
			})
		}
	}
	return p
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
	extent  Extent
	methods school.Methods
	closed  map[string]bool
	out     Preparation
}

func prepare(s Survey, g Extent, m school.Methods, verdicts []Verdict) Preparation {
	p := planner{Survey: s, extent: g, methods: m, closed: make(map[string]bool),
		out: Preparation{Tasks: []PreparationTask{}, Others: []Other{}}}
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
	p.changed()
	for _, t := range p.out.Tasks {
		p.out.Work += t.Work
		p.out.Drying += t.Drying
	}
	p.out.Days = float64(p.out.Work)/float64(max(1, g.People))/(8*measure.Hour) +
		math.Ceil(float64(p.out.Drying)/float64(overnight)*0.999)*2/3
	return p.out
}

// allowed refuses a school that the surface does not bear.
func (p *planner) allowed() {
	etches := func(o school.Opening) bool { return o == school.Etch }
	if p.methods.Opening != school.Etch && !slices.ContainsFunc(p.Also, etches) {
		return
	}
	mineral := judge{Survey: p.Survey}
	why := ""
	switch {
	case (p.extent.Pool || p.Substrate == Plaster) && !p.methods.AcidInPool:
		why = "Your rule refuses acid in pools and on plaster: it soaks in, must be neutralised completely, and stains " +
			"the paint"
	case p.Substrate != "" && !mineral.mineral():
		why = "Acid opens mineral surfaces only"
	case p.KeepSealed:
		why = "A surface that stays sealed is abraded, not etched"
	case slices.Contains(p.Contamination, "sealer"), slices.Contains(p.Contamination, "curing-compound"),
		p.Substrate == OldCoating:
		why = "Etching does not work through sealer, curing compound or paint"
	default:
		return
	}
	p.Also = slices.DeleteFunc(slices.Clone(p.Also), etches)
	p.out.Refused = why + ". It is not etched."
	if p.methods.Opening == school.Etch {
		p.methods.Opening = school.Grind
		p.out.Refused = why + ". Grinding is planned instead."
	}
}

func (p *planner) add(t PreparationTask) {
	if t.Items == nil {
		t.Items = []Supply{}
	}
	if t.Cautions == nil {
		t.Cautions = []string{}
	}
	if p.extent.Pool {
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
		p.add(PreparationTask{ID: "relieve", Name: "Relieve and drain the water behind",
			How: "Find its way; drain or drill relief holes, and plug them after the work", Drying: 3 * overnight,
			Check:    "Dry behind, and dry under a sheet after 16 h",
			Cautions: []string{"A drained shell can float: an engineer decides."}})
	}
	p.add(PreparationTask{ID: "protect", Name: "Protect what is near",
		How:   "Cover fittings, drains and furniture nearby; keep people and pets out; take doors off where they drag",
		Items: []Supply{{"Cover sheet", measure.KindArea, 2 * float64(p.extent.Perimeter)}},
		Work:  hours(float64(p.extent.Perimeter), 60), Check: "Nothing within two metres is uncovered"})
	if p.Outdoors {
		p.add(PreparationTask{ID: "outdoors", Name: "Keep water and leaves off",
			How: "Sprinklers off for a day before and after, wind-break and cover ready", Work: measure.Hour,
			Check: "No rain in the forecast until a day after the last coat"})
	}
}

// clean takes off what keeps a coat from holding.
func (p *planner) clean() {
	area := float64(p.extent.Area)
	for _, c := range p.Contamination {
		switch c {
		case "oil", "wax":
			p.add(PreparationTask{ID: "degrease", Name: "Degrease", How: "Degreaser, scrub, rinse twice, vacuum wet", Wet: true,
				Drying: overnight,
				Items:  []Supply{volume("Degreaser", 0.0001*area), p.rinseWater(2 * area)}, Work: hours(area, scrubPace),
				Check: "A drop of water soaks in", Cautions: []string{cautionWet}})
		case "loose-paint":
			p.add(PreparationTask{ID: "scrape", Name: "Remove loose paint", How: "Scrape to a sound edge, feather it",
				Work: hours(area, 15), Check: "A taped cross-cut holds", Cautions: []string{cautionDust}})
		case "salts":
			p.add(PreparationTask{ID: "brush", Name: "Brush off salts", How: "Dry brush and vacuum; no water",
				Work: hours(area, 40), Check: "None come back in a week"})
		}
	}
	p.add(PreparationTask{ID: "walls", Name: "Clean walls and ceilings first",
		How: "Vacuum what could fall onto the wet film", Work: hours(float64(p.extent.Perimeter), 60),
		Check: "A dark cloth stays clean"})
}

// open gives the profile.
func (p *planner) open() {
	if p.extent.Top || p.Substrate == Timber || p.Substrate == Board || p.Substrate == Laminate || p.Substrate == Metal {
		area := float64(p.extent.Area)
		p.add(PreparationTask{ID: "sand", Name: "Sand the surface",
			How: "120 grit, with the grain where there is one; then wipe", Items: []Supply{pieces("Sanding discs, 120", area/4)},
			Work:  hours(area, 8),
			Check: "No gloss left anywhere, edges included", Cautions: []string{cautionDust, cautionSolve}})
		return
	}
	over := p.Substrate == OldCoating && p.methods.OldPaint == school.CoatOver
	if over || p.KeepSealed {
		area := float64(p.extent.Area)
		name := "Break the gloss of the sealed surface"
		if over {
			name = "Break the gloss of the old coating"
		}
		p.add(PreparationTask{ID: "abrade", Name: name,
			How: "60 grit, two passes at right angles", Items: []Supply{pieces("Screens, 60", area/40)},
			Work:  hours(area, screenPace),
			Check: "No gloss left; a taped cross-cut holds", Cautions: []string{cautionDust}})
		p.vacuum("vacuum")
		p.panel()
		return
	}
	if p.Substrate == OldCoating && p.methods.OldPaint == school.StripGel {
		p.strip()
	}
	for _, before := range p.Also {
		if before == p.methods.Opening {
			continue
		}
		if p.openBy(before); before != school.Etch {
			p.vacuum("vacuum-" + string(before))
		}
	}
	if p.openBy(p.methods.Opening); p.methods.Opening != school.Etch {
		p.vacuum("vacuum")
	}
}

// panel tries the coats where they hold by abrading alone, before the whole surface is laid.
func (p *planner) panel() {
	p.add(PreparationTask{ID: "panel", Name: "Lay a test panel",
		How: "1 m² of the first coat where the surface looks worst, laid and cured as the floor will be; then a taped " +
			"cross-cut (ASTM D3359) or pull-off (ASTM D7234)",
		Work: measure.Hour, Drying: 2 * overnight,
		Check: "It tears in the old layer or not at all; where it comes off clean, the surface is opened after all"})
}

// strip takes an old coating off with a gel.
func (p *planner) strip() {
	area := float64(p.extent.Area)
	p.add(PreparationTask{ID: "strip", Name: "Strip the old coating", Wet: true,
		How: "Lay the gel on thick, out of sun and draught, and leave it as its label says; try it with a scraper; scrape " +
			"into a lined bucket, a second coat of gel where it sticks; wash off as the label says",
		Items: []Supply{volume("Gel stripper", gelFilm*area), p.rinseWater(area)},
		Work:  hours(area, stripPace), Drying: overnight,
		Check: "Bare everywhere, and a drop of water soaks in", Cautions: []string{cautionStrip, cautionWet}})
}

// rinseWater returns what one rinse takes.
func (p *planner) rinseWater(area float64) Supply {
	if p.Washer {
		return volume("Water", jetWater*area)
	}
	return volume("Water", rinse*area)
}

// rinsed completes a task that is rinsed: how, how long, and with what caution.
func (p *planner) rinsed(t PreparationTask, area float64) PreparationTask {
	t.Wet = true
	t.Items = append(t.Items, p.rinseWater(area))
	if p.Washer {
		t.How = strings.ReplaceAll(t.How, "Flood, vacuum wet", "Pressure washer, fan nozzle, even passes towards the "+
			"drain; vacuum wet what stays")
		t.Work, t.Cautions = hours(area, jetPace), append(t.Cautions, cautionJet)
		return t
	}
	t.Work = hours(area, floodPace)
	return t
}

// openBy opens the surface in one way.
func (p *planner) openBy(way school.Opening) {
	upright := float64(p.extent.Upright)
	flat := math.Max(0, float64(p.extent.Area)-upright)
	switch way {
	case school.Etch:
		p.etch(flat + upright)
	case school.ShotBlast:
		p.add(PreparationTask{ID: "shot-blast", Name: "Shot-blast", How: "One pass, overlapping; edges ground by hand",
			Items: []Supply{{"Shot", measure.KindMass, 0.15 * flat}, pieces(Discs, float64(p.extent.Perimeter)/400)},
			Work:  hours(flat, blastPace) + hours(upright, wallPace) + hours(float64(p.extent.Perimeter), edgePace),
			Check: "The required profile against the chips, no tracks", Cautions: []string{cautionDust}})
	case school.Screen:
		p.add(PreparationTask{ID: "screen", Name: "Screen", How: "60 to 80 grit, two passes at right angles",
			Items: []Supply{pieces("Screens, 60 to 80", flat/40)},
			Work:  hours(flat, screenPace) + hours(upright, wallPace), Check: "A drop of water soaks in everywhere",
			Cautions: []string{cautionDust}})
	default:
		p.add(PreparationTask{ID: "grind", Name: "Grind",
			How:   "Diamond cups, 30 to 40 grit (P16-class discs in a pool), two passes at right angles; edges by hand",
			Items: []Supply{pieces(Discs, (flat+2*upright)/250)}, Work: hours(flat, grindPace) +
				hours(upright, wallPace) + hours(float64(p.extent.Perimeter), edgePace),
			Check:    "The required profile against the chips, edges included, and a drop of water soaks in",
			Cautions: []string{cautionDust}})
	}
}

func (p *planner) vacuum(id string) {
	p.add(PreparationTask{ID: id, Like: "vacuum", Name: "Vacuum", How: "HEPA vacuum, edges by hand; no blowing",
		Items: []Supply{pieces("Vacuum bags", float64(p.extent.Area)/120)}, Work: hours(float64(p.extent.Area), vacuumPace),
		Check: "A dark cloth stays clean"})
}

// etch goes through its steps in safe order.
func (p *planner) etch(area float64) {
	p.add(PreparationTask{ID: "wet", Name: "Wet the floor",
		How: "Damp all over, no puddles; keep it wet until it is rinsed", Wet: true,
		Items: []Supply{volume("Water", rinse/3*area)}, Work: hours(area, 200), Check: "Evenly dark",
		Cautions: []string{cautionWet}})
	etch := PreparationTask{ID: "etch", Name: "Etch", Wet: true, Work: hours(area, scrubPace),
		Check: "It fizzes everywhere, then no more", Cautions: []string{cautionAcid, cautionWet}}
	if p.methods.Acid == school.Citric {
		water := citricFilm * area
		etch.How = "Water into the bucket first, then the citric acid; pour in circles, scrub, keep it wet"
		etch.Items = []Supply{volume("Water, first into the bucket", water),
			{"Citric acid", measure.KindMass, citricPerL * water}}
	} else {
		acid := acidPerArea * area
		water := p.extent.strength("acid-water")
		etch.How = fmt.Sprintf("%.3g parts of water into the bucket first, then 1 of muriatic acid; pour in circles, "+
			"scrub, keep it wet; a second pass where it did not fizz", water)
		etch.Items = []Supply{volume("Water, first into the bucket", water*acid),
			volume("Muriatic acid, into the water", acid)}
	}
	p.add(etch)
	p.add(p.rinsed(PreparationTask{ID: "rinse", Name: "Rinse", How: "Flood, vacuum wet", Check: "The rinse runs clear",
		Cautions: []string{cautionWet}}, area))
	water := p.extent.strength("neutraliser-water")
	p.add(PreparationTask{ID: "neutralise", Name: "Neutralise",
		How: fmt.Sprintf("1 part of household ammonia in %.3g of water, scrub", water), Wet: true,
		Items: []Supply{volume("Ammonia", neutral*area/(1+water)), volume("Water", neutral*area*water/(1+water))},
		Work:  hours(area, 80), Check: "No fizzing left", Cautions: []string{cautionMix}})
	p.add(p.rinsed(PreparationTask{ID: "rinse-again", Name: "Rinse again and dry",
		How: "Flood, vacuum wet, then leave it with the doors open", Drying: overnight,
		Check:    "pH in range (ASTM D4262), it feels like coarse-to-medium paper, and the moisture test is passed again",
		Cautions: []string{cautionWet}}, area))
}

// mask ends the preparation.
func (p *planner) mask() {
	run := float64(p.extent.Perimeter)
	if run <= 0 {
		return
	}
	const overlap = 1.1
	items := []Supply{{Tape, measure.KindLength, overlap * run}}
	how := "Tape along the edges"
	if !p.extent.Top && !p.extent.Pool {
		items = append(items, pieces(Caulk, run/12))
		how = "Tape walls, caulk the perimeter so that resin does not run under them; stop line under the closed door: " +
			"shut it and mark both faces"
		if p.methods.Doors == school.BeyondDoor {
			how = "Tape walls, caulk the perimeter so that resin does not run under them; stop line beyond the door leaf, " +
				"square to the frame"
		}
	}
	if p.extent.Doors > 0 {
		items = append(items, Supply{DoorStrip, measure.KindLength, float64(p.extent.Doors)})
		how += "; a release strip as a dam in doorways"
	}
	if p.extent.Top {
		items = append(items, Supply{"Sheet below, against drips", measure.KindArea, 2 * float64(p.extent.Area)})
	}
	p.add(PreparationTask{ID: "mask", Name: "Mask and dam", How: how, Items: items, Work: hours(run, maskPace),
		Check: "No gap that lets light through"})
}

// between is the sanding from coat to coat: of every coat where that is the
// school, else of those that are planned to be abraded.
func (p *planner) between() {
	times := float64(p.extent.Abraded)
	if p.methods.Between == school.SandEvery {
		times = float64(p.extent.Coats - 1)
	}
	if times < 1 {
		return
	}
	grit := "100 grit"
	switch {
	case len(p.extent.Grits) > 0:
		named := make([]string, len(p.extent.Grits))
		for i, g := range p.extent.Grits {
			named[i] = fmt.Sprintf("P%d", g)
		}
		grit = strings.Join(named, ", ") + " by the sheets of the coats below"
	case p.extent.Pool:
		grit = "60 grit"
	case p.extent.Top:
		grit = "fine nylon pads, about 220"
	}
	area := float64(p.extent.Area)
	p.add(PreparationTask{ID: BetweenCoats, Name: fmt.Sprintf("Sand between coats, %.0f times", times),
		How:   grit + "; dust off, wipe with solvent only where the product allows",
		Items: []Supply{pieces(Pads, times*area/30)}, Work: hours(times*area, SandPace),
		Drying: measure.Span(times) * overnight,
		Check:  "No gloss anywhere: mark on the plan what is done", Cautions: []string{cautionDust, cautionSolve}})
}
