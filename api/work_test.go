package api

import (
	"context"
	"errors"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"
)

// TestDesk: the same question asked eight times at once is computed once; no more run at once
// than the machine has cores; whoever leaves last stops the work; a panic is an answer; and past
// a bound the desk says that it is busy.
func TestDesk(t *testing.T) {
	panicked := ""
	d := newDesk(func(x any, stack []byte) {
		if strings.Contains(string(stack), "work_test.go") {
			panicked = x.(string)
		}
	})
	var computed, running, most atomic.Int32
	enter := func() {
		if n := running.Add(1); n > most.Load() {
			most.Store(n)
		}
	}
	release := make(chan struct{})
	var all sync.WaitGroup
	for range 8 {
		all.Go(func() {
			got, err := askOnce(t.Context(), d, "same", func(context.Context) (int, error) {
				enter()
				defer running.Add(-1)
				computed.Add(1)
				<-release
				return 7, nil
			})
			if got != 7 || err != nil {
				t.Errorf("%d, %v", got, err)
			}
		})
	}
	asked := func(key string) (n int) {
		d.mu.Lock()
		defer d.mu.Unlock()
		if j := d.jobs[key]; j != nil {
			n = j.askers
		}
		return n
	}
	for asked("same") < 8 {
		time.Sleep(time.Millisecond)
	}
	for i := range mostWaiting - 1 {
		all.Go(func() {
			_, _ = askOnce(t.Context(), d, string(rune('a'+i)), func(context.Context) (int, error) {
				enter()
				defer running.Add(-1)
				<-release
				return 0, nil
			})
		})
	}
	waiting := func() int {
		d.mu.Lock()
		defer d.mu.Unlock()
		return d.waiting
	}
	for len(d.turns) < cap(d.turns) || waiting() < mostWaiting-cap(d.turns) {
		time.Sleep(time.Millisecond)
	}
	for i := range cap(d.turns) + 1 { // fill up the places of those that have their turn, and one more
		all.Go(func() {
			_, err := askOnce(t.Context(), d, "more"+string(rune('a'+i)), func(context.Context) (int, error) { return 0, nil })
			if err != nil && !errors.Is(err, errBusy) {
				t.Error(err)
			}
		})
	}
	for waiting() < mostWaiting {
		time.Sleep(time.Millisecond)
	}
	if _, err := askOnce(t.Context(), d, "one too many", func(context.Context) (int, error) { return 0, nil }); !errors.Is(err, errBusy) {
		t.Errorf("one too many: %v", err)
	}
	close(release)
	all.Wait()
	if computed.Load() != 1 || int(most.Load()) > cap(d.turns) {
		t.Errorf("computed %d times; %d at once on %d cores", computed.Load(), most.Load(), cap(d.turns))
	}
	ctx, leave := context.WithCancel(t.Context())
	begun, stopped := make(chan struct{}), make(chan struct{})
	all.Go(func() {
		_, err := askOnce(ctx, d, "long", func(ctx context.Context) (int, error) {
			close(begun)
			<-ctx.Done()
			close(stopped)
			return 0, ctx.Err()
		})
		if !errors.Is(err, context.Canceled) {
			t.Error(err)
		}
	})
	<-begun // one that is left before its turn never is
	leave()
	<-stopped
	all.Wait()
	if got, err := askOnce(t.Context(), d, "long", func(context.Context) (int, error) { return 3, nil }); got != 3 || err != nil {
		t.Errorf("asked anew: %d, %v", got, err)
	}
	if _, err := askOnce(t.Context(), d, "bad", func(context.Context) (int, error) { panic("a bug") }); err == nil || panicked != "a bug" {
		t.Errorf("a panic: %v, told %q", err, panicked)
	}
}
