package circuit

import "testing"

// TestLampWatts: each lamp counts as often as it stands for; one without watts, and what is no lamp, for nothing.
func TestLampWatts(t *testing.T) {
	watts, three := 9.5, 3
	c := &Circuit{Devices: []Device{{Type: TypeLamp, Watts: &watts, Count: &three}, {Type: TypeLamp, Watts: &watts}, {Type: TypeLamp}, {Type: TypeSmart, Watts: &watts}}}
	if got := c.LampWatts(); got != 38 {
		t.Errorf("%v W, want 38", got)
	}
}
