package record

import (
	"slices"

	"handwerk/book"
)

// Answer is one outcome that is taken now.
type Answer struct {
	ID     string `json:"id"`
	Text   string `json:"text"`
	Good   bool   `json:"good,omitempty"`   // needs no attention
	Reason bool   `json:"reason,omitempty"` // wants one in words
	Not    string `json:"not,omitempty"`    // why it is not taken here
	// Cautions are read before it is given.
	Cautions []CautionView `json:"cautions,omitempty"`
}

// plainOutcomes are those of a check whose items list none.
var plainOutcomes = []book.Outcome{{ID: "done", Text: "Done", Good: true},
	{ID: "not-done", Text: "Not as it should be"}}

// OutcomesOf an item, the plain ones filled in.
func OutcomesOf(i book.Item) []book.Outcome {
	if len(i.Outcomes) == 0 && i.Value == "" {
		return plainOutcomes
	}
	return i.Outcomes
}

// OutcomeOf an item by its id.
func OutcomeOf(item book.Item, id string) (book.Outcome, bool) {
	list := OutcomesOf(item)
	i := slices.IndexFunc(list, func(o book.Outcome) bool { return o.ID == id })
	if i < 0 {
		return book.Outcome{}, false
	}
	return list[i], true
}
