package ledger

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"golang.org/x/mod/sumdb/tlog"

	"nephelon/core/record"
)

// evidence makes jobs with a plan each and events of two devices, their log and its signed head.
func evidence(t testing.TB, jobs, events int) (Evidence, Head) {
	t.Helper()
	begun := time.Date(2031, 3, 4, 7, 0, 0, 0, time.UTC)
	var e Evidence
	add := func(entry Entry) {
		entry.Number = int64(len(e.Entries))
		e.Entries = append(e.Entries, entry)
	}
	add(Entry{Kind: Begun, Item: "log-1", At: begun})
	for j := range jobs {
		job := fmt.Sprintf("job-%d", j)
		doc := json.RawMessage(fmt.Sprintf(`{"number":1,"name":"Quay %d"}`, j))
		sum, err := record.PlanSum(doc)
		if err != nil {
			t.Fatal(err)
		}
		e.Plans = append(e.Plans, HeldPlan{job, 1, doc})
		add(Entry{Kind: Plan, Job: job, Of: 1, Item: "1", Hash: sum, At: begun})
		before := map[string]string{}
		for n := range events {
			device := fmt.Sprintf("device-%d", n%2)
			at := begun.Add(time.Duration(n) * time.Minute)
			v := record.Sealed(record.Event{ID: fmt.Sprintf("%s/%d", job, n), Job: job, Plan: sum, Issue: 1, Kind: record.Noted,
				At: at, Device: device, Number: int64(n/2) + 1, Person: "p", Body: record.Body{Text: "dry, swept, no dust"}},
				before[device])
			before[device] = v.Hash
			text, err := json.Marshal(v)
			if err != nil {
				t.Fatal(err)
			}
			e.Events = append(e.Events, HeldEvent{job, "p", at, text})
			add(Entry{Kind: Event, Job: job, Of: int64(n) + 2, Item: v.ID, Person: "p", Hash: v.Hash, At: at})
		}
	}
	c := checking{Evidence: e}
	c.build()
	root, err := tlog.TreeHash(int64(len(e.Entries)), c.tree)
	if err != nil {
		t.Fatal(err)
	}
	return e, Head{Log: "log-1", Size: int64(len(e.Entries)), Root: root, At: begun}
}

// A part of the log that is about one job is checked by proofs: whole as it is, and told where an
// entry, its proof, its event or the number of entries is another.
func TestAPartIsCheckedByProofs(t *testing.T) {
	signer, public := keys(t, "first")
	all, h := evidence(t, 3, 6)
	c := checking{Evidence: all}
	c.build()
	h.Job, h.Of = "job-1", 7
	text, err := h.Sign(signer)
	if err != nil {
		t.Fatal(err)
	}
	part := func() Evidence {
		p := Evidence{Heads: []string{text}, Keys: []string{public}, NoPhoto: true}
		for _, entry := range all.Entries {
			if entry.Job == "job-1" {
				proof, err := tlog.ProveRecord(h.Size, entry.Number, c.tree)
				if err != nil {
					t.Fatal(err)
				}
				p.Entries, p.Proofs = append(p.Entries, entry), append(p.Proofs, Texts(proof))
			}
		}
		for _, v := range all.Events {
			if v.Job == "job-1" {
				p.Events = append(p.Events, v)
			}
		}
		p.Plans = append(p.Plans, all.Plans[1])
		return p
	}
	older := Head{Log: "log-1", Size: 9, At: h.At, Job: "job-1", Of: 5}
	oldText, err := older.Sign(signer)
	if err != nil {
		t.Fatal(err)
	}
	for want, change := range map[string]func(*Evidence){
		"":                     func(*Evidence) {},
		"is not what the head": func(p *Evidence) { p.Entries[3].Person = "q" },
		"Entry 11 of the log":  func(p *Evidence) { p.Proofs[3] = p.Proofs[2] },
		"is missing":           func(p *Evidence) { p.Events = p.Events[:5] },
		"counts 7 entries of this": func(p *Evidence) {
			p.Entries, p.Events, p.Proofs = p.Entries[:6], p.Events[:5], p.Proofs[:6]
		},
		"changed after it was": func(p *Evidence) { p.Heads[0] = strings.Replace(text, "job-1 7", "job-1 6", 1) },
	} {
		p := part()
		change(&p)
		r := Check(p, nil, nil)
		if (want == "") != (len(r.Faults) == 0) ||
			want != "" && !slices.ContainsFunc(r.Faults, func(f Fault) bool { return strings.Contains(f.Text, want) }) {
			t.Errorf("want %q: %+v", want, r.Faults)
		}
	}
	if r := Check(part(), nil, []string{oldText}); len(r.Faults) != 1 ||
		!strings.Contains(r.Faults[0].Text, "counts 5 entries") {
		t.Errorf("against a head from outside that counted otherwise: %+v", r.Faults)
	}
}

// A year of a large company, 80,000 events of 200 jobs.
func BenchmarkCheckAYear(b *testing.B) {
	e, _ := evidence(b, 200, 400)
	b.ReportMetric(float64(len(e.Events)), "events")
	for b.Loop() {
		if r := Check(e, nil, nil); len(r.Faults) != 0 {
			b.Fatal(r.Faults)
		}
	}
}
