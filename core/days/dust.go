package days

import (
	"fmt"
	"time"

	"nephelon/core/material"
	"nephelon/core/work"
)

// dust returns why a booking that makes dust lies beside an open film of the same job, in a room whose air is not shut;
// empty where it does not. A film is open until it is tack-free, or else until people can walk on it.
func (c *Calendar) dust(at int, b Booked, booked []Booked) string {
	if !work.Dusty(c.Tasks[at].Machines) {
		return ""
	}
	j := c.byJob[b.Job]
	_, of := blocks(j)
	own := of[work.ID(b.Task)]
	if own == nil || c.shut(j, own.Surface) {
		return ""
	}
	for _, other := range booked {
		film := of[work.ID(other.Task)]
		if other.Job != b.Job || film == nil || len(film.parts) == 0 || film.Surface == own.Surface ||
			c.shut(j, film.Surface) {
			continue
		}
		last := film.parts[len(film.parts)-1]
		laid := other.Until.Add(-film.behind(last.ID))
		open, known := j.Films.After(last.Coat, material.StageTackFree, laid)
		if !known {
			open, known = j.Films.After(last.Coat, material.StageFoot, laid)
		}
		dry := laid.Add(duration(open))
		if known && b.From.Before(dry) && b.Until.After(other.From.Add(film.starts[film.parts[0].ID])) {
			return fmt.Sprintf("its dust falls on %s of %s, which is open until %s: shut the room, or move it.",
				film.Name, surfaceOf(j.Plan, film.Surface).Name, c.when(dry.Truncate(time.Minute)))
		}
	}
	return ""
}

// shut reports whether a surface of a job has air of its own.
func (c *Calendar) shut(j Job, surface string) bool {
	for _, s := range j.File.Job.Surfaces {
		if s.ID == surface {
			return s.Shut()
		}
	}
	return false
}
