package record

import "slices"

// scope says what the task of an event has to name.
type scope int

const (
	ofDay   scope = iota // nothing
	ofTask               // a coat, a task, or another event
	ofBatch              // a batch or its section
)

// rule is all that holds for the events of one kind, but for what they do to a day.
type rule struct {
	kind  Kind
	words string // what a kind is called
	of    scope
	// What of a body is missing, as "body.field: what to enter"; nil where nothing can be.
	lacks func(b *Body) string
	// Whether only who leads a day may log one; nil where everybody may. Struck is the event that
	// it takes away, if it does.
	leads func(e, struck *Event) bool
}

// rules lists the kinds in the order in which they are shown. A new kind is a constant, a line
// here, and what it does to a day.
func rules() []rule {
	want := func(there func(b *Body) bool, text string) func(b *Body) string {
		return func(b *Body) string {
			if there(b) {
				return ""
			}
			return text
		}
	}
	text := func(words string) func(b *Body) string {
		return want(func(b *Body) bool { return b.Text != "" }, "body.text: "+words)
	}
	because := want(func(b *Body) bool { return b.Reason != "" }, "body.reason: say who decided, and why")
	always := func(*Event, *Event) bool { return true }
	return []rule{
		{Gated, "Gate", ofTask, gateLacks, func(e, _ *Event) bool { return e.Body.Reason != "" }},
		{Read, "Readings", ofDay, want(func(b *Body) bool { return b.Slab != nil || b.Air != nil || b.Humidity != nil },
			"body.slab: enter at least one of slab, air and humidity"), nil},
		{Meets, "Mixing started", ofBatch, nil, nil},
		{Mixed, "Mixed", ofBatch, nil, nil},
		{Poured, "Poured", ofBatch, nil, nil},
		{Spread, "Spread", ofBatch, nil, nil},
		{Rolled, "Rolled", ofBatch, nil, nil},
		{Joined, "Edge joined", ofBatch, nil, nil},
		{Emptied, "Pail ended here", ofBatch, want(func(b *Body) bool { return b.At != nil || b.Area != nil },
			"body.at: mark on the plan where the pail ended, or enter the area covered"), nil},
		{Cup, "Cup poured", ofBatch, want(func(b *Body) bool { return b.Cup != nil }, "body.cup: enter its number"), nil},
		{Thrown, "Broadcast timed", ofBatch, want(func(b *Body) bool {
			return b.Mass != nil && *b.Mass > 0 && b.Took != nil && *b.Took > 0
		}, "body.mass: enter the mass that one person threw, and how long that took"), nil},
		{Lost, "Bucket lost", ofBatch, nil, nil},
		{Sized, "Pail size changed", ofBatch, want(func(b *Body) bool { return b.Share != nil && b.Reason != "" },
			"body.share: enter the size of the pail, and who decided and why"), nil},
		{Ordered, "Order changed", ofBatch, because, nil},
		{Tinted, "Colour changed", ofBatch, want(func(b *Body) bool { return b.Cup != nil && b.Text != "" && b.Reason != "" },
			"body.text: enter the colour, the number of the cup, and who decided and why"), nil},
		{Gone, "Person left", ofTask, text("enter who left the crew"), nil},
		{Counted, "Packs counted", ofTask, want(func(b *Body) bool { return b.Mass != nil },
			"body.mass: enter how much is at hand in unopened packs"), nil},
		{LeftOut, "Section left out", ofBatch, because, nil},
		{Weighed, "Weights", ofBatch, want(func(b *Body) bool { return len(b.Masses) > 1 },
			"body.masses: enter the mass of each part"), nil},
		{Lot, "Lots", ofBatch, want(func(b *Body) bool {
			return slices.ContainsFunc(b.Lots, func(l string) bool { return l != "" })
		}, "body.lots: enter the lot of a part"), nil},
		{Film, "Film", ofBatch, want(func(b *Body) bool { return b.Film != nil && *b.Film > 0 },
			"body.film: enter the film as the gauge shows it"), nil},
		{Noted, "Note", ofDay, text("say what happened"), nil},
		{Deviated, "Deviation", ofDay, text("say what happened"), nil},
		{Pictured, "Photograph", ofDay, want(func(b *Body) bool { return b.Photo != "" },
			"body.photo: name the photograph"), nil},
		{Began, "Began", ofTask, nil, nil},
		{Ended, "Ended", ofTask, nil, nil},
		{Completed, "Task closed", ofTask, want(func(b *Body) bool { return b.Saw != "" }, "body.saw: say what was seen"),
			nil},
		{Abraded, "Abraded", ofTask, nil, nil},
		{Left, "Left over", ofDay, want(func(b *Body) bool { return b.Product != "" && b.Mass != nil },
			"body.mass: enter how much of which product is left"), nil},
		{Served, "Released for use", ofDay, want(func(b *Body) bool { return b.Stage != "" },
			"body.stage: name what the floor is released for"), nil},
		{Fault, "Fault", ofTask, want(func(b *Body) bool { return b.Seen != "" }, "body.seen: name what is wrong"), nil},
		{Answered, "Answer", ofDay, want(func(b *Body) bool { return b.Question != "" && b.Yes != nil },
			"body.yes: answer with yes or no"), nil},
		{Found, "Cause found", ofDay, want(func(b *Body) bool { return b.Cause != "" },
			"body.cause: name what it turned out to be"), always},
		{Signed, "Signed", ofDay, text("enter the name of who signs"), always},
		{Closed, "Day closed", ofDay, nil, always},
		{Struck, "Voided", ofDay, want(func(b *Body) bool { return b.Struck != "" },
			"body.struck: name the event that is voided"),
			func(e, struck *Event) bool { return struck != nil && struck.Person != e.Person }},
	}
}

