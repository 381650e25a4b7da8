package store_test

import (
	"errors"
	"testing"

	"nephelon/core/material"
	"nephelon/store"
)

// A document stays while an edition of a sheet names it, is forgotten a month after nobody did, and belongs to its
// company alone.
func TestMakersDocuments(t *testing.T) {
	ctx := t.Context()
	c, person := company(t)
	keep := func(content string) string {
		t.Helper()
		hash, err := records.KeepOriginal(ctx, c, person, content+".txt", "text/plain", []byte(content))
		if err != nil {
			t.Fatal(err)
		}
		return hash
	}
	named, loose := keep("named"), keep("loose")
	if named == loose || named != keep("named") {
		t.Fatal("documents are not known by their content")
	}
	if err := records.SaveSheets(ctx, c, &person, store.NewSheet{Shelf: store.ProductShelf, ID: "tern", Version: 1,
		Doc: material.Product{ID: "tern", Original: &material.Original{Hash: named, Name: "named.txt"}}}); err != nil {
		t.Fatal(err)
	}
	if _, err := records.DB().ExecContext(ctx, `update originals set added_at = added_at - interval '31 days'
		where company_id = $1`, c); err != nil {
		t.Fatal(err)
	}
	fresh := keep("fresh")
	for hash, want := range map[string]string{named: "named", fresh: "fresh", loose: ""} {
		got, err := records.Original(ctx, c, hash)
		if string(got.Content) != want || (want == "") != errors.Is(err, store.ErrNotFound) {
			t.Errorf("%q is %q, %v", want, got.Content, err)
		}
	}
	if room, err := records.Storage(ctx, c); err != nil || room.Sheets != int64(len("named")+len("fresh")) {
		t.Errorf("%+v, %v", room, err)
	}
	other, _ := company(t)
	if _, err := records.Original(ctx, other, named); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("another company reads it: %v", err)
	}
}
