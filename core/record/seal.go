package record

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"time"

	"github.com/gowebpki/jcs"

	"nephelon/core/measure"
	"nephelon/core/work"
)

// SealVersion is the version of the seal that events get now. Version 1 hashed the members in
// the order of a Go struct, version 2 hashes canonical JSON (RFC 8785), version 3 does so for events
// that name their job and the hash of their plan.
const SealVersion = 3

const sealedAsJSON = 2 // the version that did so first

// Sealed returns an event with its hash, after another on its device; before is empty for the
// first.
func Sealed(e Event, before string) Event {
	e.Version = SealVersion
	if e.Job == "" || e.Plan == "" { // on a plan of an earlier build
		e.Version = sealedAsJSON
	}
	e.At = e.At.UTC().Truncate(time.Millisecond)
	e.Body.Noticed = inUTC(e.Body.Noticed)
	e.Behind += 0 // never −0, which JSON writes with its sign
	e.Before = before
	e.Hash = Sum(e)
	return e
}

// Sum returns the hash that an event must carry, hex SHA-256: since version 2 over the RFC 8785
// form of its JSON without the members hash, name and received, with times in UTC to the
// millisecond. It is empty for an event that no JSON can hold or whose version is not known.
func Sum(e Event) string {
	switch e.Version {
	case 0:
		e.Name = ""
		return sumInOrder(e)
	case sealedAsJSON, SealVersion:
		return sumCanonical(e)
	}
	return ""
}

// whole reports whether an event carries its hash. The first events have the name in it.
func whole(e *Event) bool {
	if e.Hash == "" {
		return false
	}
	return e.Hash == Sum(*e) || e.Version == 0 && e.Hash == sumInOrder(*e)
}

func inUTC(at *time.Time) *time.Time {
	if at == nil {
		return nil
	}
	utc := at.UTC().Truncate(time.Millisecond)
	return &utc
}

// canonical returns the RFC 8785 form of an event without the members that its hash does not
// cover.
func canonical(e Event) ([]byte, error) {
	e.At, e.Body.Noticed = e.At.UTC().Truncate(time.Millisecond), inUTC(e.Body.Noticed)
	// The members that the hash does not cover are left out: a field of the same name outside takes
	// the place of the one inside.
	text, err := json.Marshal(struct {
		Event
		Hash     *struct{} `json:"hash,omitempty"`
		Name     *struct{} `json:"name,omitempty"`
		Received *struct{} `json:"received,omitempty"`
	}{Event: e})
	if err != nil {
		return nil, err
	}
	return jcs.Transform(text)
}

// besideSeal lists the members of an event that its hash does not cover.
func besideSeal() []string { return []string{"hash", "name", "received"} }

// PlanSum returns the hash of an issued plan, hex SHA-256 over the RFC 8785 form of its JSON
// without the members hash and by.
func PlanSum(doc []byte) (string, error) {
	var members map[string]json.RawMessage
	if err := json.Unmarshal(doc, &members); err != nil {
		return "", fmt.Errorf("read an issued plan: %w", err)
	}
	delete(members, "hash")
	delete(members, "by")
	text, err := json.Marshal(members)
	if err != nil {
		return "", fmt.Errorf("write an issued plan: %w", err)
	}
	if text, err = jcs.Transform(text); err != nil {
		return "", fmt.Errorf("write an issued plan: %w", err)
	}
	return hash(text), nil
}

func sumCanonical(e Event) string {
	text, err := canonical(e)
	if err != nil {
		return "" // a figure in it is none; no event carries an empty hash
	}
	return hash(text)
}

func hash(text []byte) string {
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:])
}

// inOrder is an event as version 1 hashed it. The order of its fields and of bodyInOrder's is
// part of every hash that was made with it: never change it.
type inOrder struct {
	ID     string       `json:"id"`
	Issue  int          `json:"issue"`
	Task   work.ID      `json:"task,omitempty"`
	Kind   Kind         `json:"kind"`
	At     time.Time    `json:"at"`
	Behind measure.Span `json:"behind"`
	Device string       `json:"device"`
	Number int64        `json:"number"`
	Before string       `json:"before"`
	Hash   string       `json:"hash"`
	Person string       `json:"person"`
	Name   string       `json:"name"`
	Body   bodyInOrder  `json:"body"`
}

type bodyInOrder struct {
	Gate     string               `json:"gate,omitempty"`
	Saw      string               `json:"saw,omitempty"`
	Reason   string               `json:"reason,omitempty"`
	Slab     *measure.Temperature `json:"slab,omitempty"`
	Air      *measure.Temperature `json:"air,omitempty"`
	Humidity *measure.Fraction    `json:"humidity,omitempty"`
	A        *measure.Temperature `json:"a,omitempty"`
	B        *measure.Temperature `json:"b,omitempty"`
	Masses   []measure.Mass       `json:"masses,omitempty"`
	Lots     []string             `json:"lots,omitempty"`
	Expires  string               `json:"expires,omitempty"`
	Film     *measure.Film        `json:"film,omitempty"`
	Photo    string               `json:"photo,omitempty"`
	Product  string               `json:"product,omitempty"`
	Mass     *measure.Mass        `json:"mass,omitempty"`
	Stage    string               `json:"stage,omitempty"`
	Seen     string               `json:"seen,omitempty"`
	At       *[2]float64          `json:"at,omitempty"`
	Size     string               `json:"size,omitempty"`
	Noticed  *time.Time           `json:"noticed,omitempty"`
	Cause    string               `json:"cause,omitempty"`
	Question string               `json:"question,omitempty"`
	Yes      *bool                `json:"yes,omitempty"`
	Struck   string               `json:"struck,omitempty"`
	Text     string               `json:"text,omitempty"`
	Ink      string               `json:"ink,omitempty"`
}

// sumInOrder returns the hash of version 1. It is empty for an event that says something that
// version 1 did not know, which its hash would not cover.
func sumInOrder(e Event) string {
	e.Hash = ""
	b := &e.Body
	text, err := json.Marshal(inOrder{
		ID: e.ID, Issue: e.Issue, Task: e.Task, Kind: e.Kind, At: e.At.UTC().Truncate(time.Millisecond), Behind: e.Behind,
		Device: e.Device,
		Number: e.Number, Before: e.Before, Person: e.Person, Name: e.Name,
		Body: bodyInOrder{
			Gate: b.Gate, Saw: b.Saw, Reason: b.Reason, Slab: b.Slab, Air: b.Air, Humidity: b.Humidity, A: b.A, B: b.B,
			Masses: b.Masses, Lots: b.Lots,
			Expires: b.Expires, Film: b.Film, Photo: b.Photo, Product: b.Product, Mass: b.Mass, Stage: b.Stage, Seen: b.Seen,
			At: b.At, Size: b.Size,
			Noticed: inUTC(b.Noticed), Cause: b.Cause, Question: b.Question, Yes: b.Yes, Struck: b.Struck,
			Text: b.Text, Ink: b.Ink,
		},
	})
	if err != nil {
		return ""
	}
	if all, err := canonical(e); err != nil || !says(text, all) {
		return ""
	}
	return hash(text)
}

// says reports whether a hashed text holds all that an event says.
func says(text, all []byte) bool {
	var members map[string]json.RawMessage
	if json.Unmarshal(text, &members) != nil {
		return false
	}
	for _, beside := range besideSeal() {
		delete(members, beside)
	}
	known, err := json.Marshal(members)
	if err != nil {
		return false
	}
	known, err = jcs.Transform(known)
	return err == nil && bytes.Equal(known, all)
}
