package record

import (
	"fmt"
	"time"

	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record/fact"
	"nephelon/core/record/says"
	"nephelon/core/work"
)

// Day holds what the events tell of an issued plan.
type Day struct {
	Issue    int         `json:"issue"`
	Coats    []CoatDay   `json:"coats"`
	Readings []Reading   `json:"readings" doc:"Readings in order of time"`
	Hours    []Worked    `json:"hours"`
	Closings []Closing   `json:"closings,omitempty" doc:"Tasks of preparation and tests that were closed, in order of time"`
	Facts    []fact.Fact `json:"facts" doc:"What bears on how the floor comes out, as far as the record knows"`
	Notes    []Remark    `json:"notes" doc:"Notes and deviations, in order of time"`
	Breaks   []Break     `json:"breaks" doc:"Where the events of a device do not follow from each other"`
	Strange  int         `json:"strange,omitempty" doc:"Events of batches or coats that this plan does not have"`
	Doubts   []string    `json:"doubts" doc:"Entries that contradict each other or the plan, in sentences"`
	Closed   *Remark     `json:"closed,omitempty"`
	Signed   *Remark     `json:"signed,omitempty"`
	Added    int         `json:"added,omitempty" doc:"Entries after the hand-over was signed: they are no part of what was signed"`
	Late     []Late      `json:"late,omitempty" doc:"Entries that are late in some way, in order of when they were logged"`
	Faults   []Trouble   `json:"faults"`
}

// Remark is something that was put in words.
type Remark struct {
	At    time.Time `json:"at"`
	By    string    `json:"by"`
	Text  string    `json:"text"`
	Who   string    `json:"who,omitempty" doc:"Who decided, and why"`
	Event string    `json:"event"`
	Task  string    `json:"task,omitempty"`
	Ink   string    `json:"ink,omitempty" doc:"A signature as strokes in a box of 1000 by 300"`
}

// Closing is a task of preparation or a test that somebody closed.
type Closing struct {
	Task   work.ID   `json:"task"`
	At     time.Time `json:"at"`
	By     string    `json:"by"`
	Saw    string    `json:"saw" doc:"What was seen"`
	Failed bool      `json:"failed,omitempty"`
	Event  string    `json:"event"`
}

// Trouble is something that is wrong with a floor.
type Trouble struct {
	Event   string      `json:"event"`
	Coat    string      `json:"coat"`
	Batch   int         `json:"batch,omitempty" doc:"Number of the section"`
	Seen    string      `json:"seen"`
	At      time.Time   `json:"at" doc:"When it was noticed"`
	By      string      `json:"by"`
	Place   *[2]float64 `json:"place,omitempty"`
	Size    string      `json:"size,omitempty"`
	Text    string      `json:"text,omitempty"`
	Photo   string      `json:"photo,omitempty"`
	Answers []Answer    `json:"answers"`
	Cause   string      `json:"cause,omitempty" doc:"What it turned out to be"`
	Over    []Laid      `json:"over,omitempty" doc:"The sections of all coats of its surface that its place lies in"`
}

// Answer holds what somebody said to a question about it.
type Answer struct {
	Question string `json:"question"`
	Yes      bool   `json:"yes"`
	By       string `json:"by"`
}

