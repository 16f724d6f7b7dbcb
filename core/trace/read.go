package trace

import (
	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// What a conductor is tied to while the power is on.
type tied uint8

const (
	tiedHot tied = iota
	tiedReturn
	throughToReturn // hangs on the neutral through a lamp or another load, and on nothing else
	throughToLine   // hangs on the line through one, or on both
	floats
	earthOrNothing // a ground that may have no way to the panel
	unknownTie
)

func (n *network) tied(p spot) tied {
	switch {
	case p.ground && p.sure:
		return tiedReturn
	case p.ground && p.bundle:
		return earthOrNothing
	case p.node < 0:
		return unknownTie
	}
	line, back := n.source(n.strong[p.node])
	switch {
	case line && back: // two supplies meet here
		return unknownTie
	case line:
		return tiedHot
	case back:
		return tiedReturn
	case n.split != 0:
		return unknownTie
	}
	switch n.hangs[n.weak[p.node]] {
	case 0:
		return floats
	case hangsOnReturn:
		return throughToReturn
	}
	return throughToLine
}

// read predicts what an instrument may show in the network as joined, with its probes at those
// places; one that has one probe or none looks at no more.
func (n *network) read(instrument string, x, y spot, lamp int) outcome {
	switch instrument {
	case circuit.NonContact:
		if !n.s.on {
			return second
		}
		switch n.tied(x) {
		case tiedHot:
			return first
		case tiedReturn:
			return second
		}
		return first | second
	case circuit.TwoPole, circuit.Multimeter:
		return n.volts(instrument == circuit.TwoPole, x, y)
	case circuit.Continuity:
		return n.beep(x, y)
	}
	return n.look(lamp)
}

func (n *network) volts(loads bool, x, y spot) outcome {
	if !n.s.on && loads {
		return first
	}
	if !n.s.on { // what runs beside other circuits shows ghost volts even then
		return anything
	}
	a, b := n.tied(x), n.tied(y)
	same := x.node >= 0 && y.node >= 0 && n.strong[x.node] == n.strong[y.node]
	switch {
	case same && (loads || a <= tiedReturn): // a meter that does not load shows ghost volts even there
		return first
	case a == tiedHot && b == tiedHot: // of two breakers: one leg or two
		return anything
	case a <= tiedReturn && b <= tiedReturn:
		if a == b {
			return first
		}
		return second
	case loads && (a == floats || b == floats):
		return first
	case loads && (a == earthOrNothing && harmless(b) || b == earthOrNothing && harmless(a)):
		return first
	case loads && (a == throughToReturn && (b == tiedReturn || b == throughToReturn) || b == throughToReturn && a == tiedReturn):
		return first
	}
	return anything
}

// harmless reports whether what is tied so shows no volts against ground, nor against what floats.
func harmless(t tied) bool { return t == tiedReturn || t == throughToReturn || t == earthOrNothing }

func (n *network) beep(x, y spot) outcome {
	switch {
	case x.ground && y.ground:
		if x.sure && y.sure && len(n.supplies) == 1 {
			return first
		}
		return first | second
	case x.ground || y.ground:
		return n.beepToGround(x, y)
	case x.class >= 0 && x.class == y.class && x.node < 0:
		return first | second
	case x.node < 0 || y.node < 0:
		return first | second
	case n.strong[x.node] == n.strong[y.node]:
		return first
	case n.bundled(x) && n.bundled(y):
		return first | second // a spare core runs through its cable: the two may be one
	case n.weak[x.node] == n.weak[y.node]:
		return first | second
	}
	return second
}

// bundled reports whether a conductor is one that nothing here uses, or tied to one.
func (n *network) bundled(p spot) bool {
	if p.nobody {
		return true
	}
	for _, node := range n.nobodies {
		if p.node >= 0 && n.strong[node] == n.strong[p.node] {
			return true
		}
	}
	return false
}

// beepToGround predicts continuity between a conductor and the ground: the panel's bond
// may join neutral and ground, and loads join line and neutral.
func (n *network) beepToGround(x, y spot) outcome {
	p := x
	if x.ground {
		p = y
	}
	if p.node < 0 {
		return first | second
	}
	r := n.weak[p.node]
	for i := range n.supplies {
		if r == n.weak[n.sources[i][0]] || r == n.weak[n.sources[i][1]] {
			return first | second
		}
	}
	return second
}

// look predicts whether a lamp is lit: that one, or where it is -1 the only one.
func (n *network) look(lamp int) outcome {
	if !n.s.on {
		return second
	}
	out := second
	for i, l := range n.f.lamps {
		if lamp >= 0 && i != lamp || n.s.lampsOut>>i&1 == 1 {
			continue
		}
		if n.f.wild[n.f.first[n.f.lampL[i]]] {
			out |= first
			continue
		}
		a := n.strong[n.terminal(l, 0, n.f.first[n.f.lampL[i]])]
		b := n.strong[n.terminal(l, 1, n.f.first[n.f.lampN[i]])]
		aLine, aBack := n.source(a)
		bLine, bBack := n.source(b)
		if aLine && bBack || aBack && bLine {
			return first
		}
		if n.split != 0 || n.s.tiesFree {
			out |= first
		}
	}
	return out
}

// readingBit is the bit of a reading that a person entered; 0 for one that counts
// for nothing.
func (v *view) readingBit(o circuit.Observation) outcome {
	switch r := o.Reading.(type) {
	case string:
		switch r {
		case "live", "closed", "lit":
			return first
		case "quiet", "open", "dark":
			return second
		case circuit.Trips:
			return tripped
		}
	case float64:
		return voltsBit(r, practice.Volts(v.doc))
	}
	return 0
}

func voltsBit(volts, nominal float64) outcome {
	switch {
	case volts < noneBelow*nominal:
		return first
	case volts > fullAbove*nominal:
		return second
	}
	return third
}

// wordsOf lists the readings of an instrument by bit.
func wordsOf(instrument string, nominal float64) []any {
	switch instrument {
	case circuit.NonContact:
		return []any{"live", "quiet"}
	case circuit.Continuity:
		return []any{"closed", "open"}
	case circuit.LampLook:
		return []any{"lit", "dark"}
	}
	return []any{0.0, nominal}
}

// inverse is every other reading of an instrument than this one.
func inverse(instrument string, bit outcome) outcome {
	switch instrument {
	case circuit.TwoPole, circuit.Multimeter:
		return (anything | tripped) &^ bit
	}
	return (first | second | tripped) &^ bit
}
