package e2e

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/go-rod/rod/lib/proto"

	"ambivia/core/circuit"
	"ambivia/demo"
	"ambivia/demo/fitted"
	"ambivia/store/storetest"
)

// screens are the main views, as the demo data shows them.
var screens = []struct{ name, path, ready string }{
	{"jobs", "/", "Observatory guest house"},
	{"job", "/jobs/1", "West dome stair"},
	{"survey", "/circuits/1/survey?box=sw1", "lit, "},
	{"choose", "/circuits/2/choose", "What these conductors can carry"},
	{"unfit", "/circuits/3/choose", "What does not fit"},
	{"option", "/circuits/2/choose?show=main-aux-sw1", "What was proved"},
	{"compare", "/circuits/2/compare?o=sensing-3way-sw1,main-aux-sw1,main-remote-sw1", "Boxes opened"},
	{"devices", "/devices", "Sensing switches"},
	{"wire", "/circuits/1/wire", "Only what changes"},
	{"steps", "/circuits/1/wire?see=steps", "Step 1 of"},
	{"boxes", "/circuits/1/wire?see=boxes", "Changes, box by box"},
	{"line", "/circuits/1/wire?see=line", "Single line"},
	{"materials", "/circuits/1/wire?see=materials", "Room in the boxes"},
	{"fit", "/circuits/1/fit", "Off, locked and labelled"},
	{"prove", "/circuits/1/prove", "how do the lamps look now?"},
	{"firm", "/firm", "Licence number"},
	{"rehearse", "/circuits/1/rehearse?option=paired-switches-sw1&set=mirror-two", "The light is"},
	{"use", "/circuits/1/use", "hours lit"},
	{"record", "/circuits/1/record", "How the record knows"},
	{"empty", "/circuits/4/survey", "Begin where power does"},
	{"faulty", "/circuits/5/survey?box=sw2", "Missing or odd"},
	{"refused", "/circuits/5/choose", "Nothing is planned on a circuit that is not sound"},
	{"trace", "/circuits/6/trace", "circuits fit"},
	{"traced", "/circuits/1/trace", "Assumed, not measured"},
	{"missing", "/nowhere", "There is nothing here"},
}

// thorough are the screens that one works on standing: they are looked at in both themes at
// both sizes, the others in each theme and at each size once.
var thorough = []string{"survey", "trace", "wire", "steps", "fit", "prove"}

// furnished is the database that [furnish] copies.
var furnished struct {
	once sync.Once
	data []byte
	ids  *storetest.Numbers
}

// furnish starts a server on a copy of data with which every screen has something to show; they are made once, by the
// page.
func furnish(t *testing.T) *house {
	t.Helper()
	t.Parallel()
	furnished.once.Do(func() { makeFurnished(t) })
	if furnished.data == nil {
		t.Fatal("the data could not be made")
	}
	h := &house{t: t, path: filepath.Join(t.TempDir(), "test.db"), addr: "127.0.0.1:0", ids: furnished.ids.Copy()}
	if err := os.WriteFile(h.path, furnished.data, 0o600); err != nil {
		t.Fatal(err)
	}
	h.up()
	t.Cleanup(h.down)
	return h
}

// makeFurnished seeds the demo, chooses a plan, begins to fit it, and adds an empty circuit, a faulty one and one to
// practise on.
func makeFurnished(t *testing.T) {
	h := &house{t: t, path: filepath.Join(t.TempDir(), "furnished.db"), addr: "127.0.0.1:0"}
	h.up()
	h.seed("observatory")
	b := h.open("/circuits/1/choose", 1280, 800)
	b.choose("Smart main in Chart room door; Chart room window becomes a wired")
	b.MustNavigate(h.url("/circuits/1/fit")).MustWaitLoad()
	b.press("Begin:")
	b.fitOn("Bring ")
	b.MustNavigate(h.url("/jobs/1")).MustWaitLoad()
	b.fill("New circuit", "Eyepiece store")
	b.press("Make circuit")
	b.see("Begin where power does")
	b.MustNavigate(h.url("/jobs/1")).MustWaitLoad()
	faulty := filepath.Join(t.TempDir(), "faulty.json")
	spoiled := scene("observatory")[1]
	spoiled.Name = "Archive, a traveler loose"
	for i, j := range spoiled.Joins {
		spoiled.Joins[i].Of = slices.DeleteFunc(j.Of, func(m circuit.Ref) bool { return m.String() == "s2.t1" })
	}
	out, err := os.Create(faulty)
	if err != nil {
		t.Fatal(err)
	}
	if err := errors.Join(circuit.Write(out, spoiled), out.Close()); err != nil {
		t.Fatal(err)
	}
	b.see("West dome stair")
	b.MustElement("input[type=file]").MustSetFiles(faulty)
	b.see("Missing or odd")
	b.MustNavigate(h.url("/circuits/2/trace")).MustWaitLoad()
	b.press("Hide it and practise")
	b.see("circuits fit")
	b.still()
	for _, c := range demo.Jobs()[1].Circuits { // how one of them is used, for a circuit that all look at
		if use := fitted.UseOf(c); use != nil {
			data, err := json.Marshal(use)
			if err != nil {
				t.Fatal(err)
			}
			if err := h.store.PutUse(t.Context(), h.ids.Circuit(t, 1), "", data); err != nil {
				t.Fatal(err)
			}
		}
	}
	b.MustNavigate("about:blank")
	h.down()
	if furnished.data, err = os.ReadFile(h.path); err != nil {
		t.Fatal(err)
	}
	furnished.ids = h.ids
}

