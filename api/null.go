package api

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
)

// nothingNull refuses a request that says null of a field: read into Go it would be the empty
// value, and clear what nobody meant to clear. Within a list null stays: a cable's end that is not
// known is one.
func (s *Server) nothingNull(c *gin.Context) {
	if c.ContentType() != "application/json" || c.Request.Body == nil {
		c.Next()
		return
	}
	body, err := io.ReadAll(c.Request.Body) // limited by now
	if err != nil {
		s.refuse(c, badRequest(err))
		return
	}
	if place, found := nullIn(body); found {
		s.refuse(c, &problemError{http.StatusBadRequest, "null", place, "null says nothing; leave the field out, or say what it shall be"})
		return
	}
	c.Request.Body = io.NopCloser(bytes.NewReader(body))
	c.Next()
}

// nullIn finds the first null that is no element of a list, and the fields that lead to it. What is
// no JSON has none: whoever reads it says so.
func nullIn(body []byte) (place string, found bool) {
	d := json.NewDecoder(bytes.NewReader(body))
	type level struct {
		list bool
		key  string
	}
	var at []level
	keyNext := false
	for {
		token, err := d.Token()
		if err != nil {
			return "", false
		}
		inside := len(at) > 0
		switch token {
		case json.Delim('{'), json.Delim('['):
			at = append(at, level{list: token == json.Delim('[')})
			keyNext = token == json.Delim('{')
			continue
		case json.Delim('}'), json.Delim(']'):
			at = at[:len(at)-1]
			keyNext = len(at) > 0 && !at[len(at)-1].list
			continue
		}
		switch {
		case keyNext:
			at[len(at)-1].key, _ = token.(string)
			keyNext = false
			continue
		case token == nil && (!inside || !at[len(at)-1].list):
			var path []string
			for _, l := range at {
				if !l.list {
					path = append(path, l.key)
				}
			}
			return strings.Join(path, "."), true
		}
		keyNext = inside && !at[len(at)-1].list
	}
}
