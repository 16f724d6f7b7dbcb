package retrofit

import (
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
)

// NeedsHub reports whether a device of the finished work needs a hub: its model does, or it may have one and tells or hears another
// device through it.
func NeedsHub(after *circuit.Circuit, id string, model device.Device) bool {
	return model.Hub == "needed" || model.Hub == "optional" && slices.ContainsFunc(after.Links, func(l circuit.Link) bool {
		return l.Via == "hub" && (l.From == id || l.To == id)
	})
}

// HubFor is the kind of hub that a model speaks to, by its radios.
func HubFor(model device.Device) string { return strings.Join(model.Radio, " or ") }

// Hubs lists the kinds of hub that a feasible option of a plan needs, each once.
func (o *Option) Hubs() []string { return o.hubs }

func (o *Option) hubsOf(library *device.Library) []string {
	out := []string{}
	for _, x := range o.Devices {
		d, known := library.Get(x.Device)
		if known && o.After != nil && o.After.Device(x.ID) != nil && NeedsHub(o.After, x.ID, d) && !slices.Contains(out, HubFor(d)) {
			out = append(out, HubFor(d))
		}
	}
	return out
}
