package days

import (
	"fmt"
	"slices"
	"time"

	"nephelon/core/facts"
	"nephelon/core/work"
)

// unended bounds how long after its planned end a pour whose last section was not logged is taken
// for one that goes on: common practice, no source.
const unended = 4 * time.Hour

// Lain is a pour as it was logged, with setting up and cleaning as they are planned around it.
type Lain struct {
	Job   string    `json:"job"`
	Task  string    `json:"task"`
	From  time.Time `json:"from"`
	Until time.Time `json:"until" doc:"When its crew is free: as expected while it is under way"`
	Open  bool      `json:"open,omitempty" doc:"True while the last section is not logged"`
}

// begun notes the pours of a job that were begun, with how long those are held that are booked.
func (c *Calendar) begun(j Job, held map[string]Booked) {
	if len(j.Laid) == 0 {
		return
	}
	logged := make(map[string]facts.Laid, len(j.Laid))
	for _, l := range j.Laid {
		logged[l.Coat] = l
	}
	all, _ := blocks(j)
	for _, b := range all {
		if len(b.parts) == 0 {
			continue
		}
		first, begun := logged[b.parts[0].Coat]
		if !begun {
			continue
		}
		for _, p := range b.parts {
			if l, is := logged[p.Coat]; is && l.Broken != nil {
				c.broken[j.ID+"/"+string(b.ID)] = l
			}
		}
		if _, is := c.broken[j.ID+"/"+string(b.ID)]; is {
			continue // what is left of it is work to come
		}
		lasts := time.Duration(c.length(b.lasts)) * c.slot
		if was, booked := held[j.ID+"/"+string(b.ID)]; booked {
			lasts = max(lasts, was.Until.Sub(was.From)) // with what rests over a night
		}
		own := stood(first, logged[b.parts[len(b.parts)-1].Coat], b.starts[b.parts[0].ID], lasts, c.now)
		own.Job, own.Task = j.ID, string(b.ID)
		c.lain[own.Job+"/"+own.Task] = own
	}
}

// stood returns when a crew is at a pour that was begun: from so long before its first section, for as
// long as it is planned while its last one is not done.
func stood(first, last facts.Laid, before, lasts time.Duration, now time.Time) Lain {
	from := first.From.Add(-before)
	own := Lain{From: from, Until: from.Add(lasts), Open: true}
	if last.Until != nil {
		own.Until, own.Open = last.Until.Add(cleaningUp), false
	} else if now.After(own.Until) && now.Before(own.Until.Add(unended)) {
		own.Until = now
	}
	return own
}

// AsLogged returns bookings in order of time, those whose pours were begun when they were: for whoever
// asks without a calendar. What was logged goes by job.
func AsLogged(booked []Booked, laid map[string][]facts.Laid, now time.Time) []Booked {
	all := slices.Clone(booked)
	for n := range all {
		b := &all[n]
		if len(b.Pours) == 0 {
			continue
		}
		of := func(p BookedPour) (facts.Laid, bool) {
			at := slices.IndexFunc(laid[b.Job], func(l facts.Laid) bool { return string(work.PourID(l.Coat)) == p.Task })
			if at < 0 {
				return facts.Laid{}, false
			}
			return laid[b.Job][at], true
		}
		if first, begun := of(b.Pours[0]); begun {
			last, _ := of(b.Pours[len(b.Pours)-1])
			if first.Broken != nil {
				if !b.From.After(*first.Broken) {
					b.Until = *first.Broken
				}
				continue
			}
			was := stood(first, last, b.Pours[0].From.Sub(b.From), b.Until.Sub(b.From), now)
			b.From, b.Until = was.From, was.Until
			if b.Changed++; !was.Open { // a later state of the same booking
				b.Changed++
			}
		}
	}
	slices.SortStableFunc(all, func(a, b Booked) int { return a.From.Compare(b.From) })
	return all
}

// preceding returns the blocks that come before others, directly or not.
func (c *Calendar) preceding(j Job, of map[work.ID]*block) map[*block]bool {
	before := make(map[*block][]*block)
	for _, t := range j.Plan.Tasks {
		for _, a := range t.After {
			if b := of[a.Task]; b != nil && b != of[t.ID] {
				before[of[t.ID]] = append(before[of[t.ID]], b)
			}
		}
	}
	out := make(map[*block]bool)
	var walk func(b *block)
	walk = func(b *block) {
		for _, p := range before[b] {
			if !out[p] {
				out[p] = true
				walk(p)
			}
		}
	}
	for _, b := range of {
		key := j.ID + "/" + string(b.ID)
		_, begun := c.lain[key]
		if _, broken := c.broken[key]; begun || broken {
			walk(b)
		}
	}
	return out
}

