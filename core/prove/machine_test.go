package prove

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/retrofit"
)

// machine is a circuit that is pressed and looked at, state by state: the plain reading of what tables hold.
type machine struct {
	net   *electric.Network
	shown map[electric.State]sight
	next  map[move]electric.State
}

// move is a control pressed in a state.
type move struct {
	state   electric.State
	control string
}

func newMachine(n *electric.Network) *machine {
	return &machine{n, map[electric.State]sight{}, map[move]electric.State{}}
}

func (m *machine) starts() []electric.State { return starts(m.net) }

func (m *machine) shows(s electric.State) sight {
	out, known := m.shown[s]
	if !known {
		out = sightOf(m.net.Solve(s), len(m.net.LampIDs()))
		m.shown[s] = out
	}
	return out
}

func (m *machine) press(s electric.State, control string) electric.State {
	if m.shows(s) == trip {
		return s // nothing more happens
	}
	to, known := m.next[move{s, control}]
	if !known {
		to, _ = m.net.Press(s, control, nil)
		m.next[move{s, control}] = to
	}
	return to
}

// could are the states of the right circuit, among some, that show what is seen.
func (m *machine) could(states []electric.State, seen sight) []electric.State {
	return slices.DeleteFunc(slices.Clone(states), func(s electric.State) bool { return m.shows(s) != seen })
}

