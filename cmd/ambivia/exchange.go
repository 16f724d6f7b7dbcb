package main

import (
	"bytes"
	"fmt"
	"io"
	"os"
	"strconv"

	"github.com/spf13/cobra"

	"ambivia/core/archive"
	"ambivia/exchange"
)

func importCommand() *cobra.Command {
	var data, name string
	cmd := &cobra.Command{
		Use:   "import FILE...",
		Short: "Read circuit files into a new job of the database, and each job archive into a job of its own",
		Args:  cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			together := &exchange.Job{Name: name}
			var jobs []*exchange.Job
			for _, path := range args { // all are read before anything is written
				file, err := readFile(path)
				if err != nil {
					return err
				}
				job, err := exchange.Read(file)
				if err != nil {
					return oneLine(path, err)
				}
				if archive.Is(file) {
					jobs = append(jobs, job)
				} else {
					together.Circuits = append(together.Circuits, job.Circuits...)
				}
			}
			if len(together.Circuits) > 0 {
				jobs = append(jobs, together)
			}
			s, err := openStore(cmd.Context(), data)
			if err != nil {
				return err
			}
			defer s.Close()
			type answer struct {
				Job      string  `json:"job"`
				Number   int64   `json:"number"`
				Circuits []int64 `json:"circuits"`
			}
			var out []answer
			for _, job := range jobs {
				made, err := job.Write(cmd.Context(), s)
				if err != nil {
					return err
				}
				circuits, err := s.Circuits(cmd.Context(), made.ID)
				if err != nil {
					return err
				}
				a := answer{Job: made.Name, Number: made.ID}
				for _, c := range circuits {
					a.Circuits = append(a.Circuits, c.ID)
				}
				out = append(out, a)
			}
			if len(out) == 1 {
				return printJSON(cmd.OutOrStdout(), out[0])
			}
			return printJSON(cmd.OutOrStdout(), map[string]any{"jobs": out})
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "database file (default: in the user's configuration folder)")
	cmd.Flags().StringVar(&name, "job", "Imported", "name of the new job for circuit files")
	return cmd
}

// readFile reads a file up to the largest size that any import takes.
func readFile(path string) ([]byte, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, oneLine(path, err)
	}
	defer f.Close()
	data, err := io.ReadAll(io.LimitReader(f, archive.MaxBytes+1))
	if err != nil {
		return nil, oneLine(path, err)
	}
	return data, nil
}

func exportCommand() *cobra.Command {
	var data, out string
	cmd := &cobra.Command{
		Use:   "export JOB",
		Short: "Write a job with its history and photographs as one archive",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			id, err := strconv.ParseInt(args[0], 10, 64)
			if err != nil {
				return fmt.Errorf("export %s: name the job by its number, as import prints it and the page's address shows it", args[0])
			}
			s, err := openStore(cmd.Context(), data)
			if err != nil {
				return err
			}
			defer s.Close()
			var b bytes.Buffer // so that nothing is written where something fails
			if err := exchange.Export(cmd.Context(), s, id, &b); err != nil {
				return oneLine("job "+args[0], err)
			}
			job, err := s.Job(cmd.Context(), id)
			if err != nil {
				return err
			}
			if err := os.WriteFile(out, b.Bytes(), 0o600); err != nil {
				return oneLine(out, err)
			}
			return printJSON(cmd.OutOrStdout(), map[string]any{"job": job.Name, "circuits": job.Circuits, "file": out, "bytes": b.Len()})
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "database file (default: in the user's configuration folder)")
	cmd.Flags().StringVarP(&out, "out", "o", "", "archive to write")
	_ = cmd.MarkFlagRequired("out") // the flag is defined in the line above
	return cmd
}
