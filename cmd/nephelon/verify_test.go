package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"golang.org/x/mod/sumdb/note"
	"golang.org/x/mod/sumdb/tlog"

	"nephelon/core/record"
	"nephelon/core/record/ledger"
	"nephelon/exchange"
)

// signedRecord returns an exported record of one plan and one event, its head and the key.
func signedRecord(t *testing.T) (text, head, key string) {
	t.Helper()
	private, public, err := note.GenerateKey(strings.NewReader(strings.Repeat("seed", 50)), keyName)
	if err != nil {
		t.Fatal(err)
	}
	signer, err := note.NewSigner(private)
	if err != nil {
		t.Fatal(err)
	}
	at := time.Date(2031, 3, 4, 7, 0, 0, 0, time.UTC)
	plan := json.RawMessage(`{"number":1,"name":"Quay"}`)
	sum, err := record.PlanSum(plan)
	if err != nil {
		t.Fatal(err)
	}
	e := record.Sealed(record.Event{ID: "event-1", Job: "job-1", Plan: sum, Issue: 1, Kind: record.Noted, At: at,
		Device: "a-device", Number: 1, Person: "p", Name: "Tess", Received: &at, Body: record.Body{Text: "dry"}}, "")
	event, err := json.Marshal(e)
	if err != nil {
		t.Fatal(err)
	}
	part := ledger.Part{Job: "job-1", Keys: []string{public}, Entries: []ledger.Entry{
		{At: at, Hash: sum, Item: "1", Job: "job-1", Kind: ledger.Plan, Number: 0, Of: 1},
		{At: at, Hash: e.Hash, Item: e.ID, Job: "job-1", Kind: ledger.Event, Number: 1, Of: 2, Person: "p"}}}
	leaves := make([]tlog.Hash, 2)
	for n, entry := range part.Entries {
		if leaves[n], err = entry.Leaf(); err != nil {
			t.Fatal(err)
		}
	}
	part.Proofs = [][]string{{leaves[1].String()}, {leaves[0].String()}}
	h := ledger.Head{Log: "log-1", Size: 2, Root: tlog.NodeHash(leaves[0], leaves[1]), At: at, Job: "job-1", Of: 2}
	if part.Head, err = h.Sign(signer); err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	if err := exchange.WriteRecord(&out, []json.RawMessage{plan}, []json.RawMessage{event}, record.Day{},
		part); err != nil {
		t.Fatal(err)
	}
	return out.String(), part.Head, public
}

// An exported record is checked without a server: whole as it is, with its key and against its head; told where
// it was changed, where another key signed, where a head from outside counted more, and where the file is
// something else.
func TestVerify(t *testing.T) {
	text, head, key := signedRecord(t)
	write := func(name, content string) string {
		file := filepath.Join(t.TempDir(), name)
		if err := os.WriteFile(file, []byte(content), 0o600); err != nil {
			t.Fatal(err)
		}
		return file
	}
	_, other, err := note.GenerateKey(strings.NewReader(strings.Repeat("else", 50)), keyName)
	if err != nil {
		t.Fatal(err)
	}
	whole, kept := write("record.json", text), write("head.txt", "kept on paper\n"+head)
	for _, c := range []struct {
		name      string
		arguments []string
		code      int
		says      string
	}{
		{"whole", []string{whole}, 0, "Whole: 1 events, 1 plans"},
		{"with key and head", []string{"-key", key, "-head", kept, whole}, 0, "and 1 heads from outside"},
		{"another key", []string{"-key", other, whole}, exitFailed, "signed by none of the known keys"},
		{"an event changed", []string{write("a.json", strings.Replace(text, `"text": "dry"`, `"text": "wet"`, 1))},
			exitFailed, "was changed after it was logged"},
		{"an event gone", []string{write("b.json", text[:strings.Index(text, `"events": [`)]+`"events": [], `+
			text[strings.Index(text, `"day":`):])}, exitFailed, "is missing"},
		{"something else", []string{write("c.json", `{"format":"x"}`)}, exitRefused, "this is no record of Nephelon"},
		{"no file", []string{"gone.json"}, exitRefused, "no such file"},
	} {
		code, out, complaint := nephelon(t, "", append([]string{"verify"}, c.arguments...)...)
		if code != c.code || !strings.Contains(out+complaint, c.says) {
			t.Errorf("%s: code %d, %s %s, want %q", c.name, code, out, complaint, c.says)
		}
	}
}

// The key that signs heads is made once, for its owner's eyes alone, and is the same when it is read again; a
// file that holds no key is refused with what to do.
func TestTheKeyIsKept(t *testing.T) {
	file := filepath.Join(t.TempDir(), "keys", "log.key")
	first, public, err := keyIn(file)
	if err != nil {
		t.Fatal(err)
	}
	again, same, err := keyIn(file)
	if err != nil || same != public || again.KeyHash() != first.KeyHash() {
		t.Errorf("%s, then %s, %v", public, same, err)
	}
	if info, err := os.Stat(file); err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("%v, %v", info.Mode(), err)
	}
	if err := os.WriteFile(file, []byte("hello"), 0o600); err != nil {
		t.Fatal(err)
	}
	if _, _, err := keyIn(file); err == nil || !strings.Contains(err.Error(), "holds no key") {
		t.Errorf("%v", err)
	}
}
