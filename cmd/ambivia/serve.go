package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"ambivia/api"
	"ambivia/core/circuit"
	"ambivia/core/fitting"
	"ambivia/demo"
	"ambivia/demo/fitted"
	"ambivia/exchange"
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
	go emptyBin(ctx, s, log)
	fmt.Fprintf(out, "Ambivia is at http://%s/ (stop it with Ctrl-C)\n", l.Addr())
	if err := api.Serve(ctx, l, api.New(s, web.Page(), log, hosts)); err != nil && !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

// emptyBin removes for good, now and once a day, what has lain in the bin long enough.
func emptyBin(ctx context.Context, s *store.Store, log *slog.Logger) {
	for {
		if err := s.EmptyBin(ctx, time.Now().Add(-store.Kept)); err != nil && ctx.Err() == nil {
			log.Error("the bin could not be emptied", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(24 * time.Hour):
		}
	}
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
	if since := s.Lost(); since != nil {
		fmt.Fprintf(os.Stderr, "ambivia: %s: the file %s-wal that belongs to it is missing; what was written after %s may be lost. If it is still where the program ran, put it beside the file, or copy the database with ambivia backup.\n",
			path, filepath.Base(path), since.Local().Format("2 January 2006, 15:04"))
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
		job, err := exchange.Fresh(j.Name, j.Circuits...)
		if err != nil {
			return err
		}
		for i, c := range j.Circuits {
			if err := fitDemo(ctx, c, job.Circuits[i]); err != nil {
				return err
			}
			if use := fitted.UseOf(c); use != nil {
				if job.Circuits[i].Use, err = json.Marshal(use); err != nil {
					return err
				}
			}
		}
		made, err := job.Write(ctx, s)
		if err != nil {
			return err
		}
		if strings.HasPrefix(j.Name, "Observatory") {
			if err := putDemoParties(ctx, s, made.ID); err != nil {
				return err
			}
		}
	}
	return nil
}

// fitDemo adds the plan and the log of a demo circuit that is being fitted.
func fitDemo(ctx context.Context, c *circuit.Circuit, whole *store.Whole) error {
	f, err := fitted.Of(ctx, c, time.Now())
	if err != nil || f == nil {
		return err
	}
	planned, err := json.Marshal(f.Option)
	if err != nil {
		return err
	}
	first := whole.History[0]
	whole.History[0].Next = 2
	whole.Head = 2
	whole.History = append(whole.History, store.Past{Parent: 1, Revision: store.Revision{Number: 2, Summary: "Chosen: " + f.Option.Title, Created: first.Created, Document: first.Document, Choice: f.Option.ID, Planned: planned}})
	for _, e := range f.Log {
		data, err := json.Marshal(e)
		if err != nil {
			return err
		}
		whole.Log = append(whole.Log, store.Logged{Number: e.Number, Data: data, Created: e.Time, By: e.By})
	}
	whole.Renamed = fitting.WithPhotos
	return nil
}

func putDemoParties(ctx context.Context, s *store.Store, job string) error {
	firm, err := json.Marshal(fitted.Firm)
	if err != nil {
		return err
	}
	customer, err := json.Marshal(fitted.Customer)
	if err != nil {
		return err
	}
	_, err = s.PutFirm(ctx, "", firm)
	return errors.Join(err, s.PutCustomer(ctx, job, "", customer))
}
