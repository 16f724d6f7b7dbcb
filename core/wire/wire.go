// Package wire makes values fit to leave the program as JSON.
//
// A list that holds nothing is written as [], never as null: the page and other
// readers go through lists without asking first whether there is one. Go writes
// a nil slice as null, so [Whole] is applied once where answers leave, instead
// of remembering it at each place that makes a list.
package wire

import (
	"encoding"
	"encoding/json"
	"reflect"
	"strings"
)

// Whole returns v with an empty list in place of each nil one that JSON would
// write as null, and an empty object in place of each nil map. Fields that JSON
// leaves out when they are empty stay out. v itself is never changed: what must
// differ is copied, the rest is shared.
func Whole[T any](v T) T {
	in := reflect.ValueOf(&v).Elem()
	if out, changed := whole(in); changed {
		return out.Interface().(T)
	}
	return v
}

var (
	marshaler     = reflect.TypeFor[json.Marshaler]()
	textMarshaler = reflect.TypeFor[encoding.TextMarshaler]()
)

// whole returns what to write in place of v, and whether that differs from v.
func whole(v reflect.Value) (reflect.Value, bool) {
	t := v.Type()
	if t.Implements(marshaler) || t.Implements(textMarshaler) {
		if t.Kind() != reflect.Interface {
			return v, false // it writes itself
		}
	}
	switch t.Kind() {
	case reflect.Pointer:
		if v.IsNil() {
			return v, false
		}
		to, changed := whole(v.Elem())
		if !changed {
			return v, false
		}
		out := reflect.New(t.Elem())
		out.Elem().Set(to)
		return out, true
	case reflect.Interface:
		if v.IsNil() {
			return v, false
		}
		to, changed := whole(v.Elem())
		if !changed {
			return v, false
		}
		out := reflect.New(t).Elem()
		out.Set(to)
		return out, true
	case reflect.Struct:
		return wholeStruct(v)
	case reflect.Slice:
		if t.Elem().Kind() == reflect.Uint8 {
			return v, false // bytes are written as text
		}
		if v.IsNil() {
			return reflect.MakeSlice(t, 0, 0), true
		}
		return wholeList(v, func() reflect.Value {
			out := reflect.MakeSlice(t, v.Len(), v.Len())
			reflect.Copy(out, v)
			return out
		})
	case reflect.Array:
		return wholeList(v, func() reflect.Value {
			out := reflect.New(t).Elem()
			out.Set(v)
			return out
		})
	case reflect.Map:
		return wholeMap(v)
	}
	return v, false
}

func wholeStruct(v reflect.Value) (reflect.Value, bool) {
	t, out, changed := v.Type(), v, false
	for i := range t.NumField() {
		f := t.Field(i)
		tag := f.Tag.Get("json")
		if !f.IsExported() || tag == "-" {
			continue
		}
		_, options, _ := strings.Cut(tag, ",")
		x := v.Field(i)
		if (strings.Contains(options, "omitempty") || strings.Contains(options, "omitzero")) && x.IsZero() {
			continue
		}
		to, differs := whole(x)
		if !differs {
			continue
		}
		if !changed {
			changed, out = true, reflect.New(t).Elem()
			out.Set(v)
		}
		out.Field(i).Set(to)
	}
	return out, changed
}

func wholeList(v reflect.Value, copied func() reflect.Value) (reflect.Value, bool) {
	out, changed := v, false
	for i := range v.Len() {
		to, differs := whole(v.Index(i))
		if !differs {
			continue
		}
		if !changed {
			changed, out = true, copied()
		}
		out.Index(i).Set(to)
	}
	return out, changed
}

func wholeMap(v reflect.Value) (reflect.Value, bool) {
	if v.IsNil() {
		return reflect.MakeMap(v.Type()), true
	}
	var out reflect.Value
	for entries := v.MapRange(); entries.Next(); {
		to, differs := whole(entries.Value())
		if !differs {
			continue
		}
		if !out.IsValid() {
			out = reflect.MakeMapWithSize(v.Type(), v.Len())
			for all := v.MapRange(); all.Next(); {
				out.SetMapIndex(all.Key(), all.Value())
			}
		}
		out.SetMapIndex(entries.Key(), to)
	}
	if !out.IsValid() {
		return v, false
	}
	return out, true
}
