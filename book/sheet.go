package book

import (
	"encoding/json"

	"handwerk/core/decision"
	"handwerk/core/quantity"
	"handwerk/core/supply"
)

// SpecSheet holds the limits of a unit family as the shop entered them.
type SpecSheet struct {
	ID      string                 `json:"id"`
	Family  string                 `json:"family"`
	Version int                    `json:"version"`
	Limits  map[string]Limit       `json:"limits,omitempty"`
	Washers []Washer               `json:"washers,omitempty"`
	Torques map[string]TorqueGroup `json:"torques,omitempty"`
	Fills   map[string]FillLimit   `json:"fills,omitempty"`
	// Figures are whatever else calculators ask for: numbers, quantities as
	// texts, words, lists of gears.
	Figures map[string]json.RawMessage `json:"figures,omitempty"`
	// Stacks are the parts of this family as they came off, by the step that takes
	// them off; they stand in place of the route's.
	Stacks map[string][]Part `json:"stacks,omitempty"`
	Ways   []decision.Option `json:"ways,omitempty"` // repair, exchange, ...: what they usually cost
	// Wears are what parts measure as new and at their limit, by their ids.
	Wears map[string]Wear `json:"wears,omitempty"`
	// Singles and Kits are what suppliers sell for this family.
	Singles []supply.Single `json:"singles,omitempty"`
	Kits    []supply.Kit    `json:"kits,omitempty"`
}

// Wear is what is measured of a part, as new and where it is worn out.
type Wear struct {
	What  string       `json:"what"` // thickness, gap
	New   quantity.Any `json:"new,omitzero"`
	Limit quantity.Any `json:"limit,omitzero"`
}

// Limit has a lower or an upper side, or both.
type Limit struct {
	Min quantity.Any `json:"min,omitzero"`
	Max quantity.Any `json:"max,omitzero"`
}

// Washer is a thrust washer the sheet lists.
type Washer struct {
	Name      string                         `json:"name"`
	Thickness quantity.Said[quantity.Length] `json:"thickness"`
}

// TorqueGroup is a group of bolts with one torque.
type TorqueGroup struct {
	Name      string                         `json:"name"`
	Bolts     quantity.Count                 `json:"bolts"`
	Torque    quantity.Said[quantity.Torque] `json:"torque"`
	Tolerance quantity.Share                 `json:"tolerance"` // share: 0.06 is ±6 %
	Passes    []float64                      `json:"passes,omitempty"`
	AngleDeg  quantity.Number                `json:"angle_deg,omitempty"` // each bolt is turned on by, after the last pass
}

// FillLimit is how much goes in.
type FillLimit struct {
	Min quantity.Said[quantity.Volume] `json:"min"`
	Max quantity.Said[quantity.Volume] `json:"max"`
}
