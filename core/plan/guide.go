package plan

import (
	"fmt"
	"slices"
	"strings"

	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// The buckets in which acid and neutraliser are carried to the floor: common practice, no source.
const (
	bucket   measure.Volume = 10 * measure.Litre
	bucketUS measure.Volume = 2 * measure.Gallon
)

// guides returns how each task of preparation and each test of a surface is done.
func guides(s *SurfacePlan, tasks []work.Task, units measure.System) []record.Guide {
	var all []record.Guide
	if s.Survey == nil || s.Survey.Preparation == nil {
		return nil
	}
	steps := s.Survey.Preparation.Tasks
	ids := work.PrepareIDs(s.ID, steps)
	for n := range steps {
		all = append(all, record.Guide{Task: ids[n], How: steps[n].How, Cautions: steps[n].Cautions,
			Bucket: perBucket(&steps[n], s.Takeoff.Area, units)})
	}
	for _, t := range tasks {
		if t.Kind == work.Retest && t.Surface == s.ID {
			_, verdict, _ := strings.Cut(string(t.ID), "/retest/")
			g := record.Guide{Task: t.ID, How: howToTest(verdict), Cautions: []string{}}
			if t.Closes != "" {
				g.Asks = asks(s.Survey.Verdicts, strings.TrimSuffix(verdict, "/read"))
			}
			all = append(all, g)
		}
	}
	return all
}

// asks returns what is read in a test that closes a verdict, with its limits; none where it is looked at only.
func asks(verdicts []survey.Verdict, id string) *record.Ask {
	n := slices.IndexFunc(verdicts, func(v survey.Verdict) bool { return v.ID == id })
	if n < 0 || verdicts[n].Limit == nil {
		return nil
	}
	l := verdicts[n].Limit
	return &record.Ask{What: l.Words, Kind: l.Kind, Least: l.Least, Most: l.Most, From: l.From}
}

// perBucket says what goes into one bucket of a step that is mixed in buckets, and how much surface that does.
func perBucket(t *survey.PreparationTask, area measure.Area, units measure.System) string {
	if !slices.Contains([]string{"etch", "neutralise"}, t.Kind()) || !(area > 0) {
		return ""
	}
	whole := measure.Volume(0)
	for _, item := range t.Items {
		if item.Kind == measure.KindVolume {
			whole += measure.Volume(item.Value)
		}
	}
	if !(whole > 0) {
		return ""
	}
	size := bucket
	if units.Units() == measure.US {
		size = bucketUS
	}
	share := size / whole
	items := slices.Clone(t.Items)
	slices.SortStableFunc(items, func(a, b survey.Supply) int { // water first, whatever the list says
		first := func(s survey.Supply) int {
			if strings.HasPrefix(s.Name, "Water") {
				return 0
			}
			return 1
		}
		return first(a) - first(b)
	})
	parts := make([]string, len(items))
	for n, item := range items {
		name, _, _ := strings.Cut(item.Name, ",")
		parts[n] = fmt.Sprintf("%s of %s", units.Format(item.Kind, item.Value*float64(share)), strings.ToLower(name))
	}
	passes := measure.Area(max(1, t.Passes))
	return fmt.Sprintf("One bucket: %s. It does %s.", strings.Join(parts, ", then "),
		units.Area(area*measure.Area(share)*passes))
}

// howToTest says how a test is done, by its standard where there is one; the numbers of standards are from memory.
func howToTest(verdict string) string {
	switch verdict {
	case "moisture", "plastic-sheet":
		return "Tape a clear sheet of about half a metre square to the slab, tight on all sides, where it is dampest " +
			"(ASTM D4263)."
	case "moisture/read", "plastic-sheet/read":
		return "Lift it: drops under the sheet or a darker slab fail (ASTM D4263)."
	case "slab-humidity":
		return "Drill to 40 % of the slab's thickness where it dries to one side, clean the hole, set the probe and close " +
			"it (ASTM F2170)."
	case "slab-humidity/read":
		return "Read each probe; the highest counts (ASTM F2170)."
	case "carbide":
		return "Crush a weighed sample from the lower half of the slab, shake it with carbide, read the pressure when it " +
			"stands still. The gas burns: no flame."
	case "emission":
		return "Weigh the dish, set it open under its dome on a bare patch, note the hour (ASTM F1869)."
	case "emission/read":
		return "Close and weigh it; the gain by area and time counts (ASTM F1869)."
	case "water-drop":
		return "Put drops on all kinds of places, edges too: each soaks in within a minute or so; one that stays a pearl " +
			"fails."
	case "ph":
		return "Wet a spot with distilled water, wait a minute, lay the paper on it (ASTM D4262)."
	case "pull-off":
		return "Glue the dollies on, cut around them where the sheet wants it, pull straight up (ASTM D7234)."
	case "profile":
		return "Lay the chips beside the surface, by eye and by fingertip, edges too (ICRI 310.2R)."
	}
	return ""
}
