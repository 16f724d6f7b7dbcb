package main

import (
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/rehearsal"
	"ambivia/core/schedule"
	"ambivia/hub"
)

func hubCommand() *cobra.Command {
	var option, set, address, used string
	var plan planFiles
	cmd := &cobra.Command{
		Use:   "hub FILE [--option ID]",
		Short: "Stand in for a hub and its devices: an MQTT broker on this machine, with the rules at work",
		Long:  "Runs until it is interrupted. Of a plan (--option) the preferred way to make its links is taken, or the one that --set names.",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			doc, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			if option != "" {
				if doc, _, err = linkedPlan(cmd, args[0], doc, plan, option, set); err != nil {
					return err
				}
			}
			use, err := readUse(used)
			if err != nil {
				return err
			}
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			h, err := hub.Start(ctx, doc, use, address, slog.New(slog.NewTextHandler(cmd.ErrOrStderr(), nil)))
			if err != nil {
				return err
			}
			out := cmd.OutOrStdout()
			fmt.Fprintf(out, "broker %s\n", h.Address())
			for _, t := range hub.Topics(doc, use) {
				fmt.Fprintf(out, "%s %s  %s\n", t.Topic, t.Payload, t.Who)
			}
			<-ctx.Done()
			return h.Close()
		},
	}
	plan.flags(cmd)
	cmd.Flags().StringVar(&option, "option", "", "the id of an option of the plan, in place of the circuit as recorded")
	cmd.Flags().StringVar(&set, "set", "", "how its links are made: direct, scenes, in-step, mirror-one or mirror-two")
	cmd.Flags().StringVar(&used, "use", "", "a file that says how the light is used, as an archive has it: its schedules and inputs act")
	cmd.Flags().StringVar(&address, "address", "127.0.0.1:1883", "where the broker listens; this machine alone")
	return cmd
}

// readUse reads how a light is used; nil where no file is named.
func readUse(path string) (*schedule.Use, error) {
	if path == "" {
		return nil, nil
	}
	f, err := os.Open(path)
	if err != nil {
		return nil, oneLine(path, err)
	}
	defer f.Close()
	const mostBytes = 1 << 20
	use, from := &schedule.Use{}, json.NewDecoder(io.LimitReader(f, mostBytes))
	from.DisallowUnknownFields()
	if err := from.Decode(use); err != nil {
		return nil, oneLine(path, err)
	}
	if err := use.Check(); err != nil {
		return nil, oneLine(path, err)
	}
	return use, nil
}

// rulesCommand writes the rules of a document, or of a plan, as a file.
func rulesCommand() *cobra.Command {
	var option, kind, as, used string
	var plan planFiles
	cmd := &cobra.Command{
		Use:   "rules FILE [--option ID] [--as json|csv|yaml]",
		Short: "Write the rules by which links without a wire are made, with topics and what was found",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			doc, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			var set *automation.Set
			if option != "" {
				if doc, set, err = linkedPlan(cmd, args[0], doc, plan, option, kind); err != nil {
					return err
				}
			}
			use, err := readUse(used)
			if err != nil {
				return err
			}
			report, err := rehearsal.Rehearse(cmd.Context(), doc)
			if err != nil {
				return oneLine(args[0], err)
			}
			return automation.FormOf(doc, set, report, hub.Topics(doc, use), use.Words()).Write(cmd.OutOrStdout(), as)
		},
	}
	plan.flags(cmd)
	cmd.Flags().StringVar(&option, "option", "", "the id of an option of the plan, in place of the circuit as recorded")
	cmd.Flags().StringVar(&kind, "set", "", "how its links are made: direct, scenes, in-step, mirror-one or mirror-two")
	cmd.Flags().StringVar(&used, "use", "", "a file that says how the light is used: its schedules and alarms are written too")
	cmd.Flags().StringVar(&as, "as", "json", "json, csv or yaml")
	return cmd
}

// linkedPlan is the plan of an option, with the rules by which its links are made.
func linkedPlan(cmd *cobra.Command, path string, doc *circuit.Circuit, plan planFiles, id, kind string) (*circuit.Circuit, *automation.Set, error) {
	request, err := plan.request()
	if err != nil {
		return nil, nil, err
	}
	o, err := plan.offered(path, inspect.Compile(doc), request, id)
	if err != nil {
		return nil, nil, err
	}
	if !o.Feasible {
		return nil, nil, fmt.Errorf("%s: option: %q does not fit", path, id)
	}
	sets, err := automation.For(cmd.Context(), o, request.Library)
	if err != nil {
		return nil, nil, err
	}
	if s := automation.Of(sets, kind); s != nil {
		return s.Doc, s, nil
	}
	if kind != "" {
		return nil, nil, fmt.Errorf("%s: set: the links of %q cannot be made so", path, id)
	}
	return o.After, nil, nil
}
