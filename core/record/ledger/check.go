package ledger

import (
	"cmp"
	"encoding/json"
	"fmt"
	"maps"
	"runtime"
	"slices"
	"strconv"
	"sync"
	"time"

	"golang.org/x/mod/sumdb/tlog"

	"nephelon/core/record"
)

// HeldEvent is an event as it is kept, with what stands beside it.
type HeldEvent struct {
	Job      string
	Person   string // whom the store names
	Received time.Time
	Doc      json.RawMessage
}

// HeldPlan is an issued plan as it is kept.
type HeldPlan struct {
	Job    string
	Number int
	Doc    json.RawMessage
}

// HeldPhoto is a photograph as it is kept.
type HeldPhoto struct {
	Job  string
	ID   string
	Hash string // hex SHA-256 of its picture
}

// Evidence holds what a check looks at: the log of a company, or of one of its jobs with proofs,
// and what is kept.
type Evidence struct {
	Entries []Entry
	Proofs  [][]string // of each entry, to the first head, where only a part of the log is here
	Heads   []string   // signed notes
	Keys    []string   // that the log names, where their entries are not here
	Events  []HeldEvent
	Plans   []HeldPlan
	Photos  []HeldPhoto
	NoPhoto bool // the pictures are not here
}

// Fault is something that does not fit.
type Fault struct {
	Kind string `json:"kind" enum:"changed,missing,added,moved,order,head"`
	Job  string `json:"job,omitempty"`
	Item string `json:"item,omitempty"`
	Text string `json:"text"`
}

// Report holds what a check found.
type Report struct {
	Entries int     `json:"entries"`
	Events  int     `json:"events"`
	Plans   int     `json:"plans"`
	Photos  int     `json:"photos"`
	Head    *Head   `json:"head,omitempty" doc:"The newest head that fits and that a known key signed"`
	Key     string  `json:"key,omitempty" doc:"The key that signed it"`
	Outside int     `json:"outside" doc:"Heads kept outside that were compared"`
	Faults  []Fault `json:"faults"`
}

// Words returns what a report found, in a sentence or two.
func (r Report) Words() string {
	what := fmt.Sprintf("%d events, %d plans, %d photographs, %d entries of the log.", r.Events, r.Plans, r.Photos,
		r.Entries)
	switch n := len(r.Faults); n {
	case 0:
		return "Whole: " + what
	case 1:
		return "1 fault: " + r.Faults[0].Text + " " + what
	default:
		return fmt.Sprintf("%d faults, the first: %s %s", n, r.Faults[0].Text, what)
	}
}

type checking struct {
	Evidence
	report Report
	tree   stored
}

func (c *checking) fault(kind, job, item, text string, args ...any) {
	c.report.Faults = append(c.report.Faults, Fault{kind, job, item, fmt.Sprintf(text, args...)})
}

// Check compares what is kept with the log and its heads, and both with heads that somebody kept
// outside. Keys are those that may have signed; where none are given, those that the log names.
func Check(e Evidence, keys, outside []string) Report {
	c := checking{Evidence: e, report: Report{Entries: len(e.Entries), Events: len(e.Events), Plans: len(e.Plans),
		Photos: len(e.Photos), Faults: []Fault{}}}
	if len(keys) == 0 {
		keys = e.Keys
		for _, entry := range e.Entries {
			if entry.Kind == Key {
				keys = append(keys, entry.Item)
			}
		}
	}
	c.order()
	if e.Proofs == nil {
		c.build()
	}
	c.heads(keys, outside)
	c.items()
	slices.SortStableFunc(c.report.Faults, func(a, b Fault) int {
		return cmp.Or(cmp.Compare(a.Job, b.Job), cmp.Compare(a.Kind, b.Kind))
	})
	return c.report
}

// order looks whether the entries are numbered without gaps, in the log and in each job.
func (c *checking) order() {
	of := make(map[string]int64)
	for n, e := range c.Entries {
		if c.Proofs == nil && e.Number != int64(n) {
			c.fault("order", e.Job, e.Item, "Entry %d of the log stands where entry %d belongs.", e.Number, n)
		}
		if e.Job == "" {
			continue
		}
		if of[e.Job]++; e.Of != of[e.Job] {
			c.fault("order", e.Job, e.Item, "Entry %d of this job stands where its entry %d belongs: entries are missing or "+
				"were added.", e.Of, of[e.Job])
			of[e.Job] = e.Of
		}
	}
}

// stored holds the hashes of a tree in memory.
type stored []tlog.Hash

// ReadHashes returns hashes by their index.
func (s stored) ReadHashes(indexes []int64) ([]tlog.Hash, error) {
	out := make([]tlog.Hash, len(indexes))
	for n, at := range indexes {
		if at >= int64(len(s)) {
			return nil, fmt.Errorf("the tree has no hash %d", at)
		}
		out[n] = s[at]
	}
	return out, nil
}

