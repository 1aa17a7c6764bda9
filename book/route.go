// Package book is the shop's way of working as data: routes with their
// stations and steps, spec sheets, cautions and instruments, and the rules
// that make such data usable. Reading files is not done here; see book/files.
package book

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/core/quantity"
)

// StationID is one of the eleven places a rebuild passes.
type StationID string

// The stations whose place on the route means something to the record: from
// MeasureAt on a unit is set as it goes out, from AssembleAt on it goes together
// again, at ProveAt it is tried.
const (
	MeasureAt  StationID = "measure"
	AssembleAt StationID = "assemble"
	ProveAt    StationID = "prove"
)

// Station titles in the order of the work.
var stationTitles = []struct {
	ID    StationID
	Title string
}{
	{"intake", "Intake"}, {"diagnose", "Diagnose"}, {"take-apart", "Take apart"}, {"inspect", "Inspect"},
	{"choose", "Choose"}, {"measure", "Measure and set"}, {"assemble", "Assemble"}, {"dry-run", "Dry run"},
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

// StationAt is the position of a station on the route, -1 if unknown.
func StationAt(id StationID) int {
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
	Order   Kind = "order"
)

// Route is the plan of one kind of rebuild.
type Route struct {
	ID       string `json:"id"`
	Title    string `json:"title"`
	UnitKind string `json:"unit_kind"`
	// LeavesOut are causes and tests of the unit's kind that this one cannot
	// have: no cable where the release is hydraulic.
	LeavesOut []string  `json:"leaves_out,omitempty"`
	Stations  []Station `json:"stations"`
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
	// After names the steps that must be done before this one may start; until then it is locked.
	After    []string `json:"after,omitempty"`
	Cautions []string `json:"cautions,omitempty"`
	// Wants is how things stand before a hand is put to it.
	Wants States `json:"wants,omitempty"`
	// Leaves is how things stand after it.
	Leaves States `json:"leaves,omitempty"`
	// Materials are the classes of oil, grease, sealant and threadlocker to have at hand.
	Materials []string `json:"materials,omitempty"`
	Role      string   `json:"role,omitempty"`
	Minutes   int      `json:"minutes,omitempty"` // it takes in this shop; 0 where nobody said
	// FromBook takes items or choices from the book for the unit's kind: test
	// takes complaint or tests, decide takes causes.
	FromBook string `json:"from_book,omitempty"`

	Items  []Item `json:"items,omitempty"`  // check, test
	Beside string `json:"beside,omitempty"` // test: the earlier test shown next to it; without items it takes those
	// OnlyWith is the step with which this one is left away.
	OnlyWith string       `json:"only_with,omitempty"`
	Work     StackWork    `json:"work,omitempty"`     // stack
	Of       string       `json:"of,omitempty"`       // stack: the step the stack was taken apart at
	Parts    []Part       `json:"parts,omitempty"`    // stack
	Measure  *MeasureSpec `json:"measure,omitempty"`  // measure
	Group    string       `json:"group,omitempty"`    // torque: torque group of the sheet
	Wrench   *Wrench      `json:"wrench,omitempty"`   // torque
	Fill     *FillSpec    `json:"fill,omitempty"`     // fill
	Schools  []School     `json:"schools,omitempty"`  // wait
	Choices  []Choice     `json:"choices,omitempty"`  // decide
	Offers   string       `json:"offers,omitempty"`   // decide: rows of the spec sheet that are chosen among, by name: figures.kits
	Weighs   []Weighing   `json:"weighs,omitempty"`   // check, fill, decide, order: what is worked out for the choice
	Handover []string     `json:"handover,omitempty"` // lines for the customer, printed on the record
}

// Item is one line of a check or a test. With a value and outcomes it takes
// either: the figure, or why there is none.
type Item struct {
	ID       string             `json:"id"`
	Text     string             `json:"text,omitempty"`
	Outcomes []Outcome          `json:"outcomes,omitempty"`
	Answers  string             `json:"answers,omitempty"` // a list of outcomes of the book, instead of outcomes
	Value    quantity.Dimension `json:"value,omitempty"`
	Same     ItemAt             `json:"same,omitzero"`  // an earlier value that this one must equal
	Test     string             `json:"test,omitempty"` // the book's test this line reports; without text and outcomes it takes those
	Optional bool               `json:"optional,omitempty"`
	Picture  bool               `json:"picture,omitempty"`  // what is seen is worth a picture beside the answer
	Cautions []string           `json:"cautions,omitempty"` // of the book's test: grave ones are read before it is answered
	Needs    []string           `json:"needs,omitempty"`    // of the book's test: see Conditions
}

// ItemAt names an item of another step, written "step.item".
type ItemAt struct{ Step, Item string }

func (i ItemAt) String() string { return i.Step + "." + i.Item }

// MarshalText writes "step.item".
func (i ItemAt) MarshalText() ([]byte, error) { return []byte(i.String()), nil }

// UnmarshalText reads "step.item"; a text without a dot names a step alone,
// which the check of the route refuses.
func (i *ItemAt) UnmarshalText(text []byte) error {
	i.Step, i.Item, _ = strings.Cut(string(text), ".")
	return nil
}

// Outcome is one way an item can turn out. Good ones need no attention.
type Outcome struct {
	ID   string `json:"id"`
	Text string `json:"text"`
	Good bool   `json:"good,omitempty"`
	// Lacks is what the vehicle cannot do when it turned out so: tests that need
	// it are not proposed. See Conditions.
	Lacks []string `json:"lacks,omitempty"`
	// Reason is set where it wants one in words: not measured, because.
	Reason bool `json:"reason,omitempty"`
	// Leaves is how things stand once it turned out so.
	Leaves States `json:"leaves,omitempty"`
	// Wants is how things stand when alone it can turn out so.
	Wants States `json:"wants,omitempty"`
	// Cautions are read before it is answered so.
	Cautions []string `json:"cautions,omitempty"`
	// Ends is set where nothing more can be answered at the step: a vehicle that
	// could not be driven has no road test.
	Ends bool `json:"ends,omitempty"`
}

// MeasureSpec binds a calculator. Bind gives each of its inputs a template of
// where the values come from; see Template.
type MeasureSpec struct {
	Calc        string              `json:"calc"`
	Bind        map[string]Template `json:"bind"`
	Asks        []Ask               `json:"asks,omitempty"`         // figures typed once each
	MinReadings int                 `json:"min_readings,omitempty"` // readings of one thing, repeated
	Limit       string              `json:"limit,omitempty"`        // the sheet's limit that the readings lie between
	Gauge       string              `json:"gauge,omitempty"`        // kind of instrument; which ones there are is the shop's
	Drawer      string              `json:"drawer,omitempty"`
	StartPack   quantity.Any        `json:"start_pack,omitzero"`
	Unit        string              `json:"unit,omitempty"` // remembered unit to begin with
	// Renews is the part that is replaced when the verdict is out, in words: it goes on the
	// parts list, and the step is done. The new one is measured when it is here.
	Renews string `json:"renews,omitempty"`
	// Found is the earlier step that measured the same before it came apart, shown beside.
	Found string `json:"found,omitempty"`
}

// Reckons tells a step that can be worked out from sheet and record alone.
func (m MeasureSpec) Reckons() bool {
	return m.MinReadings == 0 && !slices.ContainsFunc(m.Asks, func(a Ask) bool { return !a.Optional })
}

// Weighing is a calculator that works out, from sheet and record alone, what
// speaks for the ways of a choice. What it says is kept with the choice.
type Weighing struct {
	Calc string              `json:"calc"`
	Bind map[string]Template `json:"bind"`
}

// Ask is one figure that a measuring step asks for.
type Ask struct {
	ID       string      `json:"id"`
	Text     string      `json:"text"`
	Unit     string      `json:"unit,omitempty"`    // a quantity, typed in this unit unless another is said
	Bare     bool        `json:"bare,omitempty"`    // bound as the bare number in that unit
	Choices  []AskChoice `json:"choices,omitempty"` // instead of a quantity
	Optional bool        `json:"optional,omitempty"`
	// Sheet is what the sheet says of it, shown beside: limits.x or figures.x,
	// with a question mark at the end where a sheet may lack it.
	Sheet string `json:"sheet,omitempty"`
}

// OnSheet is the path of what the sheet says of it, and whether it must.
func (a Ask) OnSheet() (path string, must bool) {
	path, optional := strings.CutSuffix(a.Sheet, "?")
	return path, path != "" && !optional
}

// AskChoice is one answer; it binds its value, or else its id.
type AskChoice struct {
	ID    string          `json:"id"`
	Text  string          `json:"text"`
	Value json.RawMessage `json:"value,omitempty"`
}

// Wrench is the wrench at hand: the unit of its scale and its step.
type Wrench struct {
	Unit string  `json:"unit"`
	Step float64 `json:"step,omitempty"`
}

// FillSpec names the fill of the sheet and the fluids to choose from; Like is
// an earlier fill step that says all that: what was chosen there goes in here.
type FillSpec struct {
	Of     string  `json:"of,omitempty"`
	Unit   string  `json:"unit,omitempty"`
	Fluids []Fluid `json:"fluids,omitempty"`
	Like   string  `json:"like,omitempty"`
}

// Fluid is a class of fluid, never a brand.
type Fluid struct {
	ID      string `json:"id"`
	Class   string `json:"class"`
	Why     string `json:"why"`
	Forbids string `json:"forbids,omitempty"` // said when it must not go in
	// Rule is its class as the calculator fluid names it, which says whether it
	// may go into this unit.
	Rule     string `json:"rule,omitempty"`
	Modifier bool   `json:"modifier,omitempty"` // has friction modifier for plates
}

// School is one of several approaches on which practitioners differ.
type School struct {
	ID      string                       `json:"id"`
	Title   string                       `json:"title"`
	Why     string                       `json:"why"`
	Wait    quantity.Said[quantity.Time] `json:"wait"`
	Default bool                         `json:"default,omitempty"`
}

// Choice is one way to decide. Holds keeps the rebuild waiting at the step.
type Choice struct {
	ID      string `json:"id"`
	Text    string `json:"text"`
	Why     string `json:"why,omitempty"`     // of an approach
	Default bool   `json:"default,omitempty"` // the shop's own way
	Holds   bool   `json:"holds,omitempty"`
	// Without are the steps that are left away once it is decided so.
	Without []string `json:"without,omitempty"`
	// Leaves is how things stand once it is decided so.
	Leaves States `json:"leaves,omitempty"`
	// Wants is how things stand when alone it can be decided so.
	Wants States `json:"wants,omitempty"`
}

// Caution is a hazard with what to do about it.
type Caution struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	Text  string `json:"text"`
	Grave bool   `json:"grave,omitempty"` // acknowledged by name before the step goes on
	// In is what it speaks of: it stands at no step where that cannot be so.
	In States `json:"in,omitempty"`
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

// Material is a class of oil, grease, sealant or threadlocker, never a brand.
type Material struct {
	ID    string `json:"id"`
	Class string `json:"class"`
	Use   string `json:"use"`
}

// Answers is a list of outcomes that several items share.
type Answers struct {
	ID       string    `json:"id"`
	Outcomes []Outcome `json:"outcomes"`
}

// Book is everything the shop works by.
type Book struct {
	Kinds       Kinds // of step, as the program knows them
	Routes      []Route
	Sheets      []SpecSheet
	Conditions  []Condition // what the work puts out of its place
	Cautions    []Caution
	Materials   []Material
	Instruments []Instrument
	Answers     []Answers
	Causes      []Cause
	Tests       []BookTest
	Figures     map[string]json.RawMessage // the shop's own, where a sheet does not say
	Glossary    []Figure                   // what figures are, to ask for them
	Fragments   []Fragment                 // pieces a shop may put into its routes
}

// Copy is what a rebuild takes from the book when it is opened: later edits
// of the book never change it.
type Copy struct {
	Route       Route        `json:"route"`
	Sheet       SpecSheet    `json:"sheet"`
	Cautions    []Caution    `json:"cautions"`
	Materials   []Material   `json:"materials,omitempty"`
	Instruments []Instrument `json:"instruments"`
	Causes      []Cause      `json:"causes,omitempty"`
	Tests       []BookTest   `json:"tests,omitempty"`
	Glossary    []Figure     `json:"glossary,omitempty"`   // of the figures that the steps want
	Conditions  []Condition  `json:"conditions,omitempty"` // of the book that the route touches
	// Learned is what earlier units of the family taught the shop, by its name.
	Learned map[string]json.RawMessage `json:"learned,omitempty"`
}

// StationNames lists the stations in the order of the work.
func StationNames() []StationID {
	var ids []StationID
	for _, s := range stationTitles {
		ids = append(ids, s.ID)
	}
	return ids
}

// Binds is what a chosen answer gives to the calculator.
func (x AskChoice) Binds() any {
	if len(x.Value) > 0 {
		return x.Value
	}
	return x.ID
}
