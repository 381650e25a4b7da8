package search

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/roster"
	"nephelon/core/roster/model"
)

// stretches tell, slot by slot and without anything of the planner, where a task ends that
// starts in each slot, and how much overtime lies in it; −1 where it cannot start.
func stretches(p roster.Problem, job roster.Job, t roster.Task, crew *roster.Crew, overtime bool,
	work roster.Slot) (ends, over []string) {
	within := func(all []roster.Window, s roster.Slot) bool {
		return slices.ContainsFunc(all, func(w roster.Window) bool {
			if w.Every > 0 && s >= w.From {
				s = w.From + (s-w.From)%w.Every
			}
			return s >= w.From && s < w.Until
		})
	}
	open := func(s roster.Slot) (open, paid bool) {
		if len(job.Access) > 0 && !within(job.Access, s) || len(t.Windows) > 0 && !within(t.Windows, s) {
			return false, false
		}
		if crew == nil {
			return true, false
		}
		if t.Breakable && within(crew.Rests, s) {
			return false, false
		}
		paid = true
		for _, shift := range crew.Shifts {
			if (overtime || !shift.Overtime) && within([]roster.Window{shift.Window}, s) {
				open, paid = true, paid && shift.Overtime
			}
		}
		return open, open && paid
	}
	for from := roster.Slot(0); from <= p.Horizon; from++ {
		end, extra := from, roster.Slot(0)
		starts, _ := open(from)
		fits := from < p.Horizon && starts
		for left := work; fits && left > 0; end++ {
			is, paid := open(end)
			fits = end < p.Horizon && (is || t.Breakable && crew != nil)
			if is {
				left--
			}
			if is && paid {
				extra++
			}
			for _, m := range p.Machines {
				fits = fits && !(slices.Contains(t.Machines, m.ID) && within(m.Closed, end))
			}
		}
		if !fits || overtime && extra == 0 {
			end, extra = -1, -1
		}
		ends, over = append(ends, fmt.Sprint(end)), append(over, fmt.Sprint(extra))
	}
	return ends, over
}

