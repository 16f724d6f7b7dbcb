package automation

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// TestEnter: each rule, mirror and setting of a way to make links stands in exactly one step, as do its flaws; the steps stay
// as many, do the same to the record, and what belongs to a pair alone changes nothing.
func TestEnter(t *testing.T) {
	found := inspect.Compile(circuittest.Straight())
	for _, id := range []string{"paired-switches-foot", "message-switches-foot"} {
		o := procedure.Offer(found, retrofit.Request{Library: device.NewLibrary(nil)}, id)
		if o == nil {
			t.Fatalf("no option %s", id)
		}
		for _, s := range setsOf(t, *o) {
			plain, p := procedure.For(found, o, nil), procedure.For(found, o, nil)
			s.Enter(p)
			var lines []string
			for i, step := range p.Steps {
				was := plain.Steps[i]
				if len(step.Enter) > 0 && step.Pairs() == nil || len(step.Edits) != len(was.Edits) || step.Kind != was.Kind || len(was.Enter) > 0 {
					t.Errorf("%s, %s, step %d: %+v", id, s.Kind, step.Number, step)
				}
				lines = append(lines, step.Enter...)
				if step.Kind == procedure.KindSet && slices.ContainsFunc(s.Settings, func(x Setting) bool { return x.Text == step.Text }) {
					lines = append(lines, step.Text)
				}
			}
			want := s.Rules + s.Mirrors + len(s.Settings) + len(broken(s))
			if s.Kind == Direct {
				want = 0
			}
			slices.Sort(lines)
			if len(lines) != want || len(slices.Compact(lines)) != want {
				t.Errorf("%s, %s: %d lines, want %d:\n%s", id, s.Kind, len(lines), want, strings.Join(lines, "\n"))
			}
			if len(plain.Steps) != len(p.Steps) {
				t.Errorf("%s, %s: %d steps, %d before", id, s.Kind, len(p.Steps), len(plain.Steps))
			}
		}
	}
	var none *Set
	none.Enter(&procedure.Procedure{})
}
