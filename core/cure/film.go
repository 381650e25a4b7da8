package cure

import (
	"math"

	"nephelon/core/measure"
)

// Passage holds how a film passes a stage while its temperature changes hour by
// hour. Progress adds up: the stage is reached when ∫ dt / t(T(t)) comes to 1,
// with t the time that it takes at a steady temperature. Between the hours the
// temperature runs straight; before the first it is the first, and after the last
// the mean of the last day.
type Passage struct {
	rate   Rate
	hourly []float64 // °C
	speeds []float64 // progress of a second at the hours known so far
	sum    []float64 // progress from the first hour to each known so far
	later  float64   // °C after the last
}

// Along is the passage along temperatures an hour apart. There is one at least.
func (r Rate) Along(hourly []measure.Temperature) *Passage {
	p := &Passage{rate: r, hourly: make([]float64, len(hourly)), sum: make([]float64, 1, len(hourly))}
	day := hourly[max(0, len(hourly)-24):]
	for _, t := range day {
		p.later += float64(t) / float64(len(day))
	}
	for i, t := range hourly {
		p.hourly[i] = float64(t)
	}
	p.speeds = append(make([]float64, 0, len(hourly)), p.speed(p.hourly[0]))
	return p
}

// known adds up to an hour.
func (p *Passage) known(hour int) {
	for i := len(p.sum); i <= hour; i++ {
		p.speeds = append(p.speeds, p.speed(p.hourly[i]))
		middle := p.speed((p.hourly[i-1] + p.hourly[i]) / 2)
		p.sum = append(p.sum, p.sum[i-1]+(p.speeds[i-1]+4*middle+p.speeds[i])*measure.Hour/6)
	}
}

// speed is the progress of one second at a temperature.
func (p *Passage) speed(at float64) float64 {
	t, _ := p.rate.Time(measure.Temperature(at))
	return 1 / float64(t)
}

// within is the progress from the start of an hour to some seconds into it, by
// Simpson's rule.
func (p *Passage) within(hour int, seconds float64) float64 {
	return (p.speeds[hour] + 4*p.speed(p.during(hour, seconds/2)) + p.speed(p.during(hour, seconds))) * seconds / 6
}

// during is the temperature some seconds into an hour.
func (p *Passage) during(hour int, seconds float64) float64 {
	return p.hourly[hour] + (p.hourly[hour+1]-p.hourly[hour])*seconds/measure.Hour
}

// At is the temperature at seconds after the first hour.
func (p *Passage) At(since measure.Span) measure.Temperature {
	s := float64(since)
	last := len(p.hourly) - 1
	switch {
	case s <= 0:
		return measure.Temperature(p.hourly[0])
	case s >= float64(last)*measure.Hour:
		return measure.Temperature(p.later)
	}
	hour := int(s / measure.Hour)
	return measure.Temperature(p.during(hour, s-float64(hour)*measure.Hour))
}

// passed is the progress from the first hour to seconds after it.
func (p *Passage) passed(s float64) float64 {
	last := len(p.hourly) - 1
	end := float64(last) * measure.Hour
	switch {
	case s <= 0:
		return s * p.speed(p.hourly[0])
	case s >= end:
		p.known(last)
		return p.sum[last] + (s-end)*p.speed(p.later)
	}
	hour := int(s / measure.Hour)
	p.known(hour)
	return p.sum[hour] + p.within(hour, s-float64(hour)*measure.Hour)
}

// Reach returns how long after a start, told in seconds from the first hour, the
// stage is reached. Outside says that the film was colder or warmer than the
// sheet's points on the way, beyond that the way leads out of the hours known.
func (p *Passage) Reach(start measure.Span) (after measure.Span, outside, beyond bool) {
	s, last := float64(start), len(p.hourly)-1
	goal, end := p.passed(s)+1, float64(last)*measure.Hour
	var at float64
	if goal <= 0 {
		at = goal / p.speed(p.hourly[0])
	} else {
		hour := 0
		for p.known(hour); hour < last && p.sum[hour] < goal; p.known(hour) {
			hour++
		}
		switch {
		case p.sum[hour] < goal:
			at = end + (goal-p.sum[hour])/p.speed(p.later)
		case hour > 0:
			at = p.inside(hour-1, goal-p.sum[hour-1])
		}
	}
	outside = p.rate.outside(float64(p.At(start))) || p.rate.outside(float64(p.At(measure.Span(at))))
	for hour := max(0, int(math.Ceil(s/measure.Hour))); !outside && hour <= last &&
		float64(hour)*measure.Hour < at; hour++ {
		outside = p.rate.outside(p.hourly[hour])
	}
	return measure.Span(at - s), outside, at > end || s < 0
}

// inside returns when within an hour that progress is made, in seconds from the first
// hour, by Newton on an increasing, nearly straight sum.
func (p *Passage) inside(hour int, progress float64) float64 {
	in := measure.Hour * progress / (p.sum[hour+1] - p.sum[hour])
	for range 5 {
		in -= (p.within(hour, in) - progress) / p.speed(p.during(hour, in))
		in = math.Max(0, math.Min(measure.Hour, in))
	}
	return float64(hour)*measure.Hour + in
}
