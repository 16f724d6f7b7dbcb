package retrofit

import (
	"strings"
	"testing"

	"ambivia/core/circuittest"
)

// TestConduit: where conductors run as singles, what is too few is freed by one more of them and by no cable; in a sheath by
// a cable. A sheath takes no single.
func TestConduit(t *testing.T) {
	for practice, conduit := range map[string]bool{"na": false, "uk": false, "au": false, "in": true, "eu": true} {
		c := circuittest.In(circuittest.Straight(), practice)
		told := 0
		for _, o := range Plan(c).Options {
			for _, r := range o.Reasons {
				if r.Code != "too-few-cores" {
					continue
				}
				told++
				if strings.Contains(r.Text, "into that conduit") != conduit || strings.Contains(r.Text, "A cable with") == conduit {
					t.Errorf("%s, %s: %s", practice, o.ID, r.Text)
				}
			}
		}
		if told == 0 {
			t.Errorf("%s: nothing has too few cores", practice)
		}
	}
}
