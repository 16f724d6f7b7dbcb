package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"

	"ambivia/core/circuittest"
)

// tabTo goes by the Tab key until what has the focus begins with some words, as a reader says it.
func (b *tab) tabTo(words string) {
	b.t.Helper()
	for range 60 {
		b.key(input.Tab)
		if strings.HasPrefix(b.MustEval(`() => {
			const e = document.activeElement;
			const read = (e.textContent ? e : (e.closest("label") ?? e.labels?.[0] ?? e)).cloneNode(true);
			read.querySelectorAll("[aria-hidden], svg").forEach(x => x.remove());
			return (e.getAttribute("aria-label") ?? read.textContent ?? "").trim();
		}`).Str(), words) {
			return
		}
	}
	b.t.Fatalf("the Tab key never comes to %q; the page says:\n%s", words, b.MustElement("body").MustText())
}

// fitByKeys settles the step that is now by keys alone, those that are alike with it in one go; it reports what was done.
func (b *tab) fitByKeys() (done string) {
	b.t.Helper()
	if err := b.Page.Timeout(patience).Wait(rod.Eval(`() => document.activeElement?.matches(".step-now")`)); err != nil {
		b.t.Fatalf("the step that is now does not have the focus: %s", b.MustEval(`() => document.activeElement.outerHTML.slice(0, 200)`).Str())
	}
	asks := b.MustElements(".step-now [role=checkbox]")
	if len(asks) > 0 {
		for range asks {
			b.key(input.Tab, input.Space)
		}
		b.Page.Timeout(patience).MustWait(`() => [...document.querySelectorAll(".step-now button")].some(e => e.innerText === "Confirmed" && !e.disabled)`)
		b.key(input.Tab, input.Enter)
		return "gate"
	}
	if b.MustEval(`() => document.querySelector("[aria-label='And at this stay']") !== null`).Bool() {
		b.key('a')
		return "stay"
	}
	if b.MustEval(`() => [...document.querySelectorAll(".step-now button")].some(e => e.innerText.startsWith("Done, with all"))`).Bool() {
		b.tabTo("Done, with all")
		b.key(input.Enter)
		return "group"
	}
	b.key('d')
	return "step"
}

// TestWholeJobByKeys carries a job from the first screen to the proof by keys alone: names typed, boxes added, a plan chosen,
// fitted with its gates line by line and the lines of a stay in one go, the last step taken back once, and every press looked at.
func TestWholeJobByKeys(t *testing.T) {
	h := start(t)
	b := h.open("/", 1280, 800)
	b.see("No job yet")
	write := func(label, text string) {
		b.t.Helper()
		b.tabTo(label)
		b.MustInsertText(text)
	}
	write("New job", "Tide mill")
	b.key(input.Enter)
	b.see("No circuit yet")
	write("New circuit", "Sack loft")
	b.tabTo("Practice")
	b.key(input.Enter)
	b.see("North America")
	b.key('n')
	b.until("no practice is reached by its letter", `() => document.activeElement.innerText === "North America"`)
	b.key(input.Enter)
	b.tabTo("Make circuit")
	b.key(input.Enter)
	b.see("Begin where power does")
	for _, box := range [][2]string{{"Meter cupboard", "Panel with one feed"}, {"Loft door", "3-way: feed comes in, three"}, {"Loft hatch", "3-way: travelers come in"}, {"Loft light", "Light at the end"}} {
		b.key('a')
		b.MustInsertText(box[0])
		b.tabTo(box[1])
		b.key(input.Enter)
		b.stop(box[0])
		b.still()
	}
	b.see("It works")
	b.key('c')
	b.see("What these conductors can carry")
	b.still()
	b.tabTo("Kind")
	b.key(input.Enter)
	b.see("through the lamp")
	b.key('w') // the only kind with this letter
	b.until("no kind of option is reached by its letter", `() => document.activeElement.innerText === "wired auxiliary"`)
	b.key(input.Enter)
	b.see("3 ways fit")
	focus(b, "Smart main in Loft door; Loft hatch becomes a wired auxiliary")
	b.key(input.Enter)
	focus(b, "Choose this")
	b.key(input.Enter)
	b.see("Chosen — take back")
	b.key('f')
	b.tabTo("Begin:")
	b.key(input.Enter)
	count := map[string]int{}
	at := func() (n int) {
		text := b.MustElement(".step-now, section[aria-label=Over]").MustText()
		if _, err := fmt.Sscanf(text, "Step %d of", &n); err != nil {
			return 0
		}
		return n
	}
	b.see("Step 1 of")
	for n := 1; n > 0; {
		count[b.fitByKeys()]++
		if err := b.Page.Timeout(patience).Wait(rod.Eval(`n => !document.querySelector(".step-now")?.innerText.startsWith("Step " + n + " of")`, n)); err != nil {
			b.t.Fatalf("step %d stays; the page says:\n%s", n, b.MustElement("body").MustText())
		}
		if n == 3 {
			b.still()
			b.KeyActions().Press(input.ControlLeft).Type('z').MustDo()
			b.see("Step 3 of")
			b.still()
			count[b.fitByKeys()]++
			b.gone("Step 3 of")
		}
		n = at()
	}
	if count["gate"] < 5 || count["stay"] < 3 || count["group"]+count["step"] > 8 {
		t.Errorf("by keys: %v", count)
	}
	b.see("Every step is settled")
	b.tabTo("Prove it")
	b.key(input.Enter)
	b.see("how do the lamps look now?")
	b.tabTo("lit")
	b.hold(input.ArrowRight) // as long as a finger does
	b.until("an arrow does not go from lit to dark", `() => document.activeElement.getAttribute("aria-checked") === "true" && document.activeElement.closest("label")?.innerText.includes("dark")`)
	b.tabTo("That is how it looks")
	b.key(input.Enter)
	b.gone("how do the lamps look now?")
	b.pressThrough()
	b.key('s')
	b.see("Loft hatch")
}

