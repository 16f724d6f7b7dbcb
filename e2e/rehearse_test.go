package e2e

import (
	"context"
	"os"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

// TestRehearse: two dimmers that mirror each other are played by hand: messages wait until they are let arrive, a cut way
// loses them, the way to where they chase each other is shown, and one steps back.
func TestRehearse(t *testing.T) {
	data, err := os.ReadFile("../demo/links/passage-mirrored.json")
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
	b.press("up at Passage, meridian end")
	b.find("button", "Let the first arrive")
	b.see("The light is dark")
	b.press("Let the first arrive")
	b.see("The light is lit")
	b.press("Let all arrive")
	b.see("All is quiet.")
	b.press("Step back")
	b.find("button", "Let all arrive")
	b.press("From the start")
	b.see("The light is dark")

	// The same by keys alone.
	b.key('2')
	b.find("button", "Let the first arrive")
	b.key('.')
	b.see("The light is lit")
	b.key('.')
	b.see("All is quiet.")
	b.key('1')
	b.see("down at Passage, dome end; the light is dark")
	b.key(',')
	b.see("All is quiet.")
	b.press("From the start")
	b.see("The light is dark")

	b.pick("Down", "the hub")
	b.press("up at Passage, meridian end")
	b.see("All is quiet.")
	b.see("out of step with the light")
	b.pick("Down", "nothing")
	b.press("From the start")
	b.press("up at Passage, dome end")
	b.press("Lose it")
	b.see("is lost; the light is lit")
	b.see("All is quiet.")
	b.press("Show me")
	b.see("down at Passage, dome end; the light is")
	b.find("button", "Let all arrive")
	b.press("Let all arrive")
	b.see("messages arrive; the light is")
	b.find("button", "Let all arrive") // they chase each other
	b.see("copied to Passage, dome end")

	// Whoever waits for what is under way does not see them chase each other.
	b.see("With these delays it is flawed too.")
	b.fill("Between two presses of people in haste, s at least", "1.3")
	b.see("With these delays it is sound: what goes wrong in other orders cannot come about.")

	// The other way round is given up: what is left is flawed otherwise, and is told at once.
	b.press("One way only")
	b.see("Rules, changed here")
	b.see("was not obeyed")
	b.press("Remove mirror 1")
	b.press("One rule more")
	b.see("Rule")
	b.pick("Rule 1: where", "Passage, meridian end")
	b.pick("Rule 1: what happens there", "up")
	b.see("up at Passage, meridian end: Passage, dome end is told on, over the hub")
	b.press("As they were")
	b.see("copied to Passage, dome end")
}

// TestLinksOfAPlan: Choose says of an option with links how they can be made and which ways are flawed; each is played
// before anything is bought, and one that has no paddle is none that is offered.
func TestLinksOfAPlan(t *testing.T) {
	h := start(t)
	job, err := h.store.CreateJob(context.Background(), "Observatory")
	if err != nil {
		t.Fatal(err)
	}
	h.put(job.ID, circuittest.Straight())
	b := h.open("/circuits/1/choose?show=paired-switches-foot", 1280, 800)
	b.see("Scene control by a hub or a local broker")
	b.see("Mirrored both ways")
	b.see("the devices chase each other")
	b.find("a", "Rehearse").MustClick()
	b.see("Sound in every order")
	b.pick("How the links are made", "Mirrored one way: flawed")
	b.see("was not obeyed")
	b.pick("How the links are made", "Scene control")
	b.see("Sound in every order")
	b.press("up three times at head")
	b.press("Let all arrive")
	b.see("50 %")
	b.find("[role=radio]", "slowly").MustClick()
	b.press("down at head")
	b.see("arrives; the light is dark")

	// A rule's level is another: so is the light's.
	b.pick("Rule 4: at which level", "at 10 %")
	b.see("Rules, changed here")
	b.see("up three times at head: foot is told on at 10 %, over the hub")
	b.press("up three times at head")
	b.press("Let all arrive")
	b.see("10 %")
	b.press("As they were")

	// Once the option is chosen, a way with a rule less is kept for the plan, and is there after a reload.
	b.MustNavigate(h.url("/circuits/1/choose?show=paired-switches-foot")).MustWaitLoad()
	b.press("Choose this")
	b.see("Chosen — take back")
	b.MustNavigate(h.url("/circuits/1/rehearse?set=scenes")).MustWaitLoad()
	b.see("Sound in every order")
	b.press("Remove rule 6")
	b.see("Rules, changed here")
	b.press("Keep this for the plan")
	b.gone("Keep this for the plan")
	b.MustReload().MustWaitLoad()
	b.see("with rules of your own")
	b.see("up four times")
	b.gone("up five times at head: foot is told")

	// The steps say what is entered.
	b.MustNavigate(h.url("/circuits/1/wire")).MustWaitLoad()
	b.find("[role=tab]", "Steps").MustClick()
	b.find("button", "All").MustClick()
	b.MustElementR("button.step", "Enter in the hub").MustClick()
	b.see("up four times at head: foot is told on at 75 %, over the hub")
}
