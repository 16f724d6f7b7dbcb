package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"runtime/debug"
	"strings"

	"github.com/spf13/cobra"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/netlist"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
	"ambivia/core/wire"
)

func newRoot() *cobra.Command {
	root := &cobra.Command{
		Use:           "ambivia",
		Short:         "Make multi-location lighting smart with the wires that are there",
		SilenceUsage:  true,
		SilenceErrors: true,
		Version:       version(),
	}
	root.AddCommand(checkCommand(), traceCommand(), houseCommand(), planCommand(), stepsCommand(), drawCommand(), netlistCommand(), importCommand(), listCommand(), exportCommand(), backupCommand(), rehearseCommand(), hubCommand(), rulesCommand(), recordCommand(), jobCommand(), proveCommand(), diagnoseCommand(), serveCommand())
	return root
}

// version is that of the module, or what it was built from.
func version() string {
	built, ok := debug.ReadBuildInfo()
	if !ok {
		return "not known"
	}
	out := built.Main.Version
	for _, s := range built.Settings {
		if s.Key == "vcs.revision" && !strings.Contains(out, s.Value[:min(12, len(s.Value))]) {
			out += " " + s.Value
		}
	}
	return strings.TrimSpace(out)
}

// errFaulty is the end of a strict check of a circuit that is not sound: exit code 1, where any other error ends with 2.
var errFaulty = errors.New("the circuit is faulty")

func checkCommand() *cobra.Command {
	strict := false
	cmd := &cobra.Command{
		Use:   "check FILE",
		Short: "Simulate every reachable state of a circuit and say whether it works",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			report := inspect.Check(c)
			if err := printJSON(cmd.OutOrStdout(), report); err != nil {
				return err
			}
			if strict && report.Verdict != inspect.Works {
				return fmt.Errorf("%s: %w", args[0], errFaulty)
			}
			return nil
		},
	}
	cmd.Flags().BoolVar(&strict, "strict", false, "end with 1 where the circuit does not work for certain")
	return cmd
}

func netlistCommand() *cobra.Command {
	var every bool
	cmd := &cobra.Command{
		Use:   "netlist FILE",
		Short: "Write the circuit as recorded, or in every state, as a netlist for general circuit simulators",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			n := electric.New(c)
			states := []map[string]int{n.Keys(n.Initial())}
			if every {
				states = nil
				for _, s := range electric.Explore(n).States {
					states = append(states, n.Keys(s.State))
				}
			}
			_, err = netlist.Write(cmd.OutOrStdout(), c, n.Volts, states...)
			return err
		},
	}
	cmd.Flags().BoolVar(&every, "every-state", false, "every state that presses reach, side by side in one deck")
	return cmd
}

// readCircuit reads a circuit file, or standard input where that is called "-"; every error is one line that names the
// file and, where the file could be read, the place in it.
func readCircuit(path string) (*circuit.Circuit, error) {
	if path == "-" {
		c, err := circuit.Read(os.Stdin)
		if err != nil {
			return nil, oneLine("standard input", err)
		}
		return c, nil
	}
	f, err := os.Open(path)
	if err != nil {
		return nil, oneLine(path, err)
	}
	defer f.Close()
	c, err := circuit.Read(f)
	if err != nil {
		return nil, oneLine(path, err)
	}
	return c, nil
}

func oneLine(path string, err error) error {
	var p *fs.PathError
	if errors.As(err, &p) {
		err = p.Err
	}
	return fmt.Errorf("%s: %s", path, strings.ReplaceAll(err.Error(), "\n", " "))
}

func printJSON(w io.Writer, v any) error {
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", " ")
	return enc.Encode(wire.Whole(v))
}

// planFiles are the files that planning may read beside the circuit.
type planFiles struct{ wishes, devices string }

func (f *planFiles) flags(cmd *cobra.Command) {
	cmd.Flags().StringVar(&f.wishes, "wishes", "", "a file of wishes: what must be, what would be nice")
	cmd.Flags().StringVar(&f.devices, "devices", "", "a file of your own device models, beside the catalogue")
}

func (f *planFiles) request() (request retrofit.Request, err error) {
	if f.wishes != "" {
		if request.Wishes, err = readWishes(f.wishes); err != nil {
			return request, err
		}
	}
	if f.devices == "" {
		return request, nil
	}
	raw, err := os.ReadFile(f.devices)
	if err != nil {
		return request, oneLine(f.devices, err)
	}
	own, err := device.Read(raw)
	if err != nil {
		return request, oneLine(f.devices, err)
	}
	request.Library = device.NewLibrary(own)
	return request, nil
}

func planCommand() *cobra.Command {
	var files planFiles
	cmd := &cobra.Command{
		Use:   "plan FILE",
		Short: "List the smart configurations that the circuit's conductors can carry",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			request, err := files.request()
			if err != nil {
				return err
			}
			answer, err := procedure.Plan(cmd.Context(), inspect.Compile(c), request)
			if err != nil {
				return err
			}
			return printPlan(cmd.OutOrStdout(), answer)
		},
	}
	files.flags(cmd)
	return cmd
}

// printPlan prints a plan as [printJSON] would, an option at a time: a plan of many lights holds a
// document for each, and written out all at once they would take as much memory again.
func printPlan(w io.Writer, answer *retrofit.Result) error {
	out := bufio.NewWriter(w)
	_, _ = out.WriteString("{\n \"options\": [") // the first error is told at the end
	for i, o := range answer.Options {
		var b bytes.Buffer
		enc := json.NewEncoder(&b)
		enc.SetEscapeHTML(false)
		enc.SetIndent("  ", " ")
		if err := enc.Encode(wire.Whole(o)); err != nil {
			return err
		}
		if i > 0 {
			_ = out.WriteByte(',')
		}
		_, _ = out.WriteString("\n  ")
		_, _ = out.Write(bytes.TrimRight(b.Bytes(), "\n"))
	}
	_, _ = out.WriteString("\n ]")
	if len(answer.Conflicts) > 0 {
		conflicts, err := json.MarshalIndent(answer.Conflicts, " ", " ")
		if err != nil {
			return err
		}
		_, _ = fmt.Fprintf(out, ",\n \"conflicts\": %s", conflicts)
	}
	_, _ = out.WriteString("\n}\n")
	return out.Flush()
}

func readWishes(path string) (retrofit.Wishes, error) {
	f, err := os.Open(path)
	if err != nil {
		return retrofit.Wishes{}, oneLine(path, err)
	}
	defer f.Close()
	w, err := retrofit.ReadWishes(f)
	if err != nil {
		return w, oneLine(path, err)
	}
	return w, nil
}
