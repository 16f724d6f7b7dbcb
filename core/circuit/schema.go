package circuit

import (
	"bytes"
	_ "embed"
	"fmt"
	"slices"
	"strings"
	"sync"

	"ambivia/core/limits"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
)

// Schema is the published JSON Schema of the format, draft 2020-12.
//
//go:embed schema.json
var Schema []byte

var compiled = sync.OnceValue(func() *jsonschema.Schema {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	if err != nil {
		panic("circuit: the embedded schema is not JSON: " + err.Error())
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("urn:ambivia:circuit:1", doc); err != nil {
		panic("circuit: " + err.Error())
	}
	return c.MustCompile("urn:ambivia:circuit:1")
})

// checkSchema lists what the schema refuses, in the words of the format.
func checkSchema(value any) []Problem {
	err := compiled().Validate(value)
	if err == nil {
		return nil
	}
	failed, ok := err.(*jsonschema.ValidationError)
	if !ok {
		return []Problem{{CodeSchema, "", 0, err.Error()}}
	}
	var out []Problem
	var walk func(e *jsonschema.ValidationError)
	walk = func(e *jsonschema.ValidationError) {
		_, either := e.ErrorKind.(*kind.AnyOf)
		if len(e.Causes) == 0 || either {
			out = append(out, explain(e)...)
			return
		}
		for _, cause := range e.Causes {
			walk(cause)
		}
	}
	walk(failed)
	slices.SortStableFunc(out, func(a, b Problem) int { return strings.Compare(a.Place, b.Place) })
	return slices.Compact(out)
}

// explain puts one leaf of the schema's verdict into words.
func explain(e *jsonschema.ValidationError) []Problem {
	where := place(e.InstanceLocation)
	one := func(code Code, format string, args ...any) []Problem {
		return []Problem{{code, where, 0, fmt.Sprintf(format, args...)}}
	}
	switch k := e.ErrorKind.(type) {
	case *kind.AdditionalProperties:
		var out []Problem
		for _, p := range k.Properties {
			out = append(out, Problem{CodeUnknownField, place(append(slices.Clone(e.InstanceLocation), p)), 0,
				"the format has no such field here; take it out or check its spelling"})
		}
		return out
	case *kind.Required:
		var out []Problem
		for _, p := range k.Missing {
			out = append(out, Problem{CodeMissingField, where, 0, fmt.Sprintf("the field %q is missing here", p)})
		}
		return out
	case *kind.Const:
		return one(CodeSchema, "must be %q", fmt.Sprint(k.Want))
	case *kind.Enum:
		words := make([]string, len(k.Want))
		for i, w := range k.Want {
			words[i] = fmt.Sprint(w)
		}
		return one(CodeSchema, "%q is not known here; one of: %s", limits.Clip(fmt.Sprint(k.Got), quotedLetters), strings.Join(words, ", "))
	case *kind.Type:
		return one(CodeSchema, "is %s, must be %s", article(k.Got), strings.Join(k.Want, " or "))
	case *kind.Pattern:
		return one(CodeSchema, "%q is not written as %s", limits.Clip(k.Got, quotedLetters), grammar(k.Want))
	case *kind.AnyOf:
		if len(e.InstanceLocation) > 0 && slices.Contains(e.InstanceLocation, "ends") {
			return one(CodeSchema, "must be the id of a box, or null where the far end is not known")
		}
		return one(CodeSchema, "must be live, quiet, closed, open, lit or dark, or volts as a number")
	}
	return one(CodeSchema, "%s", e.ErrorKind.LocalizedString(message.NewPrinter(language.English)))
}

func article(kind string) string {
	if strings.ContainsAny(kind[:1], "aeio") {
		return "an " + kind
	}
	return "a " + kind
}

// grammar says in words what a pattern of the schema asks for.
func grammar(pattern string) string {
	switch {
	case strings.Contains(pattern, "AWG"):
		return "a gauge: 14AWG, 2.5mm2"
	case strings.Contains(pattern, "black|"):
		return "a core: a colour of the format, a second one of it with a number (black, black2)"
	case strings.Contains(pattern, "@"):
		return "an end: CABLE.CORE@BOX or DEVICE.TERMINAL"
	case strings.Contains(pattern, `\.`):
		return "a member of a join: CABLE.CORE or DEVICE.TERMINAL"
	}
	return "an id: lower-case letters, digits and hyphens, at most 32"
}
