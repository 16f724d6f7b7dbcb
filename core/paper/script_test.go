package paper

import (
	"bytes"
	"fmt"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"ambivia/core/circuittest"
)

// TestRuns: a text stands from left to right as its scripts do, each word in one font, and what
// no font has is a question mark; marks of direction and control characters are left out.
func TestRuns(t *testing.T) {
	s := newSheets(circuittest.Straight(), Info{}, A4, "")
	s.font("", 10)
	for _, k := range []struct{ text, want string }{
		{"Sail loft", "Sail loft"},
		{"Лестница", "Лестница"},
		{"chế tạo", "chế[NotoSans-Regular] tạo[NotoSans-Regular]"},
		{"कक्ष 3", "कक्ष[NotoSansDevanagari-Regular] 3"},
		{"படி", "படி[NotoSansTamil-Regular]"},
		{"楼梯灯 2", "楼梯灯[DroidSansFallback] 2"},
		{"مصباح السلم 12", "12 السلم[NotoSansArabic-Regular<] مصباح[NotoSansArabic-Regular<]"},
		{"מסדרון צפון abc", "abc צפון[NotoSansHebrew-Regular<] מסדרון[NotoSansHebrew-Regular<]"},
		{"dome מסדרון צפון end", "dome צפון[NotoSansHebrew-Regular<] מסדרון[NotoSansHebrew-Regular<] end"},
		{"a\u202eb\x00c\u2066d", "abcd"},
		{"a\U0001F9E0b", "a?b"},
	} {
		got := ""
		for _, r := range s.runs(k.text) {
			got += r.text
			if r.font != nil {
				got += "[" + r.font.name + map[bool]string{true: "<"}[r.rtl] + "]"
			}
		}
		if got != k.want {
			t.Errorf("%q: %s, not %s", k.text, got, k.want)
		}
		if wide := s.width(k.text); wide < 5 || wide > 150 {
			t.Errorf("%q is %g points wide", k.text, wide)
		}
	}
}

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
	if err := Drawings(&b, c, Info{Job: "مصباح", Circuit: c.Name, Date: today.Date}, A4); err != nil {
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
		if err := Drawings(&again, c, Info{Job: "مصباح", Circuit: c.Name, Date: today.Date}, A4); err != nil || !bytes.Equal(b.Bytes(), again.Bytes()) {
			t.Error(fmt.Sprintf("document %d differs", i), err)
		}
	}
}
