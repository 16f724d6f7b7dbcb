package inspect

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
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
// each device yoke twice (a case of several gangs is one). Grounds and clamps count by the largest conductor in the box, a
// yoke by the largest that is joined to its device, or, where none is yet, by the largest in the box. Internal
// clamps are counted where the record has them or says nothing of a box of metal; one of plastic has none unless it says so. Pigtails
// count nothing. Other practices know no such sum.
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
			return Fill{Missing: fmt.Sprintf("the gauge of %s is not recorded, or none of 14, 12, 10 AWG", names.For(c).Cable(k.ID))}
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
	if len(f.Lines) > 0 && b.Clamped() {
		add("internal clamps", 1, largest)
	}
	yokes := map[float64]int{} // by the largest conductor; a module in a rose, or a lamp in its socket, is on none
	for _, d := range c.Devices {
		if d.Box == box && d.Case == "" && (d.Mechanical() || d.Type == circuit.TypeReceptacle || d.Type == circuit.TypeSmart && len(c.Terminals(d)) > 0 && b.Kind == circuit.Switch) {
			each := largestAt(c, d)
			if each == 0 {
				each = largest
			}
			yokes[each]++
		}
	}
	for _, each := range slices.Sorted(maps.Keys(yokes)) {
		add(fmt.Sprintf("device yokes (%d, two each)", yokes[each]), float64(2*yokes[each]), each)
	}
	return f
}

// largestAt is the allowance for the largest conductor that is joined to a device or to one of its case, 0 where none is.
func largestAt(c *circuit.Circuit, d circuit.Device) float64 {
	largest := 0.0
	for _, j := range c.Joins {
		if j.Box != d.Box || !slices.ContainsFunc(j.Of, func(m circuit.Ref) bool {
			x := c.Device(m.Owner)
			return x != nil && (x.ID == d.ID || x.Case == d.ID) && m.Part != "ground"
		}) {
			continue
		}
		for _, m := range j.Of {
			if k := c.Cable(m.Owner); k != nil {
				largest = max(largest, allowance[k.Gauge])
			}
		}
	}
	return largest
}

// numberFindings holds the record to the numeric rules of the practice as far as
// it goes: box fill, breaker and gauge, breakers that share a box.
func (i *inspector) numberFindings() {
	say := names.For(i.doc)
	for _, b := range i.doc.Boxes {
		i.fillFinding(b)
		if fed := i.suppliesIn(b.ID); len(fed) > 1 && b.Kind != circuit.Panel {
			i.add("two-breakers", Warning, i.endsIn(b.ID), fmt.Sprintf("%s holds conductors of %d breakers: %s.", names.Capitalize(say.Box(b.ID)), len(fed), strings.Join(fed, ", ")),
				"Switch all of them off before working here, and test every conductor, neutrals too.")
		}
	}
	i.gaugeFindings(say)
	i.loadFindings(say)
	i.depthFindings(say)
}

// loadFindings compares the watts of the lamps of each breaker with what it can give.
func (i *inspector) loadFindings(say names.Terms) {
	volts := practice.Volts(i.doc)
	i.eachBreaker(say, func(supply circuit.Device, amps float64, name string, feeds func(...circuit.End) bool) {
		var lamps []string
		var at []circuit.End
		for _, d := range i.doc.Devices {
			l := circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "l"}}
			if d.Type == circuit.TypeLamp && feeds(l, circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "n"}}) {
				lamps, at = append(lamps, d.ID), append(at, l)
			}
		}
		if watts := i.doc.LoadOf(lamps).Total(); watts > volts*amps {
			i.add("breaker-load", Warning, at, fmt.Sprintf("The lamps take %.0f W, %.1f A at %g V; %s is of %g A.", watts, watts/volts, volts, name, amps),
				"Fewer or smaller lamps, or another circuit for some of them.")
		}
	})
}

