package exchange

import (
	"encoding/json"
	"errors"
	"fmt"

	"nephelon/core/record"
	"nephelon/core/record/ledger"
)

// RecordEvidence reads what a check looks at from a record file. The pictures are not in it.
func RecordEvidence(text []byte) (ledger.Evidence, error) {
	var file recordText
	e := ledger.Evidence{NoPhoto: true}
	if err := json.Unmarshal(text, &file); err != nil {
		return e, fmt.Errorf("the record cannot be read: %w", err)
	}
	if file.Format != RecordFormat {
		return e, errors.New("format: this is no record of Nephelon; choose an exported record, an archive or a backup")
	}
	if file.Version != RecordVersion {
		return e, fmt.Errorf("version: a record of version %d has no log; export it again with this program", file.Version)
	}
	e.Entries, e.Proofs, e.Keys = file.Log.Entries, file.Log.Proofs, file.Log.Keys
	if file.Log.Head != "" {
		e.Heads = []string{file.Log.Head}
	}
	for _, doc := range file.Issues {
		var i record.Issue
		if err := json.Unmarshal(doc, &i); err != nil {
			return e, fmt.Errorf("issues: a plan cannot be read: %w", err)
		}
		e.Plans = append(e.Plans, ledger.HeldPlan{Job: file.Log.Job, Number: i.Number, Doc: doc})
	}
	for _, doc := range file.Events {
		var v record.Event
		if err := json.Unmarshal(doc, &v); err != nil {
			return e, fmt.Errorf("events: an event cannot be read: %w", err)
		}
		held := ledger.HeldEvent{Job: file.Log.Job, Person: v.Person, Doc: doc}
		if v.Received != nil {
			held.Received = *v.Received
		}
		e.Events = append(e.Events, held)
	}
	return e, nil
}
