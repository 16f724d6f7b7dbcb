// Package sets parts small numbers into sets that grow together: what is joined to what, however long
// the way between them.
package sets

// Of is a forest of numbers from 0; each tree is a set. It is not safe for use by several goroutines,
// since looking a set up shortens the way for the next time. Small numbers are for who keeps many.
type Of[N int | int16] []N

// Sets is a forest of plain numbers.
type Sets = Of[int]

// New returns n sets of one number each.
func New(n int) Sets {
	s := make(Sets, n)
	for i := range s {
		s[i] = i
	}
	return s
}

// Root is the number that stands for the set in which i is.
func (s Of[N]) Root(i N) N {
	for s[i] != i {
		s[i] = s[s[i]]
		i = s[i]
	}
	return i
}

// Unite makes the sets of two numbers one.
func (s Of[N]) Unite(a, b N) { s[s.Root(a)] = s.Root(b) }

// Dense numbers the sets from 0 in the order of their first member, and says how many there are.
func (s Of[N]) Dense() (number []int, count int) {
	number = make([]int, len(s))
	by := make([]int, len(s)) // by root, one more than its number
	for i := range s {
		r := s.Root(N(i))
		if by[r] == 0 {
			count++
			by[r] = count
		}
		number[i] = by[r] - 1
	}
	return number, count
}