// modelled writes a problem as a MiniZinc model of its own. bar is a cost that is not to be
// beaten: the model asks for a schedule that costs less, or, where same is asked, as much.
func modelled(p roster.Problem, bar *roster.Cost, same bool) string {
	var b strings.Builder
	say := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	say("include \"cumulative.mzn\"; include \"lex_less.mzn\"; include \"lex_lesseq.mzn\";\nint: H = %d;", p.Horizon)
	type place struct{ job, task int }
	var all []place
	index := make(map[string]int)
	for j, job := range p.Jobs {
		for k, t := range job.Tasks {
			all = append(all, place{j, k})
			index[job.ID+"/"+t.ID] = len(all)
		}
	}
	var bought, overtime, finish, ways []string
	ends := make([][]string, len(p.Jobs))
	way := func(a, b roster.Job) roster.Slot {
		for _, t := range p.Travel {
			if a.Place != b.Place && (t.From == a.Place && t.To == b.Place || t.From == b.Place && t.To == a.Place) {
				return t.Slots
			}
		}
		return 0
	}
	for n, at := range all {
		job := p.Jobs[at.job]
		t := job.Tasks[at.task]
		n++
		var buys []int // of its gaps
		for a, after := range t.After {
			o, known := index[job.ID+"/"+after.Task]
			if !known {
				o = index[after.Task]
			}
			mark := fmt.Sprint("e", o)
			if after.From == roster.Start {
				mark = fmt.Sprint("s", o)
			}
			say("constraint s%d >= %s + %d;", n, mark, after.Min)
			switch {
			case after.Max == nil:
			case after.Buy == nil:
				say("constraint s%d <= %s + %d;", n, mark, *after.Max)
			default:
				buys = append(buys, a)
				say("var 0..1: b%d_%d; constraint b%d_%d = bool2int(s%d > %s + %d);", n, a, n, a, n, mark, *after.Max)
				bought = append(bought, fmt.Sprintf("b%d_%d", n, a))
			}
		}
		// Rows of a table by what is bought, who does it and whether in overtime.
		var rows, extra, crews, what []string
		for pattern := range 1 << len(buys) {
			work := t.Duration
			var is []string
			for k, a := range buys {
				work += roster.Slot(pattern>>k&1) * t.After[a].Buy.Slots
				is = append(is, fmt.Sprintf("b%d_%d*%d", n, a, 1<<k))
			}
			what = append([]string{"0"}, is...)
			add := func(c int, crew *roster.Crew, over bool) {
				e, o := stretches(p, job, t, crew, over, work)
				rows, extra = append(rows, strings.Join(e, ",")), append(extra, strings.Join(o, ","))
				crews = append(crews, fmt.Sprint(c))
			}
			if t.Unattended {
				add(0, nil, false)
				continue
			}
			for c, crew := range p.Crews {
				if model.Has(crew.Skills, t.Skills) {
					add(c+1, &crew, false)
					add(c+1, &crew, true)
				}
			}
		}
		per := len(rows) / (1 << len(buys))
		say("array[1..%d, 0..H] of int: ends%d = array2d(1..%d, 0..H, [%s]);", len(rows), n, len(rows),
			strings.Join(rows, ","))
		say("array[1..%d, 0..H] of int: extra%d = array2d(1..%d, 0..H, [%s]);", len(rows), n, len(rows),
			strings.Join(extra, ","))
		say("array[1..%d] of int: who%d = [%s];", len(rows), n, strings.Join(crews, ","))
		say("var %d..H: s%d; var 0..H: e%d; var 1..%d: w%d; var 0..%d: c%d; var 0..H: o%d; var 0..H: d%d = e%d - s%d;",
			job.Release, n, n, len(rows), n, len(p.Crews), n, n, n, n, n)
		say("constraint e%d = ends%d[w%d, s%d] /\\ o%d = extra%d[w%d, s%d] /\\ c%d = who%d[w%d] /\\ (w%d - 1) div %d = %s;",
			n, n, n, n, n, n, n, n, n, n, n, n, per, strings.Join(what, "+"))
		ends[at.job] = append(ends[at.job], fmt.Sprint("e", n))
		overtime = append(overtime, fmt.Sprint("o", n))
		for o := 1; o < n; o++ {
			w := way(job, p.Jobs[all[o-1].job])
			say("constraint c%d != c%d \\/ c%d = 0 \\/ e%d + %d <= s%d \\/ e%d + %d <= s%d;", n, o, n, n, w, o, o, w, n)
		}
	}
	placed := func(n int) bool {
		job := p.Jobs[all[n-1].job]
		return job.Place != "" && !job.Tasks[all[n-1].task].Unattended
	}
	for i := 1; i <= len(all); i++ {
		for o := 1; o <= len(all); o++ {
			w := way(p.Jobs[all[i-1].job], p.Jobs[all[o-1].job])
			if i == o || w == 0 || !placed(i) || !placed(o) {
				continue
			}
			next := fmt.Sprintf("c%d = c%d /\\ e%d <= s%d", i, o, i, o)
			for k := 1; k <= len(all); k++ {
				if k != i && k != o && placed(k) {
					next += fmt.Sprintf(" /\\ not (c%d = c%d /\\ e%d <= s%d /\\ e%d <= s%d)", k, i, i, k, k, o)
				}
			}
			ways = append(ways, fmt.Sprintf("%d*bool2int(%s)", w, next))
		}
	}
	for _, machine := range p.Machines {
		var s, d, one []string
		for n, at := range all {
			if slices.Contains(p.Jobs[at.job].Tasks[at.task].Machines, machine.ID) {
				s, d, one = append(s, fmt.Sprint("s", n+1)), append(d, fmt.Sprint("d", n+1)), append(one, "1")
			}
		}
		if len(s) > 0 {
			say("constraint cumulative([%s], [%s], [%s], %d);", strings.Join(s, ","), strings.Join(d, ","),
				strings.Join(one, ","), machine.Capacity)
		}
	}
	var late []string
	for j, job := range p.Jobs {
		say("var 0..H: f%d = max([%s]);", j, strings.Join(ends[j], ","))
		finish = append(finish, fmt.Sprint("f", j))
		if job.Due != nil {
			late = append(late, fmt.Sprintf("%d*max(0, f%d-%d)", max(1, job.Weight), j, *job.Due))
		}
	}
	sum := func(all []string) string { return strings.Join(append(all, "0"), "+") }
	say("array[1..5] of var int: cost = [%s, %s, %s, %s, max([%s])];", sum(late), sum(bought), sum(overtime), sum(ways),
		strings.Join(finish, ","))
	if bar != nil {
		order := "lex_less"
		if same {
			order = "lex_lesseq"
		}
		say("constraint cost[1] <= %d /\\ %s(cost, [%d, %d, %d, %d, %d]);", bar[roster.Late], order, bar[roster.Late],
			bar[roster.Bought],
			bar[roster.Overtime], bar[roster.Moving], bar[roster.Finish])
	}
	var starts, how []string
	for n := range all {
		starts, how = append(starts, fmt.Sprint("s", n+1)), append(how, fmt.Sprint("w", n+1))
	}
	say("solve :: seq_search([int_search([%s], first_fail, indomain_min), int_search([%s], smallest, indomain_min)]) "+
		"satisfy;", strings.Join(how, ","), strings.Join(starts, ","))
	say("\noutput [\"cost=\", show(cost), \"\\n\"];")
	return b.String()
}

