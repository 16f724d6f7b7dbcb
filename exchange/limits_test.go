package exchange_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"math/rand/v2"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/limits"
	"ambivia/core/photo"
	"ambivia/exchange"
	"ambivia/store"
)

// scripts are letters of which random names and notes are made; every one takes more bytes than one.
var scripts = []string{"лестница", "楼梯间", "आर्द्राकक्ष", "மாடிபடி", "مصباحالسلم", "מסדרון", "chếtạophòng", "🪜💡"}

// letters is a text of so many letters, of any scripts.
func letters(rng *rand.Rand, n int) string {
	var out []rune
	for len(out) < n {
		out = append(out, []rune(scripts[rng.IntN(len(scripts))])...)
		if rng.IntN(6) == 0 {
			out = append(out, ' ')
		}
	}
	return "a" + string(out[1:n-1]) + "z" // no blank at an end, where it would be left out
}

// picture is a photograph as large as the program keeps them.
func picture(t *testing.T, rng *rand.Rand) []byte {
	t.Helper()
	img := image.NewGray(image.Rect(0, 0, 2048, 1536))
	for i := range img.Pix[:len(img.Pix)/4] { // noise takes long to decode; a quarter is a large file yet
		img.Pix[i] = byte(rng.Uint32())
	}
	img.Set(0, 0, color.White)
	var b bytes.Buffer
	if err := jpeg.Encode(&b, img, &jpeg.Options{Quality: 70}); err != nil {
		t.Fatal(err)
	}
	kept, err := photo.Clean(b.Bytes())
	if err != nil {
		t.Fatal(err)
	}
	return kept.JPEG
}

// TestRestored: random jobs, those at the limits among them, come out of one program and into
// another with every field as it was: 5,001 revisions, 200 large photographs, names and notes as
// long as they may be, in any script.
func TestRestored(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	for _, k := range []struct {
		name                             string
		seed                             uint64
		circuits, revisions, photos, gap int
	}{
		{"small", 1, 3, 12, 3, 1}, {"branches", 2, 2, 60, 0, 3}, {"empty", 3, 0, 0, 0, 1},
		{"5,001 revisions", 4, 1, 5001, 0, 50}, {"200 photographs", 5, 1, 2, limits.Photos, 1}, {"many circuits", 6, limits.Circuits, 1, 0, 1},
	} {
		t.Run(k.name, func(t *testing.T) {
			t.Parallel()
			rng := rand.New(rand.NewPCG(k.seed, 13))
			here, there := open(t), open(t)
			job := must[store.Job](t)(here.CreateJob(t.Context(), letters(rng, limits.NameLetters)))
			var jpeg []byte
			for range k.circuits {
				c := made(t, here, job.ID, rng, k.revisions, k.gap)
				for i := range k.photos {
					if i%50 == 0 {
						jpeg = picture(t, rng)
					}
					must[store.Photo](t)(here.AddPhoto(t.Context(), store.Photo{Circuit: c.ID, Box: "b" + fmt.Sprint(i), Note: letters(rng, limits.NoteLetters), Width: 2048, Height: 1536}, jpeg))
				}
				if rng.IntN(2) == 0 {
					if err := here.Wish(t.Context(), c.ID, "", []byte(`{"wishes":{"no-battery":"must"},"budget":70}`)); err != nil {
						t.Fatal(err)
					}
				}
			}
			file := must[*os.File](t)(os.Create(filepath.Join(t.TempDir(), "job.zip")))
			defer file.Close()
			if err := exchange.Export(t.Context(), here, job.ID, file); err != nil {
				t.Fatal(err)
			}
			size := must[int64](t)(file.Seek(0, 2))
			read, err := exchange.Read(file, size)
			if err != nil {
				t.Fatal(err)
			}
			if len(read.Lost) > 0 {
				t.Errorf("lost: %v", read.Lost)
			}
			back := must[store.Job](t)(read.Write(t.Context(), there))
			same(t, here, there, must[store.Job](t)(here.Job(t.Context(), job.ID)), back)
		})
	}
}

