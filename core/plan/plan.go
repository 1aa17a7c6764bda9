// Package plan holds the shop's way of working as data: routes with their
// stations and steps, spec sheets, cautions and instruments, and the rules
// that make such data usable. Reading files is not done here; see book.
package plan

import "handwerk/core/quantity"

// StationID is one of the eleven places a rebuild passes.
type StationID string

// Station titles in the order of the work.
var stationTitles = []struct {
	ID    StationID
	Title string
}{
	{"intake", "Intake"}, {"diagnose", "Diagnose"}, {"take-apart", "Take apart"}, {"inspect", "Inspect"},
	{"choose", "Choose"}, {"measure", "Measure & set"}, {"assemble", "Assemble"}, {"dry-run", "Dry run"},
	{"install", "Install"}, {"prove", "Prove"}, {"hand-over", "Hand over"},
}

// StationTitle names a station for people; empty for an unknown one.
func StationTitle(id StationID) string {
	for _, s := range stationTitles {
		if s.ID == id {
			return s.Title
		}
	}
	return ""
}

// stationOrder is the position of a station on the route, -1 if unknown.
func stationOrder(id StationID) int {
	for i, s := range stationTitles {
		if s.ID == id {
			return i
		}
	}
	return -1
}

// Kind tells what is done at a step and so which entries it takes.
type Kind string

// The kinds of step.
const (
	Check   Kind = "check"
	Measure Kind = "measure"
	Torque  Kind = "torque"
	Stack   Kind = "stack"
	Test    Kind = "test"
	Fill    Kind = "fill"
	Wait    Kind = "wait"
	Decide  Kind = "decide"
	Care    Kind = "caution"
	Photo   Kind = "photo"
)

// Kinds lists them all, for error texts.
var kinds = []Kind{Check, Measure, Torque, Stack, Test, Fill, Wait, Decide, Care, Photo}

// Route is the plan of one kind of rebuild.
type Route struct {
	ID       string    `json:"id"`
	Title    string    `json:"title"`
	UnitKind string    `json:"unit_kind"`
	Stations []Station `json:"stations"`
}

// Station is one place on the route with its steps.
type Station struct {
	ID    StationID `json:"id"`
	Title string    `json:"title,omitempty"`
	Steps []Step    `json:"steps"`
}

// Step is one thing to do. Which of the later fields it carries follows from
// its kind; Check refuses the others.
type Step struct {
	ID    string `json:"id"`
	Kind  Kind   `json:"kind"`
	Title string `json:"title"`
	Say   string `json:"say"`
	Why   string `json:"why,omitempty"`
	// After names the steps that must be done before this one may start: a gate.
	After    []string `json:"after,omitempty"`
	Cautions []string `json:"cautions,omitempty"`
	Role     string   `json:"role,omitempty"`

	Items    []Item       `json:"items,omitempty"`    // check, test
	Beside   string       `json:"beside,omitempty"`   // test: the earlier test shown next to it; without items it takes those
	Work     StackWork    `json:"work,omitempty"`     // stack
	Of       string       `json:"of,omitempty"`       // stack: the step the stack was taken apart at
	Parts    []Part       `json:"parts,omitempty"`    // stack
	Measure  *MeasureSpec `json:"measure,omitempty"`  // measure
	Group    string       `json:"group,omitempty"`    // torque: torque group of the sheet
	Wrench   *Wrench      `json:"wrench,omitempty"`   // torque
	Fill     *FillSpec    `json:"fill,omitempty"`     // fill
	Schools  []School     `json:"schools,omitempty"`  // wait
	Choices  []Choice     `json:"choices,omitempty"`  // decide
	Handover []string     `json:"handover,omitempty"` // lines for the customer, printed on the record
}

// Item is one line of a check or a test.
type Item struct {
	ID       string             `json:"id"`
	Text     string             `json:"text"`
	Outcomes []Outcome          `json:"outcomes,omitempty"`
	Value    quantity.Dimension `json:"value,omitempty"`
	Optional bool               `json:"optional,omitempty"`
}

// Outcome is one way an item can turn out. Good ones need no attention.
type Outcome struct {
	ID   string `json:"id"`
	Text string `json:"text"`
	Good bool   `json:"good,omitempty"`
}

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
	Faces string `json:"faces,omitempty"` // direction mark: which way it looks
	Once  bool   `json:"once,omitempty"`  // always replaced once disturbed
	Shape string `json:"shape,omitempty"` // how it is drawn along the shaft
	Fit   string `json:"fit,omitempty"`   // what to mind when it goes back
}

