package input

import (
	"reflect"
	"regexp"
	"slices"
	"strconv"
)

var pathParts = regexp.MustCompile(`[^.\[\]]+`)

// InOrder sorts bad fields as the form has them: in the order of the fields of t,
// lists by their places. What is no field of it comes last.
func (fs Fields) InOrder(t reflect.Type) Fields {
	sorted := slices.Clone(fs)
	slices.SortStableFunc(sorted, func(a, b Field) int { return slices.Compare(places(t, a.Path), places(t, b.Path)) })
	return sorted
}

// places says where a path stands: which field, which of it, and so on.
func places(t reflect.Type, path string) (at []int) {
	const last = 1 << 20
	for _, part := range pathParts.FindAllString(path, -1) {
		for t != nil && t.Kind() == reflect.Pointer {
			t = t.Elem()
		}
		place := last
		switch {
		case t == nil:
		case t.Kind() == reflect.Slice || t.Kind() == reflect.Array || t.Kind() == reflect.Map:
			if n, err := strconv.Atoi(part); err == nil {
				place = n
			}
			t = t.Elem()
		case t.Kind() == reflect.Struct:
			t, place = fieldAt(t, part)
		default:
			t = nil
		}
		at = append(at, place)
	}
	return at
}

func fieldAt(t reflect.Type, name string) (reflect.Type, int) {
	all := fields(t)
	i := slices.IndexFunc(all, func(f field) bool { return f.name == name })
	if i < 0 {
		return nil, len(all)
	}
	return t.FieldByIndex(all[i].index).Type, i
}
