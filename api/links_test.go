package api_test

import (
	"context"
	"encoding/json"
	"strings"
	"testing"
	"time"

	"ambivia/core/circuittest"
	"ambivia/store"
)

// straight is a bench with a circuit of two places whose cables carry full seconds.
func straight(t *testing.T) *bench {
	b := newBench(t)
	job, err := b.store.CreateJob(context.Background(), "Passage")
	if err != nil {
		t.Fatal(err)
	}
	data, err := json.Marshal(circuittest.Straight())
	if err != nil {
		t.Fatal(err)
	}
	if _, err := b.store.CreateCircuit(context.Background(), job.ID, store.Change{Summary: "made", Document: data}); err != nil {
		t.Fatal(err)
	}
	return b
}

// TestLinks: of an option the ways to make its links, the verdict on rules that somebody changed, moves by hand, the rules as
// files; what is not there or cannot be is one problem that names the place.
func TestLinks(t *testing.T) {
	b := straight(t)
	b.call("GET", "/circuits/1/links", nil, 404)
	option := "paired-switches-foot"
	var kinds []string
	for _, x := range b.list("GET", "/circuits/1/links?option="+option) {
		kinds = append(kinds, x.(map[string]any)["kind"].(string))
	}
	if got := strings.Join(kinds, " "); got != "direct scenes in-step mirror-one mirror-two" {
		t.Errorf("the links can be made as %s", got)
	}
	what := func(more map[string]any) map[string]any {
		out := map[string]any{"of": "planned", "option": option}
		for k, v := range more {
			out[k] = v
		}
		return out
	}
	scenes := b.call("POST", "/circuits/1/rehearsal", what(map[string]any{"set": "scenes"}), 200)
	if scenes["report"].(map[string]any)["verdict"] != "sound" || len(scenes["automation"].(map[string]any)["rules"].([]any)) != 8 {
		t.Errorf("scenes: %v", scenes["report"])
	}
	flawed := b.call("POST", "/circuits/1/rehearsal", what(map[string]any{"set": "scenes", "automation": map[string]any{"rules": []any{
		map[string]any{"id": "r1", "when": map[string]any{"device": "r1", "event": "up1"}, "then": map[string]any{"device": "m1", "action": "toggle"}, "via": "hub"}}}}), 200)
	if flawed["report"].(map[string]any)["verdict"] != "flawed" || len(flawed["witnesses"].(map[string]any)["obeys"].([]any)) == 0 {
		t.Errorf("a rule that toggles on up: %v", flawed["report"])
	}
	b.call("POST", "/circuits/1/rehearsal", what(map[string]any{"set": "moonlight"}), 422)
	b.call("POST", "/circuits/1/rehearsal", what(map[string]any{"set": "scenes", "automation": map[string]any{"rules": []any{
		map[string]any{"id": "r1", "when": map[string]any{"device": "nobody", "event": "up1"}, "then": map[string]any{"device": "m1", "action": "on"}, "via": "hub"}}}}), 422)

	delays := func(pause float64) map[string]any {
		return map[string]any{"what": what(map[string]any{"set": "mirror-two"}), "delays": map[string]any{"ways": map[string]any{"hub": map[string]any{"quickest": 0.1, "slowest": 0.3}}, "pause": pause}}
	}
	for pause, verdict := range map[float64]string{0: "flawed", 2: "sound"} {
		if timed := b.call("POST", "/circuits/1/rehearsal/within", delays(pause), 200); timed["verdict"] != verdict {
			t.Errorf("mirrored, with %v s between presses: %v", pause, timed)
		}
	}
	b.call("POST", "/circuits/1/rehearsal/within", delays(-1), 422)
	moment := scenes["start"].(map[string]any)["moment"]
	sent := b.call("POST", "/circuits/1/rehearsal/move", map[string]any{"what": what(map[string]any{"set": "scenes"}), "moment": moment, "move": map[string]any{"device": "r1", "gesture": "up3"}}, 200)
	came := b.call("POST", "/circuits/1/rehearsal/move", map[string]any{"what": what(map[string]any{"set": "scenes"}), "moment": sent["moment"]}, 200)
	if sent["quiet"] != false || came["lit"] != true || came["moment"].(map[string]any)["levels"].(map[string]any)["m1"] != 50.0 {
		t.Errorf("three times up: %v, then %v", sent, came)
	}
	// One way is kept for the chosen plan, with rules of its own; a stale one is refused, and so is what cannot be played.
	rules := map[string]any{"rules": []any{map[string]any{"id": "r1", "when": map[string]any{"device": "r1", "event": "up1"}, "then": map[string]any{"device": "m1", "action": "on"}, "via": "hub"}}}
	b.call("PUT", "/circuits/1/links", map[string]any{"base": "", "set": "scenes"}, 404)
	b.call("POST", "/circuits/1/choice", map[string]any{"base": b.call("GET", "/circuits/1", nil, 200)["revision"], "option": option}, 200)
	b.call("PUT", "/circuits/1/links", map[string]any{"base": "", "set": "moonlight"}, 422)
	b.call("PUT", "/circuits/1/links", map[string]any{"base": "", "set": "scenes", "automation": rules}, 204)
	b.call("PUT", "/circuits/1/links", map[string]any{"base": "", "set": "direct"}, 409)
	kept := b.call("POST", "/circuits/1/rehearsal", map[string]any{"of": "planned"}, 200)
	if len(kept["automation"].(map[string]any)["rules"].([]any)) != 1 || kept["set"] != "scenes" || kept["kept"] == "" || kept["report"].(map[string]any)["verdict"] != "flawed" {
		t.Errorf("kept: %v, %v", kept["automation"], kept["report"])
	}
	for form, part := range map[string]string{"json": `"format": "ambivia-rules/1"`, "csv": "who is told", "yaml": "format: ambivia-rules/1"} {
		if text := b.text("/circuits/1/rules/" + form + "?of=planned&set=scenes&option=" + option); !strings.Contains(text, part) {
			t.Errorf("%s: %.200s", form, text)
		}
	}
}

