package survey

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"nephelon/core/climate"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Fit names how a surface stands in one respect.
type Fit string

// The answers, best first.
const (
	FitNow   Fit = "fit"
	Unknown  Fit = "unknown" // nothing says either way yet
	FitAfter Fit = "after"   // once something is done, or time has passed
	Unfit    Fit = "unfit"
)

// Verdict is one respect in which a surface is fit to coat or not, with the
// reading, the threshold and the way out.
type Verdict struct {
	ID       string    `json:"id"`
	Fit      Fit       `json:"fit"`
	Text     string    `json:"text"`
	From     string    `json:"from,omitempty" doc:"Where the threshold comes from"`
	WayOut   string    `json:"wayOut,omitempty"`
	Barrier  bool      `json:"barrier,omitempty" doc:"A moisture barrier under the coats would settle it"`
	Override *Override `json:"override,omitempty" doc:"Who overrides it, and why"`

	// Limit of the reading that it goes by; nil where it goes by something else.
	Limit *Limit `json:"-"`
}

// Closed reports whether the gate of this verdict is shut.
func (v Verdict) Closed() bool { return (v.Fit == FitAfter || v.Fit == Unfit) && v.Override == nil }

// Coats holds what is to go on the surface, as far as the survey needs it.
type Coats struct {
	First       string // the first product, "" while there is none
	Barrier     bool   // it is a moisture barrier
	Seals       bool   // it is a primer or a barrier
	HumidityMax *measure.Sourced[measure.Fraction]
	CarbideMax  *measure.Sourced[measure.Fraction]
	EmissionMax *measure.Sourced[measure.Emission]
	SlabMin     *measure.Sourced[measure.Temperature]
	SlabMax     *measure.Sourced[measure.Temperature]
	Film        measure.Film // of all coats together, dry
	Levels      measure.Film // the thickest film that levels itself, wet; 0 where none does
	Broadcast   bool         // one of them is broadcast to rejection
}

// Scene holds what else bears on a verdict: the time, and the hours to come.
type Scene struct {
	Now   time.Time
	Hours []climate.Judged
	Units measure.System
	// Outline of the surface, which names where a reading was taken.
	Outline geometry.Ring

	Wetted *Wetted // nil where no wet work is over
}

// judge gathers the verdicts on one surface.
type judge struct {
	Survey
	coats Coats
	rules map[RuleID]Rule
	scene Scene
	all   []Verdict
}

// Judge gives the verdicts on a surface, in the order in which they are to be
// dealt with.
func Judge(s Survey, coats Coats, own []Own, scene Scene) []Verdict {
	// A reading that cannot be is told elsewhere and decides nothing.
	s.Readings = slices.DeleteFunc(slices.Clone(s.Readings),
		func(r Reading) bool { return r.Check(scene.Now, scene.Units) != nil })
	left, lost := void(s.Readings, scene.Wetted)
	var before []Verdict
	if len(lost) > 0 {
		dry := scene
		dry.Wetted = nil
		before = Judge(s, coats, own, dry)
	}
	s.Readings = left
	j := judge{Survey: s, coats: coats, rules: Rules(own), scene: scene}
	j.ground()
	j.soundness()
	j.surface()
	j.flatness()
	j.moisture()
	j.chemistry()
	j.material()
	j.temperature()
	j.wetted(lost, before)
	for i := range j.all {
		for k := range s.Overrides {
			if v := &j.all[i]; s.Overrides[k].ID == v.ID && (v.Fit == FitAfter || v.Fit == Unfit) {
				v.Override = &s.Overrides[k]
			}
		}
	}
	return j.all
}

// Overall is the heaviest answer that nobody overrode.
func Overall(all []Verdict) Fit {
	weight := map[Fit]int{FitNow: 0, Unknown: 1, FitAfter: 2, Unfit: 3}
	worst := FitNow
	for _, v := range all {
		if v.Override == nil && weight[v.Fit] > weight[worst] {
			worst = v.Fit
		}
	}
	return worst
}

func (j *judge) say(id string, fit Fit, basis, way, text string, args ...any) *Verdict {
	j.all = append(j.all, Verdict{ID: id, Fit: fit, Text: fmt.Sprintf(text, args...), From: basis, WayOut: way})
	return &j.all[len(j.all)-1]
}

func (j *judge) mineral() bool {
	switch j.Substrate {
	case Concrete, Trowelled, Screed, Plaster, Stone, Tile:
		return true
	}
	return false
}

