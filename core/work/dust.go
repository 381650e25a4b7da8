package work

import "slices"

// Dusty reports whether a task that runs on machines fills the air of its place with dust.
func Dusty(machines []Machine) bool {
	return slices.ContainsFunc(machines, func(m Machine) bool {
		return m == Grinder || m == Blaster || m == Screener || m == Sander
	})
}

// ClearAir orders the tasks of surfaces that share their air, so that no dust falls on an open film: whatever grinds or
// sands the other surfaces comes before the first coat of each, and what abrades their films before the coats of the
// same round that are abraded, too. Surfaces that are apart have air of their own, or are begun later anyway.
func ClearAir(tasks []Task, apart func(surface string) bool) {
	ground := make(map[string]ID) // the last dusty preparation of each surface
	rounds := make(map[string][]int)
	abraded := make(map[string]map[int]ID) // by surface and round
	var surfaces []string
	for n, t := range tasks {
		if apart(t.Surface) {
			continue
		}
		if !slices.Contains(surfaces, t.Surface) {
			surfaces, abraded[t.Surface] = append(surfaces, t.Surface), make(map[int]ID)
		}
		switch {
		case t.Kind == Pour:
			rounds[t.Surface] = append(rounds[t.Surface], n)
		case t.Kind == Abrade:
			abraded[t.Surface][len(rounds[t.Surface])] = t.ID
		case Dusty(t.Needs.Machines):
			ground[t.Surface] = t.ID
		}
	}
	for _, s := range surfaces {
		for round, n := range rounds[s] {
			for _, other := range surfaces {
				before := ground[other]
				if round > 0 {
					if before = abraded[other][round]; abraded[s][round] == "" {
						continue
					}
				}
				if other != s && before != "" {
					tasks[n].After = append(slices.Clone(tasks[n].After), After{Task: before})
				}
			}
		}
	}
}
