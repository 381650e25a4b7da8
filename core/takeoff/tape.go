package takeoff

import (
	"fmt"
	"strings"

	"nephelon/core/measure"
)

// Taping is one reading of the tape as it was typed.
type Taping struct {
	Typed   string        `json:"typed" maxLength:"2000"`
	Heading measure.Angle `json:"heading" minimum:"-720" maximum:"720" doc:"Direction of its first wall, degrees counter-clockwise from the x axis of the plan"`
}

// Walk holds how an outline was taken with a tape: what was typed, how well it
// closed, and what was made of it.
type Walk struct {
	Readings []Taping        `json:"readings" maxItems:"500" doc:"Readings in their order"`
	Gap      *measure.Length `json:"gap,omitempty" doc:"Misclosure: m from the end of the walk to its start before anything was corrected; absent where nobody walked back to the start"`
	Mended   string          `json:"mended,omitempty" maxLength:"400" doc:"What was corrected, in words"`
	Changed  bool            `json:"changed,omitempty" doc:"Corners were moved on the plan afterwards"`
}

// Moved is the walk of an outline whose corners were moved since.
func (w *Walk) Moved() *Walk {
	if w == nil || w.Changed {
		return w
	}
	moved := *w
	moved.Changed = true
	return &moved
}

// maxWallsTold bounds the walls that a working lists.
const maxWallsTold = 60

// working goes down to the tape: what was typed, and the walls that came of it.
func (w Walk) working(title string, sides []measure.Length) measure.Working {
	typed := make([]string, len(w.Readings))
	for i, r := range w.Readings {
		typed[i] = strings.TrimSpace(r.Typed)
	}
	from := []string{"Tape, as typed"}
	if w.Mended != "" {
		from = append(from, "corrected: "+strings.TrimSuffix(w.Mended, "."))
	}
	if w.Changed {
		from = append(from, "corners moved on the plan since")
	}
	out := measure.Working{Title: title, Formula: strings.Join(typed, " · "), Source: strings.Join(from, "; ")}
	perimeter := measure.Length(0)
	for i, s := range sides {
		perimeter += s
		if i < maxWallsTold {
			out.Inputs = append(out.Inputs, measure.Value{Name: fmt.Sprintf("Wall %d", i+1), Kind: measure.KindLength,
				SI: float64(s)})
		}
	}
	switch {
	case w.Gap != nil:
		out.Result = measure.Value{Name: "Misclosure", Kind: measure.KindLength, SI: float64(*w.Gap)}
	default:
		out.Result = measure.Value{Name: "Around", Kind: measure.KindLength, SI: float64(perimeter)}
	}
	return out
}
