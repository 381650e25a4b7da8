package says

import (
	"strings"
	"testing"
)

// Each way of laying has its own words; nobody is told to pour out what is dipped, brushed or sprayed, or to roll a
// top.
func TestWordsByWayOfLaying(t *testing.T) {
	for _, test := range []struct {
		laying      string
		top         bool
		has, hasNot string
	}{
		{"pour", false, "rim|roll it", "tray|brush|trowel|bubbles"},
		{"", false, "pour it out|roll it", "tray"},
		{"dip", false, "trays|cross-roll", "pour|rim|trowel"},
		{"brush", false, "pots|brush", "pour|roll|tray"},
		{"trowel", false, "turn it out|trowel", "tray|roll|rim"},
		{"spray", false, "machine|spray", "pour|tray"},
		{"pour", true, "beads|bubbles", "roll|section|tray|line"},
	} {
		w := Of(test.laying, test.top, false)
		words := []string{w.Pour, w.Spread, w.Roll, w.Pours, w.SpreadOut, w.Rolled, w.Joins}
		all := strings.ToLower(strings.Join(words, "; "))
		for _, word := range strings.Split(test.has, "|") {
			if !strings.Contains(all, word) {
				t.Errorf("%q, top %v: no %q in %s", test.laying, test.top, word, all)
			}
		}
		for _, word := range strings.Split(test.hasNot, "|") {
			if strings.Contains(all, word) {
				t.Errorf("%q, top %v: %q in %s", test.laying, test.top, word, all)
			}
		}
	}
}

// A film that is broadcast into is not rolled last.
func TestBroadcastComesLast(t *testing.T) {
	for _, laying := range []string{"pour", "dip"} {
		if w := Of(laying, false, true); !strings.HasSuffix(w.Roll+w.Joins+w.After, "broadcast into it while it is wet") ||
			!strings.HasPrefix(w.Rolled, "Broadcast") {
			t.Errorf("%s: %+v", laying, w)
		}
	}
}
