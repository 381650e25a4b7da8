package main

import (
	"bytes"
	"encoding/json"
	"testing"
	"time"
)

// FuzzCure asks anything of `nephelon cure`: it answers with JSON or refuses, within
// the bound that docs/computed.md states.
func FuzzCure(f *testing.F) {
	f.Add(
		[]byte(
			`{"vessel":{"mass":6,"density":1120,"loss":7.7,"start":24,"air":27},"until":14400,"sheet":{"potLife":2040,"vessel":{"mass":0.8,"density":1120,"loss":7.7,"start":23,"air":23}}}`))
	f.Add(
		[]byte(
			`{"kinetics":{"a1":2e4,"e1":56000,"a2":2e5,"e2":53000,"m":0,"n":0,"heat":380e3,"cp":1800,"gel":0.6},"vessel":{"film":0.02,"mass":1,"density":1100,"loss":16,"start":20,"air":20}}`))
	f.Fuzz(func(t *testing.T, question []byte) {
		var out, complaint bytes.Buffer
		begun := time.Now()
		code := run(t.Context(), []string{"cure", "-"}, bytes.NewReader(question), &out, &complaint)
		if took := time.Since(begun); took > 30*time.Second {
			t.Fatalf("it took %v", took)
		}
		if code == 0 && !json.Valid(out.Bytes()) || code != 0 && complaint.Len() == 0 {
			t.Fatalf("code %d, %q, %q", code, out.String(), complaint.String())
		}
	})
}
