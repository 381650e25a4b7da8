package exchange

import (
	"reflect"

	"nephelon/core/draft"
)

// DraftSchema makes the JSON Schema (2020-12) of what is read of a maker's data sheet.
func DraftSchema() ([]byte, error) {
	return schema(reflect.TypeFor[draft.Draft](), "Nephelon draft of a data sheet",
		"What `nephelon sheet` reads of a maker's data sheet: values with the lines that they were read from, in SI units.")
}
