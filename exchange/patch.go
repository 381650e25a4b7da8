package exchange

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/tidwall/gjson"
)

// EditStep is one operation of a JSON Patch (RFC 6902). Moves and copies are not taken: a few
// of them make any document as large as one likes.
type EditStep struct {
	Op    string          `json:"op" enum:"add,replace,remove,test"`
	Path  string          `json:"path" maxLength:"500" doc:"JSON Pointer"`
	Value json.RawMessage `json:"value,omitempty"`
}

// PatchError says why a patch does not fit what it is for.
type PatchError struct{ cause error }

func (e *PatchError) Error() string { return "The edit does not fit the job it was made from." }

func (e *PatchError) Unwrap() error { return e.cause }

// Patch applies the steps to a JSON document. It fails with a *PatchError where a
// step names what is not there.
func Patch(document []byte, steps []EditStep) ([]byte, error) {
	for n, step := range steps {
		if !slices.Contains([]string{"add", "replace", "remove", "test"}, step.Op) {
			return nil, &PatchError{fmt.Errorf("step %d: the operation %q is not taken", n, step.Op)}
		}
	}
	text, err := json.Marshal(steps)
	if err != nil {
		return nil, fmt.Errorf("encode the patch: %w", err)
	}
	patch, err := jsonpatch.DecodePatch(text)
	if err != nil {
		return nil, &PatchError{err}
	}
	options := jsonpatch.NewApplyOptions()
	options.AllowMissingPathOnRemove = true // what someone else removed, too, is gone
	options.EnsurePathExistsOnAdd = false
	patched, err := patch.ApplyWithOptions(document, options)
	if err != nil {
		return nil, &PatchError{err}
	}
	return patched, nil
}

// Diff lists what turns one JSON document into another. Objects are compared
// field by field and lists of one length entry by entry; other lists are replaced
// as a whole. Both documents are valid and compact, as encoding/json writes them. Equal
// parts cost a comparison of their bytes.
func Diff(path string, from, to json.RawMessage) []EditStep {
	d := differ{}
	d.value(path, string(from), string(to))
	return d.steps
}

type differ struct{ steps []EditStep }

func (d *differ) replace(path, to string) {
	d.steps = append(d.steps, EditStep{Op: "replace", Path: path, Value: json.RawMessage(to)})
}

func (d *differ) value(path, from, to string) {
	switch {
	case from == to:
	case strings.HasPrefix(from, "{") && strings.HasPrefix(to, "{"):
		d.object(path, fieldsOf(from), fieldsOf(to))
	case strings.HasPrefix(from, "[") && strings.HasPrefix(to, "["):
		d.list(path, from, to)
	default:
		d.replace(path, to)
	}
}

// fieldsOf returns the fields of an object as they are written.
func fieldsOf(object string) map[string]string {
	fields := make(map[string]string)
	gjson.Parse(object).ForEach(func(key, value gjson.Result) bool {
		fields[key.String()] = value.Raw
		return true
	})
	return fields
}

func (d *differ) object(path string, before, after map[string]string) {
	for _, key := range slices.Sorted(maps.Keys(before)) {
		if _, there := after[key]; !there {
			d.steps = append(d.steps, EditStep{Op: "remove", Path: path + "/" + escaped(key)})
		}
	}
	for _, key := range slices.Sorted(maps.Keys(after)) {
		at := path + "/" + escaped(key)
		was, there := before[key]
		if !there {
			d.steps = append(d.steps, EditStep{Op: "add", Path: at, Value: json.RawMessage(after[key])})
			continue
		}
		d.value(at, was, after[key])
	}
}

func (d *differ) list(path, from, to string) {
	before, after := gjson.Parse(from).Array(), gjson.Parse(to).Array()
	if len(before) != len(after) {
		d.replace(path, to)
		return
	}
	for i := range before {
		d.value(path+"/"+strconv.Itoa(i), before[i].Raw, after[i].Raw)
	}
}

func escaped(key string) string {
	if !strings.ContainsAny(key, "~/") {
		return key
	}
	return strings.ReplaceAll(strings.ReplaceAll(key, "~", "~0"), "/", "~1")
}