// TestUseAndUpkeep: how a light is used is kept in the stead of what was seen; a year and what options cost come with it.
func TestUseAndUpkeep(t *testing.T) {
	b := straight(t)
	first := b.call("GET", "/circuits/1/use?year=2026", nil, 200)
	use := first["use"].(map[string]any)
	use["zone"], use["tariff"].(map[string]any)["price"], use["load"].(map[string]any)["standby"] = "Europe/Lisbon", 0.5, 2.0
	kept := b.call("PUT", "/circuits/1/use?year=2026", map[string]any{"base": first["version"], "use": use}, 200)
	if year := kept["year"].(map[string]any); year["kWh"].(float64) < 17.51 || year["kWh"].(float64) > 17.53 || kept["version"] == "" {
		t.Errorf("two watts all the year: %v", year["kWh"])
	}
	b.call("PUT", "/circuits/1/use", map[string]any{"base": first["version"], "use": use}, 409)
	use["zone"] = "Nowhere/Else"
	b.call("PUT", "/circuits/1/use", map[string]any{"base": kept["version"], "use": use}, 422)
	usual := b.call("POST", "/circuits/1/upkeep", map[string]any{}, 200)
	if lines := usual["lines"].([]any); len(lines) != 3 || len(lines[0].(map[string]any)["costs"].([]any)) != 11 {
		t.Errorf("ten years of %d sorts", len(lines))
	}
	assumed := usual["assumptions"].(map[string]any)
	assumed["years"] = 99
	b.call("POST", "/circuits/1/upkeep", map[string]any{"assumptions": assumed}, 422)
	dimmer := map[string]any{"ramp": 2, "least": 0, "every": 0, "echo": false}
	held := map[string]any{"first": dimmer, "second": dimmer, "both": false, "for": 1, "from": 0, "quickest": 0.1, "slowest": 0.2}
	if r := b.call("POST", "/ramp", held, 200); r["settles"] != true || r["apart"] != 0.0 {
		t.Errorf("held: %v", r["text"])
	}
	held["slowest"] = 0.05
	b.call("POST", "/ramp", held, 422)
}

