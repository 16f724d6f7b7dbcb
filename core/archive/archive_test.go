package archive_test

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"ambivia/core/archive"
	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// job is a job of two circuits, one with a chosen plan that was undone, and a
// photograph.
func job(t *testing.T) *archive.Job {
	t.Helper()
	at := time.Date(2026, 11, 24, 9, 30, 0, 0, time.UTC)
	first, second := circuittest.Chain(2), circuittest.Chain(3)
	own, _ := device.NewLibrary(nil).Get("sensing-either")
	own.ID = "mill-sensor"
	wanted := retrofit.Request{Library: device.NewLibrary([]device.Device{own}), Wishes: retrofit.Wishes{Wishes: map[string]string{retrofit.BudgetWish: retrofit.Nice}, Budget: 70}}
	var offer *retrofit.Option
	for _, o := range retrofit.Plan(first).Options {
		if o.Feasible && offer == nil {
			offer = procedure.Offer(inspect.Compile(first), wanted, o.ID)
		}
	}
	if offer == nil {
		t.Fatal("nothing is offered for a chain of two")
	}
	var b bytes.Buffer
	if err := jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, 32, 24)), nil); err != nil {
		t.Fatal(err)
	}
	return &archive.Job{Name: "Tide mill, stairs", Devices: []device.Device{own}, Circuits: []archive.Circuit{
		{Head: 1, Wishes: &wanted.Wishes, Revisions: []archive.Revision{
			{Number: 1, Next: 3, Summary: "Circuit made", Created: at, Document: written(t, first)},
			{Number: 2, Parent: 1, Summary: "Chosen", Created: at, Document: written(t, first), Choice: offer.ID},
			{Number: 3, Parent: 1, Summary: "Chosen again", Created: at, Document: written(t, first), Choice: offer.ID},
		}, Photos: []archive.Photo{{Box: "b1", Note: "before", Created: at, Width: 32, Height: 24, Picture: func() ([]byte, error) { return b.Bytes(), nil }}}},
		{Head: 1, Revisions: []archive.Revision{{Number: 1, Summary: "Circuit made", Created: at, Document: written(t, second)}}},
	}}
}

func written(t *testing.T, c *circuit.Circuit) []byte {
	t.Helper()
	data, err := circuit.Encode(c)
	if err != nil {
		t.Fatal(err)
	}
	return data
}

func read(data []byte) (*archive.Job, error) {
	return archive.Read(bytes.NewReader(data), int64(len(data)), nil)
}

// plain is a job with its pictures instead of what reads them, so that two can be compared.
func plain(t *testing.T, j *archive.Job) (*archive.Job, [][]byte) {
	t.Helper()
	out := *j
	out.Circuits = slices.Clone(j.Circuits)
	var pictures [][]byte
	for i := range out.Circuits {
		out.Circuits[i].Photos = slices.Clone(out.Circuits[i].Photos)
		for n := range out.Circuits[i].Photos {
			jpeg, err := out.Circuits[i].Photos[n].Picture()
			if err != nil {
				t.Fatal(err)
			}
			pictures = append(pictures, jpeg)
			out.Circuits[i].Photos[n].Picture = nil
		}
	}
	return &out, pictures
}

func pack(t *testing.T, j *archive.Job) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := archive.Write(&b, j); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// TestRoundTrip: what is written is read again, with history, plan and picture.
func TestRoundTrip(t *testing.T) {
	was := job(t)
	now, err := read(pack(t, was))
	if err != nil {
		t.Fatal(err)
	}
	got, pictures := plain(t, now)
	want, before := plain(t, was)
	if !reflect.DeepEqual(got, want) || !reflect.DeepEqual(pictures, before) {
		t.Errorf("a job comes back as another one:\n%+v\n%+v", got, want)
	}
}

// entry is one file of an archive that a hostile hand made.
type entry struct {
	name string
	data []byte
	mode uint32
}

