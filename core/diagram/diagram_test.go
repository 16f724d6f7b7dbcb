package diagram

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// segments lists the straight runs of a wire as thin rectangles.
func segments(w Wire) []Rect {
	var out []Rect
	for i := 1; i < len(w.Path); i++ {
		a, b := w.Path[i-1], w.Path[i]
		out = append(out, Rect{math.Min(a.X, b.X), math.Min(a.Y, b.Y), math.Abs(a.X - b.X), math.Abs(a.Y - b.Y)})
	}
	return out
}

// inner shrinks a rectangle, so that touching an edge is no overlap.
func inner(r Rect) Rect { return Rect{r.X + 1, r.Y + 1, r.W - 2, r.H - 2} }

// check holds one scene to what every drawing keeps.
func check(t *testing.T, name string, s *Scene) {
	t.Helper()
	paper := Rect{0, 0, s.W, s.H}
	within := func(r Rect) bool {
		return r.X >= paper.X && r.Y >= paper.Y && r.X+r.W <= paper.W && r.Y+r.H <= paper.H
	}
	for i, a := range s.Rooms {
		if !within(a.Rect) {
			t.Errorf("%s: room %s leaves the paper", name, a.ID)
		}
		for _, b := range s.Rooms[i+1:] {
			if a.Overlaps(b.Rect) {
				t.Errorf("%s: rooms %s and %s overlap", name, a.ID, b.ID)
			}
		}
	}
	for _, row := range s.legendRows() {
		if last := row[len(row)-1]; last.x+float64(len([]rune(last.String())))*6.5 > s.W {
			t.Errorf("%s: %q of the legend leaves the paper", name, last.Text)
		}
	}
	for i, a := range s.Devices {
		for _, b := range s.Devices[i+1:] {
			if a.Overlaps(b.Rect) {
				t.Errorf("%s: devices %s and %s overlap", name, a.ID, b.ID)
			}
		}
		if !slices.ContainsFunc(s.Rooms, func(r Room) bool {
			return a.X > r.X && a.Y > r.Y && a.X+a.W < r.X+r.W && a.Y+a.H < r.Y+r.H
		}) {
			t.Errorf("%s: device %s stands in no room", name, a.ID)
		}
	}
	for i, a := range s.Labels {
		if !within(a.Rect) {
			t.Errorf("%s: label %q leaves the paper", name, a.Text)
		}
		for _, r := range s.Rooms {
			if (a.Class == "cable" || a.Class == "core") && a.Overlaps(r.Rect) {
				t.Errorf("%s: label %q runs into room %s", name, a.Text, r.ID)
			}
		}
		for _, b := range s.Labels[i+1:] {
			if a.Text != "" && b.Text != "" && a.Overlaps(b.Rect) {
				t.Errorf("%s: labels %q and %q overlap", name, a.Text, b.Text)
			}
		}
	}
	wires(t, name, s)
}

// wires checks that no conductor runs through a device or a foreign room, and
// that no two different ones lie on each other.
func wires(t *testing.T, name string, s *Scene) {
	t.Helper()
	for i, w := range s.Wires {
		for _, run := range segments(w) {
			for _, d := range s.Devices {
				if inner(d.Rect).Overlaps(Rect{run.X, run.Y, run.W + 0.1, run.H + 0.1}) {
					t.Errorf("%s: %s runs through device %s", name, w.End, d.ID)
				}
			}
			for _, r := range s.Rooms {
				ends := w.End.Box == r.ID || w.End.Box == "" && len(s.Rooms) == 1 // a screw has no box of its own
				if !ends && inner(r.Rect).Overlaps(Rect{run.X, run.Y, run.W + 0.1, run.H + 0.1}) {
					t.Errorf("%s: %s runs through room %s", name, w.End, r.ID)
				}
			}
			for _, other := range s.Wires[i+1:] {
				if other.Class == w.Class {
					continue
				}
				for _, b := range segments(other) {
					if along := lieOn(run, b); along > 1 {
						t.Errorf("%s: %s and %s lie on each other for %.0f", name, w.End, other.End, along)
					}
				}
			}
		}
	}
}

