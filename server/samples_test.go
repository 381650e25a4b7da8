package server_test

import (
	"encoding/json"
	"net/http"
	"slices"
	"strings"
	"testing"

	"nephelon/core/measure"
	"nephelon/server/shelf"
)

// Samples are added once, whole and planable, marked as what nobody sells; the shelf's own stay.
func TestSamplesAreAddedOnce(t *testing.T) {
	c := signedIn(t, newServer(t), "owner@"+addCompany(t))
	before := got[shelf.ShelfPage](t, c, http.MethodGet, "/api/shelf?limit=300", nil)
	first := got[[]shelf.SystemLine](t, c, http.MethodPost, "/api/samples", nil)
	again := got[[]shelf.SystemLine](t, c, http.MethodPost, "/api/samples", nil)
	if len(first) < 4 || len(again) != len(first) {
		t.Errorf("%d systems after the first time, %d after the second", len(first), len(again))
	}
	after := got[shelf.ShelfPage](t, c, http.MethodGet, "/api/shelf?limit=300", nil)
	samples := 0
	for _, l := range after.Sheets {
		if !l.Sheet.Sample {
			continue
		}
		samples++
		if faults := l.Sheet.Faults(); len(faults) > 0 {
			t.Errorf("%s: %v", l.Sheet.Name, faults)
		}
		text, err := json.Marshal(l.Sheet)
		if err != nil {
			t.Fatal(err)
		}
		for _, maker := range []measure.Source{measure.Sheet, measure.Standard, measure.OwnTest} {
			if n := strings.Count(string(text), `"source":"`+string(maker)+`"`); n > 0 {
				t.Errorf("%s says %d times that a value is by %s", l.Sheet.Name, n, maker)
			}
		}
		if !slices.ContainsFunc(l.Sheet.Cautions, func(c string) bool { return strings.Contains(c, "do not mix by it") }) {
			t.Errorf("the cards of %s do not say that nobody sells it", l.Sheet.Name)
		}
	}
	if samples == 0 || after.Total != before.Total+samples {
		t.Errorf("%d sheets before, %d after, %d samples", before.Total, after.Total, samples)
	}
	for _, l := range first {
		for _, coat := range l.System.Coats {
			found := false
			for _, p := range l.Products {
				found = found || p.ID == coat.Product
			}
			if !found {
				t.Errorf("%s names %s, which is not on the shelf", l.System.Name, coat.Product)
			}
		}
	}
}
