package circuit

import "slices"

// Automation is what a hub, a cloud or a broker does with what devices tell it. Unlike a [Link]
// it takes its time: messages wait in a queue for each way that they go.
type Automation struct {
	Rules   []Rule   `json:"rules,omitzero"`
	Mirrors []Mirror `json:"mirrors,omitzero"`
}

// Rule sends an action to a device when another tells of an event: a gesture, or that its switch
// went "on" or "off".
type Rule struct {
	ID   string `json:"id"`
	When When   `json:"when"`
	Then Then   `json:"then"`
	Via  string `json:"via"`
}

// When is the event of a rule.
type When struct {
	Device string `json:"device"`
	Event  string `json:"event"`
}

// Then is what a rule asks of a device: "on", "off" or "toggle". Level is the percentage of its highest level at which it
// goes on, nil for the last.
type Then struct {
	Device string `json:"device"`
	Action string `json:"action"`
	Level  *int   `json:"level,omitzero"`
}

// Mirror lets a device follow another, or each the other.
type Mirror struct {
	From string `json:"from"`
	To   string `json:"to"`
	Both bool   `json:"both,omitzero"`
	Via  string `json:"via"`
}

// What a device tells of changes of its own switch; "" tells nothing.
const (
	ReportsAll  = "all"  // every change
	ReportsOwn  = "own"  // only those made at itself, not by a message
	ReportsNone = "none" // nothing
)

// SpeaksByRules reports whether a rule or a mirror waits for what a device tells.
func (c *Circuit) SpeaksByRules(device string) bool {
	a := c.Automation
	return a != nil && (slices.ContainsFunc(a.Rules, func(r Rule) bool { return r.When.Device == device }) ||
		slices.ContainsFunc(a.Mirrors, func(m Mirror) bool { return m.From == device || m.Both && m.To == device }))
}

// HasPaddle reports whether the device has an upper and a lower press.
func (m Model) HasPaddle() bool { return m.Paddle != nil && *m.Paddle }

// MovesItself reports whether the device's paddle moves its own switch.
func (d Device) MovesItself() bool { return d.Local == nil || *d.Local }

func (v *validator) checkAutomation() {
	if v.Automation == nil {
		return
	}
	smart := func(where, id string, listens bool) {
		d := v.devices[id]
		switch {
		case d == nil:
			v.add(CodeUnknownID, where, "there is no device %q", id)
		case d.Type != TypeSmart:
			v.add(CodeMisplaced, where, "%q is no smart device; only those can speak", id)
		case listens && v.hasModel(d) && v.Models[d.Model].Remote == "":
			v.add(CodeContradicts, where, "the model of %q has no remote: nothing in it can be switched by a message", id)
		}
	}
	seen := map[string]bool{}
	for i, r := range v.Automation.Rules {
		if seen[r.ID] {
			v.add(CodeDuplicateID, at("automation", "rules", i, "id"), "a rule %q stands above already; each rule needs an id of its own", r.ID)
		}
		seen[r.ID] = true
		smart(at("automation", "rules", i, "when", "device"), r.When.Device, false)
		smart(at("automation", "rules", i, "then", "device"), r.Then.Device, true)
	}
	for i, m := range v.Automation.Mirrors {
		smart(at("automation", "mirrors", i, "from"), m.From, true)
		smart(at("automation", "mirrors", i, "to"), m.To, true)
		if m.From == m.To {
			v.add(CodeContradicts, at("automation", "mirrors", i), "a mirror joins two devices, not one with itself")
		}
	}
}
