package acts

import (
	"encoding/json"

	"handwerk/book"
	"handwerk/core/quantity"
)

// The fields of each act stand in the order in which the record writes them.

// All is one of each act, in the order of the trade.
func All() []Act {
	return []Act{
		Outcome{}, Removed{}, Verdict{}, Fitted{}, Reading{}, Fit{}, Again{}, Reckon{},
		Accept{}, Torqued{}, Filled{}, Start{}, End{}, Decision{}, Ways{}, Agreed{},
		Acknowledge{}, Photo{}, Override{}, Figure{}, Sheet{}, Skip{}, Stands{}, Note{}, Found{}, Back{},
		Strike{}, Time{}, Promised{}, Wanted{}, Ordered{}, Came{},
	}
}

// Outcome: how a line turned out.
type Outcome struct {
	Outcome string `json:"outcome,omitempty"` // id of the answer
	Measured
	Note string `json:"note,omitempty"`
	Pictured
	Minutes quantity.Count `json:"minutes,omitempty"` // it really took
	Spent
}

// Name of the act.
func (Outcome) Name() Name { return "outcome" }

// Removed: a part came off, or was not there.
type Removed struct {
	Outcome string `json:"outcome,omitempty"` // removed, not-found, none
	Measured
	Note     string `json:"note,omitempty"`
	PartName string `json:"name,omitempty"` // of a part that no plan lists
	Faces    string `json:"faces,omitempty"`
	Tray     string `json:"tray,omitempty"`
	Mark     string `json:"mark,omitempty"`   // a tag, a paint mark
	Damage   string `json:"damage,omitempty"` // as it was seen when it came off
	Bolts    string `json:"bolts,omitempty"`  // the fasteners that held it
	Shaft    string `json:"shaft,omitempty"`  // the axis a part lay on that no plan lists
	Behind   string `json:"behind,omitempty"` // id of the part it lay behind, - in front of all
	Pictured
	Spent
}

// Name of the act.
func (Removed) Name() Name { return "removed" }

// Verdict: a part may be used again, or not.
type Verdict struct {
	Outcome string `json:"outcome,omitempty"` // reuse, rework, replace, not-found, none
	Reason  string `json:"reason,omitempty"`
	Pictured
	Read
	Spent
	Work string `json:"work,omitempty"` // how it is reworked
	Wear *Wear  `json:"wear,omitempty"` // what was measured of it
}

// Name of the act.
func (Verdict) Name() Name { return "verdict" }

// Fitted: a part went back, or was left out.
type Fitted struct {
	Outcome string `json:"outcome,omitempty"` // fitted, left-out
	Note    string `json:"note,omitempty"`
	Reason  string `json:"reason,omitempty"`
	Spent
}

// Name of the act.
func (Fitted) Name() Name { return "fitted" }

// Reading: one indicated value, or the answer to what is asked.
type Reading struct {
	Outcome string `json:"outcome,omitempty"` // id of a choice
	Measured
	Note string `json:"note,omitempty"`
	Read
	Spent
	Figure json.RawMessage `json:"figure,omitempty"` // an observation beyond what is asked
}

// Name of the act.
func (Reading) Name() Name { return "reading" }

// Fit: a pack was fitted; a new trial begins.
type Fit struct {
	Note string `json:"note,omitempty"`
	Spent
	Pack []Piece `json:"pack,omitempty"`
}

// Name of the act.
func (Fit) Name() Name { return "fit" }

// Again: something was changed; a new trial begins.
type Again struct {
	Reason string `json:"reason,omitempty"`
	Plan   int    `json:"plan,omitempty"` // which of the offered ones was fitted, from 1
	Spent
}

// Name of the act.
func (Again) Name() Name { return "again" }

// Reckon: worked out from what is known.
type Reckon struct {
	Spent
}

// Name of the act.
func (Reckon) Name() Name { return "reckon" }

// Accept: taken as it is, with a reason.
type Accept struct {
	Reason string `json:"reason,omitempty"`
	Spent
}

// Name of the act.
func (Accept) Name() Name { return "accept" }

// Torqued: one bolt in one pass.
type Torqued struct {
	Measured
	Note string `json:"note,omitempty"`
	Spent
	Pass int `json:"pass,omitempty"`
	Bolt int `json:"bolt,omitempty"`
}

// Name of the act.
func (Torqued) Name() Name { return "torqued" }

// Filled: which fluid went in, and how much.
type Filled struct {
	Outcome string `json:"outcome,omitempty"` // id of the fluid
	Measured
	Note string `json:"note,omitempty"`
	Spent
}

// Name of the act.
func (Filled) Name() Name { return "filled" }

// Start: the clock starts, by an approach.
type Start struct {
	Outcome string `json:"outcome,omitempty"` // id of the approach
	Spent
}

// Name of the act.
func (Start) Name() Name { return "start" }

// End: the clock is over.
type End struct {
	Reason string `json:"reason,omitempty"`
	Spent
}

// Name of the act.
func (End) Name() Name { return "end" }

// Decision: one of the ways is taken.
type Decision struct {
	Outcome string `json:"outcome,omitempty"` // id of the choice
	Reason  string `json:"reason,omitempty"`
	Spent
	Chain []ChainLink `json:"chain,omitempty"`          // what let go first, and what that took with it
	Lines []OrderLine `json:"lines,omitempty" set:"us"` // of the parts list, that need not come
}

