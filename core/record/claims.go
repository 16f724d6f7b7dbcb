package record

import (
	"fmt"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/fitting"
	"ambivia/core/names"
	"ambivia/core/trace"
)

// Kinds of claim: how the record knows what it says.
const (
	Measured  = "measured"   // an instrument was read
	Pressed   = "pressed"    // a control was pressed, and the lamps looked at
	Confirmed = "confirmed"  // a person confirmed it, line by line
	Done      = "done"       // a step was done
	Assumed   = "assumed"    // neither seen nor measured
	NotTested = "not-tested" // left out, or not tested yet
	Promised  = "promised"   // the plan and its rules hold it, by simulation
)

// Claim is one thing that the record says of a circuit. What names the fact, the same for the same fact;
// Entry is the line of the log that says so, nil for what no log tells.
type Claim struct {
	Circuit string `json:"circuit"`
	Kind    string `json:"kind"`
	What    string `json:"what"`
	Entry   *int   `json:"entry"`
	Text    string `json:"text"`
}

// Claims lists all that the record says, circuit by circuit. Nothing that was taken back is among it, and
// of what was done or read twice the last time counts.
func (r *Record) Claims() []Claim {
	out := []Claim{}
	for _, c := range r.Circuits {
		out = append(out, c.Claims()...)
	}
	return out
}

// Claims lists all that the record says of one circuit.
func (c *Circuit) Claims() []Claim {
	w := &claimer{c: c, out: []Claim{}, at: map[string]int{}}
	w.before()
	w.logged()
	w.promised()
	for _, text := range c.Untested {
		w.claim(NotTested, "untested: "+text, 0, text)
	}
	return w.out
}

type claimer struct {
	c   *Circuit
	out []Claim
	at  map[string]int // by what: its place among the claims
}

// claim makes a claim, in the place of an earlier one of the same fact.
func (w *claimer) claim(kind, what string, entry int, text string) {
	x := Claim{Circuit: w.c.Called(), Kind: kind, What: what, Text: text}
	if entry > 0 {
		x.Entry = &entry
	}
	if i, known := w.at[what]; known {
		w.out[i] = x
		return
	}
	w.at[what] = len(w.out)
	w.out = append(w.out, x)
}

// before claims what was known when the work began: the readings of tracing, and what is assumed.
func (w *claimer) before() {
	doc, say := w.c.Found.Doc, w.c.Found.Terms()
	for i, o := range doc.Observations {
		if o.Reading != nil && o.Reading != circuit.Unclear {
			w.claim(Measured, fmt.Sprintf("found: reading %d", i+1), 0, reading(say, o))
		}
	}
	for _, e := range doc.Evidence {
		if e.How == circuit.Assumed || e.How == circuit.AcceptedAs {
			w.claim(Assumed, "found: "+e.Of, 0, assumed(say, doc, e))
		}
	}
}

func reading(say names.Terms, o circuit.Observation) string {
	return strings.TrimSuffix(trace.Describe(say, o), ".") + ": " + trace.ReadingWords(o.Instrument, o.Reading) + "."
}

// Assumed says in sentences what of the circuit as found was neither seen nor measured.
func (c *Circuit) Assumed() []string {
	var out []string
	for _, e := range c.Found.Doc.Evidence {
		if e.How == circuit.Assumed || e.How == circuit.AcceptedAs {
			out = append(out, assumed(c.Found.Terms(), c.Found.Doc, e))
		}
	}
	return out
}

// assumed says what was neither seen nor measured.
func assumed(say names.Terms, doc *circuit.Circuit, e circuit.Evidence) string {
	switch end, err := circuit.ParseEnd(e.Of); {
	case err == nil:
		return names.Capitalize(say.End(end)) + ": assumed."
	case doc.Cable(e.Of) != nil:
		return names.Capitalize(say.Cable(e.Of)) + ": where it runs is assumed."
	case doc.Device(e.Of) != nil:
		return names.Capitalize(say.Short(e.Of)) + ": what it hangs on is assumed."
	}
	return say.Box(e.Of) + ": that it is there is assumed."
}

// logged claims what the log says and what was not taken back.
func (w *claimer) logged() {
	run, number := (*fitting.Run)(nil), 0
	say := names.For(w.c.doc())
	for _, e := range fitting.Counted(w.c.Log) {
		switch e.Kind {
		case fitting.Begin:
			run = e.Run
			number++
		case fitting.Done, fitting.Skip, fitting.Differs:
			for _, n := range e.Steps {
				if run == nil || n > len(run.Steps) {
					continue
				}
				step := run.Steps[n-1]
				kind, text := Done, strings.TrimSpace(where(step)+" "+step.Text)
				switch {
				case e.Kind == fitting.Skip:
					kind, text = NotTested, "Left out: "+text+" "+e.Reason
				case e.Kind == fitting.Differs:
					kind, text = NotTested, "Not as drawn: "+text+" "+e.Note
				case step.Gate != "":
					kind, text = Confirmed, strings.Join(append([]string{text}, e.Asked...), " ")
				case step.Test != nil:
					kind = Measured
				}
				w.claim(kind, fmt.Sprintf("run %d: step %d", number, n), e.Number, strings.TrimSpace(text))
			}
		case fitting.Secure:
			w.claim(Confirmed, fmt.Sprintf("entry %d", e.Number), e.Number, strings.Join(e.Asked, " "))
		case fitting.Press:
			text := "Looked at the lights: "
			if e.Press != "" {
				text = "Pressed " + w.c.place(e.Press) + ": "
			}
			w.claim(Pressed, fmt.Sprintf("entry %d", e.Number), e.Number, text+looks(w.c, e.Lamps)+".")
		case fitting.Reading:
			w.claim(Measured, "reading "+e.Test.Key(), e.Number, reading(say, *e.Test))
		case fitting.Trial:
			how := "not as expected"
			if e.Works != nil && *e.Works {
				how = "as expected"
			}
			w.claim(Pressed, "trial "+e.Place+" "+e.Path+" "+e.From, e.Number, fmt.Sprintf("Tried %s by %s: %s.", w.c.place(e.Place), e.Path, how))
		case fitting.Device:
			w.claim(Confirmed, "device "+e.Place+" "+e.Field, e.Number, fmt.Sprintf("%s, %s: %s.", w.c.place(e.Place), e.Field, e.Value))
		case fitting.Fault:
			w.claim(Pressed, fmt.Sprintf("entry %d", e.Number), e.Number, "Fault: "+e.Note)
		}
	}
}

// promised claims what works when something fails, and where taps call scenes, as the chosen rules hold it.
func (w *claimer) promised() {
	if w.c.Option == nil || w.c.State.Run != nil && w.c.Became != AsPlanned {
		return // what stands is not the plan, and nothing is known of what it does
	}
	for _, x := range w.c.Option.Outages {
		for _, box := range x.Works {
			w.claim(Promised, "promise "+x.When+" "+box, 0, fmt.Sprintf("%s: %s still works.", x.Name, names.For(w.c.Option.After).Box(box)))
		}
	}
	for _, q := range w.c.Option.Places {
		if q.Scenes {
			w.claim(Promised, "scenes "+q.Device, 0, fmt.Sprintf("%s: several taps call a scene or a level.", q.Where))
		}
	}
}