// remake takes an archive apart, lets f change its files, and packs it again.
func remake(t *testing.T, data []byte, f func([]entry) []entry) []byte {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	var list []entry
	for _, file := range z.File {
		r, err := file.Open()
		if err != nil {
			t.Fatal(err)
		}
		body, err := io.ReadAll(r)
		if err != nil {
			t.Fatal(err)
		}
		list = append(list, entry{file.Name, body, 0})
	}
	var b bytes.Buffer
	w := zip.NewWriter(&b)
	for _, e := range f(list) {
		header := &zip.FileHeader{Name: e.name, Method: zip.Deflate}
		if e.mode != 0 {
			header.CreatorVersion, header.ExternalAttrs = 3<<8, e.mode<<16
		}
		part, err := w.CreateHeader(header)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := part.Write(e.data); err != nil {
			t.Fatal(err)
		}
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// TestHostile: every archive from a hostile hand is refused in one line that
// names the place.
func TestHostile(t *testing.T) {
	good := pack(t, job(t))
	add := func(name string, data string, mode uint32) func([]entry) []entry {
		return func(list []entry) []entry { return append(list, entry{name, []byte(data), mode}) }
	}
	swap := func(name, old, new string) func([]entry) []entry {
		return func(list []entry) []entry {
			for i, e := range list {
				if e.name == name {
					if !bytes.Contains(e.data, []byte(old)) {
						t.Fatalf("%s has no %q", name, old)
					}
					list[i].data = bytes.Replace(e.data, []byte(old), []byte(new), 1)
				}
			}
			return list
		}
	}
	put := func(name string, data []byte) func([]entry) []entry {
		return func(list []entry) []entry {
			for i, e := range list {
				if e.name == name {
					list[i].data = data
				}
			}
			return list
		}
	}
	drop := func(name string) func([]entry) []entry {
		return func(list []entry) []entry {
			out := list[:0]
			for _, e := range list {
				if e.name != name {
					out = append(out, e)
				}
			}
			return out
		}
	}
	const history, picture = "circuits/1/history.json", "circuits/1/photos/1.jpg"
	cases := []struct {
		name, code, place string
		change            func([]entry) []entry
	}{
		{"a path that climbs out", "entry-name", "../../evil.json", add("../../evil.json", "{}", 0)},
		{"an absolute path", "entry-name", "/etc/passwd", add("/etc/passwd", "x", 0)},
		{"a path with backslashes", "entry-name", `circuits\1\circuit.json`, add(`circuits\1\circuit.json`, "{}", 0)},
		{"a name of many lines", "entry-name", "a b", add("a\nb", "x", 0)},
		{"a link", "entry-name", "circuits/3/circuit.json", add("circuits/3/circuit.json", "/etc/passwd", 0o120777)},
		{"an entry twice", "entry-name", "job.json", add("job.json", "{}", 0)},
		{"a file that nobody names", "extra-entry", "circuits/3/circuit.json", add("circuits/3/circuit.json", "{}", 0)},
		{"a bomb of zeros", "too-large", "circuits/1/circuit.json", put("circuits/1/circuit.json", make([]byte, 64<<20))},
		{"many small bombs", "too-large", "", func(list []entry) []entry {
			for i := range 8 {
				list = append(list, entry{fmt.Sprintf("circuits/%d/history.json", i+5), make([]byte, 200<<20), 0})
			}
			return list
		}},
		{"a number without end", "syntax", "job.json", swap("job.json", `"head": 1`, `"head": `+strings.Repeat("9", 3<<20))},
		{"a number without end in a circuit", "circuit", history, swap(history, `"practice":"na"`, `"practice":`+strings.Repeat("9", 3<<20))},
		{"a wrong type", "syntax", "job.json", swap("job.json", `"head": 1`, `"head": "one"`)},
		{"an unknown field", "syntax", "job.json", swap("job.json", `"head"`, `"execute"`)},
		{"another format", "format", "job.json", swap("job.json", archive.Format, "ambivia-job/9")},
		{"no name", "name", "job.json", swap("job.json", "Tide mill, stairs", " ")},
		{"a head that is not there", "history", "job.json", swap("job.json", `"head": 1`, `"head": 9`)},
		{"a history that bites its tail", "history", history, swap(history, `"number":2`, `"number":3`)},
		{"a redo to nowhere", "history", history, swap(history, `"next":3`, `"next":77`)},
		{"a redo to a stranger", "history", history, swap(history, `"next":3`, `"next":1`)},
		{"a circuit that is none", "circuit", "circuits/1/circuit.json", put("circuits/1/circuit.json", []byte("[]"))},
		{"a history that ends in the middle", "syntax", history, put(history, []byte(`[{"number": 1,`))},
		{"a picture that is none", "photo-type", picture, put(picture, []byte("<script>"))},
		{"a wish that nobody knows", "wishes", "circuits[0].wishes", swap("job.json", `"budget": "nice"`, `"gold": "nice"`)},
		{"a device that does not behave", "device", "devices.json", swap("devices.json", `"pole": "`, `"pole": "no`)},
		{"a file of devices that is none", "device", "devices.json", put("devices.json", []byte("{}"))},
		{"a missing file", "missing-entry", picture, drop(picture)},
		{"no manifest", "missing-entry", "job.json", drop("job.json")},
		{"a manifest with a tail", "syntax", "job.json", swap("job.json", "{", "{} {")},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			_, err := read(remake(t, good, c.change))
			var e *archive.Error
			if !errors.As(err, &e) || e.Code != c.code || !strings.Contains(e.Place, c.place) || strings.Contains(err.Error(), "\n") || len(err.Error()) > 500 {
				t.Errorf("refused with %.300v, want %s at %s", err, c.code, c.place)
			}
		})
	}
	for name, data := range map[string][]byte{"cut off": good[:len(good)/2], "not a zip": []byte("PK is all there is"), "nothing": nil} {
		if _, err := read(data); err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", name, err)
		}
	}
	liar := bytes.Clone(good) // claims in its directory that an entry is small, and is not
	z, err := zip.NewReader(bytes.NewReader(good), int64(len(good)))
	if err != nil {
		t.Fatal(err)
	}
	at := bytes.LastIndex(liar, []byte("circuits/1/history.json")) - 46
	copy(liar[at+24:], []byte{1, 0, 0, 0})
	if _, err := read(liar); err == nil {
		t.Errorf("an entry that lies about its size is taken (%d entries)", len(z.File))
	}
}

