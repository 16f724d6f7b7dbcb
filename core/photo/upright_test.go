package photo

import (
	"image"
	"image/color"
	"testing"
)

// TestUpright: in each of the eight ways in which a camera may have been held, the corner that a
// person saw at the upper left comes to stand there.
func TestUpright(t *testing.T) {
	const w, h = 3, 2
	for n, corner := range map[int]image.Point{1: {0, 0}, 2: {w - 1, 0}, 3: {w - 1, h - 1}, 4: {0, h - 1}, 5: {0, 0}, 6: {0, h - 1}, 7: {w - 1, h - 1}, 8: {w - 1, 0}} {
		m := image.NewRGBA(image.Rect(0, 0, w, h))
		m.SetRGBA(corner.X, corner.Y, color.RGBA{255, 0, 0, 255})
		got := upright(m, n)
		size := image.Pt(w, h)
		if n > 4 {
			size = image.Pt(h, w)
		}
		if got.Rect.Size() != size || got.RGBAAt(0, 0).R != 255 {
			t.Errorf("orientation %d: %v, %v at the upper left", n, got.Rect, got.RGBAAt(0, 0))
		}
	}
}
