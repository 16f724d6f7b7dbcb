package record

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/rehearsal"
	"ambivia/core/retrofit"
	"ambivia/core/schedule"
	"ambivia/core/trace"
)

// Record is all that is handed over of a job.
type Record struct {
	Job      string
	Firm     Firm
	Customer Customer
	Date     time.Time
	Circuits []*Circuit
}

// Source is what is kept of a circuit, from which its record is worked out.
type Source struct {
	Found   *inspect.Compiled
	Option  *retrofit.Option // that was chosen, nil where none was
	Library *device.Library
	Log     []fitting.Entry
	Photos  []Photo
	// Proved is how far it is shown that the work is right; nil where that was not worked out, or cannot be.
	Proved *Proved
	// Made is how the links of the plan are made; nil where it has none.
	Made *automation.Set
	// Use is how the light is used, Year the energy of a year; nil if not entered or not computed.
	Use  *schedule.Use
	Year *schedule.Year
}

// Photo is a photograph with where it was taken.
type Photo struct {
	ID, Where, Note string
	Created         time.Time
	Picture         func() ([]byte, error) // a JPEG file
}

// Line is something that happened, with who and when.
type Line struct {
	Time time.Time
	By   string
	What string
	How  string // how it came out: what was confirmed, read or left out
	Gate bool   // something confirmed before hands went in
}

// Circuit is the record of one circuit. Nothing that nobody did is in it but under Untested.
type Circuit struct {
	Source
	Work      *procedure.Procedure // nil where nothing was chosen
	State     *fitting.State
	Status    string // in one sentence
	Became    Became
	Now       *circuit.Circuit // the wiring as it stands, by the log
	LeftOut   []Line           // what was left out of the last run, or is not as drawn
	Failed    []string         // what shows that not all is right
	Minutes   float64          // of all runs, proving included, without pauses
	Course    []Line           // gates and steps, in the order of the log
	Readings  []Line
	Proving   []Line
	Trials    []Trial
	Tried     map[int]fitting.Entry // entries of trials, by their number
	Devices   []DeviceFacts
	Faults    []Line
	Notes     []Line
	Materials []procedure.Item
	Untested  []string
	Open      []string // what of it was not tested, as counts
	Batteries []Battery
	Back      []string // the steps of the way back, from the wiring as it stands
	People    []string
	Begun     time.Time // zero where nothing was begun
	Ended     time.Time
}

// Of works the record of a circuit out.
func Of(src Source) *Circuit {
	c := &Circuit{Source: src, State: fitting.Read(src.Log), Tried: map[int]fitting.Entry{}}
	say := src.Found.Terms()
	for _, o := range src.Found.Doc.Observations {
		if o.Reading != nil {
			c.Readings = append(c.Readings, Line{Time: when(o.Time), What: trace.Describe(say, o), How: trace.ReadingWords(o.Instrument, o.Reading)})
		}
	}
	if src.Option != nil {
		c.Work = procedure.For(src.Found, src.Option, src.Library)
		src.Made.Enter(c.Work)
		c.Option = src.Made.Hold(src.Option)
		c.Trials = Trials(c.Option, src.Library, src.Log)
		c.Devices = Facts(src.Option, src.Library, src.Log)
		c.Batteries = Batteries(src.Option, src.Library, src.Log)
	}
	c.stands()
	c.log(say)
	c.status()
	c.leftOut()
	c.Materials, c.Minutes = c.net(), fitting.Minutes(src.Log)
	c.Batteries = slices.DeleteFunc(c.Batteries, func(b Battery) bool { return c.Now.Device(b.Device) == nil })
	if c.Proved != nil && len(c.State.Seen()) > 0 {
		switch {
		case c.Proved.Whole():
			c.Status += " Tested: every switch works as planned."
		case !c.Proved.Right:
			c.Status += " Tested: it does not work as planned."
		}
	}
	if c.failed(); len(c.Failed) > 0 {
		c.Status += " " + map[bool]string{true: "One thing was not as it should be.", false: fmt.Sprintf("%d things were not as they should be.", len(c.Failed))}[len(c.Failed) == 1]
	}
	c.back()
	c.untested()
	return c
}

func when(text string) time.Time {
	at, err := time.Parse(time.RFC3339, text)
	if err != nil {
		return time.Time{}
	}
	return at
}

