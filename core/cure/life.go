package cure

import (
	"fmt"
	"math"
	"slices"

	"nephelon/core/measure"
)

// AssumedMass stands in where a sheet does not print the mass of its pot life:
// from memory of how sheets test, and a plan that rests on it says so.
const AssumedMass measure.Mass = 0.5

// Timed holds how long a mix was found to be usable: by its sheet, or by a batch of
// one's own and a clock.
type Timed struct {
	At     measure.Temperature
	Mass   measure.Mass // in a pail; AssumedMass where it is 0
	Film   measure.Film // spread, in place of a pail
	Lasts  measure.Span
	Source measure.Source
}

// Sheet holds what is known of the life of a mix.
type Sheet struct {
	Timed     []Timed
	Density   measure.Density
	Viscosity measure.Viscosity // of the fresh mix; unknown where it is 0
	Kinetics  Kinetics          // of its chemistry, not yet fitted
}

// Miss holds how the fitted model compares with what was timed.
type Miss struct {
	Timed
	Model measure.Span // before the data are given the last word
}

// Life says how long a mix can be used, whatever the mass and the temperature.
type Life struct {
	Fit    Fit
	Misses []Miss

	sheet   Sheet
	residue []residue
	box     [4]float64 // of the residues: ln kg from and to, °C from and to
	coldest measure.Temperature
	hottest measure.Temperature
}

// residue is the logarithm of what was timed in a pail over the model, and where.
type residue struct{ mass, at, off float64 }

// NewLife fits the kinetics to all that was timed. Between what was timed in
// pails the data have the last word, beyond it the nearest of them.
func NewLife(s Sheet) (Life, error) {
	l := Life{sheet: s}
	l.sheet.Timed = slices.Clone(s.Timed)
	pails := 0
	for i := range l.sheet.Timed {
		t := &l.sheet.Timed[i]
		if t.Film == 0 && t.Mass == 0 {
			t.Mass = AssumedMass
		}
		if t.Film > 0 {
			continue
		}
		if pails == 0 {
			l.coldest, l.hottest = t.At, t.At
		}
		l.coldest, l.hottest = min(l.coldest, t.At), max(l.hottest, t.At)
		pails++
	}
	if pails == 0 {
		return l, fmt.Errorf("its pot life is not known")
	}
	fit, err := fitted(l.sheet)
	if err != nil {
		return l, err
	}
	l.Fit = fit
	l.box = [4]float64{math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)}
	for _, t := range l.sheet.Timed {
		model, err := fit.usable(l.sheet.vessel(t, fit.loss(t)), 20*t.Lasts)
		if err != nil {
			return l, err
		}
		l.Misses = append(l.Misses, Miss{t, model})
		if t.Film > 0 {
			continue
		}
		r := residue{math.Log(float64(t.Mass)), float64(t.At), math.Log(float64(t.Lasts / model))}
		l.residue = append(l.residue, r)
		l.box = [4]float64{math.Min(l.box[0], r.mass), math.Max(l.box[1], r.mass), math.Min(l.box[2], r.at),
			math.Max(l.box[3], r.at)}
	}
	return l, nil
}

// vessel returns what something was timed in: a pail in still air as warm as itself,
// or a film on a slab as warm as itself.
func (s Sheet) vessel(t Timed, loss float64) Vessel {
	return Vessel{Mass: max(t.Mass, AssumedMass), Density: s.Density, Film: t.Film, Loss: loss, Start: t.At,
		Air: t.At}.holding(t.Mass)
}

// holding is the vessel with a mass in it, where one is given.
func (v Vessel) holding(mass measure.Mass) Vessel {
	if mass > 0 {
		v.Mass = mass
	}
	return v
}

// Kinetics are the fitted ones.
func (l Life) Kinetics() Kinetics { return l.Fit.Kinetics }

// correction returns what the data make of the model at a mass and a temperature: the
// mean of their residues, each by the inverse of its distance, so that each comes
// out again and two of them are joined by a straight line. Beyond them it is that
// of the nearest place within.
func (l Life) correction(mass measure.Mass, at measure.Temperature) float64 {
	x := math.Max(l.box[0], math.Min(l.box[1], math.Log(float64(mass))))
	y := math.Max(l.box[2], math.Min(l.box[3], float64(at)))
	sum, weights := 0.0, 0.0
	for _, r := range l.residue {
		// A decade of mass and ten degrees count as equally far.
		distance := math.Hypot((x-r.mass)/math.Ln10, (y-r.at)/10)
		weight := 1 / math.Max(distance, 1e-9)
		sum, weights = sum+weight*r.off, weights+weight
	}
	return math.Exp(sum / weights)
}

// Beyond reports whether a temperature lies outside of what was timed, by more than
// a reading is worth.
func (l Life) Beyond(at measure.Temperature) bool {
	return at < l.coldest-beyondBy || at > l.hottest+beyondBy
}

