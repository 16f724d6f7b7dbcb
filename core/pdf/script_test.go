package pdf

import (
	"bytes"
	"fmt"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// TestScriptsFound: names in any script stand on the work order shaped, and can be found in it.
func TestScriptsFound(t *testing.T) {
	reader, err := exec.LookPath("pdftotext")
	if err != nil {
		t.Fatal("there is no pdftotext; run make test, which installs it")
	}
	c := circuittest.Straight()
	names := []string{"आर्द्रा कक्ष", "மாடி படிக்கட்டு", "楼梯间", "מסדרון"}
	for i := range c.Boxes {
		c.Boxes[i].Name = names[i]
	}
	c.Name = "Phòng chế tạo Лестница"
	var b bytes.Buffer
	if err := Drawings(&b, inspect.Compile(c), Info{Job: "مصباح", Circuit: c.Name, Date: today.Date}, A4); err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "names.pdf")
	write(t, file, b.Bytes())
	text, err := exec.Command(reader, file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	for _, name := range append(names, "مصباح", c.Name) {
		if !strings.Contains(string(text), name) {
			t.Errorf("%q is not found in the document", name)
		}
	}
	if !bytes.Contains(b.Bytes(), []byte("/BaseFont /utf8droidsansfallback")) {
		t.Error("the font of a name is not in the document")
	}
	for i := range 3 { // the same names make the same document
		var again bytes.Buffer
		if err := Drawings(&again, inspect.Compile(c), Info{Job: "مصباح", Circuit: c.Name, Date: today.Date}, A4); err != nil || !bytes.Equal(b.Bytes(), again.Bytes()) {
			t.Error(fmt.Sprintf("document %d differs", i), err)
		}
	}
}