// CoatDay is a coat on its day.
type CoatDay struct {
	ID      string      `json:"id"`
	Surface string      `json:"surface" doc:"Name of the surface"`
	Number  int         `json:"number"`
	Name    string      `json:"name"`
	Color   string      `json:"color"`
	Gates   []GateState `json:"gates"`
	Open    int         `json:"open" doc:"Gates that are not closed"`
	Batches []BatchDay  `json:"batches"`
	Pace    float64     `json:"pace" doc:"How many times as long as planned the work on the floor takes, by the sections that are done; 1 while none is"`
	Paced   int         `json:"paced" doc:"From how many sections of its own; 0 while none is done"`
	Guess   int         `json:"guess,omitempty" doc:"The number of the coat below whose pace is taken, while it has none of its own"`
	Begun   *time.Time  `json:"begun,omitempty" doc:"When its first batch was poured, as logged or as a later touch proves"`
	Done    *time.Time  `json:"done,omitempty" doc:"When the last section was done"`
	Ends    time.Time   `json:"ends" doc:"When it is done, as it goes"`
	Abraded *time.Time  `json:"abraded,omitempty" doc:"The coat below, before it"`
	Now     []Say       `json:"now"`
	Next    []Say       `json:"next"`
	Watch   []Say       `json:"watch" doc:"Most urgent first"`
	Stages  []Reached   `json:"stages"`
	Used    Amount      `json:"used"`
	Away    []string    `json:"away,omitempty" doc:"Names of those who left its crew and did not come back"`

	words says.Words // by how it is laid
}

// Say is a sentence for the crew.
type Say struct {
	Do    string      `json:"do" enum:"gate,meet,mix,stand,pour,spread,roll,clean,lost,done,watch" doc:"What it is about"`
	Batch int         `json:"batch,omitempty"`
	Text  string      `json:"text"`
	Act   string      `json:"act,omitempty" doc:"What whoever does it touches, in the words of how the coat is laid"`
	At    *time.Time  `json:"at,omitempty" doc:"When it is due"`
	Until *time.Time  `json:"until,omitempty" doc:"The limit of what is called out"`
	Of    float64     `json:"of,omitempty" doc:"s that the limit is away at its beginning"`
	Late  bool        `json:"late,omitempty"`
	For   []work.Role `json:"for,omitempty" enum:"mixer,runner,pourer,cutter-in,spreader,roller,caster" doc:"Parts that do it; everybody where left out"`
}

// Amount holds what was used of a coat.
type Amount struct {
	Mass   measure.Mass   `json:"mass" doc:"kg poured, as weighed or else as planned"`
	Volume measure.Volume `json:"volume" doc:"m³"`
	Lost   measure.Mass   `json:"lost,omitempty" doc:"kg in lost buckets"`
	Left   measure.Mass   `json:"left,omitempty" doc:"kg told as left over"`
	Film   measure.Film   `json:"film,omitempty" doc:"m that it makes over the area covered, as told or else as planned"`
}

// Reached is a stage of service, as promised and as it comes.
type Reached struct {
	Stage    material.StageKey `json:"stage"`
	Name     string            `json:"name"`
	Promised *time.Time        `json:"promised,omitempty"`
	Comes    *time.Time        `json:"comes,omitempty" doc:"Time by the slab as it was read; only once the coat is done"`
	Outside  bool              `json:"outside,omitempty" doc:"The slab was outside the temperatures of the sheet"`
	Given    *time.Time        `json:"given,omitempty" doc:"When the surface was given for it"`
	By       string            `json:"by,omitempty" doc:"Who gave it"`
}

// The states of a batch, in order.
const (
	Waiting   = "waiting"
	Mixing    = "mixing"
	Ready     = "mixed"
	Pouring   = "poured"
	Spreading = "spread"
	Finished  = "rolled"
	NotLaid   = "left-out"
)

