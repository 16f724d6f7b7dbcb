package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// TestBin: a circuit and a job that were removed are had back whole, and an old tab of one that
// lies in the bin changes nothing.
func TestBin(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	old := h.open("/circuits/1/survey?box=sw1", 1280, 800)
	old.see("It works")
	old.tolerate("404")
	b := h.open("/jobs/1", 1280, 800)
	remove := func(what, said string) {
		t.Helper()
		b.press("Remove " + what)
		b.see("in the bin for 30 days.")
		b.press("Remove")
		b.see(said + " lies in the bin.")
	}
	remove("Chart room", "Chart room")
	b.press("Undo") // at once, where it is said
	b.gone("lies in the bin.")
	b.see("Chart room")
	remove("Chart room", "Chart room")
	b.press("Close")
	b.gone("Chart room")
	old.fill("Name", "Late")
	old.key(input.Enter)
	old.see("it may have been removed")
	b.MustNavigate(h.url("/bin"))
	b.see("circuit of")
	b.press("Restore Chart room")
	b.see("The bin is empty.")
	b.MustNavigate(h.url("/jobs/1"))
	b.see("Chart room")
	remove("this job", "Observatory guest house, hilltop")
	b.see("No job yet.")
	b.press("Undo")
	b.gone("No job yet.")
	b.press("Observatory guest house, hilltop")
	remove("this job", "Observatory guest house, hilltop")
	b.see("No job yet.")
	b.press("Bin")
	b.see("Observatory guest house")
	b.press("Restore Observatory guest house, hilltop")
	b.press("Back to the jobs")
	b.press("Observatory guest house, hilltop")
	b.see("Chart room")
}

// TestNothingOfAnother: while answers about a circuit are long in coming, nothing of the circuit
// that was looked at before is shown as its own; and what is of an older revision says that it is
// not current, and offers no action.
func TestNothingOfAnother(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/choose", 1280, 800)
	b.see("What these conductors can carry")
	router := b.HijackRequests()
	router.MustAdd("*/plan", func(ctx *rod.Hijack) {
		time.Sleep(1500 * time.Millisecond)
		ctx.ContinueRequest(&proto.FetchContinueRequest{})
	})
	go router.Run()
	t.Cleanup(func() { _ = router.Stop() })
	b.MustEval(`() => { history.pushState(null, "", "/circuits/` + h.ids.Circuit(t, 2) + `/choose"); dispatchEvent(new PopStateEvent("popstate")); }`)
	b.see("Allocating and simulating")
	if text := b.MustElement("main").MustText(); strings.Contains(text, "What these conductors can carry") {
		t.Error("options of the circuit before stand while those of this one are worked out")
	}
	b.see("What these conductors can carry")
	b.press("What is wanted")
	wish(b, "Dims from every place", "must")
	b.see("Not current: planned anew")
	if !b.MustEval(`() => document.querySelector(".stale")?.inert ?? false`).Bool() {
		t.Error("what is not current can be pressed")
	}
	b.gone("Not current")
}

// TestHistory: every revision stands in a list with what was done and by whom; an older one is looked at and
// made the head again, which is one revision more.
func TestHistory(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/survey?box=sw1", 1280, 800)
	b.see("It works")
	b.press("Who works here")
	b.see("It stays here, and in what is recorded.")
	b.key([]input.Key("Ada")...)
	b.key(input.Enter)
	b.gone("It stays here, and in what is recorded.")
	b.fill("Name", "Arch")
	b.key(input.Enter)
	b.see("Arch line")
	b.press("Export")
	b.press("History: every revision")
	b.see("as it is now")
	b.see("· Ada")
	b.press("Look at revision 1")
	if err := b.Page.Timeout(patience).Wait(rod.Eval(`() => document.querySelector("[aria-label='Revision 1: drawing'] svg")?.textContent.includes("Chart room door")`)); err != nil {
		t.Fatal("the revision is not drawn")
	}
	b.press("Go back to revision 1")
	b.see("Chart room door line")
	b.press("Undo: Back to revision 1")
	b.see("Arch line")
}

