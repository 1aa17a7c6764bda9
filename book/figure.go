package book

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"handwerk/core/input"
)

// Figure says what a figure of the spec sheet is, so that it can be asked for
// where it is missing.
type Figure struct {
	Path  string `json:"path"`  // of its answer: limits.backlash, figures.tyre, washers
	Title string `json:"title"` // as it is asked for
	Shape Shape  `json:"shape" enum:"limit,torque,fill,quantity,number,yes-no,word,text,rows"`
	Unit  string `json:"unit,omitempty"` // of a quantity, a limit, a torque
	Help  string `json:"help,omitempty"` // where it is found
	// Of is whose figure it is, where it is not the unit family's: the vehicle's.
	Of Holder `json:"of,omitempty" enum:"vehicle"`
	// Words are the answers of a figure that is one of a few.
	Words []Word `json:"words,omitempty"`
	// Starts are structures to begin with and correct.
	Starts []Start `json:"starts,omitempty"`
}

// Holder is what a figure belongs to.
type Holder string

// OfVehicle is what stays with the vehicle when another unit is in work.
const OfVehicle Holder = "vehicle"

// Word is one of a few answers.
type Word struct {
	ID   string `json:"id"`
	Text string `json:"text"`
}

// Start is a structure to begin with.
type Start struct {
	Title string          `json:"title"`
	Value json.RawMessage `json:"value"`
}

// Shape of a figure.
type Shape string

// The shapes.
const (
	ShapeLimit    Shape = "limit"    // min, max or both
	ShapeTorque   Shape = "torque"   // bolts, torque, tolerance, passes
	ShapeFill     Shape = "fill"     // min and max of a volume
	ShapeQuantity Shape = "quantity" // with a unit
	ShapeNumber   Shape = "number"
	ShapeYesNo    Shape = "yes-no"
	ShapeWord     Shape = "word" // one of Words
	ShapeText     Shape = "text" // as it stands on a plate: a tyre's size
	ShapeRows     Shape = "rows" // rows of a table with the columns of the first start
)

var shapes = []Shape{ShapeLimit, ShapeTorque, ShapeFill, ShapeQuantity, ShapeNumber, ShapeYesNo, ShapeWord, ShapeText,
	ShapeRows}

// ShapeOf is the shape that a path alone tells of.
func ShapeOf(path string) Shape {
	switch room, _, _ := strings.Cut(path, "."); room {
	case "limits":
		return ShapeLimit
	case "torques":
		return ShapeTorque
	case "fills":
		return ShapeFill
	case "washers", "ways", "stacks", "wears", "singles", "kits":
		return ShapeRows
	}
	return ShapeQuantity
}

// Check finds what would leave somebody without a way to answer.
func (f Figure) Check(c *Checker, at string) {
	c.Text(input.Join(at, "path"), f.Path)
	c.Text(input.Join(at, "title"), f.Title)
	if Answer(f.Path) != f.Path {
		c.Add(input.Join(at, "path"), "limits.x, torques.x, fills.x, figures.x, washers, ways, singles, kits",
			"%q is only part of a figure", f.Path)
	}
	if !slices.Contains(shapes, f.Shape) {
		c.Add(input.Join(at, "shape"), fmt.Sprint(shapes), "%q is no shape", f.Shape)
	}
	if f.Unit != "" {
		c.Unit(input.Join(at, "unit"), f.Unit, "")
	}
	if f.Of != "" && f.Of != OfVehicle {
		c.Add(input.Join(at, "of"), "vehicle, or nothing: the unit's family", "%q holds no figures", f.Of)
	}
	if f.Shape == ShapeWord && len(f.Words) < 2 {
		c.Add(input.Join(at, "words"), "at least two", "nothing to choose from")
	}
	if f.Shape == ShapeRows && len(f.Starts) == 0 {
		c.Add(input.Join(at, "starts"), "at least one: it tells the columns", "nothing to begin with")
	}
}

// FigureWords is a figure in words, as short as it can be said.
func FigureWords(raw json.RawMessage) string {
	var v any
	if json.Unmarshal(raw, &v) != nil {
		return string(raw)
	}
	switch x := v.(type) {
	case string:
		return x
	case bool:
		return map[bool]string{true: "yes", false: "no"}[x]
	case []any:
		return listWords(x)
	case map[string]any:
		return objectWords(x)
	}
	return string(raw)
}

// mostRowsSaid of a list; the rest are counted.
const mostRowsSaid = 12

// listWords names the rows of a list: 0.50 mm (4), 0.60 mm (1).
func listWords(rows []any) string {
	if len(rows) == 0 {
		return "none"
	}
	words := make([]string, 0, mostRowsSaid)
	for _, row := range rows[:min(mostRowsSaid, len(rows))] {
		words = append(words, rowWords(row))
	}
	if more := len(rows) - len(words); more > 0 {
		words = append(words, fmt.Sprintf("%d more", more))
	}
	return strings.Join(words, ", ")
}

// rowWords calls a row by its name, or by its size with how many of it; else by
// all that is plain in it.
func rowWords(row any) string {
	x, ok := row.(map[string]any)
	if !ok {
		return fmt.Sprint(plain(row))
	}
	for _, key := range []string{"name", "says", "title", "part", "thickness", "size"} {
		name, ok := x[key]
		if !ok {
			continue
		}
		if id, known := name.(string); known && key == "part" {
			name = strings.ReplaceAll(id, "-", " ")
		}
		if n, counted := x["count"]; counted {
			return fmt.Sprintf("%v (%v)", plain(name), n)
		}
		return fmt.Sprint(plain(name))
	}
	var words []string
	for _, key := range slices.Sorted(maps.Keys(x)) {
		switch x[key].(type) {
		case string, float64:
			if key != "id" {
				words = append(words, fmt.Sprintf("%s %v", strings.ReplaceAll(key, "_", " "), x[key]))
			}
		}
	}
	return strings.Join(words, " ")
}

func objectWords(x map[string]any) string {
	least, least1 := x["min"]
	most, most1 := x["max"]
	switch {
	case least1 && most1:
		return fmt.Sprintf("%v to %v", plain(least), plain(most))
	case least1:
		return fmt.Sprintf("at least %v", plain(least))
	case most1:
		return fmt.Sprintf("at most %v", plain(most))
	}
	if torque, ok := x["torque"]; ok {
		says := fmt.Sprintf("%v bolts at %v", x["bolts"], plain(torque))
		if x["bolts"] == 1.0 {
			says = fmt.Sprintf("1 bolt at %v", plain(torque))
		}
		if angle, ok := x["angle_deg"]; ok {
			says += fmt.Sprintf(", then on by %v°", angle)
		}
		return says
	}
	if size, ok := x["size"].(string); ok {
		return size
	}
	return rowWords(x)
}

// plain is a quantity as people write it.
func plain(v any) any {
	if q, ok := v.(map[string]any); ok && q["unit"] != nil {
		return fmt.Sprintf("%v %v", q["value"], q["unit"])
	}
	return v
}
