package trace_test

import (
	"context"
	"encoding/json"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/house"
	"ambivia/core/trace"
)

// TestRounds: houses traced round by round, each entered in one go, come to the same roles as they have; the tests of a round
// stand alike, the next test first, none is made twice, and those that could show one thing alone are in none. Fewer rounds than
// readings are needed.
func TestRounds(t *testing.T) {
	rounds, readings, done := 0, 0, 0
	const houses = 10
	for seed := range uint64(houses) {
		rng := rand.New(rand.NewPCG(seed, 31))
		h, err := house.New(circuittest.Walls(rng, 2), seed, nil)
		if err != nil {
			t.Fatal(err)
		}
		prefer := []trace.Prefer{trace.Dead, trace.Trips}[seed%2]
		s := h.Survey()
		for range 60 {
			r, err := trace.Trace(context.Background(), s, prefer)
			if err != nil {
				t.Fatal(err)
			}
			if r.Contradiction != nil {
				t.Fatalf("house %d: %s", seed, r.Contradiction.Text)
			}
			if r.Next == nil {
				if r.Done {
					done++
				}
				break
			}
			rounds++
			round := r.Next.Round
			if len(round) == 0 || round[0].Key() != r.Next.Test.Key() {
				t.Fatalf("house %d: the round begins with %v", seed, round)
			}
			tr, err := trace.New(context.Background(), s)
			if err != nil {
				t.Fatal(err)
			}
			for i, x := range round {
				if x.Power != round[0].Power || !slices.Equal(x.Lifted, round[0].Lifted) || !slices.Equal(x.Flipped, round[0].Flipped) || !slices.Equal(x.LampsOut, round[0].LampsOut) {
					t.Errorf("house %d: something is moved within a round: %v, %v", seed, round[0], x)
				}
				if slices.ContainsFunc(round[:i], func(y trace.RoundTest) bool { return y.Key() == x.Key() }) {
					t.Errorf("house %d: %v twice", seed, x.At)
				}
				if !x.Confirms {
					may := 0
					for _, o := range tr.Outcomes(x.Observation) {
						if o.Worlds > 0 {
							may++
						}
					}
					if may < 2 {
						t.Errorf("house %d: what %v shows is known", seed, x.At)
					}
				}
				test := x.Observation
				if test.Reading, err = h.Answer(test); err != nil {
					t.Fatal(err)
				}
				s.Observations = append(s.Observations, test)
				readings++
			}
		}
		r, err := trace.Trace(context.Background(), s, prefer)
		if err != nil {
			t.Fatal(err)
		}
		if _, wrong := h.Compare(r.Certain()); len(wrong) > 0 {
			t.Errorf("house %d: %v", seed, wrong)
		}
	}
	t.Logf("%d houses, %d done: %.1f rounds, %.1f readings", houses, done, float64(rounds)/houses, float64(readings)/houses)
	if done < houses*3/4 || rounds*2 > readings*3/2 {
		t.Errorf("%d rounds for %d readings, %d done", rounds, readings, done)
	}
}

// TestRoundTest: a test of a round is written as an observation, with what it is for beside.
func TestRoundTest(t *testing.T) {
	text, err := json.Marshal(trace.RoundTest{Observation: circuit.Observation{Power: "off", Instrument: circuit.Continuity}, Confirms: true})
	if err != nil || string(text) != `{"power":"off","instrument":"continuity","confirms":true}` {
		t.Errorf("%s, %v", text, err)
	}
}
