package book

import "handwerk/core/quantity"

// StackWork tells what is done with the parts of a stack.
type StackWork string

// Parts come off, are looked at, and go back in reverse.
const (
	Remove  StackWork = "remove"
	Inspect StackWork = "inspect"
	Fit     StackWork = "fit"
)

// Part is one expected part of a stack, in removal order.
type Part struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Faces string `json:"faces,omitempty"` // direction mark, in words
	// Facing is the way the mark looks, for the drawing; empty where it has
	// no one way, as of parts that lie among each other in an order.
	Facing Facing         `json:"facing,omitempty"`
	Once   bool           `json:"once,omitempty"`   // always replaced once disturbed
	Shape  string         `json:"shape,omitempty"`  // how it is drawn along the shaft
	Fit    string         `json:"fit,omitempty"`    // what to mind when it goes back
	Pieces quantity.Count `json:"pieces,omitempty"` // how many there are of it; 0 is one
	Shaft  string         `json:"shaft,omitempty"`  // the axis it lies on, where there are several
	Sub    string         `json:"sub,omitempty"`    // the sub-assembly it belongs to; those of one lie side by side
	Bolts  string         `json:"bolts,omitempty"`  // the fasteners that hold it, in words
	// Measure is what is measured of it as it comes out, before anything is
	// mixed: thickness of the left shims.
	Measure string `json:"measure,omitempty"`
	// Rule says why it is replaced whenever it was out, where Once is set.
	Rule string `json:"rule,omitempty"`
}

// Facing is the way a part faces, seen in the vehicle; in and out are towards
// the middle of its unit and away from it.
type Facing string

// Facings are all the ways.
var Facings = []Facing{"front", "rear", "up", "down", "left", "right", "in", "out", "either"}

// Shapes are how a part may be drawn along its shaft.
var Shapes = []string{
	"nut",
	"flange",
	"seal",
	"cover",
	"bearing",
	"circlip",
	"fork",
	"sleeve",
	"washer",
	"gear",
	"rollers",
	"shaft",
	"disc",
	"plate",
	"spring",
	"flywheel",
}

// Count is how many there are of a part.
func (p Part) Count() int { return int(max(1, p.Pieces)) }

// onceRules are why a part is renewed whenever it was out, by how it is drawn
// (common practice).
var onceRules = map[string]string{
	"seal": "its lip has worn to the old shaft", "circlip": "it was stretched when it came off",
	"nut": "a staked or locking nut grips only once", "sleeve": "once crushed it cannot be eased off",
	"washer": "a tab can be bent only once",
}

// WhyRenewed is the rule by which a part is renewed; empty where none is.
func (p Part) WhyRenewed() string {
	switch {
	case !p.Once:
		return ""
	case p.Rule != "":
		return p.Rule
	case onceRules[p.Shape] != "":
		return onceRules[p.Shape]
	}
	return "not refitted once removed"
}
