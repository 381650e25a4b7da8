package buildup

import (
	"time"

	"nephelon/core/finding"
)

// OpeningHours holds in which hours of the day the first kit of a coat is opened, by the clock on site.
type OpeningHours struct {
	From    string `json:"from,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"Earliest time at which the first kit is opened; hours that run over midnight begin in the evening"`
	Until   string `json:"until,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"Latest time at which the first kit is opened"`
	Shade   bool   `json:"shade,omitempty" doc:"Only while the sun is off it, by the forecast"`
	Falling bool   `json:"falling,omitempty" doc:"Only while the slab cools, by the forecast, so that pores do not blow"`
}

// Any reports whether they say anything.
func (o *OpeningHours) Any() bool { return o != nil && *o != OpeningHours{} }

// On returns the hours as instants on the day of a time, in its zone: from the first to the last at which a kit is
// opened. Hours that run over midnight end on the next day.
func (o OpeningHours) On(day time.Time) (from, until time.Time) {
	at := func(clock string, stands int) time.Time {
		minutes := stands
		if t, err := time.Parse("15:04", clock); err == nil {
			minutes = t.Hour()*60 + t.Minute()
		}
		return time.Date(day.Year(), day.Month(), day.Day(), 0, minutes, 0, 0, day.Location())
	}
	from, until = at(o.From, 0), at(o.Until, 24*60-1)
	if until.Before(from) {
		until = until.AddDate(0, 0, 1)
	}
	return from, until
}

// checkHours names what the hours of a coat cannot be.
func (c Coat) checkHours(path refusing) *finding.Finding {
	if !c.Hours.Any() {
		return nil
	}
	if c.OverWet {
		return path.refuse("/hours", "It is poured over the coat below while that still flows: it has no hours of its own.",
			"Give the hours to the coat below.")
	}
	for _, own := range [...]struct{ field, clock string }{{"/from", c.Hours.From}, {"/until", c.Hours.Until}} {
		if _, err := time.Parse("15:04", own.clock); own.clock != "" && err != nil {
			return path.refuse("/hours"+own.field, "“"+own.clock+"” is not a time of day.", "Write it like 07:00.")
		}
	}
	if c.Hours.From != "" && c.Hours.From == c.Hours.Until {
		return path.refuse("/hours/until", "The hours begin and end at the same minute.",
			"Enter a later end, or leave it out.")
	}
	return nil
}
