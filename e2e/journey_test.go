package e2e

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"

	"ambivia/core/circuit"
	"ambivia/demo"
	"ambivia/store"
)

// newCircuit goes from the first screen to an empty circuit.
func newCircuit(b *tab, job, name, practice string) {
	b.t.Helper()
	b.fill("New job", job)
	b.press("Make job")
	b.see("No circuit yet")
	b.fill("New circuit", name)
	b.pick("Practice", practice)
	b.press("Make circuit")
	b.see("Begin where power does")
}

// usual adds usual boxes by name and title.
func usual(b *tab, boxes ...[2]string) {
	b.t.Helper()
	for _, box := range boxes {
		b.fill("Where it is", box[0])
		b.inSight(box[1])
		b.press(box[1])
		b.stop(box[0])
	}
	b.still() // the editor of the last one has come
}

// inSight brings the usual box of a title among those that are shown.
func (b *tab) inSight(title string) {
	b.t.Helper()
	b.Timeout(patience).MustWait(`title => {
		const buttons = [...document.querySelectorAll("[aria-label='Add a box'] button")];
		if (buttons.some(e => e.innerText.includes(title))) return true;
		buttons.find(e => / more$/.test(e.innerText))?.click();
		return false;
	}`, title)
}

// stop waits until the strip has a box of the name.
func (b *tab) stop(name string) {
	b.t.Helper()
	err := b.Page.Timeout(patience).Wait(rod.Eval(`name => [...document.querySelectorAll(".stop-name")].some(e => e.innerText.includes(name))`, name))
	if err != nil {
		b.t.Fatalf("no box %q in the strip", name)
	}
}

// TestWholeJob is the main job from an empty program to the drawing: record,
// see it work, restart, undo, choose, wire, reload.
func TestWholeJob(t *testing.T) {
	h := start(t)
	b := h.open("/", 1280, 800)
	b.see("No job yet")
	newCircuit(b, "Tide mill", "Sack loft", "North America")
	usual(b, [2]string{"Meter cupboard", "Panel with one feed cable"},
		[2]string{"Loft door", "3-way: feed comes in"}, [2]string{"Loft hatch", "3-way: travelers come in"})
	b.see("Add the box at the other end of the untraced cable at Loft hatch")
	b.see("Not known yet: where the untraced cable at Loft hatch")
	usual(b, [2]string{"Loft light", "Light at the end of a cable"})
	b.see("Feed at Loft door, lamp beyond Loft hatch.")
	b.see("each of 2 controls switches its light from each of 4 states")

	b.lamp(true)
	b.press("Flip Loft door")
	b.lamp(false)
	b.press("Flip Loft hatch")
	b.lamp(true)
	if n := liveWires(b); n == 0 {
		t.Error("no conductor of the drawing is shown live")
	}

	b.still()          // what is under way when the server goes would be asked for again after Undo
	b.tolerate("ERR_") // what is asked for while the server is away is asked for again
	h.restart()
	b.press("Undo")
	b.see("Add the box at the other end of the untraced cable at Loft hatch")
	b.press("Redo")
	b.see("The record is sound")

	b.press("Choose")
	b.see("Sensing smart switch (")
	b.see("What does not fit, and why")
	b.press("Each of the")
	b.see("this needs five: line, load, neutral, 2 travelers")
	b.choose("Smart main in Loft door; Loft hatch becomes a wired auxiliary")
	b.press("Wire")
	b.press("Box by box")
	b.see("Changes, box by box")
	b.see(": brass 2 of 3-way switch → signal of smart main dimmer")
	b.see("Out: 3-way switch. In: wired auxiliary.")
	b.press("Whole wiring")
	b.see("Only what changes")
	focus(b, "How much of the circuit as found is drawn over it")
	b.key(input.End)
	b.see("As found")
	b.until("hardly a flag is on the changed ends of two drawings", `() => document.querySelectorAll("path.flag").length >= 10`)
	after := b.find("section", "As it will be")
	b.until("before and after do not stand in the same places", `() => {
		const rooms = [...document.querySelectorAll("[aria-label='As it will be'] svg.diagram")].map(e => e.querySelector(".room").getAttribute("x"));
		return rooms.length === 2 && rooms[0] === rooms[1];
	}`)
	b.key(input.Home)
	lamp := func(word string) {
		t.Helper()
		err := after.Timeout(patience).Wait(rod.Eval(`word => this.querySelector(".lamps").innerText.includes(word)`, " "+word+","))
		if err != nil {
			t.Fatalf("after: never %s: %v", word, err)
		}
	}
	lamp("dark")
	b.MustElement(`[aria-label="As it will be"] [data-control="a1"]`).MustClick()
	lamp("lit")

	b.MustReload().MustWaitLoad()
	b.see("Only what changes")
	b.KeyActions().Press(input.ControlLeft).Type('z').MustDo()
	b.see("No plan is chosen yet")
	h.restart()
	b.press("Redo")
	b.see("Only what changes")
}

