package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"

	"github.com/spf13/cobra"

	"ambivia/api"
	"ambivia/core/circuit"
	"ambivia/demo"
	"ambivia/store"
	"ambivia/web"
)

func serveCommand() *cobra.Command {
	var address, data string
	var withDemo bool
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve the page on this machine",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return serve(ctx, cmd.OutOrStdout(), address, data, withDemo)
		},
	}
	cmd.Flags().StringVar(&address, "address", "127.0.0.1:8420", "loopback address to listen at")
	cmd.Flags().StringVar(&data, "data", "", "database file (default: in the user's configuration folder)")
	cmd.Flags().BoolVar(&withDemo, "demo", false, "put the demo job into an empty database")
	return cmd
}

func serve(ctx context.Context, out io.Writer, address, data string, withDemo bool) error {
	if err := loopbackOnly(address); err != nil {
		return err
	}
	s, err := openStore(ctx, data)
	if err != nil {
		return err
	}
	defer s.Close()
	if withDemo {
		if err := loadDemo(ctx, s); err != nil {
			return err
		}
	}
	l, err := api.Listen(address)
	if err != nil {
		return err
	}
	_, port, err := net.SplitHostPort(l.Addr().String())
	if err != nil {
		return err
	}
	hosts := []string{"127.0.0.1:" + port, "localhost:" + port, "[::1]:" + port}
	log := slog.New(slog.NewJSONHandler(os.Stderr, nil))
	fmt.Fprintf(out, "Ambivia is at http://%s/ (stop it with Ctrl-C)\n", l.Addr())
	if err := api.Serve(ctx, l, api.New(s, web.Page(), log, hosts)); err != nil && !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

// loopbackOnly refuses to listen where other machines could reach the program,
// which has no accounts.
func loopbackOnly(address string) error {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return fmt.Errorf("--address %s: write HOST:PORT, for example 127.0.0.1:8420", address)
	}
	if ip := net.ParseIP(host); host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return fmt.Errorf("--address %s: only the loopback address is served (127.0.0.1, ::1 or localhost)", address)
	}
	return nil
}

// openStore opens the database, by default in the user's configuration folder.
func openStore(ctx context.Context, path string) (*store.Store, error) {
	if path == "" {
		dir, err := os.UserConfigDir()
		if err != nil {
			return nil, fmt.Errorf("no place for the database: %w; name one with --data FILE", err)
		}
		path = filepath.Join(dir, "ambivia", "ambivia.db")
	}
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return nil, oneLine(path, err)
	}
	s, err := store.Open(ctx, path)
	if err != nil {
		return nil, oneLine(path, err)
	}
	return s, nil
}

// loadDemo fills an empty database with the demo jobs.
func loadDemo(ctx context.Context, s *store.Store) error {
	jobs, err := s.Jobs(ctx)
	if err != nil || len(jobs) > 0 {
		return err
	}
	for _, j := range demo.Jobs() {
		if _, err := addJob(ctx, s, j.Name, j.Circuits); err != nil {
			return err
		}
	}
	return nil
}

// addJob adds a job with circuits and returns the circuits' numbers.
func addJob(ctx context.Context, s *store.Store, name string, circuits []*circuit.Circuit) ([]int64, error) {
	job, err := s.CreateJob(ctx, name)
	if err != nil {
		return nil, err
	}
	var ids []int64
	for _, c := range circuits {
		var b bytes.Buffer
		if err := circuit.Write(&b, c); err != nil {
			return nil, err
		}
		made, err := s.CreateCircuit(ctx, job.ID, store.Change{Said: "Circuit imported", Document: b.Bytes()})
		if err != nil {
			return nil, err
		}
		ids = append(ids, made.ID)
	}
	return ids, nil
}

func importCommand() *cobra.Command {
	var data, job string
	cmd := &cobra.Command{
		Use:   "import FILE...",
		Short: "Read circuit files into a new job of the database",
		Args:  cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			var circuits []*circuit.Circuit
			for _, path := range args { // all are read before anything is written
				c, err := readCircuit(path)
				if err != nil {
					return err
				}
				if c.Name == "" {
					c.Name = "Imported circuit"
				}
				circuits = append(circuits, c)
			}
			s, err := openStore(cmd.Context(), data)
			if err != nil {
				return err
			}
			defer s.Close()
			ids, err := addJob(cmd.Context(), s, job, circuits)
			if err != nil {
				return err
			}
			return printJSON(cmd.OutOrStdout(), map[string]any{"job": job, "circuits": ids})
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "database file (default: in the user's configuration folder)")
	cmd.Flags().StringVar(&job, "job", "Imported", "name of the new job")
	return cmd
}
