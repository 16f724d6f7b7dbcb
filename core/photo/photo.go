// Package photo makes a photograph fit to be kept with a job.
//
// A picture from a phone carries the place and time where it was taken, and
// whatever else its maker put there. [Clean] decodes the picture, turns it
// upright, makes it no larger than a screen needs and writes it anew: what is
// not picture is gone by construction, not by a list of what to strip.
package photo

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // a format that is taken

	_ "golang.org/x/image/webp" // a format that is taken

	"ambivia/core/limits"
)

// Limits for pictures from outside.
const (
	MaxBytes     = 24 << 20   // size of the file
	maxPixels    = 60_000_000 // width times height, known before anything is decoded
	side         = 2048       // longest side of what is kept
	smallSide    = 400        // and of what a page shows among others
	quality      = 85         // of the JPEG that is kept
	leastQuality = 25         // at which any picture of that side fits [limits.PhotoBytes]
)

// Photo is a picture that was made anew: a JPEG file without any metadata.
type Photo struct {
	JPEG          []byte
	Width, Height int
}

// Error says in one line why a file is not kept as a photograph. Code is
// "photo-size", "photo-type" or "photo-broken".
type Error struct{ Code, Text string }

func (e *Error) Error() string { return e.Text }

// Clean makes a photograph of a file. JPEG, PNG and WebP are taken.
func Clean(data []byte) (*Photo, error) {
	config, format, err := measure(data)
	if err != nil {
		return nil, err
	}
	if format == "jpeg" && config.Width <= side && config.Height <= side && len(data) <= limits.PhotoBytes && bare(data) {
		if _, err := jpeg.Decode(bytes.NewReader(data)); err == nil {
			return &Photo{data, config.Width, config.Height}, nil // as Clean itself wrote it
		}
	}
	decoded, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, &Error{"photo-broken", "the picture is damaged and cannot be read to its end"}
	}
	picture := upright(fitted(decoded, side), orientation(data, format))
	size := picture.Bounds().Size()
	for q := quality; ; q -= 15 { // few pictures are so busy that they are too large at first
		var b bytes.Buffer
		if err := jpeg.Encode(&b, picture, &jpeg.Options{Quality: q}); err != nil {
			return nil, err
		}
		if b.Len() <= limits.PhotoBytes || q <= leastQuality {
			return &Photo{b.Bytes(), size.X, size.Y}, nil
		}
	}
}

// Small makes a small picture of a photograph that [Clean] made, for a page that shows many: no side
// is longer than 400 pixels. One that is no larger comes back as it is.
func Small(photograph []byte) ([]byte, error) {
	decoded, err := jpeg.Decode(bytes.NewReader(photograph))
	if err != nil {
		return nil, &Error{"photo-broken", "the photograph is damaged and cannot be shown"}
	}
	if size := decoded.Bounds().Size(); size.X <= smallSide && size.Y <= smallSide {
		return photograph, nil
	}
	var b bytes.Buffer
	err = jpeg.Encode(&b, fitted(decoded, smallSide), &jpeg.Options{Quality: quality})
	return b.Bytes(), err
}

// measure refuses what is no picture, or too large, before it is decoded.
func measure(data []byte) (image.Config, string, error) {
	if len(data) > MaxBytes {
		return image.Config{}, "", &Error{"photo-size", fmt.Sprintf("the picture is larger than %d MiB", MaxBytes>>20)}
	}
	config, format, err := image.DecodeConfig(bytes.NewReader(data))
	switch {
	case err != nil || format != "jpeg" && format != "png" && format != "webp":
		return config, "", &Error{"photo-type", "this is no photograph that can be kept; JPEG, PNG and WebP are taken"}
	case config.Width*config.Height > maxPixels:
		return config, "", &Error{"photo-size", fmt.Sprintf("the picture has %d × %d points, more than %d million", config.Width, config.Height, maxPixels/1_000_000)}
	}
	return config, format, nil
}

// bare reports whether a JPEG file holds nothing but what a decoder needs: no
// segment of an application and no comment before its picture, nothing behind.
func bare(data []byte) bool {
	const tables, huffman, baseline, scan = 0xDB, 0xC4, 0xC0, 0xDA
	at := 2
	for at+4 <= len(data) && data[at] == 0xFF {
		switch data[at+1] {
		case scan:
			return bytes.HasSuffix(data, []byte{0xFF, 0xD9}) && bytes.Count(data[at:], []byte{0xFF, 0xD9}) == 1
		case tables, huffman, baseline:
			at += 2 + int(binary.BigEndian.Uint16(data[at+2:]))
		default:
			return false
		}
	}
	return false
}
