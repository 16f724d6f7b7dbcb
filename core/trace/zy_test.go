package trace
import ("testing";"os";"context";"math/rand/v2";"ambivia/core/circuittest";"ambivia/core/practice")
func TestOneSlip(t *testing.T) {
	if os.Getenv("ONE")=="" {t.Skip()}
	k := circuittest.Kinds()[0]
	for seed := range uint64(60) {
	s := slipped{}
	s.slip(t,k,seed,Dead,"free")
	if s.wrong==0 {continue}
	h, c := surveyOf(t, k, seed)
	tr, _ := New(context.Background(), c)
	false1 := rand.New(rand.NewPCG(seed, 5)).IntN(8)
	for n := range 60 {
		set := tr.Settled()
		test, ok, _ := tr.Next(context.Background(), Dead)
		if !ok {break}
		test.Reading,_ = h.Answer(test)
		if n==false1 {test.Reading=misread(test,practice.Volts(c))}
		tr.Observe(test)
		sl,w,wk:=-1,false,0
		if tr.slipped!=nil {sl=len(tr.slipped.list);w=tr.slipped.whole;wk=tr.slipped.work}
		t.Log(n,set,"slips",sl,w,wk,len(tr.frames),test.Power,test.Lifted,test.Instrument,test.At,test.Tied,test.Reading)
	}
	s2,_:=tr.slips(context.Background())
	t.Log(len(s2.list),s2.whole,s2.work)
	// is truth one?
	for i := range tr.tests { if tr.tests[i].index==false1 {t.Log(tr.tests[i].at, tr.tests[i].instrument)}}
	roles:=trueRoles(h)
	o:=tr.Odds()
	for e,r:=range roles { if o[e][r]==0 {t.Log(e,r,o[e])}}
	}
}
