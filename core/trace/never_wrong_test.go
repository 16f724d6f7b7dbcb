package trace

import (
	"context"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/house"
)

// figures are what tracing houses of one kind took.
type figures struct {
	houses, wrong, clashes, open, walks, tests, most int
	played                                           int // by the tests proposed
	refused                                          int
	slowest                                          time.Duration
	least                                            float64 // odds at which a true role was met
}

// survey hides a house of a kind and returns what is seen of it.
func surveyOf(t testing.TB, k circuittest.Kind, seed uint64) (*house.House, *circuit.Circuit) {
	t.Helper()
	rng := rand.New(rand.NewPCG(seed, 0xd1ce))
	c := k.Make(rng, k.Controls[rng.IntN(len(k.Controls))])
	var opened []string
	if k.Open != nil {
		opened = k.Open(rng, c)
	}
	h, err := house.New(c, seed, opened)
	if err != nil {
		t.Fatalf("%s, house %d: %v", k.Name, seed, err)
	}
	s := h.Survey()
	if k.Forget {
		s.Boxes = slices.DeleteFunc(s.Boxes, func(b circuit.Box) bool { return b.Kind == circuit.Switch && !b.Seen() })
		s.Devices = slices.DeleteFunc(s.Devices, func(d circuit.Device) bool { return s.Box(d.Box) == nil })
	}
	return h, s
}

// mostReadingsOfATest bounds how far one house is followed.
const mostReadingsOfATest = 60

// housesOfAKind is how many of a kind are traced by the tests proposed: 168 of all kinds.
// AMBIVIA_HOUSES asks for another number.
var housesOfAKind = 12

func init() {
	if n, err := strconv.Atoi(os.Getenv("AMBIVIA_HOUSES")); err == nil {
		housesOfAKind = n
	}
}

// trace plays one house to the end, or to so many tests, and holds what is left against
// the truth at every step.
func (f *figures) trace(t testing.TB, k circuittest.Kind, seed uint64, prefer Prefer) {
	h, s := surveyOf(t, k, seed)
	f.houses++
	start := time.Now()
	tr, err := New(context.Background(), s)
	if err != nil {
		f.refused++
		return
	}
	roles := trueRoles(h)
	operations, tests, last := 0, 0, circuit.Observation{Power: "off"}
	for tests < mostReadingsOfATest {
		if !f.holds(t, k, seed, tests, tr, roles) {
			return
		}
		test, ok, err := tr.Next(context.Background(), prefer)
		if err != nil {
			t.Fatal(err)
		}
		f.slowest = max(f.slowest, time.Since(start))
		if !ok {
			break
		}
		tests++
		operations += walks(last, test)
		if test.Reading, err = h.Answer(test); err != nil {
			t.Fatalf("%s, house %d: %+v: %v", k.Name, seed, test, err)
		}
		start, last = time.Now(), test
		tr.Observe(test)
	}
	if last.Power == "on" {
		operations++
	}
	if !tr.Resolved() {
		f.open++
	}
	f.walks, f.tests, f.most = f.walks+operations, f.tests+tests, max(f.most, tests)
}

// TestNeverWrong traces some 168 random hidden houses of every kind, whose probes lie on floating
// conductors, by the tests that are proposed, and more with a few readings that anybody might
// make. The true role of every conductor that can be seen is among what is left, before any
// reading and after each, and no honest readings clash. It prints what it took.
func TestNeverWrong(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	for _, k := range circuittest.Kinds() {
		t.Run(k.Name, func(t *testing.T) {
			t.Parallel()
			var parts [partsOfAKind]figures
			t.Run("all", func(t *testing.T) { // ends when its parts have
				for n := range parts {
					t.Run(strconv.Itoa(n), func(t *testing.T) {
						t.Parallel()
						f := &parts[n]
						f.least = 1
						for seed := n; seed < housesOfAKind; seed += partsOfAKind {
							prefer := Dead
							if seed%4 == 3 {
								prefer = Trips
							}
							f.trace(t, k, uint64(seed), prefer)
						}
						f.played = f.houses
						for seed := n; seed < 10; seed += partsOfAKind {
							f.anyhow(t, k, uint64(seed)+1000)
						}
					})
				}
			})
			f := figures{least: 1}
			for _, part := range parts {
				f.add(part)
			}
			mean := func(n int) float64 { return float64(n) / float64(f.played) }
			t.Logf("%d houses: %d wrong, %d false contradictions, %d refused as too large; of %d traced by the tests proposed %d still open after %d readings, walks %.2f, readings %.2f in the mean; slowest next test %v; least odds of a true role %.4f",
				f.houses, f.wrong, f.clashes, f.refused, f.played, f.open, mostReadingsOfATest, mean(f.walks), mean(f.tests), f.slowest.Round(time.Millisecond), f.least)
		})
	}
}

// partsOfAKind is in how many parts the houses of a kind are traced, so that no core waits for the
// slowest kind.
const partsOfAKind = 5

// add adds up the figures of two parts.
func (f *figures) add(part figures) {
	f.houses, f.played, f.wrong, f.clashes, f.open = f.houses+part.houses, f.played+part.played, f.wrong+part.wrong, f.clashes+part.clashes, f.open+part.open
	f.walks, f.tests, f.refused = f.walks+part.walks, f.tests+part.tests, f.refused+part.refused
	f.most, f.slowest, f.least = max(f.most, part.most), max(f.slowest, part.slowest), min(f.least, part.least)
}

// anyhow makes a few readings that a person might make, sensible or not.
func (f *figures) anyhow(t testing.TB, k circuittest.Kind, seed uint64) {
	h, s := surveyOf(t, k, seed)
	f.houses++
	tr, err := New(context.Background(), s)
	if err != nil {
		f.refused++
		return
	}
	rng := rand.New(rand.NewPCG(seed, 9))
	for n := range 3 {
		if !f.holds(t, k, seed, n, tr, trueRoles(h)) {
			return
		}
		o := anyTest(rng, s)
		if o.Reading, err = h.Answer(o); err != nil {
			t.Fatal(err)
		}
		tr.Observe(o)
	}
}

// holds reports whether every conductor's true role is among what is left.
func (f *figures) holds(t testing.TB, k circuittest.Kind, seed uint64, readings int, tr *Tracer, roles map[circuit.End]electric.Role) bool {
	if !tr.possible() {
		f.clashes++
		t.Errorf("%s, house %d, after %d readings: nothing fits", k.Name, seed, readings)
		return false
	}
	odds := tr.Odds()
	for e, role := range roles {
		switch {
		case role == electric.RoleGround || circuit.GroundColour(e.Part) || k.Name == "feed exchanged" && tr.tell().polarityWord() == "unknown":
		case odds[e][role] == 0:
			f.wrong++
			t.Errorf("%s, house %d, after %d readings: %s is %s, and that is not among %v", k.Name, seed, readings, e, role, odds[e])
			return false
		default:
			f.least = min(f.least, odds[e][role])
		}
	}
	return true
}