// ground judges what the surface is made of and how old it is.
func (j *judge) ground() {
	if j.Substrate == "" {
		j.say("substrate", Unknown, "", "Name what is to be coated.", "The substrate is not named yet.")
		return
	}
	if j.Substrate != Concrete && j.Substrate != Trowelled && j.Substrate != Screed {
		return
	}
	rule := j.rules["concrete-age"]
	days := int(math.Round(rule.Value / day))
	laid, err := time.Parse(time.DateOnly, j.Laid)
	switch {
	case j.Laid == "":
		j.say("age", Unknown, rule.From, "Ask for the day it was poured.",
			"Nobody has said how old the concrete is; %d days are required.", days)
	case err != nil:
		j.say("age", Unknown, rule.From, "Write it as year-month-day, such as 2026-09-14.", "“%s” is not a day.", j.Laid)
	default:
		age := int(j.scene.Now.Sub(laid).Hours() / 24)
		switch ready := laid.AddDate(0, 0, days); {
		case age < 0:
			j.say("age", Unknown, rule.From, "Check the day it was poured.",
				"It is said to be poured on %s, which is still to come.", laid.Format("2 January 2006"))
		case age < days:
			j.say("age", FitAfter, rule.From, fmt.Sprintf("Wait until %s.", ready.Format("2 January 2006")),
				"The concrete is %d days old; at least %d are required.", age, days)
		default:
			j.say("age", FitNow, rule.From, "", "The concrete is %d days old; at least %d are required.", age, days)
			j.skin(age)
		}
	}
}

// skin asks for the weak skin of a slab that is still new and that nobody has opened or scratched.
func (j *judge) skin(age int) {
	const fresh = 120 // days, common practice
	if age < fresh && j.Profile == 0 && j.Soundness == "" && !slices.Contains(j.Contamination, "laitance") {
		j.say("skin", Unknown, "common practice",
			"Scratch it with a nail and wipe it with a dark cloth; note laitance where powder stays on the cloth.",
			"A new slab often has a weak skin of cement, salts and curing dust, and nobody has looked for it.")
	}
}

// soundness judges whether the surface carries a coat.
func (j *judge) soundness() {
	if j.Behind == "damp" || j.Behind == "weeping" {
		j.say("behind", Unfit, "common practice",
			"Relieve and drain the water first; have an engineer look at uplift before a pool is emptied.",
			"There is water behind it (%s); no coating holds against it.", j.Behind)
	}
	switch {
	case j.Soundness == "crumbles" && j.Substrate == Plaster:
		j.say("soundness", Unfit, "common practice", "Take it off to sound ground and plaster anew, or do not coat it.",
			"The plaster is soft: a hard coat over it pulls the layer off, millimetres deep.")
	case j.Soundness == "crumbles":
		j.say("soundness", Unfit, "common practice", "Remove it to sound ground, then look again.", "The surface crumbles.")
	case j.Soundness == "scratches":
		j.say("soundness", FitAfter, "common practice", "Grind off the weak skin.",
			"The surface can be scratched with a nail.")
	case j.Soundness == "sound":
		j.say("soundness", FitNow, "common practice", "", "The surface is sound.")
	}
	if r := j.worst(PullOff, func(a, b float64) bool { return a < b }); r != nil {
		l := j.limit(PullOff)
		format := func(v float64) string { return j.scene.Units.Format(measure.KindPressure, v) }
		if r.Value < *l.Least {
			j.say("pull-off", Unfit, l.From, "Remove the weak layer and test again.",
				"It pulls off at %s; at least %s are required.", format(r.Value), format(*l.Least)).Limit = l
		} else {
			j.say("pull-off", FitNow, l.From, "", "It holds %s; at least %s are required.", format(r.Value),
				format(*l.Least))
		}
	}
	ways := map[string]string{
		"oil":             "Degrease, rinse, and test with a drop of water until it soaks in.",
		"dust":            "Vacuum it; blowing puts dust back.",
		"sealer":          "Grind the sealer off; etching does not work through it.",
		"curing-compound": "Grind it off; etching does not work through it.",
		"laitance":        "Grind, blast or etch it off: a coat on this skin comes off with it.",
		"salts":           "Brush them off dry and find the water that brings them.",
		"loose-paint":     "Remove it to a sound edge.",
		"wax":             "Strip it, then grind.",
	}
	for _, c := range j.Contamination {
		if c == "sealer" && j.KeepSealed {
			continue
		}
		j.say("contamination-"+c, FitAfter, "common practice", ways[c], "There is %s on it.", strings.ReplaceAll(c, "-", " "))
	}
}