// lieOn returns for how long two runs in one direction lie on each other.
func lieOn(a, b Rect) float64 {
	switch {
	case a.H == 0 && b.H == 0 && math.Abs(a.Y-b.Y) < 3:
		return math.Min(a.X+a.W, b.X+b.W) - math.Max(a.X, b.X)
	case a.W == 0 && b.W == 0 && math.Abs(a.X-b.X) < 3:
		return math.Min(a.Y+a.H, b.Y+b.H) - math.Max(a.Y, b.Y)
	}
	return 0
}

// TestScenes: drawings of random trees of two to ten controls, as found and as
// planned, keep apart what must be apart and stand in the same places.
func TestScenes(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(11, 12))
	crossed, drawn := 0, 0
	for i := range 300 {
		c := circuittest.House(rng, 2+i%9)
		switch i % 5 {
		case 3:
			circuittest.MoreLamps(rng, c)
		case 4:
			c = circuittest.Walls(rng, 2+i%9)
		}
		for k := range c.Cables {
			c.Cables[k].Gauge = []string{"14AWG", "1.5mm2", ""}[rng.IntN(3)]
		}
		name := fmt.Sprintf("house %d", i)
		versions := []*circuit.Circuit{c}
		if i%9 < 2 {
			for _, o := range retrofit.Plan(c).Options {
				if o.Feasible && o.Metrics.NewCables > 0 {
					recabled(t, name+", "+o.ID, c, o.After)
				} else if o.Feasible {
					versions = append(versions, o.After)
				}
			}
		}
		frame := Layout(c, versions[1:]...)
		first := frame.Draw(inspect.Compile(c), name, nil)
		for k, v := range versions {
			s := frame.Draw(inspect.Compile(v), name, nil)
			check(t, fmt.Sprintf("%s, version %d", name, k), s)
			if fmt.Sprint(s.Rooms[:len(first.Rooms)]) != fmt.Sprint(first.Rooms) || fmt.Sprint(s.Sheaths) != fmt.Sprint(first.Sheaths) {
				t.Errorf("%s: version %d moved boxes or cables", name, k)
			}
			crossed += crossings(s.Wires)
			drawn++
		}
		if t.Failed() {
			return
		}
	}
	twice := 0
	for n := 2; n <= 6; n++ { // two lights in one row of boxes
		c := circuittest.Doubled(n)
		s := Layout(c).Draw(inspect.Compile(c), "x", nil)
		check(t, fmt.Sprintf("two lights, %d controls each", n), s)
		twice += crossings(s.Wires)
	}
	t.Logf("two lights: %d crossings for 40 controls", twice)
	mean := float64(crossed) / float64(drawn)
	t.Logf("%d drawings, %.1f crossings each", drawn, mean)
	if mean > mostCrossings {
		t.Errorf("%.1f crossings in the mean; at most %g are borne", mean, mostCrossings)
	}
}

// mostCrossings bounds the mean of conductors that cross in a drawing of two to ten controls.
const mostCrossings = 22.0

// recabled checks drawings of a circuit and of a plan with a new cable: all that is in both
// stands in the same places, and the new cable is drawn in the second alone.
func recabled(t *testing.T, name string, before, after *circuit.Circuit) {
	t.Helper()
	frame := Layout(before, after)
	was, now := frame.Draw(inspect.Compile(before), name, nil), frame.Draw(inspect.Compile(after), name, nil)
	check(t, name, was)
	check(t, name, now)
	if fmt.Sprint(was.Rooms) != fmt.Sprint(now.Rooms) || len(now.Sheaths) <= len(was.Sheaths) {
		t.Errorf("%s: boxes moved, or the new cable is not drawn", name)
	}
	for _, s := range was.Sheaths {
		if !slices.ContainsFunc(now.Sheaths, func(x Sheath) bool { return fmt.Sprint(x) == fmt.Sprint(s) }) {
			t.Errorf("%s: a cable moved", name)
		}
	}
}