// each calls do with every number below n, on all processors.
func each(n int, do func(k int)) {
	var wait sync.WaitGroup
	parts := min(runtime.GOMAXPROCS(0), max(1, n))
	for part := range parts {
		wait.Go(func() {
			for k := part; k < n; k += parts {
				do(k)
			}
		})
	}
	wait.Wait()
}

// build hashes all entries into a tree.
func (c *checking) build() {
	leaves, failed := make([]tlog.Hash, len(c.Entries)), make([]error, len(c.Entries))
	each(len(leaves), func(k int) { leaves[k], failed[k] = c.Entries[k].Leaf() })
	for n, e := range c.Entries {
		err := failed[n]
		var more []tlog.Hash
		if err == nil {
			more, err = tlog.StoredHashesForRecordHash(int64(n), leaves[n], c.tree)
		}
		if err != nil {
			c.fault("order", e.Job, e.Item, "Entry %d cannot be hashed: %v.", n, err)
			return
		}
		c.tree = append(c.tree, more...)
	}
}

// heads compares each head with the entries that it covers.
func (c *checking) heads(keys, outside []string) {
	for n, text := range slices.Concat(c.Heads, outside) {
		kept := n >= len(c.Heads) // by somebody outside
		whose := "A head that is kept with the log"
		if kept {
			whose = "A head that was kept outside"
		}
		h, key, err := Open(text, keys)
		if err != nil {
			c.fault("head", h.Job, "", "%s does not count: %v.", whose, err)
			continue
		}
		when := h.At.Format("2 Jan 2006 15:04 UTC")
		of := int64(0)
		for n := 0; h.Job != "" && n < len(c.Entries); n++ {
			if e := &c.Entries[n]; e.Job == h.Job && e.Number < h.Size {
				of++
			}
		}
		if c.Proofs != nil && kept {
			c.ofJob(h, whose, when)
			continue
		}
		if kept {
			c.report.Outside++
		}
		switch root, err := c.root(h); {
		case c.Proofs == nil && h.Size > int64(len(c.Entries)):
			c.fault("missing", h.Job, "", "%s, of %s, covers %d entries; %d of them are missing.", whose, when, h.Size,
				h.Size-int64(len(c.Entries)))
		case err != nil:
			c.fault("head", h.Job, "", "%s, of %s, does not fit the log: %v.", whose, when, err)
		case root != h.Root:
			c.fault("changed", h.Job, "", "%s, of %s, does not fit the first %d entries: the log was changed before it ended "+
				"there.", whose, when, h.Size)
		case h.Job != "" && of != h.Of:
			c.fault("missing", h.Job, "", "%s, of %s, counts %d entries of this job; %d are here.", whose, when, h.Of, of)
		case c.report.Head == nil || h.Size >= c.report.Head.Size:
			c.report.Head, c.report.Key = &h, key
		}
	}
	if c.report.Head == nil && len(c.Heads) > 0 {
		c.fault("head", "", "", "No signed head fits this log: it may have been written anew from its first entry.")
	}
}

// ofJob compares a head that was kept outside with entries of one job, which are all that is here:
// it has to count those of that job, or to be of the same size as the head that is here.
func (c *checking) ofJob(h Head, whose, when string) {
	if here := c.report.Head; here != nil && here.Size == h.Size {
		c.report.Outside++
		if here.Root != h.Root {
			c.fault("changed", h.Job, "", "%s, of %s, is of another log of the same size.", whose, when)
		}
		return
	}
	if len(c.Entries) == 0 || c.Entries[0].Job != h.Job {
		return // it says nothing of this job
	}
	c.report.Outside++
	within := int64(0)
	for _, e := range c.Entries {
		if e.Number < h.Size {
			within++
		}
	}
	if within != h.Of {
		c.fault("missing", h.Job, "", "%s, of %s, counts %d entries of this job; %d are here.", whose, when, h.Of, within)
	}
}

// root returns the root of the tree at the size of a head; where only a part of the log is here,
// the head's own once every entry is proven to be in it.
func (c *checking) root(h Head) (tlog.Hash, error) {
	if c.Proofs == nil {
		if h.Size > int64(len(c.Entries)) {
			return tlog.Hash{}, nil
		}
		return tlog.TreeHash(h.Size, c.tree)
	}
	for n, e := range c.Entries {
		leaf, err := e.Leaf()
		if err != nil {
			return tlog.Hash{}, err
		}
		var proof []tlog.Hash
		if n < len(c.Proofs) {
			proof, err = hashes(c.Proofs[n])
		}
		if err != nil || tlog.CheckRecord(proof, h.Size, h.Root, e.Number, leaf) != nil {
			c.fault("changed", e.Job, e.Item, "Entry %d of the log is not what the head of %s covers.", e.Number,
				h.At.Format("2 Jan 2006 15:04 UTC"))
		}
	}
	return h.Root, nil
}

type itemKey struct {
	kind      Kind
	job, item string
}

