// Package cause ranks what may have gone wrong with a floor by what its record shows for and
// against each cause. Where the record knows nothing, nothing is asserted; it asks instead.
package cause

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"nephelon/core/record"
	"nephelon/core/record/fact"
)

// Symptom is something that is seen on a floor.
type Symptom struct {
	Key    string  `json:"key"`
	Title  string  `json:"title"`
	Causes []Cause `json:"causes" doc:"Causes in the order in which practice suspects them"`
}

// Cause holds why something may be seen, with what of a record speaks for it.
type Cause struct {
	Key    string  `json:"key"`
	Title  string  `json:"title"`
	Prior  float64 `json:"prior" doc:"How likely it is before the record is read, against the others of its symptom"`
	Own    bool    `json:"own,omitempty" doc:"The prior is this house's own"`
	Shows  []Shows `json:"shows" doc:"What of a record bears on it"`
	Ask    string  `json:"ask,omitempty" doc:"What somebody who was there can answer with yes or no; yes speaks for it"`
	Remedy Remedy  `json:"remedy"`
}

// Shows holds how much a fact of a record bears on a cause.
type Shows struct {
	Fact   fact.Key `json:"fact"`
	Weight float64  `json:"weight" doc:"Added where it was so, half of it taken off where the record shows that it was not"`
	Own    bool     `json:"own,omitempty" doc:"It is this house's own"`
}

// Remedy holds what mends it.
type Remedy struct {
	Text  string  `json:"text"`
	Hours float64 `json:"hours" doc:"Person-hours per m², common practice, no source"`
	Again bool    `json:"again" doc:"Another coat goes on it"`
}

// Evidence is a piece that speaks for or against a cause.
type Evidence struct {
	Text   string   `json:"text"`
	Weight float64  `json:"weight" doc:"Above zero speaks for it"`
	Fact   fact.Key `json:"fact,omitempty"`
	Batch  int      `json:"batch,omitempty"`
}

// Ranked is a cause with what speaks for and against it.
type Ranked struct {
	Cause
	Score     float64    `json:"score" doc:"The prior and all evidence added up"`
	Share     float64    `json:"share" doc:"How likely it is among those named, by their scores"`
	Asserted  bool       `json:"asserted" doc:"Something of the record or an answer speaks for it; else it is only what practice suspects"`
	Evidence  []Evidence `json:"evidence" doc:"Weightiest first"`
	PriorText string     `json:"priorText" doc:"What its prior is made of"`
}

// Opinion holds what a record tells of something that is wrong.
type Opinion struct {
	Trouble  record.Trouble `json:"trouble"`
	Title    string         `json:"title"`
	Ranked   []Ranked       `json:"ranked" doc:"Most likely first, asserted or not"`
	Question *Question      `json:"question,omitempty" doc:"What would tell most; absent where nothing is left to ask"`
	Source   string         `json:"source" doc:"Source of the weights"`
}

// Question holds what somebody who was there can answer.
type Question struct {
	Key  string `json:"key" doc:"Key of its cause"`
	Text string `json:"text"`
}

// Past holds what a symptom turned out to be, how often.
type Past struct {
	Symptom string `db:"symptom"`
	Cause   string `db:"cause"`
}

// Own is a weight or a prior as a house has it, in place of common practice.
type Own struct {
	Symptom string   `json:"symptom" minLength:"1" maxLength:"40"`
	Cause   string   `json:"cause" minLength:"1" maxLength:"40"`
	Fact    fact.Key `json:"fact,omitempty" maxLength:"40" doc:"The prior when left out"`
	Value   float64  `json:"value" minimum:"-10" maximum:"10"`
}

// owned is a symptom with what a house has in place of common practice.
func (s Symptom) owned(own []Own) Symptom {
	s.Causes = slices.Clone(s.Causes)
	for n := range s.Causes {
		c := &s.Causes[n]
		c.Shows = slices.Clone(c.Shows)
		for _, o := range own {
			if o.Symptom != s.Key || o.Cause != c.Key {
				continue
			}
			if o.Fact == "" {
				c.Prior, c.Own = o.Value, true
			}
			for k := range c.Shows {
				if c.Shows[k].Fact == o.Fact {
					c.Shows[k].Weight, c.Shows[k].Own = o.Value, true
				}
			}
		}
	}
	return s
}

// answered is the weight that an answer adds, or takes off; against and phrase count so much of what speaks for.
const (
	answered = 2.0
	against  = 0.5
	phrase   = 0.15 // where it rests on a phrase that was touched alone
)

