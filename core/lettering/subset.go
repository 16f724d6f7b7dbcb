package lettering

import (
	"bytes"
	"encoding/binary"
	"maps"
	"slices"

	"golang.org/x/image/font/sfnt"
)

// kept are the tables of a font that a reader of a drawing needs. Hints and kerning are left out, and what each letter is
// called; a reader refuses a font without any of these.
var kept = []string{"OS/2", "cmap", "glyf", "head", "hhea", "hmtx", "loca", "maxp", "name", "post"}

// Subset is a TrueType font with the outlines of those letters alone that stand in some texts; every letter keeps its number and
// its width, so that nothing else of the font changes. A font that cannot be read so is returned whole. No module that does this
// was to be had here.
func Subset(font []byte, texts ...string) []byte {
	tables := tablesOf(font)
	for _, name := range kept {
		if tables[name] == nil && name != "OS/2" {
			return font
		}
	}
	face, err := sfnt.Parse(font)
	if err != nil {
		return font
	}
	used := map[int]bool{0: true}
	var buffer sfnt.Buffer
	for _, text := range texts {
		for _, r := range text {
			if g, err := face.GlyphIndex(&buffer, r); err == nil {
				used[int(g)] = true
			}
		}
	}
	g := glyphs{glyf: tables["glyf"], loca: tables["loca"], long: len(tables["head"]) > 51 && tables["head"][51] == 1, n: face.NumGlyphs()}
	glyf, loca, ok := g.only(used)
	if !ok {
		return font
	}
	tables["glyf"], tables["loca"] = glyf, loca
	if post := tables["post"]; len(post) >= 32 {
		tables["post"] = append([]byte{0, 3, 0, 0}, post[4:32]...) // version 3.0: letters have no names
	}
	return written(tables)
}

// tablesOf lists the tables of a font, nil where it is none.
func tablesOf(font []byte) map[string][]byte {
	if len(font) < 12 {
		return nil
	}
	out := map[string][]byte{}
	for i := range int(binary.BigEndian.Uint16(font[4:])) {
		entry := 12 + 16*i
		if entry+16 > len(font) {
			return nil
		}
		from, size := binary.BigEndian.Uint32(font[entry+8:]), binary.BigEndian.Uint32(font[entry+12:])
		if uint64(from)+uint64(size) > uint64(len(font)) {
			return nil
		}
		out[string(font[entry:entry+4])] = font[from : from+size]
	}
	return out
}

// glyphs are the outlines of a font, and where each of them is.
type glyphs struct {
	glyf, loca []byte
	long       bool
	n          int
}

// outline is that of one letter; ok false where the font says something impossible.
func (g glyphs) outline(i int) (data []byte, ok bool) {
	at := func(k int) int {
		if g.long {
			return int(binary.BigEndian.Uint32(g.loca[4*k:]))
		}
		return 2 * int(binary.BigEndian.Uint16(g.loca[2*k:]))
	}
	width := 2
	if g.long {
		width = 4
	}
	if i < 0 || (i+2)*width > len(g.loca) {
		return nil, false
	}
	from, to := at(i), at(i+1)
	if from > to || to > len(g.glyf) {
		return nil, false
	}
	return g.glyf[from:to], true
}

// Flags of a part of a letter that is made of others.
const (
	wordArgs, oneScale, moreParts, twoScales, fourScales = 1, 8, 32, 64, 128
)

// parts are the letters that one is made of; none for one with an outline of its own.
func parts(data []byte) []int {
	if len(data) < 10 || int16(binary.BigEndian.Uint16(data)) >= 0 {
		return nil
	}
	var out []int
	for at := 10; at+4 <= len(data); {
		flags := binary.BigEndian.Uint16(data[at:])
		out = append(out, int(binary.BigEndian.Uint16(data[at+2:])))
		at += 6
		if flags&wordArgs != 0 {
			at += 2
		}
		switch {
		case flags&oneScale != 0:
			at += 2
		case flags&twoScales != 0:
			at += 4
		case flags&fourScales != 0:
			at += 8
		}
		if flags&moreParts == 0 {
			break
		}
	}
	return out
}

// only are the outlines of some letters and of those that they are made of, the others empty.
func (g glyphs) only(used map[int]bool) (glyf, loca []byte, ok bool) {
	for todo := slices.Collect(maps.Keys(used)); len(todo) > 0; {
		data, ok := g.outline(todo[0])
		if !ok {
			return nil, nil, false
		}
		todo = todo[1:]
		for _, part := range parts(data) {
			if !used[part] {
				used[part] = true
				todo = append(todo, part)
			}
		}
	}
	put := func() {
		if g.long {
			loca = binary.BigEndian.AppendUint32(loca, uint32(len(glyf)))
		} else {
			loca = binary.BigEndian.AppendUint16(loca, uint16(len(glyf)/2))
		}
	}
	for i := range g.n {
		put()
		if used[i] {
			data, _ := g.outline(i)
			glyf = append(glyf, data...)
			glyf = append(glyf, make([]byte, (4-len(glyf)%4)%4)...)
		}
	}
	put()
	return glyf, loca, true
}

// written is a font of some tables.
func written(tables map[string][]byte) []byte {
	var names []string
	for _, name := range kept {
		if tables[name] != nil {
			names = append(names, name)
		}
	}
	var head, body bytes.Buffer
	exponent := 0
	for 2<<exponent <= len(names) {
		exponent++
	}
	head.Write([]byte{0, 1, 0, 0}) // version 1.0
	for _, v := range []int{len(names), 16 << exponent, exponent, 16*len(names) - 16<<exponent} {
		_ = binary.Write(&head, binary.BigEndian, uint16(v))
	}
	for _, name := range names {
		data := tables[name]
		sum := uint32(0)
		padded := append(slices.Clone(data), make([]byte, (4-len(data)%4)%4)...)
		for i := 0; i < len(padded); i += 4 {
			sum += binary.BigEndian.Uint32(padded[i:])
		}
		head.WriteString(name)
		for _, v := range []uint32{sum, uint32(12 + 16*len(names) + body.Len()), uint32(len(data))} {
			_ = binary.Write(&head, binary.BigEndian, v)
		}
		body.Write(padded)
	}
	return append(head.Bytes(), body.Bytes()...)
}