// TestAccessible runs an accessibility engine on every screen, light and dark,
// at desk and phone size; and checks by itself that nothing sticks out of a
// phone and that whatever is pressed is large enough for a thumb.
func TestAccessible(t *testing.T) {
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal(err)
	}
	for _, size := range [][2]int{{1280, 800}, {390, 844}} {
		t.Run(fmt.Sprint(size[0]), func(t *testing.T) {
			h := furnish(t)
			for _, theme := range []string{"light", "dark"} {
				b := h.open("/", size[0], size[1])
				b.MustEval(`theme => localStorage.setItem("ambivia-theme", theme)`, theme)
				for i, s := range screens {
					if !slices.Contains(thorough, s.name) && (theme == "light") != ((size[0] == 1280) == (i%2 == 0)) {
						continue
					}
					name := fmt.Sprintf("%s %s %d", s.name, theme, size[0])
					b.MustNavigate(h.url(s.path)).MustWaitLoad()
					b.see(s.ready)
					b.still()
					if s.name == "job" {
						b.press("Remove Plate archive")
						b.see("It lies in the bin for 30 days.")
					}
					if s.name == "jobs" {
						if size[0] < 640 { // who has keys there finds them by one
							b.key('?')
						} else {
							b.press("Keyboard shortcuts")
						}
						b.see("Join what is picked")
					}
					if _, err := (proto.RuntimeEvaluate{Expression: string(axe)}).Call(b); err != nil {
						t.Fatal(err)
					}
					for _, v := range violations(t, b) {
						t.Errorf("%s: %s", name, v)
					}
					for _, text := range thumbs(b) {
						t.Errorf("%s: %s", name, text)
					}
					for _, text := range unhinted(b) {
						t.Errorf("%s: an icon without words: %s", name, text)
					}
				}
			}
		})
	}
}

// violations lists what the engine finds, of whatever level.
func violations(t *testing.T, b *tab) []string {
	t.Helper()
	raw := b.MustEval(`async () => JSON.stringify((await axe.run(document, {resultTypes: ["violations"]})).violations
		.map(v => ({id: v.id, impact: v.impact, nodes: v.nodes.map(n => n.html.slice(0, 160) + " " + (n.any[0]?.message ?? ""))})))`).Str()
	var found []struct {
		ID, Impact string
		Nodes      []string
	}
	if err := json.Unmarshal([]byte(raw), &found); err != nil {
		t.Fatal(err)
	}
	var out []string
	for _, v := range found {
		out = append(out, v.ID+": "+strings.Join(v.Nodes, " | "))
	}
	return out
}

// unhinted lists what is pressed and has an icon alone, without words that show when it is pointed at.
func unhinted(b *tab) []string {
	var out []string
	for _, v := range b.MustEval(`() => [...document.querySelectorAll("button:not([role]), a")]
		.filter(e => e.innerText.trim() === "" && e.querySelector("svg") && e.getClientRects().length > 0 && !e.hasAttribute("data-hint"))
		.map(e => e.getAttribute("aria-label") ?? e.outerHTML.slice(0, 80))`).Arr() {
		out = append(out, v.Str())
	}
	return out
}

// thumbs lists controls under 44 px and anything that makes the page wider than
// its window.
func thumbs(b *tab) []string {
	var out []string
	raw := b.MustEval(`() => {
		const out = [];
		if (document.documentElement.scrollWidth > innerWidth) out.push("the page is wider than its window");
		for (const e of document.querySelectorAll("button, a, input:not([type=file])")) {
			const r = e.getBoundingClientRect();
			const host = e.role === "checkbox" || e.role === "switch" || e.role === "radio" && e.closest("label") ? e.closest("label").getBoundingClientRect() : r;
			if (r.width === 0 || e.ariaHidden === "true" || e.closest(".skip, .sr-only, p, footer")) continue;
			if (host.height < 43.5) out.push(Math.round(host.height) + " px high: " + (e.getAttribute("aria-label") ?? e.innerText ?? e.outerHTML).slice(0, 60));
		}
		return out;
	}`)
	for _, v := range raw.Arr() {
		out = append(out, v.Str())
	}
	return out
}

// TestScreenshots writes the pictures of docs/screenshots when asked to by the
// variable AMBIVIA_SCREENSHOTS, which names the folder.
func TestScreenshots(t *testing.T) {
	dir := os.Getenv("AMBIVIA_SCREENSHOTS")
	if dir == "" {
		t.Skip("AMBIVIA_SCREENSHOTS names no folder; that the screens can be shown is seen by TestAccessible")
	}
	h := furnish(t)
	shoot := func(name, path, ready, theme string, width, height int) {
		b := h.open("/", width, height)
		b.MustEval(`theme => localStorage.setItem("ambivia-theme", theme)`, theme)
		b.MustNavigate(h.url(path)).MustWaitLoad()
		b.see(ready)
		b.still()
		if name == "rehearse" { // the way to where it fails
			b.press("Show me")
			b.MustEval(`() => scrollTo(0, 0)`)
		}
		if name == "use" {
			b.MustElement("[aria-label='The year']").MustEval(`() => this.scrollIntoView(true)`)
		}
		if name == "unfit" {
			b.MustElementR("h2", "What does not fit").MustEval(`() => this.scrollIntoView(true)`)
		}
		if err := os.WriteFile(filepath.Join(dir, name+".png"), b.MustScreenshot(), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	for _, s := range screens {
		if !slices.Contains([]string{"missing", "refused", "firm", "boxes", "steps", "materials", "empty", "line", "traced"}, s.name) {
			shoot(s.name, s.path, s.ready, "light", 1280, 800)
		}
		if s.name == "trace" {
			shoot("trace-phone", s.path, s.ready, "light", 390, 844)
		}
		if s.name == "survey" {
			shoot("survey-phone", s.path, s.ready, "light", 390, 844)
			shoot("survey-dark", s.path, s.ready, "dark", 1280, 800)
		}
	}
}
