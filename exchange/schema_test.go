package exchange

import (
	"bytes"
	"os"
	"testing"

	"nephelon/docs"
)

// The published schema is made from the types; this keeps it current. Run with
// NEPHELON_WRITE=1 to renew it.
func TestPublishedSchemaIsCurrent(t *testing.T) {
	made, err := Schema()
	if err != nil {
		t.Fatal(err)
	}
	if os.Getenv("NEPHELON_WRITE") != "" {
		if err := os.WriteFile("../docs/plan-file.schema.json", made, 0o644); err != nil {
			t.Fatal(err)
		}
		return
	}
	if !bytes.Equal(made, docs.PlanFileSchema) {
		t.Error("docs/plan-file.schema.json is not what the types say: run `make schema`")
	}
}
