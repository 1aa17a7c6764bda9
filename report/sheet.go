package report

import (
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
)

// A spec sheet as a table has a line for each leaf: limits.backlash.min,
// "0.15 mm", text. Lists count from one: washers.1.thickness.
var sheetColumns = []string{"figure", "value", "kind"}

// mostFigures a table of a sheet may have.
const mostFigures = 2000

// Kinds of a leaf; without one what looks like a number is one.
const (
	kindText   = "text"
	kindNumber = "number"
	kindYesNo  = "yes-no"
	// kindGone takes away what stands there; its value stays empty.
	kindGone = "taken-away"
)

// WriteSheetTable writes all that a sheet says as CSV.
func WriteSheetTable(w io.Writer, s book.SpecSheet) error {
	lines, err := s.Lines()
	if err != nil {
		return err
	}
	var rows [][]string
	for _, l := range lines {
		leaves, err := l.Rows()
		if err != nil {
			return err
		}
		for _, leaf := range leaves {
			value, kind := cellOf(leaf.Value)
			rows = append(rows, []string{leaf.Path, value, kind})
		}
	}
	return writeTable(w, sheetColumns, rows)
}

func cellOf(v any) (value, kind string) {
	switch x := v.(type) {
	case bool:
		return map[bool]string{true: "yes", false: "no"}[x], kindYesNo
	case float64:
		return strconv.FormatFloat(x, 'f', -1, 64), kindNumber
	case nil:
		return "", kindText
	}
	return fmt.Sprint(v), kindText
}

// ReadSheet reads the lines of a sheet given out as JSON, whole, or as a table,
// which says of a figure only the leaves it names: in part.
func ReadSheet(text string) (lines []book.Line, inPart bool, err error) {
	if trimmed := strings.TrimSpace(strings.TrimPrefix(text, "\ufeff")); strings.HasPrefix(trimmed, "{") {
		var s book.SpecSheet
		if err := input.Decode([]byte(trimmed), &s); err != nil {
			return nil, false, input.Below("text", err)
		}
		lines, err = s.Lines()
		return lines, false, err
	}
	lines, err = readSheetTable(text)
	return lines, true, err
}

// readSheetTable reads what WriteSheetTable wrote, or somebody typed: one line of
// a sheet for each figure that is named.
func readSheetTable(text string) ([]book.Line, error) {
	rows, err := readTable(text, sheetColumns, 2, mostFigures)
	if err != nil {
		return nil, err
	}
	var faults input.Fields
	seen := map[string]int{}
	said := map[string]*tree{}
	for _, row := range rows {
		path := row.cells[0]
		if before, twice := seen[path]; twice {
			faults.Add("text", "each figure once", "%s: %s is already on line %d", row.at(sheetColumns, 0), path,
				before)
			continue
		}
		seen[path] = row.line
		answer := book.Answer(path)
		if said[answer] == nil {
			said[answer] = &tree{}
		}
		value, err := valueOf(row)
		if err != nil {
			faults = append(faults, input.Below("text", err)...)
			continue
		}
		rest := strings.TrimPrefix(strings.TrimPrefix(path, answer), ".")
		if err := said[answer].put(rest, value); err != nil {
			faults.Add("text", "a path such as limits.backlash.min or washers.1.thickness", "%s: %s",
				row.at(sheetColumns, 0), err)
		}
	}
	if len(rows) == 0 {
		faults.Add("text", "at least one figure", "line 2 is empty")
	}
	if err := faults.Err(); err != nil {
		return nil, err
	}
	return linesOf(said, seen)
}

// linesOf makes the figures, each tried on a sheet of its own; a fault names the
// line where the figure begins.
func linesOf(said map[string]*tree, seen map[string]int) ([]book.Line, error) {
	var faults input.Fields
	lines := []book.Line{}
	for _, answer := range slices.Sorted(maps.Keys(said)) {
		raw, err := json.Marshal(said[answer].made())
		if err != nil {
			return nil, err
		}
		l := book.Line{Path: answer, Figure: raw}
		// Places of a list without its first are laid over the one that stands, and tried then.
		if err := new(book.SpecSheet).Lay(l.Path, l.Figure); err != nil && !said[answer].isSparse() {
			for _, f := range input.Below("", err) {
				faults.Add("text", f.Accepted, "line %d, column value: %s: %s", lineOf(seen, answer, f.Path),
					input.Join(answer, f.Path), f.Problem)
			}
		}
		lines = append(lines, l)
	}
	if err := faults.Err(); err != nil {
		return nil, err
	}
	return lines, nil
}