// TestManyCircuits: among a hundred circuits one is found by words of its name and by what comes next on it, and that stage
// opens at once.
func TestManyCircuits(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/jobs/1", 1280, 800)
	b.see("West dome stair")
	b.MustEval(`async () => {
		const job = location.pathname.split("/").pop();
		for (let n = 1; n <= 97; n++) await fetch(` + "`/api/v1/jobs/${job}/circuits`" + `, {
			method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ name: "Bay " + n, practice: "au" }) });
	}`)
	b.MustReload()
	b.see("all 100 circuits")
	shown := func(n int) {
		b.until(fmt.Sprintf("not %d circuits are listed", n), `(n) => document.querySelectorAll("ol.index > li").length === n`, n)
	}
	shown(100)
	b.fill("Find a circuit", "bay 42")
	shown(1)
	b.fill("Find a circuit", "no such bay")
	b.see("No circuit matches.")
	b.fill("Find a circuit", "")
	b.press("What comes next")
	b.MustElementR("[role=option]", "Survey next: ").MustClick()
	b.gone("West dome stair")
	b.press("What comes next")
	b.MustElementR("[role=option]", "all 100 circuits").MustClick()
	b.press("Order")
	b.MustElementR("[role=option]", "by what comes next").MustClick()
	shown(100)
	b.find("ol.index a", "Choose is next for Plate archive").MustClick()
	b.see("What these conductors can carry")
}

// TestTogether: all circuits of a job are planned together when that is asked for: sums by what is least, with the price of an hour;
// what was chosen for a circuit opens there; a circuit that nothing fits is named with why.
func TestTogether(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	for _, width := range []int{1280, 390} {
		b := h.open("/jobs/1", width, 844)
		b.press("Plan all circuits")
		b.see("Least money: ")
		b.see("nothing to read first")
		b.fill("An hour of work costs", "60")
		b.see("with the work")
		b.press("The first plan has")
		b.MustElementR("[role=option]", "fewest kinds of devices").MustClick()
		b.until("the plan of fewest kinds does not stand first", `() => document.querySelector("section table")?.closest("[data-state]")?.parentElement?.innerText.startsWith("Fewest kinds of devices")`)
		b.fill("An hour of work costs", "dear")
		b.see("Enter the price of an hour")
		b.fill("An hour of work costs", "60")
		b.until("the page is wider than the screen", `() => document.documentElement.scrollWidth <= innerWidth`)
		b.find("section table a", "Plate archive").MustClick()
		b.see("Choose this")
	}
	b := h.open("/jobs/1", 1280, 800)
	b.fill("New circuit", "Cellar")
	b.press("Make circuit")
	b.see("Cellar")
	b.MustNavigate(h.url("/jobs/1")).MustWaitLoad()
	b.press("Plan all circuits")
	b.press("1 circuit has no plan yet")
	b.see("Cellar: ")
}

// TestJobs: jobs are found by words of their names, sorted, renamed and copied; a copy has every circuit
// and its history.
func TestJobs(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/", 1280, 800)
	for _, name := range []string{"Wool shed", "Tide mill"} {
		b.fill("New job", name)
		b.press("Make job")
		b.see("No circuit yet")
		b.MustNavigate(h.url("/")).MustWaitLoad()
		b.see(name)
	}
	names := func() string {
		return b.MustEval(`() => [...document.querySelectorAll(".index a")].map(a => a.innerText).join("; ")`).Str()
	}
	if got := names(); got != "Tide mill; Wool shed; Observatory guest house, hilltop" {
		t.Errorf("newest first: %s", got)
	}
	b.press("Order")
	b.MustElementR("[role=option]", "by name").MustClick()
	if got := names(); got != "Observatory guest house, hilltop; Tide mill; Wool shed" {
		t.Errorf("by name: %s", got)
	}
	b.fill("Find a job", "guest OBS")
	b.gone("Wool shed")
	b.press("Observatory")
	b.see("Chart room")
	b.press("Rename this job")
	b.fill("Name of the job", "Observatory, lower house")
	b.press("Rename")
	b.see("Observatory, lower house")
	b.press("Who works here") // what this machine is set to
	b.press("Dates")
	b.MustElementR("[role=option]", "^2026-11-26$").MustClick()
	b.press("Prices in")
	b.MustElementR("[role=option]", "pounds").MustClick()
	b.press("New circuits in")
	b.MustElementR("[role=option]", "Australia").MustClick()
	b.press("Close")
	if now := b.find("[role=combobox]", "Practice").MustText(); !strings.HasPrefix(now, "Australia") {
		t.Errorf("new circuits are in practice %q", now)
	}
	b.press("Put this job away")
	b.see("It is over.")
	b.press("Undo")
	b.gone("It is over.")
	b.press("Put this job away")
	b.see("It is over.")
	b.press("Ambivia")
	b.press("1 job is over")
	b.press("Observatory, lower house")
	b.press("Work on this job again")
	b.gone("It is over.")
	b.press("Make a copy of this job")
	b.see("Copy of Observatory, lower house")
	b.see("West dome stair")
	b.MustNavigate(h.url("/")).MustWaitLoad()
	b.see("since " + time.Now().Format(time.DateOnly))
	b.press("Copy of")
	b.press("Chart room")
	b.see("lit, ")
	b.key('c')
	b.see("£")
}