// TestEveryEndIsDrawn: no core end is left out of a drawing, capped ones carry
// a cap, marked ones a tape, changed ones a flag.
func TestEveryEndIsDrawn(t *testing.T) {
	rng := rand.New(rand.NewPCG(13, 14))
	for range 40 {
		c := circuittest.House(rng, 3)
		circuittest.Miswire(rng, c, 3)
		stub := circuit.Cable{ID: "stub", Ends: [2]*string{&c.Boxes[1].ID, nil}, Cores: []string{"black", "white", "green-yellow"}}
		c.Cables = append(c.Cables, stub)
		mark := circuit.End{Ref: circuit.Ref{Owner: "stub", Part: "white"}, Box: c.Boxes[1].ID}
		c.Marks = []circuit.Mark{{End: mark, As: "line"}}
		s := Layout(c).Draw(inspect.Compile(c), "x", []circuit.End{mark})
		got := map[string]bool{}
		for _, w := range s.Wires {
			got[w.End.String()] = true
		}
		joined := map[string]bool{}
		for i, j := range c.Joins {
			if i == 0 { // one wire has slipped out: a join of one is a cap
				c.Joins[0].Of = j.Of[:1]
				s = Layout(c).Draw(inspect.Compile(c), "x", []circuit.End{mark})
				continue
			}
			for _, m := range j.Of {
				joined[circuit.End{Ref: m, Box: j.Box}.String()] = true
			}
		}
		caps := 0
		for _, b := range c.Boxes {
			for _, m := range c.EndsIn(b.ID) {
				e := circuit.End{Ref: m, Box: b.ID}.String()
				if !got[e] {
					t.Fatalf("%s is not drawn", e)
				}
				if !joined[e] {
					caps++
				}
			}
		}
		if len(s.Caps) != caps || len(s.Tapes) != 1 || len(s.Flags) != 1 {
			t.Fatalf("%d caps, %d tapes, %d flags; want %d, 1, 1", len(s.Caps), len(s.Tapes), len(s.Flags), caps)
		}
	}
}

// TestFront: each box alone, from the front, before and after: nothing lies on
// anything else, every core end is there, capped ones with a cap.
func TestFront(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(15, 16))
	crossed, drawn := 0, 0
	for i := range 60 {
		c := circuittest.House(rng, 2+i%9)
		if i%2 == 1 {
			circuittest.Miswire(rng, c, 3)
		}
		versions := []*circuit.Circuit{c}
		if i%9 < 2 {
			for _, o := range retrofit.Plan(c).Options {
				if o.Feasible {
					versions = append(versions, o.After)
				}
			}
		}
		for k, v := range versions {
			for _, b := range v.Boxes {
				s := Front(inspect.Compile(v), b.ID, nil)
				name := fmt.Sprintf("house %d, version %d, box %s", i, k, b.ID)
				wires(t, name, s)
				for n, a := range s.Labels {
					for _, other := range s.Labels[n+1:] {
						if a.Text != "" && other.Text != "" && a.Overlaps(other.Rect) {
							t.Errorf("%s: labels %q and %q overlap", name, a.Text, other.Text)
						}
					}
				}
				ends := map[circuit.End]bool{}
				for _, w := range s.Wires {
					ends[w.End] = true
				}
				caps := 0
				for _, m := range v.EndsIn(b.ID) {
					if !ends[circuit.End{Ref: m, Box: b.ID}] {
						t.Errorf("%s: %s is not drawn", name, m)
					}
					if v.JoinOf(b.ID, m) < 0 {
						caps++
					}
				}
				if len(s.Caps) != caps {
					t.Errorf("%s: %d caps, want %d", name, len(s.Caps), caps)
				}
				crossed += crossings(s.Wires)
				drawn++
			}
			if t.Failed() {
				return
			}
		}
	}
	t.Logf("%d boxes, %.1f crossings each", drawn, float64(crossed)/float64(drawn))
}

