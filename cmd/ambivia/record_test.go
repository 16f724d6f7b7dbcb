package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ambivia/exchange"
)

// TestRecord: the demo's job that is done goes out as an archive, and its record is written from that alone; what is no
// archive is refused in one line, and a circuit file has a record in which nothing was done.
func TestRecord(t *testing.T) {
	dir := t.TempDir()
	s, err := openStore(t.Context(), filepath.Join(dir, "a.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if err := loadDemo(t.Context(), s); err != nil {
		t.Fatal(err)
	}
	jobs, err := s.Jobs(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	for _, job := range jobs {
		path := filepath.Join(dir, job.ID+".zip")
		f, err := os.Create(path)
		if err != nil {
			t.Fatal(err)
		}
		if err := exchange.Export(t.Context(), s, job.ID, f); err != nil {
			t.Fatal(err)
		}
		f.Close()
		out := filepath.Join(dir, job.ID+".pdf")
		if text, err := run("record", path, "-o", out, "--currency", "GBP", "--size", "a4"); err != nil || text != "" {
			t.Fatalf("%s: %q, %v", job.Name, text, err)
		}
		pdf, err := os.ReadFile(out)
		if err != nil || !strings.HasPrefix(string(pdf), "%PDF-") || len(pdf) < 20_000 {
			t.Errorf("%s: %d bytes, %v", job.Name, len(pdf), err)
		}
	}
	plain := "../../demo/observatory/chart-room.json"
	if text, err := run("record", plain); err != nil || !strings.HasPrefix(text, "%PDF-") {
		t.Errorf("a circuit file: %.20q, %v", text, err)
	}
	for _, wrong := range [][]string{{"record", "record_test.go"}, {"record", plain, "--size", "a0"}, {"record", "nowhere.zip"}} {
		if text, err := run(wrong...); err == nil || text != "" || strings.Contains(err.Error(), "\n") {
			t.Errorf("%v: %.40q, %v", wrong, text, err)
		}
	}
}
