package trace

import (
	"context"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/house"
)

// TestControls: the record says in how many places the light is switched; where that is more
// than the open boxes have, tracing is not done, and says which box to open.
func TestControls(t *testing.T) {
	whole := circuittest.Chain(3)
	h, err := house.New(whole, 5, []string{"b1", "b2"})
	if err != nil {
		t.Fatal(err)
	}
	c := h.Survey()
	r := trace(t, c)
	if r.Done || r.OpenNext == nil || r.OpenNext.Box != "b3" || r.OpenNext.Text == "" {
		t.Errorf("done %t, to open next %+v", r.Done, r.OpenNext)
	}
	for _, f := range r.Cables {
		if f.Odds < 1 {
			continue
		}
		t.Errorf("%v is certain, though a place that nobody recorded may stand between", f)
	}
	three := 2
	c.Controls = &three
	if r = trace(t, c); r.OpenNext != nil && r.OpenNext.Box == "b3" {
		t.Error("the light is switched from the two places that are open, and the third is to be opened")
	}
}

// TestOneOfThree: with one box of three open, white on the common may be line or load, and
// nothing is done before another box is open.
func TestOneOfThree(t *testing.T) {
	c, err := circuit.Parse([]byte(`{"format":"ambivia-circuit/1","practice":"na",
		"boxes":[{"id":"panel","kind":"panel"},{"id":"store","kind":"switch","opened":true},{"id":"loft","kind":"switch"},{"id":"ceil","kind":"fixture"}],
		"cables":[{"id":"p1","ends":["store",null],"cores":["black","red","white","bare"]}],"devices":[{"id":"s1","box":"store","type":"three-way"}],
		"joins":[{"box":"store","of":["p1.white","s1.common"]},{"box":"store","of":["p1.black","s1.t1"]},{"box":"store","of":["p1.red","s1.t2"]},{"box":"store","of":["p1.bare","s1.ground"]}]}`))
	if err != nil {
		t.Fatal(err)
	}
	r := trace(t, c)
	white := r.Roles[at(t, "p1.white@store")[0]]
	if white[electric.Line] == 0 || white[electric.Load] == 0 || r.Roles[at(t, "p1.black@store")[0]][electric.Traveler] == 0 {
		t.Errorf("white is %v", white)
	}
	if r.Done || r.OpenNext == nil || r.OpenNext.Box != "loft" || !strings.Contains(r.OpenNext.Text, "cannot hold your device") {
		t.Errorf("done %t, to open next %+v", r.Done, r.OpenNext)
	}
}

// TestExchangedFeed: polarity is assumed until a reading against ground; one that shows it
// exchanged is a finding, with the roles that the conductors really have, and no
// contradiction.
func TestExchangedFeed(t *testing.T) {
	whole := circuittest.Straight()
	for i, j := range whole.Joins {
		for n, m := range j.Of {
			switch m.String() {
			case "supply.hot":
				whole.Joins[i].Of[n].Part = "neutral"
			case "supply.neutral":
				whole.Joins[i].Of[n].Part = "hot"
			}
		}
	}
	h, err := house.New(whole, 2, []string{"foot", "head"})
	if err != nil {
		t.Fatal(err)
	}
	c := h.Survey()
	if r := trace(t, c); r.Polarity != "unknown" || !slices.ContainsFunc(r.Assumed, func(a Assumption) bool { return strings.Contains(a.Text, "against ground") }) {
		t.Errorf("polarity %s, assumed %v", r.Polarity, r.Assumed)
	}
	white := named(h, "w1", "foot") + ".white@foot"
	o := circuit.Observation{Power: "on", Instrument: circuit.TwoPole, At: at(t, white, strings.Replace(white, "white", "bare", 1))}
	if o.Reading, err = h.Answer(o); err != nil {
		t.Fatal(err)
	}
	c.Observations = []circuit.Observation{o}
	r := trace(t, c)
	if r.Contradiction != nil || r.Polarity != "exchanged" || len(r.Findings) != 1 || r.Findings[0].Code != WarnFeedExchanged {
		t.Fatalf("%v: contradiction %v, polarity %s, findings %v", o.Reading, r.Contradiction, r.Polarity, r.Findings)
	}
	if roles := r.Roles[at(t, white)[0]]; roles[electric.Line] == 0 || roles[electric.Neutral] != 0 {
		t.Errorf("what is live is %v", roles)
	}
}

// TestSecondFeed: what is live while the breaker is off is a finding in its own words, and
// no contradiction.
func TestSecondFeed(t *testing.T) {
	c, h := surveyed(t)
	white := named(h, "w1", "foot") + ".white@foot"
	c.Observations = []circuit.Observation{{Power: "off", Instrument: circuit.NonContact, At: at(t, white), Reading: "live"}}
	r := trace(t, c)
	if r.Contradiction != nil || r.Worlds == 0 || len(r.Findings) != 1 || !strings.Contains(r.Findings[0].Text, "STOP: a second feed is in") || r.Findings[0].At[0] != at(t, white)[0] {
		t.Errorf("%d worlds, contradiction %v, findings %+v", r.Worlds, r.Contradiction, r.Findings)
	}
}

