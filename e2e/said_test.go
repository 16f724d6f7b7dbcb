package e2e

import (
	"regexp"
	"slices"
	"strings"
	"testing"
)

// idLike matches what reads as an id of a circuit file.
var idLike = regexp.MustCompile(`\b(?:lamp|supply|sw|jb|k|m|s|a|r|w)\d+\b|\b\w+\.\w+@\w+`)

// TestNoIdOnThePage opens every screen, with all that is folded, and finds no id of a circuit file in what it says, nor in
// what it says to who does not see it. What is printed on a device ("S1") is no id.
func TestNoIdOnThePage(t *testing.T) {
	h := furnish(t)
	b := h.open("/nowhere", 1280, 800)
	b.tolerate("422")
	for _, s := range screens {
		b.MustNavigate(h.url(s.path)).MustWaitLoad()
		b.see(s.ready)
		b.still()
		said := b.MustEval(`() => {
			document.querySelectorAll("main button[aria-expanded=false]:not([role=combobox]):not([aria-haspopup])").forEach(e => e.click());
			return new Promise(done => setTimeout(() => done(
				document.body.innerText + "\n" + [...document.querySelectorAll("[aria-label]")].map(e => e.getAttribute("aria-label")).join("\n") +
				"\n" + [...document.querySelectorAll("svg text")].map(e => e.textContent).join("\n")), 400));
		}`).Str()
		if len(said) < 200 {
			t.Errorf("%s says next to nothing: %q", s.name, said)
		}
		for line := range strings.Lines(said) {
			if id := idLike.FindString(line); id != "" && !slices.Contains([]string{"a4"}, id) {
				t.Errorf("%s says %q: %s", s.name, id, strings.TrimSpace(line))
			}
		}
	}
}
