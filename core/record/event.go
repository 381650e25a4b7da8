// Package record tells what happened on a job from the events that people logged: batches on their way, gates,
// readings, films, deviations. An event is never changed or taken away; one that was wrong is struck by another. The
// same events in any order, any number of times, from any number of devices, tell the same.
//
// It runs on the server and, without a network, on the device at the floor.
package record

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"nephelon/core/measure"
	"nephelon/core/record/bound"
	"nephelon/core/work"
)

// Kind names what an event tells.
type Kind string

// The kinds of events.
const (
	// a gate before the first pail was closed, with what was seen, or overridden, with a reason
	Gated    Kind = "gate"
	Read     Kind = "reading"   // of slab, air and humidity, while the day runs
	Meets    Kind = "meets"     // A meets B
	Mixed    Kind = "mixed"     // with what was seen
	Poured   Kind = "poured"    // begun to be poured
	Spread   Kind = "spread"    // all of it
	Rolled   Kind = "rolled"    // nobody touches it again
	Joined   Kind = "joined"    // its edge with what was laid before is worked in
	Emptied  Kind = "emptied"   // where on the floor its pail ended
	Cup      Kind = "cup"       // of colour, poured
	Thrown   Kind = "thrown"    // how long one person took to broadcast a mass
	Sized    Kind = "sized"     // another size of its pail, or one more pail, with who decided and why
	Ordered  Kind = "ordered"   // its section is laid as the next one, with who decided and why
	Tinted   Kind = "tinted"    // a cup that is not poured is made another colour, with who decided and why
	Gone     Kind = "gone"      // somebody left the crew; came back, where Yes is false
	Counted  Kind = "counted"   // mix at hand of the product of a coat, in packs that are not opened
	LeftOut  Kind = "left-out"  // its section is not laid, with who decided and why; later, where Yes is false
	Lost     Kind = "lost"      // the bucket went hot or was spilt; its section still wants a batch
	Weighed  Kind = "weighed"   // each part, as the scale showed it
	Lot      Kind = "lot"       // of each part
	Film     Kind = "film"      // read wet on a section
	Noted    Kind = "note"      // what is worth knowing
	Deviated Kind = "deviation" // with who decided
	Pictured Kind = "photo"
	Began    Kind = "began" // a person, at a task
	Ended    Kind = "ended"
	// a task of preparation or a test, with what was seen; where Yes is false it failed
	Completed Kind = "completed"
	Abraded   Kind = "abraded"  // the coat below, everywhere
	Left      Kind = "leftover" // what is left of a kit
	Served    Kind = "served"   // a stage of service was reached, or refused
	Fault     Kind = "fault"    // something is wrong with the floor
	Answered  Kind = "answer"   // to a question about a fault
	Found     Kind = "found"    // what a fault turned out to be
	Signed    Kind = "signed"   // the hand-over
	Closed    Kind = "closed"   // the day
	Struck    Kind = "struck"   // an event that was wrong
)

// WentHot is the reason of a bucket lost because it set.
const WentHot = "went hot"

