package plan

import (
	"context"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/facts"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/stage"
	"nephelon/core/record"
	"nephelon/core/school"
)

// No plan of tops speaks of what stands, walks or drives on a floor, and none of a floor of what a top bears. What a
// plan says is all its text.
func TestTopsAreNotFloors(t *testing.T) {
	foreign := map[string]*regexp.Regexp{
		"oyster-bar":   regexp.MustCompile(`(?i)\bfloor|silica|tyre|walk on|spiked|squeegee|traffic|vehicle|\bslab|CSP`),
		"baggage-hall": regexp.MustCompile(`(?i)countertop|hair dryer|things may stand|light use|knives`),
		"seal-nursery": regexp.MustCompile(`(?i)countertop|hair dryer|things may stand|light use|knives`),
	}
	for name, words := range foreign {
		f := demo(t, name)
		issued, err := NewPlanner().Issue(context.Background(), f, facts.At(noon()), measure.Metric, "")
		if err != nil {
			t.Fatal(err)
		}
		gates := make(map[string][]record.Gate)
		for n := range issued.Coats {
			gates[issued.Coats[n].ID] = record.Gates(&issued, &issued.Coats[n])
		}
		text, err := json.Marshal([]any{Make(f, measure.Metric, noon()), issued, gates})
		if err != nil {
			t.Fatal(err)
		}
		var tree any
		if err := json.Unmarshal(text, &tree); err != nil {
			t.Fatal(err)
		}
		var read func(at string, v any)
		read = func(at string, v any) {
			switch v := v.(type) {
			case map[string]any:
				for key, child := range v {
					if key != "product" { // the words of a data sheet are its maker's
						read(at+"/"+key, child)
					}
				}
			case []any:
				for _, child := range v {
					read(at, child)
				}
			case string:
				if words.MatchString(v) {
					t.Errorf("%s%s: %s", name, at, v)
				}
			}
		}
		read("", tree)
	}
}

// A top comes back into service by other stages than a floor, and never for cars.
func TestTheServiceOfATop(t *testing.T) {
	for key, want := range map[material.StageKey][2]string{
		material.StageFoot:      {"light use", "light foot traffic"},
		material.StageFurniture: {"things may stand on it", "furniture"},
		material.StageVehicle:   {"", "vehicles"},
		material.StageWater:     {"water", "water"},
		material.StageFull:      {"full cure: heat, knives and cleaners", "full cure"},
	} {
		if got := [2]string{key.Service("top"), key.Service("floor")}; got != want || key.Service("pool") != want[1] {
			t.Errorf("%s: %s", key, fmt.Sprint(got))
		}
	}
	for _, c := range Make(demo(t, "oyster-bar"), measure.Metric, noon()).Surfaces[0].Coats {
		if slices.ContainsFunc(c.Times.Stages, func(s stage.FilmStage) bool { return s.Key == material.StageVehicle }) {
			t.Errorf("coat %d takes vehicles", c.Number)
		}
	}
}

// A thin film is pulled flat and rolled, a thick one spread with a notch. By hand: a dip of a 45 cm foam cover holds
// 157.5 mL, at 100 µm 1.58 m²; of a 12 mm cover 315 mL, at 150 µm 2.1 m².
func TestThinFilmsAreRolledNotNotched(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("firstlight-lb", 150), coat("keelbody-100", 900), coat("gullwing-ur", 100))
	for n, says := range [][]string{{"12 mm (1/2 in) nap", "2.1 m²", "plain squeegee"}, {"notch or pins of"},
		{"foam or 6 mm", "45 cm", "1.58 m²", "plain squeegee"}} {
		floor := floorOf(Make(f, measure.Metric, noon()).Surfaces[0].Coats[n].Cards[0])
		for _, words := range says {
			if !strings.Contains(strings.ReplaceAll(floor, "\u202f", " "), words) {
				t.Errorf("coat %d does not say %q: %s", n+1, words, floor)
			}
		}
		if strings.Contains(floor, "notch") != (n == 1) {
			t.Errorf("coat %d and its notch: %s", n+1, floor)
		}
	}
	f.Job.Surfaces[0].Coats[2].Own = &buildup.OwnWay{Laying: school.DipAndRoll}
	if floor := floorOf(Make(f, measure.Metric, noon()).Surfaces[0].Coats[2].Cards[0]); !strings.Contains(floor,
		"each dip across the last") || !strings.Contains(floor, "foam or 6 mm") {
		t.Errorf("dipped: %s", floor)
	}
}

// Cards tell what the ratio of a whole kit rests on and when a mix is done; what cleans tools and skin is told the day
// before, by what the product is thinned with.
func TestCardsTellTheSmallThings(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("firstlight-lb", 150), coat("keelbody-100", 900))
	steps := func(c kit.Card) (all string) {
		for _, s := range c.Steps {
			all += s.Text + "\n"
		}
		return all
	}
	made := Make(f, measure.Metric, noon()).Surfaces[0]
	whole := 0
	for n, cleans := range []string{"Tools go into water", "Tools go into alcohol"} {
		cards := made.Coats[n].Cards
		if ahead := strings.Join(made.Coats[n].Ahead, "\n"); !strings.Contains(ahead, cleans) {
			t.Errorf("coat %d: %s", n+1, ahead)
		}
		for k, c := range cards {
			says := steps(c)
			if strings.HasPrefix(c.Share, "1 ×") {
				whole++
			}
			if !strings.Contains(says, "no streak is left") ||
				strings.Contains(says, "to the last") != strings.HasPrefix(c.Share, "1 ×") {
				t.Errorf("coat %d, batch %d, %s: %s", n+1, k+1, c.Share, says)
			}
		}
	}
	if whole == 0 {
		t.Error("no batch is of whole kits")
	}
}
