package measure

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// What a measuring step says: what was read, and what it came to.

func fitWords(_ *record.State, _ *record.Step, e *record.Entry) string {
	pack := record.As[acts.Fit](e).Pack
	if len(pack) > 0 && !slices.ContainsFunc(pack, func(x acts.Piece) bool { return !x.Loose }) {
		return "in there now: " + record.PackWords(pack)
	}
	return "fitted " + record.PackWords(pack)
}

func reckonWords(_ *record.State, _ *record.Step, e *record.Entry) string {
	if says := say.SaysOf(e.Result); says != "" {
		return "result: " + says
	}
	return "worked out"
}

func readingSaid(s *record.State, step *record.Step, e *record.Entry) string {
	words := readingWords(step, e.Item, record.As[acts.Reading](e))
	words += record.GaugeWords(s, *e)
	if mean := meanWords(e.Result); mean != "" && e.Item.Ask() == "" {
		words += "; " + mean
	}
	if says := say.SaysOf(e.Result); says != "" && e.Item.Ask() != "" {
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
func readingWords(step *record.Step, at record.Place, b *acts.Reading) string {
	if isSeen(at) {
		return seenWords(b)
	}
	for _, a := range step.Measure.Asks {
		switch {
		case a.ID != at.Ask():
		case len(a.Choices) == 0:
			return say.Of(a.Text, b.Words())
		default:
			return say.Of(a.Text, say.NameOf(a.Choices, b.Outcome,
				func(x book.AskChoice) (string, string) { return x.ID, x.Text }))
		}
	}
	return "read " + b.Words()
}

// isMeasuredAgain tells that a later step measures the same pack, as it will run.
func isMeasuredAgain(s *record.State, step *record.Step) bool {
	return slices.ContainsFunc(s.Plan.Steps[step.At+1:], func(x *record.Step) bool { return fitsTheSame(x, step) })
}

// sumsMeasured says a pack that was fitted and what was read last, where the unit
// goes out as it was read.
func sumsMeasured(s *record.State, step *record.Step, sum *record.Summary) {
	trials := Trials(s, step)
	t := trials[len(trials)-1]
	if len(t.Pack) > 0 && !isMeasuredAgain(s, step) {
		sum.Fitted = append(sum.Fitted, step.Title+": pack "+record.PackWords(t.Pack))
	}
	if mean := meanWords(t.Result); mean != "" && isSetting(step) {
		sum.Measured = append(sum.Measured, strings.TrimSuffix(step.Title+" "+mean+", "+string(t.Verdict), ", "))
	}
}

// isSetting tells that what is read at a step is how the unit goes out.
func isSetting(s *record.Step) bool {
	return book.StationAt(s.Station) >= book.StationAt(book.MeasureAt)
}
