package circuit

import "reflect"

// Clone returns a deep copy: nothing that is changed in one is changed in the other. The two share
// their texts, which nobody can change.
func (c *Circuit) Clone() *Circuit {
	out := copied(reflect.ValueOf(*c)).Interface().(Circuit)
	return &out
}

// copied copies a value of the types that a document is made of.
func copied(v reflect.Value) reflect.Value {
	if flat(v.Type()) {
		return v
	}
	out := reflect.New(v.Type()).Elem()
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			out.Set(reflect.New(v.Type().Elem()))
			out.Elem().Set(copied(v.Elem()))
		}
	case reflect.Slice:
		if v.IsNil() {
			break
		}
		out.Set(reflect.MakeSlice(v.Type(), v.Len(), v.Len()))
		if flat(v.Type().Elem()) {
			reflect.Copy(out, v)
			break
		}
		for i := range v.Len() {
			out.Index(i).Set(copied(v.Index(i)))
		}
	case reflect.Array:
		for i := range v.Len() {
			out.Index(i).Set(copied(v.Index(i)))
		}
	case reflect.Map:
		if v.IsNil() {
			break
		}
		out.Set(reflect.MakeMapWithSize(v.Type(), v.Len()))
		for each := v.MapRange(); each.Next(); {
			out.SetMapIndex(each.Key(), copied(each.Value()))
		}
	case reflect.Struct:
		for i := range v.NumField() {
			out.Field(i).Set(copied(v.Field(i)))
		}
	case reflect.Interface:
		if !v.IsNil() {
			out.Set(copied(v.Elem()))
		}
	default:
		panic("circuit: a document holds a " + v.Type().String() + ", which cannot be copied")
	}
	return out
}

// flat reports whether a plain assignment copies a value of a type whole.
func flat(t reflect.Type) bool {
	switch t.Kind() {
	case reflect.Pointer, reflect.Slice, reflect.Map, reflect.Interface, reflect.Chan, reflect.Func, reflect.UnsafePointer:
		return false
	case reflect.Array:
		return flat(t.Elem())
	case reflect.Struct:
		for i := range t.NumField() {
			if !flat(t.Field(i).Type) {
				return false
			}
		}
	}
	return true
}
