package circuit

import "testing"

// TestLetters: no two colours have the same letters, and a number stays.
func TestLetters(t *testing.T) {
	seen := map[string]string{}
	for colour, text := range letters {
		if other, twice := seen[text]; twice {
			t.Errorf("%s and %s are both %s", colour, other, text)
		}
		seen[text] = colour
	}
	if got := Letters("brown3"); got != "BN3" {
		t.Errorf("brown3 is %s", got)
	}
}
