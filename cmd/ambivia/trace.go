package main

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ambivia/core/circuit"
	"ambivia/core/house"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/retrofit"
	"ambivia/core/trace"
)

func traceCommand() *cobra.Command {
	var prefer, toward string
	var tree bool
	files := &planFiles{}
	cmd := &cobra.Command{
		Use:   "trace FILE",
		Short: "Work out what the walls hide from a half-known circuit and its readings",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := preference(prefer)
			if err != nil {
				return err
			}
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			if toward != "" {
				return towardOption(cmd, args[0], c, files, toward, p)
			}
			t, err := trace.New(cmd.Context(), c)
			if err != nil {
				return oneLine(args[0], err)
			}
			if tree {
				say := names.For(c)
				root, err := t.Tree(cmd.Context(), p, func(o circuit.Observation) string { return trace.Describe(say, o) }, func(nodes int) {
					if nodes%50 == 0 {
						fmt.Fprintf(cmd.ErrOrStderr(), "%d tests followed\n", nodes)
					}
				})
				if err != nil {
					return oneLine(args[0], err)
				}
				return printJSON(cmd.OutOrStdout(), root)
			}
			r, err := t.Result(cmd.Context(), p)
			if err != nil {
				return oneLine(args[0], err)
			}
			if r.Ahead == nil && r.Contradiction == nil {
				if r.Ahead, r.Conventions, err = t.Forecast(cmd.Context(), p); err != nil {
					return oneLine(args[0], err)
				}
			}
			return printJSON(cmd.OutOrStdout(), r)
		},
	}
	cmd.Flags().StringVar(&prefer, "prefer", "dead", "dead: as little live work as can be; trips: as few walks as can be")
	cmd.Flags().BoolVar(&tree, "tree", false, "follow every reading of every next test to the end")
	cmd.Flags().StringVar(&toward, "toward", "", "the id of a plan's option: the next test is what that plan needs to know")
	files.flags(cmd)
	return cmd
}

// towardOption prints the trace of a record led by one option of its plan.
func towardOption(cmd *cobra.Command, file string, c *circuit.Circuit, files *planFiles, id string, prefer trace.Prefer) error {
	request, err := files.request()
	if err != nil {
		return err
	}
	r, err := retrofit.TowardOption(cmd.Context(), inspect.Compile(c), request, id, prefer)
	switch {
	case err != nil:
		return oneLine(file, err)
	case r == nil:
		return fmt.Errorf("--toward: the plan for %s has no option %q; ambivia plan %s lists them", file, id, file)
	}
	return printJSON(cmd.OutOrStdout(), r)
}

func preference(s string) (trace.Prefer, error) {
	if p := trace.Prefer(s); p == trace.Dead || p == trace.Trips {
		return p, nil
	}
	return "", fmt.Errorf("--prefer: %q is no preference; write dead or trips", s)
}

func houseCommand() *cobra.Command {
	var seed uint64
	var open []string
	var survey bool
	cmd := &cobra.Command{
		Use:   "house FILE",
		Short: "Hide a circuit and answer tests as walls would, with instruments that lie as real ones do",
		Long: `Hide a circuit and answer tests as walls would.

FILE is a whole circuit. With --survey the command prints what one sees in the opened boxes: a half-known circuit
for trace. Without it, it reads one test for each line of standard input, as format.md writes tests, and prints the
reading of each as one line of JSON. The same --seed and --open hide the circuit in the same way.`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			if seed == 0 && survey && !cmd.Flags().Changed("seed") {
				seed = rand.Uint64()>>1 | 1
				fmt.Fprintf(cmd.ErrOrStderr(), "hidden with --seed %d\n", seed)
			}
			var opened []string
			if len(open) > 0 {
				opened = slices.Clone(open)
			}
			h, err := house.New(c, seed, opened)
			if err != nil {
				return oneLine(args[0], err)
			}
			if survey {
				return circuit.Write(cmd.OutOrStdout(), h.Survey())
			}
			return answer(h, cmd.InOrStdin(), cmd.OutOrStdout())
		},
	}
	cmd.Flags().Uint64Var(&seed, "seed", 0, "how the switches stand, and what an instrument shows where it settles nothing")
	cmd.Flags().StringSliceVar(&open, "open", nil, "boxes that are open; without it, those that hold a switch")
	cmd.Flags().BoolVar(&survey, "survey", false, "print what the opened boxes show")
	return cmd
}

// maxTestLine bounds one test on standard input.
const maxTestLine = 64 << 10

func answer(h *house.House, in io.Reader, out io.Writer) error {
	lines := bufio.NewScanner(in)
	lines.Buffer(nil, maxTestLine)
	for n := 1; lines.Scan(); n++ {
		text := strings.TrimSpace(lines.Text())
		if text == "" {
			continue
		}
		dec := json.NewDecoder(strings.NewReader(text))
		dec.DisallowUnknownFields()
		var o circuit.Observation
		if err := dec.Decode(&o); err != nil {
			return fmt.Errorf("standard input, line %d: %w", n, err)
		}
		reading, err := h.Answer(o)
		if err != nil {
			return oneLine(fmt.Sprintf("standard input, line %d", n), err)
		}
		if err := json.NewEncoder(out).Encode(map[string]any{"reading": reading}); err != nil {
			return err
		}
	}
	return lines.Err()
}
