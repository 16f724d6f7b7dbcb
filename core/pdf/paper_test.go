package pdf

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"
	"time"
	"unicode/utf16"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/diagram"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/retrofit"
	"ambivia/core/trace"
)

var today = Info{Job: "Tide mill", Circuit: "Sack loft", Revision: 7, Date: time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)}

// inside unpacks the streams of a document.
func inside(t testing.TB, pdf []byte) []byte {
	t.Helper()
	var out bytes.Buffer
	for _, part := range bytes.Split(pdf, []byte("stream\n"))[1:] {
		z, err := zlib.NewReader(bytes.NewReader(part))
		if err != nil {
			continue
		}
		_, _ = io.Copy(&out, z) // the end of a stream is not the end of its part
	}
	return out.Bytes()
}

// holds reports whether a text can be searched for in a document: it stands in it letter by
// letter, as big-endian UTF-16 with brackets and backslashes escaped.
func holds(streams []byte, text string) bool {
	var b bytes.Buffer
	for _, u := range utf16.Encode([]rune(text)) {
		for _, c := range []byte{byte(u >> 8), byte(u)} {
			if c == '(' || c == ')' || c == '\\' {
				b.WriteByte('\\')
			}
			b.WriteByte(c)
		}
	}
	return bytes.Contains(streams, b.Bytes())
}

func planOf(t testing.TB, c *circuit.Circuit, strategy string) *procedure.Procedure {
	t.Helper()
	for _, o := range retrofit.Plan(c).Options {
		if o.Feasible && o.Strategy == strategy {
			return procedure.For(inspect.Compile(c), &o, nil)
		}
	}
	t.Fatalf("no %s", strategy)
	return nil
}

// TestOrder: the work order has a title block and the cautions on every sheet, every step once, every material, presses
// and readings with what they show, all as text that can be found; its annex has the way back and the labels. Fonts are
// within them, and the same plan makes the same document.
func TestOrder(t *testing.T) {
	c := circuittest.Straight()
	p := planOf(t, c, retrofit.MainAux)
	proof, err := prove.Sequence(t.Context(), c, p.Option)
	if err != nil {
		t.Fatal(err)
	}
	var first, again, annex bytes.Buffer
	for _, b := range []*bytes.Buffer{&first, &again} {
		if err := Order(b, p, proof, today, A4); err != nil {
			t.Fatal(err)
		}
	}
	if err := Annex(&annex, p, today, A4); err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(first.Bytes(), again.Bytes()) {
		t.Error("the same plan makes two documents")
	}
	streams, more := inside(t, first.Bytes()), inside(t, annex.Bytes())
	for _, text := range []string{"Tide mill", "Sack loft", "2026-11-25", "Mains kills.", "Materials", "connector for", "Serial number", "Expected", trace.ReadingWords(proof.Tests()[0].Test.Instrument, proof.Tests()[0].Right)} {
		if !holds(streams, text) {
			t.Errorf("%q cannot be found", text)
		}
	}
	if !holds(more, "Put it back: the whole original wiring") || !holds(more, "Labels for conductors") {
		t.Error("the annex lacks the way back or the labels")
	}
	for _, s := range p.Steps {
		if word := strings.Join(strings.Fields(s.Text)[:2], " "); !holds(streams, word) {
			t.Errorf("step %d, %q, is not in it", s.Number, word)
		}
	}
	for _, l := range p.Labels() {
		if !holds(more, "to "+l.Towards) {
			t.Errorf("the label of %s is not in the annex", l.End)
		}
	}
	for _, b := range []*bytes.Buffer{&first, &annex} {
		if n := bytes.Count(b.Bytes(), []byte("/FontFile2")); n != 2 {
			t.Errorf("%d fonts are within", n)
		}
		for _, outside := range []string{"/URI", "/JavaScript", "/Launch"} {
			if bytes.Contains(b.Bytes(), []byte(outside)) {
				t.Errorf("the document reaches out: %s", outside)
			}
		}
	}
}

