package pdf

import (
	"bytes"
	"fmt"
	"html"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/record"
	"ambivia/core/retrofit"
)

// word is a word of a document where it stands on its sheet.
type word struct {
	left, top, right, bottom float64
	text                     string
}

var (
	aPage = regexp.MustCompile(`<page width="([\d.]+)" height="([\d.]+)">`)
	aWord = regexp.MustCompile(`<word xMin="([-\d.]+)" yMin="([-\d.]+)" xMax="([-\d.]+)" yMax="([-\d.]+)">(.*?)</word>`)
)

func number(t testing.TB, text string) float64 {
	n, err := strconv.ParseFloat(text, 64)
	if err != nil {
		t.Fatal(err)
	}
	return n
}

// apart holds that no word of a document stands on another or off its sheet; it returns all its words.
func apart(t *testing.T, name string, pdf []byte) []string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "sheets.pdf")
	write(t, file, pdf)
	boxes, err := exec.Command("pdftotext", "-bbox", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	var all []string
	for n, page := range strings.Split(string(boxes), "<page ")[1:] {
		size := aPage.FindStringSubmatch("<page " + page)
		w, h := number(t, size[1]), number(t, size[2])
		var words []word
		for _, m := range aWord.FindAllStringSubmatch(page, -1) {
			x := word{number(t, m[1]), number(t, m[2]), number(t, m[3]), number(t, m[4]), html.UnescapeString(m[5])}
			if x.left < 0 || x.top < 0 || x.right > w || x.bottom > h {
				t.Errorf("%s, sheet %d: %q stands off the sheet", name, n+1, x.text)
			}
			for _, y := range words {
				across, down := min(x.right, y.right)-max(x.left, y.left), min(x.bottom, y.bottom)-max(x.top, y.top)
				if across > 1 && down > 0.45*min(x.bottom-x.top, y.bottom-y.top) {
					t.Errorf("%s, sheet %d: %q stands on %q", name, n+1, x.text, y.text)
				}
			}
			words, all = append(words, x), append(all, x.text)
		}
	}
	return all
}

// TestApart: on the drawings, work orders and labels of every circuit of the demo data, of a large one and of half-known
// ones no text stands on another or off its sheet, and no label is cut.
func TestApart(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	files, err := filepath.Glob("../../demo/*/*.json")
	if err != nil || len(files) < 10 {
		t.Fatalf("%d files of demo data, %v", len(files), err)
	}
	circuits := map[string]*circuit.Circuit{"six to the row": circuittest.Row(6)}
	for _, file := range files {
		data, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		if circuits[filepath.Base(file)], err = circuit.Read(bytes.NewReader(data)); err != nil {
			t.Fatalf("%s: %v", file, err)
		}
	}
	rng := rand.New(rand.NewPCG(27, 1))
	for i := range 6 { // cables without a known far end, several from a box
		c := circuittest.Walls(rng, 2+i%2)
		for k := range c.Cables {
			if rng.IntN(2) == 0 {
				far := c.Cables[k].Ends[1]
				c.Cables[k].Ends[1] = nil
				c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool {
					return far != nil && j.Box == *far && slices.ContainsFunc(j.Of, func(r circuit.Ref) bool { return r.Owner == c.Cables[k].ID })
				})
			}
		}
		if c.Validate() == nil {
			circuits[fmt.Sprint("half known ", i)] = c
		}
	}
	for name, c := range circuits {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			info := today
			info.Circuit = c.Name
			var drawn bytes.Buffer
			if err := Drawings(&drawn, inspect.Compile(c), info, A4); err != nil {
				t.Fatal(err)
			}
			apart(t, "drawings", drawn.Bytes())
			for _, o := range retrofit.Plan(c).Options {
				if !o.Feasible || o.Metrics.BoxesTouched == 0 {
					continue
				}
				p := procedure.For(inspect.Compile(c), &o, nil)
				var order, labels bytes.Buffer
				if err := Order(&order, p, nil, info, A4); err != nil {
					t.Fatal(err)
				}
				if err := Labels(&labels, p, info, A4); err != nil {
					t.Fatal(err)
				}
				apart(t, "order of "+o.ID, order.Bytes())
				for _, x := range apart(t, "labels of "+o.ID, labels.Bytes()) {
					if strings.Contains(x, "…") {
						t.Errorf("a label of %s is cut at %q", o.ID, x)
					}
				}
				break
			}
		})
	}
}

// TestLongNote: a note longer than a sheet stands in the annex as a whole.
func TestLongNote(t *testing.T) {
	c := circuittest.Straight()
	found := inspect.Compile(c)
	var words []string
	for n := 0; len(strings.Join(words, " ")) < 1980; n++ {
		words = append(words, fmt.Sprint("mortar", n))
	}
	log := []fitting.Entry{{Number: 1, Time: today.Date, Kind: fitting.Remark, Note: strings.Join(words, " ")}}
	for _, o := range retrofit.Plan(c).Options {
		if !o.Feasible || o.Metrics.BoxesTouched == 0 {
			continue
		}
		run := fitting.Read(nil).NewRun(found, &o, device.NewLibrary(nil), nil, 1, nil)
		log = append([]fitting.Entry{{Number: 1, Time: today.Date, Kind: fitting.Begin, Began: fitting.Began{Run: run}}}, log...)
		log[1].Number = 2
		r := &record.Record{Job: "Tide mill", Circuits: []*record.Circuit{record.Of(record.Source{Found: found, Option: &o, Library: device.NewLibrary(nil), Log: log})}}
		var b bytes.Buffer
		if err := Record(&b, r, today, A4, true); err != nil {
			t.Fatal(err)
		}
		all := apart(t, "record", b.Bytes())
		for _, w := range words {
			if !slices.Contains(all, w) {
				t.Fatalf("%q of the note is not in the record", w)
			}
		}
		return
	}
	t.Fatal("nothing is planned")
}
