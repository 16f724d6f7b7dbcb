package api_test

import (
	"path"
	"reflect"
	"strings"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"

	"ambivia/core/circuit"
	"ambivia/core/retrofit"
	"ambivia/core/survey"
)

// TestDeclared: every field that a request of ours may hold is declared in the contract, with those
// within it, so that a null, or a value of another kind, is refused before it is read.
func TestDeclared(t *testing.T) {
	doc, err := openapi3.NewLoader().LoadFromFile("openapi.yaml")
	if err != nil {
		t.Fatal(err)
	}
	for name, of := range map[string]any{"Wishes": retrofit.Wishes{}, "Observation": circuit.Observation{}} {
		schema := doc.Components.Schemas[name]
		if schema == nil {
			t.Errorf("the contract has no %s", name)
			continue
		}
		declared(t, name, schema.Value, reflect.TypeOf(of), 0)
	}
	edits := doc.Components.Schemas["Edit"].Value
	if len(edits.OneOf) != len(survey.Edits()) {
		t.Errorf("the contract knows %d edits, the survey %d", len(edits.OneOf), len(survey.Edits()))
	}
	for op, of := range survey.Edits() {
		ref, known := edits.Discriminator.Mapping[op]
		if !known {
			t.Errorf("the edit %s is not declared", op)
			continue
		}
		name := path.Base(ref.Ref)
		declared(t, op, doc.Components.Schemas[name].Value, reflect.TypeOf(of), 0)
	}
}

func declared(t *testing.T, place string, schema *openapi3.Schema, of reflect.Type, deep int) {
	t.Helper()
	for of.Kind() == reflect.Pointer || of.Kind() == reflect.Slice {
		if of.Kind() == reflect.Slice && schema.Items != nil {
			schema = schema.Items.Value
		}
		of = of.Elem()
	}
	if of.Kind() != reflect.Struct || deep > 4 || of.PkgPath() == "time" || reflect.PointerTo(of).Implements(reflect.TypeFor[interface{ UnmarshalText([]byte) error }]()) {
		return
	}
	for i := range of.NumField() {
		f := of.Field(i)
		field, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if field == "-" || !f.IsExported() {
			continue
		}
		inner := schema.Properties[field]
		if inner == nil {
			t.Errorf("%s.%s is not declared", place, field)
			continue
		}
		declared(t, place+"."+field, inner.Value, f.Type, deep+1)
	}
}