// BatchDay is a batch on its day.
type BatchDay struct {
	Number  int                   `json:"number"`
	ID      string                `json:"id"`
	State   string                `json:"state" enum:"waiting,mixing,mixed,poured,spread,rolled,left-out"`
	Attempt int                   `json:"attempt" doc:"From 1; one more after each lost bucket"`
	Lost    []Remark              `json:"lost" doc:"Buckets of it that were lost"`
	Hot     []float64             `json:"hot,omitempty" doc:"Share of its pot life after which each pail lost before its use-by went hot"`
	Meets   *time.Time            `json:"meets,omitempty"`
	Mixed   *time.Time            `json:"mixed,omitempty"`
	Poured  *time.Time            `json:"poured,omitempty"`
	Began   *time.Time            `json:"began,omitempty" doc:"When it was poured, as logged or, where that touch is missing, at the latest by a later one"`
	Spread  *time.Time            `json:"spread,omitempty"`
	Rolled  *time.Time            `json:"rolled,omitempty"`
	Joined  *time.Time            `json:"joined,omitempty"`
	Shown   map[Kind]time.Time    `json:"shown,omitempty" doc:"When steps were over that nobody logged, as touches of other batches show, by kind of event"`
	Due     Course                `json:"due" doc:"As it went, and as it goes from here"`
	Planned *Course               `json:"planned,omitempty" doc:"As it was planned; absent while no start was"`
	Life    measure.Span          `json:"life,omitempty" doc:"s from A meeting B with the parts as warm as they were; none where it has no pot life"`
	Beyond  bool                  `json:"beyond,omitempty" doc:"The parts are outside the temperatures of the sheet"`
	Basis   string                `json:"basis,omitempty" doc:"What its life rests on"`
	UseBy   *time.Time            `json:"useBy,omitempty"`
	A       *measure.Temperature  `json:"a,omitempty"`
	B       *measure.Temperature  `json:"b,omitempty"`
	Saw     string                `json:"saw,omitempty" doc:"What was seen when it was mixed"`
	Masses  []measure.Mass        `json:"masses,omitempty" doc:"kg as weighed"`
	Ratio   *kit.RatioCheck       `json:"ratio,omitempty"`
	Lots    []string              `json:"lots,omitempty"`
	Expires string                `json:"expires,omitempty"`
	Films   []FilmRead            `json:"films"`
	Thrown  []Throw               `json:"thrown,omitempty" doc:"Broadcasting that was timed"`
	Spot    *[2]float64           `json:"spot,omitempty" doc:"Where its pail ended, m on the plan of its surface"`
	Covered *measure.Area         `json:"covered,omitempty" doc:"m² of the coat that its film and that of all pails before it cover, as told"`
	Cups    map[int]string        `json:"cups,omitempty" doc:"The event of each cup of colour that was poured, by its number on its card, from 1"`
	People  []string              `json:"people,omitempty" doc:"Names of those who logged its steps, in order"`
	Out     *Out                  `json:"out,omitempty" doc:"Who decided that the section is not laid, and why"`
	Doubts  []string              `json:"doubts,omitempty" doc:"Entries that contradict each other, and which of them counts"`
	Events  map[Kind]string       `json:"events" doc:"The event of each touch, so that it can be struck"`
	Told    map[Kind]measure.Span `json:"told" doc:"Seconds from event to log entry, by kind of event, for events logged late"`
}

// Throw is a mass that one person broadcast in a time.
type Throw struct {
	Mass  measure.Mass `json:"mass" doc:"kg"`
	Took  measure.Span `json:"took" doc:"s"`
	Event string       `json:"event"`
}

// FilmRead is a wet film as the gauge showed it.
type FilmRead struct {
	Film  measure.Film `json:"film" doc:"m, wet"`
	At    time.Time    `json:"at"`
	By    string       `json:"by"`
	Bad   string       `json:"bad,omitempty" doc:"What is wrong with it"`
	Event string       `json:"event"`
}

// Course is a batch on the clock.
type Course struct {
	Meets time.Time `json:"meets"`
	Pour  time.Time `json:"pour"`
	Empty time.Time `json:"empty"`
	Laid  time.Time `json:"laid"`
	Done  time.Time `json:"done"`
}

// Teller says days, and remembers how long mixes live. It may not be shared; what it knows of lives may.
type Teller struct {
	known  *cure.Known
	tables map[mixedAt]cure.Table
	sound  map[string]bool // events, by id and hash, whose hash fits
}

// NewTeller remembers nothing yet.
func NewTeller() *Teller { return TellerWith(cure.NewKnown()) }

// TellerWith remembers lives with others.
func TellerWith(lives *cure.Known) *Teller {
	return &Teller{known: lives, tables: make(map[mixedAt]cure.Table), sound: make(map[string]bool)}
}

