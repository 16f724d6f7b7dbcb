package inspect_test

import (
	"strings"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// TestAlike: findings of one kind are one line that says how many and where; every finding stands
// in one line and in no other.
func TestAlike(t *testing.T) {
	c := circuittest.Straight()
	for i := range c.Cables {
		c.Cables[i].Cores = append(c.Cables[i].Cores, "blue", "yellow")
	}
	for i := range c.Joins { // one conductor comes loose, and is none of those
		if of := c.Joins[i].Of; len(of) == 2 && c.Joins[i].Box == "foot" {
			c.Joins[i].Of = of[:1]
			break
		}
	}
	report := inspect.Check(c)
	counted := map[int]int{}
	spare := ""
	for _, a := range inspect.FindingsAlike(c, report.Findings) {
		for _, i := range a.Of {
			counted[i]++
			if f := report.Findings[i]; f.Severity != a.Severity || f.Code != report.Findings[a.Of[0]].Code {
				t.Errorf("%q holds %q", a.Text, f.Text)
			}
		}
		if report.Findings[a.Of[0]].Code == "spare-core" {
			spare = a.Text
		}
		if len(a.Of) == 1 && a.Text != report.Findings[a.Of[0]].Text {
			t.Errorf("one alone is told as %q", a.Text)
		}
	}
	for i, f := range report.Findings {
		if counted[i] != 1 {
			t.Errorf("%q stands in %d lines", f.Text, counted[i])
		}
	}
	if want := 2 * len(c.Cables); !strings.HasPrefix(spare, map[int]string{4: "4 ", 6: "6 ", 8: "8 "}[want]+"spare cores, capped") {
		t.Errorf("%d cables have %q", len(c.Cables), spare)
	}
}
