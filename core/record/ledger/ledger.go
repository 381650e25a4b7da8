// Package ledger is the log of a company: one append-only Merkle tree (RFC 6962) over everything
// that the server took into records, from all devices, and the signed heads by which anybody can
// check that nothing of it was changed, left out or moved. It knows events and no plans.
package ledger

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"golang.org/x/mod/sumdb/note"
	"golang.org/x/mod/sumdb/tlog"

	"nephelon/core/record/canon"
)

// Kind names what an entry of the log is about.
type Kind string

// The kinds of entries.
const (
	Begun  Kind = "begun"  // the log itself; what was there before follows
	Event  Kind = "event"  // somebody logged it
	Plan   Kind = "plan"   // it was issued
	Photo  Kind = "photo"  // it was added
	Hidden Kind = "hidden" // the photograph is not shown any more
	Gone   Kind = "gone"   // the hidden photograph, of no record, was deleted
	Key    Kind = "key"    // heads are signed with it from here on
)

// Values lists the kinds of entries.
func (Kind) Values() []Kind { return []Kind{Begun, Event, Plan, Photo, Hidden, Gone, Key} }

// Entry is one entry of a company's log. Its members are in the order of RFC 8785.
type Entry struct {
	At     time.Time `json:"at" doc:"When the server took it, UTC, to the millisecond"`
	Hash   string    `json:"hash,omitempty" doc:"Hash of the event, plan or photograph, hex SHA-256"`
	Item   string    `json:"item" doc:"Id of the event or photograph, number of the plan, id of the log, or key"`
	Job    string    `json:"job,omitempty" doc:"Id of the job"`
	Kind   Kind      `json:"kind"`
	Number int64     `json:"number" doc:"Place in the log, from 0"`
	Of     int64     `json:"of,omitempty" doc:"Place among the entries of its job, from 1"`
	Person string    `json:"person,omitempty" doc:"Id of the person"`
}

// Text returns the canonical JSON of an entry (RFC 8785), which its leaf of the tree hashes.
func (e Entry) Text() ([]byte, error) {
	e.At = e.At.UTC().Truncate(time.Millisecond)
	text, err := json.Marshal(e)
	if err != nil {
		return nil, fmt.Errorf("encode entry %d: %w", e.Number, err)
	}
	if !bytes.ContainsRune(text, '\\') { // nothing in it is written otherwise
		return text, nil
	}
	return canon.JSON(text)
}

// Leaf returns the hash of an entry's leaf.
func (e Entry) Leaf() (tlog.Hash, error) {
	text, err := e.Text()
	return tlog.RecordHash(text), err
}

// Part holds what a log has of one job: its entries, each with the proof that the head covers it.
type Part struct {
	Job     string     `json:"job"`
	Head    string     `json:"head" doc:"Signed head of the company's log, with the number of entries of this job; empty where nothing was signed"`
	Keys    []string   `json:"keys" doc:"Keys that the log names, as golang.org/x/mod/sumdb/note writes them"`
	Entries []Entry    `json:"entries"`
	Proofs  [][]string `json:"proofs" doc:"Of each entry the hashes from its leaf to the root (RFC 6962, 2.1.1), base64"`
}

// Hash is a hash of the tree.
type Hash = tlog.Hash

// Texts returns hashes in base64, as proofs are written.
func Texts(hashes []tlog.Hash) []string {
	all := make([]string, len(hashes))
	for n, hash := range hashes {
		all[n] = hash.String()
	}
	return all
}

// hashes reads a proof as it is written.
func hashes(proof []string) ([]tlog.Hash, error) {
	all := make([]tlog.Hash, len(proof))
	for n, text := range proof {
		var err error
		if all[n], err = tlog.ParseHash(text); err != nil {
			return nil, fmt.Errorf("read hash %d of a proof: %w", n+1, err)
		}
	}
	return all, nil
}

// Head is the state of a log at a size: what is signed.
type Head struct {
	Log  string    `json:"log" doc:"Id of the log"`
	Size int64     `json:"size" doc:"Number of entries"`
	Root tlog.Hash `json:"root"`
	At   time.Time `json:"at"`
	Job  string    `json:"job,omitempty" doc:"Id of the job whose entries are counted"`
	Of   int64     `json:"of,omitempty" doc:"Number of entries of that job"`
}

