package schedule

import (
	"fmt"
	"strings"
)

// Words says what a use asks of the light, a line for each schedule, input and absence, for whoever enters it elsewhere;
// nothing of a nil one.
func (u *Use) Words() []string {
	if u == nil {
		return nil
	}
	out := []string{}
	for i := range u.Schedules {
		s := &u.Schedules[i]
		text := "off"
		if s.On {
			text = "on at " + percent(u.Load.used(full(s.Level)))
		}
		text += ", " + map[bool]string{true: s.at(), false: "at " + s.at()}[s.Offset != 0]
		if len(s.Days) < len(weekdays) {
			text += ", on " + strings.Join(s.Days, ", ")
		}
		if s.Name != "" {
			text = s.Name + ": " + text
		}
		out = append(out, text)
	}
	for i := range u.Inputs {
		in := &u.Inputs[i]
		text := fmt.Sprintf("%s: on at %s until it is reset, whatever the schedules say", in.Name, percent(u.Load.used(full(in.Level))))
		if len(in.Lights) > 0 {
			text += "; lights: " + strings.Join(in.Lights, ", ")
		}
		out = append(out, text)
	}
	if a := u.Away; a != nil {
		out = append(out, fmt.Sprintf("from %s to %s in the evening now and then, as if somebody were home", a.From, a.To))
	}
	return out
}

func percent(level int) string {
	if level == 100 {
		return "full"
	}
	return fmt.Sprintf("%d %%", level)
}
