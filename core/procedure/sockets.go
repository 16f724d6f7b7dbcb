package procedure

import (
	"slices"

	"ambivia/core/circuit"
)

// socket is a smart lamp that takes the place of a lamp in its socket, or leaves it. In the
// record it stands between the wires and the lamp; to a hand it is the lamp, and no wire
// moves for it.
type socket struct {
	dev, lamp string
	box       string
	in        bool
	apart     []changed
	together  []changed
}

// inSocket reports whether a device is a smart lamp that comes or goes.
func (d *difference) inSocket(dev string) bool {
	return slices.ContainsFunc(d.sockets, func(s socket) bool { return s.dev == dev })
}

// lampOf is the lamp whose socket a smart lamp is in, or "" for any other device.
func (d *difference) lampOf(dev string) string {
	for _, s := range d.sockets {
		if s.dev == dev {
			return s.lamp
		}
	}
	return ""
}

// sockets finds the smart lamps that come or go, and takes what happens inside a socket out
// of the joins that hands come apart and together.
func (w *writer) sockets() {
	d := w.difference
	for _, in := range []bool{true, false} {
		list, c := d.in, w.p.After
		if !in {
			list, c = d.out, w.p.Before
		}
		for _, dev := range list {
			if model, known := w.p.model(dev.ID); known && model.PerLamp {
				if lamp := c.LampBehind(dev.ID); lamp != nil {
					d.sockets = append(d.sockets, socket{dev: dev.ID, lamp: lamp.ID, box: dev.Box, in: in})
				}
			}
		}
	}
	for i := range d.sockets {
		s := &d.sockets[i]
		same := w.sameWires(s)
		inside := func(x changed) bool {
			if x.box != s.box || !slices.ContainsFunc(x.join.Of, func(m circuit.Ref) bool { return m.Owner == s.dev || m.Owner == s.lamp }) {
				return false
			}
			return same || !slices.ContainsFunc(x.moves, func(m circuit.Ref) bool { return w.isCore(m) })
		}
		s.apart, d.apart = part(d.apart, inside)
		s.together, d.together = part(d.together, inside)
	}
}

// part divides a list by a question.
func part(list []changed, is func(changed) bool) (yes, no []changed) {
	for _, x := range list {
		if is(x) {
			yes = append(yes, x)
		} else {
			no = append(no, x)
		}
	}
	return yes, no
}

func (w *writer) isCore(m circuit.Ref) bool {
	return w.p.Before.Cable(m.Owner) != nil || w.p.After.Cable(m.Owner) != nil
}

// sameWires reports whether the same cores come to the socket before and after.
func (w *writer) sameWires(s *socket) bool {
	bare, smart := w.p.Before, w.p.After
	if !s.in {
		bare, smart = smart, bare
	}
	lamp := w.coresWith(bare, s.box, circuit.Ref{Owner: s.lamp, Part: "l"})
	for _, t := range smart.Terminals(*smart.Device(s.dev)) {
		if with := w.coresWith(smart, s.box, circuit.Ref{Owner: s.dev, Part: t}); len(with) > 0 && slices.Equal(with, lamp) {
			return true
		}
	}
	return false
}

// coresWith lists the cores in the join of a screw, in a fixed order.
func (w *writer) coresWith(c *circuit.Circuit, box string, screw circuit.Ref) []string {
	var out []string
	if i := c.JoinOf(box, screw); i >= 0 {
		for _, m := range c.Joins[i].Of {
			if w.isCore(m) {
				out = append(out, m.String())
			}
		}
	}
	slices.Sort(out)
	return out
}

// lampsOut takes lamps out of their sockets. What parts two of them is parted before the first
// of them goes.
func (w *writer) lampsOut() {
	done := map[[2]circuit.Ref]bool{}
	for n, s := range w.difference.sockets {
		text := "Take the lamps of %s out of their sockets. Keep them: they are the way back."
		if !s.in {
			text = "Take the smart lamps of %s out of their sockets."
		}
		x := w.step(Lifting, KindTakeOut, s.box, text, w.was.Short(s.lamp))
		for k, other := range w.difference.sockets[n:] {
			for _, j := range other.apart {
				for _, m := range j.moves {
					pair := [2]circuit.Ref{m, j.with}
					if !done[pair] && (k == 0 || m.Owner == s.dev || j.with.Owner == s.dev) {
						done[pair] = true
						x.Edits = append(x.Edits, Note{Lift{other.box, m, j.with}})
					}
				}
				if k == 0 {
					w.ends(x, w.p.Before, w.was, j, w.found)
				}
			}
		}
		x.Wires = nil // no wire is touched
		if !s.in {
			dev := *w.p.Before.Device(s.dev)
			x.Edits = append(x.Edits, Note{TakeOut{s.box, dev, w.model(w.p.Before, dev)}})
		}
	}
}

// lampsIn puts lamps into their sockets. What joins two of them is joined when the second is in.
func (w *writer) lampsIn() {
	absent := map[string]bool{}
	for _, s := range w.difference.sockets {
		absent[s.dev] = s.in
	}
	var later []Join
	for _, s := range w.difference.sockets {
		text := "Put the old lamps of %s back into their sockets."
		if s.in {
			text = "Put the smart lamps into the sockets of %s."
		}
		x := w.step(Joining, KindMount, s.box, text, w.was.Short(s.lamp))
		x.Device = s.dev
		if s.in {
			dev := *w.p.After.Device(s.dev)
			x.Edits = append(x.Edits, Note{Mount{s.box, dev, w.model(w.p.After, dev)}})
			delete(absent, s.dev)
			w.fits(x, s.dev)
		}
		for _, j := range s.together {
			for _, m := range j.moves {
				later = append(later, Join{s.box, m, j.with})
			}
			w.ends(x, w.p.After, w.now, j, w.roles)
		}
		rest := later[:0]
		for _, e := range later {
			if absent[e.End.Owner] || absent[e.With.Owner] {
				rest = append(rest, e)
			} else {
				x.Edits = append(x.Edits, Note{e})
			}
		}
		later = rest
		x.Wires = nil
	}
}
