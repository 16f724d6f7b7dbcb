package trace

import (
	"ambivia/core/circuittest"
	"ambivia/core/circuit"
	"ambivia/core/house"
	"context"
	"math/rand/v2"
	"os"
	"strconv"
	"testing"
	"time"
)

func TestZZ(t *testing.T) {
	n, _ := strconv.Atoi(os.Getenv("SW"))
	count, _ := strconv.Atoi(os.Getenv("N"))
	if n == 0 {
		t.Skip()
	}
	walks, tests, open, wrong := 0, 0, 0, 0
	for seed := range uint64(count) {
		h := hiddenHouse(t, seed, n)
		start := time.Now()
		tr, err := New(context.Background(), h.Survey())
		if err != nil {
			t.Errorf("house %d: %v", seed, err)
			continue
		}
		tr.Next(context.Background(), Dead)
		first := time.Since(start)
		start = time.Now()
		sv := h.Survey(); sv.Confirm = os.Getenv("CONF"); r := play(t, h, sv, Prefer(cmpOr(os.Getenv("PREF"), "dead")))
		if os.Getenv("V") != "" {
			t.Logf("house %d: frames %d first %v, all %v: done %t wrong %t walks %d tests %d", seed, len(tr.frames), first.Round(time.Millisecond), time.Since(start).Round(time.Millisecond), r.done, r.wrong, r.walks, r.tests)
			if os.Getenv("V") == "2" {
				for _, o := range r.tracer.made {
					t.Logf("     %s %v lift %v flip %v tied %v out %v: %s %v = %v", o.Power, "", o.Lifted, o.Flipped, o.Tied, o.LampsOut, o.Instrument, o.At, o.Reading)
				}
			}
		}
		walks += r.walks
		tests += r.tests
		if !r.done {
			open++
			if os.Getenv("V") == "2" {
				for e, x := range r.tracer.Odds() {
					if len(x) > 1 {
						t.Logf("   open %v %v", e, x)
					}
				}
			}
		}
		if r.wrong {
			wrong++
			t.Errorf("house %d wrong", seed)
		}
	}
	t.Logf("%d switches %d houses: walks %.2f tests %.2f open %d wrong %d", n, count, float64(walks)/float64(count), float64(tests)/float64(count), open, wrong)
}

func TestYY(t *testing.T) {
	n, _ := strconv.Atoi(os.Getenv("SW"))
	seed, _ := strconv.Atoi(os.Getenv("SEED"))
	if n == 0 {
		t.Skip()
	}
	h := hiddenHouse(t, uint64(seed), n)
	c := h.Truth()
	for _, k := range c.Cables {
		e := []string{"-", "-"}
		for i := range k.Ends {
			if k.Ends[i] != nil {
				e[i] = *k.Ends[i]
			}
		}
		t.Log(k.ID, e, k.Cores)
	}
	for _, j := range c.Joins {
		t.Log(j.Box, j.Of)
	}
	s := h.Survey()
	for _, j := range s.Joins {
		t.Log("  seen", j.Box, j.Of)
	}
	tr, _ := New(context.Background(), s)
	for range 50 {
		o, ok, _ := tr.Next(context.Background(), Dead)
		if !ok {
			break
		}
		o.Reading, _ = h.Answer(o)
		n, fits := 0, 0
		for _, r := range tr.roles() {
			n += max(0, len(r)-1)
		}
		for _, f := range tr.frames {
			if f.fits {
				fits++
			}
		}
		t.Logf("  [%d alternatives %d frames %d worlds]   %s lift %v flip %v tied %v: %s %v = %v", n, fits, len(tr.worlds()), o.Power, o.Lifted, o.Flipped, o.Tied, o.Instrument, o.At, o.Reading)
		if os.Getenv("ODDS") != "" && n < 12 {
			for e, x := range tr.Odds() {
				if len(x) > 1 {
					t.Logf("      %v %v", e, x)
				}
			}
		}
		tr.Observe(o)
	}
	for e, x := range tr.Odds() {
		if len(x) > 1 {
			t.Logf("      END %v %v", e, x)
		}
	}
	for _, w := range tr.worlds() {
		t.Logf("      END %v %v combos %v weight %v", w.f.labels, w.nets, w.combinations, w.weight)
	}
	c2 := tr.chooser(Dead, tr.worlds())
	for _, on := range []bool{false, true} {
		for _, l := range c2.liftings() {
			p := c2.phase(on, l)
			t.Logf("phase %v %v: best %d tests %d cost %v reads %v unsure %v open %v", on, l, p.best, len(p.tests), p.cost, p.reads, p.unsure, c2.open())
		}
	}
}