// items compares what is kept with the entries that name it.
func (c *checking) items() {
	entries, gone := make(map[itemKey]*Entry, len(c.Entries)), make(map[string]bool)
	elsewhere := make(map[itemKey]string) // the job that an item was taken into
	for n := range c.Entries {
		e := &c.Entries[n]
		entries[itemKey{e.Kind, e.Job, e.Item}] = e
		elsewhere[itemKey{e.Kind, "", e.Item}] = e.Job
		if e.Kind == Gone {
			gone[e.Item] = true
		}
	}
	seen := make(map[itemKey]bool, len(entries))
	// found returns the entry of an item that is kept.
	found := func(kind Kind, job, item, what string) *Entry {
		k := itemKey{kind, job, item}
		seen[k] = true
		if e := entries[k]; e != nil {
			return e
		}
		if other, is := elsewhere[itemKey{kind, "", item}]; is && kind != Plan {
			c.fault("moved", job, item, "%s was taken into the job %s, and stands in this one.", what, other)
		} else {
			c.fault("added", job, item, "%s is not in the log: it was added below the program.", what)
		}
		return nil
	}
	plans := c.plans(found)
	pictured := c.events(found, plans)
	for _, p := range c.Photos {
		what := "The photograph " + p.ID
		if e := found(Photo, p.Job, p.ID, what); e != nil && e.Hash != p.Hash {
			c.fault("changed", p.Job, p.ID, "%s is another picture than was taken into the record.", what)
		}
	}
	for _, e := range c.Entries {
		if seen[itemKey{e.Kind, e.Job, e.Item}] {
			continue
		}
		at := e.At.Format("2 Jan 2006 15:04 UTC")
		switch e.Kind {
		case Event, Plan:
			c.fault("missing", e.Job, e.Item, "The %s %s, taken at %s, is missing.", e.Kind, e.Item, at)
		case Photo:
			if !c.NoPhoto && (!gone[e.Item] || pictured[e.Item]) {
				c.fault("missing", e.Job, e.Item, "The photograph %s, taken into the record at %s, is missing.", e.Item, at)
			}
		}
	}
}

// finds looks up the entry of an item that is kept.
type finds func(kind Kind, job, item, what string) *Entry

// plans compares issued plans, and returns their hashes by job and number.
func (c *checking) plans(found finds) map[string]string {
	sums := make(map[string]string)
	for _, p := range c.Plans {
		number := strconv.Itoa(p.Number)
		sum, err := record.PlanSum(p.Doc)
		if err != nil {
			c.fault("changed", p.Job, number, "Plan %s cannot be read: %v.", number, err)
			continue
		}
		sums[p.Job+" "+number] = sum
		if e := found(Plan, p.Job, number, "Plan "+number); e != nil && e.Hash != sum {
			c.fault("changed", p.Job, number, "Plan %s was changed after it was issued.", number)
		}
	}
	return sums
}

// events compares events, and returns which photographs they name.
func (c *checking) events(found finds, plans map[string]string) map[string]bool {
	pictured, ofJob := make(map[string]bool), make(map[string][]record.Event)
	read, failed := make([]record.Event, len(c.Events)), make([]error, len(c.Events))
	each(len(read), func(k int) { failed[k] = json.Unmarshal(c.Events[k].Doc, &read[k]) })
	for n := range c.Events {
		held, e := &c.Events[n], &read[n]
		if err := failed[n]; err != nil {
			c.fault("changed", held.Job, "", "An event cannot be read: %v.", err)
			continue
		}
		if e.Body.Photo != "" {
			pictured[e.Body.Photo] = true
		}
		ofJob[held.Job] = append(ofJob[held.Job], *e)
		what := fmt.Sprintf("Event %d of device %.8s (%s)", e.Number, e.Device, e.Kind)
		entry := found(Event, held.Job, e.ID, what)
		switch {
		case entry == nil:
		case entry.Hash != e.Hash:
			c.fault("changed", held.Job, e.ID, "%s was changed after the server took it.", what)
		case entry.Person != e.Person || held.Person != e.Person:
			c.fault("changed", held.Job, e.ID, "%s stands in the name of another person than logged it.", what)
		case !entry.At.Equal(held.Received.UTC().Truncate(time.Millisecond)):
			c.fault("changed", held.Job, e.ID, "%s is said to have been received at another time than it was.", what)
		}
		if e.Job != "" && e.Job != held.Job {
			c.fault("moved", held.Job, e.ID, "%s was logged on the job %s.", what, e.Job)
		}
		if sum := plans[held.Job+" "+strconv.Itoa(e.Issue)]; e.Plan != "" && sum != "" && sum != e.Plan {
			c.fault("changed", held.Job, e.ID, "%s was logged on another plan %d than is kept.", what, e.Issue)
		}
	}
	jobs := slices.Sorted(maps.Keys(ofJob))
	broken := make([][]record.Break, len(jobs))
	each(len(jobs), func(k int) { broken[k] = record.Breaks(ofJob[jobs[k]]) })
	for n, job := range jobs {
		for _, b := range broken[n] {
			c.fault("changed", job, b.Device, "%s", b.Text)
		}
	}
	return pictured
}
