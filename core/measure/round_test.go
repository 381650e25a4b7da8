package measure

import (
	"math"
	"math/big"
	"math/rand/v2"
	"strconv"
	"testing"
)

// Halves round away from zero, and so does a decimal that no binary number meets:
// 1.005 is stored as 1.00499999999999989 and still reads as a half.
func TestHalvesRoundAwayFromZero(t *testing.T) {
	for _, c := range []struct {
		value    float64
		decimals int
		want     string
	}{
		{27.125, 2, "27.13"}, {-27.125, 2, "-27.13"}, {1.005, 2, "1.01"}, {0.5, 0, "1"}, {1.5, 0, "2"}, {2.5, 0, "3"},
		{9.995, 2, "10.00"}, {-9.995, 2, "-10.00"}, {99.95, 1, "100.0"}, {0.04, 1, "0.0"}, {12, 2, "12"}, {-0.5, 0, "-1"},
		{1e21, 2, "1000000000000000000000"},
	} {
		if got := Rounded(c.value, c.decimals); got != c.want {
			t.Errorf("%v to %d decimals is %s, want %s", c.value, c.decimals, got, c.want)
		}
	}
	for kind, c := range map[Kind][2]string{KindArea: {"27.13 m²", "292 ft²"}} {
		if got := Metric.Format(kind, 27.125); got != c[0] {
			t.Errorf("27.125 is %s, want %s", got, c[0])
		}
		if got := US.Format(kind, 27.125); got != c[1] {
			t.Errorf("27.125 m² is %s, want %s", got, c[1])
		}
	}
	if got := Metric.Format(KindVolume, -1e-9); got != "0 mL" {
		t.Errorf("almost nothing is %s", got)
	}
}

// Against exact decimal arithmetic (math/big): what is printed is never further
// from the shortest decimal than half a step.
func TestRoundingIsNeverOffByMoreThanHalfAStep(t *testing.T) {
	random := rand.New(rand.NewPCG(55, 89))
	for range 20000 {
		v := (random.Float64() - 0.5) * math.Pow(10, float64(random.IntN(9)))
		decimals := random.IntN(5)
		exact, _ := new(big.Rat).SetString(strconv.FormatFloat(v, 'f', -1, 64))
		printed, ok := new(big.Rat).SetString(Rounded(v, decimals))
		if !ok {
			t.Fatalf("%v prints as %q", v, Rounded(v, decimals))
		}
		off := new(big.Rat).Sub(printed, exact)
		off.Mul(off.Abs(off), big.NewRat(2*int64(math.Pow10(decimals)), 1))
		if off.Cmp(big.NewRat(1, 1)) > 0 {
			t.Fatalf("%v to %d decimals is %s", v, decimals, Rounded(v, decimals))
		}
	}
}
