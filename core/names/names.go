// Package names says what the parts of a circuit are called: boxes, cables, cores, devices, screws, breakers. The words are
// those of the circuit's practice. An id of the file is never a name: a part without a name is called by what it is and
// where it is, with a number or a letter where two are alike.
package names

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// Terms names the parts of one circuit.
type Terms struct {
	doc *circuit.Circuit
	practice.Practice
}

// For returns the terms of a circuit, in the words of its practice.
func For(c *circuit.Circuit) Terms { return Terms{c, practice.For(c)} }

// kinds are what boxes without a name are called.
var kinds = map[string]string{circuit.Switch: "switch box", circuit.Junction: "junction box", circuit.Fixture: "light", circuit.Panel: "panel"}

// Box names a box: "Foot of the dome stair". One without a name is called by its id where that is a word ("door"), else by
// its kind and number: "switch box 2".
func (s Terms) Box(id string) string {
	b := s.doc.Box(id)
	switch {
	case b == nil:
		return "a box that is not recorded"
	case !circuit.Blank(b.Name):
		return b.Name
	case isWord(b.ID):
		return b.ID
	}
	kind := kinds[b.Kind]
	if word, ok := s.Words[kind]; ok {
		kind = word
	}
	if kind == "" {
		kind = "box"
	}
	var alike []string
	for _, x := range s.doc.Boxes {
		if x.Kind == b.Kind && circuit.Blank(x.Name) && !isWord(x.ID) {
			alike = append(alike, x.ID)
		}
	}
	if len(alike) == 1 {
		return "the " + kind
	}
	return fmt.Sprintf("%s %d", kind, number(id, alike))
}

// number is the number of one of several things that are called alike, whatever their order in the record: that of its id
// where each has another one, else its place among them.
func number(id string, alike []string) int {
	by := map[string]int{}
	for _, x := range alike {
		by[figures(x)]++
	}
	if n, err := strconv.Atoi(figures(id)); err == nil && len(by) == len(alike) && by[""] == 0 {
		return n
	}
	return place(id, alike) + 1
}

// place is the place of an id among others, counted from 0: shorter ids first, so that k2 comes before k10.
func place(id string, among []string) int {
	n := 0
	for _, x := range among {
		if len(x) < len(id) || len(x) == len(id) && x < id {
			n++
		}
	}
	return n
}

// figures are the figures at the end of an id.
func figures(id string) string { return id[len(strings.TrimRight(id, "0123456789")):] }

// Label is what stands over a box in a drawing, a list or a heading: its name, without an article.
func (s Terms) Label(box string) string {
	return Capitalize(strings.TrimPrefix(s.Box(box), "the "))
}

// Where names the box that an end is in: of a screw that of its device.
func (s Terms) Where(e circuit.End) string {
	if d := s.doc.Device(e.Owner); d != nil {
		return s.Box(d.Box)
	}
	return s.Box(e.Box)
}

// isWord reports whether an id reads as a word that a person chose, and not as a kind of box.
func isWord(id string) bool {
	return !slices.Contains([]string{"panel", "light", "lamp", "fixture", "switch", "junction"}, id) && len(id) > 3 && !strings.ContainsFunc(id, func(r rune) bool { return !unicode.IsLetter(r) && r != '-' })
}

// Cable names a cable by where it runs: "the cable between Foot and Head".
func (s Terms) Cable(id string) string {
	k := s.doc.Cable(id)
	if k == nil {
		return "a cable that is not recorded"
	}
	letter := s.letter(k)
	switch {
	case k.Ends[0] == nil:
		return "the untraced cable" + letter + " at " + s.Box(*k.Ends[1])
	case k.Ends[1] == nil:
		return "the untraced cable" + letter + " at " + s.Box(*k.Ends[0])
	case letter != "":
		return "cable" + letter + " between " + s.Box(*k.Ends[0]) + " and " + s.Box(*k.Ends[1])
	}
	return "the cable between " + s.Box(*k.Ends[0]) + " and " + s.Box(*k.Ends[1])
}

// letter tells apart cables that run between the same boxes, or whose far end is not known: " A", " B". It is "" for one by
// itself.
func (s Terms) letter(k *circuit.Cable) string {
	var alike []string
	for i := range s.doc.Cables {
		x := &s.doc.Cables[i]
		if k.Stub() != x.Stub() || !slices.ContainsFunc(s.doc.Boxes, func(b circuit.Box) bool { return k.In(b.ID) && x.In(b.ID) }) {
			continue
		}
		if a, b := k.Ends[0], k.Ends[1]; !k.Stub() && !(x.In(*a) && x.In(*b)) {
			continue
		}
		alike = append(alike, x.ID)
	}
	if len(alike) < 2 {
		return ""
	}
	return " " + lettered(place(k.ID, alike))
}

