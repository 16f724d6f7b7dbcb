package house_test

import (
	"context"
	"errors"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/fitting"
	"ambivia/core/house"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/record"
	"ambivia/core/rehearsal"
	"ambivia/core/retrofit"
)

// fitted carries one plan out in the true walls as its steps say, one by one, presses what proves it, and
// holds the record against what happened.
type fittedWork struct {
	t      *testing.T
	name   string
	h      *house.House
	found  *inspect.Compiled // the circuit that was planned on
	option *retrofit.Option
	log    []fitting.Entry
}

// counts of what was done in all houses of a kind.
type works struct{ fitted, steps, presses, mistakes, shown, metered, claims, promises int }

func (w *fittedWork) errorf(format string, args ...any) {
	w.t.Helper()
	w.t.Errorf("%s, %s: "+format, append([]any{w.name, w.option.ID}, args...)...)
}

func (w *fittedWork) add(e fitting.Entry) {
	e.Number, e.Time = len(w.log)+1, time.Date(2026, 12, 1, 8, len(w.log), 0, 0, time.UTC)
	w.log = append(w.log, e)
}

// trips reports whether the breaker trips in a state that presses lead to, once somebody puts it on.
func trips(c *circuit.Circuit) bool {
	n := electric.New(c)
	tripped := false
	n.Reach([]electric.State{n.Initial()}, func(here *electric.Solution, _ []int32) { tripped = tripped || here.Tripped })
	return tripped
}

// steps does them one by one; false where the walls stop the work: a closed box is not as recorded.
func (w *fittedWork) steps(f *works) bool {
	w.add(fitting.Entry{Kind: fitting.Begin, Began: fitting.Began{Run: fitting.Read(nil).NewRun(w.found, w.option, device.NewLibrary(nil), nil, 1, nil)}})
	was := trips(w.h.Truth())
	for range 800 {
		s := fitting.Read(w.log)
		if s.Now == 0 {
			break
		}
		step := s.Run.Steps[s.Now-1]
		if step.Metal && s.Power != "off" {
			w.errorf("step %d, %s, touches metal while the power may be on", step.Number, step.Text)
		}
		if b := s.Steps[s.Now-1].Barred; b != "" {
			w.errorf("step %d cannot be done: %s", step.Number, b)
			return false
		}
		e := fitting.Entry{Kind: fitting.Done, OfSteps: fitting.OfSteps{Steps: []int{step.Number}, Asked: step.Asks}}
		w.add(e)
		f.steps++
		if len(step.Edits) == 0 {
			continue
		}
		stands, err := fitting.Read(w.log).Stands()
		if err != nil {
			w.errorf("step %d: %v", step.Number, err)
			return false
		}
		built, err := w.h.Build(w.found.Doc, stands)
		var unlike *house.NotAsRecordedError
		if errors.As(err, &unlike) {
			return false
		}
		if err != nil {
			w.errorf("after step %d: %v", step.Number, err)
			return false
		}
		if !was && trips(built) {
			w.errorf("after step %d, %s, the breaker trips if somebody puts it on", step.Number, step.Text)
			return false
		}
	}
	if s := fitting.Read(w.log); !s.Over {
		w.errorf("the steps do not end: %d of %d", s.Now, len(s.Steps))
		return false
	}
	f.fitted++
	return true
}

// presses goes through a proof at a circuit that stands with its light switched off, and writes down what is seen.
func (w *fittedWork) presses(n *electric.Network, presses []string, f *works) {
	at := n.Initial()
	for _, bit := range n.MechanicalBits() {
		if w.h.Truth() != nil && len(w.log)%2 == 0 {
			at |= bit
		}
	}
	look := func(press string) {
		lamps, solved := map[string]string{}, n.Solve(at)
		for i, id := range n.LampIDs() {
			lamps[id] = map[bool]string{true: "lit", false: "dark"}[solved.Lit(i)]
			if solved.Tripped {
				lamps[id] = "trip"
			}
		}
		w.add(fitting.Entry{Kind: fitting.Press, Pressed: fitting.Pressed{Press: press, Lamps: lamps}})
	}
	look("")
	for _, id := range presses {
		if !n.Solve(at).Tripped {
			at, _ = n.Press(at, id, nil)
		}
		look(id)
		f.presses++
	}
}

// mistaken is the plan with two conductors of one box exchanged, nil where no box has two.
func (w *fittedWork) mistaken(rng *rand.Rand) (*circuit.Circuit, prove.Mistake) {
	var ends []circuit.End
	for _, x := range w.option.Changes { // only moved conductors can be exchanged
		if e := x.End; e.Box != "" && !circuit.GroundColour(e.Part) && w.option.After.JoinOf(e.Box, e.Ref) >= 0 {
			ends = append(ends, e)
		}
	}
	if len(ends) < 2 {
		return nil, prove.Mistake{}
	}
	for range 20 {
		a, b := ends[rng.IntN(len(ends))], ends[rng.IntN(len(ends))]
		if a.Box != b.Box || a == b || w.option.After.JoinOf(a.Box, a.Ref) == w.option.After.JoinOf(b.Box, b.Ref) {
			continue
		}
		m := prove.Mistake{Kind: prove.Swap, Ends: []circuit.End{a, b}}
		if wrong, err := prove.Made(w.found.Doc, w.option, m); err == nil {
			return wrong, m
		}
	}
	return nil, prove.Mistake{}
}

