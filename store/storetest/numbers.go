// Package storetest lets tests write addresses with small numbers where the program has ids that
// nobody can guess.
package storetest

import (
	"context"
	"regexp"
	"slices"
	"strconv"
	"testing"

	"ambivia/store"
)

// Numbers knows jobs, circuits and photographs of a store by when they were first seen.
type Numbers struct {
	Store *store.Store
	seen  map[string][]string
}

// Copy has the same numbers for a copy of the store, which is set by whoever opens it.
func (n *Numbers) Copy() *Numbers {
	out := &Numbers{seen: map[string][]string{}}
	for of, ids := range n.seen {
		out.seen[of] = slices.Clone(ids)
	}
	return out
}

var numbered = regexp.MustCompile(`(jobs|circuits|photos)/([0-9]+)(/|\?|$)`)

// Address writes the ids of the first, the second and so on job, circuit and photograph where a
// path has their numbers. A number of none leads to an id of none.
func (n *Numbers) Address(t testing.TB, path string) string {
	t.Helper()
	n.look(t)
	return numbered.ReplaceAllStringFunc(path, func(part string) string {
		m := numbered.FindStringSubmatch(part)
		i, err := strconv.Atoi(m[2])
		if err != nil {
			t.Fatal(err)
		}
		return m[1] + "/" + n.id(m[1], i) + m[3]
	})
}

// Circuit is the id of the circuit with a number, from 1.
func (n *Numbers) Circuit(t testing.TB, number int) string {
	t.Helper()
	n.look(t)
	return n.id("circuits", number)
}

// Job is the id of the job with a number, from 1.
func (n *Numbers) Job(t testing.TB, number int) string {
	t.Helper()
	n.look(t)
	return n.id("jobs", number)
}

// Nobody is an id of nothing.
const Nobody = "00000000-0000-7000-8000-000000000000"

func (n *Numbers) id(of string, number int) string {
	if number < 1 || number > len(n.seen[of]) {
		return Nobody
	}
	return n.seen[of][number-1]
}

// look adds what is new in the store, in the order of making.
func (n *Numbers) look(t testing.TB) {
	t.Helper()
	ctx := context.Background()
	found := map[string][]string{}
	jobs, err := n.Store.Jobs(ctx)
	if err != nil {
		t.Fatal(err)
	}
	for _, j := range jobs {
		found["jobs"] = append(found["jobs"], j.ID)
		circuits, err := n.Store.Circuits(ctx, j.ID)
		if err != nil {
			t.Fatal(err)
		}
		for _, c := range circuits {
			found["circuits"] = append(found["circuits"], c.ID)
			photos, err := n.Store.Photos(ctx, c.ID)
			if err != nil {
				t.Fatal(err)
			}
			for _, p := range photos {
				found["photos"] = append(found["photos"], p.ID)
			}
		}
	}
	if n.seen == nil {
		n.seen = map[string][]string{}
	}
	for of, ids := range found {
		slices.Sort(ids)
		for _, id := range ids {
			if !slices.Contains(n.seen[of], id) {
				n.seen[of] = append(n.seen[of], id)
			}
		}
	}
}
