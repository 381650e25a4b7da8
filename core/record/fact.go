package record

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"

	"nephelon/core/climate"
	"nephelon/core/measure"
	"nephelon/core/record/fact"
)

// facts are all that the record knows of a day. What it does not know is left out.
func facts(i *Issue, d *Day, units measure.System) []fact.Fact {
	all := []fact.Fact{}
	for n := range i.Coats {
		f := finder{issue: i, plan: &i.Coats[n], day: &d.Coats[n], whole: d, units: units}
		if f.day.Begun == nil {
			continue
		}
		f.coat()
		for k := range f.plan.Batches {
			f.batch(k)
		}
		all = append(all, f.out...)
	}
	return all
}

// finder finds the facts of a coat.
type finder struct {
	issue *Issue
	plan  *Coat
	day   *CoatDay
	whole *Day
	units measure.System
	out   []fact.Fact
}

func (f *finder) say(key fact.Key, batch int, so bool, by float64, text string, args ...any) {
	f.out = append(f.out, fact.Fact{Key: key, Coat: f.plan.ID, Batch: batch, So: so, By: by, Text: fmt.Sprintf(text,
		args...)})
}

// batch returns what is known of a batch.
func (f *finder) batch(k int) {
	b, plan := &f.day.Batches[k], &f.plan.Batches[k]
	if len(b.Lost) > 0 {
		f.say(fact.HotBucket, b.Number, true, float64(len(b.Lost)), "Batch %d: a bucket was lost at %s%s.", b.Number,
			f.clock(b.Lost[0].At), because(b.Lost[0].Text))
	}
	if b.Began == nil {
		return
	}
	if b.Ratio != nil {
		off := math.Abs(float64(b.Ratio.Off))
		const good = 0.02 // as the verdict has it
		f.say(fact.OffRatio, b.Number, off > good, off/good-1, "Batch %d: ratio %s off as weighed.", b.Number,
			f.units.Fraction(measure.Fraction(off)))
		f.say(fact.MuchHardener, b.Number, float64(b.Ratio.Off) < -good, off/good-1, "Batch %d: %s as weighed.", b.Number,
			sided(b.Ratio.Off, f.units))
	}
	if took, short, known := b.stirred(plan); known {
		hands := plan.Card.Stirred().Hands()
		f.say(fact.UnderMixed, b.Number, short, float64(hands/max(took, 1))-1, "Batch %d: mixed for %s of %s.", b.Number,
			f.units.Span(took), f.units.Span(hands))
		most := plan.Card.MixedAtMost()
		if most <= 0 {
			most = 2 * hands // common practice, no source
		}
		f.say(fact.OverMixed, b.Number, took > most, float64(took/most)-1, "Batch %d: mixed for %s, at most %s are wanted.",
			b.Number,
			f.units.Span(took), f.units.Span(most))
	}
	if b.UseBy != nil && b.Poured != nil {
		// The pail is empty once it is poured out, or, drawn from it, once it is spread.
		over := between(*b.UseBy, b.Due.Empty)
		if over > 0 {
			f.say(fact.PouredLate, b.Number, true, float64(over/b.Life), "Batch %d: out of the pail %s after its pot life.",
				b.Number,
				f.units.Span(over))
		} else {
			f.say(fact.PouredLate, b.Number, false, 0, "Batch %d: out of the pail %s before the end of its pot life.", b.Number,
				f.units.Span(-over))
		}
	}
	if b.Mixed != nil && b.Poured != nil && plan.Card.PotLife > 0 {
		stood := between(*b.Mixed, *b.Poured) - plan.Card.Induction
		f.say(fact.Stood, b.Number, stood > callShare*b.Life, float64(stood/max(b.Life, 1)),
			"Batch %d: it stood %s in the pail once mixed.", b.Number, f.units.Span(max(0, stood)))
	}
	if b.Rolled != nil && b.Poured != nil {
		took, wanted := between(*b.Poured, *b.Rolled), plan.Passage.Done-plan.Passage.Pour
		if wanted > 0 {
			f.say(fact.SlowSection, b.Number, took > 1.5*wanted, float64(took/wanted)-1,
				"Section %d: %s from pour to last stroke, %s were planned.", b.Number, f.units.Span(took),
				f.units.Span(wanted))
		}
	}
	f.joined(k)
	for _, film := range b.Films {
		off := float64(film.Film/f.plan.Wet) - 1
		f.say(fact.ThinFilm, b.Number, off < -filmOff, -off/filmOff, "Section %d: %s wet where %s was planned.", b.Number,
			f.units.Film(film.Film), f.units.Film(f.plan.Wet))
		f.say(fact.ThickFilm, b.Number, off > filmOff, off/filmOff, "Section %d: %s wet where %s was planned.", b.Number,
			f.units.Film(film.Film), f.units.Film(f.plan.Wet))
	}
	if b.Expires != "" {
		day := b.Began.Format(time.DateOnly)
		f.say(fact.ExpiredLot, b.Number, b.Expires < day, 1, "Batch %d: its lot %s on %s.", b.Number,
			map[bool]string{true: "expired", false: "expires"}[b.Expires < day], b.Expires)
	}
}

