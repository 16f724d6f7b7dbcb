package sets

import (
	"math/rand/v2"
	"testing"
)

// TestSets: random unions against marking everything that is reached, and numbers in the order of
// their first member.
func TestSets(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		n := 1 + rng.IntN(20)
		s, mark := New(n), make([]int, n)
		for i := range mark {
			mark[i] = i
		}
		for range rng.IntN(25) {
			a, b := rng.IntN(n), rng.IntN(n)
			s.Unite(a, b)
			for i, from := 0, mark[a]; i < n; i++ {
				if mark[i] == from {
					mark[i] = mark[b]
				}
			}
		}
		number, count := s.Dense()
		next := 0
		for i := range n {
			for k := range n {
				if (s.Root(i) == s.Root(k)) != (mark[i] == mark[k]) || (number[i] == number[k]) != (mark[i] == mark[k]) {
					t.Fatalf("%d and %d: %v, %v", i, k, s, mark)
				}
			}
			if number[i] > next {
				t.Fatalf("%v skips a number", number)
			}
			next = max(next, number[i]+1)
		}
		if next != count {
			t.Fatalf("%d sets, counted %d", next, count)
		}
	}
}
