package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod"
)

// pictured keeps a picture of the page, where somebody wants to look at it.
func (b *tab) pictured(name string) {
	if dir := os.Getenv("AMBIVIA_LOOK"); dir != "" {
		b.still()
		if err := os.WriteFile(filepath.Join(dir, name+".png"), b.MustScreenshot(), 0o644); err != nil {
			b.t.Fatal(err)
		}
	}
}

// TestPressedOnce: the presses that prove a plan are made where its steps try the light, and are not asked for again; the
// readings that no press replaces have their gate, which is asked once while the power stands as it is.
func TestPressedOnce(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/2/choose", 1280, 800)
	b.tolerate("422")
	b.choose("Smart main in Archive door; Archive ladder becomes a wired auxiliary")
	b.key('f')
	b.press("Begin:")
	trial := b.fitOn("Switch the light on and off")
	b.see("how do the lamps look now?")
	b.pictured("trial")
	b.find("[aria-label='The next press'] label", "dark").MustClick()
	b.press("That is how it looks")
	b.see("It did not")
	b.pictured("trial-press")
	phone := h.open("/circuits/2/fit", 390, 844)
	phone.tolerate("422")
	phone.see("It did not")
	phone.pictured("trial-phone")
	for range 20 {
		if strings.HasPrefix(b.MustElement("[aria-label='The next press']").MustText(), "Proved") {
			break
		}
		was := b.MustElement("[aria-label='The next press'] p").MustText()
		b.press("It did")
		b.until("a press stays", `was => document.querySelector("[aria-label='The next press'] p").innerText !== was`, was)
	}
	b.see("Tested: every switch works as planned.")
	b.press("Done, with all")
	b.until("the steps that were tried stay", `n => !document.querySelector(".step-now")?.innerText.startsWith("Step " + n + " of")`, trial)
	b.fitOn("")
	b.see("Every step is settled")
	b.press("Prove it")
	b.see("Tested: every switch works as planned.")
	b.pictured("prove-gate")
	left := func() int {
		return b.MustEval(`() => document.querySelectorAll("[aria-label='Volts read'], form label").length`).Int()
	}
	if left() != 0 {
		t.Error("a reading can be entered before its gate")
	}
	all := b.MustEval(`() => [...document.querySelectorAll("li")].filter(x => x.innerText.includes("Right: ")).length`).Int()
	gates := 0
	for n := range all {
		title := strings.Replace("0 of ", "0", string(rune('0'+n)), 1)
		b.see("What no press shows: " + title)
		if b.MustEval(`() => {
			const asks = [...document.querySelectorAll("li [role=checkbox]")];
			asks.forEach(c => c.click());
			return asks.length > 0;
		}`).Bool() {
			gates++
			b.press("Confirmed")
		}
		err := b.Page.Timeout(patience).Wait(rod.Eval(`() => {
			const li = [...document.querySelectorAll("li")].find(x => x.innerText.includes("Right: ") && !x.innerText.includes("Read: "));
			const right = li.innerText.match(/Right: (.*?)\. It shows/)[1];
			const answer = [...li.querySelectorAll("button")].find(x => x.innerText.trim() === right);
			if (answer) { answer.click(); return true; }
			const field = li.querySelector("input");
			if (!field) return false;
			Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(field, parseFloat(right));
			field.dispatchEvent(new Event("input", { bubbles: true }));
			li.querySelector("form button").click();
			return true;
		}`))
		if err != nil {
			t.Fatalf("reading %d of %d cannot be entered; the page says:\n%s", n+1, all, b.MustElement("body").MustText())
		}
		b.until("a reading is not kept", `n => [...document.querySelectorAll("li")].filter(x => x.innerText.includes("Read: ")).length > n`, n)
	}
	b.pictured("prove-read")
	if all == 0 || gates == 0 || gates > 3 {
		t.Errorf("%d readings asked for %d gates", all, gates)
	}
	t.Logf("%d readings, %d gates", all, gates)
}
