package api

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"io"
	"net/http"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
	"ambivia/core/survey"
	"ambivia/store"
)

// ask reads what is wished for a circuit, and everybody's own devices; key is what both were made of.
func (s *Server) request(ctx context.Context, id string) (request retrofit.Request, key string, err error) {
	request, _, key, err = s.requestVersioned(ctx, id)
	return request, key, err
}

// askVersioned is [Server.ask] with the version of the wishes, read in one: a version beside other
// wishes than its own would let a page replace what nobody saw.
func (s *Server) requestVersioned(ctx context.Context, id string) (request retrofit.Request, version, key string, err error) {
	wishes, err := s.store.Wishes(ctx, id)
	if err != nil {
		return request, "", "", err
	}
	if wishes.Data != nil {
		if err := json.Unmarshal(wishes.Data, &request.Wishes); err != nil {
			return request, "", "", err
		}
	}
	own, _, key, err := s.ownDevices(ctx)
	request.Library = device.NewLibrary(own)
	return request, wishes.Version, string(wishes.Data) + key, err
}

// ownDevices are people's own device models with the version of each by its id; key is what they were
// made of.
func (s *Server) ownDevices(ctx context.Context) (own []device.Device, versions map[string]string, key string, err error) {
	list, err := s.store.Devices(ctx)
	if err != nil {
		return nil, nil, "", err
	}
	versions = map[string]string{}
	sum := fnv.New64a()
	for _, kept := range list {
		var d device.Device
		if err := json.Unmarshal(kept.Data, &d); err != nil {
			return nil, nil, "", err
		}
		own = append(own, d)
		versions[d.ID] = kept.Version
		sum.Write(kept.Data)
	}
	return own, versions, fmt.Sprintf(" %x", sum.Sum64()), nil
}

// plan is the plan of a circuit at its head, remembered.
func (s *Server) plan(ctx context.Context, o *opened) (*retrofit.Result, error) {
	request, key, err := s.request(ctx, o.ID)
	if err != nil {
		return nil, err
	}
	key = fmt.Sprintf("%s/%s/%s", o.ID, o.Head.ID, key)
	if answer, known := s.plans.Get(key); known {
		return answer, nil
	}
	answer, err := askOnce(ctx, s.desk, "plan "+key, func(ctx context.Context) (*retrofit.Result, error) {
		answer, err := procedure.Plan(ctx, o.found, request)
		if err == nil {
			for i := range answer.Options { // a document for each would be more than is asked for
				answer.Options[i] = answer.Options[i].WithoutDocument()
			}
		}
		return answer, err
	})
	if err != nil {
		return nil, err
	}
	s.plans.Add(key, answer)
	return answer, nil
}

// offered is one option of a circuit by itself, with its document, remembered; nil where there is none.
func (s *Server) offered(ctx context.Context, c *opened, id string) (*retrofit.Option, error) {
	request, key, err := s.request(ctx, c.ID)
	if err != nil {
		return nil, err
	}
	key = fmt.Sprintf("%s/%s/%s/%s", c.ID, c.Head.ID, id, key)
	if option, known := s.offers.Get(key); known {
		return option, nil
	}
	option, err := askOnce(ctx, s.desk, "offer "+key, func(context.Context) (*retrofit.Option, error) { return procedure.Offer(c.found, request, id), nil })
	if option == nil || err != nil {
		return nil, err
	}
	option.Compiled()
	s.offers.Add(key, option)
	return option, nil
}

// offer is one option of a circuit's plan with its document, judged among the others.
func (s *Server) offer(ctx context.Context, c *opened, id string) (*retrofit.Option, error) {
	answer, err := s.plan(ctx, c)
	if err != nil {
		return nil, err
	}
	o, err := s.offered(ctx, c, id)
	switch {
	case err != nil:
		return nil, err
	case o == nil:
		return nil, errUnknownOption
	}
	for _, listed := range answer.Options {
		if listed.ID == id && listed.Feasible {
			return listed.With(o), nil
		}
	}
	return o, nil
}

var errUnknownOption = &problemError{http.StatusUnprocessableEntity, "unknown-option", "option", "the plan offers no such option for this circuit"}

// Plan lists the options, without the documents that they would become.
func (s *Server) Plan(ctx context.Context, r PlanRequestObject) (PlanResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	answer, err := s.plan(ctx, o)
	if err != nil {
		return nil, err
	}
	out := retrofit.Result{Options: []retrofit.Option{}, Conflicts: answer.Conflicts, Narrow: answer.Narrow, First: answer.First}
	out.Options = append(out.Options, answer.Options...)
	return Plan200JSONResponse(out), nil
}

