package e2e

import (
	"context"
	"os"
	"testing"

	"ambivia/core/circuit"
)

// TestRehearse: two dimmers that mirror each other are played by hand: messages wait until they are let arrive, a cut way
// loses them, the way to where they chase each other is shown, and one steps back.
func TestRehearse(t *testing.T) {
	data, err := os.ReadFile("testdata/passage-mirrored.json")
	if err != nil {
		t.Fatal(err)
	}
	doc, err := circuit.Parse(data)
	if err != nil {
		t.Fatal(err)
	}
	h := start(t)
	job, err := h.store.CreateJob(context.Background(), "Observatory")
	if err != nil {
		t.Fatal(err)
	}
	h.put(job.ID, doc)
	b := h.open("/circuits/1/rehearse", 390, 844)
	b.see("The light is dark")
	b.see("Flawed")
	b.press("up at Passage, meridian end, dimmer at the meridian end")
	b.see("Let the first arrive")
	b.see("The light is dark")
	b.press("Let the first arrive")
	b.see("The light is lit")
	b.press("Let all arrive")
	b.see("Nothing. All is quiet.")
	b.press("Step back")
	b.see("Let all arrive")
	b.press("From the start")
	b.see("The light is dark")

	b.find("[role=radio]", "hub").MustClick()
	b.press("up at Passage, meridian end, dimmer at the meridian end")
	b.see("Nothing. All is quiet.")
	b.see("out of step with the light")
	b.find("[role=radio]", "nothing").MustClick()
	b.press("Show me")
	b.see("down at Passage, dome end, dimmer at the dome end; the light is")
	b.see("Let all arrive")
	b.press("Let all arrive")
	b.see("messages arrive; the light is")
	b.see("Let all arrive") // they chase each other
	b.see("copied to dimmer at the dome end")
}
