package schedule

import (
	"context"
	"errors"
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"
)

// TestSun holds sunrise and sunset against what almanacs print, to three minutes: north, south, near the equator, east and
// west of the date line, and where the sun does not set or rise.
func TestSun(t *testing.T) {
	for _, x := range []struct {
		place               string
		latitude, longitude float64
		zone, date          string
		rise, set           string // by the clock there; "" where it does not
	}{
		{"London", 51.5074, -0.1278, "Europe/London", "2026-06-21", "04:43", "21:21"},
		{"London", 51.5074, -0.1278, "Europe/London", "2026-12-21", "08:03", "15:53"},
		{"New York", 40.7128, -74.0060, "America/New_York", "2026-06-21", "05:25", "20:31"},
		{"New York", 40.7128, -74.0060, "America/New_York", "2026-12-21", "07:17", "16:32"},
		{"Sydney", -33.8688, 151.2093, "Australia/Sydney", "2026-06-21", "07:00", "16:54"},
		{"Sydney", -33.8688, 151.2093, "Australia/Sydney", "2026-12-22", "05:41", "20:05"},
		{"Quito", -0.1807, -78.4678, "America/Guayaquil", "2026-03-20", "06:17", "18:24"},
		{"Apia", -13.8333, -171.7667, "Pacific/Apia", "2026-06-21", "06:50", "18:08"},
		{"Tromsø", 69.6492, 18.9553, "Europe/Oslo", "2026-06-21", "", ""},
		{"Tromsø", 69.6492, 18.9553, "Europe/Oslo", "2026-12-21", "", ""},
	} {
		zone, err := time.LoadLocation(x.zone)
		if err != nil {
			t.Fatal(err)
		}
		day, err := time.ParseInLocation(time.DateOnly, x.date, zone)
		if err != nil {
			t.Fatal(err)
		}
		rise, set := Sun(day, x.latitude, x.longitude)
		for _, event := range []struct {
			want string
			got  time.Time
		}{{x.rise, rise}, {x.set, set}} {
			want, got := event.want, event.got
			if got.IsZero() != (want == "") {
				t.Errorf("%s, %s: %v, want %q", x.place, x.date, got, want)
			}
			if want == "" {
				continue
			}
			w, err := time.ParseInLocation("2006-01-02 15:04", x.date+" "+want, zone)
			if err != nil {
				t.Fatal(err)
			}
			if d := got.Sub(w).Abs(); d > 3*time.Minute {
				t.Errorf("%s, %s: %v, want %s", x.place, x.date, got, want)
			}
		}
	}
}

var every = []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}

func hall() *Use {
	return &Use{Zone: "Europe/London", Latitude: 51.5, Longitude: -0.1, Schedules: []Schedule{
		{Name: "evening", Days: every, At: "18:00", On: true, Level: 50}, {Name: "night", Days: every, At: "23:00"},
	}, Load: Load{Watts: 60, Standby: 1}, Tariff: Tariff{Price: 0.30}, TodayHours: 6}
}

func (u *Use) year(t *testing.T, year int) *Year {
	t.Helper()
	if err := u.Check(); err != nil {
		t.Fatal(err)
	}
	y, err := u.Of(context.Background(), year)
	if err != nil {
		t.Fatal(err)
	}
	return y
}

func near(got, want float64) bool { return math.Abs(got-want) < 1e-6*math.Max(1, math.Abs(want)) }

// TestYear works a year out by hand: five hours at half of 60 W and 1 W all the time, 365 days.
func TestYear(t *testing.T) {
	y := hall().year(t, 2026)
	kWh := 365.0 * (5*30 + 24*1) / 1000
	today := 365.0 * 6 * 60 / 1000
	for name, x := range map[string][2]float64{
		"hours": {y.Hours, 365 * 5}, "energy": {y.KWh, kWh}, "money": {y.Cost, kWh * 0.30}, "standby": {y.Standby.KWh, 365.0 * 19 / 1000},
		"today": {y.Today.KWh, today}, "saved": {y.Saved.Cost, (today - kWh) * 0.30}, "without a cap": {y.Uncapped.KWh, kWh}, "February": {y.Months[1].Hours, 28 * 5},
	} {
		if !near(x[0], x[1]) {
			t.Errorf("%s: %v, want %v", name, x[0], x[1])
		}
	}
	leap := hall().year(t, 2028)
	if !near(leap.Hours, 366*5) || !near(leap.Months[1].Hours, 29*5) {
		t.Errorf("a leap year has %v hours, its February %v", leap.Hours, leap.Months[1].Hours)
	}

	capped := hall()
	capped.Schedules[0].Level, capped.Load.Most = 0, 80
	y = capped.year(t, 2026)
	if want := 365 * 5 * 12.0 / 1000; !near(y.SavedByCap.KWh, want) {
		t.Errorf("80 %% of the level saves %v kWh, want %v", y.SavedByCap.KWh, want)
	}

	// Measured levels: 10 W at 20 %, 60 at 100; half is between them.
	table := hall()
	table.Load.Table = []LevelOfWatts{{20, 10}, {100, 60}}
	for level, want := range map[int]float64{10: 5, 20: 10, 50: 28.75, 100: 60} {
		if got := table.Load.wattsAt(level); !near(got, want) {
			t.Errorf("at %d %%: %v W, want %v", level, got, want)
		}
	}
}

