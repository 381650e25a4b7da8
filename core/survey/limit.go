package survey

import "nephelon/core/measure"

// Limit holds what a reading has to be for its surface to be fit.
type Limit struct {
	Words string // what is read
	Kind  measure.Kind
	Least *float64 // SI; nil where there is none
	Most  *float64
	From  string // where it comes from
	own   bool   // it is the limit of the first coat itself
}

// limit returns what a reading of a kind has to be; none where a kind has no limit.
func (j *judge) limit(kind ReadingKind) *Limit {
	l := Limit{Words: kind.Words(), Kind: kind.MeasureKind()}
	most := func(rule RuleID, own *float64) *Limit {
		value := j.rules[rule].Value
		l.Most, l.From = &value, j.rules[rule].From
		if own != nil {
			l.Most, l.From, l.own = own, "sheet of "+j.coats.First, true
		}
		return &l
	}
	switch kind {
	case PullOff:
		least := j.rules["pull-off"].Value
		l.Least, l.From = &least, j.rules["pull-off"].From
		return &l
	case Acidity:
		least := j.rules["ph-least"].Value
		l.Least = &least
		high := j.rules["ph-most"].Value
		l.Most, l.From = &high, j.rules["ph-least"].From
		return &l
	case SlabHumidity:
		rule := RuleID("slab-humidity")
		if j.coats.Barrier {
			rule = "barrier-humidity"
		}
		return most(rule, given(j.coats.HumidityMax))
	case Carbide:
		return most("carbide", given(j.coats.CarbideMax))
	case Emission:
		return most("emission", given(j.coats.EmissionMax))
	}
	return nil
}

// given returns the value of a limit of a sheet; nil where the sheet has none.
func given[T ~float64](limit *measure.Sourced[T]) *float64 {
	if limit == nil {
		return nil
	}
	value := float64(limit.Value)
	return &value
}

// profile returns what the profile has to be; none while nothing says what goes on it.
func (j *judge) profile() *Limit {
	low, high, from := j.Wanted, j.Wanted, "required by you"
	if j.Wanted == 0 {
		if j.coats.First == "" {
			return nil
		}
		low, high = WantedProfile(j.coats.Film, j.coats.Broadcast)
		from = "ICRI 310.2R by film, from memory"
	}
	least, most := float64(low), float64(high)
	return &Limit{Words: "profile, CSP", Kind: measure.KindNumber, Least: &least, Most: &most, From: from}
}
