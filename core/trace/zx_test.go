package trace
import ("testing";"context";"ambivia/core/house";"strings";"os")
func TestZX(t *testing.T) {
	for _, cs := range strings.Fields(os.Getenv("CASES")) {
		f, op, _ := strings.Cut(cs,"|")
		var open []string
		if op != "" { open = strings.Split(op, ",")}
		for seed := range uint64(2) {
		h,_ := house.New(caseFile(t,f), seed+11, open)
		tr,_ := New(context.Background(), h.Survey())
		n,conf:=0,0
		for n<80 {
			set := tr.Settled()
			test, ok, _ := tr.Next(context.Background(), Dead)
			if !ok {break}
			n++
			if set {conf++}
			test.Reading,_=h.Answer(test)
			tr.Observe(test)
			if os.Getenv("V")!="" { t.Log(set, test.Power,test.Lifted,test.Flipped, test.Instrument,test.At,test.Tied,test.Reading, "frames", func() (n int) {for _,f:=range tr.frames {if f.fits{n++}};return}(), tr.asked) }
		}
		t.Log(f, seed, "readings",n,"confirming",conf, "settled", tr.Settled(), tr.holds(trueRoles(h)))
		}
	}
}