func TestXX(t *testing.T) {
	n, _ := strconv.Atoi(os.Getenv("SW"))
	count, _ := strconv.Atoi(os.Getenv("N"))
	if n == 0 {
		t.Skip()
	}
	var a, b, c time.Duration
	for seed := range uint64(count) {
		h := hiddenHouse(t, seed, n)
		s := h.Survey()
		start := time.Now()
		v, _ := newView(s)
		ps, err := v.patterns()
		if err != nil {
			t.Fatal(err)
		}
		routes, free := 0, 0
		for i := range ps {
			r := v.routes(&ps[i], hidden, max(leastSteps, mostSteps/len(ps)))
			routes += len(r)
		}
		d1 := time.Since(start)
		a += d1
		start = time.Now()
		tr, err := New(context.Background(), s)
		if err != nil {
			continue
		}
		free = len(tr.frames[0].free)
		d2 := time.Since(start)
		b += d2
		start = time.Now()
		tr.Next(context.Background(), Dead)
		d3 := time.Since(start)
		c += d3
		t.Logf("house %d: stubs %d patterns %d routes %d free %d: routes %v new %v next %v", seed, len(v.stubs), len(ps), routes, free, d1, d2, d3)
	}
	t.Log(a/time.Duration(count), b/time.Duration(count), c/time.Duration(count))
}

func TestWW(t *testing.T) {
	n, _ := strconv.Atoi(os.Getenv("SW"))
	seed, _ := strconv.Atoi(os.Getenv("SEED"))
	if n == 0 {
		t.Skip()
	}
	h := hiddenHouse(t, uint64(seed), n)
	tr, _ := New(context.Background(), h.Survey())
	c := tr.chooser(Dead, tr.worlds())
	for i, w := range c.worlds {
		if i < 40 {
			t.Logf("world %d %.5f stake %.4f same %d: pol %v labels %v nets %v combos %d", i, w.weight, c.stake[i], w.same, w.f.polarity, w.f.labels, w.nets, len(w.combinations))
		}
	}
	for _, l := range c.liftings() {
		p := c.phase(false, l)
		t.Logf("lift %v cost %.1f reads %.1f unsure %.3f", l, p.cost, p.reads, p.unsure)
		for k := range p.tests {
			g := c.informationGain(&p.tests[k])
			if g > 0.1 {
				t.Logf("   %.3f / %.1f flip %v tied %d %v", g, p.tests[k].cost, p.tests[k].test.Flipped, len(p.tests[k].test.Tied), p.tests[k].test.At)
			}
		}
	}
}

func cmpOr(a, b string) string {
	if a != "" {
		return a
	}
	return b
}

func TestVV(t *testing.T) {
	data := `{"format":"ambivia-circuit/1","practice":"na","boxes":[{"id":"panel","kind":"panel"},{"id":"b1","kind":"switch"},{"id":"b2","kind":"switch"},{"id":"b3","kind":"switch"},{"id":"light","kind":"fixture"}],
"cables":[{"id":"w0","ends":["panel","light"],"cores":["black","white","bare"]},{"id":"w1","ends":["light","b1"],"cores":["black","white","bare"]},{"id":"w2","ends":["b1","b2"],"cores":["black","red","white","bare"]},{"id":"w3","ends":["b2","b3"],"cores":["black","red","white","bare"]}],
"devices":[{"id":"supply","box":"panel","type":"supply"},{"id":"s1","box":"b1","type":"three-way"},{"id":"s2","box":"b2","type":"four-way"},{"id":"s3","box":"b3","type":"three-way"},{"id":"lamp1","box":"light","type":"lamp"}],
"joins":[{"box":"panel","of":["w0.black","supply.hot"]},{"box":"panel","of":["w0.white","supply.neutral"]},{"box":"panel","of":["w0.bare","supply.ground"]},
{"box":"light","of":["w0.black","w1.white"]},{"box":"light","of":["w0.white","lamp1.n"]},{"box":"light","of":["w1.black","lamp1.l"]},{"box":"light","of":["w0.bare","w1.bare","lamp1.ground"]},
{"box":"b1","of":["w1.white","s1.common"]},{"box":"b1","of":["w1.black","w2.black"]},{"box":"b1","of":["w2.red","s1.t1"]},{"box":"b1","of":["w2.white","s1.t2"]},{"box":"b1","of":["w1.bare","w2.bare","s1.ground"]},
{"box":"b2","of":["w2.black","w3.black"]},{"box":"b2","of":["w2.red","s2.a1"]},{"box":"b2","of":["w2.white","s2.a2"]},{"box":"b2","of":["w3.red","s2.b1"]},{"box":"b2","of":["w3.white","s2.b2"]},{"box":"b2","of":["w2.bare","w3.bare","s2.ground"]},
{"box":"b3","of":["w3.black","s3.common"]},{"box":"b3","of":["w3.red","s3.t1"]},{"box":"b3","of":["w3.white","s3.t2"]},{"box":"b3","of":["w3.bare","s3.ground"]}]}`
	c, err := circuit.Parse([]byte(data))
	if err != nil {
		t.Fatal(err)
	}
	for seed := range uint64(6) {
		h, err := house.New(c, seed, nil)
		if err != nil {
			t.Fatal(err)
		}
		sv := h.Survey(); sv.Confirm = os.Getenv("CONF"); r := play(t, h, sv, Dead)
		t.Logf("seed %d: done %t wrong %t walks %d tests %d", seed, r.done, r.wrong, r.walks, r.tests)
		r = play(t, h, h.Survey(), Trips)
		t.Logf("seed %d: done %t wrong %t walks %d tests %d", seed, r.done, r.wrong, r.walks, r.tests)
	}
}

