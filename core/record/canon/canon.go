// Package canon writes JSON in one way, so that equal values have equal bytes and a hash fits them.
package canon

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"github.com/go-json-experiment/json/jsontext"
)

// JSON returns the RFC 8785 form of JSON. It may change the text it is given.
func JSON(text []byte) ([]byte, error) {
	value := jsontext.Value(text)
	if err := value.Canonicalize(); err != nil {
		return nil, fmt.Errorf("write as canonical JSON: %w", err)
	}
	return value, nil
}

// InOrder returns a JSON object with its members in an order; nil where it has others.
func InOrder(text []byte, order string) []byte {
	var members map[string]json.RawMessage
	if json.Unmarshal(text, &members) != nil {
		return nil
	}
	var parts [][]byte
	for _, name := range strings.Fields(order) {
		if value, is := members[name]; is {
			parts = append(parts, fmt.Appendf(nil, "%q:%s", name, value))
		}
	}
	if len(parts) < len(members) {
		return nil
	}
	return slices.Concat([]byte("{"), bytes.Join(parts, []byte(",")), []byte("}"))
}