// MeasureSpec binds a calculator. Bind maps its inputs to where they come
// from: "entries.readings", "entries.pack", "instrument", "drawer",
// "sheet.<path>", or "= literal".
type MeasureSpec struct {
	Calc        string            `json:"calc"`
	Bind        map[string]string `json:"bind"`
	MinReadings int               `json:"min_readings"`
	Gauge       string            `json:"gauge"` // kind of instrument; which ones there are is the shop's
	Drawer      string            `json:"drawer,omitempty"`
	StartPack   quantity.Any      `json:"start_pack,omitzero"`
	Unit        string            `json:"unit"` // remembered unit to begin with
}

// Wrench is the wrench at hand: the unit of its scale and its step.
type Wrench struct {
	Unit string  `json:"unit"`
	Step float64 `json:"step,omitempty"`
}

// FillSpec names the fill of the sheet and the fluids to choose from.
type FillSpec struct {
	Of     string  `json:"of"`
	Unit   string  `json:"unit"`
	Fluids []Fluid `json:"fluids"`
}

// Fluid is a class of fluid, never a brand.
type Fluid struct {
	ID      string `json:"id"`
	Class   string `json:"class"`
	Why     string `json:"why"`
	Forbids string `json:"forbids,omitempty"` // said when it must not go in
}

// School is one way of doing a thing on which practitioners differ.
type School struct {
	ID      string                       `json:"id"`
	Title   string                       `json:"title"`
	Why     string                       `json:"why"`
	Wait    quantity.Said[quantity.Time] `json:"wait"`
	Default bool                         `json:"default,omitempty"`
}

// Choice is one way to decide. Holds keeps the rebuild waiting at the step.
type Choice struct {
	ID    string `json:"id"`
	Text  string `json:"text"`
	Holds bool   `json:"holds,omitempty"`
}

// Caution is a hazard with what to do about it.
type Caution struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	Text  string `json:"text"`
	Grave bool   `json:"grave,omitempty"` // acknowledged by name before the step goes on
}

// Instrument of the shop.
type Instrument struct {
	ID            string       `json:"id"`
	Kind          string       `json:"kind"` // dial indicator, micrometer, beam wrench, ...
	Name          string       `json:"name"`
	Resolution    quantity.Any `json:"resolution,omitzero"`
	MPE           quantity.Any `json:"mpe,omitzero"`
	Repeatability quantity.Any `json:"repeatability,omitzero"`
}

// SpecSheet holds the limits of a unit family as the shop entered them.
type SpecSheet struct {
	ID      string                 `json:"id"`
	Family  string                 `json:"family"`
	Version int                    `json:"version"`
	Limits  map[string]Limit       `json:"limits,omitempty"`
	Washers []Washer               `json:"washers,omitempty"`
	Torques map[string]TorqueGroup `json:"torques,omitempty"`
	Fills   map[string]FillLimit   `json:"fills,omitempty"`
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
	Bolts     int                            `json:"bolts"`
	Torque    quantity.Said[quantity.Torque] `json:"torque"`
	Tolerance float64                        `json:"tolerance"` // share: 0.06 is ±6 %
	Passes    []float64                      `json:"passes,omitempty"`
}

// FillLimit is how much goes in.
type FillLimit struct {
	Min quantity.Said[quantity.Volume] `json:"min"`
	Max quantity.Said[quantity.Volume] `json:"max"`
}

// Book is everything the shop works by.
type Book struct {
	Routes      []Route
	Sheets      []SpecSheet
	Cautions    []Caution
	Instruments []Instrument
}

// Copy is what a rebuild takes from the book when it is opened: later edits
// of the book never change it.
type Copy struct {
	Route       Route        `json:"route"`
	Sheet       SpecSheet    `json:"sheet"`
	Cautions    []Caution    `json:"cautions"`
	Instruments []Instrument `json:"instruments"`
}

// StationNames lists the stations in the order of the work.
func StationNames() []StationID {
	var ids []StationID
	for _, s := range stationTitles {
		ids = append(ids, s.ID)
	}
	return ids
}
