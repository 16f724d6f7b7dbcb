package main

import (
	"github.com/spf13/cobra"

	"ambivia/core/rehearsal"
)

func rehearseCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "rehearse FILE",
		Short: "Try the rules and mirrors of a document in every order in which messages may arrive",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			report, err := rehearsal.Rehearse(cmd.Context(), c)
			if err != nil {
				return oneLine(args[0], err)
			}
			return printJSON(cmd.OutOrStdout(), report)
		},
	}
}
