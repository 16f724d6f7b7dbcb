package automation

import (
	"fmt"

	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/rehearsal"
)

// Enter writes into the steps of a procedure what is entered so that the links of its plan come about in this way: at the step
// that pairs a device, how it is set and each rule that begins there, and at the last of them what begins at others, and what
// is known to go wrong. Paired devices need nothing entered; neither does a nil set.
func (s *Set) Enter(p *procedure.Procedure) {
	if s == nil || s.Kind == Direct || s.Doc.Automation == nil {
		return
	}
	told, set := map[string]bool{}, map[string]bool{}
	var last *procedure.Step
	for i := range p.Steps {
		step := &p.Steps[i]
		for _, x := range s.Settings { // rules may want the local control on, which pairs do without
			if x.Device == step.Device && step.Kind == procedure.KindSet && step.Phase == procedure.Linking {
				step.Text, set[x.Device] = x.Text, true
			}
		}
		link := step.Pairs()
		if link == nil {
			continue
		}
		last = step
		lines := s.entered(link.From, set[link.From])
		if told[link.From] || len(lines) == 0 {
			continue
		}
		told[link.From], step.Enter = true, lines
		if link.Via != "bus" { // there the step leads a cable too
			where := "the hub"
			if s.Via == "cloud" {
				where = "the cloud"
			}
			step.Text = fmt.Sprintf("Enter in %s what belongs to %s, and try each as soon as it stands. Give each device its name and room; note the firmware.",
				where, names.For(s.Doc).Place(link.From))
		}
	}
	if last == nil {
		return
	}
	for _, d := range s.Doc.Devices {
		if !told[d.ID] {
			last.Enter = append(last.Enter, s.entered(d.ID, set[d.ID])...)
		}
	}
	if s.Report != nil {
		for _, x := range s.Report.Properties {
			if !x.Holds {
				last.Enter = append(last.Enter, "Known before it was made: "+x.Text)
			}
		}
	}
}

// entered lists how a device is set, unless a step of its own says so, and what begins at it, in words.
func (s *Set) entered(device string, set bool) []string {
	var out []string
	for _, x := range s.Settings {
		if x.Device == device && !set {
			out = append(out, names.For(s.Doc).Place(device)+": "+x.Text)
		}
	}
	for _, r := range s.Doc.Automation.Rules {
		if r.When.Device == device {
			out = append(out, rehearsal.RuleWords(s.Doc, r))
		}
	}
	for _, m := range s.Doc.Automation.Mirrors {
		if m.From == device {
			out = append(out, rehearsal.MirrorWords(s.Doc, m))
		}
	}
	return out
}
