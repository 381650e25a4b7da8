package plan

import (
	"fmt"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record/learn"
)

// By names what the figures of coats are planned by.
type By string

// The choices.
const (
	BySheet   By = "sheet"   // the data sheet, and the crew's usual pace
	ByFloors  By = "floors"  // own floors
	ByCareful By = "careful" // of both the one that needs more material or time
)

// Values returns all values, in the order in which they are shown.
func (By) Values() []By { return []By{BySheet, ByFloors, ByCareful} }

// OwnFigure holds a figure of a coat as the sheet gives it and as own floors show it.
type OwnFigure struct {
	Coat    string              `json:"coat" doc:"Surface and number of the coat"`
	Name    string              `json:"name" doc:"Name of the figure"`
	Kind    measure.Kind        `json:"kind"`
	Sheet   *float64            `json:"sheet,omitempty" doc:"SI; absent where the sheet says nothing"`
	Floors  float64             `json:"floors" doc:"SI"`
	Jobs    int                 `json:"jobs" doc:"Number of own jobs that it rests on"`
	Careful By                  `json:"careful" doc:"Which of both is the more careful"`
	Now     float64             `json:"now" doc:"Planned with, SI"`
	ToSheet []finding.PatchStep `json:"toSheet" doc:"Changes of the plan file that plan by the sheet"`
	ToOwn   []finding.PatchStep `json:"toOwn" doc:"Changes that plan by own floors"`
}

// OwnFigures returns the figures of a job's coats that own floors show, from enough jobs to be offered: those of the
// crew that is booked for a coat, else those of all crews.
func OwnFigures(f job.File, made Plan, learnt []learn.Learnt) []OwnFigure {
	all := []OwnFigure{}
	for n, l := range learnt {
		for _, at := range CoatsOf(f, l.Product, l.Method, l.Surface) {
			if !nearest(learnt, n, made.Surfaces[at.Surface].Coats[at.Coat].Booked) {
				continue
			}
			o := own{file: &f, at: at, path: fmt.Sprintf("/job/surfaces/%d/coats/%d", at.Surface, at.Coat),
				coat: &f.Job.Surfaces[at.Surface].Coats[at.Coat], made: &made.Surfaces[at.Surface].Coats[at.Coat]}
			for _, e := range l.Estimates {
				if !e.Offered {
					continue
				}
				if figure, is := o.figure(l, e); is {
					figure.Coat = fmt.Sprintf("%s, coat %d", f.Job.Surfaces[at.Surface].Name, at.Coat+1)
					figure.Jobs = e.Jobs
					all = append(all, figure)
				}
			}
		}
	}
	return all
}

// nearest reports whether of all that own floors show of a product, laid in one way, one entry is the nearest to a
// crew: its own, else that of all crews, else that of the one crew there is.
func nearest(learnt []learn.Learnt, n int, crew string) bool {
	rank := func(l learn.Learnt) int {
		switch l.Crew {
		case crew:
			return 2
		case "":
			return 1
		}
		return 0
	}
	for i, l := range learnt {
		one := learnt[n]
		if l.Product == one.Product && l.Method == one.Method && l.Surface == one.Surface &&
			(rank(l) > rank(one) || rank(l) == rank(one) && i < n) {
			return false
		}
	}
	return true
}

// own is a coat whose figures are compared.
type own struct {
	file *job.File
	at   Place
	path string
	coat *buildup.Coat
	made *CoatPlan
}

// figure compares one figure of a coat; false where the coat does not plan with such a figure.
func (o own) figure(l learn.Learnt, e learn.Estimate) (OwnFigure, bool) {
	switch e.What {
	case learn.Pace:
		return o.pace(float64(l.Pace)), l.Pace > 0
	case learn.Casting:
		return o.casting(float64(l.Throws)), l.Throws > 0 && o.coat.Scatter != nil
	case learn.Loss:
		return o.loss(e.Value), e.Value >= 0 && !o.coat.Amount.Practical() && o.made.Build != nil
	case learn.Covered:
		profile := 0
		if s := o.file.Job.Surfaces[o.at.Surface].Survey; s != nil {
			profile = int(s.Profile)
		}
		for _, p := range l.ByProfile {
			if p.Profile == profile && p.Estimate.Offered {
				e = p.Estimate
			}
		}
		return o.covered(e.Value), o.coat.Amount.Practical() && o.made.Build != nil
	}
	return OwnFigure{}, false
}

