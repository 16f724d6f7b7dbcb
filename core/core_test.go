// Package core_test holds what is true of all rooms of the core together.
package core_test

import (
	"os/exec"
	"slices"
	"strings"
	"testing"
)

// TestCoreKnowsNoWeb: no room of the core reaches the web or a database, by itself or through what it stands on.
func TestCoreKnowsNoWeb(t *testing.T) {
	deps, err := exec.Command("go", "list", "-deps", "./...").Output()
	if err != nil {
		t.Fatal(err)
	}
	list := strings.Fields(string(deps))
	if !slices.Contains(list, "ambivia/core/circuit") {
		t.Fatalf("%d packages, and not the core's", len(list))
	}
	for _, not := range []string{"net/http", "database/sql", "github.com/gin-gonic/gin"} {
		if slices.Contains(list, not) {
			t.Errorf("the core reaches %s", not)
		}
	}
}
