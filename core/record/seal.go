package record

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"time"

	"nephelon/core/record/canon"
)

// SealVersion is the version of the seal that events get now. Version 1 hashed the members in
// the order of a Go struct, version 2 hashes canonical JSON (RFC 8785), version 3 does so for events
// that name their job and the hash of their plan.
const SealVersion = 3

const sealedAsJSON = 2 // the version that did so first

// Sealed returns an event with its hash, after another on its device; before is empty for the first.
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

// canonical returns the RFC 8785 form of an event without the members that its hash does not cover.
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
	return canon.JSON(text)
}

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
	if text, err = canon.JSON(text); err != nil {
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

// eventOrder and bodyOrder hold the order in which version 1 hashed the members of an event and of
// its body. It is part of every hash that was made with it: never change it.
const (
	eventOrder = "id issue task kind at behind device number before hash person name body"
	bodyOrder  = "gate saw reason slab air humidity a b masses lots expires film photo product mass stage seen at size " +
		"noticed cause question yes struck text ink"
)

// sumInOrder returns the hash of version 1. It is empty for an event that says something that
// version 1 did not know, which its hash would not cover.
func sumInOrder(e Event) string {
	e.Hash, e.Received = "", nil
	e.At, e.Body.Noticed = e.At.UTC().Truncate(time.Millisecond), inUTC(e.Body.Noticed)
	text, err := json.Marshal(e)
	if err != nil {
		return ""
	}
	var members map[string]json.RawMessage
	if err := json.Unmarshal(text, &members); err != nil {
		return ""
	}
	if members["body"] = canon.InOrder(members["body"], bodyOrder); members["body"] == nil {
		return ""
	}
	if text, err = json.Marshal(members); err != nil {
		return ""
	}
	if text = canon.InOrder(text, eventOrder); text == nil {
		return ""
	}
	return hash(text)
}
