package main

import (
	"bytes"
	"context"
	"encoding/json"
	"encoding/xml"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

// commands are the command lines that read a file, which stands for FILE; GOOD is a sound circuit, OUT a file
// that they may write, SEEN what was seen of a fitted circuit.
var commands = [][]string{
	{"check", "FILE"}, {"trace", "FILE"}, {"trace", "FILE", "--prefer", "trips"}, {"plan", "FILE"}, {"prove", "FILE"}, {"rehearse", "FILE"}, {"netlist", "FILE"},
	{"steps", "FILE", "--option", "sensing-3way-sw1"}, {"steps", "FILE", "--option", "main-remote-sw1", "--back", "7"}, {"diagnose", "FILE", "--seen", "SEEN"},
	{"draw", "FILE", "-o", "OUT.svg"}, {"draw", "FILE", "-o", "OUT.svg", "--view", "line"}, {"draw", "FILE", "-o", "OUT.pdf"}, {"house", "FILE", "--survey"},
	{"import", "FILE", "--data", "OUT.db"}, {"plan", "GOOD", "--wishes", "FILE"}, {"plan", "GOOD", "--devices", "FILE"}, {"diagnose", "GOOD", "--seen", "FILE"},
}

// answers runs a command on a file, and holds it to the contract: one answer that can be read, or
// one clear line; and it comes back, since nobody waits for ever.
func answers(t *testing.T, dir string, data []byte, command []string) {
	t.Helper()
	file, out, seen := filepath.Join(dir, "in.json"), filepath.Join(dir, "out"), filepath.Join(dir, "seen.json")
	straight, err := circuit.Encode(circuittest.Straight())
	if err != nil {
		t.Fatal(err)
	}
	good := filepath.Join(dir, "good.json")
	for name, data := range map[string][]byte{file: data, good: straight, seen: []byte(`{"presses": [], "lamps": [{}]}`)} {
		if err := os.WriteFile(name, data, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	var args []string
	for _, a := range command {
		a = strings.Replace(a, "OUT", out, 1)
		if path := map[string]string{"FILE": file, "GOOD": good, "SEEN": seen}[a]; path != "" {
			a = path
		}
		args = append(args, a)
	}
	var printed, told bytes.Buffer
	root := newRoot()
	root.SetOut(&printed)
	root.SetErr(&told)
	root.SetIn(strings.NewReader(""))
	root.SetArgs(args)
	ctx, stop := context.WithTimeout(t.Context(), 20*time.Second)
	defer stop()
	if err := root.ExecuteContext(ctx); err != nil {
		if text := err.Error(); strings.Contains(text, "\n") || len(text) > 3000 || text == "" {
			t.Errorf("%v: not one clear line: %.400q", command, text)
		}
		return
	}
	switch {
	case command[0] == "draw" && strings.HasSuffix(args[3], ".svg"):
		svg, err := os.ReadFile(args[3])
		if err == nil {
			err = xml.Unmarshal(svg, new(struct{}))
		}
		if err != nil {
			t.Errorf("%v: %v", command, err)
		}
	case command[0] == "draw", command[0] == "netlist":
	default:
		if !json.Valid(printed.Bytes()) {
			t.Errorf("%v prints no JSON: %.200q", command, printed.String())
		}
	}
}

// FuzzCommands: whatever bytes a file holds, every command answers or refuses it in one line.
func FuzzCommands(f *testing.F) {
	for i := range commands {
		f.Add(uint8(i), []byte(`{"format": "ambivia-circuit/1", "practice": "na", "boxes": [], "cables": [], "devices": [], "joins": []}`))
	}
	f.Add(uint8(15), []byte(`{"wishes": {"dim-all": "must"}, "budget": 80, "cores": [{"core": "k2.red", "role": "load"}]}`))
	f.Add(uint8(17), []byte(`{"presses": ["sw1"], "lamps": [{"lamp1": "dark"}, {"lamp1": "lit"}], "readings": []}`))
	cases, err := filepath.Glob("../../core/*/testdata/cases/*.json")
	if err != nil || len(cases) == 0 {
		f.Fatalf("%d cases, %v", len(cases), err)
	}
	for i, path := range cases {
		data, err := os.ReadFile(path)
		if err != nil {
			f.Fatal(err)
		}
		if len(data) < 10_000 { // the large ones have tests of their own
			f.Add(uint8([]int{0, 5, 6, 10, 13}[i%5]), data)
		}
	}
	f.Fuzz(func(t *testing.T, command uint8, data []byte) {
		answers(t, t.TempDir(), data, commands[int(command)%len(commands)])
	})
}

// FuzzCircuits: random circuits, as people record them and as nobody should wire them, with a part
// of the file left out, said twice or exchanged, through every command.
func FuzzCircuits(f *testing.F) {
	for i := range commands {
		f.Add(uint64(i+1), uint8(i), uint8(i))
	}
	f.Add(uint64(3), uint8(0), uint8(15))
	f.Fuzz(func(t *testing.T, seed uint64, kind, command uint8) {
		rng := rand.New(rand.NewPCG(seed, uint64(kind)))
		controls := 2 + int(seed%2)
		var c *circuit.Circuit
		switch kind % 8 {
		case 0:
			c = circuittest.House(rng, controls)
		case 1:
			c = circuittest.Walls(rng, controls)
		case 2:
			c = circuittest.Ring(rng, controls)
		case 3:
			c = circuittest.TwoLights(rng, controls)
		case 4:
			c = circuittest.Gangs(controls, 1+int(seed%3)/2)
		case 5:
			c = circuittest.LivedIn(rng, controls)
		case 6:
			c = circuittest.Spares(rng, controls)
		default:
			c = circuittest.Borrowed(rng, controls)
		}
		for range rng.IntN(3) {
			all := circuittest.Mistakes()
			all[rng.IntN(len(all))].Make(rng, c)
		}
		data, err := circuit.Encode(c)
		if err != nil {
			t.Fatal(err)
		}
		answers(t, t.TempDir(), tampered(t, rng, data), commands[int(command)%len(commands)])
	})
}

// tampered is a file of which a few parts were left out, said twice, or exchanged with others.
func tampered(t *testing.T, rng *rand.Rand, data []byte) []byte {
	t.Helper()
	var doc any
	if err := json.Unmarshal(data, &doc); err != nil {
		t.Fatal(err)
	}
	for range rng.IntN(3) {
		doc = tamper(rng, doc)
	}
	out, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func tamper(rng *rand.Rand, x any) any {
	switch x := x.(type) {
	case map[string]any:
		keys := make([]string, 0, len(x))
		for k := range x {
			keys = append(keys, k)
		}
		if len(keys) == 0 {
			return x
		}
		k := keys[rng.IntN(len(keys))]
		if rng.IntN(12) == 0 {
			delete(x, k)
		} else {
			x[k] = tamper(rng, x[k])
		}
	case []any:
		if len(x) == 0 {
			return x
		}
		i, n := rng.IntN(len(x)), rng.IntN(len(x))
		switch rng.IntN(8) {
		case 0:
			return append(x[:i:i], x[i+1:]...)
		case 1:
			return append(x, x[i])
		case 2:
			x[i], x[n] = x[n], x[i]
		default:
			x[i] = tamper(rng, x[i])
		}
	case string:
		return []any{"", x + "2", "sw1", "panel", nil}[rng.IntN(5)]
	case float64:
		return []any{0.0, -1.0, 1e300, x + 1, nil}[rng.IntN(5)]
	}
	return x
}
