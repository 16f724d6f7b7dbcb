package netlist_test

import (
	"bytes"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/netlist"
	"ambivia/core/retrofit"
)

var printed = regexp.MustCompile(`(?m)^(\S+) = (\S+)$`)

// simulate runs a deck through ngspice and returns the volts of each node.
func simulate(t *testing.T, deck []byte) map[string]float64 {
	t.Helper()
	deck = bytes.Replace(deck, []byte(".op\n.end"), []byte(".control\nset numdgt=12\nset width=200\nop\nprint all\n.endc\n.end"), 1)
	path := filepath.Join(t.TempDir(), "deck.cir")
	if err := os.WriteFile(path, deck, 0o600); err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command("ngspice", "-b", path).Output() // its notes go to the error stream
	if err != nil && len(printed.FindAll(out, 1)) == 0 {
		t.Fatalf("ngspice: %v (make test installs it)\n%s", err, out)
	}
	volts := map[string]float64{"0": 0}
	for _, m := range printed.FindAllStringSubmatch(string(out), -1) {
		v, err := strconv.ParseFloat(m[2], 64)
		if err != nil {
			t.Fatalf("%s: %v", m[0], err)
		}
		volts[strings.ToLower(m[1])] = v
	}
	return volts
}

// specimens makes the circuits of the comparison: ordinary ones of several practices, sound ones, miswired ones,
// some with further lamps thrown in anywhere, some as planned with smart
// devices.
func specimens(t *testing.T, rng *rand.Rand, count int) []*circuit.Circuit {
	var out []*circuit.Circuit
	for _, name := range []string{"in-board", "na-halfhot", "eu-2pole", "au-std"} { // loads that are no lamps, two poles, a return beside
		file, err := os.Open("../house/testdata/traditions/" + name + ".json")
		if err != nil {
			t.Fatal(err)
		}
		c, err := circuit.Read(file)
		_ = file.Close()
		if err != nil {
			t.Fatal(err)
		}
		out = append(out, c)
	}
	for i := 0; len(out) < count; i++ {
		c := circuittest.House(rng, 2+i%2)
		switch i % 4 {
		case 1:
			circuittest.Miswire(rng, c, 5)
		case 2:
			circuittest.Miswire(rng, c, 3)
			circuittest.MoreLamps(rng, c)
		case 3:
			for _, o := range retrofit.Plan(c).Options {
				if o.Feasible {
					c = o.After
					circuittest.MoreLamps(rng, c)
					break
				}
			}
		}
		out = append(out, c)
	}
	return out
}

// TestAgainstSimulator compares the volts of every lamp in every reachable
// state with Debian's ngspice, and prints how well they agree. Where the model
// says that a breaker trips, the simulator must see a current that trips it.
func TestAgainstSimulator(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(21, 22))
	const tolerance = 0.02 // volts: what the joints' ohms and the air's leaks add up to
	circuits, states, lamps, tripped, part := 0, 0, 0, 0, 0
	worst := 0.0
	for i, c := range specimens(t, rng, 240) {
		if err := c.Validate(); err != nil {
			t.Fatal(err)
		}
		n := electric.New(c)
		var keys []map[string]int
		var found []*electric.Solution
		for _, s := range electric.Explore(n).States {
			keys = append(keys, n.Keys(s.State))
			found = append(found, n.Solve(s.State))
		}
		var deck bytes.Buffer
		where, err := netlist.Write(&deck, c, n.Volts, keys...)
		if err != nil {
			t.Fatal(err)
		}
		volts := simulate(t, deck.Bytes())
		circuits++
		for k, s := range found {
			states++
			if s.Tripped {
				tripped++
				if amps := math.Abs(volts[fmt.Sprintf("v%d_0#branch", k)]); amps < 1000 {
					t.Errorf("circuit %d, state %v: the model trips the breaker, the simulator sees %.1f A", i, keys[k], amps)
				}
				continue
			}
			for _, lamp := range where[k] {
				l := slices.Index(n.LampIDs(), lamp.ID)
				if l < 0 {
					continue // a receptacle on the feed, which no switch works
				}
				for _, node := range []string{lamp.L, lamp.N} {
					if _, ok := volts[node]; !ok {
						t.Fatalf("circuit %d: the simulator says nothing of node %s", i, node)
					}
				}
				want := math.Abs(volts[lamp.L] - volts[lamp.N])
				got := s.LampVolts()[l]
				lamps++
				worst = max(worst, math.Abs(got-want))
				if got > 1 && got < 0.98*n.Volts {
					part++
				}
				if math.Abs(got-want) > tolerance {
					t.Errorf("circuit %d, state %v, %s: %.3f V, the simulator has %.3f V", i, keys[k], lamp.ID, got, want)
				}
			}
		}
		if t.Failed() {
			t.Fatalf("the deck:\n%s", deck.String())
		}
	}
	t.Logf("%d circuits, %d states, %d lamp readings: worst difference %.4f V; %d states trip, %d readings at part volts",
		circuits, states, lamps, worst, tripped, part)
	if tripped == 0 || part == 0 {
		t.Error("no specimen trips a breaker, or none has lamps in series: the comparison is too tame")
	}
}

// TestDeck: a name from outside cannot put lines into the deck.
func TestDeck(t *testing.T) {
	c := circuittest.Chain(2)
	c.Name = "stair\n.shell rm\nV9 1 0 5"
	var b bytes.Buffer
	if _, err := netlist.Write(&b, c, 120, nil); err != nil {
		t.Fatal(err)
	}
	if strings.Count(b.String(), "\nV") != 1 || strings.Contains(b.String(), "\n.shell") {
		t.Errorf("%s", b.String())
	}
}