// TestTried: what was noted when a plan was fitted is known where it counts: what is entered stands in the steps, what a
// message takes in the rehearsal, and the lowest level in the use of the light.
func TestTried(t *testing.T) {
	b := straight(t)
	b.call("POST", "/circuits/1/choice", map[string]any{"base": b.call("GET", "/circuits/1", nil, 200)["revision"], "option": "paired-switches-foot"}, 200)
	b.call("PUT", "/circuits/1/links", map[string]any{"base": "", "set": "scenes"}, 204)
	w := b.call("POST", "/circuits/1/work", map[string]any{"base": 0, "way": "forth"}, 201)
	entered := func(steps any) (n int) {
		for _, x := range steps.([]any) {
			lines, _ := x.(map[string]any)["enter"].([]any)
			n += len(lines)
		}
		return n
	}
	if run, wire := entered(w["steps"]), entered(b.call("GET", "/circuits/1/procedure", nil, 200)["steps"]); run != 8 || wire != 8 {
		t.Errorf("of eight rules %d stand in the run and %d in the steps", run, wire)
	}
	rehearsal := func() any {
		return b.call("POST", "/circuits/1/rehearsal", map[string]any{"of": "planned"}, 200)["measured"]
	}
	if m := rehearsal(); m != nil {
		t.Errorf("measured before anybody tried: %v", m)
	}
	for _, seconds := range []float64{0.4, 0.5} {
		w = b.entry(w["last"], map[string]any{"kind": "trial", "place": "r1", "path": "paddle", "from": map[float64]string{0.4: "lit", 0.5: "dark"}[seconds], "works": true, "seconds": seconds}, 201)
	}
	if m := rehearsal().(map[string]any); m["quickest"] != 0.4 || m["slowest"] != 0.5 || m["trials"] != 2.0 {
		t.Errorf("measured: %v", m)
	}
	w = b.entry(w["last"], map[string]any{"kind": "device", "place": "m1", "field": "lowest", "value": "9 %"}, 201)
	b.entry(w["last"], map[string]any{"kind": "device", "place": "m1", "field": "highest", "value": "100"}, 201)
	first := b.call("GET", "/circuits/1/use", nil, 200)
	if load := first["use"].(map[string]any)["load"].(map[string]any); load["least"] != 9.0 || load["most"] != nil || first["tried"].(map[string]any)["lowest"] != 9.0 {
		t.Errorf("tried: %v, %v", load, first["tried"])
	}
}

// TestGroupOfAJob: a detector that was entered with one light turns on another of the job whose name its group has: that is
// told there, its rules say it, and its stand-in has it; nothing of it is written into what was kept of the other.
func TestGroupOfAJob(t *testing.T) {
	b := straight(t)
	doc := b.call("GET", "/circuits/1", nil, 200)["document"].(map[string]any)
	doc["name"] = "Loft"
	b.call("POST", "/jobs/1/import", []byte(number(doc)), 201)
	first := b.call("GET", "/circuits/2/use", nil, 200)
	light := b.call("GET", "/circuits/1", nil, 200)["document"].(map[string]any)["name"]
	if lights := first["lights"].([]any); len(lights) != 2 || lights[0] != light || lights[1] != "Loft" {
		t.Errorf("the lights of the job are %v", lights)
	}
	input := map[string]any{"name": "smoke", "kind": "smoke", "lights": []any{"Loft"}}
	use := first["use"].(map[string]any)
	use["inputs"] = []any{input}
	reaching := func() []any { return b.call("GET", "/circuits/1/use", nil, 200)["reaching"].([]any) }
	kept := b.call("PUT", "/circuits/2/use", map[string]any{"base": "", "use": use}, 200)
	if x := reaching(); len(x) > 0 {
		t.Errorf("a detector of the loft alone turns on %v", x)
	}
	input["lights"] = []any{"Loft", light}
	b.call("PUT", "/circuits/2/use", map[string]any{"base": kept["version"], "use": use}, 200)
	if x := reaching(); len(x) != 1 || x[0] != "smoke, of Loft" {
		t.Errorf("what turns it on too: %v", x)
	}
	if x := b.call("GET", "/circuits/1/use", nil, 200); x["version"] != "" || len(x["use"].(map[string]any)["inputs"].([]any)) > 0 {
		t.Errorf("it was written into what was kept: %v", x)
	}
	if text := b.text("/circuits/1/rules/yaml?of=planned&option=message-switches-foot"); !strings.Contains(text, "smoke, of Loft: on at full until it is reset") {
		t.Errorf("the rules do not say it: %s", text)
	}
	id := b.call("GET", "/circuits/1", nil, 200)["id"]
	live := b.call("POST", "/hub", map[string]any{"circuit": id, "what": map[string]any{"of": "planned", "option": "message-switches-foot"}}, 200)["live"].(map[string]any)
	if alarms := live["alarms"].([]any); len(alarms) != 1 || alarms[0].(map[string]any)["name"] != "smoke, of Loft" {
		t.Errorf("the stand-in has %v", alarms)
	}
	b.call("DELETE", "/hub", nil, 204)
}

