package roster

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// The weights with which a constraint model takes the parts of the cost one after the
// other: more than any later part can make up in problems so small.
const (
	modelLate   = 10_000_000
	modelBought = 100_000
)

// modelled writes a problem without overtime, travel and breakable tasks as a MiniZinc
// model of its own.
func modelled(p Problem) string {
	var b strings.Builder
	say := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	say("include \"cumulative.mzn\";\nint: H = %d;", p.Horizon)
	type place struct{ job, task int }
	var all []place
	index := make(map[string]int)
	for j, job := range p.Jobs {
		for k, t := range job.Tasks {
			all = append(all, place{j, k})
			index[job.ID+"/"+t.ID] = len(all)
		}
	}
	// Until which slot a crew works on from one, or that slot where it does not work.
	say("array[0..%d, 0..H] of int: until = array2d(0..%d, 0..H, [", len(p.Crews), len(p.Crews))
	for c := range len(p.Crews) + 1 {
		for s := Slot(0); s <= p.Horizon; s++ {
			end := p.Horizon
			if c > 0 {
				for end = s; end < p.Horizon; end++ {
					open := false
					for _, shift := range p.Crews[c-1].Shifts {
						at := end
						if shift.Every > 0 && at >= shift.From {
							at = shift.From + (at-shift.From)%shift.Every
						}
						open = open || at >= shift.From && at < shift.Until
					}
					if !open {
						break
					}
				}
			}
			fmt.Fprintf(&b, "%d,", end)
		}
	}
	say("]);")
	var goal, finish []string
	ends := make([][]string, len(p.Jobs))
	for n, at := range all {
		t, job := p.Jobs[at.job].Tasks[at.task], p.Jobs[at.job]
		n++
		crews := []string{}
		for c, crew := range p.Crews {
			if !t.Unattended && has(crew.Skills, t.Skills) {
				crews = append(crews, fmt.Sprint(c+1))
			}
		}
		if t.Unattended {
			crews = []string{"0"}
		}
		say("var %d..H: s%d; var {%s}: c%d; var 0..H: d%d; var 0..H: e%d = s%d + d%d;", job.Release, n, strings.Join(crews, ","), n, n, n, n, n)
		say("constraint e%d <= until[c%d, s%d];", n, n, n)
		work := []string{fmt.Sprint(t.Duration)}
		for a, after := range t.After {
			o, known := index[job.ID+"/"+after.Task]
			if !known {
				o = index[after.Task]
			}
			mark := fmt.Sprint("e", o)
			if after.From == Start {
				mark = fmt.Sprint("s", o)
			}
			say("constraint s%d >= %s + %d;", n, mark, after.Min)
			if after.Max == nil {
				continue
			}
			if after.Buy == nil {
				say("constraint s%d <= %s + %d;", n, mark, *after.Max)
				continue
			}
			say("var bool: b%d_%d; constraint not b%d_%d -> s%d <= %s + %d;", n, a, n, a, n, mark, *after.Max)
			work = append(work, fmt.Sprintf("%d*bool2int(b%d_%d)", after.Buy.Slots, n, a))
			goal = append(goal, fmt.Sprintf("%d*bool2int(b%d_%d)", modelBought, n, a))
		}
		say("constraint d%d = %s;", n, strings.Join(work, "+"))
		ends[at.job] = append(ends[at.job], fmt.Sprint("e", n))
		for o := 1; o < n; o++ {
			say("constraint c%d != c%d \\/ c%d = 0 \\/ e%d <= s%d \\/ e%d <= s%d;", n, o, n, n, o, o, n)
		}
	}
	for _, machine := range p.Machines {
		var s, d, one []string
		for n, at := range all {
			for _, m := range p.Jobs[at.job].Tasks[at.task].Machines {
				if m == machine.ID {
					s, d, one = append(s, fmt.Sprint("s", n+1)), append(d, fmt.Sprint("d", n+1)), append(one, "1")
				}
			}
		}
		if len(s) > 0 {
			say("constraint cumulative([%s], [%s], [%s], %d);", strings.Join(s, ","), strings.Join(d, ","), strings.Join(one, ","), machine.Capacity)
		}
	}
	for j, job := range p.Jobs {
		say("var 0..H: f%d = max([%s]);", j, strings.Join(ends[j], ","))
		finish = append(finish, fmt.Sprint("f", j))
		if job.Due != nil {
			goal = append(goal, fmt.Sprintf("%d*%d*max(0, f%d-%d)", modelLate, max(1, job.Weight), j, *job.Due))
		}
	}
	say("var int: cost = %s;\nsolve minimize cost;\noutput [\"cost=\", show(cost), \"\\n\"];", strings.Join(append(goal, "max(["+strings.Join(finish, ",")+"])"), "+"))
	return b.String()
}