// made writes a circuit with a random history: revisions, undos with other branches, redos.
func made(t *testing.T, s *store.Store, job string, rng *rand.Rand, revisions, gap int) store.Circuit {
	t.Helper()
	doc := circuittest.House(rng, 2)
	doc.Name = letters(rng, limits.NameLetters)
	write := func() store.Change {
		doc.Boxes[rng.IntN(len(doc.Boxes))].Name = letters(rng, 3+rng.IntN(limits.NameLetters-3))
		return store.Change{Summary: letters(rng, 3+rng.IntN(limits.SummaryLetters-3)), By: letters(rng, 20), Document: must[[]byte](t)(circuit.Encode(doc))}
	}
	c := must[store.Circuit](t)(s.CreateCircuit(t.Context(), job, write()))
	for n := 1; n < revisions; n++ {
		if n%gap == 0 && c.CanUndo && rng.IntN(2) == 0 {
			c = must[store.Circuit](t)(s.Undo(t.Context(), c.ID, c.Head.ID))
		}
		if n%gap == 0 && c.CanRedo && rng.IntN(3) == 0 {
			c = must[store.Circuit](t)(s.Redo(t.Context(), c.ID, c.Head.ID))
		}
		c = must[store.Circuit](t)(s.Revise(t.Context(), c.ID, c.Head.ID, write()))
	}
	if c.CanUndo && rng.IntN(2) == 0 {
		c = must[store.Circuit](t)(s.Undo(t.Context(), c.ID, c.Head.ID))
	}
	return c
}

// same holds a job that came back to the one that went out, field by field.
func same(t *testing.T, here, there *store.Store, was, now store.Job) {
	t.Helper()
	if was.Name != now.Name || was.Circuits != now.Circuits {
		t.Fatalf("%q with %d circuits comes back as %q with %d", was.Name, was.Circuits, now.Name, now.Circuits)
	}
	before, after := must[[]store.Circuit](t)(here.Circuits(t.Context(), was.ID)), must[[]store.Circuit](t)(there.Circuits(t.Context(), now.ID))
	for i := range before {
		a, b := must[*store.Whole](t)(here.Whole(t.Context(), before[i].ID)), must[*store.Whole](t)(there.Whole(t.Context(), after[i].ID))
		if a.Head != b.Head || before[i].CanRedo != after[i].CanRedo || !sameJSON(a.Wishes, b.Wishes) || len(a.History) != len(b.History) || len(a.Photos) != len(b.Photos) {
			t.Fatalf("circuit %d: head %d and %d, %d and %d revisions, %d and %d photographs, wishes %s and %s", i, a.Head, b.Head, len(a.History), len(b.History), len(a.Photos), len(b.Photos), a.Wishes, b.Wishes)
		}
		for n := range a.History {
			x, y := a.History[n], b.History[n]
			x.ID, y.ID = "", ""
			if !reflect.DeepEqual(x, y) {
				t.Fatalf("circuit %d, revision %d:\n%+v\n%+v", i, n+1, x, y)
			}
		}
		for n := range a.Photos {
			x, y := a.Photos[n], b.Photos[n]
			x.ID, y.ID, x.Circuit, y.Circuit = "", "", "", ""
			if x != y || !bytes.Equal(must[[]byte](t)(a.Picture(n)), must[[]byte](t)(b.Picture(n))) {
				t.Fatalf("circuit %d, photograph %d:\n%+v\n%+v", i, n+1, x, y)
			}
		}
	}
}

func sameJSON(a, b []byte) bool {
	return strings.Join(strings.Fields(string(a)), "") == strings.Join(strings.Fields(string(b)), "")
}

