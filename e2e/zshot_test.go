package e2e
import ("testing";"fmt")
func TestZShot(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	id := h.put(1, settled(t))
	for _, v := range [][2]int{{1280,800},{390,844}} {
		b := h.open(fmt.Sprintf("/circuits/%d/trace", id), v[0], v[1])
		b.see("Confirming reading"); b.still()
		b.MustScreenshot(fmt.Sprintf("/tmp/shot-confirm-%d.png", v[0]))
		b.press("Do not confirm"); b.see("safer against"); b.still()
		b.MustElementR("h2","Everything that can be seen").MustScrollIntoView()
		b.MustScreenshot(fmt.Sprintf("/tmp/shot-done-%d.png", v[0]))
		b.press("Ask for it"); b.see("Confirming reading"); 
		b.MustElementR("label", "Guard against one").MustElement("select").MustSelect("where it takes no walk"); b.still()
	}
}
