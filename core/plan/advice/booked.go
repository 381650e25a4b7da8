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

// unsuited says where the first kit of a coat is opened in an hour that its coat rules out.
func unsuited(in *input.Inputs, i int, l input.ResolvedCoat, t *stage.CoatTimes) *finding.Finding {
	if t.Unsuited == "" {
		return nil
	}
	way := "Plan the roster anew, or move it there."
	if t.Basis != facts.Booked {
		way = "No hour of the two weeks after suits it: change its hours, or begin the job on another day."
	}
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.Path + "/hours",
		Text: fmt.Sprintf("%s: coat %d begins %s. %s", in.File.Job.Surfaces[i].Name, l.Number, hour(in, *t.Begins),
			t.Unsuited),
		WayOut: way,
	}
}

// unforeseen says where the hours of a coat ask for what no forecast tells.
func unforeseen(in *input.Inputs, i int, l input.ResolvedCoat) *finding.Finding {
	asked, s := l.Coat.Hours, in.File.Job.Surfaces[i].Survey
	if !asked.Any() || !asked.Shade && !asked.Falling {
		return nil
	}
	text, way := "", ""
	switch {
	case len(in.Weather.Hours) == 0:
		text, way = "asks for shade or a cooling slab, and no forecast tells when that is", "Enter or fetch the forecast."
	case asked.Shade && (s == nil || !s.Outdoors):
		text, way = "is to be laid in the shade, and its surface lies indoors", "Say in the survey that it lies outdoors."
	default:
		return nil
	}
	return &finding.Finding{
		Level: finding.Note, Step: finding.Batches, Path: l.Path + "/hours",
		Text:   fmt.Sprintf("%s: coat %d %s.", in.File.Job.Surfaces[i].Name, l.Number, text),
		WayOut: way,
	}
}

// brokenOff says what is left of a coat whose day was closed before all of it was laid.
func brokenOff(in *input.Inputs, i int, l input.ResolvedCoat, t *stage.CoatTimes) *finding.Finding {
	laid, is := in.Logged(l.Coat.ID)
	if !is || laid.Broken == nil {
		return nil
	}
	planned := "is proposed to be done by"
	if t.Basis == facts.Booked {
		planned = "is booked until"
	}
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Pour, Path: l.Path,
		Text: fmt.Sprintf("%s: coat %d was broken off %s with %s of it laid; the rest %s %s.",
			in.File.Job.Surfaces[i].Name, l.Number, hour(in, *laid.Broken),
			in.Units.Format(measure.KindFraction, float64(laid.Share)), planned, hour(in, *t.End)),
		WayOut: "Plan the roster anew to book the rest. Where the film is past its window by then, abrade its edge; the " +
			"joint shows unless the next coat hides it.",
	}
}

// driesSlowly says that a film was read so much thicker than planned that it dries later.
func driesSlowly(in *input.Inputs, i int, l input.ResolvedCoat) *finding.Finding {
	if l.Slows == 1 {
		return nil
	}
	laid, _ := in.Logged(l.Coat.ID)
	return &finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.Path,
		Text: fmt.Sprintf("%s: the film of coat %d was read %.1f times as thick as planned. It dries as it stands, so "+
			"it is planned to take %.1f times as long.", in.File.Job.Surfaces[i].Name, l.Number, laid.Thick, l.Slows),
		WayOut: "Plan the roster anew where the next coat is booked too soon, and try the film with a thumb first: what " +
			"is closed in stays soft.",
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
