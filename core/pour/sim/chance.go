package sim

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"nephelon/core/measure"
)

// Spreads holds how far things depart from the plan: standard deviations of their
// logarithms, and of the temperature in K.
type Spreads struct {
	Pace   float64             `json:"pace" minimum:"0" maximum:"1" doc:"Spread of the crew's pace on the day"`
	Work   float64             `json:"work" minimum:"0" maximum:"1" doc:"Spread of one work on one section"`
	Mixing float64             `json:"mixing" minimum:"0" maximum:"1" doc:"Spread of the mixing of one batch"`
	Life   float64             `json:"life" minimum:"0" maximum:"1" doc:"Spread of pot life and working time"`
	Warmth measure.Temperature `json:"warmth" minimum:"0" maximum:"20" doc:"K, of the parts and the slab"`
}

// UsualSpreads are common practice, no source: a crew's pace differs by some 15 % from
// day to day, one section's work and one mix by 10 %, a lot's life by 10 %, the
// temperature by 1.5 K from what was planned.
func UsualSpreads() Spreads {
	return Spreads{Pace: 0.15, Work: 0.10, Mixing: 0.10, Life: 0.10, Warmth: 1.5}
}

// halves is the warming, K, that halves a pot life: common practice, no source.
const halves = 10

// Odds holds how likely something is, as so many runs of all tell.
type Odds struct {
	Of   float64 `json:"of" doc:"Share of the runs"`
	Low  float64 `json:"low" doc:"Wilson's 95 % interval"`
	High float64 `json:"high"`
}

// Cause is an input that may decide how tight a pour runs.
type Cause string

// The causes.
const (
	ByPace   Cause = "pace"
	ByMixing Cause = "mixing"
	ByLife   Cause = "life"
	ByWarmth Cause = "warmth"
)

// Weight holds how much a cause counts.
type Weight struct {
	Cause Cause   `json:"cause"`
	Share float64 `json:"share" doc:"Share of the variance of the tightest slack, by the square of their correlation"`
}

// Chance holds what may happen to a pour.
type Chance struct {
	Runs  int             `json:"runs"`
	Seed  uint64          `json:"seed"`
	Makes Odds            `json:"makes" doc:"Nothing comes too late"`
	Pail  Odds            `json:"pail" doc:"A batch is lost in its pail"`
	Film  Odds            `json:"film" doc:"A section is not finished while it can be worked"`
	Join  Odds            `json:"join" doc:"An edge has closed before it is joined"`
	Shift Odds            `json:"shift" doc:"The shift ends first"`
	Light Odds            `json:"light" doc:"It is too dark first"`
	Which int             `json:"which,omitempty" doc:"The batch that comes too late most often, from 1"`
	Ends  [3]measure.Span `json:"ends" doc:"s after the first is poured that the last is done: in 5, 50 and 95 of 100 runs not later"`
	Most  []Weight        `json:"most" doc:"What decides how tight it runs, the weightiest first"`
}

// Runs that are asked for at most, and after how many a caller who is gone is noticed.
const (
	MostRuns = 100_000
	between  = 64
)

// wilson is the score interval of Wilson (1927) at 95 %, from memory.
func wilson(hits, runs int) Odds {
	n, p, z := float64(runs), float64(hits)/float64(runs), 1.959963984540054
	middle := (p + z*z/(2*n)) / (1 + z*z/n)
	half := z / (1 + z*z/n) * math.Sqrt(p*(1-p)/n+z*z/(4*n*n))
	odds := Odds{p, max(0, middle-half), min(1, middle+half)}
	if hits == 0 {
		odds.Low = 0 // not what rounding leaves of it
	}
	if hits == runs {
		odds.High = 1
	}
	return odds
}