// ShowOption returns one option with what each box would hold afterwards.
func (s *Server) ShowOption(ctx context.Context, r ShowOptionRequestObject) (ShowOptionResponseObject, error) {
	c, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	o, err := s.offer(ctx, c, r.Option)
	if err != nil {
		return nil, err
	}
	if c.option != nil && c.option.ID == o.ID { // chosen: what its rules hold is shown
		set, _, err := s.made(ctx, c)
		if err != nil {
			return nil, err
		}
		o = set.Hold(o)
	}
	return ShowOption200JSONResponse{Option: o.WithoutDocument(), Strip: survey.Strip(o.After, o.Compiled().Roles())}, nil
}

// Choose writes the choice of an option, or takes it back, as a revision.
func (s *Server) Choose(ctx context.Context, r ChooseRequestObject) (ChooseResponseObject, error) {
	request, _, err := s.request(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	out, err := s.change(ctx, r.Circuit, r.Body.Base, func(c *opened) (revised, error) {
		doc := c.doc()
		data, err := circuit.Encode(doc)
		if err != nil || r.Body.Option == "" {
			return revised{store.Change{Summary: "Choice taken back", Document: data}, doc}, err
		}
		if o := procedure.Offer(c.found, request, r.Body.Option); o != nil {
			if on := o.PlannedOn(c.found).Doc; on != c.found.Doc { // half known: what it was planned on becomes the record, as assumed
				doc = on
				o = o.AsPlanned()
				if data, err = circuit.Encode(doc); err != nil {
					return revised{}, err
				}
			}
			planned, err := json.Marshal(o)
			return revised{store.Change{Summary: "Chosen: " + o.Title, Document: data, Choice: o.ID, Planned: planned}, doc}, err
		}
		return revised{}, errUnknownOption
	})
	return Choose200JSONResponse(out), err
}

func (s *Server) wishesAnswer(ctx context.Context, id string) (WishesAnswer, error) {
	o, err := s.load(ctx, id)
	if err != nil {
		return WishesAnswer{}, err
	}
	request, version, _, err := s.requestVersioned(ctx, id)
	if err != nil {
		return WishesAnswer{}, err
	}
	out := WishesAnswer{Version: version, Wishes: request.Wishes, Known: []WishWord{}, Schools: []Convention{}, Radios: device.Radios, Colours: request.Library.Colours(), Fixable: []string{}}
	for _, role := range retrofit.FixableRoles {
		out.Fixable = append(out.Fixable, string(role))
	}
	say := o.found.Terms()
	for _, w := range retrofit.WishWords {
		out.Known = append(out.Known, WishWord{Id: w.ID, Text: w.Text})
	}
	for _, convention := range retrofit.Conventions {
		convention.Asks, convention.Why = say.Expand(convention.Asks), say.Expand(convention.Why)
		choices := convention.Choices
		convention.Choices = nil
		for _, c := range choices {
			convention.Choices = append(convention.Choices, retrofit.ConventionChoice{ID: c.ID, Text: say.Expand(c.Text), Consequence: say.Expand(c.Consequence)})
		}
		out.Schools = append(out.Schools, convention)
	}
	return out, nil
}

// Wishes returns what is wished for a circuit and what may be.
func (s *Server) Wishes(ctx context.Context, r WishesRequestObject) (WishesResponseObject, error) {
	out, err := s.wishesAnswer(ctx, r.Circuit)
	return Wishes200JSONResponse(out), err
}

// Wish keeps what is wished for a circuit, in the stead of what the caller saw.
func (s *Server) Wish(ctx context.Context, r WishRequestObject) (WishResponseObject, error) {
	var wrong *retrofit.WishError
	if err := r.Body.Wishes.Validate(); errors.As(err, &wrong) {
		return nil, &problemError{http.StatusUnprocessableEntity, "wishes", wrong.Place, wrong.Text}
	}
	data, err := json.Marshal(r.Body.Wishes)
	if err != nil {
		return nil, err
	}
	if err := stale(s.store.Wish(ctx, r.Circuit, r.Body.Base, data), "what is wanted", func() (string, error) {
		now, err := s.store.Wishes(ctx, r.Circuit)
		return now.Version, err
	}); err != nil {
		return nil, err
	}
	out, err := s.wishesAnswer(ctx, r.Circuit)
	return Wish200JSONResponse(out), err
}

// deviceProblem is an error of a device model as an answer.
func deviceProblem(err error) error {
	var e *device.Error
	if errors.As(err, &e) {
		return &problemError{http.StatusUnprocessableEntity, "device-" + e.Code, e.Place, e.Error()}
	}
	return err
}

// Devices lists the catalogue and people's own device models.
func (s *Server) Devices(ctx context.Context, r DevicesRequestObject) (DevicesResponseObject, error) {
	own, versions, _, err := s.ownDevices(ctx)
	if err != nil {
		return nil, err
	}
	say := names.For(&circuit.Circuit{Practice: string(r.Params.Practice)})
	out := Devices200JSONResponse{Devices: []LibraryDevice{}, Kinds: device.Kinds}
	for _, d := range device.NewLibrary(own).All() {
		known := LibraryDevice{Device: d, Text: say.Expand(d.About)}
		if v := versions[d.ID]; v != "" {
			known.Own, known.Version = true, &v
		}
		out.Devices = append(out.Devices, known)
	}
	return out, nil
}

// readDevice reads one device model out of a request, and tries it.
func readDevice(body map[string]any) (device.Device, error) {
	raw, err := json.Marshal(map[string]any{"format": device.Format, "devices": []any{body}})
	if err != nil {
		return device.Device{}, err
	}
	list, err := device.Read(raw)
	if err != nil {
		var e *device.Error
		if errors.As(err, &e) {
			e.Place = strings.TrimPrefix(strings.TrimPrefix(e.Place, "devices[0]"), ".")
		}
		return device.Device{}, deviceProblem(err)
	}
	return list[0], nil
}

// AddDevice keeps a device model that behaves.
func (s *Server) AddDevice(ctx context.Context, r AddDeviceRequestObject) (AddDeviceResponseObject, error) {
	d, err := readDevice(*r.Body)
	if err != nil {
		return nil, err
	}
	if err := s.keepDevices(ctx, []device.Device{d}, map[string]string{d.ID: deref(r.Params.Base)}); err != nil {
		return nil, err
	}
	_, versions, _, err := s.ownDevices(ctx)
	if err != nil {
		return nil, err
	}
	version := versions[d.ID]
	kept := LibraryDevice{Own: true, Version: &version, Device: d, Text: d.About}
	if r.Params.Base == nil {
		return AddDevice201JSONResponse(kept), nil
	}
	return AddDevice200JSONResponse(kept), nil
}

// keepDevices keeps device models in the stead of the versions that somebody saw.
func (s *Server) keepDevices(ctx context.Context, list []device.Device, seen map[string]string) error {
	byID := map[string]store.Versioned{}
	for _, d := range list {
		data, err := json.Marshal(d)
		if err != nil {
			return err
		}
		byID[d.ID] = store.Versioned{Version: seen[d.ID], Data: data}
	}
	stale, err := s.store.PutDevices(ctx, byID)
	if errors.Is(err, store.ErrStale) {
		return &problemError{http.StatusConflict, "stale", "id", "there is another model, or another version of it, with the id " + strings.Join(stale, ", ") + "; nothing was written"}
	}
	return err
}

// TryDevice puts a device model on the bench and keeps nothing.
func (s *Server) TryDevice(_ context.Context, r TryDeviceRequestObject) (TryDeviceResponseObject, error) {
	_, err := readDevice(*r.Body)
	var p *problemError
	switch {
	case errors.As(err, &p):
		return TryDevice200JSONResponse{Behaves: false, Text: p.detail}, nil
	case err != nil:
		return nil, err
	}
	return TryDevice200JSONResponse{Behaves: true, Text: "On the bench it switches its lamp from every place and in every state, and is awake in each."}, nil
}

// ExportDevices writes people's own device models as a file.
func (s *Server) ExportDevices(ctx context.Context, _ ExportDevicesRequestObject) (ExportDevicesResponseObject, error) {
	own, _, _, err := s.ownDevices(ctx)
	if err != nil {
		return nil, err
	}
	if own == nil {
		own = []device.Device{}
	}
	data, err := device.Write(own)
	return ExportDevices200ApplicationoctetStreamResponse{Body: bytes.NewReader(data), ContentLength: int64(len(data)), Headers: ExportDevices200ResponseHeaders{attachment("devices", ".json")}}, err
}

// ImportDevices reads a file of device models; all of them are kept, or none.
func (s *Server) ImportDevices(ctx context.Context, r ImportDevicesRequestObject) (ImportDevicesResponseObject, error) {
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, badRequest(err)
	}
	list, err := device.Read(data)
	if err != nil {
		return nil, deviceProblem(err)
	}
	seen := map[string]string{}
	if r.Params.Replace != nil && *r.Params.Replace {
		if _, seen, _, err = s.ownDevices(ctx); err != nil {
			return nil, err
		}
	}
	return ImportDevices200JSONResponse{Kept: len(list)}, s.keepDevices(ctx, list, seen)
}

// DeleteDevice forgets a device model.
func (s *Server) DeleteDevice(ctx context.Context, r DeleteDeviceRequestObject) (DeleteDeviceResponseObject, error) {
	err := s.store.DeleteDevice(ctx, r.Device, deref(r.Params.Base))
	if errors.Is(err, store.ErrStale) {
		err = &staleError{"the model", "", []string{}}
	}
	return DeleteDevice204Response{}, err
}

// deref is what a parameter says, and nothing where it was left out.
func deref[T any](of *T) T {
	if of == nil {
		var none T
		return none
	}
	return *of
}
