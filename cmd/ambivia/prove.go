package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/prove"
	"ambivia/core/retrofit"
)

// optionOf is the option that is named, nil where none is.
func (f *planFiles) optionOf(path string, c *circuit.Circuit, option string) (*retrofit.Option, error) {
	if option == "" {
		return nil, nil
	}
	request, err := f.request()
	if err != nil {
		return nil, err
	}
	return f.offered(path, inspect.Compile(c), request, option)
}

func proveCommand() *cobra.Command {
	var option string
	var plan planFiles
	cmd := &cobra.Command{
		Use:   "prove FILE",
		Short: "Find the fewest presses, and the readings, that show any single mistake",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			o, err := plan.optionOf(args[0], c, option)
			if err != nil {
				return err
			}
			proof, err := prove.Sequence(cmd.Context(), c, o)
			if err != nil {
				return oneLine(args[0], err)
			}
			return printJSON(cmd.OutOrStdout(), proof)
		},
	}
	cmd.Flags().StringVar(&option, "option", "", "an id of plan's answer; without it the circuit as recorded")
	plan.flags(cmd)
	return cmd
}

// maxSeen bounds a file of what was seen.
const maxSeen = 4 << 20

func diagnoseCommand() *cobra.Command {
	var option, seen string
	var plan planFiles
	cmd := &cobra.Command{
		Use:   "diagnose FILE --seen SEEN.json",
		Short: "Name every single mistake that explains what was seen, and what to look at next",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			what, err := readSeen(seen)
			if err != nil {
				return err
			}
			o, err := plan.optionOf(args[0], c, option)
			if err != nil {
				return err
			}
			told, err := prove.Diagnose(cmd.Context(), c, o, what)
			if err != nil {
				return oneLine(seen, err)
			}
			return printJSON(cmd.OutOrStdout(), told)
		},
	}
	cmd.Flags().StringVar(&option, "option", "", "an id of plan's answer; without it the circuit as recorded")
	cmd.Flags().StringVar(&seen, "seen", "", "a file of what was pressed and seen")
	_ = cmd.MarkFlagRequired("seen") // the flag is defined in the line above
	plan.flags(cmd)
	return cmd
}

func readSeen(path string) (prove.Seen, error) {
	var out prove.Seen
	f, err := os.Open(path)
	if err != nil {
		return out, oneLine(path, err)
	}
	defer f.Close()
	dec := json.NewDecoder(io.LimitReader(f, maxSeen))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&out); err != nil {
		return out, oneLine(path, fmt.Errorf("%s", strings.TrimPrefix(err.Error(), "json: ")))
	}
	return out, nil
}
