package retrofit

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/inspect"
	"ambivia/core/names"
)

// best is what stands first for some wishes.
func best(t *testing.T, c *circuit.Circuit, w Wishes) (Option, *Result) {
	t.Helper()
	if err := w.Validate(); err != nil {
		t.Fatal(err)
	}
	a := planFor(c, Request{Wishes: w})
	if len(a.Options) == 0 || !a.Options[0].Feasible {
		t.Fatal("nothing fits")
	}
	return a.Options[0], a
}

// TestWishes: what stands first meets each single wish that any option meets, and every
// option says truly whether it does.
func TestWishes(t *testing.T) {
	c := circuittest.Straight()
	for _, wish := range WishWords {
		w := Wishes{Wishes: map[string]string{wish.ID: Must}, Colour: "black", Radio: []string{"wifi"}, Budget: 40}
		first, a := best(t, c, w)
		able := slices.ContainsFunc(a.Options, func(o Option) bool { return o.Feasible && o.Wishes[0].Met })
		if able != first.Wishes[0].Met {
			t.Errorf("%s: some option meets it: %t; %s, which stands first: %t", wish.ID, able, first.ID, first.Wishes[0].Met)
		}
		if able != (len(a.Conflicts) == 0) {
			t.Errorf("%s: met by some %t, and the conflicts are %v", wish.ID, able, a.Conflicts)
		}
	}
	first, _ := best(t, c, Wishes{Wishes: map[string]string{BudgetWish: Must}, Budget: 40})
	if first.Metrics.Price > 40 {
		t.Errorf("%s costs %g", first.ID, first.Metrics.Price)
	}
}

// TestConflict: two musts that no wiring meets together are named, and no third.
func TestConflict(t *testing.T) {
	_, a := best(t, circuittest.Straight(), Wishes{Wishes: map[string]string{DimAll: Must, KeepSwitches: Must, NoBattery: Must}})
	if len(a.Conflicts) != 1 || !slices.Equal(a.Conflicts[0].Wishes, []string{DimAll, KeepSwitches}) {
		t.Errorf("conflicts: %v", a.Conflicts)
	}
}

// TestWishesFromOutside: a file of wishes is refused with the place of what is wrong.
func TestWishesFromOutside(t *testing.T) {
	for text, want := range map[string]string{
		`{"wishes": {"gold": "must"}}`: "wishes.gold", `{"wishes": {"scenes": "please"}}`: "neither must nor nice", `{"wishes": {"budget": "nice"}}`: "budget",
		`{"schools": {"hub": "abroad"}}`: "schools.hub", `{"schools": {"tea": "milk"}}`: "schools.tea", `{"hoursPerDay": 25}`: "hoursPerDay", `{"wish": {}}`: "unknown field", `[`: "wishes",
	} {
		if _, err := ReadWishes(strings.NewReader(text)); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v; want %q", text, err, want)
		}
	}
	if _, err := ReadWishes(strings.NewReader(`{"wishes": {"dim-one": "nice"}, "schools": {"hub": "cloud"}, "energyPrice": 0.3}`)); err != nil {
		t.Error(err)
	}
}

// TestSchools: each answer but the default moves an option that it is about.
func TestSchools(t *testing.T) {
	c := circuittest.Straight()
	rank := func(w Wishes, strategy string) int {
		_, a := best(t, c, w)
		return slices.IndexFunc(a.Options, func(o Option) bool { return o.Strategy == strategy })
	}
	for _, k := range []struct{ convention, answer, strategy string }{
		{conventionReplace, "all", MainAux}, {conventionLoad, "joined", PoweredJoined}, {conventionModule, "module", ChangeoverRelay}, {conventionLamps, "lamps", SmartLamps},
	} {
		was, now := rank(Wishes{}, k.strategy), rank(Wishes{Conventions: map[string]string{k.convention: k.answer}}, k.strategy)
		if now >= was {
			t.Errorf("%s=%s: %s stood at %d and stands at %d", k.convention, k.answer, k.strategy, was, now)
		}
	}
	for _, s := range Conventions {
		if !slices.ContainsFunc(s.Choices, func(x ConventionChoice) bool { return x.ID == s.Default }) || s.Why == "" {
			t.Errorf("%s: the default is no choice, or nobody says why", s.ID)
		}
	}
}

