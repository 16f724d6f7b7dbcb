// Command terms writes the page's constants: names and words that core decides, as TypeScript.
package main

import (
	"encoding/json"
	"fmt"
	"log"
	"os"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/diagram"
	"ambivia/core/inspect"
	"ambivia/core/practice"
	"ambivia/core/survey"
	"ambivia/core/trace"
)

func main() {
	if len(os.Args) != 2 {
		log.Fatal("terms: name the file to write")
	}
	var b strings.Builder
	b.WriteString("// Written by scripts/terms from core; do not edit.\n")
	constant := func(comment, name string, value any) {
		data, err := json.Marshal(value)
		if err != nil {
			log.Fatal(err)
		}
		fmt.Fprintf(&b, "\n/** %s */\nexport const %s = %s as const;\n", comment, name, data)
	}
	probes := map[string]int{}
	for _, i := range trace.Instruments {
		probes[i.ID] = circuit.Probes(i.ID)
	}
	constant("Letters of each insulation colour, as on drawings.", "letters", circuit.LettersByColour())
	constant("How each colour of insulation is drawn.", "insulations", diagram.Insulations())
	constant("Units of gauges as circuits write them, and as people do.", "gaugeUnits", circuit.GaugeUnits)
	constant("Instruments, the safest first.", "instruments", pairs(trace.Instruments))
	constant("How many ends each is put to.", "probes", probes)
	constant("What each instrument shows that gives no number, with how a person says it.", "readings", trace.Readings())
	constant("How the power must be for those that tell something one way only.", "powers", trace.Powers)
	constant("Ways of testing that a person may not have.", "inabilities", pairs(trace.Inabilities))
	constant("What a customer may say of one switch.", "switchReports", pairs(trace.SwitchReports))
	constant("The practitioners' ways of tracing.", "conventions", pairs(trace.Conventions))
	constant("What a conductor may be marked as.", "markRoles", survey.MarkRoles)
	constant("Cubic centimetres in a cubic inch.", "cubicInch", inspect.CubicInch)
	constant("Millimetres in an inch.", "inch", inspect.Inch)
	var practices []string
	for _, p := range practice.All() {
		practices = append(practices, p.ID)
	}
	constant("The wiring practices.", "practiceIds", practices)
	var empty, quantities, abilities [][2]string
	for _, x := range survey.Empty {
		empty = append(empty, [2]string{x.Kind, x.Text})
	}
	for _, x := range device.Quantities {
		quantities = append(quantities, [2]string{x.Field, x.Text})
	}
	for _, x := range device.Abilities {
		abilities = append(abilities, [2]string{x.Field, x.Text})
	}
	constant("Boxes that are added empty.", "emptyBoxes", empty)
	constant("Numbers of a device model.", "quantities", quantities)
	constant("What a device model can do or not.", "abilities", abilities)
	constant("Kinds of load for which a device model names a limit.", "limitedLoads", device.LimitedLoads)
	if err := os.WriteFile(os.Args[1], []byte(b.String()), 0o644); err != nil {
		log.Fatal(err)
	}
}

func pairs(list []trace.Term) [][2]string {
	var out [][2]string
	for _, t := range list {
		out = append(out, [2]string{t.ID, t.Text})
	}
	return out
}
