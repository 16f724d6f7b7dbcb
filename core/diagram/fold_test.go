package diagram

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// TestTurned: rows that turn after two boxes, three or four keep apart what must be apart, with loose cables, two lights and spare
// cores too.
func TestTurned(t *testing.T) {
	rng := rand.New(rand.NewPCG(30, 8))
	turned, branched := 0, 0
	for i := range 120 {
		c := circuittest.House(rng, 2+i%7)
		switch i % 5 {
		case 1:
			c = circuittest.Walls(rng, 2+i%4)
		case 2:
			c = circuittest.Chain(2 + i%7)
		case 3:
			c = circuittest.Doubled(2 + i%5)
		case 4: // a survey before tracing: every cable a stub
			var stubs []circuit.Cable
			for _, k := range c.Cables {
				for n, end := range k.Ends {
					half := k
					half.ID, half.Ends = fmt.Sprintf("%s%d", k.ID, n), [2]*string{end, nil}
					stubs = append(stubs, half)
				}
			}
			c.Cables, c.Joins, c.Marks = stubs, nil, nil
		}
		for n := range 2 { // loose cables in any box
			box := c.Boxes[rng.IntN(len(c.Boxes))].ID
			c.Cables = append(c.Cables, circuit.Cable{ID: fmt.Sprintf("loose%d", n), Gauge: "2.5mm2", Ends: [2]*string{&box, nil}, Cores: []string{"black", "white", "red"}[:1+rng.IntN(3)]})
		}
		for most := 2; most <= 4; most++ {
			f := layout(c, nil, most)
			if _, rows := f.grid(); i%5 == 4 && rows > (len(c.Boxes)+most-1)/most {
				t.Errorf("house %d: %d boxes without cables between them in %d rows", i, len(c.Boxes), rows)
			}
			for _, b := range c.Boxes {
				for _, x := range f.turns(b.ID, most) {
					turned++
					if x.leaf != "" {
						branched++
					}
				}
			}
			name := fmt.Sprintf("house %d, turning after %d", i, most)
			s := f.Draw(inspect.Compile(c), name, nil)
			check(t, name, s)
			at := s.Picture().Drawn
			for _, r := range s.Rooms {
				if r.X < at.X || r.Y < at.Y || r.X+r.W > at.X+at.W || r.Y+r.H > at.Y+at.H {
					t.Errorf("%s: %s is not in %v", name, r.ID, at)
				}
			}
		}
		if t.Failed() {
			return
		}
	}
	t.Logf("%d turns, %d of them with a branch", turned, branched)
	if turned < 200 || branched < 50 {
		t.Errorf("%d turns, %d with a branch", turned, branched)
	}
}

// TestWholeOnTheBench: two switches with their panel and light are read as a whole beside the inspector: no letter, drawn 12.5 high,
// is shown smaller than 10.4.
func TestWholeOnTheBench(t *testing.T) {
	for name, c := range map[string]*circuit.Circuit{"straight": circuittest.Straight(), "row": circuittest.Row(2), "chain": circuittest.Chain(2)} {
		at := Layout(c).Draw(inspect.Compile(c), name, nil).Picture().Drawn
		if scale := min(benchW/at.W, benchH/at.H); scale*12.5 < 10.4 {
			t.Errorf("%s: %v is shown at %.2f", name, at, scale)
		}
	}
}