// Letter is the letter that tells a cable from others between the same boxes, "" for one by itself.
func (s Terms) Letter(cable string) string {
	if k := s.doc.Cable(cable); k != nil {
		return strings.TrimSpace(s.letter(k))
	}
	return ""
}

// lettered counts by letters: A to Z, then A2 to Z2.
func lettered(n int) string {
	text := string(rune('A' + n%26))
	if n >= 26 {
		text += fmt.Sprint(n/26 + 1)
	}
	return text
}

// To names a cable as it is seen from one of its boxes: "the cable to Head", "cable B to Head", "untraced cable A".
func (s Terms) To(id, box string) string {
	k := s.doc.Cable(id)
	if k == nil {
		return "a cable that is not recorded"
	}
	letter := s.letter(k)
	far, known := k.Other(box)
	switch {
	case !known && letter == "":
		return "the untraced cable"
	case !known:
		return "untraced cable" + letter
	case letter == "":
		return "the cable to " + s.Box(far)
	}
	return "cable" + letter + " to " + s.Box(far)
}

// Towards says where a cable goes, after its core or its picture: "to Head", "cable B to Head", "untraced cable".
func (s Terms) Towards(id, box string) string {
	return strings.TrimPrefix(strings.TrimPrefix(s.To(id, box), "the cable "), "the ")
}

// Far names the box at the far end of a cable, with the letter of the cable where others go there too: "Head, cable B". It
// is "" where that is not known.
func (s Terms) Far(id, box string) string {
	k := s.doc.Cable(id)
	if k == nil {
		return ""
	}
	far, known := k.Other(box)
	if !known {
		return ""
	}
	if letter := s.letter(k); letter != "" {
		return s.Box(far) + ", cable" + letter
	}
	return s.Box(far)
}

// Core names a core at an end, as one says it in front of its box: "black to Head".
func (s Terms) Core(e circuit.End) string {
	k := s.doc.Cable(e.Owner)
	if k == nil {
		return e.Part
	}
	letter := s.letter(k)
	far, known := k.Other(e.Box)
	switch {
	case !known && letter == "":
		return e.Part + " of the untraced cable"
	case !known:
		return e.Part + " of untraced cable" + letter
	case letter == "":
		return e.Part + " to " + s.Box(far)
	}
	return e.Part + " of cable" + letter + " to " + s.Box(far)
}

// End names an end wherever one stands: "black to Head at Foot", "the common screw of the 3-way switch at Foot".
func (s Terms) End(e circuit.End) string {
	if s.doc.Cable(e.Owner) != nil {
		return s.Core(e) + " at " + s.Box(e.Box)
	}
	return s.Screw(e.Ref) + " of " + s.Device(e.Owner)
}

// Ends names up to three ends and counts the rest.
func (s Terms) Ends(ends []circuit.End) string {
	var parts []string
	for i, e := range ends {
		if i == 3 {
			parts = append(parts, fmt.Sprintf("%d more", len(ends)-3))
			break
		}
		parts = append(parts, s.End(e))
	}
	return strings.Join(parts, "; ")
}

// Screw names a terminal without its device: "the common screw"; of a lamp the contact of its socket.
func (s Terms) Screw(r circuit.Ref) string {
	if d := s.doc.Device(r.Owner); d != nil && d.Type == circuit.TypeLamp {
		switch r.Part {
		case "l":
			return "the centre contact"
		case "n":
			return "the shell"
		}
	}
	if part := s.Part(r.Part); !strings.HasPrefix(part, "screw ") { // one whose screws have numbers
		return "the " + part + " screw"
	}
	return s.Part(r.Part)
}

// Part is the word for a terminal as it stands beside its screw: the practice's, or what is printed on the device.
func (s Terms) Part(name string) string {
	word := s.Word(name)
	if len(word) == 2 && word[1] >= '0' && word[1] <= '9' {
		word = strings.ToUpper(word)
	}
	return word
}

// ScrewHere names a terminal in front of its box: "the common screw of the 3-way switch".
func (s Terms) ScrewHere(r circuit.Ref) string { return s.Screw(r) + " of " + s.Here(r.Owner) }

// Title names a device in a drawing of its box: without an article, and with a capital letter.
func (s Terms) Title(device string) string {
	return Capitalize(strings.TrimPrefix(s.Here(device), "the "))
}

