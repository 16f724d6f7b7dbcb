package main

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"ambivia/core/diagram"
)

func drawCommand() *cobra.Command {
	var out string
	cmd := &cobra.Command{
		Use:   "draw FILE -o OUT.svg",
		Short: "Draw the wiring of a circuit",
		Args:  cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			if filepath.Ext(out) != ".svg" {
				return fmt.Errorf("%s: drawings are written as .svg", out)
			}
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			title := c.Name
			if title == "" {
				title = "Circuit"
			}
			var b bytes.Buffer
			if err := diagram.Layout(c).Draw(c, title, nil).SVG(&b); err != nil {
				return err
			}
			if err := os.WriteFile(out, b.Bytes(), 0o644); err != nil {
				return oneLine(out, err)
			}
			return nil
		},
	}
	cmd.Flags().StringVarP(&out, "output", "o", "", "file to write")
	if err := cmd.MarkFlagRequired("output"); err != nil {
		panic(err)
	}
	return cmd
}
