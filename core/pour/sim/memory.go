package sim

import (
	"encoding/binary"
	"math"
	"sync"

	"nephelon/core/measure"
	"nephelon/core/work"
)

// Memory keeps trains as they were run best, since an edit of a job changes few of them.
// It may be shared. A nil one keeps nothing. What it returns is shared, too, and may not
// be changed.
type Memory struct {
	mutex  sync.Mutex
	kept   map[string]Run
	stints int
}

// mostStints bounds what a memory keeps, some 20 MB; it is emptied then.
const mostStints = 300_000

// NewMemory keeps nothing yet.
func NewMemory() *Memory { return &Memory{kept: make(map[string]Run)} }

// Best is Best of a train whose film can be worked as long wherever it is laid.
func (m *Memory) Best(r *Runner, t Train) (Run, error) {
	if m == nil {
		return r.Best(t)
	}
	r.write(t)
	m.mutex.Lock()
	run, known := m.kept[string(r.key)]
	m.mutex.Unlock()
	if known {
		return run, nil
	}
	run, err := r.Best(t)
	if err != nil {
		return Run{}, err
	}
	m.mutex.Lock()
	defer m.mutex.Unlock()
	if m.stints += len(run.Parts); m.stints > mostStints {
		clear(m.kept)
		m.stints = len(run.Parts)
	}
	m.kept[string(r.key)] = run
	return run, nil
}

// played are the parts of which a train asks whether somebody plays them.
func played() [works + 2]work.Role {
	all := [works + 2]work.Role{works: work.Mixer, works + 1: work.Runner}
	for w := range works {
		all[w] = roleOf(w)
	}
	return all
}

// write writes the key of a train: what its run depends on, digit by digit.
func (r *Runner) write(t Train) {
	key := r.key[:0]
	add := func(v float64) { key = binary.LittleEndian.AppendUint64(key, math.Float64bits(v)) }
	number := func(n int) { key = binary.LittleEndian.AppendUint64(key, uint64(n)) }
	life := measure.Span(-1)
	if t.Edge != nil {
		life = t.Edge(0)
	}
	add(float64(life))
	add(float64(t.Shift))
	add(float64(t.Light))
	number(t.Drills)
	drawn := 0
	if t.Drawn {
		drawn = 1
	}
	number(drawn)
	number(len(t.People))
	roles := played()
	for i := range t.People {
		plays := 0
		for n, role := range roles {
			if t.People[i].Plays(role) {
				plays |= 1 << n
			}
		}
		number(plays)
	}
	number(len(t.Batches))
	for k := range t.Batches {
		b := &t.Batches[k]
		for _, s := range [...]measure.Span{b.Open, b.Mix, b.Stand, b.Carry, b.Life, b.Cross} {
			add(float64(s))
		}
		for _, s := range b.Works {
			add(float64(s))
		}
		add(b.Lap)
		number(len(b.Beside))
		for _, n := range b.Beside {
			number(n)
		}
	}
	r.key = key
}
