package schedule

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"
)

// inDenver is a use with an evening and a night light, a detector and an alarm.
func inDenver(t *testing.T) (*Use, func(text string) time.Time) {
	t.Helper()
	daily := []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}
	u := &Use{Zone: "America/Denver", Latitude: 39.7, Longitude: -105, Load: Load{Watts: 50, Most: 80, Least: 12}, Schedules: []Schedule{
		{Name: "evening", Days: daily, At: "18:00", On: true},
		{Name: "night light", Days: daily, At: "22:30", On: true, Level: 5},
		{Name: "", Days: daily, At: "23:45"},
	}, Inputs: []Input{{Name: "smoke, loft", Kind: "smoke"}, {Name: "alarm", Kind: "alarm", Level: 60}}}
	if err := u.Check(); err != nil {
		t.Fatal(err)
	}
	return u, func(text string) time.Time {
		at, err := time.ParseInLocation("2006-01-02 15:04", text, u.location())
		if err != nil {
			t.Fatal(err)
		}
		return at
	}
}

func told(due []Due) string {
	var out []string
	for _, d := range due {
		out = append(out, fmt.Sprintf("%s %s on=%v %d held=%v", d.At.Format("02 15:04"), d.By, d.On, d.Level, d.Held))
	}
	return strings.Join(out, "; ")
}

// TestKeeper lets a night pass: levels stay between the highest and the lowest, an alarm holds the light, what a schedule
// asked meanwhile comes when the last is reset, and a clock put back does nothing.
func TestKeeper(t *testing.T) {
	u, at := inDenver(t)
	k := NewKeeper(u, at("2026-12-24 17:00").UTC())
	same := func(what, got, want string) {
		t.Helper()
		if got != want {
			t.Errorf("%s: %s\nwant %s", what, got, want)
		}
	}
	next, ok := k.Next()
	same("next", told([]Due{next}), "24 18:00 evening on=true 80 held=false")
	same("to half past ten", told(k.Pass(at("2026-12-24 22:30"))), "24 18:00 evening on=true 80 held=false; 24 22:30 night light on=true 12 held=false")
	raised, err := k.Raise(0)
	same("smoke", told(raised), "24 22:30 smoke, loft on=true 80 held=false")
	again, err2 := k.Raise(0)
	both, err3 := k.Raise(1)
	if !ok || err != nil || err2 != nil || err3 != nil || len(again) > 0 || both[0].Level != 60 {
		t.Errorf("%v %v %v %v, again %v, alarm %v", ok, err, err2, err3, again, both)
	}
	same("held", told(k.Pass(at("2026-12-24 23:50"))), "24 23:45 off at 23:45 on=false 0 held=true")
	if one, err := k.Reset(0); err != nil || len(one) > 0 || !k.Raised(1) || k.Raised(0) {
		t.Errorf("one of two is reset: %v, %v", one, err)
	}
	last, err := k.Reset(1)
	same("reset", told(last), "24 23:50 off at 23:45, which waited on=false 0 held=false")
	if _, err2 := k.Reset(1); err != nil || err2 == nil {
		t.Errorf("reset: %v, and again: %v", err, err2)
	}
	if _, err := k.Raise(2); err == nil {
		t.Error("an input that is not there went off")
	}
	u.Inputs[0].Lights = []string{"Cellar"} // of another group
	other := NewKeeper(u, at("2026-12-24 17:00"), "Stair", "Loft")
	if due, err := other.Raise(0); err != nil || len(due) > 0 || !other.Raised(0) {
		t.Errorf("an alarm of another group: %v, %v", due, err)
	}
	same("not held", told(other.Pass(at("2026-12-24 18:00"))), "24 18:00 evening on=true 80 held=false")
	if due, err := NewKeeper(u, at("2026-12-24 17:00"), "Stair", "Cellar").Raise(0); err != nil || len(due) != 1 {
		t.Errorf("an alarm of its group: %v, %v", due, err)
	}
	same("back", told(k.Pass(at("2026-12-24 12:00"))), "")
	if n := len(k.Pass(at("2029-01-01 12:00"))); n != mostAtOnce {
		t.Errorf("years at once: %d", n)
	}
	bare := NewKeeper(&Use{Zone: "UTC"}, at("2026-12-24 12:00"))
	if _, ok := bare.Next(); ok || len(bare.Pass(at("2027-12-24 12:00"))) > 0 {
		t.Error("something is due where there are no schedules")
	}
}

// TestLeast: no level below the lowest that holds steady is used, which takes its energy and is told of the schedule that asks
// for less; the highest may not lie below it.
func TestLeast(t *testing.T) {
	u, _ := inDenver(t)
	y := u.year(t, 2026)
	u.Load.Least = 0
	free := u.year(t, 2026)
	// 75 minutes a night at 5 % of 50 W, and at 12 %.
	hours := 365 * 1.25
	if more := y.KWh - free.KWh; !near(more, hours*50*0.07/1000) {
		t.Errorf("%v kWh more", more)
	}
	var kinds []string
	for _, c := range y.Conflicts {
		kinds = append(kinds, c.Kind+" "+fmt.Sprint(c.Days))
	}
	if got := strings.Join(kinds, ", "); got != "below 365" || !strings.Contains(y.Conflicts[0].Text, "“night light” asks for 5 %") {
		t.Errorf("conflicts: %s: %v", got, y.Conflicts)
	}
	if len(free.Conflicts) > 0 {
		t.Errorf("without a lowest level: %v", free.Conflicts)
	}
	u.Load.Least = 90
	if err := u.Check(); err == nil {
		t.Error("the lowest level lies above the highest")
	}
}

// TestUseInWords: what is entered elsewhere is said line by line, at the level that is used.
func TestUseInWords(t *testing.T) {
	u, _ := inDenver(t)
	u.Load.Most = 0
	u.Schedules[2].Days, u.Schedules[1].At, u.Schedules[1].Offset = []string{"sat", "sun"}, "sunset", -15
	u.Inputs[1].Lights, u.Away = []string{"Cellar", "Stair"}, &Away{From: "2026-12-24", To: "2027-01-02"}
	want := []string{
		"evening: on at full, at 18:00", "night light: on at 12 %, 15 min before sunset", "off, at 23:45, on sat, sun",
		"smoke, loft: on at full until it is reset, whatever the schedules say", "alarm: on at 60 % until it is reset, whatever the schedules say; lights: Cellar, Stair",
		"from 2026-12-24 to 2027-01-02 in the evening now and then, as if somebody were home",
	}
	if got := u.Words(); !slices.Equal(got, want) {
		t.Errorf("in words:\n%s", strings.Join(got, "\n"))
	}
}