// liveWires counts the conductors that the drawing shows live.
func liveWires(b *tab) int {
	return b.MustEval(`() => document.querySelectorAll('.wire[data-live="live"]').length`).Int()
}

// TestByHandWithKeys records a box core by core with the keyboard alone: every
// press below is a key.
func TestByHandWithKeys(t *testing.T) {
	h := start(t)
	b := h.open("/", 1280, 800)
	newCircuit(b, "Wool shed", "Press room", "North America")
	usual(b, [2]string{"Panel", "Panel with one feed cable"})
	b.key('a')
	b.MustInsertText("Press room door")
	focus(b, "Empty switch box")
	b.key(input.Enter)
	b.stop("Press room door")
	b.see("to Panel")
	focus(b, "Add a cable or device that is in this box")
	b.key(input.Enter)
	focus(b, "14/3")
	b.key(input.Enter)
	b.see("untraced cable")
	focus(b, "3-way switch")
	b.key(input.Enter)
	b.see("3-way switch")
	// From a core to its screw: Tab to the group, arrows within it, Space picks.
	for _, pair := range [][3]string{{"k1.white", "k2.white", "WH to Panel + WH untraced cable"}, {"k1.bare", "k2.bare", "bare to Panel + bare untraced cable"}} {
		for _, end := range pair[:2] {
			reach(b, end)
			b.key(input.Space)
		}
		b.see(pair[2])
		b.key('j')
		b.see("Drag a core onto its screw")
	}
	// One key puts a core under a screw.
	for _, press := range []struct {
		core, screw string
		key         input.Key
	}{{"k1.black", "common", '1'}, {"k2.black", "brass 1", '2'}, {"k2.red", "brass 2", '3'}, {"k2.bare", "ground", '4'}} {
		reach(b, press.core)
		b.key(press.key)
		b.joined(press.core, press.screw)
	}
	b.see("line, neutral, 2 not known yet")
}

// joined waits until the chip of an end says what it stands with.
func (b *tab) joined(end, with string) {
	b.t.Helper()
	err := b.Page.Timeout(patience).Wait(rod.Eval(`(end, text) => document.querySelector('.end[data-end="' + end + '"] .end-join')?.innerText.includes(text)`, end, with))
	if err != nil {
		b.t.Fatalf("%s never stands with %s", end, with)
	}
}

// reach moves the focus within the group of cores and screws by arrow keys.
func reach(b *tab, end string) {
	b.t.Helper()
	for range 150 { // once round the page
		at := b.MustEval(`() => document.activeElement.closest(".end")?.dataset.end ?? ""`).Str()
		switch at {
		case end:
			return
		case "":
			b.key(input.Tab)
		default:
			b.key(input.ArrowRight)
			// The group moves its focus a moment later: looked at too early, every end is missed.
			err := b.Page.Timeout(patience).Wait(rod.Eval(`at => document.activeElement.closest(".end")?.dataset.end !== at`, at))
			if err != nil {
				b.t.Fatalf("an arrow key does not move the focus on from %s", at)
			}
		}
	}
	b.t.Fatalf("the arrow keys never reach %s; the focus is on %s", end, b.MustEval(`() => document.activeElement.outerHTML.slice(0, 300) + " in " + (document.activeElement.parentElement?.outerHTML ?? "").slice(0, 300)`))
}

