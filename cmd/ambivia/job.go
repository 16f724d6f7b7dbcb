package main

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ambivia/core/job"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
	"ambivia/exchange"
)

// withouts are the words of --without with the wishes that they stand for.
var withouts = map[string]string{"ladder": retrofit.NoLadder, "hub": retrofit.NoHub, "battery": retrofit.NoBattery, "internet": retrofit.NoInternet}

func jobCommand() *cobra.Command {
	var by, without string
	var rate float64
	cmd := &cobra.Command{
		Use:   "job FILE.zip",
		Short: "Plan all circuits of a job together: what fits each, the best for the whole, breakers, one order",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			least, err := job.ParseBy(by)
			if err != nil {
				return fmt.Errorf("--by: %w", err)
			}
			if !(rate >= 0 && rate <= 1e6) {
				return fmt.Errorf("--rate: %g is no price of an hour", rate)
			}
			var must []string
			for _, w := range strings.FieldsFunc(without, func(r rune) bool { return r == ',' || r == ' ' }) {
				wish, known := withouts[w]
				if !known {
					return fmt.Errorf("--without: %q is none of %s", w, strings.Join(slices.Sorted(maps.Keys(withouts)), ", "))
				}
				must = append(must, wish)
			}
			file, size, err := openFile(args[0])
			if err != nil {
				return err
			}
			defer file.Close()
			read, err := exchange.Read(file, size)
			if err != nil {
				return oneLine(args[0], err)
			}
			looked, err := read.Look(cmd.Context(), must)
			if err != nil {
				return oneLine(args[0], err)
			}
			circuits := make([]job.Circuit, len(looked))
			for i, x := range looked {
				circuits[i] = x.Circuit
			}
			plans, order := job.Plans(circuits, least, rate), []procedure.Item{}
			if len(plans) > 0 {
				if order, err = job.Order(cmd.Context(), looked, plans[0]); err != nil {
					return err
				}
			}
			return printJSON(cmd.OutOrStdout(), map[string]any{"circuits": looked, "plans": plans, "breakers": job.Breakers(looked), "order": order})
		},
	}
	cmd.Flags().StringVar(&by, "by", "price", "what the first plan has least of: price (with --rate), time, or families")
	cmd.Flags().Float64Var(&rate, "rate", 0, "what an hour of work costs, in the unit of the prices")
	cmd.Flags().StringVar(&without, "without", "", "what no option may need: ladder, hub, battery, internet")
	return cmd
}
