package kit

import (
	"testing"

	"nephelon/core/measure"
)

// Mixing start to pouring, by hand: 3 min mixed, 1 min again in a second vessel, 2 min of
// colours and 5 min of standing are 6 min of work and 11 min in all.
func TestMixingOf(t *testing.T) {
	span := func(s measure.Span) *measure.Sourced[measure.Span] { return &measure.Sourced[measure.Span]{Value: s} }
	for _, c := range []struct {
		name                  string
		mixing, again, stands *measure.Sourced[measure.Span]
		second, long          bool
		want                  Mixing
	}{
		{"nothing known", nil, nil, nil, false, false, Mixing{}},
		{"one vessel", span(180), nil, span(300), false, false, Mixing{First: 180, Stand: 300}},
		{"a minute more", span(180), nil, span(300), true, false, Mixing{First: 180, Second: 60, Stand: 300}},
		{"as long again", span(180), nil, nil, true, true, Mixing{First: 180, Second: 180}},
		{"as long as nobody knows", nil, nil, nil, true, true, Mixing{Second: 60}},
		{"the sheet rules", span(180), span(120), nil, true, true, Mixing{First: 180, Second: 120}},
		{"the sheet wants it of everybody", span(180), span(120), nil, false, false, Mixing{First: 180, Second: 120}},
		{"the sheet wants none", span(180), span(0), nil, true, false, Mixing{First: 180}},
	} {
		p := twoPack(2, 1)
		p.Mixing, p.MixingAgain, p.Induction = c.mixing, c.again, c.stands
		if got := MixingOf(&p, c.second, c.long); got != c.want {
			t.Errorf("%s: %+v", c.name, got)
		}
		p.Components = p.Components[:1]
		if got := MixingOf(&p, c.second, c.long); got.Second != 0 || got.First != c.want.First || got.Stand != c.want.Stand {
			t.Errorf("%s, of one part: %+v", c.name, got)
		}
	}
	all := Mixing{First: 180, Second: 60, Colours: 120, Stand: 300}
	if all.Hands() != 360 || all.Ready() != 660 {
		t.Errorf("%v of work, %v in all", all.Hands(), all.Ready())
	}
}