// TestSpares: a traveler that is left over is capped at both ends; who asks for it has it
// joined to the other one instead, at both ends, said as what it is, and all else proved.
func TestSpares(t *testing.T) {
	c := circuittest.Straight()
	parallel := func(o Option) int {
		return len(slices.DeleteFunc(inspect.Check(o.After).Findings, func(f inspect.Finding) bool { return f.Code != "parallel-cores" }))
	}
	tied := 0
	_, capping := best(t, c, Wishes{})
	for _, o := range capping.Options {
		if o.Feasible && parallel(o) > 0 {
			t.Errorf("%s ties cores together unasked", o.ID)
		}
	}
	_, joining := best(t, c, Wishes{Conventions: map[string]string{conventionSpares: "join"}})
	for _, o := range joining.Options {
		if !o.Feasible || parallel(o) == 0 {
			continue
		}
		tied++
		says := slices.ContainsFunc(o.Checks, func(x Check) bool { return x.Code == "not-parallel" && strings.Contains(x.Text, "Your setting") })
		if !says || !slices.ContainsFunc(o.Cons, func(x string) bool { return strings.Contains(x, "Spare travelers") }) {
			t.Errorf("%s does not say that it ties cores together: %v", o.ID, o.Cons)
		}
	}
	if tied == 0 {
		t.Error("nobody's spare traveler is joined")
	}
}

// TestPowerBack: after a power cut each place works that worked before, in every family.
func TestPowerBack(t *testing.T) {
	for _, o := range Plan(circuittest.Straight()).Options {
		if !o.Feasible {
			continue
		}
		i := slices.IndexFunc(o.Outages, func(x Outage) bool { return x.When == "power" })
		if i < 0 || len(o.Outages[i].Lost) > 0 || len(o.Outages[i].Works) != len(o.Places) {
			t.Errorf("%s: %+v", o.ID, o.Outages)
		}
	}
}

// TestLoads: devices that do not carry the lamps are left out, and the option says which
// limit it was; a minimum load asks for a bypass; broken fins carry less.
func TestLoads(t *testing.T) {
	lamps := func(kind string, watts float64) *circuit.Circuit {
		c := circuittest.Straight()
		for i, d := range c.Devices {
			if d.Type == circuit.TypeLamp {
				c.Devices[i].Load, c.Devices[i].Watts, c.Devices[i].Count = kind, &watts, nil
			}
		}
		return c
	}
	find := func(c *circuit.Circuit, strategy string) Option {
		t.Helper()
		a := Plan(c)
		i := slices.IndexFunc(a.Options, func(o Option) bool { return o.Strategy == strategy && o.Family != "" })
		return a.Options[i]
	}
	if o := find(lamps("incandescent", 700), MainRemote); o.Devices[0].Device != "radio-switch" {
		t.Errorf("700 W of incandescent hang on a %s", o.Devices[0].Device)
	}
	if o := find(lamps("incandescent", 2000), MainRemote); o.Feasible || o.Reasons[0].Code != "load-limit" {
		t.Errorf("2,000 W: %v", o.Reasons)
	}
	if o := find(lamps("motor", 100), NoNeutralAux); o.Feasible || o.Reasons[0].Code != "load-kind" {
		t.Errorf("a motor: %v", o.Reasons)
	}
	still := lamps("led", 20)
	no := false
	for i := range still.Devices {
		if still.Devices[i].Type == circuit.TypeLamp {
			still.Devices[i].Dimmable = &no
		}
	}
	for _, o := range Plan(still).Options {
		if o.Feasible && o.Strategy != SmartLamps && slices.ContainsFunc(o.Places, func(q Place) bool { return q.Dims }) {
			t.Errorf("%s dims lamps that may not be dimmed", o.ID)
		}
	}
	small := find(lamps("led", 9), NoNeutralAux)
	if !slices.ContainsFunc(small.Checks, func(c Check) bool { return c.Code == "load" && strings.Contains(c.Text, "bypass") }) {
		t.Errorf("9 W through a dimmer that needs 25: %v", small.Checks)
	}
	d, _ := device.NewLibrary(nil).Get("dimmer-no-neutral")
	whole, _ := d.WithFins(0).Of("halogen")
	both, _ := d.WithFins(2).Of("halogen")
	led, _ := d.WithFins(2).Of("led")
	if whole != 600 || both != 400 || led != 150 {
		t.Errorf("halogen %g W, with fins off on both sides %g W, led then %g W", whole, both, led)
	}
}

// TestOutages: what fails when, for a kind of each.
func TestOutages(t *testing.T) {
	lost := map[string]map[string]int{ // strategy → outage → places that are lost, of two
		SensingSwitch: {"hub": 0, "internet": 0, "device": 1}, MainAux: {"hub": 0, "device": 2}, MainRemote: {"battery": 1, "device": 2},
		Messages: {"hub": 1, "internet": 0, "device": 2}, SmartLamps: {"battery": 2}, CentralModule: {"hub": 0, "device": 2},
	}
	seen := 0
	for _, o := range Plan(circuittest.Straight()).Options {
		want := lost[o.Strategy]
		if !o.Feasible || o.Strategy == Messages && strings.Contains(o.ID, "cloud") {
			continue
		}
		for _, x := range o.Outages {
			if n, told := want[x.When]; told && !(o.Strategy == MainRemote && x.When == "hub") {
				seen++
				if len(x.Lost) != n || len(x.Works)+len(x.Lost) != len(o.Places) {
					t.Errorf("%s, %s: %v lost, %v work", o.ID, x.When, x.Lost, x.Works)
				}
			}
		}
	}
	if seen < 12 {
		t.Errorf("only %d outages were looked at", seen)
	}
	for _, o := range Plan(circuittest.Straight()).Options {
		if o.Feasible && strings.Contains(o.ID, "cloud-switch") {
			for _, x := range o.Outages {
				if x.When == "internet" && len(x.Lost) != 1 {
					t.Errorf("%s without the internet: %v lost", o.ID, x.Lost)
				}
			}
		}
	}
}