// focus moves the focus to a control with Tab alone, as far as it takes.
func focus(b *tab, words string) {
	b.t.Helper()
	for range 200 {
		b.key(input.Tab)
		found := b.MustEval(`words => {
			const e = document.activeElement;
			const name = (e.getAttribute("aria-label") ?? e.innerText ?? "").replace(/\s+/g, " ").trim();
			return name.startsWith(words);
		}`, words).Bool()
		if found {
			return
		}
	}
	b.t.Fatalf("Tab never reaches %q", words)
}

// TestJoinAndLift picks cores and screws with the pointer and joins them; the
// findings follow.
func TestJoinAndLift(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/survey?box=sw1", 1280, 800)
	b.see("It works")
	b.MustElement(`[aria-label="3-way switch"] .end:nth-child(2)`).MustClick()
	b.see("brass 1")
	b.press("L Lift")
	b.see("works from some states only")
	b.see("Nothing is under the brass 1 screw")
	// From the finding to the ends in box and drawing, and from the drawing back.
	b.find("li.finding", "To look at: Nothing is under").MustElement("button").MustClick()
	b.until("the finding does not point at the screw in the box and in the drawing", `() => document.querySelectorAll(".end.pointed, .screw.pointed").length === 2`)
	b.MustElement(`.wire[data-end="k2.black@sw1"]`).MustEval(`() => this.querySelector(".casing").dispatchEvent(new MouseEvent("click", {bubbles: true}))`)
	b.until("the drawing does not point at the core and a finding",
		`() => document.querySelectorAll('.end.pointed[data-end="k2.black"], .finding[aria-current]').length >= 2`)
	b.gone("It works:")
	b.MustElement(`[aria-label="3-way switch"] .end:nth-child(2)`).MustClick()
	b.MustElement(`.end[data-end="k2.black"]`).MustClick()
	b.see("brass 1 + BK to Chart room window")
	b.key('j')
	b.see("It works")
}

// TestDemoFromNothing records each demo circuit of the practice's usual boxes
// from an empty page and finds it understood as its story tells.
func TestDemoFromNothing(t *testing.T) {
	circuits := []struct {
		name, practice string
		boxes          [][3]string // name, usual box, and which cable reaches it where several are open
		says           []string
		controls       string
	}{
		{"Plate archive", "North America", [][3]string{{"Panel", "Panel with one feed cable", ""}, {"Archive door", "3-way: feed and lamp both here", ""},
			{"Archive light", "Light at the end", "untraced cable B at Archive door"}, {"Archive ladder", "3-way: dead end, line on the common", ""}},
			[]string{"Feed and lamp both at Archive door; the other switch is a dead end.", "Archive ladder: line, 2 travelers, no neutral."}, "2 controls"},
		{"West dome stair", "North America", [][3]string{{"Panel", "Panel with one feed cable", ""}, {"Dome stair light", "Light: feed comes in, two cores go down", ""},
			{"Foot of the stair", "3-way: line and load come from the lamp", ""}, {"Gallery", "3-way: dead end, third core", ""}},
			[]string{"Feed at the lamp, a cable down to ", "the last switch is a dead end.", "Gallery: line, 2 travelers, no neutral."}, "2 controls"},
		{"Mill landing", "United Kingdom", [][3]string{{"Intake", "Consumer unit with one feed cable", ""}, {"Landing rose", "Loop-in rose", ""},
			{"Landing", "Two-way: permanent live and switched live both here, strapped", "untraced cable A at Landing rose"}, {"Bin floor", "Two-way: dead end, permanent live on the COM", "untraced cable at Landing ("}},
			[]string{"Feed looped in and out at the lamp", "Landing: permanent live, switched live, strapper, no neutral."}, "2 controls"},
		{"Mess hall", "Australia", [][3]string{{"Board", "Switchboard with one feed", ""}, {"Wool door", "Two-way: feed comes in", ""}, {"Table", "Intermediate switch between", ""},
			{"Shute door", "Two-way: strappers come in", ""}, {"Mess light", "Light at the end", ""}},
			[]string{"Feed at Wool door, lamp beyond Shute door."}, "3 controls"},
	}
	h := start(t)
	b := h.open("/", 1280, 800)
	for i, c := range circuits {
		b.MustNavigate(h.url("")).MustWaitLoad()
		newCircuit(b, fmt.Sprintf("Job %d", i), c.name, c.practice)
		for _, box := range c.boxes {
			b.fill("Where it is", box[0])
			if box[2] != "" {
				b.pick("Reached by", box[2])
			}
			b.inSight(box[1])
			b.press(box[1])
			b.stop(box[0])
		}
		b.MustEval(`() => [...document.querySelectorAll("button[aria-expanded=false]")].find(e => / more$/.test(e.innerText))?.click()`)
		for _, says := range c.says {
			b.see(says)
		}
		b.see("each of " + c.controls)
	}
}

