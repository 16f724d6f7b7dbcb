package circuit

import "strings"

// letters double the colour of every core, after the international letter code
// for colours.
var letters = map[string]string{
	"black": "BK", "red": "RD", "white": "WH", "blue": "BU", "yellow": "YE", "grey": "GY", "brown": "BN",
	"orange": "OG", "purple": "VT", "bare": "bare", "green": "GN", "green-yellow": "GNYE",
}

// Letters returns the letters of a core, with its number if it has one:
// "black2" is "BK2".
func Letters(core string) string {
	colour := Colour(core)
	return letters[colour] + strings.TrimPrefix(core, colour)
}

var gaugeUnits = strings.NewReplacer("mm2", " mm²", "AWG", " AWG")

// GaugeText writes a gauge as people do: "14 AWG", "1.5 mm²".
func GaugeText(gauge string) string { return gaugeUnits.Replace(gauge) }
