package exchange

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"time"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/prove"
	"ambivia/core/record"
	"ambivia/core/retrofit"
	"ambivia/core/schedule"
	"ambivia/store"
)

// Entries reads the log of a circuit as the store keeps it.
func Entries(kept []store.Logged) ([]fitting.Entry, error) {
	out := make([]fitting.Entry, len(kept))
	for i, k := range kept {
		if err := json.Unmarshal(k.Data, &out[i]); err != nil {
			return nil, fmt.Errorf("entry %d of the log: %w", k.Number, err)
		}
		out[i].Number, out[i].Time, out[i].By = k.Number, k.Created, k.By
	}
	return out, nil
}

// Record is what is handed over of a job that was read from an archive, and of which nothing was written anywhere.
func (j *Job) Record(ctx context.Context, date time.Time) (*record.Record, error) {
	out := &record.Record{Job: j.Name, Date: date}
	if j.Firm != nil {
		out.Firm = *j.Firm
	}
	if j.Customer != nil {
		out.Customer = *j.Customer
	}
	library, err := j.library()
	if err != nil {
		return nil, err
	}
	for _, whole := range j.Circuits {
		c, err := recorded(ctx, whole, library)
		if err != nil {
			return nil, err
		}
		out.Circuits = append(out.Circuits, c)
	}
	return out, nil
}

// library is the catalogue with the models that came with the job.
func (j *Job) library() (*device.Library, error) {
	var own []device.Device
	for _, id := range slices.Sorted(maps.Keys(j.devices)) {
		var d device.Device
		if err := json.Unmarshal(j.devices[id], &d); err != nil {
			return nil, err
		}
		own = append(own, d)
	}
	return device.NewLibrary(own), nil
}

// recorded is the record of one circuit at its head.
func recorded(ctx context.Context, whole *store.Whole, library *device.Library) (*record.Circuit, error) {
	src := record.Source{Library: library}
	for _, p := range whole.History {
		if p.Number != whole.Head {
			continue
		}
		doc, err := circuit.Parse(p.Document)
		if err != nil {
			return nil, err
		}
		src.Found = inspect.Compile(doc)
		if len(p.Planned) > 0 {
			src.Option = &retrofit.Option{}
			if err := json.Unmarshal(p.Planned, src.Option); err != nil {
				return nil, err
			}
		}
	}
	var err error
	if src.Log, err = Entries(whole.Log); err != nil {
		return nil, err
	}
	for i, p := range whole.Photos {
		src.Photos = append(src.Photos, record.Photo{ID: fmt.Sprint(i + 1), Where: WhereTaken(src.Found.Doc, p.Box), Note: p.Note, Created: p.Created,
			Picture: func() ([]byte, error) { return whole.Picture(i) }})
	}
	if src.Option != nil {
		sets, err := automation.For(ctx, src.Option, library)
		if err != nil {
			return nil, err
		}
		kept, err := automation.ReadKept(whole.Links)
		if err != nil {
			return nil, err
		}
		if src.Made, err = automation.With(ctx, sets, src.Option.ID, kept); err != nil {
			return nil, err
		}
		proof, err := prove.Sequence(ctx, src.Found.Doc, src.Option)
		if err == nil {
			src.Proved, err = record.HowFar(ctx, src.Found.Doc, src.Option, proof, fitting.Read(src.Log))
		}
		if ctx.Err() != nil || err != nil && proof != nil {
			return nil, err
		} // else there is no proof, and the record says so
	}
	if len(whole.Use) > 0 {
		src.Use = &schedule.Use{}
		if err := json.Unmarshal(whole.Use, src.Use); err != nil {
			return nil, err
		}
		if src.Year, err = src.Use.Of(ctx, time.Now().Year()); ctx.Err() != nil {
			return nil, err
		}
	}
	return record.Of(src), nil
}

// WhereTaken is what the box of a photograph is called, which may be gone since.
func WhereTaken(c *circuit.Circuit, box string) string {
	return names.For(c).Label(box)
}