func gateLacks(b *Body) string {
	switch {
	case b.Gate == "":
		return "body.gate: name the gate that is closed"
	case b.Saw == "" && b.Reason == "":
		return "body.saw: say what was seen, or why the gate is overridden"
	}
	return ""
}

// rule returns the rule of a kind; nil where there is no such kind.
func (k Kind) rule() *rule {
	for _, r := range rules() {
		if r.kind == k {
			return &r
		}
	}
	return nil
}

// lacks returns what an event of a known kind cannot do without and does not have, beginning with
// the field; an empty text where nothing is missing.
func (e *Event) lacks() string {
	r := e.Kind.rule()
	if r.lacks != nil {
		if text := r.lacks(&e.Body); text != "" {
			return text
		}
	}
	_, _, batch := BatchOf(e.Task)
	switch {
	case r.of == ofBatch && !batch:
		return "task: name the batch that it happened to"
	case r.of == ofTask && e.Task == "":
		return "task: name the coat or task that it belongs to"
	}
	return ""
}

// ForLeads reports whether an event is one that only who leads a day may log: overriding a gate, closing the day,
// signing the hand-over, saying what a fault turned out to be, and striking what somebody else logged.
func ForLeads(e, struck *Event) bool {
	r := e.Kind.rule()
	return r != nil && r.leads != nil && r.leads(e, struck)
}

// step reports whether a kind tells that somebody worked on a batch.
func (k Kind) step() bool {
	switch k {
	case Meets, Mixed, Poured, Spread, Rolled, Joined:
		return true
	}
	return false
}

// Values returns all values, in the order in which they are shown.
func (Kind) Values() []Kind {
	all := make([]Kind, 0, 32)
	for _, r := range rules() {
		all = append(all, r.kind)
	}
	return all
}

// Words returns what each kind of event is called.
func Words() map[Kind]string {
	all := make(map[Kind]string)
	for _, r := range rules() {
		all[r.kind] = r.words
	}
	return all
}
