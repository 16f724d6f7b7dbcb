package wire_test

import (
	"encoding/json"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/wire"
)

type inner struct {
	List []int `json:"list"`
}

type sample struct {
	List    []string         `json:"list"`
	Left    []string         `json:"left,omitempty"`
	Zero    []string         `json:"zero,omitzero"`
	Deep    []inner          `json:"deep"`
	Pointer *inner           `json:"pointer"`
	None    *inner           `json:"none"`
	Map     map[string]any   `json:"map"`
	Of      map[string][]int `json:"of"`
	Pair    [2][]int         `json:"pair"`
	Any     any              `json:"any"`
	Raw     json.RawMessage  `json:"raw"`
	Bytes   []byte           `json:"bytes"`
	At      time.Time        `json:"at"`
	End     circuit.End      `json:"end"`
	Hidden  []int            `json:"-"`
	private []int
}

// TestWhole: nil lists and maps are written as empty ones at any depth, what JSON leaves out stays out,
// and the value that was handed in is as it was.
func TestWhole(t *testing.T) {
	in := sample{
		Deep: []inner{{}, {List: []int{1}}}, Pointer: &inner{}, Of: map[string][]int{"a": nil, "b": {1}},
		Any: &inner{}, private: nil,
	}
	out, err := json.Marshal(wire.Whole(in))
	if err != nil {
		t.Fatal(err)
	}
	want := `{"list":[],"deep":[{"list":[]},{"list":[1]}],"pointer":{"list":[]},"none":null,"map":{},"of":{"a":[],"b":[1]},"pair":[[],[]],"any":{"list":[]},"raw":null,"bytes":null,"at":"0001-01-01T00:00:00Z","end":"."}`
	if string(out) != want {
		t.Errorf("got  %s\nwant %s", out, want)
	}
	if in.List != nil || in.Deep[0].List != nil || in.Pointer.List != nil || in.Of["a"] != nil || in.Any.(*inner).List != nil {
		t.Error("the value that was handed in was changed")
	}
}

// TestWholeShares: where nothing is missing, nothing is copied.
func TestWholeShares(t *testing.T) {
	p := &inner{List: []int{1}}
	if wire.Whole(p) != p {
		t.Error("a whole value was copied")
	}
	if got := wire.Whole[any](nil); got != nil {
		t.Errorf("nothing became %v", got)
	}
}
