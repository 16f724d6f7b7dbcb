package api_test

import (
	"bytes"
	"context"
	"io"
	"log/slog"
	"net/http"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"ambivia/api"
	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/store"
)

// TestDispositions: a file is called as what it is of, in any script, and plainly beside it.
func TestDispositions(t *testing.T) {
	b := newBench(t)
	b.call("POST", "/jobs", map[string]any{"name": "Колесо \"мельницы\" / 1"}, 201)
	b.call("POST", "/jobs/1/circuits", map[string]any{"name": "楼梯", "practice": "eu"}, 201)
	for path, want := range map[string]string{
		"/api/v1/circuits/1/file": `attachment; filename="ambivia.json"; filename*=UTF-8''%E6%A5%BC%E6%A2%AF.json`,
		"/api/v1/jobs/1/archive":  `attachment; filename="1.zip"; filename*=UTF-8''%D0%9A%D0%BE%D0%BB%D0%B5%D1%81%D0%BE-%D0%BC%D0%B5%D0%BB%D1%8C%D0%BD%D0%B8%D1%86%D1%8B-1.zip`,
	} {
		if got := b.raw("GET", path, nil, nil).Header().Get("Content-Disposition"); got != want {
			t.Errorf("%s: %s, not %s", path, got, want)
		}
	}
}

// TestOneBadCircuit: a stored circuit that cannot be read shows as such in its row; the others of
// the job work, and its file can still be taken out.
func TestOneBadCircuit(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, ":memory:")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	job, err := s.CreateJob(ctx, "Wool shed")
	if err != nil {
		t.Fatal(err)
	}
	var good bytes.Buffer
	if err := circuit.Write(&good, circuittest.Straight()); err != nil {
		t.Fatal(err)
	}
	for _, data := range [][]byte{good.Bytes(), []byte(`{"format": "ambivia-circuit/1", "boxes": 7}`)} {
		if _, err := s.CreateCircuit(ctx, job.ID, store.Change{Summary: "made", Document: data}); err != nil {
			t.Fatal(err)
		}
	}
	b := newBench(t)
	b.ids.Store = s
	b.h = api.New(s, fstest.MapFS{}, slog.New(slog.NewTextHandler(b.log, nil)), []string{host})
	list := b.call("GET", "/jobs/1", nil, 200)["circuits"].([]any)
	if len(list) != 2 || list[0].(map[string]any)["verdict"] != "works" || list[1].(map[string]any)["verdict"] != "unreadable" {
		t.Errorf("%v", list)
	}
	if w := b.raw("GET", "/api/v1/circuits/2/file", nil, nil); w.Code != 200 || !bytes.Contains(w.Body.Bytes(), []byte(`"boxes": 7`)) {
		t.Errorf("its file: %d, %s", w.Code, w.Body)
	}
	if strings.Contains(b.log.String(), "Wool shed") {
		t.Error("a customer's name is in the log")
	}
}

// TestStopsSoon: whatever is being answered, the program ends within two seconds of being told.
func TestStopsSoon(t *testing.T) {
	l, err := api.Listen("127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	started := make(chan struct{})
	slow := http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) {
		close(started)
		<-r.Context().Done()
	})
	ctx, stop := context.WithCancel(context.Background())
	done := make(chan error, 1)
	go func() { done <- api.Serve(ctx, l, slow) }()
	go func() {
		if answer, err := http.Get("http://" + l.Addr().String()); err == nil {
			_, _ = io.Copy(io.Discard, answer.Body)
			_ = answer.Body.Close()
		}
	}()
	<-started
	stop()
	select {
	case <-done:
	case <-time.After(20 * time.Second): // far past what it may take
		t.Fatal("it does not stop")
	}
}
