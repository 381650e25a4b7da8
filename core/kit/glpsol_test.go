package kit

import (
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"nephelon/core/measure"
)

// The purchase against GLPK's integer optimiser (glpsol of Debian's glpk-utils),
// an outside solver: the same least cost on random needs, sizes and prices.
func TestPurchaseAgainstGLPK(t *testing.T) {
	random := rand.New(rand.NewPCG(6, 1))
	for c := range 60 {
		sizes := make([]Size, 2+random.IntN(3))
		need := int64(1000 + random.IntN(200_000)) // mL
		var objective, row, integers strings.Builder
		for i := range sizes {
			millilitres := int64(500 + random.IntN(30_000))
			cost := int64(float64(millilitres)*(0.02+0.03*random.Float64())) * 10
			sizes[i] = Size{Name: strconv.Itoa(i), Volume: measure.Volume(float64(millilitres) * 1e-6), Cost: cost}
			fmt.Fprintf(&objective, " + %d x%d", cost, i)
			fmt.Fprintf(&row, " + %d x%d", millilitres, i)
			fmt.Fprintf(&integers, " x%d\n", i)
		}
		ours := int64(0)
		for i, n := range LeastCost(measure.Volume(float64(need)*1e-6), sizes) {
			ours += int64(n) * sizes[i].Cost
		}
		model := fmt.Sprintf("Minimize\n cost:%s\nSubject To\n need:%s >= %d\nGeneral\n%sEnd\n", &objective, &row,
			need, &integers)
		if theirs := glpk(t, model); theirs != ours {
			t.Errorf("case %d: LeastCost pays %d, GLPK %d for\n%s", c, ours, theirs, model)
		}
	}
}

// glpk is the proven optimum of a model in CPLEX LP form.
func glpk(t *testing.T, model string) int64 {
	t.Helper()
	folder := t.TempDir()
	in, out := filepath.Join(folder, "kits.lp"), filepath.Join(folder, "kits.sol")
	if err := os.WriteFile(in, []byte(model), 0o600); err != nil {
		t.Fatal(err)
	}
	if said, err := exec.CommandContext(t.Context(), "glpsol", "--lp", in, "-w", out, "--tmlim",
		"20").CombinedOutput(); err != nil {
		t.Fatalf("glpsol (Debian: glpk-utils): %v\n%s", err, said)
	}
	solution, err := os.ReadFile(out)
	if err != nil {
		t.Fatal(err)
	}
	for line := range strings.Lines(string(solution)) {
		// s mip ROWS COLUMNS STATUS OBJECTIVE, the status being o for optimal
		if fields := strings.Fields(line); len(fields) == 6 && fields[0] == "s" {
			cost, err := strconv.ParseFloat(fields[5], 64)
			if err != nil || fields[4] != "o" {
				t.Fatalf("glpsol proved no optimum: %s", line)
			}
			return int64(cost + 0.5)
		}
	}
	t.Fatalf("no solution in %s", solution)
	return 0
}
