package automation

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/rehearsal"
	"ambivia/core/retrofit"
)

// downOf maps an outage of an option to the way of a message that is down with it.
var downOf = map[string]string{"hub": "hub", "internet": "cloud"}

// Hold returns the option with its places and outages as this set of rules holds them: a place calls scenes only where a
// rule or a pairing makes it, and works without the hub or the internet only where the rehearsal without them says so. A nil
// set is that of a plan without links, in which no rule was made. The option itself is not changed.
func (s *Set) Hold(o *retrofit.Option) *retrofit.Option {
	held := *o
	held.Places = slices.Clone(o.Places)
	for i := range held.Places {
		q := &held.Places[i]
		q.Scenes = q.Scenes && s.calls(q.Device)
	}
	held.Outages = slices.Clone(o.Outages)
	if s == nil || s.Report == nil { // no rules: no tap does anything that a hub or a cloud could take away
		for i, x := range held.Outages {
			if x.When == "hub" || x.When == "internet" {
				held.Outages[i] = retrofit.Fails(o.After, x.When, x.Name, x.Name, held.Places, func(q retrofit.Place) bool { return slices.Contains(x.Works, q.Box) }, nil)
			}
		}
		return &held
	}
	for i, x := range held.Outages {
		k := slices.IndexFunc(s.Report.Outages, func(r rehearsal.Outage) bool { return r.Down == downOf[x.When] })
		if k < 0 {
			continue
		}
		rules := s.Report.Outages[k].Works
		var taps []string
		for _, q := range held.Places {
			if q.Scenes && s.over(q.Device) == downOf[x.When] {
				taps = append(taps, q.Box)
			}
		}
		held.Outages[i] = retrofit.Fails(o.After, x.When, x.Name, x.Name, held.Places, func(q retrofit.Place) bool {
			works, asked := rules[q.Device]
			return slices.Contains(x.Works, q.Box) && (works || !asked)
		}, taps)
	}
	return &held
}

// calls reports whether several taps in a row at a device do something by this set.
func (s *Set) calls(device string) bool { return s.over(device) != "" }

// over is the way of the messages that several taps in a row at a device send, "" where they send none.
func (s *Set) over(device string) string {
	if s == nil {
		return ""
	}
	if s.Kind == Direct && slices.ContainsFunc(s.Doc.Links, func(l circuit.Link) bool { return l.From == device }) {
		return s.Via
	}
	if s.Doc.Automation == nil {
		return ""
	}
	for _, r := range s.Doc.Automation.Rules {
		if r.When.Device == device && severalTaps(r.When.Event) {
			return r.Via
		}
	}
	return ""
}

// severalTaps reports whether an event is told by more than one tap: "up2" to "down5", "press2".
func severalTaps(event string) bool {
	n := event[max(0, len(event)-1):]
	return n >= "2" && n <= "9"
}
