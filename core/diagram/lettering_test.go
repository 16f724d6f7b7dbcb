package diagram

import (
	"encoding/json"
	"encoding/xml"
	"strings"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// TestFileScripts: in a file a name in a script that the file's own font lacks is outlines, with
// the name over them to be found; on the page, whose fonts the reader brings, it is text alone.
func TestFileScripts(t *testing.T) {
	c := circuittest.Straight()
	names := []string{"आर्द्रा कक्ष", "மாடி", "楼梯间", "מסדרון"}
	for i := range c.Boxes {
		c.Boxes[i].Name = names[i]
	}
	var file strings.Builder
	scene := Schematic(inspect.Compile(c), "Names")
	if err := scene.File(&file, Block{Job: "مصباح"}); err != nil {
		t.Fatal(err)
	}
	picture, err := json.Marshal(scene.Picture())
	if err != nil {
		t.Fatal(err)
	}
	for _, name := range append(names, "مصباح") {
		found := strings.Index(file.String(), ">"+name+"</text>")
		if found < 0 {
			t.Errorf("%q is not found in the file", name)
			continue
		}
		group := file.String()[strings.LastIndex(file.String()[:found], "<g"):found]
		if !strings.Contains(group, `<path d="M`) || !strings.Contains(group, `opacity="0"`) {
			t.Errorf("%q is not outlined: %.200s", name, group)
		}
	}
	if !strings.Contains(string(picture), `"text":"`+names[0]+`"`) {
		t.Error("the page's drawing lacks the name as text")
	}
	if err := xml.Unmarshal([]byte(file.String()), new(struct{})); err != nil {
		t.Error(err)
	}
}
