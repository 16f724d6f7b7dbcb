// Package device holds the catalogue of generic smart devices: data of our
// own, in no maker's likeness. A device's behaviour is a [circuit.Model], so
// that whoever reads a planned document can simulate it without this catalogue.
package device

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"sync"

	"ambivia/core/circuit"
)

// Device is one generic smart device. About says in a sentence what it does.
type Device struct {
	ID    string        `json:"id"`
	Name  string        `json:"name"`
	About string        `json:"about"`
	Model circuit.Model `json:"model"`
}

//go:embed catalogue.json
var data []byte

var catalogue = sync.OnceValue(func() map[string]Device {
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	var list []Device
	if err := dec.Decode(&list); err != nil {
		panic("device: the embedded catalogue is unusable: " + err.Error())
	}
	byID := make(map[string]Device, len(list))
	for _, d := range list {
		byID[d.ID] = d
	}
	return byID
})

// Get returns the device with the id. The families of package retrofit name
// devices of the embedded catalogue only, so an unknown id is a bug and panics.
func Get(id string) Device {
	d, ok := catalogue()[id]
	if !ok {
		panic(fmt.Sprintf("device: the catalogue has no %q", id))
	}
	return d
}
