package book

import (
	"encoding/json"
	"errors"
	"regexp"
	"strconv"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/parser"

	"handwerk/core/fault"
	"handwerk/core/strict"
)

// maxFile bounds one file of the book.
const maxFile = 1 << 20

type file struct {
	name string
	raw  []byte
}

// read decodes a file as strictly as any input of the program: YAML becomes
// JSON, and strict names every bad field with its path, which line turns into
// a place in the file.
func read[T any](f file, problems *Problems) T {
	var out T
	if loose, ok := readLoose(f, problems); ok {
		problems.add(f, decode(loose, &out))
	}
	return out
}

// readLoose reads YAML as plain data; false when it is none.
func readLoose(f file, problems *Problems) (any, bool) {
	if len(f.raw) > maxFile {
		problems.add(f, fault.At("", "up to 1 MB", "the file is too large"))
		return nil, false
	}
	var loose any
	if err := yaml.Unmarshal(f.raw, &loose); err != nil {
		*problems = append(*problems, Problem{f.name, lineOf(err), fault.Field{Problem: yaml.FormatError(err, false, false), Accepted: "YAML"}})
		return nil, false
	}
	return loose, true
}

// decode fills out from plain data.
func decode(loose, out any) fault.Fields {
	asJSON, err := json.Marshal(loose)
	if err != nil {
		return fault.At("", "YAML with plain keys", "the file holds something that is not plain data")
	}
	return fault.Below("", strict.Decode(asJSON, out))
}

func lineOf(err error) int {
	var located yaml.Error
	if errors.As(err, &located) && located.GetToken() != nil {
		return located.GetToken().Position.Line
	}
	return 1
}

var pathPart = regexp.MustCompile(`[^.\[\]]+`)

// line finds where a path stands; a path that is missing in the file stands
// at its nearest parent.
func (f file) line(path string) int {
	tree, err := parser.ParseBytes(f.raw, 0)
	if err != nil {
		return 1
	}
	line := 1
	at := (&yaml.PathBuilder{}).Root()
	for _, part := range pathPart.FindAllString(path, -1) {
		if i, err := strconv.ParseUint(part, 10, 32); err == nil {
			at = at.Index(uint(i))
		} else {
			at = at.Child(part)
		}
		node, err := at.Build().FilterFile(tree)
		if err != nil || node == nil || node.GetToken() == nil {
			return line
		}
		line = node.GetToken().Position.Line
	}
	return line
}