// TestOrderIsShort: a plan that works in two boxes takes five sheets at most, with each step on one of them; one of ten
// places takes what it takes, and nothing of it is left out.
func TestOrderIsShort(t *testing.T) {
	rng := rand.New(rand.NewPCG(30, 5))
	orders := 0
	for i := range 8 {
		c := circuittest.Walls(rng, 2)
		for n, o := range retrofit.Plan(c).Options {
			if !o.Feasible || o.Metrics.BoxesTouched == 0 || o.Metrics.BoxesTouched > 2 || n%5 != i%5 {
				continue
			}
			proof, err := prove.Sequence(t.Context(), c, &o)
			if err != nil {
				t.Fatal(err)
			}
			p := procedure.For(inspect.Compile(c), &o, nil)
			var b bytes.Buffer
			if err := Order(&b, p, proof, today, A4); err != nil {
				t.Fatal(err)
			}
			orders++
			if sheets := Sheets(b.Bytes()); sheets > 5 {
				t.Errorf("house %d, %s: %d sheets", i, o.ID, sheets)
			}
		}
	}
	if orders < 20 {
		t.Errorf("%d orders were written", orders)
	}
	p := planOf(t, circuittest.Chain(10), retrofit.MainAux)
	var b bytes.Buffer
	if err := Order(&b, p, nil, today, A4); err != nil {
		t.Fatal(err)
	}
	streams := inside(t, b.Bytes())
	for _, s := range p.Steps {
		if word := strings.Join(strings.Fields(s.Text)[:2], " "); !holds(streams, word) {
			t.Errorf("ten places: step %d, %q, is not in it", s.Number, word)
		}
	}
}

// TestFoundLabels: a label for each core, grounds too, in the boxes that were opened, as found, and none for closed boxes.
func TestFoundLabels(t *testing.T) {
	c := circuittest.Straight()
	var b bytes.Buffer
	if err := FoundLabels(&b, inspect.Compile(c), today, A4); err != nil {
		t.Fatal(err)
	}
	streams := inside(t, b.Bytes())
	labels := procedure.FoundLabels(inspect.Compile(c))
	if len(labels) == 0 {
		t.Fatal("there are none")
	}
	for _, l := range labels {
		if !holds(streams, "to "+l.Towards) || !holds(streams, names.Capitalize(l.Role)) {
			t.Errorf("the label of %s is not in it", l.End)
		}
		if b := c.Box(l.End.Box); !b.Seen() {
			t.Errorf("%s has a label", l.End)
		}
	}
	if !slices.ContainsFunc(labels, func(l procedure.Label) bool { return circuit.GroundColour(l.End.Part) }) {
		t.Error("no ground has a label")
	}
}

// TestPocket: one sheet, folded once, holds every gate and every conductor that is joined, in the largest
// text that fits; where there is too much for it, it says how much it leaves out.
func TestPocket(t *testing.T) {
	for _, controls := range []int{2, 3, 10} {
		p := planOf(t, circuittest.Chain(controls), retrofit.MainAux)
		for _, size := range []Size{A4, Letter} {
			var b bytes.Buffer
			if err := Pocket(&b, p, today, size); err != nil {
				t.Fatal(err)
			}
			streams := inside(t, b.Bytes())
			if sheets := bytes.Count(b.Bytes(), []byte("/Type /Page\n")); sheets != 1 {
				t.Errorf("%d controls, %s: %d sheets", controls, size, sheets)
			}
			more, missing := holds(streams, "see the work order"), 0
			for _, x := range p.Steps {
				for _, wire := range x.Wires {
					if x.Phase == procedure.Joining && wire.Letters != "" && !holds(streams, wire.Letters+" to "+wire.Towards) {
						missing++
					}
				}
			}
			for _, x := range p.Steps {
				if words := strings.Join(strings.Fields(x.Text)[:2], " "); len(x.Wires) == 0 && x.Phase != procedure.Lifting && !holds(streams, words) {
					missing++
				}
			}
			if missing > 0 && !more || controls == 2 && more {
				t.Errorf("%d controls, %s: %d conductors and steps are not on it, it says so: %t", controls, size, missing, more)
			}
			if !holds(streams, "Mains kills.") {
				t.Errorf("%d controls, %s: no cautions", controls, size)
			}
		}
	}
}

// TestCut: a drawing of any size is cut between its boxes, so that no sheet splits one; every
// box is on exactly one sheet, and at the smallest scale each part fits, but for a box that
// is larger than a sheet by itself.
func TestCut(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 4))
	several := 0
	for i := range 60 {
		c := circuittest.House(rng, 2+i%9)
		scene := diagram.Layout(c).Draw(inspect.Compile(c), "x", nil)
		wide, tall := 1000.0+rng.Float64()*600, 700.0+rng.Float64()*400
		tiles := cut(scene, wide, tall)
		if len(tiles) > 1 {
			several++
		}
		for _, r := range scene.Rooms {
			on := 0
			for _, x := range tiles {
				if r.Overlaps(x.Rect) {
					on++
				}
			}
			if on != 1 {
				t.Fatalf("house %d: box %s is on %d sheets", i, r.ID, on)
			}
		}
		for _, x := range tiles {
			boxes := slices.DeleteFunc(slices.Clone(scene.Rooms), func(r diagram.Room) bool { return !r.Overlaps(x.Rect) })
			columns := map[float64]bool{}
			for _, r := range boxes {
				columns[r.X] = true
			}
			if x.W > wide && len(columns) > 1 {
				t.Fatalf("house %d: a part of %.0f pixels with %d columns of boxes, on %.0f", i, x.W, len(columns), wide)
			}
		}
	}
	if several < 20 {
		t.Errorf("only %d drawings needed more than one sheet", several)
	}
}

