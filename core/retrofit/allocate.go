package retrofit

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// allocation gives each core that a plan needs its net.
type allocation struct {
	of   map[circuit.Ref]*net
	shut map[string]bool        // boxes on a ladder that it tries to leave alone
	led  map[circuit.Ref]string // cores that carry a net on for that: the box in which they are joined
}

// Costs of an allocation: what a person would have to do. A lamp box needs a
// ladder; a panel is not opened for this work.
const (
	costMoveEnd   = 4
	costLadder    = 3
	costNoLadder  = 0.5 // less where the core may be joined from the floor: of two alike that one is taken
	costPanel     = 200
	costKeptBox   = 5 // a box of a switch that could stay untouched
	costRemark    = 2
	costNewRole   = 1
	costAway      = 3 // a cable beside the group's own: hot and return run in one cable
	costForbidden = 1e9
)

// allocate finds a core for every net in every span that it crosses, at least
// cost, or says which spans are too thin.
func (p *planner) allocate(d *requirement) (*allocation, []Reason) {
	p.lead(d)
	out := &allocation{of: map[circuit.Ref]*net{}}
	var reasons []Reason
	for _, x := range d.nets {
		if x.role == electric.RoleGround || len(x.terminals) == 0 {
			continue
		}
		for _, q := range x.terminals[1:] {
			if p.boxTree.root[q.box] != p.boxTree.root[x.terminals[0].box] {
				reasons = append(reasons, *because("no-route", fmt.Sprintf("No recorded cable leads from %s to %s, and %s must run there. A cable between them would free it.",
					p.say.Box(x.terminals[0].box), p.say.Box(q.box), p.word(x)), []circuit.End{}))
				break
			}
		}
	}
	for _, i := range p.boxTree.order() {
		s := p.boxTree.spans[i]
		var nets []*net
		for _, x := range p.inOrder(d.nets) {
			if x.role != electric.RoleGround && x.role != electric.Unused && p.boxTree.crosses(x, i) {
				nets = append(nets, x)
			}
		}
		if len(nets) == 0 {
			continue
		}
		var cores []circuit.Ref
		for _, k := range s.cables {
			for _, core := range k.Cores {
				if !circuit.GroundColour(core) {
					cores = append(cores, circuit.Ref{Owner: k.ID, Part: core})
				}
			}
		}
		slices.SortFunc(cores, p.compare)
		if r := p.match(d, out, s, nets, cores); r != nil {
			reasons = append(reasons, *r)
		}
	}
	if reasons == nil {
		reasons = p.unmet(d, out)
	}
	if reasons != nil {
		return nil, reasons
	}
	return out, nil
}

// inOrder sorts nets by what they join, so that the order of the record decides nothing.
func (p *planner) inOrder(nets []*net) []*net {
	least := map[*net]circuit.Ref{}
	for _, x := range nets {
		for i, q := range x.terminals {
			if i == 0 || p.compare(q.ref, least[x]) < 0 {
				least[x] = q.ref
			}
		}
	}
	out := slices.Clone(nets)
	slices.SortStableFunc(out, func(a, b *net) int {
		return cmp.Or(strings.Compare(string(a.role), string(b.role)), cmp.Compare(min(1, len(a.terminals)), min(1, len(b.terminals))), p.compare(least[a], least[b]))
	})
	return out
}

// compare orders cores and terminals as the circuit lists them, which [circuit.Circuit.InOrder] did; what a
// plan adds comes after them, by name.
func (p *planner) compare(a, b circuit.Ref) int {
	place := func(id string) int {
		if at, ok := p.place[id]; ok {
			return at
		}
		return len(p.place)
	}
	return cmp.Or(cmp.Compare(place(a.Owner), place(b.Owner)), a.Compare(b))
}

// match assigns the cores of one span to the nets that cross it.
func (p *planner) match(d *requirement, out *allocation, s span, nets []*net, cores []circuit.Ref) *Reason {
	cost := make([][]float64, len(nets))
	for i, x := range nets {
		cost[i] = make([]float64, max(len(cores), len(nets)))
		for j := range cost[i] {
			cost[i][j] = costForbidden
			if j < len(cores) {
				cost[i][j] = p.cost(d, out, x, cores[j], s)
			}
		}
	}
	total := 0.0
	chosen := assign(cost)
	for i, j := range chosen {
		total += cost[i][j]
	}
	if total < costForbidden {
		for i, j := range chosen {
			out.of[cores[j]] = nets[i]
		}
		return nil
	}
	if r := p.whyFixed(d, out, s, nets, cores); r != nil {
		return r
	}
	var needs, colours []string
	for _, x := range nets {
		needs = append(needs, p.word(x))
	}
	var at []circuit.End
	for _, c := range cores {
		colours = append(colours, c.Part)
		at = append(at, circuit.End{Ref: c, Box: s.a})
	}
	number := len(needs)
	needs = tally(needs)
	has := "has"
	if len(s.cables) > 1 {
		has = "have"
	}
	text := fmt.Sprintf("%s %s %s (%s) beside %s; this needs %s: %s.", upper(cablesOf(p.say, s)), has, count(len(cores)), strings.Join(colours, ", "),
		p.say.Word("ground"), numeral(number), strings.Join(needs, ", "))
	code := "too-few-cores"
	conduit := slices.ContainsFunc(s.cables, func(k circuit.Cable) bool { return p.say.AreSingles(k.Cores) })
	if len(cores) >= len(nets) {
		code = "colours"
		text += " The number would do, but not the colours: " + p.colourTrouble(nets, cores) + fmt.Sprintf(". A cable with %s of colours that may would free it.", count(len(nets)))
	} else if more := len(nets) - len(cores); conduit && more == 1 {
		text += " One more single drawn into that conduit would free it."
	} else if conduit {
		text += fmt.Sprintf(" %s more singles drawn into that conduit would free it.", names.Capitalize(numeral(more)))
	} else {
		text += fmt.Sprintf(" A cable with %s there would free it.", count(len(nets)))
	}
	r := because(code, text, at)
	r.thin = &thin{s, len(nets), len(cores)}
	return r
}