// WantedProfile is the profile that coats of a total dry film want: ICRI 310.2R, from
// memory.
func WantedProfile(film measure.Film, broadcast bool) (low, high int) {
	switch {
	case broadcast:
		return 4, 6
	case film <= 10*measure.Mil:
		return 1, 3
	case film <= 40*measure.Mil:
		return 3, 5
	}
	return 4, 6
}

// surface judges how open the surface is.
func (j *judge) surface() {
	if j.WaterDrop == "beads" && j.KeepSealed {
		j.sealed()
	} else if j.WaterDrop == "beads" {
		j.say("water-drop", FitAfter, "water-drop test, common practice", "Open it: grind or blast until a drop soaks in.",
			"A drop of water beads up: the surface is sealed or closed.")
	} else if j.WaterDrop == "soaks" {
		j.say("water-drop", FitNow, "water-drop test, common practice", "", "A drop of water soaks in: the surface is open.")
		if j.coats.First != "" && !j.coats.Seals && j.mineral() {
			j.say("pores", FitAfter, "common practice", "Seal it with a primer first, or coat only while the slab cools.",
				"The slab is open and %s goes on it without a primer; as the slab warms it pushes air through the film.",
				j.coats.First)
		}
	}
	if (j.Substrate == Timber || j.Substrate == Board) && j.coats.First != "" && !j.coats.Seals {
		j.say("pores", FitAfter, "common practice",
			"Seal it first: a thin coat of a primer or of the resin itself, left to set, then sanded.",
			"Wood and board breathe out as they warm, and %s goes on without a seal: bubbles come up through the film.",
			j.coats.First)
	}
	if !j.mineral() || j.KeepSealed {
		return
	}
	l := j.profile()
	if l == nil {
		return
	}
	low, high, basis := int(*l.Least), int(*l.Most), l.From
	wanted := fmt.Sprintf("CSP %d to %d", low, high)
	if low == high {
		wanted = fmt.Sprintf("CSP %d", low)
	}
	switch {
	case j.Profile == 0 && j.Substrate == Trowelled:
		j.say("profile", FitAfter, basis, "Grind or blast it.",
			"The slab was trowelled hard, so it is closed; the coats require %s.", wanted)
	case j.Profile == 0:
		j.say("profile", Unknown, basis, "Compare it with the profile chips, or feel it against sandpaper.",
			"The profile has not been looked at; the coats require %s.", wanted)
	case j.Profile < low:
		j.say("profile", FitAfter, basis, "Open it further.", "The profile is CSP %d; the coats require %s.",
			j.Profile, wanted)
	case j.Profile > high:
		j.say("profile", FitAfter, basis, "Fill it with a thicker first coat, or take off the peaks.",
			"The profile is CSP %d; the coats need %s; a rougher profile shows through and uses more material.",
			j.Profile, wanted)
	default:
		j.say("profile", FitNow, basis, "", "The profile is CSP %d; the coats require %s.", j.Profile, wanted)
	}
	j.all[len(j.all)-1].Limit = l
}

// sealed judges a closed surface that is to stay closed: the coats hold by abrading alone, so that is tried first.
func (j *judge) sealed() {
	const basis = "common practice"
	if r := j.worst(PullOff, func(a, b float64) bool { return a < b }); r != nil {
		// Its own verdict tells whether it holds.
		j.say("water-drop", FitNow, basis, "",
			"A drop of water beads up, and the surface is to stay sealed: no pores, so no primer against them.")
		return
	}
	j.say("water-drop", Unknown, basis,
		"Lay a test panel on the abraded surface, and enter its pull-off strength.",
		"A drop of water beads up, and the surface is to stay sealed: the coats hold by the abrading alone.")
}

func more(a, b float64) bool { return a > b }