// beyondBy is within how many K of a timed temperature a mix counts as that warm.
const beyondBy = 0.5

// Of returns how long a mix can be used in a vessel, and whether that lies beyond what
// was timed. Below the coldest it is what the coldest gives: a longer one would
// rest on nothing.
func (l Life) Of(v Vessel) (life measure.Span, beyond bool, err error) {
	capped := v
	if v.Start < l.coldest {
		warmer := l.coldest - v.Start
		capped.Start, capped.Air = l.coldest, v.Air+warmer
	}
	life, err = l.Fit.usable(capped, l.horizon())
	return life * measure.Span(l.correction(v.Mass, capped.Start)), l.Beyond(v.Start), err
}

// horizon returns how long a mix is followed: twenty times the longest that was timed.
func (l Life) horizon() measure.Span {
	longest := measure.Span(0)
	for _, t := range l.sheet.Timed {
		longest = max(longest, t.Lasts)
	}
	return 20 * longest
}

// Pail is a mass of the mix in a bucket that stands somewhere.
func (l Life) Pail(mass measure.Mass, start, air measure.Temperature, standing Standing) Vessel {
	around, loss := standing.around(air)
	return Vessel{Mass: mass, Density: l.sheet.Density, Loss: loss * l.Fit.Loss, Start: start, Air: around,
		Viscosity: l.sheet.Viscosity}
}

// Promised is the pail by which a use-by may be told: no cooling of a mix after A
// met B is counted on, while what is warmer around it shortens its life.
func (l Life) Promised(mass measure.Mass, start, air measure.Temperature, standing Standing) Vessel {
	around, loss := standing.around(air)
	if around <= start+beyondBy {
		around, loss = start, stillAir
	}
	return Vessel{Mass: mass, Density: l.sheet.Density, Loss: loss * l.Fit.Loss, Start: start, Air: around}
}

// Spread is the mix as a film on a slab.
func (l Life) Spread(film measure.Film, start, slab measure.Temperature) Vessel {
	return Vessel{Mass: 1, Density: l.sheet.Density, Film: film, Loss: onSlab * l.Fit.Loss, Start: start, Air: slab}
}

// Aging holds how a mix in a pail ages against a film of it on a slab.
type Aging struct {
	Times float64      `json:"times" doc:"How many times as fast it ages in the pail at first as on the slab; as fast where it is 0"`
	Used  measure.Span `json:"used,omitempty" doc:"s of its film's working time that its pot life uses up; as it begins where left out"`
}

// After returns how much of its film's working time a mix of a pot life has used up after a time in its pail:
// at first as Times says, faster as the pail heats itself, Used by the end of its pot life. The heat comes late:
// by the fourth power of the time, which the model of a pail gives within a tenth.
func (a Aging) After(inPail, life measure.Span) measure.Span {
	times := measure.Span(a.Times)
	if times == 0 {
		times = 1
	}
	aged := times * inPail
	if heated := a.Used - times*life; life > 0 && heated > 0 {
		share := inPail / life
		aged += heated * share * share * share * share
	}
	return aged
}

// Ages returns how a mix ages whose parts and slab are so warm. Cooler than the sheet it counts as its coldest.
func (l Life) Ages(parts, slab measure.Temperature) Aging {
	ends := l.Fit.Kinetics.Ends()
	film := l.Fit.Kinetics.TimeTo(ends, max(slab, l.coldest))
	pail := l.Fit.Kinetics.TimeTo(ends, max(parts, l.coldest))
	return Aging{float64(film / pail), film}
}

// History returns what becomes of a mix, by the clock of the data.
func (l Life) History(v Vessel, until measure.Span) (History, error) {
	by := measure.Span(1)
	if v.Film == 0 {
		by = measure.Span(l.correction(v.Mass, v.Start))
	}
	h, err := run(l.Fit.Kinetics, v, until/by, atTime, quick)
	return h.stretched(by), err
}

// Table is the life of a mix over its mass, at one temperature.
type Table struct {
	Beyond bool      // what was timed
	masses []float64 // ln kg, rising
	lives  []float64 // ln s
}

// Over works out what may be promised over masses from the least to the most, at
// the temperature of the mix and the place it stands.
func (l Life) Over(least, most measure.Mass, start, air measure.Temperature, standing Standing) (Table, error) {
	if least <= 0 || most <= least {
		return Table{}, fmt.Errorf("a table of pot lives needs two masses above zero, the smaller first")
	}
	t := Table{Beyond: l.Beyond(start), masses: l.knots(least, most)}
	t.lives = make([]float64, len(t.masses))
	for i, at := range t.masses {
		life, _, err := l.Of(l.Promised(measure.Mass(math.Exp(at)), start, air, standing))
		if err != nil {
			return Table{}, err
		}
		t.lives[i] = math.Log(float64(life))
	}
	return t, nil
}