// TestSchematic: the one-line drawing of random trees, before and after: nothing on anything
// else, every box and every cable there once, a stroke for each conductor.
func TestSchematic(t *testing.T) {
	rng := rand.New(rand.NewPCG(17, 18))
	for i := range 60 {
		c := circuittest.House(rng, 2+i%9)
		versions := []*circuit.Circuit{c}
		if i%20 == 19 {
			versions[0] = circuittest.Doubled(2 + i/20)
		} else if i%9 < 3 {
			for _, o := range retrofit.Plan(c).Options {
				if o.Feasible {
					versions = append(versions, o.After)
				}
			}
		}
		for k, v := range versions {
			name := fmt.Sprintf("house %d, version %d", i, k)
			s := Schematic(inspect.Compile(v), name)
			strokes := 0
			for _, l := range s.Lines {
				strokes += l.Strokes
			}
			cores := 0
			for _, k := range v.Cables {
				cores += len(k.Cores)
			}
			if len(s.Rooms) != len(v.Boxes) || strokes != cores || len(s.Lines) != len(v.Cables)+len(v.Links) {
				t.Errorf("%s: %d boxes, %d lines, %d strokes; want %d, %d, %d", name, len(s.Rooms), len(s.Lines), strokes, len(v.Boxes), len(v.Cables)+len(v.Links), cores)
			}
			for n, a := range s.Rooms {
				for _, b := range s.Rooms[n+1:] {
					if a.Overlaps(b.Rect) {
						t.Errorf("%s: boxes %s and %s overlap", name, a.ID, b.ID)
					}
				}
				for _, l := range s.Lines {
					for x := 1; x < len(l.Path) && !l.Dashed; x++ {
						p, q := l.Path[x-1], l.Path[x]
						if inner(a.Rect).Overlaps(Rect{math.Min(p.X, q.X), math.Min(p.Y, q.Y), math.Abs(p.X-q.X) + 0.1, math.Abs(p.Y-q.Y) + 0.1}) {
							t.Errorf("%s: a cable runs through %s", name, a.ID)
						}
					}
				}
			}
			for n, a := range s.Labels {
				if a.X < 0 || a.Y < 0 || a.X+a.W > s.W || a.Y+a.H > s.H {
					t.Errorf("%s: label %q leaves the paper", name, a.Text)
				}
				for _, b := range s.Labels[n+1:] {
					if a.Overlaps(b.Rect) {
						t.Errorf("%s: labels %q and %q overlap", name, a.Text, b.Text)
					}
				}
			}
			if t.Failed() {
				return
			}
		}
	}
}

// TestDifference: what did not move is drawn thin, what moved is not.
func TestDifference(t *testing.T) {
	c := circuittest.Straight()
	for _, o := range retrofit.Plan(c).Options {
		if !o.Feasible || o.Metrics.NewCables > 0 {
			continue
		}
		var moved []circuit.End
		for _, x := range o.Changes {
			moved = append(moved, x.End)
		}
		s := Layout(c, o.After).Difference(inspect.Compile(o.After), "x", moved)
		if slices.ContainsFunc(s.Devices, func(d Device) bool { return d.Control }) {
			t.Errorf("%s: a difference can be switched", o.ID)
		}
		for _, w := range s.Wires {
			if w.Kept && slices.Contains(moved, w.End) && w.End.Box != "" && slices.ContainsFunc(s.Rooms, func(r Room) bool {
				return r.ID == w.End.Box && w.Path[len(w.Path)-1].X > r.X && w.Path[len(w.Path)-1].X < r.X+r.W
			}) {
				t.Errorf("%s: %s moved and is drawn thin", o.ID, w.End)
			}
		}
		if kept := len(slices.DeleteFunc(slices.Clone(s.Wires), func(w Wire) bool { return !w.Kept })); len(moved) < 20 && (kept == 0 || kept == len(s.Wires)) {
			t.Errorf("%s: %d of %d wires are drawn thin", o.ID, kept, len(s.Wires))
		}
	}
}

