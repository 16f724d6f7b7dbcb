package e2e

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"image"
	"image/png"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/demo"
	"ambivia/exchange"
)

// TestEveryFinding opens a circuit for every finding that a survey can show:
// its words stand on the page, it shows its ends in the box and in the drawing,
// and from such an end one comes back to it.
func TestEveryFinding(t *testing.T) {
	h := start(t)
	ctx := context.Background()
	faults := circuittest.Faults()
	for _, f := range faults {
		job, err := exchange.Fresh(f.Code, f.Circuit)
		if err != nil {
			t.Fatal(err)
		}
		if made, err := job.Write(ctx, h.store); err != nil || made.Circuits != 1 {
			t.Fatalf("%s: %d circuits, %v", f.Code, made.Circuits, err)
		}
	}
	b := h.open("/", 1280, 800)
	for i, f := range faults {
		b.MustNavigate(h.url(fmt.Sprintf("/circuits/%d/survey", i+1))).MustWaitLoad()
		b.see("Missing or odd")
		b.MustEval(`() => document.querySelectorAll("li.finding button[aria-expanded=false]").forEach(e => e.click())`) // like ones stand in one line
		for _, finding := range inspect.Check(f.Circuit).Findings {
			if finding.Code != f.Code {
				continue
			}
			b.see(finding.Text)
			if finding.Advice != "" {
				b.see(finding.Advice)
			}
			for _, line := range finding.Lines {
				b.see(line)
			}
			if len(finding.At) == 0 {
				break
			}
			if err := b.Page.Timeout(patience).Wait(rod.Eval(`() => document.querySelector(".diagram .wire") !== null`)); err != nil {
				t.Fatalf("%s: no drawing", f.Code)
			}
			b.MustEval(`text => {
				const one = [...document.querySelectorAll(".findings li")].filter(e => e.innerText.includes(text)).at(-1);
				[...one.querySelectorAll("button")].find(e => e.innerText === "Show").click();
			}`, finding.Text)
			err := b.Page.Timeout(patience).Wait(rod.Eval(`() => [".end.pointed", ".live .diagram .pointed", ".finding[aria-current]"].every(s => document.querySelector(s) !== null)`))
			if err != nil {
				t.Errorf("%s: it is not shown in box, drawing and list", f.Code)
			}
			b.MustEval(`() => document.querySelector(".live .diagram .pointed").dispatchEvent(new MouseEvent("click", {bubbles: true}))`)
			err = b.Page.Timeout(patience).Wait(rod.Eval(`text => [...document.querySelectorAll(".finding[aria-current]")].some(e => e.innerText.includes(text))`, finding.Text))
			if err != nil {
				t.Errorf("%s: no way back from the drawing", f.Code)
			}
			break
		}
	}
}

// drag moves the pointer from one end to another as a hand does.
func (b *tab) drag(from, to string) {
	b.t.Helper()
	middle := func(end string) proto.Point {
		e := b.MustElement(`.end[data-end="` + end + `"]`)
		e.MustScrollIntoView()
		return *e.MustShape().OnePointInside()
	}
	middle(to)
	a, z := middle(from), middle(to)
	b.Mouse.MustMoveTo(a.X, a.Y).MustDown(proto.InputMouseButtonLeft)
	b.Mouse.MustMoveTo((a.X+z.X)/2, (a.Y+z.Y)/2).MustMoveTo(z.X, z.Y).MustUp(proto.InputMouseButtonLeft)
}