// Body holds what an event says; each kind has its own part of it.
type Body struct {
	Gate     string               `json:"gate,omitempty" maxLength:"40"`
	Saw      string               `json:"saw,omitempty" maxLength:"300" doc:"What was seen"`
	Reason   string               `json:"reason,omitempty" maxLength:"300" doc:"Why a gate was overridden, or who decided and why"`
	Slab     *measure.Temperature `json:"slab,omitempty" minimum:"-60" maximum:"90" doc:"°C"`
	Air      *measure.Temperature `json:"air,omitempty" minimum:"-60" maximum:"70" doc:"°C"`
	Humidity *measure.Fraction    `json:"humidity,omitempty" minimum:"0.01" maximum:"1" doc:"Relative"`
	A        *measure.Temperature `json:"a,omitempty" minimum:"-20" maximum:"90" doc:"°C of part A"`
	B        *measure.Temperature `json:"b,omitempty" minimum:"-20" maximum:"90" doc:"°C of part B"`
	Masses   []measure.Mass       `json:"masses,omitempty" maxItems:"3" doc:"kg of A, B and C as weighed"`
	Lots     []string             `json:"lots,omitempty" maxItems:"3" doc:"Lots of A, B and C"`
	Expires  string               `json:"expires,omitempty" maxLength:"10" doc:"The day on which the lot does, such as 2031-03-04"`
	Film     *measure.Film        `json:"film,omitempty" minimum:"0" maximum:"0.1" doc:"m, wet"`
	Photo    string               `json:"photo,omitempty" maxLength:"60" doc:"Id of the photo"`
	Product  string               `json:"product,omitempty" maxLength:"60" doc:"Id of the product"`
	Mass     *measure.Mass        `json:"mass,omitempty" minimum:"0" maximum:"2000" doc:"kg"`
	Took     *measure.Span        `json:"took,omitempty" minimum:"1" maximum:"36000" doc:"s that something took one person"`
	Stage    string               `json:"stage,omitempty" maxLength:"20"`
	Value    *float64             `json:"value,omitempty" minimum:"-1000" maximum:"100000000" doc:"Reading of a test, in the SI unit of its kind"`
	Seen     string               `json:"seen,omitempty" maxLength:"40" doc:"What is wrong"`
	At       *[2]float64          `json:"at,omitempty" doc:"m on the plan of its surface"`
	Area     *measure.Area        `json:"area,omitempty" minimum:"0.01" maximum:"100000" doc:"m² of the coat that the film of all pails so far covers"`
	Cup      *int                 `json:"cup,omitempty" minimum:"1" maximum:"40" doc:"Number of the cup on its card, from 1"`
	Share    *measure.Fraction    `json:"share,omitempty" minimum:"0.05" maximum:"2" doc:"Size of the pail, as a share of the largest batch planned"`
	Over     *int                 `json:"over,omitempty" minimum:"1" maximum:"400" doc:"Number of the section that one more pail is for"`
	Size     string               `json:"size,omitempty" maxLength:"60"`
	Noticed  *time.Time           `json:"noticed,omitempty" doc:"When it happened, by the clock of the server, where that was before it was logged"`
	Cause    string               `json:"cause,omitempty" maxLength:"60"`
	Question string               `json:"question,omitempty" maxLength:"60"`
	Yes      *bool                `json:"yes,omitempty"`
	Struck   string               `json:"struck,omitempty" maxLength:"60" doc:"The id of the event that was wrong"`
	Text     string               `json:"text,omitempty" maxLength:"600"`
	Covers   []Covered            `json:"covers,omitempty" maxItems:"400" doc:"What whoever signs or closes has before them: of each device its last event"`
	Ink      string               `json:"ink,omitempty" maxLength:"20000" pattern:"^([ML][0-9]{1,4} [0-9]{1,3})*$" doc:"A signature as strokes in a box of 1000 by 300: M where the pen is put down, L where it is drawn to"`
}

// Covered is the last event of a device that a signature covers, with all before it.
type Covered struct {
	Device string `json:"device" minLength:"8" maxLength:"60"`
	Number int64  `json:"number" minimum:"1"`
	Hash   string `json:"hash" minLength:"64" maxLength:"64"`
}

