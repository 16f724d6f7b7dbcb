package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ambivia/core/circuittest"
)

// TestRepeatable: the same file gets the same answer, byte for byte, each of ten times: no order of
// a map, no clock and no core that was faster shows in it.
func TestRepeatable(t *testing.T) {
	dir := t.TempDir()
	sound := file(t, circuittest.Chain(3), "", "")
	half := filepath.Join(dir, "half.json")
	survey, err := run("house", sound, "--survey", "--seed", "5")
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(half, []byte(survey), 0o600); err != nil {
		t.Fatal(err)
	}
	var options struct{ Options []struct{ ID string } }
	if text, err := run("plan", sound); err != nil || json.Unmarshal([]byte(text), &options) != nil {
		t.Fatal(err)
	}
	option := options.Options[0].ID
	seen := filepath.Join(dir, "seen.json")
	if err := os.WriteFile(seen, []byte(`{"presses": [], "lamps": [{"lamp1": "lit"}]}`), 0o600); err != nil {
		t.Fatal(err)
	}
	lights := file(t, circuittest.Gangs(3, 1), "", "")
	out := filepath.Join(dir, "out")
	for _, command := range []string{
		"check " + sound, "plan " + sound, "plan " + lights, "trace " + half, "trace " + half + " --prefer trips", "prove " + sound, "diagnose " + sound + " --seen " + seen,
		"steps " + sound + " --option " + option, "steps " + lights + " --option multi-gang-together --back 20", "netlist " + sound,
		"draw " + sound + " -o " + out + ".svg", "draw " + half + " -o " + out + ".svg --view line", "draw " + sound + " -o " + out + ".pdf --view order --option " + option,
		"house " + sound + " --survey --seed 7",
	} {
		args := strings.Fields(command)
		first := ""
		for i := range 10 {
			printed, err := run(args...)
			if err != nil {
				t.Fatalf("%s: %v", command, err)
			}
			if args[0] == "draw" {
				data, err := os.ReadFile(args[3])
				if err != nil {
					t.Fatal(err)
				}
				printed = string(data)
			}
			if i == 0 {
				first = printed
			}
			if printed == "" || printed != first {
				t.Errorf("%s: the %d. answer is another than the first", strings.ReplaceAll(command, dir, ""), i+1)
				break
			}
		}
	}
}