// TestSVG: the file is well-formed whatever the names, doubles every core with
// letters, and takes nothing from outside.
func TestSVG(t *testing.T) {
	c := circuittest.Chain(3)
	c.Boxes[1].Name = `<script>alert("&")</script>`
	var b bytes.Buffer
	if err := Layout(c).Draw(inspect.Compile(c), `"Stair" & <landing>`, nil).File(&b, Block{}); err != nil {
		t.Fatal(err)
	}
	dec, styles := xml.NewDecoder(bytes.NewReader(b.Bytes())), 0
	for {
		tok, err := dec.Token()
		if err == io.EOF {
			break
		}
		if err != nil {
			t.Fatalf("not well-formed: %v", err)
		}
		if e, ok := tok.(xml.StartElement); ok {
			if e.Name.Local == "style" { // its own type
				styles++
			}
			if e.Name.Local == "script" || e.Name.Local == "image" || styles > 1 {
				t.Errorf("the drawing holds a %s", e.Name.Local)
			}
			for _, a := range e.Attr {
				if a.Name.Local == "style" || a.Name.Local == "href" || strings.HasPrefix(a.Name.Local, "on") {
					t.Errorf("%s carries %s", e.Name.Local, a.Name.Local)
				}
			}
		}
	}
	for _, k := range c.Cables {
		for _, core := range k.Cores {
			if !strings.Contains(b.String(), ">"+circuit.Letters(core)+"<") {
				t.Errorf("the letters of %s are missing", core)
			}
		}
	}
}

// TestLongTitle: a title that is wider than its drawing ends in dots and not at the edge.
func TestLongTitle(t *testing.T) {
	c := circuittest.Chain(2)
	scene := Schematic(inspect.Compile(c), strings.Repeat("tower ", 40))
	text := scene.Picture().Marks[0].(TextMark).Text
	if !strings.HasSuffix(text, "…") || float64(len([]rune(text)))*titleChar > scene.W {
		t.Errorf("the title of a drawing %.0f wide is %q", scene.W, text)
	}
}

// TestFile: a drawing in a file has its type, its title block and its cautions within, reaches
// out for nothing, and shows the whole drawing above them.
func TestFile(t *testing.T) {
	c := circuittest.Chain(4)
	scene := Layout(c).Draw(inspect.Compile(c), "Loft", nil)
	var b bytes.Buffer
	if err := scene.File(&b, Block{Job: `Mill & "sons"`, Circuit: strings.Repeat("long ", 80), Date: "2026-11-25", Revision: "7", Cautions: strings.Repeat("Mains kills. ", 40)}); err != nil {
		t.Fatal(err)
	}
	if err := xml.Unmarshal(b.Bytes(), new(struct{})); err != nil {
		t.Errorf("not well-formed: %v", err)
	}
	text := b.String()
	for _, want := range []string{"@font-face", "data:font/ttf;base64,", "Mill &amp; ", "2026-11-25", ">Revision<", "Mains kills."} {
		if !strings.Contains(text, want) {
			t.Errorf("%q is missing", want)
		}
	}
	if strings.Contains(text, ">Sheet<") || strings.Count(text, "http") != 1 { // the name space alone
		t.Error("an empty field is shown, or something outside is asked for")
	}
	for _, line := range wrap("one two three four five six seven", 9) {
		if len(line) > 9 {
			t.Errorf("%q is longer than nine", line)
		}
	}
	if got := strings.Join(wrap("a  bb ccc", 4), "|"); got != "a bb|ccc" {
		t.Errorf("wrapped to %s", got)
	}
}

func BenchmarkDraw(b *testing.B) {
	c := circuittest.Chain(10)
	for b.Loop() {
		if err := Layout(c).Draw(inspect.Compile(c), "x", nil).File(io.Discard, Block{}); err != nil {
			b.Fatal(err)
		}
	}
}
