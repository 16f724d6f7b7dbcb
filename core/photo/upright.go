package photo

import (
	"bytes"
	"image"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
)

// fitted is a picture no side of which is longer, its sides in the same ratio.
func fitted(m image.Image, side int) *image.RGBA {
	size := m.Bounds().Size()
	w, h := size.X, size.Y
	if w > side || h > side {
		if w > h {
			w, h = side, max(1, h*side/w)
		} else {
			w, h = max(1, w*side/h), side
		}
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	if w == size.X && h == size.Y {
		draw.Draw(out, out.Bounds(), m, m.Bounds().Min, draw.Src)
	} else {
		draw.CatmullRom.Scale(out, out.Bounds(), m, m.Bounds(), draw.Src, nil)
	}
	return out
}

// asTaken is the orientation of a picture that stands upright as it is.
const asTaken = 1

// orientation is how a camera says that it was held, 1 to 8 as the Exif standard numbers it.
func orientation(data []byte, format string) int {
	of, known := map[string]imagemeta.ImageFormat{"jpeg": imagemeta.JPEG, "png": imagemeta.PNG, "webp": imagemeta.WebP}[format]
	if !known {
		return asTaken
	}
	found := asTaken
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(data), ImageFormat: of, Sources: imagemeta.EXIF,
		ShouldHandleTag: func(tag imagemeta.TagInfo) bool { return tag.Tag == "Orientation" },
		HandleTag: func(tag imagemeta.TagInfo) error {
			if n, ok := tag.Value.(uint16); ok && n >= 1 && n <= 8 {
				found = int(n)
			}
			return imagemeta.ErrStopWalking
		},
	})
	if err != nil {
		return asTaken // what a camera wrote beside the picture is no reason to refuse it
	}
	return found
}

// upright turns and mirrors a picture as its orientation asks.
func upright(m *image.RGBA, orientation int) *image.RGBA {
	w, h := m.Rect.Dx(), m.Rect.Dy()
	// from says which point of the picture as taken comes to a point of the one that stands upright
	from := map[int]func(x, y int) (int, int){
		2: func(x, y int) (int, int) { return w - 1 - x, y },
		3: func(x, y int) (int, int) { return w - 1 - x, h - 1 - y },
		4: func(x, y int) (int, int) { return x, h - 1 - y },
		5: func(x, y int) (int, int) { return y, x },
		6: func(x, y int) (int, int) { return y, h - 1 - x },
		7: func(x, y int) (int, int) { return w - 1 - y, h - 1 - x },
		8: func(x, y int) (int, int) { return w - 1 - y, x },
	}[orientation]
	if from == nil {
		return m
	}
	size := image.Rect(0, 0, w, h)
	if orientation > 4 {
		size = image.Rect(0, 0, h, w)
	}
	out := image.NewRGBA(size)
	for y := range size.Dy() {
		for x := range size.Dx() {
			sx, sy := from(x, y)
			copy(out.Pix[out.PixOffset(x, y):][:4], m.Pix[m.PixOffset(sx, sy):][:4])
		}
	}
	return out
}
