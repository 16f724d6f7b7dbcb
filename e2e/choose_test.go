package e2e

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"ambivia/core/circuittest"
)

// firstOption is the title of what stands first.
func firstOption(b *tab) string {
	return b.MustElement("[data-option]").MustText()
}

// wish sets a wish by its words.
func wish(b *tab, text, how string) {
	b.t.Helper()
	label, err := b.Timeout(patience).ElementByJS(rod.Eval(`(text, how) => {
		const one = [...document.querySelectorAll("fieldset.wish")].find(e => e.querySelector("legend").innerText === text);
		return [...(one?.querySelectorAll("[role=radio]") ?? [])].find(e => e.innerText.startsWith(how)) ?? null;
	}`, text, how))
	if err != nil {
		b.t.Fatalf("no wish %q", text)
	}
	label.CancelTimeout().MustClick()
}

// TestWishes: the order follows what is wanted, at once; a conflict between two musts is
// named; what was wished outlives a restart and another tab sees it.
func TestWishes(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/choose", 1280, 800)
	b.see("What these conductors can carry")
	before := firstOption(b)
	if !strings.HasPrefix(before, "Sensing smart switch") {
		t.Errorf("with nothing wished %q stands first", before)
	}
	b.press("What is wanted")
	wish(b, "Dims from every place", "must")
	b.see("1 must be")
	err := b.Timeout(patience).Wait(rod.Eval(`before => document.querySelector("[data-option]").innerText !== before`, before))
	if err != nil {
		t.Fatal("the order does not follow the wish")
	}
	b.open(firstOption(b))
	if met := b.MustElement("[aria-label='Wishes met']").MustText(); !strings.Contains(met, "Dims from every place") {
		t.Errorf("what stands first meets %q", met)
	}
	wish(b, "Keep the old switches", "must")
	b.see("“Dims from every place” together with “Keep the old switches”")
	wish(b, "Keep the old switches", "—")
	b.gone("together with")
	wish(b, "Within a budget", "nice")
	b.fill("Budget for the devices", "60")
	b.key(input.Enter)
	b.see("1 would be nice")

	b.tolerate("ERR_") // the server is away for a moment
	h.restart()
	two := h.open("/circuits/1/choose", 390, 844)
	two.see("1 must be, 1 would be nice")
	if value := two.MustElement(".wish .amount input").MustProperty("value").Str(); value != "60" {
		t.Errorf("the budget came back as %q", value)
	}
}

// TestCompare: an option is shown beside today's, its nets on the strip; two are compared
// and the page can be printed; an option that is gone is left out with a word.
func TestCompare(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/choose", 1280, 800)
	b.see("What these conductors can carry")
	b.still()
	strip := b.MustElement(".strip").MustText()
	b.open("Smart main in Chart room door; Chart room window becomes a wired")
	b.see("With it")
	b.until("nothing shows what is joined differently, or the strip does not show what the boxes would hold",
		`() => document.querySelector(".board path.flag") !== null && document.querySelector(".strip").innerText.includes("signal")`)
	focus(b, "How much of today’s wiring is drawn over it")
	before := len(b.MustElements(".board svg"))
	b.key(input.End)
	b.see("Today")
	b.until("the drawings do not lie over each other", `n => document.querySelectorAll(".board svg").length === n`, before+1)
	b.open("Smart main in Chart room door; Chart room window becomes a wired")
	b.until("with nothing shown the strip is not as it was", `was => document.querySelector(".strip").innerText === was`, strip)
	b.MustNavigate(h.url("/circuits/1/choose?show=main-aux-sw1")).MustWaitLoad()
	b.see("What was proved")
	ticks := b.MustElements("[role=checkbox]")
	ticks[0].MustClick()
	b.see("mark another to compare")
	ticks[2].MustClick()
	b.press("Compare side by side")
	b.see("Price of the devices")
	b.see("Device dead")
	b.until("not two options side by side", `() => document.querySelectorAll(".compared thead th").length === 2`)
	b.MustNavigate(h.url("/circuits/1/compare?o=main-aux-sw1,perpetual")).MustWaitLoad()
	b.see("Some of the options are not offered any more")
	b.MustNavigate(h.url("/circuits/1/compare")).MustWaitLoad()
	b.see("None of these options is offered any more")
}

