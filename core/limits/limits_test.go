package limits

import (
	"errors"
	"strings"
	"testing"
)

// TestLimits: what is just within a limit is taken, and one more is refused with its code; letters
// are counted in any script.
func TestLimits(t *testing.T) {
	name := func(n int) error { _, err := Name(strings.Repeat("楼", n)); return err }
	for _, k := range []struct {
		what string
		err  error
		code string
	}{
		{"a name", name(NameLetters), ""}, {"a long name", name(NameLetters + 1), "name"}, {"no name", name(0), "name"},
		{"a note", Note(strings.Repeat("ம", NoteLetters)), ""}, {"a long note", Note(strings.Repeat("ம", NoteLetters+1)), "note"}, {"a broken note", Note("\xff"), "note"},
		{"a document", Document(Revisions-1, HistoryBytes-10, 10), ""}, {"one revision more", Document(Revisions, 0, 1), "full"}, {"one byte more", Document(1, HistoryBytes-10, 11), "full"},
		{"a job", Job(JobBytes-10, 10), ""}, {"a larger job", Job(JobBytes-10, 11), "full"},
	} {
		var e *Error
		if errors.As(k.err, &e) != (k.code != "") || e != nil && e.Code != k.code {
			t.Errorf("%s: %v, want %q", k.what, k.err, k.code)
		}
	}
	if got := []rune(Summary(strings.Repeat("ш", SummaryLetters+5))); len(got) != SummaryLetters || got[len(got)-1] != '…' {
		t.Errorf("shortened to %d letters", len(got))
	}
	if got := By("  Ada\xff " + strings.Repeat("x", 300)); !strings.HasPrefix(got, "Ada") || len([]rune(got)) != NameLetters {
		t.Errorf("By: %q", got)
	}
}
