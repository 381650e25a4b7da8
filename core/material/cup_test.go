package material

import (
	"math"
	"testing"

	"nephelon/core/measure"
)

// By hand: 172 g less 12 g of a cup of 100 mL are 1,600 kg/m³; 0.96 kg on 2 m² are 480 g/m² and 300 µm.
func TestACupGives(t *testing.T) {
	cup := CupTest{Empty: 0.012, Full: 0.172, Volume: 1e-4, Lasts: 1800, At: 21, Spread: 0.96, Area: 2}
	g := cup.Gives()
	if len(g.Faults) > 0 || math.Abs(float64(g.Density.Value)-1600) > 1e-9 || g.Density.Source != measure.OwnTest ||
		g.PotLife.At != 21 || math.Abs(float64(g.PotLife.Mass)-0.16) > 1e-12 || g.PotLife.Lasts != 1800 ||
		math.Abs(float64(g.Film)-300e-6) > 1e-12 || math.Abs(g.Printed.Value-0.48) > 1e-12 ||
		g.Printed.Figure != Practical {
		t.Errorf("%+v", g)
	}
	for name, c := range map[string]struct {
		change  func(*CupTest)
		field   string
		density bool
	}{
		"an empty cup":      {func(c *CupTest) { c.Full = 0.012 }, "/full", false},
		"grams for kg":      {func(c *CupTest) { c.Full = 172 }, "/volume", false},
		"a foam":            {func(c *CupTest) { c.Full = 0.0819 }, "/volume", false},
		"a thimble":         {func(c *CupTest) { c.Full, c.Volume = 0.052, 25e-6 }, "/full", true},
		"a mass alone":      {func(c *CupTest) { c.Area = 0 }, "/area", true},
		"an area alone":     {func(c *CupTest) { c.Spread = 0 }, "/area", true},
		"a film of nothing": {func(c *CupTest) { c.Spread = 0.05 }, "/area", true},
		"a block":           {func(c *CupTest) { c.Area = 0.005 }, "/area", true},
	} {
		changed := cup
		c.change(&changed)
		g := changed.Gives()
		if len(g.Faults) != 1 || g.Faults[0].Field != c.field || (g.Density != nil) != c.density {
			t.Errorf("%s: %+v", name, g)
		}
	}
	cup.Lasts, cup.Spread, cup.Area = 0, 0, 0
	if g := cup.Gives(); g.PotLife != nil || g.Printed != nil || len(g.Faults) > 0 || g.Density == nil {
		t.Errorf("only weighed: %+v", g)
	}
}