// log goes through the log once and sorts what it says.
func (c *Circuit) log(say names.Terms) {
	var run *fitting.Run
	for _, e := range c.Log {
		if e.By != "" && !slices.Contains(c.People, e.By) {
			c.People = append(c.People, e.By)
		}
		if c.Begun.IsZero() || e.Time.Before(c.Begun) {
			c.Begun = e.Time
		}
		if e.Time.After(c.Ended) {
			c.Ended = e.Time
		}
		line := Line{Time: e.Time, By: e.By, What: names.Capitalize(e.Words()), How: e.Note}
		if c.State.Undone(e.Number) {
			switch e.Kind {
			case fitting.Press, fitting.Reading, fitting.Trial, fitting.Fault, fitting.Remark, fitting.Device:
				continue // the entry that takes it back is told, and nothing of it as true
			}
			line.How = "taken back"
		}
		switch e.Kind {
		case fitting.Begin:
			run = e.Run
			c.Course = append(c.Course, line)
		case fitting.Done, fitting.Skip, fitting.Differs:
			for _, n := range e.Steps {
				if run == nil || n > len(run.Steps) {
					continue
				}
				step := run.Steps[n-1]
				one := line
				one.What = strings.TrimSpace(fmt.Sprintf("%d. %s %s", n, where(step), step.Text))
				switch e.Kind {
				case fitting.Skip:
					one.How = leftOut(e)
				case fitting.Differs:
					one.How = "not as drawn: " + e.Note
				}
				if e.Value != "" {
					one.How = strings.TrimSpace(one.How + " read: " + e.Value)
				}
				if one.Gate = step.Gate != ""; one.Gate {
					one.How = strings.TrimSpace(strings.Join(e.Asked, "; ") + ". " + one.How)
				}
				c.Course = append(c.Course, one)
			}
		case fitting.Secure:
			line.How, line.Gate = strings.Join(e.Asked, "; "), true
			c.Course = append(c.Course, line)
		case fitting.Live, fitting.Undo, fitting.End:
			line.Gate = true
			c.Course = append(c.Course, line)
		case fitting.Press:
			line.How = looks(c, e.Lamps)
			if e.Press != "" {
				line.What = "Pressed " + c.place(e.Press)
			}
			c.Proving = append(c.Proving, line)
		case fitting.Reading:
			line.What, line.How = trace.Describe(say, *e.Test), trace.ReadingWords(e.Test.Instrument, e.Test.Reading)
			if right, known := c.expected(*e.Test); known {
				line.How += "; right: " + trace.ReadingWords(e.Test.Instrument, right)
				if !prove.Agrees(right, e.Test.Reading) {
					line.How += ". CONTRARY"
				}
			}
			if e.Note != "" {
				line.How += ". " + e.Note
			}
			c.Readings = append(c.Readings, line)
		case fitting.Trial:
			c.Tried[e.Number] = e
		case fitting.Fault:
			c.Faults = append(c.Faults, Line{Time: e.Time, By: e.By, What: e.Note, How: e.Value})
		case fitting.Remark:
			c.Notes = append(c.Notes, Line{Time: e.Time, By: e.By, What: e.Note, How: e.Value})
		}
	}
}

func where(s procedure.Step) string {
	if s.Where == "" {
		return ""
	}
	return s.Where + ":"
}

// doc is the circuit as it is to be, where that was chosen.
func (c *Circuit) doc() *circuit.Circuit {
	if c.Option != nil {
		return c.Option.After
	}
	return c.Found.Doc
}

// place is where a control is, with what it is called beside its box.
func (c *Circuit) place(control string) string {
	doc := c.doc()
	say, d := names.For(doc), doc.Device(control)
	if d == nil || doc.Box(d.Box) == nil || say.Box(d.Box) == say.Short(control) {
		return say.Short(control)
	}
	return say.Box(d.Box) + ", " + strings.TrimPrefix(say.Here(control), "the ")
}

// Links lists what speaks with what in words: how the links are made, what is set at devices for it, each rule, and what was
// found when they were rehearsed.
func (c *Circuit) Links() []string {
	if c.Made == nil {
		return rehearsal.Words(c.doc())
	}
	out := []string{c.Made.Title + ": " + strings.TrimSuffix(c.Made.Text, ".")}
	for _, s := range c.Made.Settings {
		out = append(out, names.For(c.Made.Doc).Place(s.Device)+": "+strings.TrimSuffix(s.Text, "."))
	}
	out = append(out, rehearsal.Words(c.Made.Doc)...)
	for _, p := range c.Made.Report.Properties {
		if !p.Holds {
			out = append(out, strings.TrimSuffix(p.Text, "."))
		}
	}
	return out
}

// looks says how lamps looked, each by what a person calls it.
func looks(c *Circuit, lamps map[string]string) string {
	var out []string
	doc := c.doc()
	for _, d := range doc.Devices {
		if how, seen := lamps[d.ID]; seen {
			out = append(out, names.For(doc).Short(d.ID)+" "+how)
		}
	}
	return strings.Join(out, ", ")
}

