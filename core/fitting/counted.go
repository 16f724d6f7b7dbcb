package fitting

// Counted are the entries of a log that count: those that were not taken back, without the taking back
// itself. What made things less safe stays true though its entry be taken back: [Read] sees to that.
func Counted(log []Entry) []Entry {
	undone := map[int]bool{}
	for _, e := range log {
		if e.Kind == Undo {
			undone[e.Of] = true
		}
	}
	out := make([]Entry, 0, len(log))
	for _, e := range log {
		if e.Kind != Undo && !undone[e.Number] {
			out = append(out, e)
		}
	}
	return out
}
