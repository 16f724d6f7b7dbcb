package circuit

import (
	"maps"
	"strings"
)

// letters double the colour of every core, after the international letter code
// for colours.
var letters = map[string]string{
	"black": "BK", "red": "RD", "white": "WH", "blue": "BU", "yellow": "YE", "grey": "GY", "brown": "BN",
	"orange": "OG", "purple": "VT", "bare": "bare", "green": "GN", "green-yellow": "GNYE",
}

// LettersByColour are the letters of every colour of insulation.
func LettersByColour() map[string]string { return maps.Clone(letters) }

// Letters returns the letters of a core, with its number if it has one:
// "black2" is "BK2".
func Letters(core string) string {
	colour := Colour(core)
	return letters[colour] + strings.TrimPrefix(core, colour)
}

var gaugeUnits = strings.NewReplacer("mm2", GaugeUnits["mm2"], "AWG", GaugeUnits["AWG"])

// GaugeUnits are the units of gauges as circuits write them and as people do.
var GaugeUnits = map[string]string{"mm2": " mm²", "AWG": " AWG"}

// GaugeText writes a gauge as people do: "14 AWG", "1.5 mm²".
func GaugeText(gauge string) string { return gaugeUnits.Replace(gauge) }
