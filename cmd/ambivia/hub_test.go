package main

import (
	"bufio"
	"context"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ambivia/core/circuittest"
)

// TestHubAndRules: the stand-in tells where it listens and what goes over it, of a plan with schedules too, and ends when it is
// told to; rules are written in each form; what cannot be is one line that names the file.
func TestHubAndRules(t *testing.T) {
	good := file(t, circuittest.Straight(), "", "")
	use := func(text string) string {
		path := filepath.Join(t.TempDir(), "use.json")
		if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
		return path
	}
	evening := use(`{"zone": "Europe/Lisbon", "schedules": [{"name": "evening", "days": ["mon"], "at": "sunset", "on": true}], "inputs": [{"name": "smoke", "kind": "smoke", "lights": []}]}`)
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	from, to := io.Pipe()
	root := newRoot()
	root.SetOut(to)
	root.SetErr(io.Discard)
	root.SetArgs([]string{"hub", good, "--option", "message-switches-foot", "--address", "127.0.0.1:0", "--use", evening})
	ended := make(chan error, 1)
	go func() {
		err := root.ExecuteContext(ctx)
		_ = to.Close()
		ended <- err
	}()
	var told []string
	for lines := bufio.NewScanner(from); lines.Scan(); {
		if told = append(told, lines.Text()); strings.HasPrefix(lines.Text(), "ambivia/cut") { // the last
			stop()
		}
	}
	all := strings.Join(told, "\n")
	if err := <-ended; err != nil || !strings.HasPrefix(all, "broker 127.0.0.1:") {
		t.Errorf("%v: %s", err, all)
	}
	for _, part := range []string{"ambivia/m1/command", "ambivia/r1/press", "ambivia/clock", "ambivia/input/1", "smoke goes off"} {
		if !strings.Contains(all, part) {
			t.Errorf("%s is not told of: %s", part, all)
		}
	}
	for as, part := range map[string]string{"json": `"format": "ambivia-rules/1"`, "csv": "who is told", "yaml": "format: ambivia-rules/1"} {
		if out, err := run("rules", good, "--option", "message-switches-foot", "--as", as, "--use", evening); err != nil || !strings.Contains(out, part) || !strings.Contains(out, "evening: on at full, at sunset, on mon") {
			t.Errorf("%s: %s, %v", as, out, err)
		}
	}
	for _, args := range [][]string{
		{"hub", good, "--use", filepath.Join(t.TempDir(), "none.json")}, {"hub", good, "--use", use(`{"zone": "Nowhere/Else"}`)}, {"hub", good, "--use", use(`{"zone": "UTC", "moon": 1}`)},
		{"hub", good, "--use", use(`[`)}, {"hub", good, "--option", "none-such"}, {"hub", good, "--address", "0.0.0.0:0"},
		{"rules", good, "--option", "message-switches-foot", "--set", "moonlight"}, {"rules", good, "--as", "prose"},
	} {
		if out, err := run(args...); err == nil || out != "" || strings.Contains(err.Error(), "\n") {
			t.Errorf("%v: %q, %v", args, out, err)
		}
	}
}
