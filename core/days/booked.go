package days

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"time"

	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/roster"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// Booked is a task in a crew's days. It is what people decide; all else follows.
type Booked struct {
	Job    string    `json:"job" maxLength:"60"`
	Task   string    `json:"task" maxLength:"250"`
	Title  string    `json:"title,omitempty" maxLength:"400" doc:"What it was called when it was booked"`
	Crew   string    `json:"crew,omitempty" maxLength:"60" doc:"Absent where nobody works at it"`
	From   time.Time `json:"from"`
	Until  time.Time `json:"until"`
	Pinned bool      `json:"pinned,omitempty" doc:"Stays where it is when all else is planned anew"`
	Done   bool      `json:"done,omitempty" doc:"Somebody said that it was done as booked, where nothing was logged"`
	Bought bool      `json:"bought,omitempty" doc:"The window before it was missed: it begins with abrading"`

	Pours []BookedPour `json:"pours,omitempty" maxItems:"40" doc:"Pours within it; set by the server"`

	Changed int64 `json:"changed,omitempty" doc:"The revision of the roster in which it was last changed; set by the server"`
}

// BookedPour holds when a pour within a booking begins with its first kit, and when its last section is done.
type BookedPour struct {
	Task  string    `json:"task" maxLength:"250"`
	From  time.Time `json:"from"`
	Until time.Time `json:"until"`
	Ready *Ready    `json:"ready,omitempty"`
}

// Parted returns bookings with the pours within them, as their jobs are planned now, and with when
// their pails are made ready.
func (c *Calendar) Parted(booked []Booked) []Booked {
	of := make(map[string]map[work.ID]*block)
	all := slices.Clone(booked)
	for n := range all {
		b := &all[n]
		job, there := c.byJob[b.Job]
		if !there {
			continue
		}
		if of[b.Job] == nil {
			_, of[b.Job] = blocks(job)
		}
		in := of[b.Job][work.ID(b.Task)]
		if in == nil || len(in.parts) == 0 {
			continue
		}
		b.Pours = make([]BookedPour, len(in.parts))
		for k, t := range in.parts {
			b.Pours[k] = BookedPour{Task: string(t.ID), From: b.From.Add(in.starts[t.ID]), Until: b.Until.Add(-in.behind(t.ID))}
		}
	}
	c.readied(all)
	return all
}

// Stamp marks the bookings that are other than before as changed in a revision; the others keep theirs.
func Stamp(booked, before []Booked, revision int64) []Booked {
	held := byTask(before)
	all := slices.Clone(booked)
	for n := range all {
		b := &all[n]
		was, there := held[b.key()]
		if same := there && was.From.Equal(b.From) && was.Until.Equal(b.Until) && was.Crew == b.Crew &&
			was.Title == b.Title; same {
			b.Changed = was.Changed
		} else {
			b.Changed = revision
		}
	}
	return all
}

// Rebooked returns the jobs whose bookings differ, in order.
func Rebooked(before, after []Booked) []string {
	held := byTask(before)
	jobs := make(map[string]bool)
	for _, b := range after {
		was, there := held[b.key()]
		if !there || !was.From.Equal(b.From) || !was.Until.Equal(b.Until) || was.Crew != b.Crew || was.Done != b.Done {
			jobs[b.Job] = true
		}
		delete(held, b.key())
	}
	for _, gone := range held {
		jobs[gone.Job] = true
	}
	return slices.Sorted(maps.Keys(jobs))
}

// Facts returns bookings of one job as its plan takes them, with the names of a house's crews.
func Facts(booked []Booked, house job.House) []facts.Booking {
	names, people := make(map[string]string), make(map[string][]string)
	for _, c := range job.CrewsOf(house) {
		names[c.ID], people[c.ID] = c.Name, c.Members
	}
	all := make([]facts.Booking, 0, len(booked))
	for _, b := range booked {
		pours := b.Pours
		if len(pours) == 0 {
			pours = []BookedPour{{Task: b.Task, From: b.From, Until: b.Until}}
			if around := settingUp + cleaningUp; strings.HasSuffix(b.Task, "/pour") && b.Until.Sub(b.From) > around {
				pours[0].From, pours[0].Until = b.From.Add(settingUp), b.Until.Add(-cleaningUp) // booked before pours were kept
			}
		}
		for _, p := range pours {
			one := facts.Booking{Task: p.Task, From: p.From, Until: p.Until, Crew: names[b.Crew], People: people[b.Crew],
				Done: b.Done}
			if b.From.Before(p.From) {
				one.Comes = &b.From
			}
			if p.Ready != nil {
				one.Ready = &facts.Window{From: p.Ready.From, Until: p.Ready.Until}
			}
			all = append(all, one)
		}
	}
	return all
}

// Wetted returns the bookings of wet preparation that are over, by their jobs, as plans take them:
// they make readings void, whatever else is booked.
func Wetted(booked []Booked, now time.Time) map[string][]facts.Booking {
	out := make(map[string][]facts.Booking)
	for _, b := range booked {
		step := b.Task[strings.LastIndex(b.Task, "/")+1:]
		if !b.Until.After(now) && survey.Wets(step) {
			out[b.Job] = append(out[b.Job], facts.Booking{Task: b.Task, From: b.From, Until: b.Until})
		}
	}
	return out
}

func (b Booked) key() string { return b.Job + "/" + b.Task }

