package job

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
)

// By says who changed something since the base of two edits.
type By string

// Who changed.
const (
	Mine   By = "mine"
	Theirs By = "theirs"
	Both   By = "both"
)

// Difference is one place where two edits of a job part.
type Difference struct {
	Path  string `json:"path" doc:"JSON Pointer into the plan file"`
	Place string `json:"place" doc:"The same in words"`
	By    By     `json:"by"`
}

// Merge combines two edits made from the same base. Where both changed the same
// place, mine stands in the result. Lists of things with an id are combined
// thing by thing; other lists, such as an outline, as a whole.
func Merge(base, mine, theirs File) (File, []Difference, error) {
	var trees [3]any
	for i, f := range []File{base, mine, theirs} {
		text, err := json.Marshal(f)
		if err != nil {
			return File{}, nil, fmt.Errorf("encode an edit: %w", err)
		}
		if err := json.Unmarshal(text, &trees[i]); err != nil {
			return File{}, nil, fmt.Errorf("decode an edit: %w", err)
		}
	}
	var m merger
	combined := m.merge("", "", trees[0], trees[1], trees[2])
	text, err := json.Marshal(combined)
	if err != nil {
		return File{}, nil, fmt.Errorf("encode the combined edit: %w", err)
	}
	var file File
	if err := json.Unmarshal(text, &file); err != nil {
		return File{}, nil, fmt.Errorf("decode the combined edit: %w", err)
	}
	return file, m.differences, nil
}

type merger struct{ differences []Difference }

func (m *merger) differ(path, place string, by By) {
	m.differences = append(m.differences, Difference{path, place, by})
}

func (m *merger) merge(path, place string, base, mine, theirs any) any {
	switch {
	case reflect.DeepEqual(mine, theirs):
		return mine
	case reflect.DeepEqual(base, theirs):
		m.differ(path, place, Mine)
		return mine
	case reflect.DeepEqual(base, mine):
		m.differ(path, place, Theirs)
		return theirs
	}
	mineObject, mineIs := mine.(map[string]any)
	theirObject, theirIs := theirs.(map[string]any)
	baseObject, _ := base.(map[string]any)
	if mineIs && theirIs {
		return m.objects(path, place, baseObject, mineObject, theirObject)
	}
	mineList, mineIs := mine.([]any)
	theirList, theirIs := theirs.([]any)
	baseList, _ := base.([]any)
	if mineIs && theirIs && identified(mineList) && identified(theirList) && identified(baseList) {
		return m.lists(path, place, baseList, mineList, theirList)
	}
	m.differ(path, place, Both)
	return mine
}

// absent stands for a field or thing that is not there.
type absent struct{}

func (m *merger) objects(path, place string, base, mine, theirs map[string]any) any {
	keys := make(map[string]bool)
	for _, object := range []map[string]any{base, mine, theirs} {
		for key := range object {
			keys[key] = true
		}
	}
	at := func(object map[string]any, key string) any {
		if v, ok := object[key]; ok {
			return v
		}
		return absent{}
	}
	combined := make(map[string]any, len(keys))
	for _, key := range slices.Sorted(maps.Keys(keys)) {
		v := m.merge(path+"/"+key, joined(place, words(key)), at(base, key), at(mine, key), at(theirs, key))
		if _, gone := v.(absent); !gone {
			combined[key] = v
		}
	}
	return combined
}

// lists combines things by id, in mine's order, with what they added behind.
func (m *merger) lists(path, place string, base, mine, theirs []any) any {
	combined := []any{}
	seen := make(map[string]bool)
	for _, list := range [][]any{mine, theirs, base} {
		for i, thing := range list {
			id := idOf(thing)
			if seen[id] {
				continue
			}
			seen[id] = true
			v := m.merge(fmt.Sprintf("%s/%d", path, i), joined(place, nameOf(thing, i)), find(base, id), find(mine, id),
				find(theirs, id))
			if _, gone := v.(absent); !gone {
				combined = append(combined, v)
			}
		}
	}
	return combined
}

func find(list []any, id string) any {
	for _, thing := range list {
		if idOf(thing) == id {
			return thing
		}
	}
	return absent{}
}

func idOf(thing any) string {
	object, _ := thing.(map[string]any)
	id, _ := object["id"].(string)
	return id
}

func nameOf(thing any, i int) string {
	object, _ := thing.(map[string]any)
	if name, _ := object["name"].(string); name != "" {
		return name
	}
	return fmt.Sprintf("%d", i+1)
}

func identified(list []any) bool {
	for _, thing := range list {
		if idOf(thing) == "" {
			return false
		}
	}
	return true
}

func joined(place, part string) string {
	switch {
	case part == "":
		return place
	case place == "":
		return part
	}
	return place + " › " + part
}

// words names a field as the screen does; containers that the next name makes
// clear are left out.
func words(key string) string {
	switch key {
	case "job", "surfaces", "floor", "top", "pool", "layout":
		return ""
	case "coats":
		return "coat"
	case "products":
		return "data sheets"
	}
	return key
}

// Values returns all values, in the order in which they are shown.
func (By) Values() []By {
	return []By{Mine, Theirs, Both}
}