// Small problems against a constraint model of their own, solved by Gecode through
// MiniZinc (Debian's minizinc, flatzinc), with and without greatest gaps, with breaks,
// overtime and travel: it finds a schedule that costs what the plan costs, none that costs
// less, and none at all where the planner says that nothing fits.
func TestOptimumOfAConstraintSolver(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 3))
	folder := t.TempDir()
	ask := func(model string) bool {
		t.Helper()
		file := filepath.Join(folder, "p.mzn")
		if err := os.WriteFile(file, []byte(model), 0o600); err != nil {
			t.Fatal(err)
		}
		said, err := exec.CommandContext(t.Context(), "minizinc", "--solver", "gecode", "--time-limit", "60000",
			file).Output()
		if err != nil {
			if failed := new(exec.ExitError); errors.As(err, &failed) {
				said = failed.Stderr
			}
			t.Fatalf("minizinc (Debian: minizinc, flatzinc): %v\n%s", err, said)
		}
		switch text := string(said); {
		case strings.Contains(text, "UNSATISFIABLE"):
			return false
		case strings.Contains(text, "cost="):
			return true
		default:
			t.Fatalf("the solver proved nothing: %s", said)
			return false
		}
	}
	fitted, none := 0, 0
	seen := roster.Cost{}
	for n := range 32 {
		p := random(r, 2+n%5/4, 2+r.IntN(2), 1+r.IntN(2), n%2 == 0)
		p.Horizon = 90
		if n%4 == 3 {
			p.Horizon = 34 // little time: nothing may fit
		}
		for j := range p.Jobs {
			job := &p.Jobs[j]
			job.Release %= 24
			if job.Due != nil {
				job.Due = at(job.Release + *job.Due%30)
			}
			for k := range job.Tasks {
				for a := range job.Tasks[k].After {
					if after := &job.Tasks[k].After[a]; n%4 == 1 {
						after.Max, after.Buy = nil, nil
					} else if after.Max != nil && n%4 == 2 {
						after.Max, after.Buy = at(after.Min+roster.Slot(r.IntN(5))), &roster.Buy{Slots: 1} // they close soon
					}
				}
			}
		}
		ctx, cancel := context.WithTimeout(t.Context(), 30*time.Second)
		plan, err := Solve(ctx, p, Options{Seed: 1})
		cancel()
		var c *Conflict
		if errors.As(err, &c) && c.Proven {
			if none++; ask(modelled(p, nil, false)) {
				t.Errorf("problem %d: %v, and the solver finds a plan", n, err)
			}
			continue
		}
		if err != nil {
			t.Fatalf("problem %d: %v", n, err)
		}
		fitted++
		for part := range roster.Parts {
			seen[part] += plan.Cost[part]
		}
		if fault, cost := broken(p, plan.Bookings); fault != "" || cost != plan.Cost || !plan.Optimal() {
			t.Errorf("problem %d: %s %v, %v", n, fault, plan.Cost, plan.Optimal())
		}
		if !ask(modelled(p, &plan.Cost, true)) {
			t.Errorf("problem %d: the solver finds none that costs %v", n, plan.Cost)
		}
		if ask(modelled(p, &plan.Cost, false)) {
			t.Errorf("problem %d: the solver finds one that costs less than %v", n, plan.Cost)
		}
	}
	if fitted < 12 || none < 1 || seen[roster.Late] == 0 || seen[roster.Bought] == 0 || seen[roster.Overtime] == 0 ||
		seen[roster.Moving] == 0 {
		t.Errorf("%d with a plan, %d without; in all %v", fitted, none, seen)
	}
}
