package decide

import (
	"slices"
	"strings"

	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// answered is the outcome of a lead's answer to a point.
const answered = "answered"

// acceptAnswer takes the lead's answer to a point, at the sign-off.
func acceptAnswer(p *record.Attempt) error {
	wanted := slices.DeleteFunc(record.Points(p.State), func(x record.Point) bool { return x.Item == "" })
	if !slices.ContainsFunc(wanted, func(x record.Point) bool { return record.ReadPlace(x.Item) == p.Draft.Item }) {
		return input.At("item", say.ListOf(wanted, func(x record.Point) string { return x.Item }),
			"nothing at %q wants an answer", p.Draft.Item.String())
	}
	if err := p.WantOutcome(answered); err != nil {
		return err
	}
	if strings.TrimSpace(acts.NoteOf(p.Draft.Says)) == "" {
		return input.At("note", "what was done about it", "an answer wants words")
	}
	return nil
}

// allAnswered guards a signature: the lead has answered what wants it.
func allAnswered(p *record.Attempt) error {
	var open []string
	for _, x := range record.Points(p.State) {
		if x.Item != "" && x.Answer == "" {
			open = append(open, x.Says)
		}
	}
	if len(open) > 0 {
		return say.Refuse(say.GateClosed, say.NotAllAnswered, strings.Join(open, "; "))
	}
	return nil
}

func answerWords(s *record.State, step *record.Step, e *record.Entry) string {
	return say.Raise(s.Plan.FigureCalled(e.Item.String(), step)) + ", not known"
}
