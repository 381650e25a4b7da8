package exchange

import (
	"encoding/json"
	"errors"
	"math/rand/v2"
	"reflect"
	"strconv"
	"testing"
)

// tree is a random JSON document.
func tree(random *rand.Rand, depth int) any {
	switch n := random.IntN(7); {
	case n < 2 && depth > 0:
		object := make(map[string]any)
		for range random.IntN(5) {
			object[[]string{"a", "b~c", "d/e", "f", "g"}[random.IntN(5)]] = tree(random, depth-1)
		}
		return object
	case n < 4 && depth > 0:
		list := make([]any, random.IntN(4))
		for i := range list {
			list[i] = tree(random, depth-1)
		}
		return list
	case n == 4:
		return nil
	case n == 5:
		return random.Float64()
	}
	return strconv.Itoa(random.IntN(3))
}

// What the differences say leads from the one document to the other, by an outside
// implementation of RFC 6902 (evanphx/json-patch).
func TestDifferencesLeadFromOneDocumentToTheOther(t *testing.T) {
	random := rand.New(rand.NewPCG(13, 21))
	changed := 0
	for range 3000 {
		before, after := map[string]any{"root": tree(random, 4)}, map[string]any{"root": tree(random, 4)}
		if random.IntN(3) == 0 {
			after = before
		}
		from, _ := json.Marshal(before)
		to, _ := json.Marshal(after)
		steps := Diff("", from, to)
		changed += len(steps)
		got, err := Patch(from, steps)
		if err != nil {
			t.Fatalf("%s to %s by %v: %v", from, to, steps, err)
		}
		var a, b any
		_ = json.Unmarshal(got, &a)
		_ = json.Unmarshal(to, &b)
		if !reflect.DeepEqual(a, b) {
			t.Fatalf("%s to %s by %v gives %s", from, to, steps, got)
		}
	}
	if changed == 0 {
		t.Error("nothing differed")
	}
}

// One number changed in a large document is one step, however large the rest.
func TestADifferenceIsSmall(t *testing.T) {
	from := json.RawMessage(`{"a":[{"x":1,"y":[1,2,3]},{"x":2}],"b":{"c":"d"}}`)
	to := json.RawMessage(`{"a":[{"x":1,"y":[1,5,3]},{"x":2}],"b":{"c":"d"}}`)
	steps := Diff("/plan", from, to)
	if len(steps) != 1 || steps[0].Path != "/plan/a/0/y/1" || string(steps[0].Value) != "5" {
		t.Error(steps)
	}
}

func TestAPatchThatDoesNotFit(t *testing.T) {
	for _, step := range []EditStep{
		{Op: "replace", Path: "/gone/x", Value: json.RawMessage("1")}, {Op: "add", Path: "/a/7", Value: json.RawMessage("1")},
		{Op: "dance", Path: "/a"}, {Op: "test", Path: "/a/0", Value: json.RawMessage("3")},
	} {
		_, err := Patch([]byte(`{"a":[1,2]}`), []EditStep{step})
		if _, ok := errors.AsType[*PatchError](err); !ok {
			t.Errorf("%+v: %v", step, err)
		}
	}
}
