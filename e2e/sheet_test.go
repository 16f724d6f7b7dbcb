package e2e

import "testing"

// TestBackClosesASheet: on a phone Back puts an opened option or photograph away and stays on the page; closed by its own button it leaves
// no step behind.
func TestBackClosesASheet(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/jobs/1", 390, 844)
	b.MustNavigate(h.url("/circuits/1/choose")).MustWaitLoad()
	b.see("What these conductors can carry")
	depth := func() int { return b.MustEval(`() => history.length`).Int() }
	option := `[aria-label="Look at these first"] button`
	open := func() {
		b.still()
		b.MustElement(option).MustClick()
		b.until("no sheet opens", `() => document.querySelector("[role=dialog]") !== null && location.search.includes("show=")`)
	}
	closed := `() => document.querySelector("[role=dialog]") === null && !location.search.includes("show=") && location.pathname.endsWith("/choose")`
	open()
	was := depth()
	b.back()
	b.until("Back does not close the sheet", closed)
	open()
	b.MustElement("[role=dialog] [aria-label=Close]").MustClick()
	b.until("Close does not close the sheet", closed)
	if now := depth(); now != was {
		t.Errorf("the history has %d places, %d before", now, was)
	}
	b.back()
	b.until("Back does not leave the page", `() => location.pathname.startsWith("/jobs/")`)

	dir := t.TempDir()
	b.MustNavigate(h.url("/circuits/1/survey?box=sw1")).MustWaitLoad()
	b.see("Add photographs")
	b.MustElement(`input[accept^="image"]`).MustSetFiles(picture(t, dir))
	b.MustElement(".photos button").MustClick()
	b.until("no photograph opens", `() => document.querySelector("[role=dialog]") !== null`)
	b.back()
	b.until("Back does not close the photograph", `() => document.querySelector("[role=dialog]") === null && location.pathname.endsWith("/survey")`)
}
