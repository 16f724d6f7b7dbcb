package api_test

import (
	"bytes"
	"net/http"
	"strings"
	"testing"
)

// TestGuards: foreign hosts and writes from other sites are turned away, and
// every answer carries the policies.
func TestGuards(t *testing.T) {
	b := newBench(t)
	job := []byte(`{"name": "x"}`)
	cases := []struct {
		name, method, path string
		header             map[string]string
		status             int
	}{
		{"page", "GET", "/", nil, 200},
		{"page of a stage", "GET", "/circuits/1/survey", nil, 200},
		{"asset", "GET", "/assets/a.js", nil, 200},
		{"asset that is not there", "GET", "/assets/b.js", nil, 404},
		{"a list of the assets", "GET", "/assets/", nil, 404},
		{"a list without its slash", "GET", "/assets", nil, 404},
		{"climbing out", "GET", "/../../etc/passwd.txt", nil, 404},
		{"rebound name", "GET", "/api/v1/jobs", map[string]string{"Host": "evil.example:8420"}, 403},
		{"rebound page", "GET", "/", map[string]string{"Host": "evil.example"}, 403},
		{"write from another site", "POST", "/api/v1/jobs", map[string]string{"Origin": "http://evil.example"}, 403},
		{"write from another port", "POST", "/api/v1/jobs", map[string]string{"Origin": "http://127.0.0.1:9"}, 403},
		{"write from a null origin", "POST", "/api/v1/jobs", map[string]string{"Origin": "null"}, 403},
		{"cross-site by its own word", "POST", "/api/v1/jobs", map[string]string{"Sec-Fetch-Site": "cross-site"}, 403},
		{"answer for another site", "GET", "/api/v1/jobs", map[string]string{"Sec-Fetch-Site": "cross-site"}, 403},
		{"answer for the page", "GET", "/api/v1/jobs", map[string]string{"Sec-Fetch-Site": "same-origin"}, 200},
		{"a form of another site", "POST", "/api/v1/jobs", map[string]string{"Content-Type": "text/plain"}, 415},
		{"JSON as a file", "POST", "/api/v1/jobs", map[string]string{"Content-Type": "application/octet-stream"}, 415},
		{"own page", "POST", "/api/v1/jobs", map[string]string{"Origin": "http://" + host, "Sec-Fetch-Site": "same-origin"}, 201},
		{"command line", "POST", "/api/v1/jobs", nil, 201},
		{"unknown method", "PUT", "/api/v1/jobs", nil, 405},
		{"unknown address", "GET", "/api/v1/secrets", nil, 404},
	}
	for _, k := range cases {
		t.Run(k.name, func(t *testing.T) {
			var body []byte
			if k.method == "POST" {
				body = job
			}
			w := b.raw(k.method, k.path, body, k.header)
			if w.Code != k.status {
				t.Fatalf("status %d, want %d: %s", w.Code, k.status, w.Body)
			}
			csp := w.Header().Get("Content-Security-Policy")
			if !strings.Contains(csp, "default-src 'none'") || strings.Contains(csp, "unsafe") || w.Header().Get("X-Content-Type-Options") != "nosniff" {
				t.Errorf("policies missing: %q", csp)
			}
			if got := w.Header().Get("Cache-Control"); strings.HasPrefix(k.path, "/api/") && got != "no-store" {
				t.Errorf("a private answer may be kept: %q", got)
			}
			if strings.HasPrefix(k.path, "/api/") && w.Code >= 400 && w.Header().Get("Content-Type") != "application/problem+json" {
				t.Errorf("an error as %s", w.Header().Get("Content-Type"))
			}
		})
	}
	if w := b.raw("POST", "/api/v1/jobs", bytes.Repeat([]byte(" "), 1<<20), nil); w.Code != http.StatusRequestEntityTooLarge {
		t.Errorf("a body of a megabyte: status %d", w.Code)
	}
}

// TestNonce: each page names a nonce of its own for styles, and the policy lets that one through.
func TestNonce(t *testing.T) {
	b := newBench(t)
	seen := map[string]bool{}
	for range 3 {
		w := b.raw("GET", "/circuits/x/choose", nil, nil)
		_, rest, _ := strings.Cut(w.Body.String(), `name="nonce" content="`)
		nonce, _, ok := strings.Cut(rest, `"`)
		if !ok || len(nonce) < 20 || seen[nonce] || !strings.Contains(w.Header().Get("Content-Security-Policy"), "style-src 'self' 'nonce-"+nonce+"';") {
			t.Errorf("nonce %q, policy %q", nonce, w.Header().Get("Content-Security-Policy"))
		}
		seen[nonce] = true
	}
}
