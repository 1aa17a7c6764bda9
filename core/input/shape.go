package input

import (
	"encoding"
	"encoding/json"
	"reflect"
	"slices"
	"sync"
)

// wellShaped tells whether plain data has exactly the fields of a type: none
// unknown, none missing, none null. It names nothing; that is decode's work
// when it says no. Most input is well shaped, and then it is read only twice.
func wellShaped(tree any, t reflect.Type) bool { return fit(tree, t) }

// shapes remembers the fields of the types met so far; they follow from the
// types and never change.
var shapes sync.Map // reflect.Type -> map[string]field

var (
	unmarshaler     = reflect.TypeFor[json.Unmarshaler]()
	textUnmarshaler = reflect.TypeFor[encoding.TextUnmarshaler]()
)

// readsText tells a type that is written as one text and reads it itself.
func readsText(t reflect.Type) bool { return reflect.PointerTo(t).Implements(textUnmarshaler) }

func fit(tree any, t reflect.Type) bool {
	if reflect.PointerTo(t).Implements(unmarshaler) {
		return true // it judges for itself
	}
	if readsText(t) {
		_, ok := tree.(string)
		return ok
	}
	switch t.Kind() {
	case reflect.Pointer:
		return fit(tree, t.Elem())
	case reflect.Struct:
		object, ok := tree.(map[string]any)
		return ok && fitStruct(object, t)
	case reflect.Map:
		object, ok := tree.(map[string]any)
		for _, x := range object {
			ok = ok && fit(x, t.Elem())
		}
		return ok
	case reflect.Slice:
		list, ok := tree.([]any)
		ok = ok && len(list) <= maxItems
		for _, x := range list {
			ok = ok && fit(x, t.Elem())
		}
		return ok
	case reflect.Array:
		list, ok := tree.([]any)
		return ok && len(list) == t.Len() && !slices.Contains(list, nil)
	}
	return tree != nil // whether it fits is for json to say
}

func fitStruct(object map[string]any, t reflect.Type) bool {
	known := fieldsOf(t)
	for name, x := range object {
		f, ok := known[name]
		if !ok || (x == nil && !f.optional) || (x != nil && !fit(x, t.FieldByIndex(f.index).Type)) {
			return false
		}
	}
	for name, f := range known {
		if _, given := object[name]; !given && !f.optional {
			return false
		}
	}
	return true
}

func fieldsOf(t reflect.Type) map[string]field {
	if known, ok := shapes.Load(t); ok {
		return known.(map[string]field)
	}
	known := map[string]field{}
	for _, f := range fields(t) {
		known[f.name] = f
	}
	shapes.Store(t, known)
	return known
}
