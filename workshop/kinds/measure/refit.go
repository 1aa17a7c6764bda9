package measure

import (
	"encoding/json"

	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// refitOf is a result with the plan of it that was fitted; nil where none was.
func refitOf(result json.RawMessage, plan int) any {
	var before map[string]any
	if plan < 1 || json.Unmarshal(result, &before) != nil {
		return nil
	}
	plans, _ := before["plans"].([]any)
	if plan > len(plans) {
		return nil
	}
	return map[string]any{"before": before, "plan": plans[plan-1]}
}

// along follows a path through JSON; false where it leads nowhere.
func along(at any, path []string) (any, bool, error) {
	for _, key := range path {
		fields, _ := at.(map[string]any)
		at = fields[key]
	}
	return at, at != nil, nil
}

// acceptAgain begins another trial after something was changed.
func acceptAgain(p *record.Attempt) error {
	trials := Trials(p.State, p.Step)
	t := trials[len(trials)-1]
	if p.Old != nil {
		return say.Refuse(say.Conflict, say.TrialNotCorrected)
	}
	if t.Result == nil {
		return say.Refuse(
			say.Conflict,
			say.TrialNotMeasured,
			record.NeedWords(p.State, p.Step, needsMeasure(p.State, p.Step)),
		)
	}
	if plan := record.Saying[acts.Again](p).Plan; plan != 0 && refitOf(t.Result, plan) == nil {
		return input.At("plan", "one of those offered, from 1", "plan %d was not offered", plan)
	}
	p.Draft.Item = record.Place{Trial: t.Number + 1}
	return p.WantReason("what was changed before measuring again")
}
