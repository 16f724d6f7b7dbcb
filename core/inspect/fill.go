package inspect

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// Measures of boxes: a cubic inch in cubic centimetres, as stamped volumes are reckoned with, and an inch in
// millimetres.
const (
	CubicInch = 16.387
	Inch      = 25.4
)

// allowance is the volume that each conductor of a gauge counts for in a box,
// in cubic inches: the rule of North American practice.
var allowance = map[string]float64{"14AWG": 2.00, "12AWG": 2.25, "10AWG": 2.50}

// groundsTogether is how many grounds count as one conductor; each further one
// counts a quarter.
const groundsTogether = 4

// FillLine is one line of a box-fill count, in cubic inches.
type FillLine struct {
	What  string
	Count float64
	Inch3 float64
}

// Expand is the count of one box, line by line. Missing says what the record
// lacks for it to be made; the other fields then mean nothing.
type Fill struct {
	Lines   []FillLine
	Inch3   float64 // what is needed
	Volume  float64 // what the box has
	Missing string
}

// Fits reports whether what is needed is no more than what the box has.
func (f Fill) Fits() bool { return f.Inch3 <= f.Volume+0.01 }

// BoxFill counts the fill of a box by North American practice: each insulated
// conductor that enters counts once by its gauge, all grounds up to four
// together once and each beyond a quarter, all internal clamps together once,
// each device yoke twice (a case of several gangs is one), the last three by the largest conductor. Internal
// clamps are counted, since nobody records that there are none. Pigtails count
// nothing. Other practices know no such sum.
func BoxFill(c *circuit.Circuit, box string) Fill {
	b := c.Box(box)
	f := Fill{}
	if b.VolumeCm3 == nil {
		return Fill{Missing: "the box's volume is not recorded"}
	}
	f.Volume = *b.VolumeCm3 / CubicInch
	largest, grounds, entered := 0.0, 0, map[string]int{}
	for _, k := range c.Cables {
		if !k.In(box) {
			continue
		}
		each, known := allowance[k.Gauge]
		if !known {
			return Fill{Missing: fmt.Sprintf("the gauge of cable %s is not recorded, or none of 14, 12, 10 AWG", k.ID)}
		}
		largest = max(largest, each)
		for _, core := range k.Cores {
			if circuit.GroundColour(core) {
				grounds++
			} else {
				entered[k.Gauge]++
			}
		}
	}
	add := func(what string, count, each float64) {
		if count > 0 {
			f.Lines = append(f.Lines, FillLine{what, count, count * each})
			f.Inch3 += count * each
		}
	}
	for _, gauge := range []string{"14AWG", "12AWG", "10AWG"} {
		add("insulated conductors, "+circuit.GaugeText(gauge), float64(entered[gauge]), allowance[gauge])
	}
	if grounds > 0 {
		add(fmt.Sprintf("grounds (%d)", grounds), 1+0.25*float64(max(0, grounds-groundsTogether)), largest)
	}
	if len(f.Lines) > 0 {
		add("internal clamps", 1, largest)
	}
	yokes := 0 // a module in a rose, or a lamp in its socket, is on none
	for _, d := range c.Devices {
		if d.Box == box && d.Case == "" && (d.Mechanical() || d.Type == circuit.TypeReceptacle || d.Type == circuit.TypeSmart && len(c.Terminals(d)) > 0 && b.Kind == circuit.Switch) {
			yokes++
		}
	}
	add(fmt.Sprintf("device yokes (%d, two each)", yokes), float64(2*yokes), largest)
	return f
}

