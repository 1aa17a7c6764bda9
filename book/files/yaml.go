package files

import (
	"regexp"
	"strconv"
	"strings"
	"sync"

	"go.yaml.in/yaml/v3"

	"handwerk/core/input"
)

// maxFile bounds one file of the book.
const maxFile = 1 << 20

// file is one file of the book, read as plain data once.
type file struct {
	name  string
	raw   []byte
	parse func() (any, error)
}

func newFile(name string, raw []byte) file {
	return file{name, raw, sync.OnceValues(func() (any, error) {
		var loose any
		if len(raw) > maxFile {
			return nil, input.At("", "up to 1 MB", "the file is too large")
		}
		err := yaml.Unmarshal(raw, &loose)
		return loose, err
	})}
}

// parseAll reads files side by side: that is half of a start's time.
func parseAll(files []file) {
	var all sync.WaitGroup
	for _, f := range files {
		all.Go(func() { _, _ = f.parse() })
	}
	all.Wait()
}

// read decodes a file as strictly as any input of the program; strict names
// every bad field with its path, which line turns into a place in the file.
func read[T any](f file, problems *Problems) T {
	var out T
	if loose, ok := readLoose(f, problems); ok {
		problems.add(f, decode(loose, &out))
	}
	return out
}

// readLoose reads YAML as plain data; false when it is none.
func readLoose(f file, problems *Problems) (any, bool) {
	loose, err := f.parse()
	if err == nil {
		return loose, true
	}
	if faults := input.Below("", err); faults[0].Accepted != "" {
		problems.add(f, faults)
		return nil, false
	}
	said := strings.TrimPrefix(err.Error(), "yaml: ")
	*problems = append(*problems, Problem{f.name, lineOf(said), input.Field{Problem: said, Accepted: "YAML"}})
	return nil, false
}

// decode fills out from plain data.
func decode(loose, out any) input.Fields { return input.Below("", input.DecodeTree(loose, out)) }

var saidLine = regexp.MustCompile(`line (\d+)`)

// lineOf takes the line out of what the parser says.
func lineOf(said string) int {
	if m := saidLine.FindStringSubmatch(said); m != nil {
		if n, err := strconv.Atoi(m[1]); err == nil && n > 0 {
			return n
		}
	}
	return 1
}

var pathPart = regexp.MustCompile(`[^.\[\]]+`)

// line finds where a path stands; a path that is missing in the file stands
// at its nearest parent.
func (f file) line(path string) int {
	var document yaml.Node
	if yaml.Unmarshal(f.raw, &document) != nil || len(document.Content) == 0 {
		return 1
	}
	at, line := document.Content[0], 1
	for _, part := range pathPart.FindAllString(path, -1) {
		next := child(at, part)
		if next == nil {
			break
		}
		at, line = next, next.Line
	}
	return line
}

// child is the value under a key or at a place in a list.
func child(at *yaml.Node, part string) *yaml.Node {
	if at.Kind == yaml.AliasNode {
		at = at.Alias
	}
	switch at.Kind {
	case yaml.SequenceNode:
		if i, err := strconv.Atoi(part); err == nil && i >= 0 && i < len(at.Content) {
			return at.Content[i]
		}
	case yaml.MappingNode:
		for i := 0; i+1 < len(at.Content); i += 2 {
			if at.Content[i].Value == part {
				return at.Content[i+1]
			}
		}
	}
	return nil
}
