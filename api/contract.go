package api

import (
	"cmp"
	_ "embed"
	"errors"
	"net/http"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/gin-gonic/gin"
)

// contract is what the page and the program agreed on.
//
//go:embed openapi.yaml
var contract []byte

// agreed finds the operation of the contract that a request asks for.
func agreed() (routers.Router, error) {
	doc, err := openapi3.NewLoader().LoadFromData(contract)
	if err != nil {
		return nil, err
	}
	return gorillamux.NewRouter(doc)
}

// validated refuses a request that breaks the contract: a field or parameter that is missing, is of
// another kind, or is longer than it may be. Read into Go a missing field would be the empty value,
// and clear what nobody meant to clear.
func (s *Server) validated(c *gin.Context) {
	if c.FullPath() == "" { // no address of the contract
		c.Next()
		return
	}
	route, params, err := s.contract.FindRoute(c.Request)
	if err != nil {
		c.Next() // the router says that there is none
		return
	}
	kind := c.ContentType()
	if body := route.Operation.RequestBody; body != nil && c.Request.ContentLength != 0 && body.Value.Content[kind] == nil {
		s.refuse(c, &problemError{http.StatusUnsupportedMediaType, "media-type", "Content-Type", "this address takes no " + cmp.Or(kind, "body without a type")})
		return
	}
	err = openapi3filter.ValidateRequest(c.Request.Context(), &openapi3filter.RequestValidationInput{
		Request: c.Request, PathParams: params, Route: route,
		Options: &openapi3filter.Options{ExcludeRequestBody: kind == "application/octet-stream", AuthenticationFunc: openapi3filter.NoopAuthenticationFunc},
	})
	if err != nil {
		s.refuse(c, broken(err))
		return
	}
	c.Next()
}

// broken says in one line, with the place, how a request breaks the contract.
func broken(err error) error {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return badRequest(err)
	}
	p := &problemError{status: http.StatusBadRequest, code: "bad-request", detail: err.Error()}
	var request *openapi3filter.RequestError
	if errors.As(err, &request) {
		if request.Parameter != nil {
			p.place = request.Parameter.Name
		}
		if p.detail = request.Reason; request.Err != nil {
			p.detail = request.Err.Error()
		}
	}
	var schema *openapi3.SchemaError
	if errors.As(err, &schema) {
		// An object that may be of several kinds says by one of its fields of which it is: what is
		// wrong with it is what breaks that kind.
		for inner := schema; schema.SchemaField == "oneOf" && errors.As(schema.Origin, &inner) && inner != schema; {
			schema = inner
		}
		if at := strings.Join(schema.JSONPointer(), "."); at != "" {
			p.place = at
		}
		p.detail = schema.Reason
		switch schema.SchemaField {
		case "nullable":
			p.code, p.detail = "null", "null says nothing; leave the field out, or say what it shall be"
		case "type", "required": // not of this form at all
		default:
			if request == nil || request.Parameter == nil {
				p.status, p.code = http.StatusUnprocessableEntity, "schema"
			}
		}
	}
	p.detail, _, _ = strings.Cut(p.detail, "\n")
	return p
}
