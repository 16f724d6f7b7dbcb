package trace
import ("testing";"fmt";"os";"strconv";"time";"slices")
func TestZZ(t *testing.T){
 sw,_:=strconv.Atoi(os.Getenv("SW")); n,_:=strconv.Atoi(os.Getenv("N"))
 limit:=time.Now().Add(80*time.Second)
 for _,pref:=range []Prefer{Dead,Trips} {
 houses,wrong,done,walks,tests,live:=0,0,0,0,0,0
 var times []time.Duration
 for seed:=range uint64(n) {
  if time.Now().After(limit) {break}
  h:=hidden(t,seed,sw)
  t0:=time.Now()
  r:=play(t,h,pref)
  times=append(times,time.Since(t0))
  houses++; walks+=r.walks; tests+=r.tests; live+=r.live
  if r.wrong {wrong++; fmt.Println("WRONG",seed,r)}
  if r.done {done++} else if houses-done<8 {fmt.Println("open",seed,r)}
 }
 slices.Sort(times)
 fmt.Println(sw,pref,"houses",houses,"wrong",wrong,"done",done,"walks",float64(walks)/float64(houses),"tests",float64(tests)/float64(houses),"live",float64(live)/float64(houses),times[len(times)/2],times[len(times)-1])
 }
}