func TestUU(t *testing.T) {
	c, _ := surveyed(t)
	tr, _ := New(context.Background(), c)
	root, _ := tr.Tree(context.Background(), Dead, func(o circuit.Observation) string { return sameTest(o) }, nil)
	var show func(n *Node, depth string)
	show = func(n *Node, depth string) {
		if n.Test == nil {
			t.Log(depth, "END done", n.Done, n.Worlds)
			return
		}
		t.Log(depth, n.Text, n.Worlds)
		for _, b := range n.Branches {
			t.Log(depth, " =", b.Reading, b.Odds)
			show(b.Then, depth+"   ")
		}
	}
	show(root, "")
}

func TestTT(t *testing.T) {
	c, err := circuit.Read(must(os.Open(os.Getenv("FILE"))))
	if err != nil {
		t.Fatal(err)
	}
	h, err := house.New(c, 7, nil)
	if err != nil {
		t.Fatal(err)
	}
	s := h.Survey()
	roles := trueRoles(h)
	tr, err := New(context.Background(), s)
	if err != nil {
		t.Fatal(err)
	}
	for range 60 {
		odds := tr.Odds()
		for e, r := range roles {
			if odds[e][r] == 0 && r != "ground" {
				t.Errorf("%v is %v, not in %v", e, r, odds[e])
			}
		}
		if t.Failed() {
			return
		}
		start := time.Now()
		o, ok, err := tr.Next(context.Background(), Dead)
		if err != nil {
			t.Fatal(err)
		}
		if !ok {
			break
		}
		if o.Reading, err = h.Answer(o); err != nil {
			t.Fatal(err)
		}
		t.Logf("%s lift %v flip %v tied %v: %s %v %s = %v    %v", o.Power, len(o.Lifted), o.Flipped, o.Tied, o.Instrument, o.At, o.Light, o.Reading, time.Since(start))
		tr.Observe(o)
	}
	t.Log(tr)
}

func must(f *os.File, err error) *os.File { return f }

func TestSS(t *testing.T) {
	c, err := circuit.Read(must(os.Open(os.Getenv("FILE"))))
	if err != nil {
		t.Fatal(err)
	}
	h, _ := house.New(c, 7, nil)
	v, _ := newView(h.Survey())
	ps, err := v.patterns()
	t.Log(len(ps), err, len(v.stubs), len(v.lamps))
	for i := range ps {
		r := v.routes(&ps[i], hidden, 5000)
		f, err := v.frameOf(&ps[i], r)
		if ps[i].weight >= 0.9 {
			t.Log(ps[i].labels, ps[i].lampL, ps[i].weight, len(r), r, f == nil, err)
		}
	}
}

func TestRR(t *testing.T) {
	for _, seed := range []uint64{32, 38, 57, 107} {
		h := hiddenHouse(t, seed+5000, 2)
		tr, _ := New(context.Background(), h.Survey())
		rng := rand.New(rand.NewPCG(seed, 9))
		for range 4 {
			o := anyTest(rng, h.Survey())
			o.Reading, _ = h.Answer(o)
			tr.Observe(o)
			t.Logf("%d: %s lift %v flip %v out %v: %s %v = %v -> possible %v second %v", seed, o.Power, o.Lifted, o.Flipped, o.LampsOut, o.Instrument, o.At, o.Reading, tr.possible(), tr.second(o))
			if !tr.possible() {
				for _, j := range h.Survey().Joins {
					t.Log(j.Box, j.Of)
				}
				for _, j := range h.Truth().Joins {
					t.Log("    ", j.Box, j.Of)
				}
				break
			}
		}
	}
}

