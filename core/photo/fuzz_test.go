package photo

import (
	"bytes"
	"errors"
	"image"
	"image/jpeg"
	"image/png"
	"testing"

	"ambivia/core/limits"
)

// FuzzClean: whatever bytes claim to be a picture, they become one that the program keeps, or are
// refused by a code.
func FuzzClean(f *testing.F) {
	for _, encode := range []func(*bytes.Buffer, image.Image) error{
		func(b *bytes.Buffer, m image.Image) error { return jpeg.Encode(b, m, nil) },
		func(b *bytes.Buffer, m image.Image) error { return png.Encode(b, m) },
	} {
		var b bytes.Buffer
		if err := encode(&b, image.NewGray(image.Rect(0, 0, 8, 6))); err != nil {
			f.Fatal(err)
		}
		f.Add(b.Bytes())
	}
	f.Add([]byte("RIFF\x00\x00\x00\x00WEBPVP8 "))
	f.Fuzz(func(t *testing.T, data []byte) {
		if config, _, err := measure(data); err == nil && config.Width*config.Height > 4_000_000 {
			t.Skip("decoding it takes longer than a fuzzer should wait")
		}
		p, err := Clean(data)
		if err != nil {
			var e *Error
			if !errors.As(err, &e) {
				t.Fatalf("refused with %v", err)
			}
			return
		}
		if len(p.JPEG) > limits.PhotoBytes || p.Width > side || p.Height > side {
			t.Errorf("kept with %d bytes, %d × %d", len(p.JPEG), p.Width, p.Height)
		}
		if again, err := Clean(p.JPEG); err != nil || !bytes.Equal(again.JPEG, p.JPEG) {
			t.Errorf("kept once, it is not kept again as it is: %v", err)
		}
	})
}
