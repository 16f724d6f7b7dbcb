package main

import (
	"strings"
	"testing"

	"ambivia/core/circuittest"
)

// TestAtTheLimit: files as large as they may be are answered, or refused in one line. Planning the
// largest takes long: scripts/reliability measures it.
func TestAtTheLimit(t *testing.T) {
	for name, c := range circuittest.AtTheLimit() {
		if err := c.Validate(); err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		path, dir := file(t, c, "", ""), t.TempDir()
		for _, command := range [][]string{{"check", path}, {"trace", path}, {"plan", path}, {"draw", path, "-o", dir + "/out.svg"}, {"netlist", path}, {"prove", path}} {
			if command[0] == "plan" && (name == "64 contacts" || name == "two chains of ten") {
				continue
			}
			if _, err := run(command...); err != nil && (strings.Contains(err.Error(), "\n") || len(err.Error()) > 2000) {
				t.Errorf("%s of %s: not one clear line: %.300v", command[0], name, err)
			}
		}
	}
}