// lineOf is where a fault's place stands, else where its figure begins.
func lineOf(seen map[string]int, answer, below string) int {
	counted := listPlace.ReplaceAllStringFunc(below, func(at string) string {
		n, _ := strconv.Atoi(strings.Trim(at, "[]"))
		return fmt.Sprintf(".%d", n+1)
	})
	if line, ok := seen[input.Join(answer, strings.TrimPrefix(counted, "."))]; ok {
		return line
	}
	first := 0
	for path, line := range seen {
		if book.Answer(path) == answer && (first == 0 || line < first) {
			first = line
		}
	}
	return first
}

var (
	listPlace = regexp.MustCompile(`\[\d+\]`)
	aNumber   = regexp.MustCompile(`^[-+]?\d+([.,]\d+)?$`)
)

// valueOf reads a cell; a decimal comma is one.
func valueOf(row tableRow) (any, error) {
	text, kind := row.cells[1], row.cells[2]
	switch {
	case kind == kindText:
		return text, nil
	case kind == kindGone && text == "":
		return nil, nil
	case kind == kindGone:
		return nil, input.At("", "nothing", "%s: %q is taken away and takes no value", row.at(sheetColumns, 1),
			text)
	case kind == kindYesNo && (text == "yes" || text == "no"):
		return text == "yes", nil
	case (kind == kindNumber || kind == "") && aNumber.MatchString(text):
		return strconv.ParseFloat(strings.ReplaceAll(text, ",", "."), 64)
	case kind == "":
		return text, nil
	case kind == kindNumber:
		return nil, input.At("", "a number", "%s: %q is not a number", row.at(sheetColumns, 1), text)
	case kind == kindYesNo:
		return nil, input.At("", "yes or no", "%s: %q is not yes or no", row.at(sheetColumns, 1), text)
	}
	return nil, input.At(
		"",
		"text, number, yes-no, taken-away",
		"%s: %q is not a kind of figure",
		row.at(sheetColumns, 2),
		kind,
	)
}

// tree is a figure being put together from its leaves.
type tree struct {
	leaf  any
	full  bool // a leaf stands here
	below map[string]*tree
}

func (t *tree) put(path string, v any) error {
	if path == "" {
		if t.below != nil || t.full {
			return fmt.Errorf("it has parts and a value of its own")
		}
		t.leaf, t.full = v, true
		return nil
	}
	if t.full {
		return fmt.Errorf("it has parts and a value of its own")
	}
	if t.below == nil {
		t.below = map[string]*tree{}
	}
	name, rest, _ := strings.Cut(path, ".")
	if name == "" {
		return fmt.Errorf("a part has no name")
	}
	if t.below[name] == nil {
		t.below[name] = &tree{}
	}
	return t.below[name].put(rest, v)
}

// isSparse tells of a list that names some of its places.
func (t *tree) isSparse() bool {
	for name := range t.below {
		if _, err := strconv.Atoi(name); err == nil && t.below["1"] == nil {
			return true
		}
	}
	return false
}

// made is the structure: names that count from one are a list.
func (t *tree) made() any {
	if t.below == nil {
		return t.leaf
	}
	if _, counted := t.below["1"]; counted {
		list := []any{}
		for i := 1; i <= len(t.below); i++ {
			item, ok := t.below[strconv.Itoa(i)]
			if !ok {
				return t.named()
			}
			list = append(list, item.made())
		}
		return list
	}
	return t.named()
}

func (t *tree) named() map[string]any {
	object := map[string]any{}
	for name, x := range t.below {
		object[name] = x.made()
	}
	return object
}
