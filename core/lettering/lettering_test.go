package lettering

import (
	"testing"
	"unicode/utf8"
)

// TestRuns: a text stands from left to right as its scripts do, each word in one font, and what
// no font has is a question mark; marks of direction and control characters are left out.
func TestRuns(t *testing.T) {
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
		for _, r := range Runs(k.text) {
			got += r.Text
			if r.Font != nil {
				got += "[" + r.Font.Name + map[bool]string{true: "<"}[r.RTL] + "]"
			}
		}
		if got != k.want {
			t.Errorf("%q: %s, not %s", k.text, got, k.want)
		}
	}
}

// TestShape: a run has outlines, and joined letters take less room than they would singly.
func TestShape(t *testing.T) {
	for _, text := range []string{"कक्ष", "படி", "楼梯灯", "السلم", "צפון", "chế"} {
		runs := Runs(text)
		if len(runs) != 1 || runs[0].Font == nil {
			t.Fatalf("%q: %+v", text, runs)
		}
		s := runs[0].Shape()
		if s.Wide <= 0 || s.Units <= 0 || len(s.Glyphs) == 0 {
			t.Errorf("%q: %g wide, %d glyphs", text, s.Wide, len(s.Glyphs))
		}
		sum := 0.0
		for _, letter := range text {
			sum += Run{Text: string(letter), Font: runs[0].Font, RTL: runs[0].RTL}.Shape().Wide
		}
		if (text == "कक्ष" || text == "السلم") && s.Wide >= sum {
			t.Errorf("%q is not joined: %g wide, its letters %g", text, s.Wide, sum)
		}
	}
}

// TestClip: what is shortened takes no more columns than it may and ends at a letter.
func TestClip(t *testing.T) {
	for _, k := range []struct {
		text string
		most int
		want string
	}{
		{"Sail loft", 9, "Sail loft"},
		{"Sail loft", 8, "Sail lo…"},
		{"楼梯间很长", 10, "楼梯间很长"},
		{"楼梯间很长", 9, "楼梯间很…"},
		{"楼梯间很长", 8, "楼梯间…"},
		{"e\u0301e\u0301e\u0301", 3, "e\u0301e\u0301e\u0301"},
		{"e\u0301e\u0301e\u0301", 2, "e\u0301…"},
		{"", 0, ""},
	} {
		got := Clip(k.text, k.most)
		if got != k.want || !utf8.ValidString(got) || Columns(got) > max(k.most, 1) {
			t.Errorf("Clip(%q, %d) = %q, want %q", k.text, k.most, got, k.want)
		}
	}
}
