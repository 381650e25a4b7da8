package finding

import "testing"

func TestFindingAsAnError(t *testing.T) {
	for want, f := range map[string]Finding{
		"/job/name: It is empty. Enter a name.": {Path: "/job/name", Text: "It is empty.", WayOut: "Enter a name."},
		"/job/name: It is empty.":               {Path: "/job/name", Text: "It is empty."},
	} {
		if got := f.Error(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// The steps are those of the work, in its order, and the levels fall.
func TestOrderOfStepsAndLevels(t *testing.T) {
	steps, levels := Step("").Values(), Level("").Values()
	if len(steps) != 6 || steps[0] != Measure || steps[5] != Pour || len(levels) != 3 || levels[0] != Refused ||
		levels[2] != Note {
		t.Errorf("%v, %v", steps, levels)
	}
}
