package schedule

import (
	"fmt"
	"slices"
	"time"
)

// Due is one turning on or off, with the level in percent of an On, and what brought it about in words.
type Due struct {
	At    time.Time `json:"at"`
	On    bool      `json:"on"`
	Level int       `json:"level,omitempty"`
	By    string    `json:"by"`
	// Held: an input holds the light on, so that this waits until that is reset.
	Held bool `json:"held,omitempty"`
}

// mostAhead is how far it is looked ahead for what is due next, and mostAtOnce how much of what was missed is gone through
// where time is put forward.
const (
	mostAhead  = 366 // days
	mostAtOnce = 400
)

// Keeper says what is asked of a light as time passes: its schedules in their order, and inputs that turn it on and hold it,
// whatever the schedules say, until they are reset. Use it from one goroutine at a time.
type Keeper struct {
	use    *Use
	lights []string
	now    time.Time
	raised []int // inputs that went off, the latest last
	waits  *Due  // what a schedule asked while the light was held, the latest
}

// NewKeeper makes one for a use that was checked, of a light with these names, at a time.
func NewKeeper(u *Use, now time.Time, lights ...string) *Keeper {
	return &Keeper{use: u, lights: lights, now: now.In(u.location())}
}

// mine reports whether an input turns this light on.
func (k *Keeper) mine(input int) bool { return k.use.Inputs[input].Reaches(k.lights...) }

// held reports whether an input holds the light.
func (k *Keeper) held() bool { return slices.ContainsFunc(k.raised, k.mine) }

// Now is what its clock says.
func (k *Keeper) Now() time.Time { return k.now }

// Pass lets time pass, and lists what is done meanwhile, in its order. Time that goes back changes the clock alone. Of what
// is more than can be gone through at once only the last is done.
func (k *Keeper) Pass(to time.Time) []Due {
	to = to.In(k.now.Location())
	since := k.now
	k.now = to
	if earliest := to.AddDate(0, 0, -mostAhead); since.Before(earliest) {
		since = earliest
	}
	var out []Due
	for day := midnight(since); !day.After(to); day = midnight(day.AddDate(0, 0, 1)) {
		for _, e := range k.use.eventsOf(day) {
			if e.at.After(since) && !e.at.After(to) {
				out = append(out, k.use.due(e))
			}
		}
	}
	out = out[max(0, len(out)-mostAtOnce):]
	if k.held() && len(out) > 0 {
		last := out[len(out)-1]
		k.waits = &last
		for i := range out {
			out[i].Held = true
		}
	}
	return out
}

// Next is what is due next; false where nothing is within a year.
func (k *Keeper) Next() (Due, bool) {
	day := midnight(k.now)
	for range mostAhead {
		for _, e := range k.use.eventsOf(day) {
			if e.at.After(k.now) {
				return k.use.due(e), true
			}
		}
		day = midnight(day.AddDate(0, 0, 1))
	}
	return Due{}, false
}

// Raise lets an input go off, by its place in the use, and says what is asked of the light; Reset ends that, and says what
// waited. The error says that there is no such input.
func (k *Keeper) Raise(input int) ([]Due, error) {
	if input < 0 || input >= len(k.use.Inputs) {
		return nil, fmt.Errorf("inputs: there is no input %d", input+1)
	}
	if slices.Contains(k.raised, input) {
		return nil, nil
	}
	k.raised = append(k.raised, input)
	if !k.mine(input) {
		return nil, nil
	}
	in := &k.use.Inputs[input]
	return []Due{{At: k.now, On: true, Level: k.use.Load.used(full(in.Level)), By: in.Name}}, nil
}

// Reset ends what [Keeper.Raise] began. Where no other input holds the light, what a schedule asked meanwhile is done now.
func (k *Keeper) Reset(input int) ([]Due, error) {
	at := slices.Index(k.raised, input)
	if at < 0 {
		return nil, fmt.Errorf("inputs: input %d did not go off", input+1)
	}
	k.raised = slices.Delete(k.raised, at, at+1)
	if k.held() || k.waits == nil {
		return nil, nil
	}
	late := *k.waits
	k.waits, late.At, late.Held = nil, k.now, false
	late.By += ", which waited"
	return []Due{late}, nil
}

// Raised reports whether an input went off and was not reset.
func (k *Keeper) Raised(input int) bool { return slices.Contains(k.raised, input) }

func (u *Use) due(e event) Due {
	d := Due{At: e.at, On: e.on, By: "as if somebody were home"}
	if e.on {
		d.Level = u.Load.used(e.level)
	}
	if e.by >= 0 {
		d.By = u.Schedules[e.by].words()
	}
	return d
}

// full is the level that is asked where none is named.
func full(level int) int {
	if level == 0 {
		return 100
	}
	return level
}

func midnight(at time.Time) time.Time {
	y, m, d := at.Date()
	return time.Date(y, m, d, 0, 0, 0, 0, at.Location())
}