// Name of the act.
func (Decision) Name() Name { return "decision" }

// Ways: the ways as they are weighed for this unit.
type Ways struct {
	Reason string `json:"reason,omitempty"`
	Spent
	Figure json.RawMessage `json:"figure,omitempty"` // as it would stand on the sheet
}

// Name of the act.
func (Ways) Name() Name { return "ways" }

// Agreed: the customer said yes, up to a sum.
type Agreed struct {
	Note string         `json:"note,omitempty"`
	Who  string         `json:"name,omitempty"` // said yes
	Sum  quantity.Money `json:"sum,omitempty"`  // money, in the shop's currency
	Spent
}

// Name of the act.
func (Agreed) Name() Name { return "agreed" }

// Acknowledge: a caution was read.
type Acknowledge struct {
	Spent
}

// Name of the act.
func (Acknowledge) Name() Name { return "acknowledge" }

// Photo: a picture, or why there is none.
type Photo struct {
	Note   string `json:"note,omitempty"`
	Reason string `json:"reason,omitempty"`
	Pictured
	Spent
}

// Name of the act.
func (Photo) Name() Name { return "photo" }

// Override: a locked step is started early, with a reason.
type Override struct {
	Reason string `json:"reason,omitempty"`
	Spent
}

// Name of the act.
func (Override) Name() Name { return "override" }

// Figure: a figure of the spec sheet, said where a step wants it.
type Figure struct {
	Note string `json:"note,omitempty"`
	Spent
	Figure json.RawMessage `json:"figure,omitempty"` // as it would stand on the sheet
	Sized  *Sized          `json:"sized,omitempty"`  // of a torque by size and class
	Origin Origin          `json:"origin,omitempty" enum:"makers-book,plate,measured,measured-here,judgement,by-size,not-here,not-known"`
}

// Name of the act.
func (Figure) Name() Name { return "figure" }

// Sheet: a newer version of the spec sheet is taken.
type Sheet struct {
	Note string `json:"note,omitempty"`
	Spent
	Sheet *book.SpecSheet `json:"sheet,omitempty" set:"us"` // that was taken
}

// Name of the act.
func (Sheet) Name() Name { return "sheet" }

// Skip: the whole step is not needed here, with a reason.
type Skip struct {
	Reason string `json:"reason,omitempty"`
	Spent
}

// Name of the act.
func (Skip) Name() Name { return "skip" }

// Note: a remark.
type Note struct {
	Note string `json:"note,omitempty"`
	Pictured
	Spent
}

// Name of the act.
func (Note) Name() Name { return "note" }

// Found: something found along the way.
type Found struct {
	Outcome string `json:"outcome,omitempty"` // how grave: minor, soon, unsafe
	Note    string `json:"note,omitempty"`
	Settled string `json:"settled,omitempty"` // what became of it: done, advised, refused
	Off     string `json:"off,omitempty"`     // what had to come off for it, to be put back
	Pictured
	Spent
}

// Name of the act.
func (Found) Name() Name { return "found" }

// Back: what had to come off beside the plan is back on.
type Back struct {
	Note string `json:"note,omitempty"`
	Spent
}

// Name of the act.
func (Back) Name() Name { return "back" }

// Stands: somebody looked, and it stands as the step wants it.
type Stands struct {
	Outcome string `json:"outcome,omitempty"` // the state
	Reason  string `json:"reason,omitempty"`
	Spent
}

// Name of the act.
func (Stands) Name() Name { return "stands" }

// Strike: an entry is withdrawn; it stays readable.
type Strike struct {
	Reason string `json:"reason,omitempty"`
	Spent
}

// Name of the act.
func (Strike) Name() Name { return "strike" }

// Time: how long somebody really was at a step.
type Time struct {
	Note    string         `json:"note,omitempty"`
	Minutes quantity.Count `json:"minutes,omitempty"`
	Spent
}

// Name of the act.
func (Time) Name() Name { return "time" }

// Promised: another day was promised the customer.
type Promised struct {
	Note   string `json:"note,omitempty"`
	Reason string `json:"reason,omitempty"`
	Spent
	Due string `json:"due,omitempty"` // a day: 2026-11-27
}

// Name of the act.
func (Promised) Name() Name { return "promised" }

// Wanted: lines are put on the parts list, or known better.
type Wanted struct {
	Note string `json:"note,omitempty"`
	Spent
	Lines []OrderLine `json:"lines,omitempty"`
}

// Name of the act.
func (Wanted) Name() Name { return "wanted" }

// Ordered: lines were ordered, or sent out.
type Ordered struct {
	Note string `json:"note,omitempty"`
	Spent
	Lines    []OrderLine `json:"lines,omitempty"`
	Supplier string      `json:"supplier,omitempty"` // they come from
	Due      string      `json:"due,omitempty"`      // a day they come
}

// Name of the act.
func (Ordered) Name() Name { return "ordered" }

// Came: lines came in, were held against the old, went back.
type Came struct {
	Note string `json:"note,omitempty"`
	Pictured
	Spent
	Lines []OrderLine `json:"lines,omitempty"`
}

// Name of the act.
func (Came) Name() Name { return "came" }
