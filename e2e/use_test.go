package e2e

import (
	"context"
	"io"
	"net"
	"net/http"
	"os/exec"
	"strings"
	"testing"

	"ambivia/core/circuittest"
)

// TestUse: schedules are entered at the width of a phone, the year is worked out, what people will stumble over is told, a
// wrong field is named and nothing of what was entered is lost; what is kept is there after a reload, and as a calendar.
func TestUse(t *testing.T) {
	h := start(t)
	job, err := h.store.CreateJob(context.Background(), "Tide mill")
	if err != nil {
		t.Fatal(err)
	}
	h.put(job.ID, circuittest.Straight())
	b := h.open("/circuits/1/use", 390, 844)
	b.see("None. The light is as people leave it.")
	b.press("One schedule more")
	b.fill("Name", "dusk")
	b.pick("Schedule 1: when", "by sunset")
	b.press("One schedule more")
	b.fill("Time zone", "Europe/Nowhere")
	b.fill("Watts at full level", "60")
	b.fill("Price of a kWh", "0.3")
	b.press("Hours when somebody is about")
	b.press("A detector or an alarm")
	b.fill("Turns the light on until it is reset", "Smoke detector, cellar")
	b.see("none marked: all of the job")
	b.find("[role=checkbox]", circuittest.Straight().Name).MustClick()
	b.tolerate("422")
	b.press("Keep and work out")
	b.see("there is no time zone")
	b.fill("Time zone", "Europe/Lisbon")
	b.fill("Degrees north", "38.7")
	b.fill("Degrees east", "-9.1")
	b.press("Keep and work out")
	b.see("turns the light off while somebody is usually about")
	b.MustReload().MustWaitLoad()
	b.see("undo each other")
	if marked := b.find("[role=checkbox]", circuittest.Straight().Name).MustAttribute("aria-checked"); *marked != "true" {
		t.Error("the group of the detector is gone after a reload")
	}
	b.press("What is assumed")
	b.fill("Years", "5")
	b.see("Over 5 years")
	b.see("smart lamps cost")

	answer, err := http.Get(h.url("/api/v1/circuits/1/use/calendar?year=2026"))
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err != nil || !strings.Contains(answer.Header.Get("Content-Type"), "text/calendar") || strings.Count(string(text), "BEGIN:VEVENT") != 366 {
		t.Errorf("%s: %d events, %v", answer.Header.Get("Content-Type"), strings.Count(string(text), "BEGIN:VEVENT"), err)
	}
}

// TestStandIn: the stand-in hub is started from the page, somebody presses by an MQTT client of the system, the page shows it,
// the hub is cut and comes back.
func TestStandIn(t *testing.T) {
	h := start(t)
	job, err := h.store.CreateJob(context.Background(), "Tide mill")
	if err != nil {
		t.Fatal(err)
	}
	h.put(job.ID, circuittest.Straight())
	b := h.open("/circuits/1/rehearse?option=message-switches-foot", 1280, 800)
	b.press("Start it")
	b.see("the light is dark")
	address := strings.Fields(b.MustElement(`[aria-label="Stand-in hub"] [role=status]`).MustText())[0]
	host, port, err := net.SplitHostPort(strings.TrimSuffix(address, ":"))
	if err != nil {
		t.Fatal(err)
	}
	press := func(topic, payload string) {
		t.Helper()
		if out, err := exec.Command("mosquitto_pub", "-h", host, "-p", port, "-t", topic, "-m", payload).CombinedOutput(); err != nil {
			t.Fatalf("%v: %s", err, out)
		}
	}
	press("ambivia/r1/press", `{"gesture":"up1"}`)
	b.see(": the light is lit")
	b.press("Cut the hub")
	b.see("hub is cut")
	press("ambivia/r1/press", `{"gesture":"down1"}`)
	b.press("down at foot, through the broker")
	b.see(": the light is dark, hub is cut")
	b.press("hub is cut")
	b.press("up at head, through the broker")
	b.see(": the light is lit")
	b.press("down at head, through the broker")
	b.see(": the light is dark")

	// With schedules and a detector it knows a time too.
	b.MustNavigate(h.url("/circuits/1/use")).MustWaitLoad()
	b.press("One schedule more")
	b.press("A detector or an alarm")
	b.press("Keep and work out")
	b.gone("Changed, not kept yet")
	b.MustNavigate(h.url("/circuits/1/rehearse?option=message-switches-foot")).MustWaitLoad()
	b.press("Start it anew with these rules")
	b.see("Its clock says")
	b.press("Smoke detector goes off")
	b.see(": the light is lit")
	b.press("Reset Smoke detector")
	b.see("Smoke detector goes off")
	b.press("down at foot, through the broker")
	b.see(": the light is dark")
	b.press("Let it be then")
	b.see(": the light is lit")

	b.press("Stop it")
	b.gone("Start it anew")
	if _, err := net.Dial("tcp", net.JoinHostPort(host, port)); err == nil { // the first was stopped for the second
		t.Error("the broker still listens after it was stopped")
	}
}
