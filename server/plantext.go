package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"

	"nephelon/core/plan"
	"nephelon/core/work"
	"nephelon/exchange"
)

// planText is a plan as JSON in pieces, so that of an edit only what it moved is
// encoded, compared and sent.
type planText struct {
	plan     plan.Plan
	overall  []byte
	surfaces []surfaceText
	tasks    [][]byte
}

type surfaceText struct {
	bare  []byte
	coats [][]byte
}

// encode turns a plan into JSON. What equals the plan before, which may be nil,
// is taken over from it.
func encode(p plan.Plan, before *planText) (*planText, error) {
	t := &planText{plan: p, surfaces: make([]surfaceText, len(p.Surfaces)), tasks: make([][]byte, len(p.Tasks))}
	var err error
	if t.overall, err = json.Marshal(p.Overall); err != nil {
		return nil, fmt.Errorf("encode plan: %w", err)
	}
	for i, s := range p.Surfaces {
		out := &t.surfaces[i]
		var old plan.SurfacePlan
		var known surfaceText
		if before != nil && i < len(before.plan.Surfaces) && before.plan.Surfaces[i].ID == s.ID {
			old, known = before.plan.Surfaces[i], before.surfaces[i]
		}
		if out.bare, err = piece(known.bare, old.Bare, s.Bare); err != nil {
			return nil, err
		}
		out.coats = make([][]byte, len(s.Coats))
		for c, coat := range s.Coats {
			var was plan.CoatPlan
			var text []byte
			if c < len(old.Coats) && old.Coats[c].ID == coat.ID {
				was, text = old.Coats[c], known.coats[c]
			}
			if out.coats[c], err = piece(text, was, coat); err != nil {
				return nil, err
			}
		}
	}
	for i, task := range p.Tasks {
		var was work.Task
		var text []byte
		if before != nil && i < len(before.plan.Tasks) {
			was, text = before.plan.Tasks[i], before.tasks[i]
		}
		if t.tasks[i], err = piece(text, was, task); err != nil {
			return nil, err
		}
	}
	return t, nil
}

// piece is the JSON of a part, that of the part before where they are equal.
func piece[T any](text []byte, before, now T) ([]byte, error) {
	if text != nil && reflect.DeepEqual(before, now) {
		return text, nil
	}
	made, err := json.Marshal(now)
	if err != nil {
		return nil, fmt.Errorf("encode plan: %w", err)
	}
	return made, nil
}

// open is an object's JSON without its closing brace.
func open(object []byte) []byte { return object[:len(object)-1] }

// writeTo writes the whole plan.
func (t *planText) writeTo(b *bytes.Buffer) {
	b.Write(open(t.overall))
	b.WriteString(`,"surfaces":[`)
	for i, s := range t.surfaces {
		if i > 0 {
			b.WriteByte(',')
		}
		s.writeTo(b)
	}
	b.WriteString(`],"tasks":[`)
	b.Write(bytes.Join(t.tasks, []byte(",")))
	b.WriteString(`]}`)
}

func (s surfaceText) writeTo(b *bytes.Buffer) {
	b.Write(open(s.bare))
	b.WriteString(`,"coats":[`)
	b.Write(bytes.Join(s.coats, []byte(",")))
	b.WriteString(`]}`)
}

// since lists what turns an earlier plan into this one, as a JSON Patch.
func (t *planText) since(before *planText) ([]exchange.EditStep, error) {
	steps, err := exchange.Diff("", before.overall, t.overall)
	if err != nil {
		return nil, err
	}
	add := func(more []exchange.EditStep, err error) error {
		steps = append(steps, more...)
		return err
	}
	if len(t.surfaces) != len(before.surfaces) {
		var all bytes.Buffer
		all.WriteByte('[')
		for i, s := range t.surfaces {
			if i > 0 {
				all.WriteByte(',')
			}
			s.writeTo(&all)
		}
		all.WriteByte(']')
		steps = append(steps, exchange.EditStep{Op: "replace", Path: "/surfaces", Value: all.Bytes()})
	} else {
		for i, s := range t.surfaces {
			path := fmt.Sprintf("/surfaces/%d", i)
			if err := add(s.since(path, before.surfaces[i])); err != nil {
				return nil, err
			}
		}
	}
	if len(t.tasks) != len(before.tasks) {
		return append(steps, exchange.EditStep{Op: "replace", Path: "/tasks", Value: listed(t.tasks)}), nil
	}
	for i, task := range t.tasks {
		if err := add(exchange.Diff(fmt.Sprintf("/tasks/%d", i), before.tasks[i], task)); err != nil {
			return nil, err
		}
	}
	return steps, nil
}

func (s surfaceText) since(path string, before surfaceText) ([]exchange.EditStep, error) {
	if len(s.coats) != len(before.coats) {
		var whole bytes.Buffer
		s.writeTo(&whole)
		return []exchange.EditStep{{Op: "replace", Path: path, Value: whole.Bytes()}}, nil
	}
	steps, err := exchange.Diff(path, before.bare, s.bare)
	if err != nil {
		return nil, err
	}
	for c, coat := range s.coats {
		more, err := exchange.Diff(fmt.Sprintf("%s/coats/%d", path, c), before.coats[c], coat)
		if err != nil {
			return nil, err
		}
		steps = append(steps, more...)
	}
	return steps, nil
}

func listed(pieces [][]byte) json.RawMessage {
	return bytes.Join([][]byte{[]byte("["), bytes.Join(pieces, []byte(",")), []byte("]")}, nil)
}
