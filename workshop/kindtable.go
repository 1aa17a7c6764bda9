package workshop

import (
	"encoding/json"
	"fmt"
	"slices"

	"handwerk/book"
)

// kinds are all there are.
var kinds = kindTable{
	&checkKind, &testKind, &stackKind, &measureKind, &torqueKind, &fillKind, &waitKind, &decideKind, &cautionKind, &photoKind, &orderKind,
}

// Kinds is what the book has to know of them.
func Kinds() book.Kinds { return kinds.natures() }

// NewPlan prepares a copy for use.
func NewPlan(c book.Copy) (*Plan, error) {
	raw, err := json.Marshal(c)
	if err != nil {
		return nil, fmt.Errorf("the copy of the book cannot be written: %w", err)
	}
	return ReadPlan(raw)
}

// ReadPlan prepares a stored copy for use.
func ReadPlan(raw []byte) (*Plan, error) { return readPlan(raw, kinds) }

// StepViews are an empty one of each kind, for whoever describes them.
func StepViews() []StepView {
	views := make([]StepView, 0, len(kinds))
	for _, k := range kinds {
		views = append(views, k.empty())
	}
	return views
}

// ReadStepView reads a view back from its JSON.
func ReadStepView(raw []byte) (StepView, error) {
	var head struct {
		Kind book.Kind `json:"kind"`
	}
	if err := json.Unmarshal(raw, &head); err != nil {
		return nil, err
	}
	k := kinds.named(head.Kind)
	if k == nil {
		return nil, fmt.Errorf("a view of kind %q is none", head.Kind)
	}
	view := k.empty()
	return view, json.Unmarshal(raw, view)
}

// Acknowledging is the next caution to acknowledge before a draft, when one
// waits: of the step, or of the line that is answered.
func Acknowledging(v StepView, d Draft) (Draft, bool) {
	f := v.Frame()
	cautions, hazards := f.Cautions, kinds.named(f.Step.Kind).Hazards
	if lines, ok := v.(interface{ cautionsAt(Draft) []CautionView }); ok {
		cautions = slices.Concat(cautions, lines.cautionsAt(d))
	}
	for _, c := range cautions {
		if c.By == "" && (c.Grave || hazards) {
			return Draft{Act: ActAcknowledge, Item: ReadPlace(c.ID)}, true
		}
	}
	return Draft{}, false
}

// Plausible is an entry that an open step often sees next: the caution to
// acknowledge, then what its kind takes, as the sheet has it.
func Plausible(v StepView) Draft {
	if d, waits := Acknowledging(v, Draft{}); waits {
		return d
	}
	for _, f := range v.Frame().Figures {
		if f.Entry == "" && !f.May {
			return usualFigure(f)
		}
	}
	d := kinds.named(v.Frame().Step.Kind).usual(v)
	if read, waits := Acknowledging(v, d); waits {
		return read
	}
	return d
}
