package shop

import (
	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/workshop/say"
)

// FigureAsked is what the book knows of a figure, as a shop says it.
type FigureAsked struct {
	book.Figure          // its unit is the first to type it in
	Called      string   `json:"called"` // in a sentence: torque of the wheel nuts
	Units       []string `json:"units,omitempty"`
	Texts       []string `json:"texts,omitempty"` // fields of its rows that are words
	// Choices are the fields of its rows that are one of a few words.
	Choices map[string][]string `json:"choices,omitempty"`
}

// AskIn is a figure of the book as a shop says it, its own units first.
func AskIn(shop quantity.System, f book.Figure) FigureAsked {
	units := quantity.ChoicesIn(shop, f.Unit)
	if len(units) > 0 {
		f.Unit = units[0]
	}
	return FigureAsked{f, CallOf(f), units, f.Texts(), f.Choices()}
}

// CallOf is a figure within a sentence. A torque group's title alone says what is
// tightened, not how.
func CallOf(f book.Figure) string {
	if f.Shape == book.ShapeTorque {
		return "torque of the " + say.Lower(f.Title)
	}
	return say.Lower(f.Title)
}

// MaxFigure are the bytes of one figure as JSON.
const MaxFigure = 20_000 // bytes of one figure as JSON

// Unwrap is the fault itself, without the path that stands before it.
func Unwrap(err error) error {
	if faults := input.Below("", err); len(faults) > 0 && faults[0].Path != "" {
		return faults
	}
	return err
}
