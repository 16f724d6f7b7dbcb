package circuit

import (
	"crypto/sha256"
	"encoding/json"
)

// Key writes a test without its reading, to know it again.
func (o Observation) Key() string {
	text := make([]byte, 0, 256)
	add := func(words ...string) {
		for _, w := range words {
			text = append(text, w...)
		}
	}
	ref := func(r Ref) { add(" ", r.Owner, ".", r.Part) }
	end := func(e End) {
		ref(e.Ref)
		add("@", e.Box)
	}
	add(o.Power, " ", o.Instrument, " ", o.Light)
	for _, e := range o.At {
		end(e)
	}
	for _, list := range [][]string{o.Flipped, o.LampsOut} {
		add(" |")
		for _, id := range list {
			add(" ", id)
		}
	}
	for _, r := range o.Lifted {
		ref(r)
	}
	for _, group := range o.Tied {
		add(" +")
		for _, e := range group {
			end(e)
		}
	}
	return string(text)
}

// Same reports whether two observations are of one test, with one reading at one time.
func (o Observation) Same(x Observation) bool {
	return o.Reading == x.Reading && o.Time == x.Time && o.Key() == x.Key()
}

// SurveyMark tells records apart by all but what was read and confirmed: two with one mark are one survey.
func (c *Circuit) SurveyMark() string {
	bare := *c
	bare.Observations, bare.Gates = nil, nil
	text, err := json.Marshal(&bare)
	if err != nil {
		return "" // a document always marshals: it was read from JSON
	}
	sum := sha256.Sum256(text)
	return string(sum[:])
}
