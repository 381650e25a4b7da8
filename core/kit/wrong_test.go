package kit_test

import (
	"strings"
	"testing"

	"nephelon/core/kit"
	"nephelon/core/label"
	"nephelon/core/material"
)

// A pack of another product of the job is called out, and one that the shelf does not know where it knows all packs.
func TestWrongPacks(t *testing.T) {
	body := material.Product{Name: "Keelbody", Kits: []material.Kit{{Code: "KB-10"}, {Code: "4006381333931"}}}
	top := material.Product{Name: "Gannet Clear", Kits: []material.Kit{{Code: "GC-4"}, {}}}
	job := []material.Product{body, top}
	for _, c := range []struct {
		code string
		own  material.Product
		want string
	}{
		{"kb-10", body, ""},
		{"04006381333931", body, ""},
		{"GC-4", body, "This pack is of Gannet Clear. The batch is of Keelbody: do not mix it in."},
		{"KB-10", top, "This pack is of Keelbody"},
		{"00012345678905", body, "The shelf has no pack of Keelbody with this code"},
		{"00012345678905", top, ""}, // the shelf does not have the codes of all its packs
		{"LOT 17", body, ""},
		{"00012345678905", material.Product{Name: "Bare"}, ""},
	} {
		got := kit.WrongPack(label.Scan{Code: c.code}, c.own, job)
		if (got == "") != (c.want == "") || !strings.Contains(got, c.want) {
			t.Errorf("%s for %s: %q, want %q", c.code, c.own.Name, got, c.want)
		}
	}
}
