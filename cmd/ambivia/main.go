// Command ambivia records, checks and plans multi-location lighting circuits;
// see README.md.
package main

import (
	"errors"
	"fmt"
	"os"
	"runtime/debug"
)

// memory is how much the program takes, about: where it comes near, room that is not needed any more
// is given back at once.
const memory = 850 << 20

func main() {
	debug.SetMemoryLimit(memory)
	if err := newRoot().Execute(); err != nil {
		fmt.Fprintln(os.Stderr, "ambivia: "+err.Error())
		if errors.Is(err, errFaulty) {
			os.Exit(1)
		}
		os.Exit(2)
	}
}
