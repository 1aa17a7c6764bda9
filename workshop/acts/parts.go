package acts

import (
	"slices"

	"handwerk/core/quantity"
	"handwerk/workshop/say"
)

// ChainLink is a part in the chain from what let go first to what that took with it.
type ChainLink struct {
	Part string `json:"part,omitempty"` // its line: strip.washer; empty for what no stack has
	Name string `json:"name"`
	How  string `json:"how,omitempty"` // broke, ran dry, took the next with it
}

// The parts list is worked out: from the verdicts, from what is renewed by
// rule, from the fluid that was chosen, and from what somebody put on it. The
// entries say what was ordered and what came; this file folds them.

// OrderLine is one line of the parts list as an entry says it.
type OrderLine struct {
	Line string `json:"line,omitempty"` // of the list; none for a new one
	Name string `json:"name,omitempty"`
	// What it is: a part, work that is sent out, or an exchange unit whose old
	// one goes back.
	Kind     string          `json:"kind,omitempty" enum:"part,sent-out,exchange"`
	Pieces   quantity.Count  `json:"pieces,omitempty"`
	Supplier string          `json:"supplier,omitempty"`
	Price    *quantity.Money `json:"price,omitempty"`     // of all its pieces, in the shop's currency
	Deposit  *quantity.Money `json:"deposit,omitempty"`   // on the old one
	Lead     *quantity.Count `json:"lead_days,omitempty"` // from today
	Outcome  string          `json:"outcome,omitempty" enum:"wanted,not-needed,fits,rework,back,deposit-back"`
	Reason   string          `json:"reason,omitempty"`
	Compared []Compared      `json:"compared,omitempty"`
	Sent     []Sent          `json:"sent,omitempty"`      // with work that is sent out
	ToDrawer *ToDrawer       `json:"to_drawer,omitempty"` // what is left over; set by us
}

// Compared is one interface, old against new, or what was agreed against what
// came back.
type Compared struct {
	What string `json:"what"`
	Old  string `json:"old"`
	New  string `json:"new"`
	Same bool   `json:"same,omitempty"` // set by us
}

// Sent is what was read of something that goes out, and what was agreed for it.
type Sent struct {
	What   string `json:"what"` // bore, thickness
	Reads  string `json:"reads,omitempty"`
	Agreed string `json:"agreed,omitempty"`
}

// ToDrawer is what goes to a drawer of the shop.
type ToDrawer struct {
	Drawer string `json:"drawer"`
	Size   string `json:"size"`
	Pieces int    `json:"pieces"`
}

// How a part is judged beyond a word: what was measured of it against new and
// limit, and how it is reworked.

// Wear is what was measured of a part.
type Wear struct {
	What     string         `json:"what"`               // thickness, gap
	Readings []quantity.Any `json:"readings,omitempty"` // as they were read; Value is what they say, then, set by us
	Value    quantity.Any   `json:"value,omitzero"`
	Sure     quantity.Any   `json:"sure,omitzero"` // to how much, from readings and gauge; set by us
	New      quantity.Any   `json:"new"`
	Limit    quantity.Any   `json:"limit"`
	Left     float64        `json:"left,omitempty"` // share of its life; set by us
	Says     string         `json:"says,omitempty"` // set by us
}

// Piece is n shims of one size, as the drawer names them.
type Piece struct {
	Thickness quantity.Said[quantity.Length] `json:"thickness"`
	Count     quantity.Count                 `json:"count"`
	Loose     bool                           `json:"loose,omitempty"`  // in place already, or bought: out of no drawer
	Drawer    string                         `json:"drawer,omitempty"` // it came out of; set by us, missing before drawers had names of their own
}

// Sized are bolts as they are, where nobody knows their torque.
type Sized struct {
	Bolts    quantity.Count                 `json:"bolts"`
	Diameter quantity.Said[quantity.Length] `json:"diameter"`
	Pitch    quantity.Said[quantity.Length] `json:"pitch,omitzero"`                                 // missing: coarse
	Class    string                         `json:"class"`                                          // on the head: 8.8
	Finish   string                         `json:"finish" enum:"dry,as_received,oiled,anti_seize"` // of the thread
}

// Origin is where a figure comes from.
type Origin string

// The origins.
const (
	FromMaker    Origin = "makers-book" // with its page
	FromPlate    Origin = "plate"       // a plate or a stamp
	FromMeasured Origin = "measured"    // on a sound unit
	FromThisOne  Origin = "measured-here"
	FromJudgment Origin = "judgement" // of this shop
	BySize       Origin = "by-size"   // size and class of the bolt, not the maker's
	NotHere      Origin = "not-here"  // this vehicle has no such bolts
	NotKnown     Origin = "not-known" // measured without a verdict
)

// originTitles are the origins in the order they are offered.
var originTitles = []struct {
	ID    Origin
	Title string
}{
	{FromMaker, "workshop manual"}, {FromPlate, "plate or stamping"}, {FromMeasured, "measured on a sound unit"},
	{FromThisOne, "measured on this one"},
	{FromJudgment, "this shop's judgement"}, {BySize, "by size and class, not the maker's"},
	{NotHere, "not on this vehicle"}, {NotKnown, "not known"},
}

// IsKnown tells an origin from any other word.
func (o Origin) IsKnown() bool { return o.Words() != string(o) }

// Words say it.
func (o Origin) Words() string {
	return say.NameOf(originTitles, string(o), func(x struct {
		ID    Origin
		Title string
	}) (string, string) {
		return string(x.ID), x.Title
	})
}

// LinesOf are the lines of the parts list that an act speaks of.
func LinesOf(a Act) []OrderLine {
	switch said := a.(type) {
	case *Wanted:
		return said.Lines
	case *Ordered:
		return said.Lines
	case *Came:
		return said.Lines
	case *Decision:
		return said.Lines
	}
	return nil
}

// SetLines changes every line of the parts list that an act speaks of, in a list of
// its own.
func SetLines(a Act, to func(OrderLine) OrderLine) {
	lines := slices.Clone(LinesOf(a))
	for i := range lines {
		lines[i] = to(lines[i])
	}
	switch said := a.(type) {
	case *Wanted:
		said.Lines = lines
	case *Ordered:
		said.Lines = lines
	case *Came:
		said.Lines = lines
	}
}
