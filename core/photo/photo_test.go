package photo_test

import (
	"bytes"
	"errors"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"

	"ambivia/core/photo"
)

// picture is a grey picture whose upper left corner is white.
func picture(w, h int) image.Image {
	m := image.NewGray(image.Rect(0, 0, w, h))
	for y := range h / 3 {
		for x := range w / 3 {
			m.SetGray(x, y, color.Gray{Y: 255})
		}
	}
	return m
}

func jpegOf(t *testing.T, m image.Image) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := jpeg.Encode(&b, m, nil); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// withSegment puts a segment behind the first marker of a JPEG file, as cameras
// put place and time there.
func withSegment(file []byte, marker byte, body string) []byte {
	n := len(body) + 2
	head := append([]byte{0xFF, 0xD8, 0xFF, marker, byte(n >> 8), byte(n)}, body...)
	return append(head, file[2:]...)
}

// turned says in a camera's own words that the picture is to be turned by a
// quarter, and where it was taken.
const turned = "Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00\x06\x00\x00\x00\x00\x00\x00 latitude 51.5"

func TestClean(t *testing.T) {
	plain := jpegOf(t, picture(90, 60))
	var asPNG bytes.Buffer
	if err := png.Encode(&asPNG, picture(90, 60)); err != nil {
		t.Fatal(err)
	}
	cases := []struct {
		name string
		data []byte
		w, h int
	}{
		{"as it is kept", plain, 90, 60},
		{"png", asPNG.Bytes(), 90, 60},
		{"place and turn", withSegment(plain, 0xE1, turned), 60, 90},
		{"comment", withSegment(plain, 0xFE, "latitude 51.5"), 90, 60},
		{"something behind", append(bytes.Clone(plain), "latitude 51.5\xFF\xD9"...), 90, 60},
		{"large", jpegOf(t, picture(4000, 2000)), 2048, 1024},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			p, err := photo.Clean(c.data)
			if err != nil {
				t.Fatal(err)
			}
			if p.Width != c.w || p.Height != c.h || bytes.Contains(p.JPEG, []byte("latitude")) || bytes.Contains(p.JPEG, []byte("Exif")) {
				t.Errorf("%d × %d, %d bytes", p.Width, p.Height, len(p.JPEG))
			}
			again, err := photo.Clean(p.JPEG)
			if err != nil || !bytes.Equal(again.JPEG, p.JPEG) {
				t.Errorf("what was kept once is changed when it is read again (%v)", err)
			}
			m, err := jpeg.Decode(bytes.NewReader(p.JPEG))
			if err != nil {
				t.Fatal(err)
			}
			x, y := c.w/8, c.h/8
			if c.name == "place and turn" { // a quarter to the right: the corner is on the right now
				x = c.w - x
			}
			if r, _, _, _ := m.At(x, y).RGBA(); r < 0xE000 {
				t.Errorf("the white corner is not where it was (%x)", r)
			}
		})
	}
}

func TestRefused(t *testing.T) {
	var asGIF bytes.Buffer
	if err := gif.Encode(&asGIF, picture(9, 9), nil); err != nil {
		t.Fatal(err)
	}
	huge := jpegOf(t, picture(16, 16))
	at := bytes.Index(huge, []byte{0xFF, 0xC0})
	copy(huge[at+5:], []byte{0xFF, 0xFF, 0xFF, 0xFF}) // claims 65,535 points each way
	plain := jpegOf(t, picture(90, 60))
	cases := []struct {
		name, code string
		data       []byte
	}{
		{"nothing", "photo-type", nil},
		{"text", "photo-type", []byte("<svg onload=alert(1)>")},
		{"another kind", "photo-type", asGIF.Bytes()},
		{"more points than memory", "photo-size", huge},
		{"a file too large", "photo-size", make([]byte, photo.MaxBytes+1)},
		{"cut off", "photo-broken", plain[:len(plain)-40]},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			_, err := photo.Clean(c.data)
			var e *photo.Error
			if !errors.As(err, &e) || e.Code != c.code || strings.Contains(e.Text, "\n") {
				t.Errorf("%v, want %s", err, c.code)
			}
		})
	}
}

// TestSmall: a large photograph is made small, its sides in the same ratio; a small one stays as it is;
// what is no photograph is refused.
func TestSmall(t *testing.T) {
	for _, c := range []struct{ w, h, smallW, smallH int }{{2048, 1024, 400, 200}, {300, 1200, 100, 400}, {400, 10, 400, 10}} {
		was := jpegOf(t, picture(c.w, c.h))
		now, err := photo.Small(was)
		if err != nil {
			t.Fatal(err)
		}
		size, err := jpeg.DecodeConfig(bytes.NewReader(now))
		if err != nil || size.Width != c.smallW || size.Height != c.smallH {
			t.Errorf("%d × %d becomes %d × %d, %v", c.w, c.h, size.Width, size.Height, err)
		}
		if c.w == c.smallW && !bytes.Equal(was, now) {
			t.Errorf("%d × %d was made anew", c.w, c.h)
		}
	}
	if _, err := photo.Small([]byte("no photograph")); err == nil {
		t.Error("what is no photograph is made small")
	}
}
