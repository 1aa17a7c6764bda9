package workshop

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/quantity"
)

// What a measuring step says: what was read, and what it came to.

func measureWords(s *State, step *Step, e *Entry) string {
	b := e.Said()
	switch e.Act {
	case ActFit:
		if len(b.Pack) > 0 && !slices.ContainsFunc(b.Pack, func(x Piece) bool { return !x.Loose }) {
			return "in there now: " + PackWords(b.Pack)
		}
		return "fitted " + PackWords(b.Pack)
	case ActAgain:
		return withReason("changed, to be measured again", b)
	case ActReckon:
		if says := saysOf(e.Result); says != "" {
			return "worked out: " + says
		}
		return "worked out"
	case ActAccept:
		return withReason("accepted as it is", b)
	}
	words := readingWords(step, e.Item, b)
	words += s.gaugeWords(*e)
	if mean := meanWords(e.Result); mean != "" && e.Item.ask() == "" {
		words += "; " + mean
	}
	if says := saysOf(e.Result); says != "" && e.Item.ask() != "" {
		words += "; " + says // of the figure that completed the trial
	}
	return words
}

// meanWords is what the readings so far come to, and how sure that is.
func meanWords(result json.RawMessage) string {
	type set struct {
		Mean        quantity.Any `json:"mean"`
		Preload     quantity.Any `json:"preload"` // the mean, less the seal
		Uncertainty quantity.Any `json:"uncertainty"`
		N           int          `json:"n"`
	}
	var x struct {
		set
		Float set `json:"float"`
	}
	if json.Unmarshal(result, &x) != nil { // a list where one figure is meant: another kind of result
		return ""
	}
	for _, s := range []set{x.set, x.Float} {
		switch {
		case s.N == 1: // one reading is its own mean
		case s.Mean.IsSaid():
			return "mean " + s.Mean.WithUncertainty(s.Uncertainty)
		case s.Preload.IsSaid():
			return "preload " + s.Preload.WithUncertainty(s.Uncertainty)
		}
	}
	return ""
}

// readingWords says a reading, or the answer to what was asked.
func readingWords(step *Step, at Place, b Body) string {
	if isSeen(at) {
		return seenWords(b)
	}
	for _, a := range step.Measure.Asks {
		switch {
		case a.ID != at.ask():
		case len(a.Choices) == 0:
			return a.Text + ": " + b.valueWords()
		default:
			return a.Text + ": " + named(a.Choices, b.Outcome, func(x book.AskChoice) (string, string) { return x.ID, x.Text })
		}
	}
	return "read " + b.valueWords()
}

// measuredAgain tells that a later step measures the same pack, as it will run.
func (s *State) measuredAgain(step *Step) bool {
	return slices.ContainsFunc(s.plan.Steps[step.at+1:], func(x *Step) bool { return x.fitsTheSame(step) })
}

// sumsMeasured says a pack that was fitted and what was read last, where the unit
// goes out as it was read.
func sumsMeasured(s *State, step *Step, sum *Summary) {
	trials := s.Trials(step)
	t := trials[len(trials)-1]
	if len(t.Pack) > 0 && !s.measuredAgain(step) {
		sum.Fitted = append(sum.Fitted, step.Title+": pack "+PackWords(t.Pack))
	}
	if mean := meanWords(t.Result); mean != "" && step.isSetting() {
		sum.measured = append(sum.measured, strings.TrimSuffix(step.Title+" "+mean+", "+string(t.Verdict), ", "))
	}
}

// isSetting tells that what is read at a step is how the unit goes out.
func (s *Step) isSetting() bool {
	return book.StationAt(s.Station) >= book.StationAt(book.MeasureAt)
}