// eachBreaker goes through the breakers whose amperes are noted, each with what it is called and what tells whether its line
// reaches any of some ends; all there is hangs on one that is alone.
func (i *inspector) eachBreaker(say names.Terms, look func(supply circuit.Device, amps float64, name string, feeds func(...circuit.End) bool)) {
	names := say.Breakers()
	n := 0
	for _, d := range i.doc.Devices {
		if d.Type != circuit.TypeSupply {
			continue
		}
		name := "the " + say.Word("breaker")
		if len(names) > 1 {
			name = names[n]
		}
		n++
		if amps, known := i.doc.Amps(d); known {
			look(d, amps, name, func(ends ...circuit.End) bool {
				return len(names) == 1 || slices.ContainsFunc(ends, func(e circuit.End) bool { return i.reach[d.ID][i.net.Class(e)] })
			})
		}
	}
}

// Room lists what the record says of boxes that are too full or not deep enough. It looks at no
// state of the circuit, so it costs little.
func Room(c *circuit.Circuit) []Finding {
	i := &inspector{doc: c}
	for _, b := range c.Boxes {
		i.fillFinding(b)
	}
	i.depthFindings(names.For(c))
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
	i.add("box-fill", Warning, i.endsIn(b.ID), fmt.Sprintf("%s is too full: it needs %.2f in³ and has %.2f in³.", names.Capitalize(names.For(i.doc).Box(b.ID)), f.Inch3, f.Volume),
		"A deeper or wider box, or fewer conductors. The stamped volume rules.")
	last := &i.found[len(i.found)-1]
	for _, l := range f.Lines {
		last.Lines = append(last.Lines, fmt.Sprintf("%s: %g × %.2f = %.2f in³", l.What, l.Count, l.Inch3/l.Count, l.Inch3))
	}
}

func (i *inspector) allScrews(d circuit.Device) []circuit.End {
	var out []circuit.End
	for _, t := range i.doc.Terminals(d) {
		out = append(out, circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}})
	}
	return out
}

// gaugeAmps is the largest breaker, in amperes, that usually protects copper of a gauge: the North American rule of 15 A for 14 AWG,
// 20 A for 12, 30 A for 10; elsewhere 10 A for 1.0 mm², 16 for 1.5, 20 for 2.5, 25 for 4, by the usual ways of laying.
var gaugeAmps = map[string]float64{"14AWG": 15, "12AWG": 20, "10AWG": 30, "1mm2": 10, "1.0mm2": 10, "1.5mm2": 16, "2.5mm2": 20, "4mm2": 25, "4.0mm2": 25}

// ringed are the gauges that stand in a ring behind a larger breaker in a practice, or as a fused spur behind their own.
var ringed = map[string][]string{"uk": {"2.5mm2"}}

func (i *inspector) gaugeFindings(say names.Terms) {
	i.eachBreaker(say, func(_ circuit.Device, amps float64, _ string, feeds func(...circuit.End) bool) {
		for _, k := range i.doc.Cables {
			limit, known := gaugeAmps[k.Gauge]
			if !known || amps <= limit || slices.Contains(ringed[i.doc.Practice], k.Gauge) {
				continue
			}
			box := k.Ends[0]
			if box == nil {
				box = k.Ends[1]
			}
			var cores []circuit.End
			for _, core := range k.Cores {
				cores = append(cores, circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box})
			}
			if !feeds(cores...) {
				continue
			}
			how := "stands"
			if i.heavier(k) {
				how = "is tapped from a heavier cable and stands"
			}
			i.add("breaker-gauge", Warning, cores[:1],
				fmt.Sprintf("%s is %s, %s behind a %s of %g A; it is good for %g A.", names.Capitalize(say.Cable(k.ID)), circuit.GaugeText(k.Gauge), how, say.Word("breaker"), amps, limit),
				"A smaller breaker, or a heavier cable.")
		}
	})
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
	names := names.For(i.doc).Breakers()
	i.feeds, i.reach = map[string][]string{}, map[string]map[int]bool{}
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
	for n, d := range supplies {
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
		i.reach[d.ID] = maps.Clone(reached)
		if neutral := class(d.ID, "neutral"); shared[neutral] == 1 {
			reached[neutral] = true
		}
		for _, b := range i.doc.Boxes {
			if slices.ContainsFunc(i.endsIn(b.ID), func(e circuit.End) bool { return reached[i.net.Class(e)] }) {
				i.feeds[b.ID] = append(i.feeds[b.ID], names[n])
			}
		}
	}
}