// TestTenByKeys: ten controls, chosen among with the keyboard alone: a wish, the reasons, two
// marked and compared, one chosen, the choice taken back.
func TestTenByKeys(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	ten := circuittest.Chain(10)
	ten.Name = "Ten on a tower stair"
	b := h.open(fmt.Sprintf("/circuits/%s/choose", h.put(h.ids.Job(t, 1), ten)), 1280, 800)
	b.see("What these conductors can carry")
	b.until("the strip has fewer than eleven boxes", `() => document.querySelectorAll(".strip .stop-name").length >= 11`)
	focus(b, "What is wanted")
	b.key(input.Enter)
	b.see("Dims from every place")
	b.key(input.Tab)
	b.hold(input.ArrowRight) // the first wish: nought, nice, must
	b.see("1 would be nice")
	b.hold(input.ArrowRight)
	b.see("1 must be")
	err := b.Timeout(patience).Wait(rod.Eval(`() => !document.querySelector(".stale") && document.querySelector("[data-option]") !== null`))
	if err != nil {
		t.Fatal(err)
	}
	title := firstOption(b)
	for range 2 { // the first two are marked
		for b.MustEval(`() => document.activeElement.role !== "checkbox"`).Bool() {
			b.key(input.Tab)
		}
		b.key(input.Space, input.Tab)
	}
	b.see("2 are marked")
	focus(b, title)
	b.key(input.Enter)
	b.see("Power gone and back")
	b.see("Why each core")
	if met := b.MustElement("[aria-label='Wishes met']").MustText(); !strings.Contains(met, "Dims from one place") {
		t.Errorf("what stands first meets %q", met)
	}
	focus(b, "Choose this")
	b.key(input.Enter)
	b.see("Chosen — take back")
	b.gone("Not current") // planned anew, for the record with its choice
	if name := b.MustEval(`() => document.activeElement.innerText`).Str(); !strings.Contains(name, "take back") {
		t.Errorf("the focus is lost to %.40q while it is planned anew", name)
	}
	focus(b, "Compare side by side")
	b.key(input.Enter)
	b.see("Price of the devices")
	b.until("not two options side by side", `() => document.querySelectorAll(".compared thead th").length === 2`)
}

// TestComparedOnPaper: on a sheet of A4 across, four options stand side by side, whole, in
// black on white, without what only a screen needs, and with the cautions.
func TestComparedOnPaper(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/choose", 900, 700)
	b.see("What these conductors can carry")
	ids := b.MustEval(`() => fetch("/api/v1/circuits/` + h.ids.Circuit(t, 1) + `/plan").then(r => r.json()).then(a => a.options.filter(o => o.feasible).slice(0, 4).map(o => o.id).join(","))`).Str()
	b.MustNavigate(h.url("/circuits/1/compare?o=" + ids)).MustWaitLoad()
	b.see("Price of the devices")
	b.press("Change to the dark theme") // paper stays paper
	if err := (proto.EmulationSetEmulatedMedia{Media: "print"}).Call(b.Page); err != nil {
		t.Fatal(err)
	}
	paper := b.MustEval(`() => {
		const shown = e => e !== null && e.getClientRects().length > 0;
		const table = document.querySelector(".compared");
		return {
			columns: table.querySelectorAll("thead th").length,
			wide: table.getBoundingClientRect().right - document.documentElement.clientWidth,
			tools: [...document.querySelectorAll("header button, nav a")].filter(shown).length,
			paper: getComputedStyle(document.documentElement).backgroundColor + getComputedStyle(document.body).backgroundColor,
			ink: getComputedStyle(table.querySelector("tbody td")).color,
			caution: document.body.innerText.includes("prove"),
		};
	}`)
	if paper.Get("columns").Int() != 4 || paper.Get("wide").Num() > 1 || paper.Get("tools").Int() > 0 || !paper.Get("caution").Bool() {
		t.Errorf("on paper: %v", paper)
	}
	if ground, ink := paper.Get("paper").Str(), paper.Get("ink").Str(); strings.NewReplacer("rgba(0, 0, 0, 0)", "", "rgb(255, 255, 255)", "").Replace(ground) != "" || ink != "rgb(0, 0, 0)" {
		t.Errorf("%s on %s", ink, ground)
	}
}