// TestFitPhotograph: a file that is no photograph is refused where it was given, and the note beside it is not lost; what
// cannot be done since a step before it was left out says so, and is left out in its turn.
func TestFitPhotograph(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/2/choose", 390, 844)
	b.tolerate("4")
	b.choose("Smart main in Archive door; Archive ladder becomes a wired auxiliary")
	b.MustNavigate(h.url("/circuits/2/fit")).MustWaitLoad()
	b.press("Begin:")
	lift := b.fitOn("Take ")
	wrong := filepath.Join(t.TempDir(), "stair.jpg")
	if err := os.WriteFile(wrong, []byte("no picture"), 0o600); err != nil {
		t.Fatal(err)
	}
	b.press("Reading, note")
	b.fill("Note, reason", "the screw is seized")
	b.MustElement(".step-now input[type=file]").MustSetFiles(wrong)
	b.see("photograph")
	if note := b.find("input", "Note, reason").MustProperty("value").Str(); note != "the screw is seized" {
		t.Errorf("the note is %q after a wrong file", note)
	}
	b.press("Leave it out")
	b.see(fmt.Sprintf("Step %d of", lift+1))
	for range 30 { // all that is lifted is left out
		if !strings.Contains(b.MustElement(".step-now").MustText(), "Take ") {
			break
		}
		was := b.MustElement(".step-now h2").MustText()
		b.press("Reading, note")
		b.fill("Note, reason", "seized too")
		b.press("Leave it out")
		if err := b.Page.Timeout(patience).Wait(rod.Eval(`was => document.querySelector(".step-now h2")?.innerText !== was`, was)); err != nil {
			t.Fatalf("%s stays", was)
		}
	}
	for range 40 {
		text := b.MustElement(".step-now").MustText()
		if strings.Contains(text, "A step before it was left out") {
			if !b.find("button", "Back").MustParent().MustElementR("button", "Done").MustProperty("disabled").Bool() {
				t.Error("a step that cannot be done may be said to be done")
			}
			return
		}
		var n int
		if _, err := fmt.Sscanf(text, "Step %d of", &n); err != nil {
			t.Fatal(err)
		}
		b.fitOne(n)
		b.gone(fmt.Sprintf("Step %d of", n))
	}
	t.Error("nothing waits for what was left out")
}

// TestFitOfTen: at ten controls a step is done and the next stands there; the time is printed.
func TestFitOfTen(t *testing.T) {
	h := start(t)
	job, err := h.store.CreateJob(t.Context(), "Weaving works")
	if err != nil {
		t.Fatal(err)
	}
	h.put(job.ID, circuittest.Chain(10))
	b := h.open("/circuits/1/choose", 1280, 800)
	b.see("What these conductors can carry")
	b.choose("Sensing smart switch")
	b.MustNavigate(h.url("/circuits/1/fit")).MustWaitLoad()
	b.press("Begin:")
	b.fitOn("Photograph the box")
	var took []time.Duration
	for range 4 {
		b.still()
		text := b.MustElement(".step-now h2").MustText()
		var n int
		if _, err := fmt.Sscanf(text, "Step %d of", &n); err != nil {
			t.Fatal(err)
		}
		begun := time.Now()
		b.fitOne(n)
		b.Page.Timeout(patience).MustWait(`was => document.querySelector(".step-now h2")?.innerText !== was`, text)
		took = append(took, time.Since(begun))
	}
	t.Logf("ten controls: from a step to the next %v", took)
}