// TestEditorByHand uses the rest of the editor: dragging, what is asked, a box
// like another, what a switch is, sizes and material of a box.
func TestEditorByHand(t *testing.T) {
	h := start(t)
	b := h.open("/", 1280, 1000)
	newCircuit(b, "Wool shed", "Press room", "North America")
	usual(b, [2]string{"Panel", "Panel with one feed cable"})
	usual(b, [2]string{"Press room door", "Empty switch box"})
	b.press("Add a cable or device")
	b.press("14/3")
	b.see("untraced cable")
	b.press("3-way switch")
	b.see("3-way switch")
	b.see("Do all ground conductors of Press room door stand together?")
	b.press("It is so")
	b.joined("k1.bare", "bare untraced cable, ground")
	b.see("Do the white cores of Press room door stand together, past the switch?")
	b.press("It is so")
	b.joined("k1.white", "WH untraced cable")
	b.drag("k1.black", "s1.common")
	b.joined("k1.black", "common")
	b.drag("k2.black", "s1.t1")
	b.joined("s1.t1", "BK untraced cable")
	b.see("One core and one screw of Press room door are left")
	b.press("It is so")
	b.joined("k2.red", "brass 2")
	b.until("fewer than eight conductors in the picture of the box", `() => document.querySelectorAll(".front .wire").length >= 8`)
	b.MustElement(`.front .screw[data-end="s1.t2"]`).MustEval(`() => this.dispatchEvent(new MouseEvent("click", {bubbles: true}))`)
	b.press("L Lift")
	b.joined("k2.red", "capped")
	b.drag("k2.red", "s1.t2")
	b.joined("k2.red", "brass 2")

	b.fill("Where it is", "Press room back")
	b.find("button", "E Same as Press room door").MustEval(`() => document.activeElement.blur()`)
	b.key('e')
	b.stop("Press room back")
	usual(b, [2]string{"Wool press light", "Light at the end of a cable"})
	b.see("Feed at Press room door, lamp beyond Press room back.")

	b.press("Press room back")
	b.pick("Kind of switch", "3-way dimmer")
	b.see("3-way dimmer")
	b.see("It works")
	b.MustElementR("label", "Its screws cannot be told apart").MustClick()
	b.see("Nobody could read which screw of the 3-way dimmer")
	b.fill("Depth behind the plate, mm", "33")
	b.key(input.Enter)
	b.press("Size and material of the box")
	b.fill("Depth inside, mm", "40")
	b.key(input.Enter)
	b.see("leaves 7 mm behind it in Press room back to bend the wires")
	b.fill("Stamped volume, in³", "10")
	b.key(input.Enter)
	b.see("Press room back is too full: it needs 18.00 in³ and has 10.00 in³.")
	b.pick("Material", "metal")
	b.pick("Practice", "United Kingdom")
	b.see("two-way dimmer")
	b.pick("Colours of the house", "old colours")
	b.see("It works")
}

// TestThreeBoxesQuickly counts what it takes to record a circuit of three boxes
// beyond the panel on a phone: presses and written letters. The bound is two
// minutes by the common measures of 1.4 s for a press with a look and 0.4 s for a
// letter on glass; no clock is read.
func TestThreeBoxesQuickly(t *testing.T) {
	h := start(t)
	b := h.open("/", 390, 844)
	newCircuit(b, "Tide mill", "Loft", "North America")
	presses, letters := 0, 0
	for _, box := range [][2]string{{"Panel", "Panel with one feed cable"}, {"Door", "3-way: feed comes in"}, {"Hatch", "3-way: travelers come in"}, {"Light", "Light at the end of a cable"}} {
		presses += 2 // the field, the usual box
		letters += len(box[0])
		usual(b, box)
	}
	b.see("It works")
	seconds := 1.4*float64(presses) + 0.4*float64(letters)
	t.Logf("three boxes and the panel from usual ones: %d presses and %d letters, about %.0f s of input", presses, letters, seconds)
	if seconds > 120 {
		t.Errorf("%.0f s of input", seconds)
	}
	if wide := b.MustEval(`() => document.documentElement.scrollWidth > innerWidth`).Bool(); wide {
		t.Error("the page is wider than the phone")
	}
}

// picture writes a small PNG file.
func picture(t *testing.T, dir string) string {
	t.Helper()
	var data bytes.Buffer
	if err := png.Encode(&data, image.NewGray(image.Rect(0, 0, 60, 40))); err != nil {
		t.Fatal(err)
	}
	return write(t, dir, "box.png", data.Bytes())
}