// joined reports whether a section met its neighbours' edges in time.
func (f *finder) joined(k int) {
	b := &f.day.Batches[k]
	until, known := f.day.joins(f.plan, k)
	at := b.Joined
	if at == nil {
		at = b.Rolled
	}
	if !known || at == nil {
		return
	}
	age := f.plan.Working + between(until, *at)
	f.say(fact.JoinedLate, b.Number, at.After(until), float64(age/f.plan.Working)-1,
		"Section %d: joined when the edge was %s old; it can be worked for %s.", b.Number, f.units.Span(age),
		f.units.Span(f.plan.Working))
}

// coat returns what is known of all of it.
func (f *finder) coat() {
	for _, g := range f.day.Gates {
		key := map[string]fact.Key{"surface": fact.OpenSurface, "dust": fact.OpenDust, "water": fact.OpenWater,
			"forecast": fact.OpenForecast}[g.Key]
		if key == "" {
			continue
		}
		switch {
		case g.Over:
			f.say(key, 0, true, 1, "Gate “%s” was overridden by %s: %s", g.Title, g.By, g.What)
		case !g.Closed:
			f.say(key, 0, true, 1, "Gate “%s” was open when the first pail was poured.", g.Title)
		default:
			f.say(key, 0, false, 0, "Gate “%s” was closed by %s: %s", g.Title, g.By, g.What)
			f.out[len(f.out)-1].Weak = g.What == g.Saw
		}
	}
	for _, s := range f.issue.Surface(f.plan.Surface).Signs {
		f.say(s.Key, 0, s.So, s.By, "Survey: %s", s.Text)
		f.out[len(f.out)-1].Ground = true
	}
	f.lots()
	switch f.plan.Product.Sun {
	case "ambers":
		if f.plan.Last {
			f.say(fact.Ambers, 0, true, 1, "%s is the top coat, and its sheet says that it ambers in daylight.", f.plan.Name)
		}
	case "stable":
		f.say(fact.Ambers, 0, false, 0, "%s is stable in daylight, by its sheet.", f.plan.Name)
	}
	f.weather()
	f.window()
	if least, most, n := f.films(); n > 1 {
		spread := float64(most/least) - 1
		f.say(fact.UnevenFilm, 0, spread > 2*filmOff, spread/(2*filmOff), "Wet films from %s to %s over its sections.",
			f.units.Film(least), f.units.Film(most))
	}
}

// lots reports whether the batches of a coat came from one lot of each part.
func (f *finder) lots() {
	batches, names := make(map[string][]string), []string{}
	for n := range f.day.Batches {
		b := &f.day.Batches[n]
		if lot := strings.Join(b.Lots, " + "); b.Began != nil && strings.Trim(lot, " +") != "" {
			if batches[lot] == nil {
				names = append(names, lot)
			}
			batches[lot] = append(batches[lot], strconv.Itoa(b.Number))
		}
	}
	if len(names) == 1 && len(batches[names[0]]) > 1 {
		f.say(fact.OtherLots, 0, false, 0, "All batches are of lot %s.", names[0])
	}
	if len(names) > 1 {
		words := make([]string, len(names))
		for n, lot := range names {
			words[n] = fmt.Sprintf("%s in batches %s", lot, strings.Join(batches[lot], ", "))
		}
		f.say(fact.OtherLots, 0, true, 1, "Lots differ: %s.", strings.Join(words, "; "))
	}
}

func (f *finder) films() (least, most measure.Film, n int) {
	for _, b := range f.day.Batches {
		for _, film := range b.Films {
			if n == 0 || film.Film < least {
				least = film.Film
			}
			most = max(most, film.Film)
			n++
		}
	}
	return least, most, n
}

// The stretch around a pour whose readings tell of its weather: from an hour before until
// its film is past the touch of damp air; common practice, no source.
const (
	weatherBefore = time.Hour
	weatherAfter  = 24 * time.Hour
)

// nightAfter is the time after a pour from which there must be a reading before a record shows that the
// film met nothing damp or cold: what nobody read overnight nobody knows.
const nightAfter = 6 * time.Hour

// extremes are the readings around a pour that bear on its weather; nil where there are none.
type extremes struct {
	worst, coldest, dampest *Reading
	first, last             *Reading     // of the slab, while it is poured and an hour on
	watched                 [3]time.Time // until when margin, slab and humidity were read
}

// around returns the extremes of the readings of its surface around the pour.
func (f *finder) around() extremes {
	from := f.day.Begun.Add(-weatherBefore)
	until := f.day.Ends.Add(weatherAfter)
	var out extremes
	for n := range f.whole.Readings {
		r := &f.whole.Readings[n]
		if on := f.issue.Coat(r.Coat); r.At.Before(from) || r.At.After(until) || on == nil ||
			on.Surface != f.plan.Surface {
			continue
		}
		for k, read := range [...]bool{r.Margin != nil, r.Slab != nil, r.Humidity != nil} {
			if read {
				out.watched[k] = r.At
			}
		}
		if r.Margin != nil && (out.worst == nil || *r.Margin < *out.worst.Margin) {
			out.worst = r
		}
		if r.Slab != nil && (out.coldest == nil || *r.Slab < *out.coldest.Slab) {
			out.coldest = r
		}
		if r.Humidity != nil && (out.dampest == nil || *r.Humidity > *out.dampest.Humidity) {
			out.dampest = r
		}
		if r.Slab != nil && !r.At.After(f.day.Ends.Add(weatherBefore)) {
			if out.first == nil {
				out.first = r
			}
			out.last = r
		}
	}
	return out
}

