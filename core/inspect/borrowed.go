package inspect

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
	"ambivia/core/sets"
)

// borrowed is a load whose current comes from one breaker and goes back in the cable of another, to the bar that both share.
type borrowed struct {
	load      string
	from, way string // breakers
	at        circuit.End
}

// borrowedOnBar finds them: what a load's neutral hangs together with outside the panels is the cable of another breaker.
func (i *inspector) borrowedOnBar() []borrowed {
	if i.supplies() < 2 {
		return nil
	}
	ends := i.net.Ends()
	index := map[circuit.End]int{}
	for n, e := range ends {
		index[e] = n
	}
	apart := sets.New(len(ends)) // what hangs together where no panel joins it
	number := func(r circuit.Ref, box string) (int, bool) {
		n, ok := index[circuit.End{Ref: r, Box: box}]
		if !ok {
			n, ok = index[circuit.End{Ref: r}]
		}
		return n, ok
	}
	for _, j := range i.doc.Joins {
		if b := i.doc.Box(j.Box); b == nil || b.Kind == circuit.Panel {
			continue
		}
		first, known := number(j.Of[0], j.Box)
		for _, m := range j.Of[1:] {
			if n, ok := number(m, j.Box); ok && known {
				apart.Unite(first, n)
			}
		}
	}
	owner := map[int]string{} // by what hangs together: the breaker in whose cable it leaves the panel
	hot := map[int]string{}   // by conductor
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeSupply {
			hot[i.net.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "hot"}})] = d.ID
		}
	}
	for _, k := range i.doc.Cables {
		if k.Stub() {
			continue
		}
		breaker := ""
		for _, core := range k.Cores {
			a, b := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[0]}, circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[1]}
			apart.Unite(index[a], index[b])
			if i.fromPanel(k) && hot[i.net.Class(a)] != "" {
				breaker = hot[i.net.Class(a)]
			}
		}
		for _, core := range k.Cores {
			e := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[0]}
			if breaker != "" && i.onSupply(e) {
				owner[index[e]] = breaker
			}
		}
	}
	returns := map[int]string{}
	for n, breaker := range owner {
		root := apart.Root(n)
		if other, known := returns[root]; known && other != breaker {
			breaker = "" // neutrals that are joined in the wall, which is another fault
		}
		returns[root] = breaker
	}
	var out []borrowed
	for l, id := range i.net.LampIDs() {
		n := circuit.End{Ref: circuit.Ref{Owner: id, Part: "n"}}
		way := returns[apart.Root(index[n])]
		for _, s := range i.result.States {
			if !s.Lit[l] || way == "" {
				continue
			}
			if from := i.net.Solve(s.State).FedBy(id); from != "" && from != way {
				out = append(out, borrowed{id, from, way, n})
				break
			}
		}
	}
	return out
}

// fromPanel reports whether a cable comes out of a panel.
func (i *inspector) fromPanel(k circuit.Cable) bool {
	return slices.ContainsFunc(k.Ends[:], func(box *string) bool { return box != nil && i.doc.Box(*box).Kind == circuit.Panel })
}

// nameBorrowed tells of borrowed neutrals by name, in the place of every cable whose currents they leave unbalanced.
func (i *inspector) nameBorrowed(say names.Terms) {
	if slices.ContainsFunc(i.found, func(f Finding) bool {
		return f.Code == string(electric.BorrowedNeutral) || f.Code == string(electric.NeutralsJoined)
	}) {
		return // told already, where the breakers have no bar in common
	}
	list := i.borrowedOnBar()
	if len(list) == 0 {
		return
	}
	i.found = slices.DeleteFunc(i.found, func(f Finding) bool { return f.Code == string(electric.CableUnbalanced) })
	for _, x := range list {
		i.add(string(electric.BorrowedNeutral), Error, []circuit.End{x.at},
			say.Expand(names.Capitalize(say.Device(x.load))+" is fed by "+say.Breaker(x.from)+", and its current goes back in the cable of "+say.Breaker(x.way)+": a borrowed {neutral}. With "+say.Breaker(x.way)+" off that {neutral} still carries it."),
			say.Expand("Give it the {neutral} that comes with its {line}. Until then turn both off, and test the {neutral} too before touching it."))
	}
}
