package demo

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/diagram"
	"ambivia/core/fitting"
	"ambivia/core/house"
	"ambivia/core/inspect"
	"ambivia/core/practice"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/record"
	"ambivia/core/retrofit"
	"ambivia/core/survey"
	"ambivia/core/trace"
)

// sentences collects what is said of circuits: each text once, with the stage that says it and the circuit.
type sentences struct {
	t        *testing.T
	said     map[string]string
	practice string              // of the circuit that speaks
	own      []string            // names that a person gave it
	foreign  map[string]struct{} // what is said in a practice with a word of another one
}

// note keeps a text, and holds its words against those of other practices.
func (s *sentences) note(from, text string) {
	if s.said[text] == "" {
		s.said[text] = from
	}
	plain := strings.ToLower(text)
	for _, name := range s.own {
		plain = strings.ReplaceAll(plain, name, "")
	}
	for _, word := range foreign[s.practice] {
		if strings.Contains(plain, word) {
			s.foreign[fmt.Sprintf("%s: %q is not said in %s: %s", from, word, s.practice, text)] = struct{}{}
		}
	}
}

// add takes each text of a value that a person reads: every string that has a space in it.
func (s *sentences) add(from string, v any) {
	s.t.Helper()
	data, err := json.Marshal(v)
	if err != nil {
		s.t.Fatal(err)
	}
	dec := json.NewDecoder(bytes.NewReader(data))
	for {
		token, err := dec.Token()
		if err != nil {
			return
		}
		text, ok := token.(string)
		if key := text; ok && key == "what" { // what a claim is of, for programs
			dec.Token()
			continue
		}
		if ok && !written.MatchString(text) && strings.Contains(text, " ") {
			s.note(from, text)
		}
	}
}

// written is a list of conductors and screws as a file has them, which programs read.
var written = regexp.MustCompile(`^([\w-]+\.\w[\w-]*(, )?)+$`)

// circuit goes through all stages that a circuit comes to, with a few of the plans that fit.
func (s *sentences) circuit(name string, c *circuit.Circuit, rng *rand.Rand, plans int) {
	ctx := context.Background()
	s.practice, s.own = c.Practice, []string{strings.ToLower(c.Name)}
	for _, b := range c.Boxes {
		if !circuit.Blank(b.Name) {
			s.own = append(s.own, strings.ToLower(b.Name))
		} else {
			s.own = append(s.own, strings.ToLower(b.ID))
		}
	}
	for _, d := range c.Devices {
		if !circuit.Blank(d.Name) {
			s.own = append(s.own, strings.ToLower(d.Name))
		}
	}
	found := inspect.Compile(c)
	s.add(name+", survey", survey.Read(found))
	s.drawn(name+", drawing", found)
	if traced, err := trace.Trace(ctx, c, trace.Dead); err == nil {
		s.add(name+", trace", traced)
	} else {
		s.add(name+", trace", err.Error())
	}
	plan, err := procedure.Plan(ctx, found, retrofit.Request{})
	if err != nil {
		s.t.Fatal(err)
	}
	s.add(name+", plan", plan.Conflicts)
	for i := range plan.Options {
		o := plan.Options[i].WithoutDocument()
		o.After = nil
		s.add(name+", plan "+o.ID, o)
	}
	for n := 0; n < plans; n++ {
		var fit []string
		for _, o := range plan.Options {
			if o.Feasible {
				fit = append(fit, o.ID)
			}
		}
		if len(fit) == 0 {
			return
		}
		s.option(name, found, procedure.Offer(found, retrofit.Request{}, fit[rng.IntN(len(fit))]))
	}
}

