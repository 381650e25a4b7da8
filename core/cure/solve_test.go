package cure

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/mat"
)

// Against a library of linear algebra (gonum), over normal equations of random misses.
func TestNormalEquations(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		slope := mat.NewDense(8, parameters, nil)
		off := mat.NewVecDense(8, nil)
		for i := range 8 {
			off.SetVec(i, r.NormFloat64())
			for j := range parameters {
				slope.Set(i, j, r.NormFloat64())
			}
		}
		var normal mat.Dense
		normal.Mul(slope.T(), slope)
		var right, want mat.VecDense
		right.MulVec(slope.T(), off)
		if err := want.SolveVec(&normal, &right); err != nil {
			t.Fatal(err)
		}
		var m [parameters][parameters]float64
		var v [parameters]float64
		for i := range parameters {
			v[i] = right.AtVec(i)
			for j := range parameters {
				m[i][j] = normal.At(i, j)
			}
		}
		got, solved := solve(m, v)
		for i := range parameters {
			if off := got[i] - want.AtVec(i); !solved || math.Abs(off) > 1e-9*math.Max(1, math.Abs(got[i])) {
				t.Fatalf("%v, want %v", got, want)
			}
		}
	}
	if _, solved := solve([parameters][parameters]float64{}, [parameters]float64{}); solved {
		t.Error("equations without a solution are solved")
	}
}