// TestCannot: no test is asked of a kind that the person cannot make.
func TestCannot(t *testing.T) {
	for _, inability := range []string{circuit.CannotLive, circuit.CannotLampOut, circuit.CannotLadder, circuit.CannotSecondPerson} {
		c, h := surveyed(t)
		c.Cannot = []string{inability}
		for range 20 {
			r := trace(t, c)
			if r.Next == nil {
				break
			}
			o := r.Next.Test
			if slices.Contains(r.Next.Needs, inability) {
				t.Fatalf("%s, and the next round needs it: %s", inability, r.Next.Text)
			}
			boxes := map[string]bool{}
			for _, e := range o.At {
				boxes[e.Box] = true
			}
			switch {
			case inability == circuit.CannotLive && o.Power == "on", inability == circuit.CannotLampOut && len(o.LampsOut) > 0,
				inability == circuit.CannotLadder && boxes[""], inability == circuit.CannotSecondPerson && len(boxes) > 1:
				t.Fatalf("%s, and the next test is %s", inability, r.Next.Text)
			}
			var err error
			if o.Reading, err = h.Answer(o); err != nil {
				t.Fatal(err)
			}
			c.Observations = append(c.Observations, o)
		}
	}
}

// TestAccepted: what a person accepts counts as its role, and stays assumed.
func TestAccepted(t *testing.T) {
	c, h := surveyed(t)
	line := at(t, named(h, "w1", "foot")+".black@foot")[0]
	c.Accepted = []circuit.Accepted{{End: line, As: "line", Odds: circuittest.Float(0.97)}}
	r := trace(t, c)
	if roles := r.Roles[line]; len(roles) != 1 || roles[electric.Line] != 1 {
		t.Errorf("accepted as line, it is %v", roles)
	}
	if !slices.ContainsFunc(r.Assumed, func(a Assumption) bool { return strings.Contains(a.Text, "taken as line") && a.At[0] == line }) {
		t.Errorf("assumed: %v", r.Assumed)
	}
}

// TestLight: where there are several lights, a look names the one looked at.
func TestLight(t *testing.T) {
	for seed := range uint64(4) {
		h, s := surveyOf(t, circuittest.Kinds()[6], seed)
		tr, err := New(context.Background(), s)
		if err != nil {
			t.Fatal(err)
		}
		for range 12 {
			o, ok, err := tr.Next(context.Background(), Trips)
			if err != nil {
				t.Fatal(err)
			}
			if !ok {
				break
			}
			if o.Instrument == circuit.LampLook && o.Light == "" {
				t.Fatalf("house %d: look at the light, and which is not said", seed)
			}
			if o.Reading, err = h.Answer(o); err != nil {
				t.Fatal(err)
			}
			tr.Observe(o)
		}
	}
}

// TestSameNext: the same file has the same next test, every time.
func TestSameNext(t *testing.T) {
	for seed := range uint64(3) {
		c := hiddenHouse(t, seed, 3).Survey()
		first := trace(t, c)
		for range 2 {
			if again := trace(t, c); (again.Next == nil) != (first.Next == nil) || first.Next != nil && again.Next.Text != first.Next.Text {
				t.Fatalf("house %d: %s, then %s", seed, first.Next.Text, again.Next.Text)
			}
		}
	}
}

// TestTenControls: ten controls whose cables nobody knows are answered with one line, and soon.
func TestTenControls(t *testing.T) {
	h, err := house.New(circuittest.Chain(10), 1, nil)
	if err != nil {
		t.Fatal(err)
	}
	_, err = New(context.Background(), h.Survey())
	if e, ok := err.(*Error); !ok || e.Code != "too-many-worlds" || strings.Contains(e.Text, "\n") {
		t.Errorf("ten controls: %v", err)
	}
}

// TestPutBack: after each reading the answer says how to leave all as it was found, of every screw that is lifted and every lamp
// that is out; where nothing is moved there is nothing to put back.
func TestPutBack(t *testing.T) {
	c, h := surveyed(t)
	lifted := 0
	for range 25 {
		r := trace(t, c)
		var last circuit.Observation
		if n := len(c.Observations); n > 0 {
			last = c.Observations[n-1]
		}
		if moved := len(last.Lifted)+len(last.Tied)+len(last.LampsOut) > 0; moved != (len(r.PutBack) > 0) {
			t.Errorf("moved %t, put back %v", moved, r.PutBack)
		}
		all := strings.Join(r.PutBack, " ")
		if len(last.Lifted) > 0 {
			lifted++
			if !strings.Contains(all, "Put back under their screws: ") {
				t.Errorf("the wires that are lifted are not put back: %v", r.PutBack)
			}
		}
		if len(last.LampsOut) > 0 && !strings.Contains(all, "Put the lamp back") {
			t.Errorf("the lamp stays out: %v", r.PutBack)
		}
		if len(r.PutBack) > 0 && last.Power == "on" && !strings.HasPrefix(r.PutBack[0], "Breaker off") {
			t.Errorf("hands go in with the power on: %v", r.PutBack)
		}
		if r.Next == nil {
			break
		}
		test := r.Next.Test
		var err error
		if test.Reading, err = h.Answer(test); err != nil {
			t.Fatal(err)
		}
		c.Observations = append(c.Observations, test)
	}
	if lifted == 0 {
		t.Error("nothing was ever lifted")
	}
}
