package rehearsal

import (
	"fmt"

	"ambivia/core/circuit"
)

// Words says the links, rules and mirrors of a document in plain words, a line each.
func Words(c *circuit.Circuit) []string {
	out := []string{}
	over := map[string]string{"radio": "directly by radio", "hub": "by a rule in the hub", "cloud": "by a scene in the cloud", "bus": "over a data cable"}
	for _, l := range c.Links {
		out = append(out, c.Called(l.From)+" tells "+c.Called(l.To)+", "+over[l.Via])
	}
	if c.Automation == nil {
		return out
	}
	for _, r := range c.Automation.Rules {
		out = append(out, fmt.Sprintf("%s at %s: %s is told %s, over %s", GestureWords(r.When.Event), c.Called(r.When.Device), c.Called(r.Then.Device), r.Then.Action, r.Via))
	}
	for _, m := range c.Automation.Mirrors {
		text := c.Called(m.From) + " is copied to " + c.Called(m.To)
		if m.Both {
			text += ", and the other way round"
		}
		out = append(out, text+", over "+m.Via)
	}
	return out
}