// Try runs a train many times with what may come otherwise, as it is run best when
// nothing does; each batch is begun on its cue, when so much of another is spread. The
// same seed gives the same odds. Tell, where there is one, hears after some runs how
// many are done. It fails when the context does.
func Try(ctx context.Context, t Train, s Spreads, runs int, seed uint64, tell func(done int)) (Chance, error) {
	e := new(engine)
	as, err := e.settle(t)
	if err != nil {
		return Chance{}, err
	}
	cues := e.cues(as)
	random := rand.New(rand.NewPCG(seed, 0x9e3779b97f4a7c15))
	var v varied
	pace := 1.0
	v.floor = func() float64 { return pace * math.Exp(s.Work*random.NormFloat64()) }
	mixing := 0.0 // of the run, summed
	v.mix = func() float64 {
		off := s.Mixing * random.NormFloat64()
		mixing += off
		return math.Exp(off)
	}
	e.vary = &v
	hits := make(map[Limit]int)
	late := make([]int, len(t.Batches))
	ends := make([]float64, runs)
	var matters correlations
	ok := 0
	for n := range runs {
		if n%between == 0 {
			if err := ctx.Err(); err != nil {
				return Chance{}, fmt.Errorf("try the pour: %w", err)
			}
			if tell != nil {
				tell(n)
			}
		}
		mixing = 0
		slow, lot, warm := s.Pace*random.NormFloat64(), s.Life*random.NormFloat64(), float64(s.Warmth)*random.NormFloat64()
		pace = math.Exp(slow)
		v.life = math.Exp(lot) * math.Exp2(-warm/halves)
		e.run(as, cues)
		var missed [len(limits)]bool
		least := e.tightest(func(m Pinch) {
			if m.Slack < 0 {
				missed[index(m.Limit)] = true
				late[m.Batch-1]++
			}
		})
		for i, m := range missed {
			if m {
				hits[limits[i]]++
			}
		}
		if least >= 0 {
			ok++
		}
		ends[n] = float64(e.ends())
		matters.add(float64(least), slow, mixing, lot, warm)
	}
	c := Chance{Runs: runs, Seed: seed, Makes: wilson(ok, runs), Pail: wilson(hits[OfPail], runs),
		Film: wilson(hits[OfFilm], runs), Join: wilson(hits[OfJoin], runs), Shift: wilson(hits[OfShift], runs),
		Light: wilson(hits[OfLight], runs), Most: matters.weights()}
	most := 0
	for k, n := range late {
		if n > most {
			most, c.Which = n, k+1
		}
	}
	c.Ends = quantiles(ends)
	return c, nil
}

// cues returns when each batch is begun as the engine last ran: when so much was spread of the
// last batch that was poured by then, or so long after the beginning.
func (e *engine) cues(as way) []cue {
	cues := make([]cue, len(e.passages))
	for k := 1; k < len(cues); k++ {
		opened, base := e.open[k], -1
		for j := k - 1; j >= 0 && base < 0; j-- {
			if e.passages[j].Pour <= opened+tiny {
				base = j
			}
		}
		cues[k] = cue{base, opened, -1}
		if base < 0 {
			continue
		}
		seen := e.passages[base]
		cues[k].after -= seen.Pour
		// Who mixes ahead cannot have seen how the section in hand ends.
		if takes := seen.Laid - seen.Pour; takes > 0 && !(as.mixesFirst && base == k-1) {
			cues[k].share = float64(cues[k].after / takes)
		}
	}
	return cues
}

// limits in the order in which runs count them.
var limits = [...]Limit{OfPail, OfFilm, OfJoin, OfShift, OfLight}

func index(l Limit) int { return slices.Index(limits[:], l) }

// quantiles are the 5th, 50th and 95th percentile.
func quantiles(all []float64) [3]measure.Span {
	slices.Sort(all)
	at := func(q float64) measure.Span { return measure.Span(all[int(math.Round(q*float64(len(all)-1)))]) }
	return [3]measure.Span{at(0.05), at(0.5), at(0.95)}
}

// correlations gather how the tightest slack goes with each cause.
type correlations struct {
	n, sum, squares float64
	of              [4]struct{ sum, squares, with float64 }
}

func (c *correlations) add(slack float64, causes ...float64) {
	if math.IsInf(slack, 0) {
		return
	}
	c.n++
	c.sum += slack
	c.squares += slack * slack
	for i, x := range causes {
		c.of[i].sum += x
		c.of[i].squares += x * x
		c.of[i].with += x * slack
	}
}

// weights are the squares of Pearson's correlations, the largest first.
func (c *correlations) weights() []Weight {
	weights := []Weight{}
	for i, cause := range []Cause{ByPace, ByMixing, ByLife, ByWarmth} {
		o := c.of[i]
		own, slack := c.n*o.squares-o.sum*o.sum, c.n*c.squares-c.sum*c.sum
		if own <= 0 || slack <= 0 {
			continue
		}
		both := c.n*o.with - o.sum*c.sum
		weights = append(weights, Weight{cause, both * both / (own * slack)})
	}
	slices.SortStableFunc(weights, func(a, b Weight) int { return cmp.Compare(b.Share, a.Share) })
	return weights
}

// Values returns all values, in the order in which they are shown.
func (Cause) Values() []Cause {
	return []Cause{ByPace, ByMixing, ByLife, ByWarmth}
}
