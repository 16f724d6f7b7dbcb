package inspect

import (
	"sync"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// Compiled is a circuit with all that is computed of it: its network, the roles of its conductors,
// its states and the report on them. Each is made when it is first asked for, once, and kept, since
// planning, steps, drawings and sheets all ask for the same. The document must not change any more.
// It is safe to share.
type Compiled struct {
	Doc     *circuit.Circuit
	Network *electric.Network

	explore sync.Once
	result  *electric.Result
	inspect sync.Once
	report  *Report
}

// Compile compiles a valid document.
func Compile(c *circuit.Circuit) *Compiled {
	return &Compiled{Doc: c, Network: electric.New(c)}
}

// Roles gives the role of each end, as [electric.Network.Roles] does.
func (k *Compiled) Roles() map[circuit.End]electric.Role { return k.Network.Roles() }

// Terms are the words of the circuit's practice for it.
func (k *Compiled) Terms() names.Terms { return names.For(k.Doc) }

// Result is what the circuit does in every state that it can reach.
func (k *Compiled) Result() *electric.Result {
	k.explore.Do(func() { k.result = electric.Explore(k.Network) })
	return k.result
}

// Report is the report on all those states. Whoever wants to leave parts of it out copies it first.
func (k *Compiled) Report() *Report {
	k.inspect.Do(func() { k.report = ReportOn(k.Result()) })
	return k.report
}
