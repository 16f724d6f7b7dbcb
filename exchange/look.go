package exchange

import (
	"context"
	"encoding/json"
	"fmt"

	"ambivia/core/circuit"
	"ambivia/core/job"
	"ambivia/core/retrofit"
)

// Look plans every circuit of the job at its head, by its own wishes and with the models that came along. without are wishes that
// every option that counts must meet.
func (j *Job) Look(ctx context.Context, without []string) ([]*job.Looked, error) {
	library, err := j.library()
	if err != nil {
		return nil, err
	}
	out := []*job.Looked{}
	for i, whole := range j.Circuits {
		request := retrofit.Request{Library: library}
		if len(whole.Wishes) > 0 {
			if err := json.Unmarshal(whole.Wishes, &request.Wishes); err != nil {
				return nil, err
			}
		}
		for _, p := range whole.History {
			if p.Number != whole.Head {
				continue
			}
			doc, err := circuit.Parse(p.Document)
			if err != nil {
				return nil, err
			}
			x, err := job.Look(ctx, fmt.Sprint(i+1), doc, request, without)
			if err != nil {
				return nil, err
			}
			out = append(out, x)
		}
	}
	return out, nil
}
