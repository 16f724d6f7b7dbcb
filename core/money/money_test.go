package money

import "testing"

func TestSay(t *testing.T) {
	for _, x := range []struct {
		price    float64
		currency string
		want     string
	}{{39, "", "39"}, {39, "EUR", "EUR 39"}, {12.5, "GBP", "GBP 12.50"}, {0.305, "", "0.30"}, {-4, "AUD", "AUD -4"}, {0, "INR", "INR 0"}} {
		if got := Say(x.price, x.currency); got != x.want {
			t.Errorf("%g %s: %q, want %q", x.price, x.currency, got, x.want)
		}
	}
	for currency, want := range map[string]bool{"": true, "EUR": true, "eur": false, "EURO": false, "E1R": false, "€": false} {
		if Valid(currency) != want {
			t.Errorf("%q is valid: %v", currency, !want)
		}
	}
}