// moisture judges the water in the slab.
func (j *judge) moisture() {
	seen := false
	if r := j.worst(SlabHumidity, more); r != nil {
		seen = true
		j.humidity(r)
	}
	if r := j.worst(Carbide, more); r != nil {
		seen = true
		j.damp(r, "It holds %s by the carbide method; at most %s is allowed.")
	}
	if r := j.worst(Emission, more); r != nil {
		seen = true
		j.damp(r, "It gives off %s; at most %s are allowed.")
	}
	if r := j.worst(Sheet, more); r != nil {
		seen = true
		if r.Value > 0.5 {
			j.say("plastic-sheet", FitAfter, "ASTM D4263: 16 h, any condensation or darkening fails",
				"Let it dry and test again, or put a moisture barrier under the coats.",
				"The slab darkened or sweated under the sheet.%s",
				j.spots(Sheet, func(v float64) bool { return v > 0.5 })).Barrier = !j.coats.Barrier
		} else {
			j.say("plastic-sheet", FitNow, "ASTM D4263: 16 h, any condensation or darkening fails", "",
				"The slab stayed dry under the sheet.")
		}
	}
	if r := j.latest(Meter); r != nil {
		if r.Scale == "" {
			j.say("moisture-meter", Unknown, "common practice",
				"Note the meter's scale, the place and the hours since the floor was wet.",
				"The hand meter showed %.4g without a scale; a bare number is not a reading.", r.Value)
		} else {
			j.say("moisture-meter", Unknown, "common practice", "Test in the slab before you decide.",
				"The hand meter showed %.4g on its scale %s; it compares places only.", r.Value, r.Scale)
		}
	}
	if !seen && j.mineral() {
		j.say("moisture", Unknown, "common practice",
			"Test it: in-situ humidity, calcium chloride, or a sheet taped down for 16 h.",
			"Nobody has tested the slab for moisture.")
	}
}

// damp judges a reading of moisture by the sheet of the first coat, or by the rule where that does not say. A barrier
// without a limit of its own is made for it.
func (j *judge) damp(r *Reading, text string) {
	l, id := j.limit(r.Kind), string(r.Kind)
	most, basis := *l.Most, l.From
	shown := func(v float64) string { return j.scene.Units.Format(r.Kind.MeasureKind(), v) }
	words := fmt.Sprintf(text, shown(r.Value), shown(most)) + j.spots(r.Kind, func(v float64) bool { return v > most })
	switch {
	case r.Value <= most:
		j.say(id, FitNow, basis, "", "%s", words)
	case j.coats.Barrier && !l.own:
		j.say(id, FitNow, basis, "", "%s The barrier under the coats is made for it; its sheet rules.", words)
	case j.coats.Barrier:
		j.say(id, Unfit, basis, "Find where the water comes from and let the slab dry.",
			"%s Even the barrier, %s, takes no more.", words, j.coats.First)
	default:
		j.say(id, FitAfter, basis, "Put a moisture barrier under the coats, or wait and test again.", "%s",
			words)
		j.all[len(j.all)-1].Barrier = true
	}
	j.all[len(j.all)-1].Limit = l
}

func (j *judge) humidity(r *Reading) {
	l, whose := j.limit(SlabHumidity), "at most"
	if l.own {
		whose = j.coats.First + " takes at most"
	}
	limit, basis := measure.Fraction(*l.Most), l.From
	format := j.scene.Units.Fraction
	value := measure.Fraction(r.Value)
	where := j.spots(SlabHumidity, func(v float64) bool { return v > float64(limit) })
	switch {
	case value <= limit:
		j.say("slab-humidity", FitNow, basis, "", "The slab holds %s of moisture; %s %s.", format(value), whose,
			format(limit))
	case j.coats.Barrier:
		j.say("slab-humidity", Unfit, basis, "Find where the water comes from and let the slab dry.",
			"The slab holds %s of moisture; even the barrier, %s, takes at most %s.%s", format(value), j.coats.First,
			format(limit), where)
	default:
		j.say("slab-humidity", FitAfter, basis, "Put a moisture barrier under the coats, or wait and test again.",
			"The slab holds %s of moisture; %s %s.%s", format(value), whose, format(limit), where).Barrier = true
	}
	j.all[len(j.all)-1].Limit = l
}

// chemistry judges what etching left.
func (j *judge) chemistry() {
	r := j.latest(Acidity)
	if r == nil {
		return
	}
	l, fit, way := j.limit(Acidity), FitNow, ""
	if r.Value < *l.Least || r.Value > *l.Most {
		fit, way = FitAfter, "Neutralise, rinse and test again."
	}
	j.say("ph", fit, l.From, way, "The surface has pH %.1f; %.4g to %.4g are required.", r.Value, *l.Least,
		*l.Most).Limit = l
}