func (s *sentences) option(name string, found *inspect.Compiled, o *retrofit.Option) {
	ctx := context.Background()
	on := o.PlannedOn(found)
	name += ", " + o.ID
	work := procedure.For(on, o, nil)
	s.add(name+", steps", []any{work.Steps, work.Materials(), work.Rooms(), work.Labels()})
	s.drawn(name+", drawing of the plan", o.Compiled())
	if proof, err := prove.Sequence(ctx, on.Doc, o); err == nil {
		s.add(name+", proof", []any{proof, proof.Tests()})
	}
	sets, err := automation.For(ctx, o, nil)
	if err != nil {
		s.t.Fatal(err)
	}
	s.add(name+", links", sets)
	var made *automation.Set
	if len(sets) > 0 {
		made = &sets[0]
	}
	run := fitting.Read(nil).NewRun(on, o, device.NewLibrary(nil), nil, 1, nil)
	log := []fitting.Entry{{Kind: fitting.Begin, Number: 1, Began: fitting.Began{Run: run}}}
	for range 12 {
		state := fitting.Read(log)
		if state.Now == 0 {
			break
		}
		log = append(log, fitting.Entry{Kind: fitting.Done, Number: len(log) + 1, OfSteps: fitting.OfSteps{Steps: []int{state.Now}, Asked: run.Steps[state.Now-1].Asks}})
	}
	state := fitting.Read(log)
	s.add(name+", fitting", []any{state.Steps, state.Run.Steps})
	kept := record.Of(record.Source{Found: on, Option: o, Library: device.NewLibrary(nil), Log: log, Made: made})
	s.add(name+", record", []any{kept.Claims(), kept.Status, kept.Is(), kept.LeftOut, kept.Failed, kept.Course, kept.Readings, kept.Proving, kept.Trials, kept.Devices, kept.Untested, kept.Back, kept.Open, kept.Usage(), kept.Noted(), kept.LinksInWords(), kept.WayBack()})
}

var svgText = regexp.MustCompile(`<(?:text|title|desc)[^>]*>([^<]*)<`)

func (s *sentences) drawn(name string, k *inspect.Compiled) {
	var b bytes.Buffer
	if err := diagram.Schematic(k, "Drawing").File(&b, diagram.Block{}); err != nil {
		s.t.Fatal(err)
	}
	if err := diagram.Layout(k.Doc).Draw(k, "Drawing", nil).File(&b, diagram.Block{}); err != nil {
		s.t.Fatal(err)
	}
	for _, m := range svgText.FindAllStringSubmatch(b.String(), -1) {
		s.note(name, m[1])
	}
}

// idsOf are the ids of a circuit that no person would write as a word: those with a figure in them.
var idLike = regexp.MustCompile(`(?i)\b(?-i:lamp|light|supply|sup|sw|jb|rc|k|m|s|j|b|x|d|p|r)\d+\b|\w+\.\w+@\w+|\b[a-z]+\d+\.[a-z]+\d*\b`)

// TestWhatIsSaid goes through the demo's circuits and random houses of each kind, in five practices and through all stages,
// and holds every text that a person reads against ids of the file and words of other practices.
func TestWhatIsSaid(t *testing.T) {
	s := &sentences{t: t, said: map[string]string{}, foreign: map[string]struct{}{}}
	rng := rand.New(rand.NewPCG(28, 12))
	for _, job := range Jobs() {
		for _, c := range job.Circuits {
			s.circuit(c.Name, c, rng, 2)
		}
	}
	practices := practice.All()
	for i, k := range circuittest.Kinds() {
		c := k.Make(rng, k.Controls[0])
		for _, p := range []practice.Practice{practices[i%len(practices)], practices[0]} {
			in := circuittest.In(c, p.ID)
			if in.Validate() != nil {
				continue
			}
			s.circuit(k.Name+" in "+p.ID, in, rng, 1)
			if h, err := house.New(in, uint64(i), nil); err == nil {
				seen := h.Survey()
				s.circuit(k.Name+", half known, in "+p.ID, seen, rng, 0)
			}
		}
	}
	var wrong []string
	for text, from := range s.said {
		if id := idLike.FindString(text); id != "" {
			wrong = append(wrong, fmt.Sprintf("%s: %q in %s", from, id, text))
		}
	}
	wrong = append(wrong, slices.Collect(maps.Keys(s.foreign))...)
	slices.Sort(wrong)
	if path := os.Getenv("AMBIVIA_SAID"); path != "" {
		var all []string
		for text, from := range s.said {
			all = append(all, text+"\t"+from)
		}
		slices.Sort(all)
		os.WriteFile(path, []byte(strings.Join(all, "\n")), 0o644)
	}
	t.Logf("%d texts", len(s.said))
	for i, text := range wrong {
		if i == 40 {
			t.Errorf("and %d more", len(wrong)-i)
			break
		}
		t.Error(text)
	}
}
