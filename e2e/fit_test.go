package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"

	"ambivia/core/pdf"
)

// fitStay says that all lines of the stay are done, where several may be ticked in one go.
func (b *tab) fitStay() bool {
	b.t.Helper()
	b.Page.Timeout(patience).MustWait(`() => !document.querySelector("[data-arriving]") && !window.waiting`)
	return b.MustEval(`() => {
		const all = [...document.querySelectorAll(".step-now button")].find(e => /^A\s+All \d+ done$/.test(e.innerText.trim()) && !e.disabled);
		all?.click();
		return all !== undefined;
	}`).Bool()
}

// fitOne confirms what the step asks, and says that it is done.
func (b *tab) fitOne(n int) {
	b.t.Helper()
	b.see(fmt.Sprintf("Step %d of", n))
	if b.MustEval(`() => {
		const asks = [...document.querySelectorAll(".step-now [role=checkbox]")];
		asks.forEach(c => c.click());
		return asks.length > 0;
	}`).Bool() {
		b.press("Confirmed")
	} else {
		b.press("D Done")
	}
}

// fitOn does steps until one whose text has some words is to be done; it returns its number, or 0 where all are settled.
func (b *tab) fitOn(words string) int {
	b.t.Helper()
	for range 200 {
		err := b.Page.Timeout(patience).Wait(rod.Eval(`() => document.querySelector(".step-now, section[aria-label=Over]") !== null`))
		if err != nil {
			b.t.Fatalf("there is neither a step nor an end; the page says:\n%s", b.MustElement("body").MustText())
		}
		text := b.MustElement(".step-now, section[aria-label=Over]").MustText()
		now := b.MustEval(`() => document.querySelector(".step-now [role=status]")?.innerText ?? ""`).String() // the lines that follow stand there too
		var n int
		if _, err := fmt.Sscanf(text, "Step %d of", &n); err != nil {
			return 0
		}
		if words != "" && strings.Contains(now, words) {
			return n
		}
		if words != "" || !b.fitStay() {
			b.fitOne(n)
		}
		if err := b.Page.Timeout(patience).Wait(rod.Eval(`n => !document.querySelector(".step-now")?.innerText.startsWith("Step " + n + " of")`, n)); err != nil {
			b.t.Fatalf("step %d stays; the page says:\n%s", n, b.MustElement("body").MustText())
		}
	}
	b.t.Fatal("the steps never end")
	return 0
}

// prove looks at the lamps and presses through, right each time.
func (b *tab) prove() {
	b.t.Helper()
	b.see("how do the lamps look now?")
	b.find("[aria-label='The next press'] label", "dark").MustClick()
	b.press("That is how it looks")
	b.gone("how do the lamps look now?")
	b.pressThrough()
}

// pressThrough says of every press, by its key, that it did what it should, until all is proved.
func (b *tab) pressThrough() {
	b.t.Helper()
	for range 20 {
		err := b.Page.Timeout(patience).Wait(rod.Eval(`() => {
			const card = document.querySelector("[aria-label='The next press']");
			return card.innerText.startsWith("Proved") || [...card.querySelectorAll("button")].some(x => x.innerText.includes("It did") && !x.disabled);
		}`))
		if err != nil {
			b.t.Fatalf("it neither goes on nor ends; the page says:\n%s", b.MustElement("body").MustText())
		}
		if strings.HasPrefix(b.MustElement("[aria-label='The next press']").MustText(), "Proved") {
			return
		}
		was := b.MustElement("[aria-label='The next press'] p").MustText()
		b.key('y')
		if err := b.Page.Timeout(patience).Wait(rod.Eval(`was => document.querySelector("[aria-label='The next press'] p").innerText !== was`, was)); err != nil {
			b.t.Fatalf("%s stays", was)
		}
	}
	b.t.Fatal("proving never ends")
}

