// Package parallel does many things that have nothing to do with each other, on as many cores as the
// machine has.
package parallel

import (
	"context"
	"fmt"
	"runtime"
	"runtime/debug"
	"sync"
)

// Panic is what one of the things panicked with. It is raised again where [Each] was called, so that
// whoever recovers there recovers from it: in a goroutine of its own it would end the program.
type Panic struct {
	Value any
	Stack []byte // of where it happened
}

func (p Panic) String() string { return fmt.Sprintf("%v\n%s", p.Value, p.Stack) }

// Each calls f with 0 to n-1, several at once, and returns when all that were begun are done. It
// begins no more once ctx ends or f panics. The error is the context's.
func Each(ctx context.Context, n int, f func(i int)) error {
	next := make(chan int)
	stop, cancel := context.WithCancel(ctx)
	defer cancel()
	var wait sync.WaitGroup
	var once sync.Once
	var failed *Panic
	for range min(runtime.GOMAXPROCS(0), n) {
		wait.Go(func() {
			defer func() {
				if x := recover(); x != nil {
					once.Do(func() { failed = &Panic{x, debug.Stack()} })
					cancel()
				}
			}()
			for i := range next {
				f(i)
			}
		})
	}
feed:
	for i := range n {
		select {
		case next <- i:
		case <-stop.Done():
			break feed
		}
	}
	close(next)
	wait.Wait()
	if failed != nil {
		panic(*failed)
	}
	return ctx.Err()
}
