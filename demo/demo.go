// Package demo holds the demo data: jobs of invented places, as circuit files.
package demo

import (
	"embed"
	"fmt"

	"ambivia/core/circuit"
)

// Job is a demo job with its circuits.
type Job struct {
	Name     string
	Circuits []*circuit.Circuit
}

//go:embed observatory/*.json mill/*.json shed/*.json works/*.json links/*.json
var files embed.FS

// Jobs returns the demo jobs, made anew on each call.
func Jobs() []Job {
	return []Job{
		{"Tide mill, granary flat", read("mill/granary-corridor.json", "mill/granary-loft.json")},
		{"Links by rules: a passage, a mill house, a weaving shed", read("links/passage-scenes.json", "links/passage-mirrored.json", "links/mill-house.json", "links/six-switches.json")},
		{"Weaving works, corridor and card room", read("works/corridor-two-lights.json", "works/card-room.json")},
		{"Wool shed and shearing board", read("shed/board-walk.json", "shed/wool-table.json")},
		{"Tide mill, mill house", read("mill/landing-rose.json", "mill/sluice-walk.json", "mill/wheel-pit.json")},
		{"Observatory guest house, hilltop", read("observatory/chart-room.json", "observatory/plate-archive.json", "observatory/west-dome.json")},
	}
}

func read(names ...string) []*circuit.Circuit {
	var out []*circuit.Circuit
	for _, name := range names {
		f, err := files.Open(name)
		if err != nil {
			panic("demo: " + err.Error()) // the files are part of the program
		}
		c, err := circuit.Read(f)
		if err != nil {
			panic(fmt.Sprintf("demo: %s: %v", name, err))
		}
		out = append(out, c)
	}
	return out
}
