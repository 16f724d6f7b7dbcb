// Package prove finds how to show, with the fewest presses, that work was done right, and what
// single mistake explains what was seen when it was not.
//
// A mistake is one end loose, two ends exchanged, or one end at the wrong place (mistakes.go).
// Every mistake makes a circuit of its own, and a circuit is a machine: pressing moves it, lamps
// show how it stands (behaviour.go). Nobody knows how mechanical switches stand at the start, so
// what is known of the right circuit is a set of states; a mistake is revealed when none of them
// could have shown what was seen (sequence.go), and few presses are to reveal all (shortest.go).
// What no pressing shows takes a meter (meter.go).
// Diagnosis goes the other way (diagnose.go).
package prove

import (
	"context"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
	"ambivia/core/retrofit"
)

// Expected is what a press does where the work is right: "changes", "stays" or "depends" on how
// switches stood, by lamp.
type Expected struct {
	Press string            `json:"press"`
	Box   string            `json:"box"`
	Lamps map[string]string `json:"lamps"`
}

// Counts counts mistakes: of All, Revealed are shown by the presses from every starting position,
// SameAsRight are none that matter, and Meter need a reading.
type Counts struct {
	All         int `json:"all"`
	Revealed    int `json:"revealed"`
	SameAsRight int `json:"sameAsRight"`
	Meter       int `json:"meter"`
}

// Metered is a mistake that no press shows for certain, with a reading that does: Right is what it shows where
// the work is right.
type Metered struct {
	Mistake Mistake             `json:"mistake"`
	Test    circuit.Observation `json:"test"`
	Right   any                 `json:"right"`
	Text    string              `json:"text"`
}

// Proof is the answer of [Sequence].
type Proof struct {
	Presses  []string   `json:"presses"`
	Expect   []Expected `json:"expect"`
	Mistakes Counts     `json:"mistakes"`
	Meter    []Metered  `json:"meter"`
}

// work is what is proved: a circuit, and the ends at which somebody may have made a mistake.
type work struct {
	doc      *circuit.Circuit
	ends     []circuit.End
	all      []circuit.End // of the circuit, ground with them
	bare     []circuit.End // of those all but ground
	read     *sample       // the circuit where nothing is wrong
	together string        // what stands together there; see sameAsRight
	say      names.Terms
}

// ground reports whether an end is a ground screw, or of a conductor in the colour of ground.
func ground(e circuit.End) bool {
	return e.Part == "ground" || e.Box != "" && circuit.GroundColour(e.Part)
}

// Of is the work of an option that was offered for a circuit, or of the whole circuit where it is
// nil.
func of(c *circuit.Circuit, o *retrofit.Option) *work {
	w := &work{doc: c}
	add := func(e circuit.End) {
		if !ground(e) && !slices.Contains(w.ends, e) {
			w.ends = append(w.ends, e)
		}
	}
	screws := func(d circuit.Device) {
		for _, t := range w.doc.Terminals(d) {
			add(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}})
		}
	}
	if o != nil {
		w.doc = o.After
		for _, x := range o.Changes {
			if x.End.Box != "" {
				add(x.End)
			}
		}
		for _, d := range w.doc.Devices {
			if slices.ContainsFunc(o.Devices, func(x retrofit.Fitted) bool { return x.ID == d.ID }) {
				screws(d)
			}
		}
	} else {
		for _, k := range w.doc.Cables {
			for _, box := range k.Ends {
				if box == nil {
					continue
				}
				for _, core := range k.Cores {
					add(circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box})
				}
			}
		}
		for _, d := range w.doc.Devices {
			if d.Mechanical() || d.Type == circuit.TypeSmart {
				screws(d)
			}
		}
	}
	w.say = names.For(w.doc)
	w.read = newSample(electric.New(w.doc))
	w.all = w.read.net.Ends()
	for _, e := range w.all {
		if !ground(e) {
			w.bare = append(w.bare, e)
		}
	}
	w.together = conductors(w.read.net, w.bare, func(e circuit.End) circuit.End { return e })
	return w
}

// Sequence finds the presses and readings that show whether an option was carried out right, or,
// where that is nil, whether the circuit is as recorded. The error is the context's, or that it may
// stand in too many ways.
func Sequence(ctx context.Context, c *circuit.Circuit, o *retrofit.Option) (*Proof, error) {
	w := of(c, o)
	mistakes, err := w.mistakes()
	if err != nil {
		return nil, err
	}
	s, err := newSearch(ctx, w, mistakes)
	if err != nil {
		return nil, err
	}
	out := &Proof{Presses: []string{}, Expect: []Expected{}, Meter: []Metered{}, Mistakes: Counts{All: len(mistakes)}}
	presses := s.sequence(ctx)
	for _, press := range presses {
		out.Presses = append(out.Presses, s.controls[press])
	}
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	out.Expect = s.expect(presses)
	revealed, lines := s.revealedBy(presses), w.atLines()
	for i, m := range mistakes {
		switch {
		case revealed[i]:
			out.Mistakes.Revealed++
		case w.sameAsRight(m, s.wrong[i]):
			out.Mistakes.SameAsRight++
		default:
			out.Mistakes.Meter++
			wrong := newSample(s.wrong[i])
			x, ok := w.shownBy(lines, m, wrong)
			if !ok {
				x, ok = w.meter(m, wrong)
			}
			if ok {
				out.Meter = append(out.Meter, x)
			}
		}
	}
	for _, line := range lines { // what a press shows in the walls of the record it may not show in the true ones
		if slices.ContainsFunc(out.Meter, func(x Metered) bool { return x.Test.Key() == line.Test.Key() }) {
			continue
		}
		for i, m := range mistakes {
			if m.Kind == Swap && revealed[i] {
				if x, ok := w.shownBy([]Metered{line}, m, newSample(s.wrong[i])); ok {
					out.Meter = append(out.Meter, x)
					break
				}
			}
		}
	}
	return out, ctx.Err()
}
