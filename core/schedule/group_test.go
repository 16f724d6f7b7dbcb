package schedule

import (
	"slices"
	"testing"
	"time"
)

// TestGroups: a detector that was entered with one light turns on those of its group, or all of the job, and holds them
// against their own schedules until it is reset.
func TestGroups(t *testing.T) {
	evening := Schedule{Days: weekdays[:], At: "18:00"}
	stair := &Use{Zone: "UTC", Schedules: []Schedule{evening}}
	loft := Light{"Loft", &Use{Zone: "UTC", Inputs: []Input{
		{Name: "smoke", Kind: "smoke"}, {Name: "yard alarm", Kind: "alarm", Level: 40, Lights: []string{"Yard", "Stair"}}, {Name: "cellar alarm", Kind: "alarm", Lights: []string{"Cellar"}},
	}}}
	reaching := Reaching([]Light{loft, {"Attic", &Use{}}}, "Tower", "Stair")
	var names []string
	for _, in := range reaching {
		names = append(names, in.Name)
	}
	if want := []string{"smoke, of Loft", "yard alarm, of Loft"}; !slices.Equal(names, want) {
		t.Fatalf("%v reach it, not %v", names, want)
	}
	if loft.Use.Inputs[0].Name != "smoke" || len(stair.Inputs) > 0 {
		t.Error("what was entered is changed")
	}
	noon := time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC)
	k := NewKeeper(stair.With(reaching), noon, "Tower", "Stair")
	due, err := k.Raise(1)
	if err != nil || len(due) != 1 || !due[0].On || due[0].Level != 40 || due[0].By != "yard alarm, of Loft" {
		t.Errorf("the alarm: %+v, %v", due, err)
	}
	if held := k.Pass(noon.Add(7 * time.Hour)); len(held) != 1 || !held[0].Held {
		t.Errorf("the schedule goes on: %+v", held)
	}
	if back, err := k.Reset(1); err != nil || len(back) != 1 || back[0].On {
		t.Errorf("after it is reset: %+v, %v", back, err)
	}
}
