// Package schedule says when a light is lit, and what that takes: schedules by the clock and by the sun (sun.go), lights that
// come on as if somebody were home (days.go), what is asked of a light as time passes, with alarms that hold it (keeper.go),
// what of it conflicts (conflicts.go), and the energy and money of a year (energy.go).
package schedule

import (
	"errors"
	"fmt"
	"slices"
	"time"
	_ "time/tzdata" // zones are known on every machine
)

// Use is how a light is used. Latitude and longitude are degrees north and east; the zone is a name such as
// "America/Denver".
type Use struct {
	Zone      string     `json:"zone"`
	Latitude  float64    `json:"latitude"`
	Longitude float64    `json:"longitude"`
	Schedules []Schedule `json:"schedules"`
	Away      *Away      `json:"away,omitempty"`
	Inputs    []Input    `json:"inputs"`
	// Home is when somebody is usually about, by the clock.
	Home   []Hours `json:"home"`
	Load   Load    `json:"load"`
	Tariff Tariff  `json:"tariff"`
	// TodayHours is for how many hours a day the light is lit today, at full level.
	TodayHours float64 `json:"todayHours"`
}

// Schedule turns the light on or off on some days of the week: at a time of the clock, or at sunrise or sunset with an offset.
type Schedule struct {
	Name   string   `json:"name"`
	Days   []string `json:"days"` // "mon" … "sun"
	At     string   `json:"at"`   // "HH:MM", or "sunrise" or "sunset"
	Offset int      `json:"offset,omitempty"`
	On     bool     `json:"on"`
	Level  int      `json:"level,omitempty"` // in percent, of an On; 0 for full
}

// Away turns the light on and off as if somebody were home, from one date to another. The same seed gives the same evenings.
type Away struct {
	From string `json:"from"` // dates as 2026-12-24
	To   string `json:"to"`
	Seed uint64 `json:"seed"`
}

// Input is a detector or an alarm that turns lights on, whatever the schedules say, until it is reset.
type Input struct {
	Name   string   `json:"name"`
	Kind   string   `json:"kind"` // "smoke" or "alarm"
	Level  int      `json:"level,omitempty"`
	Lights []string `json:"lights"` // what is turned on; all where none is named
}

// Hours are from one time of the clock to another, over midnight where that is earlier.
type Hours struct {
	From string `json:"from"`
	To   string `json:"to"`
}

// Load is what the light draws, in watts: at full level, by level in percent where somebody measured it, and with the light
// off. Most is the highest level that is used, in percent, 0 for all of it; Least the lowest at which the lamps hold steady,
// 0 where nobody tried: no lower one is used.
type Load struct {
	Watts   float64        `json:"watts"`
	Table   []LevelOfWatts `json:"table"`
	Standby float64        `json:"standby"`
	Most    int            `json:"most,omitempty"`
	Least   int            `json:"least,omitempty"`
}

// LevelOfWatts is what was measured at one level.
type LevelOfWatts struct {
	Level int     `json:"level"`
	Watts float64 `json:"watts"`
}

// Usual is the use of a light before it is described: no schedule, and the clock of UTC.
func Usual() *Use {
	return &Use{Zone: "UTC", Schedules: []Schedule{}, Inputs: []Input{}, Home: []Hours{}, Load: Load{Table: []LevelOfWatts{}}, Tariff: Tariff{Bands: []Band{}}}
}

// Know fills in what record and plan know of a load: its watts, what the devices take with it off, and the levels between which
// it was tried, 0 for no bound.
func (l *Load) Know(watts, standby float64, lowest, highest int) {
	l.Watts, l.Standby, l.Least, l.Most = watts, standby, lowest, highest
}

// Bounds are the levels between which a light is kept, of those at which it was tried, in percent: a highest of 100, or one below
// the lowest, bounds nothing and is 0.
func Bounds(lowest, highest int) (least, most int) {
	if highest == 100 || highest < lowest {
		return lowest, 0
	}
	return lowest, highest
}

// Tariff is the price of a kilowatt-hour, and of some hours of the day another.
type Tariff struct {
	Price float64 `json:"price"`
	Bands []Band  `json:"bands"`
}

// Band is a time of the day with its own price.
type Band struct {
	Hours
	Price float64 `json:"price"`
}

// Error says what of a use cannot be, and where.
type Error struct {
	Place string // the field
	Text  string
}

// Error implements error.
func (e *Error) Error() string { return e.Place + ": " + e.Text }

func wrong(place, text string, of ...any) error { return &Error{place, fmt.Sprintf(text, of...)} }

// Bounds of a use.
const (
	mostEntries = 40
	mostWatts   = 20_000
	mostPrice   = 1_000_000
	mostOffset  = 360 // minutes
	mostName    = 200
)

// weekdays by the day of the time package.
var weekdays = []string{"sun", "mon", "tue", "wed", "thu", "fri", "sat"}

