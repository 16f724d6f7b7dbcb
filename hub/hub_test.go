package hub

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"net"
	"os/exec"
	"strings"
	"testing"
	"time"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/retrofit"
	"ambivia/core/schedule"
)

// client is an MQTT client of the system: it hears all, and sends.
type client struct {
	t     *testing.T
	host  string
	port  string
	lines chan string
}

// patience is how long a message may take.
const patience = 20 * time.Second

func connect(t *testing.T, h *Hub) *client {
	t.Helper()
	if _, err := exec.LookPath("mosquitto_sub"); err != nil {
		t.Fatal("there is no MQTT client; make test installs one")
	}
	host, port, err := net.SplitHostPort(h.Address())
	if err != nil {
		t.Fatal(err)
	}
	c := &client{t: t, host: host, port: port, lines: make(chan string, 1000)}
	ctx, stop := context.WithCancel(context.Background())
	cmd := exec.CommandContext(ctx, "mosquitto_sub", "-h", host, "-p", port, "-t", prefix+"#", "-v")
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		for lines := bufio.NewScanner(out); lines.Scan(); {
			c.lines <- lines.Text()
		}
	}()
	t.Cleanup(func() {
		stop()
		<-ended
		_ = cmd.Wait() // it was ended here
	})
	return c
}

func (c *client) send(topic, payload string) {
	c.t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), patience)
	defer cancel()
	if out, err := exec.CommandContext(ctx, "mosquitto_pub", "-h", c.host, "-p", c.port, "-t", topic, "-m", payload).CombinedOutput(); err != nil {
		c.t.Fatalf("mosquitto_pub: %v: %s", err, out)
	}
}

// hears waits for a message whose payload has these fields.
func (c *client) hears(topic string, want map[string]any) {
	c.t.Helper()
	var heard []string
	for after := time.After(patience); ; {
		select {
		case line := <-c.lines:
			heard = append(heard, line)
			name, payload, _ := strings.Cut(line, " ")
			var got map[string]any
			if name != topic || json.Unmarshal([]byte(payload), &got) != nil {
				continue
			}
			same := true
			for field, value := range want {
				same = same && got[field] == value
			}
			if same {
				return
			}
		case <-after:
			c.t.Fatalf("never heard %s %v; heard:\n%s", topic, want, strings.Join(heard, "\n"))
		}
	}
}

// passage is a plan of two full switches that speak through a hub, with one of the ways to make its links.
func passage(t *testing.T, kind string) *circuit.Circuit {
	t.Helper()
	for _, o := range retrofit.Plan(circuittest.Straight()).Options {
		if !o.Feasible || o.Strategy != retrofit.Messages || o.After.Links[0].Via != "hub" {
			continue
		}
		sets, err := automation.For(context.Background(), &o, device.NewLibrary(nil))
		if err != nil {
			t.Fatal(err)
		}
		if s := automation.Of(sets, kind); s != nil {
			return s.Doc
		}
	}
	t.Fatalf("no plan with %s", kind)
	return nil
}

func start(t *testing.T, doc *circuit.Circuit) *Hub {
	t.Helper()
	return startWith(t, doc, nil)
}

func startWith(t *testing.T, doc *circuit.Circuit, use *schedule.Use) *Hub {
	t.Helper()
	h, err := Start(context.Background(), doc, use, "127.0.0.1:0", slog.New(slog.DiscardHandler))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		if err := h.Close(); err != nil {
			t.Error(err)
		}
	})
	return h
}

