package circuit_test

import (
	"testing"

	"ambivia/core/circuit"
)

// TestCalled: a device is called by its own name, by its box where that cannot be mistaken, else by its id.
func TestCalled(t *testing.T) {
	c := &circuit.Circuit{
		Boxes: []circuit.Box{{ID: "b1", Name: "Landing rose"}, {ID: "b2", Name: "Wheel pit"}, {ID: "b3", Name: "  "}},
		Devices: []circuit.Device{
			{ID: "lamp1", Type: circuit.TypeLamp, Box: "b1"},
			{ID: "s1", Type: "switch-2way", Box: "b1"},
			{ID: "lamp2", Type: circuit.TypeLamp, Box: "b2"},
			{ID: "lamp3", Type: circuit.TypeLamp, Box: "b2", Name: "Pit lamp"},
			{ID: "lamp4", Type: circuit.TypeLamp, Box: "b3"},
			{ID: "lamp5", Type: circuit.TypeLamp, Box: "nowhere"},
		},
	}
	for id, want := range map[string]string{"lamp1": "Landing rose", "lamp2": "lamp2", "lamp3": "Pit lamp", "lamp4": "lamp4", "lamp5": "lamp5", "gone": "gone"} {
		if got := c.Called(id); got != want {
			t.Errorf("%s is called %q, want %q", id, got, want)
		}
	}
}
