package input

import (
	"bytes"
	"encoding/json"
)

// A field that is there twice says two things, of which a decoder keeps the
// last in silence. It is found by counting: names in the text against names
// in the tree.

// keysIn counts the names of all objects of a tree.
func keysIn(tree any) int {
	n := 0
	switch x := tree.(type) {
	case []any:
		for _, item := range x {
			n += keysIn(item)
		}
	case map[string]any:
		n = len(x)
		for _, item := range x {
			n += keysIn(item)
		}
	}
	return n
}

// namesIn counts the texts before a colon in readable JSON.
func namesIn(raw []byte) int {
	n := 0
	for i := bytes.IndexByte(raw, '"'); i >= 0; i = bytes.IndexByte(raw, '"') {
		raw = raw[i+1+textEnd(raw[i+1:]):]
		if rest := bytes.TrimLeft(raw, " \t\n\r"); len(rest) > 0 && rest[0] == ':' {
			n++
		}
	}
	return n
}

// textEnd is where a text ends, behind its closing mark.
func textEnd(raw []byte) int {
	for i := 0; i < len(raw); i++ {
		switch raw[i] {
		case '"':
			return i + 1
		case '\\':
			i++
		}
	}
	return len(raw)
}

// twice names the fields that are there more than once.
func twice(path string, d *json.Decoder, faults Fields) Fields {
	t, err := d.Token()
	if err != nil {
		return faults
	}
	switch t {
	case json.Delim('['):
		for i := 0; d.More(); i++ {
			faults = twice(Index(path, i), d, faults)
		}
	case json.Delim('{'):
		seen := map[string]bool{}
		for d.More() {
			name, err := d.Token()
			if err != nil {
				return faults
			}
			at := Join(path, name.(string)) // in readable JSON it is one
			if seen[name.(string)] {
				faults.Add(at, "each field once", "it is there twice")
			}
			seen[name.(string)] = true
			faults = twice(at, d, faults)
		}
	default:
		return faults
	}
	_, _ = d.Token() // what closes it
	return faults
}
