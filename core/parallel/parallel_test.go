package parallel

import (
	"context"
	"errors"
	"strings"
	"sync/atomic"
	"testing"
)

// TestEach: each is done once; a context that ends stops what was not begun; a panic comes out where
// Each was called, with the place where it happened, and nothing hangs.
func TestEach(t *testing.T) {
	for _, n := range []int{0, 1, 2, 1000} {
		var done [1000]atomic.Int32
		if err := Each(t.Context(), n, func(i int) { done[i].Add(1) }); err != nil {
			t.Fatal(err)
		}
		for i := range done {
			if want := map[bool]int32{true: 1}[i < n]; done[i].Load() != want {
				t.Errorf("of %d the %dth was done %d times", n, i, done[i].Load())
			}
		}
	}
	ctx, stop := context.WithCancel(t.Context())
	var begun atomic.Int32
	err := Each(ctx, 1_000_000, func(int) {
		if begun.Add(1) == 10 {
			stop()
		}
	})
	if !errors.Is(err, context.Canceled) || begun.Load() > 1000 {
		t.Errorf("%d were begun after it was stopped, %v", begun.Load(), err)
	}
	defer func() {
		p, ok := recover().(Panic)
		if !ok || p.Value != "a bug" || !strings.Contains(p.String(), "parallel_test.go") {
			t.Errorf("it panics with %v", p)
		}
	}()
	_ = Each(t.Context(), 100, func(i int) {
		if i == 50 {
			panic("a bug")
		}
	})
	t.Error("a panic is lost")
}