// TestFit: a plan is fitted at a desk and, after a restart, with a phone; every gate refuses what would be unsafe; what is
// wrong is found by what the light does, mended step by step, and proved; the record is handed over.
func TestFit(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/2/fit", 1280, 800)
	b.tolerate("422")
	b.tolerate("409")
	b.tolerate("ERR_") // it asks how the work stands while the server is away
	b.see("No plan is chosen yet")
	b.key('c')
	b.choose("Smart main in Archive door; Archive ladder becomes a wired auxiliary")
	b.key('f')
	b.press("Begin:")
	b.see("The power may be on.")
	b.see("Step 1 of 45")
	if !b.Timeout(patience).MustElementR("button", "Confirmed").MustProperty("disabled").Bool() {
		t.Error("a gate is passed without its lines")
	}
	for range 8 {
		b.key('.')
	}
	b.see("comes first.")
	b.key('d') // nothing is done by a key that a locked step does not have
	b.press("To step 1")
	b.see("Step 1 of 45")
	lift := b.fitOn("Take ")
	b.see("Off, locked and labelled")
	b.until("the box of a step is not drawn before and after", `() => document.querySelectorAll("[aria-label='The box of this step'] .front svg").length === 2`)
	b.still()
	b.KeyActions().Press(input.ControlLeft).Type('z').MustDo() // of the log, not of the record
	b.see(fmt.Sprintf("Step %d of", lift-1))
	b.fitOn("Take ")

	h.restart()
	phone := h.open("/circuits/2/fit", 390, 844)
	phone.tolerate("422")
	phone.see(fmt.Sprintf("Step %d of 45", lift))
	if done := phone.find("button", "D Done").MustShape().Box(); done.Y+done.Height > 780 {
		t.Errorf("on a phone Done ends at %.0f of 844, under the stages", done.Y+done.Height)
	}
	phone.still()
	phone.MustEval(`async () => { // a double press: the second was meant for the step that was read
		const press = () => [...document.querySelectorAll(".step-now button")].find(e => e.innerText.includes("Done"))?.click();
		await new Promise(done => setTimeout(done, 500));
		press();
		await new Promise(done => setTimeout(done, 50));
		press();
	}`)
	phone.see(fmt.Sprintf("Step %d of", lift+1))
	b.see(fmt.Sprintf("%d settled", lift)) // told of it without a reload

	phone.press("Reading, note")
	phone.fill("Note, reason", "two blacks under this screw")
	phone.press("Not as drawn")
	phone.see("Put what is there into the record as found")
	phone.press("It is as drawn after all")
	on := phone.fitOn("Breaker 9 on.")
	phone.fitOne(on)
	phone.see("The power may be on.")
	phone.press("Take the last entry back")
	phone.see("Make it safe first")
	phone.MustEval(`() => document.querySelectorAll("section[aria-label='Make it safe'] [role=checkbox]").forEach(c => c.click())`)
	phone.press("All is off and dead")
	phone.gone("Make it safe first")
	phone.fitOn("")
	phone.see("Every step is settled")

	b.key('p')
	b.see("how do the lamps look now?")
	b.find("[aria-label='The next press'] label", "dark").MustClick()
	b.press("That is how it looks")
	b.see("It did not")
	b.press("N It did not")
	b.see("It does not do what right work does")
	b.press("Take the last entry back")
	b.gone("It does not do what right work does")
	b.see("It did not")
	b.press("N It did not")
	b.see("It does not do what right work does")
	b.press("Begin again")
	b.see("how do the lamps look now?")
	b.find("[aria-label='The next press'] label", "dark").MustClick()
	b.press("That is how it looks")
	b.see("It did not")
	b.press("N It did not")
	b.see("It does not do what right work does")
	b.see("explain")
	b.press("Show")
	b.see("If it is so")
	b.until("the box is not drawn with the mistake and without", `() => document.querySelectorAll("[aria-label='What is wrong'] figure svg").length === 2`)
	b.press("It is so: mend it")
	b.see("Step 1 of")
	b.fitOn("")
	b.see("Every step is settled")
	b.press("Prove it")
	b.prove()
	b.see("Tested: every switch works as planned.")
	b.press("What no press shows")
	b.press("Devices:")
	b.press("Archive door: smart main dimmer")
	b.fill("Serial number", "0042-A")
	b.press("Something is odd") // leaves the field
	b.see("1 of")
	if got := h.fetch("jobs/1/record"); !strings.HasPrefix(got, "%PDF-") {
		t.Errorf("the record begins with %.20q", got)
	}
}