// prove presses through the right work, and in one house of three through work with a mistake in it, which must be
// found; it returns how far it is proved.
func (w *fittedWork) prove(rng *rand.Rand, f *works) *record.Proved {
	ctx := context.Background()
	proof, err := prove.Sequence(ctx, w.found.Doc, w.option)
	if err != nil {
		return nil // too many switches
	}
	built, err := w.h.Build(w.found.Doc, w.option.After)
	if err != nil {
		w.errorf("%v", err)
		return nil
	}
	if wrong, m := w.mistaken(rng); wrong != nil && rng.IntN(3) == 0 {
		w.mistake(built, wrong, m, proof, f)
	}
	w.presses(electric.New(built), proof.Presses, f)
	proved, err := record.HowFar(ctx, w.found.Doc, w.option, proof, fitting.Read(w.log))
	if err != nil {
		w.errorf("%v", err)
		return nil
	}
	if !proved.Right {
		w.errorf("right work is called faulty")
	}
	return proved
}

// mistake builds one in, and holds that presses or a reading show it, or that it does no harm.
func (w *fittedWork) mistake(right, planned *circuit.Circuit, m prove.Mistake, proof *prove.Proof, f *works) {
	ctx := context.Background()
	wrong, err := w.h.Build(w.found.Doc, planned)
	if err != nil {
		return
	}
	f.mistakes++
	log := w.log
	defer func() { w.log = log }()
	w.log = slices.Clone(w.log)
	w.presses(electric.New(wrong), proof.Presses, f)
	seen := record.Seen(fitting.Read(w.log))
	fits, off, err := prove.FitsFrom(ctx, w.found.Doc, w.option, seen)
	if err != nil {
		w.errorf("%v", err)
		return
	}
	switch {
	case !fits:
		d, err := prove.Diagnose(ctx, w.found.Doc, w.option, seen)
		if err != nil {
			w.errorf("%v", err)
			return
		}
		// Behind walls that are not quite as recorded a mistake may show itself otherwise than the record lets one
		// think; where it does as the record says, it must be among what explains it.
		made, err := prove.Made(w.found.Doc, w.option, m)
		if err != nil {
			w.errorf("%v", err)
			return
		}
		if like, err := prove.Fits(ctx, made, nil, seen); err == nil && like && !slices.ContainsFunc(d.Mistakes, func(s prove.Suspect) bool { return sameSwap(s.Mistake, m) }) {
			w.errorf("%v is not among what explains it: %s", m.Ends, d.Text)
		}
		f.shown++
	case !off:
		f.shown++ // the light cannot be switched off as it should, which ends the proof
	case slices.ContainsFunc(proof.Tests(), func(x prove.MeterTest) bool { return w.contrary(wrong, x) }):
		f.metered++
	default: // it must be the same as right
		if harm := faults(w.option.After, wrong, right); len(harm) > 0 {
			w.errorf("%v is shown by no press and by no reading, and does harm: %v", m.Ends, harm)
		}
	}
}

// contrary reports whether a reading of a proof, made in true walls with all lamps dark that can be, is not what right
// work shows.
func (w *fittedWork) contrary(wrong *circuit.Circuit, x prove.MeterTest) bool {
	o, ok := w.h.Seen(w.found.Doc, x.Test)
	if !ok {
		return false // at an end in a closed box
	}
	under := electric.Conditions{}
	for _, r := range o.Lifted {
		under.Lifted = append(under.Lifted, circuit.End{Ref: r})
	}
	for _, d := range wrong.Devices {
		switch {
		case d.Type == circuit.TypeSupply && o.Power == "off":
			under.BreakersOff = append(under.BreakersOff, d.ID)
		case d.Type == circuit.TypeLamp && o.Power == "off":
			under.LampsOut = append(under.LampsOut, d.ID)
		}
	}
	n := electric.NewUnder(wrong, under)
	a, b := w.h.True(o.At[0]), w.h.True(o.At[1])
	least := len(n.LampIDs()) + 1
	var off []*electric.Solution
	for bits, s := n.Bits(), electric.State(0); s < 1<<len(bits); s++ {
		at := electric.State(0)
		for i, bit := range bits {
			if s>>i&1 == 1 {
				at |= bit
			}
		}
		solved, lit := n.Solve(at), 0
		for i := range n.LampIDs() {
			if solved.Lit(i) {
				lit++
			}
		}
		switch {
		case o.Power == "on" && lit > least:
			continue
		case o.Power == "on" && lit < least:
			least, off = lit, nil
		}
		off = append(off, solved)
	}
	return !slices.ContainsFunc(off, func(s *electric.Solution) bool {
		if o.Power == "off" {
			return s.Together(a, b) == (x.Right == "closed")
		}
		u, known := s.Volts(a)
		v, also := s.Volts(b)
		return !known || !also || prove.Agrees(x.Right, math.Abs(u-v))
	})
}

