package circuit

// Push-buttons and the impulse relays that they step are found in boxes as plain switches are, but do what a model says: a button
// closes while it is held, a relay changes at each pulse. Both are recorded as devices with a model of these names.
const (
	FoundButton = "push-button"
	FoundRelay  = "impulse-relay"
)

// FoundTypes are what one finds that is recorded with a model.
var FoundTypes = []string{FoundButton, FoundRelay}

// FoundModel is how such a thing behaves; ok is false for any other name. Screws of a push-button are alike: whichever stands on
// line, the other gives the pulse.
func FoundModel(name string) (m Model, ok bool) {
	switch name {
	case FoundButton:
		return Model{Terminals: []string{"a", "b"}, Supply: [][2]string{}, Button: &Button{Pulse: "b", From: "a"}}, true
	case FoundRelay:
		return Model{
			Terminals: []string{"line", "load", "neutral", "signal"}, Supply: [][2]string{{"line", "neutral"}},
			Switches: []Relay{{ID: "out", Pole: "line", Throws: []string{"load"}}},
			Inputs:   []Input{{Terminal: "signal", On: "pulse", Toggles: "out"}},
		}, true
	}
	return Model{}, false
}

// Found reports whether a device was there before, and did not come with a plan: all but smart ones, and what is recorded with a
// model of [FoundTypes].
func (d Device) Found() bool {
	return d.FoundType() != TypeSmart
}

// FoundType is what the device is called among all that one finds: its type, or the name of its model.
func (d Device) FoundType() string {
	if _, found := FoundModel(d.Model); found && d.Type == TypeSmart {
		return d.Model
	}
	return d.Type
}