// TestHub: one stand-in at a time, on this machine alone.
func TestHub(t *testing.T) {
	b := straight(t)
	if b.call("GET", "/hub", nil, 200)["runs"] != false {
		t.Error("a hub runs that nobody started")
	}
	b.call("POST", "/hub/press", map[string]any{"cut": "hub"}, 409)
	what := map[string]any{"of": "planned", "option": "message-switches-foot"}
	id := b.call("GET", "/circuits/1", nil, 200)["id"]
	b.call("POST", "/hub", map[string]any{"circuit": id, "what": what, "address": "0.0.0.0:0"}, 422)
	first := b.call("POST", "/hub", map[string]any{"circuit": id, "what": what}, 200)["live"].(map[string]any)["address"]
	second := b.call("POST", "/hub", map[string]any{"circuit": id, "what": what}, 200)["live"].(map[string]any)["address"]
	if first == second {
		t.Error("the second stands at the address of the first")
	}
	b.call("POST", "/hub/press", map[string]any{"device": "r1", "gesture": "up1"}, 200)
	if live := b.call("GET", "/hub", nil, 200)["live"].(map[string]any); live["time"] != nil || len(live["alarms"].([]any)) > 0 {
		t.Errorf("it knows a time that nobody said: %v", live)
	}
	// Once it is known how the light is used, its schedules and its detector act.
	use := b.call("GET", "/circuits/1/use", nil, 200)["use"].(map[string]any)
	use["inputs"] = []any{map[string]any{"name": "smoke", "kind": "smoke", "lights": []any{}}}
	use["schedules"] = []any{map[string]any{"name": "evening", "days": []any{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}, "at": "18:00", "on": true}}
	b.call("PUT", "/circuits/1/use", map[string]any{"base": "", "use": use}, 200)
	live := b.call("POST", "/hub", map[string]any{"circuit": id, "what": what}, 200)["live"].(map[string]any)
	next := live["next"].(map[string]any)
	if next["by"] != "evening" || live["alarms"].([]any)[0].(map[string]any)["name"] != "smoke" {
		t.Errorf("with a use: %v", live)
	}
	b.call("POST", "/hub/press", map[string]any{"time": "soon"}, 422)
	b.call("POST", "/hub/press", map[string]any{"input": map[string]any{"number": 0, "on": true}}, 422)
	for _, x := range []struct {
		body map[string]any
		lit  bool
	}{
		{map[string]any{"time": next["at"]}, true}, {map[string]any{"device": "m1", "gesture": "down1"}, false}, {map[string]any{"input": map[string]any{"number": 1, "on": true}}, true},
	} {
		b.call("POST", "/hub/press", x.body, 200)
		shown := func() any {
			return b.call("GET", "/hub", nil, 200)["live"].(map[string]any)["shown"].(map[string]any)["lit"]
		}
		for until := time.Now().Add(20 * time.Second); shown() != x.lit && time.Now().Before(until); {
			time.Sleep(10 * time.Millisecond)
		}
		if shown() != x.lit {
			t.Fatalf("after %v the light is lit: %v", x.body, shown())
		}
	}
	b.call("DELETE", "/hub", nil, 204)
	if text := b.text("/circuits/1/rules/yaml?of=planned&option=message-switches-foot"); !strings.Contains(text, "evening: on at full, at 18:00") || !strings.Contains(text, "ambivia/input/1") {
		t.Errorf("the rules do not say what is asked by time: %s", text)
	}
	if b.call("GET", "/hub", nil, 200)["runs"] != false {
		t.Error("it runs after it was stopped")
	}
}

// list asks for an answer that is a list.
func (b *bench) list(method, path string) (out []any) {
	b.t.Helper()
	b.call(method, path, nil, 200)
	if err := json.Unmarshal([]byte(b.text(path)), &out); err != nil {
		b.t.Fatal(err)
	}
	return out
}

// text is an answer as it is.
func (b *bench) text(path string) string {
	b.t.Helper()
	w := b.raw("GET", "/api/v1"+path, nil, nil)
	if w.Code != 200 {
		b.t.Fatalf("%s: status %d: %s", path, w.Code, w.Body)
	}
	return w.Body.String()
}
