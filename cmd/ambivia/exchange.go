package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"ambivia/core/circuit"
	"ambivia/exchange"
	"ambivia/store"
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
				file, size, err := openFile(path)
				if err != nil {
					return err
				}
				defer file.Close() // pictures are read when the job is written
				job, err := exchange.Read(file, size)
				if err != nil {
					return oneLine(path, err)
				}
				if job.Archived() {
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
				Job      string   `json:"job"`
				ID       string   `json:"id"`
				Circuits []string `json:"circuits"`
				Lost     []string `json:"lost,omitempty"`
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
				a := answer{Job: made.Name, ID: made.ID, Lost: job.Lost}
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

// openFile opens a file that is to be imported, and says how large it is.
func openFile(path string) (*os.File, int64, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, 0, oneLine(path, err)
	}
	info, err := f.Stat()
	if err == nil && !info.Mode().IsRegular() {
		err = errors.New("this is no file")
	}
	if err != nil {
		return nil, 0, errors.Join(oneLine(path, err), f.Close())
	}
	return f, info.Size(), nil
}

// listed is a job as list prints it.
type listed struct {
	ID       string          `json:"id"`
	Name     string          `json:"name"`
	Archived bool            `json:"archived"`
	Circuits []listedCircuit `json:"circuits"`
}

type listedCircuit struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

func listCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use:   "list",
		Short: "List the jobs of a database with their circuits, the newest first",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, err := openStore(cmd.Context(), data)
			if err != nil {
				return err
			}
			defer s.Close()
			jobs, err := s.Jobs(cmd.Context())
			if err != nil {
				return err
			}
			out := []listed{}
			for _, j := range jobs {
				of := listed{j.ID, j.Name, j.Archived, []listedCircuit{}}
				circuits, err := s.Circuits(cmd.Context(), j.ID)
				if err != nil {
					return err
				}
				for _, c := range circuits {
					doc, err := circuit.Parse(c.Head.Document)
					if err != nil {
						return fmt.Errorf("circuit %s: %w", c.ID, err)
					}
					of.Circuits = append(of.Circuits, listedCircuit{c.ID, doc.Name})
				}
				out = append(out, of)
			}
			return printJSON(cmd.OutOrStdout(), out)
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "database file (default: in the user's configuration folder)")
	return cmd
}

func exportCommand() *cobra.Command {
	var data, out string
	var all bool
	cmd := &cobra.Command{
		Use:   "export [JOB]",
		Short: "Write a job with its history and photographs as one archive, or all jobs into a folder",
		Args:  cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if all == (len(args) == 1) {
				return errors.New("export: name one job by its id, or all of them with --all")
			}
			s, err := openStore(cmd.Context(), data)
			if err != nil {
				return err
			}
			defer s.Close()
			if all {
				return exportAll(cmd, s, out)
			}
			told, err := exportJob(cmd.Context(), s, args[0], out)
			if errors.Is(err, store.ErrNotFound) {
				return fmt.Errorf("export %s: there is no such job; name it by its id, as import prints it and the page's address shows it", args[0])
			}
			if err != nil {
				return err
			}
			return printJSON(cmd.OutOrStdout(), told)
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "database file (default: in the user's configuration folder)")
	cmd.Flags().StringVarP(&out, "out", "o", "", "archive to write; with --all a folder, which is made")
	cmd.Flags().BoolVar(&all, "all", false, "every job that is not in the bin, an archive for each")
	_ = cmd.MarkFlagRequired("out") // the flag is defined in the lines above
	return cmd
}

// exported is what is told of a job that was written.
type exported struct {
	Job      string `json:"job"`
	ID       string `json:"id"`
	Circuits int    `json:"circuits"`
	File     string `json:"file"`
	Bytes    int64  `json:"bytes"`
}

// exportJob writes one job. A file that is there already is replaced only once the new one is whole.
func exportJob(ctx context.Context, s *store.Store, id string, out string) (*exported, error) {
	job, err := s.Job(ctx, id)
	if err != nil {
		return nil, err
	}
	file, err := os.CreateTemp(filepath.Dir(out), ".ambivia-export-*")
	if err != nil {
		return nil, oneLine(out, err)
	}
	defer os.Remove(file.Name()) // it is not there any more where all went well
	err = exchange.Export(ctx, s, id, file)
	size, _ := file.Seek(0, io.SeekCurrent)
	if err = errors.Join(err, file.Sync(), file.Close()); err != nil {
		return nil, oneLine(fmt.Sprintf("job %s", id), err)
	}
	if err := os.Rename(file.Name(), out); err != nil {
		return nil, oneLine(out, err)
	}
	return &exported{job.Name, id, job.Circuits, out, size}, nil
}

// exportAll writes every job into a folder. A job that cannot be written is told, and the others
// are written all the same.
func exportAll(cmd *cobra.Command, s *store.Store, folder string) error {
	jobs, err := s.Jobs(cmd.Context())
	if err != nil {
		return err
	}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return oneLine(folder, err)
	}
	out, failed := []*exported{}, []error{}
	for _, j := range jobs {
		told, err := exportJob(cmd.Context(), s, j.ID, filepath.Join(folder, fmt.Sprintf("job-%s.zip", j.ID)))
		if err != nil {
			failed = append(failed, err)
			continue
		}
		out = append(out, told)
	}
	return errors.Join(append(failed, printJSON(cmd.OutOrStdout(), map[string]any{"jobs": out}))...)
}

func backupCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use:   "backup FILE",
		Short: "Write a consistent copy of the database, also while the program runs",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			s, err := openStore(cmd.Context(), data)
			if err != nil {
				return err
			}
			defer s.Close()
			if err := s.Backup(cmd.Context(), args[0]); err != nil {
				return oneLine(args[0], err)
			}
			return printJSON(cmd.OutOrStdout(), map[string]string{"file": args[0]})
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "database file (default: in the user's configuration folder)")
	return cmd
}
