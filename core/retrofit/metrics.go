package retrofit

// Metrics are what an option amounts to, in numbers. Those behind a pointer are nil where they are
// not known, or where they do not apply.
type Metrics struct {
	BoxesTouched int `json:"boxesTouched"` // opened and worked in
	EndsMoved    int `json:"endsMoved"`    // core ends that are joined differently afterwards
	Remarked     int `json:"remarked"`     // of those, the ones that need a mark of another colour
	Capped       int `json:"capped"`       // of those, the ones that end in a cap for good
	Devices      int `json:"devices"`      // cases that are bought: gangs of one case are one
	Batteries    int `json:"batteries"`    // devices that live on one
	SwitchesKept int `json:"switchesKept"` // old switches that stay
	PlacesLost   int `json:"placesLost"`   // places from which nobody can switch any more
	Walks        int `json:"walks"`        // to the breaker, as the steps do them
	Ladders      int `json:"ladders"`      // boxes that are reached from one
	Bypasses     int `json:"bypasses,omitempty"`
	NewCables    int `json:"newCables,omitempty"`

	Connectors *int `json:"connectors,omitempty"` // pieces, which only the steps tell
	Pigtails   *int `json:"pigtails,omitempty"`   // with the other short wires, likewise

	Price           float64  `json:"price"`        // of the devices, in the catalogue's units
	Minutes         float64  `json:"minutes"`      // of work, about, which the steps tell too
	StandbyWatts    float64  `json:"standbyWatts"` // that the devices draw with the light off
	StandbyYear     float64  `json:"standbyYear"`  // the same in kWh a year
	StandbyCostYear *float64 `json:"standbyCostYear,omitempty"`
	LampsYear       *float64 `json:"lampsYear,omitempty"` // kWh a year at the hours of the wishes
	LampsCostYear   *float64 `json:"lampsCostYear,omitempty"`
	SavedAgainstKit *float64 `json:"savedAgainstKit,omitempty"` // by one device, against the cheapest two that come as a kit
	LampsInstead    *float64 `json:"lampsInstead,omitempty"`    // price of smart lamps for the same light
}

// add counts another option in, which is carried out together with this one.
func (m *Metrics) add(x *Metrics) {
	m.Remarked += x.Remarked
	m.Capped += x.Capped
	m.Devices += x.Devices
	m.Batteries += x.Batteries
	m.SwitchesKept += x.SwitchesKept
	m.PlacesLost += x.PlacesLost
	m.Bypasses += x.Bypasses
	m.NewCables += x.NewCables
	m.Price += x.Price
	m.StandbyWatts += x.StandbyWatts
	m.StandbyYear += x.StandbyYear
	for _, sum := range []struct {
		of *(*float64)
		by *float64
	}{
		{&m.StandbyCostYear, x.StandbyCostYear}, {&m.LampsYear, x.LampsYear}, {&m.LampsCostYear, x.LampsCostYear},
	} {
		if sum.by == nil {
			continue
		}
		total := *sum.by
		if *sum.of != nil {
			total += **sum.of
		}
		*sum.of = &total
	}
}

// What weighs in the effort of an option. A box opened costs more than an end moved, and that more than
// tape; a device more is bought and kept alive for years; a new cable in a finished house costs most.
const (
	effortPerBox    = 6
	effortPerEnd    = 1.5
	effortPerMark   = 1
	effortPerDevice = 4
	effortPerLadder = 10
	effortPerCable  = 60
)

// effort weighs what there is to do.
func (m *Metrics) effort() float64 {
	return effortPerBox*float64(m.BoxesTouched) + effortPerEnd*float64(m.EndsMoved) + effortPerMark*float64(m.Remarked) +
		effortPerDevice*float64(m.Devices) + effortPerLadder*float64(m.Ladders) + effortPerCable*float64(m.NewCables)
}

// rounded is a known number with two digits behind the point.
func rounded(x float64) *float64 {
	x = round(x)
	return &x
}