// material judges the warmth of the pails.
func (j *judge) material() {
	r := j.latest(MaterialTemperature)
	if r == nil {
		return
	}
	low, high, basis := Bounds(j.coats, j.rules)
	units, fit, way := j.scene.Units, FitNow, ""
	if t := measure.Temperature(r.Value); t < low || t > high {
		fit, way = FitAfter, "Keep the pails where the work will be for 12 to 18 h before."
	}
	j.say("material-temperature", fit, basis, way, "The material is at %s; %s to %s are required, as of the surface.",
		units.Temperature(measure.Temperature(r.Value)), units.Temperature(low), units.Temperature(high))
}

// temperature judges dew and warmth at the last readings.
func (j *judge) temperature() {
	slab, air, humidity := j.latest(SlabTemperature), j.latest(AirTemperature), j.latest(AirHumidity)
	stale := time.Duration(j.rules["stale"].Value) * time.Second
	if slab == nil || air == nil || humidity == nil {
		j.say("dew-point", Unknown, j.rules["dew-margin"].From, "Read surface, air and humidity where the work begins.",
			"The margin to the dew point is not known: surface temperature, air temperature and humidity are all needed.")
		return
	}
	for _, r := range []*Reading{slab, air, humidity} {
		if age := j.scene.Now.Sub(r.At); age > stale {
			j.say("dew-point", Unknown, j.rules["stale"].From, "Read it again.",
				"The %s was read %.0f h ago; it counts for %.0f h.", r.Kind.Words(), age.Hours(), stale.Hours())
			return
		}
	}
	rule, units := j.rules["dew-margin"], j.scene.Units
	dew := climate.DewPoint(measure.Temperature(air.Value), measure.Fraction(math.Max(0.01, humidity.Value)))
	margin := slab.Value - float64(dew)
	say := func(v float64) string { return climate.Difference(measure.Temperature(v), units) }
	if margin < rule.Value {
		j.say("dew-point", FitAfter, rule.From, j.hoursThatPass(),
			"The surface is at %s, %s above the dew point of %s; at least %s are required.",
			units.Temperature(measure.Temperature(slab.Value)), say(margin), units.Temperature(dew), say(rule.Value))
	} else {
		j.say("dew-point", FitNow, rule.From, "",
			"The surface is at %s, %s above the dew point of %s; at least %s are required.",
			units.Temperature(measure.Temperature(slab.Value)), say(margin), units.Temperature(dew), say(rule.Value))
	}
	j.warmth(measure.Temperature(slab.Value))
}

func (j *judge) warmth(slab measure.Temperature) {
	low, high, basis := Bounds(j.coats, j.rules)
	units := j.scene.Units
	if slab < low || slab > high {
		j.say("slab-temperature", FitAfter, basis, j.hoursThatPass(), "The surface is at %s; %s to %s are required.",
			units.Temperature(slab), units.Temperature(low), units.Temperature(high))
	} else {
		j.say("slab-temperature", FitNow, basis, "", "The surface is at %s; %s to %s are required.", units.Temperature(slab),
			units.Temperature(low), units.Temperature(high))
	}
}

// Bounds are the slab temperatures at which the first coat can go on, and where
// they come from.
func Bounds(c Coats, rules map[RuleID]Rule) (low, high measure.Temperature, basis string) {
	low, high, basis = measure.Temperature(rules["slab-least"].Value), measure.Temperature(rules["slab-most"].Value),
		rules["slab-least"].From
	if c.SlabMin != nil {
		low, basis = c.SlabMin.Value, "sheet of "+c.First
	}
	if c.SlabMax != nil {
		high, basis = c.SlabMax.Value, "sheet of "+c.First
	}
	return low, high, basis
}

// hoursThatPass names the next hours of the forecast in which it is fit.
func (j *judge) hoursThatPass() string {
	for i, h := range j.scene.Hours {
		if h.State != climate.Go || h.At.Before(j.scene.Now) {
			continue
		}
		last := h
		for k := i; k < len(j.scene.Hours) && j.scene.Hours[k].State == climate.Go &&
			j.scene.Hours[k].At.Sub(h.At) < 24*time.Hour; k++ {
			last = j.scene.Hours[k]
		}
		return fmt.Sprintf("By the forecast it passes from %s to %s.", j.scene.Units.Time(h.At, "Mon 15:04"),
			j.scene.Units.Time(last.At.Add(time.Hour), "Mon 15:04"))
	}
	if len(j.scene.Hours) > 0 {
		return "No hour of the forecast passes: warm the room, or dry the air."
	}
	return "Warm the slab or dry the air; a forecast would show the hours that pass."
}

// Values returns all values, in the order in which they are shown.
func (Fit) Values() []Fit {
	return []Fit{FitNow, Unknown, FitAfter, Unfit}
}