// TestLost: a chosen plan that this program does not offer is not kept, and that is told; what was
// chosen before is asked about when somebody goes back to it.
func TestLost(t *testing.T) {
	here, there := open(t), open(t)
	job := must[store.Job](t)(must[*exchange.Job](t)(exchange.Fresh("Wool shed", circuittest.Straight())).Write(t.Context(), here))
	c := must[[]store.Circuit](t)(here.Circuits(t.Context(), job.ID))[0]
	for range 2 {
		c = must[store.Circuit](t)(here.Revise(t.Context(), c.ID, c.Head.ID, store.Change{Summary: "Chosen", Document: c.Head.Document, Choice: "free-energy", Planned: []byte("{}")}))
	}
	var packed bytes.Buffer
	if err := exchange.Export(t.Context(), here, job.ID, &packed); err != nil {
		t.Fatal(err)
	}
	came := must[*exchange.Job](t)(read(packed.Bytes()))
	if len(came.Lost) != 1 || !strings.Contains(came.Lost[0], "free-energy") {
		t.Errorf("lost: %v", came.Lost)
	}
	back := must[store.Job](t)(came.Write(t.Context(), there))
	history := must[*store.Whole](t)(there.Whole(t.Context(), must[[]store.Circuit](t)(there.Circuits(t.Context(), back.ID))[0].ID)).History
	if history[2].Choice != "" || history[1].Choice != "free-energy" || history[1].Planned != nil && string(history[1].Planned) != "" {
		t.Errorf("at the head %q, before it %q planned as %s", history[2].Choice, history[1].Choice, history[1].Planned)
	}
}

// TestUnreadableBefore: an old revision that cannot be read any more does not spoil the archive: it stands as the one before it,
// or as what is there now, says so, and whoever reads the archive is told.
func TestUnreadableBefore(t *testing.T) {
	here, there := open(t), open(t)
	job := must[store.Job](t)(here.CreateJob(t.Context(), "Wool shed"))
	doc := func(name string) []byte {
		c := circuittest.Straight()
		c.Name = name
		return must[[]byte](t)(circuit.Encode(c))
	}
	c := must[store.Circuit](t)(here.CreateCircuit(t.Context(), job.ID, store.Change{Summary: "made", Document: []byte(`{"format": 7}`)}))
	for _, x := range []struct{ said, doc string }{{"named", string(doc("first"))}, {strings.Repeat("x", limits.SummaryLetters), `[]`}, {"named anew", string(doc("last"))}} {
		c = must[store.Circuit](t)(here.Revise(t.Context(), c.ID, c.Head.ID, store.Change{Summary: x.said, Document: []byte(x.doc)}))
	}
	var packed bytes.Buffer
	if err := exchange.Export(t.Context(), here, job.ID, &packed); err != nil {
		t.Fatal(err)
	}
	came := must[*exchange.Job](t)(read(packed.Bytes()))
	back := must[store.Job](t)(came.Write(t.Context(), there))
	list := must[[]store.Circuit](t)(there.Circuits(t.Context(), back.ID))
	whole := must[*store.Whole](t)(there.Whole(t.Context(), list[0].ID))
	var names []string
	for _, p := range whole.History {
		names = append(names, must[*circuit.Circuit](t)(circuit.Parse(p.Document)).Name)
	}
	if got := strings.Join(names, ", "); got != "last, first, first, last" || len(came.Lost) != 1 || !strings.HasPrefix(came.Lost[0], "2 old revisions of the 1. circuit of Wool shed") {
		t.Errorf("the revisions are of %s; lost: %v", got, came.Lost)
	}
	if got := whole.History[0].Summary; got != "made (could not be read any more)" {
		t.Errorf("the first is told as %q", got)
	}
}

// TestUnreadableLeftOut: a circuit that cannot be read does not spoil the archive of its job: it is
// left out, and whoever reads the archive is told.
func TestUnreadableLeftOut(t *testing.T) {
	here, there := open(t), open(t)
	job := must[store.Job](t)(must[*exchange.Job](t)(exchange.Fresh("Wool shed", circuittest.Straight())).Write(t.Context(), here))
	must[store.Circuit](t)(here.CreateCircuit(t.Context(), job.ID, store.Change{Document: []byte(`{"format": 7}`)}))
	var packed bytes.Buffer
	if err := exchange.Export(t.Context(), here, job.ID, &packed); err != nil {
		t.Fatal(err)
	}
	came := must[*exchange.Job](t)(read(packed.Bytes()))
	back := must[store.Job](t)(came.Write(t.Context(), there))
	if back.Circuits != 1 || len(came.Lost) != 1 || !strings.Contains(came.Lost[0], "2. circuit of Wool shed") {
		t.Errorf("%d circuits come back, lost: %v", back.Circuits, came.Lost)
	}
}
