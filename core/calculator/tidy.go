package calculator

import (
	"math"
	"reflect"
	"strconv"

	"handwerk/core/quantity"
)

// tidy rounds the bare numbers of a result to 12 significant digits, as
// quantities are rounded when they are said: nobody is shown what adding and
// subtracting left in the last places, and nothing is minus nought.
func tidy(v reflect.Value) {
	switch v.Kind() {
	case reflect.Float64:
		if v.CanSet() {
			v.SetFloat(rounded(v.Float()))
		}
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			tidy(v.Elem())
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			tidy(v.Index(i))
		}
	case reflect.Map:
		tidyMap(v)
	case reflect.Struct:
		tidyStruct(v)
	}
}

func tidyMap(v reflect.Value) {
	for _, key := range v.MapKeys() {
		if item := v.MapIndex(key); item.Kind() == reflect.Float64 {
			v.SetMapIndex(key, reflect.ValueOf(rounded(item.Float())).Convert(item.Type()))
		}
	}
}

func tidyStruct(v reflect.Value) {
	if v.Type() == reflect.TypeFor[quantity.Any]() {
		return // rounded when it was said, or as a person typed it
	}
	for i := range v.NumField() {
		if v.Type().Field(i).IsExported() {
			tidy(v.Field(i))
		}
	}
}

func rounded(v float64) float64 {
	if math.Abs(v) < 1e-14 {
		return 0
	}
	if math.IsInf(v, 0) || math.IsNaN(v) {
		return v
	}
	r, err := strconv.ParseFloat(strconv.FormatFloat(v, 'g', 12, 64), 64)
	if err != nil {
		return v
	}
	return r
}
