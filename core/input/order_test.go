package input

import (
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestBadFieldsComeInTheOrderOfTheForm(t *testing.T) {
	t.Parallel()
	type line struct {
		Price int `json:"price"`
		Days  int `json:"days"`
	}
	type form struct {
		Name  string `json:"name"`
		Lines []line `json:"lines"`
		Why   string `json:"why"`
	}
	var faults Fields
	for _, path := range []string{
		"why", "elsewhere", "lines[10].price", "lines[2].days", "lines[2].price", "name", "lines", "name.odd",
	} {
		faults.Add(path, "", "bad")
	}
	var paths []string
	for _, f := range faults.InOrder(reflect.TypeFor[form]()) {
		paths = append(paths, f.Path)
	}
	assert.Equal(t, []string{
		"name", "name.odd", "lines", "lines[2].price", "lines[2].days", "lines[10].price", "why", "elsewhere",
	}, paths)
}
