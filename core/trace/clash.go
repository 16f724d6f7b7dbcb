package trace

import (
	"context"
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// Contradiction says that no circuit shows all that was recorded and read: the
// smallest set that clashes, and what to look at again first.
type Contradiction struct {
	Text string `json:"text"`
	// Readings are positions in the document's observations.
	Readings []int `json:"readings"`
	// Reports are positions in what the customer said.
	Reports []int `json:"reports"`
	// Accepted are positions among the conductors that a person took for what nobody measured.
	Accepted []int `json:"accepted"`
	// Records are what was noted of boxes, in words.
	Records []string `json:"records"`
	// Recheck is what to make again or look at again first, in words.
	Recheck string `json:"recheck"`
}

// Clash finds the smallest set of readings and records that cannot all be true, or nil
// where some world is left.
func Clash(ctx context.Context, c *circuit.Circuit) (*Contradiction, error) {
	if ok, err := fits(ctx, c); ok || err != nil {
		return nil, err
	}
	for _, why := range []func(context.Context, *circuit.Circuit) (*Contradiction, error){acceptedClash, reportClash} {
		if out, err := why(ctx, c); out != nil || err != nil {
			return out.whole(), err
		}
	}
	out := (&Contradiction{}).whole()
	links, err := clashingLinks(c)
	if err != nil || links != nil {
		say := names.For(c)
		out.Readings = append(out.Readings, links...)
		out.Text = fmt.Sprintf("In no order of the switches could these %d come together.", len(links))
		if len(links) > 0 {
			out.Recheck = "Make this test again first: " + Describe(say, c.Observations[weakest(c, links)])
		}
		return out, err
	}
	var readings, reports []int
	for i, o := range c.Observations {
		if o.Reading != nil && o.Reading != circuit.Unclear {
			readings = append(readings, i)
		}
	}
	for i := range c.Reports {
		reports = append(reports, i)
	}
	before := c.Clone()
	before.Observations = nil
	t, err := blank(ctx, before, anyhow)
	if err != nil {
		return nil, err
	}
	if !t.possible() {
		readings = nil // the record, or what the customer says, clashes without them
		if reports, err = clashingReports(ctx, before, reports); err != nil {
			return nil, err
		}
		if len(reports) == 0 {
			return out, recordClash(ctx, c, out)
		}
	} else {
		fits, err := t.together(ctx, c.Observations)
		if err != nil {
			return nil, err
		}
		if fits(readings) {
			return nil, nil
		}
		reports = nil
		// What can be left out without a world coming back has no part in it. Old readings
		// go first, so that the newest stay: they are the easiest to make again.
		for _, i := range slices.Clone(readings) {
			without := slices.DeleteFunc(slices.Clone(readings), func(x int) bool { return x == i })
			if !fits(without) {
				readings = without
			}
		}
	}
	out.Readings, out.Reports = append(out.Readings, readings...), append(out.Reports, reports...)
	say := names.For(c)
	switch n := len(readings) + len(reports); {
	case n == 1 && len(reports) == 1:
		out.Text = "No circuit of these conductors does what the customer reports."
		out.Recheck = "Ask again, and see for yourself which switch does what."
	case n == 1:
		out.Text = "No circuit that fits the record could have shown this reading."
	default:
		out.Text = fmt.Sprintf("No one circuit could have shown these %d together.", n)
	}
	if len(readings) > 0 {
		out.Recheck = "Make this test again first: " + Describe(say, c.Observations[weakest(c, readings)])
	}
	return out, nil
}

// whole gives every list its empty form.
func (x *Contradiction) whole() *Contradiction {
	if x == nil {
		return nil
	}
	x.Readings, x.Reports, x.Accepted, x.Records = append([]int{}, x.Readings...), append([]int{}, x.Reports...), append([]int{}, x.Accepted...), append([]string{}, x.Records...)
	return x
}

// together reports of any set of observations whether some world could have shown
// them all.
func (t *Tracer) together(ctx context.Context, observations []circuit.Observation) (func(of []int) bool, error) {
	number := map[int]int{} // by observation: its place among the tests
	for i, o := range observations {
		if t.second(o) {
			continue
		}
		if m, ok := t.taken(o); ok {
			number[i] = m.index
			t.tests = append(t.tests, t.apart(m, o)...)
		}
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
	}
	for _, f := range t.frames {
		if f.fits {
			t.catchUp(f)
		}
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
	}
	return func(of []int) bool {
		d := doubt{without: (1<<t.readings() - 1) &^ impossible, invert: -1}
		for _, i := range of {
			if n, ok := number[i]; ok {
				d.without &^= 1 << n
			}
		}
		return slices.ContainsFunc(t.frames, func(f *frame) bool { return f.fits && t.fitsUnder(f, d) })
	}, nil
}

// fitsUnder reports whether some combination of a frame fits all readings but those left
// out.
func (t *Tracer) fitsUnder(f *frame, d doubt) bool {
	list := t.constraints(f, d)
	masks := make([]uint32, len(f.free))
	for _, w := range f.routes {
		for c := range f.broken {
			if !f.may(c, d) {
				continue
			}
			copy(masks, w.domain)
			if t.feasible(f, c, list, masks) {
				return true
			}
		}
	}
	return false
}

// clashingReports keeps those of the reports without which a world would come back;
// none where the record itself has no world.
func clashingReports(ctx context.Context, c *circuit.Circuit, reports []int) ([]int, error) {
	possible := func(of []int) (bool, error) {
		d := c.Clone()
		d.Reports = nil
		for _, i := range of {
			d.Reports = append(d.Reports, c.Reports[i])
		}
		t, err := blank(ctx, d, anyhow)
		return err == nil && t.possible(), err
	}
	if ok, err := possible(nil); !ok || err != nil {
		return nil, err
	}
	for _, i := range slices.Clone(reports) {
		without := slices.DeleteFunc(slices.Clone(reports), func(x int) bool { return x == i })
		ok, err := possible(without)
		if err != nil {
			return nil, err
		}
		if !ok {
			reports = without
		}
	}
	return reports, nil
}

// weakest is the reading to doubt first: a probe that touches no metal before a
// tester, an earlier one before a later.
func weakest(c *circuit.Circuit, readings []int) int {
	rank := []string{circuit.NonContact, circuit.Multimeter, circuit.Continuity, circuit.TwoPole, circuit.LampLook}
	return slices.MinFunc(readings, func(a, b int) int {
		if d := slices.Index(rank, c.Observations[a].Instrument) - slices.Index(rank, c.Observations[b].Instrument); d != 0 {
			return d
		}
		return a - b
	})
}

// recordClash looks for the one part of the record that lets a world come back when it
// is doubted: which screw of a switch is which, or that a switch works at all.
func recordClash(ctx context.Context, c *circuit.Circuit, out *Contradiction) error {
	say := names.For(c)
	loose, err := looseEnds(ctx, c)
	if err != nil {
		return err
	}
	d := c.Clone()
	d.Observations, d.Reports = nil, nil
	for i := range d.Devices {
		if !d.Devices[i].Mechanical() {
			continue
		}
		loose := true
		was := d.Devices[i].Unmarked
		d.Devices[i].Unmarked = &loose
		t, err := blank(ctx, d, anyhow)
		d.Devices[i].Unmarked = was
		if err != nil {
			return err
		}
		if t.possible() {
			out.Records = append(out.Records, say.Expand("which screw of "+say.Device(d.Devices[i].ID)+" holds which wire"))
		}
	}
	for i := range d.Devices {
		if len(out.Records) > 0 || !d.Devices[i].Mechanical() {
			continue
		}
		fails := *d
		fails.Reports = []circuit.Report{{Says: circuit.SaysSometimes, Device: d.Devices[i].ID}}
		t, err := blank(ctx, &fails, anyhow)
		if err != nil {
			return err
		}
		if t.possible() {
			out.Records = append(out.Records, "whether "+say.Device(d.Devices[i].ID)+" works from every position of the others")
		}
	}
	out.Records = append(loose, out.Records...)
	out.Text = "No circuit fits this record: these switches, wired like this, could not each switch the light."
	out.Recheck = say.Fill("Look again at which wire is under which screw, and in which {connector}, in each opened box.")
	if len(out.Records) > 0 {
		out.Recheck = "Look again at " + out.Records[0] + "."
	}
	return nil
}