// Judge ranks the causes of something that is wrong. Past are the faults of this company
// that were found out; they correct the priors. Own are the weights it has in place of common practice.
func Judge(t record.Trouble, facts []fact.Fact, past []Past, own []Own) (Opinion, error) {
	at := slices.IndexFunc(Symptoms(), func(s Symptom) bool { return s.Key == t.Seen })
	if at < 0 {
		return Opinion{}, fmt.Errorf("seen: there is no fault named “%s”; take one of the list", t.Seen)
	}
	s := Symptoms()[at].owned(own)
	out := Opinion{Trouble: t, Title: s.Title, Ranked: make([]Ranked, len(s.Causes)), Source: Source}
	for n, c := range s.Causes {
		prior, text := learnt(s, c, past)
		out.Ranked[n] = rank(c, t, facts, prior, text)
	}
	slices.SortStableFunc(out.Ranked, func(a, b Ranked) int { return cmp.Compare(b.Score, a.Score) })
	share(out.Ranked)
	out.Question = ask(out.Ranked, t)
	return out, nil
}

// even holds by how much scores differ where one cause is e times as likely as the other. It is chosen
// so that of made-up cases that are told with four in five, four in five are right.
const even = 0.9

// share gives ranked causes their shares, which add up to 1.
func share(ranked []Ranked) {
	sum := 0.0
	for _, r := range ranked {
		sum += math.Exp(r.Score / even)
	}
	for n := range ranked {
		ranked[n].Share = math.Exp(ranked[n].Score/even) / sum
	}
}

// learnt is the prior of a cause as the past corrects it: what it was so often counts as
// much more as practice expects it less.
func learnt(s Symptom, c Cause, past []Past) (prior float64, text string) {
	all, own, sum := 0, 0, 0.0
	for _, p := range past {
		if p.Symptom == s.Key {
			all++
			if p.Cause == c.Key {
				own++
			}
		}
	}
	for _, o := range s.Causes {
		sum += math.Exp(o.Prior)
	}
	of := "common practice"
	if c.Own {
		of = "this house"
	}
	text = fmt.Sprintf("%.1f, %s", c.Prior, of)
	if all == 0 {
		return c.Prior, text
	}
	// So many cases does practice count for.
	const practice = 4
	share := (practice*math.Exp(c.Prior)/sum + float64(own)) / float64(practice+all)
	prior = math.Log(share * sum)
	return prior, fmt.Sprintf("%.1f: %s has %.1f, and here it was this in %d of %d cases", prior, of, c.Prior, own, all)
}

// rank adds up what speaks for and against a cause.
func rank(c Cause, t record.Trouble, facts []fact.Fact, prior float64, text string) Ranked {
	r := Ranked{Cause: c, Score: prior, Evidence: []Evidence{}, PriorText: text}
	for _, shows := range c.Shows {
		best := -1
		for n, f := range facts {
			if f.Key != shows.Fact || f.Coat != t.Coat || f.Batch != 0 && t.Batch != 0 && f.Batch != t.Batch {
				continue
			}
			// Of several, one that was so rules over all that were not.
			if best < 0 || f.So && (!facts[best].So || f.By > facts[best].By) {
				best = n
			}
		}
		if best < 0 {
			continue
		}
		f := facts[best]
		weight := -against * shows.Weight
		if f.Weak {
			weight = -phrase * shows.Weight
		}
		if f.So {
			weight = shows.Weight * (0.6 + 0.4*math.Min(1, math.Max(0, f.By)))
			r.Asserted = true
		}
		r.Evidence = append(r.Evidence, Evidence{f.Text, weight, f.Key, f.Batch})
		r.Score += weight
	}
	for _, a := range t.Answers {
		if a.Question != c.Key {
			continue
		}
		e := Evidence{Text: fmt.Sprintf("%s Yes, says %s.", c.Ask, a.By), Weight: answered}
		if !a.Yes {
			e = Evidence{Text: fmt.Sprintf("%s No, says %s.", c.Ask, a.By), Weight: -answered}
		}
		r.Asserted = r.Asserted || a.Yes
		r.Evidence = append(r.Evidence, e)
		r.Score += e.Weight
	}
	slices.SortStableFunc(r.Evidence, func(a, b Evidence) int {
		return cmp.Compare(math.Abs(b.Weight),
			math.Abs(a.Weight))
	})
	return r
}

// ask is the question that could change most who ranks first: that of the cause nearest to
// the top on which nobody answered yet.
func ask(ranked []Ranked, t record.Trouble) *Question {
	best, at := math.Inf(-1), -1
	top := ranked[0].Score
	for n, r := range ranked {
		if r.Ask == "" || slices.ContainsFunc(t.Answers, func(a record.Answer) bool { return a.Question == r.Key }) {
			continue
		}
		gains := r.Score + answered - top
		if n == 0 { // a no brings it down to the next
			gains = answered
			if len(ranked) > 1 {
				gains -= r.Score - ranked[1].Score
			}
		}
		if gains > best {
			best, at = gains, n
		}
	}
	if at < 0 {
		return nil
	}
	return &Question{ranked[at].Key, ranked[at].Ask}
}