// knots returns the masses at which a table is worked out, as ln kg, rising: about two a
// decade from the least to the most, and every mass between them that was timed, so that
// what was timed comes out exactly.
func (l Life) knots(least, most measure.Mass) []float64 {
	const perDecade = 2.2
	low, high := math.Log(float64(least)), math.Log(float64(most))
	steps := max(5, int(math.Ceil((high-low)/math.Ln10*perDecade)))
	all := make([]float64, 0, steps+1+len(l.residue))
	for i := range steps + 1 {
		all = append(all, low+(high-low)*float64(i)/float64(steps))
	}
	for _, r := range l.residue {
		if r.mass > low && r.mass < high {
			all = append(all, r.mass)
		}
	}
	slices.Sort(all)
	return slices.CompactFunc(all, func(a, b float64) bool { return math.Abs(a-b) < 1e-9 })
}

// Life of a mass; beyond the ends of the table it is that of the end.
func (t Table) Life(mass measure.Mass) measure.Span {
	x := math.Log(float64(mass))
	last := len(t.masses) - 1
	switch {
	case x <= t.masses[0]:
		return measure.Span(math.Exp(t.lives[0]))
	case x >= t.masses[last]:
		return measure.Span(math.Exp(t.lives[last]))
	}
	i := 1
	for x > t.masses[i] {
		i++
	}
	share := (x - t.masses[i-1]) / (t.masses[i] - t.masses[i-1])
	return measure.Span(math.Exp(t.lives[i-1] + share*(t.lives[i]-t.lives[i-1])))
}

// Surface is the life of a mix over masses, rising, and temperatures, for a drawing:
// one row for each temperature. The air is as warm as the mix.
func (l Life) Surface(masses []measure.Mass, temperatures []measure.Temperature) ([][]measure.Span, error) {
	rows := make([][]measure.Span, len(temperatures))
	for i, at := range temperatures {
		table, err := l.Over(masses[0], masses[len(masses)-1], at, at, InAir)
		if err != nil {
			return nil, err
		}
		rows[i] = make([]measure.Span, len(masses))
		for j, mass := range masses {
			rows[i][j] = table.Life(mass)
		}
	}
	return rows, nil
}

// Left returns what becomes of a mass that is left in its pail in still air as warm as
// the mix, followed for long enough to see it smoke.
func (l Life) Left(mass measure.Mass, start measure.Temperature) (History, error) {
	v := l.Promised(mass, start, start, InAir)
	life, err := l.Fit.usable(v, l.horizon())
	if err != nil {
		return History{}, err
	}
	return l.History(v, 4*life*measure.Span(l.correction(mass, start)))
}

// stretched is a history whose times are those of the data.
func (h History) stretched(by measure.Span) History {
	for i := range h.Moments {
		h.Moments[i].Time *= by
	}
	for _, at := range []*measure.Span{h.Usable, h.Gel, h.Smokes} {
		if at != nil {
			*at *= by
		}
	}
	h.Peak.Time *= by
	return h
}

// cup is the least mass asked about, kg.
const cup = 0.02

// MayStand is the greatest mass, up to a largest one, that does not smoke while it
// is left in its pail for a time; 0 where even a cup does.
func (l Life) MayStand(span measure.Span, start measure.Temperature, largest measure.Mass) (measure.Mass, error) {
	safe := func(mass measure.Mass) (bool, error) {
		by := measure.Span(l.correction(mass, start))
		h, err := run(l.Fit.Kinetics, l.Promised(mass, start, start, InAir), span/by, atTime, quick)
		return h.Smokes == nil, err
	}
	low, high := math.Log(cup), math.Log(float64(largest))
	if ok, err := safe(largest); ok || err != nil {
		return largest, err
	}
	if ok, err := safe(cup); !ok || err != nil {
		return 0, err
	}
	for range 9 {
		middle := (low + high) / 2
		ok, err := safe(measure.Mass(math.Exp(middle)))
		if err != nil {
			return 0, err
		}
		if ok {
			low = middle
		} else {
			high = middle
		}
	}
	return measure.Mass(math.Exp(low)), nil
}

// DeepestPour is the deepest film, up to a greatest, whose middle stays under a
// temperature when it is poured on a slab; both faces lose heat.
func (l Life) DeepestPour(start, slab measure.Temperature, hottest measure.Temperature,
	greatest measure.Film) (measure.Film, error) {
	peak := func(film measure.Film) (measure.Temperature, error) {
		h, err := run(l.Fit.Kinetics, l.Spread(film, start, slab), l.horizon(), atTime, quick)
		return h.Peak.Temperature, err
	}
	if warm, err := peak(greatest); warm <= hottest || err != nil {
		return greatest, err
	}
	low, high := math.Log(1e-4), math.Log(float64(greatest))
	for range 9 {
		middle := (low + high) / 2
		warm, err := peak(measure.Film(math.Exp(middle)))
		if err != nil {
			return 0, err
		}
		if warm <= hottest {
			low = middle
		} else {
			high = middle
		}
	}
	return measure.Film(math.Exp(low)), nil
}