func write(t *testing.T, dir, name string, data []byte) string {
	t.Helper()
	path := filepath.Join(dir, name)
	if err := os.WriteFile(path, data, 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

// TestPhotosAndArchive attaches a photograph, exports the job, imports it again
// and refuses a hostile archive with one line.
func TestPhotosAndArchive(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	dir := t.TempDir()
	b := h.open("/circuits/1/survey?box=sw1", 1280, 800)
	b.tolerate("422")
	b.see("Add photographs")
	files := b.MustElement(`input[accept^="image"]`)
	files.MustSetFiles(write(t, dir, "no.png", []byte("GIF89a, or so")))
	b.see("this is no photograph that can be kept; JPEG, PNG and WebP are taken")
	files.MustSetFiles(picture(t, dir))
	if err := b.Page.Timeout(patience).Wait(rod.Eval(`() => document.querySelector(".photos img")?.naturalWidth === 60`)); err != nil {
		t.Fatal("the photograph is not shown")
	}
	b.fill("Note,", "Before anything came off")
	b.key(input.Enter)

	b.press("Export")
	b.see("Netlist for circuit simulators")
	for part, holds := range map[string]string{"circuits/1/netlist": ".end", "circuits/1/file": "ambivia-circuit/1", "jobs/1/archive": "PK"} {
		if text := h.fetch(part); !strings.Contains(text, holds) {
			t.Errorf("%s holds %.60q", part, text)
		}
	}
	whole := []byte(h.fetch("jobs/1/archive"))
	b.MustNavigate(h.url("/")).MustWaitLoad()
	b.see("or drop one here")
	b.MustElement("input[type=file]").MustSetFiles(write(t, dir, "evil.zip", climbing(t)))
	b.see("../../evil.json: an archive of a job has no entry of this name or kind")
	b.see("Nothing was written.")
	if jobs, err := h.store.Jobs(context.Background()); err != nil || len(jobs) != 1 {
		t.Fatalf("%d jobs after a hostile archive, %v", len(jobs), err)
	}
	b.MustElement("input[type=file]").MustSetFiles(write(t, dir, "job.zip", whole))
	b.see("West dome stair")
	b.press("Chart room")
	b.see("Photographs")
	b.MustElement(".photos img").MustClick()
	b.until("a photograph does not open large", `() => document.querySelector("[role=dialog] img")?.naturalWidth === 60`)
	b.press("Close")
	b.until("the photograph or its note did not come back", `() => document.querySelector(".photos img")?.alt.includes("Before anything came off")`)
	if !strings.Contains(b.MustInfo().URL, "/circuits/"+h.ids.Circuit(t, 4)+"/") {
		t.Errorf("at %s, not in the imported job", b.MustInfo().URL)
	}
}

// fetch gets a file from the server as the page's links do.
func (h *house) fetch(path string) string {
	h.t.Helper()
	client := http.Client{Timeout: time.Minute}
	r, err := client.Get(h.url("/api/v1/" + path))
	if err != nil {
		h.t.Fatal(err)
	}
	defer r.Body.Close()
	data, err := io.ReadAll(r.Body)
	if err != nil || r.StatusCode != http.StatusOK {
		h.t.Fatalf("%s: status %d, %v", path, r.StatusCode, err)
	}
	return string(data)
}

// climbing is an archive with a path that leads out of it.
func climbing(t *testing.T) []byte {
	t.Helper()
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, err := z.Create("../../evil.json")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.Write([]byte("{}")); err != nil {
		t.Fatal(err)
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// TestWordsOnScreen: every stage of a circuit speaks the words of its practice.
func TestWordsOnScreen(t *testing.T) {
	foreign := map[string][]string{
		"uk": {"traveler", "ground", "3-way", "4-way", "breaker"}, "au": {"traveler", "ground", "3-way", "4-way", "mcb"},
		"in": {"traveler", "ground", "3-way", "4-way", "breaker"}, "eu": {"traveler", "ground", "3-way", "4-way", "breaker"},
		"na": {"earth", "strapper", "two-way", "mcb", "intermediate"},
	}
	h := start(t)
	ctx := context.Background()
	seen := map[string]bool{}
	b := h.open("/", 1280, 800)
	for _, j := range demo.Jobs() {
		c := j.Circuits[0]
		if seen[c.Practice] {
			continue
		}
		seen[c.Practice] = true
		job, err := exchange.Fresh(j.Name, c)
		if err != nil {
			t.Fatal(err)
		}
		made, err := job.Write(ctx, h.store)
		if err != nil {
			t.Fatal(err)
		}
		circuits, err := h.store.Circuits(ctx, made.ID)
		if err != nil || len(circuits) != 1 {
			t.Fatalf("%d circuits, %v", len(circuits), err)
		}
		for stage, ready := range map[string]string{"survey": "Understood", "choose": "What", "wire": "No plan is chosen"} {
			b.MustNavigate(h.url("/circuits/" + circuits[0].ID + "/" + stage)).MustWaitLoad()
			b.see(ready)
			b.still()
			text := strings.ToLower(b.MustElement("body").MustText())
			for _, box := range c.Boxes {
				text = strings.ReplaceAll(text, strings.ToLower(box.Label()), "")
			}
			for _, word := range foreign[c.Practice] {
				if at := strings.Index(text, word); at >= 0 {
					t.Errorf("%s, %s says %q: …%s…", c.Practice, stage, word, text[max(0, at-40):min(len(text), at+40)])
				}
			}
		}
	}
	if len(seen) != 5 {
		t.Errorf("only practices %v have a demo", seen)
	}
}

// TestNumbersAsWritten: a number is read as people write it, with a comma too; what is none is
// told and kept to be mended, and an emptied field is not known again.
func TestNumbersAsWritten(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/survey", 1280, 900)
	b.see("It works")
	field := "Breaker, amperes"
	value := func() string { return b.find("input", field).MustProperty("value").Str() }
	b.fill(field, "12,5")
	b.Keyboard.MustType(input.Enter)
	b.still()
	if got := value(); got != "12.5" {
		t.Errorf("12,5 is read as %q", got)
	}
	b.fill(field, "a dozen")
	b.Keyboard.MustType(input.Enter)
	b.see("This is no number.")
	if got := value(); got != "a dozen" {
		t.Errorf("what was typed is %q now", got)
	}
	amperes := b.find("input", field)
	amperes.MustSelectAllText().MustType(input.Backspace)
	b.Keyboard.MustType(input.Enter)
	b.still()
	b.gone("This is no number.")
	b.MustReload().MustWaitLoad()
	b.see("It works")
	if got := value(); got != "" {
		t.Errorf("emptied, it is %q", got)
	}
}

// TestOnTheDrawing: on the drawing of a box a core is dragged onto its screw; and what is amiss is marked on
// the drawing of the circuit, where a press leads to what is said of it.
func TestOnTheDrawing(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/survey?box=sw1", 1280, 800)
	b.see("It works")
	b.MustElement(`[aria-label="3-way switch"] .end:nth-child(2)`).MustClick()
	b.press("L Lift")
	b.see("Nothing is under the brass 1 screw")
	flag, err := b.Timeout(patience).ElementByJS(rod.Eval(`() => [...document.querySelectorAll(".board [data-flag]")].find(e => /Nothing is under the brass 1 screw/.test(e.ariaLabel)) ?? null`))
	if err != nil {
		t.Fatal("the finding is not marked on the drawing")
	}
	flag.CancelTimeout().MustEval(`() => this.dispatchEvent(new MouseEvent("click", { bubbles: true }))`)
	b.until("from the mark one does not come to the finding", `() => [...document.querySelectorAll(".finding[aria-current]")].some(e => /Nothing is under the brass 1 screw/.test(e.innerText))`)
	b.still()
	b.MustElement(`.front .screw[data-end="s1.t1"]`).MustEval(`() => this.scrollIntoView({ block: "center" })`)
	middle := func(selector string) proto.Point {
		at := b.MustElement(selector).MustEval(`() => { const r = this.getBoundingClientRect(); return [r.left + r.width / 2, r.top + r.height / 2]; }`).Arr()
		return proto.Point{X: at[0].Num(), Y: at[1].Num()}
	}
	core, screw := middle(`.front .wire[data-end="k2.black@sw1"] .casing`), middle(`.front .screw[data-end="s1.t1"]`)
	b.Mouse.MustMoveTo(core.X, core.Y).MustDown(proto.InputMouseButtonLeft)
	b.Mouse.MustMoveTo(core.X, core.Y+20)
	b.Mouse.MustMoveTo(screw.X, screw.Y)
	b.Mouse.MustUp(proto.InputMouseButtonLeft)
	b.see("It works")
}
