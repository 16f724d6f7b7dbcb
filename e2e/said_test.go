package e2e

import (
	"regexp"
	"slices"
	"strings"
)

// idLike matches what reads as an id of a circuit file.
var idLike = regexp.MustCompile(`\b(?:lamp|supply|sw|jb|k|m|s|a|r|w)\d+\b|\b\w+\.\w+@\w+`)

// saysNoId unfolds all that is folded, and fails where the page says an id of a circuit file, or tells one to who does not see
// it. What is printed on a device ("S1") is no id.
func (b *tab) saysNoId(name string) {
	b.t.Helper()
	said := b.MustEval(`() => {
		document.querySelectorAll("main button[aria-expanded=false]:not([role=combobox]):not([aria-haspopup])").forEach(e => e.click());
		return new Promise(done => setTimeout(() => done(
			document.body.innerText + "\n" + [...document.querySelectorAll("[aria-label]")].map(e => e.getAttribute("aria-label")).join("\n") +
			"\n" + [...document.querySelectorAll("svg text")].map(e => e.textContent).join("\n")), 400));
	}`).Str()
	if len(said) < 200 {
		b.t.Errorf("%s says next to nothing: %q", name, said)
	}
	for line := range strings.Lines(said) {
		if id := idLike.FindString(line); id != "" && !slices.Contains([]string{"a4"}, id) {
			b.t.Errorf("%s says %q: %s", name, id, strings.TrimSpace(line))
		}
	}
}