// Tell returns what events tell of an issued plan at a time. It does not depend on the order of
// the events, nor on how often each comes. It costs about as much as there are events, and
// a few milliseconds the first time a mix of a temperature is met.
func (t *Teller) Tell(i *Issue, events []Event, now time.Time, units measure.System) Day {
	counts := Standing(events)
	sorted := sortedBy(counts)
	day := Day{
		Issue: i.Number, Coats: make([]CoatDay, len(i.Coats)), Readings: []Reading{}, Hours: worked(counts, now),
		Notes: []Remark{}, Breaks: breaks(events, t.sound), Faults: []Trouble{}, Doubts: []string{},
	}
	for _, e := range counts {
		day.take(i, e)
	}
	day.Doubts = append(day.Doubts, strangers(day.Strange)...)
	for _, e := range counts { // a clock that is off may have an answer come before what it answers
		day.answer(e)
	}
	for c := range i.Coats {
		day.Coats[c] = t.coat(i, &i.Coats[c], day.on(i, &i.Coats[c], day.Coats[:c]), sorted, now, units)
		day.Coats[c].Stages = i.stages(&i.Coats[c], &day.Coats[c], day.Readings)
		day.Coats[c].given(sorted.of[batchKey{i.Coats[c].ID, 0}])
		for _, b := range day.Coats[c].Batches {
			day.Doubts = append(day.Doubts, b.Doubts...)
		}
	}
	day.Facts = facts(i, &day, units)
	day.Late, day.Added = late(events, units)
	return day
}

// batchKey names a batch of a coat; number 0 the coat itself.
type batchKey struct {
	coat   string
	number int
}

// byBatch are events that count, in order of time, by what they belong to.
type byBatch struct {
	of    map[batchKey][]*Event
	reads []*Event // of the air, whatever they belong to
}

func sortedBy(events []*Event) byBatch {
	out := byBatch{of: make(map[batchKey][]*Event)}
	for _, e := range events {
		if (e.Kind == Read || e.Kind == Gated) && e.Body.Air != nil {
			out.reads = append(out.reads, e)
		}
		coat, number, whole := BatchOf(e.Task)
		if !whole {
			coat, _ = CoatOf(e.Task)
		}
		k := batchKey{coat, number}
		out.of[k] = append(out.of[k], e)
	}
	return out
}

// air is as warm as it was read last before a time, or at all; as planned where it never was.
func (b byBatch) air(before *time.Time, planned measure.Temperature) measure.Temperature {
	for _, e := range b.reads {
		if before == nil || !e.When().After(*before) {
			planned = *e.Body.Air
		}
	}
	return planned
}

// on is the day of the coat below another, among those told; nil where there is none.
func (d *Day) on(i *Issue, c *Coat, told []CoatDay) *CoatDay {
	under := i.below(c)
	for n := range told {
		if under != nil && told[n].ID == under.ID {
			return &told[n]
		}
	}
	return nil
}