// numberFindings holds the record to the numeric rules of the practice as far as
// it goes: box fill, breaker and gauge, breakers that share a box.
func (i *inspector) numberFindings() {
	say := TermsFor(i.doc)
	for _, b := range i.doc.Boxes {
		i.fillFinding(b)
		if fed := i.suppliesIn(b.ID); len(fed) > 1 && b.Kind != circuit.Panel {
			i.add("two-breakers", Warning, i.endsIn(b.ID), fmt.Sprintf("%s holds conductors of %d breakers: %s.", Capitalize(b.Label()), len(fed), strings.Join(fed, ", ")),
				"Switch all of them off before working here, and test every conductor, neutrals too.")
		}
	}
	i.gaugeFindings(say)
	i.loadFindings(say)
	i.depthFindings(say)
}

// loadFindings compares the lamps' watts with what their breaker can give.
func (i *inspector) loadFindings(say Terms) {
	if i.doc.Supply == nil || i.doc.Supply.BreakerAmps == nil {
		return
	}
	watts := i.doc.LampWatts()
	var at []circuit.End
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeLamp && d.Watts != nil {
			at = append(at, circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "l"}})
		}
	}
	volts, amps := practice.Volts(i.doc), *i.doc.Supply.BreakerAmps
	if watts > volts*amps {
		i.add("breaker-load", Warning, at, fmt.Sprintf("The lamps take %.0f W, %.1f A at %g V; the %s is of %g A.", watts, watts/volts, volts, say.Word("breaker"), amps),
			"Fewer or smaller lamps, or another circuit for some of them.")
	}
}

// bendRoomMm is what wires need behind a device to be folded without force: a
// rule of thumb of the trade, not of any code.
const bendRoomMm = 10

// depthFindings compares box depths with the devices in them, for practices that
// go by depth.
// Room lists what the record says of boxes that are too full or not deep enough. It looks at no
// state of the circuit, so it costs little.
func Room(c *circuit.Circuit) []Finding {
	i := &inspector{doc: c}
	for _, b := range c.Boxes {
		i.fillFinding(b)
	}
	i.depthFindings(TermsFor(c))
	return i.found
}

// fillFinding counts a box where the practice counts.
func (i *inspector) fillFinding(b circuit.Box) {
	if !practice.For(i.doc).CountsFill || b.Kind == circuit.Panel {
		return
	}
	f := BoxFill(i.doc, b.ID)
	if f.Missing != "" || f.Fits() {
		return
	}
	i.add("box-fill", Warning, i.endsIn(b.ID), fmt.Sprintf("%s is too full: it needs %.2f in³ and has %.2f in³.", Capitalize(b.Label()), f.Inch3, f.Volume),
		"A deeper or wider box, or fewer conductors. The stamped volume rules.")
	last := &i.found[len(i.found)-1]
	for _, l := range f.Lines {
		last.Lines = append(last.Lines, fmt.Sprintf("%s: %g × %.2f = %.2f in³", l.What, l.Count, l.Inch3/l.Count, l.Inch3))
	}
}

func (i *inspector) depthFindings(say Terms) {
	for _, d := range i.doc.Devices {
		b := i.doc.Box(d.Box)
		if d.DepthMm == nil || b.DepthMm == nil {
			continue
		}
		at, room := i.allScrews(d), *b.DepthMm-*d.DepthMm
		switch {
		case room < 0:
			i.add("box-depth", Warning, at, fmt.Sprintf("%s reaches %g mm into %s, which is %g mm deep.", Capitalize(say.Device(d.ID)), *d.DepthMm, b.Label(), *b.DepthMm),
				"It does not fit. A deeper box, a spacer, or a device of less depth.")
		case room < bendRoomMm:
			i.add("box-depth", Warning, at, fmt.Sprintf("%s leaves %g mm behind it in %s to bend the wires; about %d mm are needed.", Capitalize(say.Device(d.ID)), room, b.Label(), bendRoomMm),
				"This is a fit, not a sum of any code: try it before you promise it.")
			i.found[len(i.found)-1].Tight = true
		}
	}
}

func (i *inspector) allScrews(d circuit.Device) []circuit.End {
	var out []circuit.End
	for _, t := range i.doc.Terminals(d) {
		out = append(out, circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}})
	}
	return out
}

