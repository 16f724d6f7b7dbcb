package api

import (
	"context"
	"fmt"
	"net/http"
	"runtime"
	"runtime/debug"
	"sync"
)

// mostWaiting is how many long computations may wait for their turn; past that the program says
// that it is busy.
const mostWaiting = 32

// desk does long computations: as many at once as the machine has cores, the same question once
// for all who ask it, and none for longer than somebody waits for it.
type desk struct {
	mu      sync.Mutex
	jobs    map[string]*task
	turns   chan struct{}
	waiting int
	failed  func(panic any, stack []byte)
}

func newDesk(failed func(panic any, stack []byte)) *desk {
	return &desk{jobs: map[string]*task{}, turns: make(chan struct{}, runtime.GOMAXPROCS(0)), failed: failed}
}

// task is a computation under way.
type task struct {
	key    string
	done   chan struct{}
	stop   context.CancelFunc
	askers int
	answer any
	err    error
}

// askOnce computes what a key stands for, or waits for whoever computes it already. The error is the
// context's where the asker left first, [errBusy] where too many wait, and a problem where the
// computation panicked.
func askOnce[T any](ctx context.Context, d *desk, key string, compute func(context.Context) (T, error)) (T, error) {
	var none T
	t, err := d.join(key, func(ctx context.Context) (any, error) { return compute(ctx) })
	if err != nil {
		return none, err
	}
	select {
	case <-t.done:
	case <-ctx.Done():
		d.leave(t)
		return none, ctx.Err()
	}
	if t.err != nil {
		return none, t.err
	}
	return t.answer.(T), nil
}

var errBusy = &problemError{http.StatusServiceUnavailable, "busy", "", "the program is at work on as much as this machine can do; ask again in a moment"}

// join finds the task of a key, or begins it.
func (d *desk) join(key string, compute func(context.Context) (any, error)) (*task, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if t := d.jobs[key]; t != nil {
		t.askers++
		return t, nil
	}
	if d.waiting >= mostWaiting {
		return nil, errBusy
	}
	ctx, stop := context.WithCancel(context.Background()) // not the asker's: others may wait for it too
	t := &task{key: key, done: make(chan struct{}), stop: stop, askers: 1}
	d.jobs[key] = t
	d.waiting++
	go d.run(ctx, t, compute)
	return t, nil
}

// leave stops a task when nobody waits for it any more.
func (d *desk) leave(t *task) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if t.askers--; t.askers == 0 {
		t.stop()
		if d.jobs[t.key] == t { // who asks now begins anew
			delete(d.jobs, t.key)
		}
	}
}

func (d *desk) run(ctx context.Context, t *task, compute func(context.Context) (any, error)) {
	defer func() {
		if x := recover(); x != nil {
			d.failed(x, debug.Stack())
			t.err = fmt.Errorf("panic: %v", x)
		}
		t.stop()
		d.mu.Lock()
		if d.jobs[t.key] == t {
			delete(d.jobs, t.key)
		}
		d.mu.Unlock()
		close(t.done)
	}()
	select {
	case d.turns <- struct{}{}:
		d.counted(-1)
		defer func() { <-d.turns }()
	case <-ctx.Done():
		d.counted(-1)
		t.err = ctx.Err()
		return
	}
	if t.err = ctx.Err(); t.err == nil {
		t.answer, t.err = compute(ctx)
	}
}

func (d *desk) counted(n int) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.waiting += n
}