// status says in one sentence how far the work is.
func (c *Circuit) status() {
	s := c.State
	if s.Run == nil {
		c.Status = "Nothing was fitted."
		if c.Option != nil {
			c.Status = "A plan was chosen; nothing of it was fitted."
		}
		return
	}
	done, skipped := 0, 0
	for _, x := range s.Steps {
		switch x.Status {
		case fitting.Settled:
			done++
		case fitting.Skipped:
			skipped++
		}
	}
	what := map[string]string{fitting.Forth: "Fitted", fitting.Back: "Put back to what was found", fitting.Mend: "Fitted, and a mistake in it mended"}[s.Run.Way]
	if s.Run.Way != fitting.Back && c.Became == AsFound {
		what = "Nothing was changed"
	}
	runs := 0
	for _, e := range c.Log {
		if e.Kind == fitting.Begin {
			runs++
		}
	}
	switch {
	case s.Stopped != nil:
		c.Status = fmt.Sprintf("Stopped at step %d of %d: what is there is not as drawn.", s.Stopped.Steps[0], len(s.Steps))
	case done == len(s.Steps):
		c.Status = fmt.Sprintf("%s: every one of %d steps was done.", what, done)
	case s.Over:
		c.Status = fmt.Sprintf("%s: %d of %d steps were done, %d left out.", what, done, len(s.Steps), skipped)
	default:
		c.Status = fmt.Sprintf("Under way: %d of %d steps are done, %d left out.", done, len(s.Steps), skipped)
	}
	if runs > 1 {
		c.Status += fmt.Sprintf(" That is the last of %d runs.", runs)
	}
}

// back lists the way back from the wiring as it stands.
func (c *Circuit) back() {
	if c.Option == nil || c.State.Run == nil {
		return
	}
	run := c.State.NewBack(c.Found, c.Option, c.Library, 0, nil)
	for _, step := range run.Steps {
		c.Back = append(c.Back, strings.TrimSpace(where(step)+" "+step.Text))
	}
}

// untested lists every press and reading of the proof and every trial that was not made, and counts them by kind.
func (c *Circuit) untested() {
	if c.Option == nil {
		return
	}
	count := func(left, of int, what string) {
		if left > 0 {
			c.Open = append(c.Open, fmt.Sprintf("%d of %d %s", left, of, what))
		}
	}
	if c.Proved == nil {
		c.Untested = append(c.Untested, "Which presses and readings show every mistake: not worked out.")
		c.Open = append(c.Open, "the final test")
	} else {
		presses, made := len(c.Proved.Proof.Presses), max(0, c.Proved.At)
		switch {
		case !c.Proved.Right:
			c.Untested = append(c.Untested, "What was seen is not what right work shows: it is not proved.")
			made = 0
		case made < presses || c.Proved.At < 0:
			c.Untested = append(c.Untested, fmt.Sprintf("%d of the %d presses that show every mistake a press can show.", presses-made, presses))
		}
		count(presses-made, presses, "presses")
		tests := c.Proved.Proof.Tests()
		lack := 0
		for _, m := range tests {
			if c.State.ReadOf(m.Test) == nil {
				lack++
			}
		}
		if lack > 0 {
			c.Untested = append(c.Untested, fmt.Sprintf("%d of the %d readings that show what no press does.", lack, len(tests)))
		}
		count(lack, len(tests), "meter readings")
	}
	left := 0
	for _, t := range c.Trials {
		if t.Entry == 0 {
			c.Untested = append(c.Untested, fmt.Sprintf("%s by %s, from %s.", t.Where, t.Path, t.From))
			left++
		}
	}
	count(left, len(c.Trials), "trials of places")
}

// Changed reports whether any wire was moved, also where it was put back since.
func (c *Circuit) Changed() bool { return c.Became != AsFound }

// CSV is every reading of a circuit, of tracing and of proving: time, who, what, how it came out.
func (c *Circuit) CSV() [][]string {
	out := [][]string{{"time", "who", "what", "reading"}}
	stamp := func(t time.Time) string {
		if t.IsZero() {
			return ""
		}
		return t.Format(time.RFC3339)
	}
	for _, list := range [][]Line{c.Readings, c.Proving} {
		for _, l := range list {
			out = append(out, []string{stamp(l.Time), l.By, l.What, l.How})
		}
	}
	return out
}

// Called is what a circuit is called on the record.
func (c *Circuit) Called() string {
	if circuit.Blank(c.Found.Doc.Name) {
		return "Circuit"
	}
	return c.Found.Doc.Name
}
