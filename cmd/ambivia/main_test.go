package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/retrofit"
	"ambivia/demo"
	"ambivia/store"
	"ambivia/store/storetest"
)

// file writes a circuit, changed as text if old is not "", and returns its path.
func file(t *testing.T, c *circuit.Circuit, old, new string) string {
	t.Helper()
	var b bytes.Buffer
	if err := circuit.Write(&b, c); err != nil {
		t.Fatal(err)
	}
	text := strings.Replace(b.String(), old, new, 1)
	if old != "" && text == b.String() {
		t.Fatalf("%q is not in the file", old)
	}
	path := filepath.Join(t.TempDir(), "circuit.json")
	if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

// run executes one command line and returns what it prints.
func run(args ...string) (string, error) {
	var out bytes.Buffer
	root := newRoot()
	root.SetOut(&out)
	root.SetErr(&out)
	root.SetArgs(args)
	err := root.Execute()
	return out.String(), err
}

// TestStrict: a strict check of a circuit that does not work ends with an error of its own, after the report; one that works,
// and a check that is not strict, end well. A circuit is read from standard input too.
func TestStrict(t *testing.T) {
	good := file(t, circuittest.Straight(), "", "")
	bad := file(t, circuittest.Straight(), `"w3.black",`, ``)
	for _, x := range []struct {
		args []string
		want error
	}{{[]string{"check", "--strict", good}, nil}, {[]string{"check", bad}, nil}, {[]string{"check", "--strict", bad}, errFaulty}} {
		out, err := run(x.args...)
		if !errors.Is(err, x.want) || !strings.Contains(out, `"verdict"`) {
			t.Errorf("%v: %v, %.80s", x.args, err, out)
		}
	}
	in, err := os.Open(good)
	if err != nil {
		t.Fatal(err)
	}
	defer in.Close()
	was := os.Stdin
	os.Stdin = in
	defer func() { os.Stdin = was }()
	if out, err := run("check", "-"); err != nil || !strings.Contains(out, `"works"`) {
		t.Errorf("from standard input: %v, %.80s", err, out)
	}
	if out, err := run("--version"); err != nil || !strings.Contains(out, "ambivia version") {
		t.Errorf("the version: %v, %q", err, out)
	}
}

// TestCheckShape holds the answer of check to the shape of the contract.
func TestCheckShape(t *testing.T) {
	out, err := run("check", file(t, circuittest.Chain(2), "", ""))
	if err != nil {
		t.Fatal(err)
	}
	var got struct {
		Verdict  string
		States   int
		Findings []any
		Table    []struct {
			State  map[string]int
			Lamps  map[string]struct{ Volts, Lit any }
			Asleep []string
			Faults []string
		}
		Controls []struct {
			Device string
			Works  *bool
		}
		Roles map[string]string
	}
	if err := json.Unmarshal([]byte(out), &got); err != nil {
		t.Fatal(err)
	}
	row := got.Table[0]
	if got.Verdict != "works" || got.States != 4 || len(got.Table) != 4 || got.Findings == nil || row.Asleep == nil || row.Faults == nil ||
		row.State["s1"] != 1 || row.Lamps["lamp1"].Volts == nil || len(got.Controls) != 2 || got.Controls[0].Works == nil {
		t.Errorf("%s", out)
	}
	for end := range got.Roles {
		if !strings.Contains(end, "@") {
			t.Errorf("%s is no core end", end)
		}
	}
}

// TestPlanShape holds the answer of plan to the shape of the contract.
func TestPlanShape(t *testing.T) {
	out, err := run("plan", file(t, circuittest.Chain(2), "", ""))
	if err != nil {
		t.Fatal(err)
	}
	var got struct {
		Options []struct {
			ID, Strategy string
			Feasible     bool
			Score        *float64
			After        json.RawMessage
			Changes      []struct{ Box, End, Was, Now string }
			BoxesTouched []string
			Checks       []struct {
				Code   string
				Passed bool
			}
			Metrics map[string]float64
			Reasons []struct{ Code, Text string }
		}
	}
	if err := json.Unmarshal([]byte(out), &got); err != nil {
		t.Fatal(err)
	}
	for _, o := range got.Options {
		if o.ID == "" || o.Strategy == "" {
			t.Errorf("an option without a name: %+v", o)
		}
		if !o.Feasible {
			if len(o.Reasons) == 0 || o.Score != nil {
				t.Errorf("%s: infeasible, %v", o.ID, o.Reasons)
			}
			continue
		}
		if _, err := circuit.Parse(o.After); err != nil {
			t.Errorf("%s: %v", o.ID, err)
		}
		if o.Score == nil || len(o.Changes) == 0 || len(o.BoxesTouched) == 0 || len(o.Metrics) == 0 {
			t.Errorf("%s is incomplete", o.ID)
		}
		for _, c := range o.Checks {
			if !c.Passed {
				t.Errorf("%s is offered and fails %s", o.ID, c.Code)
			}
		}
	}
}

// TestBadFiles: one line that names file and place, and nothing else.
func TestBadFiles(t *testing.T) {
	bad := file(t, circuittest.Chain(2), `"s1.common"`, `"s1.comon"`)
	for _, args := range [][]string{
		{"check", bad}, {"plan", bad}, {"netlist", bad}, {"draw", bad, "-o", filepath.Join(t.TempDir(), "x.svg")},
		{"import", bad, "--data", filepath.Join(t.TempDir(), "x.db")},
	} {
		out, err := run(args...)
		if err == nil || out != "" || strings.Contains(err.Error(), "\n") ||
			!strings.Contains(err.Error(), "joins[") || !strings.Contains(err.Error(), bad) || !strings.Contains(err.Error(), "comon") {
			t.Errorf("%s prints %q and fails with %v", args[0], out, err)
		}
		if last := args[len(args)-1]; args[0] == "draw" || args[0] == "import" {
			if _, err := os.Stat(last); err == nil {
				t.Errorf("%s wrote %s", args[0], last)
			}
		}
	}
	if _, err := run("check", filepath.Join(t.TempDir(), "none.json")); err == nil || strings.Contains(err.Error(), "\n") {
		t.Errorf("a missing file: %v", err)
	}
	if _, err := run("draw", bad, "-o", "x.bmp"); err == nil || !strings.Contains(err.Error(), ".svg") {
		t.Errorf("an unknown kind of drawing: %v", err)
	}
}

// TestDrawAll: every view of a circuit and of an option is drawn, as a picture and on
// paper; what cannot be is refused in one line that says what is missing.
func TestDrawAll(t *testing.T) {
	good, dir := file(t, circuittest.Straight(), "", ""), t.TempDir()
	option := []string{"--option", "main-aux-b1"}
	if o := retrofit.Offer(circuittest.Straight(), "main-aux-b1"); o == nil {
		for _, x := range retrofit.Plan(circuittest.Straight()).Options {
			if x.Feasible && x.Strategy == retrofit.MainAux {
				option[1] = x.ID
			}
		}
	}
	box := circuittest.Straight().Boxes[1].ID
	for _, k := range []struct {
		args []string
		kind string
		says string
	}{
		{nil, "svg", ""}, {nil, "pdf", ""}, {[]string{"--view", "line"}, "svg", ""}, {[]string{"--view", "line", "--paper", "letter"}, "pdf", ""},
		{[]string{"--view", "box", "--box", box}, "svg", ""}, {append([]string{"--view", "difference"}, option...), "svg", ""},
		{append([]string{"--view", "box", "--box", box}, option...), "pdf", ""}, {append([]string{"--view", "order"}, option...), "pdf", ""}, {append([]string{"--view", "annex"}, option...), "pdf", ""},
		{append([]string{"--view", "labels"}, option...), "pdf", ""}, {[]string{"--view", "labels"}, "pdf", ""}, {append([]string{"--view", "pocket"}, option...), "pdf", ""}, {option, "svg", ""}, {append([]string{"--view", "drawings"}, option...), "pdf", ""},
		{[]string{"--view", "order"}, "pdf", "--option"}, {append([]string{"--view", "order"}, option...), "svg", ".pdf"}, {[]string{"--view", "oil"}, "svg", "no such view"},
		{[]string{"--view", "box", "--box", "attic"}, "svg", "no such box"}, {[]string{"--paper", "napkin"}, "pdf", "a4 and letter"}, {[]string{"--option", "magic"}, "svg", "no option"},
	} {
		out := filepath.Join(dir, "x."+k.kind)
		_ = os.Remove(out)
		_, err := run(append([]string{"draw", good, "-o", out}, k.args...)...)
		if k.says != "" {
			if _, written := os.Stat(out); err == nil || !strings.Contains(err.Error(), k.says) || strings.Contains(err.Error(), "\n") || written == nil {
				t.Errorf("%v: %v; want something about %q", k.args, err, k.says)
			}
			continue
		}
		text, read := os.ReadFile(out)
		if want := map[string]string{"svg": "<svg ", "pdf": "%PDF-"}[k.kind]; err != nil || read != nil || !bytes.HasPrefix(text, []byte(want)) {
			t.Errorf("%v: %v, %v, %.20s", k.args, err, read, text)
		}
	}
	steps, err := run(append([]string{"steps", good}, option...)...)
	if err != nil || !strings.Contains(steps, `"kind": "gate"`) || !strings.Contains(steps, `"materials"`) {
		t.Errorf("%.200s, %v", steps, err)
	}
	back, err := run(append([]string{"steps", good, "--back", "12"}, option...)...)
	if err != nil || !strings.Contains(back, `"join"`) {
		t.Errorf("%.200s, %v", back, err)
	}
	if _, err := run(append([]string{"steps", good, "--back", "999"}, option...)...); err == nil {
		t.Error("there is a way back from a step that is none")
	}
}

func TestDrawAndImport(t *testing.T) {
	good, dir := file(t, circuittest.Chain(3), "", ""), t.TempDir()
	svg, data := filepath.Join(dir, "out.svg"), filepath.Join(dir, "sub", "x.db")
	if _, err := run("draw", good, "-o", svg); err != nil {
		t.Fatal(err)
	}
	if out, err := run("netlist", good); err != nil || !strings.HasSuffix(out, ".end\n") {
		t.Errorf("%s, %v", out, err)
	}
	if text, err := os.ReadFile(svg); err != nil || !bytes.HasPrefix(text, []byte("<svg ")) {
		t.Errorf("%.40s, %v", text, err)
	}
	out, err := run("import", good, good, "--data", data, "--job", "Tide mill")
	if err != nil || !strings.Contains(out, "Tide mill") {
		t.Fatalf("%s, %v", out, err)
	}
	if out, err := run("netlist", good, "--every-state"); err != nil || !strings.Contains(out, "8 states side by side") {
		t.Errorf("%.80s, %v", out, err)
	}
	if out, err := run("list", "--data", data); err != nil || strings.Count(out, `"id"`) != 3 || !strings.Contains(out, `"name": "Tide mill"`) {
		t.Errorf("%s, %v", out, err)
	}
	if _, err := run("rules", good, "--option", "message-switches-b1", "--devices", filepath.Join(dir, "none.json")); err == nil || !strings.Contains(err.Error(), "none.json") {
		t.Errorf("a file of devices that is none: %v", err)
	}
	s, err := store.Open(context.Background(), data)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	ids := storetest.Numbers{Store: s}
	if list, err := s.Circuits(context.Background(), ids.Job(t, 1)); err != nil || len(list) != 2 {
		t.Errorf("%d circuits, %v", len(list), err)
	}
	whole := filepath.Join(dir, "job.zip")
	if out, err = run("export", ids.Job(t, 1), "-o", whole, "--data", data); err != nil || !strings.Contains(out, whole) {
		t.Fatalf("%s, %v", out, err)
	}
	if out, err = run("import", whole, good, "--data", data); err != nil || !strings.Contains(out, `"jobs"`) {
		t.Fatalf("%s, %v", out, err)
	}
	if list, err := s.Circuits(context.Background(), ids.Job(t, 2)); err != nil || len(list) != 2 {
		t.Errorf("%d circuits came back, %v", len(list), err)
	}
	folder, copied := filepath.Join(dir, "all"), filepath.Join(dir, "copy.db")
	if out, err = run("export", "--all", "-o", folder, "--data", data); err != nil || strings.Count(out, `"file"`) != 3 {
		t.Fatalf("%s, %v", out, err)
	}
	archives, err := filepath.Glob(filepath.Join(folder, "job-*.zip"))
	if err != nil || len(archives) != 3 {
		t.Errorf("%v, %v", archives, err)
	}
	if out, err = run("import", archives[0], "--data", filepath.Join(dir, "again.db")); err != nil || !strings.Contains(out, "Tide mill") {
		t.Errorf("%s, %v", out, err)
	}
	if out, err = run("backup", copied, "--data", data); err != nil || !strings.Contains(out, copied) {
		t.Fatalf("%s, %v", out, err)
	}
	if out, err = run("export", ids.Job(t, 1), "-o", filepath.Join(dir, "of-copy.zip"), "--data", copied); err != nil {
		t.Errorf("the copy: %s, %v", out, err)
	}
	// A damaged archive beside a good file: nothing of either is written.
	damaged := filepath.Join(dir, "damaged.zip")
	body, err := os.ReadFile(whole)
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(damaged, body[:len(body)/2], 0o600); err != nil {
		t.Fatal(err)
	}
	none := filepath.Join(dir, "none.db")
	if out, err := run("import", good, damaged, "--data", none); err == nil || out != "" || strings.Contains(err.Error(), "\n") || !strings.Contains(err.Error(), damaged) {
		t.Errorf("a damaged archive: %q, %v", out, err)
	}
	if _, err := os.Stat(none); err == nil {
		t.Error("a damaged archive leaves a database behind")
	}
	for _, args := range [][]string{{"export", "x", "-o", whole}, {"export", "99", "-o", filepath.Join(dir, "n.zip"), "--data", data}, {"export", "-o", whole}, {"export", "1", "--all", "-o", whole}, {"backup", copied, "--data", data}} {
		if out, err := run(args...); err == nil || out != "" || strings.Contains(err.Error(), "\n") {
			t.Errorf("%v: %q, %v", args, out, err)
		}
	}
}

// TestServe: only the loopback address is served, a port in use is one line
// with the way out, and the demo is put into an empty database once.
func TestServe(t *testing.T) {
	data := filepath.Join(t.TempDir(), "x.db")
	for _, address := range []string{"0.0.0.0:0", ":8420", "192.0.2.1:80", "example.org:1", "8420"} {
		if _, err := run("serve", "--address", address, "--data", data); err == nil {
			t.Errorf("%s is served", address)
		}
	}
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer taken.Close()
	if _, err := run("serve", "--address", taken.Addr().String(), "--data", data); err == nil || !strings.Contains(err.Error(), "choose another") {
		t.Errorf("a port in use: %v", err)
	}
	ctx, stop := context.WithCancel(context.Background())
	stop() // it starts, prints its address and stops at once
	for range 2 {
		var out bytes.Buffer
		if err := serve(ctx, &out, "127.0.0.1:0", data, true); err != nil && !strings.Contains(err.Error(), "context canceled") {
			t.Fatal(err)
		}
	}
	s, err := openStore(context.Background(), data)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	for range 2 {
		if err := loadDemo(context.Background(), s); err != nil {
			t.Fatal(err)
		}
	}
	if jobs, err := s.Jobs(context.Background()); err != nil || len(jobs) != len(demo.Jobs()) {
		t.Errorf("%s", fmt.Sprint(jobs, err))
	}
}

// TestProveAndRehearse: the commands print what the contract says, and say in one line what is
// wrong with what they are given.
func TestProveAndRehearse(t *testing.T) {
	good, dir := file(t, circuittest.Straight(), "", ""), t.TempDir()
	out, err := run("prove", good)
	if err != nil {
		t.Fatal(err)
	}
	for _, part := range []string{`"presses"`, `"expect"`, `"mistakes"`, `"revealed"`, `"sameAsRight"`, `"meter"`, `"right"`} {
		if !strings.Contains(out, part) {
			t.Errorf("prove prints no %s", part)
		}
	}
	seen := func(name, text string) string {
		path := filepath.Join(dir, name)
		if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
		return path
	}
	out, err = run("diagnose", good, "--seen", seen("a.json", `{"presses": ["s1", "s2"], "lamps": [{"lamp1": "dark"}, {"lamp1": "lit"}, {"lamp1": "lit"}], "readings": []}`))
	if err != nil || !strings.Contains(out, `"right": false`) || !strings.Contains(out, `"odds"`) || !strings.Contains(out, `"next"`) {
		t.Errorf("%s, %v", out, err)
	}
	for _, wrong := range []string{`{"presses": ["s1"], "lamps": []}`, `{"press": 1}`, `[`} {
		if out, err := run("diagnose", good, "--seen", seen("b.json", wrong)); err == nil || out != "" || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %q, %v", wrong, out, err)
		}
	}
	if out, err := run("prove", good, "--option", "none-such"); err == nil || out != "" {
		t.Errorf("%q, %v", out, err)
	}
	if out, err = run("rehearse", good); err != nil || !strings.Contains(out, `"verdict": "sound"`) || strings.Count(out, `"code"`) != 4+3 { // four that the verdict hangs on, three beyond
		t.Errorf("%s, %v", out, err)
	}
}