// take reads what is of no batch.
func (d *Day) take(i *Issue, e *Event) {
	remark := Remark{At: e.When(), By: e.Name, Text: e.Body.Text, Who: e.Body.Reason, Event: e.ID, Task: string(e.Task),
		Ink: e.Body.Ink}
	switch e.Kind {
	case Read, Gated:
		if r := readingOf(e); r.Slab != nil || r.Air != nil || r.Humidity != nil {
			d.Readings = append(d.Readings, r)
		}
	case Completed:
		d.Closings = append(d.Closings, Closing{Task: e.Task, At: e.When(), By: e.Name, Saw: e.Body.Saw,
			Failed: e.Body.Yes != nil && !*e.Body.Yes, Event: e.ID})
	case LeftOut:
		_, n, _ := BatchOf(e.Task)
		remark.Text = fmt.Sprintf("Section %d is not laid%s.", n, map[bool]string{true: " today"}[later(e)])
		d.Notes = append(d.Notes, remark)
	case Sized:
		remark.Text = sized(i, e)
		d.Notes = append(d.Notes, remark)
	case Ordered:
		_, n, _ := BatchOf(e.Task)
		remark.Text = fmt.Sprintf("Section %d, as it was numbered then, is laid as the next one.", n)
		d.Notes = append(d.Notes, remark)
	case Tinted:
		_, n, _ := BatchOf(e.Task)
		remark.Text = fmt.Sprintf("Batch %d: cup %d is made %s.", n, *e.Body.Cup, e.Body.Text)
		d.Notes = append(d.Notes, remark)
	case Gone:
		remark.Text = remark.Text + map[bool]string{true: " came back.", false: " left."}[later(e)]
		d.Notes = append(d.Notes, remark)
	case Noted, Deviated:
		d.Notes = append(d.Notes, remark)
	case Closed:
		d.Closed = &remark
	case Signed:
		d.Signed = &remark
	case Fault:
		coat, batch, whole := BatchOf(e.Task)
		if !whole {
			coat, _ = CoatOf(e.Task)
		}
		d.Faults = append(d.Faults, Trouble{
			Event: e.ID, Coat: coat, Batch: batch, Seen: e.Body.Seen, At: e.When(), By: e.Name, Place: e.Body.At,
			Size: e.Body.Size, Text: e.Body.Text, Photo: e.Body.Photo, Answers: []Answer{}, Over: i.over(coat, e.Body.At),
		})
	}
	if coat, named := CoatOf(e.Task); named && i.Coat(coat) == nil {
		d.Strange++
	} else if _, number, batch := BatchOf(e.Task); batch && number > len(i.Coat(coat).Batches) {
		d.Strange++
	}
}

// strangers returns the sentence about events that belong to nothing in the plan.
func strangers(n int) []string {
	switch n {
	case 0:
		return nil
	case 1:
		return []string{"1 entry belongs to a batch or coat that this plan does not have; it is ignored here."}
	}
	return []string{fmt.Sprintf("%d entries belong to batches or coats that this plan does not have; they are "+
		"ignored here.", n)}
}

// answer takes what was said about a fault.
func (d *Day) answer(e *Event) {
	for n := range d.Faults {
		f := &d.Faults[n]
		switch {
		case string(e.Task) != f.Event:
		case e.Kind == Found:
			f.Cause = e.Body.Cause
		case e.Kind == Answered:
			f.Answers = append(f.Answers, Answer{e.Body.Question, *e.Body.Yes, e.Name})
		}
	}
}

// between returns how many seconds lie between two times.
func between(from, to time.Time) measure.Span { return measure.Span(to.Sub(from).Seconds()) }

func latest(a, b time.Time) time.Time {
	if b.After(a) {
		return b
	}
	return a
}

// Worked is a stretch of a person's time at a task.
type Worked struct {
	ID     string     `json:"id" doc:"Id of the person"`
	Person string     `json:"person" doc:"Name of the person"`
	Task   string     `json:"task"`
	From   time.Time  `json:"from"`
	To     *time.Time `json:"to,omitempty" doc:"Still at it when left out"`
	Span   float64    `json:"span" doc:"s"`
}

// worked pairs who began a task with when they ended it, or began another.
func worked(events []*Event, now time.Time) []Worked {
	all := []Worked{}
	open := make(map[string]int) // by person, 1 + the place in the list
	end := func(person string, at time.Time) {
		n := open[person] - 1
		if n < 0 {
			return
		}
		all[n].To, all[n].Span = &at, at.Sub(all[n].From).Seconds()
		delete(open, person)
	}
	for _, e := range events {
		switch e.Kind {
		case Began:
			end(e.Person, e.When())
			all = append(all, Worked{ID: e.Person, Person: e.Name, Task: string(e.Task), From: e.When()})
			open[e.Person] = len(all)
		case Ended:
			end(e.Person, e.When())
		}
	}
	for _, n := range open {
		all[n-1].Span = max(0, now.Sub(all[n-1].From).Seconds())
	}
	return all
}
