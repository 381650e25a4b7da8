package plan

import (
	"fmt"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/material"
)

// limits says where a coat is laid on a slab that its sheet does not allow.
func (t *timer) limits(l resolvedCoat, c *CoatTimes) {
	p := l.sheet.product
	if (p.SlabMin == nil || c.Slab >= p.SlabMin.Value) && (p.SlabMax == nil || c.Slab <= p.SlabMax.Value) {
		return
	}
	when, way := "", "Plan for another slab, warm or shade the place, or take a product for this one."
	if c.Start != nil {
		when = " at " + hour(*c.Start)
		way = "Start at another hour, warm or shade the place, or take a product for this slab."
	}
	t.out.found = append(t.out.found, finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.path,
		Text:   fmt.Sprintf("Coat %d of %s goes on a slab of %s%s; its sheet refuses all but %s.", l.number, p.Name, t.in.units.Temperature(c.Slab), when, rangeOf(t.in, p.SlabMin, p.SlabMax)),
		WayOut: way,
	})
}

// late says where the crew comes to a coat only after the window of the one
// below has closed. A wait of the contractor's own is judged between neighbours.
func (t *timer) late(i, n int, below *CoatTimes, start time.Time) {
	l := t.in.layers[i][n]
	until := below.stage(material.StageRecoatUntil)
	if until.At == nil || !start.After(*until.At) || l.abrades || l.coat.OverWet || l.coat.Wait != nil {
		return
	}
	t.out.found = append(t.out.found, finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.path,
		Text: fmt.Sprintf("%s: the crew comes to coat %d at %s, but the window of coat %d closed at %s.",
			t.in.file.Job.Surfaces[i].Name, l.number, hour(start), n, hour(*until.At)),
		WayOut: "Abrade it before, finish one surface before the next is begun, or bring more people.",
		Fix: &finding.Fix{Label: fmt.Sprintf("Abrade coat %d before it", n), Patch: []finding.PatchStep{
			{Op: "add", Path: l.path + "/abraded", Value: true},
		}},
	})
}

// stiff says where a coat that is poured over the one below comes when that no longer
// flows. Its first section is the oldest, and the first to be poured over.
func (t *timer) stiff(i, n int, below *CoatTimes, start time.Time) {
	l := t.in.layers[i][n]
	works := below.stage(material.StageWorking)
	if !l.coat.OverWet || works.At == nil || !start.After(*works.At) {
		return
	}
	t.out.found = append(t.out.found, finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.path,
		Text: fmt.Sprintf("%s: coat %d is poured over coat %d while that flows, but that flows only until %s, and the crew comes to it at %s.",
			t.in.file.Job.Surfaces[i].Name, l.number, n, hour(*works.At), hour(start)),
		WayOut: "Bring more people, take a slower hardener below, or let it harden and abrade it.",
		Fix: &finding.Fix{Label: fmt.Sprintf("Let coat %d harden and abrade it", n), Patch: []finding.PatchStep{
			{Op: "remove", Path: l.path + "/overWet"}, {Op: "add", Path: l.path + "/abraded", Value: true},
		}},
	})
}

// dry says where the crew comes to a coat that is laid on a tacky film only after that is
// tack-free, or where nobody knows when it is.
func (t *timer) dry(i, n int, below *CoatTimes, start time.Time) {
	l := t.in.layers[i][n]
	if l.coat.When != buildup.OnTacky {
		return
	}
	free := below.stage(material.StageTackFree)
	f := finding.Finding{
		Level: finding.Warning, Step: finding.Batches, Path: l.path + "/when", WayOut: "Bring more people, or lay it as its sheet has it.",
		Fix: &finding.Fix{Label: "Lay it as soon as it may", Patch: []finding.PatchStep{{Op: "remove", Path: l.path + "/when"}}},
	}
	name := t.in.file.Job.Surfaces[i].Name
	switch {
	case free.After == 0:
		f.Text = fmt.Sprintf("%s: coat %d is laid on coat %d while that is tacky, but its sheet does not say when it is tack-free.", name, l.number, n)
		f.WayOut = "Enter that time on its data sheet, or lay it as its sheet has it."
	case start.After(free.After.After(*below.Start)):
		f.Text = fmt.Sprintf("%s: coat %d is laid on coat %d while that is tacky, but its first section is tack-free at %s, and the crew comes to it at %s.",
			name, l.number, n, hour(free.After.After(*below.Start)), hour(start))
	default:
		return
	}
	t.out.found = append(t.out.found, f)
}
