package schedule

import (
	"math"
	"time"
)

// horizon is the angle of the sun's middle from straight up when its upper edge is seen to rise: half its width and the
// bending of light in the air, by convention.
const horizon = 90.833

// Sun gives sunrise and sunset of a date at a place, in degrees north and east, to about two minutes outside the polar circles.
// One of them is zero on a day on which the sun does not rise, or does not set: near the polar circles there are days with
// either alone. The equations are the published ones of the
// meteorological services (from Meeus, Astronomical Algorithms): the sun's mean longitude and anomaly, its declination, and
// the equation of time.
func Sun(date time.Time, latitude, longitude float64) (rise, set time.Time) {
	year, month, day := date.Date()
	midnight := time.Date(year, month, day, 0, 0, 0, 0, time.UTC)
	noon := 720 - 4*longitude // minutes of UTC, first guess
	switch there := midnight.Add(time.Duration(noon) * time.Minute).In(date.Location()).Day(); {
	case there == day:
	case there == midnight.AddDate(0, 0, 1).Day(): // a zone on the other side of the date line
		midnight = midnight.AddDate(0, 0, -1)
	default:
		midnight = midnight.AddDate(0, 0, 1)
	}
	half := func(minutes float64) (float64, float64, bool) {
		declination, equation := sunAt(midnight.Add(time.Duration(minutes * float64(time.Minute))))
		cos := (math.Cos(rad(horizon)) - math.Sin(rad(latitude))*math.Sin(declination)) / (math.Cos(rad(latitude)) * math.Cos(declination))
		if cos < -1 || cos > 1 {
			return 0, 0, false
		}
		return 4 * deg(math.Acos(cos)), equation, true
	}
	at := func(sign float64) time.Time {
		minutes := noon
		for range 3 { // the sun moves on meanwhile
			arc, equation, ok := half(minutes)
			if !ok {
				return time.Time{}
			}
			minutes = noon - equation + sign*arc
		}
		return midnight.Add(time.Duration(minutes * float64(time.Minute))).In(date.Location())
	}
	return at(-1), at(1)
}

// Dark reports whether the sun stands below the horizon at its highest on a day.
func Dark(date time.Time, latitude, longitude float64) bool {
	year, month, day := date.Date()
	noon := time.Date(year, month, day, 12, 0, 0, 0, time.UTC).Add(-time.Duration(4*longitude) * time.Minute)
	declination, _ := sunAt(noon)
	return 90-math.Abs(latitude-deg(declination)) < 90-horizon
}

// sunAt is the declination of the sun, in radians, and the equation of time, in minutes.
func sunAt(t time.Time) (declination, equation float64) {
	century := (float64(t.Unix())/86400 + 2440587.5 - 2451545) / 36525
	longitude := math.Mod(280.46646+century*(36000.76983+century*0.0003032), 360)
	anomaly := rad(357.52911 + century*(35999.05029-0.0001537*century))
	eccentricity := 0.016708634 - century*(0.000042037+0.0000001267*century)
	centre := math.Sin(anomaly)*(1.914602-century*(0.004817+0.000014*century)) + math.Sin(2*anomaly)*(0.019993-0.000101*century) + math.Sin(3*anomaly)*0.000289
	node := rad(125.04 - 1934.136*century)
	apparent := rad(longitude + centre - 0.00569 - 0.00478*math.Sin(node))
	obliquity := rad(23+(26+(21.448-century*(46.815+century*(0.00059-century*0.001813)))/60)/60) + rad(0.00256)*math.Cos(node)
	y := math.Pow(math.Tan(obliquity/2), 2)
	l := rad(longitude)
	equation = 4 * deg(y*math.Sin(2*l)-2*eccentricity*math.Sin(anomaly)+4*eccentricity*y*math.Sin(anomaly)*math.Cos(2*l)-0.5*y*y*math.Sin(4*l)-1.25*eccentricity*eccentricity*math.Sin(2*anomaly))
	return math.Asin(math.Sin(obliquity) * math.Sin(apparent)), equation
}

func rad(degrees float64) float64 { return degrees * math.Pi / 180 }
func deg(radians float64) float64 { return radians * 180 / math.Pi }