func byTask(booked []Booked) map[string]Booked {
	all := make(map[string]Booked, len(booked))
	for _, b := range booked {
		all[b.key()] = b
	}
	return all
}

// longestBooking is more than any task takes.
const longestBooking = 60 * 24 * time.Hour

// Fault returns what is wrong with bookings, and where; empty where nothing is.
func Fault(booked []Booked) (at int, text string) {
	seen := make(map[string]bool, len(booked))
	for n, b := range booked {
		switch took := b.Until.Sub(b.From); {
		case took < 0:
			return n, "It ends before it begins. Give it an end after its beginning."
		case took > longestBooking:
			return n, "It takes more than sixty days. Give it an end nearer to its beginning."
		case seen[b.key()]:
			return n, "Its task is booked twice. Keep one of the two."
		}
		seen[b.key()] = true
	}
	return 0, ""
}

// Booked are the bookings of a plan, in order of time; what was pinned stays pinned.
func (c *Calendar) Booked(p roster.Plan, before []Booked) []Booked {
	held := byTask(before)
	all := make([]Booked, 0, len(p.Bookings))
	for _, b := range p.Bookings {
		t := c.Tasks[c.index[b.Job+"/"+b.Task]]
		was, there := held[t.key()]
		if _, laid := c.lain[t.key()]; laid && !there {
			continue // nobody was booked for it
		}
		if there && was.From.Before(c.now) && !c.over(was) {
			all = append(all, was)
			continue
		}
		title := t.Name
		if !strings.Contains(title, t.Surface) {
			title = t.Surface + ": " + title
		}
		all = append(all, Booked{Job: b.Job, Task: b.Task, Title: title, Crew: b.Crew, From: c.time(b.Start),
			Until: c.time(b.End), Pinned: there && was.Pinned, Bought: len(b.Bought) > 0})
	}
	slices.SortStableFunc(all, func(a, b Booked) int {
		return cmp.Or(a.From.Compare(b.From),
			cmp.Compare(a.Crew, b.Crew))
	})
	return all
}

// Next are the bookings of the first day, from a time on, on which there are any; of today, those that are not over.
func Next(booked []Booked, now time.Time) []Booked {
	all := []Booked{}
	day := ""
	for _, b := range booked { // in order of time
		if !b.Until.After(now) {
			continue
		}
		date := b.From.In(now.Location()).Format(time.DateOnly)
		if b.From.Before(now) {
			date = now.Format(time.DateOnly)
		}
		if day == "" {
			day = date
		}
		if date == day {
			all = append(all, b)
		}
	}
	return all
}

// Allowed holds when a task may begin.
type Allowed struct {
	Opens  *time.Time `json:"opens,omitempty"`
	Closes *time.Time `json:"closes,omitempty" doc:"The window to the task before it"`
}

// Allowed returns when each task may begin, by its key, with what lies before it booked as it is.
func (c *Calendar) Allowed(booked []Booked) map[string]Allowed {
	held := byTask(c.actual(booked))
	all := make(map[string]Allowed)
	for _, t := range c.Tasks {
		var w Allowed
		for _, g := range c.gaps[t.key()] {
			b, there := held[t.Job+"/"+g.task]
			if !there {
				continue
			}
			mark, opens := g.opens(b)
			if w.Opens == nil || opens.After(*w.Opens) {
				w.Opens = &opens
			}
			if g.most != nil {
				if closes := g.most(mark); w.Closes == nil || closes.Before(*w.Closes) {
					w.Closes = &closes
				}
			}
		}
		all[t.key()] = w
	}
	return all
}

// Promise holds when a surface comes to a stage of service.
type Promise struct {
	Job     string            `json:"job"`
	Task    work.ID           `json:"task" doc:"The task that stands for it on the roster"`
	Surface string            `json:"surface" doc:"Name of the surface"`
	Stage   material.StageKey `json:"stage" enum:"foot,furniture,vehicle,water,full"`
	At      time.Time         `json:"at"`
	Latest  time.Time         `json:"latest" doc:"The same if all slabs come 3 K cooler than told, with the bookings moved as far as that takes"`
}

// Promises returns when the surfaces of the jobs can be used, with their last coats laid as they are booked.
func (c *Calendar) Promises(booked []Booked) []Promise {
	all := []Promise{}
	booked = c.actual(booked)
	held, cooled := byTask(booked), c.cooled(booked)
	for _, j := range c.Jobs() {
		_, of := blocks(j)
		for _, s := range j.Plan.Surfaces {
			if len(s.Coats) == 0 {
				continue
			}
			last := s.Coats[len(s.Coats)-1].ID
			block := of[work.PourID(last)]
			if block == nil {
				continue
			}
			b, there := held[j.ID+"/"+string(block.ID)]
			if !there {
				continue
			}
			laid := b.Until.Add(-block.behind(work.PourID(last)))
			cool := laid
			if moved, fits := cooled[b.key()]; fits {
				cool = moved.Until.Add(-block.behind(work.PourID(last)))
			}
			for _, stage := range material.Returns() {
				if after, known := j.Films.After(last, stage, laid); known {
					at := laid.Add(duration(after))
					latest := at
					if later, known := j.Cool.After(last, stage, cool); known && cool.Add(duration(later)).After(at) {
						latest = cool.Add(duration(later))
					}
					all = append(all, Promise{j.ID, work.ReturnID(s.ID, stage), s.Name, stage, at, latest})
				}
			}
		}
	}
	return all
}