// Event is one thing that somebody logged.
type Event struct {
	Version  int          `json:"version,omitempty" minimum:"2" maximum:"3" doc:"Version of the seal: 2 and 3 are hashed as canonical JSON (RFC 8785), 3 names its job and the hash of its plan; events without it are of version 1, hashed in the order of a struct"`
	ID       string       `json:"id" minLength:"36" maxLength:"36" doc:"Made by the device, so that it can be sent again safely"`
	Job      string       `json:"job,omitempty" maxLength:"36" doc:"Id of the job that it was logged on"`
	Plan     string       `json:"plan,omitempty" maxLength:"64" doc:"Hash of the issued plan that it was logged on"`
	Issue    int          `json:"issue" minimum:"1" maximum:"100000" doc:"The number of the issued plan that it was logged on"`
	Task     work.ID      `json:"task,omitempty" maxLength:"200" doc:"The id of its batch, section, coat or task"`
	Kind     Kind         `json:"kind"`
	At       time.Time    `json:"at" doc:"Time on the clock of the device"`
	Behind   measure.Span `json:"behind" minimum:"-315360000" maximum:"315360000" doc:"s by which the clock of the device was found behind that of the server"`
	Device   string       `json:"device" minLength:"8" maxLength:"60"`
	Number   int64        `json:"number" minimum:"1" maximum:"9007199254740991" doc:"Number on its device, from 1"`
	Before   string       `json:"before" maxLength:"64" doc:"The hash of the event before it on its device; empty for the first"`
	Hash     string       `json:"hash" minLength:"64" maxLength:"64" doc:"Hex SHA-256 over the RFC 8785 form of the event without hash, name and received"`
	Person   string       `json:"person" minLength:"1" maxLength:"60" doc:"The id of who logged it"`
	Name     string       `json:"name" minLength:"1" maxLength:"120" doc:"Name of who logged it, as the company has it now: beside the record, so that it can be forgotten"`
	Received *time.Time   `json:"received,omitempty" doc:"When the server took it; left out by the device"`
	Body     Body         `json:"body"`
}

// Logged returns when it was logged, by the clock of the server.
func (e *Event) Logged() time.Time {
	return e.At.Add(time.Duration(float64(e.Behind) * float64(time.Second)))
}

// When returns when it happened, by the clock of the server: when it was logged, or, where whoever
// logged it says so, before.
func (e *Event) When() time.Time {
	if e.Body.Noticed != nil {
		return *e.Body.Noticed
	}
	return e.Logged()
}

// FieldAt is the field that a refusal names where the clock of a device is wrong.
const FieldAt = "at"

// far is the greatest time, s, by which an event may be later than the server's clock: what clocks that were
// just compared may be apart, s.
const far = 120 * time.Second

// Check returns what is wrong with an event that arrives at a time; empty where nothing is.
// The sentence begins with the field.
func Check(e *Event, now time.Time) string {
	switch {
	case e.Kind.rule() == nil:
		return fmt.Sprintf("kind: there is no kind of event “%s”", e.Kind)
	case e.Logged().After(now.Add(far)):
		return fmt.Sprintf("%s: it is %s in the future; set the clock of this device, then send it again", FieldAt,
			e.Logged().Sub(now).Round(time.Minute))
	case e.When().After(e.Logged().Add(far)):
		return "body.noticed: it is after it was logged; enter when it happened"
	case e.Version != 0 && e.Version != sealedAsJSON && e.Version != SealVersion:
		return fmt.Sprintf("version: this server does not know version %d of the seal; update it", e.Version)
	case e.Version == SealVersion && e.Job == "":
		return "job: name the job that it is logged on"
	case e.Version == SealVersion && e.Plan == "":
		return "plan: name the hash of the issued plan that it is logged on"
	case !whole(e):
		return "hash: it does not fit what the event says; it was changed on its way"
	}
	if text := cmp.Or(bound.Outside(e.Body, "body."), bound.Outside(*e, "")); text != "" {
		return text
	}
	return e.lacks()
}

// BatchOf returns which batch of which coat an id names, a batch's or its section's.
func BatchOf(id work.ID) (coat string, number int, ok bool) {
	rest, coated := strings.CutPrefix(string(id), "coat/")
	coat, rest, of := strings.Cut(rest, "/")
	what, text, numbered := strings.Cut(rest, "/")
	if !coated || !of || !numbered || what != "batch" && what != "section" {
		return "", 0, false
	}
	number, err := strconv.Atoi(text)
	if err != nil || number < 1 {
		return "", 0, false
	}
	return unescaped(coat), number, true
}