// pressed are states after a press, each once.
func (m *machine) pressed(states []electric.State, control string) []electric.State {
	var out []electric.State
	for _, s := range states {
		out = append(out, m.press(s, control))
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// reveals reports whether presses show that a circuit which stands so is not the right one.
func (m *machine) reveals(wrong *machine, at electric.State, presses []string) bool {
	could := m.could(m.starts(), wrong.shows(at))
	for _, id := range presses {
		at = wrong.press(at, id)
		could = m.could(m.pressed(could, id), wrong.shows(at))
	}
	return len(could) == 0
}

// canReveal reports whether any presses do.
func (m *machine) canReveal(wrong *machine, at electric.State) bool {
	type place struct {
		at    electric.State
		could []electric.State
	}
	met := map[string]bool{}
	for todo := []place{{at, m.could(m.starts(), wrong.shows(at))}}; len(todo) > 0; todo = todo[1:] {
		x := todo[0]
		if len(x.could) == 0 {
			return true
		}
		if key := fmt.Sprint(x); met[key] {
			continue
		} else {
			met[key] = true
		}
		for _, id := range m.net.Controls() {
			to := wrong.press(x.at, id)
			todo = append(todo, place{to, m.could(m.pressed(x.could, id), wrong.shows(to))})
		}
	}
	return false
}

// TestPlainReading holds the presses against the contract read state by state: they reveal every mistake, from every starting
// position, that any presses reveal; and where all shorter ones can be tried, none of them does.
func TestPlainReading(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	rng := rand.New(rand.NewPCG(27, 11))
	held, tried := 0, 0
	hold := func(name string, c *circuit.Circuit, o *retrofit.Option, most int) {
		p, err := Sequence(context.Background(), c, o)
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		w := of(c, o)
		mistakes, err := w.mistakes()
		if err != nil {
			t.Fatal(err)
		}
		rng.Shuffle(len(mistakes), func(a, b int) { mistakes[a], mistakes[b] = mistakes[b], mistakes[a] })
		right := newMachine(w.read.net)
		type trial struct {
			x  *machine
			at electric.State
		}
		var all []trial // what can be revealed
		for _, m := range mistakes[:min(len(mistakes), most)] {
			x := newMachine(w.wrong(m))
			for _, at := range x.starts() {
				held++
				can := right.canReveal(x, at)
				if does := right.reveals(x, at, p.Presses); can != does {
					t.Fatalf("%s, %v from %b: it can be revealed %v, %v reveal it %v", name, m, at, can, p.Presses, does)
				}
				stands := at
				for _, id := range p.Presses {
					stands = x.press(stands, id)
				}
				if got := pressed(x.net, at, p.Presses); got != stands {
					t.Fatalf("%s, %v from %b: it stands as %b, not as %b", name, m, at, stands, got)
				}
				if can {
					all = append(all, trial{x, at})
				}
			}
		}
		does := map[string]string{} // what each press does to each lamp, from all starting positions
		for states, i := right.starts(), 0; i < len(p.Presses); i++ {
			for _, s := range states {
				to := right.press(s, p.Presses[i])
				for l, lamp := range right.net.LampIDs() {
					how, key := "stays", fmt.Sprint(i, lamp)
					if right.shows(s)>>l&1 != right.shows(to)>>l&1 {
						how = "changes"
					}
					if does[key] != "" && does[key] != how {
						how = "depends"
					}
					does[key] = how
				}
			}
			states = right.pressed(states, p.Presses[i])
			for lamp, how := range p.Expect[i].Lamps {
				if does[fmt.Sprint(i, lamp)] != how {
					t.Errorf("%s: press %d of %v: %s %s, it is said %s", name, i+1, p.Presses, lamp, does[fmt.Sprint(i, lamp)], how)
				}
			}
		}
		controls := right.net.Controls()
		shorter := 1
		for range len(p.Presses) - 1 {
			shorter *= len(controls)
		}
		if len(p.Presses) == 0 || shorter > 4000 || most < len(mistakes) {
			return
		}
		for n := range shorter { // one fewer: what is shorter still is the beginning of one of these
			var presses []string
			for range len(p.Presses) - 1 {
				presses = append(presses, controls[n%len(controls)])
				n /= len(controls)
			}
			tried++
			if !slices.ContainsFunc(all, func(x trial) bool { return !right.reveals(x.x, x.at, presses) }) {
				t.Errorf("%s: %v reveal all that %v do", name, presses, p.Presses)
			}
		}
	}
	hold("straight", circuittest.Straight(), nil, 1000)
	hold("chain of three", circuittest.Chain(3), nil, 1000)
	hold("chain of four", circuittest.Chain(4), nil, 1000)
	hold("chain of five", circuittest.Chain(5), nil, 30)
	some(t, 60, func(name string, c *circuit.Circuit, o *retrofit.Option) {
		most := 1000
		if len(electric.New(c).Controls()) > 3 {
			most = 30
		}
		hold(name, c, o, most)
	})
	if held < 10_000 || tried < 1000 {
		t.Errorf("%d starting positions and %d shorter sequences were tried: too tame", held, tried)
	}
	t.Logf("%d starting positions of mistakes, %d shorter sequences", held, tried)
}

// TestAsShort: the longest proofs, of all that may be wrong in a straight chain, take no more presses than was once found.
func TestAsShort(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	for n, most := range map[int]int{3: 5, 4: 6, 5: 7, 6: 8, 7: 9} {
		p, err := Sequence(context.Background(), circuittest.Chain(n), nil)
		if err != nil || len(p.Presses) > most {
			t.Errorf("a chain of %d is proved in %d presses, it was in %d: %v", n, len(p.Presses), most, err)
		}
	}
}

// BenchmarkProve proves a straight chain as recorded, all of it: four, six, eight and ten switches.
func BenchmarkProve(b *testing.B) {
	for _, n := range []int{4, 6, 8, 10} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			c := circuittest.Chain(n)
			for b.Loop() {
				if _, err := Sequence(context.Background(), c, nil); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// BenchmarkDiagnose lists what explains a chain that stays dark before anybody presses.
func BenchmarkDiagnose(b *testing.B) {
	for _, n := range []int{4, 6, 8, 10} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			c := circuittest.Chain(n)
			for b.Loop() {
				if _, err := Diagnose(context.Background(), c, nil, Seen{Lamps: []map[string]string{{"lamp1": "dark"}}}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// TestTenSwitches: ten switches that are moved by hand, in whatever way they stand, are proved, and a mistake is found.
func TestTenSwitches(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	c := circuittest.Chain(mostSwitches)
	var o *retrofit.Option
	for _, x := range retrofit.Plan(c).Options {
		if x.Feasible && (o == nil || len(electric.New(x.After).MechanicalBits()) > len(electric.New(o.After).MechanicalBits())) {
			o = &x
		}
	}
	p, err := Sequence(context.Background(), c, o)
	if err != nil {
		t.Fatal(err)
	}
	w := of(c, o)
	if n := len(w.read.net.MechanicalBits()); n < mostSwitches-1 || p.Mistakes.Revealed == 0 {
		t.Errorf("%d switches, %+v", n, p.Mistakes)
	}
	mistakes, _ := w.mistakes()
	right := newMachine(w.read.net)
	for _, m := range mistakes {
		x := newMachine(w.wrong(m))
		if from := 777 % len(x.starts()); right.reveals(x, x.starts()[from], p.Presses) {
			seen := watch(x, from, p.Presses)
			d, err := Diagnose(context.Background(), c, o, seen)
			if err != nil || d.Right || !slices.ContainsFunc(d.Mistakes, func(s Suspect) bool { return s.Kind == m.Kind && slices.Equal(s.Ends, m.Ends) }) {
				t.Errorf("%v is not among %d suspects: %v", m, len(d.Mistakes), err)
			}
			return
		}
	}
	t.Error("no mistake is revealed")
}