func set(path string, value any) []finding.PatchStep {
	return []finding.PatchStep{{Op: "add", Path: path, Value: value}}
}

// drop removes a field where it is there.
func drop(there bool, path string) []finding.PatchStep {
	if !there {
		return []finding.PatchStep{}
	}
	return []finding.PatchStep{{Op: "remove", Path: path}}
}

// careful returns which of two figures needs more.
func careful(sheet, floors float64, moreIsCareful bool) By {
	if (floors > sheet) == moreIsCareful && floors != sheet {
		return ByFloors
	}
	return BySheet
}

func (o own) pace(floors float64) OwnFigure {
	sheet := float64(o.file.Job.Crew.Pace.Value)
	if o.coat.Amount.Basis == buildup.ByStone && o.coat.Pace == nil {
		sheet = float64(o.made.Pace) // trowelled
	}
	return OwnFigure{Name: "pace", Kind: measure.KindPace, Sheet: &sheet, Floors: floors, Now: float64(o.made.Pace),
		Careful: careful(sheet, floors, false), ToSheet: drop(o.coat.Pace != nil, o.path+"/pace"),
		ToOwn: set(o.path+"/pace", measure.Sourced[measure.Pace]{Value: measure.Pace(floors), Source: measure.OwnTest})}
}

func (o own) casting(floors float64) OwnFigure {
	bare := *o.coat.Scatter
	bare.Pace = nil
	sheet := float64(bare.Throws())
	return OwnFigure{Name: "broadcasting pace", Kind: measure.KindMassRate, Sheet: &sheet, Floors: floors,
		Now: float64(o.coat.Scatter.Throws()), Careful: careful(sheet, floors, false),
		ToSheet: drop(o.coat.Scatter.Pace != nil, o.path+"/scatter/pace"),
		ToOwn: set(o.path+"/scatter/pace",
			measure.Sourced[measure.MassRate]{Value: measure.MassRate(floors), Source: measure.OwnTest})}
}

func (o own) loss(floors float64) OwnFigure {
	sheet := float64(material.UsualLoss)
	for _, p := range o.file.Products {
		if p.ID == o.coat.Product && p.Loss != nil {
			sheet = float64(p.Loss.Value)
		}
	}
	return OwnFigure{Name: "loss", Kind: measure.KindFraction, Sheet: &sheet, Floors: floors,
		Now: float64(o.made.Build.Loss.Value), Careful: careful(sheet, floors, true),
		ToSheet: drop(o.coat.Loss != nil, o.path+"/loss"),
		ToOwn: set(o.path+"/loss",
			measure.Sourced[measure.Fraction]{Value: measure.Fraction(floors), Source: measure.OwnTest})}
}

// covered compares what a volume covers in practice. A sheet that prints no practical spread has none.
func (o own) covered(floors float64) OwnFigure {
	out := OwnFigure{Name: "practical spread", Kind: measure.KindSpread, Floors: floors, Now: float64(o.made.Build.Takes),
		Careful: ByFloors, ToSheet: []finding.PatchStep{}}
	amount := func(spread float64) []finding.PatchStep {
		value := o.coat.Amount
		switch value.Basis {
		case buildup.AreaPerKit:
			// What the largest kit covers moves with the spread.
			value.Value *= spread / out.Now
		case buildup.MassPerArea:
			value.Value *= out.Now / spread
		default:
			value.Value = spread
		}
		return set(o.path+"/amount", value)
	}
	out.ToOwn = amount(floors)
	for _, p := range o.file.Products {
		if f := p.Printed; p.ID == o.coat.Product && f != nil && f.Basis == "spread" && f.Figure != "theoretical" {
			sheet := f.Value
			out.Sheet, out.Careful, out.ToSheet = &sheet, careful(sheet, floors, false), amount(sheet)
		}
	}
	return out
}
