package names

import "ambivia/core/circuit"

// Book holds what everything in one circuit is called, for a page that has ids.
type Book struct {
	Boxes   map[string]string `json:"boxes"`   // by id: "Foot of the dome stair"
	Cables  map[string]string `json:"cables"`  // by id: "the cable between Foot and Head"
	To      map[string]string `json:"to"`      // by cable@box, as one says it in that box: "to Head"
	Devices map[string]string `json:"devices"` // by id: "the 3-way switch at Foot"
	Short   map[string]string `json:"short"`   // by id, in as few words as tell it: "Foot"
	Here    map[string]string `json:"here"`    // by id, as one says it in its box: "3-way switch"
	Parts   map[string]string `json:"parts"`   // by device.screw, without the device: "common", "centre contact"
	Screws  map[string]string `json:"screws"`  // by device.screw, in few words: "common of 3-way switch"
	Ends    map[string]string `json:"ends"`    // cores by core@box and screws by device.screw: "black to Head at Foot"
}

// Book lists all names of the circuit.
func (s Terms) Book() Book {
	b := Book{map[string]string{}, map[string]string{}, map[string]string{}, map[string]string{}, map[string]string{}, map[string]string{}, map[string]string{}, map[string]string{}, map[string]string{}}
	for _, x := range s.doc.Boxes {
		b.Boxes[x.ID] = s.Label(x.ID)
		for _, e := range s.doc.CoreEnds(x.ID) {
			b.Ends[e.String()] = s.End(e)
		}
	}
	for _, k := range s.doc.Cables {
		b.Cables[k.ID] = s.Cable(k.ID)
		for _, box := range k.Ends {
			if box != nil {
				b.To[k.ID+"@"+*box] = s.Towards(k.ID, *box)
			}
		}
	}
	for _, d := range s.doc.Devices {
		b.Devices[d.ID], b.Short[d.ID], b.Here[d.ID] = s.Device(d.ID), s.Short(d.ID), s.Title(d.ID)
		for _, part := range s.doc.Terminals(d) {
			e := circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: part}}
			b.Ends[e.String()] = s.End(e)
			b.Parts[e.String()], b.Screws[e.String()] = s.bareScrew(e.Ref), s.ShortScrew(e.Ref)
		}
	}
	return b
}