func unescaped(part string) string {
	if !strings.Contains(part, "~") {
		return part
	}
	return strings.ReplaceAll(strings.ReplaceAll(part, "~1", "/"), "~0", "~")
}

// CoatOf returns which coat an id belongs to.
func CoatOf(id work.ID) (string, bool) {
	rest, coated := strings.CutPrefix(string(id), "coat/")
	coat, _, _ := strings.Cut(rest, "/")
	return unescaped(coat), coated
}

// Standing returns the events that count: each once, none that was struck, in the order in which they happened; at the
// same moment by device and number. Who strikes cannot be struck: what was struck in error is logged anew.
func Standing(events []Event) []*Event {
	type timed struct {
		when time.Time
		*Event
	}
	struck := make(map[string]bool)
	for i := range events {
		if events[i].Kind == Struck {
			struck[events[i].Body.Struck] = true
		}
	}
	seen := make(map[string]bool, len(events))
	all := make([]timed, 0, len(events))
	for i := range events {
		e := &events[i]
		if seen[e.ID] || e.Kind == Struck || struck[e.ID] {
			continue
		}
		seen[e.ID] = true
		all = append(all, timed{e.When(), e})
	}
	slices.SortFunc(all, func(a, b timed) int {
		return cmp.Or(a.when.Compare(b.when), strings.Compare(a.Device, b.Device), cmp.Compare(a.Number, b.Number),
			strings.Compare(a.ID, b.ID))
	})
	out := make([]*Event, len(all))
	for n, t := range all {
		out[n] = t.Event
	}
	return out
}

// Break holds where the events of a device do not follow from each other.
type Break struct {
	Device string `json:"device"`
	Number int64  `json:"number" doc:"Number of the event from which on it shows"`
	Text   string `json:"text"`
}

// Breaks finds gaps and changes in the events of each device.
func Breaks(events []Event) []Break { return breaks(events, make(map[string]bool)) }

// breaks remembers whose hash was found to fit.
func breaks(events []Event, sound map[string]bool) []Break {
	fits := func(e *Event) bool {
		key := e.ID + e.Hash
		if !sound[key] {
			sound[key] = whole(e)
		}
		return sound[key]
	}
	devices := make(map[string][]*Event)
	for n := range events {
		devices[events[n].Device] = append(devices[events[n].Device], &events[n])
	}
	found := []Break{}
	for device, own := range devices {
		slices.SortFunc(own, func(a, b *Event) int {
			return cmp.Or(cmp.Compare(a.Number, b.Number),
				strings.Compare(a.Hash, b.Hash))
		})
		own = slices.CompactFunc(own, func(a, b *Event) bool { return a.Hash == b.Hash && a.ID == b.ID })
		next, before := int64(1), ""
		for _, e := range own {
			switch {
			case !fits(e):
				found = append(found, Break{device, e.Number,
					fmt.Sprintf("Event %d of this device was changed after it was logged.", e.Number)})
			case e.Number > next:
				found = append(found, Break{device, e.Number,
					fmt.Sprintf("%d events of this device before its event %d are missing.", e.Number-next, e.Number)})
			case e.Number < next:
				found = append(found, Break{device, e.Number,
					fmt.Sprintf("This device logged two events with the number %d.", e.Number)})
			case e.Before != before:
				found = append(found, Break{device, e.Number,
					fmt.Sprintf("Event %d of this device does not follow from the one before it.", e.Number)})
			}
			next, before = e.Number+1, e.Hash
		}
	}
	slices.SortFunc(found, func(a, b Break) int {
		return cmp.Or(strings.Compare(a.Device, b.Device), cmp.Compare(a.Number, b.Number))
	})
	return found
}