// weather adds facts from the readings of its surface around the pour.
func (f *finder) weather() {
	r := f.around()
	limits := f.plan.Limits
	known := func(k int) bool { return !r.watched[k].Before(f.day.Ends.Add(nightAfter)) }
	if r.worst != nil && (*r.worst.Margin < limits.DewMargin || known(0)) {
		f.say(fact.NearDew, 0, *r.worst.Margin < limits.DewMargin,
			float64((limits.DewMargin-*r.worst.Margin)/limits.DewMargin),
			"Slab %s above the dew point at %s; %s are needed.",
			climate.Difference(*r.worst.Margin, f.units), f.clock(r.worst.At), climate.Difference(limits.DewMargin,
				f.units))
	}
	if r.coldest != nil && (*r.coldest.Slab < limits.SlabMin || known(1)) {
		f.say(fact.ColdSlab, 0, *r.coldest.Slab < limits.SlabMin, float64(limits.SlabMin-*r.coldest.Slab)/5,
			"Slab at %s at %s; at least %s is needed.", f.units.Temperature(*r.coldest.Slab), f.clock(r.coldest.At),
			f.units.Temperature(limits.SlabMin))
	}
	if r.dampest != nil && limits.HumidityMax > 0 && (*r.dampest.Humidity > limits.HumidityMax || known(2)) {
		f.say(fact.Damp, 0, *r.dampest.Humidity > limits.HumidityMax, float64(*r.dampest.Humidity/limits.HumidityMax)-1,
			"Air at %s at %s; at most %s is allowed.", f.units.Fraction(*r.dampest.Humidity), f.clock(r.dampest.At),
			f.units.Fraction(limits.HumidityMax))
	}
	if r.first != nil && r.last.At.Sub(r.first.At) >= weatherBefore/2 {
		rise := *r.last.Slab - *r.first.Slab
		words := "fell by " + climate.Difference(-rise, f.units)
		if rise > 0 {
			words = "rose by " + climate.Difference(rise, f.units)
		}
		f.say(fact.Warming, 0, rise > gauged, float64(rise/gauged)-1, "The slab %s from %s to %s, while it was poured.",
			words,
			f.clock(r.first.At), f.clock(r.last.At))
	}
}

// gauged is the accuracy of an infrared gauge, K: a slab that rose by less may not have risen at all.
// Common practice, no source.
const gauged measure.Temperature = 1.5

// window reports whether a coat came on the one below in time.
func (f *finder) window() {
	under := f.issue.below(f.plan)
	if under == nil {
		return
	}
	var below *CoatDay
	for n := range f.whole.Coats {
		if f.whole.Coats[n].ID == under.ID {
			below = &f.whole.Coats[n]
		}
	}
	if below == nil || below.Done == nil {
		return
	}
	for _, s := range below.Stages {
		if s.Comes == nil {
			continue
		}
		begun := *f.day.Begun
		switch s.Stage {
		case "recoatFrom":
			f.say(fact.TooEarly, 0, begun.Before(*s.Comes), float64(between(begun, *s.Comes))/measure.Hour,
				"Coat %d went on at %s; coat %d was ready from %s.", f.plan.Number, f.clock(begun), under.Number,
				f.clock(*s.Comes))
		case "recoatUntil":
			missed := begun.After(*s.Comes)
			if missed && f.day.Abraded != nil && f.day.Abraded.Before(begun) {
				f.say(fact.MissedWindow, 0, false, 0, "Coat %d was past its window and was abraded at %s.", under.Number,
					f.clock(*f.day.Abraded))
				continue
			}
			text := "Coat %d went on at %s, inside the window of coat %d, which closed at %s."
			if missed {
				text = "Coat %d went on at %s; the window of coat %d had closed at %s, and it was not abraded."
			}
			f.say(fact.MissedWindow, 0, missed, float64(between(*s.Comes, begun))/measure.Hour, text, f.plan.Number,
				f.clock(begun),
				under.Number, f.clock(*s.Comes))
		}
	}
}

// clock is a time as the site reads it.
func (f *finder) clock(t time.Time) string { return f.units.Time(Sited(t, f.issue.Zone), "Mon 15:04") }

func because(text string) string {
	if text == "" {
		return ""
	}
	return " (" + text + ")"
}

// sided says on which side a ratio is off.
func sided(off measure.Fraction, units measure.System) string {
	if off < 0 {
		return units.Fraction(-off) + " too much hardener"
	}
	return units.Fraction(off) + " too little hardener"
}