// TestRenamed: where device models come under other ids, choices that name them mean what they
// meant, and nothing else changes.
func TestRenamed(t *testing.T) {
	j := job(t)
	j.Circuits[0].Revisions[1].Choice = "sensing-3way-sw1-mill-sensor:mill-sensor+mill-sensors"
	data := pack(t, j)
	got, err := archive.Read(bytes.NewReader(data), int64(len(data)), map[string]string{"mill-sensor": "mill-sensor-2"})
	if err != nil {
		t.Fatal(err)
	}
	if choice := got.Circuits[0].Revisions[1].Choice; choice != "sensing-3way-sw1-mill-sensor-2:mill-sensor-2+mill-sensors" {
		t.Errorf("the choice is %q", choice)
	}
	if got.Devices[0].ID != "mill-sensor-2" || got.Circuits[0].Revisions[2].Choice != j.Circuits[0].Revisions[2].Choice {
		t.Errorf("%s, %q", got.Devices[0].ID, got.Circuits[0].Revisions[2].Choice)
	}
}

// TestEditedFile: a circuit file that somebody changed within the archive comes in as one
// revision more, which undo takes back; what was not changed comes in as it was.
func TestEditedFile(t *testing.T) {
	good := pack(t, job(t))
	before, err := read(good)
	if err != nil {
		t.Fatal(err)
	}
	was := before.Circuits[0]
	changed, err := circuit.Parse(was.Revisions[was.Head-1].Document)
	if err != nil {
		t.Fatal(err)
	}
	changed.Boxes[0].Name = "Renamed by hand"
	file := written(t, changed)
	after, err := read(remake(t, good, func(list []entry) []entry {
		for i, e := range list {
			if e.name == "circuits/1/circuit.json" {
				list[i].data = file
			}
		}
		return list
	}))
	if err != nil {
		t.Fatal(err)
	}
	now := after.Circuits[0]
	head := now.Revisions[now.Head-1]
	if len(now.Revisions) != len(was.Revisions)+1 || head.Parent != was.Head || !bytes.Equal(head.Document, file) || now.Revisions[was.Head-1].Next != now.Head {
		t.Errorf("%d revisions, head %d of parent %d", len(now.Revisions), now.Head, head.Parent)
	}
}