// Check holds a use against what may be said. The error is an [*Error].
func (u *Use) Check() error {
	if _, err := time.LoadLocation(u.Zone); err != nil || u.Zone == "" || u.Zone == "Local" {
		return wrong("zone", "there is no time zone %q; one is America/Denver", u.Zone)
	}
	if u.Latitude < -90 || u.Latitude > 90 || u.Longitude < -180 || u.Longitude > 180 {
		return wrong("latitude", "degrees north from -90 to 90, degrees east from -180 to 180")
	}
	for field, n := range map[string]int{"schedules": len(u.Schedules), "inputs": len(u.Inputs), "home": len(u.Home), "table": len(u.Load.Table), "bands": len(u.Tariff.Bands)} {
		if n > mostEntries {
			return wrong(field, "%d entries are too many; %d are the most", n, mostEntries)
		}
	}
	for i, s := range u.Schedules {
		if err := s.check(fmt.Sprintf("schedules[%d]", i)); err != nil {
			return err
		}
	}
	if a := u.Away; a != nil {
		from, err := time.Parse(time.DateOnly, a.From)
		to, err2 := time.Parse(time.DateOnly, a.To)
		if errors.Join(err, err2) != nil || to.Before(from) || to.Sub(from) > 366*24*time.Hour {
			return wrong("away", "dates as 2026-12-24, the later after the earlier, a year apart at most")
		}
	}
	for i, in := range u.Inputs {
		if in.Name == "" || len(in.Name) > mostName || in.Kind != "smoke" && in.Kind != "alarm" || in.Level < 0 || in.Level > 100 || len(in.Lights) > mostEntries {
			return wrong(fmt.Sprintf("inputs[%d]", i), "a name, smoke or alarm, and a level from 0 to 100")
		}
	}
	for i, h := range u.Home {
		if err := h.check(fmt.Sprintf("home[%d]", i)); err != nil {
			return err
		}
	}
	for i, b := range u.Tariff.Bands {
		if err := b.check(fmt.Sprintf("bands[%d]", i)); err != nil {
			return err
		}
		if b.Price < 0 || b.Price > mostPrice {
			return wrong(fmt.Sprintf("bands[%d].price", i), "from 0 to %d", mostPrice)
		}
	}
	l := u.Load
	if l.Watts < 0 || l.Watts > mostWatts || l.Standby < 0 || l.Standby > mostWatts || l.Most < 0 || l.Most > 100 {
		return wrong("load", "watts from 0 to %d, the highest level from 0 to 100", mostWatts)
	}
	if l.Least < 0 || l.Least > 100 || l.Most > 0 && l.Least > l.Most {
		return wrong("load.least", "the lowest level from 0 to 100, and not above the highest")
	}
	last := 0
	for i, x := range l.Table {
		if x.Level <= last || x.Level > 100 || x.Watts < 0 || x.Watts > mostWatts {
			return wrong(fmt.Sprintf("table[%d]", i), "levels from 1 to 100, each above the one before, and watts from 0 to %d", mostWatts)
		}
		last = x.Level
	}
	if u.Tariff.Price < 0 || u.Tariff.Price > mostPrice {
		return wrong("price", "from 0 to %d", mostPrice)
	}
	if u.TodayHours < 0 || u.TodayHours > 24 {
		return wrong("todayHours", "from 0 to 24")
	}
	return nil
}

func (s *Schedule) check(place string) error {
	if len(s.Name) > mostName {
		return wrong(place+".name", "at most %d letters", mostName)
	}
	if len(s.Days) == 0 || slices.ContainsFunc(s.Days, func(d string) bool { return !slices.Contains(weekdays, d) }) {
		return wrong(place+".days", "one day at least: mon, tue, wed, thu, fri, sat, sun")
	}
	if s.At != "sunrise" && s.At != "sunset" {
		if _, ok := clock(s.At); !ok {
			return wrong(place+".at", "a time as 21:30, sunrise or sunset")
		}
		if s.Offset != 0 {
			return wrong(place+".offset", "only sunrise and sunset have an offset")
		}
	}
	if s.Offset < -mostOffset || s.Offset > mostOffset {
		return wrong(place+".offset", "from -%d to %d minutes", mostOffset, mostOffset)
	}
	if s.Level < 0 || s.Level > 100 || s.Level > 0 && !s.On {
		return wrong(place+".level", "from 1 to 100, of what turns the light on")
	}
	return nil
}

func (h Hours) check(place string) error {
	_, from := clock(h.From)
	_, to := clock(h.To)
	if !from || !to || h.From == h.To {
		return wrong(place, "two times as 21:30 and 06:00")
	}
	return nil
}

// clock is a time of the clock in minutes after midnight.
func clock(text string) (int, bool) {
	t, err := time.Parse("15:04", text)
	return t.Hour()*60 + t.Minute(), err == nil
}

// holds reports whether a minute of the day is in these hours.
func (h Hours) holds(minute int) bool {
	from, _ := clock(h.From)
	to, _ := clock(h.To)
	if from < to {
		return minute >= from && minute < to
	}
	return minute >= from || minute < to
}

// words says a schedule as people do.
func (s *Schedule) words() string {
	if s.Name != "" {
		return s.Name
	}
	what := "off"
	if s.On {
		what = "on"
	}
	return what + " at " + s.at()
}

func (s *Schedule) at() string {
	switch {
	case s.Offset > 0:
		return fmt.Sprintf("%d min after %s", s.Offset, s.At)
	case s.Offset < 0:
		return fmt.Sprintf("%d min before %s", -s.Offset, s.At)
	}
	return s.At
}
