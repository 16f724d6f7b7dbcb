// Command ambivia records, checks and plans multi-location lighting circuits;
// see README.md.
package main

import (
	"fmt"
	"os"
)

func main() {
	if err := newRoot().Execute(); err != nil {
		fmt.Fprintln(os.Stderr, "ambivia: "+err.Error())
		os.Exit(2)
	}
}
