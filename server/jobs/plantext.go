package jobs

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"nephelon/core/plan"
	"nephelon/exchange"
)

// planText is a plan as JSON in pieces, so that of an edit only what it moved is
// encoded, compared and sent.
type planText struct {
	plan     plan.Plan
	overall  object
	surfaces []surfaceText
	tasks    []object
}

type surfaceText struct {
	bare  object
	coats []object
}

// object is a struct as JSON, field by field.
type object struct {
	value  reflect.Value
	fields []field
}

type field struct {
	name string
	text []byte // nil where the field is left out
}

// encode turns a plan into JSON. What equals the plan before, which may be nil,
// is taken over from it.
func encode(p plan.Plan, before *planText) (*planText, error) {
	t := &planText{plan: p, surfaces: make([]surfaceText, len(p.Surfaces)), tasks: make([]object, len(p.Tasks))}
	if before == nil {
		before = &planText{}
	}
	var err error
	if t.overall, err = write(p.Overall, before.overall); err != nil {
		return nil, err
	}
	err = onAll(len(p.Surfaces), func(i int) (err error) {
		s, out := &p.Surfaces[i], &t.surfaces[i]
		var known surfaceText
		if i < len(before.surfaces) {
			known = before.surfaces[i]
		}
		if out.bare, err = write(s.Bare, known.bare); err != nil {
			return err
		}
		out.coats = make([]object, len(s.Coats))
		for c, coat := range s.Coats {
			if out.coats[c], err = write(coat, at(known.coats, c)); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	for i, task := range p.Tasks {
		if t.tasks[i], err = write(task, at(before.tasks, i)); err != nil {
			return nil, err
		}
	}
	return t, nil
}

// onAll calls do with 0 to n-1, on all processors at once, and returns one of its errors.
func onAll(n int, do func(i int) error) error {
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i := range n {
		group.Go(func() error { return do(i) })
	}
	return group.Wait()
}

// at is an object of a list, none where the list is shorter.
func at(list []object, i int) object {
	if i < len(list) {
		return list[i]
	}
	return object{}
}

// write encodes a struct, field by field; what equals the struct before is taken
// over from it.
func write(v any, before object) (object, error) {
	o := object{value: reflect.ValueOf(v)}
	known := len(before.fields) > 0
	kind := o.value.Type()
	o.fields = make([]field, 0, kind.NumField())
	for i := range kind.NumField() {
		tag := kind.Field(i).Tag.Get("json")
		name, options, _ := strings.Cut(tag, ",")
		value := o.value.Field(i)
		n := len(o.fields)
		switch {
		case name == "-" || name == "":
			continue
		case known && reflect.DeepEqual(before.value.Field(i).Interface(), value.Interface()):
			o.fields = append(o.fields, before.fields[n])
			continue
		case options == "omitempty" && empty(value):
			o.fields = append(o.fields, field{name: name})
			continue
		}
		text, err := json.Marshal(value.Interface())
		if err != nil {
			return o, fmt.Errorf("encode plan: %w", err)
		}
		o.fields = append(o.fields, field{name, text})
	}
	return o, nil
}

// empty returns what encoding/json leaves out with omitempty.
func empty(v reflect.Value) bool {
	switch v.Kind() {
	case reflect.Slice, reflect.Map, reflect.String, reflect.Array:
		return v.Len() == 0
	case reflect.Struct:
		return false
	}
	return v.IsZero()
}

// open writes an object without its closing brace.
func (o object) open(b *bytes.Buffer) {
	b.WriteByte('{')
	first := true
	for _, f := range o.fields {
		if f.text == nil {
			continue
		}
		if !first {
			b.WriteByte(',')
		}
		first = false
		b.WriteByte('"')
		b.WriteString(f.name)
		b.WriteString(`":`)
		b.Write(f.text)
	}
}

func list(b *bytes.Buffer, name string, n int, write func(i int)) {
	b.WriteString(`,"` + name + `":[`)
	for i := range n {
		if i > 0 {
			b.WriteByte(',')
		}
		write(i)
	}
	b.WriteByte(']')
}

func objects(b *bytes.Buffer, name string, all []object) {
	list(b, name, len(all), func(i int) {
		all[i].open(b)
		b.WriteByte('}')
	})
}

// writeTo writes the whole plan.
func (t *planText) writeTo(b *bytes.Buffer) {
	t.overall.open(b)
	list(b, "surfaces", len(t.surfaces), func(i int) { t.surfaces[i].writeTo(b) })
	objects(b, "tasks", t.tasks)
	b.WriteByte('}')
}

func (s surfaceText) writeTo(b *bytes.Buffer) {
	s.bare.open(b)
	objects(b, "coats", s.coats)
	b.WriteByte('}')
}

// since lists what turns an earlier plan into this one, as a JSON Patch.
func (t *planText) since(before *planText) []exchange.EditStep {
	steps := t.overall.since(before.overall, "", nil)
	if len(t.surfaces) != len(before.surfaces) {
		steps = append(steps, whole("/surfaces", func(b *bytes.Buffer) {
			list(b, "", len(t.surfaces), func(i int) { t.surfaces[i].writeTo(b) })
		}))
	} else {
		moved := make([][]exchange.EditStep, len(t.surfaces))
		_ = onAll(len(moved), func(i int) error {
			moved[i] = t.surfaces[i].since(before.surfaces[i], fmt.Sprintf("/surfaces/%d", i), nil)
			return nil
		})
		steps = append(steps, slices.Concat(moved...)...)
	}
	if len(t.tasks) != len(before.tasks) {
		return append(steps, whole("/tasks", func(b *bytes.Buffer) { objects(b, "", t.tasks) }))
	}
	for i, task := range t.tasks {
		steps = task.since(before.tasks[i], fmt.Sprintf("/tasks/%d", i), steps)
	}
	return steps
}

// whole replaces a list as a whole.
func whole(path string, write func(*bytes.Buffer)) exchange.EditStep {
	var b bytes.Buffer
	write(&b)
	return exchange.EditStep{Op: "replace", Path: path, Value: bytes.TrimPrefix(b.Bytes(), []byte(`,"":`))}
}

func (s surfaceText) since(before surfaceText, path string, steps []exchange.EditStep) []exchange.EditStep {
	if len(s.coats) != len(before.coats) {
		var b bytes.Buffer
		s.writeTo(&b)
		return append(steps, exchange.EditStep{Op: "replace", Path: path, Value: b.Bytes()})
	}
	steps = s.bare.since(before.bare, path, steps)
	for c := range s.coats {
		steps = s.coats[c].since(before.coats[c], fmt.Sprintf("%s/coats/%d", path, c), steps)
	}
	return steps
}

func (o object) since(before object, path string, steps []exchange.EditStep) []exchange.EditStep {
	for i, f := range o.fields {
		was := before.fields[i].text
		at := path + "/" + f.name
		switch {
		case was == nil && f.text == nil:
		case f.text == nil:
			steps = append(steps, exchange.EditStep{Op: "remove", Path: at})
		case was == nil:
			steps = append(steps, exchange.EditStep{Op: "add", Path: at, Value: f.text})
		default:
			steps = append(steps, exchange.Diff(at, was, f.text)...)
		}
	}
	return steps
}
