// Package money writes prices, in the currency that a person set: the one owner of how they look on sheets and in sentences.
package money

import (
	"fmt"
	"math"
	"regexp"
)

var code = regexp.MustCompile(`^[A-Z]{3}$`)

// Valid reports whether a currency is none, or three capitals as ISO 4217 has them.
func Valid(currency string) bool { return currency == "" || code.MatchString(currency) }

// Say writes a price: in whole numbers where it is one, else to the hundredth, after its currency; a plain number where the
// currency is "".
func Say(price float64, currency string) string {
	text := fmt.Sprintf("%.2f", price)
	if price == math.Trunc(price) {
		text = fmt.Sprintf("%.0f", price)
	}
	if currency == "" {
		return text
	}
	return currency + " " + text
}