// TestFromBoxToRecord: in three practices, from the first open box to the customer's record, with a restart and a second
// device in the middle; one of them is put back and fitted anew.
func TestFromBoxToRecord(t *testing.T) {
	for _, x := range []struct {
		name, practice string
		boxes          [][2]string
		breaker, fresh string // what the breaker and ground are called there
		back           bool
	}{
		{"Sack loft", "North America", [][2]string{{"Cupboard", "Panel with one feed cable"}, {"Loft door", "3-way: feed comes in"},
			{"Loft hatch", "3-way: travelers come in"}, {"Loft light", "Light at the end"}}, "Breaker", "Ground: ", false},
		{"Bin floor", "United Kingdom", [][2]string{{"Intake", "Consumer unit with one feed cable"}, {"Bin door", "Two-way: feed comes in, three"},
			{"Bin hatch", "Two-way: strappers come in"}, {"Bin light", "Light at the end"}}, "MCB", "Earth: ", true},
		{"Wool table", "Australia", [][2]string{{"Board", "Switchboard with one feed"}, {"Wool door", "Two-way: feed comes in"},
			{"Shute door", "Two-way: strappers come in"}, {"Mess light", "Light at the end"}}, "Circuit breaker", "Earth: ", false},
	} {
		t.Run(x.practice, func(t *testing.T) {
			h := start(t)
			b := h.open("/", 1280, 800)
			b.tolerate("422")
			b.tolerate("ERR_")
			newCircuit(b, "Mill", x.name, x.practice)
			usual(b, x.boxes...)
			b.see("It works")
			b.MustNavigate(h.url("/circuits/1/choose")).MustWaitLoad()
			b.Timeout(patience).MustElement("[data-option]").MustClick()
			b.press("Choose this")
			b.see("Chosen")
			b.MustNavigate(h.url("/circuits/1/fit")).MustWaitLoad()
			b.press("Begin:")
			b.fitOn(x.breaker)
			at := b.fitOn("Take ")
			h.restart()
			two := h.open("/circuits/1/fit", 390, 844)
			two.tolerate("422")
			two.see(fmt.Sprintf("Step %d of", at))
			if x.back {
				two.fitOn(x.fresh)
				two.press("Put it back")
				two.see("Step 1 of")
				two.fitOn("")
				two.see("It stands as it was found")
				two.press("Plan from the wiring as it stands")
				two.see("Step 1 of")
			}
			two.fitOn("")
			two.see("Every step is settled")
			two.press("Prove it")
			two.prove()
			b.MustNavigate(h.url("/firm")).MustWaitLoad()
			b.fill("Name of the firm", "Lantern and Loft")
			b.fill("Licence number", "LL 0417")
			b.MustNavigate(h.url("/jobs/1")).MustWaitLoad()
			b.press("Customer")
			b.fill("Address", "Sluice Lane 3")
			b.press("Export the whole job") // leaves the field
			if link := b.find("a", "The record, for the customer").MustProperty("href").Str(); !strings.HasSuffix(link, "/record") {
				t.Errorf("the record stands at %s", link)
			}
			short, whole := pdf.Sheets([]byte(h.fetch("jobs/1/record?size=a4"))), pdf.Sheets([]byte(h.fetch("jobs/1/record?size=a4&annex=true")))
			if short < 2 || short > 3 || whole < short+3 {
				t.Errorf("the record has %d sheets, with its annex %d", short, whole)
			}
			if got := h.fetch("circuits/1/readings"); !strings.Contains(got, "Pressed "+x.boxes[1][0]) {
				t.Errorf("no press among the readings: %q", got)
			}
		})
	}
}