// ShortScrew names a terminal in a row of a table: "common of 3-way switch".
func (s Terms) ShortScrew(r circuit.Ref) string {
	return s.bareScrew(r) + " of " + strings.TrimPrefix(s.Here(r.Owner), "the ")
}

// bareScrew is a terminal alone: "common", "centre contact".
func (s Terms) bareScrew(r circuit.Ref) string {
	return strings.TrimSuffix(strings.TrimPrefix(s.Screw(r), "the "), " screw")
}

// Bare names a device as in a list: without an article, and with a capital letter.
func (s Terms) Bare(device string) string {
	return Capitalize(strings.TrimPrefix(s.Device(device), "the "))
}

// called is what a device is called in its box, and whether that is a name of its own. Several that would be called alike are
// numbered.
func (s Terms) called(d *circuit.Device) (name string, own bool) {
	isGang := func(x *circuit.Device) bool { // in the case of another, which is none itself
		of := s.doc.Device(x.Case)
		return of != nil && of.Case == ""
	}
	if isGang(d) {
		return s.gang(d), true
	}
	of := func(x *circuit.Device) (string, bool) {
		switch {
		case !circuit.Blank(x.Name):
			return x.Name, true
		case x.Type == circuit.TypeSmart && x.Found():
			return s.Word(x.Model), false
		case x.Type == circuit.TypeSmart:
			return "smart device", false
		case x.Type == circuit.TypeSupply:
			return s.Breaker(x.ID), true
		}
		return s.Word(x.Type), false
	}
	name, own = of(d)
	var alike []string
	for i := range s.doc.Devices {
		x := &s.doc.Devices[i]
		if other, _ := of(x); x.Box != d.Box || other != name || isGang(x) {
			continue
		}
		alike = append(alike, x.ID)
	}
	if len(alike) > 1 {
		name = fmt.Sprintf("%s %d", name, place(d.ID, alike)+1)
	}
	return name, own
}

// gang names a further gang in the case of another device: "gang 2 of the smart device".
func (s Terms) gang(d *circuit.Device) string {
	var further []string
	for _, x := range s.doc.Devices {
		if x.Case == d.Case {
			further = append(further, x.ID)
		}
	}
	return fmt.Sprintf("gang %d of %s", place(d.ID, further)+2, s.Here(d.Case))
}

// Here names a device as one does in front of its box: "the 3-way switch", "dimmer 2".
func (s Terms) Here(id string) string {
	d := s.doc.Device(id)
	if d == nil {
		return "a device that is not recorded"
	}
	name, own := s.called(d)
	if first, _ := utf8.DecodeRuneInString(name); own && !unicode.IsLower(first) || strings.HasPrefix(name, "gang ") || name[len(name)-1] >= '0' && name[len(name)-1] <= '9' {
		return name
	}
	return "the " + name
}

// Device names a device wherever one stands: by its own name, with the box where others are called so too; else by what it is
// and where: "the 3-way switch at Foot".
func (s Terms) Device(id string) string {
	d := s.doc.Device(id)
	if d == nil {
		return "a device that is not recorded"
	}
	here := s.Here(id)
	_, own := s.called(d)
	if s.doc.Box(d.Box) == nil || own && !slices.ContainsFunc(s.doc.Devices, func(x circuit.Device) bool { return x.ID != id && x.Name == d.Name && x.Box != d.Box }) {
		return here
	}
	return here + " at " + s.Box(d.Box)
}

// Short names a device in as few words as tell it: by its own name, else by its box where it is the only one of its type
// there: "Foot", "3-way switch 2 at Foot".
func (s Terms) Short(id string) string {
	d := s.doc.Device(id)
	switch {
	case d == nil:
		return "a device that is not recorded"
	case !circuit.Blank(d.Name), s.doc.Box(d.Box) == nil:
		return s.Device(id)
	}
	if slices.ContainsFunc(s.doc.Devices, func(x circuit.Device) bool { return x.ID != id && x.Box == d.Box && x.Type == d.Type }) {
		return strings.TrimPrefix(s.Device(id), "the ")
	}
	return s.Box(d.Box)
}

// Place names the place at which a person works a device: its box, with the device where several smart ones are in it.
func (s Terms) Place(id string) string {
	d := s.doc.Device(id)
	if d == nil || s.doc.Box(d.Box) == nil {
		return s.Short(id)
	}
	if slices.ContainsFunc(s.doc.Devices, func(x circuit.Device) bool { return x.ID != id && x.Box == d.Box && x.Type == circuit.TypeSmart }) {
		return s.Box(d.Box) + ", " + strings.TrimPrefix(s.Here(id), "the ")
	}
	return s.Box(d.Box)
}