// TestOwnDevice: a model is copied, spoiled, refused by the bench, mended, kept, used in a
// plan, written to a file and read back; a file that is none changes nothing.
func TestOwnDevice(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/devices", 1280, 800)
	b.tolerate("422")
	b.see("smart main dimmer for remotes")
	b.press("Copy smart main dimmer for remotes")
	b.fill("Name", "attic dimmer")
	b.fill("Price, in units", "1")
	b.press("Behaviour")
	behaviour := b.MustElement("textarea")
	good := behaviour.MustProperty("value").Str()
	behaviour.MustSelectAllText().MustInput(strings.Replace(good, `"toggles": "out"`, `"sends": true`, 1))
	b.press("Try it on the bench")
	b.see("on the bench the control d does not switch the lamp")
	b.press("Keep")
	b.see("on the bench the control d does not switch the lamp")
	behaviour.MustSelectAllText().MustInput("{")
	b.press("Try it on the bench")
	b.see("The behaviour is no JSON")
	behaviour.MustSelectAllText().MustInput(good)
	b.press("Keep")
	b.see("attic dimmer is kept")

	b.MustNavigate(h.url("/circuits/1/choose")).MustWaitLoad()
	b.see("What these conductors can carry")
	var plan struct {
		Options []struct {
			Devices []struct{ Device string }
		}
	}
	raw := b.MustEval(`async () => await (await fetch("/api/v1/circuits/` + h.ids.Circuit(t, 1) + `/plan")).text()`).Str()
	if err := json.Unmarshal([]byte(raw), &plan); err != nil || !strings.Contains(raw, "attic-dimmer") {
		t.Errorf("no plan knows the new model: %v", err)
	}

	b.MustNavigate(h.url("/devices")).MustWaitLoad()
	b.see("attic dimmer")
	file := filepath.Join(t.TempDir(), "models.json")
	text := b.MustEval(`async () => await (await fetch("/api/v1/devices/file")).text()`).Str()
	if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	b.press("Remove attic dimmer")
	b.Timeout(patience).MustElement("[role=dialog]").MustElementR("button", "^Remove$").MustClick()
	b.see("None yet")
	b.MustElement("input[type=file]").MustSetFiles(file)
	b.see("1 model was read and behaves")
	b.see("attic dimmer")
	other := filepath.Join(t.TempDir(), "other.json")
	if err := os.WriteFile(other, []byte(strings.ReplaceAll(text, "attic dimmer", "loft dimmer")), 0o600); err != nil {
		t.Fatal(err)
	}
	b.tolerate("409")
	b.MustElement("input[type=file]").MustSetFiles(other)
	b.see("there is another model")
	b.see("attic dimmer")
	b.press("Take the file’s in their stead")
	b.see("loft dimmer")
	b.gone("attic dimmer")
	wrong := filepath.Join(t.TempDir(), "wrong.json")
	if err := os.WriteFile(wrong, []byte(`{"format": "ambivia-devices/1", "devices": [{"id": "x"}]}`), 0o600); err != nil {
		t.Fatal(err)
	}
	b.MustElement("input[type=file]").MustSetFiles(wrong)
	b.see("devices[0]")
	b.see("Nothing was written")
}

// TestFixedCore: whoever says which core carries the load gets plans in which it does; those in
// which it cannot say why; and it can be let go again.
func TestFixedCore(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/2/choose", 1280, 800)
	b.see("What these conductors can carry")
	b.press("What is wanted")
	b.press("Which core carries what")
	b.pick("Core", "RD of the cable between Archive door and Archive ladder")
	b.pick("shall carry", "load")
	b.press("Fix it")
	b.see("RD of the cable between Archive door and Archive ladder carries load")
	b.press("Each of the")
	b.see("You want red of the cable between Archive door and Archive ladder to carry load.")
	b.press("Remove what RD of the cable between Archive door and Archive ladder is fixed for")
	b.press("Remove")
	b.gone("You want red of the cable between Archive door and Archive ladder to carry load.")
}
