package circuit

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strconv"
	"sync/atomic"
)

// Limits for what comes from outside.
const (
	MaxBytes  = 4 << 20 // size of a file
	maxDepth  = 12      // nesting of arrays and objects
	maxDigits = 40      // characters of a number
)

// Read reads one circuit file, checks it against the schema and for sense, and
// returns the circuit. The error is an [*Error] unless r itself failed.
func Read(r io.Reader) (*Circuit, error) {
	data, err := io.ReadAll(io.LimitReader(r, MaxBytes+1))
	if err != nil {
		return nil, err
	}
	return Parse(data)
}

// byteOrderMark stands at the start of files that some editors write; it says nothing.
var byteOrderMark = []byte("\xef\xbb\xbf")

var parses atomic.Int64

// Parses counts the documents that were parsed since the program began: what answers one question
// should parse each once.
func Parses() int64 { return parses.Load() }

// Parse is [Read] for a file that is in memory already.
func Parse(data []byte) (*Circuit, error) {
	parses.Add(1)
	if len(data) > MaxBytes {
		return nil, fail(CodeTooLarge, "", 0, "the file is larger than %d MiB, the limit for a circuit", MaxBytes>>20)
	}
	data = bytes.TrimPrefix(data, byteOrderMark)
	value, lines, err := parseJSON(data)
	if err != nil {
		return nil, err
	}
	problems := checkSchema(value)
	var c Circuit
	if len(problems) == 0 {
		if err := json.Unmarshal(data, &c); err != nil {
			where := ""
			var kind *json.UnmarshalTypeError
			if errors.As(err, &kind) {
				where = kind.Field
			}
			return nil, fail(CodeSyntax, where, 0, "%v", err)
		}
		problems = c.problems()
	}
	if len(problems) > 0 {
		for i := range problems {
			problems[i].Line = lines[problems[i].Place]
		}
		return nil, &Error{problems}
	}
	return &c, nil
}

// Recheck holds a circuit that was changed in memory to all that [Read] holds a
// file to, the schema included. The error is an [*Error].
func Recheck(c *Circuit) error {
	_, err := Reread(c)
	return err
}

// Reread is [Recheck], and returns the circuit as it is read when it is written now.
func Reread(c *Circuit) (*Circuit, error) {
	data, err := json.Marshal(c)
	if err != nil {
		return nil, err
	}
	read, err := Parse(data)
	var e *Error
	if errors.As(err, &e) {
		for i := range e.Problems {
			e.Problems[i].Line = 0 // there is no file whose lines could be meant
		}
	}
	return read, err
}

// Write writes the circuit as an indented file with a closing newline.
func Write(w io.Writer, c *Circuit) error {
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	return enc.Encode(c)
}

// Encode is the circuit as [Write] writes it. A circuit whose file would be too large to be read
// again is refused with an [*Error]: a compact file can grow past the limit when it is written out.
func Encode(c *Circuit) ([]byte, error) {
	var b bytes.Buffer
	if err := Write(&b, c); err != nil {
		return nil, err
	}
	if b.Len() > MaxBytes {
		return nil, fail(CodeTooLarge, "", 0, "written out the circuit is larger than %d MiB, the limit for a circuit", MaxBytes>>20)
	}
	return b.Bytes(), nil
}

func fail(code Code, place string, line int, format string, args ...any) *Error {
	return &Error{[]Problem{{code, place, line, fmt.Sprintf(format, args...)}}}
}

// parser walks the tokens of a file once, building the plain value for the
// schema and noting on which line each place stands.
type parser struct {
	data  []byte
	dec   *json.Decoder
	lines map[string]int
	seen  int // bytes counted so far
	line  int // line at seen
}

func parseJSON(data []byte) (any, map[string]int, error) {
	p := &parser{data: data, dec: json.NewDecoder(bytes.NewReader(data)), lines: map[string]int{}, line: 1}
	p.dec.UseNumber()
	value, err := p.value(nil)
	if err == nil {
		if _, more := p.dec.Token(); more != io.EOF {
			err = fail(CodeSyntax, "", p.here(), "something follows the end of the document; a file holds one circuit")
		}
	}
	if err != nil {
		var e *Error
		if errors.As(err, &e) {
			return nil, nil, e
		}
		return nil, nil, p.syntax(err)
	}
	return value, p.lines, nil
}

// here is the line on which the decoder stands.
func (p *parser) here() int {
	at := min(int(p.dec.InputOffset()), len(p.data))
	if at > p.seen {
		p.line += bytes.Count(p.data[p.seen:at], []byte{'\n'})
		p.seen = at
	}
	return p.line
}

func (p *parser) syntax(err error) *Error {
	line := p.here()
	var s *json.SyntaxError
	switch {
	case errors.As(err, &s):
		line = 1 + bytes.Count(p.data[:min(int(s.Offset), len(p.data))], []byte{'\n'})
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		return fail(CodeSyntax, "", line, "the file ends in the middle; a circuit file is one JSON object")
	}
	return fail(CodeSyntax, "", line, "not JSON: %v", err)
}

func (p *parser) value(path []string) (any, error) {
	tok, err := p.dec.Token()
	if err != nil {
		return nil, err
	}
	p.lines[place(path)] = p.here()
	if number, ok := tok.(json.Number); ok {
		// As a float at once: exact arithmetic on 1e999999999 would never end.
		f, err := strconv.ParseFloat(number.String(), 64)
		if err != nil || len(number) > maxDigits {
			return nil, fail(CodeTooLarge, place(path), p.here(), "a number of %d characters that no circuit holds", len(number))
		}
		return f, nil
	}
	delim, ok := tok.(json.Delim)
	if !ok {
		return tok, nil
	}
	if len(path) >= maxDepth {
		return nil, fail(CodeTooLarge, place(path), p.here(), "nested deeper than a circuit file ever is")
	}
	if delim == '[' {
		list := []any{}
		for p.dec.More() {
			v, err := p.value(append(path, strconv.Itoa(len(list))))
			if err != nil {
				return nil, err
			}
			list = append(list, v)
		}
		_, err := p.dec.Token()
		return list, err
	}
	object := map[string]any{}
	for p.dec.More() {
		tok, err := p.dec.Token()
		if err != nil {
			return nil, err
		}
		key := tok.(string)
		if _, twice := object[key]; twice {
			return nil, fail(CodeDuplicateKey, place(append(path, key)), p.here(), "this field stands here twice; keep one")
		}
		if object[key], err = p.value(append(path, key)); err != nil {
			return nil, err
		}
	}
	_, err = p.dec.Token()
	return object, err
}