// Small problems against a constraint model of their own, solved by Gecode through
// MiniZinc (Debian's minizinc, flatzinc): the same optimum, with and without greatest
// gaps, and no plan where that finds none.
func TestOptimumOfAConstraintSolver(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 3))
	folder := t.TempDir()
	fitted, none := 0, 0
	for n := range 16 {
		p := random(r, 2+r.IntN(2), 2+r.IntN(2), 1+r.IntN(2), n%2 == 0)
		p.Travel, p.Horizon = nil, 120
		if n%4 == 3 {
			p.Horizon = 34 // little time: nothing may fit
		}
		for c := range p.Crews {
			var shifts []Shift
			for _, s := range p.Crews[c].Shifts {
				if !s.Overtime {
					shifts = append(shifts, s)
				}
			}
			p.Crews[c].Shifts = shifts
		}
		for j := range p.Jobs {
			p.Jobs[j].Release %= 24
			for k := range p.Jobs[j].Tasks {
				p.Jobs[j].Tasks[k].Breakable = false
				for a := range p.Jobs[j].Tasks[k].After {
					if after := &p.Jobs[j].Tasks[k].After[a]; n%4 == 1 {
						after.Max, after.Buy = nil, nil
					}
				}
			}
		}
		file := filepath.Join(folder, fmt.Sprint("p", n, ".mzn"))
		if err := os.WriteFile(file, []byte(modelled(p)), 0o600); err != nil {
			t.Fatal(err)
		}
		said, err := exec.CommandContext(t.Context(), "minizinc", "--solver", "gecode", "--time-limit", "30000", file).Output()
		if err != nil {
			if failed := new(exec.ExitError); errors.As(err, &failed) {
				said = failed.Stderr
			}
			t.Fatalf("minizinc (Debian: minizinc, flatzinc): %v\n%s", err, said)
		}
		plan, err := Solve(t.Context(), p, Options{Rounds: 100_000, Seed: 1})
		var c *Conflict
		if errors.As(err, &c) && c.Proven {
			none++
			if !strings.Contains(string(said), "UNSATISFIABLE") {
				t.Errorf("problem %d: %v, where the solver says %s", n, err, said)
			}
			continue
		}
		if err != nil {
			t.Fatalf("problem %d: %v", n, err)
		}
		fitted++
		best := int64(0)
		if !strings.Contains(string(said), "==========") {
			t.Fatalf("problem %d: the solver proved nothing: %s", n, said)
		}
		for _, line := range strings.Split(string(said), "\n") {
			fmt.Sscanf(line, "cost=%d", &best)
		}
		if own := plan.Cost[Late]*modelLate + plan.Cost[Bought]*modelBought + plan.Cost[Finish]; own != best || !plan.Optimal() {
			t.Errorf("problem %d: %d, proven %v, where the solver says %d", n, own, plan.Optimal(), best)
		}
	}
	if fitted < 10 || none < 1 {
		t.Errorf("%d with a plan, %d without", fitted, none)
	}
}
