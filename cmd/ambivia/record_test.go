package main

import (
	"encoding/json"
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
		if err != nil || !strings.HasPrefix(string(pdf), "%PDF-") || len(pdf) < 10_000 {
			t.Errorf("%s: %d bytes, %v", job.Name, len(pdf), err)
		}
		sheets := func(more ...string) (n, circuits int) {
			text, err := run(append([]string{"record", path, "--as", "json"}, more...)...)
			if err != nil {
				t.Fatal(err)
			}
			var out struct {
				Claims []struct{ Circuit, Kind string }
				Sheets int
			}
			if err := json.Unmarshal([]byte(text), &out); err != nil {
				t.Fatal(err)
			}
			done := map[string]bool{}
			for _, c := range out.Claims {
				if c.Kind == "done" {
					done[c.Circuit] = true
				}
			}
			return out.Sheets, len(done)
		}
		short, circuits := sheets()
		if whole, _ := sheets("--annex"); short > 1+2*circuits || short < 1+min(1, circuits) || whole <= short {
			t.Errorf("%s: %d sheets for %d circuits that were fitted, %d with the annex", job.Name, short, circuits, whole)
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
