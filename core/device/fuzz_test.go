package device

import (
	"errors"
	"strings"
	"testing"
)

// FuzzRead: whatever bytes a file of devices holds, it is read or refused in one line; what was read
// is written and read again.
func FuzzRead(f *testing.F) {
	f.Add([]byte(`{"format": "ambivia-devices/1", "devices": []}`))
	all := Catalogue()
	for _, d := range all[:6] {
		data, err := Write([]Device{d})
		if err != nil {
			f.Fatal(err)
		}
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		list, err := Read(data)
		if err != nil {
			var e *Error
			if !errors.As(err, &e) || strings.Contains(err.Error(), "\n") {
				t.Fatalf("refused with %.400q", err)
			}
			return
		}
		out, err := Write(list)
		if err != nil {
			t.Fatal(err)
		}
		if again, err := Read(out); err != nil || len(again) != len(list) {
			t.Fatalf("%d devices of %d come back, %v", len(again), len(list), err)
		}
	})
}