// TestByClient plays with a client of the system: up at the second place lights the lamp of the first; with the hub cut it
// does not, and the first still does by itself; the two get out of step where one is mirrored; and all comes back.
func TestByClient(t *testing.T) {
	t.Run("scenes", func(t *testing.T) {
		c := connect(t, start(t, passage(t, automation.Scenes)))
		c.hears("ambivia/light/state", map[string]any{"lit": false})
		c.send("ambivia/r1/press", `{"gesture":"up1"}`)
		c.hears("ambivia/r1/event", map[string]any{"gesture": "up1"})
		c.hears("ambivia/m1/command", map[string]any{"action": "on", "via": "hub"})
		c.hears("ambivia/light/state", map[string]any{"lit": true})
		c.send("ambivia/cut", `{"down":"hub"}`)
		c.send("ambivia/r1/press", `{"gesture":"down1"}`)
		c.hears("ambivia/r1/event", map[string]any{"gesture": "down1"})
		c.send("ambivia/m1/press", `{"gesture":"down1"}`) // its own paddle needs no hub
		c.hears("ambivia/light/state", map[string]any{"lit": false})
		c.send("ambivia/cut", `{"down":""}`)
		c.send("ambivia/r1/press", `{"gesture":"up1"}`)
		c.hears("ambivia/light/state", map[string]any{"lit": true})
		c.send("ambivia/m1/command", `{"action":"off"}`) // an app
		c.hears("ambivia/light/state", map[string]any{"lit": false})
	})
	t.Run("mirrored both ways", func(t *testing.T) {
		c := connect(t, start(t, passage(t, automation.MirrorTwo)))
		c.send("ambivia/m1/press", `{"gesture":"up1"}`)
		c.hears("ambivia/r1/state", map[string]any{"switch": "on"})
		c.send("ambivia/cut", `{"down":"hub"}`)
		c.send("ambivia/m1/press", `{"gesture":"down1"}`)
		c.hears("ambivia/r1/state", map[string]any{"switch": "on", "outOfStep": true})
		c.send("ambivia/cut", `{"down":""}`)
		c.send("ambivia/r1/press", `{"gesture":"down1"}`)
		c.hears("ambivia/r1/state", map[string]any{"switch": "off"})
	})
	t.Run("refused", func(t *testing.T) {
		c := connect(t, start(t, passage(t, automation.Scenes)))
		c.hears("ambivia/light/state", nil)
		for topic, payload := range map[string]string{
			"ambivia/m1/press": `{"gesture":"held-up-and-down"}`, "ambivia/nobody/press": `{"gesture":"up1"}`, "ambivia/r1/command": `{"action":"on"}`,
			"ambivia/m1/command": `on`, "ambivia/cut": strings.Repeat("x", mostBytes+1),
		} {
			c.send(topic, payload)
			c.hears("ambivia/refused", map[string]any{"topic": strings.TrimPrefix(topic, prefix)})
		}
		c.send("ambivia/r1/press", `{"gesture":"up1"}`)
		c.hears("ambivia/light/state", map[string]any{"lit": true})
	})
}