func (p *planner) colourTrouble(nets []*net, cores []circuit.Ref) string {
	for _, x := range nets {
		fits := slices.ContainsFunc(cores, func(c circuit.Ref) bool {
			allowed, _ := p.say.May(c.Part, string(x.role))
			return allowed
		})
		if !fits {
			return "no core there may carry " + p.word(x)
		}
	}
	return "two conductors would need the same core"
}

// cost says what it takes to let a core carry a net. A core that carries the
// net already may go on doing so whatever its colour.
func (p *planner) cost(d *requirement, out *allocation, x *net, core circuit.Ref, s span) float64 {
	ends := []circuit.End{{Ref: core, Box: s.a}, {Ref: core, Box: s.b}}
	same := x.class >= 0 && p.net.Class(ends[0]) == x.class
	allowed, remark := p.say.May(core.Part, string(x.role))
	if !allowed && !same || p.replaced[core.Owner] || p.contrary(x, core, s) {
		return costForbidden
	}
	cost := 0.0
	if !d.home[core.Owner] && slices.ContainsFunc(s.cables, func(k circuit.Cable) bool { return d.home[k.ID] }) {
		cost += costAway
	}
	if remark && p.doc.MarkOn(ends[0]) == "" {
		cost += costRemark
	}
	if !same && p.roles[ends[0]] != electric.Unused {
		cost += costNewRole
	}
	for _, e := range ends {
		if same || p.standsWith(x, e) || p.goesOn(out, x, e) {
			continue
		}
		cost += costMoveEnd
		switch p.doc.Box(e.Box).Kind {
		case circuit.Panel:
			cost += costPanel
		case circuit.Fixture, circuit.Junction:
			cost += costLadder
			if _, _, ok := p.wayRound(d, &allocation{}, x, core, e.Box); ok && x.class >= 0 {
				cost -= costNoLadder
			}
		}
		if slices.Contains(d.keepAt, e.Box) {
			cost += costKeptBox
		}
	}
	return cost
}

// standsWith reports whether the end shares its join already with a terminal
// that the net keeps in this box.
func (p *planner) standsWith(x *net, e circuit.End) bool {
	j := p.joinOf(e.Box, e.Ref)
	if j < 0 {
		return false
	}
	return slices.ContainsFunc(x.terminals, func(q terminal) bool {
		return q.box == e.Box && slices.Contains(p.doc.Joins[j].Of, q.ref)
	})
}

// goesOn reports whether the end is joined as found to a core that the net was given already,
// and to nothing else.
func (p *planner) goesOn(out *allocation, x *net, e circuit.End) bool {
	j := p.joinOf(e.Box, e.Ref)
	return j >= 0 && len(p.doc.Joins[j].Of) == 2 && slices.ContainsFunc(p.doc.Joins[j].Of, func(m circuit.Ref) bool { return out.of[m] == x })
}

// assign solves the assignment problem by the Hungarian method with
// potentials: rows are at most as many as columns, and each row gets a column of
// its own at least total cost.
func assign(cost [][]float64) []int {
	rows, cols := len(cost), len(cost[0])
	u, v := make([]float64, rows+1), make([]float64, cols+1)
	match, way := make([]int, cols+1), make([]int, cols+1)
	for i := 1; i <= rows; i++ {
		match[0] = i
		j0 := 0
		least := make([]float64, cols+1)
		used := make([]bool, cols+1)
		for j := range least {
			least[j] = math.Inf(1)
		}
		for {
			used[j0] = true
			i0, delta, j1 := match[j0], math.Inf(1), 0
			for j := 1; j <= cols; j++ {
				if used[j] {
					continue
				}
				if c := cost[i0-1][j-1] - u[i0] - v[j]; c < least[j] {
					least[j], way[j] = c, j0
				}
				if least[j] < delta {
					delta, j1 = least[j], j
				}
			}
			for j := 0; j <= cols; j++ {
				if used[j] {
					u[match[j]] += delta
					v[j] -= delta
				} else {
					least[j] -= delta
				}
			}
			j0 = j1
			if match[j0] == 0 {
				break
			}
		}
		for j0 != 0 {
			j1 := way[j0]
			match[j0] = match[j1]
			j0 = j1
		}
	}
	out := make([]int, rows)
	for j := 1; j <= cols; j++ {
		if match[j] > 0 {
			out[match[j]-1] = j - 1
		}
	}
	return out
}

var numerals = []string{"no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"}

func numeral(n int) string {
	if n < len(numerals) {
		return numerals[n]
	}
	return fmt.Sprint(n)
}

func count(cores int) string {
	if cores == 1 {
		return "one core"
	}
	return numeral(cores) + " cores"
}

// tally sorts words and counts those that stand more than once: "2 travelers".
func tally(words []string) []string {
	slices.Sort(words)
	var out []string
	for i := 0; i < len(words); {
		n := 1
		for i+n < len(words) && words[i+n] == words[i] {
			n++
		}
		if n == 1 {
			out = append(out, words[i])
		} else {
			out = append(out, fmt.Sprintf("%d %ss", n, words[i]))
		}
		i += n
	}
	return out
}