func sameSwap(a, b prove.Mistake) bool {
	return a.Kind == b.Kind && len(a.Ends) == 2 && (slices.Equal(a.Ends, b.Ends) || a.Ends[0] == b.Ends[1] && a.Ends[1] == b.Ends[0])
}

// claims holds each claim of the record against the log and the walls.
func (w *fittedWork) claims(proved *record.Proved, rng *rand.Rand, f *works) {
	sets, err := automation.For(context.Background(), w.option, nil)
	if err != nil {
		w.t.Fatal(err)
	}
	var made *automation.Set
	if len(sets) > 0 {
		made = &sets[rng.IntN(len(sets))]
	}
	c := record.Of(record.Source{Found: w.found, Option: w.option, Library: device.NewLibrary(nil), Log: w.log, Proved: proved, Made: made})
	w.promises(c.Claims(), made, f)
	if c.Became != record.AsPlanned {
		w.errorf("all steps are done, and the record says %s", c.Is())
	}
	kinds := map[string]string{}
	for _, x := range c.Claims() {
		f.claims++
		if kinds[x.What] != "" && kinds[x.What] != x.Kind {
			w.errorf("%s is claimed as %s and as %s", x.What, kinds[x.What], x.Kind)
		}
		kinds[x.What] = x.Kind
		if x.Entry == nil {
			continue
		}
		e := w.log[*x.Entry-1]
		want := map[string][]fitting.Kind{
			record.Pressed: {fitting.Press}, record.Done: {fitting.Done}, record.Confirmed: {fitting.Done}, record.Measured: {fitting.Done, fitting.Reading},
		}[x.Kind]
		if !slices.Contains(want, e.Kind) {
			w.errorf("%s is claimed as %s by an entry of kind %s", x.What, x.Kind, e.Kind)
		}
	}
	// Where a cable runs is said to be measured only where it truly runs so.
	truth := electric.New(w.h.Truth())
	for _, e := range w.found.Doc.Evidence {
		k := w.found.Doc.Cable(e.Of)
		if e.How != circuit.Measured || k == nil || k.Stub() {
			continue
		}
		for _, core := range k.Cores {
			var classes []int
			for _, box := range k.Ends {
				end := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box}
				if to, ok := w.h.Seen(w.found.Doc, circuit.Observation{At: []circuit.End{end}}); ok {
					classes = append(classes, truth.Class(w.h.True(to.At[0])))
				}
			}
			if len(classes) == 2 && classes[0] != classes[1] {
				w.errorf("%s of cable %s is said to be measured, and is not one conductor", core, k.ID)
			}
		}
	}
}

// promises holds what the record promises against the rules, played in the true walls.
func (w *fittedWork) promises(claims []record.Claim, made *automation.Set, f *works) {
	planned := w.option.After
	if made != nil {
		planned = made.Doc
	}
	built, err := w.h.Build(w.found.Doc, planned)
	if err != nil {
		w.errorf("%v", err)
		return
	}
	played, err := rehearsal.Rehearse(context.Background(), built)
	if err != nil {
		w.t.Fatal(err)
	}
	for _, x := range claims {
		if x.Kind != record.Promised {
			continue
		}
		f.promises++
		said := strings.Fields(x.What)
		if said[0] == "scenes" {
			rules := built.Automation != nil && slices.ContainsFunc(built.Automation.Rules, func(r circuit.Rule) bool {
				return r.When.Device == said[1] && strings.ContainsAny(r.When.Event, "2345")
			})
			if !rules && (made == nil || made.Kind != automation.Direct) {
				w.errorf("%q is claimed, and no rule does it", x.Text)
			}
			continue
		}
		down := map[string]string{"hub": "hub", "internet": "cloud"}[said[1]]
		for _, out := range played.Outages {
			if out.Down == down && !slices.ContainsFunc(w.option.Places, func(q retrofit.Place) bool {
				works, asked := out.Works[q.Device]
				return q.Box == said[2] && (works || !asked)
			}) {
				w.errorf("%q is claimed, and the rules do not hold it", x.Text)
			}
		}
	}
}

// fit does all that with one of the plans that fit, chosen at random.
func (f *chain) fit(t *testing.T, name string, h *house.House, found *inspect.Compiled, options []*retrofit.Option, rng *rand.Rand) {
	if len(options) == 0 {
		return
	}
	o := options[rng.IntN(len(options))]
	base := o.PlannedOn(found)
	w := &fittedWork{t: t, name: name, h: h, found: base, option: procedure.Offer(base, retrofit.Request{}, o.ID)}
	if w.option == nil {
		w.option = o.AsPlanned()
	}
	if !w.steps(&f.works) {
		return
	}
	w.claims(w.prove(rng, &f.works), rng, &f.works)
}