// TestTime plays an evening with a client of the system: schedules act when the clock comes to them, a detector holds the light
// until it is reset, and with the hub cut nothing comes of either.
func TestTime(t *testing.T) {
	daily := []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}
	use := &schedule.Use{Zone: "UTC", Inputs: []schedule.Input{{Name: "smoke", Kind: "smoke", Level: 70}, {Name: "cellar", Kind: "alarm", Lights: []string{"Cellar"}}},
		Schedules: []schedule.Schedule{{Name: "evening", Days: daily, At: "18:00", On: true, Level: 40}, {Name: "night", Days: daily, At: "23:00"}}}
	doc := passage(t, automation.Scenes)
	h := startWith(t, doc, use)
	c := connect(t, h)
	c.hears("ambivia/light/state", map[string]any{"lit": false})
	clock := func(day, at string) { c.send("ambivia/clock", `{"time":"2031-12-`+day+`T`+at+`:00Z"}`) }
	clock("24", "18:01")
	c.hears("ambivia/schedule", map[string]any{"by": "evening", "on": true, "level": 40.0})
	c.hears("ambivia/m1/state", map[string]any{"switch": "on", "level": 40.0})
	c.send("ambivia/input/1", `{"on":true}`)
	c.hears("ambivia/m1/state", map[string]any{"switch": "on", "level": 70.0})
	clock("24", "23:01")
	c.hears("ambivia/schedule", map[string]any{"by": "night", "held": true})
	if live := h.Live(); !live.Shown.Lit || !live.Alarms[0].Raised || live.Alarms[1].Raised || live.Next == nil || live.Next.By != "evening" || live.Time.Year() != 2031 {
		t.Errorf("held: %+v", live)
	}
	c.send("ambivia/input/1", `{"on":false}`)
	c.hears("ambivia/schedule", map[string]any{"by": "night, which waited"})
	c.hears("ambivia/light/state", map[string]any{"lit": false})
	if err := errors.Join(h.SetInput(2, true), h.Cut("hub")); err != nil { // the second is for another light, and holds nothing
		t.Fatal(err)
	}
	clock("25", "18:01")
	c.hears("ambivia/schedule", map[string]any{"by": "evening", "lost": true, "held": nil})
	if err := h.Cut(""); err != nil {
		t.Fatal(err)
	}
	for topic, payload := range map[string]string{"ambivia/input/3": `{"on":true}`, "ambivia/input/x": `{"on":true}`, "ambivia/input/1": `{"on":false}`, "ambivia/clock": `{"time":"9999-12-24T17:00:00Z"}`} {
		c.send(topic, payload)
		c.hears("ambivia/refused", map[string]any{"topic": strings.TrimPrefix(topic, prefix)})
	}
	if h.Live().Shown.Lit {
		t.Error("a schedule acted through a hub that was cut, or an alarm on a light that is not its own")
	}
	// By itself, when the clock comes to it.
	if err := h.SetClock(time.Date(2031, 12, 26, 17, 59, 59, 0, time.UTC)); err != nil {
		t.Fatal(err)
	}
	c.hears("ambivia/light/state", map[string]any{"lit": true})
	if n := len(Topics(doc, use)) - len(Topics(doc, nil)); n != 4 {
		t.Errorf("%d topics more", n)
	}
	bare := connect(t, start(t, doc))
	bare.hears("ambivia/light/state", nil)
	for _, time := range []string{"2031-12-24T18:00:00Z", "soon"} {
		bare.send("ambivia/clock", `{"time":"`+time+`"}`)
		bare.hears("ambivia/refused", map[string]any{"topic": "clock"})
	}
}

// TestChase: two that mirror each other and are pressed in haste send messages without end; the stand-in stays usable and
// ends when it is told to.
func TestChase(t *testing.T) {
	h := start(t, passage(t, automation.MirrorTwo))
	for range 3 {
		for _, g := range []string{"up1", "down1"} {
			if err := errors.Join(h.Press("m1", g), h.Press("r1", map[string]string{"up1": "down1", "down1": "up1"}[g])); err != nil {
				t.Fatal(err)
			}
		}
	}
	time.Sleep(100 * time.Millisecond)
	if n := len(h.Live().Lines); n == 0 || n > mostLines {
		t.Errorf("%d lines are kept", n)
	}
	if err := h.Cut("hub"); err != nil {
		t.Fatal(err)
	}
	for until := time.Now().Add(patience); !h.Live().Shown.Quiet; {
		if time.Now().After(until) {
			t.Fatal("with the hub cut messages go on")
		}
		time.Sleep(10 * time.Millisecond)
	}
}

// TestLocal: it listens to this machine alone, and on an address that is free.
func TestLocal(t *testing.T) {
	doc := passage(t, automation.Scenes)
	for _, address := range []string{"0.0.0.0:0", ":0", "[::]:0", "192.0.2.7:1883"} {
		if h, err := Start(context.Background(), doc, nil, address, slog.New(slog.DiscardHandler)); !errors.Is(err, ErrNotLocal) {
			t.Errorf("%s: %v", address, err)
			if h != nil {
				_ = h.Close()
			}
		}
	}
	h := start(t, doc)
	if _, err := Start(context.Background(), doc, nil, h.Address(), slog.New(slog.DiscardHandler)); err == nil {
		t.Error("two listen at one address")
	}
	if topics := Topics(doc, nil); len(topics) != 2*3+1+2 {
		t.Errorf("%d topics: %v", len(topics), topics)
	}
}