// TestTariff: cheap hours over midnight; on the days on which the clock is changed a day has 23 or 25 hours, and its hours are
// those of the clock.
func TestTariff(t *testing.T) {
	u := hall()
	u.Schedules, u.Load, u.TodayHours = nil, Load{Standby: 1000}, 0
	u.Tariff = Tariff{Price: 1, Bands: []Band{{Hours{"22:00", "06:00"}, 0}}}
	y := u.year(t, 2026)
	if !near(y.KWh, 365*24) || !near(y.Cost, 365*16) {
		t.Errorf("%v kWh for %v: 16 of 24 hours are paid", y.KWh, y.Cost)
	}
	if march := y.Months[2].KWh; !near(march, 31*24-1) {
		t.Errorf("March has %v hours", march)
	}
}

// TestConflicts names what people will stumble over, with the first day and the number of days.
func TestConflicts(t *testing.T) {
	u := hall()
	u.Home = []Hours{{"19:00", "22:30"}}
	u.Schedules = append(u.Schedules, Schedule{Name: "dusk", Days: every, At: "sunset", On: true}, Schedule{Name: "eight", Days: []string{"sat"}, At: "20:00"})
	y := u.year(t, 2026)
	var person, contrary []Conflict
	for _, c := range y.Conflicts {
		switch c.Kind {
		case Person:
			person = append(person, c)
		case Contrary:
			contrary = append(contrary, c)
		}
	}
	if len(person) != 1 || person[0].Days != 52 || person[0].First != "2026-01-03" || !strings.Contains(person[0].Text, "eight") {
		t.Errorf("off at eight on Saturdays: %+v", person)
	}
	// Sunset comes near eight in the evening in spring and in autumn.
	if len(contrary) != 1 || contrary[0].Days < 2 || contrary[0].Days > 8 || contrary[0].First < "2026-04" || contrary[0].First > "2026-05" {
		t.Errorf("dusk and eight: %+v", contrary)
	}
	north := hall()
	north.Latitude, north.Longitude, north.Zone = 69.65, 18.96, "Europe/Oslo"
	north.Schedules = []Schedule{{Days: every, At: "sunrise", On: true}}
	if c := north.year(t, 2026).Conflicts; len(c) != 1 || c[0].Kind != Never || c[0].Days < 100 || c[0].Days > 130 {
		t.Errorf("beyond the polar circle: %+v", c)
	}
}

// TestAway: the evenings differ from day to day, come again with the seed, keep to the evening and to the dates.
func TestAway(t *testing.T) {
	u := hall()
	u.Schedules, u.Away = nil, &Away{"2026-07-10", "2026-07-20", 7}
	zone := u.location()
	evenings := func() (out [][]event) {
		for d := 9; d <= 21; d++ {
			out = append(out, u.eventsOf(time.Date(2026, 7, d, 0, 0, 0, 0, zone)))
		}
		return out
	}
	first := evenings()
	if !reflect.DeepEqual(first, evenings()) {
		t.Error("the same seed gives other evenings")
	}
	times := map[string]bool{}
	for i, day := range first {
		inside := i > 0 && i < 12
		if (len(day) > 0) != inside || len(day)%2 != 0 {
			t.Errorf("July %d: %v", 9+i, day)
		}
		for k, e := range day {
			if e.on != (k%2 == 0) || e.at.Hour() < 17 || k > 0 && !e.at.After(day[k-1].at) {
				t.Errorf("July %d: %v", 9+i, day)
			}
			times[e.at.Format("15:04")] = true
		}
	}
	if len(times) < 20 {
		t.Errorf("only %d different times", len(times))
	}
	u.Away.Seed = 8
	if reflect.DeepEqual(first, evenings()) {
		t.Error("another seed gives the same evenings")
	}
}

// TestPolarDays: at the edges of the polar day and night there are days with either alone, and each is taken.
func TestPolarDays(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Oslo")
	if err != nil {
		t.Fatal(err)
	}
	both, one, none, dark := 0, 0, 0, 0
	for day := time.Date(2026, 1, 1, 0, 0, 0, 0, zone); day.Year() == 2026; day = day.AddDate(0, 0, 1) {
		switch rise, set := Sun(day, 69.6492, 18.9553); {
		case !rise.IsZero() && !set.IsZero():
			both++
		case rise.IsZero() && set.IsZero():
			if none++; Dark(day, 69.6492, 18.9553) {
				dark++
			}
		default:
			one++
		}
	}
	if both < 230 || none < 90 || dark < 30 || dark > 70 || none-dark < 50 {
		t.Errorf("%d days with both, %d with one, %d with none, of which %d are dark", both, one, none, dark)
	}
}

