package main

import (
	"bytes"
	"errors"
	"os"
	"time"

	"github.com/spf13/cobra"

	"ambivia/core/circuit"
	"ambivia/core/pdf"
	"ambivia/exchange"
)

func recordCommand() *cobra.Command {
	var out, size, currency, as string
	var annex bool
	cmd := &cobra.Command{
		Use:   "record FILE.zip",
		Short: "Write what is handed over of a job, from its archive, as PDF",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			file, bytesOf, err := openFile(args[0])
			if err != nil {
				return err
			}
			defer file.Close()
			job, err := exchange.Read(file, bytesOf)
			if err != nil {
				return oneLine(args[0], err)
			}
			r, err := job.Record(cmd.Context(), time.Now())
			if err != nil {
				return oneLine(args[0], err)
			}
			about := &circuit.Circuit{}
			if len(r.Circuits) > 0 {
				about = r.Circuits[0].Found.Doc
			}
			paper := pdf.SizeFor(about)
			switch pdf.Size(size) {
			case "":
			case pdf.A4, pdf.Letter:
				paper = pdf.Size(size)
			default:
				return errors.New("size: a4 or letter")
			}
			switch as {
			case "pdf", "json":
			default:
				return errors.New("--as: pdf or json")
			}
			var b bytes.Buffer
			if err := pdf.Record(&b, r, pdf.Info{Job: r.Job, Date: r.Date, Currency: currency}, paper, annex); err != nil {
				return err
			}
			if as == "json" {
				claims := map[string]any{"claims": r.Claims(), "sheets": pdf.Sheets(b.Bytes())}
				b.Reset()
				if err := printJSON(&b, claims); err != nil {
					return err
				}
			}
			if out == "" || out == "-" {
				_, err = cmd.OutOrStdout().Write(b.Bytes())
				return err
			}
			return os.WriteFile(out, b.Bytes(), 0o600)
		},
	}
	cmd.Flags().StringVarP(&out, "output", "o", "-", "the file to write; - is the standard output")
	cmd.Flags().StringVar(&as, "as", "pdf", "pdf, or json: the claims that the record is made of")
	cmd.Flags().BoolVar(&annex, "annex", false, "all that is known as well: gates, steps, readings, the way back, whole wirings, minutes")
	cmd.Flags().StringVar(&size, "size", "", "a4 or letter (default: the practice's own)")
	cmd.Flags().StringVar(&currency, "currency", "", "what prices are in, as ISO 4217 has it")
	return cmd
}
