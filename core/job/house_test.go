package job

import (
	"strings"
	"testing"
)

// A person is in one crew, under a name of their own.
func TestPeopleOfCrews(t *testing.T) {
	crews := func(members ...[]string) House {
		h := House{}
		for i, m := range members {
			h.Crews = append(h.Crews, StandingCrew{ID: string(rune('a' + i)), Name: "Crew " + string(rune('a'+i)), Members: m})
		}
		return h
	}
	for _, c := range []struct {
		house      House
		path, text string
	}{
		{crews(), "", ""},
		{crews([]string{"Ylva", "Ketil"}, []string{"Marit"}), "", ""},
		{crews([]string{strings.Repeat("å", 60)}), "", ""},
		{crews([]string{strings.Repeat("å", 61)}), "crews[0].members[0]", "60 letters"},
		{crews([]string{"Ylva", ""}), "crews[0].members[1]", "no name"},
		{crews([]string{"Ylva", "Ylva"}), "crews[0].members[1]", "twice in Crew a"},
		{crews(nil, []string{"Ketil", "Ylva"}, []string{"Ylva"}), "crews[2].members[0]", "in two crews"},
	} {
		if path, text := c.house.Fault(); path != c.path || !strings.Contains(text, c.text) ||
			(text == "") != (c.text == "") {
			t.Errorf("%+v: %q at %q", c.house.Crews, text, path)
		}
	}
	h := crews([]string{"Ylva"}, []string{"Marit"})
	if c, there := h.CrewOf("Marit"); !there || c.ID != "b" {
		t.Errorf("%+v", c)
	}
	if _, there := h.CrewOf("Ketil"); there {
		t.Error("somebody unknown has a crew")
	}
}
