package advice

import (
	"fmt"

	"nephelon/core/facts"
	"nephelon/core/finding"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/work"
)

// outOfBooking says where the pour of a coat no longer fits what is booked for it.
func outOfBooking(in *input.Inputs, i int, l input.ResolvedCoat, c stage.TimedCoat) *finding.Finding {
	t := c.Times
	if t.Booked.IsZero() || c.Run == nil || t.Start == nil {
		return nil
	}
	ends := c.Run.Ends.After(*t.Start)
	late := measure.Span(ends.Sub(t.Booked).Seconds())
	if late <= 1 {
		return nil
	}
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Pour, Path: l.Path,
		Text: fmt.Sprintf("%s: coat %d is booked from %s until %s, but its pour takes until %s, %s longer.",
			in.File.Job.Surfaces[i].Name, l.Number, hour(in, *t.Begins), hour(in, t.Booked), hour(in, ends),
			in.Units.Span(late)),
		WayOut: "Plan the roster anew, or book it longer there; or bring more people.",
	}
}

// bookedTooSoon says where a coat is booked before the film below lets it begin.
func bookedTooSoon(in *input.Inputs, i int, l input.ResolvedCoat, t *stage.CoatTimes) *finding.Finding {
	if t.Basis != facts.Booked || t.Ready.IsZero() || !t.Start.Before(t.Ready) {
		return nil
	}
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.Path,
		Text: fmt.Sprintf("%s: coat %d is booked for %s, but the coat below takes it only from %s.",
			in.File.Job.Surfaces[i].Name, l.Number, hour(in, *t.Begins), hour(in, t.Ready)),
		WayOut: "Plan the roster anew, or book it later there.",
	}
}

// wasItDone asks after a coat whose booking is past and of which nothing was logged.
func wasItDone(in *input.Inputs, i int, l input.ResolvedCoat, t *stage.CoatTimes) *finding.Finding {
	if b, _ := in.Booked(work.PourID(l.Coat.ID)); b.Done || t.Basis != facts.Booked || !t.Booked.Before(in.Now) {
		return nil
	}
	return &finding.Finding{
		Level: finding.Note, Step: finding.Pour, Path: l.Path,
		Text: fmt.Sprintf("%s: coat %d was booked until %s, and nothing of it was logged. Was it done? Until then it counts "+
			"as laid when it was booked.", in.File.Job.Surfaces[i].Name, l.Number, hour(in, t.Booked)),
		WayOut: "Log it on its job day, or say on the roster that it was done or was not.",
	}
}