func TestQQ(t *testing.T) {
	h := hiddenHouse(t, 5000, 5)
	start := time.Now()
	v, _ := newView(h.Survey())
	ps, err := v.patterns()
	t.Log(len(ps), err, time.Since(start))
	start = time.Now()
	for i := range ps {
		v.routes(&ps[i], hidden, max(leastSteps, mostSteps/len(ps)))
	}
	t.Log("routes", time.Since(start))
	start = time.Now()
	for i := range ps {
		v.routes(&ps[i], plain, leastSteps)
	}
	t.Log("plain", time.Since(start))
	start = time.Now()
	tr, err := New(context.Background(), h.Survey())
	t.Log("new", time.Since(start), err)
	if err != nil {
		return
	}
	for range 3 {
		start = time.Now()
		o, ok, err := tr.Next(context.Background(), Dead)
		t.Log("next", time.Since(start), ok, err)
		o.Reading, _ = h.Answer(o)
		start = time.Now()
		tr.Observe(o)
		t.Log("observe", time.Since(start), len(tr.frames))
	}
}

func TestPP(t *testing.T) {
	for _, x := range []struct {
		kind string
		seed uint64
	}{{"two lights", 7}} {
		for _, k := range circuittest.Kinds() {
			if k.Name != x.kind {
				continue
			}
			h, s := surveyOf(t, k, x.seed)
			t.Log("=====", x)
			for _, c := range h.Truth().Cables {
				e := []string{"-", "-"}
				for i := range c.Ends {
					if c.Ends[i] != nil {
						e[i] = *c.Ends[i]
					}
				}
				t.Log(c.ID, e, c.Cores)
			}
			for _, j := range h.Truth().Joins {
				t.Log("   ", j.Box, j.Of)
			}
			for _, j := range s.Joins {
				t.Log("   seen", j.Box, j.Of)
			}
			tr, _ := New(context.Background(), s)
			for _, f := range tr.frames {
				if f.pattern.weight > 0.9 {
					t.Log(f.labels, f.free, len(f.ways), f.domain, f.support)
				}
			}
			t.Log(tr.rule)
		}
	}
}

func TestOO(t *testing.T) {
	start, _ := strconv.Atoi(os.Getenv("FROM"))
	n, _ := strconv.Atoi(os.Getenv("N"))
	for _, k := range circuittest.Kinds() {
		if os.Getenv("KIND") != "" && os.Getenv("KIND") != k.Name || n == 0 {
			continue
		}
		wrong, clash := 0, 0
		for seed := range uint64(n) {
			seed += uint64(start)
			h, s := surveyOf(t, k, seed)
			tr, err := New(context.Background(), s)
			if err != nil {
				continue
			}
			roles := trueRoles(h)
			rng := rand.New(rand.NewPCG(seed, 9))
		steps:
			for range 3 {
				odds := tr.Odds()
				for e, r := range roles {
					if odds[e][r] == 0 && r != "ground" && k.Name != "feed exchanged" {
						if tr.possible() {
							wrong++
						} else {
							clash++
						}
						t.Logf("%s %d: %v is %v not in %v rule %v", k.Name, seed, e, r, odds[e], tr.rule)
						break steps
					}
				}
				o := anyTest(rng, s)
				if o.Reading, err = h.Answer(o); err != nil {
					break
				}
				tr.Observe(o)
			}
		}
		t.Logf("%s: wrong %d clash %d of %d", k.Name, wrong, clash, n)
	}
}

func TestNN(t *testing.T) {
	for _, k := range circuittest.Kinds() {
		if k.Name != "second feed in a ring" {
			continue
		}
		for _, seed := range []uint64{36, 50, 72} {
			_ = seed
			h, s := surveyOf(t, k, seed)
			tr, _ := New(context.Background(), s)
			rng := rand.New(rand.NewPCG(seed, 9))
			for range 3 {
				o := anyTest(rng, s)
				o.Reading, _ = h.Answer(o)
				tr.Observe(o)
				t.Logf("%d %s lift %v flip %v out %v: %s %v %s= %v -> %v", seed, o.Power, o.Lifted, o.Flipped, o.LampsOut, o.Instrument, o.At, o.Light, o.Reading, tr.possible())
				if !tr.possible() {
					for _, j := range s.Joins {
						t.Log(j.Box, j.Of)
					}
					break
				}
			}
		}
	}
}