const origin = "nephelon/"

// Text returns what is signed of a head: its log, size, root and time, a line each, and then the
// number of entries of a job where it is about one.
func (h Head) Text() string {
	text := fmt.Sprintf("%s%s\n%d\n%s\nat %s\n", origin, h.Log, h.Size, h.Root, h.At.UTC().Format(time.RFC3339))
	if h.Job != "" {
		text += fmt.Sprintf("job %s %d\n", h.Job, h.Of)
	}
	return text
}

// Sign returns a head as a signed note.
func (h Head) Sign(by note.Signer) (string, error) {
	text, err := note.Sign(&note.Note{Text: h.Text()}, by)
	if err != nil {
		return "", fmt.Errorf("sign a head: %w", err)
	}
	return string(text), nil
}

var errNoHead = errors.New("this is no head of a log: it begins with a line such as “nephelon/…”, then its size, its " +
	"root and its time")

// Read returns the head that a text or a signed note says, whoever signed it.
func Read(text string) (Head, error) {
	var h Head
	lines := strings.Split(text, "\n")
	const least = 4
	if len(lines) < least || !strings.HasPrefix(lines[0], origin) {
		return h, errNoHead
	}
	h.Log = strings.TrimPrefix(lines[0], origin)
	var err error
	if h.Size, err = strconv.ParseInt(lines[1], 10, 64); err != nil || h.Size < 0 {
		return h, errNoHead
	}
	if h.Root, err = tlog.ParseHash(lines[2]); err != nil {
		return h, errNoHead
	}
	at, timed := strings.CutPrefix(lines[3], "at ")
	if h.At, err = time.Parse(time.RFC3339, at); err != nil || !timed {
		return h, errNoHead
	}
	if rest, is := strings.CutPrefix(lines[least], "job "); is {
		job, of, _ := strings.Cut(rest, " ")
		if h.Of, err = strconv.ParseInt(of, 10, 64); err != nil {
			return h, errNoHead
		}
		h.Job = job
	}
	return h, nil
}

// Notes divides a text into the signed notes in it: each begins with the line that names its log.
func Notes(text string) []string {
	var notes []string
	for _, part := range strings.Split("\n"+text, "\n"+origin)[1:] {
		notes = append(notes, origin+strings.TrimRight(part, "\n")+"\n")
	}
	return notes
}

// Open returns the head of a signed note and the key that signed it, once one of the keys has.
func Open(text string, keys []string) (Head, string, error) {
	h, err := Read(text)
	if err != nil {
		return h, "", err
	}
	known := make([]note.Verifier, 0, len(keys))
	for _, key := range keys {
		v, err := note.NewVerifier(key)
		if err != nil {
			return h, "", fmt.Errorf("read the key %q: %w", key, err)
		}
		known = append(known, v)
	}
	opened, err := note.Open([]byte(text), note.VerifierList(known...))
	if err != nil {
		return h, "", errors.New("it is signed by none of the known keys, or was changed after it was signed")
	}
	for _, key := range keys {
		if strings.HasPrefix(key, fmt.Sprintf("%s+%08x+", opened.Sigs[0].Name, opened.Sigs[0].Hash)) {
			return h, key, nil
		}
	}
	return h, "", nil
}

// Follows reports whether a newer head continues an older one of the same log, by the proof that
// the server gave (RFC 6962, 2.1.2). The error says what is wrong.
func Follows(older, newer Head, proof []string) error {
	switch {
	case older.Log != newer.Log:
		return errors.New("it is the head of another log")
	case newer.Size < older.Size:
		return fmt.Errorf("%d entries are missing: this head has %d, an older one had %d", older.Size-newer.Size,
			newer.Size,
			older.Size)
	case older.Size == 0:
		return nil
	}
	if newer.Size == older.Size && newer.Root == older.Root {
		return nil
	}
	path, err := hashes(proof)
	if err != nil {
		return err
	}
	if err := tlog.CheckTree(path, newer.Size, newer.Root, older.Size, older.Root); err != nil {
		return errors.New("it does not continue the log of the older head: what was logged until then was changed")
	}
	return nil
}
