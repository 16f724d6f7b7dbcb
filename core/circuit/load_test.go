package circuit

import (
	"slices"
	"testing"
)

// TestLoad: each lamp counts as often as it stands for, by its kind; one without watts is counted as unknown, and what is no
// lamp for nothing; a supply's own amperes come before those of the circuit.
func TestLoad(t *testing.T) {
	watts, three, no := 9.5, 3, false
	c := &Circuit{Devices: []Device{
		{ID: "a", Type: TypeLamp, Watts: &watts, Count: &three, Load: "led"}, {ID: "b", Type: TypeLamp, Watts: &watts, Load: "incandescent"},
		{ID: "c", Type: TypeLamp, Count: &three, Dimmable: &no}, {ID: "d", Type: TypeSmart, Watts: &watts}, {ID: "e", Type: TypeLamp, Watts: &watts, Load: "led"},
	}}
	all := c.Load()
	if all.Total() != 47.5 || all.Watts["led"] != 38 || all.Lamps != 8 || all.Unknown != 3 || !all.Fixed || all.Known() || !slices.Equal(all.Kinds(), []string{"", "incandescent", "led"}) {
		t.Errorf("all of them: %+v", all)
	}
	if two := c.LoadOf([]string{"a", "b", "d"}); !two.Known() || two.Total() != 38 || two.Fixed || two.Lamps != 4 {
		t.Errorf("two of them: %+v", two)
	}
	own, whole := 30.0, 15.0
	supplied := &Circuit{Supply: &Supply{BreakerAmps: &whole}}
	for _, x := range []struct {
		supply Device
		want   float64
	}{{Device{Type: TypeSupply, Amps: &own}, 30}, {Device{Type: TypeSupply}, 15}} {
		if got, ok := supplied.Amps(x.supply); !ok || got != x.want {
			t.Errorf("%g A, want %g", got, x.want)
		}
	}
	if _, ok := c.Amps(Device{Type: TypeSupply}); ok {
		t.Error("amperes without a record of them")
	}
}