// gaugeAmps is the largest breaker, in amperes, that may protect copper of a gauge: the North American rule of
// 15 A for 14 AWG, 20 A for 12, 30 A for 10.
var gaugeAmps = map[string]float64{"14AWG": 15, "12AWG": 20, "10AWG": 30}

func (i *inspector) gaugeFindings(say Terms) {
	if i.doc.Supply == nil || i.doc.Supply.BreakerAmps == nil {
		return
	}
	amps := *i.doc.Supply.BreakerAmps
	for _, k := range i.doc.Cables {
		if limit, known := gaugeAmps[k.Gauge]; known && amps > limit {
			box := k.Ends[0]
			if box == nil {
				box = k.Ends[1]
			}
			how := "stands"
			if i.heavier(k) {
				how = "is tapped from a heavier cable and stands"
			}
			i.add("breaker-gauge", Warning, []circuit.End{{Ref: circuit.Ref{Owner: k.ID, Part: k.Cores[0]}, Box: *box}},
				fmt.Sprintf("%s is %s, %s behind a %s of %g A; it is good for %g A.", Capitalize(say.Cable(k.ID)), circuit.GaugeText(k.Gauge), how, say.Word("breaker"), amps, limit),
				"A smaller breaker, or a heavier cable.")
		}
	}
}

// heavier reports whether a heavier cable than this one ends in one of its boxes.
func (i *inspector) heavier(k circuit.Cable) bool {
	return slices.ContainsFunc(i.doc.Cables, func(other circuit.Cable) bool {
		if gaugeAmps[other.Gauge] <= gaugeAmps[k.Gauge] {
			return false
		}
		return slices.ContainsFunc(k.Ends[:], func(box *string) bool { return box != nil && other.In(*box) })
	})
}

func (i *inspector) endsIn(box string) []circuit.End {
	var out []circuit.End
	for _, m := range i.doc.EndsIn(box) {
		out = append(out, circuit.End{Ref: m, Box: box})
	}
	return out
}

// suppliesIn lists the supplies whose hot or neutral reaches a box.
func (i *inspector) suppliesIn(box string) []string {
	return i.feeds[box]
}

// findFeeds lists for each box the supplies whose conductors are in it: their line, whatever a
// switch may join to it, and their neutral where it is theirs alone. A bar that several breakers
// of a panel share belongs to none of them.
func (i *inspector) findFeeds() {
	i.feeds = map[string][]string{}
	var supplies []circuit.Device
	class := func(owner, part string) int {
		return i.net.Class(circuit.End{Ref: circuit.Ref{Owner: owner, Part: part}})
	}
	shared := map[int]int{}
	fixed := map[int]bool{}
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeSupply {
			supplies = append(supplies, d)
			shared[class(d.ID, "neutral")]++
			for _, t := range []string{"hot", "neutral", "ground"} {
				fixed[class(d.ID, t)] = true
			}
		}
	}
	for _, d := range supplies {
		reached := map[int]bool{class(d.ID, "hot"): true}
		for grew := true; grew; {
			grew = false
			for _, x := range i.doc.Devices {
				for _, c := range i.net.Contacts(x.ID) {
					a, b := class(x.ID, c.From), class(x.ID, c.To)
					for _, pair := range [2][2]int{{a, b}, {b, a}} {
						if reached[pair[0]] && !reached[pair[1]] && !fixed[pair[1]] {
							reached[pair[1]], grew = true, true
						}
					}
				}
			}
		}
		if neutral := class(d.ID, "neutral"); shared[neutral] == 1 {
			reached[neutral] = true
		}
		for _, b := range i.doc.Boxes {
			if slices.ContainsFunc(i.endsIn(b.ID), func(e circuit.End) bool { return reached[i.net.Class(e)] }) {
				i.feeds[b.ID] = append(i.feeds[b.ID], d.Label())
			}
		}
	}
}