// TestPack: parts of a drawing that share a sheet lie below each other and end above its
// legend, in their order, at a scale that can be read unless the part itself is too large.
func TestPack(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 8))
	shared := 0
	for range 300 {
		wide, tall := 500+rng.Float64()*300, 350+rng.Float64()*300
		var tiles []tile
		for range 1 + rng.IntN(12) {
			tiles = append(tiles, tile{Rect: diagram.Rect{W: 300 + rng.Float64()*1200, H: 150 + rng.Float64()*900}})
		}
		pack(tiles, wide, tall, 4)
		for i, x := range tiles {
			if x.W*x.scale > wide+1 || x.y+x.H*x.scale > tall+1 || x.scale > largest {
				t.Fatalf("part %d, %.0f by %.0f at %.2f, leaves the %.0f by %.0f of its sheet", i, x.W, x.H, x.scale, wide, tall)
			}
			if x.scale < smallest && x.W*smallest <= wide && x.H*smallest <= tall {
				t.Fatalf("part %d is drawn at %.2f and need not be", i, x.scale)
			}
			if i == 0 {
				if x.sheet != 4 || x.y != 0 {
					t.Fatalf("the first part is on sheet %d at %.0f", x.sheet, x.y)
				}
				continue
			}
			before := tiles[i-1]
			switch {
			case x.sheet == before.sheet && x.y < before.y+before.H*before.scale:
				t.Fatalf("part %d lies on the one before", i)
			case x.sheet == before.sheet:
				shared++
			case x.sheet != before.sheet+1 || x.y != 0:
				t.Fatalf("part %d is on sheet %d at %.0f after sheet %d", i, x.sheet, x.y, before.sheet)
			}
		}
	}
	if shared < 100 {
		t.Errorf("only %d parts share a sheet", shared)
	}
}

// TestNames: whatever a place is called, the document can be written; letters that no font
// has are shown as such, and a long name is shortened and not run over.
func TestNames(t *testing.T) {
	c := circuittest.Chain(3)
	for _, name := range []string{"", "Ελαιοτριβείο — Сарай", "水車小屋", "\U0001F9E0\U0001F9E0", "(a) \\ b) (", strings.Repeat("very long ", 40), "a\nb\tc"} {
		c.Boxes[1].Name = name
		info := Info{Job: name, Circuit: name, Date: today.Date}
		var b bytes.Buffer
		if err := Drawings(&b, inspect.Compile(c), info, Letter); err != nil {
			t.Fatalf("%q: %v", name, err)
		}
		streams := inside(t, b.Bytes())
		if name == "水車小屋" && !holds(streams, name) || name == "\U0001F9E0\U0001F9E0" && !holds(streams, "??") || strings.HasPrefix(name, "Ελ") && !holds(streams, "Ελαιοτριβείο") || name == "(a) \\ b) (" && !holds(streams, name) {
			t.Errorf("%q is not in the document", name)
		}
	}
}

// TestLines: broken texts fit their width and lose nothing.
func TestLines(t *testing.T) {
	s := newSheets(circuittest.Chain(2), today, A4, "x")
	s.sheet("x", false)
	s.font("", 9)
	rng := rand.New(rand.NewPCG(5, 6))
	for range 200 {
		var words []string
		for range 1 + rng.IntN(20) {
			words = append(words, strings.Repeat("m", 1+rng.IntN(30)))
		}
		text := strings.Join(words, " ")
		width := 40 + rng.Float64()*200
		lines := s.lines(text, width, 0)
		for _, l := range lines {
			if s.width(l) > width {
				t.Fatalf("%q is wider than %g", l, width)
			}
		}
		if strings.ReplaceAll(strings.Join(lines, ""), " ", "") != strings.ReplaceAll(text, " ", "") {
			t.Fatalf("%q became %q", text, lines)
		}
		if two := s.lines(text, width, 2); len(two) > 2 || len(lines) > 2 && !strings.HasSuffix(two[1], "…") {
			t.Fatalf("%q in two lines is %q", text, two)
		}
	}
}

func BenchmarkOrder(b *testing.B) {
	for _, n := range []int{2, 10} {
		p := planOf(b, circuittest.Chain(n), retrofit.MainRemote)
		b.Run(fmt.Sprintf("controls=%d", n), func(b *testing.B) {
			for b.Loop() {
				if err := Order(io.Discard, p, nil, today, A4); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

func write(t *testing.T, path string, data []byte) {
	t.Helper()
	if err := os.WriteFile(path, data, 0o600); err != nil {
		t.Fatal(err)
	}
}
