package ledger

import (
	"crypto/sha256"
	"encoding/hex"
	"strings"
	"testing"
	"time"

	"golang.org/x/mod/sumdb/note"
	"golang.org/x/mod/sumdb/tlog"
)

// keys makes a key pair.
func keys(t *testing.T, name string) (note.Signer, string) {
	t.Helper()
	private, public, err := note.GenerateKey(strings.NewReader(strings.Repeat(name, 200)), name)
	if err != nil {
		t.Fatal(err)
	}
	signer, err := note.NewSigner(private)
	if err != nil {
		t.Fatal(err)
	}
	return signer, public
}

// The leaf and the nodes of the tree are hashed as RFC 6962, 2.1 says: SHA-256 over a zero byte and
// the entry, and over a one byte and both sides. Three entries by hand.
func TestTheTreeIsThatOfTheStandard(t *testing.T) {
	at := time.Date(2031, 3, 4, 7, 15, 30, 250_400_000, time.FixedZone("", 3600))
	e := Entry{Number: 2, Kind: Event, Job: "j", Of: 1, Item: "i", Person: "p", Hash: "h", At: at}
	text, err := e.Text()
	const want = `{"at":"2031-03-04T06:15:30.25Z","hash":"h","item":"i","job":"j","kind":"event","number":2,"of":1,` +
		`"person":"p"}`
	if err != nil || string(text) != want {
		t.Fatalf("%s, %v", text, err)
	}
	of := func(prefix byte, parts ...[]byte) []byte {
		sum := sha256.New()
		sum.Write([]byte{prefix})
		for _, p := range parts {
			sum.Write(p)
		}
		return sum.Sum(nil)
	}
	var tree stored
	leaves := make([][]byte, 3)
	for n := range leaves {
		e := Entry{Number: int64(n), Kind: Plan, Job: "j", Of: int64(n) + 1, Item: "1", At: at}
		leaf, err := e.Leaf()
		if err != nil {
			t.Fatal(err)
		}
		text, _ := e.Text()
		leaves[n] = of(0, text)
		more, err := tlog.StoredHashesForRecordHash(int64(n), leaf, tree)
		if err != nil {
			t.Fatal(err)
		}
		tree = append(tree, more...)
	}
	root, err := tlog.TreeHash(3, tree)
	by := of(1, of(1, leaves[0], leaves[1]), leaves[2])
	if err != nil || hex.EncodeToString(by) != hex.EncodeToString(root[:]) {
		t.Errorf("%s, %x by hand, %v", root, by, err)
	}
}

// A head says what was signed, reads back, and opens with its key alone; several in a file are told
// apart. What is no head, or was changed, is refused with words.
func TestHeads(t *testing.T) {
	signer, public := keys(t, "first")
	_, other := keys(t, "other")
	h := Head{Log: "log-1", Size: 7, Root: tlog.RecordHash([]byte("x")), At: time.Date(2031, 3, 4, 7, 15, 0, 0, time.UTC),
		Job: "job-1", Of: 3}
	text, err := h.Sign(signer)
	if err != nil {
		t.Fatal(err)
	}
	if got, key, err := Open(text, []string{other, public}); err != nil || got != h || key != public {
		t.Errorf("%+v by %q, %v", got, key, err)
	}
	for what, bad := range map[string]string{
		"changed":   strings.Replace(text, "\n7\n", "\n8\n", 1),
		"less":      strings.Replace(text, "job job-1 3\n", "", 1),
		"unsigned":  h.Text(),
		"no head":   "hello",
		"size":      strings.Replace(text, "\n7\n", "\nseven\n", 1),
		"no time":   strings.Replace(text, "at 2031", "at 20310", 1),
		"of no job": strings.Replace(text, "job-1 3", "job-1 x", 1),
	} {
		if _, _, err := Open(bad, []string{public}); err == nil {
			t.Errorf("%s: it opens", what)
		}
	}
	if _, _, err := Open(text, []string{other}); err == nil {
		t.Error("it opens with another key")
	}
	h.Job, h.Of = "", 0
	second, err := h.Sign(signer)
	if err != nil {
		t.Fatal(err)
	}
	notes := Notes("kept on paper:\n" + text + "\n\n" + second + "\n")
	if len(notes) != 2 || notes[0] != text || notes[1] != second {
		t.Errorf("%q", notes)
	}
}

// What a device refuses to follow: another log, a shorter one, another history.
func TestFollowing(t *testing.T) {
	older := Head{Log: "a", Size: 3, Root: tlog.RecordHash([]byte("x"))}
	for want, newer := range map[string]Head{
		"another log":           {Log: "b", Size: 5},
		"1 entries are missing": {Log: "a", Size: 2},
		"does not continue":     {Log: "a", Size: 5, Root: tlog.RecordHash([]byte("y"))},
	} {
		if err := Follows(older, newer, nil); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("want %q: %v", want, err)
		}
	}
	if err := Follows(older, older, nil); err != nil {
		t.Error(err)
	}
	if err := Follows(Head{Log: "a"}, older, nil); err != nil {
		t.Error(err)
	}
	if err := Follows(older, Head{Log: "a", Size: 5}, []string{"x"}); err == nil {
		t.Error("a proof that cannot be read is taken")
	}
}

// What a report says in words.
func TestWords(t *testing.T) {
	r := Report{Entries: 4, Events: 2, Plans: 1}
	one := Fault{Text: "Plan 1 was changed."}
	for want, faults := range map[string][]Fault{
		"Whole: 2 events, 1 plans, 0 photographs, 4 entries of the log.": {},
		"1 fault: Plan 1 was changed. 2 events":                          {one},
		"2 faults, the first: Plan 1 was changed. 2 events":              {one, one},
	} {
		r.Faults = faults
		if got := r.Words(); !strings.HasPrefix(got, want) {
			t.Errorf("%q, want %q", got, want)
		}
	}
}
