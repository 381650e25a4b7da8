package kit

import (
	"math"
	"math/rand/v2"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/material"
	"nephelon/core/measure"
)

func palette(way string, base measure.Volume, shares ...float64) buildup.Colouring {
	c := buildup.Colouring{Way: way, Base: base}
	for i, s := range shares {
		c.Colours = append(c.Colours, buildup.Colour{Name: string(rune('a' + i)), Color: "#102030",
			Share: measure.Fraction(s)})
	}
	return c
}

// 2 L for the base of 3.2 L, the rest in four cups: 300 mL each, of which 5 mL
// cling; a piece of 3 m² beside one of 1 m² gets three quarters of 295 mL.
func TestCupsByHand(t *testing.T) {
	c := palette("base", 2*measure.Litre, 0, 0, 0, 0, 0)
	c.Colours[1].Portion = &material.Portion{Value: 0.04, Of: material.OfAB}
	b := Batch{Number: 1, Volume: 3.2 * measure.Litre, Mass: 3.52}
	cups := Cups(c, b, 1, []Patch{{"Long", 3}, {"Short", 1}}, mixOf(2), false)
	if len(cups) != 5 || !near(float64(cups[0].Volume), 0.002, 1e-12) {
		t.Fatalf("%+v", cups)
	}
	for _, cup := range cups[1:] {
		if !near(float64(cup.Volume), 0.0003, 1e-12) || !near(float64(cup.Pours[0].Volume), 0.75*0.000295, 1e-9) ||
			cup.TooSmall || cup.A != 0 {
			t.Errorf("%+v", cup)
		}
	}
	// 300 mL of 1.1 kg/L are 0.33 kg, and 4 % of them 13.2 g.
	if !near(float64(cups[1].Pigment), 0.0132, 1e-9) {
		t.Errorf("pigment %v", cups[1].Pigment)
	}
	// Coloured before mixing, 2 : 1 with 1160 and 980 kg/m³ is 2320 to 980.
	before := Cups(c, b, 1, []Patch{{"Long", 3}}, mixOf(2), true)
	if a, hardener := before[1].A, before[1].B; !near(float64(a/hardener), 2320.0/980, 1e-9) ||
		!near(float64(a+hardener), 0.33, 1e-9) {
		t.Errorf("A %v, B %v", a, hardener)
	}
}

// Whatever the colours and the pieces, what is poured and what clings is the
// batch, and no cup gives more than it holds.
func TestColoursKeepTheBatch(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 14))
	for range 400 {
		shares, sum := make([]float64, 1+random.IntN(8)), 0.0
		for i := range shares {
			shares[i] = 0.02 + random.Float64()
			sum += shares[i]
		}
		for i := range shares {
			shares[i] /= sum
		}
		way, base := "shares", measure.Volume(0)
		if random.IntN(2) == 0 {
			way, base = "base", measure.Volume(6*random.Float64())*measure.Litre
		}
		pieces := make([]Patch, 1+random.IntN(4))
		for i := range pieces {
			pieces[i] = Patch{Area: measure.Area(0.1 + random.Float64())}
		}
		b := Batch{Volume: measure.Volume(0.2+5*random.Float64()) * measure.Litre, Mass: 2}
		whole, mass := 0.0, 0.0
		for _, cup := range Cups(palette(way, base, shares...), b, 1, pieces, mixOf(2), false) {
			poured := measure.Volume(0)
			for _, d := range cup.Pours {
				poured += d.Volume
			}
			if d := math.Abs(float64(poured + cup.Left - cup.Volume)); d > 1e-12 {
				t.Fatalf("a cup of %v pours %v and keeps %v", cup.Volume, poured, cup.Left)
			}
			whole += float64(cup.Volume)
			mass += float64(cup.Mass)
		}
		if !near(whole, float64(b.Volume), 1e-9) || !near(mass, float64(b.Mass), 1e-9) {
			t.Fatalf("cups hold %v of %v (%s)", whole, b.Volume, way)
		}
	}
}

// The pieces share what is left of the life, the larger the longer, without a
// gap and to the end.
func TestPiecesTakeTurns(t *testing.T) {
	turns := Turns([]Patch{{"a", 1}, {"b", 2}, {"c", 3}}, 300, 1500)
	want := [][2]float64{{300, 500}, {500, 900}, {900, 1500}}
	for i, turn := range turns {
		if !near(float64(turn.From), want[i][0], 1e-9) || !near(float64(turn.Until), want[i][1], 1e-9) {
			t.Errorf("%s from %v until %v, want %v", turn.Piece, turn.From, turn.Until, want[i])
		}
	}
}
