package record

import (
	"strconv"
	"strings"

	"ambivia/core/fitting"
	"ambivia/core/rehearsal"
)

// LevelsTried are the lowest level at which the lamps hold steady, and the highest, in percent, as they were noted of the
// devices of a plan; nought where nobody did. Of several devices the narrower counts.
func LevelsTried(facts []DeviceFacts) (lowest, highest int) {
	for _, d := range facts {
		for _, f := range d.Facts {
			level, ok := percent(f.Value)
			switch {
			case !ok:
			case f.ID == lowestFact:
				lowest = max(lowest, level)
			case f.ID == highestFact && (highest == 0 || level < highest):
				highest = level
			}
		}
	}
	return lowest, highest
}

// percent reads a level as a person writes it: "12", "12 %", "12.5%"; rounded up, so that a lowest level holds.
func percent(text string) (int, bool) {
	n, err := strconv.ParseFloat(strings.Replace(strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(text), "%")), ",", ".", 1), 64)
	if err != nil || !(n > 0 && n <= 100) { // nor what is no number
		return 0, false
	}
	level := int(n)
	if float64(level) < n {
		level++
	}
	return level, true
}

// Delays are the seconds that were noted from a gesture at a place until the light, of trials that worked.
func Delays(trials []Trial, log []fitting.Entry) []rehearsal.Delay {
	seconds := map[int]float64{}
	for _, e := range log {
		if e.Kind == fitting.Trial && e.Works != nil && *e.Works && e.Seconds > 0 {
			seconds[e.Number] = e.Seconds
		}
	}
	var out []rehearsal.Delay
	for _, t := range trials {
		if took, noted := seconds[t.Entry]; noted && (t.Path == Paddle || t.Path == Remote) {
			out = append(out, rehearsal.Delay{Device: t.Place, Seconds: took})
		}
	}
	return out
}
