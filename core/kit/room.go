package kit

import (
	"fmt"
	"time"

	"nephelon/core/climate"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// Room is the room in which materials are stored.
type Room struct {
	Latitude  float64              `json:"latitude,omitempty" minimum:"-90" maximum:"90" doc:"°, for its forecast"`
	Longitude float64              `json:"longitude,omitempty" minimum:"-180" maximum:"180" doc:"°"`
	Heated    *measure.Temperature `json:"heated,omitempty" minimum:"-20" maximum:"40" doc:"°C that heating keeps at least; none when left out"`
	Cooled    *measure.Temperature `json:"cooled,omitempty" minimum:"-20" maximum:"50" doc:"°C that cooling keeps at most; none when left out"`
}

// roomLag bounds the air outside that a closed room follows: common practice, no source.
const roomLag = 24 * time.Hour

// Temperatures returns how warm the room is, hour after hour: as the mean of the air of the last day, which a closed
// room follows, within what heating and cooling keep.
func (r Room) Temperatures(hours []climate.Hour) []measure.Temperature {
	all := make([]measure.Temperature, len(hours))
	for n, h := range hours {
		sum, count := measure.Temperature(0), 0
		for k := n; k >= 0 && h.At.Sub(hours[k].At) < roomLag; k-- {
			sum, count = sum+hours[k].Air, count+1
		}
		all[n] = sum / measure.Temperature(count)
		if r.Heated != nil {
			all[n] = max(all[n], *r.Heated)
		}
		if r.Cooled != nil {
			all[n] = min(all[n], *r.Cooled)
		}
	}
	return all
}

// Misstored says that a product in store will be colder or warmer than its sheet allows.
type Misstored struct {
	Sheet string              `json:"sheet" doc:"Id of the product"`
	Name  string              `json:"name"`
	From  time.Time           `json:"from"`
	Until time.Time           `json:"until" doc:"End of the forecast where it stays so"`
	Worst measure.Temperature `json:"worst" doc:"°C"`
	Limit measure.Temperature `json:"limit" doc:"°C of its sheet"`
	Cold  bool                `json:"cold" doc:"Colder than allowed; else warmer"`
	Text  string              `json:"text"`
}

// Against returns when the room is colder or warmer than a product may be stored, the first time of each.
func (r Room) Against(p material.Product, hours []climate.Hour, zone *time.Location, units measure.System) []Misstored {
	found := []Misstored{}
	warm := r.Temperatures(hours)
	for _, cold := range []bool{true, false} {
		limit := p.StoreMax
		if cold {
			limit = p.StoreMin
		}
		if limit == nil {
			continue
		}
		m := Misstored{Sheet: p.ID, Name: p.Name, Limit: limit.Value, Cold: cold}
		for n, t := range warm {
			if beyond := cold && t < limit.Value || !cold && t > limit.Value; !beyond {
				if !m.From.IsZero() {
					break
				}
				continue
			}
			if m.From.IsZero() {
				m.From, m.Worst = hours[n].At, t
			}
			m.Until = hours[n].At.Add(time.Hour)
			if cold && t < m.Worst || !cold && t > m.Worst {
				m.Worst = t
			}
		}
		if m.From.IsZero() {
			continue
		}
		m.Text = m.words(zone, units)
		found = append(found, m)
	}
	return found
}

func (m Misstored) words(zone *time.Location, units measure.System) string {
	what, to, than, way := "cold", "down to", "at least", "Heat the room, or bring it to a warmer one before then."
	if !m.Cold {
		what, to, than = "warm", "up to", "at most"
		way = "Cool or air the room by night, or bring it to a cooler one before then."
	}
	const day = "Mon 2 Jan, 15:04"
	return fmt.Sprintf("%s: the store room is too %s from %s to %s, %s %s; its sheet asks for %s %s. %s", m.Name, what,
		units.Time(m.From.In(zone), day), units.Time(m.Until.In(zone), day), to, units.Temperature(m.Worst), than,
		units.Temperature(m.Limit), way)
}
