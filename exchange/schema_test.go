package exchange

import (
	"bytes"
	"testing"

	"nephelon/docs"
)

// The published schemas are made from the types; this keeps them current.
func TestPublishedSchemasAreCurrent(t *testing.T) {
	for name, c := range map[string]struct {
		published []byte
		make      func() ([]byte, error)
	}{
		"plan-file.schema.json":   {docs.PlanFileSchema, PlanSchema},
		"shelf-file.schema.json":  {docs.ShelfFileSchema, ShelfSchema},
		"facts.schema.json":       {docs.FactsSchema, FactsSchema},
		"sheet-draft.schema.json": {docs.DraftSchema, DraftSchema},
		"roster.schema.json":      {docs.RosterSchema, RosterSchema},
		"plan.schema.json":        {docs.PlanSchema, DerivedSchema},
		"record.schema.json":      {docs.RecordSchema, RecordSchema},
	} {
		made, err := c.make()
		if err != nil {
			t.Fatal(err)
		}
		if !bytes.Equal(made, c.published) {
			t.Errorf("docs/%s is not what the types say: run `make schema`", name)
		}
	}
}