// TestTryThings: breaker off, lamp out, a wire lifted: the picture follows, and
// the record stays what it was.
func TestTryThings(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/survey?box=sw1", 1280, 800)
	b.lamp(true)
	b.see("1 of 4 states seen")
	for _, press := range [][2]string{{"Turn breaker", "Breaker 7 is off"}, {"Chart table light out of", "Chart table light is out"}} {
		b.press(press[0])
		b.lamp(false)
		b.see(press[1])
		b.press(press[1])
		b.lamp(true)
	}
	b.pick("Lift a wire of this box", "The common screw of the 3-way switch at Chart room door")
	b.see("The common screw of the 3-way switch at Chart room door is lifted")
	b.lamp(false)
	b.press("Flip Chart room window")
	b.lamp(false)
	b.press("The common screw of the 3-way switch at Chart room door is lifted")
	b.lamp(false)
	b.press("Flip Chart room door")
	b.lamp(true)
	b.see("3 of 4 states seen")
	if c, err := h.store.Circuit(context.Background(), h.ids.Circuit(t, 1)); err != nil || c.Head.Number != 1 {
		t.Errorf("trying things made revision %d, %v", c.Head.Number, err)
	}
}

// seed puts the demo circuits of a scene into the database.
func (h *house) seed(scene string) {
	h.t.Helper()
	ctx := context.Background()
	for _, j := range demo.Jobs() {
		if !strings.HasPrefix(strings.ToLower(j.Name), scene) {
			continue
		}
		job, err := h.store.CreateJob(ctx, j.Name)
		if err != nil {
			h.t.Fatal(err)
		}
		for _, c := range j.Circuits {
			h.put(job.ID, c)
		}
	}
}

// put writes a circuit into a job of the database and returns its id.
func (h *house) put(job string, c *circuit.Circuit) string {
	h.t.Helper()
	var doc bytes.Buffer
	if err := circuit.Write(&doc, c); err != nil {
		h.t.Fatal(err)
	}
	made, err := h.store.CreateCircuit(context.Background(), job, store.Change{Summary: "demo", Document: doc.Bytes()})
	if err != nil {
		h.t.Fatal(err)
	}
	return made.ID
}

// scene returns the demo circuits of a scene.
func scene(name string) []*circuit.Circuit {
	for _, j := range demo.Jobs() {
		if strings.HasPrefix(strings.ToLower(j.Name), name) {
			return j.Circuits
		}
	}
	return nil
}