// TestNobodyLightsTheDay: who seems to be home turns no light on while the sun is up, and none where it does not set.
func TestNobodyLightsTheDay(t *testing.T) {
	u := hall()
	u.Schedules, u.Away = nil, &Away{From: "2026-06-01", To: "2026-12-31", Seed: 7}
	turned := 0
	u.days(2026, func(day time.Time) {
		_, set := Sun(day, u.Latitude, u.Longitude)
		for _, e := range u.eventsOf(day) {
			if turned++; e.at.Before(set.Truncate(time.Minute)) {
				t.Errorf("%s: on before sunset at %s", e.at, set)
			}
		}
	})
	if turned < 100 {
		t.Errorf("%d turnings in seven months", turned)
	}
	u.Latitude, u.Longitude = 69.6492, 18.9553
	if n := len(u.away(time.Date(2026, 6, 21, 0, 0, 0, 0, u.location()))); n > 0 {
		t.Errorf("%d turnings under the midnight sun", n)
	}
}

// TestYearBeginsAsItEnds: a light left on on the last evening burns into the new year.
func TestYearBeginsAsItEnds(t *testing.T) {
	u := hall()
	u.Schedules = []Schedule{{Name: "on", Days: []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}, At: "22:00", On: true}, {Name: "off", Days: []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}, At: "06:00"}}
	u.Away = nil
	year, err := u.Of(context.Background(), 2026)
	if err != nil {
		t.Fatal(err)
	}
	if january := year.Months[0].Hours; math.Abs(january-31*8) > 0.1 {
		t.Errorf("January has %.2f hours of light, and 31 nights of 8", january)
	}
}

// TestEvents: what is by the clock stands once with its days; what is by the sun on each day of the year, each by an id of
// its own.
func TestEvents(t *testing.T) {
	u := hall()
	u.Schedules = append(u.Schedules, Schedule{Name: "dusk", Days: []string{"mon"}, At: "sunset", Offset: -30, On: true, Level: 40})
	events, ids := u.Events("Hall, upstairs", 2026), map[string]bool{}
	weekly := 0
	for _, e := range events {
		if ids[e.ID] = true; len(e.Weekdays) > 0 {
			weekly++
		}
	}
	if len(events) != 2+52 || weekly != 2 || len(ids) != len(events) {
		t.Errorf("%d events, %d of them weekly, %d ids", len(events), weekly, len(ids))
	}
	if first := events[0]; first.At.Format("2006-01-02 15:04") != "2026-01-01 18:00" || first.Summary != "Hall, upstairs: on at 50 %, evening" || first.Until != 2026 {
		t.Errorf("%+v", first)
	}
}

// TestCheck: each wrong field is named.
func TestCheck(t *testing.T) {
	for place, spoil := range map[string]func(u *Use){
		"zone":                func(u *Use) { u.Zone = "Moon/Tycho" },
		"latitude":            func(u *Use) { u.Latitude = 91 },
		"schedules[0].days":   func(u *Use) { u.Schedules[0].Days = []string{"someday"} },
		"schedules[0].at":     func(u *Use) { u.Schedules[0].At = "24:30" },
		"schedules[0].offset": func(u *Use) { u.Schedules[0].Offset = 10 },
		"schedules[1].level":  func(u *Use) { u.Schedules[1].Level = 10 },
		"schedules":           func(u *Use) { u.Schedules = slices.Repeat(u.Schedules, 30) },
		"away":                func(u *Use) { u.Away = &Away{From: "2026-07-10", To: "2026-07-09"} },
		"inputs[0]":           func(u *Use) { u.Inputs = []Input{{Name: "landing", Kind: "cat"}} },
		"home[0]":             func(u *Use) { u.Home = []Hours{{"10:00", "10:00"}} },
		"table[1]":            func(u *Use) { u.Load.Table = []LevelOfWatts{{50, 20}, {40, 10}} },
		"load":                func(u *Use) { u.Load.Watts = -1 },
		"bands[0].price":      func(u *Use) { u.Tariff.Bands = []Band{{Hours{"10:00", "11:00"}, -1}} },
		"todayHours":          func(u *Use) { u.TodayHours = 25 },
	} {
		u := hall()
		spoil(u)
		var e *Error
		if err := u.Check(); !errors.As(err, &e) || e.Place != place {
			t.Errorf("%s: %v", place, err)
		}
	}
}

// BenchmarkYear works out one year.
func BenchmarkYear(b *testing.B) {
	u := hall()
	for b.Loop() {
		if _, err := u.Of(context.Background(), 2026); err != nil {
			b.Fatal(err)
		}
	}
}

// TestBounds: a light that was tried up to all it can do is not bounded above.
func TestBounds(t *testing.T) {
	for in, want := range map[[2]int][2]int{{5, 80}: {5, 80}, {5, 100}: {5, 0}, {20, 10}: {20, 0}, {0, 0}: {0, 0}, {30, 30}: {30, 30}} {
		if least, most := Bounds(in[0], in[1]); [2]int{least, most} != want {
			t.Errorf("tried from %d to %d: bounded by %d and %d, want %v", in[0], in[1], least, most, want)
		}
	}
}