// actual returns bookings with what was logged in their place, followed by what was logged without one.
func (c *Calendar) actual(booked []Booked) []Booked {
	if len(c.lain)+len(c.broken) == 0 {
		return booked
	}
	all, seen := slices.Clone(booked), make(map[string]bool)
	for n := range all {
		if l, is := c.broken[all[n].key()]; is && !all[n].From.After(*l.Broken) {
			all[n].Until = *l.Broken
		}
		if l, there := c.lain[all[n].key()]; there {
			all[n].From, all[n].Until, seen[all[n].key()] = l.From, l.Until, true
		}
	}
	for _, l := range c.Lain() {
		if b := (Booked{Job: l.Job, Task: l.Task, From: l.From, Until: l.Until}); !seen[b.key()] {
			all = append(all, b)
		}
	}
	return all
}

// Lain returns the pours that were begun, in order of time.
func (c *Calendar) Lain() []Lain {
	all := make([]Lain, 0, len(c.lain))
	for _, l := range c.lain {
		all = append(all, l)
	}
	slices.SortFunc(all, func(a, b Lain) int {
		if order := a.From.Compare(b.From); order != 0 {
			return order
		}
		return slices.Compare([]string{a.Job, a.Task}, []string{b.Job, b.Task})
	})
	return all
}

// Asked returns the booked work that is over, of which nothing tells that it was done, neither a log nor a
// coat that was begun over it, and what a failed test has done again: until somebody says so it counts as booked.
func (c *Calendar) Asked(booked []Booked) []Broken {
	all := []Broken{}
	for _, b := range booked {
		at, there := c.index[b.key()]
		step := facts.StepOf(c.byJob[b.Job].Steps, b.Task)
		if !there || b.Crew == "" || step.Again == "" && (b.Done || step.Closed) {
			continue
		}
		if _, broken := c.broken[b.key()]; broken || c.covered[b.key()] {
			continue // what was laid tells of it
		}
		l, logged := c.lain[b.key()]
		name := c.Tasks[at].Name
		switch {
		case step.Again != "" && b.From.Before(c.now):
			all = append(all, Broken{b.Job, b.Task, fmt.Sprintf("%s: to be done again: %s.", name, step.Again)})
		case !logged && !b.Until.After(c.now):
			all = append(all, Broken{b.Job, b.Task,
				fmt.Sprintf("%s: booked for %s, and nothing was logged.", name, c.when(b.From))})
		case logged && l.Open && l.Until.Add(unended).Before(c.now):
			all = append(all, Broken{b.Job, b.Task,
				fmt.Sprintf("%s: begun %s, and its last section was not logged.", name, c.when(l.From))})
		}
	}
	return all
}

// Fit names how a booking fits what was logged before it.
type Fit string

// How a booking fits.
const (
	Late  Fit = "late"  // it is outside its window
	Tight Fit = "tight" // its window opens or closes soon before or after
	Free  Fit = "free"
)

// Values returns all values, in the order in which they are shown.
func (Fit) Values() []Fit { return []Fit{Late, Tight, Free} }

// What is left to a window before a booking is tight: common practice, no source.
const (
	tightOpen  = 30 * time.Minute
	tightClose = time.Hour
)

// Follow is a booking whose window counts from a pour that was logged.
type Follow struct {
	Job    string     `json:"job"`
	Task   string     `json:"task"`
	Fit    Fit        `json:"fit"`
	Opens  *time.Time `json:"opens,omitempty"`
	Closes *time.Time `json:"closes,omitempty"`
	Text   string     `json:"text"`
}

// Follows returns what is booked after pours that were logged, and how it fits them.
func (c *Calendar) Follows(booked []Booked) []Follow {
	all := []Follow{}
	windows := c.Allowed(booked)
	for _, b := range booked {
		at, there := c.index[b.key()]
		if _, laid := c.lain[b.key()]; laid || !there || b.From.Before(c.now) ||
			!slices.ContainsFunc(c.gaps[b.key()], func(g gap) bool {
				_, laid := c.lain[b.Job+"/"+g.task]
				return laid && (g.least != nil || g.most != nil)
			}) {
			continue
		}
		w := windows[b.key()]
		own := Follow{Job: b.Job, Task: b.Task, Fit: Free, Opens: w.Opens, Closes: w.Closes,
			Text: fmt.Sprintf("%s, booked for %s", c.Tasks[at].Name, c.when(b.From))}
		if w.Opens != nil {
			if left := b.From.Sub(*w.Opens); left < 0 {
				own.Fit = Late
			} else if left < tightOpen {
				own.Fit = Tight
			}
			own.Text += ", opens " + c.when(*w.Opens)
		}
		if w.Closes != nil {
			if left := w.Closes.Sub(b.From); left < 0 && !b.Bought {
				own.Fit = Late
			} else if left >= 0 && left < tightClose && own.Fit == Free {
				own.Fit = Tight
			}
			own.Text += ", closes " + c.when(*w.Closes)
		}
		own.Text += "."
		all = append(all, own)
	}
	return all
}