// TestKits: an alternative is wired just so; the choice of it outlives other wishes.
func TestKits(t *testing.T) {
	c := circuittest.Straight()
	tried := 0
	for _, o := range Plan(c).Options {
		if !o.Feasible {
			continue
		}
		for _, a := range o.Alternatives {
			other := OfferFor(inspect.Compile(c), Request{Wishes: Wishes{Wishes: map[string]string{DimAll: Must}}}, o.ID+":"+a.Kit)
			if other == nil || other.Kit != a.Kit || len(other.Changes) != len(o.Changes) {
				t.Fatalf("%s with %s is not offered, or wired otherwise", o.ID, a.Kit)
			}
			tried++
		}
		if again := Offer(c, o.ID+":"+o.Kit); o.Kit != "" && (again == nil || again.Kit != o.Kit) {
			t.Errorf("%s with its own devices is not offered", o.ID)
		}
	}
	if tried < 5 {
		t.Errorf("%d alternatives", tried)
	}
	if Offer(c, "main-aux-b1:perpetual") != nil {
		t.Error("devices that nobody knows are offered")
	}
}

// TestOwnModel: a person's own model is planned with like any other.
func TestOwnModel(t *testing.T) {
	d, _ := device.NewLibrary(nil).Get("sensing-either")
	d.ID, d.Price = "own-sensor", 1
	a := planFor(circuittest.Straight(), Request{Library: device.NewLibrary([]device.Device{d}), Wishes: Wishes{Wishes: map[string]string{BudgetWish: Must}, Budget: 5}})
	if !slices.ContainsFunc(a.Options, func(o Option) bool {
		return o.Feasible && (o.Devices[0].Device == "own-sensor" || slices.ContainsFunc(o.Alternatives, func(x Alternative) bool { return x.Kit == "own-sensor" }))
	}) {
		t.Error("no option knows the model")
	}
}

// TestNewCable: where no neutral can be brought, a cable that could is offered, drawn beside
// the old one, proved, and ranked behind what needs none.
func TestNewCable(t *testing.T) {
	c := read(t, threeBoxes, feedAtLamp[0], feedAtLamp[1])
	a := Plan(c)
	found := 0
	for i, o := range a.Options {
		if o.Metrics == nil || o.Metrics.NewCables == 0 {
			continue
		}
		found++
		prove(t, o.ID, c, o)
		for _, k := range o.After.Cables {
			for _, core := range k.Cores {
				for _, box := range k.Ends {
					if ref := (circuit.Ref{Owner: k.ID, Part: core}); c.Cable(k.ID) == nil && circuit.GroundColour(core) && o.After.JoinOf(*box, ref) < 0 {
						t.Errorf("%s: the ground of %s is joined to nothing in %s", o.ID, k.ID, *box)
					}
				}
			}
		}
		if len(o.After.Cables) != len(c.Cables)+1 || a.Options[0].Metrics.NewCables > 0 || i == 0 {
			t.Errorf("%s: %d cables", o.ID, len(o.After.Cables))
		}
		if again := Offer(c, o.ID+":"+o.Kit); again == nil || again.Metrics.NewCables != 1 {
			t.Errorf("%s is not offered again", o.ID)
		}
	}
	if found == 0 {
		t.Error("no new cable is offered")
	}
}

// TestWhy: every core that carries a net of the plan says why it is this one.
func TestWhy(t *testing.T) {
	for _, o := range Plan(circuittest.Straight()).Options {
		if !o.Feasible {
			continue
		}
		if len(o.Conductors) == 0 {
			t.Errorf("%s: no core has a reason", o.ID)
		}
		for _, c := range o.Conductors {
			if c.Text == "" || !strings.HasSuffix(c.Text, ".") {
				t.Errorf("%s: %s: %q", o.ID, c.Core, c.Text)
			}
		}
	}
}

// TestSmallestChange: every reason names a box, a cable, a device or a limit, and what
// would free the plan where more cores would.
func TestSmallestChange(t *testing.T) {
	c := read(t, threeBoxes, feedAtLamp[0], feedAtLamp[1])
	for _, o := range Plan(c).Options {
		for _, r := range o.Reasons {
			if r.thin != nil && !strings.Contains(r.Text, "would free it") {
				t.Errorf("%s: %s", o.ID, r.Text)
			}
			if strings.Contains(r.Text, "{") || r.Text != names.Capitalize(r.Text) {
				t.Errorf("%s: %q", o.ID, r.Text)
			}
		}
	}
}
