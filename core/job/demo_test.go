package job

import (
	"encoding/json"
	"os"
	"testing"
)

// demo is one of the demo's jobs.
func demo(t testing.TB, name string) File {
	t.Helper()
	text, err := os.ReadFile("../../demo/jobs/" + name + ".nephelon.json")
	if err != nil {
		t.Fatal(err)
	}
	var f File
	if err := json.Unmarshal(text, &f); err != nil {
		t.Fatal(err)
	}
	return f
}
