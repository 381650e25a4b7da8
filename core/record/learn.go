package record

import (
	"cmp"
	"math"
	"slices"

	"nephelon/core/measure"
)

// Learnt holds what own floors show of how a crew lays a product, against what was planned.
type Learnt struct {
	Product string       `json:"product"`
	Method  string       `json:"method,omitempty" doc:"How it is laid"`
	Crew    string       `json:"crew"`
	Floors  int          `json:"floors" doc:"Number of coats that it rests on"`
	Cases   int          `json:"cases" doc:"From how many sections"`
	Times   float64      `json:"times" doc:"How many times as long as planned the floor took: the mean of the sections' logarithms"`
	Spread  float64      `json:"spread,omitempty" doc:"Standard deviation of the logarithm; left out under two cases"`
	Pace    measure.Pace `json:"pace,omitempty" doc:"m²/s of each, by which it would have been planned right"`
	Lost    float64      `json:"lost,omitempty" doc:"Share of the mass that went in lost buckets"`
	Hot     int          `json:"hot,omitempty" doc:"Buckets that went hot before the end of the life they were told"`
	Lived   float64      `json:"lived,omitempty" doc:"The least share of that life that one of them lived"`
}

// Learn gathers what days show, by product, method and crew, with how many cases; the most cases
// first. It takes nothing over.
func Learn(issues []Issue, days []Day) []Learnt {
	type key struct{ product, method, crew string }
	type sum struct {
		Learnt
		logs         []float64
		paces        float64 // logarithms
		used, wasted float64
	}
	all := make(map[key]*sum)
	for n := range days {
		for c := range days[n].Coats {
			day := &days[n].Coats[c]
			plan := issues[n].Coat(day.ID)
			if plan == nil || day.Begun == nil {
				continue
			}
			k := key{plan.Name, plan.Method, issues[n].To}
			s := all[k]
			if s == nil {
				s = &sum{Learnt: Learnt{Product: k.product, Method: k.method, Crew: k.crew}}
				all[k] = s
			}
			s.used += float64(day.Used.Mass)
			s.wasted += float64(day.Used.Lost)
			before := len(s.logs)
			for b := range day.Batches {
				for _, hot := range day.Batches[b].Hot {
					if s.Hot++; s.Lived == 0 || hot < s.Lived {
						s.Lived = hot
					}
				}
			}
			for b := range day.Batches {
				if one, known := times(&plan.Batches[b], &day.Batches[b]); known {
					s.logs = append(s.logs, math.Log(one))
					s.paces += math.Log(float64(issues[n].Pace) / one)
				}
			}
			if len(s.logs) > before {
				s.Floors++
			}
		}
	}
	out := []Learnt{}
	for _, s := range all {
		if s.Cases = len(s.logs); s.Cases == 0 && s.Hot == 0 {
			continue
		}
		mean, squares := 0.0, 0.0
		for _, l := range s.logs {
			mean += l / float64(s.Cases)
		}
		for _, l := range s.logs {
			squares += (l - mean) * (l - mean)
		}
		if s.Cases > 0 {
			s.Times = math.Exp(mean)
		}
		if s.Cases > 1 {
			s.Spread = math.Sqrt(squares / float64(s.Cases-1))
		}
		if pace := s.paces / float64(s.Cases); s.Cases > 0 && !math.IsInf(pace, 0) {
			s.Pace = measure.Pace(math.Exp(pace))
		}
		if s.used+s.wasted > 0 {
			s.Lost = s.wasted / (s.used + s.wasted)
		}
		out = append(out, s.Learnt)
	}
	slices.SortFunc(out, func(a, b Learnt) int {
		return cmp.Or(cmp.Compare(b.Cases, a.Cases), cmp.Compare(a.Product, b.Product), cmp.Compare(a.Method, b.Method),
			cmp.Compare(a.Crew, b.Crew))
	})
	return out
}