// TestWrongFile: a file that cannot be used shows its error with the place, and
// nothing is written; the right one then opens.
func TestWrongFile(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	good := new(bytes.Buffer)
	if err := circuit.Write(good, scene("observatory")[0]); err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	file := func(name, text string) string {
		path := filepath.Join(dir, name)
		if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
		return path
	}
	b := h.open("/jobs/1", 1280, 800)
	b.tolerate("422")
	b.see("West dome stair")
	for _, wrong := range []struct{ name, text, says string }{
		{"photo.json", "\x89PNG not a circuit", "not JSON"},
		{"core.json", strings.Replace(good.String(), `"k2.red"`, `"k2.pink"`, 1), `cable "k2" has no core "pink"`},
		{"cut.json", good.String()[:400], "the file ends in the middle"},
	} {
		b.MustElement("input[type=file]").MustSetFiles(file(wrong.name, wrong.text))
		b.see(wrong.says)
		b.see("Nothing was written.")
	}
	b.MustReload()
	b.see("West dome stair")
	b.until("after wrong files there are not the three circuits that there were", `() => document.querySelectorAll(".index li").length === 3`)
	b.MustElement("input[type=file]").MustSetFiles(file("good.json", good.String()))
	b.see("The record is sound")
}

// TestTwoTabs: an edit made on what another tab has changed meanwhile is
// refused with what changed, and going on loses nothing.
func TestTwoTabs(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	one, two := h.open("/circuits/1/survey?box=sw1", 1280, 800), h.open("/circuits/1/survey?box=sw2", 1280, 800)
	one.see("It works")
	two.see("It works")
	two.tolerate("409")
	one.fill("Name", "Door of the chart room")
	one.key(input.Enter)
	one.see("Door of the chart room line")
	two.fill("Name", "Window of the chart room")
	two.key(input.Enter)
	two.see("the circuit was changed meanwhile; nothing was written")
	two.see("Door of the chart room changed")
	two.press("Show the newest and go on")
	two.see("Door of the chart room")
	two.fill("Name", "Window of the chart room")
	two.key(input.Enter)
	two.see("Window of the chart room load")
}

// TestUnfit: where no neutral can be brought, each family that needs one says which cable is
// too thin, and what can do without stands above.
func TestUnfit(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/3/choose", 1280, 800)
	b.see("What does not fit, and why")
	b.see("sensing switch needs 3; 1 other of the kind fits")
	b.press("The cable between Dome stair light and Foot of the dome stair has two cores")
	b.until("the cable that is too thin is not shown on the drawing", `() => document.querySelectorAll(".board .wire.pointed").length >= 3`)
	b.press("Each of the")
	b.see("The cable between Dome stair light and Foot of the dome stair has two cores (black, white) beside ground; this needs three: line, load, neutral.")
	if b.MustEval(`() => [...document.querySelectorAll("[aria-label='What fits'] li")].some(e => /^(Smart main|Sensing)/.test(e.ariaLabel ?? "") && !/a new cable/.test(e.ariaLabel))`).Bool() {
		t.Error("something that needs a neutral is offered where none can be brought")
	}
	b.see("Dimmer without neutral in Foot of the dome stair")
}

// TestServerGone: when the server stops, the page says that it is not current and takes no
// action; what was typed is sent when it is back, and the page goes on by itself.
func TestServerGone(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/survey?box=sw1", 1280, 800)
	b.tolerate("ERR_CONNECTION_REFUSED")
	b.tolerate("ERR_EMPTY_RESPONSE")
	b.see("It works")
	b.fill("Name", "Chart room arch")
	h.down()
	b.key(input.Enter)
	b.see("The program does not answer.")
	b.see("Not current.")
	if !b.MustEval(`() => document.getElementById("main").inert`).Bool() {
		t.Error("actions are offered that need the program")
	}
	h.up()
	b.see("Chart room arch line") // on the strip
	b.gone("Not current.")
	if b.MustEval(`() => document.getElementById("main").inert`).Bool() {
		t.Error("the page does not go on")
	}
}

// TestDoublePress: a press that comes twice makes one job, one circuit and one
// choice.
func TestDoublePress(t *testing.T) {
	h := start(t)
	b := h.open("/", 1280, 800)
	b.fill("New job", "Tide mill")
	b.MustEval(`() => { const make = [...document.querySelectorAll("button")].find(e => e.innerText === "Make job"); make.click(); make.click(); }`)
	b.see("No circuit yet")
	if jobs, err := h.store.Jobs(context.Background()); err != nil || len(jobs) != 1 {
		t.Errorf("%d jobs, %v", len(jobs), err)
	}
}
